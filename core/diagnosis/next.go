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
	Station   string   // where on the visit it is done
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
	worthBits   = .01  // less than this is not worth a walk (judgement)
	hopeless    = .004 // what only causes speak of that are together less likely than this is not looked at (judgement)
	together    = 5    // so many checks are looked at together before nothing is said to change a decision (judgement)
	worthChance = .005 // an answer less likely than this is not waited for (judgement)
)

// ask is what the next checks depend on beside the causes.
type ask struct {
	known map[string]Value
	skip  map[string]bool // findings that cannot be had
	tools map[string]bool // procedures that cannot be done are false
	at    string          // the station where the specialist stands, or ""
	bare  bool            // leave out what each outcome would do to the causes
}

// nextChecks ranks the handlings by expected gain per minute over the sets that carry the mass. settled is true when no
// answer can carry a cause across its point of action any more.
func (m *model) nextChecks(sets []set, a ask) (checks []NextCheck, settled bool) {
	checks, settled, _ = m.look(sets, a)
	return checks, settled
}

// look is nextChecks with everything that can still be read off, by procedure.
func (m *model) look(sets []set, a ask) (checks []NextCheck, settled bool, byProcedure map[string][]feature) {
	known, tools := a.known, a.tools
	now := m.marginals(sets, nil)
	begun := map[string]bool{}
	for id := range known {
		if f, ok := FindingByID(id); ok {
			begun[f.Procedure] = true
		}
	}
	byProcedure = map[string][]feature{}
	for fi := range findings {
		f := &findings[fi]
		if _, done := known[f.ID]; done || a.skip[f.ID] || f.Kind == CauseIDs || f.Steers {
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
		byProcedure[f.Procedure] = append(byProcedure[f.Procedure], m.features(&compiled[compiledAt[f.ID]], sets, now)...)
	}
	settled = true
	for _, proc := range procedures {
		fs := byProcedure[proc.ID]
		sort.SliceStable(fs, func(a, b int) bool { return fs[a].gain > fs[b].gain })
		if len(fs) == 0 || fs[0].gain < worthBits {
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
		c := NextCheck{Finding: fs[0].cf.id, Station: fs[0].cf.f.Station, Procedure: proc.ID, Days: proc.Days,
			GainBits: round3(jointGain(top, sets)), Minutes: proc.Setup, item: fs[0].item}
		if begun[proc.ID] {
			c.Minutes = 0
		}
		if a.at != "" && a.at != c.Station {
			c.Minutes += MoveMinutes
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
				if i == 0 && !a.bare {
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
	if settled && len(checks) > 0 && m.togetherCross(now, byProcedure, sets) {
		settled = false
	}
	sort.SliceStable(checks, func(a, b int) bool {
		ra, rb := checks[a].GainBits/checks[a].Minutes, checks[b].GainBits/checks[b].Minutes
		return ra > rb
	})
	return checks, settled, byProcedure
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

// crosses reports whether an answer changes a decision: a cause moves across the point from which acting on it pays, or
// another cause, or nothing at all, comes to lead.
func (m *model) crosses(now, then []float64) bool {
	if a, b := leader(now), leader(then); a != b && (a < 0 || b < 0 || then[b] > then[a]+.02) {
		return true
	}
	for k, ci := range m.active {
		t := m.act[ci]
		if (now[k] >= t) != (then[k] >= t) && math.Abs(now[k]-then[k]) > .05 {
			return true
		}
	}
	return false
}

// togetherCross reports whether the answers of the most telling checks, taken together, can still change a decision where
// no single one can.
func (m *model) togetherCross(now []float64, byProcedure map[string][]feature, sets []set) bool {
	var best []feature
	for _, proc := range procedures {
		fs := byProcedure[proc.ID]
		best = append(best, fs[:min(2, len(fs))]...)
	}
	sort.SliceStable(best, func(a, b int) bool { return best[a].gain > best[b].gain })
	best = best[:min(together, len(best))]
	var walk func(i int, chance []float64) bool
	walk = func(i int, chance []float64) bool {
		q := 0.0
		for s := range sets {
			q += sets[s].p * chance[s]
		}
		if q < worthChance {
			return false
		}
		if i > 1 && m.crosses(now, m.marginals(sets, chance)) {
			return true
		}
		if i == len(best) {
			return false
		}
		for _, row := range best[i].p {
			next := make([]float64, len(sets))
			for s := range sets {
				next[s] = chance[s] * row[s]
			}
			if walk(i+1, next) {
				return true
			}
		}
		return false
	}
	even := make([]float64, len(sets))
	for s := range even {
		even[s] = 1
	}
	return walk(0, even)
}

// leader is the most probable of the marginals; −1 when none reaches a fifth, so that nothing leads yet.
func leader(p []float64) int {
	if at := most(p); at >= 0 && p[at] >= .2 {
		return at
	}
	return -1
}

// most is the most probable of the marginals; −1 of none.
func most(p []float64) int {
	at := -1
	for k := range p {
		if at < 0 || p[k] > p[at] {
			at = k
		}
	}
	return at
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
// A finding of which only causes speak that are next to impossible now has none.
func (m *model) features(cf *compiledFinding, sets []set, now []float64) []feature {
	rows := make([]*dist, len(m.active))
	speak := 0.0
	for k, ci := range m.active {
		if d := cf.byCause[ci][m.turf]; d != nil {
			rows[k] = d
			speak += now[k]
		}
	}
	if speak < hopeless {
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
			likely := 0.0
			for k, d := range rows {
				if d != nil && d.p[vi] > 0 {
					likely += now[k]
				}
			}
			if likely < hopeless {
				continue
			}
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
			if ft.bound(sets) < worthBits/4 {
				continue
			}
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
	if ft.bound(sets) < worthBits/4 {
		return nil
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

// bound is what the gain of a feature cannot exceed, in bits, without a logarithm for each set: log₂(1 + χ²), with the
// χ² distance of the outcomes given the set from the outcomes by themselves, by Jensen's inequality.
func (f *feature) bound(sets []set) float64 {
	chi := -1.0
	for _, row := range f.p {
		q, qq := 0.0, 0.0
		for s := range sets {
			w := sets[s].p * row[s]
			q += w
			qq += w * row[s]
		}
		if q > 0 {
			chi += qq / q
		}
	}
	return math.Log2(1 + math.Max(0, chi))
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

// Bundle picks from ranked checks those to make at one stop: the first, and the others of its station that tell at
// least a third as much for their minutes, so that nobody walks back and forth (judgement).
func Bundle(checks []NextCheck) []NextCheck {
	var out []NextCheck
	for _, c := range checks {
		if c.Station == checks[0].Station && c.GainBits/c.Minutes >= checks[0].GainBits/checks[0].Minutes/3 {
			out = append(out, c)
		}
	}
	return out
}
