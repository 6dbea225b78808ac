package diagnosis

import (
	"maps"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/turf"
	"hodos/core/worth"
)

// tellingOf is a value that shows a member of a fact: an item of a list, or a word or figure that some cause is known by.
func tellingOf(name string, cause, turfIndex int) (id string, v knowledge.Value, ok bool) {
	id, item, isItem := strings.Cut(name, ":")
	if isItem {
		return id, knowledge.ListValue(item), true
	}
	at, weighed := knowledge.TableAt[id]
	if !weighed {
		return id, v, false
	}
	cf := &knowledge.Tables[at]
	d := cf.ByCause[cause][turfIndex]
	if d == nil {
		return id, v, false
	}
	if d.IsNumber {
		if x := math.Expm1(d.Mid); cf.Finding.Scale == knowledge.Log {
			return id, knowledge.NumberValue(math.Min(cf.Finding.Max, x)), true
		}
		return id, knowledge.NumberValue(d.Mid), true
	}
	best := 0
	for i := range d.P {
		if d.P[i]/cf.Background.P[i] > d.P[best]/cf.Background.P[best] {
			best = i
		}
	}
	return id, cf.Worded(best), true
}

// A fact told twice moves nothing more: where the second telling is no look of its own, no cause that spoke gains by it.
func TestAFactToldTwiceMovesNothingMore(t *testing.T) {
	tried := 0
	for i, a := range knowledge.FactRows {
		for _, b := range knowledge.FactRows[i+1:] {
			if b.Fact != a.Fact || b.Again > 0 || strings.HasPrefix(b.Member, "disease-window") || strings.HasPrefix(a.Member, "disease-window") {
				continue
			}
			for ci, c := range knowledge.CauseTable {
				species, turfIndex := "kentucky-bluegrass", 0
				if !strings.Contains(c.Turf, "C") {
					species, turfIndex = "st-augustinegrass", 1
				}
				one, v, ok := tellingOf(a.Member, ci, turfIndex)
				two, w, also := tellingOf(b.Member, ci, turfIndex)
				l := lawn(species, 7, 38)
				m := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) })
				if !ok || !also || one == two || !m.speaks(ci, a.Member) || !m.speaks(ci, b.Member) {
					continue
				}
				tried++
				once := weighPlain(l, map[string]knowledge.Value{one: v}).P(c.ID)
				twice := weighPlain(l, map[string]knowledge.Value{one: v, two: w}).P(c.ID)
				if _, _, item := strings.Cut(b.Member, ":"); item { // what else the list denies is no part of it
					once = weighPlain(l, map[string]knowledge.Value{one: v, two: knowledge.ListValue()}).P(c.ID)
				}
				require.LessOrEqual(t, twice, once+.035, "%s: %s after %s", c.ID, b.Member, a.Member)
			}
		}
	}
	require.Greater(t, tried, 8)
}

// speaks reports whether a cause of the lawn shows a member of a fact.
func (m *model) speaks(cause int, name string) bool {
	id, item, _ := strings.Cut(name, ":")
	at, ok := knowledge.TableAt[id]
	if !ok || !m.has(cause) {
		return false
	}
	d := knowledge.Tables[at].ByCause[cause][m.turf]
	return d != nil && (item == "" || d.P[slices.Index(knowledge.Tables[at].Values, item)]*d.Grip >= .1)
}

func weighPlain(l knowledge.Lawn, found map[string]knowledge.Value) Result {
	return Diagnose(evidence.Case{Lawn: l, Findings: found}, Options{NoNext: true, NoLedger: true})
}

// The order in which a fact is told makes no difference, and a second look that is one of its own still tells.
func TestASecondLookTellsLess(t *testing.T) {
	l := lawn("perennial-ryegrass", 9, 40)
	slice, count := knowledge.WordValue("brown-dry"), knowledge.NumberValue(8)
	p := func(f map[string]knowledge.Value) float64 { return logit2(weighPlain(l, f).P("drought-dieback")) }
	after := p(map[string]knowledge.Value{"crowns-alive-percent": count,
		"crown-slice": slice}) - p(map[string]knowledge.Value{"crowns-alive-percent": count})
	alone := p(map[string]knowledge.Value{"crown-slice": slice}) - p(nil)
	require.Positive(t, after)
	require.Less(t, after, alone*.7, "the slice after the count tells less than the slice alone")
}

