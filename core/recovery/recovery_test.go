package recovery

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/turf"
)

func days(n int, meanC, water float64) []Day {
	out := make([]Day, n)
	for i := range out {
		out[i] = Day{MeanC: meanC, Water: water}
	}
	return out
}

func grass(t testing.TB, id string) turf.Species {
	s, ok := turf.ByID(id)
	require.True(t, ok)
	return s
}

var nobodyCut = math.NaN()

func TestTheBandIsABand(t *testing.T) {
	for _, s := range turf.All() {
		for _, live := range []float64{nobodyCut, 0, .8} {
			course := Follow(Start{Cover: .4, LiveCrowns: live, PatchMM: 300}, s, days(90, 22, .9), nil).Points
			require.Len(t, course, 91)
			for i, p := range course {
				require.True(t, p.Low <= p.Mid && p.Mid <= p.High && p.High <= .97+1e-9 && p.Low >= 0, "%s day %d: %+v", s.ID, i, p)
				if i > 1 {
					require.GreaterOrEqual(t, p.Mid, course[i-1].Mid-2e-3, s.ID)
				}
			}
		}
	}
}

func TestWarmGrassRestsInTheCold(t *testing.T) {
	b := grass(t, "common-bermudagrass")
	s := Start{Cover: .3, LiveCrowns: nobodyCut}
	cold, warm := Follow(s, b, days(30, 8, 1), nil).Points, Follow(s, b, days(30, 30, 1), nil).Points
	require.InDelta(t, .3, cold[30].Mid, .02)
	require.Greater(t, warm[30].Mid, .85)
	require.Equal(t, Cold, cold[3].Limit)
	require.Equal(t, Free, warm[3].Limit)
}

// two or three mowings of good growth bring the leaves back over living crowns (extension): within ten days three quarters are green
func TestLeafDamageGrowsOutWithTheMowings(t *testing.T) {
	for _, id := range []string{"tall-fescue", "perennial-ryegrass", "kentucky-bluegrass"} {
		g := grass(t, id)
		s := Start{Cover: .3, LiveCrowns: 1}
		course := Follow(s, g, days(40, 20, 1), nil).Points
		back := (course[10].Mid - .3) / (usualCeiling - .3)
		require.InDelta(t, .77, back, .06, id)
		idle := Follow(s, g, days(40, 2, 1), nil).Points
		require.Less(t, idle[10].Mid, .33, "%s: not without growth", id)
	}
}

// A dead patch closes from its rim at the pace of the grass: bermuda 3 to 6 mm a day, zoysia 0.5 to 1.5 (extension). 30 cm of bermuda are
// closed within five weeks of full growth, of zoysia hardly begun.
func TestPatchesCloseFromTheRim(t *testing.T) {
	closed := func(id string, mm float64, n int, meanC float64) float64 {
		s := Start{Cover: .5, LiveCrowns: 0, PatchMM: mm}
		c := Follow(s, grass(t, id), days(n, meanC, 1), nil).Points
		return (c[n].Mid - .5) / (usualCeiling - .5)
	}
	require.InDelta(t, 1, closed("hybrid-bermudagrass", 300, 36, 31), .02)
	require.Less(t, closed("hybrid-bermudagrass", 300, 20, 31), .9)
	require.InDelta(t, .41, closed("zoysiagrass", 300, 42, 31), .06, "0.87 mm a day: 42 days leave 227 of 300 mm, 57 % of the area")
	require.Greater(t, closed("hybrid-bermudagrass", 100, 20, 31), closed("hybrid-bermudagrass", 300, 20, 31), "small ones sooner")
	require.Less(t, closed("tall-fescue", 300, 42, 20), .1, "bunch grasses hardly close")
	require.Less(t, closed("perennial-ryegrass", 300, 42, 20), .15)
}

func TestSownGroundFillsAfterItIsUp(t *testing.T) {
	g := grass(t, "perennial-ryegrass") // up after 5 to 10 days, in use after 6 to 8 weeks
	bare := Start{Cover: .2, LiveCrowns: 0}
	sown := bare
	sown.Sown = []int{3}
	with, without := Follow(sown, g, days(60, 20, 1), nil).Points, Follow(bare, g, days(60, 20, 1), nil).Points
	require.InDelta(t, without[9].Mid, with[9].Mid, .01, "nothing is up yet")
	require.Greater(t, with[52].Mid, .9*(usualCeiling-.2)+.15, "seven weeks after sowing")
	require.Less(t, without[52].Mid, .35)
	require.InDelta(t, without[60].Mid, Follow(sown, g, days(60, 1, 1), nil).Points[60].Mid, .2, "seed in the cold waits")
}

