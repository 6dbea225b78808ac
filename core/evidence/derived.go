package evidence

import (
	"math"
	"slices"
	"strings"
	"time"

	"hodos/core/knowledge"
)

// treatmentAnswers says when a treatment's answer can be judged, in days after it, and by what.
var treatmentAnswers = []struct {
	finding  string
	actions  string
	from, to float64
	byColour bool
}{
	{"answer-to-water", "water-deep spot-water survival-water", 5, 30, false},
	{"answer-to-iron", "apply-iron", 2, 21, true},
	{"answer-to-nitrogen", "apply-nitrogen spoon-feed-nitrogen", 8, 35, true},
	{"answer-to-insecticide", "insecticide-curative", 4, 30, false},
	{"answer-to-fungicide", "fungicide-curative", 10, 30, false},
}

// derive reads the derived findings off a case: the reference spot against the bad one, and this visit against the last
// one before a treatment. Without the same finding on both sides nothing is said.
func (g *Gathered) derive(c Case, note func(string, string, ...any)) {
	g.againstHealthy(c)
	for _, t := range treatmentAnswers {
		var last time.Time
		for _, done := range c.Treatments {
			age := c.Lawn.Date.Sub(done.Date).Hours() / 24
			if slices.Index(strings.Fields(t.actions), done.Action) >= 0 && age >= t.from && age <= t.to && done.Date.After(last) {
				last = done.Date
			}
		}
		if last.IsZero() {
			continue
		}
		better, said, when := false, false, time.Time{}
		for _, e := range c.Earlier { // the last visit before it that saw what can be held against today
			if e.Date.After(last) || last.Sub(e.Date) > 30*24*time.Hour || !e.Date.After(when) {
				continue
			}
			is, can := smaller(e.Findings, c.Findings)
			if t.byColour {
				is, can = greener(e.Findings, c.Findings)
			}
			if can {
				better, said, when = is, true, e.Date
			}
		}
		if !said {
			continue
		}
		word := "none"
		if better {
			word = "better"
		}
		g.Values[t.finding] = knowledge.WordValue(word)
		f, _ := knowledge.FindingByID(t.finding)
		note(t.finding, "%s of %s, against the visit of %s: %s", knowledge.LowerFirst(f.Label), last.Format("2 January"),
			when.Format("2 January"), word)
	}
}

// againstHealthy compares the two cores: a class and a half of moisture, or a sixth of water by volume, is a difference
// (judgement).
func (g *Gathered) againstHealthy(c Case) {
	diff, said := 0.0, false
	classes := strings.Fields("dry slightly-moist moist wet saturated")
	if bad, ok := g.Values["soil-moisture-vwc"]; ok && c.Reference["soil-moisture-vwc"].Number != nil {
		diff, said = (*bad.Number-*c.Reference["soil-moisture-vwc"].Number)/6, true
	} else if bad, ok := g.Values["soil-moisture"]; ok && c.Reference["soil-moisture"].Word != "" {
		diff, said = float64(slices.Index(classes, bad.Word)-slices.Index(classes, c.Reference["soil-moisture"].Word)), true
	}
	switch {
	case !said:
	case diff <= -1:
		g.Values["moisture-against-healthy"] = knowledge.WordValue("drier")
	case diff >= 1:
		g.Values["moisture-against-healthy"] = knowledge.WordValue("wetter")
	default:
		g.Values["moisture-against-healthy"] = knowledge.WordValue("same")
	}
}

// smaller compares the area affected: better from a third less.
func smaller(before, now map[string]knowledge.Value) (better, said bool) {
	a, b := before["affected-area-percent"].Number, now["affected-area-percent"].Number
	if a == nil || b == nil || *a < 2 {
		return false, false
	}
	return *b <= *a*2/3 && math.Abs(*a-*b) >= 2, true
}

// greener compares the colours: better where yellow or lime-green has gone, or dark green has come.
func greener(before, now map[string]knowledge.Value) (better, said bool) {
	a, b := before["colour"].List, now["colour"].List
	if a == nil || b == nil {
		return false, false
	}
	pale := func(l []string) int {
		n := 0
		for _, w := range []string{"yellow", "lime-green"} {
			if slices.Index(l, w) >= 0 {
				n++
			}
		}
		return n
	}
	if pale(a) == 0 {
		return false, false
	}
	return pale(b) < pale(a) || slices.Index(b, "dark-green") >= 0, true
}
