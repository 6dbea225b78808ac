// Package sky reads what sky and ground say of one zone: day by day the soil, the water, wet leaves, growth and the weather of
// each stress and disease; from that the findings that a diagnosis weighs, with value, strength and dates, and sentences for
// people. Anything that cannot be computed is listed with its reason, and nothing is made up for it.
package sky

import (
	"math"
	"time"

	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/core/weather"
)

// Ground is what the computation has to know of the zone. Zero values stand for "not known".
type Ground struct {
	soil.Zone
	Date           time.Time // of the visit; days after it are forecast
	Onset          time.Time // when the damage was first seen; Date when zero
	Irrigated      *bool
	EnduranceWeeks float64         // of the grass; 0 for no value
	SurvivesByHalf bool            // survival water is due from half of it
	Harsh, Thin    bool            // sand, edges or compaction; a thin or bare stand
	ShallowSoil    bool            // under 150 mm
	ColdLimit      float64         // °C at which crowns of the grass begin to die without snow; 0 for that of its family
	Place          weather.Climate // the normal year there; the zero value for that of the latitude
	Regulated      time.Time       // when a growth regulator was last applied; zero for never

	SoilReadings []weather.Reading
	Moisture     []soil.Check
}

// Point is one day of a zone. NaN is "not known".
type Point struct {
	weather.Day
	Forecast          bool
	SoilMean          float64 // °C at 50 mm
	SoilPeak          float64 // of the afternoon
	ET0, ETc          float64 // mm
	Depletion, Share  float64 // mm missing in the root zone, and the share of what it holds
	Runoff, Drainage  float64 // mm
	WetHours, WetWarm float64 // of the leaves, and how warm it was meanwhile, °C
	WetEstimated      bool
	Humid             float64 // hours over 90 % humidity; NaN without hours
	Growth            float64 // growth potential, 0 to 1
}

// Band is one row under the charts: how strongly a stress or a disease had its weather on each day, 0 to 1; NaN where it
// could not be computed.
type Band struct {
	ID       string // a cause, or heat, cold-soil, frost, drought, waterlogged, feeding, spraying
	Kind     string // stress, disease, insect or work
	Strength []float64
	From, To int     // look-back in days before onset; 0 and 0 for none
	Open     int     // days that make it open
	Ripe     float64 // strength from which on a day counts

	grades [3]float64 // days that make it weak, open and strong
	strong float64    // strength of a day that counts for strong; 0 for Ripe
	halves bool       // days that just miss count as far as they go
}

// Computed is one weather finding: exactly one of Word and Number speaks.
type Computed struct {
	Finding  string
	Cause    string // for findings kept once a cause
	Word     string
	Number   *float64
	Detail   string
	From, To time.Time
}

// Missing says what could not be computed, and why.
type Missing struct{ Finding, Why string }

// Sky is all of it.
type Sky struct {
	Ground    Ground
	Points    []Point
	Today     int // index of the newest day on or before the visit; −1 without a series
	Total     float64
	Balance   soil.Balance
	Endurance soil.Endurance
	Bands     []Band
	Findings  []Computed
	Missing   []Missing
	Assumed   []string // what the balance took for granted
	NoOnset   bool     // nobody said when the damage was first seen: the look-backs end with the day of the visit
	Unsaid    bool     // the lawn is watered and nobody said how much: the balance is what it would be without

	spells map[time.Time][]Spell // fit to spray, where hours are known
}

// Of puts the series of the past and the forecast together. days are oldest first and end on or before the date of the
// visit; forecast starts after it. Missing days are gaps, never noughts.
func Of(days, forecast []weather.Day, g Ground) Sky {
	unseen := g.Onset.IsZero()
	if unseen {
		g.Onset = g.Date
	}
	if g.Place.Warmest.IsZero() {
		g.Place = weather.ClimateAt(g.Latitude, 0)
	}
	s := Sky{Ground: g, Today: len(days) - 1, NoOnset: unseen}
	all := make([]weather.Day, 0, len(days)+len(forecast))
	for _, d := range days {
		all = append(all, d.Daily())
	}
	for _, d := range forecast {
		all = append(all, d.Daily())
	}
	s.trend(forecast)
	if len(days) == 0 {
		s.Missing = append(s.Missing, Missing{"weather", "no weather series: nothing is said about rain, heat, water or disease weather"})
		return s
	}
	given := 0
	for _, d := range days[max(0, len(days)-21):] {
		if d.Irrigation != nil {
			given++
		}
	}
	s.Unsaid = g.Irrigated != nil && *g.Irrigated && given <= 10 && g.WeeklyWaterMM == nil
	s.points(all)
	s.bands()
	s.heatAndGrowth()
	s.rain()
	s.water()
	s.cold()
	s.windows()
	s.insects()
	return s
}

