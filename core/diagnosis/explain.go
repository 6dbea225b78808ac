package diagnosis

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/units"
	"hodos/core/worth"
)

// Change is one answer that would change what a diagnosis comes to.
type Change struct {
	Finding string
	Outcome string  // the answer
	Chance  float64 // how likely that answer is now
	Leads   string  // the cause that would lead then
	Then    float64 // with this probability
	Leader  float64 // and what now leads would stand at this
}

// wouldChange lists the single answers after which something else leads, or the leader falls below the point from which
// acting on it pays, the likeliest first, one a finding, at most five.
func (m *model) wouldChange(sets []set, byProcedure map[string][]feature) []Change {
	now := m.marginals(sets, nil)
	lead := most(now)
	if lead < 0 {
		return nil
	}
	act := m.act[m.active[lead]]
	best := map[string]Change{}
	for _, proc := range knowledge.Procedures() {
		for _, ft := range byProcedure[proc.ID] {
			id := ft.cf.ID
			for o, row := range ft.p {
				q := ft.chance(row)
				if q < .02 || q <= best[id].Chance {
					continue
				}
				then := m.marginalsInto(m.scratch, sets, ft.of, row)
				next := most(then)
				if next == lead && !(now[lead] >= act && then[lead] < act-.1) || next != lead && then[next] < then[lead]+.05 {
					continue
				}
				best[id] = Change{id, ft.label[o], round3(q), knowledge.CauseTable[m.active[next]].ID, round3(then[next]), round3(then[lead])}
			}
		}
	}
	out := make([]Change, 0, len(best))
	for _, c := range best {
		out = append(out, c)
	}
	sort.Slice(out, func(a, b int) bool {
		if out[a].Chance != out[b].Chance {
			return out[a].Chance > out[b].Chance
		}
		return out[a].Finding < out[b].Finding
	})
	return out[:min(5, len(out))]
}

// Apart is one check that tells two causes apart: how likely each answer is with the one and with the other.
type Apart struct {
	Finding, Procedure, Station string
	Minutes                     float64
	Bits                        float64 // expected information about which of the two it is, both at even odds
	Outcomes                    []Split
}

// Split is one answer of a check under either cause.
type Split struct {
	Label string
	A, B  float64
}

// TellApart ranks the checks not yet made by how well they separate two causes for their minutes. It returns nil when one
// of the two cannot occur on the lawn.
func TellApart(c evidence.Case, a, b string, o Options) []Apart {
	g := evidence.Gather(c)
	m := newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) })
	m.money(worth.DefaultPrices, worth.Damage(g.Lawn, g.Values), g.Values)
	m.known = g.Values
	at := map[string]int{}
	for k, ci := range m.active {
		at[knowledge.CauseTable[ci].ID] = k
	}
	ka, okA := at[a]
	kb, okB := at[b]
	if !okA || !okB || a == b {
		return nil
	}
	sets := []set{{[3]int{ka}, 1, .5}, {[3]int{kb}, 1, .5}}
	now := m.marginals(sets, nil)
	begun := map[string]bool{}
	for id := range g.Values {
		if f, ok := knowledge.FindingByID(id); ok {
			begun[f.Procedure] = true
		}
	}
	var out []Apart
	all := knowledge.Findings()
	for fi := range all {
		f := &all[fi]
		if _, done := g.Values[f.ID]; done || f.Kind == knowledge.CauseIDs || f.Steers || !f.Sensible(g.Values, m.turf == 1) {
			continue
		}
		if able, said := o.Tools[f.Procedure]; said && !able {
			continue
		}
		var best *feature
		for _, ft := range m.features(&knowledge.Tables[knowledge.TableAt[f.ID]], sets, now) {
			if best == nil || ft.gain > best.gain {
				best = &ft
			}
		}
		if best == nil || best.gain < .05 {
			continue
		}
		x := Apart{Finding: f.ID, Procedure: f.Procedure, Station: f.Station, Minutes: knowledge.Minutes(f, begun[f.Procedure], ""),
			Bits: round3(best.gain)}
		for o, row := range best.p {
			x.Outcomes = append(x.Outcomes, Split{best.label[o], round3(row[best.of[0]]), round3(row[best.of[1]])})
		}
		sort.SliceStable(x.Outcomes, func(i, j int) bool {
			return math.Abs(x.Outcomes[i].A-x.Outcomes[i].B) > math.Abs(x.Outcomes[j].A-x.Outcomes[j].B)
		})
		x.Outcomes = x.Outcomes[:min(4, len(x.Outcomes))]
		out = append(out, x)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].Bits/out[i].Minutes > out[j].Bits/out[j].Minutes })
	return out[:min(6, len(out))]
}

