package server

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/clearance"
	"hodos/core/dose"
	"hodos/core/remedy"
	"hodos/core/schedule"
	"hodos/core/weather"
	"hodos/store"
)

// Job is a piece of work with the span in which it may be done and the day it is booked on.
type Job struct {
	ID         uuid.UUID  `json:"id"`
	SiteID     uuid.UUID  `json:"site_id"`
	ZoneID     uuid.UUID  `json:"zone_id"`
	VisitID    *uuid.UUID `json:"visit_id,omitempty"`
	SiteName   string     `json:"site_name,omitempty"`
	ZoneName   string     `json:"zone_name,omitempty"`
	Action     string     `json:"action"`
	Label      string     `json:"label"`
	Product    string     `json:"product,omitempty"`
	ProductID  *uuid.UUID `json:"product_id,omitempty"`
	Target     string     `json:"target,omitempty"`
	FromOn     string     `json:"from_on" format:"date"`
	ToOn       string     `json:"to_on" format:"date" doc:"its window closes"`
	DueOn      string     `json:"due_on,omitempty" format:"date" doc:"left out where no day is open"`
	Fixed      bool       `json:"fixed" doc:"moved by hand: planning anew leaves it where it is"`
	Series     *uuid.UUID `json:"series,omitempty"`
	Step       int        `json:"step"`
	Reason     string     `json:"reason"`
	Moved      string     `json:"moved,omitempty" doc:"why it stands elsewhere than before"`
	State      string     `json:"state" enum:"proposed,booked,done,dropped"`
	RecordID   *uuid.UUID `json:"record_id,omitempty"`
	Amount     float64    `json:"amount,omitempty"`
	AmountUnit string     `json:"amount_unit,omitempty"`
	Minutes    float64    `json:"minutes"`
	Wait       float64    `json:"wait" doc:"what a day of waiting costs, in the firm's money"`
	Price      float64    `json:"price,omitempty"`
	Blocks     []Block    `json:"blocks,omitempty" doc:"why no day is open"`
	Version    int        `json:"version"`
}

// Block is a constraint that leaves a job no day.
type Block struct {
	Constraint string  `json:"constraint"`
	Text       string  `json:"text"`
	Days       int     `json:"days" doc:"of its span that it closes"`
	Without    *string `json:"without,omitempty" format:"date" doc:"the first day that would be open if it gave way"`
	Cost       float64 `json:"cost" doc:"what waiting for that day costs"`
	Firm       bool    `json:"firm" doc:"law, label or weather: nobody passes it"`
}

func jobOf(j store.Job) Job {
	d := casework.DoseOf(j)
	return Job{
		ID:         j.ID,
		SiteID:     j.SiteID,
		ZoneID:     j.ZoneID,
		VisitID:    j.VisitID,
		Action:     j.Action,
		Label:      remedy.Label(j.Action),
		ProductID:  j.ProductID,
		Target:     j.Target,
		FromOn:     j.FromOn.Format(dateOnly),
		ToOn:       j.ToOn.Format(dateOnly),
		DueOn:      j.DueOn.Format(dateOnly),
		Fixed:      j.Fixed,
		Series:     j.Series,
		Step:       j.Step,
		Reason:     j.Reason,
		Moved:      j.Moved,
		State:      j.State,
		RecordID:   j.RecordID,
		Amount:     d.Amount,
		AmountUnit: d.Unit,
		Minutes:    d.Minutes,
		Wait:       d.Wait,
		Price:      d.Price,
		Version:    j.Version,
	}
}

// placed writes a day found, or why there is none, onto a job.
func placed(j *Job, p schedule.Placed, today time.Time) {
	if p.Day >= 0 {
		j.DueOn = today.AddDate(0, 0, p.Day).Format(dateOnly)
		return
	}
	j.DueOn = ""
	for _, b := range p.Blocks {
		x := Block{Constraint: b.Constraint, Text: clearance.Words(b.Constraint), Days: b.Days, Cost: b.Cost, Firm: b.Firm}
		if b.Without >= 0 {
			d := today.AddDate(0, 0, b.Without).Format(dateOnly)
			x.Without = &d
		}
		j.Blocks = append(j.Blocks, x)
	}
}

