package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

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
	Version int       `json:"version" minimum:"0"`
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
	Version        int       `json:"version" minimum:"0"`
	Zones          []Zone    `json:"zones,omitempty" readOnly:"true"`
}

// Policy is how the client wants the zone kept.
type Policy struct {
	SummerWater   string `json:"summer-water,omitempty" enum:"keep-green,let-rest,one-area"`
	Pests         string `json:"pests,omitempty" enum:"threshold,preventive"`
	SummerFeeding string `json:"summer-feeding,omitempty" enum:"none,spoon-feed"`
	Blemishes     string `json:"blemishes,omitempty" enum:"tolerate,treat"`
}

// Zone is one part of a site that is walked and weighed by itself.
type Zone struct {
	ID          uuid.UUID `json:"id"`
	SiteID      uuid.UUID `json:"site_id"`
	Name        string    `json:"name" minLength:"1" maxLength:"120"`
	AreaM2      float64   `json:"area_m2" exclusiveMinimum:"0" maximum:"10000000"`
	AreaError   float64   `json:"area_error" minimum:"0" maximum:"1" doc:"95 % error of the area as a fraction"`
	Species     []string  `json:"species" minItems:"1" maxItems:"6" nullable:"false"`
	Texture     string    `json:"texture" enum:",sand,loamy-sand,sandy-loam,loam,silt-loam,clay-loam,clay"`
	Irrigated   *bool     `json:"irrigated" nullable:"true" required:"false"`
	TargetCover float64   `json:"target_cover" exclusiveMinimum:"0" maximum:"1"`
	Policy      Policy    `json:"policy"`
	Version     int       `json:"version" minimum:"0"`
}

func zoneOf(z store.Zone) Zone {
	out := Zone{ID: z.ID, SiteID: z.SiteID, Name: z.Name, AreaM2: z.AreaM2, AreaError: z.AreaError, Texture: z.Texture,
		Irrigated: z.Irrigated, TargetCover: z.TargetCover, Version: z.Version, Species: []string{}}
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
	species, _ := json.Marshal(z.Species)
	policy, _ := json.Marshal(z.Policy)
	return map[string]any{"name": z.Name, "area_m2": z.AreaM2, "area_error": z.AreaError, "species": store.JSON(species),
		"texture": z.Texture, "irrigated": z.Irrigated, "target_cover": z.TargetCover, "policy": store.JSON(policy)}, nil
}

func siteOf(x store.Site) Site {
	return Site{ID: x.ID, ClientID: x.ClientID, Name: x.Name, Address: x.Address, Latitude: x.Latitude, Longitude: x.Longitude,
		Timezone: x.Timezone, LinesLocatedOn: dateText(x.LinesLocatedOn), AccessNotes: x.AccessNotes, Version: x.Version}
}

func (x Site) row(firm uuid.UUID, stations []store.Station) (store.Site, error) {
	if _, err := time.LoadLocation(x.Timezone); err != nil || x.Timezone == "Local" {
		return store.Site{}, invalid("body.timezone", "is not an IANA time zone such as Africa/Johannesburg")
	}
	located, err := optionalDate("body.lines_located_on", x.LinesLocatedOn)
	if err != nil {
		return store.Site{}, err
	}
	return store.Site{ID: x.ID, FirmID: firm, ClientID: x.ClientID, StationID: nearest(stations, x.Latitude, x.Longitude), Name: x.Name,
		Address: x.Address, Latitude: x.Latitude, Longitude: x.Longitude, Timezone: x.Timezone, LinesLocatedOn: located,
		AccessNotes: x.AccessNotes, Version: 1}, nil
}

