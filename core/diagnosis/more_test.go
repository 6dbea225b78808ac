package diagnosis

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// One more answer onto kept weights is the same as weighing everything anew.
func TestOneMoreAnswerIsTheWholeSum(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 6))
	for range 10 {
		c := draw(rng)
		delete(c.Findings, "pull-test")
		delete(c.Findings, "grubs-per-m2")
		g := evidence.Gather(c)
		m := newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) })
		evs := m.observeAll(&g)
		for _, one := range []struct {
			id string
			v  knowledge.Value
		}{{"pull-test", knowledge.WordValue("lifts-like-carpet")}, {"grubs-per-m2", knowledge.NumberValue(80)}} {
			ev := m.observe(one.id, one.v)
			before := m.sum(evs, true)
			onEmpty := (before.empty*ev.sound + before.other*ev.other) / (before.empty + before.other)
			marginal, empty := m.more(before, &ev.terms[0], onEmpty, false)
			whole := m.sum(append(append([]observed{}, evs...), ev), false)
			require.InDelta(t, whole.empty+whole.other, empty, 1e-9)
			for k := range marginal {
				require.InDelta(t, whole.marginal[k], marginal[k], 1e-9)
			}
		}
	}
}

// What the first check's outcomes are said to do is what answering does.
func TestOutcomesSayWhatAnsweringDoes(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	f := map[string]knowledge.Value{"animal-digging": knowledge.WordValue("rooting-holes"),
		"pattern": knowledge.ListValue("irregular-patches"),
		"colour":  knowledge.ListValue("brown")}
	only := map[string]bool{}
	for _, p := range knowledge.ProcedureTable {
		only[p.ID] = p.ID == "pull"
	}
	r := Diagnose(evidence.Case{Lawn: l, Findings: f}, Options{Tools: only})
	require.Equal(t, "pull-test", r.Next[0].Finding)
	for _, o := range r.Next[0].Outcomes {
		f["pull-test"] = knowledge.WordValue(o.Label)
		after := weigh(l, f)
		for _, c := range o.Causes {
			require.InDelta(t, after.P(c.ID), c.Probability, .0006, "%s after %s", c.ID, o.Label)
		}
	}
}
