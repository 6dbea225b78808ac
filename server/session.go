package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"golang.org/x/crypto/argon2"
	"golang.org/x/time/rate"
	"gorm.io/gorm"

	"hodos/store"
)

const (
	sessionCookie = "hodos_session"
	sessionLength = 14 * 24 * time.Hour
	csrfHeader    = "X-Hodos-Csrf"
)

// Passwords are kept as argon2id with 19 MiB and two passes (OWASP's minimum, about 50 ms); few run at once, so that a
// flood of sign-ins cannot take all memory.
var hashing = make(chan struct{}, 2)

// HashPassword makes the string that is stored for a password. It refuses fewer than ten characters.
func HashPassword(password string) (string, error) {
	if len([]rune(password)) < 10 {
		return "", errors.New("a password has at least ten characters")
	}
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return "", err
	}
	key := derive(password, salt)
	enc := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf("$argon2id$v=19$m=19456,t=2,p=1$%s$%s", enc(salt), enc(key)), nil
}

func derive(password string, salt []byte) []byte {
	hashing <- struct{}{}
	defer func() { <-hashing }()
	return argon2.IDKey([]byte(password), salt, 2, 19456, 1, 32)
}

func passwordMatches(password, stored string) bool {
	parts := strings.Split(stored, "$")
	salt, want := []byte("no such person....."), []byte(nil)
	if len(parts) == 6 {
		salt, _ = base64.RawStdEncoding.DecodeString(parts[4])
		want, _ = base64.RawStdEncoding.DecodeString(parts[5])
	}
	// the work is done even for an unknown person, so that the time tells nothing
	got := derive(password, salt)
	return len(want) > 0 && subtle.ConstantTimeCompare(got, want) == 1
}

// identity is who is asking.
type identity struct {
	Firm, Person uuid.UUID
	Role         string
	CSRF         string
	Name         string
	tokenHash    []byte
}

type identityKey struct{}

func who(ctx context.Context) identity { id, _ := ctx.Value(identityKey{}).(identity); return id }

func token() string {
	b := make([]byte, 32)
	_, _ = rand.Read(b) // never fails on supported systems
	return base64.RawURLEncoding.EncodeToString(b)
}

func digest(token string) []byte { h := sha256.Sum256([]byte(token)); return h[:] }

// open makes a session for a person and returns its cookie.
func (s *Server) open(ctx context.Context, firm, person uuid.UUID) (http.Cookie, string, error) {
	t, csrf := token(), token()
	now := s.now()
	err := s.store.InFirm(ctx, firm, func(tx *gorm.DB) error {
		if err := tx.Where("expires_at < ?", now).Delete(&store.Session{}).Error; err != nil {
			return err
		}
		return tx.Create(&store.Session{TokenHash: digest(t), FirmID: firm, PersonID: person, CSRF: csrf, CreatedAt: now,
			ExpiresAt: now.Add(sessionLength)}).Error
	})
	return http.Cookie{Name: sessionCookie, Value: t, Path: "/", HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: s.secureCookies,
		Expires: now.Add(sessionLength)}, csrf, err
}

// signIn checks a password. The answer does not tell whether the address or the password was wrong.
func (s *Server) signIn(ctx context.Context, email, password string) (firm, person uuid.UUID, err error) {
	var row struct {
		ID, FirmID   uuid.UUID
		PasswordHash string
	}
	if err := s.store.Shared(ctx).Raw("SELECT * FROM sign_in_person(?)", email).Scan(&row).Error; err != nil {
		return firm, person, err
	}
	if !passwordMatches(password, row.PasswordHash) {
		return firm, person, huma.Error401Unauthorized("wrong email or password", &huma.ErrorDetail{Location: "body.password",
			Message: "wrong email or password"})
	}
	return row.FirmID, row.ID, nil
}

// limits slows down guessing: ten tries at once for an address of the network, then one every six seconds.
type limits struct {
	mu sync.Mutex
	by map[string]*rate.Limiter
}

func (l *limits) allow(from string) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.by) > 10_000 {
		l.by = nil
	}
	if l.by == nil {
		l.by = map[string]*rate.Limiter{}
	}
	if l.by[from] == nil {
		l.by[from] = rate.NewLimiter(rate.Every(6*time.Second), 10)
	}
	return l.by[from].Allow()
}

// guard lets a request through to operations that name a right in their metadata, when the session is good, its person
// may, and a writing request carries the session's token.
func (s *Server) guard(ctx huma.Context, next func(huma.Context)) {
	op := ctx.Operation()
	if op.Metadata["public"] == true {
		next(ctx)
		return
	}
	refuse := func(status int, message string) { _ = huma.WriteErr(s.api, ctx, status, message) }
	cookie, err := huma.ReadCookie(ctx, sessionCookie)
	if err != nil || cookie.Value == "" {
		refuse(http.StatusUnauthorized, "sign in first")
		return
	}
	hash := digest(cookie.Value)
	var row struct {
		FirmID, PersonID uuid.UUID
		Csrf             string
	}
	if err := s.store.Shared(ctx.Context()).Raw("SELECT * FROM session_person(decode(?, 'hex'), ?)", hex.EncodeToString(hash),
		s.now()).Scan(&row).Error; err != nil {
		s.log.Error("read session", "error", err)
		refuse(http.StatusServiceUnavailable, "the database does not answer")
		return
	}
	if row.PersonID == uuid.Nil {
		refuse(http.StatusUnauthorized, "the session is over: sign in again")
		return
	}
	var p store.Person
	if err := s.store.InFirm(ctx.Context(), row.FirmID, func(tx *gorm.DB) error {
		return tx.First(&p, "id = ?",
			row.PersonID).Error
	}); err != nil {
		s.log.Error("read the session's person", "error", err)
		refuse(http.StatusServiceUnavailable, "the database does not answer")
		return
	}
	if ctx.Method() != http.MethodGet && subtle.ConstantTimeCompare([]byte(ctx.Header(csrfHeader)), []byte(row.Csrf)) != 1 {
		refuse(http.StatusForbidden, "the request does not carry the session's token")
		return
	}
	if right, named := op.Metadata["right"].(Right); !named || !May(p.Role, right) {
		refuse(http.StatusForbidden, fmt.Sprintf("the role %s may not do this", p.Role))
		return
	}
	next(huma.WithValue(ctx, identityKey{}, identity{Firm: row.FirmID, Person: p.ID, Role: p.Role, CSRF: row.Csrf, Name: p.Name,
		tokenHash: hash}))
}
