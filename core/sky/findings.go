package sky

import (
	"fmt"
	"math"
	"time"

	"hodos/core/turf"
	"hodos/core/weather"
)

// trend of the forecast: the least-squares change of its maxima, with 0.25 °C a day as the edge (judgement).
func (s *Sky) trend(forecast []weather.Day) {
	if len(forecast) < 4 {
		return
	}
	var n, sx, sy, sxx, sxy float64
	for i, d := range forecast {
		if d.TMax != nil {
			x := float64(i)
			n, sx, sy, sxx, sxy = n+1, sx+x, sy+*d.TMax, sxx+x*x, sxy+x**d.TMax
		}
	}
	if n < 4 {
		return
	}
	slope := (n*sxy - sx*sy) / (n*sxx - sx*sx)
	w := "steady"
	if slope > .25 {
		w = "warming"
	} else if slope < -.25 {
		w = "cooling"
	}
	s.word("forecast-trend", "", w, fmt.Sprintf("maxima change by %.1f °C a day", slope), forecast[0].Date, forecast[len(forecast)-1].Date)
}

func temperatures(p *Point) bool { _, ok := p.Mean(); return ok }

func (s *Sky) heatAndGrowth() {
	g := s.Ground
	last := s.Points[s.Today].Date
	if n := s.covered(g.Date, 14, temperatures); n < 10 {
		s.miss("heat-spell", fmt.Sprintf("only %d of the last 14 days have temperatures", n))
		return
	}
	hot, fierce, nights, growth, n := 0, 0, 0, 0.0, 0 // warm nights wear cool-season turf down as hot days do
	s.each(g.Date, 0, 14, func(_ int, p *Point) {
		if !temperatures(p) {
			return
		}
		if *p.TMax >= HotDay {
			hot++
		}
		if *p.TMax >= 36 {
			fierce++
		}
		if *p.TMin >= HotNight && *p.TMax >= 28 {
			nights++
		}
		growth, n = growth+p.Growth, n+1
	})
	w := "none"
	if hot >= 7 || fierce >= 3 || !g.Warm && nights >= 7 {
		w = "severe"
	} else if hot >= 3 || !g.Warm && nights >= 4 {
		w = "moderate"
	}
	s.word("heat-spell", "", w, fmt.Sprintf("%d of 14 days reached 32 °C, %d nights stayed over 20 °C", hot, nights),
		last.AddDate(0, 0, -13), last)
	s.number("growth-potential", math.Round(growth/float64(n)*100)/100, fmt.Sprintf("mean of %d days", n), last.AddDate(0, 0, -13), last)
	soil := s.Points[s.Today]
	s.word("soil-temp-class", "", soilClass(soil.SoilMean), fmt.Sprintf("about %.0f °C at 50 mm by day and night, %.0f °C in the afternoon",
		soil.SoilMean, soil.SoilPeak), last.AddDate(0, 0, -6), last)
	if !g.Warm {
		days := 0
		s.each(g.Onset, 0, 14, func(_ int, p *Point) {
			if p.SoilPeak >= HotSoil {
				days++
			}
		})
		s.number("soil-heat", float64(days), fmt.Sprintf("the root zone passed 29.4 °C in the afternoon on %d of the 14 days before onset",
			days), g.Onset.AddDate(0, 0, -13), g.Onset)
	}
}

func (s *Sky) rain() {
	g := s.Ground
	last := s.Points[s.Today].Date
	if n := s.covered(g.Date, 21, func(p *Point) bool { return p.Rain != nil }); n < 15 {
		s.miss("days-without-5-mm", fmt.Sprintf("only %d of the last 21 days have rain", n))
		return
	}
	surge, at, run := 0.0, last, [3]float64{}
	s.each(g.Date, 0, 21, func(_ int, p *Point) {
		run[0], run[1], run[2] = run[1], run[2], value(p.Rain)
		if sum := run[0] + run[1] + run[2]; sum > surge {
			surge, at = sum, p.Date
		}
	})
	w := "none"
	if surge >= 50 {
		w = "strong"
	} else if surge >= 30 {
		w = "moderate"
	}
	s.word("heavy-rain-surge", "", w, fmt.Sprintf("%.0f mm in three days up to %s", surge, at.Format("2 January")), at.AddDate(0, 0, -2), at)
	wet := 0
	s.each(g.Date, 0, 21, func(_ int, p *Point) {
		if is, _ := p.Wet(); is {
			wet++
		}
	})
	w = "none"
	if wet >= 13 {
		w = "strong"
	} else if wet >= 8 {
		w = "moderate"
	}
	s.word("prolonged-wetness", "", w, fmt.Sprintf("%d of 21 days wet", wet), last.AddDate(0, 0, -20), last)
	dry := 0
	for i := s.Today; i >= 0 && s.Points[i].Rain != nil && *s.Points[i].Rain < 5; i-- {
		dry++
	}
	s.number("days-without-5-mm", float64(dry), "counted back from the last day of the series", last.AddDate(0, 0, -dry), last)

	flood, _ := s.Band("waterlogged")
	worst, days, when := 0.0, 0, last
	s.each(g.Onset, 0, 30, func(i int, p *Point) {
		if x := flood.Strength[i]; x > 0 {
			days++
			if x > worst {
				worst, when = x, p.Date
			}
		}
	})
	w = "none"
	switch {
	case worst >= .6 || days >= 6 && worst >= .25:
		w = "likely"
	case worst >= .2:
		w = "possible"
	}
	s.word("waterlogging-spell", "", w, fmt.Sprintf("the root zone was full and more came on %d of the 30 days before onset", days),
		when.AddDate(0, 0, -4), when)
}

