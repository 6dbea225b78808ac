// Package casefile reads and writes the open case format, version 1: one lawn zone as seen on one visit, in one JSON
// file. It refuses what it does not know, with the path of the field and the reason, and ignores nothing silently.
package casefile

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"sort"
	"strings"
	"time"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/turf"
	"hodos/core/weather"
	"hodos/exchange/refusal"
)

// Version is the major version of the format that this package reads and writes.
const Version = 1

// MaxBytes is the largest file that is read: a year of days fits fifty times over (judgement).
const MaxBytes = 8 << 20

// Read reads one case. The error is a *refusal.Refusal when the file was read and not accepted.
func Read(r io.Reader) (evidence.Case, error) {
	data, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return evidence.Case{}, err
	}
	if len(data) > MaxBytes {
		return evidence.Case{}, refusedWhole("larger than %d bytes", MaxBytes)
	}
	return Parse(data)
}

// Parse reads one case from memory.
func Parse(data []byte) (evidence.Case, error) {
	dec := json.NewDecoder(bytes.NewReader(data))
	p := &parser{treated: map[string]time.Time{}}
	root, err := p.value(dec, nil, 0)
	if err == nil {
		if _, extra := dec.Token(); !errors.Is(extra, io.EOF) {
			err = errors.New("something follows after the case")
		}
	}
	if err != nil {
		return evidence.Case{}, p.whole("not JSON: %s", err.Error())
	}
	obj, ok := root.(object)
	if !ok {
		return evidence.Case{}, refusedWhole("expected one JSON object")
	}
	c := p.readCase(obj)
	if p.refused.Count > 0 {
		list := p.refused.Problems
		sort.SliceStable(list, func(a, b int) bool { return list[a].Column < list[b].Column })
		return evidence.Case{}, &p.refused
	}
	return c, nil
}

type object map[string]any

type parser struct {
	refused refusal.Refusal
	treated map[string]time.Time // by the place of a treatment in the file
}

func (p *parser) refuse(field, format string, args ...any) { p.refused.Add(0, field, format, args...) }

// whole refuses the file as such, beside what was refused of it so far.
func (p *parser) whole(format string, args ...any) error {
	p.refuse("(file)", format, args...)
	return &p.refused
}

func refusedWhole(format string, args ...any) error { return (&parser{}).whole(format, args...) }

// deepest is how many objects and lists may stand in each other: the format needs nine.
const deepest = 16

// place is where a value stands, kept as the way there: its name is put together only when something is refused.
type place struct {
	above *place
	key   string
	index int
}

func (at *place) String() string {
	switch {
	case at == nil:
		return ""
	case at.key == "":
		return fmt.Sprintf("%s[%d]", at.above, at.index)
	}
	return join(at.above.String(), at.key)
}

var errDeep = fmt.Errorf("objects and lists stand more than %d deep in each other", deepest)

// value decodes one JSON value token by token, so that a key that stands twice is seen.
func (p *parser) value(dec *json.Decoder, at *place, depth int) (any, error) {
	t, err := dec.Token()
	if err != nil {
		return nil, err
	}
	d, isDelim := t.(json.Delim)
	if !isDelim {
		return t, nil
	}
	if depth == deepest {
		return nil, errDeep
	}
	if d == '[' {
		list := []any{}
		for dec.More() {
			v, err := p.value(dec, &place{above: at, index: len(list)}, depth+1)
			if err != nil {
				return nil, err
			}
			list = append(list, v)
		}
		_, err = dec.Token()
		return list, err
	}
	o := object{}
	for dec.More() {
		k, err := dec.Token()
		if err != nil {
			return nil, err
		}
		key := k.(string)
		here := &place{above: at, key: key}
		if _, twice := o[key]; twice {
			p.refuse(here.String(), "stands twice")
		}
		if o[key], err = p.value(dec, here, depth+1); err != nil {
			return nil, err
		}
	}
	_, err = dec.Token()
	return o, err
}

func join(path, key string) string {
	if path == "" {
		return key
	}
	return path + "." + key
}

