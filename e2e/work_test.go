package e2e

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// From the plan to the calendar, moved by keys, done with a product of the shelf, closed on the day, and in the book.
func TestAJobFromThePlanToTheBook(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("applicator")
	p.openVisit("Quill")
	visit := eval[string](p, `location.pathname`)
	zone := eval[string](p, `document.querySelector('.views a[aria-current]').getAttribute('href').split('/')[3]`)
	base := visit + "/" + zone
	p.visit(base + "/plan")
	p.sees(`.jobs li[data-state=proposed]`)
	p.click(`[data-book=all]`)
	p.until("all booked", `document.querySelectorAll('.jobs li[data-state=booked]').length >= 3 && !document.querySelector('.jobs li[data-state=proposed]')`)
	p.click(`.budget-open`)
	p.sees(`.budget-table tbody tr`)
	p.has("Still to be released")

	// the calendar; a day too near to the next feeding is told, and moves only with a reason
	p.visit("/calendar")
	p.until("jobs in weeks", `document.querySelectorAll('.calendar li[data-job]').length >= 3`)
	feed := `[...document.querySelectorAll('.calendar li[data-job]')].find((l) => l.innerText.includes('Feed nitrogen') && l.innerText.includes('Quill'))`
	first := eval[string](p, feed+`.closest('.calendar-day').querySelector('h3').innerText`)
	p.until("move the feeding", `(() => { const b = [...`+feed+`.querySelectorAll('button')].find((b) => b.innerText.trim() === 'Move'); b.click(); return true })()`)
	p.sees(".move")
	p.has("Nothing stands against this day")
	for range 3 {
		p.click(`.move button[aria-label="A day later"]`)
	}
	p.sees(`[data-breaks]`)
	p.types(`input[aria-label="Why all the same"]`, "the client is away")
	p.clickText("Put it there")
	p.until("moved", `!document.querySelector('.move') && `+feed+`.closest('.calendar-day').querySelector('h3').innerText !== `+quote(first))
	p.has("the client is away")

	// a fungicide in the heat of the day: law and label stand beside it, with their kind and the next open hour
	p.visit(base + "/record?action=fungicide-curative")
	p.sees(`.sums [data-amount]`)
	p.types(`input[aria-label="Started"]`, "14:00")
	p.until("stopped by the label", `document.querySelector('[data-stop=label-air][data-kind=label]')`)
	p.has("Open from")
	p.types(`input[aria-label="Started"]`, "07:00")
	p.until("open", `!document.querySelector('[data-stop=label-air]')`)
	p.types(`input[aria-label="Ended"]`, "07:40")
	p.choose("Against", "Brown patch")
	p.choose("Wind from", "NW")
	p.types(`input[aria-label="Rate"]`, "0.1")
	p.until("31 mL for 310 m²", `document.querySelector('.sums [data-amount]').innerText === '31 mL'`)
	p.click(`.tick-line input`)
	p.clickText("Sign and record")
	p.has("Recorded.")
	p.until("closed on the record", `document.querySelector('.records .closed')?.innerText.includes('11:40')`)

	// the same again: the interval, the group and the closed zone stand against it, and a reason is asked for
	p.visit(base + "/record?action=fungicide-curative")
	p.until("interval of the label", `document.querySelector('[data-stop=label-interval]')`)
	p.choose("Against", "Brown patch")
	p.until("same group again", `document.querySelector('[data-stop=resistance][data-kind=agronomy]')`)
	p.has("Something stands against it: why it was done")

	p.visit("/book")
	p.sees(`.book-list tr[data-record]`)
	p.has("Vellum 250")
	p.has("AV-R 1")
	p.has("AV-2210")
	p.visit("/shelf")
	p.until("drawn down", `document.querySelector('.shelf-list').innerText.includes('0.97 L')`)
}

func quote(text string) string { return "'" + strings.ReplaceAll(text, "'", `\'`) + "'" }

// The bench is worked by keys alone, keeps what was entered in its address, and answers in the person's units.
func TestTheBenchByKeys(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.visit("/bench")
	p.sees(".bench-list li")
	p.keys("/")
	p.until("the keys are in the search", `document.activeElement.getAttribute('aria-label') === 'Find a calculation'`)
	p.types(`input[aria-label="Find a calculation"]`, "tank")
	p.keys(enter)
	p.sees(`form[aria-label="Tank mix"]`)
	p.until("the first field has the keys", `document.activeElement.tagName === 'INPUT' && document.activeElement.closest('.bench-form')`)
	for label, text := range map[string]string{"Label rate": "0.13", "Water carrier": "8", "Tank": "15", "Area": "310"} {
		p.types(`input[aria-label="`+label+`"]`, text)
	}
	p.until("40.3 mL", `document.querySelector('[data-line=product] dd')?.innerText.startsWith('40.3 mL')`)
	p.until("in the address", `location.search.includes('area=310')`)
	p.types(`input[aria-label="Area"]`, "-5")
	p.has("is outside")
	p.visit(eval[string](p, `location.pathname`) + "?rate=0.13~mL/m2&carrier=8~L/100m2&tank=15~L&area=310~m2")
	p.until("the same again", `document.querySelector('[data-line=product] dd')?.innerText.startsWith('40.3 mL')`)
	require.Empty(t, p.strangers())
}

// The office puts a product on the shelf and a rule into force; the plan minds both.
func TestTheOfficeKeepsShelfAndRules(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("office")
	p.visit("/shelf/new")
	p.types(`input[aria-label="Name"]`, "Fernbrook 25-0-5")
	p.types(`input[aria-label="N"]`, "25")
	p.types(`input[aria-label="Rate from"]`, "4")
	p.types(`input[aria-label="Rate up to"]`, "19")
	p.until("what it is for", `(() => { const s = document.querySelector('select[aria-label="For"]'); for (const o of s.options) o.selected = o.value === 'apply-nitrogen'; s.dispatchEvent(new Event('change', { bubbles: true })); return true })()`)
	p.clickText("Put it on the shelf")
	p.has("Fernbrook 25-0-5")
	p.has("25-0-0")
	p.visit("/firm/rules")
	p.sees(".rule-list")
	p.clickText("New rule")
	p.types(`.rule-form input[aria-label="Name"]`, "Autumn rest")
	p.types(`.rule-form input[aria-label="From (MM-DD)"]`, "09-01")
	p.types(`.rule-form input[aria-label="To (MM-DD)"]`, "12-31")
	p.until("it covers nitrogen", `(() => { const l = [...document.querySelectorAll('.rule-form .tick-line')].find((e) => e.innerText.trim() === 'nitrogen'); l.querySelector('input').click(); return true })()`)
	p.clickText("Keep the rule")
	p.has("1 Sep to 31 Dec")
	p.visit("/")
	p.openVisit("Quill")
	zone := eval[string](p, `document.querySelector('.views a[aria-current]').getAttribute('href').split('/')[3]`)
	p.visit(eval[string](p, `location.pathname`) + "/" + zone + "/plan")
	p.until("no open day, and why", `document.querySelector('.jobs [data-block=law-blackout]')?.innerText.includes('nobody passes it')`)
}
