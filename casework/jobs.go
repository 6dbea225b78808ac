package casework

import (
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/clearance"
	"hodos/core/jobs"
	"hodos/core/remedy"
	"hodos/core/schedule"
	"hodos/core/weather"
	"hodos/store"
)

// PlanDays is how far ahead jobs are planned.
const PlanDays = 400

// planTries is how often a zone is torn out and put in anew, and planSeed what it is drawn by: the same jobs give the same dates.
const (
	planTries = 2000
	planSeed  = 20
)

// Board is the jobs of some zones with what closes their days.
type Board struct {
	Today  time.Time
	Jobs   []store.Job
	Lawns  map[uuid.UUID]clearance.Lawn
	Hours  map[uuid.UUID][]clearance.Hour // by zone
	Past   map[uuid.UUID][]clearance.Applied
	Rules  []clearance.Rule
	Shelf  map[uuid.UUID]*OnShelf
	Waits  map[uuid.UUID]float64 // what a day of waiting costs, by job
	Crew   func(day int) float64
	Events map[uuid.UUID][]time.Time // of the site, by zone
	Tell   Telling                   // how far planning is; nil for nobody
	closed map[uuid.UUID][]schedule.Closed
	byZone map[uuid.UUID][]store.Job
}

// Telling is told how far planning anew is: the step (days, dates, written), and how many jobs of all.
type Telling func(step string, done, of int)

func (t Telling) tell(step string, done, of int) {
	if t != nil {
		t(step, done, of)
	}
}

// Dose is what a job puts down, as it was proposed.
type Dose struct {
	Rate    float64 `json:"rate,omitempty"` // product, per m²
	Amount  float64 `json:"amount,omitempty"`
	Unit    string  `json:"unit,omitempty"`
	N       float64 `json:"n,omitempty"` // g/m²
	P       float64 `json:"p,omitempty"`
	AreaM2  float64 `json:"area_m2,omitempty"`
	Minutes float64 `json:"minutes,omitempty"`
	Wait    float64 `json:"wait,omitempty"`
	Price   float64 `json:"price,omitempty"`
}

// DoseOf reads what a job puts down.
func DoseOf(j store.Job) (d Dose) {
	_ = json.Unmarshal(j.Amount, &d) // written by the server alone
	return d
}

// NewBoard is a board of the jobs of one lawn, without a database.
func NewBoard(today time.Time, list []store.Job, l clearance.Lawn, past []clearance.Applied, rules []clearance.Rule) *Board {
	b := &Board{Today: today, Jobs: list, Lawns: map[uuid.UUID]clearance.Lawn{}, Past: map[uuid.UUID][]clearance.Applied{}, Rules: rules,
		Waits: map[uuid.UUID]float64{}, closed: map[uuid.UUID][]schedule.Closed{}, Crew: crew(today, UsualWork, 1, nil)}
	for _, j := range list {
		b.Lawns[j.ZoneID], b.Past[j.ZoneID], b.Waits[j.ID] = l, past, DoseOf(j).Wait
	}
	return b
}

