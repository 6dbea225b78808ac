package demo_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/core/outline"
	"hodos/demo"
	"hodos/exchange/mapfile"
	"hodos/internal/testdb"
	"hodos/store"
)

func count(t *testing.T, s *store.Store, model any, where ...any) (n int64) {
	t.Helper()
	require.NoError(t, s.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		q := tx.Model(model)
		if len(where) > 0 {
			q = q.Where(where[0], where[1:]...)
		}
		return q.Count(&n).Error
	}))
	return n
}

func TestTheDemoLoadsOnce(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	loaded, err := demo.Load(ctx, s)
	require.NoError(t, err, "every story must come out as it is told")
	require.True(t, loaded)
	sites := count(t, s, &store.Site{})
	require.GreaterOrEqual(t, sites, int64(6))
	require.GreaterOrEqual(t, count(t, s, &store.Diagnosis{}), int64(4), "sites with history")
	require.GreaterOrEqual(t, count(t, s, &store.Visit{}, "closed_on IS NULL"), int64(6), "some are open")
	require.GreaterOrEqual(t, count(t, s, &store.Visit{}, "due_on <= ? AND closed_on IS NULL", demo.Start), int64(3), "some are due today")
	require.Positive(t, count(t, s, &store.Site{}, "latitude < 0"), "one client in the south")
	again, err := demo.Load(ctx, s)
	require.NoError(t, err)
	require.False(t, again, "a second run keeps the data")
	require.Equal(t, sites, count(t, s, &store.Site{}))
}

func TestTheClockBringsTheWeather(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	_, err := demo.Load(ctx, s)
	require.NoError(t, err)
	c := demo.Clock{Store: s}
	last := func() (day string) {
		require.NoError(t, s.Shared(ctx).Raw("SELECT max(day)::text FROM station_days").Scan(&day).Error)
		return day
	}
	today, err := c.Today(ctx)
	require.NoError(t, err)
	require.Equal(t, demo.Start, today)
	require.Equal(t, "2026-08-24", last(), "nobody knows tomorrow's weather")
	today, err = c.Advance(ctx, 7)
	require.NoError(t, err)
	require.Equal(t, "2026-08-31", today.Format("2006-01-02"))
	require.Equal(t, "2026-08-31", last())

	// two servers that move it at once move it twice, and no day is missing or twice
	done := make(chan error, 2)
	for range 2 {
		go func() { _, err := c.Advance(ctx, 1); done <- err }()
	}
	require.NoError(t, <-done)
	require.NoError(t, <-done)
	today, err = c.Today(ctx)
	require.NoError(t, err)
	require.Equal(t, "2026-09-02", today.Format("2006-01-02"))
	var gaps int64
	require.NoError(t, s.Shared(ctx).Raw("SELECT count(*) FROM (SELECT station_id, day - lag(day) OVER (PARTITION BY station_id ORDER BY day) AS step FROM station_days) d WHERE step <> 1").Scan(&gaps).Error)
	require.Zero(t, gaps)
}

func TestForecastAndNormals(t *testing.T) {
	sky := demo.Sky{}
	st := store.Station{Latitude: 37.6, Seed: 37}
	ctx := context.Background()
	f, err := sky.Forecast(ctx, st, demo.Start, 10)
	require.NoError(t, err)
	was, err := sky.Days(ctx, st, demo.Start.AddDate(0, 0, -6), demo.Start)
	require.NoError(t, err)
	require.Len(t, was, 7)
	require.Len(t, f, 10)
	require.Equal(t, demo.Start.AddDate(0, 0, 1), f[0].Date)
	n, err := sky.Normals(ctx, st, demo.Start, 120)
	require.NoError(t, err)
	require.Len(t, n, 120)
	require.Greater(t, n[0], n[119]+8, "autumn comes")
}

func TestMapsAgreeWithTheZones(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	_, err := demo.Load(ctx, s)
	require.NoError(t, err)
	require.NoError(t, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		var zones []store.Zone
		require.NoError(t, tx.Find(&zones).Error)
		for _, z := range zones {
			var site store.Site
			var e store.MapEntry
			require.NoError(t, tx.First(&site, "id = ?", z.SiteID).Error)
			require.NoError(t, tx.First(&e, "zone_id = ?", z.ID).Error, "%s of %s has an outline", z.Name, site.Name)
			var m outline.Mapped
			require.NoError(t, mapfile.Into(e.Geometry, &m))
			shape := m.Shape(outline.NewPlane(outline.Place{Longitude: site.Longitude, Latitude: site.Latitude}))
			require.InEpsilon(t, z.AreaM2, shape.Area(), .003, "%s of %s", z.Name, site.Name)
		}
		return nil
	}))
}
