package server

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/triage"
	"hodos/exchange/photofile"
	"hodos/store"
)

// Asking is what a client is asked before a visit.
type Asking struct {
	Firm      ClientFirm    `json:"firm"`
	Site      string        `json:"site"`
	DateForm  string        `json:"date_form" enum:"dmy,mdy,ymd"`
	Zones     []AskedZone   `json:"zones" nullable:"false"`
	Questions []AskedOf     `json:"questions" nullable:"false"`
	Pictures  int           `json:"pictures" doc:"how many may be sent"`
	VisitOn   string        `json:"visit_on,omitempty" format:"date" doc:"somebody is coming anyway"`
	Told      []ClientsCall `json:"told" nullable:"false" doc:"what was told by this link lately"`
	Full      bool          `json:"full" doc:"no more can be told today"`
}

// AskedZone is one of the client's lawns.
type AskedZone struct {
	ID   uuid.UUID `json:"id"`
	Name string    `json:"name"`
}

// AskedOf is one question with its choices.
type AskedOf struct {
	Finding string        `json:"finding"`
	Text    string        `json:"text"`
	Many    bool          `json:"many" doc:"more than one may be picked"`
	Choices []AskedChoice `json:"choices" nullable:"false"`
}

// AskedChoice is one way to answer.
type AskedChoice struct {
	ID   string `json:"id"`
	Text string `json:"text"`
}

// ClientsCall is what was told, as the client sees it.
type ClientsCall struct {
	ToldOn   string `json:"told_on" format:"date"`
	Zone     string `json:"zone"`
	Pictures int    `json:"pictures"`
}

// NewCall is what a client tells.
type NewCall struct {
	ID      uuid.UUID `json:"id" doc:"version 7, made by the client: a repeated request does nothing twice"`
	ZoneID  uuid.UUID `json:"zone_id"`
	Answers []Picked  `json:"answers" maxItems:"40" nullable:"false"`
	Note    string    `json:"note" maxLength:"2000" required:"false"`
}

// Picked is how a client answers one question.
type Picked struct {
	Finding string   `json:"finding" maxLength:"60"`
	Choices []string `json:"choices" minItems:"1" maxItems:"20" nullable:"false"`
}

// TookCall is what a client is told then.
type TookCall struct {
	ID    uuid.UUID `json:"id"`
	Until []string  `json:"until" nullable:"false" doc:"what to do and to leave until somebody has come"`
}

// Limits of what is told through one link (judgement): nobody tells more of a lawn in a day, and a leaked link fills no disk.
const (
	callsADay    = 5
	callPictures = 6
)

