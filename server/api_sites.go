package server

import (
	"cmp"
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/turf"
	"hodos/store"
)

// Client, Site, Zone: whom the firm works for, and where.
type Client struct {
	ID      uuid.UUID `json:"id"`
	Name    string    `json:"name" minLength:"1" maxLength:"120"`
	Phone   string    `json:"phone" maxLength:"60"`
	Email   string    `json:"email" maxLength:"200"`
	Notes   string    `json:"notes" maxLength:"4000"`
	Version int       `json:"version" minimum:"0" maximum:"2147483646"`
}

// Site is one property.
type Site struct {
	ID             uuid.UUID `json:"id"`
	ClientID       uuid.UUID `json:"client_id"`
	ClientName     string    `json:"client_name,omitempty" readOnly:"true"`
	Name           string    `json:"name" minLength:"1" maxLength:"120"`
	Address        string    `json:"address" maxLength:"300"`
	Latitude       float64   `json:"latitude" minimum:"-90" maximum:"90"`
	Longitude      float64   `json:"longitude" minimum:"-180" maximum:"180"`
	Timezone       string    `json:"timezone" minLength:"1" maxLength:"60" doc:"IANA name"`
	LinesLocatedOn *string   `json:"lines_located_on" nullable:"true" doc:"YYYY-MM-DD when buried lines were last located; empty for never"`
	AccessNotes    string    `json:"access_notes" maxLength:"2000"`
	Place          string    `json:"place,omitempty" maxLength:"60" doc:"by whose law: country or state; the firm's country when empty"`
	Version        int       `json:"version" minimum:"0" maximum:"2147483646"`
	Zones          []Zone    `json:"zones,omitempty" readOnly:"true"`
}

// Policy is how the client wants the zone kept.
type Policy struct {
	SummerWater   string `json:"summer-water,omitempty" enum:"keep-green,let-rest,one-area"`
	Pests         string `json:"pests,omitempty" enum:"threshold,preventive"`
	SummerFeeding string `json:"summer-feeding,omitempty" enum:"none,spoon-feed"`
	Blemishes     string `json:"blemishes,omitempty" enum:"tolerate,treat"`
	Pesticides    string `json:"pesticides,omitempty" enum:"none" doc:"the client wants none"`
	Service       string `json:"service,omitempty" enum:"weeds,feeding,full" doc:"what the client buys; left out: not said"`
}

// Zone is one part of a site that is walked and weighed by itself.
type Zone struct {
	ID          uuid.UUID `json:"id"`
	SiteID      uuid.UUID `json:"site_id"`
	Name        string    `json:"name" minLength:"1" maxLength:"120"`
	AreaM2      float64   `json:"area_m2" exclusiveMinimum:"0" maximum:"10000000"`
	AreaError   float64   `json:"area_error" minimum:"0" maximum:"1" doc:"95 % error of the area as a fraction"`
	Species     []string  `json:"species" minItems:"1" maxItems:"6" nullable:"false"`
	Form        string    `json:"form,omitempty" maxLength:"40" doc:"of the main grass, one of the vocabulary's forms"`
	Cultivar    string    `json:"cultivar,omitempty" maxLength:"80" doc:"name of the cultivar or the mixture"`
	SownYear    *int      `json:"sown_year,omitempty" minimum:"1800" maximum:"2200"`
	Texture     string    `json:"texture" enum:",sand,loamy-sand,sandy-loam,loam,silt-loam,clay-loam,clay"`
	Irrigated   *bool     `json:"irrigated" nullable:"true" required:"false"`
	TargetCover float64   `json:"target_cover" exclusiveMinimum:"0" maximum:"1"`
	Policy      Policy    `json:"policy"`
	WaterM      *float64  `json:"water_m,omitempty" minimum:"0" maximum:"10000" doc:"to open water, a well or a drain, m"`
	Version     int       `json:"version" minimum:"0" maximum:"2147483646"`
}

