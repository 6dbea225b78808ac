package evidence

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
	"hodos/core/weather"
)

var today = time.Date(2026, 6, 30, 0, 0, 0, 0, time.UTC)

func ago(days int) time.Time { return today.AddDate(0, 0, -days) }

func share(x float64) *float64 { return &x }

// treated is a lawn of tall fescue that was treated so many days ago and seen the day before.
func treated(action string, days int, was, now map[string]knowledge.Value) Case {
	return Case{Lawn: knowledge.Lawn{Date: today, Latitude: 40, Species: []string{"tall-fescue"}}, Findings: now,
		Treatments: []Treatment{{Date: ago(days), Action: action}}, Earlier: []Earlier{{Date: ago(days + 1), Findings: was}}}
}

func grubs(n float64) map[string]knowledge.Value {
	return map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(n)}
}

func colours(words ...string) map[string]knowledge.Value {
	return map[string]knowledge.Value{"colour": knowledge.ListValue(words...)}
}

// answerOf is what a case says of a treatment: the word and the sign that it was read off.
func answerOf(t *testing.T, c Case, finding string) (string, string) {
	t.Helper()
	g := Gather(c)
	for _, r := range g.Responses {
		if r.Finding == finding {
			require.Equal(t, r.Word, g.Values[finding].Word, "what is told is what is weighed")
			return r.Word, r.By
		}
	}
	require.Empty(t, g.Values[finding].Word)
	return "", ""
}

// A curative is judged by a new count: halved is better, three quarters left is none, between nobody can tell.
func TestACountJudgesACurative(t *testing.T) {
	for _, x := range []struct {
		days             int
		before, now      float64
		want, wantReason string
	}{
		{7, 100, 50, "better", "count"},
		{7, 100, 51, "", ""},
		{7, 100, 74, "", ""},
		{7, 100, 75, "none", "count"},
		{7, 100, 140, "none", "count"},
		{4, 100, 100, "", ""}, // too early to say that nothing came of it
		{4, 100, 20, "better", "count"},
		{2, 100, 20, "", ""},
		{31, 100, 20, "", ""},
		{7, 9, 0, "", ""}, // too few to fall
	} {
		word, by := answerOf(t, treated("insecticide-curative", x.days, grubs(x.before), grubs(x.now)), "answer-to-insecticide")
		require.Equal(t, []string{x.want, x.wantReason}, []string{word, by}, "%+v", x)
	}
}

// Dead ground does not close in a week: no smaller an area says nothing of an insecticide, new spread does.
func TestDeadGroundSaysNothingOfAnInsecticide(t *testing.T) {
	area := func(x float64) map[string]knowledge.Value {
		return map[string]knowledge.Value{"affected-area-percent": knowledge.NumberValue(x)}
	}
	c := treated("insecticide-curative", 8, area(30), area(30))
	word, _ := answerOf(t, c, "answer-to-insecticide")
	require.Empty(t, word)
	c.Looks = []Look{{Date: today, Spread: "new"}}
	word, by := answerOf(t, c, "answer-to-insecticide")
	require.Equal(t, []string{"none", "spread"}, []string{word, by})
	c.Earlier[0].Findings["grubs-per-m2"] = knowledge.NumberValue(100)
	c.Findings["grubs-per-m2"] = knowledge.NumberValue(10)
	word, by = answerOf(t, c, "answer-to-insecticide")
	require.Equal(t, []string{"better", "count"}, []string{word, by}, "a count goes before what is seen")
	word, _ = answerOf(t, treated("insecticide-curative", 8, area(30), area(10)), "answer-to-insecticide")
	require.Equal(t, "better", word)
}

// Of several counts the largest before it judges; of two alike always the same one.
func TestTheLargestCountJudges(t *testing.T) {
	two := func(a, b float64) map[string]knowledge.Value {
		return map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(a), "billbug-larvae-per-m2": knowledge.NumberValue(b)}
	}
	for range 30 {
		g := Gather(treated("insecticide-curative", 7, two(100, 40), two(10, 40)))
		require.Equal(t, []string{"grubs-per-m2", "better"}, []string{g.Responses[0].Count, g.Responses[0].Word})
		g = Gather(treated("insecticide-curative", 7, two(60, 60), two(60, 10)))
		require.Equal(t, []string{"billbug-larvae-per-m2", "better"}, []string{g.Responses[0].Count, g.Responses[0].Word})
	}
}

