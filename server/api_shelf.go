package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"

	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/label"
	"hodos/core/remedy"
	"hodos/exchange/refusal"
	"hodos/exchange/shelffile"
	"hodos/store"
)

// Product is a product on the shelf with the version of its label in use.
type Product struct {
	ID      uuid.UUID   `json:"id"`
	Active  bool        `json:"active" doc:"in use; what is taken off the shelf stays in the records"`
	Number  int         `json:"number,omitempty" readOnly:"true" doc:"version of the label"`
	LabelID uuid.UUID   `json:"label_id" doc:"key of this version, made by the client"`
	Label   label.Label `json:"label"`
	Lots    []Lot       `json:"lots,omitempty" readOnly:"true"`
	Left    *float64    `json:"left,omitempty" readOnly:"true" doc:"on the shelf, g or mL; left out where no lot was entered"`
	Price   *float64    `json:"price,omitempty" readOnly:"true" doc:"of 1 kg or 1 L, of the newest lot"`
	Weekly  *float64    `json:"weekly,omitempty" readOnly:"true" doc:"price of a week of cover for 100 m²"`
	Version int         `json:"version" minimum:"0" maximum:"2147483646"`
}

// Lot is one lot of a product.
type Lot struct {
	ID         uuid.UUID `json:"id" required:"false"`
	Lot        string    `json:"lot" minLength:"1" maxLength:"60"`
	Amount     float64   `json:"amount" exclusiveMinimum:"0" maximum:"1000000000" doc:"received, g or mL"`
	Left       float64   `json:"left" readOnly:"true" required:"false"`
	Price      *float64  `json:"price,omitempty" minimum:"0" maximum:"10000000" doc:"of what was received"`
	ReceivedOn string    `json:"received_on" format:"date"`
	OpenedOn   *string   `json:"opened_on,omitempty" format:"date"`
	ExpiresOn  *string   `json:"expires_on,omitempty" format:"date"`
	WrittenOff float64   `json:"written_off" minimum:"0" maximum:"1000000000" required:"false"`
	Version    int       `json:"version" minimum:"0" maximum:"2147483646"`
}

func productOf(o casework.OnShelf) Product {
	p := Product{ID: o.Product.ID, Active: o.Product.Active, Number: o.Number, LabelID: o.Product.LabelID, Label: o.Label, Left: o.Left(),
		Version: o.Product.Version}
	for _, l := range o.Lots {
		p.Lots = append(p.Lots, lotOf(l))
		if l.Price != nil {
			each := *l.Price / l.Amount * 1000
			p.Price = &each
		}
	}
	if p.Price != nil {
		p.Weekly = weekly(&o.Label, *p.Price)
	}
	return p
}

// weekly is the price of a week of cover for 100 m², by the use that covers longest.
func weekly(l *label.Label, price float64) (best *float64) {
	for i := range l.Uses {
		u := &l.Uses[i]
		if u.CoverDays <= 0 {
			continue
		}
		x := price / 1000 * (u.RateLow + u.RateHigh) / 2 * 100 / (u.CoverDays / 7)
		if best == nil || x < *best {
			best = &x
		}
	}
	return best
}

func lotOf(l casework.Lot) Lot {
	return Lot{ID: l.ID, Lot: l.Lot, Amount: l.Amount, Left: l.Left, Price: l.Price, ReceivedOn: l.ReceivedOn.Format(dateOnly),
		OpenedOn: dateText(l.OpenedOn), ExpiresOn: dateText(l.ExpiresOn), WrittenOff: l.WrittenOff, Version: l.Version}
}

// listProducts answers GET /products: what is on the shelf, by name.
func (s *Server) listProducts(ctx context.Context, in *struct {
	Find   string `query:"find" maxLength:"120"`
	Action string `query:"action" maxLength:"60" doc:"only what its label allows for this action"`
}) (*body[[]Product], error) {
	out := []Product{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		shelf, err := casework.Shelf(tx, nil)
		for _, o := range shelf {
			if found(o.Label, in.Find) && (in.Action == "" || len(o.Label.Fits(in.Action)) > 0) {
				out = append(out, productOf(o))
			}
		}
		return err
	})
	return answer(out), err
}

