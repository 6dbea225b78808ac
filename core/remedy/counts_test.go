package remedy

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/turf"
	"hodos/core/units"
)

func situationOf(t *testing.T, grass, date string, f found, p chances) *situation {
	c := lawn(t, grass, date, f)
	r := resultOf(c, p)
	return survey(c, r, units.Saying{})
}

// stands of which the thresholds of counts differ.
var (
	soundStand = found{"stand-density": word("dense"), "root-condition": word("intact"), "soil-moisture": word("moist"),
		"growth-rate": word("normal"), "crown-slice": word("white-moist"), "soil-temp-c": amount(20)}
	stressedStand = found{"footprints": word("stay"), "soil-moisture": word("dry"), "penetration-kpa": amount(3200), "soil-temp-c": amount(20)}
)

func TestThresholdsByKindAndStand(t *testing.T) {
	for _, c := range []struct {
		cause, kind             string
		sound, usual, underload float64
	}{
		{"white-grubs", "", 100, 65, 30}, {"white-grubs", "may-beetle", 55, 30, 30}, {"white-grubs", "european-chafer", 75, 55, 30},
		{"white-grubs", "japanese-or-oriental", 110, 85, 45}, {"white-grubs", "masked-chafer", 130, 85, 45}, {"white-grubs", "ataenius", 540, 320, 160},
		{"white-grubs", "green-june-beetle", 55, 55, 30}, {"white-grubs", "black-beetle", 100, 65, 30},
		{"chinch-bugs", "", 270, 215, 160}, {"sod-webworms", "", 65, 45, 25}, {"armyworms", "", 20, 15, 10}, {"cutworms", "", 20, 15, 10},
		{"mole-crickets", "", 10, 10, 10}, {"crane-fly-larvae", "", 300, 215, 150}, {"billbugs", "", 100, 80, 65}, {"spittlebugs", "", 50, 50, 50},
	} {
		for stand, want := range map[string]float64{"sound": c.sound, "usual": c.usual, "stressed": c.underload} {
			f := map[string]found{"sound": soundStand, "usual": {"soil-temp-c": amount(20)}, "stressed": stressedStand}[stand]
			if c.kind != "" {
				f = with(f, "grub-kind", word(c.kind))
			}
			require.Equal(t, want, situationOf(t, "kentucky-bluegrass", "2026-09-01", f, nil).tier(c.cause), "%s %s on %s turf", c.cause, c.kind,
				stand)
		}
	}
	s := situationOf(t, "kentucky-bluegrass", "2026-09-01", found{"grub-kind": word("harmless"), "grubs-per-m2": amount(900),
		"soil-temp-c": amount(20)}, nil)
	require.Equal(t, no, s.over("white-grubs", 1), "harmless ones are never over")
	require.True(t, math.IsNaN(s.tier("dollar-spot")))
	require.Equal(t, unknown, s.over("dollar-spot", 1))
	require.Equal(t, unknown, s.over("billbugs", 1), "nobody counted")
}

func TestACountAtItsEdge(t *testing.T) {
	for n, want := range map[float64]truth{64: no, 65: yes, 66: yes} {
		s := situationOf(t, "tall-fescue", "2026-09-01", found{"grubs-per-m2": amount(n), "soil-temp-c": amount(20)}, nil)
		require.Equal(t, want, s.over("white-grubs", 1), "%g", n)
		require.Equal(t, no, s.over("white-grubs", 2))
	}
	s := situationOf(t, "tall-fescue", "2026-09-01", found{"grubs-per-m2": amount(70), "billbug-larvae-per-m2": amount(90)}, nil)
	require.Equal(t, []string{"white-grubs", "billbugs"}, s.overTier())
	require.Empty(t, s.countedUnder())
	s = situationOf(t, "tall-fescue", "2026-09-01", found{"billbug-larvae-per-m2": amount(20)}, chances{"billbugs": .05})
	require.Equal(t, "billbugs", s.countedUnder())
	s = situationOf(t, "tall-fescue", "2026-09-01", found{"billbug-larvae-per-m2": amount(20)}, chances{"billbugs": .04})
	require.Empty(t, s.countedUnder(), "hardly suspected")
	s = situationOf(t, "tall-fescue", "2026-09-01", found{"billbug-larvae-per-m2": amount(0)}, chances{"billbugs": .2})
	require.Empty(t, s.countedUnder(), "none at all is not a count under the threshold")
}

