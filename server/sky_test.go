package server_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/exchange/weatherfile"
	"hodos/server"
)

func TestSkyAndGroundOfAZone(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.must(200, "POST", p.path("/answers"), answers(tap("onset", "2026-08-10"), tap("soil-temp-c", 31), tap("texture", "clay-loam")), nil)
	var v server.SkyView
	tech.must(200, "GET", p.path("/sky?weeks=6"), nil, &v)
	require.Len(t, v.Days, 6*7+10)
	require.True(t, v.Simulated)
	require.Equal(t, "2026-08-10", *v.Onset)
	require.True(t, v.WetByHour, "the station has hours")
	require.False(t, v.Days[41].Forecast)
	require.True(t, v.Days[42].Forecast)
	for _, b := range v.Bands {
		require.Len(t, b.Strength, len(v.Days), b.ID)
		require.NotEmpty(t, b.Label)
	}
	require.NotEmpty(t, v.Sentences)
	require.Positive(t, v.TotalMM)
	marked := false
	for _, m := range v.Marks {
		marked = marked || m.Kind == "reading" && strings.Contains(m.Text, "31")
	}
	require.True(t, marked, "the reading is a mark")
}

func TestTheGaugeOnSiteGoesBeforeTheStation(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var v server.SkyView
	status, b, _ := tech.do("POST", "/sites/"+p.site+"/weather", map[string]any{"text": "hodos-weather,1,daily,UTC\ndate,rain_mm\n2026-08-20,41\n2026-08-20,3\n2026-08-21,999\n"})
	require.Equal(t, 422, status)
	require.Contains(t, string(b), "line 4")
	require.Contains(t, string(b), "line 5")
	require.Contains(t, string(b), "nothing of it was taken")

	var in struct{ Lines, Days int }
	tech.must(200, "POST", "/sites/"+p.site+"/weather", map[string]any{"text": "hodos-weather,1,daily,UTC\ndate,rain_mm\n2026-08-20,41\n2026-08-21,0\n"}, &in)
	require.Equal(t, 2, in.Days)
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &v)
	rain := map[string]float64{}
	for _, d := range v.Days {
		if d.Rain != nil {
			rain[d.Date] = *d.Rain
		}
		if d.Date == "2026-08-20" {
			require.NotNil(t, d.TMax, "what the gauge does not measure stays the station's")
		}
	}
	require.InDelta(t, 41, rain["2026-08-20"], 1e-9)

	// what goes out comes in again without loss
	for _, kind := range []string{"daily", "hourly"} {
		status, file, h := tech.do("GET", "/sites/"+p.site+"/weather?kind="+kind, nil)
		require.Equal(t, 200, status)
		require.Contains(t, h.Get("Content-Disposition"), kind)
		s, err := weatherfile.Read(strings.NewReader(string(file)), nil)
		require.NoError(t, err)
		require.Greater(t, len(s.Days), 200)
	}
}

func TestWateringAndItsAudit(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var before server.Watering
	tech.must(200, "GET", p.path("/watering"), nil, &before)
	require.False(t, before.Known, "it is watered and nobody said how much")
	tech.must(200, "POST", p.path("/answers"), answers(tap("irrigation-weekly-mm", 8)), nil)
	tech.must(200, "GET", p.path("/watering"), nil, &before)
	require.True(t, before.Known)
	require.Zero(t, before.RateMMH)
	require.Nil(t, before.Turn, "without a rate there are no minutes")
	require.Len(t, before.Policies, 2)

	tech.must(200, "POST", p.path("/answers"), answers(tap("marks", []int{0, 1, 12, 13})), nil)
	cans := []map[string]any{}
	for i := range 16 {
		mm := 6.0
		if i%4 < 2 && i/4 < 2 {
			mm = 1.5
		}
		cans = append(cans, map[string]any{"x": i % 4, "y": i / 4, "mm": mm})
	}
	var a server.AuditResult
	tech.must(200, "POST", "/visits/"+p.visit+"/audits", map[string]any{"id": id(), "zone_id": p.zone, "minutes": 15, "cans": cans}, &a)
	require.True(t, a.Fault, a.Verdict)
	require.Equal(t, 4, a.LowOn)
	require.Less(t, a.Uniformity, .6)
	found := map[string]any{}
	for _, x := range tech.scales(p).Answers {
		found[x.Finding] = x.Value
	}
	require.InDelta(t, a.Uniformity, found["catch-can-du"], 1e-9, "it is on the scales")

	var after server.Watering
	tech.must(200, "GET", p.path("/watering?days=tue,sat"), nil, &after)
	require.NotNil(t, after.Turn)
	require.Positive(t, after.Turn.Litres)
	for _, d := range after.Policies[0].Due {
		day, err := time.Parse(time.DateOnly, d.Date)
		require.NoError(t, err)
		require.Contains(t, []time.Weekday{time.Tuesday, time.Saturday}, day.Weekday())
	}
	status, b, _ := tech.do("GET", p.path("/watering?days=someday"), nil)
	require.Equal(t, 422, status, string(b))

	// water that is noted is in the balance
	var dry, wet server.SkyView
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &dry)
	for i := range 5 {
		tech.must(204, "PUT", "/zones/"+p.zone+"/waterings", map[string]any{"day": fmt.Sprintf("2026-08-%02d", 20+i), "mm": 25}, nil)
	}
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &wet)
	require.Less(t, *wet.Days[13].Depletion, *dry.Days[13].Depletion)
	status, _, _ = tech.do("PUT", "/zones/"+p.zone+"/waterings", map[string]any{"day": "2027-01-01", "mm": 5})
	require.Equal(t, 422, status)
}
