package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"strings"

	"hodos/core/dose"
	"hodos/core/units"
)

// bench does a calculation on the command line: hodos bench [--us] [--json] [ID field=value …]. Without an id it lists them.
func bench(args []string) error {
	set := flag.NewFlagSet("bench", flag.ContinueOnError)
	us, asJSON := set.Bool("us", false, "answer in US units"), set.Bool("json", false, "answer as JSON")
	if err := set.Parse(args); err != nil {
		return err
	}
	if set.NArg() == 0 {
		for _, c := range dose.All() {
			fmt.Printf("%-14s %s: %s\n", c.ID, c.Label, c.Says)
		}
		return nil
	}
	c, ok := dose.ByID(set.Arg(0))
	if !ok {
		return fmt.Errorf("there is no calculation %q: hodos bench lists them", set.Arg(0))
	}
	if set.NArg() == 1 {
		return describe(c)
	}
	in := map[string]dose.Entry{}
	for _, a := range set.Args()[1:] {
		name, text, found := strings.Cut(a, "=")
		if !found {
			return fmt.Errorf("%q is not field=value", a)
		}
		e, err := dose.Parse(text)
		if err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		in[name] = e
	}
	r, err := dose.Work(c.ID, in, units.Saying{Customary: *us})
	if err != nil {
		return refused{err}
	}
	if *asJSON {
		e := json.NewEncoder(os.Stdout)
		e.SetIndent("", " ")
		return e.Encode(r)
	}
	printResult(r)
	return nil
}

// describe lists what a calculation asks for.
func describe(c dose.Calculator) error {
	fmt.Printf("%s: %s\n%s\n\n", c.Label, c.Says, c.Source)
	for _, f := range c.Fields {
		var ids []string
		for _, x := range f.Choices {
			ids = append(ids, x.ID)
		}
		note := strings.Join(ids, "|")
		if f.Choices == nil {
			note = fmt.Sprintf("%g to %g %s", f.Low, f.High, f.Unit)
		}
		switch {
		case f.Usual != nil:
			note += fmt.Sprintf(", usually %g", *f.Usual)
		case f.Optional:
			note += ", may be left out"
		}
		if f.When != "" {
			note += ", with " + f.When
		}
		fmt.Printf("  %-14s %s (%s)\n", f.ID, f.Label, note)
	}
	return nil
}

func printResult(r dose.Result) {
	for _, l := range r.Lines {
		mark := " "
		if l.Lead {
			mark = "*"
		}
		span := ""
		if l.Span != "" {
			span = "  (" + l.Span + " by the error of the area)"
		}
		fmt.Printf("%s %-40s %s%s\n", mark, l.Label, l.Text, span)
	}
	for _, t := range r.Tables {
		fmt.Printf("\n%s\n  %s\n", t.Label, strings.Join(t.Head, " | "))
		for _, row := range t.Rows {
			fmt.Printf("  %s\n", strings.Join(row, " | "))
		}
	}
	for _, w := range r.Working {
		fmt.Println("  =", w)
	}
	for _, w := range r.Warnings {
		fmt.Println("  !", w.Text)
	}
}
