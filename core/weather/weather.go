// Package weather holds the formulas of sun, evaporation, soil temperature, wet leaves, degree days and disease weather, each
// with its source, its units and what happens in a gap. What they say of one lawn is put together in package sky.
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
	Hours      *Hours   // the same day hour by hour; nil where only daily values are known
}

// Mean is the mean of the day's extremes; ok is false when one is missing.
func (d Day) Mean() (mean float64, ok bool) {
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

// Sort orders days by date; the reader of a case requires it, a store may not.
func Sort(days []Day) {
	sort.Slice(days, func(a, b int) bool { return days[a].Date.Before(days[b].Date) })
}

func avg(xs []float64) float64 {
	s := 0.0
	for _, x := range xs {
		s += x
	}
	return s / float64(len(xs))
}