// unexplainedSaid is the share of "something else" from which the client is told of it (judgement).
const unexplainedSaid = .25

// Telling is from how many bits on an answer is given to a client as a reason (judgement).
const Telling = .4

// Told says what a diagnosis comes to in words for a client: how sure it is, why, what was ruled out and by what, and
// what is still open. Every claim names its reason.
func (r Result) Told() string {
	if len(r.Causes) == 0 {
		return ""
	}
	top := r.Causes[0]
	var s strings.Builder
	name := func(id string) string {
		c, _ := knowledge.CauseByID(id)
		return knowledge.LowerFirst(c.Label)
	}
	switch {
	case r.Other >= unexplainedSaid && r.Other > top.Probability:
		return "What we see fits none of the usual causes well. We would like a laboratory or a second pair of eyes before anything is treated."
	case top.ID == knowledge.Healthy && top.Probability >= .5:
		s.WriteString("We found nothing wrong beyond what is normal for the season")
	case top.ID == knowledge.Healthy:
		s.WriteString("Nothing wrong so far, but we have not checked enough to be sure")
	case top.Probability >= .9:
		fmt.Fprintf(&s, "Almost certainly %s", name(top.ID))
	case top.Probability >= .7:
		fmt.Fprintf(&s, "Very likely %s", name(top.ID))
	case top.Probability >= .5:
		fmt.Fprintf(&s, "Probably %s", name(top.ID))
	default:
		fmt.Fprintf(&s, "Not certain yet; most likely %s", name(top.ID))
	}
	if why := r.reasons(top.ID, top.For, 3, Telling); len(why) > 0 {
		s.WriteString(", because " + knowledge.And(why))
	}
	s.WriteString(".")
	// what is at work beside it, or as likely
	if top.ID != knowledge.Healthy {
		for _, c := range r.Causes[1:min(3, len(r.Causes))] {
			if c.ID == knowledge.Healthy || c.Probability < .3 {
				continue
			}
			word := "may also be involved"
			if c.Probability >= .7 {
				word = "is also involved"
			}
			line := fmt.Sprintf(" %s %s", knowledge.UpperFirst(name(c.ID)), word)
			if why := r.reasons(c.ID, c.For, 2, Telling); len(why) > 0 {
				line += ", because " + knowledge.And(why)
			}
			s.WriteString(line + ".")
		}
	}
	if c, _ := knowledge.CauseByID(top.ID); top.ID != knowledge.Healthy && top.Probability >= .5 {
		for _, id := range strings.Fields(c.Mistaken) {
			for _, x := range r.Causes {
				if x.ID == id && x.Probability < .05 {
					if why := r.reasons(id, x.Against, 2, .6); len(why) > 0 {
						fmt.Fprintf(&s, " We ruled out %s, which looks similar, because %s.", name(id), knowledge.And(why))
						return s.String() + r.open()
					}
				}
			}
		}
	}
	return s.String() + r.open()
}

func (r Result) open() string {
	if !r.Settled && len(r.Next) > 0 && len(r.Causes) > 0 && r.Causes[0].Probability < .9 {
		f, _ := knowledge.FindingByID(r.Next[0].Finding)
		return fmt.Sprintf(" Next we would check: %s.", knowledge.LowerFirst(f.Label))
	}
	return ""
}

// reasons are the strongest rows of a cause's ledger in words.
func (r Result) reasons(cause string, rows []Bits, most int, least float64) []string {
	return Because(cause, rows, most, least, r.say)
}

// Because says the first rows of a cause's ledger in words, at most so many and none of less than the bits. Of a list those words are told
// that point the way the row does: a cause is not given out by what another one shows beside it.
func Because(cause string, rows []Bits, most int, least float64, say units.Saying) []string {
	var out []string
	for _, b := range rows {
		f, ok := knowledge.FindingByID(b.Finding)
		if !ok || len(out) == most || math.Abs(b.Bits) < least {
			continue
		}
		out = append(out, knowledge.Clause(f, b.Finding, pointing(cause, b), say))
	}
	return out
}

// pointing is the value of a row with the words of a list that speak the way the row does; all of them where none does.
func pointing(cause string, b Bits) knowledge.Value {
	c, ok := knowledge.CauseByID(cause)
	if !ok || len(b.Value.List) < 2 {
		return b.Value
	}
	shows := map[string]bool{}
	for _, s := range c.Shows(b.Finding) {
		shows[s.ID] = true
	}
	var words []string
	for _, w := range b.Value.List {
		if shows[w] == (b.Bits > 0) {
			words = append(words, w)
		}
	}
	if words == nil {
		return b.Value
	}
	return knowledge.ListValue(words...)
}
