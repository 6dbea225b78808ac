package casework

import (
	"encoding/json"
	"slices"
	"time"

	"hodos/core/knowledge"
	"hodos/exchange/casefile"
	"hodos/store"
)

// Before is what a check showed when the diagnosis was made that a recovery is followed after.
type Before struct {
	Finding string
	Value   any
	On      time.Time
}

// mostAgain is how many checks are made again at a look, beside what was counted: those that made the diagnosis (judgement).
const mostAgain = 4

// SameChecks are the checks of a diagnosis that are worth making again at a look: what was counted first, then what spoke most for it. What
// a client tells, a laboratory finds or the weather says is not looked at again.
func SameChecks(d store.Diagnosis) ([]Before, error) {
	var r casefile.Result
	if err := json.Unmarshal(d.Result, &r); err != nil {
		return nil, err
	}
	out := []Before{}
	for _, c := range r.Causes {
		if c.ID != d.Leading {
			continue
		}
		for _, row := range c.For {
			f, ok := knowledge.FindingByID(row.Finding)
			if !ok || !f.Asked() || f.Station == "ask" || f.Station == "lab" || f.Kind == knowledge.CauseIDs || f.Kind == knowledge.CauseOrNone {
				continue
			}
			out = append(out, Before{row.Finding, row.Value, d.GivenOn})
		}
	}
	counted := func(b Before) int {
		if f, _ := knowledge.FindingByID(b.Finding); f.Unit == "1/m2" {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(out, func(a, b Before) int { return counted(a) - counted(b) })
	return out[:min(len(out), mostAgain)], nil
}
