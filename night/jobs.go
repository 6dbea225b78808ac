package night

import (
	"context"
	"database/sql"
	"log/slog"
	"runtime"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivertype"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
	"hodos/store"
)

// Clock is the clock that work runs on.
type Clock interface {
	Now(ctx context.Context) (casework.Moment, error)
}

// Jobs work the queue that all servers of a database share. Jobs run on real time; the day that a night is about is that of
// the work clock.
type Jobs struct {
	queue   *river.Client[*sql.Tx]
	watcher Watcher
	clock   Clock
	log     *slog.Logger
}

// Options say how a server works the queue.
type Options struct {
	Workers int           // jobs at once; 0 for one a core
	Rescue  time.Duration // after which another server takes over a job whose worker is gone; 0 for three minutes
	Poll    time.Duration // how often the queue is asked for work; 0 for half a second
}

// night is the job that cuts a night into parts. Round tells the four rounds of a day apart, or is one that was asked for. Day is that of a
// simulated clock; without it each firm has the day of its office.
type night struct {
	Day   string     `json:"day,omitempty"`
	Round string     `json:"round"`
	Firm  *uuid.UUID `json:"firm,omitempty"`
}

func (night) Kind() string { return "watch-night" }

// Kind names the job of one part.
func (Part) Kind() string { return "watch-part" }

type nightWorker struct {
	river.WorkerDefaults[night]
	jobs *Jobs
}

func (w *nightWorker) Work(ctx context.Context, job *river.Job[night]) error {
	now, err := w.jobs.moment(ctx, job.Args.Day)
	if err != nil {
		return err
	}
	return w.jobs.watcher.Store.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		parts, err := w.jobs.watcher.Plan(ctx, tx, now, job.Args.Round, job.Args.Firm)
		if err != nil {
			return err
		}
		under, err := store.Tx(tx)
		if err != nil {
			return err
		}
		for from := 0; from < len(parts); from += 500 {
			many := make([]river.InsertManyParams, 0, 500)
			for _, p := range parts[from:min(from+500, len(parts))] {
				many = append(many, river.InsertManyParams{Args: p})
			}
			if _, err := w.jobs.queue.InsertManyTx(ctx, under, many); err != nil {
				return err
			}
		}
		_, err = river.JobCompleteTx[*riverdatabasesql.Driver](ctx, under, job)
		return err
	})
}

// moment is the moment that a job is about: a day that was named, or now.
func (j *Jobs) moment(ctx context.Context, named string) (casework.Moment, error) {
	if named == "" {
		return j.clock.Now(ctx)
	}
	day, err := time.Parse(time.DateOnly, named)
	if err != nil {
		return casework.Moment{}, river.JobCancel(err)
	}
	return casework.OnDay(day), nil
}

type partWorker struct {
	river.WorkerDefaults[Part]
	jobs *Jobs
}

func (w *partWorker) Work(ctx context.Context, job *river.Job[Part]) error {
	return w.jobs.watcher.Part(ctx, job.Args, func(tx *gorm.DB) error {
		under, err := store.Tx(tx)
		if err != nil {
			return err
		}
		_, err = river.JobCompleteTx[*riverdatabasesql.Driver](ctx, under, job)
		return err
	})
}

// New prepares a server's share of the queue; Start begins to work it.
func New(w Watcher, clock Clock, log *slog.Logger, o Options) (*Jobs, error) {
	if w.Now == nil {
		w.Now = time.Now
	}
	if o.Workers <= 0 {
		o.Workers = runtime.GOMAXPROCS(0)
	}
	if o.Rescue <= 0 {
		o.Rescue = 3 * time.Minute
	}
	if o.Poll <= 0 {
		o.Poll = 500 * time.Millisecond
	}
	pool, err := w.Store.Pool()
	if err != nil {
		return nil, err
	}
	j := &Jobs{watcher: w, clock: clock, log: log}
	workers := river.NewWorkers()
	river.AddWorker(workers, &nightWorker{jobs: j})
	river.AddWorker(workers, &partWorker{jobs: j})
	river.AddWorker(workers, &sweeper{store: w.Store})
	river.AddWorker(workers, &deliverer{jobs: j})
	j.queue, err = river.NewClient(riverdatabasesql.New(pool), &river.Config{
		Logger:               slog.New(warnings{log.Handler()}),
		ErrorHandler:         loudly{log},
		Workers:              workers,
		Queues:               map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: o.Workers}},
		FetchPollInterval:    o.Poll,
		FetchCooldown:        min(o.Poll, 100*time.Millisecond),
		JobTimeout:           o.Rescue / 2,
		RescueStuckJobsAfter: o.Rescue,
		MaxAttempts:          8,
		ReindexerSchedule:    river.NeverSchedule(), // the application's role owns no index
		PeriodicJobs: []*river.PeriodicJob{sweeping, delivering, river.NewPeriodicJob(river.PeriodicInterval(10*time.Minute),
			func() (river.JobArgs, *river.InsertOpts) {
				now, err := clock.Now(context.Background())
				if err != nil {
					return nil, nil
				}
				return night{Day: named(now), Round: round(w.Now())}, once
			}, &river.PeriodicJobOpts{RunOnStart: true})},
	})
	return j, err
}

