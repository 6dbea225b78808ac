package rooms

import (
	"bufio"
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// Lines and functions have a length that a screen shows. tables are files with a row of knowledge, a case or a route a line: what
// belongs to one row stands in one line, however long.
const (
	longestLine     = 140
	longestFunction = 80
)

var tables = []string{
	"core/client/causes.go", "core/repeat/repeat.go", "core/guide/guide.go", "core/client/tasks.go", "core/client/questions.go", "core/client/ahead.go", "core/knowledge/", "core/dose/", "core/remedy/actions.go", "core/remedy/facts.go", "core/remedy/gates.go", "core/remedy/seasons.go",
	"core/remedy/words.go", "core/remedy/learning.go", "core/remedy/schools.go", "core/worth/stakes.go", "core/units/units.go", "core/weather/soil.go",
	"core/counts/rows.go", "server/routes.go", "demo/",
}

// long are the functions that may be longer, each with its reason.
var long = map[string]string{
	"core/diagnosis features":  "a list in order, two lines an item",
	"core/dose dates":          "a list in order, some lines a calculation",
	"core/dose soils":          "a list in order, some lines a calculation",
	"core/dose sprays":         "a list in order, some lines a calculation",
	"core/dose waters":         "a list in order, some lines a calculation",
	"core/remedy nameMeasures": "a list in order, two lines an item",
	"core/remedy nameTerms":    "a list in order, two lines an item",
	"core/sky Sentences":       "a list in order, some lines a sentence",
	"exchange/casefile Write":  "a list in order, two lines a field",
	"core/diagnosis sum":       "the inner loops of the exact sum: parted, the state of a pair would be carried through memory",
}

func sources(t *testing.T) []string {
	t.Helper()
	cmd := exec.Command("git", "ls-files", "*.go")
	cmd.Dir = "../.."
	out, err := cmd.Output()
	require.NoError(t, err, "the lines of what git keeps are measured: run the tests in a checkout")
	return strings.Fields(string(out))
}

func isTable(file string) bool {
	for _, table := range tables {
		if strings.HasPrefix(file, table) {
			return true
		}
	}
	return strings.HasSuffix(file, "_test.go")
}

func TestLinesFitAScreen(t *testing.T) {
	for _, file := range sources(t) {
		if isTable(file) {
			continue
		}
		f, err := os.Open("../../" + file)
		if os.IsNotExist(err) {
			continue // taken away, not committed yet
		}
		require.NoError(t, err)
		lines := bufio.NewScanner(f)
		lines.Buffer(nil, 1<<20)
		for n := 1; lines.Scan(); n++ {
			if length := len([]rune(lines.Text())); length > longestLine {
				t.Errorf("%s:%d has %d columns", file, n, length)
			}
		}
		require.NoError(t, f.Close())
	}
}

func TestFunctionsFitAScreen(t *testing.T) {
	set := token.NewFileSet()
	for _, file := range sources(t) {
		if strings.HasSuffix(file, "_test.go") {
			continue
		}
		tree, err := parser.ParseFile(set, "../../"+file, nil, parser.SkipObjectResolution)
		if os.IsNotExist(err) {
			continue
		}
		require.NoError(t, err)
		for _, d := range tree.Decls {
			f, is := d.(*ast.FuncDecl)
			if !is {
				continue
			}
			n := set.Position(f.End()).Line - set.Position(f.Pos()).Line + 1
			name := file[:strings.LastIndex(file, "/")] + " " + f.Name.Name
			if n > longestFunction && long[name] == "" {
				t.Errorf("%s: %s has %d lines", file, f.Name.Name, n)
			}
		}
	}
}
