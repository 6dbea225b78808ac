package server_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/casework"
	"hodos/server"
)

// instant is a work clock that stands at one moment of real time.
type instant time.Time

func (i instant) Now(context.Context) (casework.Moment, error) { return casework.At(time.Time(i)), nil }
func (i instant) Today(context.Context) (time.Time, error) {
	return time.Time(i).UTC().Truncate(24 * time.Hour), nil
}

// At ten in the evening of the 24th in Virginia it is the 25th in London and the afternoon of the 25th in New Zealand: each visit has the
// day of its site, lists the day of the office.
func TestEachSiteHasItsOwnDay(t *testing.T) {
	evening := time.Date(2026, 8, 25, 2, 0, 0, 0, time.UTC)
	w := newWorldWith(t, nil, func(o *server.Options) { o.Clock = instant(evening) })
	tech, applicator := w.as("technician"), w.as("applicator")
	var me server.Me
	tech.must(200, "GET", "/me", nil, &me)
	require.Equal(t, "2026-08-24", me.Today, "the office is in New York's zone")
	north, south := tech.place("Quill"), tech.place("Tidewatch")
	for site, day := range map[place]string{north: "2026-08-24", south: "2026-08-25"} {
		var v server.Visit
		tech.must(200, "POST", "/visits/"+site.visit+"/arrive", map[string]any{}, &v)
		require.Equal(t, day, *v.StartedOn)
		record := map[string]any{"id": id(), "visit_id": site.visit, "zone_id": site.zone, "action": "water-deep", "area_m2": 10, "product": "",
			"amount_unit": "", "source": "", "reentry": "", "note": "", "signed_name": "Rufus Adeyo", "voided": false}
		var out server.Recorded
		applicator.must(200, "POST", "/visits/"+site.visit+"/records", record, &out)
		require.Equal(t, day, out.Record.AppliedOn)
		record["id"], record["applied_on"] = id(), "2026-08-25"
		if site == north {
			var pr problem
			applicator.must(422, "POST", "/visits/"+site.visit+"/records", record, &pr)
			require.Contains(t, pr.at("body.applied_on"), "future", "tomorrow has not come in Virginia")
		} else {
			applicator.must(200, "POST", "/visits/"+site.visit+"/records", record, nil)
		}
		tech.must(map[string]int{"2026-08-24": 422, "2026-08-25": 204}[day], "PUT", "/zones/"+site.zone+"/waterings",
			map[string]any{"day": "2026-08-25", "mm": 12}, nil)
		var r server.Recovery
		tech.must(200, "POST", "/visits/"+site.visit+"/measures", map[string]any{"id": id(), "zone_id": site.zone, "baseline": true, "cover": .5,
			"spread": "", "note": ""}, &r)
		require.Equal(t, day, r.StartedOn)
		tech.must(200, "POST", "/visits/"+site.visit+"/leave", map[string]any{}, &v)
		require.Equal(t, day, *v.ClosedOn)
	}
	// an arrival that a device tells of later has the day that it was there and then
	other, at := tech.place("Sallow"), time.Now().Add(-30*time.Hour)
	var v server.Visit
	tech.must(200, "POST", "/visits/"+other.visit+"/arrive", map[string]any{"at": at}, &v)
	require.Equal(t, casework.At(at).In("America/New_York").Format(time.DateOnly), *v.StartedOn)
}
