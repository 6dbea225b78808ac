package client

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/units"
	"hodos/core/weather"
)

var monday = time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC)

// days are made of pairs of highest temperature and rain; the lowest lies ten degrees below.
func days(pairs ...[2]float64) (out []weather.Day) {
	for i, p := range pairs {
		hi, lo, rain := p[0], p[0]-10, p[1]
		out = append(out, weather.Day{Date: monday.AddDate(0, 0, i), TMax: &hi, TMin: &lo, Rain: &rain})
	}
	return out
}

func kinds(list []Spell) (out []SpellKind) {
	for _, s := range list {
		out = append(out, s.Kind)
	}
	return out
}

func TestSpellsAhead(t *testing.T) {
	mild := [2]float64{22, 3}
	heat := [2]float64{33, 3}
	for _, x := range []struct {
		name string
		days []weather.Day
		warm bool
		want []SpellKind
	}{
		{"nothing", days(mild, mild, mild, mild), false, nil},
		{"two hot days are none", days(mild, heat, heat, mild), false, nil},
		{"three are", days(mild, heat, heat, heat, mild), false, []SpellKind{Hot}},
		{"and at the end of the forecast", days(mild, heat, heat, heat), false, []SpellKind{Hot}},
		{"not for warm-season grass", days(heat, heat, heat, heat), true, nil},
		{"which has its own", days([2]float64{38, 3}, [2]float64{37, 3}, [2]float64{37, 3}), true, []SpellKind{Hot}},
		{"rain within three days", days(mild, [2]float64{20, 12}, [2]float64{20, 20}, [2]float64{20, 8}), false, []SpellKind{Soggy}},
		{"a little less", days(mild, [2]float64{20, 12}, [2]float64{20, 20}, [2]float64{20, 7.5}), false, nil},
		{"frost", days([2]float64{12, 3}, [2]float64{10, 3}), false, []SpellKind{Frost}},
		{"seven dry warm days", days([2]float64{25, 0}, [2]float64{25, 1.9}, [2]float64{24, 0}, [2]float64{25, 0}, [2]float64{25, 0}, [2]float64{25, 0},
			[2]float64{25, 0}), false, []SpellKind{Dry}},
		{"one of them wet", days([2]float64{25, 0}, [2]float64{25, 2}, [2]float64{24, 0}, [2]float64{25, 0}, [2]float64{25, 0}, [2]float64{25, 0},
			[2]float64{25, 0}), false, nil},
	} {
		require.Equal(t, x.want, kinds(SpellsAhead(nil, x.days, x.warm)), x.name)
	}
	s := SpellsAhead(nil, days(mild, heat, [2]float64{36, 3}, heat, mild), false)[0]
	require.Equal(t, []time.Time{monday.AddDate(0, 0, 1), monday.AddDate(0, 0, 3)}, []time.Time{s.From, s.To})
	require.Equal(t, 36.0, s.Peak)
	wet := SpellsAhead(nil, days([2]float64{20, 40}, mild, mild, [2]float64{20, 30}, [2]float64{20, 30}, mild), false)[0]
	require.Equal(t, 63.0, wet.Peak, "the wettest stretch")
	require.Equal(t, monday.AddDate(0, 0, 2), wet.From)

	cold := days([2]float64{10, 0})
	require.Empty(t, SpellsAhead(cold, days([2]float64{9, 3}), false), "the first frost has been")
	long := append(days([2]float64{10, 0}), days(mild, mild, mild, mild, mild, mild, mild, mild, mild, mild, mild, mild, mild, mild)...)
	require.Equal(t, []SpellKind{Frost}, kinds(SpellsAhead(long, days([2]float64{9, 3}), false)), "a fortnight without is a first again")
}

// Every kind has a message for every lawn, in both systems, with nothing left to fill in.
func TestEverySpellIsTold(t *testing.T) {
	on := func(d time.Time) string { return d.Format("2 Jan") }
	for _, kind := range SpellKinds() {
		for i := range 8 {
			l := Lawn{Irrigated: i&1 > 0, Sown: i&2 > 0, Warm: i&4 > 0}
			for _, system := range []string{"metric", "us"} {
				subject, lines := Spell{kind, monday, monday.AddDate(0, 0, 4), 41}.Message(l, units.In(system), on)
				require.NotEmpty(t, subject)
				require.GreaterOrEqual(t, len(lines), 2)
				for _, x := range append(lines, subject) {
					require.NotContains(t, x, "{", x)
				}
				require.Contains(t, lines[0], "24 Aug")
			}
		}
	}
	_, dry := Spell{Hot, monday, monday, 34}.Message(Lawn{}, units.In("us"), on)
	text := strings.Join(dry, " ")
	require.Contains(t, text, "93 °F")
	require.Contains(t, text, "brown to save itself")
	require.NotContains(t, text, "seed")
	_, sown := Spell{Hot, monday, monday, 34}.Message(Lawn{Irrigated: true, Sown: true}, units.In("metric"), on)
	require.Contains(t, strings.Join(sown, " "), "new seed damp")
	require.NotContains(t, strings.Join(sown, " "), "brown to save itself")
	require.NotEqual(t, Lawn{Sown: true}.Key(), Lawn{Warm: true}.Key())
}

func TestBeforehand(t *testing.T) {
	list := Beforehand([]string{"core-aerate", "dethatch", "apply-iron"}, units.In("metric"))
	require.Len(t, list, 2, "mark the heads once, and the gate")
	require.Contains(t, list[0], "mark sprinkler heads")
	require.Len(t, Beforehand(nil, units.In("metric")), 1)
}
