package server

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/core/sky"
	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/store"
)

// Watering is what a zone's water takes.
type Watering struct {
	RateMMH    float64          `json:"rate_mm_h" doc:"0 when it was never measured"`
	Uniformity float64          `json:"uniformity"`
	AuditedOn  *string          `json:"audited_on,omitempty" format:"date"`
	IntakeMMH  float64          `json:"intake_mm_h" doc:"what the ground takes in"`
	Known      bool             `json:"known" doc:"false where the lawn is watered and nobody said how much: nothing below is worked out then"`
	LackMM     float64          `json:"lack_mm" doc:"missing in the root zone today"`
	TotalMM    float64          `json:"total_mm"`
	Turn       *WateringTurn    `json:"turn,omitempty" doc:"a refill of what lacks today"`
	Syringe    float64          `json:"syringe_minutes" doc:"to cool the leaves with 1.5 mm; 0 without a rate"`
	Policies   []WateringPolicy `json:"policies" nullable:"false"`
	Half       *string          `json:"half_on,omitempty" format:"date" doc:"when half will be gone by the forecast"`
	Ramp       []RampStep       `json:"ramp" nullable:"false" doc:"for new seed, sod or plugs"`
	NewGrass   *NewGrass        `json:"new_grass,omitempty" doc:"what was sown or laid here in the last four weeks, by the records"`
	Audit      *AuditOnPlan     `json:"audit,omitempty" doc:"the last audit, to be drawn over the zone"`
	Ahead      []DayAhead       `json:"ahead" nullable:"false" doc:"the days of the calendar"`
	Permitted  []string         `json:"permitted" nullable:"false" doc:"weekdays on which this site may be watered; empty for all"`
}

// NewGrass is grass that is being watered in.
type NewGrass struct {
	Kind string `json:"kind" enum:"seed,sod,plugs"`
	On   string `json:"on" format:"date"`
	Day  int    `json:"day" doc:"1 on the day it was sown or laid"`
}

// AuditOnPlan is an audit with the damage beside it.
type AuditOnPlan struct {
	Minutes float64  `json:"minutes"`
	Cans    []CanRow `json:"cans" nullable:"false"`
	Low     []int    `json:"low" nullable:"false" doc:"the lowest quarter, by place in the list"`
	Damaged []int    `json:"damaged" nullable:"false" doc:"cells of the plan that carry damage on this visit, y·12 + x"`
}

// DayAhead is one day of the watering calendar.
type DayAhead struct {
	Date      string   `json:"date" format:"date"`
	Rain      *float64 `json:"rain_mm" nullable:"true" required:"true"`
	Left      *float64 `json:"left_mm" nullable:"true" required:"true" doc:"in the root zone in the evening, if nothing is given"`
	Permitted bool     `json:"permitted"`
}

// WateringTurn is one watering.
type WateringTurn struct {
	GrossMM float64 `json:"gross_mm"`
	Minutes float64 `json:"minutes"`
	Cycles  int     `json:"cycles" doc:"of all nights"`
	Nights  int     `json:"nights"`
	Cycle   float64 `json:"cycle_minutes"`
	Soak    float64 `json:"soak_minutes"`
	Start   string  `json:"start" doc:"clock time"`
	End     string  `json:"end"`
	Litres  float64 `json:"litres"`
	Cost    float64 `json:"cost"`
}

// WateringPolicy is one way through the days ahead.
type WateringPolicy struct {
	Name    string        `json:"name" enum:"keep-green,let-rest"`
	Due     []WateringDue `json:"due" nullable:"false"`
	Litres  float64       `json:"litres"`
	Cost    float64       `json:"cost"`
	Outlook string        `json:"outlook"`
}

// WateringDue is one day of it.
type WateringDue struct {
	Date string  `json:"date" format:"date"`
	MM   float64 `json:"mm"`
	Why  string  `json:"why"`
}

// RampStep is one stretch of watering in.
type RampStep struct {
	From  int     `json:"from_day"`
	To    int     `json:"to_day"`
	Times float64 `json:"times_a_day"`
	MM    float64 `json:"mm"`
	Why   string  `json:"why"`
}

// NewAudit is a catch-can audit.
type NewAudit struct {
	ID      uuid.UUID `json:"id" doc:"version 7, made by the client"`
	ZoneID  uuid.UUID `json:"zone_id"`
	Minutes float64   `json:"minutes" minimum:"1" maximum:"240"`
	Cans    []CanRow  `json:"cans" minItems:"4" maxItems:"96" nullable:"false"`
}

