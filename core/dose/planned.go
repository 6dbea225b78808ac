package dose

import (
	"slices"
	"strconv"
	"strings"

	"hodos/core/turf"
	"hodos/core/units"
)

// Known is what is known of a zone where the amount of an action is worked out. Figures go by the id of their finding, in its unit, and by
// the names below: area (m², what the action is for), area-error (%), n-dose (g N/m²), mow-to (mm), growth (% of the best),
// mean (°C of the air ahead), days-left (until it stops growing), removed (g N/m² taken off with clippings in a year).
type Known struct {
	Grass   turf.Species
	Texture string // of the vocabulary: sand … clay
	Figures map[string]float64
}

// Planned is the sum of an action: which calculation, what is entered in it, what is still missing for it, and what it comes to.
type Planned struct {
	Action, Calculation string
	Entries             map[string]Entry
	Missing             []string // fields that somebody has to fill in; the result is empty then
	Result              Result
}

// plannedRows say which calculation works out the amount of an action. An entry is field=figure: $name takes what is known of the zone,
// $name*100 a hundredfold of it (a share as per cent); what is not known is left out, and asked for where the calculation needs it.
// Depths are those that the plan tells of the action.
var plannedRows = []struct{ action, calculation, entries string }{
	{"apply-nitrogen", "nutrient", "nutrient=n target=$n-dose"},
	{"spoon-feed-nitrogen", "nutrient", "nutrient=n target=$n-dose"},
	{"acidifying-nitrogen", "nutrient", "nutrient=n target=$n-dose"},
	{"apply-phosphorus", "p-need", "test=$soil-p-ppm removed=$removed"},
	{"apply-potassium", "k-need", "test=$soil-k-ppm removed=$removed"},
	{"apply-iron", "iron", "target=$iron"},
	{"apply-lime", "lime", "texture=$texture ph=$soil-ph target=$ph-aim depth=100"},
	{"apply-acidifier", "sulfur", "texture=$texture ph=$soil-ph target=$ph-high depth=100 s=100 grass=$grass"},
	{"apply-gypsum", "gypsum", "sar=$soil-sar"},
	{"apply-silicon", "silicon", ""},
	{"leach-salts", "leach", "ec=$soil-ec-ds-m target=$salt"},
	{"apply-wetting-agent", "wetter", ""},
	{"water-deep", "sprinkler", "rate=$catch-can-mm-h du=$catch-can-du*100 texture=$texture infiltration=$infiltration-mm-h"},
	{"spot-water", "hand-water", ""},
	{"survival-water", "sprinkler", "net=12 rate=$catch-can-mm-h du=$catch-can-du*100 texture=$texture infiltration=$infiltration-mm-h"},
	{"light-watering-of-new-stands", "new-water", "rate=$catch-can-mm-h grass=$grass"},
	{"syringe-midday", "cool", "rate=$catch-can-mm-h"},
	{"raise-mowing-height", "raise", "from=$mowing-height-mm to=$mow-to"},
	{"resume-mowing", "third", "height=$mowing-height-mm grass=$grass mean=$mean"},
	{"sharpen-blades", "blades", ""},
	{"core-aerate", "cores", ""},
	{"dethatch", "debris", "thatch=$thatch-mm"},
	{"scarify", "debris", "thatch=$thatch-mm"},
	{"topdress", "topdress", "depth=5"},
	{"level-surface", "topdress", "depth=6"},
	{"apply-compost", "compost", "depth=5 soil-p=$soil-p-ppm"},
	{"overseed", "seed", "grass=$grass way=overseed"},
	{"slit-seed", "seed", "grass=$grass way=slit"},
	{"interseed", "seed", "grass=$grass way=interseed"},
	{"winter-overseed", "seed", "grass=perennial-ryegrass way=overseed"},
	{"renovate", "seed", "grass=$grass way=new"},
	{"change-grass", "seed", "way=new"},
	{"resod", "sod", "roll=1"},
	{"plug-or-sprig", "plugs", "grass=$grass growth=$growth days-left=$days-left"},
	{"growth-regulator", "regulator", "mean=$mean"},
	{"hand-weed", "weeding", ""},
	{"herbicide-spot", "tank", ""},
	{"herbicide-broadcast", "tank", ""},
	{"fungicide-curative", "tank", ""},
	{"fungicide-preventive", "tank", ""},
	{"insecticide-curative", "tank", ""},
	{"insecticide-preventive", "tank", ""},
	{"nuisance-pests", "tank", ""},
}

// ironFor is what a spray of iron holds, g/m²: .2, and .15 on the grasses that it blackens first (extension).
func ironFor(g turf.Species) float64 {
	if g.ID == "centipedegrass" || g.ID == "st-augustinegrass" {
		return .15
	}
	return .2
}

