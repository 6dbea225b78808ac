package server_test

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/account"
	"hodos/server"
)

func (c *client) clientPage(p place) server.ClientPage {
	c.w.t.Helper()
	var out server.ClientPage
	c.must(200, "GET", "/sites/"+p.site+"/client-page", nil, &out)
	return out
}

// zoneOf is the lawn of a page in which a place lies.
func lawnOf(t *testing.T, page server.ClientPage, p place) server.ClientZone {
	t.Helper()
	for _, z := range page.Zones {
		if z.ID.String() == p.zone {
			return z
		}
	}
	require.Fail(t, "the lawn is not on the page")
	return server.ClientZone{}
}

func TestTheClientsPageTellsOfTheLawn(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office, tech := w.as("office"), w.as("technician")
	p := tech.place("Stonecrop")
	page := office.clientPage(p)
	require.Equal(t, "Averley Turf Care", page.Firm.Name)
	require.Equal(t, "555-0142", page.Firm.Phone)
	require.Equal(t, "2026-08-24", page.MadeOn)
	z := lawnOf(t, page, p)
	require.Equal(t, "spring-dead-spot", z.Found.Cause)
	require.Equal(t, "sure", z.Found.Sure)
	require.False(t, z.Found.Past, "its recovery is being followed")
	require.Contains(t, z.Found.Not, "Winter crown kill")
	require.NotEmpty(t, z.Found.What)
	require.InDelta(t, .76, z.Course.Cover, 1e-9)
	require.Len(t, z.Course.Measures, 3)
	require.False(t, z.Course.Due)
	require.Greater(t, z.Course.GreenOn, page.MadeOn)
	require.GreaterOrEqual(t, z.Course.GreenOn, z.Course.Early)
	require.Len(t, z.Pictures, 2, "the first and the last")
	require.Less(t, z.Pictures[0].TakenOn, z.Pictures[1].TakenOn)
	require.Equal(t, "2026-08-25", z.VisitOn)
	for _, x := range z.Tasks {
		require.GreaterOrEqual(t, x.From, page.MadeOn, "nothing is asked for yesterday")
		require.NotContains(t, x.Text, "{")
	}

	// in the units that are asked for
	var us server.ClientPage
	office.must(200, "GET", "/sites/"+p.site+"/client-page?units=us", nil, &us)
	require.Equal(t, "us", us.UnitSystem)

	// a diagnosis of last year is told as history and asks for nothing
	quill := tech.place("Quill")
	old := lawnOf(t, office.clientPage(quill), quill)
	require.True(t, old.Found.Past)
	require.Equal(t, "2025-09-12", old.Found.GivenOn)
	require.Equal(t, "Found on 12 Sep 2025, mended on 24 Oct 2025.", old.Found.Says)
	require.Empty(t, old.Tasks)

	// what is given today stands today
	tech.must(200, "POST", quill.path("/answers"), answers(tap("grubs-per-m2", 130), tap("pull-test", "lifts-like-carpet")), nil)
	tech.must(200, "POST", quill.path("/diagnoses"), map[string]any{"id": id()}, nil)
	now := lawnOf(t, office.clientPage(quill), quill)
	require.Equal(t, "white-grubs", now.Found.Cause)
	require.False(t, now.Found.Past)
	require.Equal(t, "tell", now.Tasks[0].Kind)
	require.Regexp(t, `^We counted 130 grubs per m², .* and .*\.$`, now.Found.Why)
	require.Contains(t, now.Found.Why, "the turf lifts like a carpet")
	office.must(200, "GET", "/sites/"+quill.site+"/client-page?units=us", nil, &us)
	require.Contains(t, lawnOf(t, us, quill).Found.Why, "12.1 grubs per ft²")

	// closed as something else, that is what the client is told, and what had been ruled out before is not
	closing := map[string]any{"id": id(), "zone_id": quill.zone, "cause": "drought-stress", "ended": "stays"}
	tech.must(200, "POST", "/visits/"+quill.visit+"/closings", closing, nil)
	stays := lawnOf(t, office.clientPage(quill), quill)
	require.Equal(t, "drought-stress", stays.Found.Cause)
	require.Equal(t, "sure", stays.Found.Sure)
	require.False(t, stays.Found.Past, "it stays")
	require.Empty(t, stays.Found.Not)
	require.Empty(t, stays.Found.Why, "what spoke for another cause is no reason for this one")
	require.NotEmpty(t, stays.Tasks)

	// closed as mended it is history and asks for nothing
	tech.must(200, "POST", quill.path("/diagnoses"), map[string]any{"id": id()}, nil)
	tech.must(200, "POST", "/visits/"+quill.visit+"/closings", with(closing, map[string]any{"id": id(), "cause": "white-grubs",
		"ended": "mended"}), nil)
	over := lawnOf(t, office.clientPage(quill), quill)
	require.True(t, over.Found.Past)
	require.Contains(t, over.Found.Says, "mended on 24 Aug 2026")
	require.Empty(t, over.Tasks)

	// what the crew does asks something of the client
	record := map[string]any{"id": id(), "visit_id": quill.visit, "zone_id": quill.zone, "action": "overseed", "area_m2": 10, "product": "",
		"amount_unit": "", "source": "", "reentry": "", "note": "by the gate, code 4711", "signed_name": "Rufus Adeyo", "voided": false,
		"outside_reason": "the client wants it now"}
	w.as("applicator").must(200, "POST", "/visits/"+quill.visit+"/records", record, nil)
	seeded := lawnOf(t, office.clientPage(quill), quill)
	require.Equal(t, "Overseed", seeded.Done[0].Label)
	require.Equal(t, server.ClientTask{Kind: "safety", Not: true, From: "2026-08-24", To: "2026-09-21",
		When: "Safety, until 21 Sep 2026", Text: "Keep off it. Dogs, too."}, seeded.Tasks[0])
}

