package remedy

// action is one thing that can be done: a line of knowledge. Rank is its place in the order of work, class what it repeats with,
// hurts the share of the damaged turf's worth that is lost when it is wrong (judgement), grade the strength of the evidence: A
// replicated trials, B extension consensus, C practitioners' experience. work says what a gate calls it.
type action struct {
	id, group   string
	rank        int
	class       string
	grade       string
	hurts       float64
	looks       []int // days until the looks that follow
	label, work string
}

// The groups, in the order in which they are shown.
const (
	water   = "water"
	mow     = "mow-and-traffic"
	feeding = "feed"
	ground  = "ground-work"
	reseed  = "reseed"
	protect = "protect"
	learn   = "learn"
)

var actions = []action{
	{"light-watering-of-new-stands", water, 20, "new-water", "B", .15, days(7, 21), "Water the new stand lightly", "watering"},
	{"flush-spot-with-water", water, 20, "water", "C", .05, days(14), "Flush the spot with water", "watering"},
	{"water-deep", water, 22, "deep", "B", .42, days(7, 21), "Water deeply", "watering"},
	{"spot-water", water, 22, "water", "B", .1, days(7), "Water the dry spots", "watering"},
	{"syringe-midday", water, 23, "cooling", "B", .34, nil, "Cool with a mist at midday", "watering"},
	{"survival-water", water, 22, "survival", "B", .5, days(14), "Survival water", "watering"},
	{"let-dormant", water, 12, "policy", "B", .3, days(14), "Let it rest", "rest"},
	{"cut-back-water", water, 14, "water-less", "B", .36, days(3, 14), "Cut back the watering", "change of watering"},
	{"fix-irrigation", water, 30, "once", "B", .3, days(21), "Repair the irrigation", "repair"},
	{"improve-drainage", water, 31, "once", "B", .3, days(21), "Improve the drainage", "ground work"},
	{"install-drain", water, 31, "once", "B", .3, days(21), "Install a drain", "ground work"},
	{"apply-wetting-agent", water, 24, "wetter", "B", .38, days(14, 35), "Wetting agent", "spraying"},
	{"leach-salts", water, 24, "leach", "B", .45, days(14), "Leach the salt", "watering"},
	{"press-and-water", water, 24, "water", "B", .05, days(10, 21), "Press loose turf down and water", "rolling"},

	{"raise-mowing-height", mow, 40, "height", "B", .05, days(14), "Raise the mowing height", "change of height"},
	{"hold-mowing", mow, 12, "mow-less", "B", .1, nil, "Do not mow", "rest from mowing"},
	{"resume-mowing", mow, 40, "mow", "B", .1, days(3), "Mow again", "mowing"},
	{"lower-mowing-once", mow, 41, "low-mow", "C", .4, days(14), "Mow low once at green-up", "low mowing"},
	{"sharpen-blades", mow, 39, "blade", "B", 0, days(7), "Sharpen the blades", "mowing"},
	{"restrict-traffic", mow, 12, "none", "B", .05, nil, "Keep off", "traffic"},
	{"short-last-mowing", mow, 42, "low-mow", "B", .1, nil, "Lower the last cuts before winter", "mowing"},
	{"edge", mow, 42, "none", "C", 0, nil, "Cut the edges", "edging"},
	{"spring-handover", mow, 41, "low-mow", "B", .2, days(14, 28), "Bring the bermuda back in spring", "low mowing"},

	{"apply-nitrogen", feeding, 62, "n", "A", .36, days(12, 42), "Feed nitrogen", "feeding"},
	{"spoon-feed-nitrogen", feeding, 62, "n", "B", .2, days(10), "Feed little and often", "feeding"},
	{"acidifying-nitrogen", feeding, 62, "n", "B", .3, days(14, 90), "Feed acid-forming nitrogen", "feeding"},
	{"hold-nitrogen", feeding, 12, "none", "B", .1, nil, "Hold the feeding", "feeding"},
	{"apply-iron", feeding, 64, "iron", "A", .28, days(3, 14), "Iron", "spraying"},
	{"apply-phosphorus", feeding, 61, "p", "A", .4, days(42), "Phosphorus", "feeding"},
	{"apply-potassium", feeding, 61, "k", "B", .2, days(42), "Potassium", "feeding"},
	{"apply-micronutrients", feeding, 64, "micro", "C", .1, days(21), "Micronutrients", "feeding"},
	{"apply-manganese", feeding, 64, "micro", "B", .1, days(28), "Manganese", "feeding"},
	{"apply-lime", feeding, 56, "lime", "A", .42, days(180), "Lime", "liming"},
	{"apply-acidifier", feeding, 56, "sulfur", "B", .42, days(14, 180), "Sulfur", "acidifying"},
	{"apply-gypsum", feeding, 56, "gypsum", "A", .15, days(30), "Gypsum", "spreading"},
	{"apply-silicon", feeding, 66, "si", "C", .1, days(28, 60), "Silicon", "spreading"},

	{"core-aerate", ground, 54, "core", "A", .36, days(21), "Core aerate", "tines"},
	{"dethatch", ground, 52, "tear", "B", .4, days(21), "Dethatch", "tines"},
	{"scarify", ground, 52, "tear", "B", .4, days(21, 42), "Scarify", "blades"},
	{"topdress", ground, 60, "topdress", "B", .2, days(14), "Topdress", "topdressing"},
	{"level-surface", ground, 60, "topdress", "C", .2, days(21), "Level the surface", "ground work"},
	{"remove-debris", ground, 35, "none", "B", 0, days(14), "Clear the debris", "raking"},
	{"brush-up-mats", ground, 35, "none", "B", .05, days(14, 28), "Brush up the mats", "raking"},
	{"rake-out-moss", ground, 50, "tear", "B", .2, days(14), "Rake out the dead moss", "raking"},
	{"prune-shade", ground, 34, "once", "B", .35, days(60), "Let in more light", "pruning"},
	{"apply-compost", ground, 58, "topdress", "B", .15, days(60), "Compost into the holes", "topdressing"},
	{"replace-soil", ground, 31, "once", "C", .2, days(10, 21), "Replace the soil", "digging"},

	{"overseed", reseed, 58, "seed", "A", .45, days(21, 42, 60), "Overseed", "seeding"},
	{"slit-seed", reseed, 58, "seed", "A", .45, days(21, 42, 60), "Slit-seed", "seeding"},
	{"interseed", reseed, 58, "seed", "B", .35, days(21, 42, 60), "Interseed another grass", "seeding"},
	{"winter-overseed", reseed, 58, "seed", "B", .4, days(10, 21), "Overseed for a green winter", "seeding"},
	{"plug-or-sprig", reseed, 58, "plugs", "B", .3, days(14, 30), "Plug or sprig", "planting"},
	{"resod", reseed, 58, "sod", "B", .5, days(10, 21), "Lay sod", "laying sod"},
	{"renovate", reseed, 52, "once", "B", .6, days(28, 60), "Renovate", "renovation"},
	{"change-grass", reseed, 58, "once", "B", .4, days(60), "Change to another grass", "renovation"},
	{"change-use", reseed, 90, "once", "C", .3, nil, "Use the place for something else", "building"},
	{"off-type-removal", reseed, 50, "nonsel", "B", .3, days(14, 28), "Take out the foreign patch", "spraying"},

	{"fungicide-curative", protect, 46, "fung", "A", .43, days(14), "Fungicide on the disease", "spraying"},
	{"fungicide-preventive", protect, 70, "fung", "A", .4, days(28), "Fungicide before the season", "spraying"},
	{"insecticide-curative", protect, 45, "insect", "A", .68, days(7, 21), "Insecticide on a count", "spraying"},
	{"insecticide-preventive", protect, 71, "insect-year", "A", .3, days(60), "Insecticide before the eggs", "spraying"},
	{"herbicide-spot", protect, 47, "post", "B", .3, days(14, 28), "Spot-treat weeds", "spraying"},
	{"herbicide-broadcast", protect, 48, "post", "B", .45, days(21, 28), "Treat weeds broadcast", "spraying"},
	{"preemergent", protect, 70, "preem", "A", .4, days(56), "Pre-emergent", "spreading"},
	{"growth-regulator", protect, 72, "pgr", "A", .25, days(14, 28), "Growth regulator", "spraying"},
	{"nuisance-pests", protect, 73, "nuisance", "C", .1, days(14), "Treat pests that bother people", "spraying"},
	{"moss-control", protect, 44, "moss", "B", .35, days(14, 28), "Kill the moss", "spraying"},
	{"hand-weed", protect, 43, "none", "B", .02, days(21), "Weed by hand", "weeding"},
	{"clean-equipment", protect, 95, "none", "B", 0, nil, "Wash the mower", "cleaning"},

	{"send-lab-sample", learn, 25, "lab", "B", 0, days(10), "Send a disease sample", "sampling"},
	{"soil-test", learn, 25, "test", "B", 0, days(14), "Test the soil", "sampling"},
	{"wait-and-recheck", learn, 90, "none", "B", 0, days(14), "Wait and look again", "waiting"},
	{"leave-alone", learn, 90, "none", "B", .38, nil, "Leave it alone", "waiting"},
}

