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
