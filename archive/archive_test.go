package archive

import (
	"archive/zip"
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/store"
)

func demoStore(t *testing.T) *store.Store {
	return testdb.Copy(t, "demo", func(s *store.Store) error {
		_, err := demo.Load(context.Background(), s)
		return err
	})
}

// small is a firm of a row in each of the tables that others stand on: enough for what has to be refused.
var small = uuid.MustParse("01a03111-1c00-7000-8000-00000000f001")

func smallStore(t *testing.T) *store.Store {
	t.Helper()
	s := testdb.Open(t)
	key := func(n byte) uuid.UUID { id := small; id[15] = n; return id }
	on := time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)
	visit := store.Visit{ID: key(5), FirmID: small, SiteID: key(3), Kind: "diagnosis", DueOn: on, Version: 1}
	require.NoError(t, s.InFirm(context.Background(), small, func(tx *gorm.DB) error {
		for _, row := range []any{&store.Firm{ID: small, Name: "Small", Country: "US", Currency: "USD", DateForm: "dmy", UnitSystem: "metric",
			Timezone: "UTC", Version: 1},
			&store.Person{ID: key(1), FirmID: small, Name: "One", Email: "one@small.example", Role: "owner", PasswordHash: "x", Active: true, Version: 1},
			&store.Client{ID: key(2), FirmID: small, Name: "Client", Version: 1},
			&store.Site{ID: key(3), FirmID: small, ClientID: key(2), Name: "Site", Timezone: "UTC", Version: 1},
			&store.Zone{ID: key(4), FirmID: small, SiteID: key(3), Name: "Lawn", AreaM2: 10, AreaError: .1, Species: store.JSON(`["tall-fescue"]`),
				TargetCover: .9, Policy: store.JSON(`{}`), Version: 1}, &visit,
			&store.Answer{ID: key(6), FirmID: small, VisitID: key(5), ZoneID: key(4), Spot: "worst", Finding: "pull-test",
				Value: store.JSON(`"resists"`), PersonID: key(1), RecordedAt: on}} {
			if err := tx.Create(row).Error; err != nil {
				return err
			}
		}
		return nil
	}))
	return s
}

func exported(t *testing.T, s *store.Store) []byte {
	t.Helper()
	var b bytes.Buffer
	require.NoError(t, Export(context.Background(), s, demo.Firm, &b))
	return b.Bytes()
}

// empty is a new database, as its owner and as the program sees it.
func empty(t *testing.T) (*sql.DB, *store.Store) {
	t.Helper()
	owner, app := testdb.New(t)
	db, err := store.OpenOwner(owner, app)
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	s, err := store.Open(app)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return db, s
}

func bring(db *sql.DB, b []byte) (Manifest, error) {
	return Import(context.Background(), db, bytes.NewReader(b), int64(len(b)))
}

// changed is an archive with one of its files written anew.
func changed(t *testing.T, b []byte, name string, with func([]byte) []byte) []byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(b), int64(len(b)))
	require.NoError(t, err)
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		if f.Name == name {
			text = with(text)
		}
		if text == nil {
			continue
		}
		o, err := w.Create(f.Name)
		require.NoError(t, err)
		_, err = o.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

// differing are the files that two archives do not have in common.
func differing(t *testing.T, a, b []byte) (out []string) {
	t.Helper()
	read := func(x []byte) map[string]string {
		z, err := zip.NewReader(bytes.NewReader(x), int64(len(x)))
		require.NoError(t, err)
		texts := map[string]string{}
		for _, f := range z.File {
			r, err := f.Open()
			require.NoError(t, err)
			text, err := io.ReadAll(r)
			require.NoError(t, err)
			texts[f.Name] = string(text)
		}
		return texts
	}
	one, other := read(a), read(b)
	require.Equal(t, len(one), len(other))
	for name, text := range one {
		if other[name] != text {
			out = append(out, name+": "+text[:min(len(text), 300)]+" / "+other[name][:min(len(other[name]), 300)])
		}
	}
	return out
}

// picturesAreFiles looks that they are files of their own.
func picturesAreFiles(t *testing.T, b []byte) {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(b), int64(len(b)))
	require.NoError(t, err)
	require.Equal(t, "manifest.json", z.File[0].Name, "the manifest stands first")
	pictures := 0
	for _, f := range z.File {
		if !strings.HasPrefix(f.Name, "pictures/picture/") {
			continue
		}
		pictures++
		r, err := f.Open()
		require.NoError(t, err)
		head := make([]byte, 2)
		_, err = io.ReadFull(r, head)
		require.NoError(t, err)
		require.Equal(t, []byte{0xff, 0xd8}, head, "%s is a JPEG", f.Name)
	}
	require.Positive(t, pictures)
}

