package turf

// The tables of the grasses: one grass a line, one subject a table, so that a figure is compared down its column. Ranges are
// extension ranges of several countries unless a table says otherwise; J at a column's head marks judgement. A nought stands for
// "no value": nothing is computed from it.

// kinds: what it is. Dethatching: by-hand (rake only, no tines), light (wide blades, never into the soil) or yes.
var kinds = []struct {
	id, label, latin string
	family           Family
	creeping         bool // closes gaps by runners at a pace worth waiting for
	rests            Rest // in drought
	dethatch         string
	tender           float64 // per cent of green-up under which broadcast herbicides hurt it (J); 0 for never
	lowMow           Range   // mm, one low mowing at green-up; nought: it does not bear one
	lowMowSoil       float64 // °C at 50 mm from which that pays
}{
	{"kentucky-bluegrass", "Kentucky bluegrass", "Poa pratensis", Cool, true, Rests, "yes", 0, Range{}, 0},
	{"perennial-ryegrass", "Perennial ryegrass", "Lolium perenne", Cool, false, RestsWeakly, "light", 0, Range{}, 0},
	{"tall-fescue", "Tall fescue", "Schedonorus arundinaceus", Cool, false, NeverRests, "light", 0, Range{}, 0},
	{
		"rhizomatous-tall-fescue",
		"Rhizomatous tall fescue",
		"Schedonorus arundinaceus (rhizomatous)",
		Cool,
		false,
		NeverRests,
		"light",
		0,
		Range{},
		0,
	},
	{"fine-fescue", "Fine fescue", "Festuca spp.", Cool, false, Rests, "light", 0, Range{}, 0},
	{"creeping-bentgrass", "Creeping bentgrass", "Agrostis stolonifera", Cool, true, RestsWeakly, "yes", 0, Range{}, 0},
	{"annual-bluegrass", "Annual bluegrass", "Poa annua", Cool, false, NeverRests, "light", 0, Range{}, 0},
	{"rough-bluegrass", "Rough bluegrass", "Poa trivialis", Cool, true, Rests, "light", 0, Range{}, 0},
	{"common-bermudagrass", "Common bermudagrass", "Cynodon dactylon", Warm, true, Rests, "yes", 50, Range{13, 19}, 16},
	{"hybrid-bermudagrass", "Hybrid bermudagrass", "Cynodon dactylon × transvaalensis", Warm, true, Rests, "yes", 50, Range{10, 13}, 16},
	{"zoysiagrass", "Zoysiagrass", "Zoysia spp.", Warm, true, Rests, "yes", 75, Range{19, 25}, 18},
	{"st-augustinegrass", "St Augustinegrass", "Stenotaphrum secundatum", Warm, true, NeverRests, "by-hand", 90, Range{}, 0},
	{"centipedegrass", "Centipedegrass", "Eremochloa ophiuroides", Warm, true, RestsWeakly, "light", 90, Range{}, 0},
	{"kikuyugrass", "Kikuyugrass", "Cenchrus clandestinus", Warm, true, Rests, "yes", 50, Range{20, 20}, 10},
	{"bahiagrass", "Bahiagrass", "Paspalum notatum", Warm, false, Rests, "light", 50, Range{}, 0},
	{"buffalograss", "Buffalograss", "Bouteloua dactyloides", Warm, true, Rests, "light", 50, Range{50, 50}, 12},
	{"seashore-paspalum", "Seashore paspalum", "Paspalum vaginatum", Warm, true, RestsWeakly, "yes", 50, Range{}, 0},
	{"durban-grass", "Durban grass", "Dactyloctenium australe", Warm, true, RestsWeakly, "light", 50, Range{}, 0},
	{"unknown", "Unknown grass", "", Other, false, RestUnknown, "", 0, Range{}, 0},
}

