package remedy

// seasonRow is when an action is open: a test of a day, by nature and not by the calendar. applies says for which lawns the line
// holds today. An action with several lines that apply is open when one of them is; one without lines always. Source: extension
// consensus in soil temperatures at 50 mm; days before frost and heat by grass.
type seasonRow struct {
	action, applies, open, name string
}

var seasonRows = []seasonRow{
	{"overseed", "cool", "autumn and t5 >= 13 and t5 <= 25 and to-frost >= frost-free + -7 and phase >= 10", "late summer to early autumn"},
	{"overseed", "cool", "spring and t5 >= 10 and t5 <= 18 and to-hot >= 60", "spring: more weeds, no ordinary pre-emergent, a third more seed"},
	{"overseed", "warm", "spring and t5 >= plant-low and t5 <= plant-high and to-frost >= frost-free", "late spring to midsummer"},
	{"slit-seed", "cool", "autumn and t5 >= 13 and t5 <= 25 and to-frost >= frost-free + -7 and phase >= 10", "late summer to early autumn"},
	{"slit-seed", "cool", "spring and t5 >= 10 and t5 <= 18 and to-hot >= 60", "spring: more weeds, no ordinary pre-emergent, a third more seed"},
	{"slit-seed", "warm", "spring and t5 >= plant-low and t5 <= plant-high and to-frost >= frost-free", "late spring to midsummer"},
	{"interseed", "cool", "autumn and t5 >= 13 and t5 <= 25 and to-frost >= frost-free + -7 and phase >= 10", "late summer to early autumn"},
	{"interseed", "warm", "spring and t5 >= plant-low and to-frost >= frost-free", "late spring to midsummer"},
	{"winter-overseed", "warm", "autumn and t5 <= 24 and t5 >= 18 and to-frost <= 42 and to-frost >= 21", "as the soil falls to {20 °C}"},
	{"plug-or-sprig", "warm", "spring and t5 >= plant-low and t5 <= plant-high and to-frost >= frost-free", "late spring to midsummer"},
	{"plug-or-sprig", "cool", "t5 >= plant-low and to-frost >= frost-free", "in growth"},
	{"resod", "cool", "t5 > 1", "any day on which the soil can be worked"},
	{"resod", "warm", "t5 >= 16 and (spring or to-frost >= 45)", "in warm soil"},
	{"resod", "other-grass", "t5 > 5", "when it grows"},
	{"renovate", "cool", "phase >= 0 and phase < 60 and to-frost >= frost-free + 14", "the kill four weeks before the autumn seeding"},
	{"renovate", "warm", "spring and t5 >= plant-low and to-frost >= 56", "late spring to early summer"},
	{"change-grass", "cool", "phase >= 0 and phase < 60 and to-frost >= frost-free + 14", "with the autumn seeding"},
	{"change-grass", "warm", "spring and t5 >= plant-low and to-frost >= 56", "late spring to early summer"},
	{"off-type-removal", "cool", "phase >= 10 and phase < 70 and t5 >= 14", "late summer, growing, with the seeding after it"},
	{"off-type-removal", "warm", "greenw and to-frost >= 90", "in full growth"},

	{"core-aerate", "cool", "autumn and t5 <= 24 and t5 >= 10 and to-frost >= 20 and phase >= 14", "autumn"},
	{"core-aerate", "cool", "spring and t5 >= 10 and t5 <= 18 and to-hot >= 30", "spring"},
	{"core-aerate", "warm", "greenw and to-frost >= 60", "in full growth"},
	{"dethatch", "cool", "autumn and t5 <= 24 and t5 >= 13 and to-frost >= 40 and phase >= 14", "early autumn"},
	{"dethatch", "cool", "spring and t5 >= 10 and to-hot >= 45 and gp5 >= .3", "spring, after two mowings"},
	{"dethatch", "warm", "greenw and t5 >= 21 and to-frost >= 90", "late spring to midsummer"},
	{"scarify", "cool", "autumn and t5 <= 24 and t5 >= 13 and to-frost >= 40 and phase >= 14", "early autumn"},
	{"scarify", "cool", "spring and t5 >= 10 and to-hot >= 45 and gp5 >= .3", "spring, after two mowings"},
	{"scarify", "warm", "greenw and t5 >= 21 and to-frost >= 90", "late spring to midsummer"},
	{"topdress", "cool", "t5 <= 24 and t5 >= 10 and to-hot >= 30 and (spring or to-frost >= 20)", "in growth, with the coring"},
	{"topdress", "warm", "greenw and to-frost >= 60", "in full growth"},
	{"apply-compost", "cool", "t5 <= 24 and t5 >= 10 and to-hot >= 30 and (spring or to-frost >= 20)", "in growth, with the coring"},
	{"apply-compost", "warm", "greenw and to-frost >= 60", "in full growth"},
	{"apply-silicon", "cool", "t5 <= 24 and t5 >= 10 and to-hot >= 30 and (spring or to-frost >= 20)", "in growth, with the coring"},
	{"apply-silicon", "warm", "greenw and to-frost >= 60", "in full growth"},
	{"level-surface", "cool", "autumn and t5 <= 22 and to-frost >= 30", "autumn"},
	{"level-surface", "warm", "greenw and to-frost >= 60", "in full growth"},
	{"improve-drainage", "", "t5 > 1 and days-ahead >= 3", "any thawed week in which the ground bears"},
	{"replace-soil", "", "t5 > 1 and days-ahead >= 14", "any thawed week, when it is known what it was"},
	{"prune-shade", "", "phase >= 105 and phase <= 245", "while the tree is bare"},

	{"lower-mowing-once", "low-mown", "spring and t5 >= low-mow-soil and since-frost >= 0 and since-frost <= 75", "at green-up"},
	{"short-last-mowing", "cool", "autumn and gp14 < .4 and t5 >= 5 and phase >= 60", "the last weeks of growth"},
	{"spring-handover", "warm", "spring and t5 >= 16", "when the soil passes {16 °C}"},
	{"resume-mowing", "first-cut-due and cool", "spring and t5 >= 7 and gp5 >= .15", "when it grows"},
	{"resume-mowing", "first-cut-due and warm", "spring and t5 >= starts + 2", "when it grows"},

	{"apply-nitrogen", "cool", "autumn and turned and t5 >= 7 and gp14 >= .05", "autumn, when the weather has turned"},
	{"apply-nitrogen", "cool", "spring and t5 >= 10 and gp14 >= .15 and without feed-summer", "spring, after two mowings"},
	{"apply-nitrogen", "warm", "greenw and (spring or to-frost >= n-season-end)", "from full green-up"},
	{"apply-nitrogen", "warm and wake-half and wakew", "spring and t5 >= starts + 1", "half green, lightly"},
	{"acidifying-nitrogen", "cool", "t5 >= 8 and gp14 >= .15 and without feed-summer", "with the feeding"},
	{"acidifying-nitrogen", "warm", "t5 >= starts and (spring or to-frost >= n-season-end)", "from green-up"},
	{"spoon-feed-nitrogen", "warm", "greenw and (spring or to-frost >= n-season-end)", "in growth"},
	{"apply-manganese", "cool", "t5 >= 8 and gp14 >= .15", "in growth"},
	{"apply-manganese", "warm", "t5 >= starts", "in growth"},
	{"apply-lime", "soil-ph >= ph-under", "autumn and t5 <= 16 and t5 > 1", "autumn to early spring"},
	{"apply-acidifier", "", "t5 <= 20 and t5 >= 5", "cool weather"},

	{"moss-control", "known(t5-seen)", "t5 >= 4 and t5 <= 16", "cool and moist, before a seeding window"},
	{"moss-control", "unknown(t5-seen)", "(phase >= 215 and phase < 305) or (phase >= 45 and phase < 115)", "cool and moist, before a seeding window"},

	{"preemergent", "annuals or programme", "spring and (t5 >= 9 or phase < 238) and t5 <= 13.5 and t5 >= 8 and without grown-degrees", "as the soil rises through {10 to 13 °C}"},
	{"preemergent", "(annuals or programme) and mild-place", "spring and t5 >= 13 and t5 <= 16", "as the soil rises through {13 to 16 °C}"},
	{"preemergent", "winter-weeds or (programme and warm)", "autumn and phase >= 28 and t5 <= 24 and t5 >= 19", "as the soil falls through {24 to 21 °C}"},

	{"herbicide-spot", "annuals and without perennials", "spring and t5 >= 14 and t5 <= 24", "young, at one to four leaves"},
	{"herbicide-spot", "sedges", "t5 >= 18 and (spring or phase < 21)", "three to five leaves, up to midsummer"},
	{"herbicide-spot", "winter-weeds and warm", "phase >= 75 and t5 < 15", "small and growing on dormant turf"},
	{"herbicide-spot", "winter-weeds and cool", "autumn and t5 <= 18 and t5 >= 6", "autumn, small"},
	{"herbicide-spot", "bulbs", "phase >= 110 and phase <= 250 and t5 >= 3", "in leaf, before flower"},
	{"herbicide-spot", "perennials or broadleaf", "autumn and t5 <= 21 and t5 >= 8 and phase >= 30", "autumn"},
	{"herbicide-spot", "perennials or broadleaf", "spring and t5 >= 11 and t5 <= 21 and gp14 >= .25", "late spring, weaker than in autumn"},
	{"herbicide-broadcast", "annuals and without perennials", "spring and t5 >= 14 and t5 <= 24", "young, at one to four leaves"},
	{"herbicide-broadcast", "sedges and without perennials", "t5 >= 18 and (spring or phase < 21)", "three to five leaves, up to midsummer"},
	{"herbicide-broadcast", "winter-weeds and warm", "phase >= 75 and t5 < 15", "small and growing on dormant turf"},
	{"herbicide-broadcast", "winter-weeds and cool", "autumn and t5 <= 18 and t5 >= 6", "autumn, small"},
	{"herbicide-broadcast", "perennials or broadleaf", "autumn and t5 <= 21 and t5 >= 8 and phase >= 30", "autumn"},
	{"herbicide-broadcast", "perennials or broadleaf", "spring and t5 >= 13 and t5 <= 21 and gp14 >= .3", "late spring, weaker than in autumn"},
}

