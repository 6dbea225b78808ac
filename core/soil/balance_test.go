package soil

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/weather"
)

func dry(n int) []weather.Day {
	var out []weather.Day
	start := time.Date(2026, 7, 1, 0, 0, 0, 0, time.UTC)
	for i := range n {
		lo, hi, rain := 18.0, 32.0, 0.0
		out = append(out, weather.Day{Date: start.AddDate(0, 0, i), TMin: &lo, TMax: &hi, Rain: &rain})
	}
	return out
}

// FAO-56, equation 84: Ks = (TAW − Dr) / ((1 − p) TAW).
func TestStressByTheBook(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "loam", RootDepthMM: 200}
	require.InDelta(t, 34, z.Total(), 1e-9)
	days := dry(2)
	b := Run(z, days, []Check{{Date: days[0].Date, Share: .8}})
	require.True(t, b.Days[0].Checked)
	require.InDelta(t, .8*34, b.Days[0].Depletion, 1e-9)
	etc := z.Coefficient() * b.Days[1].ET0
	want := (34 - .8*34) / ((1 - z.Fraction(etc)) * 34)
	require.InDelta(t, want, b.Days[1].Ks, 1e-9)
	require.InDelta(t, etc*want, b.Days[1].ETc, 1e-9)
	// table 22: p + 0.04 (5 − ETc)
	require.InDelta(t, .40+.04*(5-3), z.Fraction(3), 1e-12)
	require.InDelta(t, .8, Zone{Warm: true}.Fraction(-20), 1e-12)
}

func TestWaterIsNeitherMadeNorLost(t *testing.T) {
	days := dry(60)
	for i := range days {
		if i%9 == 4 {
			rain := 38.0
			days[i].Rain = &rain
		}
	}
	irr := 6.0
	days[20].Irrigation = &irr
	z := Zone{Latitude: 40, Texture: "clay-loam", Uniformity: .8}
	b := Run(z, days, nil)
	before := startDepletion * b.Total
	for _, d := range b.Days {
		require.InDelta(t, before+d.ETc-(d.Rain-d.Runoff)-d.Irrigation*.85+d.Drainage, d.Depletion, 1e-9, d.Date)
		require.GreaterOrEqual(t, d.Depletion, 0.0)
		require.LessOrEqual(t, d.Depletion, b.Total)
		before = d.Depletion
	}
	require.Positive(t, b.Days[4].Runoff, "clay loam does not take 38 mm in a storm")
}

func TestGroundDecidesWhatGoesIn(t *testing.T) {
	require.InDelta(t, 50, Zone{Texture: "sand"}.Intake(), 0)
	require.InDelta(t, 6, Zone{Texture: "loam", SlopePercent: 12}.Intake(), 0)
	require.InDelta(t, 3, Zone{Texture: "loam", Compacted: true}.Intake(), 0)
	measured := 9.0
	require.InDelta(t, 9, Zone{Texture: "clay", Repellent: true, InfiltrationMMH: &measured}.Intake(), 0,
		"what was measured goes before the table")

	day := dry(1)[0]
	rain := 40.0
	day.Rain = &rain
	h := weather.NoHours()
	for i := range 24 {
		h.Rain[i] = 0
	}
	h.Rain[15], h.Rain[16] = 30, 10
	day.Hours = h
	require.InDelta(t, 18, runoff(day, 12), 1e-9, "by the hour: 18 of the 30 run off")
	for i := range 20 {
		h.Rain[i] = 2
	}
	require.Zero(t, runoff(day, 12), "a slow rain all goes in")
}

func TestShadeHeightAndRestTakeLess(t *testing.T) {
	sun := Zone{}.Coefficient()
	require.InDelta(t, .8, sun, 1e-12)
	require.Less(t, Zone{Shade: .6}.Coefficient(), sun)
	require.Less(t, Zone{Dormant: true}.Coefficient(), sun/3)
	require.Greater(t, Zone{HeightMM: 90}.Coefficient(), sun)
	require.InDelta(t, .6, Zone{Warm: true}.Coefficient(), 1e-12)
}

func TestCountingDown(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "sandy-loam", RootDepthMM: 150}
	b := Run(z, dry(60), nil)
	half, empty := b.When(0, .5), b.When(0, .85)
	require.True(t, half >= 0 && half < empty && empty < 30, "%d %d", half, empty)
	last := len(b.Days) - 1
	clock, since := b.Clock(last)
	require.InDelta(t, float64(last-empty+1), clock, 1e-9)
	require.Equal(t, empty, since)
	e := b.Endure(last, 10, false, false, false)
	require.InDelta(t, float64(last-empty+1)/70, e.Used, 1e-9)
	require.InDelta(t, 70-float64(last-empty+1), e.DaysLeft, 1e-9)
	require.Less(t, b.Endure(last, 10, true, false, false).DaysLeft, e.DaysLeft, "sand and edges last less long")
	require.Greater(t, b.Endure(last, 10, false, true, false).Used, 2*e.Used, "thin soil still less")
	require.Equal(t, Endurance{Since: -1}, b.Endure(last, 0, false, false, false), "no value stays no value")
	gap := dry(3)
	gap[1].TMax = nil
	require.True(t, Run(z, gap, nil).Days[1].Gap)
}

