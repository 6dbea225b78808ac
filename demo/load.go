package demo

import (
	"cmp"
	"context"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/casework"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/night"
	"hodos/server"
	"hodos/store"
)

// Password is what every person of the demo has, beside the one-click sign-in.
const Password = "meadow-walk-2026"

// key makes the same version 7 key for the same number every time, so that links and pictures stay.
func key(n uint32) uuid.UUID {
	var id uuid.UUID
	ms := uint64(Start.UnixMilli())
	binary.BigEndian.PutUint16(id[0:2], uint16(ms>>32))
	binary.BigEndian.PutUint32(id[2:6], uint32(ms))
	id[6], id[8] = 0x70, 0x80
	binary.BigEndian.PutUint32(id[12:16], n)
	return id
}

// Firm is the demo firm's key, People its people by role.
var (
	Firm   = key(1)
	People = map[string]uuid.UUID{"owner": key(11), "office": key(12), "technician": key(13), "applicator": key(14)}
)

var hollin, ellery = key(21), key(22)

func f(x float64) *float64 { return &x }
func b(x bool) *bool       { return &x }

// Load fills an empty database with the demo; with the demo there already it does nothing and says so.
func Load(ctx context.Context, s *store.Store) (loaded bool, err error) {
	var n int64
	if err := s.Shared(ctx).Model(&store.Clock{}).Count(&n).Error; err != nil {
		return false, err
	}
	if n > 0 {
		return false, nil
	}
	err = s.Shared(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("SELECT set_config('app.firm', ?, true)", Firm.String()).Error; err != nil {
			return err
		}
		stations := []store.Station{
			{ID: hollin, Name: "Hollin Bend", Latitude: 37.62, Longitude: -78.31, Simulated: true, Seed: 37},
			{ID: ellery, Name: "Port Ellery", Latitude: -36.41, Longitude: 174.71, Simulated: true, Seed: 36},
		}
		for _, rows := range []any{&stations, &store.Firm{ID: Firm, Name: "Averley Turf Care", Country: "US", Currency: "USD",
			DateForm:   "dmy",
			UnitSystem: "metric", Timezone: "America/New_York", PoisonCentre: "555-0199",
			Phone: "555-0142", Email: "office@averley.example", Address: "7 Weir Street, Averley", Website: "averley.example", Version: 1}} {
			if err := tx.Create(rows).Error; err != nil {
				return err
			}
		}
		if err := arrive(tx, date(2025, 9, 1), Start); err != nil {
			return err
		}
		if err := people(tx); err != nil {
			return err
		}
		if err := keepShelf(tx); err != nil {
			return err
		}
		for _, p := range append(slices.Clone(properties), weirRow()) {
			if err := p.load(tx); err != nil {
				return fmt.Errorf("%s: %w", p.name, err)
			}
		}
		if err := bookJobs(tx); err != nil {
			return err
		}
		return tx.Create(&store.Clock{One: true, Today: Start}).Error
	})
	if err != nil {
		return false, err
	}
	// the watch has looked nine nights ago and last night, so that some of what it tells is old by now
	w := night.Watcher{Store: s, Weather: Sky{}, Now: time.Now}
	for _, day := range []time.Time{Start.AddDate(0, 0, -9), Start} {
		if err := w.Night(ctx, casework.OnDay(day)); err != nil {
			return false, fmt.Errorf("the watch of %s: %w", day.Format(time.DateOnly), err)
		}
	}
	return true, nil
}

func people(tx *gorm.DB) error {
	hash := account.Hash(Password)
	until, past := date(2027, 3, 31), date(2026, 12, 31)
	return tx.Create(&[]store.Person{
		{ID: People["owner"], FirmID: Firm, Name: "Dora Venn", Email: "dora@averley.example", Role: "owner", PasswordHash: hash,
			LicenceNumber: "AV-1042", LicenceUntil: &past, Active: true, Version: 1},
		{ID: People["office"], FirmID: Firm, Name: "Lena Scholl", Email: "lena@averley.example", Role: "office", PasswordHash: hash,
			MorningLetter: true, Active: true, Version: 1},
		{ID: People["technician"], FirmID: Firm, Name: "Tam Whitlock", Email: "tam@averley.example", Role: "technician", PasswordHash: hash,
			MorningLetter: true, Active: true, Version: 1},
		{ID: People["applicator"], FirmID: Firm, Name: "Rufus Adeyo", Email: "rufus@averley.example", Role: "applicator",
			PasswordHash:  hash,
			LicenceNumber: "AV-2210", LicenceUntil: &until, Active: true, Version: 1},
	}).Error
}

