package server_test

import (
	"context"
	"errors"
	"log/slog"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/weather"
	"hodos/demo"
	"hodos/night"
	"hodos/server"
	"hodos/store"
)

// wait asks until it is so.
func wait(t *testing.T, what string, so func() bool) {
	t.Helper()
	for end := time.Now().Add(60 * time.Second); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
		if so() {
			return
		}
	}
	t.Fatalf("in vain: %s", what)
}

// jobs starts a share of the queue over the world's database, as another server would.
func (w *world) jobs(ctx context.Context, workers int) *night.Jobs {
	w.t.Helper()
	j, err := night.New(night.Watcher{Store: w.store, Weather: demo.Sky{}}, demo.Clock{Store: w.store}, slog.New(slog.DiscardHandler),
		night.Options{Workers: workers, Poll: 50 * time.Millisecond})
	require.NoError(w.t, err)
	require.NoError(w.t, j.Start(ctx))
	w.t.Cleanup(func() {
		ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
		defer cancel()
		_ = j.Stop(ctx)
	})
	return j
}

func TestTheWatchTellsOnce(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	var day server.Day
	tech.must(200, "GET", "/day", nil, &day)
	require.True(t, day.Watch.Finished)
	require.Equal(t, "2026-08-24", day.Watch.Day)
	require.Equal(t, 9, day.Watch.SitesDone)
	kinds := map[string]server.DayNotice{}
	standing := map[uuid.UUID]string{}
	for i, n := range day.Notices {
		kinds[n.Kind+" "+n.Subject] = n
		standing[n.ID] = n.ToldOn
		require.NotEmpty(t, n.Label)
		require.NotEmpty(t, n.Reason)
		if i > 0 && n.Kind+n.Subject == day.Notices[i-1].Kind+day.Notices[i-1].Subject {
			require.LessOrEqual(t, n.Level, day.Notices[i-1].Level, "the urgent comes first")
		}
	}
	require.Equal(t, "endurance", day.Notices[0].Kind)
	used := day.Notices[0]
	require.Equal(t, 2, used.Level)
	require.Contains(t, used.Reason, "Crowns are starting to die")
	require.Contains(t, kinds["window dollar-spot"].Label, "Dollar spot")

	// noted by one, put away for all; it goes on standing
	tech.must(204, "POST", "/watch/noted", map[string]any{"kind": used.Kind, "subject": used.Subject}, nil)
	tech.must(422, "POST", "/watch/noted", map[string]any{"kind": "rumour", "subject": ""}, nil)
	w.as("owner").must(200, "GET", "/day", nil, &day)
	for _, n := range day.Notices {
		if n.ID == used.ID {
			require.Equal(t, "Tam Whitlock", n.NotedBy)
			require.False(t, n.New)
		}
	}

	// night after night: what stands is not told again, and the rain that comes ends the drought
	ctx := context.Background()
	w.jobs(ctx, 2)
	told := map[string]int{}
	for range 9 {
		var moved struct{ Today string }
		tech.must(200, "POST", "/demo/clock", map[string]any{"days": 2}, &moved)
		wait(t, "the watch of "+moved.Today, func() bool {
			var done int64
			require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
				return tx.Model(&store.WatchRun{}).Where("day = ? AND finished_at IS NOT NULL", moved.Today).Count(&done).Error
			}))
			return done > 0
		})
		tech.must(200, "GET", "/day", nil, &day)
		require.Equal(t, moved.Today, day.Watch.Day)
		for _, n := range day.Notices {
			if n.ToldOn == moved.Today {
				told[n.Kind+n.Subject+n.ZoneID.String()]++
			}
			if first, ok := standing[n.ID]; ok && n.Level == 1 {
				require.Equal(t, first, n.ToldOn, "told again: %+v", n)
			}
		}
	}
	for key, n := range told {
		require.LessOrEqual(t, n, 2, "told again and again: %s", key)
	}
	for _, n := range day.Notices {
		require.NotEqual(t, "endurance", n.Kind, "it has rained since: %+v", n)
	}
}

