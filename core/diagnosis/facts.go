package diagnosis

import (
	"math"
	"slices"

	"hodos/core/knowledge"
)

// telling is one member of a fact that was told on this lawn.
type telling struct {
	list  string // the finding
	fact  int
	rank  int
	again float64
	shows bool      // it is there; an item that was looked for and not seen shows nothing
	grip  []float64 // by active cause
	cut   []float64 // by active cause: what is left of it
	lead  []bool    // by active cause: it is what the cause says of the fact, of several that show it
	spare []float64 // by active cause: what is left of the cause where another one shows the fact by this, over what is left with excuse
}

// once lets every fact count once for each cause: the first telling that shows it in full, the others by their share. Where nothing shows
// it, what denies it most counts in full, with the other words of its list, each of which is missed by itself. What shows a fact silences
// what denies it as far as it says as much: a cause that hardly explains the one word still misses the other. The first tellings of all
// causes make one term, so that two causes that show the same fact by different words explain each other away.
func (m *model) once(evs []observed) []observed {
	m.told = evs
	facts := make([][]*telling, len(knowledge.FactNames))
	terms, aways := map[*term][]*telling{}, map[*away][]*telling{}
	tell := func(finding, item string, shows bool, grip []float64) (own []*telling) {
		for _, at := range knowledge.MemberOf[knowledge.Member(finding, item)] {
			t := &telling{list: finding, fact: at.Fact, rank: at.Rank, again: at.Again, shows: shows, grip: grip}
			facts[at.Fact] = append(facts[at.Fact], t)
			own = append(own, t)
		}
		return own
	}
	for i := range evs {
		for t := range evs[i].terms {
			tm := &evs[i].terms[t]
			terms[tm] = tell(evs[i].finding, tm.item, true, tm.g)
		}
		for a := range evs[i].aways {
			aw := &evs[i].aways[a]
			aways[aw] = tell(evs[i].finding, aw.item, false, aw.g)
		}
	}
	told := false
	for _, all := range facts {
		told = m.cut(all) || told
	}
	if !told {
		return evs
	}
	out := make([]observed, len(evs))
	merged := map[int]*term{} // by fact
	for i := range evs {
		out[i] = evs[i]
		out[i].terms, out[i].aways = nil, nil
		for t := range evs[i].terms {
			tm := &evs[i].terms[t]
			left := tm.left(terms[tm])
			left.excuse(terms[tm])
			if left.handOver(terms[tm], merged) {
				out[i].terms = append(out[i].terms, left)
			}
		}
		for a := range evs[i].aways {
			aw := &evs[i].aways[a]
			out[i].aways = append(out[i].aways, away{aw.item, least(aw.g, aways[aw])})
		}
	}
	for fact := range facts {
		if t, ok := merged[fact]; ok {
			out = append(out, m.ofFact(fact, t, evs, terms))
		}
	}
	return out
}

// ofFact is the evidence of one fact that was told more than once, with what it stands for.
func (m *model) ofFact(fact int, t *term, evs []observed, terms map[*term][]*telling) observed {
	ev := observed{finding: knowledge.FactNames[fact], terms: []term{*t}, weighed: true, sound: 1, other: 1, leads: make([]int, len(m.active))}
	for i := range evs {
		for j := range evs[i].terms {
			for _, tl := range terms[&evs[i].terms[j]] {
				if tl.fact != fact {
					continue
				}
				at := slices.Index(ev.tells, i)
				if at < 0 {
					at = len(ev.tells)
					ev.tells = append(ev.tells, i)
					ev.shown = append(ev.shown, make([]bool, len(m.active)))
				}
				for k, g := range tl.grip {
					ev.shown[at][k] = ev.shown[at][k] || g > 0
				}
				for k, lead := range tl.lead {
					if lead {
						ev.leads[k] = i + 1
					}
				}
			}
		}
	}
	return ev
}

// speaks is the piece of evidence by which a cause speaks of a fact: the first that tells it, where the cause does not.
func (ev *observed) speaks(k int) int {
	if k < len(ev.leads) && ev.leads[k] > 0 {
		return ev.leads[k] - 1
	}
	return ev.tells[0]
}

// handOver gives what a term says first of a fact that is told more than once to that fact's own term; false where nothing is left.
func (t *term) handOver(tells []*telling, merged map[int]*term) bool {
	for _, tl := range tells {
		if tl.lead == nil {
			continue
		}
		into := merged[tl.fact]
		if into == nil {
			into = &term{g: make([]float64, len(t.g)), e: make([]float64, len(t.g))}
			merged[tl.fact] = into
		}
		for k, leads := range tl.lead {
			if leads && t.g[k] > 0 {
				into.g[k], into.e[k] = t.g[k], t.e[k]
				t.g[k], t.e[k] = 0, 0
				if t.excused != nil {
					if into.excused == nil {
						into.excused = ones(len(t.g))
					}
					into.excused[k], t.excused[k] = t.excused[k], 1
				}
			}
		}
	}
	for _, g := range t.g {
		if g > 0 {
			return true
		}
	}
	return false
}