func TestCaterpillarsCountForTheirKind(t *testing.T) {
	for _, c := range []struct {
		kind  string
		p     chances
		cause string
	}{
		{"webworm", nil, "sod-webworms"}, {"armyworm", chances{"cutworms": .9}, "armyworms"}, {"cutworm", nil, "cutworms"},
		{"", chances{"armyworms": .5, "sod-webworms": .3}, "armyworms"}, {"", chances{"cutworms": .5, "sod-webworms": .3}, "cutworms"}, {"", nil, "sod-webworms"},
	} {
		f := found{"flush-caterpillars-per-m2": amount(30)}
		if c.kind != "" {
			f["caterpillar-kind"] = word(c.kind)
		}
		s := situationOf(t, "tall-fescue", "2026-08-20", f, c.p)
		for _, cause := range []string{"sod-webworms", "armyworms", "cutworms"} {
			require.Equal(t, cause == c.cause, s.count(cause) == 30, "%q of %s", c.kind, cause)
		}
	}
}

func TestWhenACountTells(t *testing.T) {
	for _, c := range []struct {
		grass, cause, kind string
		soil               float64
		want               truth
	}{
		{"tall-fescue", "white-grubs", "", 9.9, no}, {"tall-fescue", "white-grubs", "", 10, yes},
		{"common-bermudagrass", "white-grubs", "", 12.9, no}, {"common-bermudagrass", "white-grubs", "", 13, yes},
		{"tall-fescue", "white-grubs", "european-chafer", 5, yes}, {"tall-fescue", "white-grubs", "european-chafer", 4.9, no},
		{"tall-fescue", "white-grubs", "may-beetle", 8, yes}, {"tall-fescue", "white-grubs", "may-beetle", 7.9, no},
		{"tall-fescue", "white-grubs", "masked-chafer", 9.9, no},
		{"tall-fescue", "crane-fly-larvae", "", 4, yes}, {"tall-fescue", "crane-fly-larvae", "", 3.9, no},
		{"tall-fescue", "mole-crickets", "", 12.9, no}, {"common-bermudagrass", "mole-crickets", "", 13, yes},
		{"tall-fescue", "chinch-bugs", "", 9.9, no}, {"common-bermudagrass", "chinch-bugs", "", 10, yes},
	} {
		f := found{"soil-temp-c": amount(c.soil)}
		if c.kind != "" {
			f["grub-kind"] = word(c.kind)
		}
		s := situationOf(t, c.grass, "2026-10-10", f, nil)
		require.Equal(t, c.want, s.countable(c.cause), "%s %s on %s at %g °C", c.cause, c.kind, c.grass, c.soil)
	}
	require.Equal(t, unknown, situationOf(t, "tall-fescue", "2026-10-10", found{}, nil).countable("white-grubs"), "nobody knows the soil")
	dry := found{"soil-temp-c": amount(20), "soil-moisture": word("dry")}
	require.Equal(t, no, situationOf(t, "tall-fescue", "2026-09-01", dry, nil).countable("white-grubs"), "in dry soil they lie deep")
	require.Equal(t, yes, situationOf(t, "tall-fescue", "2026-09-01", dry, nil).countable("chinch-bugs"))
}

