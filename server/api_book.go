package server

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/knowledge"
	"hodos/core/label"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/plain"
	"hodos/paper"
	"hodos/store"
)

// Entry is one line of the book of applications.
type Entry struct {
	Record       Record `json:"record"`
	SiteName     string `json:"site_name"`
	Address      string `json:"address"`
	ZoneName     string `json:"zone_name"`
	ClientName   string `json:"client_name"`
	Label        string `json:"label" doc:"what was done"`
	Target       string `json:"target"`
	Registration string `json:"registration"`
	LabelNumber  int    `json:"label_number,omitempty"`
	Lot          string `json:"lot"`
	Machine      string `json:"machine"`
	Supervisor   string `json:"supervisor"`
	RecordedAt   string `json:"recorded_at"`
	Replaced     bool   `json:"replaced" doc:"corrected by a later record"`
}

// Book is the applications of a period, the oldest first.
type Book struct {
	From    string  `json:"from" format:"date"`
	To      string  `json:"to" format:"date"`
	Entries []Entry `json:"entries" nullable:"false"`
	More    bool    `json:"more" doc:"there are more than are told here: the files hold all"`
}

type bookIn struct {
	From   string    `query:"from" maxLength:"10" required:"true"`
	To     string    `query:"to" maxLength:"10" required:"true"`
	SiteID uuid.UUID `query:"site_id" format:"uuid"`
	Kind   string    `query:"kind" enum:",pesticide,fertilizer" doc:"pesticides alone, or feedings alone"`
}

// bookRows is how many entries a page shows and a file holds.
const bookPage, bookFile = 300, 50_000

type bookRow struct {
	store.TreatmentRecord
	SiteName, Address, ZoneName, ClientName, Timezone, Place string
	Lot, Machine, Supervisor, SupervisorLicence              string
	LabelNumber                                              int
	LabelText                                                store.JSON
	Replaced                                                 bool
}

func (s *Server) book(ctx context.Context, in *bookIn, limit int) (out Book, err error) {
	from, err := dateOf("query.from", in.From)
	if err != nil {
		return out, err
	}
	to, err := dateOf("query.to", in.To)
	if err != nil {
		return out, err
	}
	if to.Before(from) || to.Sub(from) > 5*366*24*time.Hour {
		return out, invalid("query.to", "is before the first day, or more than five years after it")
	}
	out = Book{From: in.From, To: in.To, Entries: []Entry{}}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		q := tx.Table("treatment_records r").
			Select(`r.*, coalesce(e.names -> 'sites' -> s.id::text ->> 'name', s.name) AS site_name,
			coalesce(e.names -> 'sites' -> s.id::text ->> 'address', s.address) AS address, s.timezone,
			coalesce(nullif(s.place, ''), ?) AS place, z.name AS zone_name,
			coalesce(e.names ->> 'client', c.name) AS client_name, l.lot, m.name AS machine, p.name AS supervisor,
			p.licence_number AS supervisor_licence, pl.number AS label_number,
			pl.label AS label_text, EXISTS (SELECT FROM treatment_records x WHERE x.corrects_id = r.id) AS replaced`, who(ctx).Country).
			Joins("JOIN zones z ON z.id = r.zone_id JOIN sites s ON s.id = z.site_id JOIN clients c ON c.id = s.client_id").
			Joins("LEFT JOIN erasures e ON e.client_id = c.id"). // what the law wants with a name keeps it for its time
			Joins("LEFT JOIN product_lots l ON l.id = r.lot_id LEFT JOIN machines m ON m.id = r.machine_id").
			Joins("LEFT JOIN people p ON p.id = r.supervisor_id LEFT JOIN product_labels pl ON pl.id = r.label_id").
			Where("r.applied_on BETWEEN ? AND ?", from, to)
		if in.SiteID != uuid.Nil {
			q = q.Where("s.id = ?", in.SiteID)
		}
		var rows []bookRow
		if err := q.Order("r.applied_on, r.seq").Limit(limit + 1).Scan(&rows).Error; err != nil {
			return err
		}
		out.More = len(rows) > limit
		for _, r := range rows[:min(len(rows), limit)] {
			if e := entryOf(r); kept(in.Kind, e, r) {
				out.Entries = append(out.Entries, e)
			}
		}
		return nil
	})
	return out, err
}

// kept reports whether an entry belongs into the book of a kind.
func kept(kind string, e Entry, r bookRow) bool {
	switch kind {
	case "pesticide":
		return e.Record.LicenceNumber != "" || remedy.Pesticide(r.Action)
	case "fertilizer":
		return r.NGM2 != nil || r.PGM2 != nil || r.KGM2 != nil || r.FeGM2 != nil
	}
	return true
}

