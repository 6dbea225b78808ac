// Package schedule finds dates for jobs: each on a day of its span that nothing closes, in the order of work, far enough from what it
// must be kept apart from, and within the hours of the crew. Where a job has no day it says which constraint leaves none, and what
// giving way would cost. The same jobs and the same seed give the same dates.
package schedule

import (
	"math/bits"
	"slices"
	"sort"
)

// Job is one thing to be done on one zone. Days are counted from the first day of the plan.
type Job struct {
	ID, Zone, Action string
	Rank             int     // in the order of work, for jobs of one day
	Minutes          float64 // of the crew
	From, To         int     // the span in which it may be done
	Want             int     // the day it is best done on: From where it makes no difference
	Wait             float64 // what a day of waiting costs, in the firm's money
	Fixed            *int    // the day it stays on, set by hand or done already
	After            []After
	Closed           []Closed
}

// After says that a job follows another, at least and at most so many days later; Most 0 is no limit.
type After struct {
	ID    string
	Least int
	Most  int
	Soft  bool // where the other has no day, it does not wait for it
}

// Closed is a run of days on which one constraint allows no work.
type Closed struct {
	From, To   int
	Constraint string // what closes them: a rule, the weather, the label
	Firm       bool   // nobody may pass it
}

// Options of a plan.
type Options struct {
	Days    int                            // how many days ahead, at most 730
	Minutes func(day int) float64          // of the crew on a day; nil for no limit
	Gap     func(first, second string) int // days that second waits after first on one zone
	Tries   int                            // how often a part is torn out and put in anew
	Seed    uint64
}

// Placed is a job with its day, or why it has none.
type Placed struct {
	Job    *Job
	Day    int // -1 for none
	Blocks []Block
}

// Block is a constraint that stands in the way of a job without a day: how many days of its span it closes by itself, the first day
// that would be open without it, and what that costs.
type Block struct {
	Constraint string
	Days       int
	Without    int // -1 where giving way would not help by itself
	Cost       float64
	Firm       bool
}

// Constraints that the plan itself makes.
const (
	Span  = "span"  // its own season
	Apart = "apart" // kept apart from another job of the zone
	Order = "order" // follows another job
	Crew  = "crew"  // no hours left
)

// set is a set of days.
type set []uint64

func newSet(n int) set { return make(set, (n+63)/64) }

func (s set) add(d int)      { s[d/64] |= 1 << (d % 64) }
func (s set) has(d int) bool { return d >= 0 && d/64 < len(s) && s[d/64]&(1<<(d%64)) != 0 }
func (s set) count() (n int) {
	for _, w := range s {
		n += bits.OnesCount64(w)
	}
	return n
}

type planner struct {
	opt   Options
	jobs  []Job
	open  []set // of each job, what its own span and constraints leave
	day   []int
	used  []float64 // minutes of each day
	zones map[string][]int
	at    map[string]int
	deep  []int // how many jobs stand before each in its chain
	rng   uint64
}

// next draws a number (xorshift; the seed is the caller's).
func (p *planner) next(n int) int {
	p.rng ^= p.rng << 13
	p.rng ^= p.rng >> 7
	p.rng ^= p.rng << 17
	return int(p.rng % uint64(n))
}

// Arrange finds a day for every job that has one.
func Arrange(jobs []Job, opt Options) []Placed {
	opt.Days = min(max(opt.Days, 1), 730)
	p := &planner{
		opt:   opt,
		jobs:  jobs,
		day:   make([]int, len(jobs)),
		used:  make([]float64, opt.Days),
		zones: map[string][]int{},
		at:    map[string]int{},
		rng:   opt.Seed*2862933555777941757 + 3037000493,
	}
	for i := range jobs {
		p.day[i] = -1
		p.zones[jobs[i].Zone] = append(p.zones[jobs[i].Zone], i)
		p.at[jobs[i].ID] = i
		p.open = append(p.open, p.days(&jobs[i]))
	}
	p.chains()
	p.fill(p.order())
	p.improve()
	out := make([]Placed, len(jobs))
	for i := range jobs {
		out[i] = Placed{Job: &jobs[i], Day: p.day[i]}
		if p.day[i] < 0 {
			out[i].Blocks = p.blocks(i)
		}
	}
	return out
}

// days are those that a job's own span and constraints leave.
func (p *planner) days(j *Job) set {
	s := newSet(p.opt.Days)
	if j.Fixed != nil {
		if *j.Fixed >= 0 && *j.Fixed < p.opt.Days {
			s.add(*j.Fixed)
		}
		return s
	}
	shut := newSet(p.opt.Days)
	for _, c := range j.Closed {
		for d := max(0, c.From); d <= min(c.To, p.opt.Days-1); d++ {
			shut.add(d)
		}
	}
	for d := max(0, j.From); d <= min(j.To, p.opt.Days-1); d++ {
		if !shut.has(d) {
			s.add(d)
		}
	}
	return s
}

