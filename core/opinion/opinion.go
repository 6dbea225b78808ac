// Package opinion says why what was thought of a zone on one day differs from what is thought of it on another.
package opinion

import (
	"cmp"
	"math"
	"slices"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
)

// Reason is one fact that moved the scales between two days.
type Reason struct {
	Finding string           // as in the ledger: an id, with the cause behind a colon where it is told by cause
	Was, Is *knowledge.Value // nil where it was not known on that day
	Bits    float64          // toward what leads now and away from what led then; where the same leads, for it
}

// Turn is the way from one day to another, weighed by the same tables.
type Turn struct {
	Cause  string  // what leads now
	Then   float64 // its chance then
	Now    float64
	Before string  // what led then, where that is something else
	Left   float64 // the chance that it has now
	Season float64 // bits that month and place have moved
	Nearby float64 // bits that confirmed cases round about have moved
	Learnt float64 // bits that the firm's own closed cases have moved
	// Reasons are the strongest facts that moved it, at most five.
	Reasons []Reason
}

// least is what a fact has to move, in bits, to be told, and most is how many are (judgement).
const (
	least = .25
	most  = 5
)

// Between says what turned one diagnosis of a zone into another. Both carry their ledgers; led is what was told to lead then. A result
// without causes has nothing to say.
func Between(then, now diagnosis.Result, led string) Turn {
	if len(now.Causes) == 0 {
		return Turn{}
	}
	lead := now.Causes[0].ID
	a := sheetOf(then, lead).less(sheetOf(now, lead))
	t := Turn{Cause: lead, Then: then.P(lead), Now: now.P(lead)}
	if led != lead && led != "" {
		t.Before, t.Left = led, now.P(led)
		b := sheetOf(then, led).less(sheetOf(now, led))
		a = b.less(a)
	}
	t.Season, t.Nearby, t.Learnt = round1(a.prior), round1(a.nearby), round1(a.learnt)
	for id, bits := range a.rows {
		if bits = round1(bits); math.Abs(bits) >= least {
			t.Reasons = append(t.Reasons, Reason{Finding: id, Was: valueIn(then, id), Is: valueIn(now, id), Bits: bits})
		}
	}
	slices.SortFunc(t.Reasons, func(x, y Reason) int {
		return cmp.Or(cmp.Compare(math.Abs(y.Bits), math.Abs(x.Bits)), cmp.Compare(x.Finding, y.Finding))
	})
	t.Reasons = t.Reasons[:min(most, len(t.Reasons))]
	return t
}

// sheet is the ledger of one cause: bits by finding.
type sheet struct {
	prior, nearby, learnt float64
	rows                  map[string]float64
}

func sheetOf(r diagnosis.Result, cause string) sheet {
	s := sheet{rows: map[string]float64{}}
	for _, c := range r.Causes {
		if c.ID != cause {
			continue
		}
		s.prior, s.nearby, s.learnt = c.PriorBits, c.NearbyBits, c.LearntBits
		for _, row := range slices.Concat(c.For, c.Against) {
			s.rows[row.Finding] += row.Bits
		}
	}
	return s
}

// less is another sheet less this one: what was added since.
func (s sheet) less(later sheet) sheet {
	d := sheet{later.prior - s.prior, later.nearby - s.nearby, later.learnt - s.learnt, map[string]float64{}}
	for id, x := range later.rows {
		d.rows[id] = x - s.rows[id]
	}
	for id, x := range s.rows {
		if _, still := later.rows[id]; !still {
			d.rows[id] = -x
		}
	}
	return d
}

func valueIn(r diagnosis.Result, id string) *knowledge.Value {
	if v, ok := r.Values[id]; ok {
		return &v
	}
	return nil
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }
