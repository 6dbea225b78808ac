package server

import (
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// operation registers one operation of the API. right is what its caller needs; an empty right makes it public.
func operation[I, O any](s *Server, method, path, id, summary, tag string, right Right, f func(context.Context, *I) (*O, error)) {
	op := huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, Tags: []string{tag}, MaxBodyBytes: 8 << 20,
		Metadata: map[string]any{}}
	if right == "" {
		op.Metadata["public"] = true
	} else {
		op.Metadata["right"] = right
		op.Description = "Needs the right " + string(right) + "."
		op.Errors = []int{401, 403, 404, 409, 422}
	}
	if id == "diagnose-case" {
		op.SkipValidateBody = true // the case reader refuses with its own, finer reasons
	}
	huma.Register(s.api, op, f)
}

// body wraps an answer.
type body[T any] struct{ Body T }

func answer[T any](v T) *body[T] { return &body[T]{v} }

// IDPath is the key in a path.
type IDPath struct {
	ID uuid.UUID `path:"id" format:"uuid"`
}

func (s *Server) routes() {
	s.sessionRoutes()
	s.vocabularyRoutes()
	s.siteRoutes()
	s.peopleRoutes()
	s.visitRoutes()
	s.recordRoutes()
	s.recoveryRoutes()
	s.dayRoutes()
	s.priceRoutes()
	s.sampleRoutes()
	s.skyRoutes()
	s.watchRoutes()
}

// inFirm runs f for the caller's firm and turns the store's errors into answers that name what is wrong.
func (s *Server) inFirm(ctx context.Context, f func(tx *gorm.DB) error) error {
	return s.said(s.store.InFirm(ctx, who(ctx).Firm, f))
}

func (s *Server) said(err error) error {
	var se huma.StatusError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &se):
		return se
	case errors.Is(err, store.ErrNotFound), errors.Is(err, gorm.ErrRecordNotFound):
		return huma.Error404NotFound("not found in your firm")
	case errors.Is(err, store.ErrChanged):
		return huma.Error409Conflict("somebody else has changed it in the meantime: load it again; what you typed is kept",
			field("body.version", "is not the latest"))
	case errors.Is(err, store.ErrTaken):
		where := "body.id"
		if contains(err.Error(), "email") {
			where = "body.email"
		}
		return huma.Error409Conflict("is taken already", field(where, "is taken already"))
	case errors.Is(err, store.ErrRefused):
		return huma.Error422UnprocessableEntity(err.Error())
	}
	s.log.Error("unexpected", "error", err)
	return huma.Error500InternalServerError("something went wrong here; nothing was saved")
}

func field(where, message string) error { return &huma.ErrorDetail{Location: where, Message: message} }

func invalid(where, message string) error {
	return huma.Error422UnprocessableEntity("please check the fields marked below", field(where, message))
}

func contains(s, part string) bool {
	for i := 0; i+len(part) <= len(s); i++ {
		if s[i:i+len(part)] == part {
			return true
		}
	}
	return false
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
	PersonID     uuid.UUID `json:"person_id"`
	Name         string    `json:"name"`
	Role         string    `json:"role" enum:"office,technician,applicator,owner"`
	Rights       []Right   `json:"rights" nullable:"false"`
	CSRF         string    `json:"csrf" doc:"sent back as X-Hodos-Csrf with every request that writes"`
	Firm         string    `json:"firm"`
	Country      string    `json:"country"`
	Currency     string    `json:"currency"`
	DateForm     string    `json:"date_form" enum:"dmy,mdy,ymd"`
	UnitSystem   string    `json:"unit_system" enum:"metric,us"`
	Today        string    `json:"today" format:"date" doc:"the work clock"`
	Demo         bool      `json:"demo" doc:"the clock is simulated and can be moved on"`
	LicenceUntil *string   `json:"licence_until,omitempty" format:"date"`
}

type signInInput struct {
	Forwarded string `header:"X-Forwarded-For" hidden:"true"`
	remote    string
	Body      struct {
		Email    string `json:"email" format:"email" maxLength:"200"`
		Password string `json:"password" minLength:"1" maxLength:"200"`
	}
}

// Resolve keeps the address the request came from.
func (i *signInInput) Resolve(ctx huma.Context) []error {
	i.remote = host(ctx.RemoteAddr())
	return nil
}

func host(addr string) string {
	for i := len(addr) - 1; i >= 0; i-- {
		if addr[i] == ':' {
			return addr[:i]
		}
	}
	return addr
}

