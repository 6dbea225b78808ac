package server

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

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
	Order     int     `json:"order" doc:"a sensible order of driving within the day"`
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
}

func (s *Server) dayRoutes() {
	operation(s, http.MethodGet, "/day", "get-day", "What is due, what the weather allows, what has gone off course", "day", See,
		func(ctx context.Context, _ *struct{}) (*body[Day], error) {
			today, err := s.clock.Today(ctx)
			if err != nil {
				return nil, s.said(err)
			}
			out := Day{Today: today.Format(dateOnly), Due: []DayVisit{}, Coming: []DayVisit{}, Done: []DayVisit{}, Sky: []DaySky{},
				Straying: []Straying{}, Notices: []DayNotice{}, Left: []NoticesLeft{}}
			err = s.inFirm(ctx, func(tx *gorm.DB) error { return s.day(tx, today, &out) })
			return answer(out), err
		})
}

func (s *Server) day(tx *gorm.DB, today time.Time, out *Day) (err error) {
	if out.Notices, out.Left, err = notices(tx, today, "", "", listed); err != nil {
		return err
	}
	if out.Watch, err = lastRun(tx); err != nil {
		return err
	}
	var visits []store.Visit
	if err := tx.Where("(closed_on IS NULL AND due_on <= ?) OR closed_on = ?", today.AddDate(0, 0, 7),
		today).Order("due_on, id").Find(&visits).Error; err != nil {
		return err
	}
	var sites []store.Site
	var clients []store.Client
	var people []store.Person
	var zones []store.Zone
	for _, into := range []any{&sites, &clients, &people, &zones} {
		if err := tx.Find(into).Error; err != nil {
			return err
		}
	}
	siteAt, clientAt, personAt, zoneCount := map[uuid.UUID]store.Site{}, map[uuid.UUID]string{}, map[uuid.UUID]string{}, map[uuid.UUID]int{}
	for _, x := range sites {
		siteAt[x.ID] = x
	}
	for _, c := range clients {
		clientAt[c.ID] = c.Name
	}
	for _, p := range people {
		personAt[p.ID] = p.Name
	}
	for _, z := range zones {
		zoneCount[z.SiteID]++
	}
	share := map[uuid.UUID]int{}
	for _, v := range visits {
		x := siteAt[v.SiteID]
		d := DayVisit{Visit: visitOf(v), Address: x.Address, Latitude: x.Latitude, Longitude: x.Longitude, Zones: zoneCount[x.ID],
			Overdue: v.ClosedOn == nil && v.DueOn.Before(today)}
		d.Visit.SiteName, d.Visit.ClientName = x.Name, clientAt[x.ClientID]
		if v.PersonID != nil {
			d.Visit.PersonName = personAt[*v.PersonID]
		}
		switch {
		case v.ClosedOn != nil:
			out.Done = append(out.Done, d)
		case v.DueOn.After(today):
			out.Coming = append(out.Coming, d)
		default:
			out.Due = append(out.Due, d)
			if x.StationID != nil {
				share[*x.StationID]++
			}
		}
	}
	drive(out.Due)
	if len(share) == 0 {
		for _, x := range sites {
			if x.StationID != nil {
				share[*x.StationID]++
			}
		}
	}
	if err := s.sky(tx, share, today, out); err != nil {
		return err
	}
	var measured []uuid.UUID
	if err := tx.Model(&store.Look{}).Distinct("zone_id").Where("looked_on > ?", today.AddDate(0, 0, -horizon)).Pluck("zone_id",
		&measured).Error; err != nil {
		return err
	}
	for _, z := range zones {
		for _, id := range measured {
			if id != z.ID {
				continue
			}
			r, err := s.recoveryOf(tx, z.ID, today)
			if err != nil {
				return err
			}
			if r.Verdict == "off-course" || r.Verdict == "slow" {
				out.Straying = append(out.Straying, Straying{z.ID, siteAt[z.SiteID].Name, z.Name, r.Verdict, r.Reason})
			}
		}
	}
	return nil
}

// drive orders the visits by going from each to the nearest that is left, the northernmost first: short enough for a
// day's list, and the same every time.
func drive(list []DayVisit) {
	if len(list) == 0 {
		return
	}
	first := 0
	for i := range list {
		if list[i].Latitude > list[first].Latitude {
			first = i
		}
	}
	list[0], list[first] = list[first], list[0]
	list[0].Order = 1
	for i := 1; i < len(list); i++ {
		best, least := i, math.Inf(1)
		for j := i; j < len(list); j++ {
			dy, dx := list[j].Latitude-list[i-1].Latitude, (list[j].Longitude-list[i-1].Longitude)*math.Cos(list[j].Latitude*math.Pi/180)
			if d := dy*dy + dx*dx; d < least {
				best, least = j, d
			}
		}
		list[i], list[best] = list[best], list[i]
		list[i].Order = i + 1
	}
}

func (s *Server) sky(tx *gorm.DB, share map[uuid.UUID]int, today time.Time, out *Day) error {
	var id uuid.UUID
	for st, n := range share {
		if n > share[id] || (n == share[id] && st.String() < id.String()) {
			id = st
		}
	}
	if id == uuid.Nil {
		return nil
	}
	var station store.Station
	if err := tx.First(&station, "id = ?", id).Error; err != nil {
		return err
	}
	var rows []store.StationDay
	if err := tx.Where("station_id = ? AND day = ?", id, today).Find(&rows).Error; err != nil {
		return err
	}
	days := append(weatherOf(rows), s.forecast(tx.Statement.Context, station, today, 6)...)
	spells := sky.SprayHours(days, station.Latitude)
	for _, d := range days {
		out.Sky = append(out.Sky, skyOf(station, d, spells))
	}
	return nil
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
