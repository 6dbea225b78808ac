package casework

import (
	"slices"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/repeat"
	"hodos/store"
)

// Ending is how a zone's case stands with its end: what it was closed as, what has come back, and what is booked against the next time.
type Ending struct {
	Closed    *store.Closing // since the last baseline or diagnosis; nil while the case is open
	Cause     string         // what the zone has: as closed, else as diagnosed last; empty for nothing
	Diagnosis *uuid.UUID     // the diagnosis that the case began with
	Again     []repeat.Again
	// Prevented says that there is a preventive against the cause; Preventive is the job that is booked of it, nil for none.
	Prevented  bool
	Preventive *store.Job
}

// repeatSure is how sure a diagnosis has to be to count as an outbreak before its case is closed (judgement).
const repeatSure = .7

// ReadEnding reads it for a course that has been read.
func ReadEnding(tx *gorm.DB, c Course) (e Ending, err error) {
	var closings []store.Closing
	if err := tx.Where("zone_id = ? AND closed_on <= ?", c.Zone.ID, c.Today).Order("closed_on, seq").Find(&closings).Error; err != nil {
		return e, err
	}
	var given []store.Diagnosis
	if err := tx.Omit("case_file", "result").
		Where("zone_id = ? AND given_on > ? AND given_on <= ?", c.Zone.ID, c.Today.AddDate(-repeat.Years, 0, 0), c.Today).
		Order("given_on, recorded_at").Find(&given).Error; err != nil {
		return e, err
	}
	as := map[uuid.UUID]string{}
	for _, k := range closings {
		if k.DiagnosisID != nil {
			as[*k.DiagnosisID] = k.Cause
		}
	}
	if n := len(given); n > 0 {
		e.Cause, e.Diagnosis = given[n-1].Leading, &given[n-1].ID
	}
	if n := len(closings); n > 0 && !reopened(c, given, closings[n-1]) {
		e.Closed, e.Cause = &closings[n-1], closings[n-1].Cause
	}
	prices, _, err := Prices(tx)
	if err != nil {
		return e, err
	}
	e.Again = repeat.Of(outbreaks(given, as), doneOf(c.Records), c.Today, c.Zone.AreaM2, prices)
	if e.Prevented = remedy.Prevented(e.Cause); e.Prevented {
		e.Preventive, err = bookedAgainst(tx, c, e.Cause)
	}
	return e, err
}

// reopened says whether the case has begun anew since it was closed: by a baseline or a diagnosis.
func reopened(c Course, given []store.Diagnosis, last store.Closing) bool {
	if c.Start >= 0 && c.Measures[c.Start].RecordedAt.After(last.RecordedAt) {
		return true
	}
	return len(given) > 0 && given[len(given)-1].RecordedAt.After(last.RecordedAt)
}

func outbreaks(given []store.Diagnosis, as map[uuid.UUID]string) []repeat.Outbreak {
	var out []repeat.Outbreak
	for _, d := range given {
		cause, closed := as[d.ID]
		if !closed {
			cause = d.Leading
		}
		if (closed || d.Probability >= repeatSure) && cause != knowledge.Healthy {
			out = append(out, repeat.Outbreak{On: d.GivenOn.UTC(), Cause: cause})
		}
	}
	return out
}

func doneOf(records []store.TreatmentRecord) []repeat.Done {
	var out []repeat.Done
	for _, r := range store.Standing(records) {
		out = append(out, repeat.Done{Action: r.Action, On: r.AppliedOn.UTC()})
	}
	slices.SortStableFunc(out, func(a, b repeat.Done) int { return a.On.Compare(b.On) })
	return out
}

// bookedAgainst is the preventive that is booked for a zone against a cause.
func bookedAgainst(tx *gorm.DB, c Course, cause string) (*store.Job, error) {
	var jobs []store.Job
	err := tx.Where("zone_id = ? AND state = 'booked' AND due_on >= ? AND action IN ?", c.Zone.ID, c.Today, remedy.PreventivesOf(cause)).
		Order("due_on").Limit(1).Find(&jobs).Error
	if err != nil || len(jobs) == 0 {
		return nil, err
	}
	return &jobs[0], nil
}
