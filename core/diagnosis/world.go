package diagnosis

import (
	"math"
	"time"
)

// Chance is a source of seeded random numbers, handed in by whoever draws: the core has none of its own.
// *rand.Rand of math/rand/v2 is one.
type Chance interface {
	Float64() float64     // even on [0, 1)
	NormFloat64() float64 // standard normal
}

// World draws lawns: from the tables as they stand, or from tables that differ from them, because no real world is its
// model. It is safe for use by several goroutines.
type World struct {
	tables []compiledFinding
	base   []float64 // by cause: factor on the prior odds
}

// NewWorld is the world of the tables, with every figure moved at random by the given spread: prior odds and the odds of
// every grip by a log-normal factor of that sigma, every chance of a value by another before they are scaled to add up
// to one again, and every number by that share of its own width. Spread 0 is the tables themselves; 0.4 moves a typical
// figure by half (judgement). The same chance gives the same world.
func NewWorld(spread float64, c Chance) *World {
	w := &World{base: make([]float64, len(causes)), tables: make([]compiledFinding, len(compiled))}
	for i := range w.base {
		w.base[i] = 1
		if spread > 0 {
			w.base[i] = math.Exp(spread * c.NormFloat64())
		}
	}
	for i := range compiled {
		cf := compiled[i]
		if spread > 0 {
			cf.background = cf.moved(&compiled[i].background, spread, c)
			cf.byCause = map[int][2]*dist{}
			for ci := range causes { // in order: a map's own would draw differently every time
				pair, speaks := compiled[i].byCause[ci]
				if !speaks {
					continue
				}
				var out [2]*dist
				for t, d := range pair {
					switch {
					case d == nil:
					case t == 1 && d == pair[0]:
						out[1] = out[0]
					default:
						m := cf.moved(d, spread, c)
						out[t] = &m
					}
				}
				cf.byCause[ci] = out
			}
		}
		w.tables[i] = cf
	}
	return w
}

// moved is a distribution with its figures moved.
func (cf *compiledFinding) moved(d *dist, spread float64, c Chance) dist {
	out := *d
	if d.grip < .995 || cf.f.Kind != AnyOf && cf.f.Kind != CauseIDs {
		odds := d.grip / (1 - d.grip) * math.Exp(spread*c.NormFloat64())
		out.grip = math.Min(odds/(1+odds), .995)
	}
	if d.number {
		l, r := d.widths()
		by := spread * c.NormFloat64() * (l + r) / 2
		out.low, out.mid, out.high = d.low+by, d.mid+by, d.high+by
		return out
	}
	out.p = make([]float64, len(d.p))
	total := 0.0
	for i, p := range d.p {
		if cf.f.Kind == AnyOf || cf.f.Kind == CauseIDs {
			if p > 0 {
				odds := math.Min(p, .985) / (1 - math.Min(p, .985)) * math.Exp(spread*c.NormFloat64())
				out.p[i] = odds / (1 + odds)
			}
			continue
		}
		out.p[i] = p * math.Exp(spread*c.NormFloat64())
		total += out.p[i]
	}
	if total > 0 {
		for i := range out.p {
			out.p[i] /= total
		}
	}
	return out
}

// Drawn is a lawn of which the truth is known.
type Drawn struct {
	Lawn    Lawn
	Causes  []string // what is at work; none on a healthy lawn
	world   *World
	members []int
	turf    int
}

// drawnSpecies are the grasses of drawn lawns, with their share (judgement).
var drawnSpecies = []struct {
	id    string
	share float64
}{
	{"tall-fescue", 18}, {"kentucky-bluegrass", 18}, {"perennial-ryegrass", 10}, {"fine-fescue", 7}, {"creeping-bentgrass", 2}, {"annual-bluegrass", 2},
	{"common-bermudagrass", 11}, {"hybrid-bermudagrass", 5}, {"zoysiagrass", 9}, {"st-augustinegrass", 9}, {"centipedegrass", 5}, {"kikuyugrass", 2}, {"buffalograss", 1}, {"bahiagrass", 1},
}

// Draw draws a lawn: a grass, a day of the year, one lawn in four in the south, watered or not, and what is wrong with
// it, by the priors of the world.
func (w *World) Draw(c Chance) Drawn {
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
	l := Lawn{Date: time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(c.Float64()*365)), Latitude: 38, Species: []string{species}}
	if c.Float64() < .25 {
		l.Latitude = -36
	}
	if u := c.Float64(); u < .8 {
		watered := u < .5
		l.Irrigated = &watered
	}
	m := newModel(l, func(i int) float64 { return prior(&causes[i], l) * w.base[i] })
	return w.drawn(m, m.sum(nil, true), c)
}

