package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// What is used on the lawn fits a phone: nothing runs out of the side, whatever the page.
func TestNothingRunsOutOfTheSideOfAPhone(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("technician")
	p.openVisit("Quill")
	visit := eval[string](p, `location.pathname`)
	zone := eval[string](p, `document.querySelector('.views a[aria-current]').getAttribute('href').split('/')[3]`)
	for _, view := range []struct{ path, ready string }{
		{"/", ".due"}, {visit, ".strip-cause"}, {visit + "/" + zone + "/plan", "[data-part=avoid]"}, {visit + "/" + zone + "/record", ".record-page form"},
		{visit + "/" + zone + "/recovery", ".measure"}, {visit + "/" + zone + "/sky", ".sky-tools"}, {"/sites", ".sites nav li"}, {"/account", ".about"},
		{"/causes", ".guide"}, {"/nowhere", ".fallen"}, {"/bench", ".bench-list li"}, {"/train", ".train"}, {"/bench/tank", ".bench-form"}, {"/calendar", ".calendar"},
		{"/shelf", ".shelf-list"}, {"/firm/rules", ".rule-list"}, {"/review", ".review-list"}, {"/book", ".book"},
	} {
		p.visit(view.path)
		p.sees(view.ready)
		beyond := eval[[]string](p, `[...document.querySelectorAll('body *')].filter((e) => e.getBoundingClientRect().right + scrollX > 391 && document.documentElement.scrollWidth > 390).map((e) => e.tagName + '.' + e.className).slice(0, 12)`)
		require.LessOrEqual(t, eval[int](p, `document.documentElement.scrollWidth`), 390, "%s: %v", view.path, beyond)
	}
}

// A form that is opened from a button far above it comes into view, and the focus goes to it.
func TestAFormOpensWhereItIsSeen(t *testing.T) {
	server, _ := start(t)
	p := open(t, server)
	p.signIn("owner")
	p.openSite("Quill")
	p.do("a phone", chromedp.EmulateViewport(390, 844))
	for _, button := range []string{"Book a visit", "Change the site", "Change the client", "Add a zone", "Erase the client"} {
		p.until("to the top", `(() => { scrollTo(0, 0); return scrollY === 0 })()`)
		p.clickText(button)
		p.until("the form of "+button+" is in view", `(() => { const form = document.querySelector('.form.side')
			const box = form?.getBoundingClientRect()
			return !!form && form.querySelector('h2, h3') && document.activeElement === form && box.top >= -1 && box.top < innerHeight - 200 })()`)
		require.Greater(t, eval[float64](p, `scrollY`), 100.0, button)
	}
}
