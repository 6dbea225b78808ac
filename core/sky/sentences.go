package sky

import (
	"fmt"
	"math"
	"sort"
	"strings"
	"time"

	"hodos/core/units"
	"hodos/core/weather"
)

// Sentence is one thing that the series says, with the days and the row that it is read off.
type Sentence struct {
	Text     string
	Row      string // temperature, rain, soil, water, wet, growth, or the id of a band
	From, To time.Time
	Weight   float64 // the stronger first
}

// Sentences says what stands out before onset, what it means for the water now, and what the days ahead let be done. label
// names a band for people, in says quantities in their units.
func (s *Sky) Sentences(label func(id string) string, in units.Saying) []Sentence {
	if s.Today < 0 {
		return nil
	}
	var out []Sentence
	say := func(row string, from, to time.Time, weight float64, format string, args ...any) {
		out = append(out, Sentence{fmt.Sprintf(format, args...), row, from, to, weight})
	}
	g := s.Ground
	onset := g.Onset
	day := func(t time.Time) string { return t.Format("2 January") }

	before, around := "before onset", "Around onset"
	if s.NoOnset {
		before, around = "up to today", "Of late"
	}
	hot, n := 0, 0
	s.each(onset, 0, 14, func(_ int, p *Point) {
		n++
		if p.SoilPeak >= HotSoil {
			hot++
		}
	})
	if !g.Warm && hot > 0 {
		say("soil", onset.AddDate(0, 0, -13), onset, 2+float64(hot)/4, "The root zone was over %s in the afternoon on %d of the %d days %s.",
			in.Temp(HotSoil, 1), hot, n, before)
	}
	emptiest, when := 0.0, onset
	s.each(onset.AddDate(0, 0, 3), 0, 21, func(_ int, p *Point) {
		if p.Share > emptiest {
			emptiest, when = p.Share, p.Date
		}
	})
	switch {
	case s.Unsaid: // the balance without the sprinklers would speak of a thirst that nobody knows of
	case emptiest >= .85:
		say("water", when.AddDate(0, 0, -7), when, 4, "%s %s in the root zone were gone (%s).", around, in.Part(emptiest*s.Total, s.Total),
			day(when))
	case emptiest >= .5:
		say("water", when.AddDate(0, 0, -7), when, 2, "%s the root zone was past half: %s gone on %s.", around,
			in.Part(emptiest*s.Total, s.Total), day(when))
	default:
		say("water", onset.AddDate(0, 0, -14), onset, 1.5,
			"The root zone stayed more than half full in the three weeks %s: drought stress is unlikely.", before)
	}
	surge, at := 0.0, onset
	s.each(onset, 0, 21, func(i int, p *Point) {
		sum := value(p.Rain)
		for k := 1; k < 3 && i-k >= 0; k++ {
			sum += value(s.Points[i-k].Rain)
		}
		if sum > surge {
			surge, at = sum, p.Date
		}
	})
	if surge >= 30 {
		say("rain", at.AddDate(0, 0, -2), at, 2+surge/60, "%s fell within three days up to %s.", in.Depth(surge), day(at))
	}
	for _, b := range s.Bands {
		if b.Kind != "disease" {
			continue
		}
		open, known, first, last := 0, 0, time.Time{}, time.Time{}
		s.each(onset.AddDate(0, 0, -b.From), 0, b.To-b.From, func(i int, p *Point) {
			x := b.Strength[i]
			if math.IsNaN(x) {
				return
			}
			known++
			if x >= b.Ripe {
				if open++; first.IsZero() {
					first = p.Date
				}
				last = p.Date
			}
		})
		least := max(b.Open, 1)
		if float64(known) >= .7*float64(b.To-b.From) && open >= least {
			say(b.ID, first, last, 1+float64(open)/float64(2*least), "%s had its weather on %d of %d days in its own look-back.", label(b.ID),
				open, known)
		}
	}
	s.sayFrost(say, in)
	s.sayAhead(say, in)
	sort.SliceStable(out, func(a, b int) bool { return out[a].Weight > out[b].Weight })
	return out
}

func (s *Sky) sayFrost(say func(row string, from, to time.Time, weight float64, format string, args ...any), in units.Saying) {
	least, when := 99.0, time.Time{}
	s.each(s.Ground.Onset, 0, 30, func(i int, p *Point) {
		if p.TMin != nil && *p.TMin < least && s.Grown(i) {
			least, when = *p.TMin, p.Date
		}
	})
	if least <= KillingCold {
		say("frost", when, when, 3, "It froze to %s on %s, after growth had begun.", in.Temp(least, 1), when.Format("2 January"))
	}
}

