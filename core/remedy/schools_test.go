package remedy

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/units"
)

func schoolsOf(c evidence.Case, say units.Saying) map[string]School {
	out := map[string]School{}
	for _, s := range Schools(c, diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true}), say) {
		out[s.ID] = s
	}
	return out
}

func TestSchoolsOfALawn(t *testing.T) {
	yes := true
	c := lawn(t, "tall-fescue", "2026-07-20", found{"thatch-mm": amount(14)}, func(c *evidence.Case) {
		c.Lawn.Irrigated, c.Lawn.Texture = &yes, "sand"
		c.Policy = evidence.Policy{SummerWater: "let-rest", Pests: "threshold"}
	})
	got := schoolsOf(c, units.Saying{})
	require.Equal(t, "b", got["green-or-rest"].Side)
	require.Equal(t, "summer-water", got["green-or-rest"].Decides)
	require.Equal(t, "b", got["one-soaking"].Side, "sand takes it in portions")
	require.Contains(t, got, "thatch")
	require.Empty(t, got["summer-height"].Side, "the plan decides it")
	require.NotContains(t, got, "green-up-weeds", "of warm-season turf")
	require.Contains(t, got["thatch"].Does, "12 to 20 mm")
	require.Contains(t, schoolsOf(c, units.Saying{Customary: true})["thatch"].Does, "inches")
	c.Policy.SummerWater, c.Lawn.Texture = "keep-green", "loam"
	got = schoolsOf(c, units.Saying{})
	require.Equal(t, "a", got["green-or-rest"].Side)
	require.Equal(t, "a", got["one-soaking"].Side)
	require.NotContains(t, schoolsOf(lawn(t, "tall-fescue", "2026-07-20", found{}), units.Saying{}), "one-soaking", "nobody waters it")
}

func TestClaimsHaveAGrade(t *testing.T) {
	seen := map[string]bool{}
	for _, c := range Claims {
		require.Contains(t, []string{"A", "B", "C"}, c.Grade, c.ID)
		require.False(t, seen[c.ID], c.ID)
		seen[c.ID] = true
		require.NotEmpty(t, c.Answer)
	}
}
