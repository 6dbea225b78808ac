package server

import (
	"context"
	"encoding/json"
	"sort"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/worth"
	"hodos/exchange/casefile"
	"hodos/store"
)

// Prices are the few figures that a firm knows, in its own currency.
type Prices struct {
	LawnM2      float64 `json:"lawn_m2" minimum:"0.1" maximum:"1000" doc:"worth of a square metre of sound lawn: what it costs to lay anew"`
	Hour        float64 `json:"hour" minimum:"1" maximum:"10000"`
	Fungicide   float64 `json:"fungicide" minimum:"0" maximum:"10000" doc:"material for 100 m², one application; so are the next ones"`
	Insecticide float64 `json:"insecticide" minimum:"0" maximum:"10000"`
	Herbicide   float64 `json:"herbicide" minimum:"0" maximum:"10000"`
	Feed        float64 `json:"feed" minimum:"0" maximum:"10000"`
	Amendment   float64 `json:"amendment" minimum:"0" maximum:"10000"`
	Seed        float64 `json:"seed" minimum:"0" maximum:"10000"`
	WaterM3     float64 `json:"water_m3" minimum:"0" maximum:"1000"`
	Lab         float64 `json:"lab" minimum:"0" maximum:"10000" doc:"one sample"`
}

func (p Prices) core() worth.Prices {
	return worth.Prices{LawnM2: p.LawnM2, Hour: p.Hour, Fungicide: p.Fungicide, Insecticide: p.Insecticide, Herbicide: p.Herbicide,
		Feed: p.Feed, Amendment: p.Amendment, Seed: p.Seed, WaterM3: p.WaterM3, Lab: p.Lab}
}

func pricesOf(p worth.Prices) Prices {
	return Prices{p.LawnM2, p.Hour, p.Fungicide, p.Insecticide, p.Herbicide, p.Feed, p.Amendment, p.Seed, p.WaterM3, p.Lab}
}

// FirmPrices are a firm's figures with their version; version 0 stands for the program's own.
type FirmPrices struct {
	Prices  Prices `json:"prices"`
	Version int    `json:"version" minimum:"0" maximum:"2147483646"`
}

// MarkMoved is the mark of one remedy before and after a change of prices, for the usual damage.
type MarkMoved struct {
	Cause  string  `json:"cause"`
	Remedy string  `json:"remedy"`
	Before float64 `json:"before"`
	After  float64 `json:"after"`
}

// CallChanged is a closed case in which the call on a cause would have been another.
type CallChanged struct {
	VisitID     uuid.UUID `json:"visit_id"`
	SiteName    string    `json:"site_name"`
	ZoneName    string    `json:"zone_name"`
	GivenOn     string    `json:"given_on" format:"date"`
	Cause       string    `json:"cause"`
	Probability float64   `json:"probability"`
	Remedy      string    `json:"remedy"`
	Before      string    `json:"before" enum:"act,check,leave"`
	After       string    `json:"after" enum:"act,check,leave"`
}

// Preview is what a change of prices would do.
type Preview struct {
	Moved []MarkMoved   `json:"moved" nullable:"false" doc:"the marks that move, the furthest first"`
	Cases int           `json:"cases" doc:"diagnoses that were given and looked at"`
	Calls []CallChanged `json:"calls" nullable:"false"`
}

// prices are the firm's figures.
func prices(tx *gorm.DB) (FirmPrices, error) {
	p, version, err := casework.Prices(tx)
	return FirmPrices{pricesOf(p), version}, err
}

// getPrices answers GET /prices: the figures from which the marks for checking and acting follow.
func (s *Server) getPrices(ctx context.Context, _ *struct{}) (*body[FirmPrices], error) {
	var out FirmPrices
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		out, err = prices(tx)
		return err
	})
	return answer(out), err
}

