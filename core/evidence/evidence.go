package evidence

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"hodos/core/knowledge"
	"hodos/core/sky"
	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/core/weather"
)

// WeatherFinding is one finding computed from the series.
type WeatherFinding struct {
	ID, Cause   string
	Value       knowledge.Value
	Detail      string
	From, To    time.Time
	Provisional bool
}

// Gathered is everything a case has to say, each fact once.
type Gathered struct {
	Lawn      knowledge.Lawn
	Values    map[string]knowledge.Value // by finding, "disease-window:rust" for those kept once a cause
	Beside    map[string]knowledge.Value // what the good spot reads where the bad one was read, too; differences that are findings aside
	Read      map[string]knowledge.Value // the reading of what Values has as a difference
	Weather   []WeatherFinding
	Notices   []Notice
	Responses []Response // what came of what was done
	Sky       sky.Sky
}

// Gather brings findings, weather, treatments, the reference spot and former visits together. One fact in two places
// counts once: the measured or dated one wins, and a contradiction is reported.
func Gather(c Case) Gathered {
	g := Gathered{Lawn: c.Lawn, Values: map[string]knowledge.Value{}}
	note := func(about, format string, args ...any) {
		g.Notices = append(g.Notices, Notice{about, fmt.Sprintf(format, args...)})
	}
	for id, v := range c.Findings {
		g.Values[id] = v
	}
	g.fromSamples(c)
	g.fromTreatments(c, note)

	if _, felt := g.Values["texture"]; !felt && c.Lawn.Texture != "" {
		g.Values["texture"] = knowledge.WordValue(c.Lawn.Texture)
	} else if felt && c.Lawn.Texture != "" && g.Values["texture"].Word != c.Lawn.Texture {
		note("texture", "soil core: %s; site record: %s. Using the core", g.Values["texture"].Word, c.Lawn.Texture)
		g.Lawn.Texture = g.Values["texture"].Word
	}
	if c.Lawn.AffectedM2 != nil && c.Lawn.AreaM2 != nil && *c.Lawn.AreaM2 > 0 {
		share := math.Min(100, *c.Lawn.AffectedM2 / *c.Lawn.AreaM2 * 100)
		if v, ok := g.Values["affected-area-percent"]; !ok {
			g.Values["affected-area-percent"] = knowledge.NumberValue(share)
		} else if math.Abs(*v.Number-share) > 15 {
			note("affected-area-percent", "%.0f %% was estimated, the areas give %.0f %%; the estimate on site counts", *v.Number, share)
		}
	}
	if v, ok := g.Values["irrigation-time"]; ok && v.Word == "none" {
		if c.Lawn.Irrigated != nil && *c.Lawn.Irrigated {
			note("irrigation-time", "the site is said to be irrigated, the watering time says none; the answer on site counts")
		}
		dry := false
		g.Lawn.Irrigated = &dry
	}
	if v, ok := g.Values["last-nitrogen-source"]; ok && v.Word == "none" {
		if _, has := g.Values["last-nitrogen-days"]; !has {
			g.Values["last-nitrogen-days"] = knowledge.NumberValue(365)
		}
	}
	g.soilTemperatures(c, note)
	g.besideGood(c)
	for _, e := range c.Earlier {
		if e.Cause != "" && e.Cause != knowledge.Healthy && c.Lawn.Date.Sub(e.Date) < 3*366*24*time.Hour &&
			c.Lawn.Date.Sub(e.Date) > 60*24*time.Hour {
			past := g.Values["past-causes"]
			if slices.Index(past.List, e.Cause) < 0 {
				g.Values["past-causes"] = knowledge.Value{List: append(append([]string{}, past.List...), e.Cause)}
			}
		}
	}
	g.derive(c, note)
	g.fromWeather(c, note)
	for _, x := range knowledge.Contradictions(g.Values) {
		note(x.About, "%s", x.Text)
	}
	if len(c.Lawn.Species) > 0 && c.Lawn.Species[0] == "unknown" {
		note("species", "the grass is not known: causes of both families stay possible and every figure is less sure")
	}
	return g
}

// besideGood keeps what the good spot reads, where the bad one was read on this visit.
func (g *Gathered) besideGood(c Case) {
	for id, good := range c.Reference {
		f, ok := knowledge.FindingByID(id)
		if _, read := c.Findings[id]; !ok || !read || !f.AtBothSpots() || f.ByItself() {
			continue
		}
		if g.Beside == nil {
			g.Beside = map[string]knowledge.Value{}
		}
		g.Beside[id] = good
	}
}