func TestWhatHasNotChangedIsLeftOut(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	watch := night.Watcher{Store: w.store, Weather: demo.Sky{}, Now: time.Now}
	run := func() (r store.WatchRun) {
		require.NoError(t, watch.Night(ctx, casework.OnDay(demo.Start)))
		require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error { return tx.Order("started_at DESC").First(&r).Error }))
		return r
	}
	r := run()
	require.Equal(t, 18, r.Zones)
	require.Equal(t, 18, r.Unchanged)
	require.Zero(t, r.Told)

	tech := w.as("technician")
	p := tech.place("Quill")
	tech.must(204, "PUT", "/zones/"+p.zone+"/waterings", map[string]any{"day": "2026-08-20", "mm": 12}, nil)
	require.Equal(t, 17, run().Unchanged, "one zone was watered")
	tech.file(p, "weather", "hodos-weather,1,daily,UTC\ndate,rain_mm\n2026-08-20,41\n")
	require.Equal(t, 16, run().Unchanged, "the gauge is for both zones of the site")
	tech.file(p, "readings", "hodos-readings,1,UTC\ntime,zone,finding,value,unit\n2026-08-20,Back lawn,soil-moisture-vwc,12,%\n")
	require.Equal(t, 17, run().Unchanged)
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	tech.must(200, "POST", p.path("/answers"), answers(tap("mowing-height-mm", 40), tap("pull-test", "resists")), nil)
	require.Equal(t, 17, run().Unchanged, "the height of cut is part of the ground")
	tech.must(200, "POST", p.path("/answers"), answers(tap("colour", []string{"brown"})), nil)
	require.Equal(t, 18, run().Unchanged, "a colour is not")
	require.NoError(t, w.store.Shared(ctx).Exec("UPDATE station_days SET rain_mm = 30 WHERE day = ? AND station_id = (SELECT id FROM stations WHERE latitude < 0)", demo.Start).Error)
	require.Equal(t, 17, run().Unchanged, "the southern station has corrected a day")
	require.Equal(t, 18, run().Unchanged)
}

// Two servers share a night: every site is looked at once.
func TestServersShareANight(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	var station store.Station
	require.NoError(t, w.store.Shared(ctx).First(&station, "latitude > 0").Error)
	const more = 240
	require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		var c store.Client
		if err := tx.First(&c).Error; err != nil {
			return err
		}
		dry := false
		for range more {
			s := store.Site{ID: uuid.Must(uuid.NewV7()), FirmID: demo.Firm, ClientID: c.ID, StationID: &station.ID, Name: "Row", Latitude: 37.6,
				Longitude: -78.3, Timezone: "UTC", Version: 1}
			z := store.Zone{ID: uuid.Must(uuid.NewV7()), FirmID: demo.Firm, SiteID: s.ID, Name: "Lawn", AreaM2: 100, AreaError: .1,
				Species: store.JSON(`["tall-fescue"]`), Irrigated: &dry, TargetCover: .9, Policy: store.JSON("{}"), Version: 1}
			if err := tx.Create(&s).Error; err != nil {
				return err
			}
			if err := tx.Create(&z).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	var asked sync.WaitGroup
	a, b := w.jobs(ctx, 2), w.jobs(ctx, 2)
	for _, j := range []*night.Jobs{a, b} {
		asked.Go(func() {
			_, err := j.Ask(ctx, casework.OnDay(demo.Start), nil)
			require.NoError(t, err)
		})
	}
	asked.Wait()
	var runs []store.WatchRun
	wait(t, "every part", func() bool {
		runs = nil
		require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			return tx.Where("sites = ?", more+9).Order("started_at").Find(&runs).Error
		}))
		done := len(runs) > 0
		for _, r := range runs {
			done = done && r.FinishedAt != nil
		}
		return done
	})
	seen, changed := 0, 0
	for _, r := range runs {
		require.Equal(t, r.Sites, r.SitesDone)
		require.Equal(t, r.Parts, r.PartsDone)
		require.GreaterOrEqual(t, r.Parts, 6, "cut into parts of fifty sites")
		seen, changed = seen+r.Zones, changed+r.Zones-r.Unchanged
	}
	require.Equal(t, len(runs)*(more+18), seen)
	require.Equal(t, more, changed, "each new zone was looked at once, whoever took it")
	// a long list is cut on the Day page, and whole where it is asked for
	tech := w.as("technician")
	var day server.Day
	tech.must(200, "GET", "/day", nil, &day)
	thing := map[string]int{}
	for _, n := range day.Notices {
		thing[n.Kind+" "+n.Subject]++
	}
	require.Less(t, len(day.Notices), 300)
	require.NotEmpty(t, day.Left)
	for _, l := range day.Left {
		var all []server.DayNotice
		tech.must(200, "GET", "/watch/notices?kind="+l.Kind+"&subject="+l.Subject, nil, &all)
		require.GreaterOrEqual(t, len(all), 24+l.Left)
		require.GreaterOrEqual(t, thing[l.Kind+" "+l.Subject], 24)
	}
	var twice int64
	require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		return tx.Raw("SELECT count(*) FROM (SELECT zone_id, kind, subject FROM watch_notices WHERE ended_on IS NULL GROUP BY 1, 2, 3 HAVING count(*) > 1) AS d").Scan(&twice).Error
	}))
	require.Zero(t, twice)
	// nobody has to ask: one of the servers puts the round of the day into the queue by itself, once
	var rounds int64
	count := func() bool {
		require.NoError(t, w.store.Shared(ctx).Raw("SELECT count(*) FROM river_job WHERE kind = 'watch-night' AND args->>'round' NOT LIKE 'asked%'").Scan(&rounds).Error)
		return rounds > 0
	}
	wait(t, "the round of the day", count)
	require.Equal(t, int64(1), rounds)
}

