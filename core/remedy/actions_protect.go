package remedy

import (
	"fmt"
	"time"
)

// protectActions are what protects: by count, by name, by window and by label.
var protectActions = []action{
	{"fungicide-curative", "protect", "Fungicide on the disease", "B", 14, []string{"It protects what is still green; it mends no lesion. A plug for the laboratory comes before it."}, fungicideCurative},
	{"fungicide-preventive", "protect", "Fungicide before the season", "A", 28, nil, fungicidePreventive},
	{"insecticide-curative", "protect", "Insecticide on a count", "A", 5, []string{"Water in as the label says; it leaves the damage, so plan the repair. Beneficials go with the pest."}, insecticideCurative},
	{"insecticide-preventive", "protect", "Insecticide before the eggs", "A", 60, nil, func(s *situation) Advice {
		history := s.has("past-causes", "white-grubs") || s.p("white-grubs") >= .7
		if !history && s.c.Policy.Pests != "preventive" {
			return avoid("no confirmed history and no policy for it")
		}
		if w := s.word("insecticide-this-season"); w == "preventive" {
			return avoid("it has been given this season")
		}
		from, to, in := s.window(time.June, 1, time.July, 15)
		if in {
			return now("the window from eggs to first larvae is open").causes("white-grubs")
		}
		return between(from, to, "next window from eggs to first larvae").causes("white-grubs")
	}},
	{"herbicide-spot", "protect", "Spot-treat weeds", "B", 14, nil, func(s *situation) Advice { return s.herbicide(false) }},
	{"herbicide-broadcast", "protect", "Treat weeds broadcast", "B", 21, nil, func(s *situation) Advice { return s.herbicide(true) }},
	{"preemergent", "protect", "Pre-emergent", "A", 60, nil, preemergent},
	{"growth-regulator", "protect", "Growth regulator", "B", 21, nil, func(s *situation) Advice {
		if s.p("healthy-turf") < .5 || s.dormantC || s.dormantW || s.heat || s.wilted {
			return avoid("only on healthy, growing turf")
		}
		if s.word("growth-rate") == "surging" {
			return now("it grows faster than it can be mown")
		}
		return avoid("nothing found calls for it")
	}},
	{"moss-control", "protect", "Kill the moss", "B", 21, []string{"Iron stains stone. It returns while shade, wet, pH, hunger or low mowing stay: tell the client first."}, func(s *situation) Advice {
		if st := s.word("moss-state"); st == "dead-dry" || st == "dead-wet" {
			return avoid("it is dead: rake it out when dry, then mend the reasons")
		}
		if s.heat || s.wilted || s.frozen {
			return hold("it is cool and moist", "iron scorches in heat and drought")
		}
		return s.onCause(.5, func(string, float64) Advice { return now("kill, rake out, then mend shade, pH, feeding and height") }, "moss-invasion")
	}},
	{"hand-weed", "protect", "Weed by hand", "B", 0, nil, func(s *situation) Advice {
		if w, ok := s.num("weed-cover-percent"); ok && w > 0 && w <= 8 {
			return now("a few, by hand, from moist soil")
		}
		return avoid("none, or too many for the hand")
	}},
	{"clean-equipment", "protect", "Wash the mower", "B", 0, nil, func(s *situation) Advice {
		return s.onCause(.35, func(id string, _ float64) Advice { return now("the mower carries it: mow this lawn last and dry") }, "pythium-blight", "gray-leaf-spot", "turf-mosaic-virus", "brown-patch", "rust")
	}},
}

func fungicideCurative(s *situation) Advice {
	foliar := []string{"dollar-spot", "brown-patch", "gray-leaf-spot", "pythium-blight", "leaf-spot", "melting-out", "large-patch", "anthracnose", "rust", "red-thread"}
	id, p := s.best(foliar...)
	root, q := s.best("necrotic-ring-spot", "summer-patch", "take-all-root-rot", "spring-dead-spot", "pythium-root-rot")
	if q > p && q >= .3 {
		return avoid("a root disease is past cure once it shows: " + label(root) + "; book the preventive date").causes(root)
	}
	if p < .15 {
		return avoid("no disease stands out; spots of some kind are no reason")
	}
	if s.dormantC || s.dormantW {
		return avoid("resting turf has no green to protect")
	}
	if s.wilted && id != "pythium-blight" {
		return hold("it has been watered", "nothing is sprayed on wilted grass").causes(id)
	}
	window := s.word("disease-window:" + id)
	blemish := id == "rust" || id == "red-thread" || id == "dollar-spot" || id == "leaf-spot"
	return s.onCause(.6, func(id string, p float64) Advice {
		if window == "never-open" {
			return avoid("its weather was never open: it is growing out").causes(id)
		}
		if blemish && s.c.Policy.Blemishes != "treat" {
			return avoid("a blemish that feeding, water at dawn and growth mend; the client tolerates it or was not asked").causes(id)
		}
		if s.c.Policy.Blemishes == "tolerate" && id != "pythium-blight" && id != "gray-leaf-spot" {
			return avoid("the client tolerates blemishes; it grows out").causes(id)
		}
		return now(fmt.Sprintf("%s at %s, green still to protect", label(id), pct(p))).caution("Leaves dry, mown before, a margin around; again at 14 days by label. Not the same mode-of-action group twice running.")
	}, foliar...)
}

