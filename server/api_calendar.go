package server

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// calendarOf makes an iCalendar of jobs: each a whole day, with its window and what waiting costs in its text. The same jobs give the
// same bytes but for their own changes.
func calendarOf(rows []Job, name string, at time.Time) []byte {
	c := ics.NewCalendar()
	c.SetMethod(ics.MethodPublish)
	c.SetProductId("-//Hodos//jobs//EN")
	c.SetName(name)
	for _, j := range rows {
		due, err := time.Parse(dateOnly, j.DueOn)
		if err != nil {
			continue
		}
		e := c.AddEvent(j.ID.String() + "@hodos")
		e.SetDtStampTime(at)
		e.SetAllDayStartAt(due)
		e.SetAllDayEndAt(due.AddDate(0, 0, 1))
		e.SetSummary(j.Label + ", " + j.SiteName + ", " + j.ZoneName)
		text := "Window " + j.FromOn + " to " + j.ToOn + "."
		if j.Product != "" {
			text += " " + j.Product + "."
		}
		if j.Reason != "" {
			text += " " + j.Reason + "."
		}
		if j.Moved != "" {
			text += " " + j.Moved + "."
		}
		e.SetDescription(text)
		e.SetProperty(ics.ComponentPropertySequence, sequence(j.Version))
		if j.State == "done" {
			e.SetStatus(ics.ObjectStatusConfirmed)
		}
	}
	return []byte(c.Serialize())
}

func sequence(version int) string { return string(rune('0' + version%10)) }

// icalendar answers GET /jobs/ics: the calendar as a file.
func (s *Server) icalendar(ctx context.Context, in *calendarIn) (*download, error) {
	rows, today, err := s.year(ctx, in)
	if err != nil {
		return nil, err
	}
	return fileOf("jobs.ics", "text/calendar; charset=utf-8", calendarOf(rows, who(ctx).FirmName, today)), nil
}

// Feed is a secret address under which a calendar is fed.
type Feed struct {
	ID        uuid.UUID  `json:"id"`
	SiteID    *uuid.UUID `json:"site_id,omitempty"`
	SiteName  string     `json:"site_name,omitempty"`
	CreatedAt time.Time  `json:"created_at"`
	Path      string     `json:"path,omitempty" doc:"told once, when it is made"`
}

// listFeeds answers GET /feeds: the addresses that a person has made and not withdrawn.
func (s *Server) listFeeds(ctx context.Context, _ *struct{}) (*body[[]Feed], error) {
	out := []Feed{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		var rows []struct {
			store.CalendarFeed
			SiteName string
		}
		err := tx.Table("calendar_feeds f").Select("f.*, s.name AS site_name").Joins("LEFT JOIN sites s ON s.id = f.site_id").
			Where("f.person_id = ? AND f.withdrawn_at IS NULL", who(ctx).Person).Order("f.created_at").Limit(100).Scan(&rows).Error
		for _, r := range rows {
			out = append(out, Feed{ID: r.ID, SiteID: r.SiteID, SiteName: r.SiteName, CreatedAt: r.CreatedAt})
		}
		return err
	})
	return answer(out), err
}

// makeFeed answers POST /feeds: a new secret address. It is told once; only its hash is kept.
func (s *Server) makeFeed(ctx context.Context, in *struct {
	Body struct {
		ID     uuid.UUID  `json:"id"`
		SiteID *uuid.UUID `json:"site_id,omitempty"`
	}
}) (*body[Feed], error) {
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	token, hash, err := secret()
	if err != nil {
		return nil, s.said(err)
	}
	row := store.CalendarFeed{
		ID:        in.Body.ID,
		TokenHash: hash,
		FirmID:    who(ctx).Firm,
		PersonID:  who(ctx).Person,
		SiteID:    in.Body.SiteID,
		CreatedAt: s.now().UTC(),
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error { return tx.Create(&row).Error })
	return answer(Feed{ID: row.ID, SiteID: row.SiteID, CreatedAt: row.CreatedAt, Path: "/api/v1/feeds/" + token + "/jobs.ics"}), err
}

// withdrawFeed answers DELETE /feeds/{id}: nobody is fed from it any more.
func (s *Server) withdrawFeed(ctx context.Context, in *IDPath) (*struct{}, error) {
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Model(&store.CalendarFeed{}).
			Where("id = ? AND person_id = ? AND withdrawn_at IS NULL", in.ID, who(ctx).Person).
			Update("withdrawn_at", s.now().UTC())
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return r.Error
	})
}

// feed answers GET /feeds/{token}/jobs.ics: whoever has the address is fed. What the calendar tells is no client's name and no street.
func (s *Server) feed(ctx context.Context, in *struct {
	Token string `path:"token" maxLength:"60"`
}) (*download, error) {
	hash := sha256.Sum256([]byte(in.Token))
	var of struct {
		FirmID uuid.UUID
		SiteID *uuid.UUID
	}
	if err := s.store.Shared(ctx).Raw("SELECT * FROM feed_firm(decode(?, 'hex'))", hex.EncodeToString(hash[:])).Scan(&of).Error; err != nil {
		return nil, s.said(err)
	}
	if of.FirmID == uuid.Nil {
		return nil, huma.Error404NotFound("there is no such calendar, or it was withdrawn")
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	var rows []Job
	today := now.In("UTC")
	err = s.said(s.store.InFirm(ctx, of.FirmID, func(tx *gorm.DB) (err error) {
		in := &calendarIn{}
		if of.SiteID != nil {
			in.SiteID = *of.SiteID
		}
		rows, err = calendarRows(tx, in, today)
		return err
	}))
	if err != nil {
		return nil, err
	}
	out := fileOf("jobs.ics", "text/calendar; charset=utf-8", calendarOf(rows, "Hodos", today))
	out.ContentDisposition = "inline"
	return out, nil
}
