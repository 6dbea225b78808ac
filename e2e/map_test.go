package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// drag draws with the mouse over the lawn, from point to point in m from the north-west corner of its grid.
func (p *page) drag(svg string, points ...[2]float64) {
	p.t.Helper()
	at := func(x, y float64) (float64, float64) {
		xy := eval[[]float64](p, fmt.Sprintf(`(() => { const s = document.querySelector('%s'); s.scrollIntoView({block: 'center'});
			const q = new DOMPoint(%f, %f).matrixTransform(s.getScreenCTM()); return [q.x, q.y] })()`, svg, x, y))
		return xy[0], xy[1]
	}
	actions := []chromedp.Action[chromedp.Void]{}
	for i, q := range points {
		x, y := at(q[0], q[1])
		kind := chromedp.MouseMoved
		if i == 0 {
			kind = chromedp.MousePressed
		}
		left := func(e *input.DispatchMouseEventParams) {
			e.Button, e.Buttons, e.ClickCount = input.MouseButtonLeft, 1, 1
		}
		actions = append(actions, chromedp.MouseEvent(kind, x, y, left))
		if i == len(points)-1 {
			actions = append(actions, chromedp.MouseEvent(chromedp.MouseReleased, x, y, left))
		}
	}
	p.do("drag", actions...)
}

const degreesMarked = `[1, 2, 3].map((d) =>
	document.querySelectorAll('.lawn-map svg[role=application] .map-cell[data-degree="' + d + '"]').length)`

// Damage is drawn over the lawn by degree, its pattern is read off, taken over with a press, and all of it stands when the page comes back.
func TestDamageIsMarkedAndItsPatternTaken(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.openVisit("Sallow")
	p.click("[data-station=walk]")
	p.sees(".lawn-map svg")
	// along the pavement, which runs along the southern edge
	p.drag(".lawn-map svg", [2]float64{3, 11.7}, [2]float64{6, 11.7}, [2]float64{16, 11.7})
	p.until("marked", degreesMarked+`[1] >= 17`)
	p.until("saved", allSaved)
	p.sees(`[data-proposal="pattern/along-hardscape"]`)
	p.sees(`[data-proposal="position/near-hardscape"]`)
	p.has("of the damage is along a drive, path or wall")
	p.click(`[data-proposal="pattern/along-hardscape"]`)
	p.until("taken", `document.querySelector('[data-finding=pattern] [data-value=along-hardscape]').ariaPressed === 'true'`)
	// a worse stretch, then the same degree again takes a square off
	p.click("[data-degree-tool=bare]")
	p.drag(".lawn-map svg", [2]float64{8.2, 11.7}, [2]float64{10.4, 11.7})
	p.until("bare", degreesMarked+`[2] >= 3`)
	p.drag(".lawn-map svg", [2]float64{8.2, 11.7})
	p.until("one less", degreesMarked+`[2] >= 2 && `+degreesMarked+`[2] <= 3`)
	// where a core was pulled
	p.click("[data-more-tools]")
	p.click(`[data-point-tool="core-healthy"]`)
	p.drag(".lawn-map svg", [2]float64{2.2, 4})
	p.sees(".map-point[data-spot=healthy]")
	// with the keyboard; last, for the driver sends the character too, and the page scrolls by it
	p.click("[data-degree-tool=bare]")
	before := eval[int](p, degreesMarked+`[2]`)
	p.do("focus", chromedp.Focus(chromedp.CSS(".lawn-map svg")))
	p.keys(kb.ArrowDown)
	p.keys(" ")
	p.until("one more by the space bar", fmt.Sprintf(degreesMarked+`[2] === %d`, before+1))
	p.until("saved", allSaved)
	marks := eval[[]int](p, degreesMarked)
	p.visit(eval[string](p, `location.pathname`))
	p.click("[data-station=walk]")
	p.until("all of it stands", fmt.Sprintf(`JSON.stringify(%s) === '[%d,%d,%d]'`, degreesMarked, marks[0], marks[1], marks[2]))
	p.sees(".map-point[data-spot=healthy]")
	p.sees(`[data-finding=affected-area-percent][data-answered=true]`)
}

// A lawn is stepped off, its area taken for doses; a tree is put where it is tapped; a walked edge follows the device's position.
func TestASiteIsMapped(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.visit("/sites")
	p.until("site", `(() => { const a = [...document.querySelectorAll('.sites nav a')].find((a) => a.innerText.includes('Harrow'));
		a?.click(); return !!a && document.querySelector('.site')?.ariaLabel?.includes('Harrow') })()`)
	p.clickText("Site map")
	p.sees(".site-sheet [data-lawn]")
	p.clickText("Measure again")
	p.types(`[aria-label="One pace, m"]`, "0.8")
	p.types(`[aria-label="Length"]`, "25")
	p.types(`[aria-label="Width"]`, "10")
	p.clickText("Save")
	p.until("drawn anew", `document.body.innerText.includes('160 m² ± 7 %, paced or taped')`)
	p.until("on the map", `document.querySelector('.map-lawn-name').textContent === 'Lawn160 m²'`)

	p.click("[data-add=tree]")
	p.types(`[aria-label="Radius of the crown"]`, "3")
	p.drag(".site-sheet", [2]float64{8, 9})
	p.until("tapped", `document.querySelectorAll('.tapped-at').length === 1`)
	p.clickText("Save")
	p.sees(".things [data-kind=tree]")

	p.mayKnowWhere()
	p.click("[data-add=hard-edge]")
	p.choose("How", "Stand at it or walk it")
	p.sees("[data-walk]")
	stand := func(north float64) { p.stands(37.649+north/111000, -78.309) }
	stand(0)
	p.click("[data-walk]")
	p.has("1 point, good to 3 m")
	stand(4)
	p.has("2 points")
	stand(4.2)
	stand(9)
	p.has("3 points")
	p.click("[data-walk]")
	p.clickText("Save")
	p.has("Drive, path or wall walked with GPS")
	require.Equal(t, 2, eval[int](p, `document.querySelectorAll('.things [data-kind=hard-edge]').length`))
}