func (s *Sky) water() {
	g := s.Ground
	if s.Today < 13 {
		s.miss("soil-water-deficit", "the series is shorter than 14 days")
		return
	}
	if s.Unsaid {
		s.miss("soil-water-deficit", "the lawn is irrigated, the amount is unknown")
		return
	}
	if s.covered(g.Date, 21, func(p *Point) bool { return p.Rain != nil }) < 15 {
		s.miss("soil-water-deficit", "too few days have rain")
		return
	}
	worst, at := 0.0, s.Points[s.Today].Date
	s.each(g.Onset.AddDate(0, 0, 4), 0, 18, func(_ int, p *Point) {
		if p.Depletion > worst {
			worst, at = p.Depletion, p.Date
		}
	})
	w := "none"
	switch share := worst / s.Total; {
	case share >= .85:
		w = "severe"
	case share >= .6:
		w = "moderate"
	case share >= .45:
		w = "slight"
	}
	s.word("soil-water-deficit", "", w, fmt.Sprintf("%.0f mm depleted of %.0f mm on %s", worst, s.Total, at.Format("2 January")),
		g.Onset.AddDate(0, 0, -14), g.Onset)
	if s.Endurance.Weeks > 0 {
		s.endurance()
	}
}

// worstDays is how long a drought that is over still counts.
const worstDays = 60

// endurance is the worst that the grass has been through in the last sixty days: what died then does not come back with the rain.
func (s *Sky) endurance() {
	g, worst := s.Ground, s.Endurance
	at := s.Today
	for i := max(0, s.Today-worstDays); i < s.Today; i++ {
		if e := s.Balance.Endure(i, g.EnduranceWeeks, g.Harsh, g.ShallowSoil, g.SurvivesByHalf); e.Used > worst.Used {
			worst, at = e, i
		}
	}
	last := s.Points[at].Date
	s.number("drought-endurance-used", math.Round(worst.Used*100)/100,
		fmt.Sprintf("%.0f days past 85 %% depletion, of the %.0f weeks that this grass lasts", worst.Dry, worst.Weeks),
		last.AddDate(0, 0, -int(worst.Dry)), last)
}

func (s *Sky) cold() {
	g := s.Ground
	last := s.Points[s.Today].Date
	if n := s.covered(g.Date, 180, func(p *Point) bool { return p.Snow != nil }); n > 0 {
		snow := 0
		s.each(g.Date, 0, 180, func(_ int, p *Point) {
			if value(p.Snow) > 0 {
				snow++
			}
		})
		s.number("snow-days", float64(snow), fmt.Sprintf("of %d days with snow measured", n), s.Points[0].Date, last)
	}
	if s.Today >= 29 {
		s.freeze()
	}
	month := turf.SeasonMonth(g.Date.Month(), g.Latitude)
	winter := month <= time.April || month >= time.November
	if !winter || s.covered(g.Date, 90, temperatures) < 60 {
		return
	}
	least, when := 99.0, last
	s.each(g.Date, 0, 120, func(_ int, p *Point) {
		if p.TMin != nil && *p.TMin < least && value(p.Snow) < 5 {
			least, when = *p.TMin, p.Date
		}
	})
	limit := g.ColdLimit
	if limit == 0 { // a grass without a value of its own (judgement)
		limit = -22
		if g.Warm {
			limit = -13
		}
	}
	w := "none"
	if least <= limit {
		w = "past-limit"
	} else if least <= limit+4 {
		w = "near-limit"
	}
	s.word("deep-cold", "", w, fmt.Sprintf("%.1f °C without snow on %s; crowns of this grass begin to die at about %.0f °C", least,
		when.Format("2 January"), limit), last.AddDate(0, 0, -119), last)

	dry, days := 0.0, 0
	s.each(g.Date, 0, 60, func(_ int, p *Point) {
		if p.Rain == nil || math.IsNaN(p.ET0) {
			return
		}
		days++
		if value(p.Snow) < 1 {
			dry += p.ET0 - *p.Rain
		} else {
			dry -= 1
		}
	})
	if days >= 40 {
		w = "none"
		if dry >= 60 {
			w = "strong"
		} else if dry >= 25 {
			w = "moderate"
		}
		s.word("winter-drought", "", w, fmt.Sprintf("%.0f mm more evaporated than fell in 60 days without snow", dry), last.AddDate(0, 0, -59),
			last)
	}
	if late := math.Abs(g.Latitude) > lateSpring; g.Warm && month >= time.February && (month <= time.April || late && month == time.May) {
		s.greenUp()
	}
}

