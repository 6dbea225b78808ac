package units

import (
	"fmt"
	"math"
	"strings"
)

// smaller and larger are the units in which an amount is weighed and poured: under one of the larger it is said in the smaller.
var sizes = []struct {
	of                     string
	customary              bool
	small, large           string
	smallUnder, largeAbove float64 // in the unit `of`
}{
	{"g", false, "g", "kg", 1000, 1000},
	{"g", true, "oz", "lb", 453.59237, 453.59237},
	{"mL", false, "mL", "L", 1000, 1000},
	{"mL", true, "floz", "gal", 3785.411784, 3785.411784},
	{"mm", false, "mm", "m", 3000, 3000},
	{"mm", true, "in", "ft", 914.4, 914.4},
}

// plain are units that are the same everywhere, with what stands behind the number.
var plain = map[string]string{"%": " %", "d": " days", "min": " min", "s": " s", "h": " h", "pH": "", "money": "",
	"": "", "weeks": " weeks",
	"dS/m": " dS/m", "meq": " meq/100 g", "g/cm3": " g/cm³", "mg/kg": " mg/kg", "kg/L": " kg/L", "1": "", "°C·d": " °C·d",
	"h/d": " h a day",
	"MJ":  " MJ", "km/h": " km/h"}

// Amount says an amount of a metric unit with four figures, in the reader's units and in a size that can be weighed or measured:
// 2.087 kg, 4.688 lb, 12 fl oz. A whole number keeps all its figures.
func (s Saying) Amount(x float64, unit string) string {
	if after, ok := plain[unit]; ok {
		if unit == "money" {
			return fmt.Sprintf("%.2f", x)
		}
		if unit == "d" && x == 1 {
			return "1 day"
		}
		return Four(x) + after
	}
	id := unit
	u, err := Lookup(unit)
	if err != nil {
		return Four(x) + " " + unit
	}
	si := u.SI(x)
	for _, p := range pairs {
		if p[0] == unit && s.Customary {
			id = p[1]
		}
	}
	for _, z := range sizes {
		if z.of == unit && z.customary == s.Customary {
			id = z.small
			if math.Abs(x) >= z.largeAbove {
				id = z.large
			}
		}
	}
	to, _ := Lookup(id)
	return Four(to.From(si)) + " " + to.Label
}

// Four writes a number with four figures, whole ones with all, thousands set apart.
func Four(x float64) string {
	if x == 0 {
		return "0"
	}
	digits := 3 - int(math.Floor(math.Log10(math.Abs(x))))
	text := fmt.Sprintf("%.*f", max(0, min(6, digits)), x)
	if strings.Contains(text, ".") {
		text = strings.TrimRight(strings.TrimRight(text, "0"), ".")
	}
	whole, part, _ := strings.Cut(text, ".")
	sign := ""
	if strings.HasPrefix(whole, "-") {
		sign, whole = "-", whole[1:]
	}
	for i := len(whole) - 3; i > 0 && len(whole) > 4; i -= 3 {
		whole = whole[:i] + "," + whole[i:]
	}
	if part != "" {
		return sign + whole + "." + part
	}
	return sign + whole
}
