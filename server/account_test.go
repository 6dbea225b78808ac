package server_test

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/demo"
	"hodos/server"
	"hodos/store"
)

// letter lets by send a link to a person and takes the token out of the letter.
func (w *world) letter(by *client, person any) string {
	w.t.Helper()
	var link server.Link
	by.must(200, "POST", fmt.Sprintf("/people/%v/password-link", person), nil, &link)
	require.True(w.t, link.Sent)
	require.Empty(w.t, link.Path, "what was sent by mail is not shown")
	text := w.mail.Letters()[0].Text
	_, after, ok := strings.Cut(text, "https://hodos.example/set-password/")
	require.True(w.t, ok, text)
	return strings.Fields(after)[0]
}

func (w *world) enter(email, password, from string) (*client, int, http.Header) {
	c := w.anonymous()
	c.behind = from
	status, _, h := c.do("POST", "/sign-in", map[string]any{"email": email, "password": password})
	if status == 200 {
		var me server.Me
		c.must(200, "GET", "/me", nil, &me)
		c.csrf = me.CSRF
	}
	return c, status, h
}

// Somebody who guesses is slowed down, from one address or from many; the person at their own device and everybody else sign in.
func TestGuessingSlowsOnlyTheGuesser(t *testing.T) {
	at := time.Now() // what was taken fills again with time: here none passes, however slow the machine
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) { o.Now = func() time.Time { return at } })
	tam, status, _ := w.enter("tam@averley.example", demo.Password, "198.51.100.7")
	require.Equal(t, 200, status)
	w.as("owner") // one click in the demo

	weighed, slowed := 0, 0
	for i := range 40 { // one account, forty networks, at once
		_, status, h := w.enter("tam@averley.example", "not this one", fmt.Sprintf("203.0.113.%d", i))
		switch status {
		case 401:
			weighed++
		case 429:
			slowed++
			require.NotEmpty(t, h.Get("Retry-After"))
		}
	}
	require.Equal(t, 10, weighed)
	require.Equal(t, 30, slowed)
	_, status, _ = w.enter("tam@averley.example", demo.Password, "203.0.113.99")
	require.Equal(t, 429, status, "a stranger's device waits, even with the right password")
	tam.must(200, "POST", "/sign-in", map[string]any{"email": "tam@averley.example", "password": demo.Password}, nil)
	_, status, _ = w.enter("rufus@averley.example", demo.Password, "203.0.113.99")
	require.Equal(t, 200, status, "another account is not held up")

	statuses := map[int]int{}
	for i := range 40 { // many accounts, one /64
		_, status, _ := w.enter(fmt.Sprintf("nobody%d@y.example", i), "guess", fmt.Sprintf("2001:db8::%x", i+1))
		statuses[status]++
	}
	require.Equal(t, map[int]int{401: 30, 429: 10}, statuses)
	_, status, _ = w.enter("rufus@averley.example", demo.Password, "2001:db8:0:1::1")
	require.Equal(t, 200, status, "the next network")
	forged := w.anonymous()
	forged.behind = "192.0.2.1, 2001:db8::77" // the left part is the caller's own word
	forged.must(429, "POST", "/sign-in", map[string]any{"email": "z@y.example", "password": "guess"}, nil)

	// many at once cannot slip through before the first is counted
	var mu sync.Mutex
	var all sync.WaitGroup
	statuses = map[int]int{}
	for i := range 24 {
		all.Add(1)
		go func() {
			defer all.Done()
			_, status, _ := w.enter("lena@averley.example", "not this one", fmt.Sprintf("203.0.113.%d", 100+i))
			mu.Lock()
			statuses[status]++
			mu.Unlock()
		}()
	}
	all.Wait()
	require.Equal(t, 10, statuses[401], statuses)
}

