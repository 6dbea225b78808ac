// Package labfile is the open format in which laboratory results come in: JSON and CSV, version 1, described in
// docs/formats.md. A reader refuses the whole file, with line or field and reason, or takes all of it.
package labfile

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"sort"
	"strings"

	"hodos/core/knowledge"
	"hodos/exchange/plain"
	"hodos/exchange/refusal"
)

// Version is the version of the format.
const Version = 1

// Kinds maps a kind of sample to the handling whose findings it yields.
var Kinds = map[string]string{"soil": "soil-sample", "disease": "disease-sample", "nematode": "nematode-sample", "tissue": "tissue-sample"}

// Findings lists the ids that a kind of sample may carry, in the order of the vocabulary.
func Findings(kind string) []string {
	var out []string
	for _, f := range knowledge.Findings() {
		if f.Procedure == Kinds[kind] && f.Station == "lab" {
			out = append(out, f.ID)
		}
	}
	return out
}

// Result is what a laboratory found in one sample.
type Result struct {
	Sample     string // the number on the bag
	Laboratory string
	Values     map[string]knowledge.Value
}

// header is the first line of the CSV form.
var header = []string{"sample", "finding", "value", "unit", "laboratory"}

// row is one value as it stands in a file.
type row struct {
	finding, unit string
	plain         any    // float64 or string
	line          int    // of the CSV form
	path          string // of the JSON form
}

func (r row) refuse(refused *refusal.Refusal, column, format string, args ...any) {
	refused.Add(r.line, r.path+column, format, args...)
}

// Read reads a result of the given sample and kind, JSON or CSV by its first letter. The error is a *refusal.Refusal, or the
// reader's own.
func Read(in io.Reader, sample, kind string) (Result, error) {
	b, err := io.ReadAll(io.LimitReader(in, 1<<20+1))
	if err != nil {
		return Result{}, err
	}
	refused := &refusal.Refusal{}
	if len(b) > 1<<20 {
		refused.Add(0, "file", "is larger than 1 MiB")
		return Result{}, refused
	}
	b = bytes.TrimPrefix(b, []byte("\ufeff"))
	out := Result{Values: map[string]knowledge.Value{}}
	var rows []row
	if t := bytes.TrimSpace(b); len(t) > 0 && t[0] == '{' {
		rows = fromJSON(t, &out, refused)
	} else {
		rows = fromCSV(b, &out, refused)
	}
	if refused.Count > 0 {
		return Result{}, refused
	}
	if len(rows) == 0 {
		refused.Add(0, "results", "there is no value in the file")
		return Result{}, refused
	}
	if out.Sample != sample {
		refused.Add(0, "sample", "the file is of sample %q, not of %q", out.Sample, sample)
	}
	may := map[string]bool{}
	for _, id := range Findings(kind) {
		may[id] = true
	}
	for _, r := range rows {
		f, ok := knowledge.FindingByID(r.finding)
		switch {
		case !ok:
			r.refuse(refused, "finding", "%q is not a finding", r.finding)
			continue
		case !may[r.finding]:
			r.refuse(refused, "finding", "%s does not come from a %s sample", r.finding, kind)
			continue
		}
		if _, twice := out.Values[r.finding]; twice {
			r.refuse(refused, "finding", "%s stands twice", r.finding)
			continue
		}
		given := r.plain
		if text, is := given.(string); is && f.Kind == knowledge.Number {
			x, ok := plain.Number(text)
			if !ok {
				r.refuse(refused, "value", "%q is not a number with a decimal point", text)
				continue
			}
			given = x
		}
		if why := unitFits(f, r.unit); why != "" {
			r.refuse(refused, "unit", "%s", why)
			continue
		}
		v, err := knowledge.ValueOf(f, given)
		if err != nil {
			r.refuse(refused, "value", "%s", err.Error())
			continue
		}
		out.Values[r.finding] = v
	}
	if refused.Count > 0 {
		return Result{}, refused
	}
	return out, nil
}

// same are units that mean the same figure.
var same = map[string]string{"ppm": "mg/kg", "ms/cm": "ds/m", "mmhos/cm": "ds/m", "percent": "%", "": ""}

