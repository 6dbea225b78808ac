package client

import (
	"math"
	"slices"
	"strings"
	"time"

	"hodos/core/units"
	"hodos/core/weather"
)

// Spell is weather ahead that clients are told of.
type Spell struct {
	Kind     SpellKind
	From, To time.Time
	Peak     float64 // the highest or lowest temperature in °C, the rain in mm; for a dry spell the highest temperature
}

// SpellKind is what kind of weather.
type SpellKind string

// The kinds, in the order in which they are told.
const (
	Hot   SpellKind = "hot"
	Soggy SpellKind = "wet"
	Frost SpellKind = "frost"
	Dry   SpellKind = "dry"
)

// SpellKinds are all of them.
func SpellKinds() []SpellKind { return []SpellKind{Hot, Soggy, Frost, Dry} }

// Figures of the spells (judgement): days with at least so many °C, so much rain within three days, frost after so many days without any,
// and so many days in a row with hardly any rain while it is warm.
const (
	hotCool, hotWarm = 32.0, 37.0
	hotDays          = 3
	wetMM            = 40.0
	wetDays          = 3
	frostFrees       = 14
	dryDays          = 7
	dryMM            = 2.0
	dryWarm          = 24.0
)

// SpellsAhead finds what is worth a message in a forecast, each kind once, the first of it. past are the days measured before it, for the
// first frost; warm is for warm-season grass. Days stand in rising order.
func SpellsAhead(past, ahead []weather.Day, warm bool) []Spell {
	least := hotCool
	if warm {
		least = hotWarm
	}
	var out []Spell
	add := func(s Spell, ok bool) {
		if ok {
			out = append(out, s)
		}
	}
	s, ok := run(ahead, hotDays, func(d weather.Day) bool { return d.TMax != nil && *d.TMax >= least })
	s.Kind, s.Peak = Hot, highest(ahead, s)
	add(s, ok)
	add(soggy(ahead))
	add(firstFrost(past, ahead))
	s, ok = run(ahead, dryDays, func(d weather.Day) bool {
		return d.Rain != nil && *d.Rain < dryMM && d.TMax != nil && *d.TMax >= dryWarm
	})
	s.Kind, s.Peak = Dry, highest(ahead, s)
	add(s, ok)
	return out
}

// run is the first stretch of at least so many days that are all so.
func run(days []weather.Day, least int, so func(weather.Day) bool) (s Spell, ok bool) {
	from := -1
	for i, d := range days {
		switch {
		case so(d) && from < 0:
			from = i
		case !so(d) && from >= 0 && i-from >= least:
			return Spell{From: days[from].Date, To: days[i-1].Date}, true
		case !so(d):
			from = -1
		}
	}
	if from >= 0 && len(days)-from >= least {
		return Spell{From: days[from].Date, To: days[len(days)-1].Date}, true
	}
	return s, false
}

func highest(days []weather.Day, s Spell) float64 {
	most := math.Inf(-1)
	for _, d := range days {
		if d.TMax != nil && !d.Date.Before(s.From) && !d.Date.After(s.To) {
			most = math.Max(most, *d.TMax)
		}
	}
	return most
}

// soggy is the wettest stretch of three days, where it brings much.
func soggy(days []weather.Day) (s Spell, ok bool) {
	for i := 0; i+wetDays <= len(days); i++ {
		sum := 0.0
		for _, d := range days[i : i+wetDays] {
			if d.Rain != nil {
				sum += *d.Rain
			}
		}
		if sum >= wetMM && sum > s.Peak {
			s, ok = Spell{Soggy, days[i].Date, days[i+wetDays-1].Date, sum}, true
		}
	}
	return s, ok
}

// firstFrost is the first day with frost, where there was none in the days before.
func firstFrost(past, ahead []weather.Day) (s Spell, ok bool) {
	cold := func(d weather.Day) bool { return d.TMin != nil && *d.TMin <= 0 }
	for _, d := range past[max(0, len(past)-frostFrees):] {
		if cold(d) {
			return s, false
		}
	}
	for _, d := range ahead {
		if cold(d) {
			return Spell{Frost, d.Date, d.Date, *d.TMin}, true
		}
	}
	return s, false
}

// Lawn is what a message has to know of a client's lawns.
type Lawn struct {
	Irrigated bool // one of them is watered by a system
	Sown      bool // one of them was sown in the last five weeks
	Warm      bool // it is of warm-season grass
}

