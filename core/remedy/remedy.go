// Package remedy decides, for every action of the vocabulary, whether it is right now, later, after a check, or not at
// all, and says why. Gates that protect people, plants and water come before any probability.
package remedy

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/turf"
)

// Verdict is what to do about an action.
type Verdict string

// The verdicts.
const (
	DoNow      Verdict = "do-now"
	Schedule   Verdict = "schedule"
	CheckFirst Verdict = "check-first"
	Hold       Verdict = "hold"
	Avoid      Verdict = "avoid"
)

// Advice is the verdict on one action.
type Advice struct {
	ID        string
	Group     string
	Label     string
	Verdict   Verdict
	Reasons   []string
	Cautions  []string
	Check     []string   // finding ids, with check-first
	Until     *time.Time // with hold, where a date is known
	UntilWhat string     // with hold, otherwise
	From, To  *time.Time // with schedule
	Grade     string     // strength of evidence: A replicated trials, B extension consensus, C practitioners' experience
	LookAfter int        // days until the look that follows the action; 0 where none is needed
	Causes    []string   // the causes it answers
}

// action is one row of knowledge: what it is, what it answers, how strong the evidence is.
type action struct {
	id, group, label string
	grade            string
	look             int
	cautions         []string
	decide           func(s *situation) Advice
}

// Known reports whether an id is an action of the vocabulary.
func Known(id string) bool { _, ok := actionAt[id]; return ok }

// Label is what a specialist reads for an action.
func Label(id string) string {
	if i, ok := actionAt[id]; ok {
		return actions[i].label
	}
	return id
}

// LookAfter is the number of days after an action at which its effect is to be looked at; 0 for none.
func LookAfter(id string) int {
	if i, ok := actionAt[id]; ok {
		return actions[i].look
	}
	return 0
}

// Pesticide reports whether recording the action needs a licence that is valid that day.
func Pesticide(id string) bool {
	switch id {
	case "fungicide-curative", "fungicide-preventive", "insecticide-curative", "insecticide-preventive", "herbicide-spot", "herbicide-broadcast", "preemergent", "growth-regulator":
		return true
	}
	return false
}

// IDs lists every action in the order of the groups.
func IDs() []string {
	out := make([]string, len(actions))
	for i := range actions {
		out[i] = actions[i].id
	}
	return out
}

var actionAt = map[string]int{}

func init() {
	for i := range actions {
		actionAt[actions[i].id] = i
	}
}

// Decide gives a verdict for every action, in the order of the groups.
func Decide(c diagnosis.Case, r diagnosis.Result) []Advice {
	s := look(c, r)
	out := make([]Advice, 0, len(actions))
	for i := range actions {
		a := &actions[i]
		v := a.decide(s)
		v.ID, v.Group, v.Label, v.Grade, v.LookAfter = a.id, a.group, a.label, a.grade, a.look
		if v.Verdict != Avoid {
			v.Cautions = append(v.Cautions, a.cautions...)
			if Pesticide(a.id) {
				v.Cautions = append(v.Cautions, labelCaution)
				if c.Context.Licence != nil && !*c.Context.Licence && (v.Verdict == DoNow || v.Verdict == Schedule) {
					v = Advice{ID: v.ID, Group: v.Group, Label: v.Label, Grade: v.Grade, Verdict: Hold, UntilWhat: "a licensed applicator takes the job", Reasons: append(v.Reasons, "nobody with a valid licence is on this job"), Cautions: v.Cautions, Causes: v.Causes}
				}
			}
		}
		out = append(out, v)
	}
	agree(out)
	return out
}

// agree makes hold-nitrogen say aloud what apply-nitrogen says.
func agree(all []Advice) {
	n, h := &all[actionAt["apply-nitrogen"]], &all[actionAt["hold-nitrogen"]]
	if n.Verdict == Hold || n.Verdict == Avoid {
		h.Verdict, h.Reasons = DoNow, append([]string{}, n.Reasons...)
	} else {
		h.Verdict, h.Reasons = Avoid, []string{"feeding is not held back: " + strings.Join(n.Reasons, "; ")}
		h.Cautions = nil
	}
}

const (
	labelCaution = "The label is the law: site, grass, pest, rate, interval, season maximum, re-entry. Wind 1–4.5 m/s, no inversion, buffers at water; gloves and long sleeves at least; people and pets off until it is dry and the label's re-entry is over."
	digCaution   = "Have buried lines located first; flag irrigation, gas, power, fibre and pet fences."
	feedCaution  = "Local bans and black-out dates first; keep off pavement and away from water, sweep what falls there."
)

