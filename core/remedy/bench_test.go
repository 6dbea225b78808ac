package remedy

import (
	"testing"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/units"
	"hodos/core/weather"
)

// BenchmarkDecide decides a lawn with a year of weather, twenty findings and a few treatments.
func BenchmarkDecide(b *testing.B) {
	date := time.Date(2026, 8, 20, 0, 0, 0, 0, time.UTC)
	c := evidence.Case{Lawn: knowledge.Lawn{Date: date, Latitude: 38, Species: []string{"tall-fescue"}}, Findings: found{
		"soil-moisture": word("dry"), "footprints": word("stay"), "colour": list("straw-tan"), "pull-test": word("resists"),
		"weed-cover-percent": amount(20),
		"weed-kinds":         list("broadleaf"), "stand-density": word("thin"), "thatch-mm": amount(14),
		"past-causes": list("white-grubs", "brown-patch"),
	}}
	for k := -365; k <= 10; k++ {
		lo, hi, rain := 12.0+float64(k%7), 26.0+float64(k%5), float64(k%3)
		d := weather.Day{Date: date.AddDate(0, 0, k), TMin: &lo, TMax: &hi, Rain: &rain}
		if k <= 0 {
			c.Weather = append(c.Weather, d)
		} else {
			c.Forecast = append(c.Forecast, d)
		}
	}
	r := diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})
	b.ResetTimer()
	for range b.N {
		Decide(c, r, units.Saying{})
	}
}
