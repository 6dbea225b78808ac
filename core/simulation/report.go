package simulation

import (
	"math"
	"sort"

	"hodos/core/knowledge"
)

// Least is the chance from which a prediction counts for calibration: below it, nothing is claimed.
const Least = .1

// Enough is how many predictions a bin needs before its gap is judged by itself: with fewer, chance alone makes gaps of 0.05.
const Enough = 400

// Report is what a run measured.
type Report struct {
	Lawns int
	Of    []Score // by strategy, in the order asked for
}

// Score is one strategy over all lawns.
type Score struct {
	Strategy Strategy
	Lawns    int
	Right    int     // lawns on which the leading cause is at work (or nothing is, and that leads)
	Minutes  float64 // mean of a visit
	Checks   float64 // mean number of findings looked at
	Brier    float64 // mean over lawns of Σ (p − y)² over all causes; 0 is perfect
	Regret   float64 // mean of what the decision earned less than knowing the truth would, in money of the default prices
	Settled  int     // lawns left because no check could change a decision any more
	Families []Group // by family of the true cause; "healthy" where there is none, "several" where there are more
	Bins     []Bin   // calibration over all predictions ≥ Least, in tenths
	ByFamily []FamilyBins
}

// Accuracy is the share of lawns on which the leading cause is right.
func (s Score) Accuracy() float64 { return float64(s.Right) / float64(s.Lawns) }

// Worst is the largest gap between what was said and what was so, over the bins with enough predictions.
func (s Score) Worst() float64 {
	worst := 0.0
	for _, b := range s.Bins {
		if b.N >= Enough {
			worst = math.Max(worst, math.Abs(b.Gap()))
		}
	}
	return worst
}

// Beyond lists the bins of all causes together that are off by more than the limit even at the nearer end of their
// interval; bins of fewer than a hundred predictions say too little to be judged.
func (s Score) Beyond(limit float64) []Bin {
	var out []Bin
	for _, b := range s.Bins {
		if b.N >= 100 && (b.Said < b.From-limit || b.Said > b.To+limit) {
			out = append(out, b)
		}
	}
	return out
}

// Group is a part of the lawns.
type Group struct {
	Name         string
	Lawns, Right int
}

// FamilyBins is the calibration of the causes of one family.
type FamilyBins struct {
	Family string
	Bins   []Bin
}

// Bin gathers the predictions between Low and High.
type Bin struct {
	Low, High float64
	N         int
	Said      float64 // mean of the predictions
	Was       float64 // share that came true
	From, To  float64 // 95 % interval of that share (Wilson 1927)
}

// Gap is what was so less what was said.
func (b Bin) Gap() float64 { return b.Was - b.Said }

func report(o Options, played [][]outcome) Report {
	r := Report{Lawns: o.Lawns}
	for si, strategy := range o.Strategies {
		s := Score{Strategy: strategy, Lawns: o.Lawns}
		groups := map[string]*Group{}
		all, families := newTally(), map[string]*tally{}
		for i := range played {
			out := &played[i][si]
			s.Minutes += out.minutes / float64(o.Lawns)
			s.Regret += out.regret / float64(o.Lawns)
			s.Checks += float64(out.checks) / float64(o.Lawns)
			if out.settled {
				s.Settled++
			}
			at := map[string]bool{}
			for _, c := range out.truth {
				at[c] = true
			}
			if len(out.truth) == 0 {
				at[knowledge.Healthy] = true
			}
			lead := 0
			for k, cause := range out.causes {
				p, y := out.p[k], 0.0
				if at[cause] {
					y = 1
				}
				s.Brier += (p - y) * (p - y) / float64(o.Lawns)
				if p > out.p[lead] {
					lead = k
				}
				if p >= Least {
					family := familyOf(cause)
					if families[family] == nil {
						families[family] = newTally()
					}
					all.add(p, y)
					families[family].add(p, y)
				}
			}
			name := "several"
			switch len(out.truth) {
			case 0:
				name = "healthy"
			case 1:
				name = familyOf(out.truth[0])
			}
			if groups[name] == nil {
				groups[name] = &Group{Name: name}
			}
			groups[name].Lawns++
			if at[out.causes[lead]] {
				s.Right++
				groups[name].Right++
			}
		}
		for _, g := range groups {
			s.Families = append(s.Families, *g)
		}
		sort.Slice(s.Families, func(a, b int) bool { return s.Families[a].Name < s.Families[b].Name })
		s.Bins = all.bins()
		for f, t := range families {
			s.ByFamily = append(s.ByFamily, FamilyBins{f, t.bins()})
		}
		sort.Slice(s.ByFamily, func(a, b int) bool { return s.ByFamily[a].Family < s.ByFamily[b].Family })
		r.Of = append(r.Of, s)
	}
	return r
}

func familyOf(cause string) string {
	switch cause {
	case knowledge.Healthy:
		return "healthy"
	case knowledge.Unexplained:
		return "not explained"
	}
	c, _ := knowledge.CauseByID(cause)
	return c.Family
}

type tally struct {
	n         [10]int
	said, was [10]float64
}

func newTally() *tally { return &tally{} }

func (t *tally) add(p, y float64) {
	b := min(9, int(p*10))
	t.n[b]++
	t.said[b] += p
	t.was[b] += y
}

func (t *tally) bins() []Bin {
	var out []Bin
	for b := 1; b < 10; b++ {
		x := Bin{Low: float64(b) / 10, High: float64(b+1) / 10, N: t.n[b]}
		if x.N > 0 {
			n := float64(x.N)
			x.Said, x.Was = t.said[b]/n, t.was[b]/n
			const z = 1.959964
			mid := (x.Was + z*z/(2*n)) / (1 + z*z/n)
			half := z / (1 + z*z/n) * math.Sqrt(x.Was*(1-x.Was)/n+z*z/(4*n*n))
			x.From, x.To = math.Max(0, mid-half), math.Min(1, mid+half)
		}
		out = append(out, x)
	}
	return out
}
