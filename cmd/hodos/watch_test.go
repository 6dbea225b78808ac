package main

import (
	"context"
	"log/slog"
	"os"
	"os/exec"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/night"
	"hodos/store"
)

func demoDatabase(t *testing.T) (*store.Store, []string) {
	t.Helper()
	owner, app := testdb.New(t)
	s, err := store.Open(app)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	_, err = demo.Load(context.Background(), s)
	require.NoError(t, err)
	return s, []string{"HODOS_OWNER_DATABASE_URL=" + owner, "HODOS_DATABASE_URL=" + app}
}

func TestWatchFromTheCommandLine(t *testing.T) {
	_, env := demoDatabase(t)
	r := hodos(t, "", env, "watch", "--day", "tomorrow")
	require.Equal(t, 2, r.code)
	require.Contains(t, r.err, "is not a day")
	r = hodos(t, "", append(env, "HODOS_JOB_RESCUE=soon"), "watch")
	require.Equal(t, 2, r.code)
	require.Contains(t, r.err, "HODOS_JOB_RESCUE")
	r = hodos(t, "", env, "watch")
	require.Zero(t, r.code, r.err)
	require.Contains(t, r.out, "9 of 9 sites")
	require.Contains(t, r.out, "the watch is done")
}

// A worker is killed with its job half done: another server takes the job over, and its work is there once.
func TestAKilledWorkersJobIsDoneOnce(t *testing.T) {
	s, env := demoDatabase(t)
	ctx := context.Background()
	evening := demo.Start.AddDate(0, 0, 1)
	_, err := demo.Clock{Store: s}.Advance(ctx, 1)
	require.NoError(t, err)

	// somebody holds a zone, so that the job stops in its middle
	held, release, let := make(chan struct{}), make(chan struct{}), make(chan error, 1)
	go func() {
		let <- s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			var zones []uuid.UUID
			err := tx.Raw("SELECT w.zone_id::text FROM watch_zones w JOIN zones z ON z.id = w.zone_id JOIN sites s ON s.id = z.site_id WHERE s.latitude > 0 ORDER BY w.zone_id LIMIT 1 FOR UPDATE OF w").Scan(&zones).Error
			close(held)
			<-release
			return err
		})
	}()
	<-held
	worker := exec.Command(os.Args[0], "watch", "--day", evening.Format(time.DateOnly))
	worker.Env = append(append(os.Environ(), "HODOS_TEST_AS_PROGRAM=1", "HODOS_JOB_RESCUE=120s"), env...)
	require.NoError(t, worker.Start())
	t.Cleanup(func() { _ = worker.Process.Kill(); _ = worker.Wait() })
	type job struct {
		ID      int64
		State   string
		Attempt int
		Errors  int
	}
	jobs := func() (out []job) {
		require.NoError(t, s.Shared(ctx).Raw("SELECT id, state::text, attempt, coalesce(array_length(errors, 1), 0) AS errors FROM river_job WHERE kind = 'watch-part' ORDER BY id").Scan(&out).Error)
		return out
	}
	var caught int64
	require.Eventually(t, func() bool {
		done := 0
		for _, j := range jobs() {
			switch j.State {
			case "running":
				caught = j.ID
			case "completed":
				done++
			}
		}
		return caught != 0 && done > 0 // the southern station is done, the northern one waits for the zone
	}, 30*time.Second, 20*time.Millisecond)
	require.NoError(t, worker.Process.Signal(syscall.SIGKILL))
	_ = worker.Wait()
	close(release)
	require.NoError(t, <-let)

	var notices int64
	count := func(where string, args ...any) (n int64) {
		require.NoError(t, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			return tx.Model(&store.WatchNotice{}).Where(where,
				args...).Count(&n).Error
		}))
		return n
	}
	notices = count("seen_on = ?", evening)
	other, err := night.New(night.Watcher{Store: s, Weather: demo.Sky{}}, demo.Clock{Store: s}, slog.New(slog.DiscardHandler),
		night.Options{Rescue: 12 * time.Second, Poll: 50 * time.Millisecond})
	require.NoError(t, err)
	require.NoError(t, other.Start(ctx))
	t.Cleanup(func() { _ = other.Stop(ctx) })
	require.Eventually(t, func() bool {
		for _, j := range jobs() {
			if j.ID == caught {
				return j.State == "completed"
			}
		}
		return false
	}, 90*time.Second, 100*time.Millisecond, "another server takes the job over")
	for _, j := range jobs() {
		if j.ID == caught {
			require.Equal(t, 2, j.Attempt)
			require.Equal(t, 1, j.Errors, "the first try is on record as lost")
		}
	}
	require.Greater(t, count("seen_on = ?", evening), notices, "nothing of the first try was there")
	var run store.WatchRun
	require.NoError(t, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		return tx.Where("day = ?",
			evening).Order("started_at").First(&run).Error
	}))
	require.Equal(t, run.Parts, run.PartsDone, "each part was counted once")
	require.Equal(t, run.Sites, run.SitesDone)
	require.NotNil(t, run.FinishedAt)
	var told int64 // the other server may have put in a round of its own for the same day
	require.NoError(t, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		return tx.Raw("SELECT sum(told) FROM watch_runs WHERE day = ?", evening).Scan(&told).Error
	}))
	require.Equal(t, told, count("told_on = ?", evening), "what was told is there once")
	var twice int64
	require.NoError(t, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
		return tx.Raw("SELECT count(*) FROM (SELECT 1 FROM watch_notices WHERE ended_on IS NULL GROUP BY zone_id, kind, subject HAVING count(*) > 1) AS d").Scan(&twice).Error
	}))
	require.Zero(t, twice)
}
