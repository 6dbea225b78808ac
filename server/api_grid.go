package server

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/evidence"
	"hodos/core/outline"
	"hodos/core/pattern"
	"hodos/exchange/ground"
	"hodos/store"
)

// above is a zone from above as the core takes it.
type above struct {
	grid   outline.Grid
	shape  outline.Shape
	things []outline.Thing
}

// groundOf reads a zone's lawn, and what lies on its site.
func groundOf(tx *gorm.DB, zone uuid.UUID) (g above, err error) {
	var z store.Zone
	if err := tx.First(&z, "id = ?", zone).Error; err != nil {
		return g, err
	}
	site, rows, err := mapOf(tx, z.SiteID)
	if err != nil {
		return g, err
	}
	g.grid = outline.PlainGrid(z.AreaM2)
	plane := outline.NewPlane(placeOf(site))
	for _, r := range rows {
		m, err := mappedOf(r)
		switch {
		case err != nil:
			return g, err
		case r.Kind != outline.Lawn:
			g.things = append(g.things, m.Thing(plane))
		case *r.ZoneID == zone:
			g.shape = m.Shape(plane)
			g.grid = outline.NewGrid(g.shape)
		}
	}
	return g, nil
}

// draw is the zone as it is sent.
func (g above) draw() StepGrid { return ground.Draw(g.grid, g.shape, g.things) }

// before is where a zone was damaged when it was last looked at on another visit than one; nil when it never was.
func (g above) before(tx *gorm.DB, zone, but uuid.UUID) (*DamageBefore, error) {
	var last struct {
		Value store.JSON
		On    time.Time
	}
	r := tx.Raw(`SELECT value, "on" FROM (SELECT DISTINCT ON (a.visit_id) a.value, a.seq, coalesce(v.started_on, v.due_on) AS "on"
			FROM answers a JOIN visits v ON v.id = a.visit_id WHERE a.zone_id = ? AND a.finding = ? AND a.visit_id <> ?
			ORDER BY a.visit_id, a.seq DESC) standing
		WHERE value IS NOT NULL ORDER BY "on" DESC, seq DESC LIMIT 1`, zone, evidence.DamageAnswer, but).Scan(&last)
	if r.Error != nil || r.RowsAffected == 0 {
		return nil, r.Error
	}
	var value any
	if err := json.Unmarshal(last.Value, &value); err != nil {
		return nil, err
	}
	m, where, reason := ground.CellsOf(value)
	if where+reason != "" {
		return nil, nil
	}
	out := &DamageBefore{On: last.On.Format(dateOnly), Cells: []int{}}
	for i, d := range pattern.Moved(m.Grid.Outline(), m.Degree(), g.grid) {
		if d != pattern.Sound && g.grid.Inside[i] {
			out.Cells = append(out.Cells, i)
		}
	}
	return out, nil
}

// getGrid answers GET /zones/{id}/grid: the step grid of a zone, clipped to its lawn.
func (s *Server) getGrid(ctx context.Context, in *struct {
	IDPath
	Visit uuid.UUID `query:"visit" format:"uuid" doc:"on which one is: its own damage is not what was before"`
}) (*body[StepGrid], error) {
	var z above
	var before *DamageBefore
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if z, err = groundOf(tx, in.ID); err != nil {
			return err
		}
		before, err = z.before(tx, in.ID, in.Visit)
		return err
	})
	out := z.draw()
	out.Before = before
	return answer(out), err
}

// readPattern answers POST /zones/{id}/pattern: what the damage marked on a zone comes to.
func (s *Server) readPattern(ctx context.Context, in *struct {
	IDPath
	Body DamagedCells
}) (*body[PatternRead], error) {
	m, where, reason := ground.CellsOf(in.Body)
	if reason != "" {
		return nil, invalid("body"+where, reason)
	}
	var z above
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		z, err = groundOf(tx, in.ID)
		return err
	}); err != nil {
		return nil, err
	}
	return answer(ground.PatternOf(z.draw(), m)), nil
}
