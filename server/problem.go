package server

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"gorm.io/gorm"

	"hodos/exchange/refusal"
	"hodos/store"
)

// said turns an error of the store into the answer that names what is wrong. What is the server's own fault goes into the log, not to
// the caller.
func (s *Server) said(err error) error {
	var se huma.StatusError
	switch err = store.Told(err); {
	case err == nil:
		return nil
	case errors.As(err, &se):
		return err
	case errors.Is(err, store.ErrNotFound), errors.Is(err, gorm.ErrRecordNotFound):
		return huma.Error404NotFound("not found in your firm")
	case errors.Is(err, store.ErrChanged):
		return huma.Error409Conflict("somebody else has changed it in the meantime: load it again; what you typed is kept",
			field("body.version", "is not the latest"))
	case errors.Is(err, store.ErrTaken):
		where := "body.id"
		if strings.Contains(err.Error(), "email") {
			where = "body.email"
		}
		return huma.Error409Conflict("is taken already", field(where, "is taken already"))
	case errors.Is(err, store.ErrUnstorable):
		return huma.Error422UnprocessableEntity("a value cannot be stored", field("body", "holds a character or a figure that cannot be stored"))
	case errors.Is(err, store.ErrStands):
		return huma.Error422UnprocessableEntity(err.Error())
	case errors.Is(err, store.ErrAway), errors.Is(err, context.DeadlineExceeded):
		s.log.Warn("the database does not answer", "error", err)
		return away()
	case errors.Is(err, context.Canceled), errors.Is(err, sql.ErrTxDone): // a transaction ends with its request
		return huma.NewError(499, givenUp)
	}
	s.log.Error("unexpected", "error", err)
	return huma.Error500InternalServerError("something went wrong on the server. If you were saving, save again: nothing is stored twice")
}

// givenUp is the answer to a request whose asker has gone; a proxy's log may have it.
const givenUp = "the request was cancelled"

// away is the answer while the database cannot be reached: worth trying again soon.
func away() error {
	return huma.ErrorWithHeaders(huma.Error503ServiceUnavailable("the database does not answer: try again in a moment"),
		http.Header{"Retry-After": {"2"}})
}

func field(where, message string) error { return &huma.ErrorDetail{Location: where, Message: message} }

func invalid(where, message string) error {
	return huma.Error422UnprocessableEntity("please check the fields marked below", field(where, message))
}

// refusedWhole answers a file or a body that its reader has refused, with every reason at its line or field.
func refusedWhole(message, before string, r *refusal.Refusal) error {
	var details []error
	for _, p := range r.All() {
		where := before + p.Column
		if p.Line > 0 {
			where = strings.TrimSuffix(fmt.Sprintf("%sline %d, %s", before, p.Line, p.Column), ", ")
		}
		details = append(details, field(where, p.Reason))
	}
	return huma.Error422UnprocessableEntity(message, details...)
}
