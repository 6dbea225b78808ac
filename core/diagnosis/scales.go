package diagnosis

import (
	"slices"

	"hodos/core/knowledge"
	"hodos/core/worth"
)

// Scales is one lawn being weighed answer by answer, without weather series or records to be read: for the simulation and
// for lawns to train on. It is not safe for use by several goroutines.
type Scales struct {
	m       *model
	evs     []observed
	known   map[string]knowledge.Value
	skip    map[string]bool
	post    posterior
	weighed bool
	at      string // the station where the specialist stands
}

// NewScales begins with the priors of the lawn.
func NewScales(l knowledge.Lawn) *Scales {
	return &Scales{m: newModel(l, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], l, nil) }),
		known: map[string]knowledge.Value{}, skip: map[string]bool{}}
}

// Add puts an answer on the scales; a second answer to the same finding is left out.
func (s *Scales) Add(id string, v knowledge.Value) {
	if _, twice := s.known[id]; twice {
		return
	}
	s.known[id] = v
	s.stand(id)
	if ev := s.m.observe(id, v); ev.weighed || ev.sound != 1 {
		s.evs = append(s.evs, ev)
		s.weighed = false
	}
}

// Skip says that a finding cannot be had on this lawn: it is not proposed again.
func (s *Scales) Skip(id string) {
	s.skip[id] = true
	s.stand(id)
}

func (s *Scales) stand(id string) {
	if f, ok := knowledge.FindingByID(id); ok && f.Station != "weather" {
		s.at = f.Station
	}
}

func (s *Scales) weigh() {
	if !s.weighed {
		s.m.room = s.post.weight
		s.post, s.weighed = s.m.sum(s.m.once(s.evs), true), true
		s.m.sound = s.post.soundShare()
	}
}

// Each calls f with the chance of every cause that the grass can have, of nothing being wrong, and of something else being wrong.
func (s *Scales) Each(f func(cause string, p float64)) {
	s.weigh()
	for k, ci := range s.m.active {
		f(knowledge.CauseTable[ci].ID, s.post.marginal[k])
	}
	f(knowledge.Healthy, s.post.empty)
	f(knowledge.Unexplained, s.post.other)
}

// Regret is what acting on these scales earns less than acting on the truth would, in the firm's money: each cause is acted on where that
// pays and its proof is known.
func (s *Scales) Regret(truth []string) float64 {
	s.weigh()
	s.m.money(worth.DefaultPrices, worth.Damage(s.m.lawn, s.known), s.known)
	regret := 0.0
	for k, ci := range s.m.active {
		st := choice{s.post.marginal[k], s.m.stake.benefit[k], s.m.stake.harm[k], s.m.stake.open[k]}
		regret += st.regret(slices.Contains(truth, knowledge.CauseTable[ci].ID))
	}
	return regret
}

// Next ranks the checks worth doing, as Diagnose does; settled is true when none can change a decision any more, enough when what is
// left would hardly change anything.
func (s *Scales) Next(tools map[string]bool) (checks []NextCheck, settled, enough bool) {
	s.weigh()
	sets, _ := s.post.heaviest(.98, 600)
	s.m.money(worth.DefaultPrices, worth.Damage(s.m.lawn, s.known), s.known)
	r := s.m.rank(sets, ask{known: s.known, skip: s.skip, tools: tools, at: s.at, bare: true})
	return r.checks, r.settled, r.enough
}

// Sample is the sample, as the procedure that takes it, that would gain most beyond its price, with that price: the laboratory and the
// days of waiting for it, in the firm's money. It is "" where none is worth it, of those that are not sent yet.
func (s *Scales) Sample(sent map[string]bool) (procedure string, price float64) {
	tools := map[string]bool{}
	for _, p := range knowledge.Procedures() {
		tools[p.ID] = p.Days > 0 && !sent[p.ID]
	}
	checks, _, _ := s.Next(tools)
	most := 0.0
	for i := range checks {
		c := &checks[i]
		fee := c.fee(&s.m.stake)
		if net := c.Worth - fee - (c.Minutes+handling)*s.m.stake.hour/60; net > most {
			procedure, price, most = c.Procedure, fee, net
		}
	}
	return procedure, price
}

// Sensible reports whether a finding is worth asking for beside what is known: sizes of grubs only where there are some.
func (s *Scales) Sensible(id string) bool {
	f, ok := knowledge.FindingByID(id)
	return ok && f.Sensible(s.known, s.m.turf == 1)
}
