package refusal

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestProblemsNameLineAndColumn(t *testing.T) {
	for p, want := range map[Problem]string{
		{Line: 4, Column: "value", Reason: "is odd"}: "line 4, value: is odd",
		{Line: 4, Reason: "is odd"}:                  "line 4: is odd",
		{Column: "file", Reason: "is odd"}:           "file: is odd",
		{Reason: "is odd"}:                           "is odd",
	} {
		require.Equal(t, want, p.String())
	}
}

func TestARefusalKeepsAHundredAndCountsTheRest(t *testing.T) {
	r := &Refusal{}
	for i := range 130 {
		r.Add(i+3, "", "%d is odd", i)
	}
	require.Equal(t, 130, r.Count)
	lines := strings.Split(r.Error(), "\n")
	require.Len(t, lines, Most+1)
	require.Equal(t, "line 3: 0 is odd", lines[0])
	require.Equal(t, "and 30 more", lines[Most])
}
