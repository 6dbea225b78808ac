package soil

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func cans(mm ...float64) []Can {
	out := make([]Can, len(mm))
	for i, x := range mm {
		out[i] = Can{X: i % 4, Y: i / 4, MM: x}
	}
	return out
}

func TestAuditByHand(t *testing.T) {
	c := cans(2, 3, 5, 5, 6, 6, 7, 6)
	a, err := Audit(c, 15)
	require.NoError(t, err)
	require.InDelta(t, 5*4, a.RateMMH, 1e-9, "a mean of 5 mm in a quarter of an hour")
	require.InDelta(t, 2.5/5, a.Uniformity, 1e-9, "the lowest two of eight against the mean")
	require.Less(t, a.From, a.Uniformity)
	require.Greater(t, a.To, a.Uniformity)
	require.ElementsMatch(t, []int{0, 1}, a.Low)
	require.False(t, a.Fault)
	c[0].On, c[1].On = true, true
	a, _ = Audit(c, 15)
	require.True(t, a.Fault)
	require.Contains(t, a.Verdict, "the fault")
	c[0].On, c[1].On, c[6].On, c[7].On = false, false, true, true
	a, _ = Audit(c, 15)
	require.False(t, a.Fault)
	require.Contains(t, a.Verdict, "another cause")
	even, _ := Audit(cans(5, 5, 5, 5, 5, 5), 15)
	require.InDelta(t, 1, even.Uniformity, 1e-9)
	require.Equal(t, "even enough", even.Verdict)
}

func TestAuditRefuses(t *testing.T) {
	for _, c := range []struct {
		cans    []Can
		minutes float64
		why     string
	}{{cans(1, 2, 3), 15, "too few"}, {cans(1, 2, 3, 4), 0, "minutes"}, {cans(1, -2, 3, 4), 15, "cans[1]"},
		{cans(0, 0, 0, 0), 15, "nothing was caught"}} {
		_, err := Audit(c.cans, c.minutes)
		require.ErrorContains(t, err, c.why)
	}
}

func TestWateringSplitsWhatWouldRunOff(t *testing.T) {
	s := Sprinkler{RateMMH: 20, Uniformity: .8, AreaM2: 100, PriceM3: 3}
	r, err := Watering(Zone{Texture: "sand"}, s, 17.6, 6)
	require.NoError(t, err)
	require.InDelta(t, 20, r.GrossMM, 1e-9)
	require.InDelta(t, 60, r.Minutes, 1e-9)
	require.Equal(t, 1, r.Cycles, "sand takes it at once")
	require.InDelta(t, 2000, r.Litres, 1e-9)
	require.InDelta(t, 6, r.Cost, 1e-9)
	require.InDelta(t, 6.25, r.End, 1e-9)
	require.InDelta(t, 5.25, r.Start, 1e-9)

	clay, _ := Watering(Zone{Texture: "clay-loam"}, s, 16, 6)
	require.Greater(t, clay.Cycles, 3)
	// no cycle leaves more standing than may stand
	require.LessOrEqual(t, (s.RateMMH-6)*clay.CycleMinutes/60, surplus+1e-9)
	require.Greater(t, clay.Total, clay.Minutes)
	late, _ := Watering(Zone{Texture: "loam"}, s, 16, 11)
	require.InDelta(t, 9, late.End, 1e-9, "never after nine")
	require.Equal(t, 1, late.Nights)
	for _, c := range []struct {
		name                string
		rate, net, sunrise  float64
		slope               float64
		nights, most        int
		longest, startsFrom float64
	}{
		{"five hours fit into a night", 4, 16.4, 6, 0, 1, 1, 300, 1},
		{"six do not", 4, 21, 6, 0, 2, 2, 300, 1},
		{"ten need two or three", 3, 26, 5.5, 0, 2, 3, 300, .7},
		{"a short summer night ends the start at midnight", 4, 17, 3.5, 0, 2, 2, 225, 0},
		{"a slope of clay soaks for hours", 40, 13, 6, 12, 2, 7, 375, 0},
	} {
		r, err := Watering(Zone{Texture: map[bool]string{true: "clay", false: "sand"}[c.slope > 0], SlopePercent: c.slope},
			Sprinkler{RateMMH: c.rate, Uniformity: .8}, c.net, c.sunrise)
		require.NoError(t, err)
		require.GreaterOrEqual(t, r.Nights, c.nights, c.name)
		require.LessOrEqual(t, r.Nights, c.most, c.name)
		require.LessOrEqual(t, r.Total, c.longest+1e-9, c.name)
		require.GreaterOrEqual(t, r.Start, c.startsFrom-1e-9, c.name)
		require.InDelta(t, r.End, r.Start+r.Total/60, 1e-9, c.name)
		require.InDelta(t, r.Minutes, r.CycleMinutes*float64(r.Cycles), 1e-6, c.name)
	}
	_, err = Watering(Zone{}, Sprinkler{}, 10, 6)
	require.ErrorContains(t, err, "rate")
	_, err = Watering(Zone{}, s, 0, 6)
	require.ErrorContains(t, err, "depth")
}