func zoneOf(z store.Zone) Zone {
	out := Zone{ID: z.ID, SiteID: z.SiteID, Name: z.Name, AreaM2: z.AreaM2, AreaError: z.AreaError, Texture: z.Texture,
		Irrigated: z.Irrigated, TargetCover: z.TargetCover, Version: z.Version, Species: []string{}, WaterM: z.WaterM,
		Form: z.Form, Cultivar: z.Cultivar, SownYear: z.SownYear}
	_ = json.Unmarshal(z.Species, &out.Species)
	_ = json.Unmarshal(z.Policy, &out.Policy)
	return out
}

func (z Zone) columns() (map[string]any, error) {
	for i, id := range z.Species {
		if _, ok := turf.ByID(id); !ok {
			return nil, invalid(fmt.Sprintf("body.species[%d]", i), "is not a known species")
		}
	}
	if z.Form != "" && !turf.IsForm(z.Species[0], z.Form) {
		return nil, invalid("body.form", "is no form of the main grass")
	}
	species, _ := json.Marshal(z.Species)
	policy, _ := json.Marshal(z.Policy)
	return map[string]any{"name": z.Name, "area_m2": z.AreaM2, "area_error": z.AreaError, "species": store.JSON(species),
		"texture": z.Texture, "irrigated": z.Irrigated, "target_cover": z.TargetCover, "policy": store.JSON(policy),
		"water_m": z.WaterM, "form": z.Form, "cultivar": z.Cultivar, "sown_year": z.SownYear}, nil
}

func siteOf(x store.Site) Site {
	return Site{ID: x.ID, ClientID: x.ClientID, Name: x.Name, Address: x.Address, Latitude: x.Latitude, Longitude: x.Longitude,
		Timezone: x.Timezone, LinesLocatedOn: dateText(x.LinesLocatedOn), AccessNotes: x.AccessNotes, Place: x.Place,
		Version: x.Version}
}

func (x Site) row(firm uuid.UUID, stations []store.Station) (store.Site, error) {
	if err := timezone("body.timezone", x.Timezone); err != nil {
		return store.Site{}, err
	}
	located, err := optionalDate("body.lines_located_on", x.LinesLocatedOn)
	if err != nil {
		return store.Site{}, err
	}
	return store.Site{ID: x.ID, FirmID: firm, ClientID: x.ClientID, StationID: nearest(stations, x.Latitude, x.Longitude), Name: x.Name,
		Address: x.Address, Latitude: x.Latitude, Longitude: x.Longitude, Timezone: x.Timezone, LinesLocatedOn: located,
		AccessNotes: x.AccessNotes, Place: x.Place, Version: 1}, nil
}

// timezone makes sure that a name is one of a time zone.
func timezone(where, name string) error {
	if _, err := time.LoadLocation(name); err != nil || name == "" || name == "Local" {
		return invalid(where, "is not an IANA time zone such as Africa/Johannesburg")
	}
	return nil
}

// nearest picks the weather station within about 150 km (judgement); none is better than a wrong one.
func nearest(stations []store.Station, lat, lon float64) *uuid.UUID {
	best, least := (*uuid.UUID)(nil), 1.4*1.4
	for i := range stations {
		dy, dx := stations[i].Latitude-lat, (stations[i].Longitude-lon)*math.Cos(lat*math.Pi/180)
		if d := dy*dy + dx*dx; d < least {
			best, least = &stations[i].ID, d
		}
	}
	return best
}

func (s *Server) stations(ctx context.Context) (out []store.Station, err error) {
	return out, s.store.Shared(ctx).Find(&out).Error
}

// keyed makes sure that the client made a version 7 key.
func keyed(id uuid.UUID) error { return version7("body.id", id) }

// version7 makes sure of a key at a place in the request.
func version7(where string, id uuid.UUID) error {
	if id.Version() != 7 {
		return invalid(where, "must be a version 7 UUID made by the client")
	}
	return nil
}

// listInput asks for a page of a list: what to look for, where the page before ended, and how long it is.
type listInput struct {
	Find  string `query:"find" maxLength:"100" doc:"words that the name, client or address must hold"`
	After string `query:"after" maxLength:"400" doc:"next of the page before"`
	Limit int    `query:"limit" minimum:"1" maximum:"100" default:"50"`
}

// Clients are a page of clients by name.
type Clients struct {
	Clients []Client `json:"clients" nullable:"false"`
	Next    string   `json:"next,omitempty" doc:"where the next page begins; left out on the last"`
}

