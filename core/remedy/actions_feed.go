package remedy

import (
	"fmt"
	"time"
)

// feedActions are feeding, and what is fed only by test.
var feedActions = []action{
	{"apply-nitrogen", "feed", "Feed nitrogen", "A", 12, []string{feedCaution, "At most 4.9 g N/m² at once, quick-release 3.4."}, feed},
	{"spoon-feed-nitrogen", "feed", "Feed little and often", "B", 12, []string{feedCaution, "0.5–1 g N/m² every two to three weeks, on watered turf only."}, func(s *situation) Advice {
		if a, stop := feedGates(s); stop {
			return a
		}
		if s.cool && s.c.Policy.SummerFeeding != "spoon-feed" {
			return avoid("the client's policy does not ask for it")
		}
		if s.cool && s.soil >= 27 {
			return hold("the soil is under 27 °C", "too hot to feed cool-season turf even in small doses")
		}
		if s.p("nitrogen-deficiency") >= .4 {
			return now("hungry, watered and growing").causes("nitrogen-deficiency")
		}
		return avoid("nothing found calls for it")
	}},
	{"apply-iron", "feed", "Iron", "B", 3, []string{"0.1–0.3 g Fe/m² on the leaf; it colours for two to three weeks and does not cure. Iron stains stone: keep off paving."}, func(s *situation) Advice {
		if s.dormantC || s.dormantW || s.frozen {
			return avoid("resting grass does not colour")
		}
		if s.wilted {
			return hold("it has been watered", "nothing is sprayed on wilted grass")
		}
		if s.heat {
			return hold("the heat is over", "sprays in heat scorch")
		}
		id, p := s.best("iron-chlorosis", "growth-flush-chlorosis")
		if p >= .5 {
			return now("colour comes back in one to three days: " + label(id)).causes(id)
		}
		if p >= .15 {
			return now("a strip is the test: greened in one to three days, it was iron").causes(id).caution("One strip only until the answer is in.")
		}
		return avoid("nothing found calls for it")
	}},
	{"apply-phosphorus", "feed", "Phosphorus", "A", 30, []string{feedCaution}, bySoilTest("soil-p-ppm", 21, "phosphorus-deficiency")},
	{"apply-potassium", "feed", "Potassium", "B", 30, []string{feedCaution}, bySoilTest("soil-k-ppm", 37, "potassium-deficiency")},
	{"apply-lime", "feed", "Lime", "B", 90, []string{"At most 240 g/m² at a time."}, func(s *situation) Advice {
		ph, ok := s.num("soil-ph")
		if !ok {
			if s.p("low-ph") >= .1 || s.p("moss-invasion") >= .4 {
				return check("soil-ph", "lime only by soil test").causes("low-ph")
			}
			return avoid("nothing found calls for it")
		}
		least := 5.8
		if s.grass.ID == "centipedegrass" {
			least = 5
		}
		if ph >= least {
			return avoid(fmt.Sprintf("pH %.1f needs no lime", ph))
		}
		return s.whenGrowing(fmt.Sprintf("pH %.1f is under %.1f", ph, least)).causes("low-ph")
	}},
	{"apply-acidifier", "feed", "Sulfur", "B", 90, []string{"At most 24 g/m² at a time in cool weather, 48 a year; useless where free lime fizzes."}, func(s *situation) Advice {
		ph, ok := s.num("soil-ph")
		if !ok {
			if s.p("high-ph") >= .15 || s.p("iron-chlorosis") >= .4 || s.p("take-all-root-rot") >= .5 {
				return check("soil-ph", "sulfur only by soil test").causes("high-ph")
			}
			return avoid("nothing found calls for it")
		}
		if ph < 7.2 {
			return avoid(fmt.Sprintf("pH %.1f needs no sulfur", ph))
		}
		if s.soil > 22 || s.heat {
			from, to, _ := s.window(time.October, 1, time.November, 30)
			return between(from, to, fmt.Sprintf("pH %.1f: small portions in cool weather, where no free lime fizzes", ph)).causes("high-ph")
		}
		return s.whenGrowing(fmt.Sprintf("pH %.1f: small portions, where no free lime fizzes", ph)).causes("high-ph")
	}},
	{"hold-nitrogen", "feed", "Hold the feeding", "B", 0, nil, func(*situation) Advice { return now() }},
	{"apply-gypsum", "feed", "Gypsum", "B", 60, []string{"It mends sodium, not pH."}, func(s *situation) Advice {
		if sar, ok := s.num("soil-sar"); ok {
			if sar >= 13 {
				return now(fmt.Sprintf("sodium ratio %.0f: before and with the leaching", sar)).causes("salinity")
			}
			return avoid(fmt.Sprintf("sodium ratio %.0f: the soil is not sodic", sar))
		}
		if s.p("salinity") >= .25 {
			return check("soil-sar", "only by the sodium test").causes("salinity")
		}
		return avoid("gypsum is no remedy for high pH, and no sodium was found")
	}},
	{"apply-silicon", "feed", "Silicon", "C", 60, []string{"A partner, not a replacement: it may suppress some leaf diseases by up to a third, results are mixed."}, func(s *situation) Advice {
		si, ok := s.num("tissue-si-percent")
		if _, p := s.best("gray-leaf-spot", "brown-patch", "dollar-spot", "leaf-spot"); p < .5 {
			return avoid("nothing found calls for it")
		}
		if !ok {
			return check("tissue-si-percent", "only by leaf test")
		}
		if si >= 1 {
			return avoid("the leaf holds enough")
		}
		from, to, in := s.coring()
		if in {
			from = s.in(7)
		}
		return between(from, to, "best into coring holes")
	}},
}

