package server

import (
	"context"
	"strings"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/store"
)

// ReviewPoint is one thing of a zone that is worth a look when the season turns.
type ReviewPoint struct {
	ID    string  `json:"id"`
	Cause string  `json:"cause,omitempty"`
	Value float64 `json:"value,omitempty"`
	Of    float64 `json:"of,omitempty"`
}

// ReviewedZone is a zone with its points, the most pressing first.
type ReviewedZone struct {
	ZoneID   uuid.UUID     `json:"zone_id"`
	SiteID   uuid.UUID     `json:"site_id"`
	SiteName string        `json:"site_name"`
	ZoneName string        `json:"zone_name"`
	Points   []ReviewPoint `json:"points" nullable:"false"`
}

// Review is a page of zones, in the order of their sites.
type Review struct {
	Zones []ReviewedZone `json:"zones" nullable:"false"`
	Next  string         `json:"next,omitempty" doc:"where the next page begins; left out on the last"`
	Total int64          `json:"total" doc:"sites of the firm that fit"`
}

// reviewSites answers GET /review: what of each zone is worth a look when the season turns.
func (s *Server) reviewSites(ctx context.Context, in *listInput) (*body[Review], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	out := Review{Zones: []ReviewedZone{}}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		found := tx.Table("sites")
		for _, word := range strings.Fields(in.Find) {
			found = found.Where("sites.found_by LIKE ?", like(strings.ToLower(word)))
		}
		found = found.Session(&gorm.Session{})
		if err := found.Count(&out.Total).Error; err != nil {
			return err
		}
		q, err := in.page(found, byNumber, "sites.id")
		if err != nil {
			return err
		}
		var sites []store.Site
		if err := q.Find(&sites).Error; err != nil {
			return err
		}
		if len(sites) > in.Limit {
			sites = sites[:in.Limit]
			out.Next = cursor{sites[in.Limit-1].Name, sites[in.Limit-1].ID}.text()
		}
		keys := make([]uuid.UUID, len(sites))
		for i, x := range sites {
			keys[i] = x.ID
		}
		all, err := casework.Review(tx, keys, today)
		for _, site := range sites {
			for _, r := range all {
				if r.Zone.SiteID == site.ID {
					out.Zones = append(out.Zones, reviewed(site, r))
				}
			}
		}
		return err
	})
	return answer(out), err
}

func reviewed(site store.Site, r casework.Reviewed) ReviewedZone {
	z := ReviewedZone{ZoneID: r.Zone.ID, SiteID: site.ID, SiteName: site.Name, ZoneName: r.Zone.Name, Points: []ReviewPoint{}}
	for _, p := range r.Points {
		z.Points = append(z.Points, ReviewPoint{p.ID, p.Cause, p.Value, p.Of})
	}
	return z
}
