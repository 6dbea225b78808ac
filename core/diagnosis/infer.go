// Package diagnosis is the scales: the exact inference that turns what was found into the chance of each cause, the ledger that says
// why, and the next check by its worth for the decision. It does no I/O, reads no clock and draws no chance.
package diagnosis

import (
	"math"
	"slices"
	"sort"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/worth"
)

// How several causes act on one finding, whatever its kind — the one rule:
//
// Each cause i that speaks of a finding has a grip gᵢ and a distribution dᵢ. With causes S at work the finding is left
// to the background b with chance N = ∏(1 − gᵢ); otherwise one of them sets it, in proportion to their grips:
//
//	P(v | S) = N·b(v) + (1 − N)·Σ gᵢ dᵢ(v) / Σ gᵢ
//
// For a truth value, and for each item of a list by itself, with dᵢ(yes) = 1 this is the noisy-or with leak b. For a
// number v is a density, the rule is the same. docs/decisions/0002 works an example through.

// How likely it is, before anything is found, that none, one, two or three causes are at work on a lawn that somebody
// is called to; factors on the product of odds (judgement, set by simulation and written cases).
var sizeFactor = [4]float64{.5, 1, .9, .7}

// otherFactor is the same for something that is none of the causes of the tables (judgement).
const otherFactor = .08

// term is one observed value, ready for the sum: for each active cause its grip and e = gᵢ dᵢ(v)/b(v).
type term struct {
	item string // of a list
	g, e []float64
	// by active cause, a factor on its odds whatever sets the value, with e over it: what else tells the fact and was not seen is excused
	// for the cause that shows the fact by this value, and missed where another one shows it; nil where nothing is
	excused []float64
}

// away is an item of a list that was looked for and not seen, with each cause's grip on it.
type away struct {
	item string
	g    []float64
}

// observed is one finding as seen: terms to be summed exactly, the items that were looked for and not seen, and what it does to a
// lawn that none of the causes is at work on.
type observed struct {
	finding string
	value   knowledge.Value
	terms   []term
	aways   []away
	weighed bool
	sound   float64  // factor on nothing being wrong
	other   float64  // factor on something else being wrong than the causes of the tables
	tells   []int    // of a fact told more than once: the pieces of evidence that show it, and by active cause which of them it speaks by
	shown   [][]bool // by piece of evidence and active cause: the cause shows it
	leads   []int
}

// alone is the factor of one cause by itself for what was looked for and not seen.
func (ev *observed) alone(k int) float64 {
	q := 1.0
	for i := range ev.aways {
		q *= 1 - ev.aways[i].g[k]
	}
	for i := range ev.terms {
		if ev.terms[i].excused != nil {
			q *= ev.terms[i].excused[k]
		}
	}
	return q
}

// apart reports whether a piece of evidence does something to each cause by itself.
func (ev *observed) apart() bool {
	for i := range ev.terms {
		if ev.terms[i].excused != nil {
			return true
		}
	}
	return len(ev.aways) > 0
}

// speech is one cause's share in one term.
type speech struct {
	t       int
	q, g, e float64
}

// model is the knowledge cut down to one lawn: the causes that can occur there and their odds.
type model struct {
	around evidence.Context // confirmed cases round about, and the firm's own
	active []int            // indices into causes
	odds   []float64
	pair   []float64 // n×n factors
	turf   int       // 0 cool, 1 warm
	lawn   knowledge.Lawn
	act    []float64 // by cause: the chance from which acting on it pays
	room   []float64 // for the weights of the next sum, when those of the last are no longer wanted

	scratch   []float64
	speaking  []bool  // scratch: the causes that speak of a finding
	pairKinds []int32 // scratch of kindsOf
	relations map[string]knowledge.Relation
	climate   int
	beside    map[string]knowledge.Value // what the good spot reads
	known     map[string]knowledge.Value // what the bad spot reads
	settled   []bool                     // by active cause: its own reading lies beyond its limit
	stake     moneyAt
	told      []observed // what was told, before every fact counts once
	sound     float64    // of the empty set, the share of nothing being wrong, by the last sum
}

func newModel(l knowledge.Lawn, odds func(i int) float64) *model {
	m := &model{lawn: l, relations: knowledge.Relations(l), climate: knowledge.ClimateOf(l)}
	if knowledge.IsWarm(l) {
		m.turf = 1
	}
	m.act = make([]float64, len(knowledge.CauseTable))
	m.price(worth.DefaultPrices, worth.Damage(l, nil))
	at := map[string]int{}
	for i := range knowledge.CauseTable {
		o := odds(i)
		if o <= 0 {
			continue
		}
		at[knowledge.CauseTable[i].ID] = len(m.active)
		m.active = append(m.active, i)
		m.odds = append(m.odds, o)
	}
	n := len(m.active)
	m.pair = make([]float64, n*n)
	for i := range m.pair {
		m.pair[i] = 1
	}
	for _, p := range knowledge.Pairs {
		a, okA := at[p.A]
		b, okB := at[p.B]
		if okA && okB {
			m.pair[a*n+b], m.pair[b*n+a] = p.Factor, p.Factor
		}
	}
	m.scratch, m.speaking = make([]float64, n), make([]bool, n)
	m.money(worth.DefaultPrices, worth.Damage(l, nil), nil)
	return m
}