func (g *Gathered) fromSamples(c Case) {
	for id, counts := range c.Samples {
		f, ok := knowledge.FindingByID(id)
		if _, has := g.Values[id]; has || !ok || f.Kind != knowledge.Number || len(counts) == 0 {
			continue
		}
		sum := 0.0
		for _, x := range counts {
			if n, is := x.(float64); is {
				sum += n
			}
		}
		mean := sum / float64(len(counts))
		if hits, of, ok := hitsOf(counts); ok && strings.HasPrefix(f.Unit, "%") {
			mean = hits / of * 100
		}
		g.Values[id] = knowledge.NumberValue(math.Min(f.Max, mean))
	}
}

// hitsOf reads [hits, of]: two counts, the second not smaller and above nought.
func hitsOf(counts []any) (hits, of float64, ok bool) {
	if len(counts) != 2 {
		return 0, 0, false
	}
	hits, _ = counts[0].(float64)
	of, _ = counts[1].(float64)
	return hits, of, of > 0 && hits <= of
}

// doneRow: what a record of a treatment says to a question that would have been asked: for so many days after it. A word is not put in
// the place of a stronger one.
type doneRow struct {
	actions, finding, word string
	days                   float64
	unless                 string
}

var doneRows = []doneRow{
	{"apply-iron", "iron-last-60-days", "yes", 60, ""},
	{"herbicide-spot herbicide-broadcast preemergent moss-control", "herbicide-last-30-days", "yes", 30, ""},
	{"insecticide-curative", "insecticide-this-season", "curative", 180, ""},
	{"insecticide-preventive", "insecticide-this-season", "preventive", 180, "curative"},
}

// fed are the actions that give nitrogen, and the findings that records of them answer.
const (
	fed       = "apply-nitrogen spoon-feed-nitrogen acidifying-nitrogen"
	fedDays   = "last-nitrogen-days"
	fedSource = "last-nitrogen-source"
	fedYear   = "nitrogen-12-months-g-m2"
)

func (g *Gathered) fromTreatments(c Case, note func(string, string, ...any)) {
	lastN, nSum, source := -1.0, 0.0, ""
	for _, t := range c.Treatments {
		age := c.Lawn.Date.Sub(t.Date).Hours() / 24
		if age < 0 {
			continue
		}
		if slices.Contains(strings.Fields(fed), t.Action) && (t.NGM2 == nil || *t.NGM2 > 0) {
			if lastN < 0 || age < lastN {
				lastN, source = age, t.Source
			}
			if age <= 365 && t.NGM2 != nil {
				nSum += *t.NGM2
			}
		}
		for _, r := range doneRows {
			if age > r.days || !slices.Contains(strings.Fields(r.actions), t.Action) || r.unless != "" && g.Values[r.finding].Word == r.unless {
				continue
			}
			if r.word == "yes" {
				g.override(r.finding, knowledge.YesValue(true), note)
			} else {
				g.override(r.finding, knowledge.WordValue(r.word), note)
			}
		}
	}
	if lastN >= 0 {
		g.override(fedDays, knowledge.NumberValue(math.Min(lastN, 3650)), note)
		if source != "" {
			g.override(fedSource, knowledge.WordValue(source), note)
		}
	}
	if v, ok := g.Values[fedYear]; nSum > 0 && (!ok || *v.Number < nSum) {
		g.override(fedYear, knowledge.NumberValue(math.Min(nSum, 100)), note)
	}
}

// override puts a dated fact in the place of a remembered one and reports when they differ.
func (g *Gathered) override(id string, v knowledge.Value, note func(string, string, ...any)) {
	if old, ok := g.Values[id]; ok {
		differs := old.Word != v.Word || (old.Yes != nil && v.Yes != nil && *old.Yes != *v.Yes)
		if old.Number != nil && v.Number != nil {
			differs = math.Abs(*old.Number-*v.Number) > math.Max(3, .1**v.Number)
		}
		if differs {
			note(id, "the answer was %v, the treatments say %v; the dated record counts", old.Plain(), v.Plain())
		}
	}
	g.Values[id] = v
}

// soilTemperatures keeps the bad spot's reading and turns the good spot's into a difference.
func (g *Gathered) soilTemperatures(c Case, note func(string, string, ...any)) {
	good, ok := g.Values["soil-temp-healthy-c"]
	if ref, has := c.Reference["soil-temp-c"]; has {
		if ok && math.Abs(*ref.Number-*good.Number) > 1 {
			note("soil-temp-healthy-c", "%.1f °C and %.1f °C are given for the healthy spot; the reference counts", *good.Number, *ref.Number)
		}
		good, ok = ref, true
	}
	bad, hasBad := g.Values["soil-temp-c"]
	delete(g.Values, "soil-temp-healthy-c")
	if ok && hasBad {
		g.Values["soil-temp-healthy-c"] = knowledge.NumberValue(*bad.Number - *good.Number)
		g.Read = map[string]knowledge.Value{"soil-temp-healthy-c": good}
	} else if ok {
		note("soil-temp-healthy-c", "a healthy spot was measured but not the bad one: without the difference it weighs nothing")
	}
}