// hoursAhead are the forecasts of the stations of some sites. They are asked for here, before any transaction is open: the weather service
// takes what time it takes. Without stations no hours are known, and none close a day.
func (s *Server) hoursAhead(ctx context.Context, today time.Time, sites string, args ...any) func(*uuid.UUID) []weather.Day {
	var ids []uuid.UUID
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		return tx.Raw("SELECT DISTINCT station_id FROM sites WHERE station_id IS NOT NULL AND id IN ("+sites+")", args...).Scan(&ids).Error
	})
	var stations []store.Station
	if err == nil && len(ids) > 0 {
		err = s.store.Shared(ctx).Find(&stations, "id IN ?", ids).Error
	}
	if err != nil {
		s.log.Warn("no hours ahead", "error", err)
	}
	ahead := map[uuid.UUID][]weather.Day{}
	for _, st := range stations {
		ahead[st.ID] = s.forecast(ctx, st, today, casework.ForecastDays)
	}
	return func(id *uuid.UUID) []weather.Day {
		if id == nil {
			return nil
		}
		return ahead[*id]
	}
}

// siteOfJob names the site of a job in hoursAhead.
const siteOfJob = "SELECT site_id FROM jobs WHERE id = ?"

// ZoneJobs are what a zone's plan asks for, with dates, and what is booked already.
type ZoneJobs struct {
	Proposed []Job `json:"proposed" nullable:"false"`
	Booked   []Job `json:"booked" nullable:"false"`
	// Schools are the questions on which practitioners disagree that concern this lawn.
	Schools []School `json:"schools" nullable:"false"`
	Events  []Event  `json:"events" nullable:"false" doc:"what the client has coming up"`
	Sums    []Sum    `json:"sums" nullable:"false" doc:"how much each line of the plan takes, as far as it is known"`
}

// Sum is how much an action takes: the calculation of the bench with what is known of the zone entered in it.
type Sum struct {
	Action      string                `json:"action"`
	Calculation string                `json:"calculation" doc:"of the bench"`
	Entries     map[string]BenchEntry `json:"entries" doc:"what is entered in it, in the fields' own units"`
	Missing     []string              `json:"missing" nullable:"false" doc:"fields that are still to be filled in; no figures then"`
	Lines       []BenchLine           `json:"lines" nullable:"false"`
	Working     []string              `json:"working" nullable:"false"`
	Warnings    []BenchWarning        `json:"warnings" nullable:"false"`
}

// sums are the amounts of what the plan wants done, now or later.
func (g *grounded) sums() []Sum {
	out := []Sum{}
	for i := range g.Plan.Lines {
		a := &g.Plan.Lines[i]
		if a.Verdict == remedy.Avoid {
			continue
		}
		p, ok := dose.PlannedFor(a.ID, g.known(a), g.say)
		if !ok {
			continue
		}
		r := benchResult(p.Result)
		x := Sum{a.ID, p.Calculation, map[string]BenchEntry{}, append([]string{}, p.Missing...), r.Lines, r.Working, r.Warnings}
		for id, e := range p.Entries {
			x.Entries[id] = BenchEntry(e)
		}
		out = append(out, x)
	}
	return out
}

// School is a question on which practitioners disagree.
type School struct {
	ID       string `json:"id"`
	Question string `json:"question"`
	A        string `json:"a"`
	B        string `json:"b"`
	Does     string `json:"does" doc:"what the plan does"`
	Side     string `json:"side" enum:",a,b" doc:"the side that this lawn is on"`
	Decides  string `json:"decides,omitempty" doc:"setting of the zone that decides it"`
}