// PlannedFor works out the amount of an action as far as it is known; ok is false for an action that has none.
func PlannedFor(action string, k Known, say units.Saying) (p Planned, ok bool) {
	at := slices.IndexFunc(plannedRows, func(r struct{ action, calculation, entries string }) bool { return r.action == action })
	if at < 0 {
		return p, false
	}
	row := plannedRows[at]
	calc, _ := ByID(row.calculation)
	p = Planned{Action: action, Calculation: row.calculation, Entries: map[string]Entry{}}
	for _, e := range strings.Fields(row.entries + " area=$area area-error=$area-error") {
		id, value, _ := strings.Cut(e, "=")
		f := slices.IndexFunc(calc.Fields, func(f Field) bool { return f.ID == id })
		if f < 0 {
			continue // not every calculation asks for an area
		}
		if entry, known := k.entry(&calc.Fields[f], value); known {
			p.Entries[id] = entry
		} else if c := calc.Fields[f].Choices; value == "$grass" && c[0].ID != "any" {
			p.Missing = append(p.Missing, id) // another grass than its own must not stand in
		}
	}
	if p.Missing != nil {
		return p, true
	}
	r, err := Work(p.Calculation, p.Entries, say)
	for _, x := range refusedOf(err) {
		p.Missing = append(p.Missing, x.Field)
	}
	p.Result = r
	return p, true
}

func refusedOf(err error) Refused {
	r, _ := err.(Refused)
	return r
}

// entry is what a row enters in a field; known is false where nothing is known of it, or where what is known lies outside its limits.
func (k Known) entry(f *Field, value string) (Entry, bool) {
	name, fact := strings.CutPrefix(value, "$")
	if f.Choices != nil {
		if fact {
			name = map[string]string{"texture": k.texture(f), "grass": k.Grass.ID}[name]
		}
		return Entry{Choice: name}, slices.ContainsFunc(f.Choices, func(c Choice) bool { return c.ID == name })
	}
	x, err := strconv.ParseFloat(value, 64)
	if fact {
		name, hundredfold := strings.CutSuffix(name, "*100")
		v, ok := k.figure(name)
		if !ok {
			return Entry{}, false
		}
		x, err = v, nil
		if hundredfold {
			x *= 100
		}
	}
	return Entry{Amount: x}, err == nil && x >= f.Low && x <= f.High
}

// figure is a figure of the zone, or one that follows from its grass.
func (k Known) figure(name string) (float64, bool) {
	if x, ok := k.Figures[name]; ok {
		return x, true
	}
	switch g := k.Grass; name {
	case "iron":
		return ironFor(g), true
	case "ph-aim":
		return min(6.5, g.PH.Low+.3), g.PH.Known()
	case "ph-high":
		return g.PH.High, g.PH.Known()
	case "salt":
		return g.SaltStarts, g.SaltStarts > 0
	}
	return 0, false
}

// texture is the soil in the classes that a calculation counts with: some with five, some with three.
func (k Known) texture(f *Field) string {
	if slices.ContainsFunc(f.Choices, func(c Choice) bool { return c.ID == k.Texture }) || k.Texture == "" {
		return k.Texture
	}
	return soilClass(k.Texture)
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

// Wanted is a dose that follows from what is known: how much of what, g/m². Of names a nutrient of a label (p, k, fe, s), or "product" where
// it is the product itself.
type Wanted struct {
	Of  string
	GM2 float64
}

// portions say which figure of an action's sum is what one job puts down, and what it is of. Where it fits into one portion, the whole.
var portions = map[string]struct{ line, whole, of string }{
	"apply-lime":       {"portion", "rate", "product"},
	"apply-acidifier":  {"portion", "rate", "s"},
	"apply-phosphorus": {"portion", "p", "p"},
	"apply-potassium":  {"portion", "k", "k"},
	"overseed":         {"rate", "rate", "product"},
	"slit-seed":        {"rate", "rate", "product"},
	"interseed":        {"rate", "rate", "product"},
}

// Proposed is the dose of one job of an action that follows from soil test and grass; ok is false where nothing follows.
func Proposed(action string, k Known) (w Wanted, ok bool) {
	if action == "apply-iron" {
		return Wanted{"fe", ironFor(k.Grass)}, true
	}
	take, ok := portions[action]
	if !ok {
		return w, false
	}
	p, _ := PlannedFor(action, k.over(1), units.Saying{})
	for _, field := range needs[action] {
		if _, known := p.Entries[field]; !known {
			return w, false
		}
	}
	x, ok := p.Result.Value(take.line)
	if !ok {
		x, _ = p.Result.Value(take.whole)
	}
	if x <= 0 {
		return w, false
	}
	return Wanted{take.of, x}, true
}

// needs are the entries without which a usual figure must not stand in for a test.
var needs = map[string][]string{"apply-lime": {"ph", "target"}}

// over is the same zone with another area.
func (k Known) over(m2 float64) Known {
	figures := map[string]float64{}
	for id, x := range k.Figures {
		figures[id] = x
	}
	figures["area"], figures["area-error"] = m2, 0
	k.Figures = figures
	return k
}
