package server

import (
	"context"
	"errors"

	"github.com/danielgtaylor/huma/v2"

	"hodos/core/dose"
	"hodos/core/units"
)

// BenchField is one thing that a calculation asks for.
type BenchField struct {
	ID       string        `json:"id"`
	Label    string        `json:"label"`
	Unit     string        `json:"unit" doc:"metric unit of the figure; empty for a bare number"`
	Low      float64       `json:"low"`
	High     float64       `json:"high"`
	Usual    *float64      `json:"usual,omitempty" doc:"taken when it is left out"`
	Optional bool          `json:"optional"`
	Whole    bool          `json:"whole"`
	When     string        `json:"when,omitempty" doc:"field=choice with which alone it is asked for"`
	Choices  []BenchChoice `json:"choices,omitempty"`
}

// BenchChoice is an answer that is no number; the first of a field is the usual one.
type BenchChoice struct {
	ID    string `json:"id"`
	Label string `json:"label"`
}

// BenchCalculation is a calculation of the bench.
type BenchCalculation struct {
	ID     string       `json:"id"`
	Group  string       `json:"group"`
	Label  string       `json:"label"`
	Says   string       `json:"says" doc:"the question that it answers"`
	Source string       `json:"source"`
	Fields []BenchField `json:"fields" nullable:"false"`
}

// BenchEntry is what was entered in a field.
type BenchEntry struct {
	Amount float64 `json:"amount,omitempty"`
	Unit   string  `json:"unit,omitempty" maxLength:"20" doc:"the unit it was entered in; the field's own when left out"`
	Choice string  `json:"choice,omitempty" maxLength:"60"`
}

// BenchLine is one figure of the answer.
type BenchLine struct {
	ID    string  `json:"id"`
	Label string  `json:"label"`
	Unit  string  `json:"unit"`
	Value float64 `json:"value" doc:"in the metric unit"`
	Text  string  `json:"text" doc:"in the units of whoever asks"`
	Span  string  `json:"span,omitempty" doc:"what the error of the area makes of it"`
	Lead  bool    `json:"lead"`
}

// BenchTable is an answer of several lines.
type BenchTable struct {
	Label string     `json:"label"`
	Head  []string   `json:"head" nullable:"false"`
	Rows  [][]string `json:"rows" nullable:"false"`
}

// BenchWarning says that a figure lies outside a limit.
type BenchWarning struct {
	Limit string `json:"limit"`
	Text  string `json:"text"`
}

// BenchResult is what a calculation comes to.
type BenchResult struct {
	Lines    []BenchLine    `json:"lines" nullable:"false"`
	Working  []string       `json:"working" nullable:"false"`
	Warnings []BenchWarning `json:"warnings" nullable:"false"`
	Tables   []BenchTable   `json:"tables" nullable:"false"`
}

func benchResult(r dose.Result) BenchResult {
	out := BenchResult{Lines: []BenchLine{}, Working: append([]string{}, r.Working...), Warnings: []BenchWarning{}, Tables: []BenchTable{}}
	for _, l := range r.Lines {
		out.Lines = append(out.Lines, BenchLine{l.ID, l.Label, l.Unit, l.Value, l.Text, l.Span, l.Lead})
	}
	for _, w := range r.Warnings {
		out.Warnings = append(out.Warnings, BenchWarning(w))
	}
	for _, t := range r.Tables {
		out.Tables = append(out.Tables, BenchTable{t.Label, t.Head, t.Rows})
	}
	return out
}

// listBench answers GET /bench: every calculation with what it asks for.
func (s *Server) listBench(_ context.Context, _ *struct{}) (*body[[]BenchCalculation], error) {
	out := []BenchCalculation{}
	for _, c := range dose.All() {
		row := BenchCalculation{c.ID, c.Group, c.Label, c.Says, c.Source, []BenchField{}}
		for _, f := range c.Fields {
			field := BenchField{ID: f.ID, Label: f.Label, Unit: f.Unit, Low: f.Low, High: f.High, Usual: f.Usual, Optional: f.Optional,
				Whole: f.Whole, When: f.When}
			for _, x := range f.Choices {
				field.Choices = append(field.Choices, BenchChoice(x))
			}
			row.Fields = append(row.Fields, field)
		}
		out = append(out, row)
	}
	return answer(out), nil
}

// workOut answers POST /bench/{id}: one calculation, said in the units of whoever asks.
func (s *Server) workOut(ctx context.Context, in *struct {
	ID   string `path:"id" maxLength:"60"`
	Body struct {
		Entries map[string]BenchEntry `json:"entries"`
	}
}) (*body[BenchResult], error) {
	if _, ok := dose.ByID(in.ID); !ok {
		return nil, huma.Error404NotFound("there is no such calculation")
	}
	entries := map[string]dose.Entry{}
	for id, e := range in.Body.Entries {
		entries[id] = dose.Entry(e)
	}
	r, err := dose.Work(in.ID, entries, units.In(who(ctx).UnitSystem))
	var refused dose.Refused
	switch {
	case errors.As(err, &refused):
		var details []error
		for _, x := range refused {
			details = append(details, field("body.entries."+x.Field, x.Reason))
		}
		return nil, huma.Error422UnprocessableEntity("please check the fields marked below", details...)
	case err != nil:
		return nil, huma.Error422UnprocessableEntity(err.Error())
	}
	return answer(benchResult(r)), nil
}
