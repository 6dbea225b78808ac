// Package casework is the way from the rows of the database to a case and back: what is known of a zone on a visit or on any day, in
// the terms of the core. It decides nothing.
package casework

import (
	"encoding/json"
	"errors"
	"reflect"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/worth"
	"hodos/exchange/casefile"
	"hodos/exchange/readingfile"
	"hodos/store"
)

// How much of the past goes into a case: weather for the longest look-back in use, treatments for the yearly budget,
// diagnoses for three years of history.
const (
	WeatherDays   = 400
	TreatmentDays = 400
	HistoryDays   = 3 * 366
	ForecastDays  = 10
)

// Answered is one standing answer: the value as JSON reads it, where it stands in the order of the server, and who gave it.
type Answered struct {
	Finding, Spot string
	Value         any
	Seq           int64
	By            string
	Tally         store.JSON // how it was counted, place by place; nil for what was not
	Other         *Other     // what somebody else had answered, which this answer has not seen; nil where nobody did
}

// Other is an answer of somebody else that an answer stands over without having seen it.
type Other struct {
	Value any
	By    string
}

// Visit is what is known of a zone on a visit.
type Visit struct {
	Case    evidence.Case
	Station *store.Station // nil where the site has none
	Date    time.Time      // the day that the visit was started, or today
	Seq     int64          // the newest answer
	Answers []Answered
	At      string // the station of the walk at which the newest answer was given
}

// ErrElsewhere: the zone is not one of the visit's site.
var ErrElsewhere = errors.New("is a zone of another site")

// ReadVisit reads a zone on a visit, with the hours of its weather. today is the day of the work clock, on which a visit stands that
// has not been started. Forecast and normals are asked of the service, by ahead, when the transaction is over.
func ReadVisit(tx *gorm.DB, known *Known, visit, zone uuid.UUID, now Moment) (Visit, error) {
	out := Visit{Answers: []Answered{}}
	var row struct {
		store.Visit
		SiteZone bool
		Country  string
	}
	if err := tx.Raw(`SELECT v.*, z.site_id = v.site_id AS site_zone, f.country FROM visits v JOIN firms f ON f.id = v.firm_id
		JOIN zones z ON z.id = ? WHERE v.id = ?`, zone, visit).Scan(&row).Error; err != nil {
		return out, err
	}
	switch {
	case row.ID == uuid.Nil:
		return out, store.ErrNotFound
	case !row.SiteZone:
		return out, ErrElsewhere
	}
	var z store.Zone
	if err := tx.First(&z, "id = ?", zone).Error; err != nil {
		return out, err
	}
	var site store.Site
	if err := tx.First(&site, "id = ?", row.SiteID).Error; err != nil {
		return out, err
	}
	out.Date = now.In(site.Timezone)
	if row.StartedOn != nil {
		out.Date = *row.StartedOn
	}
	out.Case = zoneCase(z, site, out.Date)
	out.Case.Context.Country = row.Country
	if err := readAnswers(tx, visit, zone, &out); err != nil {
		return out, err
	}
	return out, out.readAround(tx, known, visit, site, zone)
}

// readAround adds to what was answered all else that is known of the zone on the day.
func (v *Visit) readAround(tx *gorm.DB, known *Known, visit uuid.UUID, site store.Site, zone uuid.UUID) error {
	records, err := recordsOf(tx, zone, v.Date)
	if err != nil {
		return err
	}
	for _, read := range []func() error{
		func() error { return history(tx, records, visit, zone, v.Date, &v.Case) },
		func() error { return readLooks(tx, zone, v.Date, &v.Case) },
		func() error { return readPast(tx, visit, zone, v) },
		func() error { return readResults(tx, visit, zone, v.Date, &v.Case) },
		func() error { return readReadings(tx, zone, v.Date, &v.Case) },
		func() error { return readFirm(tx, &v.Case) },
		func() error { return readNearby(tx, site, v.Date, &v.Case) },
		func() error { return readWeather(tx, known, site, zone, v, records) },
	} {
		if err := read(); err != nil {
			return err
		}
	}
	return nil
}

