package watch_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/units"
	"hodos/core/watch"
	"hodos/core/weather"
)

func date(m time.Month, d int) time.Time { return time.Date(2026, m, d, 0, 0, 0, 0, time.UTC) }

// weatherOf makes days up to and with the last, each as f has it by its distance from the last (0 today, positive ahead).
func weatherOf(last time.Time, n, ahead int, f func(k int) (lo, hi, rain, rh float64)) (past, forecast []weather.Day) {
	for k := -n + 1; k <= ahead; k++ {
		lo, hi, rain, rh := f(k)
		wind := 2.0
		d := weather.Day{Date: last.AddDate(0, 0, k), TMin: &lo, TMax: &hi, Rain: &rain, RH: &rh, Wind: &wind}
		if k > 0 {
			forecast = append(forecast, d)
		} else {
			past = append(past, d)
		}
	}
	return past, forecast
}

func zone(species string, today time.Time, irrigated bool, past, forecast []weather.Day) watch.Zone {
	return watch.Zone{Case: evidence.Case{Lawn: knowledge.Lawn{Date: today, Latitude: 38, Species: []string{species}, Texture: "loam",
		Irrigated: &irrigated}, Weather: past, Forecast: forecast, Findings: map[string]knowledge.Value{}}, Had: map[string]bool{}}
}

func look(z watch.Zone) map[string]watch.Notice {
	out := map[string]watch.Notice{}
	for _, n := range watch.Notices(z, units.In("metric")) {
		out[n.Kind+" "+n.Subject] = n
	}
	return out
}

func TestDiseaseWeatherOpens(t *testing.T) {
	today := date(time.June, 20)
	muggy := func(from int) func(int) (float64, float64, float64, float64) {
		return func(k int) (float64, float64, float64, float64) {
			if k >= from {
				return 19, 27, 4, 90
			}
			return 10, 22, 3, 55
		}
	}
	past, ahead := weatherOf(today, 120, 6, muggy(-6))
	n, ok := look(zone("perennial-ryegrass", today, true, past, ahead))["window dollar-spot"]
	require.True(t, ok)
	require.Equal(t, watch.Note, n.Level)
	require.False(t, n.Ahead)
	require.False(t, n.Since.After(today))
	require.True(t, n.Since.After(today.AddDate(0, 0, -6)))
	require.Contains(t, n.Detail, "over 20 %")

	z := zone("perennial-ryegrass", today, true, past, ahead)
	z.Had["dollar-spot"] = true
	require.Equal(t, watch.Act, look(z)["window dollar-spot"].Level, "where it was before it is urgent")

	past, ahead = weatherOf(today, 120, 6, muggy(0))
	n, ok = look(zone("perennial-ryegrass", today, true, past, ahead))["window brown-patch"]
	require.True(t, ok, "two more ripe days by the forecast open it")
	require.True(t, n.Ahead)
	require.Equal(t, today.AddDate(0, 0, 2), n.Since)

	past, ahead = weatherOf(today, 120, 6, muggy(99))
	for key := range look(zone("perennial-ryegrass", today, true, past, ahead)) {
		require.NotContains(t, key, "dollar-spot")
		require.NotContains(t, key, "brown-patch")
	}
	past, ahead = weatherOf(today, 120, 6, muggy(-6))
	_, ok = look(zone("hybrid-bermudagrass", today, true, past, ahead))["window pink-snow-mold"]
	require.False(t, ok)
	// the slow ones of the roots are told only where they have been
	past, ahead = weatherOf(today, 120, 6, muggy(-20))
	_, ok = look(zone("kentucky-bluegrass", today, true, past, ahead))["window summer-patch"]
	require.False(t, ok)
	z = zone("kentucky-bluegrass", today, true, past, ahead)
	z.Had["summer-patch"] = true
	_, ok = look(z)["window summer-patch"]
	require.False(t, ok, "where they have been, the season of their preventive is told instead")
}

