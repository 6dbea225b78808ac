package remedy

import (
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"

	"hodos/core/knowledge"
	"hodos/core/worth"
)

// plan is the advice while it is made.
type plan struct {
	s     *situation
	lines []Advice
	at    map[string]*Advice
}

// fact, answer, season, preventive and plan item with their compiled tests.
type fact struct {
	factRow
	holds test
}

type answer struct {
	answerRow
	holds test
}

type season struct {
	seasonRow
	holds, opens test
}

type preventive struct {
	preventiveRow
	asked, opens test
}

type item struct {
	verdict Verdict // do-now or schedule
	action  string
	holds   test
}

type mending struct {
	items  []item
	look   int
	decide string // finding that decides at the look
	mends  float64
}

var (
	factsOf       = map[string][]fact{}
	answersOf     = map[string][]answer{}
	seasonsOf     = map[string][]season{}
	preventivesOf = map[string][]preventive{}
	gatesOf       = map[string][]string{}
	plansOf       = map[string][2]*mending{} // by cause, for cool-season and warm-season turf
	stakesOf      = map[string]worth.Stake{}
)

func compileRows() {
	for _, rows := range [][]factRow{weedRows, factRows, learnRows} {
		for _, r := range rows {
			mustAct(r.action)
			factsOf[r.action] = append(factsOf[r.action], fact{r, compile(r.test)})
		}
	}
	for _, r := range answerRows {
		mustAct(r.action)
		if _, ok := knowledge.CauseByID(r.cause); !ok {
			panic("remedy: no cause " + r.cause)
		}
		answersOf[r.action] = append(answersOf[r.action], answer{r, compile(r.with)})
	}
	for _, r := range seasonRows {
		mustAct(r.action)
		seasonsOf[r.action] = append(seasonsOf[r.action], season{r, compile(r.applies), compile(r.open)})
	}
	for _, r := range preventiveRows {
		preventivesOf[r.action] = append(preventivesOf[r.action], preventive{r, compile(r.asks), compile(r.open)})
	}
	for _, n := range needs {
		mustAct(n.action)
		for _, g := range strings.Fields(n.gates) {
			if len(gateAt[g]) == 0 {
				panic("remedy: " + n.action + " needs the unknown gate " + g)
			}
			gatesOf[n.action] = append(gatesOf[n.action], g)
		}
	}
	for _, r := range priceRows {
		mustAct(r.action)
		stakesOf[r.action] = worth.Stake{Remedy: r.action, Material: r.material, WaterMM: r.waterMM, Setup: r.setup, Minutes: r.minutes}
	}
	for _, r := range planRows {
		if _, ok := knowledge.CauseByID(r.cause); !ok {
			panic("remedy: no cause " + r.cause)
		}
		m := mendingOf(r)
		pair := plansOf[r.cause]
		if strings.Contains(r.family, "C") {
			pair[0] = m
		}
		if strings.Contains(r.family, "W") {
			pair[1] = m
		}
		plansOf[r.cause] = pair
	}
}

func mustAct(id string) {
	if !Known(id) {
		panic("remedy: no action " + id)
	}
}

// mendingOf reads the items of a plan.
func mendingOf(r planRow) *mending {
	m := &mending{}
	for _, text := range strings.Split(r.items, ";") {
		text = strings.TrimSpace(text)
		head, cond, _ := strings.Cut(text, "[")
		words := strings.Fields(head)
		if len(words) == 0 {
			continue
		}
		switch words[0] {
		case "L":
			m.look, m.decide = atoi(words[1]), words[2]
			if _, ok := knowledge.FindingByID(m.decide); !ok {
				panic("remedy: no finding " + m.decide)
			}
		case "M":
			m.mends = float64(atoi(words[1]))
		case "D", "S":
			id, ok := short[words[1]]
			if !ok {
				panic("remedy: no short name " + words[1] + " in the plan of " + r.cause)
			}
			cond = strings.TrimSuffix(cond, "]")
			if words[1] == "dawn" {
				cond = dawnOnly
			}
			v := DoNow
			if words[0] == "S" {
				v = Schedule
			}
			m.items = append(m.items, item{v, id, compile(cond)})
		default:
			panic("remedy: " + text + " in the plan of " + r.cause)
		}
	}
	return m
}

func atoi(w string) int {
	n, err := strconv.Atoi(w)
	if err != nil {
		panic("remedy: " + w + " is no number")
	}
	return n
}

// sure is the chance from which a cause's plan is due; so it is when the laboratory has named it.
const sure = .6

// checkFrom is the chance under which not even a check is offered, as far as its price is not known (judgement).
const checkFrom = .2

// costly is the harm from which a check comes before the deed.
const costly = .25

// the break-even of an action is held to these.
const leastAct, mostAct = .2, .97

func (s *situation) mending(cause string) *mending {
	pair := plansOf[cause]
	if terms["warm"](s, 0) == yes {
		return pair[1]
	}
	return pair[0]
}

// wide are the families of causes whose worth at stake is the whole zone.
var wide = map[string]bool{"nutrient": true, "water-excess": true, "site-and-care": true}

