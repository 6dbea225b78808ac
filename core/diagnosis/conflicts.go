package diagnosis

import (
	"fmt"
	"slices"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// misread suspects the one answer that stands against all others: without it a cause would be all but sure. Only single values are
// taken back; a list is many answers.
func (m *model) misread(r *Result, evs []observed, post posterior) []evidence.Notice {
	for _, finding := range m.suspected(r) {
		at := slices.IndexFunc(evs, func(e observed) bool { return e.finding == finding && len(e.terms) == 1 && len(e.aways) == 0 })
		if at < 0 {
			continue
		}
		marginal, _ := m.more(post, &evs[at].terms[0], 1/m.share(&evs[at]), true)
		for k, ci := range m.active {
			if marginal[k] < suspectWithout || r.P(knowledge.CauseTable[ci].ID) > suspectWith {
				continue
			}
			f, _ := knowledge.FindingByID(finding)
			return []evidence.Notice{{About: finding, Text: fmt.Sprintf(
				"%s stands alone against %s, which all else points to: look again, %s",
				knowledge.InWords(
					f,
					finding,
					r.Values[finding],
					r.say,
				),
				knowledge.LowerFirst(knowledge.CauseTable[ci].Label),
				knowledge.LookAgain(finding),
			)}}
		}
	}
	return nil
}

// suspected are the answers that speak much against a likely cause, of the likeliest causes first.
func (m *model) suspected(r *Result) (out []string) {
	asked := 0
	for i := range m.told {
		if f, ok := knowledge.FindingByID(m.told[i].finding); ok && f.Asked() {
			asked++
		}
	}
	if asked < suspectAnswers {
		return nil
	}
	for _, c := range r.Causes {
		if c.ID == knowledge.Healthy || c.Probability > suspectWith || c.Probability < suspectLeast {
			continue
		}
		for _, b := range c.Against {
			f, ok := knowledge.FindingByID(b.Finding)
			if ok && f.Asked() && b.Bits <= suspectBits && slices.Index(out, b.Finding) < 0 && len(out) < suspects {
				out = append(out, b.Finding)
			}
		}
	}
	return out
}
