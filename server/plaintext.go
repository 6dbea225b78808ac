package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"os"
	"strings"

	"github.com/labstack/echo/v4"
)

// plainText refuses bodies with characters that nobody types and no column takes: NUL and the other controls but tab and the ends of
// lines. JSON has them only as escapes, so that this one place sees them all.
func plainText(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c echo.Context) error {
		r := c.Request()
		if r.Body == nil || r.Method == http.MethodGet || !strings.Contains(r.Header.Get("Content-Type"), "json") {
			return next(c)
		}
		b, err := io.ReadAll(r.Body)
		var he *echo.HTTPError
		if errors.As(err, &he) {
			return he
		}
		if errors.Is(err, os.ErrDeadlineExceeded) {
			return echo.NewHTTPError(http.StatusRequestTimeout, "the request took too long to come in")
		}
		if err != nil {
			return echo.NewHTTPError(http.StatusBadRequest, "the request was cut off")
		}
		if at := control(b); at >= 0 {
			c.Response().Header().Set("Content-Type", "application/problem+json")
			return c.JSON(http.StatusUnprocessableEntity, problemBody("please check what was entered: it holds a control character", "body",
				"holds a control character near "+near(b, at)))
		}
		r.Body = wholeBody{io.NopCloser(bytes.NewReader(b)), c.Response()}
		return next(c)
	}
}

// control finds the first escape of a control character, or -1. A backslash that is itself escaped begins none.
func control(b []byte) int {
	for i := 0; i+5 < len(b); i++ {
		if b[i] != '\\' {
			continue
		}
		if b[i+1] == 'u' && b[i+2] == '0' && b[i+3] == '0' && (b[i+4] == '0' || b[i+4] == '1' || b[i+4] == '7') {
			switch code := strings.ToLower(string(b[i+4 : i+6])); code {
			case "09", "0a", "0d":
			default:
				if code[0] != '7' || code == "7f" {
					return i
				}
			}
		}
		i++ // what follows a backslash is spent
	}
	return -1
}

// near is what stands before a place, for whoever looks for it.
func near(b []byte, at int) string {
	text, _ := json.Marshal(strings.ToValidUTF8(string(b[max(0, at-20):at]), ""))
	return string(text)
}

func problemBody(detail, where, reason string) map[string]any {
	return map[string]any{"title": http.StatusText(http.StatusUnprocessableEntity), "status": http.StatusUnprocessableEntity, "detail": detail,
		"errors": []map[string]any{{"location": where, "message": reason}}}
}