// A part that fails leaves nothing behind and is taken up again.
func TestAPartIsDoneWithItsJobOrNotAtAll(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	watch := night.Watcher{Store: w.store, Weather: demo.Sky{}, Now: time.Now}
	var parts []night.Part
	require.NoError(t, w.store.Shared(ctx).Transaction(func(tx *gorm.DB) (err error) {
		parts, err = watch.Plan(ctx, tx, casework.OnDay(demo.Start.AddDate(0, 0, 3)), "", nil)
		return err
	}))
	require.Len(t, parts, 2, "two stations")
	before := counts(t, w)
	require.Error(t, watch.Part(ctx, parts[0], func(*gorm.DB) error { return context.Canceled }))
	require.Equal(t, before, counts(t, w))
	var run store.WatchRun
	read := func() {
		require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error { return tx.First(&run, "id = ?", parts[0].Run).Error }))
	}
	read()
	require.Zero(t, run.PartsDone)
	for _, p := range parts {
		require.NoError(t, watch.Part(ctx, p, nil))
	}
	read()
	require.Equal(t, 2, run.PartsDone)
	require.NotNil(t, run.FinishedAt)
	require.Error(t, watch.Part(ctx, parts[0], nil), "the run does not count a part that it does not have")
}

// faulty is a weather service that cannot be asked for a while.
type faulty struct {
	demo.Sky
	down atomic.Bool
	from []time.Time // what it was asked for
}

var errDown = errors.New("the service does not answer")

func (f *faulty) Days(ctx context.Context, s store.Station, from, to time.Time) ([]weather.Day, error) {
	if f.down.Load() {
		return nil, errDown
	}
	f.from = append(f.from, from)
	return f.Sky.Days(ctx, s, from, to)
}

func (f *faulty) Forecast(ctx context.Context, s store.Station, today time.Time, days int) ([]weather.Day, error) {
	if f.down.Load() {
		return nil, errDown
	}
	return f.Sky.Forecast(ctx, s, today, days)
}

func (f *faulty) Normals(ctx context.Context, s store.Station, after time.Time, days int) ([]float64, error) {
	if f.down.Load() {
		return nil, errDown
	}
	return f.Sky.Normals(ctx, s, after, days)
}

