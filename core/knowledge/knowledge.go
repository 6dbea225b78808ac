package knowledge

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"

	"hodos/core/turf"
)

// Knowledge is the version of the tables. It changes with every change of a row that can move a probability.
const Knowledge = "2026.11-10"

// UsualLatitude stands where no place is known, degrees: the northern transition zone, where both families of grass grow (judgement).
const UsualLatitude = 38.0

// Sources of rows. Judgement marks a figure that is the authors' estimate and no measurement.
const (
	J   = "judgement"
	Ext = "extension consensus; figure is judgement"
)

// Cause is one thing that can be wrong with a lawn, put together from the tables.
type Cause struct {
	ID, Label, Family string
	// Base is the chance, per hundred lawns that somebody is called to, in the best month on a suitable grass.
	Base float64
	// Months weighs the months January to December of the northern hemisphere, a digit each: 9 is the best month, 0 a month in which
	// the cause is hardly seen (counts as 0.03). The south is turned by half a year. MonthsW is the same for warm-season grass; "" for
	// the same months.
	Months, MonthsW string
	// Turf is "C", "W" or "CW": the families of grass on which the cause occurs at all.
	Turf string
	// Hosts multiplies the base for single species; with OnlyHosts no other species has it.
	Hosts     map[string]float64
	OnlyHosts bool
	// Unwatered multiplies the base where the site is known not to be irrigated; 0 stands for 1. Watered does the same where it is
	// known to be.
	Unwatered, Watered float64
	// Recurs is the chance that an earlier confirmed case stands in a zone that has the cause now; 0 stands for 0.15.
	Recurs float64
	// Window says that the weather's own window of the cause is weighed.
	Window bool
	Rows   []Row

	Mistaken string // what it is taken for: ids, blank-separated
}

// Row says what one cause, acting alone, does to one finding.
//
// Turf is the families of grass for which the row stands. Grip is how strongly the cause determines the finding, 0 to 1. With grip g
// the finding follows the cause's own distribution with chance g and the background's with chance 1 − g. Says is that distribution:
// ids with chances per hundred; for lists the chance of each item by itself; for numbers the 10 %, 50 % and 90 % points. A list may
// go on in a second row.
type Row struct {
	Cause, Finding, Turf string
	Grip                 float64
	Says                 string
	Source               string
}

func one(finding string, grip float64, says, source string) Row {
	return Row{Finding: finding, Turf: "CW", Grip: grip, Says: says, Source: source}
}

// Causes returns the tables of all causes, family by family. healthy-turf is not among them: it is the empty set.
func Causes() []Cause { return CauseTable }

// CauseByID looks a cause up, healthy-turf included.
func CauseByID(id string) (Cause, bool) {
	if id == Healthy {
		return healthy, true
	}
	i, ok := CauseAt[id]
	if !ok {
		return Cause{}, false
	}
	return CauseTable[i], true
}

// Healthy is the id of the empty set of causes, Unexplained that of something else being wrong than any of them. The second is no
// cause: nothing is known of it.
const (
	Healthy     = "healthy-turf"
	Unexplained = "not-explained"
)

var (
	CauseTable []Cause
	healthy    = healthyRow.cause()
	CauseAt    = map[string]int{}
	Tables     []Table
	TableAt    = map[string]int{}
)

// Dist is what one cause, or the background, says of one finding.
type Dist struct {
	Grip           float64
	P              []float64 // by value; for lists the chance of each item; for numbers by band
	low, Mid, high float64   // on the finding's scale
	IsNumber       bool
}

type Table struct {
	Finding    *Finding
	ID         string   // with the cause for findings kept once a cause
	Values     []string // yes/no for YesNo; cause ids for cause kinds
	Background Dist
	ByCause    map[int][2]*Dist // by cause: on C, on W

	weather      *weatherOf // of a disease's window
	weatherCause string
}

