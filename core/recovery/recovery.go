// Package recovery says what a damaged zone should look like from day to day, and whether what is measured keeps to it.
package recovery

import (
	"fmt"
	"math"

	"hodos/core/turf"
)

// Start is the state from which recovery is counted.
type Start struct {
	Cover      float64 // green cover, 0 to 1
	LiveCrowns float64 // share of crowns alive, 0 to 1; NaN for unknown
	Ceiling    float64 // the cover that the site can carry, 0 to 1; 0 stands for 0.97
}

// Point is the expected cover of one day.
type Point struct {
	Day            int // days since the start
	Low, Mid, High float64
	Growth         float64 // growth potential that day
}

// Spread of the growth constant between lawns of one species: half slower, half as fast again (judgement).
const (
	slowest = .5
	fastest = 1.5
)

// Expect follows cover day by day: dC/dt = r·GP(T)·W·C(1 − C/K), in steps of a day. meanC holds the expected daily mean
// air temperature in °C from the day after the start on; water is the share of full water supply, 0 to 1. learned
// multiplies r by what the zone itself has shown (1 for nothing yet). Bare ground without living crowns closes only from
// the rim, so that growth is counted on the living share alone. An unknown grass takes the slowest known constant.
func Expect(s Start, grass turf.Species, meanC []float64, water, learned float64) []Point {
	r := grass.RecoverPerDay
	if r == 0 {
		r = .045
	}
	k := s.Ceiling
	if k == 0 {
		k = .97
	}
	live := 1.0
	if !math.IsNaN(s.LiveCrowns) {
		live = .15 + .85*clamp(s.LiveCrowns, 0, 1) // runners and seed from the rim keep a little going (judgement)
	}
	if !grass.Creeping && !math.IsNaN(s.LiveCrowns) {
		live = clamp(s.LiveCrowns, .03, 1) // bunch grasses hardly close
	}
	step := func(c, gp, pace float64) float64 {
		base := math.Max(c, .02)
		return clamp(c+r*pace*learned*live*gp*clamp(water, 0, 1)*base*(1-c/k), 0, k)
	}
	c0 := clamp(s.Cover, 0, k)
	out := []Point{{0, c0, c0, c0, 0}}
	low, mid, high := c0, c0, c0
	for d, t := range meanC {
		gp := turf.GrowthPotential(grass.Family, t)
		low, mid, high = step(low, gp, slowest), step(mid, gp, 1), step(high, gp, fastest)
		out = append(out, Point{d + 1, low, mid, high, gp})
	}
	return out
}

// Measure is one measurement.
type Measure struct {
	Day   int     // days since the start
	Cover float64 // 0 to 1
}

// Verdict is what a look says.
type Verdict string

// The verdicts.
const (
	NotYet    Verdict = "not-yet"    // nothing measured since the start
	OnCourse  Verdict = "on-course"  // within the band, or better
	Slow      Verdict = "slow"       // under the middle, and the weather explains it
	OffCourse Verdict = "off-course" // under the band: back to the scales
	Recovered Verdict = "recovered"  // the target is reached
)

// Judgement is the verdict with its reason and the day on which the target should be reached.
type Judgement struct {
	Verdict Verdict
	Reason  string
	Target  float64
	Reached int // day on which the middle of the band reaches the target; −1 when it does not within the series
}

// measured cover by eye or grid is good to about this (judgement).
const error95 = .05

// Judge compares the measures with the expected course.
func Judge(course []Point, measures []Measure, target float64) Judgement {
	j := Judgement{Verdict: NotYet, Target: target, Reached: -1, Reason: "nothing measured since the start"}
	for _, p := range course {
		if p.Mid >= target {
			j.Reached = p.Day
			break
		}
	}
	var last *Measure
	for i := range measures {
		if measures[i].Day > 0 && (last == nil || measures[i].Day >= last.Day) {
			last = &measures[i]
		}
	}
	if last == nil || len(course) == 0 {
		return j
	}
	at := course[min(last.Day, len(course)-1)]
	gp, n := 0.0, 0.0
	for _, p := range course {
		if p.Day > 0 && p.Day <= last.Day {
			gp, n = gp+p.Growth, n+1
		}
	}
	if n > 0 {
		gp /= n
	}
	say := fmt.Sprintf("%.0f %% on day %d; expected %.0f to %.0f %%", last.Cover*100, last.Day, at.Low*100, at.High*100)
	switch {
	case last.Cover >= target-.005:
		j.Verdict, j.Reason = Recovered, fmt.Sprintf("%.0f %% on day %d reaches the target of %.0f %%", last.Cover*100, last.Day, target*100)
	case last.Cover < at.Low-error95:
		j.Verdict, j.Reason = OffCourse, say+": diagnose it again; no response to the treatment is evidence too"
	case last.Cover < at.Mid-error95 && gp < .3:
		j.Verdict, j.Reason = Slow, say+fmt.Sprintf("; the weather let it grow at %.0f %% of its best", gp*100)
	case last.Cover < at.Mid-error95:
		j.Verdict, j.Reason = Slow, say+"; within the band, on its lower side"
	default:
		j.Verdict, j.Reason = OnCourse, say
	}
	return j
}

// Learn gives the factor on r that the zone's own measures show, between 0.5 and 2; 1 with fewer than two measures. It is the
// ratio of measured to expected growth on the logit scale, half believed (judgement).
func Learn(course []Point, measures []Measure) float64 {
	if len(measures) < 2 || len(course) < 2 {
		return 1
	}
	first, last := measures[0], measures[len(measures)-1]
	if last.Day <= first.Day || last.Day >= len(course) {
		return 1
	}
	logit := func(c float64) float64 { c = clamp(c, .01, .99); return math.Log(c / (1 - c)) }
	want := logit(course[last.Day].Mid) - logit(course[first.Day].Mid)
	got := logit(last.Cover) - logit(first.Cover)
	if want < .05 {
		return 1
	}
	return clamp(1+.5*(got/want-1), .5, 2)
}

// Renew is the course as it was expected up to the last look, and from there on begun anew at what was measured, with the rate that the
// zone itself has shown. reached is the day on which that reaches the target; −1 for none within the series.
func Renew(
	s Start,
	grass turf.Species,
	meanC []float64,
	water float64,
	measures []Measure,
	target float64,
) (course []Point, learned float64,
	reached int) {
	course = Expect(s, grass, meanC, water, 1)
	learned, reached = Learn(course, measures), -1
	if n := len(measures); n > 0 && measures[n-1].Day > 0 && measures[n-1].Day < len(course) {
		last := measures[n-1]
		s.Cover = last.Cover
		for _, p := range Expect(s, grass, meanC[last.Day:], water, learned)[1:] {
			p.Day += last.Day
			course[p.Day] = p
		}
		if last.Cover >= target {
			return course, learned, last.Day
		}
	}
	for _, p := range course {
		if p.Mid >= target && (len(measures) == 0 || p.Day > measures[len(measures)-1].Day) {
			return course, learned, p.Day
		}
	}
	return course, learned, -1
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

func clamp(x, low, high float64) float64 { return math.Max(low, math.Min(high, x)) }
