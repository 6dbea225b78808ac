package sky

import (
	"math"
	"time"

	"hodos/core/weather"
)

// Limits that bands and findings hold readings against. 29.4 °C (85 °F) at 50 mm in the afternoon is what cool-season roots and
// shoots bear for long, 32 °C by day and 20 °C by night the usual marks of heat, −2.2 °C (28 °F) of a killing frost (extension
// consensus).
const (
	HotSoil     = 29.4
	HotDay      = 32.0
	HotNight    = 20.0
	KillingCold = -2.2
)

// blank is a band without any day known.
func (s *Sky) blank(id, kind string) Band {
	b := Band{ID: id, Kind: kind, Strength: make([]float64, len(s.Points)), Ripe: 1}
	for i := range b.Strength {
		b.Strength[i] = math.NaN()
	}
	return b
}

// ramp is 0 under lo, 1 over hi, and even between.
func ramp(x, lo, hi float64) float64 { return math.Max(0, math.Min(1, (x-lo)/(hi-lo))) }

func (s *Sky) bands() {
	heat, night, drought, flood, frost := s.blank("heat", "stress"), s.blank("warm-nights", "stress"), s.blank("drought", "stress"),
		s.blank("waterlogged", "stress"), s.blank("frost", "stress")
	spray := s.blank("spraying", "work")
	s.spells = map[time.Time][]Spell{}
	all := make([]weather.Day, len(s.Points))
	for i := range s.Points {
		all[i] = s.Points[i].Day
	}
	for _, x := range SprayHours(all, s.Ground.Latitude) {
		s.spells[x.Date] = append(s.spells[x.Date], x)
	}
	wet := 0.0
	for i := range s.Points {
		p := &s.Points[i]
		if p.TMax != nil {
			heat.Strength[i] = ramp(*p.TMax, 30, 36)
			if !s.Ground.Warm && !math.IsNaN(p.SoilPeak) {
				heat.Strength[i] = math.Max(heat.Strength[i], ramp(p.SoilPeak, 27, 31))
			}
		}
		if p.TMin != nil {
			night.Strength[i] = ramp(*p.TMin, HotNight-1, HotNight+4)
			frost.Strength[i] = ramp(-*p.TMin, 0, 5)
		}
		if !math.IsNaN(p.ETc) && !s.Unsaid {
			drought.Strength[i] = ramp(p.Share, .5, .9)
		}
		if p.Rain != nil {
			in := *p.Rain + value(p.Irrigation)
			wet = wet*.75 + in // four days of memory (judgement)
			flood.Strength[i] = ramp(wet, 45, 110) * ramp(.25-p.Share, 0, .25)
		}
		if p.Hours != nil {
			hours := 0
			for _, x := range s.spells[p.Date] {
				hours += x.To - x.From
			}
			spray.Strength[i] = math.Min(1, float64(hours)/8) // eight hours are a working day
		} else if fit := SprayDay(p.Day); fit != SprayUnknown {
			spray.Strength[i] = 0
			if fit == SprayFit {
				spray.Strength[i] = 1
			}
		}
	}
	s.Bands = append(s.Bands, heat, night, drought, flood, frost)
	s.diseaseBands()
	s.insectBands()
	s.Bands = append(s.Bands, spray, s.feedingBand(), s.regulatorBand())
}

// FeedingEnds is the soil under which roots take no autumn feeding up, °C at 50 mm (judgement).
const FeedingEnds = 7.0

// feedingBand is 1 on the days on which the autumn feeding of cool-season turf is open: the weather has turned and the soil is not
// yet cold; 0 outside, unknown without ten days of maxima.
func (s *Sky) feedingBand() Band {
	b := s.blank("autumn-feeding", "work")
	if s.Ground.Warm {
		return b
	}
	for i := range s.Points {
		if i < 9 || s.Points[i].TMax == nil {
			continue
		}
		b.Strength[i] = 0
		if !(s.Points[i].SoilMean < FeedingEnds) && s.turned(i) {
			b.Strength[i] = 1
		}
	}
	return b
}

func (s *Sky) turned(i int) bool {
	return s.Ground.Place.Turned(s.Points[i].Date, func(k int) (float64, bool) {
		if j := i + k; j >= 0 && j < len(s.Points) && s.Points[j].TMax != nil {
			return *s.Points[j].TMax, true
		}
		_, hi := s.Ground.Place.Air(s.Points[i].Date.AddDate(0, 0, k))
		return hi, false
	})
}

// RegulatorLasts is how long a growth regulator holds cool-season turf, °C·d over 0 °C since it was applied (extension,
// trinexapac-ethyl on short turf; a mown lawn may be held longer: judgement).
const RegulatorLasts = 200.0

// regulatorBand is 1 from the day on which a growth regulator has worn off, for two weeks.
func (s *Sky) regulatorBand() Band {
	b := s.blank("regulator-worn-off", "work")
	if s.Ground.Warm || s.Ground.Regulated.IsZero() {
		return b
	}
	sum, off := 0.0, 0
	for i := range s.Points {
		p := &s.Points[i]
		if p.Date.Before(s.Ground.Regulated) {
			continue
		}
		if p.TMin == nil || p.TMax == nil {
			break
		}
		sum += weather.DegreeDays(*p.TMin, *p.TMax, 0, 0, "mean")
		b.Strength[i] = 0
		if sum >= RegulatorLasts && off < 14 {
			off++
			b.Strength[i] = 1
		}
	}
	return b
}

