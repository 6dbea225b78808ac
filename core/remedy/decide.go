package remedy

import (
	"math"
	"slices"
	"sort"
	"strconv"
	"time"

	"hodos/core/knowledge"
	"hodos/core/turf"
)

// decide is the second pass for one action: what calls for it, its gates, its season, and what was done lately.
func (p *plan) decide(a *action) Advice {
	s := p.s
	v := Advice{ID: a.id, Verdict: Avoid}
	c, called := s.indicate(a)
	if !called {
		v.Reasons = []string{"nothing found calls for it"}
		return v
	}
	v.Called, v.Causes, v.Reasons, v.Verdict = true, c.causes, []string{c.reason}, c.verdict
	if c.verdict == Avoid {
		return v
	}
	if a.group == learn {
		return p.plain(v, c)
	}
	s.about(c.cause, func() { p.gate(a, &v, c) })
	return v
}

// plain gives a call without gates its date.
func (p *plan) plain(v Advice, c call) Advice {
	switch c.verdict {
	case CheckFirst:
		v.Check = c.check
	case Schedule:
		p.date(&v, p.days(c.when), 14, "")
	}
	return v
}

// stops is what the gates come to.
type stops struct {
	avoid, check, hold *gate
	until              int // days until the last of the holding gates lifts by itself; -1 for none that does
	lifted             []string
	reasons            []string
}

func (p *plan) gate(a *action, v *Advice, c call) {
	s := p.s
	st := stops{until: -1}
	dated := c.verdict == Schedule
	for _, id := range gatesOf[a.id] {
		g := s.holds(id)
		if g == nil || dated && g.gives == Hold && gateIs(id, "passing") && a.class != "n" {
			continue
		}
		switch g.gives {
		case note:
			v.Cautions = append(v.Cautions, s.tell(g.reason, a))
		case Avoid:
			if st.avoid == nil {
				st.avoid = g
			}
		case CheckFirst:
			if st.check == nil {
				st.check = g
			}
		case Hold:
			p.holding(&st, g, a)
		}
	}
	from, to, name, bound := s.season(a.id, 0)
	if c.open {
		from, to, name, bound = c.from, c.to, c.name, true
	}
	if c.when != "" {
		from, bound, name = p.days(c.when), true, ""
		to = from + 14
	}
	switch {
	case st.avoid != nil:
		v.Verdict, v.Gate, v.Kind = Avoid, st.avoid.gate, st.avoid.kind
		v.Reasons = []string{s.tell(st.avoid.reason, a)}
	case c.verdict == CheckFirst:
		v.Check = c.check
	case c.verdict == Hold:
		v.UntilWhat = c.when
	case st.check != nil && (!bound || from <= nearDays):
		v.Verdict, v.Gate, v.Kind = CheckFirst, st.check.gate, st.check.kind
		v.Check = s.proofOr(st.check.lifted)
		v.Reasons = append(v.Reasons, s.tell(st.check.reason, a))
	case st.hold != nil && dated && bound && name != "" && max(from, st.until) > 0:
		p.hold(v, &st, from, true)
		v.UntilWhat, v.Until = "", p.on(max(from, st.until))
	case st.hold != nil:
		p.hold(v, &st, from, bound && from > 0)
	case p.lately(a, v):
	case bound && name == "" && c.when == "" && !c.open:
		v.Verdict, v.Reasons = Avoid, append(v.Reasons, "there is no season for it here")
	case bound && from > 0 || c.verdict == Schedule:
		if !bound {
			from, to = 1, 14
		}
		v.Verdict = Schedule
		p.date(v, max(from, 1), max(to-from, 7), name)
	default:
		v.Season = name
	}
}

// nearDays is how near a date has to be for a check of the day of the work to matter.
const nearDays = 14

// holds finds the line of a gate that holds today.
func (s *situation) holds(id string) *gate {
	for i := range gateAt[id] {
		g := &gateAt[id][i]
		if g.holds(s, 0) == yes {
			return g
		}
	}
	return nil
}