// situation is the case as the gates see it.
type situation struct {
	c      diagnosis.Case
	r      diagnosis.Result
	v      map[string]diagnosis.Value
	date   time.Time
	month  time.Month // as the same season in the north
	grass  turf.Species
	warm   bool
	cool   bool
	stress bool // another stress that lowers the counts at which insects hurt

	dormantC, dormantW, heat, wilted, wet, frozen, halfGreen, wakening bool
	soil                                                               float64 // °C at 50 mm, NaN for unknown
	hotAhead                                                           int     // days of the forecast at 32 °C and more
	cooling                                                            bool
	meanAhead                                                          float64 // mean of the forecast maxima, NaN for unknown
	rain2                                                              float64 // rain of the next two days
}

func look(c diagnosis.Case, r diagnosis.Result) *situation {
	s := &situation{c: c, r: r, v: r.Values, date: c.Lawn.Date, soil: math.NaN(), meanAhead: math.NaN()}
	s.month = turf.SeasonMonth(s.date.Month(), c.Lawn.Latitude)
	if len(c.Lawn.Species) > 0 {
		s.grass, _ = turf.ByID(c.Lawn.Species[0])
	}
	s.warm, s.cool = s.grass.Family == turf.Warm, s.grass.Family == turf.Cool
	if x, ok := s.num("soil-temp-c"); ok {
		s.soil = x
	} else {
		switch s.word("soil-temp-class") {
		case "frozen":
			s.soil = 0
		case "cold":
			s.soil = 4
		case "cool":
			s.soil = 10
		case "mild":
			s.soil = 16
		case "warm":
			s.soil = 23
		case "hot":
			s.soil = 28
		}
	}
	sum, n := 0.0, 0.0
	for i, d := range c.Forecast {
		if d.TMax != nil && i < 10 {
			sum, n = sum+*d.TMax, n+1
			if *d.TMax >= 32 && i < 3 {
				s.hotAhead++
			}
		}
		if d.Rain != nil && i < 2 {
			s.rain2 += *d.Rain
		}
	}
	if n > 0 {
		s.meanAhead = sum / n
	}
	s.cooling = s.word("forecast-trend") == "cooling" && !(s.meanAhead > 27)
	s.dormantC = s.cool && (s.p("summer-dormancy") >= .4 || s.p("drought-dieback") >= .6)
	s.dormantW = s.warm && (s.p("winter-dormancy") >= .4 || s.soil < 10)
	if g, ok := s.num("green-up-percent"); ok && s.warm {
		s.halfGreen = g < 90
		s.dormantW = s.dormantW || g < 10
	}
	s.halfGreen = s.halfGreen || (s.warm && s.p("slow-green-up") >= .4)
	s.heat = s.cool && (s.soil >= 29 || s.hotAhead >= 3 || (math.IsNaN(s.meanAhead) && s.word("heat-spell") == "severe"))
	s.wilted = s.word("footprints") == "stay" && s.word("soil-moisture") != "moist" && s.word("soil-moisture") != "wet" && s.word("soil-moisture") != "saturated"
	s.wilted = s.wilted || s.p("drought-stress") >= .5
	s.wet = s.word("soil-moisture") == "wet" || s.word("soil-moisture") == "saturated"
	s.frozen = s.soil <= 1
	s.wakening = s.cool && !math.IsNaN(s.soil) && s.soil < 5
	s.stress = s.wilted || s.heat || s.p("drought-stress") >= .3 || s.p("heat-stress") >= .4 || s.p("compaction") >= .5 || s.dormantC
	if kpa, ok := s.num("penetration-kpa"); ok && kpa > 2000 {
		s.stress = true // a measured limit needs no probability
	}
	return s
}

func (s *situation) p(id string) float64 { return s.r.P(id) }

func (s *situation) best(ids ...string) (string, float64) {
	top, p := "", -1.0
	for _, id := range ids {
		if q := s.p(id); q > p {
			top, p = id, q
		}
	}
	return top, p
}

func (s *situation) num(id string) (float64, bool) {
	v, ok := s.v[id]
	if !ok || v.Number == nil {
		return 0, false
	}
	return *v.Number, true
}

func (s *situation) word(id string) string { return s.v[id].Word }

func (s *situation) has(id, item string) bool {
	for _, x := range s.v[id].List {
		if x == item {
			return true
		}
	}
	return false
}

func label(cause string) string {
	c, _ := diagnosis.CauseByID(cause)
	return strings.ToLower(c.Label[:1]) + c.Label[1:]
}

// pct never claims certainty.
func pct(p float64) string {
	if p >= .995 {
		return "over 99 %"
	}
	return fmt.Sprintf("%.0f %%", p*100)
}

func now(reasons ...string) Advice   { return Advice{Verdict: DoNow, Reasons: reasons} }
func avoid(reasons ...string) Advice { return Advice{Verdict: Avoid, Reasons: reasons} }
func hold(what string, reasons ...string) Advice {
	return Advice{Verdict: Hold, UntilWhat: what, Reasons: reasons}
}
func holdTo(t time.Time, reasons ...string) Advice {
	return Advice{Verdict: Hold, Until: &t, Reasons: reasons}
}
func check(finding, reason string, more ...string) Advice {
	return Advice{Verdict: CheckFirst, Check: append([]string{finding}, more...), Reasons: []string{reason}}
}
func between(from, to time.Time, reasons ...string) Advice {
	return Advice{Verdict: Schedule, From: &from, To: &to, Reasons: reasons}
}

