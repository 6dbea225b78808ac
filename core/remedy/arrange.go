package remedy

import (
	"math"
	"slices"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
)

// Days that a herbicide and a seeding keep apart (labels; usual figures).
const (
	sprayThenSeed = 28
	seedThenSpray = 60
	preemThenSeed = 90
)

// arrange is the third pass: what excludes what, what waits for what, and what gets its water first.
func (p *plan) arrange() {
	p.together()
	p.keepApart()
	p.seedOrSpray()
	p.seedOrPreem()
	p.forms()
	p.water()
	p.keepApart() // the water that other work waits for is a line of its own
}

// keepApart lets the first of two that exclude each other stand.
func (p *plan) keepApart() {
	for _, r := range pairRows {
		a, b := p.at[r.first], p.at[r.second]
		if a.Verdict == DoNow && b.Verdict == DoNow && !p.split(r) {
			p.putOff(b, r.days, r.why)
		}
	}
}

// split reports a pair that does not exclude itself on a zone of which one part is kept green and the rest rests.
func (p *plan) split(r pairRow) bool {
	for _, x := range splits {
		if (r.first == x.action || r.second == x.action) && x.holds(p.s, 0) == yes {
			return true
		}
	}
	return false
}

// putOff puts a line off by days; 0 gives it up.
func (p *plan) putOff(v *Advice, days int, why string) {
	v.Reasons = append([]string{why}, v.Reasons...)
	v.Gate, v.Kind = pairing, Agronomy
	if days == 0 {
		v.Verdict = Avoid
		return
	}
	from, to, name, bound := p.s.season(v.ID, days)
	if !bound {
		from, to = days, days+14
	} else if name == "" {
		v.Verdict = Avoid
		return
	}
	v.Verdict = Schedule
	p.date(v, from, max(to-from, 7), name)
}

// together makes one trip of two works of which one would come later.
func (p *plan) together() {
	for _, r := range togetherRows {
		a, b := p.at[r.first], p.at[r.second]
		if a.Called && b.Called && a.Verdict == Schedule && b.Verdict == Schedule && b.From.After(*a.From) {
			b.From, b.To, b.Season = a.From, a.To, a.Season
		}
	}
}

// forms lets an action be done in the form of another that is due as well.
func (p *plan) forms() {
	for _, r := range formRows {
		form, of := p.at[r.form], p.at[r.of]
		switch {
		case form.Verdict != DoNow:
		case of.Called && of.Verdict == DoNow:
			of.As = form.ID
			if r.says != "" {
				of.Reasons = append(of.Reasons, r.says)
			}
		case of.Verdict == Schedule && r.apart > 0:
			p.putOff(of, r.apart, r.waits)
		}
	}
}

// seedOrSpray settles herbicide and seed on one zone: the herbicide goes first only where the seeding still has its days before the
// frost afterwards.
func (p *plan) seedOrSpray() {
	s := p.s
	for _, h := range holders["kills-weeds"] {
		spray := p.at[h]
		if spray.Verdict != DoNow {
			continue
		}
		for _, id := range holders["seeds"] {
			seed := p.at[id]
			near := seed.Verdict == Schedule && seed.From != nil && s.offset(*seed.From) <= sprayThenSeed
			if seed.Verdict != DoNow && !near {
				continue
			}
			if from, _, _, bound := s.season(id, sprayThenSeed); bound && from <= sprayThenSeed+14 {
				p.putOff(seed, sprayThenSeed, "four weeks after the herbicide, by its label")
				continue
			}
			if terms["lost"](s, 0) != yes && seed.Verdict != DoNow {
				continue
			}
			p.putOff(spray, seedThenSpray, "seed first: the herbicide waits for its fourth mowing, or 60 days")
			if spray.Verdict == Schedule {
				spray.Verdict = Hold
				spray.Until = spray.From
				spray.From, spray.To = nil, nil
			}
			break
		}
	}
}

// seedOrPreem settles pre-emergent and seed: on a stand that is only thin the pre-emergent goes first and the seed waits for its
// other season; where the ground is lost the gates have given the pre-emergent up already.
func (p *plan) seedOrPreem() {
	pre := p.the("keeps-seed-out")
	if pre.Verdict != DoNow {
		return
	}
	for _, id := range holders["seeds"] {
		if seed := p.at[id]; seed.Verdict == DoNow || seed.Verdict == Schedule && seed.From != nil && p.s.offset(*seed.From) < preemThenSeed {
			p.putOff(seed, preemThenSeed, "after the pre-emergent has run out")
		}
	}
}

// water brings the water where something is held until it has been watered.
func (p *plan) water() {
	s := p.s
	waits := false
	for i := range p.lines {
		waits = waits || p.lines[i].Verdict == Hold && gateIs(p.lines[i].Gate, "thirst")
	}
	wet := slices.ContainsFunc(holders["wets"], func(id string) bool { return p.at[id].Verdict == DoNow })
	if !waits || wet || terms["dry"](s, 0) != yes {
		return
	}
	w := p.the("brings-water")
	if gateIs(w.Gate, "no-water") || terms["resting"](s, 0) == yes {
		return
	}
	*w = Advice{ID: w.ID, Called: true, Verdict: DoNow, Reasons: []string{"dry, and other work waits for the water"}}
}

