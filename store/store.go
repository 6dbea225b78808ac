// Package store keeps the firm's rows in PostgreSQL. Every business row belongs to a firm, and every access runs inside
// a transaction that names the firm to the database, so that row-level security holds even where a query forgets it.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/url"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
	_ "github.com/jackc/pgx/v5/stdlib" // the driver behind goose and the role set-up
	"github.com/pressly/goose/v3"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrChanged  = errors.New("changed by somebody else in the meantime")
	ErrTaken    = errors.New("is taken")
	ErrRefused  = errors.New("refused by the database")
)

// Store is the database as the application role sees it.
type Store struct{ db *gorm.DB }

// Open connects the application role. The address is a postgres:// URL.
func Open(address string) (*Store, error) {
	db, err := gorm.Open(postgres.Open(address), &gorm.Config{Logger: logger.Discard, SkipDefaultTransaction: true, TranslateError: false})
	if err != nil {
		return nil, fmt.Errorf("connect to the database: %w", err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, err
	}
	pool.SetMaxOpenConns(24)
	pool.SetMaxIdleConns(24)
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
	return told(s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
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

// told turns database errors into the ones that callers know.
func told(err error) error {
	var pg *pgconn.PgError
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
		case "42501", "23514", "22001", "22003", "P0001": // row-level security, check, sizes, raised
			return fmt.Errorf("%w: %s", ErrRefused, pg.Message)
		}
	}
	return err
}

// Create inserts a row whose key the client made. A second request with the same key does nothing and is no error, if
// the row is the firm's own; a key that another firm has used is taken.
func Create(tx *gorm.DB, row any, id uuid.UUID) error {
	r := tx.Exec("SAVEPOINT one")
	if r.Error != nil {
		return r.Error
	}
	err := tx.Create(row).Error
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "23505" && strings.HasSuffix(pg.ConstraintName, "_pkey") {
		if e := tx.Exec("ROLLBACK TO SAVEPOINT one").Error; e != nil {
			return e
		}
		if e := tx.First(row, "id = ?", id).Error; e != nil {
			return fmt.Errorf("%w: id", ErrTaken)
		}
		return nil
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
	var there bool
	if err := admin.QueryRowContext(ctx, "SELECT EXISTS (SELECT FROM pg_roles WHERE rolname = $1)", role).Scan(&there); err != nil {
		return fmt.Errorf("connect as the owner: %w", err)
	}
	if !there {
		if _, err := admin.ExecContext(ctx, "CREATE ROLE "+quoted(role)+" LOGIN NOSUPERUSER NOBYPASSRLS PASSWORD "+literal(password)); err != nil && !strings.Contains(err.Error(), "already exists") {
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
	_, err = db.ExecContext(ctx, "GRANT USAGE ON SCHEMA public TO "+quoted(role)+
		"; GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO "+quoted(role)+
		"; REVOKE INSERT, UPDATE, DELETE ON goose_db_version, river_migration FROM "+quoted(role)+
		"; REVOKE UPDATE, DELETE ON answers, diagnoses, treatment_records, looks, audits, readings FROM "+quoted(role)+
		"; GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO "+quoted(role))
	return err
}

func quoted(name string) string  { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }
func literal(text string) string { return `'` + strings.ReplaceAll(text, `'`, `''`) + `'` }

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