// fields walks an object with a table of readers; keys that the table does not have are refused.
func (p *parser) fields(path string, v any, table map[string]func(at string, v any)) {
	o, ok := v.(object)
	if !ok {
		p.refuse(path, "expected an object")
		return
	}
	for key, v := range o {
		at := join(path, key)
		if read, known := table[key]; known {
			read(at, v)
		} else {
			p.refuse(at, "unknown field")
		}
	}
}

func (p *parser) text(into *string) func(string, any) {
	return func(at string, v any) {
		s, ok := v.(string)
		if !ok {
			p.refuse(at, "expected a text")
			return
		}
		*into = s
	}
}

func (p *parser) number(into **float64, low, high float64) func(string, any) {
	return func(at string, v any) {
		x, ok := v.(float64)
		if !ok {
			p.refuse(at, "expected a number")
			return
		}
		if math.IsNaN(x) || x < low || x > high {
			p.refuse(at, "%g is outside the physical range %g to %g", x, low, high)
			return
		}
		*into = &x
	}
}

// column is a number that may be null: a gap in a series.
func (p *parser) column(into **float64, low, high float64) func(string, any) {
	read := p.number(into, low, high)
	return func(at string, v any) {
		if v != nil {
			read(at, v)
		}
	}
}

func (p *parser) truth(into **bool) func(string, any) {
	return func(at string, v any) {
		b, ok := v.(bool)
		if !ok {
			p.refuse(at, "expected true or false")
			return
		}
		*into = &b
	}
}

func (p *parser) date(into *time.Time) func(string, any) {
	return func(at string, v any) {
		s, _ := v.(string)
		d, err := time.Parse("2006-01-02", s)
		if err != nil {
			p.refuse(at, "%v is not an ISO 8601 date (YYYY-MM-DD)", v)
			return
		}
		*into = d
	}
}

func (p *parser) word(into *string, allowed ...string) func(string, any) {
	return func(at string, v any) {
		s, _ := v.(string)
		for _, a := range allowed {
			if a == s {
				*into = s
				return
			}
		}
		p.refuse(at, "unknown id %v; known are %s", v, strings.Join(allowed, ", "))
	}
}

func (p *parser) each(at string, v any, f func(at string, v any)) {
	list, ok := v.([]any)
	if !ok {
		p.refuse(at, "expected a list")
		return
	}
	for i, item := range list {
		f(fmt.Sprintf("%s[%d]", at, i), item)
	}
}

var textures = []string{"sand", "loamy-sand", "sandy-loam", "loam", "silt-loam", "clay-loam", "clay"}

func (p *parser) readCase(o object) evidence.Case {
	var c evidence.Case
	var version *float64
	var date time.Time
	p.fields("", o, map[string]func(string, any){
		"hodos_case": func(at string, v any) {
			x, ok := v.(float64)
			if !ok || x != math.Trunc(x) || x < 1 {
				p.refuse(at, "expected the version number %d", Version)
				return
			}
			if x > Version {
				p.refuse(at, "version %g is newer than %d, the newest this program reads", x, Version)
			}
			version = &x
		},
		"title": p.text(&c.Title),
		"date":  p.date(&date),
		"site":  func(at string, v any) { p.readSite(at, v, &c.Lawn) },
		"onset": func(at string, v any) {
			var d time.Time
			p.date(&d)(at, v)
			if !d.IsZero() {
				c.Onset = &d
			}
		},
		"policy": func(at string, v any) {
			p.fields(at, v, map[string]func(string, any){
				"summer-water":   p.word(&c.Policy.SummerWater, "keep-green", "let-rest", "one-area"),
				"pests":          p.word(&c.Policy.Pests, "threshold", "preventive"),
				"summer-feeding": p.word(&c.Policy.SummerFeeding, "none", "spoon-feed"),
				"blemishes":      p.word(&c.Policy.Blemishes, "tolerate", "treat"),
				"service":        p.word(&c.Policy.Service, "weeds", "feeding", "full"),
			})
		},
		"findings":   func(at string, v any) { c.Findings = p.readFindings(at, v) },
		"reference":  func(at string, v any) { c.Reference = p.readFindings(at, v) },
		"samples":    func(at string, v any) { c.Samples = p.readSamples(at, v) },
		"earlier":    func(at string, v any) { c.Earlier = p.readEarlier(at, v) },
		"looks":      func(at string, v any) { c.Looks = p.readLooks(at, v) },
		"context":    func(at string, v any) { p.readContext(at, v, &c.Context) },
		"notes":      p.text(&c.Notes),
		"weather":    func(at string, v any) { c.Weather = p.readWeather(at, v) },
		"forecast":   func(at string, v any) { c.Forecast = p.readWeather(at, v) },
		"treatments": func(at string, v any) { c.Treatments, c.Done = p.readTreatments(at, v) },
	})
	for _, need := range []string{"hodos_case", "date", "site", "findings"} {
		if _, ok := o[need]; !ok {
			p.refuse(need, "is required")
		}
	}
	_ = version
	c.Lawn.Date = date
	if date.IsZero() {
		return c
	}
	p.checkDays(&c, date)
	return c
}