// order is the least free first, then the costliest to wait for; what follows another comes after it.
func (p *planner) order() []int {
	out := make([]int, len(p.jobs))
	slack := make([]int, len(p.jobs))
	for i := range out {
		out[i], slack[i] = i, p.open[i].count()
	}
	sort.SliceStable(out, func(a, b int) bool {
		x, y := out[a], out[b]
		switch {
		case (p.jobs[x].Fixed != nil) != (p.jobs[y].Fixed != nil):
			return p.jobs[x].Fixed != nil
		case p.deep[x] != p.deep[y]:
			return p.deep[x] < p.deep[y]
		case slack[x] != slack[y]:
			return slack[x] < slack[y]
		case p.jobs[x].Wait != p.jobs[y].Wait:
			return p.jobs[x].Wait > p.jobs[y].Wait
		}
		return p.jobs[x].Rank < p.jobs[y].Rank
	})
	return out
}

// chains counts how many jobs stand before each in its chain. A ring cannot be kept: it ends at the jobs that are on their way.
func (p *planner) chains() {
	p.deep = make([]int, len(p.jobs))
	const open, busy = -1, -2
	for i := range p.deep {
		p.deep[i] = open
	}
	var of func(i int) int
	of = func(i int) int {
		if p.deep[i] != open {
			return max(0, p.deep[i])
		}
		p.deep[i] = busy
		deepest := 0
		for _, a := range p.jobs[i].After {
			if k, ok := p.at[a.ID]; ok && p.deep[k] != busy {
				deepest = max(deepest, 1+of(k))
			}
		}
		p.deep[i] = deepest
		return deepest
	}
	for i := range p.jobs {
		of(i)
	}
}

func (p *planner) fill(order []int) {
	for _, i := range order {
		if p.day[i] < 0 {
			p.put(i, p.best(i))
		}
	}
}

func (p *planner) put(i, day int) {
	if p.day[i] >= 0 {
		p.used[p.day[i]] -= p.jobs[i].Minutes
	}
	p.day[i] = day
	if day >= 0 {
		p.used[day] += p.jobs[i].Minutes
	}
}

// best is the open day that costs least; -1 for none.
func (p *planner) best(i int) int {
	j := &p.jobs[i]
	best, least := -1, 0.0
	for d := range p.opt.Days {
		if !p.open[i].has(d) || p.shut(i, d) != "" {
			continue
		}
		cost := float64(abs(d-j.Want)) * max(j.Wait, .01)
		if best < 0 || cost < least {
			best, least = d, cost
		}
	}
	return best
}

func abs(x int) int {
	if x < 0 {
		return -x
	}
	return x
}

// shut says which constraint of the plan closes a day to a job; "" for none.
func (p *planner) shut(i, d int) string {
	j := &p.jobs[i]
	if why := p.inOrder(i, d); why != "" {
		return why
	}
	if p.opt.Gap != nil {
		for _, k := range p.zones[j.Zone] {
			if k != i && p.day[k] >= 0 && !p.apart(i, k, d, p.day[k]) {
				return Apart
			}
		}
	}
	if j.Fixed == nil && p.opt.Minutes != nil && p.used[d]+j.Minutes > p.opt.Minutes(d) {
		return Crew
	}
	return ""
}

// inOrder asks whether a job comes after what it follows and before what follows it.
func (p *planner) inOrder(i, d int) string {
	for _, a := range p.jobs[i].After {
		k, ok := p.at[a.ID]
		if !ok {
			continue
		}
		if p.day[k] < 0 && a.Soft {
			continue
		}
		if p.day[k] < 0 || d < p.day[k]+a.Least || (a.Most > 0 && d > p.day[k]+a.Most) {
			return Order
		}
	}
	for _, k := range p.zones[p.jobs[i].Zone] {
		for _, a := range p.jobs[k].After {
			if a.ID == p.jobs[i].ID && p.day[k] >= 0 && (p.day[k] < d+a.Least || (a.Most > 0 && p.day[k] > d+a.Most)) {
				return Order
			}
		}
	}
	return ""
}

// apart reports whether two jobs of a zone may stand on two days. On one day the order of work decides which comes first.
func (p *planner) apart(i, k, di, dk int) bool {
	a, b := &p.jobs[i], &p.jobs[k]
	if di > dk || (di == dk && a.Rank > b.Rank) {
		a, b, di, dk = b, a, dk, di
	}
	return dk-di >= p.opt.Gap(a.Action, b.Action)
}

// cost of the plan as it stands: waiting, and dearly what has no day.
func (p *planner) cost(of []int) (sum float64) {
	for _, i := range of {
		j := &p.jobs[i]
		if p.day[i] < 0 {
			sum += 1e6 + max(j.Wait, .01)*float64(p.opt.Days)
			continue
		}
		sum += float64(abs(p.day[i]-j.Want)) * max(j.Wait, .01)
	}
	return sum
}