func entryOf(r bookRow) Entry {
	e := Entry{
		Record:     recordOf(r.TreatmentRecord),
		SiteName:   r.SiteName,
		Address:    r.Address,
		ZoneName:   r.ZoneName,
		ClientName: r.ClientName,
		Label: remedy.Label(
			r.Action,
		),
		Target:      causeLabel(r.Target),
		LabelNumber: r.LabelNumber,
		Lot:         r.Lot,
		Machine:     r.Machine,
		Replaced:    r.Replaced,
		RecordedAt:  r.RecordedAt.In(casework.Location(r.Timezone)).Format("2006-01-02 15:04"),
	}
	e.Record.clocks(r.TreatmentRecord, casework.Location(r.Timezone))
	if r.Supervisor != "" {
		e.Supervisor = strings.TrimSpace(r.Supervisor + " " + r.SupervisorLicence)
	}
	var l label.Label
	if r.LabelText != nil && json.Unmarshal(r.LabelText, &l) == nil {
		for _, p := range l.Places {
			if strings.EqualFold(p.Place, r.Place) {
				e.Registration = p.Number
			}
		}
	}
	return e
}

// causeLabel is what a target is called; what is no cause stands as it is.
func causeLabel(id string) string {
	if c, ok := knowledge.CauseByID(id); ok {
		return c.Label
	}
	return id
}

// listBook answers GET /book: the applications of a period.
func (s *Server) listBook(ctx context.Context, in *bookIn) (*body[Book], error) {
	out, err := s.book(ctx, in, bookPage)
	return answer(out), err
}

// File is a file to be kept.
type download struct {
	ContentDisposition string `header:"Content-Disposition"`
	ContentType        string `header:"Content-Type"`
	Body               []byte
}

func fileOf(name, kind string, b []byte) *download {
	return &download{`attachment; filename="` + name + `"`, kind, b}
}

var bookColumns = []string{
	"date",
	"start",
	"end",
	"client",
	"site",
	"address",
	"zone",
	"part",
	"area_m2",
	"what",
	"target",
	"product",
	"registration",
	"label_version",
	"lot",
	"amount",
	"unit",
	"rate_per_m2",
	"carrier_l_100m2",
	"n_g_m2",
	"p_g_m2",
	"k_g_m2",
	"fe_g_m2",
	"actives_g_m2",
	"water_mm",
	"method",
	"machine",
	"wind_ms",
	"wind_direction",
	"air_c",
	"humidity_percent",
	"soil_c",
	"sky",
	"weather_from",
	"applicator",
	"licence",
	"supervisor",
	"closed_until",
	"watered_in",
	"posted",
	"swept",
	"flags",
	"reason",
	"note",
	"record",
	"corrects",
	"state",
	"recorded",
}

// cells are an entry in the order of the columns.
func (e Entry) cells() []string {
	r, d := e.Record, e.Record.Details
	if d == nil {
		d = &Details{}
	}
	yes := map[bool]string{true: "yes"}
	at := map[string]string{"date": r.AppliedOn, "start": r.Started, "end": r.Ended, "client": e.ClientName, "site": e.SiteName,
		"address": e.Address, "zone": e.ZoneName, "part": d.Part, "what": e.Label, "target": e.Target, "product": r.Product,
		"registration": e.Registration, "lot": e.Lot, "unit": r.AmountUnit, "method": d.Method, "machine": e.Machine, "wind_direction": d.WindDir,
		"sky": d.Sky, "weather_from": d.WeatherFrom, "applicator": r.SignedName, "licence": r.LicenceNumber, "supervisor": e.Supervisor,
		"watered_in": r.WateredIn, "posted": yes[d.Posted], "swept": yes[d.Swept], "reason": r.OutsideReason, "note": r.Note,
		"record": r.ID.String(), "recorded": e.RecordedAt, "state": e.state(), "flags": e.flags("; "), "actives_g_m2": e.actives()}
	for name, x := range map[string]*float64{"area_m2": &r.AreaM2, "amount": r.Amount, "rate_per_m2": r.Rate, "carrier_l_100m2": r.Carrier,
		"n_g_m2": r.NGM2, "p_g_m2": r.PGM2, "k_g_m2": r.KGM2, "fe_g_m2": r.FeGM2, "water_mm": r.WaterMM, "wind_ms": r.WindMS, "air_c": r.AirC,
		"humidity_percent": d.RH, "soil_c": d.SoilC} {
		if x != nil {
			at[name] = strconv.FormatFloat(*x, 'f', -1, 64)
		}
	}
	if e.LabelNumber > 0 {
		at["label_version"] = strconv.Itoa(e.LabelNumber)
	}
	if r.CorrectsID != nil {
		at["corrects"] = r.CorrectsID.String()
	}
	if r.ClosedUntil != nil {
		at["closed_until"] = r.ClosedUntil.Format("2006-01-02 15:04")
	}
	out := make([]string, len(bookColumns))
	for i, name := range bookColumns {
		out[i] = at[name]
	}
	return out
}

// state is whether an entry stands.
func (e Entry) state() string {
	switch {
	case e.Record.Voided:
		return "void"
	case e.Replaced:
		return "corrected"
	}
	return "stands"
}