func (a Advice) causes(ids ...string) Advice   { a.Causes = append(a.Causes, ids...); return a }
func (a Advice) caution(text ...string) Advice { a.Cautions = append(a.Cautions, text...); return a }

// window finds the next span of the year that is given as northern month and day, turned in the south. in reports
// whether the date lies within it.
func (s *situation) window(m1 time.Month, d1 int, m2 time.Month, d2 int) (from, to time.Time, in bool) {
	turn := func(m time.Month) time.Month { return turf.SeasonMonth(m, s.c.Lawn.Latitude) }
	for y := s.date.Year() - 1; y <= s.date.Year()+1; y++ {
		from = time.Date(y, turn(m1), d1, 0, 0, 0, 0, time.UTC)
		to = time.Date(y, turn(m2), d2, 0, 0, 0, 0, time.UTC)
		if to.Before(from) {
			to = to.AddDate(1, 0, 0)
		}
		if !to.Before(s.date) {
			return from, to, !s.date.Before(from)
		}
	}
	return from, to, false
}

func (s *situation) in(days int) time.Time { return s.date.AddDate(0, 0, days) }

// proof names the checks that settle a cause.
var proof = map[string][]string{
	"white-grubs": {"grubs-per-m2"}, "chinch-bugs": {"float-chinch-per-m2"}, "sod-webworms": {"flush-caterpillars-per-m2"}, "armyworms": {"flush-caterpillars-per-m2"}, "cutworms": {"flush-caterpillars-per-m2"},
	"billbugs": {"billbug-larvae-per-m2", "pull-test"}, "mole-crickets": {"flush-mole-crickets-per-m2"}, "crane-fly-larvae": {"leatherjackets-per-m2"}, "plant-parasitic-nematodes": {"nematode-count"},
	"dollar-spot": {"leaf-symptoms"}, "brown-patch": {"leaf-symptoms", "mycelium-at-dawn"}, "large-patch": {"pull-test"}, "gray-leaf-spot": {"leaf-symptoms"}, "pythium-blight": {"mycelium-at-dawn", "leaf-symptoms"}, "rust": {"leaf-symptoms"}, "red-thread": {"leaf-symptoms"}, "leaf-spot": {"leaf-symptoms"}, "melting-out": {"leaf-symptoms"}, "anthracnose": {"fruiting-bodies"},
	"necrotic-ring-spot": {"lab-pathogen"}, "summer-patch": {"lab-pathogen"}, "take-all-root-rot": {"lab-pathogen", "root-colour"}, "spring-dead-spot": {"lab-pathogen", "same-place-before"}, "pythium-root-rot": {"lab-pathogen"}, "gray-snow-mold": {"fruiting-bodies"}, "pink-snow-mold": {"mycelium-at-dawn"},
	"drought-stress": {"soil-moisture"}, "localized-dry-spot": {"water-drop-seconds"}, "irrigation-coverage-gap": {"catch-can-du"}, "overwatering": {"soil-moisture"}, "flooding": {"surface"}, "compaction": {"penetration"}, "excess-thatch": {"thatch-mm"}, "matted-debris": {"debris"},
	"iron-chlorosis": {"soil-ph"}, "nitrogen-deficiency": {"last-nitrogen-days"}, "growth-flush-chlorosis": {"recent-events"}, "salinity": {"soil-ec-ds-m"}, "shade-thinning": {"sun-hours"}, "dull-blade": {"leaf-tip-cut"}, "moss-invasion": {"moss-cover-percent"}, "weed-invasion": {"weed-cover-percent"}, "summer-dormancy": {"crown-slice"}, "winter-crown-kill": {"crown-slice"}, "drought-dieback": {"crown-slice"}, "heat-stress": {"soil-temp-c"},
}

// onCause is the common course of an action that answers causes: do from the point where acting pays, check between,
// leave below.
func (s *situation) onCause(least float64, do func(cause string, p float64) Advice, ids ...string) Advice {
	id, p := s.best(ids...)
	act := math.Max(least, math.Min(s.r.Marks(id).Act, .75))
	switch {
	case p >= act:
		return do(id, p).causes(id)
	case p >= .15:
		want := proof[id]
		var open []string
		for _, f := range want {
			if _, done := s.v[f]; !done {
				open = append(open, f)
			}
		}
		if len(open) > 0 {
			return check(open[0], fmt.Sprintf("%s stands at %s: acting pays from %s", label(id), pct(p), pct(act)), open[1:]...).causes(id)
		}
		return avoid(fmt.Sprintf("%s stands at %s only, although it was checked", label(id), pct(p))).causes(id)
	}
	return avoid("nothing found calls for it")
}
