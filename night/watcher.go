// Package night looks at the zones of all firms by night and works the queue that all servers of a database share. It is the only room
// that knows the queue.
package night

import (
	"bytes"
	"context"
	"fmt"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/account"
	"hodos/casework"
	"hodos/core/units"
	"hodos/core/watch"
	"hodos/store"
)

// Watcher looks at the zones of all firms by night and writes down what is to be told of them (docs/decisions/0011).
type Watcher struct {
	Store   *store.Store
	Weather casework.Service // nil: no forecast
	Now     func() time.Time // real time
	Mail    account.Mail     // nil: no letters are sent
	URL     string           // where people reach the application, for letters
	Log     *slog.Logger     // nil: nothing is said of letters that fail
}

// partSites is how many sites one part of a night takes at most: a second or two of work.
const partSites = 50

// Part is one piece of a night: a firm's sites at one station, from one key to another.
type Part struct {
	Round   string     `json:"round"`
	Run     uuid.UUID  `json:"run"`
	Firm    uuid.UUID  `json:"firm"`
	Station *uuid.UUID `json:"station,omitempty"`
	First   uuid.UUID  `json:"first"`
	Last    uuid.UUID  `json:"last"`
	Sites   int        `json:"sites"`
	Day     string     `json:"day"`
}

// Plan cuts a night into parts and opens a run for each firm, on the day that its office has. only limits it to one firm.
func (w Watcher) Plan(ctx context.Context, tx *gorm.DB, now casework.Moment, round string, only *uuid.UUID) ([]Part, error) {
	var rows []struct {
		FirmID      uuid.UUID
		StationID   *uuid.UUID
		First, Last uuid.UUID
		Sites       int
	}
	if err := tx.WithContext(ctx).Raw("SELECT * FROM watch_parts(?)", partSites).Scan(&rows).Error; err != nil {
		return nil, err
	}
	runs := map[uuid.UUID]*store.WatchRun{}
	var order []*store.WatchRun
	var parts []Part
	for _, r := range rows {
		if only != nil && r.FirmID != *only {
			continue
		}
		run, ok := runs[r.FirmID]
		if !ok {
			id, err := uuid.NewV7()
			if err != nil {
				return nil, err
			}
			run = &store.WatchRun{ID: id, FirmID: r.FirmID, StartedAt: w.Now().UTC()}
			runs[r.FirmID] = run
			order = append(order, run)
		}
		run.Sites += r.Sites
		run.Parts++
		parts = append(parts, Part{round, run.ID, r.FirmID, r.StationID, r.First, r.Last, r.Sites, ""})
	}
	for _, run := range order {
		if err := tx.Exec("SELECT set_config('app.firm', ?, true)", run.FirmID.String()).Error; err != nil {
			return nil, err
		}
		var timezone string
		if err := tx.Raw("SELECT timezone FROM firms WHERE id = ?", run.FirmID).Scan(&timezone).Error; err != nil {
			return nil, err
		}
		run.Day = now.In(timezone)
		if err := tx.Create(run).Error; err != nil {
			return nil, err
		}
	}
	for i := range parts {
		parts[i].Day = runs[parts[i].Firm].Day.Format(time.DateOnly)
	}
	return parts, tx.Exec("SELECT set_config('app.firm', '', true)").Error
}

