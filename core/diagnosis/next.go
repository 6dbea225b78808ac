package diagnosis

import (
	"math"
	"sort"
	"strconv"

	"hodos/core/knowledge"
)

// Outcome is what one answer of a check would do.
type Outcome struct {
	Label  string  // the value, or the band of a number
	Chance float64 // how likely that answer is now
	Causes []SetP  // the causes that it moves most, with their chance after it; exact for the first check
	at     int     // which outcome of the finding
}

// SetP is a cause with a probability.
type SetP struct {
	ID          string
	Probability float64
}

// NextCheck is one handling worth doing, with the finding that tells most.
type NextCheck struct {
	Finding   string
	Also      []string // further findings of the same handling that tell something
	Station   string   // where on the visit it is done
	Procedure string
	GainBits  float64 // expected information about which causes are at work, of up to three findings together
	Worth     float64 // expected gain in the firm's money from what would be done after it against what would be done now
	Needed    string  // the likely cause whose remedy may not go without it; "" for none
	Minutes   float64 // the set-up, unless already paid on this visit, and the findings
	Decides   bool    // an answer can move a cause across the point from which acting pays
	Days      int     // for samples
	Outcomes  []Outcome
	item      int // for lists the item asked for; −1 otherwise
}

// feature is one thing that can be read off: a finding, or one item of a list.
type feature struct {
	kinds
	cf    *knowledge.Table
	item  int         // for lists; −1 otherwise
	p     [][]float64 // by outcome and kind
	gain  float64
	label []string
}

const (
	worthBits   = .01  // less than this is not worth a walk (judgement)
	hopeless    = .004 // what only causes speak of that are together less likely than this is not looked at (judgement)
	together    = 5    // so many checks are looked at together before nothing is said to change a decision (judgement)
	worthChance = .005 // an answer less likely than this is not waited for (judgement)
)

// ask is what the next checks depend on beside the causes.
type ask struct {
	known map[string]knowledge.Value
	skip  map[string]bool // findings that cannot be had
	tools map[string]bool // procedures that cannot be done are false
	at    string          // the station where the specialist stands, or ""
	bare  bool            // leave out what each outcome would do to the causes
}

// ranked is what is left to check.
type ranked struct {
	checks  []NextCheck // the one worth most for its price first
	settled bool        // no answer can carry a cause across its point of action any more, and no remedy of a likely cause waits for its proof
	enough  bool        // settled, or what is left would hardly change anything
	left    map[string][]feature
}

// rank orders the handlings by what they are worth for the decision over their price, over the sets that carry the mass.
func (m *model) rank(sets []set, a ask) (out ranked) {
	now := m.marginals(sets, nil)
	out.left = m.readable(sets, a, now)
	begun := begunBy(a.known)
	earned := m.acting(now, "")
	out.settled, out.enough = true, true
	for _, proc := range knowledge.Procedures() {
		c, ok := m.check(proc, out.left[proc.ID], sets, now, earned)
		if !ok {
			continue
		}
		c.Minutes = minutesOf(&c, proc, begun[proc.ID], a.at)
		if a.bare {
			c.Outcomes = nil
		}
		if c.Needed != "" || c.Worth >= hardly*m.stake.worth {
			out.enough = false
		}
		if c.Decides || c.Needed != "" || c.Worth >= DecidesFrom*m.stake.worth {
			out.settled = false
		}
		out.checks = append(out.checks, c)
	}
	if out.settled && len(out.checks) > 0 && m.togetherCross(now, out.left, sets) {
		out.settled = false
	}
	if out.settled {
		out.checks, out.enough = nil, true // nothing is offered that can change nothing
		return out
	}
	sort.SliceStable(out.checks, func(a, b int) bool {
		if na, nb := out.checks[a].Needed != "", out.checks[b].Needed != ""; na != nb {
			return na
		}
		return out.checks[a].score(&m.stake) > out.checks[b].score(&m.stake)
	})
	out.enough = out.enough && m.togetherGain(earned, out.left, sets) < hardly*m.stake.worth
	return out
}

