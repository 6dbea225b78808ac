package dose

import (
	"math"

	"hodos/core/turf"
)

// Shares of the rate for new turf, by the way of sowing (extension; interseeding judgement).
var sowing = map[string][2]float64{"new": {1, 1}, "overseed": {.5, .5}, "interseed": {.6, .8}, "slit": {.75, .75}}

func stands() []Calculator {
	creeps := func(g turf.Species) bool { return g.CloseMMDay.Known() && g.CloseMMDay.High >= .5 }
	growth := num("growth", "Growth of the weeks ahead, share of the best", "%", 5, 100).or(80)
	left := num("days-left", "Days until growth ends", "d", 0, 400).opt()
	return []Calculator{
		{
			"seed",
			"Seed and sod",
			"Seed",
			"How much seed?",
			"rates for new turf by grass (extension); overseeding half, slit-seeding three quarters, interseeding 60 to 80 %",
			fields(
				grasses(func(g turf.Species) bool { return g.Seed.Known() }, ""),
				pick("way", "Sown as", "new", "new turf", "overseed", "overseeding", "slit",
					"slit-seeding of dead turf", "interseed", "another grass into the stand"),
				num("purity", "Purity", "%", 20, 100).or(98),
				num("germination", "Germination", "%", 10, 100).or(90),
				areaOf(),
				num("pack", "Bag", "kg", .1, 2000).opt(),
				num("price", "Price of a bag", "money", 0, 1e5).opt(),
			),
			workSeed,
		},
		{
			"sod",
			"Seed and sod",
			"Sod",
			"How many rolls?",
			"5 % for cutting (extension)",
			fields(
				num("roll", "One roll or slab", "m2", .1, 60),
				num("waste", "For cutting", "%", 0, 30).or(5),
				areaOf(),
				num("pallet", "Rolls on a pallet", "", 1, 1000).opt(),
				num("price", "Price of a roll", "money", 0, 1e4).opt(),
			),
			workSod,
		},
		{
			"plugs",
			"Seed and sod",
			"Plugs",
			"How many plugs, and when are they closed?",
			"m² ÷ spacing²; days = rooting lag + 1.5 × (spacing − plug) ÷ 2 ÷ (pace × growth) (judgement, low end of the pace)",
			fields(
				grasses(creeps, ""),
				num("spacing", "Spacing", "mm", 100, 1000).or(300),
				num("plug", "Width of a plug", "mm", 20, 150).or(50),
				growth,
				left,
				areaOf(),
			),
			workPlugs,
		},
		{
			"gap",
			"Seed and sod",
			"Gap closes by itself",
			"When do the runners close this gap?",
			"days = 1.5 × (gap ÷ 2) ÷ (pace × growth) (judgement, low end of the pace)",
			fields(grasses(func(turf.Species) bool { return true }, ""), num("gap", "Width of the gap", "mm", 10, 5000), growth, left),
			workGap,
		},
		{"sprigs", "Seed and sod", "Sprigs", "How many cubic metres of sprigs?", "0.2 to 0.5 m³ for 100 m², measured loose (verify)",
			fields(num("rate", "Loose sprigs for 100 m²", "m3", .05, 2).or(.35), areaOf()), workSprigs},
	}
}

func workSeed(s *sheet) {
	g, ok := s.grass()
	if !ok {
		s.refuse("grass", "is missing")
		return
	}
	way := sowing[s.picked["way"]]
	pure := s.n["purity"] * s.n["germination"] / 1e4
	// the rates are of usual seed: what is under 85 % pure live seed takes more
	more := 1.0
	if pure < .85 {
		more = 1 / pure
	}
	low, high := g.Seed.Low*way[0]*more, g.Seed.High*way[1]*more
	mid := (low + high) / 2
	s.show("%s to %s for new turf × %s = %s to %s", s.fig(g.Seed.Low, "g/m2"), s.fig(g.Seed.High, "g/m2"), s.fig((way[0]+way[1])/2*100, "%"),
		s.fig(low/more, "g/m2"), s.fig(high/more, "g/m2"))
	if more > 1 {
		s.show("%s of it is live seed: ÷ %s", s.fig(pure*100, "%"), s.fig(pure, ""))
	}
	s.leadTotal("product", "Seed for the area", mid*s.n["area"], "g")
	s.line("low", "At least", low*s.n["area"], "g")
	s.line("high", "At most", high*s.n["area"], "g")
	s.rate("rate", "Rate", mid, "g/m2")
	s.line("half", "Each of two directions", mid/2, "g/m2")
	s.line("pls", "Live seed", pure*100, "%")
	s.packs(mid * s.n["area"])
	if g.PlantSoil.Known() {
		s.warn(
			"soil",
			"soil of %s to %s at %s; %s to %s until it is up",
			s.fig(g.PlantSoil.Low, "C"),
			s.fig(g.PlantSoil.High, "C"),
			s.fig(50, "mm"),
			s.fig(g.Emergence.Low, ""),
			s.fig(g.Emergence.High, "d"),
		)
	}
}

