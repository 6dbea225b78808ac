// Package archive puts everything of a firm into one file and brings it back: tables as JSON lines, pictures and sounds as the files that
// they are. What it writes of the same rows is the same to the byte.
package archive

import (
	"archive/zip"
	"context"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// Format and Version stand in the manifest of every archive.
const (
	Format  = "hodos-firm"
	Version = 1
)

// Manifest is the first file of an archive.
type Manifest struct {
	Format  string    `json:"format"`
	Version int       `json:"version"`
	Schema  int64     `json:"schema"` // of the database that it was made from
	Firm    uuid.UUID `json:"firm"`
	Tables  []Table   `json:"tables"`
}

// Table is a table of the archive with its rows counted.
type Table struct {
	Name string `json:"name"`
	Rows int64  `json:"rows"`
}

// left are tables of a firm that are not taken along: sessions and links end with the server that made them.
var left = []string{"sessions", "password_links", "known_devices", "morning_letters"}

// shared are the tables of no firm of which an archive takes the rows that the firm stands on.
var shared = []struct{ table, where string }{
	{"stations", "id IN (SELECT station_id FROM sites)"},
	{"station_days", "station_id IN (SELECT station_id FROM sites)"},
}

// derived are columns that the database counts for itself; they are left out, and begin anew.
var derived = map[string]string{"stations": "revision"}

// files are the columns that hold whole files.
var files = map[string]map[string]string{
	"pictures":      {"picture": "jpg", "thumbnail": "jpg"},
	"sounds":        {"sound": "sound"},
	"call_pictures": {"picture": "jpg", "thumbnail": "jpg"},
}

// made is the time that stands on every file of an archive: not the clock's, so that the same rows give the same bytes.
var made = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// Export writes everything of a firm, as one transaction sees it.
func Export(ctx context.Context, s *store.Store, firm uuid.UUID, w io.Writer) error {
	z := zip.NewWriter(w)
	err := s.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT set_config('app.firm', ?, true)", firm.String()).Error; err != nil {
			return err
		}
		e := exporter{tx: tx, zip: z}
		return e.all(firm)
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return err
	}
	return z.Close()
}

type exporter struct {
	tx  *gorm.DB
	zip *zip.Writer
}

func (e *exporter) all(firm uuid.UUID) error {
	var there int64
	if err := e.tx.Raw("SELECT count(*) FROM firms WHERE id = ?", firm).Scan(&there).Error; err != nil {
		return err
	}
	if there == 0 {
		return fmt.Errorf("firm %s: %w", firm, store.ErrNotFound)
	}
	m := Manifest{Format: Format, Version: Version, Firm: firm}
	if err := e.tx.Raw("SELECT max(version_id) FROM goose_db_version").Scan(&m.Schema).Error; err != nil {
		return err
	}
	names, err := tables(e.tx)
	if err != nil {
		return err
	}
	where := map[string]string{}
	for _, s := range shared {
		where[s.table] = s.where
	}
	// the manifest stands first, so the rows are counted before they are written
	for _, name := range names {
		t := Table{Name: name}
		if err := e.tx.Raw("SELECT count(*) FROM " + quoted(name) + filter(where[name])).Scan(&t.Rows).Error; err != nil {
			return err
		}
		m.Tables = append(m.Tables, t)
	}
	f, err := e.file("manifest.json")
	if err != nil {
		return err
	}
	enc := json.NewEncoder(f)
	enc.SetIndent("", " ")
	if err := enc.Encode(m); err != nil {
		return err
	}
	for _, name := range names {
		if err := e.table(name, where[name]); err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
	}
	return nil
}

func filter(where string) string {
	if where == "" {
		return ""
	}
	return " WHERE " + where
}

func (e *exporter) file(name string) (io.Writer, error) {
	return e.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate, Modified: made})
}