// Two causes that show one fact by different words explain each other away: orange boots are rust, and no sign of chinch bugs.
func TestOneFactByDifferentWords(t *testing.T) {
	l := lawn("perennial-ryegrass", 9, 41)
	rust := map[string]knowledge.Value{"leaf-symptoms": knowledge.ListValue("orange-pustules")}
	before := weighPlain(l, rust).P("chinch-bugs")
	rust["colour"] = knowledge.ListValue("orange-cast")
	require.InDelta(t, before, weighPlain(l, rust).P("chinch-bugs"), .03)
	require.Greater(t, weighPlain(l, map[string]knowledge.Value{"colour": knowledge.ListValue("orange-cast")}).P("chinch-bugs"), 2*before)
}

func TestAReadingBeyondItsLimitSettlesItsOwnCondition(t *testing.T) {
	for _, x := range []struct {
		cause, finding, species string
		value, least            float64
	}{
		{"low-ph", "soil-ph", "kentucky-bluegrass", 4.5, .85},
		{"high-ph", "soil-ph", "kentucky-bluegrass", 8.3, .75},
		{"high-ph", "soil-ph", "centipedegrass", 7.2, .75},
		{"salinity", "soil-ec-ds-m", "kentucky-bluegrass", 12, .9},
		{"salinity", "soil-ec-ds-m", "st-augustinegrass", 16, .7},
		{"potassium-deficiency", "soil-k-ppm", "kentucky-bluegrass", 12, .65},
		{"phosphorus-deficiency", "soil-p-ppm", "kentucky-bluegrass", 5, .55},
		{"excess-thatch", "thatch-mm", "kentucky-bluegrass", 25, .9},
		{"compaction", "penetration-kpa", "kentucky-bluegrass", 3200, .85},
		{"shade-thinning", "sun-hours", "kentucky-bluegrass", 1.5, .5},
		{"moss-invasion", "moss-cover-percent", "perennial-ryegrass", 45, .6},
		{"weed-invasion", "weed-cover-percent", "tall-fescue", 60, .8},
		{"irrigation-coverage-gap", "catch-can-du", "tall-fescue", .35, .75},
		{"white-grubs", "grubs-per-m2", "kentucky-bluegrass", 200, .85},
		{"chinch-bugs", "float-chinch-per-m2", "st-augustinegrass", 500, .6},
		{"mole-crickets", "flush-mole-crickets-per-m2", "bahiagrass", 25, .7},
	} {
		for _, month := range []time.Month{2, 6, 9, 11} {
			l := lawn(x.species, month, 33)
			p := weighPlain(l, map[string]knowledge.Value{x.finding: knowledge.NumberValue(x.value)}).P(x.cause)
			require.GreaterOrEqual(t, p, x.least, "%s by %s %g in month %d", x.cause, x.finding, x.value, month)
		}
	}
}

// What is measured is not argued away by signs that were not seen, and owns its reading.
func TestASettledConditionOwnsItsReading(t *testing.T) {
	l := lawn("hybrid-bermudagrass", 10, 33)
	found := map[string]knowledge.Value{"soil-k-ppm": knowledge.NumberValue(20),
		"leaf-symptoms": knowledge.ListValue("oval-lesion-purple-border")}
	require.Greater(t, weighPlain(l, found).P("potassium-deficiency"), .1)
	require.Equal(t, knowledge.CauseAt["low-ph"], knowledge.Owner("soil-ph", knowledge.NumberValue(5.5)))
	require.Equal(t, -1, knowledge.Owner("soil-ph", knowledge.NumberValue(6.4)))
	require.Equal(t, -1, knowledge.Owner("soil-ph", knowledge.WordValue("low")))
	require.Equal(t, knowledge.CauseAt["shade-thinning"], knowledge.Owner("sun-hours", knowledge.NumberValue(4)))
}

// Whatever the month and the place, a disease that the laboratory names is at least as likely as not, on a grass that has it.
func TestNoMonthOrLatitudeMakesAProofWorthless(t *testing.T) {
	for _, c := range knowledge.CauseTable {
		if c.Family != "disease" {
			continue
		}
		species := hostOf(c)
		for month := time.January; month <= time.December; month++ {
			for _, latitude := range []float64{5, 30, 45, 58, -35} {
				p := weighPlain(lawn(species, month, latitude), map[string]knowledge.Value{"lab-pathogen": knowledge.WordValue(c.ID)}).P(c.ID)
				require.GreaterOrEqual(t, p, .5, "%s on %s in month %d at %g°", c.ID, species, month, latitude)
			}
		}
	}
}