// begunBy are the procedures of which something is known: their set-up is paid.
func begunBy(known map[string]knowledge.Value) map[string]bool {
	begun := map[string]bool{}
	for id := range known {
		if f, ok := knowledge.FindingByID(id); ok {
			begun[f.Procedure] = true
		}
	}
	return begun
}

// readable are the features that can still be read off, by procedure, the most telling first.
func (m *model) readable(sets []set, a ask, now []float64) map[string][]feature {
	out := map[string][]feature{}
	all := knowledge.Findings()
	for fi := range all {
		f := &all[fi]
		if _, done := a.known[f.ID]; done || a.skip[f.ID] || f.Kind == knowledge.CauseIDs || f.Steers {
			continue
		}
		if able, said := a.tools[f.Procedure]; said && !able || !f.Sensible(a.known, m.turf == 1) {
			continue
		}
		out[f.Procedure] = append(out[f.Procedure], m.features(&knowledge.Tables[knowledge.TableAt[f.ID]], sets, now)...)
	}
	for _, fs := range out {
		sort.SliceStable(fs, func(a, b int) bool { return fs[a].gain > fs[b].gain })
	}
	return out
}

// check makes one handling's check of its features: led by the one that is worth most.
func (m *model) check(proc knowledge.Procedure, fs []feature, sets []set, now []float64, earned float64) (c NextCheck, ok bool) {
	if len(fs) == 0 {
		return c, false
	}
	lead, money := m.leading(fs, sets, earned)
	c.Worth = money
	fs[0], fs[lead] = fs[lead], fs[0]
	top := []feature{fs[0]}
	seen := map[string]bool{fs[0].cf.ID: true}
	for _, f := range fs[1:] {
		if len(top) < 3 && f.gain >= .25*fs[0].gain && (!seen[f.cf.ID] || f.item >= 0) {
			top = append(top, f)
			seen[f.cf.ID] = true
		}
	}
	c.Finding, c.Station, c.Procedure, c.Days, c.item = fs[0].cf.ID, fs[0].cf.Finding.Station, proc.ID, proc.Days, fs[0].item
	c.GainBits = round3(jointGain(top, sets))
	for id := range seen {
		if cause, p := m.proofFor(id, now); cause >= 0 && p >= math.Min(m.act[cause], likelyEnough) {
			c.Needed = knowledge.CauseTable[cause].ID
		}
		if id != c.Finding {
			c.Also = append(c.Also, id)
		}
	}
	sort.Strings(c.Also)
	if c.Needed == "" && (c.GainBits < worthBits || c.Worth+bitWorth*m.stake.worth*c.GainBits < leastWorth*m.stake.worth) {
		return c, false
	}
	m.outcomes(&c, top, sets, now)
	c.Worth = math.Round(c.Worth*100) / 100
	return c, true
}

// likelyEnough is the chance from which the proof of a cause is said to be needed, at the latest (judgement).
const likelyEnough = .5

// hardly is the expected gain, as a share of the worth at stake, of a check, or of the most telling ones together, under which a visit has
// found out enough: the visits played with it take a quarter less time and lose a twenty-fifth more money (docs/simulation.md; judgement).
const hardly = .0005

// DecidesFrom is the expected gain, as a share of the worth at stake, from which a check still has something to decide (judgement).
const DecidesFrom = .003

// looked is how many features of a handling are weighed in money, and furtherItem what each further item of one list adds of its own
// worth: they are read off at one look, and part of what they tell is the same (judgement).
const (
	looked      = 6
	furtherItem = .5
)

// leading is the feature of a handling by which it is asked for, and what its finding gains in money: the items of a list together.
func (m *model) leading(fs []feature, sets []set, earned float64) (lead int, money float64) {
	type sum struct {
		at           int
		money, worth float64
	}
	byFinding := map[string]*sum{}
	best := -1.0
	for i := range fs[:min(looked, len(fs))] {
		own := m.gainOf(&fs[i], sets, earned)
		worth := own + bitWorth*m.stake.worth*fs[i].gain
		s, more := byFinding[fs[i].cf.ID]
		if !more {
			s = &sum{at: i, money: own, worth: worth}
			byFinding[fs[i].cf.ID] = s
		} else {
			s.money += furtherItem * own
			s.worth += furtherItem * worth
		}
		if s.worth > best {
			lead, money, best = s.at, s.money, s.worth
		}
	}
	return lead, money
}

