package server

import (
	"context"
	"encoding/csv"
	"fmt"
	"strings"
	"time"

	"bytes"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/exchange/plain"
	"hodos/paper"
)

type sheetIn struct {
	ZonePath
	Action    string    `query:"action" maxLength:"60" required:"true"`
	ProductID uuid.UUID `query:"product_id" format:"uuid"`
	Target    string    `query:"target" maxLength:"60"`
	AreaM2    float64   `query:"area_m2" minimum:"0" maximum:"10000000"`
	Rate      float64   `query:"rate" minimum:"0" maximum:"5000"`
	Carrier   float64   `query:"carrier" minimum:"0" maximum:"200"`
	TankL     float64   `query:"tank_l" minimum:"0" maximum:"20000"`
}

func (in *sheetIn) asProposal() *proposing {
	p := &proposing{ZonePath: in.ZonePath}
	p.Body.Action, p.Body.Target, p.Body.AreaM2 = in.Action, in.Target, in.AreaM2
	p.Body.Rate, p.Body.Carrier, p.Body.TankL = in.Rate, in.Carrier, in.TankL
	if in.ProductID != uuid.Nil {
		p.Body.ProductID = &in.ProductID
	}
	return p
}

// onPaper works a job out for a sheet.
func (s *Server) onPaper(ctx context.Context, in *sheetIn) (Proposal, *casework.OnShelf, grounded, error) {
	g, err := s.groundOn(ctx, in.ID, in.Zone)
	if err != nil {
		return Proposal{}, nil, g, err
	}
	var p Proposal
	var chosen *casework.OnShelf
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		shelf, err := casework.Shelf(tx, nil)
		if err != nil {
			return err
		}
		if p, err = s.proposal(tx, &g, in.asProposal(), shelf); err != nil {
			return err
		}
		for i := range shelf {
			if p.ProductID != nil && shelf[i].Product.ID == *p.ProductID {
				chosen = &shelf[i]
			}
		}
		return nil
	})
	if err == nil && chosen == nil {
		err = invalid("query.product_id", "choose a product: there is nothing to mix")
	}
	return p, chosen, g, err
}

// mixSheet answers GET /visits/{id}/zones/{zone}/mix-sheet: product, water and fills for the tailgate, on paper.
func (s *Server) mixSheet(ctx context.Context, in *sheetIn) (*download, error) {
	p, o, g, err := s.onPaper(ctx, in)
	if err != nil {
		return nil, err
	}
	say := saying(ctx)
	sheet := paper.New(
		paper.Head{
			Title: o.Label.Name,
			Under: g.Site.Name + ", " + g.Zone.Name + " · " + strings.Join(casework.GrassLabels(g.Zone), ", "),
			Firm:  who(ctx).FirmName,
			Made:  g.Visit.Date,
		},
	)
	unit := strings.TrimSuffix(p.RateUnit, "/m2")
	sheet.Big("Area", say.Amount(p.AreaM2, "m2"))
	sheet.Big("Rate", say.Amount(p.Rate, p.RateUnit))
	sheet.Big("Product in all", say.Amount(p.Amount, unit))
	if p.Tank != nil {
		sheet.Big("Tank", say.Amount(p.TankL, "L"))
		for _, l := range p.Tank.Lines {
			switch l.ID {
			case "mix", "fills", "product-fill", "last-mix", "last-product", "covers":
				sheet.Big(l.Label, l.Text)
			}
		}
	}
	if p.Tank != nil {
		sheet.Heading("Mixing")
		sheet.Line("Half the water first, then the product, mix, the rest of the water, mix again. Never in food vessels; rinse three times.")
	}
	sheet.Heading("With it")
	for _, d := range p.Duties {
		sheet.Warn(d.Text)
	}
	if p.ClosedHours > 0 {
		sheet.Line(fmt.Sprintf("People and pets off for %g hours, and until it is dry.", p.ClosedHours))
	}
	if p.MustWaterIn {
		sheet.Line("People and pets off until it is watered in and dry.")
	}
	for _, x := range p.Stops {
		sheet.Warn(strings.ToUpper(x.Kind) + ": " + x.Text)
	}
	sheet.Heading("As it was done")
	for _, name := range []string{"Start and end", "Wind and direction", "Air", "Product used", "Area done", "Name"} {
		sheet.Space(name)
	}
	sheet.Note(
		"The label in hand and local rules come first. Spill: stop it, keep people off, soak it up, nothing into drains, " +
			"report it as local rules say.",
	)
	b, err := sheet.Bytes()
	return fileOf("mix-"+in.Action+".pdf", "application/pdf", b), s.said(err)
}

