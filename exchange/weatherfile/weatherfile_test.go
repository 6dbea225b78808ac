package weatherfile

import (
	"bytes"
	"fmt"
	"math"
	"strings"
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/require"

	"hodos/core/weather"
)

// day is the day of the work clock in these tests.
var day = time.Date(2026, 12, 31, 0, 0, 0, 0, time.UTC)

func TestUnitsComeToSI(t *testing.T) {
	s, err := Read(strings.NewReader("hodos-weather,1,daily,America/New_York\ndate,tmin_f,tmax_f,rain_in,wind_mph,snow_in\n2026-07-01,59,86,0.5,5,0\n2026-07-02,,86,,,\n"), day, nil)
	require.NoError(t, err)
	require.Len(t, s.Days, 2)
	require.InDelta(t, 15, *s.Days[0].TMin, 1e-9)
	require.InDelta(t, 30, *s.Days[0].TMax, 1e-9)
	require.InDelta(t, 12.7, *s.Days[0].Rain, 1e-9)
	require.InDelta(t, 2.2352, *s.Days[0].Wind, 1e-9)
	require.Nil(t, s.Days[1].TMin, "an empty field is not measured, never nought")
	s, err = Read(strings.NewReader("hodos-weather,1,daily,UTC\ndate,tmin_c,tmax_c,wind_kmh\n2026-07-01,24,11,18\n2026-07-02,11,24,0\n"), day, nil)
	require.NoError(t, err)
	require.InDelta(t, 5, *s.Days[0].Wind, 1e-9, "km/h")
	require.Equal(t, []float64{11, 24}, []float64{*s.Days[0].TMin, *s.Days[0].TMax}, "read the other way round")
	require.Len(t, s.Flags, 1)
	s, err = Read(strings.NewReader("hodos-weather,1,hourly,UTC\ntime,solar_w_m2,wind10m_ms\n2026-07-01T12:00,800,4\n"), day, nil)
	require.NoError(t, err)
	require.InDelta(t, 2.88, s.Days[0].Hours.Solar[12], 1e-9)
	require.InDelta(t, 4*.748, s.Days[0].Hours.Wind[12], .01)
}

func TestRefusals(t *testing.T) {
	daily := "hodos-weather,1,daily,Europe/Berlin\n"
	hourly := "hodos-weather,1,hourly,Europe/Berlin\ntime,temp_c,rain_mm\n"
	for _, c := range []struct{ name, file, why string }{
		{"nothing", "", "must read hodos-weather"},
		{"no declaration", "date,tmin_c\n2026-01-01,4\n", "must read hodos-weather"},
		{"other version", "hodos-weather,2,daily,UTC\ndate,tmin_c\n", "version"},
		{"no zone", "hodos-weather,1,daily,Middle-earth\ndate,tmin_c\n", "time zone"},
		{"no unit", daily + "date,tmin\n2026-01-01,4\n", "line 2, tmin: is no column"},
		{"the same twice", daily + "date,tmin_c,tmin_f\n2026-01-01,4,39\n", "says the same as tmin_c"},
		{"an hour's column by day", daily + "date,temp_c\n2026-01-01,4\n", "does not belong"},
		{"no lines", daily + "date,tmin_c\n", "no lines"},
		{"impossible", daily + "date,tmin_c\n2026-01-01,140\n", "line 3, tmin: 140 is impossible"},
		{"comma for a point", daily + "date,tmin_c\n2026-01-01,\"4,5\"\n", "decimal point"},
		{"day twice", daily + "date,tmin_c\n2026-01-01,4\n2026-01-01,5\n", "line 4: 2026-01-01 stands twice"},
		{"short line", daily + "date,tmin_c,tmax_c\n2026-01-01,4\n", "has 2 fields, the header has 3"},
		{"no date", daily + "date,tmin_c\n1 January,4\n", "is not a time"},
		{"hour twice", hourly + "2026-07-01T05:00,4,0\n2026-07-01T05:00,5,0\n", "line 4: 2026-07-01T05:00 stands twice"},
		{"half hour", hourly + "2026-07-01T05:30,4,0\n", "not a full hour"},
		{"an hour that does not exist", hourly + "2026-03-29T02:00,4,0\n", "does not exist in Europe/Berlin"},
		{"an hour three times", hourly + "2026-10-25T02:00,4,0\n2026-10-25T02:00,4,0\n2026-10-25T02:00,4,0\n", "stands twice"},
	} {
		_, err := Read(strings.NewReader(c.file), day, nil)
		var r *Refusal
		require.ErrorAs(t, err, &r, c.name)
		require.Contains(t, err.Error(), c.why, c.name)
	}
}

