package server

import (
	"bytes"
	"context"
	"encoding/binary"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/exchange/labfile"
	"hodos/exchange/refusal"
	"hodos/store"
)

// Laboratory is what analyses samples. In the demo it is simulated; without one, results come in as files.
type Laboratory interface {
	Name() string
	Analyse(c evidence.Case, kind string, seed uint64) map[string]knowledge.Value
}

// Sample is a sample for the laboratory, with its result once it is back.
type Sample struct {
	ID         uuid.UUID      `json:"id"`
	Number     string         `json:"number" doc:"what stands on the bag"`
	VisitID    uuid.UUID      `json:"visit_id"`
	ZoneID     uuid.UUID      `json:"zone_id"`
	Kind       string         `json:"kind" enum:"soil,disease,nematode,tissue"`
	TakenOn    string         `json:"taken_on" format:"date"`
	ExpectedOn string         `json:"expected_on" format:"date"`
	Cores      int            `json:"cores" doc:"cores or plugs in the bag"`
	DepthMM    float64        `json:"depth_mm"`
	Note       string         `json:"note"`
	TakenBy    string         `json:"taken_by"`
	SiteName   string         `json:"site_name"`
	ZoneName   string         `json:"zone_name"`
	Overdue    bool           `json:"overdue"`
	ReturnedOn *string        `json:"returned_on,omitempty" format:"date"`
	Origin     string         `json:"origin" enum:",simulated,csv,json"`
	Laboratory string         `json:"laboratory"`
	Values     map[string]any `json:"values" doc:"by finding"`
}

// NewSample is a sample as it is taken.
type NewSample struct {
	ID      uuid.UUID `json:"id" doc:"version 7, made by the client"`
	ZoneID  uuid.UUID `json:"zone_id"`
	Kind    string    `json:"kind" enum:"soil,disease,nematode,tissue"`
	Cores   int       `json:"cores" minimum:"1" maximum:"60" doc:"cores or plugs in the bag"`
	DepthMM float64   `json:"depth_mm" minimum:"0" maximum:"600"`
	Note    string    `json:"note" maxLength:"500"`
}

// SampleForm is what goes with a sample: everything the laboratory has to know, and nothing of the client.
type SampleForm struct {
	Sample    Sample   `json:"sample"`
	Firm      string   `json:"firm"`
	Grasses   []string `json:"grasses" nullable:"false"`
	AreaM2    float64  `json:"area_m2"`
	Texture   string   `json:"texture"`
	Findings  []string `json:"findings" nullable:"false" doc:"what was found on the spot, in words"`
	Suspected []string `json:"suspected" nullable:"false" doc:"the causes that lead, with their chance"`
	Wanted    []string `json:"wanted" nullable:"false" doc:"ids of the findings that are asked for"`
	Handling  []string `json:"handling" nullable:"false"`
}

// handling is how a sample is packed (extension practice).
var handling = map[string][]string{
	"soil": {
		"12 to 15 cores, 75 to 100 mm deep, thatch off, mixed in a clean bucket",
		"Air-dry; fill the bag to the line, about half a litre",
		"Mehlich-3 for phosphorus and potassium, DTPA for iron, saturated paste for salts: ask for these, or note the method",
	},
	"disease": {
		"One plug 100 mm across from the edge of an active patch, half good and half bad, before any fungicide",
		"Wrap the soil in foil, leave the blades dry and free, no plastic round them",
		"Send early in the week, cool, never frozen",
	},
	"nematode": {
		"15 to 20 cores, 100 mm deep, from the margin between good and bad",
		"Seal in plastic at once, keep at 10 to 15 °C, out of the sun",
		"Do not dry and do not freeze: the animals must arrive alive",
	},
	"tissue": {"Clippings of the last mowing, two handfuls, free of soil", "Paper bag, dry"},
}

func sampleNumber(n int) string { return fmt.Sprintf("S-%04d", n) }

func sampleDays(kind string) int {
	p, _ := knowledge.ProcedureByID(labfile.Kinds[kind])
	return p.Days
}

