package server

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/account"
	"hodos/casework"
	"hodos/core/remedy"
	"hodos/core/turf"
	"hodos/core/units"
	"hodos/store"
)

// Record is one application record. It is never changed: a correction is a new record that names the old one.
type Record struct {
	ID            uuid.UUID  `json:"id"`
	VisitID       uuid.UUID  `json:"visit_id"`
	ZoneID        uuid.UUID  `json:"zone_id"`
	CorrectsID    *uuid.UUID `json:"corrects_id,omitempty"`
	Voided        bool       `json:"voided" doc:"the corrected record is void and nothing stands in its place"`
	Action        string     `json:"action" maxLength:"60"`
	AppliedOn     string     `json:"applied_on,omitempty" format:"date" doc:"the work clock's today when left out"`
	AreaM2        float64    `json:"area_m2" minimum:"0.01" maximum:"10000000" doc:"the area treated, not the area of the zone"`
	Product       string     `json:"product" maxLength:"200"`
	Amount        *float64   `json:"amount,omitempty" minimum:"0" maximum:"1000000000"`
	AmountUnit    string     `json:"amount_unit" maxLength:"20" doc:"as entered: g, kg, oz, lb, mL, L, floz, gal"`
	NGM2          *float64   `json:"n_g_m2,omitempty" minimum:"0" maximum:"100"`
	PGM2          *float64   `json:"p_g_m2,omitempty" minimum:"0" maximum:"100"`
	KGM2          *float64   `json:"k_g_m2,omitempty" minimum:"0" maximum:"100"`
	FeGM2         *float64   `json:"fe_g_m2,omitempty" minimum:"0" maximum:"50"`
	WaterMM       *float64   `json:"water_mm,omitempty" minimum:"0" maximum:"500"`
	Source        string     `json:"source" enum:",quick,slow,organic"`
	WindMS        *float64   `json:"wind_ms,omitempty" minimum:"0" maximum:"60"`
	AirC          *float64   `json:"air_c,omitempty" minimum:"-40" maximum:"60"`
	Reentry       string     `json:"reentry" maxLength:"300"`
	Note          string     `json:"note" maxLength:"2000"`
	Outside       []string   `json:"outside,omitempty" readOnly:"true" doc:"usual limits that it lay outside of: nitrogen, wind, heat"`
	OutsideReason string     `json:"outside_reason" required:"false" maxLength:"500" doc:"why; asked for where it lay outside a limit"`
	SignedName    string     `json:"signed_name" minLength:"1" maxLength:"120"`
	LicenceNumber string     `json:"licence_number,omitempty" readOnly:"true"`
	ProductID     *uuid.UUID `json:"product_id,omitempty" doc:"on the shelf: analysis, actives and waiting times follow from its label"`
	LotID         *uuid.UUID `json:"lot_id,omitempty"`
	MachineID     *uuid.UUID `json:"machine_id,omitempty"`
	SupervisorID  *uuid.UUID `json:"supervisor_id,omitempty"`
	JobID         *uuid.UUID `json:"job_id,omitempty"`
	Target        string     `json:"target,omitempty" maxLength:"60"`
	Rate          *float64   `json:"rate,omitempty" minimum:"0" maximum:"5000" doc:"product, g/m² or mL/m²; from the amount when left out"`
	Carrier       *float64   `json:"carrier,omitempty" minimum:"0" maximum:"200" doc:"L/100 m²"`
	Started       string     `json:"started,omitempty" maxLength:"5" doc:"HH:MM by the clock of the lawn"`
	Ended         string     `json:"ended,omitempty" maxLength:"5"`
	WateredIn     string     `json:"watered_in,omitempty" maxLength:"5" doc:"HH:MM"`
	Details       *Details   `json:"details,omitempty"`
	Flags         []Stop     `json:"flags,omitempty" readOnly:"true" doc:"what stood against it; it is recorded all the same"`
	Given         *given     `json:"given,omitempty" readOnly:"true"`
	ClosedUntil   *time.Time `json:"closed_until,omitempty" readOnly:"true" doc:"people and pets; by the clock of the lawn"`
	MustWaterIn   bool       `json:"must_water_in,omitempty" readOnly:"true" doc:"closed until it is watered in and dry"`
	FollowUpOn    string     `json:"follow_up_on,omitempty" format:"date" doc:"when to look again; worked out from the action when left out"`
	FollowUpID    *uuid.UUID `json:"follow_up_id,omitempty" doc:"key of the follow-up visit, made by the client; without it none is booked"`
}

