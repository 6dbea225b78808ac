// Package worth is what it pays: prices of a firm, what a remedy saves, hurts and costs, and the chances between which checking and acting on
// a cause pay.
package worth

import (
	"fmt"
	"math"
	"sort"

	"hodos/core/knowledge"
)

// When acting on a cause pays. A remedy that is right saves part of the worth of the damaged turf and costs its price; a
// remedy that is wrong costs its price and does harm: the right one comes late, beneficials and good will go, turf is
// hurt. Acting pays from the chance at which both sides are level; a check pays between two chances that follow from its
// own price and from how well it tells (test and treatment thresholds: Pauker and Kassirer 1980).

// Prices are the few figures that a firm knows. Money is in the firm's own currency.
type Prices struct {
	LawnM2      float64 // what a square metre of sound lawn is worth to the client: what it costs to lay anew
	Hour        float64 // an hour of work
	Fungicide   float64 // material for 100 m², one application; so are the next four
	Insecticide float64
	Herbicide   float64
	Feed        float64
	Amendment   float64 // wetting agent, lime, sulfur, gypsum, topdressing
	Seed        float64
	WaterM3     float64 // a cubic metre of water
	Lab         float64 // one laboratory sample
}

// DefaultPrices stand where a firm has not said its own (judgement).
var DefaultPrices = Prices{LawnM2: 8, Hour: 60, Fungicide: 9, Insecticide: 7, Herbicide: 5, Feed: 4, Amendment: 8, Seed: 12, WaterM3: 3,
	Lab: 45}

// Check names the figure that is out of range. Worth and hour are above nought; the rest may be nought.
func (p Prices) Check() error {
	for _, f := range []struct {
		name   string
		x      float64
		lo, hi float64
	}{
		{"lawn_m2", p.LawnM2, .1, 1000}, {"hour", p.Hour, 1, 10000}, {"fungicide", p.Fungicide, 0, 10000}, {"insecticide", p.Insecticide, 0, 10000}, {"herbicide", p.Herbicide, 0, 10000},
		{"feed", p.Feed, 0, 10000}, {"amendment", p.Amendment, 0, 10000}, {"seed", p.Seed, 0, 10000}, {"water_m3", p.WaterM3, 0, 1000}, {"lab", p.Lab, 0, 10000},
	} {
		if math.IsNaN(f.x) || f.x < f.lo || f.x > f.hi {
			return fmt.Errorf("%s: %g is outside %g to %g", f.name, f.x, f.lo, f.hi)
		}
	}
	return nil
}

// Stake is one row of knowledge: what is at stake when a remedy is chosen. Saves and Hurts are shares of the worth of the
// damaged turf (judgement throughout).
type Stake struct {
	Remedy   string // an action of the vocabulary
	Material string // fungicide, insecticide, herbicide, feed, amendment, seed, water, or ""
	WaterMM  float64
	Setup    float64 // minutes to get ready
	Minutes  float64 // minutes for 100 m²
	Saves    float64 // what the remedy saves where it is right
	Hurts    float64 // what it does harm where it is wrong, beside its price
	Why      string  // the harm in words
}