type signedIn struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
	Body      struct {
		CSRF string `json:"csrf"`
	}
}

func (s *Server) sessionRoutes() {
	opened := func(ctx context.Context, firm, person uuid.UUID) (*signedIn, error) {
		cookie, csrf, err := s.open(ctx, firm, person)
		if err != nil {
			return nil, s.said(err)
		}
		out := &signedIn{SetCookie: cookie}
		out.Body.CSRF = csrf
		return out, nil
	}
	operation(s, http.MethodPost, "/sign-in", "sign-in", "Sign in with address and password", "session", "",
		func(ctx context.Context, in *signInInput) (*signedIn, error) {
			if !s.tries.allow(in.remote) {
				return nil, huma.Error429TooManyRequests("too many tries: wait a minute")
			}
			firm, person, err := s.signIn(ctx, in.Body.Email, in.Body.Password)
			if err != nil {
				return nil, s.said(err)
			}
			return opened(ctx, firm, person)
		})
	type demoInput struct {
		Body struct {
			Role string `json:"role" enum:"office,technician,applicator,owner"`
		}
	}
	operation(s, http.MethodPost, "/sign-in/demo", "sign-in-demo", "Sign in as one of the demo's people", "session", "",
		func(ctx context.Context, in *demoInput) (*signedIn, error) {
			person, ok := s.demo[in.Body.Role]
			if !ok {
				return nil, huma.Error404NotFound("this server has no demo people")
			}
			return opened(ctx, s.demoFirm, person)
		})
	type demoState struct {
		Demo  bool     `json:"demo"`
		Roles []string `json:"roles" nullable:"false"`
	}
	operation(s, http.MethodGet, "/welcome", "welcome", "What the sign-in page offers", "session", "",
		func(context.Context, *struct{}) (*body[demoState], error) {
			d := demoState{Demo: s.demo != nil, Roles: []string{}}
			if d.Demo {
				d.Roles = Roles
			}
			return answer(d), nil
		})
	operation(s, http.MethodPost, "/sign-out", "sign-out", "Sign out", "session", See,
		func(ctx context.Context, _ *struct{}) (*signedIn, error) {
			err := s.inFirm(ctx, func(tx *gorm.DB) error {
				return tx.Where("token_hash = ?", who(ctx).tokenHash).Delete(&store.Session{}).Error
			})
			return &signedIn{SetCookie: http.Cookie{Name: sessionCookie, Path: "/", MaxAge: -1, HttpOnly: true, SameSite: http.SameSiteLaxMode,
				Secure: s.secureCookies}}, err
		})
	operation(s, http.MethodGet, "/me", "me", "Who is signed in", "session", See, func(ctx context.Context, _ *struct{}) (*body[Me], error) {
		today, err := s.clock.Today(ctx)
		if err != nil {
			return nil, s.said(err)
		}
		id := who(ctx)
		me := Me{PersonID: id.Person, Name: id.Name, Role: id.Role, CSRF: id.CSRF, Today: today.Format(dateOnly), Rights: []Right{}}
		_, me.Demo = s.clock.(MovableClock)
		for _, r := range Rights {
			if May(id.Role, r) {
				me.Rights = append(me.Rights, r)
			}
		}
		err = s.inFirm(ctx, func(tx *gorm.DB) error {
			var f store.Firm
			var p store.Person
			if err := tx.First(&f).Error; err != nil {
				return err
			}
			if err := tx.First(&p, "id = ?", id.Person).Error; err != nil {
				return err
			}
			me.Firm, me.Country, me.Currency, me.DateForm, me.UnitSystem = f.Name, f.Country, f.Currency, f.DateForm, f.UnitSystem
			if p.UnitSystem != "" {
				me.UnitSystem = p.UnitSystem
			}
			if p.DateForm != "" {
				me.DateForm = p.DateForm
			}
			me.LicenceUntil = dateText(p.LicenceUntil)
			return nil
		})
		return answer(me), err
	})
	type advance struct {
		Body struct {
			Days int `json:"days" minimum:"1" maximum:"31"`
		}
	}
	type moved struct {
		Today string `json:"today" format:"date"`
	}
	operation(s, http.MethodPost, "/demo/clock", "advance-clock", "Move the demo's clock on", "session", See,
		func(ctx context.Context, in *advance) (*body[moved], error) {
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
				if _, err := s.jobs.Ask(ctx, today, nil); err != nil {
					return nil, s.said(err)
				}
			}
			return answer(moved{today.Format(dateOnly)}), nil
		})
}
