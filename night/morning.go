package night

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
	"hodos/core/morning"
	"hodos/store"
)

// deliver is the job that sends the letters of the morning.
type deliver struct{}

func (deliver) Kind() string { return "morning-letters" }

var delivering = river.NewPeriodicJob(river.PeriodicInterval(10*time.Minute), func() (river.JobArgs, *river.InsertOpts) {
	return deliver{}, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByPeriod: 5 * time.Minute}}
}, &river.PeriodicJobOpts{RunOnStart: true})

type deliverer struct {
	river.WorkerDefaults[deliver]
	jobs *Jobs
}

func (d *deliverer) Work(ctx context.Context, _ *river.Job[deliver]) error {
	now, err := d.jobs.clock.Now(ctx)
	if err != nil {
		return err
	}
	sent, err := d.jobs.watcher.Deliver(ctx, now)
	if sent > 0 {
		d.jobs.log.Info("letters of the morning", "sent", sent)
	}
	return err
}

// noon is the hour after which no letter of the morning goes out any more.
const noon = 12

// again is after how long a letter that was taken up and not sent is taken up again: its server was stopped, or the mail server refused.
const again = 15 * time.Minute

// Deliver sends everybody who wants one the letter of their office's morning, once a day; on a simulated clock as soon as the day has come.
// Whoever has nothing to be told gets none. It says how many were sent. A letter that fails is tried again until noon; a firm whose letters
// cannot be read holds up nobody else's.
func (w Watcher) Deliver(ctx context.Context, now casework.Moment) (sent int, err error) {
	if w.Mail == nil {
		return 0, nil
	}
	var firms []struct {
		FirmID   uuid.UUID
		Timezone string
	}
	if err := w.Store.Shared(ctx).Raw("SELECT * FROM morning_firms()").Scan(&firms).Error; err != nil {
		return 0, err
	}
	for _, f := range firms {
		hour := w.Now().In(casework.Location(f.Timezone)).Hour()
		if _, simulated := now.Fixed(); !simulated && (hour < morning.Hour || hour >= noon) {
			continue
		}
		n, failed := w.deliverFirm(ctx, f.FirmID, now.In(f.Timezone))
		sent += n
		if failed != nil {
			err = errors.Join(err, fmt.Errorf("firm %s: %w", f.FirmID, failed))
		}
		if ctx.Err() != nil {
			break
		}
	}
	return sent, err
}

// letter is one to be sent.
type letter struct {
	person uuid.UUID
	to     string
	morning.Letter
}

func (w Watcher) deliverFirm(ctx context.Context, firm uuid.UUID, day time.Time) (sent int, err error) {
	var letters []letter
	if err := w.Store.InFirm(ctx, firm, func(tx *gorm.DB) (err error) {
		letters, err = w.claim(tx, day)
		return err
	}); err != nil {
		return 0, err
	}
	for _, l := range letters {
		if !l.Empty() {
			if err := w.Mail.Send(ctx, l.to, l.Subject(), l.Text(w.URL)); err != nil {
				if w.Log != nil {
					w.Log.Warn("a letter of the morning was not sent", "person", l.person, "error", err)
				}
				continue
			}
			sent++
		}
		if err := w.Store.InFirm(ctx, firm, func(tx *gorm.DB) error {
			return tx.Exec("UPDATE morning_letters SET sent_at = ? WHERE person_id = ? AND day = ?", w.Now().UTC(), l.person, day).Error
		}); err != nil {
			return sent, err
		}
	}
	return sent, nil
}

// claim takes up the letters of a day that nobody else has taken up, and reads what stands in them.
func (w Watcher) claim(tx *gorm.DB, day time.Time) ([]letter, error) {
	now := w.Now().UTC()
	var people []store.Person
	if err := tx.Raw(`WITH mine AS (INSERT INTO morning_letters (person_id, firm_id, day, claimed_at)
			SELECT id, firm_id, @day, @now FROM people WHERE active AND morning_letter
			ON CONFLICT (person_id) DO UPDATE SET day = excluded.day, claimed_at = excluded.claimed_at, sent_at = NULL
				WHERE morning_letters.day < excluded.day
					OR morning_letters.day = excluded.day AND morning_letters.sent_at IS NULL AND morning_letters.claimed_at < @late
			RETURNING person_id)
		SELECT p.* FROM people p JOIN mine ON mine.person_id = p.id ORDER BY p.id`,
		map[string]any{"day": day, "now": now, "late": now.Add(-again)}).Scan(&people).Error; err != nil {
		return nil, err
	}
	var out []letter
	for _, p := range people {
		l, err := casework.ReadMorning(tx, p.ID, account.May(p.Role, account.KeepSites), day)
		if err != nil {
			return nil, err
		}
		out = append(out, letter{p.ID, p.Email, l})
	}
	return out, nil
}
