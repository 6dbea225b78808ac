package outline

import (
	"fmt"
	"math"
)

// Stepped is a plain shape whose sides were paced or taped.
type Stepped struct {
	Kind string
	// Sides in m: length and width; length, width, and length and width of the corner cut out; three sides; the width of a circle.
	Sides []float64
	// Bearing of the first side in degrees, clockwise from north.
	Bearing float64
}

// steppedKinds says how many sides each shape has.
var steppedKinds = map[string]int{"rectangle": 2, "l-shape": 4, "triangle": 3, "circle": 1}

// PaceError is the 95 % error of a length that was paced, as a fraction of it (judgement).
const PaceError = 0.05

// roundCorners is with how many corners a circle is drawn.
const roundCorners = 32

// Ring is the outline about its middle, with its 95 % area error as a fraction when each side is known to within so large a fraction of it.
func (s Stepped) Ring(sideError float64) (Ring, float64, error) {
	n, known := steppedKinds[s.Kind]
	if !known {
		return nil, 0, fmt.Errorf("%q is not a rectangle, l-shape, triangle or circle", s.Kind)
	}
	if len(s.Sides) != n {
		return nil, 0, fmt.Errorf("a %s takes %d lengths, not %d", s.Kind, n, len(s.Sides))
	}
	for _, x := range s.Sides {
		if !(x > 0 && x <= 5000) {
			return nil, 0, fmt.Errorf("a length lies between 0 and 5000 m, not %v", x)
		}
	}
	r, err := s.corners()
	if err != nil {
		return nil, 0, err
	}
	return s.turned(r), s.areaError(sideError), nil
}

func (s Stepped) corners() (Ring, error) {
	a := s.Sides
	switch s.Kind {
	case "rectangle":
		return Ring{{0, 0}, {0, a[0]}, {a[1], a[0]}, {a[1], 0}}, nil
	case "l-shape":
		if a[2] >= a[0] || a[3] >= a[1] {
			return nil, fmt.Errorf("the corner cut out is as large as the whole")
		}
		return Ring{{0, 0}, {0, a[0]}, {a[1] - a[3], a[0]}, {a[1] - a[3], a[0] - a[2]}, {a[1], a[0] - a[2]}, {a[1], 0}}, nil
	case "triangle":
		// the first side runs north; the third corner by the law of cosines
		north := (a[0]*a[0] + a[2]*a[2] - a[1]*a[1]) / (2 * a[0])
		east2 := a[2]*a[2] - north*north
		if east2 <= 0 {
			return nil, fmt.Errorf("one side is longer than the other two together")
		}
		return Ring{{0, 0}, {0, a[0]}, {math.Sqrt(east2), north}}, nil
	default:
		// as large as the circle, not within it
		wedge := 2 * math.Pi / roundCorners
		radius := a[0] / 2 * math.Sqrt(wedge/math.Sin(wedge))
		r := make(Ring, roundCorners)
		for i := range r {
			r[i] = Point{radius * math.Sin(float64(i)*wedge), radius * math.Cos(float64(i)*wedge)}
		}
		return r, nil
	}
}

// turned turns the ring to its bearing, about its middle.
func (s Stepped) turned(r Ring) Ring {
	low, high := Shape{Outer: r}.Box()
	mid := Point{(low.East + high.East) / 2, (low.North + high.North) / 2}
	sin, cos := math.Sincos(s.Bearing * math.Pi / 180)
	out := make(Ring, len(r))
	for i, p := range r {
		d := p.minus(mid)
		out[i] = Point{d.East*cos + d.North*sin, d.North*cos - d.East*sin}
	}
	return out
}

// areaError adds up what the error of each side does to the area, side by side, as independent errors.
func (s Stepped) areaError(side float64) float64 {
	area := s.area(s.Sides)
	sum := 0.0
	for i := range s.Sides {
		more := append([]float64{}, s.Sides...)
		more[i] *= 1 + side
		d := s.area(more)/area - 1
		sum += d * d
	}
	return math.Min(1, math.Sqrt(sum))
}

func (s Stepped) area(sides []float64) float64 {
	r, err := Stepped{Kind: s.Kind, Sides: sides}.corners()
	if err != nil {
		// a triangle on the verge of being a line
		return 0
	}
	return r.Area()
}
