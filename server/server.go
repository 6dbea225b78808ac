// Package server is the application over HTTP: the JSON API under /api/v1 and the embedded front end.
package server

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humaecho"
	"github.com/google/uuid"
	"github.com/labstack/echo/v4"
	"github.com/labstack/echo/v4/middleware"

	"hodos/account"
	"hodos/casework"
	"hodos/core/weather"
	"hodos/night"
	"hodos/store"
)

// WorkClock is the clock that work runs on: visits, weather, due dates, recovery. The demo passes one that can be moved. Today is the
// day of the night's watch, for all firms together.
type WorkClock = night.Clock

// MovableClock is a work clock that can be moved on.
type MovableClock interface {
	WorkClock
	Advance(ctx context.Context, days int) (time.Time, error)
}

// Options make a server.
type Options struct {
	Store         *store.Store
	Clock         WorkClock
	Weather       casework.Service
	Laboratory    Laboratory // nil: results come in as files only
	Web           fs.FS      // the built front end; without index.html the server says that it is not built
	Log           *slog.Logger
	SecureCookies bool
	// DemoPeople are the people whom one click signs in, by role; nil outside the demo.
	DemoPeople map[string]uuid.UUID
	DemoFirm   uuid.UUID
	Now        func() time.Time // real time, for sessions and the audit; nil for time.Now
	Jobs       *night.Options   // how Run works the job queue; nil for a server that leaves it to others
	Mail       account.Mail     // nil: links to set a password are handed over by hand
	URL        string           // where people reach the application, for letters
	// Proxies are the networks of the proxies in front: their word for where a request comes from is taken, nobody else's.
	Proxies []*net.IPNet
	// Deadline of a request; nought for the usual.
	Deadline time.Duration
	// Sending is how long a caller may take to send the body of a request; nought for the usual.
	Sending time.Duration
}

// Server is the application.
type Server struct {
	store         *store.Store
	clock         WorkClock
	weather       casework.Service
	accounts      *account.Book
	heavy         underWay
	deadline      time.Duration
	sending       time.Duration
	normalYears   sync.Map // by station: twelve monthly means, asked once
	known         *casework.Known
	laboratory    Laboratory
	log           *slog.Logger
	api           huma.API
	echo          *echo.Echo
	web           fs.FS
	secureCookies bool
	demo          map[string]uuid.UUID
	demoFirm      uuid.UUID
	now           func() time.Time
	jobs          *night.Jobs
}

// knownLists is how many stations' days are kept between requests: some 50 MB at most.
const knownLists = 128

// maxBody is the largest request that is read: a case file with some years of daily weather.
const maxBody = "8M"

// New wires the server; it does not listen yet.
func New(o Options) *Server {
	s := &Server{store: o.Store, clock: o.Clock, weather: o.Weather, laboratory: o.Laboratory, log: o.Log, web: o.Web,
		secureCookies: o.SecureCookies, demo: o.DemoPeople, demoFirm: o.DemoFirm, now: o.Now, known: casework.NewKnown(knownLists)}
	if s.log == nil {
		s.log = slog.Default()
	}
	if s.now == nil {
		s.now = time.Now
	}
	if s.deadline = o.Deadline; s.deadline == 0 {
		s.deadline = usualDeadline
	}
	if s.sending = o.Sending; s.sending == 0 {
		s.sending = usualSending
	}
	s.accounts = &account.Book{Store: o.Store, Now: s.now, Log: s.log, Mail: o.Mail, URL: o.URL}
	if o.Jobs != nil && s.store != nil {
		watcher := night.Watcher{Store: s.store, Weather: s.weather, Now: s.now, Mail: o.Mail, URL: o.URL, Log: s.log}
		jobs, err := night.New(watcher, s.clock, s.log, *o.Jobs)
		if err != nil {
			s.log.Error("no jobs are worked here", "error", err)
		} else {
			s.jobs = jobs
		}
	}
	e := echo.New()
	e.HideBanner, e.HidePort = true, true
	e.HTTPErrorHandler = s.httpError
	e.IPExtractor = extractor(o.Proxies)
	e.Use(
		s.logged,
		middleware.RecoverWithConfig(middleware.RecoverConfig{LogErrorFunc: s.panicked}),
		s.hosted,
		s.headers,
		s.received,
		middleware.BodyLimit(maxBody),
		plainText,
		middleware.GzipWithConfig(middleware.GzipConfig{MinLength: 1400, Level: 1, Skipper: isCompressed}),
	)
	e.GET("/healthz", func(c echo.Context) error { return c.String(http.StatusOK, "ok\n") })
	e.GET("/readyz", func(c echo.Context) error {
		ctx, cancel := context.WithTimeout(c.Request().Context(), 2*time.Second)
		defer cancel()
		if s.store == nil || s.store.Ping(ctx) != nil {
			return c.String(http.StatusServiceUnavailable, "the database does not answer\n")
		}
		return c.String(http.StatusOK, "ready\n")
	})
	s.echo = e

	config := huma.DefaultConfig("Hodos", "1")
	config.DocsPath, config.SchemasPath = "", ""
	config.OpenAPIPath = "/openapi"
	config.CreateHooks = nil // no $schema links
	config.Servers = []*huma.Server{{URL: "/api/v1"}}
	s.api = humaecho.NewWithGroup(e, e.Group("/api/v1"), config)
	s.api.UseMiddleware(s.guard)
	s.routes()
	e.GET("/*", s.page)
	e.HEAD("/*", s.page)
	return s
}

