// Package refusal lists by line why a file of one of the plain CSV dialects is not taken.
package refusal

import (
	"fmt"
	"strings"
)

// Problem is one line that was refused or flagged.
type Problem struct {
	Line   int // 0 for the file as a whole
	Column string
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

func (r *Refusal) Error() string {
	lines := make([]string, 0, len(r.Problems)+1)
	for _, p := range r.Problems {
		lines = append(lines, p.String())
	}
	if r.Count > len(r.Problems) {
		lines = append(lines, fmt.Sprintf("and %d more", r.Count-len(r.Problems)))
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
