// Package morning writes the letter that people of a firm get before they leave: what is theirs today, what is due, and what is new.
package morning

import (
	"fmt"
	"strings"
	"time"
)

// Hour is the hour of the office's day from which the letters of a day go out (judgement: crews leave at seven).
const Hour = 5

// Letter is what a morning has for one person. Lists stand in the order in which they are read.
type Letter struct {
	Name     string
	Day      time.Time
	Visits   []Visit
	Calls    []Call // of clients, that nobody has booked yet
	Jobs     []Job
	Notices  []Notice
	Failed   int       // letters to clients that could not be sent
	Licence  time.Time // until when the person's own holds, where that is soon; zero for not
	DateForm string
}

// Visit is one stop in the order of driving.
type Visit struct {
	At       string // HH:MM, about when
	Expected string // HH:MM to HH:MM, where somebody waits; empty for any time
	Late     int    // minutes after the last at which they expected it
	Site     string
	Lawn     string // empty for the whole site
	Address  string
	Access   string
	Reason   string
	Since    time.Time // the day for which it was due, where that is over; zero for today
}

// Call is what a client told.
type Call struct{ Site, Lawn, Within string }

// Job is work that is due.
type Job struct {
	Site, Lawn, What string
	Since            time.Time // the day for which it was booked, where that is over; zero for today
}

// Notice is a thing that the watch has told for the first time, on so many lawns.
type Notice struct {
	Label string
	Lawns int
}

// most is how many lines of each list a letter holds (judgement: what is read standing up).
const most = 12

// licenceSoon is how long before a licence ends it is said every morning (judgement).
const licenceSoon = 30 * 24 * time.Hour

// LicenceSoon is the day on which a licence ends where that is to be said on a day; the zero time where it is not.
func LicenceSoon(until *time.Time, day time.Time) time.Time {
	if until == nil || until.Sub(day) > licenceSoon {
		return time.Time{}
	}
	return *until
}

// Empty reports that there is nothing to say.
func (l Letter) Empty() bool {
	return len(l.Visits)+len(l.Calls)+len(l.Jobs)+len(l.Notices)+l.Failed == 0 && l.Licence.IsZero()
}

// Subject is the head of the letter: "Mon 24 Aug: 5 visits, 2 jobs".
func (l Letter) Subject() string {
	var parts []string
	for _, p := range []struct {
		n    int
		name string
	}{{len(l.Visits), "visit"}, {len(l.Calls), "call"}, {len(l.Jobs), "job"}} {
		if p.n > 0 {
			parts = append(parts, counted(p.n, p.name))
		}
	}
	if len(parts) == 0 {
		parts = append(parts, "nothing booked")
	}
	return l.Day.Format("Mon ") + l.date(l.Day) + ": " + strings.Join(parts, ", ")
}

// Text is the letter; url is where the day's page is.
func (l Letter) Text(url string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "Good morning %s,\n", strings.Fields(l.Name + " .")[0])
	if !l.Licence.IsZero() {
		word := "ends"
		if l.Licence.Before(l.Day) {
			word = "ended"
		}
		fmt.Fprintf(&b, "\nYour licence %s on %s.\n", word, l.date(l.Licence))
	}
	list(&b, "Visits", l.Visits, l.visit)
	list(&b, "Clients have told us of", l.Calls, func(c Call) string {
		return c.Site + ", " + c.Lawn + ": somebody should be there " + c.Within
	})
	list(&b, "Work due", l.Jobs, func(j Job) string { return j.Site + ", " + j.Lawn + ": " + j.What + l.since(j.Since) })
	list(&b, "New overnight", l.Notices, func(n Notice) string { return n.Label + ": " + counted(n.Lawns, "lawn") })
	if l.Failed > 0 {
		fmt.Fprintf(&b, "\n%s to clients could not be sent.\n", counted(l.Failed, "letter"))
	}
	if l.Empty() {
		b.WriteString("\nNothing is booked for you today, and the night has brought nothing new.\n")
	}
	fmt.Fprintf(&b, "\nThe day: %s/\nTo stop these letters: %s/account\n", url, url)
	return b.String()
}

func (l Letter) visit(v Visit) string {
	var b strings.Builder
	if v.At != "" {
		b.WriteString(v.At + "  ")
	}
	b.WriteString(v.Site)
	if v.Lawn != "" {
		b.WriteString(", " + v.Lawn)
	}
	if v.Reason != "" {
		b.WriteString(": " + v.Reason)
	}
	b.WriteString(l.since(v.Since))
	for _, more := range []string{expected(v), v.Address, v.Access} {
		if more != "" {
			b.WriteString("\n         " + more)
		}
	}
	return b.String()
}

func expected(v Visit) string {
	switch {
	case v.Expected == "":
		return ""
	case v.Late > 0:
		return "Expected " + v.Expected + ". In this order you are " + counted(v.Late, "minute") + " late: call ahead"
	}
	return "Expected " + v.Expected
}

func (l Letter) since(day time.Time) string {
	if day.IsZero() {
		return ""
	}
	return " (due " + l.date(day) + ")"
}

// date says a day of about this year as the person writes it.
func (l Letter) date(day time.Time) string {
	if l.DateForm == "mdy" {
		return day.Format("Jan 2")
	}
	return day.Format("2 Jan")
}

func counted(n int, name string) string {
	if n == 1 {
		return "1 " + name
	}
	return fmt.Sprintf("%d %ss", n, name)
}

func list[T any](b *strings.Builder, title string, items []T, line func(T) string) {
	if len(items) == 0 {
		return
	}
	fmt.Fprintf(b, "\n%s\n", title)
	for i, x := range items {
		if i == most {
			fmt.Fprintf(b, "  and %d more\n", len(items)-most)
			return
		}
		fmt.Fprintf(b, "  %s\n", line(x))
	}
}