func TestTheClockGoingBackIsFlagged(t *testing.T) {
	s, err := Read(strings.NewReader("hodos-weather,1,hourly,Europe/Berlin\ntime,temp_c,rain_mm\n2026-10-25T01:00,9,0\n2026-10-25T02:00,8,1\n2026-10-25T02:00,6,2\n2026-10-25T03:00,5,0\n"), day, nil)
	require.NoError(t, err)
	require.Len(t, s.Flags, 1)
	require.Contains(t, s.Flags[0].String(), "line 5")
	require.InDelta(t, 7, s.Days[0].Hours.Temp[2], 1e-9)
	require.InDelta(t, 3, s.Days[0].Hours.Rain[2], 1e-9)
}

func TestEveryLineIsToldAndNothingIsHalfTaken(t *testing.T) {
	var b strings.Builder
	b.WriteString("hodos-weather,1,daily,UTC\ndate,tmin_c\n")
	for i := range 400 {
		x := 4
		if i%2 == 0 {
			x = 400
		}
		fmt.Fprintf(&b, "%s,%d\n", time.Date(2025, 1, 1+i, 0, 0, 0, 0, time.UTC).Format(time.DateOnly), x)
	}
	s, err := Read(strings.NewReader(b.String()), day, nil)
	var r *Refusal
	require.ErrorAs(t, err, &r)
	require.Equal(t, 200, r.Count)
	require.Len(t, r.Problems, 100)
	require.Contains(t, err.Error(), "and 100 more")
	require.Empty(t, s.Days)
}

func TestAHundredThousandLinesWithProgress(t *testing.T) {
	var b bytes.Buffer
	b.WriteString("hodos-weather,1,hourly,UTC\ntime,temp_c,rh_percent,rain_mm,wind_ms\n")
	for i := range 100_000 {
		at := time.Date(2015, 1, 1, i, 0, 0, 0, time.UTC)
		fmt.Fprintf(&b, "%s,%.1f,%d,%.1f,2.1\n", at.Format("2006-01-02T15:04"), 10+8*math.Sin(float64(i)/4), 50+i%40, float64(i%7)/10)
	}
	calls := 0
	s, err := Read(&b, day, func(int) { calls++ })
	require.NoError(t, err)
	require.Equal(t, 100, calls)
	require.Equal(t, 100_000, s.Lines)
	require.Len(t, s.Days, 4167)
	require.NotNil(t, s.Days[0].TMax, "the day's values are made of its hours")
}

func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	h := weather.NoHours()
	for i := range 24 {
		h.Temp[i], h.RH[i], h.Rain[i] = 10+float64(i)/2, 80-float64(i), 0
	}
	h.Rain[3] = 1.25
	lo, hi, rain, snow := 4.25, 17.5, 0.0, 3.0
	first := weather.Day{Date: time.Date(2026, 7, 1, 0, 0, 0, 0, time.UTC), Hours: h}
	days := []weather.Day{first.Daily(), {Date: time.Date(2026, 7, 3, 0, 0, 0, 0, time.UTC), TMin: &lo, TMax: &hi, Rain: &rain, Snow: &snow}}
	var b bytes.Buffer
	require.NoError(t, Write(&b, days, false, time.UTC))
	s, err := Read(&b, day, nil)
	require.NoError(t, err)
	require.InDelta(t, *days[0].TMax, *s.Days[0].TMax, 1e-9)
	require.Equal(t, days[1], s.Days[1])
	require.Len(t, s.Flags, 1, "a day is left out, and that is said")
	b.Reset()
	require.NoError(t, Write(&b, days, true, time.UTC))
	s, err = Read(&b, day, nil)
	require.NoError(t, err)
	require.Equal(t, h.Temp, s.Days[0].Hours.Temp)
	require.Equal(t, h.Rain, s.Days[0].Hours.Rain)
}

func TestAFileHasLimits(t *testing.T) {
	reason := func(file string) string {
		_, err := Read(strings.NewReader(file), day, nil)
		require.Error(t, err)
		return err.Error()
	}
	wide := "hodos-weather,1,daily,UTC\ndate" + strings.Repeat(",x", 1_000_000) + "\n"
	start := time.Now()
	require.Contains(t, reason(wide), "line 2: has 1000001 columns")
	require.Less(t, time.Since(start), 5*time.Second, "a wide header is refused at once, not column by column")
	head := "hodos-weather,1,daily,UTC\ndate,solar_w_m2,rain_mm\n"
	require.Contains(t, reason(head+"2026-07-01,1500,0\n"), "1500 is impossible (0 to 578)")
	require.Contains(t, reason(head+"0001-01-01,,0\n"), "is before 1900")
	require.Contains(t, reason(head+"2027-01-02,,0\n"), "is in the future")
	require.Contains(t, reason(head+"2026-07-01,,0x1p3\n"), "is not a number")
	var long strings.Builder
	long.WriteString(head)
	for i := range mostDays + 1 {
		fmt.Fprintf(&long, "%s,,1\n", time.Date(1950, 1, 1+i, 0, 0, 0, 0, time.UTC).Format(time.DateOnly))
	}
	require.Contains(t, reason(long.String()), "more than 20000 days")
	_, err := Read(strings.NewReader(head+"2027-01-01,578,0\n"), day, nil)
	require.NoError(t, err, "tomorrow has begun somewhere")
}
