package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"math"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/core/diagnosis"
	"hodos/core/remedy"
	"hodos/core/sky"
	"hodos/core/soil"
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
	Endurance struct {
		Weeks    float64 `json:"weeks" doc:"0 for no value"`
		Used     float64 `json:"used"`
		DaysLeft float64 `json:"days_left"`
	} `json:"endurance"`
}

var bandLabels = map[string]string{"heat": "Heat", "warm-nights": "Nights over 20 °C", "drought": "Root zone past half", "waterlogged": "Waterlogged", "frost": "Frost", "spraying": "Fit to spray"}

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
func (s *Server) skyOf(ctx context.Context, visit, zone uuid.UUID) (sky.Sky, diagnosis.Case, *store.Station, error) {
	_, c, date, err := s.scales(ctx, visit, zone, false)
	if err != nil {
		return sky.Sky{}, c, nil, err
	}
	var station *store.Station
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		var z store.Zone
		var site store.Site
		if err := tx.First(&z, "id = ?", zone).Error; err != nil {
			return err
		}
		if err := tx.First(&site, "id = ?", z.SiteID).Error; err != nil {
			return err
		}
		if site.StationID != nil {
			station = &store.Station{}
			if err := tx.First(station, "id = ?", *site.StationID).Error; err != nil {
				return err
			}
		}
		if c.Weather, err = weatherAt(tx, site, date.AddDate(0, 0, -weatherDays), date); err != nil {
			return err
		}
		return watered(tx, zone, c.Weather)
	})
	if err != nil {
		return sky.Sky{}, c, nil, err
	}
	if station != nil && s.weather != nil {
		c.Forecast = s.weather.Forecast(*station, date, forecastDays)
	}
	g := diagnosis.Gather(c)
	look, _, _ := c.Sky(g.Values)
	return look, c, station, nil
}

func (s *Server) skyRoutes() {
	type skyInput struct {
		ZonePath
		Weeks int `query:"weeks" minimum:"1" maximum:"52" default:"12"`
	}
	operation(s, http.MethodGet, "/visits/{id}/zones/{zone}/sky", "get-sky", "Weather and ground of a zone on one time axis", "sky", See, func(ctx context.Context, in *skyInput) (*body[SkyView], error) {
		look, c, station, err := s.skyOf(ctx, in.ID, in.Zone)
		if err != nil {
			return nil, err
		}
		return answer(skyView(look, c, station, in.Weeks*7)), nil
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
			days, err := weatherAt(tx, site, today.AddDate(-3, 0, 0), today)
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
	type weatherInput struct {
		IDPath
		Body struct {
			Text string `json:"text" minLength:"1" maxLength:"8000000" doc:"a weather file in the dialect of docs/formats.md"`
		}
	}
	type taken struct {
		Lines int      `json:"lines"`
		Days  int      `json:"days"`
		Flags []string `json:"flags" nullable:"false"`
	}
	operation(s, http.MethodPost, "/sites/{id}/weather", "import-weather", "Take in weather that was measured on a site; it goes before the station", "sky", AnswerChecks, func(ctx context.Context, in *weatherInput) (*body[taken], error) {
		series, err := weatherfile.Read(strings.NewReader(in.Body.Text), nil)
		var refusal *weatherfile.Refusal
		if errors.As(err, &refusal) {
			details := make([]error, len(refusal.Problems))
			for i, p := range refusal.Problems {
				details[i] = field("body.text", p.String())
			}
			return nil, huma.Error422UnprocessableEntity("the weather file is refused; nothing of it was taken", details...)
		}
		if err != nil {
			return nil, s.said(err)
		}
		out := taken{Lines: series.Lines, Days: len(series.Days), Flags: []string{}}
		for i, f := range series.Flags {
			if i < 50 {
				out.Flags = append(out.Flags, f.String())
			}
		}
		err = s.inFirm(ctx, func(tx *gorm.DB) error {
			var site store.Site
			if err := tx.First(&site, "id = ?", in.ID).Error; err != nil {
				return err
			}
			rows := make([]store.SiteDay, 0, len(series.Days))
			for _, d := range series.Days {
				rows = append(rows, store.SiteDay{FirmID: site.FirmID, SiteID: site.ID, Day: d.Date, TMin: d.TMin, TMax: d.TMax, Rain: d.Rain, RH: d.RH, Wind: d.Wind, Snow: d.Snow, Solar: d.Solar, Hours: FloatsOf(d.Hours)})
			}
			return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "site_id"}, {Name: "day"}}, UpdateAll: true}).CreateInBatches(rows, 500).Error
		})
		return answer(out), err
	})
	s.wateringRoutes()
}