// holding adds a gate that holds, with the day on which it lifts by itself.
func (p *plan) holding(st *stops, g *gate, a *action) {
	s := p.s
	if st.hold == nil {
		st.hold = g
	}
	st.reasons = append(st.reasons, s.tell(g.reason, a))
	for k := 1; gateIs(g.gate, "weather") && k < courseAhead-30; k++ {
		if g.holds(s, k) != yes {
			st.until = max(st.until, k)
			return
		}
	}
	st.lifted = append(st.lifted, s.tell(g.lifted, a))
}

// hold writes the verdict of gates that hold: a date where all of them lift by themselves, and the season is open then; else what
// lifts the first that does not.
func (p *plan) hold(v *Advice, st *stops, season int, outside bool) {
	v.Verdict, v.Gate, v.Kind = Hold, st.hold.gate, st.hold.kind
	v.Reasons = append(st.reasons, v.Reasons...)
	if len(st.lifted) > 0 {
		v.UntilWhat = st.lifted[0]
		return
	}
	k := st.until
	if outside {
		k = max(k, season)
	}
	if from, _, _, bound := p.s.season(v.ID, k); bound {
		k = max(k, from)
	}
	t := p.s.day(k)
	v.Until = &t
}

func (p *plan) on(k int) *time.Time {
	t := p.s.day(k)
	return &t
}

// lately holds an action whose class was given within its interval.
func (p *plan) lately(a *action, v *Advice) bool {
	s := p.s
	class := classes[a.class]
	since := s.since(a.class)
	days := class.interval
	for _, p := range pests {
		if classIs(a.class, "by-pest") && p.cause == s.it && p.again > 0 {
			days = p.again
		}
	}
	for _, g := range givens {
		if g.class == a.class && g.holds(s, 0) == yes {
			v.Verdict, v.Reasons = Avoid, []string{class.reason}
			return true
		}
	}
	if math.IsNaN(since) || since >= days || class.reason == "" {
		return false
	}
	reason := s.tell(class.reason, a)
	if days >= 300 {
		v.Verdict, v.Reasons, v.Gate, v.Kind = Avoid, []string{reason}, interval, ByLabel
		return true
	}
	v.Verdict, v.Gate, v.Kind = Hold, interval, ByLabel
	v.Reasons = append([]string{reason}, v.Reasons...)
	k := int(math.Ceil(days - since))
	if from, _, _, bound := s.season(a.id, k); bound {
		k = max(k, from)
	}
	t := s.day(k)
	v.Until = &t
	return true
}

func (p *plan) days(when string) int {
	if n, err := strconv.Atoi(when); err == nil {
		return n
	}
	if m, ok := measures[when]; ok {
		if x := m.of(p.s, 0); !math.IsNaN(x) {
			return int(math.Max(1, math.Round(x)))
		}
	}
	return 14
}

func (p *plan) date(v *Advice, from, length int, name string) {
	f, t := p.s.day(from), p.s.day(from+length)
	v.From, v.To, v.Season = &f, &t, name
}

// proofOr is the finding a gate asks for: a named one, or what proves the cause in question.
func (s *situation) proofOr(lifted string) []string {
	if lifted != "{proof}" {
		return []string{lifted}
	}
	if open := s.openProof(s.it); len(open) > 0 {
		return open
	}
	return []string{leafLook}
}

