// Package knowledge holds what is known of lawn damage, as tables that an agronomist can review, one row of knowledge a line: the vocabulary
// of findings, causes with their hosts, months and places, what each does to each finding, what a lawn shows without any, facts that are
// told in several ways, causes that are their own reading, words that people interchange, weather of diseases, proofs and conflicts. It
// reads no case and decides nothing.
package knowledge

import (
	"slices"
	"strconv"
	"strings"
)

// Kind says what a finding's value looks like.
type Kind int

// The kinds of findings.
const (
	YesNo       Kind = iota // true or false
	OneOf                   // one id of Values
	AnyOf                   // a list of ids of Values, complete for what was looked at
	Number                  // a quantity in Unit between Min and Max
	CauseIDs                // a list of cause ids
	CauseOrNone             // a cause id, or "none"
)

// Scale is the axis on which a number is compared: counts and durations on a logarithmic one.
type Scale int

// The scales of numbers.
const (
	Linear Scale = iota
	Log          // log(1 + x), so that a count of nought has its place
)

// Finding is one thing that can be observed, asked, measured or computed.
type Finding struct {
	ID        string
	Station   string // ask, walk, blade, soil, thatch, pull, lab; weather for what is computed, derived for what is read off others
	Procedure string // the handling that yields it; its set-up is paid once
	Kind      Kind
	Values    []string // for OneOf and AnyOf
	Unit      string   // for Number, SI
	Min, Max  float64  // for Number: what a reader accepts
	Scale     Scale
	Bands     []float64 // for Number: cuts between the readings that a specialist tells apart (judgement)
	Step      float64   // for Number: one step of the stepper
	Minutes   float64   // for one spot, tool in hand (judgement)
	Label     string
	Ask       string // one line at the check: what to look at and how
	PerCause  bool   // a weather finding kept once for each cause: "disease-window:dollar-spot"
	Steers    bool   // no cause's chance moves with it: it steers what to do
	Told      bool   // though it only steers, people tell of it unasked: it can be noted on every visit
	Against   string // the finding with whose reading it is weighed: what counts is how far that one lies above it
	Lasts     bool   // what one visit measured holds for the next year's: the balance goes on with it (judgement)
	// Provisional marks weather findings that are computed by a first, coarse method.
	Provisional bool
}

// Asked reports whether the finding is one that a person answers; the others are computed.
func (f *Finding) Asked() bool { return f.Station != "weather" && f.Station != "derived" }

// Station is one stop of the visit.
type Station struct{ ID, Label, Does string }

// Stations lists the stops of a visit in the order in which they are walked: far to near, free to costly, harmless to
// destructive.
func Stations() []Station {
	return []Station{
		{"ask", "Ask", "What the client and the records can tell"},
		{"walk", "Walk", "Pattern, colour and footing, no tools"},
		{"blade", "Blade", "Close look at blade and crown, lens and knife"},
		{"soil", "Soil", "Core, thermometer, screwdriver"},
		{"thatch", "Thatch", "Wedge, ruler, rake"},
		{"pull", "Pull", "Pull at the edge, then count"},
		{"lab", "Samples", "What goes out and comes back; catch cans"},
	}
}

// Procedure is one handling that may yield several findings.
type Procedure struct {
	ID, Label string
	Setup     float64 // minutes before the first reading, paid once a visit (judgement)
	Tools     string
	Caution   string // shown where the step is taken
	Days      int    // days until the result is there; 0 for on the spot
}

// Procedures lists the handlings behind the findings.
func Procedures() []Procedure { return ProcedureTable }

const digCaution = "Have buried lines located before any core, spade or can goes in; flag irrigation, gas, power and pet fences."