// lateSpring is the latitude from which warm-season turf may still be waking in May.
const lateSpring = 36

// greenUp of warm-season turf by the soil: it begins at 16 to 18 °C and is complete after weeks at 21 and more.
func (s *Sky) greenUp() {
	begun, well := 0, 0
	s.each(s.Ground.Date, 0, 45, func(_ int, p *Point) {
		if p.SoilMean >= 16 {
			begun++
		}
		if p.SoilMean >= 20 {
			well++
		}
	})
	w := "dormant"
	switch {
	case well >= 21:
		w = "complete"
	case begun >= 12:
		w = "under-way"
	case begun >= 3:
		w = "beginning"
	}
	last := s.Points[s.Today].Date
	s.word("green-up-progress", "", w, fmt.Sprintf("soil at 16 °C and more on %d days", begun), last.AddDate(0, 0, -44), last)
}

// Growth has begun when the soil has been so warm for a week, °C at 50 mm (extension; the week judgement), and a frost then hurts from
// KillingCold, and badly from HardCold.
const (
	grownCool = 6.0
	grownWarm = 13.0
	HardCold  = -5.0
	frostBack = 30
)

// growing are the months of the north in which turf comes out of its winter: a frost of early winter meets turf that goes to sleep.
func growing(month time.Month) bool { return month >= time.February && month <= time.June }

// Grown reports whether growth had begun on the day with index i, within the month before the visit: one rule for what is found,
// said and watched.
func (s *Sky) Grown(i int) bool {
	if !growing(turf.SeasonMonth(s.Points[i].Date.Month(), s.Ground.Latitude)) {
		return false
	}
	start := grownCool
	if s.Ground.Warm {
		start = grownWarm
	}
	for k := max(7, s.Today-frostBack); k <= i; k++ {
		if s.Points[k].SoilMean >= start && s.Points[k-7].SoilMean >= start-2 {
			return true
		}
	}
	return false
}

// freeze looks for frost after growth has begun, in the last thirty days.
func (s *Sky) freeze() {
	grown, least, at := false, 99.0, s.Ground.Date
	s.each(s.Ground.Date, 0, frostBack, func(i int, p *Point) {
		grown = grown || s.Grown(i)
		if grown && p.TMin != nil && *p.TMin < least {
			least, at = *p.TMin, p.Date
		}
	})
	last := s.Points[s.Today].Date
	w, detail := "none", fmt.Sprintf("lowest %.1f °C", least)
	switch {
	case !grown:
		return
	case least <= HardCold:
		w, detail = "hard", fmt.Sprintf("%.1f °C on %s", least, at.Format("2 January"))
	case least <= KillingCold:
		w, detail = "light", fmt.Sprintf("%.1f °C on %s", least, at.Format("2 January"))
	}
	s.word("freeze-after-green-up", "", w, detail, last.AddDate(0, 0, 1-frostBack), last)
}

// windows makes one finding of each disease's band: was it open in the disease's own look-back before onset, how strongly, for
// how long. "Never open" needs a series that covers the look-back.
func (s *Sky) windows() {
	g := s.Ground
	if s.covered(g.Onset, 21, func(p *Point) bool { return p.RH != nil }) < 14 {
		s.miss(
			"disease-window",
			"humidity was not measured: the windows of dollar spot, brown patch, pythium blight, gray leaf spot, rust and mildew "+
				"could not be computed",
		)
	}
	for _, b := range s.Bands {
		if b.Kind != "disease" {
			continue
		}
		known, ripe, strong, sum, peak := 0, 0, 0, 0.0, 0.0
		s.each(g.Onset.AddDate(0, 0, -b.From), 0, b.To-b.From, func(i int, _ *Point) {
			x := b.Strength[i]
			if math.IsNaN(x) {
				return
			}
			known++
			peak = math.Max(peak, x)
			if x >= b.Ripe {
				ripe++
			}
			if b.strong > 0 && x >= b.strong {
				strong++
			}
			if b.halves {
				sum += x
			}
		})
		if float64(known) < .7*float64(b.To-b.From) {
			continue
		}
		if !b.halves {
			sum = float64(ripe)
		}
		n := grade(sum, b.grades)
		if b.strong > 0 && n == len(grades)-1 && float64(strong) < b.grades[2] {
			n--
		}
		n = s.bounded(b.ID, n)
		detail := fmt.Sprintf("%d of %d days in its weather", ripe, known)
		if b.Ripe < 1 {
			detail = fmt.Sprintf("highest five-day chance %.0f %%; over %.0f %% on %d of %d days", peak*100, b.Ripe*100, ripe, known)
		}
		s.word("disease-window", b.ID, grades[n], detail, g.Onset.AddDate(0, 0, -b.To), g.Onset.AddDate(0, 0, -b.From))
	}
}

