package schedule_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/schedule"
)

func gap(first, second string) int {
	return map[string]int{"spray>seed": 28, "seed>spray": 60, "feed>feed": 21, "core>core": 42}[first+">"+second]
}

func day(n int) *int { return &n }

func days(placed []schedule.Placed) map[string]int {
	out := map[string]int{}
	for _, p := range placed {
		out[p.Job.ID] = p.Day
	}
	return out
}

func TestPlans(t *testing.T) {
	for name, x := range map[string]struct {
		jobs []schedule.Job
		opt  schedule.Options
		want map[string]int
	}{
		"the day it is wanted on": {[]schedule.Job{{ID: "a", Zone: "z", To: 30, Want: 7}}, schedule.Options{}, map[string]int{"a": 7}},
		"the next open day": {[]schedule.Job{{ID: "a", Zone: "z", To: 30, Closed: []schedule.Closed{{From: 0, To: 4, Constraint: "rain"}}}},
			schedule.Options{}, map[string]int{"a": 5}},
		"spray, and seed four weeks later": {[]schedule.Job{{ID: "spray", Action: "spray", Zone: "z", To: 60, Rank: 1, Wait: 5},
			{ID: "seed", Action: "seed", Zone: "z", To: 60, Rank: 2, Wait: 1}}, schedule.Options{Gap: gap}, map[string]int{"spray": 0, "seed": 28}},
		"the one that has least room goes first": {[]schedule.Job{{ID: "spray", Action: "spray", Zone: "z", To: 90, Rank: 1},
			{ID: "seed", Action: "seed", Zone: "z", To: 10, Rank: 2}}, schedule.Options{Gap: gap}, map[string]int{"seed": 0, "spray": 60}},
		"other zones are not kept apart": {[]schedule.Job{{ID: "spray", Action: "spray", Zone: "y", To: 9}, {ID: "seed", Action: "seed", Zone: "z", To: 9}},
			schedule.Options{Gap: gap}, map[string]int{"spray": 0, "seed": 0}},
		"a series": {[]schedule.Job{{ID: "1", Action: "feed", Zone: "z", To: 9}, {ID: "2", Action: "feed", Zone: "z", To: 60, After: []schedule.After{{ID: "1", Least: 21}}},
			{ID: "3", Action: "feed", Zone: "z", To: 90, After: []schedule.After{{ID: "2", Least: 21}}}}, schedule.Options{Gap: gap}, map[string]int{"1": 0, "2": 21, "3": 42}},
		"on the same day in the order of work": {[]schedule.Job{{ID: "seed", Zone: "z", To: 20, Rank: 5, After: []schedule.After{{ID: "core", Least: 0, Most: 1}}},
			{ID: "core", Action: "core", Zone: "z", From: 3, To: 20, Want: 3, Rank: 3}}, schedule.Options{Gap: gap}, map[string]int{"core": 3, "seed": 3}},
		"a soft order does not wait for what has no day": {[]schedule.Job{{ID: "core", Action: "core", Zone: "z", To: 5, Closed: []schedule.Closed{{From: 0, To: 9, Constraint: "rule"}}},
			{ID: "seed", Action: "seed", Zone: "z", To: 20, After: []schedule.After{{ID: "core", Soft: true}}}}, schedule.Options{Gap: gap}, map[string]int{"core": -1, "seed": 0}},
		"what is fixed stays": {[]schedule.Job{{ID: "a", Action: "feed", Zone: "z", To: 30, Fixed: day(10)}, {ID: "b", Action: "feed", Zone: "z", To: 60}},
			schedule.Options{Gap: gap}, map[string]int{"a": 10, "b": 31}},
		"the crew has a day's hours": {[]schedule.Job{{ID: "a", Zone: "y", To: 9, Minutes: 300, Wait: 9}, {ID: "b", Zone: "z", To: 9, Minutes: 300, Wait: 1}},
			schedule.Options{Minutes: func(int) float64 { return 480 }}, map[string]int{"a": 0, "b": 1}},
		"a day off": {[]schedule.Job{{ID: "a", Zone: "y", To: 9, Minutes: 30}}, schedule.Options{Minutes: func(d int) float64 { return map[bool]float64{true: 480}[d > 1] }},
			map[string]int{"a": 2}},
	} {
		x.opt.Days, x.opt.Tries, x.opt.Seed = 120, 200, 7
		require.Equal(t, x.want, days(schedule.Arrange(x.jobs, x.opt)), name)
	}
}

