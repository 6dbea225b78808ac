package soil

import (
	"fmt"
	"math"
	"sort"
	"time"
)

// Can is one catch can of an audit: where it stood on the zone's grid and the depth that it caught, mm. On says that it stood
// on damaged turf.
type Can struct {
	X, Y int
	MM   float64
	On   bool
}

// Audited is what an audit came to.
type Audited struct {
	RateMMH    float64 // mean depth over the time
	Uniformity float64 // low-quarter distribution uniformity: mean of the lowest quarter over the mean of all
	From, To   float64 // 95 % interval of it, by the jackknife (Tukey 1958)
	Low        []int   // indices of the lowest quarter
	LowOn      int     // how many of them stood on damage
	OnDamage   int     // cans on damage in all
	Fault      bool    // under 0.6, and the low cans lie on the damage
	Verdict    string
}

// Suspect is the uniformity below which the sprinklers are (extension).
const Suspect = .6

// Audit works out rate and uniformity from cans that stood for some minutes. It refuses fewer than four cans, a time out of 1
// to 240 minutes, and depths that are negative or all nought.
func Audit(cans []Can, minutes float64) (Audited, error) {
	switch {
	case len(cans) < 4:
		return Audited{}, fmt.Errorf("cans: %d are too few: at least four, better twenty", len(cans))
	case !(minutes >= 1) || minutes > 240:
		return Audited{}, fmt.Errorf("minutes: %g is outside 1 to 240", minutes)
	}
	order := make([]int, len(cans))
	sum := 0.0
	for i, c := range cans {
		if !(c.MM >= 0) || c.MM > 300 {
			return Audited{}, fmt.Errorf("cans[%d]: %g mm is outside 0 to 300", i, c.MM)
		}
		order[i] = i
		sum += c.MM
	}
	if sum == 0 {
		return Audited{}, fmt.Errorf("cans: nothing was caught")
	}
	sort.SliceStable(order, func(a, b int) bool { return cans[order[a]].MM < cans[order[b]].MM })
	depth := func(skip int) []float64 {
		out := make([]float64, 0, len(cans))
		for _, i := range order {
			if i != skip {
				out = append(out, cans[i].MM)
			}
		}
		return out
	}
	a := Audited{RateMMH: sum / float64(len(cans)) / minutes * 60, Uniformity: uniformity(depth(-1))}
	n := float64(len(cans))
	mean, ss := 0.0, 0.0
	left := make([]float64, len(cans))
	for i := range cans {
		left[i] = uniformity(depth(i))
		mean += left[i] / n
	}
	for _, x := range left {
		ss += (x - mean) * (x - mean)
	}
	half := 1.96 * math.Sqrt((n-1)/n*ss)
	a.From, a.To = math.Max(0, a.Uniformity-half), math.Min(1, a.Uniformity+half)
	a.Low = append(a.Low, order[:quarter(len(cans))]...)
	for _, c := range cans {
		if c.On {
			a.OnDamage++
		}
	}
	for _, i := range a.Low {
		if cans[i].On {
			a.LowOn++
		}
	}
	share := float64(a.OnDamage) / n
	lies := a.OnDamage > 0 && float64(a.LowOn) >= math.Max(.5, share+.2)*float64(len(a.Low))
	a.Fault = a.Uniformity < Suspect && lies
	switch {
	case a.Fault:
		a.Verdict = "the low cans lie on the damage: the sprinklers are the fault"
	case a.Uniformity < Suspect && a.OnDamage > 0:
		a.Verdict = "uneven, but the low cans do not lie on the damage: look for another cause"
	case a.Uniformity < Suspect:
		a.Verdict = "uneven: mark the damage to see whether the low cans lie on it"
	default:
		a.Verdict = "even enough"
	}
	return a, nil
}

func quarter(n int) int { return max(1, int(math.Round(float64(n)/4))) }

// uniformity of depths in rising order.
func uniformity(depths []float64) float64 {
	q, sum, low := quarter(len(depths)), 0.0, 0.0
	for i, x := range depths {
		sum += x
		if i < q {
			low += x
		}
	}
	if sum == 0 {
		return 0
	}
	return math.Min(1, low/float64(q)/(sum/float64(len(depths))))
}

