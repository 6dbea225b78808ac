package simulation

import (
	"maps"
	"math"
	"slices"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// World draws lawns: from the tables as they stand, or from tables that differ from them, because no real world is its
// model. It is safe for use by several goroutines.
type World struct {
	tables []knowledge.Table
	base   []float64 // by cause: factor on the prior odds
}

// NewWorld is the world of the tables, with every figure moved at random by the given spread: prior odds and the odds of
// every grip by a log-normal factor of that sigma, every chance of a value by another before they are scaled to add up
// to one again, and every number by that share of its own width. Spread 0 is the tables themselves; 0.4 moves a typical
// figure by half (judgement). The same chance gives the same world.
func NewWorld(spread float64, c knowledge.Chance) *World {
	w := &World{base: make([]float64, len(knowledge.CauseTable)), tables: make([]knowledge.Table, len(knowledge.Tables))}
	for i := range w.base {
		w.base[i] = 1
		if spread > 0 {
			w.base[i] = math.Exp(spread * c.NormFloat64())
		}
	}
	for i := range knowledge.Tables {
		cf := knowledge.Tables[i]
		if spread > 0 {
			cf.Background = cf.Moved(&knowledge.Tables[i].Background, spread, c)
			cf.ByCause = map[int][2]*knowledge.Dist{}
			for ci := range knowledge.CauseTable { // in order: a map's own would draw differently every time
				pair, speaks := knowledge.Tables[i].ByCause[ci]
				if !speaks {
					continue
				}
				var out [2]*knowledge.Dist
				for t, d := range pair {
					switch {
					case d == nil:
					case t == 1 && d == pair[0]:
						out[1] = out[0]
					default:
						m := cf.Moved(d, spread, c)
						out[t] = &m
					}
				}
				cf.ByCause[ci] = out
			}
		}
		w.tables[i] = cf
	}
	return w
}

// Drawn is a lawn of which the truth is known.
type Drawn struct {
	Lawn    knowledge.Lawn
	Causes  []string // what is at work; none on a healthy lawn
	world   *World
	members []int
	turf    int

	unexplained bool // something else is wrong than any of the causes
	asleep      bool
	climate     int
	relations   map[string]knowledge.Relation
	can         map[int]bool    // causes that the lawn can have
	read        map[int]reading // by fact
}

// Unexplained reports that something is wrong with the lawn that is none of the causes.
func (d *Drawn) Unexplained() bool { return d.unexplained }

// drawnSpecies are the grasses of drawn lawns, with their share (judgement).
var drawnSpecies = []struct {
	id    string
	share float64
}{
	{
		"tall-fescue",
		18,
	},
	{"kentucky-bluegrass", 18},
	{"perennial-ryegrass", 10},
	{"fine-fescue", 7},
	{"creeping-bentgrass", 2},
	{"annual-bluegrass", 2},
	{
		"common-bermudagrass",
		11,
	},
	{"hybrid-bermudagrass", 5},
	{"zoysiagrass", 9},
	{"st-augustinegrass", 9},
	{"centipedegrass", 5},
	{"kikuyugrass", 2},
	{"buffalograss", 1},
	{"bahiagrass", 1},
}

// Draw draws a lawn: a grass, a day of the year, one lawn in four in the south, watered or not, and what is wrong with
// it, by the priors of the world.
func (w *World) Draw(c knowledge.Chance) Drawn {
	total := 0.0
	for _, s := range drawnSpecies {
		total += s.share
	}
	pick, species := c.Float64()*total, drawnSpecies[0].id
	for _, s := range drawnSpecies {
		if species = s.id; pick < s.share {
			break
		}
		pick -= s.share
	}
	l := knowledge.Lawn{Date: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(c.Float64()*365)), Latitude: 38,
		Species: []string{species}}
	if c.Float64() < .25 {
		l.Latitude = -36
	}
	if u := c.Float64(); u < .8 {
		watered := u < .5
		l.Irrigated = &watered
	}
	return w.drawn(diagnosis.SetsOn(l, w.factor), c)
}

// Likely draws what may be wrong with a lawn after all that was found on it: the scales' own chances decide.
func (w *World) Likely(of evidence.Case, c knowledge.Chance) Drawn {
	return w.drawn(diagnosis.SetsOf(of, w.factor), c)
}

func (w *World) factor(cause int) float64 { return w.base[cause] }

// drawn picks one set of causes by its chance.
func (w *World) drawn(sets diagnosis.Sets, c knowledge.Chance) Drawn {
	d := Drawn{Lawn: sets.Lawn(), world: w, turf: sets.Turf(), climate: sets.Climate(), asleep: sets.Asleep(), relations: sets.Relations(),
		can: sets.Can(), read: map[int]reading{}}
	d.members = sets.Pick(c.Float64())
	for _, i := range d.members {
		d.Causes = append(d.Causes, knowledge.CauseTable[i].ID)
	}
	if len(d.members) == 0 {
		d.unexplained = c.Float64() >= sets.Sound()
	}
	return d
}

