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

// The most nitrogen at once, g/m², of all kinds and of a quick one: 1 and 0.7 lb/1000 ft² (extension).
const (
	MostNitrogen      = 4.9
	MostQuickNitrogen = 3.42
)

// Range is a low and a high value; the zero Range means "no value".
type Range struct{ Low, High float64 }

// Known reports whether the range holds a value.
func (r Range) Known() bool { return r != Range{} }

// Rest is what a grass does in a drought.
type Rest int

// Whether a grass rests.
const (
	RestUnknown Rest = iota
	NeverRests       // green by its roots, then it dies
	RestsWeakly
	Rests
)

// Species is one grass with the properties that decisions use. The zero value of a figure is "no value".
type Species struct {
	ID      string
	Label   string
	Latin   string
	Aliases []string // local names, "word@country" where the word means something else elsewhere
	Family  Family
	// Creeping marks grasses whose runners close a gap at a pace worth waiting for.
	Creeping bool
	Rests    Rest
	// Dethatch is by-hand (no tines), light (never into the soil) or yes.
	Dethatch string
	// TenderUnder is the green-up in per cent under which broadcast herbicides hurt it; 0 for never.
	TenderUnder float64
	// LowMow is the height in mm of one low mowing at green-up, from soil of LowMowSoil °C; the zero range: it does not bear one.
	LowMow     Range
	LowMowSoil float64

	// Mow is the mowing height in mm, Summer the upper end used in heat, shade and drought.
	Mow    Range
	Summer float64
	// Nitrogen is the yearly need in g N/m², NitrogenDose the most at once, NitrogenDay the need of a day at full growth.
	Nitrogen                  Range
	NitrogenDose, NitrogenDay float64
	// SunFull is the direct sun a day for full density, SunLeast the least below which it thins every year; hours.
	SunFull, SunLeast float64
	// RecoverPerDay is the growth constant of cover at full growth potential, 1/day.
	RecoverPerDay float64

	// SaltStarts and SaltSevere are the salt of the saturated paste at which growth begins to fall, and at which about half of it
	// is lost, dS/m.
	SaltStarts, SaltSevere float64
	// PH is the good range, PHUnder and PHOver where trouble begins.
	PH              Range
	PHUnder, PHOver float64

	// Endurance is how many weeks of full rest in summer heat the crowns stand without water; a high end of 0 beside a low one is
	// "no upper end known".
	Endurance Range
	// SurvivesByHalf: survival water is due from half of the endurance, not from two thirds.
	SurvivesByHalf bool
	// ColdLimit is the air temperature without snow at which hardened crowns begin to die, SoftLimit the same before hardening and
	// after green-up, °C.
	ColdLimit, SoftLimit float64

	// Soil temperatures of growth at 50 mm, °C: it starts, green-up begins, 90 % green as a mean of 14 days, it stops in autumn.
	GrowthStart, GreenBegins, Green90, GrowthStops float64
	// GrowthBest and GrowthSpread are optimum and spread of the growth potential, °C of the air.
	GrowthBest, GrowthSpread float64

	// PlantSoil is the soil for sowing or planting, °C at 50 mm; Emergence is in days; Seed in g/m² for new turf.
	PlantSoil, Emergence, Seed Range
	// Vegetative marks grasses that only runners, plugs or sod make.
	Vegetative bool
	// PlugsMM is the spacing of plugs, mm; CloseMMDay the pace of runners from the rim at full growth, mm a day.
	PlugsMM, CloseMMDay Range
	// FrostFreeDays is what sowing or planting needs before the normal hard frost; RootingLag the days until plugs root.
	FrostFreeDays, RootingLag float64
	// SeedToUse is how long it takes to normal use, weeks of growing weather.
	SeedToUse Range
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

var species = table()

// table puts the tables of the grasses together; a grass that is missing in one of them keeps "no value" there.
func table() []Species {
	out := make([]Species, len(kinds))
	at := map[string]*Species{}
	for i, k := range kinds {
		out[i] = Species{ID: k.id, Label: k.label, Latin: k.latin, Family: k.family, Creeping: k.creeping, Rests: k.rests,
			Dethatch: k.dethatch, TenderUnder: k.tender, LowMow: k.lowMow, LowMowSoil: k.lowMowSoil}
		at[k.id] = &out[i]
	}
	for _, c := range cares {
		s := at[c.id]
		s.Mow, s.Summer, s.Nitrogen, s.NitrogenDose, s.NitrogenDay = c.mow, c.summer, c.nitrogen, c.dose, c.day
		s.SunFull, s.SunLeast, s.RecoverPerDay, s.SurvivesByHalf = c.full, c.least, c.recoverPerDay, c.survivesByHalf
	}
	for _, g := range soils {
		s := at[g.id]
		s.SaltStarts, s.SaltSevere, s.PH, s.PHUnder, s.PHOver = g.saltStarts, g.saltBad, g.ph, g.phUnder, g.phOver
	}
	for _, d := range stresses {
		s := at[d.id]
		s.Endurance, s.ColdLimit, s.SoftLimit = d.endurance, d.coldLimit, d.fresh
	}
	for _, g := range growths {
		s := at[g.id]
		s.GrowthStart, s.GreenBegins, s.Green90, s.GrowthStops, s.GrowthBest, s.GrowthSpread = g.start, g.begins, g.green90, g.stops, g.opt,
			g.sigma
	}
	for _, p := range plantings {
		s := at[p.id]
		s.PlantSoil, s.Emergence, s.Seed, s.Vegetative, s.PlugsMM, s.CloseMMDay = p.soil, p.emerge, p.seed, p.vegetative, p.plugsMM, p.closeMMDay
		s.FrostFreeDays, s.RootingLag, s.SeedToUse = p.frostFree, p.rootingLag, p.seedToUse
	}
	for _, n := range names {
		at[n.id].Aliases = append(at[n.id].Aliases, n.name)
	}
	return out
}

// SaltLeach is the salt of the saturated paste from which leaching pays whatever else is wrong, dS/m: a quarter of the way from
// where growth begins to fall to where half of it is lost (about an eighth of growth; judgement); 0 for no value.
func (s Species) SaltLeach() float64 { return s.SaltStarts + (s.SaltSevere-s.SaltStarts)/4 }

// Growth is the growth potential of this grass at a mean air temperature in °C, 0 to 1: see GrowthPotential.
func (s Species) Growth(meanC float64) float64 {
	if s.GrowthSpread == 0 {
		return GrowthPotential(s.Family, meanC)
	}
	d := (meanC - s.GrowthBest) / s.GrowthSpread
	return math.Exp(-.5 * d * d)
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
