package main

import (
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"os"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/exchange/refusal"
	"hodos/internal/build"
	"hodos/terminal"
	"hodos/web"
)

func diagnose(args []string) error {
	fs := flag.NewFlagSet("diagnose", flag.ContinueOnError)
	asJSON := fs.Bool("json", false, "print one JSON object")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	rest := fs.Args()
	// the flag may stand behind the file, too
	if len(rest) == 2 && rest[1] == "--json" {
		*asJSON, rest = true, rest[:1]
	}
	if len(rest) != 1 {
		return refused{errors.New("usage: hodos diagnose [--json] CASE.json")}
	}
	in := io.Reader(os.Stdin)
	if rest[0] != "-" {
		f, err := os.Open(rest[0])
		if err != nil {
			return refused{err}
		}
		defer f.Close()
		in = f
	}
	c, err := casefile.Read(in)
	if err != nil {
		var r *refusal.Refusal
		if errors.As(err, &r) {
			return refused{fmt.Errorf("%s is refused:\n%w", rest[0], err)}
		}
		return err
	}
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	a := casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{}))
	if *asJSON {
		enc := json.NewEncoder(os.Stdout)
		enc.SetIndent("", "  ")
		return enc.Encode(a)
	}
	terminal.Page(os.Stdout, c, a)
	return nil
}

func version([]string) error {
	fmt.Printf("hodos %s, knowledge %s, case format %d\n", build.Version(), knowledge.Knowledge, casefile.Version)
	return nil
}

// licences prints the terms of everything of others that the program is made of.
func licences([]string) error {
	b, err := fs.ReadFile(web.Dist(), "notices.txt")
	if err != nil {
		return errors.New("this program was built without its front end, and so without the licences: make build")
	}
	_, err = os.Stdout.Write(b)
	return err
}
