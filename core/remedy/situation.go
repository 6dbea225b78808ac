package remedy

import (
	"math"
	"slices"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/turf"
	"hodos/core/units"
	"hodos/core/weather"
)

// situation is the case as the tests see it, with the weather of the days behind and ahead.
type situation struct {
	c     evidence.Case
	r     diagnosis.Result
	v     map[string]knowledge.Value
	say   units.Saying
	grass turf.Species
	place weather.Climate
	days  []day
	// anomalies of soil and air against the normal year, °C, that fade into the days ahead
	soilSeen bool // weather, thermometer or class say how warm the soil is
	forecast int  // days of forecast at hand
	normals  bool // the place has normals of its own
	frostAt  float64
	hotFrom  float64 // phase of the year (days past the warmest soil) at which normal maxima reach 29 °C; NaN for never
	hotEnds  float64
	it       string // the cause in question, where a row is asked for one
	last     map[string]float64
	sums     map[string][]float64 // degree days added up along the course
	turns    []truth              // whether the summer is over, by day, as far as asked
	phases   []float64
	grows    []float64
	opens    map[opening]stretch
	plan     *plan // what is decided already, for repairs and samples
}

// day is one day of the course: what was measured or forecast, else the normal of the place with what is left of today's anomaly.
type day struct {
	tmin, tmax, rain, soil, peak float64
	known                        bool // air measured or forecast
}

// The course reaches so far back and ahead, days: back to the last first of January, ahead to the same season of next year.
const (
	courseBack  = 400
	courseAhead = 430
)

// How today's anomaly fades into the days ahead, days (judgement): the soil remembers longer than the air.
const (
	soilMemory = 20.0
	airMemory  = 8.0
)

// Places and seasons (extension consensus where not marked J): normal maxima of 29 °C bound the heat of cool-season turf; the normal
// hard frost comes two weeks after the soil falls through 15 °C (J), or where normal minima cross 3 °C.
const (
	frostNormal   = 3.0
	frostLeaves   = 5.0 // spring: the last hard frost where normal minima cross 5 °C (J)
	frostFreeMin  = 6.0 // normal minima that never fall under this know no hard frost (J)
	yearDays      = 365.25
	noFrost       = 400.0
	leastArea     = 10.0
	usualZone     = 300.0 // m², where none is known (J)
	usualAffected = .2
)

func survey(c evidence.Case, r diagnosis.Result, say units.Saying) *situation {
	s := &situation{c: c, r: r, v: withKinds(r.Values), say: say, last: map[string]float64{}, sums: map[string][]float64{},
		opens: map[opening]stretch{}}
	if len(c.Lawn.Species) > 0 {
		s.grass, _ = turf.ByID(c.Lawn.Species[0])
		s.grass = s.grass.InForm(c.Lawn.Form)
	}
	if s.place, s.normals = weather.ClimateOf(c.Lawn.Normals, c.Lawn.Latitude); !s.normals {
		s.place = weather.ClimateAt(c.Lawn.Latitude, c.Lawn.Longitude)
	}
	s.lay()
	s.seasons()
	for _, t := range s.treatments() {
		age := c.Lawn.Date.Sub(t.Date).Hours() / 24
		if age < 0 {
			continue
		}
		for _, class := range classesOf(t) {
			if was, ok := s.last[class]; !ok || age < was {
				s.last[class] = age
			}
		}
	}
	if x := s.num("last-nitrogen-days"); !math.IsNaN(x) {
		if was, ok := s.last["n"]; !ok || x < was {
			s.last["n"] = x
		}
	}
	return s
}

