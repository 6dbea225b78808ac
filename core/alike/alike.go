// Package alike holds a lawn against the firm's like lawns of the same weeks: the same grass round about. They are the yardstick for
// green-up, colour and dormancy, and say whether the same symptom is about.
package alike

import (
	"slices"

	"hodos/core/figures"
)

// Lawn is what one lawn showed last within the weeks. Empty lists and nil are not known.
type Lawn struct {
	GreenUp  *float64 // %, as estimated on the walk
	Colour   *float64 // index, by picture, 0 to 1
	Colours  []string
	Patterns []string
	Cause    string // of the last diagnosis; empty for none
}

// Word is where a lawn stands among the others.
type Word string

// Few is said of fewer than Least others.
const (
	Few    Word = ""
	Behind Word = "behind"
	AsThey Word = "as-they"
	Ahead  Word = "ahead"
)

// How many others are a yardstick, and how far from their middle half (as a share of its width, and in the figure's own unit) a lawn has
// to stand to be behind or ahead (judgement).
const (
	Least    = 3
	beyond   = .5
	leastPer = 10.0 // of green-up, %
	leastCol = .05  // of the colour index
)

// Figure is one reading among those of the others.
type Figure struct {
	Own    *float64
	Others figures.Middle
	Word   Word
}

// Held is a lawn held against the others.
type Held struct {
	Lawns     int // others that anything is known of
	GreenUp   Figure
	Colour    Figure
	Same      int // others of Seen that show one of its colours in one of its patterns
	Seen      int // others whose colours and patterns were told; 0 where its own were not
	Resting   int // others of Diagnosed that were found at rest
	Diagnosed int
}

// rest are the causes that are no damage but a stand at rest.
var rest = []string{"summer-dormancy", "winter-dormancy"}

// Against holds a lawn against others.
func Against(own Lawn, others []Lawn) Held {
	h := Held{Lawns: len(others)}
	var green, colour []float64
	told := len(own.Colours) > 0 && len(own.Patterns) > 0
	for _, o := range others {
		if o.GreenUp != nil {
			green = append(green, *o.GreenUp)
		}
		if o.Colour != nil {
			colour = append(colour, *o.Colour)
		}
		if told && len(o.Colours) > 0 && len(o.Patterns) > 0 {
			h.Seen++
			if share(own.Colours, o.Colours) && share(own.Patterns, o.Patterns) {
				h.Same++
			}
		}
		if o.Cause != "" {
			h.Diagnosed++
			if slices.Contains(rest, o.Cause) {
				h.Resting++
			}
		}
	}
	h.GreenUp, h.Colour = among(own.GreenUp, green, leastPer), among(own.Colour, colour, leastCol)
	return h
}

func share(a, b []string) bool {
	return slices.ContainsFunc(a, func(x string) bool { return slices.Contains(b, x) })
}

func among(own *float64, others []float64, least float64) Figure {
	f := Figure{Own: own, Others: figures.MiddleOf(others)}
	if own == nil || len(others) < Least {
		return f
	}
	m := f.Others
	off := max(least, beyond*(m.ThreeQ-m.Quarter))
	switch {
	case *own < m.Quarter-off:
		f.Word = Behind
	case *own > m.ThreeQ+off:
		f.Word = Ahead
	default:
		f.Word = AsThey
	}
	return f
}

// Neighbours is what Held answers to the question whether lawns round about show the same: the word of the vocabulary, or nothing where too
// few were looked at (judgement: half of them and more is many).
func (h Held) Neighbours() string {
	switch {
	case h.Seen < Least:
		return ""
	case h.Same == 0:
		return "none"
	case 2*h.Same >= h.Seen:
		return "many"
	}
	return "few"
}
