package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/diagnosis"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/demo"
	"hodos/exchange/casefile"
	"hodos/internal/testdb"
	"hodos/night"
	"hodos/server"
	"hodos/standin"
	"hodos/store"
)

type world struct {
	t     *testing.T
	url   string
	store *store.Store
	srv   *server.Server
	mail  *standin.Mailbox
}

func newWorld(t *testing.T) *world { return newWorldWith(t, demo.Sky{}) }

func newWorldWith(t *testing.T, sky casework.Service, changes ...func(*server.Options)) *world {
	t.Helper()
	s := testdb.Copy(t, "demo", func(s *store.Store) error {
		_, err := demo.Load(context.Background(), s)
		return err
	})
	web := fstest.MapFS{"index.html": {Data: []byte(`<meta name="csp-nonce" content="__NONCE__"><div id="root"></div>`)},
		"assets/a.js": {Data: []byte("1")}}
	mail := &standin.Mailbox{}
	o := server.Options{Store: s, Clock: demo.Clock{Store: s}, Weather: sky, Laboratory: standin.Laboratory{},
		DemoPeople: demo.People, DemoFirm: demo.Firm, Log: slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelError})), Web: web, Jobs: &night.Options{},
		Mail: mail, URL: "https://hodos.example", Proxies: []*net.IPNet{{IP: net.IPv4(127, 0, 0, 0), Mask: net.CIDRMask(8, 32)}}}
	for _, change := range changes {
		change(&o)
	}
	srv := server.New(o)
	ts := httptest.NewServer(srv)
	t.Cleanup(ts.Close)
	return &world{t, ts.URL, s, srv, mail}
}

// client is one person's browser.
type client struct {
	w    *world
	http *http.Client
	csrf string
	// behind is what a proxy says of where the request comes from
	behind string
}

func (w *world) anonymous() *client {
	jar, err := cookiejar.New(nil)
	require.NoError(w.t, err)
	return &client{w: w, http: &http.Client{Jar: jar}}
}

func (w *world) as(role string) *client {
	c := w.anonymous()
	var out struct{ CSRF string }
	c.must(http.StatusOK, "POST", "/sign-in/demo", map[string]any{"role": role}, &out)
	c.csrf = out.CSRF
	return c
}

func (c *client) do(method, path string, body any) (int, []byte, http.Header) {
	c.w.t.Helper()
	var r io.Reader
	if raw, ok := body.([]byte); ok {
		r = bytes.NewReader(raw)
	} else if body != nil {
		b, err := json.Marshal(body)
		require.NoError(c.w.t, err)
		r = bytes.NewReader(b)
	}
	req, err := http.NewRequest(method, c.w.url+"/api/v1"+path, r)
	require.NoError(c.w.t, err)
	if r != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	if c.behind != "" {
		req.Header.Set("X-Forwarded-For", c.behind)
	}
	if c.csrf != "" {
		req.Header.Set("X-Hodos-Csrf", c.csrf)
	}
	res, err := c.http.Do(req)
	require.NoError(c.w.t, err)
	defer res.Body.Close()
	b, err := io.ReadAll(res.Body)
	require.NoError(c.w.t, err)
	return res.StatusCode, b, res.Header
}

func (c *client) must(status int, method, path string, body, into any) {
	c.w.t.Helper()
	got, b, h := c.do(method, path, body)
	require.Equal(c.w.t, status, got, "%s %s: %s", method, path, b)
	if status >= 400 {
		require.Contains(c.w.t, h.Get("Content-Type"), "application/problem+json")
	}
	if into != nil {
		require.NoError(c.w.t, json.Unmarshal(b, into), "%s", b)
	}
}

type problem struct {
	Detail string
	Errors []struct{ Location, Message string }
}

func (p problem) at(location string) string {
	for _, e := range p.Errors {
		if e.Location == location {
			return e.Message
		}
	}
	return ""
}

func id() string { return uuid.Must(uuid.NewV7()).String() }

// place is a visit with its zone.
type place struct{ site, zone, visit, client, sample, job, at, call, trial, plot string }

