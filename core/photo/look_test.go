package photo

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestLookingAsItIsWanted(t *testing.T) {
	p := patchy(.5, even)
	slanted, level := 20.0, 15.0
	m, err := Look(p, Wanted{Limits: Usual(), Tilt: &slanted})
	require.NoError(t, err)
	require.InDelta(t, .5, m.Cover, .01)
	require.Equal(t, []Fault{Tilted}, m.Faults)
	m, err = Look(p, Wanted{Limits: Usual(), Tilt: &level})
	require.NoError(t, err)
	require.Empty(t, m.Faults)
	at := func(x float64) []Tap { return []Tap{{x, .2}, {x, .5}, {x, .8}} }
	m, err = Look(p, Wanted{Moss: true, Like: at(.2), Other: at(.8), Tilt: &slanted})
	require.NoError(t, err)
	require.InDelta(t, .5, m.Cover, .02)
	require.Equal(t, []Fault{Tilted}, m.Faults, "what is slanted does not count for moss either")
	for field, w := range map[string]Wanted{"like": {Moss: true}, "hue_low": {Limits: Limits{10, 90, .1}},
		"card": {Limits: Usual(), Card: &Box{0, 0, .01, .01}}} {
		_, err := Look(p, w)
		wrong := (*Wrong)(nil)
		require.True(t, errors.As(err, &wrong), field)
		require.Equal(t, field, wrong.Field)
		require.Contains(t, err.Error(), field)
	}
	_, err = Look(Picture{}, Wanted{Limits: Usual()})
	require.ErrorContains(t, err, "picture: ")
}
