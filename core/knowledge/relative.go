package knowledge

import (
	"hodos/core/turf"
)

// relativeRow: a reading that means more on one grass than on another is turned to what it would mean on Kentucky bluegrass before it
// is weighed, so that rows and backgrounds stand for one grass and the tables of the grasses hold for all.
type relativeRow struct {
	finding string
	how     string // "less": as far from the grass's own figure; "times": as many times of it; "range": in the same place of its range
	of      func(turf.Species) []float64
}

// relativeRows: what a grass needs or bears; the figures are those of the tables of the grasses.
var relativeRows = []relativeRow{
	{"sun-hours", "less", func(g turf.Species) []float64 { return []float64{g.SunFull} }},
	{"nitrogen-12-months-g-m2", "times", func(g turf.Species) []float64 { return []float64{g.Nitrogen.Low} }},
	{"soil-ec-ds-m", "times", func(g turf.Species) []float64 { return []float64{g.SaltStarts} }},
	{"soil-ph", "range", func(g turf.Species) []float64 { return []float64{g.PHUnder, g.PH.Low, g.PH.High, g.PHOver} }},
}

// Reference is the grass that rows and backgrounds of relative readings stand for.
const Reference = "kentucky-bluegrass"

// Relation turns a reading to the reference grass and back.
type Relation struct {
	How      string
	own, ref []float64
}

// Relations of a lawn, by finding: none on the reference grass and where the grass or its figure is not known.
func Relations(l Lawn) map[string]Relation {
	out := map[string]Relation{}
	if len(l.Species) == 0 || l.Species[0] == Reference {
		return out
	}
	g, known := turf.ByID(l.Species[0])
	g = g.InForm(l.Form)
	ref, _ := turf.ByID(Reference)
	for _, r := range relativeRows {
		own := r.of(g)
		if !known || own[0] == 0 {
			continue
		}
		out[r.finding] = Relation{r.how, own, r.of(ref)}
	}
	return out
}

// To is what a reading means on the reference grass.
func (r Relation) To(x float64) float64 { return r.turn(x, r.own, r.ref) }

// Back is the reading on this grass that means so much on the reference grass.
func (r Relation) Back(x float64) float64 { return r.turn(x, r.ref, r.own) }

func (r Relation) turn(x float64, from, to []float64) float64 {
	switch r.How {
	case "less":
		return x - from[0] + to[0]
	case "times":
		return x * to[0] / from[0]
	}
	last := len(from) - 1
	switch {
	case x <= from[0]:
		return to[0] + x - from[0]
	case x >= from[last]:
		return to[last] + x - from[last]
	}
	for i := 1; ; i++ {
		if x <= from[i] {
			return to[i-1] + (x-from[i-1])/(from[i]-from[i-1])*(to[i]-to[i-1])
		}
	}
}
