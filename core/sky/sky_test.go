package sky

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/soil"
	"hodos/core/units"
	"hodos/core/weather"
)

// Findings is what Look finds, for the tests.
func Findings(days, forecast []weather.Day, g Ground) ([]Computed, []Missing) {
	s := Of(days, forecast, g)
	return s.Findings, s.Missing
}

func series(n int, tmin, tmax, rain float64, rh *float64) []weather.Day {
	end := time.Date(2026, 8, 10, 0, 0, 0, 0, time.UTC)
	var out []weather.Day
	for i := n - 1; i >= 0; i-- {
		lo, hi, r := tmin, tmax, rain
		out = append(out, weather.Day{Date: end.AddDate(0, 0, -i), TMin: &lo, TMax: &hi, Rain: &r, RH: rh})
	}
	return out
}

func at(out []Computed, finding, cause string) (string, bool) {
	for _, c := range out {
		if c.Finding == finding && c.Cause == cause {
			return c.Word, true
		}
	}
	return "", false
}

func TestDroughtAndHeat(t *testing.T) {
	days := series(40, 20, 35, 0, nil)
	dry := false
	out, missing := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 38, Texture: "sandy-loam"}, Irrigated: &dry, EnduranceWeeks: 4,
		Date: days[39].Date})
	word, _ := at(out, "soil-water-deficit", "")
	require.Equal(t, "severe", word)
	word, _ = at(out, "heat-spell", "")
	require.Equal(t, "severe", word)
	_, computed := at(out, "disease-window", "dollar-spot")
	require.False(t, computed, "without measured humidity no humidity index is given")
	require.NotEmpty(t, missing)
}

func TestWateredAndNobodySaidHowMuch(t *testing.T) {
	days := series(40, 20, 35, 0, nil)
	wet := true
	g := Ground{Zone: soil.Zone{Latitude: 38}, Irrigated: &wet, Date: days[39].Date}
	out, missing := Findings(days, nil, g)
	_, computed := at(out, "soil-water-deficit", "")
	require.False(t, computed)
	require.Contains(t, missing, Missing{"soil-water-deficit", "the lawn is irrigated, the amount is unknown"})
	weekly := 60.0
	g.WeeklyWaterMM = &weekly
	out, _ = Findings(days, nil, g)
	word, _ := at(out, "soil-water-deficit", "")
	require.NotEqual(t, "severe", word)
}

func TestWindowsOpenAndNeverOpen(t *testing.T) {
	rh := 92.0
	days := series(60, 21, 31, 4, &rh)
	out, _ := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[59].Date})
	for _, cause := range []string{"brown-patch", "pythium-blight", "gray-leaf-spot"} {
		word, ok := at(out, "disease-window", cause)
		require.True(t, ok, cause)
		require.Equal(t, "strong", word, cause)
	}
	word, _ := at(out, "disease-window", "pink-snow-mold")
	require.NotEqual(t, "strong", word)
	word, ok := at(out, "disease-window", "melting-out")
	require.True(t, ok)
	require.Equal(t, "never-open", word, "too warm all the time")
	short, _ := Findings(days[50:], nil, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[59].Date})
	_, ok = at(short, "disease-window", "melting-out")
	require.False(t, ok, "\"never open\" needs a series that covers the look-back")
}

func TestSurgeAndGaps(t *testing.T) {
	days := series(30, 15, 25, 0, nil)
	big := 34.0
	days[20].Rain, days[21].Rain = &big, &big
	days[25].TMax = nil
	out, _ := Findings(days, series(0, 0, 0, 0, nil), Ground{Zone: soil.Zone{Latitude: 38}, Date: days[29].Date})
	word, _ := at(out, "heavy-rain-surge", "")
	require.Equal(t, "strong", word)
	none, missing := Findings(nil, nil, Ground{})
	require.Empty(t, none)
	require.Len(t, missing, 1)
}

