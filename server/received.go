package server

import (
	"errors"
	"io"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/labstack/echo/v4"
)

// wholeBody takes the deadline of reading off once a body has come in whole: the time that the answer takes is not the sender's, and a
// deadline that passes meanwhile would give the request up.
type wholeBody struct {
	io.ReadCloser
	w http.ResponseWriter
}

func (b wholeBody) Read(p []byte) (int, error) {
	n, err := b.ReadCloser.Read(p)
	if errors.Is(err, io.EOF) {
		_ = huma.SetReadDeadline(b.w, time.Time{}) // a writer without deadlines has none to take off
	}
	return n, err
}

// received gives a body its time to come in. What reads files gives them more.
func (s *Server) received(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c echo.Context) error {
		if r := c.Request(); r.Body != nil && r.Body != http.NoBody {
			_ = huma.SetReadDeadline(c.Response(), time.Now().Add(s.sending))
			r.Body = wholeBody{r.Body, c.Response()}
		}
		return next(c)
	}
}
