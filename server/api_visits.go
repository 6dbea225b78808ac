package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/exchange/ground"
	"hodos/exchange/refusal"
	"hodos/store"
)

// Visit is one visit to a site.
type Visit struct {
	ID         uuid.UUID  `json:"id"`
	SiteID     uuid.UUID  `json:"site_id"`
	ZoneID     *uuid.UUID `json:"zone_id,omitempty" doc:"for a follow-up: the zone to look at"`
	Kind       string     `json:"kind" enum:"diagnosis,follow-up"`
	DueOn      string     `json:"due_on" format:"date"`
	Reason     string     `json:"reason" maxLength:"500"`
	Hours      *Hours     `json:"hours,omitempty" doc:"between which somebody expects it, at the site; left out for whenever"`
	PersonID   *uuid.UUID `json:"person_id,omitempty"`
	ArrivedAt  *time.Time `json:"arrived_at,omitempty" readOnly:"true"`
	LeftAt     *time.Time `json:"left_at,omitempty" readOnly:"true"`
	StartedOn  *string    `json:"started_on,omitempty" format:"date" readOnly:"true"`
	ClosedOn   *string    `json:"closed_on,omitempty" format:"date" readOnly:"true"`
	FollowsID  *uuid.UUID `json:"follows_id,omitempty"`
	Version    int        `json:"version" minimum:"0" maximum:"2147483646"`
	SiteName   string     `json:"site_name,omitempty" readOnly:"true"`
	ClientName string     `json:"client_name,omitempty" readOnly:"true"`
	PersonName string     `json:"person_name,omitempty" readOnly:"true"`
}

// Hours are two times of a day.
type Hours struct {
	From string `json:"from" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"HH:MM"`
	To   string `json:"to" pattern:"^(([01][0-9]|2[0-3]):[0-5][0-9]|24:00)$" doc:"HH:MM, after from"`
}

// minutes are hours as they are stored; the error says what is wrong with them.
func (h *Hours) minutes() (from, to *int, err error) {
	if h == nil {
		return nil, nil, nil
	}
	a, b := minuteOf(h.From), minuteOf(h.To)
	if a >= b {
		return nil, nil, invalid("body.hours.to", "does not come after the first of the hours")
	}
	return &a, &b, nil
}

// minuteOf reads HH:MM, which the pattern of the field has made sure of.
func minuteOf(text string) int {
	var h, m int
	_, _ = fmt.Sscanf(text, "%d:%d", &h, &m)
	return h*60 + m
}

// clockOf writes minutes after midnight; a day later begins anew.
func clockOf(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60%24, minutes%60) }

func hoursOf(from, to *int) *Hours {
	if from == nil || to == nil {
		return nil
	}
	h := &Hours{clockOf(*from), clockOf(*to)}
	if *to == 24*60 {
		h.To = "24:00"
	}
	return h
}

func visitOf(v store.Visit) Visit {
	return Visit{ID: v.ID, SiteID: v.SiteID, ZoneID: v.ZoneID, Kind: v.Kind, DueOn: v.DueOn.Format(dateOnly), Reason: v.Reason,
		PersonID: v.PersonID, ArrivedAt: v.ArrivedAt, LeftAt: v.LeftAt, StartedOn: dateText(v.StartedOn), ClosedOn: dateText(v.ClosedOn),
		FollowsID: v.FollowsID, Version: v.Version, Hours: hoursOf(v.FromMinute, v.ToMinute)}
}

// Given is a diagnosis as it was given.
type Given struct {
	ID          uuid.UUID `json:"id"`
	VisitID     uuid.UUID `json:"visit_id"`
	ZoneID      uuid.UUID `json:"zone_id"`
	Knowledge   string    `json:"knowledge"`
	Leading     string    `json:"leading"`
	Probability float64   `json:"probability"`
	GivenOn     string    `json:"given_on" format:"date"`
}

// VisitDetail is a visit with all that its screen shows first.
type VisitDetail struct {
	Visit     Visit    `json:"visit"`
	Site      Site     `json:"site"`
	Given     []Given  `json:"given" nullable:"false"`
	Records   []Record `json:"records" nullable:"false"`
	FollowUps []Visit  `json:"follow_ups" nullable:"false"`
	Calls     []Call   `json:"calls" nullable:"false" doc:"what the client told for this visit, the newest first"`
}

