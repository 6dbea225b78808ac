package server

import (
	"context"
	"math"
	"sort"
	"time"

	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/budget"
	"hodos/store"
)

// BudgetRow is one line of the year's budget of a zone, g/m².
type BudgetRow struct {
	ID      string   `json:"id" doc:"n, p, k, fe, or an active by its common name"`
	By      string   `json:"by" enum:"grass,law,label,test" doc:"who sets the most"`
	Rule    string   `json:"rule,omitempty"`
	From    string   `json:"from" format:"date"`
	Given   float64  `json:"given"`
	Planned float64  `json:"planned"`
	Least   float64  `json:"least,omitempty"`
	Most    *float64 `json:"most,omitempty" doc:"left out where nobody sets one"`
	Left    *float64 `json:"left,omitempty"`
	Over    bool     `json:"over"`
}

// BudgetMonth is the nitrogen of a month, g/m².
type BudgetMonth struct {
	First   string  `json:"first" format:"date"`
	Given   float64 `json:"given"`
	Planned float64 `json:"planned"`
}

// Budget is what a zone was given in the year that counts, what is planned, and what is left.
type Budget struct {
	From    string        `json:"from" format:"date"`
	Months  []BudgetMonth `json:"months" nullable:"false"`
	Rows    []BudgetRow   `json:"rows" nullable:"false"`
	Coming  float64       `json:"coming_n_g_m2" doc:"nitrogen still to be released"`
	Soon    float64       `json:"soon_n_g_m2" doc:"of that in the next 21 days"`
	WaterMM float64       `json:"water_mm"`
}

func orNone(x float64) *float64 {
	if math.IsNaN(x) {
		return nil
	}
	return &x
}

// zoneBudget answers GET /visits/{id}/zones/{zone}/budget: the year's budget of a zone.
func (s *Server) zoneBudget(ctx context.Context, in *ZonePath) (*body[Budget], error) {
	g, err := s.groundOn(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	var b budget.Budget
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		input, err := g.budgetInput(tx)
		if err == nil {
			b = budget.Of(input)
		}
		return err
	})
	out := Budget{
		From:    b.From.Format(dateOnly),
		Months:  []BudgetMonth{},
		Rows:    []BudgetRow{},
		Coming:  b.Coming,
		Soon:    b.Soon,
		WaterMM: b.Water,
	}
	for _, m := range b.Months {
		out.Months = append(out.Months, BudgetMonth{m.First.Format(dateOnly), m.Given, m.Planned})
	}
	for _, r := range b.Rows {
		out.Rows = append(
			out.Rows,
			BudgetRow{ID: r.ID, By: r.By, Rule: r.Rule, From: r.From.Format(dateOnly), Given: r.Given, Planned: r.Planned, Least: r.Least,
				Most: orNone(r.Most), Left: orNone(r.Left), Over: r.Over},
		)
	}
	return answer(out), err
}

// budgetInput reads what the budget of a zone is made of.
func (g *grounded) budgetInput(tx *gorm.DB) (budget.Input, error) {
	day := g.Visit.Date.UTC()
	in := budget.Input{
		Today:    day,
		Latitude: g.Site.Latitude,
		Grasses:  g.Lawn.Grasses,
		Rules:    g.Rules,
		Place:    g.Lawn.Place,
		Labels:   map[string]float64{},
		Soil:     g.soilOn,
	}
	for id, into := range map[string]**float64{"soil-p-ppm": &in.SoilP, "soil-k-ppm": &in.SoilK} {
		if v, ok := g.Visit.Case.Findings[id]; ok {
			*into = v.Number
		}
	}
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id = ? AND applied_on > ? AND applied_on <= ?", g.Zone.ID, day.AddDate(-2, 0, 0), day).
		Order("applied_on, seq").
		Find(&records).
		Error; err != nil {
		return in, err
	}
	for _, r := range store.Standing(records) {
		in.Past = append(in.Past, casework.BudgetOf(r))
	}
	var jobs []store.Job
	if err := tx.Where("zone_id = ? AND state = 'booked'", g.Zone.ID).Order("due_on").Find(&jobs).Error; err != nil {
		return in, err
	}
	shelf, err := casework.Shelf(tx, nil)
	if err != nil {
		return in, err
	}
	for i := range shelf {
		for _, a := range shelf[i].Label.Actives {
			in.Labels[a.Name] = math.Max(in.Labels[a.Name], a.SeasonMax)
		}
	}
	for _, j := range jobs {
		in.Planned = append(in.Planned, planned(j, shelf))
	}
	sort.SliceStable(in.Past, func(a, b int) bool { return in.Past[a].Day.Before(in.Past[b].Day) })
	return in, nil
}

// planned is what a booked job will put down.
func planned(j store.Job, shelf []casework.OnShelf) budget.Given {
	d := casework.DoseOf(j)
	g := budget.Given{Day: j.DueOn.UTC(), Nutrients: map[string]float64{"n": d.N, "p": d.P}}
	for i := range shelf {
		if j.ProductID != nil && shelf[i].Product.ID == *j.ProductID {
			given := casework.GivenBy(&shelf[i].Label, nil, d.Rate)
			if given.Nutrients != nil {
				g.Nutrients = given.Nutrients
			}
			g.Actives = given.Actives
		}
	}
	return g
}

// soilOn is the soil of a day, as the sky computed it.
func (g *grounded) soilOn(day time.Time) (float64, bool) {
	x, ok := g.soil[day.UTC().Truncate(24*time.Hour)]
	return x, ok
}
