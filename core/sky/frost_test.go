package sky

import (
	"math"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/soil"
	"hodos/core/units"
	"hodos/core/weather"
)

func TestFrostSums(t *testing.T) {
	days := series(80, 6, 14, 1, nil)
	cold := func(back int, c float64) { days[79-back].TMin = &c }
	cold(70, -9) // longer ago than sixty nights
	cold(40, -3)
	cold(12, 0)
	cold(11, -2.2)
	days[79-5].TMin = nil
	ahead := series(6, 6, 14, 1, nil)
	for i := range ahead {
		ahead[i].Date = days[79].Date.AddDate(0, 0, i+1)
	}
	lo := -.5
	ahead[3].TMin = &lo
	s := Of(days, ahead, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[79].Date})
	f := s.FrostBefore()
	require.Equal(t, 3, f.Nights, "nought counts as frost")
	require.Equal(t, 2, f.Killing)
	require.InDelta(t, -3, f.Lowest, 1e-9)
	require.Equal(t, days[79-11].Date, f.LastOn)
	require.Equal(t, ahead[3].Date, f.NextOn)

	for i := range days {
		days[i].TMin = nil
	}
	s = Of(days, nil, Ground{Zone: soil.Zone{Latitude: 38}, Date: days[79].Date})
	f = s.FrostBefore()
	require.True(t, math.IsNaN(f.Lowest), "without minima nothing is known")
	require.True(t, f.LastOn.IsZero() && f.NextOn.IsZero())
}

func said(s *Sky, in units.Saying) string {
	var out []string
	for _, x := range s.Sentences(func(id string) string { return id }, in) {
		out = append(out, x.Text)
	}
	return strings.Join(out, "\n")
}

// Who has not said when the damage was first seen is told of the days up to today, not of an onset.
func TestSentencesWithAndWithoutOnset(t *testing.T) {
	days := series(60, 20, 35, 0, nil)
	dry := false
	g := Ground{Zone: soil.Zone{Latitude: 38, Texture: "sandy-loam"}, Irrigated: &dry, EnduranceWeeks: 4, Date: days[59].Date}
	s := Of(days, nil, g)
	require.Contains(t, said(&s, units.Saying{}), "Of late 18 of 18 mm in the root zone were gone")
	require.Contains(t, said(&s, units.Saying{}), "days up to today")
	require.NotContains(t, said(&s, units.Saying{}), "onset")
	g.Onset = days[50].Date
	s = Of(days, nil, g)
	require.Contains(t, said(&s, units.Saying{}), "Around onset")
	require.Contains(t, said(&s, units.Saying{}), "days before onset")
	us := said(&s, units.In("us"))
	require.Contains(t, us, "over 85 °F")
	require.Contains(t, us, "inches in the root zone")
	require.NotContains(t, us, " mm")
	require.NotContains(t, us, "°C")
}

// Spraying is said by the hour where hours are known, by the day where they are not.
func TestSentenceOfSpraying(t *testing.T) {
	wind := 2.0
	days := series(30, 10, 20, 0, nil)
	for i := range days {
		days[i].Wind = &wind
	}
	last := days[29].Date
	plain := series(3, 10, 20, 0, nil)
	var hourly []weather.Day
	for i := range plain {
		plain[i].Date, plain[i].Wind = last.AddDate(0, 0, i+1), &wind
		hourly = append(hourly, calm(last.AddDate(0, 0, i+1)))
		for k := 12; k < 24; k++ {
			hourly[i].Hours.Wind[k] = 8
		}
	}
	g := Ground{Zone: soil.Zone{Latitude: 38}, Date: last}
	s := Of(days, plain, g)
	require.Contains(t, said(&s, units.Saying{}), "Days that may be fit to spray by wind, rain and heat: 11 August, 12 August, 13 August.")
	s = Of(days, hourly, g)
	require.Contains(t, said(&s, units.Saying{}), "Hours that may be fit to spray by wind, rain and heat: 11 August 5 to 12 h,")
	b, _ := s.Band("spraying")
	require.InDelta(t, 7./8, b.Strength[30], 1e-9, "the band is the share of a working day")
}

// The cold that kills is that of the grass; a grass without a value has that of its family, and the finding says which.
func TestDeepColdByGrass(t *testing.T) {
	winter := series(120, -18, -6, 0, nil)
	for i := range winter {
		winter[i].Date = time.Date(2026, 2, 20, 0, 0, 0, 0, time.UTC).AddDate(0, 0, i-119)
	}
	word := func(limit float64, warm bool) (string, string) {
		s := Of(winter, nil, Ground{Zone: soil.Zone{Latitude: 44, Warm: warm}, ColdLimit: limit, Date: winter[119].Date})
		for _, f := range s.Findings {
			if f.Finding == "deep-cold" {
				return f.Word, f.Detail
			}
		}
		return "", ""
	}
	w, detail := word(-17, false)
	require.Equal(t, "past-limit", w)
	require.Contains(t, detail, "at about -17 °C")
	w, _ = word(-20, false)
	require.Equal(t, "near-limit", w)
	w, _ = word(-26, false)
	require.Equal(t, "none", w)
	w, detail = word(0, false)
	require.Equal(t, "near-limit", w)
	require.Contains(t, detail, "-22 °C")
	w, _ = word(0, true)
	require.Equal(t, "past-limit", w)
}
