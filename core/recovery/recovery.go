// Package recovery says what a damaged zone should look like from day to day, and whether what is measured keeps to it.
//
// The damaged part of a zone is green, alive without green (crowns live, leaves gone), or dead. What is alive greens with the mowings;
// what is dead closes by runners from its rim, by growth of what stands beside it, or by seed. How fast one lawn does so among others of
// its grass is not known beforehand: it is carried as a distribution, which its own measures narrow.
package recovery

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hodos/core/turf"
)

// Start is the state from which recovery is counted.
type Start struct {
	Cover      float64 // green cover, 0 to 1
	LiveCrowns float64 // share of crowns alive where it is not green, 0 to 1; NaN for unknown
	Ceiling    float64 // the cover that the site can carry, 0 to 1; 0 stands for 0.97
	PatchMM    float64 // usual width of a dead patch, mm; 0 for unknown
	Sown       []int   // the days on which it was sown, counted from the start; nil for none
}

// Day is the weather of a day after the start.
type Day struct {
	MeanC float64 // of the air, °C
	Water float64 // share of full water supply (Ks of FAO-56), 0 to 1; NaN for unknown
	Ahead bool    // not measured yet: a normal or a forecast
}

// Limit is what holds growth back on a day.
type Limit string

// The limits, where growth is under half of its best.
const (
	Free Limit = ""
	Cold Limit = "cold"
	Heat Limit = "heat"
	Dry  Limit = "dry"
)

// Point is the expected cover of one day: the middle, and the band in which four of five lawns lie.
type Point struct {
	Day            int // days since the start
	Low, Mid, High float64
	Growth         float64 // share of its best growth that weather and water allow that day, 0 to 1
	Limit          Limit
}

// Figures of the model. Where none is named the source is judgement.
const (
	usualCeiling = .97
	usualWater   = .9   // tended turf is short of water now and then
	usualRate    = .045 // 1/day, the slowest known constant: for an unknown grass
	leafRate     = .15  // 1/day at full growth: two or three mowings bring three quarters of the leaves back (extension)
	runnerShare  = .15  // runners and seed from the rim keep a little going where the size of the patches is not known
	bunchShare   = .03  // of its rate at which a bunch grass closes dead ground
	seedLeft     = .1   // of the bare ground is still open when sown turf is in normal use
	rateSpread   = .4   // standard deviation of the log of the rate between lawns of one grass: four of five from 0.6 to 1.7 times
	aheadSpread  = .15  // the same for weather that is not known yet
	daySpread    = 3.5  // °C, standard deviation of a day's mean about its normal
	eyeError     = .025 // standard deviation of a measured cover; 95 % within 5 points
	lookNoise    = .02  // standard deviation of what a look finds beside the model
	band         = .8   // share of lawns that lie in the band
)

// rates are the factors on the rate of a grass that are reckoned with, and spots the errors of the measured start, each with its weight.
const rates = 31

var spots = []struct{ off, weight float64 }{{-1.22, .3}, {0, .4}, {1.22, .3}}

func factor(i int) float64 { return math.Exp(rateSpread * 3 * (float64(i)/(rates-1)*2 - 1)) }

// prior is how the rates of lawns of one grass are spread: lognormal about 1.
func prior() []float64 {
	out := make([]float64, rates)
	for i := range out {
		z := 3 * (float64(i)/(rates-1)*2 - 1)
		out[i] = math.Exp(-z * z / 2)
	}
	return normed(out)
}

func normed(w []float64) []float64 {
	sum := 0.0
	for _, x := range w {
		sum += x
	}
	for i := range w {
		w[i] /= sum
	}
	return w
}

// widened spreads weights by the doubt about weather that is still ahead.
func widened(w []float64) []float64 {
	step := rateSpread * 6 / (rates - 1)
	out := make([]float64, rates)
	for i := range w {
		for j := range out {
			z := float64(i-j) * step / aheadSpread
			out[j] += w[i] * math.Exp(-z*z/2)
		}
	}
	return normed(out)
}

// lawn is the state of the damaged part: shares of it that sum up to the ceiling.
type lawn struct{ green, brown, dead float64 }

// model is a zone with its grass.
type model struct {
	Start
	grass   turf.Species
	ceiling float64
	rate    float64 // 1/day
	runners float64 // mm a day from the rim; 0 where there are none or the patches are not known
	emerges int     // the day on which seed is up; -1 for none
	fills   float64 // 1/day at full growth: how fast sown ground fills
	unknown bool    // nobody cut crowns
}

