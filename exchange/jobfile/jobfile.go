// Package jobfile reads a job as a file, version 1, described in docs/formats.md: what is to be done, where, when, with what and by whom,
// and what the place says. It is what the program judges a job by, without a database.
package jobfile

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"hodos/core/clearance"
	"hodos/core/label"
	"hodos/core/remedy"
	"hodos/core/turf"
	"hodos/exchange/refusal"
)

const (
	version = 1
	largest = 4 << 20
)

// moment is a day or a time by the clock of the lawn.
type moment struct{ time.Time }

// UnmarshalJSON reads YYYY-MM-DD or YYYY-MM-DDTHH:MM.
func (m *moment) UnmarshalJSON(b []byte) error {
	var text string
	if err := json.Unmarshal(b, &text); err != nil {
		return err
	}
	for _, form := range []string{"2006-01-02T15:04", time.DateOnly} {
		if t, err := time.Parse(form, text); err == nil {
			m.Time = t
			return nil
		}
	}
	return fmt.Errorf("%q is not a day or a time (YYYY-MM-DD or YYYY-MM-DDTHH:MM)", text)
}

func (m *moment) pointer() *time.Time {
	if m == nil {
		return nil
	}
	return &m.Time
}

type person struct {
	Name         string  `json:"name"`
	Applicator   bool    `json:"applicator"`
	LicenceUntil *moment `json:"licence_until"`
}

func (p *person) core() *clearance.Person {
	if p == nil {
		return nil
	}
	return &clearance.Person{Name: p.Name, Applicator: p.Applicator, LicenceUntil: p.LicenceUntil.pointer()}
}

type applied struct {
	Day      moment             `json:"day"`
	Action   string             `json:"action"`
	Product  string             `json:"product"`
	Kind     string             `json:"kind"`
	Target   string             `json:"target"`
	Rate     float64            `json:"rate"`
	Actives  map[string]float64 `json:"actives"`
	Groups   []string           `json:"groups"`
	N        float64            `json:"n_g_m2"`
	P        float64            `json:"p_g_m2"`
	SeedDays float64            `json:"seed_after_days"`
}

type hour struct {
	At   moment   `json:"at"`
	Wind *float64 `json:"wind_ms"`
	Air  *float64 `json:"air_c"`
	Rain *float64 `json:"rain_mm"`
	RH   *float64 `json:"rh"`
}

type lawn struct {
	Place        string   `json:"place"`
	Latitude     float64  `json:"latitude"`
	Grasses      []string `json:"grasses"`
	AreaM2       float64  `json:"area_m2"`
	WaterM       *float64 `json:"water_m"`
	InFlower     bool     `json:"in_flower"`
	Frozen       bool     `json:"frozen"`
	Saturated    bool     `json:"saturated"`
	GreenUp      *float64 `json:"green_up_percent"`
	SoilC        *float64 `json:"soil_c"`
	SeedUp       *moment  `json:"seed_up"`
	Mowings      int      `json:"mowings"`
	MownOn       *moment  `json:"mown_on"`
	SeedPlanned  *moment  `json:"seed_planned"`
	PTested      *bool    `json:"phosphorus_asked"`
	LocatedOn    *moment  `json:"lines_located"`
	ClosedUntil  *moment  `json:"closed_until"`
	NoPesticides bool     `json:"no_pesticides"`
}

type machine struct {
	Name         string  `json:"name"`
	CalibratedOn *moment `json:"calibrated_on"`
	Broken       bool    `json:"broken"`
}

type file struct {
	Version    int              `json:"hodos_job"`
	Action     string           `json:"action"`
	At         moment           `json:"at"`
	Lawn       lawn             `json:"lawn"`
	Product    *label.Label     `json:"product"`
	Target     string           `json:"target"`
	Rate       float64          `json:"rate"`
	Carrier    float64          `json:"carrier_l_100m2"`
	TreatedM2  float64          `json:"treated_m2"`
	N          float64          `json:"n_g_m2"`
	P          float64          `json:"p_g_m2"`
	Person     *person          `json:"person"`
	Supervisor *person          `json:"supervisor"`
	Machine    *machine         `json:"machine"`
	NeedsTool  bool             `json:"needs_machine"`
	Left       *float64         `json:"left"`
	LotExpires *moment          `json:"lot_expires"`
	Posted     bool             `json:"posted"`
	Notified   *moment          `json:"neighbours_told"`
	Hours      []hour           `json:"hours"`
	History    []applied        `json:"history"`
	Rules      []clearance.Rule `json:"rules"`
}

