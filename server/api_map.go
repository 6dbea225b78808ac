package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"math"
	"slices"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/outline"
	"hodos/exchange/ground"
	"hodos/exchange/mapfile"
	"hodos/exchange/refusal"
	"hodos/store"
)

// MapEntry is the lawn of a zone as an outline, or something that lies on or along lawns.
type MapEntry struct {
	ID        uuid.UUID       `json:"id"`
	ZoneID    *uuid.UUID      `json:"zone_id,omitempty" doc:"of which this is the lawn"`
	Kind      string          `json:"kind" enum:"zone,hard-edge,tree,sprinkler,slope,buried"`
	Name      string          `json:"name" maxLength:"120"`
	Geometry  json.RawMessage `json:"geometry" doc:"as in GeoJSON, longitude first"`
	ReachM    float64         `json:"reach_m" doc:"of a tree's crown or a sprinkler's throw"`
	ErrorM    float64         `json:"error_m" doc:"within which a position was taken in 95 of 100 cases"`
	How       string          `json:"how" enum:"file,walked,stepped,drawn"`
	AreaM2    float64         `json:"area_m2,omitempty" doc:"of a ring"`
	AreaError float64         `json:"area_error,omitempty" doc:"95 % error of a lawn's area as a fraction"`
	Line      []OnSite        `json:"line" nullable:"false"`
	Closed    bool            `json:"closed"`
	Holes     []Hole          `json:"holes" nullable:"false"`
	Version   int             `json:"version"`
}

// SiteMap is all that is mapped of a site.
type SiteMap struct {
	Entries []MapEntry `json:"entries" nullable:"false"`
}

// NewMapEntry is an entry as it is taken: by exactly one of geometry, points, walked and stepped.
type NewMapEntry struct {
	ZoneID   *uuid.UUID      `json:"zone_id,omitempty" doc:"for a lawn: the zone"`
	Kind     string          `json:"kind" enum:"zone,hard-edge,tree,sprinkler,slope,buried"`
	Name     string          `json:"name" maxLength:"120" required:"false"`
	Geometry json.RawMessage `json:"geometry,omitempty" doc:"as in GeoJSON, longitude first"`
	Points   []OnSite        `json:"points,omitempty" maxItems:"2000" doc:"as tapped on the map"`
	Closed   bool            `json:"closed,omitempty" doc:"the points are a ring"`
	Walked   []WalkedPoint   `json:"walked,omitempty" maxItems:"2000" doc:"as a device has told its position along the edge"`
	Stepped  *SteppedShape   `json:"stepped,omitempty"`
	ReachM   float64         `json:"reach_m,omitempty"`
	ErrorM   *float64        `json:"error_m,omitempty" minimum:"0" maximum:"100" doc:"left out: what is usual for the way it was taken"`
	UseArea  bool            `json:"use_area,omitempty" doc:"take the outline's area with its error as the zone's"`
	Version  int             `json:"version" minimum:"0" maximum:"2147483646" doc:"0 for a new one"`
}

// WalkedPoint is a position that a device told.
type WalkedPoint struct {
	Longitude float64 `json:"longitude" minimum:"-180" maximum:"180"`
	Latitude  float64 `json:"latitude" minimum:"-90" maximum:"90"`
	AccuracyM float64 `json:"accuracy_m" minimum:"0" maximum:"10000" doc:"95 %"`
}

// SteppedShape is a plain shape whose sides were paced or taped.
type SteppedShape struct {
	Shape   string    `json:"shape" enum:"rectangle,l-shape,triangle,circle"`
	SidesM  []float64 `json:"sides_m" minItems:"1" maxItems:"4" nullable:"false" doc:"as core/outline has them"`
	Bearing float64   `json:"bearing" minimum:"0" maximum:"360" required:"false" doc:"of the first side, clockwise from north"`
	Taped   bool      `json:"taped" doc:"measured by tape or wheel, not by paces"`
}

// How good a position is by the way it was taken, 95 %, m or a fraction of a length (judgement).
const (
	drawnError   = 1.0
	tapedError   = 0.01
	thinnedTo    = 0.4 // m, of a walked line
	joinedTo     = 3.0 // m, within which a walk has come back to its start, at least
	worstWalked  = 25.0
	apartOnEarth = 3.0 // m between outlines that were stepped off and lie nowhere in particular
)