// table writes the rows of a table in the order of its key, a line each.
func (e *exporter) table(name, where string) error {
	out, err := e.file("tables/" + name + ".jsonl")
	if err != nil {
		return err
	}
	key, err := keyOf(e.tx, name)
	if err != nil {
		return err
	}
	row := "to_jsonb(t)"
	for c := range files[name] {
		row += " - '" + c + "'"
	}
	if c := derived[name]; c != "" {
		row += " - '" + c + "'"
	}
	rows, err := e.tx.Raw("SELECT " + row + "::text FROM " + quoted(name) + " t" + filter(where) + " ORDER BY " + key).Rows()
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var line string
		if err := rows.Scan(&line); err != nil {
			return err
		}
		if _, err := io.WriteString(out, line+"\n"); err != nil {
			return err
		}
	}
	if err := rows.Err(); err != nil {
		return err
	}
	return e.filesOf(name)
}

// filesOf writes the files that a table holds, one after the other.
func (e *exporter) filesOf(name string) error {
	kinds := files[name]
	if len(kinds) == 0 {
		return nil
	}
	key := fileKey[name]
	var ids []uuid.UUID
	if err := e.tx.Raw("SELECT " + key + " FROM " + quoted(name) + " ORDER BY 1").Scan(&ids).Error; err != nil {
		return err
	}
	for _, id := range ids {
		for _, c := range sorted(kinds) {
			var b []byte
			if err := e.tx.Raw("SELECT "+c+" FROM "+quoted(name)+" WHERE "+key+" = ?", id).Row().Scan(&b); err != nil {
				return err
			}
			out, err := e.file(fileName(name, c, id))
			if err != nil {
				return err
			}
			if _, err := out.Write(b); err != nil {
				return err
			}
		}
	}
	return nil
}

// fileKey is the key by which the files of a table are named.
var fileKey = map[string]string{"pictures": "photo_id", "sounds": "note_id", "call_pictures": "id"}

func fileName(table, column string, id uuid.UUID) string {
	return fmt.Sprintf("%s/%s/%s.%s", table, column, id, files[table][column])
}

func sorted(m map[string]string) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

// tables are the tables that an archive holds, those first on which others stand.
func tables(tx *gorm.DB) ([]string, error) {
	var own []string
	if err := tx.Raw(`SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'firm_id'
		WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace ORDER BY 1`).Scan(&own).Error; err != nil {
		return nil, err
	}
	names := []string{"firms"}
	for _, s := range shared {
		names = append(names, s.table)
	}
	for _, n := range own {
		if !slices.Contains(left, n) {
			names = append(names, n)
		}
	}
	var links []struct{ Child, Parent string }
	if err := tx.Raw(`SELECT child.relname AS child, parent.relname AS parent FROM pg_constraint k
		JOIN pg_class child ON child.oid = k.conrelid JOIN pg_class parent ON parent.oid = k.confrelid
		WHERE k.contype = 'f' AND NOT k.condeferrable AND child.oid <> parent.oid
		AND child.relnamespace = 'public'::regnamespace`).Scan(&links).Error; err != nil {
		return nil, err
	}
	needs := map[string][]string{}
	for _, l := range links {
		needs[l.Child] = append(needs[l.Child], l.Parent)
	}
	return inOrder(names, needs)
}

// inOrder puts those first that others need.
func inOrder(names []string, needs map[string][]string) ([]string, error) {
	var out []string
	for len(out) < len(names) {
		before := len(out)
		for _, n := range names {
			ready := !slices.Contains(out, n)
			for _, p := range needs[n] {
				ready = ready && (slices.Contains(out, p) || !slices.Contains(names, p))
			}
			if ready {
				out = append(out, n)
			}
		}
		if len(out) == before {
			return nil, errors.New("the tables stand on each other in a ring")
		}
	}
	return out, nil
}

// keyOf are the columns of a table's key, as an order.
func keyOf(tx *gorm.DB, table string) (string, error) {
	var columns []string
	if err := tx.Raw(`SELECT a.attname FROM pg_index i JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = ANY (i.indkey)
		WHERE i.indrelid = ?::regclass AND i.indisprimary ORDER BY array_position(i.indkey::int[], a.attnum::int)`, table).
		Scan(&columns).Error; err != nil {
		return "", err
	}
	if len(columns) == 0 {
		return "to_jsonb(t)::text", nil
	}
	for i := range columns {
		columns[i] = quoted(columns[i])
	}
	return strings.Join(columns, ", "), nil
}

