package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"fmt"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/knowledge"
	"hodos/core/recovery"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/store"
)

// ClientPage is what a client sees of a site: their own lawns, in their own words, and nothing else of the firm.
type ClientPage struct {
	Firm       ClientFirm   `json:"firm"`
	Client     string       `json:"client"`
	Site       string       `json:"site"`
	Address    string       `json:"address"`
	MadeOn     string       `json:"made_on" format:"date"`
	DateForm   string       `json:"date_form" enum:"dmy,mdy,ymd"`
	UnitSystem string       `json:"unit_system" enum:"metric,us"`
	Zones      []ClientZone `json:"zones" nullable:"false"`
}

// ClientFirm is the head of the page.
type ClientFirm struct {
	Name string `json:"name"`
	Letterhead
	PoisonCentre string `json:"poison_centre"`
}

// ClientZone is one lawn as a client sees it.
type ClientZone struct {
	ID       uuid.UUID       `json:"id"`
	Name     string          `json:"name"`
	Grass    []string        `json:"grass" nullable:"false"`
	Found    *ClientFound    `json:"found,omitempty" doc:"left out where nothing was diagnosed"`
	Course   *ClientCourse   `json:"course,omitempty" doc:"left out where no recovery is followed"`
	Pictures []ClientPicture `json:"pictures" nullable:"false" doc:"the first and the last, of the bad spot"`
	Done     []ClientWork    `json:"done" nullable:"false"`
	Booked   []ClientWork    `json:"booked" nullable:"false"`
	VisitOn  string          `json:"visit_on,omitempty" format:"date"`
	Tasks    []ClientTask    `json:"tasks" nullable:"false"`
	Closed   *ClientClosed   `json:"closed,omitempty" doc:"people and pets keep off"`
}

// ClientFound is the diagnosis.
type ClientFound struct {
	Cause   string   `json:"cause"`
	Family  string   `json:"family"`
	Label   string   `json:"label"`
	Sure    string   `json:"sure" enum:"sure,likely,probable,open"`
	Says    string   `json:"says" doc:"how sure that is; of what is history, when it was found"`
	GivenOn string   `json:"given_on" format:"date"`
	What    string   `json:"what" doc:"what it is"`
	Why     string   `json:"why" doc:"how we know, as one sentence; empty where no reasons were kept"`
	Ends    string   `json:"ends" doc:"what ends it, or how one lives with it"`
	Back    string   `json:"back" doc:"whether it comes back, and why"`
	Not     []string `json:"not" nullable:"false" doc:"what it is often taken for and is not"`
	Past    bool     `json:"past" doc:"mended, or found too long ago to be what the lawn has now"`
}

// ClientCourse is how the lawn recovers.
type ClientCourse struct {
	StartedOn string          `json:"started_on" format:"date"`
	Target    float64         `json:"target"`
	Cover     float64         `json:"cover" doc:"green cover of the damaged part at the last measurement, 0 to 1"`
	Measured  string          `json:"measured_on" format:"date"`
	Verdict   string          `json:"verdict" enum:"not-yet,on-course,slow,off-course,recovered"`
	Says      string          `json:"says" doc:"how it goes, and when it should be green again"`
	Due       bool            `json:"due" doc:"it should have been green by now: it has to be measured"`
	Early     string          `json:"early,omitempty" format:"date" doc:"green again from then on at the earliest"`
	GreenOn   string          `json:"green_on,omitempty" format:"date"`
	Late      string          `json:"late,omitempty" format:"date" doc:"green again by then; left out where that lies beyond the course"`
	Expected  []ExpectedDay   `json:"expected" nullable:"false"`
	Measures  []ClientMeasure `json:"measures" nullable:"false"`
}

// ClientMeasure is one measured point of the course.
type ClientMeasure struct {
	On    string  `json:"on" format:"date"`
	Cover float64 `json:"cover"`
}

// ClientPicture is a picture that a client may see, without the place where it was taken.
type ClientPicture struct {
	ID      uuid.UUID `json:"id"`
	TakenOn string    `json:"taken_on" format:"date"`
	Cover   *float64  `json:"cover,omitempty"`
}

