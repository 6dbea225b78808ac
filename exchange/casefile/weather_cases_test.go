package casefile_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/remedy"
	"hodos/core/units"
)

// sky makes a plain series that ends on the date: a mean course with a slow wave, rain every so many days.
type sky struct {
	days             int
	tmin, tmax       float64
	rain             float64
	every            int // a wet day each so many days; 0 for none
	rh               float64
	irrigation, snow float64
}

func (s sky) json(end string) string {
	last, _ := time.Parse(time.DateOnly, end)
	var out []map[string]any
	for i := s.days - 1; i >= 0; i-- {
		wave := 1.5 * math.Sin(float64(i)/4)
		day := map[string]any{"date": last.AddDate(0, 0, -i).Format(time.DateOnly), "tmin_c": math.Round((s.tmin+wave)*10) / 10,
			"tmax_c": math.Round((s.tmax+wave)*10) / 10, "rain_mm": 0.0, "snow_cm": s.snow}
		if s.every > 0 && i%s.every == 0 {
			day["rain_mm"] = s.rain
		}
		if s.rh > 0 {
			day["rh_mean"] = s.rh
		}
		if s.irrigation > 0 {
			day["irrigation_mm"] = s.irrigation
		}
		out = append(out, day)
	}
	b, _ := json.Marshal(out)
	return `"weather":` + string(b)
}

func join(parts ...string) string { return strings.Join(parts, ",") }

func site(species string, lat float64, irrigated bool) string {
	return fmt.Sprintf(`"site":{"latitude":%v,"species":[%q],"irrigated":%v}`, lat, species, irrigated)
}

