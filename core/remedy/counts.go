package remedy

import "math"

// pests: what is counted of each, and the counts per m² from which treating pays on sound, usual and stressed turf (extension
// thresholds; the middle and the last column within them judgement). soilLeast is the soil at 50 mm from which a count tells, and
// kills: under it they lie deep and do not feed.
var pests = []struct {
	cause, finding           string
	sound, usual, stressed   float64
	soilLeast, soilLeastWarm float64
	again                    float64 // days after which it may be treated again, on a new count; 0 for the interval of its class
}{
	{"white-grubs", "grubs-per-m2", 100, 65, 30, 10, 13, 0},
	{"chinch-bugs", "float-chinch-per-m2", 270, 215, 160, 10, 10, 7},
	{"sod-webworms", "flush-caterpillars-per-m2", 65, 45, 25, 10, 10, 7},
	{"armyworms", "flush-caterpillars-per-m2", 20, 15, 10, 10, 10, 7},
	{"cutworms", "flush-caterpillars-per-m2", 20, 15, 10, 10, 10, 7},
	{"mole-crickets", "flush-mole-crickets-per-m2", 10, 10, 10, 13, 13, 0},
	{"crane-fly-larvae", "leatherjackets-per-m2", 300, 215, 150, 4, 4, 0},
	{"billbugs", "billbug-larvae-per-m2", 100, 80, 65, 10, 10, 0},
	{"spittlebugs", "froth-per-m2", 50, 50, 50, 10, 10, 0},
}

// grubs: the same by kind of grub; general figures where none is known for a kind (black beetle). feeds is the soil down to which
// the kind feeds.
var grubs = []struct {
	kind                   string
	sound, usual, stressed float64
	feeds                  float64
}{
	{"may-beetle", 55, 30, 30, 8},
	{"european-chafer", 75, 55, 30, 5},
	{"japanese-or-oriental", 110, 85, 45, 10},
	{"masked-chafer", 130, 85, 45, 10},
	{"ataenius", 540, 320, 160, 10},
	{"green-june-beetle", 55, 55, 30, 10},
	{"black-beetle", 100, 65, 30, 10},
	{"unknown", 100, 65, 30, 10},
	{"harmless", math.Inf(1), math.Inf(1), math.Inf(1), 10},
}

// caterpillars: which cause a kind of caterpillar counts for.
var caterpillars = []struct{ kind, cause string }{
	{"webworm", "sod-webworms"},
	{"armyworm", "armyworms"},
	{"cutworm", "cutworms"},
}

// Depths under which products hardly reach, mm (judgement).
const (
	grubsDeep    = 60.0
	cricketsDeep = 25.0
	pupation     = 21.0 // °C of the soil in spring up to which what is found are last year's, grown larvae
)

// count is what was counted of a cause; NaN where it was not, or where it was another kind.
func (s *situation) count(cause string) float64 {
	for _, p := range pests {
		if p.cause == cause {
			if p.finding == "flush-caterpillars-per-m2" && s.caterpillar() != cause {
				return math.NaN()
			}
			return s.num(p.finding)
		}
	}
	return math.NaN()
}

// caterpillar is the cause that the caterpillars of the flush count for: by their kind, else the likelier one.
func (s *situation) caterpillar() string {
	for _, c := range caterpillars {
		if s.word("caterpillar-kind") == c.kind {
			return c.cause
		}
	}
	best, p := "sod-webworms", -1.0
	for _, c := range caterpillars {
		if q := s.r.P(c.cause); q > p {
			best, p = c.cause, q
		}
	}
	return best
}

// tier is the count from which treating pays on this stand.
func (s *situation) tier(cause string) (out float64) {
	out = math.NaN()
	s.about(cause, func() {
		column := func(sound, usual, stressed float64) float64 {
			switch {
			case terms["stressed"](s, 0) == yes:
				return stressed
			case terms["sound"](s, 0) == yes:
				return sound
			}
			return usual
		}
		for _, p := range pests {
			if p.cause == cause {
				out = column(p.sound, p.usual, p.stressed)
			}
		}
		if cause != "white-grubs" {
			return
		}
		for _, g := range grubs {
			if g.kind == s.word("grub-kind") {
				out = column(g.sound, g.usual, g.stressed)
			}
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
	case cause == "white-grubs" && terms["dry-feel"](s, 0) == yes:
		return no
	case math.IsNaN(t):
		return unknown
	}
	return yes
}

func (s *situation) feedsDownTo(cause string) float64 {
	for _, p := range pests {
		if p.cause != cause {
			continue
		}
		if cause == "white-grubs" {
			for _, g := range grubs {
				if g.kind == s.word("grub-kind") && g.feeds < p.soilLeast {
					return g.feeds
				}
			}
		}
		if terms["warm"](s, 0) == yes {
			return p.soilLeastWarm
		}
		return p.soilLeast
	}
	return 10
}

// tooDeep reports larvae that a product does not reach, or that hardly feed any more.
func (s *situation) tooDeep(cause string) truth {
	t := seenSoil(s, 0)
	cold := !math.IsNaN(t) && t < s.feedsDownTo(cause)
	if s.num("soil-temp-c") < s.feedsDownTo(cause) {
		cold = true
	}
	switch cause {
	case "white-grubs":
		large := s.word("grub-size") == "large"
		late := terms["autumn"](s, 0) == yes && t < 13
		grown := large || s.word("grub-size") == ""
		early := terms["spring"](s, 0) == yes && grown && s.mean(-4, 0, soilOf) < pupation
		slow := large && late && s.over(cause, 2) != yes
		old := (early || slow) && s.word("grub-kind") != "european-chafer"
		return truthOf(s.num("grub-depth-mm") > grubsDeep || cold || old)
	case "mole-crickets":
		return truthOf(s.num("cricket-size-mm") > cricketsDeep || cold)
	case "crane-fly-larvae":
		return truthOf(cold)
	}
	return no
}

// counted lists the pests that are over the tier, in the order of the table.
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
	for _, p := range pests {
		if p.cause == cause {
			return p.finding
		}
	}
	return ""
}
