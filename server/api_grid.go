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
	"hodos/store"
)

// StepGrid is a zone from above: its grid, and what is drawn over it. Everything lies in m to the east and to the north of the site.
type StepGrid struct {
	Grid   GridFrame     `json:"grid"`
	Lawn   []int         `json:"lawn" nullable:"false" doc:"squares that are lawn, as runs: first, how many, first, how many …"`
	Line   []OnSite      `json:"line" nullable:"false" doc:"the outline; empty where none was taken"`
	Holes  []Hole        `json:"holes" nullable:"false"`
	Things []ThingOnLawn `json:"things" nullable:"false"`
	Before *DamageBefore `json:"before,omitempty" doc:"where the zone was damaged when it was last looked at on another visit"`
}

// DamageBefore is the damage of an earlier visit, on the grid of today.
type DamageBefore struct {
	On    string `json:"on" format:"date"`
	Cells []int  `json:"cells" nullable:"false"`
}

// ThingOnLawn is something on or along a lawn.
type ThingOnLawn struct {
	Kind   string   `json:"kind" enum:"hard-edge,tree,sprinkler,slope,buried"`
	Name   string   `json:"name"`
	Line   []OnSite `json:"line" nullable:"false"`
	Closed bool     `json:"closed"`
	ReachM float64  `json:"reach_m"`
}

// ground is a zone from above as the core takes it.
type ground struct {
	grid   outline.Grid
	shape  outline.Shape
	things []outline.Thing
}

// groundOf reads a zone's lawn, and what lies on its site.
func groundOf(tx *gorm.DB, zone uuid.UUID) (g ground, err error) {
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

// besides is how far from a lawn something may lie and still be drawn with it, m.
const besides = 2.5

// touches reports whether a thing lies on the lawn, reaches over it or lies along it.
func (g ground) touches(t outline.Thing) bool {
	for i, in := range g.grid.Inside {
		if in && t.Away(g.grid.Centre(i)) <= t.Reach+besides {
			return true
		}
	}
	return false
}

// before is where a zone was damaged when it was last looked at on another visit than one; nil when it never was.
func (g ground) before(tx *gorm.DB, zone, but uuid.UUID) (*DamageBefore, error) {
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
	m, where, reason := cellsOf(value)
	if where+reason != "" {
		return nil, nil
	}
	out := &DamageBefore{On: last.On.Format(dateOnly), Cells: []int{}}
	for i, d := range pattern.Moved(m.Grid.grid(), m.degree(), g.grid) {
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
	var g ground
	var before *DamageBefore
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if g, err = groundOf(tx, in.ID); err != nil {
			return err
		}
		before, err = g.before(tx, in.ID, in.Visit)
		return err
	})
	out := StepGrid{Grid: frameOf(g.grid), Lawn: []int{}, Line: onSite(g.shape.Outer), Holes: []Hole{}, Things: []ThingOnLawn{},
		Before: before}
	for i := 0; i < len(g.grid.Inside); i++ {
		if from := i; g.grid.Inside[i] {
			for i < len(g.grid.Inside) && g.grid.Inside[i] {
				i++
			}
			out.Lawn = append(out.Lawn, from, i-from)
		}
	}
	for _, h := range g.shape.Holes {
		out.Holes = append(out.Holes, Hole{onSite(h)})
	}
	if !g.grid.Plain {
		for _, t := range g.things {
			if !g.touches(t) {
				continue
			}
			out.Things = append(out.Things, ThingOnLawn{t.Kind, t.Name, onSite(t.Points), t.Closed, t.Reach})
		}
	}
	return answer(out), err
}

// PatternRead is what marked damage comes to. The specialist confirms or overrules what is proposed.
type PatternRead struct {
	Percent     float64           `json:"percent" doc:"squares of the lawn that show damage"`
	Loss        float64           `json:"loss_percent" doc:"of the cover"`
	Patches     []PatchRead       `json:"patches" nullable:"false" doc:"the largest first, a dozen at most"`
	PatchCount  int               `json:"patch_count"`
	DiameterM   float64           `json:"diameter_m" doc:"of the patch in the middle by area; 0 where the squares are too coarse to tell"`
	Roundness   float64           `json:"roundness" doc:"1 a disc"`
	Arrangement string            `json:"arrangement" enum:",clumped,even,random" doc:"of patches; empty where there are too few"`
	Near        []NearRead        `json:"near" nullable:"false" doc:"where the damage lies, the strongest first"`
	Proposals   []PatternProposal `json:"proposals" nullable:"false"`
}

// PatchRead is one patch.
type PatchRead struct {
	AreaM2     float64 `json:"area_m2"`
	DiameterM  float64 `json:"diameter_m"`
	LengthM    float64 `json:"length_m"`
	Elongation float64 `json:"elongation"`
	Direction  float64 `json:"direction" doc:"degrees clockwise from north, 0 to 180"`
	Roundness  float64 `json:"roundness"`
	Hollow     float64 `json:"hollow" doc:"sound lawn that it encloses, as a share of both"`
}

// NearRead is how damage gathers at a kind of place.
type NearRead struct {
	Place       string  `json:"place" enum:"hard-edge,tree,throw,slope-foot,slope,buried"`
	DamageShare float64 `json:"damage_share"`
	LawnShare   float64 `json:"lawn_share"`
	Chance      float64 `json:"chance" doc:"of so much lying there if the same damage lay anywhere else"`
}

// PatternProposal is a value of a finding that follows from the marks.
type PatternProposal struct {
	Finding  string  `json:"finding"`
	Value    string  `json:"value"`
	Strength float64 `json:"strength"`
	Reason   string  `json:"reason" enum:"place,cover,ring,round,ragged,line,parallel,pair,speckled"`
	Place    string  `json:"place,omitempty"`
}

// mostPatches is how many patches are told one by one.
const mostPatches = 12

// readPattern answers POST /zones/{id}/pattern: what the damage marked on a zone comes to.
func (s *Server) readPattern(ctx context.Context, in *struct {
	IDPath
	Body DamagedCells
}) (*body[PatternRead], error) {
	m, where, reason := cellsOf(in.Body)
	if reason != "" {
		return nil, invalid("body"+where, reason)
	}
	var g ground
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		g, err = groundOf(tx, in.ID)
		return err
	}); err != nil {
		return nil, err
	}
	return answer(patternOf(g, m)), nil
}

func patternOf(g ground, m DamagedCells) PatternRead {
	degree := m.degree()
	if m.Grid != frameOf(g.grid) {
		degree = pattern.Moved(m.Grid.grid(), degree, g.grid)
	}
	r := pattern.Read(pattern.Marked{Grid: g.grid, Degree: degree, Things: g.things})
	out := PatternRead{Percent: r.Percent, Loss: r.Loss, PatchCount: len(r.Patches), DiameterM: r.Diameter, Roundness: r.Roundness,
		Arrangement: r.Arrangement, Patches: []PatchRead{}, Near: []NearRead{}, Proposals: []PatternProposal{}}
	for _, p := range r.Patches[:min(len(r.Patches), mostPatches)] {
		out.Patches = append(out.Patches, PatchRead{p.Area, p.Diameter, p.Length, p.Elongation, p.Direction, p.Roundness, p.Hollow})
	}
	for _, n := range r.Near {
		out.Near = append(out.Near, NearRead(n))
	}
	for _, p := range r.Proposals {
		out.Proposals = append(out.Proposals, PatternProposal(p))
	}
	return out
}
