package account

import (
	"context"
	"encoding/hex"
	"fmt"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// about are the words that a person's password must not be made of.
func about(tx *gorm.DB, person uuid.UUID) (p store.Person, words []string, err error) {
	var f store.Firm
	if err := tx.First(&p, "id = ?", person).Error; err != nil {
		return p, nil, err
	}
	err = tx.First(&f).Error
	return p, []string{p.Name, p.Email, f.Name, "hodos"}, err
}

// Confirm weighs the person's own password before something that only they may do. Failures count like those of signing in.
func (b *Book) Confirm(ctx context.Context, id Identity, from From, password string) error {
	var p store.Person
	err := b.Store.InFirm(ctx, id.Firm, func(tx *gorm.DB) error { return tx.First(&p, "id = ?", id.Person).Error })
	if err != nil {
		return err
	}
	if wait := b.tries.take(p.Email, from, true, b.Now()); wait > 0 {
		return SlowDown{wait}
	}
	if !Matches(password, p.PasswordHash) {
		b.tell(ctx, Event{Kind: PasswordFailed, Firm: id.Firm, Person: &id.Person, About: &id.Person, From: from})
		return ErrWrong
	}
	b.tries.giveBack(p.Email, from, true, b.Now())
	return nil
}

// ChangePassword gives the person a new password after the old one, and ends their other sessions.
func (b *Book) ChangePassword(ctx context.Context, id Identity, from From, current, password string) error {
	if err := b.Confirm(ctx, id, from, current); err != nil {
		return err
	}
	return b.set(ctx, id.Firm, id.Person, id.Session, password, Event{Kind: PasswordChanged, Person: &id.Person, From: from})
}

func (b *Book) set(ctx context.Context, firm, person, keep uuid.UUID, password string, e Event) error {
	var words []string
	if err := b.Store.InFirm(ctx, firm, func(tx *gorm.DB) (err error) {
		_, words, err = about(tx, person)
		return err
	}); err != nil {
		return err
	}
	if err := Check(password, words...); err != nil {
		return err
	}
	hash := Hash(password) // outside of a transaction: it takes its time
	return b.Store.InFirm(ctx, firm, func(tx *gorm.DB) error {
		now := b.Now().UTC()
		if e.Kind == PasswordSet { // the link is good for one password
			r := tx.Model(
				&store.PasswordLink{},
			).Where(
				"token_hash = ? AND used_at IS NULL AND expires_at > ?",
				digest(e.Detail),
				now,
			).Update(
				"used_at",
				now,
			)
			if r.Error != nil {
				return r.Error
			}
			if r.RowsAffected != 1 {
				return ErrLink
			}
			e.Detail = ""
		}
		if err := tx.Model(&store.Person{}).Where("id = ?", person).Update("password_hash", hash).Error; err != nil {
			return err
		}
		if err := tx.Where("person_id = ? AND id <> ?", person, keep).Delete(&store.Session{}).Error; err != nil {
			return err
		}
		e.Firm, e.About, e.At = firm, &person, now
		return note(tx, e)
	})
}

// Link makes a link with which a person sets a password, once and within a day; links made before hold no longer. It is sent by mail
// where there is mail; else it comes back, to be handed over.
func (b *Book) Link(ctx context.Context, by Identity, from From, person uuid.UUID) (path string, sent bool, err error) {
	token := random()
	var p store.Person
	err = b.Store.InFirm(ctx, by.Firm, func(tx *gorm.DB) error {
		if err := tx.First(&p, "id = ? AND active", person).Error; err != nil {
			return err
		}
		now := b.Now().UTC()
		if err := tx.Model(&store.PasswordLink{}).Where("person_id = ? AND used_at IS NULL", person).Update("expires_at", now).Error; err != nil {
			return err
		}
		if err := tx.Create(&store.PasswordLink{TokenHash: digest(token), FirmID: by.Firm, PersonID: person, SentBy: &by.Person, CreatedAt: now,
			ExpiresAt: now.Add(LinkHold)}).Error; err != nil {
			return err
		}
		return b.Note(tx, by, from, LinkSent, &person, "")
	})
	path = "/set-password/" + token
	if err != nil || b.Mail == nil {
		return path, false, err
	}
	text := fmt.Sprintf("Hello %s,\n\n%s has sent you a link to set your Hodos password:\n\n%s%s\n\nIt works once, until this time tomorrow. "+
		"If you did not expect it, tell %s.\n", p.Name, by.Name, b.URL, path, by.Name)
	if err := b.Mail.Send(ctx, p.Email, "Set your Hodos password", text); err != nil {
		b.Log.Error("a password link was not sent", "error", err)
		return path, false, nil
	}
	return "", true, nil
}

// LinkFor says whose password a link would set. ErrLink when it has been used or has run out.
func (b *Book) LinkFor(ctx context.Context, token string) (store.Person, error) {
	firm, person, err := b.behind(ctx, token)
	if err != nil {
		return store.Person{}, err
	}
	var p store.Person
	err = b.Store.InFirm(ctx, firm, func(tx *gorm.DB) error { return tx.First(&p, "id = ?", person).Error })
	return p, err
}

func (b *Book) behind(ctx context.Context, token string) (firm, person uuid.UUID, err error) {
	var row struct{ FirmID, PersonID uuid.UUID }
	if err := b.Store.Shared(
		ctx,
	).Raw(
		"SELECT * FROM link_person(decode(?, 'hex'))",
		hex.EncodeToString(digest(token)),
	).Scan(
		&row,
	).Error; err != nil {
		return firm, person, err
	}
	if row.PersonID == uuid.Nil {
		return firm, person, ErrLink
	}
	return row.FirmID, row.PersonID, nil
}

// UseLink sets the password and ends every session of the person.
func (b *Book) UseLink(ctx context.Context, from From, token, password string) error {
	firm, person, err := b.behind(ctx, token)
	if err != nil {
		return err
	}
	return b.set(ctx, firm, person, uuid.Nil, password, Event{Kind: PasswordSet, Person: &person, From: from, Detail: token})
}

// Reset sets a password without a link: for whoever keeps the server, when no owner can sign in any more.
func Reset(ctx context.Context, s *store.Store, email, password string) error {
	b := &Book{Store: s, Now: time.Now, Log: slog.New(slog.DiscardHandler)}
	var row struct{ ID, FirmID uuid.UUID }
	if err := s.Shared(ctx).Raw("SELECT id, firm_id FROM sign_in_person(?, ''::bytea)", email).Scan(&row).Error; err != nil {
		return err
	}
	if row.ID == uuid.Nil {
		return fmt.Errorf("%w: nobody with access has the address %s", store.ErrNotFound, email)
	}
	return b.set(ctx, row.FirmID, row.ID, uuid.Nil, password, Event{Kind: PasswordChanged, Detail: "on the server"})
}
