package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"hodos/internal/testdb"
)

func program(t *testing.T) string {
	t.Helper()
	bin := filepath.Join(t.TempDir(), "hodos")
	out, err := exec.Command("go", "build", "-o", bin, "hodos/cmd/hodos").CombinedOutput()
	require.NoError(t, err, "%s", out)
	return bin
}

const allSaved = `document.querySelector('.saved')?.dataset.state === 'saved'`

func scale(cause string) string {
	return `Number(document.querySelector('[data-cause=` + cause + `] .scale-p')?.dataset.p ?? 0)`
}

// TestFromArrivalToRecovery is the product in one sentence, by tap.
func TestFromArrivalToRecovery(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.has("Due today")
	require.GreaterOrEqual(t, eval[int](p, `document.querySelectorAll('.due a').length`), 6)
	p.until("open Bracken Walk", `(() => { const a = [...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Bracken')); a?.click(); return !!a })()`)
	p.sees(".scale-row")
	p.clickText("Arrive")
	p.has("since")

	first := eval[float64](p, scale("nitrogen-deficiency"))
	pick := func(finding, value string) { p.click(`[data-finding=` + finding + `] [data-value="` + value + `"]`) }
	pick("onset-speed", "gradual")
	pick("growth-rate", "slow")
	p.types(`[data-finding=last-nitrogen-days] .number-field`, "240")
	p.keys(enter)
	p.click(`[data-station=walk]`)
	p.click(".lawn-map svg")
	pick("pattern", "uniform")
	pick("colour", "yellow")
	p.until("saved", allSaved)
	p.until("the scales move", scale("nitrogen-deficiency")+fmt.Sprintf(" > %v", first*2))
	p.sees(".rail-ghost, .scale-step[data-up=true]")
	p.until("a screen reader hears them, and of all that stands beside the checks nothing else", `(() => {
		const live = document.querySelectorAll('.beside[aria-live], .beside [aria-live], .beside [role=status]')
		return live.length === 1 && live[0].matches('[data-heard]') && live[0].textContent.includes(' per cent') })()`)

	// the next check is named, with what it would do, and leads there
	next := eval[string](p, `document.querySelector('.next-check').dataset.next`)
	p.click(".next-check")
	p.sees(`[data-finding=` + next + `][data-active=true]`)
	p.click(`[data-station=blade]`)
	pick("leaf-symptoms", "older-leaves-yellow")
	pick("leaf-symptoms", "uniform-yellow")
	p.click(`[data-station=pull]`)
	pick("pull-test", "resists")
	p.until("saved", allSaved)
	p.until("it leads", scale("nitrogen-deficiency")+" > 0.7")

	// two ledgers side by side, each adding up
	p.click(`[data-cause=nitrogen-deficiency]`)
	p.until("second cause", `(() => { const b = document.querySelectorAll('.scale-row')[1]; b.click(); return true })()`)
	p.until("two ledgers", `document.querySelectorAll('.ledger tfoot').length === 2`)
	p.until("each adds up", `[...document.querySelectorAll('.ledger:has(tfoot)')].every((l) => { const n = [...l.querySelectorAll('tbody td[data-bits]')].reduce((s, c) => s + Number(c.dataset.bits), 0); return Math.abs(n - Number(l.querySelector('tfoot .num').innerText.replace('−', '-'))) < 0.11 })`)
	p.keys("\x1b")

	p.clickText("Plan")
	p.sees(`[data-part=do-now] [data-action=apply-nitrogen]`)
	p.sees(`[data-part=avoid]`)
	p.clickText("Save this diagnosis")
	p.has("saved on 24 Aug 2026")
	p.click(`[data-record=apply-nitrogen]`)

	// 2.4 g N/m² from a 20 % bag on 130 m² takes 1.56 kg
	p.sees(`select[aria-label="Product on the shelf"]`)
	p.until("a bag that is not on the shelf", `(() => { const s = document.querySelector('select[aria-label="Product on the shelf"]'); const set = Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set; set.call(s, 'other'); s.dispatchEvent(new Event('change', { bubbles: true })); return s.value === 'other' })()`)
	p.types(`input[aria-label="Nitrogen wanted"]`, "2.4")
	p.types(`input[aria-label="N on the bag"]`, "20")
	p.has("1.56 kg")
	p.has("Local bans")
	p.types(`input[aria-label="Product"]`, "Evenfeed 20-0-0 (demo)")
	p.clickText("Sign and record")
	p.has("The follow-up is booked for")
	p.has("Sat 5 Sep 2026")

	// a record is never changed: a correction is a new one that names the old
	p.clickText("Correct")
	p.has("Correction of an earlier record")
	p.types(`input[aria-label="Product"]`, "Evenfeed 20-0-0 (demo), lot 7")
	p.clickText("Sign and record")
	p.has("corrects an earlier entry")
	p.has("corrected since")
	p.clickText("Measure the baseline")
	p.types(`input[aria-label="Green cover"]`, "62")
	p.types(`input[aria-label="Crowns alive"]`, "95")
	p.clickText("Save measurement")
	p.sees(".course")
	p.has("Not measured yet")
	p.clickText("Leave")
	p.has("closed")

	// the zone as a file, weighed by the program on the command line: the same answer
	where := eval[string](p, `location.pathname`)
	parts := strings.Split(where, "/")
	fetched := fetchText(p, fmt.Sprintf("/api/v1/visits/%s/zones/%s/case", parts[2], parts[3]))
	file := filepath.Join(t.TempDir(), "case.json")
	require.NoError(t, os.WriteFile(file, []byte(fetched), 0o600))
	out, err := exec.Command(program(t), "diagnose", file, "--json").Output()
	require.NoError(t, err)
	var offline struct {
		Causes []struct {
			ID          string
			Probability float64
		}
	}
	require.NoError(t, json.Unmarshal(out, &offline))
	p.visit(fmt.Sprintf("/visits/%s/%s", parts[2], parts[3]))
	p.sees(".scale-row")
	require.Equal(t, offline.Causes[0].ID, "nitrogen-deficiency")
	require.Equal(t, offline.Causes[0].Probability, eval[float64](p, scale("nitrogen-deficiency")))

	// the clock moves on, the look comes due, the lawn is on course
	p.visit("/")
	p.clickText("+ 1 week")
	p.until("a week on", `document.querySelector('time')?.dataset.today === '2026-08-31' && !document.querySelector('.ant-btn-loading')`)
	p.clickText("+ 1 week")
	p.until("two weeks on", `document.querySelector('time')?.dataset.today === '2026-09-07' && !document.querySelector('.ant-btn-loading')`)
	p.until("open the look", `(() => { const a = [...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Bracken') && a.innerText.includes('follow-up')); a?.click(); return !!a })()`)
	p.sees(".course")
	p.clickText("Arrive")
	p.has("since")
	p.types(`input[aria-label="Green cover"]`, "78")
	p.clickText("Save measurement")
	p.until("a verdict", `['on-course', 'slow', 'recovered'].includes(document.querySelector('.course-verdict')?.dataset.verdict)`)
	p.has("78 % on day 14")
	require.Empty(t, p.strangers(), "the page asks no other host for anything")
}

