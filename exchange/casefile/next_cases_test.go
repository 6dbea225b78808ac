package casefile_test

// Half-finished visits: what is known, and what a specialist would look at next. Any of the named findings among the
// first four checks will do; a cause that leads already is named, too.
func init() {
	half := func(name, date string, lat float64, species, found, leads, low, verdict, next string) {
		cases = append(cases, written{name, date, lat, species, "", found, leads, low, verdict, next})
	}
	half("digging seen, nothing counted", "2026-09-05", 41, "kentucky-bluegrass",
		`{"animal-digging":"peeled-back","underfoot":"soft-loose","pattern":["irregular-patches"]}`, "", "red-thread gray-snow-mold",
		"insecticide-curative=check-first", "grubs-per-m2 pull-test root-condition")
	half("carpet lifts, no count yet", "2026-09-10", 40, "kentucky-bluegrass",
		`{"pull-test":"lifts-like-carpet","pattern":["irregular-patches"],"colour":["brown"]}`, "white-grubs", "dollar-spot rust",
		"insecticide-curative=check-first", "grubs-per-m2 root-condition underfoot animal-digging")
	half("yellow along the drive in heat", "2026-07-22", 30, "st-augustinegrass",
		`{"pattern":["along-hardscape"],"colour":["yellow"],"soil-moisture":"moist"}`, "", "winter-crown-kill",
		"insecticide-curative=check-first|avoid", "float-chinch-per-m2 insects-seen position soil-temp-c onset-speed")
	half("straw lawn, is it alive", "2026-08-05", 40, "kentucky-bluegrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"soil-moisture":"dry","irrigation-time":"none","days-since-water":35}`,
		"summer-dormancy", "white-grubs dollar-spot drought-dieback",
		"let-dormant=do-now|check-first apply-nitrogen=hold|avoid herbicide-broadcast=avoid|hold renovate=avoid|hold|check-first", "")
	half("straw for seven weeks, patchy, is it alive", "2026-08-25", 40, "perennial-ryegrass",
		`{"pattern":["irregular-patches","along-hardscape"],"colour":["straw-tan"],"soil-moisture":"dry","days-since-water":50}`, "",
		"white-grubs dollar-spot", "apply-nitrogen=hold|avoid renovate=avoid|hold|check-first",
		"crown-slice green-tissue-at-base crowns-alive-percent pull-test")
	half("pale lawn, records unread", "2026-05-25", 42, "perennial-ryegrass", `{"pattern":["uniform"],"colour":["lime-green"]}`, "",
		"white-grubs drought-dieback", "", "last-nitrogen-days leaf-symptoms recent-events growth-rate nitrogen-12-months-g-m2 soil-ph")
	half("rings in bluegrass sod", "2026-07-20", 40, "kentucky-bluegrass",
		`{"pattern":["frog-eye","rings"],"pull-test":"resists","soil-moisture":"moist"}`, "", "drought-stress white-grubs",
		"fungicide-curative=avoid|check-first",
		"lab-pathogen root-colour same-place-before fruiting-bodies patch-diameter-cm soil-temp-c root-condition patch-profile onset-speed")
	half("bare brown in spring hollow", "2026-04-12", 45, "perennial-ryegrass", `{"pattern":["low-spots"],"colour":["straw-tan"]}`, "",
		"white-grubs dollar-spot", "renovate=avoid|hold|check-first",
		"crown-slice green-tissue-at-base recent-events surface crowns-alive-percent pull-test")
	half("spots on bermuda at green-up", "2026-04-20", 34, "common-bermudagrass",
		`{"pattern":["round-patches"],"patch-diameter-cm":40,"green-up-percent":75}`, "", "drought-stress white-grubs",
		"fungicide-curative=avoid", "same-place-before crown-slice patch-profile root-colour lab-pathogen past-causes pull-test weed-cover-percent colour")
	half("water runs off the sand", "2026-07-10", 36, "hybrid-bermudagrass",
		`{"texture":"sand","soil-moisture":"dry","pattern":["irregular-patches"],"irrigation-weekly-mm":25}`, "", "flooding overwatering", "",
		"water-drop-seconds catch-can-du pattern root-condition position sun-hours nematode-count moisture-against-healthy root-depth-mm thatch-mm")
	half("thin under the trees", "2026-06-10", 41, "kentucky-bluegrass", `{"position":["under-tree"],"stand-density":"thin"}`, "",
		"white-grubs", "", "sun-hours leaf-symptoms moss-cover-percent penetration")
	half("small straw spots", "2026-06-20", 39, "creeping-bentgrass",
		`{"pattern":["small-round-spots"],"colour":["straw-tan"],"patch-diameter-cm":5}`, "", "white-grubs summer-dormancy",
		"fungicide-curative=avoid|check-first", "leaf-symptoms mycelium-at-dawn")
	half("a dog and green rims", "2026-06-20", 39, "tall-fescue",
		`{"pattern":["small-round-spots"],"dog-on-lawn":true,"patch-diameter-cm":18,"colour":["straw-tan","dark-green"]}`, "pet-urine",
		"white-grubs brown-patch", "fungicide-curative=avoid", "")
	half("stripes after the spreader", "2026-05-12", 40, "tall-fescue",
		`{"pattern":["spreader-stripes"],"onset-speed":"days","last-nitrogen-days":4,"last-nitrogen-source":"quick","colour":["brown","yellow"]}`, "fertilizer-burn", "white-grubs drought-stress", "apply-nitrogen=hold|avoid insecticide-curative=avoid", "")
	half("southern spring, half green", "2026-10-10", -33, "kikuyugrass", `{"green-up-percent":55,"soil-temp-c":16,"pattern":["mottled"]}`,
		"slow-green-up", "summer-dormancy", "apply-nitrogen=hold|avoid|schedule", "")
	half("southern summer, patches lift", "2026-02-20", -37, "kentucky-bluegrass",
		`{"pull-test":"lifts-like-carpet","animal-digging":"bird-probing"}`, "white-grubs", "gray-snow-mold",
		"insecticide-curative=check-first", "grubs-per-m2 root-condition underfoot")
	half("nothing asked yet, called in July", "2026-07-15", 40, "tall-fescue", `{}`, "", "",
		"insecticide-curative=avoid fungicide-curative=avoid renovate=avoid", "pattern colour leaf-symptoms soil-moisture position")
	half("two at once: thirsty and grubs", "2026-08-20", 40, "kentucky-bluegrass",
		`{"soil-moisture":"dry","footprints":"stay","colour":["blue-grey","brown"],"grubs-per-m2":120,"pull-test":"lifts-like-carpet","root-condition":"chewed-off"}`, "white-grubs drought-stress", "dollar-spot", "insecticide-curative=do-now|hold apply-nitrogen=hold|avoid", "")
	half("few grubs in a thirsty lawn", "2026-08-20", 40, "kentucky-bluegrass",
		`{"soil-moisture":"dry","footprints":"stay","colour":["blue-grey"],"grubs-per-m2":12,"pull-test":"resists"}`, "drought-stress",
		"white-grubs", "insecticide-curative=avoid water-deep=do-now|schedule|check-first", "")
	half("moss in a wet poor lawn", "2026-03-10", 51, "fine-fescue", `{"moss-cover-percent":45,"soil-ph":4.4,"stand-density":"thin"}`,
		"moss-invasion low-ph", "drought-stress", "", "")
	half("orange dust on the boots", "2026-09-10", 42, "perennial-ryegrass",
		`{"leaf-symptoms":["orange-pustules"],"colour":["orange-cast"],"growth-rate":"slow"}`, "rust", "iron-chlorosis chinch-bugs",
		"fungicide-curative=avoid", "")
}
