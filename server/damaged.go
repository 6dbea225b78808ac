package server

import (
	"encoding/json"
	"fmt"
	"math"

	"hodos/casework"
	"hodos/core/evidence"
	"hodos/core/outline"
	"hodos/exchange/ground"
)

// The forms of a zone from above, as the description of the API names them.
type (
	OnSite       = ground.OnSite
	Hole         = ground.Hole
	DamagedCells = ground.DamagedCells
	StepGrid     = ground.StepGrid
	DamageBefore = ground.DamageBefore
	PatternRead  = ground.PatternRead
)

// PointOnLawn is where on a zone something was pulled, counted or taken.
type PointOnLawn struct {
	What string `json:"what" enum:"core,count,sample"`
	Spot string `json:"spot" enum:"worst,healthy"`
	OnSite
}

// mostPoints is how many points a zone takes on one visit (judgement).
const mostPoints = 60

// marked are the squares of the plan of twelve by eight that carry damage: cans are set by it.
func marked(answers []casework.Answered) map[int]bool {
	on := map[int]bool{}
	for _, a := range answers {
		if a.Finding != evidence.DamageAnswer || a.Value == nil {
			continue
		}
		m, where, reason := ground.CellsOf(a.Value)
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