func TestTheNightBringsTheWeatherIn(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	service := &faulty{}
	watch := night.Watcher{Store: w.store, Weather: service, Now: time.Now}
	newest := func() (day string) {
		require.NoError(t, w.store.Shared(ctx).Raw("SELECT max(day)::text FROM station_days").Scan(&day).Error)
		return day
	}
	service.down.Store(true)
	later := demo.Start.AddDate(0, 0, 3)
	require.ErrorIs(t, watch.Night(ctx, casework.OnDay(later)), errDown, "the job is tried again")
	require.Equal(t, "2026-08-24", newest())
	service.down.Store(false)
	require.NoError(t, watch.Night(ctx, casework.OnDay(later)))
	require.Equal(t, "2026-08-27", newest())
	require.Equal(t, demo.Start.AddDate(0, 0, -1), service.from[0], "the last two days are read again")
	var revisions int64
	read := func() int64 {
		require.NoError(t, w.store.Shared(ctx).Raw("SELECT sum(revision) FROM stations").Scan(&revisions).Error)
		return revisions
	}
	before := read()
	require.NoError(t, watch.Night(ctx, casework.OnDay(later)))
	require.Equal(t, before, read(), "days that say the same change nothing")
	var gaps int64
	require.NoError(t, w.store.Shared(ctx).Raw("SELECT count(*) FROM (SELECT day - lag(day) OVER (PARTITION BY station_id ORDER BY day) AS step FROM station_days) d WHERE step <> 1").Scan(&gaps).Error)
	require.Zero(t, gaps)

	// a station that has fallen silent is told of, once for its silence
	mute := night.Watcher{Store: w.store, Now: time.Now}
	silent := func() (n int64) {
		require.NoError(t, w.store.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			return tx.Model(&store.WatchNotice{}).Where("kind = 'silent' AND ended_on IS NULL").Count(&n).Error
		}))
		return n
	}
	require.NoError(t, mute.Night(ctx, casework.OnDay(later.AddDate(0, 0, 3))))
	require.Zero(t, silent())
	require.NoError(t, mute.Night(ctx, casework.OnDay(later.AddDate(0, 0, 5))))
	require.Equal(t, int64(18), silent())
	require.NoError(t, mute.Night(ctx, casework.OnDay(later.AddDate(0, 0, 9))))
	require.Equal(t, int64(18), silent())

	// a station that has nothing yet is filled as far back as the models look
	require.NoError(t, w.store.Shared(ctx).Exec("DELETE FROM station_days").Error)
	require.NoError(t, watch.Night(ctx, casework.OnDay(later.AddDate(0, 0, 10))))
	require.Zero(t, silent(), "it speaks again")
	var days int64
	require.NoError(t, w.store.Shared(ctx).Raw("SELECT min(n) FROM (SELECT count(*) AS n FROM station_days GROUP BY station_id) d").Scan(&days).Error)
	require.Greater(t, days, int64(350))
}

// Pages go on with what is there when the service cannot be asked.
func TestPagesWithoutTheWeatherService(t *testing.T) {
	service := &faulty{}
	service.down.Store(true)
	w := newWorldWith(t, service)
	tech := w.as("technician")
	p := tech.place("Quill")
	var v server.SkyView
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &v)
	require.Len(t, v.Days, 14, "no forecast, all of the past")
	tech.must(200, "GET", "/zones/"+p.zone+"/sky?weeks=2", nil, &v)
	require.Len(t, v.Days, 14, "nor without a visit")
	tech.must(200, "GET", p.path("/watering"), nil, nil)
	var day server.Day
	tech.must(200, "GET", "/day", nil, &day)
	require.Len(t, day.Sky, 1, "today is known")
	require.NotEmpty(t, tech.scales(p).Diagnosis.Causes)
	stonecrop := tech.place("Stonecrop")
	var r server.Recovery
	tech.must(200, "GET", "/zones/"+stonecrop.zone+"/recovery", nil, &r)
	require.NotEmpty(t, r.Expected)
	service.down.Store(false)
	tech.must(200, "GET", p.path("/sky?weeks=2"), nil, &v)
	require.Len(t, v.Days, 24)
}
