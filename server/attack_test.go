package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/demo"
	"hodos/server"
)

// held keeps a table locked while f runs, as a database under load or a long transaction would.
func (w *world) held(table string, f func()) {
	w.t.Helper()
	require.NoError(w.t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		if err := tx.Exec("LOCK TABLE " + table + " IN ACCESS EXCLUSIVE MODE").Error; err != nil {
			return err
		}
		f()
		return nil
	}))
}

// A database that does not answer in time is told as that, soon, and as worth another try; nothing waits for ever.
func TestASlowDatabaseIsToldInTime(t *testing.T) {
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) { o.Deadline = 300 * time.Millisecond })
	tech := w.as("technician")
	w.held("people", func() {
		for _, ask := range []func() (int, []byte, http.Header){
			func() (int, []byte, http.Header) { return tech.do("GET", "/me", nil) },
			func() (int, []byte, http.Header) {
				return w.anonymous().do("POST", "/sign-in", map[string]any{"email": "tam@averley.example", "password": demo.Password})
			},
		} {
			status, b, h := ask()
			require.Equal(t, 503, status, "%s", b)
			require.NotEmpty(t, h.Get("Retry-After"))
			require.Contains(t, h.Get("Content-Type"), "application/problem+json")
		}
	})
	tech.must(200, "GET", "/me", nil, nil)
}

// brokenClock is a work clock whose database went away while it was asked.
type brokenClock struct{}

func (brokenClock) Now(context.Context) (casework.Moment, error) {
	return casework.Moment{}, fmt.Errorf("read: %w", io.ErrUnexpectedEOF)
}

// A connection that breaks while the tables of no firm are asked is told like any other: worth another try.
func TestABrokenConnectionIsToldAsAway(t *testing.T) {
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) { o.Clock = brokenClock{} })
	status, b, h := w.as("technician").do("GET", "/day", nil)
	require.Equal(t, 503, status, "%s", b)
	require.NotEmpty(t, h.Get("Retry-After"))
}

// The time that an answer takes is not the sender's: a body that has come in whole is worked on however long that takes, one that
// dribbles in is given up.
func TestASlowAnswerIsNotASlowSender(t *testing.T) {
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) { o.Sending = 250 * time.Millisecond })
	tech := w.as("technician")
	p := tech.place("Quill")
	status := make(chan int, 1)
	w.held("visits", func() {
		go func() {
			got, _, _ := tech.do("POST", p.path("/answers"), answers(tap("pull-test", "resists")))
			status <- got
		}()
		time.Sleep(time.Second)
	})
	require.Equal(t, 200, <-status)

	host := strings.TrimPrefix(w.url, "http://")
	conn, err := net.Dial("tcp", host)
	require.NoError(t, err)
	defer conn.Close()
	_, err = conn.Write([]byte("POST /api/v1/sign-in HTTP/1.1\r\nHost: " + host +
		"\r\nContent-Type: application/json\r\nContent-Length: 200\r\n\r\n{"))
	require.NoError(t, err)
	require.NoError(t, conn.SetReadDeadline(time.Now().Add(10*time.Second)))
	first := make([]byte, 12)
	_, err = io.ReadFull(conn, first)
	require.NoError(t, err)
	require.Equal(t, "HTTP/1.1 408", string(first))
}

// One person cannot keep the server busy for everybody.
func TestCostlyRequestsAreFewAtATime(t *testing.T) {
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) { o.Deadline = 2 * time.Second })
	owner, tech := w.as("owner"), w.as("technician")
	statuses := map[int]int{}
	w.held("firm_prices", func() {
		var mu sync.Mutex
		var all sync.WaitGroup
		for range 5 {
			all.Add(1)
			go func() {
				defer all.Done()
				status, _, h := owner.do("POST", "/prices/preview", figures(20))
				mu.Lock()
				defer mu.Unlock()
				statuses[status]++
				if status == 429 {
					require.NotEmpty(t, h.Get("Retry-After"))
				}
			}()
		}
		all.Wait()
	})
	require.Equal(t, map[int]int{503: 2, 429: 3}, statuses)
	owner.must(200, "POST", "/prices/preview", figures(20), nil)
	tech.must(200, "POST", "/prices/preview", figures(20), nil)
}

