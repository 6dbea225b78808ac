package evidence_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// Records answer before former visits, the newest visit before older ones, and what is answered is not offered.
func TestWhatNeedNotBeAskedAnew(t *testing.T) {
	day := func(text string) time.Time {
		d, err := time.Parse(time.DateOnly, text)
		require.NoError(t, err)
		return d
	}
	n := 4.0
	c := evidence.Case{
		Lawn:     knowledge.Lawn{Date: day("2026-08-24")},
		Findings: map[string]knowledge.Value{"dog-on-lawn": knowledge.YesValue(true)},
		Earlier: []evidence.Earlier{
			{Date: day("2026-06-01"), Cause: "white-grubs", Findings: map[string]knowledge.Value{
				"mowing-height-mm": knowledge.NumberValue(40), "dog-on-lawn": knowledge.YesValue(false), "irrigation-time": knowledge.WordValue("dawn")}},
			{Date: day("2026-08-12"), Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("brown"),
				"grubs-per-m2": knowledge.NumberValue(130), "infiltration-mm-h": knowledge.NumberValue(9)}},
			{Date: day("2026-07-30"), Findings: map[string]knowledge.Value{"underfoot": knowledge.WordValue("firm")}},
			{Date: day("2026-07-01"), Findings: map[string]knowledge.Value{
				"mowing-height-mm": knowledge.NumberValue(60), "last-nitrogen-days": knowledge.NumberValue(5)}},
			{Date: day("2024-01-01"), Cause: "rust", Findings: map[string]knowledge.Value{"sun-hours": knowledge.NumberValue(5)}},
			{Date: day("2023-01-01"), Cause: "moss-invasion"},
			{Date: day("2026-08-24"), Findings: map[string]knowledge.Value{"growth-rate": knowledge.WordValue("slow")}},
		},
		Treatments: []evidence.Treatment{
			{Date: day("2026-05-10"), Action: "apply-nitrogen", NGM2: &n, Source: "quick"},
			{Date: day("2026-08-04"), Action: "apply-nitrogen", NGM2: &n, Source: "slow"},
			{Date: day("2026-08-10"), Action: "herbicide-spot"},
		},
	}
	got := map[string]evidence.Offer{}
	for _, o := range evidence.Offers(c) {
		require.Equal(t, "worst", o.Spot)
		got[o.Finding] = o
	}
	for id, want := range map[string]struct {
		value  any
		source string
		on     string
	}{
		"mowing-height-mm":        {60.0, evidence.FromVisit, "2026-07-01"},
		"irrigation-time":         {"dawn", evidence.FromVisit, "2026-06-01"},
		"last-nitrogen-days":      {20.0, evidence.FromRecords, "2026-08-04"},
		"last-nitrogen-source":    {"slow", evidence.FromRecords, "2026-08-04"},
		"nitrogen-12-months-g-m2": {8.0, evidence.FromRecords, "2026-08-04"},
		"herbicide-last-30-days":  {true, evidence.FromRecords, "2026-08-10"},
		"past-causes":             {[]string{"rust", "white-grubs"}, evidence.FromRecords, "2026-06-01"},
	} {
		o, ok := got[id]
		require.True(t, ok, id)
		require.Equal(t, want.value, o.Value.Plain(), id)
		require.Equal(t, want.source, o.Source, id)
		require.Equal(t, day(want.on), o.On, id)
	}
	require.Equal(t, []string{"brown"}, got["colour"].Value.Plain(), "seen twelve days ago")
	require.Contains(t, got, "infiltration-mm-h", "it lasts")
	// answered, too old, of today, counted twelve days ago, seen twenty-five days ago
	for _, id := range []string{"dog-on-lawn", "sun-hours", "growth-rate", "grubs-per-m2", "underfoot"} {
		require.NotContains(t, got, id)
	}
}
