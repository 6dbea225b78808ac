package knowledge

import (
	"sort"
	"strconv"
	"strings"
)

// Threshold is a figure that a specialist holds a reading against, with where it comes from.
type Threshold struct {
	Finding string // the finding or weather window it is read on
	Figure  string // with its unit
	Means   string
	Source  string
}

const (
	countSource = "extension ranges; a species' own figure and the region's go before"
	waterSource = "Allen et al. 1998 (FAO-56)"
)

// Thresholds of a cause, for the field guide; nil for causes that are known by sight alone.
func Thresholds(cause string) (out []Threshold) {
	for _, r := range ThresholdRows {
		if r.Cause == cause {
			out = append(out, Threshold{r.Finding, r.Figure, r.means, r.Source})
		}
	}
	return out
}

// thresholdRow is one figure of a cause.
type thresholdRow struct{ Cause, Finding, Figure, means, Source string }

var ThresholdRows = []thresholdRow{
	{"dollar-spot", "disease-window", "index 20 %", "five-day means of air temperature and humidity, 10 to 35 °C: act from here", "Smith et al. 2018, PLoS ONE 13: e0194216"},
	{"dollar-spot", "patch-diameter-cm", "8 cm, 15 on tall turf", "larger spots are something else", Ext},
	{"brown-patch", "disease-window", "E ≥ 6", "mean humidity and minimum temperature of the day: warning", "Fidanza, Dernoeden and Grybauskas 1996"},
	{"brown-patch", "disease-window", "nights under 16 °C for two weeks", "speaks against", J},
	{"large-patch", "soil-temp-c", "10 to 21 °C", "the soil in which it spreads, wet", Ext},
	{"leaf-spot", "disease-window", "21 to 32 °C, wet", "on cool-season grasses; mild and wet on warm-season ones", Ext},
	{"melting-out", "disease-window", "13 to 18 °C, wet, 2 to 8 weeks ago", "the thinning shows later, in dry warmth", Ext},
	{"gray-leaf-spot", "disease-window", "26 to 32 °C with 9 to 14 wet hours", "infection", Ext},
	{"pythium-blight", "disease-window", "day over 30 °C, then 14 h over 90 % humidity, night at 20 °C and more", "warning: it takes a stand in two days", "Nutter, Cole and Schein 1983"},
	{"rust", "disease-window", "20 to 30 °C with long dew", "on slow, underfed turf", Ext},
	{"red-thread", "disease-window", "15 to 24 °C, drizzle", "on underfed turf", Ext},
	{"powdery-mildew", "sun-hours", "under 4 h", "in full sun it is something else", Ext},
	{"anthracnose", "disease-window", "index 2", "three-day means of wet hours and temperature, 15 to 30 °C", "Danneberger, Vargas and Jones 1984; limits judgement"},
	{"necrotic-ring-spot", "patch-diameter-cm", "to 100 cm", "rings; larger ones are fairy rings", Ext},
	{"summer-patch", "soil-temp-c", "18 to 20 °C in late spring", "infection: the preventive date", Ext},
	{"summer-patch", "disease-window", "30 °C after wet", "symptoms", Ext},
	{"take-all-root-rot", "soil-ph", "over 6.5", "favours it", Ext},
	{"spring-dead-spot", "soil-temp-c", "10 to 21 °C in autumn", "infection: the preventive date", Ext},
	{"gray-snow-mold", "snow-cover-days", "60 days", "of snow on unfrozen ground", Ext},
	{"pink-snow-mold", "disease-window", "0 to 16 °C, long wet", "with or without snow", Ext},
	{"fairy-ring", "water-drop-seconds", "5 s, 60 s", "repellent, strongly repellent under a dead ring", Ext},
	{"white-grubs", "grubs-per-m2", "65 per m²", "damaging in turf that is otherwise well; 30 under other stress; 100 where it is watered and sound", countSource},
	{"white-grubs", "grub-kind", "30–55, 55–75, 85–110, 85–130, 320–540 per m²", "May beetle, European chafer, Japanese and oriental, masked chafers, small black ataenius", countSource},
	{"white-grubs", "soil-temp-c", "under 10 °C", "none found is then not checked, not none", Ext},
	{"chinch-bugs", "float-chinch-per-m2", "160 to 270 per m²", "damaging (15 to 25 per square foot)", countSource},
	{"sod-webworms", "flush-caterpillars-per-m2", "65 per m², 25 under stress", "damaging", "judgement; differs by region"},
	{"armyworms", "flush-caterpillars-per-m2", "10 to 20 per m²", "damaging", "judgement; differs by region"},
	{"billbugs", "billbug-larvae-per-m2", "65 to 100 per m²", "damaging", countSource},
	{"mole-crickets", "flush-mole-crickets-per-m2", "10 per m²", "damaging", "judgement; differs by region"},
	{"crane-fly-larvae", "leatherjackets-per-m2", "150 to 300 per m²", "damaging, by vigour", countSource},
	{"plant-parasitic-nematodes", "nematode-count", "the laboratory's own figure", "by kind and grass", Ext},
	{"cutworms", "flush-caterpillars-per-m2", "10 to 20 per m²", "damaging", "judgement; differs by region"},
	{"heat-stress", "soil-temp-c", "29.4 °C at 50 mm in the afternoon", "what cool-season roots and shoots bear for long; stress from 27", Ext},
	{"heat-stress", "soil-temp-healthy-c", "5 to 6 °C hotter", "short, thin, dry turf beside tall moist turf: the difference is the diagnosis", Ext},
	{"drought-stress", "soil-water-deficit", "half of the available water", "the point at which to water", waterSource + "; half is judgement"},
	{"summer-dormancy", "drought-endurance-used", "2 to 4 weeks of deficit and heat", "then it rests; how long crowns live is the grass's own figure", J},
	{"drought-dieback", "drought-endurance-used", "all of the grass's endurance", "crowns begin to die; shorter on sand, edges, thin soil", J},
	{"drought-dieback", "green-tissue-at-base", "two weeks after a soaking", "no green then: dead", Ext},
	{"localized-dry-spot", "water-drop-seconds", "5 s, 60 s", "repellent, strongly repellent", Ext},
	{"irrigation-coverage-gap", "catch-can-du", "0.6", "suspect below; the fault when the low cans lie on the dry patch", Ext},
	{"frost-injury", "freeze-after-green-up", "−2 °C", "after growth began", Ext},
	{"winter-crown-kill", "crowns-alive-percent", "live share of 10 to 20 plants", "is the forecast", Ext},
	{"winter-dormancy", "soil-temp-c", "under 10 to 13 °C", "warm-season turf rests", Ext},
	{"slow-green-up", "soil-temp-c", "16 to 18 °C", "green-up begins; full growth from 24", Ext},
	{"slow-green-up", "green-up-percent", "90 to 95 %", "is fully green", J},
	{"nitrogen-deficiency", "nitrogen-12-months-g-m2", "the grass's yearly need", "5 to 25 g/m² by species", Ext},
	{"iron-chlorosis", "soil-ph", "over 7.2", "iron is there and cannot be had", Ext},
	{"growth-flush-chlorosis", "heavy-rain-surge", "50 mm in a few days, or 3 g/m² of quick nitrogen", "within two to three weeks", J},
	{"phosphorus-deficiency", "soil-p-ppm", "21 mg/kg", "minimum, Mehlich-3, established turf", "Woods, Stowell and Gelernter 2016"},
	{"potassium-deficiency", "soil-k-ppm", "37 mg/kg", "minimum, Mehlich-3, established turf", "Woods, Stowell and Gelernter 2016"},
	{"high-ph", "soil-ph", "over 7.2 to 8", "by grass and by what is wanted", Ext},
	{"low-ph", "soil-ph", "under 5.5", "lime by test", Ext},
	{"salinity", "soil-ec-ds-m", "1.5–3, 3, 4–8, 6–10, over 10 dS/m", "centipede and annual bluegrass; Kentucky bluegrass; ryegrass and tall fescue; bermuda, zoysia, St Augustine; seashore paspalum", Ext},
	{"overwatering", "irrigation-weekly-mm", "over 40 mm a week", "in daily short cycles", Ext},
	{"compaction", "penetration-kpa", "2000 kPa", "roots stop, in moist soil", Ext},
	{"excess-thatch", "thatch-mm", "12 mm, 20 to 25 mm", "sheds water; must be dealt with", Ext},
	{"scalping", "mowing-height-drop-mm", "more than a third of the height", "at one mowing", Ext},
	{"shade-thinning", "sun-hours", "3–4 h, 4, 4–6, 7–8", "fine fescue; tall fescue; bluegrass, ryegrass, St Augustine, zoysia; bermuda", Ext},
	{"weed-invasion", "weed-cover-percent", "over 50 %", "renovate, once the reason is fixed", Ext},
}

// Shown is something that a cause shows, with its chance.
type Shown struct {
	ID     string
	Chance float64
}

// Shows lists the items of a list finding (pattern, leaf-symptoms, colour) that a cause shows with at least a chance of
// 0.25, the likeliest first, at most three: what its drawn signature is made of.
func (c *Cause) Shows(finding string) []Shown {
	var out []Shown
	for _, r := range c.Rows {
		if r.Finding != finding {
			continue
		}
		words := strings.Fields(r.Says)
		for i := 0; i+1 < len(words); i += 2 {
			x, err := strconv.ParseFloat(words[i+1], 64)
			if p := x / 100 * r.Grip; err == nil && p >= .25 && words[i] != "none" {
				out = append(out, Shown{words[i], p})
			}
		}
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Chance > out[b].Chance })
	return out[:min(3, len(out))]
}
