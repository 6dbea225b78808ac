package server

import (
	"context"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/store"
)

// Event is something that a client has coming up: jobs are counted back from it.
type Event struct {
	ID   uuid.UUID `json:"id"`
	Day  string    `json:"day" format:"date"`
	Name string    `json:"name" minLength:"1" maxLength:"120"`
}

// eventsOf lists what a client has coming up from a day on.
func eventsOf(tx *gorm.DB, site uuid.UUID, from time.Time) ([]Event, error) {
	var rows []store.SiteEvent
	err := tx.Where("site_id = ? AND day >= ? AND ended_at IS NULL", site, from).Order("day, id").Limit(50).Find(&rows).Error
	out := []Event{}
	for _, r := range rows {
		out = append(out, Event{r.ID, r.Day.Format(dateOnly), r.Name})
	}
	return out, err
}

// listSiteEvents answers GET /sites/{id}/events: what the client has coming up.
func (s *Server) listSiteEvents(ctx context.Context, in *IDPath) (*body[[]Event], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	out := []Event{}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&store.Site{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		out, err = eventsOf(tx, in.ID, today)
		return err
	})
	return answer(out), err
}

// keepSiteEvent answers PUT /sites/{id}/events/{event}: enter an event, put it on another day or take it off.
func (s *Server) keepSiteEvent(ctx context.Context, in *struct {
	IDPath
	Event uuid.UUID `path:"event" format:"uuid"`
	Body  struct {
		Day  string `json:"day" maxLength:"10"`
		Name string `json:"name" minLength:"1" maxLength:"120"`
		Off  bool   `json:"off,omitempty" doc:"it is taken off"`
	}
}) (*struct{}, error) {
	if err := keyed(in.Event); err != nil {
		return nil, err
	}
	day, err := dateOf("body.day", in.Body.Day)
	if err != nil {
		return nil, err
	}
	row := store.SiteEvent{ID: in.Event, FirmID: who(ctx).Firm, SiteID: in.ID, Day: day, Name: in.Body.Name}
	if in.Body.Off {
		now := s.now().UTC()
		row.EndedAt = &now
	}
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&store.Site{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		again := clause.OnConflict{Columns: []clause.Column{{Name: "id"}},
			DoUpdates: clause.AssignmentColumns([]string{"day", "name", "ended_at"})}
		return tx.Clauses(again).
			Create(&row).
			Error
	})
}