// preventiveRow is the season of a preventive: the pest or disease, the family of turf, what has to hold for the client besides the
// history, and a test of a day. Degree days hold from latitude 35 on; nearer to the equator the season is named by another line.
// Extension; dates and shares that no trial gives are judgement.
type preventiveRow struct {
	action, cause, family, asks, open, name string
}

var preventiveRows = []preventiveRow{
	{"fungicide-preventive", "spring-dead-spot", "W", "", "autumn and phase >= 28 and t5 <= 21.5 and t5 >= 15", "autumn, as the soil falls through {21 to 15 °C}"},
	{"fungicide-preventive", "large-patch", "W", "", "autumn and phase >= 28 and t5 <= 21.5 and t5 >= 16", "autumn, as the soil falls through {21 to 16 °C}"},
	{"fungicide-preventive", "take-all-root-rot", "CW", "", "autumn and phase >= 28 and t5 <= 21.5 and t5 >= 16", "autumn, as the soil falls through {21 to 16 °C}"},
	{"fungicide-preventive", "take-all-root-rot", "CW", "", "spring and t5 >= 16 and t5 <= 20", "spring, at green-up"},
	{"fungicide-preventive", "summer-patch", "C", "", "spring and t5 >= 17.5 and t5 <= 22", "late spring, at {18 °C} in the soil"},
	{"fungicide-preventive", "necrotic-ring-spot", "C", "", "spring and t5 >= 13 and t5 <= 18", "spring, at {13 to 18 °C} in the soil"},
	{"fungicide-preventive", "necrotic-ring-spot", "C", "", "autumn and t5 <= 18 and t5 >= 13", "autumn, at {18 to 13 °C} in the soil"},
	{"fungicide-preventive", "gray-snow-mold", "C", "", "autumn and mean10 <= 5 and mean10 > -3", "after the last mowing, before lasting snow"},
	{"fungicide-preventive", "pink-snow-mold", "C", "", "autumn and mean10 <= 10 and mean10 >= 3", "late autumn, before snow"},
	{"fungicide-preventive", "dollar-spot", "CW", "treats and hist(dollar-spot)", "gp14 >= .15 and t5 >= 14 and open-index", "when its index stands at 20 % and more"},
	{"fungicide-preventive", "brown-patch", "C", "treats and hist(brown-patch)", "spring-or-summer and t5 >= 20 and max-min3 >= 18", "nights over {18 °C}"},
	{"fungicide-preventive", "gray-leaf-spot", "CW", "hist(gray-leaf-spot)", "phase < 50 and mean3 >= 21 and mean3 <= 28", "warm, wet weeks of late summer"},
	{"fungicide-preventive", "anthracnose", "C", "", "to-hot > 0 and to-hot <= 28 and spring", "the month before the heat"},
	{"fungicide-preventive", "pythium-blight", "C", "hist(pythium-blight)", "open-pythium", "when the forecast holds hot days and nights over {20 °C}"},
	{"fungicide-preventive", "fairy-ring", "CW", "treats and hist(fairy-ring)", "spring and t5 >= 13 and t5 <= 18", "spring, at {13 to 18 °C} in the soil"},

	{"insecticide-preventive", "white-grubs", "CW", "", "spring-or-summer and dd10 >= 350 and dd10 <= 950", "from the beetles' flight to the first small larvae"},
	{"insecticide-preventive", "white-grubs", "CW", "low-latitude", "phase >= 310 and phase <= 352", "from the beetles' flight to the first small larvae"},
	{"insecticide-preventive", "billbugs", "C", "", "spring and dd10-march >= 155 and dd10-march <= 450", "when the adults walk, in spring"},
	{"insecticide-preventive", "billbugs", "W", "", "spring and t5 >= 18 and t5 <= 24", "when the adults walk, in spring"},
	{"insecticide-preventive", "mole-crickets", "W", "", "t5 >= 24 and (spring or phase < 20)", "small nymphs, four weeks after the soil passed {20 °C}"},
	{"insecticide-preventive", "chinch-bugs", "C", "half-count", "dd7 >= 700 and dd7 <= 900", "the first nymphs, on a count"},
	{"insecticide-preventive", "chinch-bugs", "W", "half-count", "t5 >= 24", "the first nymphs, on a count"},
	{"insecticide-preventive", "crane-fly-larvae", "C", "", "autumn and t5 <= 12 and t5 >= 6", "autumn, small larvae"},
}

