package knowledge

import (
	"fmt"
	"math"
	"sort"
	"strconv"
	"strings"
)

// conflictRow: two readings that cannot well be true together. Each side is "finding = word|word", "finding >= figure" or
// "finding < figure". about is the one that is likelier wrong, or better looked at again; text says so and how; {one} and {other} stand
// for the readings.
type conflictRow struct{ one, other, about, Text string }

// conflictRows: extension practice.
var conflictRows = []conflictRow{
	{"grubs-per-m2 >= 65", "pull-test = resists", "pull-test",
		"{one} grubs per m², and the turf resists the pull: pull again at the edge of the damage, where the count was made"},
	{"grubs-per-m2 < 10", "root-condition = chewed-off", "root-condition",
		"roots chewed off and next to no grubs counted: cut deeper, four squares at the edge, or look for other larvae"},
	{"grubs-per-m2 < 15", "pull-test = lifts-like-carpet", "grubs-per-m2",
		"it lifts like a carpet, and {one} grubs per m²: was that the count of one square? Four squares at the edge, times what makes a m²"},
	{"grubs-per-m2 < 1", "soil-temp-c < 10", "grubs-per-m2",
		"none found in cold soil is \"not checked\", not \"none\": they lie deeper"},
	{"grubs-per-m2 < 1", "soil-moisture = dry", "grubs-per-m2",
		"none found in dry soil is \"not checked\", not \"none\": water, wait two days, count again"},
	{"crowns-alive-percent >= 80", "crown-slice = brown-dry|brown-soft", "crown-slice",
		"{one} % of the crowns alive and the slice brown: cut ten more from the worst part"},
	{"crowns-alive-percent < 16", "crown-slice = white-moist", "crown-slice",
		"{one} % of the crowns alive and the slice pale and moist: cut ten more from the worst part"},
	{"crown-slice = white-moist", "green-tissue-at-base = no", "green-tissue-at-base",
		"a living crown and no green at its base: strip the old sheaths off ten crowns and look again"},
	{"soil-moisture = dry", "core-moist-depth-mm >= 81", "core-moist-depth-mm",
		"the core is called dry and moist to more than 80 mm: feel it again in three depths"},
	{"soil-moisture = dry", "underfoot = wet", "underfoot",
		"dry in the core and wet underfoot: dew, or another spot? Take the core where you stood"},
	{"soil-moisture = dry", "soil-moisture-vwc >= 28", "soil-moisture-vwc",
		"the core feels dry and the probe says {other} %: push the probe in again beside the core; a stone or a gap misleads it"},
	{"soil-moisture = wet|saturated", "soil-moisture-vwc < 12", "soil-moisture-vwc",
		"the core feels wet and the probe says {other} %: push the probe in again beside the core; a gap of air misleads it"},
	{"penetration = easy", "penetration-kpa >= 2200", "penetration-kpa",
		"the screwdriver goes in and the cone says {other} kPa: a stone? Push again in three places, in moist soil"},
	{"penetration = hard", "soil-moisture = dry", "penetration",
		"hard in dry ground says little: try again when it is moist"},
	{"insects-seen = chinch-like", "float-chinch-per-m2 < 1", "float-chinch-per-m2",
		"chinch bugs seen and none floated: the can has to cut in and stay full for ten minutes, at the yellow edge"},
	{"insects-seen = caterpillars", "flush-caterpillars-per-m2 < 1", "flush-caterpillars-per-m2",
		"caterpillars seen and none flushed: wet dry ground first, and wait the ten minutes out"},
	{"insects-seen = mole-crickets", "flush-mole-crickets-per-m2 < 1", "flush-mole-crickets-per-m2",
		"mole crickets seen and none flushed: in moist ground, early or late, over fresh tunnels"},
	{"irrigation-time = none", "irrigation-weekly-mm >= 5", "irrigation-weekly-mm",
		"never watered, and {other} mm a week: one of the two is another zone"},
	{"pull-test = resists", "root-condition = chewed-off", "root-condition",
		"it resists the pull and the roots are chewed off: pull and dig in one place, at the edge"},
	{"leaf-tip-cut = frayed", "mowing-interval-days >= 28", "leaf-tip-cut",
		"frayed tips, and not mown for four weeks: are these the old tips?"},
}

