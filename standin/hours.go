package standin

import (
	"math"
	"math/rand/v2"

	"hodos/core/weather"
)

// hours makes the twenty-four hours of a day that agree with its daily values: temperature from a minimum before sunrise to
// a maximum in mid-afternoon, humidity by the day's dew point, rain as an afternoon shower in summer or a front that passes,
// wind that wakes with the sun, sun by the clearness of the sky.
func (s Station) hours(d weather.Day) (*weather.Hours, float64) {
	rng := rand.New(rand.NewPCG(uint64(s.Seed)*31+5, uint64(d.Date.Unix())))
	h := weather.NoHours()
	doy := d.Date.YearDay()
	length := weather.DayLength(s.Latitude, doy)
	rise, set := 12-length/2, 12+length/2
	lo, hi := *d.TMin, *d.TMax
	coldest, warmest := rise-.5, 15.0
	span := 24 - warmest + coldest
	for i := range 24 {
		t := float64(i) + .5
		switch {
		case t < coldest: // falling since yesterday's warmth
			h.Temp[i] = lo + (hi-lo)*.5*(1+math.Cos(math.Pi*(t+24-warmest)/span))
		case t <= warmest:
			h.Temp[i] = lo + (hi-lo)*.5*(1-math.Cos(math.Pi*(t-coldest)/(warmest-coldest)))
		default:
			h.Temp[i] = lo + (hi-lo)*.5*(1+math.Cos(math.Pi*(t-warmest)/span))
		}
	}
	dew := *d.RH / 100 * (weather.Saturation(lo) + weather.Saturation(hi)) / 2
	clear := .72 + .06*rng.Float64()
	rain := *d.Rain
	if rain > .5 {
		clear = .3 + .15*rng.Float64()
	}
	total := clear * weather.Ra(s.Latitude, doy)
	norm := 0.0
	for i := range 24 {
		if t := float64(i) + .5; t > rise && t < set {
			h.Solar[i] = math.Sin(math.Pi * (t - rise) / length)
			norm += h.Solar[i]
		} else {
			h.Solar[i] = 0
		}
	}
	for i := range 24 {
		h.RH[i] = math.Max(8, math.Min(100, 100*dew/weather.Saturation(h.Temp[i])))
		h.Rain[i] = 0
		breeze := .55
		if h.Solar[i] > 0 {
			breeze = .75 + .75*h.Solar[i]
		}
		h.Wind[i] = math.Max(0, *d.Wind*breeze*(.85+.3*rng.Float64()))
		if norm > 0 {
			h.Solar[i] *= total / norm
		}
	}
	if rain > 0 {
		first, last := rng.IntN(16), 0
		if hi > 25 { // a shower
			first = 13 + rng.IntN(6)
			last = first + 1 + rng.IntN(3)
		} else { // a front
			last = first + 4 + rng.IntN(8)
		}
		last = min(last, 23)
		weight := make([]float64, 0, 24)
		sum := 0.0
		for i := first; i <= last; i++ {
			w := .2 + rng.ExpFloat64()
			weight, sum = append(weight, w), sum+w
		}
		for k, w := range weight {
			h.Rain[first+k] = rain * w / sum
			h.RH[first+k] = math.Max(h.RH[first+k], 92)
		}
	}
	for _, a := range []*[24]float64{&h.Temp, &h.RH, &h.Rain, &h.Wind, &h.Solar} {
		for i := range a {
			a[i] = math.Round(a[i]*100) / 100
		}
	}
	return h, math.Round(total*100) / 100
}