// Part looks at the sites of one part and writes what it saw, all in one transaction; with is called last in it, so that a
// job is done in the same moment as its work, or not at all.
func (w Watcher) Part(ctx context.Context, p Part, with func(tx *gorm.DB) error) error {
	day, err := time.Parse(time.DateOnly, p.Day)
	if err != nil {
		return fmt.Errorf("day %q: %w", p.Day, err)
	}
	answer, err := w.ask(ctx, p.Station, day)
	if err != nil {
		return err
	}
	if err := w.courses(ctx, p, day); err != nil {
		return err
	}
	if err := w.lookBack(ctx, p, day); err != nil {
		return err
	}
	if err := w.calls(ctx, p, day, answer.forecast); err != nil {
		return err
	}
	return w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) error {
		sum, err := w.part(tx, p, day, answer)
		if err != nil {
			return err
		}
		var last bool
		if err := tx.Raw(`UPDATE watch_runs SET sites_done = sites_done + ?, parts_done = parts_done + 1, zones = zones + ?,
				unchanged = unchanged + ?, told = told + ?, ended = ended + ?,
				finished_at = CASE WHEN parts_done + 1 = parts THEN ?::timestamptz END
			WHERE id = ? RETURNING finished_at IS NOT NULL`, p.Sites, sum.zones, sum.unchanged, sum.told, sum.ended, w.Now().UTC(), p.Run).
			Scan(&last).Error; err != nil {
			return err
		}
		if last { // whoever ends the round sees what all its parts have kept
			if err := casework.Teach(tx, p.Firm, day); err != nil {
				return err
			}
		}
		if with == nil {
			return nil
		}
		return with(tx)
	})
}

type nightSum struct{ zones, unchanged, told, ended int }

func (w Watcher) part(tx *gorm.DB, p Part, day time.Time, answer serviceAnswer) (nightSum, error) {
	var sum nightSum
	var sites []store.Site
	if err := tx.Where("station_id IS NOT DISTINCT FROM ? AND id BETWEEN ? AND ?", p.Station, p.First,
		p.Last).Order("id").Find(&sites).Error; err != nil {
		return sum, err
	}
	if len(sites) == 0 {
		return sum, nil
	}
	keys := make([]uuid.UUID, len(sites))
	for i, s := range sites {
		keys[i] = s.ID
	}
	var zones []store.Zone
	if err := tx.Where("site_id IN ?", keys).Order("id").Find(&zones).Error; err != nil {
		return sum, err
	}
	if len(answer.days) > 0 {
		if err := tx.Clauses(casework.Newer).CreateInBatches(casework.StationDays(*p.Station, answer.days), 500).Error; err != nil {
			return sum, err
		}
	}
	marks, err := lockZones(tx, zones, day)
	if err != nil {
		return sum, err
	}
	at, err := casework.StationAt(tx, p.Station, answer.forecast, day)
	if err != nil {
		return sum, err
	}
	at.Normals = answer.normals
	all, err := casework.ZonesOn(tx, sites, zones, at, day)
	if err != nil {
		return sum, err
	}
	var standing []store.WatchNotice
	if err := tx.Where("zone_id IN ? AND ended_on IS NULL", casework.ZoneKeys(zones)).Order("id").Find(&standing).Error; err != nil {
		return sum, err
	}
	of := map[uuid.UUID][]store.WatchNotice{}
	for _, n := range standing {
		of[n.ZoneID] = append(of[n.ZoneID], n)
	}
	var firm store.Firm
	if err := tx.First(&firm, "id = ?", p.Firm).Error; err != nil {
		return sum, err
	}
	if err := replan(tx, zones, firm.Country, day, answer.forecast); err != nil {
		return sum, err
	}
	for i := range all {
		z := &all[i]
		sum.zones++
		m := marks[z.Zone.ID]
		if bytes.Equal(m.MadeFrom, z.MadeFrom) {
			sum.unchanged++
			continue
		}
		if len(m.MadeFrom) > 0 && m.Day.UTC().After(day) {
			sum.unchanged++ // somebody has looked at a later day already
			continue
		}
		if err := z.Weather(); err != nil {
			return sum, err
		}
		now := watch.Notices(watch.Zone{Case: z.Case, Had: z.Had}, units.In(firm.UnitSystem))
		told, ended, err := write(tx, z.Zone, of[z.Zone.ID], now, day)
		if err != nil {
			return sum, err
		}
		sum.told, sum.ended = sum.told+told, sum.ended+ended
		if err := tx.Model(&store.WatchZone{}).Where("zone_id = ?", z.Zone.ID).Updates(map[string]any{"day": day,
			"made_from": z.MadeFrom}).Error; err != nil {
			return sum, err
		}
	}
	return sum, nil
}