// samplesOf lists samples with the names around them.
func samplesOf(tx *gorm.DB, today time.Time, where string, args ...any) ([]Sample, error) {
	var rows []struct {
		store.Sample
		Site, Zone, Person string
	}
	err := tx.Raw(
		`SELECT a.*, s.name AS site, z.name AS zone, p.name AS person FROM samples a JOIN zones z ON z.id = a.zone_id
		JOIN sites s ON s.id = z.site_id JOIN people p ON p.id = a.person_id WHERE `+where+` ORDER BY a.number DESC`,
		args...).Scan(
		&rows,
	).Error
	out := make([]Sample, 0, len(rows))
	for _, r := range rows {
		x := Sample{ID: r.ID, Number: sampleNumber(r.Number), VisitID: r.VisitID, ZoneID: r.ZoneID, Kind: r.Kind,
			TakenOn: r.TakenOn.Format(dateOnly), ExpectedOn: r.ExpectedOn.Format(dateOnly), Cores: r.Cores, DepthMM: r.DepthMM, Note: r.Note,
			TakenBy: r.Person, SiteName: r.Site, ZoneName: r.Zone, ReturnedOn: dateText(r.ReturnedOn), Origin: r.Origin, Laboratory: r.Laboratory,
			Values: map[string]any{}}
		x.Overdue = r.ReturnedOn == nil && r.ExpectedOn.Before(today.AddDate(0, 0, -2))
		if r.Sample.Result != nil {
			if err := json.Unmarshal(r.Sample.Result, &x.Values); err != nil {
				return nil, err
			}
		}
		out = append(out, x)
	}
	return out, err
}

type visitSample struct {
	IDPath
	Body NewSample
}

// takeSample answers POST /visits/{id}/samples: take a sample for the laboratory.
func (s *Server) takeSample(ctx context.Context, in *visitSample) (*body[Sample], error) {
	b := in.Body
	if err := keyed(b.ID); err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	var out []Sample
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		v, today, err := casework.FindVisit(tx, in.ID, b.ZoneID, now)
		if err != nil {
			return within(err)
		}
		// the firm's row is held, so that two samples never get one number
		var firm store.Firm
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&firm).Error; err != nil {
			return err
		}
		var last int
		if err := tx.Raw("SELECT coalesce(max(number), 0) FROM samples").Scan(&last).Error; err != nil {
			return err
		}
		row := store.Sample{ID: b.ID, FirmID: firm.ID, Number: last + 1, VisitID: v.ID, ZoneID: b.ZoneID, Kind: b.Kind, TakenOn: today,
			ExpectedOn: today.AddDate(0, 0, sampleDays(b.Kind)), Cores: b.Cores, DepthMM: b.DepthMM, Note: b.Note, PersonID: who(ctx).Person,
			RecordedAt: s.now().UTC()}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		out, err = samplesOf(tx, today, "a.id = ?", row.ID)
		return err
	})
	if err != nil {
		return nil, err
	}
	return answer(out[0]), nil
}

type filter struct {
	Zone uuid.UUID `query:"zone" format:"uuid" doc:"all zones when left out"`
	Open bool      `query:"open" doc:"only those whose result is awaited or came within the last week"`
}

// listSamples answers GET /samples: samples, the newest first.
func (s *Server) listSamples(ctx context.Context, in *filter) (*body[[]Sample], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	out := []Sample{}
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		where, args := "true", []any{}
		if in.Zone != uuid.Nil {
			where, args = where+" AND a.zone_id = ?", append(args, in.Zone)
		}
		if in.Open {
			where, args = where+" AND (a.returned_on IS NULL OR a.returned_on > ?)", append(args, today.AddDate(0, 0, -7))
		}
		out, err = samplesOf(tx, today, where, args...)
		return err
	})
	return answer(out), err
}

// getSampleForm answers GET /samples/{id}/form: the form that goes with a sample.
func (s *Server) getSampleForm(ctx context.Context, in *IDPath) (*body[SampleForm], error) {
	out, err := s.sampleForm(ctx, in.ID)
	return answer(out), err
}

type resultInput struct {
	IDPath
	Body struct {
		Text string `json:"text" minLength:"1" maxLength:"1000000" doc:"the file as it came: the JSON or the CSV form of docs/formats.md"`
	}
}

