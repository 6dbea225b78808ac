package client

import (
	"strings"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
)

func TestEveryCauseIsToldAClient(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range causeRows {
		require.False(t, seen[r.cause], "%s has two rows", r.cause)
		seen[r.cause] = true
		_, ok := knowledge.CauseByID(r.cause)
		require.True(t, ok, r.cause)
		for _, text := range []string{r.what, r.ends, r.back} {
			require.NotEmpty(t, text, r.cause)
			require.True(t, strings.HasSuffix(text, "."), "%s: %s", r.cause, text)
			require.LessOrEqual(t, utf8.RuneCountInString(text), 140, "%s: nobody reads on: %s", r.cause, text)
		}
	}
	for _, c := range knowledge.Causes() {
		about, ok := Of(c.ID)
		require.True(t, ok, "%s is not told", c.ID)
		require.NotEmpty(t, about.What)
	}
	_, ok := Of("nonsense")
	require.False(t, ok)
}

func TestRowsNameWhatThereIs(t *testing.T) {
	families := map[string]bool{}
	for _, c := range knowledge.Causes() {
		families[c.Family] = true
	}
	for _, r := range taskRows {
		for _, a := range strings.Fields(r.action) {
			require.True(t, remedy.Known(a), a)
		}
		require.LessOrEqual(t, r.from, r.to, r.text)
		require.Contains(t, Kinds(), r.kind, r.text)
		for _, us := range []bool{false, true} {
			text := units.Saying{Customary: us}.Literals(r.text)
			require.NotContains(t, text, "{", "a quantity that nobody reads: %s", text)
		}
	}
	for _, r := range standingRows {
		_, cause := knowledge.CauseByID(r.of)
		require.True(t, cause || families[r.of], r.of)
		require.Contains(t, Kinds(), r.kind, r.text)
	}
}

func TestHowSure(t *testing.T) {
	for p, want := range map[float64]Sureness{1: Sure, .9: Sure, .899: Likely, .7: Likely, .699: Probable, .5: Probable, .499: Open, 0: Open} {
		require.Equal(t, want, SureOf(p), "%g", p)
	}
}

func date(month time.Month, day int) time.Time {
	return time.Date(2026, month, day, 0, 0, 0, 0, time.UTC)
}

func texts(list []Task) []string {
	var out []string
	for _, t := range list {
		out = append(out, t.Text)
	}
	return out
}

func TestTheClientsPartFollowsTheWork(t *testing.T) {
	metric, us := units.Saying{}, units.Saying{Customary: true}
	seeded := []Work{{"overseed", date(9, 14)}}

	// on the day itself: seed damp, keep off; the later watering and the mowing are ahead
	list := Tasks(seeded, "", "", date(9, 14), metric)
	require.Len(t, list, 5)
	require.Equal(t, Task{Safety, true, date(9, 14), date(10, 12), "Keep off it. Dogs, too."}, list[0], "safety first")
	require.Equal(t, Water, list[1].Kind)
	require.Equal(t, date(10, 5), list[1].To)
	require.Equal(t, date(10, 5), list[3].From, "mowing comes with the fourth week")
	require.Equal(t, date(10, 6), list[4].From, "then deeper and less often")

	// two months later nothing of it is left
	require.Empty(t, Tasks(seeded, "", "", date(11, 10), metric))
	require.Len(t, Tasks(seeded, "", "", date(11, 9), metric), 1, "its last day counts")

	// what is booked counts from its day, and what comes before it is told before
	list = Tasks([]Work{{"core-aerate", date(9, 14)}}, "", "", date(9, 1), metric)
	require.Equal(t, Ready, list[0].Kind)
	require.Equal(t, date(9, 12), list[0].From)
	require.Equal(t, date(9, 13), list[0].To)

	// in the reader's units
	fed := []Work{{"apply-nitrogen", date(9, 1)}}
	require.Contains(t, texts(Tasks(fed, "", "", date(9, 1), metric)), "Water it in within a day: 6 mm, unless it rains.")
	for _, text := range texts(Tasks(fed, "", "", date(9, 1), us)) {
		require.NotContains(t, text, "mm")
	}
}

func TestWhatHoldsAsLongAsTheCause(t *testing.T) {
	list := Tasks(nil, "white-grubs", "insect", date(9, 1), units.Saying{})
	require.Len(t, list, 1)
	require.Equal(t, Tell, list[0].Kind)
	require.True(t, list[0].To.IsZero(), "until further notice")
	require.Empty(t, Tasks(nil, "", "insect", date(9, 1), units.Saying{}))
	require.Len(t, Tasks(nil, "brown-patch", "disease", date(9, 1), units.Saying{}), 2, "by its family")
}

func TestATaskIsToldOnce(t *testing.T) {
	twice := []Work{{"apply-nitrogen", date(9, 1)}, {"spoon-feed-nitrogen", date(9, 2)}, {"apply-nitrogen", date(9, 20)}}
	list := Tasks(twice, "", "", date(9, 2), units.Saying{})
	require.Len(t, list, 3)
	for _, x := range list {
		if x.Kind == Feed {
			require.Equal(t, date(11, 1), x.To, "the one that holds longest")
		}
	}
	shade := Tasks([]Work{{"prune-shade", date(9, 1)}}, "shade-thinning", "site-and-care", date(9, 1), units.Saying{})
	require.Len(t, shade, 1)
	require.True(t, shade[0].To.IsZero(), "what holds until further notice holds longest")

	var much []Work
	for _, r := range taskRows {
		for _, a := range strings.Fields(r.action) {
			much = append(much, Work{a, date(9, 1)})
		}
	}
	require.Len(t, Tasks(much, "", "", date(9, 1), units.Saying{}), MostTasks)
}
