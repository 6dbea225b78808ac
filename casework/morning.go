package casework

import (
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/driving"
	"hodos/core/morning"
	"hodos/core/remedy"
	"hodos/core/watch"
	"hodos/store"
)

// mostRead is how many rows of a list are read for a letter, which tells fewer and counts the rest.
const mostRead = 200

// ReadMorning is what a day has for one person. office says that they keep the office: they hear of calls, of what the night has told, and
// of letters that failed.
func ReadMorning(tx *gorm.DB, person uuid.UUID, office bool, day time.Time) (l morning.Letter, err error) {
	var p store.Person
	if err := tx.First(&p, "id = ?", person).Error; err != nil {
		return l, err
	}
	var form string
	if err := tx.Raw("SELECT date_form FROM firms").Scan(&form).Error; err != nil {
		return l, err
	}
	l = morning.Letter{Name: p.Name, Day: day, Licence: morning.LicenceSoon(p.LicenceUntil, day), DateForm: p.DateForm}
	if l.DateForm == "" {
		l.DateForm = form
	}
	if l.Visits, err = morningVisits(tx, person, day); err != nil {
		return l, err
	}
	if l.Jobs, err = morningJobs(tx, day); err != nil || !office {
		return l, err
	}
	return l, morningNews(tx, day, &l)
}

// morningVisits are the visits of a person in a good order of driving.
func morningVisits(tx *gorm.DB, person uuid.UUID, day time.Time) ([]morning.Visit, error) {
	var rows []struct {
		store.Visit
		SiteName, ZoneName, Address, Access string
		Latitude, Longitude                 float64
	}
	if err := tx.Raw(`SELECT v.*, s.name AS site_name, coalesce(z.name, '') AS zone_name, s.address, s.access_notes AS access, s.latitude,
			s.longitude
		FROM visits v JOIN sites s ON s.id = v.site_id LEFT JOIN zones z ON z.id = v.zone_id
		WHERE v.closed_on IS NULL AND v.due_on <= ? AND v.person_id = ? ORDER BY v.due_on, v.id LIMIT ?`, day, person, mostRead).
		Scan(&rows).Error; err != nil {
		return nil, err
	}
	stops := make([]driving.Stop, len(rows))
	for i, r := range rows {
		stops[i] = driving.Stop{Place: driving.Place{Latitude: r.Latitude, Longitude: r.Longitude}, Minutes: driving.DiagnosisMinutes}
		if r.Kind == "follow-up" {
			stops[i].Minutes = driving.FollowUpMinutes
		}
		if r.FromMinute != nil && r.ToMinute != nil {
			stops[i].From, stops[i].To = float64(*r.FromMinute), float64(*r.ToMinute)
		}
	}
	round := driving.Round{Leave: driving.Begins}
	var out []morning.Visit
	for k, leg := range driving.Drive(stops, driving.Order(stops, round), round) {
		r := rows[leg.Stop]
		v := morning.Visit{Site: r.SiteName, Lawn: r.ZoneName, Address: r.Address, Access: r.Access, Reason: r.Reason, Late: int(leg.Late + .999)}
		if k < driving.Most {
			v.At = clock(int(leg.Begin/5+.5) * 5)
		}
		if stops[leg.Stop].To > 0 {
			v.Expected = clock(*r.FromMinute) + " to " + clock(*r.ToMinute)
		}
		if r.DueOn.Before(day) {
			v.Since = r.DueOn.UTC()
		}
		out = append(out, v)
	}
	return out, nil
}

// clock is a minute of the day as HH:MM.
func clock(minute int) string { return fmt.Sprintf("%02d:%02d", minute/60%24, minute%60) }

// morningJobs is the work that is booked for a day or late.
func morningJobs(tx *gorm.DB, day time.Time) (out []morning.Job, err error) {
	var rows []struct {
		SiteName, ZoneName, Action string
		DueOn                      time.Time
	}
	err = tx.Raw(`SELECT s.name AS site_name, z.name AS zone_name, j.action, j.due_on FROM jobs j JOIN sites s ON s.id = j.site_id
		JOIN zones z ON z.id = j.zone_id WHERE j.state = 'booked' AND j.due_on <= ? ORDER BY j.due_on, s.name COLLATE by_number, z.name, j.id
		LIMIT ?`, day, mostRead).Scan(&rows).Error
	for _, r := range rows {
		j := morning.Job{Site: r.SiteName, Lawn: r.ZoneName, What: remedy.Label(r.Action)}
		if r.DueOn.Before(day) {
			j.Since = r.DueOn.UTC()
		}
		out = append(out, j)
	}
	return out, err
}

// withinSaid is how soon somebody should be there.
var withinSaid = map[string]string{"today": "today or tomorrow", "this-week": "this week", "next-tour": "when the round comes by"}

// morningNews adds what the office hears of: calls that nobody has booked, what the night has told, letters that failed.
func morningNews(tx *gorm.DB, day time.Time, l *morning.Letter) error {
	calls, err := OpenCalls(tx)
	if err != nil {
		return err
	}
	for _, c := range calls {
		if c.VisitID == nil {
			l.Calls = append(l.Calls, morning.Call{Site: c.SiteName, Lawn: c.ZoneName, Within: withinSaid[c.Within]})
		}
	}
	var things []struct {
		Kind, Subject string
		Level, Lawns  int
	}
	if err := tx.Raw(`SELECT kind, subject, max(level) AS level, count(*) AS lawns FROM watch_notices
		WHERE ended_on IS NULL AND noted_on IS NULL AND told_on = ? GROUP BY 1, 2 ORDER BY 3 DESC, 4 DESC, 1, 2 LIMIT ?`, day, mostRead).
		Scan(&things).Error; err != nil {
		return err
	}
	for _, t := range things {
		l.Notices = append(l.Notices, morning.Notice{Label: watch.Label(t.Kind, t.Subject, t.Level), Lawns: t.Lawns})
	}
	return tx.Raw("SELECT count(*) FROM messages WHERE state = 'failed' AND made_on > ?", day.AddDate(0, 0, -7)).Scan(&l.Failed).Error
}
