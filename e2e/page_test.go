// Package e2e drives the real interface in a real browser against a real server and database.
package e2e

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"net/http/httptest"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/night"
	"hodos/server"
	"hodos/standin"
	"hodos/store"
	"hodos/web"
)

// start brings a server with the demo firm up on a port of its own.
func start(t *testing.T) (address string, s *store.Store) {
	t.Helper()
	_, err := web.Dist().Open("index.html")
	require.NoError(t, err, "the front end is not built: make build")
	s = testdb.Copy(t, "demo", func(s *store.Store) error {
		_, err := demo.Load(context.Background(), s)
		return err
	})
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	app := server.New(server.Options{Store: s, Jobs: &night.Options{Poll: 100 * time.Millisecond}, Clock: demo.Clock{Store: s},
		Weather: demo.Sky{}, Laboratory: standin.Laboratory{}, Web: web.Dist(), DemoPeople: demo.People, DemoFirm: demo.Firm, Mail: &standin.Mailbox{}, URL: "http://" + l.Addr().String(),
		Log: slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn}))})
	rest, err := app.Work(context.Background())
	require.NoError(t, err)
	t.Cleanup(rest)
	srv := httptest.NewUnstartedServer(app)
	_ = srv.Listener.Close()
	srv.Listener = l
	srv.Start()
	t.Cleanup(srv.Close)
	return srv.URL, s
}

// page is one tab of the browser.
type page struct {
	t       *testing.T
	ctx     context.Context
	address string
	mu      sync.Mutex
	asked   []string // every address that the page asked for
}

func chromium(t *testing.T) string {
	t.Helper()
	if p := os.Getenv("HODOS_CHROMIUM"); p != "" {
		return p
	}
	for _, name := range []string{"chromium", "chromium-browser", "google-chrome"} {
		if p, err := exec.LookPath(name); err == nil {
			return p
		}
	}
	t.Fatal("no Chromium: make test installs it")
	return ""
}

func open(t *testing.T, address string) *page {
	t.Helper()
	return openIn(t, address, t.TempDir())
}

// openIn opens a browser that keeps what it keeps in a directory: opened there again it is the same browser after a restart.
func openIn(t *testing.T, address, dir string) *page {
	t.Helper()
	opts := append([]chromedp.ExecAllocatorOption{}, chromedp.DefaultExecAllocatorOptions[:]...)
	opts = append(opts, chromedp.ExecPath(chromium(t)), chromedp.NoSandbox, chromedp.WindowSize(1280, 800), chromedp.UserDataDir(dir),
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("force-color-profile", "srgb"), chromedp.Flag("lang", "en-GB"),
		chromedp.Flag("use-fake-ui-for-media-stream", true), chromedp.Flag("use-fake-device-for-media-stream", true))
	alloc, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	t.Cleanup(stop)
	ctx, cancel := chromedp.NewContext(alloc)
	t.Cleanup(cancel)
	ctx, end := context.WithTimeout(ctx, 4*time.Minute)
	t.Cleanup(end)
	p := &page{t: t, ctx: ctx, address: address}
	require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800)))
	go func() {
		for e, err := range chromedp.Events(ctx, network.RequestWillBeSent) {
			if err != nil {
				return // the tab is gone
			}
			if e.Request == nil {
				continue
			}
			p.mu.Lock()
			p.asked = append(p.asked, e.Request.URL)
			p.mu.Unlock()
		}
	}()
	return p
}

func (p *page) do(what string, steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.fail(what, err)
	}
}

// fail keeps a picture and the text of the page for whoever reads the failure.
func (p *page) fail(what string, err error) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
	defer cancel()
	text, _ := chromedp.Run(ctx, chromedp.Evaluate[string](`location.pathname + "\n" + document.body.innerText.slice(0, 1500)`))
	p.t.Fatalf("%s: %v\n--- page ---\n%s", what, err, text)
}

func (p *page) visit(path string) {
	p.t.Helper()
	p.do("open "+path, chromedp.Navigate(p.address+path))
}

func (p *page) sees(css string) {
	p.t.Helper()
	p.do("wait for "+css, chromedp.WaitVisible(chromedp.CSS(css)))
}

// click presses what stands still: on a busy machine the page may be drawn anew, or move on, between the look and the press.
func (p *page) click(css string) {
	p.t.Helper()
	p.until(css+" stands still", fmt.Sprintf(`(() => { const e = document.querySelector(%q); if (!e) return false
		const r = e.getBoundingClientRect(); const at = [%q, r.left, r.top, r.width].join(); const still = window.__stood === at
		window.__stood = at; return still })()`, css, css))
	press := func() error {
		ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
		defer cancel()
		return chromedp.Do(ctx, chromedp.ScrollIntoView(chromedp.CSS(css)), chromedp.Click(chromedp.CSS(css), chromedp.NodeVisible))
	}
	err := press()
	if err != nil && strings.Contains(err.Error(), "Could not find node") {
		err = press()
	}
	if err != nil {
		p.fail("click "+css, err)
	}
}

// clickText presses the first button or link with the text.
func (p *page) clickText(text string) {
	p.t.Helper()
	p.until("press "+text, fmt.Sprintf(`(() => { const e = [...document.querySelectorAll('button, a')].find((b) => b.innerText.trim() === %q && !b.disabled); if (!e) return false; e.click(); return true })()`, text))
}

func (p *page) types(css, text string) {
	p.t.Helper()
	p.do("type into "+css, chromedp.Focus(chromedp.CSS(css)),
		chromedp.Evaluate[chromedp.Void](fmt.Sprintf(`document.querySelector(%q).select && document.querySelector(%q).select()`, css, css)),
		chromedp.KeyEvent(text))
}