func modelOf(s Start, grass turf.Species) model {
	m := model{Start: s, grass: grass, ceiling: s.Ceiling, rate: grass.RecoverPerDay, emerges: -1, unknown: math.IsNaN(s.LiveCrowns)}
	if m.ceiling == 0 {
		m.ceiling = usualCeiling
	}
	if m.rate == 0 {
		m.rate = usualRate
	}
	if grass.Creeping && s.PatchMM > 0 && grass.CloseMMDay.Known() {
		m.runners = math.Sqrt(grass.CloseMMDay.Low * grass.CloseMMDay.High)
	}
	if len(s.Sown) > 0 && grass.Emergence.Known() && grass.SeedToUse.Known() {
		up, use := (grass.Emergence.Low+grass.Emergence.High)/2, (grass.SeedToUse.Low+grass.SeedToUse.High)/2*7
		m.emerges, m.fills = s.Sown[0]+int(up), -math.Log(seedLeft)/math.Max(use-up, 7)
	}
	return m
}

// at is the state on the first day when it shows a cover.
func (m *model) at(cover float64) lawn {
	green := clamp(cover, 0, m.ceiling)
	live := 0.0
	if !m.unknown {
		live = clamp(m.LiveCrowns, 0, 1)
	}
	return lawn{green, (m.ceiling - green) * live, (m.ceiling - green) * (1 - live)}
}

// seen moves a state to the cover that was measured; what is not green keeps its parts.
func (m *model) seen(s lawn, cover float64) lawn {
	green := clamp(cover, 0, m.ceiling)
	rest, left := m.ceiling-green, s.brown+s.dead
	if left < 1e-9 {
		return lawn{green, rest, 0}
	}
	return lawn{green, rest * s.brown / left, rest * s.dead / left}
}

// grow is a day: growth is what weather and water allow, factor the lawn's own. Where nobody cut crowns all that is not green follows the
// logistic dC/dt = r·GP·W·C(1 − C/K); else living ground greens by its leaves, and dead ground closes. patch0 is the dead share of the
// start, from which the size of the patches follows.
func (m *model) grow(s lawn, day int, growth, factor, patch0 float64) lawn {
	g := growth * factor
	base := math.Max(s.green, .02) // bare ground still begins
	var closes, greens float64
	switch {
	case m.unknown:
		closes = m.rate * g * base * s.dead / m.ceiling
	default:
		greens = leafRate * g * s.brown
		alive := s.green + s.brown
		share := bunchShare
		if m.grass.Creeping {
			share = runnerShare
		}
		closes = m.rate * g * math.Max(alive, .02) * share * s.dead / m.ceiling
	}
	if m.runners > 0 && patch0 > 0 && s.dead > 1e-9 {
		// the dead disc of diameter d shrinks by twice the pace: its share goes with the square of the diameter
		d := m.PatchMM * math.Sqrt(s.dead/patch0)
		closes = math.Max(closes, s.dead*(1-square(math.Max(0, d-2*m.runners*g)/d)))
	}
	if m.emerges >= 0 && day > m.emerges {
		closes = math.Max(closes, s.dead*(1-math.Exp(-m.fills*g)))
	}
	closes, greens = math.Min(closes, s.dead), math.Min(greens, s.brown)
	return lawn{s.green + greens + closes, s.brown - greens, s.dead - closes}
}

// growth is the share of its best growth that a day allows, and what holds it back when that is less than half. A day that is still ahead
// is known by its normal alone: its growth is the mean over the days that it may become, which is less than that of the normal where the
// grass grows best.
func (m *model) growth(d Day) (float64, Limit) {
	best, width := m.optimum()
	wide := width * width
	if d.Ahead {
		wide += daySpread * daySpread
	}
	temp, water := width/math.Sqrt(wide)*math.Exp(-square(d.MeanC-best)/2/wide), usualWater
	if !math.IsNaN(d.Water) {
		water = clamp(d.Water, 0, 1)
	}
	g := temp * water
	switch {
	case g >= .5:
		return g, Free
	case water < temp:
		return g, Dry
	case d.MeanC > best:
		return g, Heat
	}
	return g, Cold
}

// optimum is the air temperature of best growth and the width of the bell about it, °C: the grass's own, or those of its family (Gelernter
// and Stowell 2005).
func (m *model) optimum() (best, width float64) {
	switch {
	case m.grass.GrowthSpread != 0:
		return m.grass.GrowthBest, m.grass.GrowthSpread
	case m.grass.Family == turf.Warm:
		return 31, 7
	}
	return 20, 5.5
}