// Ground is what sky and ground have to know of the zone, from everything a case says of it.
func (c Case) Ground(values map[string]knowledge.Value) sky.Ground {
	l := c.Lawn
	g := sky.Ground{Date: l.Date, Irrigated: l.Irrigated}
	g.Latitude, g.Texture, g.Warm = l.Latitude, l.Texture, knowledge.IsWarm(l)
	g.Place = weather.ClimateAt(l.Latitude, l.Longitude)
	if place, ok := weather.ClimateOf(l.Normals, l.Latitude); ok {
		g.Place = place
	}
	if l.ElevationM != nil {
		g.ElevationM = *l.ElevationM
	}
	if c.Onset != nil {
		g.Onset = *c.Onset
	}
	num := func(id string) (float64, bool) {
		v := values[id].Number
		if v == nil {
			return 0, false
		}
		return *v, true
	}
	if w := values["texture"].Word; w != "" {
		g.Texture = w
	}
	if x, ok := num("root-depth-mm"); ok && x >= 40 {
		g.RootDepthMM = x
	}
	if v := values["irrigation-weekly-mm"].Number; v != nil {
		g.WeeklyWaterMM = v
	}
	if v := values["infiltration-mm-h"].Number; v != nil {
		g.InfiltrationMMH = v
	}
	if x, ok := num("mowing-height-mm"); ok {
		g.HeightMM = x
	}
	if x, ok := num("catch-can-du"); ok {
		g.Uniformity = x
	}
	if x, ok := num("sun-hours"); ok {
		g.Shade = math.Max(0, math.Min(.9, 1-x/9)) // nine hours are full sun (judgement)
	}
	if x, ok := num("water-drop-seconds"); ok {
		g.Repellent = x >= 60
	}
	if x, ok := num("penetration-kpa"); ok {
		g.Compacted = x > 2000
	}
	position := values["position"].List
	if slices.Index(position, "slope") >= 0 {
		g.SlopePercent = 10
	}
	g.Compacted = g.Compacted || values["surface"].Word == "crusted"
	g.Harsh = g.Texture == "sand" || g.Compacted || slices.Index(position, "near-hardscape") >= 0
	g.ShallowSoil = values["layering"].Word == "thin-topsoil" || slices.Index(position, "over-tank") >= 0
	density := values["stand-density"].Word
	g.Thin = density == "thin" || density == "gaps" || density == "bare"
	if len(l.Species) > 0 {
		if s, ok := turf.ByID(l.Species[0]); ok {
			g.ColdLimit = s.ColdLimit
			if s.Endurance.Known() {
				g.EnduranceWeeks, g.SurvivesByHalf = s.Endurance.Low, s.SurvivesByHalf // open ends and hopes never enter
			}
		}
	}
	if x, ok := num("soil-temp-c"); ok {
		hour := usualHour
		if h, ok := num("soil-temp-hour"); ok {
			hour = h
		}
		g.SoilReadings = append(g.SoilReadings, weather.Reading{Date: l.Date, Hour: hour, TempC: x})
	}
	for _, t := range c.Treatments {
		if t.Action == "growth-regulator" && t.Date.After(g.Regulated) {
			g.Regulated = t.Date
		}
	}
	return g
}

// lasting puts what former visits measured, and what holds longer than a visit, under what is known now: the newest of it, a year back.
func (c Case) lasting(values map[string]knowledge.Value) map[string]knowledge.Value {
	out, when := maps.Clone(values), map[string]time.Time{}
	for _, e := range c.Earlier {
		if age := c.Lawn.Date.Sub(e.Date).Hours() / 24; age < 0 || age > lastingDays {
			continue
		}
		for id, v := range e.Findings {
			f, ok := knowledge.FindingByID(id)
			if _, said := values[id]; said || !ok || !f.Lasts || e.Date.Before(when[id]) {
				continue
			}
			out[id], when[id] = v, e.Date
		}
	}
	return out
}

// read adds what was read on the spot in the last two months outside the visit: a thermometer corrects the course at its hour, a
// core or a probe sets the balance where it is far off.
func (c Case) read(g *sky.Ground) {
	for _, e := range c.Earlier {
		if age := c.Lawn.Date.Sub(e.Date).Hours() / 24; age < 0 || age > readingDays {
			continue
		}
		if x := e.Findings["soil-temp-c"].Number; x != nil {
			hour := usualHour
			if h := e.Findings["soil-temp-hour"].Number; h != nil {
				hour = *h
			}
			g.SoilReadings = append(g.SoilReadings, weather.Reading{Date: e.Date, Hour: hour, TempC: *x})
		}
		if x := e.Findings["soil-moisture-vwc"].Number; x != nil {
			g.Moisture = append(g.Moisture, soil.Check{Date: e.Date, Share: soil.ShareOfVolume(*x, g.Texture), Least: probeWater})
		} else if share, ok := soil.ShareOf(e.Findings["soil-moisture"].Word); ok {
			g.Moisture = append(g.Moisture, soil.Check{Date: e.Date, Share: share, Least: muchWater})
		}
	}
}

