package casework

import (
	"encoding/json"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/triage"
	"hodos/core/weather"
	"hodos/core/worth"
	"hodos/store"
)

// TakeCall keeps what a client told, for the next visit of the site that has not been begun, where there is one.
func TakeCall(tx *gorm.DB, site uuid.UUID, row *store.Call) error {
	var next []uuid.UUID
	if err := tx.Raw(`SELECT id FROM visits WHERE site_id = ? AND closed_on IS NULL AND started_on IS NULL AND kind = 'diagnosis'
		AND (zone_id IS NULL OR zone_id = ?) ORDER BY due_on LIMIT 1`, site, row.ZoneID).Scan(&next).Error; err != nil {
		return err
	}
	if len(next) == 1 {
		row.VisitID = &next[0]
	}
	return store.Create(tx, row, row.ID)
}

// FastCause is a cause that may be at work and spreads.
type FastCause struct {
	Cause   string  `json:"cause"`
	P       float64 `json:"p"`
	Doubles float64 `json:"doubles" doc:"days in which its damage doubles"`
}

// Triage says how soon somebody has to come to what was told of a zone with an area in m², into its row.
func (v *Visit) Triage(area float64, row *store.Call) error {
	Daily(v.Case.Weather)
	Daily(v.Case.Forecast)
	r := diagnosis.Diagnose(v.Case, diagnosis.Options{NoNext: true, NoLedger: true})
	u := triage.Of(r, worth.Damage(r.Lawn, r.Values), area, r.Prices)
	because := []FastCause{}
	for _, f := range u.Because {
		because = append(because, FastCause{f.Cause, math.Round(f.P*1000) / 1000, f.Doubles})
	}
	var err error
	row.Within, row.PerDay = string(u.Within), u.PerDay
	row.Because, err = json.Marshal(because)
	return err
}

// Called is what a client told, with whom and what it is of.
type Called struct {
	store.Call
	SiteID                                uuid.UUID
	SiteName, ZoneName, ClientName, Phone string
	VisitDue                              *time.Time
	Pictures                              int
}

const calledFrom = `SELECT c.*, z.site_id, s.name AS site_name, z.name AS zone_name, k.name AS client_name, k.phone, v.due_on AS visit_due,
		(SELECT count(*) FROM call_pictures p WHERE p.call_id = c.id) AS pictures
	FROM calls c JOIN zones z ON z.id = c.zone_id JOIN sites s ON s.id = z.site_id JOIN clients k ON k.id = s.client_id
		LEFT JOIN visits v ON v.id = c.visit_id `

// Alarm is the letter to the office about a call that cannot wait.
func (c Called) Alarm(url string) (subject, text string) {
	return "Today or tomorrow: " + c.SiteName + ", " + c.ZoneName, fmt.Sprintf(
		"%s tells of %s, %s. By what they say somebody should be there today or tomorrow.\n\n%s\n\n%s/calls/%s\n",
		c.ClientName, c.SiteName, c.ZoneName, c.Note, url, c.ID)
}

// WaitingCalls are the open calls of a firm's sites from one key to another, but those whose visit is due within a day anyway.
func WaitingCalls(tx *gorm.DB, first, last uuid.UUID, day time.Time) (out []Called, err error) {
	err = tx.Raw(calledFrom+`WHERE c.aside_at IS NULL
		AND (c.visit_id IS NULL OR (v.started_on IS NULL AND v.closed_on IS NULL AND v.due_on > ?))
		AND z.site_id BETWEEN ? AND ? AND c.told_on > ? ORDER BY c.id LIMIT ?`,
		day.AddDate(0, 0, 1), first, last, day.AddDate(0, 0, -callDays), mostCalls).Scan(&out).Error
	return out, err
}

// callDays is how long a call is judged anew: after that what was told is not what is there any more (judgement).
const callDays = 21

// Again judges a call anew by the weather up to a day and that ahead: what was told stays, what has come since may speed it up or let it
// wait. It reports whether it now cannot wait and could before.
func (c *Called) Again(tx *gorm.DB, known *Known, day time.Time, ahead []weather.Day) (alarm bool, err error) {
	var told map[string]any
	if err := json.Unmarshal(c.Answers, &told); err != nil {
		return false, err
	}
	v, err := ReadTold(tx, known, c.ZoneID, day, told)
	if err != nil {
		return false, err
	}
	v.Case.Forecast = append([]weather.Day(nil), ahead...)
	was := c.Within
	if v.Case.Lawn.AreaM2 == nil {
		return false, nil
	}
	if err := v.Triage(*v.Case.Lawn.AreaM2, &c.Call); err != nil {
		return false, err
	}
	err = tx.Model(&store.Call{}).Where("id = ?", c.ID).Updates(map[string]any{"within": c.Within, "per_day": c.PerDay,
		"because": c.Because}).Error
	return c.Within == string(triage.Today) && was != c.Within, err
}

// mostCalls is how many open calls are listed: more than a firm answers in a day (judgement).
const mostCalls = 60

// OpenCalls are those that nobody has put aside, and whose visit has not been begun, the newest first.
func OpenCalls(tx *gorm.DB) (out []Called, err error) {
	err = tx.Raw(calledFrom+`WHERE c.aside_at IS NULL AND (c.visit_id IS NULL OR (v.started_on IS NULL AND v.closed_on IS NULL))
		ORDER BY c.told_at DESC LIMIT ?`, mostCalls).Scan(&out).Error
	return out, err
}

// CallsOf are what was told for a visit, the newest first.
func CallsOf(tx *gorm.DB, visit uuid.UUID) (out []Called, err error) {
	err = tx.Raw(calledFrom+`WHERE c.visit_id = ? ORDER BY c.told_at DESC`, visit).Scan(&out).Error
	return out, err
}

// FindCall is one of them.
func FindCall(tx *gorm.DB, id uuid.UUID) (out Called, err error) {
	if err := tx.Raw(calledFrom+`WHERE c.id = ?`, id).Scan(&out).Error; err != nil {
		return out, err
	}
	if out.ID == uuid.Nil {
		return out, store.ErrNotFound
	}
	return out, nil
}

// OfferedByClient are what the client told of a zone for a visit, where the case says nothing of it yet: the newest that says.
func OfferedByClient(tx *gorm.DB, visit, zone uuid.UUID, c evidence.Case) ([]evidence.Offer, error) {
	var rows []store.Call
	if err := tx.Where("visit_id = ? AND zone_id = ?", visit, zone).Order("told_at DESC").Find(&rows).Error; err != nil {
		return nil, err
	}
	said := map[string]evidence.Offer{}
	for _, r := range rows {
		var told map[string]any
		if err := json.Unmarshal(r.Answers, &told); err != nil {
			return nil, err
		}
		for id, plain := range told {
			f, ok := knowledge.FindingByID(id)
			if _, have := said[id]; have || !ok {
				continue
			}
			if _, answered := c.Findings[id]; answered {
				continue
			}
			if v, err := knowledge.ValueOf(f, plain); err == nil {
				said[id] = evidence.Offer{Finding: id, Spot: "worst", Value: v, Source: evidence.FromClient, On: r.ToldOn}
			}
		}
	}
	out := []evidence.Offer{}
	for _, f := range knowledge.Findings() {
		if o, ok := said[f.ID]; ok {
			out = append(out, o)
		}
	}
	return out, nil
}