func TestLarvaeThatAreNotReached(t *testing.T) {
	for _, c := range []struct {
		name, cause, date string
		f                 found
		want              truth
	}{
		{"early autumn, small", "white-grubs", "2026-09-01", found{"soil-temp-c": amount(20), "grub-size": word("small")}, no},
		{"60 mm deep", "white-grubs", "2026-09-01", found{"soil-temp-c": amount(20), "grub-depth-mm": amount(60)}, no},
		{"61 mm deep", "white-grubs", "2026-09-01", found{"soil-temp-c": amount(20), "grub-depth-mm": amount(61)}, yes},
		{"cold soil", "white-grubs", "2026-11-20", found{"soil-temp-c": amount(9.5)}, yes},
		{"large and late, 100 of them", "white-grubs", "2026-10-20", found{"soil-temp-c": amount(12.5), "grub-size": word("large"), "grubs-per-m2": amount(100)}, yes},
		{"large and late, 200 of them", "white-grubs", "2026-10-20", found{"soil-temp-c": amount(12.5), "grub-size": word("large"), "grubs-per-m2": amount(200)}, no},
		{"large, the soil at 13 °C", "white-grubs", "2026-10-20", found{"soil-temp-c": amount(13.1), "grub-size": word("large"), "grubs-per-m2": amount(100)}, no},
		{"chafers feed late", "white-grubs", "2026-10-20", found{"soil-temp-c": amount(12.5), "grub-size": word("large"), "grubs-per-m2": amount(100), "grub-kind": word("european-chafer")}, no},
		{"last year's, in April", "white-grubs", "2026-04-25", found{"soil-temp-c": amount(14)}, yes},
		{"small ones in April", "white-grubs", "2026-04-25", found{"soil-temp-c": amount(14), "grub-size": word("small")}, no},
		{"chafers in April", "white-grubs", "2026-04-25", found{"soil-temp-c": amount(14), "grub-kind": word("european-chafer")}, no},
		{"crickets of 25 mm", "mole-crickets", "2026-07-10", found{"soil-temp-c": amount(25), "cricket-size-mm": amount(25)}, no},
		{"crickets of 26 mm", "mole-crickets", "2026-07-10", found{"soil-temp-c": amount(25), "cricket-size-mm": amount(26)}, yes},
		{"leatherjackets in frost", "crane-fly-larvae", "2026-12-10", found{"soil-temp-c": amount(3)}, yes},
		{"leatherjackets in November", "crane-fly-larvae", "2026-11-10", found{"soil-temp-c": amount(8)}, no},
		{"chinch bugs are on top", "chinch-bugs", "2026-11-10", found{"soil-temp-c": amount(5)}, no},
	} {
		require.Equal(t, c.want, situationOf(t, "kentucky-bluegrass", c.date, c.f, nil).tooDeep(c.cause), c.name)
	}
}

func TestCountsDecide(t *testing.T) {
	base := found{"pull-test": word("lifts-like-carpet"), "root-condition": word("chewed-off"), "soil-moisture": word("moist"),
		"soil-temp-c": amount(20)}
	verdict := func(date string, change ...any) Verdict {
		return decide(t, lawn(t, "kentucky-bluegrass", date, with(base, change...)))["insecticide-curative"].Verdict
	}
	require.Equal(t, DoNow, verdict("2026-09-01", "grubs-per-m2", amount(200)))
	require.Equal(t, Avoid, verdict("2026-09-01", "grubs-per-m2", amount(12)))
	require.Equal(t, Avoid, verdict("2026-04-20", "grubs-per-m2", amount(200), "soil-temp-c", amount(14)),
		"last year's larvae in spring hardly feed any more")
	require.Equal(t, Avoid, verdict("2026-11-20", "grubs-per-m2", amount(200), "soil-temp-c", amount(6)), "larvae in cold soil do not feed")
	none := decide(t, lawn(t, "kentucky-bluegrass", "2026-09-01", with(base, "grubs-per-m2", amount(200)), unlicensed))["insecticide-curative"]
	require.Equal(t, Hold, none.Verdict)
	require.Equal(t, ByLaw, none.Kind)
}

func TestNoCoringWithoutALocate(t *testing.T) {
	hard := found{"penetration": word("hard"), "penetration-kpa": amount(3000), "soil-moisture": word("moist"),
		"position": list("entry-path"), "soil-temp-c": amount(18)}
	core := func(date string, change ...func(*evidence.Case)) Advice {
		return decide(t, lawn(t, "kentucky-bluegrass", date, hard, change...))["core-aerate"]
	}
	require.NotEqual(t, DoNow, core("2026-09-12").Verdict, "nobody knows where the lines lie")
	require.Equal(t, DoNow, core("2026-09-12", located).Verdict)
	summer := lawn(t, "kentucky-bluegrass", "2026-07-10", with(hard, "soil-temp-c", amount(25)), located)
	require.NotEqual(t, DoNow, decide(t, summer)["core-aerate"].Verdict, "not in summer")
}

func TestSeasonsTurnInTheSouth(t *testing.T) {
	dead := found{"crown-slice": word("brown-dry"), "crowns-alive-percent": amount(3), "soil-moisture": word("dry"),
		"pull-test": word("shears-at-soil"), "days-since-water": amount(40)}
	north := decide(t, lawn(t, "perennial-ryegrass", "2026-07-20", dead))["slit-seed"]
	south := decide(t, lawn(t, "perennial-ryegrass", "2026-01-20", dead, at(-40)))["slit-seed"]
	require.Equal(t, Schedule, north.Verdict)
	require.Equal(t, Schedule, south.Verdict)
	require.Contains(t, []string{"August", "September"}, north.From.Month().String())
	require.Contains(t, []string{"February", "March"}, south.From.Month().String())
}