// ReadBoard reads what the dates of jobs hang on: lawns, what was put down, rules, labels. hours gives the hours ahead of a station.
func ReadBoard(
	tx *gorm.DB,
	list []store.Job,
	country string,
	today time.Time,
	hours func(station *uuid.UUID) []weather.Day,
) (*Board, error) {
	b := &Board{
		Today:  today,
		Jobs:   list,
		Lawns:  map[uuid.UUID]clearance.Lawn{},
		Hours:  map[uuid.UUID][]clearance.Hour{},
		Past:   map[uuid.UUID][]clearance.Applied{},
		Shelf:  map[uuid.UUID]*OnShelf{},
		Waits:  map[uuid.UUID]float64{},
		closed: map[uuid.UUID][]schedule.Closed{}, Events: map[uuid.UUID][]time.Time{},
	}
	var zones, products []uuid.UUID
	for _, j := range list {
		if !slices.Contains(zones, j.ZoneID) {
			zones = append(zones, j.ZoneID)
		}
		if j.ProductID != nil && !slices.Contains(products, *j.ProductID) {
			products = append(products, *j.ProductID)
		}
		b.Waits[j.ID] = DoseOf(j).Wait
	}
	var rows []struct {
		store.Zone
		StationID      *uuid.UUID
		Latitude       float64
		Place          string
		LinesLocatedOn *time.Time
	}
	if err := tx.Raw(`SELECT z.*, s.station_id, s.latitude, s.place, s.lines_located_on FROM zones z
		JOIN sites s ON s.id = z.site_id WHERE z.id IN ?`,
		zones).
		Scan(&rows).
		Error; err != nil {
		return nil, err
	}
	stations := map[uuid.UUID][]clearance.Hour{}
	for _, z := range rows {
		l := clearance.Lawn{Place: z.Place, Latitude: z.Latitude, AreaM2: z.AreaM2, WaterM: z.WaterM, LocatedOn: z.LinesLocatedOn,
			NoPesticides: noPesticides(z.Zone)}
		if l.Place == "" {
			l.Place = country
		}
		_ = json.Unmarshal(z.Species, &l.Grasses) // written by the API alone, which has checked it
		b.Lawns[z.ID] = l
		if z.StationID != nil {
			if _, ok := stations[*z.StationID]; !ok {
				stations[*z.StationID] = hoursOf(hours(z.StationID))
			}
			b.Hours[z.ID] = stations[*z.StationID]
		}
	}
	return b, b.read(tx, zones, products)
}

func (b *Board) read(tx *gorm.DB, zones, products []uuid.UUID) (err error) {
	var hands int64
	if err := tx.Model(&store.Person{}).Where("active AND role IN ('technician', 'applicator')").Count(&hands).Error; err != nil {
		return err
	}
	others, err := b.others(tx)
	if err != nil {
		return err
	}
	var firm store.Firm
	if err := tx.First(&firm).Error; err != nil {
		return err
	}
	b.Crew = crew(b.Today, Work{firm.WorkHours, firm.WorkDays}, max(1, int(hands)), others)
	if b.Rules, err = Rules(tx); err != nil {
		return err
	}
	var events []struct {
		ZoneID uuid.UUID
		Day    time.Time
	}
	if err := tx.Raw(`SELECT z.id AS zone_id, e.day FROM site_events e JOIN zones z ON z.site_id = e.site_id
		WHERE z.id IN ? AND e.day >= ? AND e.ended_at IS NULL`, zones, b.Today).Scan(&events).Error; err != nil {
		return err
	}
	for _, e := range events {
		b.Events[e.ZoneID] = append(b.Events[e.ZoneID], e.Day)
	}
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id IN ? AND applied_on > ? AND applied_on <= ?", zones, b.Today.AddDate(-1, -1, 0),
		b.Today).Order("applied_on, seq").Find(&records).Error; err != nil {
		return err
	}
	for _, r := range store.Standing(records) {
		b.Past[r.ZoneID] = append(b.Past[r.ZoneID], appliedOf(r))
	}
	shelf, err := Shelf(tx, append(products, uuid.Nil))
	for i := range shelf {
		b.Shelf[shelf[i].Product.ID] = &shelf[i]
	}
	return err
}

// Work is when a crew works: hours of one person and day besides driving, and the days of the week as bits, Monday the lowest.
type Work struct {
	Hours float64
	Days  int
}

// UsualWork is what stands until a firm says otherwise: six hours, Monday to Saturday (judgement).
var UsualWork = Work{6, 0b0111111}

// On reports whether a day of the week is worked.
func (w Work) On(d time.Weekday) bool { return w.Days>>((int(d)+6)%7)&1 == 1 }

func crew(first time.Time, w Work, hands int, others map[int]float64) func(day int) float64 {
	return func(day int) float64 {
		if !w.On(first.AddDate(0, 0, day).Weekday()) {
			return 0
		}
		return max(0, w.Hours*60*float64(hands)-others[day])
	}
}

