package knowledge

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
)

// The factors of damage seen and not seen add up: over the background nothing is gained or lost by looking.
func TestSoundnessIsFair(t *testing.T) {
	for _, r := range SoundRows {
		s := SoundnessOf[r.Finding]
		seen, unseenOf := s.Sound, (1-s.Sound*s.Chance)/(1-s.Chance)
		require.InDelta(t, 1, s.Chance*seen+(1-s.Chance)*unseenOf, 1e-9, r.Finding)
	}
}

// Every fact, condition, conflict and proof names what exists, and each row is there once.
func TestTheNewTablesAreWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range FactRows {
		key := r.Fact + r.Member
		require.False(t, seen[key], key)
		seen[key] = true
		require.True(t, r.Again >= 0 && r.Again <= 1, key)
	}
	for _, r := range neededRows {
		require.NotEmpty(t, IDs(r.findings), r.cause)
	}
	for _, r := range conditionRows {
		f, ok := FindingByID(r.finding)
		require.True(t, ok && f.Kind == Number && r.limit > f.Min && r.limit < f.Max, r.finding)
	}
	for _, r := range placeRows {
		mustCause(r.cause)
		require.True(t, r.from < r.to && r.factor > 0, "%+v", r)
	}
	for _, r := range WordRows {
		require.True(t, r.share > 0 && r.share <= mostConfused && r.Back > 0, "%+v", r)
		require.NotEqual(t, r.One, r.Other)
	}
	for _, r := range lookAgainRows {
		_, ok := findFinding(r.finding)
		require.True(t, ok, fmt.Sprint(r))
	}
}

func TestARelationTurnsThereAndBack(t *testing.T) {
	for _, how := range []Relation{{"less", []float64{8}, []float64{6}}, {"times", []float64{15}, []float64{10}},
		{"range", []float64{4.3, 5, 6, 6.6}, []float64{5.5, 6, 7.2, 8}}} {
		for _, x := range []float64{3, 4.3, 4.6, 5.5, 6.3, 7.5} {
			require.InDelta(t, x, how.Back(how.To(x)), 1e-9, "%s %g", how.How, x)
		}
	}
	require.InDelta(t, 6.6, Relation{"range", []float64{4.3, 5, 6, 6.6}, []float64{5.5, 6, 7.2, 8}}.To(5.5), 1e-9)
	require.InDelta(t, 4.5, Relation{"range", []float64{4.3, 5, 6, 6.6}, []float64{5.5, 6, 7.2, 8}}.To(3.3), 1e-9)
}
