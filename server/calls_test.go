package server_test

import (
	"encoding/base64"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/exchange/photofile"
	"hodos/server"
)

// linked makes a link of a site's page and gives the way that it leads.
func (c *client) linked(p place) (way, link string) {
	c.w.t.Helper()
	var l server.ClientLink
	c.must(200, "POST", "/sites/"+p.site+"/links", map[string]any{"id": id(), "days": 30}, &l)
	return l.Path, l.ID.String()
}

// picture is a drawn one as a device sends it.
func picture(t *testing.T) map[string]any {
	t.Helper()
	jpeg, err := photofile.JPEG(demo.Draw(demo.Drawing{Cover: .4, Patchy: .6, Seed: 21}).Image)
	require.NoError(t, err)
	return map[string]any{"picture": base64.StdEncoding.EncodeToString(jpeg)}
}

func pick(finding string, choices ...string) map[string]any {
	return map[string]any{"finding": finding, "choices": choices}
}

func call(p place, note string, answers ...map[string]any) map[string]any {
	if answers == nil {
		answers = []map[string]any{}
	}
	return map[string]any{"id": id(), "zone_id": p.zone, "note": note, "answers": answers}
}

func (c *client) openCalls() (out []server.Call) {
	c.w.t.Helper()
	c.must(200, "GET", "/calls", nil, &out)
	return out
}

func TestAClientTellsAndTheFirmSees(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office, tech, anybody := w.as("office"), w.as("technician"), w.anonymous()
	before := len(office.openCalls())
	p := tech.place("Quill")
	way, link := office.linked(p)
	var asked server.Asking
	anybody.must(200, "GET", way+"/questions", nil, &asked)
	require.Len(t, asked.Zones, 2)
	require.Equal(t, "2026-08-24", asked.VisitOn)
	require.NotEmpty(t, asked.Questions)
	require.Empty(t, asked.Told)

	told := call(p, "Skunks in the night", pick("onset-speed", "overnight"), pick("animal-digging", "peeled-back"),
		pick("pattern", "irregular-patches"), pick("affected-area-percent", "33"))
	var took server.TookCall
	anybody.must(200, "POST", way+"/calls", told, &took)
	require.NotEmpty(t, took.Until)
	anybody.must(200, "POST", way+"/calls", told, nil) // the same again
	anybody.must(204, "PUT", way+"/calls/"+took.ID.String()+"/pictures/1", picture(t), nil)
	anybody.must(204, "PUT", way+"/calls/"+took.ID.String()+"/pictures/1", picture(t), nil)
	require.Len(t, office.openCalls(), before+1, "told once, however often it was sent")

	var d server.CallDetail
	office.must(200, "GET", "/calls/"+took.ID.String(), nil, &d)
	require.Equal(t, "14 Quill Lane", d.Call.SiteName)
	require.Equal(t, 1, d.Call.Pictures)
	require.Equal(t, p.visit, d.Call.VisitID.String(), "it is for the visit that is due")
	require.Equal(t, []string{"Turf is rolled or peeled back"}, saidOf(d.Call, "animal-digging"))
	require.NotEmpty(t, d.Likely)
	require.NotEmpty(t, d.Open, "what only a visit can tell")
	for _, x := range d.Likely {
		require.Less(t, x.P, .9, "nobody is sure from afar")
	}
	status, b, _ := office.do("GET", "/calls/"+took.ID.String()+"/pictures/1?small=true", nil)
	require.Equal(t, 200, status)
	require.Equal(t, "\xff\xd8", string(b[:2]), "a JPEG")
	office.must(404, "GET", "/calls/"+took.ID.String()+"/pictures/2", nil, nil)

	// on the visit it is offered, and weighs nothing until it is taken over
	var offers []server.Offer
	tech.must(200, "GET", p.path("/offers"), nil, &offers)
	from := map[string]server.Offer{}
	for _, o := range offers {
		if o.Source == "client" {
			from[o.Finding] = o
		}
	}
	require.Equal(t, "overnight", from["onset-speed"].Value)
	require.Equal(t, "2026-08-24", from["onset-speed"].On)
	require.Empty(t, tech.scales(p).Answers)
	tech.must(200, "POST", p.path("/answers"), answers(tap("onset-speed", "days")), nil)
	offers = nil
	tech.must(200, "GET", p.path("/offers"), nil, &offers)
	for _, o := range offers {
		require.False(t, o.Source == "client" && o.Finding == "onset-speed", "what is answered is not offered")
	}
	var v server.VisitDetail
	tech.must(200, "GET", "/visits/"+p.visit, nil, &v)
	require.Len(t, v.Calls, 1)

	office.must(204, "DELETE", "/links/"+link, nil, nil)
	for _, x := range []struct {
		method, path string
		body         any
	}{{"GET", way + "/questions", nil}, {"POST", way + "/calls", call(p, "again")},
		{"PUT", way + "/calls/" + took.ID.String() + "/pictures/2", picture(t)}} {
		anybody.must(404, x.method, x.path, x.body, nil)
	}
	office.must(200, "GET", "/calls/"+took.ID.String(), nil, &d)
	require.Equal(t, "Skunks in the night", d.Call.Note, "what was told stays")
}

