package diagnosis

import (
	"math"

	"hodos/core/knowledge"
)

// listing is what one cause says of one fact by the words of one list.
type listing struct {
	table, fact, cause, turf int
}

// overcounts is how much too often each cause would be said to show a fact that a list tells by several words. The rows say how often
// each word is ticked; the rule of facts lets the first of them silence the others, so that one word of two shows the fact as well as
// both do, and the chances of all that may be ticked come to more than one.
var overcounts = func() map[listing]float64 {
	out := map[listing]float64{}
	for table := range knowledge.Tables {
		cf := &knowledge.Tables[table]
		if cf.Finding.Kind != knowledge.AnyOf {
			continue
		}
		for fact, words := range wordsOf(cf) {
			for cause := range knowledge.CauseTable {
				for turf := range cf.ByCause[cause] {
					if d := cf.ByCause[cause][turf]; d != nil {
						if over := overcount(cf, d, fact, words); over > 1 {
							out[listing{table, fact, cause, turf}] = over
						}
					}
				}
			}
		}
	}
	return out
}()

// factsOf are the facts that a list tells by several words, by table.
var factsOf = func() map[int][]int {
	out := map[int][]int{}
	for table := range knowledge.Tables {
		if knowledge.Tables[table].Finding.Kind == knowledge.AnyOf {
			words := wordsOf(&knowledge.Tables[table])
			for fact := range knowledge.FactNames {
				if words[fact] != nil {
					out[table] = append(out[table], fact)
				}
			}
		}
	}
	return out
}()

// wordsOf are the facts that a list tells by several words, with the places of the words.
func wordsOf(cf *knowledge.Table) map[int][]int {
	out := map[int][]int{}
	for vi, item := range cf.Values {
		for _, at := range knowledge.MemberOf[knowledge.Member(cf.ID, item)] {
			out[at.Fact] = append(out[at.Fact], vi)
		}
	}
	for fact, words := range out {
		if len(words) < 2 {
			delete(out, fact)
		}
	}
	return out
}

// overcount sums what a cause says of every way to tick the words of a fact, weighed by how often each is ticked without any cause, over
// the chance that the cause shows any of them.
func overcount(cf *knowledge.Table, d *knowledge.Dist, fact int, words []int) float64 {
	one := &model{active: []int{0}}
	var shown []int
	for _, vi := range words {
		if d.P[vi] > 0 {
			shown = append(shown, vi)
		}
	}
	words = shown
	said, none := 0.0, 1.0
	for _, vi := range words {
		none *= (1 - cf.Leak(vi)) * (1 - math.Min(d.P[vi]*d.Grip, .985))
	}
	for ticked := 1; ticked < 1<<len(words); ticked++ {
		all := make([]*telling, len(words))
		for i, vi := range words {
			for _, at := range knowledge.MemberOf[knowledge.Member(cf.ID, cf.Values[vi])] {
				if at.Fact == fact {
					all[i] = &telling{list: cf.ID, fact: fact, rank: at.Rank, again: at.Again, shows: ticked>>i&1 == 1,
						grip: []float64{math.Min(d.P[vi]*d.Grip, .985)}}
				}
			}
		}
		one.cut(all)
		chance := 1.0
		for i, t := range all {
			g, leak := t.grip[0], cf.Leak(words[i])
			if t.cut != nil {
				g *= t.cut[0]
			}
			if t.shows {
				excused := 1.0
				if t.spare != nil {
					excused = t.spare[0]
				}
				chance *= leak*(1-g)*excused + g
			} else {
				chance *= (1 - leak) * (1 - g)
			}
		}
		said += chance
	}
	return said / (1 - none)
}

// evenOut takes from the word by which a cause shows a fact what the cause would be overcounted by.
func (m *model) evenOut(ev *observed, table int) {
	for _, fact := range factsOf[table] {
		for k, cause := range m.active {
			over, ok := overcounts[listing{table, fact, cause, m.turf}]
			if !ok {
				continue
			}
			var lead *term
			rank := 0
			for i := range ev.terms {
				t := &ev.terms[i]
				for _, at := range knowledge.MemberOf[knowledge.Member(ev.finding, t.item)] {
					if at.Fact == fact && t.g[k] > 0 && (lead == nil || at.Rank < rank) {
						lead, rank = t, at.Rank
					}
				}
			}
			if lead != nil {
				lead.divide(k, over)
			}
		}
	}
}

// divide lets a term speak so many times less for a cause by itself.
func (t *term) divide(k int, by float64) {
	q := 1 - t.g[k]
	t.e[k] = math.Max(0, (q+t.e[k])/by-q)
}