// outcomes fills in what the answers of the leading feature would do, and whether an answer changes a decision.
func (m *model) outcomes(c *NextCheck, top []feature, sets []set, now []float64) {
	for i := range top {
		for o, row := range top[i].p {
			q := top[i].chance(row)
			if q < worthChance {
				continue
			}
			then := m.marginalsInto(m.scratch, sets, top[i].of, row)
			if m.crosses(now, then) {
				c.Decides = true
			}
			if i == 0 {
				c.Outcomes = append(c.Outcomes, Outcome{Label: top[0].label[o], Chance: math.Round(q*1000) / 1000, Causes: m.moved(now, then), at: o})
			}
		}
	}
	sort.SliceStable(c.Outcomes, func(a, b int) bool { return c.Outcomes[a].Chance > c.Outcomes[b].Chance })
}

// minutesOf is what a handling takes: its set-up unless that is paid, the way to its station, and its findings.
func minutesOf(c *NextCheck, proc knowledge.Procedure, begun bool, at string) float64 {
	minutes := proc.Setup
	if begun {
		minutes = 0
	}
	if at != "" && at != c.Station {
		minutes += knowledge.MoveMinutes
	}
	for _, id := range append([]string{c.Finding}, c.Also...) {
		f, _ := knowledge.FindingByID(id)
		minutes += f.Minutes
	}
	return math.Round(minutes*10) / 10
}

// crosses reports whether an answer changes a decision: a cause moves across the point from which acting on it pays, or
// another cause, or nothing at all, comes to lead.
func (m *model) crosses(now, then []float64) bool {
	if a, b := leader(now), leader(then); a != b && (a < 0 || b < 0 || then[b] > then[a]+.02) {
		return true
	}
	for k, ci := range m.active {
		t := m.act[ci]
		if (now[k] >= t) != (then[k] >= t) && math.Abs(now[k]-then[k]) > .05 {
			return true
		}
	}
	return false
}

// mostTelling are the few features that tell most of all that is left.
func mostTelling(left map[string][]feature) (best []feature) {
	for _, proc := range knowledge.Procedures() {
		fs := left[proc.ID]
		best = append(best, fs[:min(2, len(fs))]...)
	}
	sort.SliceStable(best, func(a, b int) bool { return best[a].gain > best[b].gain })
	return best[:min(together, len(best))]
}

// togetherGain is the expected gain in money from the answers of the most telling checks taken together, where no single one gains
// anything: what two or three small hints can still turn.
func (m *model) togetherGain(earned float64, left map[string][]feature, sets []set) float64 {
	best := mostTelling(left)
	var gained func(i int, chance []float64) float64
	gained = func(i int, chance []float64) float64 {
		q := 0.0
		for s := range sets {
			q += sets[s].p * chance[s]
		}
		if i == len(best) || q < worthChance {
			return q * m.acting(m.marginalsInto(m.scratch, sets, nil, chance), "")
		}
		sum := 0.0
		for _, row := range best[i].p {
			next := make([]float64, len(sets))
			for s := range sets {
				next[s] = chance[s] * row[best[i].of[s]]
			}
			sum += gained(i+1, next)
		}
		return sum
	}
	return max(0, gained(0, evenly(len(sets)))-earned)
}

// evenly is a chance of one for each of n sets.
func evenly(n int) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = 1
	}
	return out
}

// togetherCross reports whether the answers of the most telling checks, taken together, can still change a decision where
// no single one can.
func (m *model) togetherCross(now []float64, left map[string][]feature, sets []set) bool {
	best := mostTelling(left)
	var walk func(i int, chance []float64) bool
	walk = func(i int, chance []float64) bool {
		q := 0.0
		for s := range sets {
			q += sets[s].p * chance[s]
		}
		if q < worthChance {
			return false
		}
		if i > 1 && m.crosses(now, m.marginals(sets, chance)) {
			return true
		}
		if i == len(best) {
			return false
		}
		for _, row := range best[i].p {
			next := make([]float64, len(sets))
			for s := range sets {
				next[s] = chance[s] * row[best[i].of[s]]
			}
			if walk(i+1, next) {
				return true
			}
		}
		return false
	}
	return walk(0, evenly(len(sets)))
}