// signSheet answers GET /visits/{id}/zones/{zone}/sign: the sign that is put up.
func (s *Server) signSheet(ctx context.Context, in *sheetIn) (*download, error) {
	p, o, g, err := s.onPaper(ctx, in)
	if err != nil {
		return nil, err
	}
	sheet := paper.New(paper.Head{Title: "Lawn treatment", Under: g.Site.Name + ", " + g.Zone.Name, Firm: who(ctx).FirmName,
		Made: g.Visit.Date})
	sheet.Shout("Keep off")
	sheet.Shout("people and pets")
	sheet.Big("Treated on", p.At.Format("2 January 2006"))
	sheet.Big("With", o.Label.Name)
	until := p.At.Add(time.Duration(p.ClosedHours * float64(time.Hour)))
	if p.MustWaterIn {
		sheet.Big("Closed until", "watered in and dry")
	} else {
		sheet.Big("Closed until", until.Format("2 Jan 15:04"))
	}
	sheet.Line("and until the grass is dry.")
	for _, a := range o.Label.Actives {
		sheet.Line("Active: " + a.Name)
	}
	sheet.Space("Telephone for questions")
	sheet.Space("Taken down on")
	b, err := sheet.Bytes()
	return fileOf("sign.pdf", "application/pdf", b), s.said(err)
}

var yearColumns = []string{
	"due",
	"window_from",
	"window_to",
	"site",
	"zone",
	"what",
	"product",
	"amount",
	"unit",
	"minutes",
	"cost_of_a_day",
	"reason",
	"moved",
}

// dayMonth says a date in a year that is known.
func dayMonth(iso string) string {
	t, err := time.Parse(dateOnly, iso)
	if err != nil {
		return iso
	}
	return t.Format("2 Jan")
}

// year is the booked jobs of a year, for a site or the firm.
func (s *Server) year(ctx context.Context, in *calendarIn) ([]Job, time.Time, error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, today, err
	}
	var rows []Job
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		rows, err = calendarRows(tx, in, today)
		return err
	})
	return rows, today, err
}

// yearCSV answers GET /jobs/csv: the year plan as a file.
func (s *Server) yearCSV(ctx context.Context, in *calendarIn) (*download, error) {
	rows, _, err := s.year(ctx, in)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	_ = w.Write(yearColumns) // a buffer takes everything
	for _, j := range rows {
		cells := []string{
			j.DueOn,
			j.FromOn,
			j.ToOn,
			j.SiteName,
			j.ZoneName,
			j.Label,
			j.Product,
			fmt.Sprintf("%.4g", j.Amount),
			j.AmountUnit,
			fmt.Sprintf("%.0f", j.Minutes),
			fmt.Sprintf("%.2f", j.Wait),
			j.Reason,
			j.Moved,
		}
		for i := range cells {
			cells[i] = plain.Cell(cells[i])
		}
		_ = w.Write(cells)
	}
	w.Flush()
	return fileOf("year-plan.csv", "text/csv; charset=utf-8", b.Bytes()), w.Error()
}

// yearPDF answers GET /jobs/pdf: the year plan on paper.
func (s *Server) yearPDF(ctx context.Context, in *calendarIn) (*download, error) {
	rows, today, err := s.year(ctx, in)
	if err != nil {
		return nil, err
	}
	say := saying(ctx)
	sheet := paper.New(
		paper.Head{Title: "Year plan", Under: fmt.Sprintf("%d jobs", len(rows)), Firm: who(ctx).FirmName, Made: today, Wide: true},
	)
	month, list := "", [][]string{}
	columns := []paper.Column{
		{Head: "On", Share: 13},
		{Head: "Window", Share: 18},
		{Head: "Where", Share: 24},
		{Head: "What", Share: 20},
		{Head: "Product", Share: 22},
		{Head: "Minutes", Share: 8, Right: true},
		{Head: "Why", Share: 34},
	}
	flush := func() {
		if len(list) > 0 {
			sheet.Heading(month)
			sheet.Table(columns, list)
			list = nil
		}
	}
	for _, j := range rows {
		due, err := time.Parse(dateOnly, j.DueOn)
		if err != nil {
			continue
		}
		if m := due.Format("January 2006"); m != month {
			flush()
			month = m
		}
		product := j.Product
		if j.Amount > 0 {
			product += ", " + say.Amount(j.Amount, j.AmountUnit)
		}
		why := j.Reason
		if j.Moved != "" {
			why = j.Moved
		}
		list = append(
			list,
			[]string{
				due.Format("Mon 2 Jan"),
				dayMonth(j.FromOn) + " to " + dayMonth(j.ToOn),
				j.SiteName + ", " + j.ZoneName,
				j.Label,
				product,
				fmt.Sprintf("%.0f", j.Minutes),
				why,
			},
		)
	}
	flush()
	b, err := sheet.Bytes()
	return fileOf("year-plan.pdf", "application/pdf", b), s.said(err)
}
