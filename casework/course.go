package casework

import (
	"context"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/recovery"
	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/core/weather"
	"hodos/store"
)

// Horizon is how far a course is drawn from its start, in days, and HorizonAhead how far from today where that is further (judgement: a
// season, and what a client asks for).
const (
	Horizon      = 120
	HorizonAhead = 60
)

// settling is how many days before the start the balance of the water begins: by then it has forgotten where it began.
const settling = 45

// Course is what the database holds of a zone's recovery.
type Course struct {
	Zone     store.Zone
	Site     store.Site
	Station  *store.Station
	Measures []store.Measure
	Start    int // the last baseline among the measures; -1 without one
	Next     []store.Visit
	Records  []store.TreatmentRecord
	Given    []store.Diagnosis
	PatchMM  float64  // width of a dead patch by the visit of the baseline; 0 for none told
	Crowns   *float64 // share of crowns alive by that visit; nil for none cut
	Today    time.Time
	days     []store.StationDay // from before the baseline to today
	given    givenWater
}

// ReadCourse reads it as it stands on a day.
func ReadCourse(tx *gorm.DB, zone uuid.UUID, now Moment) (c Course, err error) {
	c.Start = -1
	if err := tx.First(&c.Zone, "id = ?", zone).Error; err != nil {
		return c, err
	}
	if err := tx.First(&c.Site, "id = ?", c.Zone.SiteID).Error; err != nil {
		return c, err
	}
	today := now.In(c.Site.Timezone)
	c.Today = today
	if err := tx.Where("zone_id = ? AND measured_on <= ?", zone, today).Order("measured_on, seq").Find(&c.Measures).Error; err != nil {
		return c, err
	}
	for i, l := range c.Measures {
		if l.Baseline || c.Start < 0 {
			c.Start = i
		}
	}
	if err := tx.Where("zone_id = ? AND kind = 'follow-up' AND closed_on IS NULL",
		zone).Order("due_on").Limit(1).Find(&c.Next).Error; err != nil {
		return c, err
	}
	if err := tx.Where("zone_id = ?", zone).Order("applied_on, seq").Find(&c.Records).Error; err != nil {
		return c, err
	}
	if err := tx.Where("zone_id = ?", zone).Order("given_on DESC").Limit(5).Find(&c.Given).Error; err != nil {
		return c, err
	}
	if c.Start < 0 {
		return c, nil
	}
	if err := c.readBaseline(tx); err != nil {
		return c, err
	}
	water, err := waterOf(tx, []uuid.UUID{zone}, today)
	if err != nil {
		return c, err
	}
	c.given = water[zone]
	if c.Site.StationID == nil {
		return c, nil
	}
	c.Station = &store.Station{}
	if err := tx.First(c.Station, "id = ?", *c.Site.StationID).Error; err != nil {
		return c, err
	}
	return c, tx.Omit("hours").Where("station_id = ? AND day > ? AND day <= ?", c.Station.ID,
		c.Measures[c.Start].MeasuredOn.AddDate(0, 0, -settling), today).Order("day").Find(&c.days).Error
}

// readBaseline takes over what the visit of the baseline found of patches and crowns.
func (c *Course) readBaseline(tx *gorm.DB) error {
	var found []struct {
		Finding string
		X       *float64
	}
	if err := tx.Raw(`SELECT DISTINCT ON (finding) finding, (value #>> '{}')::float8 AS x FROM answers
		WHERE visit_id = ? AND zone_id = ? AND spot = 'worst' AND finding IN ('patch-diameter-cm', 'crowns-alive-percent')
		ORDER BY finding, seq DESC`, c.Measures[c.Start].VisitID, c.Zone.ID).Scan(&found).Error; err != nil {
		return err
	}
	for _, f := range found {
		switch {
		case f.X == nil:
		case f.Finding == "patch-diameter-cm":
			c.PatchMM = *f.X * 10
		default:
			share := *f.X / 100
			c.Crowns = &share
		}
	}
	if live := c.Measures[c.Start].LiveCrowns; live != nil {
		c.Crowns = live // cut for this very measurement
	}
	return nil
}

// span is how many days the course has.
func (c Course) span() int {
	return max(Horizon, int(c.Today.Sub(c.Measures[c.Start].MeasuredOn.UTC()).Hours()/24)+HorizonAhead)
}

// Outlook is what is known of the weather that is still ahead of a course.
type Outlook struct {
	Normals  []float64     // daily means from the day after the baseline on, °C
	Forecast []weather.Day // from the day after today on
}

// Outlook asks the service for it; nothing of the database is held meanwhile. Nothing without a service, a station or a baseline.
func (c Course) Outlook(ctx context.Context, service Service) (out Outlook, err error) {
	if service == nil || c.Station == nil || c.Start < 0 {
		return out, nil
	}
	if out.Normals, err = service.Normals(ctx, *c.Station, c.Measures[c.Start].MeasuredOn.UTC(), c.span()); err != nil {
		return out, err
	}
	out.Forecast, err = service.Forecast(ctx, *c.Station, c.Today, ForecastDays)
	return out, err
}

// Judged is a course as the core works it out.
type Judged struct {
	From time.Time // the day of the baseline
	recovery.Course
	recovery.Judgement
	Early, Mid, Late int // days from the baseline until the band reaches the target; -1 for never within the course
}

