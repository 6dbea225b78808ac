package diagnosis

import (
	"math"
	"time"
)

// Derived findings are read off others: the bad spot against the good one, and now against then where something was done
// in between. They are never asked and weigh beside what they come from only as far as it does not say the same.
var derivedFindings = []Finding{
	{ID: "moisture-against-healthy", Station: "derived", Kind: OneOf, Values: ids("drier same wetter"),
		Label: "Moisture against the healthy spot"},
	{ID: "answer-to-water", Station: "derived", Kind: OneOf, Values: ids("better none"), Label: "Answer to watering"},
	{ID: "answer-to-iron", Station: "derived", Kind: OneOf, Values: ids("better none"), Label: "Answer to iron"},
	{ID: "answer-to-nitrogen", Station: "derived", Kind: OneOf, Values: ids("better none"), Label: "Answer to feeding"},
	{ID: "answer-to-insecticide", Station: "derived", Kind: OneOf, Values: ids("better none"), Label: "Answer to the insecticide"},
	{ID: "answer-to-fungicide", Station: "derived", Kind: OneOf, Values: ids("better none"), Label: "Answer to the fungicide"},
}

// DerivedFindings returns what is read off other findings.
func DerivedFindings() []Finding { return derivedFindings }

// derivedBackground is what a derived finding looks like as far as no cause sets it (judgement).
var derivedBackground = map[string]Row{
	"moisture-against-healthy": one("moisture-against-healthy", 1, "drier 24 same 64 wetter 12", J),
	"answer-to-water":          one("answer-to-water", 1, "better 30 none 70", J),
	"answer-to-iron":           one("answer-to-iron", 1, "better 25 none 75", J),
	"answer-to-nitrogen":       one("answer-to-nitrogen", 1, "better 35 none 65", J),
	"answer-to-insecticide":    one("answer-to-insecticide", 1, "better 30 none 70", J),
	"answer-to-fungicide":      one("answer-to-fungicide", 1, "better 30 none 70", J),
}