// diseaseBands are the four published indices and the rows of the table. A day's strength is 1 where it is ripe, for an index
// its share of the warning level.
func (s *Sky) diseaseBands() {
	dollar, brown, pythium, anthracnose := s.blank("dollar-spot", "disease"), s.blank("brown-patch", "disease"),
		s.blank("pythium-blight", "disease"), s.blank("anthracnose", "disease")
	dollar.From, dollar.To, dollar.Open, dollar.Ripe = 2, 21, 3, .2
	brown.From, brown.To, brown.Open = 2, 21, 3
	pythium.From, pythium.To, pythium.Open = 0, 21, 2
	anthracnose.From, anthracnose.To, anthracnose.Open = 2, 28, 3
	for i := range s.Points {
		p := &s.Points[i]
		if t, rh, ok := s.means(i, 5); ok {
			dollar.Strength[i] = weather.DollarSpot(t, rh)
		}
		if p.RH != nil && p.TMin != nil {
			if e := weather.BrownPatch(*p.RH, *p.TMin); e >= 6 && *p.TMin >= 16 {
				brown.Strength[i] = 1
			} else {
				brown.Strength[i] = ramp(e, 2, 6) * .6
			}
			if *p.TMin < 16 {
				brown.Strength[i] = 0
			}
		}
		if p.TMax != nil && p.RH != nil && p.TMin != nil {
			next := *p.TMin
			if i+1 < len(s.Points) && s.Points[i+1].TMin != nil {
				next = math.Max(next, *s.Points[i+1].TMin)
			}
			pythium.Strength[i] = 0
			if weather.PythiumBlight(*p.TMax, next, p.Humid, *p.RH) {
				pythium.Strength[i] = 1
			}
		}
		if lw, t, ok := s.wetMeans(i, 3); ok {
			anthracnose.Strength[i] = math.Max(0, math.Min(1, weather.Anthracnose(lw, t)/2))
		}
	}
	s.Bands = append(s.Bands, dollar, brown, pythium, anthracnose)
	for _, w := range weather.Windows {
		b := s.blank(w.Cause, "disease")
		b.From, b.To, b.Open = w.From, w.To, w.Open
		for i := range s.Points {
			p := &s.Points[i]
			in, known := w.Day(p.Day, weather.SoilDay{Mean: p.SoilMean}, weather.Wetness{Hours: p.WetHours, Known: !math.IsNaN(p.WetHours)})
			if known {
				b.Strength[i] = 0
				if in {
					b.Strength[i] = 1
				}
			}
		}
		s.Bands = append(s.Bands, b)
	}
}

// means are those of temperature and humidity over the n days that end with i.
func (s *Sky) means(i, n int) (t, rh float64, ok bool) {
	if i+1 < n {
		return 0, 0, false
	}
	for _, p := range s.Points[i+1-n : i+1] {
		m, has := p.Mean()
		if !has || p.RH == nil {
			return 0, 0, false
		}
		t, rh = t+m/float64(n), rh+*p.RH/float64(n)
	}
	return t, rh, true
}

func (s *Sky) wetMeans(i, n int) (hours, t float64, ok bool) {
	if i+1 < n {
		return 0, 0, false
	}
	for _, p := range s.Points[i+1-n : i+1] {
		m, has := p.Mean()
		if !has || math.IsNaN(p.WetHours) {
			return 0, 0, false
		}
		hours, t = hours+p.WetHours/float64(n), t+m/float64(n)
	}
	return hours, t, true
}

// insectBands run the degree-day windows, each from its own start; days before the series covers the start stay unknown.
func (s *Sky) insectBands() {
	for _, w := range weather.DegreeWindows {
		b := s.blank(w.ID, "insect")
		if w.ID == "crabgrass-germination" || w.ID == "seed-heads-annual-bluegrass" {
			b.Kind = "work"
		}
		sum, missing := 0.0, 0
		since := s.Points[0].Date.AddDate(-1, 0, 0)
		for i := range s.Points {
			p := &s.Points[i]
			if from := w.Since(p.Date, s.Ground.Latitude); !from.Equal(since) {
				since, sum, missing = from, 0, 0
				if p.Date.After(from) { // the series begins in mid-season
					missing = int(p.Date.Sub(from).Hours() / 24)
				}
			}
			if p.TMin == nil || p.TMax == nil {
				missing++
			} else {
				sum += weather.DegreeDays(*p.TMin, *p.TMax, w.Base, w.Limit, w.Method)
			}
			if missing <= 7 {
				b.Strength[i] = 0
				if sum >= w.Opens && sum < w.Peaks {
					b.Strength[i] = 1
				}
			}
		}
		s.Bands = append(s.Bands, b)
	}
}

// Band finds a band by its id.
func (s *Sky) Band(id string) (Band, bool) {
	for _, b := range s.Bands {
		if b.ID == id {
			return b, true
		}
	}
	return Band{}, false
}