func (s *Sky) sayAhead(say func(row string, from, to time.Time, weight float64, format string, args ...any), in units.Saying) {
	today := s.Points[s.Today]
	end := s.Points[len(s.Points)-1].Date
	if e := s.Endurance; e.Weeks > 0 && e.Used > 0 {
		weight := 1 + 2*e.Used
		switch {
		case e.Used >= 1:
			say("water", today.Date, today.Date, weight, "This grass has used up what it lasts without water. Crowns are starting to die.")
		case e.Survival:
			say("water", today.Date, today.Date, weight,
				"%.0f %% of this grass's drought tolerance is used. Survival water is due; about %.0f days left.", e.Used*100, e.DaysLeft)
		default:
			say("water", today.Date, today.Date, weight, "%.0f %% of this grass's drought tolerance is used; about %.0f days left.", e.Used*100,
				e.DaysLeft)
		}
	}
	if len(s.Points)-1 > s.Today {
		if i := s.Balance.When(s.Today, .5); s.Unsaid {
			say("water", today.Date, today.Date, 1.1,
				"This lawn is irrigated but the amount is unknown, so is the water in the root zone. Pull a core, or enter the weekly amount.")
		} else if i > s.Today {
			say("water", s.Points[i].Date, s.Points[i].Date, 1.2, "By the forecast the root zone reaches half depletion on %s.",
				s.Points[i].Date.Format("2 January"))
		} else if i == s.Today {
			say("water", today.Date, today.Date, 1.4, "Water is due: %s are gone today.", in.Part(today.Depletion, s.Total))
		}
		if text, byHour := s.fit(); text != "" {
			what := "Days"
			if byHour {
				what = "Hours"
			}
			say("spraying", s.Points[s.Today+1].Date, end, .6, "%s that may be fit to spray by wind, rain and heat: %s.", what, text)
		}
	}
	if worst := s.worstHeat(); CrewHeat(worst) >= CrewBreaks {
		say("temperature", today.Date, end, .8, crewSays[CrewHeat(worst)], in.Temp(worst, 0))
	}
}

// fit names the next three days on which spraying may be fit, with their hours where these are known.
func (s *Sky) fit() (text string, byHour bool) {
	var days []string
	b, _ := s.Band("spraying")
	for i := s.Today + 1; i < len(s.Points) && len(days) < 3; i++ {
		if !(b.Strength[i] > 0) {
			continue
		}
		text := s.Points[i].Date.Format("2 January")
		var hours []string
		for _, p := range s.spells[s.Points[i].Date] {
			hours = append(hours, fmt.Sprintf("%d to %d h", p.From, p.To))
		}
		if len(hours) > 0 {
			text, byHour = text+" "+strings.Join(hours, " and "), true
		}
		days = append(days, text)
	}
	return strings.Join(days, ", "), byHour
}

// Crew is what the heat asks of people at work.
type Crew int

// What the heat asks.
const (
	CrewFine   Crew = iota
	CrewWater       // water and shade at hand
	CrewBreaks      // fixed breaks, new people slowly
	CrewEarly       // long breaks, in pairs, early hours only
	CrewStop        // no work
)

// Limits of the heat index, °C, in shade; in full sun it feels up to 8 °C hotter (occupational health practice).
const (
	crewWater  = 27.0
	crewBreaks = 32.0
	crewEarly  = 39.0
	crewStop   = 46.0
	fullSun    = 8.0
)

// CrewHeat judges a heat index in the shade, °C, for people who work in full sun.
func CrewHeat(index float64) Crew {
	switch felt := index + fullSun; {
	case felt >= crewStop:
		return CrewStop
	case felt >= crewEarly:
		return CrewEarly
	case felt >= crewBreaks:
		return CrewBreaks
	case felt >= crewWater:
		return CrewWater
	}
	return CrewFine
}

var crewSays = map[Crew]string{
	CrewBreaks: "Heat index up to %s in the shade: water, shade and fixed breaks; start new people slowly.",
	CrewEarly:  "Heat index up to %s in the shade: early hours only, long breaks, work in pairs.",
	CrewStop:   "Heat index up to %s in the shade: no work in the sun.",
}

// worstHeat is the highest heat index of the forecast's afternoons, °C.
func (s *Sky) worstHeat() float64 {
	worst := 0.0
	for _, p := range s.Points[s.Today+1:] {
		if p.TMax != nil && p.RH != nil {
			worst = math.Max(worst, weather.HeatIndex(*p.TMax, math.Max(15, *p.RH-22)))
		}
	}
	return worst
}

// Rain sums up the rain before a day.
type Rain struct {
	Days3, Days7, Days14, Days30 float64 // mm
	Largest                      float64 // mm in one day of the thirty
	LargestOn                    time.Time
	Since5                       int // days without 5 mm
}

// RainBefore sums up the rain of the days that end with the newest one.
func (s *Sky) RainBefore() Rain {
	var r Rain
	if s.Today < 0 {
		return r
	}
	for k := range 30 {
		i := s.Today - k
		if i < 0 {
			break
		}
		x := value(s.Points[i].Rain)
		if k < 3 {
			r.Days3 += x
		}
		if k < 7 {
			r.Days7 += x
		}
		if k < 14 {
			r.Days14 += x
		}
		r.Days30 += x
		if x > r.Largest {
			r.Largest, r.LargestOn = x, s.Points[i].Date
		}
	}
	for i := s.Today; i >= 0 && value(s.Points[i].Rain) < 5; i-- {
		r.Since5++
	}
	return r
}

// Frost sums up the cold nights.
type Frost struct {
	Nights, Killing int       // at 0 and at −2.2 °C and under, of the last sixty
	Lowest          float64   // °C; NaN without minima
	LastOn, NextOn  time.Time // the last one, and the next by the forecast; zero for none
}

// FrostBefore sums up the nights of the sixty days that end with the newest one, and looks at those ahead.
func (s *Sky) FrostBefore() Frost {
	f := Frost{Lowest: math.NaN()}
	for i := max(0, s.Today-59); i < len(s.Points); i++ {
		t := s.Points[i].TMin
		switch {
		case t == nil:
		case i > s.Today:
			if *t <= 0 && f.NextOn.IsZero() {
				f.NextOn = s.Points[i].Date
			}
		default:
			if !(f.Lowest <= *t) {
				f.Lowest = *t
			}
			if *t <= 0 {
				f.Nights++
				f.LastOn = s.Points[i].Date
			}
			if *t <= KillingCold {
				f.Killing++
			}
		}
	}
	return f
}
