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
	"net/http/httptest"
	"net/url"
	"os"
	"slices"
	"strconv"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/server"
	"hodos/store"
)

// large is a server over the database of a large firm, with the sessions of its forty technicians.
type large struct {
	url    string
	store  *store.Store
	app    string // address of the database
	people []account.Opened
	zones  []place // an open visit with its zone for each of them
	door   *http.Client
}

func openLarge(b *testing.B, sites int) *large {
	b.Helper()
	owner, app := testdb.New(b)
	s, err := store.Open(app)
	require.NoError(b, err)
	b.Cleanup(func() { _ = s.Close() })
	ctx := context.Background()
	_, err = demo.Load(ctx, s)
	require.NoError(b, err)
	began := time.Now()
	require.NoError(b, demo.Enlarge(ctx, s, sites))
	b.Logf("%d sites made in %.1f s", sites, time.Since(began).Seconds())
	settle(b, owner, app)
	srv := httptest.NewServer(server.New(server.Options{Store: s, Clock: demo.Clock{Store: s}, Weather: demo.Sky{}, DemoPeople: demo.People,
		DemoFirm: demo.Firm, Log: slog.New(slog.DiscardHandler)}))
	b.Cleanup(srv.Close)
	l := &large{url: srv.URL + "/api/v1", store: s, app: app, door: &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 64}}}
	book := &account.Book{Store: s, Now: time.Now, Log: slog.New(slog.DiscardHandler)}
	require.NoError(b, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		var people []store.Person
		if err := tx.Where("name LIKE 'Technician %'").Order("id").Find(&people).Error; err != nil {
			return err
		}
		for _, p := range people {
			var v store.Visit
			if err := tx.Where("person_id = ? AND closed_on IS NULL AND kind = 'diagnosis'", p.ID).Order("due_on, id").First(&v).Error; err != nil {
				return err
			}
			var z store.Zone
			if err := tx.Where("site_id = ?", v.SiteID).Order("id").First(&z).Error; err != nil {
				return err
			}
			l.zones = append(l.zones, place{site: v.SiteID.String(), zone: z.ID.String(), visit: v.ID.String()})
		}
		for _, p := range people {
			o, err := book.Open(ctx, demo.Firm, p.ID, account.From{Network: "127.0.0.1", Agent: "bench"})
			if err != nil {
				return err
			}
			l.people = append(l.people, o)
		}
		return nil
	}))
	return l
}

// settle does what the database does by itself within a minute: it counts the rows anew and tidies the pages.
func settle(b *testing.B, owner, app string) {
	o, err := url.Parse(owner)
	require.NoError(b, err)
	a, err := url.Parse(app)
	require.NoError(b, err)
	o.Path = a.Path
	conn, err := pgx.Connect(context.Background(), o.String())
	require.NoError(b, err)
	defer conn.Close(context.Background())
	_, err = conn.Exec(context.Background(), "VACUUM ANALYZE")
	require.NoError(b, err)
}

// ask is one request in somebody's session; it returns the size of the answer.
func (l *large) ask(b testing.TB, person int, method, path string, in any) int64 {
	b.Helper()
	var body io.Reader
	if in != nil {
		text, err := json.Marshal(in)
		require.NoError(b, err)
		body = bytes.NewReader(text)
	}
	req, err := http.NewRequest(method, l.url+path, body)
	require.NoError(b, err)
	o := l.people[person]
	req.AddCookie(&http.Cookie{Name: "hodos_session", Value: o.Token})
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("X-Hodos-Csrf", o.CSRF)
	res, err := l.door.Do(req)
	require.NoError(b, err)
	defer res.Body.Close()
	n, err := io.Copy(io.Discard, res.Body)
	require.NoError(b, err)
	require.Equal(b, 200, res.StatusCode, path)
	return n
}

var tapValues = []struct {
	finding string
	value   any
}{{"pull-test", "resists"}, {"pull-test", "lifts-like-carpet"}, {"thatch-mm", 14}, {"soil-moisture", "dry"}, {"pattern", []string{"irregular-patches"}},
	{"grubs-per-m2", 40}, {"soil-ph", 6.4}}

func (l *large) tap(b testing.TB, person, nth int) {
	z, v := l.zones[person], tapValues[nth%len(tapValues)]
	l.ask(b, person, "POST", "/visits/"+z.visit+"/zones/"+z.zone+"/answers", answers(map[string]any{"id": uuid.Must(uuid.NewV7()).String(),
		"finding": v.finding, "spot": "worst", "value": v.value, "base": 1 << 40}))
}

func quantile(list []time.Duration, q float64) float64 {
	slices.Sort(list)
	return float64(list[min(len(list)-1, int(q*float64(len(list))))].Microseconds()) / 1000
}