// takeResult answers POST /samples/{id}/result: take in a laboratory's result.
func (s *Server) takeResult(ctx context.Context, in *resultInput) (*body[Sample], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var out []Sample
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var row store.Sample
		if err := tx.First(&row, "id = ?", in.ID).Error; err != nil {
			return err
		}
		r, err := labfile.Read(bytes.NewReader([]byte(in.Body.Text)), sampleNumber(row.Number), row.Kind)
		if r := (*refusal.Refusal)(nil); errors.As(err, &r) {
			return refusedWhole("the result is refused; nothing of it was taken", "body.text: ", r)
		}
		if err != nil {
			return err
		}
		if row.Result != nil {
			return huma.Error409Conflict("the result of this sample is in already; it stays as it came")
		}
		origin := "csv"
		if t := bytes.TrimSpace([]byte(in.Body.Text)); t[0] == '{' {
			origin = "json"
		}
		if err := keepResult(tx, row, r.Values, origin, r.Laboratory, today); err != nil {
			return err
		}
		out, err = samplesOf(tx, today, "a.id = ?", row.ID)
		return err
	})
	if err != nil {
		return nil, err
	}
	return answer(out[0]), nil
}

func keepResult(tx *gorm.DB, row store.Sample, values map[string]knowledge.Value, origin, laboratory string, on time.Time) error {
	plain := map[string]any{}
	for id, v := range values {
		plain[id] = v.Plain()
	}
	b, err := json.Marshal(plain)
	if err != nil {
		return err
	}
	return tx.Model(&store.Sample{}).Where("id = ? AND result IS NULL", row.ID).Updates(map[string]any{"result": store.JSON(b),
		"returned_on": on, "origin": origin, "laboratory": laboratory}).Error
}

// collect takes in what the laboratory has ready on a day for the caller's firm.
func (s *Server) collect(ctx context.Context, today time.Time) error {
	if s.laboratory == nil {
		return nil
	}
	var due []store.Sample
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		return tx.Where("result IS NULL AND expected_on <= ?", today).Order("number").Find(&due).Error
	}); err != nil {
		return err
	}
	for _, row := range due {
		v, err := s.caseOn(ctx, row.VisitID, row.ZoneID)
		if err != nil {
			return err
		}
		byDays(&v)
		values := s.laboratory.Analyse(v.Case, row.Kind, binary.BigEndian.Uint64(row.ID[8:]))
		if err := s.inFirm(ctx, func(tx *gorm.DB) error {
			return keepResult(tx, row, values, "simulated", s.laboratory.Name(), row.ExpectedOn)
		}); err != nil {
			return err
		}
	}
	return nil
}

func (s *Server) sampleForm(ctx context.Context, id uuid.UUID) (SampleForm, error) {
	today, err := s.today(ctx)
	if err != nil {
		return SampleForm{}, err
	}
	out := SampleForm{Grasses: []string{}, Findings: []string{}, Suspected: []string{}, Wanted: []string{}, Handling: []string{}}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		found, err := samplesOf(tx, today, "a.id = ?", id)
		if err != nil {
			return err
		}
		if len(found) == 0 {
			return store.ErrNotFound
		}
		out.Sample = found[0]
		var firm store.Firm
		if err := tx.First(&firm).Error; err != nil {
			return err
		}
		out.Firm = firm.Name
		return nil
	})
	if err != nil {
		return out, err
	}
	sc, v, err := s.scales(ctx, out.Sample.VisitID, out.Sample.ZoneID)
	if err != nil {
		return out, err
	}
	c := v.Case
	out.Wanted, out.Handling, out.Texture = labfile.Findings(out.Sample.Kind), handling[out.Sample.Kind], c.Lawn.Texture
	out.Grasses = append(out.Grasses, c.Lawn.Species...)
	if c.Lawn.AreaM2 != nil {
		out.AreaM2 = *c.Lawn.AreaM2
	}
	for _, f := range knowledge.Findings() {
		if v, ok := c.Findings[f.ID]; ok && f.Station != "lab" && f.Station != "ask" {
			out.Findings = append(out.Findings, knowledge.InWords(&f, f.ID, v, saying(ctx)))
		}
	}
	for i, x := range sc.Diagnosis.Causes {
		if cause, ok := knowledge.CauseByID(x.ID); ok && i < 4 && x.Probability >= .05 {
			out.Suspected = append(out.Suspected, fmt.Sprintf("%s, %.0f %%", cause.Label, x.Probability*100))
		}
	}
	return out, nil
}
