package remedy

import (
	"fmt"
	"time"
)

// groundActions are work on the ground: only moist soil, growing turf, lines located.
var groundActions = []action{
	{"core-aerate", "ground-work", "Core aerate", "A", 30, []string{digCaution, "Guards on, footwear, bystanders away, engine off before hands."}, func(s *situation) Advice {
		return s.onCause(.5, func(id string, _ float64) Advice {
			return s.groundWork("opens the ground: " + label(id))
		}, "compaction", "excess-thatch")
	}},
	{"dethatch", "ground-work", "Dethatch", "B", 21, []string{"Flag heads and shallow lines; guards on, stones off, engine off before hands."}, func(s *situation) Advice {
		mm, ok := s.num("thatch-mm")
		if s.grass.ID == "st-augustinegrass" || s.grass.ID == "centipedegrass" {
			return avoid("St Augustine and centipede are torn apart by it; rake lightly at most")
		}
		if ok && mm <= 12 {
			return avoid(fmt.Sprintf("%.0f mm of thatch is useful", mm))
		}
		return s.onCause(.5, func(id string, _ float64) Advice { return s.groundWork("thatch over the limit") }, "excess-thatch")
	}},
	{"scarify", "ground-work", "Scarify", "B", 21, []string{"Blades cut lines: have them located. Guards on, stones off, engine off before hands."}, func(s *situation) Advice {
		if s.grass.ID == "st-augustinegrass" || s.grass.ID == "centipedegrass" {
			return avoid("runners above ground are cut to pieces")
		}
		if mm, ok := s.num("thatch-mm"); ok && mm >= 20 {
			return s.groundWork(fmt.Sprintf("%.0f mm of thatch must be dealt with", mm)).causes("excess-thatch")
		}
		return avoid("nothing found calls for it")
	}},
	{"topdress", "ground-work", "Topdress", "B", 30, []string{"3–6 mm, leaf tips showing."}, func(s *situation) Advice {
		if _, p := s.best("excess-thatch", "compaction"); p >= .6 {
			return s.groundWork("after coring, to fill the holes")
		}
		return avoid("nothing found calls for it")
	}},
	{"remove-debris", "ground-work", "Clear the debris", "B", 7, nil, func(s *situation) Advice {
		if d := s.word("debris"); d == "leaf-litter" || d == "stones-or-objects" || d == "matted-dead-grass" {
			return now("it lies on the grass: " + d).causes("matted-debris")
		}
		return s.onCause(.5, func(string, float64) Advice { return now("it smothers the grass") }, "matted-debris")
	}},
	{"brush-up-mats", "ground-work", "Brush the mats up", "B", 14, nil, func(s *situation) Advice {
		if s.frozen {
			return hold("the ground is thawed and bears", "frozen crowns break")
		}
		return s.onCause(.4, func(id string, _ float64) Advice { return now("air and light dry the mats: " + label(id)) }, "matted-debris", "gray-snow-mold", "pink-snow-mold")
	}},
	{"prune-shade", "ground-work", "Let light in", "B", 60, []string{"Work at height is for tree people."}, func(s *situation) Advice {
		return s.onCause(.5, func(string, float64) Advice {
			from, to, in := s.window(time.November, 15, time.March, 15)
			if in {
				from = s.in(7)
			}
			return between(from, to, "four hours of sun for cool-season, six for warm-season grass, else change the plant")
		}, "shade-thinning", "powdery-mildew")
	}},
	{"apply-compost", "ground-work", "Compost into the holes", "C", 60, nil, func(s *situation) Advice {
		if om, ok := s.num("soil-organic-matter-percent"); ok && om < 2 {
			return s.groundWork(fmt.Sprintf("organic matter %.1f %%: 3–6 mm into coring holes, its phosphorus counted", om))
		}
		return avoid("nothing found calls for it")
	}},
}

// coring is the season of ground work: autumn or spring for cool-season, late spring to midsummer for warm-season turf.
func (s *situation) coring() (from, to time.Time, in bool) {
	if s.warm {
		return s.window(time.May, 10, time.July, 31)
	}
	from, to, in = s.window(time.September, 1, time.October, 31)
	if in {
		return from, to, in
	}
	if f, t, spring := s.window(time.March, 25, time.May, 15); spring || f.Before(from) {
		return f, t, spring
	}
	return from, to, in
}

func (s *situation) groundWork(reason string) Advice {
	from, to, in := s.coring()
	switch {
	case s.frozen, s.dormantC, s.dormantW, s.heat, s.wilted, s.word("soil-moisture") == "dry":
		if in {
			return hold("the soil is moist and the grass grows", reason, "ground work only on moist soil and growing turf")
		}
		return between(from, to, reason, "ground work waits for moist soil and growth")
	case s.wet:
		return hold("the ground has dried to moist", reason, "wet ground smears")
	case s.halfGreen:
		return between(from, to, reason, "after full green-up")
	case !in:
		return between(from, to, reason)
	case s.c.Context.LinesLocated == nil || !*s.c.Context.LinesLocated:
		return hold("buried lines have been located", reason, "no locate on record")
	}
	return now(reason)
}
