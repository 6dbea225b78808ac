package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/http"
	"net/http/cookiejar"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"hodos/store"
)

// crowd are people who answer a check of an open visit, one answer after the other, each sent until it is acknowledged, as a device does.
type crowd struct {
	house  *house
	people []*person

	mu     sync.Mutex
	acked  map[uuid.UUID]float64 // what was acknowledged, and its value
	began  time.Time
	second time.Duration // the longest that anybody waited for a reply to one request
	gap    time.Duration // the longest between two acknowledgements of the whole crowd
	last   time.Time
	codes  map[int]int
	wrong  error
}

type person struct {
	http *http.Client
	csrf string
	path string
	next float64
}

// patience is what a request is given: the server says by itself after ten seconds that it cannot.
const patience = 15 * time.Second

func gather(ctx context.Context, h *house, n int) (*crowd, error) {
	c := &crowd{house: h, acked: map[uuid.UUID]float64{}, codes: map[int]int{}}
	for i := range n {
		jar, err := cookiejar.New(nil)
		if err != nil {
			return nil, err
		}
		p := &person{http: &http.Client{Jar: jar, Timeout: patience}}
		if err := c.arrive(ctx, p, i); err != nil {
			return nil, err
		}
		c.people = append(c.people, p)
	}
	return c, nil
}

// arrive signs a person in and opens a visit of the day.
func (c *crowd) arrive(ctx context.Context, p *person, nth int) error {
	var in struct{ CSRF string }
	if code, err := c.ask(ctx, p, "POST", "/sign-in/demo", map[string]any{"role": "technician"}, &in); err != nil || code != http.StatusOK {
		return fmt.Errorf("sign in: %d %w", code, err)
	}
	p.csrf = in.CSRF
	var day struct {
		Due []struct{ Visit struct{ ID string } }
	}
	if code, err := c.ask(ctx, p, "GET", "/day", nil, &day); err != nil || code != http.StatusOK || len(day.Due) == 0 {
		return fmt.Errorf("the day: %d, %d visits: %w", code, len(day.Due), err)
	}
	visit := day.Due[nth%len(day.Due)].Visit.ID
	var detail struct {
		Site struct{ Zones []struct{ ID string } }
	}
	if code, err := c.ask(ctx, p, "GET", "/visits/"+visit, nil, &detail); err != nil || code != http.StatusOK || len(detail.Site.Zones) == 0 {
		return fmt.Errorf("the visit: %d: %w", code, err)
	}
	zones := detail.Site.Zones
	p.path = "/visits/" + visit + "/zones/" + zones[nth/len(day.Due)%len(zones)].ID + "/answers"
	return nil
}

func (c *crowd) ask(ctx context.Context, p *person, method, path string, in, out any) (code int, err error) {
	var text []byte
	if in != nil {
		if text, err = json.Marshal(in); err != nil {
			return 0, err
		}
	}
	req, err := http.NewRequestWithContext(ctx, method, "http://"+c.house.listen+"/api/v1"+path, bytes.NewReader(text))
	if err != nil {
		return 0, err
	}
	req.Header.Set("Content-Type", "application/json")
	req.Header.Set("X-Hodos-Csrf", p.csrf)
	res, err := p.http.Do(req)
	if err != nil {
		return 0, err
	}
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	if err != nil {
		return 0, err
	}
	if out != nil && res.StatusCode == http.StatusOK {
		err = json.Unmarshal(body, out)
	}
	if res.StatusCode == http.StatusServiceUnavailable && res.Header.Get("Retry-After") == "" {
		err = errors.New("503 without Retry-After")
	}
	if res.StatusCode >= 400 && res.StatusCode < 500 {
		err = fmt.Errorf("refused: %s", body)
	}
	return res.StatusCode, err
}

// during has everybody answer while something is done, and tells what it was like.
func (c *crowd) during(what string, do func() error) error {
	ctx, end := context.WithCancel(context.Background())
	c.mu.Lock()
	before := len(c.acked)
	c.began, c.last, c.second, c.gap = time.Now(), time.Now(), 0, 0
	clear(c.codes)
	c.mu.Unlock()
	var all sync.WaitGroup
	var ended atomic.Bool
	for _, p := range c.people {
		all.Go(func() {
			for !ended.Load() {
				c.answer(ctx, p)
			}
		})
	}
	err := do()
	ended.Store(true)
	hurry := time.AfterFunc(time.Minute, end) // what has not been acknowledged by then never will be
	all.Wait()
	hurry.Stop()
	end()
	c.mu.Lock()
	defer c.mu.Unlock()
	c.gap = max(c.gap, time.Since(c.last))
	fmt.Printf("%-36s %5d acknowledged in %5.1f s; longest wait for a reply %5.2f s, without any acknowledgement %5.1f s; replies %v\n", what,
		len(c.acked)-before, time.Since(c.began).Seconds(), c.second.Seconds(), c.gap.Seconds(), told(c.codes))
	return errors.Join(err, c.wrong)
}

// told are the replies by their code; 0 is none at all.
func told(codes map[int]int) string {
	out := ""
	for _, code := range slices.Sorted(maps.Keys(codes)) {
		out += fmt.Sprintf("%d×%d ", codes[code], code)
	}
	return out
}

// answer sends one answer until it is acknowledged. Whoever is refused tells it: nobody did anything wrong.
func (c *crowd) answer(ctx context.Context, p *person) {
	id := uuid.Must(uuid.NewV7())
	p.next++
	value := 1 + float64(int(p.next)%50)
	body := map[string]any{"answers": []map[string]any{{"id": id, "finding": "thatch-mm", "spot": "worst", "value": value, "base": 1 << 40}}}
	for ctx.Err() == nil {
		began := time.Now()
		code, err := c.ask(ctx, p, "POST", p.path, body, nil)
		took := time.Since(began)
		c.mu.Lock()
		c.codes[code]++
		c.second = max(c.second, took)
		if code >= 400 && code < 500 || code == http.StatusServiceUnavailable && err != nil {
			c.wrong = errors.Join(c.wrong, fmt.Errorf("%d: %w", code, err))
		}
		if code == http.StatusOK && err == nil {
			c.gap, c.last = max(c.gap, time.Since(c.last)), time.Now()
			c.acked[id] = value
		}
		done := code == http.StatusOK && err == nil || c.wrong != nil
		c.mu.Unlock()
		if done || wait(ctx, 200*time.Millisecond) != nil {
			return
		}
	}
}

// judge looks for every acknowledged answer in the database.
func (c *crowd) judge(ctx context.Context) error {
	owner, err := store.OpenOwner(c.house.owner, c.house.app)
	if err != nil {
		return err
	}
	defer owner.Close()
	rows, err := owner.QueryContext(ctx, "SELECT id, value::text::float FROM answers WHERE finding = 'thatch-mm' AND value IS NOT NULL")
	if err != nil {
		return err
	}
	defer rows.Close()
	kept := map[uuid.UUID]float64{}
	for rows.Next() {
		var id uuid.UUID
		var value float64
		if err := rows.Scan(&id, &value); err != nil {
			return err
		}
		kept[id] = value
	}
	if err := errors.Join(rows.Err(), ctx.Err()); err != nil && !errors.Is(err, pgx.ErrNoRows) {
		return err
	}
	lost := 0
	for id, value := range c.acked {
		if got, ok := kept[id]; !ok || got != value {
			lost++
		}
	}
	fmt.Printf("%d answers were acknowledged; %d of them are lost\n", len(c.acked), lost)
	if lost > 0 {
		return fmt.Errorf("%d acknowledged answers are lost", lost)
	}
	return nil
}
