package diagnosis

import (
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/worth"
)

// The arithmetic of Pauker and Kassirer on round figures: 100 m² at 10 a square metre, a remedy of 6 minutes and 40 of
// material for 100 m² at 60 an hour.
func TestMarksFollowFromThePrices(t *testing.T) {
	p := worth.Prices{LawnM2: 10, Hour: 60, Insecticide: 40, Lab: 45}
	m := worth.MarksFor("chinch-bugs", p, 100, false)
	price := (m.Stake.Setup+m.Stake.Minutes)/60*60 + 40
	require.InDelta(t, price, m.Price, 1e-9)
	require.InDelta(t, m.Stake.Saves*1000-price, m.Benefit, 1e-9)
	require.InDelta(t, m.Stake.Hurts*1000+price, m.Harm, 1e-9)
	require.InDelta(t, m.Harm/(m.Harm+m.Benefit), m.Act, 1e-9)
	// at the break-even both sides are level
	require.InDelta(t, m.Act*m.Benefit, (1-m.Act)*m.Harm, 1e-9)
	require.Less(t, m.From, m.Act)
	require.Greater(t, m.To, m.Act)
	// at the lower mark, looking first is worth what leaving it is: nought
	proof := worth.Proofs["chinch-bugs"][0]
	require.InDelta(t, 0, m.From*proof.Hit*m.Benefit-(1-m.From)*proof.Alarm*m.Harm-m.CheckPrice, 1e-9)
}

func TestMarksMoveTheRightWay(t *testing.T) {
	base := worth.MarksFor("white-grubs", worth.DefaultPrices, 60, false)
	dearer := worth.DefaultPrices
	dearer.Insecticide *= 10
	require.Greater(t, worth.MarksFor("white-grubs", dearer, 60, false).Act, base.Act, "a dear remedy wants more certainty")
	precious := worth.DefaultPrices
	precious.LawnM2 *= 4
	require.Less(t, worth.MarksFor("white-grubs", precious, 60, false).Act, base.Act, "a dear lawn wants less")
	require.Greater(t, worth.MarksFor("white-grubs", worth.DefaultPrices, 8, false).Act, base.Act, "a small spot hardly pays the setting up")
	slow := worth.DefaultPrices
	slow.Hour *= 20
	require.Greater(t, worth.MarksFor("chinch-bugs", slow, 60, false).From, worth.MarksFor("chinch-bugs", worth.DefaultPrices, 60,
		false).From, "a dear hour makes looking dear")
}

func TestEveryCauseHasItsStake(t *testing.T) {
	for _, c := range knowledge.Causes() {
		for _, warm := range []bool{false, true} {
			for _, area := range []float64{5, 60, 5000} {
				m := worth.MarksFor(c.ID, worth.DefaultPrices, area, warm)
				require.True(t, m.Act >= .1 && m.Act <= .95 && m.From <= m.Act && m.Act <= m.To, "%s %+v", c.ID, m)
				require.NotEmpty(t, m.Check, c.ID)
				require.NotEmpty(t, m.Stake.Why, c.ID)
			}
		}
	}
}

func TestPricesAreChecked(t *testing.T) {
	require.NoError(t, worth.DefaultPrices.Check())
	p := worth.DefaultPrices
	p.LawnM2 = 0
	require.ErrorContains(t, p.Check(), "lawn_m2")
	p = worth.DefaultPrices
	p.Seed = -1
	require.ErrorContains(t, p.Check(), "seed")
}

// The marks that decide are those of the firm.
func TestPricesReachTheDecision(t *testing.T) {
	c := evidence.Case{Lawn: lawn("tall-fescue", 8, 38),
		Findings: map[string]knowledge.Value{"affected-area-percent": knowledge.NumberValue(50)}}
	area := 400.0
	c.Lawn.AreaM2 = &area
	p := worth.Prices{LawnM2: 30, Hour: 40, Insecticide: 1}
	r := Diagnose(c, Options{Prices: &p})
	require.InDelta(t, 200, r.Damage, 1e-9)
	require.Equal(t, worth.MarksFor("white-grubs", p, 200, false), r.Marks("white-grubs"))
	require.Less(t, r.Marks("white-grubs").Act, Diagnose(c, Options{}).Marks("white-grubs").Act)
}

