package e2e

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/demo"
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
	p.clickText("Close")
	p.until("the audit stands over the plan", `document.querySelectorAll('.audit-plan [data-low=true]').length === 2`)
	p.until("a calendar of the days ahead", `document.querySelectorAll('.water-calendar thead th').length === 11 && document.querySelectorAll('.water-calendar [data-policy=keep-green] [data-due=true]').length > 0`)
	require.True(t, eval[bool](p, `[...document.querySelectorAll('.water-calendar [data-due=true]')].every((c) => c.dataset.permitted === 'true')`), "on Tuesdays only")
	require.Empty(t, p.strangers())
}

// file puts a text into a file field as if it had been chosen.
func (p *page) file(css, name, text string) {
	p.t.Helper()
	p.until("a field for "+name, `(() => { const i = document.querySelector(`+quoted(css)+`); if (!i) return false; const d = new DataTransfer(); d.items.add(new File([`+quoted(text)+`], `+quoted(name)+`, { type: 'text/csv' })); i.files = d.files; i.dispatchEvent(new Event('change', { bubbles: true })); return true })()`)
}

// TestOvernightOnDay reads what the watch has told, notes it, moves the clock on and finds the same things told no second time.
func TestOvernightOnDay(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.sees(".told > li")
	told := eval[float64](p, `document.querySelectorAll('.watch .told > li').length`)
	require.Equal(t, "endurance", eval[string](p, `document.querySelector('.told > li').dataset.kind`), "thirst comes first")
	require.Contains(t, eval[string](p, `document.querySelector('.told > li').innerText`), "Crowns are starting to die", "with the reason")
	require.True(t, eval[bool](p, `[...document.querySelectorAll('.watch button, .watch a')].every((b) => b.getBoundingClientRect().height >= 44 && (b.innerText || b.ariaLabel))`), "room for gloves")
	p.click(`[aria-label="Noted: Endurance used up"]`)
	p.until("put away", `!document.querySelector('[aria-label="Noted: Endurance used up"]')`)
	require.Equal(t, told-1, eval[float64](p, `document.querySelectorAll('.watch .told > li').length`))
	p.click(".stands")
	p.has("noted by Tam Whitlock")

	p.clickText("+ 1 day")
	p.until("the watch has looked at the new day",
		`document.querySelector('.clock time').dataset.today === '2026-08-25' && document.querySelector('.watch-foot').innerText.includes('for 25 Aug 2026')`)
	require.Zero(t, eval[float64](p, `document.querySelectorAll('[aria-label="Noted: Endurance used up"]').length`), "it is not told again")
	p.clickText("Check now")
	p.until("nothing has changed since", `document.querySelector('.watch-foot').innerText.includes('18 of 18 lawns unchanged')`)

	// five weeks on the drought is over, and autumn feeding opens
	for range 5 {
		today := eval[string](p, `document.querySelector('.clock time').dataset.today`)
		p.until("the clock moved on", `(() => { const b = [...document.querySelectorAll('.clock button')].find((b) => b.innerText === '+ 1 week' && !b.classList.contains('ant-btn-loading')); b?.click(); return !!b })()`)
		p.until("a week later", `document.querySelector('.clock time').dataset.today !== `+quoted(today)+` && document.querySelector('.watch-foot')?.innerText.startsWith('Checked')`)
	}
	p.until("feeding opens", `(() => { const b = document.querySelector('.stands'); if (b?.ariaExpanded === 'false') b.click(); return document.querySelector('.watch').innerText.includes('Autumn feeding opens') })()`)
	require.Zero(t, eval[float64](p, `document.querySelectorAll('.told > [data-kind=endurance]').length`))

	// a lawn leads to its own sky, without a visit
	p.click(`.told-where a`)
	p.sees(".sky-chart canvas")
	p.has("sky and ground today")
	require.Empty(t, p.strangers())
}

