// Package turf knows the grasses: their family, mowing heights, nitrogen need, endurance, spread, and how they grow with
// temperature. Every figure is SI; a figure that is missing says so and is never replaced by a default.
package turf

import (
	"math"
	"strings"
	"time"
)

// Family is the climate family of a grass.
type Family string

// The families. Other stands for an unknown grass.
const (
	Cool  Family = "cool"
	Warm  Family = "warm"
	Other Family = "other"
)

// Range is a low and a high value; the zero Range means "no value".
type Range struct{ Low, High float64 }

// Known reports whether the range holds a value.
func (r Range) Known() bool { return r != Range{} }

// Species is one grass with the properties that decisions use.
type Species struct {
	ID      string
	Label   string
	Latin   string
	Aliases []string // local names; the country goes with the word, see the handbook of names in docs/knowledge.md
	Family  Family
	// Mow is the mowing height in mm, Summer the upper end used in heat, shade and drought (extension ranges).
	Mow    Range
	Summer float64
	// Nitrogen is the yearly need in g N/m² (extension ranges).
	Nitrogen Range
	// Endurance is how many weeks of full dormancy in summer heat the crowns stand without water (judgement within
	// extension ranges); the zero range means no value.
	Endurance Range
	// CloseMMDay is how fast runners close a bare spot at full growth potential, mm a day from the rim (judgement);
	// the zero range means that the grass hardly closes gaps.
	CloseMMDay Range
	// RecoverPerDay is the growth constant r of cover at full growth potential, 1/day (judgement).
	RecoverPerDay float64
	Creeping      bool
	// Seed is the rate for new turf in g/m²; the zero range means that it is not grown from seed.
	Seed Range
	// ColdLimit is the air temperature without snow at which hardened crowns begin to die, °C (judgement, some degrees under
	// the killing temperatures of crowns in extension tables, because soil and thatch keep them warmer); 0 is no value.
	ColdLimit float64
	// SunHours is the least direct sun a day, hours (extension ranges).
	SunHours Range
	// SprayTender marks grasses that broadcast herbicides hurt before full green-up.
	SprayTender bool
	// LowMowAtGreenUp marks grasses that stand a single low mowing at green-up.
	LowMowAtGreenUp bool
}

// All returns every species, cool-season first.
func All() []Species { return species }

// ByID looks a species up.
func ByID(id string) (Species, bool) {
	for _, s := range species {
		if s.ID == id {
			return s, true
		}
	}
	return Species{}, false
}

// ByName finds a species by id, label, botanical name or an alias that is unambiguous in the given country (ISO 3166
// alpha-2, or empty). It refuses a word that means different grasses in different countries when no country is given.
func ByName(name, country string) (Species, bool) {
	n := strings.ToLower(strings.TrimSpace(name))
	for _, s := range species {
		if n == s.ID || n == strings.ToLower(s.Label) || n == strings.ToLower(s.Latin) {
			return s, true
		}
		for _, a := range s.Aliases {
			word, land, local := strings.Cut(a, "@")
			if n == word && (!local || strings.EqualFold(land, country)) {
				return s, true
			}
		}
	}
	return Species{}, false
}