// nearest picks the weather station within about 150 km (judgement); none is better than a wrong one.
func nearest(stations []store.Station, lat, lon float64) *uuid.UUID {
	best, least := (*uuid.UUID)(nil), 1.4*1.4
	for i := range stations {
		dy, dx := stations[i].Latitude-lat, (stations[i].Longitude-lon)*.8
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
func keyed(id uuid.UUID) error {
	if id.Version() != 7 {
		return invalid("body.id", "must be a version 7 UUID made by the client")
	}
	return nil
}

func (s *Server) siteRoutes() {
	operation(s, http.MethodGet, "/clients", "list-clients", "All clients", "sites", See,
		func(ctx context.Context, _ *struct{}) (*body[[]Client], error) {
			out := []Client{}
			err := s.inFirm(ctx, func(tx *gorm.DB) error {
				var rows []store.Client
				if err := tx.Order("name").Find(&rows).Error; err != nil {
					return err
				}
				for _, r := range rows {
					out = append(out, Client{r.ID, r.Name, r.Phone, r.Email, r.Notes, r.Version})
				}
				return nil
			})
			return answer(out), err
		})
	operation(s, http.MethodPost, "/clients", "create-client", "Add a client", "sites", KeepSites,
		func(ctx context.Context, in *body[Client]) (*body[Client], error) {
			c := in.Body
			if err := keyed(c.ID); err != nil {
				return nil, err
			}
			row := store.Client{ID: c.ID, FirmID: who(ctx).Firm, Name: strings.TrimSpace(c.Name), Phone: c.Phone, Email: c.Email, Notes: c.Notes,
				Version: 1}
			err := s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
			return answer(Client{row.ID, row.Name, row.Phone, row.Email, row.Notes, row.Version}), err
		})
	type clientChange struct {
		IDPath
		Body Client
	}
	operation(s, http.MethodPut, "/clients/{id}", "change-client", "Change a client", "sites", KeepSites,
		func(ctx context.Context, in *clientChange) (*body[Client], error) {
			c := in.Body
			err := s.inFirm(ctx, func(tx *gorm.DB) error {
				return store.Change(tx, &store.Client{}, in.ID, c.Version, map[string]any{"name": strings.TrimSpace(c.Name), "phone": c.Phone,
					"email": c.Email, "notes": c.Notes})
			})
			c.ID, c.Version = in.ID, c.Version+1
			return answer(c), err
		})
	operation(s, http.MethodGet, "/sites", "list-sites", "All sites with their zones", "sites", See,
		func(ctx context.Context, _ *struct{}) (*body[[]Site], error) {
			out := []Site{}
			err := s.inFirm(ctx, func(tx *gorm.DB) error {
				var sites []store.Site
				var zones []store.Zone
				var clients []store.Client
				if err := tx.Order("name").Find(&sites).Error; err != nil {
					return err
				}
				if err := tx.Order("name").Find(&zones).Error; err != nil {
					return err
				}
				if err := tx.Find(&clients).Error; err != nil {
					return err
				}
				for _, x := range sites {
					site := siteOf(x)
					for _, c := range clients {
						if c.ID == x.ClientID {
							site.ClientName = c.Name
						}
					}
					for _, z := range zones {
						if z.SiteID == x.ID {
							site.Zones = append(site.Zones, zoneOf(z))
						}
					}
					out = append(out, site)
				}
				return nil
			})
			return answer(out), err
		})
	operation(s, http.MethodPost, "/sites", "create-site", "Add a site", "sites", KeepSites,
		func(ctx context.Context, in *body[Site]) (*body[Site], error) {
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
		})
	type siteChange struct {
		IDPath
		Body Site
	}
	operation(s, http.MethodPut, "/sites/{id}", "change-site", "Change a site", "sites", KeepSites,
		func(ctx context.Context, in *siteChange) (*body[Site], error) {
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
					"lines_located_on": r.LinesLocatedOn, "access_notes": r.AccessNotes})
			})
			out := in.Body
			out.ID, out.Version = in.ID, out.Version+1
			return answer(out), err
		})
	operation(s, http.MethodGet, "/sites/{id}/history", "get-site-history", "All visits of a site and the diagnoses that were given",
		"sites", See, func(ctx context.Context, in *IDPath) (*body[History], error) {
			out := History{Visits: []Visit{}, Given: []Given{}, Offenders: []Offender{}}
			err := s.inFirm(ctx, func(tx *gorm.DB) error { return history(tx, in.ID, &out) })
			return answer(out), err
		})
	operation(s, http.MethodPost, "/zones", "create-zone", "Add a zone to a site", "sites", KeepSites,
		func(ctx context.Context, in *body[Zone]) (*body[Zone], error) {
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
				Policy: c["policy"].(store.JSON), Version: 1}
			err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Create(tx, &row, row.ID) })
			return answer(zoneOf(row)), err
		})
	type zoneChange struct {
		IDPath
		Body Zone
	}
	operation(s, http.MethodPut, "/zones/{id}", "change-zone", "Change a zone", "sites", KeepSites,
		func(ctx context.Context, in *zoneChange) (*body[Zone], error) {
			c, err := in.Body.columns()
			if err != nil {
				return nil, err
			}
			err = s.inFirm(ctx, func(tx *gorm.DB) error { return store.Change(tx, &store.Zone{}, in.ID, in.Body.Version, c) })
			out := in.Body
			out.ID, out.Version = in.ID, out.Version+1
			return answer(out), err
		})
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
		if times[k] == 2 && given[0].GivenOn.Sub(g.GivenOn) < historyDays*24*time.Hour {
			out.Offenders = append(out.Offenders, Offender{g.ZoneID, g.Leading, 0})
		}
	}
	for i, o := range out.Offenders {
		out.Offenders[i].Times = times[key{o.ZoneID, o.Cause}]
	}
	return nil
}