// Sites are a page of sites by name, each with its zones.
type Sites struct {
	Sites []Site `json:"sites" nullable:"false"`
	Next  string `json:"next,omitempty" doc:"where the next page begins; left out on the last"`
	Total int64  `json:"total" doc:"sites of the firm that fit"`
}

// cursor is where a page ends: the name and the key of its last line.
type cursor struct {
	Name string    `json:"n"`
	ID   uuid.UUID `json:"i"`
}

func (c cursor) text() string {
	b, _ := json.Marshal(c)
	return base64.RawURLEncoding.EncodeToString(b)
}

func cursorOf(text string) (c cursor, err error) {
	b, err := base64.RawURLEncoding.DecodeString(text)
	if err == nil {
		err = json.Unmarshal(b, &c)
	}
	if err != nil {
		return c, invalid("query.after", "is not where a page ended")
	}
	return c, nil
}

// like is a pattern that finds a word anywhere, with what a pattern gives a meaning of its own taken literally.
func like(word string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(word) + "%"
}

// page narrows a list to the lines after the cursor, one more than asked for: it tells whether there is a next page.
func (in *listInput) page(q *gorm.DB, name, id string) (*gorm.DB, error) {
	if in.After != "" {
		c, err := cursorOf(in.After)
		if err != nil {
			return nil, err
		}
		q = q.Where("("+name+", "+id+") > (?, ?)", c.Name, c.ID)
	}
	return q.Order(name + ", " + id).Limit(in.Limit + 1), nil
}

// listClients answers GET /clients: clients by name, a page at a time.
func (s *Server) listClients(ctx context.Context, in *listInput) (*body[Clients], error) {
	out := Clients{Clients: []Client{}}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		q := tx.Model(&store.Client{}).Where("erased_on IS NULL")
		for _, word := range strings.Fields(in.Find) {
			q = q.Where("name ILIKE ?", like(word))
		}
		q, err := in.page(q, "name", "id")
		if err != nil {
			return err
		}
		var rows []store.Client
		if err := q.Find(&rows).Error; err != nil {
			return err
		}
		if len(rows) > in.Limit {
			rows = rows[:in.Limit]
			out.Next = cursor{rows[in.Limit-1].Name, rows[in.Limit-1].ID}.text()
		}
		for _, r := range rows {
			out.Clients = append(out.Clients, clientOf(r))
		}
		return nil
	})
	return answer(out), err
}

func clientOf(r store.Client) Client {
	return Client{r.ID, r.Name, r.Phone, r.Email, r.Notes, r.Version}
}

// getClient answers GET /clients/{id}.
func (s *Server) getClient(ctx context.Context, in *IDPath) (*body[Client], error) {
	var row store.Client
	err := s.inFirm(ctx, func(tx *gorm.DB) error { return tx.First(&row, "id = ?", in.ID).Error })
	return answer(clientOf(row)), err
}

// createClient answers POST /clients: add a client.
func (s *Server) createClient(ctx context.Context, in *body[Client]) (*body[Client], error) {
	c := in.Body
	if err := keyed(c.ID); err != nil {
		return nil, err
	}
	row := store.Client{ID: c.ID, FirmID: who(ctx).Firm, Name: strings.TrimSpace(c.Name), Phone: c.Phone, Email: c.Email, Notes: c.Notes,
		Version: 1}
	err := s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
	return answer(Client{row.ID, row.Name, row.Phone, row.Email, row.Notes, row.Version}), err
}

type clientChange struct {
	IDPath
	Body Client
}

// changeClient answers PUT /clients/{id}: change a client.
func (s *Server) changeClient(ctx context.Context, in *clientChange) (*body[Client], error) {
	c := in.Body
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		return store.Change(tx, &store.Client{}, in.ID, c.Version, map[string]any{"name": strings.TrimSpace(c.Name), "phone": c.Phone,
			"email": c.Email, "notes": c.Notes})
	})
	c.ID, c.Version = in.ID, c.Version+1
	return answer(c), err
}