// Cases in which the weather, the treatments or two causes at once decide.
var fuller = []written{
	{"the weather explains a straw lawn", "2026-07-28", 40, "kentucky-bluegrass", join(site("kentucky-bluegrass", 40, false), sky{60, 19, 33, 2, 15, 52, 0, 0}.json("2026-07-28")), `{"pattern":["uniform"],"colour":["straw-tan"],"crown-slice":"white-moist"}`, "summer-dormancy", "brown-patch white-grubs", "apply-nitrogen=hold|avoid restrict-traffic=do-now", ""},
	{"the same lawn in a wet July rests from nothing", "2026-07-28", 40, "kentucky-bluegrass", join(site("kentucky-bluegrass", 40, false), sky{60, 14, 24, 12, 2, 84, 0, 0}.json("2026-07-28")), `{"pattern":["uniform"],"colour":["straw-tan"],"soil-moisture":"moist"}`, "", "summer-dormancy drought-stress drought-dieback", "let-dormant=avoid|check-first", ""},
	{"brown patch in its weather", "2026-07-15", 37, "tall-fescue", join(site("tall-fescue", 37, true), sky{60, 22, 32, 9, 3, 90, 0, 0}.json("2026-07-15")), `{"pattern":["round-patches"],"leaf-symptoms":["irregular-lesion-tan-dark-border"],"pull-test":"resists"}`, "brown-patch", "drought-stress dollar-spot gray-leaf-spot", "apply-nitrogen=hold|avoid", ""},
	{"round patches after cool dry nights are no brown patch", "2026-07-15", 44, "tall-fescue", join(site("tall-fescue", 44, true), sky{60, 9, 24, 4, 6, 55, 3, 0}.json("2026-07-15")), `{"pattern":["round-patches"],"pull-test":"resists"}`, "", "brown-patch pythium-blight", "fungicide-curative=avoid|check-first", ""},
	{"thirst by the balance alone", "2026-07-10", 37, "tall-fescue", join(`"site":{"latitude":37,"species":["tall-fescue"],"irrigated":false,"texture":"sand"}`, sky{50, 17, 30, 3, 12, 50, 0, 0}.json("2026-07-10")), `{"colour":["blue-grey"],"footprints":"stay"}`, "drought-stress", "overwatering heat-stress", "water-deep=do-now apply-nitrogen=hold|avoid", ""},
	{"a wet core wins over a dry sky", "2026-07-10", 37, "tall-fescue", join(site("tall-fescue", 37, false), sky{50, 17, 30, 3, 12, 50, 0, 0}.json("2026-07-10")), `{"soil-moisture":"saturated","colour":["yellow"],"root-condition":"rotted","underfoot":"wet"}`, "", "drought-stress summer-dormancy", "water-deep=avoid", ""},
	{"flush after a cloudburst on fresh nitrogen", "2026-06-05", 34, "zoysiagrass", join(site("zoysiagrass", 34, true), `"treatments":[{"date":"2026-05-25","action":"apply-nitrogen","n_g_m2":4,"source":"quick"}]`, sky{50, 18, 28, 40, 11, 80, 0, 0}.json("2026-06-05")), `{"colour":["lime-green"],"pattern":["mottled"],"growth-rate":"surging","pull-test":"resists"}`, "growth-flush-chlorosis", "nitrogen-deficiency", "apply-nitrogen=hold|avoid", ""},
	{"snow for three months", "2026-03-28", 47, "kentucky-bluegrass", join(site("kentucky-bluegrass", 47, false), sky{100, -8, -1, 3, 4, 80, 0, 15}.json("2026-03-28")), `{"pattern":["matted-patches","round-patches"],"colour":["white-bleached"],"crown-slice":"white-moist","fruiting-bodies":"sclerotia"}`, "gray-snow-mold", "vole-runways winter-crown-kill", "brush-up-mats=do-now|hold fungicide-curative=avoid", ""},
	{"the same mats without a flake of snow", "2026-03-28", 40, "kentucky-bluegrass", join(site("kentucky-bluegrass", 40, false), sky{100, 2, 11, 3, 4, 75, 0, 0}.json("2026-03-28")), `{"pattern":["matted-patches"],"colour":["yellow"],"debris":"matted-dead-grass","crown-slice":"white-moist"}`, "matted-debris", "gray-snow-mold", "remove-debris=do-now", ""},
	{"grubs in the south", "2026-03-05", -37, "perennial-ryegrass", join(site("perennial-ryegrass", -37, true), sky{50, 13, 25, 5, 5, 68, 2, 0}.json("2026-03-05")), `{"pattern":["irregular-patches"],"pull-test":"lifts-like-carpet","grubs-per-m2":140,"soil-moisture":"moist"}`, "white-grubs", "drought-stress", "insecticide-curative=do-now apply-nitrogen=hold|avoid", ""},
	{"grubs and thirst together", "2026-08-25", 39, "kentucky-bluegrass", "", `{"pull-test":"lifts-like-carpet","grubs-per-m2":90,"root-condition":"chewed-off","soil-moisture":"dry","footprints":"stay","colour":["blue-grey"],"leaf-symptoms":["rolled-or-folded"],"days-since-water":15}`, "white-grubs drought-stress", "overwatering", "insecticide-curative=do-now water-deep=do-now apply-nitrogen=hold|avoid", ""},
	{"hungry and spotted", "2026-06-15", 41, "perennial-ryegrass", "", `{"leaf-symptoms":["hourglass-lesion-tan-with-brown-border","older-leaves-yellow","uniform-yellow"],"pattern":["small-round-spots","uniform"],"colour":["straw-tan","yellow"],"growth-rate":"slow","last-nitrogen-days":220,"nitrogen-12-months-g-m2":2}`, "dollar-spot nitrogen-deficiency", "pet-urine iron-chlorosis", "fungicide-curative=avoid", ""},
	{"thatch and repellent soil", "2026-07-05", 38, "creeping-bentgrass", "", `{"thatch-mm":24,"underfoot":"spongy","water-drop-seconds":90,"soil-moisture":"dry","pattern":["irregular-patches"],"pull-test":"resists"}`, "localized-dry-spot excess-thatch", "white-grubs", "apply-wetting-agent=do-now dethatch=avoid|hold|schedule", ""},
	{"one cause explains all, no second is invented", "2026-09-05", 40, "kentucky-bluegrass", "", `{"pull-test":"lifts-like-carpet","grubs-per-m2":150,"root-condition":"chewed-off","underfoot":"soft-loose","animal-digging":"peeled-back","pattern":["irregular-patches"],"colour":["brown"],"footprints":"stay","soil-moisture":"moist"}`, "white-grubs", "drought-stress heat-stress animal-digging establishment-failure summer-patch compaction", "insecticide-curative=do-now", ""},
	{"an answered treatment: iron greened it", "2026-06-20", 31, "centipedegrass", `"earlier":[{"date":"2026-06-05","answer":"iron-chlorosis"}]`, `{"leaf-symptoms":["interveinal-yellow","new-leaves-yellow"],"colour":["yellow"],"soil-ph":7.8,"last-nitrogen-days":40}`, "iron-chlorosis high-ph", "nitrogen-deficiency", "apply-gypsum=avoid", ""},
	{"preventive given, animals dig", "2026-09-10", 40, "kentucky-bluegrass", `"treatments":[{"date":"2026-06-20","action":"insecticide-preventive"}]`, `{"animal-digging":"rooting-holes","pull-test":"resists"}`, "animal-digging", "white-grubs", "insecticide-curative=check-first|avoid insecticide-preventive=avoid", ""},
	{"only the calendar and a colour in March", "2026-03-02", 36, "common-bermudagrass", "", `{"colour":["straw-tan"]}`, "", "drought-dieback white-grubs summer-dormancy", "apply-nitrogen=hold|avoid renovate=avoid fungicide-curative=avoid|check-first", ""},
	{"unknown grass, nothing else", "2026-05-10", 40, "unknown", "", `{}`, "", "spring-dead-spot turf-mosaic-virus", "insecticide-curative=avoid|check-first herbicide-broadcast=avoid|check-first fungicide-curative=avoid|check-first core-aerate=avoid|check-first", ""},
	{"two grasses in one zone", "2026-07-20", 38, "tall-fescue", `"site":{"latitude":38,"species":["tall-fescue","common-bermudagrass"]}`, `{"growth-habit":["clumps","runners-closing-in"],"margin":"sharp","colour":["lime-green","dark-green"],"weed-kinds":["perennial-grassy"],"onset-speed":"gradual"}`, "off-type-grass", "drought-stress brown-patch", "", ""},
	{"wiped out by a spill, crowns brown", "2026-05-15", 40, "tall-fescue", "", `{"recent-events":["spill"],"margin":"sharp","onset-speed":"overnight","crown-slice":"brown-dry","stand-density":"bare"}`, "chemical-spill", "drought-dieback winter-crown-kill", "apply-nitrogen=hold|avoid|schedule", ""},
	{"heat on moist short turf, forecast hot", "2026-07-18", 38, "perennial-ryegrass", join(site("perennial-ryegrass", 38, true), `"forecast":[{"date":"2026-07-19","tmin_c":24,"tmax_c":36,"rain_mm":0},{"date":"2026-07-20","tmin_c":24,"tmax_c":36,"rain_mm":0},{"date":"2026-07-21","tmin_c":24,"tmax_c":35,"rain_mm":0},{"date":"2026-07-22","tmin_c":24,"tmax_c":35,"rain_mm":0}]`, sky{40, 22, 35, 6, 6, 65, 5, 0}.json("2026-07-18")), `{"soil-temp-c":32,"soil-temp-healthy-c":28,"soil-moisture":"moist","mowing-height-mm":30,"leaf-symptoms":["tip-dieback"],"pull-test":"resists","colour":["straw-tan"]}`, "heat-stress", "drought-stress white-grubs summer-dormancy", "apply-nitrogen=hold herbicide-broadcast=hold|avoid core-aerate=avoid|schedule|hold raise-mowing-height=do-now", ""},
}

