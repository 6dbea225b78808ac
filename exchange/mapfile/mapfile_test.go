package mapfile

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/outline"
)

var (
	site  = outline.Place{Longitude: -97.5, Latitude: 37.5}
	zones = []string{"Front lawn", "Back lawn"}
)

const whole = `{"type":"FeatureCollection","features":[
 {"type":"Feature","properties":{"kind":"zone","zone":"Front lawn","error_m":1.5,"how":"walked"},"geometry":{"type":"Polygon","coordinates":
  [[[-97.5,37.5],[-97.4998,37.5],[-97.4998,37.5002],[-97.5,37.5002],[-97.5,37.5]],
   [[-97.49995,37.50005],[-97.49995,37.5001],[-97.4999,37.5001],[-97.49995,37.50005]]]}},
 {"type":"Feature","properties":{"kind":"hard-edge","name":"Drive"},
  "geometry":{"type":"LineString","coordinates":[[-97.5,37.5,402.1],[-97.5,37.5002]]}},
 {"type":"Feature","properties":{"kind":"tree","name":"Oak","reach_m":4},"geometry":{"type":"Point","coordinates":[-97.4999,37.50015]}},
 {"type":"Feature","properties":{"kind":"buried"},"geometry":{"type":"Point","coordinates":[-97.4999,37.5001]}}]}`

func TestAMapIsReadAndWrittenAsTheSame(t *testing.T) {
	read, err := Read(strings.NewReader("\ufeff"+whole), site, zones)
	require.NoError(t, err)
	require.Len(t, read, 4)
	lawn := read[0]
	require.Equal(t, "Front lawn", lawn.Zone)
	require.Equal(t, "walked", lawn.How)
	require.InDelta(t, 1.5, lawn.Error, 0)
	require.Len(t, lawn.Holes, 1)
	require.InDelta(t, 17.68*22.2-4.42*5.55/2, lawn.Shape(outline.NewPlane(site)).Area(), 2)
	require.Equal(t, "file", read[1].How)
	require.InDelta(t, usualError, read[1].Error, 0)
	require.InDelta(t, 4, read[2].Reach, 0)
	var b bytes.Buffer
	require.NoError(t, Write(&b, read))
	again, err := Read(bytes.NewReader(b.Bytes()), site, zones)
	require.NoError(t, err, b.String())
	var c bytes.Buffer
	require.NoError(t, Write(&c, again))
	require.Equal(t, b.String(), c.String())
	require.Contains(t, b.String(), `"Front lawn"`)
}

func TestARingIsWrittenAgainstTheClock(t *testing.T) {
	m := outline.Mapped{Kind: outline.Lawn, Closed: true, Places: []outline.Place{{Longitude: 0, Latitude: 0}, {Longitude: 0, Latitude: 1},
		{Longitude: 1, Latitude: 1}}}
	g, err := Geometry(m)
	require.NoError(t, err)
	require.JSONEq(t, `{"type":"Polygon","coordinates":[[[1,1],[0,1],[0,0],[1,1]]]}`, string(g))
	var back outline.Mapped
	require.NoError(t, Into(g, &back))
	require.True(t, back.Closed)
	require.Len(t, back.Places, 3)
	require.ErrorContains(t, Into([]byte(`{"type":"Point"}`), &back), "positions of a Point")
	require.ErrorContains(t, Into([]byte(`[`), &back), "geometry")
}

func TestTheOnlyZoneNeedsNoName(t *testing.T) {
	read, err := Read(strings.NewReader(strings.Replace(whole, `"zone":"Front lawn",`, "", 1)), site, []string{"Lawn"})
	require.NoError(t, err)
	require.Equal(t, "Lawn", read[0].Zone)
}

func TestRefusalsNameThePlaceAndTheReason(t *testing.T) {
	one := func(properties, geometry string) string {
		return fmt.Sprintf(`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{%s},"geometry":%s}]}`, properties, geometry)
	}
	ring := func(list string) string { return `{"type":"Polygon","coordinates":[[` + list + `]]}` }
	front := `"kind":"zone","zone":"Front lawn"`
	good := ring(`[-97.5,37.5],[-97.4998,37.5],[-97.4998,37.5002],[-97.5,37.5]`)
	for name, c := range map[string][2]string{
		"no JSON":       {`{`, "file: is not GeoJSON"},
		"a number":      {`{"type":"FeatureCollection","features":[{"properties":{"kind":7}}]}`, "a number stands where"},
		"a feature":     {`{"type":"Feature"}`, "type: is not FeatureCollection"},
		"other plane":   {`{"type":"FeatureCollection","crs":{"name":"EPSG:3857"},"features":[]}`, "crs"},
		"empty":         {`{"type":"FeatureCollection","features":[]}`, "features: is empty"},
		"many":          {`{"type":"FeatureCollection","features":[` + strings.Repeat(`{},`, outline.MostEntries) + `{}]}`, "more than 400"},
		"no feature":    {`{"type":"FeatureCollection","features":[{}]}`, "features[0].type"},
		"no geometry":   {one(front, `null`), "features[0].geometry: is missing"},
		"not closed":    {one(front, ring(`[-97.5,37.5],[-97.4998,37.5],[-97.4998,37.5002],[-97.5,37.5002]`)), "coordinates[0]: is not closed"},
		"no ring":       {one(front, `{"type":"Polygon","coordinates":[]}`), "is empty"},
		"crossing":      {one(front, ring(`[-97.5,37.5],[-97.4998,37.5002],[-97.4998,37.5],[-97.5,37.5002],[-97.5,37.5]`)), "crosses or touches itself"},
		"axis order":    {one(front, ring(`[37.5,-97.5],[37.5,-97.4998],[37.5002,-97.4998],[37.5,-97.5]`)), "wrong way round"},
		"far away":      {one(front, ring(`[10,37.5],[10.1,37.5],[10.1,37.6],[10,37.5]`)), "from the site"},
		"absurd size":   {one(front, ring(`[-97.54,37.47],[-97.46,37.47],[-97.46,37.53],[-97.54,37.53],[-97.54,37.47]`)), "larger than 10 km²"},
		"tiny":          {one(front, ring(`[-97.5,37.5],[-97.499999,37.5],[-97.499999,37.500001],[-97.5,37.5]`)), "smaller than 1 m²"},
		"one number":    {one(front, ring(`[-97.5],[1],[2],[-97.5]`)), "position 1 is not"},
		"several":       {one(front, `{"type":"MultiPolygon","coordinates":[]}`), "own feature"},
		"no type":       {one(front, `{"type":"Circle","coordinates":[]}`), "none of Point"},
		"short line":    {one(`"kind":"slope"`, `{"type":"LineString","coordinates":[[-97.5,37.5]]}`), "two positions"},
		"line as text":  {one(`"kind":"slope"`, `{"type":"LineString","coordinates":["x"]}`), "positions of a LineString"},
		"point as text": {one(`"kind":"buried"`, `{"type":"Point","coordinates":"x"}`), "positions of a Point"},
		"kind":          {one(`"kind":"pond"`, good), "properties.kind: is none of"},
		"reach":         {one(`"kind":"tree"`, `{"type":"Point","coordinates":[-97.5,37.5]}`), "properties.reach_m"},
		"unknown zone":  {one(`"kind":"zone","zone":"Side"`, good), `"Side" is no zone of this site: Front lawn, Back lawn`},
		"no zone":       {one(`"kind":"zone"`, good), "says of which zone"},
		"how":           {one(front+`,"how":"guessed"`, good), "properties.how"},
		"name":          {one(front+`,"name":"a\u0000b"`, good), "properties.name"},
		"twice": {`{"type":"FeatureCollection","features":[{"type":"Feature","properties":{` + front + `},"geometry":` + good +
			`},{"type":"Feature","properties":{` + front + `},"geometry":` + good + `}]}`, "features[1].properties.zone: Front lawn is outlined by features[0]"},
		"large": {strings.Repeat(" ", MaxBytes+1), "larger than 2 MiB"},
	} {
		_, err := Read(strings.NewReader(c[0]), site, zones)
		require.ErrorContains(t, err, c[1], name)
	}
}

// Whatever comes in, the reader says no with reasons or yes with a map that is written and read again as the same.
func FuzzRead(f *testing.F) {
	f.Add(whole)
	f.Add(`{"type":"FeatureCollection","features":[{}]}`)
	f.Fuzz(func(t *testing.T, text string) {
		read, err := Read(strings.NewReader(text), site, zones)
		if err != nil {
			return
		}
		var b bytes.Buffer
		require.NoError(t, Write(&b, read))
		again, err := Read(bytes.NewReader(b.Bytes()), site, zones)
		// what is rounded to a centimetre may close a hole's width in
		if err != nil {
			require.Contains(t, err.Error(), "geometry")
			return
		}
		require.Len(t, again, len(read))
	})
}
