// Command notices writes the licences of everything that the program is made of, Go modules and packages of the front end, as one text:
// go run ./scripts/notices > web/dist/notices.txt. A part without a licence text is an error.
package main

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

// part is one thing of somebody else's that is shipped.
type part struct{ name, version, text string }

var licence = regexp.MustCompile(`(?i)^(licen[cs]e|copying|notice|ofl)([-.].*)?$`)

// texts are the licence files of a folder.
func texts(dir string) (string, error) {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return "", err
	}
	var out []string
	for _, e := range entries {
		if e.IsDir() || !licence.MatchString(e.Name()) {
			continue
		}
		b, err := os.ReadFile(filepath.Join(dir, e.Name()))
		if err != nil {
			return "", err
		}
		out = append(out, strings.TrimSpace(strings.ReplaceAll(string(b), "\r\n", "\n")))
	}
	return strings.Join(out, "\n\n"), nil
}

// modules are the Go modules that are linked into the program, and Go itself.
func modules() ([]part, error) {
	cmd := exec.Command("go", "list", "-deps", "-json=Module", "./cmd/hodos")
	out, err := cmd.Output()
	if err != nil {
		return nil, fmt.Errorf("go list: %w", err)
	}
	seen := map[string]part{}
	for dec := json.NewDecoder(strings.NewReader(string(out))); ; {
		var p struct {
			Module *struct {
				Path, Version, Dir string
				Main               bool
			}
		}
		if err := dec.Decode(&p); errors.Is(err, io.EOF) {
			break
		} else if err != nil {
			return nil, err
		}
		if p.Module == nil || p.Module.Main || seen[p.Module.Path].name != "" {
			continue
		}
		text, err := texts(p.Module.Dir)
		if err != nil {
			return nil, err
		}
		seen[p.Module.Path] = part{p.Module.Path, p.Module.Version, text}
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, err
	}
	text, err := texts(strings.TrimSpace(string(root)))
	if err != nil {
		return nil, err
	}
	list := []part{{"Go", "standard library", text}}
	for _, p := range seen {
		list = append(list, p)
	}
	return list, nil
}

// packages are those of the front end that its own package.json needs at run time, with whatever these need.
func packages(web string) ([]part, error) {
	seen := map[string]bool{}
	var list []part
	var visit func(dir string, first bool) error
	visit = func(dir string, first bool) error {
		b, err := os.ReadFile(filepath.Join(dir, "package.json"))
		if err != nil {
			return err
		}
		var p struct {
			Name, Version string
			Licence       any `json:"license"`
			Dependencies  map[string]string
		}
		if err := json.Unmarshal(b, &p); err != nil {
			return fmt.Errorf("%s: %w", dir, err)
		}
		if !first {
			if seen[p.Name+p.Version] {
				return nil
			}
			seen[p.Name+p.Version] = true
			text, err := texts(dir)
			if err != nil {
				return err
			}
			if text == "" && p.Licence != nil {
				text = fmt.Sprintf("Licence: %v", p.Licence) // named in its description, no text of it is shipped
			}
			list = append(list, part{p.Name, p.Version, text})
		}
		for name := range p.Dependencies {
			at, err := find(dir, web, name)
			if err != nil {
				return err
			}
			if at == "" || strings.HasPrefix(name, "@types/") {
				continue
			}
			if err := visit(at, false); err != nil {
				return err
			}
		}
		return nil
	}
	return list, visit(web, true)
}

// find looks for a package as Node does: in the folder of whoever needs it, then in those above.
func find(dir, web, name string) (string, error) {
	for {
		at := filepath.Join(dir, "node_modules", name)
		if _, err := os.Stat(filepath.Join(at, "package.json")); err == nil {
			return at, nil
		}
		if dir == web {
			return "", nil
		}
		if dir = filepath.Dir(dir); len(dir) < len(web) {
			return "", fmt.Errorf("%s is needed and not there: npm ci", name)
		}
	}
}

func write(w io.Writer) error {
	mods, err := modules()
	if err != nil {
		return err
	}
	pkgs, err := packages("web")
	if err != nil {
		return err
	}
	face, err := texts("paper/fonts")
	if err != nil {
		return err
	}
	all := append(append(mods, pkgs...), part{"Atkinson Hyperlegible, the typeface of printed sheets", "2020", face})
	slices.SortFunc(all, func(a, b part) int {
		return strings.Compare(strings.ToLower(a.name+a.version), strings.ToLower(b.name+b.version))
	})
	out := bufio.NewWriter(w)
	fmt.Fprintf(
		out,
		"Hodos is made with the work of others. These are the %d parts of it that are theirs, and the terms under which they gave them.\n",
		len(all),
	)
	for _, p := range all {
		if p.text == "" {
			return fmt.Errorf("%s %s has no licence text", p.name, p.version)
		}
		fmt.Fprintf(out, "\n%s\n%s %s\n\n%s\n", strings.Repeat("-", 80), p.name, p.version, p.text)
	}
	return out.Flush()
}

func main() {
	if err := write(os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "notices:", err)
		os.Exit(1)
	}
}
