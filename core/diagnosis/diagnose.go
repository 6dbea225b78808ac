package diagnosis

import (
	"math"
	"slices"
	"sort"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/sky"
	"hodos/core/units"
	"hodos/core/worth"
)

// Bits is one row of a cause's ledger.
type Bits struct {
	Finding string
	Value   knowledge.Value
	Bits    float64  // log₂ of the likelihood ratio; positive speaks for the cause
	With    []string // other findings that tell the same fact, which counts once
}

// CauseResult is one cause on the scales. PriorBits, NearbyBits, LearntBits, the rows of For and Against and TogetherBits add up to the
// log₂ odds of Probability.
type CauseResult struct {
	ID, Family   string
	Probability  float64
	PriorBits    float64 // log₂ odds from grass, month, place and watering
	Nearby       int     // confirmed cases round about in the last weeks
	NearbyBits   float64 // what they do to it
	LearntBits   float64 // what the firm's own closed cases do to it
	For, Against []Bits
	TogetherBits float64 // what the findings do together that they do not do one by one: explaining away, above all
}

// SetResult is one combination of causes.
type SetResult struct {
	Causes      []string
	Probability float64
}

// Result is a diagnosis.
type Result struct {
	Knowledge string
	say       units.Saying
	// Causes are all, healthy-turf included: what damages and is likelier than not, then the rest, each the most probable first. So a
	// state of the ground that is measured and sure stands behind the damage that it led to.
	Causes    []CauseResult
	Together  []SetResult // the most probable combinations
	Weather   []evidence.WeatherFinding
	Notices   []evidence.Notice
	Next      []NextCheck
	Changes   []Change // single answers that would change what leads
	Settled   bool     // no check can change a decision any more
	Enough    bool     // settled, or what is left to check would hardly change anything
	Other     float64  // chance that something else is wrong than any of the causes: not explained yet
	Values    map[string]knowledge.Value
	Lawn      knowledge.Lawn
	Prices    worth.Prices        // those that the marks come from
	Damage    float64             // the area at stake, m²
	Sky       sky.Sky             // weather and ground of the zone, as the findings were read off them
	Responses []evidence.Response // what came of what was done
}

// Marks are the chances from which checking and acting on a cause pay on this lawn.
func (r Result) Marks(cause string) worth.Marks {
	return worth.MarksFor(cause, r.Prices, r.Damage, knowledge.IsWarm(r.Lawn))
}

// P is the probability of a cause; 0 for an id that is none.
func (r Result) P(id string) float64 {
	for i := range r.Causes {
		if r.Causes[i].ID == id {
			return r.Causes[i].Probability
		}
	}
	return 0
}

// Options steer a diagnosis.
type Options struct {
	Tools    map[string]bool // procedures that cannot be done now are false; nil for all at hand
	At       string          // the station where the specialist stands; going elsewhere takes MoveMinutes
	Prices   *worth.Prices   // nil for those of the case, or DefaultPrices
	NoNext   bool            // leave the next checks out
	NoLedger bool            // leave the bits out
	Say      units.Saying    // how quantities are said in texts
}

// nearby is what confirmed cases of a cause round about do to its odds: half as much again for each, at most threefold, for six weeks
// (judgement).
func nearby(list []evidence.Nearby, cause string) float64 {
	factor := 1.0
	for _, n := range list {
		if n.Cause == cause && n.Weeks <= 6 {
			factor *= math.Min(3, 1+.5*float64(n.Count))
		}
	}
	return math.Min(3, factor)
}

// learnt is what a firm's own closed cases do to the odds of a cause: at most twice as much or half (judgement).
func learnt(list []evidence.Learnt, cause string) float64 {
	for _, l := range list {
		if l.Cause == cause && l.Factor > 0 {
			return math.Max(1/MostLearnt, math.Min(MostLearnt, l.Factor))
		}
	}
	return 1
}

// MostLearnt is how far the odds of a cause may be moved by a firm's own cases, up or down (judgement).
const MostLearnt = 2.0

