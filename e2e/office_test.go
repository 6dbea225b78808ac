package e2e

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
)

// field types into the field with the label.
func (p *page) field(label, text string) {
	p.t.Helper()
	p.types(fmt.Sprintf(`input[aria-label=%q]`, label), text)
}

// choose picks an option by its text.
func (p *page) choose(label, option string) {
	p.t.Helper()
	p.until("choose "+option, fmt.Sprintf(`(() => {
		const s = document.querySelector('select[aria-label=%q]'); if (!s) return false
		const o = [...s.options].find((o) => o.text === %q); if (!o) return false
		Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, o.value)
		s.dispatchEvent(new Event('change', { bubbles: true })); return true })()`, label, option))
}

// TestTheFirmKeepsItsBooks creates and changes a client, a site, a zone, a visit and a person through the screens.
func TestTheFirmKeepsItsBooks(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.visit("/sign-in")
	p.click(`[data-demo=owner]`)
	p.sees(".day")
	p.visit("/sites")
	p.sees(".site")

	p.clickText("New client")
	p.field("Name", "Wilma Ostrander")
	p.field("Telephone", "555-0199")
	p.clickText("Save")
	p.until("the form is gone", `!document.querySelector('form[aria-label=Client]')`)

	p.clickText("New site")
	p.choose("Client", "Wilma Ostrander")
	p.field("Site name", "Ostrander Yard")
	p.field("Latitude", "137.6")
	p.field("Longitude", "-78,3")
	p.field("Time zone", "America/New_York")
	p.clickText("Save")
	p.has("latitude")
	require.Equal(t, "Ostrander Yard", eval[string](p, `document.querySelector('input[aria-label="Site name"]').value`),
		"nothing that was typed is lost")
	p.field("Latitude", "37,6")
	p.clickText("Save")
	p.until("the site's page", `document.querySelector('.site h2')?.innerText === 'Ostrander Yard'`)
	p.has("No zone yet")

	p.clickText("Add a zone")
	p.field("Zone name", "Yard")
	p.field("Area, m²", "95")
	p.choose("Main grass", "Tall fescue")
	p.choose("Watered", "has irrigation")
	p.choose("In summer", "keep green")
	p.clickText("Save")
	p.has("Tall fescue, irrigated")

	p.clickText("Book a visit")
	p.field("Reason", "Thin under the oak")
	p.choose("Who goes", "Tam Whitlock")
	p.clickText("Save")
	p.sees(".scale-row")
	p.has("Thin under the oak")
	p.visit("/sites")
	p.sees(".site")
	p.until("open the new site", `(() => { const a = [...document.querySelectorAll('.sites nav a')].find((a) => a.innerText.includes('Ostrander Yard')); a?.click(); return !!a })()`)
	p.until("its visit", `document.querySelector('.visit-list')?.innerText.includes('Thin under the oak')`)
	p.until("change it", `(() => { const b = document.querySelector('.visit-list button'); b?.click(); return !!b })()`)
	p.has("Change the visit")
	p.field("Reason", "Thin under the oak, and moss")
	p.clickText("Save")
	p.until("changed", `document.querySelector('.visit-list')?.innerText.includes('and moss')`)

	p.visit("/firm")
	p.sees(".matrix")
	p.clickText("Add somebody")
	p.field("Name", "Bo Tranter")
	p.field("Email", "bo@averley.example")
	p.choose("Role", "office")
	p.field("Licence valid until", "31/3/2027")
	p.clickText("Save")
	p.until("listed", `document.querySelector('.firm table').innerText.includes('Bo Tranter')`)
	p.until("the day is read in the firm's form", `document.querySelector('.firm table').innerText.includes('no password yet')`)
	p.clickText("Close")
	p.choose("Units", "US customary")
	p.clickText("Save the firm")
	p.visit("/sites")
	p.has("2,583 ft²")
	p.visit("/account")
	p.sees(".sessions")
	p.choose("My units", "metric")
	p.until("kept", `document.querySelector('[aria-label="My units"]').value === 'metric'`)
	p.visit("/sites")
	p.has("240 m²")
}

// TestEveryViewCanBeUsed looks at each main view in both themes: every control has a name and is large enough for a gloved
// finger, nothing runs out of the side, and no other host is asked.
func TestEveryViewCanBeUsed(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	quill := eval[string](p, `[...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Quill')).getAttribute('href')`)
	p.visit(quill)
	p.sees(".scale-row")
	zone := eval[string](p, `document.querySelector('.views a[aria-current]').getAttribute('href').split('/')[3]`)
	for _, view := range []struct{ path, ready string }{
		{"/", ".due"}, {quill, ".scale-row"}, {quill + "/" + zone + "/plan", "[data-part=avoid]"}, {quill + "/" + zone + "/record", ".record-page form"}, {quill + "/" + zone + "/recovery", ".measure"},
		{"/sites", ".visit-list"}, {"/causes", ".guide"}, {"/causes/white-grubs", ".evidence"}, {"/firm", ".matrix"},
		{"/bench/nutrient", ".bench-form"}, {"/calendar", ".calendar"}, {"/shelf", ".shelf-list"}, {"/firm/rules", ".rule-list"}, {"/book", ".book"}, {"/review", ".review-list"},
		{quill + "/" + zone + "/record?action=fungicide-curative", ".sums"},
	} {
		for _, theme := range []string{"sun", "dusk"} {
			p.visit(view.path)
			p.sees(view.ready)
			p.until("theme "+theme, fmt.Sprintf(`(() => { if (document.documentElement.dataset.theme === %q) return true; [...document.querySelectorAll('.top button')].find((b) => ['Sun', 'Dusk'].includes(b.innerText.trim())).click(); return false })()`, theme))
			nameless := eval[[]string](p, `[...document.querySelectorAll('button, a, input, select, [role=application]')].filter((e) => e.offsetParent !== null && !(e.innerText ?? '').trim() && !e.getAttribute('aria-label') && !e.closest('label') && e.getAttribute('aria-hidden') !== 'true').map((e) => e.outerHTML.slice(0, 120))`)
			require.Empty(t, nameless, "%s has controls without a name", view.path)
			small := eval[[]string](p, `[...document.querySelectorAll('main button, main select, .visit button, .stations button, .views a, .zones a, .top button, .top nav a')].filter((e) => { const b = e.getBoundingClientRect(); return b.width > 0 && b.height < 43.5 && !e.classList.contains('quiet') }).map((e) => e.innerText + ' ' + e.getBoundingClientRect().height)`)
			require.Empty(t, small, "%s has targets that a glove misses", view.path)
			require.LessOrEqual(t, eval[int](p, `document.documentElement.scrollWidth`), 1280, "%s runs out of the side", view.path)
			headings := eval[int](p, `document.querySelectorAll('h1, h2').length`)
			require.Positive(t, headings, "%s has no heading", view.path)
		}
	}
	require.Empty(t, p.strangers())
}
