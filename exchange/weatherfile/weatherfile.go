// Package weatherfile is the plain CSV dialect in which weather comes in and goes out, version 1, described in docs/formats.md:
// one line that declares what follows, a header whose names carry the units, then a line an hour or a day. A file is taken
// whole or refused whole, with every reason by its line; what is odd but possible is flagged.
package weatherfile

import (
	"bufio"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"sort"
	"strconv"
	"strings"
	"time"

	"hodos/core/weather"
	"hodos/exchange/plain"
	"hodos/exchange/refusal"
)

// Problem and Refusal are those of all plain dialects.
type (
	Problem = refusal.Problem
	Refusal = refusal.Refusal
)

// Series is what a file holds: days oldest first, with hours where it is hourly.
type Series struct {
	Hourly bool
	Zone   *time.Location
	Days   []weather.Day
	Lines  int
	Flags  []Problem // odd but possible: an hour read twice as the clock went back, days left out
}

// column is one quantity of the dialect: its unit, its physical range and how it comes to SI.
type column struct {
	quantity string // temp, rh, rain, wind, solar, snow, tmin, tmax, irrigation
	si       func(float64) float64
	min, max float64 // in the file's unit
}

func same(x float64) float64 { return x }

// columns by their header names. Wind is at 2 m unless the name says 10 m.
var columns = map[string]column{
	"temp_c":        {"temp", same, -70, 60},
	"temp_f":        {"temp", func(f float64) float64 { return (f - 32) / 1.8 }, -94, 140},
	"tmin_c":        {"tmin", same, -70, 60},
	"tmin_f":        {"tmin", func(f float64) float64 { return (f - 32) / 1.8 }, -94, 140},
	"tmax_c":        {"tmax", same, -70, 60},
	"tmax_f":        {"tmax", func(f float64) float64 { return (f - 32) / 1.8 }, -94, 140},
	"rh_percent":    {"rh", same, 0, 100},
	"rain_mm":       {"rain", same, 0, 800},
	"rain_in":       {"rain", func(x float64) float64 { return x * 25.4 }, 0, 31.5},
	"wind_ms":       {"wind", same, 0, 90},
	"wind_mph":      {"wind", func(x float64) float64 { return x * .44704 }, 0, 200},
	"wind_kmh":      {"wind", func(x float64) float64 { return x / 3.6 }, 0, 324},
	"wind10m_ms":    {"wind", func(x float64) float64 { return weather.WindAt2(x, 10) }, 0, 90},
	"wind10m_mph":   {"wind", func(x float64) float64 { return weather.WindAt2(x*.44704, 10) }, 0, 200},
	"solar_mj_m2":   {"solar", same, 0, 50},
	"solar_w_m2":    {"solar", nil, 0, 1500},
	"snow_cm":       {"snow", same, 0, 1000},
	"snow_in":       {"snow", func(x float64) float64 { return x * 2.54 }, 0, 394},
	"irrigation_mm": {"irrigation", same, 0, 300},
	"irrigation_in": {"irrigation", func(x float64) float64 { return x * 25.4 }, 0, 12},
}

// Columns lists the header names.
func Columns() []string {
	out := make([]string, 0, len(columns))
	for name := range columns {
		out = append(out, name)
	}
	sort.Strings(out)
	return out
}

