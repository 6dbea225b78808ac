package ground

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/outline"
)

func grid(columns, rows int) outline.Grid {
	f := GridFrame{StepM: 1, Columns: columns, Rows: rows, EastM: 0, NorthM: float64(rows)}
	return f.Outline()
}

// A lawn with a bed in it is sent as runs, and comes back square by square.
func TestALawnGoesOutAsRuns(t *testing.T) {
	g := grid(4, 3)
	g.Inside[0], g.Inside[5], g.Inside[6] = false, false, false
	z := Draw(g, outline.Shape{}, nil)
	require.Equal(t, []int{1, 4, 7, 5}, z.Lawn)
	require.Equal(t, g.Inside, z.marked(DamagedCells{Grid: z.Grid}).Grid.Inside)
	require.Empty(t, Draw(outline.Grid{Step: 1, Columns: 2, Rows: 1, Inside: make([]bool, 2)}, outline.Shape{}, nil).Lawn)
	z.Lawn = []int{-3, 5, 11, 900, 4} // what somebody else made up
	in := z.marked(DamagedCells{Grid: z.Grid}).Grid.Inside
	require.Len(t, in, 12)
	require.True(t, in[0] && in[1] && in[11])
	require.False(t, in[2] || in[10])
}

// A path two steps from the lawn is drawn with it, a tree farther off only as far as it reaches; a zone of which only the area is known
// has nothing beside it.
func TestWhatLiesByALawnIsDrawnWithIt(t *testing.T) {
	g := grid(4, 4)
	things := []outline.Thing{
		{Kind: "hard-edge", Name: "drive", Points: []outline.Point{{East: 6, North: 0}, {East: 6, North: 4}}},
		{Kind: "hard-edge", Name: "road", Points: []outline.Point{{East: 6.2, North: 0}, {East: 6.2, North: 4}}},
		{Kind: "tree", Name: "lime", Points: []outline.Point{{East: 12.004, North: 2}}, Reach: 6.5},
	}
	var names []string
	for _, x := range Draw(g, outline.Shape{}, things).Things {
		names = append(names, x.Name)
	}
	require.Equal(t, []string{"drive", "lime"}, names)
	require.Equal(t, 12.0, Draw(g, outline.Shape{}, things[2:]).Things[0].Line[0].East, "to a centimetre")
	g.Plain = true
	require.Empty(t, Draw(g, outline.Shape{}, things).Things)
}

func TestSquaresAreReadOrRefused(t *testing.T) {
	frame := `"grid":{"step_m":1,"columns":4,"rows":3,"east_m":0,"north_m":3,"plain":false}`
	for text, want := range map[string][2]string{
		`{` + frame + `,"slight":[0],"clear":[1,2],"bare":[11]}`: {"", ""},
		`[0,95]`:                                 {"", ""},
		`[96]`:                                   {"", "96 is not a cell"},
		`{` + frame + `,"clear":[12]}`:           {"", "12 is not a cell"},
		`{` + frame + `,"clear":[-1]}`:           {"", "-1 is not a cell"},
		`{` + frame + `,"clear":[3],"bare":[3]}`: {"", "3 stands twice"},
		`{"grid":{"step_m":1,"columns":65,"rows":64}}`:               {".grid", "1 to 4096 squares"},
		`{"grid":{"step_m":1,"columns":0,"rows":3}}`:                 {".grid", "1 to 4096 squares"},
		`{"grid":{"step_m":0,"columns":4,"rows":3}}`:                 {".grid", "no sensible size"},
		`{"grid":{"step_m":1,"columns":4,"rows":3,"east_m":100001}}`: {".grid", "no sensible size"},
		`"all of it"`:                         {"", "no list of squares"},
		`["one"]`:                             {"", "no list of squares"},
		`[` + strings.Repeat("1,", 96) + `1]`: {"", "no list of squares"},
		``:                                    {"", "no list of squares"},
	} {
		m, where, reason := CellsIn([]byte(text))
		require.Equal(t, want[0], where, text)
		if want[1] == "" {
			require.Empty(t, reason, text)
			require.NotNil(t, m.Slight, text)
			continue
		}
		require.Contains(t, reason, want[1], text)
	}
	var kept any
	require.NoError(t, json.Unmarshal([]byte(`{`+frame+`,"slight":[0],"clear":[1],"bare":[11]}`), &kept))
	m, _, reason := CellsOf(kept)
	require.Empty(t, reason)
	require.Equal(t, []uint8{1, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 3}, m.Degree())
	_, _, reason = CellsOf(func() {})
	require.Equal(t, "is no list of squares", reason)
}

// Marks made before the outline was walked lie on another grid: they are moved onto the zone's, and what lies beyond the lawn is left out.
func TestMarksOfAnotherGridAreMoved(t *testing.T) {
	z := Draw(grid(8, 6), outline.Shape{}, nil)
	m := DamagedCells{Grid: GridFrame{StepM: 2, Columns: 4, Rows: 3, EastM: 0, NorthM: 6}, Clear: []int{0}}
	r := PatternOf(z, m)
	require.InDelta(t, 100.0*4/48, r.Percent, .01, "one square of two by two metres is four of the lawn")
	require.Equal(t, 1, r.PatchCount)
	require.InDelta(t, 4, r.Patches[0].AreaM2, .01)
	none := PatternOf(z, DamagedCells{Grid: z.Grid})
	require.Zero(t, none.Percent)
	require.NotNil(t, none.Patches)
	require.NotNil(t, none.Near)
	require.NotNil(t, none.Proposals)
}

// However many patches there are, a dozen are told one by one, the largest first, and all of them are counted.
func TestADozenPatchesAreToldOneByOne(t *testing.T) {
	z := Draw(grid(20, 20), outline.Shape{}, nil)
	m := DamagedCells{Grid: z.Grid, Bare: []int{0, 1}}
	for row := 2; row < 20; row += 4 {
		for column := 2; column < 20; column += 4 {
			m.Bare = append(m.Bare, row*20+column)
		}
	}
	r := PatternOf(z, m)
	require.Equal(t, 26, r.PatchCount)
	require.Len(t, r.Patches, mostPatches)
	require.InDelta(t, 2, r.Patches[0].AreaM2, .01)
	require.Equal(t, "even", r.Arrangement)
}