// hostOf is a grass that a cause is at home on.
func hostOf(c knowledge.Cause) string {
	best, most := "", 0.0
	for _, s := range turf.All() {
		l := lawn(s.ID, 6, 39)
		if o := c.OnGrass(l); o > most {
			best, most = s.ID, o
		}
	}
	return best
}

func TestReadingsMeanWhatTheyMeanOnTheGrass(t *testing.T) {
	p := func(species, finding string, x float64, cause string) float64 {
		return weighPlain(lawn(species, 6, 34), map[string]knowledge.Value{finding: knowledge.NumberValue(x),
			"stand-density": knowledge.WordValue("thin")}).P(cause)
	}
	require.Greater(t, p("common-bermudagrass", "sun-hours", 5, "shade-thinning"), .5, "bermuda needs eight hours")
	require.Less(t, p("fine-fescue", "sun-hours", 5, "shade-thinning"), .2)
	require.Greater(t, p("centipedegrass", "soil-ec-ds-m", 2.8, "salinity"), .6)
	require.Less(t, p("seashore-paspalum", "soil-ec-ds-m", 6, "salinity"), .1)
	require.Greater(t, p("common-bermudagrass", "nitrogen-12-months-g-m2", 4, "nitrogen-deficiency"),
		2*p("centipedegrass", "nitrogen-12-months-g-m2", 4, "nitrogen-deficiency"))
	require.Less(t, p("centipedegrass", "soil-ph", 5.3, "low-ph"), .1)
	require.Empty(t, knowledge.Relations(lawn(knowledge.Reference, 6, 40)))
	require.Empty(t, knowledge.Relations(knowledge.Lawn{}))
}

// "Nothing wrong" explains no damage; what none of the causes explains is said so.
func TestNothingWrongExplainsNoDamage(t *testing.T) {
	l := lawn("kentucky-bluegrass", 7, 40)
	damage := map[string]knowledge.Value{"pattern": knowledge.ListValue("irregular-patches"), "colour": knowledge.ListValue("brown"),
		"stand-density":         knowledge.WordValue("gaps"),
		"affected-area-percent": knowledge.NumberValue(40)}
	r := weighPlain(l, damage)
	require.Less(t, r.P(knowledge.Healthy), .02)
	require.NotEqual(t, knowledge.Healthy, r.Causes[0].ID)
	odd := map[string]knowledge.Value{"pattern": knowledge.ListValue("irregular-patches"), "colour": knowledge.ListValue("purple", "black"),
		"leaf-symptoms": knowledge.ListValue("none"),
		"crown-slice":   knowledge.WordValue("brown-soft"), "pull-test": knowledge.WordValue("resists"),
		"soil-moisture":  knowledge.WordValue("moist"),
		"root-condition": knowledge.WordValue("intact"), "fruiting-bodies": knowledge.WordValue("none"), "surface": knowledge.WordValue("normal"),
		"stand-density": knowledge.WordValue("gaps"), "insects-seen": knowledge.ListValue("none"),
		"affected-area-percent": knowledge.NumberValue(50)}
	require.Greater(t, weighPlain(l, odd).Other, 3*weighPlain(l, nil).Other, "what fits nothing makes something else likelier")
	bermuda := lawn("common-bermudagrass", 1, 34)
	require.Equal(t, "winter-dormancy", weighPlain(bermuda, map[string]knowledge.Value{"pattern": knowledge.ListValue("uniform"),
		"colour": knowledge.ListValue("brown")}).Causes[0].ID)
	total := 0.0
	for _, s := range knowledge.SoundRows {
		c := knowledge.SoundnessOf[s.Finding]
		require.Greater(t, c.Chance, 0.0, s.Finding)
		require.Less(t, c.Chance, 1.0, s.Finding)
		total += s.Sound
	}
	require.Positive(t, total)
}

