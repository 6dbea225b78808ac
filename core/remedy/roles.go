package remedy

import (
	"slices"
	"strings"
)

// roleRows say what actions are to each other and to the engine, beside their own rows. A role of which there is one carries one
// action.
var roleRows = []struct{ role, actions string }{
	{"feeds", "apply-nitrogen"},
	{"feeds-little", "spoon-feed-nitrogen"},
	{"says-no-feeding", "hold-nitrogen"},
	{"waits", "wait-and-recheck"},
	{"leaves", "leave-alone"},
	{"brings-water", "water-deep"},
	{"wets", "water-deep spot-water light-watering-of-new-stands survival-water"},
	{"seeds", "overseed slit-seed interseed plug-or-sprig"},
	{"renews", "overseed slit-seed resod renovate"},
	{"renews-all", "renovate"},
	{"kills-weeds", "herbicide-spot herbicide-broadcast"},
	{"keeps-seed-out", "preemergent"},
	{"small", "flush-spot-with-water spot-water remove-debris brush-up-mats press-and-water sharpen-blades restrict-traffic"},
	{"small", "hold-nitrogen hold-mowing resume-mowing raise-mowing-height lower-mowing-once clean-equipment hand-weed"},
	{"small", "apply-nitrogen apply-iron send-lab-sample soil-test cut-back-water let-dormant preemergent"},
	{"small", "fungicide-preventive insecticide-preventive growth-regulator"},
}

// formRows: an action that is done in the form of another, once both are due; where the second has a date of its own, it waits.
var formRows = []struct {
	form, of string
	says     string
	apart    int // days that a dated one waits; 0 for a line that stays as it is
	waits    string
}{
	{"acidifying-nitrogen", "apply-nitrogen", "in the form of acid-forming nitrogen", 21, "after the acid-forming nitrogen"},
	{"light-watering-of-new-stands", "water-deep", "", 0, ""},
}

// togetherRows: the second is done on the day of the first where it would come later: one trip.
var togetherRows = []struct{ first, second string }{
	{"overseed", "slit-seed"},
}

// splitRows: actions that exclude nothing where a zone is kept in two ways.
var splitRows = []struct{ action, test string }{
	{"let-dormant", "part-green"},
}

// fixedDoses are those of feedings that are not the ordinary one, g N/m² (extension; the middle of their range).
var fixedDoses = []struct {
	action string
	nGM2   float64
}{
	{"spoon-feed-nitrogen", .75},
	{"acidifying-nitrogen", 1.5},
}

// traitRows say of a gate, beside its lines, how it goes: "passing" is of the hour and the week, so that a line with a date of its own
// is not held by it today; "weather" lifts by weather and season alone, so that a date can be said; "thirst" is lifted by water;
// "no-water" keeps the engine from bringing water although other work waits for it.
var traitRows = []struct{ gate, traits string }{
	{"wilt", "passing thirst"},
	{"wilt-spray", "passing thirst"},
	{"wet-wilt", "passing"},
	{"wilt-moist", "passing"},
	{"wet", "passing no-water"},
	{"frozen", "passing weather no-water"},
	{"frost-leaf", "passing"},
	{"hot", "passing weather"},
	{"hot-turned", "passing weather"},
	{"too-hot", "passing weather"},
	{"too-cold", "passing weather"},
	{"downpour", "passing weather"},
	{"cold-grow", "passing weather"},
	{"sleep", "passing weather"},
	{"half-green", "passing weather"},
	{"rest", "passing"},
	{"season-end", "passing weather"},
	{"frost-ahead", "passing weather"},
	{"disease-works", "passing"},
	{"young", "passing weather"},
	{"loose", "passing"},
	{"rain-enough", "weather"},
	{"young-feed", "weather"},
	{"preem-blocks", "weather"},
	{"summer-sulfur", "weather"},
	{"winter-tear", "weather"},
	{"disease-seed", "weather"},
	{"let-rest", "no-water"},
	{"dead", "no-water"},
	{interval, "no-water"},
}

// classTraits: "by-pest" is repeated at the pest's own interval; "counted" is for next year only where history or a count stands
// behind it; "by-cause" is watered in as the cause asks; "water" gives water; "product" puts a product down.
var classTraits = []struct{ class, traits string }{
	{"insect", "by-pest by-cause product"},
	{"insect-year", "counted by-cause product"},
	{"fung", "by-cause product"},
	{"nuisance", "product"},
	{"deep", "water"},
	{"water", "water"},
	{"new-water", "water"},
	{"cooling", "water"},
	{"survival", "water"},
	{"leach", "water"},
	{"n", "product"},
	{"iron", "product"},
	{"p", "product"},
	{"k", "product"},
	{"micro", "product"},
	{"lime", "product"},
	{"sulfur", "product"},
	{"gypsum", "product"},
	{"si", "product"},
	{"wetter", "product"},
	{"post", "product"},
	{"nonsel", "product"},
	{"preem", "product"},
	{"pgr", "product"},
	{"moss", "product"},
	{"seed", "product"},
	{"topdress", "product"},
}