func (c *client) place(name string) place {
	c.w.t.Helper()
	var sites server.Sites
	c.must(200, "GET", "/sites", nil, &sites)
	var day server.Day
	c.must(200, "GET", "/day", nil, &day)
	for _, s := range sites.Sites {
		if !strings.Contains(s.Name, name) {
			continue
		}
		for _, v := range append(day.Due, day.Coming...) {
			if v.Visit.SiteID == s.ID {
				return place{s.ID.String(), s.Zones[0].ID.String(), v.Visit.ID.String(), s.ClientID.String(), "", id(),
					fmt.Sprintf("%f,%f", s.Longitude, s.Latitude), "", "", ""}
			}
		}
	}
	c.w.t.Fatalf("no visit at %s", name)
	return place{}
}

// sampled takes a soil sample on the visit.
func (c *client) sampled(p place) place {
	c.w.t.Helper()
	p.sample = id()
	c.must(200, "POST", "/visits/"+p.visit+"/samples", map[string]any{"id": p.sample, "zone_id": p.zone, "kind": "soil", "cores": 14,
		"depth_mm": 90, "note": ""}, nil)
	p.call = c.openCalls()[0].ID.String()
	trial, plots := laidOut(p)
	c.must(200, "POST", "/trials", trial, nil)
	p.trial, p.plot = trial["id"].(string), plots[0]
	p.job = id()
	c.must(200, "POST", p.path("/jobs"), map[string]any{"jobs": []any{map[string]any{"id": p.job, "action": "insecticide-preventive", "step": 1}}}, nil)
	return p
}

func (p place) path(rest string) string { return "/visits/" + p.visit + "/zones/" + p.zone + rest }

func tap(finding string, value any) map[string]any {
	return map[string]any{"id": id(), "finding": finding, "spot": "worst", "value": value, "base": 0}
}

func answers(taps ...map[string]any) map[string]any { return map[string]any{"answers": taps} }

func TestOneVisitThroughTheAPI(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var v server.Visit
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, &v)
	require.NotNil(t, v.ArrivedAt)
	again := v.ArrivedAt
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, &v)
	require.Equal(t, again, v.ArrivedAt, "the first arrival stands")

	var sc server.Scales
	tech.must(200, "POST", p.path("/answers"), answers(tap("pattern", []string{"irregular-patches"}), tap("pull-test", "lifts-like-carpet"),
		tap("grubs-per-m2", 96), tap("onset", "2026-08-10")), &sc)
	require.Equal(t, "white-grubs", sc.Diagnosis.Causes[0].ID)
	require.NotEmpty(t, sc.Diagnosis.Weather, "the weather speaks without being asked")
	require.Len(t, sc.Answers, 4)

	// taking an answer back is an answer
	sc = server.Scales{}
	tech.must(200, "POST", p.path("/answers"), answers(tap("pattern", nil)), &sc)
	require.Len(t, sc.Answers, 3)

	// the exported file gives the same answer on the command line's path
	status, file, h := tech.do("GET", p.path("/case"), nil)
	require.Equal(t, 200, status)
	require.Contains(t, h.Get("Content-Disposition"), "case-2026-08-24.json")
	c, err := casefile.Parse(file)
	require.NoError(t, err)
	r := diagnosis.Diagnose(c, diagnosis.Options{At: "walk"}) // the newest answer was given there
	offline, err := json.Marshal(casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{})))
	require.NoError(t, err)
	var fresh struct{ Diagnosis json.RawMessage }
	tech.must(200, "GET", p.path("/scales"), nil, &fresh)
	var online, same any
	require.NoError(t, json.Unmarshal(fresh.Diagnosis, &online))
	require.NoError(t, json.Unmarshal(offline, &same))
	require.True(t, assert.ObjectsAreEqual(online, same), "the case file gives another answer than the screen")
	var posted casefile.Result
	tech.must(200, "POST", "/diagnose", file, &posted)
	require.Equal(t, len(sc.Diagnosis.Causes), len(posted.Causes))
	require.Equal(t, sc.Diagnosis.Causes[0].Probability, posted.Causes[0].Probability)

	// a diagnosis that was given stays
	var given server.Given
	tech.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, &given)
	require.Equal(t, "white-grubs", given.Leading)
	tech.must(200, "POST", p.path("/answers"), answers(tap("grubs-per-m2", 0), tap("pull-test", "resists")), &sc)
	var detail server.VisitDetail
	tech.must(200, "GET", "/visits/"+p.visit, nil, &detail)
	require.Equal(t, given.Probability, detail.Given[0].Probability)

	tech.must(200, "POST", "/visits/"+p.visit+"/leave", map[string]any{}, &v)
	require.NotNil(t, v.ClosedOn)
}