func fungicidePreventive(s *situation) Advice {
	type season struct {
		cause  string
		m1     time.Month
		d1     int
		m2     time.Month
		d2     int
		reason string
	}
	for _, w := range []season{
		{"spring-dead-spot", time.September, 10, time.October, 31, "autumn, as the soil falls through 21–15 °C"},
		{"large-patch", time.September, 10, time.October, 31, "autumn, as the soil falls through 21–15 °C"},
		{"summer-patch", time.May, 1, time.June, 10, "late spring, at 18 °C in the soil"},
		{"necrotic-ring-spot", time.April, 10, time.May, 20, "spring, and again in autumn"},
		{"take-all-root-rot", time.September, 10, time.October, 31, "autumn, and again at green-up"},
		{"gray-snow-mold", time.November, 1, time.November, 30, "before lasting snow"},
		{"pink-snow-mold", time.November, 1, time.November, 30, "before lasting snow"},
	} {
		if s.p(w.cause) >= .5 || (s.has("past-causes", w.cause) && s.p(w.cause) >= .1) {
			from, to, in := s.window(w.m1, w.d1, w.m2, w.d2)
			if in && (w.cause == "spring-dead-spot" || w.cause == "large-patch" || w.cause == "take-all-root-rot") && s.soil <= 21 {
				return now(w.reason).causes(w.cause)
			}
			return between(from, to, w.reason).causes(w.cause)
		}
	}
	if _, p := s.best("necrotic-ring-spot", "summer-patch", "take-all-root-rot", "spring-dead-spot", "large-patch"); p >= .2 {
		return check("lab-pathogen", "the name decides the date")
	}
	return avoid("no disease that returns is shown")
}

// damaging is the count per m² from which treating pays, lower under other stress (extension thresholds).
func (s *situation) damaging(finding string) float64 {
	pick := func(sound, stressed float64) float64 {
		if s.stress {
			return stressed
		}
		return sound
	}
	switch finding {
	case "grubs-per-m2":
		switch s.word("grub-kind") {
		case "may-beetle":
			return pick(55, 30)
		case "european-chafer":
			return pick(75, 55)
		case "japanese-or-oriental":
			return pick(110, 85)
		case "masked-chafer":
			return pick(130, 85)
		case "ataenius":
			return pick(540, 320)
		}
		return pick(65, 30)
	case "flush-caterpillars-per-m2":
		if k := s.word("caterpillar-kind"); k == "armyworm" || k == "cutworm" {
			return pick(20, 10)
		}
		if s.p("armyworms") > s.p("sod-webworms") {
			return pick(20, 10)
		}
		return pick(65, 25)
	case "flush-mole-crickets-per-m2":
		return 10
	case "float-chinch-per-m2":
		return pick(270, 160)
	case "billbug-larvae-per-m2":
		return pick(100, 65)
	case "leatherjackets-per-m2":
		return pick(300, 150)
	}
	return 1e9
}

var countOf = map[string]string{"white-grubs": "grubs-per-m2", "sod-webworms": "flush-caterpillars-per-m2", "armyworms": "flush-caterpillars-per-m2", "cutworms": "flush-caterpillars-per-m2", "mole-crickets": "flush-mole-crickets-per-m2", "chinch-bugs": "float-chinch-per-m2", "billbugs": "billbug-larvae-per-m2", "crane-fly-larvae": "leatherjackets-per-m2"}

