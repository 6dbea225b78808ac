package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestTheScalesExplainThemselves walks from the ledger of the leader to what would change it, to a second cause beside it
// and to the check that tells them apart.
func TestTheScalesExplainThemselves(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	quill := eval[string](p, `[...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Quill')).getAttribute('href')`)
	p.visit(quill)
	p.click(`[data-station=walk]`)
	p.click(`[data-finding=pattern] [data-value="irregular-patches"]`)
	p.until("saved", `document.querySelector('.saved')?.dataset.state === 'saved'`)
	// the good spot beside the bad one is a difference, and stands in the ledger
	p.click(`[data-station=soil]`)
	p.click(`[data-finding="soil-moisture"] [data-value=moist]`)
	p.click(`[data-finding="soil-moisture@healthy"] [data-value=moist]`)
	p.until("saved", `document.querySelector('.saved')?.dataset.state === 'saved'`)
	p.click(`.scales li:first-child > .scale-row`)
	p.has("Moisture against the healthy spot")
	p.has("What would change this")
	p.has("pays from")
	require.True(t, eval[bool](p, `document.querySelector('.rail-act') !== null && document.querySelector('.rail-check') !== null`))
	p.click(`li:nth-child(2) > .scale-row`)
	p.has("What tells them apart")
	p.sees(".apart-go")
	to := eval[string](p, `document.querySelector('.apart-go').innerText`)
	p.click(`.apart-go`)
	p.until("the check of "+to, `document.querySelector('.check[data-active=true] h3')?.innerText === `+quoted(to))
	require.Empty(t, p.strangers())
}

// TestASampleFromTapToScales takes samples, prints the form's page, is refused a bad file with the line, takes a good one,
// and finds the simulated answer of the other a week later.
func TestASampleFromTapToScales(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	quill := eval[string](p, `[...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Quill')).getAttribute('href')`)
	p.visit(quill)
	p.click(`[data-station=lab]`)
	p.until("the caution at the step", `document.querySelector('.samples .caution')?.innerText.includes('buried lines')`)
	p.types(`[aria-label="Note with the sample"]`, "by the oak")
	p.click(`[data-sample=soil]`)
	p.has("by the oak")
	p.click(`[data-sample=disease]`)
	p.until("two samples", `document.querySelectorAll('.sample-list li').length === 2`)
	p.clickText("Form to go with it")
	p.has("Disease plug sample")
	p.has("Packing")
	p.clickText("Back to the visit")
	p.click(`[data-station=lab]`)
	p.until("open the soil sample", `(() => { const b = [...document.querySelectorAll('.sample-list li')].at(-1)?.querySelector('button'); b?.click(); return !!b })()`)
	p.types(`[aria-label="Text of the result"]`, "sample,finding,value,unit,laboratory\nS-0001,soil-ph,77,pH,Brook")
	p.clickText("Add to diagnosis")
	p.has("line 2")
	p.has("nothing of it was taken")
	p.types(`[aria-label="Text of the result"]`, "sample,finding,value,unit,laboratory\nS-0001,soil-ph,8.2,pH,Brook")
	p.clickText("Add to diagnosis")
	p.has("Brook")
	p.until("on the scales", `document.querySelectorAll('.sample-list li[data-back=true]').length === 1`)
	p.clickText("+ 1 week")
	p.until("the other is back", `document.querySelectorAll('.sample-list li[data-back=true]').length === 2`)
	p.has("simulated")
	p.visit("/")
	p.has("it is on the scales")
}

// TestThePricesShowWhatTheyWouldChange changes one figure, reads what it does to the closed cases before it is saved, and
// saves it.
func TestThePricesShowWhatTheyWouldChange(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("owner")
	p.visit("/firm")
	p.clickText("Prices behind the check and treat thresholds")
	p.has("program's own guesses")
	p.types(`[aria-label="Lawn, laid anew"]`, "1")
	p.has("Marks that move")
	p.until("a mark that moved", `document.querySelectorAll('.price-effects tbody tr').length > 3`)
	p.clickText("Save the figures")
	p.until("saved", `!document.body.innerText.includes("program's own guesses")`)
	p.types(`[aria-label="An hour of work"]`, "0")
	p.has("hour")
	p.until("refused", `document.querySelector('.problem-box') !== null`)
}

// TestTheFieldGuide finds a cause by its sign, reads its drawn signature, and lays it beside another.
func TestTheFieldGuide(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.visit("/causes")
	p.sees(".guide a")
	p.types(`[aria-label="Find a cause"]`, "hourglass")
	p.until("one cause", `document.querySelectorAll('.guide a').length === 1`)
	p.click(`.guide a`)
	p.sees(`[data-signature=hourglass-lesion-tan-with-brown-border] svg`)
	p.has("Smith et al. 2018")
	p.clickText("side by side")
	p.has("What tells them apart")
	require.GreaterOrEqual(t, eval[int](p, `document.querySelectorAll('.apart tbody').length`), 3)
}
