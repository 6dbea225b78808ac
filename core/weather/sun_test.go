package weather

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// The worked examples of FAO Irrigation and Drainage Paper 56, by their numbers.
func TestWorkedExamples(t *testing.T) {
	// example 2: 1800 m
	require.InDelta(t, 81.8, Pressure(1800), .05)
	require.InDelta(t, .054, Psychrometric(81.8), .0005)
	// example 3: 24.5 and 15 °C
	require.InDelta(t, 2.39, (Saturation(24.5)+Saturation(15))/2, .005)
	// example 9: 20° S on 3 September
	require.InDelta(t, 11.7, DayLength(-20, 246), .05)
	// example 10: Rio de Janeiro (22°54′ S) in May, 7.1 hours of sun
	require.InDelta(t, 14.5, SolarFromSunshine(25.1, 7.1, 10.9), .06)
	// example 11: the same, 25.1 and 19.1 °C, ea 2.1 kPa
	require.InDelta(t, 3.5, NetLongwave(19.1, 25.1, 2.1, 14.5, 18.8), .05)
	// example 14: wind of 3.2 m/s at 10 m
	require.InDelta(t, 2.4, WindAt2(3.2, 10), .02)
	// example 15: Lyon (45°43′ N) in July, 26.6 and 14.8 °C: Rs = 22.3
	require.InDelta(t, 22.3, SolarFromRange(40.55, 14.8, 26.6, false), .1)
	// example 17: Bangkok (13°44′ N, 2 m) in April, 34.8 and 25.6 °C, ea 2.85, wind 2 m/s, Rs 22.65, G 0.14
	ra := 38.06
	net := .77*22.65 - NetLongwave(25.6, 34.8, 2.85, 22.65, ClearSky(ra, 2))
	require.InDelta(t, 14.33, net, .1)
	require.InDelta(t, 5.72, PenmanMonteith(25.6, 34.8, net, .14, 2, 2.85, Pressure(2)), .05)
	// example 18: Uccle (50°48′ N, 100 m) on 6 July, 21.5 and 12.3 °C, ea 1.409, wind 2.078 m/s, Rs 22.07
	ra = Ra(50.8, 187)
	require.InDelta(t, 41.09, ra, .1)
	net = .77*22.07 - NetLongwave(12.3, 21.5, 1.409, 22.07, ClearSky(ra, 100))
	require.InDelta(t, 13.28, net, .1)
	require.InDelta(t, 3.88, PenmanMonteith(12.3, 21.5, net, 0, 2.078, 1.409, Pressure(100)), .05)
	// example 20: Lyon (45°43′ N, 200 m) in July, 26.6 and 14.8 °C, nothing else but a wind of 2 m/s
	wind := 2.0
	lo, hi := 14.8, 26.6
	e := Evaporate(Day{Date: time.Date(2026, 7, 15, 0, 0, 0, 0, time.UTC), TMin: &lo, TMax: &hi, Wind: &wind}, 45.717, 200)
	require.InDelta(t, 4.56, e.MM, .06)
	require.Equal(t, []string{"radiation from the range", "humidity from the minimum"}, e.Assumed)
}

func TestEvaporateFallsBackAndSaysSo(t *testing.T) {
	lo, hi, rh, wind, sun := 14.8, 26.6, 60.0, 2.5, 22.0
	day := Day{Date: time.Date(2026, 7, 15, 0, 0, 0, 0, time.UTC), TMin: &lo, TMax: &hi}
	require.Equal(t, "Hargreaves", Evaporate(day, 45, 0).Method)
	require.False(t, Evaporate(Day{Date: day.Date}, 45, 0).Possible)
	day.RH, day.Wind, day.Solar = &rh, &wind, &sun
	e := Evaporate(day, 45, 0)
	require.Equal(t, "Penman–Monteith", e.Method)
	require.Empty(t, e.Assumed)
	require.InDelta(t, 5, e.MM, 1)
	// more wind and drier air take more water
	dry := 30.0
	day.RH = &dry
	require.Greater(t, Evaporate(day, 45, 0).MM, e.MM)
}

func TestDewPointIsSaturationTurned(t *testing.T) {
	for _, x := range []float64{-10, 0, 7.3, 25} {
		require.InDelta(t, x, DewPoint(Saturation(x)), 1e-6)
	}
	require.InDelta(t, -40, DewPoint(0), 0)
	require.InDelta(t, 24, DayLength(80, 172), 0)
	require.Zero(t, DayLength(80, 355))
	require.False(t, math.IsNaN(NetLongwave(0, 0, 0, 0, 0)))
}