// ClientWork is something that was done, or is booked.
type ClientWork struct {
	On      string `json:"on" format:"date"`
	Action  string `json:"action"`
	Label   string `json:"label"`
	Product string `json:"product,omitempty"`
}

// ClientTask is something for the client to do, or to leave.
type ClientTask struct {
	Kind string `json:"kind" enum:"safety,water,mow,feed,ready,tell"`
	Not  bool   `json:"not" doc:"to be left"`
	From string `json:"from" format:"date"`
	To   string `json:"to,omitempty" format:"date" doc:"left out where it holds until further notice"`
	When string `json:"when" doc:"what it is about, and when it holds"`
	Text string `json:"text"`
}

// ClientClosed says how long nobody goes on the lawn.
type ClientClosed struct {
	Until *time.Time `json:"until,omitempty"`
	Wet   bool       `json:"wet" doc:"until it has been watered in and is dry again"`
	Says  string     `json:"says"`
}

// clientPage reads a site's page and works it out, for whoever may see it.
func (s *Server) clientPage(ctx context.Context, firm, site uuid.UUID, unitSystem string) (casework.ClientPage, units.Saying, error) {
	var p casework.ClientPage
	now, err := s.moment(ctx)
	if err != nil {
		return p, units.Saying{}, err
	}
	err = s.said(s.store.InFirm(ctx, firm, func(tx *gorm.DB) (err error) {
		p, err = casework.ReadClientPage(tx, site, now)
		return err
	}))
	if err != nil {
		return p, units.Saying{}, err
	}
	if unitSystem != "" {
		p.Firm.UnitSystem = unitSystem
	}
	say := units.In(p.Firm.UnitSystem)
	p.Tell(ctx, s.weather, say, func(station string, err error) { s.log.Warn("no weather ahead", "station", station, "error", err) })
	return p, say, nil
}

func clientPageView(p casework.ClientPage) ClientPage {
	f := p.Firm
	out := ClientPage{Firm: ClientFirm{f.Name, Letterhead{f.Phone, f.Email, f.Address, f.Website}, f.PoisonCentre}, Client: p.Client.Name,
		Site: p.Site.Name, Address: p.Site.Address, MadeOn: p.Today.Format(dateOnly), DateForm: f.DateForm, UnitSystem: f.UnitSystem,
		Zones: []ClientZone{}}
	for i := range p.Zones {
		out.Zones = append(out.Zones, clientZone(&p.Zones[i], wordsFor(p)))
	}
	return out
}

func clientZone(t *casework.Told, w clientWords) ClientZone {
	z := ClientZone{ID: t.Course.Zone.ID, Name: t.Course.Zone.Name, Grass: t.Grass, Pictures: []ClientPicture{}, Done: []ClientWork{},
		Booked: []ClientWork{}, Tasks: []ClientTask{}, Found: clientFound(t, w), Course: clientCourse(t, w)}
	for _, x := range t.Photos {
		z.Pictures = append(z.Pictures, ClientPicture{x.ID, x.TakenAt.Format(dateOnly), x.Cover})
	}
	for _, r := range t.Done {
		z.Done = append(z.Done, ClientWork{r.AppliedOn.Format(dateOnly), r.Action, remedy.Label(r.Action), r.Product})
	}
	for _, j := range t.Booked {
		z.Booked = append(z.Booked, ClientWork{On: j.DueOn.Format(dateOnly), Action: j.Action, Label: remedy.Label(j.Action)})
	}
	if t.Visit != nil {
		z.VisitOn = t.Visit.DueOn.Format(dateOnly)
	}
	for _, x := range t.Tasks {
		task := ClientTask{Kind: string(x.Kind), Not: x.Not, From: x.From.Format(dateOnly), Text: x.Text,
			When: kindSaid[x.Kind] + ", " + w.when(x)}
		if !x.To.IsZero() {
			task.To = x.To.Format(dateOnly)
		}
		z.Tasks = append(z.Tasks, task)
	}
	if t.Closed != nil || t.Wet {
		z.Closed = &ClientClosed{t.Closed, t.Wet, w.closed(t)}
	}
	return z
}

