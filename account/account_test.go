package account

import (
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

var noon = time.Date(2026, 8, 24, 12, 0, 0, 0, time.UTC)

func from(network, device string) From { return From{Network: network, Device: device} }

// Ten tries, then one every half minute: who guesses an account from many networks is slowed down like one from a single one.
func TestAnAccountIsGuessedSlowly(t *testing.T) {
	var l limits
	for i := range accountTries {
		require.Zero(t, l.take("orla@x.example", from(fmt.Sprint("10.0.0.", i), ""), false, noon), "try %d", i)
	}
	wait := l.take("orla@x.example", from("10.9.9.9", ""), false, noon)
	require.InDelta(t, accountPause.Seconds(), wait.Seconds(), .01)
	require.InDelta(t, 10, l.take("orla@x.example", from("10.9.9.9", ""), false, noon.Add(20*time.Second)).Seconds(), .01)
	require.Zero(t, l.take("orla@x.example", from("10.9.9.9", ""), false, noon.Add(accountPause)))
	require.NotZero(t, l.take("orla@x.example", from("10.9.9.9", ""), false, noon.Add(accountPause)), "one is won back, not more")
	require.Zero(t, l.take("piet@x.example", from("10.8.8.8", ""), false, noon), "another account is another account")
}

// A network that tries many accounts is slowed down for all of them.
func TestANetworkGuessesSlowly(t *testing.T) {
	var l limits
	for i := range networkTries {
		require.Zero(t, l.take(fmt.Sprintf("p%d@x.example", i), from("10.0.0.1", ""), false, noon))
	}
	require.InDelta(t, networkPause.Seconds(), l.take("last@x.example", from("10.0.0.1", ""), false, noon).Seconds(), .01)
	require.Zero(t, l.take("last@x.example", from("10.0.0.2", ""), false, noon))
}

// Whoever sits at a device of their own is not locked out by a stranger's guesses.
func TestAKnownDeviceHasItsOwnMeasure(t *testing.T) {
	var l limits
	for range 3 * accountTries {
		l.take("orla@x.example", from("10.0.0.1", ""), false, noon)
	}
	require.NotZero(t, l.take("orla@x.example", from("10.0.0.1", ""), false, noon))
	for range deviceTries {
		require.Zero(t, l.take("orla@x.example", from("10.0.0.1", "mine"), true, noon))
	}
	require.InDelta(t, devicePause.Seconds(), l.take("orla@x.example", from("10.0.0.1", "mine"), true, noon).Seconds(), .01)
}

// A right try costs nothing, and nobody saves up more than the measure holds.
func TestARightTryIsGivenBack(t *testing.T) {
	var l limits
	where := from("10.0.0.1", "")
	for range 50 {
		require.Zero(t, l.take("orla@x.example", where, false, noon))
		l.giveBack("orla@x.example", where, false, noon)
	}
	l.giveBack("orla@x.example", where, false, noon)
	tries := 0
	for l.take("orla@x.example", where, false, noon.Add(24*time.Hour)) == 0 {
		tries++
	}
	require.Equal(t, accountTries, tries)
}

// Tries that come at once are counted before any of them is weighed.
func TestManyAtOnceDoNotSlipThrough(t *testing.T) {
	var l limits
	var wg sync.WaitGroup
	var mu sync.Mutex
	through := 0
	for range 200 {
		wg.Go(func() {
			if l.take("orla@x.example", from("10.0.0.1", ""), false, noon) == 0 {
				mu.Lock()
				through++
				mu.Unlock()
			}
		})
	}
	wg.Wait()
	require.Equal(t, accountTries, through)
}

func TestPasswordsThatAreRefused(t *testing.T) {
	for _, x := range []struct {
		password string
		about    []string
		want     string
	}{
		{"short", nil, "too short"},
		{strings.Repeat("a b", 90), nil, "too long"},
		{"password123", nil, "too easy"},
		{"          ", nil, "too easy"},
		{"qwertyuiop", nil, "too easy"},
		{"averleyturf", []string{"Averley Turf Care"}, "too easy"},
		{"orla.brandt", []string{"orla.brandt@post.example"}, "too easy"},
	} {
		var weak Weak
		err := Check(x.password, x.about...)
		require.ErrorAs(t, err, &weak, x.password)
		require.ErrorContains(t, err, x.want, x.password)
	}
	require.NoError(t, Check("gravel thimble otter lamp", "Orla Brandt"))
	require.NoError(t, Check("ungewöhnlich ßtraße 雨傘", "Orla Brandt"), "characters are counted, not bytes")
}

// What is stored is never the same twice, fits its password alone, and keeps its own figures.
func TestAPasswordAsItIsStored(t *testing.T) {
	one, two := Hash("gravel thimble otter"), Hash("gravel thimble otter")
	require.NotEqual(t, one, two)
	require.True(t, strings.HasPrefix(one, "$argon2id$v=19$m=19456,t=2,p=1$"))
	require.True(t, Matches("gravel thimble otter", one))
	require.False(t, Matches("gravel thimble otter ", one))
	require.False(t, Matches("", one))
	for _, stored := range []string{"", "$argon2id$v=19$m=0,t=0,p=1$$", "nonsense", "$argon2id$v=19$m=19456,t=2,p=1$!$!"} {
		require.False(t, Matches("", stored), "nothing fits what is no hash: %q", stored)
	}
	weaker := strings.Replace(one, "m=19456,t=2", "m=4096,t=1", 1)
	require.False(t, Matches("gravel thimble otter", weaker), "the figures are part of it")
}

// Every role has rights that there are, and nobody has those of a role that there is not.
func TestRolesHaveKnownRights(t *testing.T) {
	for _, role := range Roles {
		n := 0
		for _, right := range Rights {
			if May(role, right) {
				n++
			}
		}
		require.Positive(t, n, role)
		require.True(t, May(role, See), role)
		require.False(t, May(role, "fly"), role)
	}
	require.False(t, May("gardener", See))
	for _, k := range Kinds {
		require.NotEmpty(t, Label(k.ID))
	}
}
