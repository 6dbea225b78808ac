package knowledge

import (
	"math"
	"slices"
	"strconv"
	"strings"
)

// soundRow: what is seen on damaged turf speaks against nothing being wrong, whatever the leaks of single words are. Says are the
// words that count as damage, or "not " and those that do not, or for a number its least. sound is the factor on the chance of seeing
// any of it where nothing is wrong, other the factor where something else is wrong than the causes of the tables; of one finding it
// counts once, and what is not seen is weighed by what is left. Judgement.
type soundRow struct {
	Finding, says string
	Sound, Other  float64
	Awake         bool // not of warm-season turf in its sleep, which looks like that
}

var SoundRows = []soundRow{
	{"pattern", "not uniform", .35, 1.5, false},
	{"colour", "yellow straw-tan brown white-bleached orange-cast red-pink purple black blue-grey", .4, 1.5, true},
	{"affected-area-percent", "15", .4, 1.2, true},
	{"stand-density", "gaps bare", .25, 1.3, false},
	{"footprints", "stay", .5, 1.2, false},
	{"crown-slice", "brown-dry brown-soft mixed", .1, 1.4, false},
	{"crowns-alive-percent", "under 80", .15, 1.3, false},
	{"pull-test", "not resists", .15, 1.2, false},
	{"root-condition", "rotted chewed-off", .15, 1.2, false},
	{"leaf-symptoms", "not none", .4, 1.4, false},
}

// soundness is a compiled row: which outcomes are damage, and how likely they are on the background.
type soundness struct {
	soundRow
	Words  map[string]bool
	limit  float64
	under  bool
	Chance float64 // that the background shows any of it
}

var SoundnessOf = map[string]soundness{}

// sleepRows: the months of the north in which straw and brown are the ordinary look of a family of turf, from a latitude on. Judgement.
var sleepRows = []struct {
	family, months string
	from           float64
}{
	{"W", "11 12 1 2 3", 0},
	{"C", "12 1 2", 38},
}

// Asleep reports turf in its winter, when its colour tells nothing.
func Asleep(l Lawn) bool {
	family, month := "C", strconv.Itoa(int(SeasonMonth(l)))
	if IsWarm(l) {
		family = "W"
	}
	for _, r := range sleepRows {
		if r.family == family && math.Abs(l.Latitude) >= r.from && slices.Contains(strings.Fields(r.months), month) {
			return true
		}
	}
	return false
}

func compileSoundness() {
	for _, r := range SoundRows {
		f, ok := findFinding(r.Finding)
		if !ok {
			panic("diagnosis: soundness of the unknown finding " + r.Finding)
		}
		s := soundness{soundRow: r, Words: map[string]bool{}}
		at, weighed := TableAt[r.Finding]
		if !weighed {
			panic("diagnosis: soundness of " + r.Finding + ", which is not weighed")
		}
		if f.Kind == Number {
			figure := strings.TrimPrefix(r.says, "under ")
			s.under = figure != r.says
			x, err := strconv.ParseFloat(figure, 64)
			if err != nil {
				panic("diagnosis: soundness by " + r.says)
			}
			s.limit = x
			s.Chance = Tables[at].below(&Tables[at].Background, x)
			if !s.under {
				s.Chance = 1 - s.Chance
			}
			SoundnessOf[r.Finding] = s
			continue
		}
		except := strings.TrimPrefix(r.says, "not ")
		for _, v := range f.Values {
			named := Index(IDs(except), v) >= 0
			s.Words[v] = named == (except == r.says) && v != "none"
		}
		for _, v := range IDs(except) {
			if Index(f.Values, v) < 0 {
				panic("diagnosis: soundness of " + r.Finding + " by the unknown " + v)
			}
		}
		s.Chance = Tables[at].shows(s.Words)
		SoundnessOf[r.Finding] = s
	}
}

// shows is the chance that the background shows any of the words.
func (cf *Table) shows(words map[string]bool) float64 {
	sum, none := 0.0, 1.0
	for i, v := range cf.Values {
		if words[v] {
			sum += cf.Background.P[i]
			none *= 1 - cf.Leak(i)
		}
	}
	if cf.Finding.Kind == AnyOf {
		return 1 - none
	}
	return sum
}

// damaged reports whether a value is damage, by a row.
func (s soundness) damaged(v Value) bool {
	switch {
	case v.Number != nil:
		return *v.Number >= s.limit != s.under
	case v.List != nil:
		for _, w := range v.List {
			if s.Words[w] {
				return true
			}
		}
		return false
	case v.Yes != nil:
		return *v.Yes
	}
	return s.Words[v.Word]
}

// Factors are what a value does to nothing being wrong and to something else being wrong.
func (s soundness) Factors(v Value) (sound, other float64) {
	if s.damaged(v) {
		return s.Sound, math.Min(s.Other, .95/s.Chance)
	}
	rest := func(f float64) float64 { return math.Max(.05, (1-f*s.Chance)/(1-s.Chance)) }
	return rest(s.Sound), rest(math.Min(s.Other, .95/s.Chance))
}
