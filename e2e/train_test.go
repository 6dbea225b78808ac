package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// The eye is trained on drawn lawns: what is said is held against what was drawn, and the look back outlives the page.
func TestTheEyeIsTrained(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("technician")
	p.visit("/bench")
	p.clickText("Train your eye for shares")
	p.sees("[data-plot]")
	share := eval[float64](p, `Number(document.querySelector('[data-plot]').dataset.plot)`)
	drawn := eval[float64](p, `document.querySelectorAll('.train-straw').length / 24`)
	require.InDelta(t, share, drawn, .1)
	p.click("[data-value='20']")
	p.until("told", `document.querySelector('.train-was').innerText.includes(document.querySelector('[data-plot]').dataset.plot + ' %')`)
	p.click("[data-another]")
	p.sees("[data-value='20']")
	p.click("[data-value='20']")
	p.visit("/train")
	p.until("looked back on", `document.querySelector('[data-eye]')?.innerText.startsWith('Over 2 plots')`)
	require.LessOrEqual(t, eval[float64](p, `document.documentElement.scrollWidth`), 390.0)
}