func saidOf(c server.Call, finding string) []string {
	for _, s := range c.Said {
		if s.Finding == finding {
			return s.Said
		}
	}
	return nil
}

// What hurries stands first; a visit that lies too late is said to.
func TestCallsAreRanked(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office, tech, anybody := w.as("office"), w.as("technician"), w.anonymous()
	list := office.openCalls()
	require.GreaterOrEqual(t, len(list), 2)
	require.Equal(t, "27 Stonecrop Rise", list[0].SiteName)
	require.Equal(t, "today", list[0].Within)
	require.Equal(t, "armyworms", list[0].Because[0].Cause)
	require.Positive(t, list[0].PerDay)
	require.Nil(t, list[0].VisitID, "a follow-up looks at something else")
	require.Equal(t, "next-tour", list[len(list)-1].Within)

	// Harrow's visit is on Friday; what was spilled cannot wait so long
	p := tech.place("Harrow")
	way, _ := office.linked(p)
	var took server.TookCall
	anybody.must(200, "POST", way+"/calls", call(p, "", pick("onset-speed", "overnight"), pick("recent-events", "spill")), &took)
	var d server.CallDetail
	office.must(200, "GET", "/calls/"+took.ID.String(), nil, &d)
	require.Equal(t, "today", d.Call.Within)
	require.True(t, d.Call.Late)
	earlier := id()
	office.must(200, "POST", "/visits", map[string]any{"id": earlier, "site_id": p.site, "kind": "diagnosis", "due_on": "2026-08-24",
		"reason": "spill", "version": 0}, nil)
	var changed server.Call
	office.must(200, "PUT", "/calls/"+took.ID.String()+"/visit", map[string]any{"visit_id": earlier}, &changed)
	require.False(t, changed.Late)
	var pr problem
	office.must(422, "PUT", "/calls/"+took.ID.String()+"/visit", map[string]any{"visit_id": tech.place("Quill").visit}, &pr)
	require.NotEmpty(t, pr.at("body.visit_id"))

	before := len(office.openCalls())
	office.must(200, "POST", "/calls/"+list[0].ID.String()+"/aside", nil, &changed)
	require.True(t, changed.Aside)
	require.Len(t, office.openCalls(), before-1)
	tech.must(200, "POST", "/visits/"+earlier+"/arrive", map[string]any{}, nil)
	require.Len(t, office.openCalls(), before-2, "somebody is there")
}

func TestWhatCannotBeTold(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office, tech, anybody := w.as("office"), w.as("technician"), w.anonymous()
	p := tech.place("Quill")
	way, _ := office.linked(p)
	for where, body := range map[string]map[string]any{
		"body.answers":    call(p, "  "),
		"body.zone_id":    call(tech.place("Harrow"), "not mine"),
		"body.answers[0]": call(p, "", pick("grubs-per-m2", "90")),
		"body.answers[1]": call(p, "", pick("onset-speed", "days"), pick("onset-speed", "weeks")),
		"body.id":         with(call(p, "x"), map[string]any{"id": "2a8cf7a4-53f4-4f6c-9d0c-0d8f3c2f5a11"}),
	} {
		var pr problem
		anybody.must(422, "POST", way+"/calls", body, &pr)
		require.NotEmpty(t, pr.at(where), where)
	}
	var took server.TookCall
	anybody.must(200, "POST", way+"/calls", call(p, "one"), &took)
	anybody.must(422, "PUT", way+"/calls/"+took.ID.String()+"/pictures/7", picture(t), nil)
	anybody.must(422, "PUT", way+"/calls/"+took.ID.String()+"/pictures/1", map[string]any{"picture": "R0lGODlh"}, nil)
	other, _ := office.linked(tech.place("Harrow"))
	anybody.must(404, "PUT", other+"/calls/"+took.ID.String()+"/pictures/1", picture(t), nil)
	for range 4 {
		anybody.must(200, "POST", way+"/calls", call(p, "more"), nil)
	}
	anybody.must(429, "POST", way+"/calls", call(p, "too much"), nil)
	var asked server.Asking
	anybody.must(200, "GET", way+"/questions", nil, &asked)
	require.True(t, asked.Full)
	require.Len(t, asked.Told, 5)
}
