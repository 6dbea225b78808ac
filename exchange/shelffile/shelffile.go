// Package shelffile is the plain CSV dialect in which products come in and go out, version 1, described in docs/formats.md: a line that
// declares what follows, a header, then a use of a label a line. A file is taken whole or refused whole, with every reason by its line.
package shelffile

import (
	"bufio"
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"sort"
	"strconv"
	"strings"

	"hodos/core/label"
	"hodos/exchange/plain"
	"hodos/exchange/refusal"
)

const (
	declares = "hodos-shelf,1"
	most     = 20_000 // lines
	longest  = 2000   // letters of a field
)

// column is one column: how it is written, and how it is read. of tells whether it belongs to the product or to the use.
type column struct {
	name  string
	write func(l *label.Label, u *label.Use) string
	read  func(l *label.Label, u *label.Use, text string) error
	of    string
}

func words(
	get func(*label.Label, *label.Use) *string,
) (w func(*label.Label, *label.Use) string, r func(*label.Label, *label.Use, string) error) {
	return func(l *label.Label, u *label.Use) string { return *get(l, u) }, func(l *label.Label, u *label.Use, text string) error {
		*get(l, u) = text
		return nil
	}
}

func text(name, of string, get func(*label.Label, *label.Use) *string) column {
	w, r := words(get)
	return column{name, w, r, of}
}

func figure(name, of string, get func(*label.Label, *label.Use) *float64) column {
	return column{
		name,
		func(l *label.Label, u *label.Use) string { return said(*get(l, u)) },
		func(l *label.Label, u *label.Use, text string) error {
			x, err := number(text)
			*get(l, u) = x
			return err
		},
		of,
	}
}

// limit is a figure that may be left out, 0 included.
func limit(name string, get func(*label.Use) **float64) column {
	return column{name, func(_ *label.Label, u *label.Use) string {
		if p := *get(u); p != nil {
			return strconv.FormatFloat(*p, 'f', -1, 64)
		}
		return ""
	}, func(_ *label.Label, u *label.Use, text string) error {
		x, err := number(text)
		*get(u) = &x
		return err
	}, "use"}
}

func whole(name string, get func(*label.Use) *int) column {
	return column{
		name,
		func(_ *label.Label, u *label.Use) string { return said(float64(*get(u))) },
		func(_ *label.Label, u *label.Use, text string) error {
			x, err := number(text)
			if err == nil && x != float64(int(x)) {
				err = errors.New("is no whole number")
			}
			*get(u) = int(x)
			return err
		},
		"use",
	}
}

func yes(name, of string, get func(*label.Label, *label.Use) *bool) column {
	return column{name, func(l *label.Label, u *label.Use) string {
		if *get(l, u) {
			return "yes"
		}
		return ""
	}, func(l *label.Label, u *label.Use, text string) error {
		switch strings.ToLower(text) {
		case "yes", "true", "1":
			*get(l, u) = true
		case "no", "false", "0":
			*get(l, u) = false
		default:
			return errors.New("is neither yes nor no")
		}
		return nil
	}, of}
}

func list(name, of string, get func(*label.Label, *label.Use) *[]string) column {
	return column{
		name,
		func(l *label.Label, u *label.Use) string { return strings.Join(*get(l, u), ";") },
		func(l *label.Label, u *label.Use, text string) error {
			*get(l, u) = split(text)
			return nil
		},
		of,
	}
}

func said(x float64) string {
	if x == 0 {
		return ""
	}
	return strconv.FormatFloat(x, 'f', -1, 64)
}

func number(text string) (float64, error) {
	x, ok := plain.Number(text)
	if !ok {
		return 0, fmt.Errorf("%q is not a number", text)
	}
	return x, nil
}

func split(text string) (out []string) {
	for _, p := range strings.Split(text, ";") {
		if p = strings.TrimSpace(p); p != "" {
			out = append(out, p)
		}
	}
	return out
}

type (
	lab = label.Label
	use = label.Use
)