// givenRows: a class that was given by what the visit was told, though no record says when.
var givenRows = []struct{ class, test string }{
	{"insect-year", "insecticide-this-season = preventive"},
}

// blemishes are diseases that mar a lawn and hardly harm it.
var blemishes = []string{
	"dollar-spot",
	"rust",
	"red-thread",
	"leaf-spot",
	"powdery-mildew",
	"slime-mold",
}

// feedsOn are the diseases that nitrogen feeds, with the families of grass on which it does.
var feedsOn = []struct{ cause, family string }{
	{"pythium-blight", "CW"},
	{"brown-patch", "CW"},
	{"gray-leaf-spot", "CW"},
	{"large-patch", "CW"},
	{"leaf-spot", "C"},
	{"melting-out", "CW"},
}

// leafDiseases are those that a lens tells apart.
var leafDiseases = []string{
	"dollar-spot",
	"brown-patch",
	"leaf-spot",
	"melting-out",
	"gray-leaf-spot",
	"rust",
	"red-thread",
	"anthracnose",
	"powdery-mildew",
}

// endless are diseases whose weather a forecast of some days does not end: they work from the soil.
var endless = []string{
	"large-patch",
}

// longMemory are the diseases whose patches come back for five years.
var longMemory = []string{
	"spring-dead-spot",
	"necrotic-ring-spot",
	"take-all-root-rot",
}

// mends are what deals with a cause, so that the same does not happen to what is laid or sown on it. A cause that is not in the
// table is over when its weather is.
var mends = []struct{ cause, actions string }{
	{"flooding", "improve-drainage install-drain"},
	{"white-grubs", "insecticide-curative"},
	{"chinch-bugs", "insecticide-curative"},
	{"sod-webworms", "insecticide-curative"},
	{"armyworms", "insecticide-curative"},
	{"mole-crickets", "insecticide-curative"},
	{"crane-fly-larvae", "insecticide-curative"},
	{"irrigation-coverage-gap", "fix-irrigation spot-water"},
	{"compaction", "core-aerate restrict-traffic"},
	{"traffic-crush", "restrict-traffic"},
	{"overwatering", "cut-back-water"},
	{"chemical-spill", "replace-soil"},
	{"salinity", "leach-salts apply-gypsum"},
	{"shade-thinning", "prune-shade change-grass"},
	{"localized-dry-spot", "apply-wetting-agent"},
}

// figureRows are the figures that a soil test is wanted for.
var figureRows = []struct{ term, word string }{
	{"ph-missing", "pH"},
	{"p-missing", "phosphorus"},
	{"k-missing", "potassium"},
	{"salt-missing", "salt and sodium"},
}

// Findings that the engine itself reads.
const (
	leafLook   = "leaf-symptoms" // looked at where nothing else proves what a gate asks for
	labNames   = "lab-pathogen"  // the laboratory's word
	interval   = "interval"      // the gate of what was done lately
	pairing    = "pair"          // the gate of two that exclude each other
	ownDate    = "in "           // before the date of a fact
	askedAbout = "it"            // the cause in question
)

// holders are the actions of a role, in the order of the rows.
var holders = map[string][]string{}

// traits of gates and classes, by their id.
var (
	gateTraitsOf  = map[string][]string{}
	classTraitsOf = map[string][]string{}
)

type splitting struct {
	action string
	holds  test
}

type given struct {
	class string
	holds test
}

var (
	splits []splitting
	givens []given
)

func compileRoles() {
	for _, r := range roleRows {
		for _, id := range strings.Fields(r.actions) {
			mustAct(id)
			holders[r.role] = append(holders[r.role], id)
		}
	}
	for _, r := range formRows {
		mustAct(r.form)
		mustAct(r.of)
	}
	for _, r := range traitRows {
		if r.gate != interval && len(gateAt[r.gate]) == 0 {
			panic("remedy: traits of the unknown gate " + r.gate)
		}
		gateTraitsOf[r.gate] = strings.Fields(r.traits)
	}
	for _, r := range classTraits {
		if _, ok := classes[r.class]; !ok {
			panic("remedy: traits of the unknown class " + r.class)
		}
		classTraitsOf[r.class] = strings.Fields(r.traits)
	}
	for _, r := range splitRows {
		mustAct(r.action)
		splits = append(splits, splitting{r.action, compile(r.test)})
	}
	for _, r := range givenRows {
		givens = append(givens, given{r.class, compile(r.test)})
	}
}

// is reports whether an action has a role, gateIs and classIs whether a gate or a class goes that way.
func is(id, role string) bool        { return slices.Contains(holders[role], id) }
func gateIs(gate, trait string) bool { return slices.Contains(gateTraitsOf[gate], trait) }
func classIs(class, trait string) bool {
	return slices.Contains(classTraitsOf[class], trait)
}

// theOne is the action of a role of which there is one.
func theOne(role string) string { return holders[role][0] }

// the is the line of the one action of a role.
func (p *plan) the(role string) *Advice { return p.at[theOne(role)] }
