package knowledge

import (
	"strings"
)

// factRow is one member of a fact that can be told in several ways: a finding, or one item of a list ("pattern:low-spots"). For each
// cause the first member of a fact, in the order of the rows, that shows it counts in full; of each later one only the share is left,
// 0 where it says the same and more where it is a look of its own.
type factRow struct {
	Fact, Member string
	Again        float64
}

// FactRows: judgement. Measured before computed, computed before told.
var FactRows = []factRow{
	{"heat of the soil", "soil-temp-c", 1},
	{"heat of the soil", "soil-heat", 0},
	{"heat of the soil", "soil-temp-class", 0},
	{"heat of the soil", "heat-spell", .15},

	{"water in the soil", "soil-moisture-vwc", 1},
	{"water in the soil", "soil-moisture", .2},
	{"water in the soil", "core-moist-depth-mm", .3},

	{"weeks without rain", "soil-water-deficit", 1},
	{"weeks without rain", "days-without-5-mm", 0},
	{"weeks without rain", "days-since-water", .4},
	{"weeks without rain", "drought-endurance-used", .4},

	{"weather of the disease", "disease-window", 1},
	{"weather of the disease", "prolonged-wetness", .2},
	{"weather of the disease", "heat-spell", .2},
	{"weather of the disease", "soil-temp-class", .4},

	{"edge of the paving", "pattern:along-hardscape", 1},
	{"edge of the paving", "position:near-hardscape", 0},
	{"low ground", "pattern:low-spots", 1},
	{"low ground", "position:low-spot", 0},
	{"high ground", "pattern:high-spots-or-slopes", 1},
	{"high ground", "position:slope", 0},
	{"over something", "buried-object", 1},
	{"over something", "position:over-tank", .2},

	{"straw", "colour:straw-tan", 1},
	{"straw", "colour:brown", .4},
	{"patches", "pattern:round-patches", 1},
	{"patches", "pattern:irregular-patches", .3},
	{"patches", "pattern:mottled", .3},
	{"patches", "pattern:uniform", .3}, // all over is the other answer to "in what patches?"
	{"lesion", "leaf-symptoms:irregular-lesion-tan-dark-border", 1},
	{"lesion", "leaf-symptoms:oval-lesion-purple-border", .4},
	{"lesion", "leaf-symptoms:grey-felted-lesion", .4},
	{"streaks", "leaf-symptoms:mosaic-streaks", 1},
	{"streaks", "leaf-symptoms:white-or-banded-streaks", .4},
	{"streaks", "leaf-symptoms:interveinal-yellow", .4},

	{"purple", "leaf-symptoms:purple-tint", 1},
	{"purple", "colour:purple", 0},
	{"orange", "leaf-symptoms:orange-pustules", 1},
	{"orange", "colour:orange-cast", 0},
	{"red", "leaf-symptoms:red-threads", 1},
	{"red", "mycelium-at-dawn", .4},
	{"red", "colour:red-pink", 0},
	{"white", "leaf-symptoms:white-powder", 1},
	{"white", "leaf-symptoms:white-or-banded-streaks", 1},
	{"white", "colour:white-bleached", 0},
	{"yellow", "leaf-symptoms:interveinal-yellow", 1},
	{"yellow", "leaf-symptoms:new-leaves-yellow", .3},
	{"yellow", "leaf-symptoms:older-leaves-yellow", .5},
	{"yellow", "leaf-symptoms:uniform-yellow", .3},
	{"yellow", "colour:yellow", .3},

	{"freeze in spring", "freeze-after-green-up", 1},
	{"freeze in spring", "recent-events:freeze-after-green-up", 0},
	{"rain", "heavy-rain-surge", 1},
	{"rain", "recent-events:heavy-rain", 0},
	{"water standing", "recent-events:flood", 1},
	{"water standing", "waterlogging-spell", .3},
	{"green-up", "green-up-percent", 1},
	{"green-up", "green-up-progress", 0},
	{"snow", "snow-days", 1},
	{"snow", "snow-cover-days", 0},

	{"crowns", "crowns-alive-percent", 1},
	{"crowns", "crown-slice", .3},
	{"crowns", "green-tissue-at-base", .3},
	{"rot of the roots", "root-condition", 1},
	{"rot of the roots", "pull-test", .5},
	{"rot of the roots", "root-colour", .4},
	{"hard ground", "penetration-kpa", 1},
	{"hard ground", "penetration", .2},

	{"caterpillars", "flush-caterpillars-per-m2", 1},
	{"caterpillars", "insects-seen:caterpillars", .3},
	{"chinch bugs", "float-chinch-per-m2", 1},
	{"chinch bugs", "insects-seen:chinch-like", .3},
	{"mole crickets", "flush-mole-crickets-per-m2", 1},
	{"mole crickets", "insects-seen:mole-crickets", .3},
	{"leatherjackets", "leatherjackets-per-m2", 1},
	{"leatherjackets", "insects-seen:leatherjackets", .3},
}

// membership is a member's place in a fact.
type membership struct {
	Fact, Rank int
	Again      float64
}

var (
	FactNames []string
	MemberOf  = map[string][]membership{} // by member
)

func compileFacts() {
	at := map[string]int{}
	ranks := map[int]int{}
	for _, r := range FactRows {
		id, item, isItem := strings.Cut(r.Member, ":")
		f, ok := findFinding(id)
		if !ok || isItem && Index(f.Values, item) < 0 {
			panic("diagnosis: the fact " + r.Fact + " has the unknown member " + r.Member)
		}
		k, seen := at[r.Fact]
		if !seen {
			k = len(FactNames)
			at[r.Fact] = k
			FactNames = append(FactNames, r.Fact)
		}
		MemberOf[r.Member] = append(MemberOf[r.Member], membership{k, ranks[k], r.Again})
		ranks[k]++
	}
}

func findFinding(id string) (*Finding, bool) {
	for _, list := range [][]Finding{FindingTable, WeatherTable, derivedFindings} {
		for i := range list {
			if list[i].ID == id {
				return &list[i], true
			}
		}
	}
	return nil, false
}

// Member names a finding, or an item of a list, as the facts do: what is kept once a cause stands under its own name.
func Member(finding, item string) string {
	id, _, _ := strings.Cut(finding, ":")
	if item == "" {
		return id
	}
	return id + ":" + item
}
