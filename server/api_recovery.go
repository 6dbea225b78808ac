package server

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

// Look is one measurement of a zone's recovery.
type Look struct {
	ID         uuid.UUID `json:"id"`
	ZoneID     uuid.UUID `json:"zone_id"`
	VisitID    uuid.UUID `json:"visit_id,omitempty" readOnly:"true"`
	LookedOn   string    `json:"looked_on,omitempty" format:"date" readOnly:"true"`
	Baseline   bool      `json:"baseline" doc:"the state from which recovery is counted"`
	Cover      float64   `json:"cover" minimum:"0" maximum:"1" doc:"green cover of the zone's damaged part"`
	LiveCrowns *float64  `json:"live_crowns,omitempty" minimum:"0" maximum:"1"`
	Spread     string    `json:"spread" enum:",none,new"`
	Note       string    `json:"note" maxLength:"2000"`
}

// ExpectedDay is one day of the expected course.
type ExpectedDay struct {
	Date string  `json:"date" format:"date"`
	Low  float64 `json:"low"`
	Mid  float64 `json:"mid"`
	High float64 `json:"high"`
}

// Recovery is a zone's course: what was expected, what was measured, and the verdict.
type Recovery struct {
	ZoneID      uuid.UUID     `json:"zone_id"`
	Started     bool          `json:"started" doc:"false until a baseline has been measured"`
	StartedOn   string        `json:"started_on,omitempty" format:"date"`
	Target      float64       `json:"target"`
	Looks       []Look        `json:"looks" nullable:"false"`
	Expected    []ExpectedDay `json:"expected" nullable:"false"`
	Verdict     string        `json:"verdict" enum:"not-yet,on-course,slow,off-course,recovered"`
	Reason      string        `json:"reason"`
	GreenOn     string        `json:"green_on,omitempty" format:"date" doc:"when the middle of the band reaches the target"`
	NextLook    *Visit        `json:"next_look,omitempty"`
	LearnedRate float64       `json:"learned_rate" doc:"what the zone's own looks made of the species' rate; 1 for nothing yet"`
	Records     []Record      `json:"records" nullable:"false"`
	Given       []Given       `json:"given" nullable:"false"`
}

// horizon is how far the course is drawn from its start, in days (judgement: a season).
const horizon = 120

// getRecovery answers GET /zones/{id}/recovery: the recovery of a zone.
func (s *Server) getRecovery(ctx context.Context, in *IDPath) (*body[Recovery], error) {
	today, err := s.clock.Today(ctx)
	if err != nil {
		return nil, s.said(err)
	}
	out, err := s.recoveryOf(ctx, in.ID, today)
	return answer(out), err
}

// recoveryOf reads and works out the course of a zone.
func (s *Server) recoveryOf(ctx context.Context, zone uuid.UUID, today time.Time) (Recovery, error) {
	var rows courseRows
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		rows, err = readCourse(tx, zone, today)
		return err
	}); err != nil {
		return Recovery{}, err
	}
	return rows.worked(s.normalsFrom(ctx, rows)), nil
}