// Details are what a record says beside its figures.
type Details struct {
	Method      string   `json:"method,omitempty" enum:",spray,spread,drench,spot,hose-end,by-hand,machine"`
	WindDir     string   `json:"wind_dir,omitempty" enum:",N,NE,E,SE,S,SW,W,NW"`
	RH          *float64 `json:"rh,omitempty" minimum:"0" maximum:"100"`
	SoilC       *float64 `json:"soil_c,omitempty" minimum:"-30" maximum:"60"`
	Sky         string   `json:"sky,omitempty" enum:",clear,cloudy,overcast,fog"`
	WeatherFrom string   `json:"weather_from,omitempty" enum:",station,measured" doc:"confirmed from the station, or measured on the lawn"`
	Part        string   `json:"part,omitempty" maxLength:"200" doc:"which part of the zone"`
	Posted      bool     `json:"posted,omitempty"`
	Swept       bool     `json:"swept,omitempty" doc:"paving swept"`
	Notified    string   `json:"notified,omitempty" maxLength:"25" doc:"when neighbours were told, YYYY-MM-DDTHH:MM"`
	Mowings     *int     `json:"mowings,omitempty" minimum:"0" maximum:"400" doc:"of new grass"`
	InFlower    bool     `json:"in_flower,omitempty"`
	Licence     string   `json:"licence,omitempty" maxLength:"60" readOnly:"true" doc:"of the supervisor"`
	Tank        []string `json:"tank,omitempty" maxItems:"20" doc:"lines of the tank as mixed"`
	Planned     *float64 `json:"planned,omitempty" minimum:"0" maximum:"1000000000" doc:"product as planned, g or mL"`
}

// given is what a record put down, as the core adds it up.
type given = casework.PutDown

// Recorded is a record with the follow-up that was booked for it.
type Recorded struct {
	Record   Record `json:"record"`
	FollowUp *Visit `json:"follow_up,omitempty"`
	// Later are the looks that come after it.
	Later []Visit `json:"later,omitempty"`
}

func recordOf(r store.TreatmentRecord) Record {
	out := Record{ID: r.ID, VisitID: r.VisitID, ZoneID: r.ZoneID, CorrectsID: r.CorrectsID, Voided: r.Voided, Action: r.Action,
		AppliedOn: r.AppliedOn.Format(dateOnly), AreaM2: r.AreaM2, Product: r.Product, Amount: r.Amount, AmountUnit: r.AmountUnit, NGM2: r.NGM2,
		PGM2: r.PGM2, KGM2: r.KGM2, FeGM2: r.FeGM2, WaterMM: r.WaterMM, Source: r.Source, WindMS: r.WindMS, AirC: r.AirC, Reentry: r.Reentry,
		Note: r.Note, SignedName: r.SignedName, LicenceNumber: r.LicenceNumber, Outside: strings.Fields(r.Outside),
		OutsideReason: r.OutsideReason, ProductID: r.ProductID, LotID: r.LotID, MachineID: r.MachineID, SupervisorID: r.SupervisorID,
		JobID: r.JobID, Target: r.Target, Rate: r.Rate, Carrier: r.Carrier, MustWaterIn: r.MustWaterIn && r.WateredInAt == nil}
	_ = json.Unmarshal(r.Flags, &out.Flags) // written by the server alone
	if r.Given != nil {
		out.Given = &given{}
		_ = json.Unmarshal(r.Given, out.Given)
	}
	if r.Details != nil {
		out.Details = &Details{}
		_ = json.Unmarshal(r.Details, out.Details)
	}
	return out
}

