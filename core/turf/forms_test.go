package turf

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestForms(t *testing.T) {
	for _, f := range Forms() {
		g, ok := ByID(f.Grass)
		require.True(t, ok, f.Grass)
		require.NotEmpty(t, f.Label)
		require.True(t, IsForm(f.Grass, f.ID))
		own := g.InForm(f.ID)
		require.LessOrEqual(t, own.Mow.Low, own.Mow.High, f.ID)
		require.GreaterOrEqual(t, own.Summer, own.Mow.High, f.ID)
		require.GreaterOrEqual(t, own.SunFull, own.SunLeast, f.ID)
	}
	zoysia, _ := ByID("zoysiagrass")
	fine := zoysia.InForm("matrella")
	require.Equal(t, Range{12, 38}, fine.Mow)
	require.Equal(t, 38., fine.Summer)
	require.Equal(t, []float64{5, 4}, []float64{fine.SunFull, fine.SunLeast})
	require.Equal(t, zoysia, zoysia.InForm("japonica"), "as the grass")
	require.Equal(t, zoysia, zoysia.InForm("dwarf"), "a form of another grass")
	require.False(t, IsForm("zoysiagrass", "dwarf"))
}
