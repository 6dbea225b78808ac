package remedy

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/units"
)

func TestEveryActionOfTheVocabulary(t *testing.T) {
	require.Len(t, IDs(), 55)
	groups := map[string]int{}
	for _, a := range actions {
		groups[a.group]++
		require.Contains(t, []string{"A", "B", "C"}, a.grade, a.id)
	}
	require.Equal(t, map[string]int{"water": 10, "mow-and-traffic": 7, "feed": 10, "ground-work": 8, "reseed": 5, "protect": 11, "learn": 4}, groups)
}

func decide(t *testing.T, species, date string, latitude float64, found map[string]diagnosis.Value, change ...func(*diagnosis.Case)) map[string]Advice {
	t.Helper()
	d, err := time.Parse(time.DateOnly, date)
	require.NoError(t, err)
	c := diagnosis.Case{Lawn: diagnosis.Lawn{Date: d, Latitude: latitude, Species: []string{species}}, Findings: found}
	for _, f := range change {
		f(&c)
	}
	out := map[string]Advice{}
	for _, a := range Decide(c, diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})) {
		require.NotEmpty(t, a.Reasons, a.ID)
		switch a.Verdict {
		case Schedule:
			require.True(t, a.From != nil && a.To != nil && !a.To.Before(*a.From), a.ID)
		case Hold:
			require.True(t, a.Until != nil || a.UntilWhat != "", a.ID)
		case CheckFirst:
			require.NotEmpty(t, a.Check, a.ID)
		}
		out[a.ID] = a
	}
	require.NotEqual(t, out["hold-nitrogen"].Verdict == DoNow, out["apply-nitrogen"].Verdict == DoNow || out["apply-nitrogen"].Verdict == Schedule, "hold-nitrogen and apply-nitrogen disagree")
	return out
}

var grubs = map[string]diagnosis.Value{"pull-test": diagnosis.WordValue("lifts-like-carpet"), "grubs-per-m2": diagnosis.NumberValue(48), "root-condition": diagnosis.WordValue("chewed-off"), "soil-moisture": diagnosis.WordValue("moist")}

func with(m map[string]diagnosis.Value, id string, v diagnosis.Value) map[string]diagnosis.Value {
	out := map[string]diagnosis.Value{id: v}
	for k, x := range m {
		if k != id {
			out[k] = x
		}
	}
	return out
}

func TestCountsDecide(t *testing.T) {
	require.Equal(t, Avoid, decide(t, "kentucky-bluegrass", "2026-09-01", 40, grubs)["insecticide-curative"].Verdict, "48 is below 65 on sound turf")
	stressed := with(grubs, "penetration-kpa", diagnosis.NumberValue(3200))
	require.Equal(t, DoNow, decide(t, "kentucky-bluegrass", "2026-09-01", 40, stressed)["insecticide-curative"].Verdict, "under other stress 30 is damaging")
	chafer := with(with(grubs, "grubs-per-m2", diagnosis.NumberValue(80)), "grub-kind", diagnosis.WordValue("masked-chafer"))
	require.Equal(t, Avoid, decide(t, "kentucky-bluegrass", "2026-09-01", 40, chafer)["insecticide-curative"].Verdict, "the species' own figure goes before")
	many := with(grubs, "grubs-per-m2", diagnosis.NumberValue(200))
	require.Equal(t, Avoid, decide(t, "kentucky-bluegrass", "2026-04-20", 40, many)["insecticide-curative"].Verdict, "never in spring on a guess")
	require.Equal(t, Avoid, decide(t, "kentucky-bluegrass", "2026-11-20", 40, with(many, "soil-temp-c", diagnosis.NumberValue(6)))["insecticide-curative"].Verdict, "larvae in cold soil do not feed")
	no := false
	unlicensed := decide(t, "kentucky-bluegrass", "2026-09-01", 40, many, func(c *diagnosis.Case) { c.Context.Licence = &no })["insecticide-curative"]
	require.Equal(t, Hold, unlicensed.Verdict)
	require.Contains(t, unlicensed.UntilWhat, "licensed")
}

