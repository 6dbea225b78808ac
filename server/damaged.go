package server

import (
	"encoding/json"
	"fmt"
	"math"

	"hodos/casework"
	"hodos/core/evidence"
	"hodos/core/outline"
	"hodos/core/pattern"
)

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

// PointOnLawn is where on a zone something was pulled, counted or taken.
type PointOnLawn struct {
	What string `json:"what" enum:"core,count,sample"`
	Spot string `json:"spot" enum:"worst,healthy"`
	OnSite
}

// mostPoints is how many points a zone takes on one visit (judgement).
const mostPoints = 60

func frameOf(g outline.Grid) GridFrame {
	return GridFrame{g.Step, g.Columns, g.Rows, g.Corner.East, g.Corner.North, g.Plain}
}

// grid is the frame as a grid, all of it lawn.
func (f GridFrame) grid() outline.Grid {
	g := outline.Grid{Step: f.StepM, Columns: f.Columns, Rows: f.Rows, Corner: outline.Point{East: f.EastM, North: f.NorthM}, Plain: f.Plain,
		Inside: make([]bool, f.Columns*f.Rows)}
	for i := range g.Inside {
		g.Inside[i] = true
	}
	return g
}

// cellsOf reads the value of an answer, as the database or a request gives it; the field at fault and the reason when it is none.
func cellsOf(value any) (m DamagedCells, where, reason string) {
	b, err := json.Marshal(value)
	if err != nil {
		return m, "", "is no list of squares"
	}
	if list, ok := value.([]any); ok {
		// as they were kept before zones had outlines
		m.Grid = GridFrame{StepM: 1, Columns: outline.PlainColumns, Rows: outline.PlainRows, Plain: true}
		if json.Unmarshal(b, &m.Clear) != nil || len(list) > outline.PlainColumns*outline.PlainRows {
			return m, "", "is no list of squares"
		}
	} else if json.Unmarshal(b, &m) != nil {
		return m, "", "is no list of squares"
	}
	f := m.Grid
	if f.Columns < 1 || f.Rows < 1 || f.Columns > outline.MostCells || f.Rows > outline.MostCells || f.Columns*f.Rows > outline.MostCells {
		return m, ".grid", fmt.Sprintf("has 1 to %d squares", outline.MostCells)
	}
	if !(f.StepM > 0 && f.StepM <= 1000) || !(math.Abs(f.EastM) <= 1e5 && math.Abs(f.NorthM) <= 1e5) {
		return m, ".grid", "has no sensible size or place"
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

// degree of damage, square by square.
func (m DamagedCells) degree() []uint8 {
	out := make([]uint8, m.Grid.Columns*m.Grid.Rows)
	for d, list := range [][]int{pattern.Slight: m.Slight, pattern.Clear: m.Clear, pattern.Bare: m.Bare} {
		for _, c := range list {
			out[c] = uint8(d)
		}
	}
	return out
}

// marked are the squares of the plan of twelve by eight that carry damage: cans are set by it.
func marked(answers []casework.Answered) map[int]bool {
	on := map[int]bool{}
	for _, a := range answers {
		if a.Finding != evidence.DamageAnswer || a.Value == nil {
			continue
		}
		m, where, reason := cellsOf(a.Value)
		if where+reason != "" {
			continue
		}
		for _, list := range [][]int{m.Slight, m.Clear, m.Bare} {
			for _, c := range list {
				x, y := c%m.Grid.Columns*outline.PlainColumns/m.Grid.Columns, c/m.Grid.Columns*outline.PlainRows/m.Grid.Rows
				on[y*outline.PlainColumns+x] = true
			}
		}
	}
	return on
}

// pointsOf reads the value of the answer points.
func pointsOf(value any) (out []PointOnLawn, reason string) {
	b, err := json.Marshal(value)
	if err != nil || json.Unmarshal(b, &out) != nil {
		return nil, "is no list of points"
	}
	if len(out) > mostPoints {
		return nil, fmt.Sprintf("has more than %d points", mostPoints)
	}
	for i, p := range out {
		switch {
		case p.What != "core" && p.What != "count" && p.What != "sample":
			return nil, fmt.Sprintf("point %d is none of core, count, sample", i+1)
		case p.Spot != "worst" && p.Spot != evidence.Healthy:
			return nil, fmt.Sprintf("point %d is neither at a bad nor at a good spot", i+1)
		case !(math.Abs(p.East) <= 1e5 && math.Abs(p.North) <= 1e5):
			return nil, fmt.Sprintf("point %d lies far away", i+1)
		}
	}
	return out, ""
}
