package diagnosis

import (
	"math"

	"hodos/core/knowledge"
)

// more weighs one more answer onto kept weights: every set's weight is multiplied by what the answer says of it, exactly,
// in one pass over all sets. It returns the new marginals and the chance of the empty set, both normalised; p is not
// changed. onEmpty is what the answer says of the empty set, against the background. With back an answer is taken back instead.
func (m *model) more(p posterior, t *term, onEmpty float64, back bool) (marginal []float64, empty float64) {
	n := len(m.active)
	marginal = make([]float64, n)
	way := func(r float64) float64 {
		if back && r > 0 {
			return 1 / r
		}
		return r
	}
	at := 0
	total := p.weight[at] * onEmpty
	empty = total
	at++
	for i := 0; i < n; i++ {
		gi, ei := t.g[i], t.e[i]
		single := p.weight[at]
		at++
		if gi > 0 {
			single *= way(1 - gi + ei)
		}
		own := single
		for j := i + 1; j < n; j++ {
			N, G, E := (1-gi)*(1-t.g[j]), gi+t.g[j], ei+t.e[j]
			r := 1.0
			if G > 0 {
				r = way(N + (1-N)*E/G)
			}
			acc := p.weight[at] * r
			at++
			row := p.weight[at : at+n-j-1]
			third, g, e := marginal[j+1:][:len(row)], t.g[j+1:][:len(row)], t.e[j+1:][:len(row)]
			for k, w := range row {
				x := r
				if g[k] > 0 {
					Nk := N * (1 - g[k])
					x = way(Nk + (1-Nk)*(E+e[k])/(G+g[k]))
				}
				w *= x
				third[k] += w
				acc += w
			}
			at += len(row)
			marginal[j] += acc
			own += acc
		}
		marginal[i] += own
		total += own
	}
	if !(total > 0) {
		total = 1
	}
	for k := range marginal {
		marginal[k] /= total
	}
	return marginal, empty / total
}

// share is what a piece of evidence says of the empty set, by what is left of it.
func (m *model) share(ev *observed) float64 {
	before := m.sound/ev.sound + (1-m.sound)/ev.other
	return 1 / before
}

// outcomeTerm is the term of one outcome of a finding: a value, a band of a number, or an item that is there or is not.
func (m *model) outcomeTerm(cf *knowledge.Table, item, outcome int) *term {
	n := len(m.active)
	t := &term{g: make([]float64, n), e: make([]float64, n)}
	for k, d := range m.rows(cf, item) {
		if d == nil {
			continue
		}
		if item < 0 {
			t.g[k] = d.Grip
			t.e[k] = d.Grip * d.P[outcome] / cf.Background.P[outcome]
			continue
		}
		if g := math.Min(d.P[item]*d.Grip, .985); g > 0 {
			t.g[k] = g
			if outcome == 0 { // it is there
				t.e[k] = g / cf.Leak(item)
			}
		}
	}
	return t
}

// exact replaces what the outcomes of a check would do by the exact figures over all sets.
func (m *model) exact(p posterior, now []float64, c *NextCheck) {
	cf := &knowledge.Tables[knowledge.TableAt[c.Finding]]
	for i := range c.Outcomes {
		then, _ := m.more(p, m.outcomeTerm(cf, c.item, c.Outcomes[i].at), m.onEmpty(cf, c.item, c.Outcomes[i].at), false)
		c.Outcomes[i].Causes = m.moved(now, then)
	}
}

// moved lists the three causes that an answer moves most, by a twentieth at least, then the leading ones.
func (m *model) moved(now, then []float64) []SetP {
	const most = 3
	var at [most]int
	var weigh [most]float64
	n := 0
	for k := range then {
		w := then[k]
		if d := math.Abs(then[k] - now[k]); d >= .05 {
			w = 1 + d
		}
		if n == most && w <= weigh[most-1] {
			continue
		}
		i := min(n, most-1)
		for ; i > 0 && weigh[i-1] < w; i-- {
			at[i], weigh[i] = at[i-1], weigh[i-1]
		}
		at[i], weigh[i] = k, w
		n = min(n+1, most)
	}
	out := make([]SetP, n)
	for i, k := range at[:n] {
		out[i] = SetP{knowledge.CauseTable[m.active[k]].ID, round3(then[k])}
	}
	return out
}
