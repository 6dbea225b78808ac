package server

import (
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/clearance"
	"hodos/core/units"
	"hodos/store"
)

func siteOfVisit(tx *gorm.DB, v store.Visit) (site store.Site, err error) {
	return site, tx.First(&site, "id = ?", v.SiteID).Error
}

// clockOn reads HH:MM of a day by the clock of the lawn; nil for nothing.
func clockOn(where, text string, day time.Time, in *time.Location) (*time.Time, error) {
	if text == "" {
		return nil, nil
	}
	t, err := time.Parse("15:04", text)
	if err != nil {
		return nil, invalid("body."+where, "is not a time (HH:MM)")
	}
	at := time.Date(day.Year(), day.Month(), day.Day(), t.Hour(), t.Minute(), 0, 0, in)
	return &at, nil
}

// times puts start, end and watering in onto a record.
func (r Record) times(row *store.TreatmentRecord, in *time.Location) (err error) {
	for _, x := range []struct {
		where, text string
		into        **time.Time
	}{{"started", r.Started, &row.StartedAt}, {"ended", r.Ended, &row.EndedAt}, {"watered_in", r.WateredIn, &row.WateredInAt}} {
		if *x.into, err = clockOn(x.where, x.text, row.AppliedOn, in); err != nil {
			return err
		}
	}
	if row.StartedAt != nil && row.EndedAt != nil && row.EndedAt.Before(*row.StartedAt) {
		return invalid("body.ended", "is before the start")
	}
	if row.EndedAt != nil && row.WateredInAt != nil && row.WateredInAt.Before(*row.EndedAt) {
		return invalid("body.watered_in", "is before the end of the work")
	}
	return nil
}

// full completes a record from shelf, label and clock: amounts, nutrients and actives, weather of the hour, how long people are kept
// off, and what stood against it.
func (r Record) full(tx *gorm.DB, g *grounded, row *store.TreatmentRecord, site store.Site) error {
	zone := casework.Location(site.Timezone)
	if err := r.times(row, zone); err != nil {
		return err
	}
	d := Details{}
	if r.Details != nil {
		d = *r.Details
	}
	if row.SupervisorID != nil {
		var p store.Person
		if err := tx.First(&p, "id = ?", *row.SupervisorID).Error; err != nil {
			return invalid("body.supervisor_id", "is nobody of the firm")
		}
		d.Licence = p.LicenceNumber
	}
	if g != nil {
		if err := r.withProduct(tx, g, row, &d, zone); err != nil {
			return err
		}
	}
	if r.Details == nil && g == nil {
		return nil
	}
	text, err := json.Marshal(d)
	row.Details = text
	return err
}

// withProduct fills in what the label and the station know.
func (r Record) withProduct(tx *gorm.DB, g *grounded, row *store.TreatmentRecord, d *Details, zone *time.Location) error {
	shelf, err := casework.Shelf(tx, []uuid.UUID{*row.ProductID})
	if err != nil {
		return err
	}
	if len(shelf) == 0 {
		return invalid("body.product_id", "is no product of the firm")
	}
	o := &shelf[0]
	u := o.Label.For(row.Action, row.Target, g.Lawn.Grasses)
	row.LabelID, row.Product = &o.Product.LabelID, o.Label.Name
	if err := amountAndRate(row, o); err != nil {
		return err
	}
	if row.LotID != nil && !hasLot(o, *row.LotID) {
		return invalid("body.lot_id", "is no lot of this product")
	}
	given := casework.GivenBy(&o.Label, u, *row.Rate)
	for id, into := range map[string]**float64{"n": &row.NGM2, "p": &row.PGM2, "k": &row.KGM2, "fe": &row.FeGM2} {
		if x, ok := given.Nutrients[id]; ok {
			*into = &x
		}
	}
	if row.Source == "" && given.Nutrients["n"] > 0 {
		row.Source = sourceOf(given)
	}
	if row.Given, err = json.Marshal(given); err != nil {
		return err
	}
	started := r.startOf(row, g)
	weatherOf(row, d, g.weatherAt(started))
	ended := row.EndedAt
	if ended == nil {
		at := time.Date(started.Year(), started.Month(), started.Day(), started.Hour(), started.Minute(), 0, 0, zone)
		ended = &at
		row.EndedAt = ended
	}
	until, done := clearance.KeptOff(&o.Label, *ended, row.WateredInAt)
	row.ClosedUntil, row.MustWaterIn = &until, !done
	return r.flag(tx, g, row, d, o, started)
}

