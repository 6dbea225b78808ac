package diagnosis

import (
	"math"
	"sort"
	"strconv"
)

// Outcome is what one answer of a check would do.
type Outcome struct {
	Label  string  // the value, or the band of a number
	Chance float64 // how likely that answer is now
	Causes []SetP  // the causes that it moves most, with their chance after it; exact for the first check
	at     int     // which outcome of the finding
}

// SetP is a cause with a probability.
type SetP struct {
	ID          string
	Probability float64
}

// NextCheck is one handling worth doing, with the finding that tells most.
type NextCheck struct {
	Finding   string
	Also      []string // further findings of the same handling that tell something
	Procedure string
	GainBits  float64 // expected information about which causes are at work, of up to three findings together
	Minutes   float64 // the set-up, unless already paid on this visit, and the findings
	Decides   bool    // an answer can move a cause across the point from which acting pays
	Days      int     // for samples
	Outcomes  []Outcome
	item      int // for lists the item asked for; −1 otherwise
}

// feature is one thing that can be read off: a finding, or one item of a list.
type feature struct {
	cf    *compiledFinding
	item  int         // for lists; −1 otherwise
	p     [][]float64 // by outcome and set
	none  []float64   // by outcome, where no cause speaks: most sets share it
	gain  float64
	label []string
}

const (
	worthBits   = .03 // less than this is not worth a walk (judgement)
	worthChance = .03 // an answer less likely than this is not waited for (judgement)
)

// nextChecks ranks the handlings by expected gain per minute over the sets that carry the mass. settled is true when no
// answer can carry a cause across its point of action any more.
func (m *model) nextChecks(sets []set, known map[string]Value, tools map[string]bool) (checks []NextCheck, settled bool) {
	now := m.marginals(sets, nil)
	begun := map[string]bool{}
	for id := range known {
		if f, ok := FindingByID(id); ok {
			begun[f.Procedure] = true
		}
	}
	byProcedure := map[string][]feature{}
	for fi := range findings {
		f := &findings[fi]
		if _, done := known[f.ID]; done || f.Kind == CauseIDs {
			continue
		}
		if able, said := tools[f.Procedure]; said && !able {
			continue
		}
		if f.ID == "soil-temp-healthy-c" {
			if _, bad := known["soil-temp-c"]; !bad {
				continue
			}
		}
		if !f.sensible(known, m) {
			continue
		}
		byProcedure[f.Procedure] = append(byProcedure[f.Procedure], m.features(&compiled[compiledAt[f.ID]], sets)...)
	}
	settled = true
	for _, proc := range procedures {
		fs := byProcedure[proc.ID]
		sort.SliceStable(fs, func(a, b int) bool { return fs[a].gain > fs[b].gain })
		if len(fs) == 0 || fs[0].gain < worthBits/2 {
			continue
		}
		top := []feature{fs[0]}
		seen := map[string]bool{fs[0].cf.id: true}
		for _, f := range fs[1:] {
			if len(top) < 3 && f.gain >= .25*fs[0].gain && (!seen[f.cf.id] || f.item >= 0) {
				top = append(top, f)
				seen[f.cf.id] = true
			}
		}
		c := NextCheck{Finding: fs[0].cf.id, Procedure: proc.ID, Days: proc.Days, GainBits: round3(jointGain(top, sets)), Minutes: proc.Setup, item: fs[0].item}
		if begun[proc.ID] {
			c.Minutes = 0
		}
		for id := range seen {
			f, _ := FindingByID(id)
			c.Minutes += f.Minutes
			if id != c.Finding {
				c.Also = append(c.Also, id)
			}
		}
		sort.Strings(c.Also)
		c.Minutes = math.Round(c.Minutes*10) / 10
		if c.GainBits < worthBits {
			continue
		}
		for i := range top {
			for o, row := range top[i].p {
				q := 0.0
				for s := range sets {
					q += sets[s].p * row[s]
				}
				if q < worthChance {
					continue
				}
				then := m.marginals(sets, row)
				if m.crosses(now, then) {
					c.Decides = true
				}
				if i == 0 {
					out := Outcome{Label: top[0].label[o], Chance: math.Round(q*1000) / 1000, Causes: m.moved(now, then), at: o}
					c.Outcomes = append(c.Outcomes, out)
				}
			}
		}
		sort.SliceStable(c.Outcomes, func(a, b int) bool { return c.Outcomes[a].Chance > c.Outcomes[b].Chance })
		if c.Decides {
			settled = false
		}
		checks = append(checks, c)
	}
	sort.SliceStable(checks, func(a, b int) bool {
		ra, rb := checks[a].GainBits/checks[a].Minutes, checks[b].GainBits/checks[b].Minutes
		return ra > rb
	})
	return checks, settled
}

// sensible leaves out checks that the season or another answer makes pointless.
func (f *Finding) sensible(known map[string]Value, m *model) bool {
	switch f.ID {
	case "green-up-percent":
		v, ok := known["soil-temp-class"]
		return m.turf == 1 && (!ok || v.Word == "cold" || v.Word == "cool" || v.Word == "mild")
	case "snow-cover-days":
		_, measured := known["snow-days"]
		return !measured
	case "grub-depth-mm", "grub-size", "grub-kind":
		v, ok := known["grubs-per-m2"]
		return ok && *v.Number >= 10
	case "moss-state":
		v, ok := known["moss-cover-percent"]
		return ok && *v.Number > 0
	case "caterpillar-kind":
		v, ok := known["flush-caterpillars-per-m2"]
		return (ok && *v.Number > 0) || index(known["insects-seen"].List, "caterpillars") >= 0
	case "weed-kinds":
		v, ok := known["weed-cover-percent"]
		return !ok || *v.Number > 0
	case "soil-temp-hour", "tissue-si-percent", "catch-can-mm-h":
		return false // they serve remedies, not causes
	}
	return true
}

