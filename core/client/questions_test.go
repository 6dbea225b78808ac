package client

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

// Every choice of every question is a value that its finding takes, and no choice stands for nothing.
func TestEveryAnswerIsAFinding(t *testing.T) {
	asked := map[string]bool{}
	for _, q := range Questions() {
		require.False(t, asked[q.Finding], q.Finding)
		asked[q.Finding] = true
		f, ok := knowledge.FindingByID(q.Finding)
		require.True(t, ok, q.Finding)
		require.True(t, f.Asked(), q.Finding)
		require.GreaterOrEqual(t, len(q.Choices), 2, q.Finding)
		require.Equal(t, f.Kind == knowledge.AnyOf, q.Many, q.Finding)
		for _, c := range q.Choices {
			plain, err := Told(q.Finding, []string{c.ID})
			require.NoError(t, err, "%s %s", q.Finding, c.ID)
			_, err = knowledge.ValueOf(f, plain)
			require.NoError(t, err, "%s %s", q.Finding, c.ID)
			require.NotEmpty(t, c.Text)
			require.Equal(t, c.Text, ChoiceText(q.Finding, c.ID))
		}
	}
	for _, c := range choiceRows {
		require.True(t, asked[c.finding], "%s is answered but not asked", c.finding)
	}
	require.NotEmpty(t, Until())
}

func TestWhatIsNoAnswer(t *testing.T) {
	both, err := Told("colour", []string{"brown", "yellow"})
	require.NoError(t, err)
	require.Equal(t, []any{"brown", "yellow"}, both)
	yes, err := Told("dog-on-lawn", []string{"yes"})
	require.NoError(t, err)
	require.Equal(t, true, yes)
	days, err := Told("days-since-water", []string{"10"})
	require.NoError(t, err)
	require.Equal(t, 10.0, days)
	for _, x := range []struct {
		finding string
		picked  []string
		want    string
	}{
		{"grubs-per-m2", []string{"5"}, "no question"},
		{"colour", nil, "nothing is picked"},
		{"onset-speed", []string{"days", "weeks"}, "only one"},
		{"colour", []string{"tartan"}, "no answer"},
		{"colour", []string{"brown", "brown"}, "twice"},
		{"days-since-water", []string{"11"}, "no answer"},
	} {
		_, err := Told(x.finding, x.picked)
		require.ErrorContains(t, err, x.want)
	}
}
