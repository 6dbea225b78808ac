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
	require.Contains(t, told, "we counted 130 grubs per m²")
	require.Contains(t, told, "lifts like a carpet")
	require.Contains(t, told, "We ruled out drought")

	r = Diagnose(evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40),
		Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("straw-tan")}}, Options{})
	told = r.Told()
	require.Contains(t, told, "Not certain yet")
	require.Contains(t, told, "Next we would check")
}

// The good spot's temperature is weighed as a difference and told as it was read, on the ledger and among the answers to come.
func TestTheGoodSpotIsToldAsItWasRead(t *testing.T) {
	c := evidence.Case{Lawn: lawn("perennial-ryegrass", 7, 38), Findings: map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(33),
		"soil-temp-healthy-c": knowledge.NumberValue(28), "soil-moisture": knowledge.WordValue("moist")}}
	r := Diagnose(c, Options{})
	told := 0
	for _, x := range r.Causes {
		for _, b := range append(x.For, x.Against...) {
			if b.Finding == "soil-temp-healthy-c" {
				told++
				require.Equal(t, 28.0, *b.Value.Number, x.ID)
			}
		}
	}
	require.NotZero(t, told)
	require.Equal(t, 5.0, *r.Values["soil-temp-healthy-c"].Number)

	delete(c.Findings, "soil-temp-healthy-c")
	cf := &knowledge.Tables[knowledge.TableAt["soil-temp-healthy-c"]]
	m := newModel(c.Lawn, func(int) float64 { return 1 })
	m.known = c.Findings
	require.Equal(t, []string{"32 and more", "30 to 32", "28 to 30", "under 28"}, m.outcomeLabels(cf))
}

// Of a list each cause is given out by its own words, and ruled out by those of others.
func TestACauseIsToldByItsOwnWords(t *testing.T) {
	r := Diagnose(evidence.Case{Lawn: lawn("kentucky-bluegrass", 6, 40),
		Findings: map[string]knowledge.Value{"last-nitrogen-days": knowledge.NumberValue(200),
			"leaf-symptoms": knowledge.ListValue("hourglass-lesion-tan-with-brown-border", "older-leaves-yellow", "uniform-yellow"),
			"pattern":       knowledge.ListValue("small-round-spots")}}, Options{})
	said := func(cause string) string {
		for _, c := range r.Causes {
			if c.ID == cause {
				return knowledge.And(r.reasons(cause, c.For, 9, .1)) + " | " + knowledge.And(r.reasons(cause, c.Against, 9, .1))
			}
		}
		return ""
	}
	require.Regexp(t, `hourglass.* \|`, said("dollar-spot"))
	require.NotContains(t, said("dollar-spot"), "older leaves")
	require.Regexp(t, `older leaves are yellow.* \|`, said("nitrogen-deficiency"))
	require.NotContains(t, said("nitrogen-deficiency"), "hourglass")
	require.Regexp(t, `\| .*older leaves`, said("iron-chlorosis"))
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