// leader is the most probable of the marginals; −1 when none reaches a fifth, so that nothing leads yet.
func leader(p []float64) int {
	if at := most(p); at >= 0 && p[at] >= .2 {
		return at
	}
	return -1
}

// most is the most probable of the marginals; −1 of none.
func most(p []float64) int {
	at := -1
	for k := range p {
		if at < 0 || p[k] > p[at] {
			at = k
		}
	}
	return at
}

// marginals are the causes' probabilities over the sets, after an outcome with the given chance in each set.
func (m *model) marginals(sets []set, row []float64) []float64 {
	return m.marginalsInto(make([]float64, len(m.active)), sets, nil, row)
}

// marginalsInto is marginals with room for the result. Where of is given, row has a chance for each kind, and of is the kind of each set.
func (m *model) marginalsInto(out []float64, sets []set, of []int32, row []float64) []float64 {
	clear(out)
	total := 0.0
	for s := range sets {
		w := sets[s].p
		switch {
		case of != nil:
			w *= row[of[s]]
		case row != nil:
			w *= row[s]
		}
		total += w
		for k := 0; k < sets[s].size; k++ {
			out[sets[s].members[k]] += w
		}
	}
	if total > 0 {
		for k := range out {
			out[k] /= total
		}
	}
	return out
}

// features lists what can be read off a finding, with the chance of each outcome in each kind of set.
// A finding of which only causes speak that are next to impossible now has none.
func (m *model) features(cf *knowledge.Table, sets []set, now []float64) []feature {
	rows := m.rows(cf, -1)
	speak := 0.0
	for k, d := range rows {
		if d != nil {
			speak += now[k]
		}
	}
	waited, _ := m.proofFor(cf.ID, now)
	if speak < hopeless && waited < 0 {
		return nil
	}
	if cf.Finding.Kind == knowledge.AnyOf {
		return m.items(cf, sets, now)
	}
	for k, d := range rows {
		m.speaking[k] = d != nil
	}
	ft := feature{cf: cf, item: -1, p: make([][]float64, len(cf.Background.P)), label: m.outcomeLabels(cf)}
	var which []set
	ft.kinds, which = kindsOf(sets, m.speaking, &m.pairKinds)
	for v := range ft.p {
		ft.p[v] = make([]float64, len(which))
	}
	for x, w := range which {
		N, G := 1.0, 0.0
		for _, k := range w.members[:max(0, w.size)] {
			N *= 1 - rows[k].Grip
			G += rows[k].Grip
		}
		for v := range ft.p {
			p := N * cf.Background.P[v]
			if G > 0 {
				mix := 0.0
				for _, k := range w.members[:w.size] {
					mix += rows[k].Grip * rows[k].P[v]
				}
				p += (1 - N) * mix / G
			}
			if w.size < 0 {
				p *= m.onEmpty(cf, -1, v)
			}
			ft.p[v][x] = p
		}
	}
	if ft.bound(ft.p) < worthBits/4 && waited < 0 {
		return nil
	}
	ft.gain = ft.told(ft.p)
	return []feature{ft}
}

