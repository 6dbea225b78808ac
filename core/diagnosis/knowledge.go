package diagnosis

import (
	"fmt"
	"math"
	"sort"
	"strconv"
	"strings"

	"hodos/core/turf"
)

// Knowledge is the version of the tables. It changes with every change of a row that can move a probability.
const Knowledge = "2026.11-6"

// Sources of rows. Judgement marks a figure that is the authors' estimate and no measurement.
const (
	J   = "judgement"
	Ext = "extension consensus; figure is judgement"
)

// Cause is one row of knowledge about what can be wrong with a lawn.
type Cause struct {
	ID, Label, Family string
	// Base is the chance, per hundred lawns that somebody is called to, in the best month on a suitable grass
	// (judgement throughout).
	Base float64
	// Months weighs the months January to December of the northern hemisphere, a digit each: 9 is the best month, 0 a
	// month in which the cause is hardly seen (counts as 0.03). The south is turned by half a year.
	Months string
	// Turf is "C", "W" or "CW": the families of grass on which the cause occurs at all.
	Turf string
	// Hosts multiplies the base for single species ("perennial-ryegrass 2 tall-fescue .5"); with OnlyHosts no other
	// species has it.
	Hosts     string
	OnlyHosts bool
	// Unwatered multiplies the base where the site is known not to be irrigated; 0 stands for 1.
	Unwatered float64
	// Watered does the same where it is known to be irrigated.
	Watered float64
	// Recurs is the chance that an earlier confirmed case stands in a zone that has the cause now; 0 stands for 0.15.
	Recurs float64
	// Window says that the weather's own window of the cause is weighed.
	Window bool
	Rows   []Row

	// For the field guide.
	Signature, When, Proof, Against string
	Mistaken                        string // ids, blank-separated
}

// Row says what one cause, acting alone, does to one finding.
//
// Grip is how strongly the cause determines the finding, 0 to 1. With grip g the finding follows the cause's own
// distribution with chance g and the background's with chance 1 − g. Says is that distribution: ids with chances per
// hundred; for lists the chance of each item by itself. For numbers Low, Mid and High are the 10 %, 50 % and 90 %
// points. Turf limits the row to "C" or "W".
type Row struct {
	Finding        string
	Grip           float64
	Says           string
	Low, Mid, High float64
	Turf           string
	Source         string
}

func list(finding, says, source string) Row {
	return Row{Finding: finding, Grip: 1, Says: says, Source: source}
}
func one(finding string, grip float64, says, source string) Row {
	return Row{Finding: finding, Grip: grip, Says: says, Source: source}
}
func num(finding string, grip, low, mid, high float64, source string) Row {
	return Row{Finding: finding, Grip: grip, Low: low, Mid: mid, High: high, Source: source}
}

// on limits a row to one family of grass, "C" or "W".
func (r Row) on(turf string) Row { r.Turf = turf; return r }

// Causes returns the tables of all causes, family by family. healthy-turf is not among them: it is the empty set.
func Causes() []Cause { return causes }

// CauseByID looks a cause up, healthy-turf included.
func CauseByID(id string) (Cause, bool) {
	if id == Healthy {
		return healthy, true
	}
	i, ok := causeIndex[id]
	if !ok {
		return Cause{}, false
	}
	return causes[i], true
}

// Healthy is the id of the empty set of causes.
const Healthy = "healthy-turf"

var (
	causes     []Cause
	causeIndex = map[string]int{}
	compiled   []compiledFinding
	compiledAt = map[string]int{}
)

// dist is what one cause, or the background, says of one finding.
type dist struct {
	grip           float64
	p              []float64 // by value; for lists the chance of each item; for numbers by band
	low, mid, high float64   // on the finding's scale
	number         bool
}

type compiledFinding struct {
	f          *Finding
	id         string   // with the cause for findings kept once a cause
	values     []string // yes/no for YesNo; cause ids for cause kinds
	background dist
	byCause    map[int][2]*dist // by cause: on C, on W
}