// lastTerms are terms of the seasons.
var lastTerms = []struct{ name, test, source string }{
	{"programme", "client-wishes = weed-programme or weed-share-last-season-percent >= 5 or hist(weed-invasion)", ""},
	{"mild-place", "normal-coldest >= 10", ""},
	{"grown-degrees", "dd10-mean > 280", "°C·d: germinated"},
	{"low-latitude", "latitude < 35", ""},
	{"spring-or-summer", "phase < 60 or phase >= 183", ""},
	{"open-index", "open(dollar-spot)", ""},
	{"open-pythium", "open(pythium-blight)", ""},
	{"half-count", "counted(chinch-bugs) and (nearly(chinch-bugs) or over(chinch-bugs))", ""},
	{"snow-lies", "snow-now >= 1", ""},
	{"never", "days-ahead < 0", ""},
	{"client-colour", "client-wishes = off-type-gone and never", ""},
	{"fed-poor", "pale-old and hungry-year and without pale-new", ""},
	{"not-up", "annuals and without perennials and without broadleaf-now and spring and t5 < 13 and phase >= 183", ""},
	{"broadleaf-now", "weed-kinds = broadleaf|winter-annual|sedge|kyllinga|bulb", ""},
	{"dying", "(annuals and without perennials and without broadleaf-now and autumn and to-frost <= 35) or (winter-weeds and without perennials and spring and t5 > 18)", ""},
	{"wild-over", "wild-grass and weed-cover-percent > 50", ""},
	{"by-hand", "weed-few and moist-or-unfelt", ""},
	{"moist-or-unfelt", "moist-feel or nobody-felt", ""},
	{"root-leads", "p(necrotic-ring-spot|summer-patch|take-all-root-rot|spring-dead-spot) >= .3 and p(dollar-spot|brown-patch|large-patch|gray-leaf-spot|pythium-blight|leaf-spot|melting-out) < .3", ""},
	{"some-disease", "p(dollar-spot|brown-patch|large-patch|gray-leaf-spot|leaf-spot|melting-out|rust|red-thread|anthracnose) >= .15", ""},
	{"nothing-strong", "p(dollar-spot|brown-patch|large-patch|gray-leaf-spot|leaf-spot|melting-out|rust|red-thread|anthracnose|pythium-blight) < .3", ""},
}