func TestMonthsByFamilyPlaceAndTropics(t *testing.T) {
	chinch := knowledge.CauseTable[knowledge.CauseAt["chinch-bugs"]]
	cool, warm := lawn("perennial-ryegrass", 3, 39), lawn("st-augustinegrass", 3, 39)
	require.Less(t, chinch.InSeason(cool), .1)
	require.Greater(t, chinch.InSeason(warm), .3)
	red := knowledge.CauseTable[knowledge.CauseAt["red-thread"]]
	april := func(latitude float64) float64 { return red.InSeason(lawn("perennial-ryegrass", 4, latitude)) }
	require.InDelta(t, 7.0/9, april(39), 1e-9)
	require.InDelta(t, 5.0/9, april(47), 1e-9, "a month later eight degrees poleward")
	require.InDelta(t, 6.0/9, april(43), 1e-9, "half a month for four")
	require.InDelta(t, 8.0/9, april(31), 1e-9)
	october := red.InSeason(lawn("perennial-ryegrass", 10, 47))
	require.InDelta(t, 5.0/9, october, 1e-9, "autumn comes earlier")
	require.InDelta(t, red.InSeason(lawn("perennial-ryegrass", 10, -39)), april(39), 1e-9, "the south is turned by half a year")
	tropic := red.InSeason(lawn("perennial-ryegrass", 1, 10))
	require.InDelta(t, red.InSeason(lawn("perennial-ryegrass", 7, 10)), tropic, 1e-12, "no month tells near the equator")
	snow := knowledge.CauseTable[knowledge.CauseAt["gray-snow-mold"]]
	require.InDelta(t, .05, snow.AtPlace(lawn("tall-fescue", 2, 28)), 1e-9)
	require.InDelta(t, .4, snow.AtPlace(lawn("tall-fescue", 2, 38)), 1e-9)
	require.InDelta(t, 1, snow.AtPlace(lawn("tall-fescue", 2, 46)), 1e-9)
	moss := knowledge.CauseTable[knowledge.CauseAt["moss-invasion"]]
	walked := map[string]knowledge.Value{"pattern": knowledge.ListValue("uniform")}
	require.InDelta(t, knowledge.Unseen, moss.Glance(walked), 1e-9)
	require.InDelta(t, 1, moss.Glance(nil), 1e-9)
	walked["moss-cover-percent"] = knowledge.NumberValue(0)
	require.InDelta(t, 1, moss.Glance(walked), 1e-9)
}

// A grade of a disease's weather is evidence by its risk over the mean risk of the place: one on average over lawns without it.
func TestWindowsAreWeighedAgainstTheirPlace(t *testing.T) {
	require.Len(t, knowledge.RiskRows, len(knowledge.WeatherOfCause))
	for cause, w := range knowledge.WeatherOfCause {
		for turfIndex := range w.Cause {
			for c := range w.Cause[turfIndex] {
				with, without := w.Cause[turfIndex][c], w.Without[turfIndex][c]
				if with == nil {
					continue
				}
				sum, mean := 0.0, 0.0
				for i := range with.P {
					sum += with.P[i]
					mean += without.P[i] * with.P[i] / without.P[i]
					if i > 0 {
						require.GreaterOrEqual(t, with.P[i]/without.P[i], with.P[i-1]/without.P[i-1]-1e-9, "%s in %s", cause, knowledge.ClimateNames[c])
					}
				}
				require.InDelta(t, 1, sum, 1e-9)
				require.InDelta(t, 1, mean, 1e-9)
			}
		}
	}
	p := func(latitude float64, grade string) float64 {
		l := lawn("tall-fescue", 7, latitude)
		m := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) })
		g := evidence.Gathered{Lawn: l, Values: map[string]knowledge.Value{"disease-window:brown-patch": knowledge.WordValue(grade)}}
		post := m.sum(m.observeAll(&g), false)
		for k, ci := range m.active {
			if knowledge.CauseTable[ci].ID == "brown-patch" {
				return post.marginal[k]
			}
		}
		return 0
	}
	require.Greater(t, p(40, "strong")/p(40, "open"), 1.3)
	require.Less(t, p(40, "never-open"), p(40, "open")/8)
	require.Greater(t, p(40, "open")/p(40, "weak"), p(33, "open")/p(33, "weak")*.9)
	for latitude, want := range map[float64]string{52: "N52", 45: "N46", 40: "N40", 36: "N36", 33: "N33", 28: "N29", -34: "S34", -27: "S27"} {
		require.Equal(t, want, knowledge.ClimateNames[knowledge.ClimateOf(knowledge.Lawn{Latitude: latitude})], "%g", latitude)
	}
}