// news says whether there is anything to tell of a lawn.
func (z ClientZone) news() bool {
	return z.Found != nil || z.Course != nil || z.Closed != nil || len(z.Done)+len(z.Booked)+len(z.Tasks)+len(z.Pictures) > 0
}

func clientFound(t *casework.Told, w clientWords) *ClientFound {
	if t.Given == nil {
		return nil
	}
	c, _ := knowledge.CauseByID(t.Cause)
	out := &ClientFound{Cause: c.ID, Family: c.Family, Label: c.Label, Sure: string(t.Sure), Says: w.found(t),
		GivenOn: t.Given.GivenOn.Format(dateOnly),
		What:    t.About.What, Why: sentence(t.Why), Ends: t.About.Ends, Back: t.About.Back, Not: t.Not, Past: t.Past}
	if out.Not == nil {
		out.Not = []string{}
	}
	if t.Sure == client.Open {
		out.Back = ""
	}
	return out
}

func clientCourse(t *casework.Told, w clientWords) *ClientCourse {
	c, j := t.Course, t.Judged
	if c.Start < 0 {
		return nil
	}
	r := recoveryView(c, j)
	last := c.Measures[len(c.Measures)-1]
	out := &ClientCourse{StartedOn: r.StartedOn, Target: r.Target, Cover: last.Cover, Measured: last.MeasuredOn.Format(dateOnly),
		Verdict: r.Verdict, Says: w.course(j), GreenOn: r.GreenOn, Expected: r.Expected, Measures: []ClientMeasure{}}
	early, mid, late := j.GreenDays()
	if out.Due = !mid.IsZero() && !mid.After(w.today) && r.Verdict != string(recovery.Recovered); !out.Due {
		if early.After(w.today) {
			out.Early = early.Format(dateOnly)
		}
		if !late.IsZero() {
			out.Late = late.Format(dateOnly)
		}
	}
	for _, m := range c.Measures[c.Start:] {
		out.Measures = append(out.Measures, ClientMeasure{m.MeasuredOn.Format(dateOnly), m.Cover})
	}
	return out
}

type clientPageInput struct {
	IDPath
	Units string `query:"units" enum:",metric,us" doc:"those of the firm when left out"`
}

// previewClientPage answers GET /sites/{id}/client-page: what the client would see.
func (s *Server) previewClientPage(ctx context.Context, in *clientPageInput) (*body[ClientPage], error) {
	p, _, err := s.clientPage(ctx, who(ctx).Firm, in.ID, in.Units)
	return answer(clientPageView(p)), err
}

// clientSheet answers GET /sites/{id}/client-page/pdf: the same on paper.
func (s *Server) clientSheet(ctx context.Context, in *clientPageInput) (*download, error) {
	p, _, err := s.clientPage(ctx, who(ctx).Firm, in.ID, in.Units)
	if err != nil {
		return nil, err
	}
	return s.clientPaper(ctx, who(ctx).Firm, p)
}

// ClientLink is a secret address of a client's page.
type ClientLink struct {
	ID        uuid.UUID  `json:"id"`
	MadeBy    string     `json:"made_by"`
	CreatedAt time.Time  `json:"created_at"`
	ExpiresAt time.Time  `json:"expires_at"`
	Withdrawn bool       `json:"withdrawn"`
	Expired   bool       `json:"expired"`
	Opened    int        `json:"opened" doc:"how many times"`
	OpenedAt  *time.Time `json:"opened_at,omitempty" doc:"the last time"`
	Path      string     `json:"path,omitempty" doc:"told once, when it is made"`
	Sent      bool       `json:"sent,omitempty" doc:"it has just been sent to the client"`
}

// longestLink is how long a link may hold, in days (judgement: a season and what follows).
const longestLink = 366

// mostLinks are listed of a site.
const mostLinks = 50