// found reports whether every word of a search stands in name, maker, kind or an active.
func found(l label.Label, find string) bool {
	text := l.Name + " " + l.Maker + " " + l.Kind
	for _, a := range l.Actives {
		text += " " + a.Name + " " + a.Group
	}
	text = strings.ToLower(text)
	for _, w := range strings.Fields(strings.ToLower(find)) {
		if !strings.Contains(text, w) {
			return false
		}
	}
	return true
}

// checkedLabel makes sure that a label can be one.
func checkedLabel(l *label.Label) (store.JSON, error) {
	var details []error
	for _, w := range l.Check(remedy.Known) {
		details = append(details, field("body.label."+w.Field, w.Reason))
	}
	if len(details) > 0 {
		return nil, huma.Error422UnprocessableEntity("this cannot stand on a label", details...)
	}
	b, err := json.Marshal(l)
	return b, err
}

// createProduct answers POST /products: put a product on the shelf with the first version of its label.
func (s *Server) createProduct(ctx context.Context, in *body[Product]) (*body[Product], error) {
	p := in.Body
	for _, id := range []uuid.UUID{p.ID, p.LabelID} {
		if err := keyed(id); err != nil {
			return nil, err
		}
	}
	text, err := checkedLabel(&p.Label)
	if err != nil {
		return nil, err
	}
	id := who(ctx)
	row := store.Product{ID: p.ID, FirmID: id.Firm, Name: p.Label.Name, Kind: p.Label.Kind, LabelID: p.LabelID, Active: true, Version: 1}
	first := store.ProductLabel{ID: p.LabelID, FirmID: id.Firm, ProductID: p.ID, Number: 1, Label: text, PersonID: id.Person,
		RecordedAt: s.now().UTC()}
	var out Product
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		if err := store.Create(tx, &first, first.ID); err != nil {
			return err
		}
		return oneProduct(tx, p.ID, &out)
	})
	return answer(out), err
}

func oneProduct(tx *gorm.DB, id uuid.UUID, out *Product) error {
	shelf, err := casework.Shelf(tx, []uuid.UUID{id})
	if err == nil && len(shelf) == 0 {
		return store.ErrNotFound
	}
	if err == nil {
		*out = productOf(shelf[0])
	}
	return err
}

// changeProduct answers PUT /products/{id}: another version of the label, or off the shelf. The old version stays in the records.
func (s *Server) changeProduct(ctx context.Context, in *struct {
	IDPath
	Body Product
}) (*body[Product], error) {
	text, err := checkedLabel(&in.Body.Label)
	if err != nil {
		return nil, err
	}
	var out Product
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var old Product
		if err := oneProduct(tx, in.ID, &old); err != nil {
			return err
		}
		columns := map[string]any{"name": in.Body.Label.Name, "kind": in.Body.Label.Kind, "active": in.Body.Active}
		if before, err := json.Marshal(old.Label); err != nil || string(before) != string(text) {
			if err := keyed(in.Body.LabelID); err != nil {
				return err
			}
			if in.Body.LabelID == old.LabelID {
				return invalid("body.label_id", "a changed label is a new version and has a new key")
			}
			row := store.ProductLabel{ID: in.Body.LabelID, FirmID: who(ctx).Firm, ProductID: in.ID, Number: old.Number + 1, Label: text,
				PersonID: who(ctx).Person, RecordedAt: s.now().UTC()}
			if err := store.Create(tx, &row, row.ID); err != nil {
				return err
			}
			columns["label_id"] = row.ID
		}
		if err := store.Change(tx, &store.Product{}, in.ID, in.Body.Version, columns); err != nil {
			return err
		}
		return oneProduct(tx, in.ID, &out)
	})
	return answer(out), err
}