func TestTwoReadingsThatExcludeEachOther(t *testing.T) {
	told := func(f map[string]knowledge.Value) string {
		var out []string
		for _, n := range knowledge.Contradictions(f) {
			out = append(out, n.About+": "+n.Text)
		}
		return strings.Join(out, "\n")
	}
	require.Contains(t, told(map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(65),
		"pull-test": knowledge.WordValue("resists")}), "pull-test: 65 grubs per m²")
	require.Empty(t, told(map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(64.9),
		"pull-test": knowledge.WordValue("resists")}))
	require.Contains(t, told(map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(8),
		"pull-test": knowledge.WordValue("lifts-like-carpet")}), "Four squares")
	require.Contains(t, told(map[string]knowledge.Value{"crown-slice": knowledge.WordValue("white-moist"),
		"green-tissue-at-base": knowledge.YesValue(false)}), "strip the old sheaths")
	require.Empty(t, told(map[string]knowledge.Value{"crown-slice": knowledge.WordValue("white-moist"),
		"green-tissue-at-base": knowledge.YesValue(true)}))
	require.Contains(t, told(map[string]knowledge.Value{"insects-seen": knowledge.ListValue("chinch-like"),
		"float-chinch-per-m2": knowledge.NumberValue(0)}), "ten minutes")
	require.Empty(t, told(map[string]knowledge.Value{"insects-seen": knowledge.ListValue("caterpillars"),
		"float-chinch-per-m2": knowledge.NumberValue(0)}))
	for _, c := range knowledge.Conflicts {
		require.NotContains(t, strings.NewReplacer("{one}", "", "{other}", "").Replace(c.Text), "{", c.Text)
	}
}

// One answer that stands against all others is suspected aloud, with how to look again; a lawn that agrees with itself is not.
func TestOneMisreadAnswerIsSuspected(t *testing.T) {
	l := lawn("tall-fescue", 7, 39)
	f := map[string]knowledge.Value{"footprints": knowledge.WordValue("stay"), "colour": knowledge.ListValue("straw-tan"),
		"leaf-symptoms":    knowledge.ListValue("rolled-or-folded"),
		"days-since-water": knowledge.NumberValue(14), "onset-speed": knowledge.WordValue("days"), "pull-test": knowledge.WordValue("resists")}
	about := func() (out []string) {
		for _, n := range Diagnose(evidence.Case{Lawn: l, Findings: f}, Options{}).Notices {
			if strings.Contains(n.Text, "stands alone") {
				out = append(out, n.About)
				require.Contains(t, n.Text, knowledge.LookAgain(n.About))
			}
		}
		return out
	}
	require.Empty(t, about())
	f["soil-moisture"] = knowledge.WordValue("saturated")
	require.Equal(t, []string{"soil-moisture"}, about())
	for _, id := range []string{"pull-test", "onset-speed", "colour"} {
		delete(f, id)
	}
	require.Empty(t, about(), "there have to be others that it stands against")
}

func TestWhatACheckIsWorth(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	f := map[string]knowledge.Value{"pull-test": knowledge.WordValue("lifts-like-carpet"), "colour": knowledge.ListValue("brown")}
	small, big := 20.0, 400.0
	gain := func(area *float64) float64 {
		at := l
		at.AffectedM2 = area
		r := Diagnose(evidence.Case{Lawn: at, Findings: f}, Options{})
		require.Equal(t, "grubs-per-m2", r.Next[0].Finding)
		require.Equal(t, "white-grubs", r.Next[0].Needed)
		return r.Next[0].Worth
	}
	require.Greater(t, gain(&big), 10*gain(&small), "more is at stake on a larger place")
	require.Equal(t, []string{"soil-ph"}, knowledge.Needed("low-ph"))
	require.Nil(t, knowledge.Needed("dull-blade"))
	require.Nil(t, knowledge.Needed("none of them"))
	m := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) })
	p := make([]float64, len(m.active))
	for k, ci := range m.active {
		if knowledge.CauseTable[ci].ID == "white-grubs" {
			p[k] = .9
		}
	}
	m.money(worth.DefaultPrices, 60, nil)
	require.Zero(t, m.acting(p, ""), "nothing is earned before the count")
	require.Positive(t, m.acting(p, "grubs-per-m2"))
	m.money(worth.DefaultPrices, 60, map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(90)})
	require.Positive(t, m.acting(p, ""))
	lab := NextCheck{Station: "lab", Days: 7, Minutes: 13, Worth: 50}
	spot := NextCheck{Station: "soil", Minutes: 13, Worth: 50}
	require.Greater(t, spot.score(&m.stake), lab.score(&m.stake), "a laboratory takes its fee and its days")
}