var species = []Species{
	{ID: "kentucky-bluegrass", Label: "Kentucky bluegrass", Latin: "Poa pratensis", Aliases: []string{"smooth meadow-grass", "june grass"}, Family: Cool, Mow: Range{50, 75}, Summer: 90, Nitrogen: Range{10, 20}, Endurance: Range{5, 6}, CloseMMDay: Range{.5, 1.5}, ColdLimit: -26, RecoverPerDay: .07, Creeping: true, Seed: Range{7, 12}, SunHours: Range{4, 6}},
	{ID: "perennial-ryegrass", Label: "Perennial ryegrass", Latin: "Lolium perenne", Aliases: []string{"english ryegrass"}, Family: Cool, Mow: Range{40, 65}, Summer: 75, Nitrogen: Range{10, 20}, Endurance: Range{2, 3}, ColdLimit: -17, RecoverPerDay: .06, Seed: Range{30, 45}, SunHours: Range{4, 6}},
	{ID: "tall-fescue", Label: "Tall fescue", Latin: "Schedonorus arundinaceus", Family: Cool, Mow: Range{65, 90}, Summer: 100, Nitrogen: Range{10, 17}, Endurance: Range{3, 4}, ColdLimit: -19, RecoverPerDay: .055, Seed: Range{30, 45}, SunHours: Range{4, 4}},
	{ID: "rhizomatous-tall-fescue", Label: "Rhizomatous tall fescue", Latin: "Schedonorus arundinaceus (rhizomatous)", Aliases: []string{"rtf"}, Family: Cool, Mow: Range{65, 90}, Summer: 100, Nitrogen: Range{10, 17}, Endurance: Range{3, 4}, ColdLimit: -19, RecoverPerDay: .058, Seed: Range{30, 45}, SunHours: Range{4, 4}},
	{ID: "fine-fescue", Label: "Fine fescue", Latin: "Festuca spp.", Aliases: []string{"creeping red fescue", "hard fescue", "chewings fescue"}, Family: Cool, Mow: Range{50, 75}, Summer: 75, Nitrogen: Range{5, 10}, Endurance: Range{5, 6}, ColdLimit: -24, RecoverPerDay: .045, Seed: Range{20, 25}, SunHours: Range{3, 4}},
	{ID: "creeping-bentgrass", Label: "Creeping bentgrass", Latin: "Agrostis stolonifera", Family: Cool, Nitrogen: Range{10, 20}, Endurance: Range{2, 3}, ColdLimit: -32, RecoverPerDay: .07, Creeping: true, Seed: Range{3, 5}},
	{ID: "annual-bluegrass", Label: "Annual bluegrass", Latin: "Poa annua", Aliases: []string{"annual meadow-grass", "winter grass@au", "winter grass@za"}, Family: Cool, Endurance: Range{1, 2}, ColdLimit: -20, RecoverPerDay: .06},
	{ID: "rough-bluegrass", Label: "Rough bluegrass", Latin: "Poa trivialis", Aliases: []string{"rough meadow-grass"}, Family: Cool, ColdLimit: -27, RecoverPerDay: .05, Creeping: true},
	{ID: "common-bermudagrass", Label: "Common bermudagrass", Latin: "Cynodon dactylon", Aliases: []string{"couch@au", "kweek@za"}, Family: Warm, Mow: Range{25, 50}, Summer: 50, Nitrogen: Range{15, 25}, Endurance: Range{8, 8}, CloseMMDay: Range{3, 6}, ColdLimit: -13, RecoverPerDay: .12, Creeping: true, Seed: Range{5, 10}, SunHours: Range{7, 8}, LowMowAtGreenUp: true},
	{ID: "hybrid-bermudagrass", Label: "Hybrid bermudagrass", Latin: "Cynodon dactylon × transvaalensis", Family: Warm, Mow: Range{12, 38}, Summer: 38, Nitrogen: Range{15, 25}, Endurance: Range{8, 8}, CloseMMDay: Range{3, 6}, ColdLimit: -12, RecoverPerDay: .12, Creeping: true, SunHours: Range{7, 8}, LowMowAtGreenUp: true},
	{ID: "zoysiagrass", Label: "Zoysiagrass", Latin: "Zoysia spp.", Family: Warm, Mow: Range{25, 50}, Summer: 50, Nitrogen: Range{10, 17}, Endurance: Range{8, 8}, CloseMMDay: Range{.5, 1.5}, ColdLimit: -15, RecoverPerDay: .05, Creeping: true, Seed: Range{5, 10}, SunHours: Range{4, 6}, LowMowAtGreenUp: true},
	{ID: "st-augustinegrass", Label: "St Augustinegrass", Latin: "Stenotaphrum secundatum", Aliases: []string{"st augustine", "buffalo lawn@au", "buffalo lawn@za", "buffalo@au", "buffalo@za"}, Family: Warm, Mow: Range{65, 100}, Summer: 100, Nitrogen: Range{10, 20}, Endurance: Range{3, 4}, CloseMMDay: Range{2, 4}, ColdLimit: -7, RecoverPerDay: .09, Creeping: true, SunHours: Range{4, 5}, SprayTender: true},
	{ID: "centipedegrass", Label: "Centipedegrass", Latin: "Eremochloa ophiuroides", Family: Warm, Mow: Range{38, 50}, Summer: 50, Nitrogen: Range{5, 10}, Endurance: Range{3, 3}, ColdLimit: -9, RecoverPerDay: .05, Creeping: true, Seed: Range{1.5, 2.5}, SprayTender: true},
	{ID: "kikuyugrass", Label: "Kikuyugrass", Latin: "Cenchrus clandestinus", Aliases: []string{"kikuyu"}, Family: Warm, Mow: Range{25, 40}, Summer: 40, Nitrogen: Range{10, 20}, Endurance: Range{6, 6}, CloseMMDay: Range{4, 8}, ColdLimit: -7, RecoverPerDay: .13, Creeping: true, LowMowAtGreenUp: true},
	{ID: "bahiagrass", Label: "Bahiagrass", Latin: "Paspalum notatum", Family: Warm, Mow: Range{75, 100}, Summer: 100, Nitrogen: Range{10, 15}, ColdLimit: -9, RecoverPerDay: .05, Creeping: true, Seed: Range{25, 50}},
	{ID: "buffalograss", Label: "Buffalograss", Latin: "Bouteloua dactyloides", Aliases: []string{"buffalo@us"}, Family: Warm, Nitrogen: Range{5, 10}, Endurance: Range{10, 10}, ColdLimit: -27, RecoverPerDay: .05, Creeping: true, LowMowAtGreenUp: true},
	{ID: "seashore-paspalum", Label: "Seashore paspalum", Latin: "Paspalum vaginatum", Family: Warm, ColdLimit: -9, RecoverPerDay: .09, Creeping: true},
	{ID: "durban-grass", Label: "Durban grass", Latin: "Dactyloctenium australe", Aliases: []string{"sweet smother grass@au", "lm grass@za"}, Family: Warm, ColdLimit: -5, RecoverPerDay: .06, Creeping: true},
	{ID: "unknown", Label: "Unknown grass", Family: Other},
}

// GrowthPotential is the share of its best growth that a grass reaches at a mean air temperature in °C, 0 to 1
// (Gelernter and Stowell 2005): exp(−½((T − Topt)/σ)²) with optimum 20 °C and σ 5.5 for cool-season, 31 °C and σ 7 for
// warm-season grasses. For an unknown grass it is the better of the two, which overstates growth.
func GrowthPotential(f Family, meanC float64) float64 {
	gp := func(opt, sigma float64) float64 { d := (meanC - opt) / sigma; return math.Exp(-.5 * d * d) }
	switch f {
	case Cool:
		return gp(20, 5.5)
	case Warm:
		return gp(31, 7)
	}
	return math.Max(gp(20, 5.5), gp(31, 7))
}

// SeasonMonth turns the calendar month of a place into the month that the same season has in the northern hemisphere:
// January in the south counts as July. Latitude is in degrees, south negative.
func SeasonMonth(m time.Month, latitude float64) time.Month {
	if latitude >= 0 {
		return m
	}
	return (m+5)%12 + 1
}
