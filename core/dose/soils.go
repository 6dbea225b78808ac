package dose

import (
	"math"
	"strconv"

	"hodos/core/turf"
)

// Lime and sulfur for one step of pH, g/m² (extension; figures to be verified locally): lime for +1 in 150 mm, sulfur for −1.
var (
	limePerPH   = map[string]float64{"sand": 145, "loam": 240, "clay": 350}
	sulfurPerPH = map[string]float64{"sand": 50, "loam": 90, "clay": 120}
)

// Most at once and rest between portions (extension).
const (
	MostLime, limeRest     = 240.0, 180.0 // g/m², days
	mostSulfur, sulfurRest = 24.0, 60.0
	mostSulfurFine         = 5.0 // bentgrass and annual bluegrass
	mostGypsum, gypsumRest = 490.0, 60.0
	amendDepth             = 150.0 // mm that the figures for a step of pH count with
	freeLimePH             = 8.0   // judgement: from here lime is in the soil
)

func soils() []Calculator {
	texture := pick("texture", "Soil", "loam", "loam", "sand", "sand", "clay", "clay")
	depth := num("depth", "Depth of soil", "mm", 25, 400).or(amendDepth)
	day := num("first", "First portion in", "d", 0, 365).or(0)
	return []Calculator{
		{
			"lime",
			"Soil",
			"Lime",
			"How much lime, in how many portions?",
			"the laboratory's buffer need goes first; else +1 pH in 150 mm: sand 145, loam 240, clay 350 g/m² (extension, verify); ≤ 240 at once, 180 days apart",
			fields(
				num("need", "Lime by the laboratory (buffer test)", "t/ha", 0, 60).opt(),
				num("need-depth", "Depth that it counts with", "mm", 25, 400).or(150),
				texture,
				num("ph", "pH now", "pH", 3, 9).or(5.5),
				num("target", "pH wanted", "pH", 4, 7.5).or(6.3),
				depth,
				num("strength", "Neutralizing value of the product", "%", 20, 180).or(100),
				day,
				areaOf(),
			),
			workLime,
		},
		{
			"sulfur",
			"Soil",
			"Sulfur",
			"How much sulfur, over how many years?",
			"−1 pH in 150 mm: sand 50, loam 90, clay 120 g S/m² (extension, verify); ≤ 24 at once (bentgrass, annual bluegrass 5), twice a year, 60 days apart",
			fields(
				texture,
				num("ph", "pH now", "pH", 5, 9.5),
				num("target", "pH wanted", "pH", 5, 8),
				depth,
				num("s", "Sulfur on the label", "%", 10, 100).or(90),
				pick(
					"fizz",
					"Fizzes with acid",
					"unknown",
					"not tried",
					"no",
					"no",
					"yes",
					"yes",
				),
				grasses(func(turf.Species) bool { return true }, "any grass"),
				day,
				areaOf(),
			),
			workSulfur,
		},
		{
			"gypsum",
			"Soil",
			"Gypsum on sodic soil",
			"How much gypsum takes the sodium off the soil?",
			"g/m² = 0.861 × ΔNa (meq/100 g) × density × depth mm; ESP from SAR by the US Salinity Laboratory, Handbook 60 (1954); ≤ 490 at once, 60 days apart",
			fields(num("sodium", "Sodium to be taken off", "meq", .05, 40).opt(), num("sar", "SAR of the soil", "", 0, 100).opt(),
				num("cec", "Exchange capacity (CEC)", "meq", 1, 80).opt(), num("esp", "Sodium wanted, share of the exchange", "%", 0, 15).or(5),
				num("density", "Density of the soil", "g/cm3", .8, 1.8).or(1.3), num("depth", "Depth of soil", "mm", 25, 400).or(150),
				num("purity", "Purity of the gypsum", "%", 30, 100).or(100), day, areaOf()),
			workGypsum,
		},
		{"leach", "Soil", "Leach salt", "How much water carries the salt down, and how much keeps it there?",
			"depth of water to depth of soil: 0.5 takes half, 1 takes 80 %, 2 takes 90 %; LR = ECw ÷ (5 ECt − ECw) (FAO-29)",
			fields(num("ec", "Salt now (saturated paste)", "dS/m", .1, 60), num("target", "Salt wanted", "dS/m", .1, 30),
				num("depth", "Depth of soil", "mm", 50, 1000).or(300), num("portion", "Portion that goes in", "mm", 5, 60).or(30),
				num("water-ec", "Salt of the water", "dS/m", 0, 20).or(.5), areaOf()), workLeach},
		{
			"topdress",
			"Soil",
			"Topdressing",
			"How many cubic metres and tonnes?",
			"m³ = mm × m² ÷ 1000 × 1.2 for settling; t/m³: sand 1.6, soil 1.5, compost 0.6",
			fields(num("depth", "Depth", "mm", .5, 100), pick("material", "Material", "sand", "sand", "mix", "sandy soil", "compost", "compost"),
				num("settles", "Allowance for settling", "%", 0, 60).or(20), num("load", "One load", "m3", .05, 60).opt(), areaOf()),
			workTopdress,
		},
		{
			"compost",
			"Soil",
			"Compost and its phosphorus",
			"How much compost, and what does it put down?",
			"compost 0.6 t/m³; P counted in the year",
			fields(
				num("depth", "Depth", "mm", .5, 25),
				num("dry", "Dry share", "%", 20, 100).or(60),
				num("p", "Phosphorus (P) of the dry matter", "%", 0, 5).or(.3),
				num("n", "Nitrogen (N) of the dry matter", "%", 0, 8).or(1.5),
				num("ec", "Salt of the compost", "dS/m", 0, 30).opt(),
				num("soil-p", "Phosphorus of the soil test", "mg/kg", 0, 1000).opt(),
				areaOf(),
			),
			workCompost,
		},
		{
			"silicon",
			"Soil",
			"Silicon",
			"How much silicate?",
			"trials used 250 to 340 g/m² of product, once a year, best into coring holes (grade B to C)",
			fields(
				num("rate", "Product", "g/m2", 50, 600).or(300),
				areaOf(),
				num("pack", "Pack", "kg", .1, 2000).opt(),
				num("price", "Price of a pack", "money", 0, 1e5).opt(),
			),
			workSilicon,
		},
		{"cores", "Soil", "Core aeration", "How many passes for the holes that are wanted?", "200 to 400 holes/m², 75 to 100 mm deep (extension)",
			fields(num("want", "Holes wanted", "1/m2", 20, 1000).or(300), num("machine", "Holes of one pass", "1/m2", 10, 600),
				num("tine", "Width of the tine", "mm", 4, 30).or(16), num("depth", "Depth of the holes", "mm", 20, 300).or(80), areaOf()), workCores},
	}
}

