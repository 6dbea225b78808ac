package triage

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/worth"
)

func result(chances map[string]float64) (r diagnosis.Result) {
	for id, p := range chances {
		r.Causes = append(r.Causes, diagnosis.CauseResult{ID: id, Probability: p})
	}
	return r
}

func of(chances map[string]float64) Urgency { return Of(result(chances), 20, 200, worth.DefaultPrices) }

func TestTheTableKnowsItsCauses(t *testing.T) {
	seen := map[string]bool{}
	for _, x := range rows {
		_, ok := knowledge.CauseByID(x.cause)
		require.True(t, ok, x.cause)
		require.False(t, seen[x.cause], "%s stands twice", x.cause)
		seen[x.cause] = true
		require.Positive(t, x.doubles, x.cause)
		require.True(t, x.dies > 0 && x.dies <= 1, x.cause)
	}
}

// What takes a lawn in days is for today, even where it is not likely; what goes slowly waits, however sure it is.
func TestFastAndDeadlyGoesFirst(t *testing.T) {
	for _, x := range []struct {
		chances map[string]float64
		want    Within
		because []string
	}{
		{map[string]float64{"pythium-blight": .15, "brown-patch": .5}, Today, []string{"pythium-blight"}},
		{map[string]float64{"pythium-blight": .14, "brown-patch": .5}, ThisWeek, []string{"pythium-blight", "brown-patch"}},
		{map[string]float64{"armyworms": .1, "pythium-blight": .05}, Today, []string{"pythium-blight", "armyworms"}},
		{map[string]float64{"white-grubs": .3}, ThisWeek, []string{"white-grubs"}},
		{map[string]float64{"dollar-spot": .9}, NextTour, nil}, // hardly anything of it dies
		{map[string]float64{"moss-invasion": .99}, NextTour, nil},
		{map[string]float64{"pet-urine": .99}, NextTour, nil},
		{map[string]float64{"winter-dormancy": .99}, NextTour, nil},
		{map[string]float64{}, NextTour, nil},
	} {
		u := of(x.chances)
		require.Equal(t, x.want, u.Within, "%v", x.chances)
		var because []string
		for _, f := range u.Because {
			because = append(because, f.Cause)
		}
		require.Equal(t, x.because, because, "%v", x.chances)
	}
}

// A day of waiting costs what is newly taken and stays dead, at the worth of the lawn: by hand for grubs.
func TestADayOfWaiting(t *testing.T) {
	u := of(map[string]float64{"white-grubs": .5})
	require.InDelta(t, .5*20*.0801*.8*8, u.PerDay, .05, "a doubling in nine days is 8 % a day")
	require.Greater(t, of(map[string]float64{"white-grubs": .6}).PerDay, u.PerDay)
	require.Zero(t, of(map[string]float64{"pet-urine": .9}).PerDay)
	full := Of(result(map[string]float64{"pythium-blight": 1}), 200, 200, worth.DefaultPrices)
	require.Zero(t, full.PerDay, "there is nothing left to take")
	nearly := Of(result(map[string]float64{"pythium-blight": 1}), 195, 200, worth.DefaultPrices)
	require.InDelta(t, 5*.9*8, nearly.PerDay, .01)
	unknown := Of(result(map[string]float64{"pythium-blight": 1}), 195, 0, worth.DefaultPrices)
	require.InDelta(t, 195*.9*8, unknown.PerDay, .01)
}

func TestTheOrder(t *testing.T) {
	today, week := of(map[string]float64{"pythium-blight": .2}), of(map[string]float64{"chinch-bugs": .9})
	little, much := of(map[string]float64{"white-grubs": .2}), of(map[string]float64{"white-grubs": .9})
	require.Negative(t, today.Before(week))
	require.Positive(t, week.Before(today))
	require.Negative(t, much.Before(little))
	require.Zero(t, much.Before(much))
}

// From what an owner tells to how soon: a spill in summer is for today, a brown bermuda in winter is not.
func TestFromWhatIsTold(t *testing.T) {
	tell := func(day time.Time, grass string, found map[string]knowledge.Value) Within {
		area := 300.0
		c := evidence.Case{Lawn: knowledge.Lawn{Date: day, Latitude: 36, Species: []string{grass},
			AreaM2: &area}, Findings: found}
		return Of(diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true}), 30, area, worth.DefaultPrices).Within
	}
	summer, winter := time.Date(2026, 8, 28, 0, 0, 0, 0, time.UTC), time.Date(2026, 1, 10, 0, 0, 0, 0, time.UTC)
	require.Equal(t, Today, tell(summer, "tall-fescue", map[string]knowledge.Value{"onset-speed": knowledge.WordValue("overnight"),
		"recent-events": knowledge.ListValue("spill"), "pattern": knowledge.ListValue("irregular-patches")}))
	require.Equal(t, NextTour, tell(winter, "hybrid-bermudagrass", map[string]knowledge.Value{"onset-speed": knowledge.WordValue("gradual"),
		"pattern": knowledge.ListValue("uniform"), "colour": knowledge.ListValue("straw-tan"),
		"neighbours-affected": knowledge.WordValue("many")}))
}
