package standin

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func date(y int, m time.Month, d int) time.Time { return time.Date(y, m, d, 0, 0, 0, 0, time.UTC) }

func TestTheSameStationAlwaysHasTheSameWeather(t *testing.T) {
	s := Station{Latitude: 38, Seed: 5}
	a, b := s.Days(date(2026, 5, 1), date(2026, 6, 30)), s.Days(date(2026, 5, 1), date(2026, 6, 30))
	require.Equal(t, a, b)
	require.Equal(t, a[10], s.Days(date(2026, 5, 11), date(2026, 5, 11))[0], "a day does not depend on where the reading begins")
	require.NotEqual(t, *a[3].TMax, *Station{Latitude: 38, Seed: 6}.Days(date(2026, 5, 4), date(2026, 5, 4))[0].TMax)
}

func TestBelievableWeather(t *testing.T) {
	for _, lat := range []float64{30, 38, 50, -36} {
		days := Station{Latitude: lat, Seed: 9}.Days(date(2025, 9, 1), date(2026, 8, 31))
		require.Len(t, days, 365)
		rain, wet := 0.0, 0
		for _, d := range days {
			require.Less(t, *d.TMin, *d.TMax)
			require.True(t, *d.TMax < 46 && *d.TMin > -35, "%v at %v", d.Date, lat)
			require.True(t, *d.RH >= 25 && *d.RH <= 98)
			require.GreaterOrEqual(t, *d.Wind, .4)
			rain += *d.Rain
			if *d.Rain > 0 {
				wet++
			}
		}
		require.True(t, rain > 500 && rain < 1800, "%v mm at %v", rain, lat)
		require.True(t, wet > 70 && wet < 180, "%d wet days", wet)
	}
	north, south := Station{Latitude: 38}, Station{Latitude: -38}
	require.Greater(t, north.Normal(date(2026, 7, 15)), north.Normal(date(2026, 1, 15))+12)
	require.Greater(t, south.Normal(date(2026, 1, 15)), south.Normal(date(2026, 7, 15))+6, "seasons turn")
}

func TestSpells(t *testing.T) {
	plain, dry := Station{Latitude: 38, Seed: 3, Spells: []Spell{}}, Station{Latitude: 38, Seed: 3,
		Spells: []Spell{{From: date(2026, 7, 1), To: date(2026, 7, 31), RainFactor: 0, Warmer: 3}}}
	a, b := plain.Days(date(2026, 6, 20), date(2026, 8, 10)), dry.Days(date(2026, 6, 20), date(2026, 8, 10))
	for i := range a {
		inside := a[i].Date.Month() == time.July
		if inside {
			require.Zero(t, *b[i].Rain)
			require.InDelta(t, *a[i].TMin+3, *b[i].TMin, 2.3)
		} else {
			require.Equal(t, a[i], b[i], "a spell bends its own days alone")
		}
	}
}

func TestTheForecastErrsMoreTheFurtherAhead(t *testing.T) {
	s := Station{Latitude: 38, Seed: 8}
	near, far := 0.0, 0.0
	for i := range 60 {
		today := date(2026, 3, 1).AddDate(0, 0, i)
		f, truth := s.Forecast(today, 10), s.Days(today.AddDate(0, 0, 1), today.AddDate(0, 0, 10))
		require.Len(t, f, 10)
		require.Equal(t, truth[0].Date, f[0].Date)
		near += math.Abs(*f[0].TMax - *truth[0].TMax)
		far += math.Abs(*f[9].TMax - *truth[9].TMax)
	}
	require.Greater(t, far, 3*near)
}

// Over many stations and a year there are droughts, cold snaps and heat, in their seasons, and not everywhere.
func TestStationsDrawTheirOwnSpells(t *testing.T) {
	const stations = 60
	droughts, frosts, hot, cooler := 0, 0, 0, 0
	for seed := range int64(stations) {
		own, none := Station{Latitude: 40, Seed: seed}, Station{Latitude: 40, Seed: seed, Spells: []Spell{}}
		require.Equal(t, own.Days(date(2026, 6, 1), date(2026, 6, 30)), own.Days(date(2026, 6, 1), date(2026, 6, 30)))
		days, plain := own.Days(date(2025, 9, 1), date(2026, 8, 31)), none.Days(date(2025, 9, 1), date(2026, 8, 31))
		dry, longest, cold, heat := 0, 0, 0, 0
		for i, d := range days {
			if dry++; *d.Rain >= 5 {
				dry = 0
			}
			if m := d.Date.Month(); m >= time.May && m <= time.September {
				longest = max(longest, dry)
			}
			if m := d.Date.Month(); (m == time.December || m <= time.February) && *d.TMin < *plain[i].TMin-4 {
				cold++
			}
			if *d.TMax > *plain[i].TMax+3 && *d.TMax > 33 {
				heat++
			}
			if i > 0 && *days[i-1].Rain > 0 && *d.Rain == 0 && *d.TMax < *plain[i].TMax {
				cooler++
			}
		}
		if longest >= 30 {
			droughts++
		}
		if cold >= 3 {
			frosts++
		}
		if heat >= 4 {
			hot++
		}
	}
	require.True(t, droughts > stations/5 && droughts < stations*4/5, "%d of %d stations had a drought", droughts, stations)
	require.Greater(t, frosts, stations*2/3, "cold snaps")
	require.True(t, hot > stations/5 && hot < stations, "%d of %d stations had a heat wave", hot, stations)
	require.Greater(t, cooler, stations*10, "behind a front the air is cooler")
	// the south has its snaps half a year later
	south := Station{Latitude: -40, Seed: 4}
	for _, sp := range south.drawn(2025) {
		if sp.Warmer <= -4 {
			require.Contains(t, []time.Month{time.June, time.July, time.August, time.September, time.October, time.November}, sp.From.Month())
		}
	}
}
