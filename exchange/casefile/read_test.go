package casefile_test

import (
	"errors"
	"fmt"
	"os"
	"runtime"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/exchange/casefile"
	"hodos/exchange/refusal"
)

const whole = `{
  "hodos_case": 1, "title": "Strip along the east drive", "date": "2026-08-14",
  "site": {"latitude": 38.0, "longitude": -78.0, "elevation_m": 60, "species": ["tall-fescue"], "area_m2": 310, "affected_m2": 28, "texture": "clay-loam", "cultivar": "Hollin mixture", "sown_year": 2019, "irrigated": true, "normals_c": [2, 3, 8, 13, 18, 22.5, 25, 24, 20, 14, 8, 3]},
  "onset": "2026-08-03",
  "policy": {"summer-water": "keep-green", "pests": "threshold", "summer-feeding": "spoon-feed", "blemishes": "tolerate", "service": "feeding"},
  "findings": {"pattern": ["irregular-patches"], "colour": [], "pull-test": "lifts-like-carpet", "grubs-per-m2": 86, "soil-temp-c": 27.5, "dog-on-lawn": false, "past-causes": ["white-grubs"], "lab-pathogen": "none"},
  "reference": {"soil-temp-c": 26.1},
  "samples": {"crowns-alive-percent": [14, 20]},
  "earlier": [{"date": "2025-09-01", "findings": {"grubs-per-m2": 90}, "answer": "white-grubs"}],
  "looks": [{"date": "2026-08-04", "cover": 0.4, "spread": "new", "colour_index": 0.31}, {"date": "2026-08-14", "cover": 0}],
  "context": {"country": "US", "licence": true, "lines_located": false, "nearby": [{"cause": "white-grubs", "count": 3, "weeks": 2}], "learnt": [{"cause": "rust", "factor": 1.4}], "utilities": {"lawn_m2": 4}},
  "notes": "Client away until Friday.",
  "weather": [{"date": "2026-07-16", "tmin_c": 19.4, "tmax_c": 31.0, "rain_mm": 0, "rh_mean": 68, "wind_ms": 1.8, "solar_mj_m2": 24.1, "irrigation_mm": 6, "snow_cm": 0}, {"date": "2026-07-18", "tmax_c": 30}],
  "forecast": [{"date": "2026-08-15", "tmin_c": 21.0, "tmax_c": 33.5, "rain_mm": 0, "rh_mean": 66, "wind_ms": 2.0}],
  "treatments": [{"date": "2026-06-01", "action": "apply-nitrogen", "n_g_m2": 2.4, "note": "slow release", "source": "slow"}, {"date": "2026-08-14", "action": "water-deep", "water_mm": 20, "this_visit": true}]
}`

func TestReadWriteRead(t *testing.T) {
	c, err := casefile.Parse([]byte(whole))
	require.NoError(t, err)
	require.Equal(t, 86.0, *c.Findings["grubs-per-m2"].Number)
	require.NotNil(t, c.Findings["colour"].List)
	require.Empty(t, c.Findings["colour"].List, "an empty list is an answer")
	require.False(t, *c.Findings["dog-on-lawn"].Yes)
	require.Nil(t, c.Weather[1].TMin, "a missing column is a gap")
	require.Equal(t, 22.5, c.Lawn.Normals[5])
	require.Equal(t, []any{"Hollin mixture", 2019, "feeding"}, []any{c.Lawn.Cultivar, c.Lawn.SownYear, c.Policy.Service})
	require.Len(t, c.Looks, 2)
	require.Nil(t, c.Looks[1].Index)
	require.Zero(t, *c.Looks[1].Cover, "nought is an answer")
	require.Equal(t, "apply-nitrogen", c.Treatments[0].Action)
	require.Len(t, c.Treatments, 1, "what the visit did itself is no evidence of what it found")
	require.Equal(t, 20.0, *c.Done[0].WMM)
	out, err := casefile.Write(c)
	require.NoError(t, err)
	again, err := casefile.Parse(out)
	require.NoError(t, err)
	require.Equal(t, c, again)
	a, b := diagnosis.Diagnose(c, diagnosis.Options{}), diagnosis.Diagnose(again, diagnosis.Options{})
	require.Equal(t, a.Causes, b.Causes)
	require.InDelta(t, 70, *a.Values["crowns-alive-percent"].Number, 1e-9, "fourteen of twenty")
}

func TestTheLeastCase(t *testing.T) {
	c, err := casefile.Parse([]byte(`{"hodos_case": 1, "date": "2026-08-14", "site": {"latitude": 0, "species": ["unknown"]}, "findings": {}}`))
	require.NoError(t, err)
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	var told bool
	for _, n := range r.Notices {
		told = told || n.About == "species"
	}
	require.True(t, told, "an unknown grass costs precision, and the answer says so")
}

