// Package trial reads what treated and untreated plots of a lawn tell: the area under each curve, how much a treatment suppressed, what a
// dose does, and what such an area hides.
package trial

import (
	"cmp"
	"math"
	"slices"

	"hodos/core/figures"
	"hodos/core/recovery"
)

// Reading is the share affected of a plot on a day, in per cent.
type Reading struct {
	Day     float64 // since the trial began
	Percent float64
}

// Plot is one plot or strip.
type Plot struct {
	Name      string
	Treatment string  // empty for untreated
	Dose      float64 // 0 for untreated; in whatever unit the trial uses
	Void      bool    // something happened to it: its readings do not count
	Readings  []Reading
	Uptake    *float64 // what the leaves took up of it, per cent of dry matter; nil for not measured
}

// Area is the area under a plot's curve, in per cent days, and over its span the mean per cent; false without two days.
func (p Plot) Area() (area, mean float64, ok bool) {
	list := slices.Clone(p.Readings)
	slices.SortStableFunc(list, func(a, b Reading) int { return cmp.Compare(a.Day, b.Day) })
	var days, percent []float64
	for _, r := range list {
		if n := len(days); n > 0 && days[n-1] == r.Day {
			percent[n-1] = r.Percent // read twice on a day: the later counts
			continue
		}
		days, percent = append(days, r.Day), append(percent, r.Percent)
	}
	if len(days) < 2 {
		return 0, 0, false
	}
	area, err := recovery.Progress(days, percent)
	if err != nil {
		return 0, 0, false
	}
	return area, area / (days[len(days)-1] - days[0]), true
}

// Group is all plots of one treatment.
type Group struct {
	Treatment string // empty for untreated
	Dose      float64
	Plots     int
	Area      figures.Mean // per cent days
	sd        float64
	Last      figures.Mean // per cent on the last day that was read
	// Suppressed is what it kept away of what the untreated plots had, per cent; nil for the untreated, and where nothing can be said.
	Suppressed *Interval
}

// Interval is a figure with its 95 % limits; Open says that one side of them has no end.
type Interval struct {
	Value, Low, High float64
	Open             bool
}

// Line is a regression y = At + Slope·x by least squares.
type Line struct {
	N         int
	At, Slope float64
	Low, High float64 // 95 % of the slope
	Fits      float64 // r²
}

// Caution is something that the area under the curve does not show.
type Caution string

// The cautions.
const (
	FewDays  Caution = "few-days"   // fewer than four days were read: the curve between them is a guess
	FewPlots Caution = "few-plots"  // a treatment has a single plot: nothing can be said of chance
	Crosses  Caution = "crosses"    // by the area one is better, on the last day the other
	AtTheEnd Caution = "at-the-end" // alike by the area, apart on the last day
	Gaps     Caution = "gaps"       // a gap between two days is three times the usual one
	Voided   Caution = "voided"     // plots were left out
	NoneSick Caution = "none-sick"  // the untreated plots hardly had anything: there was nothing to suppress
)

// Outcome is what a trial tells.
type Outcome struct {
	Groups   []Group // untreated first, then by treatment and dose
	Doses    *Line   // area on dose, over all plots; nil with fewer than three doses
	Uptake   *Line   // uptake on dose; nil where it was not measured on three plots
	Cautions []Caution
}

// Figures of the cautions (judgement): days, the share by which areas are alike, and the per cent that counts as ill.
const (
	enoughDays = 4
	alike      = .15
	apart      = 10.0 // points on the last day
	gapTimes   = 3.0
	hardlyIll  = 2.0 // mean per cent of the untreated
)

// Read works out a trial. Plots without two days of readings are left out.
func Read(plots []Plot) Outcome {
	var out Outcome
	by := map[[2]any][]Plot{}
	var keys [][2]any
	caution := func(c Caution) {
		if !slices.Contains(out.Cautions, c) {
			out.Cautions = append(out.Cautions, c)
		}
	}
	var counted []Plot
	for _, p := range plots {
		if p.Void {
			caution(Voided)
			continue
		}
		if _, _, ok := p.Area(); !ok {
			continue
		}
		counted = append(counted, p)
		k := [2]any{p.Treatment, p.Dose}
		if by[k] == nil {
			keys = append(keys, k)
		}
		by[k] = append(by[k], p)
		if len(p.Readings) < enoughDays {
			caution(FewDays)
		}
		if gappy(p.Readings) {
			caution(Gaps)
		}
	}
	for _, k := range keys {
		g := groupOf(by[k])
		if g.Plots < 2 {
			caution(FewPlots)
		}
		out.Groups = append(out.Groups, g)
	}
	slices.SortStableFunc(out.Groups, func(a, b Group) int {
		return cmp.Or(cmp.Compare(a.Treatment, b.Treatment), cmp.Compare(a.Dose, b.Dose))
	})
	out.suppress(caution)
	out.Doses, out.Uptake = onDose(counted)
	return out
}

