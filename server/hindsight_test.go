package server_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/casework"
	"hodos/demo"
	"hodos/exchange/casefile"
	"hodos/night"
	"hodos/server"
)

const years = "?from=2024-04-01&to=2026-08-24"

func TestTheNightLooksBack(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner, tech := w.as("owner"), w.as("technician")
	var f server.Figures
	figures := func() server.Figures {
		f = server.Figures{}
		owner.must(200, "GET", "/figures"+years, nil, &f)
		return f
	}
	figures()
	require.Positive(t, f.Checks.Of, "some checks decided")
	require.Less(t, f.Checks.Of, f.Checks.N, "and some did not")
	made, decided := 0, 0
	by := map[string]server.CheckCount{}
	for i, c := range f.ByCheck {
		require.NotEmpty(t, c.Label)
		require.Positive(t, c.Minutes)
		require.True(t, i == 0 || c.Minutes <= f.ByCheck[i-1].Minutes, "the most minutes first")
		made, decided = made+c.N, decided+c.Of
		by[c.Procedure] = c
	}
	require.Equal(t, []int{f.Checks.Of, f.Checks.N}, []int{decided, made})
	squares := by["grub-square"]
	require.Equal(t, squares.N, squares.Of, "no grub was ever treated uncounted: each count decided")

	cases := func(more string) (list []server.FirmCase) {
		owner.must(200, "GET", "/figures/cases"+years+more, nil, &list)
		return list
	}
	require.Len(t, cases("&check=grub-square"), squares.N)
	require.Len(t, cases("&check=pull&decided=yes"), by["pull"].Of)
	require.Len(t, cases("&check=pull&decided=no"), by["pull"].N-by["pull"].Of)
	saved := cases("&which=saved")
	require.Len(t, saved, f.Saved.N)
	sum := 0.0
	for _, c := range saved {
		require.NotEmpty(t, c.Confirmed, "what nobody knows for sure cannot be reckoned")
		sum += *c.Saved
	}
	require.InDelta(t, f.Saved.Mean, sum/float64(len(saved)), .1)
	require.Positive(t, f.Saved.Low, "it pays to look")
	require.Zero(t, f.Water.N, "the old cases have no weather with them")

	// a diagnosis of today is looked back upon tonight, with its water; closed as something else, it is looked back upon anew
	p := tech.place("Larkspur")
	for d := time.Date(2026, 7, 20, 0, 0, 0, 0, time.UTC); d.Day() != 25 || d.Month() != 8; d = d.AddDate(0, 0, 1) {
		tech.must(204, "PUT", "/zones/"+p.zone+"/waterings", map[string]any{"day": d.Format(time.DateOnly), "mm": 9}, nil)
	}
	tech.must(200, "POST", p.path("/answers"), answers(tap("soil-moisture", "moist"), tap("pull-test", "resists")), nil)
	tech.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, nil)
	tonight := func() {
		require.NoError(t, night.Watcher{Store: w.store, Weather: demo.Sky{}, Now: time.Now}.Night(context.Background(), casework.OnDay(demo.Start)))
	}
	before := figures().Checks.N
	tonight()
	require.Greater(t, figures().Checks.N, before)
	require.Equal(t, 1, f.Water.N)
	require.Greater(t, f.Water.Mean, 1., "nine millimetres a day is more than any lawn asks for")
	watered := cases("&which=watered")
	require.Len(t, watered, 1)
	require.InDelta(t, f.Water.Mean, *watered[0].WaterGiven / *watered[0].WaterAsked, .01)
	n := f.Saved.N
	tech.must(200, "POST", "/visits/"+p.visit+"/closings", map[string]any{"id": id(), "zone_id": p.zone, "cause": "nitrogen-deficiency",
		"ended": "mended"}, nil)
	require.Equal(t, n, figures().Saved.N, "not before the night")
	tonight()
	require.Equal(t, n+1, figures().Saved.N)
}

func TestOwnCasesTeachWhileTheOwnerLetsThem(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner, office, tech := w.as("owner"), w.as("office"), w.as("technician")
	var l server.Lessons
	owner.must(200, "GET", "/figures/lessons", nil, &l)
	require.False(t, l.Used, "nobody asked for it")
	require.GreaterOrEqual(t, l.Cases, l.Least)
	require.NotEmpty(t, l.Lessons)
	red := l.Lessons[0]
	require.Equal(t, "red-thread", red.Cause, "the strongest lesson of Weir Row")
	require.Greater(t, red.Factor, 1.2)
	require.Greater(t, float64(red.Seen), red.Expected)
	require.LessOrEqual(t, red.Low, red.Factor)
	require.GreaterOrEqual(t, red.High, red.Factor)

	p := tech.place("Mill Ferry")
	of := func(cause string) casefile.Cause {
		for _, c := range tech.scales(p).Diagnosis.Causes {
			if c.ID == cause {
				return c
			}
		}
		return casefile.Cause{}
	}
	plain := of("red-thread")
	require.Zero(t, plain.LearntBits)
	use := func(used bool, without ...string) map[string]any {
		if without == nil {
			without = []string{}
		}
		return map[string]any{"used": used, "without": without, "version": l.Version}
	}
	office.must(200, "GET", "/figures/lessons", nil, &l)
	office.must(403, "PUT", "/figures/lessons", use(true), nil)
	tech.must(403, "GET", "/figures/lessons", nil, nil)
	owner.must(422, "PUT", "/figures/lessons", use(true, "no-such-cause"), nil)
	owner.must(200, "PUT", "/figures/lessons", use(true), &l)
	require.True(t, l.Used)
	taught := of("red-thread")
	require.Positive(t, taught.LearntBits)
	require.Greater(t, taught.Probability, plain.Probability)
	require.InDelta(t, plain.PriorBits, taught.PriorBits, .05)

	stale := use(true)
	stale["version"] = l.Version - 1
	owner.must(409, "PUT", "/figures/lessons", stale, nil)
	owner.must(200, "PUT", "/figures/lessons", use(true, "red-thread"), &l)
	require.True(t, l.Lessons[0].Left)
	require.Zero(t, of("red-thread").LearntBits, "left out")
	owner.must(200, "PUT", "/figures/lessons", use(false), &l)
	require.Equal(t, plain, of("red-thread"), "as before")

	// the night counts anew and leaves the owner's word alone
	owner.must(200, "PUT", "/figures/lessons", use(true, "rust"), &l)
	require.NoError(t, night.Watcher{Store: w.store, Weather: demo.Sky{}, Now: time.Now}.Night(context.Background(), casework.OnDay(demo.Start)))
	var again server.Lessons
	owner.must(200, "GET", "/figures/lessons", nil, &again)
	require.Equal(t, l, again)

	// another firm learns nothing from it
	rival, _ := w.rival("owner")
	rival.must(200, "GET", "/figures/lessons", nil, &again)
	require.Zero(t, again.Cases)
	require.Empty(t, again.Lessons)
}
