package server

import (
	"bytes"
	"context"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/sky"
	"hodos/core/units"
	"hodos/core/watch"
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

// SkyEvent is something that was done or read on a day.
type SkyEvent struct {
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
	Events    []SkyEvent    `json:"events" nullable:"false"`
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

// seen is what weather and ground of a zone come to, with what they were worked out from.
type seen struct {
	sky     sky.Sky
	of      evidence.Case
	station *store.Station
}

// skyOf looks at a zone on a visit, with the hours.
func (s *Server) skyOf(ctx context.Context, visit, zone uuid.UUID) (seen, casework.Visit, error) {
	v, err := s.caseOn(ctx, visit, zone)
	if err != nil {
		return seen{}, v, err
	}
	look, _, _ := v.Case.Sky(evidence.Gather(v.Case).Values)
	return seen{look, v.Case, v.Station}, v, nil
}

// skyOfZone looks at a zone today, without a visit: from what former visits, readings and records say of it.
func (s *Server) skyOfZone(ctx context.Context, zone uuid.UUID) (out seen, err error) {
	now, err := s.moment(ctx)
	if err != nil {
		return out, err
	}
	var p casework.Place
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		p, err = casework.ReadPlace(tx, zone)
		return err
	}); err != nil {
		return out, err
	}
	today := now.In(p.Site.Timezone)
	var forecast []weather.Day
	var normals []float64
	if out.station = p.Station; p.Station != nil {
		forecast, normals = s.forecast(ctx, *p.Station, today, casework.ForecastDays), s.normals(ctx, *p.Station)
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if out.of, err = casework.ReadZone(tx, p, forecast, normals, today); err != nil {
			return err
		}
		out.sky, _, _ = out.of.Sky(evidence.Gather(out.of).Values)
		// what was done and found stands as marks on the axis
		past := evidence.Case{Lawn: out.of.Lawn}
		if err := casework.ReadHistory(tx, uuid.Nil, zone, today, &past); err != nil {
			return err
		}
		out.of.Treatments = past.Treatments
		for _, e := range past.Earlier {
			out.of.Earlier = append(out.of.Earlier, evidence.Earlier{Date: e.Date, Cause: e.Cause})
		}
		return nil
	})
	return out, err
}

// saying is how the caller reads quantities: in units of their own, or in the firm's.
func saying(ctx context.Context) units.Saying { return units.In(who(ctx).UnitSystem) }

type skyInput struct {
	ZonePath
	Weeks int `query:"weeks" minimum:"1" maximum:"52" default:"12"`
}

type zoneSkyInput struct {
	IDPath
	Weeks int `query:"weeks" minimum:"1" maximum:"52" default:"12"`
}

// getZoneSky answers GET /zones/{id}/sky: weather and ground of a zone today, without a visit.
func (s *Server) getZoneSky(ctx context.Context, in *zoneSkyInput) (*body[SkyView], error) {
	seen, err := s.skyOfZone(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	return answer(skyView(seen, in.Weeks*7, saying(ctx))), nil
}

// getSky answers GET /visits/{id}/zones/{zone}/sky: weather and ground of a zone on one time axis.
func (s *Server) getSky(ctx context.Context, in *skyInput) (*body[SkyView], error) {
	seen, _, err := s.skyOf(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	return answer(skyView(seen, in.Weeks*7, saying(ctx))), nil
}

type siteWeather struct {
	IDPath
	Kind string `query:"kind" enum:"daily,hourly" default:"daily"`
}

type weatherExport struct {
	ContentDisposition string `header:"Content-Disposition"`
	ContentType        string `header:"Content-Type"`
	Body               []byte
}

// exportWeather answers GET /sites/{id}/weather: the weather of a site as a file: the station under what was measured on site.
func (s *Server) exportWeather(ctx context.Context, in *siteWeather) (*weatherExport, error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var site store.Site
		if err := tx.First(&site, "id = ?", in.ID).Error; err != nil {
			return err
		}
		days, err := casework.SiteWeather(tx, site, now.In(site.Timezone))
		if err != nil {
			return err
		}
		zone, err := time.LoadLocation(site.Timezone)
		if err != nil {
			zone = time.UTC
		}
		return weatherfile.Write(&out, days, in.Kind == "hourly", zone)
	})
	return &weatherExport{`attachment; filename="weather-` + in.Kind + `.csv"`, "text/csv; charset=utf-8", out.Bytes()}, err
}

