package weather

import (
	"fmt"
	"math"
	"time"

	"hodos/core/turf"
)

// window is the weather of one disease: a band of temperature, wet or not, in the look-back before onset.
type window struct {
	cause      string
	from, to   int     // look-back in days before onset (judgement)
	soil       bool    // soil rather than air temperature
	low, high  float64 // °C, daily mean
	wet        bool    // the day must be wet
	nightLeast float64 // least minimum, °C; 0 for none
	dayLeast   float64 // least maximum, °C; 0 for none
	humid      float64 // least mean humidity; needs measured humidity when above 0
	open       int     // days that make it open; half make it weak, twice strong
}

// windows follow the temperature and wetness that each disease wants; thresholds from extension literature, day counts
// judgement.
var windows = []window{
	{cause: "pythium-blight", from: 0, to: 21, low: 24, high: 40, dayLeast: 30, nightLeast: 20, humid: 80, open: 2},
	{cause: "gray-leaf-spot", from: 2, to: 21, low: 24, high: 33, humid: 75, open: 4},
	{cause: "rust", from: 2, to: 21, low: 18, high: 30, humid: 65, open: 6},
	{cause: "red-thread", from: 2, to: 28, low: 10, high: 24, wet: true, open: 6},
	{cause: "leaf-spot", from: 2, to: 28, low: 14, high: 32, wet: true, open: 6},
	{cause: "melting-out", from: 14, to: 56, low: 8, high: 20, wet: true, open: 8},
	{cause: "large-patch", from: 14, to: 42, soil: true, low: 10, high: 21, wet: true, open: 7},
	{cause: "summer-patch", from: 21, to: 70, soil: true, low: 18, high: 32, wet: true, open: 8},
	{cause: "pink-snow-mold", from: 2, to: 90, low: -3, high: 10, wet: true, open: 12},
	{cause: "powdery-mildew", from: 2, to: 28, low: 13, high: 24, humid: 65, open: 6},
}

// wet is a day on which leaves stay wet for long, as far as daily values can tell: 1 mm of rain or a mean humidity of
// 85 % (judgement). known is false when neither was measured.
func (d Day) wet() (wet, known bool) {
	if d.Rain != nil {
		known = true
		wet = *d.Rain >= 1
	}
	if d.RH != nil {
		known = true
		wet = wet || *d.RH >= 85
	}
	return wet, known
}

// Findings computes what the series says. days end on or before the date of the visit; forecast starts after it.
// Anything that cannot be computed is listed with its reason, and nothing is made up for it.
func Findings(days, forecast []Day, g Ground) (out []Computed, missing []Missing) {
	if g.Onset.IsZero() {
		g.Onset = g.Date
	}
	word := func(finding, cause, w, detail string, from, to time.Time) {
		out = append(out, Computed{Finding: finding, Cause: cause, Word: w, Detail: detail, From: from, To: to})
	}
	number := func(finding string, x float64, detail string, from, to time.Time) {
		out = append(out, Computed{Finding: finding, Number: &x, Detail: detail, From: from, To: to})
	}
	if len(forecast) >= 4 {
		trend, ok := slope(forecast)
		if ok {
			w := "steady"
			if trend > .25 {
				w = "warming"
			} else if trend < -.25 {
				w = "cooling"
			}
			word("forecast-trend", "", w, fmt.Sprintf("maxima change by %.1f °C a day", trend), forecast[0].Date, forecast[len(forecast)-1].Date)
		}
	}
	if len(days) == 0 {
		return out, append(missing, Missing{"weather", "no weather series: nothing is said about rain, heat, water or disease weather"})
	}
	soil := SoilTemperature(days)
	last := days[len(days)-1].Date

	if n := covered(days, g.Date, 14, func(d Day) bool { _, ok := d.mean(); return ok }); n >= 10 {
		hot, fierce, gp, cnt := 0, 0, 0.0, 0
		fam := turf.Cool
		if g.Warm {
			fam = turf.Warm
		}
		each(days, g.Date, 0, 14, func(_ int, d Day) {
			t, ok := d.mean()
			if !ok {
				return
			}
			if *d.TMax >= 32 {
				hot++
			}
			if *d.TMax >= 36 {
				fierce++
			}
			gp += turf.GrowthPotential(fam, t)
			cnt++
		})
		w := "none"
		if hot >= 7 || fierce >= 3 {
			w = "severe"
		} else if hot >= 3 {
			w = "moderate"
		}
		word("heat-spell", "", w, fmt.Sprintf("%d of 14 days reached 32 °C", hot), last.AddDate(0, 0, -13), last)
		number("growth-potential", math.Round(gp/float64(cnt)*100)/100, fmt.Sprintf("mean of %d days", cnt), last.AddDate(0, 0, -13), last)
		s := soil[len(soil)-1]
		word("soil-temp-class", "", soilClass(s), fmt.Sprintf("about %.0f °C at 50 mm, from air temperature", s), last.AddDate(0, 0, -6), last)
		if w, detail := freezeAfterGreenUp(days, soil, g); w != "" {
			word("freeze-after-green-up", "", w, detail, last.AddDate(0, 0, -29), last)
		}
	} else {
		missing = append(missing, Missing{"heat-spell", fmt.Sprintf("only %d of the last 14 days have temperatures", n)})
	}

	rainKnown := covered(days, g.Date, 21, func(d Day) bool { return d.Rain != nil })
	if rainKnown >= 15 {
		surge, at := 0.0, last
		run := []float64{0, 0, 0}
		each(days, g.Date, 0, 21, func(i int, d Day) {
			run[0], run[1], run[2] = run[1], run[2], value(d.Rain)
			if s := run[0] + run[1] + run[2]; s > surge {
				surge, at = s, d.Date
			}
		})
		w := "none"
		if surge >= 50 {
			w = "strong"
		} else if surge >= 30 {
			w = "moderate"
		}
		word("heavy-rain-surge", "", w, fmt.Sprintf("%.0f mm in three days up to %s", surge, at.Format("2 January")), at.AddDate(0, 0, -2), at)
		wet := 0
		each(days, g.Date, 0, 21, func(_ int, d Day) {
			if is, _ := d.wet(); is {
				wet++
			}
		})
		w = "none"
		if wet >= 13 {
			w = "strong"
		} else if wet >= 8 {
			w = "moderate"
		}
		word("prolonged-wetness", "", w, fmt.Sprintf("%d of 21 days wet", wet), last.AddDate(0, 0, -20), last)
		dry := 0
		for i := len(days) - 1; i >= 0 && days[i].Rain != nil && *days[i].Rain < 5; i-- {
			dry++
		}
		number("days-without-5-mm", float64(dry), "counted back from the last day of the series", last.AddDate(0, 0, -dry), last)
		deficit(days, g, word, number, &missing)
	} else {
		missing = append(missing, Missing{"days-without-5-mm", fmt.Sprintf("only %d of the last 21 days have rain", rainKnown)})
	}

	if n := covered(days, g.Date, 180, func(d Day) bool { return d.Snow != nil }); n > 0 {
		snow := 0
		each(days, g.Date, 0, 180, func(_ int, d Day) {
			if value(d.Snow) > 0 {
				snow++
			}
		})
		number("snow-days", float64(snow), fmt.Sprintf("of %d days with snow measured", n), days[0].Date, last)
	}
	out, missing = diseaseWindows(days, soil, g, out, missing)
	return out, missing
}

