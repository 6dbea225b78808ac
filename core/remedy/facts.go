package remedy

// factRow is one line of what calls for an action by itself, whatever the probabilities: the first line of an action that holds
// decides. Check is the finding that a check-first asks for; with Schedule it may be "in N" days, else the action's season gives the
// date. An avoid of this table is told, because somebody may be tempted.
type factRow struct {
	action string
	gives  Verdict
	test   string
	reason string
	check  string
}

var factRows = []factRow{
	{"light-watering-of-new-stands", DoNow, "new-stand and (dry or surface = bare or leaf-wilt)", "the new stand is dry: one dry afternoon can lose it", ""},
	{"light-watering-of-new-stands", DoNow, "new-stand and without moist-feel and unknown(soil-moisture)", "a new stand is kept moist at the surface", ""},

	{"flush-spot-with-water", DoNow, "spill-kind = fertilizer|salt and living", "what was spilled is diluted while the crowns live", ""},
	{"flush-spot-with-water", DoNow, "since(n) <= 5 and n-recent > 4.9 and without dead", "too much was spread {since-n}: sweep it up, then flush", ""},
	{"flush-spot-with-water", Avoid, "spill-kind = fuel|pesticide|unknown or soil-smell = chemical", "do not flush what nobody has named: report it, as the place asks", ""},

	{"water-deep", DoNow, "new-stand and dry", "the new stand is dry: in the form of light watering, several times a day", ""},
	{"water-deep", DoNow, "first-year and dry", "a first-year stand is dry: it does not rest, it dies", ""},
	{"water-deep", Avoid, "moist-feel and (brown-look or leaf-wilt or p(drought-stress|heat-stress|summer-dormancy) >= .2)", "the core is {soil-moisture}: there is water enough", ""},
	{"water-deep", Avoid, "water-drop-seconds >= 5 and dry and p(localized-dry-spot) >= .4", "on repellent soil it runs off: wet the spots by hand, with a wetting agent", ""},
	{"water-deep", Avoid, "p(irrigation-coverage-gap) >= .5 and pattern = sprinkler-arcs and without new-stand", "watering the whole zone does not reach the gap: by hand until it is repaired", ""},
	{"water-deep", DoNow, "thirsty and without resting and without let-rest", "wilted, and the core is dry: refill the root zone", ""},
	{"water-deep", DoNow, "keep-green and dry", "the client keeps it green: refill once, then at half depletion for the whole spell", ""},
	{"water-deep", DoNow, "keep-green and dep >= .5 and without wet and without winter-half", "half of the water is used up, and the client keeps it green", ""},
	{"water-deep", DoNow, "part-green and dry", "in the one part that is kept green: refill it; the rest rests", ""},
	{"water-deep", DoNow, "water-unset and dry and without resting and without winter-half and without brown-look", "the core is dry: one soaking, then the client decides", ""},
	{"water-deep", DoNow, "winter-dry", "a dry winter on thawed ground: water once, again after three to four weeks", ""},
	{"water-deep", DoNow, "wilted and nobody-felt and dep >= .5 and without resting and without let-rest", "wilted, and by the balance {dep} of the water is used up", ""},
	{"water-deep", CheckFirst, "wilted and nobody-felt and without dep >= .5 and without let-rest", "it looks wilted: feel the soil before it is watered", "soil-moisture"},
	{"water-deep", Avoid, "water-unset and resting and dry", "it rests; once woken it has to be kept awake: ask the client first, green or resting", ""},

	{"spot-water", DoNow, "spot-dry", "the bad spots are dry and the rest is not", ""},
	{"spot-water", DoNow, "water-drop-seconds >= 5 and dry-feel", "the repellent spots are dry: by hand, in two goes", ""},
	{"spot-water", DoNow, "p(irrigation-coverage-gap) >= .4 and dry", "the sprinklers miss it: by hand until they are repaired", ""},
	{"spot-water", Avoid, "moist-feel and (leaf-wilt or p(localized-dry-spot|hardscape-heat|irrigation-coverage-gap|drought-stress) >= .2)", "the spot is {soil-moisture}", ""},

	{"syringe-midday", Avoid, "warm and (hotter-w or wilted)", "warm-season grass does not need it", ""},
	{"syringe-midday", Avoid, "hotc and p(pythium-blight|brown-patch|gray-leaf-spot) >= .4", "wet leaves would feed the disease", ""},
	{"syringe-midday", Avoid, "hotc and dry and without moist-feel", "the soil is dry: water it, do not mist it", ""},
	{"syringe-midday", DoNow, "hot-soil and moist-feel", "the root zone is at {soil-peak} and the soil is moist: cool the leaves for an hour or two", ""},
	{"syringe-midday", DoNow, "hotc and wet-wilt", "it wilts on moist soil in the heat of the day", ""},

	{"survival-water", DoNow, "rest-water and endur >= survive-from and without mostly-dead", "{endur} of what {grass} stands is used up: {12 mm} keep the crowns alive", ""},
	{"survival-water", Schedule, "rest-water and endur >= .3 and endur < survive-from", "due when two thirds of what it stands are used, if no rain comes", "in survival-in"},
	{"survival-water", DoNow, "let-rest and p(drought-dieback) >= .4 and mixed", "part of the crowns still lives: {12 mm} keep it alive", ""},
	{"survival-water", CheckFirst, "rest-water and unknown(endur)", "how long it has been without water is not known", "days-since-water"},

	{"let-dormant", Avoid, "first-year and brown-look", "a new stand dies instead of resting", ""},
	{"let-dormant", DoNow, "let-rest and rest-ok and dry", "the client lets it rest: no feeding, hardly any mowing, no traffic", ""},
	{"let-dormant", DoNow, "part-green and rest-ok and dry", "outside the part that is kept green it rests", ""},
	{"let-dormant", DoNow, "let-rest and resting", "the client lets it rest", ""},
	{"let-dormant", DoNow, "part-green and resting", "outside the part that is kept green it rests", ""},
	{"let-dormant", CheckFirst, "water-unset and resting and without crowns-cut", "slice crowns, then ask the client: green or resting", "crown-slice"},
	{"let-dormant", DoNow, "water-unset and resting and living", "the crowns live and nobody has asked the client: it rests until the client decides", ""},
	{"let-dormant", Avoid, "let-rest and dry and first-year", "a new stand dies instead of resting", ""},

	{"cut-back-water", Avoid, "new-stand", "a new stand is kept moist", ""},
	{"cut-back-water", Avoid, "dry-feel and without watered = no", "the core is dry", ""},
	{"cut-back-water", DoNow, "without watered = no and wet-feel and (irrigation-weekly-mm > 25 or irrigation-sessions-per-week >= 5)", "the core is wet and it is watered on: {irrigation-weekly-mm} a week", ""},
	{"cut-back-water", DoNow, "irrigated-hard and without nobody-felt", "{irrigation-weekly-mm} a week on a core that is not dry", ""},
	{"cut-back-water", DoNow, "irrigated and wet-signs and moist-feel", "algae, moss or sedge on moist ground: too much water", ""},
	{"cut-back-water", DoNow, "evening-water and leaf-sick", "leaf disease and evening or daily water: the same amount in few goes that end by nine in the morning", ""},
	{"cut-back-water", DoNow, "irrigated and wet-feel and p(overwatering|pythium-root-rot|take-all-root-rot|large-patch) >= .25", "the core is wet: let it dry to half before it is watered again", ""},
	{"cut-back-water", CheckFirst, "without watered = no and nobody-felt and p(overwatering|pythium-root-rot) >= .2", "feel the core first", "soil-moisture"},

	{"fix-irrigation", DoNow, "irrigation-fault-seen = head|nozzle|pressure|tilt|leak", "a fault was seen", ""},
	{"fix-irrigation", DoNow, "catch-can-du < .6 and (pattern = sprinkler-arcs or dry)", "the cans give a uniformity of {catch-can-du}: aim at .7", ""},
	{"fix-irrigation", Schedule, "catch-can-du < .7", "the cans give a uniformity of {catch-can-du}: even enough for now, to be improved with the season", "in 30"},
	{"fix-irrigation", DoNow, "pattern = sprinkler-arcs and dry-feel and known(catch-can-du)", "arcs, and the core is dry", ""},
	{"fix-irrigation", CheckFirst, "(pattern = sprinkler-arcs or p(irrigation-coverage-gap) >= .3) and unknown(catch-can-du) and without watered = no", "set out cans first", "catch-can-du"},

	{"improve-drainage", Schedule, "puddle-hours > 24 or core-black-layer = yes or recent-events = high-water-table", "water stands: find where it comes from, then levels, then slits", "in 3"},

	{"install-drain", Avoid, "drains-badly and outlet-drop-mm < 300", "there is no outlet low enough", ""},
	{"install-drain", Schedule, "since(once) >= 0 and drains-badly and outlet-drop-mm >= 300", "levels and slits were not enough, and there is an outlet", "in 14"},

	{"apply-wetting-agent", Avoid, "water-drop-seconds < 5", "a drop goes in at once: the soil is not repellent", ""},
	{"apply-wetting-agent", DoNow, "water-drop-seconds >= 5 and without winter-half", "a drop stands for {water-drop-seconds} seconds: the soil sheds water", ""},
	{"apply-wetting-agent", CheckFirst, "unknown(water-drop-seconds) and p(localized-dry-spot) >= .15", "put a drop on the dry core first", "water-drop-seconds"},
	{"apply-wetting-agent", CheckFirst, "unknown(water-drop-seconds) and p(fairy-ring) >= .4 and brown-look", "put a drop on the core of the ring first", "water-drop-seconds"},

	{"leach-salts", DoNow, "soil-ec-ds-m >= salt-leach", "{soil-ec-ds-m} in the soil: {grass} suffers from {salt-starts}", ""},
	{"leach-salts", Schedule, "soil-ec-ds-m >= salt-starts", "{soil-ec-ds-m} is over where {grass} begins to suffer ({salt-starts}): with the next refill", "in 14"},
	{"leach-salts", Avoid, "soil-ec-ds-m < salt-starts", "{soil-ec-ds-m} is no trouble to {grass}", ""},
	{"leach-salts", CheckFirst, "unknown(soil-ec-ds-m) and p(salinity) >= .15", "measure the salt first", "soil-ec-ds-m soil-sar"},

	{"press-and-water", DoNow, "loose-live and without pest-works", "the turf is loose and green: press it down and keep it moist, it roots again", ""},
	{"press-and-water", Schedule, "loose-live and pest-works", "as soon as the pest is treated: press it down and keep it moist", "in 2"},
	{"press-and-water", DoNow, "animal-digging = peeled-back and without mostly-dead and without over(white-grubs)", "turned sods root again when they are laid back and kept moist", ""},

	{"raise-mowing-height", DoNow, "mowing-height-mm < mow-low and without dwarf and without sleepw and without frozen and without resting", "{mowing-height-mm} is under the range of {grass}: up to {mow-mid} in steps", ""},
	{"raise-mowing-height", Schedule, "resting and without mowing-height-mm >= mow-summer", "at the next mowing, to {mow-summer}", "in 14"},
	{"raise-mowing-height", Avoid, "mowing-height-mm >= mow-summer", "it is mown at its upper height already", ""},
	{"raise-mowing-height", Avoid, "sleepw or frozen", "nothing grows", ""},
	{"raise-mowing-height", Avoid, "low-mow-due", "it is mown low once just now", ""},
	{"raise-mowing-height", DoNow, "mowing-height-drop-mm >= 25 and without resting", "the last cut took too much: raise it again", ""},
	{"raise-mowing-height", DoNow, "hotc and without resting", "in heat at its summer height of {mow-summer}", ""},
	{"raise-mowing-height", DoNow, "shaded and growing-sky", "in shade at its upper height of {mow-summer}", ""},

	{"hold-mowing", DoNow, "wilted", "wheels and blades bruise wilted turf", ""},
	{"hold-mowing", DoNow, "resting", "resting grass does not grow, so it does not heal", ""},
	{"hold-mowing", DoNow, "wet and without sleepw and without frozen and without cold-still", "wheels cut into wet ground", ""},
	{"hold-mowing", DoNow, "new-seed and without mown-in and without mowings-since-start >= 1", "not before the new grass stands half as high again as it is mown", ""},
	{"hold-mowing", DoNow, "new-sod or new-plugs", "not rooted yet", ""},
	{"hold-mowing", DoNow, "since(post) < 2 or since(fung) < 1 or since(insect) < 1", "just treated: the product stays on the leaf", ""},
	{"hold-mowing", DoNow, "p(pythium-blight) >= .34", "the mower spreads it: only when dry, and last", ""},
	{"hold-mowing", DoNow, "over(armyworms) or over(sod-webworms)", "not for a day or two about the treatment", ""},
	{"hold-mowing", DoNow, "frozen and growing", "frozen blades break", ""},

	{"resume-mowing", DoNow, "third-reached", "it stands half as high again as it is mown: down by thirds", ""},
	{"resume-mowing", DoNow, "since(mow-less) >= 1 and growing", "it grows again and bears the mower", ""},
	{"resume-mowing", DoNow, "frost-marks and growing-sky and without dead and without wet", "mow as it grows: bleached tips come off over time", ""},
	{"resume-mowing", Schedule, "first-cut-due", "the first cut of the season, when it grows", ""},

	{"lower-mowing-once", Avoid, "without low-mown and warm and (sleepw or wakew)", "not on {grass}", ""},
	{"lower-mowing-once", Avoid, "green-up-percent > 50 and green-up-percent < 95 and low-mown", "too late: half of it is green, mow it at its range", ""},
	{"lower-mowing-once", DoNow, "low-mow-due", "the soil is warm enough and the grass wakes: a low cut lets sun warm the soil", ""},
	{"lower-mowing-once", Schedule, "low-mown and waking-up and without low-mow-due and without mostly-dead", "once, when the soil reaches {low-mow-soil} and no hard frost is ahead", ""},

	{"sharpen-blades", DoNow, "leaf-tip-cut = frayed", "the tips are frayed", ""},
	{"sharpen-blades", DoNow, "blades-hours >= 8", "{blades-hours} on the blades: sharpen after eight to ten", ""},

	{"restrict-traffic", DoNow, "resting", "resting crowns are crushed by feet and wheels", ""},
	{"restrict-traffic", DoNow, "wilted", "wilted turf shows every step for weeks", ""},
	{"restrict-traffic", DoNow, "frozen or (min-last <= 0 and brown-look and t5 < 8)", "frozen or frosted blades break underfoot", ""},
	{"restrict-traffic", DoNow, "wet", "wet ground is packed by feet and wheels", ""},
	{"restrict-traffic", DoNow, "new-stand or since(seed) < 28 or since(sod) < 21", "new grass is not rooted yet", ""},
	{"restrict-traffic", DoNow, "position = entry-path and (penetration = hard or penetration-kpa >= 2000)", "the path is hard: stepping stones or another way", ""},
	{"restrict-traffic", DoNow, "since(fung) < 1 or since(insect) < 1 or since(post) < 1", "until re-entry by the label", ""},
	{"restrict-traffic", DoNow, "p(winter-crown-kill|frost-injury) >= .4 and winter-half", "hurt crowns are not walked on", ""},

	{"short-last-mowing", Schedule, "cool and mats-again", "what matted or moulded goes shorter into the next winter, in steps, leaves off", ""},

	{"edge", DoNow, "client-wishes = off-type-gone and pattern = along-hardscape and growing", "cut the edge that the foreign runners come over", ""},
	{"spring-handover", Schedule, "recent-events = overseeded and grass = common-bermudagrass|hybrid-bermudagrass", "lower it step by step when the soil is warm, and the bermuda comes", ""},

	{"apply-nitrogen", DoNow, "hungry and autumn and turned and cool", "short of nitrogen, and it is time for the autumn feeding: {n-dose} now", ""},
	{"apply-nitrogen", DoNow, "(hungry or slow) and cool and spring and without feed-summer", "short of nitrogen and growing: {n-dose}, no more before summer", ""},
	{"apply-nitrogen", Schedule, "(hungry or slow) and cool and feed-summer", "short of nitrogen, but in summer this waits until the heat is over", ""},
	{"apply-nitrogen", DoNow, "(hungry or slow) and warm and greenw", "short of nitrogen and green: {n-dose}", ""},
	{"apply-nitrogen", DoNow, "(hungry or slow) and warm and wakew and wake-half", "half green and short of nitrogen: at most {1 g N/m²} of a slow one", ""},
	{"apply-nitrogen", Schedule, "(hungry or slow) and warm", "short of nitrogen: once it is green", ""},
	{"apply-nitrogen", DoNow, "cool and turned and autumn and growing-sky and without n12 >= n-high", "autumn is the main feeding of cool-season turf: {n-dose}", ""},
	{"apply-nitrogen", Schedule, "cool and autumn and without turned and t5 >= 7 and without n12 >= n-high", "the main feeding comes when the weather has turned", ""},
	{"apply-nitrogen", Schedule, "cool and spring and cold-hurt and (alive or mixed or growing) and unfed-or-unknown", "after two or three mowings, a light one, where winter thinned it", ""},
	{"apply-nitrogen", Schedule, "cool and feed-summer and unfed", "fed little in twelve months: when the weather has turned", ""},
	{"apply-nitrogen", Schedule, "warm and (wakew or sleepw) and spring", "the first full feeding when it is green", ""},

	{"spoon-feed-nitrogen", DoNow, "spoon-fed and without soil-peak >= 27 and feed-summer and growing and without watered = no and fed-low", "watered, growing, and the client wants it fed little and often: half a gram to a gram", ""},
	{"spoon-feed-nitrogen", CheckFirst, "spoon-fed and cool and unknown(soil-peak) and feed-summer", "measure the soil first: under {27 °C} only", "soil-temp-c"},
	{"spoon-feed-nitrogen", Hold, "spoon-fed and cool and soil-peak >= 27 and feed-summer", "too hot to feed cool-season turf even in small doses", "the afternoon soil is under {27 °C}"},
	{"spoon-feed-nitrogen", DoNow, "p(anthracnose) >= .5 and cool and without soil-peak >= 29.4", "half a gram each two weeks holds anthracnose back", ""},

	{"acidifying-nitrogen", Avoid, "soil-ph < 5.8", "the soil is sour already", ""},
	{"acidifying-nitrogen", DoNow, "ph-root and growing-sky", "the root disease likes a high pH: {1 to 2 g N/m²} of ammonium sulfate, watered in, in place of other nitrogen", ""},
	{"acidifying-nitrogen", Schedule, "soil-ph >= 7.2 and p(iron-chlorosis|high-ph) >= .4 and n-due", "the next feeding as ammonium sulfate: it lowers the pH at the roots", ""},

	{"apply-iron", DoNow, "iron-fact and knowing", "pale new leaves at pH {soil-ph}, fed lately: colour comes back in one to three days", ""},
	{"apply-iron", DoNow, "pale-new and unknown(soil-ph) and knowing", "spray one strip of 1 × {3 m} as a test: greened in three days, it was iron", ""},
	{"apply-iron", DoNow, "iron-fact", "pale new leaves at pH {soil-ph}: one strip first, the whole when it greens", ""},

	{"apply-phosphorus", DoNow, "soil-p-ppm < 21", "{soil-p-ppm} of phosphorus is under 21", ""},
	{"apply-phosphorus", Avoid, "soil-p-ppm >= 21", "{soil-p-ppm} of phosphorus is enough (from 21)", ""},
	{"apply-phosphorus", CheckFirst, "unknown(soil-p-ppm) and (p(phosphorus-deficiency) >= .15 or leaf-symptoms = purple-tint)", "only by soil test", "soil-p-ppm"},

	{"apply-potassium", DoNow, "soil-k-ppm < 37", "{soil-k-ppm} of potassium is under 37", ""},
	{"apply-potassium", Avoid, "soil-k-ppm >= 60", "{soil-k-ppm} of potassium is enough", ""},
	{"apply-potassium", CheckFirst, "unknown(soil-k-ppm) and p(potassium-deficiency) >= .15", "only by soil test", "soil-k-ppm"},

	{"apply-micronutrients", DoNow, "soil-mg-ppm < 54 or soil-micro-low = zinc|copper|boron|sulfur", "the test names a lack", ""},
	{"apply-manganese", DoNow, "root-high-ph and (soil-mn-ppm < 10 or soil-ph >= 6.5) and growing-sky", "manganese on the leaf holds it back at this pH, once in spring and once in autumn", ""},

	{"apply-lime", Avoid, "soil-ph >= 5.5 and hist(take-all-root-rot|summer-patch)", "lime feeds the root disease that was here", ""},
	{"apply-lime", DoNow, "soil-ph < ph-under", "pH {soil-ph} is under {ph-under}, where trouble begins for {grass}", ""},
	{"apply-lime", Schedule, "soil-ph < ph-low and acid-trouble", "pH {soil-ph} is a little low for {grass}: with the next autumn", ""},
	{"apply-lime", Avoid, "soil-ph >= ph-under", "pH {soil-ph} needs no lime under {grass}", ""},
	{"apply-lime", CheckFirst, "unknown(soil-ph) and (p(low-ph) >= .15 or p(moss-invasion) >= .4)", "only by soil test", "soil-ph"},

	{"apply-acidifier", Avoid, "soil-ph < ph-sulfur", "pH {soil-ph} does not pay to change under {grass}", ""},
	{"apply-acidifier", Avoid, "soil-ph >= ph-sulfur and without ph-trouble", "nothing suffers from pH {soil-ph}: leave it", ""},
	{"apply-acidifier", DoNow, "soil-ph >= ph-sulfur and ph-trouble", "pH {soil-ph} and it suffers: small portions in cool weather, over years", ""},
	{"apply-acidifier", CheckFirst, "unknown(soil-ph) and p(high-ph|iron-chlorosis|take-all-root-rot) >= .3", "only by soil test", "soil-ph"},

	{"apply-gypsum", DoNow, "soil-sar >= 13", "sodium ratio {soil-sar}: before and with the leaching", ""},
	{"apply-gypsum", Avoid, "soil-sar < 13", "sodium ratio {soil-sar}: the soil is not sodic", ""},
	{"apply-gypsum", CheckFirst, "unknown(soil-sar) and (soil-ec-ds-m >= salt-leach or p(salinity) >= .25)", "only by the sodium test", "soil-sar"},
	{"apply-gypsum", Avoid, "p(compaction) >= .3 or soil-ph >= 7.2", "gypsum moves no pH and loosens no compaction", ""},

	{"apply-silicon", CheckFirst, "hist(gray-leaf-spot) and unknown(tissue-si-percent)", "only by leaf test", "tissue-si-percent"},
	{"apply-silicon", Avoid, "tissue-si-percent >= 1", "the leaf holds enough", ""},
	{"apply-silicon", Schedule, "tissue-si-percent < 1 and (hist(gray-leaf-spot) or p(gray-leaf-spot) >= .4)", "into coring holes, as a partner of other means", ""},

	{"core-aerate", CheckFirst, "(penetration = hard or penetration-kpa >= 2000) and dry-feel", "hard and dry says nothing: test it moist", "soil-moisture"},
	{"core-aerate", DoNow, "penetration-kpa >= 2000", "the cone reads {penetration-kpa}: roots stop at 2000", ""},
	{"core-aerate", DoNow, "penetration = hard and moist-feel", "hard even when moist", ""},
	{"core-aerate", DoNow, "thatch-mm > 12 and (penetration = hard or underfoot = hard)", "thatch over hard ground", ""},
	{"core-aerate", DoNow, "infiltration-mm-h < 5", "water goes in at {infiltration-mm-h} only", ""},
	{"core-aerate", DoNow, "layering = fill-over-clay|sand-cap", "a layer holds the water up", ""},

	{"dethatch", Avoid, "thatch-mm < 12", "{thatch-mm} of thatch is useful", ""},
	{"dethatch", Avoid, "thatch-mm > 20 and creeping", "over {20 mm} it is scarified, not both", ""},
	{"dethatch", DoNow, "thatch-mm >= 12 and creeping", "{thatch-mm} of thatch is over the limit", ""},
	{"dethatch", DoNow, "thatch-mm > 20", "{thatch-mm} of thatch: rake the surface only, and core", ""},
	{"dethatch", CheckFirst, "unknown(thatch-mm) and (p(excess-thatch) >= .2 or underfoot = spongy)", "cut a wedge and measure: two minutes", "thatch-mm"},

	{"scarify", Avoid, "thatch-mm <= 20 and without seed-contact and without moss-dead", "{thatch-mm} of thatch: no blades into the soil for that", ""},
	{"scarify", DoNow, "thatch-mm > 20 and creeping", "{thatch-mm} of thatch has to come out", ""},
	{"scarify", DoNow, "moss-dead and moss-state = dead-dry", "the dead moss comes out: one job with the raking", ""},
	{"scarify", Schedule, "moss-dead", "when the dead moss is dry: one job with the raking", "in 7"},
	{"scarify", CheckFirst, "unknown(thatch-mm) and p(excess-thatch) >= .4", "cut a wedge and measure: two minutes", "thatch-mm"},

	{"topdress", Schedule, "after-coring", "after the coring, to fill the holes", ""},
	{"topdress", Schedule, "p(scalping) >= .5", "the humps that were scalped: {3 to 6 mm} at a time", ""},

	{"level-surface", Schedule, "patch-profile = sunken|raised and p(scalping|flooding) >= .3", "humps and hollows that scalp or hold water: lift the sod, fill, lay it back", ""},

	{"remove-debris", DoNow, "debris = leaf-litter|stones-or-objects|matted-dead-grass", "{debris} lies on the grass", ""},
	{"remove-debris", DoNow, "recent-events = hose-or-cover-left", "what was left lying comes off, and stays off", ""},

	{"brush-up-mats", DoNow, "mat-seen and (winter-marks or t5 < 12)", "mats: light and air dry them", ""},

	{"rake-out-moss", DoNow, "moss-state = dead-dry", "the moss is dead and dry: rake it out", ""},
	{"rake-out-moss", Schedule, "moss-state = dead-wet or moss-treated", "dead and still wet: on a dry day, a week or two after the treatment", "in 7"},
	{"rake-out-moss", Avoid, "moss-live and moss-cover-percent >= 5", "raking live moss spreads it: kill it first", ""},

	{"prune-shade", Schedule, "shaded and position = under-tree|building-shade", "{sun-hours} of sun, {sun-full} are wanted", ""},
	{"prune-shade", Schedule, "dark", "{sun-hours} of sun are under the least that {grass} needs ({sun-least})", ""},

	{"apply-compost", Schedule, "soil-organic-matter-percent < 3 and texture = sandy-loam|loam|silt-loam|clay-loam|clay", "organic matter {soil-organic-matter-percent}: {3 to 6 mm}, its phosphorus counted", ""},
	{"apply-compost", Schedule, "soil-organic-matter-percent < 1.5", "organic matter {soil-organic-matter-percent}: {3 to 6 mm}, its phosphorus counted", ""},
	{"apply-compost", Schedule, "layering = thin-topsoil", "thin topsoil: 3 to 6 mm with the seed or the coring", ""},

	{"replace-soil", Schedule, "soil-smell = chemical and bare-stand", "the ground is spoilt: dig it out, when it is known what it was", "in 14"},
	{"replace-soil", Schedule, "buried-object = rock-or-debris and root-depth-mm < 150", "take out what lies below, fill with soil", "in 30"},

	{"overseed", DoNow, "moss-dead and moss-cover-percent >= 10 and seeded", "after the raking, into the bare ground", ""},
	{"overseed", Avoid, "stand-density = dense", "a closed sward takes no seed", ""},
	{"overseed", Avoid, "mostly-dead and bare-stand", "where all is dead the seed goes into slits", ""},
	{"overseed", Schedule, "mixed and sure-loss", "wait until it is clear what comes back, then seed the gaps", "in 21"},
	{"overseed", DoNow, "thin-stand and must-seed and without new-stand and without soon-closed", "thin, and it will not fill in on its own: half of the new rate", ""},
	{"overseed", DoNow, "open-cover and must-seed", "green cover {green-cover-percent}: half of the new rate", ""},
	{"overseed", DoNow, "dead and thin-stand and seeded", "the gaps are dead: half of the new rate, slits where all is dead", ""},
	{"overseed", CheckFirst, "loss-likely and seeded and without crowns-cut and unknown(stand-density)", "whether the crowns live decides between waiting and seeding", "crown-slice"},

	{"slit-seed", DoNow, "bare-stand and seeded", "bare ground larger than a hand will not fill in on its own", ""},
	{"slit-seed", DoNow, "dead and seeded and known(crowns-alive-percent)", "{crowns-alive-percent} of the crowns live: the dead part is seeded into slits", ""},
	{"slit-seed", DoNow, "dead and seeded", "the crowns are dead: seeded into slits", ""},
	{"slit-seed", CheckFirst, "loss-likely and seeded and without crowns-cut and unknown(stand-density)", "whether the crowns live decides between waiting and seeding", "crown-slice"},

	{"interseed", Schedule, "root-again and thin-stand", "a root disease of {grass} that comes back: another grass into the sward", ""},

	{"winter-overseed", Avoid, "client-wishes = green-winter and without grass = common-bermudagrass|hybrid-bermudagrass", "only on bermuda", ""},
	{"winter-overseed", Schedule, "client-wishes = green-winter and stand-density = dense and without sun-hours < 6", "the client wants a green winter", ""},

	{"plug-or-sprig", Avoid, "bunch and (lost or thin-stand)", "{grass} does not close by runners: seed it", ""},
	{"plug-or-sprig", Avoid, "cool and (lost or thin-stand)", "seed does it on {grass}", ""},
	{"plug-or-sprig", DoNow, "lost and creeping and warm", "runners do not close it before the frost, or too slowly", ""},
	{"plug-or-sprig", DoNow, "stand-density = gaps and vegetative and gap-open", "the gaps do not close before the frost", ""},
	{"plug-or-sprig", CheckFirst, "loss-likely and warm and creeping and without crowns-cut and unknown(stand-density)", "whether the crowns live decides between waiting and planting", "crown-slice"},

	{"resod", DoNow, "lost and vegetative", "the quick way on a grass that is not sown", ""},
	{"resod", Schedule, "lost and without vegetative", "the quick and expensive way, where the client cannot wait for seed", ""},

	{"renovate", Schedule, "weed-cover-percent > 50", "{weed-cover-percent} weeds: deal with the reason, then renew the whole", ""},
	{"renovate", Schedule, "mostly-dead and affected-area-percent > 50", "more than half of it is dead: renew the whole", ""},

	{"change-grass", Schedule, "dark", "{sun-hours} of sun: a grass that bears it", ""},
	{"change-grass", Schedule, "soil-ec-ds-m >= salt-gives and since(leach) >= 14", "leached and still salty: a grass that bears it", ""},

	{"change-use", Schedule, "sun-hours < 3 and dark", "no grass thrives in {sun-hours} of sun: shade plants, mulch or a path are other ways", "in 30"},
	{"change-use", Schedule, "buried-object = tank-or-drain-field and root-depth-mm < 150", "too thin a soil over the tank: another use of the spot is one way", "in 30"},

	{"off-type-removal", Schedule, "client-wishes = off-type-gone and p(off-type-grass) >= .4", "one plain shape with its margin, when a seeding or planting window follows", ""},

	{"insecticide-curative", DoNow, "over(white-grubs)", "{count} grubs per m²; damaging from {tier}", "white-grubs"},
	{"insecticide-curative", DoNow, "over(chinch-bugs)", "{count} chinch bugs per m²; damaging from {tier}", "chinch-bugs"},
	{"insecticide-curative", DoNow, "over(armyworms)", "{count} armyworms per m²; damaging from {tier}", "armyworms"},
	{"insecticide-curative", DoNow, "over(sod-webworms)", "{count} webworms per m²; damaging from {tier}", "sod-webworms"},
	{"insecticide-curative", DoNow, "over(cutworms)", "{count} cutworms per m²; damaging from {tier}", "cutworms"},
	{"insecticide-curative", DoNow, "over(mole-crickets)", "{count} mole crickets per m²; damaging from {tier}", "mole-crickets"},
	{"insecticide-curative", DoNow, "over(crane-fly-larvae)", "{count} leatherjackets per m²; damaging from {tier}", "crane-fly-larvae"},
	{"insecticide-curative", Avoid, "over(billbugs)", "{count} billbug larvae per m²: inside the stems they are past cure; prevent them at the next adults", "billbugs"},
	{"insecticide-curative", DoNow, "over(spittlebugs)", "{count} spittle masses per m²; damaging from {tier}", "spittlebugs"},

	{"insecticide-curative", CheckFirst, "unknown(grubs-per-m2) and grub-hint and without t5-seen < 10", "{p-grubs} for white grubs and a sign of them: count first", "grubs-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(float-chinch-per-m2) and p(chinch-bugs) >= .15 and chinch-hint", "chinch bugs are possible: float them out and count", "float-chinch-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(flush-caterpillars-per-m2) and p(sod-webworms|armyworms|cutworms) >= .15 and insect-sign", "caterpillars are possible: flush and count", "flush-caterpillars-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(flush-mole-crickets-per-m2) and p(mole-crickets) >= .15 and insect-sign", "mole crickets are possible: flush and count", "flush-mole-crickets-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(leatherjackets-per-m2) and p(crane-fly-larvae) >= .15 and insect-sign", "leatherjackets are possible: count first", "leatherjackets-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(billbug-larvae-per-m2) and p(billbugs) >= .3 and without frass = none", "billbugs are possible: count the larvae; they decide on water and next year's date", "billbug-larvae-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(froth-per-m2) and p(spittlebugs) >= .3", "count the froth first", "froth-per-m2"},
	{"insecticide-curative", CheckFirst, "unknown(lens-finds) and p(scale-insects|turf-mites) >= .3", "look for crawlers or mites with the lens first", "lens-finds"},
	{"insecticide-curative", CheckFirst, "unknown(nematode-count) and p(plant-parasitic-nematodes) >= .3", "the laboratory counts them first", "nematode-count"},
	{"insecticide-curative", Avoid, "counted-under", "{counted-text}", ""},

	{"herbicide-spot", Avoid, "weed-cover-percent < 1", "hardly a weed", ""},
	{"herbicide-broadcast", Avoid, "weed-cover-percent < 15", "{weed-cover-percent} of weeds does not call for it", ""},

	{"growth-regulator", DoNow, "surging-sound and regulator-wish", "sound and growing faster than it can be mown", ""},
	{"growth-regulator", Avoid, "surging-sound and since(post) < 14", "just sprayed", ""},

	{"nuisance-pests", Schedule, "client-wishes = mosquitoes-gone|fleas-gone|ticks-gone|ants-gone", "the client asked for it; a job apart from the lawn care", ""},

	{"moss-control", Avoid, "moss-cover-percent < 5", "hardly any moss", ""},
	{"moss-control", DoNow, "moss-cover-percent >= 5 and moss-live", "kill it, rake it out, then deal with its reasons", ""},

	{"hand-weed", DoNow, "weed-few", "few enough to pull by hand, roots and all", ""},
	{"hand-weed", DoNow, "weed-cover-percent > 0 and new-stand", "in a new stand by hand only", ""},

	{"clean-equipment", DoNow, "weed-kinds = kyllinga or seed-heads = many and weed-cover-percent >= 5", "the mower carries seed and runners to the next lawn", ""},
}

