package casework

import (
	"encoding/json"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/core/hindsight"
	"hodos/core/knowledge"
	"hodos/exchange/casefile"
	"hodos/store"
)

// HindsightDays is how far back diagnoses are looked back upon (judgement: the longest span of the figures).
const HindsightDays = 3 * 366

// Given is a diagnosis that has not been looked back upon since it was closed, or since the tables changed.
type Given struct {
	ID, ZoneID uuid.UUID
	FirmID     uuid.UUID
	GivenOn    time.Time
	CaseFile   store.JSON
	ClosedAs   string // what it was after all; empty while the case is open
}

// Unlooked reads the newest of them on a firm's sites from one key to another.
func Unlooked(tx *gorm.DB, first, last uuid.UUID, day time.Time, most int) (rows []Given, err error) {
	err = tx.Raw(`SELECT d.id, d.zone_id, d.firm_id, d.given_on, d.case_file, d.closed_as FROM (
			SELECT DISTINCT ON (d.zone_id, d.visit_id) d.*, coalesce((SELECT k.cause FROM closings k
				WHERE k.zone_id = d.zone_id AND k.diagnosis_id = d.id ORDER BY k.seq DESC LIMIT 1), '') AS closed_as
			FROM sites s JOIN zones z ON z.site_id = s.id JOIN diagnoses d ON d.zone_id = z.id
			WHERE s.id BETWEEN ? AND ? AND d.given_on BETWEEN ? AND ?
			ORDER BY d.zone_id, d.visit_id, d.recorded_at DESC) d
		LEFT JOIN hindsights h ON h.diagnosis_id = d.id
		WHERE h.diagnosis_id IS NULL OR h.cause <> d.closed_as OR h.knowledge <> ?
		ORDER BY d.given_on DESC, d.id LIMIT ?`, first, last, day.AddDate(0, 0, -HindsightDays), day, knowledge.Knowledge, most).Scan(&rows).Error
	return rows, err
}

// LookBack looks back on a diagnosis. A case file that cannot be read any more is looked back upon with nothing seen.
func LookBack(d Given) store.Hindsight {
	h := store.Hindsight{DiagnosisID: d.ID, FirmID: d.FirmID, ZoneID: d.ZoneID, GivenOn: d.GivenOn, Cause: d.ClosedAs,
		Knowledge: knowledge.Knowledge, Checks: store.JSON("[]")}
	c, err := casefile.Parse(d.CaseFile)
	if err != nil {
		return h
	}
	v := hindsight.Back(c, d.ClosedAs)
	checks := make([]LookedCheck, 0, len(v.Checks))
	for _, x := range v.Checks {
		checks = append(checks, LookedCheck(x))
	}
	h.Checks = asJSON(checks)
	if v.Expected != nil {
		for id, p := range v.Expected {
			v.Expected[id] = math.Round(p*1e5) / 1e5
		}
		h.Expected = asJSON(v.Expected)
	}
	if v.Money != nil {
		h.ToldMoney, h.GivenMoney = &v.Money.Told, &v.Money.Given
	}
	if v.Water != nil {
		h.WaterGiven, h.WaterAsked = &v.Water.Given, &v.Water.Asked
	}
	return h
}

// LookedCheck is a handling as it is kept.
type LookedCheck struct {
	Procedure string  `json:"procedure"`
	Minutes   float64 `json:"minutes"`
	Decided   bool    `json:"decided"`
}

// asJSON writes what is made of plain values alone.
func asJSON(v any) store.JSON {
	b, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	return b
}

// KeepHindsight keeps it in the place of an older one.
func KeepHindsight(tx *gorm.DB, rows []store.Hindsight) error {
	if len(rows) == 0 {
		return nil
	}
	return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "diagnosis_id"}}, UpdateAll: true}).Create(&rows).Error
}

// Lesson is what closed cases teach of a cause, as it is kept.
type Lesson struct {
	Cause    string  `json:"cause"`
	Seen     int     `json:"seen" doc:"closed cases that were it"`
	Expected float64 `json:"expected" doc:"closed cases that the tables expected to be it"`
	Factor   float64 `json:"factor" doc:"of its odds, shrunk toward the tables"`
	Low      float64 `json:"low" doc:"95 % interval"`
	High     float64 `json:"high"`
}

// Teach counts what the firm's closed cases teach on a day and keeps it.
func Teach(tx *gorm.DB, firm uuid.UUID, day time.Time) error {
	from := day.AddDate(0, 0, -HindsightDays)
	var cases int
	const counts = "FROM hindsights WHERE expected IS NOT NULL AND given_on BETWEEN ? AND ?"
	if err := tx.Raw("SELECT count(*) "+counts, from, day).Scan(&cases).Error; err != nil {
		return err
	}
	var counted []hindsight.Counted
	if err := tx.Raw(`WITH closed AS (SELECT cause, expected `+counts+`)
		SELECT e.key AS cause, sum(e.value::float8) AS expected, count(*) FILTER (WHERE e.key = closed.cause) AS seen
		FROM closed, jsonb_each_text(closed.expected) e GROUP BY 1 ORDER BY 1`, from, day).Scan(&counted).Error; err != nil {
		return err
	}
	lessons := []Lesson{}
	for _, l := range hindsight.Learn(counted, cases) {
		lessons = append(lessons, Lesson{l.Cause, l.Seen, round2(l.Expected), round2(l.Factor), round2(l.Low), round2(l.High)})
	}
	row := store.FirmLessons{FirmID: firm, Cases: cases, Lessons: asJSON(lessons), Without: store.JSON("[]"), MadeOn: &day}
	return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "firm_id"}},
		DoUpdates: clause.AssignmentColumns([]string{"cases", "lessons", "made_on"})}).Create(&row).Error
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }

// Lessons reads what the firm's closed cases teach; the zero row where nothing has been counted yet.
func Lessons(tx *gorm.DB) (row store.FirmLessons, lessons []Lesson, without map[string]bool, err error) {
	var rows []store.FirmLessons
	if err = tx.Limit(1).Find(&rows).Error; err != nil || len(rows) == 0 {
		return row, nil, nil, err
	}
	lessons, without, err = lessonsOf(rows[0])
	return rows[0], lessons, without, err
}

func lessonsOf(row store.FirmLessons) (lessons []Lesson, without map[string]bool, err error) {
	var left []string
	if err = json.Unmarshal(row.Lessons, &lessons); err == nil {
		err = json.Unmarshal(row.Without, &left)
	}
	without = map[string]bool{}
	for _, id := range left {
		without[id] = true
	}
	return lessons, without, err
}
