package dose

import (
	"math"

	"hodos/core/turf"
	"hodos/core/units"
)

// Facts are what is known of a zone where a dose is proposed; nil is not known.
type Facts struct {
	Grass    turf.Species
	Texture  string // of the vocabulary: sand … clay
	PH, P, K *float64
	RemovedN float64 // nitrogen taken off with clippings in a year, g/m²
}

// Wanted is a dose that follows from the facts: how much of what, g/m². Of names a nutrient of a label (p, k, fe, s), or "product" where it is
// the product itself.
type Wanted struct {
	Of   string
	GM2  float64
	From string // what it follows from, for whoever reads it: test, grass
}

// soilClass is the soil in the three classes that lime and sulfur count with.
func soilClass(texture string) string {
	switch texture {
	case "sand", "loamy-sand":
		return "sand"
	case "clay", "clay-loam":
		return "clay"
	}
	return "loam"
}

// Proposed is the dose of an action that follows from soil test and grass, by the same rules as the bench; ok is false where nothing follows.
func Proposed(action string, f Facts) (w Wanted, ok bool) {
	switch action {
	case "apply-lime":
		if f.PH == nil || !f.Grass.PH.Known() {
			return w, false
		}
		return worked("lime", "portion", "product", map[string]Entry{"texture": {Choice: soilClass(f.Texture)}, "ph": {Amount: *f.PH},
			"target": {Amount: math.Min(6.5, f.Grass.PH.Low+.3)}, "depth": {Amount: 100}, "area": {Amount: 1}})
	case "apply-acidifier":
		if f.PH == nil || !f.Grass.PH.Known() {
			return w, false
		}
		return worked("sulfur", "portion", "s", map[string]Entry{"texture": {Choice: soilClass(f.Texture)}, "ph": {Amount: *f.PH},
			"target": {Amount: f.Grass.PH.High}, "depth": {Amount: 100}, "s": {Amount: 100}, "grass": {Choice: f.Grass.ID}, "area": {Amount: 1}})
	case "apply-phosphorus":
		return byTest("p-need", "p", f.P, f.RemovedN)
	case "apply-potassium":
		return byTest("k-need", "k", f.K, f.RemovedN)
	case "apply-iron":
		if f.Grass.ID == "centipedegrass" || f.Grass.ID == "st-augustinegrass" {
			return Wanted{"fe", .15, "grass"}, true
		}
		return Wanted{"fe", .2, "grass"}, true
	case "overseed", "slit-seed", "interseed":
		way := map[string]string{"overseed": "overseed", "slit-seed": "slit", "interseed": "interseed"}[action]
		if !f.Grass.Seed.Known() {
			return w, false
		}
		w, ok = worked("seed", "rate", "product", map[string]Entry{"grass": {Choice: f.Grass.ID}, "way": {Choice: way}, "area": {Amount: 1}})
		w.From = "grass"
		return w, ok
	}
	return w, false
}

func byTest(calculation, of string, test *float64, removed float64) (w Wanted, ok bool) {
	if test == nil {
		return w, false
	}
	in := map[string]Entry{"test": {Amount: *test}, "removed": {Amount: math.Min(30, removed)}, "area": {Amount: 1}}
	if w, ok = worked(calculation, "portion", of, in); ok {
		return w, true
	}
	return worked(calculation, of, of, in) // it fits into one portion
}

// worked takes a figure out of a calculation.
func worked(id, line, of string, in map[string]Entry) (Wanted, bool) {
	r, err := Work(id, in, units.Saying{})
	if err != nil {
		return Wanted{}, false
	}
	x, ok := r.Value(line)
	if !ok || x <= 0 {
		return Wanted{}, false
	}
	return Wanted{of, x, "test"}, true
}
