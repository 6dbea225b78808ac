package remedy

import (
	"fmt"
	"math"
	"strings"

	"hodos/core/knowledge"
	"hodos/core/units"
)

// A sentence of the tables holds names in braces: a finding, a measure, one of the words below, or a literal quantity, which is said in the
// reader's units as well.

// tell fills a sentence of the tables in, in the reader's units.
func (s *situation) tell(text string, a *action) string {
	return units.Filled(text, func(name string) string {
		if first, last, unit, ok := units.Literal(name); ok {
			return s.say.Span(first, last, unit)
		}
		if w, ok := s.wordFor(name, a); ok {
			return w
		}
		if ms, ok := measures[name]; ok {
			if x := ms.of(s, 0); !math.IsNaN(x) {
				return s.quantity(x, ms.unit)
			}
			return unmeasured(name)
		}
		f, ok := knowledge.FindingByID(name)
		if !ok {
			panic("remedy: nothing is called " + name + " in " + text)
		}
		v, found := s.v[name]
		switch {
		case !found:
			return unmeasured(name)
		case v.Number != nil:
			return s.quantity(*v.Number, unitOf(f))
		case v.Yes != nil:
			return map[bool]string{true: "yes", false: "no"}[*v.Yes]
		case len(v.List) > 0:
			return knowledge.ValueLabel(v.List[0])
		}
		return knowledge.ValueLabel(v.Word)
	})
}

// withoutFigure says what stands where a figure is not known.
var withoutFigure = map[string]string{
	"seed-new": "see the bag", "n-dose": "a light dose by the label", "mow-summer": "the upper end of its range",
	"mow-mid": "the middle of its range", "irrigation-weekly-mm": "more than it uses",
}

func unmeasured(name string) string {
	if w, ok := withoutFigure[name]; ok {
		return w
	}
	return "not measured"
}

func (s *situation) wordFor(name string, a *action) (string, bool) {
	switch name {
	case "grass":
		if s.grass.ID == "" || s.grass.ID == "unknown" {
			return "this grass", true
		}
		return lowerGrass(s.grass.Label), true
	case "work":
		return a.work, true
	case "it":
		return s.label(s.it), true
	case "p":
		return percent(s.r.P(s.it)), true
	case "weeds-named":
		return strings.ToLower(strings.Join(s.valueLabels("weeds-named"), " and ")), true
	case "since":
		return ago(s.since(a.class)), true
	case "since-n":
		return ago(s.since("n")), true
	case "since-preem":
		return ago(s.since("preem")), true
	case "fed-disease":
		return s.label(fedDisease(s)), true
	case "pest-over":
		return strings.Join(s.labels(s.overTier()), " and "), true
	case "unmended":
		return s.label(s.unmended()), true
	case "missing-figure":
		return missingFigures(s), true
	case "p-grubs":
		return percent(s.r.P("white-grubs")), true
	case "counted-text":
		return s.countedText(), true
	case "wind-span":
		return s.say.Wind(1.3, 4.5), true
	}
	return "", false
}

// ago says how long ago something was done.
func ago(days float64) string {
	switch {
	case days < 1:
		return "today"
	case days < 2:
		return "yesterday"
	}
	return fmt.Sprintf("%.0f days ago", days)
}

func (s *situation) labels(causes []string) (out []string) {
	for _, c := range causes {
		out = append(out, s.label(c))
	}
	return out
}

func (s *situation) valueLabels(finding string) (out []string) {
	for _, x := range s.v[finding].List {
		out = append(out, knowledge.ValueLabel(x))
	}
	return out
}

// unitOf is the kind of quantity that a finding's number is.
func unitOf(f *knowledge.Finding) string {
	switch u, _, _ := strings.Cut(f.Unit, ","); {
	case strings.HasPrefix(u, "degC"):
		return "C"
	case u == "1/m2":
		return "count"
	case strings.HasPrefix(u, "g "):
		return "g/m2"
	case u == "mm", u == "%", u == "dS/m", u == "mg/kg", u == "h", u == "kPa", u == "mm/h":
		return u
	case u == "fraction", u == "pH", u == "sodium adsorption ratio":
		return "plain"
	}
	return ""
}