// ReadTold puts together what a client told of a zone, on the day on which they did, with all else that is known of it. Nothing of it has
// been confirmed.
func ReadTold(tx *gorm.DB, known *Known, zone uuid.UUID, day time.Time, told map[string]any) (Visit, error) {
	out := Visit{Answers: []Answered{}, Date: day}
	var z store.Zone
	if err := tx.First(&z, "id = ?", zone).Error; err != nil {
		return out, err
	}
	var site store.Site
	if err := tx.First(&site, "id = ?", z.SiteID).Error; err != nil {
		return out, err
	}
	out.Case = zoneCase(z, site, day)
	for finding, plain := range told {
		out.Case.Take(finding, "worst", plain)
	}
	return out, out.readAround(tx, known, uuid.Nil, site, zone)
}

// Prices are the firm's figures; version 0 stands for the program's own.
func Prices(tx *gorm.DB) (p worth.Prices, version int, err error) {
	var rows []store.FirmPrices
	if err := tx.Limit(1).Find(&rows).Error; err != nil || len(rows) == 0 {
		return worth.DefaultPrices, 0, err
	}
	return pricesOf(rows[0]), rows[0].Version, nil
}

func pricesOf(r store.FirmPrices) worth.Prices {
	return worth.Prices{LawnM2: r.LawnM2, Hour: r.Hour, Fungicide: r.Fungicide, Insecticide: r.Insecticide, Herbicide: r.Herbicide,
		Feed: r.Feed, Amendment: r.Amendment, Seed: r.Seed, WaterM3: r.WaterM3, Lab: r.Lab}
}

// readFirm adds what is the firm's own: its prices, and what its closed cases teach where the owner lets them.
func readFirm(tx *gorm.DB, c *evidence.Case) error {
	var row struct {
		store.FirmPrices
		Used             bool
		Lessons, Without store.JSON
	}
	if err := tx.Raw(`SELECT p.*, l.used, l.lessons, l.without FROM firms f
		LEFT JOIN firm_prices p ON p.firm_id = f.id LEFT JOIN firm_lessons l ON l.firm_id = f.id`).Scan(&row).Error; err != nil {
		return err
	}
	if row.Version > 0 {
		c.Context.Utilities = pricesOf(row.FirmPrices).Utilities()
	}
	if !row.Used {
		return nil
	}
	lessons, without, err := lessonsOf(store.FirmLessons{Lessons: row.Lessons, Without: row.Without})
	for _, l := range lessons {
		if !without[l.Cause] {
			c.Context.Learnt = append(c.Context.Learnt, evidence.Learnt{Cause: l.Cause, Factor: l.Factor})
		}
	}
	return err
}

func readWeather(tx *gorm.DB, known *Known, site store.Site, zone uuid.UUID, out *Visit, records []store.TreatmentRecord) error {
	if site.StationID != nil {
		out.Station = &store.Station{}
		if err := tx.First(out.Station, "id = ?", *site.StationID).Error; err != nil {
			return err
		}
	}
	days, err := WeatherAt(tx, known, site, out.Station, out.Date.AddDate(0, 0, -WeatherDays), out.Date)
	if err != nil || len(days) == 0 {
		return err
	}
	water, err := waterBy(tx, []uuid.UUID{zone}, days[len(days)-1].Date, records)
	water[zone].onto(days)
	out.Case.Weather = days
	return err
}

