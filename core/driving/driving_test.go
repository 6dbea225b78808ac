package driving

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
)

// best is the exact answer, by trying every order.
func best(stops []Stop, r Round) float64 {
	order := make([]int, len(stops))
	for i := range order {
		order[i] = i
	}
	least, day := math.Inf(1), newTrip(stops, r)
	var try func(k int)
	try = func(k int) {
		if k == len(order) {
			least = math.Min(least, day.cost(order))
			return
		}
		for i := k; i < len(order); i++ {
			order[k], order[i] = order[i], order[k]
			try(k + 1)
			order[k], order[i] = order[i], order[k]
		}
	}
	try(0)
	return least
}

// cost is that of the legs as they are told.
func cost(legs []Leg, stops []Stop, r Round) (sum float64) {
	end := r.Leave
	for _, l := range legs {
		sum += l.Km/Speed*60 + Lateness*l.Late
		end = l.Begin + stops[l.Stop].Minutes
	}
	return sum + end - r.Leave
}

// drawn is a day of so many stops in a district of 20 km, of which some have hours.
func drawn(n int, seed uint64) ([]Stop, Round) {
	chance := rand.New(rand.NewPCG(seed, 3))
	place := func() Place { return Place{37.6 + chance.Float64()*.18, -78.4 + chance.Float64()*.22} }
	stops := make([]Stop, n)
	for i := range stops {
		stops[i] = Stop{Place: place(), Minutes: 15 + 30*chance.Float64()}
		if chance.Float64() < .4 {
			stops[i].From = 480 + float64(chance.IntN(6))*60
			stops[i].To = stops[i].From + 60 + float64(chance.IntN(2))*60
		}
	}
	r := Round{Leave: 480}
	if chance.Float64() < .5 {
		at := place()
		r.Start = &at
	}
	return stops, r
}

// On small days the heuristic is held against the best of all orders.
func TestTheOrderIsCloseToTheBest(t *testing.T) {
	sum, worst, exact := 0.0, 0.0, 0
	const days = 150
	for seed := range uint64(days) {
		stops, r := drawn(7, seed)
		order := Order(stops, r)
		sorted := slices.Sorted(slices.Values(order))
		require.Equal(t, []int{0, 1, 2, 3, 4, 5, 6}, sorted, "every stop once")
		require.InDelta(t, cost(Drive(stops, order, r), stops, r), Cost(stops, order, r), 1e-6, "what is told is what is weighed")
		gap := Cost(stops, order, r)/best(stops, r) - 1
		require.GreaterOrEqual(t, gap, -1e-9)
		sum, worst = sum+gap, math.Max(worst, gap)
		if gap < 1e-9 {
			exact++
		}
	}
	t.Logf("gap: mean %.2f %%, worst %.1f %%, %d of %d exact", sum/days*100, worst*100, exact, days)
	require.Less(t, sum/days, .02)
	require.Less(t, worst, .25)
	require.Greater(t, exact, days*8/10)
}

// A way between two towns, by hand: one degree of latitude is 111.2 km.
func TestKm(t *testing.T) {
	require.InDelta(t, 111.19*Detour, Km(Place{37, -78}, Place{38, -78}), .1)
	require.InDelta(t, 111.19*math.Cos(60*math.Pi/180)*Detour, Km(Place{60, 179.5}, Place{60, -179.5}), .1, "over the date line")
	require.Zero(t, Km(Place{1, 2}, Place{1, 2}))
}

// The hours of a stop decide before the way; where nothing has hours the way does.
func TestHoursGoBeforeTheWay(t *testing.T) {
	near, far := Place{37.60, -78.30}, Place{37.70, -78.30}
	r := Round{Start: &Place{37.59, -78.30}, Leave: 480}
	whenever := []Stop{{Place: far, Minutes: 30}, {Place: near, Minutes: 30}}
	require.Equal(t, []int{1, 0}, Order(whenever, r), "the near one lies on the way")
	early := slices.Clone(whenever)
	early[0].From, early[0].To = 480, 510
	require.Equal(t, []int{0, 1}, Order(early, r))
	legs := Drive(early, []int{1, 0}, r)
	require.Positive(t, legs[1].Late)
	require.Zero(t, legs[0].Late)
	late := slices.Clone(whenever)
	late[1].From, late[1].To = 600, 660
	require.Equal(t, []int{0, 1}, Order(late, r), "who is expected at ten is not waited for at eight")
	legs = Drive(late, []int{1, 0}, r)
	require.Equal(t, 600.0, legs[0].Begin)
	require.Empty(t, Order(nil, r))
}

func TestTheSameStopsGiveTheSameOrder(t *testing.T) {
	stops, r := drawn(15, 9)
	require.Equal(t, Order(stops, r), Order(stops, r))
}

// What lies behind the most that is ordered stays behind.
func TestALongListKeepsItsEnd(t *testing.T) {
	stops, r := drawn(Most+3, 5)
	order := Order(stops, r)
	require.Equal(t, []int{Most, Most + 1, Most + 2}, order[Most:])
}

func BenchmarkDayOf20(b *testing.B) {
	stops, r := drawn(20, 9)
	for b.Loop() {
		Order(stops, r)
	}
}
