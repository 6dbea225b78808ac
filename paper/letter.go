package paper

import (
	"bytes"
	"fmt"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"
)

// letterhead sets the firm's name and where it is reached, with a rule under it.
func (s *Sheet) letterhead(h Head) {
	p := s.pdf
	p.SetFont(face, "B", plain+2)
	p.CellFormat(0, 6, said(h.Firm), "", 1, "R", false, 0, "")
	p.SetFont(face, "", small)
	p.CellFormat(0, 4.5, said(strings.Join(h.Letter, " · ")), "", 1, "R", false, 0, "")
	w, _ := p.GetPageSize()
	p.Line(margin, p.GetY()+1.5, w-margin, p.GetY()+1.5)
	p.Ln(4)
}

// Lead sets a line that is read first.
func (s *Sheet) Lead(text string) { s.text(large, "B", said(text)) }

// Named sets a line of text behind its name.
func (s *Sheet) Named(name, text string) {
	p := s.pdf
	p.SetFont(face, "B", plain)
	p.Write(plain*.45, said(name)+" ")
	p.SetFont(face, "", plain)
	p.Write(plain*.45, said(text))
	p.Ln(plain*.45 + 1.2)
}

// Picture is a JPEG with what stands under it.
type Picture struct {
	JPEG    []byte
	Caption string
}

// pictureHigh is how high a picture stands on the sheet, mm: two of them and the words go onto one sheet.
const pictureHigh = 42.0

// Pictures sets up to two pictures side by side. One that is no JPEG is left out.
func (s *Sheet) Pictures(list []Picture) {
	p := s.pdf
	w, page := p.GetPageSize()
	wide := (w - 2*margin - 4) / 2
	if p.GetY()+pictureHigh+8 > page-margin-8 {
		p.AddPage()
	}
	x, y := margin, p.GetY()+1
	for i, pic := range list[:min(2, len(list))] {
		name := fmt.Sprintf("picture %d on page %d at %.0f", i, p.PageNo(), y)
		info := p.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "JPG"}, bytes.NewReader(pic.JPEG))
		if p.Err() || info == nil || info.Width() <= 0 {
			p.ClearError()
			continue
		}
		width, height := wide, wide*info.Height()/info.Width()
		if height > pictureHigh {
			width, height = pictureHigh*info.Width()/info.Height(), pictureHigh
		}
		p.ImageOptions(name, x, y, width, height, false, fpdf.ImageOptions{ImageType: "JPG"}, 0, "")
		p.SetFont(face, "", small)
		p.SetXY(x, y+pictureHigh+.5)
		p.CellFormat(wide, 4.5, said(pic.Caption), "", 0, "L", false, 0, "")
		x += wide + 4
	}
	p.SetXY(margin, y+pictureHigh+6)
}

// Expected is one day of a course: shares of 0 to 1.
type Expected struct {
	On             time.Time
	Low, Mid, High float64
}

// Point is a measured share of a day.
type Point struct {
	On    time.Time
	Share float64
}

// Course draws how something is expected to go, as a band with its middle, and what was measured; target is the share that is aimed at.
func (s *Sheet) Course(days []Expected, measured []Point, target float64, date func(time.Time) string) {
	if len(days) < 2 {
		return
	}
	const high, left = 26.0, 12.0
	p := s.pdf
	w, page := p.GetPageSize()
	if p.GetY()+high+12 > page-margin-8 {
		p.AddPage()
	}
	from, to := days[0].On, days[len(days)-1].On
	top, wide := p.GetY()+2, w-2*margin-left
	x := func(on time.Time) float64 { return margin + left + wide*on.Sub(from).Hours()/to.Sub(from).Hours() }
	y := func(share float64) float64 { return top + high*(1-share) }
	var band, low []fpdf.PointType
	for i, d := range days {
		band = append(band, fpdf.PointType{X: x(d.On), Y: y(d.High)})
		back := days[len(days)-1-i]
		low = append(low, fpdf.PointType{X: x(back.On), Y: y(back.Low)})
	}
	p.SetFillColor(216, 226, 212)
	p.Polygon(append(band, low...), "F")
	p.SetDrawColor(120, 120, 120)
	p.Line(margin+left, y(0), margin+left+wide, y(0))
	p.SetDashPattern([]float64{1.5, 1.2}, 0)
	p.Line(margin+left, y(target), margin+left+wide, y(target))
	p.SetDashPattern(nil, 0)
	p.SetDrawColor(36, 84, 60)
	p.SetLineWidth(.5)
	for i := 1; i < len(days); i++ {
		p.Line(x(days[i-1].On), y(days[i-1].Mid), x(days[i].On), y(days[i].Mid))
	}
	p.SetFillColor(20, 20, 20)
	for _, m := range measured {
		if !m.On.Before(from) && !m.On.After(to) {
			p.Circle(x(m.On), y(m.Share), 1.2, "F")
		}
	}
	p.SetLineWidth(.2)
	p.SetDrawColor(0, 0, 0)
	p.SetFont(face, "", small-1)
	for _, share := range []float64{0, target} {
		p.SetXY(margin, y(share)-2)
		p.CellFormat(left-1.5, 4, fmt.Sprintf("%.0f %%", share*100), "", 0, "R", false, 0, "")
	}
	for i := range 4 {
		on := from.Add(to.Sub(from) * time.Duration(i) / 3).Truncate(24 * time.Hour)
		p.SetXY(min(x(on), margin+left+wide-22), y(0)+.8)
		p.CellFormat(22, 4, said(date(on)), "", 0, "L", false, 0, "")
	}
	p.SetXY(margin, y(0)+6)
}
