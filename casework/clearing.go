package casework

import (
	"encoding/json"
	"errors"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/clearance"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/remedy"
	"hodos/core/turf"
	"hodos/core/weather"
	"hodos/store"
)

// Ask is a job as somebody thinks of doing it.
type Ask struct {
	Action, Target        string
	At                    time.Time // clock time of the lawn
	Product               *OnShelf
	Lot, Machine          *uuid.UUID
	Rate, Carrier, AreaM2 float64
	N, P                  float64 // of a job without a product on the shelf
	Person, Supervisor    *store.Person
	Posted                bool
	Notified              *time.Time
	Mowings               *int // of new grass; estimated from its age where nobody has counted
	InFlower              bool
	SeedPlanned           *time.Time
}

// Ground is what a zone's jobs are judged by, read once for all products.
type Ground struct {
	Zone    store.Zone
	Site    store.Site
	Lawn    clearance.Lawn
	Hours   []clearance.Hour
	History []clearance.Applied
	Rules   []clearance.Rule
	Plan    remedy.Plan
}

// GroundOf reads what the jobs of a zone are judged by. c is the zone's case with its hours, r and plan what was made of it.
func GroundOf(tx *gorm.DB, zone uuid.UUID, country string, c evidence.Case, r diagnosis.Result, plan remedy.Plan) (Ground, error) {
	g := Ground{Plan: plan}
	if err := tx.First(&g.Zone, "id = ?", zone).Error; err != nil {
		return g, err
	}
	if err := tx.First(&g.Site, "id = ?", g.Zone.SiteID).Error; err != nil {
		return g, err
	}
	var err error
	day := c.Lawn.Date
	if g.History, err = AppliedTo(tx, zone, day); err != nil {
		return g, err
	}
	if g.Rules, err = Rules(tx); err != nil {
		return g, err
	}
	place := g.Site.Place
	if place == "" {
		place = country
	}
	g.Lawn = clearance.Lawn{Place: place, Latitude: g.Site.Latitude, Grasses: c.Lawn.Species, AreaM2: g.Zone.AreaM2, WaterM: g.Zone.WaterM,
		LocatedOn: g.Site.LinesLocatedOn, NoPesticides: noPesticides(g.Zone)}
	ground(&g.Lawn, c, r)
	g.seedling(day)
	if g.Lawn.KeptOffUntil, err = closedUntil(tx, zone, day, Location(g.Site.Timezone)); err != nil {
		return g, err
	}
	g.Hours = hoursOf(c.Forecast)
	return g, nil
}

// ground puts what was found and computed of the soil onto the lawn.
func ground(l *clearance.Lawn, c evidence.Case, r diagnosis.Result) {
	if v, ok := c.Findings["green-up-percent"]; ok {
		l.GreenUp = v.Number
	}
	if v, ok := c.Findings["soil-p-ppm"]; ok && v.Number != nil {
		asks := *v.Number < 21 // the minimum of the amounts
		l.PTested = &asks
	}
	if v, ok := c.Findings["soil-moisture"]; ok {
		l.Saturated = v.Word == "saturated"
	}
	if s := r.Sky; s.Today >= 0 && s.Today < len(s.Points) {
		if x := s.Points[s.Today].SoilMean; !math.IsNaN(x) {
			l.SoilC, l.Frozen = &x, x <= .5
		}
	}
}

// seedling is the newest grass that was sown or planted, by the records: up after the emergence of its kind, mown once a week.
func (g *Ground) seedling(day time.Time) {
	up := 14.0 // judgement: a grass that nobody knows
	for _, id := range g.Lawn.Grasses {
		if s, ok := turf.ByID(id); ok && s.Emergence.Known() {
			up = s.Emergence.High
		}
	}
	for _, a := range g.History {
		if clearance.Seeds(a.Action) {
			at := a.Day.AddDate(0, 0, int(up))
			g.Lawn.SeedUp = &at
		}
	}
	if s := g.Lawn.SeedUp; s != nil {
		if age := day.Sub(*s).Hours() / 24; age > 120 { // judgement: a stand like any other
			g.Lawn.SeedUp = nil
		} else {
			g.Lawn.Mowings = max(0, int(age/7)-1)
		}
	}
}

// closedUntil is until when people are kept off a zone after earlier treatments; what has still to be watered in closes it for a day.
func closedUntil(tx *gorm.DB, zone uuid.UUID, day time.Time, in *time.Location) (*time.Time, error) {
	var row struct{ At *time.Time }
	err := tx.Raw(`SELECT max(coalesce(until, ended_at + interval '1 day')) AS at FROM closed_zones
		WHERE zone_id = ? AND applied_on > ? AND applied_on <= ?`,
		zone, day.AddDate(0, 0, -31), day).
		Scan(&row).
		Error
	if row.At == nil {
		return nil, err
	}
	local := wall(row.At.In(in))
	return &local, err
}

