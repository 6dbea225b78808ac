package remedy

import "math"

// pestRow: what is counted of a pest, and the counts per m² from which treating pays on sound, usual and stressed turf (extension
// thresholds; the middle and the last column within them judgement).
type pestRow struct {
	cause, finding           string
	sound, usual, stressed   float64
	soilLeast, soilLeastWarm float64 // soil at 50 mm, °C, from which a count tells, and kills: under it they lie deep and do not feed
	again                    float64 // days after which it may be treated again, on a new count; 0 for the interval of its class
	killed                   string  // class of what is given against it; "" where nothing reaches it any more once it is counted
	kind                     string  // the finding that tells its kind
}

var pests = []pestRow{
	{"white-grubs", "grubs-per-m2", 100, 65, 30, 10, 13, 0, "insect", "grub-kind"},
	{"chinch-bugs", "float-chinch-per-m2", 270, 215, 160, 10, 10, 7, "insect", ""},
	{"sod-webworms", "flush-caterpillars-per-m2", 65, 45, 25, 10, 10, 7, "insect", "caterpillar-kind"},
	{"armyworms", "flush-caterpillars-per-m2", 20, 15, 10, 10, 10, 7, "insect", "caterpillar-kind"},
	{"cutworms", "flush-caterpillars-per-m2", 20, 15, 10, 10, 10, 7, "insect", "caterpillar-kind"},
	{"mole-crickets", "flush-mole-crickets-per-m2", 10, 10, 10, 13, 13, 0, "insect", ""},
	{"crane-fly-larvae", "leatherjackets-per-m2", 300, 215, 150, 4, 4, 0, "insect", ""},
	{"billbugs", "billbug-larvae-per-m2", 100, 80, 65, 10, 10, 0, "", ""},
	{"spittlebugs", "froth-per-m2", 50, 50, 50, 10, 10, 0, "insect", ""},
}

// kindRow: the counts of one kind of a pest, and the soil down to which the kind feeds; general figures where none is known for a
// kind (black beetle).
type kindRow struct {
	cause, kind            string
	sound, usual, stressed float64
	feeds                  float64
}

var kindRows = []kindRow{
	{"white-grubs", "may-beetle", 55, 30, 30, 8},
	{"white-grubs", "european-chafer", 75, 55, 30, 5},
	{"white-grubs", "japanese-or-oriental", 110, 85, 45, 10},
	{"white-grubs", "masked-chafer", 130, 85, 45, 10},
	{"white-grubs", "ataenius", 540, 320, 160, 10},
	{"white-grubs", "green-june-beetle", 55, 55, 30, 10},
	{"white-grubs", "black-beetle", 100, 65, 30, 10},
	{"white-grubs", "unknown", 100, 65, 30, 10},
	{"white-grubs", "harmless", math.Inf(1), math.Inf(1), math.Inf(1), 10},
}

// sharedRows: which cause a kind counts for, where one count stands for several; the first for a kind that nobody told and of which
// none is likelier.
var sharedRows = []struct{ finding, word, cause string }{
	{"caterpillar-kind", "webworm", "sod-webworms"},
	{"caterpillar-kind", "armyworm", "armyworms"},
	{"caterpillar-kind", "cutworm", "cutworms"},
}

// deepRows say when larvae are out of reach of a product, or hardly feed any more. Depths under which products hardly reach, 60 and
// 25 mm, and the soil of spring up to which what is found are last year's grown larvae, 21 °C: judgement.
var deepRows = []struct{ cause, test string }{
	{"white-grubs", "grub-depth-mm > 60 or it-cold or ((grubs-old or grubs-slow) and without grub-kind = european-chafer)"},
	{"mole-crickets", "cricket-size-mm > 25 or it-cold"},
	{"crane-fly-larvae", "it-cold"},
}

// hiddenRows say when a count of today tells nothing because they lie elsewhere.
var hiddenRows = []struct{ cause, test string }{
	{"white-grubs", "dry-feel"},
}

// wishRows say what the client may wish prevented without any history.
var wishRows = []struct{ cause, test string }{
	{"white-grubs", "pests = preventive"},
}

// grownRows say when what is found are grown larvae that pupate once the soil at 50 mm has warmed so far, °C (judgement).
var grownRows = []struct {
	cause, test string
	pupate      float64
}{
	{"white-grubs", "grubs-old", 21},
	{"crane-fly-larvae", "spring", 13},
}

// pestTerms are terms of these rows.
var pestTerms = []struct{ name, test, source string }{
	{"pest-over", "any-over and without (since(insect) >= 10 and since(insect) < 60)", "dead after ten days"},
	{"it-cold", "t5-seen < it-feeds or soil-temp-c < it-feeds", ""},
	{"grubs-old", "spring and (grub-size = large or unknown(grub-size)) and course5 < 21", "21 °C J"},
	{"grubs-slow", "grub-size = large and autumn and t5-seen < 13 and without twice(it)", "13 °C J"},
}

var deepOf, hiddenOf, wishOf, grownOf = map[string]test{}, map[string]test{}, map[string]test{}, map[string]test{}

func compilePests() {
	for _, r := range deepRows {
		deepOf[r.cause] = compile(r.test)
	}
	for _, r := range hiddenRows {
		hiddenOf[r.cause] = compile(r.test)
	}
	for _, r := range grownRows {
		grownOf[r.cause] = compile(r.test)
	}
	for _, r := range wishRows {
		wishOf[r.cause] = compile(r.test)
	}
}

// holdsFor asks the test of a cause in a table; a cause without a line does not hold.
func holdsFor(of map[string]test, s *situation, cause string) (out truth) {
	t, ok := of[cause]
	if !ok {
		return no
	}
	s.about(cause, func() { out = t(s, 0) })
	return out
}
