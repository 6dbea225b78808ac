package main

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"sort"

	"github.com/google/uuid"

	"hodos/archive"
	"hodos/store"
)

// asOwner connects the owner of the schema and the program to the database, brought up to date.
func asOwner(ctx context.Context) (*sql.DB, *store.Store, error) {
	owner, app, err := addresses()
	if err != nil {
		return nil, nil, err
	}
	if owner == "" {
		return nil, nil, errors.New("HODOS_OWNER_DATABASE_URL is not set (docs/operating.md)")
	}
	s, err := opened(ctx)
	if err != nil {
		return nil, nil, err
	}
	db, err := store.OpenOwner(owner, app)
	return db, s, err
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
	ctx := context.Background()
	db, s, err := asOwner(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	defer db.Close()
	return readFirm(ctx, db, args[0])
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
	ctx := context.Background()
	db, s, err := asOwner(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	defer db.Close()
	if err := os.MkdirAll(args[0], 0o700); err != nil {
		return err
	}
	rows, err := db.QueryContext(ctx, "SELECT id FROM firms ORDER BY id")
	if err != nil {
		return err
	}
	defer rows.Close()
	var firms []uuid.UUID
	for rows.Next() {
		var id uuid.UUID
		if err := rows.Scan(&id); err != nil {
			return err
		}
		firms = append(firms, id)
	}
	if err := rows.Err(); err != nil {
		return err
	}
	for _, id := range firms {
		if err := writeFirm(ctx, s, id, filepath.Join(args[0], id.String()+".zip")); err != nil {
			return fmt.Errorf("firm %s: %w", id, err)
		}
	}
	fmt.Printf("%d firms in %s\n", len(firms), args[0])
	return nil
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
	sort.Strings(files)
	ctx := context.Background()
	db, s, err := asOwner(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	defer db.Close()
	for _, f := range files {
		if err := readFirm(ctx, db, f); err != nil {
			return err
		}
	}
	return nil
}