func init() {
	for _, r := range causeRows {
		if _, twice := CauseAt[r.id]; twice {
			panic("diagnosis: cause listed twice: " + r.id)
		}
		CauseAt[r.id] = len(CauseTable)
		CauseTable = append(CauseTable, r.cause())
	}
	for _, r := range hostRows {
		if _, known := turf.ByID(r.grass); !known {
			panic("diagnosis: no grass " + r.grass)
		}
		mustCause(r.cause).Hosts[r.grass] = r.factor
	}
	for _, family := range [][]Row{diseaseRows, insectRows, weatherRows, soilRows, careRows} {
		for _, r := range family {
			c := mustCause(r.Cause)
			c.Rows = append(c.Rows, r)
		}
	}
	for _, r := range mistakenRows {
		mustCause(r.cause).Mistaken = r.others
	}
	compileWindows()
	compile()
	compileFacts()
	compileSoundness()
	compileNeeded()
	compileConflicts()
	compileSensible()
}

func (r causeRow) cause() Cause {
	return Cause{ID: r.id, Label: r.label, Family: r.family, Base: r.base, Months: r.months, MonthsW: r.monthsW, Turf: r.turf,
		Unwatered: r.unwatered, Watered: r.watered, Recurs: r.recurs, Window: r.window, OnlyHosts: r.onlyHosts, Hosts: map[string]float64{}}
}

func mustCause(id string) *Cause {
	i, ok := CauseAt[id]
	if !ok {
		panic("diagnosis: no cause " + id)
	}
	return &CauseTable[i]
}

func compile() {
	add := func(f *Finding, id string) {
		cf := Table{Finding: f, ID: id, ByCause: map[int][2]*Dist{}}
		switch f.Kind {
		case YesNo:
			cf.Values = []string{"yes", "no"}
		case CauseIDs, CauseOrNone:
			for _, c := range CauseTable {
				if f.Kind == CauseIDs || c.Family == "disease" { // a laboratory names pathogens
					cf.Values = append(cf.Values, c.ID)
				}
			}
			if f.Kind == CauseOrNone {
				cf.Values = append(cf.Values, "none")
			}
		default:
			cf.Values = f.Values
		}
		TableAt[id] = len(Tables)
		Tables = append(Tables, cf)
	}
	for i := range FindingTable {
		if !FindingTable[i].Steers {
			add(&FindingTable[i], FindingTable[i].ID)
		}
	}
	for i := range WeatherTable {
		f := &WeatherTable[i]
		if !f.PerCause {
			add(f, f.ID)
			continue
		}
		family := "disease"
		if f.ID == "insect-window" {
			family = "insect"
		}
		for _, c := range CauseTable {
			if c.Family == family {
				add(f, f.ID+":"+c.ID)
				if f.ID == "disease-window" {
					cf := &Tables[len(Tables)-1]
					cf.weather, cf.weatherCause = WeatherOfCause[c.ID], c.ID
				}
			}
		}
	}
	for i := range derivedFindings {
		add(&derivedFindings[i], derivedFindings[i].ID)
	}
	for i := range Tables {
		cf := &Tables[i]
		cf.Background = mustDist(cf, backgroundRow(cf))
	}
	for ci := range CauseTable {
		for _, r := range joined(append(impliedRows(&CauseTable[ci]), CauseTable[ci].Rows...)) {
			at, ok := TableAt[r.Finding]
			if !ok {
				panic(fmt.Sprintf("diagnosis: %s speaks of the unknown finding %s", CauseTable[ci].ID, r.Finding))
			}
			cf := &Tables[at]
			d := mustDist(cf, r)
			pair := cf.ByCause[ci]
			for t, turf := range []string{"C", "W"} {
				if strings.Contains(r.Turf, turf) {
					pair[t] = &d
				}
			}
			cf.ByCause[ci] = pair
		}
	}
}

// joined puts the rows of a list that goes on together. Two rows of one finding for one family are else a slip.
func joined(rows []Row) (out []Row) {
	for _, r := range rows {
		at := slices.IndexFunc(out, func(o Row) bool { return o.Finding == r.Finding && strings.ContainsAny(o.Turf, r.Turf) })
		f := &Finding{}
		if i, ok := TableAt[r.Finding]; ok {
			f = Tables[i].Finding
		}
		switch {
		case at < 0:
			out = append(out, r)
		case f.Kind == AnyOf && out[at].Turf == r.Turf && out[at].Grip == r.Grip:
			out[at].Says += " " + r.Says
		default:
			panic("diagnosis: " + r.Cause + " speaks twice of " + r.Finding)
		}
	}
	return out
}

