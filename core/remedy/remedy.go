// Package remedy decides, for every action of the vocabulary, whether it is right now, later, after a check, or not at all, and says
// why. Knowledge stands in tables; the engine asks in three passes: what calls for the action (measured facts before probabilities),
// which gates stand against it, and how what is due goes together.
package remedy

import (
	"slices"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/turf"
	"hodos/core/units"
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
	Called    bool // something found calls for it, or somebody may be tempted by it; false: nothing found calls for it
	Reasons   []string
	Cautions  []string
	Check     []string   // finding ids, with check-first
	Until     *time.Time // with hold, where a date is known
	UntilWhat string     // with hold, what lifts it
	From, To  *time.Time // with schedule
	Season    string     // name of the season, with schedule
	Grade     string     // strength of evidence: A replicated trials, B extension consensus, C practitioners' experience
	LookAfter int        // days until the first look that follows the action; 0 where none is needed
	Looks     []int      // days until all of them
	Causes    []string   // the causes it answers
	Order     int        // rank in the order of work
	Extra     bool       // not in the service that the client buys
	Gate      string     // the gate that decided; "" for none
	Kind      Kind       // of that gate
	As        string     // the action in whose form it is done; "" for its own
	Price     float64    // in the firm's money, for the area it treats
	AreaM2    float64    // that area
	Will      string     // what it does, what it does not, and what it costs when it is wrong
	WillNot   string
	IfWrong   string
	Dose      string  // how much, in words
	NGM2      float64 // nitrogen of the dose, g N/m², where it feeds
}

// Plan is the advice of one zone.
type Plan struct {
	Lines   []Advice // every action, in the order of the groups
	Choices []Choice // aims that collide, with their prices
	Checks  []Wanted // the checks on which verdicts wait whose cause is likely, in the order of work
	Limits  []Limit  // what the counts are held against
	Settled bool     // no check can change what is decided
	Enough  bool     // what is left to check would hardly change what is decided
}

// Wanted is a check on which a verdict waits.
type Wanted struct{ Finding, Action, Reason string }

// actionAt finds an action's row.
var actionAt = map[string]int{}

func init() {
	for i := range actions {
		actionAt[actions[i].id] = i
	}
	for i := range weedRowsByName {
		weedAt[weedRowsByName[i].id] = &weedRowsByName[i]
	}
	nameMeasures()
	nameLateMeasures()
	nameTerms()
	compileGates()
	compileRoles()
	compilePests()
	compileRows()
	compileWords()
	compileChoices()
	compileSchools()
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

// LookAfter is the number of days after an action at which its effect is first looked at; 0 for none.
func LookAfter(id string) int {
	if i, ok := actionAt[id]; ok && len(actions[i].looks) > 0 {
		return actions[i].looks[0]
	}
	return 0
}

// apartLooks is how far two looks of a series lie apart at least, days (judgement).
const apartLooks = 7

// LooksFor are the days after an action on a grass at which its effect is looked at, the first first: those of the action; after seed the
// first when the slowest of it is up, and as long as plugs close every thirty days.
func LooksFor(id string, g turf.Species) []int {
	i, ok := actionAt[id]
	if !ok {
		return nil
	}
	out := slices.Clone(actions[i].looks)
	switch actions[i].class {
	case "seed":
		if up := int(g.Emergence.High); up > 0 {
			out = append([]int{up}, slices.DeleteFunc(out, func(d int) bool { return d < up+apartLooks })...)
		}
	case "plugs":
		for d := 60; d <= 120; d += 30 {
			out = append(out, d)
		}
	}
	return out
}

// Pesticide reports whether recording the action needs a licence that is valid that day.
func Pesticide(id string) bool { return pesticides[id] }

// Airborne reports whether the action is recorded with the wind of the hour.
func Airborne(id string) bool { return airborne[id] }

// Recorded reports whether the action is recorded at all; the others are said to the client.
func Recorded(id string) bool { return Known(id) && !spoken[id] }

// Feeds, Waters and TakesProduct report what a record of the action asks for.
func Feeds(id string) bool { return classOf(id) == "n" && !spoken[id] }

// Waters reports whether water is what is given.
func Waters(id string) bool {
	return classIs(classOf(id), "water")
}

// TakesProduct reports whether a product is put down.
func TakesProduct(id string) bool {
	return classIs(classOf(id), "product") && !spoken[id]
}

func classOf(id string) string {
	if i, ok := actionAt[id]; ok {
		return actions[i].class
	}
	return ""
}

// classesOf are the classes that a treatment counts in: its action's own, and those of what was in the product.
func classesOf(t evidence.Treatment) []string {
	out := []string{classOf(t.Action)}
	if t.NGM2 != nil && *t.NGM2 > 0 {
		out = append(out, "n")
	} else if t.NGM2 != nil && out[0] == "n" {
		out = out[1:]
	}
	if t.FeGM2 != nil && *t.FeGM2 >= .05 {
		out = append(out, "iron")
	}
	if t.PGM2 != nil && *t.PGM2 > 0 {
		out = append(out, "p")
	}
	if t.KGM2 != nil && *t.KGM2 > 0 {
		out = append(out, "k")
	}
	return out
}

// AnswersOf are the causes that an action answers.
func AnswersOf(id string) []string {
	var out []string
	for _, r := range answerRows {
		if r.action == id {
			out = append(out, r.cause)
		}
	}
	return out
}

// IDs lists every action in the order of the groups.
func IDs() []string {
	out := make([]string, len(actions))
	for i := range actions {
		out[i] = actions[i].id
	}
	return out
}

// Decide gives a verdict for every action, in the order of the groups, with reasons in the given units. It reads the sky of the
// diagnosis and never fails: what is not known stops nothing and calls for nothing.
func Decide(c evidence.Case, r diagnosis.Result, say units.Saying) Plan {
	s := survey(c, r, say)
	p := &plan{s: s, at: map[string]*Advice{}, lines: make([]Advice, len(actions))}
	for i := range actions {
		p.at[actions[i].id] = &p.lines[i]
	}
	for _, late := range []bool{false, true} { // repairs ask what is done about their cause
		for i := range actions {
			if a := &actions[i]; (a.group == reseed) == late && a.group != learn && !is(a.id, "says-no-feeding") {
				p.lines[i] = p.decide(a)
			}
		}
		s.plan = p
	}
	p.arrange()
	p.holdFeeding()
	for i := range actions {
		if a := &actions[i]; a.group == learn {
			p.lines[i] = p.decide(a)
		}
	}
	p.wait()
	p.leave()
	for i := range actions {
		p.finish(&actions[i], &p.lines[i])
	}
	out := Plan{Lines: p.lines, Choices: p.choices()}
	out.Checks = p.wanted()
	out.Limits = s.limits()
	out.Settled, out.Enough = r.Settled && len(out.Checks) == 0, r.Enough && len(out.Checks) == 0
	return out
}
