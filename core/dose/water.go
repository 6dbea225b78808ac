package dose

import (
	"fmt"
	"math"

	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/core/weather"
)

func waters() []Calculator {
	return []Calculator{
		{
			"sprinkler",
			"Water",
			"Sprinkler run",
			"How many minutes, in how many cycles, how much water?",
			"gross = net ÷ (0.4 + 0.6 DU); minutes = 60 × gross ÷ rate; cycles where it comes faster than it goes in (3 mm may stand)",
			fields(
				num("net", "Depth wanted in the ground", "mm", .5, 100),
				num("rate", "Sprinkler rate", "mm/h", .5, 200),
				num("du", "Uniformity (low quarter)", "%", 20, 100).or(60),
				pick(
					"texture",
					"Soil",
					"loam",
					"loam",
					"sand",
					"sand",
					"loamy-sand",
					"loamy sand",
					"sandy-loam",
					"sandy loam",
					"silt-loam",
					"silt loam",
					"clay-loam",
					"clay loam",
					"clay",
					"clay",
				),
				num("infiltration", "Goes in, measured", "mm/h", .5, 200).opt(),
				num("slope", "Slope", "%", 0, 60).or(0),
				pick(
					"hard",
					"Compacted",
					"no",
					"no",
					"yes",
					"yes",
				),
				num("sunrise", "Sunrise", "h", 3, 9).or(6),
				num("price", "Price of 1,000 litres of water", "money", 0, 100).or(0),
				areaOf(),
			),
			workSprinkler,
		},
		{
			"hand-water",
			"Water",
			"Water by hand",
			"How many minutes with the hose?",
			"minutes = L/m² × m² ÷ flow; the flow by a bucket",
			fields(
				num("depth", "Depth", "mm", .5, 60).or(12),
				num("bucket", "Bucket", "L", 1, 200).or(10),
				num("seconds", "Filled in", "s", 1, 900).or(40),
				areaOf(),
			),
			workHand,
		},
		{
			"cool",
			"Water",
			"Cooling mist",
			"How long does the sprinkler run to cool the leaves?",
			"1.5 mm in the early afternoon, at most twice a day (extension)",
			fields(num("rate", "Sprinkler rate", "mm/h", .5, 200), num("depth", "Depth", "mm", .5, 3).or(1.5)),
			workCool,
		},
		{
			"new-water",
			"Water",
			"Water for new grass",
			"How often and how much until it is established?",
			"extension practice, figures judgement",
			fields(
				pick("kind", "New", "seed", "seed", "sod", "sod", "plugs", "plugs or sprigs"),
				num("rate", "Sprinkler rate", "mm/h", .5, 200).opt(),
				grasses(func(g turf.Species) bool { return g.Emergence.Known() }, "any grass"),
				areaOf(),
			),
			workNewWater,
		},
		{
			"crew-heat",
			"Water",
			"Heat for the crew",
			"Water and shade, or fixed breaks?",
			"heat index (NWS, Rothfusz 1990); full sun adds 8 °C; water and shade from 27, fixed breaks from 32 (occupational health practice)",
			fields(
				num("air", "Air", "C", 10, 55),
				num("rh", "Humidity", "%", 1, 100),
				pick("sun", "Work in", "sun", "full sun", "shade", "shade"),
			),
			workCrewHeat,
		},
	}
}