func quoted(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

// Limits of what is read: no archive is larger.
const (
	mostLine  = 64 << 20
	mostFiles = 2_000_000
)

// Import brings an archive into a database of the same schema, in which the firm is not there yet, with the rights of the owner of the
// schema. All of it comes in, or nothing.
func Import(ctx context.Context, owner *sql.DB, r io.ReaderAt, size int64) (Manifest, error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return Manifest{}, fmt.Errorf("no archive: %w", err)
	}
	if len(z.File) > mostFiles {
		return Manifest{}, fmt.Errorf("no archive of ours: %d files", len(z.File))
	}
	m, err := manifestOf(z)
	if err != nil {
		return m, err
	}
	tx, err := owner.BeginTx(ctx, nil)
	if err != nil {
		return m, err
	}
	defer tx.Rollback() //nolint:errcheck // after the commit there is nothing to take back
	if err := receive(ctx, tx, z, m); err != nil {
		return m, err
	}
	return m, tx.Commit()
}

func manifestOf(z *zip.Reader) (m Manifest, err error) {
	f, err := z.Open("manifest.json")
	if err != nil {
		return m, errors.New("no archive of ours: it has no manifest")
	}
	defer f.Close()
	if err := json.NewDecoder(io.LimitReader(f, 1<<20)).Decode(&m); err != nil {
		return m, fmt.Errorf("manifest.json: %w", err)
	}
	if m.Format != Format || m.Version != Version {
		return m, fmt.Errorf("manifest.json: format %q, version %d; expected %q, %d", m.Format, m.Version, Format, Version)
	}
	return m, nil
}

func receive(ctx context.Context, tx *sql.Tx, z *zip.Reader, m Manifest) error {
	var schema int64
	if err := tx.QueryRowContext(ctx, "SELECT max(version_id) FROM goose_db_version").Scan(&schema); err != nil {
		return err
	}
	if schema != m.Schema {
		return fmt.Errorf("the archive is of schema %d, the database of %d: bring it in with the program that made it, then migrate",
			m.Schema, schema)
	}
	if _, err := tx.ExecContext(ctx, "SELECT set_config('app.firm', $1, true)", m.Firm.String()); err != nil {
		return err
	}
	var there bool
	if err := tx.QueryRowContext(ctx, "SELECT EXISTS (SELECT FROM firms WHERE id = $1)", m.Firm).Scan(&there); err != nil {
		return err
	}
	if there {
		return fmt.Errorf("firm %s is there already", m.Firm)
	}
	for _, t := range m.Tables {
		if err := receiveTable(ctx, tx, z, t); err != nil {
			return fmt.Errorf("tables/%s.jsonl: %w", t.Name, err)
		}
	}
	return sequences(ctx, tx, m)
}

// receiveTable brings one table in: all lines into a table of its own first, so that rows that name each other come in at once.
func receiveTable(ctx context.Context, tx *sql.Tx, z *zip.Reader, t Table) error {
	known := false
	if err := tx.QueryRowContext(ctx, "SELECT to_regclass($1) IS NOT NULL", "public."+quoted(t.Name)).Scan(&known); err != nil {
		return err
	}
	if !known {
		return errors.New("there is no such table")
	}
	f, err := z.Open("tables/" + t.Name + ".jsonl")
	if err != nil {
		return err
	}
	defer f.Close()
	if _, err := tx.ExecContext(ctx, "CREATE TEMP TABLE incoming (line jsonb) ON COMMIT DROP"); err != nil {
		return err
	}
	n, err := takeLines(ctx, tx, z, t.Name, f)
	if err != nil {
		return err
	}
	if n != t.Rows {
		return fmt.Errorf("%d rows where the manifest says %d", n, t.Rows)
	}
	columns, err := columnsOf(ctx, tx, t.Name)
	if err != nil {
		return err
	}
	clash := ""
	for _, s := range shared {
		if s.table == t.Name {
			clash = " ON CONFLICT DO NOTHING" // another firm may stand on the same
		}
	}
	list := strings.Join(columns, ", ")
	_, err = tx.ExecContext(ctx, "INSERT INTO "+quoted(t.Name)+" ("+list+") OVERRIDING SYSTEM VALUE SELECT r."+strings.Join(columns, ", r.")+
		" FROM incoming, LATERAL jsonb_populate_record(NULL::"+quoted(t.Name)+", line) r"+clash)
	if err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, "DROP TABLE incoming")
	return err
}

