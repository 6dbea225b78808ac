package casework

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/recovery"
	"hodos/core/turf"
	"hodos/core/weather"
	"hodos/store"
)

func courseOn(measured, today time.Time, days ...store.StationDay) Course {
	dry := false
	return Course{Zone: store.Zone{Species: store.JSON(`["tall-fescue"]`), Texture: "loam", Irrigated: &dry, TargetCover: .9},
		Site: store.Site{Latitude: 40}, Station: &store.Station{}, Measures: []store.Measure{{MeasuredOn: measured, Baseline: true, Cover: .4}},
		Today: today, days: days}
}

func day(month time.Month, n int) time.Time { return time.Date(2026, month, n, 0, 0, 0, 0, time.UTC) }

func stationDay(on time.Time, low, high, rain float64) store.StationDay {
	return store.StationDay{Day: on, TMin: &low, TMax: &high, Rain: &rain}
}

// A day comes from what was measured, then from the forecast, then from the normals, then from a cool guess, so that nothing is promised too
// early.
func TestTheWeatherOfACourse(t *testing.T) {
	g, _ := turf.ByID("tall-fescue")
	c := courseOn(day(4, 1), day(4, 3), stationDay(day(4, 2), 10, 20, 30))
	low, high := 18., 26.
	got := c.weather(g, Outlook{Normals: []float64{13, 14, 15, 16}, Forecast: []weather.Day{{Date: day(4, 4), TMin: &low, TMax: &high}}})
	require.Len(t, got, Horizon)
	require.InDelta(t, 15, got[0].MeanC, 1e-9, "measured")
	require.InDelta(t, 1, got[0].Water, 1e-9, "it has rained")
	require.Equal(t, 14., got[1].MeanC, "a day that is missing is the normal's")
	require.True(t, got[1].Ahead)
	require.InDelta(t, 22, got[2].MeanC, 1e-9, "the forecast")
	require.False(t, got[2].Ahead)
	require.Equal(t, 16., got[3].MeanC)
	require.Equal(t, coolMean, got[4].MeanC)
	require.True(t, math.IsNaN(got[4].Water))

	// a course that began long ago is drawn on from today
	require.Len(t, courseOn(day(1, 1), day(6, 1)).weather(g, Outlook{}), 151+HorizonAhead)
}

func TestTheZonesOwnWater(t *testing.T) {
	g, _ := turf.ByID("tall-fescue")
	var dry []store.StationDay
	for on := day(5, 1); on.Before(day(8, 1)); on = on.AddDate(0, 0, 1) {
		dry = append(dry, stationDay(on, 15, 30, 0))
	}
	c := courseOn(day(6, 15), day(7, 31), dry...)
	last := func() recovery.Day { return c.weather(g, Outlook{})[44] }
	require.Less(t, last().Water, .2, "six weeks without rain")

	yes := true
	c.Zone.Irrigated = &yes
	require.True(t, math.IsNaN(last().Water), "watered, and nobody knows how much")
	since := day(6, 1)
	c.given = givenWater{since: &since, given: map[string]float64{}}
	for on := day(6, 1); on.Before(day(8, 1)); on = on.AddDate(0, 0, 3) {
		c.given.given[on.Format(time.DateOnly)] = 18
	}
	require.Greater(t, last().Water, .9, "as it was logged")
}

func TestWhatACourseBeginsWith(t *testing.T) {
	reach := func(change func(*Course)) Judged {
		c := courseOn(day(4, 1), day(4, 1))
		yes := true
		c.Zone.Irrigated = &yes
		change(&c)
		var normals []float64
		for range Horizon {
			normals = append(normals, 18)
		}
		return c.Judge(Outlook{Normals: normals})
	}
	live, dead := 1., 0.
	alive := reach(func(c *Course) { c.Crowns = &live })
	lost := reach(func(c *Course) { c.Crowns = &dead })
	sown := reach(func(c *Course) {
		c.Crowns = &dead
		c.Records = []store.TreatmentRecord{{Action: "overseed", AppliedOn: day(4, 3)}}
	})
	require.Equal(t, recovery.NotYet, alive.Verdict)
	require.Less(t, alive.Mid, 30)
	require.Equal(t, -1, lost.Mid, "a bunch grass that is dead does not come back by itself")
	require.Greater(t, sown.Mid, alive.Mid)
	require.LessOrEqual(t, sown.Mid, 90)
	before := reach(func(c *Course) {
		c.Crowns = &dead
		c.Records = []store.TreatmentRecord{{Action: "overseed", AppliedOn: day(1, 3)}, {Action: "water-deep", AppliedOn: day(4, 3)}}
	})
	require.Equal(t, -1, before.Mid, "what was sown in January is not what comes up now")

	creeping := func(mm float64) Judged {
		return reach(func(c *Course) {
			c.Zone.Species, c.Crowns, c.PatchMM = store.JSON(`["kentucky-bluegrass"]`), &dead, mm
		})
	}
	require.Greater(t, creeping(60).Points[60].Mid, creeping(400).Points[60].Mid, "small patches close sooner")

	done := reach(func(c *Course) {
		c.Measures = append(c.Measures, store.Measure{MeasuredOn: day(4, 20), Cover: .93})
	})
	require.Equal(t, recovery.Recovered, done.Verdict)
	require.Equal(t, []int{19, 19, 19}, []int{done.Early, done.Mid, done.Late})
	none := Course{Start: -1}.Judge(Outlook{})
	require.Equal(t, recovery.NotYet, none.Verdict)
	require.Equal(t, 1., none.Rate)
}
