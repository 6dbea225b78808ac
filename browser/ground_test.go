package browser

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/counts"
	"hodos/core/outline"
	"hodos/core/pattern"
	"hodos/exchange/counted"
	"hodos/exchange/ground"
)

// lot is a lawn of eighteen by ten metres with a drive along its south side, and a bed cut out of it.
func lot() (outline.Grid, outline.Shape, []outline.Thing) {
	shape := outline.Shape{Outer: outline.Ring{{East: 0, North: 0}, {East: 18, North: 0}, {East: 18, North: 10}, {East: 0, North: 10}},
		Holes: []outline.Ring{{{East: 8, North: 6}, {East: 11, North: 6}, {East: 11, North: 8}, {East: 8, North: 8}}}}
	things := []outline.Thing{
		{Kind: "hard-edge", Name: "Drive", Points: []outline.Point{{East: 0, North: 0}, {East: 18, North: 0}}},
		{Kind: "tree", Name: "Far away", Points: []outline.Point{{East: 80, North: 80}}, Reach: 3},
	}
	return outline.NewGrid(shape), shape, things
}

// What is marked on the device comes to what the core makes of the whole zone, whatever lies too far off to be sent along.
func TestAPatternReadOnTheDevice(t *testing.T) {
	grid, shape, things := lot()
	zone, err := json.Marshal(ground.Draw(grid, shape, things))
	require.NoError(t, err)
	require.Contains(t, string(zone), "Drive")
	require.NotContains(t, string(zone), "Far away")
	degree := make([]uint8, len(grid.Inside))
	m := ground.DamagedCells{Grid: ground.FrameOf(grid), Slight: []int{}, Clear: []int{}, Bare: []int{}}
	for x := range grid.Columns {
		c := (grid.Rows-1)*grid.Columns + x
		m.Clear, degree[c] = append(m.Clear, c), pattern.Clear
	}
	marks, err := json.Marshal(m)
	require.NoError(t, err)
	b, err := Pattern(zone, marks)
	require.NoError(t, err)
	var got ground.PatternRead
	require.NoError(t, json.Unmarshal(b, &got))
	want := pattern.Read(pattern.Marked{Grid: grid, Degree: degree, Things: things})
	require.InDelta(t, want.Percent, got.Percent, 1e-9)
	require.Len(t, got.Patches, len(want.Patches))
	require.Len(t, got.Proposals, len(want.Proposals))
	require.Equal(t, "along-hardscape", got.Proposals[0].Value)
	require.InDelta(t, want.Proposals[0].Strength, got.Proposals[0].Strength, 1e-9)

	// marked on a grid twice as coarse it is moved onto the zone's
	coarse := ground.DamagedCells{Grid: ground.GridFrame{StepM: 2 * grid.Step, Columns: grid.Columns / 2, Rows: grid.Rows / 2,
		EastM: grid.Corner.East, NorthM: grid.Corner.North}, Clear: []int{0}}
	marks, err = json.Marshal(coarse)
	require.NoError(t, err)
	b, err = Pattern(zone, marks)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, &got))
	inside := 0
	for _, in := range grid.Inside {
		if in {
			inside++
		}
	}
	require.InDelta(t, 400/float64(inside), got.Percent, 1e-9, "four squares")
}

func TestPatternsTheDeviceCannotRead(t *testing.T) {
	grid, shape, _ := lot()
	z := ground.Draw(grid, shape, nil)
	sound, err := json.Marshal(z)
	require.NoError(t, err)
	z.Grid.Columns = -1
	wrong, err := json.Marshal(z)
	require.NoError(t, err)
	marks := []byte(`{"grid":{"step_m":1,"columns":4,"rows":4},"clear":[3]}`)
	for _, c := range []struct {
		zone, marks []byte
		says        string
	}{
		{[]byte(`{`), marks, "zone: "},
		{wrong, marks, "zone.grid has 1 to"},
		{sound, []byte(`{`), "marks is no list"},
		{sound, []byte(`{"grid":{"step_m":1,"columns":4,"rows":4},"clear":[16]}`), "16 is not a cell"},
		{sound, []byte(`{"grid":{"step_m":0,"columns":4,"rows":4},"clear":[1]}`), "marks.grid has no sensible size"},
	} {
		_, err := Pattern(c.zone, c.marks)
		require.ErrorContains(t, err, c.says)
	}
	z = ground.Draw(grid, shape, nil)
	z.Lawn = []int{-3, 1 << 40, 5}
	odd, err := json.Marshal(z)
	require.NoError(t, err)
	_, err = Pattern(odd, marks)
	require.NoError(t, err, "runs beyond the grid are cut at its edge")
}

// A count weighed on the device says what the core says of it.
func TestACountWeighedOnTheDevice(t *testing.T) {
	b, err := Count("grubs-per-m2", []byte(`{"tool":"square-30","places":[{"got":12,"of":900},{"got":5,"of":900},{"got":9,"of":900}]}`), 65)
	require.NoError(t, err)
	var got counted.Weighed
	require.NoError(t, json.Unmarshal(b, &got))
	p, _ := counts.Of("grubs-per-m2")
	want := p.Weigh([]counts.Place{{Got: 12, Of: 900}, {Got: 5, Of: 900}, {Got: 9, Of: 900}}, 65)
	require.InDelta(t, want.Value, got.Value, 1e-9)
	require.Equal(t, string(want.State), got.State)
	require.InDelta(t, want.Over, *got.Over, .005)

	for _, c := range []struct{ finding, tally, says string }{
		{"pull-test", `{"places":[{"got":1,"of":900}]}`, "not counted in places"},
		{"grubs-per-m2", `{`, "tally: "},
		{"grubs-per-m2", `{"places":[{"got":-1,"of":900}]}`, ""},
	} {
		_, err := Count(c.finding, []byte(c.tally), 0)
		require.ErrorContains(t, err, c.says)
	}
}