func days(n ...int) []int { return n }

// classes: the least interval of days between two of a class, and how many of them stop the others. Extension and usual labels; the
// label in hand goes before.
var classes = map[string]struct {
	interval float64
	reason   string
}{
	"deep":        {1, "watered {since}: look at the core again tomorrow"},
	"water":       {1, "watered {since}: look at the core again tomorrow"},
	"new-water":   {0, ""},
	"cooling":     {0, ""},
	"survival":    {14, "survival water was given {since}: again after two weeks"},
	"policy":      {0, ""},
	"water-less":  {0, ""},
	"once":        {0, ""},
	"wetter":      {14, "wetting agent was given {since}: again after two weeks, then every three to four"},
	"leach":       {1, ""},
	"height":      {0, ""},
	"mow-less":    {0, ""},
	"mow":         {0, ""},
	"low-mow":     {300, "it has been mown low this year"},
	"blade":       {5, "the blades were sharpened {since}"},
	"none":        {0, ""},
	"n":           {21, "fed {since}"},
	"iron":        {14, "iron was given {since}"},
	"p":           {60, "phosphorus was given {since}"},
	"k":           {28, "potassium was given {since}"},
	"micro":       {28, "given {since}"},
	"lime":        {180, "limed {since}"},
	"sulfur":      {60, "sulfur was given {since}"},
	"gypsum":      {60, "gypsum was given {since}"},
	"si":          {300, "silicon was given this year"},
	"core":        {42, "cored {since}"},
	"tear":        {300, "torn this year already: the turf has to close first"},
	"topdress":    {21, "topdressed {since}"},
	"seed":        {21, "seeded {since}: wait until all of it is up"},
	"plugs":       {28, "planted {since}"},
	"sod":         {28, "laid {since}"},
	"fung":        {14, "a fungicide was given {since}: again by the label, with another mode of action"},
	"insect":      {21, "an insecticide was given {since}: count again before another"},
	"nuisance":    {14, "treated {since}: again by the label's own interval"},
	"insect-year": {300, "given this season already"},
	"post":        {28, "a herbicide was given {since}: weeds are judged after four weeks"},
	"nonsel":      {14, "treated {since}: wait for regrowth"},
	"preem":       {56, "a pre-emergent was given {since}"},
	"pgr":         {28, "a regulator was given {since}"},
	"moss":        {28, "moss was treated {since}"},
	"lab":         {10, "a sample went out {since}"},
	"test":        {14, "a sample went out {since}"},
	"pesticide":   {0, ""},
}

