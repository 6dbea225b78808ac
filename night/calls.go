package night

import (
	"context"
	"time"

	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/weather"
	"hodos/store"
)

// calls judges the open calls of a part anew by the weather that has come since: what could wait when it was told may not wait any more.
// The office gets a letter of each that has become urgent.
func (w Watcher) calls(ctx context.Context, p Part, day time.Time, ahead []weather.Day) error {
	var urgent []casework.Called
	var firm store.Firm
	if err := w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) error {
		waiting, err := casework.WaitingCalls(tx, p.First, p.Last, day)
		if err != nil || len(waiting) == 0 {
			return err
		}
		if err := tx.First(&firm, "id = ?", p.Firm).Error; err != nil {
			return err
		}
		known := casework.NewKnown(1)
		for i := range waiting {
			alarm, err := waiting[i].Again(tx, known, day, ahead)
			if err != nil {
				return err
			}
			if alarm {
				urgent = append(urgent, waiting[i])
			}
		}
		return nil
	}); err != nil {
		return err
	}
	for _, c := range urgent {
		if w.Mail == nil || firm.Email == "" {
			return nil
		}
		subject, text := c.Alarm(w.URL)
		if err := w.Mail.Send(ctx, firm.Email, subject, text); err != nil && w.Log != nil {
			w.Log.Error("the office was not told of a call that has become urgent", "error", err) // it stands on the Day page all the same
		}
	}
	return nil
}
