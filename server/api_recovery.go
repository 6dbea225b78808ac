package server

import (
	"context"
	"encoding/json"
	"math"
	"net/http"
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

func (s *Server) recoveryRoutes() {
	operation(s, http.MethodGet, "/zones/{id}/recovery", "get-recovery", "The recovery of a zone", "recovery", See,
		func(ctx context.Context, in *IDPath) (*body[Recovery], error) {
			today, err := s.clock.Today(ctx)
			if err != nil {
				return nil, s.said(err)
			}
			var out Recovery
			err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
				out, err = s.recoveryOf(tx, in.ID, today)
				return err
			})
			return answer(out), err
		})
	operation(s, http.MethodPost, "/visits/{id}/looks", "record-look", "Measure the recovery of a zone", "recovery", AnswerChecks,
		func(ctx context.Context, in *struct {
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
			var out Recovery
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
				out, err = s.recoveryOf(tx, l.ZoneID, today)
				return err
			})
			return answer(out), err
		})
}

func lookOf(l store.Look) Look {
	return Look{l.ID, l.ZoneID, l.VisitID, l.LookedOn.Format(dateOnly), l.Baseline, l.Cover, l.LiveCrowns, l.Spread, l.Note}
}

// recoveryOf computes the course from the last baseline on: measured weather up to today, the forecast's normal after.
func (s *Server) recoveryOf(tx *gorm.DB, zone uuid.UUID, today time.Time) (out Recovery, err error) {
	out = Recovery{ZoneID: zone, Looks: []Look{}, Expected: []ExpectedDay{}, Records: []Record{}, Given: []Given{},
		Verdict: string(recovery.NotYet), Reason: "no baseline has been measured yet", LearnedRate: 1}
	var z store.Zone
	var site store.Site
	if err := tx.First(&z, "id = ?", zone).Error; err != nil {
		return out, err
	}
	if err := tx.First(&site, "id = ?", z.SiteID).Error; err != nil {
		return out, err
	}
	out.Target = z.TargetCover
	var rows []store.Look
	if err := tx.Where("zone_id = ?", zone).Order("looked_on, seq").Find(&rows).Error; err != nil {
		return out, err
	}
	start := -1
	for i, l := range rows {
		if l.Baseline || start < 0 {
			start = i
		}
		out.Looks = append(out.Looks, lookOf(l))
	}
	var next []store.Visit
	if err := tx.Where("zone_id = ? AND kind = 'follow-up' AND closed_on IS NULL",
		zone).Order("due_on").Limit(1).Find(&next).Error; err != nil {
		return out, err
	}
	if len(next) > 0 {
		v := visitOf(next[0])
		out.NextLook = &v
	}
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id = ?", zone).Order("applied_on, seq").Find(&records).Error; err != nil {
		return out, err
	}
	for _, r := range store.Standing(records) {
		out.Records = append(out.Records, recordOf(r))
	}
	var given []store.Diagnosis
	if err := tx.Where("zone_id = ?", zone).Order("given_on DESC").Limit(5).Find(&given).Error; err != nil {
		return out, err
	}
	for _, g := range given {
		out.Given = append(out.Given, givenOf(g))
	}
	if start < 0 {
		return out, nil
	}
	base := rows[start]
	from := base.LookedOn.UTC()
	out.Started, out.StartedOn = true, from.Format(dateOnly)

	means, err := s.means(tx, site, from, today)
	if err != nil {
		return out, err
	}
	var ids []string
	_ = json.Unmarshal(z.Species, &ids)
	grass := turf.Species{}
	if len(ids) > 0 {
		grass, _ = turf.ByID(ids[0])
	}
	live := math.NaN()
	if base.LiveCrowns != nil {
		live = *base.LiveCrowns
	}
	begin := recovery.Start{Cover: base.Cover, LiveCrowns: live}
	var looks []recovery.Look
	for _, l := range rows[start:] {
		looks = append(looks, recovery.Look{Day: int(l.LookedOn.Sub(base.LookedOn).Hours() / 24), Cover: l.Cover})
	}
	const water = .9 // tended turf is short of water now and then (judgement)
	course, learned, reached := recovery.Renew(begin, grass, means, water, looks, z.TargetCover)
	j := recovery.Judge(course, looks, z.TargetCover)
	out.LearnedRate = learned
	out.Verdict, out.Reason = string(j.Verdict), j.Reason
	if reached >= 0 {
		out.GreenOn = from.AddDate(0, 0, reached).Format(dateOnly)
	}
	for _, p := range course {
		out.Expected = append(out.Expected, ExpectedDay{from.AddDate(0, 0, p.Day).Format(dateOnly), round3(p.Low), round3(p.Mid), round3(p.High)})
	}
	return out, nil
}

// coolMean stands where nothing is known of the weather, °C: nothing is promised too early (judgement).
const coolMean = 12.0

// means are the daily mean temperatures from the day after the start on: measured until today, normal after.
func (s *Server) means(tx *gorm.DB, site store.Site, from, today time.Time) ([]float64, error) {
	out := make([]float64, 0, horizon)
	var station store.Station
	if site.StationID == nil || tx.First(&station, "id = ?", *site.StationID).Error != nil || s.weather == nil {
		for i := 0; i < horizon; i++ {
			out = append(out, coolMean)
		}
		return out, nil
	}
	var days []store.StationDay
	if err := tx.Where("station_id = ? AND day > ? AND day <= ?", station.ID, from, today).Order("day").Find(&days).Error; err != nil {
		return nil, err
	}
	normals, err := s.weather.Normals(tx.Statement.Context, station, from, horizon)
	if err != nil {
		s.log.Warn("no normals", "station", station.Name, "error", err)
	}
	byDay := map[string]weather.Day{}
	for _, d := range weatherOf(days) {
		byDay[d.Date.Format(dateOnly)] = d
	}
	for i := 0; i < horizon; i++ {
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
	return out, nil
}

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }
