// Command hodos serves the application and answers on the command line.
package main

import (
	"errors"
	"fmt"
	"os"
	_ "time/tzdata" // sites have time zones, and a small machine has no table of them
)

const usage = `hodos weighs what is wrong with a lawn.

  hodos diagnose [--json] CASE.json   weigh one case file ("-" reads standard input)
  hodos bench [--us] [--json] [ID field=value …]
                                      work out an amount; without an id, list what can be worked out
  hodos clear [--json] JOB.json       what stands against a job: law, label, agronomy, policy, not possible
  hodos plan [--json] [--rules RULES.json] [--place PLACE] CASE.json
                                      the plan of a case as jobs with dates
  hodos simulate [--lawns N] [--seed N]  play lawns of which the truth is known (docs/simulation.md)
  hodos serve                         serve the application (settings: docs/operating.md)
  hodos demo [--fresh]                serve the demo firm on a simulated clock
  hodos watch [--day DAY]             look at every zone now, shared with the servers that run
  hodos migrate                       bring the database up to date
  hodos new-firm --name … --owner … --email …
                                      make a firm with its first owner, password on standard input
  hodos set-password --email …        give somebody a new password, read from standard input
  hodos export FIRM FILE.zip          write everything of a firm into a file; import FILE.zip brings it into another database
  hodos backup FOLDER                 write every firm into a folder; restore FOLDER brings them back into an empty database
  hodos openapi                       print the description of the API
  hodos units                         print the table of units
  hodos licences                      print the licences of what the program is made of
  hodos version                       print the version of program and knowledge
`

// refused is the exit of a file that was read and not accepted.
type refused struct{ error }

func main() {
	if len(os.Args) < 2 {
		fmt.Fprint(os.Stderr, usage)
		os.Exit(2)
	}
	commands := map[string]func([]string) error{
		"diagnose": diagnose,
		"bench":    bench,
		"clear":    clearJob,
		"plan":     planCase,
		"serve":    serve,
		"demo":     demonstrate,
		"migrate":  migrate,
		"openapi":  openapi,
		"units":    unitTable, "licences": licences,
		"version":      version,
		"new-firm":     newFirm,
		"set-password": setPassword,
		"simulate":     simulate,
		"watch":        watchNow,
		"export":       exportFirm,
		"import":       importFirm,
		"backup":       backup,
		"restore":      restore,
	}
	run, ok := commands[os.Args[1]]
	if !ok {
		fmt.Fprintf(os.Stderr, "hodos: unknown command %q\n\n%s", os.Args[1], usage)
		os.Exit(2)
	}
	if err := run(os.Args[2:]); err != nil {
		fmt.Fprintln(os.Stderr, "hodos:", err)
		var r refused
		if errors.As(err, &r) {
			os.Exit(2)
		}
		os.Exit(1)
	}
}