func TestADayOfGrowthByHand(t *testing.T) {
	cool := turf.Species{Family: turf.Cool, Creeping: true, RecoverPerDay: .1}
	bunch, unknown := turf.Species{Family: turf.Cool, RecoverPerDay: .1}, turf.Species{Family: turf.Cool, Creeping: true}
	runner := turf.Species{Family: turf.Cool, Creeping: true, RecoverPerDay: .1, CloseMMDay: turf.Range{Low: 2, High: 8}}
	for _, c := range []struct {
		name  string
		s     Start
		g     turf.Species
		water float64
		want  float64 // growth of the first day at the best temperature
	}{
		{"logistic where nobody cut crowns", Start{Cover: .4, LiveCrowns: nobodyCut}, cool, 1, .1 * .4 * (1 - .4/.97)},
		{"half the water", Start{Cover: .4, LiveCrowns: nobodyCut}, cool, .5, .5 * .1 * .4 * (1 - .4/.97)},
		{"water is a share", Start{Cover: .4, LiveCrowns: nobodyCut}, cool, 7, .1 * .4 * (1 - .4/.97)},
		{"water that nobody knows", Start{Cover: .4, LiveCrowns: nobodyCut}, cool, math.NaN(), .9 * .1 * .4 * (1 - .4/.97)},
		{"an unknown grass", Start{Cover: .4, LiveCrowns: nobodyCut}, unknown, 1, .045 * .4 * (1 - .4/.97)},
		{"a ceiling of the site", Start{Cover: .4, LiveCrowns: nobodyCut, Ceiling: .8}, cool, 1, .1 * .4 * .5},
		{"all alive: leaves alone", Start{Cover: .4, LiveCrowns: 1}, cool, 1, .15 * .57},
		{"all dead: runners nearby", Start{Cover: .4, LiveCrowns: 0}, cool, 1, .1 * .4 * .15 * .57 / .97},
		{"half alive", Start{Cover: .4, LiveCrowns: .5}, cool, 1, .15*.285 + .1*.685*.15*.285/.97},
		{"a bunch grass that is dead", Start{Cover: .4, LiveCrowns: 0}, bunch, 1, .1 * .4 * .03 * .57 / .97},
		{"bare ground still begins", Start{Cover: 0, LiveCrowns: nobodyCut}, cool, 1, .1 * .02},
		{"a patch of 10 cm, 4 mm a day", Start{Cover: .4, LiveCrowns: 0, PatchMM: 100}, runner, 1, .57 * (1 - .92*.92)},
	} {
		m := modelOf(c.s, c.g)
		from := m.at(c.s.Cover)
		growth, _ := m.growth(Day{MeanC: 20, Water: c.water})
		to := m.grow(from, 1, growth, 1, from.dead)
		require.InDelta(t, c.want, to.green-from.green, 1e-9, c.name)
		require.InDelta(t, from.green+from.brown+from.dead, to.green+to.brown+to.dead, 1e-12, "%s: ground is neither made nor lost", c.name)
	}
	require.InDelta(t, .97, Follow(Start{Cover: 1}, cool, nil, nil).Points[0].Mid, 1e-12, "no more than the site carries")
}

func TestWhatHoldsGrowthBack(t *testing.T) {
	m := modelOf(Start{Cover: .4, LiveCrowns: nobodyCut}, grass(t, "tall-fescue"))
	for _, c := range []struct {
		d    Day
		want Limit
	}{{Day{MeanC: 20, Water: 1}, Free}, {Day{MeanC: 5, Water: 1}, Cold}, {Day{MeanC: 31, Water: 1}, Heat}, {Day{MeanC: 20, Water: .2}, Dry},
		{Day{MeanC: 20, Water: .5}, Free}, {Day{MeanC: 20, Water: .49}, Dry}, {Day{MeanC: 33, Water: .3}, Heat}} {
		_, l := m.growth(c.d)
		require.Equal(t, c.want, l, "%+v", c.d)
	}
}