// Answered is the standing answer to one check.
type Answered struct {
	Finding string `json:"finding"`
	Spot    string `json:"spot" enum:"worst,healthy"`
	Value   any    `json:"value"`
	Seq     int64  `json:"seq"`
	By      string `json:"by"`
	Tally   *Tally `json:"tally,omitempty" doc:"how it was counted; left out for what was not"`
	Other   *Other `json:"other,omitempty" doc:"what somebody else answered meanwhile, unseen by whoever gave this answer, which stands"`
}

// Other is an answer of somebody else that a standing answer has not seen.
type Other struct {
	Value any    `json:"value"`
	By    string `json:"by"`
}

// Scales is a zone's state on a visit: what was answered, and what it comes to.
type Scales struct {
	Seq       int64           `json:"seq" doc:"the newest answer that is in here"`
	Answers   []Answered      `json:"answers" nullable:"false"`
	Diagnosis casefile.Result `json:"diagnosis"`
	Spray     *SprayAhead     `json:"spray,omitempty" doc:"hours ahead that are fit to spray; left out where none are known"`
}

// NewAnswer is one tap. A null value takes an answer back.
type NewAnswer struct {
	ID      uuid.UUID `json:"id" doc:"version 7, made by the client: a repeated request does nothing twice"`
	Finding string    `json:"finding" maxLength:"60"`
	Spot    string    `json:"spot" enum:"worst,healthy"`
	Value   any       `json:"value" required:"false" nullable:"true"`
	Entered *Entered  `json:"entered,omitempty" doc:"a number as it was entered, with its unit; the SI value is made from it"`
	Tally   *Tally    `json:"tally,omitempty" doc:"a count, place by place; the value is made from it"`
	Base    int64     `json:"base" doc:"the newest answer the caller had seen"`
}

// Entered is an amount with the unit it was entered in.
type Entered struct {
	Amount float64 `json:"amount"`
	Unit   string  `json:"unit" maxLength:"20"`
}

// checked turns an answer into the JSON that is stored, or says what is wrong with it.
func (a NewAnswer) checked(where string, today time.Time) (value, entered store.JSON, err error) {
	if a.Tally != nil {
		if a.Value, err = valueOf(a.Tally, a.Finding); err != nil {
			return nil, nil, field(where+".tally", err.Error())
		}
		a.Entered = nil
	}
	if a.Value == nil && a.Entered == nil {
		known := a.Finding == evidence.OnsetAnswer || a.Finding == evidence.DamageAnswer || a.Finding == evidence.PointsAnswer
		if f, ok := knowledge.FindingByID(a.Finding); !known && (!ok || !f.Asked()) {
			return nil, nil, field(where+".finding", "is not a finding")
		}
		return nil, nil, nil
	}
	switch a.Finding {
	case evidence.OnsetAnswer:
		text, _ := a.Value.(string)
		d, err := time.Parse(dateOnly, text)
		if err != nil || d.After(today) {
			return nil, nil, field(where+".value", "is not a date (YYYY-MM-DD) on or before the visit")
		}
		j, _ := json.Marshal(text)
		return j, nil, nil
	case evidence.DamageAnswer:
		m, at, reason := ground.CellsOf(a.Value)
		if reason != "" {
			return nil, nil, field(where+".value"+at, reason)
		}
		j, _ := json.Marshal(m)
		return j, nil, nil
	case evidence.PointsAnswer:
		points, reason := pointsOf(a.Value)
		if reason != "" {
			return nil, nil, field(where+".value", reason)
		}
		j, _ := json.Marshal(points)
		return j, nil, nil
	}
	f, ok := knowledge.FindingByID(a.Finding)
	if !ok || !f.Asked() {
		return nil, nil, field(where+".finding", "is not a finding")
	}
	plain := a.Value
	if a.Entered != nil {
		si, err := units.Convert(a.Entered.Amount, a.Entered.Unit, f.Measure())
		if err != nil {
			return nil, nil, field(where+".entered", err.Error())
		}
		plain = si
		entered, _ = json.Marshal(a.Entered)
	}
	v, verr := knowledge.ValueOf(f, plain)
	if verr != nil {
		return nil, nil, field(where+".value", verr.Error())
	}
	j, _ := json.Marshal(v.Plain())
	return j, entered, nil
}

