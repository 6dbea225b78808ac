package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"reflect"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/core/diagnosis"
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
	Done  int      `json:"done" doc:"days or readings written"`
	Of    int      `json:"of"`
	Lines int      `json:"lines"`
	Taken bool     `json:"taken" doc:"all of it is written; true on the last line only"`
	Flags []string `json:"flags,omitempty" doc:"what was odd but taken"`
	Error string   `json:"error,omitempty" doc:"nothing of it was taken"`
}

const (
	mostFlags = 50
	atOnce    = 250 // rows written at once, each followed by a line of progress
)

// takesFile says in the API's description that the body is a plain file and the answer lines of progress.
func (s *Server) takesFile(method, path, id, summary string, right Right, f func(context.Context, *fileInput) (*huma.StreamResponse,
	error)) {
	operation(s, method, path, id, summary, "sky", right, f)
	op := s.api.OpenAPI().Paths[path].Post
	op.RequestBody = &huma.RequestBody{Required: true, Description: "A file in the dialect of docs/formats.md.",
		Content: map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: "string"}}}}
	op.Responses["200"] = &huma.Response{Description: "Lines of progress, the last with taken: true.",
		Content: map[string]*huma.MediaType{"application/x-ndjson": {Schema: s.api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Progress](), true, "Progress")}}}
}

// refusedFile turns what a reader of files says into an answer: every line with its reason.
func (s *Server) refusedFile(what string, err error) error {
	var r *refusal.Refusal
	if !errors.As(err, &r) {
		if strings.Contains(err.Error(), "request body too large") {
			return huma.NewError(http.StatusRequestEntityTooLarge, "the file is larger than 8 MB: cut it into years")
		}
		return s.said(err)
	}
	details := make([]error, len(r.Problems))
	for i, p := range r.Problems {
		details[i] = field("file", p.String())
	}
	if more := r.Count - len(r.Problems); more > 0 {
		details = append(details, field("file", fmt.Sprintf("and %d more", more)))
	}
	return huma.Error422UnprocessableEntity("the "+what+" file is refused; nothing of it was taken", details...)
}

// taking writes rows in one transaction and tells how far it is. Rows go in whole or not at all.
func (s *Server) taking(ctx context.Context, rows, lines int, flags []string,
	write func(tx *gorm.DB, from, to int) error) *huma.StreamResponse {
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		hc.SetHeader("Content-Type", "application/x-ndjson")
		hc.SetHeader("X-Accel-Buffering", "no")
		out := hc.BodyWriter()
		tell := func(p Progress) {
			b, _ := json.Marshal(p)
			_, _ = out.Write(append(b, '\n'))
			if f, ok := out.(http.Flusher); ok {
				f.Flush()
			}
		}
		err := s.inFirm(ctx, func(tx *gorm.DB) error {
			for from := 0; from < rows; from += atOnce {
				to := min(from+atOnce, rows)
				if err := write(tx, from, to); err != nil {
					return err
				}
				if to < rows {
					tell(Progress{Done: to, Of: rows, Lines: lines})
				}
			}
			return nil
		})
		if err != nil {
			tell(Progress{Of: rows, Lines: lines, Error: err.Error()})
			return
		}
		tell(Progress{Done: rows, Of: rows, Lines: lines, Taken: true, Flags: flags})
	}}
}

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

func (s *Server) seriesRoutes() {
	s.takesFile(http.MethodPost, "/sites/{id}/weather", "import-weather",
		"Import weather measured on a site; it replaces the station's values", AnswerChecks,
		func(ctx context.Context, in *fileInput) (*huma.StreamResponse, error) {
			site, _, err := s.siteOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			series, err := weatherfile.Read(in.reader, nil)
			if err != nil {
				return nil, s.refusedFile("weather", err)
			}
			flags := []string{}
			for i, f := range series.Flags {
				if i < mostFlags {
					flags = append(flags, f.String())
				}
			}
			return s.taking(ctx, len(series.Days), series.Lines, flags, func(tx *gorm.DB, from, to int) error {
				rows := make([]store.SiteDay, 0, to-from)
				for _, d := range series.Days[from:to] {
					rows = append(rows, store.SiteDay{FirmID: site.FirmID, SiteID: site.ID, Day: d.Date, TMin: d.TMin, TMax: d.TMax, Rain: d.Rain,
						RH: d.RH, Wind: d.Wind, Snow: d.Snow, Solar: d.Solar, Irrigation: d.Irrigation, Hours: FloatsOf(d.Hours)})
				}
				return tx.Clauses(measured).Create(&rows).Error
			}), nil
		})
	s.readingRoutes()
}