func TestVerdicts(t *testing.T) {
	s, g := Start{Cover: .4, LiveCrowns: nobodyCut}, grass(t, "perennial-ryegrass")
	good := Follow(s, g, days(60, 20, 1), nil)
	verdict := func(c Course, day int, cover float64) Judgement { return c.Judge([]Measure{{0, .4}, {day, cover}}, .9) }
	require.Equal(t, NotYet, good.Judge([]Measure{{0, .4}}, .9).Verdict)
	require.Equal(t, NotYet, Course{}.Judge([]Measure{{3, .4}}, .9).Verdict)
	require.Equal(t, OnCourse, verdict(good, 21, good.Points[21].Mid).Verdict)
	require.Equal(t, OnCourse, verdict(good, 21, good.Points[21].Mid-.049).Verdict)
	require.Equal(t, Slow, verdict(good, 21, good.Points[21].Mid-.051).Verdict)
	require.Equal(t, Slow, verdict(good, 21, good.Points[21].Low-.049).Verdict)
	require.Equal(t, OffCourse, verdict(good, 21, good.Points[21].Low-.051).Verdict)
	require.Equal(t, Recovered, verdict(good, 50, .8951).Verdict)
	require.Equal(t, OnCourse, verdict(good, 80, .89).Verdict, "beyond the course its last day stands")

	for _, c := range []struct {
		meanC, water float64
		want         Limit
		says         string
	}{{6, 1, Cold, "cold let it grow"}, {32, 1, Heat, "heat let it grow"}, {20, .3, Dry, "drought let it grow"}} {
		course := Follow(s, g, days(60, c.meanC, c.water), nil)
		j := verdict(course, 21, course.Points[21].Mid)
		require.Equal(t, Slow, j.Verdict, "%+v", c)
		require.Equal(t, c.want, j.Limit)
		require.Contains(t, j.Reason, c.says)
		require.Equal(t, OffCourse, verdict(course, 21, course.Points[21].Low-.06).Verdict, "weather is no excuse under the band")
		require.Equal(t, OnCourse, verdict(course, 21, course.Points[21].Mid+.051).Verdict, "who is ahead of its day is not slow")
	}
	// the last measure is judged, in whatever order they stand
	bad := good.Points[10].Low - .1
	require.Equal(t, OnCourse, good.Judge([]Measure{{30, good.Points[30].Mid}, {10, bad}}, .95).Verdict)
	require.Equal(t, OffCourse, good.Judge([]Measure{{0, .4}, {10, good.Points[10].Mid}, {30, good.Points[30].Low - .1}}, .95).Verdict)
	// what the weather was before the look before the last is no excuse
	mixed := append(days(20, 5, 1), days(20, 20, 1)...)
	late := Follow(s, g, mixed, []Measure{{20, .42}})
	require.Equal(t, OnCourse, late.Judge([]Measure{{20, .42}, {40, late.Points[40].Mid}}, .95).Verdict)
}

func TestLearning(t *testing.T) {
	s, g := Start{Cover: .3, LiveCrowns: nobodyCut}, grass(t, "perennial-ryegrass")
	plain := Follow(s, g, days(90, 20, .9), nil)
	require.InDelta(t, 1, plain.Rate, .05, "nothing is learned without a look")
	require.InDelta(t, math.Exp(-1.2816*.4), plain.RateLow, .03)
	require.InDelta(t, math.Exp(1.2816*.4), plain.RateHigh, .05)

	slow := []Measure{{0, .3}, {20, plain.Points[20].Low}}
	course := Follow(s, g, days(90, 20, .9), slow)
	require.InDelta(t, math.Exp(-1.2816*.4), course.Rate, .08, "the rate of the lower edge")
	require.Equal(t, plain.Points[:21], course.Points[:21], "what was expected stands")
	require.Less(t, course.Points[40].Mid, plain.Points[40].Mid)
	require.Greater(t, course.Points[21].Mid, slow[1].Cover, "it goes on from what was measured")
	require.Len(t, course.Points, len(plain.Points))
	require.Less(t, course.RateHigh/course.RateLow, plain.RateHigh/plain.RateLow, "the doubt is less")
	_, before, _ := plain.Reach(.7, 0)
	_, after, _ := course.Reach(.7, 21)
	require.Greater(t, after, before)

	// more looks narrow it further
	truth := Follow(s, g, days(90, 20, .9), nil).Points
	three := Follow(s, g, days(90, 20, .9), []Measure{{7, truth[7].Mid}, {14, truth[14].Mid}, {21, truth[21].Mid}})
	one := Follow(s, g, days(90, 20, .9), []Measure{{21, truth[21].Mid}})
	require.Less(t, three.RateHigh/three.RateLow, plain.RateHigh/plain.RateLow)
	require.InDelta(t, 1, three.Rate, .1)
	require.InDelta(t, 1, one.Rate, .1)

	// a day without a reading widens its own band alone
	gap := days(40, 20, .9)
	gap[10].Ahead = true
	wide, narrow := Follow(s, g, gap, nil).Points, Follow(s, g, days(40, 20, .9), nil).Points
	require.InDelta(t, narrow[30].High-narrow[30].Low, wide[30].High-wide[30].Low, .01)

	// where nothing could grow nothing is learned
	resting := Follow(s, grass(t, "common-bermudagrass"), days(60, 3, 1), []Measure{{20, .3}})
	require.InDelta(t, 1, resting.Rate, .05)
	// a look far off the band does not make it the quickest lawn of all
	odd := Follow(s, g, days(60, 20, 1), []Measure{{20, .02}})
	require.Greater(t, odd.Rate, .2)
}