// A state of the ground stands behind the damage that it led to, however sure it is; alone it leads.
func TestAStateOfTheGroundStandsBehindTheDamage(t *testing.T) {
	l := lawn("centipedegrass", 5, 32)
	f := map[string]knowledge.Value{"leaf-symptoms": knowledge.ListValue("new-leaves-yellow", "interveinal-yellow"),
		"colour": knowledge.ListValue("yellow"), "soil-ph": knowledge.NumberValue(7.2)}
	r := weighPlain(l, f)
	require.Equal(t, "iron-chlorosis", r.Causes[0].ID)
	require.Equal(t, "high-ph", r.Causes[1].ID)
	require.Greater(t, r.Causes[1].Probability, r.Causes[0].Probability)
	require.Equal(t, "high-ph", weighPlain(l, map[string]knowledge.Value{"soil-ph": knowledge.NumberValue(7.6)}).Causes[0].ID)
}

// Words that people interchange cost little.
func TestInterchangedWordsCostLittle(t *testing.T) {
	rest := func(colour string) float64 {
		l := lawn("kentucky-bluegrass", 8, 41)
		return weighPlain(l, map[string]knowledge.Value{"pattern": knowledge.ListValue("uniform"), "colour": knowledge.ListValue(colour),
			"soil-moisture": knowledge.WordValue("dry"),
			"crown-slice":   knowledge.WordValue("white-moist"), "days-since-water": knowledge.NumberValue(30)}).P("summer-dormancy")
	}
	require.Greater(t, rest("brown"), .7)
	require.Greater(t, rest("brown"), rest("straw-tan")-.25)
	cf := &knowledge.Tables[knowledge.TableAt["colour"]]
	p := make([]float64, len(cf.Values))
	p[slices.Index(cf.Values, "straw-tan")] = .9
	q := cf.Confused(p)
	require.InDelta(t, .9*.35*.5/.6, q[slices.Index(cf.Values, "brown")], 1e-9, "three words share what leaves it, half at most")
	require.InDelta(t, .9*(1-.5*.5), q[slices.Index(cf.Values, "straw-tan")], 1e-9, "and half of that is ticked beside it")
	one := &knowledge.Tables[knowledge.TableAt["root-colour"]]
	sum := 0.0
	for _, x := range one.Confused(one.Background.P) {
		sum += x
	}
	require.InDelta(t, 1, sum, 1e-9, "what leaves one word comes to another")
}

// The ledger tells a fact once, with the other tellings that the cause shows, and no others.
func TestTheLedgerTellsAFactOnce(t *testing.T) {
	l := lawn("kentucky-bluegrass", 7, 39)
	r := Diagnose(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"pattern": knowledge.ListValue("along-hardscape"),
		"position": knowledge.ListValue("near-hardscape"), "soil-temp-c": knowledge.NumberValue(33)}}, Options{})
	for _, c := range r.Causes {
		if c.ID != "hardscape-heat" {
			continue
		}
		found, bits := map[string][]string{}, map[string]float64{}
		for _, b := range c.For {
			found[b.Finding], bits[b.Finding] = b.With, b.Bits
		}
		require.Equal(t, []string{"position"}, found["pattern"])
		require.Less(t, bits["position"], bits["pattern"]/3, "what is left is what else the list denies")
		require.Empty(t, found["soil-temp-c"])
	}
	for _, c := range r.Causes {
		for _, b := range append(c.For, c.Against...) {
			require.NotContains(t, b.With, b.Finding)
			_, ok := knowledge.FindingByID(b.Finding)
			require.True(t, ok, "%s: %q is no finding", c.ID, b.Finding)
		}
	}
}

