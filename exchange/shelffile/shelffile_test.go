package shelffile

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/label"
	"hodos/core/remedy"
	"hodos/exchange/refusal"
)

func sample() []label.Label {
	hot := 29.0
	return []label.Label{
		{Name: "Vellum 250", Maker: "Corvane", Kind: "fungicide", Form: "sc", Liquid: true, Posting: true, ReentryHours: 4, Protect: []string{"gloves", "goggles"},
			Places:  []label.Registration{{Place: "US", Number: "R 1", From: "2022-01-01", Until: "2030-12-31"}, {Place: "NZ"}},
			Actives: []label.Active{{Name: "azoxystrobin", Group: "11", Content: 250, SeasonMax: .15}},
			Uses: []label.Use{{ID: "leaf", Actions: []string{"fungicide-curative"}, Targets: []string{"rust", "brown-patch"}, RateLow: .06, RateHigh: .13, MostASeason: 3, AirHigh: &hot, BeesFlying: true},
				{ID: "root", Actions: []string{"fungicide-preventive"}, NotGrasses: []string{"zoysiagrass"}, RateLow: .1, RateHigh: .2}}},
		{Name: "=Odd", Kind: "fertilizer", Form: "granule", Analysis: map[string]float64{"n": 20, "k2o": 8.5}, Uses: []label.Use{{ID: "lawn", Actions: []string{"apply-nitrogen"}, RateHigh: 20}}},
	}
}

func TestAShelfGoesOutAndComesBack(t *testing.T) {
	b, err := Write(sample())
	require.NoError(t, err)
	require.Contains(t, string(b), "'=Odd", "no spreadsheet runs it")
	back, err := Read(strings.NewReader(string(b)), remedy.Known)
	require.NoError(t, err)
	require.Equal(t, sample(), back)
}

func TestWhatIsWrongIsToldByLine(t *testing.T) {
	head := "hodos-shelf,1\nproduct,kind,form,actives,actions,rate_low,rate_high,most_a_season,liquid,analysis\n"
	for _, x := range []struct{ text, line string }{
		{"hodos-shelf,2\n", "line 1: must read hodos-shelf,1"},
		{"hodos-shelf,1\n", "line 2: the header is missing"},
		{"hodos-shelf,1\nproduct,colour\n", "line 2, colour: is no column"},
		{"hodos-shelf,1\nkind,kind\n", "line 2, kind: stands twice"},
		{head + "A,fertilizer,granule,,apply-nitrogen,1,x,,,n=20\n", `line 3, rate_high: "x" is not a number`},
		{head + "A,fertilizer,granule,,apply-nitrogen,1,2,1.5,,n=20\n", "line 3, most_a_season: is no whole number"},
		{head + "A,fertilizer,granule,,apply-nitrogen,1,2,,maybe,n=20\n", "line 3, liquid: is neither yes nor no"},
		{head + "A,fertilizer,granule,,dance,1,2,,,n=20\n", `line 3, uses[0].actions: "dance" is no action`},
		{head + "A,fungicide,sc,,fungicide-curative,1,2,,,\n", "line 3, actives: a fungicide has an active"},
		{head + "A,fungicide,sc,a:b,fungicide-curative,1,2,,,\n", `line 3, actives: "a:b" is not name:group:content:most a season`},
		{head + "A,fertilizer,granule,,apply-nitrogen,1,2,,,n:20\n", `line 3, analysis: "n:20" is not nutrient=per cent`},
		{head + ",fertilizer,granule,,apply-nitrogen,1,2,,,n=20\n", "line 3, product: is missing"},
		{head + "A,fertilizer\n", "line 3: has 2 fields, and the header has 10"},
		{head + "A,fertilizer,granule,,apply-nitrogen,1,2,,,n=\"20\n", "line 3: "},
	} {
		_, err := Read(strings.NewReader(x.text), remedy.Known)
		var r *refusal.Refusal
		require.ErrorAs(t, err, &r, x.text)
		require.Contains(t, r.Error(), x.line)
	}
}

func FuzzRead(f *testing.F) {
	b, err := Write(sample())
	require.NoError(f, err)
	f.Add(string(b))
	f.Add("hodos-shelf,1\nproduct,kind\nA,seed\n")
	f.Fuzz(func(t *testing.T, text string) {
		labels, err := Read(strings.NewReader(text), remedy.Known)
		if err != nil {
			return
		}
		out, err := Write(labels)
		require.NoError(t, err)
		again, err := Read(strings.NewReader(string(out)), remedy.Known)
		require.NoError(t, err)
		require.Len(t, again, len(labels))
	})
}
