package remedy

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

func TestEveryNamedWeedHasItsRow(t *testing.T) {
	f, ok := knowledge.FindingByID("weeds-named")
	require.True(t, ok)
	kinds, _ := knowledge.FindingByID("weed-kinds")
	require.Len(t, weedRowsByName, len(f.Values))
	for i, id := range f.Values {
		w := weedRowsByName[i]
		require.Equal(t, id, w.id, "in the order of the vocabulary")
		require.NotEmpty(t, w.kinds)
		for _, k := range strings.Fields(w.kinds) {
			require.Contains(t, kinds.Values, k, id)
		}
		require.Contains(t, []string{"CW", "C", "W", ""}, w.out, id)
		require.Contains(t, []string{"yes", "no"}, w.byHand, id)
	}
}

func TestWeedsByName(t *testing.T) {
	plan := func(grass, date string, f found, names ...string) map[string]Advice {
		return decide(t, lawn(t, grass, date, with(f, "weeds-named", list(names...))))
	}
	base := found{"weed-cover-percent": amount(10), "soil-moisture": word("moist"), "stand-density": word("thin"), "soil-temp-c": amount(17)}
	// the name tells the kind: white clover in autumn is a perennial broadleaf
	a := plan("kentucky-bluegrass", "2026-09-20", base, "white-clover")
	require.Equal(t, DoNow, a["herbicide-spot"].Verdict, a["herbicide-spot"].Reasons)
	require.Equal(t, Avoid, a["hand-weed"].Verdict)
	require.Contains(t, a["hand-weed"].Reasons[0], "white clover")
	// quackgrass: nothing selective; the patch is taken out and seeded
	a = plan("kentucky-bluegrass", "2026-08-20", base, "quackgrass")
	for _, id := range []string{"herbicide-spot", "herbicide-broadcast"} {
		require.Equal(t, Avoid, a[id].Verdict, id)
		require.Contains(t, a[id].Reasons[0], "quackgrass")
	}
	require.Contains(t, []Verdict{DoNow, Schedule, Hold}, a["off-type-removal"].Verdict, a["off-type-removal"].Reasons)
	// torpedograss comes out of bermudagrass, not out of bluegrass; a second weed with an answer opens the question again
	require.Equal(t, Avoid, plan("kentucky-bluegrass", "2026-09-20", base, "torpedo-cogon")["herbicide-spot"].Verdict)
	require.NotContains(t, plan("common-bermudagrass", "2026-07-20", base, "torpedo-cogon")["herbicide-spot"].Reasons[0], "nothing selective")
	require.NotContains(t, plan("kentucky-bluegrass", "2026-09-20", base, "quackgrass", "dandelion")["herbicide-spot"].Reasons[0],
		"nothing selective")
	// few dandelions are pulled
	few := with(base, "weed-cover-percent", amount(1), "weed-plants", amount(20))
	require.Equal(t, DoNow, plan("kentucky-bluegrass", "2026-05-20", few, "dandelion")["hand-weed"].Verdict)
	require.Equal(t, Avoid, plan("kentucky-bluegrass", "2026-05-20", few, "yellow-nutsedge")["hand-weed"].Verdict)
	// which wild grass it is is asked before the whole is sprayed
	wild := found{"weed-cover-percent": amount(40), "weed-kinds": list("perennial-grassy"), "soil-moisture": word("moist"),
		"soil-temp-c": amount(17)}
	b := decide(t, lawn(t, "kentucky-bluegrass", "2026-09-20", wild))["herbicide-broadcast"]
	require.Equal(t, CheckFirst, b.Verdict, b.Reasons)
	require.Equal(t, []string{"weeds-named"}, b.Check)
}
