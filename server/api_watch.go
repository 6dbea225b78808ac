package server

import (
	"cmp"
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/watch"
	"hodos/store"
)

// DayNotice is something that the watch tells of a zone.
type DayNotice struct {
	ID       uuid.UUID `json:"id"`
	SiteID   uuid.UUID `json:"site_id"`
	ZoneID   uuid.UUID `json:"zone_id"`
	SiteName string    `json:"site_name"`
	ZoneName string    `json:"zone_name"`
	Kind     string    `json:"kind" enum:"window,endurance,frost,feeding,silent"`
	Subject  string    `json:"subject" doc:"a cause or a band; empty where the kind says all"`
	Label    string    `json:"label"`
	Level    int       `json:"level" enum:"1,2" doc:"2: something has to be done, or it has happened here before"`
	Since    string    `json:"since" format:"date"`
	ComesOn  *string   `json:"comes_on,omitempty" format:"date" doc:"when it comes to a head"`
	Ahead    bool      `json:"ahead" doc:"by the forecast"`
	Reason   string    `json:"reason"`
	ToldOn   string    `json:"told_on" format:"date"`
	New      bool      `json:"new" doc:"told within the last days and not noted by anybody"`
	NotedBy  string    `json:"noted_by"`
}

// DayWatch is how far the newest round of the watch is.
type DayWatch struct {
	Day       string `json:"day" format:"date"`
	Sites     int    `json:"sites"`
	SitesDone int    `json:"sites_done"`
	Zones     int    `json:"zones"`
	Unchanged int    `json:"unchanged" doc:"left out, because nothing about them has changed"`
	Told      int    `json:"told"`
	Finished  bool   `json:"finished"`
	At        string `json:"at" format:"date-time"`
}

// newFor is how many days a notice that nobody has noted stays among the new ones.
const newFor = 3

var noticeLabels = map[string]string{"endurance": "Endurance without water runs out", "frost": "Frost after growth has begun", "feeding": "Autumn feeding opens", "silent": "No weather comes in", "window heat": "Heat", "window regulator-worn-off": "Growth regulator has worn off"}

func noticeLabel(kind, subject string, level int) string {
	key := kind
	if kind == watch.Endurance && level == watch.Act {
		return "Endurance used up"
	}
	if subject != "" {
		key += " " + subject
	}
	if l, ok := noticeLabels[key]; ok {
		return l
	}
	return bandLabel(subject)
}

var noticeOrder = map[string]int{"endurance": 0, "frost": 1, "silent": 2, "window": 3, "feeding": 4}

// notices lists what stands on a day: thirst and frost first, then windows, the urgent before the rest, the same of several zones
// together.
func notices(tx *gorm.DB, today time.Time) ([]DayNotice, error) {
	var rows []struct {
		store.WatchNotice
		SiteID     uuid.UUID
		Site, Zone string
		Person     string
	}
	err := tx.Raw(`SELECT n.*, s.id AS site_id, s.name AS site, z.name AS zone, coalesce(p.name, '') AS person FROM watch_notices n
		JOIN zones z ON z.id = n.zone_id JOIN sites s ON s.id = z.site_id LEFT JOIN people p ON p.id = n.noted_by
		WHERE n.ended_on IS NULL AND n.told_on <= ? ORDER BY s.name, z.name, n.id`, today).Scan(&rows).Error
	out := make([]DayNotice, 0, len(rows))
	for _, r := range rows {
		out = append(out, DayNotice{ID: r.ID, SiteID: r.SiteID, ZoneID: r.ZoneID, SiteName: r.Site, ZoneName: r.Zone, Kind: r.Kind, Subject: r.Subject, Label: noticeLabel(r.Kind, r.Subject, r.Level), Level: r.Level,
			Since: r.Since.Format(dateOnly), ComesOn: dateText(r.ComesOn), Ahead: r.Ahead && r.Since.After(today), Reason: r.Detail, ToldOn: r.ToldOn.Format(dateOnly),
			New: r.NotedOn == nil && r.ToldOn.After(today.AddDate(0, 0, -newFor)), NotedBy: r.Person})
	}
	urgent := map[string]int{}
	for _, n := range out {
		urgent[n.Kind+n.Subject] = max(urgent[n.Kind+n.Subject], n.Level)
	}
	slices.SortStableFunc(out, func(a, b DayNotice) int {
		ka, kb := a.Kind+a.Subject, b.Kind+b.Subject
		return cmp.Or(noticeOrder[a.Kind]-noticeOrder[b.Kind], urgent[kb]-urgent[ka], strings.Compare(ka, kb), b.Level-a.Level)
	})
	return out, err
}

func lastRun(tx *gorm.DB) (*DayWatch, error) {
	var runs []store.WatchRun
	if err := tx.Order("started_at DESC").Limit(1).Find(&runs).Error; err != nil || len(runs) == 0 {
		return nil, err
	}
	r := runs[0]
	w := &DayWatch{Day: r.Day.Format(dateOnly), Sites: r.Sites, SitesDone: r.SitesDone, Zones: r.Zones, Unchanged: r.Unchanged, Told: r.Told, Finished: r.FinishedAt != nil, At: r.StartedAt.UTC().Format(time.RFC3339)}
	if r.FinishedAt != nil {
		w.At = r.FinishedAt.UTC().Format(time.RFC3339)
	}
	return w, nil
}

func (s *Server) watchRoutes() {
	type notedInput struct {
		Body struct {
			IDs []uuid.UUID `json:"ids" minItems:"1" maxItems:"500" nullable:"false"`
		}
	}
	operation(s, http.MethodPost, "/watch/noted", "note-notices", "Put notices of the watch away as noted; they stay among what stands", "day", BookVisits, func(ctx context.Context, in *notedInput) (*struct{}, error) {
		today, err := s.clock.Today(ctx)
		if err != nil {
			return nil, s.said(err)
		}
		return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
			var n int64
			if err := tx.Model(&store.WatchNotice{}).Where("id IN ?", in.Body.IDs).Count(&n).Error; err != nil {
				return err
			}
			if int(n) != len(in.Body.IDs) {
				return store.ErrNotFound
			}
			return tx.Model(&store.WatchNotice{}).Where("id IN ? AND noted_on IS NULL", in.Body.IDs).Updates(map[string]any{"noted_on": today, "noted_by": who(ctx).Person}).Error
		})
	})
	type asked struct {
		Day string `json:"day" format:"date"`
	}
	operation(s, http.MethodPost, "/watch", "ask-watch", "Let the watch look now at what has changed since it looked last", "day", BookVisits, func(ctx context.Context, _ *struct{}) (*body[asked], error) {
		if s.jobs == nil {
			return nil, huma.Error503ServiceUnavailable("this server works no jobs")
		}
		today, err := s.clock.Today(ctx)
		if err != nil {
			return nil, s.said(err)
		}
		firm := who(ctx).Firm
		_, err = s.jobs.Ask(ctx, today, &firm)
		return answer(asked{today.Format(dateOnly)}), s.said(err)
	})
}
