package server

import (
	"context"
	"errors"
	"math"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/internal/build"
	"hodos/store"
)

const (
	sessionCookie = "hodos_session"
	deviceCookie  = "hodos_device"
	deviceHolds   = 180 * 24 * time.Hour
)

type signInInput struct {
	Body struct {
		Email    string `json:"email" format:"email" maxLength:"200"`
		Password string `json:"password" minLength:"1" maxLength:"200"`
		Code     string `json:"code,omitempty" maxLength:"40" doc:"of the authenticator app, or a recovery code; for people with a second factor"`
	}
}

type signedIn struct {
	SetCookie []http.Cookie `header:"Set-Cookie"`
	Body      struct {
		CSRF string `json:"csrf"`
	}
}

func (s *Server) cookie(name, value string, until time.Time) http.Cookie {
	return http.Cookie{Name: s.cookieName(name), Value: value, Path: "/", HttpOnly: true, SameSite: http.SameSiteLaxMode,
		Secure: s.secureCookies, Expires: until}
}

func (s *Server) opened(o account.Opened) *signedIn {
	out := &signedIn{SetCookie: []http.Cookie{s.cookie(sessionCookie, o.Token, o.Until),
		s.cookie(deviceCookie, o.Device, s.now().Add(deviceHolds))}}
	out.Body.CSRF = o.CSRF
	return out
}

// refusedAccount turns what the accounts say into answers. where is the field of the password that was weighed.
func (s *Server) refusedAccount(err error, where string) error {
	var slow account.SlowDown
	var weak account.Weak
	switch {
	case err == nil:
		return nil
	case errors.As(err, &slow):
		return huma.ErrorWithHeaders(huma.Error429TooManyRequests(err.Error()),
			http.Header{"Retry-After": {strconv.Itoa(int(math.Ceil(slow.Wait.Seconds())))}})
	case errors.As(err, &weak):
		return invalid("body.password", weak.Reason)
	case errors.Is(err, account.ErrWrong) && where == "body.current":
		return invalid(where, "is not your password")
	case errors.Is(err, account.ErrWrong):
		return huma.Error401Unauthorized(err.Error(), field(where, err.Error()))
	case errors.Is(err, account.ErrCodeNeeded), errors.Is(err, account.ErrCodeWrong):
		return huma.Error401Unauthorized(err.Error(), field("body.code", err.Error()))
	case errors.Is(err, account.ErrLink):
		return huma.Error404NotFound(err.Error())
	}
	return s.said(err)
}

// signIn answers POST /sign-in: sign in with address, password and, where there is one, the second factor.
func (s *Server) signIn(ctx context.Context, in *signInInput) (*signedIn, error) {
	o, err := s.accounts.SignIn(ctx, account.Try{Email: in.Body.Email, Password: in.Body.Password, Code: in.Body.Code, From: whence(ctx)})
	if err != nil {
		return nil, s.refusedAccount(err, "body.password")
	}
	return s.opened(o), nil
}

type demoInput struct {
	Body struct {
		Role string `json:"role" enum:"office,technician,applicator,owner"`
	}
}

// signInDemo answers POST /sign-in/demo: sign in as one of the demo's people.
func (s *Server) signInDemo(ctx context.Context, in *demoInput) (*signedIn, error) {
	person, ok := s.demo[in.Body.Role]
	if !ok {
		return nil, huma.Error404NotFound("this server has no demo people")
	}
	o, err := s.accounts.Open(ctx, s.demoFirm, person, whence(ctx))
	if err != nil {
		return nil, s.said(err)
	}
	return s.opened(o), nil
}

type welcome struct {
	Version string   `json:"version"`
	Demo    bool     `json:"demo"`
	Roles   []string `json:"roles" nullable:"false"`
}

// welcome answers GET /welcome: what the sign-in page offers.
func (s *Server) welcome(context.Context, *struct{}) (*body[welcome], error) {
	w := welcome{Version: build.Version(), Demo: s.demo != nil, Roles: []string{}}
	if w.Demo {
		w.Roles = account.Roles
	}
	return answer(w), nil
}

type signedOut struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
	ClearData string      `header:"Clear-Site-Data"`
}

// signOut answers POST /sign-out. What waits on the device to be sent stays there: it belongs to the person.
func (s *Server) signOut(ctx context.Context, _ *struct{}) (*signedOut, error) {
	err := s.accounts.SignOut(ctx, who(ctx), whence(ctx))
	c := s.cookie(sessionCookie, "", time.Time{})
	c.MaxAge = -1
	return &signedOut{SetCookie: c, ClearData: `"cache"`}, s.said(err)
}

