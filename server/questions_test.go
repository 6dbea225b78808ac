package server_test

import (
	"context"
	"log/slog"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/server"
	"hodos/store"
)

// counted remembers every question to the database.
type counted struct {
	mu    sync.Mutex
	asked []string
}

func (c *counted) TraceQueryStart(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryStartData) context.Context {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.asked = append(c.asked, strings.Join(strings.Fields(d.SQL), " "))
	return ctx
}

func (*counted) TraceQueryEnd(context.Context, *pgx.Conn, pgx.TraceQueryEndData) {}

// during is what is asked while f runs.
func (c *counted) during(f func()) []string {
	c.mu.Lock()
	c.asked = nil
	c.mu.Unlock()
	f()
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.asked
}

// The busiest requests ask the database so often and no oftener, and as often for a firm of three hundred sites more. One question stands
// before each: who is asking; the demo's clock is one more.
func TestQuestionsToTheDatabase(t *testing.T) {
	ctx := context.Background()
	_, app := testdb.New(t)
	trace := &counted{}
	s, err := store.OpenTraced(app, trace)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	_, err = demo.Load(ctx, s)
	require.NoError(t, err)
	srv := httptest.NewServer(server.New(server.Options{Store: s, Clock: demo.Clock{Store: s}, Weather: demo.Sky{}, DemoPeople: demo.People,
		DemoFirm: demo.Firm, Log: slog.New(slog.DiscardHandler)}))
	t.Cleanup(srv.Close)
	w := &world{t: t, store: s, url: srv.URL}
	tech := w.as("technician")
	p := tech.place("Quill")
	n := 0
	requests := []struct {
		name string
		most int
		ask  func()
	}{
		{"me", 2, func() { tech.must(200, "GET", "/me", nil, nil) }},
		{"day", 18, func() { tech.must(200, "GET", "/day", nil, nil) }},
		{"sites", 7, func() { tech.must(200, "GET", "/sites", nil, nil) }},
		{"sites found", 7, func() { tech.must(200, "GET", "/sites?find=quill", nil, nil) }},
		{"one site", 6, func() { tech.must(200, "GET", "/sites/"+p.site, nil, nil) }},
		{"history", 8, func() { tech.must(200, "GET", "/sites/"+p.site+"/history", nil, nil) }},
		{"scales", 19, func() { tech.must(200, "GET", p.path("/scales"), nil, nil) }},
		{"a tap", 22, func() {
			n++
			tech.must(200, "POST", p.path("/answers"), answers(tap("thatch-mm", n)), nil)
		}},
	}
	for _, r := range requests {
		r.ask() // what is known from the first time on is not asked again
	}
	for _, size := range []string{"small", "large"} {
		for _, r := range requests {
			asked := trace.during(r.ask)
			require.LessOrEqual(t, len(asked), r.most, "%s of a %s firm:\n%s", r.name, size, strings.Join(asked, "\n"))
			require.GreaterOrEqual(t, len(asked), r.most-2, "%s of a %s firm asks less than it says here", r.name, size)
			for _, q := range asked[1:] {
				require.NotContains(t, q, "session_person", r.name)
			}
		}
		if size == "small" {
			require.NoError(t, demo.Enlarge(ctx, s, 300))
		}
	}
}
