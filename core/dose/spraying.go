package dose

import (
	"fmt"
	"math"

	"hodos/core/turf"
)

// mixing is the order in which products go into the tank (extension: by formulation, the wettable ones first, what wets last).
var mixing = []Choice{{"conditioner", "water conditioner"}, {"wp", "wettable powder (WP)"}, {"wg", "water-dispersible granules (WG, DF)"},
	{"sc", "suspension (SC, F)"}, {"ec", "emulsion (EC, EW)"}, {"sl", "solution (SL, SP)"}, {"surfactant", "surfactant or oil"},
	{"fertilizer", "liquid fertilizer, iron"}}

// MixOrder is the place of a formulation in the order of mixing, from 1; 0 for one that does not go into a tank.
func MixOrder(formulation string) int {
	for i, m := range mixing {
		if m.ID == formulation {
			return i + 1
		}
	}
	return 0
}

// Formulations lists what goes into a tank, in the order of mixing.
func Formulations() []Choice { return mixing }

func sprays() []Calculator {
	tank := num("tank", "Tank", "L", .5, 20000)
	return []Calculator{
		{
			"tank",
			"Spray",
			"Tank mix",
			"How much product and water for each fill, and for the last?",
			"amount = rate × area; water = carrier × area; the last fill takes what is left",
			fields(
				pick("measure", "Product is measured by", "volume", "volume", "mass", "weight"),
				num("rate", "Label rate", "mL/m2", 1e-5, 100).when("measure=volume"),
				num(
					"rate-mass",
					"Label rate",
					"g/m2",
					1e-5,
					100,
				).when("measure=mass"),
				num("carrier", "Water carrier", "L/100m2", .5, 100),
				tank,
				areaOf(),
				num("rest", "Left in the tank at the end", "L", 0, 500).or(0),
			),
			workTank,
		},
		{"percent", "Spray", "Mix by concentration", "How much product for a spray until wet?", "by the label; until evenly wet, before it drips",
			fields(num("strength", "Strength of the mix", "mL/L", .01, 500), num("mix", "Mix needed", "L", .1, 5000), tank), workPercent},
		{
			"nozzles",
			"Spray",
			"Sprayer output",
			"How much water does the sprayer put on an area?",
			"L/100 m² = L/min ÷ (speed m/min × swath m) × 100",
			fields(
				num("catch", "Caught from one nozzle", "mL", 1, 20000),
				num("seconds", "In", "s", 1, 600).or(60),
				num("nozzles", "Nozzles", "", 1, 60).or(1).whole(),
				num(
					"distance",
					"Measured distance",
					"m",
					1,
					500,
				).or(30),
				num("time", "Walked or driven in", "s", 1, 1000),
				num("swath", "Swath", "m", .1, 30),
				num("want", "Carrier that the label wants", "L/100m2", .5, 100).opt(),
			),
			workNozzles,
		},
		{
			"hose-end",
			"Spray",
			"Hose-end sprayer",
			"What dial, and how much concentrate?",
			"water = flow × minutes to cover the area; dial = product in a litre of water",
			fields(
				num("rate", "Label rate", "mL/m2", 1e-4, 100),
				num("flow", "Water through the hose", "L/min", 1, 100),
				num("minutes", "Minutes for the area", "min", .1, 600),
				num("draw", "Measured draw of concentrate", "mL", 0, 5000).opt(),
				areaOf(),
			),
			workHose,
		},
		{
			"wetter",
			"Spray",
			"Wetting agent",
			"How much product in how much water?",
			"by the label; carrier ≥ 8 L/100 m²; spots with a margin of half a metre; again on day 14, then every 21 to 28",
			fields(
				num("rate", "Label rate", "mL/m2", .01, 50),
				num("carrier", "Water carrier", "L/100m2", 1, 100).or(8),
				num("spots", "Spots", "", 0, 500).or(0).whole(),
				num("width", "Width of a spot", "m", .1, 30).opt(),
				tank.opt(),
				areaOf(),
			),
			workWetter,
		},
	}
}

