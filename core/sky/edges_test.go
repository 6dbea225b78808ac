package sky

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/soil"
	"hodos/core/units"
	"hodos/core/weather"
)

func from(first time.Time, n int, of func(i int) (lo, hi float64)) []weather.Day {
	out := make([]weather.Day, n)
	for i := range out {
		lo, hi := of(i)
		rain := 2.0
		out[i] = weather.Day{Date: first.AddDate(0, 0, i), TMin: &lo, TMax: &hi, Rain: &rain}
	}
	return out
}

// Snow of five centimetres keeps the crowns from the cold.
func TestSnowProtectsTheCrowns(t *testing.T) {
	for snow, want := range map[float64]string{0: "past-limit", 4.9: "past-limit", 5: "none", 30: "none"} {
		winter := from(time.Date(2025, 10, 24, 0, 0, 0, 0, time.UTC), 120, func(i int) (float64, float64) {
			if i == 80 {
				return -26, -12
			}
			return -4, 4
		})
		winter[80].Snow = &snow
		out, _ := Findings(winter, nil, Ground{Zone: soil.Zone{Latitude: 44}, ColdLimit: -22, Date: winter[119].Date})
		w, ok := at(out, "deep-cold", "")
		require.True(t, ok)
		require.Equal(t, want, w, "%g cm of snow", snow)
	}
}

// Warm-season turf greens up over weeks in warm soil, not in two warm days.
func TestGreenUpTakesWeeks(t *testing.T) {
	for warm, want := range map[int]string{0: "dormant", 5: "dormant", 8: "beginning", 16: "beginning", 27: "under-way", 36: "complete"} {
		spring := from(time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC), 110, func(i int) (float64, float64) {
			if i >= 110-warm {
				return 20, 34
			}
			return 2, 10
		})
		s := Of(spring, nil, Ground{Zone: soil.Zone{Latitude: 33, Warm: true}, Date: spring[109].Date})
		begun, well := 0, 0
		for _, p := range s.Points[len(s.Points)-45:] {
			if p.SoilMean >= 16 {
				begun++
			}
			if p.SoilMean >= 20 {
				well++
			}
		}
		w, ok := at(s.Findings, "green-up-progress", "")
		require.True(t, ok)
		require.Equal(t, want, w, "%d warm days: %d at 16 °C, %d at 20 °C", warm, begun, well)
	}
}

// A season of an insect is open for two months after its window, not for a year.
func TestInsectSeasonsClose(t *testing.T) {
	days := from(time.Date(2025, 1, 1, 0, 0, 0, 0, time.UTC), 420, func(i int) (float64, float64) {
		if d := i % 365; d > 120 && d < 270 {
			return 16, 28
		}
		return -2, 6
	})
	seen := map[string][]int{}
	for n := 130; n <= 420; n += 3 {
		out, _ := Findings(days[:n], nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[n-1].Date})
		if w, ok := at(out, "insect-window", "white-grubs"); ok {
			seen[w] = append(seen[w], n)
		}
	}
	for _, w := range []string{"closed", "opening", "open", "closing"} {
		require.NotEmpty(t, seen[w], "%s: %v", w, seen)
	}
	require.LessOrEqual(t, seen["opening"][len(seen["opening"])-1]-seen["opening"][0], 14)
	require.Less(t, seen["closing"][len(seen["closing"])-1]-seen["opening"][0], 170, "closed again within the year: %v", seen)
	require.LessOrEqual(t, seen["closing"][len(seen["closing"])-1]-seen["closing"][0], 21)
	require.Equal(t, 418, seen["closed"][len(seen["closed"])-1], "and closed in the winter after")
}