// others are the minutes of each day that booked jobs beside these take.
func (b *Board) others(tx *gorm.DB) (map[int]float64, error) {
	keys := make([]uuid.UUID, len(b.Jobs))
	for i, j := range b.Jobs {
		keys[i] = j.ID
	}
	var rows []struct {
		DueOn   time.Time
		Minutes float64
	}
	err := tx.Raw(`SELECT due_on, sum((amount->>'minutes')::float8) AS minutes FROM jobs WHERE state = 'booked' AND due_on BETWEEN ? AND ?
		AND NOT id = ANY (?) GROUP BY due_on`, b.Today, b.Today.AddDate(0, 0, PlanDays), pgKeys(keys)).Scan(&rows).Error
	out := map[int]float64{}
	for _, r := range rows {
		out[b.dayOf(r.DueOn)] = r.Minutes
	}
	return out, err
}

// pgKeys writes keys as an array of the database.
func pgKeys(keys []uuid.UUID) string {
	text := make([]string, len(keys))
	for i, k := range keys {
		text[i] = k.String()
	}
	return "{" + strings.Join(text, ",") + "}"
}

// dayOf counts days from the first of the plan.
func (b *Board) dayOf(t time.Time) int {
	return int(t.UTC().Truncate(24*time.Hour).Sub(b.Today.UTC().Truncate(24*time.Hour)).Hours() / 24)
}

// workHours are those in which work begins: from seven to six in the evening.
const firstHour, lastHour = 7, 18

// closing are the days of a job's span that something closes. A day of the forecast is closed by the weather when no hour of work is open.
func (b *Board) closing(j store.Job) []schedule.Closed {
	d := DoseOf(j)
	base := clearance.Job{
		Action:    j.Action,
		Water:     remedy.Waters(j.Action),
		Ground:    clearance.OpensGround(j.Action),
		Seeds:     clearance.Seeds(j.Action),
		Lawn:      b.Lawns[j.ZoneID],
		Target:    j.Target,
		Rate:      d.Rate,
		N:         d.N,
		P:         d.P,
		TreatedM2: d.AreaM2,
		Rules:     b.Rules,
		History:   b.Past[j.ZoneID],
		Posted:    true,
	}
	if j.ProductID != nil {
		if o := b.Shelf[*j.ProductID]; o != nil {
			base.Product, base.ProductKey = &o.Label, o.Product.ID.String()
			base.Use = o.Label.For(j.Action, j.Target, base.Lawn.Grasses)
		}
	}
	var out []schedule.Closed
	last := b.dayOf(j.ToOn)
	for day := max(0, b.dayOf(j.FromOn)); day <= min(last, PlanDays-1); day++ {
		base.At = b.Today.AddDate(0, 0, day).Add(9 * time.Hour)
		base.Hours, base.Ground = nil, clearance.OpensGround(j.Action) && day < locateTakes
		for _, s := range clearance.Check(base).Stops {
			out = close1(out, schedule.Closed{From: day, To: day, Constraint: s.ID, Firm: !s.Passable()})
		}
		for _, e := range b.Events[j.ZoneID] {
			if at := b.dayOf(e); day <= at && day > at-jobs.ClearBefore(j.Action) {
				out = close1(out, schedule.Closed{From: day, To: day, Constraint: "event"})
			}
		}
		if why := b.byWeather(base, j.ZoneID, day); why != "" {
			out = close1(out, schedule.Closed{From: day, To: day, Constraint: why, Firm: true})
		}
	}
	return out
}

// locateTakes is how many days it takes to have lines located: what is booked later is located before it (two working days are usual).
const locateTakes = 3

// close1 adds a day, to the run before where it goes on.
func close1(out []schedule.Closed, c schedule.Closed) []schedule.Closed {
	for i := range out {
		if out[i].Constraint == c.Constraint && out[i].To == c.From-1 {
			out[i].To = c.To
			return out
		}
	}
	return append(out, c)
}

// byWeather names what closes every hour of a day; "" where one is open or nothing is known.
func (b *Board) byWeather(base clearance.Job, zone uuid.UUID, day int) string {
	if base.Product == nil {
		return ""
	}
	hours := b.Hours[zone]
	at := b.Today.UTC().Truncate(24*time.Hour).AddDate(0, 0, day)
	why := ""
	for i, h := range hours {
		if h.At.Before(at.Add(firstHour*time.Hour)) || h.At.After(at.Add(lastHour*time.Hour)) {
			continue
		}
		base.At, base.Hours = h.At, hours[i:]
		shut := ""
		for _, s := range clearance.Check(base).Stops {
			if weatherStops[s.ID] {
				shut = s.ID
			}
		}
		if shut == "" {
			return ""
		}
		why = shut
	}
	return why
}