// treats is the area that an action treats for a cause, m².
func (s *situation) treated(cause string) float64 {
	if c, ok := knowledge.CauseByID(cause); ok && wide[c.Family] {
		return s.area()
	}
	return s.damaged()
}

// acts is the chance of a cause from which this action pays: (what it hurts + price) over (what it saves + what it hurts), as shares
// of the worth at stake.
func (s *situation) acts(a *action, cause string, saves float64) float64 {
	area := s.treated(cause)
	price := s.r.Prices.Of(stakeFor(a.id), area) / (s.r.Prices.LawnM2 * area)
	return math.Max(leastAct, math.Min(mostAct, (a.hurts+price)/(saves+a.hurts)))
}

func stakeFor(id string) worth.Stake {
	if st, ok := stakesOf[id]; ok {
		return st
	}
	return worth.Stake{Remedy: id, Setup: 5}
}

// call is what the first pass finds: what calls for an action.
type call struct {
	verdict Verdict
	reason  string
	check   []string
	when    string // "in 14", "in survival-in": a date of its own
	causes  []string
	cause   string // the one that the gates ask about
	open    bool   // a preventive's season is open, so that it needs no other
	from    int    // of a preventive: days to its season
	to      int
	name    string
	fact    bool
}

// indicate is the first pass: facts first, then causes that are likely enough to pay, then the plan of a cause that is sure.
func (s *situation) indicate(a *action) (call, bool) {
	for _, f := range factsOf[a.id] {
		if f.holds(s, 0) != yes {
			continue
		}
		c := call{verdict: f.gives, fact: true}
		switch {
		case f.gives == CheckFirst:
			c.check = strings.Fields(f.check)
		case strings.HasPrefix(f.check, ownDate):
			c.when = strings.TrimPrefix(f.check, ownDate)
		case f.check != "":
			c.cause = f.check
			c.causes = []string{f.check}
		}
		s.about(c.cause, func() { c.reason = s.tell(f.reason, a) })
		if c.cause == "" {
			c.causes, c.cause = s.answered(a)
			if len(c.causes) == 0 && len(c.check) > 0 {
				c.causes = s.provedBy(c.check[0])
			}
		} else if f.gives == DoNow {
			s.beside(a, f, &c)
		}
		return c, true
	}
	if c, ok := s.likely(a); ok {
		return c, true
	}
	if c, ok := s.planned(a); ok {
		return c, true
	}
	if c, ok := s.prevents(a); ok {
		return c, true
	}
	return s.checks(a)
}

// beside adds the other causes that an action is called for by their own facts: two pests over the count are two reasons.
func (s *situation) beside(a *action, first fact, c *call) {
	for _, f := range factsOf[a.id] {
		if f.gives != DoNow || f.check == "" || f.check == first.check || f.holds(s, 0) != yes {
			continue
		}
		c.causes = append(c.causes, f.check)
		s.about(f.check, func() { c.reason += "; " + s.tell(f.reason, a) })
	}
}

// answered lists the likely causes that an action answers, the likeliest first.
func (s *situation) answered(a *action) (all []string, first string) {
	type likely struct {
		id string
		p  float64
	}
	var found []likely
	for _, x := range answersOf[a.id] {
		if p := s.r.P(x.cause); p >= .3 {
			found = append(found, likely{x.cause, p})
		}
	}
	sort.SliceStable(found, func(x, y int) bool { return found[x].p > found[y].p })
	for _, f := range found {
		all = append(all, f.id)
	}
	if len(all) > 0 {
		first = all[0]
	}
	return all, first
}

func (s *situation) likely(a *action) (call, bool) {
	best, c := 0.0, call{}
	for _, x := range answersOf[a.id] {
		p := s.r.P(x.cause)
		holds := no
		s.about(x.cause, func() { holds = x.holds(s, 0) })
		if holds != yes || p < s.bar(a, x) || p <= best {
			continue
		}
		best = p
		c = call{verdict: DoNow, causes: []string{x.cause}, cause: x.cause}
		s.about(x.cause, func() { c.reason = s.tell("for {it}, at {p}", a) })
	}
	return c, best > 0
}

// bar is the chance from which an answer is due: its break-even, or where the plan of the cause names it, certainty enough.
func (s *situation) bar(a *action, x answer) float64 {
	act := s.acts(a, x.cause, x.saves)
	if m := s.mending(x.cause); m != nil {
		for _, it := range m.items {
			if it.action == a.id {
				return math.Min(act, sure)
			}
		}
	}
	return act
}

// sureCauses are those whose plan is due, the likeliest first.
func (s *situation) sureCauses() (out []string) {
	for _, c := range s.r.Causes {
		if c.ID != knowledge.Healthy && (c.Probability >= sure || s.word(labNames) == c.ID && c.Probability >= .3) {
			out = append(out, c.ID)
		}
	}
	return out
}

func (s *situation) planned(a *action) (call, bool) {
	for _, cause := range s.sureCauses() {
		m := s.mending(cause)
		if m == nil {
			continue
		}
		for _, it := range m.items {
			holds := no
			s.about(cause, func() { holds = it.holds(s, 0) })
			if it.action != a.id || holds != yes {
				continue
			}
			c := call{verdict: it.verdict, causes: []string{cause}, cause: cause}
			s.about(cause, func() { c.reason = s.tell("for {it}, at {p}", a) })
			return c, true
		}
	}
	return call{}, false
}