func init() { cases = append(cases, fuller...) }

// A series with gaps and columns missing is used for what it holds, and the answer says what it lacked.
func TestGapsAreSaid(t *testing.T) {
	w := written{date: "2026-07-15", lat: 37, species: "tall-fescue", more: sky{40, 20, 31, 5, 4, 0, 0, 0}.json("2026-07-15"), found: `{}`,
		name: "no humidity"}
	c := w.parse(t)
	c.Weather[5].TMax, c.Weather[9].Rain = nil, nil
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	said := map[string]bool{}
	for _, n := range r.Notices {
		said[n.About] = true
	}
	require.True(t, said["disease-window"], "no humidity, no humidity index: %v", r.Notices)
	for _, f := range r.Weather {
		require.NotEqual(t, "dollar-spot", f.Cause)
		require.False(t, f.From.After(f.To), f.ID)
		require.NotEmpty(t, f.Detail, f.ID)
	}
	require.NotEmpty(t, remedy.Decide(c, r, units.Saying{}))
}

// The note of a treatment is never evidence, and neither is the title.
func TestWordsAreNoEvidence(t *testing.T) {
	base := written{name: "plain", date: "2026-08-20", lat: 40, species: "kentucky-bluegrass", found: `{"pattern":["irregular-patches"]}`,
		more: `"treatments":[{"date":"2026-08-01","action":"water-deep"}]`}
	told := base
	told.more = `"title":"Grubs!","notes":"surely grubs","treatments":[{"date":"2026-08-01","action":"water-deep","note":"client says grubs"}]`
	a, b := diagnosis.Diagnose(base.parse(t), diagnosis.Options{}), diagnosis.Diagnose(told.parse(t), diagnosis.Options{})
	require.Equal(t, a.P("white-grubs"), b.P("white-grubs"))
}
