package standin

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/weather"
	"hodos/exchange/labfile"
)

// The hours of a day agree with its daily values, in both hemispheres and through a year.
func TestHoursAgreeWithTheirDay(t *testing.T) {
	for _, latitude := range []float64{38, -36} {
		s := Station{Latitude: latitude, Seed: 11}
		days := s.Days(epoch, epoch.AddDate(1, 0, 0))
		require.Equal(t, days[100], s.Days(epoch.AddDate(0, 0, 100), epoch.AddDate(0, 0, 100))[0],
			"the same day is the same, however it is asked for")
		lit := 0
		for _, d := range days {
			rain, lo, hi, sun := 0.0, 99.0, -99.0, 0.0
			for i := range 24 {
				rain += d.Hours.Rain[i]
				sun += d.Hours.Solar[i]
				lo, hi = math.Min(lo, d.Hours.Temp[i]), math.Max(hi, d.Hours.Temp[i])
				require.True(t, d.Hours.RH[i] > 0 && d.Hours.RH[i] <= 100, d.Date)
				require.GreaterOrEqual(t, d.Hours.Wind[i], 0.0)
			}
			require.InDelta(t, *d.Rain, rain, .15, d.Date)
			require.InDelta(t, *d.Solar, sun, .2, d.Date)
			require.InDelta(t, *d.TMin, lo, .9, d.Date)
			require.InDelta(t, *d.TMax, hi, .9, d.Date)
			require.LessOrEqual(t, sun, .8*weather.Ra(latitude, d.Date.YearDay()), "no more sun than a clear sky gives")
			require.Zero(t, d.Hours.Solar[0], "no sun at midnight")
			if d.LeafWetness().Hours >= 6 {
				lit++
			}
		}
		require.Greater(t, lit, 40, "there are nights with dew")
		require.Less(t, lit, 360, "and dry ones")
	}
}

// The forecast errs more the further ahead it looks.
func TestTheForecastErrsMoreFurtherAhead(t *testing.T) {
	s := Station{Latitude: 38, Seed: 5}
	near, far, n := 0.0, 0.0, 0.0
	for k := range 120 {
		today := time.Date(2026, 2, 1, 0, 0, 0, 0, time.UTC).AddDate(0, 0, k)
		f, was := s.Forecast(today, 10), s.Days(today.AddDate(0, 0, 1), today.AddDate(0, 0, 10))
		near += math.Abs(*f[0].TMax - *was[0].TMax)
		far += math.Abs(*f[9].TMax - *was[9].TMax)
		n++
		require.NotNil(t, f[9].Hours)
	}
	require.Less(t, near/n, .5)
	require.Greater(t, far/n, 3*near/n)
}

// The laboratory finds what the case makes likely, the same each time, and only what the kind of sample can show.
func TestTheLaboratoryAnswersTheCase(t *testing.T) {
	c := evidence.Case{
		Lawn: knowledge.Lawn{Date: time.Date(2026, 7, 20, 0, 0, 0, 0, time.UTC), Latitude: 40, Species: []string{"perennial-ryegrass"}},
		Findings: map[string]knowledge.Value{"leaf-symptoms": knowledge.ListValue("hourglass-lesion-tan-with-brown-border"),
			"pattern": knowledge.ListValue("small-round-spots"), "patch-diameter-cm": knowledge.NumberValue(5)},
	}
	var lab Laboratory
	hits := 0
	for seed := range uint64(40) {
		v := lab.Analyse(c, "disease", seed)
		require.Len(t, v, 1)
		require.Equal(t, v, lab.Analyse(c, "disease", seed))
		if v["lab-pathogen"].Word == "dollar-spot" {
			hits++
		}
	}
	require.Greater(t, hits, 25, "dollar spot is all but sure, and the laboratory misses one in ten")
	for kind := range labfile.Kinds {
		for id, v := range lab.Analyse(c, kind, 3) {
			f, ok := knowledge.FindingByID(id)
			require.True(t, ok)
			require.Contains(t, labfile.Findings(kind), id)
			_, err := knowledge.ValueOf(f, v.Plain())
			require.NoError(t, err, id)
		}
	}
	require.InDelta(t, 7.91, figures(7.9134), 1e-12)
	require.InDelta(t, 0, figures(0), 0)
	require.InDelta(t, 1230, figures(1234), 1e-9)
}
