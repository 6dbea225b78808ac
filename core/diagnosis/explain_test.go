package diagnosis

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

func TestToldNamesItsReasons(t *testing.T) {
	r := Diagnose(evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40),
		Findings: map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(130),
			"pull-test": knowledge.WordValue("lifts-like-carpet"), "soil-moisture": knowledge.WordValue("moist"),
			"footprints": knowledge.WordValue("spring-back")}}, Options{})
	told := r.Told()
	require.Contains(t, told, "Almost certainly white grubs")
	require.Contains(t, told, "grubs counted (130 per m²)")
	require.Contains(t, told, "lifts like a carpet")
	require.Contains(t, told, "We ruled out drought")

	r = Diagnose(evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40),
		Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("straw-tan")}}, Options{})
	told = r.Told()
	require.Contains(t, told, "Not certain yet")
	require.Contains(t, told, "The most useful next check")
}

// What is said to change the leader does so when it is answered, near enough to what was said: the sets that carry the
// mass stand for all of them.
func TestWhatWouldChangeThisDoes(t *testing.T) {
	c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40),
		Findings: map[string]knowledge.Value{"pattern": knowledge.ListValue("irregular-patches"),
			"soil-moisture": knowledge.WordValue("dry"), "footprints": knowledge.WordValue("stay")}}
	r := Diagnose(c, Options{})
	require.NotEmpty(t, r.Changes)
	for i, ch := range r.Changes {
		if i > 0 {
			require.LessOrEqual(t, ch.Chance, r.Changes[i-1].Chance)
		}
		f, ok := knowledge.FindingByID(ch.Finding)
		require.True(t, ok)
		if f.Kind != knowledge.OneOf {
			continue
		}
		c.Findings[ch.Finding] = knowledge.WordValue(ch.Outcome)
		then := Diagnose(c, Options{NoNext: true, NoLedger: true})
		require.Equal(t, ch.Leads, then.Causes[0].ID, ch)
		require.InDelta(t, ch.Then, then.Causes[0].Probability, .06, ch)
		delete(c.Findings, ch.Finding)
	}
}

func TestTellApart(t *testing.T) {
	c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40),
		Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("straw-tan")}}
	checks := TellApart(c, "white-grubs", "drought-stress", Options{})
	require.NotEmpty(t, checks)
	ids := map[string]Apart{}
	for i, x := range checks {
		ids[x.Finding] = x
		require.NotEqual(t, "colour", x.Finding, "it is known")
		if i > 0 {
			require.LessOrEqual(t, x.Bits/x.Minutes, checks[i-1].Bits/checks[i-1].Minutes)
		}
	}
	pull, ok := ids["pull-test"]
	require.True(t, ok, "%v", checks)
	for _, o := range pull.Outcomes {
		if o.Label == "lifts-like-carpet" {
			require.Greater(t, o.A, 5*o.B)
		}
	}
	require.Nil(t, TellApart(c, "white-grubs", "white-grubs", Options{}))
	require.Nil(t, TellApart(c, "white-grubs", "turf-mosaic-virus", Options{}), "bluegrass cannot have it")
	require.NotContains(t, names(TellApart(c, "white-grubs", "drought-stress", Options{Tools: map[string]bool{"pull": false}})), "pull-test")
}

func names(checks []Apart) (out []string) {
	for _, c := range checks {
		out = append(out, c.Finding)
	}
	return out
}

// Going to another station costs the way; the checks of one stop come together.
func TestNextChecksAreBundledByStation(t *testing.T) {
	c := evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40),
		Findings: map[string]knowledge.Value{"pattern": knowledge.ListValue("irregular-patches")}}
	here, there := Diagnose(c, Options{NoLedger: true}), Diagnose(c, Options{NoLedger: true, At: "soil"})
	was := map[string]float64{}
	for _, n := range here.Next {
		was[n.Procedure] = n.Minutes
	}
	for _, n := range there.Next {
		if n.Station == "soil" {
			require.InDelta(t, was[n.Procedure], n.Minutes, 1e-9, n.Procedure)
		} else {
			require.InDelta(t, was[n.Procedure]+knowledge.MoveMinutes, n.Minutes, 1e-9, n.Procedure)
		}
	}
	for _, n := range Bundle(there.Next) {
		require.Equal(t, there.Next[0].Station, n.Station)
	}
}
