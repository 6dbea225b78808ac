package pattern

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"hodos/core/outline"
)

// field is a drawn lawn: an outline, what lies on it, and damage of a known kind put down on it.
type field struct {
	Marked
	shape outline.Shape
}

func (f *field) put(p outline.Point) {
	if cell, ok := f.Grid.Cell(p); ok && f.Grid.Inside[cell] {
		f.Degree[cell] = Clear
	}
}

// disc puts a patch down whose rim wobbles by a share of its radius.
func (f *field) disc(c outline.Point, inner, outer, wobble float64, chance *rand.Rand) {
	phase, lobes := chance.Float64()*7, float64(2+chance.IntN(4))
	for i := range f.Degree {
		d := f.Grid.Centre(i)
		bearing := math.Atan2(d.North-c.North, d.East-c.East)
		rim := outer * (1 + wobble*math.Sin(lobes*bearing+phase))
		if a := d.Away(c); a <= rim && a >= inner {
			f.put(d)
		}
	}
}

func (f *field) strip(from, to outline.Point, width float64) {
	for i := range f.Degree {
		if outline.Apart(f.Grid.Centre(i), from, to) <= width/2 {
			f.put(f.Grid.Centre(i))
		}
	}
}

// apart draws places that lie so far from one another, with a disc of half that width mostly on the lawn: what grows into one another or
// off the lawn is round no more.
func (f *field) apart(n int, width float64, chance *rand.Rand) []outline.Point {
	var out []outline.Point
	for range 200 {
		p, on := f.anywhere(chance), 0
		for k := range 16 {
			sin, cos := math.Sincos(float64(k) * math.Pi / 8)
			if f.shape.Contains(outline.Point{East: p.East + width/2*cos, North: p.North + width/2*sin}) {
				on++
			}
		}
		if on >= 14 && !slices.ContainsFunc(out, func(q outline.Point) bool { return q.Away(p) < width }) {
			if out = append(out, p); len(out) == n {
				break
			}
		}
	}
	return out
}

func (f *field) anywhere(chance *rand.Rand) outline.Point {
	for {
		if i := chance.IntN(len(f.Degree)); f.Grid.Inside[i] {
			return f.Grid.Centre(i)
		}
	}
}

// lawn draws a rectangle or an L with a drive along its west side, a tree, sprinklers in two corners and a slope to the south.
func lawn(chance *rand.Rand) *field {
	w, h := 14+chance.Float64()*14, 14+chance.Float64()*14
	r := outline.Ring{{East: 0, North: 0}, {East: w, North: 0}, {East: w, North: h}, {East: 0, North: h}}
	if chance.IntN(2) == 0 {
		r = outline.Ring{{East: 0, North: 0}, {East: w, North: 0}, {East: w, North: h * .6}, {East: w * .6, North: h * .6},
			{East: w * .6, North: h}, {East: 0, North: h}}
	}
	f := &field{shape: outline.Shape{Outer: r}}
	f.Grid = outline.NewGrid(f.shape)
	f.Degree = make([]uint8, len(f.Grid.Inside))
	f.Things = []outline.Thing{
		{Kind: outline.HardEdge, Name: "drive", Points: []outline.Point{{East: 0, North: 0}, {East: 0, North: h}}},
		{Kind: outline.Tree, Points: []outline.Point{{East: w * .45, North: h * .5}}, Reach: 3},
		{Kind: outline.Sprinkler, Points: []outline.Point{{East: 0, North: h * .5}}, Reach: w * .7},
		{Kind: outline.Sprinkler, Points: []outline.Point{{East: w * .5, North: 0}}, Reach: h * .4},
		{Kind: outline.Slope, Points: []outline.Point{{East: w / 2, North: h * .6}, {East: w / 2, North: h * .12}}},
	}
	return f
}