// checkDays refuses what lies on the wrong side of the visit.
func (p *parser) checkDays(c *evidence.Case, date time.Time) {
	if c.Onset != nil && c.Onset.After(date) {
		p.refuse("onset", "%s is after the visit of %s", day(*c.Onset), day(date))
	}
	for i, d := range c.Weather {
		if d.Date.After(date) {
			p.refuse(fmt.Sprintf("weather[%d].date", i), "%s is after the visit of %s; days to come belong in forecast", day(d.Date), day(date))
			break
		}
	}
	if len(c.Forecast) > 0 && !c.Forecast[0].Date.IsZero() && !c.Forecast[0].Date.After(date) {
		p.refuse("forecast[0].date", "%s is not after the visit of %s", day(c.Forecast[0].Date), day(date))
	}
	for at, d := range p.treated {
		if d.After(date) {
			p.refuse(join(at, "date"), "%s is after the visit of %s", day(d), day(date))
		}
	}
	for i, e := range c.Earlier {
		if !e.Date.Before(date) {
			p.refuse(fmt.Sprintf("earlier[%d].date", i), "%s is not before the visit of %s", day(e.Date), day(date))
		}
	}
	for i, l := range c.Looks {
		if l.Date.After(date) {
			p.refuse(fmt.Sprintf("looks[%d].date", i), "%s is after the visit of %s", day(l.Date), day(date))
		}
	}
}

func day(t time.Time) string { return t.Format("2006-01-02") }

func (p *parser) readSite(at string, v any, l *knowledge.Lawn) {
	var lat, lon, sown *float64
	p.fields(at, v, map[string]func(string, any){
		"form": p.text(&l.Form), "cultivar": p.text(&l.Cultivar), "sown_year": p.number(&sown, 1800, 2200),
		"latitude": p.number(&lat, -90, 90), "longitude": p.number(&lon, -180, 180), "elevation_m": p.number(&l.ElevationM, -500, 9000),
		"area_m2": p.number(&l.AreaM2, .01, 1e7), "affected_m2": p.number(&l.AffectedM2, 0, 1e7),
		"texture": p.word(&l.Texture, textures...), "irrigated": p.truth(&l.Irrigated),
		"normals_c": func(at string, v any) {
			p.each(at, v, func(at string, v any) {
				var x *float64
				p.number(&x, -60, 60)(at, v)
				if x != nil {
					l.Normals = append(l.Normals, *x)
				}
			})
			if list, ok := v.([]any); ok && len(list) != 12 {
				p.refuse(at, "has %d months; twelve monthly means are wanted", len(list))
			}
		},
		"species": func(at string, v any) {
			p.each(at, v, func(at string, v any) {
				id, _ := v.(string)
				if _, ok := turf.ByID(id); !ok {
					p.refuse(at, "unknown species %v", v)
					return
				}
				for _, have := range l.Species {
					if have == id {
						p.refuse(at, "%q stands twice", id)
					}
				}
				l.Species = append(l.Species, id)
			})
			if list, ok := v.([]any); ok && len(list) == 0 {
				p.refuse(at, "is empty; say [\"unknown\"] where the grass is not known")
			}
		},
	})
	if sown != nil {
		l.SownYear = int(*sown)
	}
	if l.Form != "" && (len(l.Species) == 0 || !turf.IsForm(l.Species[0], l.Form)) {
		p.refuse(join(at, "form"), "%q is no form of the grass", l.Form)
	}
	o, ok := v.(object)
	if !ok {
		return
	}
	for _, need := range []string{"latitude", "species"} {
		if _, has := o[need]; !has {
			p.refuse(join(at, need), "is required")
		}
	}
	if lat != nil {
		l.Latitude = *lat
	}
	if lon != nil {
		l.Longitude = *lon
	}
	if l.AreaM2 != nil && l.AffectedM2 != nil && *l.AffectedM2 > *l.AreaM2 {
		p.refuse(join(at, "affected_m2"), "%g m² affected of %g m²", *l.AffectedM2, *l.AreaM2)
	}
}

