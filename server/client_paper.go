package server

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/remedy"
	"hodos/paper"
	"hodos/store"
)

// sureSaid is how sure a diagnosis is, as it is said to a client.
var sureSaid = map[client.Sureness]string{
	client.Sure: "We are sure.", client.Likely: "Very likely.", client.Probable: "Most likely; we keep an eye on it.",
	client.Open: "Not settled yet.",
}

// courseSaid says how the recovery goes.
var courseSaid = map[string]string{
	"not-yet": "", "on-course": "It recovers as expected.", "slow": "It recovers more slowly than usual.",
	"off-course": "It does not recover as expected. We look at it again.", "recovered": "It has recovered.",
}

// dateForms are the forms of a date without its year and with it.
var dateForms = map[string][2]string{"dmy": {"2 Jan", "2 Jan 2006"}, "mdy": {"Jan 2", "Jan 2, 2006"}, "ymd": {"01-02", "2006-01-02"}}

// clientPaper sets a client's page on paper: a lawn after the other, the first on the first sheet.
func (s *Server) clientPaper(ctx context.Context, firm uuid.UUID, p casework.ClientPage) (*download, error) {
	pictures, err := s.clientPictures(ctx, firm, p)
	if err != nil {
		return nil, err
	}
	form := dateForms[p.Firm.DateForm]
	short, long := func(t time.Time) string { return t.Format(form[0]) }, func(t time.Time) string { return t.Format(form[1]) }
	var reached []string
	for _, l := range []string{p.Firm.Phone, p.Firm.Email, p.Firm.Address, p.Firm.Website} {
		if l != "" {
			reached = append(reached, l)
		}
	}
	if reached == nil {
		reached = []string{""}
	}
	sheet := paper.New(paper.Head{Title: "Your lawn at " + p.Site.Name, Under: p.Client.Name + " · " + long(p.Today), Firm: p.Firm.Name,
		Made: p.Today, Letter: reached})
	letter := &clientLetter{sheet, pictures, p.Today, short, long}
	told := 0
	for i := range p.Zones {
		t := &p.Zones[i]
		if t.Given == nil && len(t.Done) == 0 && len(t.Tasks) == 0 && t.Course.Start < 0 {
			continue
		}
		told++
		letter.section(t)
	}
	if told == 0 {
		sheet.Line("There is nothing to report on your lawns.")
	}
	if p.Firm.PoisonCentre != "" {
		sheet.Note("Poison centre: " + p.Firm.PoisonCentre)
	}
	b, err := sheet.Bytes()
	return fileOf("your-lawn.pdf", "application/pdf", b), s.said(err)
}

// clientLetter is a client's page on its way to paper.
type clientLetter struct {
	*paper.Sheet
	pictures    map[uuid.UUID][]byte
	today       time.Time
	short, long func(time.Time) string
}

// section sets one lawn.
func (sheet *clientLetter) section(t *casework.Told) {
	long := sheet.long
	sheet.Heading(t.Course.Zone.Name)
	if t.Closed != nil || t.Wet {
		sheet.Warn("People and pets keep off it " + closedSaid(t, long) + ".")
	}
	if f := clientFound(t); f != nil {
		if t.Past {
			sheet.Named(foundSaid(t, long)+":", f.Label+". "+f.What)
		} else {
			sheet.Lead(f.Label)
			sheet.Line(sureSaid[t.Sure] + " " + f.What)
			if len(f.Not) > 0 {
				sheet.Named("It is not:", strings.ToLower(strings.Join(f.Not, ", "))+".")
			}
			sheet.Named("What ends it:", f.Ends)
		}
		if f.Back != "" {
			sheet.Named("Will it come back?", f.Back)
		}
	}
	var shown []paper.Picture
	for _, x := range t.Photos {
		if b := sheet.pictures[x.ID]; b != nil {
			caption := long(x.TakenAt)
			if x.Cover != nil {
				caption += fmt.Sprintf(", %.0f %% green", *x.Cover*100)
			}
			shown = append(shown, paper.Picture{JPEG: b, Caption: caption})
		}
	}
	if len(shown) > 0 {
		sheet.Pictures(shown)
	}
	sheet.course(t)
	for _, part := range []struct {
		head string
		not  bool
	}{{"Please do", false}, {"Please do not", true}} {
		var rows [][]string
		for _, x := range t.Tasks {
			if x.Not == part.not {
				rows = append(rows, []string{spanSaid(x, sheet.short), x.Text})
			}
		}
		if len(rows) > 0 {
			sheet.Table([]paper.Column{{Head: part.head, Share: 2}, {Share: 9}}, rows)
		}
	}
	var rows [][]string
	for _, r := range t.Done {
		rows = append(rows, []string{long(r.AppliedOn), remedy.Label(r.Action), r.Product})
	}
	for _, j := range t.Booked {
		rows = append(rows, []string{long(j.DueOn) + ", planned", remedy.Label(j.Action), ""})
	}
	if len(rows) > 0 {
		sheet.Table([]paper.Column{{Head: "Done and planned", Share: 4}, {Share: 4}, {Share: 4}}, rows)
	}
	if t.Visit != nil {
		sheet.Named("Our next visit:", long(t.Visit.DueOn)+".")
	}
}