func mapEntryOf(r store.MapEntry, plane outline.Plane) (MapEntry, error) {
	m, err := mappedOf(r)
	if err != nil {
		return MapEntry{}, err
	}
	t, s := m.Thing(plane), m.Shape(plane)
	out := MapEntry{ID: r.ID, ZoneID: r.ZoneID, Kind: r.Kind, Name: r.Name, Geometry: json.RawMessage(r.Geometry), ReachM: r.ReachM,
		ErrorM: r.ErrorM, How: r.How, AreaError: r.AreaError, Line: ground.Points(t.Points), Closed: m.Closed, Holes: []Hole{},
		Version: r.Version}
	if m.Closed {
		out.AreaM2 = s.Area()
	}
	for _, h := range s.Holes {
		out.Holes = append(out.Holes, Hole{Line: ground.Points(h)})
	}
	return out, nil
}

func mappedOf(r store.MapEntry) (outline.Mapped, error) {
	m := outline.Mapped{Kind: r.Kind, Name: r.Name, Reach: r.ReachM, Error: r.ErrorM}
	return m, mapfile.Into(r.Geometry, &m)
}

func placeOf(s store.Site) outline.Place {
	return outline.Place{Longitude: s.Longitude, Latitude: s.Latitude}
}

// mapOf reads the site and its map, lawns first.
func mapOf(tx *gorm.DB, site uuid.UUID) (store.Site, []store.MapEntry, error) {
	var s store.Site
	if err := tx.First(&s, "id = ?", site).Error; err != nil {
		return s, nil, err
	}
	var rows []store.MapEntry
	err := tx.Where("site_id = ?", site).Order("zone_id IS NULL, kind, name, id").Find(&rows).Error
	return s, rows, err
}

func siteMap(s store.Site, rows []store.MapEntry) (SiteMap, error) {
	out := SiteMap{Entries: []MapEntry{}}
	plane := outline.NewPlane(placeOf(s))
	for _, r := range rows {
		e, err := mapEntryOf(r, plane)
		if err != nil {
			return out, err
		}
		out.Entries = append(out.Entries, e)
	}
	return out, nil
}

// getMap answers GET /sites/{id}/map: what is mapped of a site.
func (s *Server) getMap(ctx context.Context, in *IDPath) (*body[SiteMap], error) {
	var out SiteMap
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		site, rows, err := mapOf(tx, in.ID)
		if err != nil {
			return err
		}
		out, err = siteMap(site, rows)
		return err
	})
	return answer(out), err
}

// MapPath is an entry of a site's map.
type MapPath struct {
	ID    uuid.UUID `path:"id" format:"uuid"`
	Entry uuid.UUID `path:"entry" format:"uuid"`
}

// keepMapEntry answers PUT /sites/{id}/map/{entry}: map a lawn or something on it, or take it anew.
func (s *Server) keepMapEntry(ctx context.Context, in *struct {
	MapPath
	Body NewMapEntry
}) (*body[MapEntry], error) {
	if err := version7("path.entry", in.Entry); err != nil {
		return nil, err
	}
	var out MapEntry
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		site, rows, err := mapOf(tx, in.ID)
		if err != nil {
			return err
		}
		m, how, areaError, err := in.Body.mapped(site, rows, in.Entry)
		if err != nil {
			return err
		}
		row, err := in.Body.row(m, how, areaError)
		if err != nil {
			return err
		}
		row.ID, row.FirmID, row.SiteID = in.Entry, who(ctx).Firm, in.ID
		if err := keepEntry(tx, &row, rows, in.Body.Version); err != nil {
			return err
		}
		if out, err = mapEntryOf(row, outline.NewPlane(placeOf(site))); err != nil || !in.Body.UseArea || row.ZoneID == nil {
			return err
		}
		return useArea(tx, *row.ZoneID, out)
	})
	return answer(out), err
}

// keepEntry writes an entry, new or changed.
func keepEntry(tx *gorm.DB, row *store.MapEntry, rows []store.MapEntry, version int) error {
	if row.ZoneID != nil {
		if err := sameSite(tx, *row.ZoneID, row.SiteID); err != nil {
			return err
		}
		taken := slices.ContainsFunc(rows, func(r store.MapEntry) bool { return r.ZoneID != nil && *r.ZoneID == *row.ZoneID && r.ID != row.ID })
		if taken {
			return invalid("body.zone_id", "has an outline already: change that one")
		}
	}
	if version == 0 {
		if len(rows) >= outline.MostEntries {
			return invalid("body", "this site's map is full")
		}
		return store.Create(tx, row, row.ID)
	}
	row.Version = version + 1
	return store.Change(tx, &store.MapEntry{}, row.ID, version, map[string]any{"zone_id": row.ZoneID, "kind": row.Kind, "name": row.Name,
		"geometry": row.Geometry, "reach_m": row.ReachM, "error_m": row.ErrorM, "area_error": row.AreaError, "how": row.How})
}

