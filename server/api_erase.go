package server

import (
	"context"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
)

// Erasing is what erasing a client comes to: what goes, what stays without a name, and what keeps it and until when.
type Erasing struct {
	Client    string `json:"client"`
	Sites     int    `json:"sites"`
	Zones     int64  `json:"zones"`
	Photos    int64  `json:"photos" doc:"go"`
	Notes     int64  `json:"notes" doc:"written and spoken; go"`
	Calls     int64  `json:"calls" doc:"what the client told; goes"`
	Open      int64  `json:"open" doc:"visits and jobs that are booked; fall away"`
	Visits    int64  `json:"visits" doc:"made; stay without a name"`
	Records   int64  `json:"records" doc:"of treatments; stay without a name, but for those that are named"`
	Named     int64  `json:"named" doc:"of these, records that the law wants with name and place"`
	KeepUntil string `json:"keep_until,omitempty" format:"date" doc:"until when they keep them; left out where there are none"`
	Years     int    `json:"years" doc:"how long the firm keeps such records"`
	Erased    bool   `json:"erased"`
}

func erasingOf(e casework.Erasure) Erasing {
	out := Erasing{Client: e.Client.Name, Sites: len(e.Sites), Zones: e.Zones, Photos: e.Photos, Notes: e.Notes, Calls: e.Calls, Open: e.Open,
		Visits: e.Visits, Records: e.Records, Named: e.Named, Years: e.Firm.KeepRecordsYears, Erased: e.Client.ErasedOn != nil}
	if e.KeepTill != nil {
		out.KeepUntil = e.KeepTill.Format(dateOnly)
	}
	return out
}

// previewErasure answers GET /clients/{id}/erasure: what erasing a client would come to.
func (s *Server) previewErasure(ctx context.Context, in *IDPath) (*body[Erasing], error) {
	var out Erasing
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		e, err := casework.ReadErasure(tx, in.ID)
		out = erasingOf(e)
		return err
	})
	return answer(out), err
}

// eraseClient answers POST /clients/{id}/erasure: forget a client. It cannot be taken back.
func (s *Server) eraseClient(ctx context.Context, in *struct {
	IDPath
	Body struct {
		ID   uuid.UUID `json:"id"`
		Name string    `json:"name" maxLength:"200" doc:"the client's name once more, against a slip"`
	}
}) (*body[Erasing], error) {
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var out Erasing
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		e, err := casework.ReadErasure(tx, in.ID)
		if err != nil {
			return err
		}
		out = erasingOf(e)
		switch {
		case out.Erased:
			return nil // the same again
		case !strings.EqualFold(strings.TrimSpace(in.Body.Name), strings.TrimSpace(e.Client.Name)):
			return invalid("body.name", "is not the name of this client")
		}
		if err := e.Erase(tx, in.Body.ID, who(ctx).Person, today); err != nil {
			return err
		}
		out.Client, out.Erased = "", true
		return s.accounts.Note(tx, who(ctx), whence(ctx), account.ClientErased, nil, "")
	})
	return answer(out), err
}