// FAO-56, table 19: sand wilts between 2 and 7 % by volume, clay loam holds far more back; what is between wilting and full is
// the table of available water.
func TestProbeToDepletion(t *testing.T) {
	require.InDelta(t, 0, ShareOfVolume(4.5+6, "sand"), 1e-9)
	require.InDelta(t, 1, ShareOfVolume(4.5, "sand"), 1e-9)
	require.InDelta(t, .5, ShareOfVolume(20+9, "clay-loam"), 1e-9)
	require.Zero(t, ShareOfVolume(60, "loam"), "a wet reading lacks nothing")
	require.Equal(t, 1., ShareOfVolume(0, "loam"))
	require.Equal(t, ShareOfVolume(20, "loam"), ShareOfVolume(20, "nobody-knows"))
	require.InDelta(t, 0, ShareOfVolume(29, ""), 1e-9)
}

// A former reading sets the balance only where it is far off.
func TestCheckWithTolerance(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "loam", RootDepthMM: 200}
	days := dry(10)
	plain := Run(z, days, nil)
	near := plain.Share(5) + .1
	require.Equal(t, plain.Days, Run(z, days, []Check{{Date: days[5].Date, Share: near, Least: .25}}).Days)
	set := Run(z, days, []Check{{Date: days[5].Date, Share: 0, Least: .25}})
	require.True(t, set.Days[5].Checked)
	require.Zero(t, set.Days[5].Depletion)
	require.Less(t, set.Days[9].Depletion, plain.Days[9].Depletion)
}

// A shower does not wipe out a month of drought: the clock gives two days back for each day under 85 %, and only a good watering
// that stays sets it to nought.
func TestTheClockOfEnduranceLeaks(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "loam", RootDepthMM: 150}
	days := dry(60)
	long, _ := Run(z, days, nil).Clock(59)
	require.Greater(t, long, 20.0)
	shower := 6.0
	days[50].Rain = &shower
	b := Run(z, days, nil)
	wet := 0
	for i := 50; i < 60; i++ {
		if b.Share(i) < DryShare {
			wet++
		}
	}
	require.Positive(t, wet, "the shower lifts it over the mark for a while")
	after, since := b.Clock(59)
	require.InDelta(t, long-float64(wet)*3, after, 1e-9, "each day under it neither counts nor stays: one lost, two given back")
	require.Equal(t, b.When(0, DryShare), since, "it is still the same drought")
	soak := 30.0
	days[50].Rain = &soak
	soaked, _ := Run(z, days, nil).Clock(54)
	require.Zero(t, soaked, "30 mm that stay set it to nought")
	cold := dry(60)
	for i := range cold {
		lo, hi := 2.0, 12.0
		cold[i].TMin, cold[i].TMax = &lo, &hi
	}
	c := Run(z, cold, []Check{{Date: cold[20].Date, Share: .95}})
	clock, _ := c.Clock(59)
	require.Zero(t, clock, "cold days under 10 °C do not count")
}

func TestSurvivalWaterComesEarlierForThoseWithoutMargin(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "sandy-loam", RootDepthMM: 150}
	b := Run(z, dry(60), nil)
	last := len(b.Days) - 1
	clock, _ := b.Clock(last)
	weeks := clock / 7 / .6
	require.False(t, b.Endure(last, weeks, false, false, false).Survival, "three fifths are not two thirds")
	require.True(t, b.Endure(last, weeks, false, false, true).Survival, "but more than half")
	require.InDelta(t, .5, SurvivalFrom(true), 1e-12)
}

func TestTheDryQuarterGetsEnough(t *testing.T) {
	for du, want := range map[float64]float64{0: 1.220, .1: 1.724, .3: 1.724, .4: 1.563, .55: 1.370, .7: 1.220, 1: 1} {
		require.InDelta(t, want, Zone{Uniformity: du}.Multiplier(), 5e-4, "uniformity %g", du)
	}
}

// A dry fortnight by hand: loam, 150 mm of roots, 25.5 mm of water; filled up on the evening on which more than the grass takes up
// without stress is missing.
func TestWaterAskedFor(t *testing.T) {
	z := Zone{Latitude: 40, Texture: "loam", RootDepthMM: 150, Uniformity: 1}
	var days []weather.Day
	for i := range 14 {
		hi, lo, none := 30.0, 15.0, 0.0
		days = append(days, weather.Day{Date: time.Date(2026, 7, 1+i, 0, 0, 0, 0, time.UTC), TMax: &hi, TMin: &lo, Rain: &none})
	}
	lost := 0.0
	for _, d := range Run(z, days[:1], nil).Days {
		lost = d.ETc
	}
	mm := Asked(z, days, 0)
	fill := z.Fraction(lost) * z.Total()
	require.Greater(t, mm, 2*fill, "some fillings")
	require.LessOrEqual(t, mm, 14.5*lost, "never more than was lost")
	require.Greater(t, mm, 14.5*lost-fill-2*lost, "but for what is still missing at the end")
	require.Greater(t, Asked(z, days, 20), mm, "what was missing before is asked for as well")
	z.Uniformity = .5
	require.InDelta(t, mm/(.4+.6*.5), Asked(z, days, 0), 1e-9, "uneven sprinklers must give more")
	for i := range days {
		much := 20.0
		days[i].Rain = &much
	}
	require.Zero(t, Asked(z, days, 0), "rain enough")
}