// useArea takes an outline's area as the zone's.
func useArea(tx *gorm.DB, zone uuid.UUID, e MapEntry) error {
	return tx.Model(&store.Zone{}).Where("id = ?", zone).Updates(map[string]any{"area_m2": math.Round(e.AreaM2*10) / 10,
		"area_error": math.Round(e.AreaError*1000) / 1000, "version": gorm.Expr("version + 1")}).Error
}

// mapped makes an entry of what was handed in: its places, how it was taken, and the error of its area.
func (n NewMapEntry) mapped(site store.Site, rows []store.MapEntry, entry uuid.UUID) (
	m outline.Mapped, how string, areaError float64, err error,
) {
	plane := outline.NewPlane(placeOf(site))
	m = outline.Mapped{Kind: n.Kind, Name: n.Name, Reach: n.ReachM}
	given := 0
	for _, is := range []bool{len(n.Geometry) > 0, len(n.Points) > 0, len(n.Walked) > 0, n.Stepped != nil} {
		if is {
			given++
		}
	}
	switch {
	case given != 1:
		return m, "", 0, invalid("body", "takes exactly one of geometry, points, walked and stepped")
	case n.Kind == outline.Lawn && n.ZoneID == nil:
		return m, "", 0, invalid("body.zone_id", "says of which zone this is the lawn")
	case n.Kind != outline.Lawn && n.ZoneID != nil:
		return m, "", 0, invalid("body.zone_id", "only a lawn belongs to a zone")
	}
	where := "geometry"
	switch {
	case len(n.Geometry) > 0:
		how, m.Error = "file", drawnError
		if err := mapfile.Into(n.Geometry, &m); err != nil {
			return m, "", 0, refusedEntry(err)
		}
	case len(n.Points) > 0:
		how, m.Error, m.Closed, where = "drawn", drawnError, n.Closed || n.Kind == outline.Lawn, "points"
		for _, p := range n.Points {
			m.Places = append(m.Places, plane.Place(outline.Point(p)))
		}
	case len(n.Walked) > 0:
		how, where = "walked", "walked"
		if err := walked(&m, n, plane); err != nil {
			return m, "", 0, err
		}
	default:
		how, where = "stepped", "stepped"
		if areaError, err = stepped(&m, *n.Stepped, plane, rows, entry); err != nil {
			return m, "", 0, err
		}
	}
	if n.ErrorM != nil {
		m.Error = *n.ErrorM
	}
	if f, reason := m.Wrong(placeOf(site)); f != "" {
		if f == "geometry" {
			f = where
		}
		return m, "", 0, invalid("body."+f, reason)
	}
	if m.Kind == outline.Lawn && areaError == 0 {
		areaError = m.Shape(plane).AreaError(m.Error)
	}
	return m, how, areaError, nil
}

func refusedEntry(err error) error {
	if r := (*refusal.Refusal)(nil); errors.As(err, &r) {
		return refusedWhole("please check the fields marked below", "body.", r)
	}
	return err
}

// walked makes a line or a ring of positions that a device told; those that it was not sure of are passed over.
func walked(m *outline.Mapped, n NewMapEntry, plane outline.Plane) error {
	var line outline.Ring
	var errs []float64
	for _, w := range n.Walked {
		if w.AccuracyM <= worstWalked {
			line = append(line, plane.Point(outline.Place{Longitude: w.Longitude, Latitude: w.Latitude}))
			errs = append(errs, w.AccuracyM)
		}
	}
	if len(line) == 0 {
		return invalid("body.walked", "no position was known to within 25 m")
	}
	slices.Sort(errs)
	m.Error = errs[len(errs)/2]
	m.Closed = n.Kind == outline.Lawn || n.Closed
	if m.Closed {
		line = line.Joined(math.Max(joinedTo, m.Error)).Thinned(thinnedTo)
	}
	m.Places = plane.Places(line)
	return nil
}

// stepped lays a plain shape where the outline lay that it takes the place of, else at the site, east of what lies there.
func stepped(m *outline.Mapped, x SteppedShape, plane outline.Plane, rows []store.MapEntry, entry uuid.UUID) (
	areaError float64, err error,
) {
	each := outline.PaceError
	if x.Taped {
		each = tapedError
	}
	ring, areaError, err := outline.Stepped{Kind: x.Shape, Sides: x.SidesM, Bearing: x.Bearing}.Ring(each)
	if err != nil {
		return 0, invalid("body.stepped.sides_m", err.Error())
	}
	low, high := outline.Shape{Outer: ring}.Box()
	var to outline.Point
	for _, r := range rows {
		if r.Kind != outline.Lawn {
			continue
		}
		other, err := mappedOf(r)
		if err != nil {
			return 0, err
		}
		near, far := other.Shape(plane).Box()
		if r.ID == entry {
			to = outline.Point{East: (near.East + far.East) / 2, North: (near.North + far.North) / 2}
			break
		}
		to.East = math.Max(to.East, far.East+apartOnEarth-low.East)
	}
	for i := range ring {
		ring[i].East += to.East
		ring[i].North += to.North
	}
	m.Places, m.Closed = plane.Places(ring), true
	m.Error = each * math.Max(high.East-low.East, high.North-low.North)
	return areaError, nil
}

