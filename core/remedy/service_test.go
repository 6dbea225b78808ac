package remedy

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
)

func TestWhatTheClientBuys(t *testing.T) {
	rows := 0
	for _, s := range services {
		for _, action := range strings.Fields(s.actions) {
			rows++
			require.True(t, Known(action), action)
			require.False(t, Extra(ServiceFull, action), action)
			require.True(t, Extra(ServiceWeeds, action), "%s is no work against weeds", action)
			require.Equal(t, s.id == ServiceFull, Extra(ServiceFeeding, action), action)
			require.False(t, Extra("", action), "nobody said what is bought")
		}
	}
	require.Equal(t, 29, rows)
	for _, free := range []string{"herbicide-spot", "preemergent", "water-deep", "raise-mowing-height", "leave-alone", "soil-test"} {
		require.True(t, Known(free), free)
		require.False(t, Extra(ServiceWeeds, free), free)
	}
	hungry := found{"colour": list("lime-green", "yellow"), "growth-rate": word("slow"), "last-nitrogen-days": amount(250),
		"nitrogen-12-months-g-m2": amount(1), "pull-test": word("resists"), "soil-moisture": word("moist")}
	feed := func(service string) Advice {
		return decide(t, lawn(t, "perennial-ryegrass", "2026-09-12", hungry,
			func(c *evidence.Case) { c.Policy.Service = service }))["apply-nitrogen"]
	}
	require.True(t, feed(ServiceWeeds).Extra)
	require.False(t, feed(ServiceFeeding).Extra)
	require.Equal(t, feed("").Verdict, feed(ServiceWeeds).Verdict, "what the lawn asks for does not hang on it")
}

func TestAFormHasItsOwnHeights(t *testing.T) {
	cut := func(grass, form string, mm float64) Advice {
		return decide(t, lawn(t, grass, "2026-06-10", found{"mowing-height-mm": amount(mm), "soil-moisture": word("moist")},
			func(c *evidence.Case) { c.Lawn.Form = form }))["raise-mowing-height"]
	}
	require.NotEqual(t, DoNow, cut("zoysiagrass", "matrella", 14).Verdict, "cut as Manila grass is")
	require.Equal(t, DoNow, cut("zoysiagrass", "japonica", 14).Verdict)
	require.NotEqual(t, DoNow, cut("st-augustinegrass", "dwarf", 55).Verdict)
	require.NotEqual(t, DoNow, cut("st-augustinegrass", "", 55).Verdict, "it may be a dwarf cultivar")
	require.Equal(t, DoNow, cut("st-augustinegrass", "standard", 55).Verdict, "it is known not to be")
	require.Equal(t, DoNow, cut("st-augustinegrass", "dwarf", 40).Verdict, "too low even for a dwarf")
}
