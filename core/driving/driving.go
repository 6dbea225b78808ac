// Package driving orders the stops of a day: short to drive, and within the hours in which somebody is expected.
package driving

import (
	"cmp"
	"math"
	"slices"
)

// Place is a point on the earth, in degrees.
type Place struct{ Latitude, Longitude float64 }

// Stop is one place to go to.
type Stop struct {
	Place
	Minutes  float64 // on site
	From, To float64 // minutes after midnight between which to arrive; To 0 for whenever
}

// Minutes on site by kind of visit, and when a round begins unless somebody says otherwise (judgement).
const (
	DiagnosisMinutes = 35.0
	FollowUpMinutes  = 15.0
	Begins           = 8 * 60.0
)

// Round is how the day is driven.
type Round struct {
	Start *Place  // where it begins; nil for at the first stop, whichever is best
	Leave float64 // minutes after midnight at which it begins
}

// Leg is the way to a stop and the time there, in minutes after midnight.
type Leg struct {
	Stop   int
	Km     float64
	Arrive float64
	Begin  float64 // the hour from which it may begin has come
	Late   float64 // minutes after the last at which somebody was expected
}

// Roads wind: Detour is what a way is longer than the straight line (Boscoe et al. 2012 measured 1.417 over the United States), and
// Speed is in km/h with lights and turns (judgement). A minute late costs as much as Lateness minutes on the way.
const (
	Detour   = 1.4
	Speed    = 35.0
	Lateness = 8.0
)

// Km is the way between two places.
func Km(a, b Place) float64 {
	rad := math.Pi / 180
	dy := (b.Latitude - a.Latitude) * rad
	dx := math.Remainder(b.Longitude-a.Longitude, 360) * rad
	h := math.Pow(math.Sin(dy/2), 2) + math.Cos(a.Latitude*rad)*math.Cos(b.Latitude*rad)*math.Pow(math.Sin(dx/2), 2)
	return 2 * 6371 * math.Asin(math.Min(1, math.Sqrt(h))) * Detour
}

// Drive goes through the stops in an order.
func Drive(stops []Stop, order []int, r Round) []Leg {
	legs := make([]Leg, 0, len(order))
	at, now := r.Start, r.Leave
	for _, i := range order {
		s := stops[i]
		l := Leg{Stop: i}
		if at != nil {
			l.Km = Km(*at, s.Place)
		}
		l.Arrive = now + l.Km/Speed*60
		l.Begin = math.Max(l.Arrive, s.From)
		if s.To > 0 {
			l.Late = math.Max(0, l.Arrive-s.To)
		}
		now = l.Begin + s.Minutes
		at = &s.Place
		legs = append(legs, l)
	}
	return legs
}

// Cost of an order in minutes: how long the day is, the way, and what comes late.
func Cost(stops []Stop, order []int, r Round) float64 { return newTrip(stops, r).cost(order) }

// trip is a day with the ways between its stops, in minutes; the last row are those from the start.
type trip struct {
	stops []Stop
	leave float64
	way   [][]float64
}

func newTrip(stops []Stop, r Round) *trip {
	t := &trip{stops, r.Leave, make([][]float64, len(stops)+1)}
	for i := range t.way {
		t.way[i] = make([]float64, len(stops))
		for k, s := range stops {
			switch {
			case i < len(stops):
				t.way[i][k] = Km(stops[i].Place, s.Place) / Speed * 60
			case r.Start != nil:
				t.way[i][k] = Km(*r.Start, s.Place) / Speed * 60
			}
		}
	}
	return t
}

// cost is what Drive would come to, without its legs.
func (t *trip) cost(order []int) float64 {
	sum, now, at := 0.0, t.leave, len(t.stops)
	for _, i := range order {
		s := &t.stops[i]
		way := t.way[at][i]
		now += way
		sum += way
		if s.To > 0 && now > s.To {
			sum += Lateness * (now - s.To)
		}
		now = math.Max(now, s.From) + s.Minutes
		at = i
	}
	return sum + now - t.leave
}

// Most is how many stops are ordered: more than anybody drives in a day (judgement). Those behind it stay behind, as they come.
const Most = 20

// Order is a good order of the stops, the same for the same stops: each is put where it costs least, once those with the narrowest hours
// first and once the farthest first; then stretches are turned round and moved while that pays, and the better of the two stands. Its gap
// to the best is in docs/performance.md.
func Order(stops []Stop, r Round) []int {
	n := min(len(stops), Most)
	narrow := make([]int, n)
	for i := range narrow {
		narrow[i] = i
	}
	far := slices.Clone(narrow)
	slices.SortStableFunc(narrow, func(a, b int) int { return cmp.Compare(hours(stops[a]), hours(stops[b])) })
	middle := centre(stops[:n])
	slices.SortStableFunc(far, func(a, b int) int { return cmp.Compare(Km(middle, stops[b].Place), Km(middle, stops[a].Place)) })
	t := newTrip(stops[:n], r)
	order := t.improved(narrow)
	if other := t.improved(far); t.cost(other) < t.cost(order)-1e-9 {
		order = other
	}
	for i := n; i < len(stops); i++ {
		order = append(order, i)
	}
	return order
}

func centre(stops []Stop) (p Place) {
	for _, s := range stops {
		p.Latitude += s.Latitude / float64(len(stops))
		p.Longitude += s.Longitude / float64(len(stops))
	}
	return p
}

// improved puts the stops in one after the other and betters the order until nothing does.
func (t *trip) improved(in []int) []int {
	var order []int
	for _, i := range in {
		order = t.cheapest(order, []int{i})
	}
	best := t.cost(order)
	for again := true; again; {
		again = false
		for _, next := range neighbours(order) {
			if c := t.cost(next); c < best-1e-9 {
				order, best, again = next, c, true
				break
			}
		}
	}
	return order
}

// hours is how wide the hours of a stop are.
func hours(s Stop) float64 {
	if s.To == 0 {
		return 24 * 60
	}
	return s.To - s.From
}

// cheapest puts a stretch where it costs least.
func (t *trip) cheapest(order, stretch []int) []int {
	var best []int
	least := math.Inf(1)
	for at := range len(order) + 1 {
		next := slices.Concat(order[:at], stretch, order[at:])
		if c := t.cost(next); c < least {
			best, least = next, c
		}
	}
	return best
}

// neighbours are the orders that come of turning one stretch round, or of moving up to three stops elsewhere, either way round.
func neighbours(order []int) (out [][]int) {
	n := len(order)
	for i := range n {
		for j := i + 2; j <= n; j++ {
			turned := slices.Clone(order)
			slices.Reverse(turned[i:j])
			out = append(out, turned)
		}
	}
	for size := 1; size <= 3; size++ {
		for i := 0; i+size <= n; i++ {
			stretch := slices.Clone(order[i : i+size])
			back := slices.Clone(stretch)
			slices.Reverse(back)
			rest := slices.Concat(order[:i], order[i+size:])
			for at := range len(rest) + 1 {
				if at != i {
					out = append(out, slices.Concat(rest[:at], stretch, rest[at:]))
				}
				if size > 1 {
					out = append(out, slices.Concat(rest[:at], back, rest[at:]))
				}
			}
		}
	}
	return out
}