// What nobody types is refused in one place, whatever the field; nothing of it comes as a fault of the server.
func TestControlCharactersAreRefused(t *testing.T) {
	w := newWorld(t)
	office := w.as("office")
	client := func(name string) map[string]any {
		return map[string]any{"id": id(), "name": name, "phone": "", "email": "", "notes": "", "version": 0}
	}
	for _, name := range []string{"a\x00b", "bell\x07", "esc\x1b[2J", "del\x7f"} {
		b, err := json.Marshal(client(name))
		require.NoError(t, err)
		b = bytes.ReplaceAll(b, []byte{0x7f}, []byte(`\u007f`))
		var pr problem
		office.must(422, "POST", "/clients", b, &pr)
		require.Contains(t, pr.at("body"), "control character", name)
	}
	office.must(200, "POST", "/clients", client("two\nlines and a\ttab, \\u0000 as text, p and q"), nil)
	late := client("Late")
	late["version"] = 9007199254740992
	office.must(422, "PUT", "/clients/"+id(), late, nil)
}

// A key stands for one thing: the same again changes nothing, something else under it is refused and named.
func TestAKeyStandsForOneAnswer(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	one := tap("pull-test", "resists")
	tech.must(200, "POST", p.path("/answers"), answers(one), nil)
	tech.must(200, "POST", p.path("/answers"), answers(one, tap("onset-speed", "weeks")), nil)
	other := tap("pull-test", "lifts-like-carpet")
	other["id"] = one["id"]
	var pr problem
	tech.must(409, "POST", p.path("/answers"), answers(tap("onset-speed", "gradual"), other), &pr)
	require.NotEmpty(t, pr.at("body.answers[1].id"))
	var sc server.Scales
	tech.must(200, "GET", p.path("/scales"), nil, &sc)
	for _, a := range sc.Answers {
		if a.Finding == "onset-speed" {
			require.Equal(t, "weeks", a.Value, "nothing of a refused request is kept")
		}
	}
}

// Moments and days that cannot be are refused before they stand for ever.
func TestImpossibleDays(t *testing.T) {
	w := newWorld(t)
	tech, rufus := w.as("technician"), w.as("applicator")
	p := tech.place("Quill")
	var pr problem
	for _, at := range []string{"0001-01-01T00:00:00Z", "1600-05-05T10:00:00Z"} {
		tech.must(422, "POST", "/visits/"+p.visit+"/arrive", map[string]any{"at": at}, &pr)
		require.NotEmpty(t, pr.at("body.at"))
	}
	for _, due := range []string{"0000-01-01", "1999-01-01", "9999-01-01"} {
		tech.must(422, "POST", "/visits", map[string]any{"id": id(), "site_id": p.site, "kind": "diagnosis", "due_on": due, "reason": "", "version": 0}, &pr)
		require.NotEmpty(t, pr.at("body.due_on"), due)
	}
	record := map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": "insecticide-curative", "area_m2": 120,
		"product": "Turfward G (demo)", "amount": 1.2, "amount_unit": "kg", "source": "", "wind_ms": 2.0, "reentry": "when dry", "note": "",
		"signed_name": "Rufus Adeyo", "voided": false, "applied_on": "1990-01-01"}
	rufus.must(422, "POST", "/visits/"+p.visit+"/records", record, &pr)
	require.NotEmpty(t, pr.at("body.applied_on"))
	record["applied_on"], record["area_m2"] = "2026-08-24", 5e-324
	rufus.must(422, "POST", "/visits/"+p.visit+"/records", record, nil)
}

// A reading that is sent again with another value corrects; the answer says how many are new and how many corrected.
func TestACorrectedReadingCorrects(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	send := func(ph string) (last server.Progress) {
		status, b, _ := tech.do("POST", "/sites/"+p.site+"/readings", []byte("hodos-readings,1,UTC\ntime,zone,finding,value,unit\n2026-08-20,"+p.zone+",soil-ph,"+ph+",pH\n"))
		require.Equal(t, 200, status, "%s", b)
		lines := strings.Split(strings.TrimSpace(string(b)), "\n")
		require.NoError(t, json.Unmarshal([]byte(lines[len(lines)-1]), &last))
		require.True(t, last.Taken)
		return last
	}
	require.Equal(t, server.Progress{Done: 1, Of: 1, Lines: 1, Taken: true, New: 1}, send("6.1"))
	require.Equal(t, server.Progress{Done: 1, Of: 1, Lines: 1, Taken: true, Corrected: 1}, send("7.7"))
	require.Equal(t, server.Progress{Done: 1, Of: 1, Lines: 1, Taken: true}, send("7.7"))
	_, b, _ := tech.do("GET", "/sites/"+p.site+"/readings", nil)
	require.Contains(t, string(b), "soil-ph,7.7,pH")
	require.NotContains(t, string(b), "soil-ph,6.1,pH")
	var sc server.Scales
	tech.must(200, "GET", p.path("/scales"), nil, &sc)
	require.Contains(t, fmt.Sprint(sc.Diagnosis.Weather, sc.Diagnosis), "7.7")
}

