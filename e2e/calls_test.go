package e2e

import (
	"os"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"hodos/demo"
	"hodos/exchange/photofile"
)

// linkTo makes a link of a site's page, in the office, and gives its address.
func (p *page) linkTo(site string) string {
	p.t.Helper()
	p.openSite(site)
	p.clickText("Client’s page")
	p.clickText("Make a link")
	p.sees(".link-made input")
	return eval[string](p, `document.querySelector('.link-made input').value`)
}

// A client tells what they see and sends a picture; the office sees how soon somebody has to come and books it; on the visit the answers
// lie ready to be confirmed.
func TestAClientTellsBeforeTheVisit(t *testing.T) {
	server, _ := start(t)
	office := open(t, server)
	office.signIn("office")
	address := office.linkTo("Larkspur")

	client := open(t, server)
	client.do("size", chromedp.EmulateViewport(390, 844))
	client.do("opens the link", chromedp.Navigate(address))
	client.clickText("Tell us what you see")
	client.sees("[data-asked=onset-speed]")
	require.True(t, eval[bool](client, `[...document.querySelectorAll('button')].find((b) => b.innerText === 'Send').disabled`),
		"nothing is told yet")
	client.clickText("Back lawn")
	client.clickText("Overnight")
	client.clickText("Turf is rolled or peeled back")
	client.clickText("Patches without a clear shape")
	client.clickText("Brown")
	client.clickText("Straw-coloured")
	client.clickText("Straw-coloured") // taken back
	client.types("textarea", "Skunks were at it in the night.")
	jpeg, err := photofile.JPEG(demo.Draw(demo.Drawing{Cover: .3, Patchy: .7, Seed: 9}).Image)
	require.NoError(t, err)
	client.hands(".add-shot input", jpeg, "lawn.jpg", "image/jpeg")
	client.until("its picture", `document.querySelector('.shots img')?.naturalWidth > 0`)
	client.hands(".add-shot input", []byte("GIF89a"), "lawn.gif", "image/gif")
	client.has("Only JPEG and PNG pictures can be read")
	require.True(t, eval[bool](client, `document.documentElement.scrollWidth <= innerWidth`), "nothing lies beside the screen")
	require.Empty(t, client.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice', 'wcag2aaa'`))
	if dir := os.Getenv("HODOS_LOOK_AT_CALLS"); dir != "" {
		client.shot(dir + "/tell.png")
	}
	client.clickText("Send")
	client.has("Thank you. We have it.")
	client.has("put nothing on it")

	office.visit("/")
	office.until("it stands on the day",
		`document.querySelector('[aria-label="From clients"]')?.innerText.includes('41 Larkspur Drive, Back lawn')`)
	office.until("its page", `(() => { const a = [...document.querySelectorAll('[data-call]')].find((a) => 
		a.innerText.includes('Larkspur')); a.click(); return true })()`)
	office.has("Skunks were at it in the night.")
	office.has("Turf is rolled or peeled back")
	office.has("This is no diagnosis.")
	office.until("the picture", `document.querySelector('.call-pictures img')?.naturalWidth > 0`)
	require.Empty(t, office.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'`))
	office.clickText("Book the visit")
	office.has("Booked for")

	tech := open(t, server)
	tech.signIn("technician")
	tech.do("the visit", chromedp.Navigate(server+eval[string](office, `document.querySelector('[aria-label=Visit] a').getAttribute('href')`)))
	tech.has("Take over what the client says")
	tech.until("an offer names the client", `document.body.innerText.includes('The client says')`)
	tech.click("[data-take=client]")
	tech.until("taken over", `!document.querySelector('[data-take=client]')`)
}
