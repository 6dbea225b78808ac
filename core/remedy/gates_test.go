package remedy

import (
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/turf"
	"hodos/core/weather"
)

type found = map[string]diagnosis.Value

func word(w string) diagnosis.Value     { return diagnosis.WordValue(w) }
func number(x float64) diagnosis.Value  { return diagnosis.NumberValue(x) }
func list(xs ...string) diagnosis.Value { return diagnosis.ListValue(xs...) }
func policy(p diagnosis.Policy) func(*diagnosis.Case) {
	return func(c *diagnosis.Case) { c.Policy = p }
}

func hotForecast(c *diagnosis.Case) {
	for i := 1; i <= 10; i++ {
		lo, hi := 23.0, 35.0
		c.Forecast = append(c.Forecast, weather.Day{Date: c.Lawn.Date.AddDate(0, 0, i), TMin: &lo, TMax: &hi})
	}
}

func coolingForecast(c *diagnosis.Case) {
	for i := 1; i <= 10; i++ {
		lo, hi := 14.0, 27-.6*float64(i)
		c.Forecast = append(c.Forecast, weather.Day{Date: c.Lawn.Date.AddDate(0, 0, i), TMin: &lo, TMax: &hi})
	}
}

// The gates, one by one: what is found, and the verdicts that must and must not come of it.
func TestGates(t *testing.T) {
	hungry := found{"leaf-symptoms": list("older-leaves-yellow", "uniform-yellow"), "pattern": list("uniform"), "colour": list("yellow"), "growth-rate": word("slow"), "last-nitrogen-days": number(200), "pull-test": word("resists"), "soil-moisture": word("moist")}
	weedy := found{"weed-cover-percent": number(30), "weed-kinds": list("broadleaf"), "soil-moisture": word("moist"), "pull-test": word("resists")}
	for _, g := range []struct {
		name, species, date string
		found               found
		change              func(*diagnosis.Case)
		want                map[string]Verdict
	}{
		{"hungry in spring", "perennial-ryegrass", "2026-05-10", with(hungry, "soil-temp-c", number(14)), nil, map[string]Verdict{"apply-nitrogen": DoNow, "hold-nitrogen": Avoid}},
		{"hungry in summer heat", "perennial-ryegrass", "2026-07-20", with(hungry, "soil-temp-c", number(30)), hotForecast, map[string]Verdict{"apply-nitrogen": Hold, "hold-nitrogen": DoNow}},
		{"hungry, a hot afternoon, the trend turned", "perennial-ryegrass", "2026-08-28", with(hungry, "soil-temp-c", number(26)), coolingForecast, map[string]Verdict{"apply-nitrogen": DoNow}},
		{"hungry in cold soil", "perennial-ryegrass", "2026-03-05", with(hungry, "soil-temp-c", number(3)), nil, map[string]Verdict{"apply-nitrogen": Hold}},
		{"hungry and fed last week", "perennial-ryegrass", "2026-05-10", with(hungry, "last-nitrogen-days", number(7)), nil, map[string]Verdict{"apply-nitrogen": Hold}},
		{"the year's budget is used", "fine-fescue", "2026-05-10", with(hungry, "nitrogen-12-months-g-m2", number(14)), nil, map[string]Verdict{"apply-nitrogen": Hold}},
		{"half-green St Augustine with weeds", "st-augustinegrass", "2026-03-25", with(with(weedy, "green-up-percent", number(50)), "soil-temp-c", number(17)), nil, map[string]Verdict{"herbicide-broadcast": Hold, "apply-nitrogen": Hold, "lower-mowing-once": Avoid, "scarify": Avoid, "dethatch": Avoid}},
		{"weeds in heat", "tall-fescue", "2026-07-10", with(weedy, "soil-temp-c", number(31)), nil, map[string]Verdict{"herbicide-broadcast": Hold, "herbicide-spot": Hold}},
		{"weeds in a cool summer week", "tall-fescue", "2026-07-10", with(weedy, "soil-temp-c", number(22)), nil, map[string]Verdict{"herbicide-broadcast": Schedule}},
		{"weeds in new seed", "tall-fescue", "2026-10-01", with(weedy, "establishment", word("new-seed")), nil, map[string]Verdict{"herbicide-broadcast": Hold, "preemergent": Avoid}},
		{"a few weeds", "tall-fescue", "2026-05-01", found{"weed-cover-percent": number(4)}, nil, map[string]Verdict{"hand-weed": DoNow, "herbicide-broadcast": Avoid}},
		{"high pH and a wish for gypsum", "tall-fescue", "2026-05-01", found{"soil-ph": number(7.9)}, nil, map[string]Verdict{"apply-gypsum": Avoid, "apply-lime": Avoid}},
		{"sodic soil", "tall-fescue", "2026-05-01", found{"soil-ec-ds-m": number(8), "soil-sar": number(18), "recent-events": list("deicing-salt")}, nil, map[string]Verdict{"apply-gypsum": DoNow, "leach-salts": Hold}},
		{"sour soil", "kentucky-bluegrass", "2026-05-01", found{"soil-ph": number(5)}, nil, map[string]Verdict{"apply-lime": DoNow, "apply-acidifier": Avoid}},
		{"the same pH under centipede", "centipedegrass", "2026-06-01", found{"soil-ph": number(5.2)}, nil, map[string]Verdict{"apply-lime": Avoid}},
		{"phosphorus without a test", "tall-fescue", "2026-05-01", found{"colour": list("purple"), "leaf-symptoms": list("purple-tint")}, nil, map[string]Verdict{"apply-phosphorus": CheckFirst}},
		{"enough phosphorus", "tall-fescue", "2026-05-01", found{"soil-p-ppm": number(40)}, nil, map[string]Verdict{"apply-phosphorus": Avoid}},
		{"a drop goes in", "creeping-bentgrass", "2026-07-01", found{"water-drop-seconds": number(1), "soil-moisture": word("dry")}, nil, map[string]Verdict{"apply-wetting-agent": Avoid}},
		{"a drop stands", "creeping-bentgrass", "2026-07-01", found{"water-drop-seconds": number(120), "soil-moisture": word("dry"), "texture": word("sand"), "pattern": list("irregular-patches")}, nil, map[string]Verdict{"apply-wetting-agent": DoNow, "water-deep": Hold}},
		{"wet ground", "tall-fescue", "2026-09-20", found{"soil-moisture": word("saturated"), "penetration": word("hard"), "penetration-kpa": number(3000), "position": list("entry-path")}, nil, map[string]Verdict{"core-aerate": Hold, "water-deep": Avoid, "restrict-traffic": DoNow}},
		{"wilted", "tall-fescue", "2026-06-20", found{"soil-moisture": word("dry"), "footprints": word("stay"), "colour": list("blue-grey"), "leaf-symptoms": list("rolled-or-folded")}, nil, map[string]Verdict{"water-deep": DoNow, "hold-mowing": DoNow, "apply-nitrogen": Hold, "apply-iron": Hold}},
		{"thin thatch", "kentucky-bluegrass", "2026-09-20", found{"thatch-mm": number(8)}, nil, map[string]Verdict{"dethatch": Avoid, "scarify": Avoid}},
		{"dollar spot that the client tolerates", "perennial-ryegrass", "2026-06-10", found{"leaf-symptoms": list("hourglass-lesion-tan-with-brown-border"), "pattern": list("small-round-spots")}, policy(diagnosis.Policy{Blemishes: "tolerate"}), map[string]Verdict{"fungicide-curative": Avoid}},
		{"dollar spot that the client treats", "perennial-ryegrass", "2026-06-10", found{"leaf-symptoms": list("hourglass-lesion-tan-with-brown-border"), "pattern": list("small-round-spots"), "soil-moisture": word("moist")}, policy(diagnosis.Policy{Blemishes: "treat"}), map[string]Verdict{"fungicide-curative": DoNow}},
		{"a root disease is past cure", "kentucky-bluegrass", "2026-08-05", found{"pattern": list("frog-eye"), "root-colour": word("black"), "root-condition": word("rotted"), "soil-temp-c": number(29), "patch-diameter-cm": number(25)}, nil, map[string]Verdict{"fungicide-curative": Avoid, "send-lab-sample": DoNow}},
		{"mower in pythium", "perennial-ryegrass", "2026-07-15", found{"leaf-symptoms": list("greasy-water-soaked"), "mycelium-at-dawn": word("white-cottony"), "onset-speed": word("overnight"), "soil-moisture": word("wet")}, nil, map[string]Verdict{"syringe-midday": Avoid, "clean-equipment": DoNow, "hold-mowing": DoNow}},
		{"history of grubs in June", "kentucky-bluegrass", "2026-06-15", found{"past-causes": list("white-grubs")}, nil, map[string]Verdict{"insecticide-preventive": DoNow}},
		{"no history, threshold policy", "kentucky-bluegrass", "2026-06-15", found{"past-causes": list()}, policy(diagnosis.Policy{Pests: "threshold"}), map[string]Verdict{"insecticide-preventive": Avoid}},
		{"preventive policy in September", "kentucky-bluegrass", "2026-09-15", found{}, policy(diagnosis.Policy{Pests: "preventive"}), map[string]Verdict{"insecticide-preventive": Schedule}},
		{"grubs in new growth", "kentucky-bluegrass", "2026-09-15", with(with(grubs, "grubs-per-m2", number(180)), "soil-temp-c", number(19)), nil, map[string]Verdict{"apply-nitrogen": Hold, "insecticide-curative": DoNow}},
		{"harmless larvae", "kentucky-bluegrass", "2026-09-15", with(with(grubs, "grubs-per-m2", number(180)), "grub-kind", word("harmless")), nil, map[string]Verdict{"insecticide-curative": Avoid}},
		{"billbugs are past cure", "kentucky-bluegrass", "2026-07-05", found{"pull-test": word("stems-break-at-crown"), "frass": word("sawdust-like"), "billbug-larvae-per-m2": number(150)}, nil, map[string]Verdict{"insecticide-curative": Avoid}},
		{"dead moss", "fine-fescue", "2026-04-01", found{"moss-cover-percent": number(40), "moss-state": word("dead-dry")}, nil, map[string]Verdict{"moss-control": Avoid}},
		{"one low mowing waits for warm soil", "zoysiagrass", "2026-03-28", found{"green-up-percent": number(30), "soil-temp-c": number(12)}, nil, map[string]Verdict{"lower-mowing-once": Schedule}},
	} {
		t.Run(g.name, func(t *testing.T) {
			change := g.change
			if change == nil {
				change = func(*diagnosis.Case) {}
			}
			got := decide(t, g.species, g.date, 40, g.found, change)
			for id, want := range g.want {
				require.Equal(t, want, got[id].Verdict, "%s: %v", id, got[id].Reasons)
			}
		})
	}
}