// The watch tells of preventives from the same rows as the plan: history alone, by soil and season.
func TestPreventivesOfWhatIsOnRecord(t *testing.T) {
	may := date(time.May, 20)
	past, ahead := weatherOf(may, 200, 8, func(k int) (float64, float64, float64, float64) {
		mean := 19 + .15*float64(k)
		return mean - 6, mean + 6, 2, 70
	})
	z := zone("kentucky-bluegrass", may, false, past, ahead)
	for key := range look(z) {
		require.NotContains(t, key, "prevent", "nothing is on record")
	}
	z.Had["summer-patch"] = true
	n, ok := look(z)["prevent summer-patch"]
	require.True(t, ok)
	require.Equal(t, watch.Act, n.Level)
	require.Contains(t, n.Detail, "late spring")
	treated := z
	treated.Case.Treatments = []evidence.Treatment{{Date: may.AddDate(0, 0, -3), Action: "fungicide-preventive"}}
	_, ok = look(treated)["prevent summer-patch"]
	require.False(t, ok, "it was given three days ago")
	_, ok = look(zone("tall-fescue", date(time.December, 20), false, past, ahead))["prevent summer-patch"]
	require.False(t, ok)
}

func TestHeatSinceItBegan(t *testing.T) {
	today := date(time.July, 20)
	hot := func(from, cooler int) watch.Zone {
		past, ahead := weatherOf(today, 60, 6, func(k int) (float64, float64, float64, float64) {
			if k >= from && k != cooler {
				return 23, 37, 0, 50
			}
			return 14, 22, 4, 60
		})
		return zone("tall-fescue", today, true, past, ahead)
	}
	n, ok := look(hot(2, 99))["window heat"]
	require.True(t, ok)
	require.True(t, n.Ahead)
	require.Equal(t, today.AddDate(0, 0, 2), n.Since)
	require.Contains(t, n.Detail, "3 of 5 days up to 37 °C")
	n = look(hot(-9, -4))["window heat"]
	require.False(t, n.Ahead)
	require.Equal(t, today.AddDate(0, 0, -9), n.Since, "one cooler day does not end the spell")
	_, ok = look(hot(3, 99))["window heat"]
	require.False(t, ok, "two hot days are summer")
	z := hot(-9, 99)
	z.Case.Lawn.Species = []string{"zoysiagrass"}
	_, ok = look(z)["window heat"]
	require.False(t, ok, "warm-season turf likes it")
}

func TestASilentStationIsTold(t *testing.T) {
	today := date(time.June, 20)
	past, ahead := weatherOf(today, 120, 6, func(int) (float64, float64, float64, float64) { return 19, 27, 4, 90 })
	z := zone("perennial-ryegrass", today, true, past[:len(past)-3], nil)
	_, ok := look(z)["silent "]
	require.False(t, ok, "a weekend without data is no silence")
	z = zone("perennial-ryegrass", today, true, past[:len(past)-4], ahead)
	got := look(z)
	require.Len(t, got, 1, "nothing else is said from old weather")
	require.Contains(t, got["silent "].Detail, "16 June")
	require.Equal(t, date(time.June, 17), got["silent "].Since)
	require.Empty(t, look(zone("perennial-ryegrass", today, true, nil, nil)), "a site that never had weather is not silent")
}

func TestMildewIsOfTheShade(t *testing.T) {
	today := date(time.September, 20)
	past, ahead := weatherOf(today, 60, 5, func(int) (float64, float64, float64, float64) { return 14, 22, 1, 80 })
	z := zone("kentucky-bluegrass", today, true, past, ahead)
	_, ok := look(z)["window powdery-mildew"]
	require.False(t, ok, "nobody said that it lies in the shade")
	z.Case.Findings["sun-hours"] = knowledge.NumberValue(3)
	_, ok = look(z)["window powdery-mildew"]
	require.True(t, ok)
}

