package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/exchange/photofile"
)

// chooses hands the page a picture as if it had been picked from the device's own.
func (p *page) chooses(jpeg []byte, name, kind string) {
	p.t.Helper()
	p.hands("[data-choose]", jpeg, name, kind)
}

// hands gives a file to a field for files.
func (p *page) hands(css string, jpeg []byte, name, kind string) {
	p.t.Helper()
	bytes := make([]int, len(jpeg))
	for i, b := range jpeg {
		bytes[i] = int(b)
	}
	p.until("choose "+name, fmt.Sprintf(`(() => { const i = document.querySelector(%q); if (!i) return false
		const d = new DataTransfer(); d.items.add(new File([new Uint8Array(%s)], %q, {type: %q,
			lastModified: Date.parse('2026-08-24T15:00:00Z')}))
		i.files = d.files; i.dispatchEvent(new Event('change', {bubbles: true})); return true })()`, css, jsList(bytes), name, kind))
}

func jsList(list []int) string {
	out := []byte{'['}
	for _, x := range list {
		out = fmt.Appendf(out, "%d,", x)
	}
	return string(append(out, ']'))
}

// A picture of known cover is chosen, measured on the device, kept and sent; limits move, moss is pointed out; what is no picture is
// said so.
func TestAPictureIsTakenAndMeasured(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.openVisit("Quill")
	p.click("[data-station=walk]")
	p.sees(".photo-strip")
	drawn := demo.Draw(demo.Drawing{Cover: .4, Patchy: .6, Seed: 3})
	file, err := photofile.JPEG(drawn.Image)
	require.NoError(t, err)

	p.chooses([]byte("GIF89a"), "lawn.gif", "image/gif")
	p.has("Only JPEG and PNG pictures can be read")
	p.clickText("Back")
	p.chooses(file[:3000], "broken.jpg", "image/jpeg")
	p.has("This picture is damaged")
	p.clickText("Back")

	p.chooses(file, "lawn.jpg", "image/jpeg")
	p.sees(".photo-reading[data-cover]")
	cover := eval[float64](p, `Number(document.querySelector('.photo-reading').dataset.cover)`)
	require.InDelta(t, drawn.Cover, cover, .08)
	require.InDelta(t, 1-cover, eval[float64](p, `(() => { const c = document.querySelector('.photo-sheet canvas')
		const a = c.getContext('2d').getImageData(0, 0, c.width, c.height).data; let n = 0
		for (let i = 3; i < a.length; i += 4) if (a[i]) n++; return n / (a.length / 4) })()`), .005, "the veil lies over what does not count")
	p.until("limits", `(() => { document.querySelector('.fold').open = true; const i = document.querySelector('[data-limit=hue_low]')
		Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(i, '90')
		i.dispatchEvent(new Event('input', {bubbles: true})); return true })()`)
	p.until("fewer count", fmt.Sprintf(`Number(document.querySelector('.photo-reading').dataset.cover) < %f`, cover-.05))
	p.clickText("Usual limits")
	p.until("as before", fmt.Sprintf(`Math.abs(Number(document.querySelector('.photo-reading').dataset.cover) - %f) < 1e-6`, cover))
	p.click("[data-keep-photo]")
	p.sees(`[data-photo-state=saved]`)
	p.has("Green cover of the bad spot")
	p.do("ask", chromedp.Evaluate[chromedp.Void](`(() => {
		const z = performance.getEntriesByType('resource').map((e) => e.name.match(/zones\/([0-9a-f-]{36})\/scales/)?.[1]).find(Boolean)
		fetch('/api/v1/zones/' + z + '/photos').then((r) => r.json()).then((l) => { window.__kept = l.photos[0].cover }) })()`))
	p.until("answered", `window.__kept !== undefined`)
	kept := eval[float64](p, `window.__kept`)
	require.InDelta(t, cover, kept, 1e-9, "what the device measured is what is kept")
	p.click("[data-take-sum=cover]")
	p.until("taken", `document.querySelector('[data-finding=green-up-percent]').dataset.answered === 'true'`)

	mossy, err := photofile.JPEG(demo.Draw(demo.Drawing{Cover: .9, Moss: .2, Seed: 5}).Image)
	require.NoError(t, err)
	p.chooses(mossy, "moss.jpg", "image/jpeg")
	p.sees("[data-about=moss]")
	p.click("[data-about=moss]")
	p.has("Point three times at moss")
	p.clickText("Throw it away")

	// the camera, with what the browser plays for one
	p.click("[data-camera]")
	p.until("the camera runs", `document.querySelector('.camera-view')?.dataset.running === 'true'`)
	p.click("[data-shoot]")
	p.sees(".photo-reading[data-cover]")
	p.click("[data-about=show]")
	p.click("[data-keep-photo]")
	p.until("two kept", `document.querySelectorAll('[data-photo-state=saved]').length === 2`)
}

// Two pictures of a spot lie one over the other in the course of a recovery.
func TestPicturesLieSideBySide(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.until("open", `(() => { const a = [...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Stonecrop'))
		a?.click(); return !!a })()`)
	p.sees(".over img")
	p.has("Green cover up by 22 points")
	p.click("[data-blink]")
	p.until("the one", `document.querySelectorAll('.over img')[1].style.clipPath.includes(' 0%')`)
	p.until("the other", `document.querySelectorAll('.over img')[1].style.clipPath.includes('100%')`)
}