// stakes by remedy. A cause names its remedy, or has a row of its own in ownStakes.
var stakes = []Stake{
	{"fungicide-curative", "fungicide", 0, 10, 10, .4, .43, "the right remedy comes two weeks late; resistance"},
	{"fungicide-preventive", "fungicide", 0, 10, 10, .55, .4, "a season's sprays for nothing; resistance"},
	{"insecticide-curative", "insecticide", 0, 10, 10, .45, .68, "beneficials die and the real cause goes on"},
	{"herbicide-spot", "herbicide", 0, 5, 12, .3, .3, "sound grass is checked"},
	{"water-deep", "water", 25, 3, 2, .5, .42, "wet soil gets wetter; disease"},
	{"survival-water", "water", 12, 3, 2, .5, .5, "a resting lawn is woken and then let down"},
	{"cut-back-water", "", 0, 5, 0, .4, .36, "dry turf gets drier"},
	{"fix-irrigation", "", 0, 30, 20, .6, .3, "the sprinklers were sound"},
	{"improve-drainage", "amendment", 0, 60, 60, .8, .3, "ground opened for nothing"},
	{"apply-wetting-agent", "amendment", 0, 10, 8, .5, .38, "no harm but the delay"},
	{"apply-nitrogen", "feed", 0, 5, 4, .4, .36, "growth pushed into stress; leaching"},
	{"apply-iron", "feed", 0, 8, 6, .35, .28, "a colour that hides the cause"},
	{"apply-potassium", "feed", 0, 5, 4, .4, .36, "the cause goes on"},
	{"apply-phosphorus", "feed", 0, 5, 4, .4, .4, "phosphorus in the water"},
	{"apply-lime", "amendment", 0, 10, 5, .45, .42, "pH moved the wrong way"},
	{"apply-acidifier", "amendment", 0, 10, 5, .45, .42, "pH moved the wrong way"},
	{"leach-salts", "water", 75, 5, 3, .5, .45, "leaching of food; sealed ground on sodic soil"},
	{"core-aerate", "", 0, 15, 15, .45, .36, "turf opened in stress"},
	{"dethatch", "", 0, 20, 25, .45, .4, "turf torn"},
	{"scarify", "", 0, 20, 25, .45, .4, "turf torn"},
	{"remove-debris", "", 0, 5, 10, .5, .3, "none but the work"},
	{"brush-up-mats", "", 0, 5, 8, .5, .3, "none but the work"},
	{"restrict-traffic", "", 0, 5, 0, .35, .3, "the path is missed"},
	{"raise-mowing-height", "", 0, 2, 0, .35, .3, "none to speak of"},
	{"sharpen-blades", "", 0, 20, 0, .35, .2, "none but the work"},
	{"syringe-midday", "water", 2, 5, 5, .35, .34, "wet leaves in disease weather"},
	{"overseed", "seed", 0, 20, 15, .6, .45, "seed dies of what killed the turf"},
	{"renovate", "seed", 0, 60, 60, .7, .6, "living turf turned under"},
	{"prune-shade", "", 0, 60, 0, .5, .35, "a tree cut for nothing"},
	{"moss-control", "amendment", 0, 10, 8, .4, .35, "the reasons stay"},
	{"leave-alone", "", 0, 2, 0, .25, .38, "the real cause goes on while one waits"},
}

// work is what other work takes: material, minutes to get ready and for 100 m² (judgement).
var work = []Stake{
	{Remedy: "insecticide-preventive", Material: "insecticide", Setup: 10, Minutes: 8},
	{Remedy: "nuisance-pests", Material: "insecticide", Setup: 10, Minutes: 8},
	{Remedy: "preemergent", Material: "herbicide", Setup: 10, Minutes: 6},
	{Remedy: "herbicide-broadcast", Material: "herbicide", Setup: 10, Minutes: 8},
	{Remedy: "growth-regulator", Material: "herbicide", Setup: 10, Minutes: 8},
	{Remedy: "slit-seed", Material: "seed", Setup: 30, Minutes: 20},
	{Remedy: "interseed", Material: "seed", Setup: 30, Minutes: 20},
	{Remedy: "change-grass", Material: "seed", Setup: 90, Minutes: 90},
	{Remedy: "topdress", Material: "amendment", Setup: 20, Minutes: 30},
	{Remedy: "apply-compost", Material: "amendment", Setup: 20, Minutes: 25},
	{Remedy: "level-surface", Material: "amendment", Setup: 20, Minutes: 30},
	{Remedy: "replace-soil", Material: "amendment", Setup: 60, Minutes: 240},
	{Remedy: "spoon-feed-nitrogen", Material: "feed", Setup: 5, Minutes: 4},
	{Remedy: "soil-test", Setup: 20},
}

// Price is what a kind of work costs on an area in m², in the firm's money; false where that is not known.
func (p Prices) Price(remedy string, area float64) (float64, bool) {
	for _, list := range [][]Stake{stakes, work} {
		for _, s := range list {
			if s.Remedy == remedy {
				price := p.Of(s, area)
				if remedy == "soil-test" {
					price += p.Lab
				}
				return price, true
			}
		}
	}
	return 0, false
}

// ownStakes are rows that hold for one cause alone.
var ownStakes = map[string]Stake{
	"pythium-blight": {"fungicide-curative", "fungicide", 0, 10, 10, .95, .42, "a spray for nothing; but waiting costs the whole stand in two days"},
	"gray-leaf-spot": {"fungicide-curative", "fungicide", 0, 10, 10, .55, .45, "the right remedy comes two weeks late; resistance"},
	"large-patch":    {"fungicide-curative", "fungicide", 0, 10, 10, .55, .45, "the right remedy comes two weeks late; resistance"},
	"rust":           {"fungicide-curative", "fungicide", 0, 10, 10, .16, .25, "it would have grown out; resistance"},
	"red-thread":     {"fungicide-curative", "fungicide", 0, 10, 10, .16, .25, "it would have grown out; resistance"},
	"powdery-mildew": {"fungicide-curative", "fungicide", 0, 10, 10, .15, .28, "it comes back with the shade; resistance"},
	"white-grubs":    {"insecticide-curative", "insecticide", 0, 10, 10, .4, .75, "beneficials die and the real cause goes on"},
	"armyworms":      {"insecticide-curative", "insecticide", 0, 10, 10, .8, .6, "beneficials die; but waiting costs the stand in days"},
}