// wanted are the jobs of a zone's plan with products and dates, beside those that are booked.
func (s *Server) wanted(ctx context.Context, visit, zone uuid.UUID) (rows []store.Job, out ZoneJobs, err error) {
	g, err := s.groundOn(ctx, visit, zone)
	if err != nil {
		return nil, out, err
	}
	today, hours := g.Visit.Date, s.hoursAhead(ctx, g.Visit.Date, "?", g.Site.ID)
	out = ZoneJobs{Proposed: []Job{}, Booked: []Job{}, Schools: []School{}, Events: []Event{}, Sums: g.sums()}
	for _, x := range g.Schools {
		out.Schools = append(out.Schools, School(x))
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		prices, _, err := casework.Prices(tx)
		if err != nil {
			return err
		}
		shelf, err := casework.Shelf(tx, nil)
		if err != nil {
			return err
		}
		var booked []store.Job
		if err := tx.Where("zone_id = ? AND state = 'booked'", zone).Order("due_on").Find(&booked).Error; err != nil {
			return err
		}
		if out.Events, err = eventsOf(tx, g.Site.ID, today); err != nil {
			return err
		}
		there := map[string]bool{}
		for _, b := range booked {
			there[b.Action] = true
		}
		for _, w := range g.Wanted(today, prices.LawnM2, who(ctx).Firm, &visit) {
			if !there[w.Action] {
				if err := g.stock(tx, &w, shelf); err != nil {
					return err
				}
				rows = append(rows, w)
			}
		}
		board, err := casework.ReadBoard(tx, append(slices.Clone(booked), rows...), g.Country, today, hours)
		if err != nil {
			return err
		}
		all := board.Arrange(func(j store.Job) bool { return there[j.Action] })
		for _, b := range booked {
			out.Booked = append(out.Booked, jobOf(b))
		}
		for i := range rows {
			j := jobOf(rows[i])
			j.State = "proposed"
			p := all[len(booked)+i]
			placed(&j, p, today)
			if p.Day >= 0 {
				rows[i].DueOn = today.AddDate(0, 0, p.Day)
			} else {
				rows[i].State = "dropped"
			}
			out.Proposed = append(out.Proposed, j)
		}
		return nil
	})
	return rows, out, named(ctx, s, &out, err)
}

// named puts names of products on jobs.
func named(ctx context.Context, s *Server, out *ZoneJobs, err error) error {
	if err != nil {
		return err
	}
	return s.inFirm(ctx, func(tx *gorm.DB) error {
		var products []store.Product
		if err := tx.Find(&products).Error; err != nil {
			return err
		}
		names := map[uuid.UUID]string{}
		for _, p := range products {
			names[p.ID] = p.Name
		}
		for _, list := range [][]Job{out.Proposed, out.Booked} {
			for i := range list {
				if list[i].ProductID != nil {
					list[i].Product = names[*list[i].ProductID]
				}
			}
		}
		return nil
	})
}

// stock picks the product of a job from the shelf, with its amount for the zone.
func (g *grounded) stock(tx *gorm.DB, j *store.Job, shelf []casework.OnShelf) error {
	if !remedy.TakesProduct(j.Action) {
		return nil
	}
	later := *g
	later.Hours = nil // today's weather does not choose for another day
	_, chosen, err := later.choices(tx, j.Action, "", 0, shelf, nil)
	if err != nil || chosen == nil {
		return err
	}
	ask, err := g.proposed(j.Action, chosen, "", 0)
	if err != nil {
		return err
	}
	d := casework.DoseOf(*j)
	d.Rate, d.AreaM2, d.Amount, d.Unit = ask.Rate, ask.AreaM2, ask.Rate*ask.AreaM2, strings.TrimSuffix(chosen.Label.Unit(), "/m2")
	d.N, d.P = chosen.Label.Element("n", ask.Rate), chosen.Label.Element("p", ask.Rate)
	if p := productOf(*chosen).Price; p != nil {
		d.Price = *p / 1000 * d.Amount
	}
	j.ProductID, j.Target = &chosen.Product.ID, ask.Target
	j.Amount, err = json.Marshal(d)
	return err
}

// zoneJobs answers GET /visits/{id}/zones/{zone}/jobs: the plan as jobs with dates.
func (s *Server) zoneJobs(ctx context.Context, in *ZonePath) (*body[ZoneJobs], error) {
	_, out, err := s.wanted(ctx, in.ID, in.Zone)
	return answer(out), err
}

type booking struct {
	ZonePath
	Body struct {
		Jobs []struct {
			ID     uuid.UUID `json:"id" doc:"made by the client: a repeated request books nothing twice"`
			Action string    `json:"action" maxLength:"60"`
			Step   int       `json:"step" minimum:"1" maximum:"60"`
		} `json:"jobs" minItems:"1" maxItems:"60" nullable:"false"`
	}
}

