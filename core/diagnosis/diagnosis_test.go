package diagnosis

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/turf"
)

func lawn(species string, month time.Month, latitude float64) knowledge.Lawn {
	return knowledge.Lawn{Date: time.Date(2026, month, 15, 0, 0, 0, 0, time.UTC), Latitude: latitude, Species: []string{species}}
}

func weigh(l knowledge.Lawn, found map[string]knowledge.Value) Result {
	return Diagnose(evidence.Case{Lawn: l, Findings: found}, Options{})
}

func TestVocabularyIsWhole(t *testing.T) {
	require.Len(t, knowledge.CauseTable, 78, "healthy-turf is the empty set and the 79th")
	perFamily := map[string]int{}
	for _, c := range knowledge.CauseTable {
		perFamily[c.Family]++
		require.Len(t, c.Months, 12, c.ID)
		require.NotEmpty(t, c.Rows, c.ID)
		require.Positive(t, c.Base, c.ID)
		require.NotEmpty(t, c.Label, c.ID)
		for _, r := range c.Rows {
			require.NotEmpty(t, r.Source, "%s, %s has no source and no mark of judgement", c.ID, r.Finding)
		}
	}
	require.Equal(t, map[string]int{"disease": 21, "insect": 13, "heat": 3, "drought": 6, "cold": 5, "nutrient": 8, "water-excess": 2,
		"site-and-care": 18, "look-alike": 2}, perFamily)
	require.Len(t, knowledge.ObservedFindings, 95)
	require.Len(t, knowledge.FindingTable, 95+len(knowledge.Steering))
	require.Len(t, knowledge.WeatherTable, 18)
	stations := map[string]bool{}
	for _, s := range knowledge.Stations() {
		stations[s.ID] = true
	}
	for _, f := range knowledge.FindingTable {
		require.True(t, stations[f.Station], f.ID)
		p, ok := knowledge.ProcedureByID(f.Procedure)
		require.True(t, ok, f.ID)
		require.NotEmpty(t, p.Label)
		require.Positive(t, f.Minutes, f.ID)
		if f.Kind == knowledge.Number {
			require.NotEmpty(t, f.Bands, f.ID)
			require.Positive(t, f.Step, f.ID)
			require.Less(t, f.Min, f.Max, f.ID)
		}
	}
	for _, p := range knowledge.Pairs {
		for _, id := range []string{p.A, p.B} {
			_, ok := knowledge.CauseByID(id)
			require.True(t, ok, id)
		}
		require.NotEmpty(t, p.Why)
	}
}

// draw makes a random case: any grass, any month, up to thirty findings with any value that a reader accepts.
func draw(rng *rand.Rand) evidence.Case {
	all := turf.All()
	c := evidence.Case{Lawn: lawn(all[rng.IntN(len(all))].ID, time.Month(1+rng.IntN(12)), []float64{45, 33, -34, 2}[rng.IntN(4)]),
		Findings: map[string]knowledge.Value{}}
	for range rng.IntN(30) {
		f := knowledge.FindingTable[rng.IntN(len(knowledge.FindingTable))]
		switch f.Kind {
		case knowledge.YesNo:
			c.Findings[f.ID] = knowledge.YesValue(rng.IntN(2) == 0)
		case knowledge.OneOf:
			c.Findings[f.ID] = knowledge.WordValue(f.Values[rng.IntN(len(f.Values))])
		case knowledge.AnyOf:
			list := []string{}
			for _, v := range f.Values {
				if v != "none" && rng.IntN(6) == 0 {
					list = append(list, v)
				}
			}
			c.Findings[f.ID] = knowledge.ListValue(list...)
		case knowledge.Number:
			c.Findings[f.ID] = knowledge.NumberValue([]float64{f.Min, f.Max, f.Min + rng.Float64()*(f.Max-f.Min),
				f.Min + rng.Float64()*(f.Max-f.Min)/20}[rng.IntN(4)])
		case knowledge.CauseOrNone:
			c.Findings[f.ID] = knowledge.WordValue(knowledge.CauseTable[rng.IntN(len(knowledge.CauseTable))].ID)
		case knowledge.CauseIDs:
			c.Findings[f.ID] = knowledge.ListValue(knowledge.CauseTable[rng.IntN(len(knowledge.CauseTable))].ID)
		}
	}
	return c
}

