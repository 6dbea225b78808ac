package main

import (
	"bytes"
	"context"
	"errors"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/archive"
	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/store"
)

// A database is backed up, thrown away with everybody in it, and brought back by commands alone; what it holds then is the same.
func TestADatabaseThatWasKilledComesBack(t *testing.T) {
	owner, app := testdb.New(t)
	t.Setenv("HODOS_OWNER_DATABASE_URL", owner)
	t.Setenv("HODOS_DATABASE_URL", app)
	ctx := context.Background()
	whole := func() []byte {
		s, err := store.Open(app)
		require.NoError(t, err)
		defer s.Close()
		var b bytes.Buffer
		require.NoError(t, archive.Export(ctx, s, demo.Firm, &b))
		return b.Bytes()
	}
	s, err := store.Open(app)
	require.NoError(t, err)
	_, err = demo.Load(ctx, s)
	require.NoError(t, err)
	before := whole()
	folder := filepath.Join(t.TempDir(), "backup")
	require.NoError(t, backup([]string{folder}))
	files, err := os.ReadDir(folder)
	require.NoError(t, err)
	require.Len(t, files, 1, "one firm, and nothing half written")

	// killed: with the program still connected
	require.NoError(t, store.Drop(ctx, owner, app))
	require.Error(t, s.Ping(ctx))
	_ = s.Close()

	require.NoError(t, restore([]string{folder}))
	require.True(t, bytes.Equal(before, whole()), "the same as before")
	require.ErrorContains(t, restore([]string{folder}), "is there already")

	// a single firm by its key
	file := filepath.Join(t.TempDir(), "firm.zip")
	require.NoError(t, exportFirm([]string{demo.Firm.String(), file}))
	b, err := os.ReadFile(file)
	require.NoError(t, err)
	require.True(t, bytes.Equal(before, b))
	require.ErrorContains(t, importFirm([]string{file}), "is there already")
}

func TestArchiveCommandsSayWhatTheyWant(t *testing.T) {
	empty := t.TempDir()
	for name, run := range map[string]func() error{
		"export": func() error { return exportFirm(nil) },
		"key":    func() error { return exportFirm([]string{"nonsense", "x.zip"}) },
		"import": func() error { return importFirm(nil) },
		"backup": func() error { return backup(nil) },
		"FOLDER": func() error { return restore(nil) },
		"holds":  func() error { return restore([]string{empty}) },
	} {
		err := run()
		var r refused
		require.True(t, errors.As(err, &r), name)
		require.Contains(t, err.Error(), name)
	}
}
