package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/core/diagnosis"
	"hodos/core/remedy"
	"hodos/core/sky"
	"hodos/core/soil"
	"hodos/core/units"
	"hodos/core/weather"
	"hodos/exchange/weatherfile"
	"hodos/store"
)

// SkyDay is one day of the weather and ground view. Null is "not known".
type SkyDay struct {
	Date       string   `json:"date" format:"date"`
	Forecast   bool     `json:"forecast"`
	TMin       *float64 `json:"tmin_c" nullable:"true" required:"true"`
	TMax       *float64 `json:"tmax_c" nullable:"true" required:"true"`
	Rain       *float64 `json:"rain_mm" nullable:"true" required:"true"`
	Irrigation *float64 `json:"irrigation_mm" nullable:"true" required:"true"`
	SoilMean   *float64 `json:"soil_mean_c" nullable:"true" required:"true"`
	SoilPeak   *float64 `json:"soil_peak_c" nullable:"true" required:"true"`
	Depletion  *float64 `json:"depletion_mm" nullable:"true" required:"true"`
	ET         *float64 `json:"et_mm" nullable:"true" required:"true"`
	Wet        *float64 `json:"wet_hours" nullable:"true" required:"true"`
	Growth     *float64 `json:"growth" nullable:"true" required:"true"`
}

// SkyBand is one row of windows under the charts.
type SkyBand struct {
	ID       string     `json:"id"`
	Kind     string     `json:"kind" enum:"stress,disease,insect,work"`
	Label    string     `json:"label"`
	Strength []*float64 `json:"strength" nullable:"false" doc:"0 to 1 by day; null where it could not be computed"`
	From     int        `json:"look_back_from"`
	To       int        `json:"look_back_to" doc:"days before onset; 0 for none"`
}

// SkySentence is one thing that the series says.
type SkySentence struct {
	Text string `json:"text"`
	Row  string `json:"row"`
	From string `json:"from" format:"date"`
	To   string `json:"to" format:"date"`
}

// SkyMark is something that was done or read on a day.
type SkyMark struct {
	Date string `json:"date" format:"date"`
	Kind string `json:"kind" enum:"treatment,reading,visit"`
	Text string `json:"text"`
}

// SpraySpell is a stretch of hours on one day.
type SpraySpell struct {
	Date string `json:"date" format:"date"`
	From int    `json:"from" doc:"full hour, local"`
	To   int    `json:"to"`
}

// SkyView is all that the weather and ground view shows.
type SkyView struct {
	Station   string        `json:"station"`
	Simulated bool          `json:"simulated"`
	Today     string        `json:"today" format:"date"`
	Onset     *string       `json:"onset,omitempty" format:"date"`
	Warm      bool          `json:"warm"`
	TotalMM   float64       `json:"total_mm" doc:"what the root zone holds for plants"`
	Days      []SkyDay      `json:"days" nullable:"false"`
	Bands     []SkyBand     `json:"bands" nullable:"false"`
	Sentences []SkySentence `json:"sentences" nullable:"false"`
	Marks     []SkyMark     `json:"marks" nullable:"false"`
	Missing   []string      `json:"missing" nullable:"false" doc:"what could not be computed, and why"`
	Assumed   []string      `json:"assumed" nullable:"false" doc:"what the water balance took for granted"`
	WetByHour bool          `json:"wet_by_hour" doc:"wet hours are counted by the hour; otherwise they are an estimate from daily values"`
	Rain      struct {
		Days3  float64 `json:"days_3"`
		Days7  float64 `json:"days_7"`
		Days14 float64 `json:"days_14"`
		Days30 float64 `json:"days_30"`
		Since5 int     `json:"since_5_mm"`
	} `json:"rain"`
	Frost struct {
		Nights  int      `json:"nights" doc:"at 0 °C and under, of the last sixty"`
		Killing int      `json:"killing" doc:"at −2.2 °C and under"`
		Lowest  *float64 `json:"lowest_c" nullable:"true" required:"true"`
		LastOn  *string  `json:"last_on,omitempty" format:"date"`
		NextOn  *string  `json:"next_on,omitempty" format:"date" doc:"by the forecast"`
	} `json:"frost"`
	Endurance struct {
		Weeks    float64 `json:"weeks" doc:"0 for no value"`
		Used     float64 `json:"used"`
		DaysLeft float64 `json:"days_left"`
	} `json:"endurance"`
}

