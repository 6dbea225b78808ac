// Package readingfile is the plain CSV dialect in which readings of probes and thermometers and soil tests come in and go out,
// version 1, described in docs/formats.md: a line that declares what follows, a header, then a reading a line. A file is taken
// whole or refused whole, with every reason by its line.
package readingfile

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

	"hodos/core/knowledge"
	"hodos/exchange/plain"
	"hodos/exchange/refusal"
)

// Reading is one line. Times are those of the place.
type Reading struct {
	Line    int
	Zone    string // its name on the site, or its key
	Day     time.Time
	Hour    *float64 // clock time, where the line has one
	Finding string
	Value   float64 // in the unit of the vocabulary
}

// unit turns what a file has into the unit of the vocabulary.
type unit struct{ factor, offset float64 }

func (u unit) si(x float64) float64 { return (x + u.offset) * u.factor }

// kinds lists the findings that a file may carry, each with the units that it may come in; the first is the vocabulary's own.
// Pound-force per square inch is 6.894757 kPa (NIST Special Publication 811).
var kinds = map[string][]struct {
	name string
	unit
}{
	"soil-temp-c":                 {{"C", unit{1, 0}}, {"°C", unit{1, 0}}, {"F", unit{5. / 9, -32}}, {"°F", unit{5. / 9, -32}}},
	"soil-moisture-vwc":           {{"%", unit{1, 0}}, {"m3/m3", unit{100, 0}}},
	"penetration-kpa":             {{"kPa", unit{1, 0}}, {"MPa", unit{1000, 0}}, {"psi", unit{6.894757, 0}}},
	"infiltration-mm-h":           {{"mm/h", unit{1, 0}}, {"in/h", unit{25.4, 0}}},
	"soil-ph":                     {{"pH", unit{1, 0}}},
	"soil-p-ppm":                  {{"mg/kg", unit{1, 0}}, {"ppm", unit{1, 0}}},
	"soil-k-ppm":                  {{"mg/kg", unit{1, 0}}, {"ppm", unit{1, 0}}},
	"soil-fe-ppm":                 {{"mg/kg", unit{1, 0}}, {"ppm", unit{1, 0}}},
	"soil-organic-matter-percent": {{"%", unit{1, 0}}},
	"soil-ec-ds-m":                {{"dS/m", unit{1, 0}}, {"mS/cm", unit{1, 0}}},
	"soil-sar":                    {{"", unit{1, 0}}},
}

// Findings lists the ids that a file may carry.
func Findings() []string {
	out := make([]string, 0, len(kinds))
	for id := range kinds {
		out = append(out, id)
	}
	sort.Strings(out)
	return out
}

// SoilTest reports whether a finding is of a soil test, which holds for long, rather than of the day.
func SoilTest(finding string) bool {
	return strings.HasPrefix(finding, "soil-") && finding != "soil-temp-c" && finding != "soil-moisture-vwc"
}

var header = []string{"time", "zone", "finding", "value", "unit"}

const most = 200_000 // lines

// Read reads a file line by line. zones tells the zones of the site by name and by key. The error is a
// *refusal.Refusal, or the reader's own.
func Read(in io.Reader, known func(zone string) bool, today time.Time) (readings []Reading, place *time.Location, err error) {
	refused := &refusal.Refusal{}
	buffered := bufio.NewReaderSize(in, 64<<10)
	first, err := buffered.ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return nil, nil, err
	}
	part := strings.Split(strings.TrimSpace(strings.TrimPrefix(first, "\ufeff")), ",")
	if len(part) != 3 || part[0] != "hodos-readings" {
		refused.Add(1, "", `must read hodos-readings,1 and a time zone: "hodos-readings,1,Europe/Berlin"`)
		return nil, nil, refused
	}
	if part[1] != "1" {
		refused.Add(1, "", "version %q is not 1", part[1])
	}
	place, err = time.LoadLocation(part[2])
	if err != nil || part[2] == "" || part[2] == "Local" {
		refused.Add(1, "", "%q is not a time zone by its IANA name", part[2])
	}
	rows := csv.NewReader(buffered)
	rows.ReuseRecord, rows.FieldsPerRecord = true, -1
	head, err := rows.Read()
	if err != nil || strings.Join(head, ",") != strings.Join(header, ",") {
		refused.Add(2, "", "the header must read %s", strings.Join(header, ","))
	}
	if refused.Count > 0 {
		return nil, nil, refused
	}
	seen := map[string]int{}
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
			return nil, nil, err // the connection, or the size
		}
		if line-2 > most {
			refused.Add(line, "", "more than %d lines: cut the file", most)
			break
		}
		if r, ok := read(line, rec, place, known, today, refused); ok {
			key := fmt.Sprintf("%s %s %s %v", strings.ToLower(r.Zone), r.Day.Format(time.DateOnly), r.Finding, rec[0])
			if at, twice := seen[key]; twice {
				refused.Add(line, "", "says the same as line %d", at)
				continue
			}
			seen[key] = line
			readings = append(readings, r)
		}
	}
	if len(readings) == 0 && refused.Count == 0 {
		refused.Add(3, "", "there are no lines")
	}
	if refused.Count > 0 {
		return nil, nil, refused
	}
	return readings, place, nil
}

