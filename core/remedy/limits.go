package remedy

import (
	"math"
	"time"
)

// Limit is what the count of a pest is held against on this stand.
type Limit struct {
	Finding, Cause string
	Stand          string    // sound, usual or stressed: what the stand bears
	PerM2          float64   // from this many on treating pays; +Inf for a harmless kind
	Feeds          bool      // they still feed today
	FeedsUntil     time.Time // the last day on which they do, by weather and normals; zero beyond what is looked at
}

// limits are those of everything that is counted, one for a finding.
func (s *situation) limits() (out []Limit) {
	seen := map[string]bool{}
	for i := range pests {
		p := &pests[i]
		cause := p.cause
		if owner := s.counted(p.kind); owner != "" {
			cause = owner
		}
		if seen[p.finding] {
			continue
		}
		seen[p.finding] = true
		l := Limit{Finding: p.finding, Cause: cause, PerM2: s.tier(cause), Stand: "usual"}
		s.about(cause, func() {
			switch {
			case terms["stressed"](s, 0) == yes:
				l.Stand = "stressed"
			case terms["sound"](s, 0) == yes:
				l.Stand = "sound"
			}
		})
		if s.num(p.finding) > 0 && p.killed != "" {
			l.Feeds, l.FeedsUntil = s.feedsUntil(cause)
		}
		out = append(out, l)
	}
	return out
}

// feedsUntil is whether larvae feed today, and the last day on which they do: until the soil has been under what they feed at for five
// days, or, where they are grown, until it has warmed to where they pupate.
func (s *situation) feedsUntil(cause string) (now bool, until time.Time) {
	least, pupate := s.feedsDownTo(cause), math.Inf(1)
	for i := range grownRows {
		if g := &grownRows[i]; g.cause == cause && grownOf[cause](s, 0) == yes {
			pupate = g.pupate
		}
	}
	stops := func(k int) bool {
		t := s.mean(k-4, k, soilOf)
		return math.IsNaN(t) || t < least || t >= pupate
	}
	if stops(0) {
		return false, time.Time{}
	}
	for k := 1; k < len(s.days)-courseBack; k++ {
		if stops(k) {
			return true, s.day(k - 1)
		}
	}
	return true, time.Time{}
}
