package knowledge

import (
	"math"
)

// wordRow: two words of a finding that people interchange: the share of those who mean the one and say the other, and the reverse.
type wordRow struct {
	Finding, One, Other string
	share, Back         float64
}

// WordRows: judgement, after what clients and colleagues call the same lawn. Of single choices the rows of evidence hold half of it
// already.
var WordRows = []wordRow{
	{"pattern", "irregular-patches", "mottled", .2, .2},
	{"pattern", "spreader-stripes", "lines-or-streaks", .2, .02},
	{"pattern", "sprinkler-arcs", "irregular-patches", .2, .02},
	{"pattern", "round-patches", "irregular-patches", .15, .15},
	{"pattern", "rings", "frog-eye", .15, .15},
	{"pattern", "rings", "lines-or-streaks", .15, .02},
	{"pattern", "frog-eye", "round-patches", .15, .02},
	{"pattern", "matted-patches", "round-patches", .15, .02},
	{"pattern", "wheel-tracks", "lines-or-streaks", .15, .02},
	{"pattern", "along-hardscape", "irregular-patches", .15, .02},
	{"pattern", "low-spots", "irregular-patches", .15, .02},
	{"pattern", "scattered-blades", "mottled", .15, .02},
	{"pattern", "uniform", "mottled", .15, .15},
	{"pattern", "high-spots-or-slopes", "irregular-patches", .12, .02},
	{"pattern", "small-round-spots", "mottled", .12, .12},
	{"pattern", "small-round-spots", "round-patches", .1, .1},
	{"pattern", "uniform", "irregular-patches", .08, .08},
	{"pattern", "scattered-blades", "uniform", .08, .02},
	{"colour", "brown", "straw-tan", .35, .35},
	{"colour", "yellow", "lime-green", .2, .2},
	{"colour", "straw-tan", "white-bleached", .15, .15},
	{"colour", "purple", "red-pink", .12, .12},
	{"colour", "yellow", "orange-cast", .1, .1},
	{"colour", "brown", "orange-cast", .1, .1},
	{"colour", "yellow", "straw-tan", .1, .1},
	{"colour", "blue-grey", "dark-green", .1, .1},
	{"colour", "purple", "blue-grey", .1, .1},
	{"colour", "orange-cast", "red-pink", .08, .08},
	{"colour", "black", "dark-green", .05, .05},
	{"colour", "black", "brown", .05, .05},
	{"leaf-symptoms", "older-leaves-yellow", "uniform-yellow", .25, .02},
	{"leaf-symptoms", "interveinal-yellow", "new-leaves-yellow", .2, .2},
	{"leaf-symptoms", "interveinal-yellow", "uniform-yellow", .2, .02},
	{"leaf-symptoms", "grey-felted-lesion", "oval-lesion-purple-border", .2, .02},
	{"leaf-symptoms", "oval-lesion-purple-border", "irregular-lesion-tan-dark-border", .15, .15},
	{"leaf-symptoms", "hourglass-lesion-tan-with-brown-border", "irregular-lesion-tan-dark-border", .15, .02},
	{"leaf-symptoms", "mosaic-streaks", "white-or-banded-streaks", .15, .15},
	{"leaf-symptoms", "mosaic-streaks", "interveinal-yellow", .05, .05},
	{"leaf-symptoms", "new-leaves-yellow", "uniform-yellow", .15, .02},
	{"leaf-symptoms", "tip-dieback", "scorched-margins", .15, .15},
	{"leaf-symptoms", "tip-dieback", "whole-leaf-blight", .15, .15},
	{"leaf-symptoms", "greasy-water-soaked", "whole-leaf-blight", .15, .02},
	{"leaf-symptoms", "windowpane-feeding", "chewed-notches", .15, .15},
	{"leaf-symptoms", "grey-felted-lesion", "irregular-lesion-tan-dark-border", .1, .02},
	{"leaf-symptoms", "chewed-notches", "sheared-off-at-soil", .1, .1},
	{"leaf-symptoms", "stippled", "interveinal-yellow", .08, .02},
	{"leaf-symptoms", "white-powder", "white-or-banded-streaks", .05, .02},
	{"leaf-symptoms", "orange-pustules", "red-threads", .03, .03},
	{"root-condition", "rotted", "short-stubby", .06, .06},
	{"root-condition", "chewed-off", "short-stubby", .06, .06},
	{"root-condition", "intact", "short-stubby", .06, .06},
	{"root-condition", "rotted", "chewed-off", .04, .04},
	{"root-colour", "tan", "brown", .125, .125},
	{"root-colour", "white", "tan", .1, .1},
	{"root-colour", "brown", "black", .1, .1},
	{"underfoot", "firm", "hard", .075, .075},
	{"underfoot", "soft-loose", "spongy", .05, .05},
	{"underfoot", "spongy", "wet", .05, .05},
	{"underfoot", "firm", "spongy", .05, .05},
	{"underfoot", "wet", "soft-loose", .04, .04},
	{"pull-test", "lifts-like-carpet", "peels-in-rotten-sheets", .075, .075},
	{"pull-test", "stems-break-at-crown", "shears-at-soil", .05, .05},
	{"pull-test", "resists", "shears-at-soil", .04, .04},
	{"margin", "sharp", "diffuse", .06, .06},
	{"margin", "smoke-ring", "diffuse", .04, .04},
	{"crown-slice", "brown-dry", "brown-soft", .1, .1},
	{"crown-slice", "white-moist", "mixed", .05, .05},
	{"soil-moisture", "dry", "slightly-moist", .1, .1},
	{"soil-moisture", "slightly-moist", "moist", .1, .1},
	{"soil-moisture", "moist", "wet", .1, .1},
	{"soil-moisture", "wet", "saturated", .1, .1},
	{"mycelium-at-dawn", "white-sparse", "white-cottony", .125, .125},
	{"mycelium-at-dawn", "grey-web", "white-sparse", .05, .05},
	{"weed-kinds", "sedge", "kyllinga", .2, .2},
	{"weed-kinds", "annual-grassy", "perennial-grassy", .15, .15},
}

