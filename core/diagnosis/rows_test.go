package diagnosis

import (
	"go/ast"
	goparser "go/parser"
	"go/token"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

// The scales name no finding and no cause: what they switch on is a column of a table.
func TestTheScalesNameNoRow(t *testing.T) {
	files, err := os.ReadDir(".")
	require.NoError(t, err)
	for _, e := range files {
		if strings.HasSuffix(e.Name(), "_test.go") {
			continue
		}
		f, err := goparser.ParseFile(token.NewFileSet(), e.Name(), nil, 0)
		require.NoError(t, err)
		ast.Inspect(f, func(n ast.Node) bool {
			lit, ok := n.(*ast.BasicLit)
			if !ok || lit.Kind != token.STRING {
				return true
			}
			id, err := strconv.Unquote(lit.Value)
			require.NoError(t, err)
			_, cause := knowledge.CauseByID(id)
			_, finding := knowledge.FindingByID(id)
			require.False(t, cause || finding, "%s names %s", e.Name(), id)
			return true
		})
	}
}

// Checks that another answer or the season makes pointless are not asked for.
func TestSensibleChecks(t *testing.T) {
	asks := func(id string, warm bool, known map[string]knowledge.Value) bool {
		f, ok := knowledge.FindingByID(id)
		require.True(t, ok, id)
		return f.Sensible(known, warm)
	}
	is := func(pairs ...any) map[string]knowledge.Value {
		out := map[string]knowledge.Value{}
		for i := 0; i < len(pairs); i += 2 {
			switch v := pairs[i+1].(type) {
			case float64:
				out[pairs[i].(string)] = knowledge.NumberValue(v)
			case string:
				out[pairs[i].(string)] = knowledge.WordValue(v)
			case []string:
				out[pairs[i].(string)] = knowledge.ListValue(v...)
			}
		}
		return out
	}
	for _, x := range []struct {
		finding string
		warm    bool
		known   map[string]knowledge.Value
		want    bool
	}{
		{"pattern", false, nil, true},
		{"green-up-percent", false, nil, false}, {"green-up-percent", true, nil, true},
		{"green-up-percent", true, is("soil-temp-class", "mild"), true}, {"green-up-percent", true, is("soil-temp-class", "hot"), false},
		{"snow-cover-days", false, nil, true}, {"snow-cover-days", false, is("snow-days", 3.), false},
		{"grub-kind", false, nil, false}, {"grub-kind", false, is("grubs-per-m2", 9.), false}, {"grub-kind", false, is("grubs-per-m2", 10.), true},
		{"moss-state", false, is("moss-cover-percent", 0.), false}, {"moss-state", false, is("moss-cover-percent", 1.), true},
		{"caterpillar-kind", false, nil, false}, {"caterpillar-kind", false, is("insects-seen", []string{"caterpillars"}), true},
		{"caterpillar-kind", false, is("flush-caterpillars-per-m2", 0.), false}, {"caterpillar-kind", false, is("flush-caterpillars-per-m2", 2.), true},
		{"weed-kinds", false, nil, true}, {"weed-kinds", false, is("weed-cover-percent", 0.), false},
		{"weed-kinds", false, is("weed-cover-percent", 4.), true},
		{"soil-temp-healthy-c", false, nil, false}, {"soil-temp-healthy-c", false, is("soil-temp-c", 21.), true},
		{"soil-temp-hour", false, nil, false}, {"tissue-si-percent", false, nil, false},
	} {
		require.Equal(t, x.want, asks(x.finding, x.warm, x.known), "%s with %v", x.finding, x.known)
	}
}
