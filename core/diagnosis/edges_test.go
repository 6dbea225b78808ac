package diagnosis

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// A confirmed case in the district speaks for six weeks, by how many there are, and threefold at the most.
func TestNearbyCasesCountForSixWeeks(t *testing.T) {
	p := func(count int, weeks float64) float64 {
		c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 9, 40)}
		if count > 0 {
			c.Context.Nearby = []evidence.Nearby{{Cause: "armyworms", Count: count, Weeks: weeks}}
		}
		return logit2(Diagnose(c, Options{NoNext: true, NoLedger: true}).P("armyworms"))
	}
	none := p(0, 0)
	require.InDelta(t, math.Log2(1.5), p(1, 6)-none, .08)
	require.InDelta(t, 0, p(1, 6.1)-none, 1e-9)
	require.InDelta(t, math.Log2(3), p(4, 2)-none, .15)
	require.InDelta(t, p(4, 2), p(40, 2), 1e-9)
}

// What was confirmed in the zone counts as history from two months to three years after.
func TestAnEarlierCauseCountsFromTwoMonthsToThreeYears(t *testing.T) {
	had := func(days int) []string {
		c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 9, 40)}
		c.Earlier = []evidence.Earlier{{Date: c.Lawn.Date.AddDate(0, 0, -days), Cause: "white-grubs"}}
		return evidence.Gather(c).Values["past-causes"].List
	}
	require.Empty(t, had(60))
	require.Equal(t, []string{"white-grubs"}, had(61))
	require.Equal(t, []string{"white-grubs"}, had(3*366-1))
	require.Empty(t, had(3*366))
	c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 9, 40)}
	c.Earlier = []evidence.Earlier{{Date: c.Lawn.Date.AddDate(0, 0, -400), Cause: knowledge.Healthy}}
	require.Empty(t, evidence.Gather(c).Values["past-causes"].List)
}

// What records say of questions, each for its own days: an insecticide for the season, a herbicide for a month, iron for two.
func TestRecordsAnswerForTheirDays(t *testing.T) {
	said := func(action string, days int, finding string) knowledge.Value {
		c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 9, 40)}
		c.Treatments = []evidence.Treatment{{Date: c.Lawn.Date.AddDate(0, 0, -days), Action: action}}
		return evidence.Gather(c).Values[finding]
	}
	yes := func(v knowledge.Value) bool { return v.Yes != nil && *v.Yes }
	require.Equal(t, "curative", said("insecticide-curative", 180, "insecticide-this-season").Word)
	require.Empty(t, said("insecticide-curative", 181, "insecticide-this-season").Word)
	require.Equal(t, "preventive", said("insecticide-preventive", 180, "insecticide-this-season").Word)
	require.True(t, yes(said("preemergent", 30, "herbicide-last-30-days")))
	require.False(t, yes(said("preemergent", 31, "herbicide-last-30-days")))
	require.True(t, yes(said("apply-iron", 60, "iron-last-60-days")))
	require.False(t, yes(said("apply-iron", 61, "iron-last-60-days")))
	require.False(t, yes(said("apply-iron", -1, "iron-last-60-days")), "what is still to come is no record")
	c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 9, 40)}
	c.Treatments = []evidence.Treatment{{Date: c.Lawn.Date.AddDate(0, 0, -20), Action: "insecticide-curative"},
		{Date: c.Lawn.Date.AddDate(0, 0, -90), Action: "insecticide-preventive"}}
	require.Equal(t, "curative", evidence.Gather(c).Values["insecticide-this-season"].Word, "the stronger word stands")
	three, five := 3.0, 5.0
	c.Treatments = []evidence.Treatment{{Date: c.Lawn.Date.AddDate(0, 0, -30), Action: "apply-nitrogen", NGM2: &three, Source: "slow"},
		{Date: c.Lawn.Date.AddDate(0, 0, -400), Action: "apply-nitrogen", NGM2: &five}}
	g := evidence.Gather(c)
	require.InDelta(t, 30, *g.Values["last-nitrogen-days"].Number, 1e-9)
	require.Equal(t, "slow", g.Values["last-nitrogen-source"].Word)
	require.InDelta(t, 3, *g.Values["nitrogen-12-months-g-m2"].Number, 1e-9, "a year, and no longer")
}

// The balance is reckoned with the roots that were measured, down to forty millimetres: less is a stand without any.
func TestMeasuredRootsHoldTheWater(t *testing.T) {
	depth := func(mm float64) float64 {
		c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 9, 40)}
		return c.Ground(map[string]knowledge.Value{"root-depth-mm": knowledge.NumberValue(mm)}).RootDepthMM
	}
	require.InDelta(t, 40, depth(40), 1e-9)
	require.InDelta(t, 120, depth(120), 1e-9)
	require.Zero(t, depth(39))
}

