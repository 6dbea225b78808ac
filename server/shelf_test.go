package server_test

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/label"
	"hodos/demo"
	"hodos/night"
	"hodos/server"
)

func newKey() uuid.UUID { return uuid.Must(uuid.NewV7()) }

// at is a moment of the demo's first day by the clock of the lawn.
func at(hour int) time.Time { return demo.Start.Add(time.Duration(hour) * time.Hour) }

func (c *client) propose(p place, body map[string]any) server.Proposal {
	var out server.Proposal
	c.must(200, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/proposal", body, &out)
	return out
}

func stopIDs(stops []server.Stop) map[string]string {
	out := map[string]string{}
	for _, s := range stops {
		out[s.ID] = s.Kind
	}
	return out
}

func TestTheShelfKeepsVersionsOfLabels(t *testing.T) {
	w := newWorld(t)
	office, tech := w.as("office"), w.as("technician")
	var all []server.Product
	office.must(200, "GET", "/products?find=azoxystrobin", nil, &all)
	require.Len(t, all, 1)
	p := all[0]
	require.Equal(t, 1, p.Number)
	require.InDelta(t, 1000, *p.Left, 1e-9)
	require.InDelta(t, 168, *p.Price, 1e-9)
	require.NotNil(t, p.Weekly)

	p.Label.Uses[0].RateHigh = .12
	p.LabelID = newKey()
	tech.must(403, "PUT", "/products/"+p.ID.String(), p, nil)
	var changed server.Product
	office.must(200, "PUT", "/products/"+p.ID.String(), p, &changed)
	require.Equal(t, 2, changed.Number)
	require.InDelta(t, .12, changed.Label.Uses[0].RateHigh, 1e-12)
	office.must(409, "PUT", "/products/"+p.ID.String(), p, nil) // somebody else's version
	var pr problem
	bad := changed
	bad.LabelID, bad.Label.Uses = newKey(), []label.Use{}
	office.must(422, "PUT", "/products/"+p.ID.String(), bad, &pr)
	require.NotEmpty(t, pr.at("body.label.uses"), "%+v", pr)

	lot := map[string]any{"lot": "VL-56", "amount": 500, "received_on": "2026-08-01", "opened_on": "2026-07-01", "version": 0}
	office.must(422, "PUT", "/products/"+p.ID.String()+"/lots/"+newKey().String(), lot, &pr)
	require.NotEmpty(t, pr.at("body.opened_on"))
	lot["opened_on"] = nil
	delete(lot, "opened_on")
	office.must(200, "PUT", "/products/"+p.ID.String()+"/lots/"+newKey().String(), lot, &changed)
	require.InDelta(t, 1500, *changed.Left, 1e-9)

	mine := changed
	mine.ID, mine.LabelID, mine.Label.Name = newKey(), newKey(), "Second"
	var second server.Product
	office.must(200, "POST", "/products", mine, &second)
	require.Nil(t, second.Left, "nobody counts what has no lot")
}

func TestTheShelfAsAFile(t *testing.T) {
	c := newWorld(t).as("office")
	status, b, _ := c.do("GET", "/products/csv", nil)
	require.Equal(t, 200, status)
	var taken server.ShelfTaken
	c.must(200, "POST", "/products/csv", b, &taken)
	require.Equal(t, server.ShelfTaken{Same: 16}, taken)
	text := strings.Replace(string(b), "Corin 143,Corvane", "Corin 143,Somebody else", 1)
	text = strings.Replace(text, "Curb 113", "Curb 114", 1)
	c.must(200, "POST", "/products/csv", []byte(text), &taken)
	require.Equal(t, server.ShelfTaken{New: 1, Changed: 1, Same: 14}, taken)
	var pr problem
	c.must(422, "POST", "/products/csv", []byte(strings.Replace(text, "fungicide-curative", "dance", 1)), &pr)
	require.NotEmpty(t, pr.Errors)
	var all []server.Product
	c.must(200, "GET", "/products?find=corin", nil, &all)
	require.Equal(t, 2, all[0].Number)
}

func TestAProposalKnowsWhatTheRecordsKnow(t *testing.T) {
	w := newWorld(t)
	c := w.as("applicator")
	p := c.place("Quill")
	// in the heat of the day, the label stops a fungicide, and the next open hour is told
	hot := c.propose(p, map[string]any{"action": "fungicide-curative", "at": at(14), "target": "brown-patch"})
	require.Equal(t, "label", stopIDs(hot.Stops)["label-air"])
	require.NotNil(t, hot.Weather)
	for _, s := range hot.Stops {
		if s.ID == "label-air" {
			require.NotNil(t, s.Next)
			require.True(t, s.Next.After(at(14)))
			require.False(t, s.Passable)
		}
	}
	require.NotNil(t, hot.ProductID)
	require.NotNil(t, hot.LotID)
	require.InDelta(t, hot.Rate*hot.AreaM2, hot.Amount, 1e-9)
	require.NotNil(t, hot.Tank)
	require.Contains(t, hot.Actives, "azoxystrobin")
	require.True(t, hot.Licence)
	require.ElementsMatch(t, []string{"protect", "posting"}, firstTwo(hot.Duties))
	// more than the label, without licence, more than there is
	over := w.as("technician").propose(p, map[string]any{"action": "fungicide-curative", "at": at(7), "target": "brown-patch", "rate": 4.0, "product_id": hot.ProductID})
	ids := stopIDs(over.Stops)
	require.Equal(t, "law", ids["law-licence"])
	require.Equal(t, "label", ids["label-rate"])
	require.Equal(t, "label", ids["label-active"])
	require.Equal(t, "not-possible", ids["stock"])
	c.must(422, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/proposal", map[string]any{"action": "dance"}, nil)
}

func firstTwo(list []server.Duty) []string {
	var out []string
	for _, d := range list {
		if d.ID == "protect" || d.ID == "posting" {
			out = append(out, d.ID)
		}
	}
	return out[:min(2, len(out))]
}

// recorded is a fungicide on the first day of the demo, at seven in the morning.
func recorded(p place, product uuid.UUID, more map[string]any) map[string]any {
	out := map[string]any{"id": newKey(), "visit_id": p.visit, "zone_id": p.zone, "action": "fungicide-curative", "applied_on": "2026-08-24", "area_m2": 100, "product": "", "amount_unit": "",
		"source": "", "reentry": "", "note": "", "voided": false, "signed_name": "Rufus Adeyo", "product_id": product, "target": "brown-patch", "rate": .1, "carrier": 10, "started": "07:00", "ended": "07:30",
		"outside_reason": "the plan’s gate, talked through with the client"}
	for k, v := range more {
		out[k] = v
	}
	return out
}

func TestARecordIsCompletedFromShelfAndStation(t *testing.T) {
	w := newWorld(t)
	c := w.as("applicator")
	p := c.place("Quill")
	product := demo.Shelved(4) // Vellum 250
	lot := demo.Shelved(4)
	lot[15] += 2 // its lot
	var out server.Recorded
	path := "/visits/" + p.visit + "/records"
	c.must(200, "POST", path, recorded(p, product, map[string]any{"lot_id": lot, "details": map[string]any{"method": "spray", "wind_dir": "NW", "posted": true}}), &out)
	r := out.Record
	require.Equal(t, "Vellum 250", r.Product)
	require.InDelta(t, 10, *r.Amount, 1e-9)
	require.Equal(t, "mL", r.AmountUnit)
	require.InDelta(t, .025, r.Given.Actives["azoxystrobin"], 1e-12)
	require.Equal(t, "station", r.Details.WeatherFrom)
	require.NotNil(t, r.WindMS)
	require.NotNil(t, r.Details.RH)
	require.Equal(t, "2026-08-24 11:30", r.ClosedUntil.Format("2006-01-02 15:04"), "four hours of the label are later than dry")
	require.Equal(t, "07:00", r.Started)
	require.NotEmpty(t, r.LicenceNumber)

	// the lot is drawn down, the zone is closed, the same again is flagged and asks why
	var all []server.Product
	c.must(200, "GET", "/products?find=Vellum", nil, &all)
	require.InDelta(t, 990, *all[0].Left, 1e-9)
	again := c.propose(p, map[string]any{"action": "fungicide-curative", "at": at(9), "target": "brown-patch", "product_id": product})
	ids := stopIDs(again.Stops)
	require.Equal(t, "label", ids["label-reentry"])
	require.Equal(t, "label", ids["label-interval"])
	require.Equal(t, "agronomy", ids["resistance"])
	var pr problem
	c.must(422, "POST", path, recorded(p, product, map[string]any{"outside_reason": ""}), &pr)
	require.Contains(t, pr.at("body.outside_reason"), "label waits")
	c.must(200, "POST", path, recorded(p, product, nil), &out)
	flags := stopIDs(out.Record.Flags)
	require.Equal(t, "label", flags["label-interval"], "what has happened is recorded, and flagged")

	// a correction takes the place of the first, draws the stock anew and is not held against itself
	first := r.ID
	c.must(200, "POST", path, recorded(p, product, map[string]any{"corrects_id": first, "lot_id": lot, "rate": .12}), &out)
	c.must(200, "GET", "/products?find=Vellum", nil, &all)
	require.InDelta(t, 988, *all[0].Left, 1e-9)

	c.must(422, "POST", path, recorded(p, product, map[string]any{"ended": "06:00"}), &pr)
	require.NotEmpty(t, pr.at("body.ended"))
	c.must(422, "POST", path, recorded(p, product, map[string]any{"rate": nil, "amount": 5, "amount_unit": "g"}), &pr)
	require.NotEmpty(t, pr.at("body.amount_unit"))
	c.must(422, "POST", path, recorded(p, newKey(), nil), &pr)
	require.NotEmpty(t, pr.at("body.product_id"))
	w.as("technician").must(403, "POST", path, recorded(p, product, map[string]any{"signed_name": "Tam Whitlock"}), nil)
}

func TestWhatIsWateredInOpensLater(t *testing.T) {
	w := newWorld(t)
	c := w.as("applicator")
	p := c.place("Quill")
	var out server.Recorded
	body := recorded(p, demo.Shelved(6), map[string]any{"action": "insecticide-preventive", "target": "white-grubs", "rate": 9, "carrier": nil}) // Grubline, granules
	c.must(200, "POST", "/visits/"+p.visit+"/records", body, &out)
	require.True(t, out.Record.MustWaterIn)
	var day server.Day
	c.must(200, "GET", "/day", nil, &day)
	require.Len(t, day.Closed, 1)
	require.Nil(t, day.Closed[0].Until, "closed until it is watered in")
	path := "/records/" + out.Record.ID.String() + "/watered-in"
	var pr problem
	c.must(422, "POST", path, map[string]any{"at": "06:00"}, &pr)
	require.NotEmpty(t, pr.at("body.at"))
	c.must(204, "POST", path, map[string]any{"at": "23:50"}, nil)
	c.must(200, "GET", "/day", nil, &day)
	require.Len(t, day.Closed, 1)
	require.Equal(t, "2026-08-25 01:50", day.Closed[0].Until.Format("2006-01-02 15:04"), "two hours to dry")
	require.Positive(t, *day.Closed[0].Minutes)
	var list []server.Record
	c.must(200, "GET", "/zones/"+p.zone+"/records", nil, &list)
	require.False(t, list[0].MustWaterIn)
	require.Equal(t, "23:50", list[0].WateredIn)
	again := c.propose(p, map[string]any{"action": "fungicide-curative", "at": at(7).AddDate(0, 0, 0)})
	require.Contains(t, stopIDs(again.Stops), "label-reentry")
	body = recorded(p, demo.Shelved(4), nil)
	c.must(200, "POST", "/visits/"+p.visit+"/records", body, &out)
	c.must(422, "POST", "/records/"+out.Record.ID.String()+"/watered-in", map[string]any{"at": "12:00"}, nil)
}

func TestTheBookHoldsWhatAnInspectorAsks(t *testing.T) {
	w := newWorld(t)
	c := w.as("applicator")
	p := c.place("Quill")
	var out server.Recorded
	c.must(200, "POST", "/visits/"+p.visit+"/records", recorded(p, demo.Shelved(4), map[string]any{"note": "=SUM(A1)", "details": map[string]any{"wind_dir": "NW"}}), &out)
	var book server.Book
	span := "?from=2026-08-24&to=2026-08-24"
	c.must(200, "GET", "/book"+span, nil, &book)
	require.Len(t, book.Entries, 1)
	e := book.Entries[0]
	require.Equal(t, "AV-R 1", e.Registration)
	require.Equal(t, 1, e.LabelNumber)
	require.Equal(t, "Brown patch", e.Target)

	status, b, h := c.do("GET", "/book/csv"+span, nil)
	require.Equal(t, http.StatusOK, status)
	require.Contains(t, h.Get("Content-Type"), "text/csv")
	rows, err := csv.NewReader(bytes.NewReader(b)).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 2)
	cell := map[string]string{}
	for i, name := range rows[0] {
		cell[name] = rows[1][i]
	}
	for _, name := range []string{"date", "start", "end", "client", "site", "address", "zone", "area_m2", "what", "target", "product", "registration", "amount", "unit", "rate_per_m2", "carrier_l_100m2",
		"actives_g_m2", "wind_ms", "wind_direction", "air_c", "humidity_percent", "applicator", "licence", "closed_until", "record", "state", "recorded", "label_version"} {
		require.NotEmpty(t, cell[name], name)
	}
	require.Equal(t, "'=SUM(A1)", cell["note"])
	status, b, _ = c.do("GET", "/book/pdf"+span, nil)
	require.Equal(t, http.StatusOK, status)
	require.True(t, bytes.HasPrefix(b, []byte("%PDF-")))
	c.must(200, "GET", "/book"+span+"&kind=fertilizer", nil, &book)
	require.Empty(t, book.Entries)
	c.must(422, "GET", "/book?from=2026-08-24&to=2026-08-01", nil, nil)
	rival, _ := w.rival("owner")
	rival.must(200, "GET", "/book"+span, nil, &book)
	require.Empty(t, book.Entries)
	for _, sheet := range []string{"mix-sheet", "sign"} {
		status, b, _ = c.do("GET", "/visits/"+p.visit+"/zones/"+p.zone+"/"+sheet+"?action=fungicide-curative&target=brown-patch", nil)
		require.Equal(t, http.StatusOK, status, string(b))
		require.True(t, bytes.HasPrefix(b, []byte("%PDF-")))
		c.must(422, "GET", "/visits/"+p.visit+"/zones/"+p.zone+"/"+sheet+"?action=sharpen-blades", nil, nil)
	}
}

func (c *client) jobs(p place) server.ZoneJobs {
	var out server.ZoneJobs
	c.must(200, "GET", "/visits/"+p.visit+"/zones/"+p.zone+"/jobs", nil, &out)
	return out
}

func TestVerdictsBecomeJobs(t *testing.T) {
	w := newWorld(t)
	c := w.as("technician")
	p := c.place("Quill")
	jobs := c.jobs(p)
	require.Empty(t, jobs.Booked)
	require.NotEmpty(t, jobs.Proposed)
	feeds := 0
	var feed server.Job
	for _, j := range jobs.Proposed {
		if j.Action == "apply-nitrogen" {
			feeds++
			if j.Step == 1 {
				feed = j
			}
			require.Equal(t, "Meadowset 20-0-8", j.Product)
			require.Positive(t, j.Amount)
		}
		require.NotEmpty(t, j.DueOn, "%s: %+v", j.Action, j.Blocks)
		require.GreaterOrEqual(t, j.DueOn, j.FromOn)
		require.LessOrEqual(t, j.DueOn, j.ToOn)
	}
	require.Equal(t, 2, feeds, "the autumn feeding of cool-season turf comes twice")

	path := "/visits/" + p.visit + "/zones/" + p.zone + "/jobs"
	one, two := newKey(), newKey()
	ask := map[string]any{"jobs": []any{map[string]any{"id": one, "action": "apply-nitrogen", "step": 1}, map[string]any{"id": two, "action": "apply-nitrogen", "step": 2}}}
	var booked server.ZoneJobs
	c.must(200, "POST", path, ask, &booked)
	require.Len(t, booked.Booked, 2)
	c.must(200, "POST", path, ask, &booked) // a repeated request books nothing twice
	require.Len(t, booked.Booked, 2)
	require.Less(t, booked.Booked[0].DueOn, booked.Booked[1].DueOn)
	var pr problem
	c.must(422, "POST", path, map[string]any{"jobs": []any{map[string]any{"id": newKey(), "action": "apply-lime", "step": 1}}}, &pr)
	require.NotEmpty(t, pr.at("body.jobs[0].action"))

	var cal server.Calendar
	c.must(200, "GET", "/jobs?site_id="+p.site, nil, &cal)
	require.Len(t, cal.Jobs, 2)
	require.Equal(t, "14 Quill Lane", cal.Jobs[0].SiteName)

	// moving: into the closed season is refused, near the second asks for a reason
	move := func(status int, day, reason string) problem {
		var pr problem
		var into any = &pr
		if status == 200 {
			into = nil
		}
		c.must(status, "PUT", "/jobs/"+one.String(), map[string]any{"due_on": day, "reason": reason, "version": cal.Jobs[0].Version}, into)
		return pr
	}
	var broken []server.Broken
	c.must(200, "GET", "/jobs/"+one.String()+"/move?day="+cal.Jobs[1].DueOn, nil, &broken)
	require.NotEmpty(t, broken)
	_ = feed
	pr = move(422, cal.Jobs[1].DueOn, "")
	require.NotEmpty(t, pr.at("body.reason"))
	move(200, cal.Jobs[1].DueOn, "the client is away")
	c.must(200, "GET", "/jobs?site_id="+p.site, nil, &cal)
	require.True(t, cal.Jobs[0].Fixed || cal.Jobs[1].Fixed)
	c.must(409, "PUT", "/jobs/"+one.String(), map[string]any{"state": "dropped", "version": 1}, nil)
}

func TestTheClosedSeasonIsPassedByNobody(t *testing.T) {
	w := newWorld(t)
	c := w.as("owner")
	p := c.place("Quill")
	rule := newKey()
	var kept server.LocalRule
	c.must(200, "PUT", "/rules/"+rule.String(), map[string]any{"id": rule, "active": true, "version": 0, "rule": map[string]any{"name": "Summer rest", "place": "US", "what": "blackout", "covers": []string{"nitrogen"},
		"from": "08-01", "to": "12-31"}}, &kept)
	for _, j := range c.jobs(p).Proposed {
		if j.Action == "apply-nitrogen" {
			require.Empty(t, j.DueOn)
			require.Equal(t, "law-blackout", j.Blocks[0].Constraint)
			require.True(t, j.Blocks[0].Firm)
		}
	}
	var pr problem
	c.must(422, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/jobs", map[string]any{"jobs": []any{map[string]any{"id": newKey(), "action": "apply-nitrogen", "step": 1}}}, &pr)
	require.Contains(t, pr.at("body.jobs[0].action"), "closed season")
	c.must(200, "PUT", "/rules/"+rule.String(), map[string]any{"id": rule, "active": false, "version": kept.Version, "rule": kept.Rule}, &kept)
	for _, j := range c.jobs(p).Proposed {
		require.NotEmpty(t, j.DueOn, j.Action)
	}
	c.must(422, "PUT", "/rules/"+newKey().String(), map[string]any{"id": rule, "active": true, "version": 0, "rule": map[string]any{"name": "x", "place": "", "what": "blackout"}}, &pr)
	require.NotEmpty(t, pr.at("body.rule.from"))
	w.as("technician").must(403, "PUT", "/rules/"+rule.String(), map[string]any{"id": rule, "active": true, "version": 2, "rule": kept.Rule}, nil)
}

// replanned plans a site anew and checks that it was told how far it is.
func (c *client) replanned(site string) server.Replanned {
	c.w.t.Helper()
	status, b, h := c.do("POST", "/jobs/replan", map[string]any{"site_id": site})
	require.Equal(c.w.t, 200, status, "%s", b)
	require.Equal(c.w.t, "application/x-ndjson", h.Get("Content-Type"))
	var steps []string
	var last server.ReplanLine
	for _, line := range bytes.Split(bytes.TrimSpace(b), []byte("\n")) {
		last = server.ReplanLine{}
		require.NoError(c.w.t, json.Unmarshal(line, &last))
		steps = append(steps, last.Step)
	}
	require.Equal(c.w.t, []string{"days", "dates", "written", "written"}, steps)
	require.NotNil(c.w.t, last.Result)
	require.Equal(c.w.t, last.Of, last.Result.Jobs)
	return *last.Result
}

func TestAMissedDayIsPlannedAnewAndSaid(t *testing.T) {
	w := newWorld(t)
	c := w.as("owner")
	p := c.place("Quill")
	key := newKey()
	c.must(200, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/jobs", map[string]any{"jobs": []any{map[string]any{"id": key, "action": "apply-nitrogen", "step": 1}}}, nil)
	var cal server.Calendar
	c.must(200, "GET", "/jobs?site_id="+p.site, nil, &cal)
	was := cal.Jobs[0].DueOn
	again := c.replanned(p.site)
	require.Equal(t, 1, again.Jobs)
	require.Empty(t, again.Moved, "nothing has changed")
	for range 2 {
		c.must(200, "POST", "/demo/clock", map[string]any{"days": 15}, nil)
	}
	again = c.replanned(p.site)
	require.Len(t, again.Moved, 1)
	require.Greater(t, again.Moved[0].DueOn, was)
	require.Contains(t, again.Moved[0].Moved, "the day was missed")
	c.must(200, "GET", "/jobs?site_id="+p.site, nil, &cal)
	require.Equal(t, again.Moved[0].DueOn, cal.Jobs[0].DueOn)
}

func TestJobsAreCountedBackFromTheClientsEvent(t *testing.T) {
	w := newWorld(t)
	c := w.as("owner")
	p := c.place("Quill")
	due := func() string {
		for _, j := range c.jobs(p).Proposed {
			if j.Action == "apply-nitrogen" && j.Step == 1 {
				return j.DueOn
			}
		}
		return ""
	}
	was := due()
	day, err := time.Parse(time.DateOnly, was)
	require.NoError(t, err)
	event := "/sites/" + p.site + "/events/" + newKey().String()
	party := map[string]any{"day": day.AddDate(0, 0, 2).Format(time.DateOnly), "name": "Garden party"}
	c.must(204, "PUT", event, party, nil)
	require.Equal(t, day.AddDate(0, 0, 3).Format(time.DateOnly), due(), "the feeding is not washed in and mown by then: after the party")
	require.Equal(t, "Garden party", c.jobs(p).Events[0].Name)
	require.NotEmpty(t, c.jobs(p).Schools)
	party["off"] = true
	c.must(204, "PUT", event, party, nil)
	require.Equal(t, was, due())
	c.must(422, "PUT", event, map[string]any{"day": "soon", "name": "x"}, nil)
}

func TestTheSeasonIsReviewed(t *testing.T) {
	c := newWorld(t).as("office")
	var out server.Review
	c.must(200, "GET", "/review", nil, &out)
	require.Len(t, out.Zones, 18)
	points := map[string]map[string]server.ReviewPoint{}
	for _, z := range out.Zones {
		points[z.SiteName+z.ZoneName] = map[string]server.ReviewPoint{}
		for _, p := range z.Points {
			points[z.SiteName+z.ZoneName][p.ID] = p
		}
	}
	require.Contains(t, points["41 Larkspur DriveBack lawn"], "off-course")
	require.Contains(t, points["27 Stonecrop RiseSouth lawn"], "slow")
	require.NotContains(t, points["27 Stonecrop RiseSouth lawn"], "nothing-booked")
	require.Contains(t, points["14 Quill LaneBack lawn"], "nothing-booked")
	c.must(200, "GET", "/review?limit=3", nil, &out)
	require.NotEmpty(t, out.Next)
	var rest server.Review
	c.must(200, "GET", "/review?limit=100&after="+out.Next, nil, &rest)
	require.Equal(t, 18, len(out.Zones)+len(rest.Zones), "the next page goes on where the first ended")
}

func TestTheNightMovesWhatIsClosedAndSaysWhy(t *testing.T) {
	w := newWorld(t)
	c := w.as("owner")
	p := c.place("Quill")
	c.must(200, "POST", p.path("/jobs"), map[string]any{"jobs": []any{map[string]any{"id": newKey(), "action": "apply-nitrogen", "step": 1}}}, nil)
	var cal server.Calendar
	c.must(200, "GET", "/jobs?site_id="+p.site, nil, &cal)
	was := cal.Jobs[0].DueOn
	look := func() {
		require.NoError(t, night.Watcher{Store: w.store, Weather: demo.Sky{}, Now: time.Now}.Night(context.Background(), casework.OnDay(demo.Start)))
		c.must(200, "GET", "/jobs?site_id="+p.site, nil, &cal)
	}
	look()
	require.Equal(t, was, cal.Jobs[0].DueOn, "nothing is new")
	rule := newKey()
	day, err := time.Parse(time.DateOnly, was)
	require.NoError(t, err)
	c.must(200, "PUT", "/rules/"+rule.String(), map[string]any{"id": rule, "active": true, "version": 0, "rule": map[string]any{"name": "Fair", "place": "US", "what": "blackout", "covers": []string{"fertilizer"},
		"from": day.AddDate(0, 0, -1).Format("01-02"), "to": day.AddDate(0, 0, 2).Format("01-02")}}, nil)
	look()
	require.Equal(t, day.AddDate(0, 0, 3).Format(time.DateOnly), cal.Jobs[0].DueOn)
	require.Contains(t, cal.Jobs[0].Moved, "the closed season of the law")
}

func TestACalendarIsFedUnderASecretAddress(t *testing.T) {
	w := newWorld(t)
	c := w.as("technician")
	p := c.place("Quill")
	c.must(200, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/jobs", map[string]any{"jobs": []any{map[string]any{"id": newKey(), "action": "apply-nitrogen", "step": 1}}}, nil)
	var feed server.Feed
	c.must(200, "POST", "/feeds", map[string]any{"id": newKey()}, &feed)
	read := func() (int, string) {
		res, err := http.Get(w.url + feed.Path)
		require.NoError(t, err)
		defer res.Body.Close()
		var b bytes.Buffer
		_, err = b.ReadFrom(res.Body)
		require.NoError(t, err)
		return res.StatusCode, b.String()
	}
	status, text := read()
	require.Equal(t, 200, status)
	require.Equal(t, 10, strings.Count(text, "BEGIN:VEVENT"))
	require.Contains(t, text, "SUMMARY:Feed nitrogen\\, 14 Quill Lane")
	require.NotContains(t, text, "555-01", "no client’s number")
	_, same := read()
	require.Equal(t, text, same)
	var list []server.Feed
	c.must(200, "GET", "/feeds", nil, &list)
	require.Len(t, list, 1)
	require.Empty(t, list[0].Path, "the address is told once")
	w.as("owner").must(404, "DELETE", "/feeds/"+feed.ID.String(), nil, nil)
	c.must(204, "DELETE", "/feeds/"+feed.ID.String(), nil, nil)
	status, _ = read()
	require.Equal(t, 404, status)
	for _, path := range []string{"/jobs/csv", "/jobs/pdf", "/jobs/ics"} {
		status, b, _ := c.do("GET", path, nil)
		require.Equal(t, 200, status, string(b))
		require.Greater(t, len(b), 200)
	}
}

func TestTheBudgetOfAZone(t *testing.T) {
	w := newWorld(t)
	c := w.as("applicator")
	p := c.place("Quill")
	var b server.Budget
	path := "/visits/" + p.visit + "/zones/" + p.zone + "/budget"
	c.must(200, "GET", path, nil, &b)
	require.Len(t, b.Months, 12)
	of := func(id, by string) server.BudgetRow {
		for _, r := range b.Rows {
			if r.ID == id && r.By == by {
				return r
			}
		}
		return server.BudgetRow{}
	}
	before := of("n", "law")
	require.NotNil(t, before.Most)
	var out server.Recorded
	c.must(200, "POST", "/visits/"+p.visit+"/records", recorded(p, demo.Shelved(0), map[string]any{"action": "apply-nitrogen", "target": "", "rate": 12, "carrier": nil, "area_m2": 310}), &out)
	require.InDelta(t, 2.4, *out.Record.NGM2, 1e-9)
	require.InDelta(t, .24, *out.Record.FeGM2, 1e-9, "iron inside a feed counts as iron")
	c.must(200, "GET", path, nil, &b)
	require.InDelta(t, before.Given+2.4, of("n", "law").Given, 1e-9)
	require.Greater(t, b.Coming, 1.0)
	require.InDelta(t, .24, of("fe", "grass").Given, .2)
}

func TestTheShelfAtAGlance(t *testing.T) {
	c := newWorld(t).as("applicator")
	var out []server.Glance
	c.must(200, "GET", "/shelf/today", nil, &out)
	lawns, stops := 0, 0
	for _, g := range out {
		for _, l := range g.Lawns {
			lawns++
			stops += len(l.Stops)
			require.NotEmpty(t, l.Action)
		}
	}
	require.Greater(t, lawns, 10)
	require.Positive(t, stops)
}

func TestMachinesHaveALog(t *testing.T) {
	w := newWorld(t)
	c, tech := w.as("office"), w.as("technician")
	var all []server.Machine
	c.must(200, "GET", "/machines", nil, &all)
	require.Len(t, all, 5)
	id := newKey()
	c.must(200, "PUT", "/machines/"+id.String(), map[string]any{"id": id, "name": "Boom", "kind": "sprayer", "broken": false, "version": 0}, nil)
	entry := map[string]any{"id": newKey(), "day": "2026-08-20", "kind": "calibration", "output": 8}
	tech.must(204, "POST", "/machines/"+id.String()+"/log", entry, nil)
	entry["day"] = "2026-09-20"
	tech.must(422, "POST", "/machines/"+id.String()+"/log", entry, nil)
	c.must(200, "GET", "/machines", nil, &all)
	used := func() *float64 {
		all = nil
		c.must(200, "GET", "/machines", nil, &all)
		at := slices.IndexFunc(all, func(m server.Machine) bool { return m.ID == id })
		return all[at].Used
	}
	require.Nil(t, used())
	// two jobs put down a tenth more than planned; a calibration after them starts anew
	p := w.as("owner").place("Quill")
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec(`INSERT INTO treatment_records (id, firm_id, visit_id, zone_id, person_id, signed_name, action, applied_on, recorded_at, area_m2,
			amount_si, machine_id, details) SELECT gen_random_uuid(), z.firm_id, v.id, z.id, h.id, h.name, 'apply-nitrogen', d, now(), 9, 110, ?,
			'{"planned": 100}' FROM zones z, visits v, (SELECT id, name FROM people LIMIT 1) h, (VALUES ('2026-08-21'::date), ('2026-08-22')) days (d) WHERE z.id = ? AND v.id = ?`, id, p.zone, p.visit).Error
	}))
	require.InDelta(t, 1.1, *used(), 1e-9)
	var f server.Figures
	c.must(200, "GET", "/figures?from=2026-08-20&to=2026-08-24", nil, &f)
	require.Equal(t, server.Mean{N: 2, Mean: 1.1, Low: 1.1, High: 1.1}, f.Product, "the firm's figures say the same of all machines")
	f = server.Figures{}
	c.must(200, "GET", "/figures?from=2026-08-23&to=2026-08-24", nil, &f)
	require.Zero(t, f.Product.N)
	tech.must(204, "POST", "/machines/"+id.String()+"/log", map[string]any{"id": newKey(), "day": "2026-08-23", "kind": "calibration", "output": 8.8}, nil)
	require.Nil(t, used())
}

// The sum of a line is done for the zone with what is known of it, and what the firm works decides the days.
func TestThePlanSaysHowMuchAndWorksOnTheFirmsDays(t *testing.T) {
	w := newWorld(t)
	c := w.as("owner")
	p := c.place("Quill")
	var firm server.FirmSettings
	c.must(200, "GET", "/firm", nil, &firm)
	require.Equal(t, 6.0, firm.WorkHours)
	firm.WorkHours, firm.WorkDays = 15, 64
	c.must(422, "PUT", "/firm", firm, nil)
	firm.WorkHours = 7.5
	c.must(200, "PUT", "/firm", firm, nil)
	var jobs server.ZoneJobs
	c.must(200, "GET", "/visits/"+p.visit+"/zones/"+p.zone+"/jobs", nil, &jobs)
	require.NotEmpty(t, jobs.Proposed)
	for _, j := range jobs.Proposed {
		day, err := time.Parse(time.DateOnly, j.DueOn)
		require.NoError(t, err)
		require.Equal(t, time.Sunday, day.Weekday(), j.Action)
	}
	var proposal server.Proposal
	c.must(200, "POST", "/visits/"+p.visit+"/zones/"+p.zone+"/proposal", map[string]any{"action": "apply-nitrogen"}, &proposal)
	at := slices.IndexFunc(jobs.Sums, func(s server.Sum) bool { return s.Action == "apply-nitrogen" })
	require.GreaterOrEqual(t, at, 0, "%+v", jobs.Sums)
	require.Equal(t, "nutrient", jobs.Sums[at].Calculation)
	require.InDelta(t, proposal.AreaM2, jobs.Sums[at].Entries["area"].Amount, 1e-9)
	require.Positive(t, jobs.Sums[at].Entries["area-error"].Amount)
	require.Positive(t, jobs.Sums[at].Entries["target"].Amount)
	require.Equal(t, []string{"n"}, jobs.Sums[at].Missing, "no product is chosen")
	for _, s := range jobs.Sums {
		require.Equal(t, len(s.Missing) == 0, len(s.Lines) > 0, s.Action)
	}
}
