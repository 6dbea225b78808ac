package dose

import (
	"math"

	"hodos/core/units"
)

const areaSource = "errors of the sides are independent: √(Σ (∂A/∂side · error)²); beds and paving come off"

// sides are the fields of a shape, its sides in a unit.
func sides(unit string, more ...Field) []Field {
	side := func(id, label, shape string) Field { return num(id, label, unit, .1, 5000).when("shape=" + shape) }
	out := fields(
		pick(
			"shape",
			"Shape",
			"rectangle",
			"rectangle",
			"circle",
			"circle",
			"triangle",
			"triangle by three sides",
			"trapezoid",
			"two parallel sides",
			"l",
			"L-shape: whole less a corner",
		),
		side("length", "Length", "rectangle"),
		side("width", "Width", "rectangle"),
		side("across", "Across", "circle"),
		side("first", "First side", "triangle"),
		side("second", "Second side", "triangle"),
		side("third", "Third side", "triangle"),
		side(
			"one",
			"One parallel side",
			"trapezoid",
		),
		side("other", "The other", "trapezoid"),
		side("apart", "Distance between them", "trapezoid"),
		side(
			"whole-length",
			"Length of the whole",
			"l",
		),
		side("whole-width", "Width of the whole", "l"),
		side("corner-length", "Length of the corner", "l"),
		side("corner-width", "Width of the corner", "l"),
	)
	return append(append(out, more...), num("out", "Beds and paving, taken off", "m2", 0, 1e6).or(0))
}

// sidesOf names the sides of each shape, in the order of shape.
var sidesOf = map[string][]string{"rectangle": {"length", "width"}, "circle": {"across"}, "triangle": {"first", "second", "third"},
	"trapezoid": {"one", "other", "apart"}, "l": {"whole-length", "whole-width", "corner-length", "corner-width"}}

func areas() []Calculator {
	var all []string
	for _, u := range units.All() {
		all = append(all, u.ID, u.Label)
	}
	return []Calculator{
		{"area", "Area and units", "Area by tape", "How large is it, and how sure is that?", areaSource,
			sides("m", num("side-error", "Error of a side", "%", 0, 30).or(1)), workArea},
		{"paces", "Area and units", "Area in paces", "How large is it, and how sure is that?", areaSource,
			sides("", num("pace", "Length of a pace", "m", .3, 1.5).or(.75), num("side-error", "Error of a side", "%", 0, 30).or(5)), workArea},
		{"convert", "Area and units", "Units", "What is it in other units?", "NIST Special Publication 811, exact",
			fields(num("amount", "Amount", "", -1e12, 1e12), pick("unit", "Unit", all...)), workConvert},
	}
}

// shape is the area of sides, m² for m.
func shape(kind string, x [4]float64) float64 {
	a, b, c, d := x[0], x[1], x[2], x[3]
	switch kind {
	case "circle":
		return math.Pi / 4 * a * a
	case "triangle":
		p := (a + b + c) / 2
		return math.Sqrt(math.Max(0, p*(p-a)*(p-b)*(p-c)))
	case "trapezoid":
		return (a + b) / 2 * c
	case "l":
		return a*b - c*d
	}
	return a * b
}

func workArea(s *sheet) {
	kind := s.picked["shape"]
	x, per, e := [4]float64{}, 1.0, s.n["side-error"]/100
	if s.has("pace") {
		per = s.n["pace"]
	}
	names := sidesOf[kind]
	for i, id := range names {
		x[i] = s.n[id] * per
	}
	if kind == "triangle" && (x[0]+x[1] <= x[2] || x[1]+x[2] <= x[0] || x[0]+x[2] <= x[1]) {
		s.refuse("third", "does not close with the other two")
		return
	}
	if kind == "l" && (x[2] >= x[0] || x[3] >= x[1]) {
		s.refuse("corner-length", "is not shorter than the whole")
		return
	}
	area := shape(kind, x)
	variance := 0.0
	for i := range names {
		up := x
		up[i] *= 1 + 1e-6
		slope := (shape(kind, up) - area) / 1e-6
		variance += slope * slope * e * e
	}
	net := area - s.n["out"]
	if net <= 0 {
		s.refuse("out", "is more than the whole")
		return
	}
	s.lead("area", "Area", net, "m2")
	s.line("error", "Error", math.Sqrt(variance)/net*100, "%")
	s.line("low", "Between", net-math.Sqrt(variance), "m2")
	s.line("high", "and", net+math.Sqrt(variance), "m2")
	if s.n["out"] > 0 {
		s.line("gross", "With beds and paving", area, "m2")
	}
}

func workConvert(s *sheet) {
	from, err := units.Lookup(s.picked["unit"])
	if err != nil {
		s.refuse("unit", err.Error())
		return
	}
	for _, u := range units.All() {
		if u.Dimension != from.Dimension || u.ID == from.ID {
			continue
		}
		x := u.From(from.SI(s.n["amount"]))
		s.r.Lines = append(s.r.Lines, Line{ID: u.ID, Label: u.Label, Value: x, Text: units.Four(x) + " " + u.Label, Lead: len(s.r.Lines) == 0})
	}
}
