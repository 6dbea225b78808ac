package diagnosis

import (
	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// Sets are the sets of causes that may be at work on a lawn, with their chances: to draw from.
type Sets struct {
	m    *model
	post posterior
}

// SetsOn are those of a lawn of which nothing is found; factor moves the odds of a cause, by its index.
func SetsOn(l knowledge.Lawn, factor func(cause int) float64) Sets {
	m := newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) * factor(i) })
	return Sets{m, m.sum(nil, true)}
}

// SetsOf are those of a case.
func SetsOf(c evidence.Case, factor func(cause int) float64) Sets {
	g := evidence.Gather(c)
	m := newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) * factor(i) })
	m.settle(g.Values)
	return Sets{m, m.sum(m.observeAll(&g), true)}
}

// Lawn is the lawn, Turf its family of grass (0 cool-season, 1 warm-season), Climate that of its windows and Relations what turns readings
// to the reference grass.
func (s Sets) Lawn() knowledge.Lawn { return s.m.lawn }

func (s Sets) Turf() int { return s.m.turf }

func (s Sets) Climate() int { return s.m.climate }

func (s Sets) Relations() map[string]knowledge.Relation { return s.m.relations }

// Asleep reports warm-season turf in its winter.
func (s Sets) Asleep() bool { return s.m.sleeps() }

// Sound is the share of the empty set in which nothing is wrong; in the rest something else is.
func (s Sets) Sound() float64 { return s.post.soundShare() }

// Can are the causes that the lawn can have, by their index.
func (s Sets) Can() map[int]bool {
	out := map[int]bool{}
	for _, ci := range s.m.active {
		out[ci] = true
	}
	return out
}

// Pick is the set, as indices of causes, at a place between 0 and 1 of all of them.
func (s Sets) Pick(u float64) (members []int) {
	at := 0
	take := func(k ...int) bool {
		u -= s.post.weight[at]
		at++
		if u >= 0 {
			return false
		}
		for _, i := range k {
			members = append(members, s.m.active[i])
		}
		return true
	}
	if take() {
		return nil
	}
	n := s.post.n
	for i := 0; i < n; i++ {
		if take(i) {
			return members
		}
		for j := i + 1; j < n; j++ {
			if take(i, j) {
				return members
			}
			for k := j + 1; k < n; k++ {
				if take(i, j, k) {
					return members
				}
			}
		}
	}
	return members
}