// impliedRows are the rows that every cause of a kind has: its history, its laboratory answer, its weather window.
func impliedRows(c *Cause) []Row {
	recurs := c.Recurs
	if recurs == 0 {
		recurs = .15
	}
	rows := []Row{one("past-causes", 1, fmt.Sprintf("%s %g", c.ID, recurs*100), J)}
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
	return rows
}

func backgroundRow(cf *Table) Row {
	switch cf.Finding.Kind {
	case CauseIDs:
		return one(cf.ID, 1, "", J)
	case CauseOrNone:
		return one(cf.ID, 1, "none 97", J)
	}
	id, _, _ := strings.Cut(cf.ID, ":")
	var says []string
	for _, r := range backgroundRows {
		if r.finding == id {
			says = append(says, r.says)
		}
	}
	if says == nil {
		panic("diagnosis: no background for " + cf.ID)
	}
	return one(cf.ID, 1, strings.Join(says, " "), J)
}

const (
	leak    = .008 // chance of a list item that nothing accounts for, unless the background names it (judgement)
	minimum = .004 // of a word that nothing names, at the stations whose words go astray most
)

// Leak is the chance that an item of a list is there without any cause of today. A cause of earlier years stands in the
// records of many zones that have something else now.
func (cf *Table) Leak(item int) float64 {
	least := leak
	if cf.Finding.Kind == CauseIDs {
		least = .06
	}
	return math.Max(cf.Background.P[item], least)
}

func mustDist(cf *Table, r Row) Dist {
	d, err := cf.read(r)
	if err != nil {
		panic(fmt.Sprintf("diagnosis: row %s: %v", r.Finding, err))
	}
	return d
}

func (cf *Table) read(r Row) (Dist, error) {
	if r.Grip <= 0 || r.Grip > 1 {
		return Dist{}, fmt.Errorf("grip %g is not in (0, 1]", r.Grip)
	}
	d := Dist{Grip: math.Min(r.Grip, .995)}
	if cf.Finding.Kind == Number {
		low, mid, high, err := r.points()
		if err != nil {
			return d, err
		}
		d.IsNumber = true
		d.low, d.Mid, d.high = cf.scale(low), cf.scale(mid), cf.scale(high)
		below := 0.0
		for _, cut := range cf.Finding.Bands {
			b := cf.below(&d, cut)
			d.P = append(d.P, math.Max(b-below, 1e-4))
			below = b
		}
		d.P = append(d.P, math.Max(1-below, 1e-4))
		return d, nil
	}
	d.P = make([]float64, len(cf.Values))
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
		at := Index(cf.Values, words[i])
		if at < 0 {
			return d, fmt.Errorf("unknown value %q", words[i])
		}
		d.P[at] = v / 100
		sum += v / 100
		named++
	}
	switch cf.Finding.Kind {
	case AnyOf, CauseIDs:
		d.P = cf.Confused(d.P)
		return d, nil
	}
	if sum > 1.0001 {
		return d, fmt.Errorf("%q adds up to more than a hundred", r.Says)
	}
	rest := 0.0
	if left := len(cf.Values) - named; left > 0 {
		rest = math.Max(0, 1-sum) / float64(left)
	}
	total := 0.0
	for i := range d.P {
		if d.P[i] == 0 {
			d.P[i] = rest
		}
		d.P[i] = math.Max(d.P[i], minimum*cf.Stray()/usualStray)
		total += d.P[i]
	}
	for i := range d.P {
		d.P[i] /= total
	}
	d.P = cf.Confused(d.P)
	return d, nil
}

// points are the 10 %, 50 % and 90 % points of a number.
func (r Row) points() (low, mid, high float64, err error) {
	var x [3]float64
	words := strings.Fields(r.Says)
	if len(words) != len(x) {
		return 0, 0, 0, fmt.Errorf("%q is not three figures", r.Says)
	}
	for i, w := range words {
		if x[i], err = strconv.ParseFloat(w, 64); err != nil {
			return 0, 0, 0, fmt.Errorf("%q is no figure", w)
		}
	}
	if !(x[0] < x[2] && x[0] <= x[1] && x[1] <= x[2]) {
		return 0, 0, 0, fmt.Errorf("points %q are not in order", r.Says)
	}
	return x[0], x[1], x[2], nil
}

func (cf *Table) scale(x float64) float64 {
	if cf.Finding.Scale == Log {
		return math.Log1p(math.Max(x, 0))
	}
	return x
}