// Read draws what a finding shows on the lawn, by the rule of the model. id may be a finding kept once a cause. What tells the same
// fact as something read before follows it: one hot spell sets all that is said of it. With wrong above nought the answer is, with that
// chance, another one: any value but the right one, or a number from anywhere in the background; an item of a list is added or dropped.
func (d *Drawn) Read(id string, wrong float64, c knowledge.Chance) knowledge.Value {
	cf := &d.world.tables[knowledge.TableAt[id]]
	slip := c.Float64() < wrong
	if cf.Finding.Kind == knowledge.AnyOf || cf.Finding.Kind == knowledge.CauseIDs {
		v, out := d.items(cf, c)
		if slip {
			v = slipped(v, out, c)
		}
		return v
	}
	v := d.value(cf, c)
	if slip {
		v = d.other(cf, v, c)
	}
	if r, ok := d.relations[cf.Finding.ID]; ok && v.Number != nil {
		v = knowledge.NumberValue(math.Max(cf.Finding.Min, math.Min(cf.Finding.Max, r.Back(*v.Number))))
	}
	return v
}

// items draws a list: each item by itself, but for those that follow what was read before, and again where damage would be shown on a
// sound lawn more often than it is.
func (d *Drawn) items(cf *knowledge.Table, c knowledge.Chance) (v knowledge.Value, out []string) {
	for try := 0; ; try++ {
		v, out = knowledge.Value{List: []string{}}, nil
		for vi, item := range cf.Values {
			if item == "none" {
				continue
			}
			q := 1 - cf.Leak(vi)
			var grips []float64
			for _, ci := range d.members {
				g := 0.0
				if r := cf.ByCause[ci][d.turf]; r != nil {
					g = math.Min(r.P[vi]*r.Grip, .985)
				}
				q *= 1 - g
				grips = append(grips, g)
			}
			shows := c.Float64() >= q
			if u, follows := d.follows(knowledge.Member(cf.ID, item), grips, c); follows {
				shows = u > 1-cf.Leak(vi)
			}
			if shows {
				v.List = append(v.List, item)
			} else {
				out = append(out, item)
			}
			d.keep(knowledge.Member(cf.ID, item), grips, func() float64 { return cell(shows, cf.Leak(vi), c) }, try)
		}
		if d.sound(cf, v, c) || try > tries {
			return v, out
		}
	}
}

// cell is a place within the share of lawns that show an item, or do not.
func cell(shows bool, leak float64, c knowledge.Chance) float64 {
	if shows {
		return 1 - leak*c.Float64()
	}
	return (1 - leak) * c.Float64()
}

// tries is how often a reading is drawn anew that the lawn would not show.
const tries = 40

// value draws a single value or a number.
func (d *Drawn) value(cf *knowledge.Table, c knowledge.Chance) knowledge.Value {
	rows := make([]*knowledge.Dist, len(d.members))
	grips := make([]float64, len(d.members))
	for i, ci := range d.members {
		if r := cf.Dist(ci, d.turf, d.climate); r != nil {
			rows[i], grips[i] = r, r.Grip
		}
	}
	if u, follows := d.follows(knowledge.Member(cf.ID, ""), grips, c); follows {
		v := cf.At(u)
		d.keep(knowledge.Member(cf.ID, ""), grips, func() float64 { return u }, 0)
		return v
	}
	for try := 0; ; try++ {
		from := cf.Mixed(rows, grips, cf.Without(d.turf, d.climate), c)
		v := cf.Draw(from, c)
		if try > tries || d.owned(cf, v, from, c) && d.sound(cf, v, c) {
			d.keep(knowledge.Member(cf.ID, ""), grips, func() float64 { return cf.Place(v, c) }, 0)
			return v
		}
	}
}

// owned reports whether the lawn shows a reading as often as it should: beyond the limit of a condition that is not at work only as often
// as the background has it, with fewer strays, and by no other cause.
func (d *Drawn) owned(cf *knowledge.Table, v knowledge.Value, from *knowledge.Dist, c knowledge.Chance) bool {
	own := knowledge.Owner(cf.Finding.ID, v)
	switch {
	case own < 0 || !d.can[own] || slices.Index(d.Causes, knowledge.CauseTable[own].ID) >= 0:
		return true
	case slices.ContainsFunc(d.members, func(ci int) bool { return from == cf.Dist(ci, d.turf, d.climate) }):
		return false
	}
	most := cf.Density(from, *v.Number, cf.Stray())
	return c.Float64()*most < cf.Density(from, *v.Number, cf.Stray()*knowledge.OwnStray)
}