var ProcedureTable = []Procedure{
	{ID: "interview", Label: "Ask the client", Setup: .5},
	{ID: "records", Label: "Look up the records", Setup: .5},
	{ID: "walk", Label: "Walk the zone", Setup: 1},
	{ID: "sun-watch", Label: "Judge the sun", Setup: 1},
	{ID: "tape", Label: "Measure the height", Setup: .3, Tools: "ruler"},
	{ID: "close-look", Label: "Close look", Setup: 1, Tools: "hand lens", Caution: "Kneel on a mat; look for ticks, wasps and fire ants first."},
	{ID: "dawn-look", Label: "Look at dawn", Setup: 15, Tools: "hand lens"},
	{ID: "part-canopy", Label: "Part the canopy", Setup: .3},
	{ID: "crown-cut", Label: "Slice crowns", Setup: 1.5, Tools: "knife", Caution: "Cut away from the hand."},
	{ID: "core", Label: "Pull a core", Setup: 2, Tools: "core sampler", Caution: digCaution},
	{ID: "moisture-probe", Label: "Moisture probe", Setup: .5, Tools: "moisture probe", Caution: digCaution},
	{ID: "thermometer", Label: "Soil thermometer", Setup: 2, Tools: "thermometer"},
	{ID: "screwdriver", Label: "Screwdriver", Setup: .2, Tools: "screwdriver", Caution: digCaution},
	{ID: "penetrometer", Label: "Cone penetrometer", Setup: 1, Tools: "cone penetrometer", Caution: digCaution},
	{ID: "water-drop", Label: "Water drop on the core", Setup: 2, Tools: "core sampler, dropper", Caution: digCaution},
	{ID: "ring", Label: "Infiltration ring", Setup: 4, Tools: "ring, water, watch"},
	{ID: "wedge", Label: "Cut a wedge", Setup: 1, Tools: "knife, ruler"},
	{ID: "rake", Label: "Comb with the rake", Setup: .5, Tools: "rake"},
	{ID: "pull", Label: "Pull", Setup: .3},
	{ID: "grub-square", Label: "Cut and count squares", Setup: 3, Tools: "spade, knife", Caution: digCaution},
	{ID: "soap-flush", Label: "Soap flush", Setup: 11, Tools: "soap, 8 L water", Caution: "Wet dry soil first, rinse after, not in hot sun."},
	{ID: "flotation", Label: "Flotation can", Setup: 11, Tools: "open can, water", Caution: digCaution},
	{ID: "catch-cans", Label: "Catch cans", Setup: 18, Tools: "cans, watch"},
	{ID: "soil-sample", Label: "Soil sample", Setup: 12, Tools: "core sampler, bag", Days: 7, Caution: digCaution},
	{ID: "disease-sample", Label: "Disease sample", Setup: 8, Tools: "knife, bag", Days: 5, Caution: "Take the plug before any fungicide."},
	{ID: "nematode-sample", Label: "Nematode sample", Setup: 14, Tools: "core sampler, cool box", Days: 10, Caution: digCaution},
	{ID: "tissue-sample", Label: "Leaf sample", Setup: 8, Tools: "shears, bag", Days: 7},
}

// Families lists the families of causes in the order in which they are shown.
func Families() []string {
	return []string{"disease", "insect", "heat", "drought", "cold", "nutrient", "water-excess", "site-and-care", "look-alike"}
}

