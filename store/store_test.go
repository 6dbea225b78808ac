package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/internal/testdb"
	"hodos/store"
)

func firm(t *testing.T, s *store.Store, name string) uuid.UUID {
	t.Helper()
	id := uuid.Must(uuid.NewV7())
	require.NoError(t, s.InFirm(context.Background(), id, func(tx *gorm.DB) error {
		return tx.Create(&store.Firm{ID: id, Name: name, Country: "US", Currency: "USD", DateForm: "dmy", UnitSystem: "metric", Version: 1}).Error
	}))
	return id
}

func TestTheDatabaseItselfKeepsFirmsApart(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	a, b := firm(t, s, "A"), firm(t, s, "B")
	mine := store.Client{ID: uuid.Must(uuid.NewV7()), FirmID: a, Name: "Mine", Version: 1}
	require.NoError(t, s.InFirm(ctx, a, func(tx *gorm.DB) error { return tx.Create(&mine).Error }))

	var n int64
	require.NoError(t, s.Shared(ctx).Model(&store.Client{}).Count(&n).Error)
	require.Zero(t, n, "without a firm nothing is seen")
	require.NoError(t, s.InFirm(ctx, b, func(tx *gorm.DB) error { return tx.Model(&store.Client{}).Count(&n).Error }))
	require.Zero(t, n)
	require.ErrorIs(t, s.InFirm(ctx, b, func(tx *gorm.DB) error {
		return tx.Create(&store.Client{ID: uuid.Must(uuid.NewV7()), FirmID: a, Name: "Planted", Version: 1}).Error
	}), store.ErrRefused)
	require.NoError(t, s.InFirm(ctx, b, func(tx *gorm.DB) error {
		r := tx.Exec("UPDATE clients SET name = 'Stolen' WHERE id = ?", mine.ID)
		require.Zero(t, r.RowsAffected)
		return r.Error
	}))
	// a foreign key cannot reach across either
	require.ErrorIs(t, s.InFirm(ctx, b, func(tx *gorm.DB) error {
		return tx.Create(&store.Site{ID: uuid.Must(uuid.NewV7()), FirmID: b, ClientID: mine.ID, Name: "X", Timezone: "UTC", Version: 1}).Error
	}), store.ErrNotFound)
	require.NoError(t, s.InFirm(ctx, a, func(tx *gorm.DB) error { return tx.First(&mine, "id = ?", mine.ID).Error }))
	require.Equal(t, "Mine", mine.Name)
}

func TestCreateTwiceAndChangeOnce(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	a, b := firm(t, s, "A"), firm(t, s, "B")
	row := store.Client{ID: uuid.Must(uuid.NewV7()), FirmID: a, Name: "First", Version: 1}
	create := func(f uuid.UUID, c store.Client) (store.Client, error) {
		c.FirmID = f
		err := s.InFirm(ctx, f, func(tx *gorm.DB) error { return store.Create(tx, &c, c.ID) })
		return c, err
	}
	_, err := create(a, row)
	require.NoError(t, err)
	row.Name = "Second"
	got, err := create(a, row)
	require.NoError(t, err)
	require.Equal(t, "First", got.Name, "the row that stands is given back")
	_, err = create(b, row)
	require.ErrorIs(t, err, store.ErrTaken, "another firm's key tells nothing")

	change := func(version int) error {
		return s.InFirm(ctx, a, func(tx *gorm.DB) error {
			return store.Change(tx, &store.Client{}, row.ID, version, map[string]any{"phone": ""})
		})
	}
	require.NoError(t, change(1))
	require.ErrorIs(t, change(1), store.ErrChanged)
	require.ErrorIs(t, s.InFirm(ctx, b, func(tx *gorm.DB) error {
		return store.Change(tx, &store.Client{}, row.ID, 2, map[string]any{"name": "Z"})
	}), store.ErrNotFound)
}