// A minor part of a mix carries three fifths of what the main grass would.
func TestAMinorGrassCarriesLess(t *testing.T) {
	odds := func(species ...string) float64 {
		l := lawn(species[0], 8, 40)
		l.Species = species
		return knowledge.Odds("gray-leaf-spot", l)
	}
	main := odds("perennial-ryegrass")
	require.InDelta(t, .6, odds("kentucky-bluegrass", "perennial-ryegrass")/main, 1e-9)
	require.InDelta(t, main, odds("perennial-ryegrass", "kentucky-bluegrass"), 1e-12)
}

// An answer changes a decision when it moves a cause by a twentieth across its point, or lets another lead.
func TestWhatChangesADecision(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	m := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) })
	a, b := 0, 1
	act := m.act[m.active[a]]
	at := func(pa, pb float64) []float64 {
		p := make([]float64, len(m.active))
		p[a], p[b] = pa, pb
		return p
	}
	require.True(t, m.crosses(at(act-.04, 0), at(act+.04, 0)))
	require.False(t, m.crosses(at(act-.01, 0), at(act+.01, 0)), "a hair's breadth is no change")
	require.False(t, m.crosses(at(act+.01, 0), at(act+.2, 0)))
	require.True(t, m.crosses(at(.25, .22), at(.22, .26)))
	require.False(t, m.crosses(at(.25, .24), at(.24, .25)), "level is not led")
	require.True(t, m.crosses(at(.25, 0), at(.1, 0)), "nothing leads any more")
}

// What would change a diagnosis is told from two answers in a hundred on.
func TestRareAnswersThatWouldChangeItAreTold(t *testing.T) {
	r := Diagnose(evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40), Findings: map[string]knowledge.Value{
		"pattern": knowledge.ListValue("irregular-patches"), "colour": knowledge.ListValue("straw-tan"), "soil-moisture": knowledge.WordValue("dry"),
		"footprints": knowledge.WordValue("stay")}}, Options{})
	require.NotEmpty(t, r.Changes)
	rare := false
	for i, c := range r.Changes {
		require.GreaterOrEqual(t, c.Chance, .02)
		rare = rare || c.Chance < .2
		if i > 0 {
			require.LessOrEqual(t, c.Chance, r.Changes[i-1].Chance)
		}
	}
	require.True(t, rare)
}

// Greened after iron: yellow has gone, or dark green has come.
func TestGreenerAfterIron(t *testing.T) {
	answer := func(before, now []string) string {
		c := evidence.Case{Lawn: lawn("st-augustinegrass", 6, 30), Findings: map[string]knowledge.Value{"colour": knowledge.ListValue(now...)}}
		day := func(n int) time.Time { return c.Lawn.Date.AddDate(0, 0, -n) }
		c.Treatments = []evidence.Treatment{{Date: day(10), Action: "apply-iron"}}
		c.Earlier = []evidence.Earlier{{Date: day(12), Findings: map[string]knowledge.Value{"colour": knowledge.ListValue(before...)}}}
		return evidence.Gather(c).Values["answer-to-iron"].Word
	}
	require.Equal(t, "better", answer([]string{"yellow"}, []string{}))
	require.Equal(t, "better", answer([]string{"yellow"}, []string{"yellow", "dark-green"}))
	require.Equal(t, "none", answer([]string{"yellow"}, []string{"yellow"}))
	require.Empty(t, answer([]string{"brown"}, []string{"brown"}), "what was not pale cannot green")
}

// Dryness told by the balance and by the days without rain is one dryness.
func TestDrynessIsOneFact(t *testing.T) {
	l := lawn("tall-fescue", 7, 39)
	m := func(values map[string]knowledge.Value) float64 {
		x := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) })
		g := evidence.Gathered{Lawn: l, Values: values}
		post := x.sum(x.observeAll(&g), false)
		for k, ci := range x.active {
			if knowledge.CauseTable[ci].ID == "drought-stress" {
				return post.marginal[k]
			}
		}
		return 0
	}
	deficit := map[string]knowledge.Value{"soil-water-deficit": knowledge.WordValue("severe")}
	once := m(deficit)
	deficit["days-without-5-mm"] = knowledge.NumberValue(25)
	require.InDelta(t, once, m(deficit), .01)
	require.Greater(t, m(map[string]knowledge.Value{"days-without-5-mm": knowledge.NumberValue(25)}), m(nil)+.1)
}