// ZonePath is a zone on a visit.
type ZonePath struct {
	ID   uuid.UUID `path:"id" format:"uuid"`
	Zone uuid.UUID `path:"zone" format:"uuid"`
}

// Apart is one check that tells two causes apart.
type Apart struct {
	Finding   string  `json:"finding"`
	Procedure string  `json:"procedure"`
	Station   string  `json:"station"`
	Minutes   float64 `json:"minutes"`
	Bits      float64 `json:"bits"`
	Outcomes  []Split `json:"outcomes" nullable:"false"`
}

// Split is one answer under either cause.
type Split struct {
	Label string  `json:"label"`
	A     float64 `json:"a"`
	B     float64 `json:"b"`
}

func apart(checks []diagnosis.Apart) []Apart {
	out := []Apart{}
	for _, x := range checks {
		line := Apart{x.Finding, x.Procedure, x.Station, x.Minutes, x.Bits, []Split{}}
		for _, o := range x.Outcomes {
			line.Outcomes = append(line.Outcomes, Split(o))
		}
		out = append(out, line)
	}
	return out
}

// bookVisit answers POST /visits: book a visit.
func (s *Server) bookVisit(ctx context.Context, in *body[Visit]) (*body[Visit], error) {
	v := in.Body
	if err := keyed(v.ID); err != nil {
		return nil, err
	}
	due, err := s.dueOf(ctx, v.DueOn)
	if err != nil {
		return nil, err
	}
	row := store.Visit{ID: v.ID, FirmID: who(ctx).Firm, SiteID: v.SiteID, ZoneID: v.ZoneID, Kind: v.Kind, DueOn: due, Reason: v.Reason,
		PersonID: v.PersonID, FollowsID: v.FollowsID, Version: 1}
	if row.FromMinute, row.ToMinute, err = v.Hours.minutes(); err != nil {
		return nil, err
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if v.ZoneID != nil {
			if err := sameSite(tx, *v.ZoneID, v.SiteID); err != nil {
				return err
			}
		}
		return store.Create(tx, &row, row.ID)
	})
	return answer(visitOf(row)), err
}

type visitChange struct {
	IDPath
	Body Visit
}

// changeVisit answers PUT /visits/{id}: change the day, hours, reason or person of a visit.
func (s *Server) changeVisit(ctx context.Context, in *visitChange) (*body[Visit], error) {
	due, err := s.dueOf(ctx, in.Body.DueOn)
	if err != nil {
		return nil, err
	}
	from, to, err := in.Body.Hours.minutes()
	if err != nil {
		return nil, err
	}
	var row store.Visit
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := store.Change(tx, &store.Visit{}, in.ID, in.Body.Version, map[string]any{"due_on": due, "reason": in.Body.Reason,
			"person_id": in.Body.PersonID, "from_minute": from, "to_minute": to}); err != nil {
			return err
		}
		return tx.First(&row, "id = ?", in.ID).Error
	})
	return answer(visitOf(row)), err
}

// getVisit answers GET /visits/{id}: a visit with its site, zones and what was given and done.
func (s *Server) getVisit(ctx context.Context, in *IDPath) (*body[VisitDetail], error) {
	var out VisitDetail
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		out, err = visitDetail(tx, in.ID)
		return err
	})
	return answer(out), err
}

type moment struct {
	IDPath
	Body struct {
		At *time.Time `json:"at,omitempty" doc:"real time; now when left out"`
	}
}

type scalesInput struct {
	ZonePath
}

// getScales answers GET /visits/{id}/zones/{zone}/scales: what was answered in a zone, and what it comes to.
func (s *Server) getScales(ctx context.Context, in *scalesInput) (*body[Scales], error) {
	out, _, err := s.scales(ctx, in.ID, in.Zone)
	return answer(out), err
}