func TestLogsOnlyGrow(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	a := firm(t, s, "A")
	v7 := func() uuid.UUID { return uuid.Must(uuid.NewV7()) }
	p := store.Person{ID: v7(), FirmID: a, Name: "P", Email: "p@a.example", Role: "technician", PasswordHash: "x", Active: true, Version: 1}
	c := store.Client{ID: v7(), FirmID: a, Name: "C", Version: 1}
	site := store.Site{ID: v7(), FirmID: a, ClientID: c.ID, Name: "S", Timezone: "UTC", Version: 1}
	z := store.Zone{ID: v7(), FirmID: a, SiteID: site.ID, Name: "Z", AreaM2: 10, Species: store.JSON(`["unknown"]`), TargetCover: .9,
		Policy: store.JSON(`{}`), Version: 1}
	v := store.Visit{ID: v7(), FirmID: a, SiteID: site.ID, Kind: "diagnosis", DueOn: time.Now(), Version: 1}
	nought := 0.0
	rec := store.TreatmentRecord{ID: v7(), FirmID: a, VisitID: v.ID, ZoneID: z.ID, Action: "water-deep", AppliedOn: time.Now(), AreaM2: 10,
		WaterMM: &nought, PersonID: p.ID, SignedName: "P", RecordedAt: time.Now()}
	ans := store.Answer{ID: v7(), FirmID: a, VisitID: v.ID, ZoneID: z.ID, Spot: "worst", Finding: "grubs-per-m2", Value: store.JSON("0"),
		PersonID: p.ID, RecordedAt: time.Now()}
	for _, row := range []any{&p, &c, &site, &z, &v, &rec, &ans} {
		require.NoError(t, s.InFirm(ctx, a, func(tx *gorm.DB) error { return tx.Create(row).Error }))
	}
	for _, sql := range []string{"UPDATE answers SET finding = 'x'", "DELETE FROM answers", "UPDATE treatment_records SET note = 'x'",
		"DELETE FROM treatment_records"} {
		require.ErrorIs(t, s.InFirm(ctx, a, func(tx *gorm.DB) error { return tx.Exec(sql).Error }), store.ErrRefused, sql)
	}
	var back store.TreatmentRecord
	require.NoError(t, s.InFirm(ctx, a, func(tx *gorm.DB) error { return tx.First(&back, "id = ?", rec.ID).Error }))
	require.NotNil(t, back.WaterMM, "nought is a value, not a gap")
	require.Positive(t, back.Seq)
}

func TestStandingRecords(t *testing.T) {
	a, b, c := uuid.New(), uuid.New(), uuid.New()
	got := store.Standing([]store.TreatmentRecord{{ID: a}, {ID: b, CorrectsID: &a}, {ID: c, CorrectsID: &b, Voided: true}})
	require.Empty(t, got, "b corrected a, and c took b back")
	require.Len(t, store.Standing([]store.TreatmentRecord{{ID: a}, {ID: b, CorrectsID: &a}}), 1)
}

func TestMigrateTwice(t *testing.T) {
	owner, app := testdb.New(t)
	require.NoError(t, store.Migrate(context.Background(), owner, app))
}

// Servers that start at once on one new database all live: one migrates, the others wait for it.
func TestServersThatStartAtOnceAllLive(t *testing.T) {
	owner, app := testdb.New(t)
	require.NoError(t, store.Drop(context.Background(), owner, app))
	done := make(chan error, 4)
	for range cap(done) {
		go func() { done <- store.Migrate(context.Background(), owner, app) }()
	}
	for range cap(done) {
		require.NoError(t, <-done)
	}
}

// The narrow doors cannot be widened: what the application makes for a session is not looked into, it may make nothing of the kind, and
// who keeps the doors is no superuser and cannot sign in.
func TestNarrowDoorsStayNarrow(t *testing.T) {
	s := testdb.Open(t)
	ctx := context.Background()
	require.Error(t, s.Shared(ctx).Exec("CREATE TEMP VIEW people AS SELECT NULL::uuid AS id, NULL::uuid AS firm_id, 'x' AS password_hash, 'x' AS email, true AS active").Error,
		"no temporary objects")
	var temp bool
	require.NoError(t, s.Shared(ctx).Raw("SELECT has_database_privilege(current_database(), 'TEMP')").Scan(&temp).Error)
	require.False(t, temp)
	type door struct {
		Name, Path               string
		Super, Login, Open, Mine bool
	}
	var doors []door
	require.NoError(t, s.Shared(ctx).Raw(`SELECT p.proname AS name, array_to_string(p.proconfig, ';') AS path, r.rolsuper AS super, r.rolcanlogin AS login,
		EXISTS (SELECT FROM aclexplode(p.proacl) a WHERE a.grantee = 0) AS open, has_function_privilege(p.oid, 'EXECUTE') AS mine
		FROM pg_proc p JOIN pg_roles r ON r.oid = p.proowner WHERE p.prosecdef AND p.pronamespace = 'public'::regnamespace ORDER BY 1`).Scan(&doors).Error)
	require.Len(t, doors, 10)
	for _, d := range doors {
		require.Equal(t, "search_path=pg_catalog, public, pg_temp", d.Path, d.Name)
		require.False(t, d.Super, d.Name)
		require.False(t, d.Login, d.Name)
		require.False(t, d.Open, "%s may be called by everybody", d.Name)
		require.True(t, d.Mine, d.Name)
	}
	var index string
	require.NoError(t, s.Shared(ctx).Raw("SELECT indexdef FROM pg_indexes WHERE indexname = 'visits_follows'").Scan(&index).Error)
	require.Contains(t, index, "follows_id")
}
