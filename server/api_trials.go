package server

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/figures"
	"hodos/core/trial"
	"hodos/store"
)

// Trial is a trial with its plots.
type Trial struct {
	ID       uuid.UUID   `json:"id"`
	ZoneID   uuid.UUID   `json:"zone_id"`
	Name     string      `json:"name" minLength:"1" maxLength:"120"`
	Question string      `json:"question" maxLength:"500" required:"false"`
	DoseUnit string      `json:"dose_unit" maxLength:"30" required:"false"`
	BeganOn  string      `json:"began_on" format:"date"`
	ClosedOn string      `json:"closed_on,omitempty" format:"date" readOnly:"true"`
	Version  int         `json:"version" minimum:"0" maximum:"2147483646"`
	Plots    []TrialPlot `json:"plots" minItems:"2" maxItems:"60" nullable:"false"`
}

// TrialPlot is one plot or strip, with what was read on it.
type TrialPlot struct {
	ID        uuid.UUID      `json:"id"`
	Name      string         `json:"name" minLength:"1" maxLength:"40"`
	Treatment string         `json:"treatment" maxLength:"80" required:"false" doc:"empty for untreated"`
	Dose      float64        `json:"dose" minimum:"0" maximum:"1000000" required:"false"`
	Void      string         `json:"void" maxLength:"200" required:"false" doc:"what happened to it, so that it does not count"`
	Readings  []TrialReading `json:"readings,omitempty" readOnly:"true" doc:"by day, the later of two on one day"`
}

// TrialReading is one reading of a plot.
type TrialReading struct {
	Kind  string  `json:"kind" enum:"affected,uptake"`
	On    string  `json:"on" format:"date"`
	Value float64 `json:"value" doc:"per cent affected; for uptake per cent of the leaves' dry matter"`
}

// TrialRead is a trial with what it tells.
type TrialRead struct {
	Trial    Trial        `json:"trial"`
	SiteName string       `json:"site_name"`
	ZoneName string       `json:"zone_name"`
	Groups   []TrialGroup `json:"groups" nullable:"false" doc:"untreated first"`
	Doses    *TrialLine   `json:"doses,omitempty" doc:"area under the curve on dose; left out with fewer than three doses"`
	Uptake   *TrialLine   `json:"uptake,omitempty" doc:"uptake on dose"`
	// Cautions are what the area under the curve does not show.
	Cautions []string `json:"cautions" nullable:"false" enum:"few-days,few-plots,crosses,at-the-end,gaps,voided,none-sick"`
}

// TrialGroup is all plots of one treatment.
type TrialGroup struct {
	Treatment  string         `json:"treatment"`
	Dose       float64        `json:"dose"`
	Plots      int            `json:"plots"`
	Area       FigureMean     `json:"area" doc:"under the curve, per cent days"`
	Last       FigureMean     `json:"last" doc:"per cent on the last day"`
	Suppressed *TrialInterval `json:"suppressed,omitempty" doc:"per cent of what the untreated had"`
}

// FigureMean is a mean with its 95 % interval.
type FigureMean struct {
	Mean float64 `json:"mean"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// TrialInterval is a figure with its 95 % limits.
type TrialInterval struct {
	Value float64 `json:"value"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Open  bool    `json:"open" doc:"no limits can be given"`
}

// TrialLine is a line through the plots.
type TrialLine struct {
	N     int     `json:"n"`
	At    float64 `json:"at" doc:"at dose 0"`
	Slope float64 `json:"slope" doc:"for one more of the dose"`
	Low   float64 `json:"low" doc:"95 % of the slope"`
	High  float64 `json:"high"`
	Fits  float64 `json:"fits" doc:"r², 0 to 1"`
}

func meanOf(m figures.Mean) FigureMean {
	return FigureMean{round3(m.Mean), round3(m.Low), round3(m.High)}
}

func lineOf(l *trial.Line) *TrialLine {
	if l == nil {
		return nil
	}
	return &TrialLine{l.N, round3(l.At), round3(l.Slope), round3(l.Low), round3(l.High), round3(l.Fits)}
}

// listTrials answers GET /zones/{id}/trials: the trials in a zone, the newest first, without their readings.
func (s *Server) listTrials(ctx context.Context, in *IDPath) (*body[[]Trial], error) {
	out := []Trial{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.Select("id").First(&store.Zone{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		var rows []store.Trial
		if err := tx.Where("zone_id = ?", in.ID).Order("began_on DESC, id").Limit(50).Find(&rows).Error; err != nil {
			return err
		}
		for _, r := range rows {
			out = append(out, trialOf(r, nil))
		}
		return nil
	})
	return answer(out), err
}

func trialOf(r store.Trial, plots []TrialPlot) Trial {
	t := Trial{ID: r.ID, ZoneID: r.ZoneID, Name: r.Name, Question: r.Question, DoseUnit: r.DoseUnit, BeganOn: r.BeganOn.Format(dateOnly),
		Version: r.Version, Plots: plots}
	if r.ClosedOn != nil {
		t.ClosedOn = r.ClosedOn.Format(dateOnly)
	}
	if plots == nil {
		t.Plots = []TrialPlot{}
	}
	return t
}

// checkedPlots says what is wrong with the plots of a trial.
func checkedPlots(list []TrialPlot) error {
	names := map[string]bool{}
	treated, untreated := 0, 0
	for i, p := range list {
		where := fmt.Sprintf("body.plots[%d]", i)
		switch {
		case p.ID.Version() != 7:
			return invalid(where+".id", "must be a version 7 UUID made by the client")
		case names[strings.ToLower(strings.TrimSpace(p.Name))]:
			return invalid(where+".name", "stands twice")
		case strings.TrimSpace(p.Treatment) == "" && p.Dose > 0:
			return invalid(where+".dose", "an untreated plot has no dose")
		}
		names[strings.ToLower(strings.TrimSpace(p.Name))] = true
		if strings.TrimSpace(p.Treatment) == "" {
			untreated++
		} else {
			treated++
		}
	}
	if untreated == 0 || treated == 0 {
		return invalid("body.plots", "a trial needs at least one treated and one untreated plot")
	}
	return nil
}

// makeTrial answers POST /trials: lay out a trial in a zone.
func (s *Server) makeTrial(ctx context.Context, in *body[Trial]) (*body[TrialRead], error) {
	t := in.Body
	if err := keyed(t.ID); err != nil {
		return nil, err
	}
	if err := checkedPlots(t.Plots); err != nil {
		return nil, err
	}
	began, err := dateOf("body.began_on", t.BeganOn)
	if err != nil {
		return nil, err
	}
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		row := store.Trial{ID: t.ID, FirmID: who(ctx).Firm, ZoneID: t.ZoneID, Name: strings.TrimSpace(t.Name), Question: t.Question,
			DoseUnit: t.DoseUnit, BeganOn: began, Version: 1, PersonID: who(ctx).Person}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		for i, p := range t.Plots {
			plot := store.TrialPlot{ID: p.ID, FirmID: who(ctx).Firm, TrialID: t.ID, Place: i, Name: strings.TrimSpace(p.Name),
				Treatment: strings.TrimSpace(p.Treatment), Dose: p.Dose, Void: p.Void}
			if err := store.Create(tx, &plot, plot.ID); err != nil {
				return err
			}
		}
		return nil
	}); err != nil {
		return nil, err
	}
	return s.readTrial(ctx, t.ID)
}

// getTrial answers GET /trials/{id}: a trial with what it tells.
func (s *Server) getTrial(ctx context.Context, in *IDPath) (*body[TrialRead], error) {
	return s.readTrial(ctx, in.ID)
}

func (s *Server) readTrial(ctx context.Context, id uuid.UUID) (*body[TrialRead], error) {
	var out TrialRead
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		t, err := casework.ReadTrial(tx, id)
		if err != nil {
			return err
		}
		out = trialRead(t)
		return nil
	})
	return answer(out), err
}

