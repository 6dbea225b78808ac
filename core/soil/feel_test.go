package soil

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestTextureByFeel(t *testing.T) {
	for _, c := range []struct {
		ball   bool
		ribbon float64
		feel   string
		want   string
	}{
		{false, 0, "", "sand"}, {false, 40, "smooth", "sand"}, {true, 0, "", "loamy-sand"}, {true, 4, "gritty", "loamy-sand"},
		{true, 5, "gritty", "sandy-loam"}, {true, 20, "smooth", "silt-loam"}, {true, 20, "neither", "loam"}, {true, 20, "", ""},
		{true, 25, "", "clay-loam"}, {true, 49, "gritty", "clay-loam"}, {true, 50, "", "clay"}, {true, 90, "smooth", "clay"},
	} {
		require.Equal(t, c.want, ByFeel(c.ball, c.ribbon, c.feel), "%+v", c)
	}
}
