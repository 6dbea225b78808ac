package server

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/paper"
)

// clientPaper sets a client's page on paper, from the page itself: nothing stands here that does not stand there.
func (s *Server) clientPaper(ctx context.Context, firm uuid.UUID, p casework.ClientPage) (*download, error) {
	pictures, err := s.clientPictures(ctx, firm, p)
	if err != nil {
		return nil, err
	}
	view, w := clientPageView(p), wordsFor(p)
	reached := []string{}
	for _, l := range []string{view.Firm.Phone, view.Firm.Email, view.Firm.Address, view.Firm.Website} {
		if l != "" {
			reached = append(reached, l)
		}
	}
	sheet := paper.New(paper.Head{Title: "Your lawn at " + view.Site, Under: view.Client + " · " + w.long(p.Today), Firm: view.Firm.Name,
		Made: p.Today, Letter: reached})
	told := 0
	for _, z := range view.Zones {
		if z.news() {
			told++
			clientSection(sheet, z, pictures, w)
		}
	}
	if told == 0 {
		sheet.Line("There is nothing to report on your lawns.")
	}
	if view.Firm.PoisonCentre != "" {
		sheet.Note("Poison centre: " + view.Firm.PoisonCentre)
	}
	b, err := sheet.Bytes()
	return fileOf("your-lawn.pdf", "application/pdf", b), s.said(err)
}

// dateSaid says a day of the page.
func dateSaid(w clientWords, iso string) string {
	t, _ := time.Parse(dateOnly, iso) // written by the page itself
	return w.long(t)
}

// clientSection sets one lawn.
func clientSection(sheet *paper.Sheet, z ClientZone, pictures map[uuid.UUID][]byte, w clientWords) {
	sheet.Heading(z.Name)
	if z.Closed != nil {
		sheet.Warn(z.Closed.Says)
	}
	if f := z.Found; f != nil {
		if f.Past {
			sheet.Named(f.Label+".", f.Says+" "+f.What)
		} else {
			sheet.Lead(f.Label)
			sheet.Line(f.Says + " " + f.What)
			if f.Why != "" {
				sheet.Named("How we know:", f.Why)
			}
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
	for _, x := range z.Pictures {
		if b := pictures[x.ID]; b != nil {
			caption := dateSaid(w, x.TakenOn)
			if x.Cover != nil {
				caption += fmt.Sprintf(", %.0f %% green", *x.Cover*100)
			}
			shown = append(shown, paper.Picture{JPEG: b, Caption: caption})
		}
	}
	if len(shown) > 0 {
		sheet.Pictures(shown)
	}
	if z.Course != nil {
		coursePaper(sheet, *z.Course, w)
	}
	for _, part := range []struct {
		head string
		not  bool
	}{{"Please do", false}, {"Please do not", true}} {
		var rows [][]string
		for _, x := range z.Tasks {
			if x.Not == part.not {
				rows = append(rows, []string{x.When, x.Text})
			}
		}
		if len(rows) > 0 {
			sheet.Table([]paper.Column{{Head: part.head, Share: 3}, {Share: 9}}, rows)
		}
	}
	var rows [][]string
	for _, d := range z.Done {
		rows = append(rows, []string{dateSaid(w, d.On), d.Label, d.Product})
	}
	for _, d := range z.Booked {
		rows = append(rows, []string{dateSaid(w, d.On) + ", planned", d.Label, ""})
	}
	if len(rows) > 0 {
		sheet.Table([]paper.Column{{Head: "Done and planned", Share: 4}, {Share: 4}, {Share: 4}}, rows)
	}
	if z.VisitOn != "" {
		sheet.Named("Our next visit:", dateSaid(w, z.VisitOn)+".")
	}
}

// coursePaper draws the course with what is said of it.
func coursePaper(sheet *paper.Sheet, c ClientCourse, w clientWords) {
	day := func(iso string) time.Time { t, _ := time.Parse(dateOnly, iso); return t }
	sheet.Named(fmt.Sprintf("%.0f %% green on %s.", c.Cover*100, dateSaid(w, c.Measured)), c.Says)
	var days []paper.Expected
	for _, x := range c.Expected {
		days = append(days, paper.Expected{On: day(x.Date), Low: x.Low, Mid: x.Mid, High: x.High})
	}
	var points []paper.Point
	for _, m := range c.Measures {
		points = append(points, paper.Point{On: day(m.On), Share: m.Cover})
	}
	sheet.Course(days, points, c.Target, w.short)
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
