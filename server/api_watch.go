package server

import (
	"cmp"
	"context"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
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
	Kind     string    `json:"kind" enum:"window,prevent,endurance,frost,feeding,silent"`
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

var noticeOrder = map[string]int{"endurance": 0, "frost": 1, "silent": 2, "prevent": 3, "window": 4, "feeding": 5}

// NoticesLeft is how many lawns of one thing stand beside those that are listed.
type NoticesLeft struct {
	Kind    string `json:"kind"`
	Subject string `json:"subject"`
	New     bool   `json:"new"`
	Left    int    `json:"left"`
}

// listed is how many lawns of one thing the Day page gets at once.
const listed = 24

// notices lists what stands on a day: thirst and frost first, then windows, the urgent before the rest, the same of several zones
// together, at most so many of each: the urgent, then the oldest told. kind and subject limit it to one thing; an empty kind is all.
func notices(tx *gorm.DB, today time.Time, kind, subject string, most int) ([]DayNotice, []NoticesLeft, error) {
	var rows []struct {
		store.WatchNotice
		SiteID             uuid.UUID
		Site, Zone, Person string
		New                bool
		Of                 int
	}
	fresh := today.AddDate(0, 0, -newFor)
	err := tx.Raw(`WITH things AS (SELECT kind, subject, noted_on IS NULL AND told_on > @fresh AS new, count(*) AS of FROM watch_notices
			WHERE ended_on IS NULL AND told_on <= @today AND (@kind = '' OR kind = @kind AND subject = @subject) GROUP BY 1, 2, 3)
		SELECT n.*, s.id AS site_id, s.name AS site, z.name AS zone, coalesce(p.name, '') AS person, t.new, t.of FROM things t
		CROSS JOIN LATERAL (SELECT * FROM watch_notices w WHERE w.kind = t.kind AND w.subject = t.subject AND w.ended_on IS NULL
			AND w.told_on <= @today AND (w.noted_on IS NULL AND w.told_on > @fresh) = t.new ORDER BY w.level DESC, w.id LIMIT @most) n
		JOIN zones z ON z.id = n.zone_id JOIN sites s ON s.id = z.site_id LEFT JOIN people p ON p.id = n.noted_by
		ORDER BY s.name, z.name, n.id`, map[string]any{"fresh": fresh, "today": today, "kind": kind, "subject": subject, "most": most}).
		Scan(&rows).Error
	out, left := make([]DayNotice, 0, len(rows)), []NoticesLeft{}
	urgent, seen := map[string]int{}, map[NoticesLeft]bool{}
	for _, r := range rows {
		out = append(out, DayNotice{ID: r.ID, SiteID: r.SiteID, ZoneID: r.ZoneID, SiteName: r.Site, ZoneName: r.Zone, Kind: r.Kind,
			Subject: r.Subject, Label: watch.Label(r.Kind, r.Subject, r.Level), Level: r.Level,
			Since: r.Since.Format(dateOnly), ComesOn: dateText(r.ComesOn), Ahead: r.Ahead && r.Since.After(today), Reason: r.Detail,
			ToldOn: r.ToldOn.Format(dateOnly), New: r.New, NotedBy: r.Person})
		urgent[r.Kind+r.Subject] = max(urgent[r.Kind+r.Subject], r.Level)
		if more := (NoticesLeft{r.Kind, r.Subject, r.New, r.Of - most}); more.Left > 0 && !seen[more] {
			seen[more] = true
			left = append(left, more)
		}
	}
	slices.SortStableFunc(out, func(a, b DayNotice) int {
		ka, kb := a.Kind+a.Subject, b.Kind+b.Subject
		return cmp.Or(noticeOrder[a.Kind]-noticeOrder[b.Kind], urgent[kb]-urgent[ka], cmp.Compare(ka, kb), b.Level-a.Level)
	})
	return out, left, err
}

// lastRun is the newest round of the latest day that is not after today: two rounds may be begun in either order.
func lastRun(tx *gorm.DB, today time.Time) (*DayWatch, error) {
	var runs []store.WatchRun
	if err := tx.Where("day <= ?", today).Order("day DESC, started_at DESC").Limit(1).Find(&runs).Error; err != nil || len(runs) == 0 {
		return nil, err
	}
	r := runs[0]
	w := &DayWatch{Day: r.Day.Format(dateOnly), Sites: r.Sites, SitesDone: r.SitesDone, Zones: r.Zones, Unchanged: r.Unchanged, Told: r.Told,
		Finished: r.FinishedAt != nil, At: r.StartedAt.UTC().Format(time.RFC3339)}
	if r.FinishedAt != nil {
		w.At = r.FinishedAt.UTC().Format(time.RFC3339)
	}
	return w, nil
}

type thingInput struct {
	Kind    string `query:"kind" required:"true" enum:"window,prevent,endurance,frost,feeding,silent"`
	Subject string `query:"subject" maxLength:"60"`
}

// listNotices answers GET /watch/notices: every lawn of which one thing stands.
func (s *Server) listNotices(ctx context.Context, in *thingInput) (*body[[]DayNotice], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	var out []DayNotice
	err = s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		out, _, err = notices(tx, today, in.Kind, in.Subject, 1<<30)
		return err
	})
	return answer(out), err
}

type notedInput struct {
	Body struct {
		Kind    string `json:"kind" enum:"window,prevent,endurance,frost,feeding,silent"`
		Subject string `json:"subject" maxLength:"60"`
	}
}

// noteNotices answers POST /watch/noted: put one thing that the watch tells away as noted, for all lawns; it stays among what stands.
func (s *Server) noteNotices(ctx context.Context, in *notedInput) (*struct{}, error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Model(&store.WatchNotice{}).Where("kind = ? AND subject = ? AND ended_on IS NULL AND noted_on IS NULL AND told_on <= ?",
			in.Body.Kind, in.Body.Subject, today).Updates(map[string]any{"noted_on": today, "noted_by": who(ctx).Person})
		return r.Error
	})
}

type asked struct {
	Day string `json:"day" format:"date"`
}

// askWatch answers POST /watch: let the watch look now at what has changed since it looked last.
func (s *Server) askWatch(ctx context.Context, _ *struct{}) (*body[asked], error) {
	if s.jobs == nil {
		return nil, huma.Error503ServiceUnavailable("this server works no jobs")
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	firm := who(ctx).Firm
	_, err = s.jobs.Ask(ctx, casework.OnDay(today), &firm)
	return answer(asked{today.Format(dateOnly)}), s.said(err)
}