// quantity says a number with its unit.
func (s *situation) quantity(x float64, unit string) string {
	if math.IsNaN(x) {
		return "not measured"
	}
	switch unit {
	case "C":
		return s.say.Temp(x, 0)
	case "mm":
		return s.say.Length(x)
	case "mm/h":
		return s.say.Rate(x)
	case "g/m2":
		return s.say.Feed(x, "N")
	case "m2":
		return s.say.Area(x)
	case "share":
		return percent(x)
	case "%":
		return fmt.Sprintf("%.0f %%", x)
	case "kPa":
		return s.say.Pressure(x)
	case "h":
		return fmt.Sprintf("%g hours", x)
	case "dS/m", "mg/kg":
		return fmt.Sprintf("%g %s", math.Round(x*10)/10, unit)
	case "count":
		return fmt.Sprintf("%.0f", x)
	case "plain", "pH":
		return fmt.Sprintf("%g", math.Round(x*100)/100)
	}
	return fmt.Sprintf("%.0f", x)
}

// date says a day so many days ahead.
func (s *situation) date(k int) string {
	d := s.day(k)
	if d.Year() != s.c.Lawn.Date.Year() {
		return d.Format("2 January 2006")
	}
	return d.Format("2 January")
}

// percent never claims certainty.
func percent(p float64) string {
	if p >= .995 && p <= 1 {
		return "over 99 %"
	}
	return fmt.Sprintf("%.0f %%", p*100)
}

func lower(w string) string {
	if w == "" {
		return w
	}
	return strings.ToLower(w[:1]) + w[1:]
}

// lowerGrass keeps the capital of names that are names.
func lowerGrass(label string) string {
	if strings.HasPrefix(label, "St ") || strings.HasPrefix(label, "Kentucky") || strings.HasPrefix(label, "Durban") {
		return label
	}
	return lower(label)
}

// telling is what an action does, what it does not, what it costs when it is wrong, and how much of it in words.
type telling struct{ dose, will, willNot, wrong string }