// Read reads a file line by line; progress, when given, is called every thousand lines. The error is a *Refusal, or the
// reader's own. It keeps no more than the series itself in memory. today is the day of the work clock: no day after tomorrow is taken.
func Read(in io.Reader, today time.Time, progress func(lines int)) (Series, error) {
	refused := &Refusal{}
	buffered := bufio.NewReaderSize(in, 64<<10)
	first, err := buffered.ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return Series{}, err
	}
	s := Series{}
	if !s.declared(strings.TrimSpace(strings.TrimPrefix(first, "\ufeff")), refused) {
		return Series{}, refused
	}
	rows := csv.NewReader(buffered)
	rows.ReuseRecord, rows.FieldsPerRecord = true, -1
	head, err := rows.Read()
	if err != nil {
		refused.Add(2, "", "there is no header")
		return Series{}, refused
	}
	cols := s.header(head, refused)
	if refused.Count > 0 {
		return Series{}, refused
	}
	b := builder{s: &s, refused: refused, cols: cols, at: map[string]int{}, today: today}
	for line := 3; ; line++ {
		rec, err := rows.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if bad := (*csv.ParseError)(nil); errors.As(err, &bad) {
			refused.Add(line, "", "%s", err.Error())
			break
		}
		if err != nil {
			return Series{}, err // the connection, or the size
		}
		b.line(line, rec)
		s.Lines++
		if progress != nil && s.Lines%1000 == 0 {
			progress(s.Lines)
		}
	}
	if s.Lines == 0 {
		refused.Add(3, "", "there are no lines")
	}
	if refused.Count > 0 {
		return Series{}, refused
	}
	b.finish()
	return s, nil
}

// declared reads "hodos-weather,1,hourly,Europe/Berlin".
func (s *Series) declared(first string, refused *Refusal) bool {
	part := strings.Split(first, ",")
	if len(part) != 4 || part[0] != "hodos-weather" {
		refused.Add(1, "", `must read hodos-weather,1,hourly or daily, and a time zone: "hodos-weather,1,hourly,Europe/Berlin"`)
		return false
	}
	if part[1] != "1" {
		refused.Add(1, "", "version %q is not 1", part[1])
	}
	switch part[2] {
	case "hourly":
		s.Hourly = true
	case "daily":
	default:
		refused.Add(1, "", "%q is neither hourly nor daily", part[2])
	}
	zone, err := time.LoadLocation(part[3])
	if err != nil || part[3] == "" || part[3] == "Local" {
		refused.Add(1, "", "%q is not a time zone by its IANA name", part[3])
	}
	s.Zone = zone
	return refused.Count == 0
}

func (s *Series) header(head []string, refused *Refusal) []column {
	time, odd := "date", map[string]bool{"temp": true}
	if s.Hourly {
		time, odd = "time", map[string]bool{"tmin": true, "tmax": true, "snow": true, "irrigation": true}
	}
	if head[0] != time {
		refused.Add(2, head[0], "the first column must be %q", time)
	}
	if len(head) > len(columns)+1 {
		refused.Add(2, "", "has %d columns, and the dialect knows %d", len(head), len(columns)+1)
		return nil
	}
	cols, seen := make([]column, len(head)), map[string]string{}
	for i, name := range head[1:] {
		c, ok := columns[name]
		switch {
		case !ok:
			refused.Add(2, name, "is no column of this dialect; known are %s", strings.Join(Columns(), ", "))
		case seen[c.quantity] != "":
			refused.Add(2, name, "says the same as %s", seen[c.quantity])
		case odd[c.quantity]:
			refused.Add(2, name, "does not belong into this kind of file")
		}
		seen[c.quantity] = name
		cols[i+1] = c
	}
	if len(head) < 2 {
		refused.Add(2, "", "there is no column beside %s", time)
	}
	return cols
}

// mostDays is what one file may hold: more than half a century.
const mostDays = 20_000

// builder gathers lines into days.
type builder struct {
	s       *Series
	refused *Refusal
	cols    []column
	at      map[string]int // day to index
	today   time.Time
	seen    map[[2]int]int // day and hour to how often
}

