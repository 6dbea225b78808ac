package diagnosis

import (
	"math"
	"slices"

	"hodos/core/knowledge"
	"hodos/core/worth"
)

// choice is whether to act on one cause: its chance, what acting earns where it is there and costs where it is not, in money, and whether
// its proof is known.
type choice struct {
	p, benefit, harm float64
	open             bool
}

// acts reports whether acting pays.
func (c choice) acts() bool { return c.open && c.p*c.benefit > (1-c.p)*c.harm }

// regret is what the choice earns less, in money, than one that knew whether the cause is there.
func (c choice) regret(there bool) float64 {
	switch acts := c.acts(); {
	case there && !acts:
		return math.Max(0, c.benefit)
	case !there && acts:
		return c.harm
	}
	return 0
}

// choices calls f for every cause of the result that a remedy could be chosen for.
func (r *Result) choices(f func(cause string, c choice)) {
	for i := range r.Causes {
		id := r.Causes[i].ID
		at, ok := knowledge.CauseAt[id]
		if !ok {
			continue
		}
		m := worth.MarksFor(id, r.Prices, r.Damage, knowledge.IsWarm(r.Lawn))
		proofs := knowledge.NeededOf(at)
		open := proofs == nil || slices.ContainsFunc(proofs, func(f string) bool { _, known := r.Values[f]; return known })
		f(id, choice{r.Causes[i].Probability, m.Benefit, m.Harm, open})
	}
}

// ActsOn are the causes on which acting pays at these chances, their proof known, in the order of the result.
func (r *Result) ActsOn() (causes []string) {
	r.choices(func(cause string, c choice) {
		if c.acts() {
			causes = append(causes, cause)
		}
	})
	return causes
}

// Regret is what acting on these chances earns less than acting on the truth would, in the firm's money.
func (r *Result) Regret(truth ...string) (money float64) {
	r.choices(func(cause string, c choice) { money += c.regret(slices.Contains(truth, cause)) })
	return money
}