var tellings = map[string]telling{
	"light-watering-of-new-stands": {"seed: {2 to 4 mm} two to four times a day until it is up, then less often and more at a time; sod: {6 to 12 mm} a day until it resists a pull", "keeps swollen seed and new roots alive", "it does not make up for poor seed contact or old seed", "one dry afternoon loses the seed; wet evenings bring damping-off"},
	"flush-spot-with-water":        {"urine: 10 to 20 L on a spot; burn: {25 mm} at once, and again on days 2 and 4", "thins the salt out", "it does not revive dead crowns", "feed is washed out with it"},
	"water-deep":                   {"refill what the root zone has used, finished by nine in the morning; in cycles where it would run off", "fills the root zone; folded leaves open overnight", "it does not green dead or resting turf within a week", "water, money, and the diseases of wet soil"},
	"spot-water":                   {"10 to 12 L a square metre by hand, in two goes twenty minutes apart", "keeps the islands alive and saves most of the zone's water", "it does not remove the reason", "little"},
	"syringe-midday":               {"{1 to 2 mm} between noon and three, at most twice a day", "cools by a degree or two for an hour or two", "it does not water", "wet leaves and disease"},
	"survival-water":               {"{12 mm} every two weeks, every week in great heat or on sand", "keeps crowns alive", "the grass stays brown", "more of it wakes the lawn, and then lets it down"},
	"let-dormant":                  {"no feeding, hardly any mowing, no traffic until it rains", "saves the water of the whole spell", "it does not look green", "crowns die when its endurance is used up"},
	"cut-back-water":               {"replace what evaporates less the rain: leave it off until half is used, then water seldom and long, finished by nine in the morning", "roots breathe again in one to three weeks", "it does not fix a fault of the sprinklers", "wilt, seen the next afternoon"},
	"fix-irrigation":               {"heads, nozzles, pressure; then the cans again: .7 and more", "evens the water out", "it does not revive crowns", "an hour of looking"},
	"improve-drainage":             {"in this order: keep water from elsewhere out, level, slit and fill with sand to the surface", "nothing else lasts where water stands", "it does not loosen ground packed by feet", "ground opened for nothing"},
	"install-drain":                {"a trench with fall to an outlet, sand to the surface", "lowers the water in the ground", "it does not stop water from next door", "money"},
	"apply-wetting-agent":          {"by its label in at least 8 L to 100 m², on moistened ground, watered in at once; again after 14 days, then every three to four weeks", "lets the water in", "it adds no water and no food", "money"},
	"leach-salts":                  {"{150 mm} for half the salt of {300 mm} of soil, in portions of {25 to 40 mm} a day apart", "takes salt below the roots", "poor water brings it back", "nitrogen and potassium go with it: test them after"},
	"press-and-water":              {"lay it back, roll lightly, {12 to 20 mm}, then {6 mm} a day for ten days", "roots again in two to three weeks", "it does not root with less than {20 mm} of root left", "little"},
	"raise-mowing-height":          {"to {mow-summer} in heat, shade and drought, else {mow-mid}; by {10 mm} at a mowing", "deeper roots and shade on the soil", "nothing at once", "none to speak of"},
	"hold-mowing":                  {"until the date, or until it stands half as high again", "spares leaves and crowns", "it repairs nothing", "it grows tall: then down by thirds"},
	"resume-mowing":                {"never more than a third at a time, three days apart", "thickens the stand", "it repairs nothing", "tracks on wet or wilted turf"},
	"lower-mowing-once":            {"down to {low-mow-mm} in two or three steps, clippings off", "warms the soil: green a week or two earlier", "it takes no thatch out", "a frost on bare crowns"},
	"sharpen-blades":               {"all blades, balanced", "the grey cast is gone in two mowings", "torn tips stay until they are mown off", "none"},
	"restrict-traffic":             {"stepping stones, another gate, a fibre mat", "stops further wear", "it repairs nothing", "the path is missed"},
	"short-last-mowing":            {"to the low end of its range in steps of {10 mm}, leaves off", "less mat, mould and fewer voles", "it cures no disease", "a scalp before the cold"},
	"edge":                         {"along the edge; a barrier of {150 mm} stops most runners", "looks, and slows runners", "it does not stop seed", "none"},
	"spring-handover":              {"down by {5 mm} a week, a third less water for two weeks", "lets the bermuda in", "a thin week shows", "bare before it grows"},
	"apply-nitrogen":               {"{n-dose}, swept off paving, {5 to 6 mm} of water within a day", "colour and growth in one to two weeks", "it cures no lack of iron, no water, no roots", "soft growth, disease, leaching"},
	"spoon-feed-nitrogen":          {"half a gram to a gram of N/m² each two to three weeks", "holds the colour without a flush", "it fills no gaps", "disease in heat"},
	"acidifying-nitrogen":          {"{1 to 2.4 g N/m²} as ammonium sulfate, {6 mm} of water at once", "lowers the pH at the roots within a season", "it does not replace or add to a feeding", "it burns dry turf"},
	"hold-nitrogen":                {"", "nothing leaches and nothing burns", "colour waits", "a paler lawn for a while"},
	"apply-iron":                   {"0.1 to 0.3 g Fe/m² on the leaf", "greens in one to three days, for two to three weeks", "it does not improve the soil", "stained stone; black leaves over half a gram"},
	"apply-phosphorus":             {"by the test, at most 2.1 g P/m² at once", "roots and seedlings where it is low", "no green where there is enough", "phosphorus in the water"},
	"apply-potassium":              {"by the test, at most 4 g K/m² at once; sulfate in heat", "bears stress better where it is low", "nothing where there is enough", "salt"},
	"apply-micronutrients":         {"by the test and the label", "ends a proved lack", "nothing on looks alone", "copper, boron and zinc stay for years"},
	"apply-manganese":              {"0.2 g Mn/m² on the leaf, then {3 mm} of water", "holds root disease back at a high pH", "it does not cure", "money"},
	"apply-lime":                   {"by the buffer test, at most 240 g/m² at once, half a year apart", "raises the pH in six to twelve months", "no green at once, and it kills no moss", "the pH goes the wrong way"},
	"apply-acidifier":              {"at most 24 g/m² at once, twice a year", "half a unit in about a year", "no promise on free lime", "burnt roots"},
	"apply-gypsum":                 {"245 to 490 g/m² by the sodium test, into holes, then leach", "opens sodic soil", "it moves no pH and loosens no compaction", "money"},
	"apply-silicon":                {"250 to 340 g/m² of product into holes, once a year", "may hold gray leaf spot back by up to a third", "it stands alone in nothing", "money"},
	"core-aerate":                  {"hollow tines {12 to 19 mm} wide, {75 to 100 mm} deep, 200 to 400 holes a square metre; cores stay", "air and water in weeks", "it loosens little in one pass", "weeds in the holes; turf opened in stress"},
	"dethatch":                     {"one pass, tines at the skin of the soil", "lifts the mat; thin for two to four weeks", "it loosens no soil", "torn turf"},
	"scarify":                      {"{2 to 4 mm} into the soil, blades {25 to 50 mm} apart; crosswise for seed", "takes thatch out and opens for seed", "it loosens no soil", "half bare for three to six weeks"},
	"topdress":                     {"{3 to 6 mm}, tips showing; like the soil below, never sand on clay", "evens, and thins the thatch", "it cures no compaction", "smothered over {6 mm}; a layer"},
	"level-surface":                {"lift the sod, fill, lay it back; or {6 mm} at a time", "ends scalping and puddles", "it is no drain", "work"},
	"remove-debris":                {"all of it, off the lawn", "light and air come back", "dead crowns stay dead", "none but the work"},
	"brush-up-mats":                {"spring rake by hand up to 100 m², light machine above", "dries and wakes the leaves", "it revives no crowns", "torn crowns when it is too wet"},
	"rake-out-moss":                {"by hand up to 100 m², machine above; then seed", "clears the ground for seed", "moss returns while its reason stays", "live moss is spread"},
	"prune-shade":                  {"lift the crown, thin by a quarter at most", "light for years", "roots still compete", "a tree cut for nothing"},
	"apply-compost":                {"{3 to 6 mm}, mature, its phosphorus counted", "structure and slow food", "it is no feeding plan", "weed seed, herbicide left in it"},
	"replace-soil":                 {"{100 to 150 mm} out, or to clean smell; then soil and sod or seed", "a clean root zone", "the source must be stopped", "work"},
	"overseed":                     {"half of the new rate ({seed-new}), contact with the soil first, starter by law", "up in {emerge-from} to {emerge-to} days, 60 % cover in six to eight weeks", "not in a closed sward", "seed dies of what killed the turf"},
	"slit-seed":                    {"three quarters of the new rate ({seed-new}), half each way, {3 to 6 mm} deep; dead mat off first", "best contact: 60 % cover in six to eight weeks", "not in a closed sward", "seed dies of what killed the turf"},
	"interseed":                    {"60 to 80 % of the new rate, crosswise, mown low, no nitrogen for three weeks", "shifts the mix over two seasons", "the old grass stays part of it", "a thin first summer"},
	"winter-overseed":              {"ryegrass 25 to 50 g/m², mown a third lower first", "green through the winter", "bermuda comes two to four weeks later", "its own water and disease"},
	"plug-or-sprig":                {"{15 to 30 cm} apart by the grass, water two or three times a day, then less", "closes by runners", "bare between until then", "weeds in the gaps"},
	"resod":                        {"the area and a twentieth more; soil test; rolled; watered daily", "closed in days, rooted in two to three weeks", "it fails on the same cause", "money"},
	"renovate":                     {"the kill four weeks before the seed", "a new lawn", "it repeats the failure while the cause stays", "bare ground for weeks"},
	"change-grass":                 {"a grass whose every limit fits: sun, salt, cold, water, law", "fits the place for years", "looks and feel change: show samples first", "money"},
	"change-use":                   {"mulch, stone, a path, shade plants", "ends the yearly repair", "the lawn is smaller", "money"},
	"off-type-removal":             {"one plain shape and its margin", "one patch, bare for two to ten weeks", "seed and runners come back", "a hole in the lawn"},
	"fungicide-curative":           {"by the label, the patches and a margin of {0.6 m}; the whole zone over 30 %", "guards green leaves for two to four weeks", "lesions stay until they are mown off", "resistance; the right remedy comes late"},
	"fungicide-preventive":         {"by the label, the places of former years and a margin", "keeps this season's crowns", "no effect on old scars", "money, resistance"},
	"insecticide-curative":         {"by the label, what is infested and {1.5 m} around", "counts fall by two thirds within a week, large grubs less", "the damage stays: plan the repair", "beneficials die and the real cause goes on"},
	"insecticide-preventive":       {"by the label, once", "nine in ten larvae fewer in that season", "not the adults", "beneficials, bees"},
	"nuisance-pests":               {"by the label: edges, shade and hiding places, not the open lawn", "fewer bites and nests for two to six weeks", "they come back from next door", "bees, beneficials, water life"},
	"herbicide-spot":               {"by the label, the weeds alone", "kills what is treated in two to four weeks", "not the seed in the ground", "yellow rings"},
	"herbicide-broadcast":          {"by the label, calibrated", "one flush of one kind of weed", "it opens gaps: plan the seed", "checked grass"},
	"preemergent":                  {"by the label, half now and half after eight weeks, {6 to 12 mm} of water within two days", "stops seedlings for 8 to 16 weeks", "no grown weeds, and no seed either", "no seeding for months"},
	"growth-regulator":             {"by the label; again by warmth", "halves growth for three to five weeks", "no cure for weeds or thatch", "it recovers slowly"},
	"moss-control":                 {"iron sulfate 5 to 15 g/m² in 10 to 20 L to 100 m², or soap by its label", "black in hours to days", "it returns while its reasons stay: tell the client first", "black lawn, stained stone"},
	"hand-weed":                    {"the whole root, a minute or two a plant", "gone at once", "rhizomes and bulbs come again", "none"},
	"clean-equipment":              {"brushed off, washed, dried; this lawn last and dry", "spreads less to the next lawn", "it cures nothing", "none"},
	"send-lab-sample":              {"a plug of {10 cm} from the active edge, half good, before any fungicide", "names it in three to ten days", "", "days"},
	"soil-test":                    {"12 to 15 cores of {75 to 100 mm}, thatch off, each zone separately", "figures for dose and law", "it sees no disease", "days"},
	"wait-and-recheck":             {"", "saves a wrong deed", "", ""},
	"leave-alone":                  {"", "it comes back on its own", "", "another cause goes on unseen"},
}