func (s *Sky) points(all []weather.Day) {
	g := s.Ground
	canopy := weather.Canopy{HeightMM: g.HeightMM, Thin: g.Thin, Shade: g.Shade}
	course := weather.SoilCourse(all, canopy, g.SoilReadings)
	s.Balance = soil.Run(g.Zone, all, g.Moisture)
	s.heal()
	s.Total, s.Assumed = s.Balance.Total, s.Balance.Assumed
	family := turf.Cool
	if g.Warm {
		family = turf.Warm
	}
	s.Points = make([]Point, len(all))
	for i, d := range all {
		p := Point{Day: d, Forecast: i > s.Today, SoilMean: course[i].Mean, SoilPeak: course[i].Peak(), ET0: math.NaN(), ETc: math.NaN(),
			WetHours: math.NaN(), WetWarm: math.NaN(), Humid: math.NaN(), Growth: math.NaN()}
		b := s.Balance.Days[i]
		p.Depletion, p.Share, p.Runoff, p.Drainage = b.Depletion, s.Balance.Share(i), b.Runoff, b.Drainage
		if !b.Gap {
			p.ET0, p.ETc = b.ET0, b.ETc
		}
		w := d.LeafWetness()
		p.Humid = w.Humid
		if w.Known {
			p.WetHours, p.WetWarm, p.WetEstimated = w.Hours, w.Warm, w.Estimated
		}
		if t, ok := d.Mean(); ok {
			p.Growth = turf.GrowthPotential(family, t)
		}
		s.Points[i] = p
	}
	if !s.Unsaid {
		s.Endurance = s.Balance.Endure(s.Today, g.EnduranceWeeks, g.Harsh, g.ShallowSoil, g.SurvivesByHalf)
	}
}

// heal lets a core that contradicts the balance correct the weeks before it as well: the whole difference on the day of the
// core, none of it three weeks earlier (judgement).
func (s *Sky) heal() {
	const weeks3 = 21.0
	for _, c := range s.Ground.Moisture {
		for i, d := range s.Balance.Days {
			if !d.Date.Equal(c.Date) || !d.Checked || i == 0 {
				continue
			}
			was := s.Balance.Days[i-1].Depletion
			off := c.Share*s.Balance.Total - was
			for k := i - 1; k >= 0 && float64(i-k) < weeks3; k-- {
				x := s.Balance.Days[k].Depletion + off*(1-float64(i-k)/weeks3)
				s.Balance.Days[k].Depletion = math.Max(0, math.Min(s.Balance.Total, x))
			}
		}
	}
}

func (s *Sky) word(finding, cause, w, detail string, from, to time.Time) {
	s.Findings = append(s.Findings, Computed{Finding: finding, Cause: cause, Word: w, Detail: detail, From: from, To: to})
}

func (s *Sky) number(finding string, x float64, detail string, from, to time.Time) {
	s.Findings = append(s.Findings, Computed{Finding: finding, Number: &x, Detail: detail, From: from, To: to})
}

func (s *Sky) miss(finding, why string) { s.Missing = append(s.Missing, Missing{finding, why}) }

// each calls f for the points from..to days before the date, oldest first, forecast left out.
func (s *Sky) each(date time.Time, from, to int, f func(i int, p *Point)) {
	first, past := date.AddDate(0, 0, -to+1), date.AddDate(0, 0, -from)
	for i := range s.Points[:s.Today+1] {
		if d := s.Points[i].Date; !d.Before(first) && !d.After(past) {
			f(i, &s.Points[i])
		}
	}
}

func (s *Sky) covered(date time.Time, span int, has func(*Point) bool) (n int) {
	s.each(date, 0, span, func(_ int, p *Point) {
		if has(p) {
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
