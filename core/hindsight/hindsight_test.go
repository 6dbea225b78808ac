package hindsight

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/weather"
)

func word(w string) knowledge.Value { return knowledge.WordValue(w) }

// lawn is a bluegrass lawn in August with grubs counted under loose sod.
func lawn() evidence.Case {
	area := 400.0
	return evidence.Case{
		Lawn: knowledge.Lawn{Date: time.Date(2026, 8, 20, 0, 0, 0, 0, time.UTC), Latitude: 40, Species: []string{"kentucky-bluegrass"},
			AreaM2: &area},
		Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("straw-tan"), "affected-area-percent": knowledge.NumberValue(20),
			"pull-test": word("lifts-like-carpet"), "grubs-per-m2": knowledge.NumberValue(160), "footprints": word("spring-back")},
	}
}

func TestTheCheckThatDecidedIsNamed(t *testing.T) {
	v := Back(lawn(), "")
	by := map[string]Check{}
	for _, c := range v.Checks {
		by[c.Procedure] = c
	}
	require.True(t, by["grub-square"].Decided, "without the count no insecticide may go")
	f, _ := knowledge.FindingByID("grubs-per-m2")
	require.InDelta(t, knowledge.Minutes(f, false, ""), by["grub-square"].Minutes, 1e-9)
	require.False(t, by["walk"].Decided, "whatever the walk showed, the grubs were there")
	require.Nil(t, v.Money, "nobody knows yet what it was")
	require.Nil(t, v.Expected)
	require.Nil(t, v.Water)
}

func TestWhatTheVisitSaved(t *testing.T) {
	c := lawn()
	v := Back(c, "white-grubs")
	require.Greater(t, v.Money.Told, v.Money.Given, "by the client's word alone the grubs would have gone on")
	require.Zero(t, v.Money.Given)
	wrong := Back(c, "drought-stress")
	require.Greater(t, wrong.Money.Given, v.Money.Given, "an insecticide for nothing, and the water not given")
	require.Contains(t, c.Findings, "grubs-per-m2", "the case itself is left as it was")
	taught := c
	taught.Context.Learnt = []evidence.Learnt{{Cause: "white-grubs", Factor: 2}}
	require.Equal(t, v, Back(taught, "white-grubs"), "held against the tables, not against what was learnt before")
}

func TestWhatTheTablesExpect(t *testing.T) {
	v := Back(lawn(), "white-grubs")
	sum := 0.0
	for id, p := range v.Expected {
		require.False(t, knowledge.Backdrop(id), id)
		require.Positive(t, p)
		sum += p
	}
	require.InDelta(t, 1, sum, 1e-9)
	require.NotContains(t, v.Expected, "spring-dead-spot", "not on bluegrass")
	for i := range knowledge.CauseTable {
		if id := knowledge.CauseTable[i].ID; knowledge.Backdrop(id) {
			require.Nil(t, Back(lawn(), id).Expected, "%s only stands behind a damage", id)
			return
		}
	}
}

func TestWaterHeldAgainstWhatWasAsked(t *testing.T) {
	c := lawn()
	for i := range 60 {
		hi, lo, none, given := 30.0, 16.0, 0.0, 4.0
		c.Weather = append(c.Weather, weather.Day{Date: c.Lawn.Date.AddDate(0, 0, i-59), TMax: &hi, TMin: &lo, Rain: &none, Irrigation: &given})
	}
	w := Back(c, "").Water
	require.NotNil(t, w)
	require.InDelta(t, 4*WaterDays, w.Given, 1e-9)
	require.Greater(t, w.Asked, 80.0)
	require.Less(t, w.Asked, 200.0)
	c.Policy.SummerWater = "let-rest"
	require.Nil(t, Back(c, "").Water, "nothing is asked for a lawn that is let rest")
	c.Policy.SummerWater = "keep-green"
	c.Weather[50].Irrigation = nil
	require.Nil(t, Back(c, "").Water, "a day of which nobody knows")
	dry := false
	c.Weather[50].Irrigation, c.Lawn.Irrigated = c.Weather[49].Irrigation, &dry
	require.Nil(t, Back(c, "").Water)
}