// CanRow is one can on the plan of twelve by eight.
type CanRow struct {
	X  int     `json:"x" minimum:"0" maximum:"11"`
	Y  int     `json:"y" minimum:"0" maximum:"7"`
	MM float64 `json:"mm" minimum:"0" maximum:"300"`
}

// AuditResult is what it came to.
type AuditResult struct {
	RateMMH    float64 `json:"rate_mm_h"`
	Uniformity float64 `json:"uniformity"`
	From       float64 `json:"from" doc:"95 % interval"`
	To         float64 `json:"to"`
	Low        []int   `json:"low" nullable:"false" doc:"the lowest quarter, by place in the list"`
	LowOn      int     `json:"low_on_damage"`
	Fault      bool    `json:"fault"`
	Verdict    string  `json:"verdict"`
}

// WateringQuery is what the watering is worked out for.
type WateringQuery struct {
	Days    string  `query:"days" maxLength:"40" doc:"permitted weekdays as three letters with commas; those of the site when left out"`
	Sunrise float64 `query:"sunrise" minimum:"0" maximum:"12" default:"6"`
	Ramp    string  `query:"ramp" enum:",seed,sod,plugs" doc:"left out: by the records, else seed"`
}

// newGrassBy is what each action puts on the ground.
var newGrassBy = map[string]string{"overseed": "seed", "slit-seed": "seed", "renovate": "seed", "resod": "sod", "plug-or-sprig": "plugs"}

// newGrassDays is how long new grass is watered in.
const newGrassDays = 28

// wateringOf works out the watering of a zone from its sky, the firm's prices, the last audit and the records.
func (s *Server) wateringOf(ctx context.Context, zone uuid.UUID, from seen, q WateringQuery) (Watering, error) {
	look, c := from.sky, from.of
	out := Watering{Policies: []WateringPolicy{}, Ramp: []RampStep{}, Ahead: []DayAhead{}, Permitted: []string{}}
	allowed, err := weekdays("query.days", q.Days)
	if err != nil {
		return out, err
	}
	sp := soil.Sprinkler{AreaM2: 100}
	if c.Lawn.AreaM2 != nil {
		sp.AreaM2 = *c.Lawn.AreaM2
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		money, err := prices(tx)
		if err != nil {
			return err
		}
		sp.PriceM3 = money.Prices.WaterM3
		var of struct{ WateringDays string }
		if err := tx.Raw("SELECT s.watering_days FROM sites s JOIN zones z ON z.site_id = s.id WHERE z.id = ?",
			zone).Scan(&of).Error; err != nil {
			return err
		}
		if of.WateringDays != "" {
			out.Permitted = strings.Split(of.WateringDays, ",")
		}
		if q.Days == "" {
			if allowed, err = weekdays("watering_days", of.WateringDays); err != nil {
				return err
			}
		}
		if out.NewGrass, err = newGrass(tx, zone, c.Lawn.Date); err != nil {
			return err
		}
		var a store.Audit
		err = tx.Where("zone_id = ? AND audited_on <= ?", zone, c.Lawn.Date).Order("audited_on DESC, recorded_at DESC").First(&a).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
		sp.RateMMH, sp.Uniformity, out.AuditedOn = a.RateMMH, a.Uniformity, dateText(&a.AuditedOn)
		out.Audit = &AuditOnPlan{Minutes: a.Minutes, Low: []int{}, Damaged: []int{}}
		if err := json.Unmarshal(a.Cans, &out.Audit.Cans); err != nil {
			return err
		}
		r, err := soil.Audit(cansOf(out.Audit.Cans, nil), a.Minutes)
		out.Audit.Low = r.Low
		return err
	})
	if err != nil {
		return out, err
	}
	if v, ok := c.Findings["catch-can-mm-h"]; ok && sp.RateMMH == 0 {
		sp.RateMMH = *v.Number
	}
	if v, ok := c.Findings["catch-can-du"]; ok && sp.Uniformity == 0 {
		sp.Uniformity = *v.Number
	}
	ramp := q.Ramp
	if ramp == "" && out.NewGrass != nil {
		ramp = out.NewGrass.Kind
	}
	if ramp == "" {
		ramp = "seed"
	}
	return watering(look, sp, allowed, q.Sunrise, ramp, emergence(c.Lawn.Species), out), nil
}

// newGrass finds what was last sown or laid on a zone in the weeks in which it is watered in.
func newGrass(tx *gorm.DB, zone uuid.UUID, day time.Time) (*NewGrass, error) {
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id = ? AND applied_on > ? AND applied_on <= ?", zone, day.AddDate(0, 0, -newGrassDays),
		day).Order("applied_on, seq").Find(&records).Error; err != nil {
		return nil, err
	}
	var out *NewGrass
	for _, r := range store.Standing(records) {
		if kind, ok := newGrassBy[r.Action]; ok {
			out = &NewGrass{Kind: kind, On: r.AppliedOn.Format(dateOnly), Day: int(day.Sub(r.AppliedOn.UTC()).Hours()/24) + 1}
		}
	}
	return out, nil
}