func deficit(days []Day, g Ground, word func(f, c, w, d string, a, b time.Time), number func(f string, x float64, d string, a, b time.Time), missing *[]Missing) {
	if len(days) < 14 {
		*missing = append(*missing, Missing{"soil-water-deficit", "the series is shorter than 14 days"})
		return
	}
	given := covered(days, g.Date, 21, func(d Day) bool { return d.Irrigation != nil }) > 10
	if g.Irrigated != nil && *g.Irrigated && !given && g.WeeklyWaterMM == nil {
		*missing = append(*missing, Missing{"soil-water-deficit", "the lawn is irrigated and nobody said how much"})
		return
	}
	lost, total := Depletion(days, g)
	worst, at := 0.0, days[len(days)-1].Date
	each(days, g.Onset.AddDate(0, 0, 4), 0, 18, func(i int, d Day) {
		if lost[i] > worst {
			worst, at = lost[i], d.Date
		}
	})
	share := worst / total
	w := "none"
	switch {
	case share >= .85:
		w = "severe"
	case share >= .6:
		w = "moderate"
	case share >= .45:
		w = "slight"
	}
	word("soil-water-deficit", "", w, fmt.Sprintf("%.0f mm depleted of %.0f mm on %s", worst, total, at.Format("2 January")), g.Onset.AddDate(0, 0, -14), g.Onset)
	if g.EnduranceWeeks > 0 {
		run := 0
		for i := len(lost) - 1; i >= 0 && lost[i]/total >= .85; i-- {
			run++
		}
		number("drought-endurance-used", math.Round(float64(run)/7/g.EnduranceWeeks*100)/100, fmt.Sprintf("%d days past 85 %% depletion of %.1f weeks endurance", run, g.EnduranceWeeks), days[len(days)-1].Date.AddDate(0, 0, -run), days[len(days)-1].Date)
	}
}

func freezeAfterGreenUp(days []Day, soil []float64, g Ground) (string, string) {
	if len(days) < 30 {
		return "", ""
	}
	start := 6.0
	if g.Warm {
		start = 13
	}
	grown, least := false, 99.0
	at := g.Date
	each(days, g.Date, 0, 30, func(i int, d Day) {
		if i >= 7 && soil[i] >= start && soil[i-7] >= start-2 {
			grown = true
		}
		if grown && d.TMin != nil && *d.TMin < least {
			least, at = *d.TMin, d.Date
		}
	})
	switch {
	case !grown:
		return "", ""
	case least <= -5:
		return "hard", fmt.Sprintf("%.1f °C on %s", least, at.Format("2 January"))
	case least <= -2:
		return "light", fmt.Sprintf("%.1f °C on %s", least, at.Format("2 January"))
	}
	return "none", fmt.Sprintf("lowest %.1f °C", least)
}

