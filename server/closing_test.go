package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

func (c *client) recovery(p place) server.Recovery {
	c.w.t.Helper()
	var r server.Recovery
	c.must(200, "GET", "/zones/"+p.zone+"/recovery", nil, &r)
	return r
}

func TestACaseIsClosed(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Stonecrop")
	before := tech.recovery(p)
	require.Nil(t, before.Ending.Closed)
	require.Equal(t, "spring-dead-spot", before.Ending.Cause)
	require.True(t, before.Ending.Prevented)
	require.Equal(t, "fungicide-preventive", before.Ending.Preventive.Action, "the job of the autumn")
	require.Equal(t, "2026-09-14", before.Ending.Preventive.DueOn)

	closing := map[string]any{"id": id(), "zone_id": p.zone, "cause": "spring-dead-spot", "ended": "stays", "note": "treat in autumn"}
	var after server.Recovery
	tech.must(200, "POST", "/visits/"+p.visit+"/closings", closing, &after)
	require.Equal(t, "stays", after.Ending.Closed.Ended)
	require.Equal(t, "2026-08-24", after.Ending.Closed.ClosedOn)
	tech.must(200, "POST", "/visits/"+p.visit+"/closings", closing, nil) // the same again
	var pr problem
	tech.must(422, "POST", "/visits/"+p.visit+"/closings", with(closing, map[string]any{"id": id()}), &pr)
	require.NotEmpty(t, pr.at("body.zone_id"), "there is no open case any more")
	var day server.Day
	tech.must(200, "GET", "/day", nil, &day)
	for _, s := range day.Straying {
		require.NotEqual(t, p.zone, s.ZoneID.String(), "it is not on the list of those that stray")
	}

	// a new baseline opens a new case
	after = server.Recovery{}
	tech.must(200, "POST", "/visits/"+p.visit+"/measures", map[string]any{"id": id(), "zone_id": p.zone, "baseline": true, "cover": .6,
		"spread": "", "note": ""}, &after)
	require.Nil(t, after.Ending.Closed)

	for field, change := range map[string]map[string]any{"body.cause": {"cause": "nonsense"}, "body.ended": {"ended": "maybe"},
		"body.zone_id": {"zone_id": tech.place("Quill").zone}} {
		tech.must(422, "POST", "/visits/"+p.visit+"/closings", with(closing, with(map[string]any{"id": id()}, change)), &pr)
		require.NotEmpty(t, pr.Errors, field)
	}
}

func TestACauseThatComesBackIsSaidAloud(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	require.Empty(t, tech.recovery(p).Ending.Again, "once is not again")
	tech.must(200, "POST", p.path("/answers"), answers(tap("grubs-per-m2", 130), tap("pull-test", "lifts-like-carpet")), nil)
	tech.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, nil)
	list := tech.recovery(p).Ending.Again
	require.Len(t, list, 1)
	require.Equal(t, "white-grubs", list[0].Cause)
	require.Equal(t, []string{"2025-09-12", "2026-08-24"}, list[0].Times)
	require.Equal(t, []string{"insecticide-curative"}, list[0].Eased)
	require.Equal(t, "insecticide-preventive", list[0].Ends[0].Action)
	require.Positive(t, list[0].Ends[0].Price)

	// closed as something else it has not come back
	tech.must(200, "POST", "/visits/"+p.visit+"/closings", map[string]any{"id": id(), "zone_id": p.zone, "cause": "drought-stress",
		"ended": "mended"}, nil)
	require.Empty(t, tech.recovery(p).Ending.Again)
}

