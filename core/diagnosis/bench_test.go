package diagnosis

import (
	"testing"
	"time"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// busy is a lawn of unknown grass, so that no cause is ruled out, with forty findings.
func busy() evidence.Case {
	vals := map[string]knowledge.Value{}
	for _, f := range knowledge.FindingTable {
		if len(vals) == 40 {
			break
		}
		switch f.Kind {
		case knowledge.OneOf:
			vals[f.ID] = knowledge.WordValue(f.Values[0])
		case knowledge.AnyOf:
			vals[f.ID] = knowledge.ListValue(f.Values[1])
		case knowledge.YesNo:
			vals[f.ID] = knowledge.YesValue(true)
		case knowledge.Number:
			vals[f.ID] = knowledge.NumberValue((f.Min + f.Max) / 20)
		}
	}
	return evidence.Case{Lawn: knowledge.Lawn{Date: time.Date(2026, 7, 10, 0, 0, 0, 0, time.UTC), Latitude: 38,
		Species: []string{"unknown"}}, Findings: vals}
}

func setup(b *testing.B) (*model, []observed) {
	b.Helper()
	c := busy()
	g := evidence.Gather(c)
	m := newModel(g.Lawn, func(i int) float64 { return knowledge.Prior(&knowledge.CauseTable[i], g.Lawn, g.Values) })
	evs := m.observeAll(&g)
	return m, evs
}

func BenchmarkSumFortyFindings(b *testing.B) {
	m, evs := setup(b)
	b.ReportAllocs()
	for b.Loop() {
		m.sum(evs, false)
	}
}

// BenchmarkOneMoreAnswer weighs one more answer onto the kept weights of all sets.
func BenchmarkOneMoreAnswer(b *testing.B) {
	m, evs := setup(b)
	post := m.sum(evs, true)
	t := m.outcomeTerm(&knowledge.Tables[knowledge.TableAt["pull-test"]], -1, 1)
	b.ReportAllocs()
	for b.Loop() {
		m.more(post, t, 1, false)
	}
}

// BenchmarkBareLoop is the same arithmetic without any hoisting, as the yardstick.
func BenchmarkBareLoop(b *testing.B) {
	m, evs := setup(b)
	for b.Loop() {
		bareSum(m, evs)
	}
}

func BenchmarkNextChecks(b *testing.B) {
	m, evs := setup(b)
	post := m.sum(evs, true)
	known := busy().Findings
	b.ReportAllocs()
	for b.Loop() {
		sets, _ := post.heaviest(.98, 600)
		m.rank(sets, ask{known: known})
	}
}

func BenchmarkNextChecksAtTheStart(b *testing.B) {
	m, _ := setup(b)
	post := m.sum(nil, true)
	sets, carried := post.heaviest(.98, 600)
	for b.Loop() {
		m.rank(sets, ask{})
	}
	b.ReportMetric(float64(len(sets)), "sets")
	b.ReportMetric(carried, "mass")
}

func BenchmarkWholeDiagnosis(b *testing.B) {
	c := busy()
	b.ReportAllocs()
	for b.Loop() {
		Diagnose(c, Options{})
	}
}

// bareSum weighs every set on its own, term by term.
func bareSum(m *model, evs []observed) posterior {
	n := len(m.active)
	p := posterior{n: n, marginal: make([]float64, n)}
	weigh := func(size int, ms ...int) float64 {
		w := sizeFactor[size]
		for a, i := range ms {
			w *= m.odds[i]
			for _, j := range ms[:a] {
				w *= m.pair[i*n+j]
			}
		}
		for e := range evs {
			for _, i := range ms {
				w *= evs[e].alone(i)
			}
			for t := range evs[e].terms {
				N, G, E := 1.0, 0.0, 0.0
				for _, i := range ms {
					N, G, E = N*(1-evs[e].terms[t].g[i]), G+evs[e].terms[t].g[i], E+evs[e].terms[t].e[i]
				}
				if G > 0 {
					w *= N + (1-N)*E/G
				}
			}
		}
		for _, i := range ms {
			p.marginal[i] += w
		}
		return w
	}
	p.empty, p.other = sizeFactor[0], otherFactor
	for e := range evs {
		p.empty *= evs[e].sound
		p.other *= evs[e].other
	}
	total := p.empty + p.other
	for i := 0; i < n; i++ {
		total += weigh(1, i)
		for j := i + 1; j < n; j++ {
			total += weigh(2, i, j)
			for k := j + 1; k < n; k++ {
				total += weigh(3, i, j, k)
			}
		}
	}
	p.empty /= total
	p.other /= total
	for i := range p.marginal {
		p.marginal[i] /= total
	}
	return p
}