func TestBothPoliciesSideBySide(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "loam"}
	b := Run(z, dry(70), nil)
	s := Sprinkler{RateMMH: 15, Uniformity: .75, AreaM2: 200, PriceM3: 3}
	p := Ahead(z, s, b, 20, 5, nil)
	green, rest := p[0], p[1]
	require.NotEmpty(t, green.Due)
	require.NotEmpty(t, rest.Due)
	require.Greater(t, green.Litres, 3*rest.Litres)
	for _, d := range green.Due {
		require.GreaterOrEqual(t, d.NetMM, .25*b.Total)
	}
	for i := 1; i < len(rest.Due); i++ {
		require.GreaterOrEqual(t, rest.Due[i].Date.Sub(rest.Due[i-1].Date), 240*time.Hour)
	}
	// two permitted days a week: only on those, and early rather than late
	two := Ahead(z, s, b, 20, 5, map[time.Weekday]bool{time.Tuesday: true, time.Saturday: true})[0]
	for _, d := range two.Due {
		require.Contains(t, []time.Weekday{time.Tuesday, time.Saturday}, d.Date.Weekday())
	}
	require.NotEmpty(t, two.Due)
	// at the week-end alone, on sand: it is watered early on the Sunday, as the next Saturday would be too late
	early := false
	z.Texture = "sand"
	b = Run(z, dry(70), nil)
	for _, d := range Ahead(z, s, b, 20, 5, map[time.Weekday]bool{time.Saturday: true, time.Sunday: true})[0].Due {
		if d.NetMM < .5*b.Total {
			early = true
			require.Contains(t, d.Why, "too late")
			require.GreaterOrEqual(t, d.NetMM, .25*b.Total)
		} else {
			require.Contains(t, d.Why, "half of the water")
		}
	}
	require.True(t, early)
	require.Empty(t, Ahead(z, s, b, 20, 0, nil)[1].Due, "no value of endurance, no advice")
}

func TestRampAndSyringe(t *testing.T) {
	for _, up := range []float64{0, 10, 28} {
		first := Ramp("seed", up)[0]
		require.Equal(t, map[float64]int{0: 14, 10: 10, 28: 28}[up], first.ToDay, "moist until all of it is up")
		require.Equal(t, 3.0, first.TimesADay)
	}
	for _, kind := range []string{"seed", "sod", "plugs"} {
		last := 0
		for _, s := range Ramp(kind, 10) {
			require.Equal(t, last+1, s.FromDay, kind)
			last = s.ToDay
		}
		require.Equal(t, 28, last)
	}
	require.Nil(t, Ramp("rocks", 10))
	require.InDelta(t, 6, Syringe(15), 1e-9)
	require.Zero(t, Syringe(0))
}

// The sprinklers are the fault only where at least half of the low cans lie on damage, and clearly more than damage lies about.
func TestTheLowCansMustLieOnTheDamage(t *testing.T) {
	audit := func(lowOn, highOn int) Audited {
		var cans []Can
		for i := range 20 {
			mm := 12.0
			if i < 5 {
				mm = 3
			}
			cans = append(cans, Can{X: i, MM: mm, On: i < lowOn || i >= 5 && i < 5+highOn})
		}
		a, err := Audit(cans, 15)
		require.NoError(t, err)
		require.Less(t, a.Uniformity, Suspect)
		return a
	}
	for _, c := range []struct {
		lowOn, highOn int
		fault         bool
	}{{2, 0, false}, {3, 0, true}, {3, 4, true}, {3, 6, false}, {4, 7, true}, {4, 9, false}, {5, 11, true}, {5, 12, false}, {0, 0, false}} {
		require.Equal(t, c.fault, audit(c.lowOn, c.highOn).Fault, "%d of 5 low cans and %d of 15 others on damage", c.lowOn, c.highOn)
	}
}
