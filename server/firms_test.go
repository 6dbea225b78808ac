package server_test

import (
	"context"
	"encoding/json"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/demo"
	"hodos/server"
	"hodos/store"
)

// rival makes a second firm with one person of the given role, signed in, and that person's own site.
func (w *world) rival(role string) (*client, uuid.UUID) {
	w.t.Helper()
	firm, person := uuid.Must(uuid.NewV7()), uuid.Must(uuid.NewV7())
	hash := account.Hash("rival password")
	mail := role + firm.String()[24:] + "@rival.example"
	require.NoError(w.t, w.store.InFirm(context.Background(), firm, func(tx *gorm.DB) error {
		if err := tx.Create(&store.Firm{ID: firm, Name: "Rival", Country: "NZ", Currency: "NZD", DateForm: "dmy", UnitSystem: "metric",
			Version: 1}).Error; err != nil {
			return err
		}
		return tx.Create(&store.Person{ID: person, FirmID: firm, Name: "Rival", Email: mail, Role: role, PasswordHash: hash, Active: true,
			Version: 1}).Error
	}))
	c := w.anonymous()
	var out struct{ CSRF string }
	c.must(200, "POST", "/sign-in", map[string]any{"email": mail, "password": "rival password"}, &out)
	c.csrf = out.CSRF
	return c, firm
}

// route is one operation of the API with a request that names the first firm's rows.
type route struct {
	method, path string
	body         any
}