// fills splits a volume of mix over a tank.
func (s *sheet) fills(mix, perLitre float64, unit string) {
	tank := s.n["tank"]
	full := math.Floor(mix/tank + 1e-9)
	last := mix - full*tank
	if last < 1e-6*tank {
		last = 0
	}
	s.line("fills", "Full tanks", full, "")
	if full > 0 {
		s.line("product-fill", "Product in a full tank", tank*perLitre, unit)
	}
	if last > 0 {
		s.line("last-mix", "Last fill, mix", last*1000, "mL")
		s.line("last-product", "Product in the last fill", last*perLitre, unit)
	}
	s.show("%s ÷ %s = %s fills", s.fig(mix*1000, "mL"), s.fig(tank*1000, "mL"), s.fig(mix/tank, ""))
}

func workTank(s *sheet) {
	id, unit := "rate", "mL"
	if s.picked["measure"] == "mass" {
		id, unit = "rate-mass", "g"
	}
	rate, area := s.n[id], s.n["area"]
	mix := s.n["carrier"]*area/100 + s.n["rest"]
	product := rate * area * (mix / (s.n["carrier"] * area / 100))
	s.show("%s × %s = %s", s.fig(rate, unit+"/m2"), s.fig(area, "m2"), s.fig(rate*area, unit))
	s.leadTotal("product", "Product", product, unit)
	s.total("mix", "Mix in all", mix*1000, "mL")
	if unit == "mL" {
		s.total("water", "Water", mix*1000-product, "mL")
	}
	s.line("covers", "A full tank covers", s.n["tank"]/s.n["carrier"]*100, "m2")
	s.fills(mix, product/mix, unit)
	s.rate("real", "Rate", rate, unit+"/m2")
	s.line("strength", "Product in a litre of mix", product/mix, map[string]string{"mL": "mL/L", "g": "g/L"}[unit])
	s.warn("half", "half the water first, then the product, mix, the rest of the water, mix again")
	if rest := s.n["rest"]; rest > 0 {
		s.warn("rest", "%s of mix stays in tank and hoses: dilute it and spray it out on treated turf, by the label", s.fig(rest*1000, "mL"))
	}
}

func workPercent(s *sheet) {
	product := s.n["strength"] * s.n["mix"]
	s.lead("product", "Product", product, "mL")
	s.line("water", "Water", s.n["mix"]*1000-product, "mL")
	s.show("%s × %s = %s", s.fig(s.n["strength"], "mL/L"), s.fig(s.n["mix"]*1000, "mL"), s.fig(product, "mL"))
	s.line("percent", "Share of the mix", s.n["strength"]/10, "%")
	s.fills(s.n["mix"], s.n["strength"], "mL")
	s.warn("end", "until the leaves are evenly wet, before it drips")
}

func workNozzles(s *sheet) {
	litres := s.n["catch"] / 1000 / s.n["seconds"] * 60 * s.n["nozzles"]
	speed := s.n["distance"] / s.n["time"] * 60 // m/min
	out := litres / (speed * s.n["swath"]) * 100
	s.line("flow", "Output of the sprayer", litres, "L/min")
	s.line("speed", "Pace", speed/60, "m/s")
	s.lead("output", "Water carrier", out, "L/100m2")
	s.show("%s ÷ (%s m/min × %s) × 100 = %s", s.fig(litres, "L/min"), s.fig(speed, ""), s.fig(s.n["swath"]*1000, "mm"), s.fig(out, "L/100m2"))
	if s.has("want") {
		s.line("pace", "Pace for the wanted carrier", speed/60*out/s.n["want"], "m/s")
		s.line("time", "That is, over the measured distance", s.n["time"]*s.n["want"]/out, "s")
		if miss := (out/s.n["want"] - 1) * 100; math.Abs(miss) > 5 {
			s.warn(
				"output",
				"%s %s than wanted: the product in the tank follows the measured carrier, or the pace is changed",
				s.fig(math.Abs(miss), "%"),
				map[bool]string{true: "more", false: "less"}[miss > 0],
			)
		}
	}
}

