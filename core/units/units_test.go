package units

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestConversions(t *testing.T) {
	for _, c := range []struct {
		amount   float64
		from, to string
		want     float64
	}{
		{1, "in", "mm", 25.4}, {85, "F", "C", 29.4444}, {1, "gal/1000ft2", "L/100m2", 4.0746}, {6, "lb/1000ft2", "g/m2", 29.294},
		{1, "acre", "m2", 4046.8564224}, {10, "mph", "m/s", 4.4704}, {0, "C", "F", 32},
	} {
		got, err := Convert(c.amount, c.from, c.to)
		require.NoError(t, err)
		require.InDelta(t, c.want, got, 1e-3, "%v %s", c.amount, c.from)
	}
	_, err := Convert(1, "in", "g")
	require.ErrorContains(t, err, "cannot convert in (length) to g (mass)")
	_, err = Convert(1, "cubit", "mm")
	require.ErrorContains(t, err, "cubit")
}

func TestThereAndBack(t *testing.T) {
	for _, u := range All() {
		require.InDelta(t, 123.456, u.From(u.SI(123.456)), 1e-9, u.ID)
	}
}