func (b *builder) line(line int, rec []string) {
	if len(rec) != len(b.cols) {
		b.refused.Add(line, "", "has %d fields, the header has %d", len(rec), len(b.cols))
		return
	}
	layout := "2006-01-02"
	if b.s.Hourly {
		layout = "2006-01-02T15:04"
	}
	wall, err := time.Parse(layout, rec[0]) // the wall clock as it stands
	if err != nil {
		b.refused.Add(line, "", "%q is not a time of the form %s", rec[0], layout)
		return
	}
	if b.s.Hourly && wall.Minute() != 0 {
		b.refused.Add(line, "", "%s is not a full hour", rec[0])
		return
	}
	if there := time.Date(wall.Year(), wall.Month(), wall.Day(), wall.Hour(), 0, 0, 0, b.s.Zone); there.Hour() != wall.Hour() {
		b.refused.Add(line, "", "%s does not exist in %s: the clock was put forward", rec[0], b.s.Zone)
		return
	}
	if why := plain.Outside(time.Date(wall.Year(), wall.Month(), wall.Day(), 0, 0, 0, 0, time.UTC), b.today); why != "" {
		b.refused.Add(line, "", "%s %s", rec[0], why)
		return
	}
	key := wall.Format(time.DateOnly)
	i, known := b.at[key]
	if !known && len(b.s.Days) == mostDays {
		b.refused.Add(line, "", "more than %d days: cut the file", mostDays)
		return
	}
	if !known {
		i = len(b.s.Days)
		b.at[key] = i
		d := weather.Day{Date: time.Date(wall.Year(), wall.Month(), wall.Day(), 0, 0, 0, 0, time.UTC)}
		if b.s.Hourly {
			d.Hours = weather.NoHours()
		}
		b.s.Days = append(b.s.Days, d)
	}
	again := b.twice(line, i, wall, known)
	if again < 0 {
		return
	}
	for k := 1; k < len(rec); k++ {
		if text := strings.TrimSpace(rec[k]); text != "" {
			x, ok := plain.Number(text)
			c := b.cols[k]
			if !ok {
				b.refused.Add(line, c.quantity, "%q is not a number with a decimal point", text)
			} else if most := b.most(c); x < c.min || x > most {
				b.refused.Add(line, c.quantity, "%g is impossible (%g to %g)", x, c.min, most)
			} else {
				b.put(&b.s.Days[i], c, x, wall.Hour(), again)
			}
		}
	}
}

// most is the largest value of a column: a day's mean of sunshine is less than an hour's. 578 W/m² over a day are 50 MJ/m², more than
// reaches the top of the air anywhere (FAO Irrigation and Drainage Paper 56, table 2.6: 45).
func (b *builder) most(c column) float64 {
	if c.si == nil && !b.s.Hourly {
		return min(c.max, 578)
	}
	return c.max
}

// twice reports how often the hour was read before: 0, or 1 for the hour that comes twice as the clock goes back. Anything
// else is refused.
func (b *builder) twice(line, i int, wall time.Time, known bool) int {
	if !b.s.Hourly {
		if known {
			b.refused.Add(line, "", "%s stands twice", wall.Format(time.DateOnly))
			return -1
		}
		return 0
	}
	if b.seen == nil {
		b.seen = map[[2]int]int{}
	}
	k := [2]int{i, wall.Hour()}
	n := b.seen[k]
	b.seen[k] = n + 1
	if n == 0 {
		return 0
	}
	one := time.Date(wall.Year(), wall.Month(), wall.Day(), wall.Hour(), 0, 0, 0, b.s.Zone)
	folds := one.Add(time.Hour).Hour() == one.Hour() || one.Add(-time.Hour).Hour() == one.Hour()
	if n > 1 || !folds {
		b.refused.Add(line, "", "%s stands twice", wall.Format("2006-01-02T15:04"))
		return -1
	}
	b.s.Flags = append(b.s.Flags, Problem{Line: line,
		Reason: wall.Format("2006-01-02T15:04") + " comes twice as the clock goes back: rain is added up, the rest is the mean"})
	return 1
}