// AuditOf is the rate (mm/h) and the uniformity (0 to 1) that some cans come to.
func AuditOf(cans []CanRow, minutes float64) (rate, uniformity float64, err error) {
	r, err := soil.Audit(cansOf(cans, nil), minutes)
	return r.RateMMH, r.Uniformity, err
}

func cansOf(rows []CanRow, on map[int]bool) []soil.Can {
	cans := make([]soil.Can, len(rows))
	for i, x := range rows {
		cans[i] = soil.Can{X: x.X, Y: x.Y, MM: x.MM, On: on[x.Y*12+x.X]}
	}
	return cans
}

type wateringInput struct {
	ZonePath
	WateringQuery
}

// getWatering answers GET /visits/{id}/zones/{zone}/watering: minutes, cycles, litres and cost, both policies side by side.
func (s *Server) getWatering(ctx context.Context, in *wateringInput) (*body[Watering], error) {
	seen, v, err := s.skyOf(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	out, err := s.wateringOf(ctx, in.Zone, seen, in.WateringQuery)
	if err != nil || out.Audit == nil {
		return answer(out), err
	}
	for cell := range marked(v.Answers) {
		out.Audit.Damaged = append(out.Audit.Damaged, cell)
	}
	slices.Sort(out.Audit.Damaged)
	return answer(out), err
}

type zoneWateringInput struct {
	IDPath
	WateringQuery
}

// getZoneWatering answers GET /zones/{id}/watering: the same for a zone today, without a visit.
func (s *Server) getZoneWatering(ctx context.Context, in *zoneWateringInput) (*body[Watering], error) {
	seen, err := s.skyOfZone(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	out, err := s.wateringOf(ctx, in.ID, seen, in.WateringQuery)
	return answer(out), err
}

type auditInput struct {
	IDPath
	Body NewAudit
}

// recordAudit answers POST /visits/{id}/audits: record a catch-can audit; rate and uniformity go onto the scales.
func (s *Server) recordAudit(ctx context.Context, in *auditInput) (*body[AuditResult], error) {
	b := in.Body
	if err := keyed(b.ID); err != nil {
		return nil, err
	}
	v, err := s.caseOn(ctx, in.ID, b.ZoneID)
	if err != nil {
		return nil, err
	}
	cans := cansOf(b.Cans, marked(v.Answers))
	r, err := soil.Audit(cans, b.Minutes)
	if err != nil {
		return nil, invalid("body", err.Error())
	}
	stored, err := json.Marshal(b.Cans)
	if err != nil {
		return nil, s.said(err)
	}
	id := who(ctx)
	now := s.now().UTC()
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		row := store.Audit{ID: b.ID, FirmID: id.Firm, VisitID: in.ID, ZoneID: b.ZoneID, AuditedOn: v.Date, Minutes: b.Minutes, Cans: stored,
			RateMMH: r.RateMMH, Uniformity: r.Uniformity, PersonID: id.Person, RecordedAt: now}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		for finding, x := range map[string]float64{"catch-can-du": math.Round(r.Uniformity*100) / 100, "catch-can-mm-h": round1(r.RateMMH)} {
			value, _ := json.Marshal(x)
			a := store.Answer{ID: uuid.NewSHA1(b.ID, []byte(finding)), FirmID: id.Firm, VisitID: in.ID, ZoneID: b.ZoneID, Spot: "worst",
				Finding: finding, Value: value, PersonID: id.Person, RecordedAt: now}
			if err := store.Create(tx, &a, a.ID); err != nil {
				return err
			}
		}
		return nil
	})
	return answer(AuditResult{round1(r.RateMMH), math.Round(r.Uniformity*100) / 100, math.Round(r.From*100) / 100,
		math.Round(r.To*100) / 100, r.Low, r.LowOn, r.Fault, r.Verdict}), err
}

type daysInput struct {
	IDPath
	Body struct {
		Days []string `json:"days" maxItems:"7" nullable:"false" enum:"sun,mon,tue,wed,thu,fri,sat" doc:"empty for all"`
	}
}