// hoursOf are the hours of the days ahead, by the clock of the lawn.
func hoursOf(days []weather.Day) []clearance.Hour {
	var out []clearance.Hour
	for _, d := range days {
		if d.Hours == nil {
			continue
		}
		for h := range 24 {
			x := clearance.Hour{At: d.Date.Add(time.Duration(h) * time.Hour)}
			for _, p := range []struct {
				from float64
				into **float64
			}{{d.Hours.Wind[h], &x.Wind}, {d.Hours.Temp[h], &x.Air}, {d.Hours.Rain[h], &x.Rain}, {d.Hours.RH[h], &x.RH}} {
				if v := p.from; !math.IsNaN(v) {
					*p.into = &v
				}
			}
			out = append(out, x)
		}
	}
	return out
}

// noPesticides is the client's wish.
func noPesticides(z store.Zone) bool {
	var row struct {
		Pesticides string `json:"pesticides"`
	}
	_ = json.Unmarshal(z.Policy, &row) // written by the API alone, which has checked it
	return row.Pesticides == "none"
}

// wall is a clock time as if it were UTC: hours of a lawn carry no zone.
func wall(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), t.Hour(), t.Minute(), 0, 0, time.UTC)
}

// Job puts a job together as the core judges it.
func (g *Ground) Job(tx *gorm.DB, a Ask) (clearance.Job, error) {
	at := wall(a.At)
	j := clearance.Job{
		Action:    a.Action,
		At:        at,
		Water:     remedy.Waters(a.Action),
		Ground:    clearance.OpensGround(a.Action),
		Seeds:     clearance.Seeds(a.Action),
		Lawn:      g.Lawn,
		Target:    a.Target,
		Rate:      a.Rate,
		Carrier:   a.Carrier,
		TreatedM2: a.AreaM2,
		N:         a.N,
		P:         a.P,
		Posted:    a.Posted,
		Rules:     g.Rules,
		History:   g.History,
	}
	for i, h := range g.Hours {
		if !h.At.Before(at.Truncate(time.Hour)) {
			j.Hours = g.Hours[i:]
			break
		}
	}
	if len(j.Hours) > 0 && j.Hours[0].At.After(at.Add(time.Hour)) {
		j.Hours = nil // of an hour that the forecast does not hold nothing is known
	}
	if a.Mowings != nil {
		j.Lawn.Mowings = *a.Mowings
	}
	if a.Notified != nil {
		t := wall(*a.Notified)
		j.Notified = &t
	}
	j.Lawn.InFlower, j.Lawn.SeedPlanned = a.InFlower, a.SeedPlanned
	j.Person, j.Supervisor = personOf(a.Person), personOf(a.Supervisor)
	if o := a.Product; o != nil {
		j.Product, j.ProductKey = &o.Label, o.Product.ID.String()
		j.Use = o.Label.For(a.Action, a.Target, g.Lawn.Grasses)
		j.Left = o.Left()
		for _, l := range o.Lots {
			if a.Lot != nil && l.ID == *a.Lot {
				j.LotExpires = l.ExpiresOn
			}
		}
	}
	j.Gate = g.gate(a.Action)
	if a.Machine == nil {
		return j, nil
	}
	var err error
	j.Machine, err = machineOf(tx, *a.Machine)
	return j, err
}

func personOf(p *store.Person) *clearance.Person {
	if p == nil {
		return nil
	}
	return &clearance.Person{Name: p.Name, Applicator: p.Role == "applicator" || p.Role == "owner", LicenceUntil: p.LicenceUntil}
}

func machineOf(tx *gorm.DB, id uuid.UUID) (*clearance.Machine, error) {
	var m store.Machine
	if err := tx.First(&m, "id = ?", id).Error; err != nil {
		return nil, err
	}
	out := &clearance.Machine{Name: m.Name, Broken: m.Broken}
	var last store.MachineLog
	err := tx.Where("machine_id = ? AND kind = 'calibration'", id).Order("day DESC, recorded_at DESC").First(&last).Error
	if err == nil {
		out.CalibratedOn = &last.Day
	} else if !errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, err
	}
	return out, nil
}

// kinds of the plan's gates as clearance tells them: what is for safety is nobody's to pass.
var kinds = map[remedy.Kind]clearance.Kind{
	remedy.ByLaw:    clearance.Law,
	remedy.ByLabel:  clearance.Label,
	remedy.Agronomy: clearance.Agronomy,
	remedy.ByPolicy: clearance.Policy,
	remedy.Safety:   clearance.Law,
}

// gate is what the plan has against an action that is called for.
func (g *Ground) gate(action string) *clearance.Gate {
	for _, l := range g.Plan.Lines {
		if l.ID != action || l.Gate == "" || l.Gate == "lines" || l.Verdict == remedy.DoNow {
			continue
		}
		out := &clearance.Gate{ID: l.Gate, Kind: kinds[l.Kind], Lifts: l.UntilWhat, Until: l.Until}
		if out.Kind == "" {
			out.Kind = clearance.Agronomy
		}
		if len(l.Reasons) > 0 {
			out.Reason = l.Reasons[0]
		}
		if l.From != nil && out.Until == nil {
			out.Until = l.From
		}
		return out
	}
	return nil
}

func isCool(id string) bool {
	g, ok := turf.ByID(id)
	return !ok || g.Family != turf.Warm
}
