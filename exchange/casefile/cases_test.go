package casefile_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
)

// written is one written case: what is seen, and what must come out of it.
type written struct {
	name    string
	date    string
	lat     float64
	species string
	more    string // further fields of the case, as JSON
	found   string // findings, as JSON
	leads   string // causes of at least 0.5, blank-separated, the first of which leads
	low     string // tempting wrong causes, all under 0.25
	verdict string // action=verdict[|verdict] …
	next    string // one of these findings is among the first four checks
}

var cases = []written{
	{"grubs in late summer", "2026-08-28", 40, "kentucky-bluegrass", "", `{"pattern":["irregular-patches"],"colour":["brown","straw-tan"],"underfoot":"soft-loose","animal-digging":"peeled-back","pull-test":"lifts-like-carpet","root-condition":"chewed-off","grubs-per-m2":120,"soil-moisture":"moist"}`, "white-grubs", "drought-stress brown-patch summer-dormancy", "insecticide-curative=do-now apply-nitrogen=hold|avoid", ""},
	{"grubs under the threshold", "2026-08-28", 40, "tall-fescue", "", `{"pattern":["irregular-patches"],"colour":["straw-tan"],"pull-test":"resists","grubs-per-m2":20,"soil-moisture":"dry","footprints":"stay","root-condition":"intact"}`, "drought-stress", "white-grubs", "insecticide-curative=avoid water-deep=do-now herbicide-broadcast=hold|avoid", ""},
	{"animals dig, nobody counted", "2026-09-10", 41, "kentucky-bluegrass", "", `{"pattern":["irregular-patches"],"animal-digging":"rooting-holes","colour":["brown"]}`, "", "", "insecticide-curative=check-first", "grubs-per-m2 pull-test"},
	{"resting bluegrass", "2026-07-30", 40, "kentucky-bluegrass", `"policy":{"summer-water":"let-rest"}`, `{"pattern":["uniform"],"colour":["straw-tan"],"pull-test":"resists","crown-slice":"white-moist","crowns-alive-percent":95,"soil-moisture":"dry","days-since-water":24,"irrigation-time":"none","neighbours-affected":"many","growth-rate":"stalled"}`, "summer-dormancy", "drought-dieback brown-patch white-grubs", "let-dormant=do-now apply-nitrogen=hold|avoid herbicide-broadcast=avoid|hold restrict-traffic=do-now water-deep=avoid", ""},
	{"dead after the drought", "2026-08-30", 39, "perennial-ryegrass", "", `{"pattern":["irregular-patches"],"colour":["straw-tan","brown"],"pull-test":"shears-at-soil","crown-slice":"brown-dry","crowns-alive-percent":5,"green-tissue-at-base":false,"soil-moisture":"dry","days-since-water":40}`, "drought-dieback", "summer-dormancy white-grubs", "apply-nitrogen=hold|avoid slit-seed=do-now|schedule", ""},
	{"thirsty, moist good spot", "2026-07-10", 39, "tall-fescue", "", `{"colour":["blue-grey"],"footprints":"stay","leaf-symptoms":["rolled-or-folded"],"soil-moisture":"dry","pull-test":"resists","pattern":["high-spots-or-slopes"]}`, "drought-stress", "heat-stress white-grubs gray-leaf-spot", "water-deep=do-now apply-nitrogen=hold|avoid hold-mowing=do-now", ""},
	{"repellent sand", "2026-07-20", 38, "creeping-bentgrass", `"site":{"latitude":38,"species":["creeping-bentgrass"],"texture":"sand","irrigated":true}`, `{"pattern":["irregular-patches"],"colour":["straw-tan"],"soil-moisture":"dry","water-drop-seconds":90,"irrigation-weekly-mm":30,"pull-test":"resists","footprints":"stay"}`, "localized-dry-spot", "white-grubs summer-dormancy", "apply-wetting-agent=do-now", ""},
	{"dollar spot", "2026-06-20", 40, "perennial-ryegrass", "", `{"pattern":["small-round-spots"],"colour":["straw-tan"],"patch-diameter-cm":6,"leaf-symptoms":["hourglass-lesion-tan-with-brown-border"],"mycelium-at-dawn":"white-sparse","pull-test":"resists","last-nitrogen-days":120}`, "dollar-spot", "pet-urine brown-patch", "fungicide-curative=avoid|hold insecticide-curative=avoid", ""},
	{"dog", "2026-05-10", 40, "kentucky-bluegrass", "", `{"pattern":["small-round-spots"],"colour":["straw-tan","dark-green"],"patch-diameter-cm":18,"dog-on-lawn":true,"leaf-symptoms":["whole-leaf-blight"],"pull-test":"resists","margin":"sharp"}`, "pet-urine", "dollar-spot necrotic-ring-spot", "fungicide-curative=avoid", ""},
	{"spring dead spot again", "2026-04-28", 36, "hybrid-bermudagrass", "", `{"pattern":["round-patches"],"colour":["straw-tan","white-bleached"],"patch-diameter-cm":50,"patch-profile":"sunken","same-place-before":true,"root-colour":"black","crown-slice":"brown-dry","green-up-percent":70}`, "spring-dead-spot", "winter-dormancy dollar-spot large-patch", "fungicide-curative=avoid fungicide-preventive=schedule preemergent=hold|avoid|check-first", ""},
	{"bermuda asleep", "2026-01-20", 35, "common-bermudagrass", "", `{"pattern":["uniform"],"colour":["straw-tan"],"crown-slice":"white-moist","soil-temp-c":6,"neighbours-affected":"many","green-up-percent":0}`, "winter-dormancy", "drought-dieback winter-crown-kill", "apply-nitrogen=hold|avoid leave-alone=do-now", ""},
	{"southern July is winter", "2026-07-15", -33, "kikuyugrass", "", `{"pattern":["uniform"],"colour":["straw-tan"],"soil-temp-c":8,"growth-rate":"stalled","neighbours-affected":"many","crown-slice":"white-moist"}`, "winter-dormancy", "drought-stress summer-dormancy", "apply-nitrogen=hold|avoid", ""},
	{"half-green centipede", "2026-04-05", 33, "centipedegrass", "", `{"green-up-percent":55,"soil-temp-c":16,"crown-slice":"white-moist","pattern":["mottled"],"weed-cover-percent":25,"weed-kinds":["broadleaf","winter-annual"]}`, "slow-green-up", "winter-crown-kill", "herbicide-broadcast=hold apply-nitrogen=hold dethatch=avoid lower-mowing-once=avoid", ""},
	{"winter kill in the hollow", "2026-04-20", 44, "perennial-ryegrass", "", `{"pattern":["low-spots","irregular-patches"],"recent-events":["ice-cover"],"crown-slice":"brown-soft","crowns-alive-percent":5,"green-tissue-at-base":false,"colour":["straw-tan"],"soil-temp-c":9}`, "winter-crown-kill", "gray-snow-mold summer-dormancy", "apply-nitrogen=hold|avoid herbicide-broadcast=hold|avoid", ""},
	{"gray snow mold", "2026-03-25", 46, "kentucky-bluegrass", "", `{"pattern":["matted-patches","round-patches"],"colour":["white-bleached"],"fruiting-bodies":"sclerotia","snow-cover-days":95,"crown-slice":"white-moist"}`, "gray-snow-mold", "winter-crown-kill vole-runways", "brush-up-mats=do-now fungicide-curative=avoid", ""},
	{"iron at high pH", "2026-06-10", 31, "st-augustinegrass", "", `{"leaf-symptoms":["interveinal-yellow","new-leaves-yellow"],"colour":["yellow"],"soil-ph":7.9,"pattern":["mottled"],"last-nitrogen-days":30,"pull-test":"resists","root-colour":"white"}`, "iron-chlorosis high-ph", "nitrogen-deficiency take-all-root-rot chinch-bugs", "apply-iron=do-now apply-gypsum=avoid apply-lime=avoid", ""},
	{"flush after the cloudburst", "2026-05-30", 34, "zoysiagrass", "", `{"colour":["lime-green"],"pattern":["mottled"],"growth-rate":"surging","recent-events":["heavy-rain"],"last-nitrogen-source":"quick","last-nitrogen-days":12,"pull-test":"resists","soil-moisture":"moist"}`, "growth-flush-chlorosis", "nitrogen-deficiency", "apply-nitrogen=hold|avoid", ""},
	{"hungry", "2026-05-10", 42, "perennial-ryegrass", "", `{"pattern":["uniform"],"colour":["yellow"],"leaf-symptoms":["older-leaves-yellow","uniform-yellow"],"growth-rate":"slow","last-nitrogen-days":240,"nitrogen-12-months-g-m2":2,"pull-test":"resists","soil-temp-c":15,"soil-moisture":"moist"}`, "nitrogen-deficiency", "iron-chlorosis growth-flush-chlorosis", "apply-nitrogen=do-now fungicide-curative=avoid", ""},
	{"flooded hollow", "2026-06-12", 38, "tall-fescue", "", `{"pattern":["low-spots"],"position":["low-spot"],"recent-events":["flood"],"surface":"cracked-or-scaled","pull-test":"peels-in-rotten-sheets","root-condition":"rotted","growth-habit":["sideways-remnants"]}`, "flooding", "white-grubs drought-stress", "improve-drainage=schedule|do-now resod=hold|avoid|check-first", ""},
	{"trodden path", "2026-05-20", 40, "kentucky-bluegrass", "", `{"position":["entry-path"],"penetration":"hard","penetration-kpa":2900,"soil-moisture":"moist","stand-density":"thin","recent-events":["heavy-traffic"],"root-depth-mm":35,"pattern":["lines-or-streaks"]}`, "compaction", "drought-stress white-grubs", "core-aerate=hold|schedule|check-first", ""},
	{"moss in shade", "2026-03-15", 47, "fine-fescue", "", `{"moss-cover-percent":40,"position":["under-tree"],"sun-hours":2,"stand-density":"thin","soil-moisture":"wet"}`, "moss-invasion shade-thinning", "drought-stress gray-snow-mold", "moss-control=do-now", ""},
	{"heat, moist soil", "2026-07-25", 38, "perennial-ryegrass", "", `{"soil-temp-c":33,"soil-temp-healthy-c":28,"soil-moisture":"moist","colour":["straw-tan"],"leaf-symptoms":["tip-dieback"],"pull-test":"resists","onset-speed":"days","mowing-height-mm":35}`, "heat-stress", "drought-stress white-grubs", "apply-nitrogen=hold|avoid syringe-midday=do-now herbicide-broadcast=hold|avoid raise-mowing-height=do-now", ""},
	{"chinch bugs taken for drought", "2026-07-20", 29, "st-augustinegrass", "", `{"pattern":["along-hardscape","irregular-patches"],"colour":["yellow","orange-cast"],"float-chinch-per-m2":420,"soil-moisture":"moist","pull-test":"resists","sun-hours":9}`, "chinch-bugs", "drought-stress take-all-root-rot large-patch", "insecticide-curative=do-now", ""},
	{"large patch", "2026-10-25", 32, "zoysiagrass", "", `{"pattern":["round-patches"],"colour":["orange-cast","brown"],"patch-diameter-cm":180,"pull-test":"shoots-slip-from-rotted-sheath","root-condition":"intact","soil-moisture":"wet","soil-temp-c":16}`, "large-patch", "take-all-root-rot winter-dormancy white-grubs", "apply-nitrogen=hold|avoid", ""},
	{"frost after green-up", "2026-04-15", 37, "zoysiagrass", "", `{"recent-events":["freeze-after-green-up"],"onset-speed":"overnight","leaf-symptoms":["tip-dieback"],"colour":["white-bleached"],"crown-slice":"white-moist","neighbours-affected":"many","green-up-percent":80}`, "frost-injury", "winter-crown-kill drought-stress", "apply-nitrogen=hold fungicide-curative=avoid wait-and-recheck=schedule", ""},
	{"nothing wrong", "2026-05-15", 40, "tall-fescue", "", `{"pattern":[],"colour":[],"leaf-symptoms":["none"],"pull-test":"resists","footprints":"spring-back","underfoot":"firm","soil-moisture":"moist","crown-slice":"white-moist","root-colour":"white","root-condition":"intact","stand-density":"dense","growth-rate":"normal","weed-cover-percent":2,"moss-cover-percent":0,"thatch-mm":7,"penetration":"easy","seed-heads":"none"}`, "healthy-turf", "drought-stress dollar-spot nitrogen-deficiency", "insecticide-curative=avoid fungicide-curative=avoid leave-alone=do-now", ""},
	{"pythium overnight", "2026-07-22", 37, "perennial-ryegrass", "", `{"pattern":["lines-or-streaks"],"margin":"water-soaked","leaf-symptoms":["greasy-water-soaked"],"mycelium-at-dawn":"white-cottony","onset-speed":"overnight","soil-moisture":"wet"}`, "pythium-blight", "drought-stress dollar-spot", "fungicide-curative=do-now apply-nitrogen=hold|avoid syringe-midday=avoid clean-equipment=do-now", ""},
	{"brown patch, client treats", "2026-07-15", 38, "tall-fescue", `"policy":{"blemishes":"treat"}`, `{"pattern":["round-patches"],"patch-diameter-cm":45,"leaf-symptoms":["irregular-lesion-tan-dark-border"],"margin":"smoke-ring","pull-test":"resists","soil-moisture":"moist","onset-speed":"days"}`, "brown-patch", "drought-stress white-grubs dollar-spot", "fungicide-curative=do-now apply-nitrogen=hold|avoid", ""},
	{"only brown", "2026-07-20", 39, "kentucky-bluegrass", "", `{"colour":["brown"]}`, "", "", "insecticide-curative=avoid|check-first fungicide-curative=avoid|check-first apply-nitrogen=hold|avoid|schedule renovate=avoid", ""},
	{"sprinkler gap", "2026-07-18", 38, "tall-fescue", `"site":{"latitude":38,"species":["tall-fescue"],"irrigated":true}`, `{"pattern":["sprinkler-arcs"],"soil-moisture":"dry","catch-can-du":0.42,"colour":["straw-tan"],"water-drop-seconds":1,"pull-test":"resists"}`, "irrigation-coverage-gap", "white-grubs summer-dormancy", "fix-irrigation=do-now", ""},
	{"armyworms overnight", "2026-09-08", 35, "common-bermudagrass", "", `{"onset-speed":"overnight","leaf-symptoms":["chewed-notches","windowpane-feeding"],"insects-seen":["caterpillars"],"neighbours-affected":"many","flush-caterpillars-per-m2":45,"caterpillar-kind":"armyworm","frass":"green-pellets"}`, "armyworms", "drought-stress sod-webworms scalping", "insecticide-curative=do-now", ""},
	{"shade and mildew", "2026-09-20", 41, "kentucky-bluegrass", "", `{"leaf-symptoms":["white-powder"],"position":["building-shade"],"sun-hours":2,"stand-density":"thin","pull-test":"resists"}`, "powdery-mildew shade-thinning", "drought-stress rust", "prune-shade=schedule fungicide-curative=avoid", ""},
}