func TestNoAerationWithoutALocate(t *testing.T) {
	found := map[string]diagnosis.Value{"penetration": diagnosis.WordValue("hard"), "penetration-kpa": diagnosis.NumberValue(3000), "soil-moisture": diagnosis.WordValue("moist"), "position": diagnosis.ListValue("entry-path")}
	require.Equal(t, Hold, decide(t, "kentucky-bluegrass", "2026-09-20", 40, found)["core-aerate"].Verdict)
	yes := true
	require.Equal(t, DoNow, decide(t, "kentucky-bluegrass", "2026-09-20", 40, found, func(c *diagnosis.Case) { c.Context.LinesLocated = &yes })["core-aerate"].Verdict)
	require.Equal(t, Schedule, decide(t, "kentucky-bluegrass", "2026-07-10", 40, found, func(c *diagnosis.Case) { c.Context.LinesLocated = &yes })["core-aerate"].Verdict, "not in summer")
}

func TestWindowsTurnInTheSouth(t *testing.T) {
	found := map[string]diagnosis.Value{"crown-slice": diagnosis.WordValue("brown-dry"), "crowns-alive-percent": diagnosis.NumberValue(3), "soil-moisture": diagnosis.WordValue("dry"), "pull-test": diagnosis.WordValue("shears-at-soil"), "days-since-water": diagnosis.NumberValue(40)}
	north, south := decide(t, "perennial-ryegrass", "2026-08-01", 40, found)["slit-seed"], decide(t, "perennial-ryegrass", "2026-02-01", -40, found)["slit-seed"]
	require.Equal(t, time.August, north.From.Month())
	require.Equal(t, time.February, south.From.Month())
}

func TestPersistentGates(t *testing.T) {
	rest := map[string]diagnosis.Value{"pattern": diagnosis.ListValue("uniform"), "colour": diagnosis.ListValue("straw-tan"), "crown-slice": diagnosis.WordValue("white-moist"), "soil-moisture": diagnosis.WordValue("dry"), "growth-rate": diagnosis.WordValue("stalled"), "weed-cover-percent": diagnosis.NumberValue(30), "days-since-water": diagnosis.NumberValue(25)}
	d := decide(t, "kentucky-bluegrass", "2026-07-25", 40, rest)
	for _, id := range []string{"apply-nitrogen", "spoon-feed-nitrogen", "herbicide-broadcast", "herbicide-spot", "core-aerate", "dethatch", "apply-iron"} {
		require.NotEqual(t, DoNow, d[id].Verdict, "%s on resting turf: %v", id, d[id].Reasons)
	}
	require.Equal(t, DoNow, d["restrict-traffic"].Verdict)
}

func TestAmounts(t *testing.T) {
	// a 16 % bag at 0.75 lb N per 1000 ft² takes 4.7 lb of product
	lb := 453.59237
	target, err := units.Convert(.75, "lb/1000ft2", "g/m2")
	require.NoError(t, err)
	d, err := ForNitrogen(target, Analysis{N: 16, P2O5: 4, K2O: 8}, 92.90304, .1, false)
	require.NoError(t, err)
	require.InDelta(t, 4.6875, d.ProductG/lb, 1e-9)
	require.InDelta(t, d.ProductGM2*.04*.436, d.P, 1e-12)
	require.InDelta(t, d.ProductGM2*.08*.830, d.K, 1e-12)
	over, err := ForNitrogen(4, Analysis{N: 46}, 100, 0, true)
	require.NoError(t, err)
	require.NotEmpty(t, over.Warnings)
	for name, bad := range map[string]func() error{
		"target":   func() error { _, err := ForNitrogen(-1, Analysis{N: 16}, 10, 0, false); return err },
		"analysis": func() error { _, err := ForNitrogen(2, Analysis{}, 10, 0, false); return err },
		"area":     func() error { _, err := ForNitrogen(2, Analysis{N: 16}, 0, 0, false); return err },
	} {
		require.ErrorContains(t, bad(), name)
	}
	minutes, cycles, err := SprinklerMinutes(12, 30, 6)
	require.NoError(t, err)
	require.InDelta(t, 24, minutes, 1e-9)
	require.Greater(t, cycles, 1, "it would run off")
}
