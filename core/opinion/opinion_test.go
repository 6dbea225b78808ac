package opinion

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
)

func on(day int, found map[string]knowledge.Value) evidence.Case {
	return evidence.Case{Lawn: knowledge.Lawn{Date: time.Date(2026, 8, day, 0, 0, 0, 0, time.UTC), Latitude: 40,
		Species: []string{"kentucky-bluegrass"}}, Findings: found}
}

func weigh(c evidence.Case) diagnosis.Result {
	return diagnosis.Diagnose(c, diagnosis.Options{NoNext: true})
}

// Thought thirsty, watered, no better, and the sod lifts: what turned it is the answer to the water and the pull, in bits that make up the
// difference between the two ledgers.
func TestWhatTurnedIt(t *testing.T) {
	dry := map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("dry"), "footprints": knowledge.WordValue("stay"),
		"affected-area-percent": knowledge.NumberValue(30)}
	first := weigh(on(1, dry))
	led := first.Causes[0].ID
	require.Equal(t, "drought-stress", led)

	c := on(16, map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("moist"), "affected-area-percent": knowledge.NumberValue(32),
		"pull-test": knowledge.WordValue("lifts-like-carpet"), "grubs-per-m2": knowledge.NumberValue(140)})
	c.Treatments = []evidence.Treatment{{Date: c.Lawn.Date.AddDate(0, 0, -14), Action: "water-deep"}}
	c.Earlier = []evidence.Earlier{{Date: on(1, nil).Lawn.Date, Findings: dry, Cause: led}}
	second := weigh(c)
	turn := Between(first, second, led)
	require.Equal(t, "white-grubs", turn.Cause)
	require.Equal(t, "drought-stress", turn.Before)
	require.Less(t, turn.Left, .3)
	require.Greater(t, turn.Now, turn.Then)
	by := map[string]Reason{}
	for i, r := range turn.Reasons {
		by[r.Finding] = r
		if i > 0 {
			require.GreaterOrEqual(t, abs(turn.Reasons[i-1].Bits), abs(r.Bits), "the strongest first")
		}
		require.GreaterOrEqual(t, abs(r.Bits), least)
	}
	require.LessOrEqual(t, len(turn.Reasons), most)
	require.Contains(t, by, "answer-to-water")
	require.Nil(t, by["answer-to-water"].Was)
	require.Equal(t, "none", by["answer-to-water"].Is.Word)
	require.Positive(t, by["answer-to-water"].Bits)
	bits := func(r diagnosis.Result, cause, finding string) (sum float64) {
		for _, x := range r.Causes {
			if x.ID == cause {
				for _, row := range append(x.For, x.Against...) {
					if row.Finding == finding {
						sum += row.Bits
					}
				}
			}
		}
		return sum
	}
	want := bits(second, "white-grubs", "answer-to-water") - bits(second, "drought-stress", "answer-to-water")
	require.InDelta(t, want, by["answer-to-water"].Bits, .051)
}

// Where the same leads, the reasons are those for it, and what is no longer known counts as well.
func TestTheSameLeads(t *testing.T) {
	a := weigh(on(1, map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(140)}))
	b := weigh(on(2, map[string]knowledge.Value{"pull-test": knowledge.WordValue("lifts-like-carpet")}))
	turn := Between(a, b, "white-grubs")
	require.Equal(t, "white-grubs", turn.Cause)
	require.Empty(t, turn.Before)
	by := map[string]Reason{}
	for _, r := range turn.Reasons {
		by[r.Finding] = r
	}
	require.Negative(t, by["grubs-per-m2"].Bits)
	require.Nil(t, by["grubs-per-m2"].Is)
	require.Positive(t, by["pull-test"].Bits)
	require.Empty(t, Between(a, a, "white-grubs").Reasons, "nothing moved")
	require.Zero(t, Between(a, diagnosis.Result{}, "white-grubs"))
}

func abs(x float64) float64 {
	if x < 0 {
		return -x
	}
	return x
}