func (w written) parse(t *testing.T) evidence.Case {
	site := `"site":{"latitude":` + jsonNumber(w.lat) + `,"species":["` + w.species + `"]}`
	if strings.Contains(w.more, `"site"`) {
		site = ""
	}
	parts := []string{`"hodos_case":1`, `"date":"` + w.date + `"`, `"findings":` + w.found}
	for _, p := range []string{site, w.more} {
		if p != "" {
			parts = append(parts, p)
		}
	}
	c, err := casefile.Parse([]byte("{" + strings.Join(parts, ",") + "}"))
	require.NoError(t, err, w.name)
	return c
}

func jsonNumber(x float64) string { b, _ := json.Marshal(x); return string(b) }

func TestWrittenCases(t *testing.T) {
	for _, w := range cases {
		t.Run(w.name, func(t *testing.T) {
			c := w.parse(t)
			r := diagnosis.Diagnose(c, diagnosis.Options{})
			top := ""
			for _, x := range r.Causes[:5] {
				top += x.ID + " " + jsonNumber(float64(int(x.Probability*1000))/1000) + "  "
			}
			for i, id := range strings.Fields(w.leads) {
				require.GreaterOrEqual(t, r.P(id), .5, "%s should carry it; leading: %s", id, top)
				if i == 0 && len(strings.Fields(w.leads)) == 1 {
					require.Equal(t, id, r.Causes[0].ID, top)
				}
			}
			for _, id := range strings.Fields(w.low) {
				require.Less(t, r.P(id), .25, "%s should be low; leading: %s", id, top)
			}
			plan := remedy.Decide(c, r, units.Saying{})
			holdsVerdicts(t, w.verdict, r, plan)
			soundPlan(t, c, plan)
			if w.next != "" {
				found := false
				for i, n := range r.Next {
					for _, f := range append(n.Also, n.Finding) {
						found = found || (i < 4 && strings.Contains(" "+w.next+" ", " "+f+" "))
					}
				}
				require.True(t, found, "none of %s is among the first checks: %+v", w.next, r.Next[:min(4, len(r.Next))])
			}
		})
	}
}