// firm draws the closed cases of a firm on whose lawns the causes are met so many times as often as the tables say.
func firm(chance *rand.Rand, expected map[string]float64, times map[string]float64, cases int) []Counted {
	ids := sorted(expected)
	sum := 0.0
	for _, id := range ids {
		sum += expected[id] * rate(times, id)
	}
	seen := map[string]int{}
	for range cases {
		x := chance.Float64() * sum
		for _, id := range ids {
			if x -= expected[id] * rate(times, id); x < 0 {
				seen[id]++
				break
			}
		}
	}
	var out []Counted
	for _, id := range ids {
		out = append(out, Counted{id, seen[id], expected[id] * float64(cases)})
	}
	return out
}

func rate(times map[string]float64, id string) float64 {
	if x, ok := times[id]; ok {
		return x
	}
	return 1
}

func sorted(m map[string]float64) (ids []string) {
	for id := range m {
		ids = append(ids, id)
	}
	slices.Sort(ids)
	return ids
}

// On drawn firms of sixty closed cases: where the tables hold, next to nothing is learnt and what it costs is next to nothing; where a
// cause is met three times as often, the scales come nearer to the truth.
func TestWhatFirmsLearn(t *testing.T) {
	chance := rand.New(rand.NewPCG(7, 11))
	expected := Back(lawn(), "white-grubs").Expected
	play := func(times map[string]float64) (moved, gain float64, grubs []float64) {
		const firms = 300
		total, factors := 0, 0
		for range firms {
			counted := firm(chance, expected, times, 60)
			factor := map[string]float64{}
			for _, l := range Learn(counted, 60) {
				factor[l.Cause] = l.Factor
				require.LessOrEqual(t, l.Low, l.Factor*1.2)
				require.GreaterOrEqual(t, l.High, l.Factor*.8)
			}
			truth, taught := 0.0, 0.0
			for id, p := range expected {
				total++
				if f := rate(factor, id); f < .75 || f > 4./3 {
					factors++
				}
				truth, taught = truth+p*rate(times, id), taught+p*rate(factor, id)
			}
			for id, p := range expected { // what is gained per case, in bits
				gain += p * rate(times, id) / truth * math.Log2(rate(factor, id)/taught) / firms
			}
			grubs = append(grubs, rate(factor, "white-grubs"))
		}
		return float64(factors) / float64(total), gain, grubs
	}
	moved, gain, _ := play(nil)
	require.Less(t, moved, .02, "hardly anything is moved by a third")
	require.Greater(t, gain, -.05, "and hardly anything is lost by it")
	_, gain, grubs := play(map[string]float64{"white-grubs": 3})
	require.Greater(t, gain, .01)
	slices.Sort(grubs)
	require.Greater(t, grubs[len(grubs)/2], 1.2)
	require.LessOrEqual(t, grubs[len(grubs)-1], 2., "never beyond twice")
}

func TestLessonsByHand(t *testing.T) {
	require.Nil(t, Learn([]Counted{{"rust", 9, 1}}, LeastCases-1), "too few cases teach nothing")
	got := Learn([]Counted{{"rust", 9, 3}, {"white-grubs", 3, 3}, {"dollar-spot", 0, 5}, {"red-thread", 60, 2}}, 90)
	require.Len(t, got, 3, "as often as expected: no lesson")
	require.Equal(t, "red-thread", got[0].Cause)
	require.InDelta(t, 2, got[0].Factor, 1e-9, "held")
	require.InDelta(t, 10./15, got[1].Factor, 1e-9)
	require.InDelta(t, 19./13, got[2].Factor, 1e-9)
	// gamma of shape 19: 2.5 % below 11.44, above 28.45
	require.InDelta(t, 11.44/13, got[2].Low, .005)
	require.InDelta(t, 28.45/13, got[2].High, .005)
}
