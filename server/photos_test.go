package server_test

import (
	"bytes"
	"encoding/base64"
	"image"
	"image/color"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/demo"
	"hodos/server"
)

// lawnPicture is a picture of which so many per cent are green, in tufts, the rest straw.
func lawnPicture(green int) string {
	chance := rand.New(rand.NewPCG(uint64(green), 1))
	img := image.NewNRGBA(image.Rect(0, 0, 400, 300))
	for i := range 400 * 300 {
		c := color.NRGBA{196, 172, 112, 255}
		if (i%400/8*37+i/400/8*91)%100 < green {
			c = color.NRGBA{70, 120, 46, 255}
		}
		shade := .9 + chance.Float64()*.2
		c.R, c.G, c.B = uint8(float64(c.R)*shade), uint8(float64(c.G)*shade), uint8(float64(c.B)*shade)
		img.SetNRGBA(i%400, i/400, c)
	}
	var b bytes.Buffer
	_ = jpeg.Encode(&b, img, &jpeg.Options{Quality: 92})
	return base64.StdEncoding.EncodeToString(b.Bytes())
}

func photograph(green int) map[string]any {
	return map[string]any{"taken_at": demo.Start.Add(15 * time.Hour), "kind": "measure", "about": "cover", "spot": "worst",
		"wanted": map[string]any{"hue_low": 60, "hue_high": 120, "saturation": .1}, "picture": lawnPicture(green)}
}

func with(base map[string]any, more map[string]any) map[string]any {
	out := map[string]any{}
	for k, v := range base {
		out[k] = v
	}
	for k, v := range more {
		out[k] = v
	}
	return out
}

func TestAPhotographIsMeasuredAndKept(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	key := id()
	var one server.Photo
	tech.must(200, "PUT", p.path("/photos/"+key), with(photograph(40), map[string]any{"at": map[string]any{"e": 3, "n": 9}, "tilt": 4}),
		&one)
	require.InDelta(t, .40, *one.Cover, .02)
	require.Empty(t, one.Faults)
	var seen server.Photo
	tech.must(200, "PUT", p.path("/photos/"+id()), with(photograph(10), map[string]any{"spot": "healthy",
		"seen": map[string]any{"cover": .08, "error": .02, "index": .6}}), &seen)
	require.InDelta(t, .08, *seen.Cover, 0, "measured before the JPEG was made")
	require.Equal(t, "Tam Whitlock", one.By)
	require.InDelta(t, 3, one.At.East, 0)
	tech.must(200, "PUT", p.path("/photos/"+key), photograph(40), &one) // the same again
	tech.must(200, "PUT", p.path("/photos/"+id()), photograph(50), nil)
	tech.must(200, "PUT", p.path("/photos/"+id()), with(photograph(90), map[string]any{"tilt": 40}), nil)
	tech.must(200, "PUT", p.path("/photos/"+id()), with(photograph(90), map[string]any{"kind": "show"}), nil)
	var list server.Photos
	tech.must(200, "GET", p.path("/photos"), nil, &list)
	require.Len(t, list.Photos, 5)
	require.Len(t, list.Sums, 2)
	require.Equal(t, 2, list.Sums[0].Of, "what is slanted or for show does not count")
	require.InDelta(t, .45, list.Sums[0].Cover, .02)
	require.Greater(t, list.Sums[0].Error, .2, "two pictures leave much open")
	tech.must(200, "GET", "/zones/"+p.zone+"/photos", nil, &list)
	require.GreaterOrEqual(t, len(list.Photos), 4)

	status, picture := tech.plainly("GET", "/photos/"+key+"/picture", nil)
	require.Equal(t, 200, status)
	_, err := jpeg.Decode(bytes.NewReader(picture))
	require.NoError(t, err)
	_, small := tech.plainly("GET", "/photos/"+key+"/thumbnail", nil)
	conf, err := jpeg.DecodeConfig(bytes.NewReader(small))
	require.NoError(t, err)
	require.Equal(t, 320, conf.Width)
	req, err := http.NewRequest("GET", w.url+"/api/v1/photos/"+key+"/picture", nil)
	require.NoError(t, err)
	res, err := tech.http.Do(req)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	req.Header.Set("If-None-Match", res.Header.Get("ETag"))
	res, err = tech.http.Do(req)
	require.NoError(t, err)
	require.NoError(t, res.Body.Close())
	require.Equal(t, 304, res.StatusCode)

	tech.must(204, "DELETE", "/photos/"+key, nil, nil)
	tech.must(404, "DELETE", "/photos/"+key, nil, nil)
	status, _ = tech.plainly("GET", "/photos/"+key+"/picture", nil)
	require.Equal(t, 404, status)
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	tech.must(200, "POST", "/visits/"+p.visit+"/leave", map[string]any{}, nil)
	tech.must(200, "GET", p.path("/photos"), nil, &list)
	tech.must(422, "DELETE", "/photos/"+list.Photos[0].ID.String(), nil, nil)
}