// Measure is one measurement.
type Measure struct {
	Day   int     // days since the start
	Cover float64 // 0 to 1
}

// Course is how a zone is expected to recover: until the last measure as it was expected then, from there on as it is expected now.
type Course struct {
	Points []Point
	// Rate is the zone's own factor on the rate of its grass, as its measures have shown; RateLow and RateHigh hold four of five.
	Rate, RateLow, RateHigh float64
}

// Follow follows a zone day by day from its start. days holds the weather from the day after the start on; measures are in rising order of
// days, those of the start's day left out. Every measure moves the expectation to what was seen, and the weight to the rates that expected
// it.
func Follow(s Start, grass turf.Species, days []Day, measures []Measure) Course {
	m := modelOf(s, grass)
	weights := prior()
	states := make([][]lawn, rates)
	for i := range states {
		states[i] = make([]lawn, len(spots))
	}
	reset := func(cover float64, first bool) {
		for i := range states {
			for k, spot := range spots {
				at := clamp(cover+spot.off*eyeError, 0, 1)
				if first {
					states[i][k] = m.at(at)
				} else {
					states[i][k] = m.seen(states[i][1], at)
				}
			}
		}
	}
	reset(s.Cover, true)
	patch0 := m.at(s.Cover).dead
	c0 := clamp(s.Cover, 0, m.ceiling)
	out := Course{Points: []Point{{Day: 0, Low: c0, Mid: c0, High: c0}}}
	next := 0
	for next < len(measures) && measures[next].Day <= 0 {
		next++
	}
	for i, d := range days {
		growth, limit := m.growth(d)
		for f := range states {
			for k := range states[f] {
				states[f][k] = m.grow(states[f][k], i+1, growth, factor(f), patch0)
			}
		}
		w := weights
		if d.Ahead {
			w = widened(weights)
		}
		p := spread(states, w)
		p.Day, p.Growth, p.Limit = i+1, growth, limit
		out.Points = append(out.Points, p)
		for next < len(measures) && measures[next].Day == i+1 {
			weights = learned(weights, states, measures[next].Cover)
			reset(measures[next].Cover, false)
			next++
		}
	}
	out.Rate, out.RateLow, out.RateHigh = quantile(weights, .5), quantile(weights, (1-band)/2), quantile(weights, (1+band)/2)
	return out
}

// spread is the middle and the band of the states of a day.
func spread(states [][]lawn, weights []float64) Point {
	list := make([]share, 0, rates*len(spots))
	for k, spot := range spots {
		for f := range states {
			list = append(list, share{states[f][k].green, weights[f] * spot.weight})
		}
	}
	slices.SortFunc(list, func(a, b share) int { return cmp.Compare(a.cover, b.cover) })
	return Point{Low: cut(list, (1-band)/2), Mid: cut(list, .5), High: cut(list, (1+band)/2)}
}

type share struct{ cover, weight float64 }

// cut is the cover under which a share q of the weight lies, between two states in proportion.
func cut(list []share, q float64) float64 {
	sum := 0.0
	for i, x := range list {
		if sum+x.weight/2 >= q {
			if i == 0 {
				return x.cover
			}
			before := list[i-1]
			from, to := sum-before.weight/2, sum+x.weight/2
			return before.cover + (x.cover-before.cover)*clamp((q-from)/math.Max(to-from, 1e-12), 0, 1)
		}
		sum += x.weight
	}
	return list[len(list)-1].cover
}

// learned moves weight to the rates that expected what was seen.
func learned(weights []float64, states [][]lawn, seen float64) []float64 {
	out := make([]float64, rates)
	sd := math.Sqrt(2*eyeError*eyeError + lookNoise*lookNoise)
	for f := range weights {
		z := (seen - states[f][1].green) / sd
		// a look far off the whole band says that something else is wrong, not that the lawn is the quickest of all
		out[f] = weights[f] * (math.Exp(-z*z/2) + 1e-3)
	}
	return normed(out)
}

// quantile is the factor under which a share q of the weight lies.
func quantile(weights []float64, q float64) float64 {
	sum := 0.0
	for i, w := range weights {
		if sum+w >= q {
			at := float64(i) - .5 + (q-sum)/math.Max(w, 1e-12)
			return math.Exp(rateSpread * 3 * (at/(rates-1)*2 - 1))
		}
		sum += w
	}
	return factor(rates - 1)
}

