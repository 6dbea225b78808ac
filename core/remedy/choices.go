package remedy

import "math"

// Choice is two or three ways that collide: each with its weeks, its price and its risk, side by side. Nothing is decided silently.
type Choice struct {
	ID    string
	About string
	Ways  []Way // the one shown first comes first
}

// Way is one side of a choice.
type Way struct {
	Label   string
	Actions []string
	Weeks   string
	Price   float64 // in the firm's money, for the area at stake
	Risk    string
}

// choiceRow is a collision: when it is on, and its ways in the order of the table. swap says when the second way is shown first.
type choiceRow struct {
	id, about, when, swap string
	ways                  []wayRow
}

type wayRow struct {
	label, actions, weeks, risk string
}

// choiceRows: weeks to the aim and shares at risk are judgement.
var choiceRows = []choiceRow{
	{
		"preem-or-seed",
		"Pre-emergent or seed",
		"preem-wanted and seed-wanted",
		"lost",
		[]wayRow{
			{"Pre-emergent now, seed in its other season", "preemergent", "20 to 24", "thin parts stay bare; other weeds"},
			{"Seed now, take weeds out later", "overseed herbicide-spot", "8 to 10", "crabgrass in a third to half of the gaps"},
			{
				"Seed with a pre-emergent that bears it (siduron, mesotrione), where the label names the grass",
				"overseed preemergent",
				"8 to 10",
				"control for four to six weeks only",
			},
		},
	},
	{"spray-or-seed", "Herbicide or seed first", "spray-wanted and seed-wanted and without preem-wanted", "lost", []wayRow{
		{"Herbicide now, seed after four weeks", "herbicide-broadcast overseed", "12 to 14", "the seed comes late for the frost"},
		{"Seed now, herbicide after the fourth mowing", "overseed herbicide-broadcast", "10 to 12", "more weeds meanwhile"},
		{"By hand and spots with a short label interval", "hand-weed overseed", "10 to 12", "labour"},
	}},
	{
		"green-or-rest",
		"Keep it green or let it rest",
		"water-unset and dry and without winter-half and without new-stand",
		"",
		[]wayRow{
			{"Keep it green", "water-deep", "1 to 2", "water for the whole spell; leaf disease"},
			{
				"Let it rest, survival water when it is due",
				"let-dormant survival-water",
				"4 to 10, until it rains",
				"brown; crowns die when its endurance is used up",
			},
			{"One part green, the rest rests", "spot-water let-dormant", "1 to 2 in that part", "two looks on one lawn"},
		},
	},
	{"treat-or-grow", "Fungicide or grow it out", "blemish-there and blemishes = unset", "", []wayRow{
		{"Let it grow out: feeding, dawn watering", "apply-nitrogen cut-back-water", "3 to 5", "thin where it passes a quarter of the lawn"},
		{"Fungicide", "fungicide-curative", "1 to 2", "again every two weeks; resistance"},
	}},
	{"late-grubs", "Late treatment or repair", "over(white-grubs) and grub-size = large", "", []wayRow{
		{"Treat now, then repair", "insecticide-curative slit-seed", "1 to 3, then 8", "half of the large larvae live on"},
		{"Repair, and prevent next season", "slit-seed insecticide-preventive", "8 to 10", "roots are eaten until the cold"},
	}},
	{"plug-or-wait", "Plug it or wait for the runners", "lost and creeping and warm", "", []wayRow{
		{"Plugs or sprigs", "plug-or-sprig", "6 to 12", "weeds in the gaps"},
		{"Sod", "resod", "2 to 3", "daily water"},
		{"Wait for the runners", "hand-weed", "the whole season", "weeds, and not closed before the frost"},
	}},
	{"seed-or-sod", "Seed or sod", "lost and seeded and cool", "", []wayRow{
		{"Seed in its season", "slit-seed", "8 to 12", "weather"},
		{"Sod", "resod", "2 to 3", "daily water for three weeks"},
	}},
	{"light-or-grass", "More light or another plant", "dark", "", []wayRow{
		{"Prune", "prune-shade", "next season", "a permit; the roots compete on"},
		{"Another grass", "change-grass", "8 to 10", "a thin lawn"},
		{"Use the spot for something else", "change-use", "2 to 4", "less lawn"},
	}},
	{"wet-or-live", "Drain it, live with it, or another use", "drains-badly", "", []wayRow{
		{"Find where the water comes from and lead it off", "improve-drainage", "4 to 8", "digging; it stays wet where there is no outlet"},
		{"A grass that bears wet ground", "change-grass", "8 to 10", "soft underfoot, moss and ruts stay"},
		{"Use the spot for something else", "change-use", "2 to 4", "less lawn"},
	}},
	{"paved-or-cool", "Water the strip, change the grass, or another use", "p(hardscape-heat) >= .6", "", []wayRow{
		{"Water the strip by itself in heat", "spot-water", "1 to 2 each summer", "it comes back with every hot spell"},
		{"A grass that bears the heat", "change-grass", "8 to 10", "two looks on one lawn where the rest is another grass"},
		{"Use the strip for something else", "change-use", "2 to 4", "less lawn"},
	}},
	{"renew-or-nurse", "Renew it or nurse it", "weed-cover-percent > 50", "", []wayRow{
		{"Renovate", "renovate", "12 to 16", "fails again while the cause stays"},
		{"Nurse it, the worst half first", "herbicide-broadcast overseed", "two to three seasons", "yearly work"},
	}},
	{"virus", "Renew with a resistant grass, or live with it", "p(turf-mosaic-virus) >= .5", "", []wayRow{
		{"Live with it, mow it last", "clean-equipment", "–", "it thins over years"},
		{"Renovate with a resistant cultivar", "renovate", "12 to 16", "money"},
	}},
}

// choiceTerms are terms of the choices.
var choiceTerms = []struct{ name, test, source string }{
	{"preem-wanted", "(annuals or winter-weeds or programme) and weed-cover-percent >= 5 and preem-near", ""},
	{"preem-near", "(spring and t5 <= 16) or (autumn and t5 >= 18 and t5 <= 26)", ""},
	{"seed-wanted", "(lost or thin-stand) and seeded", ""},
	{"spray-wanted", "weed-cover-percent >= 15", ""},
	{"blemish-there", "p(dollar-spot|rust|red-thread|leaf-spot|powdery-mildew) >= .6", ""},
}

type choice struct {
	choiceRow
	on, swapped test
}

var choiceTable []choice

func compileChoices() {
	for _, r := range choiceRows {
		c := choice{choiceRow: r, on: compile(r.when)}
		if r.swap != "" {
			c.swapped = compile(r.swap)
		}
		choiceTable = append(choiceTable, c)
	}
}

// choices lists the collisions of the plan with their prices.
func (p *plan) choices() []Choice {
	out := []Choice{}
	for _, c := range choiceTable {
		if c.on(p.s, 0) != yes {
			continue
		}
		x := Choice{ID: c.id, About: c.about}
		for _, w := range c.ways {
			way := Way{Label: w.label, Weeks: w.weeks, Risk: w.risk}
			for _, id := range fields(w.actions) {
				way.Actions = append(way.Actions, id)
				way.Price += p.s.r.Prices.Of(stakeFor(id), p.s.damaged())
			}
			way.Price = math.Round(way.Price)
			x.Ways = append(x.Ways, way)
		}
		if c.swapped != nil && c.swapped(p.s, 0) == yes {
			x.Ways[0], x.Ways[1] = x.Ways[1], x.Ways[0]
		}
		out = append(out, x)
	}
	return out
}
