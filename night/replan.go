package night

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/weather"
	"hodos/store"
)

// replan finds days anew for the booked jobs of some zones, by what is forecast now: what moves says why. Without anything new nothing
// moves, so that it may be done as often as one likes.
func replan(tx *gorm.DB, zones []store.Zone, country string, day time.Time, forecast []weather.Day) error {
	var list []store.Job
	if err := tx.Where("zone_id IN ? AND state = 'booked'", casework.ZoneKeys(zones)).Order("due_on, id").Find(&list).Error; err != nil {
		return err
	}
	_, err := casework.Replan(tx, list, country, day, func(*uuid.UUID) []weather.Day { return forecast }, nil)
	return err
}
