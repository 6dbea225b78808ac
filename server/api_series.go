package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/labstack/echo/v4"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/exchange/plain"
	"hodos/exchange/readingfile"
	"hodos/exchange/refusal"
	"hodos/exchange/weatherfile"
	"hodos/store"
)

// fileInput is a plain file as the body of a request, read as it comes in.
type fileInput struct {
	IDPath
	reader io.Reader
}

// Resolve keeps the body.
func (i *fileInput) Resolve(ctx huma.Context) []error {
	i.reader = ctx.BodyReader()
	return nil
}

// Progress is one line of the answer to a file: how far its taking is, and at the end what was taken.
type Progress struct {
	Done  int `json:"done" doc:"days or readings written"`
	Of    int `json:"of"`
	Lines int `json:"lines"`
	// New and Corrected are how many readings are new, and how many say something else than what stood.
	New       int      `json:"new,omitempty"`
	Corrected int      `json:"corrected,omitempty"`
	Taken     bool     `json:"taken" doc:"all of it is written; true on the last line only"`
	Flags     []string `json:"flags,omitempty" doc:"what was odd but taken"`
	Error     string   `json:"error,omitempty" doc:"nothing of it was taken"`
}

const (
	mostFlags = 50
	atOnce    = 250 // rows written at once, each followed by a line of progress
)

// refusedFile turns what a reader of files says into an answer: every line with its reason.
func (s *Server) refusedFile(what string, err error) error {
	var large *http.MaxBytesError
	var he *echo.HTTPError
	if errors.As(err, &large) || errors.As(err, &he) && he.Code == http.StatusRequestEntityTooLarge {
		return huma.NewError(http.StatusRequestEntityTooLarge, "the file is larger than 8 MB: cut it into years")
	}
	var r *refusal.Refusal
	if !errors.As(err, &r) {
		return s.said(err)
	}
	details := make([]error, 0, len(r.Problems)+1)
	for _, p := range r.All() {
		details = append(details, field("file", p.String()))
	}
	return huma.Error422UnprocessableEntity("the "+what+" file is refused; nothing of it was taken", details...)
}

// tally is what came of some rows of a file.
type tally struct{ fresh, corrected int }

// taking writes rows in one transaction and tells how far it is. Rows go in whole or not at all, and only while somebody is there to be
// told: when the connection ends, nothing is taken.
func (s *Server) taking(
	ctx context.Context,
	rows, lines int,
	flags []string,
	write func(tx *gorm.DB, from, to int) (tally, error),
) *huma.StreamResponse {
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		hc.SetHeader("Content-Type", "application/x-ndjson")
		hc.SetHeader("X-Accel-Buffering", "no")
		ctx, gone := context.WithCancel(ctx)
		defer gone()
		tell, told := teller(hc.BodyWriter(), gone, func(p Progress) bool { return p.Taken || p.Error != "" })
		var sum tally
		err := s.inFirm(ctx, func(tx *gorm.DB) error {
			for from := 0; from < rows; from += atOnce {
				to := min(from+atOnce, rows)
				now, err := write(tx, from, to)
				if err != nil {
					return err
				}
				sum.fresh, sum.corrected = sum.fresh+now.fresh, sum.corrected+now.corrected
				if to < rows {
					tell(Progress{Done: to, Of: rows, Lines: lines})
				}
			}
			return ctx.Err()
		})
		if err != nil {
			tell(Progress{Of: rows, Lines: lines, Error: err.Error()})
		} else {
			tell(Progress{Done: rows, Of: rows, Lines: lines, Taken: true, Flags: flags, New: sum.fresh, Corrected: sum.corrected})
		}
		told()
	}}
}

