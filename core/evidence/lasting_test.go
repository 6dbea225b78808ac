package evidence

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

// What former visits measured and what lasts stands under what is known now: the newest of it, at most 400 days old, and nothing else.
func TestWhatLastsFromVisitToVisit(t *testing.T) {
	today := time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)
	ago := func(days int, id string, x float64) Earlier {
		return Earlier{Date: today.AddDate(0, 0, -days), Findings: map[string]knowledge.Value{id: knowledge.NumberValue(x)}}
	}
	c := Case{Lawn: knowledge.Lawn{Date: today}, Earlier: []Earlier{ago(10, "root-depth-mm", 60), ago(300, "root-depth-mm", 120),
		ago(400, "sun-hours", 5), ago(401, "mowing-height-mm", 40), ago(3, "soil-temp-c", 25), ago(-1, "infiltration-mm-h", 9),
		ago(5, "penetration-kpa", 800)}}
	now := map[string]knowledge.Value{"penetration-kpa": knowledge.NumberValue(2000)}
	got := c.lasting(now)
	require.Equal(t, 60.0, *got["root-depth-mm"].Number, "the newest, whatever the order")
	require.Equal(t, 5.0, *got["sun-hours"].Number)
	require.Equal(t, 2000.0, *got["penetration-kpa"].Number, "what is known now goes before")
	for _, id := range []string{"mowing-height-mm", "soil-temp-c", "infiltration-mm-h"} {
		require.NotContains(t, got, id)
	}
	require.Len(t, now, 1, "what was handed in stays as it was")
	require.Len(t, knowledge.Lasting(), 13)
}