// PolicyOf is how the client wants a zone kept.
func PolicyOf(z store.Zone) (p evidence.Policy) {
	var row struct {
		SummerWater   string `json:"summer-water"`
		Pests         string `json:"pests"`
		SummerFeeding string `json:"summer-feeding"`
		Blemishes     string `json:"blemishes"`
		Service       string `json:"service"`
	}
	_ = json.Unmarshal(z.Policy, &row) // written by the API alone, which has checked it
	return evidence.Policy{SummerWater: row.SummerWater, Pests: row.Pests, SummerFeeding: row.SummerFeeding, Blemishes: row.Blemishes,
		Service: row.Service}
}

func zoneCase(z store.Zone, site store.Site, date time.Time) evidence.Case {
	species := speciesOf(z.Species)
	policy := PolicyOf(z)
	c := evidence.Case{
		Title: site.Name + ", " + z.Name,
		Lawn: knowledge.Lawn{Date: date.UTC(), Latitude: site.Latitude, Longitude: site.Longitude, Species: species, AreaM2: &z.AreaM2,
			Texture: z.Texture, Irrigated: z.Irrigated, Form: z.Form, Cultivar: z.Cultivar},
		Policy:   policy,
		Findings: map[string]knowledge.Value{},
	}
	if z.SownYear != nil {
		c.Lawn.SownYear = *z.SownYear
	}
	located := site.LinesLocatedOn != nil && !site.LinesLocatedOn.Before(date.AddDate(0, 0, -30)) && !site.LinesLocatedOn.After(date)
	c.Context.LinesLocated = &located
	return c
}

// told is one answer of the log with who gave it and what it says.
type told struct {
	store.Answer
	Name  string
	plain any
}

type check struct{ finding, spot string }

// readAnswers reduces the log: the last answer to a check stands, a null takes it back.
func readAnswers(tx *gorm.DB, visit, zone uuid.UUID, out *Visit) error {
	var log []told
	if err := tx.Raw(
		"SELECT a.*, p.name FROM answers a JOIN people p ON p.id = a.person_id WHERE a.visit_id = ? AND a.zone_id = ? ORDER BY a.seq",
		visit,
		zone,
	).Scan(
		&log,
	).Error; err != nil {
		return err
	}
	byCheck := map[check][]int{}
	for i := range log {
		a := &log[i]
		key := check{a.Finding, a.Spot}
		byCheck[key] = append(byCheck[key], i)
		out.Seq = a.Seq
		if f, ok := knowledge.FindingByID(a.Finding); ok {
			out.At = f.Station // who has just answered there stands there
		}
		if a.Value != nil {
			if err := json.Unmarshal(a.Value, &a.plain); err != nil {
				return err
			}
		}
	}
	for i, a := range log {
		same := byCheck[check{a.Finding, a.Spot}]
		if same[len(same)-1] != i || a.Value == nil {
			continue
		}
		out.Answers = append(out.Answers, Answered{a.Finding, a.Spot, a.plain, a.Seq, a.Name, a.Tally, unseen(log, same)})
		out.Case.Take(a.Finding, a.Spot, a.plain)
	}
	return nil
}

// unseen is what somebody else had answered to the same check while whoever gave the standing answer had not seen it, and says
// otherwise; nil where there is no such answer. at are the places of the check in the log; the last of them stands.
func unseen(log []told, at []int) *Other {
	stands := log[at[len(at)-1]]
	for k := len(at) - 2; k >= 0; k-- {
		a := log[at[k]]
		if a.Seq <= stands.Base {
			return nil
		}
		if a.PersonID == stands.PersonID {
			continue
		}
		if a.Value == nil || reflect.DeepEqual(a.plain, stands.plain) {
			return nil
		}
		return &Other{a.plain, a.Name}
	}
	return nil
}