// needs: the gates that each action has to pass, in any order: avoid goes before check-first, hold and schedule.
var needs = []struct{ action, gates string }{
	{"light-watering-of-new-stands", "frozen wet"},
	{"flush-spot-with-water", "frozen no-outlet"},
	{"water-deep", "dead wet frozen rain-enough let-rest sleep"},
	{"spot-water", "dead frozen let-rest sleep"},
	{"syringe-midday", "dead rest frozen"},
	{"survival-water", "dead frozen keep-green"},
	{"let-dormant", "first-year dead keep-green spent"},
	{"cut-back-water", ""},
	{"fix-irrigation", "frozen"},
	{"improve-drainage", "wet-note"},
	{"install-drain", "lines frozen"},
	{"apply-wetting-agent", "wet frozen sleep rest young hour-hot rain-soon dead"},
	{"leach-salts", "sodic no-outlet frozen"},
	{"press-and-water", "wet frozen dead"},
	{"raise-mowing-height", ""},
	{"resume-mowing", "wilt wet-wilt wet frozen frost-leaf rest"},
	{"lower-mowing-once", "overseeded raise dead crowns frost-ahead wet frozen"},
	{"short-last-mowing", "frozen"},
	{"edge", "lines frozen wet"},
	{"spring-handover", "frost-ahead wet"},
	{"apply-nitrogen", "budget dead wilt wilt-moist rest sleep half-green hot-turned frozen frost-ahead cold-grow wet downpour crowns"},
	{"apply-nitrogen", "young-feed loose disease-feeds burnt flush pest-first season-end"},
	{"spoon-feed-nitrogen", "budget dead wilt rest sleep half-green hot-note frozen frost-ahead cold-grow wet downpour young-feed loose"},
	{"spoon-feed-nitrogen", "disease-feeds burnt flush pest-first season-end"},
	{"acidifying-nitrogen", "budget dead wilt rest sleep half-green hot-turned frozen frost-ahead cold-grow wet downpour young-feed burnt flush"},
	{"acidifying-nitrogen", "season-end pest-first"},
	{"apply-iron", "dead wilt wet-wilt rest sleep frozen hot too-hot-leaf young rain-soon colour-first"},
	{"apply-phosphorus", "dead wilt rest frozen downpour near-water sleep"},
	{"apply-potassium", "dead wilt rest wet frozen downpour young-feed sleep hot"},
	{"apply-micronutrients", "dead wilt rest hot frozen sleep"},
	{"apply-manganese", "dead wilt rest hot frozen sleep"},
	{"apply-lime", "dead no-test-ph wilt frozen hot rest"},
	{"apply-acidifier", "free-lime no-test-ph wilt hot rest sleep young rotted summer-sulfur frozen"},
	{"apply-gypsum", "no-outlet frozen"},
	{"apply-silicon", "wilt frozen"},
	{"core-aerate", "loose young disease-works wilt wet-wilt wet frozen hot rest sleep lines open-dead"},
	{"dethatch", "by-hand loose young disease-works wilt wet-wilt wet frozen hot rest sleep open-dead winter-tear"},
	{"scarify", "stolons loose young disease-works wilt wet-wilt wet frozen hot rest sleep open-dead winter-tear"},
	{"topdress", "loose young disease-works wilt wet frozen hot rest sleep"},
	{"level-surface", "loose young wilt wet frozen hot rest sleep lines"},
	{"apply-compost", "loose young wilt wet frozen hot rest sleep"},
	{"brush-up-mats", "frozen frost-leaf wet-note"},
	{"remove-debris", "frost-leaf"},
	{"rake-out-moss", "frozen wet young"},
	{"prune-shade", "power"},
	{"replace-soil", "lines frozen"},
	{"overseed", "no-seed law-grass dark unmended disease-seed frozen preem-blocks hot-seed"},
	{"slit-seed", "no-seed law-grass dark unmended disease-seed frozen preem-blocks hot-seed"},
	{"interseed", "no-seed dark unmended disease-seed frozen preem-blocks hot-seed"},
	{"winter-overseed", "let-rest unmended"},
	{"plug-or-sprig", "dark law-grass unmended frost-ahead frozen preem-blocks"},
	{"resod", "unmended wet frozen"},
	{"renovate", "unmended-weeds law-grass"},
	{"change-grass", "frozen"},
	{"off-type-removal", "licence wilt rest sleep too-cold near-water"},
	{"fungicide-curative", "licence tolerated ran-out unnamed dead wilt-spray rest sleep hour-hot rain-soon near-water bloom frozen"},
	{"fungicide-preventive", "licence wilt rest sleep hour-hot rain-soon near-water frozen"},
	{"insecticide-curative", "licence harmless too-deep under-count bloom frozen near-water wilt-note dead-note"},
	{"insecticide-preventive", "licence bloom frozen near-water wet"},
	{"nuisance-pests", "licence bloom near-water frozen hour-hot rain-soon"},
	{"herbicide-spot", "licence sleep-weeds crowns rest wilt wet-wilt hot too-hot too-cold young tender-spot near-water bloom rain-soon tree-roots"},
	{"herbicide-spot", "hurt frozen"},
	{"herbicide-broadcast", "licence sleep-weeds crowns rest wilt wet-wilt hot too-hot too-cold young tender near-water bloom rain-soon tree-roots"},
	{"herbicide-broadcast", "hurt frozen dead"},
	{"preemergent", "young-none dead-share crowns-pre near-water frozen downpour thin-creepers"},
	{"preemergent", "licence"},
	{"growth-regulator", "licence wilt rest sleep hot too-hot too-cold young dead frozen hurt-lately"},
	{"moss-control", "licence-moss moss-dead hot wilt frozen rain-soon young tender-moss"},
	{"hand-weed", "frozen dry-weed"},
}

