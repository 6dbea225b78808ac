package e2e

import (
	"fmt"
	"os"
	"slices"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// watched starts a clock at the next event of a kind and stops it at the first frame after something is so; the page keeps the
// milliseconds.
const watched = `(kind, so) => { window.__took = undefined
	addEventListener(kind, (e) => { const from = performance.now(); const look = () => {
		if (!so()) return requestAnimationFrame(look)
		requestAnimationFrame(() => { window.__took = performance.now() - from }) }
		requestAnimationFrame(look) }, {capture: true, once: true}) }`

// took does something and returns how many milliseconds passed from the first event of the kind until the page shows it.
func (p *page) took(kind, so string, do func()) float64 {
	p.t.Helper()
	p.do("watch", chromedp.Evaluate[chromedp.Void](fmt.Sprintf(`(%s)(%q, () => %s)`, watched, kind, so)))
	do()
	p.until("shown", `window.__took !== undefined`)
	return eval[float64](p, `window.__took`)
}

func middle(list []float64) float64 {
	slices.Sort(list)
	return list[len(list)/2]
}

// large is a picture of twelve million pixels, drawn and packed in the page, and handed over as if it had been chosen.
const large = `(async () => { const c = new OffscreenCanvas(4000, 3000), g = c.getContext('2d')
	const leaf = (i) => 'hsl(' + (75 + i % 40) + ' 45% ' + (25 + i % 25) + '%)', straw = (i) => 'hsl(42 35% ' + (40 + i % 25) + '%)'
	for (let i = 0; i < 60000; i++) { g.fillStyle = i % 3 ? leaf(i) : straw(i)
		g.fillRect((i * 7919) % 4000, (i * 104729) % 3000, 40, 24) }
	const jpeg = await c.convertToBlob({type: 'image/jpeg', quality: .9})
	window.__large = new File([jpeg], 'lawn.jpg', {type: 'image/jpeg', lastModified: Date.now()}) })()`

const handed = `(() => { const i = document.querySelector('[data-choose]'), d = new DataTransfer(); d.items.add(window.__large)
	i.files = d.files; i.dispatchEvent(new Event('change', {bubbles: true})) })()`

// TestSpeedOnTheDevice tells how long a finger waits, at full speed and on a processor a quarter as fast; docs/performance.md keeps the
// figures. It runs when HODOS_SPEED is set (make bench-device): it holds nothing but that all of it works.
func TestSpeedOnTheDevice(t *testing.T) {
	if os.Getenv("HODOS_SPEED") == "" {
		t.Skip("a measurement: make bench-device")
	}
	for _, slower := range []float64{1, 4} {
		t.Run(fmt.Sprintf("a processor %g times slower", slower), func(t *testing.T) {
			address, _ := start(t)
			p := open(t, address)
			p.do("size", chromedp.EmulateViewport(1280, 800))
			p.signIn("technician")
			p.openVisit("Sallow")
			p.click("[data-station=walk]")
			p.sees(".lawn-map svg")
			_, err := chromedp.Call(p.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: slower})
			require.NoError(t, err)

			var taps, marks, reads, weighs, cores []float64
			for i := range 9 {
				value := []string{"sharp", "diffuse"}[i%2]
				taps = append(taps, p.took("click", `document.querySelector('[data-finding=margin] [data-value=`+value+`]').ariaPressed === 'true'`,
					func() { p.click(`[data-finding=margin] [data-value=` + value + `]`) }))
				p.until("saved", allSaved)
			}
			for i := range 9 {
				before := eval[int](p, `document.querySelectorAll('.map-cell[data-degree]:not([data-degree="0"])').length`)
				so := fmt.Sprintf(`document.querySelectorAll('.map-cell[data-degree]:not([data-degree="0"])').length !== %d`, before)
				marks = append(marks, p.took("pointerdown", so, func() { p.drag(".lawn-map svg", [2]float64{2.5 + float64(i), 5}) }))
				said := eval[string](p, `document.querySelector('.pattern-says p')?.innerText ?? ''`)
				reads = append(reads, p.took("pointerdown", fmt.Sprintf(`(document.querySelector('.pattern-says p')?.innerText ?? '') !== %q`, said),
					func() { p.drag(".lawn-map svg", [2]float64{2.5 + float64(i), 7}, [2]float64{2.5 + float64(i), 10}) }))
				p.until("saved", allSaved)
			}
			p.do("draw", chromedp.Evaluate[chromedp.Void](large))
			p.until("drawn", `window.__large !== undefined`)
			picture := p.took("change", `!!document.querySelector('.photo-reading[data-cover]')`, func() {
				p.do("hand over", chromedp.Evaluate[chromedp.Void](handed))
			})
			megabytes := eval[float64](p, `window.__large.size / 1e6`)
			p.clickText("Throw it away")

			offline(p, true)
			for i := range 5 {
				value := []string{"stay", "spring-back"}[i%2]
				stood := eval[string](p, `document.querySelector('.scales')?.innerText ?? ''`)
				weighs = append(weighs, p.took("click", fmt.Sprintf(`document.querySelector('.scales')?.innerText !== %q`, stood),
					func() { p.click(`[data-finding=footprints] [data-value=` + value + `]`) }))
				cores = append(cores, eval[float64](p, `performance.getEntriesByName('hodosWeigh').at(-1).duration`))
			}
			offline(p, false)
			t.Logf("a tap is shown after %.0f ms (worst %.0f), a square after %.0f ms (%.0f), the pattern of it after %.0f ms (%.0f), "+
				"a picture of 12 million pixels (%.1f MB) measured after %.0f ms, the scales without reception after %.0f ms (%.0f), "+
				"of it in the core %.0f ms (%.0f)", middle(taps),
				slices.Max(taps), middle(marks), slices.Max(marks), middle(reads), slices.Max(reads), megabytes, picture, middle(weighs),
				slices.Max(weighs), middle(cores), slices.Max(cores))
			require.Positive(t, picture)
		})
	}
}