var columns = []column{
	text("product", "product", func(l *lab, _ *use) *string { return &l.Name }),
	text("maker", "product", func(l *lab, _ *use) *string { return &l.Maker }),
	text("kind", "product", func(l *lab, _ *use) *string { return &l.Kind }),
	text("form", "product", func(l *lab, _ *use) *string { return &l.Form }),
	yes("liquid", "product", func(l *lab, _ *use) *bool { return &l.Liquid }),
	yes("restricted", "product", func(l *lab, _ *use) *bool { return &l.Restricted }),
	yes("posting", "product", func(l *lab, _ *use) *bool { return &l.Posting }),
	yes("closed_until_watered_in", "product", func(l *lab, _ *use) *bool { return &l.ReentryWateredIn }),
	figure("closed_hours", "product", func(l *lab, _ *use) *float64 { return &l.ReentryHours }),
	list("protect", "product", func(l *lab, _ *use) *[]string { return &l.Protect }),
	{"places", writePlaces, readPlaces, "product"},
	{"analysis", writeAnalysis, readAnalysis, "product"},
	figure("slow_percent", "product", func(l *lab, _ *use) *float64 { return &l.SlowShare }),
	text("release", "product", func(l *lab, _ *use) *string { return &l.Release }),
	figure("release_days", "product", func(l *lab, _ *use) *float64 { return &l.ReleaseDays }),
	figure("salt_index", "product", func(l *lab, _ *use) *float64 { return &l.SaltIndex }),
	figure("density_kg_l", "product", func(l *lab, _ *use) *float64 { return &l.Density }),
	{"actives", writeActives, readActives, "product"},
	text("use", "use", func(_ *lab, u *use) *string { return &u.ID }),
	list("actions", "use", func(_ *lab, u *use) *[]string { return &u.Actions }),
	list("grasses", "use", func(_ *lab, u *use) *[]string { return &u.Grasses }),
	list("not_grasses", "use", func(_ *lab, u *use) *[]string { return &u.NotGrasses }),
	list("targets", "use", func(_ *lab, u *use) *[]string { return &u.Targets }),
	figure("rate_low", "use", func(_ *lab, u *use) *float64 { return &u.RateLow }),
	figure("rate_high", "use", func(_ *lab, u *use) *float64 { return &u.RateHigh }),
	figure("carrier_low", "use", func(_ *lab, u *use) *float64 { return &u.CarrierLow }),
	figure("carrier_high", "use", func(_ *lab, u *use) *float64 { return &u.CarrierHigh }),
	figure("interval_days", "use", func(_ *lab, u *use) *float64 { return &u.IntervalDays }),
	whole("most_a_season", func(u *use) *int { return &u.MostASeason }),
	figure("season_max", "use", func(_ *lab, u *use) *float64 { return &u.SeasonMax }),
	whole("in_a_row", func(u *use) *int { return &u.InARow }),
	limit("air_low_c", func(u *use) **float64 { return &u.AirLow }),
	limit("air_high_c", func(u *use) **float64 { return &u.AirHigh }),
	limit("soil_low_c", func(u *use) **float64 { return &u.SoilLow }),
	limit("soil_high_c", func(u *use) **float64 { return &u.SoilHigh }),
	figure("wind_high_ms", "use", func(_ *lab, u *use) *float64 { return &u.WindHigh }),
	figure("rainfast_hours", "use", func(_ *lab, u *use) *float64 { return &u.RainfastHours }),
	figure("water_in_mm", "use", func(_ *lab, u *use) *float64 { return &u.WaterInMM }),
	figure("water_in_hours", "use", func(_ *lab, u *use) *float64 { return &u.WaterInHours }),
	figure("buffer_m", "use", func(_ *lab, u *use) *float64 { return &u.BufferM }),
	figure("seed_after_days", "use", func(_ *lab, u *use) *float64 { return &u.SeedAfterDays }),
	whole("seedling_mowings", func(u *use) *int { return &u.SeedlingMows }),
	figure("seedling_days", "use", func(_ *lab, u *use) *float64 { return &u.SeedlingDays }),
	figure("mow_before_days", "use", func(_ *lab, u *use) *float64 { return &u.MowBeforeDays }),
	figure("mow_after_days", "use", func(_ *lab, u *use) *float64 { return &u.MowAfterDays }),
	yes("not_in_flower", "use", func(_ *lab, u *use) *bool { return &u.BeesFlying }),
	figure("cover_days", "use", func(_ *lab, u *use) *float64 { return &u.CoverDays }),
	figure("green_up_percent", "use", func(_ *lab, u *use) *float64 { return &u.GreenUpPercent }),
}

