package server_test

import (
	"bytes"
	"compress/gzip"
	"io"
	"io/fs"
	"net/http"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/server"
	"hodos/web"
)

// The core for the browser lies compressed and goes out as the caller takes it; the worker of the page is asked for anew each time.
func TestTheCoreGoesOutCompressed(t *testing.T) {
	var packed bytes.Buffer
	z := gzip.NewWriter(&packed)
	_, _ = z.Write([]byte("the core"))
	require.NoError(t, z.Close())
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) {
		o.Web = fstest.MapFS{"index.html": {Data: []byte("x")}, "sw.js": {Data: []byte("w")}, "hodos.webmanifest": {Data: []byte("{}")},
			"assets/core-1.wasm.gz": {Data: packed.Bytes()}, "assets/core-1.wasm.br": {Data: []byte("brotli")}}
	})
	get := func(path, accepts string) (*http.Response, string) {
		r, err := http.NewRequest(http.MethodGet, w.url+path, nil)
		require.NoError(t, err)
		r.Header.Set("Accept-Encoding", accepts)
		answer, err := (&http.Transport{DisableCompression: true}).RoundTrip(r)
		require.NoError(t, err)
		b, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer, string(b)
	}
	for accepts, want := range map[string]struct{ encoding, body string }{
		"gzip, br": {"br", "brotli"}, "gzip": {"gzip", packed.String()}, "identity": {"", "the core"},
	} {
		r, got := get("/assets/core-1.wasm", accepts)
		require.Equal(t, want.body, got, accepts)
		require.Equal(t, want.encoding, r.Header.Get("Content-Encoding"))
		require.Equal(t, "application/wasm", r.Header.Get("Content-Type"))
		require.Contains(t, r.Header.Get("Cache-Control"), "immutable")
	}
	r, _ := get("/assets/core-2.wasm", "br")
	require.Equal(t, 404, r.StatusCode)
	r, _ = get("/sw.js", "")
	require.Equal(t, "no-cache", r.Header.Get("Cache-Control"))
	r, _ = get("/hodos.webmanifest", "")
	require.Equal(t, "application/manifest+json", r.Header.Get("Content-Type"))
	require.Contains(t, r.Header.Get("Content-Security-Policy"), "'wasm-unsafe-eval'")
}

// Loaded over a phone's network the core may weigh so much and no more; and every file that the page is to keep is really there.
func TestWhatThePageKeepsIsThereAndLight(t *testing.T) {
	dist := web.Dist()
	packed, err := fs.Glob(dist, "assets/*.wasm.*")
	require.NoError(t, err)
	require.Len(t, packed, 2, "the front end is not built: make build")
	for _, f := range packed {
		info, err := fs.Stat(dist, f)
		require.NoError(t, err)
		most := map[bool]int64{true: 1_200_000, false: 1_500_000}[strings.HasSuffix(f, ".br")]
		require.LessOrEqual(t, info.Size(), most, f)
	}
	worker, err := fs.ReadFile(dist, "sw.js")
	require.NoError(t, err)
	_, list, _ := strings.Cut(string(worker), "JSON.parse('[")
	list, _, _ = strings.Cut(list, "]')")
	files := strings.Split(strings.ReplaceAll(list, `"`, ""), ",")
	require.Greater(t, len(files), 20)
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) { o.Web = dist })
	for _, f := range files {
		r, err := http.Get(w.url + f)
		require.NoError(t, err)
		_ = r.Body.Close()
		require.Equal(t, 200, r.StatusCode, f)
	}
}