// OfferedBy are the standing answers of the other zones on a visit, the first zone that says first.
func OfferedBy(tx *gorm.DB, visit, but uuid.UUID) ([]evidence.Offer, error) {
	var rows []store.Answer
	if err := tx.Raw(`SELECT DISTINCT ON (z.name, z.id, a.finding, a.spot) a.* FROM answers a JOIN zones z ON z.id = a.zone_id
		WHERE a.visit_id = ? AND a.zone_id <> ? ORDER BY z.name, z.id, a.finding, a.spot, a.seq DESC`, visit, but).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := []evidence.Offer{}
	for _, a := range rows {
		f, ok := knowledge.FindingByID(a.Finding)
		if !ok || a.Value == nil || !evidence.SameElsewhere(f) {
			continue
		}
		var plain any
		if err := json.Unmarshal(a.Value, &plain); err != nil {
			return nil, err
		}
		if v, err := knowledge.ValueOf(f, plain); err == nil {
			out = append(out, evidence.Offer{Finding: a.Finding, Spot: a.Spot, Value: v, Source: evidence.FromZone, Zone: a.ZoneID.String()})
		}
	}
	return out, nil
}

// ReadHistory adds what was done to the zone and what former visits found.
func ReadHistory(tx *gorm.DB, visit, zone uuid.UUID, date time.Time, c *evidence.Case) error {
	records, err := recordsOf(tx, zone, date)
	if err != nil {
		return err
	}
	return history(tx, records, visit, zone, date, c)
}

// recordsOf are what was done to a zone in the TreatmentDays up to a day, oldest first.
func recordsOf(tx *gorm.DB, zone uuid.UUID, date time.Time) (records []store.TreatmentRecord, err error) {
	err = tx.Where("zone_id = ? AND applied_on > ? AND applied_on <= ?", zone, date.AddDate(0, 0, -TreatmentDays), date).
		Order("applied_on, seq").Find(&records).Error
	return records, err
}

func history(tx *gorm.DB, records []store.TreatmentRecord, visit, zone uuid.UUID, date time.Time, c *evidence.Case) error {
	for _, r := range store.Standing(records) {
		t := evidence.Treatment{Date: r.AppliedOn.UTC(), Action: r.Action, NGM2: r.NGM2, PGM2: r.PGM2, KGM2: r.KGM2, FeGM2: r.FeGM2,
			WMM: r.WaterMM, Source: r.Source, Note: r.Note}
		if r.VisitID == visit {
			c.Done = append(c.Done, t)
		} else {
			c.Treatments = append(c.Treatments, t)
		}
	}
	var former []struct {
		store.Diagnosis
		ClosedAs string // what it was after all; empty while the case is open
	}
	if err := tx.Raw(`SELECT d.*, coalesce((SELECT k.cause FROM closings k WHERE k.zone_id = d.zone_id AND k.diagnosis_id = d.id
			ORDER BY k.seq DESC LIMIT 1), '') AS closed_as
		FROM diagnoses d WHERE d.zone_id = ? AND d.visit_id <> ? AND d.given_on < ? AND d.given_on > ? ORDER BY d.given_on`,
		zone, visit, date, date.AddDate(0, 0, -HistoryDays)).Scan(&former).Error; err != nil {
		return err
	}
	for _, d := range former {
		e := evidence.Earlier{Date: d.GivenOn.UTC(), Cause: d.Leading}
		if d.ClosedAs != "" {
			e.Cause = d.ClosedAs
		}
		if then, err := casefile.Parse(d.CaseFile); err == nil { // a file of a former version is kept, its answers are not compared
			e.Findings = then.Findings
		}
		c.Earlier = append(c.Earlier, e)
	}
	return nil
}

// lookDays is how far back a look can be held against what a treatment came to.
const lookDays = 75

