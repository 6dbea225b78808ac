package remedy

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/turf"
)

func TestLooksFollowActionAndGrass(t *testing.T) {
	of := func(action, grass string) []int {
		g, ok := turf.ByID(grass)
		require.True(t, ok)
		return LooksFor(action, g)
	}
	// seed is first looked at when the slowest is up: ryegrass after 10 days, tall fescue 14, bluegrass 28 (extension)
	require.Equal(t, []int{10, 21, 42, 60}, of("overseed", "perennial-ryegrass"))
	require.Equal(t, []int{14, 21, 42, 60}, of("overseed", "tall-fescue"))
	require.Equal(t, []int{28, 42, 60}, of("overseed", "kentucky-bluegrass"))
	require.Equal(t, []int{21, 42, 60}, LooksFor("overseed", turf.Species{}), "an unknown grass")
	require.Equal(t, []int{14, 30, 60, 90, 120}, of("plug-or-sprig", "zoysiagrass"), "monthly until they close")
	require.Equal(t, []int{3, 14}, of("apply-iron", "tall-fescue"))
	require.Equal(t, []int{7, 21}, of("water-deep", "tall-fescue"))
	require.Empty(t, of("hold-mowing", "tall-fescue"))
	require.Nil(t, LooksFor("nonsense", turf.Species{}))
	for _, a := range actions {
		for _, g := range turf.All() {
			looks := LooksFor(a.id, g)
			for i := 1; i < len(looks); i++ {
				require.Greater(t, looks[i], looks[i-1], "%s on %s", a.id, g.ID)
			}
		}
	}
	LooksFor("overseed", turf.Species{Emergence: turf.Range{Low: 5, High: 10}})
	require.Equal(t, []int{21, 42, 60}, LooksFor("overseed", turf.Species{}), "the table stays as it is")
}