// fetchText fetches with the page's own session.
func fetchText(p *page, path string) string {
	p.t.Helper()
	p.until("fetch "+path, fmt.Sprintf(`(() => { if (window.__text) return true; fetch(%q).then((r) => r.text()).then((t) => { window.__text = t }); return false })()`, path))
	return eval[string](p, `(() => { const t = window.__text; delete window.__text; return t })()`)
}

// tabTo moves the focus with the tab key until it is on what is meant.
func (p *page) tabTo(what, js string) {
	p.t.Helper()
	for range 220 {
		p.keys(tab)
		if eval[bool](p, `(() => { const e = document.activeElement; return !!(e && (`+js+`)) })()`) {
			return
		}
	}
	p.fail("reach with the tab key: "+what, fmt.Errorf("not within 220 steps"))
}

func (p *page) typeKeys(text string) {
	p.t.Helper()
	p.do("type "+text, chromedp.KeyEvent(text))
}

// TestByKeyboardAlone walks Day, Visit, Plan, Record and Recovery without a pointer.
func TestByKeyboardAlone(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.visit("/sign-in")
	p.sees("[data-demo=technician]")
	p.tabTo("the technician", `e.dataset.demo === 'technician'`)
	p.keys(enter)
	p.sees(".due")
	p.tabTo("the visit", `e.tagName === 'A' && e.innerText.includes('Sallow')`)
	p.keys(enter)
	p.sees(".scale-row")
	p.tabTo("arrive", `e.innerText.trim() === 'Arrive'`)
	p.keys(enter)
	p.has("since")
	p.sees(".check[data-active=true] kbd")

	// ask: j down to the neighbours, 3 for many; ] to the walk; 1 for uniform
	p.until("keys lead", `document.querySelector('.check[data-active=true]').dataset.finding === 'establishment'`)
	p.keys("5")
	p.until("moved on", `document.querySelector('.check[data-active=true]').dataset.finding === 'neighbours-affected'`)
	p.keys("3")
	p.until("many", `document.querySelector('[data-finding=neighbours-affected] [data-value=many]').getAttribute('aria-pressed') === 'true'`)
	p.keys("]")
	p.until("at the walk", `document.querySelector('[data-station=walk]').getAttribute('aria-current') === 'step'`)
	p.keys("1", "j", "5")
	p.until("uniform and straw", `document.querySelector('[data-finding=pattern] [data-value=uniform]').getAttribute('aria-pressed') === 'true' && document.querySelector('[data-finding=colour] [data-value=straw-tan]').getAttribute('aria-pressed') === 'true'`)
	p.keys("0")
	p.until("taken back", `document.querySelector('[data-finding=colour] [data-value=straw-tan]').getAttribute('aria-pressed') === 'false'`)
	p.keys("5", "]")
	p.until("at the blade", `document.querySelector('[data-station=blade]').getAttribute('aria-current') === 'step'`)
	for range 5 {
		p.keys("j")
	}
	p.until("crown slice", `document.querySelector('.check[data-active=true]').dataset.finding === 'crown-slice'`)
	p.keys("1", "1", "j", "j")
	p.keys("[", "]", "]")
	p.until("at the soil", `document.querySelector('[data-station=soil]').getAttribute('aria-current') === 'step'`)
	p.keys("1")
	p.until("saved", allSaved)
	p.until("it rests", scale("summer-dormancy")+" > 0.5")
	p.keys("l")
	p.sees(".ledger")
	p.keys("\x1b")
	p.keys("n")
	p.until("the next check is in hand", `document.querySelector('.check[data-active=true]')?.dataset.finding === document.querySelector('.next-check')?.dataset.next || !document.querySelector('.next-check')`)
	p.keys("p")
	p.sees("[data-part=do-now]")
	p.tabTo("give", `e.innerText.trim() === 'Save this diagnosis'`)
	p.keys(enter)
	p.has("saved on")
	p.tabTo("record", `e.dataset.record === 'let-dormant'`)
	p.keys(enter)
	p.sees(".record-page form")
	p.tabTo("note", `e.getAttribute('aria-label') === 'Note'`)
	p.typeKeys("Told the client to keep off")
	p.tabTo("sign", `e.innerText.trim() === 'Sign and record'`)
	p.keys(enter)
	p.has("The follow-up is booked for")
	p.tabTo("baseline", `e.innerText.trim() === 'Measure the baseline'`)
	p.keys(enter)
	p.sees(".measure")
	p.tabTo("cover", `e.getAttribute('aria-label') === 'Green cover'`)
	p.typeKeys("15")
	p.tabTo("crowns", `e.getAttribute('aria-label') === 'Crowns alive'`)
	p.typeKeys("94")
	p.tabTo("save", `e.innerText.trim() === 'Save measurement'`)
	p.keys(enter)
	p.sees(".course")
}