// clocks writes the times of a record by the clock of its lawn.
func (r *Record) clocks(row store.TreatmentRecord, in *time.Location) {
	for _, x := range []struct {
		from *time.Time
		into *string
	}{{row.StartedAt, &r.Started}, {row.EndedAt, &r.Ended}, {row.WateredInAt, &r.WateredIn}} {
		if x.from != nil {
			*x.into = x.from.In(in).Format("15:04")
		}
	}
	if row.ClosedUntil != nil {
		t := row.ClosedUntil.In(in)
		t = time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), 0, 0, time.UTC)
		r.ClosedUntil = &t
	}
}

// outside flags a record that lies outside the usual limits, and asks why: what has happened is recorded all the same.
func outside(row *store.TreatmentRecord, z store.Zone) error {
	if row.Voided {
		return nil
	}
	d := remedy.Done{Action: row.Action, NGM2: row.NGM2, WindMS: row.WindMS, AirC: row.AirC, Quick: row.Source == "quick"}
	if species := zoneOf(z).Species; len(species) > 0 {
		d.Grass, _ = turf.ByID(species[0])
	}
	flags := remedy.Outside(d)
	row.Outside = strings.Join(flags, " ")
	if (len(flags) > 0 || row.Flags != nil) && strings.TrimSpace(row.OutsideReason) == "" {
		said := flags
		var stops []Stop
		_ = json.Unmarshal(row.Flags, &stops)
		for _, x := range stops {
			said = append(said, x.Text)
		}
		return invalid("body.outside_reason", "is required: this lay outside the limits ("+strings.Join(said, "; ")+"); say why")
	}
	return nil
}

// sign puts the person's own name and, where a pesticide is recorded, corrected or voided, their licence under a record. What somebody
// licensed has signed is undone by nobody else: the right is asked by what the record says and by what the old one said.
func (s *Server) sign(ctx context.Context, tx *gorm.DB, row *store.TreatmentRecord, today time.Time) error {
	var p store.Person
	if err := tx.First(&p, "id = ?", who(ctx).Person).Error; err != nil {
		return err
	}
	pesticide, on := remedy.Pesticide(row.Action) && !row.Voided, row.AppliedOn
	if row.CorrectsID != nil {
		var old store.TreatmentRecord
		if err := tx.First(&old, "id = ?", *row.CorrectsID).Error; err != nil || old.ZoneID != row.ZoneID {
			return invalid("body.corrects_id", "is no record of this zone")
		}
		if remedy.Pesticide(old.Action) {
			if !pesticide {
				pesticide, on = true, today
			}
			if err := s.accounts.Note(tx, who(ctx), whence(ctx), account.RecordVoided, &old.PersonID, remedy.Label(old.Action)); err != nil {
				return err
			}
		}
	}
	if pesticide && !account.May(who(ctx).Role, account.RecordPesticide) {
		return huma.Error403Forbidden("only a licensed applicator records, corrects or voids this", field("body.action", "needs a licence"))
	}
	if pesticide && (p.LicenceNumber == "" || p.LicenceUntil == nil || p.LicenceUntil.Before(on)) {
		return huma.Error403Forbidden("no licence of "+p.Name+" is valid on that day", field("body.applied_on", "no licence is valid that day"))
	}
	if !strings.EqualFold(strings.TrimSpace(row.SignedName), p.Name) {
		return invalid("body.signed_name", "is not your name: sign as "+p.Name)
	}
	row.SignedName = p.Name
	if pesticide {
		row.LicenceNumber = p.LicenceNumber
	}
	return nil
}

