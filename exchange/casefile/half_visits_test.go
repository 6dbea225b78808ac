package casefile_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
)

// halfVisit is a visit half done, and what a specialist would do next: any of these within the first two checks.
type halfVisit struct {
	name, date string
	lat        float64
	species    string
	found      string
	next       []string
}

var halfVisits = []halfVisit{
	{"lifts in autumn", "2026-09-18", 42, "perennial-ryegrass", `{"pull-test":"lifts-like-carpet","colour":["straw-tan"]}`, []string{"grubs-per-m2"}},
	{"lifts in the southern autumn", "2026-03-05", -37, "kentucky-bluegrass",
		`{"pull-test":"lifts-like-carpet","pattern":["irregular-patches"]}`, []string{"grubs-per-m2"}},
	{"tunnels in the sand", "2026-07-02", 30, "common-bermudagrass", `{"animal-digging":"tunnels","texture":"sand","colour":["brown"]}`,
		[]string{"flush-mole-crickets-per-m2", "underfoot"}},
	{"yellow at the walk", "2026-07-28", 28, "st-augustinegrass",
		`{"pattern":["along-hardscape"],"colour":["yellow"],"pull-test":"resists","root-colour":"white","soil-moisture":"moist"}`,
		[]string{"float-chinch-per-m2", "insects-seen"}},
	{"chewed and pellets", "2026-08-12", 41, "tall-fescue", `{"leaf-symptoms":["chewed-notches"],"frass":"green-pellets","colour":["brown"]}`,
		[]string{"flush-caterpillars-per-m2", "insects-seen", "moths-on-walking"}},
	{"straw and dry, alive or not", "2026-08-18", 42, "kentucky-bluegrass",
		`{"pattern":["uniform"],"colour":["straw-tan"],"soil-moisture":"dry","days-since-water":38}`,
		[]string{"crown-slice", "crowns-alive-percent", "green-tissue-at-base"}},
	{"brown after the winter", "2026-04-08", 45, "annual-bluegrass", `{"pattern":["low-spots"],"colour":["brown"],"stand-density":"thin"}`,
		[]string{"crown-slice", "crowns-alive-percent", "green-tissue-at-base", "recent-events"}},
	{"hot week, moist soil", "2026-07-19", 38, "perennial-ryegrass",
		`{"colour":["straw-tan"],"pattern":["uniform"],"soil-moisture":"moist","leaf-symptoms":["tip-dieback"],"crown-slice":"white-moist"}`,
		[]string{"soil-temp-c"}},
	{"round brown patches", "2026-07-14", 37, "tall-fescue", `{"pattern":["round-patches"],"colour":["brown"],"soil-moisture":"moist"}`,
		[]string{"leaf-symptoms", "mycelium-at-dawn"}},
	{"spots on the green", "2026-06-18", 42, "creeping-bentgrass", `{"pattern":["small-round-spots"],"colour":["straw-tan"]}`,
		[]string{"leaf-symptoms", "patch-diameter-cm", "mycelium-at-dawn"}},
	{"orange rings in autumn", "2026-10-12", 33, "zoysiagrass", `{"pattern":["round-patches"],"colour":["orange-cast","brown"]}`,
		[]string{"pull-test", "patch-diameter-cm"}},
	{"frog-eyes in August", "2026-08-06", 40, "kentucky-bluegrass", `{"pattern":["frog-eye"],"colour":["straw-tan"],"patch-diameter-cm":30}`,
		[]string{"root-colour", "root-condition", "same-place-before", "lab-pathogen"}},
	{"greasy after a hot night", "2026-07-24", 36, "perennial-ryegrass", `{"pattern":["lines-or-streaks"],"onset-speed":"overnight"}`,
		[]string{"leaf-symptoms", "mycelium-at-dawn"}},
	{"stubby roots in sand", "2026-07-22", 29, "hybrid-bermudagrass",
		`{"texture":"sand","root-condition":"short-stubby","stand-density":"thin","soil-moisture":"moist","footprints":"stay"}`,
		[]string{"nematode-count"}},
	{"young leaves yellow between the veins", "2026-06-15", 31, "centipedegrass",
		`{"leaf-symptoms":["interveinal-yellow"],"colour":["yellow"],"pattern":["mottled"]}`,
		[]string{"soil-ph", "root-colour", "iron-last-60-days", "growth-rate"}},
	{"trodden corner", "2026-05-25", 41, "kentucky-bluegrass", `{"position":["entry-path"],"stand-density":"thin","recent-events":["heavy-traffic"]}`,
		[]string{"penetration", "penetration-kpa"}},
	{"under the oak", "2026-06-22", 39, "tall-fescue", `{"position":["under-tree"],"stand-density":"thin"}`, []string{"sun-hours"}},
	{"soft underfoot", "2026-06-14", 33, "hybrid-bermudagrass", `{"underfoot":"spongy","colour":["straw-tan"]}`, []string{"thatch-mm"}},
	{"dry islands in watered sand", "2026-07-26", 41, "creeping-bentgrass",
		`{"texture":"sand","soil-moisture":"dry","pattern":["irregular-patches"],"irrigation-weekly-mm":32,"colour":["straw-tan"]}`,
		[]string{"water-drop-seconds", "catch-can-du"}},
	{"arcs between the heads", "2026-07-21", 39, "kentucky-bluegrass",
		`{"pattern":["sprinkler-arcs"],"colour":["straw-tan"],"soil-moisture":"dry"}`, []string{"catch-can-du", "recent-events"}},
	{"birds in February", "2026-02-20", 51, "perennial-ryegrass", `{"animal-digging":"bird-probing","colour":["yellow"]}`,
		[]string{"leatherjackets-per-m2", "pull-test", "insects-seen"}},
	{"matted where the snow lay", "2026-03-26", 46, "kentucky-bluegrass", `{"pattern":["matted-patches"],"colour":["white-bleached"]}`,
		[]string{"fruiting-bodies", "debris", "snow-cover-days"}},
	{"straw shoots that break", "2026-07-07", 42, "kentucky-bluegrass", `{"pull-test":"stems-break-at-crown","colour":["straw-tan"]}`,
		[]string{"frass", "billbug-larvae-per-m2"}},
}

