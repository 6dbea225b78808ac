package outline

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
)

func square(side float64) Ring { return Ring{{0, 0}, {side, 0}, {side, side}, {0, side}} }

func TestThePlaneKeepsLengthsAndComesBack(t *testing.T) {
	// lengths of a degree from the tables of the ellipsoid
	for lat, want := range map[float64][2]float64{0: {111319.5, 110574.3}, 37.5: {88417, 110984}, -36: {90164, 110958}, 60: {55800,
		111412}} {
		p := NewPlane(Place{170, lat})
		east, north := p.Point(Place{171, lat}).East, p.Point(Place{170, lat + 1}).North
		require.InEpsilon(t, want[0], east, 5e-4, "%v", lat)
		require.InEpsilon(t, want[1], north, 5e-4, "%v", lat)
	}
	p := NewPlane(Place{179.9999, -36})
	over := p.Point(Place{-179.9999, -36})
	require.InDelta(t, 18.03, over.East, .02, "across the line of the date")
	back := p.Place(over)
	require.InDelta(t, -179.9999, back.Longitude, 1e-9)
	require.InDelta(t, -36, back.Latitude, 1e-9)
	require.False(t, math.IsNaN(NewPlane(Place{0, 90}).Place(Point{1, 1}).Longitude))
}

func TestAreasWithWhatIsCutOut(t *testing.T) {
	s := Shape{Outer: square(20), Holes: []Ring{{{5, 5}, {10, 5}, {10, 10}, {5, 10}}}}
	require.InDelta(t, 375, s.Area(), 1e-9)
	require.True(t, s.Contains(Point{1, 1}))
	require.False(t, s.Contains(Point{7, 7}), "a bed")
	require.False(t, s.Contains(Point{21, 1}))
	require.True(t, s.Outer.Leftward())
	// each of four corners moves the area by half a diagonal: 2·√(½·20²·2)… by hand for 2 m at 95 %
	sigma := 2 / 2.448
	want := 1.96 * sigma / 2 * math.Sqrt(4*800+4*50) / 375
	require.InDelta(t, want, s.AreaError(2), 1e-9)
	require.InDelta(t, 1, s.AreaError(1000), 1e-9, "never more than all of it")
}

func TestCrossings(t *testing.T) {
	for name, c := range map[string]struct {
		r    Ring
		want bool
	}{
		"square":             {square(3), false},
		"bow tie":            {Ring{{0, 0}, {3, 3}, {3, 0}, {0, 3}}, true},
		"a corner on a side": {Ring{{0, 0}, {4, 0}, {4, 4}, {2, 0}, {0, 4}}, true},
		"out and back":       {Ring{{0, 0}, {4, 0}, {2, 0}, {2, 3}}, true},
		"a flat triangle":    {Ring{{0, 0}, {4, 0}, {2, 0}}, true},
		"a straight corner":  {Ring{{0, 0}, {2, 0}, {4, 0}, {4, 4}}, false},
	} {
		_, _, crosses := c.r.Crossing()
		require.Equal(t, c.want, crosses, name)
	}
}

func TestSteppedShapes(t *testing.T) {
	for _, c := range []struct {
		s     Stepped
		area  float64
		error float64
	}{
		{Stepped{"rectangle", []float64{30, 20}, 17}, 600, .05 * math.Sqrt2},
		{Stepped{"l-shape", []float64{30, 20, 10, 5}, 200}, 550, -1},
		{Stepped{"triangle", []float64{3, 4, 5}, 0}, 6, -1},
		{Stepped{"circle", []float64{10}, 0}, 25 * math.Pi, .1025},
	} {
		r, e, err := c.s.Ring(.05)
		require.NoError(t, err)
		require.InEpsilon(t, c.area, r.Area(), 1e-9, c.s.Kind)
		if c.error > 0 {
			require.InDelta(t, c.error, e, 1e-9, c.s.Kind)
		}
		require.Greater(t, e, .049, c.s.Kind)
		low, high := Shape{Outer: r}.Box()
		require.InDelta(t, 0, low.East+high.East, 4, "about its middle")
	}
	r, _, err := Stepped{"rectangle", []float64{30, 1}, 90}.Ring(0)
	require.NoError(t, err)
	low, high := Shape{Outer: r}.Box()
	require.InDelta(t, 30, high.East-low.East, 1e-9, "a bearing of 90° lays the first side to the east")
	for _, bad := range []Stepped{{"oval", []float64{1}, 0}, {"rectangle", []float64{1}, 0}, {"circle", []float64{0}, 0},
		{"circle", []float64{math.NaN()}, 0}, {"triangle", []float64{1, 1, 2}, 0}, {"l-shape", []float64{5, 5, 5, 1}, 0}, {"circle",
			[]float64{6000}, 0}} {
		_, _, err := bad.Ring(.05)
		require.Error(t, err, "%v", bad)
	}
}