// recordTreatment answers POST /visits/{id}/records: record a treatment and book its follow-up.
func (s *Server) recordTreatment(ctx context.Context, in *struct {
	IDPath
	Body Record
}) (*body[Recorded], error) {
	r := in.Body
	if err := keyed(r.ID); err != nil {
		return nil, err
	}
	if r.FollowUpID != nil && r.FollowUpID.Version() != 7 {
		return nil, invalid("body.follow_up_id", "must be a version 7 UUID made by the client")
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	var g *grounded
	if r.ProductID != nil && !r.Voided {
		on, err := s.groundOn(ctx, in.ID, r.ZoneID)
		if err != nil {
			return nil, err
		}
		g = &on
	}
	var out Recorded
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		v, today, err := casework.FindVisit(tx, in.ID, r.ZoneID, now)
		if err != nil {
			return within(err)
		}
		var z store.Zone
		if err := tx.First(&z, "id = ?", r.ZoneID).Error; err != nil {
			return err
		}
		row, wrong := r.row(who(ctx), in.ID, today, s.now())
		if len(wrong) > 0 {
			return huma.Error422UnprocessableEntity("the record is not complete; nothing was saved", wrong...)
		}
		if row.AreaM2 > z.AreaM2*(1+z.AreaError)+.5 {
			return invalid("body.area_m2", fmt.Sprintf("%.0f m² treated of a zone of %.0f m²", row.AreaM2, z.AreaM2))
		}
		if err := s.sign(ctx, tx, &row, today); err != nil {
			return err
		}
		site, err := siteOfVisit(tx, v)
		if err != nil {
			return err
		}
		if err := r.full(tx, g, &row, site); err != nil {
			return err
		}
		if err := outside(&row, z); err != nil {
			return err
		}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		if row.JobID != nil {
			if err := closeJob(tx, &row); err != nil {
				return err
			}
		}
		out.Record = recordOf(row)
		out.Record.clocks(row, casework.Location(site.Timezone))
		return r.follow(tx, v, z, row, &out)
	})
	return answer(out), err
}

// nearLooks is how near two looks at a zone may lie without one being spared, in days (judgement).
const nearLooks = 3

// follow books the looks that follow a treatment where they are asked for: the first under the key that the client has made, the others
// under keys that follow from it, so that asking twice books once. A later look is spared where one is booked about that day.
func (r Record) follow(tx *gorm.DB, v store.Visit, z store.Zone, row store.TreatmentRecord, out *Recorded) error {
	looks := remedy.LooksFor(r.Action, casework.GrassOf(z))
	if r.FollowUpID == nil || row.Voided || (len(looks) == 0 && r.FollowUpOn == "") {
		return nil
	}
	if len(looks) == 0 {
		looks = []int{0} // on the day that is asked for
	}
	due := row.AppliedOn.AddDate(0, 0, looks[0])
	if r.FollowUpOn != "" {
		var err error
		if due, err = dateOf("body.follow_up_on", r.FollowUpOn); err != nil {
			return err
		}
		if due.Before(row.AppliedOn) {
			return invalid("body.follow_up_on", "is before the treatment")
		}
	}
	next := store.Visit{ID: *r.FollowUpID, FirmID: row.FirmID, SiteID: v.SiteID, ZoneID: &row.ZoneID, Kind: "follow-up", DueOn: due,
		Reason: "After: " + remedy.Label(r.Action), PersonID: v.PersonID, FollowsID: &v.ID, Version: 1}
	if err := store.Create(tx, &next, next.ID); err != nil {
		return err
	}
	f := visitOf(next)
	out.FollowUp = &f
	for i, days := range looks[1:] {
		later := next
		later.ID[15] += byte(i + 1)
		if later.DueOn = row.AppliedOn.AddDate(0, 0, days); later.DueOn.Before(due.AddDate(0, 0, nearLooks+1)) {
			continue
		}
		var near int64
		if err := tx.Model(&store.Visit{}).
			Where("zone_id = ? AND kind = 'follow-up' AND closed_on IS NULL AND id <> ? AND due_on BETWEEN ? AND ?", row.ZoneID,
				later.ID, later.DueOn.AddDate(0, 0, -nearLooks), later.DueOn.AddDate(0, 0, nearLooks)).Count(&near).Error; err != nil {
			return err
		}
		if near > 0 {
			continue
		}
		if err := store.Create(tx, &later, later.ID); err != nil {
			return err
		}
		out.Later = append(out.Later, visitOf(later))
	}
	return nil
}

