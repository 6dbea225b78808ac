package casework

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"hodos/core/clearance"
	"hodos/core/label"
	"hodos/core/schedule"
	"hodos/store"
)

var (
	monday = time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)
	lawnID = uuid.New()
)

func jobOn(action string, from, to int, more ...func(*store.Job)) store.Job {
	amount, _ := json.Marshal(Dose{N: 3, AreaM2: 100, Minutes: 30, Wait: 1})
	j := store.Job{ID: uuid.New(), ZoneID: lawnID, Action: action, FromOn: monday.AddDate(0, 0, from), ToOn: monday.AddDate(0, 0, to), DueOn: monday.AddDate(0, 0, from), Step: 1,
		Amount: amount, State: "booked"}
	for _, f := range more {
		f(&j)
	}
	return j
}

func boardOf(list []store.Job, change ...func(*Board)) *Board {
	b := NewBoard(monday, list, clearance.Lawn{Latitude: 40, Grasses: []string{"tall-fescue"}, AreaM2: 100}, nil, nil)
	b.Events = map[uuid.UUID][]time.Time{}
	for _, f := range change {
		f(b)
	}
	return b
}

func dayOfJob(b *Board, i int) int {
	return b.Arrange(func(store.Job) bool { return false })[i].Day
}

func TestWhatClosesTheDaysOfAJob(t *testing.T) {
	feed := jobOn("apply-nitrogen", 0, 30)
	for name, x := range map[string]struct {
		job    store.Job
		change func(*Board)
		day    int
	}{
		"nothing": {feed, func(*Board) {}, 0},
		"a closed season": {feed, func(b *Board) {
			b.Rules = []clearance.Rule{{Name: "x", What: "blackout", Covers: []string{"nitrogen"}, From: "08-20", To: "08-28"}}
		}, 5},
		"the client's event: the feeding is washed in and mown by then, or comes after it": {feed, func(b *Board) {
			b.Events[lawnID] = []time.Time{monday.AddDate(0, 0, 3)}
		}, 4},
		"an event far enough":                 {feed, func(b *Board) { b.Events[lawnID] = []time.Time{monday.AddDate(0, 0, 4)} }, 0},
		"nobody works on Sunday":              {jobOn("apply-nitrogen", 6, 30), func(*Board) {}, 7},
		"lines are located within three days": {jobOn("core-aerate", 0, 20), func(*Board) {}, 3},
		"lines are located already": {jobOn("core-aerate", 0, 20), func(b *Board) {
			l := b.Lawns[lawnID]
			at := monday.AddDate(0, 0, -2)
			l.LocatedOn = &at
			b.Lawns[lawnID] = l
		}, 0},
		"nitrogen of the year": {feed, func(b *Board) {
			b.Rules = []clearance.Rule{{Name: "x", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 5, Year: "rolling"}}
			b.Past[lawnID] = []clearance.Applied{{Day: monday.AddDate(-1, 0, 10), N: 4}}
		}, 10},
	} {
		b := boardOf([]store.Job{x.job}, x.change)
		require.Equal(t, x.day, dayOfJob(b, 0), name)
	}
}

func TestTheWeatherOfTheForecastClosesADay(t *testing.T) {
	product := uuid.New()
	spray := jobOn("herbicide-broadcast", 0, 20, func(j *store.Job) { j.ProductID = &product })
	l := label.Label{Name: "Trine", Kind: "herbicide", Form: "sl", Liquid: true, Uses: []label.Use{{ID: "a", Actions: []string{"herbicide-broadcast"}, RateLow: .1, RateHigh: 1, RainfastHours: 2}}}
	windy, calm, dry := 8.0, 2.5, 0.0
	var hours []clearance.Hour
	for h := range 72 {
		at := monday.Add(time.Duration(h) * time.Hour)
		wind := &windy
		if h >= 24 && h%24 == 10 { // one fit hour from the second day on
			wind = &calm
		}
		hours = append(hours, clearance.Hour{At: at, Wind: wind, Rain: &dry})
	}
	b := boardOf([]store.Job{spray}, func(b *Board) {
		b.Shelf = map[uuid.UUID]*OnShelf{product: {Product: store.Product{ID: product}, Label: l}}
		b.Hours = map[uuid.UUID][]clearance.Hour{lawnID: hours}
	})
	require.Equal(t, 1, dayOfJob(b, 0))
	moves := b.Moving(spray, monday)
	require.Equal(t, []schedule.Move{{Constraint: "label-wind", Firm: true}}, moves)
	b.Hours = nil
	b.closed = map[uuid.UUID][]schedule.Closed{}
	require.Equal(t, 0, dayOfJob(b, 0), "of days without a forecast nothing is known")
}