// has reports whether a cause can occur on the lawn.
func (m *model) has(cause int) bool { return slices.Contains(m.active, cause) }

// price sets the marks from which acting pays.
func (m *model) price(p worth.Prices, area float64) {
	for i := range knowledge.CauseTable {
		m.act[i] = worth.MarksFor(knowledge.CauseTable[i].ID, p, area, m.turf == 1).Act
	}
}

// observe compiles one found value. ok is false when no active cause speaks of it.
func (m *model) observe(id string, v knowledge.Value) (ev observed) {
	ev = observed{finding: id, value: v, sound: 1, other: 1}
	at, ok := knowledge.TableAt[id]
	if !ok {
		return ev
	}
	cf := &knowledge.Tables[at]
	n := len(m.active)
	v = m.meant(cf.Finding, v)
	ev.sound, ev.other = m.soundness(cf, v)
	blank := func(item string) term { return term{item: item, g: make([]float64, n), e: make([]float64, n)} }
	row := func(k int) *knowledge.Dist { return cf.Dist(m.active[k], m.turf, m.climate) }
	switch cf.Finding.Kind {
	case knowledge.AnyOf, knowledge.CauseIDs:
		for vi, item := range cf.Values {
			if item == "none" {
				continue
			}
			b := cf.Leak(vi)
			seen := slices.Index(v.List, item) >= 0
			t, aw, speaks := blank(item), away{item, make([]float64, n)}, false
			for k := 0; k < n; k++ {
				d := row(k)
				if d == nil || d.P[vi] == 0 {
					continue
				}
				g := math.Min(d.P[vi]*d.Grip, .985)
				speaks = true
				if seen {
					t.g[k], t.e[k] = g, g/b
				} else if aw.g[k] = g; m.settled != nil && m.settled[k] {
					aw.g[k] *= knowledge.NotSeen
				}
			}
			if speaks {
				ev.weighed = true
				if seen {
					ev.terms = append(ev.terms, t)
				} else {
					ev.aways = append(ev.aways, aw)
				}
			}
		}
		if len(ev.terms) > 0 {
			m.evenOut(&ev, at)
		}
	default:
		t := blank("")
		b := cf.Chance(cf.Without(m.turf, m.climate), v)
		own := knowledge.Owner(cf.ID, v)
		if m.has(own) {
			b = cf.Density(&cf.Background, *v.Number, cf.Stray()*knowledge.OwnStray)
		} else {
			own = -1
			if good, ok := m.beside[id]; ok { // what is its own reading is read, wherever else it reads so
				b = cf.BesideGood(b, v, m.meant(cf.Finding, good))
			}
		}
		for k := 0; k < n; k++ {
			if d := row(k); d != nil && (own < 0 || m.active[k] == own) {
				t.g[k], t.e[k] = d.Grip, d.Grip*cf.Chance(d, v)/b
				ev.weighed = true
			}
		}
		if ev.weighed {
			ev.terms = []term{t}
		}
	}
	return ev
}

// posterior is the exact sum over all sets of up to three causes.
type posterior struct {
	n        int
	marginal []float64 // by active cause
	empty    float64   // chance that nothing is wrong
	other    float64   // chance that something else is wrong than the causes of the tables
	weight   []float64 // by set, normalised, in the order of the loops; nil unless kept
}

