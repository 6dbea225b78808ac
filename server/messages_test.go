package server_test

import (
	"context"
	"errors"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/weather"
	"hodos/demo"
	"hodos/server"
	"hodos/store"
)

// heatwave forecasts four days of 35 °C from the second day on, and mild showers else.
type heatwave struct{ demo.Sky }

func (heatwave) Forecast(_ context.Context, _ store.Station, today time.Time, days int) (out []weather.Day, err error) {
	for i := range days {
		hi, lo, rain := 24.0, 14.0, 4.0
		if i >= 1 && i <= 4 {
			hi = 35
		}
		out = append(out, weather.Day{Date: today.AddDate(0, 0, i+1), TMax: &hi, TMin: &lo, Rain: &rain})
	}
	return out, nil
}

func (c *client) messages() (m server.Messages) {
	c.w.t.Helper()
	c.must(200, "GET", "/messages", nil, &m)
	return m
}

func draftFor(m server.Messages, kind, name string) (d server.Draft, r server.Recipient) {
	for _, x := range m.Drafts {
		for _, y := range x.Recipients {
			if x.Kind == kind && y.Name == name {
				return x, y
			}
		}
	}
	return d, r
}

// Heat that is coming is told in the words that each lawn needs, to whom the office picks, once.
func TestClientsAreToldOfTheHeat(t *testing.T) {
	t.Parallel()
	w := newWorldWith(t, heatwave{})
	office := w.as("office")
	m := office.messages()
	require.True(t, m.Mail)
	require.True(t, m.Known)
	watered, orla := draftFor(m, "hot", "Orla Brandt")
	require.Equal(t, []string{"2026-08-26", "2026-08-29"}, []string{watered.From, watered.To})
	require.Contains(t, watered.Text, "Wednesday, 26 Aug")
	require.Contains(t, watered.Text, "early in the morning")
	require.Empty(t, orla.ToldOn)
	dry, _ := draftFor(m, "hot", "Piet Marlow")
	require.NotEqual(t, watered.Key, dry.Key)
	require.Contains(t, dry.Text, "brown to save itself")
	_, hedda := draftFor(m, "hot", "Hedda Quist")
	require.Empty(t, hedda.Name, "bermuda does not mind 35 °C")

	send := map[string]any{"id": id(), "kind": "hot", "subject": watered.Subject, "text": watered.Text, "clients": []any{orla.ClientID}}
	var sent server.SentMessage
	office.must(200, "POST", "/messages", send, &sent)
	require.Equal(t, 1, sent.Sent)
	office.must(200, "POST", "/messages", send, &sent) // the same again
	require.Zero(t, sent.Sent, "nobody gets it twice")
	letters := 0
	for _, l := range w.mail.Letters() {
		if l.To == "orla.brandt@post.example" {
			letters++
			require.True(t, strings.HasPrefix(l.Text, "Hello Orla Brandt,\n\n"))
			require.Contains(t, l.Text, "Averley Turf Care")
		}
	}
	require.Equal(t, 1, letters)
	_, orla = draftFor(office.messages(), "hot", "Orla Brandt")
	require.Equal(t, "2026-08-24", orla.ToldOn)

	w.as("technician").must(403, "POST", "/messages", with(send, map[string]any{"id": id()}), nil)
	var pr problem
	office.must(422, "POST", "/messages", with(send, map[string]any{"id": id(), "clients": []any{id()}}), &pr)
	require.NotEmpty(t, pr.at("body.clients[0]"))
	for field, change := range map[string]map[string]any{"subject": {"subject": ""}, "text": {"text": "hi"}, "clients": {"clients": []any{}},
		"kind": {"kind": "snow"}} {
		office.must(422, "POST", "/messages", with(send, with(map[string]any{"id": id()}, change)), &pr)
		require.NotEmpty(t, pr.Errors, field)
	}
}

