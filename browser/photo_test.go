package browser

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/photo"
)

// halves is a picture whose left half is green and whose right half is straw.
func halves() photo.Picture {
	p := photo.Picture{Width: 80, Height: 60, RGBA: make([]byte, 4*80*60)}
	for i := range 80 * 60 {
		c := [3]byte{70, 120, 46}
		if i%80 >= 40 {
			c = [3]byte{196, 172, 112}
		}
		copy(p.RGBA[4*i:], c[:])
	}
	return p
}

func TestAPictureIsMeasuredOnTheDevice(t *testing.T) {
	out, mask, err := Measure(halves(), []byte(`{"hue_low": 60, "hue_high": 120, "saturation": 0.1}`))
	require.NoError(t, err)
	var seen Seen
	require.NoError(t, json.Unmarshal(out, &seen))
	require.InDelta(t, .5, seen.Cover, 1e-9)
	require.NotNil(t, seen.Faults, "a list, not nothing")
	require.True(t, mask[0])
	require.False(t, mask[79])
	out, _, err = Measure(halves(), []byte(`{"hue_low": 60, "hue_high": 120, "saturation": 0.1,
		"card": {"x": 0, "y": 0, "w": 0.3, "h": 0.3}}`))
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(out, &seen))
	require.Contains(t, seen.Card, "not grey")
	require.InDelta(t, .5, seen.Cover, 1e-9, "measured without it")
}

func TestWhatIsPointedOutIsMeasuredOnTheDevice(t *testing.T) {
	tap := `{"like": [{"x": 0.1, "y": 0.2}, {"x": 0.2, "y": 0.6}, {"x": 0.3, "y": 0.8}],
		"other": [{"x": 0.7, "y": 0.2}, {"x": 0.8, "y": 0.6}, {"x": 0.9, "y": 0.8}]}`
	out, mask, err := Measure(halves(), []byte(tap))
	require.NoError(t, err)
	require.Len(t, mask, 80*60)
	var seen Seen
	require.NoError(t, json.Unmarshal(out, &seen))
	require.InDelta(t, .5, seen.Cover, .01)
}

func TestWhatCannotBeMeasured(t *testing.T) {
	for words, wanted := range map[string]string{"wanted": `[`, "hue_low": `{"hue_low": 1}`, "three times": `{"like": [{"x": 0, "y": 0}]}`} {
		_, _, err := Measure(halves(), []byte(wanted))
		require.ErrorContains(t, err, words)
	}
}