func TestAnswersThatCannotBeTaken(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	for _, c := range []struct {
		tap   map[string]any
		field string
		words string
	}{
		{tap("grubs-per-m2", -4), "value", "physical range"},
		{tap("pull-test", "flies"), "value", "unknown id"},
		{tap("weather", true), "finding", "is not a finding"},
		{tap("heat-spell", "none"), "finding", "is not a finding"},
		{tap("onset", "2026-12-01"), "value", "on or before the visit"},
		{tap("damaged-cells", []int{96}), "value", "not a cell"},
		{tap("damaged-cells", "x"), "value", "no list of squares"},
		{tap("damaged-cells", map[string]any{"grid": map[string]any{"step_m": 1, "columns": 100, "rows": 100}}), "value.grid", "1 to 4096"},
		{tap("damaged-cells", map[string]any{"grid": map[string]any{"step_m": 0, "columns": 1, "rows": 1}}), "value.grid", "sensible"},
		{tap("damaged-cells", map[string]any{"grid": plainCells()["grid"], "slight": []int{4}, "bare": []int{4}}), "value", "4 stands twice"},
		{tap("points", []any{map[string]any{"what": "hole", "spot": "worst"}}), "value", "point 1 is none of"},
		{tap("points", []any{map[string]any{"what": "core", "spot": "middle"}}), "value", "neither"},
		{tap("points", []any{map[string]any{"what": "core", "spot": "worst", "e": 1e9}}), "value", "far away"},
		{tap("points", make([]map[string]any, 61)), "value", "more than 60"},
		{map[string]any{"id": uuid.New().String(), "finding": "pull-test", "spot": "worst", "value": "resists", "base": 0}, "id", "version 7"},
		{map[string]any{"id": id(), "finding": "soil-temp-c", "spot": "worst", "base": 0,
			"entered": map[string]any{"amount": 85, "unit": "lb"}}, "entered", "cannot convert"},
	} {
		var pr problem
		tech.must(422, "POST", p.path("/answers"), answers(tap("footprints", "stay"), c.tap), &pr)
		require.Contains(t, pr.at("body.answers[1]."+c.field), c.words, "%v", pr)
	}
	var sc server.Scales
	tech.must(200, "GET", p.path("/scales"), nil, &sc)
	require.Empty(t, sc.Answers, "nothing is half saved")
	tech.must(200, "POST", p.path("/answers"), answers(map[string]any{"id": id(), "finding": "soil-temp-c", "spot": "worst", "base": 0,
		"entered": map[string]any{"amount": 85, "unit": "F"}}), &sc)
	require.InDelta(t, 29.444, sc.Answers[0].Value, .001, "conversion happens once, here")
	var pr problem
	tech.must(422, "POST", p.path("/answers"), []byte(`{"answers":[],"surplus":1}`), &pr)
	require.NotEmpty(t, pr.Errors, "an unknown field is refused")
}

