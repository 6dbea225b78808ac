package server_test

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"runtime"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/night"
	"hodos/server"
	"hodos/standin"
	"hodos/store"
)

// district fills a database with firms, stations with so many days of hours, and sites of one lawn each, twenty to a station.
func district(tb testing.TB, s *store.Store, sites, days int) {
	tb.Helper()
	ctx := context.Background()
	today := demo.Start
	stations := max(1, sites/20)
	require.NoError(tb, s.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		// eight stations of their own weather, the others a little warmer or cooler than one of these
		var first []store.Station
		for i := range min(8, stations) {
			first = append(first, store.Station{ID: uuid.Must(uuid.NewV7()), Name: fmt.Sprintf("Station %d", i), Latitude: 37 + float64(i)/4,
				Simulated: true, Seed: int64(100 + i)})
		}
		if err := tx.Create(&first).Error; err != nil {
			return err
		}
		for _, st := range first {
			rows := casework.StationDays(st.ID, (standin.Station{Latitude: st.Latitude, Seed: st.Seed}).Days(today.AddDate(0, 0, -days+1), today))
			if err := tx.CreateInBatches(rows, 500).Error; err != nil {
				return err
			}
		}
		for n := len(first); n < stations; n++ {
			st, like := store.Station{ID: uuid.Must(uuid.NewV7()), Name: fmt.Sprintf("Station %d", n), Latitude: 36 + float64(n%16)/4,
				Simulated: true, Seed: int64(100 + n%8)}, first[n%len(first)]
			if err := tx.Create(&st).Error; err != nil {
				return err
			}
			if err := tx.Exec("INSERT INTO station_days SELECT ?, day, tmin_c + ?, tmax_c + ?, rain_mm, rh_mean, wind_ms, snow_cm, solar_mj_m2, hours FROM station_days WHERE station_id = ?", st.ID, n%5-2, n%5-2, like.ID).Error; err != nil {
				return err
			}
		}
		firms := max(1, sites/1000)
		for f := range firms {
			firm, client := uuid.Must(uuid.NewV7()), uuid.Must(uuid.NewV7())
			if err := tx.Exec("SELECT set_config('app.firm', ?, true)", firm.String()).Error; err != nil {
				return err
			}
			for _, row := range []any{&store.Firm{ID: firm, Name: fmt.Sprintf("Firm %d", f), Country: "US", Currency: "USD", DateForm: "dmy",
				UnitSystem: "metric", Version: 1}, &store.Client{ID: client, FirmID: firm, Name: "Client", Version: 1}} {
				if err := tx.Create(row).Error; err != nil {
					return err
				}
			}
			if err := tx.Exec(`WITH st AS (SELECT id, latitude, row_number() OVER (ORDER BY id) - 1 AS n FROM stations), made AS (
				INSERT INTO sites (id, firm_id, client_id, station_id, name, latitude, longitude, timezone)
				SELECT gen_random_uuid(), ?, ?, st.id, 'Site ' || i, st.latitude, -78, 'UTC' FROM generate_series(0, ? - 1) AS i JOIN st ON st.n = ? + i / 20 RETURNING id)
				INSERT INTO zones (id, firm_id, site_id, name, area_m2, species, texture, irrigated)
				SELECT gen_random_uuid(), ?, id, 'Lawn', 200, (ARRAY['["kentucky-bluegrass"]', '["tall-fescue"]', '["hybrid-bermudagrass"]', '["perennial-ryegrass"]'])[1 + (random() * 3)::int]::jsonb, 'loam', random() < 0.5 FROM made`,
				firm, client, min(1000, sites), f*50, firm).Error; err != nil {
				return err
			}
		}
		return tx.Create(&store.Clock{One: true, Today: today}).Error
	}))
	require.NoError(tb, s.Shared(ctx).Exec("ANALYZE").Error)
}

// resident is the memory of this process, MB.
func resident() float64 {
	b, err := os.ReadFile("/proc/self/statm")
	if err != nil {
		return 0
	}
	pages, _ := strconv.ParseFloat(strings.Fields(string(b))[1], 64)
	return pages * float64(os.Getpagesize()) / 1e6
}

