// Package store keeps the firm's rows in PostgreSQL. Every business row belongs to a firm, and every access runs inside
// a transaction that names the firm to the database, so that row-level security holds even where a query forgets it.
package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/url"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrChanged  = errors.New("changed by somebody else in the meantime")
	ErrTaken    = errors.New("is taken")
	ErrRefused  = errors.New("refused by the database") // a right that the program lacks: its own fault, never the caller's
	ErrStands   = errors.New("stays as it is")          // what was signed, given or measured is not changed
	// ErrUnstorable: a character or a figure that no column takes.
	ErrUnstorable = errors.New("cannot be stored")
	// ErrAway: the database cannot be reached, is overloaded or took too long; the same may go well a moment later.
	ErrAway = errors.New("the database does not answer")
)

// Store is the database as the application role sees it.
type Store struct{ db *gorm.DB }

// Open connects the application role. The address is a postgres:// URL.
func Open(address string) (*Store, error) { return OpenTraced(address, nil) }

// OpenTraced connects as Open does and tells tracer of every question to the database; nil tells nobody.
func OpenTraced(address string, tracer pgx.QueryTracer) (*Store, error) {
	config, err := pgx.ParseConfig(address)
	if err != nil {
		return nil, fmt.Errorf("the address of the database: %w", err)
	}
	config.Tracer = tracer
	// pages are read from memory or flash: the planner's own figure, for turning discs, has it read a firm's whole table for a few rows
	if _, set := config.RuntimeParams["random_page_cost"]; !set {
		config.RuntimeParams["random_page_cost"] = "1.1"
	}
	pool := stdlib.OpenDB(*config)
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: pool}), &gorm.Config{Logger: logger.Discard, SkipDefaultTransaction: true})
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	pool.SetMaxOpenConns(12)
	pool.SetMaxIdleConns(12)
	pool.SetConnMaxIdleTime(5 * time.Minute)
	return &Store{db}, nil
}

// Close ends all connections.
func (s *Store) Close() error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.Close()
}

// Ping asks the database for a sign of life.
func (s *Store) Ping(ctx context.Context) error {
	pool, err := s.db.DB()
	if err != nil {
		return err
	}
	return pool.PingContext(ctx)
}

// InFirm runs f in one transaction that sees and writes the rows of one firm only.
func (s *Store) InFirm(ctx context.Context, firm uuid.UUID, f func(tx *gorm.DB) error) error {
	return Told(s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT set_config('app.firm', ?, true)", firm.String()).Error; err != nil {
			return err
		}
		return f(tx)
	}))
}

// Pool is the database as the job queue wants it.
func (s *Store) Pool() (*sql.DB, error) { return s.db.DB() }

// Tx is the database transaction under a transaction of this package, for what takes part in it: the job queue.
func Tx(tx *gorm.DB) (*sql.Tx, error) {
	if t, ok := tx.Statement.ConnPool.(*sql.Tx); ok {
		return t, nil
	}
	return nil, errors.New("no transaction is open")
}

// Shared gives access to the tables that belong to no firm: stations, their days, the clock, and signing in.
func (s *Store) Shared(ctx context.Context) *gorm.DB { return s.db.WithContext(ctx) }

// Told turns database errors into the ones that callers know. InFirm's are told already; telling them twice changes nothing.
func Told(err error) error {
	var pg *pgconn.PgError
	var connect *pgconn.ConnectError
	var network net.Error
	switch {
	case err == nil:
		return nil
	case errors.Is(err, gorm.ErrRecordNotFound):
		return ErrNotFound
	case errors.As(err, &pg):
		switch pg.Code {
		case "23505": // unique
			return fmt.Errorf("%w: %s", ErrTaken, pg.ConstraintName)
		case "23503": // foreign key: the row named does not exist in this firm
			return fmt.Errorf("%w: %s", ErrNotFound, pg.ConstraintName)
		case "23514": // a check of the schema that the API has let through
			return fmt.Errorf("%w: %s", ErrUnstorable, pg.ConstraintName)
		case "22001", "22003", "22021", "22P05": // too long, out of range, a NUL
			return fmt.Errorf("%w: %s", ErrUnstorable, pg.Code)
		case "P0001": // said by our own triggers
			return fmt.Errorf("%w: %s", ErrStands, pg.Message)
		case "42501":
			return fmt.Errorf("%w: %s", ErrRefused, pg.Message)
		case "57014", "55P03", "25P03", "25P04": // took too long
			return fmt.Errorf("%w: %s", ErrAway, pg.Code)
		}
		if class := pg.Code[:2]; class == "08" || class == "57" || class == "53" { // connection, shutting down, no room
			return fmt.Errorf("%w: %s", ErrAway, pg.Code)
		}
	case errors.As(err, &connect), errors.Is(err, driver.ErrBadConn), errors.Is(err, io.ErrUnexpectedEOF), errors.Is(err, io.EOF),
		errors.Is(err, context.DeadlineExceeded), errors.As(err, &network):
		return fmt.Errorf("%w: %w", ErrAway, err)
	}
	return err
}

