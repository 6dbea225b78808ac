package outline

import "math"

// Grid is laid over a zone from above: squares about one step wide, counted by row from the north-west corner. Cells outside the
// lawn are there and not inside.
type Grid struct {
	Step          float64 // m
	Columns, Rows int
	Corner        Point // the north-west one
	Inside        []bool
	Plain         bool // no outline is known: the sides follow from the area alone
}

// What a grid is held to: no finer than a step, and no more squares than can be marked on a phone (judgement).
const (
	mostAcross = 60
	mostCells  = 1600
	// MostCells is what a reader of marks takes from other grids.
	MostCells = 4096
)

// steps are the widths of a square, m.
var steps = []float64{0.75, 1, 1.5, 2, 3, 4, 6, 8, 12, 16, 25, 40, 60, 100, 160, 250}

// NewGrid lays a grid over a shape. A square is of the lawn when half of it is.
func NewGrid(s Shape) Grid {
	low, high := s.Box()
	across, down := high.East-low.East, high.North-low.North
	g := Grid{Corner: Point{low.East, high.North}}
	for _, g.Step = range steps {
		g.Columns, g.Rows = int(math.Ceil(across/g.Step-1e-9)), int(math.Ceil(down/g.Step-1e-9))
		g.Columns, g.Rows = max(1, g.Columns), max(1, g.Rows)
		if g.Columns <= mostAcross && g.Rows <= mostAcross && g.Columns*g.Rows <= mostCells {
			break
		}
	}
	// what is over at the edges lies on both sides alike
	g.Corner.East -= (float64(g.Columns)*g.Step - across) / 2
	g.Corner.North += (float64(g.Rows)*g.Step - down) / 2
	g.Inside = make([]bool, g.Columns*g.Rows)
	for _, least := range []float64{.5, .01} {
		some := false
		for i := range g.Inside {
			g.Inside[i] = g.covered(s, i) >= least
			some = some || g.Inside[i]
		}
		if some {
			break
		}
	}
	return g
}

// covered is the share of a square that is lawn, by 5 × 5 points.
func (g Grid) covered(s Shape, cell int) float64 {
	const n = 5
	c, in := g.Centre(cell), 0
	for i := range n {
		for j := range n {
			if s.Contains(Point{c.East + ((float64(i)+.5)/n-.5)*g.Step, c.North + ((float64(j)+.5)/n-.5)*g.Step}) {
				in++
			}
		}
	}
	return float64(in) / (n * n)
}

// The grid of a zone whose outline nobody has taken.
const (
	PlainColumns = 12
	PlainRows    = 8
)

// PlainGrid is the grid of a zone of which only the area is known, m²: three by two, all of it lawn, about the origin.
func PlainGrid(area float64) Grid {
	step := math.Sqrt(math.Max(area, 1) / (PlainColumns * PlainRows))
	g := Grid{Step: step, Columns: PlainColumns, Rows: PlainRows, Corner: Point{-step * PlainColumns / 2, step * PlainRows / 2},
		Inside: make([]bool, PlainColumns*PlainRows), Plain: true}
	for i := range g.Inside {
		g.Inside[i] = true
	}
	return g
}

// Centre of a square.
func (g Grid) Centre(cell int) Point {
	return Point{g.Corner.East + (float64(cell%g.Columns)+.5)*g.Step, g.Corner.North - (float64(cell/g.Columns)+.5)*g.Step}
}

// Cell is the square on which a point lies; false beyond the grid.
func (g Grid) Cell(p Point) (int, bool) {
	x, y := math.Floor((p.East-g.Corner.East)/g.Step), math.Floor((g.Corner.North-p.North)/g.Step)
	if x < 0 || y < 0 || x >= float64(g.Columns) || y >= float64(g.Rows) {
		return 0, false
	}
	return int(y)*g.Columns + int(x), true
}

// Lawn is how many squares are of the lawn.
func (g Grid) Lawn() int {
	n := 0
	for _, in := range g.Inside {
		if in {
			n++
		}
	}
	return n
}