// portions spreads an amount over portions of at most a size, rest days apart.
func (s *sheet) portions(need, most, rest float64) int {
	n := max(1, int(math.Ceil(need/most-1e-9)))
	s.line("portions", "Portions", float64(n), "")
	s.rate("portion", "Each portion", need/float64(n), "g/m2")
	s.total("portion-total", "Each portion for the area", need/float64(n)*s.n["area"], "g")
	if n > 1 {
		t := Table{Label: "Portions", Head: []string{"Day", "Rate", "For the area"}}
		for i := range n {
			d := s.n["first"] + float64(i)*rest
			t.Days = append(t.Days, int(d))
			t.Value = append(t.Value, need/float64(n)*s.n["area"])
			t.Rows = append(t.Rows, []string{s.fig(d, ""), s.fig(need/float64(n), "g/m2"), s.fig(need/float64(n)*s.n["area"], "g")})
		}
		s.r.Tables = append(s.r.Tables, t)
	}
	return n
}

func workLime(s *sheet) {
	var pure float64
	if s.has("need") {
		pure = s.n["need"] * 100 * s.n["depth"] / s.n["need-depth"]
		s.show(
			"%s for %s of soil × %s ÷ %s = %s of pure lime",
			s.fig(s.n["need"], "t/ha"),
			s.fig(s.n["need-depth"], "mm"),
			s.fig(s.n["depth"], "mm"),
			s.fig(s.n["need-depth"], "mm"),
			s.fig(pure, "g/m2"),
		)
	} else {
		if s.n["target"] <= s.n["ph"] {
			s.refuse("target", "is not over the pH now: no lime")
			return
		}
		per := limePerPH[s.picked["texture"]]
		pure = per * (s.n["target"] - s.n["ph"]) * s.n["depth"] / amendDepth
		s.show(
			"%s × (%s − %s) × %s ÷ %s = %s of pure lime",
			s.fig(per, "g/m2"),
			s.fig(s.n["target"], ""),
			s.fig(s.n["ph"], ""),
			s.fig(s.n["depth"], "mm"),
			s.fig(amendDepth, "mm"),
			s.fig(pure, "g/m2"),
		)
		s.warn("no-buffer", "worked out from pH and soil alone: a buffer test goes first")
	}
	need := pure / (s.n["strength"] / 100)
	s.show("÷ %s = %s of the product", s.fig(s.n["strength"], "%"), s.fig(need, "g/m2"))
	s.leadTotal("product", "Lime for the area", need*s.n["area"], "g")
	s.rate("rate", "Rate in all", need, "g/m2")
	s.portions(need, MostLime, limeRest)
	s.warn("apart", "never together with nitrogen or iron: 14 days apart from ammonium and urea. It greens nothing at once")
}