// keepLot answers PUT /products/{id}/lots/{lot}: a lot is received, opened, written off or put right.
func (s *Server) keepLot(ctx context.Context, in *struct {
	IDPath
	Lot  uuid.UUID `path:"lot" format:"uuid"`
	Body Lot
}) (*body[Product], error) {
	b := in.Body
	received, err := dateOf("body.received_on", b.ReceivedOn)
	if err != nil {
		return nil, err
	}
	opened, err := optionalDate("body.opened_on", b.OpenedOn)
	if err != nil {
		return nil, err
	}
	expires, err := optionalDate("body.expires_on", b.ExpiresOn)
	if err != nil {
		return nil, err
	}
	if opened != nil && opened.Before(received) {
		return nil, invalid("body.opened_on", "is before it was received")
	}
	if err := keyed(in.Lot); err != nil {
		return nil, err
	}
	row := store.ProductLot{
		ID:         in.Lot,
		FirmID:     who(ctx).Firm,
		ProductID:  in.ID,
		Lot:        b.Lot,
		Amount:     b.Amount,
		Price:      b.Price,
		ReceivedOn: received,
		OpenedOn:   opened,
		ExpiresOn:  expires,
		WrittenOff: b.WrittenOff,
		Version:    1,
	}
	var out Product
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if b.Version == 0 {
			if err := store.Create(tx, &row, row.ID); err != nil {
				return err
			}
		} else if err := store.Change(tx, &store.ProductLot{}, in.Lot, b.Version, map[string]any{"lot": b.Lot, "amount": b.Amount,
			"price":       b.Price,
			"received_on": received, "opened_on": opened, "expires_on": expires, "written_off": b.WrittenOff}); err != nil {
			return err
		}
		return oneProduct(tx, in.ID, &out)
	})
	return answer(out), err
}

// shelfCSV answers GET /products/csv: the shelf as a file.
func (s *Server) shelfCSV(ctx context.Context, _ *struct{}) (*download, error) {
	var labels []label.Label
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		shelf, err := casework.Shelf(tx, nil)
		for _, o := range shelf {
			labels = append(labels, o.Label)
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	b, err := shelffile.Write(labels)
	return fileOf("shelf.csv", "text/csv; charset=utf-8", b), s.said(err)
}

// ShelfTaken is what a file has done to the shelf.
type ShelfTaken struct {
	New     int `json:"new"`
	Changed int `json:"changed" doc:"a new version of the label"`
	Same    int `json:"same"`
}

// takeShelf answers POST /products/csv: take a file of products in, whole or not at all. A product of the same name gets a new version of
// its label where the file says something else.
func (s *Server) takeShelf(ctx context.Context, in *struct {
	RawBody []byte `contentType:"text/csv"`
}) (*body[ShelfTaken], error) {
	labels, err := shelffile.Read(bytes.NewReader(in.RawBody), remedy.Known)
	if r := (*refusal.Refusal)(nil); errors.As(err, &r) {
		return nil, refusedWhole("the file is refused; nothing of it was taken", "", r)
	}
	if err != nil {
		return nil, s.said(err)
	}
	var out ShelfTaken
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		shelf, err := casework.Shelf(tx, nil)
		if err != nil {
			return err
		}
		at := map[string]*casework.OnShelf{}
		for i := range shelf {
			at[strings.ToLower(shelf[i].Label.Name)] = &shelf[i]
		}
		for i := range labels {
			if err := s.takeLabel(ctx, tx, &labels[i], at[strings.ToLower(labels[i].Name)], &out); err != nil {
				return err
			}
		}
		return nil
	})
	return answer(out), err
}

// takeLabel keeps one label of a file.
func (s *Server) takeLabel(ctx context.Context, tx *gorm.DB, l *label.Label, old *casework.OnShelf, out *ShelfTaken) error {
	text, err := json.Marshal(l)
	if err != nil {
		return err
	}
	id := who(ctx)
	row := store.ProductLabel{
		ID:         uuid.Must(uuid.NewV7()),
		FirmID:     id.Firm,
		Number:     1,
		Label:      text,
		PersonID:   id.Person,
		RecordedAt: s.now().UTC(),
	}
	if old == nil {
		p := store.Product{ID: uuid.Must(uuid.NewV7()), FirmID: id.Firm, Name: l.Name, Kind: l.Kind, LabelID: row.ID, Active: true, Version: 1}
		row.ProductID = p.ID
		out.New++
		if err := tx.Create(&p).Error; err != nil {
			return err
		}
		return tx.Create(&row).Error
	}
	if before, err := json.Marshal(old.Label); err != nil || string(before) == string(text) {
		out.Same++
		return err
	}
	out.Changed++
	row.ProductID, row.Number = old.Product.ID, old.Number+1
	if err := tx.Create(&row).Error; err != nil {
		return err
	}
	return store.Change(
		tx,
		&store.Product{},
		old.Product.ID,
		old.Product.Version,
		map[string]any{"name": l.Name, "kind": l.Kind, "label_id": row.ID},
	)
}

