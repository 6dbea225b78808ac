package remedy

import (
	"math"
	"time"

	"hodos/core/sky"
	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/core/weather"
)

// measure is a number that tests compare and sentences say.
type measure struct {
	unit string // C, mm, g/m2, m2, %, share, d, dS/m, mg/kg, pH, count, h, kPa, weeks, g
	of   number
}

// measures are worked out from weather, grass, site and records. What cannot be worked out is NaN.
var measures map[string]measure

// nameMeasures fills the measures.
func nameMeasures() {
	grass := func(f func(g turf.Species) float64) number {
		return func(s *situation, _ int) float64 {
			if x := f(s.grass); x != 0 {
				return x
			}
			return math.NaN()
		}
	}
	ahead := func(n int, f func(d *day) float64, pick func(a, b float64) float64) number {
		return func(s *situation, k int) float64 {
			out := math.NaN()
			for j := k + 1; j <= min(k+n, s.forecast); j++ {
				if x := f(s.at(j)); math.IsNaN(out) {
					out = x
				} else {
					out = pick(out, x)
				}
			}
			return out
		}
	}
	tmin, tmax := func(d *day) float64 { return d.tmin }, maxOf
	measures = map[string]measure{
		"latitude":     {"", func(s *situation, _ int) float64 { return math.Abs(s.c.Lawn.Latitude) }},
		"unexplained":  {"share", func(s *situation, _ int) float64 { return s.r.Other }},
		"zone-m2":      {"m2", func(s *situation, _ int) float64 { return s.area() }},
		"damaged-m2":   {"m2", func(s *situation, _ int) float64 { return s.damaged() }},
		"weed-m2":      {"m2", func(s *situation, _ int) float64 { return s.num("weed-cover-percent") / 100 * s.area() }},
		"days-ahead":   {"d", func(_ *situation, k int) float64 { return float64(k) }},
		"phase":        {"d", func(s *situation, k int) float64 { return s.phase(k) }},
		"t5":           {"C", fiveDays},
		"t5-seen":      {"C", seenSoil},
		"course5":      {"C", func(s *situation, k int) float64 { return s.mean(k-4, k, soilOf) }},
		"it-feeds":     {"C", func(s *situation, _ int) float64 { return s.feedsDownTo(s.it) }},
		"t14":          {"C", func(s *situation, k int) float64 { return s.mean(k-13, k, soilOf) }},
		"soil-peak":    {"C", soilPeak},
		"gp":           {"share", func(s *situation, k int) float64 { return s.growth(k) }},
		"gp5":          {"share", func(s *situation, k int) float64 { return meanGrowth(s, k-4, k) }},
		"gp14":         {"share", func(s *situation, k int) float64 { return meanGrowth(s, k-13, k) }},
		"dep":          {"share", func(s *situation, _ int) float64 { return s.depletion() }},
		"dep-felt":     {"share", func(s *situation, _ int) float64 { return s.feltDepletion() }},
		"clock":        {"d", func(s *situation, _ int) float64 { return clockOf(s) }},
		"endur":        {"share", func(s *situation, _ int) float64 { return s.endurance() }},
		"survive-from": {"share", func(s *situation, _ int) float64 { return soil.SurvivalFrom(s.grass.SurvivesByHalf) }},
		"max2":         {"C", func(s *situation, k int) float64 { return knownMax(s, k, 0, 1) }},
		"max-tomorrow": {"C", ahead(1, tmax, math.Max)},
		"min-last":     {"C", func(s *situation, k int) float64 { return knownMin(s, k) }},
		"min3":         {"C", ahead(3, tmin, math.Min)},
		"min5":         {"C", ahead(5, tmin, math.Min)},
		"min10":        {"C", ahead(10, tmin, math.Min)},
		"max-min3":     {"C", ahead(3, tmin, math.Max)},
		"hot-ahead":    {"d", func(s *situation, k int) float64 { return hotDays(s, k, 5) }},
		"max10":        {"C", func(s *situation, k int) float64 { return s.mean(k-4, k+5, maxOf) }},
		"mean3":        {"C", func(s *situation, k int) float64 { return s.mean(k-2, k, airOf) }},
		"mean10":       {"C", func(s *situation, k int) float64 { return s.mean(k-9, k, airOf) }},
		"normal-max":   {"C", func(s *situation, k int) float64 { return s.normalTmax(k) }},
		"rain24":       {"mm", func(s *situation, k int) float64 { return rainAhead(s, k, 1) }},
		"rain48":       {"mm", func(s *situation, k int) float64 { return rainAhead(s, k, 2) }},
		"rain72":       {"mm", func(s *situation, k int) float64 { return rainAhead(s, k, 3) }},
		"rain7":        {"mm", func(s *situation, k int) float64 { return rainAhead(s, k, 7) }},
		"rained2":      {"mm", func(s *situation, k int) float64 { return rained(s, k, 2) }},
		"rained10":     {"mm", func(s *situation, k int) float64 { return rained(s, k, 10) }},
		"rained28":     {"mm", func(s *situation, k int) float64 { return rained(s, k, 28) }},
		"to-frost":     {"d", toFrost},
		"since-frost":  {"d", sinceFrost},
		"to-hot":       {"d", toHot},
		"since-hot":    {"d", sinceHot},
		"dd10":         {"", func(s *situation, k int) float64 { return s.degreeDays("dd10", k, time.January, 10, "sine") }},
		"dd10-mean":    {"", func(s *situation, k int) float64 { return s.degreeDays("dd10m", k, time.January, 10, "mean") }},
		"dd10-march":   {"", func(s *situation, k int) float64 { return s.degreeDays("dd10s", k, time.March, 10, "sine") }},
		"dd7":          {"", func(s *situation, k int) float64 { return s.degreeDays("dd7", k, time.January, 7, "sine") }},
		"dd0":          {"", func(s *situation, k int) float64 { return s.degreeDays("dd0", k, time.January, 0, "mean") }},
		"n12":          {"g/m2", func(s *situation, _ int) float64 { return s.num("nitrogen-12-months-g-m2") }},
		"n-dose":       {"g/m2", func(s *situation, k int) float64 { return s.nitrogenDose(k) }},
		"n-recent":     {"g/m2", func(s *situation, _ int) float64 { return s.nitrogenSince(30) }},
		"mow-low":      {"mm", grass(func(g turf.Species) float64 { return g.Mow.Low })},
		"mow-high":     {"mm", grass(func(g turf.Species) float64 { return g.Mow.High })},
		"mow-mid":      {"mm", grass(func(g turf.Species) float64 { return (g.Mow.Low + g.Mow.High) / 2 })},
		"mow-summer":   {"mm", grass(func(g turf.Species) float64 { return g.Summer })},
		"n-low":        {"g/m2", grass(func(g turf.Species) float64 { return g.Nitrogen.Low })},
		"n-high":       {"g/m2", grass(func(g turf.Species) float64 { return g.Nitrogen.High })},
		"sun-full":     {"h", func(s *situation, _ int) float64 { return s.mix(func(g turf.Species) float64 { return g.SunFull }) }},
		"sun-least":    {"h", func(s *situation, _ int) float64 { return s.mix(func(g turf.Species) float64 { return g.SunLeast }) }},
		"salt-starts":  {"dS/m", grass(func(g turf.Species) float64 { return g.SaltStarts })},
		"salt-leach":   {"dS/m", saltLeach},
		"salt-gives":   {"dS/m", grass(func(g turf.Species) float64 { return (g.SaltStarts + g.SaltSevere) / 2 })},
		"ph-under":     {"pH", grass(func(g turf.Species) float64 { return g.PHUnder })},
		"ph-low":       {"pH", grass(func(g turf.Species) float64 { return g.PH.Low })},
		"ph-sulfur":    {"pH", func(s *situation, _ int) float64 { return sulfurFrom(s.grass) }},
		"frost-free":   {"d", grass(func(g turf.Species) float64 { return g.FrostFreeDays })},
		"plant-low":    {"C", grass(func(g turf.Species) float64 { return g.PlantSoil.Low })},
		"plant-high":   {"C", grass(func(g turf.Species) float64 { return g.PlantSoil.High })},
		"starts":       {"C", grass(func(g turf.Species) float64 { return g.GrowthStart })},
		"begins":       {"C", grass(func(g turf.Species) float64 { return g.GreenBegins })},
		"green90":      {"C", grass(func(g turf.Species) float64 { return g.Green90 })},
		"stops":        {"C", grass(func(g turf.Species) float64 { return g.GrowthStops })},
		"low-mow-soil": {"C", grass(func(g turf.Species) float64 { return g.LowMowSoil })},
		"low-mow-mm":   {"mm", grass(func(g turf.Species) float64 { return g.LowMow.High })},
		"tender-under": {"%", grass(func(g turf.Species) float64 { return g.TenderUnder })},
		"seed-new":     {"g/m2", grass(func(g turf.Species) float64 { return g.Seed.High })},
		"emerge-from":  {"d", grass(func(g turf.Species) float64 { return g.Emergence.Low })},
		"emerge-to":    {"d", grass(func(g turf.Species) float64 { return g.Emergence.High })},
		"n-season-end": {"d", func(s *situation, _ int) float64 { return nitrogenEnds(s.grass.ID) }},
		"count":        {"count", func(s *situation, _ int) float64 { return s.count(s.it) }},
		"tier":         {"count", func(s *situation, _ int) float64 { return s.tier(s.it) }},
		"gap-days":     {"d", func(s *situation, _ int) float64 { return s.gapDays() }},
		"water-net":    {"mm", func(s *situation, _ int) float64 { return s.depletion() * s.r.Sky.Total }},
		"survival-in":  {"d", func(s *situation, _ int) float64 { return s.survivalIn() }},
		"taken-shade":  {"h", func(s *situation, _ int) float64 { return s.num("sun-hours") }},
	}
}

