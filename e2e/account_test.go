package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/require"
)

// TestAccountsAreOnesOwn takes a new hand from the owner's link to signing in with a second factor, and the owner to the log of it.
func TestAccountsAreOnesOwn(t *testing.T) {
	address, _ := start(t)
	p := open(t, address)
	p.signIn("owner")
	p.visit("/firm")
	p.sees(".matrix")
	p.clickText("Add somebody")
	p.field("Name", "Bo Tranter")
	p.field("Email", "bo@averley.example")
	p.clickText("Save")
	p.clickText("Send a password link")
	p.has("Sent to bo@averley.example.")

	p.visit("/sign-in")
	p.until("open the link in the letter", `(() => { const a = document.querySelector('.sign-in-letters a'); a?.click(); return !!a })()`)
	p.has("you sign in as bo@averley.example")
	p.field("New password", "password123")
	p.clickText("Set the password")
	p.has("is too easy to guess")
	p.field("New password", "gorse quarry lantern")
	p.clickText("Set the password")
	p.has("Your password is set.")
	again := eval[string](p, `location.pathname`)
	p.clickText("Sign in")
	signIn := func() {
		p.types(`input[type=email]`, "bo@averley.example")
		p.types(`input[type=password]`, "gorse quarry lantern")
		p.until("sign in", `(() => { const b = document.querySelector('.sign-in-do form button[type=submit]'); b?.click(); return !!b })()`)
	}
	signIn()
	p.sees(".day")

	p.visit("/account")
	p.sees(".sessions")
	p.clickText("Set it up")
	p.sees(".enrol img")
	secret := strings.ReplaceAll(eval[string](p, `document.querySelector('.enrol code').innerText`), " ", "")
	code, err := totp.GenerateCode(secret, time.Now())
	require.NoError(t, err)
	p.field("Code", code)
	p.clickText("Turn it on")
	p.has("Keep these recovery codes somewhere safe.")
	spare := eval[string](p, `document.querySelector('.spare code').innerText`)
	p.clickText("I have kept them")
	p.has("signing in asks for a code")

	p.visit("/sign-in")
	signIn()
	p.has("Code from your authenticator app, or a recovery code")
	p.types(`input[autocomplete=one-time-code]`, spare)
	p.until("sign in", `(() => { const b = document.querySelector('.sign-in-do form button[type=submit]'); b?.click(); return !!b })()`)
	p.sees(".day")
	p.visit(again)
	p.has("the link has been used or has run out")

	p.signIn("owner")
	p.visit("/firm/log")
	p.sees(".log tbody tr")
	for _, line := range []string{"Recovery code used", "Second factor turned on", "Password set by link", "Password link sent", "Person added"} {
		p.has(line)
	}
	require.NotContains(t, eval[string](p, `document.body.innerText`), secret)
}
