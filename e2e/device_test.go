package e2e

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/demo"
	"hodos/store"
)

const (
	// in another tab, as far as the page can tell: the session ends, or becomes another person's
	endSession = `fetch('/api/v1/me').then((r) => r.json()).then((me) => fetch('/api/v1/sign-out', { method: 'POST', headers: { 'X-Hodos-Csrf': me.csrf } })).then(() => { window.__ended = true }), true`
	another    = `fetch('/api/v1/sign-in/demo', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ role: 'applicator' }) }).then(() => { window.__other = true }), true`
)

func (p *page) openVisit(site string) {
	p.t.Helper()
	p.until("open the visit", `(() => { const a = [...document.querySelectorAll('.due a')].find((a) => a.innerText.includes(`+quoted(site)+`)); a?.click(); return !!a })()`)
	p.sees(".scale-row, .strip-cause")
}

// TestTheDeviceKeepsWhatItWasGiven follows taps through a session that ends and through another person's on the same device.
func TestTheDeviceKeepsWhatItWasGiven(t *testing.T) {
	address, s := start(t)
	p := open(t, address)
	p.signIn("technician")
	p.openVisit("Quill")
	by := func(finding string) []string {
		var out []string
		require.NoError(t, s.InFirm(context.Background(), demo.Firm, func(tx *gorm.DB) error {
			return tx.Model(&store.Answer{}).Joins("JOIN people ON people.id = answers.person_id").Where("answers.finding = ?", finding).
				Where("answers.visit_id = ?", eval[string](p, `location.pathname.split('/')[2]`)).Pluck("people.name", &out).Error
		}))
		return out
	}
	state := func(finding string) string {
		return `document.querySelector('[data-finding=` + finding + `] .check-state').innerText`
	}

	eval[bool](p, endSession)
	p.until("the session has ended", `window.__ended`)
	p.click(`[data-finding=onset-speed] [data-value=weeks]`)
	p.has("You are signed out. 1 answer kept on this device")
	p.until("the check says where it is", state("onset-speed")+` === 'saved on this device'`)
	p.clickText("Tam Whitlock")
	p.has("1 answer not sent yet.")

	// somebody else signs in on the same device: nothing of Tam's goes out in their name
	path := eval[string](p, `location.pathname`)
	p.visit("/sign-in")
	p.click(`[data-demo=applicator]`)
	p.sees(".day .due")
	p.visit(path)
	p.sees(".scale-row")
	p.click(`[data-finding=neighbours-affected] [data-value=few]`)
	p.until("saved", allSaved)
	require.Equal(t, []string{"Rufus Adeyo"}, by("neighbours-affected"))
	require.Empty(t, by("onset-speed"))

	p.visit("/sign-in")
	p.click(`[data-demo=technician]`)
	p.sees(".day .due")
	p.until("sent on the next sign-in", allSaved)
	p.visit(path)
	p.until("it is there", `document.querySelector('[data-finding=onset-speed] [data-value=weeks]')?.getAttribute('aria-pressed') === 'true'`)
	require.Equal(t, []string{"Tam Whitlock"}, by("onset-speed"))

	// a session that becomes another's under an open page
	eval[bool](p, another)
	p.until("another has signed in", `window.__other`)
	p.click(`[data-finding=dog-on-lawn] [data-value=no]`)
	p.has("Somebody else has signed in on this device.")
	require.Empty(t, by("dog-on-lawn"))
	p.visit("/sign-in")
	p.click(`[data-demo=technician]`)
	p.sees(".day .due")
	p.visit(path)
	p.until("it is there", `document.querySelector('[data-finding=dog-on-lawn] [data-value=no]')?.getAttribute('aria-pressed') === 'true'`)
	p.until("saved", allSaved)
	require.Equal(t, []string{"Tam Whitlock"}, by("dog-on-lawn"))
}
