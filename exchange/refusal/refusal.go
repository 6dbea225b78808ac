// Package refusal lists why a file is not taken: by line and column, or by the path of a field.
package refusal

import (
	"fmt"
	"slices"
	"strings"
)

// Problem is one line that was refused or flagged.
type Problem struct {
	Line   int    // 0 where the file is not read by lines
	Column string // of a table, or the path of a field: findings.grubs-per-m2, weather[3].tmin_c
	Reason string
}

func (p Problem) String() string {
	switch {
	case p.Line == 0 && p.Column == "":
		return p.Reason
	case p.Line == 0:
		return p.Column + ": " + p.Reason
	case p.Column == "":
		return fmt.Sprintf("line %d: %s", p.Line, p.Reason)
	}
	return fmt.Sprintf("line %d, %s: %s", p.Line, p.Column, p.Reason)
}

// Most is how many reasons are kept; the rest is counted.
const Most = 100

// Refusal lists why a file is not taken: the first hundred reasons, and how many there are.
type Refusal struct {
	Problems []Problem
	Count    int
}

// All are the reasons as they are told: what is beyond the first hundred stands as a count at the end.
func (r *Refusal) All() []Problem {
	if more := r.Count - len(r.Problems); more > 0 {
		return append(slices.Clone(r.Problems), Problem{Reason: fmt.Sprintf("and %d more", more)})
	}
	return r.Problems
}

func (r *Refusal) Error() string {
	lines := make([]string, 0, len(r.Problems)+1)
	for _, p := range r.All() {
		lines = append(lines, p.String())
	}
	return strings.Join(lines, "\n")
}

// Add puts a reason on the list.
func (r *Refusal) Add(line int, column, format string, args ...any) {
	r.Count++
	if len(r.Problems) < Most {
		r.Problems = append(r.Problems, Problem{line, column, fmt.Sprintf(format, args...)})
	}
}