func diseaseWindows(days []Day, soil []float64, g Ground, out []Computed, missing []Missing) ([]Computed, []Missing) {
	humid := covered(days, g.Onset, 21, func(d Day) bool { return d.RH != nil }) >= 14
	grade := func(n, open int) string {
		switch {
		case n >= 2*open:
			return "strong"
		case n >= open:
			return "open"
		case 2*n >= open && n > 0:
			return "weak"
		}
		return "never-open"
	}
	add := func(cause, w, detail string, from, to int) {
		out = append(out, Computed{Finding: "disease-window", Cause: cause, Word: w, Detail: detail, From: g.Onset.AddDate(0, 0, -to), To: g.Onset.AddDate(0, 0, -from)})
	}
	if humid && covered(days, g.Onset, 21, func(d Day) bool { _, ok := d.mean(); return ok }) >= 15 {
		peak, ripe := 0.0, 0
		var temps, rhs []float64
		each(days, g.Onset, 0, 25, func(_ int, d Day) {
			t, ok := d.mean()
			if !ok || d.RH == nil {
				return
			}
			temps, rhs = append(temps, t), append(rhs, *d.RH)
			if len(temps) > 5 {
				temps, rhs = temps[1:], rhs[1:]
			}
			if len(temps) == 5 {
				peak = math.Max(peak, DollarSpot(avg(temps), avg(rhs)))
			}
			if BrownPatch(*d.RH, *d.TMin) >= 6 && *d.TMin >= 16 {
				ripe++
			}
		})
		w := "never-open"
		switch {
		case peak >= .35:
			w = "strong"
		case peak >= .2:
			w = "open"
		case peak >= .12:
			w = "weak"
		}
		add("dollar-spot", w, fmt.Sprintf("highest five-day chance %.0f %%", peak*100), 2, 21)
		add("brown-patch", grade(ripe, 3), fmt.Sprintf("index 6 or more on %d days", ripe), 2, 21)
	} else {
		missing = append(missing, Missing{"disease-window", "humidity was not measured: the windows of dollar spot, brown patch, pythium blight, gray leaf spot, rust and mildew could not be computed"})
	}
	for _, w := range windows {
		if w.humid > 0 && !humid {
			continue
		}
		span := w.to - w.from
		known, hits := 0, 0
		each(days, g.Onset.AddDate(0, 0, -w.from), 0, span, func(i int, d Day) {
			t, ok := d.mean()
			wet, wetKnown := d.wet()
			if !ok || (w.wet && !wetKnown) || (w.humid > 0 && d.RH == nil) {
				return
			}
			known++
			if w.soil {
				t = soil[i]
			}
			if t < w.low || t > w.high || (w.wet && !wet) || (w.humid > 0 && *d.RH < w.humid) ||
				(w.nightLeast > 0 && *d.TMin < w.nightLeast) || (w.dayLeast > 0 && *d.TMax < w.dayLeast) {
				return
			}
			hits++
		})
		if float64(known) < .7*float64(span) {
			continue // "never open" needs a series that covers the look-back
		}
		add(w.cause, grade(hits, w.open), fmt.Sprintf("%d of %d days in its weather", hits, known), w.from, w.to)
	}
	return out, missing
}

func soilClass(c float64) string {
	switch {
	case c < 1:
		return "frozen"
	case c < 7:
		return "cold"
	case c < 13:
		return "cool"
	case c < 20:
		return "mild"
	case c < 26:
		return "warm"
	}
	return "hot"
}

// each calls f for the days from..to days before the date, oldest first; i is the index in the series.
func each(days []Day, date time.Time, from, to int, f func(i int, d Day)) {
	first, past := date.AddDate(0, 0, -to+1), date.AddDate(0, 0, -from)
	for i, d := range days {
		if !d.Date.Before(first) && !d.Date.After(past) {
			f(i, d)
		}
	}
}

func covered(days []Day, date time.Time, span int, has func(Day) bool) (n int) {
	each(days, date, 0, span, func(_ int, d Day) {
		if has(d) {
			n++
		}
	})
	return n
}

func value(x *float64) float64 {
	if x == nil {
		return 0
	}
	return *x
}

func avg(xs []float64) float64 {
	s := 0.0
	for _, x := range xs {
		s += x
	}
	return s / float64(len(xs))
}

// slope is the least-squares change of the maxima in °C a day.
func slope(days []Day) (float64, bool) {
	var n, sx, sy, sxx, sxy float64
	for i, d := range days {
		if d.TMax == nil {
			continue
		}
		x := float64(i)
		n, sx, sy, sxx, sxy = n+1, sx+x, sy+*d.TMax, sxx+x*x, sxy+x**d.TMax
	}
	if n < 4 {
		return 0, false
	}
	return (n*sxy - sx*sy) / (n*sxx - sx*sx), true
}