// items are the features of a list: each of its items is there or is not.
func (m *model) items(cf *knowledge.Table, sets []set, now []float64) (out []feature) {
	for vi, item := range cf.Values {
		if item == "none" {
			continue
		}
		rows := m.rows(cf, vi)
		likely, any := 0.0, false
		for k, d := range rows {
			m.speaking[k] = d != nil && d.P[vi] > 0
			if m.speaking[k] {
				likely, any = likely+now[k], true
			}
		}
		if !any || likely < hopeless {
			continue
		}
		leak := cf.Leak(vi)
		k, which := kindsOf(sets, m.speaking, &m.pairKinds)
		present, absent := make([]float64, len(which)), make([]float64, len(which))
		for x, w := range which {
			q := 1 - leak
			if w.size < 0 {
				q = 1 - leak*m.onEmpty(cf, vi, 0)
			}
			for _, k := range w.members[:max(0, w.size)] {
				q *= 1 - math.Min(rows[k].P[vi]*rows[k].Grip, .985)
			}
			present[x], absent[x] = 1-q, q
		}
		ft := feature{kinds: k, cf: cf, item: vi, p: [][]float64{present, absent}, label: []string{item, "not " + item}}
		if ft.bound(ft.p) < worthBits/4 {
			continue
		}
		ft.gain = ft.told(ft.p)
		out = append(out, ft)
	}
	return out
}

// rows are what the causes say of a finding, or of one item of a list, with what is left of them beside what was told.
func (m *model) rows(cf *knowledge.Table, item int) []*knowledge.Dist {
	rows := make([]*knowledge.Dist, len(m.active))
	grip := make([]float64, len(m.active))
	for k, ci := range m.active {
		if d := cf.ByCause[ci][m.turf]; d != nil {
			rows[k] = d
			grip[k] = d.Grip
			if item >= 0 {
				grip[k] *= d.P[item]
			}
		}
	}
	word := ""
	if item >= 0 {
		word = cf.Values[item]
	} else if cf.Finding.Kind == knowledge.AnyOf {
		return rows
	}
	left := m.fresh(cf.ID, word, grip)
	for k := range left {
		if rows[k] == nil || left[k] == 1 {
			continue
		}
		d := *rows[k]
		d.Grip *= math.Max(left[k], stillTells)
		rows[k] = &d
	}
	return rows
}

// stillTells is what another look at a fact is worth at least, before it is known what it shows (judgement).
const stillTells = .1

// onEmpty is what an outcome says of the empty set, against the background.
func (m *model) onEmpty(cf *knowledge.Table, item, outcome int) float64 {
	s, ok := knowledge.SoundnessOf[cf.Finding.ID]
	if !ok || s.Awake && m.sleeps() {
		return 1
	}
	sound, other := s.Sound, s.Other
	switch {
	case item >= 0 && (outcome != 0 || !s.Words[cf.Values[item]]):
		return 1
	case item >= 0:
	case cf.Finding.Kind == knowledge.Number:
		sound, other = s.Factors(knowledge.NumberValue(cf.Within(outcome)))
	default:
		sound, other = s.Factors(knowledge.WordValue(cf.Values[outcome]))
	}
	return m.sound*sound + (1-m.sound)*other
}

func (m *model) outcomeLabels(cf *knowledge.Table) []string {
	if cf.Finding.Kind != knowledge.Number {
		return cf.Values
	}
	relation, relative := m.relations[cf.Finding.ID]
	above, against := m.known[cf.Finding.Against]
	s := func(x float64) string {
		switch {
		case relative:
			x = round1(relation.Back(x))
		case against:
			x = round1(*above.Number - x)
		}
		return strconv.FormatFloat(x, 'g', -1, 64)
	}
	cuts := cf.Finding.Bands
	first, last := "under "+s(cuts[0]), s(cuts[len(cuts)-1])+" and more"
	if against {
		first, last = s(cuts[0])+" and more", "under "+s(cuts[len(cuts)-1])
	}
	out := []string{first}
	for i := 1; i < len(cuts); i++ {
		low, high := s(cuts[i-1]), s(cuts[i])
		if against {
			low, high = high, low
		}
		out = append(out, low+" to "+high)
	}
	return append(out, last)
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }

// Bundle picks from ranked checks those to make at one stop: the first, and the others of its station that tell at
// least a third as much for their minutes, so that nobody walks back and forth (judgement).
func Bundle(checks []NextCheck) []NextCheck {
	var out []NextCheck
	for _, c := range checks {
		if c.Station == checks[0].Station && (c.GainBits/c.Minutes >= checks[0].GainBits/checks[0].Minutes/3 || len(out) == 0) {
			out = append(out, c)
		}
	}
	return out
}