// checks offers the check that proves a cause, where it is likely enough to be asked for and the deed would cost.
func (s *situation) checks(a *action) (call, bool) {
	if a.hurts < costly || a.group == reseed {
		return call{}, false
	}
	best, c := 0.0, call{}
	for _, x := range answersOf[a.id] {
		p := s.r.P(x.cause)
		if p < checkFrom || p <= best || p >= s.bar(a, x) {
			continue
		}
		holds := no
		s.about(x.cause, func() { holds = x.holds(s, 0) })
		open := s.openProof(x.cause)
		if holds == no || len(open) == 0 || x.with == "never" {
			continue
		}
		best = p
		c = call{verdict: CheckFirst, causes: []string{x.cause}, cause: x.cause, check: open}
		act := s.bar(a, x)
		s.about(x.cause, func() { c.reason = s.tell("{it} is at {p}; acting pays from "+percent(act), a) })
	}
	return c, best > 0
}

// provedBy is the likeliest cause that a check proves, as far as it is likely at all.
func (s *situation) provedBy(check string) []string {
	best, p := "", .1
	for _, x := range s.r.Causes {
		if x.Probability > p && slices.Contains(knowledge.ProvedBy(x.ID), check) {
			best, p = x.ID, x.Probability
		}
	}
	if best == "" {
		return nil
	}
	return []string{best}
}

// openProof lists the checks that prove a cause and were not made.
func (s *situation) openProof(cause string) (out []string) {
	for _, f := range knowledge.ProvedBy(cause) {
		if _, done := s.v[f]; !done {
			out = append(out, f)
		}
	}
	return out
}

// prevents finds the season of a preventive, nearest first: history alone opens it; what is named now is prevented next time.
func (s *situation) prevents(a *action) (call, bool) {
	best, found := call{}, false
	for _, x := range preventivesOf[a.id] {
		warm := terms["warm"](s, 0) == yes
		if warm && !strings.Contains(x.family, "W") || !warm && !strings.Contains(x.family, "C") {
			continue
		}
		past := history(s, 0, x.cause) == yes || s.word(labNames) == x.cause
		policy := holdsFor(wishOf, s, x.cause) == yes
		named := s.r.P(x.cause) >= sure
		if classIs(a.class, "counted") && named {
			past = past || s.over(x.cause, .5) == yes
			named = past
		}
		if !past && !policy && !named || x.asked(s, 0) != yes {
			continue
		}
		from, to, ok := s.next(func(k int) bool { return x.opens(s, k) == yes }, 0)
		if !ok {
			continue
		}
		if from == 0 && !past && !policy { // it shows already: the next year's
			if from, to, ok = s.next(func(k int) bool { return x.opens(s, k) == yes }, to+30); !ok {
				continue
			}
		}
		if found && best.from <= from {
			continue
		}
		c := call{verdict: Schedule, causes: []string{x.cause}, cause: x.cause, from: from, to: to, name: s.tell(x.name, a), open: true}
		why := "on record, {it}; "
		switch {
		case policy && !past:
			why = "the client wants it prevented: "
		case named && !past:
			why = "{it} is at {p}; for its next season: "
		}
		if from == 0 {
			c.verdict = DoNow
		}
		s.about(x.cause, func() { c.reason = s.tell(why+x.name, a) })
		best, found = c, true
	}
	return best, found
}

// season lengths that are looked through, and the days after which a gap ends it.
const seasonGap = 6

// next finds the first stretch of days from k on for which something is open; to is its last day.
func (s *situation) next(open func(k int) bool, k int) (from, to int, ok bool) {
	for ; k < courseAhead-10; k++ {
		if !open(k) {
			continue
		}
		from, to = k, k
		for j := k + 1; j < courseAhead && j <= to+seasonGap && j < k+150; j++ {
			if open(j) {
				to = j
			}
		}
		return from, to, true
	}
	return 0, 0, false
}

// opening is an action from so many days on, stretch its next season: asked once for a plan.
type opening struct {
	id    string
	after int
}

type stretch struct {
	from, to int
	name     string
	bound    bool
}

// season finds when an action is open: always where it has no line that applies.
func (s *situation) season(id string, after int) (from, to int, name string, bound bool) {
	if was, ok := s.opens[opening{id, after}]; ok {
		return was.from, was.to, was.name, was.bound
	}
	defer func() { s.opens[opening{id, after}] = stretch{from, to, name, bound} }()
	first := math.MaxInt
	for _, x := range seasonsOf[id] {
		if x.holds(s, 0) != yes {
			continue
		}
		bound = true
		if f, t, ok := s.next(func(k int) bool { return x.opens(s, k) == yes }, after); ok && f < first {
			first, from, to, name = f, f, t, s.tell(x.name, nil)
		}
	}
	if bound && first == math.MaxInt {
		return 0, 0, "", true
	}
	return from, to, name, bound
}
