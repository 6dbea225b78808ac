package diagnosis

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/weather"
)

func at(c evidence.Case, finding string) string { return evidence.Gather(c).Values[finding].Word }

func TestTheTwoCoresAreADifference(t *testing.T) {
	l := lawn("tall-fescue", 7, 38)
	cores := func(bad, good string) evidence.Case {
		return evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-moisture": knowledge.WordValue(bad)},
			Reference: map[string]knowledge.Value{"soil-moisture": knowledge.WordValue(good)}}
	}
	require.Equal(t, "drier", at(cores("dry", "moist"), "moisture-against-healthy"))
	require.Equal(t, "same", at(cores("dry", "dry"), "moisture-against-healthy"))
	require.Equal(t, "wetter", at(cores("wet", "moist"), "moisture-against-healthy"))
	require.Empty(t, at(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("dry")}},
		"moisture-against-healthy"),
		"one core is no difference")

	alone := Diagnose(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("dry")}},
		Options{NoNext: true})
	drier, same := Diagnose(cores("dry", "moist"), Options{NoNext: true}), Diagnose(cores("dry", "dry"), Options{NoNext: true})
	for _, id := range []string{"localized-dry-spot", "irrigation-coverage-gap"} {
		require.Greater(t, drier.P(id), alone.P(id), id)
		require.Less(t, same.P(id), alone.P(id)/2, "the same moisture in both rules water out as the difference: %s", id)
	}
	vwc := evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-moisture-vwc": knowledge.NumberValue(12)},
		Reference: map[string]knowledge.Value{"soil-moisture-vwc": knowledge.NumberValue(25)}}
	require.Equal(t, "drier", at(vwc, "moisture-against-healthy"))
}

// What was done and what came of it: watered ten days ago and no smaller speaks for grubs against drought.
func TestTheAnswerToATreatmentIsEvidence(t *testing.T) {
	l := lawn("kentucky-bluegrass", 8, 40)
	day := func(ago int) time.Time { return l.Date.AddDate(0, 0, -ago) }
	visit := func(action string, treatedAgo, before, now float64) evidence.Case {
		return evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"affected-area-percent": knowledge.NumberValue(now)},
			Treatments: []evidence.Treatment{{Date: day(int(treatedAgo)), Action: action}},
			Earlier: []evidence.Earlier{{Date: day(int(treatedAgo) + 1),
				Findings: map[string]knowledge.Value{"affected-area-percent": knowledge.NumberValue(before)}}}}
	}
	require.Equal(t, "none", at(visit("water-deep", 10, 30, 32), "answer-to-water"))
	require.Equal(t, "better", at(visit("water-deep", 10, 30, 12), "answer-to-water"))
	require.Empty(t, at(visit("water-deep", 2, 30, 12), "answer-to-water"), "two days are too few to tell")
	require.Empty(t, at(visit("water-deep", 60, 30, 12), "answer-to-water"), "two months are too many")
	require.Equal(t, "better", at(visit("insecticide-curative", 7, 30, 10), "answer-to-insecticide"))

	none, better := Diagnose(visit("water-deep", 10, 30, 32), Options{NoNext: true}),
		Diagnose(visit("water-deep", 10, 30, 12), Options{NoNext: true})
	require.Greater(t, better.P("drought-stress"), 2*none.P("drought-stress"))
	require.Greater(t, none.P("white-grubs"), better.P("white-grubs"))
	said := false
	for _, n := range none.Notices {
		said = said || n.About == "answer-to-water"
	}
	require.True(t, said, "the notice names the two visits")

	iron := evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("dark-green")},
		Treatments: []evidence.Treatment{{Date: day(4), Action: "apply-iron"}}, Earlier: []evidence.Earlier{{Date: day(4),
			Findings: map[string]knowledge.Value{"colour": knowledge.ListValue("lime-green", "yellow")}}}}
	require.Equal(t, "better", at(iron, "answer-to-iron"))
	iron.Findings["colour"] = knowledge.ListValue("yellow", "lime-green")
	require.Equal(t, "none", at(iron, "answer-to-iron"))
	iron.Earlier = nil
	require.Empty(t, at(iron, "answer-to-iron"), "without a visit before there is nothing to compare")
}

// A wet core in dry weeks wins over the balance, takes its finding off the scales, corrects it, and asks where the water comes
// from; a core that agrees leaves the balance alone. A thermometer far from the model does the same for the soil.
func TestACoreAndAThermometerOverruleTheModel(t *testing.T) {
	l := lawn("tall-fescue", 7, 38)
	no := false
	l.Irrigated = &no
	var days []weather.Day
	for i := range 60 {
		lo, hi, rain := 20.0, 33.0, 0.0
		days = append(days, weather.Day{Date: l.Date.AddDate(0, 0, i-59), TMin: &lo, TMax: &hi, Rain: &rain})
	}
	look := func(found map[string]knowledge.Value) (evidence.Gathered, string) {
		g := evidence.Gather(evidence.Case{Lawn: l, Findings: found, Weather: days})
		said := ""
		for _, n := range g.Notices {
			said += n.About + ": " + n.Text + "\n"
		}
		return g, said
	}
	g, said := look(map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("wet")})
	require.NotContains(t, g.Values, "soil-water-deficit", "one fact, and the core is the better witness")
	require.Contains(t, said, "is there water from elsewhere?")
	g, said = look(map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("dry")})
	require.Equal(t, "severe", g.Values["soil-water-deficit"].Word)
	require.NotContains(t, said, "the core counts")

	g, said = look(map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(14), "soil-temp-hour": knowledge.NumberValue(15)})
	require.NotContains(t, g.Values, "soil-temp-class")
	require.Contains(t, said, "the thermometer counts")
	c := evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(14),
		"soil-temp-hour": knowledge.NumberValue(15)}, Weather: days}
	s, _, _ := c.Sky(c.Findings)
	last := weather.SoilDay{Mean: s.Points[59].SoilMean, Amplitude: s.Points[59].SoilPeak - s.Points[59].SoilMean}
	require.InDelta(t, 14, last.At(15), 1e-9, "the course goes through the reading at its hour")
}