// excuse takes in what is excused for each cause by this word.
func (t *term) excuse(tells []*telling) {
	for _, tl := range tells {
		for k, spare := range tl.spare {
			if spare < 1 && t.g[k] > 0 {
				if t.excused == nil {
					t.excused = ones(len(t.g))
				}
				t.excused[k] *= spare
				t.e[k] /= spare
			}
		}
	}
}

// fresh is what is left of each cause's grip on a member that was not told yet, beside what was; nil where all of it is.
func (m *model) fresh(finding, item string, grip []float64) []float64 {
	var own []*telling
	for _, at := range knowledge.MemberOf[knowledge.Member(finding, item)] {
		all := []*telling{{list: finding, fact: at.Fact, rank: at.Rank, again: at.Again, shows: true, grip: grip}}
		for i := range m.told {
			all = append(all, m.told[i].of(at.Fact)...)
		}
		if m.cut(all) && all[0].cut != nil {
			own = append(own, all[0])
		}
	}
	if own == nil {
		return nil
	}
	return least(ones(len(m.active)), own)
}

// of are the tellings of one fact in a piece of evidence.
func (ev *observed) of(fact int) (out []*telling) {
	tell := func(item string, shows bool, grip []float64) {
		for _, at := range knowledge.MemberOf[knowledge.Member(ev.finding, item)] {
			if at.Fact == fact {
				out = append(out, &telling{list: ev.finding, fact: fact, rank: at.Rank, again: at.Again, shows: shows, grip: grip})
			}
		}
	}
	for i := range ev.terms {
		tell(ev.terms[i].item, true, ev.terms[i].g)
	}
	for i := range ev.aways {
		tell(ev.aways[i].item, false, ev.aways[i].g)
	}
	return out
}

// cut sets what is left of each telling of one fact, and which of several that show it leads; false where it was told once.
func (m *model) cut(all []*telling) bool {
	if len(all) < 2 {
		return false
	}
	shown := 0
	for _, t := range all {
		if t.shows {
			shown++
		}
	}
	for k := range m.active {
		first := first(all, k)
		for _, t := range all {
			switch {
			case t.grip[k] == 0:
			case first.shows && !t.shows:
				m.spare(first, t, missed(all, k), k)
			case !first.shows && t.list == first.list: // each word of a list is missed by itself
			case t != first:
				t.keep(k, t.again, len(m.active))
			case t.shows && shown > 1:
				if t.lead == nil {
					t.lead = make([]bool, len(m.active))
				}
				t.lead[k] = true
			}
		}
	}
	return true
}

// keep leaves a share of a telling for one cause.
func (t *telling) keep(k int, share float64, n int) {
	if t.cut == nil {
		t.cut = ones(n)
	}
	t.cut[k] = share
}

// spare excuses a cause that shows a fact by the first telling for what it does not show of it, as far as the first says as much. Where
// another cause shows the fact all of it is missed, but for what the word most missed says as well.
func (m *model) spare(first, t, most *telling, k int) {
	left := math.Max(0, 1-first.grip[k]/t.grip[k])
	full := t.again
	if t == most || t.list == most.list {
		full = 1
	}
	if left = math.Min(left, full); left < 1 {
		t.keep(k, left, len(m.active))
	}
	if first.spare == nil {
		first.spare = ones(len(m.active))
	}
	first.spare[k] *= (1 - full*t.grip[k]) / (1 - left*t.grip[k])
}

// missed is the telling that denies a fact most where the cause shows it by none.
func missed(all []*telling, k int) *telling {
	var most *telling
	for _, t := range all {
		if t.grip[k] > 0 && (most == nil || t.grip[k] > most.grip[k]) {
			most = t
		}
	}
	return most
}

// first is the telling of a fact that counts in full for a cause: of those that show it the first, else the one that denies it most.
func first(all []*telling, k int) *telling {
	var best *telling
	for _, t := range all {
		switch {
		case t.grip[k] == 0:
		case best == nil || t.shows && !best.shows:
			best = t
		case t.shows != best.shows:
		case t.shows && t.rank < best.rank, !t.shows && t.grip[k] > best.grip[k]:
			best = t
		}
	}
	return best
}

func ones(n int) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = 1
	}
	return out
}

// least is a grip with what is left of it by every fact that it belongs to.
func least(grip []float64, tells []*telling) []float64 {
	cut := false
	for _, t := range tells {
		cut = cut || t.cut != nil
	}
	if !cut {
		return grip
	}
	out := make([]float64, len(grip))
	for k := range grip {
		share := 1.0
		for _, t := range tells {
			if t.cut != nil {
				share = math.Min(share, t.cut[k])
			}
		}
		out[k] = grip[k] * share
	}
	return out
}

// left is a term with what is left of its grips.
func (t *term) left(tells []*telling) term {
	g := slices.Clone(least(t.g, tells)) // what is told stays as it is
	out := term{item: t.item, g: g, e: make([]float64, len(t.e))}
	for k := range t.e {
		if t.g[k] > 0 {
			out.e[k] = t.e[k] * g[k] / t.g[k]
		}
	}
	return out
}

// When one answer is suspected (judgement): without it a cause stands at this, with it at no more than that, and it speaks so much
// against the cause.
const (
	suspectWithout = .8
	suspectWith    = .7
	suspectBits    = -1.5
	suspectAnswers = 5 // there have to be others
	suspects       = 3 // weighed at most
	suspectLeast   = .02
)
