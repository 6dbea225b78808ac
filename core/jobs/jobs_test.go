package jobs

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/remedy"
)

func day(n int) time.Time   { return time.Date(2026, 8, 24+n, 0, 0, 0, 0, time.UTC) }
func date(n int) *time.Time { d := day(n); return &d }

func TestJobsOfAPlan(t *testing.T) {
	p := remedy.Plan{Lines: []remedy.Advice{
		{ID: "apply-wetting-agent", Called: true, Verdict: remedy.DoNow, AreaM2: 50, Order: 24, Reasons: []string{"repellent"}},
		{ID: "core-aerate", Called: true, Verdict: remedy.Schedule, From: date(20), To: date(50)},
		{ID: "overseed", Called: true, Verdict: remedy.Schedule, From: date(-3), To: date(12)},
		{ID: "apply-nitrogen", Called: true, Verdict: remedy.Hold, Until: date(8), NGM2: 2.4},
		{ID: "apply-iron", Called: true, Verdict: remedy.Hold},                    // nobody knows until when
		{ID: "apply-lime", Called: true, Verdict: remedy.CheckFirst},              // waits for the check
		{ID: "dethatch", Verdict: remedy.DoNow},                                   // nothing calls for it
		{ID: "scarify", Called: true, Verdict: remedy.DoNow, As: "rake-out-moss"}, // in the form of another
		{ID: "restrict-traffic", Called: true, Verdict: remedy.DoNow},             // no work
		{ID: "herbicide-broadcast", Called: true, Verdict: remedy.Avoid},          //
	}}
	got := Of(p, Lawn{Today: day(0), AreaM2: 200, Worth: 8, Cool: true, Autumn: true})
	type row struct {
		action   string
		step     int
		from, to int
		least    int
	}
	var rows []row
	for _, j := range got {
		rows = append(rows, row{j.Action, j.Step, int(j.From.Sub(day(0)).Hours() / 24), int(j.To.Sub(day(0)).Hours() / 24), j.Least})
		require.Equal(t, j.From, j.Want)
		require.Positive(t, j.Minutes)
	}
	require.Equal(t, []row{{"apply-wetting-agent", 1, 0, 7, 0}, {"apply-wetting-agent", 2, 14, 28, 14}, {"apply-wetting-agent", 3, 35, 56, 21}, {"core-aerate", 1, 20, 50, 0},
		{"overseed", 1, 0, 12, 0}, {"apply-nitrogen", 1, 8, 22, 0}, {"apply-nitrogen", 2, 29, 50, 21}}, rows)
	require.InDelta(t, .003*50*8, got[0].Wait, 1e-12, "what a day costs hangs on the area that is treated")
	require.InDelta(t, 12+6*.5, got[0].Minutes, 1e-12)
	require.Equal(t, "repellent", got[0].Reason)
	require.Len(t, Of(p, Lawn{Today: day(0), AreaM2: 200, Worth: 8}), 6, "the autumn feeding comes twice on cool-season turf alone")
}

// Every action that is recorded can be booked, and every row is an action.
func TestEveryRecordedActionIsWork(t *testing.T) {
	told := map[string]bool{"let-dormant": true, "cut-back-water": true, "raise-mowing-height": true, "hold-mowing": true, "restrict-traffic": true, "syringe-midday": true,
		"clean-equipment": true, "change-use": true}
	for _, id := range remedy.IDs() {
		if remedy.Recorded(id) && !told[id] {
			require.True(t, IsWork(id), id)
		}
	}
	for id := range clear {
		require.True(t, IsWork(id), id)
	}
	require.Equal(t, 21, ClearBefore("core-aerate"))
	require.Equal(t, 1, ClearBefore("resume-mowing"))
	for _, w := range workRows {
		require.True(t, remedy.Known(w.action), w.action)
		require.True(t, w.steps == 1 || len(w.every) > 0, w.action)
	}
}

func TestWorkIsKeptApart(t *testing.T) {
	for _, x := range []struct {
		first, second string
		days          int
	}{
		{"preemergent", "overseed", 90}, {"overseed", "preemergent", 60}, {"herbicide-broadcast", "overseed", 28}, {"overseed", "herbicide-spot", 60},
		{"apply-lime", "apply-nitrogen", 14}, {"apply-nitrogen", "apply-lime", 14}, {"apply-lime", "apply-acidifier", 180}, {"core-aerate", "overseed", 0},
		{"overseed", "core-aerate", 90}, {"apply-nitrogen", "spoon-feed-nitrogen", 21}, {"fungicide-curative", "fungicide-preventive", 14},
		{"insecticide-curative", "insecticide-preventive", 21}, {"water-deep", "core-aerate", 0}, {"moss-control", "overseed", 14}, {"water-deep", "spot-water", 1},
	} {
		got, why := remedy.Gap(x.first, x.second)
		if x.first == "water-deep" && x.second == "spot-water" {
			require.Zero(t, got)
			continue
		}
		require.Equal(t, x.days, got, "%s then %s", x.first, x.second)
		require.Equal(t, got > 0, why != "", "%s then %s", x.first, x.second)
	}
}