func TestSeriesAndGroundBeforeSeed(t *testing.T) {
	series := uuid.New()
	in := func(step int) func(*store.Job) { return func(j *store.Job) { j.Series, j.Step = &series, step } }
	list := []store.Job{jobOn("apply-wetting-agent", 0, 7, in(1)), jobOn("apply-wetting-agent", 14, 28, in(2)), jobOn("overseed", 0, 40), jobOn("core-aerate", 5, 12)}
	p := boardOf(list).Arrange(func(store.Job) bool { return false })
	require.Equal(t, 0, p[0].Day)
	require.GreaterOrEqual(t, p[1].Day, 14)
	require.GreaterOrEqual(t, p[2].Day, p[3].Day, "seed comes after the holes")
	require.GreaterOrEqual(t, p[2].Day-p[0].Day, 7, "and a week after a wetting agent")
}

func TestACrewHasItsHours(t *testing.T) {
	c := crew(monday, UsualWork, 2, map[int]float64{1: 100})
	require.Equal(t, 720.0, c(0))
	require.Equal(t, 620.0, c(1))
	require.Equal(t, 720.0, c(5), "Saturday")
	require.Zero(t, c(6), "Sunday")
	four := crew(monday, Work{9.5, 0b1001111}, 1, nil)
	require.Equal(t, 570.0, four(3))
	require.Zero(t, four(4), "Friday")
	require.Zero(t, four(5))
	require.Equal(t, 570.0, four(6), "Sunday")
	require.Zero(t, crew(monday, UsualWork, 1, map[int]float64{0: 9999})(0))
}

func TestTheLotToTake(t *testing.T) {
	day := func(n int) *time.Time { d := monday.AddDate(0, 0, n); return &d }
	lot := func(name string, left float64, opened, expires *time.Time) Lot {
		return Lot{store.ProductLot{Lot: name, OpenedOn: opened, ExpiresOn: expires}, left}
	}
	o := OnShelf{Lots: []Lot{lot("sealed", 5, nil, day(10)), lot("old", 5, day(-90), day(-1)), lot("empty", 0, day(-9), day(5)), lot("opened", 2, day(-9), day(90)), lot("opened, sooner", 1, day(-8), day(30))}}
	require.Equal(t, "opened, sooner", o.Next(monday).Lot)
	require.InDelta(t, 13, *o.Left(), 1e-12)
	require.Nil(t, OnShelf{}.Next(monday))
	require.Nil(t, OnShelf{}.Left())
}

func TestWhatAProductPutsDown(t *testing.T) {
	l := label.Label{Name: "x", Kind: "fertilizer", Analysis: map[string]float64{"n": 20, "fe": 2}, Release: "methylene", SlowShare: 50, Actives: []label.Active{{Name: "a", Group: "4", Content: 100}}}
	g := GivenBy(&l, &label.Use{SeedAfterDays: 28, CoverDays: 40}, 10)
	require.InDelta(t, 2, g.Nutrients["n"], 1e-12)
	require.InDelta(t, .2, g.Nutrients["fe"], 1e-12)
	require.NotContains(t, g.Nutrients, "p")
	require.InDelta(t, 1, g.Actives["a"], 1e-12)
	require.Equal(t, []string{"4"}, g.Groups)
	require.Equal(t, 28.0, g.SeedDays)
	text, err := json.Marshal(g)
	require.NoError(t, err)
	n := 2.5
	b := BudgetOf(store.TreatmentRecord{AppliedOn: monday, Given: text, NGM2: &n, Source: "slow"})
	require.Equal(t, "methylene", b.Release)
	require.Equal(t, 50.0, b.Slow)
	require.InDelta(t, 2.5, b.Nutrients["n"], 1e-12, "the record goes before the label")
	a := appliedOf(store.TreatmentRecord{AppliedOn: monday, Given: text, Target: "rust", NGM2: &n})
	require.Equal(t, "fertilizer", a.Kind)
	require.Equal(t, 28.0, a.SeedDays)
	require.Equal(t, "methylene", BudgetOf(store.TreatmentRecord{Source: "slow"}).Release)
}