// side is one side of a conflict.
type side struct {
	finding string
	words   []string
	sign    string
	figure  float64
}

type conflict struct {
	conflictRow
	sides [2]side
}

var Conflicts []conflict

func compileConflicts() {
	for _, r := range conflictRows {
		if _, ok := findFinding(r.about); !ok {
			panic("diagnosis: a conflict about the unknown " + r.about)
		}
		Conflicts = append(Conflicts, conflict{r, [2]side{sideOf(r.one), sideOf(r.other)}})
	}
}

func sideOf(text string) side {
	w := strings.Fields(text)
	f, ok := findFinding(w[0])
	if !ok || len(w) != 3 {
		panic("diagnosis: no side of a conflict: " + text)
	}
	s := side{finding: w[0], sign: w[1], words: strings.Split(w[2], "|")}
	if f.Kind == Number {
		x, err := strconv.ParseFloat(w[2], 64)
		if err != nil {
			panic("diagnosis: no figure in a conflict: " + text)
		}
		s.figure = x
		return s
	}
	for _, v := range s.words {
		if Index(f.Values, v) < 0 && f.Kind != YesNo {
			panic("diagnosis: no such value in a conflict: " + text)
		}
	}
	return s
}

// holds reports whether a side is so, with its figure in words.
func (s side) holds(v map[string]Value) (figure string, ok bool) {
	x, has := v[s.finding]
	switch {
	case !has:
		return "", false
	case x.Number != nil:
		return fmt.Sprintf("%g", math.Round(*x.Number*10)/10), *x.Number >= s.figure == (s.sign == ">=")
	case x.Yes != nil:
		return "", *x.Yes == (s.words[0] == "yes")
	case x.List != nil:
		for _, w := range x.List {
			if Index(s.words, w) >= 0 {
				return "", true
			}
		}
		return "", false
	}
	return "", Index(s.words, x.Word) >= 0
}

// Contradiction names a finding that cannot well be true beside another, and says how to look again.
type Contradiction struct{ About, Text string }

// Contradictions names findings that cannot well be true together.
func Contradictions(v map[string]Value) (out []Contradiction) {
	for _, c := range Conflicts {
		one, a := c.sides[0].holds(v)
		other, b := c.sides[1].holds(v)
		if a && b {
			out = append(out, Contradiction{c.about, strings.NewReplacer("{one}", one, "{other}", other).Replace(c.Text)})
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].About+out[a].Text < out[b].About+out[b].Text })
	return out
}

// lookAgainRows say how a finding is looked at again.
var lookAgainRows = []struct{ finding, how string }{
	{"soil-temp-c", "at 50 mm in the afternoon, not before breakfast, in the bad spot and beside it"},
	{"soil-temp-healthy-c", "both spots within ten minutes, at the same depth"},
	{"pull-test", "a firm handful in several places on the edge; wet ground lets go too easily"},
	{"grubs-per-m2", "four squares at the edge, and mind what makes a m²"},
	{"root-condition", "wash the roots of a core from the edge"},
	{"root-colour", "wash the roots and look at them against white paper"},
	{"crown-slice", "ten more crowns from the worst part"},
	{"leaf-symptoms", "with the lens, on blades of the edge where it is fresh"},
	{"colour", "with the sun behind you, sound turf beside it"},
	{"pattern", "from twenty paces, and once from above if there is a window"},
	{"soil-moisture", "a second core a step away"},
	{"footprints", "walk it again in the afternoon"},
	{"onset-speed", "ask somebody else who saw it"},
	{"mycelium-at-dawn", "before the dew is off"},
	{"thatch-mm", "three wedges, pressed as a foot would"},
	{"green-up-percent", "against the neighbours' lawns of the same grass"},
	{"soil-ph", "ask the laboratory for a second run"},
	{"lab-pathogen", "ask the laboratory how much was found: a trace is no proof"},
}

// LookAgain is how a finding is looked at again; "again" where nothing more is known.
func LookAgain(finding string) string {
	for _, r := range lookAgainRows {
		if r.finding == finding {
			return r.how
		}
	}
	return "once more, and in a second place"
}
