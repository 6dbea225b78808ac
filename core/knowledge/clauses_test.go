package knowledge

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/units"
)

// answers are all words that a finding can be answered with, or figures that try it.
func answers(f *Finding) (out []Value) {
	switch f.Kind {
	case YesNo:
		return []Value{YesValue(true), YesValue(false)}
	case Number:
		return []Value{NumberValue(0), NumberValue(1), NumberValue(f.Min), NumberValue(.37), NumberValue(f.Max)}
	case CauseIDs:
		return []Value{{List: []string{}}, {List: []string{"rust"}}, {List: []string{"rust", "white-grubs", "drought-stress"}}}
	case CauseOrNone:
		return []Value{WordValue("rust"), WordValue("none")}
	case AnyOf:
		out = []Value{{List: []string{}}}
		for _, w := range f.Values {
			out = append(out, ListValue(w))
		}
		return append(out, ListValue(f.Values...))
	}
	for _, w := range f.Values {
		out = append(out, WordValue(w))
	}
	return out
}

// Every answer that is weighed can be told a client in plain words, and every row is of use.
func TestEveryAnswerIsToldInPlainWords(t *testing.T) {
	asked := map[[2]string]bool{}
	for _, list := range [][]Finding{Weighed(), WeatherTable, derivedFindings} {
		for i := range list {
			f := &list[i]
			if _, weighed := TableAt[f.ID]; !weighed && !strings.HasSuffix(f.ID, "-window") {
				continue
			}
			id := f.ID
			if strings.HasSuffix(f.ID, "-window") {
				id += ":rust"
			}
			for _, v := range answers(f) {
				said := Clause(f, id, v, units.Saying{})
				require.NotEqual(t, InWords(f, id, v, units.Saying{}), said, "%s %v has no row", f.ID, v)
				require.NotContains(t, said, "{", f.ID)
				require.NotContains(t, said, "  ", f.ID)
				for _, w := range append([]string{v.Word, "", "0", "yes", "no", "none"}, v.List...) {
					asked[[2]string{f.ID, w}] = true
				}
			}
		}
	}
	seen := map[[2]string]bool{}
	for _, r := range clauseRows() {
		key := [2]string{r.finding, r.value}
		require.False(t, seen[key], "%v stands twice", key)
		seen[key] = true
		require.True(t, asked[key], "%v is no answer", key)
	}
}

func TestClausesAreReadAloud(t *testing.T) {
	for want, x := range map[string]struct {
		id string
		v  Value
	}{
		"the turf lifts like a carpet":                                 {"pull-test", WordValue("lifts-like-carpet")},
		"we counted 96 grubs per m²":                                   {"grubs-per-m2", NumberValue(96)},
		"there are no grubs":                                           {"grubs-per-m2", NumberValue(0)},
		"it was last watered 1 day ago":                                {"days-since-water", NumberValue(1)},
		"it was last watered 9 days ago":                               {"days-since-water", NumberValue(9)},
		"the driest quarter gets 45 % of the average water":            {"catch-can-du", NumberValue(.45)},
		"it is watered 3× a week":                                      {"irrigation-sessions-per-week", NumberValue(3)},
		"the colour is straw tan, brown and black":                     {"colour", ListValue("straw-tan", "brown", "black")},
		"the leaf tips have died back and the older leaves are yellow": {"leaf-symptoms", ListValue("tip-dieback", "older-leaves-yellow")},
		"there is froth, or there are small hoppers and there are caterpillars": {"insects-seen",
			ListValue("caterpillars", "spittle-or-spittlebugs")},
		"this lawn has had rust and white grubs before": {"past-causes", ListValue("rust", "white-grubs")},
		"the laboratory found rust":                     {"lab-pathogen", WordValue("rust")},
		"the weather was just right for brown patch":    {"disease-window:brown-patch", WordValue("strong")},
		"it was in the same place before":               {"same-place-before", YesValue(true)},
		"the soil is slightly moist":                    {"soil-moisture", WordValue("slightly-moist")},
	} {
		id, _, _ := strings.Cut(x.id, ":")
		f, ok := findFinding(id)
		require.True(t, ok, id)
		require.Equal(t, want, Clause(f, x.id, x.v, units.Saying{}))
	}
	f, _ := findFinding("thatch-mm")
	require.Equal(t, "the thatch is 0.55 in thick", Clause(f, "thatch-mm", NumberValue(14), units.Saying{Customary: true}))
	steers, _ := findFinding("client-wishes")
	require.Contains(t, Clause(steers, "client-wishes", ListValue("x"), units.Saying{}), "(",
		"an answer without a row is named with its value")
}
