package diagnosis

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func TestThresholdsNameWhatExists(t *testing.T) {
	for cause, rows := range thresholds {
		_, ok := CauseByID(cause)
		require.True(t, ok, cause)
		for _, r := range rows {
			_, ok := FindingByID(r.Finding)
			require.True(t, ok, "%s: %s", cause, r.Finding)
			require.NotEmpty(t, r.Figure, cause)
			require.NotEmpty(t, r.Source, cause)
		}
	}
	require.GreaterOrEqual(t, len(thresholds), 45)
}

func TestWhatACauseShows(t *testing.T) {
	c, _ := CauseByID("spring-dead-spot")
	seen := map[string]bool{}
	for _, s := range c.Shows("pattern") {
		require.GreaterOrEqual(t, s.Chance, .25)
		seen[s.ID] = true
	}
	require.True(t, seen["round-patches"] || seen["frog-eye"], "%v", seen)
	d, _ := CauseByID("dollar-spot")
	require.Equal(t, "hourglass-lesion-tan-with-brown-border", d.Shows("leaf-symptoms")[0].ID)
	h, _ := CauseByID(Healthy)
	require.Empty(t, h.Shows("pattern"))
}
