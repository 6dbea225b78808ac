package remedy

// learnRows are the rules of what is learnt, waited for or left: the first that holds decides. They are asked last, when the other
// verdicts stand.
var learnRows = []factRow{
	{"send-lab-sample", Avoid, "known(lab-pathogen)", "the laboratory has answered", ""},
	{"send-lab-sample", Avoid, "plain-leaf", "plain by what was seen: no sample needed", ""},
	{"send-lab-sample", CheckFirst, "root-doubt and unknown(root-colour) and unknown(root-condition) and unknown(pull-test)", "look at the roots before a sample goes out", "root-colour root-condition"},
	{"send-lab-sample", DoNow, "root-doubt", "a root or crown disease is possible, and the treatment depends on its name", ""},
	{"send-lab-sample", DoNow, "p(plant-parasitic-nematodes) >= .2 and unknown(nematode-count)", "only the laboratory counts nematodes", ""},
	{"send-lab-sample", DoNow, "p(turf-mosaic-virus) >= .2", "only the laboratory names the virus", ""},
	{"send-lab-sample", DoNow, "leaf-doubt and known(leaf-symptoms)", "two leaf diseases are about as likely: the laboratory tells them apart", ""},
	{"send-lab-sample", DoNow, "p(turf-mites|scale-insects|ground-pearls) >= .3 and lens-finds = none", "nothing under the lens, and it still looks like them", ""},
	{"send-lab-sample", DoNow, "unexplained >= .25 and without unclear-checks", "it fits none of the usual causes well: a laboratory, or a second pair of eyes", ""},
	{"send-lab-sample", CheckFirst, "leaf-maybe and unknown(leaf-symptoms)", "look at the blades with the lens first", "leaf-symptoms"},

	{"soil-test", Avoid, "known(soil-ph) and without figure-missing", "there is a test", ""},
	{"soil-test", DoNow, "figure-missing and without frozen", "a figure is wanted: {missing-figure}", ""},
	{"soil-test", Schedule, "figure-missing", "a figure is wanted: {missing-figure}; when the ground has thawed", "in 30"},
	{"soil-test", DoNow, "not-tested and (seed-planned or weeds-thin)", "before seed and food goes down: pH, phosphorus, potassium", ""},
}

// learnTerms are terms of these rules.
var learnTerms = []struct{ name, test, source string }{
	{"unclear-checks", "unknown(leaf-symptoms) or unknown(pull-test) or unknown(soil-moisture)", "the plain looks come first"},
	{"root-doubt", "p(necrotic-ring-spot|summer-patch|take-all-root-rot|pythium-root-rot|spring-dead-spot) >= .2 and without sds-plain", ""},
	{"sds-plain", "p(spring-dead-spot) >= .6 and hist(spring-dead-spot) and p(necrotic-ring-spot|summer-patch|take-all-root-rot|pythium-root-rot) < .2", ""},
	{"leaf-seen-a", "seen(dollar-spot) and p(dollar-spot) >= .6 or seen(brown-patch) and p(brown-patch) >= .6 or seen(rust) and p(rust) >= .6", ""},
	{"leaf-seen-b", "seen(red-thread) and p(red-thread) >= .6 or seen(powdery-mildew) and p(powdery-mildew) >= .6 or seen(large-patch) and p(large-patch) >= .6", ""},
	{"leaf-seen-c", "seen(gray-leaf-spot) and p(gray-leaf-spot) >= .6 or seen(anthracnose) and p(anthracnose) >= .6 or seen(leaf-spot) and p(leaf-spot) >= .6", ""},
	{"plain-leaf", "(leaf-seen-a or leaf-seen-b or leaf-seen-c) and without root-doubt", ""},
	{"leaf-maybe", "p(dollar-spot|brown-patch|leaf-spot|melting-out|gray-leaf-spot|rust|red-thread|anthracnose|powdery-mildew) >= .15", ""},
	{"leaf-doubt", "second-leaf >= .3", ""},
	{"ph-cause", "p(iron-chlorosis|high-ph|low-ph|moss-invasion|take-all-root-rot|summer-patch) >= .2", ""},
	{"p-cause", "p(phosphorus-deficiency) >= .2", ""},
	{"k-cause", "p(potassium-deficiency) >= .2", ""},
	{"salt-cause", "p(salinity) >= .2", ""},
	{"ph-missing", "unknown(soil-ph) and ph-cause", ""},
	{"p-missing", "unknown(soil-p-ppm) and p-cause", ""},
	{"k-missing", "unknown(soil-k-ppm) and k-cause", ""},
	{"salt-missing", "salt-cause and (unknown(soil-ec-ds-m) or unknown(soil-sar))", ""},
	{"figure-missing", "ph-missing or p-missing or k-missing or salt-missing", ""},
	{"weeds-thin", "weed-cover-percent >= 10 and stand-density = thin|gaps", ""},
	{"seed-planned", "planned-seed >= 1", ""},
}