// Whatever is found, some things are never done now.
func TestNeverDoneNow(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 12))
	grasses := turf.All()
	checks := diagnosis.Findings()
	for range 400 {
		s := grasses[rng.IntN(len(grasses))]
		c := diagnosis.Case{Lawn: diagnosis.Lawn{Date: time.Date(2026, time.Month(1+rng.IntN(12)), 1+rng.IntN(28), 0, 0, 0, 0, time.UTC), Latitude: []float64{42, 30, -35}[rng.IntN(3)], Species: []string{s.ID}}, Findings: found{}}
		for range rng.IntN(25) {
			f := checks[rng.IntN(len(checks))]
			switch f.Kind {
			case diagnosis.OneOf:
				c.Findings[f.ID] = word(f.Values[rng.IntN(len(f.Values))])
			case diagnosis.AnyOf:
				c.Findings[f.ID] = list(f.Values[rng.IntN(len(f.Values))])
			case diagnosis.Number:
				c.Findings[f.ID] = number(f.Min + rng.Float64()*(f.Max-f.Min)/float64(1+rng.IntN(10)))
			case diagnosis.YesNo:
				c.Findings[f.ID] = diagnosis.YesValue(rng.IntN(2) == 0)
			}
		}
		r := diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})
		got := map[string]Advice{}
		for _, a := range Decide(c, r) {
			got[a.ID] = a
		}
		never := func(id string, when bool, why string) {
			if when {
				require.NotEqual(t, DoNow, got[id].Verdict, "%s %s: %v\n%+v", id, why, got[id].Reasons, c.Findings)
			}
		}
		counted := false
		for _, id := range countOf {
			if v, ok := c.Findings[id]; ok && *v.Number >= 10 {
				counted = true
			}
		}
		never("insecticide-curative", !counted, "without a count")
		for _, id := range []string{"core-aerate", "dethatch", "scarify", "topdress", "apply-compost"} {
			never(id, true, "without a locate on record")
		}
		for _, id := range []string{"scarify", "dethatch", "lower-mowing-once"} {
			never(id, s.ID == "st-augustinegrass" || s.ID == "centipedegrass", "on a grass that it tears apart")
		}
		for _, id := range []string{"apply-lime", "apply-acidifier"} {
			_, tested := c.Findings["soil-ph"]
			never(id, !tested, "without a test")
		}
		resting := r.P("summer-dormancy") >= .5 || r.P("winter-dormancy") >= .5
		for _, id := range []string{"apply-nitrogen", "spoon-feed-nitrogen", "herbicide-broadcast", "herbicide-spot", "apply-iron", "growth-regulator"} {
			// winter weeds in dormant warm-season turf are the one thing that is sprayed there, by label
			weeds := id == "herbicide-broadcast" || id == "herbicide-spot"
			never(id, resting && !(weeds && s.Family == turf.Warm), "on resting turf")
			if v, ok := c.Findings["soil-temp-c"]; ok && s.Family == turf.Cool && id != "spoon-feed-nitrogen" {
				never(id, *v.Number >= 29, "on heat-stressed cool-season turf")
			}
		}
		for _, id := range []string{"overseed", "slit-seed"} {
			never(id, !s.Seed.Known(), "of a grass that is not grown from seed")
		}
		if m := c.Findings["soil-moisture"].Word; m == "wet" || m == "saturated" {
			never("water-deep", true, "into wet soil")
		}
	}
}
