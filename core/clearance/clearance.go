// Package clearance says what stands against a job at an hour: law, label, agronomy, policy, or that it is not possible. Each stop
// names its rule, what lifts it and when the way is open next. What has happened is not refused by it: it is flagged.
package clearance

import (
	"sort"
	"time"

	"hodos/core/label"
)

// Kind is what a stop comes from. Law and label are passed by nobody; agronomy and policy by who may, with a reason that is kept.
type Kind string

// The kinds, in the order in which they are told.
const (
	Law         Kind = "law"
	Label       Kind = "label"
	Agronomy    Kind = "agronomy"
	Policy      Kind = "policy"
	NotPossible Kind = "not-possible"
)

var rank = map[Kind]int{Law: 0, Label: 1, Agronomy: 2, Policy: 3, NotPossible: 4}

// Stop is one thing that stands against a job.
type Stop struct {
	ID    string
	Kind  Kind
	Rule  string     // the rule, the label or the gate by name
	Text  string     // why
	Lifts string     // what lifts it
	Next  *time.Time // the next open hour or day, where it is known
}

// Passable reports whether somebody may pass the stop with a reason.
func (s Stop) Passable() bool { return s.Kind == Agronomy || s.Kind == Policy }

// Duty is something that goes with the job and stops nothing: protective equipment, watering in, a sign.
type Duty struct{ ID, Text string }

// Applied is something that was put down before.
type Applied struct {
	Day      time.Time
	Action   string
	Product  string // key of the product
	Kind     string // of the product
	Target   string
	Rate     float64            // product, per m²
	Actives  map[string]float64 // g/m² by common name
	Groups   []string
	N, P     float64 // g/m²
	SeedDays float64 // label: days until seed may follow
}

// Hour is the weather of an hour; nil is not known.
type Hour struct {
	At                  time.Time
	Wind, Air, Rain, RH *float64 // m/s, °C, mm, %
}

// Person is who does the job or supervises it.
type Person struct {
	Name         string
	Applicator   bool // may sign for pesticides
	Class        string
	LicenceUntil *time.Time
}

// Machine is what the job is done with.
type Machine struct {
	Name         string
	CalibratedOn *time.Time
	Broken       bool
}

// Lawn is where the job is done.
type Lawn struct {
	Place        string // by whose law: country or state
	Latitude     float64
	Grasses      []string
	AreaM2       float64
	WaterM       *float64 // distance to open water, wells, drains
	SlopePercent float64
	InFlower     bool
	Frozen       bool
	Saturated    bool
	GreenUp      *float64 // per cent, where warm-season turf wakes
	SoilC        *float64
	SeedUp       *time.Time // new grass came up
	Mowings      int        // since then
	MownOn       *time.Time
	SeedPlanned  *time.Time
	PTested      *bool // a valid test asks for phosphorus
	LocatedOn    *time.Time
	KeptOffUntil *time.Time // from an earlier treatment
	NoPesticides bool       // the client's wish
}

// Gate is the advice of the plan on the action, where it stands against it.
type Gate struct {
	ID     string
	Kind   Kind
	Reason string
	Lifts  string
	Until  *time.Time
}

// Job is what is to be done, where, when, with what and by whom.
type Job struct {
	Action     string
	At         time.Time // local time of the lawn
	Water      bool      // the job is water
	Ground     bool      // it goes into the ground
	Seeds      bool      // it is seeding, plugging, laying sod
	Mows       bool
	Lawn       Lawn
	Product    *label.Label
	ProductKey string
	Use        *label.Use // nil: the label has none for the action
	Target     string
	Rate       float64 // product, per m²; 0 for not yet chosen
	Carrier    float64 // L/100 m²; 0 for not yet chosen
	TreatedM2  float64
	N, P       float64 // g/m², of a job without a product on the shelf
	Person     *Person
	Supervisor *Person
	Machine    *Machine
	NeedsTool  bool     // it cannot be done by hand
	Left       *float64 // product on the shelf, g or mL
	LotExpires *time.Time
	Posted     bool
	Notified   *time.Time
	WaterOn    bool   // the zone can be watered
	Hours      []Hour // from the hour of the job on
	History    []Applied
	Rules      []Rule
	Gate       *Gate
}

// Result is what stands against a job, and what goes with it.
type Result struct {
	Stops  []Stop
	Duties []Duty
}

// Open reports whether nothing stands against the job.
func (r Result) Open() bool { return len(r.Stops) == 0 }

// Check asks every gate.
func Check(j Job) Result {
	c := &check{Job: j}
	if j.Product != nil && j.Rate > 0 && j.N == 0 && j.P == 0 {
		c.N, c.P = j.Product.Element("n", j.Rate), j.Product.Element("p", j.Rate)
	}
	c.laws()
	c.licence()
	c.product()
	c.season()
	c.weather()
	c.stand()
	c.agronomy()
	c.possible()
	sort.SliceStable(c.out.Stops, func(a, b int) bool { return rank[c.out.Stops[a].Kind] < rank[c.out.Stops[b].Kind] })
	return c.out
}

type check struct {
	Job
	out     Result
	weights map[string]float64 // of duties that several ask, by id
}

func (c *check) stop(id string, kind Kind, rule, text, lifts string, next *time.Time) {
	c.out.Stops = append(c.out.Stops, Stop{id, kind, rule, text, lifts, next})
}

func (c *check) duty(id, text string) { c.out.Duties = append(c.out.Duties, Duty{id, text}) }

// strictest is duty for what label and several rules may ask at once: the one with the most weight stands, said once.
func (c *check) strictest(id, text string, weight float64) {
	for i, d := range c.out.Duties {
		if d.ID == id {
			if weight > c.weights[id] {
				c.out.Duties[i].Text, c.weights[id] = text, weight
			}
			return
		}
	}
	c.duty(id, text)
	if c.weights == nil {
		c.weights = map[string]float64{}
	}
	c.weights[id] = weight
}

func (c *check) pesticide() bool { return c.Product != nil && c.Product.Pesticide() }

// feeds reports whether nitrogen or phosphorus goes down.
func (c *check) feeds() bool {
	return c.N > 0 || c.P > 0 || (c.Product != nil && c.Product.Kind == "fertilizer")
}

// day is the date of a moment, at midnight in its own zone.
func day(t time.Time) time.Time {
	y, m, d := t.Date()
	return time.Date(y, m, d, 0, 0, 0, 0, t.Location())
}

// daysSince counts whole days from one date to another, whatever their zones.
func daysSince(from, to time.Time) float64 {
	a, b := from, to
	y, m, d := a.Date()
	a = time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
	y, m, d = b.Date()
	b = time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
	return b.Sub(a).Hours() / 24
}

func after(t time.Time, days float64) *time.Time {
	d := day(t).AddDate(0, 0, int(days))
	return &d
}