func skyView(look sky.Sky, c diagnosis.Case, station *store.Station, span int) SkyView {
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
		if c, ok := diagnosis.CauseByID(b.ID); ok && b.Kind == "disease" && !mayHave(c, look.Ground.Warm) {
			continue
		}
		if strongest > 0 {
			v.Bands = append(v.Bands, row)
		}
	}
	for _, x := range look.Sentences(bandLabel) {
		if cause, ok := diagnosis.CauseByID(x.Row); ok && !mayHave(cause, look.Ground.Warm) {
			continue
		}
		v.Sentences = append(v.Sentences, SkySentence{x.Text, x.Row, x.From.Format(dateOnly), x.To.Format(dateOnly)})
	}
	for _, t := range c.Treatments {
		v.Marks = append(v.Marks, SkyMark{t.Date.Format(dateOnly), "treatment", remedy.Label(t.Action)})
	}
	for _, e := range c.Earlier {
		if cause, ok := diagnosis.CauseByID(e.Answer); ok {
			v.Marks = append(v.Marks, SkyMark{e.Date.Format(dateOnly), "visit", "Visit: " + cause.Label})
		}
	}
	for _, id := range []string{"soil-temp-c", "soil-moisture", "soil-moisture-vwc"} {
		if x, ok := c.Findings[id]; ok {
			f, _ := diagnosis.FindingByID(id)
			v.Marks = append(v.Marks, SkyMark{v.Today, "reading", diagnosis.InWords(f, id, x)})
		}
	}
	r := look.RainBefore()
	v.Rain.Days3, v.Rain.Days7, v.Rain.Days14, v.Rain.Days30, v.Rain.Since5 = round1(r.Days3), round1(r.Days7), round1(r.Days14), round1(r.Days30), r.Since5
	v.Endurance.Weeks, v.Endurance.Used, v.Endurance.DaysLeft = look.Endurance.Weeks, round3(look.Endurance.Used), math.Round(look.Endurance.DaysLeft)
	return v
}

func mayHave(c diagnosis.Cause, warm bool) bool {
	if warm {
		return strings.Contains(c.Turf, "W")
	}
	return strings.Contains(c.Turf, "C")
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

func (s *Server) wateringRoutes() {
	type wateringInput struct {
		ZonePath
		Days    string  `query:"days" maxLength:"40" doc:"permitted weekdays as three letters with commas, all when left out"`
		Sunrise float64 `query:"sunrise" minimum:"0" maximum:"12" default:"6"`
		Ramp    string  `query:"ramp" enum:"seed,sod,plugs" default:"seed"`
	}
	operation(s, http.MethodGet, "/visits/{id}/zones/{zone}/watering", "get-watering", "Minutes, cycles, litres and cost, both policies side by side", "sky", See, func(ctx context.Context, in *wateringInput) (*body[Watering], error) {
		allowed, err := weekdays(in.Days)
		if err != nil {
			return nil, err
		}
		look, c, _, err := s.skyOf(ctx, in.ID, in.Zone)
		if err != nil {
			return nil, err
		}
		out := Watering{Policies: []WateringPolicy{}, Ramp: []RampStep{}}
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
			var a store.Audit
			err = tx.Where("zone_id = ?", in.Zone).Order("audited_on DESC, recorded_at DESC").First(&a).Error
			if errors.Is(err, gorm.ErrRecordNotFound) {
				return nil
			}
			sp.RateMMH, sp.Uniformity, out.AuditedOn = a.RateMMH, a.Uniformity, dateText(&a.AuditedOn)
			return err
		})
		if err != nil {
			return nil, err
		}
		if v, ok := c.Findings["catch-can-mm-h"]; ok && sp.RateMMH == 0 {
			sp.RateMMH = *v.Number
		}
		if v, ok := c.Findings["catch-can-du"]; ok && sp.Uniformity == 0 {
			sp.Uniformity = *v.Number
		}
		return answer(watering(look, sp, allowed, in.Sunrise, in.Ramp, out)), nil
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
		on := map[int]bool{}
		for _, a := range sc.Answers {
			if a.Finding == marksAnswer {
				for _, cell := range a.Value.([]any) {
					on[int(cell.(float64))] = true
				}
			}
		}
		cans := make([]soil.Can, len(b.Cans))
		for i, x := range b.Cans {
			cans[i] = soil.Can{X: x.X, Y: x.Y, MM: x.MM, On: on[x.Y*12+x.X]}
		}
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

func weekdays(text string) (map[time.Weekday]bool, error) {
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
			return nil, invalid("query.days", part+" is no weekday (sun, mon, tue, wed, thu, fri, sat)")
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
