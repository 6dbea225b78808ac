// Package soil follows the water in a zone's root zone day by day, and works out watering: rate and uniformity from catch
// cans, minutes, cycles and soaks, litres and cost, and when a zone will need water. Depths are mm, areas m².
package soil

import (
	"math"
	"time"

	"hodos/core/weather"
)

// AvailableWater is the water that a soil holds for plants, mm per m of depth (extension tables; loam where unknown).
var AvailableWater = map[string]float64{"sand": 60, "loamy-sand": 80, "sandy-loam": 120, "loam": 170, "silt-loam": 200, "clay-loam": 180,
	"clay": 150}

// Infiltration is the rain that a soil takes in, mm/h, level and sound (extension tables; loam where unknown).
var Infiltration = map[string]float64{"sand": 50, "loamy-sand": 35, "sandy-loam": 20, "loam": 12, "silt-loam": 8, "clay-loam": 6, "clay": 3}

// Turf coefficients and depletion fractions are seasonal means: 0.80 and 0.40 for cool-season, 0.60 and 0.50 for warm-season
// turf (extension; FAO-56 table 22 for p).
const (
	coolCoefficient, warmCoefficient = .80, .60
	coolFraction, warmFraction       = .40, .50
	coolRoots, warmRoots             = 150.0, 220.0 // mm, where no core says (judgement)
	dormantCoefficient               = .25          // of the turf coefficient, at rest (judgement)
	startDepletion                   = .3           // share of the available water missing on the first day (judgement)
	usualStorm                       = 8.0          // mm/h: how fast rain falls where only the day's sum is known (judgement)
)

// Zone is what the balance has to know of a zone. Zero values stand for "not known" and take the usual figure.
type Zone struct {
	Latitude, ElevationM float64
	Warm                 bool
	Texture              string
	RootDepthMM          float64
	Shade                float64  // share of the sun that is missing, 0 to 1
	SlopePercent         float64  // over 8 halves what goes in
	Compacted            bool     // or crusted
	Repellent            bool     // strongly
	InfiltrationMMH      *float64 // measured; goes before the table
	HeightMM             float64
	Dormant              bool
	Uniformity           float64  // low-quarter distribution uniformity, 0 to 1; 0 for 0.7
	WeeklyWaterMM        *float64 // what is given a week where the days do not say
}

// Total is the available water in the root zone, mm.
func (z Zone) Total() float64 {
	awc, ok := AvailableWater[z.Texture]
	if !ok {
		awc = AvailableWater["loam"]
	}
	depth := z.RootDepthMM
	if depth <= 0 {
		depth = coolRoots
		if z.Warm {
			depth = warmRoots
		}
	}
	return awc * depth / 1000
}

// Intake is the water that goes in, mm/h, on this slope and ground.
func (z Zone) Intake() float64 {
	if z.InfiltrationMMH != nil {
		return math.Max(.1, *z.InfiltrationMMH)
	}
	rate, ok := Infiltration[z.Texture]
	if !ok {
		rate = Infiltration["loam"]
	}
	if z.SlopePercent > 8 {
		rate /= 2
	}
	switch { // 0.1 to 0.3 of it (judgement)
	case z.Repellent:
		rate *= .15
	case z.Compacted:
		rate *= .25
	}
	return rate
}

// Coefficient turns reference evapotranspiration into that of the turf: by family, scaled by shade, height and rest
// (judgement: full shade takes half away, each 25 mm over or under 60 adds or takes 4 %).
func (z Zone) Coefficient() float64 {
	kc := coolCoefficient
	if z.Warm {
		kc = warmCoefficient
	}
	kc *= 1 - .5*math.Max(0, math.Min(1, z.Shade))
	if z.HeightMM > 0 {
		kc *= 1 + .04*math.Max(-1.5, math.Min(2, (z.HeightMM-60)/25))
	}
	if z.Dormant {
		kc *= dormantCoefficient
	}
	return kc
}

// Fraction p of the available water that turf takes up without stress at an evapotranspiration of etc mm/day (FAO-56,
// table 22 and its adjustment p + 0.04 (5 − ETc), within 0.1 to 0.8).
func (z Zone) Fraction(etc float64) float64 {
	p := coolFraction
	if z.Warm {
		p = warmFraction
	}
	return math.Max(.1, math.Min(.8, p+.04*(5-etc)))
}

// applied is the share of what a sprinkler gives that reaches the root zone, the rest is blown away or dries off (extension: 0.8 to
// 0.9 in the early morning).
const applied = .85

// unmeasured is the uniformity of a zone on which nobody set out cans (judgement: usual of sprays and rotors).
const unmeasured = .7