// Cautions at the step where work can hurt, by class and by action.
const (
	digCaution     = "Buried lines located first; flag irrigation, gas, power, fibre and pet fences."
	machineCaution = "Guards on, stones and toys off, bystanders away, engine off before hands."
	feedCaution    = "Local bans and black-out dates first; sweep what falls on paving; keep away from water."
	labelCaution   = "The label is the law: site, grass, pest, rate, interval, season maximum. Wind {wind-span}, no inversion, buffers at water; gloves and long sleeves at least; people and pets off until it is dry, or watered in and dry, and the label's re-entry is over."
	heatCaution    = "In heat: water and shade from a heat index of {27 °C}, fixed breaks from 32, stop at 46."
)

// classCautions by class, actionCautions by action.
var classCautions = map[string][]string{
	"n":        {feedCaution},
	"p":        {feedCaution},
	"k":        {feedCaution},
	"core":     {digCaution, machineCaution},
	"tear":     {machineCaution},
	"seed":     {},
	"moss":     {"Iron stains stone and clothes. Where the product is sold against moss it may be a pesticide: licence and label."},
	"iron":     {"Iron stains stone: keep it off paving."},
	"deep":     {"Local watering days and hours first; no run-off to the street."},
	"lime":     {"Dust: mask and wind. Never with nitrogen or iron."},
	"topdress": {"Lifting and dust."},
}

