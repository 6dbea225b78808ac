package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

// laidOut is a trial of four strips in a zone: two untreated, two treated.
func laidOut(p place) (trial map[string]any, plots []string) {
	list := []any{}
	for i, name := range []string{"A", "B", "C", "D"} {
		key := id()
		plots = append(plots, key)
		plot := map[string]any{"id": key, "name": name}
		if i >= 2 {
			plot["treatment"], plot["dose"] = "Silicon", 2.5
		}
		list = append(list, plot)
	}
	return map[string]any{"id": id(), "zone_id": p.zone, "name": "Silicon on brown patch", "began_on": "2026-08-01",
		"dose_unit": "g/m²", "version": 0, "plots": list}, plots
}

func TestATrialIsLaidOutAndRead(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Harrow")
	trial, plots := laidOut(p)
	var out server.TrialRead
	tech.must(200, "POST", "/trials", trial, &out)
	tech.must(200, "POST", "/trials", trial, nil) // the same again
	require.Len(t, out.Trial.Plots, 4)
	require.Empty(t, out.Groups, "nothing has been read")
	path := "/trials/" + out.Trial.ID.String()
	read := func(on, kind string, values ...float64) {
		list := []any{}
		for i, v := range values {
			list = append(list, map[string]any{"id": id(), "plot_id": plots[i], "value": v})
		}
		out = server.TrialRead{}
		tech.must(200, "POST", path+"/readings", map[string]any{"kind": kind, "on": on, "readings": list}, &out)
	}
	read("2026-08-01", "affected", 10, 12, 10, 12)
	read("2026-08-08", "affected", 99, 32, 14, 16)
	read("2026-08-08", "affected", 30, 32, 14, 16) // a slip put right
	read("2026-08-15", "affected", 40, 42, 16, 18)
	read("2026-08-22", "affected", 50, 52, 20, 22)
	read("2026-08-22", "uptake", 1, 1.1, 1.6, 1.7)
	require.Len(t, out.Groups, 2)
	require.Empty(t, out.Groups[0].Treatment)
	// A: (10+30)/2·7 + (30+40)/2·7 + (40+50)/2·7 = 700; B 742; C 315; D 357
	require.InDelta(t, 721, out.Groups[0].Area.Mean, 1e-9)
	require.InDelta(t, 100*(1-336./721), out.Groups[1].Suppressed.Value, .01)
	require.False(t, out.Groups[1].Suppressed.Open)
	require.Less(t, out.Groups[1].Suppressed.Low, out.Groups[1].Suppressed.Value)
	require.Nil(t, out.Doses, "two doses make no line")
	require.InDelta(t, .24, out.Uptake.Slope, 1e-9)
	require.Empty(t, out.Cautions)
	require.Equal(t, "Harrow Green 5", out.SiteName)

	var voided server.TrialRead
	tech.must(200, "PUT", path+"/plots/"+plots[3]+"/void", map[string]any{"void": "mown by mistake"}, &voided)
	require.ElementsMatch(t, []string{"voided", "few-plots"}, voided.Cautions)
	require.Equal(t, 1, voided.Groups[1].Plots)
	tech.must(200, "PUT", path+"/plots/"+plots[3]+"/void", map[string]any{"void": ""}, &voided)
	var list []server.Trial
	tech.must(200, "GET", "/zones/"+p.zone+"/trials", nil, &list)
	require.Len(t, list, 1)

	one := func(on string) map[string]any {
		return map[string]any{"kind": "affected", "on": on, "readings": []any{map[string]any{"id": id(), "plot_id": plots[0], "value": 3}}}
	}
	var pr problem
	for where, body := range map[string]map[string]any{
		"body.on":                  {"on": "2026-07-31"},
		"body.readings[0].plot_id": {"readings": []any{map[string]any{"id": id(), "plot_id": id(), "value": 3}}},
	} {
		whole := one("2026-08-20")
		tech.must(422, "POST", path+"/readings", with(whole, body), &pr)
		require.NotEmpty(t, pr.at(where), where)
	}
	tech.must(422, "POST", path+"/readings", one("2026-08-25"), &pr)
	require.Contains(t, pr.at("body.on"), "ahead")
	voided = server.TrialRead{}
	tech.must(200, "POST", path+"/close", nil, &voided)
	require.Equal(t, "2026-08-24", voided.Trial.ClosedOn)
	tech.must(422, "POST", path+"/readings", one("2026-08-24"), &pr)
	require.Contains(t, pr.at("body.on"), "closed")
}

func TestWhatIsNoTrial(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Harrow")
	for where, change := range map[string]func(plots []any){
		"body.plots": func(plots []any) {
			plots[2].(map[string]any)["treatment"], plots[2].(map[string]any)["dose"] = "", 0
			plots[3] = plots[2]
		},
		"body.plots[1].name": func(plots []any) { plots[1].(map[string]any)["name"] = " a " },
		"body.plots[0].dose": func(plots []any) { plots[0].(map[string]any)["dose"] = 3 },
		"body.plots[0].id":   func(plots []any) { plots[0].(map[string]any)["id"] = "2a8cf7a4-53f4-4f6c-9d0c-0d8f3c2f5a11" },
	} {
		trial, _ := laidOut(p)
		plots := trial["plots"].([]any)
		change(plots)
		if where == "body.plots" {
			trial["plots"] = plots[:3]
		}
		var pr problem
		tech.must(422, "POST", "/trials", trial, &pr)
		require.NotEmpty(t, pr.at(where), where)
	}
	w.as("office").must(403, "POST", "/trials", map[string]any{}, nil)
}
