package server

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"hash"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/core/diagnosis"
	"hodos/core/units"
	"hodos/core/watch"
	"hodos/core/weather"
	"hodos/store"
)

// Watcher looks at the zones of all firms by night and writes down what is to be told of them (docs/decisions/0011).
type Watcher struct {
	Store   *store.Store
	Weather WeatherService   // nil: no forecast
	Now     func() time.Time // real time
}

// partSites is how many sites one part of a night takes at most: a second or two of work.
const partSites = 50

// Part is one piece of a night: a firm's sites at one station, from one key to another.
type Part struct {
	Round   string     `json:"round"`
	Run     uuid.UUID  `json:"run"`
	Firm    uuid.UUID  `json:"firm"`
	Station *uuid.UUID `json:"station,omitempty"`
	First   uuid.UUID  `json:"first"`
	Last    uuid.UUID  `json:"last"`
	Sites   int        `json:"sites"`
	Day     string     `json:"day"`
}

// Plan cuts a night into parts and opens a run for each firm. only limits it to one firm.
func (w Watcher) Plan(ctx context.Context, tx *gorm.DB, day time.Time, round string, only *uuid.UUID) ([]Part, error) {
	var rows []struct {
		FirmID      uuid.UUID
		StationID   *uuid.UUID
		First, Last uuid.UUID
		Sites       int
	}
	if err := tx.WithContext(ctx).Raw("SELECT * FROM watch_parts(?)", partSites).Scan(&rows).Error; err != nil {
		return nil, err
	}
	runs := map[uuid.UUID]*store.WatchRun{}
	var order []*store.WatchRun
	var parts []Part
	for _, r := range rows {
		if only != nil && r.FirmID != *only {
			continue
		}
		run, ok := runs[r.FirmID]
		if !ok {
			id, err := uuid.NewV7()
			if err != nil {
				return nil, err
			}
			run = &store.WatchRun{ID: id, FirmID: r.FirmID, Day: day, StartedAt: w.Now().UTC()}
			runs[r.FirmID] = run
			order = append(order, run)
		}
		run.Sites += r.Sites
		run.Parts++
		parts = append(parts, Part{round, run.ID, r.FirmID, r.StationID, r.First, r.Last, r.Sites, day.Format(dateOnly)})
	}
	for _, run := range order {
		if err := tx.Exec("SELECT set_config('app.firm', ?, true)", run.FirmID.String()).Error; err != nil {
			return nil, err
		}
		if err := tx.Create(run).Error; err != nil {
			return nil, err
		}
	}
	return parts, tx.Exec("SELECT set_config('app.firm', '', true)").Error
}

// Part looks at the sites of one part and writes what it saw, all in one transaction; with is called last in it, so that a
// job is done in the same moment as its work, or not at all.
func (w Watcher) Part(ctx context.Context, p Part, with func(tx *gorm.DB) error) error {
	day, err := time.Parse(dateOnly, p.Day)
	if err != nil {
		return fmt.Errorf("day %q: %w", p.Day, err)
	}
	answer, err := w.ask(ctx, p.Station, day)
	if err != nil {
		return err
	}
	return w.Store.InFirm(ctx, p.Firm, func(tx *gorm.DB) error {
		sum, err := w.part(tx, p, day, answer)
		if err != nil {
			return err
		}
		done := tx.Exec(`UPDATE watch_runs SET sites_done = sites_done + ?, parts_done = parts_done + 1, zones = zones + ?, unchanged = unchanged + ?, told = told + ?, ended = ended + ?,
			finished_at = CASE WHEN parts_done + 1 = parts THEN ?::timestamptz END WHERE id = ?`, p.Sites, sum.zones, sum.unchanged, sum.told, sum.ended, w.Now().UTC(), p.Run)
		if done.Error != nil || with == nil {
			return done.Error
		}
		return with(tx)
	})
}