// setWateringDays answers PUT /sites/{id}/watering-days: set the weekdays on which a site may be watered.
func (s *Server) setWateringDays(ctx context.Context, in *daysInput) (*struct{}, error) {
	for i, d := range in.Body.Days {
		if slices.Contains(in.Body.Days[:i], d) {
			return nil, invalid("body.days", d+" stands twice")
		}
	}
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Model(&store.Site{}).Where("id = ?", in.ID).Update("watering_days", strings.Join(in.Body.Days, ","))
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return r.Error
	})
}

type givenInput struct {
	IDPath
	Body struct {
		Day string  `json:"day" format:"date"`
		MM  float64 `json:"mm" minimum:"0" maximum:"300"`
	}
}

// logWatering answers PUT /zones/{id}/waterings: note the water that a zone was given on a day.
func (s *Server) logWatering(ctx context.Context, in *givenInput) (*struct{}, error) {
	day, err := dateOf("body.day", in.Body.Day)
	if err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		p, err := casework.ReadPlace(tx, in.ID)
		if err != nil {
			return err
		}
		if day.After(now.In(p.Site.Timezone)) {
			return invalid("body.day", "is in the future")
		}
		z := p.Zone
		row := store.ZoneWatering{FirmID: z.FirmID, ZoneID: z.ID, Day: day, MM: in.Body.MM}
		return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "zone_id"}, {Name: "day"}}, UpdateAll: true}).Create(&row).Error
	})
}

func weekdays(where, text string) (map[time.Weekday]bool, error) {
	if text == "" {
		return nil, nil
	}
	out := map[time.Weekday]bool{}
	for _, part := range strings.Split(text, ",") {
		found := false
		for d := time.Sunday; d <= time.Saturday; d++ {
			if strings.EqualFold(strings.TrimSpace(part), d.String()[:3]) {
				out[d], found = true, true
			}
		}
		if !found {
			return nil, invalid(where, part+" is no weekday (sun, mon, tue, wed, thu, fri, sat)")
		}
	}
	return out, nil
}

func clockTime(hours float64) string {
	return time.Date(2000, 1, 1, 0, int(math.Round(hours*60)), 0, 0, time.UTC).Format("15:04")
}

func watering(look sky.Sky, sp soil.Sprinkler, allowed map[time.Weekday]bool, sunrise float64, ramp string, emergence float64,
	out Watering) Watering {
	z := look.Ground.Zone
	out.RateMMH, out.Uniformity, out.IntakeMMH, out.TotalMM, out.Syringe = round1(sp.RateMMH), sp.Uniformity, round1(z.Intake()),
		round1(look.Total), math.Round(soil.Syringe(sp.RateMMH))
	for _, st := range soil.Ramp(ramp, emergence) {
		out.Ramp = append(out.Ramp, stepOf(st))
	}
	if look.Today < 0 {
		return out
	}
	if look.Unsaid {
		return out
	}
	for i := look.Today + 1; i < len(look.Points); i++ {
		p := &look.Points[i]
		out.Ahead = append(out.Ahead, DayAhead{p.Date.Format(dateOnly), p.Rain, known(look.Total - p.Depletion), len(allowed) == 0 ||
			allowed[p.Date.Weekday()]})
	}
	lack := look.Points[look.Today].Depletion
	out.LackMM, out.Known = round1(lack), true
	if i := look.Balance.When(look.Today, .5); i >= 0 {
		out.Half = dateText(&look.Points[i].Date)
	}
	if t, err := soil.Watering(z, sp, math.Max(1, lack), sunrise); err == nil {
		out.Turn = &WateringTurn{round1(t.GrossMM), math.Round(t.Minutes), t.Cycles, t.Nights, math.Round(t.CycleMinutes), t.SoakMinutes,
			clockTime(t.Start), clockTime(t.End), math.Round(t.Litres), math.Round(t.Cost*100) / 100}
	}
	for _, p := range soil.Ahead(z, sp, look.Balance, look.Today, look.Endurance.Weeks, allowed) {
		row := WateringPolicy{Name: p.Name, Due: []WateringDue{}, Litres: math.Round(p.Litres), Cost: math.Round(p.Cost*100) / 100,
			Outlook: p.Outlook}
		for _, d := range p.Due {
			row.Due = append(row.Due, WateringDue{d.Date.Format(dateOnly), round1(d.NetMM), d.Why})
		}
		out.Policies = append(out.Policies, row)
	}
	return out
}

// emergence is how many days it takes until the slow seed of a lawn is up.
func emergence(species []string) (days float64) {
	for _, id := range species {
		if g, ok := turf.ByID(id); ok {
			days = math.Max(days, g.Emergence.High)
		}
	}
	return days
}

func stepOf(s soil.Step) RampStep { return RampStep{s.FromDay, s.ToDay, s.TimesADay, s.MM, s.Why} }
