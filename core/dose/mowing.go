package dose

import (
	"fmt"
	"math"

	"hodos/core/turf"
	"hodos/core/weather"
)

// fastest is the growth in height at full growth potential, mm a day (judgement).
func fastest(g turf.Species) float64 {
	switch g.ID {
	case "common-bermudagrass", "hybrid-bermudagrass", "kikuyugrass":
		return 8
	case "zoysiagrass", "centipedegrass":
		return 3
	}
	return 6
}

const (
	stepDays  = 3.0  // between the cuts of a step-down
	stepUpMM  = 10.0 // higher at each mowing
	bladesRun = 9.0  // hours that blades stay sharp: 8 to 10
)

func mowing() []Calculator {
	return []Calculator{
		{"third", "Mow", "One-third rule", "When is the next cut, and how does tall grass come down?",
			"mow at 1.5 times the height; overgrown: cuts by a third, three days apart; growth = fastest × growth potential (judgement)",
			fields(num("height", "Height wanted", "mm", 8, 200), num("stands", "It stands at", "mm", 8, 900),
				grasses(func(turf.Species) bool { return true }, ""), num("mean", "Mean air of the days ahead", "C", -10, 45).or(18),
				num("measured", "Growth, measured", "mm/d", .1, 30).opt()), workThird},
		{
			"raise",
			"Mow",
			"Change of height",
			"In which steps from one mowing height to another?",
			"down by a third, three days apart; up 10 mm at each mowing",
			fields(num("from", "Height now", "mm", 8, 200), num("to", "Height wanted", "mm", 8, 200)),
			workRaise,
		},
		{
			"blades",
			"Mow",
			"Blades",
			"When are the blades due?",
			"every 8 to 10 hours of mowing (extension)",
			fields(
				num("hours", "Hours since they were sharpened", "h", 0, 100),
				num("a-day", "Hours of mowing a day", "h/d", .1, 16).or(2),
			),
			workBlades,
		},
		{
			"weeding",
			"Mow",
			"Weeds by hand",
			"How long does it take?",
			"ten seconds a weed (judgement); up to some dozens",
			fields(
				num("count", "Weeds", "1/m2", .01, 200),
				num("seconds", "Each", "s", 2, 120).or(10),
				num("people", "People", "", 1, 20).or(1).whole(),
				areaOf(),
			),
			workWeeding,
		},
		{"debris", "Mow", "Thatch that comes up", "How much comes up at dethatching?", "m³ = mm × m² ÷ 1000 × 0.5",
			fields(num("thatch", "Thatch", "mm", 1, 100), areaOf()), workDebris},
	}
}

// Steps are the heights of the cuts that bring grass down from one height to another, a third at most each.
func Steps(from, to float64) []float64 {
	if from <= to {
		return nil
	}
	n := max(1, int(math.Ceil(math.Log(from/to)/math.Log(1.5)-1e-9)))
	var out []float64
	for i := range n {
		h := from * math.Pow(2.0/3, float64(i+1))
		if i == n-1 {
			h = to
		}
		out = append(out, h)
	}
	return out
}

func workThird(s *sheet) {
	g, _ := s.grass()
	h, now := s.n["height"], s.n["stands"]
	growth := fastest(g) * g.Growth(s.n["mean"])
	if s.has("measured") {
		growth = s.n["measured"]
	}
	s.line("growth", "Growth", growth, "mm/d")
	s.line("at", "Mow when it stands at", 1.5*h, "mm")
	switch {
	case now > 1.5*h+.01:
		steps := Steps(now, h)
		t := Table{Label: "Cuts", Head: []string{"Cut", "Day", "Mow at", "Off"}}
		at := now
		for i, x := range steps {
			t.Days, t.Value = append(t.Days, i*int(stepDays)), append(t.Value, x)
			t.Rows = append(t.Rows, []string{fmt.Sprint(i + 1), fmt.Sprint(i * int(stepDays)), s.fig(x, "mm"), s.fig((at-x)/at*100, "%")})
			at = x
		}
		s.lead("cuts", "Cuts", float64(len(steps)), "")
		s.line("first", "First cut at", steps[0], "mm")
		s.line("days", "Down after", float64(len(steps)-1)*stepDays, "d")
		s.show("ln(%s ÷ %s) ÷ ln 1.5 = %s, so %d cuts", s.fig(now, "mm"), s.fig(h, "mm"), s.fig(math.Log(now/h)/math.Log(1.5), ""), len(steps))
		s.r.Tables = append(s.r.Tables, t)
		s.warn("stones", "stones and toys up first, rake what lies; never when wilted, frosted or wet")
	case growth < .2:
		s.line("next", "Next cut", 0, "d")
		last := &s.r.Lines[len(s.r.Lines)-1]
		last.Text, last.Lead = "it hardly grows: by eye", true
	default:
		days := math.Max(0, (1.5*h-now)/growth)
		s.lead("next", "Next cut in", math.Floor(days), "d")
		s.line("interval", "Then every", .5*h/growth, "d")
		s.show("(1.5 × %s − %s) ÷ %s = %s", s.fig(h, "mm"), s.fig(now, "mm"), s.fig(growth, "mm/d"), s.fig(days, "d"))
	}
	if g.Mow.Known() && (h < g.Mow.Low || h > math.Max(g.Mow.High, g.Summer)) {
		s.warn(
			"height",
			"%s is mown at %s to %s, in summer up to %s",
			g.Label,
			s.fig(g.Mow.Low, "mm"),
			s.fig(g.Mow.High, "mm"),
			s.fig(math.Max(g.Mow.High, g.Summer), "mm"),
		)
	}
}

