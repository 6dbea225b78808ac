package casework

import (
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/budget"
	"hodos/core/clearance"
	"hodos/core/label"
	"hodos/store"
)

// OnShelf is a product with the version of its label in use and what is left of its lots.
type OnShelf struct {
	Product store.Product
	Number  int // of the label
	Label   label.Label
	Lots    []Lot
}

// Lot is one lot with what is left of it, g or mL.
type Lot struct {
	store.ProductLot
	Left float64
}

// Left is what is on the shelf in all; nil where no lot was ever entered: then nobody counts it.
func (o OnShelf) Left() *float64 {
	if len(o.Lots) == 0 {
		return nil
	}
	sum := 0.0
	for _, l := range o.Lots {
		sum += l.Left
	}
	return &sum
}

// Next is the lot to take: the opened one that runs out first, with something left in it; nil for none.
func (o OnShelf) Next(day time.Time) *Lot {
	var best *Lot
	for i := range o.Lots {
		l := &o.Lots[i]
		if l.Left <= 0 || (l.ExpiresOn != nil && l.ExpiresOn.Before(day)) {
			continue
		}
		if best == nil || earlier(l, best) {
			best = l
		}
	}
	return best
}

func earlier(a, b *Lot) bool {
	if (a.OpenedOn != nil) != (b.OpenedOn != nil) {
		return a.OpenedOn != nil
	}
	if a.ExpiresOn != nil && b.ExpiresOn != nil {
		return a.ExpiresOn.Before(*b.ExpiresOn)
	}
	return a.ExpiresOn != nil
}

// Shelf reads products with their labels and lots, in three questions. ids narrows it to some; nil reads all that are in use.
func Shelf(tx *gorm.DB, ids []uuid.UUID) ([]OnShelf, error) {
	var rows []struct {
		store.Product
		Number int
		Label  store.JSON
	}
	q := tx.Table("products p").Select("p.*, l.number, l.label").Joins("JOIN product_labels l ON l.id = p.label_id")
	if ids != nil {
		q = q.Where("p.id IN ?", ids)
	} else {
		q = q.Where("p.active")
	}
	if err := q.Order("lower(p.name), p.id").Limit(mostProducts).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]OnShelf, len(rows))
	keys, at := make([]uuid.UUID, len(rows)), map[uuid.UUID]int{}
	for i, r := range rows {
		out[i] = OnShelf{Product: r.Product, Number: r.Number}
		if err := json.Unmarshal(r.Label, &out[i].Label); err != nil {
			return nil, fmt.Errorf("label of %s: %w", r.Name, err)
		}
		keys[i], at[r.ID] = r.ID, i
	}
	lots, err := lotsOf(tx, keys)
	for _, l := range lots {
		i := at[l.ProductID]
		out[i].Lots = append(out[i].Lots, l)
	}
	return out, err
}

// mostProducts is how many products a firm may have in use (a limit of the reader).
const mostProducts = 2000

// lotsOf are the lots of products, with what standing records have left of them.
func lotsOf(tx *gorm.DB, products []uuid.UUID) ([]Lot, error) {
	var lots []struct {
		store.ProductLot
		Used float64
	}
	err := tx.Raw(`SELECT l.*, coalesce((SELECT sum(r.amount_si) FROM treatment_records r WHERE r.lot_id = l.id AND NOT r.voided
		AND NOT EXISTS (SELECT FROM treatment_records c WHERE c.corrects_id = r.id)), 0) AS used
		FROM product_lots l WHERE l.product_id IN ? ORDER BY l.received_on, l.id`, products).Scan(&lots).Error
	out := make([]Lot, len(lots))
	for i, l := range lots {
		out[i] = Lot{l.ProductLot, max(0, l.Amount-l.WrittenOff-l.Used)}
	}
	return out, err
}

// PutDown is what a treatment put down, as its record keeps it.
type PutDown struct {
	Product   string             `json:"product,omitempty"`
	Kind      string             `json:"kind,omitempty"`
	Groups    []string           `json:"groups,omitempty"`
	Actives   map[string]float64 `json:"actives,omitempty"`   // g/m²
	Nutrients map[string]float64 `json:"nutrients,omitempty"` // g of the element/m²
	SeedDays  float64            `json:"seed_days,omitempty"`
	CoverDays float64            `json:"cover_days,omitempty"`
	Release   string             `json:"release,omitempty"`
	Slow      float64            `json:"slow,omitempty"` // per cent of the nitrogen
}

// elements that a label may give, by the id of the element.
var elements = []string{"n", "p", "k", "fe", "s", "mg", "ca", "mn", "si"}