func writePlaces(l *lab, _ *use) string {
	var out []string
	for _, p := range l.Places {
		out = append(out, strings.Join([]string{p.Place, p.Number, p.From, p.Until}, ":"))
	}
	return strings.Join(out, ";")
}

func readPlaces(l *lab, _ *use, text string) error {
	l.Places = nil
	for _, part := range split(text) {
		f := strings.Split(part, ":")
		if len(f) > 4 {
			return fmt.Errorf("%q is not place:number:from:until", part)
		}
		f = append(f, "", "", "")
		l.Places = append(l.Places, label.Registration{Place: f[0], Number: f[1], From: f[2], Until: f[3]})
	}
	return nil
}

func writeAnalysis(l *lab, _ *use) string {
	var out []string
	for id, x := range l.Analysis {
		out = append(out, id+"="+strconv.FormatFloat(x, 'f', -1, 64))
	}
	sort.Strings(out)
	return strings.Join(out, ";")
}

func readAnalysis(l *lab, _ *use, text string) error {
	l.Analysis = map[string]float64{}
	for _, part := range split(text) {
		id, value, ok := strings.Cut(part, "=")
		x, err := number(value)
		if !ok || err != nil {
			return fmt.Errorf("%q is not nutrient=per cent", part)
		}
		l.Analysis[strings.TrimSpace(id)] = x
	}
	return nil
}

func writeActives(l *lab, _ *use) string {
	var out []string
	for _, a := range l.Actives {
		out = append(out, strings.Join([]string{a.Name, a.Group, said(a.Content), said(a.SeasonMax)}, ":"))
	}
	return strings.Join(out, ";")
}

func readActives(l *lab, _ *use, text string) error {
	l.Actives = nil
	for _, part := range split(text) {
		f := strings.Split(part, ":")
		if len(f) < 3 || len(f) > 4 {
			return fmt.Errorf("%q is not name:group:content:most a season", part)
		}
		a := label.Active{Name: f[0], Group: f[1]}
		var err error
		if a.Content, err = number(f[2]); err != nil {
			return err
		}
		if len(f) == 4 && f[3] != "" {
			if a.SeasonMax, err = number(f[3]); err != nil {
				return err
			}
		}
		l.Actives = append(l.Actives, a)
	}
	return nil
}

