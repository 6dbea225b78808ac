package account

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// Kind is what happened.
type Kind string

// The kinds of events.
const (
	SignedIn        Kind = "signed-in"
	SignInFailed    Kind = "sign-in-failed"
	CodeFailed      Kind = "code-failed"
	SignInSlowed    Kind = "sign-in-slowed"
	SignedOut       Kind = "signed-out"
	SessionEnded    Kind = "session-ended"
	OthersEnded     Kind = "other-sessions-ended"
	PasswordChanged Kind = "password-changed"
	PasswordFailed  Kind = "password-change-failed"
	LinkSent        Kind = "link-sent"
	PasswordSet     Kind = "password-set"
	SecondOn        Kind = "second-factor-on"
	SecondOff       Kind = "second-factor-off"
	CodeUsed        Kind = "recovery-code-used"
	PersonAdded     Kind = "person-added"
	PersonChanged   Kind = "person-changed"
	FirmChanged     Kind = "firm-changed"
	RecordVoided    Kind = "record-voided"
	ClientErased    Kind = "client-erased"
)

// Kinds says for each kind what the log shows.
var Kinds = []struct {
	ID    Kind
	Label string
}{
	{SignedIn, "Signed in"},
	{SignInFailed, "Wrong password"},
	{CodeFailed, "Wrong code"},
	{SignInSlowed, "Too many tries"},
	{SignedOut, "Signed out"},
	{SessionEnded, "Session ended"},
	{OthersEnded, "Other sessions ended"},
	{PasswordChanged, "Password changed"},
	{PasswordFailed, "Password change refused"},
	{LinkSent, "Password link sent"},
	{PasswordSet, "Password set by link"},
	{SecondOn, "Second factor turned on"},
	{SecondOff, "Second factor turned off"},
	{CodeUsed, "Recovery code used"},
	{PersonAdded, "Person added"},
	{PersonChanged, "Person changed"},
	{FirmChanged, "Firm settings changed"},
	{RecordVoided, "Signed record corrected or voided"},
	{ClientErased, "Client erased"},
}

// Event is one line of the log: what, who did it, to whom, from where.
type Event struct {
	ID     int64
	Kind   Kind
	At     time.Time
	Firm   uuid.UUID
	Person *uuid.UUID // who did it
	About  *uuid.UUID // to whom
	From   From
	Detail string
}

func note(tx *gorm.DB, e Event) error {
	return tx.Create(&store.Event{FirmID: e.Firm, At: e.At, Kind: string(e.Kind), PersonID: e.Person, AboutID: e.About,
		Network: e.From.Network, Agent: short(e.From.Agent), Detail: short(e.Detail)}).Error
}

// Note writes a line of the log in the transaction of what it tells of.
func (b *Book) Note(tx *gorm.DB, by Identity, from From, kind Kind, about *uuid.UUID, detail string) error {
	return note(tx, Event{Kind: kind, At: b.Now().UTC(), Firm: by.Firm, Person: &by.Person, About: about, From: from, Detail: detail})
}

// tell writes a line of the log by itself, where nothing else is written: a failure must not hide behind another.
func (b *Book) tell(ctx context.Context, e Event) {
	e.At = b.Now().UTC()
	b.Log.Info("account", "kind", e.Kind, "firm", e.Firm, "person", e.Person, "network", e.From.Network)
	err := b.Store.InFirm(ctx, e.Firm, func(tx *gorm.DB) error { return note(tx, e) })
	if err != nil {
		b.Log.Error("an event was not kept", "kind", e.Kind, "firm", e.Firm, "error", err)
	}
}

// Events reads the log backwards from before the line with the number before (0: from the newest), at most n.
func Events(tx *gorm.DB, before int64, n int) ([]store.Event, error) {
	q := tx.Order("id DESC").Limit(n)
	if before > 0 {
		q = q.Where("id < ?", before)
	}
	out := []store.Event{}
	return out, q.Find(&out).Error
}

// Label is what the log shows for a kind.
func Label(k Kind) string {
	for _, x := range Kinds {
		if x.ID == k {
			return x.Label
		}
	}
	return string(k)
}