// lockZones makes the rows of the zones where they are missing and holds them until the transaction ends, in one order, so that two runs
// over the same zones follow each other.
func lockZones(tx *gorm.DB, zones []store.Zone, day time.Time) (map[uuid.UUID]store.WatchZone, error) {
	out := map[uuid.UUID]store.WatchZone{}
	if len(zones) == 0 {
		return out, nil
	}
	rows := make([]store.WatchZone, len(zones))
	for i, z := range zones {
		rows[i] = store.WatchZone{ZoneID: z.ID, FirmID: z.FirmID, Day: day, MadeFrom: []byte{}}
	}
	if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&rows).Error; err != nil {
		return nil, err
	}
	rows = nil
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("zone_id IN ?",
		casework.ZoneKeys(zones)).Order("zone_id").Find(&rows).Error; err != nil {
		return nil, err
	}
	for _, r := range rows {
		out[r.ZoneID] = r
	}
	return out, nil
}

// write brings the notices of a zone up to the day: new ones are told, standing ones are seen again, others end.
func write(tx *gorm.DB, z store.Zone, rows []store.WatchNotice, now []watch.Notice, day time.Time) (told, ended int, err error) {
	standing := make([]watch.Standing, len(rows))
	for i, r := range rows {
		standing[i] = watch.Standing{Kind: r.Kind, Subject: r.Subject, Level: r.Level, Seen: r.SeenOn.UTC()}
	}
	steps := watch.Follow(standing, now, day)
	row := func(s watch.Step) *store.WatchNotice {
		for i := range standing {
			if s.Was == &standing[i] {
				return &rows[i]
			}
		}
		return nil
	}
	for _, s := range steps { // what ends goes first, so that the same thing can stand anew
		if s.Ended {
			ended++
			if err := tx.Model(&store.WatchNotice{}).Where("id = ?", row(s).ID).Update("ended_on", day).Error; err != nil {
				return told, ended, err
			}
		}
	}
	for _, s := range steps {
		if s.Ended {
			continue
		}
		var comes *time.Time
		if !s.On.IsZero() {
			comes = &s.On
		}
		old := row(s)
		if old == nil {
			id, err := uuid.NewV7()
			if err != nil {
				return told, ended, err
			}
			told++
			n := store.WatchNotice{ID: id, FirmID: z.FirmID, ZoneID: z.ID, Kind: s.Kind, Subject: s.Subject, Level: s.Level, Since: s.Since,
				ComesOn: comes, Ahead: s.Ahead, Detail: s.Detail, ToldOn: day, SeenOn: day}
			if err := tx.Create(&n).Error; err != nil {
				return told, ended, err
			}
			continue
		}
		change := map[string]any{"level": s.Level, "comes_on": comes, "ahead": s.Ahead, "detail": s.Detail, "seen_on": day}
		if s.Since.Before(old.Since) || old.Ahead {
			change["since"] = s.Since
		}
		if s.New { // more urgent than before: told again, whoever had noted it
			told++
			change["told_on"], change["noted_on"], change["noted_by"] = day, nil, nil
		}
		if err := tx.Model(&store.WatchNotice{}).Where("id = ?", old.ID).Updates(change).Error; err != nil {
			return told, ended, err
		}
	}
	return told, ended, nil
}

// Night plans a night and works all of it here and now, part by part: for the demo's first days and for tests.
func (w Watcher) Night(ctx context.Context, now casework.Moment) error {
	var parts []Part
	err := w.Store.Shared(ctx).Transaction(func(tx *gorm.DB) (err error) {
		parts, err = w.Plan(ctx, tx, now, "", nil)
		return err
	})
	if err != nil {
		return err
	}
	for _, p := range parts {
		if err := w.Part(ctx, p, nil); err != nil {
			return err
		}
	}
	return nil
}