func (p *parser) readFindings(at string, v any) map[string]knowledge.Value {
	out := map[string]knowledge.Value{}
	o, ok := v.(object)
	if !ok {
		p.refuse(at, "expected an object of findings")
		return out
	}
	for id, v := range o {
		field := join(at, id)
		f, known := knowledge.FindingByID(id)
		if !known || !f.Asked() {
			reason := "unknown finding"
			if known {
				reason = "is computed from the weather and cannot be given"
			}
			p.refuse(field, "%s", reason)
			continue
		}
		val, err := knowledge.ValueOf(f, v)
		if err != nil {
			p.refuse(field, "%v", err)
			continue
		}
		out[id] = val
	}
	return out
}

func (p *parser) readSamples(at string, v any) map[string][]any {
	out := map[string][]any{}
	o, ok := v.(object)
	if !ok {
		p.refuse(at, "expected an object of findings with lists")
		return out
	}
	for id, v := range o {
		field := join(at, id)
		f, known := knowledge.FindingByID(id)
		if !known {
			p.refuse(field, "unknown finding")
			continue
		}
		p.each(field, v, func(item string, v any) {
			x, ok := v.(float64)
			if !ok {
				p.refuse(item, "expected a count; hits of a number stand as [hits, of]")
				return
			}
			if x < 0 || (f.Kind == knowledge.Number && x > f.Max) {
				p.refuse(item, "%g is outside the physical range", x)
			}
			out[id] = append(out[id], x)
		})
	}
	return out
}

func (p *parser) readEarlier(at string, v any) (out []evidence.Earlier) {
	p.each(at, v, func(at string, v any) {
		var e evidence.Earlier
		p.fields(at, v, map[string]func(string, any){
			"date":     p.date(&e.Date),
			"findings": func(at string, v any) { e.Findings = p.readFindings(at, v) },
			"answer": func(at string, v any) {
				s, _ := v.(string)
				if _, ok := knowledge.CauseByID(s); !ok {
					p.refuse(at, "unknown cause %v", v)
				}
				e.Cause = s
			},
		})
		if o, ok := v.(object); ok && o["date"] == nil {
			p.refuse(join(at, "date"), "is required")
		}
		out = append(out, e)
	})
	return out
}

// readLooks reads the measurements of how the zone recovers.
func (p *parser) readLooks(at string, v any) (out []evidence.Look) {
	p.each(at, v, func(at string, v any) {
		var l evidence.Look
		p.fields(at, v, map[string]func(string, any){
			"date": p.date(&l.Date), "cover": p.number(&l.Cover, 0, 1), "spread": p.word(&l.Spread, "none", "new"),
			"colour_index": p.number(&l.Index, 0, 1),
		})
		if o, ok := v.(object); ok && o["date"] == nil {
			p.refuse(join(at, "date"), "is required")
		}
		out = append(out, l)
	})
	return out
}

func (p *parser) readContext(at string, v any, c *evidence.Context) {
	p.fields(at, v, map[string]func(string, any){
		"country": p.text(&c.Country), "licence": p.truth(&c.Licence), "lines_located": p.truth(&c.LinesLocated),
		"utilities": func(_ string, v any) { c.Utilities = bare(v) },
		"learnt":    func(at string, v any) { c.Learnt = p.readLearnt(at, v) },
		"nearby": func(at string, v any) {
			p.each(at, v, func(at string, v any) {
				var n evidence.Nearby
				var count, weeks *float64
				p.fields(at, v, map[string]func(string, any){
					"cause": p.cause(&n.Cause),
					"count": p.number(&count, 0, 1e6), "weeks": p.number(&weeks, 0, 520),
				})
				if count != nil {
					n.Count = int(*count)
				}
				if weeks != nil {
					n.Weeks = *weeks
				}
				c.Nearby = append(c.Nearby, n)
			})
		},
	})
}

