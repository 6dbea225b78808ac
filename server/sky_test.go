package server_test

import (
	"encoding/json"
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
	for _, m := range v.Events {
		marked = marked || m.Kind == "reading" && strings.Contains(m.Text, "31")
	}
	require.True(t, marked, "the reading is a mark")
}

func TestTheGaugeOnSiteGoesBeforeTheStation(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var v server.SkyView
	status, b, _ := tech.do("POST", "/sites/"+p.site+"/weather",
		[]byte("hodos-weather,1,daily,UTC\ndate,rain_mm\n2026-08-20,41\n2026-08-20,3\n2026-08-21,999\n"))
	require.Equal(t, 422, status)
	require.Contains(t, string(b), "line 4")
	require.Contains(t, string(b), "line 5")
	require.Contains(t, string(b), "nothing of it was taken")

	in := tech.file(p, "weather", "hodos-weather,1,daily,UTC\ndate,rain_mm,irrigation_mm\n2026-08-20,41,\n2026-08-21,0,7\n")
	require.Equal(t, server.Progress{Done: 2, Of: 2, Lines: 2, Taken: true}, in[len(in)-1])
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &v)
	rain := map[string]float64{}
	for _, d := range v.Days {
		if d.Rain != nil {
			rain[d.Date] = *d.Rain
		}
		if d.Date == "2026-08-21" {
			require.InDelta(t, 7, *d.Irrigation, 1e-9)
		}
		if d.Date == "2026-08-20" {
			require.NotNil(t, d.TMax, "what the gauge does not measure stays the station's")
		}
	}
	require.InDelta(t, 41, rain["2026-08-20"], 1e-9)
	// another file says more of the day and wipes nothing out
	tech.file(p, "weather", "hodos-weather,1,daily,UTC\ndate,tmin_c,tmax_c\n2026-08-20,18,40\n")
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &v)
	for _, d := range v.Days {
		if d.Date == "2026-08-20" {
			require.InDelta(t, 41, *d.Rain, 1e-9)
			require.InDelta(t, 40, *d.TMax, 1e-9)
		}
	}

	// what goes out comes in again without loss
	for _, kind := range []string{"daily", "hourly"} {
		status, file, h := tech.do("GET", "/sites/"+p.site+"/weather?kind="+kind, nil)
		require.Equal(t, 200, status)
		require.Contains(t, h.Get("Content-Disposition"), kind)
		s, err := weatherfile.Read(strings.NewReader(string(file)), time.Date(2026, 12, 31, 0, 0, 0, 0, time.UTC), nil)
		require.NoError(t, err)
		require.Greater(t, len(s.Days), 200)
		if kind == "daily" {
			require.InDelta(t, 7, *s.Days[len(s.Days)-4].Irrigation, 1e-9)
			in := tech.file(p, "weather", string(file))
			require.Greater(t, len(in), 1, "a long file is followed by its progress")
			require.Equal(t, len(s.Days), in[len(in)-1].Done)
			for i := 1; i < len(in); i++ {
				require.Greater(t, in[i].Done, in[i-1].Done)
			}
			_, again, _ := tech.do("GET", "/sites/"+p.site+"/weather?kind=daily", nil)
			require.Equal(t, string(file), string(again))
		}
	}
	status, b, _ = tech.do("POST", "/sites/"+p.site+"/weather",
		[]byte("hodos-weather,1,daily,UTC\ndate,rain_mm\n"+strings.Repeat("2026-08-20,41\n", 700_000)))
	require.Equal(t, 413, status, "%.200s", b)
}

// file sends a plain file and reads the lines of progress.
func (c *client) file(p place, kind, text string) (lines []server.Progress) {
	c.w.t.Helper()
	status, b, h := c.do("POST", "/sites/"+p.site+"/"+kind, []byte(text))
	require.Equal(c.w.t, 200, status, "%s", b)
	require.Equal(c.w.t, "application/x-ndjson", h.Get("Content-Type"))
	for _, line := range strings.Split(strings.TrimSpace(string(b)), "\n") {
		var p server.Progress
		require.NoError(c.w.t, json.Unmarshal([]byte(line), &p), line)
		lines = append(lines, p)
	}
	require.True(c.w.t, lines[len(lines)-1].Taken, "%s", b)
	return lines
}

