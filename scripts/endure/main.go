// Command endure ill-treats a whole Hodos, with a server and a database of its own and people who answer checks all the while, and holds it
// to what it has promised: an answer that was acknowledged is there afterwards, an answer that was not can be sent again, and a request
// never waits without end. The server is killed, the database is killed, it is held still, and its disk is filled.
//
//	make endure
//
// Filling a disk wants one of its own, which only root may mount; without that the step is left out and said to be.
package main

import (
	"context"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/signal"
	"time"
)

// plan is what is done to the house, and how often.
type plan struct {
	people, serverKills, databaseKills int
	still, full                        time.Duration
}

func main() {
	var p plan
	flag.IntVar(&p.people, "people", 8, "who answer checks all the while")
	flag.IntVar(&p.serverKills, "server", 30, "kills of the server")
	flag.IntVar(&p.databaseKills, "database", 5, "kills of the database")
	flag.DurationVar(&p.still, "still", 25*time.Second, "how long the database is held still")
	flag.DurationVar(&p.full, "full", 20*time.Second, "how long its disk is full")
	seed := flag.Uint64("seed", 1, "of the times between")
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	if err := endure(ctx, p, rand.New(rand.NewPCG(*seed, 1))); err != nil {
		fmt.Fprintln(os.Stderr, "endure:", err)
		os.Exit(1)
	}
}

func endure(ctx context.Context, p plan, chance *rand.Rand) error {
	h, err := build(ctx)
	if err != nil {
		return err
	}
	defer h.leave()
	crowd, err := gather(ctx, h, p.people)
	if err != nil {
		return err
	}
	pause := func(least, most time.Duration) error {
		return wait(ctx, least+time.Duration(chance.Int64N(int64(most-least))))
	}
	for _, step := range []struct {
		what string
		do   func() error
	}{
		{"nothing", func() error { return wait(ctx, 5*time.Second) }},
		{fmt.Sprintf("%d kills of the server", p.serverKills), func() error { return h.killServers(ctx, p.serverKills, pause) }},
		{fmt.Sprintf("%d kills of the database", p.databaseKills), func() error { return h.killDatabases(ctx, p.databaseKills, pause) }},
		{fmt.Sprintf("the database held still for %s", p.still), func() error { return h.heldStill(ctx, p.still) }},
		{fmt.Sprintf("its disk full for %s", p.full), func() error { return h.full(ctx, p.full) }},
	} {
		if err := crowd.during(step.what, step.do); err != nil {
			return err
		}
	}
	return crowd.judge(ctx)
}

// wait returns early with the context's error when the program is told to end.
func wait(ctx context.Context, d time.Duration) error {
	select {
	case <-ctx.Done():
		return ctx.Err()
	case <-time.After(d):
		return nil
	}
}