// readLooks adds what was measured of the recovery, and the colour by photographs, where what came of a treatment can be told.
func readLooks(tx *gorm.DB, zone uuid.UUID, date time.Time, c *evidence.Case) error {
	if !evidence.Answering(*c) {
		return nil
	}
	var rows []struct {
		Day    time.Time
		Cover  *float64
		Spread string
		Index  *float64
	}
	// a new baseline is a new measure of another part: what was measured before it cannot be held against what is measured since
	if err := tx.Raw(`SELECT measured_on AS day, cover, spread, NULL::float8 AS index, seq FROM measures
			WHERE zone_id = @zone AND measured_on > @from AND measured_on <= @to AND seq >= coalesce((SELECT max(seq) FROM measures
				WHERE zone_id = @zone AND baseline AND measured_on <= @to), 0)
		UNION ALL
		SELECT v.started_on, NULL, '', least(avg(p.colour_index), 1), 0 FROM photos p JOIN visits v ON v.id = p.visit_id
			WHERE p.zone_id = @zone AND p.about = 'cover' AND p.spot IN ('worst', '') AND p.colour_index IS NOT NULL AND p.faults = '[]'
				AND v.started_on > @from AND v.started_on <= @to
			GROUP BY v.id, v.started_on
		ORDER BY day, seq`, map[string]any{"zone": zone, "from": date.AddDate(0, 0, -lookDays), "to": date}).Scan(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		c.Looks = append(c.Looks, evidence.Look{Date: r.Day.UTC(), Cover: r.Cover, Spread: r.Spread, Index: r.Index})
	}
	return nil
}

// readPast adds what other visits measured and what still holds of it, so that the balance goes on from visit to visit.
func readPast(tx *gorm.DB, visit, zone uuid.UUID, out *Visit) error {
	ground, err := groundOf(tx, []uuid.UUID{zone}, visit, out.Date)
	out.Case.Earlier = append(out.Case.Earlier, ground[zone].past...)
	return err
}

// How long a result speaks for its zone (judgement).
var resultDays = map[string]int{"soil": 730, "disease": 60, "nematode": 365, "tissue": 90}

// readResults adds what came back from the laboratory: for the visit on which the sample was taken whenever it came, for
// others while it still speaks for the zone. An answer on site goes before it.
func readResults(tx *gorm.DB, visit, zone uuid.UUID, date time.Time, c *evidence.Case) error {
	var rows []store.Sample
	if err := tx.Where("zone_id = ? AND result IS NOT NULL AND (visit_id = ? OR returned_on <= ?)", zone, visit,
		date).Order("taken_on DESC, number DESC").Find(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		if r.VisitID != visit && r.TakenOn.Before(date.AddDate(0, 0, -resultDays[r.Kind])) {
			continue
		}
		var values map[string]any
		if err := json.Unmarshal(r.Result, &values); err != nil {
			return err
		}
		for id, plain := range values {
			f, ok := knowledge.FindingByID(id)
			if _, said := c.Findings[id]; said || !ok {
				continue
			}
			if v, err := knowledge.ValueOf(f, plain); err == nil {
				c.Findings[id] = v
			}
		}
	}
	return nil
}

// readReadings adds what was read on a zone up to a day: soil tests stand for two years, readings of the day itself stand where nobody
// has answered, older ones among what was found before. An answer on site goes before all of them.
func readReadings(tx *gorm.DB, zone uuid.UUID, date time.Time, c *evidence.Case) error {
	var rows []store.Reading
	if err := tx.Table("standing_readings").Where("zone_id = ? AND day > ? AND day <= ?", zone, date.AddDate(0, 0, -resultDays["soil"]),
		date).Order("day DESC, hour DESC NULLS LAST").Find(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		_, said := c.Findings[r.Finding]
		today := r.Day.UTC().Equal(date.UTC())
		switch {
		case !said && (today || readingfile.SoilTest(r.Finding)):
			c.Findings[r.Finding] = knowledge.NumberValue(r.Value)
			if r.Finding == "soil-temp-c" && r.Hour != nil {
				c.Findings["soil-temp-hour"] = knowledge.NumberValue(*r.Hour)
			}
		case !today && !readingfile.SoilTest(r.Finding) && r.Day.After(date.AddDate(0, 0, -60)):
			c.Earlier = addReading(c.Earlier, r)
		}
	}
	return nil
}
