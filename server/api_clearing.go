package server

import (
	"context"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/clearance"
	"hodos/core/diagnosis"
	"hodos/core/dose"
	"hodos/core/label"
	"hodos/core/remedy"
	"hodos/core/turf"
	"hodos/core/units"
	"hodos/core/weather"
	"hodos/store"
)

// Stop is one thing that stands against a job.
type Stop struct {
	ID       string     `json:"id"`
	Kind     string     `json:"kind" enum:"law,label,agronomy,policy,not-possible"`
	Rule     string     `json:"rule" doc:"the rule, the label or the gate by name"`
	Text     string     `json:"text"`
	Lifts    string     `json:"lifts" doc:"what lifts it"`
	Next     *time.Time `json:"next,omitempty" doc:"from when it is open, by the clock of the lawn"`
	Passable bool       `json:"passable" doc:"may be passed with a reason that is kept"`
}

// Duty is something that goes with a job and stops nothing.
type Duty struct {
	ID   string `json:"id"`
	Text string `json:"text"`
}

func stopsOf(list []clearance.Stop) []Stop {
	out := []Stop{}
	for _, x := range list {
		out = append(out, Stop{x.ID, string(x.Kind), x.Rule, x.Text, x.Lifts, x.Next, x.Passable()})
	}
	return out
}

// grounded is a zone on a visit with everything that its jobs are judged by.
type grounded struct {
	casework.Ground
	Visit   casework.Visit
	Causes  []diagnosis.CauseResult
	Schools []remedy.School
	Country string
	say     units.Saying
	now     time.Time
	soil    map[time.Time]float64 // mean of the day at 50 mm
	person  store.Person
}

// groundOn reads and weighs a zone on a visit for its jobs.
func (s *Server) groundOn(ctx context.Context, visit, zone uuid.UUID) (grounded, error) {
	v, err := s.caseOn(ctx, visit, zone)
	if err != nil {
		return grounded{}, err
	}
	past := v.Case.Weather[max(0, len(v.Case.Weather)-hourDays):]
	withHours := append(slices.Clone(past), v.Case.Forecast...)
	byDays(&v)
	say := saying(ctx)
	r := diagnosis.Diagnose(v.Case, diagnosis.Options{At: v.At, Say: say, NoNext: true})
	plan := remedy.Decide(v.Case, r, say)
	g := grounded{Visit: v, Causes: r.Causes, Country: v.Case.Context.Country, say: say, now: s.now()}
	g.Schools = remedy.Schools(v.Case, r, say)
	g.soil = map[time.Time]float64{}
	for _, p := range r.Sky.Points {
		if !math.IsNaN(p.SoilMean) {
			g.soil[p.Date.UTC()] = p.SoilMean
		}
	}
	c := v.Case
	c.Forecast = withHours
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if err = tx.First(&g.person, "id = ?", who(ctx).Person).Error; err != nil {
			return err
		}
		g.Ground, err = casework.GroundOf(tx, zone, g.Country, c, r, plan)
		return err
	})
	return g, err
}

// hourDays is how many days of measured hours a job may be told of afterwards.
const hourDays = 15

// line is what the plan says of an action; nil for nothing.
func (g *grounded) line(action string) *remedy.Advice {
	for i := range g.Plan.Lines {
		if g.Plan.Lines[i].ID == action {
			return &g.Plan.Lines[i]
		}
	}
	return nil
}

// hour is now at the lawn: the day of the work clock and the hour of the wall clock, eight in the morning on another day.
func (g *grounded) hour(now time.Time) time.Time {
	local := now.In(casework.Location(g.Site.Timezone))
	at := time.Date(g.Visit.Date.Year(), g.Visit.Date.Month(), g.Visit.Date.Day(), local.Hour(), local.Minute(), 0, 0, time.UTC)
	if at.Hour() < 5 || at.Hour() > 20 {
		at = at.Truncate(24 * time.Hour).Add(8 * time.Hour) // nobody works at night: the next morning's hours are asked
	}
	return at
}

// targets are what an action is usually against, the likeliest of the zone first.
func (g *grounded) target(action string, u *label.Use) string {
	if u == nil || len(u.Targets) == 0 {
		return ""
	}
	for _, c := range g.Causes {
		if c.Probability >= .15 && slices.Contains(u.Targets, c.ID) && slices.Contains(remedy.AnswersOf(action), c.ID) {
			return c.ID
		}
	}
	if len(u.Targets) == 1 {
		return u.Targets[0]
	}
	return ""
}

