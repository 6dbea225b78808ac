package pattern

import (
	"math"

	"hodos/core/outline"
)

// Patch is a group of damaged squares that touch one another, corners included.
type Patch struct {
	Cells      int
	Area       float64 // m²
	Diameter   float64 // m, of a circle of that area
	Centre     outline.Point
	Roundness  float64 // 1 a disc, less the more drawn out, ragged or hollow (area² over 2π times the polar second moment)
	Elongation float64 // length over width of the ellipse with the same second moments; 1 or more
	Length     float64 // m, of that ellipse
	Direction  float64 // degrees clockwise from north in which it is long, 0 to 180
	Hollow     float64 // sound lawn that it encloses, as a share of both together
}

func patches(m Marked) []Patch {
	g := m.Grid
	seen := make([]bool, len(g.Inside))
	var out []Patch
	for i := range g.Inside {
		if seen[i] || !m.damaged(i) {
			continue
		}
		cells := flood(g, i, true, seen, m.damaged)
		p := measured(g, cells)
		p.Hollow = enclosed(m, cells)
		out = append(out, p)
	}
	byArea(out)
	return out
}

// flood gathers the squares that hang together with one.
func flood(g outline.Grid, from int, corners bool, seen []bool, of func(int) bool) []int {
	cells := []int{from}
	seen[from] = true
	for k := 0; k < len(cells); k++ {
		for _, j := range neighbours(g, cells[k], corners) {
			if !seen[j] && of(j) {
				seen[j] = true
				cells = append(cells, j)
			}
		}
	}
	return cells
}

// measured gives a patch its sizes by its moments, each square with the moment that it has of itself, so that one square is nearly round.
func measured(g outline.Grid, cells []int) Patch {
	n, s := float64(len(cells)), g.Step
	var c outline.Point
	for _, i := range cells {
		q := g.Centre(i)
		c.East += q.East / n
		c.North += q.North / n
	}
	var xx, yy, xy float64
	for _, i := range cells {
		q := g.Centre(i)
		dx, dy := q.East-c.East, q.North-c.North
		xx += dx*dx + s*s/12
		yy += dy*dy + s*s/12
		xy += dx * dy
	}
	area := n * s * s
	p := Patch{Cells: len(cells), Area: area, Diameter: 2 * math.Sqrt(area/math.Pi), Centre: c}
	p.Roundness = math.Min(1, area*n/(2*math.Pi*(xx+yy)))
	mean, half := (xx+yy)/2, math.Hypot((xx-yy)/2, xy)
	long, short := (mean+half)/n, math.Max((mean-half)/n, s*s/12)
	p.Elongation, p.Length = math.Sqrt(long/short), 4*math.Sqrt(long)
	if half > 1e-9*mean {
		// the long axis, turned from "against the clock from east" to "with the clock from north"
		p.Direction = math.Mod(90-math.Atan2(2*xy, xx-yy)*90/math.Pi+180, 180)
	}
	return p
}

// enclosed is the share of sound lawn that a patch closes in: what of its surroundings does not reach the edge of its box.
func enclosed(m Marked, cells []int) float64 {
	g := m.Grid
	west, east, top, bottom := g.Columns, -1, g.Rows, -1
	own := map[int]bool{}
	for _, i := range cells {
		own[i] = true
		x, y := i%g.Columns, i/g.Columns
		west, east, top, bottom = min(west, x), max(east, x), min(top, y), max(bottom, y)
	}
	outside := make([]bool, len(g.Inside))
	within := func(i int) bool {
		x, y := i%g.Columns, i/g.Columns
		return x >= west && x <= east && y >= top && y <= bottom && !own[i]
	}
	holes := 0
	for y := top; y <= bottom; y++ {
		for x := west; x <= east; x++ {
			if i := y*g.Columns + x; (x == west || x == east || y == top || y == bottom) && !outside[i] && !own[i] {
				flood(g, i, false, outside, within)
			}
		}
	}
	for y := top; y <= bottom; y++ {
		for x := west; x <= east; x++ {
			if i := y*g.Columns + x; within(i) && !outside[i] && g.Inside[i] {
				holes++
			}
		}
	}
	return float64(holes) / float64(holes+len(cells))
}
