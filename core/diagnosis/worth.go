package diagnosis

import (
	"math"
	"slices"

	"hodos/core/knowledge"
	"hodos/core/worth"
)

// How a check is valued (judgement).
const (
	bitWorth   = .02   // of the worth at stake for a bit: some checks help only together; more was tried (docs/simulation.md)
	handling   = 2.0   // minutes that every handling takes from the visit beside its own
	dayWorth   = .002  // of the worth at stake for a day of waiting for the laboratory
	leastWorth = .0002 // of the worth at stake: less is not worth a walk
)

// stakes of the causes on this lawn, in money.
type moneyAt struct {
	benefit, harm []float64 // by active cause
	worth         float64   // of the damaged turf
	hour, lab     float64
	open          []bool // by active cause: its proof is known, or none is needed
}

func (m *model) money(p worth.Prices, area float64, known map[string]knowledge.Value) {
	n := len(m.active)
	m.stake = moneyAt{benefit: make([]float64, n), harm: make([]float64, n), open: make([]bool, n), worth: p.LawnM2 * area, hour: p.Hour,
		lab: p.Lab}
	for k, ci := range m.active {
		marks := worth.MarksFor(knowledge.CauseTable[ci].ID, p, area, m.turf == 1)
		m.stake.benefit[k], m.stake.harm[k] = marks.Benefit, marks.Harm
		m.stake.open[k] = knowledge.NeededOf(ci) == nil
		for _, f := range knowledge.NeededOf(ci) {
			if _, ok := known[f]; ok {
				m.stake.open[k] = true
			}
		}
	}
}

// acting is what would be earned by acting where it pays, in money, at these chances. proves are findings that are known as well.
func (m *model) acting(p []float64, proves string) (sum float64) {
	for k, ci := range m.active {
		if !m.stake.open[k] && slices.Index(knowledge.NeededOf(ci), proves) < 0 {
			continue
		}
		sum += math.Max(0, p[k]*m.stake.benefit[k]-(1-p[k])*m.stake.harm[k])
	}
	return sum
}

// gainOf is the expected gain in money from acting after a feature is read off against acting now.
func (m *model) gainOf(ft *feature, sets []set, now float64) float64 {
	sum := 0.0
	for _, row := range ft.p {
		q := ft.chance(row)
		if q < worthChance {
			continue
		}
		sum += q * m.acting(m.marginalsInto(m.scratch, sets, ft.of, row), ft.cf.ID)
	}
	return math.Max(0, sum-now)
}

// proofFor is the likeliest cause whose remedy waits for a finding, and its chance; -1 for none.
func (m *model) proofFor(finding string, now []float64) (cause int, p float64) {
	cause = -1
	for k, ci := range m.active {
		if !m.stake.open[k] && slices.Index(knowledge.NeededOf(ci), finding) >= 0 && now[k] > p {
			cause, p = ci, now[k]
		}
	}
	return cause, p
}

// fee is what the laboratory and the days of waiting for it cost; nothing for what is seen on the spot.
func (c *NextCheck) fee(s *moneyAt) float64 {
	if c.Station != "lab" || c.Days == 0 {
		return 0
	}
	return s.lab + float64(c.Days)*dayWorth*s.worth
}

// score is what a check is worth for its price: money gained, and a little for each bit, over what it costs with its handling.
func (c *NextCheck) score(s *moneyAt) float64 {
	price := (c.Minutes+handling)*s.hour/60 + c.fee(s)
	return (c.Worth + bitWorth*s.worth*c.GainBits) / price
}
