package remedy

import (
	"fmt"
	"time"
)

// mowActions are mowing and traffic.
var mowActions = []action{
	{"raise-mowing-height", "mow-and-traffic", "Raise the mowing height", "B", 14, nil, func(s *situation) Advice {
		if s.dormantW || s.frozen {
			return avoid("nothing grows")
		}
		h, ok := s.num("mowing-height-mm")
		if ok && s.grass.Mow.Known() && h < s.grass.Mow.Low {
			return now(fmt.Sprintf("%.0f mm is under the range of %s (%.0f–%.0f)", h, s.grass.Label, s.grass.Mow.Low, s.grass.Mow.High))
		}
		if ok && s.grass.Summer > 0 && h >= s.grass.Summer {
			return avoid("it is mown at its upper height already")
		}
		return s.onCause(.4, func(id string, _ float64) Advice { return now("taller turf bears it better: " + label(id)) }, "heat-stress", "drought-stress", "shade-thinning", "scalping", "summer-patch", "anthracnose", "hardscape-heat")
	}},
	{"hold-mowing", "mow-and-traffic", "Do not mow", "B", 0, nil, func(s *situation) Advice {
		switch {
		case s.p("summer-dormancy") >= .5 || s.p("winter-dormancy") >= .5:
			return now("resting grass does not grow and does not mend")
		case s.dormantC || s.dormantW:
			return hold("it is clear whether it rests", "it may be resting")
		case s.wilted:
			return now("wheels and blades bruise wilted turf until it has been watered")
		case s.frozen:
			return now("frozen turf breaks underfoot")
		case s.p("pythium-blight") >= .4:
			return now("the mower carries it; mow only when dry").causes("pythium-blight")
		case s.p("frost-injury") >= .5:
			return avoid("injured leaf tips are mown off as usual once the frost is out")
		case s.p("establishment-failure") >= .5:
			return now("the new stand is not rooted").causes("establishment-failure")
		}
		return avoid("it grows and bears mowing")
	}},
	{"resume-mowing", "mow-and-traffic", "Mow again", "B", 0, nil, func(s *situation) Advice {
		if s.dormantC || s.dormantW || s.wilted || s.frozen {
			return hold("it grows again and the one-third rule calls for it", "it does not grow now")
		}
		if s.p("frost-injury") >= .5 || s.halfGreen {
			return now("mowing goes on as it grows; bleached tips are cut off by and by")
		}
		return avoid("mowing has not been stopped")
	}},
	{"lower-mowing-once", "mow-and-traffic", "Mow low once at green-up", "B", 14, nil, func(s *situation) Advice {
		if !s.grass.LowMowAtGreenUp {
			return avoid("not on this grass")
		}
		from, to, in := s.window(time.March, 20, time.May, 15)
		if !s.halfGreen && s.p("winter-dormancy") < .4 {
			return avoid("only once, at green-up")
		}
		if s.soil < 16 {
			if in {
				from = s.in(14)
			}
			return between(from, to, "when the soil is past 16–18 °C and no hard frost is ahead")
		}
		return now("soil is warm enough and the grass wakes: it lets the sun at the soil")
	}},
	{"sharpen-blades", "mow-and-traffic", "Sharpen the blades", "B", 7, []string{"Engine off and lead disconnected before a hand goes near the blade."}, func(s *situation) Advice {
		if s.word("leaf-tip-cut") == "frayed" {
			return now("the tips are frayed").causes("dull-blade")
		}
		return s.onCause(.6, func(string, float64) Advice { return now("the cut is torn") }, "dull-blade")
	}},
	{"restrict-traffic", "mow-and-traffic", "Keep off", "B", 0, nil, func(s *situation) Advice {
		switch {
		case s.p("summer-dormancy") >= .5, s.p("winter-dormancy") >= .5:
			return now("resting crowns are crushed by feet and wheels")
		case s.wilted:
			return now("wilted turf shows every step for weeks")
		case s.frozen, s.p("frost-injury") >= .5:
			return now("frosted blades break")
		case s.wet:
			return now("wet ground is packed by feet and wheels")
		case s.p("establishment-failure") >= .4:
			return now("the new stand is not rooted")
		}
		return s.onCause(.5, func(id string, _ float64) Advice { return now("the feet are the cause: " + label(id)) }, "compaction", "traffic-crush")
	}},
	{"short-last-mowing", "mow-and-traffic", "Go short into winter", "B", 0, nil, func(s *situation) Advice {
		if !s.cool {
			return avoid("for cool-season turf")
		}
		from, to, in := s.window(time.October, 20, time.November, 30)
		if _, p := s.best("gray-snow-mold", "pink-snow-mold", "matted-debris", "vole-runways"); p >= .4 {
			return between(from, to, "what matted this spring goes shorter into the next winter, in steps, leaves off")
		}
		if in && !s.dormantC {
			return now("the season for it")
		}
		return avoid("nothing found calls for it")
	}},
}