func TestPasswordsAreOnesOwn(t *testing.T) {
	w := newWorld(t)
	tam, _, _ := w.enter("tam@averley.example", demo.Password, "")
	elsewhere, _, _ := w.enter("tam@averley.example", demo.Password, "")
	var pr problem
	tam.must(422, "PUT", "/me/password", map[string]any{"current": "wrong", "password": "gorse quarry lantern"}, &pr)
	require.NotEmpty(t, pr.at("body.current"))
	for _, weak := range []string{"short", "aaaaaaaaaa", "          ", "1234567890", "password123", "tam@averley.example", "Tam Whitlock1", "averley turf care"} {
		tam.must(422, "PUT", "/me/password", map[string]any{"current": demo.Password, "password": weak}, &pr)
		require.NotEmpty(t, pr.at("body.password"), weak)
	}
	tam.must(204, "PUT", "/me/password", map[string]any{"current": demo.Password, "password": "gorse quarry lantern"}, nil)
	tam.must(200, "GET", "/me", nil, nil)
	elsewhere.must(401, "GET", "/me", nil, nil)
	_, status, _ := w.enter("tam@averley.example", demo.Password, "")
	require.Equal(t, 401, status)

	// a link works once, and not after the next one was sent
	owner := w.as("owner")
	first := w.letter(owner, demo.People["technician"])
	second := w.letter(owner, demo.People["technician"])
	anon := w.anonymous()
	anon.must(404, "POST", "/password-link", map[string]any{"token": first}, nil)
	var whose server.LinkOf
	anon.must(200, "POST", "/password-link", map[string]any{"token": second}, &whose)
	require.Equal(t, "Tam Whitlock", whose.Name)
	anon.must(422, "POST", "/password-link/use", map[string]any{"token": second, "password": "password123"}, nil)
	anon.must(204, "POST", "/password-link/use", map[string]any{"token": second, "password": "thistle ferry copper"}, nil)
	anon.must(404, "POST", "/password-link/use", map[string]any{"token": second, "password": "thistle ferry copper"}, nil)
	tam.must(401, "GET", "/me", nil, nil)
	_, status, _ = w.enter("tam@averley.example", "thistle ferry copper", "")
	require.Equal(t, 200, status)
	w.as("technician").must(403, "POST", "/people/"+demo.People["office"].String()+"/password-link", nil, nil)
	require.NoError(t, account.Reset(context.Background(), w.store, "tam@averley.example", "walnut harbour sleet"))
	_, status, _ = w.enter("tam@averley.example", "walnut harbour sleet", "")
	require.Equal(t, 200, status)
	require.ErrorIs(t, account.Reset(context.Background(), w.store, "nobody@averley.example", "walnut harbour sleet"), store.ErrNotFound)
}

func TestSecondFactor(t *testing.T) {
	w := newWorld(t)
	dora, status, _ := w.enter("dora@averley.example", demo.Password, "")
	require.Equal(t, 200, status)

	// the firm asks it of its owners: nothing is open before it is set up
	var firm server.FirmSettings
	dora.must(200, "GET", "/firm", nil, &firm)
	firm.OwnersSecondFactor = true
	dora.must(200, "PUT", "/firm", firm, nil)
	dora.must(403, "GET", "/day", nil, nil)
	var me server.Me
	dora.must(200, "GET", "/me", nil, &me)
	require.True(t, me.MustEnrol)
	w.as("technician").must(200, "GET", "/day", nil, nil)

	var enrol server.Enrol
	dora.must(200, "POST", "/me/second-factor", nil, &enrol)
	require.True(t, strings.HasPrefix(enrol.Image, "data:image/png;base64,"))
	var pr problem
	dora.must(422, "POST", "/me/second-factor/confirm", map[string]any{"code": "000000"}, &pr)
	require.NotEmpty(t, pr.at("body.code"))
	code := func() string {
		c, err := totp.GenerateCode(enrol.Secret, time.Now())
		require.NoError(t, err)
		return c
	}
	used := code()
	var spare server.SpareCodes
	dora.must(200, "POST", "/me/second-factor/confirm", map[string]any{"code": used}, &spare)
	require.Len(t, spare.Codes, 10)
	dora.must(200, "GET", "/day", nil, nil)
	dora.must(409, "POST", "/me/second-factor", nil, nil) // not twice

	try := func(code string) int {
		body := map[string]any{"email": "dora@averley.example", "password": demo.Password}
		if code != "" {
			body["code"] = code
		}
		status, b, _ := w.anonymous().do("POST", "/sign-in", body)
		if status == 401 {
			require.Contains(t, string(b), "body.code")
		}
		return status
	}
	require.Equal(t, 401, try(""), "a code is asked for")
	require.Equal(t, 401, try(used), "none is taken twice")
	require.Equal(t, 401, try("123456"))
	require.Equal(t, 200, try(strings.ToLower(spare.Codes[0])))
	require.Equal(t, 401, try(spare.Codes[0]), "each once")
	w.rewind(t, "dora@averley.example")
	require.Equal(t, 200, try(code()))

	dora.must(422, "POST", "/me/second-factor/end", map[string]any{"current": "wrong"}, nil)
	dora.must(204, "POST", "/me/second-factor/end", map[string]any{"current": demo.Password}, nil)
	dora.must(403, "GET", "/day", nil, nil)
}

