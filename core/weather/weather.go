// Package weather turns a daily series into what the weather says about a lawn: water missing, heat, wetness, frost,
// disease windows. This is the first, daily and coarse method; every finding it gives is marked provisional.
package weather

import (
	"math"
	"sort"
	"time"
)

// Day is one day of weather at a site. Nil is "not measured", never nought.
type Day struct {
	Date       time.Time
	TMin, TMax *float64 // °C
	Rain       *float64 // mm
	RH         *float64 // mean relative humidity, %
	Wind       *float64 // daily mean at 2 m, m/s
	Solar      *float64 // MJ/m²
	Irrigation *float64 // mm
	Snow       *float64 // depth, cm
}

func (d Day) mean() (float64, bool) {
	if d.TMin == nil || d.TMax == nil {
		return 0, false
	}
	return (*d.TMin + *d.TMax) / 2, true
}

// Ra is extraterrestrial radiation on a horizontal surface in MJ/(m² day) for a latitude in degrees (south negative)
// and a day of the year 1 to 366 (FAO Irrigation and Drainage Paper 56, equation 21; its example 8 is the test).
func Ra(latitude float64, dayOfYear int) float64 {
	phi := latitude * math.Pi / 180
	x := 2 * math.Pi * float64(dayOfYear) / 365
	dr := 1 + .033*math.Cos(x)
	delta := .409 * math.Sin(x-1.39)
	ws := math.Acos(math.Max(-1, math.Min(1, -math.Tan(phi)*math.Tan(delta))))
	return 24 * 60 / math.Pi * .0820 * dr * (ws*math.Sin(phi)*math.Sin(delta) + math.Cos(phi)*math.Cos(delta)*math.Sin(ws))
}

// ET0 is reference evapotranspiration in mm/day from temperatures alone (Hargreaves and Samani; FAO-56 equation 52):
// 0.0023 (Tmean + 17.8) √(Tmax − Tmin) Ra, Ra as mm of evaporation. Below −17.8 °C it is 0.
func ET0(tmin, tmax, latitude float64, dayOfYear int) float64 {
	if tmax < tmin {
		tmin, tmax = tmax, tmin
	}
	return math.Max(0, .0023*((tmin+tmax)/2+17.8)*math.Sqrt(tmax-tmin)*Ra(latitude, dayOfYear)*.408)
}

// DollarSpot is the chance of dollar spot from five-day means of air temperature (°C) and relative humidity (%), 0 to 1
// (Smith et al. 2018, PLoS ONE 13: e0194216); it holds between 10 and 35 °C and is 0 outside.
func DollarSpot(meanC, rh float64) float64 {
	if meanC < 10 || meanC > 35 {
		return 0
	}
	return 1 / (1 + math.Exp(11.4041-.1932*meanC-.0894*rh))
}

// BrownPatch is the environmental favourability index from the day's mean relative humidity (%) and minimum air
// temperature (°C); 6 and more is a warning (Fidanza, Dernoeden and Grybauskas 1996).
func BrownPatch(rh, tmin float64) float64 { return -21.5 + .15*rh + 1.4*tmin - .033*tmin*tmin }

// AvailableWater is the water a soil holds for plants, mm per m of depth (extension tables).
var AvailableWater = map[string]float64{"sand": 60, "loamy-sand": 80, "sandy-loam": 120, "loam": 170, "silt-loam": 200, "clay-loam": 180, "clay": 150}

// Ground is what the computation has to know of the zone.
type Ground struct {
	Latitude       float64
	Texture        string  // "" counts as loam, and is said
	RootDepthMM    float64 // 0: by family
	Warm           bool    // warm-season turf
	Irrigated      *bool
	WeeklyWaterMM  *float64 // what the client gives a week, where days do not say
	EnduranceWeeks float64  // of the species; 0 for no value
	Onset          time.Time
	Date           time.Time
}

// Computed is one weather finding: exactly one of Word and Number speaks.
type Computed struct {
	Finding  string
	Cause    string // for findings kept once a cause
	Word     string
	Number   *float64
	Detail   string
	From, To time.Time
}

// Missing says what could not be computed, and why.
type Missing struct{ Finding, Why string }

// Sort orders days by date; the reader of a case requires it, a store may not.
func Sort(days []Day) {
	sort.Slice(days, func(a, b int) bool { return days[a].Date.Before(days[b].Date) })
}

// SoilTemperature follows the soil at about 50 mm day by day: an exponentially damped mean of the air's daily mean, an
// eighth of the way a day (judgement; provisional). Days without temperatures carry the last value on. The result has
// one value a day and is NaN before the first measured day.
func SoilTemperature(days []Day) []float64 {
	out := make([]float64, len(days))
	soil := math.NaN()
	for i, d := range days {
		if t, ok := d.mean(); ok {
			if math.IsNaN(soil) {
				soil = t
			}
			soil += (t - soil) / 8
			// snow keeps the ground near freezing
			if d.Snow != nil && *d.Snow >= 5 && soil < 0 {
				soil = 0
			}
		}
		out[i] = soil
	}
	return out
}

// Depletion follows the water missing from the root zone, in mm, day by day, and the total the root zone can hold
// (FAO-56 chapter 8, with ET0 from temperatures and turf coefficients 0.80 and 0.60). It starts at 30 % depletion
// (judgement). Runoff is not modelled yet.
func Depletion(days []Day, g Ground) (missing []float64, total float64) {
	awc, ok := AvailableWater[g.Texture]
	if !ok {
		awc = AvailableWater["loam"]
	}
	depth, kc, p := g.RootDepthMM, .80, .40
	if g.Warm {
		kc, p = .60, .50
	}
	if depth == 0 {
		depth = 150
		if g.Warm {
			depth = 220
		}
	}
	total = awc * depth / 1000
	d := .3 * total
	daily := 0.0
	if g.WeeklyWaterMM != nil {
		daily = *g.WeeklyWaterMM / 7
	}
	for _, day := range days {
		if day.TMin != nil && day.TMax != nil {
			etc := kc * ET0(*day.TMin, *day.TMax, g.Latitude, day.Date.YearDay())
			ks := 1.0
			if left := (total - d) / ((1 - p) * total); left < 1 {
				ks = math.Max(0, left)
			}
			d += etc * ks
		}
		if day.Rain != nil {
			d -= *day.Rain
		}
		if day.Irrigation != nil {
			d -= *day.Irrigation
		} else {
			d -= daily
		}
		d = math.Max(0, math.Min(total, d))
		missing = append(missing, d)
	}
	return missing, total
}
