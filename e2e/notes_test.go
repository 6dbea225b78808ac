package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// One tap on an ordinary round becomes a look at the next visit; a note is typed and spoken and moves no scale.
func TestARoundNoteBecomesACheck(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.visit("/sites")
	p.until("site", `(() => { const a = [...document.querySelectorAll('.sites nav a')].find((a) => a.innerText.includes('Quill'));
		a?.click(); return !!a && document.querySelector('.site')?.ariaLabel?.includes('Quill') })()`)
	p.click("[data-see=dug]")
	p.until("seen", `document.querySelector('[data-see=dug]').ariaPressed === 'true'`)
	p.visit("/")
	p.sees(".due")
	p.openVisit("Quill")
	p.sees("[data-seen=dug]")
	p.clickText("Check: animals")
	p.sees(`[data-finding=animal-digging][data-active=true]`)

	led := eval[string](p, `document.querySelector('.scale-row').innerText`)
	p.types(`[aria-label="New note"]`, "Skunks come over the back fence")
	p.click("[data-speak]")
	p.until("recording", `document.querySelector('[data-speak]').ariaPressed === 'true'`)
	p.until("a while", `(window.__since ??= Date.now()) < Date.now() - 1200`)
	p.click("[data-speak]")
	p.has("Recorded. Save the note to keep it.")
	p.click("[data-save-note]")
	p.sees(".notes audio")
	p.has("Skunks come over the back fence")
	p.has("Tam Whitlock, animals")
	require.Equal(t, led, eval[string](p, `document.querySelector('.scale-row').innerText`), "a note is no evidence")
	p.until("it can be heard", `(() => { const a = document.querySelector('.notes audio'); 
		if (a.preload !== 'auto') { a.preload = 'auto'; a.load() } return a.readyState >= 1 })()`)
}

// A check is made at the good spot, too, and the difference is told; the hour of a soil temperature comes from the clock; texture goes
// by feel.
func TestBadSpotAgainstGoodSpot(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.openVisit("Quill")
	p.click("[data-station=soil]")
	p.click(`[data-finding=root-depth-mm]`)
	p.types(`[data-finding=root-depth-mm] [aria-label="Root depth"]`, "30")
	p.keys(enter)
	p.click("[data-good-open=root-depth-mm]")
	p.types(`[aria-label="Root depth, good spot"]`, "150")
	p.keys(enter)
	p.has("120 mm less at the bad spot.")
	p.drag(".core-strip", [2]float64{10, 100})
	p.has("50 mm less at the bad spot.")

	p.types(`[data-finding=soil-temp-c] .number-field`, "27")
	p.keys(enter)
	p.until("the hour is there", `/^\d\d:\d\d$/.test(document.querySelector('[aria-label="Hour of the reading"]')?.value ?? '')`)

	p.click(`[data-finding=texture]`)
	p.click("[data-feel]")
	p.clickText("It holds")
	p.clickText("Up to 25 mm (1 in)")
	p.clickText("Smooth as flour")
	p.click("[data-take-texture=silt-loam]")
	p.until("taken", `document.querySelector('[data-finding=texture] [data-value=silt-loam]').ariaPressed === 'true'`)
	p.until("saved", allSaved)
}