// teller writes lines of progress beside the work, so that a slow reader holds no rows: lines that cannot go out in time are left out,
// but for the last. gone is called when the connection has ended. Each line may take a while of its own, however long the whole takes.
func teller[L any](out io.Writer, gone func(), last func(L) bool) (tell func(L), told func()) {
	lines, done := make(chan L, 64), make(chan struct{})
	control := (*http.ResponseController)(nil)
	if w, ok := out.(http.ResponseWriter); ok {
		control = http.NewResponseController(w)
	}
	go func() {
		defer close(done)
		for p := range lines {
			b, _ := json.Marshal(p)
			if control != nil {
				_ = control.SetWriteDeadline(time.Now().Add(lineDeadline))
			}
			if _, err := out.Write(append(b, '\n')); err != nil {
				gone()
				continue
			}
			if f, ok := out.(http.Flusher); ok {
				f.Flush()
			}
		}
	}()
	tell = func(p L) {
		if last(p) {
			lines <- p
			return
		}
		select {
		case lines <- p:
		default:
		}
	}
	return tell, func() { close(lines); <-done }
}

// lineDeadline is how long a line of progress may take to go out.
const lineDeadline = 30 * time.Second

func (s *Server) siteOf(ctx context.Context, id uuid.UUID) (site store.Site, zones []store.Zone, err error) {
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&site, "id = ?", id).Error; err != nil {
			return err
		}
		return tx.Where("site_id = ?", id).Order("name, id").Find(&zones).Error
	})
	return site, zones, err
}

// measured lets a later file say more of a day without wiping out what an earlier one has said: quantity by quantity.
var measured = func() clause.OnConflict {
	set := map[string]any{}
	for _, c := range []string{"tmin_c", "tmax_c", "rain_mm", "rh_mean", "wind_ms", "snow_cm", "solar_mj_m2", "irrigation_mm", "hours"} {
		set[c] = gorm.Expr("coalesce(excluded." + c + ", site_days." + c + ")")
	}
	return clause.OnConflict{Columns: []clause.Column{{Name: "site_id"}, {Name: "day"}}, DoUpdates: clause.Assignments(set)}
}()

// importWeather answers POST /sites/{id}/weather: a file of weather measured on the site.
func (s *Server) importWeather(ctx context.Context, in *fileInput) (*huma.StreamResponse, error) {
	site, _, err := s.siteOf(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	today := now.In(site.Timezone)
	series, err := weatherfile.Read(in.reader, today, nil)
	if err != nil {
		return nil, s.refusedFile("weather", err)
	}
	flags := []string{}
	for i, f := range series.Flags {
		if i < mostFlags {
			flags = append(flags, f.String())
		}
	}
	return s.taking(ctx, len(series.Days), series.Lines, flags, func(tx *gorm.DB, from, to int) (tally, error) {
		rows := make([]store.SiteDay, 0, to-from)
		for _, d := range series.Days[from:to] {
			rows = append(rows, store.SiteDay{FirmID: site.FirmID, SiteID: site.ID, Day: d.Date, TMin: d.TMin, TMax: d.TMax, Rain: d.Rain,
				RH: d.RH, Wind: d.Wind, Snow: d.Snow, Solar: d.Solar, Irrigation: d.Irrigation, Hours: casework.FloatsOf(d.Hours)})
		}
		return tally{}, tx.Clauses(measured).Create(&rows).Error
	}), nil
}

type readingsFile struct {
	ContentDisposition string `header:"Content-Disposition"`
	ContentType        string `header:"Content-Type"`
	Body               []byte
}

// exportReadings answers GET /sites/{id}/readings: the readings and soil tests of a site's zones as a file.
func (s *Server) exportReadings(ctx context.Context, in *IDPath) (*readingsFile, error) {
	site, zones, err := s.siteOf(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	name := map[uuid.UUID]string{}
	for _, z := range zones {
		name[z.ID] = z.Name
		if same, _ := zoneNamed(zones, z.Name); same.ID != z.ID || plain.Formula(z.Name) {
			name[z.ID] = z.ID.String() // two zones of one name, or one that a spreadsheet would run
		}
	}
	var rows []store.Reading
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		return tx.Table(
			"standing_readings",
		).Where(
			"zone_id IN ?",
			casework.ZoneKeys(zones),
		).Order(
			"day, hour NULLS FIRST, zone_id, finding",
		).Find(
			&rows,
		).Error
	}); err != nil {
		return nil, err
	}
	out := make([]readingfile.Reading, len(rows))
	for i, r := range rows {
		out[i] = readingfile.Reading{Zone: name[r.ZoneID], Day: r.Day.UTC(), Hour: r.Hour, Finding: r.Finding, Value: r.Value}
	}
	place, err := time.LoadLocation(site.Timezone)
	if err != nil {
		place = time.UTC
	}
	var b bytes.Buffer
	if err := readingfile.Write(&b, out, place); err != nil {
		return nil, s.said(err)
	}
	return &readingsFile{`attachment; filename="readings.csv"`, "text/csv; charset=utf-8", b.Bytes()}, nil
}