// Closed is a zone that people and pets are kept off.
type Closed struct {
	RecordID uuid.UUID  `json:"record_id"`
	ZoneID   uuid.UUID  `json:"zone_id"`
	SiteName string     `json:"site_name"`
	ZoneName string     `json:"zone_name"`
	Product  string     `json:"product"`
	Until    *time.Time `json:"until,omitempty" doc:"by the clock of the lawn; left out until it is watered in"`
	Minutes  *int       `json:"minutes,omitempty" doc:"left, by the clock of the lawn"`
}

// mostClosed is how many closed zones a day tells.
const mostClosed = 50

// closedNow lists the zones that are closed on a day.
func closedNow(tx *gorm.DB, today, now time.Time) ([]Closed, error) {
	var rows []struct {
		ID, ZoneID                            uuid.UUID
		SiteName, ZoneName, Product, Timezone string
		Until                                 *time.Time
	}
	err := tx.Raw(`SELECT c.id, c.zone_id, c.product, c.until, s.name AS site_name, z.name AS zone_name, s.timezone FROM closed_zones c
		JOIN zones z ON z.id = c.zone_id JOIN sites s ON s.id = z.site_id
		WHERE c.applied_on > ? AND c.applied_on <= ? AND (c.until IS NULL OR c.until > ?) ORDER BY c.until NULLS FIRST, c.id LIMIT ?`,
		today.AddDate(0, 0, -7), today, today.Add(-14*time.Hour), mostClosed).Scan(&rows).Error
	out := []Closed{}
	for _, r := range rows {
		c := Closed{RecordID: r.ID, ZoneID: r.ZoneID, SiteName: r.SiteName, ZoneName: r.ZoneName, Product: r.Product}
		if r.Until != nil {
			zone := casework.Location(r.Timezone)
			t, local := r.Until.In(zone), now.In(zone)
			until := time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), 0, 0, time.UTC)
			at := time.Date(today.Year(), today.Month(), today.Day(), local.Hour(), local.Minute(), 0, 0, time.UTC)
			left := int(until.Sub(at).Minutes())
			if left <= 0 {
				continue
			}
			c.Until, c.Minutes = &until, &left
		}
		out = append(out, c)
	}
	return out, err
}

// waterIn answers POST /records/{id}/watered-in: what had to be watered in has been. It is noted once.
func (s *Server) waterIn(ctx context.Context, in *struct {
	IDPath
	Body struct {
		At string `json:"at" maxLength:"5" doc:"HH:MM by the clock of the lawn"`
	}
}) (*struct{}, error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		var r store.TreatmentRecord
		if err := tx.First(&r, "id = ?", in.ID).Error; err != nil {
			return err
		}
		if !r.MustWaterIn {
			return invalid("body.at", "this needs no watering in")
		}
		var site store.Site
		if err := tx.Raw("SELECT s.* FROM sites s JOIN zones z ON z.site_id = s.id WHERE z.id = ?", r.ZoneID).Scan(&site).Error; err != nil {
			return err
		}
		zone := casework.Location(site.Timezone)
		at, err := clockOn("at", in.Body.At, now.In(site.Timezone), zone)
		if err != nil || at == nil {
			return cmp.Or(err, invalid("body.at", "is required"))
		}
		if r.EndedAt != nil && at.Before(*r.EndedAt) {
			return invalid("body.at", "is before the end of the work")
		}
		row := store.WateringIn{RecordID: r.ID, FirmID: r.FirmID, At: *at, PersonID: who(ctx).Person, RecordedAt: s.now().UTC()}
		return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&row).Error
	})
}