func TestHotSoilColdWinterAndWetGround(t *testing.T) {
	get := func(days []weather.Day, g Ground, finding string) (string, float64, bool) {
		g.Date = days[len(days)-1].Date
		out, _ := Findings(days, nil, g)
		for _, c := range out {
			if c.Finding == finding {
				if c.Number != nil {
					return "", *c.Number, true
				}
				return c.Word, 0, true
			}
		}
		return "", 0, false
	}
	_, hot, ok := get(series(40, 22, 36, 0, nil), Ground{Zone: soil.Zone{Latitude: 38, HeightMM: 30}}, "soil-heat")
	require.True(t, ok)
	require.Greater(t, hot, 9.0)
	_, hot, _ = get(series(40, 14, 26, 0, nil), Ground{Zone: soil.Zone{Latitude: 38}}, "soil-heat")
	require.Zero(t, hot)

	w, _, ok := get(series(60, 14, 24, 22, nil), Ground{Zone: soil.Zone{Latitude: 38, Texture: "sand"}}, "waterlogging-spell")
	require.True(t, ok)
	require.Equal(t, "likely", w)
	w, _, _ = get(series(60, 14, 28, 1, nil), Ground{Zone: soil.Zone{Latitude: 38}}, "waterlogging-spell")
	require.Equal(t, "none", w)

	winter := func(tmin, tmax, rain float64) []weather.Day {
		days := series(120, tmin, tmax, rain, nil)
		for i := range days {
			days[i].Date = time.Date(2026, 2, 20, 0, 0, 0, 0, time.UTC).AddDate(0, 0, i-119)
		}
		return days
	}
	w, _, _ = get(winter(-25, -10, 0), Ground{Zone: soil.Zone{Latitude: 44}}, "deep-cold")
	require.Equal(t, "past-limit", w)
	w, _, _ = get(winter(-8, 4, 0), Ground{Zone: soil.Zone{Latitude: 33, Warm: true}, ColdLimit: -7}, "deep-cold")
	require.Equal(t, "past-limit", w, "St Augustine dies sooner than bermuda")
	w, _, _ = get(winter(-8, 4, 0), Ground{Zone: soil.Zone{Latitude: 33, Warm: true}}, "deep-cold")
	require.Equal(t, "none", w)
	w, _, _ = get(winter(0, 14, 0), Ground{Zone: soil.Zone{Latitude: 38}}, "winter-drought")
	require.Equal(t, "strong", w)
	w, _, _ = get(winter(0, 8, 3), Ground{Zone: soil.Zone{Latitude: 38}}, "winter-drought")
	require.Equal(t, "none", w)
	_, _, ok = get(series(120, 18, 30, 0, nil), Ground{Zone: soil.Zone{Latitude: 38}}, "winter-drought")
	require.False(t, ok, "not in August")
}

func TestACoreCorrectsTheWeeksBefore(t *testing.T) {
	days := series(60, 20, 33, 0, nil)
	date := days[59].Date
	dry := Of(days, nil, Ground{Zone: soil.Zone{Latitude: 38}, Date: date})
	require.Greater(t, dry.Points[59].Share, .85)
	wet := Of(days, nil, Ground{Zone: soil.Zone{Latitude: 38}, Date: date, Moisture: []soil.Check{{Date: date, Share: .1}}})
	require.InDelta(t, .1, wet.Points[59].Share, 1e-9)
	require.Less(t, wet.Points[52].Share, dry.Points[52].Share-.3)
	require.InDelta(t, dry.Points[30].Share, wet.Points[30].Share, 1e-9)
}

func TestTheForecastIsNoPast(t *testing.T) {
	days := series(40, 18, 28, 2, nil)
	ahead := series(10, 24, 38, 0, nil)
	for i := range ahead {
		ahead[i].Date = days[39].Date.AddDate(0, 0, i+1)
	}
	s := Of(days, ahead, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[39].Date})
	require.Len(t, s.Points, 50)
	require.Equal(t, 39, s.Today)
	require.True(t, s.Points[40].Forecast)
	word, _ := at(s.Findings, "heat-spell", "")
	require.Equal(t, "none", word, "what is to come is no evidence of what was")
	require.Greater(t, s.Balance.When(40, .5), 39)
}

func TestSentencesLeadToWhatTheyAreReadOff(t *testing.T) {
	days := series(60, 22, 36, 0, nil)
	ahead := series(8, 20, 34, 0, nil)
	for i := range ahead {
		ahead[i].Date = days[59].Date.AddDate(0, 0, i+1)
	}
	s := Of(days, ahead, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[59].Date, Onset: days[50].Date, EnduranceWeeks: 5})
	said := map[string]bool{}
	last := 1e9
	for _, x := range s.Sentences(func(id string) string { return id }, units.Saying{}) {
		require.NotEmpty(t, x.Text)
		require.False(t, x.To.Before(x.From), x.Text)
		require.LessOrEqual(t, x.Weight, last)
		last = x.Weight
		said[x.Row] = true
	}
	require.True(t, said["soil"], "hot soil before onset")
	require.True(t, said["water"])
	require.InDelta(t, 0, s.RainBefore().Days30, 0)
	require.Equal(t, 60, s.RainBefore().Since5)
	var none Sky
	none.Today = -1
	require.Nil(t, none.Sentences(nil, units.Saying{}))
}

// Where the sprinklers run and nobody said how much, nothing is said of thirst.
func TestAnUnsaidWateringIsNoDrought(t *testing.T) {
	days := series(60, 22, 36, 0, nil)
	yes := true
	s := Of(days, nil, Ground{Zone: soil.Zone{Latitude: 38}, Irrigated: &yes, Date: days[59].Date, EnduranceWeeks: 5})
	require.True(t, s.Unsaid)
	require.Zero(t, s.Endurance)
	for _, x := range s.Sentences(func(id string) string { return id }, units.Saying{}) {
		require.NotContains(t, x.Text, "crowns")
		require.NotContains(t, x.Text, "were gone")
	}
}