type tally struct{ zones, unchanged, told, ended int }

func (w Watcher) part(tx *gorm.DB, p Part, day time.Time, answer serviceAnswer) (tally, error) {
	var sum tally
	var sites []store.Site
	if err := tx.Where("station_id IS NOT DISTINCT FROM ? AND id BETWEEN ? AND ?", p.Station, p.First, p.Last).Order("id").Find(&sites).Error; err != nil {
		return sum, err
	}
	if len(sites) == 0 {
		return sum, nil
	}
	keys := make([]uuid.UUID, len(sites))
	for i, s := range sites {
		keys[i] = s.ID
	}
	var zones []store.Zone
	if err := tx.Where("site_id IN ?", keys).Order("id").Find(&zones).Error; err != nil {
		return sum, err
	}
	if len(answer.days) > 0 {
		if err := tx.Clauses(newer).CreateInBatches(StationDays(*p.Station, answer.days), 500).Error; err != nil {
			return sum, err
		}
	}
	marks, err := lockZones(tx, zones, day)
	if err != nil {
		return sum, err
	}
	at, err := stationAt(tx, p.Station, answer.forecast, day)
	if err != nil {
		return sum, err
	}
	all, err := zonesOn(tx, sites, zones, at, day)
	if err != nil {
		return sum, err
	}
	var standing []store.WatchNotice
	if err := tx.Where("zone_id IN ? AND ended_on IS NULL", zoneKeys(zones)).Order("id").Find(&standing).Error; err != nil {
		return sum, err
	}
	of := map[uuid.UUID][]store.WatchNotice{}
	for _, n := range standing {
		of[n.ZoneID] = append(of[n.ZoneID], n)
	}
	var firm store.Firm
	if err := tx.First(&firm, "id = ?", p.Firm).Error; err != nil {
		return sum, err
	}
	for i := range all {
		z := &all[i]
		sum.zones++
		m := marks[z.zone.ID]
		if bytes.Equal(m.MadeFrom, z.madeFrom) {
			sum.unchanged++
			continue
		}
		if len(m.MadeFrom) > 0 && m.Day.UTC().After(day) {
			sum.unchanged++ // somebody has looked at a later day already
			continue
		}
		if err := z.weather(); err != nil {
			return sum, err
		}
		now := watch.Look(watch.Zone{Case: z.c, Had: z.had}, units.In(firm.UnitSystem))
		told, ended, err := write(tx, z.zone, of[z.zone.ID], now, day)
		if err != nil {
			return sum, err
		}
		sum.told, sum.ended = sum.told+told, sum.ended+ended
		if err := tx.Model(&store.WatchZone{}).Where("zone_id = ?", z.zone.ID).Updates(map[string]any{"day": day, "made_from": z.madeFrom}).Error; err != nil {
			return sum, err
		}
	}
	return sum, nil
}

func zoneKeys(zones []store.Zone) []uuid.UUID {
	out := make([]uuid.UUID, len(zones))
	for i, z := range zones {
		out[i] = z.ID
	}
	return out
}

// lockZones makes the rows of the zones where they are missing and holds them until the transaction ends, in one order, so
// that two runs over the same zones follow each other.
func lockZones(tx *gorm.DB, zones []store.Zone, day time.Time) (map[uuid.UUID]store.WatchZone, error) {
	out := map[uuid.UUID]store.WatchZone{}
	if len(zones) == 0 {
		return out, nil
	}
	rows := make([]store.WatchZone, len(zones))
	for i, z := range zones {
		rows[i] = store.WatchZone{ZoneID: z.ID, FirmID: z.FirmID, Day: day, MadeFrom: []byte{}}
	}
	if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&rows).Error; err != nil {
		return nil, err
	}
	rows = nil
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("zone_id IN ?", zoneKeys(zones)).Order("zone_id").Find(&rows).Error; err != nil {
		return nil, err
	}
	for _, r := range rows {
		out[r.ZoneID] = r
	}
	return out, nil
}