// sum weighs every set. It runs in O(n³/6) times the number of terms that the third cause speaks of; with keep the
// weight of each set is kept for the next checks.
func (m *model) sum(evs []observed, keep bool) posterior {
	n := len(m.active)
	odds := append([]float64(nil), m.odds...)
	var terms []*term
	sound, other := sizeFactor[0], otherFactor
	for i := range evs {
		sound *= evs[i].sound
		other *= evs[i].other
		if evs[i].apart() {
			for k := range odds {
				odds[k] *= evs[i].alone(k)
			}
		}
		for t := range evs[i].terms {
			terms = append(terms, &evs[i].terms[t])
		}
	}
	T := len(terms)
	speaks := make([][]speech, n)
	for k := 0; k < n; k++ {
		for t, tm := range terms {
			if tm.g[k] > 0 {
				speaks[k] = append(speaks[k], speech{t, 1 - tm.g[k], tm.g[k], tm.e[k]})
			}
		}
	}
	p := posterior{n: n, marginal: make([]float64, n)}
	if keep {
		if m.room == nil {
			p.weight = make([]float64, 0, 1+n+n*(n-1)/2+n*(n-1)*(n-2)/6)
		} else {
			p.weight = m.room[:0]
		}
	}
	out := func(w float64) {
		if keep {
			p.weight = append(p.weight, w)
		}
	}
	total := sound + other
	p.empty, p.other = sound, other
	out(total)

	// state of one cause, then of two
	Ni, Gi, Ei, Ri := make([]float64, T), make([]float64, T), make([]float64, T), make([]float64, T)
	state := make([]struct{ n, g, e, inv float64 }, T) // of two, side by side for the innermost loop
	for i := 0; i < n; i++ {
		for t := 0; t < T; t++ {
			Ni[t], Gi[t], Ei[t], Ri[t] = 1, 0, 0, 1
		}
		wi := odds[i]
		for _, s := range speaks[i] {
			Ni[s.t], Gi[s.t], Ei[s.t] = s.q, s.g, s.e
			Ri[s.t] = s.q + (1-s.q)*s.e/s.g
			wi *= Ri[s.t]
		}
		single := wi * sizeFactor[1]
		total += single
		p.marginal[i] += single
		out(single)
		for j := i + 1; j < n; j++ {
			pij := m.pair[i*n+j]
			wij := wi * odds[j] * pij
			if wij == 0 {
				if keep {
					for z := 0; z < n-j; z++ {
						out(0)
					}
				}
				continue
			}
			for t := range state {
				state[t].n, state[t].g, state[t].e, state[t].inv = Ni[t], Gi[t], Ei[t], Ri[t]
			}
			for _, s := range speaks[j] {
				N, G, E := Ni[s.t]*s.q, Gi[s.t]+s.g, Ei[s.t]+s.e
				r := N + (1-N)*E/G
				wij *= r / Ri[s.t]
				state[s.t].n, state[s.t].g, state[s.t].e, state[s.t].inv = N, G, E, r
			}
			for t := range state {
				state[t].inv = 1 / state[t].inv
			}
			pairW := wij * sizeFactor[2]
			total += pairW
			p.marginal[i] += pairW
			p.marginal[j] += pairW
			out(pairW)
			base := wij * sizeFactor[3]
			acc := 0.0
			withI, withJ := m.pair[i*n:][:n], m.pair[j*n:][:n]
			for k := j + 1; k < n; k++ {
				w := base * odds[k] * withI[k] * withJ[k]
				if w != 0 {
					for _, s := range speaks[k] {
						at := &state[s.t]
						N := at.n * s.q
						w *= (N + (1-N)*(at.e+s.e)/(at.g+s.g)) * at.inv
					}
					acc += w
					p.marginal[k] += w
				}
				if keep {
					p.weight = append(p.weight, w)
				}
			}
			total += acc
			p.marginal[i] += acc
			p.marginal[j] += acc
		}
	}
	if !(total > 0) || math.IsInf(total, 0) {
		// Nothing is possible: say so evenly rather than with a NaN.
		total = 1
	}
	p.empty /= total
	p.other /= total
	for i := range p.marginal {
		p.marginal[i] /= total
	}
	for i := range p.weight {
		p.weight[i] /= total
	}
	return p
}

// soundShare is the share of the empty set in which nothing is wrong.
func (p posterior) soundShare() float64 { return p.empty / (p.empty + p.other) }

// set is one combination of active causes with its chance.
type set struct {
	members [3]int
	size    int
	p       float64
}

// heaviest returns the sets that together carry at least the given mass, at most limit of them, normalised, and the
// mass that they carry. Weights are first counted by size, an eighth of an octave a class, so that only the heavy ones
// are sorted.
func (p posterior) heaviest(mass float64, limit int) ([]set, float64) {
	const least, class = 1e-7, 49 // the bits of a float64 from here up: sign, exponent, three of the mantissa
	base := math.Float64bits(least) >> class
	var count [200]int
	var carries [200]float64
	for _, w := range p.weight {
		if w > least {
			c := min(int(math.Float64bits(w)>>class-base), len(count)-1)
			count[c]++
			carries[c] += w
		}
	}
	from, n, sum := len(count)-1, 0, 0.0
	for ; from > 0; from-- {
		n, sum = n+count[from], sum+carries[from]
		if n >= limit || sum >= mass {
			break
		}
	}
	cut := math.Max(least, math.Float64frombits((base+uint64(from))<<class))
	all := make([]set, 0, n)
	at := 0
	next := func(size, i, j, k int) {
		if w := p.weight[at]; w >= cut {
			all = append(all, set{[3]int{i, j, k}, size, w})
		}
		at++
	}
	next(0, 0, 0, 0)
	for i := 0; i < p.n; i++ {
		next(1, i, 0, 0)
		for j := i + 1; j < p.n; j++ {
			next(2, i, j, 0)
			row := p.weight[at : at+p.n-j-1]
			for k, w := range row {
				if w >= cut {
					all = append(all, set{[3]int{i, j, j + 1 + k}, 3, w})
				}
			}
			at += len(row)
		}
	}
	sort.Slice(all, func(a, b int) bool { return all[a].p > all[b].p })
	carried := 0.0
	for i := range all {
		carried += all[i].p
		if carried >= mass || i+1 == limit {
			all = all[:i+1]
			break
		}
	}
	for i := range all {
		all[i].p /= carried
	}
	return all, carried
}