// askClient answers GET /for/{token}/questions: what can be told before a visit, for whoever has the link.
func (s *Server) askClient(ctx context.Context, in *ForClient) (*private[Asking], error) {
	l, err := s.behind(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	out := Asking{Zones: []AskedZone{}, Questions: []AskedOf{}, Pictures: callPictures, Told: []ClientsCall{}}
	for _, q := range client.Questions() {
		x := AskedOf{q.Finding, q.Text, q.Many, nil}
		for _, c := range q.Choices {
			x.Choices = append(x.Choices, AskedChoice{c.ID, c.Text})
		}
		out.Questions = append(out.Questions, x)
	}
	err = s.said(s.store.InFirm(ctx, l.FirmID, func(tx *gorm.DB) error { return s.asking(tx, l, &out) }))
	return &private[Asking]{"private, no-store", "noindex", out}, err
}

// asking reads what stands at the head of the questions.
func (s *Server) asking(tx *gorm.DB, l behindLink, out *Asking) error {
	var firm store.Firm
	var site store.Site
	var zones []store.Zone
	if err := tx.First(&firm, "id = ?", l.FirmID).Error; err != nil {
		return err
	}
	if err := tx.First(&site, "id = ?", l.SiteID).Error; err != nil {
		return err
	}
	if err := tx.Where("site_id = ?", l.SiteID).Order("name, id").Find(&zones).Error; err != nil {
		return err
	}
	out.Firm = ClientFirm{firm.Name, Letterhead{firm.Phone, firm.Email, firm.Address, firm.Website}, firm.PoisonCentre}
	out.Site, out.DateForm = site.Name, firm.DateForm
	for _, z := range zones {
		out.Zones = append(out.Zones, AskedZone{z.ID, z.Name})
	}
	var due []time.Time
	if err := tx.Raw("SELECT due_on FROM visits WHERE site_id = ? AND closed_on IS NULL AND started_on IS NULL ORDER BY due_on LIMIT 1",
		l.SiteID).Scan(&due).Error; err != nil {
		return err
	}
	if len(due) == 1 {
		out.VisitOn = due[0].Format(dateOnly)
	}
	var told []struct {
		ToldOn   time.Time
		Zone     string
		Pictures int
	}
	if err := tx.Raw(`SELECT c.told_on, z.name AS zone, (SELECT count(*) FROM call_pictures p WHERE p.call_id = c.id) AS pictures
		FROM calls c JOIN zones z ON z.id = c.zone_id WHERE c.link_id = ? ORDER BY c.told_at DESC LIMIT 5`, l.ID).Scan(&told).Error; err != nil {
		return err
	}
	for _, t := range told {
		out.Told = append(out.Told, ClientsCall{t.ToldOn.Format(dateOnly), t.Zone, t.Pictures})
	}
	n, err := s.toldToday(tx, l)
	out.Full = n >= callsADay
	return err
}

// toldToday counts what was told through a link in the last day, by the real clock.
func (s *Server) toldToday(tx *gorm.DB, l behindLink) (n int64, err error) {
	err = tx.Model(&store.Call{}).Where("link_id = ? AND told_at > ?", l.ID, s.now().UTC().Add(-24*time.Hour)).Count(&n).Error
	return n, err
}

// takeCall answers POST /for/{token}/calls: what a client tells of a lawn before anybody has looked at it.
func (s *Server) takeCall(ctx context.Context, in *struct {
	ForClient
	Body NewCall
}) (*private[TookCall], error) {
	l, err := s.behind(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	row, told, err := in.Body.row()
	if err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	err = s.said(s.store.InFirm(ctx, l.FirmID, func(tx *gorm.DB) error {
		// one call of a link after the other, so that the limit of a day holds
		if err := tx.Exec("SELECT FROM client_links WHERE id = ? FOR UPDATE", l.ID).Error; err != nil {
			return err
		}
		var z store.Zone
		if err := tx.Where("id = ? AND site_id = ?", in.Body.ZoneID, l.SiteID).Limit(1).Find(&z).Error; err != nil {
			return err
		}
		if z.ID == uuid.Nil {
			return invalid("body.zone_id", "is no lawn of this page")
		}
		var site store.Site
		if err := tx.First(&site, "id = ?", l.SiteID).Error; err != nil {
			return err
		}
		var again int64
		if err := tx.Model(&store.Call{}).Where("id = ? AND link_id = ?", row.ID, l.ID).Count(&again).Error; err != nil || again > 0 {
			return err
		}
		if n, err := s.toldToday(tx, l); err != nil {
			return err
		} else if n >= callsADay {
			return huma.Error429TooManyRequests("you have told us a lot today. Please call us instead")
		}
		row.FirmID, row.LinkID, row.ToldAt, row.ToldOn = l.FirmID, l.ID, s.now().UTC(), now.In(site.Timezone)
		v, err := casework.ReadTold(tx, s.known, z.ID, row.ToldOn, told)
		if err != nil {
			return err
		}
		if err := v.Triage(z.AreaM2, &row); err != nil {
			return err
		}
		return casework.TakeCall(tx, l.SiteID, &row)
	}))
	if err == nil && row.Within == string(triage.Today) { // told again it is not judged anew, and no news
		s.alert(ctx, l, row)
	}
	return &private[TookCall]{"private, no-store", "noindex", TookCall{row.ID, client.Until()}}, err
}

// alert tells the office by letter of a call that cannot wait; what fails here stands on the Day page all the same.
func (s *Server) alert(ctx context.Context, l behindLink, row store.Call) {
	if s.accounts.Mail == nil {
		return
	}
	var c casework.Called
	var firm store.Firm
	err := s.store.InFirm(ctx, l.FirmID, func(tx *gorm.DB) (err error) {
		if err := tx.First(&firm).Error; err != nil {
			return err
		}
		c, err = casework.FindCall(tx, row.ID)
		return err
	})
	if err == nil && firm.Email != "" {
		subject, text := c.Alarm(s.accounts.URL)
		err = s.accounts.Mail.Send(ctx, firm.Email, subject, text)
	}
	if err != nil {
		s.log.Error("the office was not told of a call", "error", err)
	}
}

// row is a call as it is stored, with its answers as findings; the error names what is wrong with them.
func (n NewCall) row() (row store.Call, told map[string]any, err error) {
	told = map[string]any{}
	picked := map[string][]string{}
	var wrong []error
	for i, a := range n.Answers {
		where := fmt.Sprintf("body.answers[%d]", i)
		plain, err := client.Told(a.Finding, a.Choices)
		switch {
		case err != nil:
			wrong = append(wrong, field(where, err.Error()))
		case picked[a.Finding] != nil:
			wrong = append(wrong, field(where, "is answered twice"))
		default:
			told[a.Finding], picked[a.Finding] = plain, a.Choices
		}
	}
	if len(wrong) > 0 {
		return row, nil, huma.Error422UnprocessableEntity("please check the fields marked below", wrong...)
	}
	if len(told) == 0 && strings.TrimSpace(n.Note) == "" {
		return row, nil, invalid("body.answers", "nothing is told: answer a question, or write what you see")
	}
	row = store.Call{ID: n.ID, ZoneID: n.ZoneID, Note: strings.TrimSpace(n.Note)}
	if row.Answers, err = json.Marshal(told); err != nil {
		return row, nil, err
	}
	row.Picked, err = json.Marshal(picked)
	return row, told, err
}

// takeCallPicture answers PUT /for/{token}/calls/{call}/pictures/{place}: a picture to what was told; the same place again is no error.
func (s *Server) takeCallPicture(ctx context.Context, in *struct {
	ForClient
	Call  uuid.UUID `path:"call" format:"uuid"`
	Place int       `path:"place" minimum:"1" maximum:"6"`
	Body  struct {
		Picture string `json:"picture" maxLength:"8000000" contentEncoding:"base64" doc:"JPEG or PNG, at most 25 million pixels"`
	}
}) (*struct{}, error) {
	l, err := s.behind(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	if !s.heavy.begin(l.ID) {
		return nil, huma.Error429TooManyRequests("a picture is being taken in already: wait until it is done")
	}
	defer s.heavy.end(l.ID)
	row := store.CallPicture{CallID: in.Call, Place: in.Place, FirmID: l.FirmID}
	if row.ID, err = uuid.NewV7(); err != nil {
		return nil, s.said(err)
	}
	if row.Picture, row.Thumbnail, err = pictureFrom(in.Body.Picture); err != nil {
		return nil, err
	}
	return nil, s.said(s.store.InFirm(ctx, l.FirmID, func(tx *gorm.DB) error {
		var mine int64
		if err := tx.Model(&store.Call{}).Where("id = ? AND link_id = ? AND told_at > ?", in.Call, l.ID,
			s.now().UTC().Add(-24*time.Hour)).Count(&mine).Error; err != nil {
			return err
		}
		if mine == 0 {
			return store.ErrNotFound
		}
		return tx.Exec(`INSERT INTO call_pictures (id, call_id, place, firm_id, picture, thumbnail) VALUES (?, ?, ?, ?, ?, ?)
			ON CONFLICT (call_id, place) DO NOTHING`, row.ID, row.CallID, row.Place, row.FirmID, row.Picture, row.Thumbnail).Error
	}))
}

// pictureFrom is a picture and its thumbnail, written anew: nothing but pixels stays of what was sent.
func pictureFrom(text string) (picture, thumbnail []byte, err error) {
	file, err := base64.StdEncoding.DecodeString(text)
	if err != nil {
		return nil, nil, invalid("body.picture", "is not base64")
	}
	img, err := photofile.Read(file)
	if err != nil {
		return nil, nil, invalid("body.picture", err.Error())
	}
	if picture, err = photofile.JPEG(img); err != nil {
		return nil, nil, err
	}
	thumbnail, err = photofile.Thumbnail(img)
	return picture, thumbnail, err
}
