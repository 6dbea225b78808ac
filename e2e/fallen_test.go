package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestNoPageIsEverBlank cuts the connection before a page was loaded, asks for addresses that are not there, and lets a view break.
func TestNoPageIsEverBlank(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	forgetful(p)
	p.signIn("technician")
	// what is not on the lawn is fetched when it is asked for; without a connection that is said, and mended when it is back
	offline(p, true)
	p.clickText("Causes")
	p.has("This page could not be loaded")
	require.True(t, eval[bool](p, `!!document.querySelector('.top nav')`), "the bar stays")
	p.clickText("Try again")
	p.has("This page could not be loaded")
	offline(p, false)
	p.clickText("Try again")
	p.sees(".guide")
	// what is needed on the lawn was fetched before
	p.visit("/")
	p.openVisit("Quill")
	p.until("the views are fetched", `performance.getEntriesByType('resource').some((e) => /\/Plan-[^/]*\.js/.test(e.name))`)
	offline(p, true)
	p.clickText("Plan")
	p.until("the plan's page is there", `/\/plan$/.test(location.pathname) && !document.body.innerText.includes('could not be loaded') && document.querySelector('#root').innerText.length > 200`)
	offline(p, false)

	p.visit("/nowhere/at/all")
	p.has("There is no page here")
	p.clickText("To the day")
	p.sees(".due")
	p.visit("/sites/01a03111-1c00-7000-8000-00000000ffff")
	p.has("There is no site at this address")
	p.visit("/visits/01a03111-1c00-7000-8000-00000000ffff")
	p.until("says so", `document.querySelector('[role=alert]')?.innerText.length > 10`)
	p.visit("/licences")
	p.has("standard library")
}
