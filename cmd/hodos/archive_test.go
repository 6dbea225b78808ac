package main

import (
	"bytes"
	"context"
	"errors"
	"os"
	"path/filepath"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/archive"
	"hodos/internal/testdb"
	"hodos/store"
)

// A database is backed up, thrown away with everybody in it, and brought back by commands alone; what it holds then is the same.
func TestADatabaseThatWasKilledComesBack(t *testing.T) {
	owner, app := testdb.New(t)
	t.Setenv("HODOS_OWNER_DATABASE_URL", owner)
	t.Setenv("HODOS_DATABASE_URL", app)
	ctx := context.Background()
	firm := uuid.Must(uuid.NewV7())
	whole := func() []byte {
		s, err := store.Open(app)
		require.NoError(t, err)
		defer s.Close()
		var b bytes.Buffer
		require.NoError(t, archive.Export(ctx, s, firm, &b))
		return b.Bytes()
	}
	s, err := store.Open(app)
	require.NoError(t, err)
	require.NoError(t, s.InFirm(ctx, firm, func(tx *gorm.DB) error {
		if err := tx.Create(&store.Firm{ID: firm, Name: "Small", Country: "US", Currency: "USD", DateForm: "dmy", UnitSystem: "metric",
			Timezone: "UTC", Version: 1}).Error; err != nil {
			return err
		}
		return tx.Create(&store.Client{ID: uuid.Must(uuid.NewV7()), FirmID: firm, Name: "Orla Brandt", Version: 1}).Error
	}))
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
	require.NoError(t, exportFirm([]string{firm.String(), file}))
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
