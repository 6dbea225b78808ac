// Package evidence brings together what a case has to say, each fact once: findings, samples, the spot beside, former visits, treatments
// and what the weather tells. It says what contradicts itself and weighs nothing.
package evidence

import (
	"time"

	"hodos/core/knowledge"
	"hodos/core/weather"
)

// Policy is how the client wants the lawn kept; empty strings stand for "not said".
type Policy struct {
	SummerWater   string // keep-green, let-rest, one-area
	Pests         string // threshold, preventive
	SummerFeeding string // none, spoon-feed
	Blemishes     string // tolerate, treat
	Service       string // what the client buys: weeds, feeding, full
}

// Treatment is one thing done to the zone. Nil amounts are unknown.
type Treatment struct {
	Date                         time.Time
	Action                       string
	NGM2, PGM2, KGM2, FeGM2, WMM *float64
	Source                       string // quick, slow, organic
	Note                         string // never evidence
}

// Earlier is what a former visit found and what came of it.
type Earlier struct {
	Date     time.Time
	Findings map[string]knowledge.Value
	Cause    string // the cause that was confirmed, or empty
}

// Nearby is a confirmed case in the district.
type Nearby struct {
	Cause string
	Count int
	Weeks float64
}

// Learnt is what the firm's own closed cases say of a cause beside the tables: it is met Factor times as often as they expect.
type Learnt struct {
	Cause  string
	Factor float64 // of its odds
}

// Context is what stands around the case.
type Context struct {
	Country      string
	Licence      *bool
	LinesLocated *bool
	Nearby       []Nearby
	Learnt       []Learnt // what the firm's own closed cases teach, where its owner lets them
	Utilities    any      // the firm's own prices, kept as given; see Utilities
}

// Case is one zone as seen on one visit.
type Case struct {
	Title      string
	Lawn       knowledge.Lawn
	Onset      *time.Time
	Policy     Policy
	Findings   map[string]knowledge.Value
	Reference  map[string]knowledge.Value
	Samples    map[string][]any
	Earlier    []Earlier
	Looks      []Look
	Weather    []weather.Day
	Forecast   []weather.Day
	Treatments []Treatment
	Done       []Treatment // on this visit: no evidence of what it found, but advice counts them like those of before
	Context    Context
	Notes      string
}

// Notice tells the user of something about the input: a contradiction, a missing piece, a finding that is not weighed.
type Notice struct {
	About string
	Text  string
}