// derivedRows by cause.
var derivedRows = map[string][]Row{
	"drought-stress":           {one("moisture-against-healthy", .7, "drier 74 same 24 wetter 2", Ext), one("answer-to-water", .8, "better 88 none 12", Ext)},
	"localized-dry-spot":       {one("moisture-against-healthy", .85, "drier 93 same 6 wetter 1", Ext), one("answer-to-water", .7, "better 15 none 85", Ext)},
	"irrigation-coverage-gap":  {one("moisture-against-healthy", .85, "drier 90 same 9 wetter 1", Ext), one("answer-to-water", .5, "better 55 none 45", J)},
	"shallow-soil-over-object": {one("moisture-against-healthy", .7, "drier 78 same 20 wetter 2", J), one("answer-to-water", .5, "better 55 none 45", J)},
	"hardscape-heat":           {one("moisture-against-healthy", .5, "drier 60 same 38 wetter 2", J)},
	"winter-desiccation":       {one("moisture-against-healthy", .6, "drier 72 same 26 wetter 2", J)},
	"heat-stress":              {one("moisture-against-healthy", .5, "drier 18 same 78 wetter 4", Ext), one("answer-to-water", .4, "better 45 none 55", J)},
	"summer-dormancy":          {one("answer-to-water", .5, "better 62 none 38", Ext)},
	"drought-dieback":          {one("answer-to-water", .8, "better 6 none 94", Ext)},
	"overwatering":             {one("moisture-against-healthy", .5, "drier 2 same 58 wetter 40", J), one("answer-to-water", .6, "better 6 none 94", J)},
	"flooding":                 {one("moisture-against-healthy", .4, "drier 8 same 42 wetter 50", J), one("answer-to-water", .6, "better 5 none 95", J)},
	"pythium-root-rot":         {one("moisture-against-healthy", .4, "drier 3 same 47 wetter 50", J), one("answer-to-water", .6, "better 5 none 95", J)},
	"white-grubs":              {one("moisture-against-healthy", .5, "drier 12 same 82 wetter 6", Ext), one("answer-to-water", .6, "better 12 none 88", Ext), one("answer-to-insecticide", .6, "better 70 none 30", Ext)},
	"chinch-bugs":              {one("moisture-against-healthy", .5, "drier 16 same 80 wetter 4", Ext), one("answer-to-water", .7, "better 8 none 92", Ext), one("answer-to-insecticide", .7, "better 80 none 20", Ext)},
	"sod-webworms":             {one("answer-to-water", .5, "better 14 none 86", J), one("answer-to-insecticide", .7, "better 80 none 20", Ext)},
	"armyworms":                {one("answer-to-insecticide", .7, "better 84 none 16", Ext)},
	"billbugs":                 {one("answer-to-water", .5, "better 18 none 82", J), one("answer-to-insecticide", .5, "better 40 none 60", Ext)},
	"mole-crickets":            {one("answer-to-insecticide", .6, "better 65 none 35", J)},
	"iron-chlorosis":           {one("answer-to-iron", .85, "better 92 none 8", Ext), one("answer-to-nitrogen", .5, "better 12 none 88", J)},
	"high-ph":                  {one("answer-to-iron", .5, "better 72 none 28", J)},
	"growth-flush-chlorosis":   {one("answer-to-iron", .7, "better 84 none 16", Ext), one("answer-to-nitrogen", .6, "better 8 none 92", J)},
	"nitrogen-deficiency":      {one("answer-to-nitrogen", .85, "better 90 none 10", Ext), one("answer-to-iron", .4, "better 42 none 58", J)},
	"dollar-spot":              {one("answer-to-nitrogen", .4, "better 62 none 38", Ext), one("answer-to-fungicide", .6, "better 75 none 25", Ext), one("answer-to-water", .4, "better 14 none 86", J)},
	"rust":                     {one("answer-to-nitrogen", .5, "better 68 none 32", Ext), one("answer-to-fungicide", .5, "better 70 none 30", J)},
	"red-thread":               {one("answer-to-nitrogen", .5, "better 72 none 28", Ext), one("answer-to-fungicide", .5, "better 70 none 30", J)},
	"brown-patch":              {one("answer-to-water", .5, "better 8 none 92", J), one("answer-to-fungicide", .6, "better 75 none 25", Ext)},
	"gray-leaf-spot":           {one("answer-to-water", .5, "better 8 none 92", J), one("answer-to-fungicide", .5, "better 60 none 40", Ext)},
	"large-patch":              {one("answer-to-fungicide", .5, "better 50 none 50", J)},
	"pythium-blight":           {one("answer-to-fungicide", .6, "better 65 none 35", J), one("answer-to-water", .6, "better 3 none 97", J)},
	"summer-patch":             {one("answer-to-water", .5, "better 12 none 88", J), one("answer-to-fungicide", .6, "better 14 none 86", Ext)},
	"necrotic-ring-spot":       {one("answer-to-water", .3, "better 35 none 65", J), one("answer-to-fungicide", .6, "better 14 none 86", Ext)},
	"take-all-root-rot":        {one("answer-to-iron", .5, "better 14 none 86", Ext), one("answer-to-fungicide", .5, "better 18 none 82", Ext)},
}

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
			if index(ids(t.actions), done.Action) >= 0 && age >= t.from && age <= t.to && done.Date.After(last) {
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
		g.Values[t.finding] = WordValue(word)
		f, _ := FindingByID(t.finding)
		note(t.finding, "%s of %s, against the visit of %s: %s", lowerFirst(f.Label), last.Format("2 January"), when.Format("2 January"), word)
	}
}

// againstHealthy compares the two cores: a class and a half of moisture, or a sixth of water by volume, is a difference
// (judgement).
func (g *Gathered) againstHealthy(c Case) {
	diff, said := 0.0, false
	classes := ids("dry slightly-moist moist wet saturated")
	if bad, ok := g.Values["soil-moisture-vwc"]; ok && c.Reference["soil-moisture-vwc"].Number != nil {
		diff, said = (*bad.Number-*c.Reference["soil-moisture-vwc"].Number)/6, true
	} else if bad, ok := g.Values["soil-moisture"]; ok && c.Reference["soil-moisture"].Word != "" {
		diff, said = float64(index(classes, bad.Word)-index(classes, c.Reference["soil-moisture"].Word)), true
	}
	switch {
	case !said:
	case diff <= -1:
		g.Values["moisture-against-healthy"] = WordValue("drier")
	case diff >= 1:
		g.Values["moisture-against-healthy"] = WordValue("wetter")
	default:
		g.Values["moisture-against-healthy"] = WordValue("same")
	}
}

// smaller compares the area affected: better from a third less.
func smaller(before, now map[string]Value) (better, said bool) {
	a, b := before["affected-area-percent"].Number, now["affected-area-percent"].Number
	if a == nil || b == nil || *a < 2 {
		return false, false
	}
	return *b <= *a*2/3 && math.Abs(*a-*b) >= 2, true
}

// greener compares the colours: better where yellow or lime-green has gone, or dark green has come.
func greener(before, now map[string]Value) (better, said bool) {
	a, b := before["colour"].List, now["colour"].List
	if a == nil || b == nil {
		return false, false
	}
	pale := func(l []string) int {
		n := 0
		for _, w := range []string{"yellow", "lime-green"} {
			if index(l, w) >= 0 {
				n++
			}
		}
		return n
	}
	if pale(a) == 0 {
		return false, false
	}
	return pale(b) < pale(a) || index(b, "dark-green") >= 0, true
}
