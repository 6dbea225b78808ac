package e2e

import (
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// axe looks over the page that stands; each line is a rule that is broken and where.
func (p *page) axe(rules string) []string {
	p.t.Helper()
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(p.t, err)
	p.do("axe", chromedp.Evaluate[chromedp.Void](string(source)+`;
		delete window.__axe; axe.run(document, {runOnly: [`+rules+`]}).then((r) => { window.__axe =
			r.violations.map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.target.join(' ')).join(', ')).join('\n') }); 0`))
	p.until("looked over", `window.__axe !== undefined`)
	if all := eval[string](p, `window.__axe`); all != "" {
		return strings.Split(all, "\n")
	}
	return nil
}

// What is used on the lawn has no faults that a machine can find, in both themes, and its words stand out enough to be read in the sun.
func TestTheLawnsViewsHaveNoFaultsToFind(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("technician")
	p.openVisit("Quill")
	visit := eval[string](p, `location.pathname`)
	zone := eval[string](p, `performance.getEntriesByType('resource').map((e) => e.name.match(/zones\/([^/]+)\/scales/)?.[1]).find(Boolean)`)
	for _, theme := range []string{"sun", "dusk"} {
		p.do("theme", chromedp.Evaluate[chromedp.Void](`localStorage.setItem('hodos-theme', '`+theme+`')`))
		for _, view := range [][2]string{{"/", ".due"}, {visit, ".hand-check .check"}, {visit + "?check=grubs-per-m2",
			"[data-count-open]"}, {visit + "?check=affected-area-percent", ".lawn-map"},
			{visit + "?check=root-depth-mm", ".core-strip"},
			{visit + "/" + zone + "/plan", "[data-action]"}, {visit + "/" + zone + "/record", "form"}, {visit + "/" + zone + "/recovery",
				"main"},
			{"/train", "[data-plot]"}} {
			p.visit(view[0])
			p.sees(view[1])
			require.Empty(t, p.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice', 'wcag2aaa'`), "%s, %s", view[0], theme)
		}
	}
}