// holdFeeding says aloud what apply-nitrogen says when it is held or waits, and where a cause asks for it.
func (p *plan) holdFeeding() {
	s := p.s
	n, h, own := p.the("feeds"), p.the("says-no-feeding"), theOne("says-no-feeding")
	*h = Advice{ID: own, Verdict: Avoid, Reasons: []string{"nothing found calls for it"}}
	asked := terms["hungry"](s, 0) == yes || terms["slow"](s, 0) == yes || s.grass.Family == turf.Warm
	if s.since("n") < 1 {
		return // fed on this visit: there is nothing to be tempted by
	}
	held := n.Called && (n.Verdict == Hold || n.Verdict == Schedule && asked || n.Verdict == Avoid &&
		(n.Gate == "budget" || n.Gate == interval))
	switch {
	case p.the("feeds-little").Verdict == DoNow:
		h.Reasons = []string{"it is fed little and often"}
	case held:
		*h = Advice{ID: own, Called: true, Verdict: DoNow, Reasons: n.Reasons[:1:1], Causes: n.Causes, Gate: n.Gate, Kind: n.Kind}
		h.Until, h.UntilWhat = n.Until, n.UntilWhat
		if n.Verdict == Schedule {
			h.Until = n.From
			h.Reasons = []string{"the feeding waits for its time: " + n.Season}
		}
	case n.Verdict == DoNow || n.Verdict == CheckFirst:
		h.Reasons = []string{"feeding is not held back"}
	default:
		for _, x := range holdRows {
			if s.r.P(x.cause) >= x.from && x.holds(s, 0) == yes {
				*h = Advice{ID: own, Called: true, Verdict: DoNow, Causes: []string{x.cause}, UntilWhat: x.until}
				s.about(x.cause, func() { h.Reasons = []string{s.tell(x.reason, &actions[actionAt[own]])} })
				if n.Verdict == Avoid && n.Gate == "" {
					*n = Advice{ID: n.ID, Verdict: Hold, Called: true, Causes: h.Causes, UntilWhat: h.UntilWhat, Reasons: slices.Clone(h.Reasons)}
				}
				break
			}
		}
	}
}

// wanted lists the checks on which verdicts wait for a cause that is likely: a remedy that waits for its own count is not decided,
// however sure the cause is.
func (p *plan) wanted() (out []Wanted) {
	for i := range p.lines {
		v := &p.lines[i]
		if v.Verdict == CheckFirst && len(v.Causes) > 0 && p.s.r.P(v.Causes[0]) >= .5 {
			out = append(out, Wanted{v.Check[0], v.ID, v.Reasons[len(v.Reasons)-1]})
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return p.at[out[a].Action].Order < p.at[out[b].Action].Order })
	return out
}

// finish fills in what belongs to the action and not to the day.
func (p *plan) finish(a *action, v *Advice) {
	s := p.s
	v.ID, v.Group, v.Label, v.Grade, v.Order = a.id, a.group, a.label, a.grade, a.rank
	v.Extra = Extra(s.c.Policy.Service, a.id)
	v.LookAfter, v.Looks = LookAfter(a.id), a.looks
	if v.Verdict == Avoid {
		v.Cautions = nil
		return
	}
	cause := ""
	if len(v.Causes) > 0 {
		cause = v.Causes[0]
	}
	v.AreaM2 = s.treated(cause)
	if a.class == "n" && !spoken[a.id] {
		v.NGM2 = s.doseOf(a.id)
	}
	if Recorded(a.id) {
		v.Price = math.Round(s.r.Prices.Of(stakeFor(a.id), v.AreaM2)*100) / 100
	}
	s.about(cause, func() {
		told := tellings[a.id]
		v.Dose, v.Will, v.WillNot, v.IfWrong = s.tell(told.dose, a), s.tell(told.will, a), s.tell(told.willNot, a), s.tell(told.wrong, a)
		for _, c := range cautionsOf(a) {
			v.Cautions = append(v.Cautions, s.tell(c, a))
		}
		if w, ok := waterAfter[v.how(cause)]; ok {
			v.Cautions = append(v.Cautions, s.tell(w, a))
		}
	})
	if v.UntilWhat == "" && v.Verdict == Hold && v.Until == nil {
		v.UntilWhat = "it is looked at again"
	}
}

// how names the line of the water rules for a pest or a disease and what is done about it.
func (v *Advice) how(cause string) string {
	if classIs(classOf(v.ID), "by-cause") {
		return classOf(v.ID) + ":" + cause
	}
	return v.ID
}

func (s *situation) label(cause string) string {
	c, ok := knowledge.CauseByID(cause)
	if !ok {
		return cause
	}
	return lower(c.Label)
}

var _ = time.UTC