func TestTheNextCheckIsTheSpecialists(t *testing.T) {
	first := 0
	for _, h := range halfVisits {
		t.Run(h.name, func(t *testing.T) {
			c := written{name: h.name, date: h.date, lat: h.lat, species: h.species, found: h.found}.parse(t)
			r := diagnosis.Diagnose(c, diagnosis.Options{})
			place := slices.IndexFunc(r.Next, func(n diagnosis.NextCheck) bool { return slices.Contains(h.next, n.Finding) })
			require.True(t, place >= 0 && place < 2, "%v stands at %d of %v", h.next, place+1, findingsOf(r.Next))
			if place == 0 {
				first++
			}
		})
	}
	require.GreaterOrEqual(t, first, 18, "the specialist's own check comes first")
}

func findingsOf(checks []diagnosis.NextCheck) (out []string) {
	for _, n := range checks[:min(5, len(checks))] {
		out = append(out, n.Finding)
	}
	return out
}

// A count stays on top however sure the pest is: the remedy may not go without it.
func TestAProofIsNeededHoweverSureTheCause(t *testing.T) {
	for _, x := range []struct{ species, found, cause, proof string }{
		{"st-augustinegrass", `{"insects-seen":["chinch-like"],"pattern":["along-hardscape"],"colour":["yellow","orange-cast"],"pull-test":"resists","soil-moisture":"moist"}`,
			"chinch-bugs", "float-chinch-per-m2"},
		{"bahiagrass", `{"insects-seen":["mole-crickets"],"animal-digging":"tunnels","underfoot":"soft-loose","texture":"sand"}`,
			"mole-crickets", "flush-mole-crickets-per-m2"},
		{"kentucky-bluegrass", `{"pull-test":"lifts-like-carpet","root-condition":"chewed-off","animal-digging":"peeled-back","underfoot":"soft-loose"}`,
			"white-grubs", "grubs-per-m2"},
	} {
		c := written{name: x.cause, date: "2026-08-20", lat: 31, species: x.species, found: x.found}.parse(t)
		if x.cause == "white-grubs" {
			c.Lawn.Latitude = 40
		}
		r := diagnosis.Diagnose(c, diagnosis.Options{})
		require.Greater(t, r.P(x.cause), .9, x.cause)
		require.False(t, r.Settled)
		require.Equal(t, x.proof, r.Next[0].Finding)
		require.Equal(t, x.cause, r.Next[0].Needed)
		require.Positive(t, r.Next[0].Worth)
	}
}
