// Package counts is how things on a lawn are counted: in how many places of what size, what a count comes to, how sure it is against the
// figure that it is held against, and when enough has been counted.
package counts

import (
	"fmt"
	"math"
	"slices"
)

// Kind is what is counted in a place.
type Kind string

// The kinds. Pieces are animals in a place of so many cm²; a share is the living among the crowns cut there; a drop is the seconds that it
// stands at so many mm of depth.
const (
	Pieces Kind = "pieces"
	Share  Kind = "share"
	Drop   Kind = "drop"
)

// Protocol is how one finding is counted. Figures are those of extension practice; Most is judgement.
type Protocol struct {
	Finding string
	Kind    Kind
	Tools   []string // the samplers, the usual one first; none where a place has no size of its own
	Places  int      // how many are usual
	Most    int      // more than this many are not worth their time
	Seconds int      // to wait in each place; 0 for none
	Where   string   // where and how, for whoever kneels there
}

// Tool is what a place is cut, wetted or enclosed with.
type Tool struct {
	ID    string
	Label string
	CM2   float64 // area of one place
}

// Protocols lists them.
func Protocols() []Protocol { return slices.Clone(protocols) }

// Tools lists the samplers.
func Tools() []Tool { return slices.Clone(tools) }

// Of is the protocol of a finding; false for one that is not counted in places.
func Of(finding string) (Protocol, bool) {
	i := slices.IndexFunc(protocols, func(p Protocol) bool { return p.Finding == finding })
	if i < 0 {
		return Protocol{}, false
	}
	return protocols[i], true
}

// Place is what was found in one place.
type Place struct {
	Got float64 // pieces, living crowns, or seconds
	Of  float64 // cm², crowns cut, or mm of depth
}

// Limits of what a reader takes.
const (
	MostPlaces = 24    // in one count
	mostPieces = 2000  // in one place
	mostCM2    = 50000 // of one place
	leastCM2   = 20
	mostCrowns = 200
	mostDepth  = 150
	mostWait   = 3600
)

// Check names the place and the reason where a count cannot be taken; nil when it can. At least one place is needed.
func (p Protocol) Check(places []Place) error {
	if len(places) == 0 || len(places) > MostPlaces {
		return fmt.Errorf("places: %d, where 1 to %d are taken", len(places), MostPlaces)
	}
	for i, x := range places {
		wrong := ""
		switch whole := x.Got == math.Trunc(x.Got); {
		case p.Kind != Drop && !whole:
			wrong = "is not a whole number"
		case p.Kind == Pieces && !(x.Got >= 0 && x.Got <= mostPieces):
			wrong = fmt.Sprintf("counts %g, where 0 to %d are taken", x.Got, mostPieces)
		case p.Kind == Pieces && !(x.Of >= leastCM2 && x.Of <= mostCM2):
			wrong = fmt.Sprintf("has %g cm², where %d to %d are taken", x.Of, leastCM2, mostCM2)
		case p.Kind == Share && !(x.Of >= 1 && x.Of <= mostCrowns && x.Of == math.Trunc(x.Of)):
			wrong = fmt.Sprintf("has %g crowns cut, where 1 to %d are taken", x.Of, mostCrowns)
		case p.Kind == Share && !(x.Got >= 0 && x.Got <= x.Of):
			wrong = fmt.Sprintf("has %g alive of %g cut", x.Got, x.Of)
		case p.Kind == Drop && !(x.Of >= 0 && x.Of <= mostDepth):
			wrong = fmt.Sprintf("lies at %g mm, where 0 to %d are taken", x.Of, mostDepth)
		case p.Kind == Drop && !(x.Got >= 0 && x.Got <= mostWait):
			wrong = fmt.Sprintf("stands %g s, where 0 to %d are taken", x.Got, mostWait)
		}
		if wrong != "" {
			return fmt.Errorf("place %d %s", i+1, wrong)
		}
	}
	return nil
}

// Value is what a count comes to as the answer of its finding: pieces a m², per cent of the crowns, or the longest stand of a drop in
// seconds. The count must have passed Check.
func (p Protocol) Value(places []Place) float64 {
	got, of := 0.0, 0.0
	for _, x := range places {
		if p.Kind == Drop {
			got = max(got, x.Got)
			continue
		}
		got, of = got+x.Got, of+x.Of
	}
	switch p.Kind {
	case Pieces:
		return math.Round(got/of*1e4*10) / 10
	case Share:
		return math.Round(got / of * 100)
	}
	return got
}