func optionalDay(t time.Time) *string {
	if t.IsZero() {
		return nil
	}
	return dateText(&t)
}

var bandLabels = map[string]string{"autumn-feeding": "Autumn feeding", "regulator-worn-off": "Regulator worn off", "heat": "Heat", "warm-nights": "Warm nights", "drought": "Root zone past half", "waterlogged": "Waterlogged", "frost": "Frost", "spraying": "Fit to spray"}

func bandLabel(id string) string {
	if l, ok := bandLabels[id]; ok {
		return l
	}
	if c, ok := diagnosis.CauseByID(id); ok {
		return c.Label
	}
	for _, w := range weather.DegreeWindows {
		if w.ID == id {
			return w.Label
		}
	}
	return id
}

func known(x float64) *float64 {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return nil
	}
	y := math.Round(x*100) / 100
	return &y
}

func unless(unsaid bool, x float64) *float64 {
	if unsaid {
		return nil
	}
	return known(x)
}

// skyOf looks at a zone on a visit, with the hours.
func (s *Server) skyOf(ctx context.Context, visit, zone uuid.UUID) (sky.Sky, Scales, diagnosis.Case, *store.Station, error) {
	out, c, station, _, err := s.caseOn(ctx, visit, zone)
	if err != nil {
		return sky.Sky{}, out, c, nil, err
	}
	look, _, _ := c.Sky(diagnosis.Gather(c).Values)
	return look, out, c, station, nil
}

// skyOfZone looks at a zone today, without a visit: from what former visits, readings and records say of it.
func (s *Server) skyOfZone(ctx context.Context, zone uuid.UUID) (look sky.Sky, c diagnosis.Case, station *store.Station, err error) {
	today, err := s.clock.Today(ctx)
	if err != nil {
		return look, c, nil, s.said(err)
	}
	var z store.Zone
	var site store.Site
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&z, "id = ?", zone).Error; err != nil {
			return err
		}
		if err := tx.First(&site, "id = ?", z.SiteID).Error; err != nil || site.StationID == nil {
			return err
		}
		station = &store.Station{}
		return tx.First(station, "id = ?", *site.StationID).Error
	})
	if err != nil {
		return look, c, nil, err
	}
	var forecast []weather.Day
	if station != nil {
		forecast = s.forecast(ctx, *station, today, forecastDays)
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		at, err := stationAt(tx, site.StationID, forecast, today)
		if err != nil {
			return err
		}
		found, err := zonesOn(tx, []store.Site{site}, []store.Zone{z}, at, today)
		if err != nil {
			return err
		}
		if err := found[0].weather(); err != nil {
			return err
		}
		c = found[0].c
		look, _, _ = c.Sky(diagnosis.Gather(c).Values)
		// what was done and found stands as marks on the axis
		var past diagnosis.Case
		past.Lawn = c.Lawn
		if err := readHistory(tx, uuid.Nil, zone, today, &past); err != nil {
			return err
		}
		c.Treatments = past.Treatments
		for _, e := range past.Earlier {
			c.Earlier = append(c.Earlier, diagnosis.Earlier{Date: e.Date, Answer: e.Answer})
		}
		return nil
	})
	return look, c, station, err
}

// saying is how the caller reads quantities: in units of their own, or in the firm's.
func (s *Server) saying(ctx context.Context) (in units.Saying, err error) {
	var of struct{ Units string }
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		return tx.Raw("SELECT coalesce(nullif(p.unit_system, ''), f.unit_system) AS units FROM people p JOIN firms f ON f.id = p.firm_id WHERE p.id = ?", who(ctx).Person).Scan(&of).Error
	})
	return units.In(of.Units), err
}