var stakeOf = map[string]Stake{}

func init() {
	findProofs()
	byRemedy := map[string]Stake{}
	for _, s := range stakes {
		byRemedy[s.Remedy] = s
	}
	for _, r := range usualRemedy {
		s, ok := byRemedy[r.remedy]
		if !ok {
			panic("diagnosis: no stake for the remedy " + r.remedy)
		}
		stakeOf[r.cause] = s
	}
	for cause, s := range ownStakes {
		stakeOf[cause] = s
	}
	for i := range knowledge.CauseTable {
		if _, ok := stakeOf[knowledge.CauseTable[i].ID]; !ok {
			panic("diagnosis: no stake for " + knowledge.CauseTable[i].ID)
		}
	}
}

// usualRemedy is what one would do first if the cause were certain.
var usualRemedy = []struct{ cause, remedy string }{
	{"dollar-spot", "fungicide-curative"},
	{"brown-patch", "fungicide-curative"},
	{"large-patch", "fungicide-curative"},
	{"leaf-spot", "fungicide-curative"},
	{"melting-out", "fungicide-curative"},
	{"gray-leaf-spot", "fungicide-curative"},
	{"pythium-blight", "fungicide-curative"},
	{"rust", "fungicide-curative"},
	{"red-thread", "fungicide-curative"},
	{"powdery-mildew", "fungicide-curative"},
	{"anthracnose", "fungicide-curative"},
	{"necrotic-ring-spot", "fungicide-preventive"},
	{"summer-patch", "fungicide-preventive"},
	{"take-all-root-rot", "fungicide-preventive"},
	{"spring-dead-spot", "fungicide-preventive"},
	{"gray-snow-mold", "brush-up-mats"},
	{"pink-snow-mold", "brush-up-mats"},
	{"fairy-ring", "apply-wetting-agent"},
	{"slime-mold", "leave-alone"},
	{"pythium-root-rot", "improve-drainage"},
	{"turf-mosaic-virus", "renovate"},
	{"white-grubs", "insecticide-curative"},
	{"chinch-bugs", "insecticide-curative"},
	{"sod-webworms", "insecticide-curative"},
	{"armyworms", "insecticide-curative"},
	{"billbugs", "insecticide-curative"},
	{"mole-crickets", "insecticide-curative"},
	{"crane-fly-larvae", "insecticide-curative"},
	{"turf-mites", "water-deep"},
	{"plant-parasitic-nematodes", "water-deep"},
	{"cutworms", "insecticide-curative"},
	{"spittlebugs", "insecticide-curative"},
	{"ground-pearls", "water-deep"},
	{"scale-insects", "water-deep"},
	{"heat-stress", "syringe-midday"},
	{"hardscape-heat", "raise-mowing-height"},
	{"covered-scald", "leave-alone"},
	{"drought-stress", "water-deep"},
	{"summer-dormancy", "leave-alone"},
	{"drought-dieback", "overseed"},
	{"localized-dry-spot", "apply-wetting-agent"},
	{"shallow-soil-over-object", "water-deep"},
	{"irrigation-coverage-gap", "fix-irrigation"},
	{"frost-injury", "leave-alone"},
	{"winter-crown-kill", "overseed"},
	{"winter-desiccation", "water-deep"},
	{"winter-dormancy", "leave-alone"},
	{"slow-green-up", "leave-alone"},
	{"nitrogen-deficiency", "apply-nitrogen"},
	{"iron-chlorosis", "apply-iron"},
	{"growth-flush-chlorosis", "leave-alone"},
	{"phosphorus-deficiency", "apply-phosphorus"},
	{"potassium-deficiency", "apply-potassium"},
	{"high-ph", "apply-acidifier"},
	{"low-ph", "apply-lime"},
	{"salinity", "leach-salts"},
	{"overwatering", "cut-back-water"},
	{"flooding", "improve-drainage"},
	{"compaction", "core-aerate"},
	{"excess-thatch", "dethatch"},
	{"matted-debris", "remove-debris"},
	{"scalping", "raise-mowing-height"},
	{"dull-blade", "sharpen-blades"},
	{"traffic-crush", "restrict-traffic"},
	{"shade-thinning", "prune-shade"},
	{"herbicide-injury", "leave-alone"},
	{"fertilizer-burn", "leave-alone"},
	{"pet-urine", "leave-alone"},
	{"chemical-spill", "overseed"},
	{"animal-digging", "leave-alone"},
	{"vole-runways", "leave-alone"},
	{"buried-debris", "water-deep"},
	{"moss-invasion", "moss-control"},
	{"algae-crust", "improve-drainage"},
	{"weed-invasion", "herbicide-spot"},
	{"establishment-failure", "overseed"},
	{"seed-heads", "leave-alone"},
	{"off-type-grass", "leave-alone"},
}

