package sky

import (
	"math"
	"time"

	"hodos/core/weather"
)

// What an hour must be to be fit for spraying: a light wind that is not still, no rain then nor in the hours after, no heat,
// daylight (extension practice and common label limits; the label goes before).
const (
	SprayCalm  = 1.3  // m/s at 2 m (3 mph): below it fine drops hang in the air
	SprayWind  = 4.5  // m/s at 2 m (10 mph)
	SprayHeat  = 29.4 // °C (85 °F)
	SprayCold  = 5.0  // °C: under it hardly anything is taken up
	SprayDamp  = 95.0 // % humidity: leaves are wet (dew)
	dayRain    = 1.0  // mm on a day of which the hours are not known
	SprayRain  = .2   // mm in the hour or in those after it
	SprayDry   = 4    // hours that must stay dry afterwards
	sprayLeast = 2    // hours that are worth setting out for (judgement)
)

// SprayFitness says whether a day may be fit for spraying, and what stands against it.
type SprayFitness string

// What a day may be.
const (
	SprayFit     SprayFitness = "fit"
	SprayWet     SprayFitness = "rain"
	SprayWindy   SprayFitness = "wind" // too much, or too still
	SprayHot     SprayFitness = "heat"
	SprayChilly  SprayFitness = "cold"
	SprayUnknown SprayFitness = "unknown"
)

// SprayDay judges a day by its daily values alone: one of them missing is "unknown", never "fit".
func SprayDay(d weather.Day) SprayFitness {
	switch {
	case d.Rain != nil && *d.Rain >= dayRain:
		return SprayWet
	case d.Wind != nil && (*d.Wind > SprayWind || *d.Wind < SprayCalm):
		return SprayWindy
	case d.TMax != nil && *d.TMax >= SprayHeat:
		return SprayHot
	case d.TMax != nil && *d.TMax <= SprayCold:
		return SprayChilly
	case d.Rain == nil || d.Wind == nil || d.TMax == nil:
		return SprayUnknown
	}
	return SprayFit
}

// Spell is a stretch of hours on one day, from the full hour From up to To, local clock time.
type Spell struct {
	Date     time.Time
	From, To int
}

// dusk is the sun of an hour under which it is too dark to work, MJ/m² (judgement: a twentieth of a clear noon).
const dusk = .1

// SprayHours finds the stretches of daylight fit for spraying in days that have hours; days without them give none, and an
// hour without wind, rain or temperature is not fit. Daylight is an hour with measured sun; where none was measured, the day's
// length about noon of the clock, which may be an hour or two off. latitude is in degrees, south negative.
func SprayHours(days []weather.Day, latitude float64) []Spell {
	var out []Spell
	for i, d := range days {
		if d.Hours == nil {
			continue
		}
		length := weather.DayLength(latitude, d.Date.YearDay())
		rise, set := 12-length/2, 12+length/2
		var next *weather.Hours
		if i+1 < len(days) && days[i+1].Date.Equal(d.Date.AddDate(0, 0, 1)) {
			next = days[i+1].Hours
		}
		from := -1
		for h := range 25 {
			fit := h < 24 && light(d.Hours, h, rise, set) && sprayHour(d.Hours, next, h)
			switch {
			case fit && from < 0:
				from = h
			case !fit && from >= 0:
				if h-from >= sprayLeast {
					out = append(out, Spell{d.Date, from, h})
				}
				from = -1
			}
		}
	}
	return out
}

func light(d *weather.Hours, h int, rise, set float64) bool {
	if sun := d.Solar[h]; !math.IsNaN(sun) {
		return sun >= dusk
	}
	return float64(h) >= math.Floor(rise) && float64(h+1) <= math.Ceil(set)
}

func sprayHour(d, next *weather.Hours, h int) bool {
	w, t := d.Wind[h], d.Temp[h]
	if !(w >= SprayCalm && w <= SprayWind && t < SprayHeat && t > SprayCold) || d.RH[h] >= SprayDamp {
		return false
	}
	for k := h; k <= h+SprayDry; k++ {
		rain := 0.0 // past the last evening of the series nothing is known of the night
		switch {
		case k < 24:
			rain = d.Rain[k]
		case next != nil:
			rain = next.Rain[k-24]
		}
		if !(rain < SprayRain) {
			return false
		}
	}
	return true
}
