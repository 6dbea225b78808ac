package sky

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/soil"
	"hodos/core/weather"
)

// falling is an autumn whose maxima fall by a tenth of a degree a day from 33 °C on the first of August.
func falling(n int, first time.Time) []weather.Day {
	out := make([]weather.Day, n)
	for i := range out {
		hi := 33 - .15*float64(i)
		lo := hi - 12
		rain := 2.0
		out[i] = weather.Day{Date: first.AddDate(0, 0, i), TMin: &lo, TMax: &hi, Rain: &rain}
	}
	return out
}

func firstOn(b Band) int {
	for i, x := range b.Strength {
		if x == 1 {
			return i
		}
	}
	return -1
}

func TestAutumnFeedingOpens(t *testing.T) {
	days := falling(150, time.Date(2026, 8, 1, 0, 0, 0, 0, time.UTC))
	s := Of(days, nil, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[149].Date})
	b, _ := s.Band("autumn-feeding")
	at := firstOn(b)
	// the mean of the ten maxima about a day, five back and five ahead: 33 − 0.15 (i + 0.5) ≤ 27 from i = 39.5 on
	require.Equal(t, 40, at)
	require.True(t, math.IsNaN(b.Strength[8]), "ten days are needed")
	require.Zero(t, b.Strength[149], "late in December it is over")
	last := 0
	for i, x := range b.Strength {
		if x == 1 {
			require.True(t, last == 0 || last == i-1, "it opens once")
			last = i
		}
	}
	require.GreaterOrEqual(t, s.Points[last].SoilMean, FeedingEnds, "it ends where roots take nothing up")

	// a cool week that passes does not open it
	for i := 20; i < 32; i++ {
		hi, lo := 24.0, 12.0
		days[i].TMax, days[i].TMin = &hi, &lo
	}
	for i := 32; i < 44; i++ {
		hi, lo := 34.0, 20.0
		days[i].TMax, days[i].TMin = &hi, &lo
	}
	s = Of(days[:24], days[24:40], Ground{Zone: soil.Zone{Latitude: 38}, Date: days[23].Date})
	b, _ = s.Band("autumn-feeding")
	for i := range 24 {
		require.NotEqual(t, 1., b.Strength[i], "day %d", i)
	}

	// the south has its autumn half a year later, warm-season turf none
	south := falling(100, time.Date(2026, 2, 1, 0, 0, 0, 0, time.UTC))
	s = Of(south, nil, Ground{Zone: soil.Zone{Latitude: -38}, Date: south[99].Date})
	b, _ = s.Band("autumn-feeding")
	require.Positive(t, firstOn(b))
	s = Of(days, nil, Ground{Zone: soil.Zone{Latitude: 38, Warm: true}, Date: days[149].Date})
	b, _ = s.Band("autumn-feeding")
	require.Equal(t, -1, firstOn(b))
}

func TestRegulatorWearsOff(t *testing.T) {
	days := series(40, 15, 25, 0, nil) // 20 °C·d a day: ten days
	g := Ground{Zone: soil.Zone{Latitude: 38}, Date: days[39].Date, Regulated: days[12].Date}
	s := Of(days, nil, g)
	b, ok := s.Band("regulator-worn-off")
	require.True(t, ok)
	require.Equal(t, 21, firstOn(b), "the tenth day after and with the application")
	require.Zero(t, b.Strength[35], "two weeks later it is old news")
	g.Regulated = time.Time{}
	s = Of(days, nil, g)
	b, _ = s.Band("regulator-worn-off")
	require.Equal(t, -1, firstOn(b))
}

// calm is a day fit for spraying at every hour of light.
func calm(date time.Time) weather.Day {
	h := weather.NoHours()
	for k := range 24 {
		h.Temp[k], h.RH[k], h.Rain[k], h.Wind[k] = 20, 60, 0, 2
	}
	return weather.Day{Date: date, Hours: h}
}

func TestSprayHours(t *testing.T) {
	d0 := time.Date(2026, 6, 21, 0, 0, 0, 0, time.UTC)
	a, b := calm(d0), calm(d0.AddDate(0, 0, 1))
	got := SprayHours([]weather.Day{a, b}, 38)
	require.Equal(t, []Spell{{d0, 4, 20}, {b.Date, 4, 20}}, got, "from first to last light at midsummer")

	a.Hours.Rain[15] = 3 // rain at three: nothing from eleven on
	require.Equal(t, Spell{d0, 4, 11}, SprayHours([]weather.Day{a}, 38)[0])
	a = calm(d0)
	b.Hours.Rain[0] = 2 // rain past midnight
	require.Equal(t, []Spell{{d0, 4, 20}}, SprayHours([]weather.Day{a, b}, 38)[:1])
	b.Hours.Rain[0] = 0
	for k := range 24 {
		a.Hours.Wind[k] = 6
	}
	a.Hours.Wind[8], a.Hours.Wind[9], a.Hours.Wind[14] = 3, 3, 3
	require.Equal(t, []Spell{{d0, 8, 10}}, SprayHours([]weather.Day{a}, 38), "one hour alone is not worth setting out for")
	a.Hours.Wind[8], a.Hours.Wind[9] = .5, math.NaN()
	require.Empty(t, SprayHours([]weather.Day{a}, 38), "still air and an unknown hour are not fit")
	hot := calm(d0)
	for k := 10; k < 24; k++ {
		hot.Hours.Temp[k] = 31
	}
	require.Equal(t, []Spell{{d0, 4, 10}}, SprayHours([]weather.Day{hot}, 38))
	require.Empty(t, SprayHours([]weather.Day{{Date: d0}}, 38), "a day without hours gives none")

	// where the sun is measured it says when it is light, whatever the clock
	sunny := calm(d0)
	for k := range 24 {
		sunny.Hours.Solar[k] = 0
	}
	for k := 7; k < 18; k++ {
		sunny.Hours.Solar[k] = 1
	}
	sunny.Hours.Solar[6] = .05
	require.Equal(t, []Spell{{d0, 7, 18}}, SprayHours([]weather.Day{sunny}, 38))
}