// importReadings answers POST /sites/{id}/readings: a file of probes, thermometers and soil tests of a site's zones.
func (s *Server) importReadings(ctx context.Context, in *fileInput) (*huma.StreamResponse, error) {
	site, zones, err := s.siteOf(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	today := now.In(site.Timezone)
	read, _, err := readingfile.Read(in.reader, func(name string) bool { _, ok := zoneNamed(zones, name); return ok }, today)
	if err != nil {
		return nil, s.refusedFile("readings", err)
	}
	id, at := who(ctx), s.now().UTC()
	return s.taking(ctx, len(read), len(read), nil, func(tx *gorm.DB, from, to int) (tally, error) {
		rows := make([]store.Reading, 0, to-from)
		for _, r := range read[from:to] {
			zone, _ := zoneNamed(zones, r.Zone)
			key, err := uuid.NewV7()
			if err != nil {
				return tally{}, err
			}
			rows = append(rows, store.Reading{ID: key, FirmID: site.FirmID, ZoneID: zone.ID, Day: r.Day, Hour: r.Hour, Finding: r.Finding,
				Value: r.Value, Origin: "file", PersonID: id.Person, RecordedAt: at})
		}
		return keepReadings(tx, rows)
	}), nil
}

// keepReadings writes what is new and what says something else than what stands; the same again changes nothing.
func keepReadings(tx *gorm.DB, rows []store.Reading) (tally, error) {
	type key struct {
		zone    uuid.UUID
		day     string
		finding string
		hour    float64
	}
	of := func(r store.Reading) key {
		k := key{r.ZoneID, r.Day.Format(dateOnly), r.Finding, -1}
		if r.Hour != nil {
			k.hour = *r.Hour
		}
		return k
	}
	var zones []uuid.UUID
	first, last := rows[0].Day, rows[0].Day
	for _, r := range rows {
		if !slices.Contains(zones, r.ZoneID) {
			zones = append(zones, r.ZoneID)
		}
		if r.Day.Before(first) {
			first = r.Day
		}
		if r.Day.After(last) {
			last = r.Day
		}
	}
	var old []store.Reading
	if err := tx.Table("standing_readings").Where("zone_id IN ? AND day BETWEEN ? AND ?", zones, first, last).Find(&old).Error; err != nil {
		return tally{}, err
	}
	stands := make(map[key]float64, len(old))
	for _, r := range old {
		stands[of(r)] = r.Value
	}
	var sum tally
	var write []store.Reading
	for _, r := range rows {
		switch was, known := stands[of(r)]; {
		case !known:
			sum.fresh++
		case was != r.Value:
			sum.corrected++
		default:
			continue
		}
		write = append(write, r)
	}
	if len(write) == 0 {
		return sum, nil
	}
	return sum, tx.Create(&write).Error
}

// zoneNamed finds a zone by name, in any case, or by key.
func zoneNamed(zones []store.Zone, name string) (store.Zone, bool) {
	for _, z := range zones {
		if strings.EqualFold(z.Name, name) || strings.EqualFold(z.ID.String(), name) {
			return z, true
		}
	}
	return store.Zone{}, false
}