func (s *Server) readingRoutes() {
	s.takesFile(http.MethodPost, "/sites/{id}/readings", "import-readings",
		"Take in readings of probes and thermometers, and soil tests, of a site's zones", AnswerChecks,
		func(ctx context.Context, in *fileInput) (*huma.StreamResponse, error) {
			site, zones, err := s.siteOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			today, err := s.clock.Today(ctx)
			if err != nil {
				return nil, s.said(err)
			}
			read, _, err := readingfile.Read(in.reader, func(name string) bool { _, ok := zoneNamed(zones, name); return ok }, today)
			if err != nil {
				return nil, s.refusedFile("readings", err)
			}
			id := who(ctx)
			now := s.now().UTC()
			return s.taking(ctx, len(read), len(read), nil, func(tx *gorm.DB, from, to int) error {
				rows := make([]store.Reading, 0, to-from)
				for _, r := range read[from:to] {
					zone, _ := zoneNamed(zones, r.Zone)
					key, err := uuid.NewV7()
					if err != nil {
						return err
					}
					rows = append(rows, store.Reading{ID: key, FirmID: site.FirmID, ZoneID: zone.ID, Day: r.Day, Hour: r.Hour, Finding: r.Finding,
						Value: r.Value, Origin: "file", PersonID: id.Person, RecordedAt: now})
				}
				// the same file twice is no error and changes nothing: a reading stays as it was read
				return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&rows).Error
			}), nil
		})
	type file struct {
		ContentDisposition string `header:"Content-Disposition"`
		ContentType        string `header:"Content-Type"`
		Body               []byte
	}
	operation(s, http.MethodGet, "/sites/{id}/readings", "export-readings", "The readings and soil tests of a site's zones as a file", "sky",
		See, func(ctx context.Context, in *IDPath) (*file, error) {
			site, zones, err := s.siteOf(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			name := map[uuid.UUID]string{}
			for _, z := range zones {
				name[z.ID] = z.Name
				if same, _ := zoneNamed(zones, z.Name); same.ID != z.ID {
					name[z.ID] = z.ID.String() // two zones of one name
				}
			}
			var rows []store.Reading
			if err := s.inFirm(ctx, func(tx *gorm.DB) error {
				return tx.Where("zone_id IN ?", zoneKeys(zones)).Order("day, hour NULLS FIRST, zone_id, finding").Find(&rows).Error
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
			return &file{`attachment; filename="readings.csv"`, "text/csv; charset=utf-8", b.Bytes()}, nil
		})
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

// readReadings adds what was read on a zone up to a day: soil tests stand for two years, readings of the day itself stand where nobody
// has answered, older ones among what was found before. An answer on site goes before all of them.
func readReadings(tx *gorm.DB, zone uuid.UUID, date time.Time, c *diagnosis.Case) error {
	var rows []store.Reading
	if err := tx.Where("zone_id = ? AND day > ? AND day <= ?", zone, date.AddDate(0, 0, -resultDays["soil"]),
		date).Order("day DESC, hour DESC NULLS LAST").Find(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		_, said := c.Findings[r.Finding]
		today := r.Day.UTC().Equal(date.UTC())
		switch {
		case !said && (today || readingfile.SoilTest(r.Finding)):
			c.Findings[r.Finding] = diagnosis.NumberValue(r.Value)
			if r.Finding == "soil-temp-c" && r.Hour != nil {
				c.Findings["soil-temp-hour"] = diagnosis.NumberValue(*r.Hour)
			}
		case !today && !readingfile.SoilTest(r.Finding) && r.Day.After(date.AddDate(0, 0, -60)):
			c.Earlier = addReading(c.Earlier, r)
		}
	}
	return nil
}