// forecast asks the service; without one, and when it cannot be asked, there is no forecast and the log says so.
func (s *Server) forecast(ctx context.Context, station store.Station, today time.Time, days int) []weather.Day {
	if s.weather == nil {
		return nil
	}
	out, err := s.weather.Forecast(ctx, station, today, days)
	if err != nil {
		s.log.Warn("no forecast", "station", station.Name, "error", err)
		return nil
	}
	return slices.Clone(out) // the service may keep its own
}

// OpenAPI is the description of the API, made from the Go types.
func (s *Server) OpenAPI() ([]byte, error) { return json.MarshalIndent(s.api.OpenAPI(), "", "  ") }

// ServeHTTP answers one request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.echo.ServeHTTP(w, r) }

// Work begins to work the job queue, where the options say so; rest lets the jobs under way finish.
func (s *Server) Work(ctx context.Context) (rest func(), err error) {
	if s.jobs == nil {
		return func() {}, nil
	}
	if err := s.jobs.Start(context.WithoutCancel(ctx)); err != nil {
		return nil, fmt.Errorf("start the jobs: %w", err)
	}
	return func() {
		end, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		if err := s.jobs.Stop(end); err != nil {
			s.log.Error("jobs under way were left; another server takes them over", "error", err)
		}
	}, nil
}

// Run listens until the context ends, then lets the requests under way finish.
func (s *Server) Run(ctx context.Context, listen string) error {
	srv := &http.Server{Addr: listen, Handler: s.echo, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second,
		WriteTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute}
	rest, err := s.Work(ctx)
	if err != nil {
		return err
	}
	defer rest()
	failed := make(chan error, 1)
	go func() { failed <- srv.ListenAndServe() }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	s.log.Info("stopping: finishing the requests under way")
	end, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	if err := srv.Shutdown(end); err != nil {
		return err
	}
	if err := <-failed; !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

func (s *Server) logged(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c echo.Context) error {
		start, by := s.now(), &asker{}
		c.SetRequest(c.Request().WithContext(context.WithValue(c.Request().Context(), askerKey{}, by)))
		err := next(c)
		if err != nil {
			c.Error(err)
		}
		r := c.Request()
		level := slog.LevelInfo
		if c.Response().Status >= 500 {
			level = slog.LevelError
		} else if strings.HasPrefix(r.URL.Path, "/assets/") || r.URL.Path == "/healthz" {
			level = slog.LevelDebug
		}
		s.log.Log(r.Context(), level, "request", "method", r.Method, "path", r.URL.Path, "status", c.Response().Status, "ms",
			s.now().Sub(start).Milliseconds(), "bytes", c.Response().Size, "firm", by.firm, "person", by.person)
		return nil
	}
}

// panicked puts what fell over into the log of the server, with where it did.
func (s *Server) panicked(c echo.Context, err error, stack []byte) error {
	s.log.Error("panic", "path", c.Request().URL.Path, "error", err, "stack", string(stack))
	return err
}

