package remedy

import (
	"hodos/core/sky"
	"hodos/core/turf"
)

// Done is what a record says of a treatment; nil is "not said".
type Done struct {
	Action             string
	NGM2, WindMS, AirC *float64
	Quick              bool
	Grass              turf.Species
}

// Limits that a treatment can lie outside of.
const (
	OutsideNitrogen = "nitrogen" // over the grass's most at once
	OutsideWind     = "wind"     // drift, or too still
	OutsideHeat     = "heat"     // too hot for a spray
)

// Outside names the usual limits that a treatment lay outside of, in a fixed order. What has happened is recorded all the same, with
// its reason: the law asks what was done, and a refused record is a missing or a false one.
func Outside(d Done) (out []string) {
	most := turf.MostNitrogen
	if d.Grass.NitrogenDose > 0 {
		most = d.Grass.NitrogenDose
	}
	if d.Quick && most > turf.MostQuickNitrogen {
		most = turf.MostQuickNitrogen
	}
	if d.NGM2 != nil && *d.NGM2 > most+rounding {
		out = append(out, OutsideNitrogen)
	}
	if Airborne(d.Action) {
		if d.WindMS != nil && (*d.WindMS < sky.SprayCalm-rounding || *d.WindMS > sky.SprayWind+rounding) {
			out = append(out, OutsideWind)
		}
		if d.AirC != nil && *d.AirC > sky.SprayHeat+rounding {
			out = append(out, OutsideHeat)
		}
	}
	return out
}

// rounding is what the turning of units may add to a figure that lies on its limit.
const rounding = .025