// cares: mowing (mm), nitrogen (g N/m²: a year; the most at once; a day at full growth, J), sun (hours of direct sun a day: for
// full density; the least, below which it thins every year).
var cares = []struct {
	id             string
	mow            Range
	summer         float64
	nitrogen       Range
	dose, day      float64
	full, least    float64
	recoverPerDay  float64 // growth constant of cover at full growth potential, 1/day (J)
	survivesByHalf bool    // survival water is due from half of its endurance, not from two thirds
}{
	{"kentucky-bluegrass", Range{50, 75}, 90, Range{10, 20}, 4.9, .08, 6, 4, .07, false},
	{"perennial-ryegrass", Range{40, 65}, 75, Range{10, 20}, 4.9, .08, 6, 4, .06, true},
	{"tall-fescue", Range{65, 90}, 100, Range{10, 17}, 4.9, .07, 6, 4, .055, true},
	{"rhizomatous-tall-fescue", Range{65, 90}, 100, Range{10, 17}, 4.9, .07, 6, 4, .058, true},
	{"fine-fescue", Range{50, 75}, 90, Range{5, 10}, 2.5, .035, 4, 3, .045, false},
	{"creeping-bentgrass", Range{12, 25}, 25, Range{10, 20}, 2.4, .08, 6, 4, .07, true},
	{"annual-bluegrass", Range{25, 50}, 50, Range{10, 15}, 2.4, .07, 4, 3, .06, true},
	{"rough-bluegrass", Range{25, 50}, 60, Range{10, 15}, 2.4, .07, 4, 3, .05, true},
	{"common-bermudagrass", Range{25, 50}, 50, Range{15, 25}, 4.9, .13, 8, 7, .12, false},
	{"hybrid-bermudagrass", Range{12, 38}, 38, Range{15, 25}, 4.9, .13, 8, 7, .12, false},
	{"zoysiagrass", Range{25, 50}, 50, Range{10, 17}, 4.9, .08, 6, 4, .05, false},
	{"st-augustinegrass", Range{65, 100}, 100, Range{10, 20}, 4.9, .08, 5, 4, .09, true},
	{"centipedegrass", Range{38, 50}, 50, Range{5, 10}, 2.5, .035, 6, 5, .05, true},
	{"kikuyugrass", Range{25, 40}, 50, Range{10, 20}, 4.9, .11, 6, 5, .13, false},
	{"bahiagrass", Range{75, 100}, 100, Range{10, 15}, 4.9, .06, 7, 6, .05, false},
	{"buffalograss", Range{50, 75}, 100, Range{5, 10}, 2.5, .035, 8, 6, .05, false},
	{"seashore-paspalum", Range{25, 50}, 50, Range{10, 20}, 4.9, .08, 8, 6, .09, true},
	{"durban-grass", Range{50, 75}, 75, Range{5, 10}, 2.5, .035, 4, 2, .06, true},
}

// soils: salt in the saturated paste (dS/m: where growth begins to fall, and where half of it is lost; Maas and Hoffman 1977,
// Carrow and Duncan 1998, the severe figures to be verified locally), pH (the good range; trouble under and over).
var soils = []struct {
	id                  string
	saltStarts, saltBad float64
	ph                  Range
	phUnder, phOver     float64
}{
	{"kentucky-bluegrass", 3.0, 8, Range{6.0, 7.2}, 5.5, 8.0},
	{"perennial-ryegrass", 5.6, 12, Range{5.8, 7.4}, 5.2, 8.0},
	{"tall-fescue", 3.9, 13, Range{5.5, 7.5}, 4.9, 8.4},
	{"rhizomatous-tall-fescue", 3.9, 13, Range{5.5, 7.5}, 4.9, 8.4},
	{"fine-fescue", 4.5, 10, Range{5.3, 6.8}, 4.7, 7.6},
	{"creeping-bentgrass", 3.7, 8, Range{5.5, 6.5}, 5.0, 7.4},
	{"annual-bluegrass", 1.5, 4, Range{5.5, 7.0}, 5.0, 7.8},
	{"rough-bluegrass", 1.5, 4, Range{6.0, 7.0}, 5.2, 7.8},
	{"common-bermudagrass", 6.9, 15, Range{5.7, 7.5}, 5.0, 8.3},
	{"hybrid-bermudagrass", 5.0, 15, Range{5.7, 7.2}, 5.0, 8.2},
	{"zoysiagrass", 2.4, 16, Range{5.8, 7.2}, 5.0, 7.9},
	{"st-augustinegrass", 6.5, 20, Range{6.0, 7.5}, 5.0, 7.8},
	{"centipedegrass", 1.5, 5, Range{5.0, 6.0}, 4.3, 6.6},
	{"kikuyugrass", 8.0, 16, Range{5.5, 7.2}, 4.7, 8.2},
	{"bahiagrass", 1.5, 6, Range{5.3, 6.5}, 4.5, 7.0},
	{"buffalograss", 5.3, 13, Range{6.2, 7.8}, 5.5, 8.6},
	{"seashore-paspalum", 8.6, 30, Range{5.5, 7.8}, 4.5, 8.8},
	{"durban-grass", 4, 12, Range{5.5, 8.0}, 5.0, 8.6},
}