func TestOutsideTheLimits(t *testing.T) {
	n := func(x float64) *float64 { return &x }
	centipede, ok := turf.ByID("centipedegrass")
	require.True(t, ok)
	for _, c := range []struct {
		name string
		done Done
		want []string
	}{
		{"nothing said", Done{Action: "apply-nitrogen"}, nil},
		{"at the most", Done{Action: "apply-nitrogen", NGM2: n(4.9)}, nil},
		{"over the most", Done{Action: "apply-nitrogen", NGM2: n(5)}, []string{OutsideNitrogen}},
		{"quick, at its most", Done{Action: "apply-nitrogen", NGM2: n(3.44), Quick: true}, nil},
		{"quick, over it", Done{Action: "apply-nitrogen", NGM2: n(3.5), Quick: true}, []string{OutsideNitrogen}},
		{"a frugal grass", Done{Action: "apply-nitrogen", NGM2: n(centipede.NitrogenDose + .1), Grass: centipede}, []string{OutsideNitrogen}},
		{"a frugal grass, at its most", Done{Action: "apply-nitrogen", NGM2: n(centipede.NitrogenDose), Grass: centipede, Quick: true}, nil},
		{"a spray in a fresh wind", Done{Action: "herbicide-spot", WindMS: n(4.6)}, []string{OutsideWind}},
		{"a spray at the limit", Done{Action: "herbicide-spot", WindMS: n(4.52), AirC: n(29.42)}, nil},
		{"a spray in still air", Done{Action: "fungicide-curative", WindMS: n(1.2)}, []string{OutsideWind}},
		{"a spray in light air", Done{Action: "fungicide-curative", WindMS: n(1.28)}, nil},
		{"a spray in heat", Done{Action: "herbicide-broadcast", AirC: n(29.6), WindMS: n(2)}, []string{OutsideHeat}},
		{"all at once", Done{Action: "fungicide-curative", NGM2: n(9), AirC: n(33), WindMS: n(7)}, []string{OutsideNitrogen, OutsideWind, OutsideHeat}},
		{"a spreader does not mind the wind", Done{Action: "apply-lime", AirC: n(33), WindMS: n(7)}, nil},
	} {
		require.Equal(t, c.want, Outside(c.done), c.name)
	}
}

func TestPreventionsByHistory(t *testing.T) {
	due := func(grass, date string, had map[string]bool, f found, ahead int, change ...func(*evidence.Case)) (out []string) {
		c := lawn(t, grass, date, f, change...)
		k, _, _ := c.Sky(f)
		for _, x := range Preventions(c, k, had, ahead, units.Saying{}) {
			require.False(t, x.To.Before(x.From), "%+v", x)
			require.False(t, x.To.Before(c.Lawn.Date), "a season that is over: %+v", x)
			require.NotEmpty(t, x.Season)
			out = append(out, x.Action+" "+x.Cause)
		}
		return out
	}
	patch := map[string]bool{"summer-patch": true}
	require.Equal(t, []string{"fungicide-preventive summer-patch"}, due("kentucky-bluegrass", "2026-06-05", patch, found{}, 0))
	require.Equal(t, []string{"fungicide-preventive summer-patch"}, due("kentucky-bluegrass", "2026-06-05", nil,
		found{"past-causes": list("summer-patch")}, 0), "what the client told")
	require.Empty(t, due("kentucky-bluegrass", "2026-06-05", nil, found{}, 0), "nothing on record")
	require.Empty(t, due("kentucky-bluegrass", "2026-06-05", map[string]bool{"rust": true}, found{}, 0), "no preventive of its own")
	require.Empty(t, due("common-bermudagrass", "2026-06-05", patch, found{}, 0, at(33)), "not of this grass")
	require.Empty(t, due("kentucky-bluegrass", "2026-04-20", patch, found{}, 7), "weeks off")
	require.NotEmpty(t, due("kentucky-bluegrass", "2026-04-20", patch, found{}, 60))
	require.Empty(t, due("kentucky-bluegrass", "2026-06-05", patch, found{}, 0, done(13, "fungicide-preventive")), "given within its interval")
	require.NotEmpty(t, due("kentucky-bluegrass", "2026-06-05", patch, found{}, 0, done(14, "fungicide-preventive")))
	for cause, want := range map[string]bool{"summer-patch": true, "white-grubs": true, "rust": false, "healthy-turf": false} {
		require.Equal(t, want, Prevented(cause), cause)
	}
}
