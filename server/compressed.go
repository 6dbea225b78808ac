package server

import (
	"bytes"
	"compress/gzip"
	"io"
	"io/fs"
	"net/http"
	"strings"

	"github.com/labstack/echo/v4"
)

// forever is for files that are named after what is in them.
const forever = "public, max-age=31536000, immutable"

// isCompressed tells the files that lie compressed already.
func isCompressed(c echo.Context) bool { return strings.HasSuffix(c.Request().URL.Path, ".wasm") }

// compressed serves a file of which only the compressed forms are kept, in the one that the caller takes: Brotli, gzip, or unpacked.
func (s *Server) compressed(c echo.Context, p, kind string) error {
	h := c.Response().Header()
	accepts := c.Request().Header.Get("Accept-Encoding")
	for _, form := range []struct{ encoding, ending string }{{"br", ".br"}, {"gzip", ".gz"}} {
		if b, err := fs.ReadFile(s.web, p+form.ending); err == nil && strings.Contains(accepts, form.encoding) {
			h.Set("Content-Encoding", form.encoding)
			h.Set("Vary", "Accept-Encoding")
			h.Set("Cache-Control", forever)
			return c.Blob(http.StatusOK, kind, b)
		}
	}
	b, err := fs.ReadFile(s.web, p+".gz")
	if err != nil {
		return echo.ErrNotFound
	}
	plain, err := gzip.NewReader(bytes.NewReader(b))
	if err != nil {
		return err
	}
	h.Set("Vary", "Accept-Encoding")
	h.Set("Cache-Control", forever)
	h.Set("Content-Type", kind)
	c.Response().WriteHeader(http.StatusOK)
	_, err = io.Copy(c.Response(), plain)
	return err
}
