package weather

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func TestExtraterrestrialRadiation(t *testing.T) {
	// FAO Irrigation and Drainage Paper 56, example 8: 20° S on 3 September gives 32.2 MJ/(m² day).
	require.InDelta(t, 32.2, Ra(-20, 246), .1)
	require.Zero(t, int(Ra(80, 355)), "no sun in the polar night")
}

func TestHargreaves(t *testing.T) {
	// FAO-56, example 20: 45° N in July, 14.8 and 26.6 °C: 5.0 mm/day.
	require.InDelta(t, 5.0, ET0(14.8, 26.6, 45.75, 196), .15)
	require.Zero(t, ET0(-30, -20, 60, 20))
}

func TestDiseaseIndices(t *testing.T) {
	// the published equation at 22 °C and 80 %: logit −11.4041 + 4.2504 + 7.152 = −0.0017
	require.InDelta(t, .4996, DollarSpot(22, 80), .001)
	require.Zero(t, DollarSpot(8, 95), "outside 10 to 35 °C")
	require.InDelta(t, -21.5+.15*95+1.4*20-.033*400, BrownPatch(95, 20), 1e-9)
	require.Greater(t, BrownPatch(95, 20), 6.0)
}

func series(n int, tmin, tmax, rain float64, rh *float64) []Day {
	end := time.Date(2026, 8, 10, 0, 0, 0, 0, time.UTC)
	var out []Day
	for i := n - 1; i >= 0; i-- {
		lo, hi, r := tmin, tmax, rain
		out = append(out, Day{Date: end.AddDate(0, 0, -i), TMin: &lo, TMax: &hi, Rain: &r, RH: rh})
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
	out, missing := Findings(days, nil, Ground{Latitude: 38, Texture: "sandy-loam", Irrigated: &dry, EnduranceWeeks: 4, Date: days[39].Date})
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
	g := Ground{Latitude: 38, Irrigated: &wet, Date: days[39].Date}
	out, missing := Findings(days, nil, g)
	_, computed := at(out, "soil-water-deficit", "")
	require.False(t, computed)
	require.Contains(t, missing, Missing{"soil-water-deficit", "the lawn is irrigated and nobody said how much"})
	weekly := 40.0
	g.WeeklyWaterMM = &weekly
	out, _ = Findings(days, nil, g)
	word, _ := at(out, "soil-water-deficit", "")
	require.NotEqual(t, "severe", word)
}

func TestWindowsOpenAndNeverOpen(t *testing.T) {
	rh := 92.0
	days := series(60, 21, 31, 4, &rh)
	out, _ := Findings(days, nil, Ground{Latitude: 38, Date: days[59].Date})
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
	short, _ := Findings(days[50:], nil, Ground{Latitude: 38, Date: days[59].Date})
	_, ok = at(short, "disease-window", "melting-out")
	require.False(t, ok, "\"never open\" needs a series that covers the look-back")
}

func TestSurgeAndGaps(t *testing.T) {
	days := series(30, 15, 25, 0, nil)
	big := 34.0
	days[20].Rain, days[21].Rain = &big, &big
	days[25].TMax = nil
	out, _ := Findings(days, series(0, 0, 0, 0, nil), Ground{Latitude: 38, Date: days[29].Date})
	word, _ := at(out, "heavy-rain-surge", "")
	require.Equal(t, "strong", word)
	none, missing := Findings(nil, nil, Ground{})
	require.Empty(t, none)
	require.Len(t, missing, 1)
}