// Multiplier is how much more must be given than the root zone lacks, so that the dry quarter has enough and the rest is not drowned:
// 1 / (0.4 + 0.6 DU), scheduling method of the Irrigation Association. DU is held to 0.3 to 1.
func (z Zone) Multiplier() float64 {
	du := z.Uniformity
	if du <= 0 {
		du = unmeasured
	}
	return 1 / (.4 + .6*math.Max(.3, math.Min(1, du)))
}

// Check is what a core or a probe showed: the depletion is set to it where it is further off than Least.
type Check struct {
	Date  time.Time
	Share float64 // of the available water that is missing, 0 to 1
	Least float64 // share; 0 sets it always
}

// ShareOf is the depletion that a moisture class felt in a core stands for (judgement); ok is false for no class.
func ShareOf(class string) (share float64, ok bool) {
	switch class {
	case "dry":
		return .9, true
	case "slightly-moist":
		return .55, true
	case "moist":
		return .2, true
	case "wet", "saturated":
		return 0, true
	}
	return 0, false
}

// wilting is the water that a soil keeps from plants, % by volume (middles of the ranges of FAO-56, table 19).
var wilting = map[string]float64{"sand": 4.5, "loamy-sand": 6.5, "sandy-loam": 11, "loam": 12, "silt-loam": 15, "clay-loam": 20, "clay": 22}

// ShareOfVolume is the depletion that a probe's water by volume (%, 0 to 100) stands for in a soil (loam where unknown): nothing
// is missing at what it holds against gravity, all at wilting. A probe that is not calibrated for the soil is a few per cent off.
func ShareOfVolume(percent float64, texture string) float64 {
	holds, ok := AvailableWater[texture]
	if !ok {
		texture, holds = "loam", AvailableWater["loam"]
	}
	full := wilting[texture] + holds/10
	return math.Max(0, math.Min(1, (full-percent)/(full-wilting[texture])))
}

// Day is one day of the balance, mm.
type Day struct {
	Date                     time.Time
	ET0, ETc, Ks             float64
	Rain, Irrigation, Runoff float64
	Drainage, Depletion      float64
	Checked                  bool    // set to what a core showed
	Gap                      bool    // no temperatures: nothing was taken
	Mean                     float64 // of the air, °C; NaN where not measured
}

// Balance is the course of a zone's water.
type Balance struct {
	Days    []Day
	Total   float64 // available water in the root zone, mm
	Assumed []string
}

// Run follows depletion through the days (FAO-56 chapter 8): what is lost to the turf, held back by stress, and what comes
// in by rain and irrigation less runoff; what is too much drains. Days without temperatures take nothing and are marked.
func Run(z Zone, days []weather.Day, checks []Check) Balance {
	b := Balance{Total: z.Total(), Days: make([]Day, 0, len(days))}
	assume := map[string]bool{}
	say := func(what string) {
		if !assume[what] {
			assume[what] = true
			b.Assumed = append(b.Assumed, what)
		}
	}
	if _, ok := AvailableWater[z.Texture]; !ok {
		say("texture: loam")
	}
	if z.RootDepthMM <= 0 {
		say("root depth: usual for the grass")
	}
	kc, intake := z.Coefficient(), z.Intake()
	at := map[time.Time]Check{}
	for _, c := range checks {
		at[c.Date] = c
	}
	d := startDepletion * b.Total
	for _, w := range days {
		given := 0.0
		switch {
		case w.Irrigation != nil:
			given = *w.Irrigation
		case z.WeeklyWaterMM != nil:
			given = *z.WeeklyWaterMM / 7
		}
		out, assumed := z.step(w, d, b.Total, kc, intake, given)
		for _, a := range assumed {
			say(a)
		}
		if c, ok := at[w.Date]; ok && math.Abs(c.Share*b.Total-out.Depletion) >= c.Least*b.Total {
			out.Depletion, out.Checked = c.Share*b.Total, true
		}
		d = out.Depletion
		b.Days = append(b.Days, out)
	}
	return b
}

// step takes the root zone, of which d mm of total are missing, through a day on which so many mm are given.
func (z Zone) step(w weather.Day, d, total, kc, intake, given float64) (out Day, assumed []string) {
	out = Day{Date: w.Date, Ks: 1, Mean: math.NaN(), Irrigation: given}
	if t, ok := w.Mean(); ok {
		out.Mean = t
	}
	e := weather.Evaporate(w, z.Latitude, z.ElevationM)
	if e.Possible {
		out.ET0, assumed = e.MM, e.Assumed
		etc := kc * e.MM
		if ready := (1 - z.Fraction(etc)) * total; ready > 0 {
			out.Ks = math.Max(0, math.Min(1, (total-d)/ready))
		}
		out.ETc = etc * out.Ks
	} else {
		out.Gap = true
	}
	if w.Rain != nil {
		out.Rain = *w.Rain
		out.Runoff = runoff(w, intake)
	}
	d += out.ETc - (out.Rain - out.Runoff) - given*applied
	if d < 0 {
		out.Drainage, d = -d, 0
	}
	out.Depletion = math.Min(d, total)
	return out, assumed
}

