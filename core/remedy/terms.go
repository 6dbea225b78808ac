package remedy

import (
	"math"
	"slices"
	"strings"

	"hodos/core/knowledge"
	"hodos/core/turf"
)

// facts are words that are no findings: the client's policy, the grass, who may work and what is on record.
var facts map[string]func(s *situation) string

// terms are tests that have a name.
var terms map[string]test

// calls are tests of one cause.
var calls map[string]func(s *situation, k int, cause string) truth

// termRows are the terms that can be written in other words, in the order in which they build on each other. Source: extension
// consensus, figures marked J judgement.
var termRows = []struct{ name, test, source string }{
	{"irrigated", "watered = yes", ""},
	{"keep-green", "summer-water = keep-green", ""},
	{"let-rest", "summer-water = let-rest", ""},
	{"part-green", "summer-water = one-area", ""},
	{"water-unset", "summer-water = unset", ""},
	{"treats", "blemishes = treat", ""},
	{"summer", "phase < 46 or phase >= 319", "six weeks either side of the warmest soil"},
	{"winter-half", "phase >= 92 and phase < 274", ""},

	{"wet-feel", "soil-moisture = wet|saturated or underfoot = wet", ""},
	{"wet", "wet-feel or (rained2 >= 25 and texture = clay|clay-loam|silt-loam and unknown(soil-moisture))", "J 25 mm"},
	{"moist-feel", "soil-moisture = moist|wet|saturated", ""},
	{"not-dry", "soil-moisture = slightly-moist|moist|wet|saturated or (unknown(soil-moisture) and dep < .85)", ""},
	{"dry-feel", "soil-moisture = dry or core-moist-depth-mm < 25 or (known(soil-moisture-vwc) and dep-felt >= .85)", ""},
	{"nobody-felt", "unknown(soil-moisture) and unknown(soil-moisture-vwc) and unknown(core-moist-depth-mm)", ""},
	{"dry", "dry-feel or (nobody-felt and dep >= .85 and without wet-feel)", ""},
	{"leaf-wilt", "footprints = stay or colour = blue-grey or leaf-symptoms = rolled-or-folded", ""},
	{"wilted", "leaf-wilt", ""},
	{"thirsty", "wilted and dry", ""},
	{"wet-wilt", "wilted and moist-feel", "roots or heat, without thirst"},

	{"crowns-cut", "known(crowns-alive-percent) or known(crown-slice) or known(green-tissue-at-base)", ""},
	{"alive", "crowns-alive-percent >= 70 or (unknown(crowns-alive-percent) and crown-slice = white-moist)", "70 % J"},
	{"base-green", "unknown(crowns-alive-percent) and unknown(crown-slice) and green-tissue-at-base = yes", ""},
	{"brown-slice", "unknown(crowns-alive-percent) and crown-slice = brown-dry|brown-soft", ""},
	{"dead", "crowns-alive-percent < 30 or (brown-slice and without green-tissue-at-base = yes)", "30 % J"},
	{"mixed-count", "crowns-alive-percent >= 30 and crowns-alive-percent < 70", ""},
	{"mixed-slice", "unknown(crowns-alive-percent) and (crown-slice = mixed or (brown-slice and green-tissue-at-base = yes))", ""},
	{"mixed", "mixed-count or mixed-slice", ""},
	{"living", "alive or base-green", ""},
	{
		"mostly-dead",
		"dead and (affected-area-percent >= 50 or unknown(affected-area-percent))",
		"50 % J; nobody said how much: the worst part stands",
	},

	{"new-seed", "establishment = new-seed or since(seed) < 60", "to the fourth mowing or 60 days"},
	{"new-plugs", "establishment = new-plugs or since(plugs) < 42", ""},
	{"new-sod", "(establishment = new-sod and without pull-test = resists) or since(sod) < 21", "sod is new until it resists a pull"},
	{"mown-in", "mowings-since-start >= 4", ""},
	{"new-stand", "(new-seed and without mown-in) or new-plugs or new-sod", ""},
	{"first-year", "establishment = first-year|new-seed|new-sod|new-plugs or new-stand", ""},
	{"brown-look", "colour = straw-tan|brown", ""},
	{"long-dry", "clock >= 14 or days-since-water >= 14", ""},
	{"drought-rest", "rest-kind = rests|weakly and dry and brown-look and (long-dry or growth-rate = stalled)", ""},
	{"resting-look", "drought-rest and without dead", ""},
	{"resting-sure", "cool and rest-kind = rests|weakly and p(summer-dormancy) >= .4 and without dead", "J .4"},
	{"resting", "(resting-look or resting-sure) and without sleepw and without winter-half", ""},

	{"loose", "pull-test = lifts-like-carpet|peels-in-rotten-sheets|shoots-slip-from-rotted-sheath", ""},
	{"lifts", "pull-test = lifts-like-carpet", ""},
	{"grown", "affected-area-percent >= 1.2 * area-before", "20 % more than at the visit before"},
	{"came-fast", "onset-speed = overnight|days and onset-days <= 10", ""},
	{"spreads", "spreading = yes or (without spreading = no and (grown or came-fast))", ""},
	{"edge-alive", "margin = smoke-ring|water-soaked or mycelium-at-dawn = white-sparse|white-cottony|grey-web|pink-salmon", ""},
	{"orange-edge", "colour = orange-cast and pattern = round-patches|rings", ""},
	{"fresh", "edge-alive or orange-edge", ""},
	{"at-stake", "(spreads and (affected-area-percent >= 5 or unknown(affected-area-percent))) or first-year", ""},
	{"bites", "leaf-symptoms = chewed-notches|windowpane-feeding or frass = green-pellets|sawdust-like or moths-on-walking = many", ""},
	{"crawls", "insects-seen = chinch-like|caterpillars|beetle-adults|billbug-adults|mole-crickets|leatherjackets", ""},
	{"crawls-small", "insects-seen = mites-suspected|spittle-or-spittlebugs|scale-crusts|webbing-tunnels", ""},
	{"digs", "animal-digging = rooting-holes|peeled-back|bird-probing|tunnels", ""},
	{"lifts-or-breaks", "pull-test = lifts-like-carpet|stems-break-at-crown", ""},
	{"overnight-all", "onset-speed = overnight and neighbours-affected = few|many", ""},
	{"spoor", "bites or crawls or crawls-small or digs or underfoot = soft-loose or root-condition = chewed-off", ""},
	{"insect-sign", "lifts-or-breaks or spoor or colour = orange-cast or overnight-all", ""},

	{"frozen", "t5-seen <= .5 or soil-temp-class = frozen", ""},
	{"hot-soil", "cool and soil-peak >= 29.4", "29.4 °C in the afternoon at 50 mm: what cool-season roots bear"},
	{"hot-days", "cool and hot-ahead >= 3", "three of the next five days at 32 °C"},
	{"hotc", "hot-soil or hot-days", ""},
	{"hotter-w", "warm and max2 >= 40", ""},
	{"warm-enough", "(cool and gp14 >= .15 and t5 >= 7) or (warm and gp14 >= .2 and t5 >= starts + 2 and wake-half)", ""},
	{"growing-sky", "warm-enough", ""},
	{"growing", "warm-enough and without resting and without thirsty and without frozen", ""},
	{"grows", "growth-rate = normal|surging or growing", ""},

	{"pale-old", "leaf-symptoms = older-leaves-yellow|uniform-yellow", ""},
	{"pale-new", "leaf-symptoms = interveinal-yellow|new-leaves-yellow", ""},
	{"hungry-year", "n12 < n-low or (unknown(nitrogen-12-months-g-m2) and since(n) > 60)", ""},
	{"hungry", "pale-old and hungry-year", ""},
	{"slow", "growth-rate = slow|stalled and gp14 >= .3 and hungry-year", ""},
	{"unfed", "n12 < n-low", ""},
	{"fed-lately", "since(n) <= 60", ""},

	{"thin-stand", "stand-density = thin|gaps", ""},
	{"bare-stand", "stand-density = bare", ""},
	{"open-cover", "green-cover-percent >= 50 and green-cover-percent < 90 and growing", ""},
	{"gap-open", "gap-days > to-frost + -14", "the runners do without close it before the frost"},
	{"must-seed", "bunch or gap-open or unknown(gap-days)", ""},
	{"big-bare", "patch-diameter-cm > 10 and (dead or bare-stand)", "a hand"},
	{"lost", "bare-stand or dead or big-bare", ""},

	{"annuals", "weed-kinds = annual-grassy|summer-annual", ""},
	{"winter-weeds", "weed-kinds = winter-annual", ""},
	{
		"perennials",
		"weed-kinds = perennial|perennial-grassy or (weed-kinds = broadleaf and without weed-kinds = winter-annual|summer-annual)",
		"",
	},
	{"wild-grass", "weed-kinds = perennial-grassy", ""},
	{"sedges", "weed-kinds = sedge|kyllinga", ""},
	{"broadleaf", "weed-kinds = broadleaf", ""},
	{"bulbs", "weed-kinds = bulb", ""},

	{"stressed-count", "dep >= .5 or hotc or mowing-height-mm < mow-low or penetration-kpa >= 2000 or root-depth-mm < 50", ""},
	{"another-cause", "other-p >= .5", ""},
	{"stressed", "stressed-count or thirsty or resting or another-cause", ""},
	{"sound-water", "dep < .5 and stand-density = dense", ""},
	{"sound", "sound-water and without mowing-height-mm < mow-low and without stressed", ""},

	{"irrigated-hard", "irrigation-weekly-mm > 40 and without dry", ""},
	{"wet-signs", "surface = algae or moss-cover-percent >= 5 or (sedges and moist-feel)", ""},
	{"drains-badly", "puddle-hours > 24 or water-table-mm <= 450 or infiltration-mm-h < 2", ""},
	{"new-leaf", "green-tissue-at-base = yes or growth-rate = normal|surging", ""},
	{"mat-seen", "pattern = matted-patches or debris = matted-dead-grass", ""},
	{"moss-dead", "moss-state = dead-wet|dead-dry", ""},
	{"moss-live", "moss-state = live or (unknown(moss-state) and without moss-treated)", ""},
	{"moss-treated", "since(moss) >= 7 and since(moss) <= 60 and colour = black|brown", ""},
	{"shaded", "sun-hours < sun-full", ""},
	{"dark", "sun-hours < sun-least", ""},
	{"in-leaf-water", "irrigation-time = evening|midday or irrigation-sessions-per-week >= 5", ""},
	{"evening-water", "irrigated and in-leaf-water", ""},
	{"frost-marks", "freeze-after-green-up = light|hard or recent-events = freeze-after-green-up", ""},
	{"winter-marks", "recent-events = ice-cover|leaves-left-over-winter or snow-cover-days >= 20 or snow-days >= 20", ""},
	{"cold-hurt", "p(winter-crown-kill|frost-injury|winter-desiccation|gray-snow-mold|pink-snow-mold|matted-debris) >= .3", ""},
	{"winter-hurt", "p(winter-crown-kill|frost-injury|winter-desiccation) >= .3", ""},
	{"knowing", "known(pull-test) and (known(soil-moisture) or known(root-condition)) and (known(thatch-mm) or known(leaf-symptoms))", ""},
	{"pathogen-named", "lab-pathogen = it", ""},
	{"not-tested", "unknown(soil-ph)", ""},
}