// unitFits says why a unit does not fit a finding, or "". A word needs no unit; a number needs the finding's own, up to
// the comma behind which the method stands.
func unitFits(f *knowledge.Finding, unit string) string {
	got := strings.ToLower(strings.TrimSpace(unit))
	if f.Kind != knowledge.Number {
		if got != "" {
			return fmt.Sprintf("%s has no unit, and %q is given", f.ID, unit)
		}
		return ""
	}
	want, _, _ := strings.Cut(strings.ToLower(f.Unit), ",")
	want, _, _ = strings.Cut(want, " of ")
	if want == "ph" || want == "sodium adsorption ratio" {
		if got == "" || got == want {
			return ""
		}
	}
	if s, ok := same[got]; ok {
		got = s
	}
	if got != want {
		return fmt.Sprintf("%q is not %s", unit, f.Unit)
	}
	return ""
}

func fromJSON(b []byte, out *Result, refused *refusal.Refusal) []row {
	var file struct {
		Version    *int    `json:"hodos_lab"`
		Sample     string  `json:"sample"`
		Laboratory string  `json:"laboratory"`
		Reported   *string `json:"reported"`
		Results    []struct {
			Finding string `json:"finding"`
			Value   any    `json:"value"`
			Unit    string `json:"unit"`
		} `json:"results"`
	}
	dec := json.NewDecoder(bytes.NewReader(b))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&file); err != nil {
		refused.Add(0, "file", "is not a laboratory result in JSON: %s", strings.TrimPrefix(err.Error(), "json: "))
		return nil
	}
	if file.Version == nil || *file.Version != Version {
		refused.Add(0, "hodos_lab", "must be %d", Version)
	}
	out.Sample, out.Laboratory = file.Sample, file.Laboratory
	var rows []row
	for i, r := range file.Results {
		rows = append(rows, row{r.Finding, r.Unit, r.Value, 0, fmt.Sprintf("results[%d].", i)})
	}
	return rows
}

func fromCSV(b []byte, out *Result, refused *refusal.Refusal) []row {
	in := csv.NewReader(bytes.NewReader(b))
	in.FieldsPerRecord = -1
	var rows []row
	for first := true; ; first = false {
		rec, err := in.Read()
		if errors.Is(err, io.EOF) {
			if first {
				refused.Add(1, "", "the file is empty")
			}
			return rows
		}
		if err != nil {
			refused.Add(0, "file", "%s", err.Error())
			return rows
		}
		line, _ := in.FieldPos(0)
		if first {
			if strings.Join(rec, ",") != strings.Join(header, ",") {
				refused.Add(1, "", "the header must be %s", strings.Join(header, ","))
				return nil
			}
			continue
		}
		if len(rec) != len(header) {
			refused.Add(line, "", "has %d fields, the header has %d", len(rec), len(header))
			continue
		}
		if out.Sample != "" && rec[0] != out.Sample {
			refused.Add(line, "sample", "is %q after %q: one sample a file", rec[0], out.Sample)
			continue
		}
		out.Sample, out.Laboratory = rec[0], rec[4]
		rows = append(rows, row{rec[1], rec[3], rec[2], line, ""})
	}
}

// WriteCSV writes a result in the CSV form.
func WriteCSV(w io.Writer, r Result) error {
	out := csv.NewWriter(w)
	if err := out.Write(header); err != nil {
		return err
	}
	for _, id := range ordered(r.Values) {
		value := fmt.Sprint(r.Values[id].Plain())
		if err := out.Write([]string{r.Sample, id, value, unitOf(id), r.Laboratory}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// WriteJSON writes a result in the JSON form.
func WriteJSON(w io.Writer, r Result) error {
	type value struct {
		Finding string `json:"finding"`
		Value   any    `json:"value"`
		Unit    string `json:"unit,omitempty"`
	}
	file := struct {
		Version    int     `json:"hodos_lab"`
		Sample     string  `json:"sample"`
		Laboratory string  `json:"laboratory"`
		Results    []value `json:"results"`
	}{Version, r.Sample, r.Laboratory, []value{}}
	for _, id := range ordered(r.Values) {
		file.Results = append(file.Results, value{id, r.Values[id].Plain(), unitOf(id)})
	}
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	return enc.Encode(file)
}

func ordered(values map[string]knowledge.Value) []string {
	ids := make([]string, 0, len(values))
	for id := range values {
		ids = append(ids, id)
	}
	sort.Strings(ids)
	return ids
}

func unitOf(id string) string {
	f, ok := knowledge.FindingByID(id)
	if !ok || f.Kind != knowledge.Number {
		return ""
	}
	u, _, _ := strings.Cut(f.Unit, ",")
	u, _, _ = strings.Cut(u, " of ")
	return u
}
