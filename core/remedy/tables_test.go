package remedy

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
	"hodos/core/turf"
	"hodos/core/units"
)

func TestEveryActionHasItsRows(t *testing.T) {
	groups := map[string]int{}
	for _, a := range actions {
		groups[a.group]++
		require.Contains(t, []string{"A", "B", "C"}, a.grade, a.id)
		require.Contains(t, classes, a.class, a.id)
		require.NotEmpty(t, a.label, a.id)
		require.NotEmpty(t, a.work, a.id)
		require.True(t, a.hurts >= 0 && a.hurts < 1, a.id)
		_, told := tellings[a.id]
		require.True(t, told, "%s says nothing of what it does", a.id)
		for i := 1; i < len(a.looks); i++ {
			require.Less(t, a.looks[i-1], a.looks[i], a.id)
		}
		called := len(factsOf[a.id]) + len(answersOf[a.id]) + len(preventivesOf[a.id])
		for _, pair := range plansOf {
			for _, m := range pair {
				if m != nil {
					for _, it := range m.items {
						if it.action == a.id {
							called++
						}
					}
				}
			}
		}
		special := a.id == "hold-nitrogen" || a.id == "wait-and-recheck" || a.id == "leave-alone"
		require.True(t, called > 0 || special, "nothing calls for %s", a.id)
	}
	require.Equal(t, map[string]int{water: 14, mow: 9, feeding: 13, ground: 11, reseed: 10, protect: 12, learn: 4}, groups)
	for id := range pesticides {
		require.True(t, Known(id), id)
		require.Contains(t, gatesOf[id], "licence", id)
	}
	for id := range airborne {
		require.True(t, Pesticide(id), "%s: what is sprayed and needs the wind is a pesticide", id)
	}
}

func TestEveryGateIsNeeded(t *testing.T) {
	needed := map[string]bool{}
	for _, gates := range gatesOf {
		for _, g := range gates {
			needed[g] = true
		}
	}
	for id, lines := range gateAt {
		require.True(t, needed[id], "no action needs the gate %s", id)
		for _, g := range lines {
			require.NotEmpty(t, g.reason, id)
			require.Contains(t, []Kind{ByLaw, ByLabel, Agronomy, ByPolicy, Safety}, g.kind, id)
			require.True(t, g.gives == note || g.lifted != "", "%s does not say what lifts it", id)
			if g.gives == CheckFirst && g.lifted != "{proof}" {
				_, ok := knowledge.FindingByID(g.lifted)
				require.True(t, ok, "%s asks for %q", id, g.lifted)
			}
		}
	}
	for _, r := range traitRows {
		for _, trait := range strings.Fields(r.traits) {
			require.Contains(t, []string{"passing", "weather", "thirst", "no-water"}, trait, r.gate)
		}
	}
	for _, r := range classTraits {
		for _, trait := range strings.Fields(r.traits) {
			require.Contains(t, []string{"by-pest", "counted", "by-cause", "water", "product"}, trait, r.class)
		}
	}
}

// Every sentence of the tables can be filled in, in both unit systems, on a lawn of which nothing is known.
func TestEverySentenceCanBeSaid(t *testing.T) {
	c := lawn(t, "kentucky-bluegrass", "2026-07-01", found{})
	for _, say := range []units.Saying{{}, units.In("us")} {
		s := survey(c, diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true}), say)
		s.it = "white-grubs"
		try := func(text string, id string) {
			a := &actions[actionAt["water-deep"]]
			if i, ok := actionAt[id]; ok {
				a = &actions[i]
			}
			require.NotPanics(t, func() { require.NotContains(t, s.tell(text, a), "{", text) }, text)
		}
		for id, rows := range factsOf {
			for _, f := range rows {
				try(f.reason, id)
			}
		}
		for _, lines := range gateAt {
			for _, g := range lines {
				try(g.reason, "")
				if g.lifted != "{proof}" {
					try(g.lifted, "")
				}
			}
		}
		for id, x := range tellings {
			for _, text := range []string{x.dose, x.will, x.willNot, x.wrong} {
				try(text, id)
			}
		}
		for _, class := range classes {
			try(class.reason, "")
		}
		for i := range actions {
			for _, text := range cautionsOf(&actions[i]) {
				try(text, actions[i].id)
			}
		}
		for _, text := range waterAfter {
			try(text, "")
		}
		for _, rows := range seasonsOf {
			for _, x := range rows {
				try(x.name, "")
			}
		}
		for _, rows := range preventivesOf {
			for _, x := range rows {
				try(x.name, "")
			}
		}
		for _, r := range holdRows {
			try(r.reason, "")
			try(r.until, "")
		}
	}
}

