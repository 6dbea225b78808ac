package remedy

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/units"
	"hodos/core/worth"
)

// Days between two of one class, as labels and extension have them.
var intervals = map[string]int{
	"deep": 1, "water": 1, "survival": 14, "wetter": 14, "low-mow": 300, "blade": 5, "n": 21, "iron": 14, "p": 60, "k": 28, "micro": 28,
	"lime": 180, "sulfur": 60, "gypsum": 60, "si": 300, "core": 42, "tear": 300, "topdress": 21, "seed": 21, "plugs": 28, "sod": 28,
	"fung":   14,
	"insect": 21, "insect-year": 300, "nuisance": 14, "post": 28, "nonsel": 14, "preem": 56, "pgr": 28, "moss": 28, "lab": 10, "test": 14,
}

func TestIntervals(t *testing.T) {
	for class, row := range classes {
		want, ok := intervals[class]
		if row.reason == "" {
			require.False(t, ok, class)
			continue
		}
		require.True(t, ok, "class %s has no row here", class)
		a := &action{}
		for i := range actions {
			if actions[i].class == class && actions[i].id != "winter-overseed" {
				a = &actions[i]
				break
			}
		}
		for days, held := range map[int]bool{0: true, want - 1: true, want: false} {
			c := lawn(t, "kentucky-bluegrass", "2026-09-05", found{}, done(days, a.id))
			p := &plan{s: survey(c, diagnosis.Result{}, units.Saying{})}
			v := Advice{ID: a.id, Verdict: DoNow}
			require.Equal(t, held, p.lately(a, &v), "%s %d days after another", a.id, days)
			if held {
				require.Contains(t, []Verdict{Hold, Avoid}, v.Verdict)
				require.Equal(t, "interval", v.Gate)
			}
			if held && want < 300 {
				require.False(t, v.Until.Before(c.Lawn.Date.AddDate(0, 0, want-days)), "%s until %v", a.id, v.Until)
			}
		}
	}
	// leaf pests are counted again after a week
	c := lawn(t, "tall-fescue", "2026-09-05", found{}, done(7, "insecticide-curative"))
	p := &plan{s: survey(c, diagnosis.Result{}, units.Saying{})}
	p.s.it = "armyworms"
	require.False(t, p.lately(&actions[actionAt["insecticide-curative"]], &Advice{}))
	p.s.it = "white-grubs"
	require.True(t, p.lately(&actions[actionAt["insecticide-curative"]], &Advice{}))
}

// What is not done on one day: the second waits so many days, or is given up.
var apart = []struct {
	first, second string
	days          int
}{
	{"light-watering-of-new-stands", "let-dormant", 0}, {"water-deep", "let-dormant", 0},
	{"water-deep", "survival-water", 0}, {"water-deep", "cut-back-water", 0}, {"hold-mowing", "core-aerate", 7}, {"hold-mowing", "dethatch", 7},
	{"hold-mowing", "scarify", 7}, {"insecticide-curative", "insecticide-preventive", 0}, {"plug-or-sprig", "resod", 14},
	{"apply-nitrogen", "let-dormant", 0}, {"spoon-feed-nitrogen", "apply-nitrogen", 21}, {"hand-weed", "herbicide-spot", 0},
	{"herbicide-broadcast", "herbicide-spot", 0}, {"scarify", "dethatch", 0}, {"raise-mowing-height", "lower-mowing-once", 0},
	{"hold-mowing", "resume-mowing", 7}, {"renovate", "herbicide-broadcast", 0}, {"leach-salts", "apply-nitrogen", 7},
	{"apply-lime", "apply-nitrogen", 14}, {"apply-lime", "apply-iron", 14}, {"apply-lime", "apply-acidifier", 0},
	{"apply-phosphorus", "apply-iron", 7}, {"moss-control", "apply-iron", 28}, {"moss-control", "overseed", 14}, {"moss-control", "slit-seed", 14},
	{"fungicide-curative", "fungicide-preventive", 28}, {"fungicide-curative", "apply-wetting-agent", 1}, {"herbicide-spot", "core-aerate", 14},
	{"herbicide-broadcast", "core-aerate", 14}, {"herbicide-broadcast", "dethatch", 14}, {"herbicide-broadcast", "scarify", 14},
	{"dethatch", "growth-regulator", 21}, {"scarify", "growth-regulator", 21}, {"core-aerate", "growth-regulator", 21},
	{"insecticide-curative", "press-and-water", 2}, {"insecticide-curative", "apply-nitrogen", 10}, {"apply-acidifier", "overseed", 30},
	{"apply-acidifier", "slit-seed", 30},
}