func TestReadingsOfProbesAndSoilTests(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	text := "hodos-readings,1,America/New_York\ntime,zone,finding,value,unit\n" +
		"2026-08-18T15:00,Back lawn,soil-temp-c,28,C\n2026-08-24T09:30,Back lawn,soil-temp-c,77,F\n2026-08-20,Back lawn,soil-moisture-vwc,34,%\n2026-05-02,Back lawn,soil-ph,8.1,pH\n"
	status, b, _ := tech.do("POST", "/sites/"+p.site+"/readings", []byte(strings.Replace(text, "Back lawn", "Pool", 2)))
	require.Equal(t, 422, status)
	require.Contains(t, string(b), `line 3, zone: \"Pool\"`)
	require.Contains(t, string(b), "line 4, zone")

	tech.must(200, "POST", p.path("/answers"), answers(tap("irrigation-weekly-mm", 8)), nil)
	var before, after server.SkyView
	tech.must(200, "GET", p.path("/sky?weeks=4"), nil, &before)
	in := tech.file(p, "readings", text)
	require.Equal(t, 4, in[0].Done)
	tech.file(p, "readings", text) // the same file again changes nothing
	tech.must(200, "GET", p.path("/sky?weeks=4"), nil, &after)
	at := func(v server.SkyView, day string) server.SkyDay {
		for _, d := range v.Days {
			if d.Date == day {
				return d
			}
		}
		t.Fatalf("no day %s", day)
		return server.SkyDay{}
	}
	require.Less(t, *at(after, "2026-08-18").SoilPeak, *at(before, "2026-08-18").SoilPeak-3, "the thermometer corrects the course")
	require.Less(t, *at(after, "2026-08-20").Depletion, *at(before, "2026-08-20").Depletion-3, "the probe sets the balance")
	marks := map[string]bool{}
	for _, m := range after.Events {
		if m.Kind == "reading" {
			marks[m.Date] = true
		}
	}
	require.True(t, marks["2026-08-18"] && marks["2026-08-20"] && marks["2026-08-24"], "%v", after.Events)

	// the reading of the day and the soil test are on the scales; an answer goes before them
	var full map[string]any
	tech.must(200, "GET", p.path("/case"), nil, &full)
	findings := full["findings"].(map[string]any)
	require.InDelta(t, 25, findings["soil-temp-c"], 1e-9)
	require.InDelta(t, 9.5, findings["soil-temp-hour"], 1e-9)
	require.InDelta(t, 8.1, findings["soil-ph"], 1e-9)
	status, b, _ = tech.do("POST", "/diagnose", full)
	require.Equal(t, 200, status, "the case with its readings is read again: %.300s", b)
	tech.must(200, "POST", p.path("/answers"), answers(tap("soil-ph", 6.5)), nil)
	full = nil
	tech.must(200, "GET", p.path("/case"), nil, &full)
	require.InDelta(t, 6.5, full["findings"].(map[string]any)["soil-ph"], 1e-9)

	status, file, h := tech.do("GET", "/sites/"+p.site+"/readings", nil)
	require.Equal(t, 200, status)
	require.Contains(t, h.Get("Content-Type"), "text/csv")
	require.Equal(t, 6, strings.Count(string(file), "\n"))
	require.Contains(t, string(file), "2026-08-24T09:30,Back lawn,soil-temp-c,25,C")

	// without a visit the zone says the same of itself
	var zone server.SkyView
	tech.must(200, "GET", "/zones/"+p.zone+"/sky?weeks=4", nil, &zone)
	require.Len(t, zone.Days, 38)
	require.Less(t, *at(zone, "2026-08-18").SoilPeak, *at(before, "2026-08-18").SoilPeak-3)
	said := ""
	for _, x := range zone.Sentences {
		said += x.Text + "\n"
	}
	require.Regexp(t, `Hours that may be fit to spray .*: 2\d August \d+ to \d+ h`, said, "the days ahead have hours")
	require.Contains(t, said, "up to today", "without a visit there is no onset")
	// a probe of today counts today
	require.Greater(t, *at(zone, "2026-08-24").Depletion, 10.)
	tech.file(p, "readings", "hodos-readings,1,America/New_York\ntime,zone,finding,value,unit\n2026-08-24,Back lawn,soil-moisture-vwc,38,%\n")
	tech.must(200, "GET", "/zones/"+p.zone+"/sky?weeks=4", nil, &zone)
	require.InDelta(t, 0, *at(zone, "2026-08-24").Depletion, 1e-9)
	found := false
	for _, m := range zone.Events {
		found = found || m.Kind == "visit" && strings.Contains(m.Text, "White grubs")
	}
	require.True(t, found, "former visits stand on the axis")
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

	tech.must(200, "POST", p.path("/answers"), answers(tap("damaged-cells", []int{0, 1, 12, 13})), nil)
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
	require.NotNil(t, after.Audit)
	require.Len(t, after.Audit.Cans, 16)
	require.Len(t, after.Audit.Low, 4)
	require.Equal(t, []int{0, 1, 12, 13}, after.Audit.Damaged, "the damage is drawn beside the cans")
	require.Len(t, after.Ahead, 10)
	for _, d := range after.Ahead {
		day, err := time.Parse(time.DateOnly, d.Date)
		require.NoError(t, err)
		require.Equal(t, day.Weekday() == time.Tuesday || day.Weekday() == time.Saturday, d.Permitted)
	}
	require.Nil(t, after.NewGrass)
	// what the place permits is kept with the site
	require.Empty(t, after.Permitted)
	tech.must(204, "PUT", "/sites/"+p.site+"/watering-days", map[string]any{"days": []string{"thu"}}, nil)
	tech.must(200, "GET", p.path("/watering"), nil, &after)
	require.Equal(t, []string{"thu"}, after.Permitted)
	for _, d := range after.Policies[0].Due {
		day, err := time.Parse(time.DateOnly, d.Date)
		require.NoError(t, err)
		require.Equal(t, time.Thursday, day.Weekday())
	}
	tech.must(422, "PUT", "/sites/"+p.site+"/watering-days", map[string]any{"days": []string{"someday"}}, nil)
	tech.must(204, "PUT", "/sites/"+p.site+"/watering-days", map[string]any{"days": []string{}}, nil)
	var zone server.Watering
	tech.must(200, "GET", "/zones/"+p.zone+"/watering", nil, &zone)
	require.Equal(t, after.RateMMH, zone.RateMMH, "the audit stands without a visit, too")
	require.True(t, zone.Known, "the last answer holds")

	// new grass is watered in by the day on which it was laid
	tech.must(200, "POST", "/visits/"+p.visit+"/records", map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone,
		"action": "resod", "applied_on": "2026-08-20", "area_m2": 4, "product": "", "amount_unit": "", "source": "", "reentry": "", "note": "",
		"signed_name": "Tam Whitlock", "voided": false}, nil)
	tech.must(200, "GET", p.path("/watering"), nil, &after)
	require.Equal(t, &server.NewGrass{Kind: "sod", On: "2026-08-20", Day: 5}, after.NewGrass)
	require.Equal(t, 3, after.Ramp[0].To, "the ramp is that of sod")

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