// SownDays is for how long a lawn counts as sown, in days.
const SownDays = 35

// Key names what is told of a lawn in a spell: clients with the same key get the same text.
func (l Lawn) Key() string {
	return strings.TrimSpace(strings.Join([]string{yes(l.Irrigated, "irrigated"), yes(l.Sown, "sown"), yes(l.Warm, "warm")}, " "))
}

func yes(is bool, word string) string {
	if is {
		return word
	}
	return "-"
}

// aheadRow is a sentence of a message: only is empty for everybody, or irrigated, dry-land, sown, warm or cool.
type aheadRow struct {
	kind       SpellKind
	only, text string
}

// aheadRows: extension practice. {from}, {to} and {peak} stand for the days and the figure.
var aheadRows = []aheadRow{
	{Hot, "", "It will be hot from {from} to {to}, up to {peak}."},
	{Hot, "irrigated", "Water deeply and early in the morning, not in the evening. Two or three times a week is enough."},
	{Hot, "dry-land", "Your lawn may go brown to save itself. That does no harm, but keep off it while it is brown."},
	{Hot, "sown", "Keep the new seed damp: water lightly three times a day, at noon as well."},
	{Hot, "", "Set the mower high, or let the grass stand until it is cooler. Do not feed or spray anything in the heat."},
	{Soggy, "", "Heavy rain is coming from {from} to {to}, about {peak}."},
	{Soggy, "irrigated", "Turn the sprinklers off until a few days after it."},
	{Soggy, "", "Keep feet, wheels and mower off while the ground is soft. Put nothing on the lawn before it: it would wash away."},
	{Soggy, "sown", "Rain can wash seed together. Tell us if you see bare streaks afterwards."},
	{Frost, "", "The first frost is coming on {from}, about {peak}."},
	{Frost, "irrigated", "Turn off the outdoor water and drain it before then."},
	{Frost, "", "Lift hoses, toys and covers off the grass, and keep off it while it is white: every footprint kills leaves."},
	{Frost, "warm", "Your lawn will turn brown and rest until spring. That is normal for this grass."},
	{Frost, "sown", "Young grass can take a light frost. Keep off it."},
	{Dry, "", "No rain to speak of is in sight from {from} to {to}."},
	{Dry, "irrigated", "Water deeply twice a week, early in the morning. When footprints stay in the grass, it is time."},
	{Dry, "dry-land", "Let it rest: brown grass is alive. Do not wake it with a single soaking."},
	{Dry, "sown", "Keep the new seed damp: water lightly two or three times a day."},
}

// Subjects of the messages.
var aheadSubjects = map[SpellKind]string{
	Hot: "Heat is coming: your lawn", Soggy: "Heavy rain is coming: your lawn", Frost: "The first frost is coming: your lawn",
	Dry: "A dry spell is coming: your lawn",
}

// Message is what a client with such a lawn is told of a spell: a subject and its sentences. day says a day as its reader writes it.
func (s Spell) Message(l Lawn, say units.Saying, day func(time.Time) string) (subject string, lines []string) {
	peak := say.Temp(s.Peak, 0)
	if s.Kind == Soggy {
		peak = say.Depth(math.Round(s.Peak/5) * 5)
	}
	fill := strings.NewReplacer("{from}", day(s.From), "{to}", day(s.To), "{peak}", peak)
	for _, r := range aheadRows {
		if r.kind == s.Kind && l.told(r.only) {
			lines = append(lines, fill.Replace(r.text))
		}
	}
	return aheadSubjects[s.Kind], lines
}

func (l Lawn) told(only string) bool {
	switch only {
	case "irrigated":
		return l.Irrigated
	case "dry-land":
		return !l.Irrigated
	case "sown":
		return l.Sown
	case "warm":
		return l.Warm
	}
	return only == ""
}

// Beforehand is what the client does before a visit on which such work is done, and what goes for every visit.
func Beforehand(actions []string, say units.Saying) []string {
	out := []string{}
	seen := map[string]bool{}
	for _, a := range actions {
		for _, r := range taskRows {
			if r.kind == Ready && slices.Contains(strings.Fields(r.action), a) && !seen[r.text] {
				seen[r.text] = true
				out = append(out, say.Literals(r.text))
			}
		}
	}
	return append(out, "Please leave the gate open, and keep dogs indoors while we are there.")
}