// planWith is a plan in which only the given lines are due.
func planWith(t *testing.T, grass, date string, due ...string) *plan {
	c := lawn(t, grass, date, found{})
	p := &plan{s: survey(c, diagnosis.Result{Lawn: c.Lawn, Prices: worth.DefaultPrices}, units.Saying{}), at: map[string]*Advice{}}
	p.lines = make([]Advice, len(actions))
	for i := range actions {
		p.lines[i] = Advice{ID: actions[i].id, Verdict: Avoid}
		p.at[actions[i].id] = &p.lines[i]
	}
	for _, id := range due {
		p.at[id].Verdict, p.at[id].Called = DoNow, true
	}
	return p
}

func TestWhatIsKeptApart(t *testing.T) {
	for _, r := range apart {
		p := planWith(t, "kentucky-bluegrass", "2026-05-01", r.first, r.second)
		p.keepApart()
		got := p.at[r.second]
		require.Equal(t, DoNow, p.at[r.first].Verdict, "%v", r)
		require.Equal(t, "pair", got.Gate, "%v", r)
		require.NotEmpty(t, got.Reasons)
		if r.days == 0 {
			require.Equal(t, Avoid, got.Verdict, "%v", r)
			continue
		}
		if got.Verdict == Avoid { // no season left for it
			require.NotEmpty(t, seasonsOf[r.second], "%v", r)
			continue
		}
		require.Equal(t, Schedule, got.Verdict, "%v", r)
		if len(seasonsOf[r.second]) == 0 {
			require.Equal(t, p.s.day(r.days), *got.From, "%v", r)
			require.Equal(t, p.s.day(r.days+14), *got.To, "%v", r)
		} else {
			require.False(t, got.From.Before(p.s.day(r.days)), "%v", r)
		}
	}
	// in order: the one that is given up gives nothing else up
	p := planWith(t, "kentucky-bluegrass", "2026-05-01", "light-watering-of-new-stands", "let-dormant", "water-deep")
	p.keepApart()
	require.Equal(t, DoNow, p.at["water-deep"].Verdict)
	require.Equal(t, Avoid, p.at["let-dormant"].Verdict)
	require.Len(t, apart, len(pairRows), "a row for every pair")
	for i, r := range pairRows {
		require.Equal(t, apart[i].first+" "+apart[i].second, r.first+" "+r.second, "in their order")
		require.Equal(t, apart[i].days, r.days)
	}
}

func TestOnePartGreenKeepsBothLines(t *testing.T) {
	for policy, want := range map[string]Verdict{"one-area": DoNow, "keep-green": Avoid} {
		p := planWith(t, "kentucky-bluegrass", "2026-07-20", "water-deep", "let-dormant")
		p.s.c.Policy.SummerWater = policy
		p.keepApart()
		require.Equal(t, want, p.at["let-dormant"].Verdict, policy)
		require.Equal(t, DoNow, p.at["water-deep"].Verdict, policy)
	}
}