// Everything goes out, everything comes in again into an empty database, and what goes out of that is the same to the byte.
func TestAFirmGoesOutAndComesBack(t *testing.T) {
	from := demoStore(t)
	b := exported(t, from)
	require.True(t, bytes.Equal(b, exported(t, from)), "the same rows give the same bytes")
	picturesAreFiles(t, b)

	db, to := empty(t)
	m, err := bring(db, b)
	require.NoError(t, err)
	require.Equal(t, demo.Firm, m.Firm)
	rows := map[string]int64{}
	for _, x := range m.Tables {
		rows[x.Name] = x.Rows
	}
	for _, name := range []string{"firms", "people", "sites", "zones", "visits", "answers", "diagnoses", "treatment_records", "measures", "photos",
		"pictures", "products", "product_labels", "jobs", "station_days", "closings"} {
		require.Positive(t, rows[name], name)
	}
	require.NotContains(t, rows, "sessions")
	require.Empty(t, differing(t, b, exported(t, to)))

	// new rows come behind those that came in
	require.NoError(t, to.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		var a store.Answer
		if err := tx.Order("seq DESC").First(&a).Error; err != nil {
			return err
		}
		next := a
		next.ID[15]++
		next.RecordedAt = time.Now().UTC()
		if err := tx.Create(&next).Error; err != nil {
			return err
		}
		var kept store.Answer
		if err := tx.First(&kept, "id = ?", next.ID).Error; err != nil {
			return err
		}
		require.Greater(t, kept.Seq, a.Seq)
		return nil
	}))

	_, err = bring(db, b)
	require.ErrorContains(t, err, "is there already")
}

// What is not whole leaves nothing behind.
func TestAnArchiveThatIsNotWhole(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, Export(context.Background(), smallStore(t), small, &out))
	b := out.Bytes()
	db, to := empty(t)
	manifest := func(change func(*Manifest)) []byte {
		return changed(t, b, "manifest.json", func(text []byte) []byte {
			var m Manifest
			require.NoError(t, json.Unmarshal(text, &m))
			change(&m)
			out, err := json.Marshal(m)
			require.NoError(t, err)
			return out
		})
	}
	for says, bad := range map[string][]byte{
		"no archive":         []byte("not a zip"),
		"no manifest":        changed(t, b, "manifest.json", func([]byte) []byte { return nil }),
		"format":             manifest(func(m *Manifest) { m.Format = "other" }),
		"schema":             manifest(func(m *Manifest) { m.Schema++ }),
		"no such table":      manifest(func(m *Manifest) { m.Tables = append(m.Tables, Table{Name: "nonsense"}) }),
		"the manifest says":  manifest(func(m *Manifest) { m.Tables[len(m.Tables)-1].Rows++ }),
		"tables/visits.json": changed(t, b, "tables/visits.jsonl", func([]byte) []byte { return nil }),
		"line 1":             changed(t, b, "tables/answers.jsonl", func([]byte) []byte { return []byte("{oops}\n") }),
		"foreign key":        changed(t, b, "tables/sites.jsonl", func([]byte) []byte { return []byte("") }),
	} {
		if says == "foreign key" {
			bad = changed(t, manifestWithout(t, b, "sites"), "tables/sites.jsonl", func([]byte) []byte { return []byte("") })
		}
		_, err := bring(db, bad)
		require.ErrorContains(t, err, says)
		err = Export(context.Background(), to, small, io.Discard)
		require.ErrorIs(t, err, store.ErrNotFound, "nothing is left of it: %s", says)
	}
	// after all that the whole one comes in
	_, err := bring(db, b)
	require.NoError(t, err)
}

// manifestWithout says that a table has no rows.
func manifestWithout(t *testing.T, b []byte, table string) []byte {
	return changed(t, b, "manifest.json", func(text []byte) []byte {
		var m Manifest
		require.NoError(t, json.Unmarshal(text, &m))
		for i := range m.Tables {
			if m.Tables[i].Name == table {
				m.Tables[i].Rows = 0
			}
		}
		out, err := json.Marshal(m)
		require.NoError(t, err)
		return out
	})
}

func TestTablesStandInTheOrderOfWhatTheyNeed(t *testing.T) {
	got, err := inOrder([]string{"a", "b", "c"}, map[string][]string{"a": {"c", "elsewhere"}, "c": {"b"}})
	require.NoError(t, err)
	require.Equal(t, []string{"b", "c", "a"}, got)
	_, err = inOrder([]string{"a", "b"}, map[string][]string{"a": {"b"}, "b": {"a"}})
	require.ErrorContains(t, err, "ring")
}