// BenchmarkNight is a whole night through the queue: every site of every firm, the first time and then once more when nothing
// has changed, by number of sites and by days of hours behind each station.
func BenchmarkNight(b *testing.B) {
	for _, size := range []struct{ sites, days int }{{100, 400}, {1000, 100}, {1000, 200}, {1000, 400}, {10000, 400}} {
		b.Run(fmt.Sprintf("sites=%d/days=%d", size.sites, size.days), func(b *testing.B) {
			s := testdb.Open(b)
			district(b, s, size.sites, size.days)
			ctx := context.Background()
			jobs, err := night.New(night.Watcher{Store: s, Weather: demo.Sky{}}, demo.Clock{Store: s}, slog.New(slog.DiscardHandler),
				night.Options{Poll: 20 * time.Millisecond})
			require.NoError(b, err)
			require.NoError(b, jobs.Start(ctx))
			defer func() { _ = jobs.Stop(ctx) }()
			runtime.GC()
			base := resident()
			var peak atomic.Uint64
			done := make(chan struct{})
			go func() {
				for {
					select {
					case <-done:
						return
					case <-time.After(50 * time.Millisecond):
						if m := uint64(resident() - base); m < 1<<40 && m > peak.Load() {
							peak.Store(m)
						}
					}
				}
			}()
			night := func() float64 {
				began := time.Now()
				round, err := jobs.Ask(ctx, casework.OnDay(demo.Start), nil)
				require.NoError(b, err)
				for {
					far, err := jobs.Far(ctx, round)
					require.NoError(b, err)
					if far.Finished() {
						require.Zero(b, far.Lost)
						require.Equal(b, size.sites, far.Done)
						return time.Since(began).Seconds()
					}
					time.Sleep(20 * time.Millisecond)
				}
			}
			for b.Loop() {
				first := night()
				time.Sleep(1100 * time.Millisecond) // rounds are named by the second
				again := night()
				require.NoError(b, s.Shared(ctx).Exec("UPDATE station_days SET rain_mm = rain_mm + 1 WHERE day = ? AND station_id IN (SELECT id FROM stations ORDER BY id LIMIT (SELECT greatest(1, count(*) / 10) FROM stations))", demo.Start).Error)
				time.Sleep(1100 * time.Millisecond)
				tenth := night()
				b.ReportMetric(first, "s/night")
				b.ReportMetric(again, "s/unchanged")
				b.ReportMetric(tenth, "s/tenth-changed")
				b.ReportMetric(first*1000/float64(size.sites), "ms/site")
				b.ReportMetric(float64(peak.Load()), "MB-more")
				b.ReportMetric(0, "ns/op")
			}
			close(done)
		})
	}
}

// BenchmarkSkyView is the data of the weather and ground view over HTTP, reading and models included.
func BenchmarkSkyView(b *testing.B) {
	s := testdb.Open(b)
	_, err := demo.Load(context.Background(), s)
	require.NoError(b, err)
	srv := httptest.NewServer(server.New(server.Options{Store: s, Clock: demo.Clock{Store: s}, Weather: demo.Sky{}, DemoPeople: demo.People,
		DemoFirm: demo.Firm, Log: slog.New(slog.DiscardHandler)}))
	defer srv.Close()
	res, err := http.Post(srv.URL+"/api/v1/sign-in/demo", "application/json", strings.NewReader(`{"role":"technician"}`))
	require.NoError(b, err)
	_ = res.Body.Close()
	cookie := res.Cookies()[0]
	var zone store.Zone
	var visit store.Visit
	require.NoError(b, s.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		if err := tx.Where("closed_on IS NULL").Order("id").First(&visit).Error; err != nil {
			return err
		}
		return tx.Where("site_id = ?", visit.SiteID).Order("id").First(&zone).Error
	}))
	for name, path := range map[string]string{"visit-12-weeks": fmt.Sprintf("/visits/%s/zones/%s/sky?weeks=12", visit.ID, zone.ID),
		"visit-52-weeks": fmt.Sprintf("/visits/%s/zones/%s/sky?weeks=52", visit.ID, zone.ID),
		"zone-12-weeks":  fmt.Sprintf("/zones/%s/sky?weeks=12", zone.ID), "watering": fmt.Sprintf("/visits/%s/zones/%s/watering", visit.ID,
			zone.ID), "day": "/day"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				req, err := http.NewRequest("GET", srv.URL+"/api/v1"+path, nil)
				require.NoError(b, err)
				req.AddCookie(cookie)
				res, err := http.DefaultClient.Do(req)
				require.NoError(b, err)
				n, err := io.Copy(io.Discard, res.Body)
				require.NoError(b, err)
				_ = res.Body.Close()
				require.Equal(b, 200, res.StatusCode)
				b.ReportMetric(float64(n)/1024, "KB")
			}
		})
	}
}
