package weather

import "math"

// Formulas of FAO Irrigation and Drainage Paper 56 (Allen, Pereira, Raes and Smith 1998), by the numbers of its equations.
// Temperatures are in °C, pressures and vapour pressures in kPa, radiation in MJ/(m² day), wind in m/s at 2 m.

// Pressure of the air at an elevation in m (equation 7), kPa.
func Pressure(elevation float64) float64 {
	return 101.3 * math.Pow((293-.0065*elevation)/293, 5.26)
}

// Psychrometric constant at a pressure in kPa (equation 8), kPa/°C.
func Psychrometric(pressure float64) float64 { return .665e-3 * pressure }

// Saturation vapour pressure at a temperature in °C (equation 11), kPa.
func Saturation(t float64) float64 { return .6108 * math.Exp(17.27*t/(t+237.3)) }

// DewPoint is the temperature at which a vapour pressure in kPa saturates the air (equation 11 turned), °C; it is −40 for
// air without vapour.
func DewPoint(vapour float64) float64 {
	if !(vapour > 1e-4) {
		return -40
	}
	x := math.Log(vapour / .6108)
	return 237.3 * x / (17.27 - x)
}

// slopeOf the saturation curve at a temperature (equation 13), kPa/°C.
func slopeOf(t float64) float64 { return 4098 * Saturation(t) / ((t + 237.3) * (t + 237.3)) }

// WindAt2 turns a wind measured at a height in m into that at 2 m over short grass (equation 47). Heights under 0.5 m are
// taken as 2 m.
func WindAt2(wind, height float64) float64 {
	if height < .5 || height == 2 {
		return wind
	}
	return wind * 4.87 / math.Log(67.8*height-5.42)
}

// DayLength in hours for a latitude in degrees and a day of the year (equation 34): 0 in the polar night, 24 in the polar day.
func DayLength(latitude float64, dayOfYear int) float64 {
	phi := latitude * math.Pi / 180
	delta := .409 * math.Sin(2*math.Pi*float64(dayOfYear)/365-1.39)
	return 24 / math.Pi * math.Acos(math.Max(-1, math.Min(1, -math.Tan(phi)*math.Tan(delta))))
}

// SolarFromSunshine is solar radiation from hours of bright sunshine (equation 35 with a = 0.25 and b = 0.50).
func SolarFromSunshine(ra, sunshine, dayLength float64) float64 {
	if dayLength <= 0 {
		return 0
	}
	return (.25 + .5*math.Min(1, sunshine/dayLength)) * ra
}

// SolarFromRange is solar radiation from the daily range of temperature (equation 50, Hargreaves), with 0.16 inland and
// 0.19 at the coast.
func SolarFromRange(ra, tmin, tmax float64, coast bool) float64 {
	k := .16
	if coast {
		k = .19
	}
	return math.Min(k*math.Sqrt(math.Max(0, tmax-tmin))*ra, .75*ra)
}

// ClearSky is solar radiation under a clear sky (equation 37).
func ClearSky(ra, elevation float64) float64 { return (.75 + 2e-5*elevation) * ra }

// NetLongwave radiation leaving the ground (equation 39), from the day's extremes, vapour pressure, solar and clear-sky
// radiation. The relative radiation is held to 0.3 to 1.
func NetLongwave(tmin, tmax, vapour, solar, clear float64) float64 {
	const sigma = 4.903e-9
	k4 := func(t float64) float64 { k := t + 273.16; return k * k * k * k }
	relative := 1.0
	if clear > 0 {
		relative = math.Max(.3, math.Min(1, solar/clear))
	}
	return sigma * (k4(tmin) + k4(tmax)) / 2 * (.34 - .14*math.Sqrt(math.Max(0, vapour))) * (1.35*relative - .35)
}

// PenmanMonteith is reference evapotranspiration in mm/day (equation 6) from the day's extremes, net radiation, soil heat
// flux, wind at 2 m, vapour pressure and the air's pressure. It is never below 0.
func PenmanMonteith(tmin, tmax, net, soilHeat, wind, vapour, pressure float64) float64 {
	t := (tmin + tmax) / 2
	es := (Saturation(tmin) + Saturation(tmax)) / 2
	delta, gamma := slopeOf(t), Psychrometric(pressure)
	return math.Max(0, (.408*delta*(net-soilHeat)+gamma*900/(t+273)*wind*math.Max(0, es-vapour))/(delta+gamma*(1+.34*wind)))
}

// Evaporation is a day's reference evapotranspiration with how it was come by.
type Evaporation struct {
	MM       float64
	Method   string   // "Penman–Monteith" or "Hargreaves"
	Assumed  []string // what was not measured: "humidity from the minimum", "radiation from the range", "wind of 2 m/s"
	Possible bool     // false without temperatures: MM is then no value
}

// Evaporate computes a day's reference evapotranspiration at a latitude in degrees and an elevation in m, with the fallbacks
// of FAO-56: radiation from the range of temperature, dew point from the minimum (2 °C less in dry places, of which a mean
// relative humidity is not known), wind of 2 m/s. With temperatures alone it is Hargreaves and Samani. Humidity that was
// assumed here serves evaporation only; no disease index may use it.
func Evaporate(d Day, latitude, elevation float64) Evaporation {
	if d.TMin == nil || d.TMax == nil {
		return Evaporation{}
	}
	tmin, tmax := math.Min(*d.TMin, *d.TMax), math.Max(*d.TMin, *d.TMax)
	doy := d.Date.YearDay()
	if d.RH == nil && d.Wind == nil && d.Solar == nil {
		return Evaporation{MM: ET0(tmin, tmax, latitude, doy), Method: "Hargreaves", Possible: true}
	}
	out := Evaporation{Method: "Penman–Monteith", Possible: true}
	ra := Ra(latitude, doy)
	solar := 0.0
	if d.Solar != nil {
		solar = *d.Solar
	} else {
		solar = SolarFromRange(ra, tmin, tmax, false)
		out.Assumed = append(out.Assumed, "radiation from the range")
	}
	var vapour float64
	if d.RH != nil {
		vapour = *d.RH / 100 * (Saturation(tmin) + Saturation(tmax)) / 2
	} else {
		vapour = Saturation(tmin)
		out.Assumed = append(out.Assumed, "humidity from the minimum")
	}
	wind := 2.0
	if d.Wind != nil {
		wind = *d.Wind
	} else {
		out.Assumed = append(out.Assumed, "wind of 2 m/s")
	}
	net := .77*solar - NetLongwave(tmin, tmax, vapour, solar, ClearSky(ra, elevation))
	out.MM = PenmanMonteith(tmin, tmax, net, 0, wind, vapour, Pressure(elevation))
	return out
}