func (sheet *clientLetter) course(t *casework.Told) {
	short, long := sheet.short, sheet.long
	c := clientCourse(t, sheet.today)
	if c == nil {
		return
	}
	say := courseSaid[c.Verdict]
	early, mid, late := t.Judged.GreenDays()
	switch {
	case c.Verdict == "recovered" || mid.IsZero():
	case c.Due:
		say += " It should be green by now; we measure it at our next visit."
	case early.After(sheet.today) && !late.IsZero():
		say += fmt.Sprintf(" Green again about %s, between %s and %s.", long(mid), short(early), long(late))
	default:
		say += " Green again about " + long(mid) + "."
	}
	sheet.Named(fmt.Sprintf("%.0f %% green now.", c.Cover*100), strings.TrimSpace(say))
	var days []paper.Expected
	for _, x := range t.Judged.Points {
		days = append(days, paper.Expected{On: t.Judged.From.AddDate(0, 0, x.Day), Low: x.Low, Mid: x.Mid, High: x.High})
	}
	var points []paper.Point
	for _, m := range t.Course.Measures[t.Course.Start:] {
		points = append(points, paper.Point{On: m.MeasuredOn.UTC(), Share: m.Cover})
	}
	sheet.Course(days, points, c.Target, short)
}

// foundSaid says when something was found that is over.
func foundSaid(t *casework.Told, long func(time.Time) string) string {
	say := "Found on " + long(t.Given.GivenOn)
	if t.Ended != nil && t.Ended.Ended == store.Mended {
		say += ", mended on " + long(t.Ended.ClosedOn)
	}
	return say
}

func closedSaid(t *casework.Told, long func(time.Time) string) string {
	if t.Wet {
		return "until it has been watered in and is dry again"
	}
	return "until " + long(*t.Closed) + ", and until the grass is dry"
}

// spanSaid says when a task holds.
func spanSaid(x client.Task, short func(time.Time) string) string {
	switch {
	case x.To.IsZero():
		return "for now"
	case x.To.Equal(x.From):
		return short(x.From)
	}
	return short(x.From) + " to " + short(x.To)
}

// clientPictures are the pictures that stand on the page.
func (s *Server) clientPictures(ctx context.Context, firm uuid.UUID, p casework.ClientPage) (map[uuid.UUID][]byte, error) {
	var ids []uuid.UUID
	for _, z := range p.Zones {
		for _, x := range z.Photos {
			ids = append(ids, x.ID)
		}
	}
	out := map[uuid.UUID][]byte{}
	if len(ids) == 0 {
		return out, nil
	}
	var rows []struct {
		PhotoID uuid.UUID
		Picture []byte
	}
	err := s.said(s.store.InFirm(ctx, firm, func(tx *gorm.DB) error {
		return tx.Raw("SELECT photo_id, picture FROM pictures WHERE photo_id IN ?", ids).Scan(&rows).Error
	}))
	for _, r := range rows {
		out[r.PhotoID] = r.Picture
	}
	return out, err
}
