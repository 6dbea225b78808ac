package server

import (
	"fmt"
	"strings"
	"time"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/knowledge"
	"hodos/core/recovery"
	"hodos/store"
)

// clientWords says things to a client, on the screen and on paper alike, with dates as the firm writes them.
type clientWords struct {
	today time.Time
	form  [2]string // of a date without its year, and with it
}

// dateForms are the forms of a date without its year and with it.
var dateForms = map[string][2]string{"dmy": {"2 Jan", "2 Jan 2006"}, "mdy": {"Jan 2", "Jan 2, 2006"}, "ymd": {"01-02", "2006-01-02"}}

func wordsFor(p casework.ClientPage) clientWords {
	return clientWords{p.Today, dateForms[p.Firm.DateForm]}
}

func (w clientWords) short(t time.Time) string { return t.Format(w.form[0]) }
func (w clientWords) long(t time.Time) string  { return t.Format(w.form[1]) }

var sureSaid = map[client.Sureness]string{
	client.Sure: "We are sure.", client.Likely: "Very likely.", client.Probable: "Most likely; we keep an eye on it.",
	client.Open: "Not settled yet.",
}

// found says how sure a diagnosis is; of one that is history it says when that was.
func (w clientWords) found(t *casework.Told) string {
	if !t.Past {
		return sureSaid[t.Sure]
	}
	say := "Found on " + w.long(t.Given.GivenOn)
	if t.Ended != nil && t.Ended.Ended == store.Mended {
		say += ", mended on " + w.long(t.Ended.ClosedOn)
	}
	return say + "."
}

// sentence makes one of clauses; empty for none.
func sentence(clauses []string) string {
	if len(clauses) == 0 {
		return ""
	}
	return knowledge.UpperFirst(knowledge.And(clauses)) + "."
}

var courseSaid = map[recovery.Verdict]string{
	recovery.OnCourse: "It is recovering as expected.", recovery.Slow: "It is recovering more slowly than usual.",
	recovery.OffCourse: "It is not recovering as expected. We will look at it again.", recovery.Recovered: "It has recovered.",
}

// course says how the recovery goes and when it should be green again.
func (w clientWords) course(j casework.Judged) string {
	say := courseSaid[j.Verdict]
	early, mid, late := j.GreenDays()
	switch {
	case j.Verdict == recovery.Recovered || mid.IsZero():
	case !mid.After(w.today):
		say += " It should be green by now; we will measure it on our next visit."
	case early.After(w.today) && !late.IsZero() && early.Before(late):
		say += fmt.Sprintf(" Green again about %s, between %s and %s.", w.long(mid), w.short(early), w.long(late))
	default:
		say += " Green again about " + w.long(mid) + "."
	}
	return strings.TrimSpace(say)
}

// closed says how long nobody goes on a lawn.
func (w clientWords) closed(t *casework.Told) string {
	if t.Wet {
		return "People and pets keep off until it has been watered in and is dry again."
	}
	return fmt.Sprintf("People and pets keep off until %s on %s, and until the grass is dry.", t.Closed.Format("15:04"), w.long(*t.Closed))
}

var kindSaid = map[client.Kind]string{client.Safety: "Safety", client.Water: "Watering", client.Mow: "Mowing", client.Feed: "Feeding",
	client.Ready: "Before we come", client.Tell: "Tell us"}

// when says when a task holds, seen from today.
func (w clientWords) when(x client.Task) string {
	switch {
	case x.To.IsZero():
		return "for now"
	case !x.From.After(w.today) && x.To.Equal(w.today):
		return "today"
	case !x.From.After(w.today):
		return "until " + w.long(x.To)
	case x.To.Equal(x.From):
		return w.long(x.From)
	}
	return w.short(x.From) + " to " + w.long(x.To)
}
