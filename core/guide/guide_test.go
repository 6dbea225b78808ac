package guide

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

// Every cause has all four parts, and no row speaks of a cause that there is not.
func TestEveryCauseHasItsEntry(t *testing.T) {
	known := map[string]bool{knowledge.Healthy: true}
	for _, c := range knowledge.CauseTable {
		known[c.ID] = true
	}
	for id := range known {
		e := Of(id)
		for _, text := range []string{e.Signature, e.When, e.Proof, e.Against} {
			require.NotEmpty(t, text, id)
		}
	}
	require.Len(t, rows, 4*len(known))
	for _, r := range rows {
		require.True(t, known[r.cause], r.cause)
	}
	require.Zero(t, Of("gremlins"))
}
