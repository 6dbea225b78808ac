package server_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/demo"
	"hodos/server"
)

// everyWord is all text of all rows of the demo's firm, but for the erasures themselves.
func (w *world) everyWord() string {
	w.t.Helper()
	out := ""
	require.NoError(w.t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		var tables []string
		if err := tx.Raw(`SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'firm_id'
			WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace
			AND c.relname NOT IN ('erasures', 'sessions')`).Scan(&tables).Error; err != nil {
			return err
		}
		for _, table := range tables {
			var rows []string
			if err := tx.Raw("SELECT to_jsonb(t)::text FROM " + table + " t").Scan(&rows).Error; err != nil {
				return err
			}
			b, _ := json.Marshal(rows)
			out += string(b)
		}
		return nil
	}))
	return out
}

func TestAClientIsForgotten(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner, tech := w.as("owner"), w.as("technician")
	p := tech.place("Quill")
	way, _ := owner.linked(p)
	w.anonymous().must(200, "POST", way+"/calls", call(p, "Orla Brandt here", pick("onset-speed", "days")), nil)
	require.Contains(t, w.everyWord(), "Brandt")
	require.Contains(t, w.everyWord(), "Quill Lane")

	path := "/clients/" + p.client + "/erasure"
	var e server.Erasing
	owner.must(200, "GET", path, nil, &e)
	require.Equal(t, "Orla Brandt", e.Client)
	require.Equal(t, int64(1), e.Calls)
	require.Positive(t, e.Open)
	require.Equal(t, int64(2), e.Named, "an insecticide and a feeding")
	require.Equal(t, "2029-05-11", e.KeepUntil, "three years after the last of them")
	for _, role := range []string{"office", "technician", "applicator"} {
		w.as(role).must(403, "GET", path, nil, nil)
		w.as(role).must(403, "POST", path, map[string]any{"id": id(), "name": "Orla Brandt"}, nil)
	}
	var pr problem
	owner.must(422, "POST", path, map[string]any{"id": id(), "name": "Orla Bran"}, &pr)
	require.NotEmpty(t, pr.at("body.name"))
	var figures server.Figures
	owner.must(200, "GET", "/figures?from=2025-01-01&to=2026-12-31", nil, &figures)

	erase := map[string]any{"id": id(), "name": " orla brandt "}
	owner.must(200, "POST", path, erase, &e)
	require.True(t, e.Erased)
	owner.must(200, "POST", path, erase, nil) // the same again
	words := w.everyWord()
	for _, gone := range []string{"Brandt", "Quill", "555-0101", "latch sticks", "skunks"} {
		require.NotContains(t, words, gone)
	}
	var sites server.Sites
	owner.must(200, "GET", "/sites", nil, &sites)
	for _, s := range sites.Sites {
		require.NotEqual(t, p.site, s.ID.String(), "an erased site is on no list")
	}
	w.anonymous().must(404, "GET", way, nil, nil)
	for _, v := range owner.day("").Due {
		require.NotEqual(t, p.site, v.Visit.SiteID.String())
	}

	// what was done stays, and the book alone still knows where, until it need not
	var after server.Figures
	owner.must(200, "GET", "/figures?from=2025-01-01&to=2026-12-31", nil, &after)
	require.Equal(t, figures.Cases, after.Cases, "the firm's figures do not change")
	names := func() (out []string) {
		var book server.Book
		owner.must(200, "GET", "/book?from=2025-09-01&to=2026-08-31&kind=pesticide", nil, &book)
		for _, x := range book.Entries {
			out = append(out, x.ClientName+", "+x.Address)
		}
		return out
	}
	require.Contains(t, names(), "Orla Brandt, 14 Quill Lane, Hollin Bend")
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE erasures SET keep_until = current_date - 1").Error
	}))
	_, err := account.Sweep(context.Background(), w.store)
	require.NoError(t, err)
	for _, x := range names() {
		require.NotContains(t, x, "Brandt")
	}
	var events []server.Happened
	owner.must(200, "GET", "/events", nil, &events)
	require.Equal(t, "client-erased", events[0].Kind)
}

// Without a record that the law wants nothing is kept apart; pictures and what was told go with the name.
func TestWithoutSuchARecordNothingIsKept(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner := w.as("owner")
	p := owner.place("Stonecrop")
	path := "/clients/" + p.client + "/erasure"
	var e server.Erasing
	owner.must(200, "GET", path, nil, &e)
	require.Positive(t, e.Photos)
	require.Equal(t, int64(1), e.Calls)
	require.Positive(t, e.Records)
	require.Zero(t, e.Named)
	require.Empty(t, e.KeepUntil)
	owner.must(200, "POST", path, map[string]any{"id": id(), "name": "Hedda Quist"}, nil)
	words := w.everyWord()
	for _, gone := range []string{"Quist", "Stonecrop", "mown to the ground"} {
		require.NotContains(t, words, gone)
	}
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		var names []string
		err := tx.Raw("SELECT names::text FROM erasures").Scan(&names).Error
		require.Equal(t, []string{"{}"}, names)
		return err
	}))
	// the door opens for an erasure that is under way, and for nothing else
	require.Error(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("SELECT erase_words(?)", id()).Error
	}))
	require.Error(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("SELECT set_config('app.erasing', 'yes', true)").Exec("UPDATE treatment_records SET note = ''").Error
	}))
}