// rewind lets the code of this half minute be taken again, as if the last had been taken earlier.
func (w *world) rewind(t *testing.T, email string) {
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE people SET totp_step = totp_step - 5 WHERE email = ?", email).Error
	}))
}

func TestSessionsAreSeenAndEnded(t *testing.T) {
	w := newWorld(t)
	one, _, _ := w.enter("tam@averley.example", demo.Password, "198.51.100.7")
	two, _, _ := w.enter("tam@averley.example", demo.Password, "198.51.100.8")
	three, _, _ := w.enter("tam@averley.example", demo.Password, "198.51.100.9")
	var list []server.Signed
	one.must(200, "GET", "/me/sessions", nil, &list)
	require.Len(t, list, 3)
	for _, s := range list {
		require.Equal(t, s.Network == "198.51.100.7", s.This)
		if s.Network == "198.51.100.8" {
			w.as("technician").must(204, "DELETE", "/me/sessions/"+s.ID.String(), nil, nil) // the same person
			w.as("owner").must(404, "DELETE", "/me/sessions/"+s.ID.String(), nil, nil)
		}
	}
	two.must(401, "GET", "/me", nil, nil)
	one.must(204, "POST", "/me/sessions/end-others", nil, nil)
	three.must(401, "GET", "/me", nil, nil)
	one.must(200, "GET", "/me", nil, nil)

	// unused for longer than a working day, it is over; what is over is swept away for all firms
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE sessions SET seen_at = now() - interval '13 hours'").Error
	}))
	one.must(401, "GET", "/me", nil, nil)
	n, err := account.Sweep(context.Background(), w.store)
	require.NoError(t, err)
	require.Positive(t, n)

	// the last use is kept, but not written with every request
	one, _, _ = w.enter("tam@averley.example", demo.Password, "")
	seen := func() (at time.Time) {
		require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
			return tx.Raw("SELECT seen_at FROM sessions").Scan(&at).Error
		}))
		return at
	}
	first := seen()
	one.must(200, "GET", "/me", nil, nil)
	require.Equal(t, first, seen())
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE sessions SET seen_at = now() - interval '1 hour'").Error
	}))
	one.must(200, "GET", "/me", nil, nil)
	require.WithinDuration(t, time.Now(), seen(), time.Minute)
}

func TestTheLogOfAccounts(t *testing.T) {
	w := newWorld(t)
	owner := w.as("owner")
	_, status, _ := w.enter("tam@averley.example", "not this one", "203.0.113.5")
	require.Equal(t, 401, status)
	var people []server.Person
	owner.must(200, "GET", "/people", nil, &people)
	for _, p := range people {
		if p.Role == "office" {
			p.Role = "technician"
			owner.must(200, "PUT", "/people/"+p.ID.String(), p, nil)
		}
	}
	w.letter(owner, demo.People["technician"])
	var log []server.Happened
	owner.must(200, "GET", "/events?limit=50", nil, &log)
	require.Equal(t, "link-sent", log[0].Kind)
	require.Equal(t, "Dora Venn", log[0].By)
	require.Equal(t, "Tam Whitlock", log[0].About)
	require.Equal(t, "person-changed", log[1].Kind)
	require.Equal(t, "role: office → technician", log[1].Detail)
	require.Equal(t, "sign-in-failed", log[2].Kind)
	require.Equal(t, "203.0.113.5", log[2].Network)
	require.Empty(t, log[2].By)
	require.Equal(t, "signed-in", log[3].Kind)
	for _, l := range log {
		require.NotEqual(t, l.Kind, l.Label, "every kind has its words")
	}
	var older []server.Happened
	owner.must(200, "GET", fmt.Sprintf("/events?before=%d&limit=1", log[0].ID), nil, &older)
	require.Equal(t, log[1], older[0])
	w.as("technician").must(403, "GET", "/events", nil, nil)
	err := w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error { return tx.Exec("DELETE FROM events").Error })
	require.Error(t, err, "the log only grows")
}
