package casework

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/client"
	"hodos/core/turf"
	"hodos/store"
)

// Reader is a client to whom something is told, with what a message has to know of their lawns.
type Reader struct {
	ID          uuid.UUID
	Name, Email string
	Sites       string // their names, in one
	client.Lawn
	Told map[string]time.Time `gorm:"-"` // when they were told last, by kind
}

// mostReaders is how many clients under one station are read at once (judgement: a big firm's largest).
const mostReaders = 1000

// toldDays is for how long a message counts as told.
const toldDays = 10

// ReadersUnder are the clients with lawns under a station, by name.
func ReadersUnder(tx *gorm.DB, station uuid.UUID, today time.Time) ([]Reader, error) {
	var warm []string
	for _, s := range turf.All() {
		if s.Family == turf.Warm {
			warm = append(warm, s.ID)
		}
	}
	var out []Reader
	if err := tx.Raw(`SELECT k.id, k.name, k.email, string_agg(DISTINCT s.name, ', ') AS sites,
			bool_or(coalesce(z.irrigated, false)) AS irrigated,
			bool_or(z.species ->> 0 IN ?) AS warm,
			bool_or(EXISTS (SELECT FROM treatment_records r
				WHERE r.zone_id = z.id AND r.action IN ? AND NOT r.voided AND r.applied_on > ?)) AS sown
		FROM clients k JOIN sites s ON s.client_id = k.id JOIN zones z ON z.site_id = s.id
		WHERE s.station_id = ? AND s.erased_on IS NULL GROUP BY k.id ORDER BY k.name, k.id LIMIT ?`,
		warm, sowing, today.AddDate(0, 0, -client.SownDays), station, mostReaders).Scan(&out).Error; err != nil {
		return nil, err
	}
	return out, readTold(tx, out, today)
}

// readTold adds when they were told of what.
func readTold(tx *gorm.DB, list []Reader, today time.Time) error {
	ids, at := make([]uuid.UUID, len(list)), map[uuid.UUID]int{}
	for i, r := range list {
		ids[i], at[r.ID] = r.ID, i
		list[i].Told = map[string]time.Time{}
	}
	if len(list) == 0 {
		return nil
	}
	var rows []struct {
		ClientID uuid.UUID
		Kind     string
		On       time.Time
	}
	if err := tx.Raw(`SELECT client_id, kind, max(made_on) AS on FROM messages WHERE client_id IN ? AND made_on > ? AND state <> 'failed'
		GROUP BY client_id, kind`, ids, today.AddDate(0, 0, -toldDays)).Scan(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		list[at[r.ClientID]].Told[r.Kind] = r.On
	}
	return nil
}

// Expected is a visit of tomorrow with whom it is at.
type Expected struct {
	store.Visit
	ClientID   uuid.UUID
	ClientName string
	Email      string
	SiteName   string
	Actions    store.JSON // of jobs booked there for that day
	ToldOn     *time.Time
	PersonName string
}

// mostExpected is how many visits of tomorrow are listed (judgement).
const mostExpected = 100

// VisitsTomorrow are the visits due on the day after today that nobody has begun.
func VisitsTomorrow(tx *gorm.DB, today time.Time) (out []Expected, err error) {
	tomorrow := today.AddDate(0, 0, 1)
	err = tx.Raw(`SELECT v.*, k.id AS client_id, k.name AS client_name, k.email, s.name AS site_name, coalesce(p.name, '') AS person_name,
			coalesce((SELECT jsonb_agg(DISTINCT j.action) FROM jobs j
				WHERE j.site_id = s.id AND j.state = 'booked' AND j.due_on = v.due_on), '[]') AS actions,
			(SELECT max(m.made_on) FROM messages m WHERE m.visit_id = v.id AND m.state <> 'failed') AS told_on
		FROM visits v JOIN sites s ON s.id = v.site_id JOIN clients k ON k.id = s.client_id LEFT JOIN people p ON p.id = v.person_id
		WHERE v.due_on = ? AND v.started_on IS NULL AND v.closed_on IS NULL
		ORDER BY s.name, v.id LIMIT ?`, tomorrow, mostExpected).Scan(&out).Error
	return out, err
}

// StationOf is a station with how many sites lie under it.
type StationOf struct {
	store.Station
	Sites int64
}

// StationsOf are the stations under which the firm has sites, the most first.
func StationsOf(tx *gorm.DB) (out []StationOf, err error) {
	err = tx.Raw(`SELECT t.*, n.sites FROM (SELECT station_id, count(*) AS sites FROM sites WHERE station_id IS NOT NULL AND erased_on IS NULL
		GROUP BY station_id ORDER BY 2 DESC LIMIT 50) n JOIN stations t ON t.id = n.station_id ORDER BY n.sites DESC, t.name`).Scan(&out).Error
	return out, err
}