func TestHerbicideAndSeed(t *testing.T) {
	for _, c := range []struct {
		name, grass, date string
		seed              Verdict
		spray             Verdict
	}{
		{"late May: the seeding has no season in four weeks, so seed goes first", "kentucky-bluegrass", "2026-05-12", DoNow, Hold},
		{"mid July: four weeks fit before the autumn seeding ends", "kentucky-bluegrass", "2026-07-12", Schedule, DoNow},
		{"mid September: they do not fit", "kentucky-bluegrass", "2026-09-14", DoNow, Hold},
	} {
		p := planWith(t, c.grass, c.date, "herbicide-spot", "overseed")
		p.arrange()
		require.Equal(t, c.seed, p.at["overseed"].Verdict, c.name)
		require.Equal(t, c.spray, p.at["herbicide-spot"].Verdict, c.name)
		if c.seed == Schedule {
			require.False(t, p.at["overseed"].From.Before(p.s.day(28)), c.name)
			require.False(t, p.at["overseed"].From.After(p.s.day(42)), c.name)
		} else {
			require.False(t, p.at["herbicide-spot"].Until.Before(p.s.day(60)), c.name)
			require.Nil(t, p.at["herbicide-spot"].From, c.name)
		}
	}
	// a seeding that is planned within the four weeks waits for the herbicide as well; one that is further off is let be
	for days, moved := range map[int]bool{20: true, 28: true, 29: false} {
		p := planWith(t, "kentucky-bluegrass", "2026-07-25", "herbicide-broadcast")
		over := p.at["overseed"]
		over.Verdict, over.From, over.To = Schedule, p.on(days), p.on(days+20)
		p.arrange()
		require.Equal(t, moved, over.Gate == "pair", "%d days off", days)
	}
}

func TestPreemergentAndSeed(t *testing.T) {
	p := planWith(t, "kentucky-bluegrass", "2026-04-10", "preemergent", "overseed")
	p.arrange()
	require.Equal(t, DoNow, p.at["preemergent"].Verdict)
	require.Equal(t, Schedule, p.at["overseed"].Verdict)
	require.False(t, p.at["overseed"].From.Before(p.s.day(90)))
	for days, moved := range map[int]bool{60: true, 89: true, 90: false} {
		p := planWith(t, "kentucky-bluegrass", "2026-04-10", "preemergent")
		over := p.at["slit-seed"]
		over.Verdict, over.From, over.To = Schedule, p.on(days), p.on(days+20)
		p.arrange()
		require.Equal(t, moved, over.Gate == "pair", "%d days off", days)
	}
}

func TestOneJobOfAcidAndNitrogen(t *testing.T) {
	p := planWith(t, "kentucky-bluegrass", "2026-09-10", "acidifying-nitrogen", "apply-nitrogen")
	p.arrange()
	require.Equal(t, "acidifying-nitrogen", p.at["apply-nitrogen"].As)
	p = planWith(t, "kentucky-bluegrass", "2026-09-10", "acidifying-nitrogen")
	n := p.at["apply-nitrogen"]
	n.Verdict, n.From, n.To = Schedule, p.on(3), p.on(20)
	p.arrange()
	require.False(t, n.From.Before(p.s.day(21)), "three weeks after the other form")
	p = planWith(t, "kentucky-bluegrass", "2026-06-10", "light-watering-of-new-stands", "water-deep")
	p.arrange()
	require.Equal(t, "light-watering-of-new-stands", p.at["water-deep"].As)
}

func TestDeadAndThinAreSownTogether(t *testing.T) {
	for _, c := range []struct{ over, slit, want int }{{10, 40, 10}, {40, 10, 10}} {
		p := planWith(t, "kentucky-bluegrass", "2026-08-01")
		for id, from := range map[string]int{"overseed": c.over, "slit-seed": c.slit} {
			v := p.at[id]
			v.Called, v.Verdict, v.From, v.To = true, Schedule, p.on(from), p.on(from+20)
		}
		p.arrange()
		require.Equal(t, p.s.day(c.want), *p.at["slit-seed"].From)
		require.Equal(t, p.s.day(c.over), *p.at["overseed"].From)
	}
}