func (s *Server) skyRoutes() {
	type skyInput struct {
		ZonePath
		Weeks int `query:"weeks" minimum:"1" maximum:"52" default:"12"`
	}
	type zoneSkyInput struct {
		IDPath
		Weeks int `query:"weeks" minimum:"1" maximum:"52" default:"12"`
	}
	operation(s, http.MethodGet, "/zones/{id}/sky", "get-zone-sky", "Weather and ground of a zone today, without a visit", "sky", See, func(ctx context.Context, in *zoneSkyInput) (*body[SkyView], error) {
		look, c, station, err := s.skyOfZone(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		say, err := s.saying(ctx)
		return answer(skyView(look, c, station, in.Weeks*7, say)), err
	})
	operation(s, http.MethodGet, "/visits/{id}/zones/{zone}/sky", "get-sky", "Weather and ground of a zone on one time axis", "sky", See, func(ctx context.Context, in *skyInput) (*body[SkyView], error) {
		look, _, c, station, err := s.skyOf(ctx, in.ID, in.Zone)
		if err != nil {
			return nil, err
		}
		say, err := s.saying(ctx)
		return answer(skyView(look, c, station, in.Weeks*7, say)), err
	})
	type siteWeather struct {
		IDPath
		Kind string `query:"kind" enum:"daily,hourly" default:"daily"`
	}
	type file struct {
		ContentDisposition string `header:"Content-Disposition"`
		ContentType        string `header:"Content-Type"`
		Body               []byte
	}
	operation(s, http.MethodGet, "/sites/{id}/weather", "export-weather", "The weather of a site as a file: the station under what was measured on site", "sky", See, func(ctx context.Context, in *siteWeather) (*file, error) {
		today, err := s.clock.Today(ctx)
		if err != nil {
			return nil, s.said(err)
		}
		var out bytes.Buffer
		err = s.inFirm(ctx, func(tx *gorm.DB) error {
			var site store.Site
			if err := tx.First(&site, "id = ?", in.ID).Error; err != nil {
				return err
			}
			days, err := weatherAt(tx, site, today.AddDate(-100, 0, 0), today)
			if err != nil {
				return err
			}
			zone, err := time.LoadLocation(site.Timezone)
			if err != nil {
				zone = time.UTC
			}
			return weatherfile.Write(&out, days, in.Kind == "hourly", zone)
		})
		return &file{`attachment; filename="weather-` + in.Kind + `.csv"`, "text/csv; charset=utf-8", out.Bytes()}, err
	})
	s.seriesRoutes()
	s.wateringRoutes()
}

func skyView(look sky.Sky, c diagnosis.Case, station *store.Station, span int, in units.Saying) SkyView {
	v := SkyView{Today: c.Lawn.Date.Format(dateOnly), Warm: look.Ground.Warm, TotalMM: math.Round(look.Total*10) / 10, Days: []SkyDay{}, Bands: []SkyBand{}, Sentences: []SkySentence{}, Marks: []SkyMark{}, Missing: []string{}, Assumed: []string{}}
	if station != nil {
		v.Station, v.Simulated = station.Name, station.Simulated
	}
	v.Onset = dateText(c.Onset)
	for _, m := range look.Missing {
		v.Missing = append(v.Missing, m.Why)
	}
	v.Assumed = append(v.Assumed, look.Assumed...)
	first := max(0, look.Today+1-span)
	for i := first; i < len(look.Points); i++ {
		p := &look.Points[i]
		d := SkyDay{Date: p.Date.Format(dateOnly), Forecast: p.Forecast, TMin: p.TMin, TMax: p.TMax, Rain: p.Rain, Irrigation: p.Irrigation, SoilMean: known(p.SoilMean), SoilPeak: known(p.SoilPeak), Depletion: unless(look.Unsaid, p.Depletion), ET: known(p.ETc), Wet: known(p.WetHours), Growth: known(p.Growth)}
		v.WetByHour = v.WetByHour || !math.IsNaN(p.WetHours) && !p.WetEstimated && !p.Forecast
		v.Days = append(v.Days, d)
	}
	for _, b := range look.Bands {
		row := SkyBand{ID: b.ID, Kind: b.Kind, Label: bandLabel(b.ID), Strength: make([]*float64, 0, len(b.Strength)), From: b.From, To: b.To}
		strongest := 0.0
		for _, x := range b.Strength[first:] {
			row.Strength = append(row.Strength, known(x))
			if !math.IsNaN(x) {
				strongest = math.Max(strongest, x)
			}
		}
		if b.Kind == "disease" && diagnosis.Odds(b.ID, c.Lawn) == 0 {
			continue // this grass cannot have it
		}
		if strongest > 0 {
			v.Bands = append(v.Bands, row)
		}
	}
	for _, x := range look.Sentences(bandLabel, in) {
		if _, ok := diagnosis.CauseByID(x.Row); ok && diagnosis.Odds(x.Row, c.Lawn) == 0 {
			continue
		}
		v.Sentences = append(v.Sentences, SkySentence{x.Text, x.Row, x.From.Format(dateOnly), x.To.Format(dateOnly)})
	}
	for _, t := range c.Treatments {
		v.Marks = append(v.Marks, SkyMark{t.Date.Format(dateOnly), "treatment", remedy.Label(t.Action)})
	}
	read := func(day string, findings map[string]diagnosis.Value) {
		for _, id := range []string{"soil-temp-c", "soil-moisture", "soil-moisture-vwc"} {
			if x, ok := findings[id]; ok {
				f, _ := diagnosis.FindingByID(id)
				v.Marks = append(v.Marks, SkyMark{day, "reading", diagnosis.InWords(f, id, x)})
			}
		}
	}
	for _, e := range c.Earlier {
		if cause, ok := diagnosis.CauseByID(e.Answer); ok {
			v.Marks = append(v.Marks, SkyMark{e.Date.Format(dateOnly), "visit", "Visit: " + cause.Label})
		}
		read(e.Date.Format(dateOnly), e.Findings)
	}
	read(v.Today, c.Findings)
	frost := look.FrostBefore()
	v.Frost.Nights, v.Frost.Killing, v.Frost.Lowest, v.Frost.LastOn, v.Frost.NextOn = frost.Nights, frost.Killing, known(frost.Lowest), optionalDay(frost.LastOn), optionalDay(frost.NextOn)
	r := look.RainBefore()
	v.Rain.Days3, v.Rain.Days7, v.Rain.Days14, v.Rain.Days30, v.Rain.Since5 = round1(r.Days3), round1(r.Days7), round1(r.Days14), round1(r.Days30), r.Since5
	v.Endurance.Weeks, v.Endurance.Used, v.Endurance.DaysLeft = look.Endurance.Weeks, round3(look.Endurance.Used), math.Round(look.Endurance.DaysLeft)
	return v
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }

// Watering is what a zone's water takes.
type Watering struct {
	RateMMH    float64          `json:"rate_mm_h" doc:"0 when it was never measured"`
	Uniformity float64          `json:"uniformity"`
	AuditedOn  *string          `json:"audited_on,omitempty" format:"date"`
	IntakeMMH  float64          `json:"intake_mm_h" doc:"what the ground takes in"`
	Known      bool             `json:"known" doc:"false where the lawn is watered and nobody said how much: nothing below is worked out then"`
	LackMM     float64          `json:"lack_mm" doc:"missing in the root zone today"`
	TotalMM    float64          `json:"total_mm"`
	Turn       *WateringTurn    `json:"turn,omitempty" doc:"a refill of what lacks today"`
	Syringe    float64          `json:"syringe_minutes" doc:"to cool the leaves with 1.5 mm; 0 without a rate"`
	Policies   []WateringPolicy `json:"policies" nullable:"false"`
	Half       *string          `json:"half_on,omitempty" format:"date" doc:"when half will be gone by the forecast"`
	Ramp       []RampStep       `json:"ramp" nullable:"false" doc:"for new seed, sod or plugs"`
	NewGrass   *NewGrass        `json:"new_grass,omitempty" doc:"what was sown or laid here in the last four weeks, by the records"`
	Audit      *AuditOnPlan     `json:"audit,omitempty" doc:"the last audit, to be drawn over the zone"`
	Ahead      []DayAhead       `json:"ahead" nullable:"false" doc:"the days of the calendar"`
	Permitted  []string         `json:"permitted" nullable:"false" doc:"weekdays on which the place lets this site be watered; empty for all"`
}

// NewGrass is grass that is being watered in.
type NewGrass struct {
	Kind string `json:"kind" enum:"seed,sod,plugs"`
	On   string `json:"on" format:"date"`
	Day  int    `json:"day" doc:"1 on the day it was sown or laid"`
}

// AuditOnPlan is an audit with the damage beside it.
type AuditOnPlan struct {
	Minutes float64  `json:"minutes"`
	Cans    []CanRow `json:"cans" nullable:"false"`
	Low     []int    `json:"low" nullable:"false" doc:"the lowest quarter, by place in the list"`
	Damaged []int    `json:"damaged" nullable:"false" doc:"cells of the plan that carry damage on this visit, y·12 + x"`
}

// DayAhead is one day of the watering calendar.
type DayAhead struct {
	Date      string   `json:"date" format:"date"`
	Rain      *float64 `json:"rain_mm" nullable:"true" required:"true"`
	Left      *float64 `json:"left_mm" nullable:"true" required:"true" doc:"in the root zone in the evening, if nothing is given"`
	Permitted bool     `json:"permitted"`
}

// WateringTurn is one watering.
type WateringTurn struct {
	GrossMM float64 `json:"gross_mm"`
	Minutes float64 `json:"minutes"`
	Cycles  int     `json:"cycles"`
	Cycle   float64 `json:"cycle_minutes"`
	Soak    float64 `json:"soak_minutes"`
	Start   string  `json:"start" doc:"clock time"`
	End     string  `json:"end"`
	Litres  float64 `json:"litres"`
	Cost    float64 `json:"cost"`
}

// WateringPolicy is one way through the days ahead.
type WateringPolicy struct {
	Name    string        `json:"name" enum:"keep-green,let-rest"`
	Due     []WateringDue `json:"due" nullable:"false"`
	Litres  float64       `json:"litres"`
	Cost    float64       `json:"cost"`
	Outlook string        `json:"outlook"`
}

// WateringDue is one day of it.
type WateringDue struct {
	Date string  `json:"date" format:"date"`
	MM   float64 `json:"mm"`
	Why  string  `json:"why"`
}

// RampStep is one stretch of watering in.
type RampStep struct {
	From  int     `json:"from_day"`
	To    int     `json:"to_day"`
	Times float64 `json:"times_a_day"`
	MM    float64 `json:"mm"`
	Why   string  `json:"why"`
}

// NewAudit is a catch-can audit.
type NewAudit struct {
	ID      uuid.UUID `json:"id" doc:"version 7, made by the client"`
	ZoneID  uuid.UUID `json:"zone_id"`
	Minutes float64   `json:"minutes" minimum:"1" maximum:"240"`
	Cans    []CanRow  `json:"cans" minItems:"4" maxItems:"96" nullable:"false"`
}

// CanRow is one can on the plan of twelve by eight.
type CanRow struct {
	X  int     `json:"x" minimum:"0" maximum:"11"`
	Y  int     `json:"y" minimum:"0" maximum:"7"`
	MM float64 `json:"mm" minimum:"0" maximum:"300"`
}

// AuditResult is what it came to.
type AuditResult struct {
	RateMMH    float64 `json:"rate_mm_h"`
	Uniformity float64 `json:"uniformity"`
	From       float64 `json:"from" doc:"95 % interval"`
	To         float64 `json:"to"`
	Low        []int   `json:"low" nullable:"false" doc:"the lowest quarter, by place in the list"`
	LowOn      int     `json:"low_on_damage"`
	Fault      bool    `json:"fault"`
	Verdict    string  `json:"verdict"`
}

// WateringQuery is what the watering is worked out for.
type WateringQuery struct {
	Days    string  `query:"days" maxLength:"40" doc:"permitted weekdays as three letters with commas; those of the site when left out"`
	Sunrise float64 `query:"sunrise" minimum:"0" maximum:"12" default:"6"`
	Ramp    string  `query:"ramp" enum:",seed,sod,plugs" doc:"left out: by the records, else seed"`
}

// marked are the cells of the plan that carry damage.
func marked(answers []Answered) map[int]bool {
	on := map[int]bool{}
	for _, a := range answers {
		if cells, ok := a.Value.([]any); ok && a.Finding == marksAnswer {
			for _, cell := range cells {
				on[int(cell.(float64))] = true
			}
		}
	}
	return on
}

// newGrassBy is what each action puts on the ground.
var newGrassBy = map[string]string{"overseed": "seed", "slit-seed": "seed", "renovate": "seed", "resod": "sod", "plug-or-sprig": "plugs"}

// newGrassDays is how long new grass is watered in.
const newGrassDays = 28

// wateringOf works out the watering of a zone from its sky, the firm's prices, the last audit and the records.
func (s *Server) wateringOf(ctx context.Context, zone uuid.UUID, look sky.Sky, c diagnosis.Case, q WateringQuery) (Watering, error) {
	out := Watering{Policies: []WateringPolicy{}, Ramp: []RampStep{}, Ahead: []DayAhead{}, Permitted: []string{}}
	allowed, err := weekdays("query.days", q.Days)
	if err != nil {
		return out, err
	}
	sp := soil.Sprinkler{AreaM2: 100}
	if c.Lawn.AreaM2 != nil {
		sp.AreaM2 = *c.Lawn.AreaM2
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		money, err := prices(tx)
		if err != nil {
			return err
		}
		sp.PriceM3 = money.Prices.WaterM3
		var of struct{ WateringDays string }
		if err := tx.Raw("SELECT s.watering_days FROM sites s JOIN zones z ON z.site_id = s.id WHERE z.id = ?", zone).Scan(&of).Error; err != nil {
			return err
		}
		if of.WateringDays != "" {
			out.Permitted = strings.Split(of.WateringDays, ",")
		}
		if q.Days == "" {
			if allowed, err = weekdays("watering_days", of.WateringDays); err != nil {
				return err
			}
		}
		if out.NewGrass, err = newGrass(tx, zone, c.Lawn.Date); err != nil {
			return err
		}
		var a store.Audit
		err = tx.Where("zone_id = ? AND audited_on <= ?", zone, c.Lawn.Date).Order("audited_on DESC, recorded_at DESC").First(&a).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
		sp.RateMMH, sp.Uniformity, out.AuditedOn = a.RateMMH, a.Uniformity, dateText(&a.AuditedOn)
		out.Audit = &AuditOnPlan{Minutes: a.Minutes, Low: []int{}, Damaged: []int{}}
		if err := json.Unmarshal(a.Cans, &out.Audit.Cans); err != nil {
			return err
		}
		r, err := soil.Audit(cansOf(out.Audit.Cans, nil), a.Minutes)
		out.Audit.Low = r.Low
		return err
	})
	if err != nil {
		return out, err
	}
	if v, ok := c.Findings["catch-can-mm-h"]; ok && sp.RateMMH == 0 {
		sp.RateMMH = *v.Number
	}
	if v, ok := c.Findings["catch-can-du"]; ok && sp.Uniformity == 0 {
		sp.Uniformity = *v.Number
	}
	ramp := q.Ramp
	if ramp == "" && out.NewGrass != nil {
		ramp = out.NewGrass.Kind
	}
	if ramp == "" {
		ramp = "seed"
	}
	return watering(look, sp, allowed, q.Sunrise, ramp, out), nil
}

