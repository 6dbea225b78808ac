package server_test

import (
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

const seasons = "?from=2024-09-01&to=2026-08-24"

func TestTheFirmsFigures(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner, tech := w.as("owner"), w.as("technician")
	var f server.Figures
	owner.must(200, "GET", "/figures"+seasons, nil, &f)
	require.Positive(t, f.Cases)
	sum := 0
	for i, c := range f.Causes {
		require.NotEmpty(t, c.Label)
		months := 0
		for _, n := range c.Months {
			months += n
		}
		require.Equal(t, c.N, months, "every case has its month")
		require.True(t, i == 0 || c.N <= f.Causes[i-1].N, "the most frequent first")
		sum += c.N
	}
	require.Equal(t, f.Cases, sum)
	n := f.Confirmed.N
	require.Positive(t, n)
	require.Equal(t, n, f.Confirmed.Of)
	require.Less(t, f.Confirmed.Low, .9, "some twenty cases do not prove it")

	// each figure leads to its cases
	var all, grubs []server.FirmCase
	owner.must(200, "GET", "/figures/cases"+seasons, nil, &all)
	require.Len(t, all, f.Cases)
	owner.must(200, "GET", "/figures/cases"+seasons+"&cause=white-grubs&month=9", nil, &grubs)
	require.NotEmpty(t, grubs)
	for _, c := range grubs {
		require.Equal(t, "white-grubs", c.Cause)
		require.Equal(t, "-09-", c.GivenOn[4:8])
		require.Equal(t, strings.HasPrefix(c.Site, "14 Quill"), c.Treatments > 0, "an insecticide followed on Quill Lane")
	}

	// a closed case counts for or against the diagnosis
	p := tech.place("Stonecrop")
	tech.must(200, "POST", "/visits/"+p.visit+"/closings", map[string]any{"id": id(), "zone_id": p.zone, "cause": "winter-crown-kill",
		"ended": "mended"}, nil)
	owner.must(200, "GET", "/figures"+seasons, nil, &f)
	require.Equal(t, []int{n, n + 1}, []int{f.Confirmed.Of, f.Confirmed.N})
	promised := 0
	for _, b := range f.Calibrated {
		promised += b.N
	}
	require.Equal(t, n+1, promised)
	for which, want := range map[string]int{"confirmed": n + 1, "right": n, "wrong": 1, "open": f.Cases - n - 1} {
		var list []server.FirmCase
		owner.must(200, "GET", "/figures/cases"+seasons+"&which="+which, nil, &list)
		require.Len(t, list, want, which)
	}

	// minutes, treatments and recoveries lead to theirs as well
	var list []server.FirmCase
	owner.must(200, "GET", "/figures/cases"+seasons+"&which=timed", nil, &list)
	require.Len(t, list, f.Minutes.N)
	owner.must(200, "GET", "/figures/cases"+seasons+"&which=treated", nil, &list)
	require.NotEmpty(t, list)
	for _, c := range list {
		require.Positive(t, c.Treatments)
	}
	require.NotEmpty(t, f.Courses)
	for _, course := range f.Courses {
		owner.must(200, "GET", "/figures/cases"+seasons+"&course="+course.ID, nil, &list)
		require.Len(t, list, course.N, course.ID)
		require.NotEmpty(t, list[0].Site)
	}

	// the file has the same
	status, b := owner.plainly("GET", "/figures/csv"+seasons, nil)
	require.Equal(t, 200, status)
	rows, err := csv.NewReader(strings.NewReader(string(b))).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, f.Cases+1)
	require.Equal(t, "given_on", rows[0][0])
}

func TestHowLongAVisitTook(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	tech := w.as("technician")
	p := tech.place("Quill")
	tech.must(200, "POST", "/visits/"+p.visit+"/arrive", map[string]any{}, nil)
	tech.must(200, "POST", p.path("/diagnoses"), map[string]any{"id": id()}, nil)
	tech.must(200, "POST", "/visits/"+p.visit+"/leave", map[string]any{}, nil)
	var f server.Figures
	w.as("office").must(200, "GET", "/figures?from=2026-08-24&to=2026-08-24", nil, &f)
	require.Equal(t, 1, f.Cases)
	require.Equal(t, 1, f.Minutes.N)
	require.Less(t, f.Minutes.Median, 2.)
}

func TestFiguresOfImpossibleSpans(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	owner := w.as("owner")
	for _, span := range []string{"", "?from=2026-01-01", "?from=2026-02-01&to=2026-01-01", "?from=2020-01-01&to=2026-01-01", "?from=x&to=y",
		"?from=2026-01-01&to=2026-02-01&month=13"} {
		owner.must(422, "GET", "/figures/cases"+span, nil, nil)
	}
	w.as("technician").must(403, "GET", "/figures"+seasons, nil, nil)
}
