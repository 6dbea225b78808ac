package clearance

import (
	"time"

	"hodos/core/label"
)

// dries is how long a wet leaf takes to dry on a usual day, hours (judgement: it is looked at before the sign comes down).
const dries = 2.0

// DryAfter is when what was wetted then is dry.
func DryAfter(at time.Time) time.Time { return at.Add(time.Duration(dries * float64(time.Hour))) }

// KeptOff is when people and pets may come back: the later of dry and the label's hours; of what must be watered in, after watered in
// and dry. ok is false while it has still to be watered in.
func KeptOff(l *label.Label, ended time.Time, wateredIn *time.Time) (until time.Time, ok bool) {
	hours := func(h float64) time.Duration { return time.Duration(h * float64(time.Hour)) }
	until = ended
	if l == nil {
		return until, true
	}
	if l.Sprayed() {
		until = ended.Add(hours(dries))
	}
	if by := ended.Add(hours(l.ReentryHours)); by.After(until) {
		until = by
	}
	if !l.ReentryWateredIn {
		return until, true
	}
	if wateredIn == nil {
		return until, false
	}
	if by := DryAfter(*wateredIn); by.After(until) {
		until = by
	}
	return until, true
}