// nameTerms fills facts, calls and terms.
func nameTerms() {
	facts = map[string]func(s *situation) string{
		"summer-water":   func(s *situation) string { return orUnset(s.c.Policy.SummerWater) },
		"pests":          func(s *situation) string { return orUnset(s.c.Policy.Pests) },
		"summer-feeding": func(s *situation) string { return orUnset(s.c.Policy.SummerFeeding) },
		"blemishes":      func(s *situation) string { return orUnset(s.c.Policy.Blemishes) },
		"grass":          func(s *situation) string { return s.grass.ID },
		"form":           func(s *situation) string { return orUnset(s.c.Lawn.Form) },
		"watered":        watered,
		"licence":        func(s *situation) string { return said(s.c.Context.Licence) },
		"lines":          func(s *situation) string { return said(s.c.Context.LinesLocated) },
		"rest-kind":      func(s *situation) string { return [...]string{"unknown", "never", "weakly", "rests"}[s.grass.Rests] },
		"dethatching":    func(s *situation) string { return s.grass.Dethatch },
	}
	measures["onset-days"] = measure{"d", func(s *situation, _ int) float64 {
		if s.c.Onset == nil {
			return 5 // came fast, and nobody wrote down when
		}
		return s.c.Lawn.Date.Sub(*s.c.Onset).Hours() / 24
	}}
	measures["area-before"] = measure{"%", areaBefore}
	measures["other-p"] = measure{"share", otherCause}
	family := func(f turf.Family) test {
		return func(s *situation, _ int) truth { return truthOf(s.grass.Family == f) }
	}
	terms = map[string]test{
		"cool":        family(turf.Cool),
		"warm":        family(turf.Warm),
		"other-grass": family(turf.Other),
		"always":      func(*situation, int) truth { return yes },
		"spring":      func(s *situation, k int) truth { return truthOf(s.phase(k) > yearDays/2) },
		"autumn":      func(s *situation, k int) truth { return truthOf(s.phase(k) <= yearDays/2) },
		"no-selective": everyNamed(func(s *situation, w *weedRow) bool {
			family := "C"
			if s.grass.Family == turf.Warm {
				family = "W"
			}
			return !strings.Contains(w.out, family)
		}),
		"pulled-in-vain": everyNamed(func(_ *situation, w *weedRow) bool { return w.byHand == "no" }),
		"bunch":          func(s *situation, _ int) truth { return truthOf(!s.grass.Creeping) },
		"creeping":       func(s *situation, _ int) truth { return truthOf(s.grass.Creeping) },
		"seeded": func(s *situation, _ int) truth {
			return anyGrass(s, func(g turf.Species) bool { return g.Seed.Known() })
		},
		"vegetative":  func(s *situation, _ int) truth { return truthOf(s.grass.Vegetative) },
		"low-mown":    func(s *situation, _ int) truth { return truthOf(s.grass.LowMow.Known()) },
		"turned":      turnedCool,
		"feed-summer": feedSummer,
		"sleepw":      func(s *situation, k int) truth { return wakeIs(s, k, asleep) },
		"wakew":       func(s *situation, k int) truth { return wakeIs(s, k, waking) },
		"greenw":      func(s *situation, k int) truth { return wakeIs(s, k, green) },
		"half-green":  halfGreen,
		"tender":      tender,
		"wake-half": func(s *situation, k int) truth {
			if g := s.num("green-up-percent"); k == 0 && !math.IsNaN(g) {
				return truthOf(g >= 50)
			}
			return truthOf(s.wake(k) != asleep)
		},
	}
	calls = map[string]func(s *situation, k int, cause string) truth{
		"hist": history, "seen": seenDisease, "open": windowOpen, "closed": windowClosed, "ends": windowEnds, "active": activeDisease,
		"due":     preventiveDue,
		"is":      func(s *situation, _ int, cause string) truth { return truthOf(cause == s.it) },
		"counted": func(s *situation, _ int, cause string) truth { return truthOf(!math.IsNaN(s.count(cause))) },
		"over":    func(s *situation, _ int, cause string) truth { return s.over(cause, 1) },
		"nearly":  func(s *situation, _ int, cause string) truth { return min(s.over(cause, .5), -s.over(cause, 1)) },
		"twice":   func(s *situation, _ int, cause string) truth { return s.over(cause, 2) },
		"counts":  func(s *situation, _ int, cause string) truth { return s.countable(cause) },
		"deep":    func(s *situation, _ int, cause string) truth { return s.tooDeep(cause) },
	}
	nameLateTerms()
	for _, r := range termTables() {
		if _, twice := terms[r.name]; twice {
			panic("remedy: two terms " + r.name)
		}
		terms[r.name] = compileLater(r.test)
	}
	for _, late := range pending {
		late()
	}
	for _, x := range signs {
		signOf[x.cause] = compile(x.test)
	}
}