// Sprinkler is what a zone is watered with.
type Sprinkler struct {
	RateMMH    float64
	Uniformity float64
	AreaM2     float64
	PriceM3    float64 // money for a cubic metre
}

// Turn is one watering: how long, in how many cycles with which rest between, when to start, and what it takes.
type Turn struct {
	NetMM, GrossMM float64 // what the root zone lacks, and what must be given for the low quarter to have it
	Minutes        float64 // of running
	Cycles         int     // of all nights
	Nights         int
	CycleMinutes   float64
	SoakMinutes    float64 // between cycles
	Total          float64 // minutes from start to end of a night
	Start, End     float64 // clock hours: it ends at sunrise and a quarter, by nine at the latest, and never starts before midnight
	Litres, Cost   float64
}

// surplus may stand on the surface before it runs off, mm (judgement).
const surplus = 3.0

// Watering works out a run for a net depth on a zone, to be over shortly after sunrise (clock hour). It refuses a depth or a
// rate that is not positive.
func Watering(z Zone, s Sprinkler, net, sunrise float64) (Turn, error) {
	if !(net > 0) || net > 200 {
		return Turn{}, fmt.Errorf("depth: %g mm is outside 0 to 200", net)
	}
	if !(s.RateMMH > 0) || s.RateMMH > 300 {
		return Turn{}, fmt.Errorf("rate: %g mm/h is outside 0 to 300: measure it with cans", s.RateMMH)
	}
	z.Uniformity = s.Uniformity
	r := Turn{NetMM: net, GrossMM: net * z.Multiplier(), Cycles: 1, Nights: 1}
	r.Minutes = r.GrossMM / s.RateMMH * 60
	r.CycleMinutes = r.Minutes
	if intake := z.Intake(); s.RateMMH > intake {
		longest := surplus / (s.RateMMH - intake) * 60
		r.Cycles = max(1, int(math.Ceil(r.Minutes/longest)))
		r.CycleMinutes = r.Minutes / float64(r.Cycles)
		r.SoakMinutes = math.Ceil((s.RateMMH-intake)*r.CycleMinutes/60/intake*60/5) * 5
	}
	r.End = math.Min(9, sunrise+.25)
	r.split(math.Min(longestNight, r.End*60))
	r.Start = r.End - r.Total/60
	r.Litres = r.GrossMM * s.AreaM2
	r.Cost = r.Litres / 1000 * s.PriceM3
	return r, nil
}

// longestNight is the longest that a zone is watered in one night, minutes (extension: split over nights above five hours or so).
const longestNight = 300

// mostNights is where splitting ends: a ground that takes in less is not mended by more nights.
const mostNights = 7

// split spreads the cycles over as many nights as it takes for each to fit.
func (r *Turn) split(fits float64) {
	for ; ; r.Nights++ {
		if r.Cycles < r.Nights {
			r.Cycles = r.Nights
			r.CycleMinutes = r.Minutes / float64(r.Cycles)
		}
		night := math.Ceil(float64(r.Cycles) / float64(r.Nights))
		r.Total = night*r.CycleMinutes + (night-1)*r.SoakMinutes
		if r.Total <= fits || r.Nights == mostNights {
			r.Total = math.Min(r.Total, r.End*60)
			return
		}
	}
}

// Due is one day on which a zone is to be watered.
type Due struct {
	Date  time.Time
	NetMM float64
	Why   string
}

// Policy is one way to bring a zone through the weeks ahead.
type Policy struct {
	Name    string // keep-green or let-rest
	Due     []Due
	Litres  float64
	Cost    float64
	Outlook string
}

