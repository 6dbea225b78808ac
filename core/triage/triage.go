// Package triage says how soon somebody has to come to a lawn of which only its owner has told: how fast the damage may spread, and what
// waiting would cost. It decides on no treatment.
package triage

import (
	"cmp"
	"math"
	"slices"

	"hodos/core/diagnosis"
	"hodos/core/worth"
)

// Within is how soon somebody has to come.
type Within string

// How soon, the most urgent first.
const (
	Today    Within = "today"     // today or tomorrow
	ThisWeek Within = "this-week" // within the week
	NextTour Within = "next-tour" // when the round comes by
)

// Fast is a cause that may be at work and spreads.
type Fast struct {
	Cause   string
	P       float64
	Doubles float64 // days in which its damage doubles
}

// Urgency is how soon, and why.
type Urgency struct {
	Within  Within
	PerDay  float64 // what a day of waiting costs, expected, in the firm's money
	Because []Fast  // what makes it urgent, the costliest first; empty where nothing does
}

// row is how the damage by a cause goes on while nobody comes: the days in which it doubles in weather that suits it (0 for damage that
// stands), and the share of what it newly takes that does not come back by itself.
type row struct {
	cause   string
	doubles float64
	dies    float64
}

// rows: extension practice for the order of the fast ones (armyworms and Pythium blight take a lawn in days); the figures are judgement.
// A cause without a row stands still.
var rows = []row{
	{"pythium-blight", 1, .9},
	{"armyworms", 2, .4},
	{"chemical-spill", 3, .9},
	{"fertilizer-burn", 3, .5},
	{"covered-scald", 2, .6},
	{"gray-leaf-spot", 4, .8},
	{"brown-patch", 5, .3},
	{"establishment-failure", 4, .9},
	{"flooding", 3, .7},
	{"sod-webworms", 6, .4},
	{"cutworms", 6, .4},
	{"chinch-bugs", 8, .8},
	{"white-grubs", 9, .8},
	{"mole-crickets", 10, .6},
	{"billbugs", 12, .7},
	{"crane-fly-larvae", 12, .6},
	{"animal-digging", 7, .5},
	{"drought-stress", 7, .3},
	{"drought-dieback", 14, .9},
	{"localized-dry-spot", 12, .5},
	{"irrigation-coverage-gap", 12, .5},
	{"hardscape-heat", 12, .5},
	{"heat-stress", 10, .3},
	{"dollar-spot", 8, .15},
	{"leaf-spot", 12, .2},
	{"melting-out", 10, .6},
	{"large-patch", 12, .3},
	{"anthracnose", 10, .5},
	{"summer-patch", 12, .8},
	{"take-all-root-rot", 14, .7},
	{"necrotic-ring-spot", 20, .7},
	{"pythium-root-rot", 10, .6},
	{"pink-snow-mold", 8, .4},
	{"gray-snow-mold", 15, .3},
	{"rust", 15, .05},
	{"red-thread", 15, .05},
	{"powdery-mildew", 20, .05},
	{"overwatering", 20, .2},
	{"salinity", 20, .6},
	{"turf-mites", 20, .5},
	{"spittlebugs", 15, .3},
	{"plant-parasitic-nematodes", 45, .6},
	{"ground-pearls", 120, .9},
	{"scale-insects", 40, .6},
	{"turf-mosaic-virus", 120, .8},
	{"traffic-crush", 20, .4},
	{"scalping", 20, .2},
	{"compaction", 90, .3},
	{"shade-thinning", 90, .5},
	{"moss-invasion", 60, .3},
	{"algae-crust", 40, .3},
	{"weed-invasion", 40, .3},
	{"nitrogen-deficiency", 40, .1},
	{"iron-chlorosis", 60, .1},
	{"fairy-ring", 90, .2},
}

// At most so many days of doubling make a cause one for today or for this week, and so likely it has to be; damage that hardly dies waits
// (judgement).
const (
	forToday = 4.0
	forWeek  = 9.0
	likely   = .15
	deadly   = .3
	named    = .05 // from which a cause is named as a reason
	told     = 3   // how many are
)

// Of says how soon somebody has to come, from what is thought of a lawn by what its owner told. damage and zone are areas in m²: what is
// hurt, and all of it; zone 0 stands for unknown. p are the firm's prices.
func Of(r diagnosis.Result, damage, zone float64, p worth.Prices) Urgency {
	u := Urgency{Within: NextTour}
	left := math.Inf(1)
	if zone > 0 {
		left = math.Max(0, zone-damage)
	}
	type costly struct {
		Fast
		cost float64
	}
	var list []costly
	chance := map[Within]float64{}
	for _, x := range rows {
		c := r.P(x.cause)
		spread := math.Min(left, damage*(math.Exp2(1/x.doubles)-1))
		cost := c * spread * x.dies * p.LawnM2
		u.PerDay += cost
		list = append(list, costly{Fast{x.cause, c, x.doubles}, cost})
		if x.dies < deadly {
			continue
		}
		if x.doubles <= forToday {
			chance[Today] += c
		}
		if x.doubles <= forWeek {
			chance[ThisWeek] += c
		}
	}
	switch {
	case chance[Today] >= likely:
		u.Within = Today
	case chance[ThisWeek] >= likely:
		u.Within = ThisWeek
	}
	slices.SortStableFunc(list, func(a, b costly) int { return cmp.Compare(b.cost, a.cost) })
	limit := forWeek
	if u.Within == Today {
		limit = forToday
	}
	for _, x := range list {
		if u.Within != NextTour && x.Doubles <= limit && x.P >= named && len(u.Because) < told {
			u.Because = append(u.Because, x.Fast)
		}
	}
	return u
}

// Before says which of two is to be visited first: the more urgent, then the costlier to wait for.
func (u Urgency) Before(v Urgency) int {
	at := []Within{Today, ThisWeek, NextTour}
	return cmp.Or(cmp.Compare(slices.Index(at, u.Within), slices.Index(at, v.Within)), cmp.Compare(v.PerDay, u.PerDay))
}
