package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

// seen makes a visit on a new lawn of a site and answers some checks there.
func (c *client) seen(site, grass string, findings ...map[string]any) place {
	c.w.t.Helper()
	office := c.w.as("office")
	zone, visit := id(), id()
	office.must(200, "POST", "/zones", map[string]any{"id": zone, "site_id": site, "name": "Lawn " + zone[24:], "area_m2": 100, "area_error": .1,
		"species": []string{grass}, "target_cover": .9, "policy": map[string]any{}, "texture": "", "version": 0}, nil)
	office.must(200, "POST", "/visits", map[string]any{"id": visit, "site_id": site, "zone_id": zone, "kind": "diagnosis", "due_on": "2026-08-24",
		"reason": "round", "version": 0}, nil)
	c.must(200, "POST", "/visits/"+visit+"/arrive", map[string]any{}, nil)
	p := place{site: site, zone: zone, visit: visit}
	c.must(200, "POST", p.path("/answers"), answers(findings...), nil)
	return p
}

func TestALawnAmongLikeLawns(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	site := tech.place("Quill").site
	alike := func(p place) (a server.Alike) {
		tech.must(200, "GET", p.path("/alike"), nil, &a)
		return a
	}
	offered := func(p place) any {
		var offers []server.Offer
		tech.must(200, "GET", p.path("/offers"), nil, &offers)
		for _, o := range offers {
			if o.Source == "firm" {
				require.Equal(t, "neighbours-affected", o.Finding)
				return o.Value
			}
		}
		return nil
	}
	const grass = "creeping-bentgrass"
	own := tech.seen(tech.place("Harrow").site, grass, tap("green-up-percent", 30), tap("colour", []string{"yellow"}),
		tap("pattern", []string{"uniform"}))
	require.Zero(t, alike(own).Lawns, "none of the kind yet")
	require.Nil(t, offered(own))

	for i, green := range []float64{70, 75, 80} {
		colour := "yellow"
		if i == 2 {
			colour = "brown"
		}
		tech.seen(site, grass, tap("green-up-percent", green), tap("colour", []string{colour}), tap("pattern", []string{"uniform", "mottled"}))
	}
	tech.seen(site, "tall-fescue", tap("green-up-percent", 5), tap("colour", []string{"yellow"}), tap("pattern", []string{"uniform"}))
	a := alike(own)
	require.Equal(t, 3, a.Lawns, "of its grass alone")
	require.Equal(t, server.AlikeShare{Of: 2, N: 3}, a.Same)
	require.Equal(t, "behind", a.GreenUp.Word)
	require.InDelta(t, 75, a.GreenUp.Median, 1e-9)
	require.InDelta(t, 30, *a.GreenUp.Own, 1e-9)
	require.Nil(t, a.Colour, "nobody took a picture")
	require.Equal(t, "many", offered(own))
	tech.must(200, "POST", own.path("/answers"), answers(tap("neighbours-affected", "few")), nil)
	require.Nil(t, offered(own), "answered is answered")

	// what was diagnosed there counts as well, and what is too long ago does not
	dormant := tech.seen(site, grass, tap("pull-test", "resists"))
	require.Equal(t, 3, alike(own).Lawns, "nothing known of it that could be compared")
	tech.must(200, "POST", dormant.path("/diagnoses"), map[string]any{"id": id()}, nil)
	a = alike(own)
	require.Equal(t, 4, a.Lawns)
	require.Equal(t, 1, a.AtRest.N)
	var zones int
	for _, x := range []string{"south", "elsewhere"} {
		far := tech.seen(tech.place("Tidewatch").site, grass, tap("green-up-percent", 90))
		require.Zero(t, alike(far).Lawns-zones, x)
		zones++
	}
	require.Equal(t, 4, alike(own).Lawns, "New Zealand is not round about")
}