// Diagnose weighs a case. It never fails: what is missing moves nothing, and what is odd is told in the notices. It costs
// O(n³) in the number of causes that the grass allows; see docs/performance.md.
func Diagnose(c evidence.Case, o Options) Result {
	g := evidence.Gather(c)
	m := newModel(g.Lawn, func(i int) float64 {
		cause := &knowledge.CauseTable[i]
		return knowledge.Prior(cause, g.Lawn, g.Values) * nearby(c.Context.Nearby, cause.ID) * learnt(c.Context.Learnt, cause.ID)
	})
	m.around = c.Context
	prices, aside := worth.Utilities(c.Context.Utilities)
	for _, name := range aside {
		g.Notices = append(g.Notices, evidence.Notice{About: "context.utilities",
			Text: name + " is not a known price or is out of range; the default is used"})
	}
	if o.Prices != nil {
		prices = *o.Prices
	}
	area := worth.Damage(g.Lawn, g.Values)
	m.price(prices, area)
	m.money(prices, area, g.Values)
	m.settle(g.Values)
	evs := m.observeAll(&g)
	post := m.sum(evs, !o.NoNext)

	r := Result{
		Knowledge: knowledge.Knowledge,
		say:       o.Say,
		Weather:   g.Weather,
		Notices:   g.Notices,
		Values:    g.Values,
		Lawn:      g.Lawn,
		Prices:    prices,
		Damage:    area,
		Sky:       g.Sky,
		Responses: g.Responses,
	}
	m.sound, r.Other = post.soundShare(), post.other
	r.Causes = m.results(evs, post, o.NoLedger)
	if !o.NoLedger && !o.NoNext {
		r.Notices = append(r.Notices, m.misread(&r, evs, post)...)
	}
	if !o.NoNext {
		sets, _ := post.heaviest(.98, 600)
		for i := 0; i < len(sets) && i < 5; i++ {
			s := SetResult{Probability: sets[i].p, Causes: []string{}}
			for k := 0; k < sets[i].size; k++ {
				s.Causes = append(s.Causes, knowledge.CauseTable[m.active[sets[i].members[k]]].ID)
			}
			r.Together = append(r.Together, s)
		}
		next := m.rank(sets, ask{known: g.Values, tools: o.Tools, at: o.At})
		r.Next, r.Settled, r.Enough = next.checks, next.settled, next.enough
		r.Changes = m.wouldChange(sets, next.left)
		if len(r.Next) > 0 {
			m.exact(post, post.marginal, &r.Next[0])
		}
	}
	return r
}

// observeAll compiles the evidence in a fixed order and says which findings weigh nothing.
func (m *model) observeAll(g *evidence.Gathered) []observed {
	names := make([]string, 0, len(g.Values))
	for id := range g.Values {
		names = append(names, id)
	}
	sort.Strings(names)
	m.beside, m.known = g.Beside, g.Values
	var evs []observed
	for _, id := range names {
		ev := m.observe(id, g.Values[id])
		if read, ok := g.Read[id]; ok {
			ev.value = read
		}
		if ev.weighed || ev.sound != 1 {
			evs = append(evs, ev)
		} else if f, ok := knowledge.FindingByID(id); ok && f.Asked() && !f.Steers {
			g.Notices = append(g.Notices, evidence.Notice{About: id, Text: "saved; it does not affect any cause possible on this grass"})
		}
	}
	return m.once(evs)
}

func (m *model) results(evs []observed, post posterior, noLedger bool) []CauseResult {
	out := make([]CauseResult, 0, len(knowledge.CauseTable)+1)
	at := map[int]int{}
	for k, ci := range m.active {
		at[ci] = k
	}
	var before posterior
	var alone [][]float64
	if !noLedger {
		before = m.sum(nil, false)
		alone = m.aloneBits(evs)
	}
	for ci := range knowledge.CauseTable {
		cr := CauseResult{ID: knowledge.CauseTable[ci].ID, Family: knowledge.CauseTable[ci].Family}
		if k, ok := at[ci]; ok {
			cr.Probability = post.marginal[k]
			if !noLedger {
				cr.ledger(logit2(before.marginal[k]), logit2(cr.Probability), evs, k, func(e int) float64 { return alone[e][k] })
				cr.round(m.around)
			}
		}
		out = append(out, cr)
	}
	h := CauseResult{ID: knowledge.Healthy, Family: "look-alike", Probability: post.empty}
	if !noLedger {
		n := len(m.active)
		h.ledger(logit2(before.empty), logit2(post.empty), evs, n, func(e int) float64 { return alone[e][n] })
	}
	out = append(out, h)
	sort.SliceStable(out, func(a, b int) bool {
		if fa, fb := out[a].damages(), out[b].damages(); fa != fb {
			return fa
		}
		return out[a].Probability > out[b].Probability
	})
	return out
}

// carries is the chance from which a cause of damage stands before a state of the ground, however sure that is.
const carries = .5

// damages reports a cause that carries the damage: it is likelier than not, and no mere state of the ground or the stand.
func (c *CauseResult) damages() bool {
	return c.Probability >= carries && c.ID != knowledge.Healthy && !knowledge.Backdrop(c.ID)
}

