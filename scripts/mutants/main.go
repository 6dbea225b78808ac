// Command mutants changes one thing at a time in a package – an operator, a number, a condition, a row of a table, a condition written in
// a row – and counts how many of the changes the tests notice. Nothing is written into the tree: each change is an overlay of the build.
//
//	go run ./scripts/mutants -n 80 -seed 1 ./core/remedy ./core/soil
package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"time"
)

// mutant is one change: in a file, the bytes from..to are replaced by text.
type mutant struct {
	pkg, file string
	from, to  int
	text      string
	what      string // kind of the change
	line      int
	before    string
}

type outcome int

const (
	survived outcome = iota
	killed
	unfit // does not compile: no mutant
)

func main() {
	n := flag.Int("n", 80, "changes for each package, drawn at random")
	seed := flag.Uint64("seed", 1, "of the draw")
	wide := flag.String("wide", "./core/... ./exchange/...",
		"packages whose tests are asked when the package's own notice nothing; empty for none")
	jobs := flag.Int("j", 2, "runs at once")
	only := flag.String("what", "", "only changes of this kind")
	flag.Parse()
	for _, pkg := range flag.Args() {
		all, err := mutantsOf(pkg)
		if err != nil {
			fmt.Fprintln(os.Stderr, "mutants:", err)
			os.Exit(1)
		}
		if *only != "" {
			all = filter(all, *only)
		}
		report(pkg, run(draw(all, *n, *seed), *n, *jobs, strings.Fields(*wide)))
	}
}

func filter(all []mutant, what string) (out []mutant) {
	for _, m := range all {
		if m.what == what {
			out = append(out, m)
		}
	}
	return out
}

// draw shuffles with a seed; some more than wanted are kept for those that do not compile.
func draw(all []mutant, n int, seed uint64) []mutant {
	r := rand.New(rand.NewPCG(seed, seed))
	r.Shuffle(len(all), func(a, b int) { all[a], all[b] = all[b], all[a] })
	return all[:min(len(all), n+n/2)]
}

type tried struct {
	mutant
	outcome
}

func run(list []mutant, n, jobs int, wide []string) (out []tried) {
	var mu sync.Mutex
	var wg sync.WaitGroup
	next := 0
	for range jobs {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for {
				mu.Lock()
				fit := 0
				for _, t := range out {
					if t.outcome != unfit {
						fit++
					}
				}
				if next == len(list) || fit >= n {
					mu.Unlock()
					return
				}
				m := list[next]
				next++
				mu.Unlock()
				o := try(m, wide)
				mu.Lock()
				out = append(out, tried{m, o})
				mu.Unlock()
			}
		}()
	}
	wg.Wait()
	return out
}

// try runs the tests over one change.
func try(m mutant, wide []string) outcome {
	dir, err := os.MkdirTemp("", "mutant")
	if err != nil {
		panic(err)
	}
	defer os.RemoveAll(dir)
	source, err := os.ReadFile(m.file)
	if err != nil {
		panic(err)
	}
	changed := filepath.Join(dir, "changed.go")
	text := string(source[:m.from]) + m.text + string(source[m.to:])
	overlay := filepath.Join(dir, "overlay.json")
	plain, _ := json.Marshal(map[string]any{"Replace": map[string]string{m.file: changed}})
	if os.WriteFile(changed, []byte(text), 0o600) != nil || os.WriteFile(overlay, plain, 0o600) != nil {
		panic("cannot write to " + dir)
	}
	if o := test(overlay, m.pkg); o != survived || len(wide) == 0 {
		return o
	}
	return test(overlay, wide...)
}

func test(overlay string, packages ...string) outcome {
	args := append([]string{"test", "-count=1", "-vet=off", "-failfast", "-timeout=120s", "-overlay", overlay}, packages...)
	out, err := exec.Command("go", args...).CombinedOutput()
	switch {
	case err == nil:
		return survived
	case strings.Contains(string(out), "[build failed]") || strings.Contains(string(out), "[setup failed]"):
		return unfit
	}
	return killed
}

func report(pkg string, list []tried) {
	count := map[outcome]int{}
	for _, t := range list {
		count[t.outcome]++
		if t.outcome == survived {
			fmt.Printf("survived  %s:%d  %s: %s → %s\n", filepath.Base(t.file), t.line, t.what, brief(t.before), brief(t.text))
		}
	}
	fit := count[killed] + count[survived]
	if fit == 0 {
		fmt.Printf("%s: nothing to change\n", pkg)
		return
	}
	fmt.Printf("%s: %d of %d noticed, %.0f %% (%s)\n", pkg, count[killed], fit, 100*float64(count[killed])/float64(fit),
		time.Now().Format(time.DateOnly))
}

func brief(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	if len(s) > 110 {
		s = s[:107] + "..."
	}
	if s == "" {
		return "(nothing)"
	}
	return s
}
