package demo

import (
	"time"

	"hodos/store"
)

// stories are what is found on a lawn by what it has, as a technician would tick it off.
var stories = map[string]map[string]any{
	"red-thread": {"pattern": []string{"irregular-patches"}, "colour": []string{"red-pink", "straw-tan"}, "leaf-symptoms": []string{"red-threads"},
		"last-nitrogen-days": 120, "growth-rate": "slow", "pull-test": "resists", "affected-area-percent": 15},
	"rust": {"pattern": []string{"uniform"}, "colour": []string{"orange-cast"}, "leaf-symptoms": []string{"orange-pustules"},
		"growth-rate": "slow", "pull-test": "resists", "affected-area-percent": 30},
	"dollar-spot": {"pattern": []string{"small-round-spots"}, "colour": []string{"straw-tan"}, "patch-diameter-cm": 6,
		"leaf-symptoms": []string{"hourglass-lesion-tan-with-brown-border"}, "pull-test": "resists", "affected-area-percent": 12},
	"brown-patch": {"pattern": []string{"round-patches"}, "colour": []string{"brown", "straw-tan"}, "margin": "diffuse",
		"leaf-symptoms": []string{"irregular-lesion-tan-dark-border"}, "mycelium-at-dawn": "grey-web", "pull-test": "resists",
		"affected-area-percent": 25, "patch-diameter-cm": 50},
	"white-grubs": {"pattern": []string{"irregular-patches"}, "colour": []string{"brown"}, "underfoot": "soft-loose",
		"animal-digging": "rooting-holes", "pull-test": "lifts-like-carpet", "grubs-per-m2": 120, "soil-moisture": "moist",
		"affected-area-percent": 18},
	"nitrogen-deficiency": {"pattern": []string{"uniform"}, "colour": []string{"lime-green", "yellow"}, "growth-rate": "slow", "last-nitrogen-days": 210,
		"nitrogen-12-months-g-m2": 2, "stand-density": "thin", "pull-test": "resists", "soil-moisture": "moist", "affected-area-percent": 90},
	"drought-stress": {"pattern": []string{"irregular-patches"}, "colour": []string{"blue-grey"}, "footprints": "stay", "soil-moisture": "dry",
		"pull-test": "resists", "affected-area-percent": 40},
}

// older are the cases of Weir Row before last summer: zone, day, and what it was. They have long been closed; from them the firm's figures
// and what its own cases teach have something to say.
var older = []struct {
	zone    int
	on      time.Time
	cause   string
	minutes int
	closed  string // empty for mended
}{
	{0, date(2024, 5, 6), "red-thread", 31, ""},
	{1, date(2024, 5, 8), "red-thread", 24, ""},
	{2, date(2024, 6, 11), "dollar-spot", 29, ""},
	{3, date(2024, 6, 19), "nitrogen-deficiency", 18, ""},
	{4, date(2024, 7, 9), "drought-stress", 22, ""},
	{5, date(2024, 7, 22), "brown-patch", 35, ""},
	{0, date(2024, 9, 10), "white-grubs", 41, ""},
	{1, date(2024, 9, 23), "rust", 17, ""},
	{2, date(2024, 10, 7), "red-thread", 20, ""},
	{3, date(2024, 10, 15), "red-thread", 26, ""},
	{4, date(2025, 4, 22), "red-thread", 23, ""},
	{5, date(2025, 4, 29), "nitrogen-deficiency", 19, ""},
	{0, date(2025, 5, 7), "red-thread", 25, ""},
	{1, date(2025, 5, 20), "red-thread", 21, ""},
	{2, date(2025, 6, 17), "dollar-spot", 33, ""},
	{3, date(2025, 7, 15), "drought-stress", 28, ""},
	{4, date(2025, 7, 29), "brown-patch", 38, ""},
	{5, date(2025, 8, 12), "brown-patch", 30, ""},
	{1, date(2025, 9, 16), "white-grubs", 44, ""},
	{2, date(2025, 9, 30), "rust", 16, ""},
	{3, date(2025, 10, 14), "red-thread", 22, ""},
	{5, date(2025, 10, 21), "rust", 19, ""},
}

// weirRow is a terrace that the firm has kept for years. Nothing is due there.
func weirRow() property {
	row := property{n: 9, name: "Weir Row", client: "Weir Row Residents", address: "1 to 6 Weir Row, Hollin Bend", lat: 37.628, lon: -78.318,
		zones: []zone{
			{"No. 1", 140, "perennial-ryegrass", "loam", b(true), `{"summer-water":"keep-green"}`},
			{"No. 2", 120, "perennial-ryegrass", "loam", b(false), `{"summer-water":"let-rest"}`},
			{"No. 3", 150, "perennial-ryegrass", "clay-loam", b(true), ""},
			{"No. 4", 135, "tall-fescue", "loam", b(false), ""},
			{"No. 5", 160, "tall-fescue", "loam", b(true), `{"summer-water":"keep-green"}`},
			{"No. 6", 145, "tall-fescue", "clay-loam", b(true), ""},
		}}
	for _, o := range older {
		v := past{zone: o.zone, on: o.on, kind: "diagnosis", reason: "Seen on the round", person: "technician", confirm: o.cause, closed: o.closed,
			minutes: o.minutes, findings: stories[o.cause]}
		if v.closed == "" {
			v.closed = store.Mended
		}
		row.past = append(row.past, v)
	}
	return row
}
