package sky

import (
	"math"
	"testing"
	"time"

	"hodos/core/soil"
	"hodos/core/units"
	"hodos/core/weather"
)

// hourly is a year and a forecast, hour by hour.
func hourly(days int) []weather.Day {
	out := make([]weather.Day, days)
	for i := range out {
		h := weather.NoHours()
		for k := range 24 {
			h.Temp[k] = 14 + 11*math.Sin(2*math.Pi*float64(i-110)/365) + 6*math.Sin(2*math.Pi*float64(k-9)/24)
			h.RH[k], h.Wind[k], h.Solar[k], h.Rain[k] = 70-20*math.Sin(2*math.Pi*float64(k-9)/24), 2,
				math.Max(0, 2*math.Sin(2*math.Pi*float64(k-6)/24)), 0
		}
		if i%5 == 0 {
			h.Rain[16] = 8
		}
		out[i] = weather.Day{Date: time.Date(2025, 9, 1+i, 0, 0, 0, 0, time.UTC), Hours: h}
	}
	return out
}

// BenchmarkAYearOfHours runs a year of hourly data through every model.
func BenchmarkAYearOfHours(b *testing.B) {
	year := hourly(375)
	g := Ground{Zone: soil.Zone{Latitude: 38, Texture: "clay-loam"}, Date: year[364].Date, EnduranceWeeks: 5}
	b.ReportAllocs()
	for b.Loop() {
		s := Of(year[:365], year[365:], g)
		s.Sentences(func(id string) string { return id }, units.Saying{})
	}
}