// bookJobs answers POST /visits/{id}/zones/{zone}/jobs: book jobs of the plan on the days that were found.
func (s *Server) bookJobs(ctx context.Context, in *booking) (*body[ZoneJobs], error) {
	rows, proposed, err := s.wanted(ctx, in.ID, in.Zone)
	if err != nil {
		return nil, err
	}
	var keep []store.Job
	for i, want := range in.Body.Jobs {
		if err := keyed(want.ID); err != nil {
			return nil, err
		}
		at := slices.IndexFunc(rows, func(j store.Job) bool { return j.Action == want.Action && j.Step == want.Step })
		if at < 0 {
			if slices.ContainsFunc(proposed.Booked, func(j Job) bool { return j.Action == want.Action && j.Step == want.Step }) {
				continue // it is booked already
			}
			return nil, invalid(fmt.Sprintf("body.jobs[%d].action", i), "is nothing that the plan asks for now")
		}
		if rows[at].State == "dropped" {
			why := ""
			if b := proposed.Proposed[at].Blocks; len(b) > 0 {
				why = ": " + b[0].Text
			}
			return nil, invalid(fmt.Sprintf("body.jobs[%d].action", i), "no day is open"+why)
		}
		j := rows[at]
		j.ID = want.ID
		keep = append(keep, j)
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		for i := range keep {
			if err := store.Create(tx, &keep[i], keep[i].ID); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	_, out, err := s.wanted(ctx, in.ID, in.Zone)
	return answer(out), err
}

// Calendar is the booked jobs of a span, the costliest to wait for first within a day.
type Calendar struct {
	Today string `json:"today" format:"date"`
	Jobs  []Job  `json:"jobs" nullable:"false"`
	More  bool   `json:"more" doc:"there are more than are told: narrow the span"`
}

type calendarIn struct {
	From   string    `query:"from" maxLength:"10" doc:"YYYY-MM-DD; what is late is told as well when left out"`
	To     string    `query:"to" maxLength:"10"`
	SiteID uuid.UUID `query:"site_id" format:"uuid"`
	Done   bool      `query:"done" doc:"what is done or dropped, too"`
}

// mostJobs is how many jobs one answer tells.
const mostJobs = 500

// calendarRows reads the jobs of a span with the names of site and zone.
func calendarRows(tx *gorm.DB, in *calendarIn, today time.Time) ([]Job, error) {
	from, to := today.AddDate(-1, 0, 0), today.AddDate(1, 1, 0)
	var err error
	if in.From != "" {
		if from, err = dateOf("query.from", in.From); err != nil {
			return nil, err
		}
	}
	if in.To != "" {
		if to, err = dateOf("query.to", in.To); err != nil {
			return nil, err
		}
	}
	var rows []struct {
		store.Job
		SiteName, ZoneName, Product string
	}
	q := tx.Table("jobs j").
		Select("j.*, s.name AS site_name, z.name AS zone_name, p.name AS product").
		Joins("JOIN sites s ON s.id = j.site_id").
		Joins("JOIN zones z ON z.id = j.zone_id").
		Joins("LEFT JOIN products p ON p.id = j.product_id").
		Where("j.due_on BETWEEN ? AND ?", from, to)
	if in.SiteID != uuid.Nil {
		q = q.Where("j.site_id = ?", in.SiteID)
	}
	if !in.Done {
		q = q.Where("j.state = 'booked'")
	}
	if err := q.Order("j.due_on, j.id").Limit(mostJobs + 1).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]Job, len(rows))
	for i, r := range rows {
		out[i] = jobOf(r.Job)
		out[i].SiteName, out[i].ZoneName, out[i].Product = r.SiteName, r.ZoneName, r.Product
	}
	slices.SortStableFunc(out, func(a, b Job) int {
		return cmp.Or(cmp.Compare(a.DueOn, b.DueOn), cmp.Compare(b.Wait, a.Wait), cmp.Compare(a.ToOn, b.ToOn))
	})
	return out, nil
}

// mostDueJobs is how many jobs a day tells.
const mostDueJobs = 60

// dueJobs are the jobs that are booked for a day or late.
func dueJobs(tx *gorm.DB, today time.Time) ([]Job, error) {
	rows, err := calendarRows(tx, &calendarIn{To: today.Format(dateOnly)}, today)
	slices.SortStableFunc(rows, func(a, b Job) int { return cmp.Or(cmp.Compare(b.Wait, a.Wait), cmp.Compare(a.ToOn, b.ToOn)) })
	return rows[:min(len(rows), mostDueJobs)], err
}

