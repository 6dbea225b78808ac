package diagnosis

import (
	"fmt"
	"math"
	"time"

	"hodos/core/weather"
)

// Lawn is the standing side of a case: where it lies, what grows there, when it is looked at.
type Lawn struct {
	Date       time.Time // the day of the visit, UTC midnight
	Latitude   float64   // degrees, south negative
	Longitude  float64
	ElevationM *float64
	Species    []string // the main one first
	AreaM2     *float64
	AffectedM2 *float64
	Texture    string // "" for unknown
	Irrigated  *bool
	Normals    []float64 // normal means of the air by month from January, °C; nil where the place has none of its own
}

// Policy is how the client wants the lawn kept; empty strings stand for "not said".
type Policy struct {
	SummerWater   string // keep-green, let-rest, one-area
	Pests         string // threshold, preventive
	SummerFeeding string // none, spoon-feed
	Blemishes     string // tolerate, treat
}

// Treatment is one thing done to the zone. Nil amounts are unknown.
type Treatment struct {
	Date                         time.Time
	Action                       string
	NGM2, PGM2, KGM2, FeGM2, WMM *float64
	Source                       string // quick, slow, organic
	Note                         string // never evidence
}

// Value is what was found: exactly one of its fields speaks, by the finding's kind.
type Value struct {
	Number *float64
	Word   string
	List   []string // nil unless the finding is a list; an empty list is "looked, none of these"
	Yes    *bool
}

// NumberValue, WordValue, ListValue and YesValue make values.
func NumberValue(x float64) Value     { return Value{Number: &x} }
func WordValue(w string) Value        { return Value{Word: w} }
func ListValue(items ...string) Value { return Value{List: append([]string{}, items...)} }
func YesValue(b bool) Value           { return Value{Yes: &b} }

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
		} else if index(f.Values, w) < 0 {
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
		} else if index(f.Values, w) < 0 {
			return Value{}, fmt.Errorf("item %d: unknown id %q; known are %v", i, w, f.Values)
		}
		if index(out.List, w) >= 0 {
			return Value{}, fmt.Errorf("item %d: %q stands twice", i, w)
		}
		out.List = append(out.List, w)
	}
	if len(out.List) > 1 && index(out.List, "none") >= 0 {
		return Value{}, fmt.Errorf("\"none\" cannot stand beside other ids")
	}
	return out, nil
}

// Earlier is what a former visit found and what came of it.
type Earlier struct {
	Date     time.Time
	Findings map[string]Value
	Answer   string // the cause that was confirmed, or ""
}

// Nearby is a confirmed case in the district.
type Nearby struct {
	Cause string
	Count int
	Weeks float64
}

// Context is what stands around the case.
type Context struct {
	Country      string
	Licence      *bool
	LinesLocated *bool
	Nearby       []Nearby
	Utilities    any // the firm's own prices, kept as given; see Utilities
}

// Case is one zone as seen on one visit.
type Case struct {
	Title      string
	Lawn       Lawn
	Onset      *time.Time
	Policy     Policy
	Findings   map[string]Value
	Reference  map[string]Value
	Samples    map[string][]any
	Earlier    []Earlier
	Weather    []weather.Day
	Forecast   []weather.Day
	Treatments []Treatment
	Done       []Treatment // on this visit: no evidence of what it found, but advice counts them like those of before
	Context    Context
	Notes      string
}

// Notice tells the user of something about the input: a contradiction, a missing piece, a finding that is not weighed.
type Notice struct {
	About string
	Text  string
}