func workSod(s *sheet) {
	need := s.n["area"] * (1 + s.n["waste"]/100)
	rolls := math.Ceil(need/s.n["roll"] - 1e-9)
	s.show("%s × %s ÷ %s = %s", s.fig(s.n["area"], "m2"), s.fig(1+s.n["waste"]/100, ""), s.fig(s.n["roll"], "m2"), s.fig(need/s.n["roll"], ""))
	s.lead("rolls", "Rolls", rolls, "")
	s.total("sod", "Sod", need, "m2")
	if s.has("pallet") {
		s.line("pallets", "Pallets", math.Ceil(rolls/s.n["pallet"]-1e-9), "")
	}
	if s.has("price") {
		s.line("cost", "Cost", rolls*s.n["price"], "money")
	}
	s.warn("water", "%s of water within half an hour of laying", s.fig(25, "mm"))
}

// CloseDays is how long runners take to close a gap of mm at a share of the best growth; lag is what plugs need to root. It is 0 for
// a grass whose runners are too slow to wait for.
func CloseDays(g turf.Species, gap, growth, lag float64) float64 {
	if !g.CloseMMDay.Known() || g.CloseMMDay.High < .5 {
		return 0
	}
	return lag + 1.5*(gap/2)/(g.CloseMMDay.Low*growth)
}

func workPlugs(s *sheet) {
	g, _ := s.grass()
	if s.n["plug"] >= s.n["spacing"] {
		s.refuse("plug", "is not narrower than the spacing")
		return
	}
	per := 1e6 / (s.n["spacing"] * s.n["spacing"])
	count := math.Ceil(per*s.n["area"] - 1e-6)
	s.show("%s ÷ (%s)² = %s", s.fig(s.n["area"], "m2"), s.fig(s.n["spacing"], "mm"), s.fig(per*s.n["area"], ""))
	s.lead("plugs", "Plugs", count, "")
	s.line("density", "Plugs on an area", per, "1/m2")
	days := CloseDays(g, s.n["spacing"]-s.n["plug"], s.n["growth"]/100, g.RootingLag)
	s.line("days", "Closed after about", math.Ceil(days), "d")
	s.show(
		"%s to root + 1.5 × %s ÷ 2 ÷ (%s × %s) = %s",
		s.fig(g.RootingLag, "d"),
		s.fig(s.n["spacing"]-s.n["plug"], "mm"),
		s.fig(g.CloseMMDay.Low, "mm/d"),
		s.fig(s.n["growth"], "%"),
		s.fig(days, "d"),
	)
	if s.has("days-left") && days > s.n["days-left"] {
		if room := s.n["days-left"] - g.RootingLag; room > 0 {
			closes := s.n["plug"] + 2*room*g.CloseMMDay.Low*s.n["growth"]/100/1.5
			s.line("spacing", "Spacing that closes in time", closes, "mm")
			s.line("plugs-in-time", "Plugs at that spacing", math.Ceil(s.n["area"]*1e6/(closes*closes)-1e-6), "")
		}
		s.warn("too-late", "not closed before growth ends: plant closer, or sod")
	}
}

func workGap(s *sheet) {
	g, _ := s.grass()
	days := CloseDays(g, s.n["gap"], s.n["growth"]/100, 0)
	if days == 0 {
		s.line("days", "Closed after about", 0, "d")
		s.r.Lines[0].Text, s.r.Lines[0].Lead = "not by itself", true
		s.warn("bunch", "%s has no runners worth waiting for: seed every gap wider than a hand", g.Label)
		return
	}
	s.show(
		"1.5 × %s ÷ 2 ÷ (%s × %s) = %s",
		s.fig(s.n["gap"], "mm"),
		s.fig(g.CloseMMDay.Low, "mm/d"),
		s.fig(s.n["growth"], "%"),
		s.fig(days, "d"),
	)
	s.lead("days", "Closed after about", math.Ceil(days), "d")
	if s.has("days-left") && days > s.n["days-left"]-14 {
		s.warn("too-late", "not closed two weeks before growth ends: plug it")
	}
}

func workSprigs(s *sheet) {
	s.leadTotal("volume", "Loose sprigs", s.n["rate"]*s.n["area"]/100, "m3")
	s.show("%s × %s ÷ 100", s.fig(s.n["rate"], "m3"), s.fig(s.n["area"], "m2"))
}