// recordLook answers POST /visits/{id}/looks: measure the recovery of a zone.
func (s *Server) recordLook(ctx context.Context, in *struct {
	IDPath
	Body Look
}) (*body[Recovery], error) {
	l := in.Body
	if err := keyed(l.ID); err != nil {
		return nil, err
	}
	today, err := s.clock.Today(ctx)
	if err != nil {
		return nil, s.said(err)
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var v store.Visit
		if err := tx.First(&v, "id = ?", in.ID).Error; err != nil {
			return err
		}
		if err := sameSite(tx, l.ZoneID, v.SiteID); err != nil {
			return err
		}
		row := store.Look{ID: l.ID, FirmID: who(ctx).Firm, VisitID: in.ID, ZoneID: l.ZoneID, LookedOn: today, Baseline: l.Baseline,
			Cover: l.Cover, LiveCrowns: l.LiveCrowns, Spread: l.Spread, Note: l.Note, PersonID: who(ctx).Person, RecordedAt: s.now().UTC()}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	out, err := s.recoveryOf(ctx, l.ZoneID, today)
	if err != nil {
		return nil, err
	}
	return answer(out), s.inFirm(ctx, func(tx *gorm.DB) error { return keepCourse(tx, who(ctx).Firm, out, today) })
}

// keepCourse keeps the verdict as it was judged now: pages ask for it instead of working it out.
func keepCourse(tx *gorm.DB, firm uuid.UUID, r Recovery, today time.Time) error {
	return tx.Save(&store.ZoneCourse{ZoneID: r.ZoneID, FirmID: firm, Verdict: r.Verdict, Reason: r.Reason, JudgedOn: today}).Error
}

func lookOf(l store.Look) Look {
	return Look{l.ID, l.ZoneID, l.VisitID, l.LookedOn.Format(dateOnly), l.Baseline, l.Cover, l.LiveCrowns, l.Spread, l.Note}
}

// courseRows is what the database holds of a zone's recovery.
type courseRows struct {
	zone    store.Zone
	site    store.Site
	station *store.Station
	looks   []store.Look
	start   int // the last baseline among the looks; -1 without one
	next    []store.Visit
	records []store.TreatmentRecord
	given   []store.Diagnosis
	days    []store.StationDay // from the baseline to today
}

func readCourse(tx *gorm.DB, zone uuid.UUID, today time.Time) (c courseRows, err error) {
	c.start = -1
	if err := tx.First(&c.zone, "id = ?", zone).Error; err != nil {
		return c, err
	}
	if err := tx.First(&c.site, "id = ?", c.zone.SiteID).Error; err != nil {
		return c, err
	}
	if err := tx.Where("zone_id = ? AND looked_on <= ?", zone, today).Order("looked_on, seq").Find(&c.looks).Error; err != nil {
		return c, err
	}
	for i, l := range c.looks {
		if l.Baseline || c.start < 0 {
			c.start = i
		}
	}
	if err := tx.Where("zone_id = ? AND kind = 'follow-up' AND closed_on IS NULL",
		zone).Order("due_on").Limit(1).Find(&c.next).Error; err != nil {
		return c, err
	}
	if err := tx.Where("zone_id = ?", zone).Order("applied_on, seq").Find(&c.records).Error; err != nil {
		return c, err
	}
	if err := tx.Where("zone_id = ?", zone).Order("given_on DESC").Limit(5).Find(&c.given).Error; err != nil {
		return c, err
	}
	if c.start < 0 || c.site.StationID == nil {
		return c, nil
	}
	c.station = &store.Station{}
	if err := tx.First(c.station, "id = ?", *c.site.StationID).Error; err != nil {
		return c, err
	}
	return c, tx.Select("station_id", "day", "tmin_c", "tmax_c").Where("station_id = ? AND day > ? AND day <= ?", c.station.ID,
		c.looks[c.start].LookedOn, today).Order("day").Find(&c.days).Error
}

// normalsFrom asks the service for the normal means after the baseline; nothing of the database is held meanwhile.
func (s *Server) normalsFrom(ctx context.Context, c courseRows) []float64 {
	if s.weather == nil || c.station == nil {
		return nil
	}
	normals, err := s.weather.Normals(ctx, *c.station, c.looks[c.start].LookedOn.UTC(), horizon)
	if err != nil {
		s.log.Warn("no normals", "station", c.station.Name, "error", err)
	}
	return normals
}

// worked computes the course from the last baseline on: measured weather up to today, the normal after.
func (c courseRows) worked(normals []float64) Recovery {
	out := Recovery{ZoneID: c.zone.ID, Looks: []Look{}, Expected: []ExpectedDay{}, Records: []Record{}, Given: []Given{},
		Verdict: string(recovery.NotYet), Reason: "no baseline has been measured yet", LearnedRate: 1, Target: c.zone.TargetCover}
	for _, l := range c.looks {
		out.Looks = append(out.Looks, lookOf(l))
	}
	if len(c.next) > 0 {
		v := visitOf(c.next[0])
		out.NextLook = &v
	}
	for _, r := range store.Standing(c.records) {
		out.Records = append(out.Records, recordOf(r))
	}
	for _, g := range c.given {
		out.Given = append(out.Given, givenOf(g))
	}
	if c.start < 0 {
		return out
	}
	base := c.looks[c.start]
	from := base.LookedOn.UTC()
	out.Started, out.StartedOn = true, from.Format(dateOnly)
	grass := turf.Species{}
	if ids := zoneOf(c.zone).Species; len(ids) > 0 {
		grass, _ = turf.ByID(ids[0])
	}
	live := math.NaN()
	if base.LiveCrowns != nil {
		live = *base.LiveCrowns
	}
	var looks []recovery.Look
	for _, l := range c.looks[c.start:] {
		looks = append(looks, recovery.Look{Day: int(l.LookedOn.Sub(base.LookedOn).Hours() / 24), Cover: l.Cover})
	}
	const water = .9 // tended turf is short of water now and then (judgement)
	course, learned, reached := recovery.Renew(recovery.Start{Cover: base.Cover, LiveCrowns: live}, grass, means(c.days, normals, from), water,
		looks, c.zone.TargetCover)
	j := recovery.Judge(course, looks, c.zone.TargetCover)
	out.LearnedRate, out.Verdict, out.Reason = learned, string(j.Verdict), j.Reason
	if reached >= 0 {
		out.GreenOn = from.AddDate(0, 0, reached).Format(dateOnly)
	}
	for _, p := range course {
		out.Expected = append(out.Expected, ExpectedDay{from.AddDate(0, 0, p.Day).Format(dateOnly), round3(p.Low), round3(p.Mid), round3(p.High)})
	}
	return out
}

// coolMean stands where nothing is known of the weather, °C: nothing is promised too early (judgement).
const coolMean = 12.0

// means are the daily mean temperatures from the day after the start on: measured, then normal.
func means(days []store.StationDay, normals []float64, from time.Time) []float64 {
	byDay := map[string]weather.Day{}
	for _, d := range weatherOf(days) {
		byDay[d.Date.Format(dateOnly)] = d
	}
	out := make([]float64, 0, horizon)
	for i := range horizon {
		d, ok := byDay[from.AddDate(0, 0, i+1).Format(dateOnly)]
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

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }
