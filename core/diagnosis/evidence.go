package diagnosis

import (
	"fmt"
	"math"
	"sort"
	"strings"
	"time"

	"hodos/core/turf"
	"hodos/core/weather"
)

// isWarm reports whether the main grass is of the warm-season family.
func isWarm(l Lawn) bool {
	if len(l.Species) == 0 {
		return false
	}
	s, _ := turf.ByID(l.Species[0])
	return s.Family == turf.Warm
}

// WeatherFinding is one finding computed from the series.
type WeatherFinding struct {
	ID, Cause   string
	Value       Value
	Detail      string
	From, To    time.Time
	Provisional bool
}

// Gathered is everything a case has to say, each fact once.
type Gathered struct {
	Lawn    Lawn
	Values  map[string]Value // by finding, "disease-window:rust" for those kept once a cause
	Weather []WeatherFinding
	Notices []Notice
}

// Gather brings findings, weather, treatments, the reference spot and former visits together. One fact in two places
// counts once: the measured or dated one wins, and a contradiction is reported.
func Gather(c Case) Gathered {
	g := Gathered{Lawn: c.Lawn, Values: map[string]Value{}}
	note := func(about, format string, args ...any) {
		g.Notices = append(g.Notices, Notice{about, fmt.Sprintf(format, args...)})
	}
	for id, v := range c.Findings {
		g.Values[id] = v
	}
	g.fromSamples(c)
	g.fromTreatments(c, note)

	if _, felt := g.Values["texture"]; !felt && c.Lawn.Texture != "" {
		g.Values["texture"] = WordValue(c.Lawn.Texture)
	} else if felt && c.Lawn.Texture != "" && g.Values["texture"].Word != c.Lawn.Texture {
		note("texture", "the core says %s, the site says %s; the core counts", g.Values["texture"].Word, c.Lawn.Texture)
		g.Lawn.Texture = g.Values["texture"].Word
	}
	if c.Lawn.AffectedM2 != nil && c.Lawn.AreaM2 != nil && *c.Lawn.AreaM2 > 0 {
		share := math.Min(100, *c.Lawn.AffectedM2 / *c.Lawn.AreaM2 * 100)
		if v, ok := g.Values["affected-area-percent"]; !ok {
			g.Values["affected-area-percent"] = NumberValue(share)
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
			g.Values["last-nitrogen-days"] = NumberValue(365)
		}
	}
	g.soilTemperatures(c, note)
	for _, e := range c.Earlier {
		if e.Answer != "" && e.Answer != Healthy && c.Lawn.Date.Sub(e.Date) < 3*366*24*time.Hour && c.Lawn.Date.Sub(e.Date) > 60*24*time.Hour {
			past := g.Values["past-causes"]
			if index(past.List, e.Answer) < 0 {
				g.Values["past-causes"] = Value{List: append(append([]string{}, past.List...), e.Answer)}
			}
		}
	}
	g.derive(c, note)
	g.fromWeather(c, note)
	g.Notices = append(g.Notices, contradictions(g.Values)...)
	if len(c.Lawn.Species) > 0 && c.Lawn.Species[0] == "unknown" {
		note("species", "the grass is not known: causes of both families stay possible and every figure is less sure")
	}
	return g
}

