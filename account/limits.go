package account

import (
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
)

// Guessing is slowed down three ways, and only by tries that fail. A device on which the account has signed in before has a measure of
// its own; everybody else shares one for the account and one for their network. So a stranger who guesses, from one address or from
// many, slows down strangers: the person at their own device signs in as always.
type limits struct {
	mu sync.Mutex
	by *lru.Cache[string, *measure]
}

const remembered = 50_000 // the measures longest unused are forgotten first

// measure holds some tries and wins one back after each pause.
type measure struct {
	left float64
	at   time.Time
	size float64
	each time.Duration
}

// The three measures. Judgement: a person mistypes a few times, an office behind one address has several people.
const (
	accountTries, accountPause = 10, 30 * time.Second
	networkTries, networkPause = 30, 6 * time.Second
	deviceTries, devicePause   = 10, 10 * time.Second
)

func (m *measure) fill(now time.Time) {
	if passed := now.Sub(m.at); passed > 0 {
		m.left = min(m.size, m.left+float64(passed)/float64(m.each))
	}
	m.at = now
}

func (l *limits) of(key string, size float64, each time.Duration, now time.Time) *measure {
	if l.by == nil {
		l.by, _ = lru.New[string, *measure](remembered) // fails for a size below one only
	}
	m, ok := l.by.Get(key)
	if !ok {
		m = &measure{left: size, at: now, size: size, each: each}
		l.by.Add(key, m)
	}
	m.fill(now)
	return m
}

func (l *limits) measures(email string, from From, known bool, now time.Time) []*measure {
	if known {
		return []*measure{l.of("device "+email+" "+from.Device, deviceTries, devicePause, now)}
	}
	return []*measure{l.of("account "+email, accountTries, accountPause, now), l.of("network "+from.Network, networkTries, networkPause, now)}
}

// take counts a try before it is weighed, so that many at once cannot slip through; wait says how long when there is none left.
func (l *limits) take(email string, from From, known bool, now time.Time) (wait time.Duration) {
	l.mu.Lock()
	defer l.mu.Unlock()
	all := l.measures(email, from, known, now)
	for _, m := range all {
		if m.left < 1 {
			wait = max(wait, time.Duration((1-m.left)*float64(m.each)))
		}
	}
	if wait > 0 {
		return wait
	}
	for _, m := range all {
		m.left--
	}
	return 0
}

// giveBack is called when the try was right.
func (l *limits) giveBack(email string, from From, known bool, now time.Time) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for _, m := range l.measures(email, from, known, now) {
		m.left = min(m.size, m.left+1)
	}
}