// mostConfused is the most of a word that goes to others.
const mostConfused = .5

// beside is the part of what goes to another word of a list that the word itself loses: lists are ticked beside as often as instead.
const beside = .5

// Confused lets the words of a distribution stand for each other as far as people interchange them.
func (cf *Table) Confused(p []float64) []float64 {
	n := len(p)
	says := make([][]float64, n) // says[a][b]: who means a says b
	for a := range says {
		says[a] = make([]float64, n)
	}
	for _, r := range WordRows {
		if r.Finding != cf.ID {
			continue
		}
		a, b := Index(cf.Values, r.One), Index(cf.Values, r.Other)
		if a < 0 || b < 0 {
			panic("diagnosis: words of " + cf.ID + " that are none: " + r.One + ", " + r.Other)
		}
		says[a][b], says[b][a] = r.share, r.Back
	}
	out := make([]float64, n)
	list := cf.Finding.Kind == AnyOf
	none := make([]float64, n)
	for a := range none {
		none[a] = 1
	}
	for a := range p {
		gone := 0.0
		for b := range p {
			gone += says[a][b]
		}
		scale, leaves := 1.0, 1.0
		if gone > mostConfused {
			scale = mostConfused / gone
		}
		if list {
			leaves = beside
		}
		for b := range p {
			share := says[a][b] * scale
			if a == b {
				share = 1 - gone*scale*leaves
			}
			out[b] += share * p[a]
			none[b] *= 1 - share*p[a]
		}
	}
	if list { // each word is ticked by itself
		for b := range out {
			out[b] = math.Min(1-none[b], 1)
		}
	}
	return out
}
