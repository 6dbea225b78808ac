// Package mapfile reads and writes the map of a site as GeoJSON (RFC 7946): the lawns of its zones, and what lies on and along them.
// The properties are described in docs/formats.md. A reader refuses the whole file, with the place in it and the reason, or takes it.
package mapfile

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"

	"hodos/core/outline"
	"hodos/exchange/refusal"
)

// MaxBytes is the largest file that is read: a site with all its outlines fits ten times over (judgement).
const MaxBytes = 2 << 20

// Entry is one feature of the file.
type Entry struct {
	outline.Mapped
	Zone string // the name of the zone that it is the lawn of; empty for anything else
	How  string // file, walked, stepped, drawn: how it was taken
}

// usualError is what a position from a map file without its own error is taken to be good for, m (judgement).
const usualError = 0.5

// longestName in bytes.
const longestName = 120

// hows are the ways in which an entry is taken.
var hows = []string{"file", "walked", "stepped", "drawn"}

type (
	collection struct {
		Type     string          `json:"type"`
		CRS      json.RawMessage `json:"crs,omitempty"`
		Features []feature       `json:"features"`
	}
	feature struct {
		Type       string     `json:"type"`
		Properties properties `json:"properties"`
		Geometry   *geometry  `json:"geometry"`
	}
	geometry struct {
		Type        string          `json:"type"`
		Coordinates json.RawMessage `json:"coordinates"`
	}
	properties struct {
		Kind  string   `json:"kind,omitempty"`
		Zone  string   `json:"zone,omitempty"`
		Name  string   `json:"name,omitempty"`
		Reach float64  `json:"reach_m,omitempty"`
		Error *float64 `json:"error_m,omitempty"`
		How   string   `json:"how,omitempty"`
	}
)

// Read reads the map of a site that lies at a place and has zones of these names. The error is a *refusal.Refusal, or the reader's own.
func Read(r io.Reader, site outline.Place, zones []string) ([]Entry, error) {
	b, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return nil, err
	}
	refused := &refusal.Refusal{}
	if len(b) > MaxBytes {
		refused.Add(0, "file", "is larger than %d MiB", MaxBytes>>20)
		return nil, refused
	}
	var c collection
	if err := json.Unmarshal(bytes.TrimPrefix(b, []byte("\ufeff")), &c); err != nil {
		refused.Add(0, "file", "is not GeoJSON: %s", plainly(err))
		return nil, refused
	}
	switch {
	case c.Type != "FeatureCollection":
		refused.Add(0, "type", "is not FeatureCollection")
	case len(c.CRS) > 0 && string(c.CRS) != "null" && !bytes.Contains(c.CRS, []byte("CRS84")):
		refused.Add(0, "crs", "positions are taken as longitude and latitude (WGS 84) alone")
	case len(c.Features) == 0:
		refused.Add(0, "features", "is empty")
	case len(c.Features) > outline.MostEntries:
		refused.Add(0, "features", "has more than %d entries", outline.MostEntries)
	}
	if refused.Count > 0 {
		return nil, refused
	}
	var out []Entry
	seen := map[string]int{}
	for i, f := range c.Features {
		e, ok := f.entry(fmt.Sprintf("features[%d]", i), site, zones, refused)
		if !ok {
			continue
		}
		if e.Zone != "" {
			if at, twice := seen[e.Zone]; twice {
				refused.Add(0, fmt.Sprintf("features[%d].properties.zone", i), "%s is outlined by features[%d] already", e.Zone, at)
			}
			seen[e.Zone] = i
		}
		out = append(out, e)
	}
	if refused.Count > 0 {
		return nil, refused
	}
	return out, nil
}

// plainly shortens the words of the JSON reader, which name Go types.
func plainly(err error) string {
	if t, ok := err.(*json.UnmarshalTypeError); ok {
		return fmt.Sprintf("a %s stands where something else is expected, at %s", t.Value, t.Field)
	}
	return err.Error()
}

func (f feature) entry(where string, site outline.Place, zones []string, refused *refusal.Refusal) (Entry, bool) {
	before := refused.Count
	p := f.Properties
	e := Entry{Mapped: outline.Mapped{Kind: p.Kind, Name: strings.TrimSpace(p.Name), Reach: p.Reach, Error: usualError}, How: p.How}
	if p.Error != nil {
		e.Error = *p.Error
	}
	if e.How == "" {
		e.How = "file"
	}
	if f.Type != "Feature" {
		refused.Add(0, where+".type", "is not Feature")
	}
	if !slices.Contains(hows, e.How) {
		refused.Add(0, where+".properties.how", "is none of %s", strings.Join(hows, ", "))
	}
	if len(e.Name) > longestName || strings.ContainsFunc(e.Name, func(r rune) bool { return r < ' ' || r == 0x7f }) {
		refused.Add(0, where+".properties.name", "is longer than %d characters, or has control characters", longestName)
	}
	e.Zone = zoneOf(e.Kind, p.Zone, zones, where, refused)
	if f.Geometry == nil {
		refused.Add(0, where+".geometry", "is missing")
		return e, false
	}
	if !f.Geometry.into(&e.Mapped, where+".geometry", refused) {
		return e, false
	}
	if field, reason := e.Wrong(site); field != "" {
		if field != "geometry" {
			field = "properties." + field
		}
		refused.Add(0, where+"."+field, "%s", reason)
	}
	return e, refused.Count == before
}

