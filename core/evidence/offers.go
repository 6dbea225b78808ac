package evidence

import (
	"maps"
	"slices"
	"strings"
	"time"

	"hodos/core/knowledge"
)

// Where an offer is from.
const (
	FromRecords = "records" // a dated record of this zone; it counts without being confirmed
	FromVisit   = "visit"   // a former visit of this zone
	FromZone    = "zone"    // another zone on this visit
	FromClient  = "client"  // the client, before the visit
	FromFirm    = "firm"    // the firm's like lawns round about
)

// Offer is an answer that somebody or something has given already: it is filled in with its source and only has to be confirmed.
type Offer struct {
	Finding, Spot string // spot: worst or healthy
	Value         knowledge.Value
	Source        string
	On            time.Time // the day of the record or the visit
	Zone          string    // id of the other zone
}

// pastYears is how long a confirmed cause is told of as an earlier one (the question asks for three years).
const pastYears = 3

// Offers are the answers that records and former visits of the zone give: dated records first, then the newest visit that says. Findings
// that are answered in the case are not offered. They are in the order of the vocabulary.
func Offers(c Case) []Offer {
	found := map[string]Offer{}
	for _, e := range slices.SortedFunc(slices.Values(c.Earlier), func(a, b Earlier) int { return a.Date.Compare(b.Date) }) {
		age := c.Lawn.Date.Sub(e.Date).Hours() / 24
		if age <= 0 || age > lastingDays {
			continue
		}
		for id, v := range e.Findings {
			if f, ok := knowledge.FindingByID(id); ok && stillHolds(f, age) {
				found[id] = Offer{Finding: id, Spot: "worst", Value: v, Source: FromVisit, On: e.Date}
			}
		}
	}
	maps.Copy(found, recorded(c))
	out := []Offer{}
	for _, f := range knowledge.Findings() {
		if o, ok := found[f.ID]; ok {
			if _, said := c.Findings[f.ID]; !said {
				out = append(out, o)
			}
		}
	}
	return out
}

// stillFresh is how long what was seen, not measured, is offered again, days (judgement).
const stillFresh = 14

// stillHolds reports whether an answer of so many days ago is worth offering: what the client tells and what lasts, and what was only seen
// while it is fresh. What was counted or measured is counted or measured again.
func stillHolds(f *knowledge.Finding, age float64) bool {
	switch {
	case f.Station == "lab" || f.Station == "derived":
		return false
	case f.Station == "ask" || f.Lasts:
		return true
	}
	return age <= stillFresh && f.Kind != knowledge.Number
}

// SameElsewhere reports whether an answer of another zone on the same visit is worth offering.
func SameElsewhere(f *knowledge.Finding) bool { return stillHolds(f, 0) }

// recorded are the findings that dated records answer by themselves.
func recorded(c Case) map[string]Offer {
	g := Gathered{Values: map[string]knowledge.Value{}}
	g.fromTreatments(c, func(string, string, ...any) {})
	var past []string
	out := map[string]Offer{}
	for _, e := range c.Earlier {
		if e.Cause == "" || e.Date.AddDate(pastYears, 0, 0).Before(c.Lawn.Date) {
			continue
		}
		if !slices.Contains(past, e.Cause) {
			past = append(past, e.Cause)
		}
		if e.Date.After(out[pastCauses].On) {
			out[pastCauses] = Offer{On: e.Date}
		}
	}
	if past != nil {
		slices.Sort(past)
		g.Values[pastCauses] = knowledge.Value{List: past}
	}
	for id, v := range g.Values {
		on := out[id].On
		for _, t := range c.Treatments {
			if answers(t.Action, id) && t.Date.After(on) && !t.Date.After(c.Lawn.Date) {
				on = t.Date
			}
		}
		out[id] = Offer{Finding: id, Spot: "worst", Value: v, Source: FromRecords, On: on}
	}
	return out
}

const pastCauses = "past-causes"

// answers reports whether a record of an action answers a finding.
func answers(action, finding string) bool {
	if finding == fedDays || finding == fedSource || finding == fedYear {
		return slices.Contains(strings.Fields(fed), action)
	}
	return slices.ContainsFunc(doneRows, func(r doneRow) bool {
		return r.finding == finding && slices.Contains(strings.Fields(r.actions), action)
	})
}