func TestARepeatedRequestDoesNothingTwice(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	one := tap("pull-test", "resists")
	for range 3 {
		tech.must(200, "POST", p.path("/answers"), answers(one), nil)
	}
	record := map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": "water-deep", "area_m2": 100, "product": "",
		"amount_unit": "", "source": "", "reentry": "", "note": "", "signed_name": "Tam Whitlock", "voided": false, "follow_up_id": id()}
	for range 3 {
		tech.must(200, "POST", "/visits/"+p.visit+"/records", record, nil)
	}
	var detail server.VisitDetail
	tech.must(200, "GET", "/visits/"+p.visit, nil, &detail)
	require.Len(t, detail.Records, 1)
	require.Len(t, detail.FollowUps, 2, "both looks, once")
	require.Equal(t, "2026-08-31", detail.FollowUps[0].DueOn, "seven days after watering")
	var n int64
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Model(&store.Answer{}).Where("visit_id = ?", p.visit).Count(&n).Error
	}))
	require.EqualValues(t, 1, n)
}

// What a visit did itself is no evidence of what it found, and still holds its class in the plan.
func TestTheRecordOfThisVisitHoldsItsClass(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	read := func() (server.Scales, map[string]casefile.ActionLine) {
		var sc server.Scales
		tech.must(200, "GET", p.path("/scales"), nil, &sc)
		lines := map[string]casefile.ActionLine{}
		for _, a := range sc.Diagnosis.Actions {
			lines[a.ID] = a
		}
		return sc, lines
	}
	tech.must(200, "POST", p.path("/answers"), answers(tap("footprints", "stay"), tap("soil-moisture", "dry"), tap("pull-test", "resists"),
		tap("colour", []string{"blue-grey"})), nil)
	before, due := read()
	require.Equal(t, "do-now", due["water-deep"].Verdict, due["water-deep"].Reasons)
	record := map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": "water-deep", "area_m2": 100, "water_mm": 18,
		"product": "", "amount_unit": "", "source": "", "reentry": "", "note": "", "signed_name": "Tam Whitlock", "voided": false, "follow_up_id": id()}
	tech.must(200, "POST", "/visits/"+p.visit+"/records", record, nil)
	after, held := read()
	require.Equal(t, "hold", held["water-deep"].Verdict, held["water-deep"].Reasons)
	require.Equal(t, "interval", held["water-deep"].Gate)
	require.Equal(t, "2026-08-25", held["water-deep"].Until)
	require.Equal(t, before.Diagnosis.Causes[0], after.Diagnosis.Causes[0], "the scales have not moved")
	_, file, _ := tech.do("GET", p.path("/case"), nil)
	require.Contains(t, string(file), `"this_visit": true`)
	// the hours fit to spray are those of the Day page
	var day server.Day
	tech.must(200, "GET", "/day", nil, &day)
	require.NotNil(t, after.Spray)
	var same []server.SpraySpell
	for _, d := range day.Sky {
		if d.Date > "2026-08-24" && d.Date <= after.Spray.To {
			same = append(same, d.Hours...)
		}
	}
	require.NotEmpty(t, same)
	require.Equal(t, same, after.Spray.Hours)
}

func TestTwoPeopleOnOneVisit(t *testing.T) {
	w := newWorld(t)
	tam, rufus := w.as("technician"), w.as("applicator")
	p := tam.place("Quill")
	var seen, sc server.Scales
	tam.must(200, "GET", p.path("/scales"), nil, &seen)
	rufus.must(200, "POST", p.path("/answers"), answers(tap("pull-test", "resists")), &sc)
	late := tap("pull-test", "lifts-like-carpet")
	late["base"] = seen.Seq
	tam.must(200, "POST", p.path("/answers"), answers(late), &sc)
	require.Equal(t, "lifts-like-carpet", sc.Answers[0].Value)
	require.Equal(t, "Tam Whitlock", sc.Answers[0].By)
	require.Equal(t, &server.Other{Value: "resists", By: "Rufus Adeyo"}, sc.Answers[0].Other, "somebody else had answered in between")
	rufus.must(200, "GET", p.path("/scales"), nil, &sc)
	require.NotNil(t, sc.Answers[0].Other, "both see it")
	var n int64
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Model(&store.Answer{}).Where("visit_id = ? AND finding = 'pull-test'", p.visit).Count(&n).Error
	}))
	require.EqualValues(t, 2, n, "both answers are kept")

	// who has seen both and answers again has settled it, whichever way
	settle := tap("pull-test", "resists")
	settle["base"] = sc.Seq
	sc = server.Scales{}
	rufus.must(200, "POST", p.path("/answers"), answers(settle), &sc)
	require.Nil(t, sc.Answers[0].Other)
	require.Equal(t, "resists", sc.Answers[0].Value)
	// the same answer twice is no conflict, nor one that was taken back meanwhile, nor one's own
	for _, c := range []struct {
		first, second *client
		meanwhile     any
	}{{tam, rufus, "lifts-like-carpet"}, {tam, rufus, nil}, {rufus, rufus, "resists"}} {
		c.first.must(200, "POST", p.path("/answers"), answers(tap("pull-test", c.meanwhile)), nil)
		late := tap("pull-test", "lifts-like-carpet")
		late["base"] = sc.Seq
		c.second.must(200, "POST", p.path("/answers"), answers(late), &sc)
		require.Nil(t, sc.Answers[0].Other, "%v", c.meanwhile)
	}
}

