package units

import (
	"slices"
	"strconv"
	"strings"
)

// Filled is a text with every name in braces replaced by what say makes of it.
func Filled(text string, say func(name string) string) string {
	var out strings.Builder
	for {
		before, rest, open := strings.Cut(text, "{")
		name, after, closed := strings.Cut(rest, "}")
		if !open || !closed {
			out.WriteString(text)
			return out.String()
		}
		out.WriteString(before + say(name))
		text = after
	}
}

// literalUnits are the units in which the tables write quantities.
var literalUnits = []string{"mm", "cm", "m", "°C", "g N/m²"}

// Literal reads a quantity of a sentence: "12 mm", "21 to 15 °C".
func Literal(name string) (first, last float64, unit string, ok bool) {
	figure, unit, _ := strings.Cut(name, " ")
	if first, ok = decimal(figure); !ok {
		return 0, 0, "", false
	}
	last = first
	if rest, spans := strings.CutPrefix(unit, "to "); spans {
		figure, unit, _ = strings.Cut(rest, " ")
		if last, ok = decimal(figure); !ok {
			return 0, 0, "", false
		}
	}
	return first, last, unit, slices.Contains(literalUnits, unit)
}

func decimal(text string) (float64, bool) {
	x, err := strconv.ParseFloat(text, 64)
	return x, err == nil && text[0] >= '0' && text[0] <= '9'
}

// Literals is a sentence whose quantities in braces are said in the reader's units: "{25 to 38 mm}". Whatever else stands in braces stays.
func (s Saying) Literals(text string) string {
	return Filled(text, func(name string) string {
		if first, last, unit, ok := Literal(name); ok {
			return s.Span(first, last, unit)
		}
		return "{" + name + "}"
	})
}
