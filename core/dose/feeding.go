package dose

import (
	"fmt"
	"math"
	"strings"

	"hodos/core/turf"
)

// Oxide to element, by molar mass: P = 0.436 P₂O₅, K = 0.830 K₂O; silica to silicon 0.467.
const (
	POfP2O5  = .436
	KOfK2O   = .830
	siOfSiO2 = .467
)

// The most at once, g/m²: P of a fertilizer 1 lb P₂O₅, K 1 lb K₂O/1000 ft² (extension).
const (
	mostPhosphorus = 2.13
	mostPotassium  = 4.06
	// LeastEven is the least that a spreader lays evenly in one pass, g/m² (judgement: about 1 lb/1000 ft²).
	LeastEven = 5.0
	rounding  = 1.005 // what a figure of a label is rounded by
)

// nutrients of a bag: id, label, the share of the printed figure that is the element, the most at once in g/m² (0: no such limit).
var nutrients = []struct {
	id, label string
	element   float64
	most      float64
}{
	{"n", "Nitrogen (N)", 1, turf.MostNitrogen},
	{"p2o5", "Phosphorus (P₂O₅)", POfP2O5, mostPhosphorus},
	{"k2o", "Potassium (K₂O)", KOfK2O, mostPotassium},
	{"fe", "Iron (Fe)", 1, .3},
	{"s", "Sulfur (S)", 1, 24},
	{"mg", "Magnesium (Mg)", 1, 5},
	{"ca", "Calcium (Ca)", 1, 0},
	{"mn", "Manganese (Mn)", 1, .5},
	{"sio2", "Silica (SiO₂)", siOfSiO2, 0},
}

func bag() []Field {
	var out []Field
	for _, x := range nutrients {
		out = append(out, num(x.id, "Label: "+x.label, "%", 0, 100).or(0))
	}
	return out
}

func nutrientChoice() Field {
	var pairs []string
	for _, x := range nutrients {
		name, _, _ := strings.Cut(x.label, " (")
		pairs = append(pairs, x.id, name)
	}
	return pick("nutrient", "Nutrient wanted", pairs...)
}

func feeding() []Calculator {
	source := "product = target ÷ fraction; P = 0.436 P₂O₅, K = 0.830 K₂O (molar mass); most at once: extension consensus"
	asked := pick("as", "Target counts as", "element", "the element (N, P, K …)", "label", "what the label prints (P₂O₅, K₂O, SiO₂)")
	release := pick("release", "Nitrogen", "slow", "slow or partly slow", "quick", "all quick")
	pack := fields(num("pack", "Pack", "kg", .01, 2000).opt(), num("price", "Price of a pack", "money", 0, 1e5).opt(),
		num("density", "Weight of a litre, for liquids", "kg/L", .5, 2.5).opt())
	return []Calculator{
		{"nutrient", "Feed", "Product for a nutrient", "How much of this bag gives the nutrient that is wanted?", source,
			fields(nutrientChoice(), num("target", "Target", "g/m2", .001, 1000), asked, bag(), release, areaOf(), pack), workNutrient},
		{"given", "Feed", "What a product gave", "How much of each nutrient did this amount put down?", source,
			fields(num("product", "Product put down", "kg", .001, 1e5), bag(), release, areaOf()), workGiven},
		{
			"p-need",
			"Feed",
			"Phosphorus by soil test",
			"How much phosphorus does the test ask for?",
			"minimum 21 mg/kg Mehlich-3 (Woods, Stowell and Gelernter 2016, grade B), 100 mm of soil of 1.5 g/cm³, 0.125 of the nitrogen taken off; " +
				"local laboratory guidance goes first",
			fields(num("test", "Phosphorus of the test", "mg/kg", 0, 1000), num("removed", "Nitrogen taken off with clippings", "g/m2", 0, 30).or(0),
				areaOf()),
			workPNeed,
		},
		{"k-need", "Feed", "Potassium by soil test", "How much potassium does the test ask for?",
			"minimum 37 mg/kg Mehlich-3 (Woods, Stowell and Gelernter 2016, grade B), 100 mm of soil of 1.5 g/cm³, half of the nitrogen taken off",
			fields(num("test", "Potassium of the test", "mg/kg", 0, 2000), num("removed", "Nitrogen taken off with clippings", "g/m2", 0, 30).or(0),
				areaOf()), workKNeed},
		{
			"iron",
			"Feed",
			"Iron spray",
			"How much iron product, in how much water?",
			"0.1 to 0.3 g Fe/m² in 4 to 16 L/100 m²; centipede and St Augustine up to 0.2",
			fields(num("target", "Iron", "g/m2", .01, 1).or(.2), num("fe", "Iron on the label", "%", .1, 100),
				num("carrier", "Water carrier", "L/100m2", 1, 60).or(8), num("density", "Weight of a litre, for liquids", "kg/L", .5, 2.5).opt(),
				grasses(func(turf.Species) bool { return true }, "any grass"), areaOf()),
			workIron,
		},
		{
			"release",
			"Feed",
			"Works until",
			"How long does this feeding last, and what is still to come?",
			"R = 1 − exp(−d · 2^((T−25)/10)/τ), τ in days at 25 °C: quick 10, inhibited 25, sulfur-coated 35, methylene urea 45, polymer label ÷ 1.6, " +
				"organic 60 (judgement)",
			fields(
				pick(
					"kind",
					"Release",
					"quick",
					"quick",
					"inhibited",
					"urea with inhibitor",
					"sulfur-coated",
					"sulfur-coated",
					"methylene",
					"methylene urea",
					"polymer",
					"polymer-coated",
					"organic",
					"organic",
				),
				num("label-days", "Days on the label, for a polymer coat", "d", 20, 400).or(90),
				num(
					"dose",
					"Nitrogen given",
					"g/m2",
					.1,
					25,
				),
				num("soil", "Soil from now on", "C", -5, 45),
				num("since", "Days since", "d", 0, 400).or(0),
				num("need", "Nitrogen needed a day", "g/m2", .001, 1).opt(),
			),
			workRelease,
		},
	}
}