// strays are the shares of readings that may lie anywhere in the physical range, so that no reading is impossible, by the station of
// the visit (judgement): a laboratory slips least, an answer over the fence most.
var strays = map[string]float64{"lab": .003, "pull": .01, "soil": .015, "thatch": .015}

// usualStray is that of the other stations.
const usualStray = .03

// Slips is how often an answer to a finding goes astray against the usual, by its station: 1 for a word over the fence, less for what is
// measured.
func Slips(id string) float64 {
	base, _, _ := strings.Cut(id, ":")
	if f, ok := findFinding(base); ok {
		if s, ok := strays[f.Station]; ok {
			return s / usualStray
		}
	}
	return 1
}

func (cf *Table) Stray() float64 {
	if s, ok := strays[cf.Finding.Station]; ok {
		return s
	}
	return usualStray
}

// Density of a number under a distribution: a normal curve with its own width on either side (10 % and 90 % points), and
// a few strays spread evenly over the whole range. A reading at an end of the range ("none counted") stands for all that
// the curve has beyond it.
func (cf *Table) Density(d *Dist, x, stray float64) float64 {
	l, r := d.widths()
	switch {
	case x <= cf.Finding.Min:
		return math.Max(cf.below(d, cf.Finding.Min), stray/60)
	case x >= cf.Finding.Max:
		return math.Max(1-cf.below(d, cf.Finding.Max), stray/60)
	}
	z := cf.scale(x) - d.Mid
	s := r
	if z < 0 {
		s = l
	}
	curve := 2 / (math.Sqrt(2*math.Pi) * (l + r)) * math.Exp(-.5*(z/s)*(z/s))
	return (1-stray)*curve + stray/(cf.scale(cf.Finding.Max)-cf.scale(cf.Finding.Min))
}

// below is the chance of a number under x.
func (cf *Table) below(d *Dist, x float64) float64 {
	l, r := d.widths()
	stray := cf.Stray()
	z := cf.scale(x) - d.Mid
	phi := func(z float64) float64 { return .5 * math.Erfc(-z/math.Sqrt2) }
	var curve float64
	if z < 0 {
		curve = 2 * l / (l + r) * phi(z/l)
	} else {
		curve = l/(l+r) + r/(l+r)*(2*phi(z/r)-1)
	}
	lo, hi := cf.scale(cf.Finding.Min), cf.scale(cf.Finding.Max)
	return (1-stray)*curve + stray*math.Max(0, math.Min(1, (cf.scale(x)-lo)/(hi-lo)))
}

func (d *Dist) widths() (left, right float64) {
	const q = 1.2815515655 // the normal curve's 90 % point
	return math.Max((d.Mid-d.low)/q, .02), math.Max((d.high-d.Mid)/q, .02)
}

// Likely is a cause with its prior chance in a month, for the field guide.
type Likely struct {
	Cause  string
	Chance float64
}

// LikelyIn ranks the causes by their prior in the month and at the latitude of the lawn.
func LikelyIn(l Lawn) []Likely {
	out := make([]Likely, len(CauseTable))
	for i := range CauseTable {
		o := Prior(&CauseTable[i], l, nil)
		out[i] = Likely{CauseTable[i].ID, o / (1 + o)}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Chance > out[b].Chance })
	return out
}

func Index(list []string, s string) int {
	for i, v := range list {
		if v == s {
			return i
		}
	}
	return -1
}

// Words says what a row says, for the field guide.
func (r Row) Words() string {
	if low, mid, high, err := r.points(); err == nil {
		said := fmt.Sprintf("mostly %g to %g, about %g", low, high, mid)
		if slices.ContainsFunc(relativeRows, func(x relativeRow) bool { return x.finding == r.Finding }) {
			g, _ := turf.ByID(Reference)
			said += ", on " + g.Label
		}
		return said
	}
	w := strings.Fields(r.Says)
	var out []string
	for i := 0; i+1 < len(w); i += 2 {
		out = append(out, fmt.Sprintf("%s %s %%", ValueLabel(w[i]), w[i+1]))
	}
	return strings.Join(out, ", ")
}

// SeasonMonth is the month of a lawn as the north knows it.
func SeasonMonth(l Lawn) time.Month { return turf.SeasonMonth(l.Date.Month(), l.Latitude) }
