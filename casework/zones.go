package casework

import (
	"crypto/sha256"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/watch"
	"hodos/core/weather"
	"hodos/store"
)

// ZoneNow is a zone as it stands on a day without a visit: its case, what it has had, and the sum of everything that it
// was made from.
type ZoneNow struct {
	Zone     store.Zone
	Site     store.Site
	Case     evidence.Case
	Had      map[string]bool
	MadeFrom []byte
	own      []store.SiteDay
	water    givenWater
	at       StationSky
}

// Weather puts the days onto the case: the station's under what was measured on site, with the water that was given.
func (z *ZoneNow) Weather() error {
	days, err := z.at.read()
	z.Case.Weather = onSite(append([]weather.Day(nil), days...), z.own)
	z.Case.Forecast = append([]weather.Day(nil), z.at.Forecast...)
	z.Case.Lawn.Normals = z.at.Normals
	z.water.onto(z.Case.Weather)
	return err
}

// readings are the checks that tell of their own day.
var readings = []string{"soil-temp-c", "soil-temp-hour", "soil-moisture", "soil-moisture-vwc"}

// ZonesOn puts together what is known of some zones on a day but for their weather, with six questions to the database however
// many they are. The zones belong to the sites, and the sites to one station.
func ZonesOn(tx *gorm.DB, sites []store.Site, zones []store.Zone, at StationSky, day time.Time) ([]ZoneNow, error) {
	keys := ZoneKeys(zones)
	siteAt := map[uuid.UUID]store.Site{}
	siteKeys := make([]uuid.UUID, len(sites))
	for i, s := range sites {
		siteAt[s.ID], siteKeys[i] = s, s.ID
	}
	var own []store.SiteDay
	if err := tx.Where("site_id IN ? AND day > ? AND day <= ?", siteKeys, day.AddDate(0, 0, -WeatherDays),
		day).Order("site_id, day").Find(&own).Error; err != nil {
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
	answers, err := groundOf(tx, keys, uuid.Nil, day)
	if err != nil {
		return nil, err
	}
	if err := addReadings(tx, answers, keys, day); err != nil {
		return nil, err
	}
	had, err := causesOf(tx, keys, day)
	if err != nil {
		return nil, err
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
	out := make([]ZoneNow, 0, len(zones))
	for _, z := range zones {
		site := siteAt[z.SiteID]
		n := ZoneNow{Zone: z, Site: site, Case: zoneCase(z, site, day), Had: map[string]bool{}, own: ownOf[site.ID], water: water[z.ID], at: at}
		n.Case.Findings, n.Case.Earlier = answers[z.ID].lasting, answers[z.ID].earlier
		if n.Case.Findings == nil {
			n.Case.Findings = map[string]knowledge.Value{}
		}
		for _, t := range water[z.ID].records {
			n.Case.Treatments = append(n.Case.Treatments, evidence.Treatment{Date: t.AppliedOn.UTC(), Action: t.Action, WMM: t.WaterMM})
		}
		for _, cause := range had[z.ID] {
			n.Had[cause] = true
		}
		newest := at.newest
		if own := ownOf[site.ID]; len(own) > 0 && own[len(own)-1].Day.After(newest) {
			newest = own[len(own)-1].Day.UTC()
		}
		if n.MadeFrom, err = sumOf(sums[site.ID], n, water[z.ID], day.Sub(newest) > watch.SilentAfter*24*time.Hour); err != nil {
			return nil, err
		}
		out = append(out, n)
	}
	return out, nil
}

// causesOf are the causes that former diagnoses of some zones gave.
func causesOf(tx *gorm.DB, keys []uuid.UUID, day time.Time) (map[uuid.UUID][]string, error) {
	var former []struct {
		ZoneID  uuid.UUID
		Leading string `gorm:"column:leading_cause"`
	}
	if err := tx.Raw(
		`SELECT DISTINCT zone_id, leading_cause FROM diagnoses WHERE zone_id IN ? AND given_on <= ? AND given_on > ?
		ORDER BY zone_id, leading_cause`,
		keys,
		day,
		day.AddDate(0, 0, -HistoryDays),
	).Scan(
		&former,
	).Error; err != nil {
		return nil, err
	}
	had := map[uuid.UUID][]string{}
	for _, d := range former {
		if d.Leading != knowledge.Healthy {
			had[d.ZoneID] = append(had[d.ZoneID], d.Leading)
		}
	}
	return had, nil
}

// sumOf sums up everything that a look at a zone is made from. The day is not part of it: without anything new nothing new is
// seen, but for the silence itself.
func sumOf(sky []byte, n ZoneNow, water givenWater, silent bool) ([]byte, error) {
	h := sha256.New()
	_, _ = h.Write(sky)
	plain := map[string]any{}
	for id, v := range n.Case.Findings {
		plain[id] = v.Plain()
	}
	err := json.NewEncoder(h).Encode(map[string]any{
		"knowledge": knowledge.Knowledge, "zone": n.Zone, "latitude": n.Site.Latitude, "findings": plain, "earlier": n.Case.Earlier, "had": n.Had,
		"silent": silent, "given": water.given, "since": water.since, "treatments": n.Case.Treatments,
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
		if mm, ok := g.given[days[i].Date.Format(time.DateOnly)]; ok {
			days[i].Irrigation = &mm
		}
	}
}

// waterOf reads what zones were given up to a day: by the log of waterings and by the treatments on record.
func waterOf(tx *gorm.DB, zones []uuid.UUID, day time.Time) (map[uuid.UUID]givenWater, error) {
	var records []store.TreatmentRecord
	if err := tx.Where("zone_id IN ? AND applied_on > ? AND applied_on <= ?", zones, day.AddDate(0, 0, -WeatherDays),
		day).Order("zone_id, applied_on, seq").Find(&records).Error; err != nil {
		return nil, err
	}
	return waterBy(tx, zones, day, records)
}

// waterBy is the same by records that have been read, those of one zone together and oldest first; what was done after the day is left out.
func waterBy(tx *gorm.DB, zones []uuid.UUID, day time.Time, records []store.TreatmentRecord) (map[uuid.UUID]givenWater, error) {
	var log []store.ZoneWatering
	if err := tx.Where("zone_id IN ? AND day <= ?", zones, day).Order("zone_id, day").Find(&log).Error; err != nil {
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
		g.given[x.Day.Format(time.DateOnly)] += x.MM
		out[x.ZoneID] = g
	}
	for _, r := range store.Standing(records) {
		if r.AppliedOn.After(day) {
			continue
		}
		g := of(r.ZoneID)
		g.records = append(g.records, r)
		if r.WaterMM != nil && *r.WaterMM > 0 {
			g.given[r.AppliedOn.Format(time.DateOnly)] += *r.WaterMM
		}
		out[r.ZoneID] = g
	}
	return out, nil
}

// groundNow is what former visits and readings say of a zone.
type groundNow struct {
	lasting map[string]knowledge.Value // the last answers that still hold
	earlier []evidence.Earlier         // what tells of its own day
	past    []evidence.Earlier         // both, by the day of the visit
}

// groundOf reads it for some zones, without what was answered on the visit except.
func groundOf(tx *gorm.DB, zones []uuid.UUID, except uuid.UUID, day time.Time) (map[uuid.UUID]groundNow, error) {
	var rows []struct {
		ZoneID, VisitID uuid.UUID
		Finding         string
		Value           store.JSON
		StartedOn       time.Time
	}
	if err := tx.Raw(`SELECT a.zone_id, a.visit_id, a.finding, a.value, v.started_on FROM answers a JOIN visits v ON v.id = a.visit_id
		WHERE a.zone_id IN ? AND a.visit_id <> ? AND a.spot = 'worst' AND a.finding IN ?
		AND v.started_on > ? AND v.started_on <= ? ORDER BY v.started_on, a.seq`,
		zones, except, slices.Concat(knowledge.Lasting(), readings), day.AddDate(0, 0, -WeatherDays), day).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := map[uuid.UUID]groundNow{}
	for _, r := range rows {
		g, ok := out[r.ZoneID]
		if !ok {
			g.lasting = map[string]knowledge.Value{}
		}
		day := r.StartedOn.UTC()
		g.past = answeredOn(g.past, day, r.Finding, r.Value)
		if f, known := knowledge.FindingByID(r.Finding); known && f.Lasts {
			if v, ok := valueOf(r.Finding, r.Value); ok {
				g.lasting[r.Finding] = v
			}
		} else {
			g.earlier = answeredOn(g.earlier, day, r.Finding, r.Value)
		}
		out[r.ZoneID] = g
	}
	return out, nil
}

// addReadings adds what was read on some zones.
func addReadings(tx *gorm.DB, out map[uuid.UUID]groundNow, zones []uuid.UUID, day time.Time) error {
	var read []store.Reading
	if err := tx.Table("standing_readings").Where("zone_id IN ? AND day > ? AND day <= ?", zones, day.AddDate(0, 0, -WeatherDays),
		day).Order("zone_id, day, hour").Find(&read).Error; err != nil {
		return err
	}
	for _, r := range read {
		g := out[r.ZoneID]
		g.earlier = addReading(g.earlier, r)
		out[r.ZoneID] = g
	}
	return nil
}

// answeredOn sets a finding of a day; a null takes it back.
func answeredOn(list []evidence.Earlier, day time.Time, finding string, value store.JSON) []evidence.Earlier {
	v, ok := valueOf(finding, value)
	for i := range list {
		if list[i].Date.Equal(day) {
			if ok {
				list[i].Findings[finding] = v
			} else {
				delete(list[i].Findings, finding)
			}
			return list
		}
	}
	if ok {
		list = append(list, evidence.Earlier{Date: day, Findings: map[string]knowledge.Value{finding: v}})
	}
	return list
}

// addReading puts a reading among what was found on former days; several of one day stand beside each other by their hour.
func addReading(earlier []evidence.Earlier, r store.Reading) []evidence.Earlier {
	f := map[string]knowledge.Value{r.Finding: knowledge.NumberValue(r.Value)}
	if r.Hour != nil && r.Finding == "soil-temp-c" {
		f["soil-temp-hour"] = knowledge.NumberValue(*r.Hour)
	}
	return append(earlier, evidence.Earlier{Date: r.Day.UTC(), Findings: f})
}

func valueOf(finding string, value store.JSON) (knowledge.Value, bool) {
	f, ok := knowledge.FindingByID(finding)
	var plain any
	if !ok || value == nil || json.Unmarshal(value, &plain) != nil || plain == nil {
		return knowledge.Value{}, false
	}
	v, err := knowledge.ValueOf(f, plain)
	return v, err == nil
}

// ZoneKeys are the keys of some zones, in their order.
func ZoneKeys(zones []store.Zone) []uuid.UUID {
	keys := make([]uuid.UUID, len(zones))
	for i, z := range zones {
		keys[i] = z.ID
	}
	return keys
}

// Place is a zone, the site it is part of, and the site's station; nil where it has none.
type Place struct {
	Zone    store.Zone
	Site    store.Site
	Station *store.Station
}

// ReadPlace finds where a zone is.
func ReadPlace(tx *gorm.DB, zone uuid.UUID) (p Place, err error) {
	if err := tx.First(&p.Zone, "id = ?", zone).Error; err != nil {
		return p, err
	}
	if err := tx.First(&p.Site, "id = ?", p.Zone.SiteID).Error; err != nil || p.Site.StationID == nil {
		return p, err
	}
	p.Station = &store.Station{}
	return p, tx.First(p.Station, "id = ?", *p.Site.StationID).Error
}

// ReadZone reads one zone on a day without a visit, its weather on it.
func ReadZone(tx *gorm.DB, p Place, forecast []weather.Day, normals []float64, day time.Time) (evidence.Case, error) {
	at, err := StationAt(tx, p.Site.StationID, forecast, day)
	if err != nil {
		return evidence.Case{}, err
	}
	at.Normals = normals
	found, err := ZonesOn(tx, []store.Site{p.Site}, []store.Zone{p.Zone}, at, day)
	if err != nil {
		return evidence.Case{}, err
	}
	err = found[0].Weather()
	return found[0].Case, err
}