func TestPricesTravelWithTheCase(t *testing.T) {
	mine := worth.Prices{LawnM2: 20, Hour: 45, Fungicide: 1, Insecticide: 2, Herbicide: 3, Feed: 4, Amendment: 5, Seed: 6, WaterM3: 7, Lab: 8}
	back, aside := worth.Utilities(mine.Utilities())
	require.Equal(t, mine, back)
	require.Empty(t, aside)
	some, aside := worth.Utilities(map[string]any{"lawn_m2": 4.0, "hour": -3.0, "mood": "good"})
	require.InDelta(t, 4, some.LawnM2, 0)
	require.InDelta(t, worth.DefaultPrices.Hour, some.Hour, 0)
	require.Equal(t, []string{"hour", "mood"}, aside)
	none, _ := worth.Utilities(nil)
	require.Equal(t, worth.DefaultPrices, none)
	r := Diagnose(evidence.Case{Lawn: lawn("tall-fescue", 8, 38), Context: evidence.Context{Utilities: map[string]any{"lawn_m2": 40.0}}},
		Options{})
	require.InDelta(t, 40, r.Prices.LawnM2, 0)
}

// What a firm's own cases teach stands in the ledger on a line of its own, moves at most by two, and what was there before stands beside it.
func TestOwnCasesInTheLedger(t *testing.T) {
	c := thirsty()
	plain := Diagnose(c, Options{NoNext: true})
	row := func(r Result, cause string) CauseResult {
		for _, x := range r.Causes {
			if x.ID == cause {
				return x
			}
		}
		return CauseResult{}
	}
	id := "dollar-spot"
	before := row(plain, id)
	for factor, bits := range map[float64]float64{1.5: .58, 9: 1, .1: -1} {
		c.Context.Learnt = []evidence.Learnt{{Cause: id, Factor: factor}}
		now := row(Diagnose(c, Options{NoNext: true}), id)
		require.InDelta(t, bits, now.LearntBits, 1e-9)
		require.InDelta(t, before.PriorBits, now.PriorBits, .06, "the tables say what they said")
		require.Equal(t, factor > 1, now.Probability > before.Probability)
		sum := now.PriorBits + now.NearbyBits + now.LearntBits + now.TogetherBits
		for _, b := range append(now.For, now.Against...) {
			sum += b.Bits
		}
		require.InDelta(t, math.Log2(now.Probability/(1-now.Probability)), sum, .02, "all adds up")
	}
	c.Context.Learnt = []evidence.Learnt{{Cause: id}}
	require.Equal(t, before.Probability, row(Diagnose(c, Options{NoNext: true}), id).Probability, "no factor teaches nothing")
}

// What would be done at the end, and what that costs where the truth was another.
func TestRegretOfAResult(t *testing.T) {
	c := evidence.Case{Lawn: knowledge.Lawn{Date: time.Date(2026, 8, 20, 0, 0, 0, 0, time.UTC), Latitude: 40,
		Species: []string{"kentucky-bluegrass"}}, Findings: map[string]knowledge.Value{"pull-test": knowledge.WordValue("lifts-like-carpet"),
		"affected-area-percent": knowledge.NumberValue(25), "grubs-per-m2": knowledge.NumberValue(160)}}
	r := Diagnose(c, Options{NoNext: true})
	acts := r.ActsOn()
	require.Contains(t, acts, "white-grubs")
	require.Zero(t, r.Regret(acts...))
	marks := r.Marks("white-grubs")
	require.InDelta(t, marks.Harm, r.Regret(slices.DeleteFunc(slices.Clone(acts), func(id string) bool { return id == "white-grubs" })...), 1e-9,
		"an insecticide for nothing")
	missed := r.Marks("dollar-spot").Benefit
	require.InDelta(t, missed, r.Regret(append(slices.Clone(acts), "dollar-spot")...), 1e-9, "the right thing left undone")
	delete(c.Findings, "grubs-per-m2")
	r = Diagnose(c, Options{NoNext: true})
	require.NotContains(t, r.ActsOn(), "white-grubs", "not before they are counted, however likely")
	scales := NewScales(c.Lawn)
	for id, v := range c.Findings {
		scales.Add(id, v)
	}
	require.InDelta(t, scales.Regret([]string{"white-grubs"}), r.Regret("white-grubs"), 1e-6, "the same by running scales")
}