func init() {
	for _, family := range [][]Cause{diseases, insects, heatCauses, droughtCauses, coldCauses, nutrientCauses, waterCauses, careCauses,
		lookAlikes} {
		causes = append(causes, family...)
	}
	for i := range causes {
		if _, twice := causeIndex[causes[i].ID]; twice {
			panic("diagnosis: cause listed twice: " + causes[i].ID)
		}
		causeIndex[causes[i].ID] = i
	}
	compile()
	findProofs()
}

func compile() {
	add := func(f *Finding, id string) {
		cf := compiledFinding{f: f, id: id, byCause: map[int][2]*dist{}}
		switch f.Kind {
		case YesNo:
			cf.values = []string{"yes", "no"}
		case CauseIDs, CauseOrNone:
			for _, c := range causes {
				if f.Kind == CauseIDs || c.Family == "disease" { // a laboratory names pathogens
					cf.values = append(cf.values, c.ID)
				}
			}
			if f.Kind == CauseOrNone {
				cf.values = append(cf.values, "none")
			}
		default:
			cf.values = f.Values
		}
		compiledAt[id] = len(compiled)
		compiled = append(compiled, cf)
	}
	for i := range findings {
		if !findings[i].Steers {
			add(&findings[i], findings[i].ID)
		}
	}
	for i := range weatherFindings {
		f := &weatherFindings[i]
		if !f.PerCause {
			add(f, f.ID)
			continue
		}
		family := "disease"
		if f.ID == "insect-window" {
			family = "insect"
		}
		for _, c := range causes {
			if c.Family == family {
				add(f, f.ID+":"+c.ID)
			}
		}
	}
	for i := range derivedFindings {
		add(&derivedFindings[i], derivedFindings[i].ID)
	}
	for i := range compiled {
		cf := &compiled[i]
		cf.background = mustDist(cf, backgroundRow(cf))
	}
	for ci := range causes {
		for _, r := range append(impliedRows(&causes[ci]), causes[ci].Rows...) {
			at, ok := compiledAt[r.Finding]
			if !ok {
				panic(fmt.Sprintf("diagnosis: %s speaks of the unknown finding %s", causes[ci].ID, r.Finding))
			}
			cf := &compiled[at]
			d := mustDist(cf, r)
			pair := cf.byCause[ci]
			for t, turf := range []string{"C", "W"} {
				if r.Turf == "" || r.Turf == turf {
					pair[t] = &d
				}
			}
			cf.byCause[ci] = pair
		}
	}
}

// impliedRows are the rows that every cause of a kind has: its history, its laboratory answer, its weather window.
func impliedRows(c *Cause) []Row {
	recurs := c.Recurs
	if recurs == 0 {
		recurs = .15
	}
	rows := []Row{list("past-causes", fmt.Sprintf("%s %g", c.ID, recurs*100), J)}
	if c.Family == "disease" {
		rows = append(rows, one("lab-pathogen", .96, c.ID+" 90 none 8", J))
	}
	if c.Window {
		switch c.Family {
		case "disease":
			rows = append(rows, one("disease-window:"+c.ID, .95, "strong 42 open 38 weak 16 never-open 4", J))
		case "insect":
			// the season is in the prior already: the degree days only shift it
			rows = append(rows, one("insect-window:"+c.ID, .4, "open 60 opening 15 closing 20 closed 5", J))
		}
	}
	return append(rows, derivedRows[c.ID]...)
}

func backgroundRow(cf *compiledFinding) Row {
	if base, _, per := strings.Cut(cf.id, ":"); per {
		return background[base]
	}
	switch cf.f.Kind {
	case CauseIDs:
		return Row{Finding: cf.id, Grip: 1, Says: "", Source: J}
	case CauseOrNone:
		return Row{Finding: cf.id, Grip: 1, Says: "none 97", Source: J}
	}
	r, ok := background[cf.id]
	if !ok {
		r, ok = derivedBackground[cf.id]
	}
	if !ok {
		panic("diagnosis: no background for " + cf.id)
	}
	return r
}

const (
	leak    = .008 // chance of a list item that nothing accounts for, unless the background names it (judgement)
	minimum = .004
)

