package outline

import (
	"math"
	"slices"
)

// Ring is a closed line of corners; the first is not repeated at the end.
type Ring []Point

// Area of the ring in m², whichever way round it goes (shoelace formula).
func (r Ring) Area() float64 { return math.Abs(r.signed()) }

// Leftward reports whether the ring goes round against the clock.
func (r Ring) Leftward() bool { return r.signed() > 0 }

func (r Ring) signed() float64 {
	sum := 0.0
	for i, p := range r {
		q := r[(i+1)%len(r)]
		sum += p.East*q.North - q.East*p.North
	}
	return sum / 2
}

// Contains reports whether a point lies within the ring.
func (r Ring) Contains(p Point) bool {
	in := false
	for i, a := range r {
		b := r[(i+1)%len(r)]
		if (a.North > p.North) != (b.North > p.North) && p.East < a.East+(p.North-a.North)/(b.North-a.North)*(b.East-a.East) {
			in = !in
		}
	}
	return in
}

// Crossing finds two sides of the ring that cross or touch one another, by the number of their first corners; false when there are none.
func (r Ring) Crossing() (one, other int, crosses bool) {
	n := len(r)
	for i := range n {
		for j := i + 1; j < n; j++ {
			if j == i+1 || (i == 0 && j == n-1) {
				// neighbours share a corner; they may still run back over one another
				if back(r[i], r[(i+1)%n], r[j], r[(j+1)%n], j == i+1) {
					return i, j, true
				}
				continue
			}
			if meet(r[i], r[i+1], r[j], r[(j+1)%n]) {
				return i, j, true
			}
		}
	}
	return 0, 0, false
}

// side says on which side of the line from a to b a point lies: above 0 to the left.
func side(a, b, p Point) float64 {
	return (b.East-a.East)*(p.North-a.North) - (b.North-a.North)*(p.East-a.East)
}

func within(a, b, p Point) bool {
	return math.Min(a.East, b.East) <= p.East && p.East <= math.Max(a.East, b.East) &&
		math.Min(a.North, b.North) <= p.North && p.North <= math.Max(a.North, b.North)
}

func meet(a, b, c, d Point) bool {
	s1, s2, s3, s4 := side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)
	if s1*s2 < 0 && s3*s4 < 0 {
		return true
	}
	return (s1 == 0 && within(a, b, c)) || (s2 == 0 && within(a, b, d)) || (s3 == 0 && within(c, d, a)) || (s4 == 0 && within(c, d, b))
}

// back reports whether two neighbouring sides run back over one another; forward when the second begins where the first ends.
func back(a, b, c, d Point, forward bool) bool {
	common, p, q := b, a, d
	if !forward {
		common, p, q = a, b, c
	}
	u, v := p.minus(common), q.minus(common)
	return side(common, p, q) == 0 && u.East*v.East+u.North*v.North > 0
}

// Shape is a zone's lawn: its outer edge, and what is cut out of it (beds, a terrace).
type Shape struct {
	Outer Ring
	Holes []Ring
}

// Area of the lawn in m².
func (s Shape) Area() float64 {
	a := s.Outer.Area()
	for _, h := range s.Holes {
		a -= h.Area()
	}
	return a
}

// Contains reports whether a point lies on the lawn.
func (s Shape) Contains(p Point) bool {
	return s.Outer.Contains(p) && !slices.ContainsFunc(s.Holes, func(h Ring) bool { return h.Contains(p) })
}

// Box is the smallest upright rectangle about the shape.
func (s Shape) Box() (low, high Point) {
	low, high = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, p := range s.Outer {
		low = Point{math.Min(low.East, p.East), math.Min(low.North, p.North)}
		high = Point{math.Max(high.East, p.East), math.Max(high.North, p.North)}
	}
	return low, high
}

// AreaError is the 95 % error of the area as a fraction of it, when every corner was measured to within so many metres in 95 of 100
// cases, each by itself. Propagated through the shoelace formula: a corner moves the area by half the line between its neighbours.
func (s Shape) AreaError(corner float64) float64 {
	const radius95, normal95 = 2.448, 1.96 // of a two-sided normal error of unit spread in the plane, and on a line
	sum := 0.0
	for _, r := range append([]Ring{s.Outer}, s.Holes...) {
		for i := range r {
			d := r[(i+1)%len(r)].Away(r[(i+len(r)-1)%len(r)])
			sum += d * d
		}
	}
	return math.Min(1, normal95*corner/radius95/2*math.Sqrt(sum)/s.Area())
}

// Joined ends a walked ring where it comes back to its beginning: whoever walks round a lawn goes on a few steps past the start, and the
// last steps would cross the first. Cut off is what follows the nearest return to the first point, if that lies within so many metres.
func (r Ring) Joined(within float64) Ring {
	if len(r) < 6 {
		return r
	}
	far := 0
	for i := range r {
		if r[i].Away(r[0]) > r[far].Away(r[0]) {
			far = i
		}
	}
	nearest := -1
	for i := far + 1; i < len(r); i++ {
		if d := r[i].Away(r[0]); d <= within && (nearest < 0 || d < r[nearest].Away(r[0])) {
			nearest = i
		}
	}
	if nearest < 3 {
		return r
	}
	return r[:nearest]
}

// Thinned leaves out the corners of a walked ring that lie within so many metres of the line without them (Douglas and Peucker 1973).
func (r Ring) Thinned(within float64) Ring {
	if len(r) < 5 {
		return r
	}
	far := 0
	for i := range r {
		if r[i].Away(r[0]) > r[far].Away(r[0]) {
			far = i
		}
	}
	closed := append(slices.Clone(r), r[0])
	keep := make([]bool, len(closed))
	keep[0], keep[far] = true, true
	thin(closed, 0, far, within, keep)
	thin(closed, far, len(closed)-1, within, keep)
	out := Ring{}
	for i, p := range r {
		if keep[i] {
			out = append(out, p)
		}
	}
	if len(out) < 3 {
		return r
	}
	return out
}

func thin(r Ring, from, to int, within float64, keep []bool) {
	most, at := within, -1
	for i := from + 1; i < to; i++ {
		if d := Apart(r[i], r[from], r[to]); d > most {
			most, at = d, i
		}
	}
	if at < 0 {
		return
	}
	keep[at] = true
	thin(r, from, at, within, keep)
	thin(r, at, to, within, keep)
}

// Apart is the distance of a point from the piece of line between a and b, in m.
func Apart(p, a, b Point) float64 {
	t := Along(p, a, b)
	t = math.Max(0, math.Min(1, t))
	return p.Away(Point{a.East + t*(b.East-a.East), a.North + t*(b.North-a.North)})
}

// Along is how far along the line from a to b a point lies: 0 at a, 1 at b, below and above these beyond them; 0 where a and b are one.
func Along(p, a, b Point) float64 {
	d := b.minus(a)
	if l := d.East*d.East + d.North*d.North; l > 0 {
		return ((p.East-a.East)*d.East + (p.North-a.North)*d.North) / l
	}
	return 0
}