// A gauge's eleven years by the hour are one file: it is read as it comes in, and its taking is followed.
func TestALongFile(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var b strings.Builder
	b.WriteString("hodos-weather,1,hourly,UTC\ntime,temp_c,rain_mm\n")
	at := time.Date(2015, 3, 1, 0, 0, 0, 0, time.UTC)
	const lines = 100_000
	for i := range lines {
		fmt.Fprintf(&b, "%s,%d.5,0\n", at.Add(time.Duration(i)*time.Hour).Format("2006-01-02T15:04"), 10+i%24/2)
	}
	in := tech.file(p, "weather", b.String())
	last := in[len(in)-1]
	require.Equal(t, lines, last.Lines)
	require.Equal(t, (lines+23)/24, last.Done)
	require.Equal(t, last.Of, last.Done)
	require.Greater(t, len(in), 15)
	// one bad line in it, and nothing of it is taken
	status, body, _ := tech.do("POST", "/sites/"+p.site+"/weather", []byte(strings.Replace(b.String(), "2026-01-01T00:00,10.5,0",
		"2026-01-01T00:00,99.5,0", 1)))
	require.Equal(t, 422, status)
	require.Contains(t, string(body), "99.5 is impossible")
}

// The balance of a lawn is the same on a visit on which nothing was answered and without one: what former visits measured goes on.
func TestOneBalanceWithAndWithoutAVisit(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	compared := 0
	for _, name := range []string{"Quill", "Sallow", "Mill Ferry", "Larkspur"} {
		p := tech.place(name)
		var on, off server.SkyView
		tech.must(200, "GET", p.path("/sky"), nil, &on)
		tech.must(200, "GET", "/zones/"+p.zone+"/sky", nil, &off)
		require.Equal(t, off.TotalMM, on.TotalMM, name)
		require.Equal(t, off.Days, on.Days, name)
		compared += len(on.Days)
	}
	require.Positive(t, compared)
	// and a root that one visit measured is the root of the next
	p := tech.place("Quill")
	var before, on, off server.SkyView
	tech.must(200, "GET", "/zones/"+p.zone+"/sky", nil, &before)
	tech.must(200, "POST", p.path("/answers"), answers(tap("root-depth-mm", 40)), nil)
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	tech.must(200, "POST", "/visits/"+p.visit+"/leave", map[string]any{}, nil)
	next := id()
	w.as("office").must(200, "POST", "/visits", map[string]any{"id": next, "site_id": p.site, "kind": "diagnosis", "due_on": "2026-08-24",
		"reason": "", "version": 0}, nil)
	tech.must(200, "GET", "/visits/"+next+"/zones/"+p.zone+"/sky", nil, &on)
	tech.must(200, "GET", "/zones/"+p.zone+"/sky", nil, &off)
	require.NotEqual(t, before.TotalMM, on.TotalMM, "a shallow root holds less water")
	require.Equal(t, off.TotalMM, on.TotalMM)
	require.Equal(t, off.Days, on.Days)
}