func workSulfur(s *sheet) {
	if s.picked["fizz"] == "yes" || s.n["ph"] >= freeLimePH {
		s.warn(
			"free-lime",
			"free lime in the soil uses the sulfur up first, about 480 g S/m² for each per cent in 100 mm: it will not move the pH",
		)
	}
	if s.n["target"] >= s.n["ph"] {
		s.refuse("target", "is not under the pH now: no sulfur")
		return
	}
	per := sulfurPerPH[s.picked["texture"]]
	pure := per * (s.n["ph"] - s.n["target"]) * s.n["depth"] / amendDepth
	need := pure / (s.n["s"] / 100)
	s.show(
		"%s × (%s − %s) × %s ÷ %s = %s of sulfur",
		s.fig(per, "g/m2"),
		s.fig(s.n["ph"], ""),
		s.fig(s.n["target"], ""),
		s.fig(s.n["depth"], "mm"),
		s.fig(amendDepth, "mm"),
		s.fig(pure, "g/m2"),
	)
	s.show("÷ %s = %s of the product", s.fig(s.n["s"], "%"), s.fig(need, "g/m2"))
	s.leadTotal("product", "Product for the area", need*s.n["area"], "g")
	s.rate("rate", "Rate in all", need, "g/m2")
	most := mostSulfur
	if g := s.picked["grass"]; g == "creeping-bentgrass" || g == "annual-bluegrass" {
		most = mostSulfurFine
	}
	n := s.portions(need, most/(s.n["s"]/100), sulfurRest)
	s.line("years", "Years at two portions a year", math.Ceil(float64(n)/2), "")
	s.warn("cool", "in cool weather only, watered in; half a unit of pH takes about a year")
}

// esp is the exchangeable sodium of a soil from the SAR of its saturation extract, per cent (Handbook 60, 1954).
func esp(sar float64) float64 {
	x := -.0126 + .01475*sar
	return math.Max(0, 100*x/(1+x))
}

func workGypsum(s *sheet) {
	sodium := s.n["sodium"]
	if !s.has("sodium") {
		if !s.has("sar") || !s.has("cec") {
			s.refuse("sodium", "is missing: enter it, or SAR and exchange capacity")
			return
		}
		now := esp(s.n["sar"])
		sodium = math.Max(0, now-s.n["esp"]) / 100 * s.n["cec"]
		s.line("esp", "Sodium now, share of the exchange", now, "%")
		s.show("SAR %s: %s of the exchange; (%s − %s) × %s = %s", s.fig(s.n["sar"], ""), s.fig(now, "%"), s.fig(now, "%"), s.fig(s.n["esp"], "%"),
			s.fig(s.n["cec"], "meq"), s.fig(sodium, "meq"))
	}
	need := .861 * sodium * s.n["density"] * s.n["depth"] / (s.n["purity"] / 100)
	s.show(
		"0.861 × %s × %s × %s mm ÷ %s = %s",
		s.fig(sodium, "meq"),
		s.fig(s.n["density"], ""),
		s.fig(s.n["depth"], ""),
		s.fig(s.n["purity"], "%"),
		s.fig(need, "g/m2"),
	)
	s.leadTotal("product", "Gypsum for the area", need*s.n["area"], "g")
	s.rate("rate", "Rate in all", need, "g/m2")
	if need > 0 {
		s.portions(need, mostGypsum, gypsumRest)
	}
	s.warn("no-ph", "gypsum does not lower the pH and does not loosen compaction; leach after it")
}

