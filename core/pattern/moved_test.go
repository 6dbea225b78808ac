package pattern

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/outline"
)

// The page draws marks of another grid by itself while a finger moves: web/src/ground/grid.test.ts holds it to the same table.
func TestMarksMoveAsThePageMovesThem(t *testing.T) {
	b, err := os.ReadFile("testdata/moved.json")
	require.NoError(t, err)
	type frame struct {
		Step    float64 `json:"step_m"`
		Columns int     `json:"columns"`
		Rows    int     `json:"rows"`
		East    float64 `json:"east_m"`
		North   float64 `json:"north_m"`
		Plain   bool    `json:"plain"`
	}
	grid := func(f frame) outline.Grid {
		return outline.Grid{Step: f.Step, Columns: f.Columns, Rows: f.Rows, Corner: outline.Point{East: f.East, North: f.North}, Plain: f.Plain,
			Inside: make([]bool, f.Columns*f.Rows)}
	}
	var cases []struct {
		What         string
		From, To     frame
		Clear, There []int
	}
	require.NoError(t, json.Unmarshal(b, &cases))
	require.Len(t, cases, 5)
	for _, c := range cases {
		from := grid(c.From)
		degree := make([]uint8, len(from.Inside))
		for _, i := range c.Clear {
			degree[i] = Clear
		}
		there := []int{}
		for i, d := range Moved(from, degree, grid(c.To)) {
			if d == Clear {
				there = append(there, i)
			}
		}
		require.Equal(t, c.There, there, c.What)
	}
}