// wait is the dated second look: of what is held, of what is done, and of each cause that its plan says what decides.
func (p *plan) wait() {
	s := p.s
	v := p.the("waits")
	*v = Advice{ID: theOne("waits"), Verdict: Avoid}
	if why := p.losing(); why != "" {
		v.Called, v.Reasons = true, []string{"waiting costs: " + why}
		return
	}
	best, finding, cause := math.MaxInt, "", ""
	for _, c := range s.r.Causes {
		if c.Probability < .3 || c.ID == knowledge.Healthy {
			continue
		}
		if m := s.mending(c.ID); m != nil && m.look > 0 && m.look < best {
			best, finding, cause = m.look, m.decide, c.ID
		}
	}
	switch {
	case best < math.MaxInt:
		v.Causes = []string{cause}
		f, _ := knowledge.FindingByID(finding)
		v.Reasons = []string{"look again at " + lower(f.Label) + ": it decides what follows for " + s.label(cause)}
	case p.nearly() != "":
		best = 10
		v.Reasons = []string{p.nearly()}
	case len(s.r.Causes) > 0 && s.r.Causes[0].Probability < .5 && len(p.quick()) > 0:
		v.Called, v.Verdict, v.Check = true, CheckFirst, p.quick()
		v.Reasons = []string{"the cause is not clear yet, and a few minutes of checking can settle it"}
		return
	case len(s.r.Causes) > 0 && s.r.Causes[0].Probability < .5:
		best = 10
		v.Reasons = []string{"the cause is not clear yet: see whether it spreads"}
	default:
		v.Reasons = []string{"nothing is booked or held"}
		return
	}
	v.Called, v.Verdict = true, Schedule
	p.date(v, best, 3, "")
}

// quickMinutes is how long a look may take to come before waiting.
const quickMinutes = 5

// quick lists the checks that take a few minutes and still tell causes apart, the best first.
func (p *plan) quick() (out []string) {
	for _, n := range p.s.r.Next {
		if n.Minutes <= quickMinutes && len(out) < 3 {
			out = append(out, n.Finding)
		}
	}
	return out
}

// nearly says that a count lies between half the damaging one and the whole.
func (p *plan) nearly() (why string) {
	for _, x := range pests {
		if n := p.s.count(x.cause); n > 0 && p.s.over(x.cause, .5) == yes && p.s.over(x.cause, 1) != yes {
			p.s.about(x.cause, func() {
				why = p.s.tell("{count} per m², over half of the damaging {tier}: count again in a week or two", &actions[0])
			})
			return why
		}
	}
	return ""
}

// losing says what is lost by waiting or leaving alone; "" for nothing.
func (p *plan) losing() string {
	s := p.s
	for _, x := range loseRows {
		if x.holds(s, 0) == yes {
			return x.why
		}
	}
	for _, x := range pests {
		if s.over(x.cause, 1) == yes && s.tooDeep(x.cause) != yes && x.killed != "" && math.IsNaN(s.since(x.killed)) {
			return s.label(x.cause) + " over the damaging count"
		}
	}
	return ""
}

// leave decides whether the lawn is left alone: nothing is wrong, or what is mends by itself, and nothing larger is to be done.
func (p *plan) leave() {
	s := p.s
	v := p.the("leaves")
	*v = Advice{ID: theOne("leaves"), Verdict: Avoid}
	if why := p.losing(); why != "" {
		v.Called, v.Reasons = true, []string{"it would lose the turf: " + why}
		return
	}
	if terms["dead"](s, 0) == yes && terms["mostly-dead"](s, 0) == yes {
		v.Called, v.Reasons = true, []string{"dead ground does not come back on its own"}
		return
	}
	lead := s.r.Causes[0]
	for i := range p.lines {
		x := &p.lines[i]
		if x.Verdict == DoNow && !is(x.ID, "small") {
			v.Reasons = []string{"there is work to do: " + lower(Label(x.ID))}
			return
		}
	}
	if s.r.P(knowledge.Healthy) >= .5 {
		v.Called, v.Verdict, v.Reasons = true, DoNow, []string{"nothing is wrong beyond what is normal for the season"}
		return
	}
	if lead.ID == knowledge.Healthy || lead.Probability < sure {
		v.Reasons = []string{"no cause is sure enough to leave it to itself"}
		return
	}
	m := s.mending(lead.ID)
	if m == nil || m.mends == 0 {
		v.Reasons = []string{"something is wrong that does not recover on its own"}
		return
	}
	other := slices.IndexFunc(s.r.Causes[1:], func(c diagnosis.CauseResult) bool {
		o := s.mending(c.ID)
		return c.Probability >= .3 && c.ID != knowledge.Healthy && (o == nil || o.mends == 0)
	})
	if other >= 0 {
		v.Reasons = []string{"not alone: " + s.label(s.r.Causes[1+other].ID) + " first"}
		return
	}
	v.Called, v.Verdict, v.Causes = true, DoNow, []string{lead.ID}
	v.Reasons = []string{s.label(lead.ID) + ": it recovers on its own, by about " + s.date(p.mends(m.mends))}
}

// mends is the days until growth has added up to n.
func (p *plan) mends(n float64) int {
	sum := 0.0
	for k := range courseAhead - 40 {
		sum += p.s.growth(k)
		if sum >= n {
			return k
		}
	}
	return courseAhead - 40
}
