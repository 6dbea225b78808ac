package server

import (
	"context"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/recovery"
	"hodos/store"
)

// Measure is one measurement of a zone's recovery.
type Measure struct {
	ID         uuid.UUID  `json:"id"`
	ZoneID     uuid.UUID  `json:"zone_id"`
	VisitID    uuid.UUID  `json:"visit_id,omitempty" readOnly:"true"`
	MeasuredOn string     `json:"measured_on,omitempty" format:"date" readOnly:"true"`
	MeasuredAt *time.Time `json:"measured_at,omitempty" writeOnly:"true" doc:"when it was, where it is told later; now when left out"`
	Baseline   bool       `json:"baseline" doc:"the state from which recovery is counted"`
	Cover      float64    `json:"cover" minimum:"0" maximum:"1" doc:"green cover of the zone's damaged part"`
	LiveCrowns *float64   `json:"live_crowns,omitempty" minimum:"0" maximum:"1"`
	Spread     string     `json:"spread" enum:",none,new"`
	Note       string     `json:"note" maxLength:"2000"`
}

// ExpectedDay is one day of the expected course.
type ExpectedDay struct {
	Date string  `json:"date" format:"date"`
	Low  float64 `json:"low"`
	Mid  float64 `json:"mid"`
	High float64 `json:"high"`
	// Growth is what weather and water allow that day.
	Growth float64 `json:"growth" doc:"share of its best growth, 0 to 1"`
	Limit  string  `json:"limit" enum:",cold,heat,dry" doc:"what holds it back where it is under half of its best"`
}

// Recovery is a zone's course: what was expected, what was measured, and the verdict.
type Recovery struct {
	ZoneID     uuid.UUID     `json:"zone_id"`
	Started    bool          `json:"started" doc:"false until a baseline has been measured"`
	StartedOn  string        `json:"started_on,omitempty" format:"date"`
	Target     float64       `json:"target"`
	Measures   []Measure     `json:"measures" nullable:"false"`
	Expected   []ExpectedDay `json:"expected" nullable:"false"`
	Verdict    string        `json:"verdict" enum:"not-yet,on-course,slow,off-course,recovered"`
	Reason     string        `json:"reason"`
	Limit      string        `json:"limit" enum:",cold,heat,dry" doc:"what held it back, where it is slow"`
	GreenEarly string        `json:"green_early,omitempty" format:"date" doc:"when the upper edge of the band reaches the target"`
	GreenOn    string        `json:"green_on,omitempty" format:"date" doc:"when the middle of the band reaches it"`
	GreenLate  string        `json:"green_late,omitempty" format:"date" doc:"when its lower edge does"`
	FollowUp   *Visit        `json:"follow_up,omitempty"`
	Rate       float64       `json:"rate" doc:"the zone's own factor on the rate of its grass, as its measures have shown; 1 for nothing yet"`
	RateLow    float64       `json:"rate_low" doc:"four of five lie between this"`
	RateHigh   float64       `json:"rate_high" doc:"and this"`
	Records    []Record      `json:"records" nullable:"false"`
	Given      []Given       `json:"given" nullable:"false"`
	Ending     *Ending       `json:"ending,omitempty"`
	Progress   *NotGreen     `json:"progress,omitempty" doc:"how much was not green over the whole time; left out with a single measurement"`
	Again      []Before      `json:"again" nullable:"false" doc:"checks that made the last diagnosis, with what they showed"`
}

// NotGreen is the area under the curve of what is not green, from the baseline to the last measurement.
type NotGreen struct {
	PercentDays float64 `json:"percent_days"`
	Mean        float64 `json:"mean" doc:"per cent not green, on average over the time"`
	Days        int     `json:"days"`
}

// progressOf reads it off the measurements of a course, the later of two on one day.
func progressOf(c casework.Course) *NotGreen {
	var days, bare []float64
	for _, m := range c.Measures[c.Start:] {
		day := m.MeasuredOn.Sub(c.Measures[c.Start].MeasuredOn).Hours() / 24
		if n := len(days); n > 0 && days[n-1] == day {
			bare[n-1] = 100 * (1 - m.Cover)
			continue
		}
		days, bare = append(days, day), append(bare, 100*(1-m.Cover))
	}
	area, err := recovery.Progress(days, bare)
	if err != nil || len(days) < 2 {
		return nil
	}
	span := days[len(days)-1]
	return &NotGreen{round3(area), round3(area / span), int(span)}
}

// Before is what a check showed when the diagnosis was made.
type Before struct {
	Finding string `json:"finding"`
	Value   any    `json:"value"`
	On      string `json:"on" format:"date"`
}

// getRecovery answers GET /zones/{id}/recovery: the recovery of a zone.
func (s *Server) getRecovery(ctx context.Context, in *IDPath) (*body[Recovery], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	return s.recoveryAnswer(ctx, in.ID, now)
}