// newGrass finds what was last sown or laid on a zone in the weeks in which it is watered in.
func newGrass(tx *gorm.DB, zone uuid.UUID, day time.Time) (*NewGrass, error) {
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id = ? AND applied_on > ? AND applied_on <= ?", zone, day.AddDate(0, 0, -newGrassDays), day).Order("applied_on, seq").Find(&records).Error; err != nil {
		return nil, err
	}
	var out *NewGrass
	for _, r := range store.Standing(records) {
		if kind, ok := newGrassBy[r.Action]; ok {
			out = &NewGrass{Kind: kind, On: r.AppliedOn.Format(dateOnly), Day: int(day.Sub(r.AppliedOn.UTC()).Hours()/24) + 1}
		}
	}
	return out, nil
}

// AuditOf is the rate (mm/h) and the uniformity (0 to 1) that some cans come to.
func AuditOf(cans []CanRow, minutes float64) (rate, uniformity float64, err error) {
	r, err := soil.Audit(cansOf(cans, nil), minutes)
	return r.RateMMH, r.Uniformity, err
}

func cansOf(rows []CanRow, on map[int]bool) []soil.Can {
	cans := make([]soil.Can, len(rows))
	for i, x := range rows {
		cans[i] = soil.Can{X: x.X, Y: x.Y, MM: x.MM, On: on[x.Y*12+x.X]}
	}
	return cans
}

