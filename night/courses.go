package night

import (
	"context"
	"fmt"
	"time"

	"hodos/casework"

	"github.com/google/uuid"
	"gorm.io/gorm"
)

// courses judges the recoveries of a part's zones that were measured after they were last judged: where the verdict could not be kept
// with the measure, or the rows came in by another way.
func (w Watcher) courses(ctx context.Context, p Part, day time.Time) error {
	var behind []struct {
		ZoneID uuid.UUID
		Last   time.Time
	}
	if err := w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) error {
		return tx.Raw(`SELECT l.zone_id, max(l.measured_on) AS last FROM sites s
			JOIN zones z ON z.site_id = s.id JOIN measures l ON l.zone_id = z.id
			LEFT JOIN zone_courses c ON c.zone_id = z.id
			WHERE s.id BETWEEN ? AND ? AND s.station_id IS NOT DISTINCT FROM ? AND l.measured_on <= ?
			GROUP BY l.zone_id, c.judged_on HAVING c.judged_on IS NULL OR c.judged_on < max(l.measured_on) ORDER BY 1`,
			p.First, p.Last, p.Station, day).Scan(&behind).Error
	}); err != nil {
		return err
	}
	for _, b := range behind {
		var c casework.Course
		if err := w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) (err error) {
			c, err = casework.ReadCourse(tx, b.ZoneID, casework.OnDay(day))
			return err
		}); err != nil {
			return err
		}
		ahead, err := c.Outlook(ctx, w.Weather)
		if err != nil {
			return fmt.Errorf("the weather ahead of %s: %w", c.Station.Name, err)
		}
		if err := w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) error {
			return casework.KeepCourse(tx, c.Zone, c.Judge(ahead), b.Last)
		}); err != nil {
			return err
		}
	}
	return nil
}