// startOf is when the work began: as entered, or the hour of the lawn.
func (r Record) startOf(row *store.TreatmentRecord, g *grounded) time.Time {
	at := g.hour(g.now)
	if r.Started != "" {
		if t, err := time.Parse("15:04", r.Started); err == nil {
			at = time.Date(0, 1, 1, t.Hour(), t.Minute(), 0, 0, time.UTC)
		}
	}
	return time.Date(row.AppliedOn.Year(), row.AppliedOn.Month(), row.AppliedOn.Day(), at.Hour(), at.Minute(), 0, 0, time.UTC)
}

func hasLot(o *casework.OnShelf, id uuid.UUID) bool {
	for _, l := range o.Lots {
		if l.ID == id {
			return true
		}
	}
	return false
}

// amountAndRate makes each of amount and rate from the other; what was entered stands as it was entered.
func amountAndRate(row *store.TreatmentRecord, o *casework.OnShelf) error {
	want, unit := units.Mass, "g"
	if o.Label.Liquid {
		want, unit = units.Volume, "mL"
	}
	switch {
	case row.Amount != nil:
		u, err := units.Lookup(row.AmountUnit)
		if err != nil || u.Dimension != want {
			return invalid("body.amount_unit", "this product is measured by "+string(want))
		}
		rate := *row.AmountSI / row.AreaM2
		row.Rate = &rate
	case row.Rate != nil:
		amount := *row.Rate * row.AreaM2
		row.Amount, row.AmountSI, row.AmountUnit = &amount, &amount, unit
	default:
		return invalid("body.amount", "is required, or the rate")
	}
	return nil
}

// sourceOf is how fast the nitrogen of a label is released.
func sourceOf(g casework.PutDown) string {
	switch {
	case g.Release == "organic":
		return "organic"
	case g.Slow >= 30 || (g.Release != "" && g.Release != "quick"):
		return "slow"
	}
	return "quick"
}

// weatherOf takes what nobody has measured from the station.
func weatherOf(row *store.TreatmentRecord, d *Details, h *HourWeather) {
	measured := row.WindMS != nil || row.AirC != nil || d.RH != nil
	if measured && d.WeatherFrom == "" {
		d.WeatherFrom = "measured"
	}
	if h == nil {
		return
	}
	if !measured {
		d.WeatherFrom = "station"
	}
	for _, x := range []struct {
		from *float64
		into **float64
	}{{h.WindMS, &row.WindMS}, {h.AirC, &row.AirC}, {h.RH, &d.RH}, {h.SoilC, &d.SoilC}} {
		if *x.into == nil {
			*x.into = x.from
		}
	}
}

// flag notes what stood against the job as it was done. Nothing is refused by it.
func (r Record) flag(tx *gorm.DB, g *grounded, row *store.TreatmentRecord, d *Details, o *casework.OnShelf, at time.Time) error {
	a := casework.Ask{Action: row.Action, Target: row.Target, At: at, Product: o, Lot: row.LotID, Machine: row.MachineID, Rate: *row.Rate,
		AreaM2: row.AreaM2, Person: &g.person, Posted: d.Posted, Mowings: d.Mowings, InFlower: d.InFlower}
	if row.Carrier != nil {
		a.Carrier = *row.Carrier
	}
	if d.Notified != "" {
		t, err := time.Parse("2006-01-02T15:04", d.Notified)
		if err != nil {
			return invalid("body.details.notified", "is not a day and time (YYYY-MM-DDTHH:MM)")
		}
		a.Notified = &t
	}
	if row.SupervisorID != nil {
		a.Supervisor = &store.Person{}
		if err := tx.First(a.Supervisor, "id = ?", *row.SupervisorID).Error; err != nil {
			return err
		}
	}
	j, err := g.Job(tx, a)
	if err != nil {
		return err
	}
	if row.CorrectsID != nil { // the corrected record is not counted against the one in its place
		j.Left = nil
		if j.History, err = casework.AppliedBut(tx, row.ZoneID, g.Visit.Date, *row.CorrectsID); err != nil {
			return err
		}
	}
	if len(j.Hours) > 0 { // measured on the lawn goes before the station
		h := j.Hours[0]
		if row.WindMS != nil {
			h.Wind = row.WindMS
		}
		if row.AirC != nil {
			h.Air = row.AirC
		}
		j.Hours = append([]clearance.Hour{h}, j.Hours[1:]...)
	} else if row.WindMS != nil || row.AirC != nil {
		j.Hours = []clearance.Hour{{At: at, Wind: row.WindMS, Air: row.AirC}}
	}
	if stops := clearance.Check(j).Stops; len(stops) > 0 {
		row.Flags, err = json.Marshal(stopsOf(stops))
	}
	return err
}