// lateTerms are terms of the facts, built on the others.
var lateTerms = []struct{ name, test, source string }{
	{"winter-dry", "(winter-drought = strong or (dry-feel and winter-half and rained28 < 20)) and without frozen and t5-seen > 1 and without wet-feel and without long-sleep", "{20 mm} in four weeks J"},
	{"long-sleep", "snow-days >= 60", ""},
	{"spot-dry", "moisture-against-healthy = drier and dry-feel and (affected-area-percent < 20 or unknown(affected-area-percent))", ""},
	{"rest-water", "((let-rest or part-green) and (resting or (dry and long-dry)) or (water-unset and resting)) and without winter-half and without first-year", ""},
	{"spent", "endur >= survive-from", ""},
	{"rest-ok", "brown-look and without first-year and without winter-half and without sleepw", ""},
	{"leaf-sick", "p(dollar-spot|brown-patch|leaf-spot|gray-leaf-spot|pythium-blight|rust|red-thread|anthracnose|large-patch) >= .4", ""},
	{"loose-live", "lifts and without mostly-dead and without root-condition = rotted", ""},
	{"pest-works", "over(white-grubs) and without deep(white-grubs) and without since(insect) <= 60", ""},
	{"dwarf", "grass = st-augustinegrass and mowing-height-mm >= 50 and form = unset", "dwarf cultivars"},
	{"low-mow-due", "low-mown and waking-up and spring and t5 >= low-mow-soil and half-green and without mostly-dead and without p(winter-crown-kill|herbicide-injury) >= .3", ""},
	{"waking-up", "(sleepw or wakew) and (known(green-up-percent) or p(winter-dormancy|slow-green-up) >= .4) and (spring or winter-half)", ""},
	{"cold-still", "gp14 < .15 and cool", ""},
	{"third-reached", "mowing-interval-days >= 14 and growing and growth-rate = normal|surging", ""},
	{"first-cut-due", "spring and winter-half and without frozen and (winter-marks or frost-marks or p(winter-desiccation|matted-debris) >= .3) and without mostly-dead", ""},
	{"mats-again", "hist(gray-snow-mold|pink-snow-mold|matted-debris|vole-runways) or p(gray-snow-mold|pink-snow-mold|matted-debris|vole-runways) >= .3 or snow-days >= 60", ""},
	{"unfed-or-unknown", "unfed or unknown(nitrogen-12-months-g-m2)", ""},
	{"spoon-fed", "summer-feeding = spoon-feed", ""},
	{"fed-low", "hungry or slow or pale-old or since(n) >= 14 or unknown(last-nitrogen-days)", ""},
	{"ph-root", "soil-ph >= 6.8 and (hist(take-all-root-rot|summer-patch) or p(take-all-root-rot|summer-patch) >= .3)", ""},
	{"root-high-ph", "hist(take-all-root-rot|summer-patch) or p(take-all-root-rot|summer-patch) >= .3", ""},
	{"n-due", "hungry or since(n) > 28", ""},
	{"iron-poor", "soil-ph >= 7.2 or soil-fe-ppm < 2.5 or soil-p-ppm > 84 or grass = centipedegrass|st-augustinegrass", ""},
	{"iron-fact", "pale-new and iron-poor and known(soil-ph)", ""},
	{"acid-trouble", "stand-density = thin|gaps or moss-cover-percent >= 5 or growth-rate = slow", ""},
	{"ph-trouble", "p(iron-chlorosis|take-all-root-rot) >= .4 or (p(high-ph) >= .4 and (pale-new or growth-rate = slow))", ""},
	{"seed-contact", "lost or thin-stand", ""},
	{"after-coring", "penetration-kpa >= 2000 or (penetration = hard and moist-feel)", ""},
	{"sure-loss", "p(drought-dieback|winter-crown-kill|winter-desiccation|frost-injury|flooding) >= .4", ""},
	{"loss-likely", "p(drought-dieback|winter-crown-kill) >= .4", ""},
	{"soon-closed", "creeping and gap-days <= to-frost + -14", ""},
	{"root-again", "hist(necrotic-ring-spot|summer-patch) and grass = kentucky-bluegrass", ""},
	{"grub-hint", "(p(white-grubs) >= .15 and insect-sign) or (digs and p(vole-runways|mole-crickets) < .5)", ""},
	{"chinch-hint", "insect-sign or brown-look or colour = yellow or pattern = along-hardscape|irregular-patches", ""},
	{"surging-sound", "growth-rate = surging and other-p < .3", ""},
	{"regulator-wish", "client-wishes = growth-regulator or unknown(client-wishes)", ""},
	{"weed-few", "(known(zone-given) and weed-m2 <= 3 and weed-cover-percent > 0) or weed-plants <= 40 or (unknown(zone-given) and weed-cover-percent > 0 and weed-cover-percent < 5)", "3 m², 40 plants J"},
}