// routes lists every operation that takes or gives business rows; TestEveryRouteIsHere holds it against the API.
func routes(p place, person string) map[string]route {
	record := map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": "water-deep", "area_m2": 10, "product": "",
		"amount_unit": "", "source": "", "reentry": "", "note": "", "signed_name": "X", "voided": false}
	siteBody := map[string]any{"id": id(), "client_id": p.client, "name": "S", "address": "", "latitude": 1, "longitude": 1,
		"timezone": "UTC", "lines_located_on": "", "access_notes": "", "version": 1}
	zoneBody := map[string]any{"id": id(), "site_id": p.site, "name": "Z", "area_m2": 1, "area_error": .1, "species": []string{"unknown"},
		"texture": "", "target_cover": .9, "policy": map[string]any{}, "version": 1}
	clientBody := map[string]any{"id": id(), "name": "C", "phone": "", "email": "", "notes": "", "version": 1}
	personBody := map[string]any{"id": id(), "name": "P", "email": "p@rival.example", "role": "owner", "licence_number": "",
		"licence_until": "", "unit_system": "", "date_form": "", "active": true, "version": 1}
	visitBody := map[string]any{"id": id(), "site_id": p.site, "zone_id": p.zone, "kind": "diagnosis", "due_on": "2026-08-24", "reason": "",
		"version": 1}
	product, machine, rule := demo.Shelved(0), demo.Shelved(60), demo.Shelved(50)
	span := "?from=2026-01-01&to=2026-12-31"
	job := map[string]any{"action": "apply-nitrogen"}
	ours := map[string]any{"name": "Ours", "kind": "fertilizer", "form": "granule", "analysis": map[string]any{"n": 20}, "uses": []any{map[string]any{"id": "a", "actions": []string{"apply-nitrogen"}, "rate_low": 5, "rate_high": 20}}}
	pipe := map[string]any{"kind": "buried", "version": 0, "points": []server.OnSite{{East: 1, North: 2}}}
	geojson := []byte(`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"kind":"buried"},"geometry":{"type":"Point","coordinates":[` + p.at + `]}}]}`)
	return map[string]route{
		"take-photo": {"PUT", p.path("/photos/" + id()), photograph(10)}, "list-photos": {"GET", p.path("/photos"), nil},
		"list-zone-photos": {"GET", "/zones/" + p.zone + "/photos", nil}, "drop-photo": {"DELETE", "/photos/" + p.visit, nil},
		"get-picture": {"GET", "/photos/" + p.visit + "/picture", nil}, "get-thumbnail": {"GET", "/photos/" + p.visit + "/thumbnail", nil},
		"take-note": {"PUT", "/zones/" + p.zone + "/notes/" + id(), map[string]any{"kind": "pale"}}, "list-notes": {"GET", "/zones/" + p.zone + "/notes", nil},
		"get-sound": {"GET", "/notes/" + p.visit + "/sound", nil}, "drop-note": {"DELETE", "/notes/" + p.visit, nil},
		"get-map": {"GET", "/sites/" + p.site + "/map", nil}, "keep-map-entry": {"PUT", "/sites/" + p.site + "/map/" + id(), pipe},
		"drop-map-entry": {"DELETE", "/sites/" + p.site + "/map/" + p.visit, nil}, "export-map": {"GET", "/sites/" + p.site + "/map/geojson", nil},
		"import-map": {"POST", "/sites/" + p.site + "/map/geojson", geojson}, "get-grid": {"GET", "/zones/" + p.zone + "/grid", nil},
		"read-pattern": {"POST", "/zones/" + p.zone + "/pattern", plainCells(3)},
		"propose-job":  {"POST", p.path("/proposal"), job}, "get-zone-jobs": {"GET", p.path("/jobs"), nil}, "get-budget": {"GET", p.path("/budget"), nil},
		"book-jobs":     {"POST", p.path("/jobs"), map[string]any{"jobs": []any{map[string]any{"id": id(), "action": "apply-nitrogen", "step": 1}}}},
		"get-mix-sheet": {"GET", p.path("/mix-sheet?action=fungicide-curative"), nil}, "get-sign": {"GET", p.path("/sign?action=fungicide-curative"), nil},
		"list-jobs": {"GET", "/jobs", nil}, "try-move": {"GET", "/jobs/" + p.job + "/move?day=2026-09-20", nil}, "replan": {"POST", "/jobs/replan", map[string]any{}},
		"change-job": {"PUT", "/jobs/" + p.job, map[string]any{"state": "dropped", "version": 1}}, "year-plan-csv": {"GET", "/jobs/csv", nil},
		"year-plan-pdf": {"GET", "/jobs/pdf", nil}, "jobs-calendar": {"GET", "/jobs/ics", nil}, "list-feeds": {"GET", "/feeds", nil},
		"make-feed": {"POST", "/feeds", map[string]any{"id": id()}}, "withdraw-feed": {"DELETE", "/feeds/" + p.visit, nil},
		"get-lessons": {"GET", "/figures/lessons", nil}, "use-lessons": {"PUT", "/figures/lessons", map[string]any{"used": true, "without": []string{}, "version": 0}},
		"get-figures": {"GET", "/figures" + span, nil}, "list-cases": {"GET", "/figures/cases" + span, nil}, "cases-csv": {"GET", "/figures/csv" + span, nil},
		"close-case":          {"POST", "/visits/" + p.visit + "/closings", map[string]any{"id": id(), "zone_id": p.zone, "cause": "white-grubs", "ended": "mended"}},
		"list-nearby":         {"GET", "/sites/" + p.site + "/nearby", nil},
		"preview-client-page": {"GET", "/sites/" + p.site + "/client-page", nil}, "client-sheet": {"GET", "/sites/" + p.site + "/client-page/pdf", nil},
		"list-client-links": {"GET", "/sites/" + p.site + "/links", nil}, "make-client-link": {"POST", "/sites/" + p.site + "/links", map[string]any{"id": id(), "days": 30}},
		"withdraw-client-link": {"DELETE", "/links/" + p.visit, nil},
		"list-book":            {"GET", "/book" + span, nil}, "book-csv": {"GET", "/book/csv" + span, nil}, "book-pdf": {"GET", "/book/pdf" + span, nil},
		"list-products": {"GET", "/products", nil}, "glance": {"GET", "/shelf/today", nil}, "list-rules": {"GET", "/rules", nil}, "list-machines": {"GET", "/machines", nil},
		"create-product": {"POST", "/products", map[string]any{"id": id(), "label_id": id(), "active": true, "version": 0, "label": ours}},
		"change-product": {"PUT", "/products/" + product.String(), map[string]any{"id": product, "label_id": id(), "active": true, "version": 1, "label": ours}},
		"review":         {"GET", "/review", nil}, "list-site-events": {"GET", "/sites/" + p.site + "/events", nil}, "keep-site-event": {"PUT", "/sites/" + p.site + "/events/" + id(), map[string]any{"day": "2026-09-20", "name": "Fair"}},
		"water-in": {"POST", "/records/" + p.visit + "/watered-in", map[string]any{"at": "12:00"}}, "shelf-csv": {"GET", "/products/csv", nil}, "take-shelf": {"POST", "/products/csv", []byte("hodos-shelf,1\nproduct,kind,form,actions,rate_high,analysis\nTaken,fertilizer,granule,apply-nitrogen,20,n=20\n")},
		"keep-lot":     {"PUT", "/products/" + product.String() + "/lots/" + id(), map[string]any{"lot": "X", "amount": 10, "received_on": "2026-08-01", "version": 0}},
		"keep-rule":    {"PUT", "/rules/" + rule.String(), map[string]any{"id": rule, "active": true, "version": 1, "rule": map[string]any{"name": "R", "place": "", "what": "frozen"}}},
		"keep-machine": {"PUT", "/machines/" + machine.String(), map[string]any{"id": machine, "name": "M", "kind": "other", "broken": false, "version": 1}},
		"log-machine":  {"POST", "/machines/" + machine.String() + "/log", map[string]any{"id": id(), "day": "2026-08-20", "kind": "oil"}},
		"list-clients": {"GET", "/clients", nil}, "create-client": {"POST", "/clients", clientBody}, "change-client": {"PUT", "/clients/" + p.client, clientBody},
		"list-sites": {"GET", "/sites", nil}, "create-site": {"POST", "/sites", siteBody}, "change-site": {"PUT", "/sites/" + p.site, siteBody},
		"get-client": {"GET", "/clients/" + p.client, nil}, "get-site": {"GET", "/sites/" + p.site, nil},
		"get-site-of-zone": {"GET", "/zones/" + p.zone + "/site", nil},
		"get-site-history": {"GET", "/sites/" + p.site + "/history", nil},
		"create-zone":      {"POST", "/zones", zoneBody}, "change-zone": {"PUT", "/zones/" + p.zone, zoneBody},
		"list-people": {"GET", "/people", nil}, "create-person": {"POST", "/people", personBody}, "change-person": {"PUT", "/people/" + person, personBody},
		"read-morning":       {"GET", "/me/morning", nil},
		"change-my-settings": {"PUT", "/me/settings", map[string]any{"unit_system": "us", "date_form": "mdy"}},
		"get-firm":           {"GET", "/firm", nil}, "change-firm": {"PUT", "/firm", map[string]any{"name": "Taken", "country": "NZ", "currency": "NZD", "date_form": "dmy", "unit_system": "metric", "owners_second_factor": false, "timezone": "America/New_York", "version": 1}},
		"book-visit": {"POST", "/visits", visitBody}, "change-visit": {"PUT", "/visits/" + p.visit, visitBody}, "get-visit": {"GET", "/visits/" + p.visit, nil},
		"arrive": {"POST", "/visits/" + p.visit + "/arrive", map[string]any{}}, "leave": {"POST", "/visits/" + p.visit + "/leave", map[string]any{}},
		"get-scales": {"GET", p.path("/scales"), nil}, "list-offers": {"GET", p.path("/offers"), nil}, "like-lawns": {"GET", p.path("/alike"), nil}, "answer-checks": {"POST", p.path("/answers"), answers(tap("pull-test", "resists"))},
		"give-diagnosis": {"POST", p.path("/diagnoses"), map[string]any{"id": id()}}, "export-case": {"GET", p.path("/case"), nil},
		"record-treatment": {"POST", "/visits/" + p.visit + "/records", record}, "list-records": {"GET", "/zones/" + p.zone + "/records", nil},
		"get-recovery": {"GET", "/zones/" + p.zone + "/recovery", nil}, "record-measure": {"POST", "/visits/" + p.visit + "/measures", map[string]any{"id": id(), "zone_id": p.zone, "baseline": true, "cover": .5, "spread": "", "note": ""}},
		"list-trials": {"GET", "/zones/" + p.zone + "/trials", nil}, "get-trial": {"GET", "/trials/" + p.trial, nil},
		"make-trial":    {"POST", "/trials", map[string]any{"id": id(), "zone_id": p.zone, "name": "Mine", "began_on": "2026-08-01", "version": 0, "plots": []any{map[string]any{"id": id(), "name": "A"}, map[string]any{"id": id(), "name": "B", "treatment": "x"}}}},
		"read-plots":    {"POST", "/trials/" + p.trial + "/readings", map[string]any{"kind": "affected", "on": "2026-08-20", "readings": []any{map[string]any{"id": id(), "plot_id": p.plot, "value": 3}}}},
		"void-plot":     {"PUT", "/trials/" + p.trial + "/plots/" + p.plot + "/void", map[string]any{"void": "mine"}},
		"close-trial":   {"POST", "/trials/" + p.trial + "/close", nil},
		"list-messages": {"GET", "/messages", nil}, "send-messages": {"POST", "/messages", map[string]any{"id": id(), "kind": "hot", "subject": "Heat", "text": "It gets hot.", "clients": []any{p.client}}},
		"preview-erasure": {"GET", "/clients/" + p.client + "/erasure", nil}, "erase-client": {"POST", "/clients/" + p.client + "/erasure", map[string]any{"id": id(), "name": "somebody else"}},
		"list-calls": {"GET", "/calls", nil}, "get-call": {"GET", "/calls/" + p.call, nil}, "get-call-picture": {"GET", "/calls/" + p.call + "/pictures/1", nil},
		"give-call-visit": {"PUT", "/calls/" + p.call + "/visit", map[string]any{"visit_id": p.visit}}, "put-call-aside": {"POST", "/calls/" + p.call + "/aside", nil},
		"list-opinions": {"GET", "/zones/" + p.zone + "/opinions", nil},
		"tell-apart":    {"GET", p.path("/apart?a=white-grubs&b=drought-stress"), nil},
		"get-prices":    {"GET", "/prices", nil}, "change-prices": {"PUT", "/prices", map[string]any{"prices": figures(12), "version": 0}}, "preview-prices": {"POST", "/prices/preview", figures(20)},
		"list-samples": {"GET", "/samples", nil}, "take-sample": {"POST", "/visits/" + p.visit + "/samples", map[string]any{"id": id(), "zone_id": p.zone, "kind": "soil", "cores": 12, "depth_mm": 90, "note": ""}},
		"get-sample-form": {"GET", "/samples/" + p.sample + "/form", nil}, "take-result": {"POST", "/samples/" + p.sample + "/result", map[string]any{"text": "sample,finding,value,unit,laboratory\nS-0001,soil-ph,7,pH,L\n"}},
		"get-sky": {"GET", p.path("/sky"), nil}, "get-watering": {"GET", p.path("/watering"), nil}, "export-weather": {"GET", "/sites/" + p.site + "/weather", nil},
		"get-zone-sky": {"GET", "/zones/" + p.zone + "/sky", nil}, "get-zone-watering": {"GET", "/zones/" + p.zone + "/watering", nil},
		"export-readings": {"GET", "/sites/" + p.site + "/readings", nil}, "import-readings": {"POST", "/sites/" + p.site + "/readings", []byte("hodos-readings,1,UTC\ntime,zone,finding,value,unit\n2026-08-20," + p.zone + ",soil-ph,7,pH\n")},
		"import-weather": {"POST", "/sites/" + p.site + "/weather", []byte("hodos-weather,1,daily,UTC\ndate,rain_mm\n2026-08-20,3\n")}, "set-watering-days": {"PUT", "/sites/" + p.site + "/watering-days", map[string]any{"days": []string{"tue"}}}, "note-notices": {"POST", "/watch/noted", map[string]any{"kind": "window", "subject": "dollar-spot"}}, "list-notices": {"GET", "/watch/notices?kind=window&subject=dollar-spot", nil}, "ask-watch": {"POST", "/watch", map[string]any{}}, "log-watering": {"PUT", "/zones/" + p.zone + "/waterings", map[string]any{"day": "2026-08-20", "mm": 12}},
		"record-audit":       {"POST", "/visits/" + p.visit + "/audits", map[string]any{"id": id(), "zone_id": p.zone, "minutes": 15, "cans": []map[string]any{{"x": 0, "y": 0, "mm": 4}, {"x": 1, "y": 0, "mm": 5}, {"x": 2, "y": 0, "mm": 6}, {"x": 3, "y": 0, "mm": 6}}}},
		"send-password-link": {"POST", "/people/" + person + "/password-link", nil}, "end-second-factor-of": {"POST", "/people/" + person + "/second-factor/end", map[string]any{"current": "rival password"}},
		"end-session": {"DELETE", "/me/sessions/" + p.visit, nil}, "list-sessions": {"GET", "/me/sessions", nil}, "list-events": {"GET", "/events", nil},
		"end-other-sessions": {"POST", "/me/sessions/end-others", nil}, "change-my-password": {"PUT", "/me/password", map[string]any{"current": "not it", "password": "rival password"}},
		"begin-second-factor": {"POST", "/me/second-factor", nil}, "confirm-second-factor": {"POST", "/me/second-factor/confirm", map[string]any{"code": "000000"}},
		"end-second-factor": {"POST", "/me/second-factor/end", map[string]any{"current": "not it"}},
		"get-day":           {"GET", "/day", nil}, "likely-causes": {"GET", "/causes?site=" + p.site, nil},
	}
}