// Marks are the chances between which a cause stands or falls as a reason to act.
type Marks struct {
	Act   float64 // break-even: acting pays from here without another look
	Check string  // the finding that would settle it; "" where none does
	From  float64 // below this not even the check pays
	To    float64 // above this the check no longer pays
	Stake Stake
	// Money, for the damaged area at hand.
	Benefit    float64 // worth saved less the price, where the cause is there
	Harm       float64 // harm and price, where it is not
	Price      float64 // of the remedy
	CheckPrice float64
}

// The area that is reckoned with where none is known, and the smallest (judgement).
const (
	usualDamage = 60 // m²
	leastDamage = 5
)

// Damage is the area at stake on a lawn, m².
func Damage(l knowledge.Lawn, v map[string]knowledge.Value) float64 {
	a := float64(usualDamage)
	switch share, ok := v["affected-area-percent"]; {
	case l.AffectedM2 != nil:
		a = *l.AffectedM2
	case ok && share.Number != nil && l.AreaM2 != nil:
		a = *l.AreaM2 * *share.Number / 100
	case l.AreaM2 != nil:
		a = math.Min(a, *l.AreaM2)
	}
	return math.Max(a, leastDamage)
}

// MarksFor derives the marks of a cause from the prices, for an area of damage in m². The break-even is held within 0.1
// and 0.95: no remedy is worth a guess, and none needs certainty.
func MarksFor(cause string, p Prices, area float64, warm bool) Marks {
	return p.Weigh(stakeOf[cause], cause, area, warm)
}

// Weigh derives the marks of one remedy for one cause: see MarksFor.
func (p Prices) Weigh(s Stake, cause string, area float64, warm bool) Marks {
	m := Marks{Stake: s}
	worth := p.LawnM2 * area
	m.Price = p.Of(s, area)
	m.Benefit = s.Saves*worth - m.Price
	m.Harm = s.Hurts*worth + m.Price
	m.Act = held(m.Harm / (m.Harm + m.Benefit))
	m.From, m.To = m.Act, m.Act
	turf := 0
	if warm {
		turf = 1
	}
	proof := Proofs[cause][turf]
	m.Check = proof.finding
	if f, ok := knowledge.FindingByID(m.Check); ok && m.Benefit > 0 {
		m.CheckPrice = knowledge.Minutes(f, false, "") / 60 * p.Hour
		if f.Station == "lab" {
			m.CheckPrice += p.Lab
		}
		hit, alarm := proof.Hit, proof.Alarm
		m.From = held((alarm*m.Harm + m.CheckPrice) / (alarm*m.Harm + hit*m.Benefit))
		m.To = held(((1-alarm)*m.Harm - m.CheckPrice) / ((1-alarm)*m.Harm + (1-hit)*m.Benefit))
		if !(m.From < m.Act && m.Act < m.To) {
			m.From, m.To = m.Act, m.Act // the check costs more than it can save
		}
	}
	return m
}

// Of is the price of a remedy on an area in m².
func (p Prices) Of(s Stake, area float64) float64 {
	return (s.Setup+s.Minutes*area/100)/60*p.Hour + p.material(s)*area/100
}

func held(p float64) float64 { return math.Max(.1, math.Min(p, .95)) }

func (p Prices) material(s Stake) float64 {
	switch s.Material {
	case "fungicide":
		return p.Fungicide
	case "insecticide":
		return p.Insecticide
	case "herbicide":
		return p.Herbicide
	case "feed":
		return p.Feed
	case "amendment":
		return p.Amendment
	case "seed":
		return p.Seed
	case "water":
		return s.WaterMM * 100 / 1000 * p.WaterM3
	}
	return 0
}

