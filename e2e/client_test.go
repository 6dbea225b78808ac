package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// The office makes a link; the client opens it on a phone without an account, and no longer once it is withdrawn.
func TestAClientReadsTheirPage(t *testing.T) {
	server, _ := start(t)
	office := open(t, server)
	office.signIn("office")
	address := office.linkTo("Stonecrop")
	require.Contains(t, address, "/for/")

	client := open(t, server)
	client.do("size", chromedp.EmulateViewport(390, 844))
	client.do("opens the link", chromedp.Navigate(address))
	client.until("it tells of the lawn", `document.querySelector('.lawn h2')?.innerText === 'Spring dead spot'`)
	client.until("both pictures are there", `[...document.querySelectorAll('.lawn-pictures img')].filter((i) => i.naturalWidth > 0).length === 2`)
	require.True(t, eval[bool](client, `document.documentElement.scrollWidth <= innerWidth`), "nothing lies beside the screen")
	text := eval[string](client, `document.body.innerText`)
	for _, inner := range []string{"Calendar", "Whitlock", "Sign out", "Ledger"} {
		require.NotContains(t, text, inner)
	}
	require.Empty(t, client.axe(`'wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice', 'wcag2aaa'`))
	client.clickText("Show °F and inches")
	client.sees("[data-units=us]")

	office.clickText("Withdraw")
	office.until("withdrawn", `document.querySelector('.link-list').innerText.includes('Withdrawn')`)
	client.do("opens it again", chromedp.Navigate(address))
	client.until("closed", `document.querySelector('h1')?.innerText === 'This page is closed'`)
	require.False(t, strings.Contains(eval[string](client, `document.body.innerText`), "Stonecrop"))
}