// weatherFindings are computed from the weather series, never asked.
var WeatherTable = []Finding{
	{ID: "soil-water-deficit", Kind: OneOf, Values: IDs("none slight moderate severe"), Label: "Water missing in the root zone"},
	{ID: "drought-endurance-used", Kind: Number, Unit: "fraction", Min: 0, Max: 20, Bands: nums("0.33 0.67 1"), Label: "Endurance used"},
	{ID: "days-without-5-mm", Kind: Number, Unit: "d", Min: 0, Max: 366, Scale: Log, Bands: nums("5 12 20 35"), Label: "Days without 5 mm of rain"},
	{ID: "heavy-rain-surge", Kind: OneOf, Values: IDs("none moderate strong"), Label: "Surge of rain"},
	{ID: "prolonged-wetness", Kind: OneOf, Values: IDs("none moderate strong"), Label: "Long wetness"},
	{ID: "waterlogging-spell", Kind: OneOf, Values: IDs("none possible likely"), Label: "Waterlogging"},
	{ID: "heat-spell", Kind: OneOf, Values: IDs("none moderate severe"), Label: "Heat spell"},
	{ID: "soil-heat", Kind: Number, Unit: "d", Min: 0, Max: 366, Scale: Log, Bands: nums("1 3 7"), Label: "Days of hot soil"},
	{ID: "soil-temp-class", Kind: OneOf, Values: IDs("frozen cold cool mild warm hot"), Label: "Soil temperature class"},
	{ID: "growth-potential", Kind: Number, Unit: "0 to 1", Min: 0, Max: 1, Bands: nums("0.1 0.3 0.6"), Label: "Growth potential"},
	{ID: "freeze-after-green-up", Kind: OneOf, Values: IDs("none light hard"), Label: "Freeze after green-up"},
	{ID: "deep-cold", Kind: OneOf, Values: IDs("none near-limit past-limit"), Label: "Deep cold"},
	{ID: "winter-drought", Kind: OneOf, Values: IDs("none moderate strong"), Label: "Winter drought"},
	{ID: "snow-days", Kind: Number, Unit: "d", Min: 0, Max: 366, Scale: Log, Bands: nums("1 20 60"), Label: "Days under snow"},
	{ID: "green-up-progress", Kind: OneOf, Values: IDs("dormant beginning under-way complete"), Label: "Green-up by the weather"},
	{ID: "disease-window", Kind: OneOf, Values: IDs("never-open weak open strong"), PerCause: true, Label: "Disease weather"},
	{ID: "insect-window", Kind: OneOf, Values: IDs("closed opening open closing"), PerCause: true, Label: "Insect season"},
	{ID: "forecast-trend", Kind: OneOf, Values: IDs("warming steady cooling"), Label: "Trend of the forecast"},
}

// findings are all that a visit can record.
var FindingTable = withSteering()

func withSteering() []Finding {
	all := slices.Concat(ObservedFindings, Steering)
	for i := len(ObservedFindings); i < len(all); i++ {
		all[i].Steers = true
	}
	return all
}

var (
	findingByID   = map[string]*Finding{}
	procedureByID = map[string]*Procedure{}
)

func init() {
	for i := range FindingTable {
		findingByID[FindingTable[i].ID] = &FindingTable[i]
	}
	for i := range WeatherTable {
		WeatherTable[i].Station = "weather"
		findingByID[WeatherTable[i].ID] = &WeatherTable[i]
	}
	for i := range derivedFindings {
		findingByID[derivedFindings[i].ID] = &derivedFindings[i]
	}
	for i := range ProcedureTable {
		procedureByID[ProcedureTable[i].ID] = &ProcedureTable[i]
	}
}

// Findings returns what can be observed on a visit, in the order of the stations.
func Findings() []Finding { return FindingTable }

// Weighed returns those of them that move the chance of a cause.
func Weighed() []Finding { return FindingTable[:len(ObservedFindings)] }

// WeatherFindings returns what is computed from the weather.
func WeatherFindings() []Finding { return WeatherTable }

// FindingByID looks a finding up; weather findings kept once a cause are found with their cause, too
// ("disease-window:dollar-spot").
func FindingByID(id string) (*Finding, bool) {
	base, _, _ := strings.Cut(id, ":")
	f, ok := findingByID[base]
	return f, ok
}

// ProcedureByID looks a procedure up.
func ProcedureByID(id string) (*Procedure, bool) { p, ok := procedureByID[id]; return p, ok }

// ValueLabel is what a specialist reads for a value id.
func ValueLabel(id string) string {
	if l, ok := valueLabels[id]; ok {
		return l
	}
	return strings.ReplaceAll(id, "-", " ")
}