func TestEnduranceRunsOut(t *testing.T) {
	today := date(time.August, 10)
	dry := func(days int) watch.Zone {
		past, ahead := weatherOf(today, 120, 6, func(k int) (float64, float64, float64, float64) {
			if k < -days {
				return 14, 24, 9, 60
			}
			return 19, 34, 0, 45
		})
		return zone("perennial-ryegrass", today, false, past, ahead)
	}
	_, ok := look(dry(4))["endurance "]
	require.False(t, ok)
	n, ok := look(dry(14))["endurance "]
	require.True(t, ok, "two to three weeks is what ryegrass stands")
	require.Equal(t, watch.Note, n.Level)
	require.Contains(t, n.Detail, "Survival water")
	require.True(t, n.On.After(today))
	for _, c := range []struct{ age, policy, want string }{
		{"", "keep-green", "water it deeply"}, {"first-year", "let-rest", "too young to rest"}, {"new-seed", "", "too young to rest"},
		{"established", "one-area", "the part that is to stay green"}, {"established", "let-rest", "Survival water is due"},
	} {
		z := dry(14)
		z.Case.Policy.SummerWater = c.policy
		if c.age != "" {
			z.Case.Findings["establishment"] = knowledge.WordValue(c.age)
		}
		require.Contains(t, look(z)["endurance "].Detail, c.want)
	}
	n, ok = look(dry(45))["endurance "]
	require.True(t, ok)
	require.Equal(t, watch.Act, n.Level, "told again, as more urgent")
	require.Contains(t, n.Detail, "Crowns are starting to die")
	wet := dry(45)
	yes := true
	wet.Case.Lawn.Irrigated = &yes
	for key := range look(wet) {
		require.NotContains(t, key, "endurance", "watered and nobody said how much: nothing is known")
	}
}

func TestFrostAfterGrowthHasBegun(t *testing.T) {
	spring := func(today time.Time, frost int, low float64) watch.Zone {
		past, ahead := weatherOf(today, 90, 8, func(k int) (float64, float64, float64, float64) {
			if k == frost {
				return low, 9, 0, 60
			}
			return 7, 19, 1, 60
		})
		return zone("kentucky-bluegrass", today, false, past, ahead)
	}
	n, ok := look(spring(date(time.April, 12), 3, -5.5))["frost "]
	require.True(t, ok)
	require.True(t, n.Ahead)
	require.Equal(t, date(time.April, 15), n.On)
	n = look(spring(date(time.April, 12), -1, -6))["frost "]
	require.False(t, n.Ahead)
	require.Equal(t, watch.Act, n.Level)
	require.Contains(t, n.Detail, "crowns")
	_, ok = look(spring(date(time.April, 12), 3, -3))["frost "]
	require.False(t, ok, "cool-season leaves bear a light frost")
	_, ok = look(spring(date(time.April, 12), 7, -5))["frost "]
	require.False(t, ok, "a week ahead nobody knows")
	_, ok = look(spring(date(time.October, 12), 3, -5))["frost "]
	require.False(t, ok, "autumn frost is no surprise")
}

func TestFeedingAndSeasons(t *testing.T) {
	today := date(time.September, 14)
	past, ahead := weatherOf(today, 60, 8, func(k int) (float64, float64, float64, float64) {
		hi := 26.5 - .3*float64(k)
		return hi - 12, hi, 3, 60
	})
	n, ok := look(zone("tall-fescue", today, false, past, ahead))["feeding "]
	require.True(t, ok)
	require.Contains(t, n.Detail, "27 °C")
	var said []string
	for _, n := range watch.Notices(zone("tall-fescue", today, false, past, ahead), units.In("us")) {
		said = append(said, n.Detail)
	}
	require.Contains(t, strings.Join(said, "\n"), "under 81 °F", "in the firm's units")
	_, ok = look(zone("zoysiagrass", today, false, past, ahead))["feeding "]
	require.False(t, ok, "warm-season turf is not fed into the autumn")

	spring := date(time.April, 20)
	past, ahead = weatherOf(spring, 200, 8, func(k int) (float64, float64, float64, float64) {
		if k < -19 {
			return 0, 8, 2, 70
		}
		return 10, 22, 2, 60 // 6 °C·d over 10 °C a day
	})
	n, ok = look(zone("kentucky-bluegrass", spring, false, past, ahead))["window crabgrass-germination"]
	require.True(t, ok)
	require.Contains(t, n.Detail, "110 °C·d over 10 °C since 1 January")
	_, ok = look(zone("kentucky-bluegrass", spring, false, past, ahead))["window seed-heads-annual-bluegrass"]
	require.False(t, ok, "no annual bluegrass here")
}

