package alike

import (
	"testing"

	"github.com/stretchr/testify/require"
)

func green(x float64) Lawn { return Lawn{GreenUp: &x} }

func shown(colour, pattern, cause string) Lawn {
	l := Lawn{Cause: cause}
	if colour != "" {
		l.Colours = []string{colour}
	}
	if pattern != "" {
		l.Patterns = []string{pattern}
	}
	return l
}

func TestAmongLikeLawns(t *testing.T) {
	others := []Lawn{green(60), green(70), green(80), green(75)}
	// quartiles 67.5 and 76.25, half of what lies between is under ten: ten counts
	for own, want := range map[float64]Word{57: Behind, 58: AsThey, 70: AsThey, 86: AsThey, 87: Ahead} {
		f := Against(green(own), others).GreenUp
		require.Equal(t, want, f.Word, own)
		require.Equal(t, 4, f.Others.N)
		require.InDelta(t, 72.5, f.Others.Median, 1e-9)
	}
	wide := []Lawn{green(0), green(40), green(60), green(100)} // quartiles 30 and 70: half of forty
	require.Equal(t, AsThey, Against(green(11), wide).GreenUp.Word)
	require.Equal(t, Behind, Against(green(9), wide).GreenUp.Word)
	require.Equal(t, Few, Against(green(5), others[:2]).GreenUp.Word, "two are no yardstick")
	none := Against(Lawn{}, others).GreenUp
	require.Equal(t, Few, none.Word)
	require.Equal(t, 4, none.Others.N, "what the others show is told all the same")
	a, b, c := .4, .42, .44
	own := .3
	require.Equal(t, Behind, Against(Lawn{Colour: &own}, []Lawn{{Colour: &a}, {Colour: &b}, {Colour: &c}}).Colour.Word)
}

func TestTheSameSymptom(t *testing.T) {
	own := shown("straw-tan", "uniform", "")
	h := Against(own, []Lawn{shown("straw-tan", "uniform", "summer-dormancy"), shown("straw-tan", "rings", "fairy-ring"),
		shown("brown", "uniform", ""), shown("straw-tan", "", "summer-dormancy")})
	require.Equal(t, 4, h.Lawns)
	require.Equal(t, []int{1, 3}, []int{h.Same, h.Seen}, "colour and pattern both, of those that told both")
	require.Equal(t, []int{2, 3}, []int{h.Resting, h.Diagnosed})
	require.Equal(t, "few", h.Neighbours())
	require.Zero(t, Against(Lawn{}, []Lawn{own, own, own}).Seen, "nothing to compare yet")
	require.Equal(t, "many", Against(own, []Lawn{own, own, shown("brown", "rings", "")}).Neighbours())
	require.Equal(t, "none", Against(own, []Lawn{shown("brown", "rings", ""), shown("brown", "rings", ""), shown("yellow", "uniform", "")}).Neighbours())
	require.Empty(t, Against(own, []Lawn{own, own}).Neighbours(), "two say nothing of the neighbourhood")
}