// weatherStops are the stops that another hour may lift.
var weatherStops = map[string]bool{"label-wind": true, "label-air": true, "label-rainfast": true, "law-rain": true, "law-wind": true}

// tellEvery is after how many jobs one is told how far planning is.
const tellEvery = 100

// Tasks are the jobs as the scheduler takes them. keep says which stay on their day.
func (b *Board) Tasks(keep func(store.Job) bool) []schedule.Job { return b.tasks(b.Jobs, keep) }

func (b *Board) tasks(list []store.Job, keep func(store.Job) bool) []schedule.Job {
	out := make([]schedule.Job, len(list))
	steps, zones := map[uuid.UUID]map[int]store.Job{}, map[uuid.UUID][]store.Job{}
	for _, j := range list {
		zones[j.ZoneID] = append(zones[j.ZoneID], j)
		if j.Series != nil {
			if steps[*j.Series] == nil {
				steps[*j.Series] = map[int]store.Job{}
			}
			steps[*j.Series][j.Step] = j
		}
	}
	for i, j := range list {
		if i%tellEvery == 0 {
			b.Tell.tell("days", i, len(list))
		}
		if _, ok := b.closed[j.ID]; !ok {
			b.closed[j.ID] = b.closing(j)
		}
		d := DoseOf(j)
		t := schedule.Job{ID: j.ID.String(), Zone: j.ZoneID.String(), Action: j.Action, Rank: remedy.Rank(j.Action), Minutes: d.Minutes,
			From: max(0, b.dayOf(j.FromOn)), To: b.dayOf(j.ToOn), Want: max(0, b.dayOf(j.FromOn)), Wait: b.Waits[j.ID], Closed: b.closed[j.ID]}
		if keep(j) {
			day := b.dayOf(j.DueOn)
			t.Fixed = &day
		}
		if j.Series != nil && j.Step > 1 {
			if before, ok := steps[*j.Series][j.Step-1]; ok {
				least := int(j.FromOn.Sub(before.FromOn).Hours() / 24)
				t.After = append(t.After, schedule.After{ID: before.ID.String(), Least: max(1, least)})
			}
		}
		for _, other := range zones[j.ZoneID] {
			if remedy.Precedes(other.Action, j.Action) {
				t.After = append(t.After, schedule.After{ID: other.ID.String(), Soft: true})
			}
		}
		out[i] = t
	}
	return out
}

// Options are how jobs are planned.
func (b *Board) Options() schedule.Options {
	return schedule.Options{
		Days:    PlanDays,
		Gap:     func(x, y string) int { d, _ := remedy.Gap(x, y); return d },
		Minutes: b.Crew,
		Tries:   planTries,
		Seed:    planSeed,
	}
}

// Arrange finds the dates.
func (b *Board) Arrange(keep func(store.Job) bool) []schedule.Placed {
	return schedule.Arrange(b.Tasks(keep), b.Options())
}

// Moving says what a day breaks for a job among those of its zone, which stand where they are.
func (b *Board) Moving(j store.Job, day time.Time) []schedule.Move {
	if b.byZone == nil {
		b.byZone = map[uuid.UUID][]store.Job{}
		for _, x := range b.Jobs {
			b.byZone[x.ZoneID] = append(b.byZone[x.ZoneID], x)
		}
	}
	tasks := b.tasks(b.byZone[j.ZoneID], func(x store.Job) bool { return x.ID != j.ID })
	return schedule.Moving(tasks, j.ID.String(), b.dayOf(day), b.Options())
}

// Replanned is a job that planning anew has moved, or that has no open day any more.
type Replanned struct {
	Job    store.Job
	Placed schedule.Placed
}

// missedDays is how long a job whose window has closed is looked for another day (judgement).
const missedDays = 14