// How far a core has to be from the balance (share of the available water) and a thermometer from the course (°C) to overrule
// them (judgement).
const (
	muchWater   = .45
	muchHeat    = 4.0
	probeWater  = .25  // the same for a probe's water by volume
	readingDays = 60.0 // for which a former reading still tells
	lastingDays = 400.0
	usualHour   = 14.0 // the middle of a working day, where nobody wrote it down
)

// Sky looks at the weather of a case. A core or a thermometer that contradicts the model wins and corrects it; told says so.
func (c Case) Sky(values map[string]knowledge.Value) (s sky.Sky, told []Notice, overruled map[string]bool) {
	g := c.Ground(c.lasting(values))
	readings := g.SoilReadings
	g.SoilReadings = nil
	c.read(&g)
	s = sky.Of(c.Weather, c.Forecast, g)
	overruled = map[string]bool{}
	if s.Today < 0 {
		return s, nil, overruled
	}
	today := s.Points[s.Today]
	close := today.Date.After(c.Lawn.Date.AddDate(0, 0, -4))
	again := false
	about, share, core := "soil-moisture", 0.0, false
	far, what := muchWater, "core is "+knowledge.ValueLabel(values["soil-moisture"].Word)
	if share, core = soil.ShareOf(values["soil-moisture"].Word); !core && values["soil-moisture-vwc"].Number != nil {
		x := *values["soil-moisture-vwc"].Number
		about, far, what = "soil-moisture-vwc", probeWater, fmt.Sprintf("probe says %g %%", x)
		share, core = soil.ShareOfVolume(x, g.Texture), true
	}
	if core && close && math.Abs(share-today.Share) >= far {
		g.Moisture = append(g.Moisture, soil.Check{Date: today.Date, Share: share})
		text := fmt.Sprintf("the %s, the balance has %.0f %% of the water gone: the %s counts and corrects the balance", what, today.Share*100,
			strings.Fields(what)[0])
		if share < today.Share {
			text += "; is there water from elsewhere?"
		}
		told = append(told, Notice{about, text})
		overruled["soil-water-deficit"], again = true, true
	}
	for _, r := range readings {
		course := weather.SoilDay{Mean: today.SoilMean, Amplitude: today.SoilPeak - today.SoilMean}
		if model := course.At(r.Hour); close && !math.IsNaN(model) {
			g.SoilReadings, again = append(g.SoilReadings, weather.Reading{Date: today.Date, Hour: r.Hour, TempC: r.TempC}), true
			if math.Abs(model-r.TempC) >= muchHeat {
				told = append(told, Notice{"soil-temp-c",
					fmt.Sprintf("the thermometer says %.1f °C, the model %.1f °C at that hour: the thermometer counts and corrects the course", r.TempC,
						model)})
				overruled["soil-temp-class"] = true
			}
		}
	}
	if again {
		s = sky.Of(c.Weather, c.Forecast, g)
	}
	return s, told, overruled
}

func (g *Gathered) fromWeather(c Case, note func(string, string, ...any)) {
	c.Lawn.Irrigated = g.Lawn.Irrigated
	s, told, overruled := c.Sky(g.Values)
	g.Sky = s
	g.Notices = append(g.Notices, told...)
	for _, x := range s.Findings {
		f, _ := knowledge.FindingByID(x.Finding)
		wf := WeatherFinding{ID: x.Finding, Cause: x.Cause, Detail: x.Detail, From: x.From, To: x.To, Provisional: f.Provisional}
		if x.Number != nil {
			wf.Value = knowledge.NumberValue(math.Max(f.Min, math.Min(f.Max, *x.Number)))
		} else {
			wf.Value = knowledge.WordValue(x.Word)
		}
		g.Weather = append(g.Weather, wf)
		id := x.Finding
		if x.Cause != "" {
			id += ":" + x.Cause
		}
		if !overruled[x.Finding] {
			g.Values[id] = wf.Value
		}
	}
	for _, m := range s.Missing {
		note(m.Finding, "%s", m.Why)
	}
	if g.Lawn.Irrigated != nil && *g.Lawn.Irrigated {
		delete(g.Values, "days-without-5-mm") // the sprinklers stand in for the rain; the balance or a core must say
	}
}