// feedGates are the gates of every nitrogen feeding; stop is true when one of them decides.
func feedGates(s *situation) (Advice, bool) {
	switch {
	case s.dormantC:
		from, _, _ := s.window(time.September, 1, time.November, 10)
		if from.Before(s.date) {
			return hold("it grows again after rain", "resting cool-season turf takes up nothing; what is spread leaches or burns").causes("summer-dormancy"), true
		}
		return holdTo(from, "resting cool-season turf takes up nothing; what is spread leaches or burns").causes("summer-dormancy"), true
	case s.dormantW:
		return hold("full green-up", "dormant warm-season turf takes up nothing; the weeds do"), true
	case s.halfGreen:
		return hold("90 % green by measure", "half-green turf is fed after green-up; until then at most 1 g N/m² slow"), true
	case s.wakening, s.frozen:
		return hold("it grows: soil above about 5 °C and mown twice", "the soil is too cold for uptake"), true
	case s.p("winter-crown-kill") >= .4 || s.p("frost-injury") >= .5:
		return hold("new growth is seen", "after frost it is fed when growth has begun, not before"), true
	case s.heat || s.p("heat-stress") >= .5:
		if s.cool && !s.cooling {
			from, _, in := s.window(time.September, 1, time.November, 10)
			if in || from.Before(s.date) {
				return hold("the ten days ahead are under 27 °C", "nitrogen harms cool-season turf in heat").causes("heat-stress"), true
			}
			return holdTo(from, "nitrogen harms cool-season turf in heat").causes("heat-stress"), true
		}
	case s.wilted:
		return hold("it has been watered and stands up", "nothing is spread on wilted turf").causes("drought-stress"), true
	case s.p("fertilizer-burn") >= .4:
		return avoid("it has had too much"), true
	}
	if id, p := s.best("brown-patch", "pythium-blight", "gray-leaf-spot", "large-patch"); p >= .4 {
		return hold("the disease weather is over", "nitrogen feeds "+label(id)).causes(id), true
	}
	if id, p := s.best("white-grubs", "chinch-bugs", "armyworms", "sod-webworms", "mole-crickets", "crane-fly-larvae"); p >= .5 {
		return hold("the pest is dealt with", label(id)+" would eat the re-growth that feeding invites").causes(id), true
	}
	if s.p("growth-flush-chlorosis") >= .5 {
		return hold("the flush is over, two to three weeks", "there is nitrogen enough; it grows too fast").causes("growth-flush-chlorosis"), true
	}
	return Advice{}, false
}

func feed(s *situation) Advice {
	if a, stop := feedGates(s); stop {
		return a
	}
	if days, ok := s.num("last-nitrogen-days"); ok && days < 21 {
		return holdTo(s.in(int(28-days)), fmt.Sprintf("fed %.0f days ago", days))
	}
	if year, ok := s.num("nitrogen-12-months-g-m2"); ok && s.grass.Nitrogen.Known() && year >= s.grass.Nitrogen.High {
		return hold("the yearly budget has room again", fmt.Sprintf("%.0f g N/m² in twelve months is the full budget of %s", year, s.grass.Label))
	}
	if s.cool && s.month >= time.June && s.month <= time.August && !s.cooling {
		from, to, _ := s.window(time.September, 1, time.October, 15)
		if s.p("nitrogen-deficiency") >= .4 {
			return between(from, to, "hungry, but summer feeding of cool-season turf waits for the turn of the weather").causes("nitrogen-deficiency")
		}
		return holdTo(from, "cool-season turf is fed when the weather has turned")
	}
	if s.warm && s.month >= time.October {
		return hold("full green-up", "too late in the season for warm-season turf")
	}
	if _, p := s.best("nitrogen-deficiency", "dollar-spot", "rust", "red-thread"); p >= .5 {
		id, _ := s.best("nitrogen-deficiency", "dollar-spot", "rust", "red-thread")
		return now("it is hungry and grows: " + label(id)).causes(id)
	}
	if s.cool && (s.month == time.September || s.month == time.October) && s.p("healthy-turf") < .9 {
		return now("early autumn is the main feeding of cool-season turf")
	}
	return s.onCause(.5, func(string, float64) Advice { return now("it is hungry and grows") }, "nitrogen-deficiency")
}

func bySoilTest(finding string, least float64, cause string) func(*situation) Advice {
	return func(s *situation) Advice {
		x, ok := s.num(finding)
		if !ok {
			if s.p(cause) >= .15 {
				return check(finding, "only by soil test").causes(cause)
			}
			return avoid("only by soil test, and nothing points to it")
		}
		if x >= least {
			return avoid(fmt.Sprintf("%.0f mg/kg is enough (from %.0f)", x, least))
		}
		return s.whenGrowing(fmt.Sprintf("%.0f mg/kg is under %.0f", x, least)).causes(cause)
	}
}

// whenGrowing does it now on growing, watered turf, and holds it otherwise.
func (s *situation) whenGrowing(reason string) Advice {
	switch {
	case s.dormantC, s.dormantW, s.frozen, s.wakening:
		return hold("it grows again", reason, "resting turf takes nothing up")
	case s.wilted:
		return hold("it has been watered", reason, "nothing is spread on wilted turf")
	case s.heat:
		return hold("the heat is over", reason, "nothing is spread on heat-stressed turf")
	}
	return now(reason)
}
