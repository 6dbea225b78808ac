package remedy

// Kind is what a gate is: law and label are passed by nobody, agronomy and policy by who may with a reason.
type Kind string

// The kinds of gates.
const (
	ByLaw    Kind = "law"
	ByLabel  Kind = "label"
	Agronomy Kind = "agronomy"
	ByPolicy Kind = "policy"
	Safety   Kind = "safety"
)

// note is a gate's verdict that stops nothing and is told.
const note Verdict = "note"

// gateRow is one line of a gate: when it holds, the verdict it gives, why, and what lifts it. With check-first, lifted is the
// finding to look at. A gate may have several lines; the first that holds speaks.
type gateRow struct {
	gate   string
	kind   Kind
	gives  Verdict
	test   string
	reason string
	lifted string
}

// gateRows: extension consensus; label limits are the usual ones, and the label in hand goes before. Figures marked J in the tests
// are judgement: dep .85, 25 mm in 48 h, 1 mm of rain after a spray by daily values.
var gateRows = []gateRow{
	{"wilt", Agronomy, Hold, "thirsty or (wilted and nobody-felt and dep >= .5) or (dep >= .85 and without resting and without not-dry)", "wilted turf takes nothing up; salts and sprays burn it", "it has been watered and stands up again"},
	{"wilt", Agronomy, CheckFirst, "wilted and nobody-felt and without dep >= .5", "it looks wilted: feel the soil first", "soil-moisture"},
	{"wet-wilt", Agronomy, Hold, "wet-wilt", "it wilts on moist soil, from roots or heat, and bears nothing more", "footprints spring back"},
	{"rest", Agronomy, Hold, "resting", "resting turf takes nothing up; what is put down leaches or burns", "25 mm of rain or water and new green over a third of it"},
	{"sleep", Agronomy, Hold, "sleepw", "dormant warm-season turf takes nothing up; the weeds do", "half of it is green"},
	{"half-green", Agronomy, Hold, "wakew and wake-half and without hungry and without slow", "half-green turf is fed after green-up; until then at most {1 g N/m²} of a slow one", "90 % green"},
	{"half-green", Agronomy, Hold, "wakew and without wake-half", "half-green turf is fed when half of it is green, and then lightly", "half of it is green"},
	{"tender", ByLabel, Hold, "tender", "{grass} is set back for weeks when sprayed before it is {tender-under} green", "{tender-under} green by measure"},
	{"hot", Agronomy, Hold, "hotc", "heat-stressed cool-season turf bears no {work}", "afternoon soil under {27 °C} for two days and no run of hot days ahead"},
	{"hot-turned", Agronomy, Hold, "hotc and without turned", "nitrogen harms cool-season turf in heat", "the ten days ahead stay under {27 °C}"},
	{"hot-note", Agronomy, note, "hotc", "it is hot: only in the evening, and little", ""},
	{"too-hot", ByLabel, Hold, "max2 > 29.4 and cool", "over {29 °C} herbicides and regulators hurt turf and drift as vapour", "today and tomorrow stay under {29 °C}"},
	{"too-hot", ByLabel, Hold, "max2 > 32 and warm", "over {32 °C} they hurt the turf and drift as vapour", "today and tomorrow stay under {32 °C}"},
	{"too-hot", ByLabel, Hold, "hot-soil", "sprays hurt turf whose roots are too hot", "the afternoon soil is under {27 °C}"},
	{"hour-hot", ByLabel, note, "max2 > 29.4", "only in hours under {29 °C}: early after the dew, or late", ""},
	{"too-cold", ByLabel, Hold, "max2 < 10", "under {10 °C} nothing is taken up", "two days reach {10 °C}"},
	{"too-cold", ByLabel, Hold, "t5-seen < 5", "in cold soil nothing is taken up", "the soil is warmer and weeds grow"},
	{"wet", Agronomy, Hold, "wet", "wet ground smears, packs and runs off", "the ground has drained to moist, usually 24 to 48 hours"},
	{"wet-note", Agronomy, note, "wet", "the ground is wet: by hand, from boards", ""},
	{"frozen", ByLaw, Hold, "frozen", "nothing goes on frozen ground: nothing is taken up, and it runs off", "it has thawed to {50 mm}"},
	{"frost-leaf", Agronomy, note, "min-last <= 0", "not on frosted leaves: start two hours after sunrise", ""},
	{"frost-ahead", Agronomy, Hold, "warm and (min10 <= -2.2 or (spring and since-frost < 0 and latitude >= 31))", "a hard frost is still to be expected", "the forecast and the usual last frost are past it"},
	{"frost-ahead", Agronomy, Hold, "cool and min5 <= -5", "a hard frost is forecast: new growth would be hurt", "the frost is over"},
	{"downpour", Agronomy, Hold, "rain48 >= 25", "{rain48} of rain are forecast in two days: it would wash off and leach", "the heavy rain is over"},
	{"rain-soon", ByLabel, note, "rain24 >= .5 and rain24 < 25", "rain is forecast: find a dry slot as long as the label asks", ""},
	{"rain-enough", Agronomy, Hold, "rain72 >= 8 and dep < .7 and without wilted and without new-stand", "{rain72} of rain are forecast in three days", "the rain has come, or missed"},
	{"crowns", Agronomy, CheckFirst, "without crowns-cut and cold-hurt and p(winter-crown-kill|frost-injury|spring-dead-spot) >= .25", "cut crowns first: it decides between waiting and seeding", "crown-slice"},
	{"crowns", Agronomy, Hold, "winter-hurt and without living and without new-leaf and p(winter-crown-kill|frost-injury) >= .4", "after winter injury the turf grows again first", "new growth is seen"},
	{"dead", Agronomy, Avoid, "mostly-dead", "the crowns are dead: there is nothing to feed, water or protect", "seed, plugs or sod"},
	{"dead", Agronomy, note, "dead or mixed", "not on the dead part: take it off the area", ""},
	{"young", ByLabel, Hold, "new-stand", "a new stand is hurt by it", "it has been mown four times or is 60 days up, and resists a pull"},
	{"young-feed", Agronomy, Hold, "new-stand and without mowings-since-start >= 2", "new grass is fed after its second mowing", "it has been mown twice or is five weeks up"},
	{"young-none", Agronomy, Avoid, "new-stand", "it would kill or stop the new stand", "the stand is established"},
	{"first-year", Agronomy, Avoid, "first-year", "a first-year stand dies instead of resting", "its second summer"},
	{"loose", Agronomy, Hold, "loose", "the turf lifts: machines tear off what could root again", "it resists a pull"},
	{"loose", Agronomy, CheckFirst, "underfoot = soft-loose and unknown(pull-test)", "it feels loose: pull first", "pull-test"},
	{"disease-works", Agronomy, Hold, "leaf-active", "a leaf disease is active: machines spread it and open the turf", "five days without a fresh margin"},
	{"disease-feeds", Agronomy, Hold, "fed-disease", "nitrogen feeds {fed-disease}", "its weather has been over for five days"},
	{"burnt", Agronomy, Hold, "p(fertilizer-burn) >= .4 or n-recent > 4.9", "it has had too much already", "six weeks after the feeding that burnt it"},
	{"flush", Agronomy, Hold, "p(growth-flush-chlorosis) >= .5", "it has nitrogen enough and grows too fast", "the flush is over, two to three weeks"},
	{"pest-first", Agronomy, Hold, "pest-over", "{pest-over} would eat the new growth that feeding brings", "ten days after the treatment"},
	{"cold-grow", Agronomy, Hold, "cool and without growing-sky and without resting and without (autumn and t5 >= 7 and gp14 >= .05)", "too cold for roots to take it up", "it grows: soil over about {7 °C} and mown twice"},
	{"no-test-ph", Agronomy, CheckFirst, "unknown(soil-ph)", "only by soil test", "soil-ph"},
	{"free-lime", Agronomy, Avoid, "fizz = yes or soil-ph >= 8", "free lime uses up any sulfur first", "nothing; acid nitrogen and chelated iron instead"},
	{"free-lime", Agronomy, CheckFirst, "unknown(fizz) and soil-ph >= 7.5", "try for free lime first: a drop of vinegar or acid on dry soil", "fizz"},
	{"sodic", Agronomy, Hold, "soil-sar >= 13", "the soil is sodic: clean water alone seals it", "gypsum has been put down, before and with the leaching"},
	{"sodic", Agronomy, CheckFirst, "unknown(soil-sar) and (texture = silt-loam|clay-loam|clay or surface = crusted)", "test the sodium first: on sodic soil clean water seals the ground", "soil-sar"},
	{"sodic", Agronomy, note, "unknown(soil-sar)", "have the sodium tested with the next sample", ""},
	{"no-outlet", Agronomy, Hold, "drains-badly", "the water cannot drain away: leaching would drown it", "the drainage works"},
	{"lines", ByLaw, CheckFirst, "without lines = yes and without lines-located = yes", "have buried lines located first: no locate on record", "lines-located"},
	{"unmended", Agronomy, Hold, "unmended", "{unmended} is not fixed yet: the same will happen again", "the cause is dealt with"},
	{"no-seed", Agronomy, Avoid, "vegetative", "{grass} is not grown from seed: plugs, sprigs or sod", "nothing"},
	{"dark", Agronomy, Avoid, "dark", "{sun-hours} of sun are under what {grass} needs ({sun-least}): it thins again every year", "more light, or another plant"},
	{"licence", ByLaw, Hold, "licence = no", "nobody with a valid licence is on this job", "a licensed applicator takes the job"},
	{"bloom", ByLabel, Hold, "flowers-in-zone = weeds", "flowers are open: bees", "the flowers are mown off, the same day and before"},
	{"bloom", ByLabel, Hold, "flowers-in-zone = trees", "trees or hedges flower within reach: bees", "the bloom is over"},
	{"near-water", ByLabel, Hold, "water-distance-m < 3", "open water is nearer than the usual buffer", "a strip as wide as the label's buffer is left untreated"},
	{"tree-roots", ByLabel, note, "tree-drip-line = yes", "nothing that roots take up under the trees (dicamba, clopyralid and their like)", ""},
	{"budget", Agronomy, Avoid, "n12 >= n-high", "{n12} in twelve months is the whole year of {grass}", "a new season"},
	{"season-end", Agronomy, Hold, "cool and autumn and (t5 < 7 or gp14 < .05)", "the soil is too cold: it would leach", "spring, once it grows and needs it"},
	{"season-end", Agronomy, Hold, "warm and autumn and to-frost <= n-season-end", "too near to the first hard frost for {grass}", "the next full green-up"},
	{"season-end", Agronomy, Hold, "warm and autumn and n-dose < .5", "it hardly grows any more this season", "the next full green-up"},
	{"season-end", Agronomy, Hold, "warm and autumn and winter-half", "the season of {grass} is over", "the next full green-up"},
	{"colour-first", Agronomy, CheckFirst, "p(iron-chlorosis|growth-flush-chlorosis|high-ph) < .7 and unknown(pull-test)", "colour hides the cause: pull first", "pull-test"},
	{"let-rest", ByPolicy, Avoid, "let-rest and without first-year and without sleepw and without winter-half", "the client lets it rest: keep to that for the whole dry spell", "the policy changes"},
	{"let-rest", ByPolicy, Avoid, "resting and water-unset and summer-dormant", "it rests; a lawn woken by water has to be kept awake, and the client has not been asked", "the client decides"},
	{"keep-green", ByPolicy, Avoid, "keep-green", "the client keeps it green: one line for the whole spell", "the policy changes"},
	{"tolerated", ByPolicy, Avoid, "blemish and without treats and without (affected-area-percent >= 25 and spreads)", "a blemish: it clears with feeding, dawn watering and growth, and the client accepts it or was not asked", "the client wants it treated"},
	{"ran-out", Agronomy, Avoid, "ends(it)", "its weather ends within days: it grows out", "its weather comes back"},
	{"ran-out", Agronomy, Avoid, "closed(it) and without fresh", "its weather is over: it grows out", "its weather comes back"},
	{"unnamed", Agronomy, CheckFirst, "without seen(it) and without pythium-weather", "no fungicide for spots of some kind: name it first", "{proof}"},
	{"under-count", Agronomy, Avoid, "counted(it) and counts(it) and without over(it)", "{count} per m² is below the damaging count of {tier}", "a higher count"},
	{"too-deep", Agronomy, Avoid, "deep(it)", "they lie too deep or are too grown to feed: plan the repair and the next window", "the next window of prevention"},
	{"raise", Agronomy, Avoid, "raise-due", "it is to be mown higher, not lower", "the stand has recovered"},
	{"overseeded", Agronomy, Avoid, "recent-events = overseeded and winter-half", "winter grass stands on it", "its handover in spring"},
}

// moreTerms are terms of the gates, built on the others.
var moreTerms = []struct{ name, test, source string }{
	{"leaf-disease", "active(dollar-spot|brown-patch|large-patch|leaf-spot|gray-leaf-spot|pythium-blight|rust|red-thread|anthracnose)", ""},
	{"leaf-active", "leaf-disease and without all-shut", ""},
	{"all-shut", "closed(brown-patch) and closed(dollar-spot) and closed(leaf-spot) and closed(gray-leaf-spot) and without fresh", ""},
	{"summer-dormant", "p(summer-dormancy) >= .4 or drought-rest", ""},
	{"pythium-weather", "p(pythium-blight) >= .34 and without closed(pythium-blight)", "no waiting for dawn"},
	{"raise-due", "mowing-height-mm < mow-low", ""},
}

// gateAt finds the lines of a gate.
var gateAt = map[string][]gate{}

type gate struct {
	gateRow
	holds test
}

func compileGates() {
	for _, r := range append(append([]gateRow{}, gateRows...), moreGateRows...) {
		gateAt[r.gate] = append(gateAt[r.gate], gate{r, compile(r.test)})
	}
}
