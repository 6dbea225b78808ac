package remedy

import (
	"math"
	"slices"

	"hodos/core/diagnosis"
)

// pairRow keeps two actions apart that are both due: second waits so many days after first; 0 days gives the second up for this time.
type pairRow struct {
	first, second string
	days          int
	why           string
}

// pairRows, in the order in which they are asked. Label and extension; the label in hand goes before.
var pairRows = []pairRow{
	{"light-watering-of-new-stands", "let-dormant", 0, "a new stand is watered, not let rest"},
	{"water-deep", "let-dormant", 0, "one line for the whole spell: it is watered"},
	{"water-deep", "survival-water", 0, "it is watered fully"},
	{"water-deep", "cut-back-water", 0, "the root zone is dry: water it deeply, in the early morning only"},
	{"hold-mowing", "core-aerate", 7, "not mown just now"},
	{"hold-mowing", "dethatch", 7, "not mown just now"},
	{"hold-mowing", "scarify", 7, "not mown just now"},
	{"insecticide-curative", "insecticide-preventive", 0, "the pest is there: treat it on the count, prevent it next season"},
	{"plug-or-sprig", "resod", 14, "or sod at once: the expensive way"},
	{"apply-nitrogen", "let-dormant", 0, "it is growing again"},
	{"spoon-feed-nitrogen", "apply-nitrogen", 21, "it is fed little and often instead"},
	{"hand-weed", "herbicide-spot", 0, "they are pulled by hand"},
	{"herbicide-broadcast", "herbicide-spot", 0, "the whole is treated: one or the other"},
	{"scarify", "dethatch", 0, "scarified instead: one or the other"},
	{"raise-mowing-height", "lower-mowing-once", 0, "it is to be mown higher"},
	{"hold-mowing", "resume-mowing", 7, "not mown just now"},
	{"renovate", "herbicide-broadcast", 0, "the whole is renewed"},
	{"leach-salts", "apply-nitrogen", 7, "what is fed before the leaching is lost"},
	{"apply-lime", "apply-nitrogen", 14, "lime and nitrogen fourteen days apart"},
	{"apply-lime", "apply-iron", 14, "lime fixes iron: fourteen days apart"},
	{"apply-lime", "apply-acidifier", 0, "opposite aims"},
	{"apply-phosphorus", "apply-iron", 7, "phosphorus fixes iron: a week apart"},
	{"moss-control", "apply-iron", 28, "the moss product brings the iron"},
	{"moss-control", "overseed", 14, "after the dead moss is raked out"},
	{"moss-control", "slit-seed", 14, "after the dead moss is raked out"},
	{"fungicide-curative", "fungicide-preventive", 28, "after the one on the disease, with another mode of action"},
	{"fungicide-curative", "apply-wetting-agent", 1, "leaves dry first"},
	{"herbicide-spot", "core-aerate", 14, "the weeds take it down first"},
	{"herbicide-broadcast", "core-aerate", 14, "the weeds take it down first"},
	{"herbicide-broadcast", "dethatch", 14, "the weeds take it down first"},
	{"herbicide-broadcast", "scarify", 14, "the weeds take it down first"},
	{"dethatch", "growth-regulator", 21, "it has to grow to heal"},
	{"scarify", "growth-regulator", 21, "it has to grow to heal"},
	{"core-aerate", "growth-regulator", 21, "it has to grow to heal"},
	{"insecticide-curative", "press-and-water", 2, "after the treatment"},
	{"insecticide-curative", "apply-nitrogen", 10, "after the pest is dealt with"},
	{"apply-acidifier", "overseed", 30, "fresh sulfur burns seedlings"},
	{"apply-acidifier", "slit-seed", 30, "fresh sulfur burns seedlings"},
}

// seedings and the herbicides collide: who goes first is a choice with its price.
var (
	seedings   = []string{"overseed", "slit-seed", "interseed", "plug-or-sprig"}
	weedkiller = []string{"herbicide-spot", "herbicide-broadcast"}
)

// Days that a herbicide and a seeding keep apart (labels; usual figures).
const (
	sprayThenSeed = 28
	seedThenSpray = 60
	preemThenSeed = 90
)

// arrange is the third pass: what excludes what, what waits for what, and what gets its water first.
func (p *plan) arrange() {
	p.oneSeeding()
	p.keepApart()
	p.seedOrSpray()
	p.seedOrPreem()
	if a, n := p.at["acidifying-nitrogen"], p.at["apply-nitrogen"]; a.Verdict == DoNow && n.Called && n.Verdict == DoNow {
		n.As = a.ID
		n.Reasons = append(n.Reasons, "in the form of acid-forming nitrogen")
	} else if a.Verdict == DoNow && n.Verdict == Schedule {
		p.putOff(n, 21, "after the acid-forming nitrogen")
	}
	if l, w := p.at["light-watering-of-new-stands"], p.at["water-deep"]; l.Verdict == DoNow && w.Verdict == DoNow {
		w.As = l.ID
	}
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
	return terms["part-green"](p.s, 0) == yes && (r.first == "let-dormant" || r.second == "let-dormant")
}