func workLeach(s *sheet) {
	if s.n["target"] >= s.n["ec"] {
		s.refuse("target", "is not under the salt now")
		return
	}
	left := s.n["target"] / s.n["ec"]
	// share left after a ratio of water to soil: 1, .5, .2, .1 at 0, .5, 1, 2; between them on a curve of the logarithm
	at := [][2]float64{{0, 1}, {.5, .5}, {1, .2}, {2, .1}}
	ratio := at[3][0] * math.Log(left) / math.Log(at[3][1])
	for i := 1; i < len(at); i++ {
		if left >= at[i][1] {
			a, b := at[i-1], at[i]
			ratio = a[0] + (b[0]-a[0])*(math.Log(a[1])-math.Log(left))/(math.Log(a[1])-math.Log(b[1]))
			break
		}
	}
	water := ratio * s.n["depth"]
	s.show(
		"%s of the salt stays: water to soil %s × %s = %s",
		s.fig(left*100, "%"),
		s.fig(ratio, ""),
		s.fig(s.n["depth"], "mm"),
		s.fig(water, "mm"),
	)
	s.lead("water", "Water that goes through", water, "mm")
	s.total("litres", "For the area", water*s.n["area"]*1000, "mL")
	s.line("portions", "Portions, a day apart", math.Ceil(water/s.n["portion"]-1e-9), "")
	if w := s.n["water-ec"]; w > 0 {
		d := 5*s.n["target"] - w
		if lr := w / d; d > 0 && lr <= .4 && w < 2.5*s.n["target"] {
			s.line("lr", "More water at each watering, to keep it there", lr*100, "%")
		} else {
			s.warn("water-salt", "this water cannot keep the soil at that: other water, or a grass that bears it")
		}
	}
	s.warn("sodium", "test for sodium first: on sodic soil clean water seals the ground, so gypsum goes before")
}

var weightOf = map[string]float64{"sand": 1.6, "mix": 1.5, "compost": .6}

func workTopdress(s *sheet) {
	m3 := s.n["depth"] * s.n["area"] / 1000 * (1 + s.n["settles"]/100)
	s.show("%s × %s ÷ 1000 × %s = %s", s.fig(s.n["depth"], "mm"), s.fig(s.n["area"], "m2"), s.fig(1+s.n["settles"]/100, ""), s.fig(m3, "m3"))
	s.leadTotal("volume", "Volume", m3, "m3")
	s.total("weight", "Weight", m3*weightOf[s.picked["material"]], "t")
	if s.has("load") {
		s.line("loads", "Loads", math.Ceil(m3/s.n["load"]-1e-9), "")
	}
	if s.n["depth"] > 6 {
		s.warn("smother", "over %s at once smothers the grass: tips stay in sight", s.fig(6, "mm"))
	}
}

func workCompost(s *sheet) {
	m3 := s.n["depth"] * s.n["area"] / 1000 * 1.2
	dry := s.n["depth"] * 600 * s.n["dry"] / 100 // g dry matter a m²
	s.leadTotal("volume", "Volume", m3, "m3")
	s.total("weight", "Weight", m3*.6, "t")
	s.show("%s × 600 g × %s dry = %s dry matter", s.fig(s.n["depth"], "mm"), s.fig(s.n["dry"], "%"), s.fig(dry, "g/m2"))
	s.rate("p", "Phosphorus (P)", dry*s.n["p"]/100, "g/m2")
	s.rate("n", "Nitrogen (N), over years", dry*s.n["n"]/100, "g/m2")
	if s.has("ec") && s.n["ec"] > 4 {
		s.warn("salt", "salt of %s is too much for turf: at most 4 dS/m", s.fig(s.n["ec"], "dS/m"))
	}
	if s.has("soil-p") && s.n["soil-p"] > 63 && s.n["depth"] > 1.5 {
		s.warn("phosphorus", "the soil has over three times the phosphorus it needs: sand instead, or at most %s of compost", s.fig(1.5, "mm"))
	}
}

func workSilicon(s *sheet) {
	s.leadTotal("product", "Product for the area", s.n["rate"]*s.n["area"], "g")
	s.show("%s × %s = %s", s.fig(s.n["rate"], "g/m2"), s.fig(s.n["area"], "m2"), s.fig(s.n["rate"]*s.n["area"], "g"))
	s.packs(s.n["rate"] * s.n["area"])
	if r := s.n["rate"]; r < 250 || r > 340 {
		s.warn("trials", "trials used %s to %s", s.fig(250, "g/m2"), s.fig(340, "g/m2"))
	}
	s.warn("partner", "a partner, not a replacement: up to a third less leaf disease, and not everywhere; go by a tissue test")
}

func workCores(s *sheet) {
	passes := math.Ceil(s.n["want"]/s.n["machine"] - 1e-9)
	holes := passes * s.n["machine"]
	share := holes * math.Pi / 4 * math.Pow(s.n["tine"]/1000, 2)
	s.lead("passes", "Passes", passes, "")
	s.line("holes", "Holes", holes, "1/m2")
	s.line("opened", "Surface opened", share*100, "%")
	s.total("volume", "Soil brought up", share*s.n["depth"]/1000*s.n["area"], "m3")
	s.show(
		"%s ÷ %s = %s, so %s passes",
		s.fig(s.n["want"], "1/m2"),
		s.fig(s.n["machine"], "1/m2"),
		s.fig(s.n["want"]/s.n["machine"], ""),
		strconv.Itoa(int(passes)),
	)
	s.warn("lines", "lines and irrigation located and flagged first")
}