func workSprinkler(s *sheet) {
	z := soil.Zone{Texture: s.picked["texture"], SlopePercent: s.n["slope"], Compacted: s.picked["hard"] == "yes"}
	if s.has("infiltration") {
		x := s.n["infiltration"]
		z.InfiltrationMMH = &x
	}
	t, err := soil.Watering(
		z,
		soil.Sprinkler{RateMMH: s.n["rate"], Uniformity: s.n["du"] / 100, AreaM2: s.n["area"], PriceM3: s.n["price"]},
		s.n["net"],
		s.n["sunrise"],
	)
	if err != nil {
		s.refuse("net", err.Error())
		return
	}
	s.show("%s ÷ (0.4 + 0.6 × %s) = %s", s.fig(t.NetMM, "mm"), s.fig(s.n["du"]/100, ""), s.fig(t.GrossMM, "mm"))
	s.show("60 × %s ÷ %s = %s", s.fig(t.GrossMM, "mm"), s.fig(s.n["rate"], "mm/h"), s.fig(t.Minutes, "min"))
	s.lead("minutes", "Running", t.Minutes, "min")
	s.line("gross", "Depth to give", t.GrossMM, "mm")
	s.line("cycles", "Cycles", float64(t.Cycles), "")
	if t.Cycles > 1 {
		s.line("cycle", "Each", t.CycleMinutes, "min")
		s.line("soak", "Rest between", t.SoakMinutes, "min")
	}
	if t.Nights > 1 {
		s.line("nights", "Nights", float64(t.Nights), "")
	}
	s.line("start", "Start", t.Start, "h")
	s.r.Lines[len(s.r.Lines)-1].Text = clock(t.Start)
	s.total("litres", "Water", t.Litres*1000, "mL")
	if s.n["price"] > 0 {
		s.line("cost", "Cost", t.Cost, "money")
	}
}

// clock writes an hour of the day.
func clock(h float64) string {
	m := int(math.Round(h * 60))
	return fmt.Sprintf("%02d:%02d", m/60%24, m%60)
}

func workHand(s *sheet) {
	flow := s.n["bucket"] / s.n["seconds"] * 60
	litres := s.n["depth"] * s.n["area"]
	s.show("%s ÷ %s × 60 = %s", s.fig(s.n["bucket"]*1000, "mL"), s.fig(s.n["seconds"], "s"), s.fig(flow, "L/min"))
	s.lead("minutes", "Hose", litres/flow, "min")
	s.total("litres", "Water", litres*1000, "mL")
	s.line("flow", "Flow", flow, "L/min")
	s.line("square", "On each square metre", s.n["depth"]/flow*60, "s")
}

func workCool(s *sheet) {
	s.lead("minutes", "Running", s.n["depth"]/s.n["rate"]*60, "min")
	s.show("60 × %s ÷ %s", s.fig(s.n["depth"], "mm"), s.fig(s.n["rate"], "mm/h"))
	s.warn("no-water", "between noon and three, dry before evening: it cools for an hour or so and does not water")
}

func workNewWater(s *sheet) {
	up := 0.0
	if g, ok := s.grass(); ok {
		up = g.Emergence.High
	}
	t := Table{Label: "By day", Head: []string{"Days", "Times a day", "Depth each", "Minutes each", "Why"}}
	sum := 0.0
	for _, x := range soil.Ramp(s.picked["kind"], up) {
		minutes := ""
		if s.has("rate") {
			minutes = s.fig(x.MM/s.n["rate"]*60, "min")
		}
		sum += x.MM * x.TimesADay * float64(x.ToDay-x.FromDay+1)
		t.Days, t.Value = append(t.Days, x.FromDay), append(t.Value, x.MM)
		t.Rows = append(t.Rows, []string{fmt.Sprintf("%d to %d", x.FromDay, x.ToDay), s.fig(x.TimesADay, ""), s.fig(x.MM, "mm"), minutes, x.Why})
	}
	s.lead("depth", "Water in all", sum, "mm")
	s.total("litres", "For the area", sum*s.n["area"]*1000, "mL")
	s.r.Tables = append(s.r.Tables, t)
}

func workCrewHeat(s *sheet) {
	hi := weather.HeatIndex(s.n["air"], s.n["rh"])
	felt := hi
	if s.picked["sun"] == "sun" {
		felt += 8
	}
	s.line("index", "Heat index in the shade", hi, "C")
	s.lead("felt", "It feels like", felt, "C")
	switch {
	case felt >= 46:
		s.warn("stop", "no work in the sun")
	case felt >= 32:
		s.warn("breaks", "fixed breaks in the shade, water every quarter of an hour, new people slowly")
	case felt >= 27:
		s.warn("water", "water and shade at hand")
	}
}
