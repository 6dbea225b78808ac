// Package dose works out amounts: how much product, water, seed or soil a job takes, in what portions, and how long it lasts. Every
// calculation names what it asks for with unit and limits, shows its working, and carries the error of the area into what is poured.
// All inside is SI and nothing is rounded before it is said.
package dose

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"hodos/core/turf"
	"hodos/core/units"
)

// Choice is one of the answers of a field that is no number.
type Choice struct{ ID, Label string }

// Field is one thing that a calculation asks for.
type Field struct {
	ID, Label string
	Unit      string // metric unit id of core/units, or "%", "d", "min", "s", "h", "pH", "money", "" for a bare number
	Low, High float64
	Usual     *float64 // taken when nothing is entered; nil: it must be entered, unless Optional
	Optional  bool     // may be left out; the part of the answer that needs it is left out too
	Choices   []Choice // a choice instead of a number; the first is the usual one
	Whole     bool     // a whole number
	When      string   // "field=choice": asked for only with that choice; "" always
}

// Entry is what was entered in a field: an amount in a unit ("" for the field's own), or a choice.
type Entry struct {
	Amount float64
	Unit   string
	Choice string
}

// Line is one figure of the answer, SI in Value, as a specialist reads it in Text. Low and High hold what the error of the area
// makes of it; both are 0 where it makes nothing.
type Line struct {
	ID, Label, Unit  string
	Value, Low, High float64
	Text, Span       string
	Lead             bool
}

// Warning says that a figure lies outside a limit. Limit names which; code may match it, the text is for people.
type Warning struct{ Limit, Text string }

// Table is an answer of several lines: a plan of cuts, portions, fills of a tank.
type Table struct {
	Label string
	Head  []string
	Rows  [][]string
	Days  []int // day of each row, counted from the first; nil where the rows have no days
	Value []float64
}

// Result is what a calculation comes to.
type Result struct {
	Lines    []Line
	Working  []string
	Warnings []Warning
	Tables   []Table
}

// Value finds a figure of the answer, SI.
func (r Result) Value(id string) (float64, bool) {
	for _, l := range r.Lines {
		if l.ID == id {
			return l.Value, true
		}
	}
	return 0, false
}

// Calculator is one calculation.
type Calculator struct {
	ID, Group, Label string
	Says             string // the question it answers
	Source           string // where its figures come from
	Fields           []Field
	work             func(*sheet)
}

// Refusal says what is wrong with one field.
type Refusal struct{ Field, Reason string }

// Refused is everything that is wrong with what was entered.
type Refused []Refusal

// Error names the fields and the reasons.
func (r Refused) Error() string {
	var parts []string
	for _, x := range r {
		parts = append(parts, x.Field+": "+x.Reason)
	}
	return strings.Join(parts, "; ")
}

// All lists every calculation, in the order of the bench.
func All() []Calculator { return calculators }

var calculators = table()

func table() []Calculator {
	var out []Calculator
	for _, of := range [][]Calculator{feeding(), soils(), stands(), sprays(), spreading(), waters(), mowing(), dates(), areas()} {
		out = append(out, of...)
	}
	return out
}

// ByID finds a calculation.
func ByID(id string) (Calculator, bool) {
	for _, c := range calculators {
		if c.ID == id {
			return c, true
		}
	}
	return Calculator{}, false
}

// Work does a calculation. It refuses what it does not know, what is missing and what lies outside the limits, by field (Refused).
func Work(id string, in map[string]Entry, say units.Saying) (Result, error) {
	c, ok := ByID(id)
	if !ok {
		return Result{}, fmt.Errorf("there is no calculation %q", id)
	}
	s := &sheet{calc: c, say: say, n: map[string]float64{}, picked: map[string]string{}}
	known := map[string]bool{}
	for i := range c.Fields {
		known[c.Fields[i].ID] = true
		e, given := in[c.Fields[i].ID]
		s.read(&c.Fields[i], e, given)
	}
	for name := range in {
		if !known[name] {
			s.refuse(name, "is not asked for")
		}
	}
	if len(s.refused) == 0 {
		c.work(s)
	}
	if len(s.refused) > 0 {
		return Result{}, s.refused
	}
	for _, l := range s.r.Lines {
		if math.IsNaN(l.Value) || math.IsInf(l.Value, 0) {
			return Result{}, errors.New(l.Label + " has no value with these figures")
		}
	}
	return s.r, nil
}

// sheet is one calculation under way.
type sheet struct {
	calc    Calculator
	say     units.Saying
	n       map[string]float64
	picked  map[string]string
	r       Result
	refused Refused
}

func (s *sheet) refuse(field, reason string) { s.refused = append(s.refused, Refusal{field, reason}) }

// asked reports whether a field is asked for with the choices made before it.
func (s *sheet) asked(f *Field) bool {
	field, choice, only := strings.Cut(f.When, "=")
	return !only || s.picked[field] == choice
}

// read takes one entry in.
func (s *sheet) read(f *Field, e Entry, given bool) {
	if !s.asked(f) {
		return
	}
	if f.Choices != nil {
		if e.Choice == "" {
			e.Choice = f.Choices[0].ID
		}
		for _, c := range f.Choices {
			if c.ID == e.Choice {
				s.picked[f.ID] = c.ID
				return
			}
		}
		s.refuse(f.ID, "is none of the choices")
		return
	}
	if !given {
		switch {
		case f.Usual != nil:
			s.n[f.ID] = *f.Usual
		case !f.Optional:
			s.refuse(f.ID, "is missing")
		}
		return
	}
	x, err := inSI(e, f.Unit)
	switch {
	case err != nil:
		s.refuse(f.ID, err.Error())
	case math.IsNaN(x) || x < f.Low-1e-9*math.Abs(f.Low) || x > f.High+1e-9*math.Abs(f.High):
		s.refuse(f.ID, fmt.Sprintf("is outside %s to %s", s.fig(f.Low, f.Unit), s.fig(f.High, f.Unit)))
	case f.Whole && x != math.Trunc(x):
		s.refuse(f.ID, "is a whole number")
	default:
		s.n[f.ID] = x
	}
}