func (s *Server) wateringRoutes() {
	type wateringInput struct {
		ZonePath
		WateringQuery
	}
	operation(s, http.MethodGet, "/visits/{id}/zones/{zone}/watering", "get-watering", "Minutes, cycles, litres and cost, both policies side by side", "sky", See, func(ctx context.Context, in *wateringInput) (*body[Watering], error) {
		look, sc, c, _, err := s.skyOf(ctx, in.ID, in.Zone)
		if err != nil {
			return nil, err
		}
		out, err := s.wateringOf(ctx, in.Zone, look, c, in.WateringQuery)
		if err != nil || out.Audit == nil {
			return answer(out), err
		}
		for cell := range marked(sc.Answers) {
			out.Audit.Damaged = append(out.Audit.Damaged, cell)
		}
		slices.Sort(out.Audit.Damaged)
		return answer(out), err
	})
	type zoneWateringInput struct {
		IDPath
		WateringQuery
	}
	operation(s, http.MethodGet, "/zones/{id}/watering", "get-zone-watering", "The same for a zone today, without a visit", "sky", See, func(ctx context.Context, in *zoneWateringInput) (*body[Watering], error) {
		look, c, _, err := s.skyOfZone(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		out, err := s.wateringOf(ctx, in.ID, look, c, in.WateringQuery)
		return answer(out), err
	})
	type auditInput struct {
		IDPath
		Body NewAudit
	}
	operation(s, http.MethodPost, "/visits/{id}/audits", "record-audit", "Record a catch-can audit; rate and uniformity go onto the scales", "sky", AnswerChecks, func(ctx context.Context, in *auditInput) (*body[AuditResult], error) {
		b := in.Body
		if err := keyed(b.ID); err != nil {
			return nil, err
		}
		sc, _, today, err := s.scales(ctx, in.ID, b.ZoneID, false)
		if err != nil {
			return nil, err
		}
		cans := cansOf(b.Cans, marked(sc.Answers))
		r, err := soil.Audit(cans, b.Minutes)
		if err != nil {
			return nil, invalid("body", err.Error())
		}
		stored, err := json.Marshal(b.Cans)
		if err != nil {
			return nil, s.said(err)
		}
		id := who(ctx)
		now := s.now().UTC()
		err = s.inFirm(ctx, func(tx *gorm.DB) error {
			row := store.Audit{ID: b.ID, FirmID: id.Firm, VisitID: in.ID, ZoneID: b.ZoneID, AuditedOn: today, Minutes: b.Minutes, Cans: stored, RateMMH: r.RateMMH, Uniformity: r.Uniformity, PersonID: id.Person, RecordedAt: now}
			if err := store.Create(tx, &row, row.ID); err != nil {
				return err
			}
			for finding, x := range map[string]float64{"catch-can-du": math.Round(r.Uniformity*100) / 100, "catch-can-mm-h": round1(r.RateMMH)} {
				value, _ := json.Marshal(x)
				a := store.Answer{ID: uuid.NewSHA1(b.ID, []byte(finding)), FirmID: id.Firm, VisitID: in.ID, ZoneID: b.ZoneID, Spot: "worst", Finding: finding, Value: value, PersonID: id.Person, RecordedAt: now}
				if err := store.Create(tx, &a, a.ID); err != nil {
					return err
				}
			}
			return nil
		})
		return answer(AuditResult{round1(r.RateMMH), math.Round(r.Uniformity*100) / 100, math.Round(r.From*100) / 100, math.Round(r.To*100) / 100, r.Low, r.LowOn, r.Fault, r.Verdict}), err
	})
	type daysInput struct {
		IDPath
		Body struct {
			Days []string `json:"days" maxItems:"7" nullable:"false" enum:"sun,mon,tue,wed,thu,fri,sat" uniqueItems:"true" doc:"empty for all"`
		}
	}
	operation(s, http.MethodPut, "/sites/{id}/watering-days", "set-watering-days", "Say on which weekdays the place lets a site be watered", "sky", BookVisits, func(ctx context.Context, in *daysInput) (*struct{}, error) {
		return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
			r := tx.Model(&store.Site{}).Where("id = ?", in.ID).Update("watering_days", strings.Join(in.Body.Days, ","))
			if r.Error == nil && r.RowsAffected == 0 {
				return store.ErrNotFound
			}
			return r.Error
		})
	})
	type givenInput struct {
		IDPath
		Body struct {
			Day string  `json:"day" format:"date"`
			MM  float64 `json:"mm" minimum:"0" maximum:"300"`
		}
	}
	operation(s, http.MethodPut, "/zones/{id}/waterings", "log-watering", "Note the water that a zone was given on a day", "sky", AnswerChecks, func(ctx context.Context, in *givenInput) (*struct{}, error) {
		day, err := dateOf("body.day", in.Body.Day)
		if err != nil {
			return nil, err
		}
		today, err := s.clock.Today(ctx)
		if err != nil {
			return nil, s.said(err)
		}
		if day.After(today) {
			return nil, invalid("body.day", "is in the future")
		}
		return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
			var z store.Zone
			if err := tx.First(&z, "id = ?", in.ID).Error; err != nil {
				return err
			}
			row := store.ZoneWatering{FirmID: z.FirmID, ZoneID: z.ID, Day: day, MM: in.Body.MM}
			return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "zone_id"}, {Name: "day"}}, UpdateAll: true}).Create(&row).Error
		})
	})
}