func TestWhatHasNoDaySaysWhy(t *testing.T) {
	jobs := []schedule.Job{{ID: "a", Action: "seed", Zone: "z", From: 0, To: 20, Wait: 2, Closed: []schedule.Closed{{From: 0, To: 15, Constraint: "blackout", Firm: true},
		{From: 10, To: 25, Constraint: "soil"}}}, {ID: "s", Action: "spray", Zone: "z", To: 5, Fixed: day(0)}}
	p := schedule.Arrange(jobs, schedule.Options{Days: 60, Gap: gap})
	require.Equal(t, -1, p[0].Day)
	by := map[string]schedule.Block{}
	for _, b := range p[0].Blocks {
		by[b.Constraint] = b
	}
	require.Equal(t, 16, by["blackout"].Days)
	require.True(t, by["blackout"].Firm)
	require.Equal(t, 11, by["soil"].Days)
	require.Equal(t, 21, by[schedule.Apart].Days)
	require.Equal(t, -1, by["soil"].Without, "the spray stands in the way as well")
	// without the spray the first day after soil and black-out lies behind its own span
	require.Equal(t, 28, by[schedule.Span].Without)
	require.Equal(t, 56.0, by[schedule.Span].Cost)
	p = schedule.Arrange(jobs[:1], schedule.Options{Days: 60})
	for _, b := range p[0].Blocks {
		if b.Constraint == "soil" {
			require.Equal(t, 16, b.Without)
			require.Equal(t, 32.0, b.Cost)
		}
	}
}

func TestMovingSaysWhatItBreaks(t *testing.T) {
	jobs := []schedule.Job{{ID: "a", Action: "seed", Zone: "z", From: 5, To: 40, Closed: []schedule.Closed{{From: 30, To: 50, Constraint: "frost", Firm: true}}, Minutes: 60},
		{ID: "s", Action: "spray", Zone: "z", To: 50, Fixed: day(0), Minutes: 450}, {ID: "m", Zone: "y", To: 50, Fixed: day(3), Minutes: 450}}
	opt := schedule.Options{Days: 60, Gap: gap, Minutes: func(int) float64 { return 480 }}
	require.Empty(t, schedule.Moving(jobs, "a", 28, opt))
	require.Equal(t, []schedule.Move{{Constraint: "frost", Firm: true}}, schedule.Moving(jobs, "a", 35, opt))
	require.Equal(t, []schedule.Move{{Constraint: schedule.Apart, With: "s"}}, schedule.Moving(jobs, "a", 20, opt))
	require.Equal(t, []schedule.Move{{Constraint: schedule.Span}, {Constraint: schedule.Apart, With: "s"}, {Constraint: schedule.Crew}}, schedule.Moving(jobs, "a", 3, opt))
	require.True(t, schedule.Moving(jobs, "a", 99, opt)[0].Firm)
}

// big is a firm of zones with ten jobs each, drawn by a fixed rule.
func big(zones int) []schedule.Job {
	var jobs []schedule.Job
	kinds := []string{"feed", "feed", "feed", "spray", "seed", "core", "mow", "water", "look", "lime"}
	for z := range zones {
		for k, a := range kinds {
			from := (z*37 + k*29) % 300
			j := schedule.Job{ID: fmt.Sprintf("%d-%d", z, k), Zone: fmt.Sprint(z), Action: a, Rank: k, Minutes: 20 + float64((z+k)%5)*10, From: from, To: from + 20 + (z+k)%30, Want: from,
				Wait: float64((z*7+k)%9) + .5}
			for w := from; w < from+50; w += 9 {
				j.Closed = append(j.Closed, schedule.Closed{From: w, To: w + (z+k)%4, Constraint: "weather"})
			}
			jobs = append(jobs, j)
		}
	}
	return jobs
}

// Nothing that is placed breaks anything, and the same seed gives the same plan.
func TestAFirmsPlanKeepsEverything(t *testing.T) {
	jobs := big(60)
	opt := schedule.Options{Days: 365, Gap: gap, Tries: 2000, Seed: 3, Minutes: func(d int) float64 { return map[bool]float64{true: 0, false: 900}[d%7 == 6] }}
	a, b := schedule.Arrange(jobs, opt), schedule.Arrange(jobs, opt)
	require.Equal(t, days(a), days(b))
	used, placed := map[int]float64{}, 0
	for i, p := range a {
		if p.Day < 0 {
			require.NotEmpty(t, p.Blocks)
			continue
		}
		placed++
		used[p.Day] += p.Job.Minutes
		require.GreaterOrEqual(t, p.Day, p.Job.From)
		require.LessOrEqual(t, p.Day, p.Job.To)
		for _, c := range p.Job.Closed {
			require.False(t, p.Day >= c.From && p.Day <= c.To)
		}
		for k, q := range a {
			if i != k && q.Day > p.Day && q.Job.Zone == p.Job.Zone {
				require.GreaterOrEqual(t, q.Day-p.Day, gap(p.Job.Action, q.Job.Action))
			}
		}
	}
	for d, m := range used {
		require.LessOrEqual(t, m, opt.Minutes(d))
	}
	require.Greater(t, placed, 540)
	worse := opt
	worse.Tries = 0
	count := 0
	for _, p := range schedule.Arrange(jobs, worse) {
		if p.Day >= 0 {
			count++
		}
	}
	require.GreaterOrEqual(t, placed, count, "tearing out and putting in anew never loses a job")
}

func BenchmarkFirmOf500Zones(b *testing.B) {
	jobs := big(500)
	opt := schedule.Options{Days: 365, Gap: gap, Tries: 3000, Seed: 3, Minutes: func(d int) float64 { return map[bool]float64{true: 0, false: 6000}[d%7 == 6] }}
	for b.Loop() {
		schedule.Arrange(jobs, opt)
	}
}
