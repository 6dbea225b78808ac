// Package demo makes the demo firm: invented people, places and lawns on a simulated clock under a simulated sky.
package demo

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/core/weather"
	"hodos/standin"
	"hodos/store"
)

// Start is the day on which the demo begins: a Monday late in a dry northern summer.
var Start = date(2026, 8, 24)

func date(y int, m time.Month, d int) time.Time { return time.Date(y, m, d, 0, 0, 0, 0, time.UTC) }

// Sky is the simulated weather service.
type Sky struct{}

// spells bend the weather of the stations by their seed, so that the demo's lawns have their reasons.
var spells = map[int64][]standin.Spell{
	37: {
		{From: date(2025, 12, 28), To: date(2026, 1, 12), RainFactor: 1, Warmer: -6},
		{From: date(2026, 4, 14), To: date(2026, 4, 16), RainFactor: 0, Warmer: -9},
		{From: date(2026, 5, 18), To: date(2026, 6, 6), RainFactor: 1.6, Warmer: 0, ExtraRain: 1.5},
		{From: date(2026, 7, 12), To: date(2026, 8, 26), RainFactor: .06, Warmer: 2.4},
		{From: date(2026, 8, 27), To: date(2026, 9, 8), RainFactor: 1.2, Warmer: 0, ExtraRain: 2},
	},
	36: {{From: date(2026, 6, 10), To: date(2026, 8, 15), RainFactor: 1.3, Warmer: -1}},
}

func station(s store.Station) standin.Station {
	return standin.Station{Latitude: s.Latitude, Seed: s.Seed, Spells: spells[s.Seed]}
}

// Days, Forecast and Normals make Sky the server's weather service; it can always be asked.
func (Sky) Days(_ context.Context, s store.Station, from, to time.Time) ([]weather.Day, error) {
	return station(s).Days(from, to), nil
}

// Forecast gives the days after today.
func (Sky) Forecast(_ context.Context, s store.Station, today time.Time, days int) ([]weather.Day, error) {
	return station(s).Forecast(today, days), nil
}

// Normals gives the normal daily means ahead.
func (Sky) Normals(_ context.Context, s store.Station, after time.Time, days int) ([]float64, error) {
	return station(s).Normals(after, days), nil
}

// Clock is the simulated work clock, kept in the database so that several servers agree.
type Clock struct{ Store *store.Store }

// Now is the simulated day, the same everywhere.
func (c Clock) Now(ctx context.Context) (casework.Moment, error) {
	day, err := c.Today(ctx)
	return casework.OnDay(day), err
}

// Today reads the clock.
func (c Clock) Today(ctx context.Context) (time.Time, error) {
	pool, err := c.Store.Pool()
	if err != nil {
		return time.Time{}, err
	}
	var day time.Time
	err = store.Told(pool.QueryRowContext(ctx, "SELECT today FROM clock WHERE one").Scan(&day))
	return day.UTC(), err
}

// Advance moves the clock on; the weather of the days passed arrives.
func (c Clock) Advance(ctx context.Context, days int) (time.Time, error) {
	var today time.Time
	err := c.Store.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		var row store.Clock
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&row).Error; err != nil {
			return err
		}
		from := row.Today.UTC()
		today = from.AddDate(0, 0, days)
		if err := arrive(tx, from.AddDate(0, 0, 1), today); err != nil {
			return err
		}
		return tx.Model(&row).Where("one").Update("today", today).Error
	})
	return today, err
}

// arrive writes the weather of some days for every simulated station.
func arrive(tx *gorm.DB, from, to time.Time) error {
	var stations []store.Station
	if err := tx.Where("simulated").Find(&stations).Error; err != nil {
		return err
	}
	for _, s := range stations {
		rows := casework.StationDays(s.ID, station(s).Days(from, to))
		if len(rows) == 0 {
			continue
		}
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(rows, 500).Error; err != nil {
			return err
		}
	}
	return nil
}

func day(y int, m time.Month, d int) *time.Time { t := date(y, m, d); return &t }