// fiveDays is the five-day mean of the soil; a thermometer of today stands for today.
func fiveDays(s *situation, k int) float64 {
	if x := s.num("soil-temp-c"); k == 0 && !math.IsNaN(x) {
		return x
	}
	return s.mean(k-4, k, soilOf)
}

// seenSoil is the five-day mean of the soil where somebody or something measured it; NaN where it is a guess by the calendar.
func seenSoil(s *situation, k int) float64 {
	if !s.soilSeen || k > s.forecast+3 {
		return math.NaN()
	}
	return fiveDays(s, k)
}

// soilPeak is the warmest afternoon of the soil at 50 mm over the last three days; a thermometer speaks for its own.
func soilPeak(s *situation, k int) float64 {
	if !s.soilSeen {
		return math.NaN()
	}
	peak := math.Max(s.at(k).peak, math.Max(s.at(k-1).peak, s.at(k-2).peak))
	if x := s.num("soil-temp-c"); k == 0 && !math.IsNaN(x) {
		return math.Max(x, peak)
	}
	return peak
}

func meanGrowth(s *situation, from, to int) float64 {
	sum := 0.0
	for k := from; k <= to; k++ {
		sum += s.growth(k)
	}
	return sum / float64(to-from+1)
}

// feltDepletion is what a probe or the feel of a core stands for.
func (s *situation) feltDepletion() float64 {
	if x := s.num("soil-moisture-vwc"); !math.IsNaN(x) {
		return soil.ShareOfVolume(x, s.r.Sky.Ground.Texture)
	}
	if share, ok := soil.ShareOf(s.word("soil-moisture")); ok {
		return share
	}
	return math.NaN()
}

