package trial

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

func plot(treatment string, dose float64, percents ...float64) Plot {
	p := Plot{Name: treatment, Treatment: treatment, Dose: dose}
	for i, x := range percents {
		p.Readings = append(p.Readings, Reading{float64(i) * 7, x})
	}
	return p
}

// Three readings a week apart, by hand: (10+20)/2·7 + (20+0)/2·7 = 175 per cent days, 12.5 % on average.
func TestTheArea(t *testing.T) {
	area, mean, ok := plot("", 0, 10, 20, 0).Area()
	require.True(t, ok)
	require.InDelta(t, 175, area, 1e-9)
	require.InDelta(t, 12.5, mean, 1e-9)
	mixed := Plot{Readings: []Reading{{14, 0}, {0, 10}, {7, 99}, {7, 20}}}
	area, _, ok = mixed.Area()
	require.True(t, ok)
	require.InDelta(t, 175, area, 1e-9, "in any order, the later of two on a day")
	_, _, ok = plot("", 0, 10).Area()
	require.False(t, ok)
}

// Fieller's limits, worked by hand for two and two plots: treated 100 and 120, untreated 400 and 420.
func TestSuppression(t *testing.T) {
	area := func(a float64) []float64 { return []float64{a / 14, a / 14, a / 14} } // two weeks at one height
	o := Read([]Plot{plot("", 0, area(400)...), plot("", 0, area(420)...), plot("x", 1, area(100)...), plot("x", 1, area(120)...)})
	require.Len(t, o.Groups, 2)
	require.Empty(t, o.Groups[0].Treatment)
	require.InDelta(t, 410, o.Groups[0].Area.Mean, 1e-9)
	s := o.Groups[1].Suppressed
	require.InDelta(t, 100*(1-110./410), s.Value, 1e-9)
	// pooled variance 200, t(2) 4.303: a = 410² − 18.516·100, b = 110·410, c = 110² − 1851.6
	a, b, c := 410.*410-4.303*4.303*100, 110.*410, 110.*110-4.303*4.303*100
	root := math.Sqrt(b*b - a*c)
	require.InDelta(t, 100*(1-(b+root)/a), s.Low, 1e-6)
	require.InDelta(t, 100*(1-(b-root)/a), s.High, 1e-6)
	require.Less(t, s.Low, s.Value)
	require.Greater(t, s.High, s.Value)

	one := Read([]Plot{plot("", 0, area(400)...), plot("x", 1, area(100)...)})
	require.True(t, one.Groups[1].Suppressed.Open, "of single plots nothing is known of chance")
	require.Contains(t, one.Cautions, FewPlots)
	wild := Read([]Plot{plot("", 0, area(10)...), plot("", 0, area(800)...), plot("x", 1, area(100)...), plot("x", 1, area(120)...)})
	require.True(t, wild.Groups[1].Suppressed.Open)
	none := Read([]Plot{plot("x", 1, area(100)...), plot("x", 1, area(120)...)})
	require.Nil(t, none.Groups[0].Suppressed, "there is nothing untreated to hold it against")
	healthy := Read([]Plot{plot("", 0, 0, 0, 0), plot("x", 1, 0, 0, 0)})
	require.Nil(t, healthy.Groups[1].Suppressed)
	require.Contains(t, healthy.Cautions, NoneSick)
}

// On drawn trials the limits hold what is true in 95 of 100.
func TestTheLimitsHold(t *testing.T) {
	chance := rand.New(rand.NewPCG(4, 2))
	held, open, n := 0, 0, 2000
	for range n {
		var plots []Plot
		for range 4 {
			u, x := 300+40*chance.NormFloat64(), 120+40*chance.NormFloat64()
			plots = append(plots, plot("", 0, u/14, u/14, u/14), plot("x", 1, x/14, x/14, x/14))
		}
		s := Read(plots).Groups[1].Suppressed
		if s.Open {
			open++
		} else if s.Low <= 60 && 60 <= s.High {
			held++
		}
	}
	require.InDelta(t, .95, float64(held)/float64(n-open), .02)
	require.Less(t, open, n/20)
}

// A line through given points, by hand: doses 0, 1, 2 and areas 70, 42, 14 fall by 28 a unit.
func TestADoseLine(t *testing.T) {
	at := func(dose, percent float64) Plot {
		return plot(map[bool]string{true: "x"}[dose > 0], dose, percent, percent, percent)
	}
	uptake := func(p Plot, x float64) Plot { p.Uptake = &x; return p }
	o := Read([]Plot{uptake(at(0, 5), 1), uptake(at(1, 3), 1.5), uptake(at(2, 1), 2)})
	require.InDelta(t, -28, o.Doses.Slope, 1e-9)
	require.InDelta(t, 70, o.Doses.At, 1e-9)
	require.InDelta(t, 1, o.Doses.Fits, 1e-9)
	require.InDelta(t, .5, o.Uptake.Slope, 1e-9)
	noisy := Read([]Plot{at(0, 5), at(0, 6), at(1, 3), at(1, 4), at(2, 2), at(2, .5)})
	require.Less(t, noisy.Doses.Low, noisy.Doses.Slope)
	require.Less(t, noisy.Doses.High, 0., "it falls for sure")
	require.Less(t, noisy.Doses.Fits, 1.)
	require.Nil(t, noisy.Uptake)
	require.Nil(t, Read([]Plot{at(0, 5), at(1, 3)}).Doses, "two doses make no line")
}

// What the area hides is said.
func TestWhatTheAreaHides(t *testing.T) {
	four := func(treatment string, x ...float64) []Plot {
		return []Plot{plot(treatment, 0, x...), plot(treatment, 0, x...)}
	}
	both := func(u, x []float64) []Caution { return Read(append(four("", u...), four("x", x...)...)).Cautions }
	require.Empty(t, both([]float64{10, 20, 30, 40}, []float64{10, 12, 14, 16}))
	require.Equal(t, []Caution{Crosses}, both([]float64{10, 60, 50, 10}, []float64{10, 20, 20, 30}))
	require.Equal(t, []Caution{AtTheEnd}, both([]float64{10, 20, 30, 40}, []float64{10, 35, 32, 20}))
	require.Contains(t, both([]float64{10, 20, 30}, []float64{10, 12, 14}), FewDays)
	void := append(four("", 10, 20, 30, 40), four("x", 1, 2, 3, 4)...)
	void[3].Void = true
	o := Read(void)
	require.Contains(t, o.Cautions, Voided)
	require.Contains(t, o.Cautions, FewPlots)
	require.Equal(t, 1, o.Groups[1].Plots)
	late := plot("", 0, 10, 20, 30, 40)
	late.Readings[3].Day = 60
	require.Contains(t, Read([]Plot{late, late}).Cautions, Gaps)
	require.Empty(t, Read(nil).Groups)
}