// pending terms are compiled once all have their names.
var pending []func()

func compileLater(text string) test {
	var t test
	pending = append(pending, func() { t = compile(text) })
	return func(s *situation, k int) truth { return t(s, k) }
}

func orUnset(w string) string {
	if w == "" {
		return "unset"
	}
	return w
}

func said(b *bool) string {
	switch {
	case b == nil:
		return ""
	case *b:
		return "yes"
	}
	return "no"
}

// watered is whether the zone is irrigated; who is asked for the time of watering and says none is not.
func watered(s *situation) string {
	switch w := s.word("irrigation-time"); {
	case w == "none":
		return "no"
	case w != "":
		return "yes"
	}
	if x := s.num("irrigation-weekly-mm"); x > 0 {
		return "yes"
	}
	return said(s.c.Lawn.Irrigated)
}

func anyGrass(s *situation, f func(turf.Species) bool) truth {
	for _, id := range s.c.Lawn.Species {
		if g, ok := turf.ByID(id); ok && f(g) {
			return yes
		}
	}
	return no
}

// areaBefore is the share affected at the last visit at least two days ago.
func areaBefore(s *situation, _ int) float64 {
	out, when := math.NaN(), s.c.Lawn.Date.AddDate(-1, 0, 0)
	for _, e := range s.c.Earlier {
		if x := e.Findings["affected-area-percent"].Number; x != nil && e.Date.After(when) && s.c.Lawn.Date.Sub(e.Date).Hours() >= 48 {
			out, when = *x, e.Date
		}
	}
	return out
}

// otherCause is the chance of the likeliest cause beside the one in question, healthy turf and what it brings aside.
func otherCause(s *situation, _ int) float64 {
	most := 0.0
	for _, c := range s.r.Causes {
		if c.ID != s.it && c.ID != knowledge.Healthy && c.Family != "look-alike" && c.Family != "insect" {
			most = math.Max(most, c.Probability)
		}
	}
	return most
}

// wakefulness of warm-season turf.
type wakefulness int

const (
	notWarm wakefulness = iota
	asleep
	waking
	green
)

func wakeIs(s *situation, k int, w wakefulness) truth { return truthOf(s.wake(k) == w) }

// How green-up is judged (judgement): full green follows about a day for each two per cent that are missing; straw seen in soil this
// far above where growth stops is drought, not sleep.
const (
	greenPerDay = 2.0
	strawMargin = 4.0
)

// wake is how far warm-season turf is awake on a day: as measured, else by the soil and the frosts.
func (s *situation) wake(k int) wakefulness {
	if s.grass.Family != turf.Warm {
		return notWarm
	}
	g := s.grass
	spring := s.phase(k) > yearDays/2
	t5 := s.mean(k-4, k, soilOf)
	seen := s.num("green-up-percent")
	if !math.IsNaN(seen) && (k == 0 || spring) {
		switch {
		case k == 0 && seen < 10:
			return asleep
		case seen >= 90:
			return green
		case k == 0:
			return waking
		case float64(k)*greenPerDay >= 90-seen && t5 >= g.GrowthStart+2:
			return green
		case seen >= 10:
			return waking
		}
	}
	if spring {
		switch {
		case s.mean(k-13, k, soilOf) >= g.Green90:
			return green
		case t5 < g.GreenBegins:
			return asleep
		}
		return waking
	}
	if t5 < g.GrowthStops {
		return asleep
	}
	straw := s.has("colour", "straw-tan") && t5 < g.GrowthStops+strawMargin
	if straw && k == 0 || s.frosted(k) {
		return waking
	}
	return green
}