func TestAWalkedRingIsThinnedToItsCorners(t *testing.T) {
	var walked Ring
	for i := range 40 {
		wobble := .2 * math.Sin(float64(i)*2)
		switch d := float64(i % 10); i / 10 {
		case 0:
			walked = append(walked, Point{d * 2, wobble})
		case 1:
			walked = append(walked, Point{20 + wobble, d * 2})
		case 2:
			walked = append(walked, Point{20 - d*2, 20 + wobble})
		default:
			walked = append(walked, Point{wobble, 20 - d*2})
		}
	}
	thin := walked.Thinned(.5)
	require.Len(t, thin, 4)
	require.InEpsilon(t, 400, thin.Area(), .03)
	require.Equal(t, square(5), square(5).Thinned(.5))
	require.Len(t, Ring{{0, 0}, {1, 0}, {2, .1}, {3, 0}, {4, 0}, {5, .1}}.Thinned(.5), 6, "never to a line")
}

func TestAWalkThatGoesOnPastItsStartIsJoined(t *testing.T) {
	var walked Ring
	for _, leg := range [][2]Point{{{0, 0}, {20, 0}}, {{20, 0}, {20, 15}}, {{20, 15}, {0, 15}}, {{0, 15}, {0, 0}}, {{.6, -.5}, {6, .7}}} {
		for k := range 10 {
			t := float64(k) / 10
			walked = append(walked, Point{leg[0].East + t*(leg[1].East-leg[0].East), leg[0].North + t*(leg[1].North-leg[0].North)})
		}
	}
	_, _, crosses := walked.Crossing()
	require.True(t, crosses, "as it was walked it crosses itself")
	joined := walked.Joined(4).Thinned(.4)
	_, _, crosses = joined.Crossing()
	require.False(t, crosses)
	require.InEpsilon(t, 300, joined.Area(), .05)
	open := walked[:25]
	require.Equal(t, open, open.Joined(4), "a walk that never came back is left as it is")
	require.Equal(t, square(5), square(5).Joined(4))
}

func TestTheGridIsAboutOneStepAndClipped(t *testing.T) {
	g := NewGrid(Shape{Outer: Ring{{0, 0}, {30, 0}, {30, 10}, {15, 10}, {15, 20}, {0, 20}}})
	require.InDelta(t, .75, g.Step, 0)
	require.Equal(t, 40, g.Columns)
	require.Equal(t, 27, g.Rows)
	require.InEpsilon(t, 450, float64(g.Lawn())*g.Step*g.Step, .02)
	cell, ok := g.Cell(Point{29.9, 19})
	require.True(t, ok)
	require.False(t, g.Inside[cell], "the corner that is cut out")
	cell, ok = g.Cell(Point{1, 1})
	require.True(t, ok && g.Inside[cell])
	require.Less(t, g.Centre(cell).Away(Point{1, 1}), .75)
	for _, p := range []Point{{-2, 1}, {31, 1}, {1, -2}, {1, 22}} {
		_, ok := g.Cell(p)
		require.False(t, ok, "%v", p)
	}
	big := NewGrid(Shape{Outer: square(200)})
	require.InDelta(t, 6, big.Step, 0)
	require.LessOrEqual(t, len(big.Inside), mostCells)
	strip := NewGrid(Shape{Outer: Ring{{0, 0}, {20, 0}, {20, .2}, {0, .2}}})
	require.Positive(t, strip.Lawn(), "a strip narrower than half a step still has squares")
	plain := PlainGrid(960)
	require.InEpsilon(t, 960, float64(plain.Lawn())*plain.Step*plain.Step, 1e-9)
	require.True(t, plain.Plain)
}