// Signed is one place where a person is signed in.
type Signed struct {
	ID      uuid.UUID `json:"id"`
	This    bool      `json:"this" doc:"the session that asks"`
	Since   time.Time `json:"since"`
	Seen    time.Time `json:"seen" doc:"last used, to five minutes"`
	Network string    `json:"network"`
	Agent   string    `json:"agent" doc:"how the browser calls itself"`
}

// listSessions answers GET /me/sessions.
func (s *Server) listSessions(ctx context.Context, _ *struct{}) (*body[[]Signed], error) {
	rows, err := s.accounts.Sessions(ctx, who(ctx))
	out := []Signed{}
	for _, r := range rows {
		out = append(out, Signed{r.ID, r.ID == who(ctx).Session, r.CreatedAt.UTC(), r.SeenAt.UTC(), r.Network, r.Agent})
	}
	return answer(out), s.said(err)
}

// endSession answers DELETE /me/sessions/{id}.
func (s *Server) endSession(ctx context.Context, in *IDPath) (*struct{}, error) {
	return nil, s.said(s.accounts.EndSession(ctx, who(ctx), whence(ctx), in.ID))
}

// endOtherSessions answers POST /me/sessions/end-others.
func (s *Server) endOtherSessions(ctx context.Context, _ *struct{}) (*struct{}, error) {
	return nil, s.said(s.accounts.EndOthers(ctx, who(ctx), whence(ctx)))
}

type passwordInput struct {
	Body struct {
		Current  string `json:"current" minLength:"1" maxLength:"200"`
		Password string `json:"password" minLength:"1" maxLength:"200" doc:"the new one: ten characters and more, not easy to guess"`
	}
}

// changeMyPassword answers PUT /me/password.
func (s *Server) changeMyPassword(ctx context.Context, in *passwordInput) (*struct{}, error) {
	err := s.accounts.ChangePassword(ctx, who(ctx), whence(ctx), in.Body.Current, in.Body.Password)
	return nil, s.refusedAccount(err, "body.current")
}

// Enrol is what an authenticator app is fed with.
type Enrol struct {
	Secret string `json:"secret" doc:"for typing, base32"`
	Image  string `json:"image" doc:"for the camera: a PNG as a data: address"`
}

// beginSecondFactor answers POST /me/second-factor.
func (s *Server) beginSecondFactor(ctx context.Context, _ *struct{}) (*body[Enrol], error) {
	var p store.Person
	if err := s.inFirm(ctx, func(tx *gorm.DB) error { return tx.First(&p, "id = ?", who(ctx).Person).Error }); err != nil {
		return nil, err
	}
	setup, err := s.accounts.BeginSecond(ctx, who(ctx), p.Email, "Hodos")
	return answer(Enrol{setup.Secret, setup.PNG}), s.said(err)
}

type codeInput struct {
	Body struct {
		Code string `json:"code" minLength:"6" maxLength:"10" doc:"what the app shows now"`
	}
}

// SpareCodes are the codes for a lost phone, each good once.
type SpareCodes struct {
	Codes []string `json:"codes" nullable:"false"`
}

// confirmSecondFactor answers POST /me/second-factor/confirm.
func (s *Server) confirmSecondFactor(ctx context.Context, in *codeInput) (*body[SpareCodes], error) {
	codes, err := s.accounts.ConfirmSecond(ctx, who(ctx), whence(ctx), in.Body.Code)
	if errors.Is(err, account.ErrCodeWrong) {
		return nil, invalid("body.code", "is not what the app shows now: is the phone's clock right?")
	}
	return answer(SpareCodes{codes}), s.said(err)
}

type confirmInput struct {
	Body struct {
		Current string `json:"current" minLength:"1" maxLength:"200" doc:"one's password"`
	}
}

// endSecondFactor answers POST /me/second-factor/end.
func (s *Server) endSecondFactor(ctx context.Context, in *confirmInput) (*struct{}, error) {
	if err := s.accounts.Confirm(ctx, who(ctx), whence(ctx), in.Body.Current); err != nil {
		return nil, s.refusedAccount(err, "body.current")
	}
	return nil, s.said(s.accounts.EndSecond(ctx, who(ctx), whence(ctx), who(ctx).Person))
}

