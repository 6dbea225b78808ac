package server_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/demo"
	"hodos/server"
)

func (c *client) day(query string) (d server.Day) {
	c.w.t.Helper()
	c.must(200, "GET", "/day"+query, nil, &d)
	return d
}

func dueNames(d server.Day) (out []string) {
	for _, v := range d.Due {
		out = append(out, v.Visit.SiteName)
	}
	return out
}

// The day is driven in a good order, with hours at which somebody is expected, from where one is.
func TestTheDayIsDriven(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office := w.as("office")
	d := office.day("")
	require.Equal(t, "08:00", d.Due[0].Arrive, "at the first there is nothing to wait for")
	require.Zero(t, d.Due[0].Km)
	for i, v := range d.Due {
		require.Equal(t, i+1, v.Order)
		if i > 0 {
			require.Greater(t, v.Arrive, d.Due[i-1].Arrive)
			require.Positive(t, v.Km)
		}
	}
	south := office.day("?from=37.60,-78.27&leave=09:30")
	require.Equal(t, "41 Larkspur Drive", south.Due[0].Visit.SiteName, "the nearest to the south east")
	require.Greater(t, south.Due[0].Arrive, "09:29")
	require.Positive(t, south.Due[0].Km)

	// who is at home from eight to half past eight is visited first, wherever the round begins
	p := w.as("technician").place("Sallow")
	var v server.VisitDetail
	office.must(200, "GET", "/visits/"+p.visit, nil, &v)
	change := v.Visit
	change.Hours = &server.Hours{From: "08:00", To: "08:30"}
	var changed server.Visit
	office.must(200, "PUT", "/visits/"+p.visit, change, &changed)
	require.Equal(t, "08:30", changed.Hours.To)
	require.Equal(t, "3 Sallow Court", dueNames(office.day("?from=37.60,-78.27&leave=08:00"))[0])
	late := office.day("?from=37.60,-78.27&leave=11:00")
	for _, x := range late.Due {
		switch {
		case x.Visit.SiteName == "3 Sallow Court":
			require.Greater(t, x.Late, 140)
		case x.Visit.Hours == nil:
			require.Zero(t, x.Late)
		}
	}
	change.Version = changed.Version
	change.Hours = nil
	changed = server.Visit{}
	office.must(200, "PUT", "/visits/"+p.visit, change, &changed)
	require.Nil(t, changed.Hours)

	var pr problem
	for _, h := range []server.Hours{{From: "10:00", To: "10:00"}, {From: "11:00", To: "10:00"}} {
		change.Version, change.Hours = changed.Version, &h
		office.must(422, "PUT", "/visits/"+p.visit, change, &pr)
		require.NotEmpty(t, pr.at("body.hours.to"))
	}
	change.Hours = &server.Hours{From: "8", To: "10:00"}
	office.must(422, "PUT", "/visits/"+p.visit, change, nil)
	office.must(422, "GET", "/day?from=here", nil, nil)
	office.must(422, "GET", "/day?leave=25:00", nil, nil)
}

// Two people of one name are two people.
func TestTwoOfOneNameDriveApart(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office := w.as("office")
	require.NoError(t, w.store.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE people SET name = 'Tam Whitlock' WHERE name = 'Rufus Adeyo'").Error
	}))
	rufus := demo.People["applicator"]
	change := office.day("").Due[0].Visit
	change.PersonID = &rufus
	office.must(200, "PUT", "/visits/"+change.ID.String(), change, nil)
	orders := map[int]int{}
	for _, v := range office.day("").Due {
		orders[v.Order]++
	}
	require.Equal(t, map[int]int{1: 2, 2: 1, 3: 1}, orders)
}

// Everybody drives their own round.
func TestEverybodyDrivesTheirOwnRound(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	office := w.as("office")
	rufus := demo.People["applicator"]
	for _, v := range office.day("").Due[:2] {
		change := v.Visit
		change.PersonID = &rufus
		office.must(200, "PUT", "/visits/"+v.Visit.ID.String(), change, nil)
	}
	d := office.day("")
	require.Equal(t, []string{"Rufus Adeyo", "Rufus Adeyo", "Tam Whitlock", "Tam Whitlock"},
		[]string{d.Due[0].Visit.PersonName, d.Due[1].Visit.PersonName, d.Due[2].Visit.PersonName, d.Due[3].Visit.PersonName})
	require.Equal(t, []int{1, 2, 1, 2}, []int{d.Due[0].Order, d.Due[1].Order, d.Due[2].Order, d.Due[3].Order})
	require.Equal(t, "08:00", d.Due[2].Arrive)
}
