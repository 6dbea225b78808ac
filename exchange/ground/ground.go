// Package ground has the forms in which a zone from above is sent and kept: its step grid with what lies on it, the damage marked on it,
// and what that comes to. The server and the page on a device read a pattern by the same one.
package ground

import (
	"encoding/json"
	"fmt"
	"math"

	"hodos/core/outline"
	"hodos/core/pattern"
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

// OnSite is where something lies, m to the east and to the north of the site.
type OnSite struct {
	East  float64 `json:"e"`
	North float64 `json:"n"`
}

// Hole is what is cut out of a lawn: a bed, a terrace.
type Hole struct {
	Line []OnSite `json:"line" nullable:"false"`
}

// GridFrame says how the squares of a grid lie: by row from the north-west corner.
type GridFrame struct {
	StepM   float64 `json:"step_m" exclusiveMinimum:"0" maximum:"1000" doc:"width of a square"`
	Columns int     `json:"columns" minimum:"1" maximum:"4096"`
	Rows    int     `json:"rows" minimum:"1" maximum:"4096"`
	EastM   float64 `json:"east_m" minimum:"-100000" maximum:"100000" doc:"of the north-west corner, from the site"`
	NorthM  float64 `json:"north_m" minimum:"-100000" maximum:"100000"`
	Plain   bool    `json:"plain" doc:"no outline is known: the sides follow from the area alone"`
}

// DamagedCells are the damaged squares of a zone by the degree of the damage. It is the value of the answer damaged-cells.
type DamagedCells struct {
	Grid   GridFrame `json:"grid"`
	Slight []int     `json:"slight" nullable:"false" doc:"thin or pale"`
	Clear  []int     `json:"clear" nullable:"false" doc:"damaged"`
	Bare   []int     `json:"bare" nullable:"false" doc:"dead or bare"`
}

// Points are points to a centimetre.
func Points(points []outline.Point) []OnSite {
	out := make([]OnSite, len(points))
	for i, p := range points {
		out[i] = OnSite{math.Round(p.East*100) / 100, math.Round(p.North*100) / 100}
	}
	return out
}

// FrameOf is how the squares of a grid lie.
func FrameOf(g outline.Grid) GridFrame {
	return GridFrame{g.Step, g.Columns, g.Rows, g.Corner.East, g.Corner.North, g.Plain}
}

// Fault is why there can be no such grid; "" for a sound one.
func (f GridFrame) Fault() string {
	if f.Columns < 1 || f.Rows < 1 || f.Columns > outline.MostCells || f.Rows > outline.MostCells || f.Columns*f.Rows > outline.MostCells {
		return fmt.Sprintf("has 1 to %d squares", outline.MostCells)
	}
	if !(f.StepM > 0 && f.StepM <= 1000) || !(math.Abs(f.EastM) <= 1e5 && math.Abs(f.NorthM) <= 1e5) {
		return "has no sensible size or place"
	}
	return ""
}

// Outline is the frame as a grid, all of it lawn.
func (f GridFrame) Outline() outline.Grid {
	g := outline.Grid{Step: f.StepM, Columns: f.Columns, Rows: f.Rows, Corner: outline.Point{East: f.EastM, North: f.NorthM}, Plain: f.Plain,
		Inside: make([]bool, f.Columns*f.Rows)}
	for i := range g.Inside {
		g.Inside[i] = true
	}
	return g
}

// besides is how far from a lawn something may lie and still be drawn with it, m.
const besides = 2.5

// Draw is a zone from above as it is sent: its grid, its outline, and the things that lie on it, reach over it or lie along it.
func Draw(grid outline.Grid, shape outline.Shape, things []outline.Thing) StepGrid {
	out := StepGrid{Grid: FrameOf(grid), Lawn: []int{}, Line: Points(shape.Outer), Holes: []Hole{}, Things: []ThingOnLawn{}}
	for i := 0; i < len(grid.Inside); i++ {
		if from := i; grid.Inside[i] {
			for i < len(grid.Inside) && grid.Inside[i] {
				i++
			}
			out.Lawn = append(out.Lawn, from, i-from)
		}
	}
	for _, h := range shape.Holes {
		out.Holes = append(out.Holes, Hole{Points(h)})
	}
	if grid.Plain {
		return out
	}
	for _, t := range things {
		if touches(grid, t) {
			out.Things = append(out.Things, ThingOnLawn{t.Kind, t.Name, Points(t.Points), t.Closed, t.Reach})
		}
	}
	return out
}

func touches(grid outline.Grid, t outline.Thing) bool {
	for i, in := range grid.Inside {
		if in && t.Away(grid.Centre(i)) <= t.Reach+besides {
			return true
		}
	}
	return false
}

// marked is a zone with its damage as the core takes it. Damage marked on another grid is moved onto the zone's.
func (z StepGrid) marked(m DamagedCells) pattern.Marked {
	grid := z.Grid.Outline()
	clear(grid.Inside)
	for i := 0; i+1 < len(z.Lawn); i += 2 {
		for c := max(0, z.Lawn[i]); c < min(z.Lawn[i]+z.Lawn[i+1], len(grid.Inside)); c++ {
			grid.Inside[c] = true
		}
	}
	out := pattern.Marked{Grid: grid, Degree: m.Degree()}
	if m.Grid != z.Grid {
		out.Degree = pattern.Moved(m.Grid.Outline(), out.Degree, grid)
	}
	for _, t := range z.Things {
		thing := outline.Thing{Kind: t.Kind, Name: t.Name, Closed: t.Closed, Reach: t.ReachM, Points: make([]outline.Point, len(t.Line))}
		for i, p := range t.Line {
			thing.Points[i] = outline.Point(p)
		}
		out.Things = append(out.Things, thing)
	}
	return out
}

// CellsOf reads the value of an answer, as the database or a request gives it; the field at fault and the reason when it is none.
func CellsOf(value any) (m DamagedCells, where, reason string) {
	b, err := json.Marshal(value)
	if err != nil {
		return m, "", "is no list of squares"
	}
	return CellsIn(b)
}

// CellsIn reads the same from its text.
func CellsIn(b []byte) (m DamagedCells, where, reason string) {
	if len(b) > 0 && b[0] == '[' {
		// as they were kept before zones had outlines
		m.Grid = GridFrame{StepM: 1, Columns: outline.PlainColumns, Rows: outline.PlainRows, Plain: true}
		if json.Unmarshal(b, &m.Clear) != nil || len(m.Clear) > outline.PlainColumns*outline.PlainRows {
			return m, "", "is no list of squares"
		}
	} else if json.Unmarshal(b, &m) != nil {
		return m, "", "is no list of squares"
	}
	f := m.Grid
	if reason := f.Fault(); reason != "" {
		return m, ".grid", reason
	}
	seen := map[int]bool{}
	for _, list := range []*[]int{&m.Slight, &m.Clear, &m.Bare} {
		if *list == nil {
			*list = []int{}
		}
		for _, c := range *list {
			if c < 0 || c >= f.Columns*f.Rows {
				return m, "", fmt.Sprintf("%d is not a cell of the plan (0 to %d)", c, f.Columns*f.Rows-1)
			}
			if seen[c] {
				return m, "", fmt.Sprintf("%d stands twice", c)
			}
			seen[c] = true
		}
	}
	return m, "", ""
}

// Degree of damage, square by square.
func (m DamagedCells) Degree() []uint8 {
	out := make([]uint8, m.Grid.Columns*m.Grid.Rows)
	for d, list := range [][]int{pattern.Slight: m.Slight, pattern.Clear: m.Clear, pattern.Bare: m.Bare} {
		for _, c := range list {
			out[c] = uint8(d)
		}
	}
	return out
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

// PatternOf is what the damage marked on a zone comes to.
func PatternOf(z StepGrid, m DamagedCells) PatternRead {
	r := pattern.Read(z.marked(m))
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