// write brings the notices of a zone up to the day: new ones are told, standing ones are seen again, others end.
func write(tx *gorm.DB, z store.Zone, rows []store.WatchNotice, now []watch.Notice, day time.Time) (told, ended int, err error) {
	standing := make([]watch.Standing, len(rows))
	for i, r := range rows {
		standing[i] = watch.Standing{Kind: r.Kind, Subject: r.Subject, Level: r.Level, Seen: r.SeenOn.UTC()}
	}
	steps := watch.Follow(standing, now, day)
	row := func(s watch.Step) *store.WatchNotice {
		for i := range standing {
			if s.Was == &standing[i] {
				return &rows[i]
			}
		}
		return nil
	}
	for _, s := range steps { // what ends goes first, so that the same thing can stand anew
		if s.Ended {
			ended++
			if err := tx.Model(&store.WatchNotice{}).Where("id = ?", row(s).ID).Update("ended_on", day).Error; err != nil {
				return told, ended, err
			}
		}
	}
	for _, s := range steps {
		if s.Ended {
			continue
		}
		var comes *time.Time
		if !s.On.IsZero() {
			comes = &s.On
		}
		old := row(s)
		if old == nil {
			id, err := uuid.NewV7()
			if err != nil {
				return told, ended, err
			}
			told++
			n := store.WatchNotice{ID: id, FirmID: z.FirmID, ZoneID: z.ID, Kind: s.Kind, Subject: s.Subject, Level: s.Level, Since: s.Since, ComesOn: comes, Ahead: s.Ahead, Detail: s.Detail, ToldOn: day, SeenOn: day}
			if err := tx.Create(&n).Error; err != nil {
				return told, ended, err
			}
			continue
		}
		change := map[string]any{"level": s.Level, "comes_on": comes, "ahead": s.Ahead, "detail": s.Detail, "seen_on": day}
		if s.Since.Before(old.Since) || old.Ahead {
			change["since"] = s.Since
		}
		if s.New { // more urgent than before: told again, whoever had noted it
			told++
			change["told_on"], change["noted_on"], change["noted_by"] = day, nil, nil
		}
		if err := tx.Model(&store.WatchNotice{}).Where("id = ?", old.ID).Updates(change).Error; err != nil {
			return told, ended, err
		}
	}
	return told, ended, nil
}

// Night plans a night and works all of it here and now, part by part: for the demo's first days and for tests.
func (w Watcher) Night(ctx context.Context, day time.Time) error {
	var parts []Part
	err := w.Store.Shared(ctx).Transaction(func(tx *gorm.DB) (err error) {
		parts, err = w.Plan(ctx, tx, day, "", nil)
		return err
	})
	if err != nil {
		return err
	}
	for _, p := range parts {
		if err := w.Part(ctx, p, nil); err != nil {
			return err
		}
	}
	return nil
}

// stationSky is the weather of a station with its forecast. The days are read when they are first asked for: the sum tells
// without them whether anything has changed.
type stationSky struct {
	station  *store.Station
	forecast []weather.Day
	newest   time.Time // day that the station has; zero for none
	sum      []byte
	read     func() ([]weather.Day, error)
}