// Replan finds days anew for booked jobs that are not fixed, writes those that move, and says of each why it moved.
func Replan(tx *gorm.DB, list []store.Job, country string, today time.Time, hours func(*uuid.UUID) []weather.Day,
	tell Telling,
) ([]Replanned, error) {
	if len(list) == 0 {
		return nil, nil
	}
	for i := range list { // a missed day goes on from today
		if list[i].ToOn.Before(today) {
			list[i].ToOn = today.AddDate(0, 0, missedDays)
		}
	}
	b, err := ReadBoard(tx, list, country, today, hours)
	if err != nil {
		return nil, err
	}
	b.Tell = tell
	tasks := b.Tasks(func(j store.Job) bool { return j.Fixed && !j.DueOn.Before(today) })
	b.Tell = nil
	tell.tell("dates", 0, len(list))
	var out []Replanned
	for i, p := range schedule.Arrange(tasks, b.Options()) {
		j := list[i]
		if i%tellEvery == 0 {
			tell.tell("written", i, len(list))
		}
		day := today.AddDate(0, 0, p.Day)
		if p.Day < 0 {
			if err := stuck(tx, &j, p); err != nil {
				return nil, err
			}
			out = append(out, Replanned{j, p})
			continue
		}
		if day.Equal(j.DueOn) {
			continue
		}
		j.Moved = "moved from " + j.DueOn.Format("2 Jan") + ": " + b.why(j)
		if err := store.Change(
			tx,
			&store.Job{},
			j.ID,
			j.Version,
			map[string]any{"due_on": day, "to_on": j.ToOn, "moved": j.Moved},
		); errors.Is(
			err,
			store.ErrChanged,
		) {
			continue // somebody has just put it elsewhere
		} else if err != nil {
			return nil, err
		}
		j.DueOn = day
		j.Version++
		out = append(out, Replanned{j, p})
	}
	return out, nil
}

// stuck notes on a job that it has no open day, and what closes them.
func stuck(tx *gorm.DB, j *store.Job, p schedule.Placed) error {
	why := "no day is open"
	if len(p.Blocks) > 0 {
		why += " because of " + clearance.Words(p.Blocks[0].Constraint)
	}
	if j.Moved == why {
		return nil
	}
	j.Moved = why
	err := store.Change(tx, &store.Job{}, j.ID, j.Version, map[string]any{"moved": why})
	if errors.Is(err, store.ErrChanged) {
		return nil
	}
	j.Version++
	return err
}

// why says what keeps a job from the day that it stood on.
func (b *Board) why(j store.Job) string {
	if j.DueOn.Before(b.Today) {
		return "the day was missed"
	}
	if broken := b.Moving(j, j.DueOn); len(broken) > 0 {
		return clearance.Words(broken[0].Constraint)
	}
	return "a better day is open"
}

// Wanted are the jobs that a plan asks for, as rows that are not booked yet.
func (g *Ground) Wanted(today time.Time, worth float64, firm uuid.UUID, visit *uuid.UUID) []store.Job {
	cool := true
	for _, l := range g.Lawn.Grasses {
		cool = isCool(l)
		break
	}
	month := today.Month()
	if g.Site.Latitude < 0 {
		month = (month+5)%12 + 1
	}
	lawn := jobs.Lawn{Today: today, AreaM2: g.Zone.AreaM2, Worth: worth, Cool: cool, Autumn: month >= time.August && month <= time.November}
	series := map[string]uuid.UUID{}
	var out []store.Job
	for _, j := range jobs.Of(g.Plan, lawn) {
		row := store.Job{
			ID:      uuid.Must(uuid.NewV7()),
			FirmID:  firm,
			SiteID:  g.Site.ID,
			ZoneID:  g.Zone.ID,
			VisitID: visit,
			Action:  j.Action,
			FromOn:  j.From,
			ToOn:    j.To,
			DueOn:   j.Want,
			Step:    j.Step,
			Reason:  j.Reason,
			State:   "booked",
			Version: 1,
		}
		if j.Steps > 1 {
			if _, ok := series[j.Action]; !ok {
				series[j.Action] = uuid.Must(uuid.NewV7())
			}
			s := series[j.Action]
			row.Series = &s
		}
		row.Amount, _ = json.Marshal(Dose{N: j.NGM2, AreaM2: g.Zone.AreaM2, Minutes: j.Minutes, Wait: j.Wait, Price: j.Price})
		out = append(out, row)
	}
	return out
}