func TestAnythingFoundGivesProbabilities(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	for range 150 {
		c := draw(rng)
		r := Diagnose(c, Options{})
		require.Len(t, r.Causes, 79)
		for _, x := range r.Causes {
			require.False(t, math.IsNaN(x.Probability) || x.Probability < 0 || x.Probability > 1+1e-9, "%s %v", x.ID, x.Probability)
			sum := x.PriorBits + x.NearbyBits + x.TogetherBits
			for _, b := range append(x.For, x.Against...) {
				require.False(t, math.IsNaN(b.Bits), "%s %s", x.ID, b.Finding)
				sum += b.Bits
			}
			if x.Probability > 1e-8 && x.Probability < 1-1e-8 {
				require.InDelta(t, math.Log2(x.Probability/(1-x.Probability)), sum, .02, "the ledger of %s does not add up", x.ID)
			}
		}
		for i, n := range r.Next {
			require.False(t, math.IsNaN(n.GainBits))
			require.Positive(t, n.Minutes)
			if i > 0 {
				before := r.Next[i-1]
				money := moneyAt{worth: r.Prices.LawnM2 * r.Damage, hour: r.Prices.Hour, lab: r.Prices.Lab}
				require.False(t, before.Needed == "" && n.Needed != "", "a proof that is needed stands behind one that is not")
				if (before.Needed == "") != (n.Needed == "") {
					continue
				}
				require.GreaterOrEqual(t, before.score(&money), n.score(&money)-.01, "not in the order of their worth for their price")
			}
			_, asked := c.Findings[n.Finding]
			require.False(t, asked, "%s was answered already", n.Finding)
		}
	}
}

func TestTheFastSumIsTheBareSum(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	for range 12 {
		c := draw(rng)
		g := evidence.Gather(c)
		m := newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) })
		evs := m.observeAll(&g)
		fast, bare := m.sum(evs, true), bareSum(m, evs)
		require.InDelta(t, bare.empty, fast.empty, 1e-9)
		for k := range bare.marginal {
			require.InDelta(t, bare.marginal[k], fast.marginal[k], 1e-9)
		}
		total := 0.0
		for _, w := range fast.weight {
			total += w
		}
		require.InDelta(t, 1, total, 1e-9)
		n := len(m.active)
		require.Len(t, fast.weight, 1+n+n*(n-1)/2+n*(n-1)*(n-2)/6)
	}
}

func TestUnknownIsNotNo(t *testing.T) {
	l := lawn("tall-fescue", 8, 38)
	none := weigh(l, nil)
	unweighed := weigh(l, map[string]knowledge.Value{"soil-temp-hour": knowledge.NumberValue(15)})
	looked := weigh(l, map[string]knowledge.Value{"leaf-symptoms": knowledge.ListValue("none")})
	require.InDelta(t, none.P("dollar-spot"), unweighed.P("dollar-spot"), 1e-12)
	require.Contains(t, unweighed.Notices, evidence.Notice{About: "soil-temp-hour",
		Text: "saved; it does not affect any cause possible on this grass"})
	require.Less(t, looked.P("dollar-spot"), none.P("dollar-spot")/3, "a clean leaf speaks against a leaf disease")
	require.Equal(t, looked.P("dollar-spot"), weigh(l, map[string]knowledge.Value{"leaf-symptoms": knowledge.ListValue()}).P("dollar-spot"),
		"an empty list is \"none of these\"")
}

func TestOneCauseExplainsAnotherAway(t *testing.T) {
	l := lawn("kentucky-bluegrass", 8, 40)
	soft := map[string]knowledge.Value{"footprints": knowledge.WordValue("stay"), "pattern": knowledge.ListValue("irregular-patches"),
		"colour": knowledge.ListValue("straw-tan")}
	before := weigh(l, soft)
	soft["grubs-per-m2"] = knowledge.NumberValue(150)
	soft["pull-test"] = knowledge.WordValue("lifts-like-carpet")
	after := weigh(l, soft)
	require.Greater(t, after.P("white-grubs"), .95)
	require.Less(t, after.P("drought-stress"), before.P("drought-stress")*.7, "grubs explain the wilting")
}