func insecticideCurative(s *situation) Advice {
	order := []string{"white-grubs", "chinch-bugs", "armyworms", "sod-webworms", "mole-crickets", "crane-fly-larvae", "cutworms", "billbugs"}
	var below string
	for _, cause := range order {
		n, counted := s.num(countOf[cause])
		if !counted {
			continue
		}
		limit := s.damaging(countOf[cause])
		if n < limit {
			if n > 0 && s.p(cause) >= .15 {
				below = fmt.Sprintf("%.0f per m² is below the damaging count of %.0f", n, limit)
			}
			continue
		}
		if s.word("grub-kind") == "harmless" && cause == "white-grubs" {
			return avoid("the larvae are beneficial").causes(cause)
		}
		reason := fmt.Sprintf("%.0f per m²; damaging from %.0f", n, limit)
		if s.stress {
			reason += " under the other stress found"
		}
		switch {
		case s.p(cause) < .4:
			continue
		case cause == "billbugs":
			return avoid(reason, "larvae inside the stems are past cure; adults in spring, or a systemic before").causes(cause)
		case cause == "white-grubs" && (s.frozen || s.soil < 10):
			return avoid(reason, "larvae have gone down from cold soil and do not feed: plan the repair and next year's window").causes(cause)
		case cause == "white-grubs" && s.month >= time.March && s.month <= time.June:
			return avoid(reason, "in spring they feed briefly and are large: plan the repair and this summer's window").causes(cause)
		case s.wilted && cause == "white-grubs":
			return hold("it has been watered and stands up", reason, "nothing goes on wilted turf; moist soil brings the larvae up").causes(cause)
		case s.wilted && cause != "chinch-bugs":
			return hold("it has been watered and stands up", reason, "nothing goes on wilted turf").causes(cause)
		}
		a := now(reason).causes(cause)
		if cause == "chinch-bugs" && s.wilted {
			a = a.caution("Water the turf before, then much spray.")
		}
		if cause != "white-grubs" && cause != "chinch-bugs" {
			a = a.caution("In the evening; no water or mowing for a day after.")
		}
		return a
	}
	id, p := s.best(order...)
	if below != "" {
		return avoid(below).causes(id)
	}
	if _, counted := s.num(countOf[id]); !counted && p >= .1 {
		return check(countOf[id], fmt.Sprintf("%s stands at %s; no curative without a count", label(id), pct(p))).causes(id)
	}
	if d := s.word("animal-digging"); d != "" && d != "none" {
		if _, counted := s.num("grubs-per-m2"); !counted {
			return check("grubs-per-m2", "digging animals are a reason to count, not to spray")
		}
	}
	return avoid("no pest at a damaging count")
}

func (s *situation) herbicide(broadcast bool) Advice {
	w, ok := s.num("weed-cover-percent")
	if !ok {
		return s.onCause(.6, func(string, float64) Advice {
			return check("weed-cover-percent", "how many weeds decides between spot and broadcast")
		}, "weed-invasion")
	}
	if w < 3 || (broadcast && w < 15) {
		return avoid(fmt.Sprintf("%.0f %% of weeds does not call for it", w))
	}
	if !broadcast && w > 30 {
		return avoid("too many for spots")
	}
	if e := s.word("establishment"); e == "new-seed" || e == "new-sod" || e == "new-plugs" {
		return hold("the new stand has been mown as often as the label asks", "herbicide hurts a new stand")
	}
	switch {
	case s.dormantC:
		return avoid("resting turf: nothing is taken up, the weeds least of all")
	case s.wilted:
		return hold("it has been watered and weeds grow", "drought-waxed leaves take little in; nothing is sprayed on wilted turf")
	case s.heat || s.hotAhead > 0 || s.soil >= 29:
		return hold("maxima are under the label's limit", "herbicides hurt turf in heat")
	case s.halfGreen && s.grass.SprayTender && broadcast:
		return hold("90 % green by measure", s.grass.Label+" is set back for weeks when sprayed half-green")
	case s.p("winter-crown-kill") >= .3 || s.p("herbicide-injury") >= .3:
		return hold("new growth is seen", "hurt turf is not sprayed")
	case s.p("healthy-turf") < .05 && broadcast && s.stress:
		return hold("the turf has recovered", "stressed turf is not sprayed broadcast")
	}
	if broadcast && s.cool && s.month >= time.June && s.month <= time.August {
		from, to, _ := s.window(time.September, 15, time.October, 31)
		return between(from, to, "perennial broadleaf weeds are best taken in autumn").causes("weed-invasion")
	}
	return now(fmt.Sprintf("%.0f %% of weeds on turf that bears it; mow flowers off first", w)).causes("weed-invasion")
}

func preemergent(s *situation) Advice {
	if _, p := s.best("winter-crown-kill", "spring-dead-spot"); p >= .25 {
		if _, cut := s.v["crown-slice"]; !cut {
			return check("crown-slice", "where crowns are dead it would stop the seeding that is needed")
		}
		return hold("the dead parts are seeded or have closed", "it slows runners and stops seed")
	}
	if w, ok := s.num("weed-cover-percent"); (!ok || w < 5) && s.p("weed-invasion") < .3 {
		return avoid("nothing found calls for it")
	}
	if e := s.word("establishment"); e == "new-seed" || e == "new-sod" || e == "new-plugs" {
		return avoid("it stops the new stand")
	}
	from, to, in := s.window(time.March, 1, time.April, 20)
	if in && s.soil >= 8 && s.soil <= 14 {
		return now("soil rises through 10–13 °C: crabgrass and kin germinate next")
	}
	if f, t, autumn := s.window(time.September, 1, time.October, 10); autumn || f.Before(from) {
		if s.warm && autumn && s.soil <= 22 {
			return now("soil falls through 21 °C: winter annuals germinate next")
		}
		if s.warm {
			return between(f, t, "before winter annuals, as the soil falls through 21 °C")
		}
	}
	return between(from, to, "before summer annuals, as the soil rises through 10–13 °C")
}
