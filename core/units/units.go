// Package units converts between what specialists write down and SI. Conversion happens once: the record keeps the
// entered amount with its unit, and SI is computed from it.
package units

import (
	"fmt"
	"math"
	"sort"
)

// Dimension is what a unit measures.
type Dimension string

// The dimensions in use.
const (
	Length      Dimension = "length"        // SI here: mm
	Area        Dimension = "area"          // m²
	Mass        Dimension = "mass"          // g
	Volume      Dimension = "volume"        // mL
	MassPerArea Dimension = "mass/area"     // g/m²
	VolPerArea  Dimension = "volume/area"   // mL/m²
	Temperature Dimension = "temperature"   // °C
	Speed       Dimension = "speed"         // m/s
	Rate        Dimension = "rate"          // mm/h
	Density     Dimension = "density"       // per m²
	Pressure    Dimension = "pressure"      // kPa
	Bulk        Dimension = "bulk"          // m³ of soil, sand, compost
	Flow        Dimension = "flow"          // L/min
	Mixed       Dimension = "volume/volume" // mL/L
	Growth      Dimension = "growth"        // mm a day
	Distance    Dimension = "distance"      // km
)

// Unit is one unit: SI value = (entered + Offset) × Factor.
type Unit struct {
	ID        string
	Label     string
	Dimension Dimension
	Factor    float64
	Offset    float64
	Customary bool // US customary rather than metric
}

// Exact definitions: inch 25.4 mm, pound 453.59237 g, US gallon 3785.411784 mL (NIST Special Publication 811).
var table = []Unit{
	{"mm", "mm", Length, 1, 0, false}, {"cm", "cm", Length, 10, 0, false}, {"m", "m", Length, 1000, 0, false},
	{"in", "in", Length, 25.4, 0, true}, {"ft", "ft", Length, 304.8, 0, true},
	{"m2", "m²", Area, 1, 0, false}, {"ft2", "ft²", Area, .09290304, 0, true}, {"acre", "acre", Area, 4046.8564224, 0, true}, {"ha", "ha", Area, 10000, 0, false},
	{"g", "g", Mass, 1, 0, false}, {"kg", "kg", Mass, 1000, 0, false}, {"oz", "oz", Mass, 28.349523125, 0, true}, {"lb", "lb", Mass, 453.59237, 0, true}, {"t", "t", Mass, 1e6, 0, false}, {"ton", "short ton", Mass, 907184.74, 0, true},
	{"mL", "mL", Volume, 1, 0, false}, {"L", "L", Volume, 1000, 0, false}, {"floz", "fl oz", Volume, 29.5735295625, 0, true}, {"gal", "gal", Volume, 3785.411784, 0, true},
	{"g/m2", "g/m²", MassPerArea, 1, 0, false}, {"kg/ha", "kg/ha", MassPerArea, .1, 0, false}, {"lb/1000ft2", "lb/1000 ft²", MassPerArea, 453.59237 / 92.90304, 0, true}, {"oz/1000ft2", "oz/1000 ft²", MassPerArea, 28.349523125 / 92.90304, 0, true}, {"t/ha", "t/ha", MassPerArea, 100, 0, false}, {"lb/acre", "lb/acre", MassPerArea, 453.59237 / 4046.8564224, 0, true}, {"ton/acre", "short ton/acre", MassPerArea, 907184.74 / 4046.8564224, 0, true},
	{"mL/m2", "mL/m²", VolPerArea, 1, 0, false}, {"L/100m2", "L/100 m²", VolPerArea, 10, 0, false}, {"floz/1000ft2", "fl oz/1000 ft²", VolPerArea, 29.5735295625 / 92.90304, 0, true}, {"gal/1000ft2", "gal/1000 ft²", VolPerArea, 3785.411784 / 92.90304, 0, true},
	{"m3", "m³", Bulk, 1, 0, false}, {"yd3", "yd³", Bulk, .764554857984, 0, true}, {"ft3", "ft³", Bulk, .028316846592, 0, true},
	{"L/min", "L/min", Flow, 1, 0, false}, {"gal/min", "gal/min", Flow, 3.785411784, 0, true},
	{"mL/L", "mL/L", Mixed, 1, 0, false}, {"floz/gal", "fl oz/gal", Mixed, 29.5735295625 / 3.785411784, 0, true},
	{"mm/d", "mm a day", Growth, 1, 0, false}, {"in/d", "in a day", Growth, 25.4, 0, true},
	{"C", "°C", Temperature, 1, 0, false}, {"F", "°F", Temperature, 5.0 / 9, -32, true},
	{"mm/h", "mm/h", Rate, 1, 0, false}, {"in/h", "in/h", Rate, 25.4, 0, true},
	{"1/m2", "per m²", Density, 1, 0, false}, {"1/ft2", "per ft²", Density, 1 / .09290304, 0, true},
	{"kPa", "kPa", Pressure, 1, 0, false}, {"psi", "psi", Pressure, 6.894757293168, 0, true},
	{"m/s", "m/s", Speed, 1, 0, false}, {"mph", "mph", Speed, .44704, 0, true}, {"km/h", "km/h", Speed, 1 / 3.6, 0, false},
	{"km", "km", Distance, 1, 0, false}, {"mi", "miles", Distance, 1.609344, 0, true},
}

// pairs are the units that stand for each other: what a metric lawn reads in the first, one in US units reads in the second.
var pairs = [][2]string{{"mm", "in"}, {"cm", "in"}, {"m", "ft"}, {"m2", "ft2"}, {"g", "oz"}, {"kg", "lb"}, {"mL", "floz"}, {"L", "gal"},
	{"g/m2", "lb/1000ft2"}, {"mL/m2", "floz/1000ft2"}, {"L/100m2", "gal/1000ft2"}, {"C", "F"}, {"m/s", "mph"}, {"mm/h", "in/h"},
	{"1/m2", "1/ft2"}, {"kPa", "psi"}, {"m3", "yd3"}, {"t", "ton"}, {"L/min", "gal/min"}, {"mL/L", "floz/gal"}, {"t/ha", "lb/acre"}, {"mm/d", "in/d"}, {"km", "mi"}}

// Pairs returns each metric unit with the customary one that stands for it.
func Pairs() [][2]string { return append([][2]string(nil), pairs...) }

// All returns every unit, ordered by id.
func All() []Unit {
	out := append([]Unit(nil), table...)
	sort.Slice(out, func(i, j int) bool { return out[i].ID < out[j].ID })
	return out
}

// Lookup finds a unit by id.
func Lookup(id string) (Unit, error) {
	for _, u := range table {
		if u.ID == id {
			return u, nil
		}
	}
	return Unit{}, fmt.Errorf("unknown unit %q", id)
}

// SI turns an amount in the unit into the SI unit of its dimension.
func (u Unit) SI(amount float64) float64 { return (amount + u.Offset) * u.Factor }

// From turns an SI amount into the unit.
func (u Unit) From(si float64) float64 { return si/u.Factor - u.Offset }

// Convert turns an amount from one unit into another of the same dimension.
func Convert(amount float64, from, to string) (float64, error) {
	a, err := Lookup(from)
	if err != nil {
		return 0, err
	}
	b, err := Lookup(to)
	if err != nil {
		return 0, err
	}
	if a.Dimension != b.Dimension {
		return 0, fmt.Errorf("cannot convert %s (%s) to %s (%s)", from, a.Dimension, to, b.Dimension)
	}
	if math.IsNaN(amount) || math.IsInf(amount, 0) {
		return 0, fmt.Errorf("%v is not an amount", amount)
	}
	return b.From(a.SI(amount)), nil
}
