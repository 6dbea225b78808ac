package units

import "fmt"

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