func TestRefusals(t *testing.T) {
	base := func(change ...string) string { return strings.NewReplacer(change...).Replace(whole) }
	for _, r := range []struct{ name, file, field, reason string }{
		{"no JSON", `{"hodos_case": 1,`, "(file)", "not JSON"},
		{"a list", `[]`, "(file)", "one JSON object"},
		{"two cases", whole + whole, "(file)", "something follows"},
		{"no version", base(`"hodos_case": 1, `, ""), "hodos_case", "is required"},
		{"a newer version", base(`"hodos_case": 1`, `"hodos_case": 2`), "hodos_case", "newer"},
		{"no date", base(`, "date": "2026-08-14"`, ""), "date", "is required"},
		{"a date of its own kind", base(`"date": "2026-08-14"`, `"date": "14.08.2026"`), "date", "ISO 8601"},
		{"a day that is none", base(`"onset": "2026-08-03"`, `"onset": "2026-02-30"`), "onset", "ISO 8601"},
		{"onset after the visit", base(`"onset": "2026-08-03"`, `"onset": "2026-08-20"`), "onset", "after the visit"},
		{"no site", base(`"site"`, `"place"`), "site", "is required"},
		{"an unknown field", base(`"site"`, `"place"`), "place", "unknown field"},
		{"a latitude off the globe", base(`"latitude": 38.0`, `"latitude": 138`), "site.latitude", "outside the physical range"},
		{"eleven months", base(`8, 3]`, `8]`), "site.normals_c", "has 11 months"},
		{"a month that is too hot", base(`22.5`, `72.5`), "site.normals_c[5]", "outside the physical range"},
		{"watered tomorrow", base(`"2026-08-14", "action"`, `"2026-08-15", "action"`), "treatments[1].date", "after the visit"},
		{"a latitude in words", base(`"latitude": 38.0`, `"latitude": "38"`), "site.latitude", "expected a number"},
		{"no species", base(`["tall-fescue"]`, `[]`), "site.species", "unknown"},
		{"an unknown species", base(`tall-fescue`, `astroturf`), "site.species[0]", "unknown species"},
		{"more affected than there is", base(`"affected_m2": 28`, `"affected_m2": 400`), "site.affected_m2", "400 m² affected of 310 m²"},
		{"an unknown soil", base(`clay-loam`, `gumbo`), "site.texture", "unknown id"},
		{"an unknown policy", base(`"keep-green"`, `"drown"`), "policy.summer-water", "unknown id"},
		{"an unknown finding", base(`"dog-on-lawn"`, `"cat-on-lawn"`), "findings.cat-on-lawn", "unknown finding"},
		{"an unknown value", base(`"lifts-like-carpet"`, `"flies-away"`), "findings.pull-test", "unknown id"},
		{"an unknown item", base(`["irregular-patches"]`, `["stars"]`), "findings.pattern", "unknown id"},
		{"an item twice", base(`["irregular-patches"]`, `["uniform", "uniform"]`), "findings.pattern", "stands twice"},
		{"a count below nought", base(`"grubs-per-m2": 86`, `"grubs-per-m2": -1`), "findings.grubs-per-m2", "outside the physical range"},
		{"a word for a truth value", base(`"dog-on-lawn": false`, `"dog-on-lawn": "no"`), "findings.dog-on-lawn", "true or false"},
		{"none beside something", base(`"colour": []`, `"leaf-symptoms": ["none", "tip-dieback"]`), "findings.leaf-symptoms", "cannot stand beside"},
		{"a finding of the weather", base(`"dog-on-lawn": false`, `"heat-spell": "none"`), "findings.heat-spell", "computed from the weather"},
		{"an unknown earlier cause", base(`"past-causes": ["white-grubs"]`, `"past-causes": ["gremlins"]`), "findings.past-causes", "unknown cause"},
		{"a field twice", base(`"dog-on-lawn": false`, `"dog-on-lawn": false, "dog-on-lawn": true`), "findings.dog-on-lawn", "stands twice"},
		{"days out of order", base(`"2026-07-18"`, `"2026-07-16"`), "weather[1].date", "oldest first"},
		{"weather of tomorrow", base(`"2026-07-18"`, `"2026-08-18"`), "weather[1].date", "forecast"},
		{"a minimum over the maximum", base(`"tmin_c": 19.4`, `"tmin_c": 39.4`), "weather[0].tmin_c", "over tmax_c"},
		{"humidity over a hundred", base(`"rh_mean": 68`, `"rh_mean": 168`), "weather[0].rh_mean", "outside"},
		{"an unknown column", base(`"snow_cm": 0`, `"hail_cm": 0`), "weather[0].hail_cm", "unknown field"},
		{"a forecast of yesterday", base(`"2026-08-15"`, `"2026-08-13"`), "forecast[0].date", "not after the visit"},
		{"an unknown action", base(`"apply-nitrogen"`, `"apply-luck"`), "treatments[0].action", "unknown action"},
		{"a treatment to come", base(`"2026-06-01"`, `"2026-09-01"`), "treatments[0].date", "after the visit"},
		{"a dose beyond measure", base(`"n_g_m2": 2.4`, `"n_g_m2": 2400`), "treatments[0].n_g_m2", "outside"},
		{"a look that was later", base(`{"date": "2026-08-04", "cover"`, `{"date": "2026-08-24", "cover"`), "looks[0].date", "after the visit"},
		{"a look without a day", base(`"date": "2026-08-04", "cover"`, `"cover"`), "looks[0].date", "is required"},
		{"more than all green", base(`"cover": 0.4`, `"cover": 40`), "looks[0].cover", "physical range"},
		{"an unknown spread", base(`"spread": "new"`, `"spread": "some"`), "looks[0].spread", "unknown id"},
		{"an earlier visit that was later", base(`"2025-09-01"`, `"2026-09-01"`), "earlier[0].date", "not before"},
		{"a sample in words", base(`[14, 20]`, `["many"]`), "samples.crowns-alive-percent[0]", "expected a count"},
	} {
		t.Run(r.name, func(t *testing.T) {
			_, err := casefile.Parse([]byte(r.file))
			var refused *refusal.Refusal
			require.True(t, errors.As(err, &refused), "not refused: %v", err)
			for _, p := range refused.Problems {
				if p.Column == r.field && strings.Contains(p.Reason, r.reason) {
					return
				}
			}
			t.Fatalf("%s: %s not among %v", r.field, r.reason, refused.Problems)
		})
	}
}