// BenchmarkSize is a firm of 10,000 sites (HODOS_SITES for another number): the pages a day is worked with, a tap, and forty taps a
// second from forty people for twenty seconds.
func BenchmarkSize(b *testing.B) {
	sites := 10_000
	if n, err := strconv.Atoi(os.Getenv("HODOS_SITES")); err == nil {
		sites = n
	}
	l := openLarge(b, sites)
	z := l.zones[0]
	for _, page := range []struct{ name, path string }{{"me", "/me"}, {"day", "/day"}, {"day-mine", "/day?mine=true"}, {"sites", "/sites"},
		{"sites-found", "/sites?find=birch+ladale"}, {"sites-by-street", "/sites?find=4711"}, {"sites-none", "/sites?find=qqqq"}, {"clients", "/clients?find=kell"},
		{"site", "/sites/" + z.site}, {"history", "/sites/" + z.site + "/history"}, {"visit", "/visits/" + z.visit},
		{"scales", "/visits/" + z.visit + "/zones/" + z.zone + "/scales"}, {"samples", "/samples?open=true"}, {"recovery", "/zones/" + z.zone + "/recovery"},
		{"likely", "/causes?site=" + z.site}} {
		b.Run(page.name, func(b *testing.B) {
			var took []time.Duration
			var n int64
			for b.Loop() {
				began := time.Now()
				n = l.ask(b, 0, "GET", page.path, nil)
				took = append(took, time.Since(began))
			}
			b.ReportMetric(quantile(took, .5), "ms-median")
			b.ReportMetric(quantile(took, .95), "ms-95%")
			b.ReportMetric(float64(n)/1024, "KB")
			b.ReportMetric(0, "ns/op")
		})
	}
	b.Run("bare", func(b *testing.B) { bare(b, l) })
	b.Run("tap", func(b *testing.B) {
		var took []time.Duration
		nth := 0
		for b.Loop() {
			began := time.Now()
			l.tap(b, 0, nth)
			took = append(took, time.Since(began))
			nth++
		}
		b.ReportMetric(quantile(took, .5), "ms-median")
		b.ReportMetric(quantile(took, .95), "ms-95%")
		b.ReportMetric(0, "ns/op")
	})
	var took []time.Duration // once, however often the benchmark is called
	b.Run("forty-people", func(b *testing.B) {
		if took == nil {
			took = forty(b, l, 20*time.Second)
		}
		b.ReportMetric(quantile(took, .5), "ms-median")
		b.ReportMetric(quantile(took, .99), "ms-99%")
		b.ReportMetric(quantile(took, 1), "ms-worst")
		b.ReportMetric(float64(len(took)), "taps")
		b.ReportMetric(0, "ns/op")
	})
}

// forty people tap once a second each, whatever became of the tap before.
func forty(b *testing.B, l *large, span time.Duration) (took []time.Duration) {
	var mu sync.Mutex
	var all sync.WaitGroup
	var nth atomic.Int64
	began := time.Now()
	for i := 0; time.Since(began) < span; i++ {
		time.Sleep(time.Until(began.Add(time.Duration(i) * 25 * time.Millisecond)))
		all.Go(func() {
			started := time.Now()
			l.tap(b, i%len(l.people), int(nth.Add(1)))
			d := time.Since(started)
			mu.Lock()
			took = append(took, d)
			mu.Unlock()
		})
	}
	all.Wait()
	return took
}

// bare is what the least handler costs that answers /me: net/http and pgx, two questions in one transaction.
func bare(b *testing.B, l *large) {
	ctx := context.Background()
	pool, err := pgxpool.New(ctx, l.app)
	require.NoError(b, err)
	defer pool.Close()
	person := demo.People["technician"]
	srv := &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		tx, err := pool.Begin(r.Context())
		if err != nil {
			http.Error(w, err.Error(), 500)
			return
		}
		defer func() { _ = tx.Rollback(r.Context()) }()
		var name, role, firm string
		if _, err = tx.Exec(r.Context(), "SELECT set_config('app.firm', $1, true)", demo.Firm.String()); err == nil {
			err = tx.QueryRow(r.Context(), "SELECT p.name, p.role, f.name FROM people p JOIN firms f ON f.id = p.firm_id WHERE p.id = $1", person).
				Scan(&name, &role, &firm)
		}
		if err == nil {
			err = tx.Commit(r.Context())
		}
		if err != nil {
			http.Error(w, err.Error(), 500)
			return
		}
		_ = json.NewEncoder(w).Encode(map[string]string{"name": name, "role": role, "firm": firm})
	})}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	go func() { _ = srv.Serve(listener) }()
	defer srv.Close()
	var took []time.Duration
	for b.Loop() {
		began := time.Now()
		res, err := l.door.Get(fmt.Sprintf("http://%s/", listener.Addr()))
		require.NoError(b, err)
		_, _ = io.Copy(io.Discard, res.Body)
		_ = res.Body.Close()
		require.Equal(b, 200, res.StatusCode)
		took = append(took, time.Since(began))
	}
	b.ReportMetric(quantile(took, .5), "ms-median")
	b.ReportMetric(quantile(took, .95), "ms-95%")
	b.ReportMetric(0, "ns/op")
}
