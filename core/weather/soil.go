package weather

import (
	"math"
	"time"
)

// Reading is a soil temperature that was measured.
type Reading struct {
	Date  time.Time
	Hour  float64 // local clock time, 0 to 24
	TempC float64 // at 50 mm
}

// Canopy is what stands over the soil.
type Canopy struct {
	HeightMM float64 // 0 for unknown
	Thin     bool
	Dry      bool
	Shade    float64 // share of the sun that is missing, 0 to 1
}

// Constants of the soil course (judgement, after Zheng, Hunt and Running 1993, Climate Research 2, who give a lag of eleven
// days and a rate of 0.25 for daily means near 100 mm under a canopy; 50 mm under turf answers sooner).
const (
	airMemory   = 5     // days of the air's running mean
	warmingRate = .25   // a day, before the canopy
	coolingRate = .25   // a day
	canopyDamp  = .12   // per unit of leaf area, on warming
	usualLeaf   = 2.0   // leaf area of a mown lawn
	damping     = .62   // amplitude at 50 mm of that of the air, moist and closed
	peakHour    = 16.5  // of the course at 50 mm
	offsetDays  = 10.0  // over which a reading's correction decays
	snowHolds   = 5.0   // cm of snow that keep the soil from freezing on
	clearing    = 150.0 // mm of height at which the canopy damps most
)

// SoilDay is the soil at 50 mm on one day: its mean and the amplitude of its daily wave, °C.
type SoilDay struct{ Mean, Amplitude float64 }

// At is the temperature at a local clock time: a wave that peaks in mid-afternoon.
func (s SoilDay) At(hour float64) float64 {
	return s.Mean + s.Amplitude*math.Cos(2*math.Pi*(hour-peakHour)/24)
}

// Peak is the warmest of the afternoon.
func (s SoilDay) Peak() float64 { return s.Mean + s.Amplitude }

// SoilCourse follows the soil at 50 mm from daily air temperatures: a damped mean that lags behind the air, with a daily wave.
// The canopy damps warming and the wave; thin or dry turf has a larger one. Readings correct the course from their day on,
// each at its own hour, and back over the days before; the correction decays over ten days. Days without temperatures
// carry the mean on; before the first measured day it is NaN.
func SoilCourse(days []Day, c Canopy, readings []Reading) []SoilDay {
	leaf := usualLeaf
	if c.HeightMM > 0 {
		leaf = math.Max(.6, math.Min(3.5, c.HeightMM/30))
	}
	if c.Thin {
		leaf *= .5
	}
	warm := warmingRate * math.Exp(-canopyDamp*leaf)
	wave := damping * math.Exp(-canopyDamp*(leaf-usualLeaf)) * (1 - .3*math.Max(0, math.Min(1, c.Shade)))
	if c.Dry {
		wave *= 1.15
	}
	out := make([]SoilDay, len(days))
	mean, amplitude := math.NaN(), 0.0
	var recent []float64
	for i, d := range days {
		if t, ok := d.Mean(); ok {
			recent = append(recent, t)
			if len(recent) > airMemory {
				recent = recent[1:]
			}
			air := avg(recent)
			if math.IsNaN(mean) {
				mean = air
			}
			rate := coolingRate
			if air > mean {
				rate = warm
			}
			covered := d.Snow != nil && *d.Snow >= snowHolds
			if covered && air < mean {
				rate *= .2
			}
			mean += (air - mean) * rate
			amplitude = wave * (*d.TMax - *d.TMin) / 2
			if covered {
				mean, amplitude = math.Max(mean, 0), amplitude*.1
			}
		}
		out[i] = SoilDay{mean, amplitude}
	}
	for _, r := range readings {
		for i, d := range days {
			if d.Date.Equal(r.Date) && !math.IsNaN(out[i].Mean) {
				correct(out, i, r.TempC-out[i].At(r.Hour))
			}
		}
	}
	return out
}

func correct(out []SoilDay, at int, offset float64) {
	for i := range out {
		if off := math.Abs(float64(i - at)); off < offsetDays {
			out[i].Mean += offset * (1 - off/offsetDays)
		}
	}
}

// DegreeDays of one day over a base, held to an upper limit, °C·d. method "mean" takes the mean of the extremes, "sine" the
// area of a sine between them over the base (Baskerville and Emin 1969); the upper limit cuts horizontally. A limit of 0 is
// none.
func DegreeDays(tmin, tmax, base, limit float64, method string) float64 {
	if tmin > tmax {
		tmin, tmax = tmax, tmin
	}
	if method != "sine" {
		hi, lo := tmax, tmin
		if limit > 0 {
			hi, lo = math.Min(hi, limit), math.Min(lo, limit)
		}
		return math.Max(0, (hi+lo)/2-base)
	}
	over := func(base float64) float64 {
		mean, half := (tmin+tmax)/2, (tmax-tmin)/2
		switch {
		case tmin >= base:
			return mean - base
		case tmax <= base:
			return 0
		}
		a := math.Asin((base - mean) / half)
		return ((mean-base)*(math.Pi/2-a) + half*math.Cos(a)) / math.Pi
	}
	dd := over(base)
	if limit > 0 {
		dd -= over(limit)
	}
	return math.Max(0, dd)
}

// DegreeWindow is one window by accumulated degree days: data that a specialist may change.
type DegreeWindow struct {
	ID, Label    string
	Base, Limit  float64 // °C
	Method       string  // mean or sine
	Month        time.Month
	Opens, Peaks float64 // °C·d at which it opens and at which it closes again
	Cause        string  // whose season it is; "" for work
	Species      string  // the only grass for which the work matters; "" for all
	Source       string
}

// DegreeWindows lists them; the start is the first of Month in the north, half a year later in the south.
var DegreeWindows = []DegreeWindow{
	{"crabgrass-germination", "Crabgrass germinates", 10, 0, "mean", time.January, 110, 280, "", "", "extension: base 10 °C from 1 January; figures judgement"},
	{"seed-heads-annual-bluegrass", "Annual bluegrass heads", 0, 0, "mean", time.January, 280, 360, "", "annual-bluegrass", "extension: regulators before heading; figures judgement"},
	{"billbug-adults", "Billbug adults walk", 10, 0, "sine", time.March, 155, 310, "billbugs", "", "extension: base 10 °C from 1 March; figures judgement"},
	{"white-grub-eggs", "Grubs hatch", 10, 0, "sine", time.January, 520, 950, "white-grubs", "", "extension: masked chafers and Japanese beetles; figures judgement"},
	{"sod-webworm-flight", "Webworm moths fly", 10, 30, "sine", time.March, 400, 1600, "sod-webworms", "", "extension; figures judgement"},
	{"chinch-bug-nymphs", "Chinch bug nymphs", 7, 0, "sine", time.January, 700, 1900, "chinch-bugs", "", "extension: base 7 °C; figures judgement"},
}

// Since starts the sum of a degree window for a day: the last first of the month, turned in the south.
func (w DegreeWindow) Since(day time.Time, latitude float64) time.Time {
	month := w.Month
	if latitude < 0 {
		month = (w.Month+5)%12 + 1
	}
	from := time.Date(day.Year(), month, 1, 0, 0, 0, 0, time.UTC)
	if from.After(day) {
		from = from.AddDate(-1, 0, 0)
	}
	return from
}