// TestNothingSavedIsLost kills the server in mid-visit with SIGKILL: every answer that was shown as saved is there after.
func TestNothingSavedIsLost(t *testing.T) {
	bin := program(t)
	owner, app := testdb.New(t)
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	listen := l.Addr().String()
	require.NoError(t, l.Close())
	run := func() *exec.Cmd {
		cmd := exec.Command(bin, "demo", "--listen", listen)
		cmd.Env = append(os.Environ(), "HODOS_OWNER_DATABASE_URL="+owner, "HODOS_DATABASE_URL="+app)
		log := filepath.Join(t.TempDir(), "log")
		said, err := os.Create(log)
		require.NoError(t, err)
		defer said.Close()
		cmd.Stdout, cmd.Stderr = said, said
		require.NoError(t, cmd.Start())
		deadline := time.Now().Add(30 * time.Second)
		for {
			ctx, cancel := context.WithTimeout(context.Background(), time.Second)
			req, _ := http.NewRequestWithContext(ctx, "GET", "http://"+listen+"/readyz", nil)
			res, err := http.DefaultClient.Do(req)
			cancel()
			if err == nil {
				_ = res.Body.Close()
				if res.StatusCode == 200 {
					return cmd
				}
			}
			if time.Now().After(deadline) {
				text, _ := os.ReadFile(log)
				t.Fatalf("the server did not come up: %s", text)
			}
			time.Sleep(50 * time.Millisecond)
		}
	}
	cmd := run()
	p := open(t, "http://"+listen)
	p.signIn("technician")
	p.until("open a visit", `(() => { const a = [...document.querySelectorAll('.due a')].find((a) => a.innerText.includes('Quill')); a?.click(); return !!a })()`)
	p.sees(".scale-row")
	p.click(`[data-finding=onset-speed] [data-value=weeks]`)
	p.click(`[data-finding=neighbours-affected] [data-value=few]`)
	p.until("saved", allSaved+` && document.querySelector('[data-finding=neighbours-affected] .check-state').innerText.startsWith('saved')`)
	require.NoError(t, cmd.Process.Signal(syscall.SIGKILL))
	_ = cmd.Wait()

	// while the server is away a tap stays on the device and says so
	p.click(`[data-finding=dog-on-lawn] [data-value=no]`)
	p.has("kept on this device")
	p.until("the check says where it is", `document.querySelector('[data-finding=dog-on-lawn] .check-state').innerText === 'saved on this device'`)

	cmd = run()
	t.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	p.until("what waited has gone out", allSaved)
	p.do("reload", chromedp.Reload())
	for _, pick := range []string{"onset-speed] [data-value=weeks", "neighbours-affected] [data-value=few", "dog-on-lawn] [data-value=no"} {
		p.until("still there: "+pick, `document.querySelector('[data-finding=`+pick+`]')?.getAttribute('aria-pressed') === 'true'`)
	}
}
