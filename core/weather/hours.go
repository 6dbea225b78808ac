package weather

import "math"

// Hours are the twenty-four hours of one local day; NaN is "not measured". A day of twenty-three or twenty-five hours is
// read onto twenty-four: the hour that is missing is NaN, the doubled one is the mean (rain: the sum).
type Hours struct {
	Temp, RH, Rain, Wind, Solar [24]float64 // °C, %, mm, m/s at 2 m, MJ/m²
}

// NoHours has nothing measured.
func NoHours() *Hours {
	h := &Hours{}
	for _, a := range []*[24]float64{&h.Temp, &h.RH, &h.Rain, &h.Wind, &h.Solar} {
		for i := range a {
			a[i] = math.NaN()
		}
	}
	return h
}

// Least is how many hours of a day must be measured before a daily value is made of them (judgement).
const Least = 20

// Daily makes the day's values of its hours, where enough of them are measured; what is measured daily already stays.
func (d Day) Daily() Day {
	if d.Hours == nil {
		return d
	}
	h := d.Hours
	if lo, hi, _, n := spread(&h.Temp); n >= Least {
		keep(&d.TMin, lo)
		keep(&d.TMax, hi)
	}
	if _, _, mean, n := spread(&h.RH); n >= Least {
		keep(&d.RH, mean)
	}
	if _, _, mean, n := spread(&h.Rain); n >= Least {
		keep(&d.Rain, mean*float64(n))
	}
	if _, _, mean, n := spread(&h.Wind); n >= Least {
		keep(&d.Wind, mean)
	}
	if _, _, mean, n := spread(&h.Solar); n >= Least {
		keep(&d.Solar, mean*24)
	}
	return d
}

func keep(into **float64, x float64) {
	if *into == nil {
		*into = &x
	}
}

func spread(a *[24]float64) (lo, hi, mean float64, n int) {
	lo, hi = math.Inf(1), math.Inf(-1)
	for _, x := range a {
		if math.IsNaN(x) {
			continue
		}
		lo, hi, mean, n = math.Min(lo, x), math.Max(hi, x), mean+x, n+1
	}
	if n > 0 {
		mean /= float64(n)
	}
	return lo, hi, mean, n
}

// Wetness is how long leaves stay wet on a day.
type Wetness struct {
	Hours     float64
	Estimated bool // from daily values, not from hours
	Known     bool
	Warm      float64 // mean temperature of the wet hours, °C; the day's mean where the hours are estimated
	Humid     float64 // hours over 90 % relative humidity; NaN without hourly humidity
}

// LeafWetness counts the hours with a relative humidity of 90 % and more, a dew-point depression of 2 °C and less, or rain
// (the usual thresholds of extension models). From daily values with measured humidity it is estimated: the hours in which
// a cosine of temperature between the extremes lies within 2 °C of the day's dew point, and four more on a day with 1 mm of
// rain (judgement); without measured humidity it is not known, because every night would look wet.
func (d Day) LeafWetness() Wetness {
	w := Wetness{Humid: math.NaN()}
	if d.Hours != nil {
		if _, _, _, n := spread(&d.Hours.RH); n >= Least {
			return d.Hours.wetness()
		}
	}
	t, ok := d.Mean()
	if !ok || d.RH == nil {
		return w
	}
	half := (*d.TMax - *d.TMin) / 2
	dew := DewPoint(*d.RH / 100 * (Saturation(*d.TMin) + Saturation(*d.TMax)) / 2)
	w.Known, w.Estimated, w.Warm = true, true, t
	if half < .1 {
		if t-dew <= 2 {
			w.Hours = 24
		}
	} else if c := (dew + 2 - t) / half; c >= 1 {
		w.Hours = 24
	} else if c > -1 {
		w.Hours = 24 * (1 - math.Acos(c)/math.Pi)
		w.Warm = (*d.TMin + math.Min(*d.TMax, dew+2)) / 2
	}
	if d.Rain != nil && *d.Rain >= 1 {
		w.Hours = math.Min(24, w.Hours+4)
	}
	return w
}

func (h *Hours) wetness() Wetness {
	w := Wetness{Known: true, Humid: 0}
	sum, n := 0.0, 0
	for i := range 24 {
		rh, t := h.RH[i], h.Temp[i]
		wet := rh >= 90 || h.Rain[i] > .1
		if rh > 90 {
			w.Humid++
		}
		if !wet && !math.IsNaN(rh) && !math.IsNaN(t) {
			wet = t-DewPoint(rh/100*Saturation(t)) <= 2
		}
		if wet {
			w.Hours++
			if !math.IsNaN(t) {
				sum, n = sum+t, n+1
			}
		}
	}
	if n > 0 {
		w.Warm = sum / float64(n)
	} else if _, _, mean, m := spread(&h.Temp); m > 0 {
		w.Warm = mean
	}
	return w
}
