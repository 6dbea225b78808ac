package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// hungry is a cool-season lawn short of nitrogen in early autumn, with a fortnight of mild weather behind it.
func hungry() string {
	text := `{"hodos_case":1,"title":"hungry","date":"2026-09-20","site":{"latitude":40,"species":["tall-fescue"],"area_m2":200,"texture":"loam"},
 "findings":{"pattern":["uniform"],"colour":["yellow"],"leaf-symptoms":["older-leaves-yellow"],"growth-rate":"slow","soil-moisture":"moist","pull-test":"resists","last-nitrogen-days":300},"weather":[`
	for d := range 60 {
		if d > 0 {
			text += ","
		}
		day := time.Date(2026, 7, 23+d, 0, 0, 0, 0, time.UTC)
		text += fmt.Sprintf(`{"date":%q,"tmin_c":%d,"tmax_c":%d,"rain_mm":3,"rh_mean":70,"wind_ms":2}`, day.Format(time.DateOnly), 17-d/8, 29-d/6)
	}
	return text + `]}`
}

func TestTheBenchOnTheCommandLine(t *testing.T) {
	r := hodos(t, "", nil, "bench")
	require.Equal(t, 0, r.code)
	require.Contains(t, r.out, "tank")
	r = hodos(t, "", nil, "bench", "tank")
	require.Contains(t, r.out, "carrier")
	r = hodos(t, "", nil, "bench", "--us", "nutrient", "target=0.75lb/1000ft2", "n=16", "area=5000ft2")
	require.Equal(t, 0, r.code, r.err)
	require.Contains(t, r.out, "23.44 lb")
	r = hodos(t, "", nil, "bench", "--json", "nutrient", "target=2", "n=20", "area=100")
	var out struct{ Lines []struct{ Value float64 } }
	require.NoError(t, json.Unmarshal([]byte(r.out), &out))
	require.InDelta(t, 1000, out.Lines[0].Value, 1e-9)
	require.Equal(t, 2, hodos(t, "", nil, "bench", "nutrient", "target=2").code)
	require.NotEqual(t, 0, hodos(t, "", nil, "bench", "tea").code)
}

func TestAJobIsClearedOnTheCommandLine(t *testing.T) {
	job := `{"hodos_job":1,"action":"core-aerate","at":"2026-05-20T08:00","lawn":{"latitude":40,"grasses":["tall-fescue"]}}`
	r := hodos(t, job, nil, "clear", "-")
	require.Equal(t, 0, r.code, r.err)
	require.Contains(t, r.out, "LAW")
	r = hodos(t, job, nil, "clear", "--json", "-")
	var out struct{ Stops []struct{ ID, Kind string } }
	require.NoError(t, json.Unmarshal([]byte(r.out), &out))
	require.Equal(t, "law-locate", out.Stops[0].ID)
	r = hodos(t, `{"hodos_job":1,"action":"sharpen-blades","at":"2026-05-20","lawn":{}}`, nil, "clear", "-")
	require.Contains(t, r.out, "Nothing stands against it")
	r = hodos(t, `{"hodos_job":2}`, nil, "clear", "-")
	require.Equal(t, 2, r.code)
	require.Contains(t, r.err, "hodos_job")
}

func TestACaseIsPlannedOnTheCommandLine(t *testing.T) {
	dir := t.TempDir()
	name := filepath.Join(dir, "case.json")
	require.NoError(t, os.WriteFile(name, []byte(hungry()), 0o600))
	rules := filepath.Join(dir, "rules.json")
	require.NoError(t, os.WriteFile(rules, []byte(`[{"name":"Autumn","place":"","what":"blackout","covers":["nitrogen"],"from":"08-15","to":"12-31"}]`), 0o600))
	read := func(args ...string) map[string]dated {
		r := hodos(t, "", nil, append([]string{"plan", "--json"}, args...)...)
		require.Equal(t, 0, r.code, r.err)
		var list []dated
		require.NoError(t, json.Unmarshal([]byte(r.out), &list))
		out := map[string]dated{}
		for _, d := range list {
			if d.Step == 1 {
				out[d.Action] = d
			}
		}
		return out
	}
	free := read(name)
	require.NotEmpty(t, free["apply-nitrogen"].On)
	shut := read("--rules", rules, name)
	require.Empty(t, shut["apply-nitrogen"].On)
	require.Equal(t, "law-blackout", shut["apply-nitrogen"].Blocks[0].Constraint)
	require.NoError(t, os.WriteFile(rules, []byte(`[{"name":"","what":"tea"}]`), 0o600))
	r := hodos(t, "", nil, "plan", "--rules", rules, name)
	require.Equal(t, 2, r.code)
	require.Contains(t, r.err, "[0].name")
}
