package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
	"hodos/server"
)

func TestTheVocabularyNamesEverything(t *testing.T) {
	c := newWorld(t).as("technician")
	var v server.Vocabulary
	c.must(200, "GET", "/vocabulary", nil, &v)
	require.Len(t, v.Findings, len(knowledge.Findings()))
	require.Len(t, v.Causes, 79)
	require.Len(t, v.Actions, 73)
	for _, a := range v.Actions {
		require.NotEmpty(t, a.Label, a.ID)
		require.False(t, a.Airborne && !a.Pesticide, a.ID)
	}
	steers := 0
	for _, f := range v.Findings {
		if f.Steers {
			steers++
		}
	}
	require.Equal(t, 32, steers, "asked only where the advice names them; the client's wishes are told unasked")
	require.Len(t, v.Stations, 7)
	procedures := map[string]bool{}
	for _, p := range v.Procedures {
		procedures[p.ID] = true
	}
	for _, f := range v.Findings {
		require.NotEmpty(t, f.Label, f.ID)
		require.NotEmpty(t, f.Ask, f.ID)
		require.True(t, procedures[f.Procedure], f.ID)
		if f.Kind == "one-of" || f.Kind == "any-of" {
			require.NotEmpty(t, f.Values, f.ID)
		}
		for _, x := range f.Values {
			require.NotEmpty(t, x.Label, x.ID)
		}
	}
	dig := 0
	for _, p := range v.Procedures {
		if p.Caution != "" {
			dig++
		}
	}
	require.GreaterOrEqual(t, dig, 8, "where work can hurt, the caution stands at the step")
}

func TestTheFieldGuideTurnsWithSeasonAndPlace(t *testing.T) {
	c := newWorld(t).as("technician")
	top := func(query string) map[string]float64 {
		var list []server.LikelyCause
		c.must(200, "GET", "/causes"+query, nil, &list)
		require.Len(t, list, 78)
		out := map[string]float64{}
		for i, l := range list {
			out[l.ID] = l.Chance
			if i > 0 {
				require.GreaterOrEqual(t, list[i-1].Chance, l.Chance)
			}
		}
		return out
	}
	august, february := top("?month=8"), top("?month=2")
	require.Greater(t, august["drought-stress"], 3*february["drought-stress"])
	require.Greater(t, february["gray-snow-mold"], august["gray-snow-mold"])
	south := c.place("Tidewatch")
	there := top("?month=8&site=" + south.site)
	require.Greater(t, there["winter-dormancy"], august["winter-dormancy"]*5, "August is winter in the south")
	require.Zero(t, there["brown-patch"], "kikuyu has no brown patch")
	c.must(422, "GET", "/causes?month=13", nil, nil)
	c.must(404, "GET", "/causes?site="+id(), nil, nil)

	var page server.CausePage
	c.must(200, "GET", "/causes/white-grubs", nil, &page)
	north := append([]int{}, page.Months...)
	require.Len(t, north, 12)
	require.NotEmpty(t, page.Evidence)
	require.NotEmpty(t, page.Mistaken)
	require.False(t, page.South)
	var sites server.Sites
	owner := c.w.as("owner")
	owner.must(200, "GET", "/sites?limit=1", nil, &sites)
	first := sites.Sites[0]
	first.Zones, first.ClientName, first.Latitude, first.LinesLocatedOn = nil, "", -40, new(string)
	owner.must(200, "PUT", "/sites/"+first.ID.String(), first, nil)
	c.must(200, "GET", "/causes/white-grubs", nil, &page)
	require.True(t, page.South, "the firm's first site has moved south")
	for m := range north {
		require.Equal(t, north[m], page.Months[(m+6)%12])
	}
	c.must(200, "GET", "/causes/healthy-turf", nil, &page)
	require.Empty(t, page.Months)
	c.must(404, "GET", "/causes/gremlins", nil, nil)
}

func TestSiteHistoryAndRepeatOffenders(t *testing.T) {
	w := newWorld(t)
	c := w.as("technician")
	p := c.place("Quill")
	var h server.History
	c.must(200, "GET", "/sites/"+p.site+"/history", nil, &h)
	require.GreaterOrEqual(t, len(h.Visits), 3)
	require.Len(t, h.Given, 1)
	require.Equal(t, "white-grubs", h.Given[0].Leading)
	require.Empty(t, h.Offenders)
	for i := 1; i < len(h.Visits); i++ {
		require.GreaterOrEqual(t, h.Visits[i-1].DueOn, h.Visits[i].DueOn, "the newest first")
	}
	c.must(200, "POST", p.path("/answers"), answers(tap("pull-test", "lifts-like-carpet"), tap("grubs-per-m2", 120)), nil)
	c.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, nil)
	c.must(200, "GET", "/sites/"+p.site+"/history", nil, &h)
	require.Equal(t, []server.Offender{{ZoneID: h.Given[0].ZoneID, Cause: "white-grubs", Times: 2}}, h.Offenders)
}

func TestTheBenchOverTheAPI(t *testing.T) {
	w := newWorld(t)
	c := w.as("technician")
	var all []struct{ ID string }
	c.must(200, "GET", "/bench", nil, &all)
	require.Greater(t, len(all), 40)
	ask := map[string]any{"entries": map[string]any{"target": map[string]any{"amount": 2.4}, "n": map[string]any{"amount": 20},
		"p2o5": map[string]any{"amount": 5}, "area": map[string]any{"amount": 1399.308, "unit": "ft2"}}}
	var d struct {
		Lines []struct {
			ID, Text string
			Value    float64
		}
		Warnings []struct{ Limit string }
	}
	c.must(200, "POST", "/bench/nutrient", ask, &d)
	require.Equal(t, "product", d.Lines[0].ID)
	require.InDelta(t, 1560, d.Lines[0].Value, .01)
	require.Equal(t, "1.56 kg", d.Lines[0].Text)
	require.Empty(t, d.Warnings)
	var pr problem
	c.must(422, "POST", "/bench/nutrient", map[string]any{"entries": map[string]any{"n": map[string]any{"amount": -1}}}, &pr)
	require.NotEmpty(t, pr.at("body.entries.n"))
	require.NotEmpty(t, pr.at("body.entries.area"))
	c.must(404, "POST", "/bench/tea", map[string]any{"entries": map[string]any{}}, nil)
	w.anonymous().must(401, "POST", "/bench/nutrient", ask, nil)
}

func TestTheDaysListIsInAnOrderOfDriving(t *testing.T) {
	c := newWorld(t).as("office")
	var d server.Day
	c.must(200, "GET", "/day", nil, &d)
	require.GreaterOrEqual(t, len(d.Due), 4)
	for i, v := range d.Due {
		require.Equal(t, i+1, v.Order)
		require.False(t, v.Visit.DueOn > d.Today)
		require.Equal(t, v.Visit.DueOn < d.Today, v.Overdue)
	}
	require.Len(t, d.Sky, 7)
	require.Contains(t, d.Sky[0].Station, "simulated", "a stand-in is labelled as one")
	for _, s := range d.Straying {
		require.Contains(t, []string{"slow", "off-course"}, s.Verdict)
		require.NotEmpty(t, s.Reason)
	}
	require.NotEmpty(t, d.Straying)
	for _, v := range d.Coming {
		require.Greater(t, v.Visit.DueOn, d.Today)
	}
}
