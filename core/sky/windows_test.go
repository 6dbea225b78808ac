package sky

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/soil"
	"hodos/core/weather"
)

// Each disease in its own weather and out of it.
func TestWindowsOneByOne(t *testing.T) {
	rh := func(x float64) *float64 { return &x }
	for _, c := range []struct {
		cause            string
		tmin, tmax, rain float64
		rh               *float64
		open             bool
	}{
		{"dollar-spot", 16, 27, 1, rh(85), true},
		{"dollar-spot", 3, 9, 1, rh(85), false},
		{"dollar-spot", 14, 26, 0, rh(45), false},
		{"brown-patch", 21, 31, 2, rh(92), true},
		{"brown-patch", 11, 24, 2, rh(92), false},
		{"pythium-blight", 22, 33, 3, rh(90), true},
		{"pythium-blight", 16, 33, 3, rh(90), false},
		{"pythium-blight", 22, 33, 0, rh(55), false},
		{"gray-leaf-spot", 23, 31, 3, rh(88), true},
		{"gray-leaf-spot", 12, 22, 3, rh(88), false},
		{"rust", 17, 28, 0, rh(75), true},
		{"rust", 17, 28, 0, rh(40), false},
		{"red-thread", 10, 19, 2, nil, true},
		{"red-thread", 10, 19, 0, nil, false},
		{"leaf-spot", 18, 28, 2, nil, true},
		{"melting-out", 8, 18, 2, nil, true},
		{"melting-out", 22, 34, 2, nil, false},
		{"large-patch", 11, 21, 2, nil, true},
		{"large-patch", 24, 34, 2, nil, false},
		{"summer-patch", 19, 30, 2, nil, true},
		{"summer-patch", 6, 15, 2, nil, false},
		{"pink-snow-mold", 0, 8, 2, nil, true},
		{"pink-snow-mold", 16, 26, 2, nil, false},
		{"powdery-mildew", 13, 22, 0, rh(80), true},
	} {
		days := series(120, c.tmin, c.tmax, c.rain, c.rh)
		out, _ := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[119].Date})
		w, ok := at(out, "disease-window", c.cause)
		require.True(t, ok, "%s was not computed", c.cause)
		if c.open {
			require.Contains(t, []string{"open", "strong"}, w, "%s at %v/%v", c.cause, c.tmin, c.tmax)
		} else {
			require.Contains(t, []string{"never-open", "weak"}, w, "%s at %v/%v", c.cause, c.tmin, c.tmax)
		}
	}
}

// The look-back counts from the onset, not from the visit.
func TestWindowsLookBackFromTheOnset(t *testing.T) {
	days := series(90, 22, 33, 3, func() *float64 { x := 92.0; return &x }())
	for i := 60; i < 90; i++ { // a cool dry month before the visit
		lo, hi, dry, rain := 8.0, 18.0, 50.0, 0.0
		days[i].TMin, days[i].TMax, days[i].RH, days[i].Rain = &lo, &hi, &dry, &rain
	}
	late, _ := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[89].Date})
	early, _ := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[89].Date, Onset: days[58].Date})
	w, _ := at(late, "disease-window", "pythium-blight")
	require.Equal(t, "never-open", w)
	w, _ = at(early, "disease-window", "pythium-blight")
	require.Equal(t, "strong", w)
}

func TestFreezeAfterGreenUp(t *testing.T) {
	days := series(60, 8, 18, 1, nil)
	ground := Ground{Zone: soil.Zone{Latitude: 40}, Date: days[59].Date}
	word := func(min float64) string {
		lo := min
		days[55].TMin = &lo
		out, _ := Findings(days, nil, ground)
		w, _ := at(out, "freeze-after-green-up", "")
		return w
	}
	require.Equal(t, "none", word(2))
	require.Equal(t, "light", word(-3))
	require.Equal(t, "hard", word(-6))
	ground.Warm = true
	cold := series(60, 1, 8, 1, nil)
	out, _ := Findings(cold, nil, Ground{Zone: soil.Zone{Latitude: 40, Warm: true}, Date: cold[59].Date})
	_, said := at(out, "freeze-after-green-up", "")
	require.False(t, said, "warm-season turf has not greened up yet")
}

func TestTheTrendOfTheForecast(t *testing.T) {
	days := series(20, 15, 25, 0, nil)
	word := func(step float64) string {
		var ahead []weather.Day
		for i := 1; i <= 8; i++ {
			lo, hi := 12.0, 26+step*float64(i)
			ahead = append(ahead, weather.Day{Date: days[19].Date.AddDate(0, 0, i), TMin: &lo, TMax: &hi})
		}
		out, _ := Findings(days, ahead, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[19].Date})
		w, _ := at(out, "forecast-trend", "")
		return w
	}
	require.Equal(t, "cooling", word(-.7))
	require.Equal(t, "steady", word(.05))
	require.Equal(t, "warming", word(.7))
}

// The windows that take months: autumn for spring dead spot, a winter of snow for gray snow mold, wet soil for root rots, heat
// and long wetness for anthracnose.
func TestLongWindows(t *testing.T) {
	rh := 70.0
	days := series(300, 8, 18, 0, &rh)
	for i := 150; i < 300; i++ {
		lo, hi := 20.0, 34.0
		days[i].TMin, days[i].TMax = &lo, &hi
	}
	word := func(cause string, ds []weather.Day) string {
		out, _ := Findings(ds, nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: ds[len(ds)-1].Date})
		w, _ := at(out, "disease-window", cause)
		return w
	}
	require.Equal(t, "strong", word("spring-dead-spot", days), "four to eight months ago the soil stood at 10 to 21 °C")
	require.Equal(t, "never-open", word("necrotic-ring-spot", days), "it was dry all the time")
	for i := range days {
		if i%2 == 0 {
			rain := 9.0
			days[i].Rain = &rain
		}
	}
	require.Equal(t, "strong", word("necrotic-ring-spot", days))
	require.Contains(t, []string{"open", "strong"}, word("pythium-root-rot", days))
	require.Empty(t, word("spring-dead-spot", days[120:]), "a series that does not reach back says nothing")
	snow := series(180, -8, 0, 0, nil)
	deep, bare := 12.0, 0.0
	for i := range snow {
		snow[i].Snow = &bare
		if i > 40 && i < 150 {
			snow[i].Snow = &deep
		}
	}
	require.Contains(t, []string{"open", "strong"}, word("gray-snow-mold", snow))
	wet := 93.0
	require.Contains(t, []string{"open", "strong"}, word("anthracnose", series(60, 21, 29, 3, &wet)))
	dry := 45.0
	require.Equal(t, "never-open", word("anthracnose", series(60, 21, 29, 0, &dry)))
}