// Create inserts a row whose key the client made, in one statement. A second request with the same key does nothing and is no error, if
// the row is the firm's own; a key that another firm has used is taken.
func Create(tx *gorm.DB, row any, id uuid.UUID) error {
	r := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}}, DoNothing: true}).Create(row)
	if r.Error != nil || r.RowsAffected == 1 {
		return r.Error
	}
	err := tx.First(row, "id = ?", id).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return fmt.Errorf("%w: id", ErrTaken)
	}
	return err
}

// Change writes the named columns of a row if its version is still the one that the client saw, and counts it up.
func Change(tx *gorm.DB, model any, id uuid.UUID, version int, columns map[string]any) error {
	columns["version"] = version + 1
	r := tx.Model(model).Where("id = ? AND version = ?", id, version).Updates(columns)
	if r.Error != nil {
		return r.Error
	}
	if r.RowsAffected == 1 {
		return nil
	}
	var n int64
	if err := tx.Model(model).Where("id = ?", id).Count(&n).Error; err != nil {
		return err
	}
	if n == 0 {
		return ErrNotFound
	}
	return ErrChanged
}

// migrateLock is the advisory lock that one migration at a time holds on the server of the databases.
const migrateLock = 720_450_113

// Migrate creates the database and the application role where they are missing, and brings the schema up to date. owner
// and app are postgres:// URLs; app's user gets no right but to read and write rows.
func Migrate(ctx context.Context, owner, app string) error {
	a, err := url.Parse(app)
	if err != nil || a.User == nil || len(a.Path) < 2 {
		return errors.New("the application's database address needs a user and a database name")
	}
	name, role := strings.TrimPrefix(a.Path, "/"), a.User.Username()
	password, _ := a.User.Password()

	admin, err := sql.Open("pgx", owner)
	if err != nil {
		return err
	}
	defer admin.Close()
	alone, err := admin.Conn(ctx)
	if err != nil {
		return fmt.Errorf("connect as the owner: %w", err)
	}
	defer alone.Close()
	// two servers that start at once on one database follow each other; the lock goes with the connection
	if _, err := alone.ExecContext(ctx, "SELECT pg_advisory_lock($1)", migrateLock); err != nil {
		return fmt.Errorf("wait for another server's migration: %w", err)
	}
	var there bool
	if err := admin.QueryRowContext(ctx, "SELECT EXISTS (SELECT FROM pg_roles WHERE rolname = $1)", role).Scan(&there); err != nil {
		return fmt.Errorf("connect as the owner: %w", err)
	}
	if !there {
		if _, err := admin.ExecContext(
			ctx,
			"CREATE ROLE "+quoted(role)+" LOGIN NOSUPERUSER NOBYPASSRLS PASSWORD "+literal(password),
		); err != nil &&
			!strings.Contains(err.Error(), "already exists") {
			return err
		}
	}
	if err := admin.QueryRowContext(ctx, "SELECT EXISTS (SELECT FROM pg_database WHERE datname = $1)", name).Scan(&there); err != nil {
		return err
	}
	if !there {
		if _, err := admin.ExecContext(ctx, "CREATE DATABASE "+quoted(name)); err != nil {
			return err
		}
	}
	o, err := url.Parse(owner)
	if err != nil {
		return err
	}
	o.Path = "/" + name
	db, err := sql.Open("pgx", o.String())
	if err != nil {
		return err
	}
	defer db.Close()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, db, files)
	if err != nil {
		return err
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("migrate: %w", err)
	}
	queue, err := rivermigrate.New(riverdatabasesql.New(db), &rivermigrate.Config{Logger: slog.New(slog.DiscardHandler)})
	if err != nil {
		return err
	}
	if _, err := queue.Migrate(ctx, rivermigrate.DirectionUp, nil); err != nil {
		return fmt.Errorf("migrate the job queue: %w", err)
	}
	if err := grant(ctx, db, name, role); err != nil {
		return fmt.Errorf("rights: %w", err)
	}
	return nil
}

// doors are the functions that see beyond a firm, and what they may do with which tables.
var doors = []string{"sign_in_person(text, bytea)", "session_person(bytea, interval)", "link_person(bytea)", "sweep(interval)",
	"watch_parts(integer)", "feed_firm(bytea)", "client_link(bytea)", "erase_words(uuid)", "finish_erasures()",
	"morning_firms()"}