type answersInput struct {
	ZonePath
	Body struct {
		Answers []NewAnswer `json:"answers" minItems:"1" maxItems:"200" nullable:"false"`
	}
}

// answerChecks answers POST /visits/{id}/zones/{zone}/answers: answer checks.
func (s *Server) answerChecks(ctx context.Context, in *answersInput) (*body[Scales], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	rows := make([]store.Answer, 0, len(in.Body.Answers))
	var wrong []error
	id := who(ctx)
	for i, a := range in.Body.Answers {
		where := fmt.Sprintf("body.answers[%d]", i)
		if a.ID.Version() != 7 {
			wrong = append(wrong, field(where+".id", "must be a version 7 UUID made by the client"))
			continue
		}
		value, entered, err := a.checked(where, now.Furthest())
		if err != nil {
			wrong = append(wrong, err)
			continue
		}
		rows = append(rows, store.Answer{ID: a.ID, FirmID: id.Firm, VisitID: in.ID, ZoneID: in.Zone, Spot: a.Spot, Finding: a.Finding,
			Value: value, Entered: entered, Tally: tallyJSON(a.Tally), PersonID: id.Person, Base: a.Base, RecordedAt: s.now().UTC()})
	}
	if len(wrong) > 0 {
		return nil, huma.Error422UnprocessableEntity("some answers cannot be taken; none was saved", wrong...)
	}
	var known casework.Visit
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		v, today, err := casework.FindVisit(tx, in.ID, in.Zone, now)
		if err != nil {
			return within(err)
		}
		if v.StartedOn == nil {
			// an answer given before the arrival was noted still starts the visit
			if err := store.Change(tx, &store.Visit{}, v.ID, v.Version, map[string]any{"started_on": today}); err != nil &&
				!errors.Is(err, store.ErrChanged) {
				return err
			}
		}
		if err := keepAnswers(tx, rows); err != nil {
			return err
		}
		known, err = readVisit(tx, s.known, in.ID, in.Zone, now)
		return err
	})
	if err != nil {
		return nil, err
	}
	s.ahead(ctx, &known)
	return answer(weighed(&known, saying(ctx))), nil
}

// keepAnswers writes answers in one statement. The same answer again is no error; a key that stands with something else is.
func keepAnswers(tx *gorm.DB, rows []store.Answer) error {
	r := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "id"}}, DoNothing: true}).Create(&rows)
	if r.Error != nil || r.RowsAffected == int64(len(rows)) {
		return r.Error
	}
	ids := make([]uuid.UUID, len(rows))
	for i, row := range rows {
		ids[i] = row.ID
	}
	var kept []store.Answer
	if err := tx.Where("id IN ?", ids).Find(&kept).Error; err != nil {
		return err
	}
	byID := map[uuid.UUID]store.Answer{}
	for _, k := range kept {
		byID[k.ID] = k
	}
	for i, row := range rows {
		k, mine := byID[row.ID]
		if !mine {
			return fmt.Errorf("%w: id", store.ErrTaken)
		}
		if k.VisitID != row.VisitID || k.ZoneID != row.ZoneID || k.Finding != row.Finding || k.Spot != row.Spot || !sameJSON(k.Value, row.Value) {
			return huma.Error409Conflict(
				"another answer stands under this key",
				field(fmt.Sprintf("body.answers[%d].id", i), "stands with another answer"),
			)
		}
	}
	return nil
}

func sameJSON(a, b store.JSON) bool {
	var x, y any
	if a == nil || b == nil {
		return (a == nil) == (b == nil)
	}
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}

type apartInput struct {
	ZonePath
	A string `query:"a" required:"true" maxLength:"60"`
	B string `query:"b" required:"true" maxLength:"60"`
}

