package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

func (p *page) press(css string, times int) {
	p.t.Helper()
	for range times {
		p.click(css)
	}
}

// A count is made by pressing, square by square; it outlives a closed page, says how sure it is against what this stand bears, and is saved
// as it was made.
func TestACountIsMadeSquareBySquare(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("technician")
	p.openVisit("Quill")
	visit := eval[string](p, `location.pathname`)

	p.visit(visit + "?check=grubs-per-m2")
	p.click("[data-count-open]")
	p.press(".count-more", 6)
	p.until("one place says little", `document.querySelector('.count-says')?.dataset.state === 'begun'`)
	p.click("[data-count-next]")
	p.press(".count-more", 9)
	p.click(`.count-press button:first-child`)
	p.visit(visit + "?check=grubs-per-m2")
	p.until("kept over a closed page", `document.querySelector('.count-more b').textContent === '8' &&
		document.querySelector('.count-places button').textContent === '6'`)
	p.until("held against what the stand bears", `document.querySelector('.count-says').dataset.state === 'over'`)
	require.Contains(t, eval[string](p, `document.querySelector('.count-says').innerText`), "78 per m²")
	require.Contains(t, eval[string](p, `document.querySelector('.count-says').innerText`), "under stress")
	p.click("[data-count-save]")
	p.until("on the scales", `document.querySelector('.strip-cause').dataset.cause === 'white-grubs' &&
		document.querySelector('.check').dataset.state === 'saved'`)
	p.visit(visit + "?check=grubs-per-m2")
	p.until("saved as it was made", `document.querySelector('.count-places button')?.textContent === '6' &&
		document.querySelector('.check').dataset.state === 'saved' && document.querySelector('.count-says').innerText.includes('They feed until')`)

	p.visit(visit + "?check=crowns-alive-percent")
	p.click("[data-count-open]")
	p.press(".count-press:nth-of-type(1) .count-more", 12)
	p.until("settled", `document.querySelector('.count-says')?.dataset.state === 'alive'`)
	p.press(".count-press:nth-of-type(2) .count-more", 5)
	p.until("in doubt", `document.querySelector('.count-says').dataset.state === 'more'`)

	p.visit(visit + "?check=float-chinch-per-m2")
	p.click("[data-count-open]")
	p.click("[data-watch=start]")
	p.sees("[data-watch=runs]")
	p.visit(visit + "?check=float-chinch-per-m2")
	p.click("[data-count-open]")
	p.sees("[data-watch=runs]")
	p.do("ten minutes on", chromedp.Evaluate[chromedp.Void](`for (const k of Object.keys(localStorage)) if (k.startsWith('hodos-watch'))
		localStorage.setItem(k, String(Number(localStorage.getItem(k)) - 600000))`))
	p.visit(visit + "?check=float-chinch-per-m2")
	p.click("[data-count-open]")
	p.sees("[data-watch=over]")
	p.click("[data-watch=over]")
	p.sees("[data-watch=start]")
}
