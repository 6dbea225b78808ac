package weather

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func TestTheSoilLagsAndIsCorrectedByReadings(t *testing.T) {
	days := append(series(30, 5, 15, 0, nil)[:0:0], series(30, 5, 15, 0, nil)...)
	lo, hi := 20.0, 32.0
	for i := 20; i < 30; i++ {
		days[i].TMin, days[i].TMax = &lo, &hi
	}
	plain := SoilCourse(days, Canopy{}, nil)
	require.InDelta(t, 10, plain[19].Mean, .01, "a steady course comes to the air's mean")
	require.Less(t, plain[22].Mean, 18.0, "it lags behind a jump")
	require.Greater(t, plain[29].Mean, 21.0)
	require.Greater(t, plain[29].At(16.5), plain[29].At(6))
	require.InDelta(t, plain[29].Peak(), plain[29].At(peakHour), 1e-9)

	// short, thin and dry is hotter in the afternoon than tall and moist
	require.Greater(t, SoilCourse(days, Canopy{HeightMM: 25, Thin: true, Dry: true}, nil)[29].Peak(),
		SoilCourse(days, Canopy{HeightMM: 90}, nil)[29].Peak()+1.5)

	// a reading in the morning corrects the course at its own hour, not the mean by the plain difference
	r := Reading{Date: days[25].Date, Hour: 8, TempC: plain[25].At(8) + 3}
	with := SoilCourse(days, Canopy{}, []Reading{r})
	require.InDelta(t, r.TempC, with[25].At(8), 1e-9)
	require.InDelta(t, plain[25].Mean+3, with[25].Mean, 1e-9)
	require.InDelta(t, plain[20].Mean+1.5, with[20].Mean, 1e-9, "half of it five days away")
	require.InDelta(t, plain[10].Mean, with[10].Mean, 1e-9, "nothing of it after ten")
	days[3].TMin = nil
	require.False(t, math.IsNaN(SoilCourse(days, Canopy{}, nil)[3].Mean), "a gap carries on")
	require.True(t, math.IsNaN(SoilCourse([]Day{{}}, Canopy{}, nil)[0].Mean))
}

func TestSnowKeepsTheSoilFromFreezing(t *testing.T) {
	days := series(40, -15, -5, 0, nil)
	bare := SoilCourse(days, Canopy{}, nil)
	deep := 20.0
	for i := range days {
		days[i].Snow = &deep
	}
	require.Less(t, bare[39].Mean, -8.0)
	require.InDelta(t, 0, SoilCourse(days, Canopy{}, nil)[39].Mean, .01)
}

func TestDegreeDays(t *testing.T) {
	require.InDelta(t, 10, DegreeDays(15, 25, 10, 0, "mean"), 1e-12)
	require.Zero(t, DegreeDays(0, 8, 10, 0, "mean"))
	// Baskerville and Emin: wholly above the base the sine is the mean
	require.InDelta(t, 10, DegreeDays(15, 25, 10, 0, "sine"), 1e-12)
	// base at the mean: half the wave lies above it, half·1/π
	require.InDelta(t, 8/math.Pi, DegreeDays(2, 18, 10, 0, "sine"), 1e-9)
	require.Greater(t, DegreeDays(5, 14, 10, 0, "sine"), 0.0, "a cool day with a warm noon counts")
	require.Zero(t, DegreeDays(5, 14, 10, 0, "mean"))
	// over an upper limit nothing is gained
	require.InDelta(t, DegreeDays(31, 35, 10, 30, "sine"), DegreeDays(33, 41, 10, 30, "sine"), 1e-9)
	require.InDelta(t, 20, DegreeDays(31, 35, 10, 30, "mean"), 1e-9)
}

func TestDegreeWindowsAreTurnedInTheSouth(t *testing.T) {
	w := DegreeWindows[0]
	require.Equal(t, time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC), w.Since(time.Date(2026, 4, 3, 0, 0, 0, 0, time.UTC), 40))
	require.Equal(t, time.Date(2026, 7, 1, 0, 0, 0, 0, time.UTC), w.Since(time.Date(2026, 10, 3, 0, 0, 0, 0, time.UTC), -36))
	require.Equal(t, time.Date(2025, 7, 1, 0, 0, 0, 0, time.UTC), w.Since(time.Date(2026, 2, 3, 0, 0, 0, 0, time.UTC), -36))
	for _, w := range DegreeWindows {
		require.Less(t, w.Opens, w.Peaks, w.ID)
		require.NotEmpty(t, w.Source)
	}
}

func TestLeafWetness(t *testing.T) {
	h := NoHours()
	for i := range 24 {
		h.Temp[i], h.RH[i], h.Rain[i] = 18, 60, 0
	}
	for i := range 8 {
		h.RH[i] = 95
	}
	h.Rain[15] = 2
	d := Day{Hours: h}
	w := d.LeafWetness()
	require.True(t, w.Known)
	require.False(t, w.Estimated)
	require.InDelta(t, 9, w.Hours, 0)
	require.InDelta(t, 8, w.Humid, 0)
	require.InDelta(t, 2, *d.Daily().Rain, 1e-9)

	lo, hi, rh := 14.0, 26.0, 80.0
	est := Day{TMin: &lo, TMax: &hi, RH: &rh}.LeafWetness()
	require.True(t, est.Known && est.Estimated)
	require.Greater(t, est.Hours, 6.0)
	require.False(t, Day{TMin: &lo, TMax: &hi}.LeafWetness().Known, "without measured humidity every night would look wet")
	dry := 40.0
	require.Less(t, Day{TMin: &lo, TMax: &hi, RH: &dry}.LeafWetness().Hours, 1.0)
	h.RH[0], h.RH[1], h.RH[2], h.RH[3], h.RH[4] = math.NaN(), math.NaN(), math.NaN(), math.NaN(), math.NaN()
	require.False(t, d.LeafWetness().Known, "five hours missing are too many")
}