// stationAt stands for the weather of a station and what is forecast for it, for all the sites that share it.
func stationAt(tx *gorm.DB, id *uuid.UUID, forecast []weather.Day, day time.Time) (stationSky, error) {
	out := stationSky{forecast: forecast, read: func() ([]weather.Day, error) { return nil, nil }}
	h := sha256.New()
	if id != nil {
		out.station = &store.Station{}
		if err := tx.First(out.station, "id = ?", *id).Error; err != nil {
			return out, err
		}
		var newest struct{ Day *time.Time }
		if err := tx.Raw("SELECT max(day) AS day FROM station_days WHERE station_id = ? AND day <= ?", *id, day).Scan(&newest).Error; err != nil {
			return out, err
		}
		if newest.Day != nil {
			out.newest = newest.Day.UTC()
		}
		var days []weather.Day
		out.read = func() ([]weather.Day, error) {
			if days != nil {
				return days, nil
			}
			var rows []store.StationDay
			err := tx.Where("station_id = ? AND day > ? AND day <= ?", *id, day.AddDate(0, 0, -weatherDays), day).Order("day").Find(&rows).Error
			days = weatherOf(rows)
			return days, err
		}
		_, _ = fmt.Fprintf(h, "%s %d", out.station.ID, out.station.Revision)
	}
	sumDays(h, out.forecast)
	out.sum = h.Sum(nil)
	return out, nil
}

// serviceAnswer is what the weather service says of a station on a day.
type serviceAnswer struct{ days, forecast []weather.Day }

// ask asks the weather service, before any transaction is open: what it has since the station's newest day, the last two days
// again, because they are often corrected, and the forecast.
func (w Watcher) ask(ctx context.Context, id *uuid.UUID, day time.Time) (out serviceAnswer, err error) {
	if id == nil || w.Weather == nil {
		return out, nil
	}
	tx := w.Store.Shared(ctx)
	var station store.Station
	if err := tx.First(&station, "id = ?", *id).Error; err != nil {
		return out, err
	}
	var newest struct{ Day *time.Time }
	if err := tx.Raw("SELECT max(day) AS day FROM station_days WHERE station_id = ? AND day <= ?", *id, day).Scan(&newest).Error; err != nil {
		return out, err
	}
	from := day.AddDate(0, 0, 1-weatherDays)
	if newest.Day != nil && newest.Day.After(from) {
		from = newest.Day.UTC().AddDate(0, 0, -1)
	}
	if out.days, err = w.Weather.Days(ctx, station, from, day); err != nil {
		return out, fmt.Errorf("weather of %s: %w", station.Name, err)
	}
	if out.forecast, err = w.Weather.Forecast(ctx, station, day, forecastDays); err != nil {
		return out, fmt.Errorf("forecast of %s: %w", station.Name, err)
	}
	return out, nil
}

// newer puts what a service says of a day in the place of what it said before, where it is not the same: days that say the
// same are not touched, so that the station counts as unchanged.
var newer = func() clause.OnConflict {
	columns := []string{"tmin_c", "tmax_c", "rain_mm", "rh_mean", "wind_ms", "snow_cm", "solar_mj_m2", "hours"}
	var was, is []string
	for _, c := range columns {
		was, is = append(was, "station_days."+c), append(is, "excluded."+c)
	}
	return clause.OnConflict{Columns: []clause.Column{{Name: "station_id"}, {Name: "day"}}, DoUpdates: clause.AssignmentColumns(columns),
		Where: clause.Where{Exprs: []clause.Expression{gorm.Expr("(" + strings.Join(was, ", ") + ") IS DISTINCT FROM (" + strings.Join(is, ", ") + ")")}}}
}()

// StationDays makes rows of a station's days.
func StationDays(station uuid.UUID, days []weather.Day) []store.StationDay {
	rows := make([]store.StationDay, 0, len(days))
	for _, d := range days {
		rows = append(rows, store.StationDay{StationID: station, Day: d.Date, TMin: d.TMin, TMax: d.TMax, Rain: d.Rain, RH: d.RH, Wind: d.Wind, Snow: d.Snow, Solar: d.Solar, Hours: FloatsOf(d.Hours)})
	}
	return rows
}

