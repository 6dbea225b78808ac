package remedy

import "math"

// pest is the row of a cause that is counted; nil for one that is not.
func pest(cause string) *pestRow {
	for i := range pests {
		if pests[i].cause == cause {
			return &pests[i]
		}
	}
	return nil
}

// count is what was counted of a cause; NaN where it was not, or where it was another kind.
func (s *situation) count(cause string) float64 {
	p := pest(cause)
	if p == nil {
		return math.NaN()
	}
	if owner := s.counted(p.kind); owner != "" && owner != cause {
		return math.NaN()
	}
	return s.num(p.finding)
}

// counted is the cause that a count shared by several stands for: by the kind, else the likeliest; "" where it is not shared.
func (s *situation) counted(kind string) string {
	best, p := "", -1.0
	for _, r := range sharedRows {
		switch {
		case r.finding != kind:
		case s.word(kind) == r.word:
			return r.cause
		case s.r.P(r.cause) > p:
			best, p = r.cause, s.r.P(r.cause)
		}
	}
	return best
}

// kind is the row of the kind of a pest that was told; nil for none.
func (s *situation) kind(p *pestRow) *kindRow {
	for i := range kindRows {
		if k := &kindRows[i]; k.cause == p.cause && k.kind == s.word(p.kind) {
			return k
		}
	}
	return nil
}

// tier is the count from which treating pays on this stand; NaN for what is not counted.
func (s *situation) tier(cause string) (out float64) {
	out = math.NaN()
	p := pest(cause)
	if p == nil {
		return out
	}
	sound, usual, stressed := p.sound, p.usual, p.stressed
	if k := s.kind(p); k != nil {
		sound, usual, stressed = k.sound, k.usual, k.stressed
	}
	s.about(cause, func() {
		switch {
		case terms["stressed"](s, 0) == yes:
			out = stressed
		case terms["sound"](s, 0) == yes:
			out = sound
		default:
			out = usual
		}
	})
	return out
}

// over reports whether a count is over the tier, times a factor.
func (s *situation) over(cause string, times float64) truth {
	n, t := s.count(cause), s.tier(cause)
	if math.IsNaN(n) || math.IsNaN(t) {
		return unknown
	}
	return truthOf(n >= t*times)
}

// countable reports whether a count taken today tells: the soil is warm and moist enough that they lie where they are looked for.
func (s *situation) countable(cause string) truth {
	least := s.feedsDownTo(cause)
	t := seenSoil(s, 0)
	switch {
	case !math.IsNaN(t) && t < least:
		return no
	case holdsFor(hiddenOf, s, cause) == yes:
		return no
	case math.IsNaN(t):
		return unknown
	}
	return yes
}

// feedsAnyway is the soil down to which what has no row feeds, °C (judgement).
const feedsAnyway = 10

// feedsDownTo is the soil under which a pest does not feed, °C.
func (s *situation) feedsDownTo(cause string) float64 {
	p := pest(cause)
	if p == nil {
		return feedsAnyway
	}
	if k := s.kind(p); k != nil && k.feeds < p.soilLeast {
		return k.feeds
	}
	if terms["warm"](s, 0) == yes {
		return p.soilLeastWarm
	}
	return p.soilLeast
}

// tooDeep reports larvae that a product does not reach, or that hardly feed any more.
func (s *situation) tooDeep(cause string) truth {
	return truthOf(holdsFor(deepOf, s, cause) == yes)
}

// overTier lists the pests that are over the tier, in the order of the table.
func (s *situation) overTier() (out []string) {
	for _, p := range pests {
		if s.over(p.cause, 1) == yes {
			out = append(out, p.cause)
		}
	}
	return out
}

// countedUnder is a likely pest whose count lies under the tier; "" for none.
func (s *situation) countedUnder() string {
	for _, p := range pests {
		if n := s.count(p.cause); n > 0 && s.over(p.cause, 1) == no && s.r.P(p.cause) >= .05 {
			return p.cause
		}
	}
	return ""
}

func (s *situation) countedText() string {
	c := s.countedUnder()
	return s.quantity(s.count(c), "count") + " per m² is below the damaging count of " + s.quantity(s.tier(c), "count") + " for " + s.label(c)
}

// CountOf is the finding that counts a pest; "" for a cause that is not counted.
func CountOf(cause string) string {
	if p := pest(cause); p != nil {
		return p.finding
	}
	return ""
}

// killedBy is the class of what is given against a pest; "" for none.
func killedBy(cause string) string {
	if p := pest(cause); p != nil {
		return p.killed
	}
	return ""
}