// takeLines reads the lines of a table, and puts the files that belong to them back in.
func takeLines(ctx context.Context, tx *sql.Tx, z *zip.Reader, table string, f io.Reader) (n int64, err error) {
	dec := json.NewDecoder(io.LimitReader(f, 1<<40))
	put, err := tx.PrepareContext(ctx, "INSERT INTO incoming VALUES ($1::jsonb)")
	if err != nil {
		return 0, err
	}
	defer put.Close()
	for dec.More() {
		var line json.RawMessage
		if err := dec.Decode(&line); err != nil {
			return n, fmt.Errorf("line %d: %w", n+1, err)
		}
		if len(files[table]) > 0 {
			if line, err = withFiles(z, table, line); err != nil {
				return n, fmt.Errorf("line %d: %w", n+1, err)
			}
		}
		if len(line) > mostLine {
			return n, fmt.Errorf("line %d is longer than %d bytes", n+1, mostLine)
		}
		if _, err := put.ExecContext(ctx, string(line)); err != nil {
			return n, fmt.Errorf("line %d: %w", n+1, err)
		}
		n++
	}
	return n, nil
}

// withFiles puts the files of a row back into it.
func withFiles(z *zip.Reader, table string, line json.RawMessage) (json.RawMessage, error) {
	var row map[string]any
	if err := json.Unmarshal(line, &row); err != nil {
		return nil, err
	}
	text, _ := row[fileKey[table]].(string)
	id, err := uuid.Parse(text)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", fileKey[table], err)
	}
	for c := range files[table] {
		f, err := z.Open(fileName(table, c, id))
		if err != nil {
			return nil, err
		}
		b, err := io.ReadAll(io.LimitReader(f, mostLine/2))
		_ = f.Close()
		if err != nil {
			return nil, err
		}
		row[c] = `\x` + hex.EncodeToString(b)
	}
	return json.Marshal(row)
}

// columnsOf are the columns of a table that are written; those that the database works out itself are left out.
func columnsOf(ctx context.Context, tx *sql.Tx, table string) (out []string, err error) {
	rows, err := tx.QueryContext(ctx, `SELECT attname FROM pg_attribute WHERE attrelid = $1::regclass AND attnum > 0 AND NOT attisdropped
		AND attgenerated = '' AND attname <> $2 ORDER BY attnum`, quoted(table), derived[table])
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		out = append(out, quoted(name))
	}
	return out, rows.Err()
}

// sequences sets what counts rows behind the highest that came in.
func sequences(ctx context.Context, tx *sql.Tx, m Manifest) error {
	for _, t := range m.Tables {
		var column sql.NullString
		err := tx.QueryRowContext(ctx, `SELECT attname FROM pg_attribute WHERE attrelid = $1::regclass AND attidentity <> '' LIMIT 1`,
			quoted(t.Name)).Scan(&column)
		if errors.Is(err, sql.ErrNoRows) {
			continue
		}
		if err != nil {
			return err
		}
		c := quoted(column.String)
		if _, err := tx.ExecContext(ctx, "SELECT setval(pg_get_serial_sequence($1, $2), greatest((SELECT coalesce(max("+c+"), 0) FROM "+
			quoted(t.Name)+"), nextval(pg_get_serial_sequence($1, $2))))", quoted(t.Name), column.String); err != nil {
			return err
		}
	}
	return nil
}