func TestPesticidesNeedALicenceThatIsValidThatDay(t *testing.T) {
	w := newWorld(t)
	tech, rufus, owner := w.as("technician"), w.as("applicator"), w.as("owner")
	p := tech.place("Quill")
	path := "/visits/" + p.visit + "/records"
	record := func(change map[string]any) map[string]any {
		r := map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": "insecticide-curative", "area_m2": 120,
			"product": "Turfward G (demo)", "amount": 1.2, "amount_unit": "kg", "source": "", "wind_ms": 2.0, "reentry": "when dry", "note": "",
			"signed_name": "Rufus Adeyo", "voided": false}
		for k, v := range change {
			r[k] = v
		}
		return r
	}
	var pr problem
	tech.must(403, "POST", path, record(nil), &pr)
	rufus.must(422, "POST", path, record(map[string]any{"wind_ms": 7.0}), &pr)
	require.Contains(t, pr.at("body.outside_reason"), "wind", "what has happened is recorded, and its reason is asked for")
	var windy server.Recorded
	rufus.must(200, "POST", path, record(map[string]any{"wind_ms": 7.0, "outside_reason": "a gust came up at the end"}), &windy)
	require.Equal(t, []string{"wind"}, windy.Record.Outside)
	require.Equal(t, "a gust came up at the end", windy.Record.OutsideReason)
	var fed server.Recorded
	much := map[string]any{"action": "apply-nitrogen", "n_g_m2": 7.0, "source": "quick"}
	rufus.must(422, "POST", path, record(much), &pr)
	require.Contains(t, pr.at("body.outside_reason"), "nitrogen")
	much["outside_reason"] = "the spreader was set wrong"
	rufus.must(200, "POST", path, record(much), &fed)
	require.Equal(t, []string{"nitrogen"}, fed.Record.Outside)
	calm := record(map[string]any{"wind_ms": 1.3})
	var quiet server.Recorded
	rufus.must(200, "POST", path, calm, &quiet)
	require.Empty(t, quiet.Record.Outside, "3 mph is within")
	rufus.must(422, "POST", path, record(map[string]any{"product": "", "reentry": ""}), &pr)
	require.NotEmpty(t, pr.at("body.product"))
	require.NotEmpty(t, pr.at("body.reentry"))
	rufus.must(422, "POST", path, record(map[string]any{"area_m2": 900}), &pr)
	require.Contains(t, pr.at("body.area_m2"), "zone of 310")
	rufus.must(422, "POST", path, record(map[string]any{"applied_on": "2026-08-25"}), &pr)
	require.Contains(t, pr.at("body.applied_on"), "future")
	var done server.Recorded
	rufus.must(200, "POST", path, record(nil), &done)
	require.Equal(t, "AV-2210", done.Record.LicenceNumber)

	// a correction is a new record that names the old one
	rufus.must(200, "POST", path, record(map[string]any{"corrects_id": done.Record.ID, "amount": 1.1}), nil)
	var all []server.Record
	rufus.must(200, "GET", "/zones/"+p.zone+"/records", nil, &all)
	require.GreaterOrEqual(t, len(all), 2)

	var people []server.Person
	owner.must(200, "GET", "/people", nil, &people)
	for _, x := range people {
		if x.Role == "applicator" {
			expired := "2026-08-01"
			x.LicenceUntil = &expired
			owner.must(200, "PUT", "/people/"+x.ID.String(), x, nil)
		}
	}
	rufus.must(403, "POST", path, record(nil), &pr)
	require.Contains(t, pr.at("body.applied_on"), "no licence")
}