// listJobs answers GET /jobs: the calendar of the firm or of a site.
func (s *Server) listJobs(ctx context.Context, in *calendarIn) (*body[Calendar], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	out := Calendar{Today: today.Format(dateOnly), Jobs: []Job{}}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		rows, err := calendarRows(tx, in, today)
		if len(rows) > mostJobs {
			rows, out.More = rows[:mostJobs], true
		}
		out.Jobs = append(out.Jobs, rows...)
		return err
	})
	return answer(out), err
}

// Broken is what putting a job on another day breaks.
type Broken struct {
	Constraint string `json:"constraint"`
	Text       string `json:"text"`
	Firm       bool   `json:"firm"`
}

// siteBoard is the board of a site's booked jobs.
func (s *Server) siteBoard(
	ctx context.Context,
	tx *gorm.DB,
	job uuid.UUID,
	today time.Time,
	hours func(*uuid.UUID) []weather.Day,
) (*casework.Board, store.Job, error) {
	var j store.Job
	if err := tx.First(&j, "id = ?", job).Error; err != nil {
		return nil, j, err
	}
	var list []store.Job
	if err := tx.Where("zone_id = ? AND state = 'booked'", j.ZoneID).Order("due_on, id").Find(&list).Error; err != nil {
		return nil, j, err
	}
	b, err := casework.ReadBoard(tx, list, who(ctx).Country, today, hours)
	return b, j, err
}

// moving says what a day breaks for a job.
func moving(b *casework.Board, j store.Job, day time.Time) []Broken {
	out := []Broken{}
	for _, m := range b.Moving(j, day) {
		out = append(out, Broken{m.Constraint, clearance.Words(m.Constraint), m.Firm})
	}
	return out
}

// tryMove answers GET /jobs/{id}/move: what putting a job on another day would break.
func (s *Server) tryMove(ctx context.Context, in *struct {
	IDPath
	Day string `query:"day" maxLength:"10" required:"true"`
}) (*body[[]Broken], error) {
	day, err := dateOf("query.day", in.Day)
	if err != nil {
		return nil, err
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var out []Broken
	hours := s.hoursAhead(ctx, today, siteOfJob, in.ID)
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		b, j, err := s.siteBoard(ctx, tx, in.ID, today, hours)
		if err == nil {
			out = moving(b, j, day)
		}
		return err
	})
	return answer(out), err
}

type jobChange struct {
	IDPath
	Body struct {
		DueOn   string `json:"due_on,omitempty" maxLength:"10"`
		State   string `json:"state,omitempty" enum:",booked,done,dropped"`
		Reason  string `json:"reason,omitempty" maxLength:"300" doc:"why it goes where agronomy or the plan would not have it"`
		Version int    `json:"version" minimum:"0" maximum:"2147483646"`
	}
}

// changeJob answers PUT /jobs/{id}: put a job on another day, drop it, or take it up again.
func (s *Server) changeJob(ctx context.Context, in *jobChange) (*body[Job], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	hours := s.hoursAhead(ctx, today, siteOfJob, in.ID)
	var out Job
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		columns := map[string]any{}
		if in.Body.State != "" {
			columns["state"] = in.Body.State
		}
		if in.Body.DueOn != "" {
			day, err := dateOf("body.due_on", in.Body.DueOn)
			if err != nil {
				return err
			}
			b, j, err := s.siteBoard(ctx, tx, in.ID, today, hours)
			if err != nil {
				return err
			}
			if err := passes(moving(b, j, day), in.Body.Reason); err != nil {
				return err
			}
			columns["due_on"], columns["fixed"], columns["moved"] = day, true, in.Body.Reason
			if day.Before(j.FromOn) {
				columns["from_on"] = day
			}
			if day.After(j.ToOn) {
				columns["to_on"] = day
			}
		}
		if err := store.Change(tx, &store.Job{}, in.ID, in.Body.Version, columns); err != nil {
			return err
		}
		var j store.Job
		err := tx.First(&j, "id = ?", in.ID).Error
		out = jobOf(j)
		return err
	})
	return answer(out), err
}