// figures are prices with a square metre of lawn at the given worth.
func figures(lawn float64) map[string]any {
	return map[string]any{"lawn_m2": lawn, "hour": 50, "fungicide": 9, "insecticide": 7, "herbicide": 5, "feed": 4, "amendment": 8,
		"seed": 12, "water_m3": 3, "lab": 40}
}

// harmless are the operations without business rows of a firm.
var harmless = map[string]bool{"sign-in": true, "sign-in-demo": true, "welcome": true, "sign-out": true, "me": true,
	"advance-clock": true, "get-vocabulary": true, "get-cause": true, "compare-causes": true, "diagnose-case": true, "list-bench": true, "work-out": true, "feed-calendar": true,
	"list-protocols": true, "weigh-count": true, "draw-plot": true,
	"ask-client": true, "take-call": true, "take-call-picture": true, // a wrong link takes nothing: calls_test.go
	"open-client-page": true, "open-client-sheet": true, "open-client-picture": true, // a wrong link shows nothing: client_test.go
	"read-password-link": true, "use-password-link": true, "list-letters": true}

// own are the routes by which a firm may create or read rows of its own; they must show and touch nothing of another.
var own = map[string]bool{"list-clients": true, "list-calls": true, "list-messages": true, "create-client": true, "list-sites": true, "list-people": true, "get-firm": true,
	"change-firm": true, "get-day": true, "read-morning": true, "change-my-settings": true, "get-prices": true, "ask-watch": true, "note-notices": true,
	"list-notices": true, "change-prices": true, "preview-prices": true, "list-samples": true,
	"list-jobs": true, "replan": true, "year-plan-csv": true, "year-plan-pdf": true, "jobs-calendar": true, "list-feeds": true, "make-feed": true,
	"get-lessons": true, "use-lessons": true, "get-figures": true, "list-cases": true, "cases-csv": true, "list-book": true, "book-csv": true, "book-pdf": true, "list-products": true, "glance": true, "list-rules": true, "list-machines": true, "create-product": true, "shelf-csv": true, "take-shelf": true, "review": true,
	"create-person": true, "list-sessions": true, "list-events": true, "end-other-sessions": true, "begin-second-factor": true}