// Judge computes the course from the last baseline on: measured weather up to today, then the forecast, then the normal.
func (c Course) Judge(ahead Outlook) Judged {
	out := Judged{Early: -1, Mid: -1, Late: -1}
	out.Verdict, out.Reason, out.Rate = recovery.NotYet, "no baseline has been measured yet", 1
	if c.Start < 0 {
		return out
	}
	base := c.Measures[c.Start]
	out.From = base.MeasuredOn.UTC()
	grass := GrassOf(c.Zone)
	start := recovery.Start{Cover: base.Cover, LiveCrowns: math.NaN(), PatchMM: c.PatchMM}
	if c.Crowns != nil {
		start.LiveCrowns = *c.Crowns
	}
	for _, r := range store.Standing(c.Records) {
		if slices.Contains(sowing, r.Action) && r.AppliedOn.After(base.MeasuredOn.AddDate(0, 0, -settling)) {
			start.Sown = append(start.Sown, int(r.AppliedOn.Sub(base.MeasuredOn).Hours()/24))
		}
	}
	var measures []recovery.Measure
	last := 0
	for _, l := range c.Measures[c.Start:] {
		last = int(l.MeasuredOn.Sub(base.MeasuredOn).Hours() / 24)
		measures = append(measures, recovery.Measure{Day: last, Cover: l.Cover})
	}
	out.Course = recovery.Follow(start, grass, c.weather(grass, ahead), measures)
	out.Judgement = out.Course.Judge(measures, c.Zone.TargetCover)
	if out.Early, out.Mid, out.Late = out.Reach(c.Zone.TargetCover, last+1); out.Verdict == recovery.Recovered {
		out.Early, out.Mid, out.Late = last, last, last
	}
	return out
}

// GrassOf is the first grass of a zone; the zero value where none is known.
func GrassOf(z store.Zone) turf.Species {
	var g turf.Species
	if ids := speciesOf(z.Species); len(ids) > 0 {
		g, _ = turf.ByID(ids[0])
	}
	return g
}

// sowing are the actions after which seed comes up.
var sowing = []string{"overseed", "slit-seed", "interseed"}

// GreenDays are the days on which a part of the band reaches the target: the early end, the middle and the late end; zero where it does not
// within the course.
func (j Judged) GreenDays() (early, mid, late time.Time) {
	at := func(day int) time.Time {
		if day < 0 {
			return time.Time{}
		}
		return j.From.AddDate(0, 0, day)
	}
	return at(j.Early), at(j.Mid), at(j.Late)
}

// KeepCourse keeps the verdict as it was judged on a day: pages ask for it instead of working it out.
func KeepCourse(tx *gorm.DB, zone store.Zone, j Judged, day time.Time) error {
	return tx.Save(&store.ZoneCourse{ZoneID: zone.ID, FirmID: zone.FirmID, Verdict: string(j.Verdict), Reason: j.Reason, JudgedOn: day}).Error
}

// EndCourse takes a zone off the list of those that stray: its case is closed.
func EndCourse(tx *gorm.DB, zone store.Zone, day time.Time) error {
	return tx.Save(&store.ZoneCourse{ZoneID: zone.ID, FirmID: zone.FirmID, Verdict: string(recovery.Recovered), Reason: "the case is closed",
		JudgedOn: day}).Error
}

// coolMean stands where nothing is known of the weather, °C: nothing is promised too early (judgement).
const coolMean = 12.0

// weather are the days from the day after the start on: measured with the zone's own water, then the forecast, then the normal.
func (c Course) weather(grass turf.Species, ahead Outlook) []recovery.Day {
	from := c.Measures[c.Start].MeasuredOn.UTC()
	measured := map[string]recovery.Day{}
	for _, d := range c.watered(grass) {
		if !math.IsNaN(d.Mean) {
			measured[d.Date.Format(time.DateOnly)] = recovery.Day{MeanC: d.Mean, Water: d.Ks}
		}
	}
	if !c.waterKnown() {
		for k, d := range measured {
			d.Water = math.NaN()
			measured[k] = d
		}
	}
	forecast := map[string]float64{}
	for _, d := range ahead.Forecast {
		if t, ok := d.Mean(); ok {
			forecast[d.Date.Format(time.DateOnly)] = t
		}
	}
	out := make([]recovery.Day, 0, c.span())
	for i := range c.span() {
		key := from.AddDate(0, 0, i+1).Format(time.DateOnly)
		if d, ok := measured[key]; ok {
			out = append(out, d)
			continue
		}
		d := recovery.Day{MeanC: coolMean, Water: math.NaN(), Ahead: true}
		if t, ok := forecast[key]; ok {
			d.MeanC, d.Ahead = t, false // a forecast is a day, not a normal about which days lie
		} else if i < len(ahead.Normals) {
			d.MeanC = ahead.Normals[i]
		}
		out = append(out, d)
	}
	return out
}

// waterKnown says whether the balance of the zone's water can be trusted: it is not watered, or what it was given is on record.
func (c Course) waterKnown() bool {
	return (c.Zone.Irrigated != nil && !*c.Zone.Irrigated) || c.given.since != nil
}

// watered follows the zone's water through the measured days.
func (c Course) watered(grass turf.Species) []soil.Day {
	days := DaysOf(c.days)
	c.given.onto(days)
	z := soil.Zone{Latitude: c.Site.Latitude, Warm: grass.Family == turf.Warm, Texture: c.Zone.Texture}
	return soil.Run(z, days, nil).Days
}
