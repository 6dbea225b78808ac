package account

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/trustelem/zxcvbn"
	"golang.org/x/crypto/argon2"
)

// Passwords are kept as argon2id with 19 MiB and two passes (OWASP's minimum, about 50 ms); few run at once, so that a
// flood of sign-ins cannot take all memory. What was used stands in the stored text, so that the figures can be raised.
const (
	argonKiB    = 19456
	argonPasses = 2
)

var hashing = make(chan struct{}, 2)

// Lengths of a password in characters.
const (
	MinPassword = 10
	MaxPassword = 200
)

// guesses a password must withstand: what an attacker tries first, words, names, dates and keyboard walks among it, is counted.
// Judgement: with thirty seconds a try per account (limits.go) a million tries take a year.
const guesses = 1e6

// Check says whether a password may be used. about are words that anybody would try for this person: name, address, firm.
func Check(password string, about ...string) error {
	switch n := utf8.RuneCountInString(password); {
	case n < MinPassword:
		return Weak{fmt.Sprintf("is too short: use at least %d characters", MinPassword)}
	case n > MaxPassword:
		return Weak{fmt.Sprintf("is too long: use at most %d characters", MaxPassword)}
	}
	var words []string
	for _, a := range about {
		local, _, _ := strings.Cut(a, "@")
		words = append(words, a, local)
		words = append(words, strings.FieldsFunc(a, func(r rune) bool { return r == '@' || r == '.' || r == ' ' || r == '-' })...)
	}
	if strings.TrimSpace(password) == "" || zxcvbn.PasswordStrength(password, words).Guesses < guesses {
		return Weak{"is too easy to guess: take several words that do not belong together"}
	}
	return nil
}

// Hash makes the string that is stored for a password.
func Hash(password string) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt) // never fails on supported systems
	enc := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf(
		"$argon2id$v=19$m=%d,t=%d,p=1$%s$%s",
		argonKiB,
		argonPasses,
		enc(salt),
		enc(derive(password, salt, argonKiB, argonPasses)),
	)
}

func derive(password string, salt []byte, kib, passes uint32) []byte {
	hashing <- struct{}{}
	defer func() { <-hashing }()
	return argon2.IDKey([]byte(password), salt, passes, kib, 1, 32)
}

// Matches weighs a password against what is stored, with the figures that stand there.
func Matches(password, stored string) bool {
	parts := strings.Split(stored, "$")
	salt, want := []byte("no such person....."), []byte(nil)
	kib, passes := uint32(argonKiB), uint32(argonPasses)
	if len(parts) == 6 {
		var k, p uint32
		if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=1", &k, &p); err == nil && k > 0 && k <= 1<<20 && p > 0 && p < 20 {
			kib, passes = k, p
		}
		salt, _ = base64.RawStdEncoding.DecodeString(parts[4])
		want, _ = base64.RawStdEncoding.DecodeString(parts[5])
	}
	// the work is done even for an unknown person, so that the time tells nothing
	got := derive(password, salt, kib, passes)
	return len(want) > 0 && subtle.ConstantTimeCompare(got, want) == 1
}