// hosted lets the demo, where one click signs in, be reached by its loopback address alone: a page elsewhere may give its own name this
// address, but it cannot send another Host.
func (s *Server) hosted(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c echo.Context) error {
		host := c.Request().Host
		if h, _, err := net.SplitHostPort(host); err == nil {
			host = h
		}
		if ip := net.ParseIP(strings.Trim(host, "[]")); s.demo != nil && host != "localhost" && (ip == nil || !ip.IsLoopback()) {
			return echo.NewHTTPError(http.StatusMisdirectedRequest)
		}
		return next(c)
	}
}

type nonceKey struct{}

// headers sets the security headers. Scripts come from this host alone; styles from this host and from the component
// library under a nonce of the request; style attributes are allowed for the same library (docs/decisions/0005).
func (s *Server) headers(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c echo.Context) error {
		b := make([]byte, 16)
		_, _ = rand.Read(b)
		nonce := base64.RawStdEncoding.EncodeToString(b)
		c.SetRequest(c.Request().WithContext(context.WithValue(c.Request().Context(), nonceKey{}, nonce)))
		h := c.Response().Header()
		h.Set(
			"Content-Security-Policy",
			"default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'nonce-"+nonce+"'; style-src-attr 'unsafe-inline'; "+
				"img-src 'self' data: blob:; font-src 'self'; media-src 'self'; "+
				"connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; "+
				"frame-ancestors 'none'",
		)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(self), geolocation=(self), microphone=(self)")
		if s.secureCookies {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		if strings.HasPrefix(c.Request().URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
		return next(c)
	}
}

// httpError answers what the API did not answer itself, as problem+json under /api and as text elsewhere.
func (s *Server) httpError(err error, c echo.Context) {
	if c.Response().Committed {
		return
	}
	status, text := http.StatusInternalServerError, "something went wrong here"
	var he *echo.HTTPError
	if errors.As(err, &he) {
		status, text = he.Code, http.StatusText(he.Code)
	} else {
		s.log.Error("unexpected", "path", c.Request().URL.Path, "error", err)
	}
	if strings.HasPrefix(c.Request().URL.Path, "/api/") {
		c.Response().Header().Set("Content-Type", "application/problem+json")
		_ = c.JSON(status, map[string]any{"title": http.StatusText(status), "status": status, "detail": text})
		return
	}
	_ = c.String(status, text+"\n")
}

const notBuilt = `Hodos is running, but its front end is not built into this program.
Build it with "make build" (needs Node), then start again. The API answers under /api/v1.
`

// page serves the front end: files as they are, every other path the one page, with the nonce of the request.
func (s *Server) page(c echo.Context) error {
	p := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
	if strings.HasPrefix(p, "api/") {
		return echo.ErrNotFound
	}
	if s.web == nil {
		return c.String(http.StatusOK, notBuilt)
	}
	if p != "" && p != "index.html" {
		if strings.HasSuffix(p, ".wasm") && strings.HasPrefix(p, "assets/") {
			return s.compressed(c, p, "application/wasm")
		}
		if f, err := s.web.Open(p); err == nil {
			info, err := f.Stat()
			_ = f.Close()
			if err == nil && !info.IsDir() {
				if strings.HasPrefix(p, "assets/") {
					c.Response().Header().Set("Cache-Control", forever)
				} else {
					c.Response().Header().Set("Cache-Control", "no-cache") // the worker of the page among them: a new version is seen
				}
				if path.Ext(p) == ".webmanifest" {
					c.Response().Header().Set("Content-Type", "application/manifest+json")
				}
				http.ServeFileFS(c.Response(), c.Request(), s.web, p)
				return nil
			}
		}
		if strings.HasPrefix(p, "assets/") {
			return echo.ErrNotFound
		}
	}
	html, err := fs.ReadFile(s.web, "index.html")
	if err != nil {
		return c.String(http.StatusOK, notBuilt)
	}
	nonce, _ := c.Request().Context().Value(nonceKey{}).(string)
	c.Response().Header().Set("Cache-Control", "no-cache")
	return c.HTML(http.StatusOK, strings.ReplaceAll(string(html), "__NONCE__", nonce))
}