func workRaise(s *sheet) {
	from, to := s.n["from"], s.n["to"]
	t := Table{Label: "Steps", Head: []string{"Mowing", "Mow at"}}
	add := func(h float64) {
		t.Value = append(t.Value, h)
		t.Rows = append(t.Rows, []string{fmt.Sprint(len(t.Rows) + 1), s.fig(h, "mm")})
	}
	if to >= from {
		for h := from; h < to-.01; {
			h = math.Min(to, h+stepUpMM)
			add(h)
		}
	} else {
		for _, h := range Steps(from, to) {
			add(h)
		}
	}
	s.lead("mowings", "Mowings", float64(len(t.Rows)), "")
	if to < from {
		s.line("days", "Days between", stepDays, "d")
	}
	s.r.Tables = append(s.r.Tables, t)
}

func workBlades(s *sheet) {
	left := math.Max(0, bladesRun-s.n["hours"])
	s.lead("hours", "Hours left", left, "h")
	s.line("days", "That is", math.Floor(left/s.n["a-day"]), "d")
	if left == 0 {
		s.warn("due", "they are due")
	}
}

func workWeeding(s *sheet) {
	n := s.n["count"] * s.n["area"]
	s.lead("minutes", "Time", n*s.n["seconds"]/60/s.n["people"], "min")
	s.total("weeds", "Weeds", n, "")
	s.show(
		"%s × %s × %s ÷ 60 ÷ %s",
		s.fig(s.n["count"], "1/m2"),
		s.fig(s.n["area"], "m2"),
		s.fig(s.n["seconds"], "s"),
		s.fig(s.n["people"], ""),
	)
	if n > 60 {
		s.warn("many", "more than some dozens: spot treatment in its season")
	}
	s.warn("root", "moist soil, the whole root")
}

func workDebris(s *sheet) {
	s.leadTotal("volume", "Volume", s.n["thatch"]*s.n["area"]/1000*.5, "m3")
	s.show("%s × %s ÷ 1000 × 0.5", s.fig(s.n["thatch"], "mm"), s.fig(s.n["area"], "m2"))
}

func dates() []Calculator {
	return []Calculator{
		{
			"degree-days",
			"Dates",
			"Degree days",
			"When is a sum of warmth reached?",
			"single sine (Baskerville and Emin 1969) or daily mean less base",
			fields(
				num("target", "Sum wanted", "°C·d", 1, 5000),
				num("so-far", "Sum so far", "°C·d", 0, 5000).or(0),
				num("base", "Base", "C", -5, 20).or(10),
				pick(
					"method",
					"Method",
					"sine",
					"single sine",
					"mean",
					"daily mean",
				),
				num("min", "Minimum of the days ahead", "C", -30, 40),
				num("max", "Maximum of the days ahead", "C", -20, 55),
			),
			workDegreeDays,
		},
		{
			"regulator",
			"Dates",
			"Growth regulator",
			"When is the next one due?",
			"200 °C·d, base 0 °C, on cool-season turf (extension, verify by the label); warm-season by the label's days",
			fields(
				num("mean", "Mean air since and ahead", "C", -5, 40),
				num("since", "Sum since the last", "°C·d", 0, 2000).or(0),
				num("sum", "Due at", "°C·d", 50, 600).or(200),
			),
			workRegulator,
		},
		{
			"cover",
			"Dates",
			"Cover of a fungicide",
			"Until when is the leaf covered?",
			"label interval; × 0.7 where growth potential is 0.7 and more (judgement)",
			fields(
				num("interval", "Interval of the label", "d", 1, 60),
				num("growth", "Growth of the weeks ahead, share of the best", "%", 0, 100),
				num("since", "Days since", "d", 0, 90).or(0),
			),
			workCover,
		},
		{
			"price",
			"Dates",
			"Price of a week of cover",
			"Which product is cheaper for the weeks that matter?",
			"price × rate ÷ pack ÷ weeks",
			fields(
				num("price", "Price of a pack", "money", .01, 1e5),
				pick("measure", "Pack and rate by", "mass", "weight", "volume", "volume"),
				num("pack", "Pack", "kg", .001, 2000).when("measure=mass"),
				num("pack-volume", "Pack", "L", .001, 2000).when("measure=volume"),
				num("rate", "Rate", "g/m2", 1e-5, 2000).when("measure=mass"),
				num("rate-volume", "Rate", "mL/m2", 1e-5, 100).when("measure=volume"),
				num("weeks", "It covers", "weeks", .2, 60),
				num("active", "Active in the product", "%", .01, 100).opt(),
				areaOf(),
			),
			workPrice,
		},
		{
			"seeding-gap",
			"Dates",
			"Between spray and seed",
			"When may the other follow?",
			"by the label's interval; new grass bears a herbicide from the fourth mowing or 60 days, the later",
			fields(
				pick("first", "First comes", "product", "the product", "seed", "the seed"),
				num("interval", "Label: days from product to seed", "d", 0, 400).when("first=product"),
				num("since", "Days since", "d", 0, 400).or(0),
				num(
					"mowings",
					"Mowings since it came up",
					"",
					0,
					60,
				).or(0).
					when("first=seed"),
				num("frost", "Days until the hard frost", "d", 0, 400).opt(),
				grasses(func(g turf.Species) bool { return g.Seed.Known() }, ""),
			),
			workSeedingGap,
		},
	}
}