func TestEveryRouteIsHere(t *testing.T) {
	w := newWorld(t)
	b, err := w.srv.OpenAPI()
	require.NoError(t, err)
	var api struct {
		Paths map[string]map[string]struct {
			OperationID string `json:"operationId"`
		}
	}
	require.NoError(t, json.Unmarshal(b, &api))
	known := routes(place{}, "")
	n := 0
	for path, ops := range api.Paths {
		for method, op := range ops {
			n++
			_, ok := known[op.OperationID]
			require.True(t, ok || harmless[op.OperationID], "%s %s (%s) is tried neither by the second firm nor by the roles", method, path,
				op.OperationID)
		}
	}
	require.Equal(t, len(known)+len(harmless), n)
}

func counts(t *testing.T, w *world) map[string]int64 {
	out := map[string]int64{}
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		for _, table := range []string{"people", "clients", "sites", "zones", "visits", "answers", "diagnoses", "treatment_records", "measures",
			"firm_prices", "samples", "site_days", "zone_waterings", "audits", "readings", "watch_runs", "watch_zones", "watch_notices", "zone_courses",
			"products", "product_labels", "product_lots", "local_rules", "machines", "machine_log", "jobs", "calendar_feeds", "client_links", "closings", "waterings_in", "site_events"} {
			var n int64
			if err := tx.Table(table).Count(&n).Error; err != nil {
				return err
			}
			out[table] = n
		}
		return nil
	}))
	return out
}