// runoff is what falls faster than the ground takes it in: by the hours where they are known, else as if the day's rain fell
// at the usual rate of a storm.
func runoff(d weather.Day, intake float64) float64 {
	if d.Hours != nil {
		sum, known := 0.0, 0
		for _, x := range d.Hours.Rain {
			if !math.IsNaN(x) {
				known++
				sum += math.Max(0, x-intake)
			}
		}
		if known >= weather.Least {
			return sum
		}
	}
	if intake >= usualStorm {
		return 0
	}
	return *d.Rain * (1 - intake/usualStorm)
}

// Share of the available water that is missing on a day, 0 to 1.
func (b Balance) Share(i int) float64 {
	if b.Total <= 0 {
		return 0
	}
	return b.Days[i].Depletion / b.Total
}

// DryShare is the share of the available water that is missing on a day that counts against what a grass stands.
const DryShare = .85

// Figures of the clock of endurance (judgement).
const (
	clockBack   = 2.0  // days that a day with water gives back
	clockReset  = 12.0 // mm within two days that set it to nought, where the water stays
	clockHeld   = 3    // days for which it must stay
	clockShare  = .5   // under this share missing
	clockWarmth = 10.0 // °C, daily mean: colder days do not count
)

// Clock is how many days of drought stand against a grass up to and with index i, and the index of the first of them (−1 for none).
// It leaks: a day past 85 % counts one, a day under it gives two back, so that a shower does not wipe out a month. Only 12 mm
// within two days that keep the root zone under half empty for three days set it to nought.
func (b Balance) Clock(i int) (days float64, since int) {
	since = -1
	for k := 0; k <= i && k < len(b.Days); k++ {
		switch {
		case b.Share(k) >= DryShare-1e-9:
			if b.Days[k].Mean < clockWarmth {
				continue
			}
			if days == 0 {
				since = k
			}
			days++
		case b.refilled(k):
			days = 0
		default:
			days = math.Max(0, days-clockBack)
		}
		if days == 0 {
			since = -1
		}
	}
	return days, since
}

// refilled reports whether a good watering has held for three days up to k.
func (b Balance) refilled(k int) bool {
	if k < clockHeld {
		return false
	}
	for j := k - clockHeld + 1; j <= k; j++ {
		if b.Share(j) >= clockShare {
			return false
		}
	}
	for j := max(1, k-clockHeld-2); j <= k; j++ {
		in := 0.0
		for _, d := range b.Days[j-1 : j+1] {
			in += d.Rain - d.Runoff + d.Irrigation
		}
		if in >= clockReset {
			return true
		}
	}
	return false
}

// When is the index of the first day from i on that reaches the share; −1 when none does.
func (b Balance) When(i int, share float64) int {
	for ; i < len(b.Days); i++ {
		if b.Share(i) >= share-1e-9 {
			return i
		}
	}
	return -1
}

// Endurance is how much of what a grass stands without water is used.
type Endurance struct {
	Weeks    float64 // of the grass on this ground; 0 for no value
	Used     float64 // share, may pass 1
	Dry      float64 // days on the clock
	Since    int     // index of the first of them; −1 for none
	DaysLeft float64 // until crowns begin to die, if it stays dry
	Survival bool    // survival water is due
}

// SurvivalFrom is the share of its endurance from which a grass gets survival water: two thirds, or half for those that stand hardly
// three weeks, where there is no margin (judgement).
func SurvivalFrom(byHalf bool) float64 {
	if byHalf {
		return .5
	}
	return 2. / 3
}

// Endure holds the clock up to index i against the weeks that the grass stands (the low end; judgement, within extension ranges),
// shortened by a third on sand, edges and compacted ground and by 60 % where the soil is under 150 mm deep. Weeks of 0 give no
// value.
func (b Balance) Endure(i int, weeks float64, harsh, shallow, byHalf bool) Endurance {
	if weeks <= 0 || i < 0 {
		return Endurance{Since: -1}
	}
	if harsh {
		weeks *= 2. / 3
	}
	if shallow {
		weeks *= .4
	}
	e := Endurance{Weeks: weeks}
	e.Dry, e.Since = b.Clock(i)
	e.Used = e.Dry / 7 / weeks
	e.DaysLeft = math.Max(0, weeks*7-e.Dry)
	e.Survival = e.Used >= SurvivalFrom(byHalf)-1e-9
	return e
}