// Read reads a job. The error is a *refusal.Refusal, or the reader's own.
func Read(in io.Reader) (clearance.Job, error) {
	refused := &refusal.Refusal{}
	d := json.NewDecoder(io.LimitReader(in, largest))
	d.DisallowUnknownFields()
	var f file
	if err := d.Decode(&f); err != nil {
		var typed *json.UnmarshalTypeError
		if errors.As(err, &typed) {
			refused.Add(0, typed.Field, "is not a %s", typed.Type)
		} else {
			refused.Add(0, "", "%s", err.Error())
		}
		return clearance.Job{}, refused
	}
	f.check(refused)
	if refused.Count > 0 {
		return clearance.Job{}, refused
	}
	return f.job(), nil
}

func (f *file) check(r *refusal.Refusal) {
	if f.Version != version {
		r.Add(0, "hodos_job", "is not %d", version)
	}
	if !remedy.Known(f.Action) {
		r.Add(0, "action", "%q is no action", f.Action)
	}
	if f.At.IsZero() {
		r.Add(0, "at", "is missing")
	}
	for i, g := range f.Lawn.Grasses {
		if _, ok := turf.ByID(g); !ok {
			r.Add(0, fmt.Sprintf("lawn.grasses[%d]", i), "%q is no grass", g)
		}
	}
	if f.Lawn.Latitude < -90 || f.Lawn.Latitude > 90 {
		r.Add(0, "lawn.latitude", "is outside -90 to 90")
	}
	if f.Product != nil {
		for _, w := range f.Product.Check(remedy.Known) {
			r.Add(0, "product."+w.Field, "%s", w.Reason)
		}
	}
	for i, rule := range f.Rules {
		for field, why := range rule.Check() {
			r.Add(0, fmt.Sprintf("rules[%d].%s", i, field), "%s", why)
		}
	}
	for _, x := range []struct {
		field string
		value float64
	}{
		{"rate", f.Rate}, {"carrier_l_100m2", f.Carrier}, {"treated_m2", f.TreatedM2},
		{"n_g_m2", f.N}, {"p_g_m2", f.P}, {"lawn.area_m2", f.Lawn.AreaM2},
	} {
		if x.value < 0 || x.value > 1e9 {
			r.Add(0, x.field, "is outside 0 to 1,000,000,000")
		}
	}
}

func (f *file) job() clearance.Job {
	l := f.Lawn
	j := clearance.Job{
		Action: f.Action,
		At:     f.At.Time,
		Water:  remedy.Waters(f.Action),
		Ground: clearance.OpensGround(f.Action),
		Seeds: clearance.Seeds(
			f.Action,
		),
		Product:    f.Product,
		Target:     f.Target,
		Rate:       f.Rate,
		Carrier:    f.Carrier,
		TreatedM2:  f.TreatedM2,
		N:          f.N,
		P:          f.P,
		Person:     f.Person.core(),
		Supervisor: f.Supervisor.core(),
		NeedsTool:  f.NeedsTool,
		Left:       f.Left,
		LotExpires: f.LotExpires.pointer(),
		Posted:     f.Posted,
		Notified:   f.Notified.pointer(),
		Rules:      f.Rules,
		Lawn: clearance.Lawn{Place: l.Place, Latitude: l.Latitude, Grasses: l.Grasses, AreaM2: l.AreaM2, WaterM: l.WaterM, InFlower: l.InFlower,
			Frozen: l.Frozen, Saturated: l.Saturated, GreenUp: l.GreenUp, SoilC: l.SoilC, SeedUp: l.SeedUp.pointer(), Mowings: l.Mowings,
			MownOn: l.MownOn.pointer(), SeedPlanned: l.SeedPlanned.pointer(), PTested: l.PTested, LocatedOn: l.LocatedOn.pointer(),
			KeptOffUntil: l.ClosedUntil.pointer(), NoPesticides: l.NoPesticides},
	}
	if f.Product != nil {
		j.ProductKey, j.Use = f.Product.Name, f.Product.For(f.Action, f.Target, l.Grasses)
	}
	if f.Machine != nil {
		j.Machine = &clearance.Machine{Name: f.Machine.Name, CalibratedOn: f.Machine.CalibratedOn.pointer(), Broken: f.Machine.Broken}
	}
	for _, h := range f.Hours {
		if !h.At.Before(f.At.Truncate(time.Hour)) {
			j.Hours = append(j.Hours, clearance.Hour{At: h.At.Time, Wind: h.Wind, Air: h.Air, Rain: h.Rain, RH: h.RH})
		}
	}
	for _, a := range f.History {
		j.History = append(j.History, clearance.Applied{Day: a.Day.Time, Action: a.Action, Product: a.Product, Kind: a.Kind, Target: a.Target,
			Rate: a.Rate, Actives: a.Actives, Groups: a.Groups, N: a.N, P: a.P, SeedDays: a.SeedDays})
	}
	return j
}
