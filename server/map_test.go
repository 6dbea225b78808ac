package server_test

import (
	"bytes"
	"encoding/json"
	"io"
	"math"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

// plainCells marks squares of the grid of a zone without an outline.
func plainCells(cells ...int) map[string]any {
	if cells == nil {
		cells = []int{}
	}
	return map[string]any{"grid": map[string]any{"step_m": 2, "columns": 12, "rows": 8, "east_m": 0, "north_m": 0, "plain": true},
		"slight": []int{}, "clear": cells, "bare": []int{}}
}

// unmapped takes what the demo has mapped of a site off.
func (c *client) unmapped(site string) {
	var m server.SiteMap
	c.must(200, "GET", "/sites/"+site+"/map", nil, &m)
	for _, e := range m.Entries {
		c.must(204, "DELETE", "/sites/"+site+"/map/"+e.ID.String(), nil, nil)
	}
}

func stepped(zone, shape string, sides ...float64) map[string]any {
	return map[string]any{"kind": "zone", "zone_id": zone, "version": 0,
		"stepped": map[string]any{"shape": shape, "sides_m": sides, "taped": false}}
}

func TestALawnIsSteppedOffAndItsGridIsClipped(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.unmapped(p.site)
	var g server.StepGrid
	tech.must(200, "GET", "/zones/"+p.zone+"/grid", nil, &g)
	require.True(t, g.Grid.Plain)
	require.Equal(t, 96, g.Grid.Columns*g.Grid.Rows)
	require.Equal(t, []int{0, 96}, g.Lawn)

	key := id()
	body := stepped(p.zone, "l-shape", 30, 20, 10, 5)
	body["use_area"] = true
	var e server.MapEntry
	tech.must(200, "PUT", "/sites/"+p.site+"/map/"+key, body, &e)
	require.InEpsilon(t, 550, e.AreaM2, .002, "kept to a centimetre")
	require.InDelta(t, .07, e.AreaError, .02)
	require.Equal(t, "stepped", e.How)
	tech.must(200, "GET", "/zones/"+p.zone+"/grid", nil, &g)
	lawn := 0
	for i := 1; i < len(g.Lawn); i += 2 {
		lawn += g.Lawn[i]
	}
	require.InEpsilon(t, 550, float64(lawn)*g.Grid.StepM*g.Grid.StepM, .03)
	require.Less(t, lawn, g.Grid.Columns*g.Grid.Rows, "the corner is no lawn")
	require.Len(t, g.Line, 6)
	var s server.Site
	tech.must(200, "GET", "/sites/"+p.site, nil, &s)
	require.InDelta(t, e.AreaM2, s.Zones[0].AreaM2, .1, "the zone has the area of its outline")
	require.InDelta(t, e.AreaError, s.Zones[0].AreaError, .001)

	body["version"] = 1
	body["stepped"] = map[string]any{"shape": "rectangle", "sides_m": []float64{30, 20}, "taped": true}
	tech.must(200, "PUT", "/sites/"+p.site+"/map/"+key, body, &e)
	require.InEpsilon(t, 600, e.AreaM2, .002)
	require.InDelta(t, .0141, e.AreaError, .0005, "a tape is better than paces")
	require.Equal(t, 2, e.Version)
	for _, c := range []server.OnSite{e.Line[0], e.Line[2]} {
		require.InDelta(t, 18.03, math.Hypot(c.East, c.North), .02, "it lies where it lay")
	}
	tech.must(409, "PUT", "/sites/"+p.site+"/map/"+key, body, nil)
	var pr problem
	tech.must(422, "PUT", "/sites/"+p.site+"/map/"+id(), stepped(p.zone, "circle", 4), &pr)
	require.Contains(t, pr.at("body.zone_id"), "outline already")
}

func TestALawnIsWalked(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.unmapped(p.site)
	var s server.Site
	tech.must(200, "GET", "/sites/"+p.site, nil, &s)
	lon, lat := s.Longitude, s.Latitude
	east := 1 / (111320 * math.Cos(lat*math.Pi/180))
	var walk []map[string]any
	at := func(e, n, accuracy float64) {
		walk = append(walk, map[string]any{"longitude": lon + e*east, "latitude": lat + n/110990, "accuracy_m": accuracy})
	}
	for i := range 20 {
		at(float64(i), .1*float64(i%2), 4)
	}
	at(300, 300, 80) // a position that the device itself does not trust
	for i := range 15 {
		at(20, float64(i), 4)
	}
	for i := range 20 {
		at(20-float64(i), 15, 4)
	}
	for i := range 15 {
		at(0, 15-float64(i), 4)
	}
	at(.5, -.4, 4) // and a few steps on, over the first
	at(2, .3, 4)
	at(4, -.3, 4)
	body := map[string]any{"kind": "zone", "zone_id": p.zone, "version": 0, "walked": walk}
	var e server.MapEntry
	tech.must(200, "PUT", "/sites/"+p.site+"/map/"+id(), body, &e)
	require.InEpsilon(t, 300, e.AreaM2, .03)
	require.InDelta(t, 4, e.ErrorM, 0)
	require.Less(t, len(e.Line), 8, "thinned to its corners")
	require.Greater(t, e.AreaError, .1, "four metres are much on so small a lawn")
	walk = nil
	at(0, 0, 90)
	body["walked"] = walk
	var pr problem
	tech.must(422, "PUT", "/sites/"+p.site+"/map/"+id(), body, &pr)
	require.Contains(t, pr.at("body.walked"), "within 25 m")
}

func TestWhatIsNotTakenOntoTheMap(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p, other := tech.place("Quill"), tech.place("Sallow")
	tech.unmapped(p.site)
	tree := func(change map[string]any) map[string]any {
		b := map[string]any{"kind": "tree", "reach_m": 3, "points": []server.OnSite{{East: 4, North: 5}}, "version": 0}
		for k, v := range change {
			b[k] = v
		}
		return b
	}
	for where, c := range map[string]struct {
		body  map[string]any
		words string
	}{
		"body": {tree(map[string]any{"stepped": map[string]any{"shape": "circle", "sides_m": []float64{3},
			"taped": true}}), "exactly one"},
		"body.reach_m": {tree(map[string]any{"reach_m": 0}), "between 0 and 40"},
		"body.zone_id": {tree(map[string]any{"zone_id": p.zone}), "only a lawn"},
		"body.points": {tree(map[string]any{"points": []server.OnSite{{East: 4, North: 5}, {East: 6, North: 7}}}),
			"not drawn as this"},
		"body.stepped.sides_m": {stepped(p.zone, "triangle", 1, 1, 9), "longer than the other two"},
		"body.geometry": {map[string]any{"kind": "tree", "reach_m": 3, "version": 0, "geometry": map[string]any{"type": "Point",
			"coordinates": []float64{1, 1}}}, "from the site"},
		"body.geometry.type": {map[string]any{"kind": "tree", "version": 0, "geometry": map[string]any{"type": "Disc"}},
			"none of Point"},
		"body.points ": {map[string]any{"kind": "zone", "zone_id": p.zone, "version": 0, "points": []server.OnSite{{East: 0,
			North: 0}, {East: 9, North: 9}, {East: 9, North: 0}, {East: 0, North: 9}}}, "crosses"},
		"body.zone_id of other": {stepped(other.zone, "circle", 4), ""},
	} {
		var pr problem
		status := 422
		if strings.HasSuffix(where, "other") {
			status = 422
		}
		tech.must(status, "PUT", "/sites/"+p.site+"/map/"+id(), c.body, &pr)
		if c.words != "" {
			require.Contains(t, pr.at(strings.TrimSpace(where)), c.words, "%v", pr)
		}
	}
	var pr problem
	tech.must(422, "PUT", "/sites/"+p.site+"/map/"+id(), map[string]any{"kind": "zone", "version": 0, "points": []server.OnSite{{East: 0,
		North: 0}, {East: 9, North: 9}, {East: 9, North: 0}}}, &pr)
	require.Contains(t, pr.at("body.zone_id"), "of which zone")
	tech.must(422, "PUT", "/sites/"+p.site+"/map/6ba7b810-9dad-11d1-80b4-00c04fd430c8", tree(nil), &pr)
	require.Contains(t, pr.at("path.entry"), "version 7")
	tech.must(404, "DELETE", "/sites/"+p.site+"/map/"+id(), nil, nil)
	tech.must(404, "GET", "/sites/"+id()+"/map", nil, nil)
	tech.must(404, "GET", "/zones/"+id()+"/grid", nil, nil)
}

// body of an answer that is no JSON of the API's.
func (c *client) plainly(method, path string, body []byte) (int, []byte) {
	c.w.t.Helper()
	req, err := http.NewRequest(method, c.w.url+"/api/v1"+path, bytes.NewReader(body))
	require.NoError(c.w.t, err)
	req.Header.Set("X-Hodos-Csrf", c.csrf)
	req.Header.Set("Content-Type", "application/geo+json")
	res, err := c.http.Do(req)
	require.NoError(c.w.t, err)
	defer func() { require.NoError(c.w.t, res.Body.Close()) }()
	b, err := io.ReadAll(res.Body)
	require.NoError(c.w.t, err)
	return res.StatusCode, b
}

func TestAMapGoesOutAndComesInAgain(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.unmapped(p.site)
	path := "/sites/" + p.site + "/map"
	tech.must(200, "PUT", path+"/"+id(), stepped(p.zone, "rectangle", 20, 15), nil)
	tech.must(200, "PUT", path+"/"+id(), map[string]any{"kind": "tree", "name": "Maple", "reach_m": 3, "points": []server.OnSite{{East: 4,
		North: 5}}, "version": 0}, nil)
	tech.must(200, "PUT", path+"/"+id(), map[string]any{"kind": "slope", "points": []server.OnSite{{East: 0, North: 6}, {East: 0,
		North: -6}}, "version": 0}, nil)
	status, file := tech.plainly("GET", path+"/geojson", nil)
	require.Equal(t, 200, status)
	var before, after server.SiteMap
	tech.must(200, "GET", path, nil, &before)
	status, answer := tech.plainly("POST", path+"/geojson", file)
	require.Equal(t, 200, status, string(answer))
	require.NoError(t, json.Unmarshal(answer, &after))
	require.Len(t, after.Entries, 3)
	for i := range after.Entries {
		b, a := before.Entries[i], after.Entries[i]
		b.ID = a.ID
		if b.Kind == "zone" {
			require.NotZero(t, a.AreaError, "by the error of its corners")
			b.AreaError = a.AreaError
		}
		require.InDelta(t, b.AreaM2, a.AreaM2, .5)
		a.AreaM2 = b.AreaM2
		require.JSONEq(t, mustJSON(t, b), mustJSON(t, a))
	}
	status, again := tech.plainly("GET", path+"/geojson", nil)
	require.Equal(t, 200, status)
	require.JSONEq(t, string(file), string(again))
	// what is refused leaves the map as it was
	status, said := tech.plainly("POST", path+"/geojson", bytes.Replace(file, []byte(`"slope"`), []byte(`"pond"`), 1))
	require.Equal(t, 422, status)
	require.Contains(t, string(said), "properties.kind")
	tech.must(200, "GET", path, nil, &after)
	require.Len(t, after.Entries, 3)
}

func mustJSON(t *testing.T, v any) string {
	t.Helper()
	b, err := json.Marshal(v)
	require.NoError(t, err)
	return string(b)
}

func TestDamageIsReadAsAPattern(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.unmapped(p.site)
	path := "/sites/" + p.site + "/map"
	tech.must(200, "PUT", path+"/"+id(), stepped(p.zone, "rectangle", 18, 18), nil)
	// a drive along the western side
	tech.must(200, "PUT", path+"/"+id(), map[string]any{"kind": "hard-edge", "name": "Drive", "points": []server.OnSite{{East: -9,
		North: -9}, {East: -9, North: 9}}, "version": 0}, nil)
	var g server.StepGrid
	tech.must(200, "GET", "/zones/"+p.zone+"/grid", nil, &g)
	require.Len(t, g.Things, 1)
	var strip []int
	for y := 3; y < 16; y++ {
		strip = append(strip, y*g.Grid.Columns)
	}
	marks := server.DamagedCells{Grid: g.Grid, Slight: []int{}, Clear: strip, Bare: []int{}}
	var r server.PatternRead
	tech.must(200, "POST", "/zones/"+p.zone+"/pattern", marks, &r)
	require.NotEmpty(t, r.Proposals)
	require.Equal(t, "along-hardscape", r.Proposals[0].Value)
	require.Equal(t, "place", r.Proposals[0].Reason)
	require.InDelta(t, 1, r.Near[0].DamageShare, 0)
	require.Equal(t, 1, r.PatchCount)

	// marks made before the lawn had an outline are stretched over it
	tech.must(200, "POST", "/zones/"+p.zone+"/pattern", plainCells(0, 12, 24, 36, 48, 60, 72, 84), &r)
	require.InDelta(t, 100.0/12, r.Percent, 1.5)
	tech.must(422, "POST", "/zones/"+p.zone+"/pattern", plainCells(96), nil)

	tech.must(200, "POST", p.path("/answers"), answers(tap("damaged-cells", marks), tap("points", []any{map[string]any{"what": "core",
		"spot": "healthy",
		"e":    1, "n": 2}})), nil)
	for _, a := range tech.scales(p).Answers {
		if a.Finding == "damaged-cells" {
			require.JSONEq(t, mustJSON(t, marks), mustJSON(t, a.Value))
		}
	}
	// of the visit itself it is the damage of today, for any other what was before
	tech.must(200, "GET", "/zones/"+p.zone+"/grid?visit="+p.visit, nil, &g)
	require.NotNil(t, g.Before, "the demo's lawn was damaged last year")
	require.Equal(t, "2025-09-12", g.Before.On)
	require.NotEmpty(t, g.Before.Cells)
	var other server.StepGrid
	tech.must(200, "GET", "/zones/"+p.zone+"/grid?visit="+id(), nil, &other)
	require.Equal(t, strip, other.Before.Cells)
	tech.must(200, "POST", p.path("/answers"), answers(tap("damaged-cells", nil), tap("points", nil)), nil)
	var none server.StepGrid
	tech.must(200, "GET", "/zones/"+p.zone+"/grid?visit="+id(), nil, &none)
	require.Equal(t, "2025-09-12", none.Before.On, "what was taken back does not stand")
	tech.must(200, "GET", "/zones/"+tech.place("Sallow").zone+"/grid", nil, &none)
}