// Cover measured at two looks answers for water, and new spread for a fungicide.
func TestLooksAnswer(t *testing.T) {
	c := treated("water-deep", 12, nil, nil)
	c.Looks = []Look{{Date: ago(12), Cover: share(.2)}, {Date: today, Cover: share(.3)}}
	word, by := answerOf(t, c, "answer-to-water")
	require.Equal(t, []string{"none", "cover"}, []string{word, by})
	c.Looks[1].Cover = share(.47)
	word, _ = answerOf(t, c, "answer-to-water")
	require.Equal(t, "better", word, "a third of what was bare has closed")
	c.Looks[0].Cover = share(.96)
	word, _ = answerOf(t, c, "answer-to-water")
	require.Empty(t, word, "there was nothing to close")
	c.Looks = c.Looks[1:]
	word, _ = answerOf(t, c, "answer-to-water")
	require.Empty(t, word, "one look is no comparison")

	sprayed := treated("fungicide-curative", 14, nil, nil)
	sprayed.Looks = []Look{{Date: today, Cover: share(.5)}, {Date: today, Spread: "new"}}
	word, by = answerOf(t, sprayed, "answer-to-fungicide")
	require.Equal(t, []string{"none", "spread"}, []string{word, by})
	sprayed.Treatments[0].Date = ago(13)
	word, _ = answerOf(t, sprayed, "answer-to-fungicide")
	require.Empty(t, word, "a fortnight is due to it")
}

// Iron greens in days: by words, and by photographs where nobody said a colour.
func TestColourAnswersForIron(t *testing.T) {
	c := treated("apply-iron", 3, colours("yellow"), colours("yellow"))
	word, _ := answerOf(t, c, "answer-to-iron")
	require.Empty(t, word, "no answer can be said from the fourth day on")
	c.Findings = colours("dark-green")
	word, by := answerOf(t, c, "answer-to-iron")
	require.Equal(t, []string{"better", "colour"}, []string{word, by})

	seen := treated("apply-iron", 5, nil, nil)
	seen.Looks = []Look{{Date: ago(6), Index: share(.3)}, {Date: today, Index: share(.36)}}
	word, by = answerOf(t, seen, "answer-to-iron")
	require.Equal(t, []string{"better", "index"}, []string{word, by})
	seen.Looks[1].Index = share(.33)
	word, _ = answerOf(t, seen, "answer-to-iron")
	require.Equal(t, "none", word)
}

// In weather in which nothing grows, no answer is no evidence, and the notice says why.
func TestNoAnswerInTheColdIsNoEvidence(t *testing.T) {
	c := treated("apply-nitrogen", 14, colours("yellow"), colours("yellow"))
	word, _ := answerOf(t, c, "answer-to-nitrogen")
	require.Equal(t, "none", word)
	for i := range 14 {
		c.Weather = append(c.Weather, weather.Day{Date: ago(13 - i), TMin: share(2), TMax: share(9)})
	}
	word, _ = answerOf(t, c, "answer-to-nitrogen")
	require.Empty(t, word)
	told := false
	for _, n := range Gather(c).Notices {
		told = told || n.About == "answer-to-nitrogen"
	}
	require.True(t, told)
	for i := range c.Weather {
		c.Weather[i].TMin, c.Weather[i].TMax = share(14), share(26)
	}
	word, _ = answerOf(t, c, "answer-to-nitrogen")
	require.Equal(t, "none", word)
}

// What stood more than a month before a treatment, or after it, is not what it found.
func TestOnlyWhatStoodBeforeItCounts(t *testing.T) {
	c := treated("insecticide-curative", 7, grubs(100), grubs(10))
	c.Earlier[0].Date = ago(7 + 31)
	word, _ := answerOf(t, c, "answer-to-insecticide")
	require.Empty(t, word)
	c.Earlier[0].Date = ago(6)
	word, _ = answerOf(t, c, "answer-to-insecticide")
	require.Empty(t, word)
}