// weedRows call for what is done about weeds: the first that holds decides.
var weedRows = []factRow{
	{"herbicide-spot", Avoid, "no-selective", "nothing selective takes {weeds-named} out of {grass}", ""},
	{"herbicide-broadcast", Avoid, "no-selective", "nothing selective takes {weeds-named} out of {grass}", ""},
	{"off-type-removal", Schedule, "no-selective and weed-cover-percent <= 30", "{weeds-named}: take out the patch with {30 cm} around it, and seed", ""},
	{"hand-weed", Avoid, "pulled-in-vain", "{weeds-named} comes back from what stays in the ground", ""},
	{"herbicide-spot", Avoid, "by-hand", "few enough to pull by hand", ""},
	{"herbicide-spot", Avoid, "wild-over", "more than half is wild grass: renovate, no selective product", ""},
	{"herbicide-spot", Avoid, "weed-cover-percent > 15 and without tender and without weed-lines-percent <= 25", "too many for spots: one or the other, and this is for broadcast", ""},
	{"herbicide-spot", Avoid, "not-up", "annual weeds of last year are not up yet: a pre-emergent, or wait for young ones", ""},
	{"herbicide-spot", Avoid, "dying", "these annuals die by themselves with the season: mow, and book the pre-emergent", ""},
	{"herbicide-spot", CheckFirst, "weed-cover-percent >= 1 and unknown(weed-kinds)", "which weeds decides what and when", "weed-kinds"},
	{"herbicide-spot", DoNow, "weed-cover-percent >= 1 and weed-cover-percent <= 15", "{weed-cover-percent} of weeds, scattered", ""},
	{"herbicide-spot", DoNow, "weed-cover-percent > 15 and (tender or weed-lines-percent <= 25)", "{weed-cover-percent} of weeds, in places: by wick or shield", ""},
	{"herbicide-spot", CheckFirst, "unknown(weed-cover-percent) and p(weed-invasion) >= .3", "how many weeds decides between spot and broadcast", "weed-cover-percent"},
	{"herbicide-broadcast", Avoid, "wild-over", "more than half is wild grass: renovate, no selective product", ""},
	{"herbicide-broadcast", CheckFirst, "wild-grass and unknown(weeds-named) and without weed-kinds = broadleaf", "which grass it is decides whether anything takes it out", "weeds-named"},
	{"herbicide-broadcast", Avoid, "weed-cover-percent > 50 and perennials and unknown-mix", "more weeds than grass: renew it after the reason is dealt with", ""},
	{"herbicide-broadcast", Avoid, "not-up", "annual weeds of last year are not up yet: a pre-emergent, or wait for young ones", ""},
	{"herbicide-broadcast", Avoid, "dying", "these annuals die by themselves with the season: mow, and book the pre-emergent", ""},
	{"herbicide-broadcast", Avoid, "weed-lines-percent <= 25 and weed-cover-percent <= 30", "they stand in few places: spots", ""},
	{"herbicide-broadcast", CheckFirst, "weed-cover-percent >= 15 and unknown(weed-kinds)", "which weeds decides what and when", "weed-kinds"},
	{"herbicide-broadcast", DoNow, "weed-cover-percent > 15 or (weed-cover-percent >= 15 and unknown(weed-lines-percent))", "{weed-cover-percent} of weeds over the zone", ""},
	{"preemergent", Schedule, "(annuals or winter-weeds) and spring and t5 > 15 and annuals", "too late for this spring, they have germinated: take young ones at one to four leaves and book the next", ""},
	{"preemergent", DoNow, "(annuals or winter-weeds) and weed-cover-percent >= 5", "annual weeds over {weed-cover-percent}: stop the next generation before it comes up", ""},
	{"preemergent", DoNow, "programme", "annual weeds last season: stop them before they come up", ""},
	{"fungicide-curative", Avoid, "root-leads", "a root disease is past cure once it shows: book the preventive date", ""},
	{"fungicide-curative", Avoid, "some-disease and nothing-strong", "no disease stands out: spots of some kind are no reason", ""},
	{"fungicide-preventive", CheckFirst, "unknown(lab-pathogen) and p(necrotic-ring-spot|summer-patch|take-all-root-rot) >= .2 and without root-history", "the name decides the date", "lab-pathogen"},
}

// unknownMix and rootHistory are named here because only these rows ask for them.
var weedTerms = []struct{ name, test, source string }{
	{"unknown-mix", "weed-cover-percent >= 60", ""},
	{"root-history", "hist(necrotic-ring-spot|summer-patch|take-all-root-rot)", ""},
}