// Outlook is what a product may still do on one lawn today.
type Outlook struct {
	ZoneID   uuid.UUID `json:"zone_id"`
	SiteName string    `json:"site_name"`
	ZoneName string    `json:"zone_name"`
	VisitID  uuid.UUID `json:"visit_id"`
	Action   string    `json:"action"`
	Called   bool      `json:"called" doc:"the plan of the lawn calls for the action"`
	Stops    []Stop    `json:"stops" nullable:"false" doc:"what stands against it; none: it may go down now"`
}

// Glance is a product with its outlook on the lawns of the day.
type Glance struct {
	ProductID uuid.UUID `json:"product_id"`
	Lawns     []Outlook `json:"lawns" nullable:"false"`
}

// glanceLawns is how many lawns of the day a glance looks at: each of them is weighed anew.
const glanceLawns = 12

// glance answers GET /shelf/today: what each product may still do today, on which of the day's lawns, and what stops it.
func (s *Server) glance(ctx context.Context, _ *struct{}) (*body[[]Glance], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var due []struct {
		VisitID, ZoneID    uuid.UUID
		SiteName, ZoneName string
	}
	var shelf []casework.OnShelf
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if shelf, err = casework.Shelf(tx, nil); err != nil {
			return err
		}
		return tx.Raw(`SELECT v.id AS visit_id, z.id AS zone_id, s.name AS site_name, z.name AS zone_name FROM visits v
			JOIN sites s ON s.id = v.site_id
			JOIN zones z ON z.site_id = s.id AND (v.zone_id IS NULL OR v.zone_id = z.id)
			WHERE v.closed_on IS NULL AND v.due_on <= ? ORDER BY v.due_on DESC, s.name, z.name LIMIT ?`, today, glanceLawns).
			Scan(&due).
			Error
	})
	if err != nil {
		return nil, err
	}
	out := make([]Glance, len(shelf))
	for i := range shelf {
		out[i] = Glance{shelf[i].Product.ID, []Outlook{}}
	}
	for _, d := range due {
		g, err := s.groundOn(ctx, d.VisitID, d.ZoneID)
		if err != nil {
			return nil, err
		}
		err = s.inFirm(ctx, func(tx *gorm.DB) error {
			for i := range shelf {
				o, err := outlook(tx, g, &shelf[i])
				if err != nil || o == nil {
					if err != nil {
						return err
					}
					continue
				}
				o.VisitID, o.ZoneID, o.SiteName, o.ZoneName = d.VisitID, d.ZoneID, d.SiteName, d.ZoneName
				out[i].Lawns = append(out[i].Lawns, *o)
			}
			return nil
		})
		if err != nil {
			return nil, err
		}
	}
	return answer(out), nil
}

// outlook judges a product on a lawn by the action that the plan calls for most; nil where its label has nothing for a lawn.
func outlook(tx *gorm.DB, g grounded, o *casework.OnShelf) (*Outlook, error) {
	best, called := "", false
	weight := map[remedy.Verdict]int{remedy.DoNow: 4, remedy.Schedule: 3, remedy.CheckFirst: 2, remedy.Hold: 1}
	top := -1
	for _, l := range g.Plan.Lines {
		if len(o.Label.Fits(l.ID)) == 0 || l.As != "" {
			continue
		}
		w := weight[l.Verdict]
		if !l.Called {
			w = 0
		}
		if w > top {
			best, top, called = l.ID, w, w > 0
		}
	}
	if best == "" {
		return nil, nil
	}
	ask, err := g.proposed(best, o, "", 0)
	if err != nil {
		return nil, err
	}
	r, err := g.check(tx, ask)
	if err != nil {
		return nil, err
	}
	return &Outlook{Action: best, Called: called, Stops: r.Stops}, nil
}