// listSites answers GET /sites: sites by name with their zones, a page at a time, found by site, client or address.
func (s *Server) listSites(ctx context.Context, in *listInput) (*body[Sites], error) {
	out := Sites{Sites: []Site{}}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		found := tx.Table("sites").Where("sites.erased_on IS NULL")
		for _, word := range strings.Fields(in.Find) {
			found = found.Where("sites.found_by LIKE ?", like(strings.ToLower(word)))
		}
		found = found.Session(&gorm.Session{})
		if err := found.Count(&out.Total).Error; err != nil {
			return err
		}
		q, err := in.page(found.Joins("JOIN clients ON clients.id = sites.client_id").Select("sites.*, clients.name AS client"), byNumber,
			"sites.id")
		if err != nil {
			return err
		}
		var rows []siteRow
		if err := q.Find(&rows).Error; err != nil {
			return err
		}
		if len(rows) > in.Limit {
			rows = rows[:in.Limit]
			out.Next = cursor{rows[in.Limit-1].Name, rows[in.Limit-1].ID}.text()
		}
		out.Sites, err = withZones(tx, rows)
		return err
	})
	return answer(out), err
}

// byNumber is the order of sites: by name, numbers in it by their size.
const byNumber = "sites.name COLLATE by_number"

type siteRow struct {
	store.Site
	Client string
}

// withZones puts the zones to some sites, with one question.
func withZones(tx *gorm.DB, rows []siteRow) ([]Site, error) {
	out, at, keys := make([]Site, len(rows)), map[uuid.UUID]int{}, make([]uuid.UUID, len(rows))
	for i, r := range rows {
		out[i] = siteOf(r.Site)
		out[i].ClientName = r.Client
		at[r.ID], keys[i] = i, r.ID
	}
	if len(rows) == 0 {
		return out, nil
	}
	var zones []store.Zone
	if err := tx.Where("site_id IN ?", keys).Order("name, id").Find(&zones).Error; err != nil {
		return nil, err
	}
	for _, z := range zones {
		i := at[z.SiteID]
		out[i].Zones = append(out[i].Zones, zoneOf(z))
	}
	return out, nil
}

// oneSite reads one site with its client's name and its zones; ErrNotFound when there is none.
func oneSite(tx *gorm.DB, where string, args ...any) (Site, error) {
	var rows []siteRow
	if err := tx.Raw("SELECT s.*, c.name AS client FROM sites s JOIN clients c ON c.id = s.client_id WHERE "+where, args...).
		Scan(&rows).
		Error; err != nil {
		return Site{}, err
	}
	sites, err := withZones(tx, rows)
	if err != nil || len(sites) == 0 {
		return Site{}, cmp.Or(err, store.ErrNotFound)
	}
	return sites[0], nil
}

// getSite answers GET /sites/{id}: a site with its zones.
func (s *Server) getSite(ctx context.Context, in *IDPath) (*body[Site], error) {
	var out Site
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		out, err = oneSite(tx, "s.id = ?", in.ID)
		return err
	})
	return answer(out), err
}

// getSiteOfZone answers GET /zones/{id}/site: the site that a zone belongs to, with all its zones.
func (s *Server) getSiteOfZone(ctx context.Context, in *IDPath) (*body[Site], error) {
	var out Site
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		out, err = oneSite(tx, "s.id = (SELECT site_id FROM zones WHERE id = ?)", in.ID)
		return err
	})
	return answer(out), err
}

// createSite answers POST /sites: add a site.
func (s *Server) createSite(ctx context.Context, in *body[Site]) (*body[Site], error) {
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	stations, err := s.stations(ctx)
	if err != nil {
		return nil, s.said(err)
	}
	row, err := in.Body.row(who(ctx).Firm, stations)
	if err != nil {
		return nil, err
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
	return answer(siteOf(row)), err
}

type siteChange struct {
	IDPath
	Body Site
}

// changeSite answers PUT /sites/{id}: change a site.
func (s *Server) changeSite(ctx context.Context, in *siteChange) (*body[Site], error) {
	stations, err := s.stations(ctx)
	if err != nil {
		return nil, s.said(err)
	}
	r, err := in.Body.row(who(ctx).Firm, stations)
	if err != nil {
		return nil, err
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		return store.Change(tx, &store.Site{}, in.ID, in.Body.Version, map[string]any{"client_id": r.ClientID, "station_id": r.StationID,
			"name": r.Name, "address": r.Address, "latitude": r.Latitude, "longitude": r.Longitude, "timezone": r.Timezone,
			"lines_located_on": r.LinesLocatedOn, "access_notes": r.AccessNotes, "place": r.Place})
	})
	out := in.Body
	out.ID, out.Version = in.ID, out.Version+1
	return answer(out), err
}

