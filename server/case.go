package server

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/sky"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/store"
)

// How much of the past goes into a case: weather for the longest look-back in use, treatments for the yearly budget,
// diagnoses for three years of history.
const (
	weatherDays   = 400
	treatmentDays = 400
	historyDays   = 3 * 366
	forecastDays  = 10
)

// scales builds the case of one zone on one visit and, with weigh, its diagnosis. A diagnosis is made from days.
func (s *Server) scales(ctx context.Context, visit, zone uuid.UUID, weigh bool) (out Scales, c evidence.Case, today time.Time, err error) {
	if out, c, _, today, err = s.caseOn(ctx, visit, zone); err != nil {
		return out, c, today, err
	}
	out.Spray = sprayAhead(c)
	daily(c.Weather)
	daily(c.Forecast)
	if weigh {
		r := diagnosis.Diagnose(c, diagnosis.Options{At: out.at})
		out.Diagnosis = casefile.Answered(r, remedy.Decide(c, r, out.say))
	}
	return out, c, today, nil
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

// caseOn builds the case of one zone on one visit, with the hours of its weather.
func (s *Server) caseOn(ctx context.Context, visit, zone uuid.UUID) (out Scales, c evidence.Case, station *store.Station,
	today time.Time, err error) {
	out = Scales{Answers: []Answered{}, Overtaken: []string{}}
	if today, err = s.clock.Today(ctx); err != nil {
		return out, c, nil, today, s.said(err)
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var v store.Visit
		var z store.Zone
		var site store.Site
		if err := tx.First(&v, "id = ?", visit).Error; err != nil {
			return err
		}
		if err := tx.First(&z, "id = ?", zone).Error; err != nil {
			return err
		}
		if z.SiteID != v.SiteID {
			return invalid("zone", "is a zone of another site")
		}
		if err := tx.First(&site, "id = ?", v.SiteID).Error; err != nil {
			return err
		}
		date := today
		if v.StartedOn != nil {
			date = *v.StartedOn
		}
		today = date
		c = zoneCase(z, site, date)
		var firm store.Firm
		if err := tx.First(&firm).Error; err != nil {
			return err
		}
		c.Context.Country = firm.Country
		out.say = units.In(firm.UnitSystem)
		if err := readAnswers(tx, visit, zone, &out, &c); err != nil {
			return err
		}
		if err := readHistory(tx, visit, zone, date, &c); err != nil {
			return err
		}
		if err := readResults(tx, visit, zone, date, &c); err != nil {
			return err
		}
		if err := readReadings(tx, zone, date, &c); err != nil {
			return err
		}
		firmPrices, err := prices(tx)
		if err != nil {
			return err
		}
		if firmPrices.Version > 0 {
			c.Context.Utilities = firmPrices.Prices.core().Utilities()
		}
		if site.StationID != nil {
			station = &store.Station{}
			if err := tx.First(station, "id = ?", *site.StationID).Error; err != nil {
				return err
			}
		}
		if c.Weather, err = weatherAt(tx, site, date.AddDate(0, 0, -weatherDays), date); err != nil {
			return err
		}
		return watered(tx, zone, c.Weather)
	})
	if err == nil && station != nil {
		c.Forecast = s.forecast(ctx, *station, today, forecastDays)
		c.Lawn.Normals = s.normals(ctx, *station)
	}
	return out, c, station, today, err
}

func zoneCase(z store.Zone, site store.Site, date time.Time) evidence.Case {
	zone := zoneOf(z)
	c := evidence.Case{
		Title: site.Name + ", " + z.Name,
		Lawn: knowledge.Lawn{Date: date.UTC(), Latitude: site.Latitude, Longitude: site.Longitude, Species: zone.Species, AreaM2: &z.AreaM2,
			Texture: z.Texture, Irrigated: z.Irrigated},
		Policy: evidence.Policy{SummerWater: zone.Policy.SummerWater, Pests: zone.Policy.Pests, SummerFeeding: zone.Policy.SummerFeeding,
			Blemishes: zone.Policy.Blemishes},
		Findings: map[string]knowledge.Value{},
	}
	located := site.LinesLocatedOn != nil && !site.LinesLocatedOn.Before(date.AddDate(0, 0, -30)) && !site.LinesLocatedOn.After(date)
	c.Context.LinesLocated = &located
	return c
}