// proposed is how an action would be done with a product: target, rate, carrier and area by plan, label and zone.
func (g *grounded) proposed(action string, o *casework.OnShelf, target string, area float64) (casework.Ask, error) {
	a := casework.Ask{Action: action, Product: o, Target: target, AreaM2: area, Person: &g.person, At: g.hour(g.now)}
	advice := g.line(action)
	if a.AreaM2 == 0 {
		a.AreaM2 = g.area(advice)
	}
	if o == nil {
		if advice != nil {
			a.N = advice.NGM2
		}
		return a, nil
	}
	u := o.Label.For(action, target, g.Lawn.Grasses)
	if a.Target == "" {
		a.Target = g.target(action, u)
		u = o.Label.For(action, a.Target, g.Lawn.Grasses)
	}
	if u == nil {
		return a, nil
	}
	a.Rate = g.rate(action, &o.Label, u, advice)
	if o.Label.Sprayed() {
		a.Carrier = (u.CarrierLow + u.CarrierHigh) / 2
		if u.CarrierHigh == 0 {
			a.Carrier = math.Max(u.CarrierLow, usualCarrier)
		}
	}
	if l := o.Next(g.Visit.Date); l != nil {
		a.Lot = &l.ID
	}
	return a, nil
}

// known is what the amount of an action is worked out from; without an action, for the whole zone.
func (g *grounded) known(advice *remedy.Advice) dose.Known {
	k := dose.Known{Texture: g.Zone.Texture, Figures: map[string]float64{"area": g.area(advice)}}
	k.Figures["area-error"] = math.Min(50, g.Zone.AreaError*100)
	if len(g.Lawn.Grasses) > 0 {
		k.Grass, _ = turf.ByID(g.Lawn.Grasses[0])
		k.Grass = k.Grass.InForm(g.Zone.Form)
	}
	for id, v := range g.Visit.Case.Findings {
		if v.Number != nil {
			k.Figures[id] = *v.Number
		}
	}
	if advice != nil && advice.NGM2 > 0 {
		k.Figures["n-dose"] = advice.NGM2
	}
	if mean := meanAhead(g.Visit.Case.Forecast); !math.IsNaN(mean) {
		k.Figures["mean"] = mean
		k.Figures["growth"] = math.Max(5, 100*k.Grass.Growth(mean))
	}
	if k.Grass.Mow.Known() {
		k.Figures["mow-to"] = (k.Grass.Mow.Low + k.Grass.Mow.High) / 2
	}
	return k
}

// area is what an action is for: the zone, or the damaged part where it is done there alone.
func (g *grounded) area(advice *remedy.Advice) float64 {
	if advice != nil && remedy.Partial(advice.ID) && advice.AreaM2 > 0 && advice.AreaM2 < g.Zone.AreaM2 {
		return math.Round(advice.AreaM2*10) / 10
	}
	return g.Zone.AreaM2
}

// meanAhead is the mean air of a week of the forecast, °C; not a number without one.
func meanAhead(ahead []weather.Day) float64 {
	sum, n := 0.0, 0.0
	for _, d := range ahead[:min(7, len(ahead))] {
		if m, ok := d.Mean(); ok {
			sum, n = sum+m, n+1
		}
	}
	return sum / n
}

// usualCarrier is the water of a spray where the label does not say, L/100 m² (1 to 2 gal/1000 ft²; extension).
const usualCarrier = 8.0

// usualTank is a knapsack sprayer's, L, where nobody has said which tank it is.
const usualTank = 15.0

// rate is the product that the plan's dose takes, held to the label; without a dose the label's upper rate for a cure and its lower for
// prevention (judgement).
func (g *grounded) rate(action string, l *label.Label, u *label.Use, advice *remedy.Advice) float64 {
	if n := l.Element("n", 1); n > 0 && remedy.Feeds(action) && advice != nil && advice.NGM2 > 0 {
		return math.Max(u.RateLow, math.Min(u.RateHigh, advice.NGM2/n))
	}
	if w, ok := dose.Proposed(action, g.known(advice)); ok {
		per := 1.0
		if w.Of != "product" {
			per = l.Element(w.Of, 1)
		}
		if per > 0 {
			return math.Max(u.RateLow, math.Min(u.RateHigh, w.GM2/per))
		}
	}
	if l.Pesticide() && action != "preemergent" && action != "fungicide-preventive" && action != "insecticide-preventive" {
		return u.RateHigh
	}
	return (u.RateLow + u.RateHigh) / 2
}