func TestTwoCausesAreFoundWhenTheEvidenceCarriesThem(t *testing.T) {
	r := weigh(lawn("tall-fescue", 8, 38), map[string]knowledge.Value{"pull-test": knowledge.WordValue("lifts-like-carpet"),
		"grubs-per-m2":   knowledge.NumberValue(140),
		"root-condition": knowledge.WordValue("chewed-off"), "penetration-kpa": knowledge.NumberValue(3100),
		"penetration": knowledge.WordValue("hard"),
		"position":    knowledge.ListValue("entry-path"), "underfoot": knowledge.WordValue("hard")})
	require.Greater(t, r.P("white-grubs"), .9)
	require.Greater(t, r.P("compaction"), .9)
	require.ElementsMatch(t, []string{"compaction", "white-grubs"}, r.Together[0].Causes)
}

func TestWhatCannotBe(t *testing.T) {
	both := weigh(lawn("tall-fescue", 7, 38), map[string]knowledge.Value{"soil-ph": knowledge.NumberValue(8.2),
		"moss-cover-percent": knowledge.NumberValue(60)})
	for _, s := range both.Together {
		require.NotSubset(t, s.Causes, []string{"high-ph", "low-ph"})
	}
	require.Zero(t, weigh(lawn("tall-fescue", 4, 38), nil).P("spring-dead-spot"), "a disease of warm-season grasses")
	require.Zero(t, weigh(lawn("zoysiagrass", 10, 34), nil).P("turf-mosaic-virus"), "a virus of St Augustine alone")
}

func TestSeasonsTurnInTheSouth(t *testing.T) {
	north, south := weigh(lawn("kentucky-bluegrass", 9, 40), nil), weigh(lawn("kentucky-bluegrass", 3, -40), nil)
	for i := range north.Causes {
		require.Equal(t, north.Causes[i].ID, south.Causes[i].ID)
		require.InDelta(t, north.Causes[i].Probability, south.Causes[i].Probability, 1e-12)
	}
	require.Greater(t, south.P("white-grubs"), 5*weigh(lawn("kentucky-bluegrass", 9, -40), nil).P("white-grubs"))
}

func TestOneFactInTwoPlacesCountsOnce(t *testing.T) {
	n := 2.5
	c := evidence.Case{Lawn: lawn("tall-fescue", 6, 40), Findings: map[string]knowledge.Value{"last-nitrogen-days": knowledge.NumberValue(200),
		"last-nitrogen-source": knowledge.WordValue("slow")}, Treatments: []evidence.Treatment{{Date: time.Date(2026, 6, 5, 0, 0, 0, 0, time.UTC),
		Action: "apply-nitrogen", NGM2: &n, Source: "quick"}}}
	g := evidence.Gather(c)
	require.Equal(t, 10.0, *g.Values["last-nitrogen-days"].Number, "the dated record wins")
	require.Equal(t, "quick", g.Values["last-nitrogen-source"].Word)
	var told bool
	for _, x := range g.Notices {
		told = told || x.About == "last-nitrogen-days"
	}
	require.True(t, told, "the contradiction is reported")
	c.Treatments[0].Note = "the lawn is full of grubs"
	require.Equal(t, weigh(c.Lawn, nil).P("white-grubs"), func() float64 {
		d := c
		d.Findings, d.Treatments = nil, nil
		return Diagnose(d, Options{}).P("white-grubs")
	}())
}

func TestBadAgainstGoodSpot(t *testing.T) {
	l := lawn("perennial-ryegrass", 7, 38)
	read := func(bad, good float64) float64 {
		return Diagnose(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(bad)},
			Reference: map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(good)}}, Options{}).P("heat-stress")
	}
	require.Greater(t, read(32, 27), read(32, 32), "the difference is the observed")
	g := evidence.Gather(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"soil-temp-healthy-c": knowledge.NumberValue(25)}})
	require.NotContains(t, g.Values, "soil-temp-healthy-c")
	require.NotEmpty(t, g.Notices)
}

