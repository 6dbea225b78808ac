package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"os/signal"
	"runtime"
	"strings"
	"time"

	"hodos/core/knowledge"
	"hodos/core/simulation"
)

func simulate(args []string) error {
	fs := flag.NewFlagSet("simulate", flag.ContinueOnError)
	lawns := fs.Int("lawns", 1000, "how many lawns to draw")
	seed := fs.Uint64("seed", 1, "of everything that is drawn")
	wrong := fs.Float64("wrong", .03, "chance that an answer is wrong")
	missing := fs.Float64("missing", .1, "chance that an answer cannot be had")
	sky := fs.Float64("weather", .7, "chance that the weather is known")
	spread := fs.Float64("spread", 0, "how far the world differs from the tables; 0.4 moves a typical figure by half")
	climate := fs.Bool("climate", false, "weather from drawn years of the place instead of the tables")
	words := fs.Float64("words", 0, "chance that a word is given for another that people interchange")
	strategies := fs.String("strategies", "", "of fixed, next, sampled, brief and free, with commas; all when left out")
	workers := fs.Int("workers", runtime.NumCPU(), "how many lawns are played at a time")
	quiet := fs.Bool("quiet", false, "no progress bar")
	asJSON := fs.Bool("json", false, "print one JSON object")
	markdown := fs.Bool("markdown", false, "print the tables as Markdown")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	if fs.NArg() > 0 {
		return refused{fmt.Errorf("simulate takes no file: %q", fs.Arg(0))}
	}
	o := simulation.Options{Lawns: *lawns, Seed: *seed, Wrong: *wrong, Missing: *missing, Weather: *sky, Spread: *spread, Workers: *workers,
		Climate: *climate, Words: *words, Chance: chance}
	for _, s := range strings.FieldsFunc(*strategies, func(r rune) bool { return r == ',' }) {
		o.Strategies = append(o.Strategies, simulation.Strategy(strings.TrimSpace(s)))
	}
	if err := o.Check(); err != nil {
		return refused{err}
	}
	if !*quiet {
		o.Progress = bar(os.Stderr, *lawns)
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	began := time.Now()
	r, err := simulation.Run(ctx, o)
	if err != nil {
		if errors.Is(err, context.Canceled) {
			return errors.New("stopped; nothing is printed of a run that is not whole")
		}
		return err
	}
	if !*quiet {
		fmt.Fprintf(os.Stderr, "%d lawns in %s on %d workers\n", *lawns, time.Since(began).Round(100*time.Millisecond), *workers)
	}
	if *asJSON {
		enc := json.NewEncoder(os.Stdout)
		enc.SetIndent("", "  ")
		return enc.Encode(r)
	}
	fmt.Printf(
		"knowledge %s, seed %d: %d lawns, %.0f %% of the answers wrong, %.0f %% missing, weather known on %.0f %%, spread of the world %g\n",
		knowledge.Knowledge,
		*seed,
		*lawns,
		*wrong*100,
		*missing*100,
		*sky*100,
		*spread,
	)
	tables(os.Stdout, r, *markdown)
	return nil
}

// chance is the seeded source of the command line.
func chance(seed, stream uint64) knowledge.Chance { return rand.New(rand.NewPCG(seed, stream)) }

// bar draws how far a run is, at most ten times a second.
func bar(w io.Writer, of int) func(done int) {
	began, last := time.Now(), time.Time{}
	return func(done int) {
		if now := time.Now(); done == of || now.Sub(last) > 100*time.Millisecond {
			last = now
			left := time.Duration(float64(now.Sub(began)) / float64(done) * float64(of-done)).Round(time.Second)
			full := 30 * done / of
			fmt.Fprintf(w, "\r[%s%s] %d of %d lawns, %s left ", strings.Repeat("=", full), strings.Repeat(" ", 30-full), done, of, left)
			if done == of {
				fmt.Fprintln(w)
			}
		}
	}
}

func tables(w io.Writer, r simulation.Report, markdown bool) {
	table := func(title string, head []string, rows [][]string) {
		fmt.Fprintf(w, "\n%s\n\n", title)
		if markdown {
			fmt.Fprintf(w, "| %s |\n|%s\n", strings.Join(head, " | "), strings.Repeat("---|", len(head)))
			for _, row := range rows {
				fmt.Fprintf(w, "| %s |\n", strings.Join(row, " | "))
			}
			return
		}
		for _, row := range append([][]string{head}, rows...) {
			for i, cell := range row {
				if i == 0 {
					fmt.Fprintf(w, "%-16s", cell)
				} else {
					fmt.Fprintf(w, "%13s", cell)
				}
			}
			fmt.Fprintln(w)
		}
	}
	var rows [][]string
	for _, s := range r.Of {
		rows = append(rows, []string{string(s.Strategy), f("%.1f %%", s.Accuracy()*100), f("%.1f", s.Minutes), f("%.1f", s.Checks),
			f("%.1f", s.Regret), f("%.3f", s.Brier), f("%.3f", s.Worst()), f("%.0f %%", 100*float64(s.Settled)/float64(s.Lawns))})
	}
	table("Strategies", []string{"strategy", "first right", "minutes", "findings", "regret", "Brier", "worst bin", "settled"}, rows)
	for _, s := range r.Of {
		rows = nil
		for _, g := range s.Families {
			rows = append(rows, []string{g.Name, f("%d", g.Lawns), f("%.1f %%", 100*float64(g.Right)/float64(g.Lawns))})
		}
		table(string(s.Strategy)+": first cause right, by what was wrong", []string{"truth", "lawns", "first right"}, rows)
		rows = binRows("all", s.Bins)
		for _, fb := range s.ByFamily {
			rows = append(rows, binRows(fb.Family, fb.Bins)...)
		}
		table(string(s.Strategy)+": calibration of what was said at 0.1 and more",
			[]string{"family", "said", "n", "mean said", "was so", "95 % from", "to", "gap"}, rows)
	}
}

func binRows(name string, bins []simulation.Bin) [][]string {
	var rows [][]string
	for _, b := range bins {
		if b.N > 0 {
			rows = append(rows, []string{name, f("%.1f–%.1f", b.Low, b.High), f("%d", b.N), f("%.3f", b.Said), f("%.3f", b.Was), f("%.3f", b.From),
				f("%.3f", b.To), f("%+.3f", b.Gap())})
		}
	}
	return rows
}

func f(format string, args ...any) string { return fmt.Sprintf(format, args...) }