func (g *Gathered) fromSamples(c Case) {
	for id, counts := range c.Samples {
		f, ok := FindingByID(id)
		if _, has := g.Values[id]; has || !ok || f.Kind != Number || len(counts) == 0 {
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
		g.Values[id] = NumberValue(math.Min(f.Max, mean))
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

func (g *Gathered) fromTreatments(c Case, note func(string, string, ...any)) {
	lastN, nSum, source := -1.0, 0.0, ""
	for _, t := range c.Treatments {
		age := c.Lawn.Date.Sub(t.Date).Hours() / 24
		if age < 0 {
			continue
		}
		switch t.Action {
		case "apply-nitrogen", "spoon-feed-nitrogen":
			if t.NGM2 != nil && *t.NGM2 == 0 {
				break
			}
			if lastN < 0 || age < lastN {
				lastN, source = age, t.Source
			}
			if age <= 365 && t.NGM2 != nil {
				nSum += *t.NGM2
			}
		case "apply-iron":
			if age <= 60 {
				g.override("iron-last-60-days", YesValue(true), note)
			}
		case "herbicide-spot", "herbicide-broadcast", "preemergent", "moss-control":
			if age <= 30 {
				g.override("herbicide-last-30-days", YesValue(true), note)
			}
		case "insecticide-curative":
			if age <= 180 {
				g.override("insecticide-this-season", WordValue("curative"), note)
			}
		case "insecticide-preventive":
			if v := g.Values["insecticide-this-season"]; age <= 180 && v.Word != "curative" {
				g.override("insecticide-this-season", WordValue("preventive"), note)
			}
		}
	}
	if lastN >= 0 {
		g.override("last-nitrogen-days", NumberValue(math.Min(lastN, 3650)), note)
		if source != "" {
			g.override("last-nitrogen-source", WordValue(source), note)
		}
	}
	if v, ok := g.Values["nitrogen-12-months-g-m2"]; nSum > 0 && (!ok || *v.Number < nSum) {
		g.override("nitrogen-12-months-g-m2", NumberValue(math.Min(nSum, 100)), note)
	}
}

// override puts a dated fact in the place of a remembered one and reports when they differ.
func (g *Gathered) override(id string, v Value, note func(string, string, ...any)) {
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
		g.Values["soil-temp-healthy-c"] = NumberValue(*bad.Number - *good.Number)
	} else if ok {
		note("soil-temp-healthy-c", "a healthy spot was measured but not the bad one: without the difference it weighs nothing")
	}
}

func (g *Gathered) fromWeather(c Case, note func(string, string, ...any)) {
	ground := weather.Ground{Latitude: c.Lawn.Latitude, Texture: c.Lawn.Texture, Warm: isWarm(c.Lawn), Irrigated: g.Lawn.Irrigated, Date: c.Lawn.Date}
	if v, ok := g.Values["texture"]; ok {
		ground.Texture = v.Word
	}
	if v, ok := g.Values["root-depth-mm"]; ok && *v.Number >= 40 {
		ground.RootDepthMM = *v.Number
	}
	if v, ok := g.Values["irrigation-weekly-mm"]; ok {
		ground.WeeklyWaterMM = v.Number
	}
	if c.Onset != nil {
		ground.Onset = *c.Onset
	}
	if len(c.Lawn.Species) > 0 {
		if s, ok := turf.ByID(c.Lawn.Species[0]); ok && s.Endurance.Known() {
			ground.EnduranceWeeks = (s.Endurance.Low + s.Endurance.High) / 2
		}
	}
	computed, missing := weather.Findings(c.Weather, c.Forecast, ground)
	for _, x := range computed {
		f, _ := FindingByID(x.Finding)
		wf := WeatherFinding{ID: x.Finding, Cause: x.Cause, Detail: x.Detail, From: x.From, To: x.To, Provisional: f.Provisional}
		if x.Number != nil {
			wf.Value = NumberValue(math.Max(f.Min, math.Min(f.Max, *x.Number)))
		} else {
			wf.Value = WordValue(x.Word)
		}
		g.Weather = append(g.Weather, wf)
		id := x.Finding
		if x.Cause != "" {
			id += ":" + x.Cause
		}
		g.Values[id] = wf.Value
	}
	for _, m := range missing {
		note(m.Finding, "%s", m.Why)
	}
	if _, measured := g.Values["snow-days"]; measured {
		delete(g.Values, "snow-cover-days")
	}
	if g.Lawn.Irrigated != nil && *g.Lawn.Irrigated {
		delete(g.Values, "days-without-5-mm") // the sprinklers stand in for the rain; the balance or a core must say
	}
	if _, computed := g.Values["soil-water-deficit"]; computed {
		// the same dryness would count twice; the balance speaks for the rain
		delete(g.Values, "days-without-5-mm")
	}
}

// contradictions names findings that cannot well be true together.
func contradictions(v map[string]Value) (out []Notice) {
	number := func(id string) (float64, bool) {
		x, ok := v[id]
		if !ok || x.Number == nil {
			return 0, false
		}
		return *x.Number, true
	}
	word := func(id string) string { return v[id].Word }
	say := func(about, text string) { out = append(out, Notice{about, text}) }
	if n, ok := number("grubs-per-m2"); ok {
		if n >= 65 && word("pull-test") == "resists" {
			say("pull-test", fmt.Sprintf("%g grubs per m² were counted, and the turf resists the pull: were both done at the margin of the damage?", n))
		}
		if n < 10 && word("root-condition") == "chewed-off" {
			say("root-condition", "roots chewed off and next to no grubs counted: look deeper, or for other larvae")
		}
		if t, has := number("soil-temp-c"); n == 0 && ((has && t < 10) || word("soil-moisture") == "dry") {
			say("grubs-per-m2", "none found in dry or cold soil is \"not checked\", not \"none\": they lie deeper")
		}
	}
	if alive, ok := number("crowns-alive-percent"); ok {
		if alive >= 80 && strings.HasPrefix(word("crown-slice"), "brown") {
			say("crown-slice", fmt.Sprintf("%g %% of the crowns alive and the slice brown: cut ten more from the worst part", alive))
		}
		if alive <= 15 && word("crown-slice") == "white-moist" {
			say("crown-slice", fmt.Sprintf("%g %% of the crowns alive and the slice pale and moist: cut ten more from the worst part", alive))
		}
	}
	if word("soil-moisture") == "dry" {
		if d, ok := number("core-moist-depth-mm"); ok && d > 80 {
			say("core-moist-depth-mm", "the core is called dry and moist to more than 80 mm")
		}
		if word("underfoot") == "wet" {
			say("underfoot", "dry in the core and wet underfoot")
		}
	}
	if (word("soil-moisture") == "wet" || word("soil-moisture") == "saturated") && word("soil-water-deficit") == "severe" {
		say("soil-water-deficit", "the core is wet although the weather says dry: the core counts; is there water from elsewhere?")
	}
	sort.Slice(out, func(a, b int) bool { return out[a].About+out[a].Text < out[b].About+out[b].Text })
	return out
}
