package figures

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestSharesByTheBook(t *testing.T) {
	// Wilson's interval: 81 of 263 (Newcombe 1998) is 0.2553 to 0.3662; 0 of 20 is 0 to 0.1611
	s := ShareOf(81, 263)
	require.InDelta(t, .2553, s.Low, 1e-4)
	require.InDelta(t, .3662, s.High, 1e-4)
	s = ShareOf(0, 20)
	require.InDelta(t, 0, s.Low, 1e-12)
	require.InDelta(t, .1611, s.High, 1e-4)
	s = ShareOf(1, 29)
	require.InDelta(t, .0061, s.Low, 1e-4)
	require.InDelta(t, .1718, s.High, 1e-4)
	require.Equal(t, Share{0, 0, 0, 1}, ShareOf(0, 0))
	require.InDelta(t, 1, ShareOf(5, 5).High, 1e-12)
}

func TestMiddles(t *testing.T) {
	m := MiddleOf([]float64{30, 10, 20, 40})
	require.Equal(t, Middle{N: 4, Median: 25, Quarter: 17.5, ThreeQ: 32.5, Low: 10, High: 40, Least: 10, Most: 40, Total: 100}, m)
	require.Equal(t, Middle{}, MiddleOf(nil))
	require.Equal(t, 7., MiddleOf([]float64{7}).ThreeQ)
	var many []float64
	for i := range 100 {
		many = append(many, float64(i))
	}
	m = MiddleOf(many)
	require.InDelta(t, 49.5, m.Median, 1e-9)
	require.Equal(t, 40., m.Low)
	require.Equal(t, 60., m.High)
}

func TestTheIntervalOfAMedianHolds(t *testing.T) {
	chance := rand.New(rand.NewPCG(3, 4))
	in := 0
	const tries = 2000
	for range tries {
		var x []float64
		for range 25 {
			x = append(x, chance.ExpFloat64())
		}
		if m := MiddleOf(x); m.Low <= .6931 && .6931 <= m.High {
			in++
		}
	}
	require.GreaterOrEqual(t, float64(in)/tries, .94)
}

func TestMeans(t *testing.T) {
	m := MeanOf([]float64{1, 2, 3})
	require.InDelta(t, 2, m.Mean, 1e-12)
	require.InDelta(t, 4.303/1.7320508, m.High-2, 1e-3, "Student's t of two degrees of freedom")
	require.Zero(t, m.Low, "a count is not negative")
	require.Equal(t, Mean{1, 4, 4, 4}, MeanOf([]float64{4}))
	require.Equal(t, Mean{}, MeanOf(nil))
	var many []float64
	for i := range 40 {
		many = append(many, float64(i%2))
	}
	require.InDelta(t, z95*.5064/6.3246, MeanOf(many).High-.5, 1e-3, "many: the normal's")
}

func TestCalibration(t *testing.T) {
	bins := Calibrate([]float64{.95, .9, 1, .6, .5, .89}, []bool{true, true, false, true, false, true})
	require.Len(t, bins, 3)
	require.Equal(t, []float64{.5, .7, .9}, []float64{bins[0].From, bins[1].From, bins[2].From})
	require.Equal(t, []int{1, 2}, []int{bins[0].Of, bins[0].N})
	require.InDelta(t, .55, bins[0].Promised, 1e-9)
	require.Equal(t, []int{2, 3}, []int{bins[2].Of, bins[2].N}, "one is in it as well")
	require.Equal(t, 1., bins[2].To)
}

func TestRatios(t *testing.T) {
	require.Equal(t, Mean{}, RatioOf(nil, nil))
	require.Equal(t, Mean{1, 1.5, 1.5, 1.5}, RatioOf([]float64{3}, []float64{2}))
	m := RatioOf([]float64{20, 40, 30}, []float64{20, 20, 20})
	require.InDelta(t, 1.5, m.Mean, 1e-12, "all together")
	// of equal amounts the jackknife is the interval of a mean: 1, 2 and 1.5
	same := SignedMeanOf([]float64{1, 2, 1.5})
	require.InDelta(t, same.Low, m.Low, 1e-9)
	require.InDelta(t, same.High, m.High, 1e-9)
	require.InDelta(t, 2, RatioOf([]float64{20, 20}, []float64{0, 20}).Mean, 1e-12, "where nothing was asked, what was given still counts")
	require.Negative(t, SignedMeanOf([]float64{-3, -1, -2}).Low)
	require.Zero(t, MeanOf([]float64{0, 0, 9}).Low)
}