// listRecords answers GET /zones/{id}/records: all records of a zone, the corrected ones too.
func (s *Server) listRecords(ctx context.Context, in *IDPath) (*body[[]Record], error) {
	out := []Record{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&store.Zone{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		var rows []store.TreatmentRecord
		if err := tx.Where("zone_id = ?", in.ID).Order("applied_on DESC, seq DESC").Find(&rows).Error; err != nil {
			return err
		}
		var site store.Site
		if err := tx.Raw("SELECT s.* FROM sites s JOIN zones z ON z.site_id = s.id WHERE z.id = ?", in.ID).Scan(&site).Error; err != nil {
			return err
		}
		if err := casework.WateredIn(tx, rows); err != nil {
			return err
		}
		for _, r := range rows {
			one := recordOf(r)
			one.clocks(r, casework.Location(site.Timezone))
			out = append(out, one)
		}
		return nil
	})
	return answer(out), err
}

// row checks what the record itself can be checked for.
func (r Record) row(id account.Identity, visit uuid.UUID, today, at time.Time) (row store.TreatmentRecord, wrong []error) {
	row = store.TreatmentRecord{ID: r.ID, FirmID: id.Firm, VisitID: visit, ZoneID: r.ZoneID, CorrectsID: r.CorrectsID, Voided: r.Voided,
		Action: r.Action, AppliedOn: today, AreaM2: r.AreaM2, Product: r.Product, Amount: r.Amount, AmountUnit: r.AmountUnit, NGM2: r.NGM2,
		PGM2: r.PGM2, KGM2: r.KGM2, FeGM2: r.FeGM2, WaterMM: r.WaterMM, Source: r.Source, WindMS: r.WindMS, AirC: r.AirC, Reentry: r.Reentry,
		Note: r.Note, OutsideReason: r.OutsideReason, PersonID: id.Person, SignedName: r.SignedName, RecordedAt: at.UTC(), ProductID: r.ProductID,
		LotID: r.LotID, MachineID: r.MachineID, SupervisorID: r.SupervisorID, JobID: r.JobID, Target: r.Target, Rate: r.Rate, Carrier: r.Carrier}
	refuse := func(where, message string) { wrong = append(wrong, field("body."+where, message)) }
	if !remedy.Known(r.Action) {
		refuse("action", "is not an action")
	}
	if r.AppliedOn != "" {
		d, err := time.Parse(dateOnly, r.AppliedOn)
		switch {
		case err != nil:
			refuse("applied_on", "is not a date (YYYY-MM-DD)")
		case d.After(today):
			refuse("applied_on", "is in the future")
		case d.Before(today.AddDate(-1, 0, 0)):
			refuse("applied_on", "is more than a year ago: what is older is no record of yours")
		default:
			row.AppliedOn = d
		}
	}
	if r.Voided && r.CorrectsID == nil {
		refuse("corrects_id", "names the record that is void")
	}
	if r.Amount != nil {
		u, err := units.Lookup(r.AmountUnit)
		if err != nil || (u.Dimension != units.Mass && u.Dimension != units.Volume) {
			refuse("amount_unit", "is no unit of mass or volume")
		} else {
			si := u.SI(*r.Amount)
			row.AmountSI = &si
		}
	}
	if !r.Voided && remedy.Pesticide(r.Action) {
		if r.Product == "" && r.ProductID == nil {
			refuse("product", "is required: the label and the law ask for it")
		}
		if r.Amount == nil && (r.ProductID == nil || r.Rate == nil) {
			refuse("amount", "is required: the label and the law ask for it")
		}
		if r.Reentry == "" && r.ProductID == nil {
			refuse("reentry", "is required: when people and pets may come back")
		}
		if remedy.Airborne(r.Action) {
			if r.WindMS == nil && r.ProductID == nil {
				refuse("wind_ms", "is required for a spray")
			}
		}
	}
	return row, wrong
}