// recoveryAnswer is the course of a zone with its end.
func (s *Server) recoveryAnswer(ctx context.Context, zone uuid.UUID, now casework.Moment) (*body[Recovery], error) {
	c, j, err := s.recoveryOf(ctx, zone, now)
	if err != nil {
		return nil, err
	}
	out := answer(recoveryView(c, j))
	return out, s.inFirm(ctx, func(tx *gorm.DB) error {
		e, err := casework.ReadEnding(tx, c)
		if err != nil {
			return err
		}
		out.Body.Ending = endingView(e)
		if len(c.Given) == 0 {
			return nil
		}
		same, err := casework.SameChecks(c.Given[0])
		for _, b := range same {
			out.Body.Again = append(out.Body.Again, Before{b.Finding, b.Value, b.On.Format(dateOnly)})
		}
		return err
	})
}

// recoveryOf reads and works out the course of a zone.
func (s *Server) recoveryOf(ctx context.Context, zone uuid.UUID, now casework.Moment) (c casework.Course, j casework.Judged, err error) {
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		c, err = casework.ReadCourse(tx, zone, now)
		return err
	}); err != nil {
		return c, j, err
	}
	ahead, err := c.Outlook(ctx, s.weather)
	if err != nil {
		s.log.Warn("no weather ahead", "station", c.Station.Name, "error", err)
	}
	return c, c.Judge(ahead), nil
}

// recoveryView is a course as the pages draw it.
func recoveryView(c casework.Course, j casework.Judged) Recovery {
	out := Recovery{ZoneID: c.Zone.ID, Measures: []Measure{}, Expected: []ExpectedDay{}, Records: []Record{}, Given: []Given{},
		Again:   []Before{},
		Verdict: string(j.Verdict), Reason: j.Reason, Limit: string(j.Limit), Rate: round3(j.Rate), Target: c.Zone.TargetCover}
	for _, l := range c.Measures {
		out.Measures = append(out.Measures, measureOf(l))
	}
	if len(c.Next) > 0 {
		v := visitOf(c.Next[0])
		out.FollowUp = &v
	}
	for _, r := range store.Standing(c.Records) {
		out.Records = append(out.Records, recordOf(r))
	}
	for _, g := range c.Given {
		out.Given = append(out.Given, givenOf(g))
	}
	if c.Start < 0 {
		return out
	}
	out.Started, out.StartedOn, out.Progress = true, j.From.Format(dateOnly), progressOf(c)
	out.RateLow, out.RateHigh = round3(j.RateLow), round3(j.RateHigh)
	out.GreenEarly, out.GreenOn, out.GreenLate = dayOf(j.From, j.Early), dayOf(j.From, j.Mid), dayOf(j.From, j.Late)
	for _, p := range j.Points {
		out.Expected = append(out.Expected, ExpectedDay{dayOf(j.From, p.Day), round3(p.Low), round3(p.Mid), round3(p.High),
			round3(p.Growth), string(p.Limit)})
	}
	return out
}

// dayOf is a day of a course; empty for one that it does not reach.
func dayOf(from time.Time, day int) string {
	if day < 0 {
		return ""
	}
	return from.AddDate(0, 0, day).Format(dateOnly)
}

// recordMeasure answers POST /visits/{id}/measures: measure the recovery of a zone.
func (s *Server) recordMeasure(ctx context.Context, in *struct {
	IDPath
	Body Measure
}) (*body[Recovery], error) {
	l := in.Body
	if err := keyed(l.ID); err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	then, err := s.toldLater(now, l.MeasuredAt, "body.measured_at")
	if err != nil {
		return nil, err
	}
	var today time.Time
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		_, day, err := casework.FindVisit(tx, in.ID, l.ZoneID, then)
		if err != nil {
			return within(err)
		}
		today = day
		row := store.Measure{ID: l.ID, FirmID: who(ctx).Firm, VisitID: in.ID, ZoneID: l.ZoneID, MeasuredOn: today, Baseline: l.Baseline,
			Cover: l.Cover, LiveCrowns: l.LiveCrowns, Spread: l.Spread, Note: l.Note, PersonID: who(ctx).Person, RecordedAt: s.now().UTC()}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	c, j, err := s.recoveryOf(ctx, l.ZoneID, now)
	if err != nil {
		return nil, err
	}
	// where this fails the night makes up for it
	if err := s.inFirm(ctx, func(tx *gorm.DB) error { return casework.KeepCourse(tx, c.Zone, j, today) }); err != nil {
		return nil, err
	}
	return s.recoveryAnswer(ctx, l.ZoneID, now)
}

func measureOf(l store.Measure) Measure {
	return Measure{ID: l.ID, ZoneID: l.ZoneID, VisitID: l.VisitID, MeasuredOn: l.MeasuredOn.Format(dateOnly), Baseline: l.Baseline,
		Cover: l.Cover, LiveCrowns: l.LiveCrowns, Spread: l.Spread, Note: l.Note}
}

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }
