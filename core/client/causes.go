// Package client is what a client is told: what hurts the lawn, what will end it, why it may come back, and what is for the client to do and
// to leave, day by day. All of it in words for somebody who has never heard of any of it.
package client

// About is what a client is told of a cause.
type About struct {
	What string // what it is
	Ends string // what ends it, or how one lives with it
	Back string // whether it comes back, and why
}

// causeRow is one cause: a line of the table.
type causeRow struct{ cause, what, ends, back string }

// causeRows: extension practice, said plainly; every cause of the knowledge has one.
var causeRows = []causeRow{
	// disease
	{"dollar-spot", "A leaf fungus that bleaches small round spots. The roots are alive, so the grass can grow it out.", "Regular feeding and watering at dawn instead of in the evening.", "It returns in weeks of warm days and long dew, most of all when the lawn is hungry or dry."},
	{"brown-patch", "A fungus of hot, humid nights that browns the leaves in rough circles. The crowns mostly live.", "Cooler nights end it. Until then: water only before breakfast, and no nitrogen.", "It returns in hot, sticky spells, sooner where the lawn was fed heavily or watered at night."},
	{"large-patch", "A fungus that rots the leaf bases of warm-season grass in cool, wet soil.", "Warm, growing weather heals it. Drainage and no late feeding keep it small.", "It comes back in the same places in autumn and spring unless it is treated before then or the soil drains better."},
	{"leaf-spot", "A fungus that spots the blades and thins the grass in mild, wet weather.", "Higher mowing, a sharp blade and no heavy feeding in spring.", "Damp, cloudy weeks bring it back; a well-fed lawn cut high hardly shows it."},
	{"melting-out", "The late stage of a leaf fungus: after a cool, wet spring it reaches the crowns and the grass thins out.", "Higher mowing and less nitrogen in spring; thin places are seeded in autumn.", "It follows cool, wet springs. Resistant grass seeded into the lawn lowers the odds for good."},
	{"gray-leaf-spot", "A fungus that twists and kills young leaves within days in hot, wet weather.", "Drier leaves: water only at dawn, no fresh nitrogen; dead places are seeded in autumn.", "New seedings and freshly fed lawns catch it first in late summer."},
	{"pythium-blight", "A fungus that can kill grass overnight in hot, wet weather. It travels with water and mowers.", "Let the lawn dry, keep off while it is wet, and do not mow the sick places wet.", "It returns where water stands in hot nights. Drainage ends it."},
	{"rust", "A fungus that dusts orange powder on slow-growing grass. It looks worse than it is.", "Growth: feed lightly, water, and mow it off.", "It comes when the grass stands still, late in summer and in shade."},
	{"red-thread", "A fungus with pink threads on hungry grass. Roots and crowns stay sound.", "A feeding, and mowing it out.", "It returns in cool drizzle whenever the lawn runs short of nitrogen."},
	{"powdery-mildew", "A white fungus of shady, still corners.", "More light and air, or a plant that likes shade.", "It stays as long as the shade does."},
	{"anthracnose", "A fungus that rots weakened grass: hungry, trodden or cut short.", "Feeding little and often, a higher cut, and less wear.", "Stress brings it back. Strong grass shrugs it off."},
	{"necrotic-ring-spot", "A root fungus that shows as sunken rings in bluegrass lawns.", "Steady water and feeding over two seasons, less thatch, and other grasses seeded in.", "It lives in the soil and shows again in dry spells. It fades as the lawn gets older and better fed."},
	{"summer-patch", "A root fungus: the roots die in hot soil and circles collapse in summer.", "Deeper roots: a higher cut, less compaction, water in the heat, seed in autumn.", "It returns to the same places in hot summers unless it is treated in late spring or the grass is changed."},
	{"take-all-root-rot", "A fungus that rots roots and runners, mostly of warm-season grass under stress.", "A thin layer of peat moss, feeding little and often, no lime, less shade.", "It lives in the soil. Stress, lime and too much water bring it out again."},
	{"spring-dead-spot", "A root fungus of autumn: the circles show when bermuda greens up in spring.", "Warm weeks: the runners close the circles. Treatment is for autumn.", "It returns for three to five springs, each smaller, unless treated in autumn."},
	{"gray-snow-mold", "A fungus under long snow. It kills leaves, hardly ever crowns.", "A light raking and the first warm weeks.", "Long snow on tall, matted grass brings it back: cut short before winter, clear leaves."},
	{"pink-snow-mold", "A fungus of cold, wet weather, with or without snow.", "Raking, drying, spring growth.", "It returns where autumn feeding was late or leaves lay on the grass."},
	{"fairy-ring", "A fungus that feeds on old roots or wood deep in the soil and makes the ground above shed water.", "Deep spiking, a wetting agent and water make the ring green again. The fungus itself stays.", "It grows outward every year. It can be masked, hardly ever removed."},
	{"slime-mold", "A harmless growth that sits on the blades after rain. It takes nothing from the grass.", "Hose or brush it off, or wait a week.", "It may show again after warm rain. It does no harm."},
	{"pythium-root-rot", "A root rot of soil that stays wet.", "Less water and better drainage.", "It stays as long as the soil stays wet."},
	{"turf-mosaic-virus", "A virus that streaks and weakens the grass. Mowers carry it; nothing cures it.", "Live with it, or replant with a resistant grass.", "It stays in the grass that has it. The mower is washed so that it does not travel."},

	// insects
	{"white-grubs", "The larvae of beetles. They eat the roots, so the grass wilts and lifts like a rug.", "The treatment stops the feeding. Loose turf is pressed down and watered, dead places are seeded.", "Beetles lay eggs again next summer. Where grubs came twice, a preventive in early summer is worth its price."},
	{"chinch-bugs", "Small insects that suck the sap of hot, dry grass and poison it while they feed.", "The treatment and water. Dead places are replanted.", "They return in hot, dry summers, in sunny strips first. Water and less thatch keep them few."},
	{"sod-webworms", "Caterpillars of small grey moths. They chew the blades at night.", "The crowns live: water and a light feeding bring it back.", "Two or three broods come in a summer."},
	{"armyworms", "Caterpillars that move over the lawn in bands and eat all that is green.", "Grass eaten to the ground mostly grows again with water.", "They fly in from far away, in some years only."},
	{"billbugs", "Grubs of a weevil. They hollow the stems so that the grass breaks off.", "Water and feeding where crowns live, seed where they do not.", "The weevils stay near. Treatment before the eggs, or grass with endophyte, keeps them down."},
	{"mole-crickets", "Insects that tunnel under the grass and cut the roots.", "Rolling and watering, and a treatment when the young ones hatch.", "They return in warm, sandy places every year."},
	{"crane-fly-larvae", "The larvae of crane flies (leatherjackets). They eat roots and crowns in damp lawns.", "Drier ground, and seed in the bare places.", "They return after wet autumns."},
	{"turf-mites", "Mites too small to see. They suck the blades in dry, sunny places.", "Water is the best remedy.", "They return in dry winters and springs on sunny slopes."},
	{"plant-parasitic-nematodes", "Worms too small to see. They stunt the roots.", "No quick cure: higher mowing, light feeding and water often keep the grass alive.", "They live in the soil, mostly in sand. Care decides how much they show."},
	{"cutworms", "Caterpillars that come out at night and chew small round spots.", "The spots fill in by themselves in two weeks.", "Moths come back through the summer; it seldom matters."},
	{"spittlebugs", "Sucking insects under blobs of froth in thick, damp thatch.", "Less thatch, higher cut, treatment at dusk if there are many.", "They return where the thatch stays thick."},
	{"ground-pearls", "Scale insects on the roots. Nothing kills them.", "Live with it: water and feed well, or use another plant.", "They stay in the soil for years."},
	{"scale-insects", "Insects that sit on the stems and suck.", "Water, feeding, and clippings taken away.", "They may build up again in dry years."},

	// heat
	{"heat-stress", "It got too hot for this grass. It stops growing and pales; it is seldom dead.", "Cooler weeks. Until then: a high cut, no feeding, no wear.", "It comes with every hot spell. A higher cut and deeper watering soften it."},
	{"hardscape-heat", "Paving stores the sun's heat and cooks the edge of the lawn.", "A little more water along the edge, or another plant there.", "It returns each summer; the paving stays."},
	{"covered-scald", "Something lay on the grass in the sun and scalded it.", "If the crowns live it greens in two or three weeks.", "Only if something lies there again: move covers and toys before noon."},

	// drought
	{"drought-stress", "The grass is thirsty. It greys, then browns, and springs back when watered in time.", "Water deeply but seldom, early in the morning.", "It comes with every dry spell, first on slopes, near trees and over thin soil."},
	{"summer-dormancy", "The lawn is asleep. Brown above, alive below.", "Rain and cooler weather wake it. A little water every two weeks keeps the crowns alive.", "It rests in most dry summers. That is healthy; keeping it green costs water from the first dry week on."},
	{"drought-dieback", "The dry spell was longer than this grass could stand, and part of it died.", "Seed or plugs in the right season; what lives closes small gaps.", "A dry summer can do it again. Deeper soil, a tougher grass or survival water help."},
	{"localized-dry-spot", "The soil sheds water like a waxed coat, so rain and sprinklers run off.", "A wetting agent, holes, and slow soaking.", "The wax builds up again within the season: the treatment is repeated."},
	{"shallow-soil-over-object", "Something lies under the grass, so there is too little soil to hold water.", "Dig it out, or water that place more often.", "It dries first every summer until the object is out."},
	{"irrigation-coverage-gap", "The sprinklers miss this place.", "Heads are set, cleaned or replaced. The grass follows in three weeks.", "Heads sink and clog. A can test each spring finds it early."},

	// cold
	{"frost-injury", "Frost froze the leaves, or they were walked on while frozen.", "New leaves grow in one to three weeks.", "Only when it freezes on soft growth: keep off white grass, and do not feed late."},
	{"winter-crown-kill", "Part of the grass froze to death in winter.", "Seed or sod after the soil warms.", "Ice, wet and late feeding raise the odds. Drainage and a tougher grass lower them."},
	{"winter-desiccation", "Dry winter wind took the water from the leaves and crowns.", "Water at the first thaw; most of it greens.", "Open, windy places get it in dry winters. A soaking before the ground freezes helps."},
	{"winter-dormancy", "Warm-season grass sleeps through the winter. It is alive.", "It greens when the soil warms in spring.", "Every winter; that is how this grass lives."},
	{"slow-green-up", "It is waking up late: the soil is still cool, or there is shade or thatch.", "Warm soil. Patience for some weeks, then we look again.", "Cool springs and shady corners are always later."},

	// nutrient
	{"nitrogen-deficiency", "The lawn is hungry. It pales and grows slowly.", "A feeding; it greens within two weeks.", "Grass uses nitrogen up: a feeding plan for the year keeps it green."},
	{"iron-chlorosis", "The grass cannot get enough iron, mostly because the soil is limy or wet. The youngest leaves yellow.", "Iron on the leaves greens it in days.", "Iron holds some weeks only; the soil stays as it is."},
	{"growth-flush-chlorosis", "It grew faster than its colour could follow after rain or feeding.", "It greens by itself within two weeks; iron makes it quicker.", "It may show after each flush of growth."},
	{"phosphorus-deficiency", "The soil test shows too little phosphorus; roots and seedlings lack it.", "The amount that the test asks for.", "The test is repeated in three years."},
	{"potassium-deficiency", "The soil test shows too little potassium; the grass stands drought and cold badly.", "The amount that the test asks for, in parts.", "Sandy soil loses it; a test every three years."},
	{"high-ph", "The soil is too limy for this grass to find its iron.", "Sulfur where it can work, iron for the colour, or a grass that likes lime.", "Limy soil and hard water bring it back."},
	{"low-ph", "The soil is too sour; the grass cannot use what is in it.", "Lime in portions, over a year or more.", "Rain and feeding make soil sour again; a test every three years."},
	{"salinity", "Salt in the soil keeps the roots from drinking.", "Rinsing with good water where it drains.", "De-icing salt, sea spray or salty water bring it back."},

	// water
	{"overwatering", "It gets more water than it can use. The roots go short of air.", "Water less often; let the top dry between.", "Timers set for August still run in October. They follow the weather or it comes back."},
	{"flooding", "Water stood on the grass, and the roots suffocated.", "Drain it, keep off while it is soft, and seed what died.", "It will flood again in the next heavy rain unless the water can drain away."},

	// site and care
	{"compaction", "The soil is pressed hard, so that roots and water cannot get in.", "Holes with hollow tines in the growing season, and other ways to walk.", "Feet and wheels press it again. A path or a yearly aeration ends it."},
	{"excess-thatch", "A felt of old stems lies between grass and soil. It dries out and houses pests.", "It is taken out in the growing season, then the lawn needs weeks to fill in.", "Heavy feeding and sour or tight soil build it up again."},
	{"matted-debris", "Leaves, clippings or snow lay on the grass and smothered it.", "Brushing it up; living crowns green again.", "Only if it lies again: clear leaves every week in autumn."},
	{"scalping", "It was cut too short at once, so the brown stems show.", "It greens within two to three weeks. Keep the mower high.", "When a third or more comes off in one cut. Mow more often, or fill the bump."},
	{"dull-blade", "The mower tears instead of cutting; the torn tips turn grey.", "A sharp blade. It is gone after two mowings.", "When the blade is dull again: every ten hours or so of mowing."},
	{"traffic-crush", "Feet or wheels bruised the grass.", "Rest, and a few weeks of growth.", "As long as the way leads over the grass. A path ends it."},
	{"shade-thinning", "There is too little sun for this grass.", "Light pruned in, a shade grass, or another plant there.", "Trees grow. Without more light it thins again after every seeding."},
	{"herbicide-injury", "A weed killer hurt the grass: too strong, too hot, or drifted.", "Most of it grows out in three to six weeks. Water, no feeding at first.", "Only if it happens again."},
	{"fertilizer-burn", "Too much fertilizer in one place burned the grass.", "Soaking washes it down; dead places are seeded.", "Only if it is spilled or overlapped again."},
	{"pet-urine", "Dog urine: too much nitrogen and salt in one spot, with a dark green ring.", "Rinse at once; dead spots are raked and seeded.", "As long as a dog uses the lawn. A place of its own helps."},
	{"chemical-spill", "Something was spilled: fuel, oil, a cleaner or salt.", "The soil is rinsed or replaced, then seeded.", "Only if it is spilled again. Fill machines on the drive."},
	{"animal-digging", "Animals dig for food in the turf.", "Roll the turf back and water. What they look for is dealt with if there is much of it.", "As long as there is food below. Look there before blaming the animal."},
	{"vole-runways", "Voles gnawed paths through the grass under the snow.", "Rake; the grass closes the paths in spring.", "Long grass and cover near the lawn invite them. Cut short before winter."},
	{"buried-debris", "Stones, wood or rubble lie under the grass.", "It is dug out and the hole filled with soil.", "Never, once it is out."},
	{"moss-invasion", "Moss grows where grass is weak: shade, wet, sour or hungry soil.", "The moss is killed and raked out, and the reason for it is mended.", "It returns every wet season as long as its reason stays."},
	{"algae-crust", "A green or black skin on wet, bare soil.", "Dry it out, scratch it open and let grass grow in.", "As long as the place stays wet and bare."},
	{"weed-invasion", "Weeds took the places where the grass was thin.", "Dense grass: the right cut, feeding, seed. A treatment only clears the way.", "Every gap is filled by something. Thick grass ends it."},
	{"establishment-failure", "The new lawn did not take: too dry, too wet, too late or hungry.", "It is seeded again in the right weeks, with water little and often.", "Not once it is rooted."},

	// look-alikes
	{"seed-heads", "The grass is flowering. The stems look tan, and some are tough to mow.", "Nothing: it is over in three to five weeks.", "Every spring."},
	{"off-type-grass", "Another grass grows in patches and looks different in colour or season.", "Live with it, or kill the patch and replant.", "It creeps on. Pieces left in the soil grow again."},
	{"healthy-turf", "We found nothing wrong with the grass.", "Nothing has to be done.", "If it looks worse, tell us when and where."},
}

// Of is what a client is told of a cause; false for a cause that has no row.
func Of(cause string) (About, bool) {
	for _, r := range causeRows {
		if r.cause == cause {
			return About{r.what, r.ends, r.back}, true
		}
	}
	return About{}, false
}

// Sureness is how sure a diagnosis is, in steps that a client can tell apart.
type Sureness string

// The steps, by the probability of the leading cause (judgement).
const (
	Sure     Sureness = "sure"     // 0.9 and more
	Likely   Sureness = "likely"   // 0.7 and more
	Probable Sureness = "probable" // 0.5 and more
	Open     Sureness = "open"     // less: nothing is settled
)

// SureOf is the step of a probability of 0 to 1.
func SureOf(p float64) Sureness {
	switch {
	case p >= .9:
		return Sure
	case p >= .7:
		return Likely
	case p >= .5:
		return Probable
	}
	return Open
}

// Current is how many days a diagnosis stands as what the lawn has; after that it is told as history (judgement: a season).
const Current = 120

// RuledOut is the probability under which a client is told that a cause was ruled out (judgement).
const RuledOut = .03