func TestALawnThatShouldBeGreenByNow(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner := w.as("owner")
	p := owner.place("Stonecrop")
	owner.must(200, "POST", "/demo/clock", map[string]any{"days": 28}, nil)
	z := lawnOf(t, owner.clientPage(p), p)
	require.True(t, z.Course.Due, "the middle of the band reached the target before today")
	require.Empty(t, z.Course.Early)
	require.Empty(t, z.Course.Late)
}

func TestNothingThatTheClientMustNotSee(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office, tech := w.as("office"), w.as("technician")
	p := tech.place("Stonecrop")
	tech.must(200, "PUT", "/zones/"+p.zone+"/notes/"+id(), map[string]any{"kind": "note", "text": "the client is difficult"}, nil)
	var site server.Site
	office.must(200, "GET", "/sites/"+p.site, nil, &site)
	link := office.link(p, 30)
	status, b := anybody(t, w, link)
	require.Equal(t, 200, status)
	text := string(b)
	for _, secret := range []string{"difficult", "Whitlock", "Adeyo", "Venn", "access", "latitude", "lon", "probability", "person", "price",
		p.visit, p.site, "\"at\":", "tilt"} {
		require.NotContains(t, text, secret)
	}
	if site.AccessNotes != "" {
		require.NotContains(t, text, site.AccessNotes)
	}
}

// link makes a link of a site's page and gives its token.
func (c *client) link(p place, days int) string {
	c.w.t.Helper()
	var l server.ClientLink
	c.must(200, "POST", "/sites/"+p.site+"/links", map[string]any{"id": id(), "days": days}, &l)
	token, ok := strings.CutPrefix(l.Path, "/for/")
	require.True(c.w.t, ok)
	return token
}

// anybody opens what lies behind a link without being signed in.
func anybody(t *testing.T, w *world, path string) (int, []byte) {
	t.Helper()
	r, err := http.Get(w.url + "/api/v1/for/" + path)
	require.NoError(t, err)
	defer r.Body.Close()
	var b bytes.Buffer
	_, err = b.ReadFrom(r.Body)
	require.NoError(t, err)
	if r.StatusCode == 200 {
		require.Contains(t, r.Header.Get("Cache-Control"), "no-store")
	}
	return r.StatusCode, b.Bytes()
}

func TestAClientsLinkShowsOneSiteForAWhile(t *testing.T) {
	t.Parallel()
	now := time.Now()
	w := newWorldWith(t, nil, func(o *server.Options) { o.Now = func() time.Time { return now } })
	office := w.as("office")
	p, other := office.place("Stonecrop"), office.place("Quill")
	token := office.link(p, 30)

	status, b := anybody(t, w, token)
	require.Equal(t, 200, status)
	require.Contains(t, string(b), "27 Stonecrop Rise")
	require.NotContains(t, string(b), "Quill")
	status, b = anybody(t, w, token+"/pdf")
	require.Equal(t, 200, status)
	require.True(t, bytes.HasPrefix(b, []byte("%PDF")))

	// its pictures, and no others
	z := lawnOf(t, office.clientPage(p), p)
	for _, x := range z.Pictures {
		status, b = anybody(t, w, token+"/pictures/"+x.ID.String())
		require.Equal(t, 200, status)
		require.True(t, bytes.HasPrefix(b, []byte("\xff\xd8")), "a JPEG")
		require.NotContains(t, string(b[:min(len(b), 2000)]), "Exif", "where and when it was taken is not in it")
	}
	var all struct{ Photos []server.Photo }
	office.must(200, "GET", "/zones/"+p.zone+"/photos", nil, &all)
	require.Greater(t, len(all.Photos), len(z.Pictures))
	for _, x := range all.Photos {
		if x.ID != z.Pictures[0].ID && x.ID != z.Pictures[1].ID {
			status, _ = anybody(t, w, token+"/pictures/"+x.ID.String())
			require.Equal(t, 404, status, "one that does not stand on the page")
		}
	}
	status, _ = anybody(t, w, office.link(other, 30)+"/pictures/"+z.Pictures[0].ID.String())
	require.Equal(t, 404, status, "the picture of another client's lawn")

	var links []server.ClientLink
	office.must(200, "GET", "/sites/"+p.site+"/links", nil, &links)
	require.Len(t, links, 2, "beside the one that is withdrawn in the demo")
	require.Equal(t, 1, links[0].Opened)
	require.NotNil(t, links[0].OpenedAt)
	require.Empty(t, links[0].Path, "told once")

	// the ways in which it ends are one to whoever asks
	late := office.link(p, 30)
	for _, end := range []struct {
		name, token string
		do          func()
	}{
		{"a guess", token[:len(token)-1] + "!", func() {}},
		{"no token", "0", func() {}},
		{"withdrawn", token, func() { office.must(204, "DELETE", "/links/"+links[0].ID.String(), nil, nil) }},
		{"after its day", late, func() { now = now.AddDate(0, 0, 30) }},
	} {
		end.do()
		name, bad := end.name, end.token
		for _, path := range []string{bad, bad + "/pdf", bad + "/pictures/" + z.Pictures[0].ID.String()} {
			status, b = anybody(t, w, path)
			require.Equal(t, 404, status, "%s: %s", name, b)
			require.NotContains(t, string(b), "Stonecrop")
		}
	}
	now = now.AddDate(0, 0, -30)
	office.must(404, "DELETE", "/links/"+links[0].ID.String(), nil, nil)
}