// sumDays adds every figure of some days to a sum.
func sumDays(h hash.Hash, days []weather.Day) {
	b := make([]byte, 0, 1024)
	put := func(x float64) { b = binary.LittleEndian.AppendUint64(b, math.Float64bits(x)) }
	for _, d := range days {
		b = binary.LittleEndian.AppendUint64(b[:0], uint64(d.Date.Unix()))
		for _, x := range []*float64{d.TMin, d.TMax, d.Rain, d.RH, d.Wind, d.Solar, d.Irrigation, d.Snow} {
			if x == nil {
				b = append(b, 0)
				continue
			}
			b = append(b, 1)
			put(*x)
		}
		if d.Hours != nil {
			for _, a := range []*[24]float64{&d.Hours.Temp, &d.Hours.RH, &d.Hours.Rain, &d.Hours.Wind, &d.Hours.Solar} {
				for _, x := range a {
					put(x)
				}
			}
		}
		_, _ = h.Write(b)
	}
}

// zoneNow is a zone as it stands on a day without a visit: its case, what it has had, and the sum of everything that it
// was made from.
type zoneNow struct {
	zone     store.Zone
	site     store.Site
	c        diagnosis.Case
	had      map[string]bool
	madeFrom []byte
	own      []store.SiteDay
	water    givenWater
	at       stationSky
}

// weather puts the days onto the case: the station's under what was measured on site, with the water that was given.
func (z *zoneNow) weather() error {
	days, err := z.at.read()
	z.c.Weather = onSite(append([]weather.Day(nil), days...), z.own)
	z.c.Forecast = append([]weather.Day(nil), z.at.forecast...)
	z.water.onto(z.c.Weather)
	return err
}

// lasting are the checks whose last answer still holds when nobody is on the lawn; readings are those that tell of their own day.
var (
	lasting  = []string{"texture", "root-depth-mm", "irrigation-weekly-mm", "infiltration-mm-h", "mowing-height-mm", "catch-can-du", "catch-can-mm-h", "sun-hours", "water-drop-seconds", "penetration-kpa", "surface", "layering"}
	readings = []string{"soil-temp-c", "soil-temp-hour", "soil-moisture", "soil-moisture-vwc"}
)

// zonesOn puts together what is known of some zones on a day but for their weather, with six questions to the database however
// many they are. The zones belong to the sites, and the sites to one station.
func zonesOn(tx *gorm.DB, sites []store.Site, zones []store.Zone, at stationSky, day time.Time) ([]zoneNow, error) {
	keys := zoneKeys(zones)
	siteAt := map[uuid.UUID]store.Site{}
	siteKeys := make([]uuid.UUID, len(sites))
	for i, s := range sites {
		siteAt[s.ID], siteKeys[i] = s, s.ID
	}
	var own []store.SiteDay
	if err := tx.Where("site_id IN ? AND day > ? AND day <= ?", siteKeys, day.AddDate(0, 0, -weatherDays), day).Order("site_id, day").Find(&own).Error; err != nil {
		return nil, err
	}
	ownOf := map[uuid.UUID][]store.SiteDay{}
	for _, d := range own {
		ownOf[d.SiteID] = append(ownOf[d.SiteID], d)
	}
	water, err := waterOf(tx, keys, day)
	if err != nil {
		return nil, err
	}
	answers, err := groundOf(tx, keys, day)
	if err != nil {
		return nil, err
	}
	var former []struct {
		ZoneID  uuid.UUID
		Leading string `gorm:"column:leading_cause"`
	}
	if err := tx.Raw("SELECT DISTINCT zone_id, leading_cause FROM diagnoses WHERE zone_id IN ? AND given_on <= ? AND given_on > ? ORDER BY zone_id, leading_cause", keys, day, day.AddDate(0, 0, -historyDays)).Scan(&former).Error; err != nil {
		return nil, err
	}
	had := map[uuid.UUID][]string{}
	for _, d := range former {
		if d.Leading != diagnosis.Healthy {
			had[d.ZoneID] = append(had[d.ZoneID], d.Leading)
		}
	}
	sums := map[uuid.UUID][]byte{}
	for _, s := range sites {
		sums[s.ID] = at.sum
		if len(ownOf[s.ID]) > 0 {
			h := sha256.New()
			_, _ = h.Write(at.sum)
			sumDays(h, onSite(nil, ownOf[s.ID]))
			sums[s.ID] = h.Sum(nil)
		}
	}
	out := make([]zoneNow, 0, len(zones))
	for _, z := range zones {
		site := siteAt[z.SiteID]
		n := zoneNow{zone: z, site: site, c: zoneCase(z, site, day), had: map[string]bool{}, own: ownOf[site.ID], water: water[z.ID], at: at}
		n.c.Findings, n.c.Earlier = answers[z.ID].lasting, answers[z.ID].earlier
		if n.c.Findings == nil {
			n.c.Findings = map[string]diagnosis.Value{}
		}
		for _, t := range water[z.ID].records {
			n.c.Treatments = append(n.c.Treatments, diagnosis.Treatment{Date: t.AppliedOn.UTC(), Action: t.Action, WMM: t.WaterMM})
		}
		for _, cause := range had[z.ID] {
			n.had[cause] = true
		}
		newest := at.newest
		if own := ownOf[site.ID]; len(own) > 0 && own[len(own)-1].Day.After(newest) {
			newest = own[len(own)-1].Day.UTC()
		}
		if n.madeFrom, err = sumOf(sums[site.ID], n, water[z.ID], day.Sub(newest) > watch.SilentAfter*24*time.Hour); err != nil {
			return nil, err
		}
		out = append(out, n)
	}
	return out, nil
}