// keys presses keys one after the other on whatever has the focus.
func (p *page) keys(keys ...string) {
	p.t.Helper()
	for _, k := range keys {
		p.do("press "+k, chromedp.KeyEvent(k), chromedp.Sleep(30*time.Millisecond))
	}
}

const (
	enter = kb.Enter
	tab   = kb.Tab
)

// until polls a condition of the page.
func (p *page) until(what, js string) {
	p.t.Helper()
	deadline := time.Now().Add(20 * time.Second)
	for {
		ctx, cancel := context.WithTimeout(p.ctx, 5*time.Second)
		ok, err := chromedp.Run(ctx, chromedp.Evaluate[bool](`!!(`+js+`)`))
		cancel()
		if err == nil && ok {
			return
		}
		if time.Now().After(deadline) {
			p.fail(what, fmt.Errorf("not within 20 s (%v): %s", err, js))
		}
		time.Sleep(60 * time.Millisecond)
	}
}

func eval[T any](p *page, js string) T {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](js))
	if err != nil {
		p.fail("evaluate "+js, err)
	}
	return v
}

// has waits until the page's text holds the words.
func (p *page) has(words string) {
	p.t.Helper()
	p.until("read "+words, fmt.Sprintf(`document.body.innerText.includes(%q)`, words))
}

func (p *page) shot(file string) {
	p.t.Helper()
	time.Sleep(250 * time.Millisecond)
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	b, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	require.NoError(p.t, err)
	require.NoError(p.t, os.MkdirAll(filepath.Dir(file), 0o755))
	require.NoError(p.t, os.WriteFile(file, b, 0o644))
}

// strangers are the requests that went to another host.
func (p *page) strangers() (out []string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	own, _ := url.Parse(p.address)
	for _, a := range p.asked {
		u, err := url.Parse(a)
		if err != nil || (u.Host != own.Host && u.Scheme != "data" && u.Scheme != "blob" && !strings.HasPrefix(a, "chrome")) {
			out = append(out, a)
		}
	}
	return out
}

func (p *page) signIn(role string) {
	p.t.Helper()
	p.visit("/sign-in")
	p.click(`[data-demo=` + role + `]`)
	p.sees(".day .due")
}

// siteZone finds the first zone of a site by a part of its name.
func siteZone(t *testing.T, p *page, name string) string {
	t.Helper()
	p.until("load the sites", fmt.Sprintf(`(() => { if (window.__zone) return true; fetch('/api/v1/sites').then((r) => r.json()).then((l) => { window.__zone = l.sites.find((s) => s.name.includes(%q)).zones[0].id }); return false })()`, name))
	return eval[string](p, `(() => { const z = window.__zone; delete window.__zone; return z })()`)
}

// quoted is a text as JavaScript reads it.
func quoted(s string) string { return fmt.Sprintf("%q", s) }

// forgetful has the browser ask the server for every file, as one does that keeps none.
func forgetful(p *page) {
	p.t.Helper()
	_, err := chromedp.Call(p.ctx, network.Enable, network.EnableParams{})
	require.NoError(p.t, err)
	_, err = chromedp.Call(p.ctx, network.SetBypassServiceWorker, network.SetBypassServiceWorkerParams{Bypass: true})
	require.NoError(p.t, err)
	_, err = chromedp.Call(p.ctx, network.SetCacheDisabled, network.SetCacheDisabledParams{CacheDisabled: true})
	require.NoError(p.t, err)
}

// offline cuts the page off, or gives it its connection back.
func offline(p *page, cut bool) {
	p.t.Helper()
	_, err := chromedp.Call(p.ctx, network.EmulateNetworkConditionsByRule, network.EmulateNetworkConditionsByRuleParams{
		MatchedNetworkConditions: []*network.Conditions{{DownloadThroughput: -1, UploadThroughput: -1, Offline: cut}}})
	require.NoError(p.t, err)
}

// mayKnowWhere lets the page ask the device where it is.
func (p *page) mayKnowWhere() {
	p.t.Helper()
	p.do("position", chromedp.Func(func(ctx context.Context, c *chromedp.Target) error {
		_, err := cdp.Call(ctx, c, browser.SetPermission, browser.SetPermissionParams{
			Permission: &browser.PermissionDescriptor{Name: "geolocation"}, Setting: browser.PermissionSettingGranted})
		return err
	}))
}

// stands puts the device at a place, good to three metres.
func (p *page) stands(latitude, longitude float64) {
	p.t.Helper()
	good := 3.0
	p.do("stand", chromedp.Func(func(ctx context.Context, c *chromedp.Target) error {
		_, err := cdp.Call(ctx, c, emulation.SetGeolocationOverride, emulation.SetGeolocationOverrideParams{Latitude: &latitude,
			Longitude: &longitude, Accuracy: &good})
		return err
	}))
}

// openSite opens a site from the list of them.
func (p *page) openSite(site string) {
	p.t.Helper()
	p.visit("/sites")
	p.until("to the site", `(() => { const a = [...document.querySelectorAll('nav[aria-label=Sites] a')].find((a) =>
		a.innerText.includes('`+site+`')); if (a) a.click(); return !!a })()`)
	p.until("it stands", `document.querySelector('nav[aria-label=Sites] [aria-current=page]')?.innerText.includes('`+site+`') &&
		!!document.querySelector('a.export[href="' + location.pathname + '/client"]')`)
}
