package e2e

import (
	"testing"

	"github.com/stretchr/testify/require"
)

// TestSkyAndGround walks the weather and ground view: sentences that lead to their days, zoom by keyboard, the same as a
// table, permitted watering days, and a catch-can audit that finds the fault where the damage is.
func TestSkyAndGround(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	quill := eval[string](p, `[...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Quill')).getAttribute('href')`)
	p.visit(quill)
	p.types(`[data-finding=irrigation-weekly-mm] .number-field`, "8")
	p.keys(enter)
	p.until("saved", `document.querySelector('.saved')?.dataset.state === 'saved'`)
	p.clickText("Sky")
	p.sees(".sky-chart canvas")
	p.until("sentences", `document.querySelectorAll('.sentences button').length >= 3`)
	p.click(".sentences button")
	require.Equal(t, "true", eval[string](p, `document.querySelector('.sentences button').getAttribute('aria-pressed')`))
	p.keys("+", "-", "0")
	p.clickText("Table")
	p.until("the same days as a table", `document.querySelectorAll('.sky-table tbody tr').length === 12 * 7 + 10`)
	p.clickText("Chart")
	p.sees(".sky-chart canvas")
	require.Contains(t, eval[string](p, `decodeURIComponent(document.querySelector('a[download^="sky-"]').href)`), "date,forecast,tmin_c")

	p.clickText("Tu")
	p.until("Tuesdays only", `document.querySelector('.weekdays [aria-pressed=true]')?.innerText === 'Tu'`)
	p.clickText("Catch cans")
	p.until("room for gloves", `(() => { const b = document.querySelector('.can-grid button')?.getBoundingClientRect(); return b && b.width >= 44 && b.height >= 44 })()`)
	for i, depth := range []string{"1", "1", "6", "6", "6", "6", "6", "6"} {
		p.until("a can", `(() => { document.querySelectorAll('.can-grid button')[`+string(rune('0'+i))+`].click(); return true })()`)
		p.types(`[aria-label="Depth in this can"]`, depth)
	}
	p.clickText("Work it out (8)")
	p.has("uniformity")
	p.has("mark the damage")
	p.until("minutes follow", `/\d+ min/.test(document.querySelector('.turn')?.innerText ?? '')`)
	require.Empty(t, p.strangers())
}
