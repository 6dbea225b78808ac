package main

import (
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"sort"
	"strings"
	"time"

	"github.com/google/uuid"

	"hodos/casework"
	"hodos/core/clearance"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/core/worth"
	"hodos/exchange/casefile"
	"hodos/exchange/jobfile"
	"hodos/exchange/refusal"
	"hodos/store"
)

// readFile reads a file, or standard input for "-".
func readFile[T any](name string, read func(io.Reader) (T, error)) (out T, err error) {
	in := io.Reader(os.Stdin)
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return out, refused{err}
		}
		defer f.Close()
		in = f
	}
	out, err = read(in)
	if r := (*refusal.Refusal)(nil); errors.As(err, &r) {
		return out, refused{fmt.Errorf("%s is refused:\n%w", name, err)}
	}
	return out, err
}

// clear says what stands against a job in a file: hodos clear [--json] JOB.json.
func clearJob(args []string) error {
	set := flag.NewFlagSet("clear", flag.ContinueOnError)
	asJSON := set.Bool("json", false, "print one JSON object")
	if err := set.Parse(args); err != nil {
		return refused{err}
	}
	if set.NArg() != 1 {
		return refused{errors.New("usage: hodos clear [--json] JOB.json")}
	}
	j, err := readFile(set.Arg(0), jobfile.Read)
	if err != nil {
		return err
	}
	r := clearance.Check(j)
	if *asJSON {
		e := json.NewEncoder(os.Stdout)
		e.SetIndent("", "  ")
		return e.Encode(r)
	}
	if r.Open() {
		fmt.Println("Nothing stands against it.")
	}
	for _, s := range r.Stops {
		fmt.Printf("%-12s %s (%s)\n", strings.ToUpper(string(s.Kind)), s.Text, s.Rule)
		if s.Next != nil {
			fmt.Printf("%-12s open from %s\n", "", s.Next.Format("2 Jan 2006 15:04"))
		} else if s.Lifts != "" {
			fmt.Printf("%-12s lifted by: %s\n", "", s.Lifts)
		}
	}
	for _, d := range r.Duties {
		fmt.Printf("%-12s %s\n", "with it", d.Text)
	}
	return nil
}

// dated is a job of a plan with its day.
type dated struct {
	Action string    `json:"action"`
	Label  string    `json:"label"`
	Step   int       `json:"step"`
	On     string    `json:"on,omitempty"`
	From   string    `json:"from"`
	To     string    `json:"to"`
	Wait   float64   `json:"cost_of_a_day"`
	Reason string    `json:"reason"`
	Blocks []blocked `json:"blocks,omitempty"`
}

type blocked struct {
	Constraint string  `json:"constraint"`
	Text       string  `json:"text"`
	Days       int     `json:"days"`
	Without    string  `json:"without,omitempty"`
	Cost       float64 `json:"cost,omitempty"`
	Firm       bool    `json:"firm"`
}

// planCase makes jobs with dates of a case: hodos plan [--json] [--rules RULES.json] [--place PLACE] CASE.json.
func planCase(args []string) error {
	set := flag.NewFlagSet("plan", flag.ContinueOnError)
	asJSON, rulesFile := set.Bool("json", false, "print JSON"), set.String("rules", "", "a JSON list of local rules")
	place := set.String("place", "", "by whose law")
	if err := set.Parse(args); err != nil {
		return refused{err}
	}
	if set.NArg() != 1 {
		return refused{errors.New("usage: hodos plan [--json] [--rules RULES.json] [--place PLACE] CASE.json")}
	}
	c, err := readFile(set.Arg(0), casefile.Read)
	if err != nil {
		return err
	}
	var rules []clearance.Rule
	if *rulesFile != "" {
		if rules, err = readFile(*rulesFile, readRules); err != nil {
			return err
		}
	}
	list := dates(c, rules, *place)
	if *asJSON {
		e := json.NewEncoder(os.Stdout)
		e.SetIndent("", "  ")
		return e.Encode(list)
	}
	for _, d := range list {
		on := d.On
		if on == "" {
			on = "no open day"
		}
		fmt.Printf("%-12s %-34s %s to %s  %s\n", on, d.Label, d.From, d.To, d.Reason)
		for _, b := range d.Blocks {
			fmt.Printf("%-12s   %s closes %d days of it\n", "", b.Text, b.Days)
		}
	}
	return nil
}

func readRules(in io.Reader) (rules []clearance.Rule, err error) {
	d := json.NewDecoder(io.LimitReader(in, 1<<20))
	d.DisallowUnknownFields()
	r := &refusal.Refusal{}
	if err := d.Decode(&rules); err != nil {
		r.Add(0, "", "%s", err.Error())
		return nil, r
	}
	for i, rule := range rules {
		for field, why := range rule.Check() {
			r.Add(0, fmt.Sprintf("[%d].%s", i, field), "%s", why)
		}
	}
	if r.Count > 0 {
		return nil, r
	}
	return rules, nil
}

// dates finds a day for each job that the plan of a case asks for.
func dates(c evidence.Case, rules []clearance.Rule, place string) []dated {
	r := diagnosis.Diagnose(c, diagnosis.Options{NoNext: true})
	today := c.Lawn.Date
	area := 100.0
	if c.Lawn.AreaM2 != nil {
		area = *c.Lawn.AreaM2
	}
	l := clearance.Lawn{Place: place, Latitude: c.Lawn.Latitude, Grasses: c.Lawn.Species, AreaM2: area}
	if located := c.Context.LinesLocated; located != nil && *located {
		l.LocatedOn = &today
	}
	g := casework.Ground{Plan: remedy.Decide(c, r, units.Saying{}), Zone: store.Zone{ID: uuid.New(), AreaM2: area},
		Site: store.Site{Latitude: c.Lawn.Latitude}, Lawn: l}
	var past []clearance.Applied
	for _, t := range append(append([]evidence.Treatment{}, c.Treatments...), c.Done...) {
		a := clearance.Applied{Day: t.Date, Action: t.Action}
		if t.NGM2 != nil {
			a.N = *t.NGM2
		}
		if t.PGM2 != nil {
			a.P = *t.PGM2
		}
		past = append(past, a)
	}
	rows := g.Wanted(today, worth.DefaultPrices.LawnM2, uuid.Nil, nil)
	b := casework.NewBoard(today, rows, l, past, rules)
	out := []dated{}
	for i, p := range b.Arrange(func(store.Job) bool { return false }) {
		j := rows[i]
		d := dated{
			Action: j.Action,
			Label:  remedy.Label(j.Action),
			Step:   j.Step,
			From:   j.FromOn.Format(time.DateOnly),
			To:     j.ToOn.Format(time.DateOnly),
			Wait:   casework.DoseOf(j).Wait,
			Reason: j.Reason,
		}
		if p.Day >= 0 {
			d.On = today.AddDate(0, 0, p.Day).Format(time.DateOnly)
		}
		for _, x := range p.Blocks {
			one := blocked{Constraint: x.Constraint, Text: clearance.Words(x.Constraint), Days: x.Days, Cost: x.Cost, Firm: x.Firm}
			if x.Without >= 0 {
				one.Without = today.AddDate(0, 0, x.Without).Format(time.DateOnly)
			}
			d.Blocks = append(d.Blocks, one)
		}
		out = append(out, d)
	}
	sort.SliceStable(out, func(a, b int) bool {
		if (out[a].On == "") != (out[b].On == "") {
			return out[a].On != ""
		}
		if out[a].On != out[b].On {
			return out[a].On < out[b].On
		}
		return remedy.Rank(out[a].Action) < remedy.Rank(out[b].Action)
	})
	return out
}