func TestContradictionsAreFlagged(t *testing.T) {
	r := weigh(lawn("tall-fescue", 9, 40), map[string]knowledge.Value{"grubs-per-m2": knowledge.NumberValue(120),
		"pull-test":            knowledge.WordValue("resists"),
		"crowns-alive-percent": knowledge.NumberValue(95), "crown-slice": knowledge.WordValue("brown-dry")})
	about := map[string]bool{}
	for _, n := range r.Notices {
		about[n.About] = true
	}
	require.True(t, about["pull-test"] && about["crown-slice"], r.Notices)
}

func TestTheNextCheckSettles(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	open := weigh(l, map[string]knowledge.Value{"animal-digging": knowledge.WordValue("rooting-holes")})
	require.False(t, open.Settled)
	require.NotEmpty(t, open.Next[0].Outcomes)
	without := Diagnose(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{"animal-digging": knowledge.WordValue("rooting-holes")}},
		Options{Tools: map[string]bool{"grub-square": false, "pull": false}})
	for _, n := range without.Next {
		require.NotContains(t, []string{"grub-square", "pull"}, n.Procedure, "a check without its tool was proposed")
	}
	core := weigh(l, map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("moist")})
	for _, n := range core.Next {
		if n.Procedure == "core" {
			require.Less(t, n.Minutes, 2.0, "the set-up of the core was paid already")
		}
	}
}

func TestATreatmentMadeLowersTheOdds(t *testing.T) {
	l := lawn("kentucky-bluegrass", 9, 40)
	f := map[string]knowledge.Value{"animal-digging": knowledge.WordValue("rooting-holes")}
	plain := Diagnose(evidence.Case{Lawn: l, Findings: f}, Options{}).P("white-grubs")
	treated := Diagnose(evidence.Case{Lawn: l, Findings: f, Treatments: []evidence.Treatment{{Date: time.Date(2026, 6, 20, 0, 0, 0, 0,
		time.UTC),
		Action: "insecticide-preventive"}}}, Options{}).P("white-grubs")
	require.Less(t, treated, plain*.6)
}

// The worked example of docs/decisions/0002.
func TestWorkedExampleOfTheRule(t *testing.T) {
	tm := term{g: []float64{.9, .5}, e: []float64{.9 * .8 / .1, .5 * .2 / .1}}
	require.InDelta(t, .1+.9*8, tm.ratio(0, -1), 1e-12)
	require.InDelta(t, .05+.95*(7.2+1)/(1.4), tm.ratio(0, 1), 1e-12)
}

// The next checks look at the sets that carry the mass; this holds how far that is from looking at all of them.
func TestNextChecksAgainstAllSets(t *testing.T) {
	for _, c := range []struct {
		name  string
		found map[string]knowledge.Value
		worst float64 // bits
	}{
		{"at the start", nil, .06},
		{"after four answers", map[string]knowledge.Value{"pattern": knowledge.ListValue("irregular-patches"), "colour": knowledge.ListValue("brown"), "footprints": knowledge.WordValue("stay"), "soil-moisture": knowledge.WordValue("slightly-moist")}, .04},
	} {
		g := evidence.Gather(evidence.Case{Lawn: lawn("kentucky-bluegrass", 8, 40), Findings: c.found})
		m := newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) })
		post := m.sum(m.observeAll(&g), true)
		some, carried := post.heaviest(.98, 600)
		all, _ := post.heaviest(1, 1<<30)
		worst := 0.0
		for _, id := range []string{"pull-test", "soil-moisture", "crown-slice", "grubs-per-m2", "onset-speed", "root-condition", "soil-ph"} {
			if _, done := c.found[id]; done {
				continue
			}
			cf := &knowledge.Tables[knowledge.TableAt[id]]
			worst = math.Max(worst, math.Abs(m.features(cf, some, post.marginal)[0].gain-m.features(cf, all, post.marginal)[0].gain))
		}
		t.Logf("%s: %d of %d sets carry %.3f of the mass; largest error of a gain %.4f bits", c.name, len(some), len(all), carried, worst)
		require.Less(t, worst, c.worst, c.name)
	}
}
