package e2e

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"regexp"
	"strconv"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

var (
	planFile  = regexp.MustCompile(`^/assets/Plan-[^/]+\.js$`)
	keptFiles = regexp.MustCompile(`JSON\.parse\('(\[.*?\])'\)`)
	mark      = regexp.MustCompile(`'hodos-[^']+'`)
)

// upgraded stands before a server and, once told, serves what comes as another version would: its own list of files under another mark, and the
// code of the plan no longer under its old name.
func upgraded(t *testing.T, server string) (address string, upgrade func()) {
	to, err := url.Parse(server)
	require.NoError(t, err)
	var done atomic.Bool
	proxy := httputil.NewSingleHostReverseProxy(to)
	proxy.ModifyResponse = func(r *http.Response) error {
		if !done.Load() || r.Request.URL.Path != "/sw.js" {
			return nil
		}
		b, err := io.ReadAll(r.Body)
		if err != nil {
			return err
		}
		var files, next []string
		if err := json.Unmarshal(keptFiles.FindSubmatch(b)[1], &files); err != nil {
			return err
		}
		for _, f := range files {
			if !planFile.MatchString(f) {
				next = append(next, f)
			}
		}
		require.Len(t, next, len(files)-1)
		list, err := json.Marshal(next)
		if err != nil {
			return err
		}
		b = keptFiles.ReplaceAll(mark.ReplaceAll(b, []byte("'hodos-next'")), []byte("JSON.parse('"+string(list)+"')"))
		r.Body, r.ContentLength = io.NopCloser(bytes.NewReader(b)), int64(len(b))
		r.Header.Set("Content-Length", strconv.Itoa(len(b)))
		return nil
	}
	front := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if done.Load() && planFile.MatchString(r.URL.Path) {
			http.NotFound(w, r)
			return
		}
		if r.URL.Path == "/sw.js" {
			r.Header.Del("Accept-Encoding")
			r.Header.Del("If-None-Match")
		}
		proxy.ServeHTTP(w, r)
	}))
	t.Cleanup(front.Close)
	return front.URL, func() { done.Store(true) }
}

// The server is brought up to another version while somebody stands on a lawn: the visit goes on with the files that it began with, also those
// that it had not asked for yet and the server has no more. The new version takes over when the last page of the old one is closed.
func TestANewVersionInMidVisit(t *testing.T) {
	server, _ := start(t)
	address, upgrade := upgraded(t, server)
	p := open(t, address)
	p.signIn("technician")
	p.until("its files are kept", `navigator.serviceWorker.controller !== null`)
	p.visit("/") // every file from here on by way of the worker
	p.openVisit("Quill")
	visit := eval[string](p, `location.pathname`)
	p.click(`[data-finding=onset-speed] [data-value=weeks]`)
	p.until("saved", allSaved)
	const marks = `caches.keys().then((k) => { window.__marks = k.sort().join() })`
	p.until("one version lies here", `(`+marks+`, window.__marks && !window.__marks.includes('hodos-next'))`)
	old := eval[string](p, `window.__marks`)

	upgrade()
	eval[bool](p, `navigator.serviceWorker.getRegistration().then((r) => r.update()), true`)
	p.until("the next version has come", `(navigator.serviceWorker.getRegistration().then((r) => { window.__waits = !!r.waiting }), window.__waits)`)
	p.click(`[data-finding=neighbours-affected] [data-value=few]`)
	p.until("saved", allSaved)
	p.clickText("Plan") // of which no code was loaded yet
	p.sees("[data-action]")
	p.until("both lie here", `(`+marks+`, window.__marks?.split(',').includes('hodos-next') && window.__marks.includes(`+quoted(old)+`))`)

	// the last page closes; whoever opens it anew has the new version, and the answers stand
	took := false
	for range 10 { // the browser lets go of a closed page in its own time
		p.do("close", chromedp.Navigate("about:blank"), chromedp.Sleep(time.Second))
		p.do("open anew", chromedp.Navigate(address+visit))
		p.sees(".scale-row")
		p.until("its versions are known", `(`+marks+`, window.__marks)`)
		if took = eval[string](p, `window.__marks`) == "hodos-next"; took {
			break
		}
	}
	require.True(t, took, "the new version alone")
	p.until("the answers stand", `document.querySelector('[data-finding=neighbours-affected] [data-value=few]')?.ariaPressed === 'true'`)
}
