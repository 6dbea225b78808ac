package recovery

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/turf"
)

func days(n int, c float64) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = c
	}
	return out
}

func grass(t *testing.T, id string) turf.Species {
	s, ok := turf.ByID(id)
	require.True(t, ok)
	return s
}

func TestTheBandIsABand(t *testing.T) {
	for _, s := range turf.All() {
		course := Expect(Start{Cover: .4, LiveCrowns: .8}, s, days(90, 22), .9, 1)
		require.Len(t, course, 91)
		for i, p := range course {
			require.True(t, p.Low <= p.Mid && p.Mid <= p.High && p.High <= .97+1e-9 && p.Low >= 0, "%s day %d: %+v", s.ID, i, p)
			if i > 0 {
				require.GreaterOrEqual(t, p.Mid, course[i-1].Mid, s.ID)
			}
		}
	}
}

func TestWarmGrassRestsInTheCold(t *testing.T) {
	b := grass(t, "common-bermudagrass")
	cold, warm := Expect(Start{Cover: .3, LiveCrowns: math.NaN()}, b, days(30, 8), 1, 1),
		Expect(Start{Cover: .3, LiveCrowns: math.NaN()}, b, days(30, 30), 1, 1)
	require.InDelta(t, .3, cold[30].Mid, .02)
	require.Greater(t, warm[30].Mid, .85)
}

func TestBunchGrassesHardlyClose(t *testing.T) {
	dead := Start{Cover: .1, LiveCrowns: .05}
	require.Greater(t, Expect(dead, grass(t, "kentucky-bluegrass"), days(60, 20), 1, 1)[60].Mid,
		Expect(dead, grass(t, "tall-fescue"), days(60, 20), 1, 1)[60].Mid+.05)
}

func TestVerdicts(t *testing.T) {
	course := Expect(Start{Cover: .4, LiveCrowns: .9}, grass(t, "perennial-ryegrass"), days(60, 20), 1, 1)
	verdict := func(day int, cover float64) Verdict {
		return Judge(course, []Measure{{0, .4}, {day, cover}}, .9).Verdict
	}
	require.Equal(t, NotYet, Judge(course, []Measure{{0, .4}}, .9).Verdict)
	require.Equal(t, OnCourse, verdict(21, course[21].Mid))
	require.Equal(t, OffCourse, verdict(21, course[21].Low-.1))
	require.Equal(t, Slow, verdict(30, (course[30].Low+course[30].Mid)/2-.02))
	require.Equal(t, Recovered, verdict(50, .92))
	j := Judge(course, nil, .9)
	require.Positive(t, j.Reached)
	require.GreaterOrEqual(t, course[j.Reached].Mid, .9)
}

