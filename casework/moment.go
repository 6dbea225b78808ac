package casework

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// Moment is now, as the work clock has it: an instant of real time, or a day that is the same everywhere.
type Moment struct {
	at    time.Time
	fixed bool
}

// At is an instant of real time.
func At(t time.Time) Moment { return Moment{at: t} }

// OnDay is a day that is the same everywhere: that of a simulated clock.
func OnDay(day time.Time) Moment { return Moment{at: day, fixed: true} }

// Then is a former instant by the same clock: a device without a connection tells of it later. A simulated day stays what it is.
func (m Moment) Then(at time.Time) Moment {
	if m.fixed {
		return m
	}
	return At(at)
}

// In is the calendar day at a place, as midnight UTC; timezone is its IANA name, and one that nobody knows counts as UTC.
func (m Moment) In(timezone string) time.Time {
	if m.fixed {
		return m.at
	}
	zone := Location(timezone)
	y, month, d := m.at.In(zone).Date()
	return time.Date(y, month, d, 0, 0, 0, 0, time.UTC)
}

// Fixed is the day of a simulated clock; ok is false for real time.
func (m Moment) Fixed() (day time.Time, ok bool) { return m.at, m.fixed }

// Location is a time zone by its IANA name; one that nobody knows counts as UTC.
func Location(timezone string) *time.Location {
	zone, err := time.LoadLocation(timezone)
	if err != nil {
		return time.UTC
	}
	return zone
}

// Furthest is the latest calendar day that anybody on Earth has.
func (m Moment) Furthest() time.Time { return m.In("Etc/GMT-14") }

// FindVisit reads a visit with the day at its site. ErrElsewhere when zone is not one of that site's; uuid.Nil asks for none.
func FindVisit(tx *gorm.DB, visit, zone uuid.UUID, now Moment) (store.Visit, time.Time, error) {
	var row struct {
		store.Visit
		Timezone string
		Within   bool
	}
	err := tx.Raw(`SELECT v.*, s.timezone, EXISTS (SELECT FROM zones z WHERE z.id = ? AND z.site_id = v.site_id) AS within
		FROM visits v JOIN sites s ON s.id = v.site_id WHERE v.id = ?`, zone, visit).Scan(&row).Error
	switch {
	case err != nil:
		return row.Visit, time.Time{}, err
	case row.ID == uuid.Nil:
		return row.Visit, time.Time{}, store.ErrNotFound
	case zone != uuid.Nil && !row.Within:
		return row.Visit, time.Time{}, ErrElsewhere
	}
	return row.Visit, now.In(row.Timezone), nil
}