func TestLinksThatAreNotMade(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office := w.as("office")
	p := office.place("Quill")
	for _, days := range []int{0, -1, 367} {
		office.must(422, "POST", "/sites/"+p.site+"/links", map[string]any{"id": id(), "days": days}, nil)
	}
	office.must(404, "POST", "/sites/"+p.visit+"/links", map[string]any{"id": id(), "days": 30}, nil)
	w.as("technician").must(403, "POST", "/sites/"+p.site+"/links", map[string]any{"id": id(), "days": 30}, nil)
}

func TestTheLetterheadIsTheFirmsOwn(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner := w.as("owner")
	var f server.FirmSettings
	owner.must(200, "GET", "/firm", nil, &f)
	f.Phone, f.Address = "555-0170", "The old mill"
	owner.must(200, "PUT", "/firm", f, nil)
	page := owner.clientPage(owner.place("Quill"))
	require.Equal(t, "555-0170", page.Firm.Phone)
	require.Equal(t, "The old mill", page.Firm.Address)
}

func TestALinkIsSentToTheClient(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office := w.as("office")
	p := office.place("Quill")
	ask := func(send bool) map[string]any { return map[string]any{"id": id(), "days": 30, "send": send} }
	var client server.Client
	office.must(200, "GET", "/clients/"+p.client, nil, &client)
	client.Email = ""
	office.must(200, "PUT", "/clients/"+p.client, client, nil)
	var pr problem
	office.must(422, "POST", "/sites/"+p.site+"/links", ask(true), &pr)
	require.Contains(t, pr.at("body.send"), "no email address")
	var links []server.ClientLink
	office.must(200, "GET", "/sites/"+p.site+"/links", nil, &links)
	require.Empty(t, links, "what could not be sent was not made")

	client.Email, client.Version = "orla@brandt.example", client.Version+1
	office.must(200, "PUT", "/clients/"+p.client, client, nil)
	before := len(w.mail.Letters())
	var l server.ClientLink
	office.must(200, "POST", "/sites/"+p.site+"/links", ask(true), &l)
	require.True(t, l.Sent)
	require.Len(t, w.mail.Letters(), before+1)
	letter := w.mail.Letters()[0]
	require.Equal(t, "orla@brandt.example", letter.To)
	require.Equal(t, "Your lawn at 14 Quill Lane", letter.Subject)
	require.Contains(t, letter.Text, "https://hodos.example"+l.Path)
	require.Contains(t, letter.Text, "Averley Turf Care")
	office.must(200, "POST", "/sites/"+p.site+"/links", ask(false), &l)
	require.Len(t, w.mail.Letters(), before+1, "only where it is asked for")
}

type brokenMail struct{}

func (brokenMail) Send(context.Context, string, string, string) error {
	return errors.New("the mail server is away")
}

func TestALinkThatCannotBeSentIsHandedOver(t *testing.T) {
	t.Parallel()
	for name, mail := range map[string]account.Mail{"away": brokenMail{}, "none": nil} {
		w := newWorldWith(t, nil, func(o *server.Options) { o.Mail = mail })
		office := w.as("office")
		p := office.place("Quill")
		var client server.Client
		office.must(200, "GET", "/clients/"+p.client, nil, &client)
		client.Email = "orla@brandt.example"
		office.must(200, "PUT", "/clients/"+p.client, client, nil)
		ask := map[string]any{"id": id(), "days": 30, "send": true}
		if name == "none" {
			office.must(422, "POST", "/sites/"+p.site+"/links", ask, nil)
			continue
		}
		var l server.ClientLink
		office.must(200, "POST", "/sites/"+p.site+"/links", ask, &l)
		require.False(t, l.Sent)
		status, _ := anybody(t, w, strings.TrimPrefix(l.Path, "/for/"))
		require.Equal(t, 200, status, "it holds, to be handed over")
	}
}