func clockOf(s *situation) float64 {
	k := s.r.Sky
	if k.Today < 0 || k.Unsaid || k.Balance.Total <= 0 {
		return math.NaN()
	}
	days, _ := k.Balance.Clock(k.Today)
	return days
}

// endurance is the share of what the grass stands that is used: by the balance, else by the days since water that were told, from
// two weeks after the last on (judgement).
func (s *situation) endurance() float64 {
	if e := s.r.Sky.Endurance; e.Weeks > 0 && s.r.Sky.Today >= 0 {
		return e.Used
	}
	if d := s.num("days-since-water"); !math.IsNaN(d) && s.grass.Endurance.Low > 0 {
		return math.Max(0, d-14) / 7 / s.grass.Endurance.Low
	}
	return math.NaN()
}

// survivalIn is the days until survival water is due, if it stays dry.
func (s *situation) survivalIn() float64 {
	left := soil.SurvivalFrom(s.grass.SurvivesByHalf) - s.endurance()
	weeks := s.grass.Endurance.Low
	if e := s.r.Sky.Endurance; e.Weeks > 0 {
		weeks = e.Weeks
	}
	return math.Max(0, math.Round(left*weeks*7))
}

func knownMax(s *situation, k, from, to int) float64 {
	out := math.NaN()
	for j := k + from; j <= k+to; j++ {
		if d := s.at(j); d.known && !(d.tmax <= out) {
			out = d.tmax
		}
	}
	return out
}