func (e Entry) flags(between string) string {
	var out []string
	for _, f := range e.Record.Flags {
		out = append(out, f.Kind+": "+f.Text)
	}
	return strings.Join(out, between)
}

func (e Entry) actives() string {
	if e.Record.Given == nil {
		return ""
	}
	var out []string
	for _, name := range sortedKeys(e.Record.Given.Actives) {
		out = append(out, fmt.Sprintf("%s %.4g", name, e.Record.Given.Actives[name]))
	}
	return strings.Join(out, "; ")
}

// bookCSV answers GET /book/csv: the book as a file.
func (s *Server) bookCSV(ctx context.Context, in *bookIn) (*download, error) {
	book, err := s.book(ctx, in, bookFile)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	_ = w.Write(bookColumns) // a buffer takes everything
	for _, e := range book.Entries {
		cells := e.cells()
		for i := range cells {
			cells[i] = plain.Cell(cells[i])
		}
		_ = w.Write(cells)
	}
	w.Flush()
	return fileOf("applications-"+in.From+"-"+in.To+".csv", "text/csv; charset=utf-8", b.Bytes()), w.Error()
}

// bookPDF answers GET /book/pdf: the book on paper.
func (s *Server) bookPDF(ctx context.Context, in *bookIn) (*download, error) {
	book, err := s.book(ctx, in, 2000)
	if err != nil {
		return nil, err
	}
	if book.More {
		return nil, invalid("query.to", "more than 2,000 applications: a shorter period, or the file with columns")
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	say := saying(ctx)
	sheet := paper.New(
		paper.Head{Title: "Book of applications", Under: in.From + " to " + in.To, Firm: who(ctx).FirmName, Made: today, Wide: true},
	)
	var rows [][]string
	for _, e := range book.Entries {
		rows = append(rows, bookLine(e, say))
	}
	sheet.Table(
		[]paper.Column{
			{Head: "When", Share: 9},
			{Head: "Where", Share: 17},
			{Head: "What, against what", Share: 14},
			{Head: "Product, registration, lot", Share: 17},
			{
				Head:  "Amount, rate, area",
				Share: 15,
			},
			{Head: "Weather", Share: 12},
			{Head: "By, licence", Share: 12},
			{Head: "Closed until, flags", Share: 16},
		},
		rows,
	)
	b, err := sheet.Bytes()
	return fileOf("applications-"+in.From+"-"+in.To+".pdf", "application/pdf", b), s.said(err)
}

// bookLine is an entry as it stands on paper.
func bookLine(e Entry, say units.Saying) []string {
	r, d := e.Record, e.Record.Details
	if d == nil {
		d = &Details{}
	}
	join := func(parts ...string) string {
		var out []string
		for _, p := range parts {
			if strings.TrimSpace(p) != "" {
				out = append(out, p)
			}
		}
		return strings.Join(out, ", ")
	}
	with := func(x *float64, unit string) string {
		if x == nil {
			return ""
		}
		return say.Amount(*x, unit)
	}
	when := r.AppliedOn
	if r.Started != "" {
		when += " " + r.Started
	}
	if r.Ended != "" && r.Ended != r.Started {
		when += "–" + r.Ended
	}
	amount, unit := "", "g/m2"
	if r.Amount != nil {
		if u, err := units.Lookup(r.AmountUnit); err == nil {
			base := "g"
			if u.Dimension == units.Volume {
				base, unit = "mL", "mL/m2"
			}
			amount = say.Amount(u.SI(*r.Amount), base)
		}
	}
	state := ""
	switch {
	case r.Voided:
		state = "VOID"
	case e.Replaced:
		state = "corrected by a later entry"
	case r.CorrectsID != nil:
		state = "correction"
	}
	closed := ""
	if r.ClosedUntil != nil {
		closed = r.ClosedUntil.Format("2006-01-02 15:04")
	}
	var flags []string
	for _, f := range r.Flags {
		flags = append(flags, f.Text)
	}
	reason := ""
	if r.OutsideReason != "" {
		reason = "reason: " + r.OutsideReason
	}
	return []string{
		when,
		join(e.ClientName, e.SiteName, e.Address, e.ZoneName, d.Part),
		join(e.Label, e.Target),
		join(r.Product, e.Registration, prefixed("lot ", e.Lot)),
		join(
			amount,
			with(r.Rate, unit),
			with(r.Carrier, "L/100m2"),
			say.Amount(r.AreaM2, "m2"),
			e.Machine,
		),
		join(with(r.WindMS, "m/s"), d.WindDir, with(r.AirC, "C"), with(d.RH, "%")),
		join(r.SignedName, r.LicenceNumber, prefixed("under ", e.Supervisor)),
		join(state, closed, strings.Join(flags, "; "), reason),
	}
}

func prefixed(before, text string) string {
	if text == "" {
		return ""
	}
	return before + text
}
