package account

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/base64"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// How long things hold. A working day fits into the idle time, a holiday does not; all four are judgement.
const (
	Length   = 14 * 24 * time.Hour // a session at most
	Idle     = 12 * time.Hour      // a session that nobody uses
	LinkHold = 24 * time.Hour      // a link to set a password
	seenStep = 5 * time.Minute     // how exactly the last use of a session is kept
	maxOpen  = 20                  // sessions of a person; the one longest unused makes room
)

// What callers tell apart.
var (
	ErrWrong      = errors.New("wrong email or password")
	ErrCodeNeeded = errors.New("the code of the authenticator app is needed")
	ErrCodeWrong  = errors.New("the code is wrong or has been used")
	ErrNobody     = errors.New("sign in first")
	ErrLink       = errors.New("the link has been used or has run out: ask for a new one")
)

// SlowDown says that too many tries failed, and after how long the next one is heard.
type SlowDown struct{ Wait time.Duration }

func (s SlowDown) Error() string {
	return fmt.Sprintf("too many tries: wait %d seconds", int(s.Wait.Seconds()+1))
}

// Weak says why a password is not taken.
type Weak struct{ Reason string }

func (w Weak) Error() string { return w.Reason }

// Mail sends a letter to one address. Whoever gives none hands links over by hand.
type Mail interface {
	Send(ctx context.Context, to, subject, text string) error
}

// Letter is one that was sent.
type Letter struct {
	To      string `json:"to"`
	Subject string `json:"subject"`
	Text    string `json:"text"`
}

// From is where a request comes from: the network (an IPv4 address or the /64 of an IPv6 address), the program, and what the device
// proves itself with.
type From struct{ Network, Agent, Device string }

// Identity is who is asking.
type Identity struct {
	Session, Firm, Person uuid.UUID
	Role, Name, CSRF      string
	// MustEnrol: the firm wants a second factor of its owners, and this one has none yet. Nothing else is open to them.
	MustEnrol bool
	Seen      time.Time
	Settings
	hash []byte
}

// Settings are what every page asks of a person and their firm. DateForm and UnitSystem are the person's own where they have chosen,
// else the firm's, as FirmUnits always is.
type Settings struct {
	Email, FirmName, Country, Currency string
	Timezone                           string // of the firm's office
	DateForm, UnitSystem, FirmUnits    string
	SecondFactor                       bool
	LicenceUntil                       *time.Time
}

// Book keeps the accounts of all firms.
type Book struct {
	Store *store.Store
	Now   func() time.Time
	Log   *slog.Logger
	Mail  Mail   // nil: none is sent
	URL   string // where people reach the application, for letters: https://turf.example
	tries limits
}

func random() string {
	b := make([]byte, 32)
	_, _ = rand.Read(b) // never fails on supported systems
	return base64.RawURLEncoding.EncodeToString(b)
}

func digest(token string) []byte { h := sha256.Sum256([]byte(token)); return h[:] }

// Opened is a session that has just begun: what its cookies carry.
type Opened struct {
	Token, CSRF, Device string
	Until               time.Time
}

// Open begins a session for a person and remembers the device.
func (b *Book) Open(ctx context.Context, firm, person uuid.UUID, from From) (Opened, error) {
	o := Opened{Token: random(), CSRF: random(), Device: from.Device, Until: b.Now().Add(Length)}
	if len(o.Device) != 43 { // none yet, or not one of ours
		o.Device = random()
	}
	now := b.Now().UTC()
	err := b.Store.InFirm(ctx, firm, func(tx *gorm.DB) error {
		old := tx.Model(&store.Session{}).Select("token_hash").Where("person_id = ?", person).Order("seen_at DESC").Offset(maxOpen - 1)
		if err := tx.Where("person_id = ? AND token_hash IN (?)", person, old).Delete(&store.Session{}).Error; err != nil {
			return err
		}
		if err := tx.Save(&store.KnownDevice{FirmID: firm, PersonID: person, DeviceHash: digest(o.Device), UsedAt: now}).Error; err != nil {
			return err
		}
		if err := note(tx, Event{Kind: SignedIn, Firm: firm, Person: &person, From: from, At: now}); err != nil {
			return err
		}
		return tx.Create(&store.Session{TokenHash: digest(o.Token), FirmID: firm, PersonID: person, CSRF: o.CSRF, Network: from.Network,
			Agent: short(from.Agent), CreatedAt: now, SeenAt: now, ExpiresAt: o.Until}).Error
	})
	return o, err
}

const whose = `SELECT id, firm_id, person_id, csrf, name, role, seen_at, must_enrol, email, totp_on, licence_until, firm, country, currency,
		date_form, unit_system, firm_units, timezone FROM session_person($1, make_interval(secs => $2))`

// Who finds the person behind a session's token, in one question. ErrNobody when there is none.
func (b *Book) Who(ctx context.Context, token string) (Identity, error) {
	if token == "" {
		return Identity{}, ErrNobody
	}
	id := Identity{hash: digest(token)}
	set := &id.Settings
	pool, err := b.Store.Pool()
	if err != nil {
		return Identity{}, err
	}
	// every request begins with this question: it goes past the mapper
	err = store.Told(pool.QueryRowContext(ctx, whose, id.hash, Idle.Seconds()).Scan(
		&id.Session, &id.Firm, &id.Person, &id.CSRF, &id.Name, &id.Role, &id.Seen, &id.MustEnrol, &set.Email, &set.SecondFactor,
		&set.LicenceUntil, &set.FirmName, &set.Country, &set.Currency, &set.DateForm, &set.UnitSystem, &set.FirmUnits, &set.Timezone))
	if errors.Is(err, sql.ErrNoRows) {
		return Identity{}, fmt.Errorf("%w: the session is over", ErrNobody)
	}
	if err != nil {
		return Identity{}, err
	}
	if b.Now().Sub(id.Seen) > seenStep {
		if err := b.seen(ctx, id); err != nil {
			b.Log.Warn("the last use of a session was not kept", "error", err)
		}
	}
	return id, nil
}

func (b *Book) seen(ctx context.Context, id Identity) error {
	return b.Store.InFirm(ctx, id.Firm, func(tx *gorm.DB) error {
		return tx.Model(&store.Session{}).Where("id = ?", id.Session).Update("seen_at", b.Now().UTC()).Error
	})
}

// Sweep takes away what has run out, of all firms, and says how many rows that were.
func Sweep(ctx context.Context, s *store.Store) (int, error) {
	var n int
	err := s.Shared(ctx).Raw("SELECT sweep(make_interval(secs => ?)) + finish_erasures()", Idle.Seconds()).Scan(&n).Error
	return n, err
}

func short(text string) string {
	if r := []rune(text); len(r) > 200 {
		return string(r[:200])
	}
	return text
}