// sumOf sums up everything that a look at a zone is made from. The day is not part of it: without anything new nothing new is
// seen, but for the silence itself.
func sumOf(sky []byte, n zoneNow, water givenWater, silent bool) ([]byte, error) {
	h := sha256.New()
	_, _ = h.Write(sky)
	plain := map[string]any{}
	for id, v := range n.c.Findings {
		plain[id] = v.Plain()
	}
	err := json.NewEncoder(h).Encode(map[string]any{
		"knowledge": diagnosis.Knowledge, "zone": n.zone, "latitude": n.site.Latitude, "findings": plain, "earlier": n.c.Earlier, "had": n.had,
		"silent": silent, "given": water.given, "since": water.since, "treatments": n.c.Treatments,
	})
	return h.Sum(nil), err
}

// givenWater is the water that a zone was given, with the treatments that matter to it.
type givenWater struct {
	given   map[string]float64 // by day, mm
	since   *time.Time         // from when on a log is kept: a day that is not in it had nothing
	records []store.TreatmentRecord
}

// onto puts the water onto the days.
func (g givenWater) onto(days []weather.Day) {
	for i := range days {
		if g.since != nil && !days[i].Date.Before(g.since.UTC()) {
			days[i].Irrigation = new(float64)
		}
		if mm, ok := g.given[days[i].Date.Format(dateOnly)]; ok {
			days[i].Irrigation = &mm
		}
	}
}

// waterOf reads what zones were given up to a day: by the log of waterings and by the treatments on record.
func waterOf(tx *gorm.DB, zones []uuid.UUID, day time.Time) (map[uuid.UUID]givenWater, error) {
	from := day.AddDate(0, 0, -weatherDays)
	var log []store.ZoneWatering
	if err := tx.Where("zone_id IN ? AND day <= ?", zones, day).Order("zone_id, day").Find(&log).Error; err != nil {
		return nil, err
	}
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id IN ? AND applied_on > ? AND applied_on <= ?", zones, from, day).Order("zone_id, applied_on, seq").Find(&records).Error; err != nil {
		return nil, err
	}
	out := map[uuid.UUID]givenWater{}
	of := func(zone uuid.UUID) givenWater {
		g, ok := out[zone]
		if !ok {
			g.given = map[string]float64{}
		}
		return g
	}
	for _, x := range log {
		g := of(x.ZoneID)
		if g.since == nil {
			first := x.Day
			g.since = &first
		}
		g.given[x.Day.Format(dateOnly)] += x.MM
		out[x.ZoneID] = g
	}
	for _, r := range store.Standing(records) {
		g := of(r.ZoneID)
		g.records = append(g.records, r)
		if r.WaterMM != nil && *r.WaterMM > 0 {
			g.given[r.AppliedOn.Format(dateOnly)] += *r.WaterMM
		}
		out[r.ZoneID] = g
	}
	return out, nil
}

