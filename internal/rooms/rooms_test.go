// Package rooms holds the project to the direction of its arrows: the core knows nothing of what is around it.
package rooms

import (
	"encoding/json"
	"errors"
	"io"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

type pkg struct {
	ImportPath string
	Imports    []string
}

func packages(t *testing.T) []pkg {
	t.Helper()
	cmd := exec.Command("go", "list", "-json=ImportPath,Imports", "hodos/...")
	out, err := cmd.Output()
	require.NoError(t, err)
	dec := json.NewDecoder(strings.NewReader(string(out)))
	var all []pkg
	for {
		var p pkg
		err := dec.Decode(&p)
		if errors.Is(err, io.EOF) {
			return all
		}
		require.NoError(t, err)
		all = append(all, p)
	}
}

// outside are the packages of the standard library that reach out of the process or draw chance.
var outside = []string{"os", "net", "io/fs", "database/sql", "math/rand", "math/rand/v2", "crypto/rand", "log", "log/slog", "os/exec",
	"syscall", "unsafe"}

// core says which rooms of the core each of them may ask: tables ask no case, a case asks no scales, and nobody asks who asks them.
var core = map[string]string{
	"hodos/core/units":      "",
	"hodos/core/turf":       "",
	"hodos/core/weather":    "",
	"hodos/core/soil":       "weather",
	"hodos/core/dose":       "soil turf units weather",
	"hodos/core/label":      "dose turf",
	"hodos/core/counts":     "",
	"hodos/core/outline":    "",
	"hodos/core/pattern":    "outline",
	"hodos/core/photo":      "",
	"hodos/core/clearance":  "label turf",
	"hodos/core/schedule":   "",
	"hodos/core/review":     "turf",
	"hodos/core/budget":     "clearance dose turf",
	"hodos/core/jobs":       "remedy",
	"hodos/core/sky":        "soil turf units weather",
	"hodos/core/knowledge":  "turf units weather",
	"hodos/core/evidence":   "knowledge sky soil turf weather",
	"hodos/core/worth":      "knowledge",
	"hodos/core/diagnosis":  "evidence knowledge sky units worth",
	"hodos/core/simulation": "diagnosis evidence knowledge weather",
	"hodos/core/recovery":   "turf",
	"hodos/core/client":     "units weather",
	"hodos/core/opinion":    "diagnosis knowledge",
	"hodos/core/alike":      "figures",
	"hodos/core/morning":    "",
	"hodos/core/hindsight":  "diagnosis evidence knowledge soil weather",
	"hodos/core/repeat":     "worth",
	"hodos/core/driving":    "",
	"hodos/core/trial":      "figures recovery",
	"hodos/core/triage":     "diagnosis worth",
	"hodos/core/figures":    "",
	"hodos/core/guide":      "",
	"hodos/core/remedy":     "diagnosis dose evidence knowledge sky soil turf units weather worth",
	"hodos/core/watch":      "evidence knowledge remedy sky turf units weather",
}

// above says which rooms those above the core may ask; a room that is not listed here asks whom it likes: it wires the others.
var above = map[string]string{
	"hodos/store":    "nothing",
	"hodos/account":  "store",
	"hodos/casework": "core/ exchange/ store",
	"hodos/night":    "account casework core/ store",
	"hodos/server":   "account casework core/ exchange/ internal/build night paper store",
	"hodos/browser":  "core/ exchange/casefile exchange/counted exchange/ground",
	"hodos/paper":    "nothing",
	"hodos/archive":  "store",
	"hodos/mail":     "nothing",
	"hodos/terminal": "core/ exchange/casefile",
	"hodos/standin":  "account core/ exchange/",
}

func TestArrowsPointInward(t *testing.T) {
	seen := 0
	for _, p := range packages(t) {
		inner := strings.HasPrefix(p.ImportPath, "hodos/core/")
		if inner {
			require.Contains(t, core, p.ImportPath, "a room of the core is new: docs/architecture.md")
			seen++
		}
		for _, i := range p.Imports {
			switch {
			case inner && strings.HasPrefix(i, "hodos/"):
				require.Contains(t, strings.Fields(core[p.ImportPath]), strings.TrimPrefix(i, "hodos/core/"), "%s imports %s", p.ImportPath, i)
			case inner:
				require.NotContains(t, i, ".", "%s imports %s: the core uses the standard library alone", p.ImportPath, i)
				require.NotContains(t, outside, i, "%s imports %s: the core reaches nothing outside", p.ImportPath, i)
			case strings.HasPrefix(p.ImportPath, "hodos/exchange/"):
				for _, room := range []string{"hodos/store", "hodos/server", "hodos/web", "hodos/demo"} {
					require.NotEqual(t, room, i, "%s imports %s", p.ImportPath, i)
				}
			case strings.HasPrefix(i, "hodos/") && above[p.ImportPath] != "":
				allowed := false
				for _, room := range strings.Fields(above[p.ImportPath]) {
					allowed = allowed || strings.HasPrefix(i, "hodos/"+room)
				}
				require.True(t, allowed, "%s imports %s: docs/architecture.md", p.ImportPath, i)
			}
			if strings.HasPrefix(i, "github.com/riverqueue/river") {
				require.Contains(t, []string{"hodos/night", "hodos/store"}, p.ImportPath, "only the night knows the queue; the store makes its tables")
			}
			if strings.HasPrefix(i, "github.com/danielgtaylor/huma") || strings.HasPrefix(i, "github.com/labstack/echo") {
				require.Equal(t, "hodos/server", p.ImportPath, "only the server knows HTTP")
			}
		}
	}
	require.Equal(t, len(core), seen, "a room of the core is missing: docs/architecture.md")
}

// TestTheCoreReadsNoClock looks for time.Now and its kin in the core's sources.
func TestTheCoreReadsNoClock(t *testing.T) {
	out, err := exec.Command("grep", "-rnE", `time\.(Now|Since|Until|After|Tick|Sleep)\(`, "../../core", "--include=*.go",
		"--exclude=*_test.go").CombinedOutput()
	var exit *exec.ExitError
	require.True(t, errors.As(err, &exit) && exit.ExitCode() == 1, "the core reads a clock:\n%s", out)
}
