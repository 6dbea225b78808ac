package simulation

import (
	"math"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/weather"
)

// How a year is drawn about the normals of its place (judgement): spread of the days' anomalies and how much of it lives on, the share of
// wet days and how they cluster, the mean rain of a wet day, mean humidity and what a wet day adds.
const (
	anomalySpread = 3.0 // °C
	anomalyStays  = .75
	wetShare      = .29
	wetStays      = .25
	rainMean      = 8.0  // mm
	humidMean     = 70.0 // %
	humidWet      = 12.0
	humidSpread   = 6.0
	seriesDays    = 260
	years         = 6 // drawn of each lawn: its causes choose among them
)

// year draws the days before a date at a latitude.
func year(l knowledge.Lawn, c knowledge.Chance) []weather.Day {
	place := weather.ClimateAt(l.Latitude, 0)
	out := make([]weather.Day, 0, seriesDays)
	anomaly, wet := 0.0, false
	for k := seriesDays - 1; k >= 0; k-- {
		date := l.Date.AddDate(0, 0, -k)
		lo, hi := place.Air(date)
		anomaly = anomaly*anomalyStays + c.NormFloat64()*anomalySpread*math.Sqrt(1-anomalyStays*anomalyStays)
		chance := wetShare * (1 - wetStays)
		if wet {
			chance += wetStays
		}
		wet = c.Float64() < chance
		lo, hi = lo+anomaly, hi+anomaly
		rain, rh := 0.0, humidMean+c.NormFloat64()*humidSpread
		if wet {
			rain = -rainMean * math.Log(1-c.Float64())
			rh, hi, lo = rh+humidWet, hi-1.5, lo+1
		}
		rh = math.Max(25, math.Min(99, rh))
		wind, snow := 2.0, 0.0
		if hi < 1 && len(out) > 0 {
			snow = *out[len(out)-1].Snow + rain
		}
		out = append(out, weather.Day{Date: date, TMin: &lo, TMax: &hi, Rain: &rain, RH: &rh, Wind: &wind, Snow: &snow})
	}
	return out
}

// skies draws years of the place and takes the one that fits what is wrong with the lawn: what the weather tells then comes from a climate,
// one hot spell setting all that is said of it, and not from the tables.
func (p *patient) skies(c knowledge.Chance) map[string]knowledge.Value {
	var told [years]map[string]knowledge.Value
	var fits [years]float64
	total := 0.0
	for i := range told {
		g := evidence.Gather(evidence.Case{Lawn: p.Lawn, Weather: year(p.Lawn, c)})
		told[i] = map[string]knowledge.Value{}
		for _, w := range g.Weather {
			id := w.ID
			if w.Cause != "" {
				id += ":" + w.Cause
			}
			if v, weighed := g.Values[id]; weighed {
				told[i][id] = v
			}
		}
		fits[i] = p.Fits(told[i])
		total += fits[i]
	}
	u := c.Float64() * total
	for i := range told {
		if u -= fits[i]; u < 0 {
			return told[i]
		}
	}
	return told[years-1]
}
