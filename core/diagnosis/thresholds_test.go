package diagnosis

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

func TestThresholdsNameWhatExists(t *testing.T) {
	causes := map[string]bool{}
	for _, r := range knowledge.ThresholdRows {
		causes[r.Cause] = true
		_, ok := knowledge.CauseByID(r.Cause)
		require.True(t, ok, r.Cause)
		_, ok = knowledge.FindingByID(r.Finding)
		require.True(t, ok, "%s: %s", r.Cause, r.Finding)
		require.NotEmpty(t, r.Figure, r.Cause)
		require.NotEmpty(t, r.Source, r.Cause)
	}
	require.GreaterOrEqual(t, len(causes), 45)
}

func TestWhatACauseShows(t *testing.T) {
	c, _ := knowledge.CauseByID("spring-dead-spot")
	seen := map[string]bool{}
	for _, s := range c.Shows("pattern") {
		require.GreaterOrEqual(t, s.Chance, .25)
		seen[s.ID] = true
	}
	require.True(t, seen["round-patches"] || seen["frog-eye"], "%v", seen)
	d, _ := knowledge.CauseByID("dollar-spot")
	require.Equal(t, "hourglass-lesion-tan-with-brown-border", d.Shows("leaf-symptoms")[0].ID)
	h, _ := knowledge.CauseByID(knowledge.Healthy)
	require.Empty(t, h.Shows("pattern"))
}