// round takes what confirmed cases round about and the firm's own closed cases do out of what was thought before looking: they have rows of
// their own.
func (cr *CauseResult) round(around evidence.Context) {
	for _, n := range around.Nearby {
		if n.Cause == cr.ID && n.Weeks <= 6 {
			cr.Nearby += n.Count
		}
	}
	cr.NearbyBits = round2(math.Log2(nearby(around.Nearby, cr.ID)))
	cr.LearntBits = round2(math.Log2(learnt(around.Learnt, cr.ID)))
	cr.PriorBits = round2(cr.PriorBits - cr.NearbyBits - cr.LearntBits)
}

// ledger fills the rows of a cause, one a finding: what a fact that was told more than once comes to stands at the finding by which the
// cause speaks of it. Rows that round to nothing go into the row of what acts together, so that all still adds up.
func (cr *CauseResult) ledger(prior, post float64, evs []observed, k int, bits func(e int) float64) {
	cr.PriorBits = round2(prior)
	rest := round2(post) - cr.PriorBits
	rows := make([]Bits, len(evs))
	for e := range evs {
		at := e
		if evs[e].tells != nil {
			at = evs[e].speaks(k)
			for i, t := range evs[e].tells {
				if t != at && k < len(evs[e].shown[i]) && evs[e].shown[i][k] && evs[t].finding != evs[at].finding &&
					!slices.Contains(rows[at].With, evs[t].finding) {
					rows[at].With = append(rows[at].With, evs[t].finding)
				}
			}
		}
		rows[at].Finding, rows[at].Value = evs[at].finding, evs[at].value
		rows[at].Bits += bits(e)
	}
	for _, row := range rows {
		if row.Bits = round2(row.Bits); math.Abs(row.Bits) < .05 {
			continue
		}
		if row.Bits > 0 {
			cr.For = append(cr.For, row)
		} else {
			cr.Against = append(cr.Against, row)
		}
		rest -= row.Bits
	}
	sort.SliceStable(cr.For, func(a, b int) bool { return cr.For[a].Bits > cr.For[b].Bits })
	sort.SliceStable(cr.Against, func(a, b int) bool { return cr.Against[a].Bits < cr.Against[b].Bits })
	cr.TogetherBits = round2(rest)
}

// aloneBits is, for each finding and active cause (and last for the empty set), log₂ of P(finding | cause) over
// P(finding | not the cause), with all other causes at their priors, over sets of up to two.
func (m *model) aloneBits(evs []observed) [][]float64 {
	n := len(m.active)
	type pair struct {
		i, j int
		w    float64
	}
	sets := []pair{{-1, -1, sizeFactor[0] + otherFactor}}
	for i := 0; i < n; i++ {
		sets = append(sets, pair{i, -1, m.odds[i] * sizeFactor[1]})
		for j := i + 1; j < n; j++ {
			if w := m.odds[i] * m.odds[j] * m.pair[i*n+j] * sizeFactor[2]; w > 0 {
				sets = append(sets, pair{i, j, w})
			}
		}
	}
	base := make([]float64, n+1)
	total := 0.0
	add := func(into []float64, s pair, w float64) {
		if s.i < 0 {
			into[n] += w
			return
		}
		into[s.i] += w
		if s.j >= 0 {
			into[s.j] += w
		}
	}
	for _, s := range sets {
		add(base, s, s.w)
		total += s.w
	}
	out := make([][]float64, len(evs))
	for e := range evs {
		ev := &evs[e]
		with := make([]float64, n+1)
		all := 0.0
		gone, apart := make([]float64, n), ev.apart()
		for k := range gone {
			gone[k] = ev.alone(k)
		}
		for _, s := range sets {
			w := s.w
			if s.i >= 0 {
				if apart {
					w *= gone[s.i]
					if s.j >= 0 {
						w *= gone[s.j]
					}
				}
				for t := range ev.terms {
					w *= ev.terms[t].ratio(s.i, s.j)
				}
			}
			if s.i < 0 {
				w = sizeFactor[0]*ev.sound + otherFactor*ev.other
			}
			add(with, s, w)
			all += w
		}
		out[e] = make([]float64, n+1)
		for k := range out[e] {
			if base[k] > 0 && total > base[k] && all > with[k] && with[k] > 0 {
				out[e][k] = math.Log2(with[k]/base[k]) - math.Log2((all-with[k])/(total-base[k]))
			}
		}
	}
	return out
}

// ratio is P(v | set) / b(v) for one or two causes; j is −1 for one.
func (t *term) ratio(i, j int) float64 {
	N, G, E := 1-t.g[i], t.g[i], t.e[i]
	if j >= 0 {
		N, G, E = N*(1-t.g[j]), G+t.g[j], E+t.e[j]
	}
	if G == 0 {
		return 1
	}
	return N + (1-N)*E/G
}

func logit2(p float64) float64 {
	p = math.Max(1e-9, math.Min(1-1e-9, p))
	return math.Log2(p / (1 - p))
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }
