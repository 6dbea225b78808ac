package server

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/remedy"
	"hodos/core/sky"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/store"
)

// caseOn reads the case of one zone on one visit, with the hours of its weather, forecast and normals.
func (s *Server) caseOn(ctx context.Context, visit, zone uuid.UUID) (v casework.Visit, err error) {
	now, err := s.moment(ctx)
	if err != nil {
		return v, err
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		v, err = readVisit(tx, s.known, visit, zone, now)
		return err
	})
	if err == nil {
		s.ahead(ctx, &v)
	}
	return v, err
}

func readVisit(tx *gorm.DB, known *casework.Known, visit, zone uuid.UUID, now casework.Moment) (casework.Visit, error) {
	v, err := casework.ReadVisit(tx, known, visit, zone, now)
	return v, within(err)
}

// within names the field when a zone is not one of the visit's site.
func within(err error) error {
	if errors.Is(err, casework.ErrElsewhere) {
		return invalid("zone_id", err.Error())
	}
	return err
}

// moment is now by the work clock; each site has its own day of it.
func (s *Server) moment(ctx context.Context) (casework.Moment, error) {
	now, err := s.clock.Now(ctx)
	return now, s.said(err)
}

// today is the day at the firm's office.
func (s *Server) today(ctx context.Context) (time.Time, error) {
	now, err := s.moment(ctx)
	return now.In(who(ctx).Timezone), err
}

// ahead puts what the weather service says of the days to come onto the case; no transaction is open meanwhile.
func (s *Server) ahead(ctx context.Context, v *casework.Visit) {
	if v.Station == nil {
		return
	}
	v.Case.Forecast = s.forecast(ctx, *v.Station, v.Date, casework.ForecastDays)
	v.Case.Lawn.Normals = s.normals(ctx, *v.Station)
}

// scales weighs the case of a zone on a visit.
func (s *Server) scales(ctx context.Context, visit, zone uuid.UUID) (Scales, casework.Visit, error) {
	v, err := s.caseOn(ctx, visit, zone)
	if err != nil {
		return Scales{}, v, err
	}
	out := weighed(&v, saying(ctx))
	return out, v, nil
}

// weighed makes the diagnosis of a case and the verdicts on it. A diagnosis is made from days: the hours are taken off.
func weighed(v *casework.Visit, say units.Saying) Scales {
	out := Scales{Seq: v.Seq, Answers: answered(v.Answers), Spray: sprayAhead(v.Case)}
	byDays(v)
	r := diagnosis.Diagnose(v.Case, diagnosis.Options{At: v.At, Say: say})
	out.Diagnosis = casefile.ResultOf(r, remedy.Decide(v.Case, r, say))
	return out
}

// byDays takes the hours off a case: a diagnosis is made from what its case file carries, so that the file gives the same answer.
func byDays(v *casework.Visit) {
	casework.Daily(v.Case.Weather)
	casework.Daily(v.Case.Forecast)
}

func answered(list []casework.Answered) []Answered {
	out := make([]Answered, len(list))
	for i, a := range list {
		out[i] = Answered{Finding: a.Finding, Spot: a.Spot, Value: a.Value, Seq: a.Seq, By: a.By, Tally: tallyOf(a.Tally)}
		if a.Other != nil {
			out[i].Other = &Other{a.Other.Value, a.Other.By}
		}
	}
	return out
}

// sprayDays is how many days of hours a plan names the fit ones of.
const sprayDays = 3

// SprayAhead are the hours fit to spray up to a day, by the same rule as on the Day page and in the sky.
type SprayAhead struct {
	Hours []SpraySpell `json:"hours" nullable:"false"`
	To    string       `json:"to" format:"date"`
}

// sprayAhead reads them off the forecast; nil where it has no hours.
func sprayAhead(c evidence.Case) *SprayAhead {
	days := c.Forecast[:min(sprayDays, len(c.Forecast))]
	if len(days) == 0 || days[0].Hours == nil {
		return nil
	}
	out := &SprayAhead{Hours: []SpraySpell{}, To: days[len(days)-1].Date.Format(dateOnly)}
	for _, x := range sky.SprayHours(days, c.Lawn.Latitude) {
		out.Hours = append(out.Hours, SpraySpell{x.Date.Format(dateOnly), x.From, x.To})
	}
	return out
}

// normals of a station, asked once while the server runs; nil without a service or where it has none.
func (s *Server) normals(ctx context.Context, station store.Station) []float64 {
	if s.weather == nil {
		return nil
	}
	if known, ok := s.normalYears.Load(station.ID); ok {
		return known.([]float64)
	}
	year, err := casework.NormalYear(ctx, s.weather, station)
	if err != nil {
		s.log.Warn("no normals", "station", station.Name, "error", err)
		return nil
	}
	s.normalYears.Store(station.ID, year)
	return year
}