func TestRecoveryGoesOnWithTheClock(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Harrow")
	look := func(cover float64, baseline bool) server.Recovery {
		var r server.Recovery
		tech.must(200, "POST", "/visits/"+p.visit+"/measures", map[string]any{"id": id(), "zone_id": p.zone, "baseline": baseline, "cover": cover,
			"live_crowns": .9, "spread": "none", "note": ""}, &r)
		return r
	}
	require.Equal(t, "not-yet", look(.5, true).Verdict)
	var moved struct{ Today string }
	tech.must(200, "POST", "/demo/clock", map[string]any{"days": 21}, &moved)
	require.Equal(t, "2026-09-14", moved.Today)
	var r server.Recovery
	tech.must(200, "GET", "/zones/"+p.zone+"/recovery", nil, &r)
	expected := r.Expected[21]
	require.Greater(t, expected.Mid, .5)
	require.Equal(t, "off-course", look(.3, false).Verdict)
	require.Contains(t, []string{"on-course", "recovered"}, look(expected.Mid+.01, false).Verdict)
	var day server.Day
	tech.must(200, "GET", "/day", nil, &day)
	require.Equal(t, "2026-09-14", day.Today)
	require.NotEmpty(t, day.Sky)
}

func TestSessionsAndHeaders(t *testing.T) {
	w := newWorld(t)
	anon := w.anonymous()
	anon.must(401, "GET", "/me", nil, nil)
	tech := w.as("technician")
	tech.csrf = ""
	tech.must(403, "POST", "/demo/clock", map[string]any{"days": 1}, nil)

	good := w.anonymous()
	var pr problem
	good.must(401, "POST", "/sign-in", map[string]any{"email": "tam@averley.example", "password": "not this one"}, &pr)
	require.NotEmpty(t, pr.at("body.password"))
	good.must(200, "POST", "/sign-in", map[string]any{"email": "TAM@averley.example", "password": demo.Password}, nil)
	var me server.Me
	good.must(200, "GET", "/me", nil, &me)
	require.Equal(t, "Tam Whitlock", me.Name)
	good.csrf = me.CSRF
	good.must(200, "GET", "/day", nil, nil)
	status, _, _ := good.do("POST", "/sign-out", nil)
	require.Less(t, status, 300)
	good.must(401, "GET", "/me", nil, nil)

	res, err := http.Get(w.url + "/visits/anything")
	require.NoError(t, err)
	html, _ := io.ReadAll(res.Body)
	_ = res.Body.Close()
	csp := res.Header.Get("Content-Security-Policy")
	require.Contains(t, csp, "default-src 'none'")
	require.NotContains(t, csp, "'unsafe-eval'", "no script from text; the core alone is compiled")
	nonce := strings.Split(strings.Split(csp, "'nonce-")[1], "'")[0]
	require.Contains(t, string(html), nonce, "the page carries the nonce of its own request")
	require.Equal(t, "DENY", res.Header.Get("X-Frame-Options"))
	for path, want := range map[string]int{"/healthz": 200, "/readyz": 200, "/assets/none.js": 404, "/api/v1/none": 404} {
		res, err := http.Get(w.url + path)
		require.NoError(t, err)
		_ = res.Body.Close()
		require.Equal(t, want, res.StatusCode, path)
	}
	big := bytes.Repeat([]byte("x"), 9<<20)
	status, _, _ = tech.do("POST", "/diagnose", big)
	require.Contains(t, []int{403, 413}, status)
}