// listClientLinks answers GET /sites/{id}/links: the links that were made for a site's client, the newest first.
func (s *Server) listClientLinks(ctx context.Context, in *IDPath) (*body[[]ClientLink], error) {
	out := []ClientLink{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.Select("id").First(&store.Site{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		var rows []struct {
			store.ClientLink
			Name string
		}
		err := tx.Table("client_links l").Select("l.*, p.name").Joins("JOIN people p ON p.id = l.person_id").
			Where("l.site_id = ?", in.ID).Order("l.created_at DESC").Limit(mostLinks).Scan(&rows).Error
		for _, r := range rows {
			out = append(out, s.linkOf(r.ClientLink, r.Name))
		}
		return err
	})
	return answer(out), err
}

func (s *Server) linkOf(r store.ClientLink, by string) ClientLink {
	return ClientLink{ID: r.ID, MadeBy: by, CreatedAt: r.CreatedAt, ExpiresAt: r.ExpiresAt, Withdrawn: r.WithdrawnAt != nil,
		Expired: !r.ExpiresAt.After(s.now()), Opened: r.Opened, OpenedAt: r.OpenedAt}
}

// makeClientLink answers POST /sites/{id}/links: a secret address for a client. It is told once; only its hash is kept.
func (s *Server) makeClientLink(ctx context.Context, in *struct {
	IDPath
	Body struct {
		ID   uuid.UUID `json:"id"`
		Days int       `json:"days" minimum:"1" maximum:"366" doc:"for how long it holds"`
		Send bool      `json:"send" required:"false" doc:"to the client's email address"`
	}
}) (*body[ClientLink], error) {
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	token, hash, err := secret()
	if err != nil {
		return nil, s.said(err)
	}
	now := s.now().UTC()
	row := store.ClientLink{ID: in.Body.ID, TokenHash: hash, FirmID: who(ctx).Firm, SiteID: in.ID, PersonID: who(ctx).Person, CreatedAt: now,
		ExpiresAt: now.AddDate(0, 0, min(in.Body.Days, longestLink))}
	var l linkLetter
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&l.site, "id = ?", in.ID).Error; err != nil {
			return err
		}
		if in.Body.Send {
			if err := s.readLetter(tx, &l); err != nil {
				return err
			}
		}
		return tx.Create(&row).Error
	})
	if err != nil {
		return nil, err
	}
	out := s.linkOf(row, who(ctx).Name)
	out.Path = "/for/" + token
	if in.Body.Send {
		out.Sent = s.sendLink(ctx, l, out)
	}
	return answer(out), nil
}

// linkLetter is what a letter with a link is made of.
type linkLetter struct {
	site   store.Site
	client store.Client
	firm   store.Firm
}

// readLetter reads whom a link goes to, and refuses where there is no way.
func (s *Server) readLetter(tx *gorm.DB, l *linkLetter) error {
	if s.accounts.Mail == nil {
		return invalid("body.send", "this server sends no mail: copy the link and send it yourself")
	}
	if err := tx.First(&l.client, "id = ?", l.site.ClientID).Error; err != nil {
		return err
	}
	if strings.TrimSpace(l.client.Email) == "" {
		return invalid("body.send", l.client.Name+" has no email address")
	}
	return tx.First(&l.firm, "id = ?", l.site.FirmID).Error
}

// sendLink sends a link to the client; where that fails it is still there to be handed over.
func (s *Server) sendLink(ctx context.Context, l linkLetter, link ClientLink) bool {
	form := dateForms[l.firm.DateForm][1]
	until := link.ExpiresAt.In(casework.Location(l.site.Timezone)).Format(form)
	text := fmt.Sprintf("Hello %s,\n\nhere is the page of your lawn at %s: what we found, how it recovers, what we did and what you can do. "+
		"You can tell us there what you see, and send pictures."+
		"\n\n%s%s\n\nIt is open until %s, for whoever has this link.\n\n%s\n%s\n", l.client.Name, l.site.Name, s.accounts.URL, link.Path, until,
		l.firm.Name, l.firm.Phone)
	if err := s.accounts.Mail.Send(ctx, l.client.Email, "Your lawn at "+l.site.Name, text); err != nil {
		s.log.Error("a link was not sent", "error", err)
		return false
	}
	return true
}

// secret draws a token that nobody guesses, and the hash that is kept of it.
func secret() (token string, hash []byte, err error) {
	b := make([]byte, 32)
	if _, err := rand.Read(b); err != nil {
		return "", nil, err
	}
	token = base64.RawURLEncoding.EncodeToString(b)
	sum := sha256.Sum256([]byte(token))
	return token, sum[:], nil
}