// getSiteHistory answers GET /sites/{id}/history: all visits of a site and the diagnoses that were given.
func (s *Server) getSiteHistory(ctx context.Context, in *IDPath) (*body[History], error) {
	out := History{Visits: []Visit{}, Given: []Given{}, Offenders: []Offender{}}
	err := s.inFirm(ctx, func(tx *gorm.DB) error { return history(tx, in.ID, &out) })
	return answer(out), err
}

// createZone answers POST /zones: add a zone to a site.
func (s *Server) createZone(ctx context.Context, in *body[Zone]) (*body[Zone], error) {
	z := in.Body
	if err := keyed(z.ID); err != nil {
		return nil, err
	}
	c, err := z.columns()
	if err != nil {
		return nil, err
	}
	row := store.Zone{ID: z.ID, FirmID: who(ctx).Firm, SiteID: z.SiteID, Name: z.Name, AreaM2: z.AreaM2, AreaError: z.AreaError,
		Species: c["species"].(store.JSON), Texture: z.Texture, Irrigated: z.Irrigated, TargetCover: z.TargetCover,
		Policy: c["policy"].(store.JSON), WaterM: z.WaterM, Form: z.Form, Cultivar: z.Cultivar, SownYear: z.SownYear, Version: 1}
	err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
	return answer(zoneOf(row)), err
}

type zoneChange struct {
	IDPath
	Body Zone
}

// changeZone answers PUT /zones/{id}: change a zone.
func (s *Server) changeZone(ctx context.Context, in *zoneChange) (*body[Zone], error) {
	c, err := in.Body.columns()
	if err != nil {
		return nil, err
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Change(tx, &store.Zone{}, in.ID, in.Body.Version, c) })
	out := in.Body
	out.ID, out.Version = in.ID, out.Version+1
	return answer(out), err
}

// Offender is a zone that had the same cause more than once within three years: the remedy was for the symptom.
type Offender struct {
	ZoneID uuid.UUID `json:"zone_id"`
	Cause  string    `json:"cause"`
	Times  int       `json:"times"`
}

// History is what has happened on a site, the newest first.
type History struct {
	Visits    []Visit    `json:"visits" nullable:"false"`
	Given     []Given    `json:"given" nullable:"false"`
	Offenders []Offender `json:"repeat_offenders" nullable:"false"`
}

func history(tx *gorm.DB, site uuid.UUID, out *History) error {
	if err := tx.First(&store.Site{}, "id = ?", site).Error; err != nil {
		return err
	}
	var visits []store.Visit
	if err := tx.Where("site_id = ?", site).Order("due_on DESC, id DESC").Limit(200).Find(&visits).Error; err != nil {
		return err
	}
	var people []store.Person
	if err := tx.Find(&people).Error; err != nil {
		return err
	}
	for _, v := range visits {
		o := visitOf(v)
		for _, p := range people {
			if v.PersonID != nil && p.ID == *v.PersonID {
				o.PersonName = p.Name
			}
		}
		out.Visits = append(out.Visits, o)
	}
	var given []store.Diagnosis
	if err := tx.Where("visit_id IN (SELECT id FROM visits WHERE site_id = ?)",
		site).Order("given_on DESC").Limit(200).Find(&given).Error; err != nil {
		return err
	}
	type key struct {
		zone  uuid.UUID
		cause string
	}
	times := map[key]int{}
	for _, g := range given {
		out.Given = append(out.Given, givenOf(g))
		k := key{g.ZoneID, g.Leading}
		times[k]++
		if times[k] == 2 && given[0].GivenOn.Sub(g.GivenOn) < casework.HistoryDays*24*time.Hour {
			out.Offenders = append(out.Offenders, Offender{g.ZoneID, g.Leading, 0})
		}
	}
	for i, o := range out.Offenders {
		out.Offenders[i].Times = times[key{o.ZoneID, o.Cause}]
	}
	return nil
}
