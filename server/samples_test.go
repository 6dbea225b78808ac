package server_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

func (c *client) take(p place, kind string) server.Sample {
	c.w.t.Helper()
	var out server.Sample
	c.must(200, "POST", "/visits/"+p.visit+"/samples", map[string]any{"id": id(), "zone_id": p.zone, "kind": kind, "cores": 15,
		"depth_mm": 100, "note": "from the edge"}, &out)
	return out
}

func (c *client) scales(p place) server.Scales {
	c.w.t.Helper()
	var out server.Scales
	c.must(200, "GET", p.path("/scales"), nil, &out)
	return out
}

func TestASampleGoesOutComesBackAndMovesTheScales(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	tech.must(200, "POST", p.path("/answers"), answers(tap("pattern", []string{"rings", "frog-eye"}), tap("root-colour", "black")), nil)
	first, second := tech.take(p, "disease"), tech.take(p, "soil")
	require.Equal(t, "S-0001", first.Number)
	require.Equal(t, "S-0002", second.Number)
	require.Equal(t, "2026-08-29", first.ExpectedOn)

	var form server.SampleForm
	tech.must(200, "GET", "/samples/"+first.ID.String()+"/form", nil, &form)
	require.Equal(t, []string{"lab-pathogen"}, form.Wanted)
	require.Contains(t, strings.Join(form.Findings, "; "), "root colour (black)")
	require.NotEmpty(t, form.Suspected)
	b, _ := json.Marshal(form)
	require.NotContains(t, string(b), "Brandt", "the form names no client")

	// not before its day
	w.as("office").must(200, "POST", "/demo/clock", map[string]any{"days": 4}, nil)
	var list []server.Sample
	tech.must(200, "GET", "/samples?open=true", nil, &list)
	require.Len(t, list, 2)
	require.Nil(t, list[1].ReturnedOn)
	before := tech.scales(p)

	w.as("office").must(200, "POST", "/demo/clock", map[string]any{"days": 4}, nil)
	tech.must(200, "GET", "/samples?zone="+p.zone, nil, &list)
	for _, s := range list {
		require.NotNil(t, s.ReturnedOn, s.Number)
		require.Equal(t, "simulated", s.Origin)
		require.Equal(t, s.ExpectedOn, *s.ReturnedOn)
		require.NotEmpty(t, s.Values)
	}
	after := tech.scales(p)
	require.NotEqual(t, probabilities(before), probabilities(after), "the results are on the scales")
	found := false
	for _, c := range after.Diagnosis.Causes {
		for _, r := range append(c.For, c.Against...) {
			found = found || r.Finding == "lab-pathogen"
		}
	}
	require.True(t, found, "the ledger shows the laboratory: %v", list)
}

func probabilities(s server.Scales) map[string]float64 {
	out := map[string]float64{}
	for _, c := range s.Diagnosis.Causes {
		out[c.ID] = c.Probability
	}
	return out
}

func TestResultsComeInAsFiles(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	s := tech.take(p, "soil")
	before := probabilities(tech.scales(p))["high-ph"]

	status, b, _ := tech.do("POST", "/samples/"+s.ID.String()+"/result",
		map[string]any{"text": "sample,finding,value,unit,laboratory\nS-0001,soil-ph,8.3,pH,Brook\nS-0001,soil-ph,19,pH,Brook\n"})
	require.Equal(t, 422, status)
	require.Contains(t, string(b), "line 3")
	require.Contains(t, string(b), "nothing of it was taken")
	require.InDelta(t, before, probabilities(tech.scales(p))["high-ph"], 1e-9)

	var out server.Sample
	tech.must(200, "POST", "/samples/"+s.ID.String()+"/result",
		map[string]any{"text": `{"hodos_lab":1,"sample":"S-0001","laboratory":"Brook","results":[{"finding":"soil-ph","value":8.3,"unit":"pH"},{"finding":"soil-fe-ppm","value":2.1,"unit":"mg/kg"}]}`}, &out)
	require.Equal(t, "json", out.Origin)
	require.Equal(t, "Brook", out.Laboratory)
	require.Greater(t, probabilities(tech.scales(p))["high-ph"], before+.2)

	status, b, _ = tech.do("POST", "/samples/"+s.ID.String()+"/result",
		map[string]any{"text": "sample,finding,value,unit,laboratory\nS-0001,soil-ph,6,pH,Brook\n"})
	require.Equal(t, 409, status, string(b))
	// and the simulated laboratory does not write over it
	w.as("office").must(200, "POST", "/demo/clock", map[string]any{"days": 14}, nil)
	var list []server.Sample
	tech.must(200, "GET", "/samples?zone="+p.zone, nil, &list)
	require.Equal(t, "json", list[0].Origin)
	require.InDelta(t, 8.3, list[0].Values["soil-ph"], 1e-9)
}

func TestPricesMoveTheMarksAndShowWhatTheyWouldHaveChanged(t *testing.T) {
	w := newWorld(t)
	owner := w.as("owner")
	var p server.FirmPrices
	owner.must(200, "GET", "/prices", nil, &p)
	require.Zero(t, p.Version)

	var none server.Preview
	owner.must(200, "POST", "/prices/preview", p.Prices, &none)
	require.Empty(t, none.Moved)
	require.Empty(t, none.Calls)
	require.Positive(t, none.Cases, "the demo has closed cases")

	dear := p.Prices
	dear.LawnM2, dear.Hour, dear.Insecticide, dear.Fungicide = 2, 160, 60, 60
	var changed server.Preview
	owner.must(200, "POST", "/prices/preview", dear, &changed)
	require.NotEmpty(t, changed.Moved)
	require.NotEmpty(t, changed.Calls)
	for _, c := range changed.Calls {
		require.NotEqual(t, c.Before, c.After)
		require.NotEmpty(t, c.SiteName)
	}

	place := owner.place("Quill")
	was := owner.scales(place).Diagnosis.Causes[0]
	owner.must(200, "PUT", "/prices", map[string]any{"prices": dear, "version": 0}, nil)
	now := owner.scales(place).Diagnosis.Causes[0]
	if was.Marks != nil {
		require.Greater(t, now.Marks.Act, was.Marks.Act)
	}
	status, b, _ := owner.do("PUT", "/prices", map[string]any{"prices": dear, "version": 0})
	require.Equal(t, 409, status, string(b))
	bad := dear
	bad.LawnM2 = 0
	status, b, _ = owner.do("PUT", "/prices", map[string]any{"prices": bad, "version": 1})
	require.Equal(t, 422, status)
	require.Contains(t, string(b), "lawn_m2")
	owner.must(200, "PUT", "/prices", map[string]any{"prices": p.Prices, "version": 1}, nil)
}

func TestTheChecksThatTellTwoCausesApart(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var out []server.Apart
	tech.must(200, "GET", p.path("/apart?a=white-grubs&b=drought-stress"), nil, &out)
	require.NotEmpty(t, out)
	require.NotEmpty(t, out[0].Outcomes)
	status, b, _ := tech.do("GET", p.path("/apart?a=white-grubs&b=gremlins"), nil)
	require.Equal(t, 422, status)
	require.Contains(t, string(b), "query.b")
}
