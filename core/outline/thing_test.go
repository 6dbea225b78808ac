package outline

import (
	"testing"

	"github.com/stretchr/testify/require"
)

var home = Place{-97.5, 37.5}

func placed(points ...Point) []Place { return NewPlane(home).Places(points) }

func TestWhatIsNoEntryOfASiteMap(t *testing.T) {
	ok := Mapped{Kind: Lawn, Places: placed(square(20)...), Closed: true}
	field, reason := ok.Wrong(home)
	require.Empty(t, field+reason)
	require.InEpsilon(t, 400, ok.Shape(NewPlane(home)).Area(), 1e-6)
	turned := func(list []Place) []Place {
		out := []Place{}
		for _, p := range list {
			out = append(out, Place{p.Latitude, p.Longitude})
		}
		return out
	}
	for name, c := range map[string]struct {
		change func(*Mapped)
		field  string
		reason string
	}{
		"kind":           {func(m *Mapped) { m.Kind = "pond" }, "kind", "none of"},
		"error":          {func(m *Mapped) { m.Error = -1 }, "error_m", "between"},
		"reach":          {func(m *Mapped) { m.Reach = 3 }, "reach_m", "only"},
		"no reach":       {func(m *Mapped) { *m = Mapped{Kind: Tree, Places: m.Places[:1]} }, "reach_m", "between 0 and 40"},
		"empty":          {func(m *Mapped) { m.Places = nil }, "geometry", "empty"},
		"a lawn as line": {func(m *Mapped) { m.Closed = false }, "geometry", "not drawn"},
		"a tree as line": {func(m *Mapped) { *m = Mapped{Kind: Tree, Reach: 2, Places: m.Places} }, "geometry", "not drawn"},
		"two corners":    {func(m *Mapped) { m.Places = m.Places[:2] }, "geometry", "three corners"},
		"many":           {func(m *Mapped) { m.Places = make([]Place, MostPlaces+1) }, "geometry", "positions"},
		"holes":          {func(m *Mapped) { m.Holes = make([][]Place, MostHoles+1) }, "geometry", "holes"},
		"small hole":     {func(m *Mapped) { m.Holes = [][]Place{m.Places[:2]} }, "geometry", "hole"},
		"hole outside": {func(m *Mapped) { m.Holes = [][]Place{placed(Point{30, 0}, Point{31, 0}, Point{31, 1})} }, "geometry",
			"outside"},
		"crossed": {func(m *Mapped) { m.Places = placed(Point{0, 0}, Point{9, 9}, Point{9, 0}, Point{0, 9}) }, "geometry",
			"side 1 and side 3"},
		"turned":        {func(m *Mapped) { m.Places = turned(m.Places) }, "geometry", "wrong way round"},
		"off":           {func(m *Mapped) { m.Places = []Place{{500, 1}, {1, 2}, {2, 3}} }, "geometry", "globe"},
		"beyond a pole": {func(m *Mapped) { m.Places = []Place{{10, 95}, {1, 2}, {2, 3}} }, "geometry", "beyond 90"},
		"far":           {func(m *Mapped) { m.Places = []Place{{-97.5, 38.5}, {-97.6, 38.5}, {-97.5, 38.6}} }, "geometry", "lies 111 km"},
		"small":         {func(m *Mapped) { m.Places = placed(square(.5)...) }, "geometry", "smaller"},
		"large": {func(m *Mapped) {
			m.Places = placed(Point{-2500, -2500}, Point{2500, -2500}, Point{2500, 2500}, Point{-2500, 2500})
		}, "geometry", "larger"},
	} {
		m := ok
		c.change(&m)
		field, reason := m.Wrong(home)
		require.Equal(t, c.field, field, name)
		require.Contains(t, reason, c.reason, name)
	}
	for _, m := range []Mapped{{Kind: Slope, Places: placed(Point{0, 0}, Point{0, 9})}, {Kind: Tree, Places: placed(Point{}), Reach: 4},
		{Kind: HardEdge, Places: placed(square(3)...), Closed: true}, {Kind: Buried, Places: placed(Point{})}} {
		field, reason := m.Wrong(home)
		require.Empty(t, field+reason, m.Kind)
	}
	require.Len(t, Kinds(), 6)
}

func TestHowFarAThingIs(t *testing.T) {
	line := Thing{Points: []Point{{0, 0}, {10, 0}, {10, 10}}}
	require.InDelta(t, 3, line.Away(Point{5, -3}), 1e-9)
	require.InDelta(t, 5, line.Away(Point{0, 5}), 1e-9, "it is open")
	line.Closed = true
	require.InDelta(t, 0, line.Away(Point{8, 3}), 1e-9)
	require.InDelta(t, 2, Thing{Points: []Point{{1, 1}}}.Away(Point{1, 3}), 1e-9)
}
