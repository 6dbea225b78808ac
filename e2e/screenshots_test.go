package e2e

import (
	"os"
	"path/filepath"
	"testing"
)

// TestScreenshots makes the pictures of the README from the demo data: HODOS_SCREENSHOTS names the folder. Without it the
// same walk is made and the pictures go to a temporary folder, so that the walk cannot rot.
func TestScreenshots(t *testing.T) {
	dir := os.Getenv("HODOS_SCREENSHOTS")
	if dir == "" {
		dir = t.TempDir()
	}
	address, _ := start(t)
	p := open(t, address)
	p.visit("/sign-in")
	p.sees("[data-demo=technician]")
	p.shot(filepath.Join(dir, "sign-in.png"))
	p.signIn("technician")
	p.shot(filepath.Join(dir, "day.png"))

	quill := eval[string](p, `[...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Quill')).getAttribute('href')`)
	p.visit(quill)
	p.clickText("Arrive")
	p.has("since")
	answer := func(station string, picks ...string) {
		p.click(`[data-station=` + station + `]`)
		for _, pick := range picks {
			p.click(pick)
		}
	}
	pick := func(finding, value string) string {
		return `[data-finding=` + finding + `] [data-value="` + value + `"]`
	}
	answer("ask", pick("neighbours-affected", "few"), pick("onset-speed", "weeks"))
	answer("walk", pick("pattern", "irregular-patches"), pick("colour", "brown"), pick("animal-digging", "peeled-back"),
		pick("underfoot", "soft-loose"))
	p.until("saved", `document.querySelector('.saved')?.dataset.state === 'saved'`)
	p.click(`[data-station=pull]`)
	p.click(pick("pull-test", "lifts-like-carpet"))
	p.until("saved", `document.querySelector('.saved')?.dataset.state === 'saved' && document.querySelector('[data-cause=white-grubs] .scale-p')?.dataset.p > 0.5`)
	p.shot(filepath.Join(dir, "visit.png"))
	p.types(`[data-finding=grubs-per-m2] .number-field`, "96")
	p.keys(enter)
	p.until("weighed", `document.querySelector('[data-cause=white-grubs] .scale-p')?.dataset.p > 0.9`)
	p.click(`[data-cause=white-grubs]`)
	p.sees(".ledger")
	p.shot(filepath.Join(dir, "visit-ledger.png"))
	p.clickText("Dusk")
	p.shot(filepath.Join(dir, "visit-dusk.png"))
	p.clickText("Sun")
	p.keys("\u001b")
	p.click(`[data-station=ask]`)
	p.types(`[data-finding=irrigation-weekly-mm] .number-field`, "12")
	p.keys(enter)
	p.until("saved", `document.querySelector('.saved')?.dataset.state === 'saved'`)
	p.clickText("Sky")
	p.sees(".sky-chart canvas")
	p.until("sentences", `document.querySelectorAll('.sentences button').length >= 3`)
	p.click(".sentences button")
	p.shot(filepath.Join(dir, "sky.png"))
	p.clickText("Plan")
	p.sees("[data-part=do-now]")
	p.shot(filepath.Join(dir, "plan.png"))
	p.visit("/")
	p.until("open Bracken Walk", `(() => { const a = [...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Bracken')); a?.click(); return !!a })()`)
	p.sees(".scale-row")
	p.click(pick("growth-rate", "slow"))
	p.types(`[data-finding=last-nitrogen-days] .number-field`, "240")
	p.keys(enter)
	answer("walk", pick("pattern", "uniform"), pick("colour", "yellow"))
	answer("blade", pick("leaf-symptoms", "older-leaves-yellow"))
	p.until("hungry", `document.querySelector('[data-cause=nitrogen-deficiency] .scale-p')?.dataset.p > 0.6`)
	p.clickText("Plan")
	p.click(`[data-record=apply-nitrogen]`)
	p.types(`input[aria-label="Product"]`, "Evenfeed 20-0-0 (demo)")
	p.types(`input[aria-label="N on the bag"]`, "20")
	p.has("of product")
	p.shot(filepath.Join(dir, "record.png"))
	zone := siteZone(t, p, "Stonecrop")
	p.visit("/zones/" + zone + "/recovery")
	p.sees(".course")
	p.shot(filepath.Join(dir, "recovery.png"))
	p.visit("/sites/" + eval[string](p, `(() => { const x = new XMLHttpRequest(); x.open('GET', '/api/v1/sites', false); x.send(); return JSON.parse(x.responseText).sites.find((s) => s.name.includes('Larkspur')).id })()`))
	p.until("the back lawn's sky", `(() => { const a = [...document.querySelectorAll('.zone-list li')].find((l) => l.innerText.includes('Back lawn'))?.querySelector('a[href$="/sky"]'); a?.click(); return !!a })()`)
	p.sees(".sky-chart canvas")
	p.click(".series summary")
	p.until("the watering in sight", `(() => { const w = document.querySelector('.audit-plan'); if (!w) return false; document.querySelector('.watering').scrollIntoView(); return true })()`)
	p.shot(filepath.Join(dir, "watering.png"))
	p.visit("/causes")
	p.sees(".guide")
	p.shot(filepath.Join(dir, "causes.png"))
	p.visit("/causes/white-grubs")
	p.sees(".evidence")
	p.shot(filepath.Join(dir, "cause.png"))
	p.visit("/sign-in")
	p.click("[data-demo=owner]")
	p.sees(".day")
	p.visit("/sites")
	p.sees(".site")
	p.shot(filepath.Join(dir, "sites.png"))
	p.visit("/firm")
	p.sees(".matrix")
	p.shot(filepath.Join(dir, "firm.png"))
	p.visit("/causes/spring-dead-spot/beside/large-patch")
	p.sees(".apart td")
	p.shot(filepath.Join(dir, "causes-beside.png"))
	p.visit("/firm/prices")
	p.types(`[aria-label="Lawn, laid anew"]`, "3")
	p.until("what it would change", `document.querySelectorAll('.price-effects tbody tr').length > 3`)
	p.shot(filepath.Join(dir, "prices.png"))

}
