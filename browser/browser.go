// Package browser is the core as the page on a device asks it: cases are taken over while there is a connection, and weighed anew with what
// is answered without one.
package browser

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"

	"hodos/core/counts"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/exchange/counted"
)

// Core keeps the cases that it was given.
type Core struct {
	cases map[string]kept
}

type kept struct {
	c   evidence.Case
	say units.Saying
}

// mostCases is how many cases are kept: the zones of a day.
const mostCases = 200

// Take keeps a case file under a key, in place of what stood there; system is "metric" or "us". The error says what is wrong with the file.
func (k *Core) Take(key string, file []byte, system string) error {
	c, err := casefile.Parse(file)
	if err != nil {
		return fmt.Errorf("case: %w", err)
	}
	if k.cases == nil || len(k.cases) >= mostCases {
		k.cases = map[string]kept{} // a page that has seen so many asks for what it needs again
	}
	k.cases[key] = kept{c, units.In(system)}
	return nil
}

// Answer is one answer that the case does not know yet; a value of nil takes one back.
type Answer struct {
	Finding string         `json:"finding"`
	Spot    string         `json:"spot"`
	Value   any            `json:"value"`
	Tally   *counted.Tally `json:"tally"`
}

// errUnknown: the case was not taken over.
var errUnknown = errors.New("this lawn was not fetched before the connection was lost")

// Weigh is what a case comes to with some answers more, in the order of the taps: the same JSON as the server's.
func (k *Core) Weigh(key string, answers []byte) ([]byte, error) {
	was, ok := k.cases[key]
	if !ok {
		return nil, errUnknown
	}
	var list []Answer
	if err := json.Unmarshal(answers, &list); err != nil {
		return nil, fmt.Errorf("answers: %w", err)
	}
	c := was.c
	c.Findings, c.Reference = maps.Clone(c.Findings), maps.Clone(c.Reference)
	at := ""
	for _, a := range list {
		if p, counted := counts.Of(a.Finding); counted && a.Tally != nil && p.Check(a.Tally.Found()) == nil {
			a.Value = p.Value(a.Tally.Found())
		}
		c.Take(a.Finding, a.Spot, a.Value)
		if f, ok := knowledge.FindingByID(a.Finding); ok {
			at = f.Station
		}
	}
	r := diagnosis.Diagnose(c, diagnosis.Options{At: at, Say: was.say})
	return json.Marshal(casefile.ResultOf(r, remedy.Decide(c, r, was.say)))
}
