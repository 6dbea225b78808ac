package casework

import (
	"encoding/json"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/review"
	"hodos/store"
)

// Reviewed is a zone with what is worth a look.
type Reviewed struct {
	Zone   store.Zone
	Points []review.Point
}

// looked are the readings that a review takes, with where each goes.
var looked = map[string]func(*review.Zone, float64){
	"thatch-mm":          func(z *review.Zone, x float64) { z.ThatchMM = x },
	"penetration-kpa":    func(z *review.Zone, x float64) { z.ConeKPa = x },
	"catch-can-du":       func(z *review.Zone, x float64) { z.Uniformity = x },
	"weed-cover-percent": func(z *review.Zone, x float64) { z.WeedsShare = x / 100 },
}

// Review looks back on the zones of some sites: eight questions, however many they are.
func Review(tx *gorm.DB, sites []uuid.UUID, today time.Time) ([]Reviewed, error) {
	var zones []store.Zone
	if err := tx.Where("site_id IN ?", sites).Order("site_id, name, id").Find(&zones).Error; err != nil || len(zones) == 0 {
		return nil, err
	}
	keys, nan := ZoneKeys(zones), math.NaN()
	at := map[uuid.UUID]*review.Zone{}
	for _, z := range zones {
		one := &review.Zone{
			Today:      today,
			Cover:      nan,
			Target:     z.TargetCover,
			Causes:     map[string]int{},
			ThatchMM:   nan,
			ConeKPa:    nan,
			Uniformity: nan,
			WeedsShare: nan,
		}
		_ = json.Unmarshal(z.Species, &one.Grasses) // written by the API alone, which has checked it
		at[z.ID] = one
	}
	for _, read := range []func(*gorm.DB, []uuid.UUID, time.Time, map[uuid.UUID]*review.Zone) error{
		courses, causes, fed, soilTests, readingsOf, bookedAhead, seen,
	} {
		if err := read(tx, keys, today, at); err != nil {
			return nil, err
		}
	}
	out := make([]Reviewed, len(zones))
	for i, z := range zones {
		out[i] = Reviewed{z, review.Points(*at[z.ID])}
	}
	return out, nil
}

type counted struct {
	ZoneID uuid.UUID
	Name   string
	N      float64
	Day    *time.Time
}

func each(q *gorm.DB, take func(counted)) error {
	var rows []counted
	err := q.Scan(&rows).Error
	for _, r := range rows {
		take(r)
	}
	return err
}

func courses(tx *gorm.DB, keys []uuid.UUID, today time.Time, at map[uuid.UUID]*review.Zone) error {
	if err := each(tx.Raw("SELECT zone_id, verdict AS name FROM zone_courses WHERE zone_id IN ? AND judged_on > ?", keys,
		today.AddDate(-1, 0, 0)), func(r counted) { at[r.ZoneID].Course = r.Name }); err != nil {
		return err
	}
	return each(tx.Raw(`SELECT DISTINCT ON (zone_id) zone_id, cover AS n FROM measures WHERE zone_id IN ? AND measured_on > ?
		ORDER BY zone_id, measured_on DESC, seq DESC`, keys, today.AddDate(-1, 0, 0)), func(r counted) { at[r.ZoneID].Cover = r.N })
}

func causes(tx *gorm.DB, keys []uuid.UUID, today time.Time, at map[uuid.UUID]*review.Zone) error {
	return each(tx.Raw(`SELECT zone_id, leading_cause AS name, count(DISTINCT visit_id) AS n FROM diagnoses WHERE zone_id IN ? AND given_on > ?
		AND probability >= .5 AND leading_cause <> 'healthy-turf' GROUP BY 1, 2`, keys, today.AddDate(-3, 0, 0)),
		func(r counted) { at[r.ZoneID].Causes[r.Name] = int(r.N) })
}

// standing is the condition of a record that is neither void nor corrected.
const standing = "NOT r.voided AND NOT EXISTS (SELECT FROM treatment_records c WHERE c.corrects_id = r.id)"

func fed(tx *gorm.DB, keys []uuid.UUID, today time.Time, at map[uuid.UUID]*review.Zone) error {
	return each(
		tx.Raw(`SELECT zone_id, sum(n_g_m2) FILTER (WHERE applied_on > ?) AS n FROM treatment_records r WHERE zone_id IN ? AND applied_on > ?
		AND n_g_m2 > 0 AND `+standing+` GROUP BY 1`, today.AddDate(-1, 0, 0), keys, today.AddDate(-2, 0, 0)),
		func(r counted) { at[r.ZoneID].Fed, at[r.ZoneID].NitrogenGM2 = true, r.N },
	)
}

func soilTests(tx *gorm.DB, keys []uuid.UUID, _ time.Time, at map[uuid.UUID]*review.Zone) error {
	return each(tx.Raw(`SELECT zone_id, max(day) AS day FROM (
		SELECT zone_id, day FROM standing_readings WHERE zone_id IN ? AND finding IN ('soil-ph', 'soil-p-ppm', 'soil-k-ppm')
		UNION ALL SELECT zone_id, taken_on FROM samples WHERE zone_id IN ? AND kind = 'soil' AND result IS NOT NULL) x GROUP BY 1`, keys, keys),
		func(r counted) { at[r.ZoneID].SoilTest = r.Day })
}

func readingsOf(tx *gorm.DB, keys []uuid.UUID, today time.Time, at map[uuid.UUID]*review.Zone) error {
	var ids []string
	for id := range looked {
		ids = append(ids, id)
	}
	return each(
		tx.Raw(`SELECT DISTINCT ON (zone_id, finding) zone_id, finding AS name, (value #>> '{}')::float8 AS n FROM answers
		WHERE zone_id IN ? AND finding IN ? AND spot = 'worst' AND jsonb_typeof(value) = 'number' AND recorded_at > ?
		ORDER BY zone_id, finding, seq DESC`, keys, ids,
			today.AddDate(-1, -2, 0)),
		func(r counted) { looked[r.Name](at[r.ZoneID], r.N) },
	)
}

func bookedAhead(tx *gorm.DB, keys []uuid.UUID, _ time.Time, at map[uuid.UUID]*review.Zone) error {
	return each(tx.Raw("SELECT zone_id, count(*) AS n FROM jobs WHERE zone_id IN ? AND state = 'booked' GROUP BY 1", keys),
		func(r counted) { at[r.ZoneID].Booked = int(r.N) })
}

func seen(tx *gorm.DB, keys []uuid.UUID, today time.Time, at map[uuid.UUID]*review.Zone) error {
	return each(
		tx.Raw(
			`SELECT z.id AS zone_id, count(*) AS n FROM visits v JOIN zones z ON z.site_id = v.site_id AND (v.zone_id IS NULL OR v.zone_id = z.id)
		WHERE z.id IN ? AND (v.closed_on > ? OR v.closed_on IS NULL) GROUP BY 1`,
			keys,
			today.AddDate(-1, 0, 0),
		),
		func(r counted) { at[r.ZoneID].Visits = int(r.N) },
	)
}