// trialRead is a trial as the page shows it.
func trialRead(t casework.Trial) TrialRead {
	out := TrialRead{SiteName: t.SiteName, ZoneName: t.ZoneName, Groups: []TrialGroup{}, Cautions: []string{}}
	var plots []TrialPlot
	for _, p := range t.Plots {
		x := TrialPlot{ID: p.ID, Name: p.Name, Treatment: p.Treatment, Dose: p.Dose, Void: p.Void, Readings: []TrialReading{}}
		for _, r := range t.Readings[p.ID] {
			x.Readings = append(x.Readings, TrialReading{r.Kind, r.ReadOn.Format(dateOnly), r.Value})
		}
		plots = append(plots, x)
	}
	out.Trial = trialOf(t.Trial, plots)
	o := trial.Read(t.Core())
	for _, g := range o.Groups {
		x := TrialGroup{Treatment: g.Treatment, Dose: g.Dose, Plots: g.Plots, Area: meanOf(g.Area), Last: meanOf(g.Last)}
		if i := g.Suppressed; i != nil {
			x.Suppressed = &TrialInterval{round3(i.Value), round3(i.Low), round3(i.High), i.Open}
		}
		out.Groups = append(out.Groups, x)
	}
	for _, c := range o.Cautions {
		out.Cautions = append(out.Cautions, string(c))
	}
	out.Doses, out.Uptake = lineOf(o.Doses), lineOf(o.Uptake)
	return out
}

// voidPlot answers PUT /trials/{id}/plots/{plot}/void: say what happened to a plot, so that it does not count, or take that back.
func (s *Server) voidPlot(ctx context.Context, in *struct {
	IDPath
	Plot uuid.UUID `path:"plot" format:"uuid"`
	Body struct {
		Void string `json:"void" maxLength:"200" doc:"what happened; empty takes it back"`
	}
}) (*body[TrialRead], error) {
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Model(&store.TrialPlot{}).Where("id = ? AND trial_id = ?", in.Plot, in.ID).Update("void", strings.TrimSpace(in.Body.Void))
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return r.Error
	}); err != nil {
		return nil, err
	}
	return s.readTrial(ctx, in.ID)
}

// NewReading is a reading of a plot as it is sent.
type NewReading struct {
	ID     uuid.UUID `json:"id" doc:"version 7, made by the client"`
	PlotID uuid.UUID `json:"plot_id"`
	Value  float64   `json:"value" minimum:"0" maximum:"100"`
}

// readPlots answers POST /trials/{id}/readings: what the plots show on a day. A later reading of the same day goes before an earlier one.
func (s *Server) readPlots(ctx context.Context, in *struct {
	IDPath
	Body struct {
		Kind     string       `json:"kind" enum:"affected,uptake"`
		On       string       `json:"on" format:"date"`
		Readings []NewReading `json:"readings" minItems:"1" maxItems:"60" nullable:"false"`
	}
}) (*body[TrialRead], error) {
	on, err := dateOf("body.on", in.Body.On)
	if err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		t, err := casework.ReadTrial(tx, in.ID)
		if err != nil {
			return err
		}
		switch {
		case t.Trial.ClosedOn != nil:
			return invalid("body.on", "comes too late: the trial is closed")
		case on.Before(t.Trial.BeganOn):
			return invalid("body.on", "lies before the trial began")
		case on.After(now.In(t.Timezone)):
			return invalid("body.on", "lies ahead")
		}
		for i, r := range in.Body.Readings {
			where := fmt.Sprintf("body.readings[%d]", i)
			if !slices.ContainsFunc(t.Plots, func(p store.TrialPlot) bool { return p.ID == r.PlotID }) {
				return invalid(where+".plot_id", "is no plot of this trial")
			}
			if r.ID.Version() != 7 {
				return invalid(where+".id", "must be a version 7 UUID made by the client")
			}
			row := store.TrialReading{ID: r.ID, FirmID: who(ctx).Firm, PlotID: r.PlotID, Kind: in.Body.Kind, ReadOn: on, Value: r.Value,
				PersonID: who(ctx).Person, RecordedAt: s.now().UTC()}
			if err := store.Create(tx, &row, row.ID); err != nil {
				return err
			}
		}
		return nil
	}); err != nil {
		return nil, err
	}
	return s.readTrial(ctx, in.ID)
}

// closeTrial answers POST /trials/{id}/close: nothing more is read of it.
func (s *Server) closeTrial(ctx context.Context, in *IDPath) (*body[TrialRead], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	if err := s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Model(&store.Trial{}).Where("id = ?", in.ID).Updates(map[string]any{"closed_on": gorm.Expr("coalesce(closed_on, ?::date)",
			today.Format(time.DateOnly)), "version": gorm.Expr("version + 1")})
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return r.Error
	}); err != nil {
		return nil, err
	}
	return s.readTrial(ctx, in.ID)
}
