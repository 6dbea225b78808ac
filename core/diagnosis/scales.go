package diagnosis

// Scales is one lawn being weighed answer by answer, without weather series or records to be read: for the simulation and
// for lawns to train on. It is not safe for use by several goroutines.
type Scales struct {
	m       *model
	evs     []evidence
	known   map[string]Value
	skip    map[string]bool
	post    posterior
	weighed bool
	at      string // the station where the specialist stands
}

// NewScales begins with the priors of the lawn.
func NewScales(l Lawn) *Scales {
	return &Scales{m: newModel(l, func(i int) float64 { return prior(&causes[i], l) }), known: map[string]Value{}, skip: map[string]bool{}}
}

// Add puts an answer on the scales; a second answer to the same finding is left out.
func (s *Scales) Add(id string, v Value) {
	if _, twice := s.known[id]; twice {
		return
	}
	s.known[id] = v
	s.stand(id)
	if ev := s.m.observe(id, v); ev.weighed {
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
	if f, ok := FindingByID(id); ok && f.Station != "weather" {
		s.at = f.Station
	}
}

func (s *Scales) weigh() {
	if !s.weighed {
		s.m.room = s.post.weight
		s.post, s.weighed = s.m.sum(s.evs, true), true
	}
}

// Each calls f with the chance of every cause that the grass can have, and of nothing being wrong.
func (s *Scales) Each(f func(cause string, p float64)) {
	s.weigh()
	for k, ci := range s.m.active {
		f(causes[ci].ID, s.post.marginal[k])
	}
	f(Healthy, s.post.empty)
}

// Next ranks the checks worth doing, as Diagnose does; settled is true when none can change a decision any more.
func (s *Scales) Next(tools map[string]bool) (checks []NextCheck, settled bool) {
	s.weigh()
	sets, _ := s.post.heaviest(.98, 600)
	return s.m.nextChecks(sets, ask{known: s.known, skip: s.skip, tools: tools, at: s.at, bare: true})
}

// Sensible reports whether a finding is worth asking for beside what is known: sizes of grubs only where there are some.
func (s *Scales) Sensible(id string) bool {
	f, ok := FindingByID(id)
	return ok && f.sensible(s.known, s.m)
}

// Minutes is what a finding costs: its own time, its procedure's set-up when begun is false, and the way to its station
// when one stands elsewhere.
func Minutes(f *Finding, begun bool, at string) float64 {
	min := f.Minutes
	if p, ok := ProcedureByID(f.Procedure); ok && !begun {
		min += p.Setup
	}
	if at != "" && at != f.Station {
		min += MoveMinutes
	}
	return min
}

// MoveMinutes is what it takes to put one station's tools down and begin at another (judgement).
const MoveMinutes = .5