func TestAllProblemsAtOnce(t *testing.T) {
	_, err := casefile.Parse([]byte(strings.NewReplacer(`38.0`, `138`, `tall-fescue`, `astroturf`, `"grubs-per-m2": 86`,
		`"grubs-per-m2": -1`).Replace(whole)))
	var refused *refusal.Refusal
	require.True(t, errors.As(err, &refused))
	require.Len(t, refused.Problems, 3)
}

func FuzzParse(f *testing.F) {
	f.Add([]byte(whole))
	f.Add([]byte(`{"hodos_case":1,"date":"2026-08-14","site":{"latitude":0,"species":["unknown"]},"findings":{"colour":null}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		c, err := casefile.Parse(data)
		if err != nil {
			return
		}
		out, err := casefile.Write(c)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := casefile.Parse(out); err != nil {
			t.Fatalf("what was written is refused: %v\n%s", err, out)
		}
	})
}

func TestTooLarge(t *testing.T) {
	f, err := os.CreateTemp(t.TempDir(), "case")
	require.NoError(t, err)
	require.NoError(t, f.Truncate(casefile.MaxBytes+1))
	_, err = casefile.Read(f)
	require.ErrorContains(t, err, "larger than")
}

// A file that nests without end is refused at once: it used to take memory with the square of its depth.
func TestACaseNestsOnlySoDeep(t *testing.T) {
	for _, open := range []string{"[", `{"a":`} {
		before := memory()
		_, err := casefile.Parse([]byte(strings.Repeat(open, 40_000)))
		require.ErrorContains(t, err, "more than 16 deep")
		require.Less(t, memory()-before, uint64(32<<20), "bytes for 40,000 levels")
	}
	deep := `{"hodos_case":1,"context":{"utilities":` + strings.Repeat(`{"a":`, 13) + "1" + strings.Repeat("}", 13) + `}}`
	_, err := casefile.Parse([]byte(deep))
	require.Error(t, err)
	require.NotContains(t, err.Error(), "deep", "the format's own depth and more is read")
}

func memory() uint64 {
	var m runtime.MemStats
	runtime.ReadMemStats(&m)
	return m.TotalAlloc
}

// A hundred problems are told, the rest is counted.
func TestProblemsAreCountedBeyondAHundred(t *testing.T) {
	var b strings.Builder
	b.WriteString(`{"hodos_case":1`)
	for i := range 250 {
		fmt.Fprintf(&b, `,"x%d":1`, i)
	}
	b.WriteString("}")
	_, err := casefile.Parse([]byte(b.String()))
	var refused *refusal.Refusal
	require.ErrorAs(t, err, &refused)
	require.Len(t, refused.All(), 101)
	require.Regexp(t, `^and 15\d more$`, refused.All()[100].Reason)
}

func TestFormsOfAGrass(t *testing.T) {
	of := func(grass, form string) error {
		c, err := casefile.Parse([]byte(strings.Replace(whole, `["tall-fescue"]`, `["`+grass+`"], "form": "`+form+`"`, 1)))
		if err == nil {
			require.Equal(t, form, c.Lawn.Form)
			out, err := casefile.Write(c)
			require.NoError(t, err)
			again, err := casefile.Parse(out)
			require.NoError(t, err)
			require.Equal(t, form, again.Lawn.Form)
		}
		return err
	}
	require.NoError(t, of("zoysiagrass", "matrella"))
	require.NoError(t, of("st-augustinegrass", "dwarf"))
	require.ErrorContains(t, of("tall-fescue", "dwarf"), "site.form")
}
