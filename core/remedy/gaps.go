package remedy

import "strings"

// gapRow keeps two classes of work apart on one zone: second waits so many days after first. Extension consensus and usual labels; the
// label in hand goes before, and what it says of seeding is asked by the clearance of the job.
type gapRow struct {
	first, second string
	days          int
	why           string
}

var gapRows = []gapRow{
	{"preem", "seed", 90, "a pre-emergent stops seed"},
	{"seed", "preem", 60, "new grass is mown four times first"},
	{"preem", "plugs", 120, "a pre-emergent stops roots of runners"},
	{"plugs", "preem", 60, "they root first"},
	{"sod", "preem", 60, "it roots first"},
	{"preem", "tear", 60, "blades break its layer"},
	{"post", "seed", 28, "what kills weeds stops seedlings"},
	{"seed", "post", 60, "new grass is mown four times first"},
	{"plugs", "post", 42, "they root first"},
	{"sod", "post", 42, "it roots first"},
	{"nonsel", "seed", 7, "it has to take effect first"},
	{"nonsel", "plugs", 7, "it has to take effect first"},
	{"nonsel", "sod", 7, "it has to take effect first"},
	{"seed", "nonsel", 60, "new grass stands first"},
	{"post", "mow", 2, "weeds take it down first"},
	{"mow", "post", 2, "leaf grows again first"},
	{"post", "tear", 14, "weeds take it down first"},
	{"post", "core", 14, "weeds take it down first"},
	{"tear", "post", 21, "the turf closes first"},
	{"core", "post", 21, "the turf closes first"},
	{"n", "lime", 14, "lime drives ammonia off"},
	{"lime", "n", 14, "lime drives ammonia off"},
	{"lime", "sulfur", 180, "opposite aims"},
	{"sulfur", "lime", 180, "opposite aims"},
	{"lime", "iron", 14, "lime fixes iron"},
	{"iron", "lime", 7, "lime fixes iron"},
	{"lime", "micro", 28, "lime fixes manganese"},
	{"p", "iron", 7, "phosphorus fixes iron"},
	{"iron", "p", 7, "phosphorus fixes iron"},
	{"p", "gypsum", 7, "gypsum fixes phosphorus"},
	{"gypsum", "p", 7, "gypsum fixes phosphorus"},
	{"sulfur", "seed", 30, "fresh sulfur burns seedlings"},
	{"seed", "sulfur", 60, "fresh sulfur burns seedlings"},
	{"leach", "n", 1, "leach first"},
	{"n", "leach", 14, "it would be washed out"},
	{"preem", "leach", 14, "it would be washed out"},
	{"insect", "leach", 14, "it would be washed out"},
	{"iron", "moss", 14, "one budget of iron"},
	{"moss", "iron", 28, "one budget of iron"},
	{"moss", "tear", 7, "dead and dry first"},
	{"moss", "seed", 14, "the dead moss is raked out first"},
	{"wetter", "post", 3, "it runs off the leaf"},
	{"post", "wetter", 1, "the leaf stays dry"},
	{"wetter", "fung", 3, "it runs off the leaf"},
	{"fung", "wetter", 1, "the leaf stays dry"},
	{"wetter", "seed", 7, "by the label"},
	{"seed", "wetter", 28, "by the label"},
	{"pgr", "seed", 7, "by the label"},
	{"seed", "pgr", 60, "new grass is mown four times first"},
	{"pgr", "tear", 21, "it has to grow to heal"},
	{"tear", "pgr", 28, "it has to grow to heal"},
	{"pgr", "core", 21, "it has to grow to heal"},
	{"core", "pgr", 28, "it has to grow to heal"},
	{"topdress", "core", 60, "cored before it is topdressed"},
	{"seed", "core", 90, "new grass stands first"},
	{"seed", "tear", 300, "new grass is not torn"},
	{"sod", "core", 56, "it roots first"},
	{"sod", "tear", 365, "it grows together first"},
	{"topdress", "fung", 3, "sand covers the leaf"},
	{"topdress", "post", 7, "sand covers the leaf"},
	{"fung", "topdress", 1, "the leaf dries first"},
	{"post", "topdress", 7, "weeds take it down first"},
	{"fung", "core", 1, "the leaf dries first"},
	{"fung", "tear", 1, "the leaf dries first"},
	{"insect", "core", 1, "it is watered in first"},
	{"insect", "n", 10, "the pest is dealt with first"},
	{"test", "lime", 10, "the result comes first"},
	{"test", "sulfur", 10, "the result comes first"},
	{"test", "p", 10, "the result comes first"},
	{"test", "k", 10, "the result comes first"},
}

// Gap is how many days an action waits after another on the same zone, and why; 0 where neither keeps the other off. What repeats itself
// waits for the interval of its class.
func Gap(first, second string) (days int, why string) {
	a, b := kindOf(first), kindOf(second)
	if a == b {
		if first == second || a != "none" && a != "once" && a != "water" {
			return int(classes[a].interval), "its own interval"
		}
		return 0, ""
	}
	for _, g := range gapRows {
		if g.first == a && g.second == b {
			return g.days, g.why
		}
	}
	return 0, ""
}

// firsts are the classes of work that come before others when both are due on a zone: ground is opened before seed, dead moss comes out
// first, the test before what it decides.
var firsts = map[string]string{
	"core":   "seed plugs topdress",
	"tear":   "seed core topdress",
	"moss":   "tear seed",
	"test":   "lime sulfur p k",
	"insect": "tear core seed",
	"leach":  "n preem",
	"seed":   "topdress",
}

// Precedes reports whether one action comes before another when both are due on a zone.
func Precedes(first, second string) bool {
	return classIn(firsts[kindOf(first)], kindOf(second))
}

func classIn(list, class string) bool {
	for _, c := range strings.Fields(list) {
		if c == class {
			return true
		}
	}
	return false
}

// kindOf is the class that work is kept apart by: spot and broadcast are one, and so are the insecticides.
func kindOf(action string) string {
	if c := classOf(action); c != "insect-year" {
		return c
	}
	return "insect"
}

// partial are the actions that treat the damaged part alone; the others treat the zone.
var partial = map[string]bool{
	"flush-spot-with-water": true,
	"spot-water":            true,
	"syringe-midday":        true,
	"apply-wetting-agent":   true,
	"press-and-water":       true,
	"replace-soil":          true,
	"rake-out-moss":         true,
	"moss-control":          true,
	"overseed":              true,
	"slit-seed":             true,
	"plug-or-sprig":         true,
	"resod":                 true,
	"off-type-removal":      true,
	"herbicide-spot":        true,
	"hand-weed":             true,
	"leach-salts":           true,
	"level-surface":         true,
}

// Partial reports whether an action treats the damaged part alone.
func Partial(action string) bool { return partial[action] }

// Rank is the place of an action in the order of work; 0 for one that nobody knows.
func Rank(action string) int {
	if i, ok := actionAt[action]; ok {
		return actions[i].rank
	}
	return 0
}