// A visit of tomorrow is told with its hours and what to do before it.
func TestAVisitIsToldTheDayBefore(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office := w.as("office")
	p := office.place("Stonecrop")
	var v server.VisitDetail
	office.must(200, "GET", "/visits/"+p.visit, nil, &v)
	change := v.Visit
	change.Hours = &server.Hours{From: "09:00", To: "11:00"}
	office.must(200, "PUT", "/visits/"+p.visit, change, nil)
	d, hedda := draftFor(office.messages(), "visit", "Hedda Quist")
	require.Contains(t, d.Text,
		"We are coming to 27 Stonecrop Rise tomorrow, Tuesday, 25 Aug, between 09:00 and 11:00. Tam Whitlock will be there.")
	require.Contains(t, d.Text, "leave the gate open")
	require.Equal(t, p.visit, d.VisitID.String())
	office.must(200, "POST", "/messages", map[string]any{"id": id(), "kind": "visit", "visit_id": p.visit, "subject": d.Subject,
		"text": d.Text, "clients": []any{hedda.ClientID}}, nil)
	_, hedda = draftFor(office.messages(), "visit", "Hedda Quist")
	require.Equal(t, "2026-08-24", hedda.ToldOn)
	office.must(200, "POST", "/demo/clock", map[string]any{"days": 1}, nil)
	d, _ = draftFor(office.messages(), "visit", "Hedda Quist")
	require.Empty(t, d.Key, "today is not tomorrow")
}

// A call that cannot wait goes to the office by letter.
func TestAnUrgentCallIsALetterToTheOffice(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office, anybody := w.as("office"), w.anonymous()
	p := office.place("Harrow")
	way, _ := office.linked(p)
	alerts := func() (n int) {
		for _, l := range w.mail.Letters() {
			if strings.HasPrefix(l.Subject, "Today or tomorrow: Harrow Green 5") {
				require.Contains(t, l.Text, "/calls/")
				n++
			}
		}
		return n
	}
	anybody.must(200, "POST", way+"/calls", call(p, "no hurry", pick("onset-speed", "gradual")), nil)
	require.Zero(t, alerts())
	urgent := call(p, "fuel", pick("onset-speed", "overnight"), pick("recent-events", "spill"))
	anybody.must(200, "POST", way+"/calls", urgent, nil)
	require.Equal(t, 1, alerts())
	anybody.must(200, "POST", way+"/calls", urgent, nil)
	require.Equal(t, 1, alerts(), "told again it is no news")
}

// flaky is a mail server that fails for one address until it is mended.
type flaky struct {
	mu     sync.Mutex
	broken string
	sent   map[string][]string // texts by address
}

func (f *flaky) Send(_ context.Context, to, _, text string) error {
	f.mu.Lock()
	defer f.mu.Unlock()
	if to == f.broken {
		return errors.New("no such mailbox today")
	}
	if f.sent == nil {
		f.sent = map[string][]string{}
	}
	f.sent[to] = append(f.sent[to], text)
	return nil
}

// Whom a letter did not reach is named; sent again it goes to them alone, as it reads now, and to nobody who has been unticked.
func TestALetterThatFailedGoesAgain(t *testing.T) {
	t.Parallel()
	mail := &flaky{broken: "orla.brandt@post.example"}
	w := newWorldWith(t, heatwave{}, func(o *server.Options) { o.Mail = mail })
	office := w.as("office")
	m := office.messages()
	_, orla := draftFor(m, "hot", "Orla Brandt")
	_, benno := draftFor(m, "hot", "Benno Achterberg")
	send := map[string]any{"id": id(), "kind": "hot", "subject": "Heat", "text": "It will be hot this week.",
		"clients": []any{orla.ClientID, benno.ClientID}}
	var out server.SentMessage
	office.must(200, "POST", "/messages", send, &out)
	require.Equal(t, 1, out.Sent)
	require.Equal(t, []string{"Orla Brandt"}, out.Failed)

	out = server.SentMessage{}
	office.must(200, "POST", "/messages", with(send, map[string]any{"clients": []any{benno.ClientID}}), &out)
	require.Zero(t, out.Sent, "who has it does not get it again, and who is unticked gets nothing")
	require.Empty(t, out.Failed)

	mail.mu.Lock()
	mail.broken = ""
	mail.mu.Unlock()
	office.must(200, "POST", "/messages", with(send, map[string]any{"text": "It will be very hot this week."}), &out)
	require.Equal(t, 1, out.Sent)
	require.Len(t, mail.sent["benno.achterberg@post.example"], 1)
	require.Len(t, mail.sent["orla.brandt@post.example"], 1)
	require.Contains(t, mail.sent["orla.brandt@post.example"][0], "very hot")
}
