package server

import (
	"context"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
)

// body wraps an answer.
type body[T any] struct{ Body T }

func answer[T any](v T) *body[T] { return &body[T]{v} }

// IDPath is the key in a path.
type IDPath struct {
	ID uuid.UUID `path:"id" format:"uuid"`
}

// inFirm runs f for the caller's firm and turns the store's errors into answers that name what is wrong.
func (s *Server) inFirm(ctx context.Context, f func(tx *gorm.DB) error) error {
	return s.said(s.store.InFirm(ctx, who(ctx).Firm, f))
}

// dates travel as YYYY-MM-DD.
const dateOnly = time.DateOnly

func dateOf(where, text string) (time.Time, error) {
	d, err := time.Parse(dateOnly, text)
	if err != nil {
		return d, invalid(where, "is not a date (YYYY-MM-DD)")
	}
	return d, nil
}

func optionalDate(where string, text *string) (*time.Time, error) {
	if text == nil || *text == "" {
		return nil, nil
	}
	d, err := dateOf(where, *text)
	return &d, err
}

func dateText(t *time.Time) *string {
	if t == nil {
		return nil
	}
	s := t.Format(dateOnly)
	return &s
}

// Me is who is signed in, and what the whole interface needs to know.
type Me struct {
	FirmID       uuid.UUID       `json:"firm_id"`
	PersonID     uuid.UUID       `json:"person_id"`
	Name         string          `json:"name"`
	Email        string          `json:"email"`
	Role         string          `json:"role" enum:"office,technician,applicator,owner"`
	Rights       []account.Right `json:"rights" nullable:"false"`
	CSRF         string          `json:"csrf" doc:"sent back as X-Hodos-Csrf with every request that writes"`
	SecondFactor bool            `json:"second_factor" doc:"signing in asks for a code"`
	MustEnrol    bool            `json:"must_enrol" doc:"the firm wants a second factor first; nothing else is open"`
	Firm         string          `json:"firm"`
	Country      string          `json:"country"`
	Currency     string          `json:"currency"`
	DateForm     string          `json:"date_form" enum:"dmy,mdy,ymd"`
	UnitSystem   string          `json:"unit_system" enum:"metric,us"`
	Today        string          `json:"today" format:"date" doc:"the work clock"`
	Demo         bool            `json:"demo" doc:"the clock is simulated and can be moved on"`
	LicenceUntil *string         `json:"licence_until,omitempty" format:"date"`
}

// me answers GET /me: who is signed in.
func (s *Server) me(ctx context.Context, _ *struct{}) (*body[Me], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	id := who(ctx)
	me := Me{FirmID: id.Firm, PersonID: id.Person, Name: id.Name, Role: id.Role, CSRF: id.CSRF, MustEnrol: id.MustEnrol, Email: id.Email,
		SecondFactor: id.SecondFactor, LicenceUntil: dateText(id.LicenceUntil), Firm: id.FirmName, Country: id.Country, Currency: id.Currency,
		DateForm: id.DateForm, UnitSystem: id.UnitSystem, Today: today.Format(dateOnly), Rights: []account.Right{}}
	_, me.Demo = s.clock.(MovableClock)
	for _, r := range account.Rights {
		if account.May(id.Role, r) {
			me.Rights = append(me.Rights, r)
		}
	}
	return answer(me), nil
}

type advance struct {
	Body struct {
		Days int `json:"days" minimum:"1" maximum:"31"`
	}
}

type moved struct {
	Today string `json:"today" format:"date"`
}

// advanceClock answers POST /demo/clock: move the demo's clock on.
func (s *Server) advanceClock(ctx context.Context, in *advance) (*body[moved], error) {
	c, ok := s.clock.(MovableClock)
	if !ok {
		return nil, huma.Error404NotFound("this server runs on real time")
	}
	today, err := c.Advance(ctx, in.Body.Days)
	if err != nil {
		return nil, s.said(err)
	}
	if err := s.collect(ctx, today); err != nil {
		return nil, s.said(err)
	}
	if s.jobs != nil { // the nights that have passed are one look at the day that has come
		if _, err := s.jobs.Ask(ctx, casework.OnDay(today), nil); err != nil {
			return nil, s.said(err)
		}
	}
	return answer(moved{today.Format(dateOnly)}), nil
}
