package sky

import (
	"testing"
	"time"

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
		{"rust", 17, 28, 0, rh(85), true},
		{"rust", 17, 28, 0, rh(40), false},
		{"red-thread", 10, 19, 2, rh(92), true},
		{"red-thread", 10, 19, 0, rh(60), false},
		{"leaf-spot", 18, 28, 2, rh(92), true},
		{"leaf-spot", 8, 16, 2, rh(92), false},
		{"melting-out", 8, 18, 2, rh(92), true},
		{"melting-out", 22, 34, 2, rh(92), false},
		{"summer-patch", 19, 31, 6, nil, true},
		{"summer-patch", 6, 15, 6, nil, false},
		{"summer-patch", 18, 29, 6, nil, false}, // never hot enough to show
		{"slime-mold", 14, 24, 6, nil, true},
		{"slime-mold", 14, 24, 2, nil, false},
		{"pink-snow-mold", 0, 8, 2, rh(92), true},
		{"pink-snow-mold", 16, 26, 2, rh(92), false},
		{"powdery-mildew", 13, 22, 0, rh(80), true},
		{"powdery-mildew", 13, 22, 6, rh(80), false},
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
	days := dated(series(60, 8, 18, 1, nil), time.April)
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
	ground.Date = dated(days, time.December)[59].Date
	require.Empty(t, word(-6), "the first frosts of winter meet turf that goes to sleep")
	ground.Date = dated(days, time.April)[59].Date
	ground.Warm = true
	cold := dated(series(60, 1, 8, 1, nil), time.April)
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

// dated moves a series so that it ends in the middle of a month.
func dated(days []weather.Day, end time.Month) []weather.Day {
	last := time.Date(2026, end, 15, 0, 0, 0, 0, time.UTC)
	for i := range days {
		days[i].Date = last.AddDate(0, 0, i+1-len(days))
	}
	return days
}

func windowOf(cause string, ds []weather.Day, g Ground) string {
	g.Latitude, g.Date = 38, ds[len(ds)-1].Date
	out, _ := Findings(ds, nil, g)
	w, _ := at(out, "disease-window", cause)
	return w
}

// The windows that take months: cold nights for spring dead spot, a winter of snow for gray snow mold, wet soil for root rots, heat and
// long wetness for anthracnose.
func TestLongWindows(t *testing.T) {
	rh := 70.0
	winter := func(min, max float64) []weather.Day {
		days := dated(series(300, 8, 18, 0, &rh), time.April)
		for i := 150; i < 240; i++ {
			lo, hi := min, max
			days[i].TMin, days[i].TMax = &lo, &hi
		}
		return days
	}
	warm := Ground{Zone: soil.Zone{Warm: true}}
	require.Equal(t, "strong", windowOf("spring-dead-spot", winter(-5, 6), warm))
	require.Equal(t, "weak", windowOf("spring-dead-spot", winter(1, 9), warm), "cool soil and no frost")
	require.Equal(t, "never-open", windowOf("spring-dead-spot", dated(series(300, 14, 24, 0, &rh), time.April), warm), "no winter")
	require.Empty(t, windowOf("spring-dead-spot", winter(-5, 6)[200:], warm), "a series that does not reach back says nothing")

	days := dated(series(300, 10, 20, 0, &rh), time.July)
	require.Equal(t, "never-open", windowOf("necrotic-ring-spot", days, Ground{}), "it was dry all the time")
	for i := range days {
		if i%2 == 0 {
			rain := 12.0
			days[i].Rain = &rain
		}
	}
	require.Equal(t, "strong", windowOf("necrotic-ring-spot", days, Ground{}))
	require.Contains(t, []string{"open", "strong"}, windowOf("pythium-root-rot", days, Ground{}))
	watered := true
	require.Empty(t, windowOf("pythium-root-rot", days, Ground{Irrigated: &watered}), "nobody knows what the sprinklers gave")

	snow := dated(series(180, -8, 0, 0, nil), time.March)
	deep, thin := 12.0, 2.0
	for i := range snow {
		snow[i].Snow = &thin
		if i > 40 && i < 150 {
			snow[i].Snow = &deep
		}
	}
	require.Equal(t, "strong", windowOf("gray-snow-mold", snow, Ground{}))
	for i := range snow {
		snow[i].Snow = &thin
	}
	require.Equal(t, "never-open", windowOf("gray-snow-mold", snow, Ground{}), "under 3 cm it is no cover")
	wet := 93.0
	require.Contains(t, []string{"open", "strong"}, windowOf("anthracnose", series(60, 21, 29, 3, &wet), Ground{}))
	dry := 45.0
	require.Equal(t, "never-open", windowOf("anthracnose", series(60, 21, 29, 0, &dry), Ground{}))
}

// Large patch looks back over weeks in autumn and over the winter in spring; take-all asks cooler soil of cool-season turf.
func TestWindowsByFamilyAndSeason(t *testing.T) {
	warm := Ground{Zone: soil.Zone{Warm: true}}
	mild := func(end time.Month) []weather.Day { return dated(series(240, 11, 21, 2, nil), end) }
	require.Equal(t, "strong", windowOf("large-patch", mild(time.October), warm))
	require.Equal(t, "strong", windowOf("large-patch", mild(time.April), warm))
	require.Equal(t, "never-open", windowOf("large-patch", dated(series(240, 24, 34, 2, nil), time.October), warm))
	short := mild(time.October)[180:]
	require.Equal(t, "strong", windowOf("large-patch", short, warm), "six weeks are enough in autumn")
	require.Empty(t, windowOf("large-patch", dated(short, time.April), warm), "and say nothing in spring")
	require.Equal(t, "strong", windowOf("take-all-root-rot", mild(time.April), warm))
	require.Equal(t, "never-open", windowOf("take-all-root-rot", dated(series(240, 15, 24, 2, nil), time.April), Ground{}))
	require.Equal(t, "strong", windowOf("take-all-root-rot", dated(series(240, 6, 15, 2, nil), time.April), Ground{}))
	rh := 92.0
	require.Equal(t, "never-open", windowOf("leaf-spot", dated(series(60, 10, 18, 2, &rh), time.April), Ground{}),
		"cool weather is melting-out's")
	require.Equal(t, "strong", windowOf("leaf-spot", dated(series(60, 10, 18, 2, &rh), time.April), warm))
}

// A night that just misses is weak, however often it comes; gray leaf spot asks for longer wetness where it is cooler.
func TestNearMissesAndRamps(t *testing.T) {
	rh := 85.0
	g := Ground{}
	days := dated(series(60, 12, 24, 0, &rh), time.July)
	lo, hi := 19.0, 29.5
	days[50].TMin, days[50].TMax, days[51].TMin = &lo, &hi, &lo
	require.Equal(t, "weak", windowOf("pythium-blight", days, g))
	for _, c := range []struct {
		t, hours float64
		want     bool
	}{{28, 9, true}, {28, 8.9, false}, {22, 14, true}, {22, 13, false}, {25, 11.5, true}, {25, 11.4, false}, {20.9, 24, false},
		{32.1, 24, false}} {
		for _, w := range weather.Windows {
			if w.Cause != "gray-leaf-spot" {
				continue
			}
			in, known := w.Ripe(weather.State{Day: weather.Day{TMin: &c.t, TMax: &c.t}, Wet: weather.Wetness{Hours: c.hours, Known: true}})
			require.True(t, known)
			require.Equal(t, c.want, in, "%v", c)
		}
	}
}

// A season of larvae ends with the soil, not so many weeks after they hatched.
func TestTheSeasonOfGrubsEndsWithTheSoil(t *testing.T) {
	word := func(end time.Month, lo, hi float64) string {
		days := dated(series(340, 12, 26, 1, nil), end)
		for i := 320; i < 340; i++ {
			days[i].TMin, days[i].TMax = &lo, &hi
		}
		out, _ := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 40}, Date: days[339].Date})
		w, _ := at(out, "insect-window", "white-grubs")
		return w
	}
	require.Equal(t, "open", word(time.October, 12, 26))
	require.Equal(t, "closing", word(time.October, 7, 15))
	require.Equal(t, "closed", word(time.October, 1, 8))
	days := dated(series(340, 20, 32, 1, nil), time.September)
	out, _ := Findings(days, nil, Ground{Zone: soil.Zone{Latitude: 29}, Date: days[339].Date})
	_, said := at(out, "insect-window", "white-grubs")
	require.False(t, said, "sums from a date mean nothing where growth never stops")
}