func TestASecondFirmReachesNothing(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.sampled(tech.place("Quill"))
	before := counts(t, w)
	other, _ := w.rival("owner")
	for name, r := range routes(p, demo.People["technician"].String()) {
		status, b, _ := other.do(r.method, r.path, r.body)
		if own[name] {
			require.Less(t, status, 300, "%s: %s", name, b)
		} else {
			require.Contains(t, []int{403, 404, 409, 422}, status, "%s answered %d: %.200s", name, status, b)
		}
		for _, secret := range []string{"Quill", "Averley", "Whitlock", p.site, p.zone} {
			require.NotContains(t, string(b), secret, "%s shows the first firm's rows", name)
		}
	}
	require.Equal(t, before, counts(t, w))
	var me server.Me
	tech.must(200, "GET", "/me", nil, &me)
	require.Equal(t, "Averley Turf Care", me.Firm)
	var detail server.VisitDetail
	tech.must(200, "GET", "/visits/"+p.visit, nil, &detail)
	require.Nil(t, detail.Visit.ArrivedAt)
	var told []server.DayNotice
	tech.must(200, "GET", "/watch/notices?kind=window&subject=dollar-spot", nil, &told)
	require.NotEmpty(t, told)
	for _, n := range told {
		require.Empty(t, n.NotedBy, "another firm has noted it")
	}
	require.Equal(t, 1, detail.Visit.Version)

	// a key that the first firm has used cannot be used to read or overwrite its row
	status, b, _ := other.do("POST", "/clients", map[string]any{"id": p.client, "name": "Mine now", "phone": "", "email": "", "notes": "",
		"version": 0})
	require.GreaterOrEqual(t, status, 400, "%.200s", b)
	require.NotContains(t, string(b), "Brandt")
}

