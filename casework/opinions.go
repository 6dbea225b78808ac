package casework

import (
	"slices"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// OpinionsKept is how many diagnoses of a zone are looked back upon, and OpinionDays how far (judgement: a season and the one before it).
const (
	OpinionsKept = 6
	OpinionDays  = 400
)

// ReadOpinions are the diagnoses of a zone with their case files, the last one of each visit, the oldest first.
func ReadOpinions(tx *gorm.DB, zone uuid.UUID, now Moment) ([]store.Diagnosis, error) {
	var z store.Zone
	if err := tx.Select("id", "site_id").First(&z, "id = ?", zone).Error; err != nil {
		return nil, err
	}
	var site store.Site
	if err := tx.Select("id", "timezone").First(&site, "id = ?", z.SiteID).Error; err != nil {
		return nil, err
	}
	var rows []store.Diagnosis
	err := tx.Raw(`SELECT * FROM (SELECT DISTINCT ON (visit_id) * FROM diagnoses WHERE zone_id = ? AND given_on > ?
			ORDER BY visit_id, recorded_at DESC) d ORDER BY given_on DESC, recorded_at DESC LIMIT ?`,
		zone, now.In(site.Timezone).AddDate(0, 0, -OpinionDays), OpinionsKept).Scan(&rows).Error
	slices.Reverse(rows)
	return rows, err
}
