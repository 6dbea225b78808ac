package remedy

import (
	"fmt"
	"time"
)

// reseedActions are seed, plugs and sod: only what is shown to be lost, in its season.
var reseedActions = []action{
	{"overseed", "reseed", "Overseed", "B", 21, seedCautions, func(s *situation) Advice { return s.seed("thin") }},
	{"slit-seed", "reseed", "Slit-seed", "B", 21, append([]string{digCaution}, seedCautions...), func(s *situation) Advice { return s.seed("dead") }},
	{"plug-or-sprig", "reseed", "Plug or sprig", "B", 30, []string{"Water plugs lightly two or three times a day, then wean over three weeks."}, func(s *situation) Advice { return s.seed("plug") }},
	{"resod", "reseed", "Lay sod", "B", 21, []string{"Only after the cause is mended."}, func(s *situation) Advice { return s.seed("sod") }},
	{"renovate", "reseed", "Renovate", "C", 60, []string{"Only after the cause is mended; the ground is bare for weeks."}, func(s *situation) Advice {
		if w, ok := s.num("weed-cover-percent"); ok && w > 50 {
			from, to, in := s.seeding()
			if in {
				from = s.in(7)
			}
			return between(from, to, fmt.Sprintf("%.0f %% weeds: mend the cause, then renew", w)).causes("weed-invasion")
		}
		return avoid("less will do")
	}},
}

var seedCautions = []string{"Water lightly two or three times a day, then wean over three weeks. Seed and pre-emergent exclude each other for the label's interval."}

// seeding is the season of seeding: late summer (or spring) for cool-season, late spring to midsummer for warm-season.
func (s *situation) seeding() (from, to time.Time, in bool) {
	if s.warm {
		return s.window(time.May, 10, time.July, 20)
	}
	return s.window(time.August, 20, time.October, 10)
}

func (s *situation) seed(kind string) Advice {
	gap, ok := s.best("drought-dieback", "winter-crown-kill", "white-grubs", "armyworms", "flooding", "necrotic-ring-spot", "summer-patch", "spring-dead-spot", "shade-thinning", "billbugs", "chemical-spill", "establishment-failure", "gray-leaf-spot")
	creeping := s.grass.Creeping
	alive, cut := s.num("crowns-alive-percent")
	dead := s.word("crown-slice") == "brown-dry" || s.word("crown-slice") == "brown-soft" || (cut && alive < 30)
	if ok < .5 {
		return avoid("nothing is shown to be lost")
	}
	if !dead && s.word("stand-density") != "bare" && s.word("stand-density") != "gaps" && s.word("stand-density") != "thin" {
		if _, done := s.v["crown-slice"]; !done && !cut {
			return check("crown-slice", "whether the crowns live decides between waiting and seeding").causes(gap)
		}
		return avoid("the crowns live: it comes back by itself")
	}
	from, to, in := s.seeding()
	if in {
		from = s.in(1)
	}
	seeded := s.grass.Seed.Known()
	rate := fmt.Sprintf("%.0f–%.0f g/m² new, half to overseed", s.grass.Seed.Low, s.grass.Seed.High)
	switch kind {
	case "thin":
		if !seeded || s.warm {
			return avoid("this grass is not overseeded: it closes by runners or plugs")
		}
		if dead && s.word("stand-density") != "thin" {
			return avoid("where it is dead, seed goes into slits")
		}
		return between(from, to, "thin and will not close by itself; "+rate).causes(gap)
	case "dead":
		if !seeded {
			return avoid("this grass is not grown from seed")
		}
		if !dead && s.word("stand-density") == "thin" {
			return avoid("thin, not dead: overseeding will do")
		}
		return between(from, to, "dead ground larger than a hand does not close by itself; "+rate).causes(gap)
	case "plug":
		if !creeping || (s.cool && seeded) {
			return avoid("seed does it on this grass")
		}
		return between(from, to, "plugs on 15–30 cm centres when the runners' own pace is too slow").causes(gap)
	}
	if s.p(gap) >= .5 && (gap == "flooding" || gap == "white-grubs" || gap == "shade-thinning") {
		return hold("the cause is mended", "new sod over the same cause fails again").causes(gap)
	}
	return between(from, to, "the dear way, after the cause is mended").causes(gap)
}
