package server

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/recovery"
	"hodos/store"
)

func onDay(month time.Month, day int) time.Time {
	return time.Date(2026, month, day, 0, 0, 0, 0, time.UTC)
}

func words(form string) clientWords { return clientWords{onDay(8, 24), dateForms[form]} }

func TestWhatIsSaidOfACourse(t *testing.T) {
	judged := func(v recovery.Verdict, early, mid, late int) casework.Judged {
		j := casework.Judged{From: onDay(8, 1), Early: early, Mid: mid, Late: late}
		j.Verdict = v
		return j
	}
	for want, j := range map[string]casework.Judged{
		"It is recovering as expected. Green again about 20 Sep 2026, between 10 Sep and 5 Oct 2026.":    judged(recovery.OnCourse, 40, 50, 65),
		"It is recovering more slowly than usual. Green again about 20 Sep 2026.":                        judged(recovery.Slow, 40, 50, -1),
		"It is not recovering as expected. We will look at it again.":                                    judged(recovery.OffCourse, -1, -1, -1),
		"It is recovering as expected. It should be green by now; we will measure it on our next visit.": judged(recovery.OnCourse, 10, 23, 40),
		"It has recovered.":              judged(recovery.Recovered, 20, 20, 20),
		"Green again about 25 Aug 2026.": judged(recovery.NotYet, 24, 24, 24),
		"":                               judged(recovery.NotYet, -1, -1, -1),
	} {
		require.Equal(t, want, words("dmy").course(j))
	}
}

func TestWhatIsSaidOfAFinding(t *testing.T) {
	given := &store.Diagnosis{GivenOn: onDay(7, 2)}
	for want, told := range map[string]casework.Told{
		"We are sure.":                       {Given: given, Sure: client.Sure},
		"Very likely.":                       {Given: given, Sure: client.Likely},
		"Most likely; we keep an eye on it.": {Given: given, Sure: client.Probable},
		"Not settled yet.":                   {Given: given, Sure: client.Open},
		"Found on 2 Jul 2026.":               {Given: given, Past: true},
		"Found on 2 Jul 2026, mended on 1 Aug 2026.": {Given: given, Past: true,
			Ended: &store.Closing{Ended: store.Mended, ClosedOn: onDay(8, 1)}},
	} {
		require.Equal(t, want, words("dmy").found(&told))
	}
}

func TestWhenATaskHolds(t *testing.T) {
	for _, c := range []struct {
		from, to time.Time
		want     string
	}{
		{onDay(8, 24), time.Time{}, "for now"},
		{onDay(8, 24), onDay(8, 24), "today"},
		{onDay(8, 24), onDay(9, 2), "until 2 Sep 2026"},
		{onDay(8, 26), onDay(8, 26), "26 Aug 2026"},
		{onDay(8, 26), onDay(9, 2), "26 Aug to 2 Sep 2026"},
	} {
		require.Equal(t, c.want, words("dmy").when(client.Task{From: c.from, To: c.to}))
	}
	require.Equal(t, "Aug 26 to Sep 2, 2026", words("mdy").when(client.Task{From: onDay(8, 26), To: onDay(9, 2)}))
	require.Equal(t, "08-26 to 2026-09-02", words("ymd").when(client.Task{From: onDay(8, 26), To: onDay(9, 2)}))
}

func TestHowLongALawnIsClosed(t *testing.T) {
	until := onDay(8, 25).Add(14*time.Hour + 30*time.Minute)
	require.Equal(t, "People and pets keep off until 14:30 on 25 Aug 2026, and until the grass is dry.",
		words("dmy").closed(&casework.Told{Closed: &until}))
	require.Equal(t, "People and pets keep off until it has been watered in and is dry again.",
		words("dmy").closed(&casework.Told{Closed: &until, Wet: true}))
}

func TestEveryKindOfTaskHasAName(t *testing.T) {
	for _, k := range client.Kinds() {
		require.NotEmpty(t, kindSaid[k], k)
	}
}
