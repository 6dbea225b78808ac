package night

import (
	"context"
	"time"

	"gorm.io/gorm"

	"hodos/casework"
	"hodos/store"
)

// mostLookedBack is how many diagnoses one part looks back upon in one round: some ten seconds of work. The rest waits for the next.
const mostLookedBack = 100

// lookBack looks back on the diagnoses of a part that were given, or closed, since it was last done.
func (w Watcher) lookBack(ctx context.Context, p Part, day time.Time) error {
	var given []casework.Given
	if err := w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) (err error) {
		given, err = casework.Unlooked(tx, p.First, p.Last, day, mostLookedBack)
		return err
	}); err != nil || len(given) == 0 {
		return err
	}
	rows := make([]store.Hindsight, len(given))
	for i, d := range given {
		rows[i] = casework.LookBack(d)
	}
	return w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) error { return casework.KeepHindsight(tx, rows) })
}