// needs is the right that each operation asks for: the table that the roles are held against.
var needs = map[string]account.Right{
	"get-map": account.See, "keep-map-entry": account.AnswerChecks, "drop-map-entry": account.AnswerChecks, "export-map": account.See,
	"import-map": account.AnswerChecks, "get-grid": account.See, "read-pattern": account.See, "take-photo": account.AnswerChecks,
	"list-photos": account.See, "list-zone-photos": account.See, "get-picture": account.See, "get-thumbnail": account.See,
	"drop-photo": account.AnswerChecks, "take-note": account.AnswerChecks, "list-notes": account.See, "get-sound": account.See,
	"drop-note":   account.AnswerChecks,
	"propose-job": account.See, "get-zone-jobs": account.See, "get-budget": account.See, "book-jobs": account.BookVisits, "get-mix-sheet": account.See,
	"get-sign": account.See, "list-jobs": account.See, "try-move": account.See, "replan": account.BookVisits, "change-job": account.BookVisits,
	"year-plan-csv": account.See, "year-plan-pdf": account.See, "jobs-calendar": account.See, "list-feeds": account.See, "make-feed": account.See,
	"withdraw-feed": account.See, "list-book": account.See, "book-csv": account.See, "book-pdf": account.See, "list-products": account.See, "glance": account.See,
	"list-rules": account.See, "list-machines": account.See, "create-product": account.KeepShelf, "change-product": account.KeepShelf, "keep-lot": account.KeepShelf,
	"review": account.See, "list-site-events": account.See, "keep-site-event": account.BookVisits, "water-in": account.RecordTreatment, "shelf-csv": account.See, "take-shelf": account.KeepShelf, "keep-rule": account.KeepShelf, "keep-machine": account.KeepShelf, "log-machine": account.RecordTreatment,
	"get-zone-sky": account.See, "get-zone-watering": account.See, "export-readings": account.See, "import-readings": account.AnswerChecks,
	"set-watering-days": account.BookVisits, "note-notices": account.BookVisits, "list-notices": account.See, "ask-watch": account.BookVisits,
	"get-sky": account.See, "get-watering": account.See, "export-weather": account.See, "import-weather": account.AnswerChecks,
	"log-watering": account.AnswerChecks, "record-audit": account.AnswerChecks,
	"tell-apart": account.See, "get-prices": account.See, "preview-prices": account.See, "change-prices": account.KeepFirm,
	"list-samples": account.See, "get-sample-form": account.See, "take-sample": account.AnswerChecks, "take-result": account.AnswerChecks,
	"get-lessons": account.KeepSites, "use-lessons": account.KeepFirm, "get-figures": account.KeepSites, "list-cases": account.KeepSites, "cases-csv": account.KeepSites,
	"list-trials": account.See, "get-trial": account.See, "make-trial": account.AnswerChecks, "read-plots": account.AnswerChecks,
	"void-plot": account.AnswerChecks, "close-trial": account.AnswerChecks,
	"list-messages": account.See, "send-messages": account.KeepSites,
	"preview-erasure": account.KeepFirm, "erase-client": account.KeepFirm,
	"list-calls": account.See, "get-call": account.See, "get-call-picture": account.See, "give-call-visit": account.BookVisits,
	"put-call-aside": account.BookVisits, "list-opinions": account.See,
	"close-case": account.AnswerChecks, "list-nearby": account.See,
	"preview-client-page": account.See, "client-sheet": account.See, "list-client-links": account.See, "make-client-link": account.KeepSites,
	"withdraw-client-link": account.KeepSites,
	"list-clients":         account.See, "list-sites": account.See, "list-people": account.See, "get-firm": account.See, "get-visit": account.See,
	"get-scales": account.See, "list-offers": account.See, "like-lawns": account.See, "export-case": account.See, "list-records": account.See, "get-recovery": account.See, "get-day": account.See,
	"get-site-history": account.See, "get-client": account.See, "get-site": account.See, "get-site-of-zone": account.See, "likely-causes": account.See, "read-morning": account.See, "change-my-settings": account.See,
	"create-client": account.KeepSites, "change-client": account.KeepSites, "create-site": account.KeepSites, "change-site": account.KeepSites,
	"create-zone": account.KeepSites, "change-zone": account.KeepSites,
	"create-person": account.KeepPeople, "change-person": account.KeepPeople, "change-firm": account.KeepFirm,
	"book-visit": account.BookVisits, "change-visit": account.BookVisits,
	"arrive": account.AnswerChecks, "leave": account.AnswerChecks, "answer-checks": account.AnswerChecks, "give-diagnosis": account.AnswerChecks,
	"record-measure":     account.AnswerChecks,
	"record-treatment":   account.RecordTreatment,
	"send-password-link": account.KeepPeople, "end-second-factor-of": account.KeepPeople, "list-events": account.SeeLog,
	"end-session": account.See, "list-sessions": account.See, "end-other-sessions": account.See, "change-my-password": account.See,
	"begin-second-factor": account.See, "confirm-second-factor": account.See, "end-second-factor": account.See,
}

