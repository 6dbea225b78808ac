package diagnosis

import "math"

// kinds sorts the sets by what a finding, or a few together, can see of them: sets of one kind give its outcomes the same chances, because
// the same of their causes speak of it. There are a dozen or two where there are hundreds of sets, so what is asked of all sets is asked of
// the kinds.
type kinds struct {
	of   []int32   // by set: its kind
	mass []float64 // by kind: what its sets carry together
}

// kindsOf sorts the sets by the causes of which speaks is true, and says for each kind which of the causes those are. The set without any
// cause is a kind of its own, of size -1. at is room for a table of pairs, kept from call to call.
func kindsOf(sets []set, speaks []bool, at *[]int32) (k kinds, which []set) {
	n := len(speaks) + 1
	if len(*at) < n*n {
		*at = make([]int32, n*n)
	}
	pairs := (*at)[:n*n] // one more than the kind of those of whom just one or two causes speak, by the causes and one more
	clear(pairs)
	var threes map[[3]int]int32
	k.of = make([]int32, len(sets))
	empty := int32(-1)
	fresh := func(w set) int32 {
		which, k.mass = append(which, w), append(k.mass, 0)
		return int32(len(which) - 1)
	}
	for s := range sets {
		w := set{}
		for _, member := range sets[s].members[:sets[s].size] {
			if speaks[member] {
				w.members[w.size] = member
				w.size++
			}
		}
		var kind int32
		switch {
		case sets[s].size == 0:
			if empty < 0 {
				empty = fresh(w)
			}
			kind = empty
		case w.size == 3:
			if threes == nil {
				threes = map[[3]int]int32{}
			}
			known, ok := threes[w.members]
			if !ok {
				known = fresh(w)
				threes[w.members] = known
			}
			kind = known
		default:
			i, j := 0, 0
			if w.size > 0 {
				i = w.members[0] + 1
			}
			if w.size > 1 {
				j = w.members[1] + 1
			}
			if pairs[i*n+j] == 0 {
				pairs[i*n+j] = fresh(w) + 1
			}
			kind = pairs[i*n+j] - 1
		}
		k.of[s] = kind
		k.mass[kind] += sets[s].p
	}
	if empty >= 0 {
		which[empty].size = -1
	}
	return k, which
}

// with sorts the sets by both: those that are of one kind in k and of one in other stay together. first and second say which those are.
func (k kinds) with(other kinds, sets []set) (both kinds, first, second []int32) {
	known := make([]int32, len(k.mass)*len(other.mass))
	both.of = make([]int32, len(sets))
	for s := range sets {
		a, b := k.of[s], other.of[s]
		at := &known[int(a)*len(other.mass)+int(b)]
		if *at == 0 {
			both.mass, first, second = append(both.mass, 0), append(first, a), append(second, b)
			*at = int32(len(both.mass))
		}
		both.of[s] = *at - 1
		both.mass[*at-1] += sets[s].p
	}
	return both, first, second
}

// chance of an outcome whose chance in each kind is row.
func (k kinds) chance(row []float64) (q float64) {
	for i, w := range k.mass {
		q += w * row[i]
	}
	return q
}

// told is the mutual information, in bits, between the set of causes and outcomes with the given chances in each kind. Outcomes less likely
// than leastTold are left out.
func (k kinds) told(outcomes [][]float64) (bits float64) {
	for _, row := range outcomes {
		q := k.chance(row)
		if q < leastTold {
			continue
		}
		inv := 1 / q
		for i, c := range row {
			if c > 0 {
				bits += k.mass[i] * c * math.Log(c*inv)
			}
		}
	}
	return math.Max(0, bits/math.Ln2)
}

// leastTold is the chance under which an outcome, or a branch of several, adds nothing that is counted (judgement).
const leastTold = 5e-4

// bound is what told cannot exceed, in bits, without a logarithm for each kind: log₂(1 + χ²), with the χ² distance of the outcomes given
// the set from the outcomes by themselves, by Jensen's inequality.
func (k kinds) bound(outcomes [][]float64) float64 {
	chi := -1.0
	for _, row := range outcomes {
		q, qq := 0.0, 0.0
		for i, w := range k.mass {
			q += w * row[i]
			qq += w * row[i] * row[i]
		}
		if q > 0 {
			chi += qq / q
		}
	}
	return math.Log2(1 + math.Max(0, chi))
}

// jointGain is the mutual information, in bits, between the set of causes and up to three features, which are independent of each other
// once the set is given.
func jointGain(fs []feature, sets []set) float64 {
	k, outcomes := fs[0].kinds, fs[0].p
	for i := range fs[1:] {
		next := &fs[i+1]
		both, first, second := k.with(next.kinds, sets)
		joint := make([][]float64, 0, len(outcomes)*len(next.p))
		room := make([]float64, cap(joint)*len(both.mass))
		for _, a := range outcomes {
			if k.chance(a) < leastTold {
				continue
			}
			for _, b := range next.p {
				row := room[len(joint)*len(both.mass):][:len(both.mass)]
				for x := range row {
					row[x] = a[first[x]] * b[second[x]]
				}
				joint = append(joint, row)
			}
		}
		k, outcomes = both, joint
	}
	return k.told(outcomes)
}
