package pattern

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/outline"
)

// plot is a square lawn of so many squares a side, 1 m each about, drawn row by row: # clear, + slight, @ bare.
func plot(rows ...string) Marked {
	n := float64(len(rows))
	g := outline.Grid{Step: 1, Columns: len(rows[0]), Rows: len(rows), Corner: outline.Point{North: n}, Inside: make([]bool,
		len(rows)*len(rows[0]))}
	m := Marked{Grid: g, Degree: make([]uint8, len(g.Inside))}
	for y, row := range rows {
		for x, c := range row {
			i := y*g.Columns + x
			g.Inside[i] = c != ' '
			m.Degree[i] = map[rune]uint8{'+': Slight, '#': Clear, '@': Bare}[c]
		}
	}
	return m
}

func TestShareAndLossCountTheLawnAlone(t *testing.T) {
	m := plot(
		"..+# ",
		"..@  ")
	m.Degree[4] = Bare // beyond the edge
	m.Degree[0] = 9    // no degree
	r := Read(m)
	require.Equal(t, 3, r.Cells)
	require.InDelta(t, 300.0/7, r.Percent, 1e-9)
	require.InDelta(t, 100*(.25+.6+1)/7, r.Loss, 1e-9)
	require.Empty(t, Read(plot("....")).Proposals)
	require.Zero(t, Read(plot("....")).Percent)
}

func TestPatchesAreMeasured(t *testing.T) {
	r := Read(plot(
		"..........",
		".######...",
		"..........",
		"......#...",
		".......#..",
		"........#.",
		".#........"))
	require.Len(t, r.Patches, 3)
	long, diagonal, one := r.Patches[0], r.Patches[1], r.Patches[2]
	require.InDelta(t, 90, long.Direction, 1e-6, "east to west")
	require.InDelta(t, 6, long.Elongation, 1e-6)
	require.InDelta(t, 4*math.Sqrt(3), long.Length, 1e-6, "four times the spread along it")
	require.InDelta(t, 135, diagonal.Direction, 1e-6, "to the south-east; corners hang together")
	require.InDelta(t, 3/math.Pi, one.Roundness, 1e-9, "a square")
	require.InDelta(t, 1, one.Elongation, 1e-9)
	ring := Read(plot(
		".......",
		"..###..",
		".##.##.",
		".#...#.",
		".##.##.",
		"..###..",
		".......")).Patches[0]
	require.InDelta(t, 5.0/21, ring.Hollow, 1e-9)
	arc := Read(plot(
		".......",
		"..###..",
		".#...#.",
		".......")).Patches[0]
	require.Zero(t, arc.Hollow, "open to the south")
}

func TestPatchesOfASizeAndTheirWidth(t *testing.T) {
	require.Zero(t, Read(plot(".#..", "....", "..#.")).Diameter, "a square says nothing of what is narrower than it")
	require.InDelta(t, 2*math.Sqrt(4/math.Pi), Read(plot("##...", "##...", "....#")).Diameter, 1e-9)
}

func TestClumpedEvenAndRandom(t *testing.T) {
	g := outline.NewGrid(outline.Shape{Outer: outline.Ring{{East: 0, North: 0}, {East: 30, North: 0}, {East: 30, North: 30}, {East: 0,
		North: 30}}})
	at := func(points ...outline.Point) Marked {
		m := Marked{Grid: g, Degree: make([]uint8, len(g.Inside))}
		for _, p := range points {
			if c, ok := g.Cell(p); ok {
				m.Degree[c] = Clear
			}
		}
		return m
	}
	var even, clumped []outline.Point
	for i := range 16 {
		even = append(even, outline.Point{East: 3.75 + 7.5*float64(i%4), North: 3.75 + 7.5*float64(i/4)})
		clumped = append(clumped, outline.Point{East: 2 + 1.7*float64(i%4), North: 2 + 1.7*float64(i/4)})
	}
	require.Equal(t, "even", Read(at(even...)).Arrangement)
	require.Greater(t, Read(at(even...)).Spacing, 1.5)
	require.Equal(t, "clumped", Read(at(clumped...)).Arrangement)
	require.Empty(t, Read(at(even[:5]...)).Arrangement, "too few")
	chance := rand.New(rand.NewPCG(1, 2))
	said := map[string]int{}
	for range 400 {
		var some []outline.Point
		for range 12 {
			some = append(some, outline.Point{East: chance.Float64() * 30, North: chance.Float64() * 30})
		}
		said[Read(at(some...)).Arrangement]++
	}
	require.Greater(t, said["random"], 400*88/100, "%v", said)
}

