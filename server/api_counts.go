package server

import (
	"context"
	"encoding/json"
	"errors"
	"math"
	"math/rand/v2"

	"github.com/danielgtaylor/huma/v2"

	"hodos/core/counts"
	"hodos/exchange/counted"
	"hodos/store"
)

// Protocol is how one finding is counted.
type Protocol struct {
	Finding string   `json:"finding"`
	Kind    string   `json:"kind" enum:"pieces,share,drop"`
	Tools   []string `json:"tools" nullable:"false" doc:"the usual one first"`
	Places  int      `json:"places" doc:"how many are usual"`
	Most    int      `json:"most" doc:"more than this many are not worth their time"`
	Seconds int      `json:"seconds" doc:"to wait in each place; 0 for none"`
	Where   string   `json:"where"`
}

// CountTool is what a place is cut, wetted or enclosed with.
type CountTool struct {
	ID    string  `json:"id"`
	Label string  `json:"label"`
	CM2   float64 `json:"cm2"`
}

// Protocols are all of them, with the tools.
type Protocols struct {
	Protocols []Protocol  `json:"protocols" nullable:"false"`
	Tools     []CountTool `json:"tools" nullable:"false"`
}

// The forms of a count, as the description of the API names them.
type (
	Tally   = counted.Tally
	Weighed = counted.Weighed
)

// valueOf is what a count comes to as the answer of a finding.
func valueOf(t *Tally, finding string) (any, error) {
	p, ok := counts.Of(finding)
	if !ok {
		return nil, errors.New("this finding is not counted in places")
	}
	if err := p.Check(t.Found()); err != nil {
		return nil, err
	}
	return p.Value(t.Found()), nil
}

func tallyJSON(t *Tally) store.JSON {
	if t == nil {
		return nil
	}
	j, _ := json.Marshal(t)
	return j
}

func tallyOf(j store.JSON) *Tally {
	if len(j) == 0 {
		return nil
	}
	var t Tally
	if json.Unmarshal(j, &t) != nil {
		return nil
	}
	return &t
}

// listProtocols answers GET /counts: how things are counted, and with what.
func (s *Server) listProtocols(context.Context, *struct{}) (*body[Protocols], error) {
	out := Protocols{}
	for _, p := range counts.Protocols() {
		tools := p.Tools
		if tools == nil {
			tools = []string{}
		}
		out.Protocols = append(out.Protocols, Protocol{p.Finding, string(p.Kind), tools, p.Places, p.Most, p.Seconds, p.Where})
	}
	for _, t := range counts.Tools() {
		out.Tools = append(out.Tools, CountTool(t))
	}
	return answer(out), nil
}

// weighCount answers POST /counts/{finding}: what a count comes to and whether another place is worth its time. Nothing is kept.
func (s *Server) weighCount(_ context.Context, in *struct {
	Finding string `path:"finding" maxLength:"60"`
	Body    struct {
		Tally
		Limit *float64 `json:"limit,omitempty" minimum:"0" maximum:"100000" doc:"what it is held against, in the unit of the finding"`
	}
}) (*body[Weighed], error) {
	p, ok := counts.Of(in.Finding)
	if !ok {
		return nil, huma.Error404NotFound("this finding is not counted in places")
	}
	if err := p.Check(in.Body.Found()); err != nil {
		return nil, huma.Error422UnprocessableEntity("this count cannot be taken", field("body.places", err.Error()))
	}
	limit := 0.0
	if in.Body.Limit != nil {
		limit = *in.Body.Limit
	}
	return answer(counted.Weigh(p, in.Body.Tally, limit)), nil
}

// DrawnPlot is a piece of lawn of which the damaged share is known.
type DrawnPlot struct {
	Rows  []string `json:"rows" nullable:"false" doc:"from above, a character a cell: # damaged, . sound"`
	Share float64  `json:"share" doc:"damaged, per cent"`
}

// drawPlot answers GET /plots/{seed}: a drawn piece of lawn, to train the eye.
func (s *Server) drawPlot(_ context.Context, in *struct {
	Seed uint64 `path:"seed" minimum:"0" maximum:"1000000000"`
}) (*body[DrawnPlot], error) {
	p := counts.Draw(rand.New(rand.NewPCG(in.Seed, 1)).Float64)
	out := DrawnPlot{Share: math.Round(p.Share*10) / 10}
	for y := range p.Rows {
		row := make([]byte, p.Columns)
		for x := range row {
			row[x] = '.'
			if p.Damaged[y*p.Columns+x] {
				row[x] = '#'
			}
		}
		out.Rows = append(out.Rows, string(row))
	}
	return answer(out), nil
}