// putOff puts a line off by days; 0 gives it up.
func (p *plan) putOff(v *Advice, days int, why string) {
	v.Reasons = append([]string{why}, v.Reasons...)
	v.Gate, v.Kind = "pair", Agronomy
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

// oneSeeding makes one job of the dead part and the thin one: both on one day.
func (p *plan) oneSeeding() {
	over, slit := p.at["overseed"], p.at["slit-seed"]
	if over.Called && slit.Called && slit.Verdict == Schedule && over.Verdict == Schedule && slit.From.After(*over.From) {
		slit.From, slit.To, slit.Season = over.From, over.To, over.Season
	}
}

// seedOrSpray settles herbicide and seed on one zone: the herbicide goes first only where the seeding still has its days before the
// frost afterwards.
func (p *plan) seedOrSpray() {
	s := p.s
	for _, h := range weedkiller {
		spray := p.at[h]
		if spray.Verdict != DoNow {
			continue
		}
		for _, id := range seedings {
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
	pre := p.at["preemergent"]
	if pre.Verdict != DoNow {
		return
	}
	for _, id := range seedings {
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
		g := p.lines[i].Gate
		waits = waits || p.lines[i].Verdict == Hold && (g == "wilt" || g == "wilt-spray")
	}
	wet := p.at["water-deep"].Verdict == DoNow || p.at["spot-water"].Verdict == DoNow ||
		p.at["light-watering-of-new-stands"].Verdict == DoNow ||
		p.at["survival-water"].Verdict == DoNow
	if !waits || wet || terms["dry"](s, 0) != yes {
		return
	}
	w := p.at["water-deep"]
	if w.Gate == "interval" || w.Gate == "frozen" || w.Gate == "wet" || w.Gate == "let-rest" || w.Gate == "dead" ||
		terms["resting"](s, 0) == yes {
		return
	}
	*w = Advice{ID: "water-deep", Called: true, Verdict: DoNow, Reasons: []string{"dry, and other work waits for the water"}}
}

// wait is the dated second look: of what is held, of what is done, and of each cause that its plan says what decides.
func (p *plan) wait() {
	s := p.s
	v := p.at["wait-and-recheck"]
	*v = Advice{ID: "wait-and-recheck", Verdict: Avoid}
	if why := p.losing(); why != "" {
		v.Called, v.Reasons = true, []string{"waiting costs: " + why}
		return
	}
	best, finding, cause := math.MaxInt, "", ""
	for _, c := range s.r.Causes {
		if c.Probability < .3 || c.ID == diagnosis.Healthy {
			continue
		}
		if m := s.mending(c.ID); m != nil && m.look > 0 && m.look < best {
			best, finding, cause = m.look, m.decide, c.ID
		}
	}
	switch {
	case best < math.MaxInt:
		v.Causes = []string{cause}
		f, _ := diagnosis.FindingByID(finding)
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
		if s.over(x.cause, 1) == yes && s.tooDeep(x.cause) != yes && x.cause != "billbugs" && math.IsNaN(s.since("insect")) {
			return s.label(x.cause) + " over the damaging count"
		}
	}
	return ""
}

// small are works on the spot that do not keep a lawn from being left alone otherwise.
var small = map[string]bool{
	"flush-spot-with-water": true, "spot-water": true, "remove-debris": true, "brush-up-mats": true, "press-and-water": true,
	"sharpen-blades": true, "restrict-traffic": true, "hold-nitrogen": true, "hold-mowing": true, "resume-mowing": true,
	"raise-mowing-height": true, "clean-equipment": true, "apply-nitrogen": true, "apply-iron": true, "send-lab-sample": true,
	"soil-test": true, "cut-back-water": true, "let-dormant": true, "preemergent": true, "hand-weed": true, "lower-mowing-once": true,
	"fungicide-preventive": true, "insecticide-preventive": true, "growth-regulator": true,
}

// leave decides whether the lawn is left alone: nothing is wrong, or what is mends by itself, and nothing larger is to be done.
func (p *plan) leave() {
	s := p.s
	v := p.at["leave-alone"]
	*v = Advice{ID: "leave-alone", Verdict: Avoid}
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
		if x.Verdict == DoNow && !small[x.ID] {
			v.Reasons = []string{"there is work to do: " + lower(Label(x.ID))}
			return
		}
	}
	if s.r.P(diagnosis.Healthy) >= .5 {
		v.Called, v.Verdict, v.Reasons = true, DoNow, []string{"nothing is wrong beyond what is normal for the season"}
		return
	}
	if lead.ID == diagnosis.Healthy || lead.Probability < sure {
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
		return c.Probability >= .3 && c.ID != diagnosis.Healthy && (o == nil || o.mends == 0)
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
