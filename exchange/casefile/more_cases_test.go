package casefile_test

// One plain case for each cause that the fuller cases do not lead to: what a specialist would note on an ordinary visit.
func init() {
	plain := func(cause, date string, lat float64, species, found, low, verdict string) {
		cases = append(cases, written{name: "plain " + cause, date: date, lat: lat, species: species, found: found, leads: cause, low: low,
			verdict: verdict})
	}
	plain("leaf-spot", "2026-07-05", 41, "kentucky-bluegrass",
		`{"leaf-symptoms":["oval-lesion-purple-border"],"pattern":["irregular-patches"],"colour":["brown"],"pull-test":"resists","soil-moisture":"moist","soil-temp-c":24}`, "drought-stress dull-blade white-grubs", "insecticide-curative=avoid apply-nitrogen=hold|avoid|schedule")
	plain("melting-out", "2026-04-28", 41, "kentucky-bluegrass",
		`{"leaf-symptoms":["oval-lesion-purple-border"],"pattern":["irregular-patches"],"colour":["yellow","brown"],"stand-density":"thin","soil-temp-c":14,"mowing-height-mm":35,"last-nitrogen-days":25}`, "nitrogen-deficiency drought-stress", "")
	plain("gray-leaf-spot", "2026-08-22", 37, "perennial-ryegrass",
		`{"leaf-symptoms":["grey-felted-lesion","tip-dieback"],"soil-moisture":"moist","colour":["straw-tan"],"onset-speed":"days","last-nitrogen-days":14,"last-nitrogen-source":"quick"}`, "drought-stress brown-patch", "apply-nitrogen=hold|avoid clean-equipment=do-now")
	plain("rust", "2026-09-12", 42, "perennial-ryegrass",
		`{"leaf-symptoms":["orange-pustules"],"colour":["orange-cast"],"growth-rate":"slow","last-nitrogen-days":110}`,
		"iron-chlorosis chinch-bugs", "fungicide-curative=avoid apply-nitrogen=do-now")
	plain("red-thread", "2026-05-20", 47, "fine-fescue",
		`{"leaf-symptoms":["red-threads"],"colour":["red-pink","straw-tan"],"pattern":["irregular-patches"],"pull-test":"resists","last-nitrogen-days":150}`, "dollar-spot drought-stress pink-snow-mold", "fungicide-curative=avoid insecticide-curative=avoid")
	plain("anthracnose", "2026-07-28", 39, "annual-bluegrass",
		`{"fruiting-bodies":"black-setae","colour":["yellow"],"mowing-height-mm":12,"pattern":["irregular-patches"],"pull-test":"resists"}`,
		"drought-stress nitrogen-deficiency", "")
	plain("necrotic-ring-spot", "2026-09-20", 41, "kentucky-bluegrass",
		`{"pattern":["frog-eye","rings"],"patch-diameter-cm":40,"root-colour":"black","root-condition":"rotted","same-place-before":true,"patch-profile":"sunken","soil-temp-c":16}`, "pet-urine fairy-ring white-grubs", "fungicide-curative=avoid send-lab-sample=do-now")
	plain("summer-patch", "2026-07-25", 38, "kentucky-bluegrass",
		`{"pattern":["frog-eye","round-patches"],"patch-diameter-cm":25,"root-colour":"black","root-condition":"rotted","crown-slice":"brown-soft","soil-temp-c":29,"same-place-before":true,"soil-ph":7.3}`, "pet-urine drought-stress", "fungicide-curative=avoid core-aerate=avoid|schedule|hold")
	plain("take-all-root-rot", "2026-04-20", 30, "st-augustinegrass",
		`{"pattern":["irregular-patches"],"colour":["yellow","brown"],"root-colour":"black","root-condition":"rotted","pull-test":"peels-in-rotten-sheets","soil-ph":7.6,"soil-moisture":"moist"}`, "chinch-bugs large-patch iron-chlorosis", "fungicide-curative=avoid apply-lime=avoid insecticide-curative=avoid|check-first")
	plain("fairy-ring", "2026-06-25", 40, "tall-fescue",
		`{"pattern":["rings"],"colour":["dark-green"],"fruiting-bodies":"mushrooms","patch-diameter-cm":220,"pull-test":"resists"}`,
		"necrotic-ring-spot pet-urine", "fungicide-curative=avoid")
	plain("slime-mold", "2026-06-12", 40, "tall-fescue",
		`{"fruiting-bodies":"slime-crust","colour":["black"],"onset-speed":"overnight","pull-test":"resists"}`, "rust pythium-blight",
		"fungicide-curative=avoid leave-alone=do-now")
	plain("pythium-root-rot", "2026-05-10", 36, "tall-fescue",
		`{"soil-moisture":"saturated","root-condition":"rotted","root-colour":"brown","colour":["yellow"],"leaf-symptoms":["uniform-yellow"],"underfoot":"wet","lab-pathogen":"pythium-root-rot"}`, "white-grubs drought-stress", "water-deep=avoid core-aerate=avoid|hold|schedule")
	plain("turf-mosaic-virus", "2026-11-10", 27, "st-augustinegrass",
		`{"leaf-symptoms":["mosaic-streaks"],"colour":["yellow"],"onset-speed":"gradual","pull-test":"resists"}`,
		"take-all-root-rot iron-chlorosis large-patch", "fungicide-curative=avoid")
	plain("pink-snow-mold", "2026-03-10", 46, "perennial-ryegrass",
		`{"pattern":["round-patches"],"patch-diameter-cm":14,"colour":["red-pink","white-bleached"],"mycelium-at-dawn":"pink-salmon","soil-temp-c":5,"crown-slice":"white-moist"}`, "red-thread winter-crown-kill", "brush-up-mats=do-now fungicide-curative=avoid")
	plain("sod-webworms", "2026-07-20", 39, "kentucky-bluegrass",
		`{"leaf-symptoms":["chewed-notches"],"frass":"green-pellets","insects-seen":["caterpillars","webbing-tunnels"],"flush-caterpillars-per-m2":95,"caterpillar-kind":"webworm","moths-on-walking":"many"}`, "drought-stress dollar-spot", "insecticide-curative=do-now")
	plain("billbugs", "2026-07-08", 40, "kentucky-bluegrass",
		`{"pull-test":"stems-break-at-crown","frass":"sawdust-like","colour":["straw-tan"],"pattern":["irregular-patches"]}`,
		"drought-stress white-grubs summer-dormancy", "insecticide-curative=avoid|check-first")
	plain("mole-crickets", "2026-06-20", 30, "bahiagrass",
		`{"animal-digging":"tunnels","underfoot":"soft-loose","texture":"sand","flush-mole-crickets-per-m2":18,"insects-seen":["mole-crickets"]}`, "white-grubs animal-digging", "insecticide-curative=do-now")
	plain("crane-fly-larvae", "2026-03-05", 51, "perennial-ryegrass",
		`{"leatherjackets-per-m2":350,"insects-seen":["leatherjackets"],"animal-digging":"bird-probing","colour":["yellow"],"soil-moisture":"moist"}`, "winter-crown-kill white-grubs", "insecticide-curative=do-now")
	plain("cutworms", "2026-06-18", 39, "creeping-bentgrass",
		`{"pattern":["small-round-spots"],"patch-diameter-cm":4,"leaf-symptoms":["chewed-notches"],"flush-caterpillars-per-m2":14,"caterpillar-kind":"cutworm"}`, "dollar-spot pet-urine", "")
	plain("turf-mites", "2026-08-01", 33, "hybrid-bermudagrass",
		`{"leaf-symptoms":["stunted-tufted"],"insects-seen":["mites-suspected"],"growth-rate":"stalled","colour":["yellow"]}`,
		"drought-stress nitrogen-deficiency", "")
	plain("plant-parasitic-nematodes", "2026-07-15", 28, "hybrid-bermudagrass",
		`{"root-condition":"short-stubby","texture":"sand","nematode-count":"above-threshold","footprints":"stay","stand-density":"thin","soil-moisture":"moist"}`, "drought-stress compaction", "")
	plain("spittlebugs", "2026-06-15", 32, "centipedegrass",
		`{"insects-seen":["spittle-or-spittlebugs"],"leaf-symptoms":["white-or-banded-streaks","purple-tint"],"colour":["purple"],"position":["under-tree"]}`, "chinch-bugs drought-stress", "")
	plain("ground-pearls", "2026-07-22", 32, "centipedegrass",
		`{"insects-seen":["pearls-on-roots"],"pattern":["rings"],"texture":"sand","colour":["yellow","brown"]}`, "fairy-ring drought-stress", "")
	plain("scale-insects", "2026-07-10", 31, "common-bermudagrass",
		`{"insects-seen":["scale-crusts"],"colour":["yellow"],"stand-density":"thin","pull-test":"resists"}`,
		"drought-stress nitrogen-deficiency", "")
	plain("hardscape-heat", "2026-07-24", 38, "tall-fescue",
		`{"pattern":["along-hardscape"],"position":["near-hardscape"],"soil-temp-c":34,"soil-temp-healthy-c":28,"colour":["straw-tan"],"sun-hours":10,"float-chinch-per-m2":0}`, "chinch-bugs salinity", "insecticide-curative=avoid")
	plain("covered-scald", "2026-07-02", 40, "kentucky-bluegrass",
		`{"recent-events":["hose-or-cover-left"],"margin":"sharp","onset-speed":"overnight","colour":["white-bleached"]}`,
		"chemical-spill drought-stress", "")
	plain("shallow-soil-over-object", "2026-07-12", 40, "tall-fescue",
		`{"buried-object":"tank-or-drain-field","position":["over-tank"],"same-place-before":true,"soil-moisture":"dry","penetration":"hard","margin":"sharp"}`, "white-grubs", "")
	plain("winter-desiccation", "2026-03-20", 43, "creeping-bentgrass",
		`{"pattern":["high-spots-or-slopes"],"position":["slope","open"],"colour":["straw-tan"],"soil-moisture":"dry","snow-cover-days":0,"soil-temp-c":5}`, "summer-dormancy gray-snow-mold", "apply-nitrogen=hold|avoid")
	plain("phosphorus-deficiency", "2026-04-15", 42, "tall-fescue",
		`{"soil-p-ppm":8,"colour":["purple"],"leaf-symptoms":["purple-tint"],"growth-rate":"slow","establishment":"new-seed"}`, "frost-injury",
		"apply-phosphorus=do-now|hold")
	plain("potassium-deficiency", "2026-05-20", 38, "tall-fescue", `{"soil-k-ppm":20,"leaf-symptoms":["scorched-margins"],"texture":"sand"}`,
		"salinity drought-stress", "apply-potassium=do-now")
	plain("low-ph", "2026-05-05", 43, "kentucky-bluegrass", `{"soil-ph":4.9,"stand-density":"thin","growth-rate":"slow"}`, "high-ph",
		"apply-lime=do-now")
	plain("salinity", "2026-04-20", 43, "kentucky-bluegrass",
		`{"recent-events":["deicing-salt"],"pattern":["along-hardscape"],"soil-ec-ds-m":7,"leaf-symptoms":["tip-dieback"],"soil-moisture":"moist"}`, "hardscape-heat drought-stress", "leach-salts=check-first|do-now")
	plain("overwatering", "2026-07-08", 38, "tall-fescue",
		`{"irrigation-weekly-mm":60,"irrigation-sessions-per-week":7,"soil-moisture":"wet","soil-smell":"sour","root-depth-mm":30,"colour":["yellow"],"underfoot":"spongy"}`, "drought-stress nitrogen-deficiency", "cut-back-water=do-now water-deep=avoid")
	plain("excess-thatch", "2026-09-10", 40, "kentucky-bluegrass",
		`{"thatch-mm":26,"underfoot":"spongy","pull-test":"resists","soil-moisture":"moist"}`, "overwatering white-grubs",
		"scarify=do-now|hold dethatch=avoid")
	plain("matted-debris", "2026-03-15", 44, "kentucky-bluegrass",
		`{"debris":"matted-dead-grass","pattern":["matted-patches"],"colour":["yellow"],"crown-slice":"white-moist","fruiting-bodies":"none","recent-events":["leaves-left-over-winter"]}`, "gray-snow-mold winter-crown-kill", "remove-debris=do-now fungicide-curative=avoid")
	plain("scalping", "2026-06-14", 40, "kentucky-bluegrass",
		`{"mowing-height-drop-mm":35,"pattern":["high-spots-or-slopes"],"onset-speed":"overnight","colour":["straw-tan"],"crown-slice":"white-moist"}`, "armyworms drought-stress", "raise-mowing-height=do-now insecticide-curative=avoid")
	plain("dull-blade", "2026-06-14", 40, "perennial-ryegrass",
		`{"leaf-tip-cut":"frayed","pattern":["uniform"],"colour":["white-bleached"],"pull-test":"resists"}`, "leaf-spot drought-stress",
		"sharpen-blades=do-now")
	plain("traffic-crush", "2026-01-20", 42, "kentucky-bluegrass",
		`{"pattern":["wheel-tracks"],"recent-events":["vehicle"],"margin":"sharp","colour":["brown"]}`, "fertilizer-burn",
		"restrict-traffic=do-now")
	plain("shade-thinning", "2026-06-10", 40, "kentucky-bluegrass",
		`{"sun-hours":2,"position":["under-tree"],"stand-density":"thin","onset-speed":"gradual"}`, "nitrogen-deficiency", "prune-shade=schedule")
	plain("herbicide-injury", "2026-05-25", 31, "st-augustinegrass",
		`{"herbicide-last-30-days":true,"pattern":["lines-or-streaks"],"colour":["yellow","white-bleached"],"onset-speed":"days","growth-rate":"stalled","margin":"sharp"}`, "fertilizer-burn iron-chlorosis", "herbicide-broadcast=avoid|hold")
	plain("fertilizer-burn", "2026-06-20", 40, "tall-fescue",
		`{"pattern":["spreader-stripes"],"last-nitrogen-days":3,"last-nitrogen-source":"quick","onset-speed":"days","colour":["brown","dark-green"],"margin":"sharp"}`, "herbicide-injury pet-urine", "apply-nitrogen=avoid|hold")
	plain("chemical-spill", "2026-05-15", 40, "tall-fescue",
		`{"recent-events":["spill"],"margin":"sharp","soil-smell":"chemical","onset-speed":"overnight"}`, "covered-scald", "")
	plain("animal-digging", "2026-10-05", 40, "tall-fescue",
		`{"animal-digging":"rooting-holes","grubs-per-m2":8,"root-condition":"intact","pull-test":"resists"}`, "white-grubs",
		"insecticide-curative=avoid")
	plain("vole-runways", "2026-03-18", 45, "kentucky-bluegrass",
		`{"pattern":["lines-or-streaks"],"snow-cover-days":60,"crown-slice":"white-moist","leaf-symptoms":["sheared-off-at-soil"],"margin":"sharp"}`, "gray-snow-mold", "fungicide-curative=avoid")
	plain("buried-debris", "2026-07-15", 40, "tall-fescue",
		`{"buried-object":"rock-or-debris","same-place-before":true,"penetration":"hard","soil-moisture":"dry"}`, "white-grubs", "")
	plain("algae-crust", "2026-06-05", 36, "hybrid-bermudagrass",
		`{"surface":"algae","soil-moisture":"wet","colour":["black"],"stand-density":"bare"}`, "slime-mold drought-stress", "")
	plain("weed-invasion", "2026-05-15", 40, "tall-fescue",
		`{"weed-cover-percent":45,"weed-kinds":["broadleaf","perennial"],"stand-density":"thin"}`, "", "")
	plain("establishment-failure", "2026-06-25", 40, "tall-fescue",
		`{"establishment":"new-sod","pull-test":"lifts-like-carpet","root-depth-mm":8,"soil-moisture":"dry","grubs-per-m2":0}`, "white-grubs",
		"herbicide-broadcast=avoid|hold insecticide-curative=avoid")
	plain("seed-heads", "2026-05-28", 41, "kentucky-bluegrass",
		`{"seed-heads":"many","pattern":["uniform"],"colour":["straw-tan"],"pull-test":"resists","crown-slice":"white-moist"}`,
		"drought-stress nitrogen-deficiency", "fungicide-curative=avoid")
	plain("off-type-grass", "2026-06-15", 41, "kentucky-bluegrass",
		`{"growth-habit":["clumps"],"margin":"sharp","colour":["lime-green"],"onset-speed":"gradual","weed-kinds":["perennial-grassy"]}`,
		"iron-chlorosis", "")
	plain("winter-dormancy", "2026-12-20", 34, "zoysiagrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"soil-temp-c":7,"pull-test":"resists"}`, "drought-stress large-patch",
		"apply-nitrogen=hold|avoid")
	plain("slow-green-up", "2026-04-10", 36, "zoysiagrass",
		`{"green-up-percent":45,"soil-temp-c":15,"crown-slice":"white-moist","colour":["straw-tan"]}`, "winter-crown-kill spring-dead-spot",
		"apply-nitrogen=hold")
	plain("flooding", "2026-05-20", 38, "tall-fescue",
		`{"pattern":["low-spots"],"recent-events":["flood"],"surface":"cracked-or-scaled","soil-moisture":"slightly-moist","root-condition":"rotted"}`, "drought-stress white-grubs", "")
}
