package remedy

import (
	"slices"
	"strings"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/sky"
	"hodos/core/units"
	"hodos/core/worth"
)

// Prevention is a preventive whose season stands open or opens within days: the same rows that the plan speaks from.
type Prevention struct {
	Action, Cause string
	Season        string    // its name
	From, To      time.Time // the stretch of days, as measured, forecast and by the normals of the place
}

// Preventions lists the preventives of a zone that are due on the day of the case or open within so many days, for what is on
// record there. It asks no probability: history alone opens them.
func Preventions(c evidence.Case, k sky.Sky, had map[string]bool, ahead int, say units.Saying) (out []Prevention) {
	values := map[string]knowledge.Value{}
	for id, v := range c.Findings {
		values[id] = v
	}
	past := append([]string{}, values["past-causes"].List...)
	for _, r := range preventiveRows {
		if had[r.cause] {
			past = append(past, r.cause)
		}
	}
	if len(past) == 0 {
		return nil
	}
	values["past-causes"] = knowledge.ListValue(past...)
	s := survey(c, diagnosis.Result{Values: values, Lawn: c.Lawn, Sky: k, Prices: worth.DefaultPrices}, say)
	family := "C"
	if terms["warm"](s, 0) == yes {
		family = "W"
	}
	for i := range actions {
		a := &actions[i]
		for _, x := range preventivesOf[a.id] {
			if !strings.Contains(x.family, family) || history(s, 0, x.cause) != yes || x.asked(s, 0) != yes {
				continue
			}
			if interval := classes[a.class].interval; s.since(a.class) < interval {
				continue
			}
			from, to, ok := s.next(func(k int) bool { return x.opens(s, k) == yes }, -preventionBack)
			if !ok || to < 0 {
				from, to, ok = s.next(func(k int) bool { return x.opens(s, k) == yes }, 0)
			}
			if ok && from <= ahead {
				out = append(out, Prevention{a.id, x.cause, s.tell(x.name, a), s.day(from), s.day(to)})
			}
		}
	}
	return out
}

// preventionBack is how far back the beginning of an open season is looked for, days.
const preventionBack = 60

// Prevented reports whether a cause has a preventive with a season of its own.
func Prevented(cause string) bool {
	for _, r := range preventiveRows {
		if r.cause == cause {
			return true
		}
	}
	return false
}

// PreventivesOf are the actions that prevent a cause, each once.
func PreventivesOf(cause string) []string {
	var out []string
	for _, r := range preventiveRows {
		if r.cause == cause && !slices.Contains(out, r.action) {
			out = append(out, r.action)
		}
	}
	return out
}
