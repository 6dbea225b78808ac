package casefile_test

// Textbook visits: every cause by the signs that a specialist would write down, on the grasses that have it, in both hemispheres. The first
// cause leads; the tempting wrong ones stay low.
func init() {
	book := func(name, leads, date string, lat float64, species, found, low string) {
		cases = append(cases, written{"book: " + name, date, lat, species, "", found, leads, low, "", ""})
	}
	book("dollar spot bent", "dollar-spot", "2026-06-12", 41, "creeping-bentgrass",
		`{"pattern":["small-round-spots"],"colour":["straw-tan"],"leaf-symptoms":["hourglass-lesion-tan-with-brown-border"],"patch-diameter-cm":5,"last-nitrogen-days":80,"pull-test":"resists"}`,
		"pet-urine cutworms")
	book("dollar spot coalesced bermuda", "dollar-spot", "2026-05-20", 32, "hybrid-bermudagrass",
		`{"pattern":["irregular-patches"],"colour":["straw-tan"],"leaf-symptoms":["hourglass-lesion-tan-with-brown-border","tip-dieback"],"mycelium-at-dawn":"white-sparse","nitrogen-12-months-g-m2":5}`,
		"spring-dead-spot")
	book("dollar spot cobweb only", "dollar-spot", "2026-09-05", 40, "perennial-ryegrass",
		`{"pattern":["small-round-spots"],"colour":["straw-tan"],"mycelium-at-dawn":"white-cottony","patch-diameter-cm":7,"onset-speed":"days","last-nitrogen-days":90}`,
		"pythium-blight")
	book("brown patch TF", "brown-patch", "2026-07-12", 37, "tall-fescue",
		`{"pattern":["round-patches"],"colour":["brown"],"leaf-symptoms":["irregular-lesion-tan-dark-border"],"patch-diameter-cm":50,"soil-moisture":"moist","pull-test":"resists","last-nitrogen-days":20}`,
		"drought-stress white-grubs")
	book("brown patch irregular", "brown-patch", "2026-08-02", 39, "perennial-ryegrass",
		`{"pattern":["irregular-patches"],"colour":["brown"],"leaf-symptoms":["irregular-lesion-tan-dark-border"],"margin":"diffuse","onset-speed":"days","soil-moisture":"moist","irrigation-time":"evening"}`,
		"drought-stress")
	book("large patch ZO", "large-patch", "2026-10-20", 34, "zoysiagrass",
		`{"pattern":["round-patches"],"colour":["orange-cast"],"patch-diameter-cm":200,"pull-test":"shoots-slip-from-rotted-sheath","soil-moisture":"wet"}`,
		"take-all-root-rot brown-patch")
	book("large patch SA spring", "large-patch", "2026-03-25", 30, "st-augustinegrass",
		`{"pattern":["round-patches"],"colour":["yellow","brown"],"patch-diameter-cm":150,"pull-test":"shoots-slip-from-rotted-sheath","root-condition":"intact"}`,
		"take-all-root-rot chinch-bugs")
	book("large patch CE", "large-patch", "2026-11-05", 32, "centipedegrass",
		`{"pattern":["round-patches","irregular-patches"],"colour":["orange-cast","brown"],"patch-diameter-cm":120,"same-place-before":true,"pull-test":"shoots-slip-from-rotted-sheath"}`,
		"spring-dead-spot")
	book("leaf spot KB summer", "leaf-spot", "2026-07-05", 41, "kentucky-bluegrass",
		`{"leaf-symptoms":["oval-lesion-purple-border"],"pattern":["irregular-patches"],"colour":["brown"],"stand-density":"thin","pull-test":"resists"}`,
		"dull-blade")
	book("leaf spot bermuda K low", "leaf-spot", "2026-10-15", 33, "hybrid-bermudagrass",
		`{"leaf-symptoms":["oval-lesion-purple-border"],"colour":["brown","purple"],"soil-k-ppm":22,"stand-density":"thin","growth-rate":"slow"}`,
		"")
	book("melting out spring", "melting-out", "2026-04-28", 41, "kentucky-bluegrass",
		`{"leaf-symptoms":["oval-lesion-purple-border","uniform-yellow"],"colour":["yellow"],"stand-density":"thin","last-nitrogen-days":30,"soil-temp-c":13}`,
		"nitrogen-deficiency")
	book("gray leaf spot PR", "gray-leaf-spot", "2026-08-25", 39, "perennial-ryegrass",
		`{"leaf-symptoms":["grey-felted-lesion","tip-dieback"],"colour":["straw-tan"],"soil-moisture":"moist","onset-speed":"days","establishment":"first-year"}`,
		"drought-stress")
	book("gray leaf spot SA", "gray-leaf-spot", "2026-07-15", 29, "st-augustinegrass",
		`{"leaf-symptoms":["oval-lesion-purple-border","irregular-lesion-tan-dark-border"],"colour":["brown","straw-tan"],"last-nitrogen-days":12,"soil-moisture":"moist"}`,
		"chinch-bugs")
	book("pythium", "pythium-blight", "2026-07-20", 38, "perennial-ryegrass",
		`{"pattern":["lines-or-streaks"],"leaf-symptoms":["greasy-water-soaked"],"onset-speed":"overnight","soil-moisture":"wet","mycelium-at-dawn":"white-cottony"}`,
		"flooding")
	book("pythium no mycelium", "pythium-blight", "2026-07-28", 37, "creeping-bentgrass",
		`{"pattern":["low-spots","irregular-patches"],"leaf-symptoms":["greasy-water-soaked"],"colour":["black","brown"],"margin":"water-soaked","onset-speed":"overnight","irrigation-time":"evening"}`,
		"dollar-spot")
	book("rust zoysia", "rust", "2026-09-20", 36, "zoysiagrass",
		`{"leaf-symptoms":["orange-pustules"],"colour":["orange-cast"],"growth-rate":"slow","position":["under-tree"]}`, "large-patch")
	book("rust PR autumn", "rust", "2026-09-28", 43, "perennial-ryegrass",
		`{"leaf-symptoms":["orange-pustules","uniform-yellow"],"colour":["yellow"],"last-nitrogen-days":110}`, "iron-chlorosis")
	book("red thread", "red-thread", "2026-05-22", 50, "perennial-ryegrass",
		`{"leaf-symptoms":["red-threads"],"colour":["red-pink","straw-tan"],"pattern":["irregular-patches"],"nitrogen-12-months-g-m2":5}`,
		"dollar-spot")
	book("powdery mildew", "powdery-mildew", "2026-09-10", 42, "kentucky-bluegrass",
		`{"leaf-symptoms":["white-powder"],"position":["building-shade"],"sun-hours":2}`, "rust")
	book("anthracnose AB", "anthracnose", "2026-07-18", 40, "annual-bluegrass",
		`{"fruiting-bodies":"black-setae","colour":["yellow"],"mowing-height-mm":12,"penetration":"hard"}`, "nitrogen-deficiency")
	book("NRS", "necrotic-ring-spot", "2026-09-05", 42, "kentucky-bluegrass",
		`{"pattern":["frog-eye","rings"],"root-colour":"black","same-place-before":true,"patch-diameter-cm":50,"patch-profile":"sunken","colour":["straw-tan"]}`,
		"fairy-ring pet-urine")
	book("summer patch", "summer-patch", "2026-08-01", 39, "kentucky-bluegrass",
		`{"pattern":["frog-eye","round-patches"],"root-colour":"brown","crown-slice":"brown-dry","patch-diameter-cm":25,"soil-temp-c":29,"colour":["straw-tan"],"onset-speed":"days"}`,
		"white-grubs drought-stress")
	book("take-all SA", "take-all-root-rot", "2026-04-15", 30, "st-augustinegrass",
		`{"pattern":["irregular-patches"],"colour":["yellow"],"root-colour":"black","root-condition":"rotted","pull-test":"peels-in-rotten-sheets","soil-ph":7.6}`,
		"chinch-bugs")
	book("take-all bent", "take-all-root-rot", "2026-05-20", 51, "creeping-bentgrass",
		`{"pattern":["rings"],"colour":["orange-cast","brown"],"root-colour":"black","root-condition":"rotted","texture":"sand","soil-ph":7.0}`,
		"fairy-ring")
	book("SDS", "spring-dead-spot", "2026-05-01", 37, "hybrid-bermudagrass",
		`{"pattern":["round-patches"],"same-place-before":true,"colour":["straw-tan","white-bleached"],"patch-diameter-cm":40,"root-colour":"black","patch-profile":"sunken","green-up-percent":90}`,
		"winter-crown-kill")
	book("SDS no roots", "spring-dead-spot", "2026-04-28", 36, "common-bermudagrass",
		`{"pattern":["round-patches","frog-eye"],"same-place-before":true,"colour":["straw-tan"],"patch-diameter-cm":35,"green-up-percent":85}`,
		"large-patch slow-green-up winter-crown-kill")
	book("gray snow mold", "gray-snow-mold", "2026-03-28", 46, "kentucky-bluegrass",
		`{"pattern":["matted-patches","round-patches"],"colour":["white-bleached"],"fruiting-bodies":"sclerotia","snow-cover-days":110}`,
		"vole-runways winter-crown-kill")
	book("pink snow mold no snow", "pink-snow-mold", "2026-11-20", 52, "perennial-ryegrass",
		`{"pattern":["round-patches"],"colour":["brown","red-pink"],"patch-diameter-cm":12,"mycelium-at-dawn":"pink-salmon","margin":"sharp"}`,
		"dollar-spot")
	book("fairy ring", "fairy-ring", "2026-07-05", 40, "kentucky-bluegrass",
		`{"pattern":["rings"],"fruiting-bodies":"mushrooms","colour":["dark-green"],"patch-diameter-cm":250}`, "necrotic-ring-spot")
	book("fairy ring dead dry", "fairy-ring", "2026-08-10", 41, "tall-fescue",
		`{"pattern":["rings"],"colour":["dark-green","straw-tan"],"water-drop-seconds":60,"patch-diameter-cm":300,"soil-moisture":"dry"}`,
		"drought-stress")
	book("slime mold", "slime-mold", "2026-06-15", 39, "tall-fescue",
		`{"fruiting-bodies":"slime-crust","colour":["black"],"onset-speed":"overnight"}`, "algae-crust")
	book("pythium root rot", "pythium-root-rot", "2026-06-05", 39, "creeping-bentgrass",
		`{"soil-moisture":"saturated","root-condition":"rotted","root-colour":"brown","colour":["yellow"],"pull-test":"peels-in-rotten-sheets","surface":"normal","onset-speed":"weeks"}`,
		"take-all-root-rot")
	book("mosaic", "turf-mosaic-virus", "2026-11-20", 27, "st-augustinegrass",
		`{"leaf-symptoms":["mosaic-streaks"],"colour":["yellow"],"pattern":["irregular-patches"],"onset-speed":"gradual"}`,
		"large-patch iron-chlorosis")
	book("grubs", "white-grubs", "2026-09-01", 40, "kentucky-bluegrass",
		`{"pattern":["irregular-patches"],"colour":["brown"],"pull-test":"lifts-like-carpet","grubs-per-m2":140,"soil-moisture":"moist"}`,
		"drought-stress")
	book("grubs no count", "white-grubs", "2026-09-12", 41, "perennial-ryegrass",
		`{"underfoot":"soft-loose","animal-digging":"rooting-holes","root-condition":"chewed-off","pull-test":"lifts-like-carpet"}`,
		"animal-digging")
	book("grubs south", "white-grubs", "2026-03-10", -36, "kikuyugrass",
		`{"pattern":["irregular-patches"],"pull-test":"lifts-like-carpet","grubs-per-m2":120,"colour":["brown"]}`, "")
	book("chinch SA", "chinch-bugs", "2026-07-10", 28, "st-augustinegrass",
		`{"pattern":["along-hardscape"],"colour":["yellow"],"float-chinch-per-m2":350,"soil-moisture":"moist","sun-hours":10}`,
		"hardscape-heat drought-stress")
	book("chinch seen only", "chinch-bugs", "2026-08-05", 41, "fine-fescue",
		`{"insects-seen":["chinch-like"],"pattern":["irregular-patches"],"colour":["yellow","straw-tan"],"soil-moisture":"moist","pull-test":"resists"}`,
		"white-grubs")
	book("webworm", "sod-webworms", "2026-08-10", 40, "kentucky-bluegrass",
		`{"leaf-symptoms":["chewed-notches"],"frass":"green-pellets","moths-on-walking":"many","flush-caterpillars-per-m2":90,"colour":["brown"]}`,
		"dollar-spot")
	book("armyworm", "armyworms", "2026-09-05", 34, "common-bermudagrass",
		`{"onset-speed":"overnight","leaf-symptoms":["chewed-notches","windowpane-feeding"],"insects-seen":["caterpillars"],"caterpillar-kind":"armyworm","neighbours-affected":"many"}`,
		"sod-webworms scalping")
	book("billbug KB", "billbugs", "2026-07-08", 41, "kentucky-bluegrass",
		`{"pull-test":"stems-break-at-crown","frass":"sawdust-like","colour":["straw-tan"],"pattern":["irregular-patches"]}`,
		"white-grubs summer-dormancy")
	book("billbug zoysia", "billbugs", "2026-09-15", 33, "zoysiagrass",
		`{"pull-test":"stems-break-at-crown","pattern":["irregular-patches"],"colour":["straw-tan"],"billbug-larvae-per-m2":120}`,
		"large-patch")
	book("mole crickets", "mole-crickets", "2026-06-15", 30, "bahiagrass",
		`{"animal-digging":"tunnels","underfoot":"soft-loose","texture":"sand","flush-mole-crickets-per-m2":22}`, "white-grubs")
	book("leatherjackets", "crane-fly-larvae", "2026-03-10", 52, "perennial-ryegrass",
		`{"colour":["yellow"],"animal-digging":"bird-probing","leatherjackets-per-m2":300,"stand-density":"thin"}`, "white-grubs")
	book("bermuda mite", "turf-mites", "2026-07-01", 32, "hybrid-bermudagrass",
		`{"leaf-symptoms":["stunted-tufted"],"growth-rate":"stalled","insects-seen":["mites-suspected"]}`, "herbicide-injury")
	book("clover mite C", "turf-mites", "2026-03-05", 40, "kentucky-bluegrass",
		`{"leaf-symptoms":["stippled"],"pattern":["along-hardscape"],"insects-seen":["mites-suspected"],"colour":["white-bleached"]}`,
		"winter-desiccation")
	book("nematodes", "plant-parasitic-nematodes", "2026-07-15", 29, "hybrid-bermudagrass",
		`{"nematode-count":"above-threshold","root-condition":"short-stubby","texture":"sand","stand-density":"thin"}`,
		"drought-stress")
	book("cutworm", "cutworms", "2026-06-20", 41, "creeping-bentgrass",
		`{"pattern":["small-round-spots"],"patch-diameter-cm":4,"leaf-symptoms":["chewed-notches"],"flush-caterpillars-per-m2":20}`,
		"dollar-spot")
	book("spittlebug", "spittlebugs", "2026-08-15", 32, "centipedegrass",
		`{"insects-seen":["spittle-or-spittlebugs"],"leaf-symptoms":["white-or-banded-streaks"],"colour":["purple"]}`,
		"chinch-bugs phosphorus-deficiency")
	book("ground pearls", "ground-pearls", "2026-07-20", 32, "centipedegrass",
		`{"insects-seen":["pearls-on-roots"],"pattern":["rings"],"texture":"sand","colour":["brown"]}`, "fairy-ring")
	book("scale", "scale-insects", "2026-07-25", 31, "common-bermudagrass",
		`{"insects-seen":["scale-crusts"],"stand-density":"thin","colour":["yellow"],"irrigation-weekly-mm":25}`, "drought-stress")
	book("heat", "heat-stress", "2026-07-22", 38, "perennial-ryegrass",
		`{"soil-temp-c":32,"soil-moisture":"moist","colour":["straw-tan"],"leaf-symptoms":["tip-dieback"],"mowing-height-mm":30}`,
		"drought-stress")
	book("heat by difference", "heat-stress", "2026-08-05", 37, "tall-fescue",
		`{"soil-temp-c":31,"soil-temp-healthy-c":26,"soil-moisture":"moist","stand-density":"thin","colour":["brown"]}`,
		"summer-dormancy drought-stress")
	book("hardscape heat", "hardscape-heat", "2026-07-18", 40, "kentucky-bluegrass",
		`{"pattern":["along-hardscape"],"position":["near-hardscape"],"soil-temp-c":34,"soil-temp-healthy-c":28,"float-chinch-per-m2":0,"colour":["straw-tan"]}`,
		"chinch-bugs salinity")
	book("covered scald", "covered-scald", "2026-07-02", 41, "tall-fescue",
		`{"recent-events":["hose-or-cover-left"],"margin":"sharp","onset-speed":"overnight","colour":["white-bleached"]}`,
		"chemical-spill")
	book("drought", "drought-stress", "2026-07-08", 39, "tall-fescue",
		`{"footprints":"stay","colour":["blue-grey"],"soil-moisture":"dry","leaf-symptoms":["rolled-or-folded"]}`, "heat-stress")
	book("drought brown", "drought-stress", "2026-07-20", 41, "perennial-ryegrass",
		`{"pattern":["high-spots-or-slopes"],"colour":["brown"],"soil-moisture":"dry","footprints":"stay","pull-test":"resists","days-since-water":12}`,
		"white-grubs")
	book("drought uniform", "drought-stress", "2026-06-25", 42, "kentucky-bluegrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"soil-moisture":"dry","footprints":"stay","onset-speed":"days"}`, "")
	book("dormant KB", "summer-dormancy", "2026-08-10", 41, "kentucky-bluegrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"crown-slice":"white-moist","soil-moisture":"dry","days-since-water":40,"irrigation-time":"none","growth-rate":"stalled"}`,
		"drought-dieback")
	book("dormant FF brown", "summer-dormancy", "2026-08-01", 43, "fine-fescue",
		`{"pattern":["uniform"],"colour":["brown"],"crowns-alive-percent":90,"soil-moisture":"dry","days-since-water":30,"neighbours-affected":"many"}`,
		"drought-dieback")
	book("dieback", "drought-dieback", "2026-09-01", 40, "perennial-ryegrass",
		`{"crowns-alive-percent":8,"pull-test":"shears-at-soil","soil-moisture":"dry","colour":["straw-tan"],"days-since-water":55}`,
		"white-grubs summer-dormancy")
	book("dieback after rain", "drought-dieback", "2026-09-20", 41, "tall-fescue",
		`{"crown-slice":"brown-dry","green-tissue-at-base":false,"soil-moisture":"moist","colour":["straw-tan"],"pattern":["irregular-patches"],"onset-speed":"weeks","stand-density":"gaps"}`,
		"white-grubs")
	book("LDS", "localized-dry-spot", "2026-07-15", 40, "creeping-bentgrass",
		`{"water-drop-seconds":120,"soil-moisture":"dry","texture":"sand","irrigation-weekly-mm":30,"pattern":["irregular-patches"]}`,
		"irrigation-coverage-gap")
	book("over tank", "shallow-soil-over-object", "2026-07-12", 40, "kentucky-bluegrass",
		`{"position":["over-tank"],"buried-object":"tank-or-drain-field","same-place-before":true,"soil-moisture":"dry","margin":"sharp"}`,
		"white-grubs")
	book("coverage gap", "irrigation-coverage-gap", "2026-07-25", 39, "tall-fescue",
		`{"pattern":["sprinkler-arcs"],"catch-can-du":0.4,"soil-moisture":"dry","irrigation-time":"early-morning"}`,
		"localized-dry-spot")
	book("frost zoysia", "frost-injury", "2026-04-12", 36, "zoysiagrass",
		`{"recent-events":["freeze-after-green-up"],"onset-speed":"overnight","leaf-symptoms":["tip-dieback"],"crown-slice":"white-moist","neighbours-affected":"many"}`,
		"winter-crown-kill")
	book("crown kill", "winter-crown-kill", "2026-04-25", 44, "perennial-ryegrass",
		`{"crown-slice":"brown-soft","pattern":["low-spots"],"recent-events":["ice-cover"],"green-tissue-at-base":false}`,
		"gray-snow-mold")
	book("crown kill SA", "winter-crown-kill", "2026-04-20", 33, "st-augustinegrass",
		`{"crowns-alive-percent":15,"pattern":["irregular-patches"],"colour":["straw-tan"],"green-up-percent":20,"neighbours-affected":"few"}`,
		"slow-green-up")
	book("desiccation", "winter-desiccation", "2026-03-15", 42, "creeping-bentgrass",
		`{"pattern":["high-spots-or-slopes"],"colour":["straw-tan"],"soil-moisture":"dry","snow-cover-days":3,"crown-slice":"brown-dry"}`,
		"gray-snow-mold")
	book("winter dormancy", "winter-dormancy", "2026-01-15", 33, "common-bermudagrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"soil-temp-c":8,"pull-test":"resists"}`, "drought-stress")
	book("winter dormancy brown CE", "winter-dormancy", "2026-12-28", 33, "centipedegrass",
		`{"pattern":["uniform"],"colour":["brown"],"neighbours-affected":"many"}`, "healthy-turf")
	book("dormancy south", "winter-dormancy", "2026-07-20", -34, "kikuyugrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"soil-temp-c":7,"growth-rate":"stalled"}`, "summer-dormancy drought-stress")
	book("slow green-up", "slow-green-up", "2026-04-15", 35, "zoysiagrass",
		`{"green-up-percent":50,"soil-temp-c":15,"crown-slice":"white-moist","pattern":["mottled"]}`, "winter-crown-kill")
	book("slow green-up shade", "slow-green-up", "2026-04-20", 34, "common-bermudagrass",
		`{"green-up-percent":40,"soil-temp-c":14,"position":["building-shade"],"crowns-alive-percent":95}`,
		"winter-crown-kill spring-dead-spot")
	book("N def", "nitrogen-deficiency", "2026-05-15", 41, "perennial-ryegrass",
		`{"pattern":["uniform"],"colour":["yellow"],"leaf-symptoms":["older-leaves-yellow"],"growth-rate":"slow","last-nitrogen-days":220}`,
		"iron-chlorosis")
	book("N def lime green", "nitrogen-deficiency", "2026-06-05", 40, "tall-fescue",
		`{"pattern":["uniform"],"colour":["lime-green"],"growth-rate":"slow","nitrogen-12-months-g-m2":3,"leaf-symptoms":["uniform-yellow"]}`,
		"iron-chlorosis")
	book("iron SA", "iron-chlorosis", "2026-06-12", 30, "st-augustinegrass",
		`{"leaf-symptoms":["interveinal-yellow","new-leaves-yellow"],"soil-ph":7.9,"colour":["yellow"],"last-nitrogen-days":25}`,
		"nitrogen-deficiency take-all-root-rot")
	book("iron centipede", "iron-chlorosis", "2026-05-10", 32, "centipedegrass",
		`{"leaf-symptoms":["new-leaves-yellow","interveinal-yellow"],"colour":["yellow"],"soil-ph":6.9}`, "nitrogen-deficiency")
	book("flush", "growth-flush-chlorosis", "2026-06-05", 36, "zoysiagrass",
		`{"growth-rate":"surging","colour":["lime-green"],"recent-events":["heavy-rain"],"last-nitrogen-days":14,"last-nitrogen-source":"quick"}`,
		"nitrogen-deficiency")
	book("P def seedlings", "phosphorus-deficiency", "2026-10-05", 40, "tall-fescue",
		`{"establishment":"new-seed","leaf-symptoms":["purple-tint"],"colour":["purple"],"soil-p-ppm":6,"growth-rate":"slow"}`, "")
	book("K def", "potassium-deficiency", "2026-06-10", 35, "common-bermudagrass",
		`{"soil-k-ppm":18,"leaf-symptoms":["scorched-margins"],"texture":"sand"}`, "salinity")
	book("high pH", "high-ph", "2026-05-10", 40, "kentucky-bluegrass",
		`{"soil-ph":8.2,"stand-density":"thin"}`, "low-ph")
	book("low pH", "low-ph", "2026-04-20", 44, "kentucky-bluegrass",
		`{"soil-ph":5.0,"stand-density":"thin","growth-rate":"slow"}`, "high-ph")
	book("salt road", "salinity", "2026-04-15", 43, "kentucky-bluegrass",
		`{"recent-events":["deicing-salt"],"pattern":["along-hardscape"],"soil-ec-ds-m":6,"colour":["straw-tan"]}`, "hardscape-heat")
	book("salt heat KB", "salinity", "2026-07-18", 39, "kentucky-bluegrass",
		`{"soil-ec-ds-m":5.5,"leaf-symptoms":["tip-dieback"],"surface":"crusted","soil-moisture":"moist"}`, "heat-stress")
	book("overwatered", "overwatering", "2026-07-10", 39, "tall-fescue",
		`{"irrigation-sessions-per-week":7,"irrigation-weekly-mm":60,"soil-moisture":"wet","root-depth-mm":35,"underfoot":"spongy"}`,
		"drought-stress")
	book("flood", "flooding", "2026-06-01", 38, "tall-fescue",
		`{"recent-events":["flood"],"pattern":["low-spots"],"surface":"cracked-or-scaled","root-condition":"rotted"}`, "drought-stress")
	book("compaction", "compaction", "2026-05-18", 40, "kentucky-bluegrass",
		`{"penetration-kpa":2900,"position":["entry-path"],"stand-density":"thin","root-depth-mm":40,"soil-moisture":"moist"}`, "")
	book("compaction screwdriver", "compaction", "2026-09-18", 39, "tall-fescue",
		`{"penetration":"hard","recent-events":["heavy-traffic"],"stand-density":"thin","soil-moisture":"moist"}`, "drought-stress")
	book("thatch", "excess-thatch", "2026-06-10", 32, "hybrid-bermudagrass",
		`{"thatch-mm":24,"underfoot":"spongy"}`, "overwatering")
	book("matted leaves", "matted-debris", "2026-03-20", 43, "kentucky-bluegrass",
		`{"debris":"leaf-litter","recent-events":["leaves-left-over-winter"],"pattern":["matted-patches"],"crown-slice":"white-moist"}`,
		"gray-snow-mold")
	book("scalped", "scalping", "2026-06-08", 40, "tall-fescue",
		`{"mowing-height-drop-mm":35,"onset-speed":"overnight","colour":["brown"],"pattern":["high-spots-or-slopes"]}`, "armyworms")
	book("dull blade", "dull-blade", "2026-06-20", 40, "perennial-ryegrass",
		`{"leaf-tip-cut":"frayed","pattern":["uniform"],"colour":["white-bleached"]}`, "leaf-spot drought-stress")
	book("tire tracks frost", "traffic-crush", "2026-01-12", 41, "tall-fescue",
		`{"pattern":["wheel-tracks"],"recent-events":["vehicle"],"colour":["brown"]}`, "fertilizer-burn")
	book("shade", "shade-thinning", "2026-06-15", 40, "kentucky-bluegrass",
		`{"sun-hours":2,"position":["under-tree"],"stand-density":"thin"}`, "nitrogen-deficiency")
	book("shade bermuda", "shade-thinning", "2026-07-15", 33, "common-bermudagrass",
		`{"sun-hours":4,"stand-density":"thin","position":["building-shade"],"onset-speed":"gradual"}`, "")
	book("herbicide", "herbicide-injury", "2026-05-20", 31, "st-augustinegrass",
		`{"herbicide-last-30-days":true,"onset-speed":"days","pattern":["spreader-stripes"],"colour":["yellow"],"growth-rate":"stalled"}`,
		"iron-chlorosis")
	book("fert burn", "fertilizer-burn", "2026-06-12", 40, "kentucky-bluegrass",
		`{"pattern":["spreader-stripes"],"last-nitrogen-days":3,"last-nitrogen-source":"quick","onset-speed":"days","colour":["brown"]}`,
		"herbicide-injury")
	book("pet", "pet-urine", "2026-05-05", 41, "kentucky-bluegrass",
		`{"pattern":["small-round-spots"],"colour":["straw-tan","dark-green"],"patch-diameter-cm":17,"dog-on-lawn":true}`,
		"dollar-spot")
	book("spill", "chemical-spill", "2026-06-06", 39, "tall-fescue",
		`{"recent-events":["spill"],"margin":"sharp","onset-speed":"overnight","soil-smell":"chemical"}`, "")
	book("digging no grubs", "animal-digging", "2026-10-10", 40, "tall-fescue",
		`{"animal-digging":"rooting-holes","grubs-per-m2":6,"pull-test":"resists","root-condition":"intact"}`, "white-grubs")
	book("voles", "vole-runways", "2026-03-22", 45, "kentucky-bluegrass",
		`{"pattern":["lines-or-streaks"],"snow-cover-days":70,"leaf-symptoms":["sheared-off-at-soil"],"crown-slice":"white-moist"}`,
		"gray-snow-mold")
	book("buried rubble", "buried-debris", "2026-07-18", 40, "kentucky-bluegrass",
		`{"buried-object":"rock-or-debris","same-place-before":true,"soil-moisture":"dry","penetration":"hard"}`, "")
	book("moss", "moss-invasion", "2026-03-15", 50, "fine-fescue",
		`{"moss-cover-percent":40,"soil-moisture":"wet","stand-density":"thin"}`, "")
	book("algae", "algae-crust", "2026-06-10", 35, "hybrid-bermudagrass",
		`{"surface":"algae","soil-moisture":"wet","stand-density":"bare"}`, "slime-mold")
	book("weeds", "weed-invasion", "2026-05-20", 40, "tall-fescue",
		`{"weed-cover-percent":40,"weed-kinds":["broadleaf"],"stand-density":"thin"}`, "")
	book("sod failing", "establishment-failure", "2026-06-28", 40, "kentucky-bluegrass",
		`{"establishment":"new-sod","pull-test":"lifts-like-carpet","root-depth-mm":10,"grubs-per-m2":0}`, "white-grubs")
	book("seed heads", "seed-heads", "2026-05-25", 41, "kentucky-bluegrass",
		`{"seed-heads":"many","pattern":["uniform"],"colour":["straw-tan"]}`, "drought-stress")
	book("off type", "off-type-grass", "2026-07-20", 41, "kentucky-bluegrass",
		`{"growth-habit":["clumps"],"margin":"sharp","colour":["lime-green"],"onset-speed":"gradual","same-place-before":true}`, "")
	book("healthy", "healthy-turf", "2026-05-15", 40, "tall-fescue",
		`{"pattern":[],"colour":[],"leaf-symptoms":["none"],"pull-test":"resists","soil-moisture":"moist","footprints":"spring-back","stand-density":"dense"}`,
		"")
	book("healthy W summer", "healthy-turf", "2026-07-01", 32, "zoysiagrass",
		`{"pattern":[],"colour":[],"leaf-symptoms":["none"],"stand-density":"dense","crown-slice":"white-moist","root-colour":"white"}`,
		"")
	book("shade+moss", "moss-invasion shade-thinning", "2026-04-05", 47, "perennial-ryegrass",
		`{"moss-cover-percent":35,"sun-hours":2,"position":["under-tree"],"stand-density":"thin","soil-moisture":"moist"}`, "")
	book("drought+grubs", "white-grubs", "2026-08-28", 40, "kentucky-bluegrass",
		`{"soil-moisture":"dry","footprints":"stay","grubs-per-m2":110,"pull-test":"lifts-like-carpet","colour":["straw-tan"]}`, "")
	book("N+dollar spot", "dollar-spot", "2026-09-08", 41, "perennial-ryegrass",
		`{"leaf-symptoms":["hourglass-lesion-tan-with-brown-border"],"pattern":["small-round-spots"],"colour":["straw-tan"],"nitrogen-12-months-g-m2":2,"last-nitrogen-days":300,"growth-rate":"slow"}`,
		"")
	book("thatch+chinch", "chinch-bugs excess-thatch", "2026-07-30", 29, "st-augustinegrass",
		`{"float-chinch-per-m2":400,"thatch-mm":28,"colour":["yellow"],"soil-moisture":"moist"}`, "")
	book("iron+pH", "iron-chlorosis high-ph", "2026-06-20", 33, "centipedegrass",
		`{"leaf-symptoms":["interveinal-yellow"],"soil-ph":7.3,"colour":["yellow"],"growth-rate":"slow"}`, "")
	book("thatch+LDS", "localized-dry-spot excess-thatch", "2026-07-12", 39, "kentucky-bluegrass",
		`{"water-drop-seconds":90,"thatch-mm":24,"soil-moisture":"dry","irrigation-weekly-mm":25}`, "")
}