// sweep takes away what has run out: sessions, links, devices long unused, old rounds of the watch.
type sweep struct{}

func (sweep) Kind() string { return "sweep" }

var sweeping = river.NewPeriodicJob(river.PeriodicInterval(time.Hour), func() (river.JobArgs, *river.InsertOpts) {
	return sweep{}, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByPeriod: 30 * time.Minute}}
}, &river.PeriodicJobOpts{RunOnStart: true})

type sweeper struct {
	river.WorkerDefaults[sweep]
	store *store.Store
}

func (w *sweeper) Work(ctx context.Context, _ *river.Job[sweep]) error {
	_, err := account.Sweep(ctx, w.store)
	return err
}

// named is the day of a simulated clock, or nothing.
func named(now casework.Moment) string {
	if day, fixed := now.Fixed(); fixed {
		return day.Format(time.DateOnly)
	}
	return ""
}

// once lets the same round of a day stand in the queue a single time, done or not.
var once = &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true}}

// round is the quarter of a real day: a night's weather may come in late, and what has not changed costs next to nothing.
func round(now time.Time) string {
	return now.UTC().Truncate(6 * time.Hour).Format("2006-01-02T15")
}

// Start works the queue until the context ends.
func (j *Jobs) Start(ctx context.Context) error { return j.queue.Start(ctx) }

// Stop lets the jobs under way finish.
func (j *Jobs) Stop(ctx context.Context) error { return j.queue.Stop(ctx) }

// Ask puts a round of the watch into the queue, for one firm or all: after the clock was moved, and when somebody asks for it. It does
// nothing when the same was asked for within the same second. round names it.
func (j *Jobs) Ask(ctx context.Context, now casework.Moment, firm *uuid.UUID) (round string, err error) {
	round = "asked " + j.watcher.Now().UTC().Format(time.DateTime)
	_, err = j.queue.Insert(ctx, night{Day: named(now), Round: round, Firm: firm}, once)
	return round, err
}

// Round is how far a round is.
type Round struct {
	Planned bool // it is cut into parts
	Sites   int
	Done    int // sites that were looked at
	Lost    int // sites of parts that failed too often
}

// Finished reports whether nothing of the round is left to do.
func (r Round) Finished() bool { return r.Planned && r.Done+r.Lost == r.Sites }

// Far says how far a round is, whoever works it.
func (j *Jobs) Far(ctx context.Context, round string) (Round, error) {
	var r Round
	err := j.watcher.Store.Shared(ctx).Raw(`SELECT
		EXISTS (SELECT FROM river_job WHERE kind = 'watch-night' AND args @> jsonb_build_object('round', ?::text)
			AND state = 'completed') AS planned,
		coalesce(sum((args->>'sites')::int), 0) AS sites,
		coalesce(sum((args->>'sites')::int) FILTER (WHERE state = 'completed'), 0) AS done,
		coalesce(sum((args->>'sites')::int) FILTER (WHERE state IN ('discarded', 'cancelled')), 0) AS lost
		FROM river_job WHERE kind = 'watch-part' AND args @> jsonb_build_object('round', ?::text)`, round, round).Scan(&r).Error
	return r, err
}

// warnings lets through what the queue has to warn of: its own news of every job would drown the requests.
type warnings struct{ slog.Handler }

func (w warnings) Enabled(ctx context.Context, level slog.Level) bool {
	return level >= slog.LevelWarn && w.Handler.Enabled(ctx, level)
}
func (w warnings) WithAttrs(a []slog.Attr) slog.Handler { return warnings{w.Handler.WithAttrs(a)} }
func (w warnings) WithGroup(name string) slog.Handler   { return warnings{w.Handler.WithGroup(name)} }

// loudly writes jobs that failed into the log; the queue tries them again.
type loudly struct{ log *slog.Logger }

func (l loudly) HandleError(_ context.Context, job *rivertype.JobRow, err error) *river.ErrorHandlerResult {
	l.log.Error("job failed", "kind", job.Kind, "job", job.ID, "attempt", job.Attempt, "error", err)
	return nil
}

func (l loudly) HandlePanic(_ context.Context, job *rivertype.JobRow, panicked any, trace string) *river.ErrorHandlerResult {
	l.log.Error("job panicked", "kind", job.Kind, "job", job.ID, "attempt", job.Attempt, "panic", panicked, "trace", trace)
	return nil
}
