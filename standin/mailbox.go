package standin

import (
	"context"
	"slices"
	"sync"

	"hodos/account"
)

// Mailbox takes letters in place of a mail server: they go nowhere and can be read here. It keeps the last fifty.
type Mailbox struct {
	mu      sync.Mutex
	letters []account.Letter
}

const keptLetters = 50

// Send puts a letter in.
func (m *Mailbox) Send(_ context.Context, to, subject, text string) error {
	m.mu.Lock()
	defer m.mu.Unlock()
	m.letters = append(m.letters, account.Letter{To: to, Subject: subject, Text: text})
	if len(m.letters) > keptLetters {
		m.letters = slices.Clone(m.letters[len(m.letters)-keptLetters:])
	}
	return nil
}

// Letters gives what is kept, the newest first.
func (m *Mailbox) Letters() []account.Letter {
	m.mu.Lock()
	defer m.mu.Unlock()
	out := slices.Clone(m.letters)
	slices.Reverse(out)
	if out == nil {
		out = []account.Letter{}
	}
	return out
}
