package remedy

import (
	"fmt"
	"time"
)

// actions is the table of everything that can be done, in the order of the groups. Gates follow extension practice;
// thresholds without another source are judgement.
var actions = []action{
	// water
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
			return now("the crowns live and the client's policy allows rest").causes("summer-dormancy")
		}
		return s.onCause(.5, func(string, float64) Advice { return now("the crowns live") }, "summer-dormancy")
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
	// mow and traffic
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
	// feed
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
	// ground work
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
	// reseed
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
	// protect
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
	// learn
	{"send-lab-sample", "learn", "Send a disease sample", "B", 7, []string{"A 10 cm plug from the edge, half good, half bad, before any fungicide."}, func(s *situation) Advice {
		if _, done := s.v["lab-pathogen"]; done {
			return avoid("the laboratory has answered")
		}
		id, p := s.best("necrotic-ring-spot", "summer-patch", "take-all-root-rot", "pythium-root-rot", "spring-dead-spot", "turf-mosaic-virus", "large-patch")
		if p >= .2 && p < .97 {
			return now(fmt.Sprintf("the treatment depends on the name: %s stands at %s and the field signs end here", label(id), pct(p))).causes(id)
		}
		return avoid("field signs are enough")
	}},
	{"soil-test", "learn", "Test the soil", "B", 14, []string{digCaution}, func(s *situation) Advice {
		if _, done := s.v["soil-ph"]; done {
			return avoid("there is a test")
		}
		if _, p := s.best("iron-chlorosis", "high-ph", "low-ph", "phosphorus-deficiency", "potassium-deficiency", "moss-invasion", "salinity"); p >= .2 {
			return now("a deficiency or the pH is a serious candidate")
		}
		return avoid("nothing that a test would decide")
	}},
	{"wait-and-recheck", "learn", "Wait and look again", "B", 14, nil, func(s *situation) Advice {
		id, p := s.best("frost-injury", "winter-crown-kill", "slow-green-up", "winter-dormancy", "slime-mold", "growth-flush-chlorosis", "summer-dormancy", "drought-dieback")
		if p >= .4 {
			days := 14
			if id == "winter-dormancy" {
				days = 28
			}
			t := s.in(days)
			return Advice{Verdict: Schedule, From: &t, To: &t, Reasons: []string{fmt.Sprintf("%s: waiting costs nothing; green shoots decide on %s", label(id), t.Format("2 January"))}}.causes(id)
		}
		if len(s.r.Causes) > 0 && s.r.Causes[0].Probability < .5 {
			t := s.in(10)
			return Advice{Verdict: Schedule, From: &t, To: &t, Reasons: []string{"no cause carries the evidence yet; look whether it spreads"}}
		}
		return avoid("the evidence is in: waiting gains nothing")
	}},
	{"leave-alone", "learn", "Leave it alone", "B", 0, nil, func(s *situation) Advice {
		if s.p("healthy-turf") >= .5 {
			return now("nothing is wrong beyond the season's normal")
		}
		id, p := s.best("slime-mold", "seed-heads", "winter-dormancy", "vole-runways", "fairy-ring", "off-type-grass")
		if p >= .6 {
			return now(label(id) + " needs no treatment").causes(id)
		}
		return avoid("something is wrong")
	}},
}

var seedCautions = []string{"Water lightly two or three times a day, then wean over three weeks. Seed and pre-emergent exclude each other for the label's interval."}

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
