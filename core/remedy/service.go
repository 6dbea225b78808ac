package remedy

import (
	"slices"
	"strings"
)

// What clients buy. What the client does (mowing, watering, keeping off), what is looked at and what is held back belongs to no service: it
// is part of each (judgement: the usual three steps of a lawn programme).
const (
	ServiceWeeds   = "weeds"   // weeds only
	ServiceFeeding = "feeding" // weeds and feeding
	ServiceFull    = "full"    // whatever the lawn asks for
)

// services are what each buys beside the one before it, in rising order.
var services = []struct{ id, actions string }{
	{ServiceWeeds, ""},
	{ServiceFeeding, "apply-nitrogen spoon-feed-nitrogen apply-iron apply-potassium apply-phosphorus"},
	{ServiceFull, "apply-lime apply-acidifier apply-wetting-agent fungicide-curative fungicide-preventive insecticide-curative " +
		"insecticide-preventive growth-regulator moss-control core-aerate dethatch scarify topdress apply-compost level-surface overseed " +
		"slit-seed interseed renovate resod plug-or-sprig change-grass improve-drainage replace-soil"},
}

// Extra reports whether an action lies outside the service that a client buys: it has to be offered before it is done. Nothing is extra
// where nobody said what is bought.
func Extra(service, action string) bool {
	said := false
	for _, s := range services {
		if said && slices.Contains(strings.Fields(s.actions), action) {
			return true
		}
		said = said || s.id == service
	}
	return false
}