// What was confirmed on one lawn speaks for the same on lawns round about, on grass of the same family, and stands in their ledger.
func TestConfirmedCasesNearbyMoveTheOdds(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	quill, sallow := tech.place("Quill"), tech.place("Sallow")
	grubs := func(p place) (prior, nearby float64, n int, chance float64) {
		for _, c := range tech.scales(p).Diagnosis.Causes {
			if c.ID == "white-grubs" {
				return c.PriorBits, c.NearbyBits, c.Nearby, c.Probability
			}
		}
		return
	}
	prior0, bits0, n0, chance0 := grubs(sallow)
	require.Zero(t, n0)
	require.Zero(t, bits0)
	tech.must(200, "POST", quill.path("/answers"), answers(tap("grubs-per-m2", 130), tap("pull-test", "lifts-like-carpet")), nil)
	tech.must(200, "POST", quill.path("/diagnoses"), map[string]any{"id": id()}, nil)
	prior, bits, n, chance := grubs(sallow)
	require.Equal(t, 1, n)
	require.InDelta(t, .58, bits, .02, "half as much again")
	require.InDelta(t, prior0, prior, .1, "what was thought before looking stays what it was")
	require.Greater(t, chance, chance0)
	_, bits, n, _ = grubs(quill)
	require.Zero(t, n, "its own case is no case nearby")
	require.Zero(t, bits)

	var list []server.NearbyCase
	status, b, _ := tech.do("GET", "/sites/"+sallow.site+"/nearby", nil)
	require.Equal(t, 200, status)
	require.NotContains(t, string(b), "Quill")
	require.NotContains(t, string(b), quill.site)
	tech.must(200, "GET", "/sites/"+sallow.site+"/nearby", nil, &list)
	var mine *server.NearbyCase
	for i := range list {
		if list[i].Cause == "white-grubs" && list[i].On == "2026-08-24" {
			mine = &list[i]
		}
	}
	require.NotNil(t, mine)
	require.Positive(t, mine.KM)
	require.LessOrEqual(t, mine.KM, 22.)

	// closed as something else, it speaks for that
	tech.must(200, "POST", "/visits/"+quill.visit+"/closings", map[string]any{"id": id(), "zone_id": quill.zone, "cause": "drought-stress",
		"ended": "mended"}, nil)
	_, _, n, _ = grubs(sallow)
	require.Zero(t, n)
}

// A treatment is looked at more than once: all looks are booked with it, and none twice.
func TestLooksAreBookedInASeries(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech, applicator := w.as("technician"), w.as("applicator")
	p := tech.place("Quill")
	record := func(action string) map[string]any {
		return map[string]any{"id": id(), "visit_id": p.visit, "zone_id": p.zone, "action": action, "area_m2": 10, "product": "",
			"amount_unit": "", "source": "", "reentry": "", "note": "", "signed_name": "Rufus Adeyo", "voided": false, "follow_up_id": id(),
			"outside_reason": "the client wants it now"}
	}
	seed := record("overseed")
	var out server.Recorded
	applicator.must(200, "POST", "/visits/"+p.visit+"/records", seed, &out)
	require.Equal(t, "2026-09-21", out.FollowUp.DueOn, "bluegrass is up after four weeks")
	require.Len(t, out.Later, 2)
	require.Equal(t, []string{"2026-10-05", "2026-10-23"}, []string{out.Later[0].DueOn, out.Later[1].DueOn})
	followUps := func() (n int) {
		var d server.VisitDetail
		tech.must(200, "GET", "/visits/"+p.visit, nil, &d)
		return len(d.FollowUps)
	}
	before := followUps()
	require.Equal(t, 3, before)
	applicator.must(200, "POST", "/visits/"+p.visit+"/records", seed, nil) // the same again
	require.Equal(t, before, followUps())

	// water is looked at after 7 and 21 days; the second look falls on the day of the seed's second but one and is spared only if it is near
	out = server.Recorded{}
	applicator.must(200, "POST", "/visits/"+p.visit+"/records", record("water-deep"), &out)
	require.Equal(t, "2026-08-31", out.FollowUp.DueOn)
	require.Len(t, out.Later, 1)
	require.Equal(t, "2026-09-14", out.Later[0].DueOn)
	out = server.Recorded{}
	applicator.must(200, "POST", "/visits/"+p.visit+"/records", record("spot-water"), &out)
	out = server.Recorded{}
	applicator.must(200, "POST", "/visits/"+p.visit+"/records", record("apply-wetting-agent"), &out)
	require.Equal(t, "2026-09-07", out.FollowUp.DueOn)
	require.Len(t, out.Later, 1, "nothing else is booked about its second day")
	out = server.Recorded{}
	applicator.must(200, "POST", "/visits/"+p.visit+"/records", record("light-watering-of-new-stands"), &out)
	require.Empty(t, out.Later, "somebody looks on that day already")
}
