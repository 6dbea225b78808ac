package server

import (
	"context"
	"fmt"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/sky"
	"hodos/core/weather"
	"hodos/store"
)

// DayVisit is a visit with what the day's list shows of it.
type DayVisit struct {
	Visit     Visit   `json:"visit"`
	Address   string  `json:"address"`
	Latitude  float64 `json:"latitude"`
	Longitude float64 `json:"longitude"`
	Zones     int     `json:"zones"`
	Overdue   bool    `json:"overdue"`
	Order     int     `json:"order" doc:"a good order of driving for whoever goes; 0 for more than anybody drives in a day"`
	Arrive    string  `json:"arrive,omitempty" doc:"about when, HH:MM, where it is driven in this order"`
	Km        float64 `json:"km" doc:"the way from the one before"`
	Late      int     `json:"late" doc:"minutes after the last at which somebody expected it"`
}

// DaySky is one day of the forecast and what it lets be done.
type DaySky struct {
	Date    string       `json:"date" format:"date"`
	Station string       `json:"station"`
	TMin    float64      `json:"tmin_c"`
	TMax    float64      `json:"tmax_c"`
	Rain    float64      `json:"rain_mm"`
	Wind    float64      `json:"wind_ms"`
	Spray   string       `json:"spray" enum:"fit,wind,rain,heat,cold,unknown"`
	Hours   []SpraySpell `json:"hours" nullable:"false" doc:"stretches that may be fit to spray, where the hours are known"`
	ByHour  bool         `json:"by_hour"`
}

// Straying is a zone whose recovery is not on course.
type Straying struct {
	ZoneID   uuid.UUID `json:"zone_id"`
	SiteName string    `json:"site_name"`
	ZoneName string    `json:"zone_name"`
	Verdict  string    `json:"verdict"`
	Reason   string    `json:"reason"`
}

// Day is the day's page.
type Day struct {
	Today    string        `json:"today" format:"date"`
	Due      []DayVisit    `json:"due" nullable:"false"`
	Coming   []DayVisit    `json:"coming" nullable:"false" doc:"the seven days after"`
	Done     []DayVisit    `json:"done" nullable:"false" doc:"closed today"`
	Sky      []DaySky      `json:"sky" nullable:"false" doc:"today and the days ahead at the station that most visits share"`
	Straying []Straying    `json:"straying" nullable:"false"`
	Notices  []DayNotice   `json:"notices" nullable:"false" doc:"what the watch tells: new ones and those that stand"`
	Left     []NoticesLeft `json:"notices_left" nullable:"false"`
	Watch    *DayWatch     `json:"watch,omitempty"`
	Closed   []Closed      `json:"closed" nullable:"false" doc:"zones that people and pets are kept off"`
	Jobs     []Job         `json:"jobs" nullable:"false" doc:"booked for today or late, the costliest to wait for first"`
	// The totals count what the lists leave out.
	DueTotal    int64 `json:"due_total"`
	ComingTotal int64 `json:"coming_total"`
	DoneTotal   int64 `json:"done_total"`
}

type dayInput struct {
	Mine  bool   `query:"mine" doc:"only what the caller is to do"`
	From  string `query:"from" maxLength:"40" pattern:"^(-?[0-9.]{1,18},-?[0-9.]{1,18})?$" doc:"latitude,longitude where the round begins"`
	Leave string `query:"leave" pattern:"^(([01][0-9]|2[0-3]):[0-5][0-9])?$" doc:"when it begins, HH:MM; 08:00 when left out"`
}

// How many lines of each list a day shows: more than anybody drives in a day. What is beyond is counted.
const (
	mostDue      = 150
	mostComing   = 60
	mostDone     = 150
	mostStraying = 30
)

// getDay answers GET /day: what is due, what the weather allows, what has gone off course.
func (s *Server) getDay(ctx context.Context, in *dayInput) (*body[Day], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	out := Day{Today: today.Format(dateOnly), Due: []DayVisit{}, Coming: []DayVisit{}, Done: []DayVisit{}, Sky: []DaySky{},
		Straying: []Straying{}, Notices: []DayNotice{}, Left: []NoticesLeft{}, Closed: []Closed{},
		Jobs: []Job{}}
	var station *store.Station
	var measured []store.StationDay
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if out.Closed, err = closedNow(tx, today, s.now()); err != nil {
			return err
		}
		if out.Jobs, err = dueJobs(tx, today); err != nil {
			return err
		}
		if station, err = day(tx, today, *in, who(ctx).Person, &out); err != nil || station == nil {
			return err
		}
		return tx.Where("station_id = ? AND day = ?", station.ID, today).Find(&measured).Error
	}); err != nil {
		return nil, err
	}
	if station != nil {
		days := append(casework.DaysOf(measured), s.forecast(ctx, *station, today, 6)...)
		spells := sky.SprayHours(days, station.Latitude)
		for _, d := range days {
			out.Sky = append(out.Sky, skyOf(*station, d, spells))
		}
	}
	return answer(out), nil
}

