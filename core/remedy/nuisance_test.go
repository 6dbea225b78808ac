package remedy

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// Mosquitoes, fleas, ticks and ants are a job beside the lawn's: only where the client asks for it, and never on bloom or beside water.
func TestPestsThatBotherPeopleAreAJobOfTheirOwn(t *testing.T) {
	plan := func(f found) Advice { return decide(t, lawn(t, "tall-fescue", "2026-06-10", f))["nuisance-pests"] }
	require.Equal(t, Avoid, plan(found{}).Verdict, "nobody asked")
	require.Equal(t, Avoid, plan(found{"client-wishes": list("green-winter")}).Verdict)
	for _, pest := range []string{"mosquitoes-gone", "fleas-gone", "ticks-gone", "ants-gone"} {
		a := plan(found{"client-wishes": list(pest)})
		require.Equal(t, Schedule, a.Verdict, a.Reasons)
		require.Len(t, a.Cautions, 2, "its own, and that of every pesticide")
		require.True(t, Pesticide(a.ID))
	}
	for gate, f := range map[string]found{
		"bloom":      {"flowers-in-zone": word("weeds")},
		"near-water": {"water-distance-m": amount(2)},
	} {
		a := plan(with(f, "client-wishes", list("ticks-gone")))
		require.Equal(t, Hold, a.Verdict, gate)
		require.Equal(t, gate, a.Gate)
	}
}