func TestVersionsKeepPeopleFromOverwritingEachOther(t *testing.T) {
	w := newWorld(t)
	office, owner := w.as("office"), w.as("owner")
	var list server.Clients
	office.must(200, "GET", "/clients", nil, &list)
	mine, theirs := list.Clients[0], list.Clients[0]
	mine.Phone, theirs.Phone = "555-0001", "555-0002"
	office.must(200, "PUT", "/clients/"+mine.ID.String(), mine, nil)
	var pr problem
	owner.must(409, "PUT", "/clients/"+theirs.ID.String(), theirs, &pr)
	require.NotEmpty(t, pr.at("body.version"))
	owner.must(200, "GET", "/clients", nil, &list)
	require.Equal(t, "555-0001", list.Clients[0].Phone)
}

func TestCreateAndChange(t *testing.T) {
	w := newWorld(t)
	owner := w.as("owner")
	c := map[string]any{"id": id(), "name": "Ada Pell", "phone": "", "email": "", "notes": "", "version": 0}
	owner.must(200, "POST", "/clients", c, nil)
	site := map[string]any{"id": id(), "client_id": c["id"], "name": "Pell Yard", "address": "", "latitude": 37.7, "longitude": -78.2,
		"timezone": "America/New_York", "lines_located_on": "", "access_notes": "", "version": 0}
	owner.must(200, "POST", "/sites", site, nil)
	zone := map[string]any{"id": id(), "site_id": site["id"], "name": "Yard", "area_m2": 80, "area_error": .1,
		"species": []string{"zoysiagrass"}, "texture": "loam", "target_cover": .9, "policy": map[string]any{}, "version": 0}
	owner.must(200, "POST", "/zones", zone, nil)
	var pr problem
	bad := map[string]any{}
	for k, v := range zone {
		bad[k] = v
	}
	bad["id"], bad["species"] = id(), []string{"plastic"}
	owner.must(422, "POST", "/zones", bad, &pr)
	require.NotEmpty(t, pr.at("body.species[0]"))
	bad["species"], bad["area_m2"] = []string{"zoysiagrass"}, 0
	owner.must(422, "POST", "/zones", bad, &pr)
	require.NotEmpty(t, pr.at("body.area_m2"))
	bad["area_m2"], bad["form"] = 80, "dwarf"
	owner.must(422, "POST", "/zones", bad, &pr)
	require.NotEmpty(t, pr.at("body.form"), "that is no zoysia")
	var made server.Zone
	bad["form"], bad["cultivar"], bad["sown_year"], bad["policy"] = "matrella", "Hollin Fine", 2019, map[string]any{"service": "weeds"}
	owner.must(200, "POST", "/zones", bad, &made)
	require.Equal(t, []any{"matrella", "Hollin Fine", 2019, "weeds"}, []any{made.Form, made.Cultivar, *made.SownYear, made.Policy.Service})
	bad["id"], bad["version"], bad["sown_year"], bad["form"] = made.ID, 1, nil, ""
	var changed server.Zone
	owner.must(200, "PUT", "/zones/"+made.ID.String(), bad, &changed)
	require.Nil(t, changed.SownYear)
	require.Empty(t, changed.Form)
	require.Equal(t, "Hollin Fine", changed.Cultivar)
	site["id"], site["timezone"] = id(), "Mars/Base"
	owner.must(422, "POST", "/sites", site, &pr)
	require.NotEmpty(t, pr.at("body.timezone"))
	visit := map[string]any{"id": id(), "site_id": zone["site_id"], "kind": "diagnosis", "due_on": "2026-08-24", "reason": "first look",
		"version": 0}
	owner.must(200, "POST", "/visits", visit, nil)
	var sc server.Scales
	owner.must(200, "POST", fmt.Sprintf("/visits/%s/zones/%s/answers", visit["id"], zone["id"]), answers(tap("pull-test", "resists")), &sc)
	require.NotEmpty(t, sc.Diagnosis.Weather, "the nearest station serves the new site")
	person := map[string]any{"id": id(), "name": "New Hand", "email": "new@averley.example", "role": "technician",
		"licence_number": "", "licence_until": "", "unit_system": "us", "date_form": "mdy", "active": true, "version": 0}
	for _, email := range []string{"T <t@x.example>", "a@b", "t@x.example ", "no address"} {
		person["email"] = email
		owner.must(422, "POST", "/people", person, &pr)
		require.NotEmpty(t, pr.at("body.email"), email)
	}
	person["email"] = "new@averley.example"
	owner.must(200, "POST", "/people", person, nil)
	hand := w.anonymous()
	hand.must(401, "POST", "/sign-in", map[string]any{"email": "new@averley.example", "password": "any password"}, nil)
	hand.must(204, "POST", "/password-link/use", map[string]any{"token": w.letter(owner, person["id"]), "password": "gorse quarry lantern"}, nil)
	person["id"] = id()
	owner.must(409, "POST", "/people", person, &pr)
	require.NotEmpty(t, pr.at("body.email"))
	hand.must(200, "POST", "/sign-in", map[string]any{"email": "new@averley.example", "password": "gorse quarry lantern"}, nil)
	var me server.Me
	hand.must(200, "GET", "/me", nil, &me)
	require.Equal(t, "us", me.UnitSystem, "a person's own units go before the firm's")
}