// changePrices answers PUT /prices: change the firm's figures.
func (s *Server) changePrices(ctx context.Context, in *body[FirmPrices]) (*body[FirmPrices], error) {
	p := in.Body.Prices
	firm := who(ctx).Firm
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		row := store.FirmPrices{FirmID: firm, LawnM2: p.LawnM2, Hour: p.Hour, Fungicide: p.Fungicide, Insecticide: p.Insecticide,
			Herbicide: p.Herbicide, Feed: p.Feed, Amendment: p.Amendment, Seed: p.Seed, WaterM3: p.WaterM3, Lab: p.Lab,
			Version: in.Body.Version + 1}
		if in.Body.Version == 0 {
			made := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&row)
			if made.Error == nil && made.RowsAffected == 0 {
				return store.ErrChanged
			}
			return made.Error
		}
		r := tx.Model(&store.FirmPrices{}).Where("firm_id = ? AND version = ?", firm, in.Body.Version).Select("*").Omit("firm_id").Updates(&row)
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrChanged
		}
		return r.Error
	})
	return answer(FirmPrices{p, in.Body.Version + 1}), err
}

// previewPrices answers POST /prices/preview: what other figures would change in the diagnoses given so far.
func (s *Server) previewPrices(ctx context.Context, in *body[Prices]) (*body[Preview], error) {
	out := Preview{Moved: []MarkMoved{}, Calls: []CallChanged{}}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		now, err := prices(tx)
		if err != nil {
			return err
		}
		return preview(tx, now.Prices.core(), in.Body.core(), &out)
	})
	return answer(out), err
}

// mostPreviewed is how many diagnoses a preview goes through: a keystroke must not weigh all that a firm ever gave.
const mostPreviewed = 500

// preview goes through the diagnoses that were given last. The probabilities are those that stood then; only the marks move.
func preview(tx *gorm.DB, before, after worth.Prices, out *Preview) error {
	const usualDamage = 60
	for _, c := range knowledge.Causes() {
		warm := c.Turf == "W"
		a, b := worth.MarksFor(c.ID, before, usualDamage, warm), worth.MarksFor(c.ID, after, usualDamage, warm)
		if d := b.Act - a.Act; d > .005 || d < -.005 {
			out.Moved = append(out.Moved, MarkMoved{c.ID, remedy.Label(a.Stake.Remedy), round3(a.Act), round3(b.Act)})
		}
	}
	far := func(m MarkMoved) float64 { return max(m.After-m.Before, m.Before-m.After) }
	sort.SliceStable(out.Moved, func(i, j int) bool { return far(out.Moved[i]) > far(out.Moved[j]) })

	rows, err := tx.Raw(
		`SELECT d.visit_id, d.given_on, d.case_file, d.result, s.name AS site, z.name AS zone
		FROM diagnoses d JOIN zones z ON z.id = d.zone_id JOIN sites s ON s.id = z.site_id ORDER BY d.given_on DESC, d.id LIMIT ?`,
		mostPreviewed,
	).Rows()
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var d struct {
			VisitID          uuid.UUID
			GivenOn          time.Time
			CaseFile, Result store.JSON
			Site, Zone       string
		}
		if err := rows.Scan(&d.VisitID, &d.GivenOn, &d.CaseFile, &d.Result, &d.Site, &d.Zone); err != nil {
			return err
		}
		out.Cases++
		c, err := casefile.Parse(d.CaseFile)
		if err != nil {
			continue // a file of a former version: kept, not weighed again
		}
		var given casefile.Result
		if err := json.Unmarshal(d.Result, &given); err != nil {
			continue
		}
		for _, cause := range given.Causes {
			if cause.Probability < .1 || cause.ID == knowledge.Healthy {
				continue
			}
			a, b := worth.MarksOn(c.Lawn, c.Findings, cause.ID, before), worth.MarksOn(c.Lawn, c.Findings, cause.ID, after)
			if x, y := a.Call(cause.Probability), b.Call(cause.Probability); x != y {
				out.Calls = append(out.Calls, CallChanged{d.VisitID, d.Site, d.Zone, d.GivenOn.Format(dateOnly), cause.ID, cause.Probability,
					remedy.Label(a.Stake.Remedy), x, y})
			}
		}
	}
	return rows.Err()
}