// withdrawClientLink answers DELETE /links/{id}: the address shows nothing any more.
func (s *Server) withdrawClientLink(ctx context.Context, in *IDPath) (*struct{}, error) {
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		r := tx.Model(&store.ClientLink{}).Where("id = ? AND withdrawn_at IS NULL", in.ID).Update("withdrawn_at", s.now().UTC())
		if r.Error == nil && r.RowsAffected == 0 {
			return store.ErrNotFound
		}
		return r.Error
	})
}

// ForClient is a secret address as it comes in.
type ForClient struct {
	Token string `path:"token" maxLength:"60"`
}

type behindLink struct {
	ID, FirmID, SiteID uuid.UUID
	ExpiresAt          time.Time
	Withdrawn          bool
}

// behind is the site that a secret address shows. A wrong one, one that has run out and one that was withdrawn are the same to whoever
// asks.
func (s *Server) behind(ctx context.Context, token string) (behindLink, error) {
	hash := sha256.Sum256([]byte(token))
	var l behindLink
	if err := s.store.Shared(ctx).Raw("SELECT * FROM client_link(decode(?, 'hex'))", hex.EncodeToString(hash[:])).Scan(&l).Error; err != nil {
		return l, s.said(err)
	}
	if l.FirmID == uuid.Nil || l.Withdrawn || !l.ExpiresAt.After(s.now()) {
		return l, huma.Error404NotFound("this page is closed. Ask whoever sent you the link for a new one")
	}
	return l, nil
}

// openClientPage answers GET /for/{token}: the page, for whoever has the address.
func (s *Server) openClientPage(ctx context.Context, in *struct {
	ForClient
	Units string `query:"units" enum:",metric,us" doc:"those of the firm when left out"`
}) (*private[ClientPage], error) {
	l, err := s.behind(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	p, _, err := s.clientPage(ctx, l.FirmID, l.SiteID, in.Units)
	if err != nil {
		return nil, err
	}
	err = s.said(s.store.InFirm(ctx, l.FirmID, func(tx *gorm.DB) error {
		return tx.Model(&store.ClientLink{}).Where("id = ?", l.ID).
			Updates(map[string]any{"opened": gorm.Expr("opened + 1"), "opened_at": s.now().UTC()}).Error
	}))
	return &private[ClientPage]{"private, no-store", "noindex", clientPageView(p)}, err
}

// private is an answer that nothing on the way keeps and no search finds.
type private[T any] struct {
	CacheControl string `header:"Cache-Control"`
	Robots       string `header:"X-Robots-Tag"`
	Body         T
}

// openClientSheet answers GET /for/{token}/pdf: the page on paper.
func (s *Server) openClientSheet(ctx context.Context, in *struct {
	ForClient
	Units string `query:"units" enum:",metric,us"`
}) (*download, error) {
	l, err := s.behind(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	if !s.heavy.begin(l.ID) {
		return nil, huma.Error429TooManyRequests("the sheet is being made already: wait until it is done")
	}
	defer s.heavy.end(l.ID)
	p, _, err := s.clientPage(ctx, l.FirmID, l.SiteID, in.Units)
	if err != nil {
		return nil, err
	}
	return s.clientPaper(ctx, l.FirmID, p)
}

// openClientPicture answers GET /for/{token}/pictures/{photo}: a picture that stands on the page, and no other.
func (s *Server) openClientPicture(ctx context.Context, in *struct {
	ForClient
	Photo uuid.UUID `path:"photo" format:"uuid"`
}) (*pictureOut, error) {
	l, err := s.behind(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	out := &pictureOut{Status: 200, ContentType: "image/jpeg", CacheControl: "private, no-store"}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	return out, s.said(s.store.InFirm(ctx, l.FirmID, func(tx *gorm.DB) error {
		shown, err := casework.ShownToClient(tx, l.SiteID, in.Photo, now)
		if err != nil {
			return err
		}
		if !shown {
			return store.ErrNotFound
		}
		return orMissing(tx.Raw("SELECT picture FROM pictures WHERE photo_id = ?", in.Photo).Row().Scan(&out.Body))
	}))
}
