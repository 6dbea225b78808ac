package sky

import (
	"math"
	"strings"
	"time"

	"hodos/core/turf"
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
	s.Bands = append(s.Bands, s.dollarSpot(), s.brownPatch(), s.pythium(), s.anthracnose())
	for _, w := range weather.Windows {
		if !s.meant(w) {
			continue
		}
		b := s.blank(w.Cause, "disease")
		b.From, b.To, b.grades = w.From, w.To, w.Grades
		b.Open = int(math.Max(1, w.Grades[1]))
		for i := range s.Points {
			if in, known := w.Ripe(s.state(i)); known {
				b.Strength[i] = 0
				if in {
					b.Strength[i] = 1
				}
			}
		}
		s.Bands = append(s.Bands, b)
	}
}

// meant reports whether a row is for the lawn's family of grass and for the half of the year in which the damage began.
func (s *Sky) meant(w weather.Window) bool {
	family := "C"
	if s.Ground.Warm {
		family = "W"
	}
	month := turf.SeasonMonth(s.Ground.Onset.Month(), s.Ground.Latitude)
	autumn := month >= time.September
	return strings.Contains(w.Family, family) && (w.Onset == "" || w.Onset == "autumn" == autumn)
}

func (s *Sky) state(i int) weather.State {
	p := &s.Points[i]
	x := weather.State{Day: p.Day, SoilMean: p.SoilMean, Share: p.Share, Drainage: p.Drainage,
		Wet: weather.Wetness{Hours: p.WetHours, Known: !math.IsNaN(p.WetHours)}}
	if s.Unsaid { // what the sprinklers gave is not known
		x.Share, x.Drainage = math.NaN(), math.NaN()
	}
	return x
}

func (s *Sky) index(id string, from, to int, grades [3]float64) Band {
	b := s.blank(id, "disease")
	b.From, b.To, b.grades, b.Open = from, to, grades, int(grades[1])
	return b
}

func (s *Sky) dollarSpot() Band {
	b := s.index("dollar-spot", 2, 21, [3]float64{1, 5, 10})
	b.Ripe, b.strong = .2, .4
	for i := range s.Points {
		if t, rh, ok := s.means(i, 5); ok {
			b.Strength[i] = weather.DollarSpot(t, rh)
		}
	}
	return b
}

// What irrigation adds to the humidity in the turf, per cent (judgement).
const wateredHumidity = 5.0

func (s *Sky) brownPatch() Band {
	b := s.index("brown-patch", 2, 21, [3]float64{1, 3, 6})
	b.halves = true
	for i := range s.Points {
		p := &s.Points[i]
		if p.RH == nil || p.TMin == nil {
			continue
		}
		rh := *p.RH
		if s.Ground.Irrigated != nil && *s.Ground.Irrigated {
			rh = math.Min(100, rh+wateredHumidity)
		}
		e, low := weather.BrownPatch(rh, *p.TMin), *p.TMin
		switch {
		case low < 16:
			b.Strength[i] = 0
		case e >= 6, low >= 18.5 && p.WetHours >= 10:
			b.Strength[i] = 1
		case low >= 18 && e >= 5:
			b.Strength[i] = .5
		default:
			b.Strength[i] = 0
		}
	}
	return b
}

// near is the strength of a night that just misses.
const near = .34

func (s *Sky) pythium() Band {
	b := s.index("pythium-blight", 0, 21, [3]float64{near, 1, 3})
	b.halves = true
	for i := range s.Points {
		p := &s.Points[i]
		if p.TMax == nil || p.RH == nil || p.TMin == nil {
			continue
		}
		next, humid, rh := *p.TMin, p.Humid, *p.RH
		if i+1 < len(s.Points) {
			n := &s.Points[i+1]
			if n.TMin != nil {
				next = *n.TMin // the night after the hot day
			}
			if h := weather.HumidNight(p.Hours, n.Hours); !math.IsNaN(h) {
				humid = h
			}
			if n.RH != nil {
				rh = (rh + *n.RH) / 2
			}
		}
		b.Strength[i] = 0
		switch {
		case weather.PythiumBlight(*p.TMax, next, humid, rh):
			b.Strength[i] = 1
		case weather.PythiumNear(*p.TMax, next, humid, rh):
			b.Strength[i] = near
		}
	}
	return b
}

func (s *Sky) anthracnose() Band {
	b := s.index("anthracnose", 2, 28, [3]float64{3, 6, 12})
	for i := range s.Points {
		if lw, t, ok := s.wetMeans(i, 3); ok {
			b.Strength[i] = math.Max(0, math.Min(1, weather.Anthracnose(lw, t)/2))
		}
	}
	return b
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
