package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// An owner erases a client: what goes and what stays is said first, and only the name lets it go.
func TestAClientIsErased(t *testing.T) {
	server, _ := start(t)
	p := open(t, server)
	p.signIn("owner")
	p.openSite("Quill")
	p.clickText("Erase the client")
	p.has("This goes at once, for good")
	p.has("2 treatment records with name and address, in the book of applications alone, until 11 May 2029")
	require.Empty(t, p.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'`))
	p.field("Type the client’s name to go on", "Orla Brand")
	require.True(t, eval[bool](p, `[...document.querySelectorAll('button')].find((b) => b.innerText === 'Erase for good').disabled`))
	p.types(`input[aria-label="Type the client’s name to go on"]`, "Orla Brandt")
	p.clickText("Erase for good")
	p.until("it is on no list", `location.pathname === '/sites' && document.querySelectorAll('nav[aria-label=Sites] a').length === 8 &&
		!document.querySelector('nav[aria-label=Sites]').innerText.includes('Quill')`)
	p.visit("/book")
	p.until("the book still knows", `document.body.innerText.includes('14 Quill Lane')`)
}

// The office reads a draft, changes it and sends it; the letter lies in the demo's mail.
func TestALetterIsSent(t *testing.T) {
	server, _ := start(t)
	p := open(t, server)
	p.signIn("office")
	p.clickText("Letters to clients")
	p.sees("[data-kind=visit]")
	p.until("its draft", `document.querySelector('[data-kind=visit] textarea').value.includes('We are coming to 27 Stonecrop Rise tomorrow')`)
	require.Empty(t, p.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'`))
	p.types("[data-kind=visit] textarea", "We are coming tomorrow at nine. Please park on the street.")
	p.clickText("Send")
	p.has("Sent to 1.")
	p.has("told 24 Aug 2026")
	p.visit("/firm/letters")
	p.has("Please park on the street.")
	p.has("Hello Hedda Quist")
}

// A trial is laid out on the recovery of a zone, its plots are read on two days, and one is left out with its reason.
func TestATrialIsRead(t *testing.T) {
	server, _ := start(t)
	p := open(t, server)
	p.signIn("technician")
	p.visit("/zones/" + siteZone(t, p, "Harrow") + "/recovery")
	p.clickText("Lay out a trial")
	p.field("Name", "Wetting agent in strips")
	p.field("Treatment 1", "Wetting agent")
	p.field("Dose", "1.2")
	p.until("its layout", `document.querySelectorAll('.layout li').length === 4`)
	p.clickText("Lay it out")
	p.until("its page", `document.querySelector('h1')?.innerText === 'Wetting agent in strips'`)
	p.has("Nothing has been read yet.")
	read := func(values ...string) {
		for i, v := range values {
			p.types(`input[aria-label="Plot `+string(rune('1'+i))+`"]`, v)
		}
		p.clickText("Save the readings")
		p.until("taken", `document.querySelector('input[aria-label="Plot 1"]').value === ''`)
	}
	read("20", "10", "12", "22")
	p.sees(".curves")
	require.Equal(t, "20", eval[string](p, `document.querySelector('input[aria-label="Plot 1"]').placeholder`),
		"what was read last lies under it")
	p.field("On", "tomorrow")
	p.has("type it as")
	require.Empty(t, p.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'`))
	p.clickText("Leave it out")
	p.field("What happened to it", "A hose lay on it")
	p.clickText("Leave plot 1 out")
	p.has("left out: A hose lay on it")
}

// The round begins where one stands: the nearest stop comes first, and a visit with hours says them.
func TestTheRoundBeginsHere(t *testing.T) {
	server, _ := start(t)
	p := open(t, server)
	p.signIn("technician")
	first := `document.querySelector('[aria-label="Due today"] .due b').innerText`
	p.until("in order", first+` === 'Mill Ferry Green'`)
	p.has("expected 09:00–11:00")
	p.mayKnowWhere()
	p.stands(37.619, -78.276)
	p.clickText("Start from here, now")
	p.until("the nearest first", first+` === '41 Larkspur Drive'`)
	p.clickText("From here, now")
	p.until("as before", first+` === 'Mill Ferry Green'`)
}
