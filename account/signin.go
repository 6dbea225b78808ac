package account

import (
	"context"
	"encoding/hex"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// Try is one attempt to sign in.
type Try struct {
	Email, Password, Code string
	From                  From
}

// SignIn checks a password and, where the person has one, the second factor. The answer does not tell whether address or password was
// wrong: ErrWrong; ErrCodeNeeded and ErrCodeWrong come after a right password only; SlowDown when too many tries failed.
func (b *Book) SignIn(ctx context.Context, t Try) (Opened, error) {
	t.Email = strings.ToLower(strings.TrimSpace(t.Email))
	var row struct {
		ID, FirmID   uuid.UUID
		PasswordHash string
		Known        bool
	}
	if err := b.Store.Shared(
		ctx,
	).Raw(
		"SELECT * FROM sign_in_person(?, decode(?, 'hex'))",
		t.Email,
		hex.EncodeToString(digest(t.From.Device)),
	).Scan(
		&row,
	).Error; err != nil {
		return Opened{}, err
	}
	event := Event{Firm: row.FirmID, About: &row.ID, From: t.From}
	there := row.ID != uuid.Nil
	if wait := b.tries.take(t.Email, t.From, row.Known, b.Now()); wait > 0 {
		b.failed(ctx, there, event, SignInSlowed)
		return Opened{}, SlowDown{wait}
	}
	if !Matches(t.Password, row.PasswordHash) {
		b.failed(ctx, there, event, SignInFailed)
		return Opened{}, ErrWrong
	}
	if err := b.second(ctx, row.FirmID, row.ID, t.Code); err != nil {
		switch err {
		case ErrCodeNeeded: // the password was right: not a guess
			b.tries.giveBack(t.Email, t.From, row.Known, b.Now())
		case ErrCodeWrong:
			b.failed(ctx, true, event, CodeFailed)
		}
		return Opened{}, err
	}
	b.tries.giveBack(t.Email, t.From, row.Known, b.Now())
	return b.Open(ctx, row.FirmID, row.ID, t.From)
}

func (b *Book) failed(ctx context.Context, there bool, e Event, kind Kind) {
	e.Kind = kind
	if there {
		b.tell(ctx, e)
		return
	}
	b.Log.Info("account", "kind", kind, "firm", "none: no such address", "network", e.From.Network)
}

// Sessions lists where a person is signed in, the latest used first.
func (b *Book) Sessions(ctx context.Context, id Identity) ([]store.Session, error) {
	out := []store.Session{}
	err := b.Store.InFirm(ctx, id.Firm, func(tx *gorm.DB) error {
		now := b.Now().UTC()
		return tx.Where("person_id = ? AND expires_at > ? AND seen_at > ?", id.Person, now, now.Add(-Idle)).Order("seen_at DESC").Find(&out).Error
	})
	return out, err
}

// SignOut ends the session itself.
func (b *Book) SignOut(ctx context.Context, id Identity, from From) error {
	return b.end(ctx, id, from, SignedOut, "id = ?", id.Session)
}

// EndSession ends one of the person's sessions; ErrNotFound when it is none of theirs.
func (b *Book) EndSession(ctx context.Context, id Identity, from From, session uuid.UUID) error {
	return b.end(ctx, id, from, SessionEnded, "id = ? AND person_id = ?", session, id.Person)
}

// EndOthers ends all of the person's sessions but this one.
func (b *Book) EndOthers(ctx context.Context, id Identity, from From) error {
	err := b.end(ctx, id, from, OthersEnded, "person_id = ? AND id <> ?", id.Person, id.Session)
	if err == store.ErrNotFound {
		return nil
	}
	return err
}

func (b *Book) end(ctx context.Context, id Identity, from From, kind Kind, which string, args ...any) error {
	return b.Store.InFirm(ctx, id.Firm, func(tx *gorm.DB) error {
		r := tx.Where(which, args...).Delete(&store.Session{})
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return b.Note(tx, id, from, kind, &id.Person, "")
	})
}