func (b *builder) put(d *weather.Day, c column, x float64, hour, again int) {
	si := x
	if c.si != nil {
		si = c.si(x)
	} else if b.s.Hourly { // W/m² over an hour to MJ/m²
		si = x * .0036
	} else { // W/m² as the day's mean
		si = x * .0864
	}
	if b.s.Hourly {
		into := map[string]*[24]float64{"temp": &d.Hours.Temp, "rh": &d.Hours.RH, "rain": &d.Hours.Rain, "wind": &d.Hours.Wind,
			"solar": &d.Hours.Solar}[c.quantity]
		switch {
		case again == 0 || math.IsNaN(into[hour]):
			into[hour] = si
		case c.quantity == "rain":
			into[hour] += si
		default:
			into[hour] = (into[hour] + si) / 2
		}
		return
	}
	into := map[string]**float64{"tmin": &d.TMin, "tmax": &d.TMax, "rh": &d.RH, "rain": &d.Rain, "wind": &d.Wind, "solar": &d.Solar,
		"snow": &d.Snow, "irrigation": &d.Irrigation}[c.quantity]
	*into = &si
}

// finish puts the days in order, flags holes, and refuses nothing any more.
func (b *builder) finish() {
	weather.Sort(b.s.Days)
	for i := range b.s.Days {
		b.s.Days[i] = b.s.Days[i].Daily()
		if i > 0 {
			if gap := int(b.s.Days[i].Date.Sub(b.s.Days[i-1].Date).Hours()/24) - 1; gap > 0 {
				b.s.Flags = append(b.s.Flags, Problem{Reason: fmt.Sprintf("%s missing after %s",
					map[bool]string{true: "1 day is", false: fmt.Sprintf("%d days are", gap)}[gap == 1], b.s.Days[i-1].Date.Format(time.DateOnly))})
			}
		}
		if d := b.s.Days[i]; d.TMin != nil && d.TMax != nil && *d.TMin > *d.TMax {
			b.s.Flags = append(b.s.Flags, Problem{Reason: fmt.Sprintf("%s: the minimum lies over the maximum; they are read the other way round",
				d.Date.Format(time.DateOnly))})
			b.s.Days[i].TMin, b.s.Days[i].TMax = d.TMax, d.TMin
		}
	}
}

// Write writes days in the dialect, in SI, hourly where asked for and hours are known. What is read again is the same.
func Write(w io.Writer, days []weather.Day, hourly bool, zone *time.Location) error {
	kind, head := "daily", "date,tmin_c,tmax_c,rh_percent,rain_mm,wind_ms,solar_mj_m2,snow_cm,irrigation_mm"
	if hourly {
		kind, head = "hourly", "time,temp_c,rh_percent,rain_mm,wind_ms,solar_mj_m2"
	}
	out := bufio.NewWriter(w)
	fmt.Fprintf(out, "hodos-weather,1,%s,%s\n%s\n", kind, zone, head)
	number := func(x float64) string {
		if math.IsNaN(x) {
			return ""
		}
		return strconv.FormatFloat(x, 'f', -1, 64)
	}
	optional := func(x *float64) string {
		if x == nil {
			return ""
		}
		return number(*x)
	}
	for _, d := range days {
		if !hourly {
			fmt.Fprintf(out, "%s,%s,%s,%s,%s,%s,%s,%s,%s\n", d.Date.Format(time.DateOnly), optional(d.TMin), optional(d.TMax), optional(d.RH),
				optional(d.Rain), optional(d.Wind), optional(d.Solar), optional(d.Snow), optional(d.Irrigation))
			continue
		}
		if d.Hours == nil {
			continue
		}
		for h := range 24 {
			at := time.Date(d.Date.Year(), d.Date.Month(), d.Date.Day(), h, 0, 0, 0, zone)
			if at.Hour() != h {
				continue
			}
			x := d.Hours
			fmt.Fprintf(out, "%sT%02d:00,%s,%s,%s,%s,%s\n", d.Date.Format(time.DateOnly), h, number(x.Temp[h]), number(x.RH[h]), number(x.Rain[h]),
				number(x.Wind[h]), number(x.Solar[h]))
		}
	}
	return out.Flush()
}