// groupOf sums up plots of one treatment.
func groupOf(plots []Plot) Group {
	g := Group{Treatment: plots[0].Treatment, Dose: plots[0].Dose, Plots: len(plots)}
	var areas, last []float64
	for _, p := range plots {
		a, _, _ := p.Area()
		areas = append(areas, a)
		newest := slices.MaxFunc(p.Readings, func(a, b Reading) int { return cmp.Compare(a.Day, b.Day) })
		last = append(last, newest.Percent)
	}
	g.Area, g.Last, g.sd = figures.MeanOf(areas), figures.MeanOf(last), spread(areas)
	return g
}

func spread(x []float64) float64 {
	if len(x) < 2 {
		return 0
	}
	mean, sum := 0.0, 0.0
	for _, v := range x {
		mean += v / float64(len(x))
	}
	for _, v := range x {
		sum += (v - mean) * (v - mean)
	}
	return math.Sqrt(sum / float64(len(x)-1))
}

func gappy(list []Reading) bool {
	days := make([]float64, len(list))
	for i, r := range list {
		days[i] = r.Day
	}
	slices.Sort(days)
	var gaps []float64
	for i := 1; i < len(days); i++ {
		gaps = append(gaps, days[i]-days[i-1])
	}
	if len(gaps) < 3 {
		return false
	}
	return slices.Max(gaps) >= gapTimes*figures.MiddleOf(gaps).Median
}

// suppress holds each treatment against the untreated plots.
func (o *Outcome) suppress(caution func(Caution)) {
	if len(o.Groups) == 0 || o.Groups[0].Treatment != "" {
		return
	}
	u := o.Groups[0]
	if u.Last.Mean < hardlyIll && u.Area.Mean < hardlyIll*7 {
		caution(NoneSick)
	}
	for i := 1; i < len(o.Groups); i++ {
		g := &o.Groups[i]
		if g.Treatment == "" {
			continue
		}
		g.Suppressed = suppression(*g, u)
		byArea, atEnd := u.Area.Mean-g.Area.Mean, u.Last.Mean-g.Last.Mean
		switch {
		case math.Abs(byArea) < alike*u.Area.Mean && math.Abs(atEnd) >= apart:
			caution(AtTheEnd)
		case byArea*atEnd < 0 && math.Abs(atEnd) >= apart:
			caution(Crosses)
		}
	}
}

// suppression is 100·(1 − treated/untreated) with limits by Fieller's theorem (1954) for two independent means with a pooled spread:
// without end where the untreated plots are too unlike each other to be told from nought. A group of one plot has the value alone.
func suppression(g, u Group) *Interval {
	if u.Area.Mean <= 0 {
		return nil
	}
	ratio := g.Area.Mean / u.Area.Mean
	out := &Interval{Value: 100 * (1 - ratio)}
	df := g.Plots + u.Plots - 2
	if g.Plots < 2 || u.Plots < 2 {
		out.Open = true
		return out
	}
	pooled := (float64(g.Plots-1)*g.sd*g.sd + float64(u.Plots-1)*u.sd*u.sd) / float64(df)
	t := figures.T95(df)
	a := u.Area.Mean*u.Area.Mean - t*t*pooled/float64(u.Plots)
	b := g.Area.Mean * u.Area.Mean
	c := g.Area.Mean*g.Area.Mean - t*t*pooled/float64(g.Plots)
	if a <= 0 || b*b-a*c < 0 {
		out.Open = true
		return out
	}
	root := math.Sqrt(b*b - a*c)
	out.Low, out.High = 100*(1-(b+root)/a), math.Min(100, 100*(1-(b-root)/a))
	return out
}

// onDose are the regressions on dose.
func onDose(plots []Plot) (area, uptake *Line) {
	var x, y, ux, uy []float64
	doses := map[float64]bool{}
	for _, p := range plots {
		a, _, _ := p.Area()
		x, y = append(x, p.Dose), append(y, a)
		doses[p.Dose] = true
		if p.Uptake != nil {
			ux, uy = append(ux, p.Dose), append(uy, *p.Uptake)
		}
	}
	if len(doses) >= 3 {
		area = fit(x, y)
	}
	return area, fit(ux, uy)
}

// fit is a line through at least three points that do not all stand at one place.
func fit(x, y []float64) *Line {
	n := len(x)
	if n < 3 {
		return nil
	}
	mx, my := 0.0, 0.0
	for i := range x {
		mx, my = mx+x[i]/float64(n), my+y[i]/float64(n)
	}
	sxx, sxy, syy := 0.0, 0.0, 0.0
	for i := range x {
		sxx += (x[i] - mx) * (x[i] - mx)
		sxy += (x[i] - mx) * (y[i] - my)
		syy += (y[i] - my) * (y[i] - my)
	}
	if sxx == 0 {
		return nil
	}
	l := &Line{N: n, Slope: sxy / sxx}
	l.At = my - l.Slope*mx
	left := math.Max(0, syy-l.Slope*sxy)
	half := figures.T95(n-2) * math.Sqrt(left/float64(n-2)/sxx)
	l.Low, l.High = l.Slope-half, l.Slope+half
	if syy > 0 {
		l.Fits = 1 - left/syy
	}
	return l
}