// crosses reports whether a cause moves across the point from which acting on it pays.
func (m *model) crosses(now, then []float64) bool {
	for k, ci := range m.active {
		t := causes[ci].actAbove()
		if (now[k] >= t) != (then[k] >= t) && math.Abs(now[k]-then[k]) > .05 {
			return true
		}
	}
	return false
}

func (c *Cause) actAbove() float64 {
	if c.ActAbove > 0 {
		return c.ActAbove
	}
	return .5
}

// ActAbove is the chance from which acting on the cause pays without a further check.
func ActAbove(id string) float64 {
	if i, ok := causeIndex[id]; ok {
		return causes[i].actAbove()
	}
	return .5
}

// marginals are the causes' probabilities over the sets, after an outcome with the given chance in each set.
func (m *model) marginals(sets []set, row []float64) []float64 {
	out := make([]float64, len(m.active))
	total := 0.0
	for s := range sets {
		w := sets[s].p
		if row != nil {
			w *= row[s]
		}
		total += w
		for k := 0; k < sets[s].size; k++ {
			out[sets[s].members[k]] += w
		}
	}
	if total > 0 {
		for k := range out {
			out[k] /= total
		}
	}
	return out
}

// features lists what can be read off a finding, with the chance of each outcome in each set.
func (m *model) features(cf *compiledFinding, sets []set) []feature {
	rows := make([]*dist, len(m.active))
	speaks := false
	for k, ci := range m.active {
		if d := cf.byCause[ci][m.turf]; d != nil {
			rows[k], speaks = d, true
		}
	}
	if !speaks {
		return nil
	}
	if cf.f.Kind == AnyOf {
		var out []feature
		for vi, item := range cf.values {
			if item == "none" {
				continue
			}
			b := cf.leak(vi)
			present, absent := make([]float64, len(sets)), make([]float64, len(sets))
			any := false
			for s := range sets {
				q := 1 - b
				for k := 0; k < sets[s].size; k++ {
					if d := rows[sets[s].members[k]]; d != nil && d.p[vi] > 0 {
						q *= 1 - math.Min(d.p[vi]*d.grip, .985)
						any = true
					}
				}
				present[s], absent[s] = 1-q, q
			}
			if !any {
				continue
			}
			q := 1 - b
			ft := feature{cf: cf, item: vi, p: [][]float64{present, absent}, none: []float64{1 - q, q}, label: []string{item, "not " + item}}
			ft.gain = jointGain([]feature{ft}, sets)
			out = append(out, ft)
		}
		return out
	}
	n := len(cf.background.p)
	ft := feature{cf: cf, item: -1, p: make([][]float64, n), none: cf.background.p, label: cf.outcomeLabels()}
	for v := range ft.p {
		ft.p[v] = make([]float64, len(sets))
	}
	for s := range sets {
		N, G := 1.0, 0.0
		for k := 0; k < sets[s].size; k++ {
			if d := rows[sets[s].members[k]]; d != nil {
				N *= 1 - d.grip
				G += d.grip
			}
		}
		for v := 0; v < n; v++ {
			p := N * cf.background.p[v]
			if G > 0 {
				mix := 0.0
				for k := 0; k < sets[s].size; k++ {
					if d := rows[sets[s].members[k]]; d != nil {
						mix += d.grip * d.p[v]
					}
				}
				p += (1 - N) * mix / G
			}
			ft.p[v][s] = p
		}
	}
	ft.gain = jointGain([]feature{ft}, sets)
	return []feature{ft}
}

func (cf *compiledFinding) outcomeLabels() []string {
	if cf.f.Kind != Number {
		return cf.values
	}
	s := func(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }
	out := []string{"under " + s(cf.f.Bands[0])}
	for i := 1; i < len(cf.f.Bands); i++ {
		out = append(out, s(cf.f.Bands[i-1])+" to "+s(cf.f.Bands[i]))
	}
	return append(out, s(cf.f.Bands[len(cf.f.Bands)-1])+" and more")
}

// jointGain is the mutual information, in bits, between the set of causes and up to three features, which are
// independent of each other once the set is given. Branches less likely than 0.0005 are left out.
func jointGain(fs []feature, sets []set) float64 {
	gain := 0.0
	depth := make([][]float64, len(fs)+1)
	for i := range depth {
		depth[i] = make([]float64, len(sets))
	}
	for s := range sets {
		depth[0][s] = 1
	}
	var walk func(i int, none float64)
	walk = func(i int, none float64) {
		chance := depth[i]
		q := 0.0
		for s := range sets {
			q += sets[s].p * chance[s]
		}
		if q < 5e-4 {
			return
		}
		if i == len(fs) {
			// Σ p·c·ln(c/q); sets that nothing speaks of share one value, whose logarithm is taken once
			inv := 1 / q
			shared, mass := math.Log(none*inv), 0.0
			for s := range sets {
				switch c := chance[s]; {
				case c == none:
					mass += sets[s].p
				case c > 0:
					gain += sets[s].p * c * math.Log(c*inv)
				}
			}
			if none > 0 {
				gain += mass * none * shared
			}
			return
		}
		for o, row := range fs[i].p {
			next := depth[i+1]
			for s := range sets {
				next[s] = chance[s] * row[s]
			}
			walk(i+1, none*fs[i].none[o])
		}
	}
	walk(0, 1)
	return math.Max(0, gain/math.Ln2)
}

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }
