package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/internal/testdb"
	"hodos/store"
)

// lawn makes a firm with a person, a client, a site at a station, and a zone.
func lawn(t *testing.T, s *store.Store, station *uuid.UUID, name string) (f, person, site, zone uuid.UUID) {
	t.Helper()
	f = firm(t, s, name)
	person, site, zone = uuid.Must(uuid.NewV7()), uuid.Must(uuid.NewV7()), uuid.Must(uuid.NewV7())
	client := uuid.Must(uuid.NewV7())
	require.NoError(t, s.InFirm(context.Background(), f, func(tx *gorm.DB) error {
		for _, row := range []any{
			&store.Person{ID: person, FirmID: f, Name: "P", Email: person.String() + "@x.example", Role: "owner", PasswordHash: "x", Active: true,
				Version: 1},
			&store.Client{ID: client, FirmID: f, Name: "C", Version: 1},
			&store.Site{ID: site, FirmID: f, ClientID: client, StationID: station, Name: "S", Timezone: "UTC", Version: 1},
			&store.Zone{ID: zone, FirmID: f, SiteID: site, Name: "Z", AreaM2: 1, Species: store.JSON(`["unknown"]`), TargetCover: .9,
				Policy: store.JSON("{}"), Version: 1},
		} {
			if err := tx.Create(row).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	return f, person, site, zone
}

var day = time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)

func TestReadingsOnlyGrow(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	f, person, _, zone := lawn(t, s, nil, "A")
	row := func(hour *float64, value float64) *store.Reading {
		return &store.Reading{ID: uuid.Must(uuid.NewV7()), FirmID: f, ZoneID: zone, Day: day, Hour: hour, Finding: "soil-ph", Value: value,
			Origin: "file", PersonID: person, RecordedAt: day}
	}
	nine := 9.0
	put := func(r *store.Reading) error {
		return s.InFirm(ctx, f, func(tx *gorm.DB) error { return tx.Create(r).Error })
	}
	require.NoError(t, put(row(nil, 7)))
	require.NoError(t, put(row(&nine, 7)), "another hour is another reading")
	require.NoError(t, put(row(nil, 8)), "a corrected reading is a new row")
	var stands []store.Reading
	require.NoError(t, s.InFirm(ctx, f, func(tx *gorm.DB) error {
		return tx.Table("standing_readings").Order("hour NULLS FIRST").Find(&stands).Error
	}))
	require.Len(t, stands, 2)
	require.InDelta(t, 8, stands[0].Value, 0, "the newest stands")
	require.InDelta(t, 7, stands[1].Value, 0, "another hour is another reading")
	g, _, _, _ := lawn(t, s, nil, "B")
	require.NoError(t, s.InFirm(ctx, g, func(tx *gorm.DB) error { return tx.Table("standing_readings").Find(&stands).Error }))
	require.Empty(t, stands, "another firm sees none")
	for _, change := range []string{"UPDATE readings SET value = 1", "DELETE FROM readings"} {
		require.ErrorIs(t, s.InFirm(ctx, f, func(tx *gorm.DB) error { return tx.Exec(change).Error }), store.ErrRefused, change)
	}
}

func TestOneThingStandsOnce(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	f, person, _, zone := lawn(t, s, nil, "A")
	put := func(change func(*store.WatchNotice)) error {
		n := &store.WatchNotice{ID: uuid.Must(uuid.NewV7()), FirmID: f, ZoneID: zone, Kind: "window", Subject: "dollar-spot", Level: 1,
			Since: day, Detail: "x", ToldOn: day, SeenOn: day}
		change(n)
		return s.InFirm(ctx, f, func(tx *gorm.DB) error { return tx.Create(n).Error })
	}
	require.NoError(t, put(func(n *store.WatchNotice) { n.EndedOn = &day }))
	require.NoError(t, put(func(*store.WatchNotice) {}), "what has ended does not stand in the way")
	require.ErrorIs(t, put(func(*store.WatchNotice) {}), store.ErrTaken)
	require.NoError(t, put(func(n *store.WatchNotice) { n.Subject = "rust" }))
	require.ErrorIs(t, put(func(n *store.WatchNotice) { n.Kind, n.Subject = "rumour", "" }), store.ErrUnstorable)
	require.ErrorIs(t, put(func(n *store.WatchNotice) { n.Kind, n.NotedOn = "frost", &day }), store.ErrUnstorable, "noted by nobody")
	require.NoError(t, put(func(n *store.WatchNotice) { n.Kind, n.NotedOn, n.NotedBy = "frost", &day, &person }))
}

func TestAStationCountsItsChanges(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	one, two := store.Station{ID: uuid.Must(uuid.NewV7()), Name: "One"}, store.Station{ID: uuid.Must(uuid.NewV7()), Name: "Two"}
	require.NoError(t, s.Shared(ctx).Create(&[]store.Station{one, two}).Error)
	revision := func(id uuid.UUID) int64 {
		var st store.Station
		require.NoError(t, s.Shared(ctx).First(&st, "id = ?", id).Error)
		return st.Revision
	}
	x := 20.0
	require.NoError(t, s.Shared(ctx).Create(&[]store.StationDay{{StationID: one.ID, Day: day, TMax: &x},
		{StationID: one.ID, Day: day.AddDate(0, 0, 1), TMax: &x}}).Error)
	require.Equal(t, int64(1), revision(one.ID), "one statement counts once")
	require.Zero(t, revision(two.ID))
	require.NoError(t, s.Shared(ctx).Exec("UPDATE station_days SET rain_mm = 3 WHERE day = ?", day).Error)
	require.Equal(t, int64(2), revision(one.ID))
	require.NoError(t, s.Shared(ctx).Exec("UPDATE station_days SET rain_mm = 3 WHERE day = '2020-01-01'").Error)
	require.Equal(t, int64(2), revision(one.ID), "nothing was changed")
	require.NoError(t, s.Shared(ctx).Exec("DELETE FROM station_days").Error)
	require.Equal(t, int64(3), revision(one.ID))
}

// The narrow door gives keys alone, cuts by station and number, and leaves out sites without a lawn.
func TestANightIsCutIntoParts(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	st := store.Station{ID: uuid.Must(uuid.NewV7()), Name: "One"}
	require.NoError(t, s.Shared(ctx).Create(&st).Error)
	a, _, _, _ := lawn(t, s, &st.ID, "A")
	b, _, _, _ := lawn(t, s, nil, "B")
	require.NoError(t, s.InFirm(ctx, a, func(tx *gorm.DB) error {
		var c store.Client
		if err := tx.First(&c).Error; err != nil {
			return err
		}
		for i := range 5 {
			site := store.Site{ID: uuid.Must(uuid.NewV7()), FirmID: a, ClientID: c.ID, StationID: &st.ID, Name: "S", Timezone: "UTC", Version: 1}
			if err := tx.Create(&site).Error; err != nil {
				return err
			}
			if i == 0 {
				continue // no lawn yet
			}
			if err := tx.Create(&store.Zone{ID: uuid.Must(uuid.NewV7()), FirmID: a, SiteID: site.ID, Name: "Z", AreaM2: 1,
				Species: store.JSON(`["unknown"]`), TargetCover: .9, Policy: store.JSON("{}"), Version: 1}).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	var parts []struct {
		FirmID      uuid.UUID
		StationID   *uuid.UUID
		First, Last uuid.UUID
		Sites       int
	}
	require.NoError(t, s.Shared(ctx).Raw("SELECT * FROM watch_parts(2)").Scan(&parts).Error)
	sites := map[uuid.UUID][]int{}
	for _, p := range parts {
		sites[p.FirmID] = append(sites[p.FirmID], p.Sites)
		require.LessOrEqual(t, p.First.String(), p.Last.String())
		require.Equal(t, p.FirmID == a, p.StationID != nil)
	}
	require.Equal(t, map[uuid.UUID][]int{a: {2, 2, 1}, b: {1}}, sites)
}

func TestPermittedDaysAreDays(t *testing.T) {
	s := testdb.Open(t)
	f, _, site, _ := lawn(t, s, nil, "A")
	for days, fine := range map[string]bool{"": true, "tue": true, "tue,sat": true, "tuesday": false, "tue,": false, "tue sat": false} {
		err := s.InFirm(context.Background(), f, func(tx *gorm.DB) error {
			return tx.Exec("UPDATE sites SET watering_days = ? WHERE id = ?", days, site).Error
		})
		if fine {
			require.NoError(t, err, days)
		} else {
			require.ErrorIs(t, err, store.ErrUnstorable, days)
		}
	}
}

func TestTxIsTheTransactionUnderneath(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	require.NoError(t, s.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		under, err := store.Tx(tx)
		require.NoError(t, err)
		_, err = under.ExecContext(ctx, "INSERT INTO stations (id, name, latitude, longitude, simulated) VALUES (gen_random_uuid(), 'X', 0, 0, true)")
		require.NoError(t, err)
		var n int64
		require.NoError(t, tx.Model(&store.Station{}).Count(&n).Error)
		require.Equal(t, int64(1), n, "both see the same")
		return nil
	}))
	_, err := store.Tx(s.Shared(ctx))
	require.Error(t, err, "no transaction is open")
}