// zoneOf is whose lawn an outline is: named, or the only zone that there is.
func zoneOf(kind, name string, zones []string, where string, refused *refusal.Refusal) string {
	switch {
	case kind != outline.Lawn:
		return ""
	case name == "" && len(zones) == 1:
		return zones[0]
	case name == "":
		refused.Add(0, where+".properties.zone", "says of which zone this is the lawn: %s", strings.Join(zones, ", "))
	case !slices.Contains(zones, name):
		refused.Add(0, where+".properties.zone", "%q is no zone of this site: %s", name, strings.Join(zones, ", "))
	}
	return name
}

// into puts the positions of a geometry into an entry.
func (g geometry) into(m *outline.Mapped, where string, refused *refusal.Refusal) bool {
	read := func(into any) bool {
		if err := json.Unmarshal(g.Coordinates, into); err != nil {
			refused.Add(0, where+".coordinates", "are not the positions of a %s: %s", g.Type, plainly(err))
			return false
		}
		return true
	}
	switch g.Type {
	case "Point":
		var p []float64
		if !read(&p) {
			return false
		}
		m.Places = places([][]float64{p}, where, refused)
	case "LineString":
		var l [][]float64
		if !read(&l) {
			return false
		}
		if len(l) < 2 {
			refused.Add(0, where+".coordinates", "a line has at least two positions")
			return false
		}
		m.Places = places(l, where, refused)
	case "Polygon":
		var rings [][][]float64
		if !read(&rings) {
			return false
		}
		return ringsInto(m, rings, where, refused)
	case "MultiPoint", "MultiLineString", "MultiPolygon", "GeometryCollection":
		refused.Add(0, where+".type", "%s holds several: give each its own feature", g.Type)
		return false
	default:
		refused.Add(0, where+".type", "is none of Point, LineString, Polygon")
		return false
	}
	return m.Places != nil
}

func ringsInto(m *outline.Mapped, rings [][][]float64, where string, refused *refusal.Refusal) bool {
	m.Closed = true
	if len(rings) == 0 {
		refused.Add(0, where+".coordinates", "is empty")
		return false
	}
	for i, r := range rings {
		at := fmt.Sprintf("%s.coordinates[%d]", where, i)
		if len(r) < 4 || !slices.Equal(r[0], r[len(r)-1]) {
			refused.Add(0, at, "is not closed: a ring has four positions or more, the last the same as the first")
			return false
		}
		list := places(r[:len(r)-1], where, refused)
		if list == nil {
			return false
		}
		if i == 0 {
			m.Places = list
		} else {
			m.Holes = append(m.Holes, list)
		}
	}
	return true
}

// places reads positions; heights are passed over. nil when one is none.
func places(list [][]float64, where string, refused *refusal.Refusal) []outline.Place {
	out := make([]outline.Place, 0, len(list))
	for i, p := range list {
		if len(p) < 2 || len(p) > 4 {
			refused.Add(0, where+".coordinates", "position %d is not longitude and latitude", i+1)
			return nil
		}
		out = append(out, outline.Place{Longitude: p[0], Latitude: p[1]})
	}
	return out
}

// Write writes a map: outer rings against the clock, holes with it, positions to a centimetre.
func Write(w io.Writer, entries []Entry) error {
	c := collection{Type: "FeatureCollection", Features: []feature{}}
	for _, e := range entries {
		g, err := geometryOf(e.Mapped)
		if err != nil {
			return err
		}
		c.Features = append(c.Features, feature{Type: "Feature", Geometry: &g,
			Properties: properties{Kind: e.Kind, Zone: e.Zone, Name: e.Name, Reach: e.Reach, Error: &e.Error, How: e.How}})
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", " ")
	return enc.Encode(c)
}

func geometryOf(m outline.Mapped) (geometry, error) {
	var what any
	g := geometry{Type: "LineString"}
	switch {
	case m.Closed:
		g.Type = "Polygon"
		rings := [][][2]float64{closed(m.Places, true)}
		for _, h := range m.Holes {
			rings = append(rings, closed(h, false))
		}
		what = rings
	case len(m.Places) == 1:
		g.Type = "Point"
		what = position(m.Places[0])
	default:
		line := [][2]float64{}
		for _, p := range m.Places {
			line = append(line, position(p))
		}
		what = line
	}
	b, err := json.Marshal(what)
	g.Coordinates = b
	return g, err
}

// position to seven decimals, a centimetre.
func position(p outline.Place) [2]float64 {
	return [2]float64{math.Round(p.Longitude*1e7) / 1e7, math.Round(p.Latitude*1e7) / 1e7}
}

// closed is a ring with its first position at the end, the way round that the format asks for.
func closed(list []outline.Place, leftward bool) [][2]float64 {
	ring := make(outline.Ring, len(list))
	for i, p := range list {
		ring[i] = outline.Point{East: p.Longitude, North: p.Latitude}
	}
	out := [][2]float64{}
	for _, p := range list {
		out = append(out, position(p))
	}
	if ring.Leftward() != leftward {
		slices.Reverse(out)
	}
	return append(out, out[0])
}

// Geometry is an entry's geometry alone, as JSON; Into reads it again.
func Geometry(m outline.Mapped) (json.RawMessage, error) {
	g, err := geometryOf(m)
	if err != nil {
		return nil, err
	}
	return json.Marshal(g)
}

// Into reads a geometry alone into an entry. The error is a *refusal.Refusal.
func Into(b []byte, m *outline.Mapped) error {
	refused := &refusal.Refusal{}
	var g geometry
	if err := json.Unmarshal(b, &g); err != nil {
		refused.Add(0, "geometry", "is not a geometry: %s", plainly(err))
		return refused
	}
	m.Places, m.Holes, m.Closed = nil, nil, false
	if !g.into(m, "geometry", refused) {
		return refused
	}
	return nil
}