func read(line int, rec []string, place *time.Location, known func(string) bool, today time.Time, refused *refusal.Refusal) (r Reading,
	ok bool) {
	before := refused.Count
	if len(rec) != len(header) {
		refused.Add(line, "", "has %d fields, the header has %d", len(rec), len(header))
		return r, false
	}
	r = Reading{Line: line, Zone: strings.TrimSpace(rec[1]), Finding: strings.TrimSpace(rec[2])}
	r.Day, r.Hour = clock(line, rec[0], place, today, refused)
	if !known(r.Zone) {
		refused.Add(line, "zone", "%q is no zone of this site", r.Zone)
	}
	units, is := kinds[r.Finding]
	if !is {
		refused.Add(line, "finding", "%q is not one of %s", r.Finding, strings.Join(Findings(), ", "))
		return r, false
	}
	if r.Finding == "soil-temp-c" && r.Hour == nil && refused.Count == before {
		refused.Add(line, "time", "a soil temperature needs its hour: 2026-08-20T14:30")
	}
	f, _ := knowledge.FindingByID(r.Finding)
	text := strings.TrimSpace(rec[3])
	x, ok := plain.Number(text)
	if !ok {
		refused.Add(line, "value", "%q is not a number with a decimal point", text)
		return r, false
	}
	names := make([]string, len(units))
	for i, u := range units {
		names[i] = u.name
		if u.name == strings.TrimSpace(rec[4]) {
			r.Value = u.si(x)
			if r.Value < f.Min || r.Value > f.Max {
				refused.Add(line, "value", "%g %s is impossible (%g to %g %s)", x, u.name, f.Min, f.Max, units[0].name)
			}
			return r, refused.Count == before
		}
	}
	refused.Add(line, "unit", "%q is not one of %s", rec[4], strings.Join(names, ", "))
	return r, false
}

// clock reads a day or a time of the place.
func clock(line int, text string, place *time.Location, today time.Time, refused *refusal.Refusal) (day time.Time, hour *float64) {
	text = strings.TrimSpace(text)
	wall, err := time.Parse("2006-01-02T15:04", text)
	if err == nil {
		there := time.Date(wall.Year(), wall.Month(), wall.Day(), wall.Hour(), wall.Minute(), 0, 0, place)
		if there.Hour() != wall.Hour() {
			refused.Add(line, "time", "%s does not exist in %s: the clock was put forward", text, place)
			return day, nil
		}
		h := float64(wall.Hour()) + float64(wall.Minute())/60
		hour = &h
	} else if wall, err = time.Parse(time.DateOnly, text); err != nil {
		refused.Add(line, "time", "%q is neither a day (2026-08-20) nor a time (2026-08-20T14:30)", text)
		return day, nil
	}
	day = time.Date(wall.Year(), wall.Month(), wall.Day(), 0, 0, 0, 0, time.UTC)
	if why := plain.Outside(day, today); why != "" {
		refused.Add(line, "time", "%s %s", text, why)
	}
	return day, hour
}

// Write writes readings in the dialect, in the vocabulary's units. What is read again is the same.
func Write(w io.Writer, readings []Reading, place *time.Location) error {
	if _, err := fmt.Fprintf(w, "hodos-readings,1,%s\n", place); err != nil {
		return err
	}
	out := csv.NewWriter(w)
	_ = out.Write(header)
	for _, r := range readings {
		at := r.Day.Format(time.DateOnly)
		if r.Hour != nil {
			minutes := int(math.Round(*r.Hour * 60))
			at += fmt.Sprintf("T%02d:%02d", min(minutes/60, 23), minutes%60)
		}
		_ = out.Write([]string{at, r.Zone, r.Finding, strconv.FormatFloat(r.Value, 'f', -1, 64), kinds[r.Finding][0].name})
	}
	out.Flush()
	return out.Error()
}