// leak is the chance that an item of a list is there without any cause of today. A cause of earlier years stands in the
// records of many zones that have something else now.
func (cf *compiledFinding) leak(item int) float64 {
	least := leak
	if cf.f.Kind == CauseIDs {
		least = .06
	}
	return math.Max(cf.background.p[item], least)
}

func mustDist(cf *compiledFinding, r Row) dist {
	d, err := cf.dist(r)
	if err != nil {
		panic(fmt.Sprintf("diagnosis: row %s: %v", r.Finding, err))
	}
	return d
}

func (cf *compiledFinding) dist(r Row) (dist, error) {
	if r.Grip <= 0 || r.Grip > 1 {
		return dist{}, fmt.Errorf("grip %g is not in (0, 1]", r.Grip)
	}
	d := dist{grip: math.Min(r.Grip, .995)}
	if cf.f.Kind == Number {
		if !(r.Low < r.High && r.Low <= r.Mid && r.Mid <= r.High) {
			return d, fmt.Errorf("points %g %g %g are not in order", r.Low, r.Mid, r.High)
		}
		d.number = true
		d.low, d.mid, d.high = cf.scale(r.Low), cf.scale(r.Mid), cf.scale(r.High)
		below := 0.0
		for _, cut := range cf.f.Bands {
			b := cf.below(&d, cut)
			d.p = append(d.p, math.Max(b-below, 1e-4))
			below = b
		}
		d.p = append(d.p, math.Max(1-below, 1e-4))
		return d, nil
	}
	d.p = make([]float64, len(cf.values))
	words := strings.Fields(r.Says)
	if len(words)%2 != 0 {
		return d, fmt.Errorf("%q is not a list of ids with chances", r.Says)
	}
	sum, named := 0.0, 0
	for i := 0; i < len(words); i += 2 {
		v, err := strconv.ParseFloat(words[i+1], 64)
		if err != nil || v < 0 || v > 100 {
			return d, fmt.Errorf("%q is not a chance per hundred", words[i+1])
		}
		at := index(cf.values, words[i])
		if at < 0 {
			return d, fmt.Errorf("unknown value %q", words[i])
		}
		d.p[at] = v / 100
		sum += v / 100
		named++
	}
	switch cf.f.Kind {
	case AnyOf, CauseIDs:
		return d, nil
	}
	if sum > 1.0001 {
		return d, fmt.Errorf("%q adds up to more than a hundred", r.Says)
	}
	rest := 0.0
	if left := len(cf.values) - named; left > 0 {
		rest = math.Max(0, 1-sum) / float64(left)
	}
	total := 0.0
	for i := range d.p {
		if d.p[i] == 0 {
			d.p[i] = rest
		}
		d.p[i] = math.Max(d.p[i], minimum)
		total += d.p[i]
	}
	for i := range d.p {
		d.p[i] /= total
	}
	return d, nil
}

func (cf *compiledFinding) scale(x float64) float64 {
	if cf.f.Scale == Log {
		return math.Log1p(math.Max(x, 0))
	}
	return x
}

// stray is the share of readings that may lie anywhere in the physical range, so that no reading is impossible (judgement).
const stray = .03

// density of a number under a distribution: a normal curve with its own width on either side (10 % and 90 % points), and
// a few strays spread evenly over the whole range. A reading at an end of the range ("none counted") stands for all that
// the curve has beyond it.
func (cf *compiledFinding) density(d *dist, x float64) float64 {
	l, r := d.widths()
	switch {
	case x <= cf.f.Min:
		return math.Max(cf.below(d, cf.f.Min), stray/60)
	case x >= cf.f.Max:
		return math.Max(1-cf.below(d, cf.f.Max), stray/60)
	}
	z := cf.scale(x) - d.mid
	s := r
	if z < 0 {
		s = l
	}
	curve := 2 / (math.Sqrt(2*math.Pi) * (l + r)) * math.Exp(-.5*(z/s)*(z/s))
	return (1-stray)*curve + stray/(cf.scale(cf.f.Max)-cf.scale(cf.f.Min))
}

