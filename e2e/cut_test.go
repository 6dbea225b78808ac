package e2e

import (
	"io"
	"net"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// line is the network between a device and the server: it can be cut, and mended, under the same address.
type line struct {
	t       *testing.T
	address string
	to      string
	mu      sync.Mutex
	listens net.Listener
	open    map[net.Conn]bool
}

func lay(t *testing.T, server string) *line {
	l := &line{t: t, address: "127.0.0.1:0", to: strings.TrimPrefix(server, "http://"), open: map[net.Conn]bool{}}
	l.mend()
	t.Cleanup(l.cut)
	return l
}

func (l *line) mend() {
	l.t.Helper()
	in, err := net.Listen("tcp", l.address)
	require.NoError(l.t, err)
	l.mu.Lock()
	l.listens, l.address = in, in.Addr().String()
	l.mu.Unlock()
	go func() {
		for {
			from, err := in.Accept()
			if err != nil {
				return
			}
			to, err := net.Dial("tcp", l.to)
			if err != nil {
				_ = from.Close()
				continue
			}
			l.mu.Lock()
			l.open[from], l.open[to] = true, true
			l.mu.Unlock()
			for _, pair := range [][2]net.Conn{{from, to}, {to, from}} {
				go func() {
					_, _ = io.Copy(pair[0], pair[1])
					_ = pair[0].Close()
				}()
			}
		}
	}()
}

func (l *line) cut() {
	l.mu.Lock()
	defer l.mu.Unlock()
	_ = l.listens.Close()
	for c := range l.open {
		_ = c.Close()
	}
	l.open = map[net.Conn]bool{}
}

// fetchedAhead waits until the visits of the day lie on the device: that is many requests, which a busy machine takes its time for.
func (p *page) fetchedAhead() {
	p.t.Helper()
	for range 600 {
		if eval[bool](p, `!!document.querySelector('[data-on-device=all]')`) {
			return
		}
		time.Sleep(200 * time.Millisecond)
	}
	p.sees("[data-on-device=all]")
}

const leads = `document.querySelector('.strip-cause').dataset.cause`

// A visit of the day goes on whole without a connection: the page opens, the scales move with each answer as they would on the server, and
// what was answered goes out when the connection is back.
func TestAVisitWithoutReception(t *testing.T) {
	server, _ := start(t)
	net := lay(t, server)
	p := open(t, "http://"+net.address)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("technician")
	p.fetchedAhead()
	p.until("its files are kept", `navigator.serviceWorker.controller !== null`)
	day := eval[string](p, `location.href`)
	p.openVisit("Quill")
	visit := eval[string](p, `location.pathname`)
	before := eval[string](p, `document.querySelector('.strip').innerText`)
	p.visit("/")
	p.fetchedAhead()

	net.cut()
	p.do("open anew", chromedp.Navigate(day))
	p.sees("[data-visit]")
	p.openVisit("Quill")
	require.Equal(t, before, eval[string](p, `document.querySelector('.strip').innerText`))
	p.clickText("Arrive")
	p.until("the arrival is kept", `document.querySelector('.times').innerText.includes('Leave') && localStorage['hodos-moments'].includes('arrive')`)
	p.do("to the count", chromedp.Navigate(day+strings.TrimPrefix(visit, "/")+"?check=grubs-per-m2"))
	p.types(".hand-check .number-field", "96")
	p.keys(enter)
	p.until("the scales move", leads+` === 'white-grubs' && Number(document.querySelector('.strip-cause b').textContent) > 80`)
	require.Equal(t, "here", eval[string](p, `document.querySelector('.check').dataset.state`))
	p.do("closed and opened again", chromedp.Navigate(day+strings.TrimPrefix(visit, "/")+"?check=pull-test"))
	p.until("weighed anew", `Number(document.querySelector('.strip-cause b')?.textContent) > 80`)
	counted := eval[string](p, `document.querySelector('.strip').innerText`)
	p.click(`[data-value=lifts-like-carpet]`)
	p.until("kept", `document.querySelector('.check').dataset.state === 'here'`)
	p.until("weighed", "document.querySelector('.strip').innerText !== `"+counted+"`")
	offline := eval[string](p, `document.querySelector('.strip').innerText`)
	zone := eval[string](p, `performance.getEntriesByType('resource').map((e) => e.name.match(/zones\/([^/]+)\/scales/)?.[1]).find(Boolean)`)
	p.do("the plan", chromedp.Navigate(day+strings.TrimPrefix(visit, "/")+"/"+zone+"/plan"))
	p.sees("[data-action=insecticide-curative]")
	p.do("back", chromedp.Navigate(day+strings.TrimPrefix(visit, "/")+"?check=pull-test"))
	p.until("weighed once more", "document.querySelector('.strip')?.innerText === `"+offline+"`")

	// a count and a drawing are read here, as the server would read them
	p.do("the day", chromedp.Navigate(day))
	p.sees("[data-visit]")
	p.openVisit("Sallow")
	sallow := day + strings.TrimPrefix(eval[string](p, `location.pathname`), "/")
	p.do("to the crowns", chromedp.Navigate(sallow+"?check=crowns-alive-percent"))
	p.click("[data-count-open]")
	p.press(".count-press:nth-of-type(1) .count-more", 12)
	p.until("a count is weighed here", `document.querySelector('.count-says')?.dataset.state === 'alive'`)
	p.do("to the map", chromedp.Navigate(sallow+"?check=affected-area-percent"))
	p.sees(".lawn-map svg")
	p.drag(".lawn-map svg", [2]float64{3, 11.7}, [2]float64{6, 11.7}, [2]float64{16, 11.7})
	p.sees(`[data-proposal="pattern/along-hardscape"]`)
	p.do("back to the first", chromedp.Navigate(day+strings.TrimPrefix(visit, "/")+"?check=pull-test"))
	p.until("as it was", "document.querySelector('.strip')?.innerText === `"+offline+"`")

	net.mend()
	p.until("saved", `document.querySelector('.check').dataset.state === 'saved'`)
	p.until("the arrival is told", `localStorage['hodos-moments'] === '[]'`)
	p.do("from the server", chromedp.Navigate(day+strings.TrimPrefix(visit, "/")+"?check=grubs-per-m2"))
	p.until("the server says the same", `document.querySelector('.check')?.dataset.state === 'saved' &&
		document.querySelector('.strip').innerText === `+"`"+offline+"`")

	// whoever signs out leaves nothing of the firm on the device
	p.visit("/")
	p.clickText("Menu")
	p.clickText("Tam Whitlock")
	p.clickText("Sign out")
	p.sees("[data-demo]")
	net.cut()
	p.do("without a connection", chromedp.Navigate(day))
	p.until("nothing lies here", `document.querySelector('[role=alert]') && !document.body.innerText.includes('Quill')`)
}

// What is written on a lawn waits like the answers: a note, a measurement and a record, over a restart of the browser, until the server has them.
func TestWhatIsWrittenWithoutReception(t *testing.T) {
	server, _ := start(t)
	net := lay(t, server)
	dir := t.TempDir()
	p := openIn(t, "http://"+net.address, dir)
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.signIn("applicator")
	p.fetchedAhead()
	p.until("its files are kept", `navigator.serviceWorker.controller !== null`)
	p.openVisit("Quill")
	at := eval[string](p, `location.href.split('?')[0]`)
	zone := eval[string](p, `performance.getEntriesByType('resource')
		.map((e) => e.name.includes(location.pathname) && e.name.match(/zones\/([^/]+)\/scales/)?.[1]).find(Boolean)`)

	net.cut()
	p.do("to the measuring", chromedp.Navigate(at+"/"+zone+"/recovery"))
	p.types("[aria-label='Green cover']", "40")
	p.clickText("Save measurement")
	p.until("the measurement is kept", `document.body.innerText.includes('1 measurement kept on this device')`)
	p.do("to the record", chromedp.Navigate(at+"/"+zone+"/record"))
	p.do("chooses", chromedp.SetValue("[aria-label='What was done']", "water-deep"))
	p.clickText("Sign and record")
	p.until("the record is kept", `document.body.innerText.includes('1 measurement and 1 record kept on this device')`)
	require.NoError(t, chromedp.Cancel(p.ctx))
	p = openIn(t, "http://"+net.address, dir) // the browser is started anew, still without a connection
	p.do("size", chromedp.EmulateViewport(390, 844))
	p.do("opened again", chromedp.Navigate(at+"/"+zone+"/recovery"))
	p.until("still there", `document.body.innerText.includes('1 measurement and 1 record kept on this device')`)

	net.mend()
	p.do("with a connection", chromedp.Navigate(at+"/"+zone+"/recovery"))
	p.until("told", `!document.querySelector('[data-state=kept]') && document.querySelector('[aria-label="History of the zone"]')?.innerText
		.includes('Measured: 40 % green')`)
	require.Equal(t, 1, eval[int](p, `document.querySelector('[aria-label="History of the zone"]').innerText.split('Measured: 40').length - 1`))
	require.Contains(t, eval[string](p, `document.querySelector('[aria-label="History of the zone"]').innerText`), "Water deep")
}