func workNutrient(s *sheet) {
	var row = nutrients[0]
	for _, x := range nutrients {
		if x.id == s.picked["nutrient"] {
			row = x
		}
	}
	percent := s.n[row.id]
	if percent <= 0 {
		s.refuse(row.id, "is 0: this product has none of it")
		return
	}
	if s.sumOver100() {
		return
	}
	share := percent / 100
	if s.picked["as"] == "element" {
		share *= row.element
	}
	rate, area := s.n["target"]/share, s.n["area"]
	if rate > 5000 {
		s.refuse("target", "takes "+s.fig(rate, "g/m2")+" of this product")
		return
	}
	s.show("%s ÷ %s = %s of product", s.fig(s.n["target"], "g/m2"), s.fig(share*100, "%"), s.fig(rate, "g/m2"))
	s.show("%s × %s = %s", s.fig(rate, "g/m2"), s.fig(area, "m2"), s.fig(rate*area, "g"))
	s.leadTotal("product", "Product for the area", rate*area, "g")
	s.rate("rate", "Rate", rate, "g/m2")
	s.elements(rate)
	s.limits(rate)
	s.packs(rate * area)
}

func (s *sheet) sumOver100() bool {
	sum := 0.0
	for _, x := range nutrients {
		sum += s.n[x.id]
	}
	if sum > 100.01 {
		s.refuse("n", fmt.Sprintf("and the other figures add up to %s", s.fig(sum, "%")))
	}
	return sum > 100.01
}

// elements lists what a rate of product puts down of each, g of the element a m².
func (s *sheet) elements(rate float64) {
	for _, x := range nutrients {
		if s.n[x.id] > 0 {
			name, _, _ := strings.Cut(x.label, " (")
			id := map[string]string{"p2o5": "p", "k2o": "k", "sio2": "si"}[x.id]
			if id == "" {
				id = x.id
			}
			s.rate(id, name+" ("+strings.ToUpper(id[:1])+id[1:]+")", rate*s.n[x.id]/100*x.element, "g/m2")
		}
	}
}

// limits warns where a rate is over what is given at once, or under what can be spread evenly.
func (s *sheet) limits(rate float64) {
	for _, x := range nutrients {
		element := rate * s.n[x.id] / 100 * x.element
		name, _, _ := strings.Cut(x.label, " (")
		most := x.most
		if x.id == "n" && s.picked["release"] == "quick" {
			most = turf.MostQuickNitrogen
		}
		if most > 0 && element > most*rounding {
			n := math.Ceil(element / (most * rounding))
			s.warn(
				"most-"+x.id,
				"%s %s is over %s at once: give it in %.0f parts",
				s.fig(element, "g/m2"),
				strings.ToLower(name),
				s.fig(most, "g/m2"),
				n,
			)
		}
	}
	if _, liquid := s.n["density"]; rate < LeastEven && !liquid {
		s.warn(
			"least-even",
			"%s is less than most spreaders lay evenly: half the rate two ways, a weaker product, or a liquid",
			s.fig(rate, "g/m2"),
		)
	}
}

// packs says volume, packs, cost and what is left over of an amount of product in g.
func (s *sheet) packs(grams float64) {
	if s.has("density") {
		s.total("volume", "As a liquid", grams/s.n["density"], "mL")
	}
	if !s.has("pack") {
		return
	}
	pack := s.n["pack"] * 1000
	count := math.Ceil(grams/pack - 1e-9)
	s.line("packs", "Packs", count, "")
	s.line("left", "Left over", count*pack-grams, "g")
	s.show("%s ÷ %s = %s packs", s.fig(grams, "g"), s.fig(pack, "g"), s.fig(grams/pack, ""))
	if s.has("price") {
		s.line("cost", "Cost of what is used", grams/pack*s.n["price"], "money")
		s.line("cost-packs", "Cost of the packs", count*s.n["price"], "money")
	}
}