func TestADayFitForSpraying(t *testing.T) {
	x := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		name           string
		rain, wind, hi *float64
		want           SprayFitness
	}{
		{"a fine day", x(0), x(2.5), x(22), SprayFit},
		{"the least wind", x(0), x(1.3), x(22), SprayFit}, {"still", x(0), x(1.29), x(22), SprayWindy},
		{"the most wind", x(0), x(4.5), x(22), SprayFit}, {"windy", x(0), x(4.51), x(22), SprayWindy},
		{"just not too hot", x(0), x(2.5), x(29.39), SprayFit}, {"too hot", x(0), x(2.5), x(29.4), SprayHot},
		{"just not too cold", x(0), x(2.5), x(5.01), SprayFit}, {"too cold", x(0), x(2.5), x(5), SprayChilly},
		{"a drop", x(dayRain - .01), x(2.5), x(22), SprayFit}, {"rain", x(dayRain), x(2.5), x(22), SprayWet},
		{"rain and heat", x(9), x(2.5), x(33), SprayWet}, {"nobody measured the wind", x(0), nil, x(22), SprayUnknown},
		{"nobody measured the rain", nil, x(2.5), x(22), SprayUnknown}, {"hot, and no wind known", x(0), nil, x(33), SprayHot},
		{"nothing known", nil, nil, nil, SprayUnknown},
	} {
		require.Equal(t, c.want, SprayDay(weather.Day{Rain: c.rain, Wind: c.wind, TMax: c.hi}), c.name)
	}
}

// While it still warms up in late summer the autumn feeding is not open, whatever a cool day says.
func TestNoAutumnFeedingWhileItWarms(t *testing.T) {
	rising := from(time.Date(2026, 5, 1, 0, 0, 0, 0, time.UTC), 60, func(i int) (float64, float64) {
		return 8 + .1*float64(i),
			18 + .15*float64(i)
	})
	s := Of(rising, nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: rising[59].Date})
	b, _ := s.Band("autumn-feeding")
	require.Equal(t, -1, firstOn(b), "cool, but it is spring")
}

// Limits of the heat index in the shade, for people in full sun: it feels eight degrees hotter there.
func TestWhatTheHeatAsksOfTheCrew(t *testing.T) {
	for index, want := range map[float64]Crew{
		18.9: CrewFine, 19: CrewWater, 23.9: CrewWater, 24: CrewBreaks, 30.9: CrewBreaks, 31: CrewEarly, 37.9: CrewEarly, 38: CrewStop,
	} {
		require.Equal(t, want, CrewHeat(index), "%g °C", index)
	}
	said := func(hi, rh float64) (out string) {
		days := from(time.Date(2026, 7, 1, 0, 0, 0, 0, time.UTC), 20, func(int) (float64, float64) { return 18, 26 })
		next := from(time.Date(2026, 7, 21, 0, 0, 0, 0, time.UTC), 5, func(int) (float64, float64) { return 15, hi })
		for i := range next {
			next[i].RH = &rh
		}
		s := Of(days, next, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[19].Date})
		for _, x := range s.Sentences(func(id string) string { return id }, units.Saying{}) {
			if strings.HasPrefix(x.Text, "Heat index") {
				out = x.Text
			}
		}
		return out
	}
	require.Empty(t, said(21, 60), "a mild week needs no word")
	require.Contains(t, said(28, 60), "fixed breaks")
	require.Contains(t, said(33, 60), "early hours only")
	require.Contains(t, said(41, 75), "no work in the sun")
}

// What died in a drought of last month does not come back with the rain: the worst of sixty days counts, and no longer.
func TestTheWorstOfSixtyDaysOfDrought(t *testing.T) {
	used := func(since int) float64 {
		n := 200
		days := from(time.Date(2026, 4, 1, 0, 0, 0, 0, time.UTC), n, func(int) (float64, float64) { return 17, 31 })
		for i := range days {
			rain := 0.0
			if i < 60 || i >= n-since {
				rain = 12
			}
			days[i].Rain = &rain
		}
		s := Of(days, nil, Ground{Zone: soil.Zone{Latitude: 40, Texture: "sand"}, EnduranceWeeks: 5, Date: days[n-1].Date})
		for _, f := range s.Findings {
			if f.Finding == "drought-endurance-used" {
				return *f.Number
			}
		}
		return -1
	}
	worst := used(0)
	require.Greater(t, worst, 1.5)
	for _, since := range []int{20, 40} {
		require.Greater(t, used(since), worst-float64(since)/35-.3, "%d days of rain later it is still that of the drought", since)
		require.Greater(t, used(since), .5)
	}
	require.Zero(t, used(75), "more than sixty days ago")
}
