package turf

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func TestGrowthPotential(t *testing.T) {
	require.InDelta(t, 1, GrowthPotential(Cool, 20), 1e-12)
	require.InDelta(t, .6065, GrowthPotential(Cool, 25.5), 1e-4, "one σ away")
	require.InDelta(t, .6065, GrowthPotential(Warm, 24), 1e-4)
	require.Less(t, GrowthPotential(Warm, 8), .01)
}

func TestNamesByCountry(t *testing.T) {
	for _, c := range []struct{ name, country, want string }{
		{"buffalo", "AU", "st-augustinegrass"}, {"buffalo", "US", "buffalograss"}, {"couch", "AU", "common-bermudagrass"}, {"Poa pratensis", "", "kentucky-bluegrass"}, {"winter grass", "AU", "annual-bluegrass"},
	} {
		s, ok := ByName(c.name, c.country)
		require.True(t, ok, c.name)
		require.Equal(t, c.want, s.ID)
	}
	_, ok := ByName("buffalo", "")
	require.False(t, ok, "a word is never mapped without the country")
	_, ok = ByName("couch", "GB")
	require.False(t, ok)
}

func TestSeasonsTurn(t *testing.T) {
	require.Equal(t, time.July, SeasonMonth(time.January, -30))
	require.Equal(t, time.January, SeasonMonth(time.July, -30))
	require.Equal(t, time.June, SeasonMonth(time.December, -1))
	require.Equal(t, time.May, SeasonMonth(time.May, 50))
}

func TestSpeciesRows(t *testing.T) {
	require.Len(t, All(), 19)
	for _, s := range All() {
		require.NotEmpty(t, s.Label, s.ID)
		if s.Mow.Known() {
			require.LessOrEqual(t, s.Mow.Low, s.Mow.High, s.ID)
			require.GreaterOrEqual(t, s.Summer, s.Mow.High-1, s.ID)
		}
	}
}

// Every grass has the cold at which its crowns die; those that grow in the far north stand more than those of the subtropics.
func TestColdLimits(t *testing.T) {
	limit := map[string]float64{}
	for _, s := range All() {
		if s.Family == Other {
			require.Zero(t, s.ColdLimit)
			continue
		}
		require.True(t, s.ColdLimit <= -3 && s.ColdLimit >= -40, s.ID)
		limit[s.ID] = s.ColdLimit
	}
	require.Less(t, limit["creeping-bentgrass"], limit["kentucky-bluegrass"])
	require.Less(t, limit["kentucky-bluegrass"], limit["perennial-ryegrass"])
	require.Less(t, limit["zoysiagrass"], limit["hybrid-bermudagrass"])
	require.Less(t, limit["common-bermudagrass"], limit["st-augustinegrass"])
	require.Less(t, limit["buffalograss"], limit["perennial-ryegrass"], "a warm-season grass of the northern plains")
}
