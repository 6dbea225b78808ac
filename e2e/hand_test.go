package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// handled is a lawn of the demo and what it shows to whoever looks: the answer to each check that the visit leads to, figures with a #.
// What is not in here is answered with "no" or "none of these", or passed over where it is a figure.
type handled struct {
	site, cause string // what leads in the end
	shows       map[string]string
}

var inHand = []handled{
	{"Quill", "white-grubs", map[string]string{
		"pull-test": "lifts-like-carpet", "grubs-per-m2": "#96", "animal-digging": "peeled-back", "pattern": "irregular-patches",
		"colour": "brown", "underfoot": "soft-loose", "affected-area-percent": "#20", "neighbours-affected": "few", "onset-speed": "weeks",
		"soil-moisture": "moist",
	}},
	{"Sallow", "summer-dormancy", map[string]string{
		"colour": "straw-tan", "green-tissue-at-base": "yes", "growth-rate": "stalled", "pattern": "uniform", "crowns": "white-firm",
		"crowns-alive-percent": "#95", "soil-moisture": "dry", "affected-area-percent": "#95", "onset-speed": "weeks",
		"neighbours-affected": "many", "pull-test": "resists", "core-moist-depth-mm": "#0", "irrigation-weekly-mm": "#0",
		"soil-moisture-vwc": "#8", "root-depth-mm": "#110", "establishment": "established", "thatch-mm": "#10", "weed-cover-percent": "#3",
		"underfoot": "firm", "position": "open", "footprints": "stay",
	}},
	{"Larkspur", "hardscape-heat", map[string]string{
		"pattern": "along-hardscape", "colour": "straw-tan", "soil-moisture": "dry", "underfoot": "firm", "affected-area-percent": "#8",
		"pull-test": "resists", "catch-can-du": "#0.4", "soil-temp-c": "#31", "soil-temp-healthy-c": "#25", "irrigation-weekly-mm": "#25",
		"position": "near-hardscape", "core-moist-depth-mm": "#20",
	}},
	{"Mill Ferry", "traffic-crush", map[string]string{
		"penetration-kpa": "#2600", "underfoot": "hard", "pattern": "wheel-tracks", "colour": "straw-tan", "root-depth-mm": "#30",
		"affected-area-percent": "#25", "pull-test": "resists", "infiltration-mm-h": "#4", "recent-events": "heavy-traffic",
		"stand-density": "thin", "position": "open",
	}},
}

const (
	handFinding = `document.querySelector('.hand-check .check')?.dataset.finding`
	handOver    = `!!document.querySelector('[data-hand-plan]')`
	handLeads   = handOver +
		` || (` + handFinding + ` && document.querySelector('[data-hand-skip]')?.dataset.handSkip === ` + handFinding + `)`
	handNo = `['no', 'none', 'unaffected'].find((v) => document.querySelector('.hand-check [data-value="' + v + '"]')) ??
		document.querySelector('.hand-check .answer').dataset.value`
)

// inOneHand answers what the visit leads to until nothing is asked any more.
func (p *page) inOneHand(shows map[string]string) (taps, typed int) {
	for range 40 {
		p.until("weighed", handLeads)
		if eval[bool](p, handOver) {
			break
		}
		finding := eval[string](p, handFinding)
		answer := shows[finding]
		figure, isFigure := strings.CutPrefix(answer, "#")
		taps++
		switch {
		case isFigure:
			p.types(`.hand-check .number-field`, figure)
			p.keys(enter)
			typed++
		case answer == "" && eval[bool](p, `!!document.querySelector('.hand-check .number-field')`):
			p.click("[data-hand-skip]") // nothing to measure it with
			continue
		default:
			if answer == "" {
				answer = eval[string](p, handNo)
			}
			p.click(`.hand-check [data-value="` + answer + `"]`)
		}
		stays := handFinding + ` === '` + finding + `'`
		p.until("answered", handOver+` || !(`+stays+`) || document.querySelector('[data-hand-next]:enabled')`)
		if eval[bool](p, stays+` && !!document.querySelector('[data-hand-next]')`) {
			p.click(`[data-hand-next]`) // several answers may be given: one says when it is done
			taps++
		}
	}
	return taps, typed
}

// From arrival to a settled decision, following the next check, a visit in one hand takes few taps and fewer figures, names what is wrong,
// and asks nothing any more.
func TestAVisitInOneHandIsShort(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("technician")
	for _, lawn := range inHand {
		p.visit("/")
		p.openVisit(lawn.site)
		p.sees(".hand-check .check")
		p.clickText("Arrive")
		taps, typed := p.inOneHand(lawn.shows)
		taps += 2 // opening the visit, and the arrival
		t.Logf("%s: %d taps, %d figures", lawn.site, taps, typed)
		require.True(t, eval[bool](p, handOver), "it comes to an end")
		require.Equal(t, lawn.cause, eval[string](p, `document.querySelector('.strip-cause').dataset.cause`), lawn.site)
		require.True(t, eval[bool](p, `/^[^%]+ per cent/.test(document.querySelector('[data-heard]').textContent)`), "a screen reader hears it")
		require.LessOrEqual(t, taps, 30)
		require.LessOrEqual(t, typed, 5)
		require.False(t, eval[bool](p, `!!document.querySelector('[data-hand-next], [data-hand-skip]')`), "nothing is asked after it")
	}
}