// stresses: weeks of full rest in summer heat before crowns die (high 0: no upper end, never a per cent of it; J for the last
// eight), and the air temperature without snow at which hardened and soft crowns begin to die (°C, J: some degrees under the
// killing temperatures of crowns in extension tables, because soil and thatch keep them warmer).
var stresses = []struct {
	id               string
	endurance        Range
	coldLimit, fresh float64
}{
	{"kentucky-bluegrass", Range{5, 6}, -26, -12},
	{"perennial-ryegrass", Range{2, 3}, -17, -8},
	{"tall-fescue", Range{3, 4}, -19, -9},
	{"rhizomatous-tall-fescue", Range{3, 4}, -19, -9},
	{"fine-fescue", Range{5, 6}, -24, -12},
	{"creeping-bentgrass", Range{2, 3}, -32, -13},
	{"annual-bluegrass", Range{1, 2}, -20, -8},
	{"rough-bluegrass", Range{1, 2}, -27, -12},
	{"common-bermudagrass", Range{8, 0}, -13, -8},
	{"hybrid-bermudagrass", Range{8, 0}, -12, -7},
	{"zoysiagrass", Range{8, 0}, -15, -9},
	{"st-augustinegrass", Range{3, 4}, -7, -4},
	{"centipedegrass", Range{3, 4}, -9, -4},
	{"kikuyugrass", Range{6, 8}, -7, -5},
	{"bahiagrass", Range{6, 0}, -9, -5},
	{"buffalograss", Range{10, 0}, -27, -12},
	{"seashore-paspalum", Range{4, 6}, -9, -5},
	{"durban-grass", Range{4, 6}, -4, -2},
}

// growths: soil at 50 mm, daily mean, °C: growth starts; green-up begins; 90 % green (mean of 14 days), both in the spring half;
// growth stops in the autumn half. Then the growth potential of the air: optimum and spread, °C (Gelernter and Stowell 2005 for
// 20, 5.5 and 31, 7; the others J).
var growths = []struct {
	id                            string
	start, begins, green90, stops float64
	opt, sigma                    float64
}{
	{"kentucky-bluegrass", 5, 7, 12, 4, 20, 5.5},
	{"perennial-ryegrass", 4, 5, 10, 3, 20, 5.5},
	{"tall-fescue", 5, 6, 11, 4, 20, 5.5},
	{"rhizomatous-tall-fescue", 5, 6, 11, 4, 20, 5.5},
	{"fine-fescue", 4, 5, 10, 3, 20, 5.5},
	{"creeping-bentgrass", 5, 8, 13, 5, 20, 5.5},
	{"annual-bluegrass", 4, 4, 8, 2, 20, 5.5},
	{"rough-bluegrass", 4, 4, 8, 2, 20, 5.5},
	{"common-bermudagrass", 16, 16, 21, 12, 31, 7},
	{"hybrid-bermudagrass", 16, 16, 21, 12, 31, 7},
	{"zoysiagrass", 15, 14, 20, 12, 31, 7},
	{"st-augustinegrass", 16, 15, 20, 12, 31, 7},
	{"centipedegrass", 16, 15, 20, 13, 31, 7},
	{"kikuyugrass", 10, 10, 15, 8, 24, 8},
	{"bahiagrass", 17, 16, 22, 13, 31, 7},
	{"buffalograss", 13, 12, 18, 10, 28, 7},
	{"seashore-paspalum", 16, 16, 21, 11, 31, 7},
	{"durban-grass", 15, 15, 20, 10, 27, 7},
}

// plantings: soil at 50 mm, °C; days to emergence; seed for new turf, g/m²; whether only runners, plugs or sod make it; spacing of
// plugs, mm; pace of runners from the rim at full growth, mm a day (J); days from sowing or planting to the normal hard frost (for
// seed); sod days the same; lag until plugs root, days (J).
var plantings = []struct {
	id         string
	soil       Range
	emerge     Range
	seed       Range
	vegetative bool
	plugsMM    Range
	closeMMDay Range
	frostFree  float64
	rootingLag float64
	seedToUse  Range // weeks
}{
	{"kentucky-bluegrass", Range{10, 25}, Range{14, 28}, Range{7, 12}, false, Range{150, 200}, Range{.5, 1.5}, 60, 28, Range{12, 16}},
	{"perennial-ryegrass", Range{8, 25}, Range{5, 10}, Range{30, 45}, false, Range{}, Range{}, 45, 0, Range{6, 8}},
	{"tall-fescue", Range{10, 26}, Range{7, 14}, Range{30, 45}, false, Range{}, Range{}, 50, 0, Range{8, 12}},
	{"rhizomatous-tall-fescue", Range{10, 26}, Range{7, 14}, Range{30, 45}, false, Range{}, Range{.1, .3}, 50, 0, Range{8, 12}},
	{"fine-fescue", Range{10, 24}, Range{7, 14}, Range{20, 25}, false, Range{}, Range{}, 50, 0, Range{10, 14}},
	{"creeping-bentgrass", Range{12, 26}, Range{7, 14}, Range{3, 5}, false, Range{150, 150}, Range{.5, 1.5}, 50, 21, Range{10, 14}},
	{"annual-bluegrass", Range{}, Range{5, 10}, Range{}, false, Range{}, Range{}, 0, 0, Range{}},
	{"rough-bluegrass", Range{10, 24}, Range{7, 12}, Range{8, 12}, false, Range{}, Range{.5, 1.5}, 40, 21, Range{6, 8}},
	{"common-bermudagrass", Range{18, 35}, Range{7, 14}, Range{5, 10}, false, Range{300, 300}, Range{3, 6}, 90, 14, Range{8, 12}},
	{"hybrid-bermudagrass", Range{18, 35}, Range{7, 14}, Range{}, true, Range{300, 300}, Range{3, 6}, 75, 14, Range{}},
	{"zoysiagrass", Range{20, 35}, Range{14, 21}, Range{5, 10}, false, Range{150, 150}, Range{.5, 1.5}, 90, 28, Range{16, 26}},
	{"st-augustinegrass", Range{18, 33}, Range{10, 14}, Range{}, true, Range{300, 300}, Range{2, 4}, 90, 21, Range{}},
	{"centipedegrass", Range{20, 33}, Range{14, 28}, Range{1.5, 2.5}, false, Range{200, 300}, Range{.5, 1.5}, 90, 28, Range{52, 104}},
	{"kikuyugrass", Range{16, 30}, Range{10, 21}, Range{3, 8}, false, Range{400, 400}, Range{4, 8}, 70, 14, Range{6, 10}},
	{"bahiagrass", Range{18, 33}, Range{14, 28}, Range{25, 50}, false, Range{}, Range{.1, .4}, 90, 21, Range{16, 26}},
	{"buffalograss", Range{16, 32}, Range{10, 21}, Range{10, 15}, false, Range{300, 300}, Range{2, 5}, 80, 21, Range{10, 16}},
	{"seashore-paspalum", Range{18, 33}, Range{7, 14}, Range{}, true, Range{300, 300}, Range{2, 5}, 90, 21, Range{10, 14}},
	{"durban-grass", Range{18, 30}, Range{10, 20}, Range{}, true, Range{200, 200}, Range{1.5, 3}, 90, 21, Range{}},
}

