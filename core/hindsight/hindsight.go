// Package hindsight looks back on diagnoses: which checks decided, what a visit saved, how the lawn was watered before it, and what the
// closed cases of a firm teach beside the tables.
package hindsight

import (
	"maps"
	"slices"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/soil"
	"hodos/core/weather"
)

// View is what one case looks like afterwards.
type View struct {
	Checks []Check
	// Expected are the chances by cause before anything was seen, by the tables alone, of one cause at work; nil where the case is open.
	Expected map[string]float64
	Money    *Money // nil where the case is open
	Water    *Water // nil where no log of the water was kept, or the lawn was not to be kept green
}

// Check is one handling of the visit.
type Check struct {
	Procedure string
	Minutes   float64 // its set-up and its findings
	Decided   bool    // without it another cause would have led, or something else would have been done
}

// Money is what deciding by what was known costs against deciding by the truth, in the firm's money.
type Money struct {
	Told  float64 // by what the client and the records said, with the weather
	Given float64 // by all that the visit found
}

// Water is what was given and what keeping the lawn green would have asked for in the weeks before the visit, mm.
type Water struct{ Given, Asked float64 }

// WaterDays is over how many days before a visit the water is held against what was asked for (judgement: four weeks even out a storm).
const WaterDays = 28

// Back looks back on a case. truth is the cause that it was closed with; empty while it is open.
func Back(c evidence.Case, truth string) View {
	whole := plainly(c)
	v := View{Checks: checks(c, whole), Water: water(c, whole)}
	if _, ok := knowledge.CauseByID(truth); !ok {
		return v
	}
	told := plainly(without(c, func(f *knowledge.Finding) bool { return f.Station != "ask" }))
	told.Damage = whole.Damage // the same lawn is at stake
	v.Money = &Money{told.Regret(truth), whole.Regret(truth)}
	v.Expected = expected(c, truth)
	return v
}

// plainly weighs a case without next checks and ledgers, and without what the firm's own cases teach: it is held against the tables.
func plainly(c evidence.Case) diagnosis.Result {
	c.Context.Learnt = nil
	return diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})
}

// without is a case without some of its findings, wherever they were told.
func without(c evidence.Case, drop func(f *knowledge.Finding) bool) evidence.Case {
	gone := func(id string) bool {
		f, ok := knowledge.FindingByID(id)
		return ok && drop(f)
	}
	c.Findings, c.Reference, c.Samples = maps.Clone(c.Findings), maps.Clone(c.Reference), maps.Clone(c.Samples)
	maps.DeleteFunc(c.Findings, func(id string, _ knowledge.Value) bool { return gone(id) })
	maps.DeleteFunc(c.Reference, func(id string, _ knowledge.Value) bool { return gone(id) })
	maps.DeleteFunc(c.Samples, func(id string, _ []any) bool { return gone(id) })
	return c
}

// checks are the handlings of a visit in the order of the vocabulary, each with what would have been decided without it. What was read off
// the records took no visit.
func checks(c evidence.Case, whole diagnosis.Result) (out []Check) {
	minutes := map[string]float64{}
	for _, f := range knowledge.Findings() { // in one order, so that the sums are always the same
		_, found := c.Findings[f.ID]
		if _, counted := c.Samples[f.ID]; found || counted {
			minutes[f.Procedure] += f.Minutes
		}
	}
	led, acts := leading(whole), whole.ActsOn()
	slices.Sort(acts)
	for _, p := range knowledge.Procedures() {
		took, done := minutes[p.ID]
		if !done || p.ID == "records" {
			continue
		}
		r := plainly(without(c, func(f *knowledge.Finding) bool { return f.Procedure == p.ID }))
		then := r.ActsOn()
		slices.Sort(then)
		out = append(out, Check{p.ID, p.Setup + took, leading(r) != led || !slices.Equal(acts, then)})
	}
	return out
}

func leading(r diagnosis.Result) string {
	if len(r.Causes) == 0 {
		return ""
	}
	return r.Causes[0].ID
}

// water holds the days before a visit against what was asked for; nil unless the water of each of them is known.
func water(c evidence.Case, whole diagnosis.Result) *Water {
	if c.Policy.SummerWater == "let-rest" || c.Policy.SummerWater == "one-area" || c.Lawn.Irrigated != nil && !*c.Lawn.Irrigated {
		return nil
	}
	days := c.Weather
	from := len(days) - WaterDays
	if from < 1 || len(whole.Sky.Balance.Days) < len(days) {
		return nil
	}
	w := Water{Asked: soil.Asked(whole.Sky.Ground.Zone, daily(days[from:]), whole.Sky.Balance.Days[from-1].Depletion)}
	for _, d := range days[from:] {
		if d.Irrigation == nil {
			return nil
		}
		w.Given += *d.Irrigation
	}
	return &w
}

func daily(days []weather.Day) []weather.Day {
	out := make([]weather.Day, len(days))
	for i, d := range days {
		out[i] = d.Daily()
	}
	return out
}

// expected are the chances of the causes of damage by grass, month and place alone, one of them at work. What only stands behind a damage
// (thatch, compaction, shade) is left out, because a case is seldom closed with it; nil where the case was.
func expected(c evidence.Case, truth string) map[string]float64 {
	if knowledge.Backdrop(truth) {
		return nil
	}
	sum := 0.0
	out := map[string]float64{}
	for i := range knowledge.CauseTable {
		cause := &knowledge.CauseTable[i]
		if odds := knowledge.Prior(cause, c.Lawn, nil); odds > 0 && !knowledge.Backdrop(cause.ID) {
			out[cause.ID] = odds / (1 + odds)
			sum += out[cause.ID]
		}
	}
	for id := range out {
		out[id] /= sum
	}
	return out
}
