// Package pattern reads the damage marked on the step grid of a zone: how much, in what patches, where it lies and how it is arranged,
// and which values of the pattern finding follow from that. The specialist confirms or overrules it.
package pattern

import (
	"math"
	"sort"

	"hodos/core/outline"
)

// Degrees of damage in a square.
const (
	Sound = iota
	Slight
	Clear
	Bare
	degrees
)

// lost is the share of the cover that is gone in a square of each degree (judgement).
var lost = [degrees]float64{0, .25, .6, 1}

// Marked is a grid with the degree of damage in each of its squares, and what lies on the lawn. Degrees outside the lawn are passed over.
type Marked struct {
	Grid   outline.Grid
	Degree []uint8
	Things []outline.Thing
}

func (m Marked) damaged(cell int) bool {
	return m.Grid.Inside[cell] && m.Degree[cell] > Sound && m.Degree[cell] < degrees
}

// Reading is what the marks come to.
type Reading struct {
	Percent     float64 // squares of the lawn that show damage
	Loss        float64 // of the cover, per cent
	Cells       int     // damaged ones
	Patches     []Patch // the largest first
	Diameter    float64 // m, of the middle patch by area; 0 where the squares are too coarse to tell
	Roundness   float64 // of the damage, patches weighed by their area
	Near        []Near  // what the damage lies at, the strongest first
	Arrangement string  // of patches: clumped, even, random; empty where there are too few
	Spacing     float64 // Clark and Evans' ratio: 1 random, less clumped, more even; 0 where there are too few patches
	Scattered   bool    // single squares lie about as by chance
	Proposals   []Proposal
}

// Read reads the marks. The order of things does not matter.
func Read(m Marked) Reading {
	var r Reading
	lawn, gone := 0, 0.0
	for i := range m.Grid.Inside {
		if !m.Grid.Inside[i] {
			continue
		}
		lawn++
		if m.damaged(i) {
			r.Cells++
			gone += lost[m.Degree[i]]
		}
	}
	if r.Cells == 0 || lawn == 0 {
		return r
	}
	r.Percent, r.Loss = 100*float64(r.Cells)/float64(lawn), 100*gone/float64(lawn)
	r.Patches = patches(m)
	area := 0.0
	for _, p := range r.Patches {
		r.Roundness += p.Roundness * p.Area
		area += p.Area
	}
	r.Roundness /= area
	r.Diameter = middle(r.Patches, area, m.Grid)
	r.Scattered = scattered(m, r.Cells, lawn)
	r.Spacing, r.Arrangement = arrangement(m, r.Patches, float64(lawn)*m.Grid.Step*m.Grid.Step)
	r.Near = near(m, r.Cells)
	r.Proposals = propose(m, r)
	return r
}

// middle is the width of the patch in the middle by area: half of the damage lies in wider ones. A patch of fewer than four squares has
// no width that the grid could tell.
func middle(list []Patch, area float64, g outline.Grid) float64 {
	sum := 0.0
	for _, p := range list {
		sum += p.Area
		if sum >= area/2 {
			if p.Cells < 4 || g.Plain {
				return 0
			}
			return p.Diameter
		}
	}
	return 0
}

// scattered reports whether damaged squares lie beside one another no more often than by chance: join counts of damaged pairs, squares
// drawn without replacement, within two standard errors (Cliff and Ord 1981, by the mean and the variance of a random labelling).
func scattered(m Marked, cells, lawn int) bool {
	if cells < 6 || cells > lawn*3/4 {
		return false
	}
	joins, pairs := 0, 0
	perCell := make([]int, len(m.Grid.Inside))
	for i := range m.Grid.Inside {
		if !m.Grid.Inside[i] {
			continue
		}
		for _, j := range neighbours(m.Grid, i, false) {
			if m.Grid.Inside[j] {
				perCell[i]++
				if j > i {
					pairs++
					if m.damaged(i) && m.damaged(j) {
						joins++
					}
				}
			}
		}
	}
	sharing := 0.0 // pairs of joins that share a square
	for _, k := range perCell {
		sharing += float64(k*(k-1)) / 2
	}
	n, d, j := float64(lawn), float64(cells), float64(pairs)
	p2 := d * (d - 1) / (n * (n - 1))
	p3 := p2 * (d - 2) / (n - 2)
	p4 := p3 * (d - 3) / (n - 3)
	mean := j * p2
	variance := mean + 2*sharing*p3 + (j*(j-1)-2*sharing)*p4 - mean*mean
	return float64(joins) <= mean+2*math.Sqrt(math.Max(variance, 0))
}

// fewestPatches is from how many patches on their arrangement is told (judgement; Clark and Evans' ratio is unsteady below).
const fewestPatches = 6

// arrangement of patches by the distance to the nearest other (Clark and Evans 1954), with the correction for the edge of Donnelly (1978).
func arrangement(m Marked, list []Patch, area float64) (ratio float64, word string) {
	n := float64(len(list))
	if len(list) < fewestPatches {
		return 0, ""
	}
	sum := 0.0
	for i, p := range list {
		least := math.Inf(1)
		for j, q := range list {
			if i != j {
				least = math.Min(least, p.Centre.Away(q.Centre))
			}
		}
		sum += least
	}
	edge := perimeter(m.Grid)
	expected := .5*math.Sqrt(area/n) + (.0514+.041/math.Sqrt(n))*edge/n
	spread := math.Sqrt(.0703*area/(n*n) + .037*edge*math.Sqrt(area/math.Pow(n, 5)))
	mean := sum / n
	switch z := (mean - expected) / spread; {
	case z < -1.96:
		word = "clumped"
	case z > 1.96:
		word = "even"
	default:
		word = "random"
	}
	return mean / expected, word
}

// perimeter of the lawn in m, along the squares.
func perimeter(g outline.Grid) float64 {
	sides := 0
	for i := range g.Inside {
		if !g.Inside[i] {
			continue
		}
		sides += 4
		for _, j := range neighbours(g, i, false) {
			if g.Inside[j] {
				sides--
			}
		}
	}
	return float64(sides) * g.Step
}

// neighbours are the squares beside one, with those across the corners or without.
func neighbours(g outline.Grid, cell int, corners bool) []int {
	x, y := cell%g.Columns, cell/g.Columns
	out := make([]int, 0, 8)
	for dy := -1; dy <= 1; dy++ {
		for dx := -1; dx <= 1; dx++ {
			if (dx == 0 && dy == 0) || (!corners && dx != 0 && dy != 0) {
				continue
			}
			if u, v := x+dx, y+dy; u >= 0 && v >= 0 && u < g.Columns && v < g.Rows {
				out = append(out, v*g.Columns+u)
			}
		}
	}
	return out
}

// Moved lays marks of one grid onto another by the middles of squares: an outline that is taken anew does not lose them.
func Moved(from outline.Grid, degree []uint8, to outline.Grid) []uint8 {
	out := make([]uint8, len(to.Inside))
	if len(degree) != len(from.Inside) {
		return out
	}
	if from.Plain != to.Plain {
		// without an outline there is no place: the marks are stretched over the whole
		for i := range out {
			x := (i%to.Columns*2 + 1) * from.Columns / (2 * to.Columns)
			y := (i/to.Columns*2 + 1) * from.Rows / (2 * to.Rows)
			out[i] = degree[y*from.Columns+x]
		}
		return out
	}
	for i := range out {
		if cell, ok := from.Cell(to.Centre(i)); ok {
			out[i] = degree[cell]
		}
	}
	return out
}

func byArea(list []Patch) {
	sort.SliceStable(list, func(a, b int) bool { return list[a].Cells > list[b].Cells })
}