func TestReasonsAreSaidInTheFirmsUnits(t *testing.T) {
	c := lawn(t, "kentucky-bluegrass", "2026-06-20", found{"mowing-height-mm": amount(30)})
	r := diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})
	for _, x := range []struct {
		say  units.Saying
		want string
	}{{units.Saying{}, "30 mm is under the range of Kentucky bluegrass: up to 62 mm"},
		{units.In("us"), "1.25 inches is under the range of Kentucky bluegrass: up to 2.5 inches"}} {
		for _, a := range Decide(c, r, x.say).Lines {
			if a.ID == "raise-mowing-height" {
				require.Contains(t, a.Reasons[0], x.want)
			}
		}
	}
}

// What every cause brings when it is sure: never an empty plan, whatever the family and the season.
func TestNoSureCauseLeavesAnEmptyPlan(t *testing.T) {
	grass := map[turf.Family][]string{turf.Cool: {"kentucky-bluegrass", "perennial-ryegrass"},
		turf.Warm: {"common-bermudagrass", "st-augustinegrass"}}
	weighed := map[string]diagnosis.Result{}
	for _, cause := range knowledge.Causes() {
		for family, species := range grass {
			letter := map[turf.Family]string{turf.Cool: "C", turf.Warm: "W"}[family]
			if !strings.Contains(cause.Turf, letter) {
				continue
			}
			for _, sp := range species {
				for _, date := range []string{"2026-01-20", "2026-04-20", "2026-07-20", "2026-10-05"} {
					c := lawn(t, sp, date, found{})
					key := sp + date
					if _, done := weighed[key]; !done {
						weighed[key] = diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})
					}
					got := whole(t, c, Decide(c, only(weighed[key], cause.ID, .9), units.Saying{}))
					some := false
					for _, a := range got {
						some = some || a.Verdict == DoNow || a.Verdict == Schedule || a.Verdict == CheckFirst || a.Verdict == Hold && a.Until != nil
					}
					require.True(t, some, "%s on %s, %s: nothing at all", cause.ID, sp, date)
					require.NotEqual(t, "nothing is wrong beyond what is normal for the season", got["leave-alone"].Reasons[0], cause.ID)
				}
			}
		}
		for i, letter := range []string{"C", "W"} {
			if strings.Contains(cause.Turf, letter) && cause.ID != knowledge.Healthy {
				require.NotNil(t, plansOf[cause.ID][i], "%s has no plan on %s", cause.ID, letter)
			}
		}
	}
}

func TestThresholdsOfCountsAreOrdered(t *testing.T) {
	for _, p := range pests {
		require.True(t, p.sound >= p.usual && p.usual >= p.stressed && p.stressed > 0, p.cause)
		f, ok := knowledge.FindingByID(p.finding)
		require.True(t, ok && f.Kind == knowledge.Number, p.cause)
		require.Equal(t, p.finding, CountOf(p.cause))
	}
	require.Empty(t, CountOf("drought-stress"))
	for _, g := range kindRows {
		require.True(t, g.sound >= g.usual && g.usual >= g.stressed, g.kind)
	}
}

func TestWhatARecordAsksFor(t *testing.T) {
	for _, x := range []struct {
		id                                          string
		pesticide, feeds, waters, product, recorded bool
	}{
		{"apply-nitrogen", false, true, false, true, true},
		{"acidifying-nitrogen", false, true, false, true, true},
		{"hold-nitrogen", false, false, false, false, false},
		{"water-deep", false, false, true, false, true},
		{"leach-salts", false, false, true, false, true},
		{"herbicide-spot", true, false, false, true, true},
		{"growth-regulator", true, false, false, true, true},
		{"nuisance-pests", true, false, false, true, true},
		{"overseed", false, false, false, true, true},
		{"leave-alone", false, false, false, false, false},
		{"core-aerate", false, false, false, false, true},
	} {
		require.Equal(t, x.pesticide, Pesticide(x.id), x.id)
		require.Equal(t, x.feeds, Feeds(x.id), x.id)
		require.Equal(t, x.waters, Waters(x.id), x.id)
		require.Equal(t, x.product, TakesProduct(x.id), x.id)
		require.Equal(t, x.recorded, Recorded(x.id), x.id)
	}
	require.Equal(t, 0, LookAfter("hold-nitrogen"))
	require.Equal(t, 3, LookAfter("apply-iron"))
	require.False(t, Recorded("no-such-thing"))
}
