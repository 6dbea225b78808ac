package evidence

import (
	"time"

	"hodos/core/knowledge"
)

// Answers that are no findings of the vocabulary: when damage was first seen, the damaged cells of the zone, and where on it something
// was pulled, counted or taken.
const (
	OnsetAnswer  = "onset"
	DamageAnswer = "damaged-cells"
	PointsAnswer = "points"
)

// Healthy is the good spot beside the bad one; every other answer is of the worst.
const Healthy = "healthy"

// Take puts what was answered on a visit in its place, a day of first sight as YYYY-MM-DD, or takes it out where plain is nil. An id or a
// value that the vocabulary does not know is not weighed.
func (c *Case) Take(finding, spot string, plain any) {
	switch finding {
	case OnsetAnswer:
		c.Onset = nil
		text, _ := plain.(string)
		if d, err := time.Parse(time.DateOnly, text); err == nil && !d.After(c.Lawn.Date) {
			c.Onset = &d
		}
		return
	case DamageAnswer, PointsAnswer:
		return // what follows from them are answers of their own
	}
	at := &c.Findings
	if spot == Healthy {
		at = &c.Reference
	}
	delete(*at, finding)
	f, ok := knowledge.FindingByID(finding)
	if !ok || plain == nil {
		return
	}
	v, err := knowledge.ValueOf(f, plain)
	if err != nil {
		return // an id that the vocabulary has given up: kept in the log, not weighed
	}
	if *at == nil {
		*at = map[string]knowledge.Value{}
	}
	(*at)[finding] = v
}
