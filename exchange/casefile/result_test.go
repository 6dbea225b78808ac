package casefile_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
)

// What a diagnosis explains reaches the open format: marks with their money, what would change it, the bundle of a stop, and
// words for the client, on the page as well.
func TestTheAnswerCarriesItsExplanation(t *testing.T) {
	c, err := casefile.Parse([]byte(`{"hodos_case":1,"date":"2026-08-14","site":{"latitude":40,"species":["kentucky-bluegrass"],"area_m2":300},
		"context":{"utilities":{"lawn_m2":20,"mood":"good"}},
		"findings":{"pattern":["irregular-patches"],"colour":["brown"],"affected-area-percent":20}}`))
	require.NoError(t, err)
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	a := casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{}))
	require.Equal(t, r.Told(), a.Told)
	require.NotEmpty(t, a.Changes)
	marked := 0
	for _, x := range a.Causes {
		if x.Marks == nil {
			continue
		}
		marked++
		require.NotEqual(t, knowledge.Healthy, x.ID)
		require.InDelta(t, 60, x.Marks.AreaM2, 1e-9, "a fifth of 300 m²")
		require.True(t, x.Marks.From <= x.Marks.Act && x.Marks.Act <= x.Marks.To, x.ID)
		require.True(t, remedy.Known(x.Marks.Remedy), "%s: %s is no action", x.ID, x.Marks.Remedy)
	}
	require.GreaterOrEqual(t, marked, 11)
	require.True(t, a.Next[0].Bundled)
	for _, n := range a.Next {
		require.NotEmpty(t, n.Station)
		if n.Bundled {
			require.Equal(t, a.Next[0].Station, n.Station)
		}
	}
	noticed := false
	for _, n := range a.Notices {
		noticed = noticed || n.About == "context.utilities"
	}
	require.True(t, noticed, "a price that is none is said to be left aside")
	b, err := json.Marshal(a)
	require.NoError(t, err)
	require.Contains(t, string(b), `"check_price"`)
}

// A remedy that waits for its own count leaves the plan unsettled, however sure the cause is.
func TestAPlanThatWaitsForACountIsNotSettled(t *testing.T) {
	parse := func(more string) casefile.Result {
		c, err := casefile.Parse([]byte(`{"hodos_case":1,"date":"2026-08-28","site":{"latitude":40,"species":["kentucky-bluegrass"]},"findings":{"pull-test":"lifts-like-carpet",
			"root-condition":"chewed-off","soil-moisture":"moist","animal-digging":"peeled-back","underfoot":"soft-loose","footprints":"spring-back"` + more + `}}`))
		require.NoError(t, err)
		r := diagnosis.Diagnose(c, diagnosis.Options{})
		r.Settled = true
		return casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{}))
	}
	open := parse("")
	require.False(t, open.Settled)
	require.Equal(t, "grubs-per-m2", open.Decisive[0].Finding)
	counted := parse(`,"grubs-per-m2":150`)
	require.Empty(t, counted.Decisive)
	require.True(t, counted.Settled)
}