// Reach are the days on which four of five lawns, the middle and nearly all reach a cover, counted from a day on; -1 for not within the
// course.
func (c Course) Reach(target float64, from int) (early, mid, late int) {
	early, mid, late = -1, -1, -1
	for _, p := range c.Points[min(max(from, 0), len(c.Points)):] {
		for _, x := range []struct {
			at    *int
			cover float64
		}{{&early, p.High}, {&mid, p.Mid}, {&late, p.Low}} {
			if *x.at < 0 && x.cover >= target {
				*x.at = p.Day
			}
		}
	}
	return early, mid, late
}

// Verdict is what a look says.
type Verdict string

// The verdicts.
const (
	NotYet    Verdict = "not-yet"    // nothing measured since the start
	OnCourse  Verdict = "on-course"  // within the band, or better
	Slow      Verdict = "slow"       // within the band, under the middle, because weather or water held it back
	OffCourse Verdict = "off-course" // under the band: back to the scales
	Recovered Verdict = "recovered"  // the target is reached
)

// Judgement is the verdict with its reason.
type Judgement struct {
	Verdict Verdict
	Reason  string
	Limit   Limit // what held it back where it is slow
}

// A cover under the middle of the band by more than behind is behind (95 % of the error of a look); error95 is what a look under the band
// may be off; a growth under heldBack of its best is an excuse (judgement).
const (
	behind   = .05
	error95  = .05
	heldBack = .5
)

// Judge compares the last measure with what was expected of its day.
func (c Course) Judge(measures []Measure, target float64) Judgement {
	var last *Measure
	since := 0
	for i := range measures {
		if measures[i].Day > 0 && (last == nil || measures[i].Day >= last.Day) {
			if last != nil {
				since = last.Day
			}
			last = &measures[i]
		}
	}
	if last == nil || len(c.Points) == 0 {
		return Judgement{Verdict: NotYet, Reason: "nothing measured since the start"}
	}
	at := c.Points[min(last.Day, len(c.Points)-1)]
	say := fmt.Sprintf("%.0f %% on day %d; expected %.0f to %.0f %%", last.Cover*100, last.Day, at.Low*100, at.High*100)
	growth, limit := c.between(since, last.Day)
	switch {
	case last.Cover >= target-.005:
		return Judgement{Recovered, fmt.Sprintf("%.0f %% on day %d reaches the target of %.0f %%", last.Cover*100, last.Day, target*100), Free}
	case last.Cover < at.Low-error95:
		return Judgement{OffCourse, say + ": diagnose it again; no response to the treatment is evidence too", Free}
	case growth < heldBack && limit != Free && last.Cover < at.Mid+behind: // whoever is ahead of its day is not slow
		return Judgement{Slow, say + fmt.Sprintf("; %s let it grow at %.0f %% of its best", limitSaid[limit], growth*100), limit}
	case last.Cover < at.Mid-behind:
		return Judgement{Slow, say + "; within the band, on its lower side", Free}
	}
	return Judgement{OnCourse, say, Free}
}

var limitSaid = map[Limit]string{Cold: "cold", Heat: "heat", Dry: "drought"}

// between is the mean growth after one day up to another, and what held it back most.
func (c Course) between(from, to int) (float64, Limit) {
	sum, n := 0.0, 0
	days := map[Limit]int{}
	for _, p := range c.Points {
		if p.Day > from && p.Day <= to {
			sum, n = sum+p.Growth, n+1
			days[p.Limit]++
		}
	}
	if n == 0 {
		return 1, Free
	}
	most := Free
	for _, l := range []Limit{Cold, Heat, Dry} {
		if days[l] > 0 && (most == Free || days[l] > days[most]) {
			most = l
		}
	}
	return sum / float64(n), most
}

// Progress is the area under the disease progress curve in per cent days, Σ (yᵢ + yᵢ₊₁)/2 · (tᵢ₊₁ − tᵢ), from pairs of
// day and per cent affected in rising order of days.
func Progress(days, percent []float64) (float64, error) {
	if len(days) != len(percent) {
		return 0, fmt.Errorf("%d days and %d readings", len(days), len(percent))
	}
	area := 0.0
	for i := 1; i < len(days); i++ {
		if days[i] <= days[i-1] {
			return 0, fmt.Errorf("day %g does not come after day %g", days[i], days[i-1])
		}
		area += (percent[i] + percent[i-1]) / 2 * (days[i] - days[i-1])
	}
	return area, nil
}

func square(x float64) float64 { return x * x }

func clamp(x, low, high float64) float64 { return math.Max(low, math.Min(high, x)) }
