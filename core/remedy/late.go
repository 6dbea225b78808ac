package remedy

import (
	"math"
	"slices"
	"strings"

	"hodos/core/turf"
)

// termTables are the terms in the order in which they build on each other.
func termTables() (all []struct{ name, test, source string }) {
	for _, t := range [][]struct{ name, test, source string }{termRows, moreTerms, lateTerms, lastTerms, weedTerms, learnTerms, choiceTerms,
		pestTerms} {
		all = append(all, t...)
	}
	return all
}

func fedDisease(s *situation) string {
	best, p := "", .4
	family := "C"
	if s.grass.Family == turf.Warm {
		family = "W"
	}
	for _, x := range feedsOn {
		if q := s.r.P(x.cause); strings.Contains(x.family, family) && q >= p && windowClosed(s, 0, x.cause) != yes {
			best, p = x.cause, q
		}
	}
	return best
}

// unmended is the cause that killed the place and has no remedy on this plan; "" for none.
func (s *situation) unmended() string {
	for _, m := range mends {
		if s.r.P(m.cause) < .5 || s.plan == nil {
			continue
		}
		if CountOf(m.cause) != "" && (s.over(m.cause, 1) != yes || s.tooDeep(m.cause) == yes || s.since(killedBy(m.cause)) < 60) {
			continue // too few, gone down, or treated
		}
		done := false
		for _, id := range strings.Fields(m.actions) {
			v := s.plan.at[id].Verdict
			done = done || v == DoNow || v == Schedule || v == CheckFirst || !math.IsNaN(s.since(classOf(id))) && classOf(id) != "once"
		}
		if !done {
			return m.cause
		}
	}
	return ""
}

// missingFigures names the figures that a soil test is wanted for.
func missingFigures(s *situation) string {
	var out []string
	for _, f := range figureRows {
		if terms[f.term](s, 0) == yes {
			out = append(out, f.word)
		}
	}
	return strings.Join(out, ", ")
}

// preventiveDue reports whether a cause's preventive is due: asked by tests of other rows.
func preventiveDue(s *situation, k int, cause string) truth {
	for _, rows := range preventivesOf {
		for _, x := range rows {
			if x.cause == cause && x.opens(s, k) == yes {
				return history(s, k, cause)
			}
		}
	}
	return no
}

// nameLateMeasures adds the measures that need the tables.
func nameLateMeasures() {
	measures["second-leaf"] = measure{"share", func(s *situation, _ int) float64 {
		first, second := 0.0, 0.0
		for _, c := range leafDiseases {
			if p := s.r.P(c); p > first {
				first, second = p, first
			} else if p > second {
				second = p
			}
		}
		if first-second > .2 {
			return 0
		}
		return second
	}}
	measures["planned-seed"] = measure{"", func(s *situation, _ int) float64 {
		n := 0.0
		for _, id := range holders["renews"] {
			if s.plan != nil && (s.plan.at[id].Verdict == DoNow || is(id, "renews-all") && s.plan.at[id].Verdict == Schedule) {
				n++
			}
		}
		return n
	}}
	measures["normal-coldest"] = measure{"C", func(s *situation, _ int) float64 { return s.place.Mean - s.place.Swing }}
	measures["snow-now"] = measure{"", func(s *situation, _ int) float64 {
		if k := s.r.Sky; k.Today >= 0 && k.Points[k.Today].Snow != nil {
			return *k.Points[k.Today].Snow
		}
		return math.NaN()
	}}
}

// nameLateTerms adds the terms that are written in Go because they look at a table.
func nameLateTerms() {
	terms["blemish"] = func(s *situation, _ int) truth { return truthOf(slices.Contains(blemishes, s.it)) }
	terms["fed-disease"] = func(s *situation, _ int) truth { return truthOf(fedDisease(s) != "") }
	terms["any-over"] = func(s *situation, _ int) truth { return truthOf(len(s.overTier()) > 0) }
	terms["unmended"] = func(s *situation, _ int) truth { return truthOf(s.unmended() != "") }
	terms["counted-under"] = func(s *situation, _ int) truth { return truthOf(s.countedUnder() != "") }
	facts["zone-given"] = func(s *situation) string {
		if s.c.Lawn.AreaM2 != nil {
			return "yes"
		}
		return ""
	}
}

func fields(s string) []string { return strings.Fields(s) }
