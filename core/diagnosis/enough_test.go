package diagnosis

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// Enough is known when what is left would hardly change anything, which comes before nothing at all would: then checks are still listed,
// none of them is worth a walk, and no remedy waits for its proof.
func TestEnoughComesBeforeSettled(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	known := map[string]knowledge.Value{"leaf-symptoms": knowledge.ListValue("none"), "pull-test": knowledge.WordValue("lifts-like-carpet")}
	before := weigh(l, known)
	require.False(t, before.Enough, "no count yet, and grubs are likely")
	require.Contains(t, needed(before), "white-grubs")

	known["grubs-per-m2"] = knowledge.NumberValue(140)
	without := Diagnose(evidence.Case{Lawn: l, Findings: known}, Options{Tools: map[string]bool{"disease-sample": false}})
	require.False(t, without.Enough, "cans and a cone would still be worth a little")
	away := map[string]bool{"disease-sample": false, "catch-cans": false, "penetrometer": false}
	after := Diagnose(evidence.Case{Lawn: l, Findings: known}, Options{Tools: away})
	require.False(t, after.Settled, "an unlikely answer could still turn a little one")
	require.True(t, after.Enough)
	require.Empty(t, needed(after))
	worth := after.Prices.LawnM2 * after.Damage
	for _, n := range after.Next {
		require.Less(t, n.Worth, hardly*worth+.01, n.Finding)
	}
}

func needed(r Result) (out []string) {
	for _, n := range r.Next {
		if n.Needed != "" {
			out = append(out, n.Needed)
		}
	}
	return out
}
