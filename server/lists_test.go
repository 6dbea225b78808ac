package server_test

import (
	"fmt"
	"net/url"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/server"
)

// sitesBy follows a list of sites to its end, so many at a time.
func (c *client) sitesBy(find string, limit int) (names []string, total int64) {
	c.w.t.Helper()
	after := ""
	for range 100 {
		var page server.Sites
		c.must(200, "GET", fmt.Sprintf("/sites?limit=%d&find=%s&after=%s", limit, url.QueryEscape(find), after), nil, &page)
		require.LessOrEqual(c.w.t, len(page.Sites), limit)
		for _, s := range page.Sites {
			names = append(names, s.Name)
		}
		if total = page.Total; page.Next == "" {
			return names, total
		}
		require.Len(c.w.t, page.Sites, limit, "only the last page is short")
		after = page.Next
	}
	c.w.t.Fatal("the list has no end")
	return nil, 0
}

func TestSitesArePagedAndFound(t *testing.T) {
	w := newWorld(t)
	owner := w.as("owner")
	whole, total := owner.sitesBy("", 100)
	require.Len(t, whole, int(total))
	for _, limit := range []int{1, 2, 3, len(whole)} {
		paged, _ := owner.sitesBy("", limit)
		require.Equal(t, whole, paged, "%d at a time", limit)
	}
	three, fourteen := slices.Index(whole, "3 Sallow Court"), slices.Index(whole, "14 Quill Lane")
	require.True(t, three >= 0 && three < fourteen, "3 before 14: %v", whole)

	for find, want := range map[string][]string{
		"quill":        {"14 Quill Lane"},  // by its name
		"LANE  quill":  {"14 Quill Lane"},  // words in any order and case
		"marlow":       {"3 Sallow Court"}, // by its client
		"marlow sall":  {"3 Sallow Court"}, // by both
		"quill marlow": nil,
		"%":            nil, // no pattern of the database's
		"_":            nil,
	} {
		found, n := owner.sitesBy(find, 50)
		require.Equal(t, want, found, find)
		require.EqualValues(t, len(want), n, find)
	}

	// a client's new name is what its sites are found by
	var clients server.Clients
	owner.must(200, "GET", "/clients?find=marlow", nil, &clients)
	require.Len(t, clients.Clients, 1)
	c := clients.Clients[0]
	c.Name = "Piet Zwart"
	owner.must(200, "PUT", "/clients/"+c.ID.String(), c, nil)
	found, _ := owner.sitesBy("zwart", 50)
	require.Equal(t, []string{"3 Sallow Court"}, found)
	found, _ = owner.sitesBy("marlow", 50)
	require.Empty(t, found)

	var pr problem
	for _, after := range []string{"nonsense", "e30x", "%00"} {
		owner.must(422, "GET", "/sites?after="+after, nil, &pr)
	}
	owner.must(422, "GET", "/sites?limit=0", nil, nil)
	owner.must(422, "GET", "/sites?limit=101", nil, nil)
	owner.must(404, "GET", "/sites/"+id(), nil, nil)
	owner.must(404, "GET", "/zones/"+id()+"/site", nil, nil)
}

func TestADayOfOnesOwn(t *testing.T) {
	w := newWorld(t)
	tech, owner := w.as("technician"), w.as("owner")
	var all, mine server.Day
	tech.must(200, "GET", "/day", nil, &all)
	tech.must(200, "GET", "/day?mine=true", nil, &mine)
	var me server.Me
	tech.must(200, "GET", "/me", nil, &me)
	own := 0
	for _, v := range all.Due {
		if v.Visit.PersonID != nil && *v.Visit.PersonID == me.PersonID {
			own++
		}
	}
	require.Positive(t, own)
	require.Len(t, mine.Due, own)
	require.EqualValues(t, own, mine.DueTotal)
	require.EqualValues(t, len(all.Due), all.DueTotal)
	owner.must(200, "GET", "/day?mine=true", nil, &mine)
	require.Less(t, len(mine.Due), own, "the owner drives less")
}