// check asks what stands against a job.
func (g *grounded) check(tx *gorm.DB, a casework.Ask) (out struct {
	Stops  []Stop
	Duties []Duty
}, err error) {
	j, err := g.Job(tx, a)
	if err != nil {
		return out, err
	}
	r := clearance.Check(j)
	out.Stops, out.Duties = stopsOf(r.Stops), []Duty{}
	for _, d := range r.Duties {
		out.Duties = append(out.Duties, Duty(d))
	}
	return out, nil
}

// Proposal is a job as it would be done, everything known filled in with where it is from, and what stands against it.
type Proposal struct {
	Action      string             `json:"action"`
	Target      string             `json:"target,omitempty"`
	Targets     []string           `json:"targets" nullable:"false" doc:"what the label allows it against"`
	At          time.Time          `json:"at" doc:"by the clock of the lawn"`
	AreaM2      float64            `json:"area_m2"`
	AreaFrom    string             `json:"area_from" enum:"zone,damage,entered"`
	Products    []Choosable        `json:"products" nullable:"false" doc:"on the shelf for it, the open ones first, then the cheapest"`
	ProductID   *uuid.UUID         `json:"product_id,omitempty"`
	LotID       *uuid.UUID         `json:"lot_id,omitempty"`
	Rate        float64            `json:"rate,omitempty" doc:"product, per m²"`
	RateUnit    string             `json:"rate_unit,omitempty" enum:",g/m2,mL/m2"`
	RateLow     float64            `json:"rate_low,omitempty"`
	RateHigh    float64            `json:"rate_high,omitempty"`
	Amount      float64            `json:"amount,omitempty" doc:"product for the area, g or mL"`
	Carrier     float64            `json:"carrier,omitempty" doc:"L/100 m²"`
	Nutrients   map[string]float64 `json:"nutrients,omitempty" doc:"g of the element per m²"`
	Actives     map[string]float64 `json:"actives,omitempty" doc:"g per m²"`
	Weather     *HourWeather       `json:"weather,omitempty" doc:"of that hour, from the station"`
	ClosedHours float64            `json:"closed_hours" doc:"hours that people and pets stay off, from the end of the work"`
	MustWaterIn bool               `json:"must_water_in"`
	Tank        *BenchResult       `json:"tank,omitempty"`
	TankL       float64            `json:"tank_l,omitempty" doc:"the tank that it is worked out for"`
	FollowUp    int                `json:"follow_up_days"`
	Licence     bool               `json:"licence" doc:"only with a licence"`
	Stops       []Stop             `json:"stops" nullable:"false"`
	Duties      []Duty             `json:"duties" nullable:"false"`
	Mixing      int                `json:"mixing,omitempty" doc:"place in the order of mixing"`
	Poison      string             `json:"poison_centre,omitempty" doc:"number that the firm has entered, with what needs a licence"`
}

// Choosable is a product on the shelf for a job.
type Choosable struct {
	ID     uuid.UUID `json:"id"`
	Name   string    `json:"name"`
	Groups []string  `json:"groups" nullable:"false"`
	Open   bool      `json:"open"`
	Why    string    `json:"why,omitempty" doc:"the first thing that stands against it"`
	Price  *float64  `json:"price,omitempty" doc:"for the area"`
}

// HourWeather is the weather of an hour.
type HourWeather struct {
	WindMS *float64 `json:"wind_ms,omitempty"`
	AirC   *float64 `json:"air_c,omitempty"`
	RH     *float64 `json:"rh,omitempty"`
	RainMM *float64 `json:"rain_mm,omitempty"`
	SoilC  *float64 `json:"soil_c,omitempty"`
}