// day reads the lists, and finds the station that most of today's visits lie under.
func day(tx *gorm.DB, today time.Time, in dayInput, person uuid.UUID, out *Day) (station *store.Station, err error) {
	if out.Notices, out.Left, err = notices(tx, today, "", "", listed); err != nil {
		return nil, err
	}
	if out.Watch, err = lastRun(tx, today); err != nil {
		return nil, err
	}
	only := func(q *gorm.DB) *gorm.DB {
		if in.Mine {
			return q.Where("v.person_id = ?", person)
		}
		return q
	}
	share := map[uuid.UUID]int{}
	for _, list := range []struct {
		into  *[]DayVisit
		total *int64
		most  int
		order string
		where string
		args  []any
	}{
		{&out.Due, &out.DueTotal, mostDue, "v.due_on DESC, v.id", "v.closed_on IS NULL AND v.due_on <= ?", []any{today}},
		{&out.Coming, &out.ComingTotal, mostComing, "v.due_on, v.id", "v.closed_on IS NULL AND v.due_on > ? AND v.due_on <= ?",
			[]any{today, today.AddDate(0, 0, 7)}},
		{&out.Done, &out.DoneTotal, mostDone, "v.id", "v.closed_on = ? AND v.started_on IS NOT NULL", []any{today}},
	} {
		if err := only(tx.Table("visits v").Where(list.where, list.args...)).Count(list.total).Error; err != nil {
			return nil, err
		}
		if *list.total == 0 {
			continue
		}
		var rows []dayRow
		if err := only(tx.Table("visits v").Select(dayColumns).Joins(dayJoins).Where(list.where, list.args...)).Order(list.order).
			Limit(list.most).Scan(&rows).Error; err != nil {
			return nil, err
		}
		for _, r := range rows {
			*list.into = append(*list.into, r.visit(today))
			if list.into == &out.Due && r.StationID != nil {
				share[*r.StationID]++
			}
		}
	}
	drive(out.Due, in.round())
	if station, err = busiest(tx, share); err != nil {
		return nil, err
	}
	return station, tx.Raw(`SELECT c.zone_id, s.name AS site_name, z.name AS zone_name, c.verdict, c.reason FROM (
			SELECT * FROM zone_courses WHERE verdict IN ('slow', 'off-course') AND judged_on > ? ORDER BY verdict, judged_on DESC, zone_id LIMIT ?) c
		JOIN zones z ON z.id = c.zone_id JOIN sites s ON s.id = z.site_id ORDER BY c.verdict, c.judged_on DESC, s.name`,
		today.AddDate(0, 0, -casework.Horizon), mostStraying).Scan(&out.Straying).Error
}

const (
	dayColumns = `v.*, s.name AS site_name, s.address, s.latitude, s.longitude, s.station_id, c.name AS client_name, p.name AS person_name,
		(SELECT count(*) FROM zones z WHERE z.site_id = s.id) AS zones`
	dayJoins = "JOIN sites s ON s.id = v.site_id JOIN clients c ON c.id = s.client_id LEFT JOIN people p ON p.id = v.person_id"
)

type dayRow struct {
	store.Visit
	SiteName, Address, ClientName string
	PersonName                    *string
	Latitude, Longitude           float64
	StationID                     *uuid.UUID
	Zones                         int
}

func (r dayRow) visit(today time.Time) DayVisit {
	d := DayVisit{Visit: visitOf(r.Visit), Address: r.Address, Latitude: r.Latitude, Longitude: r.Longitude, Zones: r.Zones,
		Overdue: r.ClosedOn == nil && r.DueOn.Before(today)}
	d.Visit.SiteName, d.Visit.ClientName = r.SiteName, r.ClientName
	if r.PersonName != nil {
		d.Visit.PersonName = *r.PersonName
	}
	return d
}

// busiest is the station under which most visits lie; without any, that of one of the firm's sites; nil where there is none.
func busiest(tx *gorm.DB, share map[uuid.UUID]int) (*store.Station, error) {
	var id uuid.UUID
	for st, n := range share {
		if n > share[id] || (n == share[id] && st.String() < id.String()) {
			id = st
		}
	}
	var rows []store.Station
	q := tx.Where("id = ?", id)
	if id == uuid.Nil {
		q = tx.Where("id = (SELECT station_id FROM sites WHERE station_id IS NOT NULL ORDER BY name COLLATE by_number, id LIMIT 1)")
	}
	if err := q.Find(&rows).Error; err != nil || len(rows) == 0 {
		return nil, err
	}
	return &rows[0], nil
}

// skyOf says whether a day is fit for spraying, by the hour where hours are known.
func skyOf(st store.Station, d weather.Day, spells []sky.Spell) DaySky {
	v := func(x *float64) float64 {
		if x == nil {
			return 0
		}
		return *x
	}
	name := st.Name
	if st.Simulated {
		name = fmt.Sprintf("%s (simulated)", name)
	}
	out := DaySky{Date: d.Date.Format(dateOnly), Station: name, TMin: v(d.TMin), TMax: v(d.TMax), Rain: math.Round(v(d.Rain)*10) / 10,
		Wind: v(d.Wind), Spray: "fit", Hours: []SpraySpell{}, ByHour: d.Hours != nil}
	for _, p := range spells {
		if p.Date.Equal(d.Date) {
			out.Hours = append(out.Hours, SpraySpell{out.Date, p.From, p.To})
		}
	}
	out.Spray = string(sky.SprayDay(d))
	if out.ByHour { // the hours know better than the day's means
		switch {
		case len(out.Hours) > 0:
			out.Spray = "fit"
		case out.Spray == "fit":
			out.Spray = "wind"
		}
	}
	return out
}
