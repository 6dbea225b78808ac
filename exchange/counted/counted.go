// Package counted has the forms of a count made place by place, and of what it says. The server and the page on a device weigh it by the
// same one.
package counted

import (
	"math"

	"hodos/core/counts"
)

// CountPlace is what was found in one place.
type CountPlace struct {
	Got float64 `json:"got" doc:"pieces, living crowns, or seconds"`
	Of  float64 `json:"of" doc:"cm², crowns cut, or mm of depth"`
}

// Tally is a count, place by place.
type Tally struct {
	Tool   string       `json:"tool,omitempty" maxLength:"30" doc:"the id of the tool; left out for one of another size, or none"`
	Places []CountPlace `json:"places" nullable:"false" minItems:"1" maxItems:"24"`
}

// Weighed is what a count says.
type Weighed struct {
	Value   float64  `json:"value" doc:"as the answer of the finding"`
	Low     *float64 `json:"low,omitempty" doc:"nine cases of ten lie between"`
	High    *float64 `json:"high,omitempty"`
	Spread  *float64 `json:"spread,omitempty" doc:"standard deviation between the places"`
	Over    *float64 `json:"over,omitempty" minimum:"0" maximum:"1" doc:"chance of being at or over the limit; of crowns, of the state"`
	Turns   *float64 `json:"turns,omitempty" minimum:"0" maximum:"1" doc:"chance that one more place turns the decision"`
	State   string   `json:"state" enum:"begun,more,over,under,on-line,alive,mixed,dead,told"`
	Settled bool     `json:"settled"`
}

// Found are the places of a count as the core takes them.
func (t *Tally) Found() []counts.Place {
	out := make([]counts.Place, len(t.Places))
	for i, p := range t.Places {
		out[i] = counts.Place(p)
	}
	return out
}

// Weigh is what a count of a finding says, held against a limit in the unit of the finding; 0 for none.
func Weigh(p counts.Protocol, t Tally, limit float64) Weighed {
	w := p.Weigh(t.Found(), limit)
	return Weighed{Value: w.Value, Low: known(w.Low), High: known(w.High), Spread: known(w.Spread), Over: known(w.Over),
		Turns: known(w.Turns), State: string(w.State), Settled: w.Settled}
}

// known is a figure that there is, to a hundredth; nil for none.
func known(x float64) *float64 {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return nil
	}
	y := math.Round(x*100) / 100
	return &y
}