// names by country (ISO 3166 alpha-2 behind @; without one the word means the same everywhere). A word that means two grasses
// stands only with its countries, and is asked back without one.
var names = []struct{ id, name string }{
	{"kentucky-bluegrass", "smooth meadow-grass"},
	{"kentucky-bluegrass", "smooth-stalked meadow-grass"},
	{"kentucky-bluegrass", "wiesenrispe@de"},
	{"kentucky-bluegrass", "veldbeemdgras@nl"},
	{"kentucky-bluegrass", "pâturin des prés@fr"},
	{"perennial-ryegrass", "english ryegrass"},
	{"perennial-ryegrass", "deutsches weidelgras@de"},
	{"perennial-ryegrass", "engels raaigras@nl"},
	{"perennial-ryegrass", "ray-grass anglais@fr"},
	{"tall-fescue", "rohrschwingel@de"},
	{"tall-fescue", "fétuque élevée@fr"},
	{"tall-fescue", "festuca alta@es"},
	{"fine-fescue", "creeping red fescue"},
	{"fine-fescue", "hard fescue"},
	{"fine-fescue", "chewings fescue"},
	{"fine-fescue", "sheep fescue"},
	{"creeping-bentgrass", "creeping bent"},
	{"annual-bluegrass", "annual meadow-grass"},
	{"annual-bluegrass", "winter grass@au"},
	{"annual-bluegrass", "winter grass@nz"},
	{"annual-bluegrass", "winter grass@za"},
	{"annual-bluegrass", "poa@us"},
	{"rough-bluegrass", "rough meadow-grass"},
	{"rough-bluegrass", "rough-stalked meadow-grass"},
	{"common-bermudagrass", "couch@au"},
	{"common-bermudagrass", "green couch@au"},
	{"common-bermudagrass", "kweek@za"},
	{"common-bermudagrass", "indian doab@nz"},
	{"common-bermudagrass", "gramigna@it"},
	{"hybrid-bermudagrass", "hybrid couch@au"},
	{"zoysiagrass", "japanese lawn grass"},
	{"zoysiagrass", "manila grass"},
	{"st-augustinegrass", "st augustine"},
	{"st-augustinegrass", "buffalo lawn@au"},
	{"st-augustinegrass", "buffalo lawn@nz"},
	{"st-augustinegrass", "buffalo lawn@za"},
	{"st-augustinegrass", "buffalo@au"},
	{"st-augustinegrass", "buffalo@nz"},
	{"st-augustinegrass", "buffalo@za"},
	{"centipedegrass", "centipede@us"},
	{"kikuyugrass", "kikuyu"},
	{"bahiagrass", "bahia"},
	{"buffalograss", "buffalo@us"},
	{"buffalograss", "buffalo@ca"},
	{"seashore-paspalum", "saltwater couch@au"},
	{"durban-grass", "sweet smother grass@au"},
	{"durban-grass", "lm grass@za"},
	{"durban-grass", "berea grass@za"},
}