// property is one client's site as the demo tells it. Keys of its rows are numbered from its own hundred.
type property struct {
	n                     uint32
	name, client, address string
	lat, lon              float64
	south                 bool
	located               *time.Time
	access                string
	zones                 []zone
	past                  []past
	due                   []due
	given                 []given
	read                  []reading
}

// given is water that a zone has had at a steady pace, by its log.
type given struct {
	zone     int
	from, to time.Time
	every    int // days
	mm       float64
}

// reading is a probe's or a thermometer's, or of a soil test.
type reading struct {
	zone    int
	on      time.Time
	hour    float64 // 0 for none
	finding string
	value   float64
}

type zone struct {
	name      string
	area      float64
	species   string
	texture   string
	irrigated *bool
	policy    string
}

// past is a visit that has been made.
type past struct {
	zone     int
	on       time.Time
	kind     string
	reason   string
	findings map[string]any
	confirm  string // the cause that was confirmed; the diagnosis is made from the findings
	closed   string // how its case ended six weeks later, "mended" or "stays"; empty for open
	record   []store.TreatmentRecord
	look     *store.Measure
	damaged  []int           // squares of the grid of twelve by eight
	cans     []server.CanRow // of an audit of fifteen minutes
	person   string
	minutes  int // from arrival to leaving; 0 for 26
}

// due is a visit that is booked.
type due struct {
	zone         int // −1 for the whole site
	on           time.Time
	kind, reason string
	person       string
	follows      int // index into past; −1 for none
	from, to     int // hours at which somebody expects it; 0 and 0 for whenever
}

func (p property) key(n uint32) uuid.UUID { return key(p.n*100 + n) }

