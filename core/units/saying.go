package units

import (
	"fmt"
	"math"
	"strings"
)

// Saying puts quantities into sentences, in SI or in US customary units. What it is given is SI: °C, mm, °C·d.
type Saying struct{ Customary bool }

// In says by the name of a unit system: "us" is customary, everything else SI.
func In(system string) Saying { return Saying{system == "us"} }

// Temp says a temperature, in °F without decimals.
func (s Saying) Temp(c float64, digits int) string {
	if s.Customary {
		return fmt.Sprintf("%.0f °F", c*9/5+32)
	}
	return fmt.Sprintf("%.*f °C", digits, c)
}

// DegreeDays says accumulated warmth.
func (s Saying) DegreeDays(cd float64) string {
	if s.Customary {
		return fmt.Sprintf("%.0f °F·d", cd*9/5)
	}
	return fmt.Sprintf("%.0f °C·d", cd)
}

// Depth says a depth of water.
func (s Saying) Depth(mm float64) string {
	if s.Customary {
		return fmt.Sprintf("%.2f inches", mm/25.4)
	}
	return fmt.Sprintf("%.0f mm", mm)
}

// Part says one depth of another: "22 of 38 mm".
func (s Saying) Part(mm, of float64) string {
	if s.Customary {
		return fmt.Sprintf("%.2f of %.2f inches", mm/25.4, of/25.4)
	}
	return fmt.Sprintf("%.0f of %.0f mm", mm, of)
}

// Length says a length of grass, thatch or soil: millimetres, or inches in quarters.
func (s Saying) Length(mm float64) string {
	if s.Customary {
		return fmt.Sprintf("%g inches", math.Round(mm/25.4*4)/4)
	}
	return fmt.Sprintf("%.0f mm", mm)
}

// Rate says how fast water comes or goes in.
func (s Saying) Rate(mmH float64) string {
	if s.Customary {
		return fmt.Sprintf("%.2f inches an hour", mmH/25.4)
	}
	return fmt.Sprintf("%.0f mm/h", mmH)
}

// Feed says an amount of a nutrient on an area, given in g/m².
func (s Saying) Feed(gM2 float64, nutrient string) string {
	if s.Customary {
		return fmt.Sprintf("%.2f lb %s/1000 ft²", gM2*.2048161, nutrient)
	}
	return fmt.Sprintf("%.1f g %s/m²", gM2, nutrient)
}

// Area says an area.
func (s Saying) Area(m2 float64) string {
	if s.Customary {
		return fmt.Sprintf("%.0f ft²", m2*10.76391)
	}
	return fmt.Sprintf("%.0f m²", m2)
}

// Pressure says a pressure of the cone.
func (s Saying) Pressure(kPa float64) string {
	if s.Customary {
		return fmt.Sprintf("%.0f psi", kPa*.1450377)
	}
	return fmt.Sprintf("%.0f kPa", kPa)
}

// Wind says a span of wind given in m/s.
func (s Saying) Wind(from, to float64) string {
	if s.Customary {
		return fmt.Sprintf("%.0f–%.0f mph", from*2.236936, to*2.236936)
	}
	return fmt.Sprintf("%g–%g m/s", from, to)
}

// Span says a quantity of a sentence, or a span of one where high is another than low: of mm, cm, m, °C or g N/m².
func (s Saying) Span(low, high float64, unit string) string {
	of := map[string]struct {
		name string
		in   func(float64) float64
	}{
		"mm": {"inches", inches}, "cm": {"inches", func(x float64) float64 { return math.Round(x / 2.54) }},
		"m":      {"ft", func(x float64) float64 { return math.Round(x / .3048) }},
		"°C":     {"°F", func(x float64) float64 { return math.Round(x*9/5 + 32) }},
		"g N/m²": {"lb N/1000 ft²", func(x float64) float64 { return math.Round(x*.2048161*100) / 100 }},
	}[unit]
	if s.Customary && of.in != nil {
		low, high, unit = of.in(low), of.in(high), of.name
	}
	if high != low {
		return fmt.Sprintf("%g to %g %s", low, high, unit)
	}
	return fmt.Sprintf("%g %s", low, unit)
}

// inches in eighths, as a rule is read; under one of them to the hundredth.
func inches(mm float64) float64 {
	if mm < 2 {
		return math.Round(mm/25.4*100) / 100
	}
	return math.Round(mm/25.4*8) / 8
}

// Figure says a number of a metric unit with its unit, as many figures as tell something: three. A unit that has no customary one
// beside it stays; an empty one is left out.
func (s Saying) Figure(x float64, unit string) string {
	u, err := Lookup(unit)
	for _, p := range pairs {
		if p[0] == unit && s.Customary && err == nil {
			to, _ := Lookup(p[1])
			x, u = to.From(u.SI(x)), to
		}
	}
	digits := 1
	if s.Customary && math.Abs(x) < 10 {
		digits = 2
	}
	text := fmt.Sprintf("%.*f", digits, x)
	text = strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
	if err != nil {
		return strings.TrimSpace(text + " " + unit)
	}
	return text + " " + u.Label
}
