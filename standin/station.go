// Package standin holds small simulated stand-ins for what is outside: here the weather service. They sit behind the
// interfaces that real services would use and are labelled as simulated wherever they show.
package standin

import (
	"math"
	"math/rand/v2"
	"time"

	"hodos/core/weather"
)

// Spell bends the weather of a station for a while: a drought, a wet week, a heat wave, a frost.
type Spell struct {
	From, To   time.Time
	RainFactor float64 // multiplies rain; 0 is dry
	Warmer     float64 // °C added
	ExtraRain  float64 // mm added on every day
}

// Station makes believable daily weather for a place: a yearly course by latitude, fronts that last some days, rain in
// clusters. The same station and day always give the same weather.
type Station struct {
	Latitude float64
	Seed     int64
	Spells   []Spell
}

// epoch is where every station's chain of days begins.
var epoch = time.Date(2025, 9, 1, 0, 0, 0, 0, time.UTC)

// Normal is the long-term daily mean air temperature in °C on a day.
func (s Station) Normal(day time.Time) float64 {
	lat := math.Abs(s.Latitude)
	mean := 27 - .41*math.Max(0, lat-10)
	swing := 1.5 + .24*lat
	peak := 200.0
	if s.Latitude < 0 {
		peak = 17
		swing *= .62 // oceans temper the south
	}
	return mean + swing*math.Cos(2*math.Pi*(float64(day.YearDay())-peak)/365.25)
}

// Days gives the weather from one day to another, both included; nothing lies before 1 September 2025.
func (s Station) Days(from, to time.Time) []weather.Day {
	rng := rand.New(rand.NewPCG(uint64(s.Seed), 0x9e3779b97f4a7c15))
	var out []weather.Day
	anomaly, wet := 0.0, false
	for d := epoch; !d.After(to); d = d.AddDate(0, 0, 1) {
		anomaly = .72*anomaly + 2.3*rng.NormFloat64()
		chance := .2
		if wet {
			chance = .5
		}
		u, amount, shape, dry := rng.Float64(), rng.ExpFloat64(), rng.Float64(), rng.NormFloat64()
		wet = u < chance
		rain := 0.0
		if wet {
			rain = .5 + 7.5*amount
		}
		warmer := 0.0
		for _, sp := range s.Spells {
			if !d.Before(sp.From) && !d.After(sp.To) {
				rain = rain*sp.RainFactor + sp.ExtraRain
				warmer = sp.Warmer
			}
		}
		isWet := rain > .5
		half := 6.2 + 1.6*shape
		rh := 63 + 6*dry
		if isWet {
			half, rh = half-2.2, rh+17
		}
		mean := s.Normal(d) + anomaly + warmer
		rh = math.Max(25, math.Min(98, rh-1.2*warmer))
		wind := math.Max(.4, 2.1+.9*dry)
		if d.Before(from) {
			continue
		}
		day := weather.Day{Date: d, TMin: tenth(mean - half), TMax: tenth(mean + half), Rain: tenth(rain), RH: tenth(rh), Wind: tenth(wind), Snow: tenth(0)}
		if mean < 0 && rain > 0 {
			day.Snow = tenth(rain)
		}
		h, sun := s.hours(day)
		day.Hours, day.Solar = h, &sun
		out = append(out, day)
	}
	return out
}

// Forecast gives the days after today, with an error that grows with the lead.
func (s Station) Forecast(today time.Time, days int) []weather.Day {
	out := s.Days(today.AddDate(0, 0, 1), today.AddDate(0, 0, days))
	rng := rand.New(rand.NewPCG(uint64(s.Seed)+7, uint64(today.Unix())))
	for i := range out {
		lead := float64(i + 1)
		err := .25 * lead * rng.NormFloat64()
		out[i].TMin, out[i].TMax = tenth(*out[i].TMin+err), tenth(*out[i].TMax+err)
		out[i].Rain = tenth(math.Max(0, *out[i].Rain*(1+.12*lead*rng.NormFloat64())))
		h, sun := s.hours(out[i])
		out[i].Hours, out[i].Solar = h, &sun
	}
	return out
}

// Normals gives the normal daily means of the days after today, for the expectation of recovery.
func (s Station) Normals(after time.Time, days int) []float64 {
	out := make([]float64, days)
	for i := range out {
		out[i] = s.Normal(after.AddDate(0, 0, i+1))
	}
	return out
}

func tenth(x float64) *float64 { y := math.Round(x*10) / 10; return &y }
