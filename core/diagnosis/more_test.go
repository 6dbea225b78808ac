package diagnosis

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// One more answer onto kept weights is the same as weighing everything anew.
func TestOneMoreAnswerIsTheWholeSum(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 6))
	for range 10 {
		c := draw(rng)
		delete(c.Findings, "pull-test")
		delete(c.Findings, "grubs-per-m2")
		g := Gather(c)
		m := newModel(g.Lawn, func(i int) float64 { return prior(&causes[i], g.Lawn) })
		evs := m.observeAll(&g)
		for _, one := range []struct {
			id string
			v  Value
		}{{"pull-test", WordValue("lifts-like-carpet")}, {"grubs-per-m2", NumberValue(80)}} {
			ev := m.observe(one.id, one.v)
			marginal, empty := m.more(m.sum(evs, true), &ev.terms[0])
			whole := m.sum(append(append([]evidence{}, evs...), ev), false)
			require.InDelta(t, whole.empty, empty, 1e-9)
			for k := range marginal {
				require.InDelta(t, whole.marginal[k], marginal[k], 1e-9)
			}
		}
	}
}

// What the first check's outcomes are said to do is what answering does.
func TestOutcomesSayWhatAnsweringDoes(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	f := map[string]Value{"animal-digging": WordValue("rooting-holes"), "pattern": ListValue("irregular-patches"),
		"colour": ListValue("brown")}
	only := map[string]bool{}
	for _, p := range procedures {
		only[p.ID] = p.ID == "pull"
	}
	r := Diagnose(Case{Lawn: l, Findings: f}, Options{Tools: only})
	require.Equal(t, "pull-test", r.Next[0].Finding)
	for _, o := range r.Next[0].Outcomes {
		f["pull-test"] = WordValue(o.Label)
		after := weigh(l, f)
		for _, c := range o.Causes {
			require.InDelta(t, after.P(c.ID), c.Probability, .0006, "%s after %s", c.ID, o.Label)
		}
	}
}
