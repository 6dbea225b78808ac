package server_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	forms "hodos/exchange/counted"
	"hodos/server"
)

// A count goes in place by place; what it comes to is made by the core, and how it was made comes back with it.
func TestACountPlaceByPlace(t *testing.T) {
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	var protocols server.Protocols
	tech.must(200, "GET", "/counts", nil, &protocols)
	require.NotEmpty(t, protocols.Tools)
	require.Equal(t, "grubs-per-m2", protocols.Protocols[0].Finding)

	squares := func(got ...float64) map[string]any {
		places := []map[string]any{}
		for _, n := range got {
			places = append(places, map[string]any{"got": n, "of": 900})
		}
		return map[string]any{"tool": "square-30", "places": places}
	}
	var sc server.Scales
	count := tap("grubs-per-m2", 3) // what the device made of it does not count
	count["tally"] = squares(12, 5, 9, 8)
	tech.must(200, "POST", p.path("/answers"), answers(count), &sc)
	var got server.Answered
	for _, a := range sc.Answers {
		if a.Finding == "grubs-per-m2" {
			got = a
		}
	}
	require.InDelta(t, 94.4, got.Value, .05)
	require.Equal(t, "square-30", got.Tally.Tool)
	require.Equal(t, []forms.CountPlace{{Got: 12, Of: 900}, {Got: 5, Of: 900}, {Got: 9, Of: 900}, {Got: 8, Of: 900}}, got.Tally.Places)
	limit := sc.Diagnosis.Limits[0]
	require.Equal(t, "grubs-per-m2", limit.Finding)
	require.NotNil(t, limit.PerM2)
	require.True(t, limit.Feeds, "August: they feed on")
	require.NotEmpty(t, limit.FeedsUntil)

	var said server.Weighed
	body := squares(12, 5, 9, 8)
	body["limit"] = 65
	tech.must(200, "POST", "/counts/grubs-per-m2", body, &said)
	require.Equal(t, "over", said.State)
	require.True(t, said.Settled)
	require.Greater(t, *said.Over, .85)
	require.NotNil(t, said.Low)
	var bare server.Weighed
	tech.must(200, "POST", "/counts/grubs-per-m2", squares(12), &bare)
	require.Nil(t, bare.Over, "no limit to hold it against")
	require.Nil(t, bare.Spread)

	wrong := tap("grubs-per-m2", 3)
	wrong["tally"] = map[string]any{"places": []map[string]any{{"got": 2.5, "of": 900}}}
	refused(tech, p.path("/answers"), answers(wrong), "body.answers[0].tally")
	no := tap("soil-ph", 6)
	no["tally"] = squares(1)
	refused(tech, p.path("/answers"), answers(no), "not counted in places")
	refused(tech, "/counts/grubs-per-m2", squares(-1), "body.places")
	tech.must(404, "POST", "/counts/soil-ph", squares(1), nil)
}

// A drawn plot is as large as it says, and the same to whoever asks for it again.
func TestAPlotToTrainTheEye(t *testing.T) {
	tech := newWorld(t).as("technician")
	var one, again server.DrawnPlot
	tech.must(200, "GET", "/plots/7", nil, &one)
	tech.must(200, "GET", "/plots/7", nil, &again)
	require.Equal(t, one, again)
	all := strings.Join(one.Rows, "")
	require.InDelta(t, one.Share, 100*float64(strings.Count(all, "#"))/float64(len(all)), .06)
}

func refused(c *client, path string, body any, says string) {
	c.w.t.Helper()
	status, b, _ := c.do("POST", path, body)
	require.Equal(c.w.t, 422, status, string(b))
	require.Contains(c.w.t, string(b), says)
}
