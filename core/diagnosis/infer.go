package diagnosis

import (
	"cmp"
	"math"
	"slices"
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

// pairs that travel together (factor above 1) or cannot be together (0) in one zone at one time.
type pairRow struct {
	a, b   string
	factor float64
	why    string
}

// term is one observed value, ready for the sum: for each active cause its grip and e = gᵢ dᵢ(v)/b(v).
type term struct {
	g, e []float64
}

// evidence is one finding as observed: terms to be summed exactly, and a factor of each cause by itself for the items
// that were looked for and not seen.
type evidence struct {
	finding string
	value   Value
	terms   []term
	unary   []float64 // nil when all are 1
	weighed bool
}

// speech is one cause's share in one term.
type speech struct {
	t       int
	q, g, e float64
}

// model is the knowledge cut down to one lawn: the causes that can occur there and their odds.
type model struct {
	active []int // indices into causes
	odds   []float64
	pair   []float64 // n×n factors
	turf   int       // 0 cool, 1 warm
	lawn   Lawn
	act    []float64 // by cause: the chance from which acting on it pays
	room   []float64 // for the weights of the next sum, when those of the last are no longer wanted
}

func newModel(l Lawn, odds func(i int) float64) *model {
	m := &model{lawn: l}
	if isWarm(l) {
		m.turf = 1
	}
	m.act = make([]float64, len(causes))
	m.price(DefaultPrices, damage(l, nil))
	at := map[string]int{}
	for i := range causes {
		o := odds(i)
		if o <= 0 {
			continue
		}
		at[causes[i].ID] = len(m.active)
		m.active = append(m.active, i)
		m.odds = append(m.odds, o)
	}
	n := len(m.active)
	m.pair = make([]float64, n*n)
	for i := range m.pair {
		m.pair[i] = 1
	}
	for _, p := range pairs {
		a, okA := at[p.a]
		b, okB := at[p.b]
		if okA && okB {
			m.pair[a*n+b], m.pair[b*n+a] = p.factor, p.factor
		}
	}
	return m
}

// price sets the marks from which acting pays.
func (m *model) price(p Prices, area float64) {
	for i := range causes {
		m.act[i] = MarksFor(causes[i].ID, p, area, m.turf == 1).Act
	}
}

// observe compiles one found value. ok is false when no active cause speaks of it.
func (m *model) observe(id string, v Value) (ev evidence) {
	ev = evidence{finding: id, value: v}
	at, ok := compiledAt[id]
	if !ok {
		return ev
	}
	cf := &compiled[at]
	n := len(m.active)
	blank := func() term { return term{g: make([]float64, n), e: make([]float64, n)} }
	row := func(k int) *dist {
		return cf.byCause[m.active[k]][m.turf]
	}
	switch cf.f.Kind {
	case AnyOf, CauseIDs:
		ev.unary = make([]float64, n)
		for k := range ev.unary {
			ev.unary[k] = 1
		}
		for vi, item := range cf.values {
			if item == "none" {
				continue
			}
			b := cf.leak(vi)
			seen := index(v.List, item) >= 0
			t, speaks := blank(), false
			for k := 0; k < n; k++ {
				d := row(k)
				if d == nil || d.p[vi] == 0 {
					continue
				}
				g := math.Min(d.p[vi]*d.grip, .985)
				speaks = true
				if seen {
					t.g[k], t.e[k] = g, g/b
				} else {
					ev.unary[k] *= 1 - g
				}
			}
			if speaks {
				ev.weighed = true
				if seen {
					ev.terms = append(ev.terms, t)
				}
			}
		}
	default:
		t := blank()
		b := cf.chance(&cf.background, v)
		for k := 0; k < n; k++ {
			if d := row(k); d != nil {
				t.g[k], t.e[k] = d.grip, d.grip*cf.chance(d, v)/b
				ev.weighed = true
			}
		}
		if ev.weighed {
			ev.terms = []term{t}
		}
	}
	return ev
}

// chance is the probability, or for numbers the density, of a value.
func (cf *compiledFinding) chance(d *dist, v Value) float64 {
	switch {
	case d.number:
		return cf.density(d, *v.Number)
	case v.Yes != nil:
		if *v.Yes {
			return d.p[0]
		}
		return d.p[1]
	}
	at := index(cf.values, v.Word)
	if at < 0 {
		return 1
	}
	return d.p[at]
}

// posterior is the exact sum over all sets of up to three causes.
type posterior struct {
	n        int
	marginal []float64 // by active cause
	empty    float64   // chance of no cause
	weight   []float64 // by set, normalised, in the order of the loops; nil unless kept
}

// sum weighs every set. It runs in O(n³/6) times the number of terms that the third cause speaks of; with keep the
// weight of each set is kept for the next checks.
func (m *model) sum(evs []evidence, keep bool) posterior {
	n := len(m.active)
	odds := append([]float64(nil), m.odds...)
	var terms []*term
	for i := range evs {
		for k, u := range evs[i].unary {
			odds[k] *= u
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
	total := sizeFactor[0]
	p.empty = sizeFactor[0]
	out(p.empty)

	// state of one cause, then of two
	Ni, Gi, Ei, Ri := make([]float64, T), make([]float64, T), make([]float64, T), make([]float64, T)
	Nj, Gj, Ej, inv := make([]float64, T), make([]float64, T), make([]float64, T), make([]float64, T)
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
			copy(Nj, Ni)
			copy(Gj, Gi)
			copy(Ej, Ei)
			for t := 0; t < T; t++ {
				inv[t] = Ri[t]
			}
			for _, s := range speaks[j] {
				N, G, E := Ni[s.t]*s.q, Gi[s.t]+s.g, Ei[s.t]+s.e
				r := N + (1-N)*E/G
				wij *= r / Ri[s.t]
				Nj[s.t], Gj[s.t], Ej[s.t], inv[s.t] = N, G, E, r
			}
			for t := 0; t < T; t++ {
				inv[t] = 1 / inv[t]
			}
			pairW := wij * sizeFactor[2]
			total += pairW
			p.marginal[i] += pairW
			p.marginal[j] += pairW
			out(pairW)
			base := wij * sizeFactor[3]
			acc := 0.0
			for k := j + 1; k < n; k++ {
				w := base * odds[k] * m.pair[i*n+k] * m.pair[j*n+k]
				if w != 0 {
					for _, s := range speaks[k] {
						N := Nj[s.t] * s.q
						w *= (N + (1-N)*(Ej[s.t]+s.e)/(Gj[s.t]+s.g)) * inv[s.t]
					}
					acc += w
					p.marginal[k] += w
				}
				out(w)
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
	for i := range p.marginal {
		p.marginal[i] /= total
	}
	for i := range p.weight {
		p.weight[i] /= total
	}
	return p
}

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
	slices.SortFunc(all, func(a, b set) int { return cmp.Compare(b.p, a.p) })
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