func skyView(from seen, span int, in units.Saying) SkyView {
	look, c, station := from.sky, from.of, from.station
	v := SkyView{Today: c.Lawn.Date.Format(dateOnly), Warm: look.Ground.Warm, TotalMM: math.Round(look.Total*10) / 10, Days: []SkyDay{},
		Bands: []SkyBand{}, Sentences: []SkySentence{}, Events: []SkyEvent{}, Missing: []string{}, Assumed: []string{}}
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
		d := SkyDay{Date: p.Date.Format(dateOnly), Forecast: p.Forecast, TMin: p.TMin, TMax: p.TMax, Rain: p.Rain, Irrigation: p.Irrigation,
			SoilMean: known(p.SoilMean), SoilPeak: known(p.SoilPeak), Depletion: unless(look.Unsaid, p.Depletion), ET: known(p.ETc),
			Wet: known(p.WetHours), Growth: known(p.Growth)}
		v.WetByHour = v.WetByHour || !math.IsNaN(p.WetHours) && !p.WetEstimated && !p.Forecast
		v.Days = append(v.Days, d)
	}
	for _, b := range look.Bands {
		row := SkyBand{ID: b.ID, Kind: b.Kind, Label: watch.BandLabel(b.ID), Strength: make([]*float64, 0, len(b.Strength)),
			From: b.From, To: b.To}
		strongest := 0.0
		for _, x := range b.Strength[first:] {
			row.Strength = append(row.Strength, known(x))
			if !math.IsNaN(x) {
				strongest = math.Max(strongest, x)
			}
		}
		if b.Kind == "disease" && knowledge.Odds(b.ID, c.Lawn) == 0 {
			continue // this grass cannot have it
		}
		if strongest > 0 {
			v.Bands = append(v.Bands, row)
		}
	}
	for _, x := range look.Sentences(watch.BandLabel, in) {
		if _, ok := knowledge.CauseByID(x.Row); ok && knowledge.Odds(x.Row, c.Lawn) == 0 {
			continue
		}
		v.Sentences = append(v.Sentences, SkySentence{x.Text, x.Row, x.From.Format(dateOnly), x.To.Format(dateOnly)})
	}
	for _, t := range c.Treatments {
		v.Events = append(v.Events, SkyEvent{t.Date.Format(dateOnly), "treatment", remedy.Label(t.Action)})
	}
	read := func(day string, findings map[string]knowledge.Value) {
		for _, id := range []string{"soil-temp-c", "soil-moisture", "soil-moisture-vwc"} {
			if x, ok := findings[id]; ok {
				f, _ := knowledge.FindingByID(id)
				v.Events = append(v.Events, SkyEvent{day, "reading", knowledge.InWords(f, id, x, in)})
			}
		}
	}
	for _, e := range c.Earlier {
		if cause, ok := knowledge.CauseByID(e.Cause); ok {
			v.Events = append(v.Events, SkyEvent{e.Date.Format(dateOnly), "visit", "Visit: " + cause.Label})
		}
		read(e.Date.Format(dateOnly), e.Findings)
	}
	read(v.Today, c.Findings)
	frost := look.FrostBefore()
	v.Frost.Nights, v.Frost.Killing, v.Frost.Lowest, v.Frost.LastOn, v.Frost.NextOn = frost.Nights, frost.Killing, known(frost.Lowest),
		optionalDay(frost.LastOn), optionalDay(frost.NextOn)
	r := look.RainBefore()
	v.Rain.Days3, v.Rain.Days7, v.Rain.Days14, v.Rain.Days30, v.Rain.Since5 = round1(r.Days3), round1(r.Days7), round1(r.Days14),
		round1(r.Days30), r.Since5
	v.Endurance.Weeks, v.Endurance.Used, v.Endurance.DaysLeft = look.Endurance.Weeks, round3(look.Endurance.Used),
		math.Round(look.Endurance.DaysLeft)
	return v
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }
