package knowledge

// causeRow is one cause: see Cause for the columns.
type causeRow struct {
	id, label, family          string
	base                       float64
	months, monthsW            string
	turf                       string
	unwatered, watered, recurs float64
	window, onlyHosts          bool
}

// causeRows: base and months are judgement throughout; other tables hold the hosts, the rows of evidence and the words of the guide.
var causeRows = []causeRow{
	// disease
	{"dollar-spot", "Dollar spot", "disease", 8, "001367787410", "013687667731", "CW", 0, 0, 0, true, false},
	{"brown-patch", "Brown patch", "disease", 8, "000026999300", "", "C", 0, 0, 0, true, false},
	{"large-patch", "Large patch", "disease", 9, "136851013863", "", "W", 0, 0, .4, true, false},
	{"leaf-spot", "Leaf spot", "disease", 5, "001357776420", "236764224663", "CW", 0, 0, 0, true, false},
	{"melting-out", "Melting-out", "disease", 5, "015887311442", "", "C", 0, 0, 0, true, false},
	{"gray-leaf-spot", "Gray leaf spot", "disease", 5, "000001489610", "000259985210", "CW", 0, 0, 0, true, false},
	{"pythium-blight", "Pythium blight", "disease", 2.5, "000016986300", "000136765431", "CW", 0, 0, 0, true, false},
	{"rust", "Rust", "disease", 4, "000124688841", "012576447863", "CW", 0, 0, 0, true, false},
	{"red-thread", "Red thread", "disease", 4, "235785334653", "124420002343", "CW", 0, 0, 0, true, false},
	{"powdery-mildew", "Powdery mildew", "disease", 2, "013666446631", "012444123431", "CW", 0, 0, 0, true, false},
	{"anthracnose", "Anthracnose", "disease", 2, "012334787421", "", "C", 0, 0, 0, true, false},
	{"necrotic-ring-spot", "Necrotic ring spot", "disease", 3, "001366788741", "", "C", 0, 0, .5, true, false},
	{"summer-patch", "Summer patch", "disease", 3, "000002899400", "", "C", 0, 0, .4, true, false},
	{"take-all-root-rot", "Take-all root rot", "disease", 5, "124688634542", "258853357752", "CW", 0, 0, .35, true, false},
	{"spring-dead-spot", "Spring dead spot", "disease", 10, "015996310000", "", "W", 0, 0, .6, true, false},
	{"gray-snow-mold", "Gray snow mold", "disease", 8, "489830000002", "", "C", 0, 0, .3, true, false},
	{"pink-snow-mold", "Pink snow mold", "disease", 6, "688841001468", "", "C", 0, 0, .25, true, false},
	{"fairy-ring", "Fairy ring", "disease", 3, "112567876542", "123567777543", "CW", 0, 0, .4, false, false},
	{"slime-mold", "Slime mold", "disease", 1, "012456777641", "", "CW", 0, 0, 0, true, false},
	{"pythium-root-rot", "Pythium root rot", "disease", 2.6, "346765445543", "345665566554", "CW", 0, 0, 0, true, false},
	{"turf-mosaic-virus", "Mosaic virus", "disease", 3, "777655678899", "", "W", 0, 0, 0, false, true},
	// insect
	{"white-grubs", "White grubs", "insect", 8, "001321379840", "001221479852", "CW", .6, 0, .35, true, false},
	{"chinch-bugs", "Chinch bugs", "insect", 5, "000136998400", "224689998742", "CW", 0, 0, .3, true, false},
	{"sod-webworms", "Sod webworms", "insect", 4, "000136898620", "111235689863", "CW", 0, 0, 0, true, false},
	{"armyworms", "Armyworms", "insect", 3, "000001369741", "000124689852", "CW", 0, 0, 0, true, false},
	{"billbugs", "Billbugs", "insect", 4, "000257984310", "457864357754", "CW", 0, 0, 0, true, false},
	{"mole-crickets", "Mole crickets", "insect", 4, "124754788641", "", "W", 0, 0, .35, true, false},
	{"crane-fly-larvae", "Leatherjackets", "insect", 3, "568862011245", "", "C", 0, 0, 0, true, false},
	{"turf-mites", "Turf mites", "insect", 1.5, "899942111247", "124567887532", "CW", 0, 0, 0, false, false},
	{"plant-parasitic-nematodes", "Plant-parasitic nematodes", "insect", 2.5, "112345776532", "223567888653", "CW", 0, 0, 0, false, false},
	{"cutworms", "Cutworms", "insect", 1.5, "002566777520", "123566666532", "CW", 0, 0, 0, true, false},
	{"spittlebugs", "Spittlebugs", "insect", 2.5, "000267688410", "", "W", 0, 0, 0, true, false},
	{"ground-pearls", "Ground pearls", "insect", 1.5, "113456888631", "", "W", 0, 0, 0, false, false},
	{"scale-insects", "Scale insects", "insect", 2, "112356788631", "", "W", 0, 0, 0, false, false},
	// heat
	{"heat-stress", "Heat stress", "heat", 7, "000013899300", "", "C", 0, 0, 0, false, false},
	{"hardscape-heat", "Heat from paving", "heat", 5, "000124799410", "", "CW", 0, 0, .4, false, false},
	{"covered-scald", "Scald under a cover", "heat", 1.2, "001368999531", "", "CW", 0, 0, 0, false, false},
	// drought
	{"drought-stress", "Drought stress", "drought", 15, "112457999632", "", "CW", 0, 0, 0, false, false},
	{"summer-dormancy", "Summer dormancy", "drought", 9, "000003899400", "", "C", 1.3, .35, 0, false, false},
	{"drought-dieback", "Drought dieback", "drought", 4, "001123589952", "", "CW", 1.3, .5, 0, false, false},
	{"localized-dry-spot", "Water-repellent soil", "drought", 2.7, "012356888631", "", "CW", 0, 0, .35, false, false},
	{"shallow-soil-over-object", "Shallow soil over something", "drought", 2, "001347999521", "", "CW", 0, 0, .6, false, false},
	{"irrigation-coverage-gap", "Sprinkler coverage gap", "drought", 5, "001357999621", "", "CW", .01, 0, .4, false, false},
	// cold
	{"frost-injury", "Frost injury", "cold", 5, "056972000221", "", "CW", 0, 0, 0, false, false},
	{"winter-crown-kill", "Winter crown kill", "cold", 6, "457973000012", "", "CW", 0, 0, 0, false, false},
	{"winter-desiccation", "Winter desiccation", "cold", 3, "578960000013", "", "CW", 0, 0, 0, false, false},
	{"winter-dormancy", "Winter dormancy", "cold", 55, "999500000269", "", "W", 0, 0, 0, false, false},
	{"slow-green-up", "Slow green-up", "cold", 15, "014998200000", "", "W", 0, 0, 0, false, false},
	// nutrient
	{"nitrogen-deficiency", "Nitrogen deficiency", "nutrient", 8, "124676556531", "", "CW", 0, 0, 0, false, false},
	{"iron-chlorosis", "Iron chlorosis", "nutrient", 5, "123677766521", "", "CW", 0, 0, 0, false, false},
	{"growth-flush-chlorosis", "Growth flush", "nutrient", 5, "113788776531", "", "CW", 0, 0, 0, false, false},
	{"phosphorus-deficiency", "Phosphorus deficiency", "nutrient", 1, "236655556653", "", "CW", 0, 0, 0, false, false},
	{"potassium-deficiency", "Potassium deficiency", "nutrient", 1.8, "234556666543", "", "CW", 0, 0, 0, false, false},
	{"high-ph", "High soil pH", "nutrient", 4, "666666666666", "", "CW", 0, 0, .5, false, false},
	{"low-ph", "Low soil pH", "nutrient", 5, "666666666666", "", "CW", 0, 0, 0, false, false},
	{"salinity", "Salt", "nutrient", 2.5, "467866777554", "", "CW", 0, 0, 0, false, false},
	// water-excess
	{"overwatering", "Too much water", "water-excess", 6, "113567777532", "", "CW", .02, 0, 0, false, false},
	{"flooding", "Flooding", "water-excess", 3.5, "466777666555", "", "CW", 0, 0, .35, false, false},
	// site-and-care
	{"compaction", "Compaction", "site-and-care", 8, "455667777654", "", "CW", 0, 0, .4, false, false},
	{"excess-thatch", "Excess thatch", "site-and-care", 5, "455666666654", "", "CW", 0, 0, .4, false, false},
	{"matted-debris", "Matted debris", "site-and-care", 4, "579961000123", "", "CW", 0, 0, 0, false, false},
	{"scalping", "Scalping", "site-and-care", 4, "013788776421", "", "CW", 0, 0, 0, false, false},
	{"dull-blade", "Dull blade", "site-and-care", 3, "012678887521", "", "CW", 0, 0, 0, false, false},
	{"traffic-crush", "Traffic damage", "site-and-care", 3.5, "776555666556", "", "CW", 0, 0, 0, false, false},
	{"shade-thinning", "Too little sun", "site-and-care", 6, "334667777643", "", "CW", 0, 0, .5, false, false},
	{"herbicide-injury", "Herbicide injury", "site-and-care", 3, "236788777632", "", "CW", 0, 0, 0, false, false},
	{"fertilizer-burn", "Fertilizer burn", "site-and-care", 3, "013788887521", "", "CW", 0, 0, 0, false, false},
	{"pet-urine", "Pet spots", "site-and-care", 6, "556777777655", "", "CW", 0, 0, 0, false, false},
	{"chemical-spill", "Chemical spill", "site-and-care", 1, "456677777654", "", "CW", 0, 0, 0, false, false},
	{"animal-digging", "Digging animals", "site-and-care", 3.2, "445544568865", "", "CW", 0, 0, 0, false, false},
	{"vole-runways", "Vole runways", "site-and-care", 2.5, "579810000002", "", "CW", 0, 0, 0, false, false},
	{"buried-debris", "Buried debris", "site-and-care", 1.2, "112357888531", "", "CW", 0, 0, .5, false, false},
	{"moss-invasion", "Moss", "site-and-care", 6, "788852223568", "", "CW", 0, 0, .4, false, false},
	{"algae-crust", "Algae", "site-and-care", 1.5, "345666666554", "", "CW", 0, 0, 0, false, false},
	{"weed-invasion", "Weeds", "site-and-care", 6, "345887776543", "", "CW", 0, 0, .4, false, false},
	{"establishment-failure", "Failing new stand", "site-and-care", 7, "135776559963", "", "CW", 0, 0, 0, false, false},
	// look-alike
	{"seed-heads", "Seed heads", "look-alike", 4, "001499531000", "000258888510", "CW", 0, 0, 0, false, false},
	{"off-type-grass", "Off-type grass", "look-alike", 4, "456766886654", "", "CW", 0, 0, .5, false, false},
}

// healthyRow is the empty set of causes.
var healthyRow = causeRow{id: Healthy, label: "Nothing wrong", family: "look-alike", turf: "CW"}
