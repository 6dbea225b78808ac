package knowledge

import (
	"strings"

	"hodos/core/units"
)

// InWords says a finding with its value: "pull test (lifts like a carpet)". id carries the cause for findings kept once a
// cause.
func InWords(f *Finding, id string, v Value, say units.Saying) string {
	label := LowerFirst(f.Label)
	if _, cause, per := strings.Cut(id, ":"); per {
		c, _ := CauseByID(cause)
		label += " for " + LowerFirst(c.Label)
	}
	switch {
	case v.Number != nil:
		return label + " (" + say.Figure(*v.Number, f.Measure()) + ")"
	case v.Yes != nil && *v.Yes:
		return label + " (yes)"
	case v.Yes != nil:
		return label + " (no)"
	case v.List != nil:
		if len(v.List) == 0 {
			return label + " (nothing seen)"
		}
		words := make([]string, len(v.List))
		for i, w := range v.List {
			words[i] = said(f, w)
		}
		return label + " (" + strings.Join(words, ", ") + ")"
	}
	return label + " (" + said(f, v.Word) + ")"
}

// Measure is the unit that a finding's number has: one of package units where that knows it, else its own words, empty for a bare number.
func (f *Finding) Measure() string {
	unit, _, _ := strings.Cut(f.Unit, ",")
	unit, _, _ = strings.Cut(unit, " at ")
	unit, _, _ = strings.Cut(unit, " of ")
	switch unit {
	case "degC":
		return "C"
	case "g N/m2":
		return "g/m2"
	case "1/week":
		return "a week"
	case "d":
		return "days"
	case "h":
		return "hours"
	case "s":
		return "seconds"
	case "pH", "fraction", "0 to 1", "sodium adsorption ratio":
		return ""
	}
	return unit
}

func said(f *Finding, w string) string {
	if f.Kind == CauseIDs || f.Kind == CauseOrNone {
		if c, ok := CauseByID(w); ok {
			return LowerFirst(c.Label)
		}
	}
	return ValueLabel(w)
}

func LowerFirst(s string) string {
	if len(s) > 1 && s[0] >= 'A' && s[0] <= 'Z' && !(s[1] >= 'A' && s[1] <= 'Z') {
		return strings.ToLower(s[:1]) + s[1:]
	}
	return s
}

func UpperFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