// sound reports whether the lawn shows a reading as often as it should: where nothing is wrong, damage is seen less often than the
// background has it, and where something else is wrong, more often.
func (d *Drawn) sound(cf *knowledge.Table, v knowledge.Value, c knowledge.Chance) bool {
	s, ok := knowledge.SoundnessOf[cf.Finding.ID]
	if !ok || len(d.members) > 0 || s.Awake && d.asleep {
		return true
	}
	sound, other := s.Factors(v)
	f := sound
	if d.unexplained {
		f = other
	}
	return c.Float64()*math.Max(1, math.Max(sound, math.Max(other, 1/(1-s.Chance)))) < f
}

// follows is the place on the background that what was read before of the same fact sets; false where nothing was, where a cause of the
// lawn speaks of this and not of what was read, or where this is a look of its own.
func (d *Drawn) follows(member string, grips []float64, c knowledge.Chance) (u float64, follows bool) {
	for _, at := range knowledge.MemberOf[member] {
		was, ok := d.read[at.Fact]
		if !ok || at.Again > followsUnder || was.member == member || c.Float64() < at.Again {
			continue
		}
		spoken := true
		for i, g := range grips {
			spoken = spoken && (g == 0 || was.grips[i] > 0)
		}
		if spoken {
			return was.u, true
		}
	}
	return 0, false
}

// followsUnder is the share of a look of its own up to which a telling follows another.
const followsUnder = .2

// reading is the first telling of a fact that was read on a lawn.
type reading struct {
	member string
	grips  []float64
	u      float64 // its place on its background, 0 to 1
}

// keep remembers the first telling of a fact.
func (d *Drawn) keep(member string, grips []float64, u func() float64, try int) {
	for _, at := range knowledge.MemberOf[member] {
		if was, ok := d.read[at.Fact]; !ok || try > 0 && was.member == member {
			d.read[at.Fact] = reading{member, grips, u()}
		}
	}
}

// slipped is a list with an item too many or too few.
func slipped(v knowledge.Value, out []string, c knowledge.Chance) knowledge.Value {
	switch at := int(c.Float64() * float64(len(v.List)+1)); {
	case at < len(v.List):
		v.List = append(v.List[:at], v.List[at+1:]...)
	case len(out) > 0:
		v.List = append(v.List, out[int(c.Float64()*float64(len(out)))])
	}
	return v
}

// other is a value that is not the right one.
func (d *Drawn) other(cf *knowledge.Table, v knowledge.Value, c knowledge.Chance) knowledge.Value {
	if v.Number != nil {
		return knowledge.NumberValue(cf.DrawNumber(&cf.Background, c))
	}
	at := 0
	for i := range cf.Background.P {
		if x := cf.Worded(i); x.Word == v.Word && (x.Yes == nil || *x.Yes == *v.Yes) {
			at = i
		}
	}
	return cf.Worded((at + 1 + int(c.Float64()*float64(len(cf.Background.P)-1))) % len(cf.Background.P))
}

// Fits is how much likelier what the weather tells is with what is wrong with the lawn than without: by the rows of the tables.
func (d *Drawn) Fits(values map[string]knowledge.Value) float64 {
	fit := 1.0
	for _, id := range slices.Sorted(maps.Keys(values)) {
		cf := &d.world.tables[knowledge.TableAt[id]]
		v := values[id]
		b := cf.Chance(cf.Without(d.turf, d.climate), v)
		N, G, E := 1.0, 0.0, 0.0
		for _, ci := range d.members {
			if r := cf.Dist(ci, d.turf, d.climate); r != nil {
				N *= 1 - r.Grip
				G += r.Grip
				E += r.Grip * cf.Chance(r, v) / b
			}
		}
		if G > 0 {
			fit *= N + (1-N)*E/G
		}
	}
	return fit
}

// Misnamed is a value with each word given, with the chance, for one that people interchange with it.
func Misnamed(id string, v knowledge.Value, chance float64, c knowledge.Chance) knowledge.Value {
	other := func(word string) string {
		if c.Float64() >= chance {
			return word
		}
		var to []string
		for _, r := range knowledge.WordRows {
			if r.Finding == id && r.One == word {
				to = append(to, r.Other)
			} else if r.Finding == id && r.Other == word && r.Back >= .05 {
				to = append(to, r.One)
			}
		}
		if len(to) == 0 {
			return word
		}
		return to[int(c.Float64()*float64(len(to)))]
	}
	switch {
	case v.List != nil:
		out := knowledge.Value{List: []string{}}
		for _, w := range v.List {
			if w = other(w); slices.Index(out.List, w) < 0 {
				out.List = append(out.List, w)
			}
		}
		return out
	case v.Word != "":
		return knowledge.WordValue(other(v.Word))
	}
	return v
}

// WeatherIDs lists what the weather series can tell, those kept once a cause with their cause ("disease-window:rust").
func WeatherIDs() []string {
	var out []string
	for i := range knowledge.Tables {
		if knowledge.Tables[i].Finding.Station == "weather" && len(knowledge.Tables[i].ByCause) > 0 {
			out = append(out, knowledge.Tables[i].ID)
		}
	}
	return out
}
