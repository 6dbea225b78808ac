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
// clusters. The same station and day always give the same weather. With Spells nil it draws droughts, heat waves, wet weeks and
// cold snaps of its own, and air that turns cooler behind a front; with a list, empty or not, it has those and no others.
type Station struct {
	Latitude float64
	Seed     int64
	Spells   []Spell
}

// drawn are the spells of a station's own in the twelve months from 1 September of a year (turned in the south).
func (s Station) drawn(year int) []Spell {
	rng := rand.New(rand.NewPCG(uint64(s.Seed)*7919+uint64(year), 0xd1b54a32d192ed03))
	season := time.Date(year, time.September, 1, 0, 0, 0, 0, time.UTC) // of the north
	if s.Latitude < 0 {
		season = season.AddDate(0, -6, 0)
	}
	swing := math.Min(1, math.Abs(s.Latitude)/38)
	var out []Spell
	spell := func(earliest, latest, shortest, longest int, rain, extra, warmer float64) {
		from := season.AddDate(0, 0, earliest+rng.IntN(latest-earliest))
		out = append(out, Spell{From: from, To: from.AddDate(0, 0, shortest+rng.IntN(longest-shortest+1)), RainFactor: rain, Warmer: warmer,
			ExtraRain: extra})
	}
	const december, march, april, june, september = 91, 181, 212, 273, 365 // days after 1 September
	for range 1 + rng.IntN(3) {
		spell(december+5, march-10, 3, 7, .4, 0, -swing*(5+5*rng.Float64())) // a cold snap
	}
	if rng.Float64() < .35 {
		spell(april, april+35, 1, 3, .2, 0, -swing*(5+3*rng.Float64())) // a late frost
	}
	for range 1 + rng.IntN(3) {
		spell(march, june+60, 4, 10, 1.3, 1+2.5*rng.Float64(), -1) // a wet week
	}
	for range rng.IntN(3) {
		spell(june, september-15, 4, 9, 0, 0, 3+2.5*rng.Float64()) // a heat wave
	}
	if rng.Float64() < .45 {
		spell(june-5, september-50, 18, 45, .08, 0, 1+1.5*rng.Float64()) // a drought
	}
	return out
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
	anomaly, wet, front := 0.0, false, 0.0
	spells := s.Spells
	if spells == nil {
		for year := epoch.Year() - 1; year <= to.Year(); year++ {
			spells = append(spells, s.drawn(year)...)
		}
	}
	for d := epoch; !d.After(to); d = d.AddDate(0, 0, 1) {
		anomaly = .72*anomaly + 2.3*rng.NormFloat64()
		chance := .2
		if wet {
			chance = .5
		}
		u, amount, shape, dry := rng.Float64(), rng.ExpFloat64(), rng.Float64(), rng.NormFloat64()
		front *= .55
		if s.Spells == nil && wet && u >= chance { // the rain has passed, and behind it the air is cooler
			front = -1.5 - .5*amount
		}
		wet = u < chance
		rain := 0.0
		if wet {
			rain = .5 + 7.5*amount
		}
		warmer := 0.0
		for _, sp := range spells {
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
		mean := s.Normal(d) + anomaly + warmer + front
		rh = math.Max(25, math.Min(98, rh-1.2*warmer))
		wind := math.Max(.4, 2.1+.9*dry)
		if d.Before(from) {
			continue
		}
		day := weather.Day{Date: d, TMin: tenth(mean - half), TMax: tenth(mean + half), Rain: tenth(rain), RH: tenth(rh), Wind: tenth(wind),
			Snow: tenth(0)}
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