func workHose(s *sheet) {
	water := s.n["flow"] * s.n["minutes"]
	product := s.n["rate"] * s.n["area"]
	s.leadTotal("product", "Product for the area", product, "mL")
	s.line("water", "Water in that time", water*1000, "mL")
	s.line("carrier", "Water carrier", water/s.n["area"]*100, "L/100m2")
	s.line("dial", "Dial: product in a litre of water", product/water, "mL/L")
	s.show(
		"%s × %s = %s; %s ÷ %s",
		s.fig(s.n["rate"], "mL/m2"),
		s.fig(s.n["area"], "m2"),
		s.fig(product, "mL"),
		s.fig(product, "mL"),
		s.fig(water*1000, "mL"),
	)
	if s.has("draw") && s.n["draw"] > 0 {
		// draw: what the bottle loses in a minute of running water
		in := s.n["draw"] * s.n["minutes"]
		s.line("drawn", "Drawn from the bottle in that time", in, "mL")
		s.line("dilute", "Fill of the bottle: product", product, "mL")
		if in > product {
			s.line("dilute-water", "and water to", in, "mL")
		} else {
			s.warn("draw", "it draws too little in that time: %s are needed", s.fig(product/s.n["draw"], "min"))
		}
	}
	s.warn("backflow", "a backflow stop on the tap: nothing may be drawn back into the mains")
}

func workWetter(s *sheet) {
	area := s.n["area"]
	if n := s.n["spots"]; n > 0 {
		if !s.has("width") {
			s.refuse("width", "is missing: how wide is a spot")
			return
		}
		d := s.n["width"] + 1
		spots := n * math.Pi / 4 * d * d
		s.show("%s spots of %s with half a metre of margin = %s", s.fig(n, ""), s.fig(s.n["width"]*1000, "mm"), s.fig(spots, "m2"))
		area = math.Min(area, spots)
		s.line("treated", "Area treated", area, "m2")
	}
	water := s.n["carrier"] * area / 100
	s.leadTotal("product", "Product", s.n["rate"]*area, "mL")
	s.total("water", "Water", water*1000, "mL")
	s.show("%s × %s = %s", s.fig(s.n["rate"], "mL/m2"), s.fig(area, "m2"), s.fig(s.n["rate"]*area, "mL"))
	if s.has("tank") {
		s.fills(water, s.n["rate"]*area/water, "mL")
	}
	if s.n["carrier"] < 8 {
		s.warn("carrier", "at least %s carry it in", s.fig(8, "L/100m2"))
	}
	s.r.Tables = append(s.r.Tables, Table{
		Label: "Repeat",
		Head:  []string{"Day", ""},
		Days:  []int{0, 14, 35},
		Value: []float64{0, 14, 35},
		Rows: [][]string{
			{"0", "moisten, wait 5 to 10 minutes, spray, water in at once"},
			{"14", "again"},
			{"35", "then every 21 to 28 days by the label, until water goes in at once"},
		},
	})
}

func spreading() []Calculator {
	return []Calculator{
		{
			"spreader",
			"Spread",
			"Spreader setting",
			"Does the spreader lay the rate that is wanted?",
			"rate = caught ÷ (swath × length); the setting follows in proportion, then it is caught again",
			fields(
				num("caught", "Caught or weighed out", "g", 1, 1e6),
				num("length", "Length of the pass", "m", 1, 2000),
				num("swath", "Effective swath", "m", .1, 30),
				num(
					"want",
					"Rate wanted",
					"g/m2",
					.1,
					2000,
				),
				num("setting", "Setting now", "", .1, 1000).opt(),
				num("n", "Nitrogen on the label", "%", 0, 60).or(0),
				num("time", "Time of the pass", "s", 1, 3600).opt(),
			),
			workSpreader,
		},
		{
			"passes",
			"Spread",
			"Passes",
			"How many passes, and how much for each?",
			"width ÷ effective swath, rounded up; half the rate each of two ways",
			fields(
				num("width", "Width of the zone", "m", .5, 2000),
				num("length", "Length of the zone", "m", .5, 2000),
				num("throw", "Throw of the spreader", "m", .2, 40),
				num("overlap", "Overlap", "%", 0, 60).or(0),
				num("rate", "Rate", "g/m2", .1, 2000),
				pick("ways", "Spread", "one", "one way", "two", "two ways, half each"),
				num("pace", "Pace", "m/s", .2, 5).or(1.3),
			),
			workPasses,
		},
		{
			"hopper",
			"Spread",
			"Check after the first area",
			"Is the machine laying what was planned?",
			"what is gone ÷ the area done, against the plan",
			fields(
				num("start", "In the hopper at the start", "kg", .01, 2000),
				num("end", "Left in it", "kg", 0, 2000),
				num("done", "Area done", "m2", .1, 1e6),
				num(
					"want",
					"Rate wanted",
					"g/m2",
					.1,
					2000,
				),
				num("setting", "Setting now", "", .1, 1000).opt(),
				num("n", "Nitrogen on the label", "%", 0, 60).or(0),
				areaOf(),
			),
			workHopper,
		},
	}
}

