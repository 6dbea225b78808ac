package server

import (
	"context"
	"crypto/subtle"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/netip"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humaecho"
	"github.com/google/uuid"
	"github.com/labstack/echo/v4"

	"hodos/account"
)

const (
	csrfHeader = "X-Hodos-Csrf"
	// usualDeadline of a request: whatever it waits for, the caller hears of it. Files take longer; they end with their connection.
	usualDeadline = 10 * time.Second
	// usualSending is how long the body of a request may be on its way: a phone at the edge of its network takes its time.
	usualSending = 20 * time.Second
	// fileSending is that of a file or a picture.
	fileSending = 3 * time.Minute
)

type (
	identityKey struct{}
	fromKey     struct{}
	askerKey    struct{}
)

// asker is filled in by the guard for the log of requests.
type asker struct{ firm, person string }

func who(ctx context.Context) account.Identity {
	id, _ := ctx.Value(identityKey{}).(account.Identity)
	return id
}

func whence(ctx context.Context) account.From {
	from, _ := ctx.Value(fromKey{}).(account.From)
	return from
}

// network is the part of an address that one customer of a network has to themselves: an IPv4 address, the /64 of an IPv6 address.
func network(address string) string {
	a, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	a = a.Unmap().WithZone("")
	if a.Is4() {
		return a.String()
	}
	p, _ := a.Prefix(64) // 64 bits are there
	return p.String()
}

// extractor finds the address of whoever asks: that of the connection, or behind named proxies the last that none of them has added.
func extractor(proxies []*net.IPNet) echo.IPExtractor {
	if len(proxies) == 0 {
		return echo.ExtractIPDirect()
	}
	trust := []echo.TrustOption{echo.TrustLoopback(false), echo.TrustLinkLocal(false), echo.TrustPrivateNet(false)}
	for _, p := range proxies {
		trust = append(trust, echo.TrustIPRange(p))
	}
	return echo.ExtractIPFromXFFHeader(trust...)
}

// cookieName ties the cookie to this host where it goes over TLS.
func (s *Server) cookieName(name string) string {
	if s.secureCookies {
		return "__Host-" + name
	}
	return name
}

// from says where a request comes from.
func (s *Server) from(c echo.Context) account.From {
	f := account.From{Network: network(c.RealIP()), Agent: c.Request().UserAgent()}
	if device, err := c.Cookie(s.cookieName(deviceCookie)); err == nil {
		f.Device = device.Value
	}
	return f
}

// enrolment are the operations open to an owner who has to set up a second factor first.
var enrolment = map[string]bool{"me": true, "sign-out": true, "begin-second-factor": true, "confirm-second-factor": true}

// guard lets a request through to operations that name a right in their metadata, when the session is good, its person
// may, and a writing request carries the session's token.
func (s *Server) guard(ctx huma.Context, next func(huma.Context)) {
	op := ctx.Operation()
	refuse := func(status int, message string) { _ = huma.WriteErr(s.api, ctx, status, message) }
	ctx = huma.WithValue(ctx, fromKey{}, s.from(humaecho.Unwrap(ctx)))
	if ctx.Method() != http.MethodGet && ctx.Header("Sec-Fetch-Site") == "cross-site" {
		refuse(http.StatusForbidden, "the request comes from another site")
		return
	}
	if op.Metadata["long"] != true {
		in, cancel := context.WithTimeout(ctx.Context(), s.deadline)
		defer cancel()
		ctx = huma.WithContext(ctx, in)
	}
	if op.Metadata["public"] == true {
		next(ctx)
		return
	}
	var token string
	if cookie, err := huma.ReadCookie(ctx, s.cookieName(sessionCookie)); err == nil {
		token = cookie.Value
	}
	id, err := s.accounts.Who(ctx.Context(), token)
	switch {
	case errors.Is(err, account.ErrNobody):
		refuse(http.StatusUnauthorized, err.Error())
		return
	case errors.Is(ctx.Context().Err(), context.Canceled): // whoever asked went to another page
		refuse(499, givenUp)
		return
	case err != nil:
		s.log.Error("read session", "error", err)
		ctx.SetHeader("Retry-After", "2")
		refuse(http.StatusServiceUnavailable, "the database does not answer")
		return
	}
	if a, ok := ctx.Context().Value(askerKey{}).(*asker); ok {
		a.firm, a.person = id.Firm.String(), id.Person.String()
	}
	if ctx.Method() != http.MethodGet && subtle.ConstantTimeCompare([]byte(ctx.Header(csrfHeader)), []byte(id.CSRF)) != 1 {
		refuse(http.StatusForbidden, "the request does not carry the session's token")
		return
	}
	if right, named := op.Metadata["right"].(account.Right); !named || !account.May(id.Role, right) {
		refuse(http.StatusForbidden, fmt.Sprintf("the role %s may not do this", id.Role))
		return
	}
	if id.MustEnrol && !enrolment[op.OperationID] {
		refuse(http.StatusForbidden, "the firm wants a second factor of its owners: set yours up first")
		return
	}
	if op.Metadata["heavy"] == true {
		if !s.heavy.begin(id.Person) {
			ctx.SetHeader("Retry-After", "5")
			refuse(http.StatusTooManyRequests, "you have several of these under way: wait until one is done")
			return
		}
		defer s.heavy.end(id.Person)
	}
	next(huma.WithValue(ctx, identityKey{}, id))
}

// heavyAtOnce is how many costly requests one person, or one client's link, may have under way.
const heavyAtOnce = 2

// underWay counts the costly requests of each person and link.
type underWay struct {
	mu sync.Mutex
	of map[uuid.UUID]int
}

func (u *underWay) begin(person uuid.UUID) bool {
	u.mu.Lock()
	defer u.mu.Unlock()
	if u.of == nil {
		u.of = map[uuid.UUID]int{}
	}
	if u.of[person] >= heavyAtOnce {
		return false
	}
	u.of[person]++
	return true
}

func (u *underWay) end(person uuid.UUID) {
	u.mu.Lock()
	defer u.mu.Unlock()
	if u.of[person]--; u.of[person] <= 0 {
		delete(u.of, person)
	}
}
