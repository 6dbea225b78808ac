package knowledge

import (
	"fmt"
	"math"
	"time"
)

// Lawn is the standing side of a case: where it lies, what grows there, when it is looked at.
type Lawn struct {
	Date       time.Time // the day of the visit, UTC midnight
	Latitude   float64   // degrees, south negative
	Longitude  float64
	ElevationM *float64
	Species    []string // the main one first
	Form       string   // of the main one (turf.Forms); "" for unknown
	Cultivar   string   // its name, or that of the mixture; "" for unknown, and never evidence
	SownYear   int      // 0 for unknown
	AreaM2     *float64
	AffectedM2 *float64
	Texture    string // "" for unknown
	Irrigated  *bool
	Normals    []float64 // normal means of the air by month from January, °C; nil where the place has none of its own
}

// Value is what was found: exactly one of its fields speaks, by the finding's kind.
type Value struct {
	Number *float64
	Word   string
	List   []string // nil unless the finding is a list; an empty list is "looked, none of these"
	Yes    *bool
}

// NumberValue, WordValue, ListValue and YesValue make values.
func NumberValue(x float64) Value { return Value{Number: &x} }

func WordValue(w string) Value { return Value{Word: w} }

func ListValue(items ...string) Value { return Value{List: append([]string{}, items...)} }

func YesValue(b bool) Value { return Value{Yes: &b} }

// Plain returns the value as JSON knows it: a number, a word, a list or a truth value.
func (v Value) Plain() any {
	switch {
	case v.Number != nil:
		return *v.Number
	case v.Yes != nil:
		return *v.Yes
	case v.List != nil:
		return v.List
	}
	return v.Word
}

// ValueOf reads a plain JSON value as the finding's kind wants it. The error says what was expected.
func ValueOf(f *Finding, plain any) (Value, error) {
	switch f.Kind {
	case YesNo:
		b, ok := plain.(bool)
		if !ok {
			return Value{}, fmt.Errorf("expected true or false, got %v", plain)
		}
		return YesValue(b), nil
	case Number:
		x, ok := plain.(float64)
		if !ok {
			return Value{}, fmt.Errorf("expected a number in %s, got %v", f.Unit, plain)
		}
		if math.IsNaN(x) || x < f.Min || x > f.Max {
			return Value{}, fmt.Errorf("%g is outside the physical range %g to %g %s", x, f.Min, f.Max, f.Unit)
		}
		return NumberValue(x), nil
	case OneOf, CauseOrNone:
		w, ok := plain.(string)
		if !ok {
			return Value{}, fmt.Errorf("expected one id, got %v", plain)
		}
		if f.Kind == CauseOrNone {
			if _, known := CauseByID(w); w != "none" && !known {
				return Value{}, fmt.Errorf("unknown cause %q", w)
			}
		} else if Index(f.Values, w) < 0 {
			return Value{}, fmt.Errorf("unknown id %q; known are %v", w, f.Values)
		}
		return WordValue(w), nil
	}
	raw, ok := plain.([]any)
	if !ok {
		if words, is := plain.([]string); is {
			for _, w := range words {
				raw = append(raw, w)
			}
		} else {
			return Value{}, fmt.Errorf("expected a list of ids, got %v", plain)
		}
	}
	out := Value{List: []string{}}
	for i, item := range raw {
		w, ok := item.(string)
		if !ok {
			return Value{}, fmt.Errorf("item %d: expected an id, got %v", i, item)
		}
		if f.Kind == CauseIDs {
			if _, known := CauseByID(w); !known {
				return Value{}, fmt.Errorf("item %d: unknown cause %q", i, w)
			}
		} else if Index(f.Values, w) < 0 {
			return Value{}, fmt.Errorf("item %d: unknown id %q; known are %v", i, w, f.Values)
		}
		if Index(out.List, w) >= 0 {
			return Value{}, fmt.Errorf("item %d: %q stands twice", i, w)
		}
		out.List = append(out.List, w)
	}
	if len(out.List) > 1 && Index(out.List, "none") >= 0 {
		return Value{}, fmt.Errorf("\"none\" cannot stand beside other ids")
	}
	return out, nil
}