// frosted reports a hard frost since midsummer: measured, forecast, or by the normal date.
func (s *situation) frosted(k int) bool {
	for j := k; j > k-200; j-- {
		if s.phase(j) > yearDays/2 {
			return false
		}
		if d := s.at(j); d.known && d.tmin <= killing {
			return true
		}
	}
	return false
}

// killing is the minimum of the air that ends the season of tender leaves, °C (28 °F, extension).
const killing = -2.2

func halfGreen(s *situation, k int) truth {
	if g := s.num("green-up-percent"); k == 0 && !math.IsNaN(g) {
		return truthOf(g >= 5 && g <= 50)
	}
	return wakeIs(s, k, waking)
}

// tender reports warm-season turf between sleep and the green-up that its kind bears sprays at.
func tender(s *situation, k int) truth {
	if s.wake(k) != waking || s.grass.TenderUnder == 0 {
		return no
	}
	if g := s.num("green-up-percent"); k == 0 && !math.IsNaN(g) {
		return truthOf(g < s.grass.TenderUnder)
	}
	return yes
}

// turnedCool: the autumn feeding of cool-season turf is open.
func turnedCool(s *situation, k int) truth {
	if s.grass.Family == turf.Warm {
		return no
	}
	if s.turns == nil {
		s.turns = make([]truth, len(s.days))
	}
	i := max(0, min(k+courseBack, len(s.turns)-1))
	if s.turns[i] == unknown {
		s.turns[i] = truthOf(s.place.Turned(s.day(k), func(j int) (float64, bool) {
			d := s.at(k + j)
			return d.tmax, d.known
		}))
	}
	return s.turns[i]
}