// What somebody licensed has signed is undone by nobody without the licence, and nobody signs with another's name.
func TestASignedRecordIsUndoneOnlyByWhoMaySignIt(t *testing.T) {
	w := newWorld(t)
	tech, rufus := w.as("technician"), w.as("applicator")
	p := tech.place("Quill")
	path := "/visits/" + p.visit + "/records"
	record := func(change map[string]any) map[string]any {
		r := map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": "insecticide-curative", "area_m2": 120,
			"product": "Turfward G (demo)", "amount": 1.2, "amount_unit": "kg", "source": "", "wind_ms": 2.0, "reentry": "when dry", "note": "",
			"signed_name": "Rufus Adeyo", "voided": false}
		for k, v := range change {
			r[k] = v
		}
		return r
	}
	var sprayed server.Recorded
	rufus.must(200, "POST", path, record(nil), &sprayed)
	undo := map[string]any{"corrects_id": sprayed.Record.ID, "voided": true, "signed_name": "Tam Whitlock"}
	tech.must(403, "POST", path, record(undo), nil)
	tech.must(403, "POST", path, record(map[string]any{"corrects_id": sprayed.Record.ID, "action": "water-deep", "signed_name": "Tam Whitlock"}), nil)
	var pr problem
	rufus.must(422, "POST", path, record(map[string]any{"signed_name": "Dora Venn"}), &pr)
	require.Contains(t, pr.at("body.signed_name"), "Rufus Adeyo")
	var mine server.Recorded
	rufus.must(200, "POST", path, record(map[string]any{"signed_name": " rufus adeyo "}), &mine)
	require.Equal(t, "Rufus Adeyo", mine.Record.SignedName)
	rufus.must(200, "POST", path, record(map[string]any{"corrects_id": sprayed.Record.ID, "voided": true}), nil)
}

// Inputs that used to end in a panic or in a body that cannot be written are refused with their field.
func TestOddInputsAreRefused(t *testing.T) {
	w := newWorld(t)
	tech, owner := w.as("technician"), w.as("owner")
	p := tech.place("Quill")
	owner.must(422, "PUT", "/sites/"+p.site+"/watering-days", map[string]any{"days": []any{[]any{}}}, nil)
	owner.must(422, "PUT", "/sites/"+p.site+"/watering-days", map[string]any{"days": []string{"mon", "mon"}}, nil)
	owner.must(204, "PUT", "/sites/"+p.site+"/watering-days", map[string]any{"days": []string{"mon", "thu"}}, nil)
	tech.must(422, "POST", "/bench/nutrient", map[string]any{"entries": map[string]any{"target": map[string]any{"amount": 2.4},
		"n": map[string]any{"amount": 5e-324}, "area": map[string]any{"amount": 100}}}, nil)
	tech.must(422, "POST", "/diagnose", []byte(strings.Repeat("[", 20_000)), nil)
}