func (n NewMapEntry) row(m outline.Mapped, how string, areaError float64) (store.MapEntry, error) {
	g, err := mapfile.Geometry(m)
	return store.MapEntry{ZoneID: n.ZoneID, Kind: m.Kind, Name: m.Name, Geometry: store.JSON(g), ReachM: m.Reach, ErrorM: m.Error,
		AreaError: areaError, How: how, Version: 1}, err
}

// dropMapEntry answers DELETE /sites/{id}/map/{entry}: take something off the map.
func (s *Server) dropMapEntry(ctx context.Context, in *MapPath) (*struct{}, error) {
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Where("site_id = ? AND id = ?", in.ID, in.Entry).Delete(&store.MapEntry{})
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return r.Error
	})
}

// exportMap answers GET /sites/{id}/map/geojson: the map of a site as a file.
func (s *Server) exportMap(ctx context.Context, in *IDPath) (*caseExport, error) {
	var b bytes.Buffer
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		_, rows, err := mapOf(tx, in.ID)
		if err != nil {
			return err
		}
		zones, err := zoneNames(tx, in.ID)
		if err != nil {
			return err
		}
		var list []mapfile.Entry
		for _, r := range rows {
			m, err := mappedOf(r)
			if err != nil {
				return err
			}
			e := mapfile.Entry{Mapped: m, How: r.How}
			if r.ZoneID != nil {
				e.Zone = zones[*r.ZoneID]
			}
			list = append(list, e)
		}
		return mapfile.Write(&b, list)
	})
	return &caseExport{`attachment; filename="site-map.geojson"`, "application/geo+json", b.Bytes()}, err
}

func zoneNames(tx *gorm.DB, site uuid.UUID) (map[uuid.UUID]string, error) {
	var zones []store.Zone
	out := map[uuid.UUID]string{}
	err := tx.Where("site_id = ?", site).Order("name, id").Find(&zones).Error
	for _, z := range zones {
		out[z.ID] = z.Name
	}
	return out, err
}

// importMap answers POST /sites/{id}/map/geojson: take a map file in, in place of what is mapped of the site.
func (s *Server) importMap(ctx context.Context, in *struct {
	IDPath
	RawBody []byte `contentType:"application/geo+json"`
}) (*body[SiteMap], error) {
	var out SiteMap
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		site, _, err := mapOf(tx, in.ID)
		if err != nil {
			return err
		}
		rows, err := readMap(tx, site, in.RawBody)
		if err != nil {
			return err
		}
		if err := tx.Where("site_id = ?", in.ID).Delete(&store.MapEntry{}).Error; err != nil {
			return err
		}
		if err := tx.Create(&rows).Error; err != nil {
			return err
		}
		_, kept, err := mapOf(tx, in.ID)
		if err != nil {
			return err
		}
		out, err = siteMap(site, kept)
		return err
	})
	return answer(out), err
}

// readMap makes rows of a map file.
func readMap(tx *gorm.DB, site store.Site, file []byte) ([]store.MapEntry, error) {
	zones, err := zoneNames(tx, site.ID)
	if err != nil {
		return nil, err
	}
	names, byName := []string{}, map[string]uuid.UUID{}
	for id, name := range zones {
		names, byName[name] = append(names, name), id
	}
	slices.Sort(names)
	list, err := mapfile.Read(bytes.NewReader(file), placeOf(site), names)
	if r := (*refusal.Refusal)(nil); errors.As(err, &r) {
		return nil, refusedWhole("the map file is refused", "", r)
	}
	plane := outline.NewPlane(placeOf(site))
	var rows []store.MapEntry
	for _, e := range list {
		g, err := mapfile.Geometry(e.Mapped)
		if err != nil {
			return nil, err
		}
		row := store.MapEntry{ID: uuid.Must(uuid.NewV7()), FirmID: site.FirmID, SiteID: site.ID, Kind: e.Kind, Name: e.Name,
			Geometry: store.JSON(g), ReachM: e.Reach, ErrorM: e.Error, How: e.How, Version: 1}
		if e.Kind == outline.Lawn {
			id := byName[e.Zone]
			row.ZoneID, row.AreaError = &id, e.Shape(plane).AreaError(e.Error)
		}
		rows = append(rows, row)
	}
	return rows, err
}
