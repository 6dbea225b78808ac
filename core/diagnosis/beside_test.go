package diagnosis

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// A reading that the good spot shows as well does not tell the bad one apart; one that it does not show tells more.
func TestTheGoodSpotIsTheYardstick(t *testing.T) {
	read := func(bad, good map[string]knowledge.Value) Result {
		c := evidence.Case{Lawn: lawn("perennial-ryegrass", time.August, 40), Findings: bad, Reference: good}
		return Diagnose(c, Options{NoNext: true})
	}
	n, w := knowledge.NumberValue, knowledge.WordValue
	for _, c := range []struct {
		cause, finding    string
		bad, alike, apart knowledge.Value
		tells             float64 // by how much more a good spot that reads otherwise tells: not at all where sound lawns mostly read so
	}{
		{"compaction", "root-depth-mm", n(28), n(30), n(150), 1.1},
		{"white-grubs", "root-condition", w("chewed-off"), w("chewed-off"), w("intact"), .95},
		{"compaction", "penetration", w("hard"), w("hard"), w("easy"), 1.1},
	} {
		bad := map[string]knowledge.Value{c.finding: c.bad}
		alone := read(bad, nil).P(c.cause)
		require.Positive(t, alone, c.cause)
		alike := read(bad, map[string]knowledge.Value{c.finding: c.alike}).P(c.cause)
		apart := read(bad, map[string]knowledge.Value{c.finding: c.apart}).P(c.cause)
		require.Less(t, alike, .8*alone, "%s: the same at the good spot", c.finding)
		require.Greater(t, apart, c.tells*alone, "%s: another at the good spot", c.finding)
	}
	// what is its own reading stays one
	thick := map[string]knowledge.Value{"thatch-mm": n(32)}
	require.InDelta(t, read(thick, nil).P("excess-thatch"), read(thick,
		map[string]knowledge.Value{"thatch-mm": n(31)}).P("excess-thatch"), .02)
	// moisture and temperature have findings of their own for the difference, and a good spot without a bad one says nothing
	moist := map[string]knowledge.Value{"soil-moisture": w("dry")}
	r := read(moist, map[string]knowledge.Value{"soil-moisture": w("dry"), "thatch-mm": n(30)})
	require.InDelta(t, read(map[string]knowledge.Value{"soil-moisture": w("dry"), "moisture-against-healthy": w("same")},
		nil).P("drought-stress"),
		r.P("drought-stress"), 1e-9)
}

func TestBesideGoodIsAChance(t *testing.T) {
	for _, id := range []string{"penetration", "root-colour", "core-black-layer", "pull-test"} {
		cf := &knowledge.Tables[knowledge.TableAt[id]]
		sum := 0.0
		for _, v := range cf.Values {
			value := knowledge.WordValue(v)
			good := knowledge.WordValue(cf.Values[0])
			if cf.Finding.Kind == knowledge.YesNo {
				yes, first := v == "yes", cf.Values[0] == "yes"
				value, good = knowledge.Value{Yes: &yes}, knowledge.Value{Yes: &first}
			}
			sum += cf.BesideGood(cf.Chance(&cf.Background, value), value, good)
		}
		require.InDelta(t, 1, sum, 1e-6, id)
	}
}
