package remedy

import (
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/units"
)

// School is a question on which practitioners disagree, with what each side holds, what is done here, and which side this zone is on.
type School struct {
	ID       string
	Question string
	A, B     string
	Does     string // the rule of the plan
	Side     string // "a", "b", or "" where the zone says nothing
	Decides  string // a setting of the zone that decides it: a key of its policy; "" where the ground decides
}

// schoolRow is one line: when it concerns the lawn, and when the lawn is on the side of A or of B.
type schoolRow struct {
	id, when, sideA, sideB, decides string
	question, a, b, does            string
}

// schoolRows: what practice and extension hold against each other.
var schoolRows = []schoolRow{
	{"green-or-rest", "cool and irrigated", "keep-green", "let-rest or part-green", "summer-water", "Brown in summer: water it or let it rest?", "keep it green with {25 to 38 mm} of water a week", "let it rest; survival water only when its endurance runs out", "one way for the whole spell, as the client wants it; both are worked out with their litres and cost"},
	{"one-soaking", "irrigated", "texture = loam|silt-loam|clay-loam|clay", "texture = sand|loamy-sand|sandy-loam", "", "Once a week, or two or three times?", "one deep soaking", "the same water in two or three goes", "the soil decides: refilled at half of what it holds, split where it runs off or does not fit"},
	{"summer-feed", "cool and feed-summer", "summer-feeding = none", "summer-feeding = spoon-feed", "summer-feeding", "Feed cool-season turf in summer?", "not at all", "little and often where it is watered", "as the client wants it; little and often only with water, soil under {27 °C} and a cap on the rate"},
	{"iron-in-heat", "cool and (hotc or feed-summer)", "", "", "", "Iron in place of nitrogen in heat?", "worth it every few weeks", "it lasts only days", "offered as colour for two to three weeks, not as a cure"},
	{"summer-height", "cool", "", "", "", "How high in summer?", "tall: it shades the soil and roots deep", "short, if it is mown every few days and watered", "tall, unless the mowing interval by the third is kept"},
	{"grubs", "hist(white-grubs) or p(white-grubs) >= .1", "pests = preventive", "pests = threshold", "pests", "Grubs: prevent every year, or count?", "prevent every year", "count, and treat at the threshold", "by count; preventive where it was confirmed before or the client wants it, inside its window only"},
	{"blemish", "p(dollar-spot|rust|red-thread|leaf-spot) >= .15", "blemishes = tolerate", "blemishes = treat", "blemishes", "Spots on the leaves: grow out or spray?", "grow it out: feed, water at dawn", "a fungicide", "as the client wants it; a fungicide only while its weather is open"},
	{"green-up-weeds", "warm and (wakew or greenw)", "", "", "", "Weeds at green-up: now or when it is all green?", "broadcast early on grasses that bear it", "wait until it is fully green", "by the grass and the green-up that was measured"},
	{"clippings", "always", "", "", "", "Bag the clippings?", "bag them, to spare thatch", "leave them, they feed", "left: trials find no thatch from clippings; bagged over active leaf disease"},
	{"early-low", "warm and low-mown", "", "", "", "Mow warm-season turf low early?", "an early low mowing starts it", "wait for warm soil and no frost ahead", "once, when soil and forecast allow it"},
	{"seed-when-aerating", "stand-density = thin or penetration = hard", "", "", "", "Seed whenever it is aerated?", "always", "only where it is thin", "cover and habit decide"},
	{"thatch", "thatch-mm >= 8", "", "", "", "Thatch: machines or biology?", "machines", "humic, compost or bacteria, which take a season", "machines from {12 to 20 mm}, always over {20 mm}; the rest is grade C"},
	{"liquid-aeration", "penetration = hard or penetration-kpa >= 1500", "", "", "", "Hard ground where no tine may go?", "liquid products", "slits, spikes by hand, keep off", "slits and spikes first; liquids are grade C"},
	{"after-frost", "winter-hurt", "", "", "", "Feed after winter damage?", "at once, to help it", "when growth has begun", "when growth has begun"},
	{"dew", "always", "", "", "", "Mow in the dew?", "no matter", "it spreads disease and clumps", "not over active leaf disease"},
	{"water-budget", "irrigated", "", "", "", "Water by the calendar?", "an inch a week", "by need", "by the balance, with rain and humidity counted"},
}

type school struct {
	row        schoolRow
	when, a, b test
	hasA, hasB bool
}

var schools []school

func compileSchools() {
	for _, r := range schoolRows {
		schools = append(schools, school{row: r, when: compile(r.when), a: compile(r.sideA), b: compile(r.sideB), hasA: r.sideA != "", hasB: r.sideB != ""})
	}
}

// Schools lists the questions that concern a lawn today, with the side that it is on.
func Schools(c evidence.Case, r diagnosis.Result, say units.Saying) []School {
	s := survey(c, r, say)
	var out []School
	for _, x := range schools {
		if x.when(s, 0) != yes {
			continue
		}
		one := School{ID: x.row.id, Question: x.row.question, A: s.tell(x.row.a, nil), B: s.tell(x.row.b, nil), Does: s.tell(x.row.does, nil), Decides: x.row.decides}
		switch {
		case x.hasA && x.a(s, 0) == yes:
			one.Side = "a"
		case x.hasB && x.b(s, 0) == yes:
			one.Side = "b"
		}
		out = append(out, one)
	}
	return out
}

// Claim is something that clients have heard, with the answer and how well it is founded.
type Claim struct{ ID, Heard, Answer, Grade string }

// Claims are what clients bring. Grades: A replicated trials, B extension consensus, C practitioners' experience.
var Claims = []Claim{
	{"gypsum-ph", "Gypsum lowers the pH.", "It does not: it takes sodium off sodic soil, with leaching.", "A"},
	{"lime-greens", "Lime greens the lawn at once.", "It moves the pH in months, where a test asks for it. Colour comes from nitrogen or iron.", "A"},
	{"wetter-strips", "Wetting agents strip the nutrients.", "They do not; water that goes in carries them to the roots.", "B"},
	{"potash-disease", "Potassium prevents disease.", "Where the soil test is adequate it prevents nothing.", "A"},
	{"iron-feeds", "Iron feeds the lawn.", "It darkens for two to three weeks and cures nothing.", "A"},
	{"clippings-thatch", "Clippings make thatch.", "They rot within weeks and feed; thatch comes from stems and roots.", "A"},
	{"inch-a-week", "An inch of water a week.", "Some weeks that is far too much, some too little: the balance decides.", "B"},
	{"noon-burns", "Water at noon burns the leaves.", "Drops burn nothing; at noon more of it is lost to the air.", "A"},
	{"liquid-aeration", "A liquid aerates the soil.", "No trial shows what a tine does; at best it wets the surface.", "C"},
	{"compost-tea", "Humic and kelp in place of feeding.", "They bring hardly any nutrients: never in place of feed or water.", "C"},
	{"grubs-moths", "A grub product kills the beetles.", "It protects roots; it stops no beetle from flying in.", "B"},
	{"seed-on-top", "Seed thrown on a closed lawn comes up.", "It needs contact with soil: cored, slit or topdressed.", "A"},
}