var actionCautions = map[string][]string{
	"slit-seed":        {digCaution, machineCaution},
	"interseed":        {machineCaution},
	"install-drain":    {digCaution},
	"improve-drainage": {"Before any digging: " + lower(digCaution)},
	"replace-soil":     {digCaution, "Unknown residue is not handled: report it."},
	"prune-shade":      {"Leave work at height to an arborist; no work in nesting time; tree permits."},
	"sharpen-blades":   {"Engine off and spark plug lead off before a hand goes near the blade."},
	"nuisance-pests":   {"Use only a product whose label names the pest and allows lawns. First deal with standing water, tall edges and pets; many come in from next door."},
	"resume-mowing":    {"Stones, toys and hoses up first."},
	"soil-test":        {"Hand tool: stop at resistance."},
	"send-lab-sample":  {"Hand tool: stop at resistance."},
	"clean-equipment":  {"Engine off and cold, lead off; wash on grass or a pad, not into drains."},
	"dethatch":         {"Flag heads and shallow lines."},
	"scarify":          {"Blades cut lines: flag heads and shallow lines."},
}

func cautionsOf(a *action) []string {
	out := append([]string{}, classCautions[a.class]...)
	out = append(out, actionCautions[a.id]...)
	if pesticides[a.id] {
		out = append(out, labelCaution)
	}
	return out
}

