package morning

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func day(d int) time.Time { return time.Date(2026, 8, d, 0, 0, 0, 0, time.UTC) }

func TestALetterByHand(t *testing.T) {
	l := Letter{Name: "Tam Whitlock", Day: day(24), Licence: day(30), DateForm: "dmy",
		Visits: []Visit{
			{At: "08:10", Site: "14 Quill Lane", Reason: "Brown in spite of watering", Address: "14 Quill Lane, Hollin Bend", Access: "Latch sticks."},
			{At: "09:05", Expected: "08:00 to 09:00", Late: 5, Site: "Mill Ferry", Lawn: "Verge", Since: day(21)},
			{At: "10:00", Expected: "10:00 to 12:00", Site: "Harrow Green 5"}},
		Calls:   []Call{{"3 Sallow Court", "Front lawn", "this week"}},
		Jobs:    []Job{{"Weir Row", "No. 1", "Feed nitrogen", day(20)}, {"Weir Row", "No. 2", "Overseed", time.Time{}}},
		Notices: []Notice{{"Brown patch", 1}, {"Heat", 3}},
		Failed:  1,
	}
	require.False(t, l.Empty())
	require.Equal(t, "Mon 24 Aug: 3 visits, 1 call, 2 jobs", l.Subject())
	require.Equal(t, `Good morning Tam,

Your licence ends on 30 Aug.

Visits
  08:10  14 Quill Lane: Brown in spite of watering
         14 Quill Lane, Hollin Bend
         Latch sticks.
  09:05  Mill Ferry, Verge (due 21 Aug)
         Expected 08:00 to 09:00. In this order you are 5 minutes late: call ahead
  10:00  Harrow Green 5
         Expected 10:00 to 12:00

Clients have told us of
  3 Sallow Court, Front lawn: somebody should be there this week

Work due
  Weir Row, No. 1: Feed nitrogen (due 20 Aug)
  Weir Row, No. 2: Overseed

New overnight
  Brown patch: 1 lawn
  Heat: 3 lawns

1 letter to clients could not be sent.

The day: https://hodos.example/
To stop these letters: https://hodos.example/account
`, l.Text("https://hodos.example"))
	l.DateForm = "mdy"
	require.Equal(t, "Mon Aug 24: 3 visits, 1 call, 2 jobs", l.Subject())
	l.Licence = day(20)
	require.Contains(t, l.Text(""), "Your licence ended on Aug 20.")
}

func TestALongListIsCut(t *testing.T) {
	l := Letter{Name: "", Day: day(24)}
	for range most + 3 {
		l.Jobs = append(l.Jobs, Job{Site: "Row", Lawn: "No. 1", What: "Feed"})
	}
	text := l.Text("")
	require.Contains(t, text, "  and 3 more\n")
	require.Contains(t, l.Subject(), "15 jobs", "what is cut is counted")
	l.Jobs = l.Jobs[:most]
	require.NotContains(t, l.Text(""), "more")
}

func TestNothingToSay(t *testing.T) {
	l := Letter{Name: "Dora", Day: day(24)}
	require.True(t, l.Empty())
	require.Equal(t, "Mon 24 Aug: nothing booked", l.Subject())
	require.Contains(t, l.Text(""), "Nothing is booked for you today")
	for _, some := range []Letter{{Licence: day(1)}, {Failed: 1}, {Notices: []Notice{{"Heat", 1}}}, {Calls: []Call{{}}}, {Jobs: []Job{{}}},
		{Visits: []Visit{{}}}} {
		require.False(t, some.Empty())
	}
}

func TestALicenceThatEndsSoonIsSaid(t *testing.T) {
	until := day(24).AddDate(0, 0, 30)
	require.Equal(t, until, LicenceSoon(&until, day(24)))
	require.Zero(t, LicenceSoon(&until, day(23)), "in 31 days")
	require.Zero(t, LicenceSoon(nil, day(24)))
	gone := day(1)
	require.Equal(t, gone, LicenceSoon(&gone, day(24)), "and after it has ended")
}