// tellApart answers GET /visits/{id}/zones/{zone}/apart: the checks that tell two causes apart.
func (s *Server) tellApart(ctx context.Context, in *apartInput) (*body[[]Apart], error) {
	for name, id := range map[string]string{"a": in.A, "b": in.B} {
		if _, ok := knowledge.CauseByID(id); !ok {
			return nil, invalid("query."+name, "is not a cause")
		}
	}
	v, err := s.caseOn(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	byDays(&v)
	return answer(apart(diagnosis.TellApart(v.Case, in.A, in.B, diagnosis.Options{}))), nil
}

type giveInput struct {
	ZonePath
	Body struct {
		ID uuid.UUID `json:"id"`
	}
}

// giveDiagnosis answers POST /visits/{id}/zones/{zone}/diagnoses: save the diagnosis as it stands; it is never changed afterwards.
func (s *Server) giveDiagnosis(ctx context.Context, in *giveInput) (*body[Given], error) {
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	sc, v, err := s.scales(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	file, err := casefile.Write(v.Case)
	if err != nil {
		return nil, s.said(err)
	}
	full, err := json.Marshal(sc.Diagnosis)
	if err != nil {
		return nil, s.said(err)
	}
	lead := sc.Diagnosis.Causes[0]
	row := store.Diagnosis{ID: in.Body.ID, FirmID: who(ctx).Firm, VisitID: in.ID, ZoneID: in.Zone, Knowledge: sc.Diagnosis.Knowledge,
		Leading: lead.ID, Probability: lead.Probability, CaseFile: file, Result: full, GivenOn: v.Date, PersonID: who(ctx).Person,
		RecordedAt: s.now().UTC()}
	err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
	return answer(givenOf(row)), err
}

type caseExport struct {
	ContentDisposition string `header:"Content-Disposition"`
	ContentType        string `header:"Content-Type"`
	Body               []byte
}

// exportCase answers GET /visits/{id}/zones/{zone}/case: the zone on this visit as a case file.
func (s *Server) exportCase(ctx context.Context, in *ZonePath) (*caseExport, error) {
	v, err := s.caseOn(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	byDays(&v)
	b, err := casefile.Write(v.Case)
	return &caseExport{`attachment; filename="case-` + v.Case.Lawn.Date.Format(dateOnly) + `.json"`, "application/json", b}, s.said(err)
}

type caseInput struct {
	RawBody []byte `contentType:"application/json"`
}

// diagnoseCase answers POST /diagnose: weigh a case file.
func (s *Server) diagnoseCase(_ context.Context, in *caseInput) (*body[casefile.Result], error) {
	c, err := casefile.Parse(in.RawBody)
	if r := (*refusal.Refusal)(nil); errors.As(err, &r) {
		return nil, refusedWhole("the case file is refused", "body.", r)
	}
	if err != nil {
		return nil, s.said(err)
	}
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	return answer(casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{}))), nil
}

// longest is how late the moment of a visit may be noted: a device without a connection comes back within that (judgement).
const longest = 31 * 24 * time.Hour

// dueOf reads the day of a visit: from a year ago to ten years ahead of the work clock.
func (s *Server) dueOf(ctx context.Context, text string) (time.Time, error) {
	due, err := dateOf("body.due_on", text)
	if err != nil {
		return due, err
	}
	today, err := s.today(ctx)
	if err != nil {
		return due, err
	}
	if due.Before(today.AddDate(-1, 0, 0)) || due.After(today.AddDate(10, 0, 0)) {
		return due, invalid("body.due_on", "is not within a year ago and ten years from now")
	}
	return due, nil
}

// toldLater is the moment at which something was that a device tells of later; now itself where it does not say. It may lie a little ahead,
// as clocks do, and at most a month back.
func (s *Server) toldLater(now casework.Moment, at *time.Time, field string) (casework.Moment, error) {
	switch {
	case at == nil:
		return now, nil
	case at.After(s.now().Add(5 * time.Minute)):
		return now, invalid(field, "is in the future")
	case at.Before(s.now().Add(-longest)):
		return now, invalid(field, "is more than a month ago")
	}
	return now.Then(*at), nil
}

// clocked notes a moment of a visit. set says what changes; nothing when the moment has been noted before.
func (s *Server) clocked(
	ctx context.Context,
	in *moment,
	set func(v store.Visit, at, today time.Time) (map[string]any, error),
) (*body[Visit], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	at := s.now()
	if in.Body.At != nil {
		at = *in.Body.At
		if now, err = s.toldLater(now, in.Body.At, "body.at"); err != nil {
			return nil, err
		}
	}
	var row store.Visit
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var today time.Time
		if row, today, err = casework.FindVisit(tx, in.ID, uuid.Nil, now); err != nil {
			return err
		}
		columns, err := set(row, at.UTC(), today)
		if err != nil || columns == nil {
			return err
		}
		if err := store.Change(tx, &store.Visit{}, in.ID, row.Version, columns); err != nil {
			return err
		}
		return tx.First(&row, "id = ?", in.ID).Error
	})
	return answer(visitOf(row)), err
}