// Ahead lists what either summer policy takes over the days ahead: keep-green refills at half depletion, on the next day on
// which watering is allowed and early when the days off would carry it past 70 %; let-rest gives 12 mm once two-thirds of the
// endurance are used, and again every ten days. days are those to come with their weather; allowed says on which weekdays
// watering is permitted, nil for all. depletion and used are those of today.
func Ahead(z Zone, s Sprinkler, b Balance, today int, weeks float64, allowed map[time.Weekday]bool) []Policy {
	may := func(d time.Time) bool { return len(allowed) == 0 || allowed[d.Weekday()] }
	z.Uniformity = s.Uniformity
	add := func(p *Policy, d Due) {
		p.Due = append(p.Due, d)
		p.Litres += d.NetMM * z.Multiplier() * s.AreaM2
		p.Cost = p.Litres / 1000 * s.PriceM3
	}
	green, rest := Policy{Name: "keep-green"}, Policy{Name: "let-rest"}
	if today < 0 || today >= len(b.Days) {
		return []Policy{green, rest}
	}
	kc := z.Coefficient()
	d := b.Days[today].Depletion
	for i := today + 1; i < len(b.Days); i++ {
		day := b.Days[i]
		next := len(b.Days)
		for k := i + 1; k < len(b.Days); k++ {
			if may(b.Days[k].Date) {
				next = k
				break
			}
		}
		etc := kc * day.ET0
		d = math.Max(0, math.Min(b.Total, d+etc-(day.Rain-day.Runoff)))
		until := d
		for k := i + 1; k <= next && k < len(b.Days); k++ {
			until += kc*b.Days[k].ET0 - (b.Days[k].Rain - b.Days[k].Runoff)
		}
		if may(day.Date) && d > 0 && (d >= .5*b.Total || until >= .7*b.Total && d >= .25*b.Total) {
			why := "half of the water is gone"
			if d < .5*b.Total {
				why = "the next permitted day would be too late"
			}
			add(&green, Due{day.Date, d, why})
			d = 0
		}
	}
	green.Outlook = "green, mown and fed as usual; once begun it goes on for the whole spell"
	if weeks > 0 {
		dry, _ := b.Clock(today)
		last := -100
		for i := today + 1; i < len(b.Days); i++ {
			if b.Share(i) >= DryShare {
				dry++
			} else {
				dry = math.Max(0, dry-clockBack)
			}
			if dry/7/weeks >= 2./3 && i-last >= 10 && may(b.Days[i].Date) {
				add(&rest, Due{b.Days[i].Date, 12, "two-thirds of the endurance are used: it keeps crowns, it does not green"})
				last = i
			}
		}
		rest.Outlook = "straw until it rains; crowns live as long as survival water comes in time; no traffic, no feeding"
	} else {
		rest.Outlook = "no value is known for what this grass stands: not advised"
	}
	return []Policy{green, rest}
}

// Step is one stretch of the watering of new seed, sod or plugs.
type Step struct {
	FromDay, ToDay int
	TimesADay      float64
	MM             float64 // each time
	Why            string
}

// upUnknown is the emergence of a grass that nobody knows, days (judgement).
const upUnknown = 14

// Ramp is how new grass is watered and weaned (extension practice, figures judgement). kind is seed, sod or plugs; anything else has
// no ramp. Seed is kept moist until the slow ones are up, days; 0 for unknown: seed that dries once it has swollen is dead.
func Ramp(kind string, up float64) []Step {
	if !(up > 0) {
		up = upUnknown
	}
	switch kind {
	case "seed":
		n := int(math.Ceil(up))
		return []Step{{1, n, 3, 2, "the top centimetre stays moist until all of it is up"}, {n + 1, n + 6, 1, 5, "roots follow the water down"},
			{n + 7, n + 11, .5, 10, "every other day, deeper"}, {n + 12, n + 18, .3, 18, "as an established lawn"}}
	case "sod":
		return []Step{{1, 3, 2, 8, "soaked through to the soil"}, {4, 10, 1, 8, "until it no longer lifts"}, {11, 21, .5, 12, "weaned"},
			{22, 28, .3, 18, "as an established lawn"}}
	case "plugs":
		return []Step{{1, 7, 2, 4, "each plug stays moist"}, {8, 14, 1, 6, "until runners show"}, {15, 28, .4, 12, "weaned"}}
	}
	return nil
}

// Syringe is how long the sprinkler runs to cool the leaves with 1.5 mm, minutes; 0 without a rate.
func Syringe(rate float64) float64 {
	if !(rate > 0) {
		return 0
	}
	return 1.5 / rate * 60
}