// feedSummer is the time in which cool-season turf gets no ordinary feed: from two weeks before midsummer, or from the heat, until
// the weather has turned.
func feedSummer(s *situation, k int) truth {
	if s.grass.Family == turf.Warm {
		return no
	}
	p := s.phase(k)
	if p > 183 {
		p -= yearDays
	}
	opens := -50.0 // the first week of June at the warmest day of late July
	if math.IsNaN(s.hotEnds) {
		if w := s.c.Policy.SummerFeeding; w == "" {
			return no
		}
	} else if s.hotFrom > 183 {
		opens = math.Min(opens, s.hotFrom-yearDays)
	}
	if p < opens || p > 100 {
		return no
	}
	return -turnedCool(s, k)
}

// Years for which a confirmed cause counts as history (extension practice).
const (
	historyYears     = 3
	historyYearsLong = 5
)

func history(s *situation, _ int, cause string) truth {
	for _, x := range s.v["past-causes"].List {
		if x == cause {
			return yes
		}
	}
	years := historyYears
	if slices.Contains(longMemory, cause) {
		years = historyYearsLong
	}
	for _, e := range s.c.Earlier {
		if e.Cause == cause && !e.Date.Before(s.c.Lawn.Date.AddDate(-years, 0, 0)) {
			return yes
		}
	}
	if b := s.v["same-place-before"].Yes; b != nil && *b && s.r.P(cause) >= .5 {
		return yes
	}
	return no
}

// signs are what a disease is seen by, beyond any probability.
var signs = []struct{ cause, test string }{
	{"dollar-spot", "leaf-symptoms = hourglass-lesion-tan-with-brown-border or mycelium-at-dawn = white-sparse|white-cottony"},
	{"brown-patch", "leaf-symptoms = irregular-lesion-tan-dark-border or margin = smoke-ring or mycelium-at-dawn = grey-web"},
	{"large-patch", "pull-test = shoots-slip-from-rotted-sheath or orange-edge"},
	{"leaf-spot", "leaf-symptoms = oval-lesion-purple-border"},
	{"melting-out", "leaf-symptoms = oval-lesion-purple-border"},
	{"gray-leaf-spot", "leaf-symptoms = grey-felted-lesion"},
	{"pythium-blight", "leaf-symptoms = greasy-water-soaked or mycelium-at-dawn = white-cottony or margin = water-soaked"},
	{"rust", "leaf-symptoms = orange-pustules"},
	{"red-thread", "leaf-symptoms = red-threads"},
	{"powdery-mildew", "leaf-symptoms = white-powder"},
	{"anthracnose", "fruiting-bodies = black-setae"},
	{"slime-mold", "fruiting-bodies = slime-crust"},
	{"gray-snow-mold", "fruiting-bodies = sclerotia"},
	{"pink-snow-mold", "mycelium-at-dawn = pink-salmon"},
}

var signOf = map[string]test{}

func seenDisease(s *situation, k int, cause string) truth {
	if s.word(labNames) == cause {
		return yes
	}
	if t, ok := signOf[cause]; ok {
		return t(s, k)
	}
	return unknown
}

// Days back and ahead over which a disease's weather counts as now.
const (
	windowBack  = 6
	windowAhead = 5
	windowShut  = .2
)

func windowOpen(s *situation, _ int, cause string) truth {
	past, openPast := s.window(cause, -windowBack, 0)
	next, openNext := s.window(cause, 1, windowAhead)
	if math.IsNaN(past) && math.IsNaN(next) {
		return unknown
	}
	return truthOf(openPast >= 2 || openNext >= 2)
}

func windowClosed(s *situation, _ int, cause string) truth {
	now, _ := s.window(cause, 0, windowAhead)
	if math.IsNaN(now) {
		return unknown
	}
	return truthOf(now < windowShut)
}

// windowEnds reports that the forecast holds hardly a day more of a leaf disease's weather.
func windowEnds(s *situation, _ int, cause string) truth {
	next, open := s.window(cause, 1, windowAhead)
	if math.IsNaN(next) || slices.Contains(endless, cause) || s.forecast < windowAhead {
		return unknown
	}
	return truthOf(open <= 1)
}

func activeDisease(s *situation, k int, cause string) truth {
	if s.r.P(cause) < .4 {
		return no
	}
	return max(terms["fresh"](s, k), windowOpen(s, k, cause))
}