var valueLabels = map[string]string{
	"bermuda-in-cool":                        "bermudagrass in cool-season turf",
	"bent-trivialis":                         "bentgrass or rough bluegrass",
	"coarse-clumps":                          "coarse clumps of tall fescue",
	"torpedo-cogon":                          "torpedograss or cogongrass",
	"windmill-carpet":                        "windmill or carpetgrass",
	"annual-sedge":                           "annual sedge or rush",
	"daisy-selfheal":                         "daisy or selfheal",
	"speedwell-creeping":                     "creeping speedwell",
	"bindweed-dock":                          "bindweed, dock or flatweed",
	"mallow-carrot":                          "mallow or wild carrot",
	"medic-lespedeza":                        "black medic or lespedeza",
	"star-bulb":                              "star-of-Bethlehem and the like",
	"brome-barley":                           "brome or barley",
	"wild-garlic":                            "wild garlic or onion",
	"burweed":                                "lawn burweed",
	"mouse-ear":                              "mouse-ear chickweed",
	"hourglass-lesion-tan-with-brown-border": "hourglass lesion, tan, brown ends",
	"oval-lesion-purple-border":              "oval lesion, purple border",
	"irregular-lesion-tan-dark-border":       "irregular lesion, thin dark border",
	"interveinal-yellow":                     "yellow between the veins",
	"lifts-like-carpet":                      "lifts like a carpet",
	"stems-break-at-crown":                   "stems break at the crown",
	"shears-at-soil":                         "snaps at the soil",
	"peels-in-rotten-sheets":                 "comes off in rotten mats",
	"shoots-slip-from-rotted-sheath":         "shoots slip from a rotted sheath",
	"white-moist":                            "pale and moist",
	"brown-dry":                              "brown and dry",
	"brown-soft":                             "brown and soft",
	"spring-back":                            "spring back",
	"stay":                                   "stay down",
	"frog-eye":                               "dead ring, green centre",
	"along-hardscape":                        "along paving or walls",
	"near-hardscape":                         "near paving or walls",
	"soft-loose":                             "soft, yields",
	"rooting-holes":                          "holes rooted",
	"peeled-back":                            "turf turned back",
	"chinch-like":                            "small black-and-white bugs",
	"weed-programme":                         "weed control all season",
	"green-winter":                           "a green winter",
	"moss-gone":                              "no moss",
	"off-type-gone":                          "the foreign grass gone",
	"mosquitoes-gone":                        "no mosquitoes",
	"fleas-gone":                             "no fleas",
	"ticks-gone":                             "no ticks",
	"ants-gone":                              "no ants",
	"spittle-or-spittlebugs":                 "froth or two-lined hoppers",
	"may-beetle":                             "May beetle",
	"european-chafer":                        "European chafer",
	"japanese-or-oriental":                   "Japanese or oriental beetle",
	"green-june-beetle":                      "green June beetle",
}

func IDs(s string) []string { return strings.Fields(s) }

func nums(s string) []float64 {
	var out []float64
	for _, w := range strings.Fields(s) {
		f, err := strconv.ParseFloat(w, 64)
		if err != nil {
			panic("diagnosis: bad number in a table: " + s)
		}
		out = append(out, f)
	}
	return out
}

// Minutes is what a finding costs: its own time, its procedure's set-up when begun is false, and the way to its station
// when one stands elsewhere.
func Minutes(f *Finding, begun bool, at string) float64 {
	min := f.Minutes
	if p, ok := ProcedureByID(f.Procedure); ok && !begun {
		min += p.Setup
	}
	if at != "" && at != f.Station {
		min += MoveMinutes
	}
	return min
}

// MoveMinutes is what it takes to put one station's tools down and begin at another (judgement).
const MoveMinutes = .5

// Lasting are the findings that hold from one visit to the next, in the order of the vocabulary.
func Lasting() (ids []string) {
	for i := range ObservedFindings {
		if ObservedFindings[i].Lasts {
			ids = append(ids, ObservedFindings[i].ID)
		}
	}
	return ids
}
