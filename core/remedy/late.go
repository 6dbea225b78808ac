package remedy

import (
	"math"
	"strings"

	"hodos/core/diagnosis"
	"hodos/core/turf"
)

// termTables are the terms in the order in which they build on each other.
func termTables() (all []struct{ name, test, source string }) {
	for _, t := range [][]struct{ name, test, source string }{termRows, moreTerms, lateTerms, lastTerms, weedTerms, learnTerms, choiceTerms} {
		all = append(all, t...)
	}
	return all
}

// blemishes are diseases that mar a lawn and hardly harm it.
var blemishes = map[string]bool{"dollar-spot": true, "rust": true, "red-thread": true, "leaf-spot": true, "powdery-mildew": true,
	"slime-mold": true}

// feeds are the diseases that nitrogen feeds; leaf spot only on cool-season turf.
var feedsOn = []string{"pythium-blight", "brown-patch", "gray-leaf-spot", "large-patch", "leaf-spot", "melting-out"}

func fedDisease(s *situation) string {
	best, p := "", .4
	for _, c := range feedsOn {
		if c == "leaf-spot" && s.grass.Family == turf.Warm {
			continue
		}
		if q := s.r.P(c); q >= p && windowClosed(s, 0, c) != yes {
			best, p = c, q
		}
	}
	return best
}

// mends are what deals with a cause, so that the same does not happen to what is laid or sown on it. A cause that is not in the
// table is over when its weather is.
var mends = []struct{ cause, actions string }{
	{"flooding", "improve-drainage install-drain"},
	{"white-grubs", "insecticide-curative"},
	{"chinch-bugs", "insecticide-curative"},
	{"sod-webworms", "insecticide-curative"},
	{"armyworms", "insecticide-curative"},
	{"mole-crickets", "insecticide-curative"},
	{"crane-fly-larvae", "insecticide-curative"},
	{"irrigation-coverage-gap", "fix-irrigation spot-water"},
	{"compaction", "core-aerate restrict-traffic"},
	{"traffic-crush", "restrict-traffic"},
	{"overwatering", "cut-back-water"},
	{"chemical-spill", "replace-soil"},
	{"salinity", "leach-salts apply-gypsum"},
	{"shade-thinning", "prune-shade change-grass"},
	{"localized-dry-spot", "apply-wetting-agent"},
}

// unmended is the cause that killed the place and has no remedy on this plan; "" for none.
func (s *situation) unmended() string {
	for _, m := range mends {
		if s.r.P(m.cause) < .5 || s.plan == nil {
			continue
		}
		if CountOf(m.cause) != "" && (s.over(m.cause, 1) != yes || s.tooDeep(m.cause) == yes || s.since("insect") < 60) {
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
	for _, f := range []struct{ term, word string }{{"ph-missing", "pH"}, {"p-missing", "phosphorus"}, {"k-missing", "potassium"},
		{"salt-missing", "salt and sodium"}} {
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

// leafDiseases are those that a lens tells apart.
var leafDiseases = []string{"dollar-spot", "brown-patch", "leaf-spot", "melting-out", "gray-leaf-spot", "rust", "red-thread",
	"anthracnose", "powdery-mildew"}

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
		for _, id := range []string{"overseed", "slit-seed", "resod", "renovate"} {
			if s.plan != nil && (s.plan.at[id].Verdict == DoNow || id == "renovate" && s.plan.at[id].Verdict == Schedule) {
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
	terms["blemish"] = func(s *situation, _ int) truth { return truthOf(blemishes[s.it]) }
	terms["fed-disease"] = func(s *situation, _ int) truth { return truthOf(fedDisease(s) != "") }
	terms["pest-over"] = func(s *situation, _ int) truth {
		return truthOf(len(s.overTier()) > 0 && !(s.since("insect") >= 10 && s.since("insect") < 60))
	}
	terms["unmended"] = func(s *situation, _ int) truth { return truthOf(s.unmended() != "") }
	terms["counted-under"] = func(s *situation, _ int) truth { return truthOf(s.countedUnder() != "") }
	terms["it-grubs"] = func(s *situation, _ int) truth { return truthOf(s.it == "white-grubs") }
	facts["zone-given"] = func(s *situation) string {
		if s.c.Lawn.AreaM2 != nil {
			return "yes"
		}
		return ""
	}
}

func fields(s string) []string { return strings.Fields(s) }

var _ = diagnosis.Healthy
