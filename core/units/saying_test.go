package units

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestSaying(t *testing.T) {
	si, us := In("metric"), In("us")
	require.Equal(t, "29.4 °C", si.Temp(29.4, 1))
	require.Equal(t, "85 °F", us.Temp(29.4, 1))
	require.Equal(t, "-2.2 °C", si.Temp(-2.2, 1))
	require.Equal(t, "28 °F", us.Temp(-2.2, 1))
	require.Equal(t, "110 °C·d", si.DegreeDays(110))
	require.Equal(t, "198 °F·d", us.DegreeDays(110), "a span of warmth has no offset")
	require.Equal(t, "25 mm", si.Depth(25.4))
	require.Equal(t, "1.00 inches", us.Depth(25.4))
	require.Equal(t, "13 of 25 mm", si.Part(12.7, 25.4))
	require.Equal(t, "0.50 of 1.00 inches", us.Part(12.7, 25.4))
	require.Equal(t, si, In(""), "SI where nobody has chosen")
}

func TestFigures(t *testing.T) {
	metric, us := Saying{}, Saying{Customary: true}
	for _, c := range []struct {
		x          float64
		unit       string
		metric, us string
	}{
		{96, "1/m2", "96 per m²", "8.92 per ft²"}, {14, "mm", "14 mm", "0.55 in"}, {4, "cm", "4 cm", "1.57 in"}, {30, "C", "30 °C", "86 °F"},
		{700, "kPa", "700 kPa", "101.5 psi"}, {12.5, "mm/h", "12.5 mm/h", "0.49 in/h"}, {3, "days", "3 days", "3 days"}, {6.4, "", "6.4", "6.4"},
		{0, "mm", "0 mm", "0 in"},
	} {
		require.Equal(t, c.metric, metric.Figure(c.x, c.unit))
		require.Equal(t, c.us, us.Figure(c.x, c.unit))
	}
	for _, p := range Pairs() {
		a, err := Lookup(p[0])
		require.NoError(t, err)
		b, err := Lookup(p[1])
		require.NoError(t, err)
		require.Equal(t, a.Dimension, b.Dimension, "%s and %s measure the same", p[0], p[1])
		require.True(t, !a.Customary && b.Customary)
	}
}