// drawings put damage of each kind down.
var drawings = map[string]func(f *field, chance *rand.Rand){
	"along-hardscape": func(f *field, chance *rand.Rand) {
		h := f.Things[0].Points[1].North
		a := chance.Float64() * h * .4
		f.strip(outline.Point{East: .5, North: a}, outline.Point{East: .5, North: a + h*(.3+chance.Float64()*.3)}, 1.6)
	},
	"low-spots": func(f *field, chance *rand.Rand) {
		foot := f.Things[4].Points[1]
		for range 2 + chance.IntN(2) {
			f.disc(outline.Point{East: foot.East * (.4 + chance.Float64()*1.2), North: foot.North * (.4 + chance.Float64()*.8)}, 0, 1.5,
				.3, chance)
		}
	},
	"sprinkler-arcs": func(f *field, chance *rand.Rand) {
		for i := range f.Degree {
			if at(BeyondThrow, f.Things, f.Grid, i) && chance.Float64() < .8 {
				f.put(f.Grid.Centre(i))
			}
		}
	},
	"uniform": func(f *field, chance *rand.Rand) {
		for i := range f.Degree {
			if chance.Float64() < .85 {
				f.put(f.Grid.Centre(i))
			}
		}
	},
	"mottled": func(f *field, chance *rand.Rand) {
		for i := range f.Degree {
			if chance.Float64() < .2 {
				f.put(f.Grid.Centre(i))
			}
		}
	},
	"round-patches": func(f *field, chance *rand.Rand) {
		for _, p := range f.apart(3+chance.IntN(3), 5, chance) {
			f.disc(p, 0, 1.2+chance.Float64(), .06, chance)
		}
	},
	"irregular-patches": func(f *field, chance *rand.Rand) {
		for range 2 + chance.IntN(2) {
			at := f.anywhere(chance)
			for range 6 {
				f.disc(at, 0, .7+chance.Float64()*.6, .3, chance)
				at.East += (chance.Float64() - .5) * 3.6
				at.North += (chance.Float64() - .5) * 3.6
			}
		}
	},
	"rings": func(f *field, chance *rand.Rand) {
		for _, p := range f.apart(1+chance.IntN(2), 8, chance) {
			r := 2.4 + chance.Float64()*1.5
			f.disc(p, r-1.1, r, .04, chance)
		}
	},
	"spreader-stripes": func(f *field, chance *rand.Rand) {
		turn, gap := chance.Float64()*math.Pi, 2.6+chance.Float64()
		sin, cos := math.Sincos(turn)
		low, high := f.shape.Box()
		mid := outline.Point{East: (low.East + high.East) / 2, North: (low.North + high.North) / 2}
		for k := -2.0; k <= 2; k++ {
			c := outline.Point{East: mid.East - sin*gap*k, North: mid.North + cos*gap*k}
			f.strip(outline.Point{East: c.East - cos*6, North: c.North - sin*6}, outline.Point{East: c.East + cos*6,
				North: c.North + sin*6}, .9)
		}
	},
	"lines-or-streaks": func(f *field, chance *rand.Rand) {
		at := f.anywhere(chance)
		sin, cos := math.Sincos(chance.Float64() * 7)
		f.strip(outline.Point{East: at.East - cos*4, North: at.North - sin*4}, outline.Point{East: at.East + cos*4,
			North: at.North + sin*4}, .9)
	},
}

// TestDrawnLawnsAreReadRight draws lawns with damage of a known kind, and counts how often the first proposal of the pattern is that kind.
// With HODOS_TABLE set it prints the table of docs/decisions/0021-the-lawn-from-above.md.
func TestDrawnLawnsAreReadRight(t *testing.T) {
	const each = 200
	// the least share that must be read right, and the most that may be read as something else; the rest is left to the eye
	limits := map[string][2]float64{"along-hardscape": {.9, .1}, "low-spots": {.7, .3}, "sprinkler-arcs": {.8, .2}, "uniform": {.98, 0},
		"mottled": {.95, .05}, "round-patches": {.95, .05}, "irregular-patches": {.7, .28}, "rings": {.95, .05}, "spreader-stripes": {.9,
			.1},
		"lines-or-streaks": {.75, .25}}
	names := slices.Sorted(func(yield func(string) bool) {
		for n := range drawings {
			if !yield(n) {
				return
			}
		}
	})
	for _, name := range names {
		chance := rand.New(rand.NewPCG(7, uint64(len(name))))
		got := map[string]int{}
		for range each {
			f := lawn(chance)
			drawings[name](f, chance)
			first := "left to the eye"
			for _, p := range Read(f.Marked).Proposals {
				if p.Finding == "pattern" {
					first = p.Value
					break
				}
			}
			got[first]++
		}
		if os.Getenv("HODOS_TABLE") != "" {
			var line []string
			for v, n := range got {
				line = append(line, fmt.Sprintf("%s %d", v, (n*100+each/2)/each))
			}
			slices.Sort(line)
			fmt.Printf("| %s | %d | %s |\n", name, got[name]*100/each, strings.Join(line, ", "))
		}
		wrong := each - got[name] - got["left to the eye"]
		assert.GreaterOrEqual(t, float64(got[name])/each, limits[name][0], "%s: %v", name, got)
		assert.LessOrEqual(t, float64(wrong)/each, limits[name][1], "%s: %v", name, got)
	}
}