// knownMin is last night's minimum.
func knownMin(s *situation, k int) float64 {
	if d := s.at(k); d.known {
		return d.tmin
	}
	return math.NaN()
}

// hotDays counts the days of the forecast at 32 °C and more.
func hotDays(s *situation, k, n int) float64 {
	hot, seen := 0.0, false
	for j := k + 1; j <= k+n; j++ {
		if d := s.at(j); d.known {
			seen = true
			if d.tmax >= sky.HotDay {
				hot++
			}
		}
	}
	if !seen {
		return math.NaN()
	}
	return hot
}

func rainAhead(s *situation, k, n int) float64 {
	sum, seen := 0.0, false
	for j := k + 1; j <= k+n; j++ {
		if x := s.at(j).rain; j <= s.forecast && !math.IsNaN(x) {
			sum, seen = sum+x, true
		}
	}
	if !seen {
		return math.NaN()
	}
	return sum
}

func rained(s *situation, k, n int) float64 {
	sum, seen := 0.0, 0
	for j := k - n + 1; j <= k; j++ {
		if x := s.at(j).rain; !math.IsNaN(x) {
			sum, seen = sum+x, seen+1
		}
	}
	if seen < n-1 {
		return math.NaN()
	}
	return sum
}

// toFrost is the days from a day to the next normal hard frost, 0 from then to midwinter; a place without one has none in sight.
func toFrost(s *situation, k int) float64 {
	if math.IsNaN(s.frostAt) {
		return noFrost
	}
	if p := s.phase(k); p >= s.frostAt && p < yearDays/2 {
		return 0 // it has come
	}
	return math.Mod(s.frostAt-s.phase(k)+2*yearDays, yearDays)
}

// sinceFrost is the days since the last normal hard frost of spring; negative while it is still to come in this half of the year.
func sinceFrost(s *situation, k int) float64 {
	if math.IsNaN(s.frostAt) {
		return noFrost
	}
	for n := 183; n < 366; n++ {
		if lo, _ := s.place.Air(s.place.Warmest.AddDate(0, 0, n)); lo >= frostLeaves {
			d := s.phase(k) - float64(n)
			if s.phase(k) < 183 {
				d += yearDays
			}
			return d
		}
	}
	return noFrost
}

// toHot is the days to the heat of the normal summer: 0 within it, far where there is none.
func toHot(s *situation, k int) float64 {
	if math.IsNaN(s.hotEnds) {
		return noFrost
	}
	p := s.phase(k)
	if p <= s.hotEnds || p >= s.hotFrom {
		return 0
	}
	return s.hotFrom - p
}

// sinceHot is the days since the heat of the normal summer ended; negative before. Where there is none, since four weeks after
// midsummer (judgement: eight weeks after the longest day).
func sinceHot(s *situation, k int) float64 {
	ends := s.hotEnds
	if math.IsNaN(ends) {
		ends = 21
	}
	p := s.phase(k)
	if p > yearDays/2 {
		p -= yearDays
	}
	return p - ends
}

// degreeDays over a base since the first of the month of the north (half a year later in the south), °C·d, on the course.
func (s *situation) degreeDays(name string, k int, from time.Month, base float64, method string) float64 {
	if math.Abs(s.c.Lawn.Latitude) < 35 {
		return math.NaN() // sums from a date mean nothing where growth never stops
	}
	sums, ok := s.sums[name]
	if !ok {
		sums = make([]float64, len(s.days)+1)
		for i := range s.days {
			sums[i+1] = sums[i] + weather.DegreeDays(s.days[i].tmin, s.days[i].tmax, base, 0, method)
		}
		s.sums[name] = sums
	}
	start := s.offset(weather.DegreeWindow{Month: from}.Since(s.day(k), s.c.Lawn.Latitude)) + courseBack
	return sums[min(k+courseBack+1, len(sums)-1)] - sums[max(0, min(start, len(sums)-1))]
}

// mix is the lowest figure of the grasses of a mix: what its most patient member needs.
func (s *situation) mix(f func(turf.Species) float64) float64 {
	least := math.NaN()
	for _, id := range s.c.Lawn.Species {
		g, _ := turf.ByID(id)
		if x := f(g.InForm(s.c.Lawn.Form)); x > 0 && !(x >= least) {
			least = x
		}
	}
	return least
}