type othersInput struct {
	IDPath
	Body struct {
		Current string `json:"current" minLength:"1" maxLength:"200" doc:"one's own password: this opens somebody's account"`
	}
}

// endSecondFactorOf answers POST /people/{id}/second-factor/end: somebody has lost phone and codes.
func (s *Server) endSecondFactorOf(ctx context.Context, in *othersInput) (*struct{}, error) {
	if err := s.accounts.Confirm(ctx, who(ctx), whence(ctx), in.Body.Current); err != nil {
		return nil, s.refusedAccount(err, "body.current")
	}
	return nil, s.said(s.accounts.EndSecond(ctx, who(ctx), whence(ctx), in.ID))
}

// Link is what became of a link to set a password.
type Link struct {
	Sent bool   `json:"sent" doc:"by mail"`
	Path string `json:"path,omitempty" doc:"where no mail goes out: to be handed over, once"`
}

// sendPasswordLink answers POST /people/{id}/password-link.
func (s *Server) sendPasswordLink(ctx context.Context, in *IDPath) (*body[Link], error) {
	path, sent, err := s.accounts.Link(ctx, who(ctx), whence(ctx), in.ID)
	if err != nil {
		return nil, s.said(err)
	}
	return answer(Link{sent, path}), nil
}

type linkInput struct {
	Body struct {
		Token string `json:"token" minLength:"20" maxLength:"100"`
	}
}

// LinkOf is whose password a link sets.
type LinkOf struct {
	Name  string `json:"name"`
	Email string `json:"email"`
}

// readPasswordLink answers POST /password-link.
func (s *Server) readPasswordLink(ctx context.Context, in *linkInput) (*body[LinkOf], error) {
	p, err := s.accounts.LinkFor(ctx, in.Body.Token)
	return answer(LinkOf{p.Name, p.Email}), s.refusedAccount(err, "")
}

type useLinkInput struct {
	Body struct {
		Token    string `json:"token" minLength:"20" maxLength:"100"`
		Password string `json:"password" minLength:"1" maxLength:"200"`
	}
}

// usePasswordLink answers POST /password-link/use.
func (s *Server) usePasswordLink(ctx context.Context, in *useLinkInput) (*struct{}, error) {
	return nil, s.refusedAccount(s.accounts.UseLink(ctx, whence(ctx), in.Body.Token, in.Body.Password), "body.token")
}

// Happened is one line of the log of accounts.
type Happened struct {
	ID      int64     `json:"id"`
	At      time.Time `json:"at"`
	Kind    string    `json:"kind"`
	Label   string    `json:"label"`
	By      string    `json:"by" doc:"who did it; empty when nobody was signed in"`
	About   string    `json:"about" doc:"to whom"`
	Network string    `json:"network"`
	Agent   string    `json:"agent"`
	Detail  string    `json:"detail"`
}

type eventsInput struct {
	Before int64 `query:"before" minimum:"0" doc:"lines older than this one"`
	Limit  int   `query:"limit" minimum:"1" maximum:"200" default:"50"`
}

// listEvents answers GET /events.
func (s *Server) listEvents(ctx context.Context, in *eventsInput) (*body[[]Happened], error) {
	out := []Happened{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		rows, err := account.Events(tx, in.Before, in.Limit)
		if err != nil {
			return err
		}
		names, err := namesOf(tx)
		if err != nil {
			return err
		}
		for _, r := range rows {
			out = append(out, Happened{r.ID, r.At.UTC(), r.Kind, account.Label(account.Kind(r.Kind)), names.of(r.PersonID), names.of(r.AboutID),
				r.Network, r.Agent, r.Detail})
		}
		return nil
	})
	return answer(out), err
}

type names map[uuid.UUID]string

func (n names) of(id *uuid.UUID) string {
	if id == nil {
		return ""
	}
	return n[*id]
}

// namesOf are the names of the firm's people.
func namesOf(tx *gorm.DB) (names, error) {
	var people []store.Person
	err := tx.Select("id", "name").Find(&people).Error
	out := names{}
	for _, p := range people {
		out[p.ID] = p.Name
	}
	return out, err
}

// listLetters answers GET /demo/letters: the simulated mail, the newest letter first.
func (s *Server) listLetters(context.Context, *struct{}) (*body[[]account.Letter], error) {
	box, ok := s.accounts.Mail.(interface{ Letters() []account.Letter })
	if !ok || s.demo == nil {
		return nil, huma.Error404NotFound("this server has no simulated mail")
	}
	return answer(box.Letters()), nil
}