func TestPhotographsThatAreNotTaken(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	bomb := []byte{0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0xfd, 0xe8, 0xfd, 0xe8, 3, 1, 0x22, 0, 2, 0x11, 1, 3, 0x11, 1, 0xff, 0xda, 0, 2}
	limits := func(low, high float64) map[string]any {
		return map[string]any{"wanted": map[string]any{"hue_low": low, "hue_high": high, "saturation": .1}}
	}
	moss := map[string]any{"about": "moss", "wanted": map[string]any{"hue_low": 60, "hue_high": 120, "saturation": .1,
		"like": []map[string]any{{"x": .1, "y": .1}}}}
	card := map[string]any{"wanted": map[string]any{"hue_low": 60, "hue_high": 120, "saturation": .1, "card": map[string]any{"x": 0,
		"y": 0, "w": .01, "h": .01}}}
	for where, c := range map[string]struct {
		change map[string]any
		words  string
	}{
		"body.picture": {map[string]any{"picture": base64.StdEncoding.EncodeToString(bomb)}, "25 million pixels"},
		"body.picture ": {map[string]any{"picture": base64.StdEncoding.EncodeToString([]byte("<svg onload=alert(1)>"))},
			"no picture in JPEG or PNG"},
		"body.picture  ":        {map[string]any{"picture": "§"}, ""},
		"body.wanted.hue_high":  {limits(100, 90), "above the lower limit"},
		"body.wanted.like":      {moss, "three times"},
		"body.wanted.card":      {card, "too small"},
		"body.seen.cover":       {map[string]any{"seen": map[string]any{"cover": .9, "error": .01, "index": .5}}, "not what this picture"},
		"body.taken_at":         {map[string]any{"taken_at": demo.Start.AddDate(0, 0, 9)}, "future"},
		"body.taken_at ":        {map[string]any{"taken_at": demo.Start.AddDate(0, 0, -90)}, "60 days"},
		"body.at":               {map[string]any{"at": map[string]any{"e": 1e7, "n": 0}}, "far away"},
		"body.wanted.hue_low":   {limits(10, 90), "45"},
		"body.wanted.hue_low  ": {limits(10, 90), "45"},
	} {
		var pr problem
		tech.must(422, "PUT", p.path("/photos/"+id()), with(photograph(40), c.change), &pr)
		if c.words != "" {
			require.Contains(t, pr.at(string(bytes.TrimSpace([]byte(where)))), c.words, "%s: %v", where, pr)
		}
	}
	tech.must(422, "PUT", p.path("/photos/6ba7b810-9dad-11d1-80b4-00c04fd430c8"), photograph(10), nil)
	tech.must(404, "PUT", "/visits/"+id()+"/zones/"+p.zone+"/photos/"+id(), photograph(10), nil)
	var list server.Photos
	tech.must(200, "GET", p.path("/photos"), nil, &list)
	require.Empty(t, list.Photos, "nothing of what was refused is kept")
	// a key that stands elsewhere is not taken over
	other := tech.place("Sallow")
	key := id()
	tech.must(200, "PUT", p.path("/photos/"+key), photograph(10), nil)
	tech.must(409, "PUT", other.path("/photos/"+key), photograph(10), nil)
	require.NoError(t, w.store.InFirm(t.Context(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec(`INSERT INTO photos (id, firm_id, visit_id, zone_id, person_id, taken_at, recorded_at, kind, about, spot,
				width, height, wanted)
			SELECT gen_random_uuid(), firm_id, visit_id, zone_id, person_id, taken_at, recorded_at, 'show', about, spot, width, height, wanted
			FROM photos, generate_series(1, 39) WHERE id = ?`, key).Error
	}))
	var pr problem
	tech.must(422, "PUT", p.path("/photos/"+id()), photograph(10), &pr)
	require.Contains(t, pr.at("body"), "40 photographs")
}