// grades of a window, from closed to strong.
var grades = [4]string{"never-open", "weak", "open", "strong"}

func grade(days float64, limits [3]float64) (n int) {
	for i, least := range limits {
		if days > 0 && days >= least {
			n = i + 1
		}
	}
	return n
}

// bounds: what else a disease needs for a grade; judgement.
const (
	heatDays     = 30.0 // °C: summer patch shows after days so hot
	coldSoil     = 13.0 // °C: spring dead spot needs weeks of soil under it
	coldSoilDays = 20
)

// bounded holds a grade to what the disease needs beside its infection: summer patch days of heat before it shows, spring dead spot a
// winter.
func (s *Sky) bounded(cause string, n int) int {
	switch cause {
	case "summer-patch":
		hot := 0
		s.each(s.Ground.Onset.AddDate(0, 0, -2), 0, 19, func(_ int, p *Point) {
			if p.TMax != nil && *p.TMax >= heatDays {
				hot++
			}
		})
		return min(n, grade(float64(hot), [3]float64{1, 2, 5}))
	case "spring-dead-spot":
		cold := 0
		s.each(s.Ground.Onset.AddDate(0, 0, -30), 0, 170, func(_ int, p *Point) {
			if p.SoilMean < coldSoil {
				cold++
			}
		})
		if cold < coldSoilDays {
			return 0
		}
		return max(n, 1)
	}
	return n
}

// What ends a season by the soil (mean of five days at 50 mm, °C): larvae go down and stop feeding, whatever the degree days say. Warm
// is for warm-season turf.
var seasonEnds = []struct {
	cause      string
	cool, warm float64
}{
	{"white-grubs", 10, 13},
	{"chinch-bugs", 15, 16},
	{"sod-webworms", 13, 13},
	{"billbugs", 10, 10},
}

// sumsFrom is the latitude from which degree days since a date mean anything: nearer to the equator growth never stops.
const sumsFrom = 35

// seasonDays is the longest that a season stands open after it opened.
const seasonDays = 260

// insects says where a season stands: it opens by degree days and stands open until the soil is too cold for what feeds in it.
func (s *Sky) insects() {
	if math.Abs(s.Ground.Latitude) < sumsFrom {
		return // months, moths and the soil tell there
	}
	for _, season := range weather.DegreeWindows {
		cause := season.Cause
		if cause == "" || cause == "billbugs" && s.Ground.Warm { // another species, without degree days
			continue
		}
		b, _ := s.Band(season.ID)
		if math.IsNaN(b.Strength[s.Today]) {
			continue
		}
		first := -1
		for i := range s.Points[:s.Today+1] {
			if b.Strength[i] == 1 && (first < 0 || s.Points[i].Date.Sub(s.Points[first].Date).Hours() > 24*200) {
				first = i
			}
		}
		w, from := "closed", s.Points[0].Date
		if first >= 0 && s.Today-first < seasonDays {
			from = s.Points[first].Date
			switch ends := s.ends(cause); {
			case s.Today-first < 14:
				w = "opening"
			case s.soil5() < ends:
			case s.soil5() < ends+3:
				w = "closing"
			default:
				w = "open"
			}
		}
		s.word("insect-window", cause, w, "by degree days since the start of its season, and the soil", from, s.Points[s.Today].Date)
	}
}

func (s *Sky) ends(cause string) float64 {
	for _, r := range seasonEnds {
		if r.cause == cause && s.Ground.Warm {
			return r.warm
		}
		if r.cause == cause {
			return r.cool
		}
	}
	return math.Inf(-1)
}

// soil5 is the five-day mean of the soil at 50 mm; +Inf where it is not known, so that nothing is ended by it.
func (s *Sky) soil5() float64 {
	sum, n := 0.0, 0
	for _, p := range s.Points[max(0, s.Today-4) : s.Today+1] {
		if !math.IsNaN(p.SoilMean) {
			sum, n = sum+p.SoilMean, n+1
		}
	}
	if n == 0 {
		return math.Inf(1)
	}
	return sum / float64(n)
}