func TestNothingIsToldTwice(t *testing.T) {
	day := func(d int) time.Time { return date(time.June, d) }
	spot := watch.Notice{Kind: watch.Window, Subject: "dollar-spot", Level: watch.Note, Since: day(3)}
	steps := watch.Follow(nil, []watch.Notice{spot}, day(5))
	require.Len(t, steps, 1)
	require.True(t, steps[0].New)

	standing := []watch.Standing{{Kind: watch.Window, Subject: "dollar-spot", Level: watch.Note, Seen: day(5)}}
	steps = watch.Follow(standing, []watch.Notice{spot}, day(6))
	require.Len(t, steps, 1)
	require.False(t, steps[0].New, "the next day it stands, untold")
	require.False(t, steps[0].Ended)

	worse := spot
	worse.Level = watch.Act
	steps = watch.Follow(standing, []watch.Notice{worse}, day(6))
	require.True(t, steps[0].New, "more urgent is told again")
	urgent := []watch.Standing{{Kind: watch.Window, Subject: "dollar-spot", Level: watch.Act, Seen: day(5)}}
	steps = watch.Follow(urgent, []watch.Notice{spot}, day(6))
	require.False(t, steps[0].New)
	require.Equal(t, watch.Act, steps[0].Level, "it does not become less urgent while it lasts")

	require.Empty(t, watch.Follow(standing, nil, day(8)), "a pause of some days is no end")
	steps = watch.Follow([]watch.Standing{{Kind: watch.Silent, Level: watch.Note, Seen: day(5)}}, nil, day(6))
	require.True(t, steps[0].Ended, "a station that speaks again is silent no more")
	steps = watch.Follow(standing, nil, day(11))
	require.Len(t, steps, 1)
	require.True(t, steps[0].Ended)

	again := spot
	again.Since = day(20)
	steps = watch.Follow(standing, []watch.Notice{again}, day(20))
	require.Len(t, steps, 2, "after a quiet time the old one ends and the same is new again")
	require.True(t, steps[0].New)
	require.Nil(t, steps[0].Was)
	require.True(t, steps[1].Ended)

	steps = watch.Follow(standing, []watch.Notice{spot}, day(20))
	require.Len(t, steps, 1, "the watch did not look for two weeks, and the window was open all the time")
	require.False(t, steps[0].New)
}

// However often and irregularly the watch looks, no notice stands twice and none is new while it stands.
func TestFollowHoldsItsPromise(t *testing.T) {
	for seed := range 50 {
		var standing []watch.Standing
		x := uint32(seed*2654435761 + 1)
		next := func(n uint32) uint32 { x = x*1664525 + 1013904223; return x >> 8 % n }
		today := day0
		for range 60 {
			today = today.AddDate(0, 0, 1+int(next(3)%3))
			var now []watch.Notice
			for _, subject := range []string{"a", "b"} {
				if next(3) > 0 {
					now = append(now, watch.Notice{Kind: watch.Window, Subject: subject, Level: 1 + int(next(2)%2),
						Since: today.AddDate(0, 0, -int(next(5)))})
				}
			}
			steps := watch.Follow(standing, now, today)
			var after []watch.Standing
			seen := map[string]bool{}
			for _, s := range steps {
				if s.Ended {
					require.False(t, s.New)
					continue
				}
				require.False(t, seen[s.Subject], "stands twice")
				seen[s.Subject] = true
				if s.Was == nil {
					require.True(t, s.New)
				}
				after = append(after, watch.Standing{Kind: s.Kind, Subject: s.Subject, Level: s.Level, Seen: today})
			}
			for _, old := range standing { // what was neither met nor ended stands on
				if !seen[old.Subject] && today.Sub(old.Seen) < 6*24*time.Hour {
					seen[old.Subject] = true
					after = append(after, old)
				}
			}
			standing = after
		}
	}
}

var day0 = date(time.May, 1)