// waterAfter is the one word on water, mowing and the hour that a job gets: by pest and disease for what protects. Labels in general;
// the label in hand goes before.
var waterAfter = map[string]string{
	"insect:white-grubs":        "Water in with {6 to 12 mm} the same day; mow flowers off first.",
	"insect:crane-fly-larvae":   "Water in with {6 to 12 mm} the same day, no frost for two nights.",
	"insect:mole-crickets":      "Moist ground the evening before; water sprays in, keep baits dry.",
	"insect:chinch-bugs":        "Water the day before, much carrier, then no water for 24 hours.",
	"insect:sod-webworms":       "Water the day before; spray in the evening, no water for 24 hours and no mowing for a day.",
	"insect:armyworms":          "Water in the morning, spray the same evening, no water for 24 hours and no mowing for two days.",
	"insect:cutworms":           "Spray in the evening, no water for 24 hours and no mowing for a day.",
	"insect:spittlebugs":        "Mow and rake first; spray late, no water for 24 hours.",
	"insect-year:white-grubs":   "Water in with {6 to 12 mm} within two days, on moist soil; mow flowers off first: bees.",
	"insect-year:billbugs":      "By the label; mow flowers off first: bees.",
	"insect-year:mole-crickets": "Moist ground, water in with {6 to 12 mm}; mow flowers off first: bees.",
	"insect-year:chinch-bugs":   "Only on a count; water the day before, then no water for 24 hours.",
	"fung:spring-dead-spot":     "A root product: water in with {3 to 6 mm} at once.",
	"fung:large-patch":          "Water in with {3 to 6 mm} at once, to reach the sheaths and roots.",
	"fung:take-all-root-rot":    "A root product: water in with {3 to 6 mm} at once.",
	"fung:summer-patch":         "A root product: water in with {3 to 6 mm} at once.",
	"fung:necrotic-ring-spot":   "A root product: water in with {3 to 6 mm} at once.",
	"fung:pythium-root-rot":     "A root product: water in with {3 to 6 mm} at once.",
	"fung:fairy-ring":           "Water in with {3 to 6 mm} at once, with a wetting agent.",
	"fung:dollar-spot":          "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:brown-patch":          "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:gray-leaf-spot":       "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:leaf-spot":            "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:melting-out":          "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:pythium-blight":       "Today, on leaves as dry as they get; no mowing when wet.",
	"fung:anthracnose":          "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:rust":                 "On dry leaves, mown before; let it dry on, no water for 24 hours.",
	"fung:gray-snow-mold":       "After the last mowing, before lasting snow; let it dry on.",
	"fung:pink-snow-mold":       "Before snow; let it dry on.",
	"herbicide-spot":            "No mowing two days before and after; dry leaves, no water for 24 hours; clippings off the compost.",
	"herbicide-broadcast":       "No mowing two days before and after; dry leaves, no water for 24 hours; clippings off the compost.",
	"growth-regulator":          "Dry leaves; only where the label names the grass.",
}

