package server

import (
	"cmp"
	"context"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/store"
)

// Person is somebody of the firm.
type Person struct {
	ID            uuid.UUID `json:"id"`
	Name          string    `json:"name" minLength:"1" maxLength:"120"`
	Email         string    `json:"email" pattern:"^[^\\s<>@\"']+@[^\\s<>@\"']+\\.[^\\s<>@\"']+$" maxLength:"200"`
	Role          string    `json:"role" enum:"office,technician,applicator,owner"`
	HasPassword   bool      `json:"has_password,omitempty" readOnly:"true" doc:"they have set a password and can sign in"`
	SecondFactor  bool      `json:"second_factor,omitempty" readOnly:"true"`
	LicenceNumber string    `json:"licence_number" maxLength:"60"`
	LicenceUntil  *string   `json:"licence_until" nullable:"true" doc:"YYYY-MM-DD; empty for none"`
	UnitSystem    string    `json:"unit_system" enum:",metric,us"`
	DateForm      string    `json:"date_form" enum:",dmy,mdy,ymd"`
	Morning       bool      `json:"morning_letter,omitempty" readOnly:"true" doc:"gets a letter every morning with what is theirs that day"`
	Active        bool      `json:"active"`
	Version       int       `json:"version" minimum:"0" maximum:"2147483646"`
}

func personOf(p store.Person) Person {
	return Person{
		ID:            p.ID,
		Name:          p.Name,
		Email:         p.Email,
		Role:          p.Role,
		HasPassword:   p.PasswordHash != "",
		SecondFactor:  p.TOTPOn,
		LicenceNumber: p.LicenceNumber,
		LicenceUntil:  dateText(p.LicenceUntil),
		UnitSystem:    p.UnitSystem,
		DateForm:      p.DateForm,
		Morning:       p.MorningLetter,
		Active:        p.Active,
		Version:       p.Version,
	}
}

// WorkSettings are when the crew works.
type WorkSettings struct {
	WorkHours float64 `json:"work_hours" minimum:"1" maximum:"14" required:"false" default:"6" doc:"of one person and day, without driving"`
	WorkDays  int     `json:"work_days" minimum:"1" maximum:"127" required:"false" default:"63" doc:"bits: Monday 1, Tuesday 2 … Sunday 64"`
}

// Keeping is how long records are kept.
type Keeping struct {
	KeepRecordsYears int `json:"keep_records_years" minimum:"1" maximum:"30" required:"false" default:"3" doc:"with name and place, by law"`
}

// FirmSettings are the firm's own settings.
type FirmSettings struct {
	Name       string `json:"name" minLength:"1" maxLength:"120"`
	Country    string `json:"country" pattern:"^[A-Z]{2}$" doc:"ISO 3166"`
	Currency   string `json:"currency" pattern:"^[A-Z]{3}$" doc:"ISO 4217"`
	DateForm   string `json:"date_form" enum:"dmy,mdy,ymd"`
	UnitSystem string `json:"unit_system" enum:"metric,us"`
	// OwnersSecondFactor: owners sign in with a second factor or not at all.
	OwnersSecondFactor bool   `json:"owners_second_factor"`
	Timezone           string `json:"timezone" minLength:"1" maxLength:"60" doc:"IANA name of the office's: lists go by its day"`
	PoisonCentre       string `json:"poison_centre" maxLength:"60" required:"false" doc:"number of the poison centre, shown with pesticides"`
	Letterhead
	WorkSettings
	Keeping
	Version int `json:"version" minimum:"0" maximum:"2147483646"`
}

// Letterhead is what stands at the head of what a client gets, beside the firm's name.
type Letterhead struct {
	Phone   string `json:"phone" maxLength:"60" required:"false"`
	Email   string `json:"email" maxLength:"200" required:"false"`
	Address string `json:"address" maxLength:"300" required:"false"`
	Website string `json:"website" maxLength:"200" required:"false"`
}

// listPeople answers GET /people: everybody of the firm.
func (s *Server) listPeople(ctx context.Context, _ *struct{}) (*body[[]Person], error) {
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
}

// createPerson answers POST /people: add somebody.
func (s *Server) createPerson(ctx context.Context, in *body[Person]) (*body[Person], error) {
	p := in.Body
	if err := keyed(p.ID); err != nil {
		return nil, err
	}
	until, err := optionalDate("body.licence_until", p.LicenceUntil)
	if err != nil {
		return nil, err
	}
	row := store.Person{ID: p.ID, FirmID: who(ctx).Firm, Name: p.Name, Email: strings.ToLower(p.Email), Role: p.Role,
		LicenceNumber: p.LicenceNumber, LicenceUntil: until, UnitSystem: p.UnitSystem, DateForm: p.DateForm, Active: p.Active, Version: 1}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		return s.accounts.Note(tx, who(ctx), whence(ctx), account.PersonAdded, &row.ID, row.Role)
	})
	return answer(personOf(row)), err
}

