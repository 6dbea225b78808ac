package outline

import (
	"fmt"
	"math"
)

// Kinds of what a site map holds: the lawn of a zone, and what lies on or along lawns.
const (
	Lawn      = "zone"
	HardEdge  = "hard-edge"
	Tree      = "tree"
	Sprinkler = "sprinkler"
	Slope     = "slope"
	Buried    = "buried"
)

// kindRow says as what a kind may be drawn, and how far a point of it may reach, m: 0 where it has no reach.
type kindRow struct {
	kind              string
	point, line, ring bool
	reach             float64
}

var kindRows = []kindRow{
	{kind: Lawn, ring: true},
	{kind: HardEdge, line: true, ring: true},
	{kind: Tree, point: true, reach: 40},
	{kind: Sprinkler, point: true, reach: 60},
	{kind: Slope, line: true},
	{kind: Buried, point: true, line: true, ring: true},
}

// Kinds lists them.
func Kinds() []string {
	out := make([]string, len(kindRows))
	for i, r := range kindRows {
		out[i] = r.kind
	}
	return out
}

// Thing is something on or along a lawn: a point with its reach, a line (a slope from its top to its foot), or a ring.
type Thing struct {
	Kind   string
	Name   string
	Points []Point
	Closed bool    // the points are a ring
	Reach  float64 // m: of a sprinkler's throw, of a tree's crown
}

// Away is how far a point lies from the thing, m; 0 within a ring.
func (t Thing) Away(p Point) float64 {
	if len(t.Points) == 1 {
		return p.Away(t.Points[0])
	}
	if t.Closed && Ring(t.Points).Contains(p) {
		return 0
	}
	least := math.Inf(1)
	for i := range t.Points {
		j := i + 1
		if j == len(t.Points) {
			if !t.Closed {
				break
			}
			j = 0
		}
		least = math.Min(least, Apart(p, t.Points[i], t.Points[j]))
	}
	return least
}

// Mapped is an entry of a site map by its places on the earth.
type Mapped struct {
	Kind   string
	Name   string
	Places []Place   // a point, a line, or the outer ring, of which the first is not repeated
	Closed bool      // it is a ring
	Holes  [][]Place // of a ring
	Reach  float64   // m
	Error  float64   // m, within which a place was taken in 95 of 100 cases
}

// What a site map is held to (judgement): beyond, something else was meant.
const (
	MostPlaces  = 2000    // of one line or ring
	MostHoles   = 50      // of one ring
	MostEntries = 400     // of one site
	farthest    = 5000.0  // m from the site
	largestLawn = 10000e3 // m²
	smallest    = 1.0     // m²
	worstError  = 100.0   // m
)

// Wrong says what is wrong with an entry of the map of a site that lies at a place, and with which of its fields: "kind", "reach_m",
// "error_m" or "geometry". Both are empty when nothing is.
func (m Mapped) Wrong(site Place) (field, reason string) {
	var row kindRow
	for _, r := range kindRows {
		if r.kind == m.Kind {
			row = r
		}
	}
	switch {
	case row.kind == "":
		return "kind", "is none of zone, hard-edge, tree, sprinkler, slope, buried"
	case !(m.Error >= 0 && m.Error <= worstError):
		return "error_m", fmt.Sprintf("lies between 0 and %.0f m", worstError)
	case row.reach > 0 && !(m.Reach > 0 && m.Reach <= row.reach):
		return "reach_m", fmt.Sprintf("of a %s lies between 0 and %.0f m", m.Kind, row.reach)
	case row.reach == 0 && m.Reach != 0:
		return "reach_m", "only a tree and a sprinkler have a reach"
	}
	if reason := m.form(row); reason != "" {
		return "geometry", reason
	}
	for _, ring := range append([][]Place{m.Places}, m.Holes...) {
		if reason := misplaced(ring, site); reason != "" {
			return "geometry", reason
		}
	}
	if m.Closed {
		if reason := m.Shape(NewPlane(site)).wrong(); reason != "" {
			return "geometry", reason
		}
	}
	return "", ""
}

func (m Mapped) form(row kindRow) string {
	n := len(m.Places)
	switch {
	case n > MostPlaces:
		return fmt.Sprintf("has more than %d positions", MostPlaces)
	case len(m.Holes) > MostHoles:
		return fmt.Sprintf("has more than %d holes", MostHoles)
	case n == 0:
		return "is empty"
	case m.Closed && !row.ring, !m.Closed && n == 1 && !row.point, !m.Closed && n > 1 && !row.line:
		return fmt.Sprintf("a %s is not drawn as this", m.Kind)
	case m.Closed && n < 3:
		return "a ring has at least three corners"
	}
	for _, h := range m.Holes {
		if len(h) < 3 || len(h) > MostPlaces {
			return "a hole has at least three corners, and no more than the outline may have"
		}
	}
	return ""
}

// misplaced says why places cannot be of a site: off the globe, turned over, or far away.
func misplaced(places []Place, site Place) string {
	plane := NewPlane(site)
	for _, p := range places {
		if math.IsNaN(p.Latitude) || math.IsNaN(p.Longitude) || math.Abs(p.Longitude) > 180 || math.Abs(p.Latitude) > 180 {
			return "a position lies off the globe"
		}
		turned := Place{p.Latitude, p.Longitude}
		away := math.Inf(1)
		if math.Abs(p.Latitude) <= 90 {
			away = plane.Point(p).Away(Point{})
		}
		if away <= farthest {
			continue
		}
		if math.Abs(turned.Latitude) <= 90 && plane.Point(turned).Away(Point{}) <= farthest {
			return "longitude and latitude are the wrong way round: longitude comes first"
		}
		if math.IsInf(away, 1) {
			return "a latitude lies beyond 90°"
		}
		return fmt.Sprintf("lies %.0f km from the site", away/1000)
	}
	return ""
}

// wrong says why a shape is no lawn, or "".
func (s Shape) wrong() string {
	for _, r := range append([]Ring{s.Outer}, s.Holes...) {
		if one, other, crosses := r.Crossing(); crosses {
			return fmt.Sprintf("crosses or touches itself: side %d and side %d", one+1, other+1)
		}
	}
	for _, h := range s.Holes {
		for _, p := range h {
			if !s.Outer.Contains(p) {
				return "a hole lies outside the outline"
			}
		}
	}
	switch a := s.Area(); {
	case a < smallest:
		return fmt.Sprintf("is smaller than %.0f m²", smallest)
	case a > largestLawn:
		return fmt.Sprintf("is larger than %.0f km²", largestLawn/1e6)
	}
	return ""
}

// Shape is a ring in a plane.
func (m Mapped) Shape(p Plane) Shape {
	s := Shape{Outer: p.line(m.Places)}
	for _, h := range m.Holes {
		s.Holes = append(s.Holes, p.line(h))
	}
	return s
}

// Thing is the entry in a plane.
func (m Mapped) Thing(p Plane) Thing {
	return Thing{Kind: m.Kind, Name: m.Name, Points: p.line(m.Places), Closed: m.Closed, Reach: m.Reach}
}

func (p Plane) line(places []Place) []Point {
	out := make([]Point, len(places))
	for i, x := range places {
		out[i] = p.Point(x)
	}
	return out
}

// Places are the points of a line on the earth.
func (p Plane) Places(points []Point) []Place {
	out := make([]Place, len(points))
	for i, x := range points {
		out[i] = p.Place(x)
	}
	return out
}
