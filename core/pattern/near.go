package pattern

import (
	"sort"

	"hodos/core/outline"
)

// Places on a lawn at which damage gathers.
const (
	AtHardEdge  = "hard-edge"  // within a metre of a drive, path or wall
	UnderTree   = "tree"       // under its crown
	BeyondThrow = "throw"      // where no sprinkler throws to
	AtSlopeFoot = "slope-foot" // at and below the foot of a slope
	OnSlope     = "slope"      // on its upper part
	OverBuried  = "buried"     // over what is buried
)

// How far a place reaches, and from when on it is told (judgement, set on drawn lawns: docs/decisions/0021-the-lawn-from-above.md).
const (
	edgeReach    = 1.0  // m, from the near side of a square
	buriedReach  = 1.5  // m, likewise
	footFrom     = .75  // of the way down a slope
	footTo       = 1.35 // of it, beyond the foot
	mostShifts   = 240  // tried, evenly over all
	fewestShifts = 30   // that stay on the lawn, to be told apart from chance
	leastOnLawn  = .6   // of the damage that a shift must keep on the lawn
	apartFrom    = .3   // by how much more of the damage than of the sound lawn
	mostDamage   = .75  // of the lawn: beyond, damage lies everywhere
	leastThereOf = .5   // of the damage
)

// Near is how damage gathers at one kind of place.
type Near struct {
	Place       string
	DamageShare float64 // of the damage that lies there
	LawnShare   float64 // of the lawn that lies there
	Chance      float64 // of so much lying there if the same damage lay anywhere else on the lawn; 1 where it hardly gathers at all
}

// Apart is by how much more of the damage lies there than of the sound lawn.
func (n Near) Apart(percent float64) float64 {
	if percent >= 100 {
		return 0
	}
	sound := (n.LawnShare - n.DamageShare*percent/100) / (1 - percent/100)
	return n.DamageShare - sound
}

// near weighs every place that the lawn has. How likely as much is by chance is seen by shifting the whole damage over the grid,
// turned over and not: it keeps its shape and its clumps (translation test, after Lotwick and Silverman 1982, Harms and others 2001).
func near(m Marked, cells int) []Near {
	out := []Near{}
	if m.Grid.Plain {
		return out
	}
	lawn := float64(m.Grid.Lawn())
	percent := 100 * float64(cells) / lawn
	for _, place := range []string{AtHardEdge, UnderTree, BeyondThrow, AtSlopeFoot, OnSlope, OverBuried} {
		zone := make([]bool, len(m.Grid.Inside))
		inZone, hit := 0, 0
		for i := range zone {
			if m.Grid.Inside[i] && at(place, m.Things, m.Grid, i) {
				zone[i] = true
				inZone++
				if m.damaged(i) {
					hit++
				}
			}
		}
		if inZone == 0 || float64(inZone) == lawn {
			continue
		}
		n := Near{Place: place, DamageShare: float64(hit) / float64(cells), LawnShare: float64(inZone) / lawn}
		n.Chance = 1
		if n.Apart(percent) >= apartFrom {
			n.Chance = byChance(m, zone, n.DamageShare)
		}
		out = append(out, n)
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Apart(percent) > out[b].Apart(percent) })
	return out
}

// at reports whether a square lies at a place.
func at(place string, things []outline.Thing, g outline.Grid, cell int) bool {
	p := g.Centre(cell)
	thrown, heads := false, false
	for _, t := range things {
		switch {
		case place == AtHardEdge && t.Kind == outline.HardEdge && t.Away(p) <= edgeReach+g.Step/2,
			place == UnderTree && t.Kind == outline.Tree && t.Away(p) <= t.Reach,
			place == OverBuried && t.Kind == outline.Buried && t.Away(p) <= buriedReach+g.Step/2:
			return true
		case place == BeyondThrow && t.Kind == outline.Sprinkler:
			heads = true
			thrown = thrown || t.Away(p) <= t.Reach
		case (place == AtSlopeFoot || place == OnSlope) && t.Kind == outline.Slope && len(t.Points) >= 2:
			down := outline.Along(p, t.Points[0], t.Points[len(t.Points)-1])
			if place == AtSlopeFoot && down >= footFrom && down <= footTo || place == OnSlope && down >= 0 && down < footFrom {
				return true
			}
		}
	}
	return place == BeyondThrow && heads && !thrown
}

// byChance is the share of shifts in which at least as much of the damage lies in a zone; 1 where too few of them stay on the lawn.
func byChance(m Marked, zone []bool, share float64) float64 {
	g := m.Grid
	var marked []int
	for i := range g.Inside {
		if m.damaged(i) {
			marked = append(marked, i)
		}
	}
	shifts := g.Columns * g.Rows * 4
	stride := max(1, shifts/mostShifts)
	if stride > 1 {
		stride |= 1 // odd, so that it does not keep step with the rows
	}
	tried, asMuch := 0, 0
	for k := 0; k < shifts; k += stride {
		turn, dx, dy := k&3, (k>>2)%g.Columns, (k>>2)/g.Columns
		on, hit := 0, 0
		for _, i := range marked {
			x, y := i%g.Columns, i/g.Columns
			if turn&1 != 0 {
				x = g.Columns - 1 - x
			}
			if turn&2 != 0 {
				y = g.Rows - 1 - y
			}
			j := (y+dy)%g.Rows*g.Columns + (x+dx)%g.Columns
			if g.Inside[j] {
				on++
				if zone[j] {
					hit++
				}
			}
		}
		if float64(on) < leastOnLawn*float64(len(marked)) {
			continue
		}
		tried++
		if float64(hit) >= share*float64(on)-1e-9 {
			asMuch++
		}
	}
	if tried < fewestShifts {
		return 1
	}
	return float64(asMuch+1) / float64(tried+1)
}
