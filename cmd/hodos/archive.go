package main

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"

	"github.com/google/uuid"

	"hodos/archive"
	"hodos/store"
)

// asOwner does something with the database brought up to date: as the owner of the schema and as the program.
func asOwner(do func(ctx context.Context, db *sql.DB, s *store.Store) error) error {
	ctx := context.Background()
	owner, app, err := addresses()
	if err != nil {
		return err
	}
	if owner == "" {
		return errors.New("HODOS_OWNER_DATABASE_URL is not set (docs/operating.md)")
	}
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	db, err := store.OpenOwner(owner, app)
	if err != nil {
		return err
	}
	defer db.Close()
	return do(ctx, db, s)
}

// exportFirm writes everything of a firm into a file.
func exportFirm(args []string) error {
	if len(args) != 2 {
		return refused{errors.New("usage: hodos export FIRM FILE.zip, where FIRM is the firm's key")}
	}
	firm, err := uuid.Parse(args[0])
	if err != nil {
		return refused{fmt.Errorf("the firm's key: %w", err)}
	}
	ctx := context.Background()
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	return writeFirm(ctx, s, firm, args[1])
}

// writeFirm writes an archive beside its place first, so that a file of that name is whole or the old one.
func writeFirm(ctx context.Context, s *store.Store, firm uuid.UUID, path string) error {
	f, err := os.CreateTemp(filepath.Dir(path), ".hodos-*")
	if err != nil {
		return err
	}
	defer os.Remove(f.Name())
	err = archive.Export(ctx, s, firm, f)
	if err == nil {
		err = f.Sync()
	}
	if closed := f.Close(); err == nil {
		err = closed
	}
	if err != nil {
		return err
	}
	return os.Rename(f.Name(), path)
}

// importFirm brings a firm's file into the database.
func importFirm(args []string) error {
	if len(args) != 1 {
		return refused{errors.New("usage: hodos import FILE.zip")}
	}
	return asOwner(func(ctx context.Context, db *sql.DB, _ *store.Store) error { return readFirm(ctx, db, args[0]) })
}

func readFirm(ctx context.Context, db *sql.DB, path string) error {
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return err
	}
	m, err := archive.Import(ctx, db, f, info.Size())
	if err != nil {
		return fmt.Errorf("%s: %w", path, err)
	}
	rows := int64(0)
	for _, t := range m.Tables {
		rows += t.Rows
	}
	fmt.Printf("firm %s: %d rows in %d tables\n", m.Firm, rows, len(m.Tables))
	return nil
}

// backup writes every firm of the database into a folder, a file each.
func backup(args []string) error {
	if len(args) != 1 {
		return refused{errors.New("usage: hodos backup FOLDER")}
	}
	return asOwner(func(ctx context.Context, db *sql.DB, s *store.Store) error {
		if err := os.MkdirAll(args[0], 0o700); err != nil {
			return err
		}
		firms, err := firmKeys(ctx, db)
		if err != nil {
			return err
		}
		for _, id := range firms {
			if err := writeFirm(ctx, s, id, filepath.Join(args[0], id.String()+".zip")); err != nil {
				return fmt.Errorf("firm %s: %w", id, err)
			}
		}
		fmt.Printf("%d firms in %s\n", len(firms), args[0])
		return nil
	})
}

// firmKeys are the keys of all firms.
func firmKeys(ctx context.Context, db *sql.DB) (out []uuid.UUID, err error) {
	rows, err := db.QueryContext(ctx, "SELECT id FROM firms ORDER BY id")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var id uuid.UUID
		if err := rows.Scan(&id); err != nil {
			return nil, err
		}
		out = append(out, id)
	}
	return out, rows.Err()
}

// restore brings every firm of a backup into an empty database.
func restore(args []string) error {
	if len(args) != 1 {
		return refused{errors.New("usage: hodos restore FOLDER")}
	}
	files, err := filepath.Glob(filepath.Join(args[0], "*.zip"))
	if err != nil || len(files) == 0 {
		return refused{fmt.Errorf("%s holds no backup", args[0])}
	}
	slices.Sort(files)
	return asOwner(func(ctx context.Context, db *sql.DB, _ *store.Store) error {
		for _, f := range files {
			if err := readFirm(ctx, db, f); err != nil {
				return err
			}
		}
		return nil
	})
}
