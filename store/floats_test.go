package store

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestFloatsThereAndBack(t *testing.T) {
	for _, f := range []Floats{nil, {1.5, -2, 0}, {float32(math.NaN()), 3e-5}} {
		v, err := f.Value()
		require.NoError(t, err)
		var back Floats
		require.NoError(t, back.Scan(v))
		require.Len(t, back, len(f))
		require.Equal(t, f == nil, back == nil, "NULL stays NULL")
		for i := range f {
			if math.IsNaN(float64(f[i])) {
				require.True(t, math.IsNaN(float64(back[i])))
				continue
			}
			require.InDelta(t, f[i], back[i], 0)
		}
	}
	var f Floats
	require.NoError(t, f.Scan([]byte("{1,2}")))
	require.Equal(t, Floats{1, 2}, f)
	require.ErrorContains(t, f.Scan("{1,x}"), `"x"`)
	require.ErrorContains(t, f.Scan(7), "no real[]")
}