// improve tears the jobs of one zone out and puts them in again in another order; what is no better is taken back.
func (p *planner) improve() {
	names := make([]string, 0, len(p.zones))
	for z := range p.zones {
		if len(p.zones[z]) > 1 {
			names = append(names, z)
		}
	}
	slices.Sort(names)
	if len(names) == 0 {
		return
	}
	for range p.opt.Tries {
		of := p.zones[names[p.next(len(names))]]
		before, kept := p.cost(of), make([]int, len(of))
		for n, i := range of {
			kept[n] = p.day[i]
			if p.jobs[i].Fixed == nil {
				p.put(i, -1)
			}
		}
		order := slices.Clone(of)
		for n := len(order) - 1; n > 0; n-- {
			m := p.next(n + 1)
			order[n], order[m] = order[m], order[n]
		}
		sort.SliceStable(order, func(a, b int) bool { return p.deep[order[a]] < p.deep[order[b]] })
		p.fill(order)
		if p.cost(of) >= before {
			for _, i := range of {
				p.put(i, -1)
			}
			for n, i := range of {
				p.put(i, kept[n])
			}
		}
	}
}

// blocks says what leaves a job without a day: each constraint with the days that it closes alone, and what giving way would cost.
func (p *planner) blocks(i int) []Block {
	j := &p.jobs[i]
	why := make([]map[string]bool, p.opt.Days)
	firm := map[string]bool{}
	span := 0
	for d := range p.opt.Days {
		why[d] = map[string]bool{}
		if d < j.From || d > j.To {
			why[d][Span] = true
		} else {
			span++
		}
		if s := p.shut(i, d); s != "" {
			why[d][s] = true
		}
	}
	for _, c := range j.Closed {
		firm[c.Constraint] = firm[c.Constraint] || c.Firm
		for d := max(0, c.From); d <= min(c.To, p.opt.Days-1); d++ {
			why[d][c.Constraint] = true
		}
	}
	byName := map[string]*Block{}
	for d := range p.opt.Days {
		for name := range why[d] {
			b := byName[name]
			if b == nil {
				b = &Block{Constraint: name, Without: -1, Firm: firm[name]}
				byName[name] = b
			}
			if d >= j.From && d <= j.To {
				b.Days++
			}
			if len(why[d]) == 1 && (b.Without < 0 || abs(d-j.Want) < abs(b.Without-j.Want)) {
				b.Without, b.Cost = d, float64(abs(d-j.Want))*j.Wait
			}
		}
	}
	var out []Block
	for _, b := range byName {
		if b.Days > 0 || (b.Constraint == Span && b.Without >= 0) {
			out = append(out, *b)
		}
	}
	sort.Slice(out, func(a, b int) bool {
		if (out[a].Without >= 0) != (out[b].Without >= 0) {
			return out[a].Without >= 0
		}
		if out[a].Days != out[b].Days {
			return out[a].Days > out[b].Days
		}
		return out[a].Constraint < out[b].Constraint
	})
	return out
}

// Move is what putting a job on another day by hand would break.
type Move struct {
	Constraint string
	With       string // the other job, where it is one
	Firm       bool
}

// Moving says what a day breaks for a job among jobs that stand where they are.
func Moving(jobs []Job, id string, day int, opt Options) []Move {
	opt.Days = min(max(opt.Days, 1), 730)
	p := &planner{
		opt:   opt,
		jobs:  jobs,
		day:   make([]int, len(jobs)),
		used:  make([]float64, opt.Days),
		zones: map[string][]int{},
		at:    map[string]int{},
	}
	for i := range jobs {
		p.day[i] = -1
		p.zones[jobs[i].Zone] = append(p.zones[jobs[i].Zone], i)
		p.at[jobs[i].ID] = i
		if f := jobs[i].Fixed; f != nil && *f >= 0 && *f < opt.Days && jobs[i].ID != id {
			p.put(i, *f)
		}
	}
	i, ok := p.at[id]
	if !ok || day < 0 || day >= opt.Days {
		return []Move{{Constraint: Span, Firm: true}}
	}
	j := &p.jobs[i]
	var out []Move
	if day < j.From || day > j.To {
		out = append(out, Move{Constraint: Span})
	}
	seen := map[string]bool{}
	for _, c := range j.Closed {
		if day >= c.From && day <= c.To && !seen[c.Constraint] {
			seen[c.Constraint] = true
			out = append(out, Move{Constraint: c.Constraint, Firm: c.Firm})
		}
	}
	if p.inOrder(i, day) != "" {
		out = append(out, Move{Constraint: Order})
	}
	for _, k := range p.zones[j.Zone] {
		if k != i && p.day[k] >= 0 && opt.Gap != nil && !p.apart(i, k, day, p.day[k]) {
			out = append(out, Move{Constraint: Apart, With: p.jobs[k].ID})
		}
	}
	if opt.Minutes != nil && p.used[day]+j.Minutes > opt.Minutes(day) {
		out = append(out, Move{Constraint: Crew})
	}
	return out
}