// below is the chance of a number under x.
func (cf *compiledFinding) below(d *dist, x float64) float64 {
	l, r := d.widths()
	z := cf.scale(x) - d.mid
	phi := func(z float64) float64 { return .5 * math.Erfc(-z/math.Sqrt2) }
	var curve float64
	if z < 0 {
		curve = 2 * l / (l + r) * phi(z/l)
	} else {
		curve = l/(l+r) + r/(l+r)*(2*phi(z/r)-1)
	}
	lo, hi := cf.scale(cf.f.Min), cf.scale(cf.f.Max)
	return (1-stray)*curve + stray*math.Max(0, math.Min(1, (cf.scale(x)-lo)/(hi-lo)))
}

func (d *dist) widths() (left, right float64) {
	const q = 1.2815515655 // the normal curve's 90 % point
	return math.Max((d.mid-d.low)/q, .02), math.Max((d.high-d.mid)/q, .02)
}

// Odds are those of a cause on a lawn before anything is found, from grass, season and watering; 0 for a cause that cannot
// occur there or is not known.
func Odds(cause string, l Lawn) float64 {
	i, ok := causeIndex[cause]
	if !ok {
		return 0
	}
	return prior(&causes[i], l)
}

// prior is the odds of each cause before anything is found, from grass, season and watering. A cause that cannot occur
// has odds 0.
func prior(c *Cause, l Lawn) float64 {
	odds, hosts := 0.0, parseHosts(c.Hosts)
	for rank, id := range l.Species {
		s, _ := turf.ByID(id)
		share := 1.0
		if rank > 0 {
			share = .6 // a minor part of the mix carries less of the stand (judgement)
		}
		o := c.Base / 100
		switch s.Family {
		case turf.Cool:
			if !strings.Contains(c.Turf, "C") {
				o = 0
			}
		case turf.Warm:
			if !strings.Contains(c.Turf, "W") {
				o = 0
			}
		default:
			o *= .6
		}
		if m, ok := hosts[id]; ok {
			o *= m
		} else if c.OnlyHosts && id != "unknown" {
			o = 0
		} else if c.OnlyHosts {
			o *= .3
		}
		odds = math.Max(odds, share*o)
	}
	month := turf.SeasonMonth(l.Date.Month(), l.Latitude)
	odds *= math.Max(float64(c.Months[month-1]-'0')/9, .03)
	if l.Irrigated != nil && !*l.Irrigated && c.Unwatered > 0 {
		odds *= c.Unwatered
	}
	if l.Irrigated != nil && *l.Irrigated && c.Watered > 0 {
		odds *= c.Watered
	}
	return odds
}

func parseHosts(s string) map[string]float64 {
	words := strings.Fields(s)
	out := make(map[string]float64, len(words)/2)
	for i := 0; i+1 < len(words); i += 2 {
		v, err := strconv.ParseFloat(words[i+1], 64)
		if _, known := turf.ByID(words[i]); err != nil || !known {
			panic("diagnosis: bad hosts: " + s)
		}
		out[words[i]] = v
	}
	return out
}

// Likely is a cause with its prior chance in a month, for the field guide.
type Likely struct {
	Cause  string
	Chance float64
}

// LikelyIn ranks the causes by their prior in the month and at the latitude of the lawn.
func LikelyIn(l Lawn) []Likely {
	out := make([]Likely, len(causes))
	for i := range causes {
		o := prior(&causes[i], l)
		out[i] = Likely{causes[i].ID, o / (1 + o)}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Chance > out[b].Chance })
	return out
}

func index(list []string, s string) int {
	for i, v := range list {
		if v == s {
			return i
		}
	}
	return -1
}

// Words says what a row says, for the field guide.
func (r Row) Words() string {
	if r.Says == "" {
		return fmt.Sprintf("mostly %g to %g, about %g", r.Low, r.High, r.Mid)
	}
	w := strings.Fields(r.Says)
	var out []string
	for i := 0; i+1 < len(w); i += 2 {
		out = append(out, fmt.Sprintf("%s %s %%", ValueLabel(w[i]), w[i+1]))
	}
	return strings.Join(out, ", ")
}