// Write writes labels, a use a line. Product columns stand on the first line of a product alone, but for its name.
func Write(labels []label.Label) ([]byte, error) {
	var b bytes.Buffer
	b.WriteString(declares + "\n")
	w := csv.NewWriter(&b)
	head := make([]string, len(columns))
	for i, c := range columns {
		head[i] = c.name
	}
	_ = w.Write(head) // a buffer takes everything
	for i := range labels {
		l := &labels[i]
		for k := range l.Uses {
			row := make([]string, len(columns))
			for n, c := range columns {
				if k == 0 || c.of == "use" || n == 0 {
					row[n] = plain.Cell(c.write(l, &l.Uses[k]))
				}
			}
			_ = w.Write(row)
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}

// unguarded takes the guard off again.
func unguarded(text string) string {
	if rest, ok := strings.CutPrefix(text, "'"); ok && plain.Formula(rest) {
		return rest
	}
	return text
}

// Read reads a file line by line. action tells what is an action. The error is a *refusal.Refusal, or the reader's own.
func Read(in io.Reader, action func(string) bool) ([]label.Label, error) {
	refused := &refusal.Refusal{}
	buffered := bufio.NewReaderSize(in, 64<<10)
	first, err := buffered.ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return nil, err
	}
	if strings.TrimSpace(strings.TrimPrefix(first, "\ufeff")) != declares {
		refused.Add(1, "", "must read %s", declares)
		return nil, refused
	}
	rows := csv.NewReader(buffered)
	rows.FieldsPerRecord = -1
	at, err := header(rows, refused)
	if err != nil || refused.Count > 0 {
		return nil, orRefused(err, refused)
	}
	r := &reader{at: at, index: map[string]int{}, refused: refused}
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
			return nil, err
		}
		if line-2 > most {
			refused.Add(line, "", "more than %d lines", most)
			break
		}
		r.row(line, rec)
	}
	r.check(action)
	if refused.Count > 0 {
		return nil, refused
	}
	return r.labels, nil
}

func orRefused(err error, r *refusal.Refusal) error {
	if err != nil {
		return err
	}
	return r
}

// header finds the columns; those that a file leaves out stay as they are in a new label.
func header(rows *csv.Reader, refused *refusal.Refusal) ([]int, error) {
	head, err := rows.Read()
	if err != nil {
		if !errors.Is(err, io.EOF) {
			if bad := (*csv.ParseError)(nil); !errors.As(err, &bad) {
				return nil, err
			}
		}
		refused.Add(2, "", "the header is missing")
		return nil, nil
	}
	at := make([]int, len(head))
	seen := map[string]bool{}
	for i, name := range head {
		at[i] = -1
		for n, c := range columns {
			if c.name == strings.TrimSpace(name) {
				at[i] = n
			}
		}
		if at[i] < 0 {
			refused.Add(2, name, "is no column")
		}
		if seen[name] {
			refused.Add(2, name, "stands twice")
		}
		seen[name] = true
	}
	if !seen["product"] {
		refused.Add(2, "product", "is missing")
	}
	return at, nil
}

type reader struct {
	at      []int
	labels  []label.Label
	lines   []int
	index   map[string]int
	refused *refusal.Refusal
}

func (r *reader) row(line int, rec []string) {
	if len(rec) != len(r.at) {
		r.refused.Add(line, "", "has %d fields, and the header has %d", len(rec), len(r.at))
		return
	}
	name := ""
	for i, n := range r.at {
		if columns[n].name == "product" {
			name = unguarded(strings.TrimSpace(rec[i]))
		}
	}
	if name == "" {
		r.refused.Add(line, "product", "is missing")
		return
	}
	k, there := r.index[strings.ToLower(name)]
	if !there {
		k = len(r.labels)
		r.index[strings.ToLower(name)] = k
		r.labels, r.lines = append(r.labels, label.Label{Name: name}), append(r.lines, line)
	}
	l := &r.labels[k]
	l.Uses = append(l.Uses, label.Use{ID: fmt.Sprintf("use %d", len(l.Uses)+1)})
	u := &l.Uses[len(l.Uses)-1]
	for i, n := range r.at {
		c, cell := columns[n], unguarded(strings.TrimSpace(rec[i]))
		if cell == "" || c.name == "product" {
			continue
		}
		if len(cell) > longest {
			r.refused.Add(line, c.name, "is longer than %d letters", longest)
			continue
		}
		if strings.ContainsAny(cell, "\x00") {
			r.refused.Add(line, c.name, "holds a character that cannot be kept")
			continue
		}
		if err := c.read(l, u, cell); err != nil {
			r.refused.Add(line, c.name, "%s", err.Error())
		}
	}
}

func (r *reader) check(action func(string) bool) {
	for i := range r.labels {
		for _, w := range r.labels[i].Check(action) {
			r.refused.Add(r.lines[i], w.Field, "%s", w.Reason)
		}
	}
}
