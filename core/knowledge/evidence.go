package knowledge

import (
	"hodos/core/turf"
)

// IsWarm reports whether the main grass is of the warm-season family.
func IsWarm(l Lawn) bool {
	if len(l.Species) == 0 {
		return false
	}
	s, _ := turf.ByID(l.Species[0])
	return s.Family == turf.Warm
}
