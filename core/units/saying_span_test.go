package units

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestASpanInBothSystems(t *testing.T) {
	for _, c := range []struct {
		low, high float64
		unit      string
		si, us    string
	}{
		{6, 12, "mm", "6 to 12 mm", "0.25 to 0.5 inches"}, {20, 20, "mm", "20 mm", "0.75 inches"}, {1, 1, "mm", "1 mm", "0.04 inches"},
		{30, 30, "cm", "30 cm", "12 inches"}, {1.5, 1.5, "m", "1.5 m", "5 ft"}, {24, 21, "°C", "24 to 21 °C", "75 to 70 °F"},
		{1, 2.4, "g N/m²", "1 to 2.4 g N/m²", "0.2 to 0.49 lb N/1000 ft²"}, {3, 4, "weeks", "3 to 4 weeks", "3 to 4 weeks"},
	} {
		require.Equal(t, c.si, Saying{}.Span(c.low, c.high, c.unit))
		require.Equal(t, c.us, In("us").Span(c.low, c.high, c.unit))
	}
}