func (p property) load(tx *gorm.DB) error {
	st, tz, place := hollin, "America/New_York", ""
	if p.south {
		st, tz, place = ellery, "Pacific/Auckland", "NZ"
	}
	client := store.Client{ID: p.key(1), FirmID: Firm, Name: p.client, Phone: fmt.Sprintf("555-01%02d", p.n),
		Email: strings.ToLower(strings.ReplaceAll(p.client, " ", ".")) + "@post.example", Version: 1}
	site := store.Site{ID: p.key(2), FirmID: Firm, ClientID: client.ID, StationID: &st, Name: p.name, Address: p.address, Latitude: p.lat,
		Longitude: p.lon, Timezone: tz, LinesLocatedOn: p.located, AccessNotes: p.access, Place: place, Version: 1}
	for _, row := range []any{&client, &site} {
		if err := tx.Create(row).Error; err != nil {
			return err
		}
	}
	var zones []store.Zone
	for i, z := range p.zones {
		species, _ := json.Marshal([]string{z.species})
		policy := z.policy
		if policy == "" {
			policy = "{}"
		}
		zones = append(zones, store.Zone{ID: p.key(uint32(10 + i)), FirmID: Firm, SiteID: site.ID, Name: z.name, AreaM2: z.area,
			AreaError: .06,
			Species:   species, Texture: z.texture, Irrigated: z.irrigated, TargetCover: .9, Policy: store.JSON(policy), Version: 1})
	}
	if err := tx.Create(&zones).Error; err != nil {
		return err
	}
	if err := p.loadMap(tx, site, zones); err != nil {
		return err
	}
	for _, g := range p.given {
		for d := g.from; !d.After(g.to); d = d.AddDate(0, 0, g.every) {
			if err := tx.Create(&store.ZoneWatering{FirmID: Firm, ZoneID: zones[g.zone].ID, Day: d, MM: g.mm}).Error; err != nil {
				return err
			}
		}
	}
	for i, r := range p.read {
		row := store.Reading{ID: key(2_000_000 + p.n*1_000 + uint32(i)), FirmID: Firm, ZoneID: zones[r.zone].ID, Day: r.on,
			Finding: r.finding,
			Value:   r.value, Origin: "file", PersonID: People["technician"], RecordedAt: r.on.Add(20 * time.Hour)}
		if r.hour > 0 {
			row.Hour = f(r.hour)
		}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	for i, v := range p.past {
		if err := v.load(tx, p, site, zones[v.zone], i); err != nil {
			return err
		}
	}
	for i, d := range p.due {
		person := People[d.person]
		row := store.Visit{ID: p.key(uint32(50 + i)), FirmID: Firm, SiteID: site.ID, Kind: d.kind, DueOn: d.on, Reason: d.reason,
			PersonID: &person, Version: 1}
		if d.to > 0 {
			from, to := d.from*60, d.to*60
			row.FromMinute, row.ToMinute = &from, &to
		}
		if d.zone >= 0 {
			row.ZoneID = &zones[d.zone].ID
		}
		if d.follows >= 0 {
			id := p.key(uint32(30 + d.follows))
			row.FollowsID = &id
		}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	if err := p.loadTrial(tx, zones); err != nil {
		return err
	}
	return p.loadCall(tx, site, zones)
}

// damage keeps the damaged cells of a past visit.
func (v past) damage(tx *gorm.DB, row store.Answer) error {
	if len(v.damaged) == 0 {
		return nil
	}
	value, err := json.Marshal(v.damaged)
	if err != nil {
		return err
	}
	row.Spot, row.Finding, row.Value = "worst", evidence.DamageAnswer, value
	return tx.Create(&row).Error
}

func (v past) load(tx *gorm.DB, p property, site store.Site, z store.Zone, i int) error {
	person := People[v.person]
	at := v.on.Add(14 * time.Hour)
	left := at.Add(time.Duration(cmp.Or(v.minutes, 26)) * time.Minute)
	visit := store.Visit{ID: p.key(uint32(30 + i)), FirmID: Firm, SiteID: site.ID, ZoneID: &z.ID, Kind: v.kind, DueOn: v.on,
		Reason: v.reason, PersonID: &person, ArrivedAt: &at, LeftAt: &left, StartedOn: &v.on, ClosedOn: &v.on, Version: 1}
	if err := tx.Create(&visit).Error; err != nil {
		return err
	}
	if err := p.loadPhotographs(tx, i, visit, z); err != nil {
		return err
	}
	sub := func(n int) uuid.UUID { return key(1_000_000 + p.n*10_000 + uint32(i)*100 + uint32(n)) }
	n := 0
	for _, id := range order(v.findings) {
		value, err := json.Marshal(v.findings[id])
		if err != nil {
			return err
		}
		n++
		if err := tx.Create(&store.Answer{ID: sub(n), FirmID: Firm, VisitID: visit.ID, ZoneID: z.ID, Spot: "worst", Finding: id,
			Value:    value,
			PersonID: person, RecordedAt: at}).Error; err != nil {
			return err
		}
	}
	if err := v.damage(tx, store.Answer{ID: sub(59), FirmID: Firm, VisitID: visit.ID, ZoneID: z.ID, PersonID: person, RecordedAt: at}); err != nil {
		return err
	}
	if v.confirm != "" {
		d, err := v.diagnosis(tx, visit.ID, site, z)
		if err != nil {
			return err
		}
		d.ID, d.VisitID, d.PersonID, d.RecordedAt = sub(60), visit.ID, person, at
		if err := tx.Create(&d).Error; err != nil {
			return err
		}
		if err := v.end(tx, d, sub(61)); err != nil {
			return err
		}
	}
	for k, r := range v.record {
		r.ID, r.FirmID, r.VisitID, r.ZoneID, r.PersonID, r.RecordedAt = sub(70+k), Firm, visit.ID, z.ID, person, at
		if r.AppliedOn.IsZero() {
			r.AppliedOn = v.on
		}
		if r.AreaM2 == 0 {
			r.AreaM2 = z.AreaM2
		}
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
	}
	if v.cans != nil {
		rate, uniformity, err := server.AuditOf(v.cans, 15)
		if err != nil {
			return err
		}
		cans, err := json.Marshal(v.cans)
		if err != nil {
			return err
		}
		if err := tx.Create(&store.Audit{ID: sub(80), FirmID: Firm, VisitID: visit.ID, ZoneID: z.ID, AuditedOn: v.on, Minutes: 15,
			Cans:    cans,
			RateMMH: rate, Uniformity: uniformity, PersonID: person, RecordedAt: at}).Error; err != nil {
			return err
		}
	}
	if v.look != nil {
		l := *v.look
		l.ID, l.FirmID, l.VisitID, l.ZoneID, l.MeasuredOn, l.PersonID, l.RecordedAt = sub(90), Firm, visit.ID, z.ID, v.on, person, at
		return tx.Create(&l).Error
	}
	return nil
}

// end closes the case where it has ended.
func (v past) end(tx *gorm.DB, d store.Diagnosis, id uuid.UUID) error {
	if v.closed == "" {
		return nil
	}
	on := v.on.AddDate(0, 0, 42)
	return tx.Create(&store.Closing{ID: id, FirmID: Firm, ZoneID: d.ZoneID, VisitID: &d.VisitID, DiagnosisID: &d.ID, Cause: v.confirm,
		Ended: v.closed, ClosedOn: on, PersonID: d.PersonID, RecordedAt: on.Add(15 * time.Hour)}).Error
}

// order lists the findings in the order of the stations.
func order(findings map[string]any) []string {
	var out []string
	for _, f := range knowledge.Findings() {
		if _, ok := findings[f.ID]; ok {
			out = append(out, f.ID)
		}
	}
	return out
}

// diagnosis weighs what the visit found, as the program would have done that day.
func (v past) diagnosis(tx *gorm.DB, visit uuid.UUID, site store.Site, z store.Zone) (store.Diagnosis, error) {
	var species []string
	_ = json.Unmarshal(z.Species, &species)
	c := evidence.Case{Title: site.Name + ", " + z.Name, Lawn: knowledge.Lawn{Date: v.on, Latitude: site.Latitude,
		Longitude: site.Longitude, Species: species, AreaM2: &z.AreaM2, Texture: z.Texture, Irrigated: z.Irrigated},
		Findings: map[string]knowledge.Value{}}
	for id, plain := range v.findings {
		finding, ok := knowledge.FindingByID(id)
		if !ok {
			return store.Diagnosis{}, fmt.Errorf("unknown finding %s", id)
		}
		if n, is := plain.(int); is {
			plain = float64(n)
		}
		value, err := knowledge.ValueOf(finding, plain)
		if err != nil {
			return store.Diagnosis{}, fmt.Errorf("%s: %w", id, err)
		}
		c.Findings[id] = value
	}
	if err := casework.ReadHistory(tx, visit, z.ID, v.on, &c); err != nil {
		return store.Diagnosis{}, err
	}
	r := diagnosis.Diagnose(c, diagnosis.Options{})
	file, err := casefile.Write(c)
	if err != nil {
		return store.Diagnosis{}, err
	}
	full, err := json.Marshal(casefile.ResultOf(r, remedy.Decide(c, r, units.Saying{})))
	if err != nil {
		return store.Diagnosis{}, err
	}
	if r.Causes[0].ID != v.confirm {
		return store.Diagnosis{}, fmt.Errorf("the story says %s, the scales say %s", v.confirm, r.Causes[0].ID)
	}
	return store.Diagnosis{FirmID: Firm, ZoneID: z.ID, Knowledge: r.Knowledge, Leading: r.Causes[0].ID,
		Probability: r.Causes[0].Probability,
		CaseFile:    file, Result: full, GivenOn: v.on}, nil
}

// cans lays depths in mm out over the plan, row by row, every second cell; a negative one is no can.
func cans(depths ...float64) []server.CanRow {
	var out []server.CanRow
	for i, mm := range depths {
		if mm >= 0 {
			out = append(out, server.CanRow{X: i % 6 * 2, Y: i / 6 * 2, MM: mm})
		}
	}
	return out
}
