package casework

import (
	"encoding/json"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/remedy"
	"hodos/store"
)

// Erasure is what erasing a client comes to.
type Erasure struct {
	Client store.Client
	Firm   store.Firm
	Sites  []store.Site
	ErasedRows
	Records  int64 // of treatments; all stay
	Named    int64 // of these keep the name for a time
	KeepTill *time.Time
}

// ErasedRows counts what it is about.
type ErasedRows struct {
	Zones, Photos int64
	Notes         int64 // written and spoken
	Calls         int64
	Visits        int64 // made
	Open          int64 // visits and jobs that are booked and fall away
}

// ReadErasure says what erasing a client would come to on a day at the firm.
func ReadErasure(tx *gorm.DB, client uuid.UUID) (e Erasure, err error) {
	if err := tx.First(&e.Client, "id = ?", client).Error; err != nil {
		return e, err
	}
	if err := tx.First(&e.Firm, "id = ?", e.Client.FirmID).Error; err != nil {
		return e, err
	}
	if err := tx.Where("client_id = ?", client).Order("name, id").Find(&e.Sites).Error; err != nil {
		return e, err
	}
	const theirs = "(SELECT z.id FROM zones z JOIN sites s ON s.id = z.site_id WHERE s.client_id = @client)"
	const sites = "(SELECT id FROM sites WHERE client_id = @client)"
	if err := tx.Raw(`SELECT (SELECT count(*) FROM zones WHERE site_id IN `+sites+`) AS zones,
			(SELECT count(*) FROM photos WHERE zone_id IN `+theirs+`) AS photos,
			(SELECT count(*) FROM notes WHERE zone_id IN `+theirs+`) AS notes,
			(SELECT count(*) FROM calls WHERE zone_id IN `+theirs+`) AS calls,
			(SELECT count(*) FROM visits WHERE site_id IN `+sites+` AND started_on IS NOT NULL) AS visits,
			(SELECT count(*) FROM visits WHERE site_id IN `+sites+` AND started_on IS NULL AND closed_on IS NULL) +
				(SELECT count(*) FROM jobs WHERE site_id IN `+sites+` AND state = 'booked') AS open`,
		map[string]any{"client": client}).Scan(&e.ErasedRows).Error; err != nil {
		return e, err
	}
	return e, e.readRecords(tx)
}

// readRecords finds out which records the law wants with a name, and until when.
func (e *Erasure) readRecords(tx *gorm.DB) error {
	var rows []store.TreatmentRecord
	if err := tx.Raw(`SELECT r.* FROM treatment_records r JOIN zones z ON z.id = r.zone_id JOIN sites s ON s.id = z.site_id
		WHERE s.client_id = ?`, e.Client.ID).Scan(&rows).Error; err != nil {
		return err
	}
	e.Records = int64(len(rows))
	for _, r := range rows {
		if !named(r) {
			continue
		}
		e.Named++
		if till := r.AppliedOn.AddDate(e.Firm.KeepRecordsYears, 0, 0); e.KeepTill == nil || till.After(*e.KeepTill) {
			e.KeepTill = &till
		}
	}
	return nil
}

// named reports whether the law wants a record with the name and place of the client: what needs a licence, and what feeds.
func named(r store.TreatmentRecord) bool {
	return r.LicenceNumber != "" || remedy.Pesticide(r.Action) || r.NGM2 != nil || r.PGM2 != nil || r.KGM2 != nil || r.FeGM2 != nil
}

// farAway is how roughly the place of an erased site is kept, in degrees: a tenth is some ten kilometres, enough for weather and season.
const farAway = .1

// kept are the names that stay for the book of applications.
type kept struct {
	Client string              `json:"client"`
	Sites  map[string]keptSite `json:"sites"`
}

type keptSite struct {
	Name    string `json:"name"`
	Address string `json:"address"`
}

