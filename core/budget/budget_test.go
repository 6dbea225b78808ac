package budget_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/budget"
	"hodos/core/clearance"
)

func day(text string) time.Time { d, _ := time.Parse(time.DateOnly, text); return d }

func n(on string, x float64) budget.Given {
	return budget.Given{Day: day(on), Nutrients: map[string]float64{"n": x}, Release: "quick"}
}

func warm(time.Time) (float64, bool) { return 25, true }

func row(b budget.Budget, id, by string) budget.Row {
	for _, r := range b.Rows {
		if r.ID == id && r.By == by {
			return r
		}
	}
	return budget.Row{}
}

func TestNitrogenOfTheYear(t *testing.T) {
	in := budget.Input{Today: day("2026-08-24"), Latitude: 40, Grasses: []string{"tall-fescue"}, Soil: warm, Place: "US",
		Past:    []budget.Given{n("2025-10-01", 4), n("2026-03-10", 3), n("2026-05-01", 2.5)},
		Planned: []budget.Given{n("2026-09-10", 4), n("2026-10-01", 4), n("2027-03-01", 9)},
		Rules: []clearance.Rule{{Name: "county", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 15, Year: "rolling"},
			{Name: "elsewhere", Place: "NZ", What: "most-a-year", Amount: 1}}}
	b := budget.Of(in)
	require.Equal(t, "2026-01-01", b.From.Format(time.DateOnly))
	g := row(b, "n", "grass")
	require.InDelta(t, 5.5, g.Given, 1e-12)
	require.InDelta(t, 8, g.Planned, 1e-12, "next year's feeding is next year's")
	require.InDelta(t, 17-13.5, g.Left, 1e-12)
	require.InDelta(t, 10, g.Least, 1e-12)
	l := row(b, "n", "law")
	require.Equal(t, "county", l.Rule)
	require.InDelta(t, 9.5, l.Given, 1e-12, "twelve months back")
	require.True(t, l.Over)
	require.InDelta(t, 3, b.Months[2].Given, 1e-12)
	require.InDelta(t, 4, b.Months[8].Planned, 1e-12)
	count := 0
	for _, r := range b.Rows {
		if r.By == "law" {
			count++
		}
	}
	require.Equal(t, 1, count)
}

func TestTheSeasonOfTheSouth(t *testing.T) {
	b := budget.Of(budget.Input{Today: day("2026-08-24"), Latitude: -36, Grasses: []string{"kikuyugrass"}, Soil: warm,
		Past: []budget.Given{n("2026-06-30", 4), n("2026-07-01", 3)}})
	require.Equal(t, "2026-07-01", b.From.Format(time.DateOnly))
	require.InDelta(t, 3, row(b, "n", "grass").Given, 1e-12)
	require.InDelta(t, 3, b.Months[0].Given, 1e-12)
	b = budget.Of(budget.Input{Today: day("2026-03-24"), Latitude: -36, Soil: warm})
	require.Equal(t, "2025-07-01", b.From.Format(time.DateOnly))
}

func TestTestsAndLabelsSetTheMost(t *testing.T) {
	low, enough := 11.0, 60.0
	given := budget.Given{
		Day:       day("2026-05-01"),
		Nutrients: map[string]float64{"p": 1, "k": 2, "fe": .2},
		Actives:   map[string]float64{"azoxystrobin": .1, "mecoprop-P": .03},
	}
	b := budget.Of(budget.Input{Today: day("2026-08-24"), Latitude: 40, Soil: warm, SoilP: &low, SoilK: &enough, Past: []budget.Given{given},
		Labels: map[string]float64{"azoxystrobin": .15}})
	require.InDelta(t, 1.5, row(b, "p", "test").Most, 1e-12)
	require.InDelta(t, .5, row(b, "p", "test").Left, 1e-12)
	require.True(t, row(b, "k", "test").Over, "nothing is lacking, and something was given")
	require.InDelta(t, .05, row(b, "azoxystrobin", "label").Left, 1e-12)
	require.True(t, math.IsNaN(row(b, "mecoprop-P", "label").Most))
	require.InDelta(t, .2, row(b, "fe", "grass").Given, 1e-12)
	require.True(
		t,
		math.IsNaN(row(budget.Of(budget.Input{Today: day("2026-08-24"), Soil: warm}), "p", "test").Most),
		"without a test nobody knows",
	)
}

func TestWhatIsStillToCome(t *testing.T) {
	of := func(g budget.Given) budget.Budget {
		return budget.Of(budget.Input{Today: day("2026-08-24"), Latitude: 40, Soil: warm, Past: []budget.Given{g}})
	}
	quick := of(n("2026-08-14", 4))
	require.InDelta(t, 4*math.Exp(-1), quick.Coming, 1e-9, "ten days at 25 °C")
	require.InDelta(t, quick.Coming*(1-math.Exp(-2.1)), quick.Soon, 1e-9)
	half := n("2026-08-14", 4)
	half.Release, half.Slow = "methylene", 50
	require.InDelta(t, 2*math.Exp(-1)+2*math.Exp(-10.0/45), of(half).Coming, 1e-9)
	coat := n("2026-08-14", 4)
	coat.Release, coat.Days, coat.Slow = "polymer", 80, 100
	require.InDelta(t, 4*math.Exp(-10.0/50), of(coat).Coming, 1e-9)
	cold := budget.Of(
		budget.Input{
			Today:    day("2026-08-24"),
			Latitude: 40,
			Past:     []budget.Given{n("2026-08-14", 4)},
			Soil:     func(time.Time) (float64, bool) { return 15, true },
		},
	)
	require.InDelta(t, 4*math.Exp(-.5), cold.Coming, 1e-9, "at 15 °C it goes half as fast")
}