const (
	doorReads = "firms, people, sessions, known_devices, password_links, sites, zones, watch_runs, calendar_feeds, client_links, " +
		"erasures, diagnoses, treatment_records, measures, closings"
	doorSweeps = "sessions, password_links, known_devices, watch_runs"
)

// grant gives the application what it needs and nothing more. The doors belong to a role that cannot sign in and is no superuser: what
// passes through them has its rights alone.
func grant(ctx context.Context, db *sql.DB, name, role string) error {
	keeper := role + "_doors"
	var there bool
	if err := db.QueryRowContext(ctx, "SELECT EXISTS (SELECT FROM pg_roles WHERE rolname = $1)", keeper).Scan(&there); err != nil {
		return err
	}
	if !there {
		if _, err := db.ExecContext(ctx, "CREATE ROLE "+quoted(keeper)+" NOLOGIN NOSUPERUSER BYPASSRLS"); err != nil {
			return err
		}
	}
	statements := []string{
		"REVOKE TEMPORARY ON DATABASE " + quoted(name) + " FROM PUBLIC",
		"GRANT USAGE, CREATE ON SCHEMA public TO " + quoted(keeper),
		"GRANT SELECT ON " + doorReads + " TO " + quoted(keeper),
		"GRANT DELETE ON " + doorSweeps + " TO " + quoted(keeper),
		"GRANT UPDATE (case_file) ON diagnoses TO " + quoted(keeper),
		"GRANT UPDATE (note) ON treatment_records, measures, closings TO " + quoted(keeper),
		"GRANT UPDATE (names, finished_at) ON erasures TO " + quoted(keeper),
	}
	for _, door := range doors {
		statements = append(statements, "ALTER FUNCTION "+door+" OWNER TO "+quoted(keeper))
	}
	all := strings.Join(doors, ", ")
	statements = append(
		statements,
		"REVOKE CREATE ON SCHEMA public FROM "+quoted(keeper),
		"REVOKE EXECUTE ON FUNCTION "+all+" FROM PUBLIC",
		"GRANT EXECUTE ON FUNCTION "+all+" TO "+quoted(role),
		"GRANT USAGE ON SCHEMA public TO "+quoted(role),
		"GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO "+quoted(role),
		"REVOKE INSERT, UPDATE, DELETE ON goose_db_version, river_migration FROM "+quoted(role),
		"REVOKE UPDATE, DELETE ON answers, diagnoses, treatment_records, measures, audits, readings, events, "+
			"product_labels, machine_log, waterings_in, closings, trial_readings FROM "+quoted(
			role,
		),
		"REVOKE DELETE ON firms, people, clients, sites, zones, visits, stations, samples, products, product_lots, jobs, machines, "+
			"client_links, erasures, trials FROM "+quoted(
			role,
		),
		"REVOKE EXECUTE ON PROCEDURE lock_firm(text) FROM PUBLIC",
		"GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO "+quoted(role),
	)
	// requests have deadlines of their own; these hold whatever else goes wrong
	for setting, value := range map[string]string{"statement_timeout": "120s", "lock_timeout": "30s",
		"idle_in_transaction_session_timeout": "120s"} {
		statements = append(statements, "ALTER ROLE "+quoted(role)+" IN DATABASE "+quoted(name)+" SET "+setting+" = "+literal(value))
	}
	_, err := db.ExecContext(ctx, strings.Join(statements, "; "))
	return err
}

func quoted(name string) string  { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }
func literal(text string) string { return `'` + strings.ReplaceAll(text, `'`, `''`) + `'` }

// OpenOwner connects the owner of the schema to the application's database: for what brings whole firms in.
func OpenOwner(owner, app string) (*sql.DB, error) {
	a, err := url.Parse(app)
	if err != nil || len(a.Path) < 2 {
		return nil, errors.New("the application's database address names no database")
	}
	o, err := url.Parse(owner)
	if err != nil {
		return nil, err
	}
	o.Path = a.Path
	return sql.Open("pgx", o.String())
}

// Drop removes the application's database, for starting the demo over.
func Drop(ctx context.Context, owner, app string) error {
	a, err := url.Parse(app)
	if err != nil || len(a.Path) < 2 {
		return errors.New("the application's database address names no database")
	}
	admin, err := sql.Open("pgx", owner)
	if err != nil {
		return err
	}
	defer admin.Close()
	_, err = admin.ExecContext(ctx, "DROP DATABASE IF EXISTS "+quoted(strings.TrimPrefix(a.Path, "/"))+" WITH (FORCE)")
	return err
}