// Where no pattern is seen, a cause misses each of the words by itself: it is as unlikely as the row of its words says. Where the damage is
// all over, the words for patches are answered by that.
func TestEachWordOfAListIsMissedByItself(t *testing.T) {
	weigh := func(words ...string) (m *model, evs []observed) {
		g := evidence.Gather(evidence.Case{Lawn: lawn("tall-fescue", 8, 38),
			Findings: map[string]knowledge.Value{"pattern": knowledge.ListValue(words...)}})
		m = newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) })
		return m, m.observeAll(&g)
	}
	missing := func(m *model, evs []observed, cause string) (left, row float64) {
		cf := &knowledge.Tables[knowledge.TableAt["pattern"]]
		k := slices.Index(m.active, knowledge.CauseAt[cause])
		d := cf.Dist(m.active[k], m.turf, m.climate)
		row = 1
		seen := map[string]bool{}
		for _, w := range evs[0].value.List {
			seen[w] = true
		}
		for i, w := range cf.Values {
			if !seen[w] && w != "none" {
				row *= 1 - math.Min(d.P[i]*d.Grip, .985)
			}
		}
		return evs[0].alone(k), row
	}
	m, evs := weigh()
	for _, cause := range []string{"brown-patch", "drought-stress", "dollar-spot"} {
		left, row := missing(m, evs, cause)
		require.InDelta(t, row, left, 1e-9, cause)
	}
	m, evs = weigh("uniform")
	k := slices.Index(m.active, knowledge.CauseAt["drought-stress"])
	left, row := missing(m, evs, "drought-stress")
	require.Less(t, left, 1.1*row, "where something else makes it all over, drought is missed by the words for patches")
	at := slices.IndexFunc(evs[0].terms, func(t term) bool { return t.item == "uniform" })
	excused := evs[0].terms[at].excused[k]
	require.Less(t, excused, .6, "where drought makes it all over, that is an answer to: in what patches?")
	other := slices.Index(m.active, knowledge.CauseAt["herbicide-injury"])
	require.Positive(t, evs[0].terms[at].g[other])
	both, one := left*evs[0].terms[at].ratio(k, other), evs[0].terms[at].ratio(other, -1)
	require.Less(t, both, one, "what herbicide explains does not speak for drought beside it")
}

// Whatever may be ticked in a list, what a cause says of it comes to one: no cause gains by having several words for one fact.
func TestWhatACauseSaysOfAListComesToOne(t *testing.T) {
	l := lawn("kentucky-bluegrass", 6, 38)
	m := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) })
	judged := 0
	for _, list := range []string{"leaf-symptoms", "pattern", "colour"} {
		cf := &knowledge.Tables[knowledge.TableAt[list]]
		for _, words := range bound(wordsOf(cf)) {
			for k, cause := range m.active {
				d := cf.ByCause[cause][m.turf]
				if d == nil || !slices.ContainsFunc(words, func(vi int) bool { return d.P[vi]*d.Grip > .3 }) {
					continue
				}
				sum, row := 0.0, 1.0
				for ticked := range 1 << len(words) {
					var found []string
					chance := 1.0
					for i, vi := range words {
						leak := cf.Leak(vi)
						if ticked>>i&1 == 1 {
							found, chance = append(found, cf.Values[vi]), chance*leak
						} else {
							chance *= 1 - leak
						}
					}
					sum += chance * m.says(list, knowledge.ListValue(found...), k)
				}
				for vi, w := range cf.Values { // the words of other facts are missed each time
					if !slices.Contains(words, vi) && w != "none" {
						row *= 1 - math.Min(d.P[vi]*d.Grip, .985)
					}
				}
				judged++
				require.InDelta(t, 1, sum/row, .12, "%s of %s %v", knowledge.CauseTable[cause].ID, list, words)
			}
		}
	}
	require.Greater(t, judged, 60)
}

// bound joins the words of facts that have some in common.
func bound(facts map[int][]int) (out [][]int) {
	for _, fact := range slices.Sorted(maps.Keys(facts)) {
		words := facts[fact]
		out = slices.DeleteFunc(out, func(other []int) bool {
			if !slices.ContainsFunc(other, func(vi int) bool { return slices.Contains(words, vi) }) {
				return false
			}
			words = append(slices.Clone(words), other...)
			return true
		})
		slices.Sort(words)
		out = append(out, slices.Compact(words))
	}
	return out
}

// says is how much likelier a cause by itself makes an answer.
func (m *model) says(finding string, v knowledge.Value, k int) float64 {
	w := 1.0
	for _, ev := range m.once([]observed{m.observe(finding, v)}) {
		w *= ev.alone(k)
		for i := range ev.terms {
			w *= ev.terms[i].ratio(k, -1)
		}
	}
	return w
}