// Likely draws what may be wrong with a lawn after all that was found on it: the scales' own chances decide.
func (w *World) Likely(of Case, c Chance) Drawn {
	g := Gather(of)
	m := newModel(g.Lawn, func(i int) float64 { return prior(&causes[i], g.Lawn) * w.base[i] })
	return w.drawn(m, m.sum(m.observeAll(&g), true), c)
}

// drawn picks one set of causes by its chance.
func (w *World) drawn(m *model, post posterior, c Chance) Drawn {
	u, n, at := c.Float64(), post.n, 0
	d := Drawn{Lawn: m.lawn, world: w, turf: m.turf}
	take := func(k ...int) bool {
		u -= post.weight[at]
		at++
		if u >= 0 {
			return false
		}
		for _, i := range k {
			d.members = append(d.members, m.active[i])
			d.Causes = append(d.Causes, causes[m.active[i]].ID)
		}
		return true
	}
	if take() {
		return d
	}
	for i := 0; i < n; i++ {
		if take(i) {
			return d
		}
		for j := i + 1; j < n; j++ {
			if take(i, j) {
				return d
			}
			for k := j + 1; k < n; k++ {
				if take(i, j, k) {
					return d
				}
			}
		}
	}
	return d
}

// Read draws what a finding shows on the lawn, by the rule of the model. id may be a finding kept once a cause. With
// wrong above nought the answer is, with that chance, another one: any value but the right one, or a number from
// anywhere in the background; an item of a list is added or dropped.
func (d *Drawn) Read(id string, wrong float64, c Chance) Value {
	cf := &d.world.tables[compiledAt[id]]
	slip := c.Float64() < wrong
	if cf.f.Kind == AnyOf || cf.f.Kind == CauseIDs {
		v := Value{List: []string{}}
		var out []string
		for vi, item := range cf.values {
			if item == "none" {
				continue
			}
			q := 1 - cf.leak(vi)
			for _, ci := range d.members {
				if r := cf.byCause[ci][d.turf]; r != nil {
					q *= 1 - math.Min(r.p[vi]*r.grip, .985)
				}
			}
			if c.Float64() >= q {
				v.List = append(v.List, item)
			} else {
				out = append(out, item)
			}
		}
		if slip {
			switch at := int(c.Float64() * float64(len(v.List)+1)); {
			case at < len(v.List):
				v.List = append(v.List[:at], v.List[at+1:]...)
			case len(out) > 0:
				v.List = append(v.List, out[int(c.Float64()*float64(len(out)))])
			}
		}
		return v
	}
	from := &cf.background
	N, G := 1.0, 0.0
	for _, ci := range d.members {
		if r := cf.byCause[ci][d.turf]; r != nil {
			N *= 1 - r.grip
			G += r.grip
		}
	}
	if G > 0 && c.Float64() >= N {
		u := c.Float64() * G
		for _, ci := range d.members {
			if r := cf.byCause[ci][d.turf]; r != nil {
				if from = r; u < r.grip {
					break
				}
				u -= r.grip
			}
		}
	}
	if from.number {
		if slip {
			from = &cf.background
		}
		return NumberValue(cf.drawNumber(from, c))
	}
	u, at := c.Float64(), 0
	for at = 0; at < len(from.p)-1 && u >= from.p[at]; at++ {
		u -= from.p[at]
	}
	if slip && len(cf.values) > 1 {
		at = (at + 1 + int(c.Float64()*float64(len(cf.values)-1))) % len(cf.values)
	}
	if cf.f.Kind == YesNo {
		return YesValue(at == 0)
	}
	return WordValue(cf.values[at])
}

// drawNumber draws from the curve of density, held to the physical range.
func (cf *compiledFinding) drawNumber(d *dist, c Chance) float64 {
	lo, hi := cf.scale(cf.f.Min), cf.scale(cf.f.Max)
	x := lo + (hi-lo)*c.Float64()
	if c.Float64() >= stray {
		l, r := d.widths()
		z := math.Abs(c.NormFloat64())
		if c.Float64() < l/(l+r) {
			x = d.mid - z*l
		} else {
			x = d.mid + z*r
		}
	}
	x = math.Max(lo, math.Min(hi, x))
	if cf.f.Scale == Log {
		x = math.Expm1(x)
	}
	return math.Max(cf.f.Min, math.Min(cf.f.Max, x))
}

// WeatherIDs lists what the weather series can tell, those kept once a cause with their cause ("disease-window:rust").
func WeatherIDs() []string {
	var out []string
	for i := range compiled {
		if compiled[i].f.Station == "weather" && len(compiled[i].byCause) > 0 {
			out = append(out, compiled[i].id)
		}
	}
	return out
}
