package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"log/slog"
	"os"
	"time"

	"hodos/casework"
	"hodos/demo"
	"hodos/night"
	"hodos/server"
	"hodos/store"
)

// watchNow puts a round of the watch into the queue, works it together with whatever servers run, and says how far it is.
func watchNow(args []string) error {
	fs := flag.NewFlagSet("watch", flag.ContinueOnError)
	text := fs.String("day", "", "day of the work clock, YYYY-MM-DD; today when left out")
	if err := fs.Parse(args); err != nil {
		return refused{err}
	}
	options, err := jobOptions()
	if err != nil {
		return err
	}
	options.Poll = 100 * time.Millisecond
	ctx, stop := untilStopped()
	defer stop()
	s, err := opened(ctx)
	if err != nil {
		return err
	}
	defer s.Close()
	var clock server.WorkClock = wallClock{}
	var weather casework.Service
	var simulated int64
	if err := s.Shared(ctx).Model(&store.Clock{}).Count(&simulated).Error; err != nil {
		return err
	}
	if simulated > 0 {
		clock, weather = demo.Clock{Store: s}, demo.Sky{}
	}
	now, err := clock.Now(ctx)
	if err != nil {
		return err
	}
	if *text != "" {
		day, err := time.Parse(time.DateOnly, *text)
		if err != nil {
			return refused{fmt.Errorf("--day: %q is not a day (YYYY-MM-DD)", *text)}
		}
		now = casework.OnDay(day)
	}
	jobs, err := night.New(night.Watcher{Store: s, Weather: weather}, clock,
		slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn})), *options)
	if err != nil {
		return err
	}
	began := time.Now()
	round, err := jobs.Ask(ctx, now, nil)
	if err != nil {
		return err
	}
	if err := jobs.Start(context.WithoutCancel(ctx)); err != nil {
		return err
	}
	defer func() {
		end, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		_ = jobs.Stop(end)
	}()
	told := -1
	for {
		far, err := jobs.Far(ctx, round)
		if err != nil {
			return err
		}
		if far.Planned && far.Done != told {
			told = far.Done
			fmt.Printf("%d of %d sites\n", far.Done, far.Sites)
		}
		if far.Finished() {
			if far.Lost > 0 {
				return fmt.Errorf("%d sites could not be looked at; the log says why", far.Lost)
			}
			fmt.Printf("the watch is done after %.1f s\n", time.Since(began).Seconds())
			return nil
		}
		select {
		case <-ctx.Done():
			return errors.New("stopped; what is left stays in the queue")
		case <-time.After(250 * time.Millisecond):
		}
	}
}
