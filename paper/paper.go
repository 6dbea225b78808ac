// Package paper makes sheets that are printed: mix sheet, posting sign, book of applications, year plan. It lays out what it is given
// and decides nothing; the same content and date give the same bytes.
package paper

import (
	"bytes"
	_ "embed" // the typeface
	"fmt"
	"strings"
	"time"
	"unicode/utf8"

	"codeberg.org/go-pdf/fpdf"
)

//go:embed fonts/regular.ttf
var regular []byte

//go:embed fonts/bold.ttf
var bold []byte

// The sheet, mm.
const (
	margin = 14.0
	face   = "hyperlegible"
	small  = 9.0
	plain  = 11.0
	large  = 15.0
	huge   = 26.0
)

// Sheet is a document under way.
type Sheet struct {
	pdf  *fpdf.Fpdf
	foot string
}

// Head is what stands at the top and at the foot of every page.
type Head struct {
	Title, Under, Firm string
	Made               time.Time
	Wide               bool     // across
	Letter             []string // what stands under the firm's name at the top, of what goes to a client; nothing for sheets of the crew
}

// New begins a document.
func New(h Head) *Sheet {
	way := "P"
	if h.Wide {
		way = "L"
	}
	s := &Sheet{pdf: fpdf.New(way, "mm", "A4", ""), foot: said(h.Firm) + " · " + h.Made.Format("2 January 2006")}
	p := s.pdf
	p.SetCreationDate(h.Made)
	p.SetModificationDate(h.Made)
	p.SetCatalogSort(true)
	p.SetTitle(said(h.Title), true)
	p.AddUTF8FontFromBytes(face, "", regular)
	p.AddUTF8FontFromBytes(face, "B", bold)
	p.SetMargins(margin, margin, margin)
	p.SetAutoPageBreak(true, margin+6)
	p.SetFooterFunc(func() {
		p.SetY(-margin)
		p.SetFont(face, "", small)
		p.CellFormat(0, 5, s.foot, "", 0, "L", false, 0, "")
		p.SetX(margin)
		p.CellFormat(0, 5, fmt.Sprintf("page %d", p.PageNo()), "", 0, "R", false, 0, "")
	})
	p.AddPage()
	if h.Letter != nil {
		s.letterhead(h)
	}
	s.text(large+3, "B", said(h.Title))
	if h.Under != "" {
		s.text(plain, "", said(h.Under))
	}
	p.Ln(2)
	return s
}

// said leaves out what the typeface does not hold, and sets what stands for it.
func said(text string) string {
	text = strings.NewReplacer("→", "to", "−", "-", "\u202f", " ", "\u00a0", " ", "\t", " ").Replace(text)
	return strings.Map(func(r rune) rune {
		switch {
		case r == utf8.RuneError || (r < ' ' && r != '\n'):
			return -1
		case r > 0x24F && !strings.ContainsRune("–—‘’“”•…€‰≤≥≈≠·×÷²³₂₅₀₁₃₄°½¼¾µ", r):
			return '?'
		}
		return r
	}, text)
}

func (s *Sheet) text(size float64, style, text string) {
	s.pdf.SetFont(face, style, size)
	s.pdf.MultiCell(0, size*.45, text, "", "L", false)
}

// Heading sets a heading.
func (s *Sheet) Heading(text string) {
	s.pdf.Ln(2.5)
	s.text(plain+2, "B", said(text))
	s.pdf.Ln(.5)
}

// Line sets a line of text.
func (s *Sheet) Line(text string) { s.text(plain, "", said(text)) }

// Note sets a line of small text.
func (s *Sheet) Note(text string) { s.text(small, "", said(text)) }

// Shout sets one line across the sheet, as large as it fits, to be read from the gate.
func (s *Sheet) Shout(text string) {
	p, text := s.pdf, said(text)
	p.SetFont(face, "B", 10)
	wide, _ := p.GetPageSize()
	size := min(96, 10*(wide-2*margin)/p.GetStringWidth(text)*.98)
	p.SetFont(face, "B", size)
	p.CellFormat(0, size*.5, text, "", 1, "CM", false, 0, "")
}

// Big sets a figure with its name, large enough for the tailgate.
func (s *Sheet) Big(name, figure string) {
	p := s.pdf
	p.SetFont(face, "", plain)
	p.CellFormat(70, 13, said(name), "B", 0, "LM", false, 0, "")
	p.SetFont(face, "B", huge)
	p.CellFormat(0, 13, said(figure), "B", 1, "RM", false, 0, "")
}

// Warn sets a line in a frame.
func (s *Sheet) Warn(text string) {
	s.pdf.SetFont(face, "B", plain)
	s.pdf.SetLineWidth(.6)
	s.pdf.MultiCell(0, 6.5, said(text), "1", "L", false)
	s.pdf.SetLineWidth(.2)
	s.pdf.Ln(1)
}

// Space leaves room for what is written by hand.
func (s *Sheet) Space(name string) {
	s.pdf.SetFont(face, "", plain)
	s.pdf.CellFormat(70, 10, said(name), "B", 0, "LB", false, 0, "")
	s.pdf.CellFormat(0, 10, "", "B", 1, "", false, 0, "")
}

// Column is a column of a table: its share of the width.
type Column struct {
	Head  string
	Share float64
	Right bool
}

// Table sets a table; its head stands on every page.
func (s *Sheet) Table(columns []Column, rows [][]string) {
	p := s.pdf
	w, _ := p.GetPageSize()
	width, sum := w-2*margin, 0.0
	for _, c := range columns {
		sum += c.Share
	}
	head := func() {
		p.SetFont(face, "B", small)
		for _, c := range columns {
			p.CellFormat(width*c.Share/sum, 6, said(c.Head), "B", 0, "LB", false, 0, "")
		}
		p.Ln(6.5)
	}
	head()
	p.SetFont(face, "", small)
	for _, row := range rows {
		s.row(columns, row, width/sum, head)
	}
}

// row sets one row as high as its highest cell.
func (s *Sheet) row(columns []Column, row []string, unit float64, head func()) {
	p := s.pdf
	const line = 4.2
	cells, high := make([][]string, len(columns)), 1
	for i, c := range columns {
		text := ""
		if i < len(row) {
			text = said(row[i])
		}
		cells[i] = append(cells[i], p.SplitText(text, c.Share*unit-1.5)...)
		high = max(high, len(cells[i]))
	}
	_, page := p.GetPageSize()
	if p.GetY()+float64(high)*line > page-margin-8 {
		p.AddPage()
		head()
		p.SetFont(face, "", small)
	}
	x, y := p.GetX(), p.GetY()
	for i, c := range columns {
		for n, l := range cells[i] {
			p.SetXY(x, y+float64(n)*line)
			align := "L"
			if c.Right {
				align = "R"
			}
			p.CellFormat(c.Share*unit-1.5, line, l, "", 0, align, false, 0, "")
		}
		x += c.Share * unit
	}
	p.SetXY(margin, y+float64(high)*line+1)
	w, _ := p.GetPageSize()
	p.Line(margin, p.GetY()-.4, w-margin, p.GetY()-.4)
}

// Bytes ends the document.
func (s *Sheet) Bytes() ([]byte, error) {
	var b bytes.Buffer
	if err := s.pdf.Output(&b); err != nil {
		return nil, fmt.Errorf("paper: %w", err)
	}
	return b.Bytes(), nil
}