// TestMeasuredOnTheSite takes in a gauge and a probe by file, notes water, and sees them in the series.
func TestMeasuredOnTheSite(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	zone := siteZone(t, p, "Sallow")
	p.visit("/sites")
	p.until("a way to its sky", `!!document.querySelector('.zone-list a[href$="/sky"]')`)
	p.visit("/zones/" + zone + "/sky")
	p.sees(".sky-chart canvas")
	p.click(".series summary")
	require.True(t, eval[bool](p, `[...document.querySelectorAll('.series button, .series a, .series summary, .file-in label, .weekdays button')].every((b) => b.getBoundingClientRect().height >= 44)`), "room for gloves")

	p.file(`[aria-label="Weather file"]`, "gauge.csv", "hodos-weather,1,daily,America/New_York\ndate,rain_mm\n2026-08-21,-4\n")
	p.has("nothing of it was taken")
	p.has("line 3")
	p.file(`[aria-label="Weather file"]`, "gauge.csv", "hodos-weather,1,daily,America/New_York\ndate,rain_mm\n2026-08-19,31\n2026-08-21,0\n")
	p.has("2 days of 2 lines are in")
	p.has("1 day is missing after 2026-08-19")
	name := eval[string](p, `document.querySelector('.zones [aria-current]').innerText`)
	p.file(`[aria-label="Readings file"]`, "probe.csv",
		"hodos-readings,1,America/New_York\ntime,zone,finding,value,unit\n2026-08-20T15:00,"+name+",soil-temp-c,29.5,C\n")
	p.has("1 new reading, 0 corrected")
	p.types(`[aria-label="Depth given"]`, "14")
	p.clickText("Log it")
	p.has("Noted.")
	p.clickText("Table")
	p.until("all of it is in the series", `(() => { const rows = [...document.querySelectorAll('.sky-table tbody tr')].map((r) => r.innerText); return rows.some((r) => r.startsWith('19 Aug') && r.includes('31.0')) && rows.some((r) => r.startsWith('20 Aug') && /29\.5/.test(r)) })()`)

	for path, first := range map[string]string{"weather?kind=daily": "hodos-weather,1,daily,America/New_York",
		"weather?kind=hourly": "hodos-weather,1,hourly,America/New_York", "readings": "hodos-readings,1,America/New_York"} {
		require.True(t, eval[bool](p, `!!document.querySelector('.series a[href$="/`+path+`"]')`), path)
		href := eval[string](p, `document.querySelector('.series a[href$="/`+path+`"]').getAttribute('href')`)
		p.until(path, `(() => { const x = new XMLHttpRequest(); x.open('GET', `+quoted(href)+`, false); x.send(); return x.responseText.startsWith(`+quoted(first)+`) })()`)
	}
	// the office looks, and takes in nothing
	p.visit("/sign-in")
	p.click("[data-demo=office]")
	p.sees(".day")
	p.visit("/zones/" + zone + "/sky")
	p.click(".series summary")
	p.has("Readings file")
	require.Zero(t, eval[float64](p, `document.querySelectorAll('.series input').length`))
	require.Empty(t, p.strangers())
}

// TestInTheirOwnUnits reads the same lawn in inches and Fahrenheit.
func TestInTheirOwnUnits(t *testing.T) {
	address, s := start(t)
	require.NoError(t, s.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE people SET unit_system = 'us' WHERE id = ?", demo.People["technician"]).Error
	}))
	p := open(t, address)
	p.signIn("technician")
	p.has("°F, in of rain, wind in mph")
	p.visit("/zones/" + siteZone(t, p, "Sallow") + "/sky")
	p.sees(".sky-chart canvas")
	p.until("sentences in Fahrenheit", `[...document.querySelectorAll('.sentences button')].some((b) => b.innerText.includes('over 85 °F'))`)
	p.until("sums in inches", `/\d\.\d\d in$/.test(document.querySelector('.rain-sums dd').innerText)`)
	p.until("watering in inches", `/of \d\.\d\d in used/.test(document.querySelector('.watering').innerText)`)
	p.clickText("Table")
	p.has("rain in")
	require.Empty(t, eval[[]string](p, `document.querySelector('.sky-page main').innerText.match(/.*(\bmm\b|°C).*/g) ?? []`),
		"nothing is left in millimetres")
}
