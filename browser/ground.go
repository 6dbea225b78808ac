package browser

import (
	"encoding/json"
	"errors"
	"fmt"

	"hodos/core/counts"
	"hodos/exchange/counted"
	"hodos/exchange/ground"
)

// Pattern is what the damage marked on a zone comes to: the same JSON as the server's, from its JSON of the zone and of the marks.
func Pattern(zone, marks []byte) ([]byte, error) {
	var z ground.StepGrid
	if err := json.Unmarshal(zone, &z); err != nil {
		return nil, fmt.Errorf("zone: %w", err)
	}
	m, where, reason := ground.CellsIn(marks)
	if reason != "" {
		return nil, fmt.Errorf("marks%s %s", where, reason)
	}
	if reason := z.Grid.Fault(); reason != "" {
		return nil, errors.New("zone.grid " + reason)
	}
	return json.Marshal(ground.PatternOf(z, m))
}

// Count is what a count of a finding says, held against a limit; 0 for none: the same JSON as the server's.
func Count(finding string, tally []byte, limit float64) ([]byte, error) {
	p, ok := counts.Of(finding)
	if !ok {
		return nil, errors.New("this finding is not counted in places")
	}
	var t counted.Tally
	if err := json.Unmarshal(tally, &t); err != nil {
		return nil, fmt.Errorf("tally: %w", err)
	}
	if err := p.Check(t.Found()); err != nil {
		return nil, err
	}
	return json.Marshal(counted.Weigh(p, t, limit))
}