type proposing struct {
	ZonePath
	Body struct {
		Action       string     `json:"action" maxLength:"60"`
		ProductID    *uuid.UUID `json:"product_id,omitempty"`
		LotID        *uuid.UUID `json:"lot_id,omitempty"`
		MachineID    *uuid.UUID `json:"machine_id,omitempty"`
		SupervisorID *uuid.UUID `json:"supervisor_id,omitempty"`
		Target       string     `json:"target,omitempty" maxLength:"60"`
		AreaM2       float64    `json:"area_m2,omitempty" minimum:"0" maximum:"10000000"`
		Rate         float64    `json:"rate,omitempty" minimum:"0" maximum:"5000"`
		Carrier      float64    `json:"carrier,omitempty" minimum:"0" maximum:"200"`
		TankL        float64    `json:"tank_l,omitempty" minimum:"0" maximum:"20000"`
		At           *time.Time `json:"at,omitempty" doc:"by the clock of the lawn; its zone is not looked at"`
		Posted       bool       `json:"posted,omitempty"`
		NotifiedAt   *time.Time `json:"notified_at,omitempty"`
		Mowings      *int       `json:"mowings,omitempty" minimum:"0" maximum:"400"`
		InFlower     bool       `json:"in_flower,omitempty"`
		SeedPlanned  string     `json:"seed_planned,omitempty" maxLength:"10"`
	}
}

// propose answers POST /visits/{id}/zones/{zone}/proposal: how a job would be done, and what stands against it.
func (s *Server) propose(ctx context.Context, in *proposing) (*body[Proposal], error) {
	b := in.Body
	if !remedy.Known(b.Action) {
		return nil, invalid("body.action", "is not an action")
	}
	g, err := s.groundOn(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	var out Proposal
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		shelf, err := casework.Shelf(tx, nil)
		if err != nil {
			return err
		}
		out, err = s.proposal(tx, &g, in, shelf)
		return err
	})
	return answer(out), err
}

// proposal fills the job in.
func (s *Server) proposal(tx *gorm.DB, g *grounded, in *proposing, shelf []casework.OnShelf) (out Proposal, err error) {
	b := in.Body
	var chosen *casework.OnShelf
	if out.Products, chosen, err = g.choices(tx, b.Action, b.Target, b.AreaM2, shelf, b.ProductID); err != nil {
		return out, err
	}
	ask, err := g.proposed(b.Action, chosen, b.Target, b.AreaM2)
	if err != nil {
		return out, err
	}
	ask.At = g.hour(g.now)
	if b.At != nil {
		ask.At = *b.At
	}
	if err := g.entered(tx, in, &ask); err != nil {
		return out, err
	}
	checked, err := g.check(tx, ask)
	if err != nil {
		return out, err
	}
	out.Action, out.Target, out.At, out.AreaM2, out.Targets = b.Action, ask.Target, ask.At, ask.AreaM2, []string{}
	out.AreaFrom = map[bool]string{true: "zone", false: "damage"}[ask.AreaM2 == g.Zone.AreaM2]
	if b.AreaM2 > 0 {
		out.AreaFrom = "entered"
	}
	out.Stops, out.Duties, out.FollowUp = checked.Stops, checked.Duties, remedy.LookAfter(b.Action)
	out.Licence = remedy.Pesticide(b.Action)
	out.Weather = g.weatherAt(ask.At)
	var firm store.Firm
	if err := tx.First(&firm).Error; err != nil {
		return out, err
	}
	out.Poison = firm.PoisonCentre
	if chosen != nil {
		g.withProduct(&out, chosen, ask, b.TankL)
	}
	return out, nil
}

// entered puts what somebody has typed over what was proposed.
func (g *grounded) entered(tx *gorm.DB, in *proposing, a *casework.Ask) error {
	b := in.Body
	for _, x := range []struct {
		from float64
		into *float64
	}{{b.Rate, &a.Rate}, {b.Carrier, &a.Carrier}} {
		if x.from > 0 {
			*x.into = x.from
		}
	}
	if b.LotID != nil {
		a.Lot = b.LotID
	}
	a.Machine, a.Posted, a.Notified, a.Mowings, a.InFlower = b.MachineID, b.Posted, b.NotifiedAt, b.Mowings, b.InFlower
	if b.SeedPlanned != "" {
		d, err := dateOf("body.seed_planned", b.SeedPlanned)
		if err != nil {
			return err
		}
		a.SeedPlanned = &d
	}
	if b.SupervisorID != nil {
		a.Supervisor = &store.Person{}
		return tx.First(a.Supervisor, "id = ?", *b.SupervisorID).Error
	}
	return nil
}