func workDegreeDays(s *sheet) {
	if s.n["max"] < s.n["min"] {
		s.refuse("max", "is under the minimum")
		return
	}
	day := weather.DegreeDays(s.n["min"], s.n["max"], s.n["base"], 0, s.picked["method"])
	s.line("day", "A day brings", day, "°C·d")
	left := s.n["target"] - s.n["so-far"]
	s.days(left, day)
}

// days until a sum is reached that grows by some a day.
func (s *sheet) days(left, day float64) {
	switch {
	case left <= 0:
		s.lead("days", "Reached", 0, "d")
	case day <= 0:
		s.line("days", "Reached", -1, "")
		last := &s.r.Lines[len(s.r.Lines)-1]
		last.Text, last.Lead = "not in this weather", true
	default:
		s.lead("days", "Reached in", math.Ceil(left/day-1e-9), "d")
		s.show("%s ÷ %s = %s", s.fig(left, "°C·d"), s.fig(day, "°C·d"), s.fig(left/day, "d"))
	}
}

func workRegulator(s *sheet) {
	s.days(s.n["sum"]-s.n["since"], math.Max(0, s.n["mean"]))
	if s.n["since"] > 1.3*s.n["sum"] {
		s.warn("rebound", "past it: the grass grows faster than without for a while")
	}
}

func workCover(s *sheet) {
	d := s.n["interval"]
	if s.n["growth"] >= 70 {
		d *= .7
		s.show("%s × 0.7: it grows out of the cover", s.fig(s.n["interval"], "d"))
	}
	s.lead("days", "Covered for", math.Floor(d+1e-9), "d")
	s.line("left", "Left", math.Max(0, math.Floor(d+1e-9)-s.n["since"]), "d")
}

func workPrice(s *sheet) {
	unit, p, r := "g", s.n["pack"]*1000, s.n["rate"]
	if s.picked["measure"] == "volume" {
		unit, p, r = "mL", s.n["pack-volume"]*1000, s.n["rate-volume"]
	}
	once := s.n["price"] * r * s.n["area"] / p
	s.show(
		"%s × %s × %s ÷ %s = %s",
		s.fig(s.n["price"], "money"),
		s.fig(r, unit+"/m2"),
		s.fig(s.n["area"], "m2"),
		s.fig(p, unit),
		s.fig(once, "money"),
	)
	s.line("once", "Once over the area", once, "money")
	s.lead("week", "A week of cover for 100 m²", once/s.n["area"]*100/s.n["weeks"], "money")
	if s.has("active") {
		s.line("active", "100 g of active cost", s.n["price"]/(p*s.n["active"]/100)*100, "money")
	}
}

func workSeedingGap(s *sheet) {
	wait := s.n["interval"] - s.n["since"]
	if s.picked["first"] == "seed" {
		g, _ := s.grass()
		from := g.Emergence.High + 60
		wait = from - s.n["since"]
		if s.n["mowings"] < 4 {
			wait = math.Max(wait, 0)
			s.warn("mowings", "and not before the fourth mowing")
		}
		s.lead("days", "The product may follow in", math.Max(0, wait), "d")
		return
	}
	s.lead("days", "Seed may follow in", math.Max(0, wait), "d")
	if g, ok := s.grass(); ok && s.has("frost") && math.Max(0, wait)+g.FrostFreeDays > s.n["frost"] {
		s.warn("too-late", "%s needs %s before the hard frost: too late after this wait", g.Label, s.fig(g.FrostFreeDays, "d"))
	}
}
