// Package outline is a lawn from above: the outline of a zone in a flat plane about its site, its area with the error that it was
// measured with, and the step grid that is laid over it.
package outline

import "math"

// Place is a position on the earth in degrees, WGS 84: longitude −180 to 180, latitude −90 to 90.
type Place struct{ Longitude, Latitude float64 }

// Point is a position in the plane about a site, in metres.
type Point struct{ East, North float64 }

func (p Point) minus(q Point) Point { return Point{p.East - q.East, p.North - q.North} }

// Away is the distance to another point in m.
func (p Point) Away(q Point) float64 { return math.Hypot(p.East-q.East, p.North-q.North) }

// Plane is a flat sheet that touches the earth at a place. Over the few hundred metres of a site it is true to some mm.
type Plane struct {
	at          Place
	east, north float64 // m per degree
}

// The ellipsoid of WGS 84.
const (
	halfAxis     = 6378137.0
	eccentricity = 6.69437999014e-3 // squared
)

// NewPlane lays a plane at a place, with the radii of curvature of the ellipsoid there (meridian and prime vertical).
func NewPlane(at Place) Plane {
	lat := at.Latitude * math.Pi / 180
	w := 1 - eccentricity*math.Sin(lat)*math.Sin(lat)
	meridian := halfAxis * (1 - eccentricity) / math.Pow(w, 1.5)
	across := halfAxis / math.Sqrt(w) * math.Max(math.Cos(lat), 1e-6)
	return Plane{at: at, east: across * math.Pi / 180, north: meridian * math.Pi / 180}
}

// Point is where a place lies in the plane; a site on the line of the date is not torn in two.
func (p Plane) Point(x Place) Point {
	lon := math.Mod(x.Longitude-p.at.Longitude+540, 360) - 180
	return Point{lon * p.east, (x.Latitude - p.at.Latitude) * p.north}
}

// Place is the way back.
func (p Plane) Place(x Point) Place {
	lon := p.at.Longitude + x.East/p.east
	return Place{math.Mod(lon+540, 360) - 180, p.at.Latitude + x.North/p.north}
}