// moreGateRows are gates that one or two actions need.
var moreGateRows = []gateRow{
	{"wilt-moist", Agronomy, Hold, "wet-wilt and (loose or hotc or root-condition = rotted|chewed-off)", "it wilts on moist soil: the roots are hurt", "new roots hold it"},
	{"wilt-spray", Agronomy, Hold, "thirsty and without pythium-weather", "nothing is sprayed on wilted grass", "it has been watered and stands up again"},
	{"wilt-note", Agronomy, note, "thirsty", "water first: {6 to 12 mm}, then the product this evening or tomorrow", ""},
	{"dead-note", Agronomy, note, "dead", "the dead part has to be repaired as well", ""},
	{"too-hot-leaf", ByLabel, note, "max2 > 29.4", "only in hours under {29 °C}, at dawn or in the last two hours of light", ""},
	{"rotted", Agronomy, Hold, "root-condition = rotted or pull-test = peels-in-rotten-sheets", "sulfur burns roots that are hurt already", "new white roots are seen"},
	{"summer-sulfur", Agronomy, Hold, "t5 > 24", "in warm soil sulfur burns", "the soil is under {24 °C}"},
	{"open-dead", Agronomy, Hold, "dead and bare-stand", "dead ground is opened only together with seeding", "the seeding, as one job"},
	{"winter-tear", Agronomy, Hold, "winter-hurt and spring", "turf that winter hurt is not torn", "it has grown together again"},
	{"by-hand", Agronomy, Avoid, "dethatching = by-hand", "{grass} is torn apart by tines: rake by hand", "nothing"},
	{"stolons", Agronomy, Avoid, "grass = st-augustinegrass|centipedegrass", "runners above ground are cut to pieces", "nothing"},
	{"power", ByLaw, note, "power-lines-within-3m = yes", "within 3 m of power lines: the utility or an arborist", ""},
	{"law-grass", ByLaw, note, "grass = kikuyugrass", "kikuyu is a listed weed in some places: the law first", ""},
	{"disease-seed", Agronomy, Hold, "open(pythium-blight) and p(pythium-blight) >= .4", "seedlings die in pythium weather", "nights under {20 °C}"},
	{"disease-seed", Agronomy, Hold, "p(gray-leaf-spot) >= .4 and grass = perennial-ryegrass and t5 > 21", "gray leaf spot takes seedlings of ryegrass", "cooler weather, or another grass"},
	{"preem-blocks", ByLabel, Hold, "since(preem) < 90", "a pre-emergent went down {since-preem}: it still stops seed", "the label's interval is over"},
	{"hot-seed", Agronomy, note, "hotc", "in heat only with water several times a day", ""},
	{"unmended-weeds", Agronomy, note, "always", "only after the reason for the weeds is dealt with", ""},
	{"harmless", Agronomy, Avoid, "grub-kind = harmless and is(white-grubs)", "the larvae are harmless or useful", "nothing"},
	{"sleep-weeds", Agronomy, Hold, "sleepw and without winter-weeds and without bulbs", "these weeds do not grow now either", "it is warm enough"},
	{"tender-spot", ByLabel, note, "tender", "half-green: by wick, shield or hand only", ""},
	{"hurt", Agronomy, Hold, "p(herbicide-injury) >= .3 or (winter-hurt and without living and without new-leaf)", "hurt turf is not sprayed", "new growth is seen"},
	{"hurt-lately", Agronomy, Hold, "p(drought-stress|heat-stress|summer-dormancy|drought-dieback|scalping|frost-injury) >= .3", "not for four weeks after stress", "four weeks of sound growth"},
	{"dead-share", Agronomy, Avoid, "dead or bare-stand", "the dead parts need seed, and it stops seed", "the dead parts are seeded and mown four times"},
	{"crowns-pre", Agronomy, CheckFirst, "winter-hurt and spring and without crowns-cut", "where crowns are dead it would stop the seeding that is needed", "crown-slice"},
	{"thin-creepers", ByLabel, note, "creeping and thin-stand", "it slows runners that still have to close", ""},
	{"spent", Agronomy, note, "spent", "{endur} of what it stands is used up: survival water now", ""},
	{"licence-moss", ByLaw, Hold, "licence = no", "what is sold against moss is a pesticide in many places: a licence first", "a licensed applicator takes the job, or the place does not ask for one"},
	{"moss-dead", Agronomy, Avoid, "moss-dead or moss-treated", "it is dead: rake it out when dry", "nothing"},
	{"tender-moss", Agronomy, Avoid, "grass = st-augustinegrass|centipedegrass", "it hurts {grass}", "nothing"},
	{"dry-weed", Agronomy, Hold, "dry-feel", "from dry soil the roots break", "the soil is moist"},
}

// Pesticides by action: what needs a licence that is valid that day wherever its product is a pesticide; iron against moss is one in
// many places.
var pesticides = map[string]bool{
	"fungicide-curative": true, "fungicide-preventive": true, "insecticide-curative": true, "insecticide-preventive": true,
	"herbicide-spot": true, "herbicide-broadcast": true, "preemergent": true, "growth-regulator": true, "off-type-removal": true,
	"nuisance-pests": true,
}

// spoken are said to the client or kept in mind; nothing is recorded of them.
var spoken = map[string]bool{"hold-nitrogen": true, "leave-alone": true, "wait-and-recheck": true}

// airborne are recorded with the weather of the hour: pesticides that are sprayed, not spread.
var airborne = map[string]bool{
	"fungicide-curative": true, "fungicide-preventive": true, "insecticide-curative": true, "herbicide-spot": true,
	"herbicide-broadcast": true, "growth-regulator": true, "off-type-removal": true, "nuisance-pests": true,
}