// arrive answers POST /visits/{id}/arrive: note the arrival.
func (s *Server) arrive(ctx context.Context, in *moment) (*body[Visit], error) {
	return s.clocked(ctx, in, func(v store.Visit, at, today time.Time) (map[string]any, error) {
		if v.ArrivedAt != nil {
			return nil, nil // the first arrival stands
		}
		return map[string]any{"arrived_at": at, "started_on": today}, nil
	})
}

// leave answers POST /visits/{id}/leave: note the leaving and close the visit.
func (s *Server) leave(ctx context.Context, in *moment) (*body[Visit], error) {
	return s.clocked(ctx, in, func(v store.Visit, at, today time.Time) (map[string]any, error) {
		if v.ArrivedAt == nil {
			return nil, invalid("body.at", "nobody has arrived yet")
		}
		if at.Before(*v.ArrivedAt) {
			return nil, invalid("body.at", "is before the arrival")
		}
		return map[string]any{"left_at": at, "closed_on": today}, nil
	})
}

func givenOf(d store.Diagnosis) Given {
	return Given{d.ID, d.VisitID, d.ZoneID, d.Knowledge, d.Leading, d.Probability, d.GivenOn.Format(dateOnly)}
}

func sameSite(tx *gorm.DB, zone, site uuid.UUID) error {
	var z store.Zone
	if err := tx.First(&z, "id = ?", zone).Error; err != nil {
		return err
	}
	if z.SiteID != site {
		return invalid("zone_id", "is a zone of another site")
	}
	return nil
}

func visitDetail(tx *gorm.DB, id uuid.UUID) (out VisitDetail, err error) {
	var v store.Visit
	var site store.Site
	var client store.Client
	if err := tx.First(&v, "id = ?", id).Error; err != nil {
		return out, err
	}
	if err := tx.First(&site, "id = ?", v.SiteID).Error; err != nil {
		return out, err
	}
	if err := tx.First(&client, "id = ?", site.ClientID).Error; err != nil {
		return out, err
	}
	out = VisitDetail{Visit: visitOf(v), Site: siteOf(site), Given: []Given{}, Records: []Record{}, FollowUps: []Visit{}}
	out.Visit.SiteName, out.Visit.ClientName, out.Site.ClientName = site.Name, client.Name, client.Name
	var zones []store.Zone
	if err := tx.Where("site_id = ?", site.ID).Order("name").Find(&zones).Error; err != nil {
		return out, err
	}
	for _, z := range zones {
		out.Site.Zones = append(out.Site.Zones, zoneOf(z))
	}
	var given []store.Diagnosis
	if err := tx.Where("visit_id = ?", id).Order("recorded_at").Find(&given).Error; err != nil {
		return out, err
	}
	for _, g := range given {
		out.Given = append(out.Given, givenOf(g))
	}
	var records []store.TreatmentRecord
	if err := tx.Where("visit_id = ?", id).Order("seq").Find(&records).Error; err != nil {
		return out, err
	}
	if err := casework.WateredIn(tx, records); err != nil {
		return out, err
	}
	for _, r := range records {
		one := recordOf(r)
		one.clocks(r, casework.Location(site.Timezone))
		out.Records = append(out.Records, one)
	}
	var next []store.Visit
	if err := tx.Where("follows_id = ?", id).Order("due_on").Find(&next).Error; err != nil {
		return out, err
	}
	for _, n := range next {
		out.FollowUps = append(out.FollowUps, visitOf(n))
	}
	told, err := casework.CallsOf(tx, id)
	if err != nil {
		return out, err
	}
	out.Calls, err = callsOf(told)
	return out, err
}