func TestReach(t *testing.T) {
	c := Course{Points: []Point{{Day: 0, Low: .4, Mid: .4, High: .4}, {Day: 1, Low: .5, Mid: .7, High: .9},
		{Day: 2, Low: .6, Mid: .9, High: .95}}}
	early, mid, late := c.Reach(.9, 0)
	require.Equal(t, []int{1, 2, -1}, []int{early, mid, late})
	early, mid, late = c.Reach(.4, 1)
	require.Equal(t, []int{1, 1, 1}, []int{early, mid, late})
	early, _, _ = c.Reach(.9, 2)
	require.Equal(t, 2, early)
	early, _, _ = c.Reach(.4, 9)
	require.Equal(t, -1, early)
}

// On lawns whose rate is drawn from what is known of their grass, in weather that keeps to the normal no better than weather does, four of
// five lie in the band: before anything was measured, and after a look as well.
func TestFourOfFiveLawnsLieInTheBand(t *testing.T) {
	chance := rand.New(rand.NewPCG(7, 20260824))
	const lawns = 700
	in, n := map[string]int{}, map[string]int{}
	for range lawns {
		g := turf.All()[chance.IntN(len(turf.All()))]
		normal := g.GrowthBest
		if normal == 0 {
			normal = 20
		}
		normal += -6 + 8*chance.Float64()
		s := Start{Cover: .1 + .6*chance.Float64(), LiveCrowns: chance.Float64(), PatchMM: 50 + 300*chance.Float64()}
		if chance.IntN(3) == 0 {
			s.LiveCrowns = nobodyCut
		}
		m := modelOf(s, g)
		rate, state := math.Exp(rateSpread*chance.NormFloat64()), m.at(s.Cover)
		patch0 := state.dead
		var real []Day
		truth := []float64{s.Cover}
		off := 0.0
		for d := 1; d <= 60; d++ {
			off = .8*off + 2*chance.NormFloat64()
			day := Day{MeanC: normal + off, Water: clamp(.75+.3*chance.Float64(), 0, 1)}
			real = append(real, day)
			growth, _ := m.growth(day)
			state = m.grow(state, d, growth, rate, patch0)
			truth = append(truth, state.green)
		}
		eye := func(c float64) float64 { return clamp(c+eyeError*chance.NormFloat64(), 0, 1) }
		s.Cover = eye(s.Cover)
		look := Measure{21, eye(truth[21])}
		aheadOf := func(known int) []Day {
			out := append([]Day{}, real[:known]...)
			for range 60 - known {
				out = append(out, Day{MeanC: normal, Water: math.NaN(), Ahead: true})
			}
			return out
		}
		count := func(what string, c Course, day int) {
			p := c.Points[day]
			if p.High-p.Low < .02 {
				return // nothing moves: nothing is tested
			}
			n[what]++
			if truth[day] >= p.Low-1e-9 && truth[day] <= p.High+1e-9 {
				in[what]++
			}
		}
		count("three weeks ahead", Follow(s, g, aheadOf(0), nil), 21)
		count("six weeks ahead", Follow(s, g, aheadOf(0), nil), 42)
		count("in weather that was measured", Follow(s, g, aheadOf(60), nil), 28)
		count("three weeks after a look", Follow(s, g, aheadOf(21), []Measure{look}), 42)
	}
	for what, of := range n {
		share := float64(in[what]) / float64(of)
		t.Logf("%s: %.1f %% of %d", what, share*100, of)
		require.Greater(t, of, lawns/3, what)
		require.InDelta(t, band, share, .05, what)
	}
}

func TestProgressOfDisease(t *testing.T) {
	area, err := Progress([]float64{0, 7, 14}, []float64{10, 20, 0})
	require.NoError(t, err)
	require.InDelta(t, 105+70, area, 1e-9)
	_, err = Progress([]float64{0, 0}, []float64{1, 2})
	require.ErrorContains(t, err, "day 0")
	_, err = Progress([]float64{0}, nil)
	require.Error(t, err)
}

func BenchmarkFollow(b *testing.B) {
	g := grass(b, "perennial-ryegrass")
	for b.Loop() {
		Follow(Start{Cover: .3, LiveCrowns: .5}, g, days(120, 20, .9), []Measure{{20, .4}, {40, .6}})
	}
}