// Erase forgets a client: names, contacts, pictures, notes, what they told, links, maps and words in free text go; what was found and done
// stays without a name. What the law wants with one keeps it apart until it need not.
func (e *Erasure) Erase(tx *gorm.DB, id, person uuid.UUID, today time.Time) error {
	row := store.Erasure{ID: id, FirmID: e.Client.FirmID, ClientID: e.Client.ID, AskedOn: today, PersonID: person, KeepUntil: e.KeepTill,
		Names: store.JSON("{}")}
	if e.KeepTill != nil && e.KeepTill.Before(today) {
		row.KeepUntil = nil
	}
	if row.KeepUntil != nil {
		names := kept{e.Client.Name, map[string]keptSite{}}
		for _, s := range e.Sites {
			names.Sites[s.ID.String()] = keptSite{s.Name, s.Address}
		}
		var err error
		if row.Names, err = json.Marshal(names); err != nil {
			return err
		}
	}
	if err := store.Create(tx, &row, row.ID); err != nil {
		return err
	}
	for _, forget := range []func() error{
		func() error { return e.forgetWhole(tx, today) },
		func() error { return e.forgetNames(tx, id, today) },
		func() error { return tx.Exec("SELECT erase_words(?)", id).Error },
	} {
		if err := forget(); err != nil {
			return err
		}
	}
	return nil
}

// forgetWhole takes away what is nobody's without the client, and what is booked.
func (e *Erasure) forgetWhole(tx *gorm.DB, today time.Time) error {
	const theirs = "(SELECT z.id FROM zones z JOIN sites s ON s.id = z.site_id WHERE s.client_id = @client)"
	const sites = "(SELECT id FROM sites WHERE client_id = @client)"
	for _, q := range []string{
		"DELETE FROM pictures WHERE photo_id IN (SELECT id FROM photos WHERE zone_id IN " + theirs + ")",
		"DELETE FROM photos WHERE zone_id IN " + theirs,
		"DELETE FROM sounds WHERE note_id IN (SELECT id FROM notes WHERE zone_id IN " + theirs + ")",
		"DELETE FROM notes WHERE zone_id IN " + theirs,
		"DELETE FROM call_pictures WHERE call_id IN (SELECT id FROM calls WHERE zone_id IN " + theirs + ")",
		"DELETE FROM calls WHERE zone_id IN " + theirs,
		"DELETE FROM messages WHERE client_id = @client",
		"UPDATE trials SET name = 'Trial', question = '' WHERE zone_id IN " + theirs,
		"UPDATE trial_plots SET void = 'left out' WHERE void <> '' AND trial_id IN (SELECT id FROM trials WHERE zone_id IN " + theirs + ")",
		"DELETE FROM map_entries WHERE site_id IN " + sites,
		"DELETE FROM watch_notices WHERE zone_id IN " + theirs,
		"DELETE FROM zone_courses WHERE zone_id IN " + theirs,
		"DELETE FROM site_events WHERE site_id IN " + sites,
		"UPDATE client_links SET withdrawn_at = coalesce(withdrawn_at, now()) WHERE site_id IN " + sites,
		"UPDATE jobs SET state = 'dropped', reason = '' WHERE site_id IN " + sites + " AND state = 'booked'",
		"UPDATE visits SET closed_on = @today, reason = '' WHERE site_id IN " + sites + " AND closed_on IS NULL",
		"UPDATE visits SET reason = '' WHERE site_id IN " + sites,
		"UPDATE samples SET note = '' WHERE zone_id IN " + theirs,
	} {
		if err := tx.Exec(q, map[string]any{"client": e.Client.ID, "today": today}).Error; err != nil {
			return err
		}
	}
	return nil
}

// forgetNames puts a number in the place of each name, and blurs the place.
func (e *Erasure) forgetNames(tx *gorm.DB, id uuid.UUID, today time.Time) error {
	called := "Erased client " + id.String()[30:]
	if err := tx.Model(&store.Client{}).Where("id = ?", e.Client.ID).Updates(map[string]any{"name": called, "phone": "", "email": "",
		"notes": "", "erased_on": today, "version": gorm.Expr("version + 1")}).Error; err != nil {
		return err
	}
	for i, s := range e.Sites {
		blur := func(x float64) float64 { return math.Round(x/farAway) * farAway }
		if err := tx.Model(&store.Site{}).Where("id = ?", s.ID).Updates(map[string]any{"name": fmt.Sprintf("%s, site %d", called, i+1),
			"address": "", "access_notes": "", "latitude": blur(s.Latitude), "longitude": blur(s.Longitude), "lines_located_on": nil,
			"station_id": nil, "erased_on": today, "version": gorm.Expr("version + 1")}).Error; err != nil {
			return err
		}
		if err := tx.Exec(`UPDATE zones z SET name = 'Zone ' || n.place, version = version + 1
			FROM (SELECT id, row_number() OVER (ORDER BY name, id) AS place FROM zones WHERE site_id = ?) n WHERE n.id = z.id`,
			s.ID).Error; err != nil {
			return err
		}
	}
	return nil
}
