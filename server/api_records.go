package server

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

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
	FollowUpOn    string     `json:"follow_up_on,omitempty" format:"date" doc:"when to look again; worked out from the action when left out"`
	FollowUpID    *uuid.UUID `json:"follow_up_id,omitempty" doc:"key of the follow-up visit, made by the client; without it none is booked"`
}

// Recorded is a record with the follow-up that was booked for it.
type Recorded struct {
	Record   Record `json:"record"`
	FollowUp *Visit `json:"follow_up,omitempty"`
}

func recordOf(r store.TreatmentRecord) Record {
	return Record{ID: r.ID, VisitID: r.VisitID, ZoneID: r.ZoneID, CorrectsID: r.CorrectsID, Voided: r.Voided, Action: r.Action,
		AppliedOn: r.AppliedOn.Format(dateOnly), AreaM2: r.AreaM2, Product: r.Product, Amount: r.Amount, AmountUnit: r.AmountUnit, NGM2: r.NGM2,
		PGM2: r.PGM2, KGM2: r.KGM2, FeGM2: r.FeGM2, WaterMM: r.WaterMM, Source: r.Source, WindMS: r.WindMS, AirC: r.AirC, Reentry: r.Reentry,
		Note: r.Note, SignedName: r.SignedName, LicenceNumber: r.LicenceNumber, Outside: strings.Fields(r.Outside),
		OutsideReason: r.OutsideReason}
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
	if len(flags) > 0 && strings.TrimSpace(row.OutsideReason) == "" {
		return invalid("body.outside_reason", "is required: this lay outside the usual limits ("+strings.Join(flags, ", ")+"); say why")
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
		if err := outside(&row, z); err != nil {
			return err
		}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		out.Record = recordOf(row)
		days := remedy.LookAfter(r.Action)
		if r.FollowUpID == nil || row.Voided || (days == 0 && r.FollowUpOn == "") {
			return nil
		}
		due := row.AppliedOn.AddDate(0, 0, days)
		if r.FollowUpOn != "" {
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
		return nil
	})
	return answer(out), err
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
		for _, r := range rows {
			out = append(out, recordOf(r))
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
		Note: r.Note, OutsideReason: r.OutsideReason, PersonID: id.Person, SignedName: r.SignedName, RecordedAt: at.UTC()}
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
		if r.Product == "" {
			refuse("product", "is required: the label and the law ask for it")
		}
		if r.Amount == nil {
			refuse("amount", "is required: the label and the law ask for it")
		}
		if r.Reentry == "" {
			refuse("reentry", "is required: when people and pets may come back")
		}
		if remedy.Airborne(r.Action) {
			if r.WindMS == nil {
				refuse("wind_ms", "is required for a spray")
			}
		}
	}
	return row, wrong
}