// cause reads the id of a cause.
func (p *parser) cause(into *string) func(string, any) {
	return func(at string, v any) {
		*into, _ = v.(string)
		if _, ok := knowledge.CauseByID(*into); !ok {
			p.refuse(at, "unknown cause %v", v)
		}
	}
}

// readLearnt reads what a firm's own closed cases teach.
func (p *parser) readLearnt(at string, v any) (out []evidence.Learnt) {
	p.each(at, v, func(at string, v any) {
		var l evidence.Learnt
		var factor *float64
		p.fields(at, v, map[string]func(string, any){"cause": p.cause(&l.Cause), "factor": p.number(&factor, .01, 100)})
		if factor == nil {
			p.refuse(join(at, "factor"), "is required")
			return
		}
		l.Factor = *factor
		out = append(out, l)
	})
	return out
}

// bare turns the parser's objects into plain maps.
func bare(v any) any {
	switch x := v.(type) {
	case object:
		out := map[string]any{}
		for k, v := range x {
			out[k] = bare(v)
		}
		return out
	case []any:
		for i := range x {
			x[i] = bare(x[i])
		}
	}
	return v
}

func (p *parser) readWeather(at string, v any) (out []weather.Day) {
	p.each(at, v, func(at string, v any) {
		var d weather.Day
		p.fields(at, v, map[string]func(string, any){
			"date": p.date(&d.Date), "tmin_c": p.column(&d.TMin, -70, 60), "tmax_c": p.column(&d.TMax, -70, 60),
			"rain_mm": p.column(&d.Rain, 0, 2000),
			"rh_mean": p.column(&d.RH, 0, 100), "wind_ms": p.column(&d.Wind, 0, 80), "solar_mj_m2": p.column(&d.Solar, 0, 50),
			"irrigation_mm": p.column(&d.Irrigation, 0, 300), "snow_cm": p.column(&d.Snow, 0, 1000),
		})
		o, ok := v.(object)
		if !ok {
			return
		}
		if _, has := o["date"]; !has {
			p.refuse(join(at, "date"), "is required")
		}
		if d.TMin != nil && d.TMax != nil && *d.TMin > *d.TMax {
			p.refuse(join(at, "tmin_c"), "%g is over tmax_c %g", *d.TMin, *d.TMax)
		}
		if n := len(out); n > 0 && !d.Date.IsZero() && !d.Date.After(out[n-1].Date) {
			p.refuse(join(at, "date"), "%s does not come after %s: days stand oldest first, each once", day(d.Date), day(out[n-1].Date))
		}
		out = append(out, d)
	})
	return out
}

// readTreatments reads what was done before the visit, and what was done on it.
func (p *parser) readTreatments(at string, v any) (before, on []evidence.Treatment) {
	p.each(at, v, func(at string, v any) {
		var t evidence.Treatment
		var here *bool
		p.fields(at, v, map[string]func(string, any){
			"date": p.date(&t.Date),
			"action": func(at string, v any) {
				t.Action, _ = v.(string)
				if !remedy.Known(t.Action) {
					p.refuse(at, "unknown action %v", v)
				}
			},
			"n_g_m2": p.number(&t.NGM2, 0, 100), "p_g_m2": p.number(&t.PGM2, 0, 100), "k_g_m2": p.number(&t.KGM2, 0, 100),
			"fe_g_m2": p.number(&t.FeGM2, 0, 50), "water_mm": p.number(&t.WMM, 0, 500),
			"source": p.word(&t.Source, "quick", "slow", "organic"), "note": p.text(&t.Note),
			"this_visit": p.truth(&here),
		})
		if o, ok := v.(object); ok {
			for _, need := range []string{"date", "action"} {
				if _, has := o[need]; !has {
					p.refuse(join(at, need), "is required")
				}
			}
		}
		p.treated[at] = t.Date
		if here != nil && *here {
			on = append(on, t)
		} else {
			before = append(before, t)
		}
	})
	return before, on
}
