package server

import (
	"context"
	"net/http"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// Person is somebody of the firm.
type Person struct {
	ID            uuid.UUID `json:"id"`
	Name          string    `json:"name" minLength:"1" maxLength:"120"`
	Email         string    `json:"email" format:"email" maxLength:"200"`
	Role          string    `json:"role" enum:"office,technician,applicator,owner"`
	Password      string    `json:"password,omitempty" writeOnly:"true" maxLength:"200" doc:"at least ten characters; empty keeps the old one"`
	LicenceNumber string    `json:"licence_number" maxLength:"60"`
	LicenceUntil  *string   `json:"licence_until" nullable:"true" doc:"YYYY-MM-DD; empty for none"`
	UnitSystem    string    `json:"unit_system" enum:",metric,us"`
	DateForm      string    `json:"date_form" enum:",dmy,mdy,ymd"`
	Active        bool      `json:"active"`
	Version       int       `json:"version" minimum:"0"`
}

func personOf(p store.Person) Person {
	return Person{ID: p.ID, Name: p.Name, Email: p.Email, Role: p.Role, LicenceNumber: p.LicenceNumber,
		LicenceUntil: dateText(p.LicenceUntil), UnitSystem: p.UnitSystem, DateForm: p.DateForm, Active: p.Active, Version: p.Version}
}

// FirmSettings are the firm's own settings.
type FirmSettings struct {
	Name       string `json:"name" minLength:"1" maxLength:"120"`
	Country    string `json:"country" pattern:"^[A-Z]{2}$" doc:"ISO 3166"`
	Currency   string `json:"currency" pattern:"^[A-Z]{3}$" doc:"ISO 4217"`
	DateForm   string `json:"date_form" enum:"dmy,mdy,ymd"`
	UnitSystem string `json:"unit_system" enum:"metric,us"`
	Version    int    `json:"version" minimum:"0"`
}

func (s *Server) peopleRoutes() {
	operation(s, http.MethodGet, "/people", "list-people", "Everybody of the firm", "firm", See,
		func(ctx context.Context, _ *struct{}) (*body[[]Person], error) {
			out := []Person{}
			err := s.inFirm(ctx, func(tx *gorm.DB) error {
				var rows []store.Person
				if err := tx.Order("name").Find(&rows).Error; err != nil {
					return err
				}
				for _, r := range rows {
					out = append(out, personOf(r))
				}
				return nil
			})
			return answer(out), err
		})
	operation(s, http.MethodPost, "/people", "create-person", "Add somebody", "firm", KeepPeople,
		func(ctx context.Context, in *body[Person]) (*body[Person], error) {
			p := in.Body
			if err := keyed(p.ID); err != nil {
				return nil, err
			}
			hash, err := HashPassword(p.Password)
			if err != nil {
				return nil, invalid("body.password", err.Error())
			}
			until, err := optionalDate("body.licence_until", p.LicenceUntil)
			if err != nil {
				return nil, err
			}
			row := store.Person{ID: p.ID, FirmID: who(ctx).Firm, Name: p.Name, Email: strings.ToLower(p.Email), Role: p.Role, PasswordHash: hash,
				LicenceNumber: p.LicenceNumber, LicenceUntil: until, UnitSystem: p.UnitSystem, DateForm: p.DateForm, Active: p.Active, Version: 1}
			err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
			return answer(personOf(row)), err
		})
	type personChange struct {
		IDPath
		Body Person
	}
	operation(s, http.MethodPut, "/people/{id}", "change-person", "Change somebody's entry", "firm", KeepPeople,
		func(ctx context.Context, in *personChange) (*body[Person], error) {
			p := in.Body
			until, err := optionalDate("body.licence_until", p.LicenceUntil)
			if err != nil {
				return nil, err
			}
			if in.ID == who(ctx).Person && (!p.Active || p.Role != who(ctx).Role) {
				return nil, invalid("body.role", "you cannot remove your own access: ask another owner")
			}
			columns := map[string]any{"name": p.Name, "email": strings.ToLower(p.Email), "role": p.Role, "licence_number": p.LicenceNumber,
				"licence_until": until, "unit_system": p.UnitSystem, "date_form": p.DateForm, "active": p.Active}
			if p.Password != "" {
				hash, err := HashPassword(p.Password)
				if err != nil {
					return nil, invalid("body.password", err.Error())
				}
				columns["password_hash"] = hash
			}
			err = s.inFirm(ctx, func(tx *gorm.DB) error {
				if err := store.Change(tx, &store.Person{}, in.ID, p.Version, columns); err != nil {
					return err
				}
				if p.Password != "" || !p.Active {
					return tx.Where("person_id = ? AND token_hash <> ?", in.ID, who(ctx).tokenHash).Delete(&store.Session{}).Error
				}
				return nil
			})
			p.ID, p.Version, p.Password = in.ID, p.Version+1, ""
			return answer(p), err
		})
	type mine struct {
		Body struct {
			UnitSystem string `json:"unit_system" enum:",metric,us"`
			DateForm   string `json:"date_form" enum:",dmy,mdy,ymd"`
		}
	}
	operation(s, http.MethodPut, "/me/settings", "change-my-settings", "One's own units and date form; empty follows the firm", "firm", See,
		func(ctx context.Context, in *mine) (*struct{}, error) {
			return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
				return tx.Model(&store.Person{}).Where("id = ?", who(ctx).Person).Updates(map[string]any{"unit_system": in.Body.UnitSystem,
					"date_form": in.Body.DateForm, "version": gorm.Expr("version + 1")}).Error
			})
		})
	operation(s, http.MethodGet, "/firm", "get-firm", "The firm's settings", "firm", See,
		func(ctx context.Context, _ *struct{}) (*body[FirmSettings], error) {
			var f store.Firm
			err := s.inFirm(ctx, func(tx *gorm.DB) error { return tx.First(&f).Error })
			return answer(FirmSettings{f.Name, f.Country, f.Currency, f.DateForm, f.UnitSystem, f.Version}), err
		})
	operation(s, http.MethodPut, "/firm", "change-firm", "Change the firm's settings", "firm", KeepFirm,
		func(ctx context.Context, in *body[FirmSettings]) (*body[FirmSettings], error) {
			f := in.Body
			err := s.inFirm(ctx, func(tx *gorm.DB) error {
				return store.Change(tx, &store.Firm{}, who(ctx).Firm, f.Version, map[string]any{"name": f.Name, "country": f.Country,
					"currency": f.Currency, "date_form": f.DateForm, "unit_system": f.UnitSystem})
			})
			f.Version++
			return answer(f), err
		})
}