func workGiven(s *sheet) {
	if s.sumOver100() {
		return
	}
	rate := s.n["product"] * 1000 / s.n["area"]
	s.show("%s ÷ %s = %s", s.fig(s.n["product"]*1000, "g"), s.fig(s.n["area"], "m2"), s.fig(rate, "g/m2"))
	s.rate("rate", "Rate", rate, "g/m2")
	s.r.Lines[len(s.r.Lines)-1].Lead = true
	s.elements(rate)
	s.limits(rate)
}

// need is what a soil test asks for: each mg/kg under the minimum takes .15 g/m² of 100 mm of soil.
func (s *sheet) need(id, label string, minimum, most, perN float64) {
	lack := math.Max(0, minimum-s.n["test"]) * .15
	need := lack + perN*s.n["removed"]
	s.show("(%s − %s) × 0.15 + %s × %s = %s", s.fig(minimum, ""), s.fig(math.Min(minimum, s.n["test"]), ""), s.fig(perN, ""),
		s.fig(s.n["removed"], "g/m2"), s.fig(need, "g/m2"))
	s.lead(id, label, need, "g/m2")
	s.total("total", "For the area", need*s.n["area"], "g")
	if lack == 0 {
		s.warn("enough", "the test is at or over the minimum of %s: nothing is lacking", s.fig(minimum, "mg/kg"))
	}
	if need > most {
		parts := math.Ceil(need / most)
		s.line("parts", "Portions", parts, "")
		s.line("portion", "Each portion", need/parts, "g/m2")
		s.warn("most", "over %s at once: %.0f portions", s.fig(most, "g/m2"), parts)
	}
}

func workPNeed(s *sheet) { s.need("p", "Phosphorus (P)", 21, mostPhosphorus, .125) }
func workKNeed(s *sheet) { s.need("k", "Potassium (K)", 37, mostPotassium, .5) }

func workIron(s *sheet) {
	rate, area := s.n["target"]/(s.n["fe"]/100), s.n["area"]
	water := s.n["carrier"] * area / 100
	s.show("%s ÷ %s = %s of product", s.fig(s.n["target"], "g/m2"), s.fig(s.n["fe"], "%"), s.fig(rate, "g/m2"))
	s.leadTotal("product", "Product for the area", rate*area, "g")
	s.rate("rate", "Rate", rate, "g/m2")
	s.total("water", "Water", water*1000, "mL")
	s.packs(rate * area)
	most := .3
	if g := s.picked["grass"]; g == "centipedegrass" || g == "st-augustinegrass" {
		most = .2
	}
	if s.n["target"] > most+1e-9 {
		s.warn("most-fe", "over %s the leaves of this grass blacken", s.fig(most, "g/m2"))
	}
	if c := s.n["carrier"]; c < 4 || c > 16 {
		s.warn("carrier", "iron is sprayed in %s to %s", s.fig(4, "L/100m2"), s.fig(16, "L/100m2"))
	}
	s.warn("stains", "keep it off stone and paving, and rinse them at once: iron stains")
}

// Tau is the time in days at 25 °C after which a release is two thirds done (judgement).
var Tau = map[string]float64{"quick": 10, "inhibited": 25, "sulfur-coated": 35, "methylene": 45, "organic": 60}

// Released is the share of a feeding that has been released after days at a soil temperature.
func Released(tau, soilC, days float64) float64 {
	return 1 - math.Exp(-days*math.Exp2((soilC-25)/10)/tau)
}

func workRelease(s *sheet) {
	tau := Tau[s.picked["kind"]]
	if s.picked["kind"] == "polymer" {
		tau = s.n["label-days"] / 1.6
	}
	pace := math.Exp2((s.n["soil"] - 25) / 10)
	done := Released(tau, s.n["soil"], s.n["since"])
	until := -math.Log(.2) * tau / pace
	s.show("τ = %s days at 25 °C, a day counts %s", s.fig(tau, ""), s.fig(pace, ""))
	s.lead("until", "Four fifths are released after", until, "d")
	s.line("released", "Released so far", done*100, "%")
	coming := s.n["dose"] * (1 - done)
	s.line("coming", "Still to come", coming, "g/m2")
	soon := s.n["dose"] * (Released(tau, s.n["soil"], s.n["since"]+21) - done)
	s.line("coming-21", "Of that in the next 21 days", soon, "g/m2")
	if s.has("need") {
		for d := 0.0; d <= 400; d++ {
			at := s.n["since"] + d
			if s.n["dose"]*(Released(tau, s.n["soil"], at+21)-Released(tau, s.n["soil"], at)) < 21*s.n["need"] {
				s.line("next", "The next feeding is due in", d, "d")
				break
			}
		}
	}
}