type personChange struct {
	IDPath
	Body Person
}

// changePerson answers PUT /people/{id}: change somebody's entry.
func (s *Server) changePerson(ctx context.Context, in *personChange) (*body[Person], error) {
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
	var row store.Person
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var old store.Person
		if err := tx.First(&old, "id = ?", in.ID).Error; err != nil {
			return err
		}
		if err := store.Change(tx, &store.Person{}, in.ID, p.Version, columns); err != nil {
			return err
		}
		if !p.Active {
			if err := tx.Where("person_id = ?", in.ID).Delete(&store.Session{}).Error; err != nil {
				return err
			}
		}
		if err := tx.First(&row, "id = ?", in.ID).Error; err != nil {
			return err
		}
		return s.accounts.Note(tx, who(ctx), whence(ctx), account.PersonChanged, &in.ID, changed(old, row))
	})
	return answer(personOf(row)), err
}

// changed says what of a person's entry is different, without private figures.
func changed(old, now store.Person) string {
	var out []string
	for _, c := range []struct{ what, from, to string }{{"name", old.Name, now.Name}, {"email", old.Email, now.Email},
		{"role", old.Role, now.Role}, {"licence", old.LicenceNumber, now.LicenceNumber},
		{"access", access(old.Active), access(now.Active)}} {
		if c.from != c.to {
			out = append(out, c.what+": "+cmp.Or(c.from, "none")+" → "+cmp.Or(c.to, "none"))
		}
	}
	return strings.Join(out, "; ")
}

func access(active bool) string {
	if active {
		return "yes"
	}
	return "no"
}

type mine struct {
	Body struct {
		UnitSystem string `json:"unit_system" enum:",metric,us"`
		DateForm   string `json:"date_form" enum:",dmy,mdy,ymd"`
		Morning    bool   `json:"morning_letter" required:"false" doc:"a letter every morning with what is theirs that day"`
	}
}

// changeMySettings answers PUT /me/settings: one's own units, date form and letter; empty follows the firm.
func (s *Server) changeMySettings(ctx context.Context, in *mine) (*struct{}, error) {
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		return tx.Model(&store.Person{}).Where("id = ?", who(ctx).Person).Updates(map[string]any{"unit_system": in.Body.UnitSystem,
			"date_form": in.Body.DateForm, "morning_letter": in.Body.Morning, "version": gorm.Expr("version + 1")}).Error
	})
}

// getFirm answers GET /firm: the firm's settings.
func (s *Server) getFirm(ctx context.Context, _ *struct{}) (*body[FirmSettings], error) {
	var f store.Firm
	err := s.inFirm(ctx, func(tx *gorm.DB) error { return tx.First(&f).Error })
	return answer(FirmSettings{f.Name, f.Country, f.Currency, f.DateForm, f.UnitSystem, f.OwnersSecondFactor, f.Timezone, f.PoisonCentre,
		Letterhead{f.Phone, f.Email, f.Address, f.Website}, WorkSettings{f.WorkHours, f.WorkDays}, Keeping{f.KeepRecordsYears},
		f.Version}), err
}

// changeFirm answers PUT /firm: change the firm's settings.
func (s *Server) changeFirm(ctx context.Context, in *body[FirmSettings]) (*body[FirmSettings], error) {
	f := in.Body
	if err := timezone("body.timezone", f.Timezone); err != nil {
		return nil, err
	}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := store.Change(tx, &store.Firm{}, who(ctx).Firm, f.Version, map[string]any{
			"name":                 f.Name,
			"country":              f.Country,
			"currency":             f.Currency,
			"date_form":            f.DateForm,
			"unit_system":          f.UnitSystem,
			"owners_second_factor": f.OwnersSecondFactor,
			"timezone":             f.Timezone,
			"poison_centre":        f.PoisonCentre,
			"phone":                f.Phone,
			"email":                f.Email,
			"address":              f.Address,
			"website":              f.Website,
			"work_hours":           f.WorkHours,
			"work_days":            f.WorkDays,
			"keep_records_years":   f.KeepRecordsYears,
		}); err != nil {
			return err
		}
		return s.accounts.Note(tx, who(ctx), whence(ctx), account.FirmChanged, nil, "")
	})
	f.Version++
	return answer(f), err
}
