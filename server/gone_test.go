package server_test

import (
	"bytes"
	"context"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/server"
)

// Whoever goes to another page before the answer is there has found no fault: nobody is called to the log for it.
func TestARequestThatWasGivenUpIsNoFault(t *testing.T) {
	var log bytes.Buffer
	w := newWorldWith(t, demo.Sky{}, func(o *server.Options) {
		o.Log = slog.New(slog.NewTextHandler(&log, &slog.HandlerOptions{Level: slog.LevelWarn}))
	})
	c := w.as("technician")
	gone, stop := context.WithCancel(context.Background())
	stop()
	for _, path := range []string{"/api/v1/me", "/api/v1/day"} {
		req := httptest.NewRequestWithContext(gone, "GET", path, nil)
		at, err := http.NewRequest("GET", w.url, nil)
		require.NoError(t, err)
		req.Host = at.URL.Host
		for _, cookie := range c.http.Jar.Cookies(at.URL) {
			req.AddCookie(cookie)
		}
		rec := httptest.NewRecorder()
		w.srv.ServeHTTP(rec, req)
		require.Equal(t, 499, rec.Code, path)
	}
	require.Empty(t, log.String())
}