// groundNow is what former visits and readings say of a zone.
type groundNow struct {
	lasting map[string]diagnosis.Value
	earlier []diagnosis.Earlier
}

// groundOf reads it for some zones.
func groundOf(tx *gorm.DB, zones []uuid.UUID, day time.Time) (map[uuid.UUID]groundNow, error) {
	var rows []struct {
		ZoneID, VisitID uuid.UUID
		Finding         string
		Value           store.JSON
		StartedOn       time.Time
	}
	if err := tx.Raw(`SELECT a.zone_id, a.visit_id, a.finding, a.value, v.started_on FROM answers a JOIN visits v ON v.id = a.visit_id
		WHERE a.zone_id IN ? AND a.spot = 'worst' AND a.finding IN ? AND v.started_on > ? AND v.started_on <= ? ORDER BY v.started_on, a.seq`,
		zones, slices.Concat(lasting, readings), day.AddDate(0, 0, -weatherDays), day).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := map[uuid.UUID]groundNow{}
	for _, r := range rows {
		g, ok := out[r.ZoneID]
		if !ok {
			g.lasting = map[string]diagnosis.Value{}
		}
		if slices.Contains(lasting, r.Finding) {
			if v, ok := valueOf(r.Finding, r.Value); ok {
				g.lasting[r.Finding] = v
			}
		} else {
			g.at(r.StartedOn.UTC(), r.Finding, r.Value)
		}
		out[r.ZoneID] = g
	}
	var read []store.Reading
	if err := tx.Where("zone_id IN ? AND day > ? AND day <= ?", zones, day.AddDate(0, 0, -weatherDays), day).Order("zone_id, day, hour").Find(&read).Error; err != nil {
		return nil, err
	}
	for _, r := range read {
		g := out[r.ZoneID]
		g.earlier = addReading(g.earlier, r)
		out[r.ZoneID] = g
	}
	return out, nil
}

// at sets a finding of a day; a null takes it back.
func (g *groundNow) at(day time.Time, finding string, value store.JSON) {
	v, ok := valueOf(finding, value)
	for i := range g.earlier {
		if g.earlier[i].Date.Equal(day) {
			if ok {
				g.earlier[i].Findings[finding] = v
			} else {
				delete(g.earlier[i].Findings, finding)
			}
			return
		}
	}
	if ok {
		g.earlier = append(g.earlier, diagnosis.Earlier{Date: day, Findings: map[string]diagnosis.Value{finding: v}})
	}
}

// addReading puts a reading among what was found on former days; several of one day stand beside each other by their hour.
func addReading(earlier []diagnosis.Earlier, r store.Reading) []diagnosis.Earlier {
	f := map[string]diagnosis.Value{r.Finding: diagnosis.NumberValue(r.Value)}
	if r.Hour != nil && r.Finding == "soil-temp-c" {
		f["soil-temp-hour"] = diagnosis.NumberValue(*r.Hour)
	}
	return append(earlier, diagnosis.Earlier{Date: r.Day.UTC(), Findings: f})
}

func valueOf(finding string, value store.JSON) (diagnosis.Value, bool) {
	f, ok := diagnosis.FindingByID(finding)
	var plain any
	if !ok || value == nil || json.Unmarshal(value, &plain) != nil || plain == nil {
		return diagnosis.Value{}, false
	}
	v, err := diagnosis.ValueOf(f, plain)
	return v, err == nil
}