func weekdays(where, text string) (map[time.Weekday]bool, error) {
	if text == "" {
		return nil, nil
	}
	out := map[time.Weekday]bool{}
	for _, part := range strings.Split(text, ",") {
		found := false
		for d := time.Sunday; d <= time.Saturday; d++ {
			if strings.EqualFold(strings.TrimSpace(part), d.String()[:3]) {
				out[d], found = true, true
			}
		}
		if !found {
			return nil, invalid(where, part+" is no weekday (sun, mon, tue, wed, thu, fri, sat)")
		}
	}
	return out, nil
}

func clockTime(hours float64) string {
	return time.Date(2000, 1, 1, 0, int(math.Round(hours*60)), 0, 0, time.UTC).Format("15:04")
}

func watering(look sky.Sky, sp soil.Sprinkler, allowed map[time.Weekday]bool, sunrise float64, ramp string, out Watering) Watering {
	z := look.Ground.Zone
	out.RateMMH, out.Uniformity, out.IntakeMMH, out.TotalMM, out.Syringe = round1(sp.RateMMH), sp.Uniformity, round1(z.Intake()), round1(look.Total), math.Round(soil.Syringe(sp.RateMMH))
	for _, st := range soil.Ramp(ramp) {
		out.Ramp = append(out.Ramp, stepOf(st))
	}
	if look.Today < 0 {
		return out
	}
	if look.Unsaid {
		return out
	}
	for i := look.Today + 1; i < len(look.Points); i++ {
		p := &look.Points[i]
		out.Ahead = append(out.Ahead, DayAhead{p.Date.Format(dateOnly), p.Rain, known(look.Total - p.Depletion), len(allowed) == 0 || allowed[p.Date.Weekday()]})
	}
	lack := look.Points[look.Today].Depletion
	out.LackMM, out.Known = round1(lack), true
	if i := look.Balance.When(look.Today, .5); i >= 0 {
		out.Half = dateText(&look.Points[i].Date)
	}
	if t, err := soil.Watering(z, sp, math.Max(1, lack), sunrise); err == nil {
		out.Turn = &WateringTurn{round1(t.GrossMM), math.Round(t.Minutes), t.Cycles, math.Round(t.CycleMinutes), t.SoakMinutes, clockTime(t.Start), clockTime(t.End), math.Round(t.Litres), math.Round(t.Cost*100) / 100}
	}
	for _, p := range soil.Ahead(z, sp, look.Balance, look.Today, look.Endurance.Weeks, allowed) {
		row := WateringPolicy{Name: p.Name, Due: []WateringDue{}, Litres: math.Round(p.Litres), Cost: math.Round(p.Cost*100) / 100, Outlook: p.Outlook}
		for _, d := range p.Due {
			row.Due = append(row.Due, WateringDue{d.Date.Format(dateOnly), round1(d.NetMM), d.Why})
		}
		out.Policies = append(out.Policies, row)
	}
	return out
}

func stepOf(s soil.Step) RampStep { return RampStep{s.FromDay, s.ToDay, s.TimesADay, s.MM, s.Why} }
