package casework

import (
	"context"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/recovery"
	"hodos/core/turf"
	"hodos/core/weather"
	"hodos/store"
)

// Horizon is how far the course is drawn from its start, in days (judgement: a season).
const Horizon = 120

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
	days     []store.StationDay // from the baseline to today
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
	if c.Start < 0 || c.Site.StationID == nil {
		return c, nil
	}
	c.Station = &store.Station{}
	if err := tx.First(c.Station, "id = ?", *c.Site.StationID).Error; err != nil {
		return c, err
	}
	return c, tx.Select("station_id", "day", "tmin_c", "tmax_c").Where("station_id = ? AND day > ? AND day <= ?", c.Station.ID,
		c.Measures[c.Start].MeasuredOn, today).Order("day").Find(&c.days).Error
}

// NormalsFrom asks the service for the normal daily means after the baseline; nothing of the database is held meanwhile. None without a
// service, a station or a baseline.
func (c Course) NormalsFrom(ctx context.Context, service Service) ([]float64, error) {
	if service == nil || c.Station == nil || c.Start < 0 {
		return nil, nil
	}
	return service.Normals(ctx, *c.Station, c.Measures[c.Start].MeasuredOn.UTC(), Horizon)
}

// Judged is a course as the core works it out.
type Judged struct {
	From    time.Time // the day of the baseline
	Course  []recovery.Point
	Learned float64 // what the zone's own measures made of the species' rate; 1 for nothing yet
	Reached int     // days from the baseline until the middle of the band reaches the target; -1 within the horizon never
	Verdict recovery.Verdict
	Reason  string
}

// Judge computes the course from the last baseline on: measured weather up to today, the normal after.
func (c Course) Judge(normals []float64) Judged {
	out := Judged{Learned: 1, Reached: -1, Verdict: recovery.NotYet, Reason: "no baseline has been measured yet"}
	if c.Start < 0 {
		return out
	}
	base := c.Measures[c.Start]
	out.From = base.MeasuredOn.UTC()
	grass := turf.Species{}
	if ids := zoneCase(c.Zone, c.Site, out.From).Lawn.Species; len(ids) > 0 {
		grass, _ = turf.ByID(ids[0])
	}
	live := math.NaN()
	if base.LiveCrowns != nil {
		live = *base.LiveCrowns
	}
	var measures []recovery.Measure
	for _, l := range c.Measures[c.Start:] {
		measures = append(measures, recovery.Measure{Day: int(l.MeasuredOn.Sub(base.MeasuredOn).Hours() / 24), Cover: l.Cover})
	}
	const water = .9 // tended turf is short of water now and then (judgement)
	out.Course, out.Learned, out.Reached = recovery.Renew(recovery.Start{Cover: base.Cover, LiveCrowns: live}, grass,
		means(c.days, normals, out.From), water, measures, c.Zone.TargetCover)
	j := recovery.Judge(out.Course, measures, c.Zone.TargetCover)
	out.Verdict, out.Reason = j.Verdict, j.Reason
	return out
}

// KeepCourse keeps the verdict as it was judged on a day: pages ask for it instead of working it out.
func KeepCourse(tx *gorm.DB, zone store.Zone, j Judged, day time.Time) error {
	return tx.Save(&store.ZoneCourse{ZoneID: zone.ID, FirmID: zone.FirmID, Verdict: string(j.Verdict), Reason: j.Reason, JudgedOn: day}).Error
}

// coolMean stands where nothing is known of the weather, °C: nothing is promised too early (judgement).
const coolMean = 12.0

// means are the daily mean temperatures from the day after the start on: measured, then normal.
func means(days []store.StationDay, normals []float64, from time.Time) []float64 {
	byDay := map[string]weather.Day{}
	for _, d := range DaysOf(days) {
		byDay[d.Date.Format(time.DateOnly)] = d
	}
	out := make([]float64, 0, Horizon)
	for i := range Horizon {
		d, ok := byDay[from.AddDate(0, 0, i+1).Format(time.DateOnly)]
		switch {
		case ok && d.TMin != nil && d.TMax != nil:
			out = append(out, (*d.TMin+*d.TMax)/2)
		case i < len(normals):
			out = append(out, normals[i])
		default:
			out = append(out, coolMean)
		}
	}
	return out
}