// lay puts the course together: measured days and forecast as they are, the normal year with today's anomaly elsewhere.
func (s *situation) lay() {
	s.days = make([]day, courseBack+courseAhead+1)
	for i := range s.days {
		s.days[i] = day{tmin: math.NaN(), tmax: math.NaN(), rain: math.NaN(), soil: math.NaN(), peak: math.NaN()}
	}
	airSum, airN, soilOff, soilAt := 0.0, 0.0, math.NaN(), 0
	for i := range s.r.Sky.Points {
		p := &s.r.Sky.Points[i]
		k := s.offset(p.Date)
		if k < -courseBack || k > courseAhead {
			continue
		}
		d := &s.days[k+courseBack]
		if p.TMin != nil && p.TMax != nil {
			d.tmin, d.tmax, d.known = *p.TMin, *p.TMax, true
			if k >= -6 {
				lo, hi := s.place.Air(p.Date)
				airSum, airN = airSum+(d.tmin+d.tmax-lo-hi)/2, airN+1
			}
		}
		if p.Rain != nil {
			d.rain = *p.Rain
		}
		if !math.IsNaN(p.SoilMean) {
			d.soil, d.peak = p.SoilMean, p.SoilPeak
			soilOff, soilAt = p.SoilMean-s.place.Soil(p.Date), k
			s.soilSeen = s.soilSeen || k >= -5
		}
		if k > 0 && d.known {
			s.forecast = max(s.forecast, k)
		}
	}
	for _, d := range append(append([]weather.Day{}, s.c.Weather...), s.c.Forecast...) { // a forecast tells without a series, too
		k := s.offset(d.Date)
		if k < -courseBack || k > courseAhead || d.TMin == nil || d.TMax == nil {
			continue
		}
		x := &s.days[k+courseBack]
		if x.known {
			continue
		}
		x.tmin, x.tmax, x.known = *d.TMin, *d.TMax, true
		if d.Rain != nil {
			x.rain = *d.Rain
		}
		if k > 0 {
			s.forecast = max(s.forecast, k)
			lo, hi := s.place.Air(d.Date)
			airSum, airN = airSum+(x.tmin+x.tmax-lo-hi)/2, airN+1
		}
	}
	if reading, ok := s.reading(); ok && !s.soilSeen {
		soilOff, soilAt, s.soilSeen = reading-s.place.Soil(s.c.Lawn.Date), 0, true
	}
	air := 0.0
	if airN > 0 {
		air = airSum / airN
	}
	for i := range s.days {
		s.fill(&s.days[i], i-courseBack, air, soilOff, soilAt)
	}
}

func (s *situation) fill(d *day, k int, air, soilOff float64, soilAt int) {
	date := s.day(k)
	if !d.known {
		lo, hi := s.place.Air(date)
		left := air * math.Exp(-math.Max(0, float64(k-s.forecast))/airMemory)
		if k < 0 {
			left = 0
		}
		d.tmin, d.tmax = lo+left, hi+left
	}
	if math.IsNaN(d.soil) {
		d.soil = s.place.Soil(date)
		if !math.IsNaN(soilOff) {
			d.soil += soilOff * math.Exp(-math.Abs(float64(k-soilAt))/soilMemory)
		}
		d.peak = d.soil
	}
}

// reading is the soil temperature that a thermometer or a class gives without any weather, °C.
func (s *situation) reading() (float64, bool) {
	if x := s.num("soil-temp-c"); !math.IsNaN(x) {
		return x, true
	}
	x, ok := map[string]float64{"frozen": 0, "cold": 4, "cool": 10, "mild": 16, "warm": 23, "hot": 28}[s.word("soil-temp-class")]
	return x, ok
}

// seasons finds the hot and the frost-free part of the place's normal year, as days past the warmest soil.
func (s *situation) seasons() {
	s.hotFrom, s.hotEnds, s.frostAt = math.NaN(), math.NaN(), math.NaN()
	if ends, begins, ok := s.place.Hot(); ok {
		s.hotEnds, s.hotFrom = ends, begins
	}
	coldest := math.Inf(1)
	for n := range 365 {
		lo, _ := s.place.Air(s.place.Warmest.AddDate(0, 0, n))
		coldest = math.Min(coldest, lo)
		if s.normals && n < 183 && lo < frostNormal && math.IsNaN(s.frostAt) {
			s.frostAt = float64(n)
		}
	}
	if !s.normals {
		s.frostAt = weather.FirstHardFrost(s.c.Lawn.Latitude, s.c.Lawn.Longitude)
	}
	if coldest >= frostFreeMin {
		s.frostAt = math.NaN()
	}
}

func (s *situation) offset(d time.Time) int {
	return int(math.Round(d.Sub(s.c.Lawn.Date).Hours() / 24))
}

func (s *situation) day(k int) time.Time { return s.c.Lawn.Date.AddDate(0, 0, k) }

func (s *situation) at(k int) *day {
	return &s.days[max(0, min(k+courseBack, len(s.days)-1))]
}

// phase is how far a day is past the warmest soil of the place, days.
func (s *situation) phase(k int) float64 {
	if s.phases == nil {
		s.phases = make([]float64, len(s.days))
		for i := range s.phases {
			s.phases[i] = s.place.Phase(s.day(i - courseBack))
		}
	}
	return s.phases[max(0, min(k+courseBack, len(s.phases)-1))]
}

// mean of a value over the days from..to, NaN where one is not known.
func (s *situation) mean(from, to int, of func(*day) float64) float64 {
	sum := 0.0
	for k := from; k <= to; k++ {
		sum += of(s.at(k))
	}
	return sum / float64(to-from+1)
}

func soilOf(d *day) float64 { return d.soil }
func airOf(d *day) float64  { return (d.tmin + d.tmax) / 2 }
func maxOf(d *day) float64  { return d.tmax }

// growth is the growth potential of the grass on a day.
func (s *situation) growth(k int) float64 {
	if s.grows == nil {
		s.grows = make([]float64, len(s.days))
		for i := range s.days {
			s.grows[i] = s.grass.Growth(airOf(&s.days[i]))
		}
	}
	return s.grows[max(0, min(k+courseBack, len(s.grows)-1))]
}

// treatments are all that was done, before this visit and on it.
func (s *situation) treatments() []evidence.Treatment {
	return slices.Concat(s.c.Treatments, s.c.Done)
}

// since is how many days ago the last treatment of a class was; NaN where none is on record.
func (s *situation) since(class string) float64 {
	if x, ok := s.last[class]; ok {
		return x
	}
	return math.NaN()
}

func (s *situation) num(id string) float64 {
	if v, ok := s.v[id]; ok && v.Number != nil {
		return *v.Number
	}
	return math.NaN()
}

func (s *situation) word(id string) string { return s.v[id].Word }

func (s *situation) found(id string) bool {
	if f, ok := facts[id]; ok {
		return f(s) != ""
	}
	if m, ok := measures[id]; ok {
		return !math.IsNaN(m.of(s, 0))
	}
	_, ok := s.v[id]
	return ok
}

func (s *situation) has(id, item string) bool {
	v := s.v[id]
	for _, x := range v.List {
		if x == item {
			return true
		}
	}
	return v.Word == item
}

// cause is the cause that a row speaks of: "it" is the one in question.
func (s *situation) cause(id string) string {
	if id == "it" {
		return s.it
	}
	return id
}

// about asks a test for one cause.
func (s *situation) about(cause string, f func()) {
	was := s.it
	s.it = cause
	f()
	s.it = was
}

// area of the zone in m², and the damaged part of it.
func (s *situation) area() float64 {
	if s.c.Lawn.AreaM2 != nil {
		return *s.c.Lawn.AreaM2
	}
	return usualZone
}

func (s *situation) damaged() float64 {
	a := s.area() * usualAffected
	switch share := s.num("affected-area-percent"); {
	case s.c.Lawn.AffectedM2 != nil:
		a = *s.c.Lawn.AffectedM2
	case !math.IsNaN(share):
		a = s.area() * share / 100
	}
	return math.Max(leastArea, a)
}

// window is the strongest day of a disease's weather from..to days ahead, relative to what makes a day count: 1 and more is open.
// NaN where nothing is known of it.
func (s *situation) window(cause string, from, to int) (strongest float64, open int) {
	strongest = math.NaN()
	b, ok := s.r.Sky.Band(cause)
	if !ok {
		return strongest, 0
	}
	for i, x := range b.Strength {
		k := s.offset(s.r.Sky.Points[i].Date)
		if k < from || k > to || math.IsNaN(x) {
			continue
		}
		share := x / b.Ripe
		if math.IsNaN(strongest) || share > strongest {
			strongest = share
		}
		if share >= 1 {
			open++
		}
	}
	return strongest, open
}

// depletion is the share of the available water that is used up: as a core or a probe of today says, else by the balance.
func (s *situation) depletion() float64 {
	if k := s.r.Sky; k.Today >= 0 && !k.Unsaid && k.Balance.Total > 0 {
		if p := k.Points[k.Today]; !math.IsNaN(p.Share) && s.offset(p.Date) >= -4 {
			return p.Share
		}
	}
	return s.feltDepletion()
}

// normalTmax is the normal maximum of a day.
func (s *situation) normalTmax(k int) float64 {
	_, hi := s.place.Air(s.day(k))
	return hi
}
