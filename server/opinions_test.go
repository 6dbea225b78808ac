package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

type opinions struct {
	Opinions []server.Opinion `json:"opinions"`
}

func (c *client) opinions(p place) []server.Opinion {
	c.w.t.Helper()
	var out opinions
	c.must(200, "GET", "/zones/"+p.zone+"/opinions?visit="+p.visit, nil, &out)
	return out.Opinions
}

// The demo's back lawn was taken for heat stress, was watered, and did not answer: what turned it stands there.
func TestWhatWasThoughtWhen(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Larkspur")
	var site server.Site
	tech.must(200, "GET", "/sites/"+p.site, nil, &site)
	for _, z := range site.Zones {
		if z.Name == "Back lawn" {
			p.zone = z.ID.String()
		}
	}
	list := tech.opinions(p)
	require.Len(t, list, 2, "the open visit has no answers yet")
	require.Equal(t, []string{"heat-stress", "brown-patch"}, []string{list[0].Leading, list[1].Leading})
	require.Nil(t, list[0].Turn)
	turn := list[1].Turn
	require.Equal(t, "heat-stress", turn.Before)
	require.Less(t, turn.Left, .1)
	require.Greater(t, turn.Now, turn.Then)
	require.Len(t, list[1].Responses, 1)
	require.Equal(t, server.Response{Finding: "answer-to-water", Action: "water-deep", On: "2026-07-20", Word: "none", By: "area",
		Was: "2026-07-20", Before: .4, Now: .48}, list[1].Responses[0])
	found := map[string]server.TurnReason{}
	for _, r := range turn.Reasons {
		found[r.Finding] = r
	}
	require.Equal(t, []any{"irregular-lesion-tan-dark-border"}, found["leaf-symptoms"].Is)
	require.Equal(t, []any{"tip-dieback"}, found["leaf-symptoms"].Was)

	// what is answered on the open visit stands at its end, until a diagnosis of it is saved
	tech.must(200, "POST", p.path("/answers"), answers(tap("grubs-per-m2", 190), tap("pull-test", "lifts-like-carpet")), nil)
	list = tech.opinions(p)
	require.Len(t, list, 3)
	require.True(t, list[2].Open)
	require.Equal(t, "white-grubs", list[2].Leading)
	require.Equal(t, "brown-patch", list[2].Turn.Before)
	tech.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, nil)
	again := tech.opinions(p)
	require.Len(t, again, 3)
	require.False(t, again[2].Open)
	require.Equal(t, list[2].Turn.Before, again[2].Turn.Before)
	var elsewhere opinions
	tech.must(200, "GET", "/zones/"+p.zone+"/opinions", nil, &elsewhere)
	require.Len(t, elsewhere.Opinions, 3)
	tech.must(404, "GET", "/zones/"+id()+"/opinions", nil, nil)
}

// A measurement after watering is weighed as its answer, and so is the count after an insecticide.
func TestALookAnswersForATreatment(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech, office := w.as("technician"), w.as("office")
	p := tech.place("Harrow")
	look := func(visit string, cover float64, baseline bool) {
		tech.must(200, "POST", "/visits/"+visit+"/measures", map[string]any{"id": id(), "zone_id": p.zone, "baseline": baseline, "cover": cover,
			"spread": "none", "note": ""}, nil)
	}
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	look(p.visit, .4, true)
	tech.must(200, "POST", "/visits/"+p.visit+"/records", map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone,
		"action": "water-deep", "water_mm": 25, "area_m2": 150, "product": "", "amount_unit": "", "source": "", "reentry": "", "note": "",
		"signed_name": "Tam Whitlock", "voided": false, "outside_reason": "the client asked"}, nil)
	office.must(200, "POST", "/demo/clock", map[string]any{"days": 14}, nil)
	next := id()
	office.must(200, "POST", "/visits", map[string]any{"id": next, "site_id": p.site, "kind": "diagnosis", "due_on": "2026-09-07",
		"reason": "no better", "version": 0}, nil)
	then := p
	p.visit = next
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	look(p.visit, .41, false)
	told := ""
	for _, c := range tech.scales(p).Diagnosis.Causes {
		for _, r := range append(c.For, c.Against...) {
			if r.Finding == "answer-to-water" {
				told, _ = r.Value.(string)
			}
		}
	}
	require.Equal(t, "none", told)
	look(p.visit, .3, true) // a new baseline is of another part: nothing is held against what was measured before it
	for _, c := range tech.scales(p).Diagnosis.Causes {
		for _, r := range append(c.For, c.Against...) {
			require.NotEqual(t, "answer-to-water", r.Finding)
		}
	}
	for _, c := range tech.scales(then).Diagnosis.Causes {
		for _, r := range append(c.For, c.Against...) {
			require.NotEqual(t, "answer-to-water", r.Finding, "the first visit knew nothing of it")
		}
	}
}

// At a look the checks that made the diagnosis are made again: counts first, nothing that a client tells or that the weather says.
func TestTheSameChecksAreMadeAgain(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	again := tech.recovery(tech.place("Stonecrop")).Again
	require.Len(t, again, 4)
	require.Equal(t, server.Before{Finding: "root-colour", Value: "black", On: "2026-04-28"}, again[0])
	p := tech.place("Quill")
	tech.must(200, "POST", p.path("/answers"), answers(tap("pull-test", "lifts-like-carpet"), tap("animal-digging", "rooting-holes"),
		tap("grubs-per-m2", 40), tap("onset-speed", "weeks")), nil)
	tech.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, nil)
	again = tech.recovery(p).Again
	require.Equal(t, "grubs-per-m2", again[0].Finding)
	require.Equal(t, 40.0, again[0].Value)
	for _, b := range again {
		require.NotEqual(t, "onset-speed", b.Finding)
	}
	require.Empty(t, tech.recovery(tech.place("Harrow")).Again, "nothing was diagnosed there")

	// 45, 32 and 24 % not green on days 0, 42 and 77: (45+32)/2·42 + (32+24)/2·35 = 2597
	progress := tech.recovery(tech.place("Stonecrop")).Progress
	require.InDelta(t, 2597, progress.PercentDays, .1)
	require.InDelta(t, 2597./77, progress.Mean, .01)
	require.Equal(t, 77, progress.Days)
	require.Nil(t, tech.recovery(tech.place("Harrow")).Progress)
}