// passes refuses what nobody may pass, and asks for a reason for the rest.
func passes(broken []Broken, reason string) error {
	for _, b := range broken {
		if b.Firm {
			return invalid("body.due_on", "is closed by "+b.Text)
		}
	}
	if len(broken) > 0 && strings.TrimSpace(reason) == "" {
		return invalid("body.reason", "is required: it breaks "+broken[0].Text)
	}
	return nil
}

// Replanned is what planning anew has changed.
type Replanned struct {
	Jobs    int     `json:"jobs"`
	Moved   []Job   `json:"moved" nullable:"false" doc:"each with why it was moved"`
	Stuck   []Job   `json:"stuck" nullable:"false" doc:"without an open day, each with what closes it"`
	Seconds float64 `json:"seconds"`
}

// ReplanLine is one line of the answer to planning anew: how far it is, and at the end what came of it.
type ReplanLine struct {
	Step   string     `json:"step" enum:"days,dates,written" doc:"looking at days, finding dates, writing them down"`
	Done   int        `json:"done"`
	Of     int        `json:"of"`
	Error  string     `json:"error,omitempty" doc:"nothing was moved"`
	Result *Replanned `json:"result,omitempty" doc:"on the last line only"`
}

type replanning struct {
	Body struct {
		SiteID *uuid.UUID `json:"site_id,omitempty"`
	}
}

// replan answers POST /jobs/replan: find days anew for everything that is booked and not fixed, by weather, records and rules as they
// are now, and tell how far it is. The night does the same.
func (s *Server) replan(ctx context.Context, in *replanning) (*huma.StreamResponse, error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	sites, of := "SELECT site_id FROM jobs WHERE state = 'booked'", []any(nil)
	if one := in.Body.SiteID; one != nil {
		sites, of = "?", []any{*one}
	}
	hours := s.hoursAhead(ctx, today, sites, of...)
	return &huma.StreamResponse{Body: func(hc huma.Context) {
		hc.SetHeader("Content-Type", "application/x-ndjson")
		hc.SetHeader("X-Accel-Buffering", "no")
		ctx, gone := context.WithCancel(ctx)
		defer gone()
		tell, told := teller(hc.BodyWriter(), gone, func(l ReplanLine) bool { return l.Result != nil || l.Error != "" })
		out, err := s.replanned(ctx, in.Body.SiteID, today, hours, func(step string, done, of int) {
			tell(ReplanLine{Step: step, Done: done, Of: of})
		})
		if err != nil {
			tell(ReplanLine{Error: s.said(err).Error()})
		} else {
			tell(ReplanLine{Step: "written", Done: out.Jobs, Of: out.Jobs, Result: &out})
		}
		told()
	}}, nil
}

// mostReplanned is how many jobs are planned anew at a time.
const mostReplanned = 10_000

func (s *Server) replanned(ctx context.Context, site *uuid.UUID, today time.Time, hours func(*uuid.UUID) []weather.Day,
	tell casework.Telling,
) (Replanned, error) {
	began := time.Now()
	out := Replanned{Moved: []Job{}, Stuck: []Job{}}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		q := tx.Where("state = 'booked'")
		if site != nil {
			q = q.Where("site_id = ?", *site)
		}
		var list []store.Job
		if err := q.Order("due_on, id").Limit(mostReplanned).Find(&list).Error; err != nil {
			return err
		}
		out.Jobs = len(list)
		all, err := casework.Replan(tx, list, who(ctx).Country, today, hours, tell)
		for _, r := range all {
			told := jobOf(r.Job)
			if r.Placed.Day < 0 {
				placed(&told, r.Placed, today)
				out.Stuck = append(out.Stuck, told)
			} else {
				out.Moved = append(out.Moved, told)
			}
		}
		if err == nil {
			err = ctx.Err() // nobody is there any more to be told what moved
		}
		return err
	})
	out.Seconds = time.Since(began).Seconds()
	return out, err
}

// closeJob notes that a job is done by a record.
func closeJob(tx *gorm.DB, row *store.TreatmentRecord) error {
	var j store.Job
	if err := tx.First(&j, "id = ?", *row.JobID).Error; err != nil || j.ZoneID != row.ZoneID {
		return invalid("body.job_id", "is no job of this zone")
	}
	if j.State == "done" {
		return nil
	}
	return store.Change(tx, &store.Job{}, j.ID, j.Version, map[string]any{"state": "done", "record_id": row.ID})
}