// holdRows are causes that hold the feeding by themselves, whether or not it was due.
var holdRowTable = []struct {
	cause  string
	from   float64
	test   string
	reason string
	until  string
}{
	{"growth-flush-chlorosis", .4, "", "it has nitrogen enough and grows too fast", "the flush is over, two to three weeks"},
	{"fertilizer-burn", .4, "", "it has had too much", "six weeks after the feeding that burnt it"},
	{"pythium-blight", .34, "", "nitrogen feeds {it}", "its weather has been over for five days"},
	{"brown-patch", .4, "", "nitrogen feeds {it}", "nights stay under {16 °C}"},
	{"gray-leaf-spot", .4, "", "nitrogen feeds {it}", "its weather has been over for five days"},
	{"large-patch", .4, "", "nitrogen feeds {it}", "full green-up, or two weeks after a treatment"},
	{"summer-dormancy", .4, "", "resting turf takes nothing up", "25 mm of rain or water and new green over a third of it"},
	{"heat-stress", .4, "hotc and without turned", "nitrogen harms cool-season turf in heat", "the afternoon soil is under {27 °C}"},
	{"drought-stress", .5, "thirsty", "nothing is spread on wilted turf", "it has been watered and stands up again"},
	{"drought-stress", .3, "resting", "resting turf takes nothing up", "25 mm of rain or water and new green over a third of it"},
	{"winter-dormancy", .5, "sleepw", "dormant turf takes nothing up; the weeds do", "full green-up"},
	{"slow-green-up", .4, "wakew", "half-green turf is fed after green-up", "it is 90 % green"},
	{"winter-crown-kill", .4, "without new-leaf", "after winter it is fed when growth has begun", "new growth is seen"},
	{"frost-injury", .5, "without new-leaf", "after frost it is fed when growth has begun", "new growth is seen"},
	{"shade-thinning", .6, "fed-lately", "in shade little food is used", "it is less than half of the open lawn's"},
}

type holdRow struct {
	cause, reason, until string
	from                 float64
	holds                test
}

var holdRows []holdRow

// loseTable says when waiting or leaving alone loses turf.
var loseTable = []struct{ test, why string }{
	{"p(pythium-blight) >= .34 and without closed(pythium-blight)", "pythium kills a stand in two days"},
	{"p(armyworms) >= .5 and over(armyworms)", "armyworms strip it in days"},
	{"new-stand and dry", "the new stand is dry"},
	{"thirsty and without resting and without since(deep) < 1", "it is wilted and not watered"},
	{"spent and dry and without keep-green and without mostly-dead and without winter-half", "what the grass stands without water is nearly used up"},
}

type loseRow struct {
	why   string
	holds test
}

var loseRows []loseRow

func compileWords() {
	for _, r := range holdRowTable {
		holdRows = append(holdRows, holdRow{r.cause, r.reason, r.until, r.from, compile(r.test)})
	}
	for _, r := range loseTable {
		loseRows = append(loseRows, loseRow{r.why, compile(r.test)})
	}
}