// choices are the products on the shelf for an action, judged; the chosen one is the one asked for, or the first.
func (g *grounded) choices(tx *gorm.DB, action, target string, area float64, shelf []casework.OnShelf, want *uuid.UUID) (
	out []Choosable, chosen *casework.OnShelf, err error) {
	out = []Choosable{}
	for i := range shelf {
		o := &shelf[i]
		if want != nil && o.Product.ID == *want {
			chosen = o
		}
		if len(o.Label.Fits(action)) == 0 {
			continue
		}
		ask, err := g.proposed(action, o, target, area)
		if err != nil {
			return nil, nil, err
		}
		checked, err := g.check(tx, ask)
		if err != nil {
			return nil, nil, err
		}
		c := Choosable{ID: o.Product.ID, Name: o.Label.Name, Groups: []string{}}
		for _, s := range checked.Stops {
			if len(s.ID) < 5 || s.ID[:5] != "plan-" { // the plan stands against all of them alike
				c.Why = s.Text
				break
			}
		}
		c.Open = c.Why == ""
		for _, a := range o.Label.Actives {
			c.Groups = append(c.Groups, a.Group)
		}
		if p := productOf(*o).Price; p != nil {
			x := *p / 1000 * ask.Rate * ask.AreaM2
			c.Price = &x
		}
		out = append(out, c)
	}
	slices.SortStableFunc(out, func(a, b Choosable) int {
		switch {
		case a.Open != b.Open:
			return map[bool]int{true: -1, false: 1}[a.Open]
		case a.Price != nil && b.Price != nil && *a.Price != *b.Price:
			return map[bool]int{true: -1, false: 1}[*a.Price < *b.Price]
		}
		return 0
	})
	if chosen == nil && len(out) > 0 {
		for i := range shelf {
			if shelf[i].Product.ID == out[0].ID {
				chosen = &shelf[i]
			}
		}
	}
	return out, chosen, nil
}

// weatherAt is the weather of an hour; nil where the station has none.
func (g *grounded) weatherAt(at time.Time) *HourWeather {
	for _, h := range g.Hours {
		if !at.Before(h.At) && at.Before(h.At.Add(time.Hour)) {
			return &HourWeather{h.Wind, h.Air, h.RH, h.Rain, g.Lawn.SoilC}
		}
	}
	return nil
}

// withProduct adds amounts, tank and re-entry.
func (g *grounded) withProduct(out *Proposal, o *casework.OnShelf, a casework.Ask, tank float64) {
	l := &o.Label
	u := l.For(a.Action, a.Target, g.Lawn.Grasses)
	out.ProductID, out.LotID, out.Licence = &o.Product.ID, a.Lot, l.Pesticide() || l.Restricted
	out.Rate, out.RateUnit, out.Carrier = a.Rate, l.Unit(), a.Carrier
	out.Amount = a.Rate * a.AreaM2
	out.Mixing = dose.MixOrder(l.Form)
	given := casework.GivenBy(l, u, a.Rate)
	out.Nutrients, out.Actives = given.Nutrients, given.Actives
	if u != nil {
		out.RateLow, out.RateHigh, out.MustWaterIn = u.RateLow, u.RateHigh, l.ReentryWateredIn
		out.Targets = append(out.Targets, u.Targets...)
	}
	at := time.Unix(0, 0)
	until, _ := clearance.KeptOff(l, at, nil)
	out.ClosedHours = until.Sub(at).Hours()
	if l.Sprayed() && a.Carrier > 0 && a.Rate > 0 {
		if tank == 0 {
			tank = usualTank
		}
		out.TankL = tank
		entries := map[string]dose.Entry{"carrier": {Amount: a.Carrier}, "tank": {Amount: tank}, "area": {Amount: a.AreaM2},
			"area-error": {Amount: g.Zone.AreaError * 100}, "measure": {Choice: "mass"}, "rate-mass": {Amount: a.Rate}}
		if l.Liquid {
			entries["measure"], entries["rate"] = dose.Entry{Choice: "volume"}, dose.Entry{Amount: a.Rate}
			delete(entries, "rate-mass")
		}
		if r, err := dose.Work("tank", entries, g.say); err == nil {
			t := benchResult(r)
			out.Tank = &t
		}
	}
}

// sortedKeys are the keys of a map in their order.
func sortedKeys[T any](m map[string]T) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