func TestLearning(t *testing.T) {
	course := Expect(Start{Cover: .3, LiveCrowns: 1}, grass(t, "perennial-ryegrass"), days(60, 20), 1, 1)
	require.Equal(t, 1.0, Learn(course, []Measure{{0, .3}}))
	require.Greater(t, Learn(course, []Measure{{0, .3}, {20, course[20].High}}), 1.05)
	require.Less(t, Learn(course, []Measure{{0, .3}, {20, course[20].Low}}), .95)
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

func TestTheCourseIsRenewedAtTheLastLook(t *testing.T) {
	g := grass(t, "perennial-ryegrass")
	s := Start{Cover: .3, LiveCrowns: 1}
	plain := Expect(s, g, days(90, 20), .9, 1)
	course, learned, first := Renew(s, g, days(90, 20), .9, nil, .9)
	require.Equal(t, plain, course, "nothing is learned without a look")
	require.Equal(t, 1.0, learned)
	require.GreaterOrEqual(t, plain[first].Mid, .9)
	require.Less(t, plain[first-1].Mid, .9)

	slow := []Measure{{0, .3}, {20, plain[20].Low}}
	course, learned, later := Renew(s, g, days(90, 20), .9, slow, .9)
	require.Less(t, learned, 1.0)
	require.Equal(t, plain[:21], course[:21], "what was expected stands")
	require.Less(t, course[21].Mid, plain[21].Mid)
	require.Greater(t, course[21].Mid, slow[1].Cover, "it goes on from what was measured")
	require.Len(t, course, len(plain))
	require.Greater(t, later, first)
	require.Equal(t, OffCourse, Judge(course, []Measure{{0, .3}, {20, plain[20].Low - .06}}, .9).Verdict,
		"the verdict is of what was expected then")

	_, _, done := Renew(s, g, days(90, 20), .9, []Measure{{0, .3}, {20, .95}}, .9)
	require.Equal(t, 20, done)
	_, _, never := Renew(s, g, days(90, 2), .9, []Measure{{0, .3}, {20, .3}}, .9)
	require.Equal(t, -1, never)
}

func TestTheLastLookIsJudgedAndTheWeatherNamed(t *testing.T) {
	g := grass(t, "perennial-ryegrass")
	course := Expect(Start{Cover: .4, LiveCrowns: .9}, g, days(60, 20), 1, 1)
	require.Equal(t, OffCourse, Judge(course, []Measure{{0, .4}, {10, course[10].Mid}, {30, course[30].Low - .1}}, .95).Verdict,
		"the last one counts")
	require.Equal(t, OnCourse, Judge(course, []Measure{{0, .4}, {10, course[10].Low - .1}, {30, course[30].Mid}}, .95).Verdict)
	require.Equal(t, OnCourse, Judge(course, []Measure{{30, course[30].Mid}, {10, course[10].Low - .1}}, .95).Verdict,
		"in whatever order they stand")

	cold := Expect(Start{Cover: .4, LiveCrowns: .9}, g, days(60, 6), 1, 1)
	at := 50
	slow := Judge(cold, []Measure{{0, .4}, {at, cold[at].Mid - .051}}, .95)
	if cold[at].Mid-.051 < cold[at].Low-error95 {
		t.Fatal("the band is too narrow for this test")
	}
	require.Equal(t, Slow, slow.Verdict)
	require.Contains(t, slow.Reason, "the weather let it grow")
	warm := Judge(course, []Measure{{0, .4}, {25, course[25].Mid - .06}}, .95)
	require.Equal(t, Slow, warm.Verdict)
	require.Contains(t, warm.Reason, "on its lower side")
}

func TestWhatIsLearnedIsBounded(t *testing.T) {
	course := Expect(Start{Cover: .3, LiveCrowns: 1}, grass(t, "perennial-ryegrass"), days(60, 20), 1, 1)
	require.Equal(t, 2.0, Learn(course, []Measure{{0, .02}, {20, .99}}))
	require.Equal(t, .5, Learn(course, []Measure{{0, .9}, {20, .1}}))
	require.Equal(t, 1.0, Learn(course, []Measure{{0, .3}, {len(course), .5}}), "beyond the course nothing is known")
	require.Equal(t, 1.0, Learn(course, []Measure{{5, .3}, {5, .5}}))
	resting := Expect(Start{Cover: .3, LiveCrowns: 1}, grass(t, "common-bermudagrass"), days(60, 3), 1, 1)
	require.Equal(t, 1.0, Learn(resting, []Measure{{0, .3}, {20, .6}}), "nothing was expected")
}

func TestADayOfGrowthByHand(t *testing.T) {
	cool, unknown := turf.Species{Family: turf.Cool, Creeping: true, RecoverPerDay: .1}, turf.Species{Family: turf.Cool, Creeping: true}
	bunch := turf.Species{Family: turf.Cool, RecoverPerDay: .1}
	for _, c := range []struct {
		name    string
		s       Start
		g       turf.Species
		water   float64
		learned float64
		want    float64 // growth of the first day at the best temperature
	}{
		{"logistic", Start{Cover: .4, LiveCrowns: math.NaN()}, cool, 1, 1, .1 * .4 * (1 - .4/.97)},
		{"half the water", Start{Cover: .4, LiveCrowns: math.NaN()}, cool, .5, 1, .5 * .1 * .4 * (1 - .4/.97)},
		{"water is a share", Start{Cover: .4, LiveCrowns: math.NaN()}, cool, 7, 1, .1 * .4 * (1 - .4/.97)},
		{"learned", Start{Cover: .4, LiveCrowns: math.NaN()}, cool, 1, 1.6, 1.6 * .1 * .4 * (1 - .4/.97)},
		{"an unknown grass", Start{Cover: .4, LiveCrowns: math.NaN()}, unknown, 1, 1, .045 * .4 * (1 - .4/.97)},
		{"a ceiling of the site", Start{Cover: .4, LiveCrowns: math.NaN(), Ceiling: .8}, cool, 1, 1, .1 * .4 * .5},
		{"runners of dead ground", Start{Cover: .4, LiveCrowns: 0}, cool, 1, 1, .15 * .1 * .4 * (1 - .4/.97)},
		{"four in five alive", Start{Cover: .4, LiveCrowns: .8}, cool, 1, 1, .83 * .1 * .4 * (1 - .4/.97)},
		{"a bunch grass that is dead", Start{Cover: .4, LiveCrowns: 0}, bunch, 1, 1, .03 * .1 * .4 * (1 - .4/.97)},
		{"a bunch grass half alive", Start{Cover: .4, LiveCrowns: .5}, bunch, 1, 1, .5 * .1 * .4 * (1 - .4/.97)},
		{"bare ground still begins", Start{Cover: 0, LiveCrowns: math.NaN()}, cool, 1, 1, .1 * .02},
	} {
		course := Expect(c.s, c.g, []float64{20}, c.water, c.learned)
		require.InDelta(t, c.want, course[1].Mid-course[0].Mid, 1e-12, c.name)
		require.InDelta(t, .5*c.want, course[1].Low-course[0].Low, 1e-12, c.name)
		require.InDelta(t, 1.5*c.want, course[1].High-course[0].High, 1e-12, c.name)
		require.Equal(t, 1, course[1].Day)
		require.InDelta(t, 1, course[1].Growth, 1e-12)
	}
	require.InDelta(t, .97, Expect(Start{Cover: 1}, cool, nil, 1, 1)[0].Mid, 1e-12, "no more than the site carries")
}

func TestVerdictsAtTheirEdges(t *testing.T) {
	course := []Point{{0, .4, .4, .4, 0}, {1, .45, .5, .55, .2}, {2, .5, .6, .7, .4}, {3, .6, .9, .95, .3}}
	for _, c := range []struct {
		day   int
		cover float64
		want  Verdict
	}{
		{2, .5 - .05 - .001, OffCourse}, {2, .5 - .05 + .001, Slow}, {2, .6 - .05 - .001, Slow}, {2, .6 - .05 + .001, OnCourse},
		{3, .9 - .0049, Recovered}, {3, .9 - .0051, OnCourse}, {9, .9 - .0051, OnCourse},
	} {
		require.Equal(t, c.want, Judge(course, []Measure{{0, .4}, {c.day, c.cover}}, .9).Verdict, "%+v", c)
	}
	require.Equal(t, 3, Judge(course, nil, .9).Reached, "the middle reaches it to the point")
	require.Equal(t, -1, Judge(course, nil, .901).Reached)
	// growth of 0.3 on the mean of the days is the weather's excuse no more
	require.Contains(t, Judge(course, []Measure{{1, .44}}, .9).Reason, "the weather let it grow at 20 %")
	require.NotContains(t, Judge(course, []Measure{{2, .54}}, .9).Reason, "the weather")
	require.Equal(t, NotYet, Judge(nil, []Measure{{2, .54}}, .9).Verdict)
}
