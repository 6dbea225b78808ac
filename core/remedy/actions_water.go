package remedy

import (
	"fmt"
	"time"
)

// waterActions are what is done with water: to give it, to hold it back, to let it in.
var waterActions = []action{
	{"water-deep", "water", "Water deeply", "B", 7, []string{"Local watering days and hours first; no run-off to the street. Before dawn to 9 a.m., never in the evening in disease weather."}, func(s *situation) Advice {
		if s.frozen || s.dormantW {
			return avoid("the grass is dormant in the cold and takes up nothing")
		}
		if s.wet || s.p("overwatering") >= .4 || s.p("flooding") >= .5 {
			return avoid("the root zone is wet already")
		}
		if s.dormantC && s.c.Policy.SummerWater != "keep-green" {
			if s.p("summer-dormancy") >= .4 {
				return avoid("the lawn rests; a lawn woken by water has to be kept awake")
			}
		}
		if s.p("localized-dry-spot") >= .5 {
			return hold("a wetting agent lets the water in", "on repellent soil the water runs off").causes("localized-dry-spot")
		}
		if s.p("irrigation-coverage-gap") >= .5 {
			return hold("the sprinklers cover the spot; until then water it by hand", "watering the whole zone does not reach the gap").causes("irrigation-coverage-gap")
		}
		if s.rain2 >= 10 {
			return holdTo(s.in(3), fmt.Sprintf("%.0f mm of rain are forecast for the next two days", s.rain2))
		}
		if s.p("drought-stress") >= .45 {
			return now("the root zone is past half: refill it, then leave it to half depletion again").causes("drought-stress")
		}
		if s.p("summer-dormancy") >= .4 && s.c.Policy.SummerWater == "keep-green" {
			return now("the client keeps it green: refill once, then at half depletion for the whole spell").causes("summer-dormancy")
		}
		if s.word("soil-moisture") == "dry" && (s.p("heat-stress") >= .4 || s.p("white-grubs") >= .5 || s.p("chinch-bugs") >= .5) {
			return now("the core is dry and the turf is hurt: water first")
		}
		return s.onCause(.45, func(string, float64) Advice { return now("refill the root zone") }, "drought-stress")
	}},
	{"spot-water", "water", "Water the dry spots by hand", "B", 7, nil, func(s *situation) Advice {
		if s.wet || s.dormantW || s.frozen {
			return avoid("no dry spot that grows")
		}
		return s.onCause(.4, func(id string, _ float64) Advice { return now("only the spots are dry: " + label(id)) }, "irrigation-coverage-gap", "localized-dry-spot", "hardscape-heat", "shallow-soil-over-object", "fairy-ring")
	}},
	{"syringe-midday", "water", "Cool hot spots at midday", "B", 3, []string{"1–2 mm only: it cools for a while, it does not water."}, func(s *situation) Advice {
		if !s.cool {
			return avoid("warm-season grass thrives in this heat")
		}
		if s.p("pythium-blight") >= .15 || s.word("disease-window:pythium-blight") == "strong" {
			return avoid("wet leaves in pythium weather spread it")
		}
		if s.dormantC {
			return avoid("resting turf is left alone")
		}
		return s.onCause(.5, func(string, float64) Advice { return now("soil and leaves are over their limit in the afternoon") }, "heat-stress")
	}},
	{"survival-water", "water", "Survival water", "B", 14, []string{"12 mm every one to two weeks keeps crowns alive; it does not green."}, func(s *situation) Advice {
		if !s.dormantC && s.p("summer-dormancy") < .3 {
			return avoid("the lawn is not resting")
		}
		if s.c.Policy.SummerWater == "keep-green" {
			return avoid("the client keeps the lawn green: water fully instead")
		}
		used, ok := s.num("drought-endurance-used")
		if !ok {
			if d, has := s.num("days-since-water"); has && s.grass.Endurance.Known() {
				used, ok = (d-14)/7/s.grass.Endurance.Low, true
			}
		}
		switch {
		case !ok:
			return check("days-since-water", "how long the crowns have been without water is not known")
		case used >= .67 && s.p("summer-dormancy") < .5 && s.p("drought-dieback") < .8:
			return check("crown-slice", "whether it rests or is dead is not known; the endurance is nearly used up").causes("summer-dormancy")
		case used >= .67:
			return now(fmt.Sprintf("%.0f %% of the endurance of %s is used up", used*100, s.grass.Label)).causes("summer-dormancy")
		}
		weeks := (.67 - used) * s.grass.Endurance.Low
		from := s.in(int(weeks * 7))
		return between(from, from.AddDate(0, 0, 7), fmt.Sprintf("%.0f %% of the endurance is used; begin when two-thirds are gone and no rain came", used*100)).causes("summer-dormancy")
	}},
	{"let-dormant", "water", "Let it rest", "B", 14, []string{"No traffic, no feeding, hardly any mowing. Once woken it has to be kept awake. New and first-year stands must not be let rest."}, func(s *situation) Advice {
		if !s.cool {
			return avoid("not a grass that rests in summer")
		}
		if e := s.word("establishment"); e != "" && e != "established" {
			return avoid("a new stand dies instead of resting")
		}
		if s.p("summer-dormancy") >= .5 {
			if s.c.Policy.SummerWater == "keep-green" {
				return avoid("the client wants it green; one or the other for the whole spell")
			}
			return now(s.resting() + " and the client's policy allows rest").causes("summer-dormancy")
		}
		return s.onCause(.5, func(string, float64) Advice { return now(s.resting()) }, "summer-dormancy")
	}},
	{"cut-back-water", "water", "Cut the watering back", "B", 14, nil, func(s *situation) Advice {
		if s.p("drought-stress") >= .4 {
			return avoid("the turf is short of water")
		}
		return s.onCause(.45, func(id string, _ float64) Advice { return now("water is in excess: " + label(id)) }, "overwatering", "pythium-root-rot", "algae-crust")
	}},
	{"fix-irrigation", "water", "Mend the irrigation", "B", 7, nil, func(s *situation) Advice {
		if du, ok := s.num("catch-can-du"); ok && du < .55 {
			return now(fmt.Sprintf("the cans give a uniformity of %.2f", du)).causes("irrigation-coverage-gap")
		}
		if s.c.Lawn.Irrigated != nil && !*s.c.Lawn.Irrigated {
			return avoid("there is no irrigation")
		}
		return s.onCause(.6, func(string, float64) Advice { return now("heads leave a gap") }, "irrigation-coverage-gap")
	}},
	{"improve-drainage", "water", "Improve the drainage", "B", 30, []string{digCaution}, func(s *situation) Advice {
		return s.onCause(.45, func(id string, _ float64) Advice {
			from, to, in := s.window(time.April, 1, time.October, 15)
			if in {
				from = s.in(3)
			}
			return between(from, to, "nothing else lasts where water stands: "+label(id))
		}, "flooding", "pythium-root-rot")
	}},
	{"apply-wetting-agent", "water", "Wetting agent", "A", 14, []string{"Moisten first, apply in its carrier water, water in at once without puddles; again in two weeks, then every three to four."}, func(s *situation) Advice {
		drop, ok := s.num("water-drop-seconds")
		if ok && drop < 5 {
			return avoid("a drop goes in at once: the soil is not repellent")
		}
		if s.dormantC || s.dormantW || s.frozen {
			return hold("the grass grows again", "resting turf takes nothing up")
		}
		return s.onCause(.5, func(id string, _ float64) Advice { return now("the soil sheds water: " + label(id)) }, "localized-dry-spot", "fairy-ring")
	}},
	{"leach-salts", "water", "Leach the salt", "B", 21, []string{"Sodium first: on sodic soil clean water seals the ground."}, func(s *situation) Advice {
		if _, ok := s.num("soil-sar"); !ok && s.p("salinity") >= .15 {
			return check("soil-sar", "test the sodium first", "soil-ec-ds-m").causes("salinity")
		}
		if sar, ok := s.num("soil-sar"); ok && sar >= 13 {
			return hold("gypsum has been worked in", "the soil is sodic: clean water alone seals it").causes("salinity")
		}
		return s.onCause(.6, func(string, float64) Advice {
			return now("about 150 mm in portions for half the salt of 300 mm of soil, where it drains")
		}, "salinity")
	}},
}

// resting says what is known of the crowns, and no more.
func (s *situation) resting() string {
	alive, counted := s.num("crowns-alive-percent")
	green := s.v["green-tissue-at-base"].Yes
	if s.word("crown-slice") == "white-moist" || counted && alive >= 50 || green != nil && *green {
		return "the crowns live"
	}
	return "it rests by all that was seen (slice a few crowns to be sure)"
}
