package account

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base32"
	"encoding/base64"
	"image/png"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/store"
)

// The second factor is a code of six figures that an authenticator app makes anew every thirty seconds (RFC 6238); a code of the half
// minute before or after is taken, none is taken twice. Ten recovery codes stand in for a lost phone, each once.
const (
	period        = 30
	recoveryCodes = 10
)

// second checks the code of a person who has a second factor.
func (b *Book) second(ctx context.Context, firm, person uuid.UUID, code string) error {
	code = strings.ToUpper(strings.ReplaceAll(strings.TrimSpace(code), " ", ""))
	return b.Store.InFirm(ctx, firm, func(tx *gorm.DB) error {
		var p store.Person
		if err := tx.First(&p, "id = ?", person).Error; err != nil {
			return err
		}
		if !p.TOTPOn {
			return nil
		}
		if code == "" {
			return ErrCodeNeeded
		}
		if len(code) > 6 {
			return b.recovery(tx, p, code)
		}
		return b.take(tx, p, code)
	})
}

// take accepts a code of the app once.
func (b *Book) take(tx *gorm.DB, p store.Person, code string) error {
	now := b.Now()
	for _, shift := range []int64{0, -1, 1} {
		step := now.Unix()/period + shift
		ok, err := totp.ValidateCustom(code, p.TOTPSecret, time.Unix(step*period, 0), totp.ValidateOpts{Period: period, Digits: otp.DigitsSix})
		if err != nil || !ok {
			continue
		}
		r := tx.Model(&store.Person{}).Where("id = ? AND totp_step < ?", p.ID, step).Update("totp_step", step)
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected == 1 {
			return nil
		}
	}
	return ErrCodeWrong
}

// recovery uses up one of the codes kept for a lost phone.
func (b *Book) recovery(tx *gorm.DB, p store.Person, code string) error {
	r := tx.Model(
		&store.RecoveryCode{},
	).Where(
		"person_id = ? AND code_hash = ? AND used_at IS NULL",
		p.ID,
		digest(strings.ReplaceAll(code, "-", "")),
	).
		Update(
			"used_at",
			b.Now().UTC(),
		)
	if r.Error != nil {
		return r.Error
	}
	if r.RowsAffected != 1 {
		return ErrCodeWrong
	}
	return note(tx, Event{Kind: CodeUsed, Firm: p.FirmID, Person: &p.ID, About: &p.ID, At: b.Now().UTC()})
}

// Setup is what an authenticator app is fed with: by picture or by typing.
type Setup struct {
	Secret, Address string
	// PNG is the address as a picture, as a data: URI.
	PNG string
}

// BeginSecond makes a new secret for a person who has no second factor yet. Nothing changes until ConfirmSecond.
func (b *Book) BeginSecond(ctx context.Context, id Identity, email, issuer string) (Setup, error) {
	key, err := totp.Generate(totp.GenerateOpts{Issuer: issuer, AccountName: email, Period: period, Digits: otp.DigitsSix})
	if err != nil {
		return Setup{}, err
	}
	picture, err := key.Image(220, 220)
	if err != nil {
		return Setup{}, err
	}
	var b64 bytes.Buffer
	if err := png.Encode(&b64, picture); err != nil {
		return Setup{}, err
	}
	err = b.Store.InFirm(ctx, id.Firm, func(tx *gorm.DB) error {
		r := tx.Model(&store.Person{}).Where("id = ? AND NOT totp_on", id.Person).Update("totp_secret", key.Secret())
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrChanged
		}
		return r.Error
	})
	return Setup{key.Secret(), key.URL(), "data:image/png;base64," + base64.StdEncoding.EncodeToString(b64.Bytes())}, err
}

// ConfirmSecond turns the second factor on when the app shows the right code, and gives the recovery codes: this once, never again.
func (b *Book) ConfirmSecond(ctx context.Context, id Identity, from From, code string) (codes []string, err error) {
	err = b.Store.InFirm(ctx, id.Firm, func(tx *gorm.DB) error {
		var p store.Person
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&p, "id = ?", id.Person).Error; err != nil {
			return err
		}
		if p.TOTPOn || p.TOTPSecret == "" {
			return store.ErrChanged
		}
		if err := b.take(tx, p, strings.ReplaceAll(code, " ", "")); err != nil {
			return err
		}
		if err := tx.Model(&store.Person{}).Where("id = ?", p.ID).Update("totp_on", true).Error; err != nil {
			return err
		}
		var rows []store.RecoveryCode
		for range recoveryCodes {
			raw := make([]byte, 10)
			_, _ = rand.Read(raw)
			text := base32.StdEncoding.EncodeToString(raw)
			rows = append(rows, store.RecoveryCode{FirmID: id.Firm, PersonID: p.ID, CodeHash: digest(text)})
			codes = append(codes, text[:4]+"-"+text[4:8]+"-"+text[8:12]+"-"+text[12:])
		}
		if err := tx.Where("person_id = ?", p.ID).Delete(&store.RecoveryCode{}).Error; err != nil {
			return err
		}
		if err := tx.Create(&rows).Error; err != nil {
			return err
		}
		return b.Note(tx, id, from, SecondOn, &p.ID, "")
	})
	return codes, err
}

// EndSecond turns the second factor of a person off: their own after their password, somebody else's (a lost phone) by who keeps people.
func (b *Book) EndSecond(ctx context.Context, by Identity, from From, person uuid.UUID) error {
	return b.Store.InFirm(ctx, by.Firm, func(tx *gorm.DB) error {
		r := tx.Model(&store.Person{}).Where("id = ?", person).Updates(map[string]any{"totp_on": false, "totp_secret": ""})
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		if err := tx.Where("person_id = ?", person).Delete(&store.RecoveryCode{}).Error; err != nil {
			return err
		}
		return b.Note(tx, by, from, SecondOff, &person, "")
	})
}