// readAnswers reduces the log: the last answer to a check stands, a null takes it back.
func readAnswers(tx *gorm.DB, visit, zone uuid.UUID, out *Scales, c *evidence.Case) error {
	var log []struct {
		store.Answer
		Name string
	}
	if err := tx.Raw(
		"SELECT a.*, p.name FROM answers a JOIN people p ON p.id = a.person_id WHERE a.visit_id = ? AND a.zone_id = ? ORDER BY a.seq",
		visit,
		zone,
	).Scan(
		&log,
	).Error; err != nil {
		return err
	}
	type key struct{ finding, spot string }
	last := map[key]int{}
	for i, a := range log {
		last[key{a.Finding, a.Spot}] = i
		out.Seq = a.Seq
		if f, ok := knowledge.FindingByID(a.Finding); ok {
			out.at = f.Station // who has just answered there stands there
		}
	}
	for i, a := range log {
		if last[key{a.Finding, a.Spot}] != i || a.Value == nil {
			continue
		}
		var plain any
		if err := json.Unmarshal(a.Value, &plain); err != nil {
			return err
		}
		out.Answers = append(out.Answers, Answered{a.Finding, a.Spot, plain, a.Seq, a.Name})
		switch a.Finding {
		case onsetAnswer:
			if d, err := time.Parse(dateOnly, plain.(string)); err == nil && !d.After(c.Lawn.Date) {
				c.Onset = &d
			}
			continue
		case marksAnswer:
			continue
		}
		f, ok := knowledge.FindingByID(a.Finding)
		if !ok {
			continue
		}
		v, err := knowledge.ValueOf(f, plain)
		if err != nil {
			continue // an id that the vocabulary has given up: kept in the log, not weighed
		}
		if a.Spot == "healthy" {
			if c.Reference == nil {
				c.Reference = map[string]knowledge.Value{}
			}
			c.Reference[a.Finding] = v
		} else {
			c.Findings[a.Finding] = v
		}
	}
	return nil
}

// readHistory adds what was done to the zone and what former visits found.
func readHistory(tx *gorm.DB, visit, zone uuid.UUID, date time.Time, c *evidence.Case) error {
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id = ? AND applied_on > ? AND applied_on <= ?", zone, date.AddDate(0, 0, -treatmentDays),
		date).Order("applied_on, seq").Find(&records).Error; err != nil {
		return err
	}
	for _, r := range store.Standing(records) {
		t := evidence.Treatment{Date: r.AppliedOn.UTC(), Action: r.Action, NGM2: r.NGM2, PGM2: r.PGM2, KGM2: r.KGM2, FeGM2: r.FeGM2,
			WMM: r.WaterMM, Source: r.Source, Note: r.Note}
		if r.VisitID == visit {
			c.Done = append(c.Done, t)
		} else {
			c.Treatments = append(c.Treatments, t)
		}
	}
	var former []store.Diagnosis
	if err := tx.Where("zone_id = ? AND visit_id <> ? AND given_on < ? AND given_on > ?", zone, visit, date,
		date.AddDate(0, 0, -historyDays)).Order("given_on").Find(&former).Error; err != nil {
		return err
	}
	for _, d := range former {
		e := evidence.Earlier{Date: d.GivenOn.UTC(), Answer: d.Leading}
		if then, err := casefile.Parse(d.CaseFile); err == nil { // a file of a former version is kept, its answers are not compared
			e.Findings = then.Findings
		}
		c.Earlier = append(c.Earlier, e)
	}
	return nil
}