// inSI converts an entry into the metric unit of its field, once.
func inSI(e Entry, unit string) (float64, error) {
	if e.Unit == "" || e.Unit == unit {
		return e.Amount, nil
	}
	if _, err := units.Lookup(unit); err != nil {
		return 0, fmt.Errorf("has no unit %q", e.Unit)
	}
	x, err := units.Convert(e.Amount, e.Unit, unit)
	if err != nil {
		return 0, fmt.Errorf("is not in %s: %w", unit, err)
	}
	return x, nil
}

// has reports whether a field that may be left out was entered.
func (s *sheet) has(id string) bool { _, ok := s.n[id]; return ok }

// line puts a figure into the answer.
func (s *sheet) line(id, label string, x float64, unit string) *Line {
	s.r.Lines = append(s.r.Lines, Line{ID: id, Label: label, Unit: unit, Value: x, Text: s.fig(x, unit)})
	return &s.r.Lines[len(s.r.Lines)-1]
}

// lead is line for the figure that was asked for.
func (s *sheet) lead(id, label string, x float64, unit string) {
	s.line(id, label, x, unit).Lead = true
}

// total is an amount for the whole area, with what the error of the area makes of it.
func (s *sheet) total(id, label string, x float64, unit string) {
	s.span(s.line(id, label, x, unit), x*(1-s.n["area-error"]/100), x*(1+s.n["area-error"]/100))
}

// leadTotal is total for the figure that was asked for.
func (s *sheet) leadTotal(id, label string, x float64, unit string) {
	s.total(id, label, x, unit)
	s.r.Lines[len(s.r.Lines)-1].Lead = true
}

// rate is an amount per area: where the total is spread over an area that is larger or smaller than thought, it is another.
func (s *sheet) rate(id, label string, x float64, unit string) {
	e := s.n["area-error"] / 100
	s.span(s.line(id, label, x, unit), x/(1+e), x/(1-e))
}

func (s *sheet) span(l *Line, low, high float64) {
	if s.n["area-error"] == 0 {
		return
	}
	l.Low, l.High = low, high
	l.Span = s.fig(low, l.Unit) + " to " + s.fig(high, l.Unit)
}

// show writes a step of the working down.
func (s *sheet) show(format string, args ...any) {
	s.r.Working = append(s.r.Working, fmt.Sprintf(format, args...))
}

func (s *sheet) warn(limit, format string, args ...any) {
	s.r.Warnings = append(s.r.Warnings, Warning{limit, fmt.Sprintf(format, args...)})
}

// fig says a figure of a metric unit in the reader's units, with four figures, in a size that can be weighed.
func (s *sheet) fig(x float64, unit string) string { return s.say.Amount(x, unit) }

// grass is the grass that was chosen; ok is false where none was.
func (s *sheet) grass() (turf.Species, bool) { return turf.ByID(s.picked["grass"]) }

// Fields in short.
func num(id, label, unit string, low, high float64) Field {
	return Field{ID: id, Label: label, Unit: unit, Low: low, High: high}
}

func (f Field) or(x float64) Field  { f.Usual = &x; return f }
func (f Field) opt() Field          { f.Optional = true; return f }
func (f Field) whole() Field        { f.Whole = true; return f }
func (f Field) when(c string) Field { f.When = c; return f }

// Parse reads an entry as it is typed on a command line: "5000ft2", "0.75 lb/1000ft2", "12", or a choice.
func Parse(text string) (Entry, error) {
	text = strings.TrimSpace(text)
	n := len(text)
	for i, r := range text {
		if !strings.ContainsRune("0123456789.,-+", r) {
			n = i
			break
		}
	}
	if n == 0 || strings.Trim(text[:n], ".,-+") == "" {
		return Entry{Choice: text}, nil
	}
	x, err := strconv.ParseFloat(strings.ReplaceAll(text[:n], ",", ""), 64)
	if err != nil {
		return Entry{}, fmt.Errorf("%q is not a number", text[:n])
	}
	return Entry{Amount: x, Unit: strings.TrimSpace(text[n:])}, nil
}

func pick(id, label string, choices ...string) Field {
	f := Field{ID: id, Label: label}
	for i := 0; i < len(choices); i += 2 {
		f.Choices = append(f.Choices, Choice{choices[i], choices[i+1]})
	}
	return f
}

// grasses is the choice of a grass among those that a figure is known of.
func grasses(known func(turf.Species) bool, none string) Field {
	f := Field{ID: "grass", Label: "Grass"}
	if none != "" {
		f.Choices = append(f.Choices, Choice{"any", none})
	}
	for _, g := range turf.All() {
		if known(g) {
			f.Choices = append(f.Choices, Choice{g.ID, g.Label})
		}
	}
	return f
}

// area and its error, as every calculation for an area asks for them.
func areaOf() []Field {
	return []Field{num("area", "Area", "m2", .01, 1e7), num("area-error", "Error of the area", "%", 0, 50).or(0)}
}

func fields(parts ...any) []Field {
	var out []Field
	for _, p := range parts {
		switch x := p.(type) {
		case Field:
			out = append(out, x)
		case []Field:
			out = append(out, x...)
		}
	}
	return out
}
