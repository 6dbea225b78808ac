package remedy

import (
	"go/ast"
	goparser "go/parser"
	"go/token"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

// The files of the engine: what they switch on is a column of a table, never the name of a finding, a cause or an action. Measures and
// terms are rows themselves and may name what they are made of.
var engine = []string{"arrange.go", "counts.go", "decide.go", "expression.go", "indicate.go", "late.go", "outside.go", "prevention.go",
	"remedy.go", "situation.go"}

func TestTheEngineNamesNoRow(t *testing.T) {
	read := map[string]string{ // what a case says of a lawn by its own field, or a reading that stands for another
		"soil-temp-c": "situation.go", "soil-temp-class": "situation.go", "affected-area-percent": "situation.go",
		"last-nitrogen-days": "situation.go", "past-causes": "prevention.go",
	}
	for _, file := range engine {
		f, err := goparser.ParseFile(token.NewFileSet(), file, nil, 0)
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
			require.False(t, Known(id), "%s names the action %s", file, id)
			require.False(t, cause, "%s names the cause %s", file, id)
			require.False(t, finding && read[id] != file, "%s names the finding %s", file, id)
			return true
		})
	}
}