// against says how far a measured rate lies from the wanted, and what it does to the nutrient.
func (s *sheet) against(rate float64) {
	want := s.n["want"]
	miss := (rate/want - 1) * 100
	s.line("error", "Against the wanted rate", miss, "%")
	if s.n["n"] > 0 {
		s.line("n-wanted", "Nitrogen wanted", want*s.n["n"]/100, "g/m2")
		s.line("n-laid", "Nitrogen laid", rate*s.n["n"]/100, "g/m2")
		if x := rate * s.n["n"] / 100; x > turf.MostNitrogen*rounding {
			s.warn("most-n", "%s nitrogen is over %s at once", s.fig(x, "g/m2"), s.fig(turf.MostNitrogen, "g/m2"))
		}
	}
	if s.has("setting") {
		s.line("setting", "New setting", s.n["setting"]*want/rate, "")
	}
	if math.Abs(miss) > 10 {
		s.warn("rate", "more than a tenth off: set it anew and catch again")
	}
	if want < LeastEven {
		s.warn("least-even", "%s is less than most spreaders lay evenly: half of it two ways, a weaker product or a liquid", s.fig(want, "g/m2"))
	}
}

func workSpreader(s *sheet) {
	rate := s.n["caught"] / (s.n["swath"] * s.n["length"])
	s.show("%s ÷ (%s m × %s m) = %s", s.fig(s.n["caught"], "g"), fmt.Sprint(s.n["swath"]), fmt.Sprint(s.n["length"]), s.fig(rate, "g/m2"))
	s.lead("rate", "Rate laid", rate, "g/m2")
	s.against(rate)
	if s.has("time") {
		s.line("speed", "Pace", s.n["length"]/s.n["time"], "m/s")
	}
}

func workPasses(s *sheet) {
	swath := s.n["throw"] * (1 - s.n["overlap"]/100)
	ways, rate := 1.0, s.n["rate"]
	if s.picked["ways"] == "two" {
		ways, rate = 2, rate/2
	}
	along := math.Ceil(s.n["width"]/swath - 1e-9)
	metres := along * s.n["length"]
	s.line("swath", "Effective swath", swath, "m")
	s.lead("passes", "Passes along", along, "")
	if ways == 2 {
		across := math.Ceil(s.n["length"]/swath - 1e-9)
		s.line("across", "Passes across", across, "")
		metres += across * s.n["width"]
	}
	s.show(
		"%s ÷ %s = %s, so %s passes",
		s.fig(s.n["width"]*1000, "mm"),
		s.fig(swath*1000, "mm"),
		s.fig(s.n["width"]/swath, ""),
		s.fig(along, ""),
	)
	s.line("rate", "Rate of each way", rate, "g/m2")
	s.line("pass", "Product of a pass", rate*swath*s.n["length"], "g")
	s.line("product", "Product in all", s.n["rate"]*s.n["width"]*s.n["length"], "g")
	s.line("minutes", "Walking", metres/s.n["pace"]/60, "min")
	if rate < LeastEven {
		s.warn("least-even", "%s a pass is less than most spreaders lay evenly", s.fig(rate, "g/m2"))
	}
}

func workHopper(s *sheet) {
	if s.n["end"] >= s.n["start"] {
		s.refuse("end", "is not less than at the start")
		return
	}
	gone := (s.n["start"] - s.n["end"]) * 1000
	rate := gone / s.n["done"]
	s.show("(%s − %s) ÷ %s = %s", s.fig(s.n["start"]*1000, "g"), s.fig(s.n["end"]*1000, "g"), s.fig(s.n["done"], "m2"), s.fig(rate, "g/m2"))
	s.lead("rate", "Rate laid so far", rate, "g/m2")
	s.against(rate)
	left := math.Max(0, s.n["area"]-s.n["done"])
	s.line("needed", "Needed for the rest at the wanted rate", left*s.n["want"], "g")
	if left*s.n["want"] > s.n["end"]*1000+1 {
		s.warn("short", "what is in the hopper is not enough for the rest")
	}
}