// No spreadsheet runs what a file of ours holds.
func TestExportsHoldNoFormula(t *testing.T) {
	w := newWorld(t)
	owner := w.as("owner")
	p := w.as("technician").place("Quill")
	var sites server.Sites
	owner.must(200, "GET", "/sites", nil, &sites)
	for _, s := range sites.Sites {
		for _, z := range s.Zones {
			if z.ID.String() == p.zone {
				z.Name = `=HYPERLINK("http://evil.example","x")`
				owner.must(200, "PUT", "/zones/"+p.zone, z, nil)
			}
		}
	}
	_, _, _ = owner.do("POST", "/sites/"+p.site+"/readings", []byte("hodos-readings,1,UTC\ntime,zone,finding,value,unit\n2026-08-20,"+p.zone+",soil-ph,7,pH\n"))
	_, b, _ := owner.do("GET", "/sites/"+p.site+"/readings", nil)
	require.Contains(t, string(b), p.zone+",soil-ph,7,pH")
	require.NotContains(t, string(b), "HYPERLINK")
}

// A body that grows past the limit without saying so beforehand is told as too large.
func TestChunkedBodiesHaveTheSameLimit(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	for path, kind := range map[string]string{"/sites/" + p.site + "/weather": "text/csv", "/diagnose": "application/json"} {
		body := io.MultiReader(strings.NewReader("hodos-weather,1,daily,UTC\ndate,rain_mm\n"), strings.NewReader(strings.Repeat("2026-08-20,1\n", 1<<20)))
		req, err := http.NewRequest("POST", w.url+"/api/v1"+path, struct{ io.Reader }{body})
		require.NoError(t, err)
		req.Header.Set("Content-Type", kind)
		req.Header.Set("X-Hodos-Csrf", tech.csrf)
		res, err := tech.http.Do(req)
		require.NoError(t, err)
		_ = res.Body.Close()
		require.Equal(t, 413, res.StatusCode, path)
	}
}

// Nothing is taken for somebody who is gone.
func TestAnImportEndsWithItsConnection(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var file strings.Builder
	file.WriteString("hodos-weather,1,daily,UTC\ndate,rain_mm\n")
	for i := range 4000 {
		fmt.Fprintf(&file, "%s,7\n", time.Date(2010, 1, 1+i, 0, 0, 0, 0, time.UTC).Format(time.DateOnly))
	}
	days := func() (n int64) {
		require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
			return tx.Table("site_days").Where("site_id = ? AND day < '2021-01-01'", p.site).Count(&n).Error
		}))
		return n
	}
	ctx, cancel := context.WithCancel(context.Background())
	w.held("site_days", func() {
		req, err := http.NewRequestWithContext(ctx, "POST", w.url+"/api/v1/sites/"+p.site+"/weather", strings.NewReader(file.String()))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "text/csv")
		req.Header.Set("X-Hodos-Csrf", tech.csrf)
		gone := make(chan struct{})
		go func() {
			defer close(gone)
			if res, err := tech.http.Do(req); err == nil {
				_, _ = io.ReadAll(res.Body)
				_ = res.Body.Close()
			}
		}()
		time.Sleep(400 * time.Millisecond)
		cancel()
		<-gone
		time.Sleep(100 * time.Millisecond)
	})
	time.Sleep(300 * time.Millisecond)
	require.Zero(t, days())
}

// The demo answers to its own address alone, and writing from another site is refused.
func TestOtherHostsAndSites(t *testing.T) {
	w := newWorld(t)
	ask := func(host, site string) int {
		req, err := http.NewRequest("POST", w.url+"/api/v1/sign-in/demo", strings.NewReader(`{"role":"owner"}`))
		require.NoError(t, err)
		req.Header.Set("Content-Type", "application/json")
		if host != "" {
			req.Host = host
		}
		if site != "" {
			req.Header.Set("Sec-Fetch-Site", site)
		}
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		_ = res.Body.Close()
		return res.StatusCode
	}
	require.Equal(t, 421, ask("evil.example:8570", ""))
	require.Equal(t, 403, ask("", "cross-site"))
	require.Equal(t, 200, ask("localhost:8470", "same-origin"))
}