// GivenBy is what a rate of a product puts down.
func GivenBy(l *label.Label, u *label.Use, rate float64) PutDown {
	g := PutDown{Product: l.Name, Kind: l.Kind, Release: l.Release, Slow: l.SlowShare}
	if u != nil {
		g.SeedDays, g.CoverDays = u.SeedAfterDays, u.CoverDays
	}
	for _, a := range l.Actives {
		if a.Group != "" {
			g.Groups = append(g.Groups, a.Group)
		}
		if g.Actives == nil {
			g.Actives = map[string]float64{}
		}
		g.Actives[a.Name] += a.ActiveGM2(rate)
	}
	for _, id := range elements {
		if x := l.Element(id, rate); x > 0 {
			if g.Nutrients == nil {
				g.Nutrients = map[string]float64{}
			}
			g.Nutrients[id] = x
		}
	}
	return g
}

// AppliedTo is what was put down on a zone in the two years up to a day, for clearance.
func AppliedTo(tx *gorm.DB, zone uuid.UUID, day time.Time) ([]clearance.Applied, error) {
	return AppliedBut(tx, zone, day, uuid.Nil)
}

// AppliedBut is AppliedTo without one record.
func AppliedBut(tx *gorm.DB, zone uuid.UUID, day time.Time, but uuid.UUID) ([]clearance.Applied, error) {
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id = ? AND applied_on > ? AND applied_on <= ?", zone, day.AddDate(-2, 0, 0),
		day).Order("applied_on, seq").Find(&records).Error; err != nil {
		return nil, err
	}
	var out []clearance.Applied
	for _, r := range store.Standing(records) {
		if r.ID != but {
			out = append(out, appliedOf(r))
		}
	}
	return out, nil
}

func appliedOf(r store.TreatmentRecord) clearance.Applied {
	a := clearance.Applied{Day: r.AppliedOn.UTC(), Action: r.Action, Target: r.Target}
	var g PutDown
	_ = json.Unmarshal(r.Given, &g) // written by the server alone; an older record has none
	a.Kind, a.Groups, a.Actives, a.SeedDays = g.Kind, g.Groups, g.Actives, g.SeedDays
	if r.ProductID != nil {
		a.Product = r.ProductID.String()
	}
	for _, x := range []struct {
		from *float64
		into *float64
	}{{r.NGM2, &a.N}, {r.PGM2, &a.P}, {r.Rate, &a.Rate}} {
		if x.from != nil {
			*x.into = *x.from
		}
	}
	return a
}

// Rules are the firm's local rules in use.
func Rules(tx *gorm.DB) ([]clearance.Rule, error) {
	var rows []store.LocalRule
	if err := tx.Where("active").Order("id").Limit(500).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]clearance.Rule, len(rows))
	for i, r := range rows {
		if err := json.Unmarshal(r.Rule, &out[i]); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// BudgetOf is what a record put down, for the budget of the year.
func BudgetOf(r store.TreatmentRecord) budget.Given {
	out := budget.Given{Day: r.AppliedOn.UTC(), Nutrients: map[string]float64{}, Release: r.Source}
	var g PutDown
	_ = json.Unmarshal(r.Given, &g) // written by the server alone; an older record has none
	for id, x := range g.Nutrients {
		out.Nutrients[id] = x
	}
	out.Actives = g.Actives
	for id, x := range map[string]*float64{"n": r.NGM2, "p": r.PGM2, "k": r.KGM2, "fe": r.FeGM2} {
		if x != nil {
			out.Nutrients[id] = *x
		}
	}
	if r.WaterMM != nil {
		out.WaterMM = *r.WaterMM
	}
	switch {
	case g.Release != "":
		out.Release, out.Slow = g.Release, g.Slow
	case r.Source == "slow":
		out.Release = "methylene"
	}
	return out
}

// WateredIn notes on records when they were watered in, where that was told after them.
func WateredIn(tx *gorm.DB, records []store.TreatmentRecord) error {
	var open []uuid.UUID
	for _, r := range records {
		if r.MustWaterIn {
			open = append(open, r.ID)
		}
	}
	if len(open) == 0 {
		return nil
	}
	var rows []store.WateringIn
	if err := tx.Where("record_id IN ?", open).Find(&rows).Error; err != nil {
		return err
	}
	for _, w := range rows {
		for i := range records {
			if r := &records[i]; r.ID == w.RecordID {
				at, until := w.At, clearance.DryAfter(w.At)
				r.WateredInAt = &at
				if r.ClosedUntil == nil || until.After(*r.ClosedUntil) {
					r.ClosedUntil = &until
				}
			}
		}
	}
	return nil
}
