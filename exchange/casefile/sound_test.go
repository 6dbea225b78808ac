package casefile_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
)

// neverTogether are actions of which a specialist would not do both on one day, first before second or one instead of the other.
var neverTogether = [][2]string{
	{"apply-nitrogen", "hold-nitrogen"}, {"apply-nitrogen", "spoon-feed-nitrogen"}, {"apply-nitrogen", "apply-lime"},
	{"apply-nitrogen", "leach-salts"}, {"apply-lime", "apply-acidifier"}, {"apply-lime", "apply-iron"}, {"apply-phosphorus", "apply-iron"},
	{"apply-nitrogen", "let-dormant"}, {"water-deep", "survival-water"}, {"water-deep", "cut-back-water"},
	{"overseed", "herbicide-broadcast"}, {"overseed", "herbicide-spot"},
	{"slit-seed", "herbicide-broadcast"}, {"overseed", "preemergent"}, {"slit-seed", "preemergent"}, {"renovate", "herbicide-broadcast"},
	{"fungicide-curative", "fungicide-preventive"}, {"insecticide-curative", "insecticide-preventive"},
	{"herbicide-broadcast", "herbicide-spot"}, {"scarify", "dethatch"}, {"raise-mowing-height", "lower-mowing-once"},
	{"hold-mowing", "resume-mowing"}, {"leave-alone", "renovate"}, {"leave-alone", "insecticide-curative"},
	{"leave-alone", "fungicide-curative"}, {"core-aerate", "let-dormant"}, {"dethatch", "let-dormant"}, {"herbicide-broadcast", "let-dormant"},
	{"hold-mowing", "lower-mowing-once"}, {"core-aerate", "hold-mowing"}, {"syringe-midday", "leave-alone"}, {"moss-control", "overseed"},
}

// soundPlan is what holds of every plan.
func soundPlan(t *testing.T, c evidence.Case, plan remedy.Plan) {
	t.Helper()
	got := linesOf(plan)
	for _, pair := range neverTogether {
		require.False(t, got[pair[0]].Verdict == remedy.DoNow && got[pair[1]].Verdict == remedy.DoNow, "%v at once", pair)
	}
	rows := map[string]bool{}
	for _, f := range knowledge.Findings() {
		rows[f.ID] = true
	}
	for _, a := range plan.Lines {
		require.NotEmpty(t, a.Reasons, "%s gives no reason", a.ID)
		for _, day := range []any{a.Until, a.From, a.To} {
			require.False(t, inPast(c, day), "%s has a day that is past: %+v", a.ID, a)
		}
		if a.Verdict == remedy.Schedule {
			require.True(t, a.From != nil && a.To != nil && !a.To.Before(*a.From), "%s is scheduled without a span: %+v", a.ID, a)
		}
		if a.Verdict == remedy.Hold {
			require.True(t, a.Until != nil || a.UntilWhat != "", "%s is held until nothing", a.ID)
		}
		if a.Verdict == remedy.CheckFirst {
			require.NotEmpty(t, a.Check, "%s waits on no check", a.ID)
		}
		for _, f := range a.Check {
			require.True(t, rows[f], "%s waits on %q", a.ID, f)
		}
	}
	require.NotZero(t, func() (n int) {
		for _, a := range plan.Lines {
			if a.Verdict == remedy.DoNow || a.Verdict == remedy.Schedule || a.Verdict == remedy.CheckFirst {
				n++
			}
		}
		return
	}(), "an empty plan")
}

func inPast(c evidence.Case, day any) bool {
	d, ok := day.(*time.Time)
	return ok && d != nil && d.Before(c.Lawn.Date)
}

func linesOf(plan remedy.Plan) map[string]remedy.Advice {
	got := map[string]remedy.Advice{}
	for _, a := range plan.Lines {
		got[a.ID] = a
	}
	return got
}

// holdsVerdicts asks for the verdicts written in a case.
func holdsVerdicts(t *testing.T, verdict string, r diagnosis.Result, plan remedy.Plan) {
	t.Helper()
	got := linesOf(plan)
	top := ""
	for _, x := range r.Causes[:5] {
		top += fmt.Sprintf("%s %.2f  ", x.ID, x.Probability)
	}
	for _, v := range strings.Fields(verdict) {
		id, want, _ := strings.Cut(v, "=")
		require.True(t, remedy.Known(id), id)
		require.Contains(t, strings.Split(want, "|"), string(got[id].Verdict), "%s: %v; leading: %s", id, got[id].Reasons, top)
	}
}
