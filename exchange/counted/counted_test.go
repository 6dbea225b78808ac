package counted

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/counts"
)

// A count goes to the core as it was made, and comes back with figures where there are some and without where there are none: JSON has
// no word for a number that is none.
func TestACountIsWeighedAsItWasMade(t *testing.T) {
	p, ok := counts.Of("grubs-per-m2")
	require.True(t, ok)
	tally := Tally{Places: []CountPlace{{Got: 9, Of: 929}, {Got: 11, Of: 929}, {Got: 7, Of: 929}}}
	require.Equal(t, []counts.Place{{Got: 9, Of: 929}, {Got: 11, Of: 929}, {Got: 7, Of: 929}}, tally.Found())
	w := Weigh(p, tally, 65)
	require.InDelta(t, 27/(3*.0929), w.Value, .05)
	require.NotNil(t, w.Low)
	require.NotNil(t, w.High)
	require.Less(t, *w.Low, w.Value)
	require.Greater(t, *w.High, w.Value)
	require.NotNil(t, w.Over)
	require.Greater(t, *w.Over, .8)
	require.Equal(t, "over", w.State)

	begun := Weigh(p, Tally{Places: tally.Places[:1]}, 0)
	b, err := json.Marshal(begun)
	require.NoError(t, err, "no NaN goes out")
	require.Nil(t, begun.Spread, "one place has no spread")
	require.NotContains(t, string(b), "spread")
	require.Nil(t, begun.Over, "without a limit nothing is over it")
}