// expected is the matrix written out once more, so that a slip in the program's table is seen.
var expected = map[string]string{
	"office":     "see book-visits keep-sites keep-shelf",
	"technician": "see answer-checks record-treatment book-visits",
	"applicator": "see answer-checks record-treatment record-pesticide book-visits keep-sites keep-shelf",
	"owner":      "see answer-checks record-treatment record-pesticide book-visits keep-sites keep-shelf keep-people keep-firm see-log",
}

func TestRolesByActions(t *testing.T) {
	w := newWorld(t)
	p := w.as("technician").sampled(w.as("technician").place("Quill"))
	for _, role := range account.Roles {
		c := w.as(role)
		for _, right := range account.Rights {
			require.Equal(t, strings.Contains(" "+expected[role]+" ", " "+string(right)+" "), account.May(role, right), "%s, %s", role, right)
		}
		for name, r := range routes(p, uuid.Must(uuid.NewV7()).String()) {
			right, listed := needs[name]
			require.True(t, listed, name)
			status, b, _ := c.do(r.method, r.path, r.body)
			if account.May(role, right) {
				require.NotContains(t, []int{401, 403, 500}, status, "%s may %s: %.200s", role, name, b)
			} else {
				require.Equal(t, 403, status, "%s may not %s: %.200s", role, name, b)
			}
		}
	}
	require.False(t, account.May("nobody", account.See))
}