// proven is a check of a cause: how often it speaks for it where it is there, and where nothing is that it speaks of.
type proven struct {
	finding    string
	Hit, Alarm float64
}

// Proofs by cause, for cool-season and warm-season turf.
var Proofs = map[string][2]proven{}

// settledBy is the check that settles a cause where it is a count or a laboratory's figure; "" elsewhere, where the one on the spot
// that tells most is taken from the tables.
func settledBy(cause string) string {
	for _, id := range knowledge.ProvedBy(cause) {
		if f, ok := knowledge.FindingByID(id); ok && !f.Steers && (f.Station == "lab" && id != "catch-can-du" || f.Station == "pull" &&
			f.Kind == knowledge.Number) {
			return id
		}
	}
	return ""
}

func findProofs() {
	for ci := range knowledge.CauseTable {
		id := knowledge.CauseTable[ci].ID
		var best [2]proven
		for turf := range best {
			if f := settledBy(id); f != "" {
				best[turf] = tells(ci, &knowledge.Tables[knowledge.TableAt[f]], turf)
				continue
			}
			most := 0.0
			for i := range knowledge.Tables {
				f := knowledge.Tables[i].Finding
				if !f.Asked() || f.Station == "lab" || f.Procedure == "dawn-look" || f.Kind == knowledge.CauseIDs {
					continue
				}
				p := tells(ci, &knowledge.Tables[i], turf)
				// half an hour of looking weighs as much as a tenth of certainty (judgement)
				if worth := p.Hit - p.Alarm - knowledge.Minutes(f, false, "")/300; worth > most {
					most, best[turf] = worth, p
				}
			}
		}
		Proofs[id] = best
	}
}

// tells reads off the tables how well a finding tells a cause: an outcome speaks for it where it is the likelier with it;
// of a list the one item that tells most.
func tells(ci int, cf *knowledge.Table, turf int) proven {
	out := proven{finding: cf.ID}
	pair := cf.ByCause[ci]
	d := pair[turf]
	if d == nil {
		d = pair[1-turf]
	}
	if d == nil {
		return out
	}
	for v := range d.P {
		if cf.Finding.Kind == knowledge.AnyOf {
			alarm := cf.Leak(v)
			if hit := 1 - (1-alarm)*(1-d.P[v]*d.Grip); hit-alarm > out.Hit-out.Alarm {
				out.Hit, out.Alarm = hit, alarm
			}
			continue
		}
		if with := d.Grip*d.P[v] + (1-d.Grip)*cf.Background.P[v]; with > cf.Background.P[v] {
			out.Hit += with
			out.Alarm += cf.Background.P[v]
		}
	}
	return out
}

// MarksOn are the marks of a cause on a lawn, by what was found of the area.
func MarksOn(l knowledge.Lawn, found map[string]knowledge.Value, cause string, p Prices) Marks {
	return MarksFor(cause, p, Damage(l, found), knowledge.IsWarm(l))
}

// Call is what a probability comes to under the marks: act, check or leave.
func (m Marks) Call(p float64) string {
	switch {
	case p >= m.To:
		return "act"
	case p >= m.From:
		return "check"
	}
	return "leave"
}

// Utilities are prices as a case file carries them (context.utilities): a figure by name, those of DefaultPrices where one
// is missing. Figures out of range, and names that are none, are left aside and listed.
func Utilities(given any) (p Prices, aside []string) {
	p = DefaultPrices
	figures, _ := given.(map[string]any)
	into := map[string]*float64{"lawn_m2": &p.LawnM2, "hour": &p.Hour, "fungicide": &p.Fungicide, "insecticide": &p.Insecticide,
		"herbicide": &p.Herbicide, "feed": &p.Feed, "amendment": &p.Amendment, "seed": &p.Seed, "water_m3": &p.WaterM3, "lab": &p.Lab}
	for name, v := range figures {
		field, known := into[name]
		x, number := v.(float64)
		if !known || !number {
			aside = append(aside, name)
			continue
		}
		was := *field
		*field = x
		if p.Check() != nil {
			*field = was
			aside = append(aside, name)
		}
	}
	sort.Strings(aside)
	return p, aside
}

// Utilities are the prices as a case file carries them.
func (p Prices) Utilities() map[string]any {
	return map[string]any{"lawn_m2": p.LawnM2, "hour": p.Hour, "fungicide": p.Fungicide, "insecticide": p.Insecticide,
		"herbicide": p.Herbicide, "feed": p.Feed, "amendment": p.Amendment, "seed": p.Seed, "water_m3": p.WaterM3, "lab": p.Lab}
}