// TestAPlaceIsNotToldByChance lays patches anywhere: they must not often be said to lie at a place.
func TestAPlaceIsNotToldByChance(t *testing.T) {
	chance := rand.New(rand.NewPCG(3, 4))
	told := map[string]int{}
	for range 300 {
		f := lawn(chance)
		for range 2 + chance.IntN(4) {
			f.disc(f.anywhere(chance), 0, .8+chance.Float64(), .2, chance)
		}
		for _, p := range Read(f.Marked).Proposals {
			if p.Reason == ByPlace && p.Finding == "pattern" {
				told[p.Place]++
			}
		}
	}
	for place, n := range told {
		require.Less(t, n, 300*12/100, "%s: %v", place, told)
	}
}

func TestWheelsASpreaderAndOneStreakAreToldApart(t *testing.T) {
	first := func(m Marked) Proposal {
		p := Read(m).Proposals
		require.NotEmpty(t, p)
		return p[0]
	}
	require.Equal(t, Proposal{"pattern", "wheel-tracks", 1, ByPair, ""}, first(plot(
		"...............",
		".#############.",
		"...............",
		".#############.",
		"...............",
		"...............")))
	require.Equal(t, "lines-or-streaks", first(plot(
		"..........",
		".########.",
		"..........",
		"..........",
		"..........",
		".########.")).Value, "too far apart for wheels")
	require.Equal(t, "spreader-stripes", first(plot(
		"########..",
		"..........",
		"..........",
		"########..",
		"..........",
		"..........",
		"########..")).Value)
	require.Equal(t, "lines-or-streaks", first(plot(
		"########..",
		"..........",
		"########..",
		"..........",
		"..........",
		"..........",
		"..........",
		"########..")).Value, "unlike distances")
	require.Equal(t, "lines-or-streaks", first(plot(
		"########...",
		"...........",
		"..........#",
		"..........#",
		"...........",
		"######....#",
		"..........#",
		"..........#")).Value, "not parallel")
}

func TestWithoutAnOutlineOnlyTheShareIsTold(t *testing.T) {
	m := Marked{Grid: outline.PlainGrid(600), Degree: make([]uint8, outline.PlainColumns*outline.PlainRows)}
	for i := range 8 {
		m.Degree[i+12] = Clear
	}
	m.Things = []outline.Thing{{Kind: outline.HardEdge, Points: []outline.Point{{East: -20}, {East: 20}}}}
	r := Read(m)
	require.Empty(t, r.Proposals)
	require.Empty(t, r.Near)
	require.Zero(t, r.Diameter)
	for i := range m.Degree {
		m.Degree[i] = Slight
	}
	require.Equal(t, "uniform", Read(m).Proposals[0].Value)
}

func TestMarksMoveToANewOutline(t *testing.T) {
	shape := outline.Shape{Outer: outline.Ring{{East: 0, North: 0}, {East: 24, North: 0}, {East: 24, North: 16}, {East: 0, North: 16}}}
	old := outline.NewGrid(shape)
	degree := make([]uint8, len(old.Inside))
	cell, _ := old.Cell(outline.Point{East: 12.1, North: 8.1})
	degree[cell] = Bare
	larger := outline.NewGrid(outline.Shape{Outer: outline.Ring{{East: -9, North: -3}, {East: 60, North: 0}, {East: 60, North: 40},
		{East: 0, North: 40}}})
	moved := Moved(old, degree, larger)
	at, _ := larger.Cell(outline.Point{East: 12.1, North: 8.1})
	found := 0
	for i, d := range moved {
		if d == Bare {
			found++
			require.Less(t, larger.Centre(i).Away(larger.Centre(at)), 2*larger.Step)
		}
	}
	require.LessOrEqual(t, found, 2)
	plain := outline.PlainGrid(384)
	marks := make([]uint8, len(plain.Inside))
	for x := range 6 {
		for y := range 8 {
			marks[y*12+x] = Clear
		}
	}
	half := 0
	for _, d := range Moved(plain, marks, old) {
		if d == Clear {
			half++
		}
	}
	require.InDelta(t, .5, float64(half)/float64(len(old.Inside)), .03, "the western half stays half")
	require.Equal(t, make([]uint8, len(old.Inside)), Moved(plain, marks[:5], old), "marks that fit no grid are none")
}

func BenchmarkRead(b *testing.B) {
	chance := rand.New(rand.NewPCG(5, 6))
	f := lawn(chance)
	drawings["irregular-patches"](f, chance)
	for b.Loop() {
		Read(f.Marked)
	}
}