// saltLeach is the salt from which it is leached: a new stand bears half.
func saltLeach(s *situation, _ int) float64 {
	if s.grass.SaltStarts == 0 {
		return math.NaN()
	}
	if e := s.word("establishment"); e == "new-seed" || e == "new-sod" || e == "new-plugs" {
		return s.grass.SaltStarts / 2
	}
	return s.grass.SaltLeach()
}

// sulfurFrom is the pH from which sulfur may be thought of; some grasses are in trouble earlier (extension; judgement between).
func sulfurFrom(g turf.Species) float64 {
	if g.PHOver > 0 && g.PHOver < 7.5 {
		return g.PHOver
	}
	return 7.5
}

// nitrogenEnds is how many days before the normal hard frost the last feeding of a warm-season grass lies (extension; days J).
func nitrogenEnds(grass string) float64 {
	if d, ok := map[string]float64{"common-bermudagrass": 42, "hybrid-bermudagrass": 42, "kikuyugrass": 42, "seashore-paspalum": 42,
		"st-augustinegrass": 56, "centipedegrass": 56, "zoysiagrass": 56}[grass]; ok {
		return d
	}
	return 49
}

// gapDays is how long runners take to close the bare patch at hand, in days at the growth of the weeks ahead: one and a half times
// half the gap over the low end of the pace (judgement).
func (s *situation) gapDays() float64 {
	gap := s.num("patch-diameter-cm") * 10
	if math.IsNaN(gap) {
		gap = 300 // a patch that nobody measured
	}
	pace := s.grass.CloseMMDay.Low
	if pace <= 0 {
		return math.NaN()
	}
	left, days := gap/2*1.5, 0.0
	for k := 0; left > 0 && days < 400; k++ {
		left -= pace * s.growth(k)
		days++
	}
	return days
}

// nitrogenSince adds up what was given in the last days, g N/m².
func (s *situation) nitrogenSince(days float64) float64 {
	sum := 0.0
	for _, t := range s.treatments() {
		age := s.c.Lawn.Date.Sub(t.Date).Hours() / 24
		if t.NGM2 != nil && age >= 0 && age <= days {
			sum += *t.NGM2
		}
	}
	return sum
}

// nitrogenDose is one application, g N/m²: in autumn a fifth to a quarter of a cool-season grass's year, in spring a seventh of it;
// on warm-season grass what it needs in four weeks; never over the grass's own limit nor over what the year has left.
func (s *situation) nitrogenDose(k int) float64 {
	g := s.grass
	if g.NitrogenDose == 0 {
		return math.NaN()
	}
	year := (g.Nitrogen.Low + g.Nitrogen.High) / 2 * s.nitrogenFactor()
	var dose float64
	switch {
	case g.Family == turf.Cool && terms["autumn"](s, k) == yes:
		dose = .225 * year
	case g.Family == turf.Cool:
		dose = math.Min(.15*year, g.NitrogenDose/2)
	default:
		dose = 0
		for j := k; j < k+28; j++ {
			dose += g.NitrogenDay * s.growth(j)
		}
		if terms["wakew"](s, k) == yes {
			dose = math.Min(dose, halfGreenDose)
		}
	}
	if had := s.num("nitrogen-12-months-g-m2"); !math.IsNaN(had) {
		dose = math.Min(dose, g.Nitrogen.High-had)
	}
	return math.Max(0, math.Min(dose, g.NitrogenDose))
}

// halfGreenDose is the most that half-green turf gets at once, g N/m² (extension).
const halfGreenDose = 1.0

// doseOf is the nitrogen of one application of an action.
func (s *situation) doseOf(id string) float64 {
	for _, d := range fixedDoses {
		if d.action == id {
			return d.nGM2
		}
	}
	if x := s.nitrogenDose(0); !math.IsNaN(x) {
		return math.Round(x*10) / 10
	}
	return 0
}

// nitrogenFactor turns the year of the grass into that of this lawn: clippings left for years, shade, a young or trodden stand; the
// product is held to .5 to 1.3 (judgement).
func (s *situation) nitrogenFactor() float64 {
	f := 1.0
	if s.word("clippings") == "left" {
		f *= .75
	}
	if sun := s.num("sun-hours"); sun < s.mix(func(g turf.Species) float64 { return g.SunFull }) {
		f *= .5
	}
	if e := s.word("establishment"); e != "" && e != "established" {
		f *= 1.2
	}
	return math.Max(.5, math.Min(1.3, f))
}
