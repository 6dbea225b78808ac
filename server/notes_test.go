package server_test

import (
	"encoding/base64"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/casework"
	"hodos/server"
)

func TestNotesAreKeptAndNeverWeighed(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	before := tech.scales(p).Diagnosis
	path := "/zones/" + p.zone + "/notes/"
	key := id()
	sound := base64.StdEncoding.EncodeToString([]byte("OggS and so on"))
	note := map[string]any{"kind": "note", "finding": "pull-test", "visit_id": p.visit, "text": " Comes up like a rug by the gate ",
		"at": map[string]any{"e": 2, "n": 3}, "sound": sound}
	var n server.Note
	tech.must(200, "PUT", path+key, note, &n)
	require.Equal(t, "Comes up like a rug by the gate", n.Text)
	require.True(t, n.HasSound)
	require.False(t, n.Open, "only what was seen on a round asks for something")
	tech.must(200, "PUT", path+key, note, nil) // the same again
	status, b := tech.plainly("GET", "/notes/"+key+"/sound", nil)
	require.Equal(t, 200, status)
	require.Equal(t, "OggS and so on", string(b))
	require.Equal(t, before.Causes, tech.scales(p).Diagnosis.Causes, "a note is no evidence")

	var list []server.Note
	tech.must(200, "GET", "/zones/"+p.zone+"/notes", nil, &list)
	require.Len(t, list, 1)
	w.as("owner").must(422, "DELETE", "/notes/"+key, nil, nil)
	tech.must(204, "DELETE", "/notes/"+key, nil, nil)
	tech.must(404, "DELETE", "/notes/"+key, nil, nil)
	status, _ = tech.plainly("GET", "/notes/"+key+"/sound", nil)
	require.Equal(t, 404, status)
}

func TestWhatWasSeenOnARoundAsksForALook(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var n server.Note
	for kind, check := range map[string]string{"soft": "underfoot", "pale": "colour", "dug": "animal-digging"} {
		tech.must(200, "PUT", "/zones/"+p.zone+"/notes/"+id(), map[string]any{"kind": kind, "finding": "pull-test"}, &n)
		require.Equal(t, check, n.Finding)
		require.True(t, n.Open)
	}
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	var list []server.Note
	tech.must(200, "GET", "/zones/"+p.zone+"/notes", nil, &list)
	require.True(t, list[0].Open, "as long as the visit goes on")
	tech.must(200, "POST", "/visits/"+p.visit+"/leave", map[string]any{}, nil)
	tech.must(200, "GET", "/zones/"+p.zone+"/notes", nil, &list)
	for _, n := range list {
		require.False(t, n.Open, "the lawn was visited since")
	}
}

func TestNotesThatAreNotTaken(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p, other := tech.place("Quill"), tech.place("Sallow")
	path := "/zones/" + p.zone + "/notes/"
	for where, body := range map[string]map[string]any{
		"body.text":     {"kind": "note", "text": "  "},
		"body.finding":  {"kind": "note", "text": "x", "finding": "heat-spell"},
		"body.at":       {"kind": "pale", "at": map[string]any{"e": 1e9, "n": 0}},
		"body.sound":    {"kind": "note", "sound": base64.StdEncoding.EncodeToString([]byte("<html>"))},
		"body.sound ":   {"kind": "note", "sound": base64.StdEncoding.EncodeToString(make([]byte, 2<<20+1))},
		"body.sound  ":  {"kind": "note", "sound": "§"},
		"zone_id":       {"kind": "pale", "visit_id": other.visit},
		"body.finding ": {"kind": "note", "text": "x", "finding": "nonsense"},
	} {
		var pr problem
		tech.must(422, "PUT", path+id(), body, &pr)
		if where != "body.sound  " {
			require.NotEmpty(t, pr.at(strings.TrimSpace(where)), "%s: %v", where, pr)
		}
	}
	tech.must(422, "PUT", path+"6ba7b810-9dad-11d1-80b4-00c04fd430c8", map[string]any{"kind": "pale"}, nil)
	tech.must(404, "PUT", "/zones/"+id()+"/notes/"+id(), map[string]any{"kind": "pale"}, nil)
	tech.must(404, "GET", "/zones/"+id()+"/notes", nil, nil)
}

func TestWhatADeviceTellsLaterStandsOnItsDay(t *testing.T) {
	t.Parallel()
	now := time.Now()
	w := newWorldWith(t, nil, func(o *server.Options) { o.Clock = instant(now) })
	tech := w.as("technician")
	p := tech.place("Quill")
	then := func(hours time.Duration) string { return now.Add(hours * time.Hour).Format(time.RFC3339) }
	day := func(hours time.Duration) string {
		return casework.At(now.Add(hours * time.Hour)).In("America/New_York").Format(time.DateOnly)
	}
	note := func(at string) map[string]any { return map[string]any{"kind": "pale", "noted_at": at} }
	measure := func(at string) map[string]any {
		return map[string]any{"id": id(), "zone_id": p.zone, "baseline": true, "cover": .5, "spread": "", "note": "", "measured_at": at}
	}
	var n server.Note
	tech.must(200, "PUT", "/zones/"+p.zone+"/notes/"+id(), note(then(-72)), &n)
	require.Equal(t, day(-72), n.NotedOn)
	var r server.Recovery
	tech.must(200, "POST", "/visits/"+p.visit+"/measures", measure(then(-48)), &r)
	require.Equal(t, day(-48), r.Measures[len(r.Measures)-1].MeasuredOn)
	for why, at := range map[string]string{"future": then(1), "month": then(-24 * 32)} {
		var pr problem
		tech.must(422, "PUT", "/zones/"+p.zone+"/notes/"+id(), note(at), &pr)
		require.Contains(t, pr.at("body.noted_at"), why)
		tech.must(422, "POST", "/visits/"+p.visit+"/measures", measure(at), &pr)
		require.Contains(t, pr.at("body.measured_at"), why)
	}
}
