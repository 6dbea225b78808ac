package server

import (
	"bytes"
	"cmp"
	"context"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/figures"
	"hodos/core/knowledge"
	"hodos/core/turf"
	"hodos/exchange/plain"
	"hodos/store"
)

// Figures are what a firm has seen in a span: counts with how well they are known. Each leads to its cases.
type Figures struct {
	From       string       `json:"from" format:"date"`
	To         string       `json:"to" format:"date"`
	Cases      int          `json:"cases" doc:"diagnoses given, the last of each zone and visit"`
	Causes     []CauseCount `json:"causes" nullable:"false" doc:"the most frequent first"`
	Grasses    []Count      `json:"grasses" nullable:"false"`
	Minutes    Middle       `json:"minutes" doc:"of a visit on which a lawn was diagnosed, from arrival to leaving"`
	Confirmed  Share        `json:"confirmed" doc:"closed cases whose first diagnosis was right"`
	Calibrated []Calibrated `json:"calibrated" nullable:"false" doc:"closed cases by the chance that the diagnosis gave"`
	Treatments Mean         `json:"treatments" doc:"records in the four months after a diagnosis"`
	Courses    []Count      `json:"courses" nullable:"false" doc:"recoveries by their verdict"`
	Product    Mean         `json:"product" doc:"product put down as a share of what was planned, over the records that say both"`
	Checks     Share        `json:"checks" doc:"checks without which something else would have been decided"`
	ByCheck    []CheckCount `json:"by_check" nullable:"false" doc:"the most minutes first"`
	Saved      Mean         `json:"saved" doc:"a closed case, in the firm's money, against going by the client's word"`
	Water      Mean         `json:"water" doc:"water given as a share of what keeping green asked for, in the four weeks before a visit"`
}

// CheckCount is how often a check was made and how often it decided.
type CheckCount struct {
	Procedure string  `json:"procedure"`
	Label     string  `json:"label"`
	Minutes   float64 `json:"minutes" doc:"of all of them"`
	Share
}

// CauseCount are the cases of a cause by month.
type CauseCount struct {
	Cause  string `json:"cause"`
	Label  string `json:"label"`
	N      int    `json:"n"`
	Months []int  `json:"months" nullable:"false" doc:"twelve, January first"`
}

// Count is a number of cases of something.
type Count struct {
	ID    string `json:"id"`
	Label string `json:"label"`
	N     int    `json:"n"`
}

// Share is a share of cases with its 95 % interval.
type Share struct {
	Of   int     `json:"of"`
	N    int     `json:"n"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Middle is a median with its quartiles and its 95 % interval.
type Middle struct {
	N       int     `json:"n"`
	Median  float64 `json:"median"`
	Quarter float64 `json:"quarter"`
	ThreeQ  float64 `json:"three_quarters"`
	Low     float64 `json:"low"`
	High    float64 `json:"high"`
}

// Mean is a mean with its 95 % interval.
type Mean struct {
	N    int     `json:"n"`
	Mean float64 `json:"mean"`
	Low  float64 `json:"low"`
	High float64 `json:"high"`
}

// Calibrated is one step of a calibration.
type Calibrated struct {
	From     float64 `json:"from"`
	To       float64 `json:"to"`
	Promised float64 `json:"promised"`
	Share
}

// FirmCase is one case behind the figures.
type FirmCase struct {
	ZoneID      uuid.UUID `json:"zone_id"`
	VisitID     uuid.UUID `json:"visit_id"`
	Site        string    `json:"site"`
	Zone        string    `json:"zone"`
	Grass       string    `json:"grass" doc:"id of the first grass"`
	Cause       string    `json:"cause"`
	Probability float64   `json:"probability"`
	GivenOn     string    `json:"given_on" format:"date"`
	Confirmed   string    `json:"confirmed" doc:"what it was after all; empty while the case is open"`
	Treatments  int       `json:"treatments"`
	Minutes     *float64  `json:"minutes,omitempty"`
	Saved       *float64  `json:"saved,omitempty" doc:"in the firm's money"`
	WaterGiven  *float64  `json:"water_given_mm,omitempty" doc:"in the four weeks before"`
	WaterAsked  *float64  `json:"water_asked_mm,omitempty"`
}

// FiguresSpan is the span that figures are made of.
type FiguresSpan struct {
	From string `query:"from" format:"date" required:"true"`
	To   string `query:"to" format:"date" required:"true"`
}

// longestFigures is the longest span, and mostFigures the most cases, that figures are made of (judgement: three seasons of a large firm).
const (
	longestFigures = 3 * 366
	mostFigures    = 40_000
)

func (in FiguresSpan) span() (from, to time.Time, err error) {
	if from, err = dateOf("query.from", in.From); err != nil {
		return from, to, err
	}
	if to, err = dateOf("query.to", in.To); err != nil {
		return from, to, err
	}
	switch {
	case to.Before(from):
		return from, to, invalid("query.to", "is before the first day")
	case to.Sub(from).Hours() > longestFigures*24:
		return from, to, invalid("query.to", "is more than three years after the first day")
	}
	return from, to, nil
}

type figuredCase struct {
	ZoneID, VisitID   uuid.UUID
	Site, Zone, Grass string
	Cause             string `gorm:"column:leading_cause"`
	Confirmed         string
	Probability       float64
	GivenOn           time.Time
	Treatments        int
	ArrivedAt, LeftAt *time.Time
	Saved             *float64
	WaterGiven        *float64
	WaterAsked        *float64
	Checks            store.JSON
}

// checks are the handlings of the visit; none where nobody has looked back on it yet.
func (c figuredCase) checks() (out []casework.LookedCheck) {
	_ = json.Unmarshal(c.Checks, &out) // written by the night alone
	return out
}

// decided says whether a check was made, and whether it decided.
func (c figuredCase) decided(procedure string) (made, decided bool) {
	for _, x := range c.checks() {
		if x.Procedure == procedure {
			return true, x.Decided
		}
	}
	return false, false
}

// minutes is how long somebody was there; nil where one of the moments was not noted.
func (c figuredCase) minutes() *float64 {
	if c.ArrivedAt == nil || c.LeftAt == nil {
		return nil
	}
	m := math.Round(c.LeftAt.Sub(*c.ArrivedAt).Minutes())
	return &m
}

// treatedDays is for how long after a diagnosis treatments count as its own (judgement).
const treatedDays = 120

// figuredCases reads the cases of a span, the newest first.
func figuredCases(tx *gorm.DB, from, to time.Time) ([]figuredCase, error) {
	var rows []figuredCase
	err := tx.Raw(`SELECT * FROM (SELECT DISTINCT ON (d.visit_id, d.zone_id) d.zone_id, d.visit_id, s.name AS site, z.name AS zone,
			coalesce(z.species ->> 0, '') AS grass, d.leading_cause, d.probability, d.given_on, v.arrived_at, v.left_at,
			h.told_money - h.given_money AS saved, h.water_given, h.water_asked, h.checks,
			coalesce((SELECT k.cause FROM closings k WHERE k.zone_id = d.zone_id AND k.diagnosis_id = d.id ORDER BY k.seq DESC LIMIT 1), '')
				AS confirmed,
			(SELECT count(*) FROM treatment_records r WHERE r.zone_id = d.zone_id AND r.applied_on BETWEEN d.given_on AND d.given_on + ?::int
				AND NOT r.voided AND NOT EXISTS (SELECT FROM treatment_records c WHERE c.corrects_id = r.id)) AS treatments
		FROM diagnoses d JOIN zones z ON z.id = d.zone_id JOIN sites s ON s.id = z.site_id JOIN visits v ON v.id = d.visit_id
			LEFT JOIN hindsights h ON h.diagnosis_id = d.id
		WHERE d.given_on BETWEEN ? AND ? ORDER BY d.visit_id, d.zone_id, d.recorded_at DESC) x
		ORDER BY given_on DESC, zone_id LIMIT ?`, treatedDays, from, to, mostFigures).Scan(&rows).Error
	return rows, err
}

// coursedCases are the lawns of which the recovery was last judged in a span with a verdict, each with its last case, however old that is.
func coursedCases(tx *gorm.DB, verdict string, from, to time.Time) ([]figuredCase, error) {
	var rows []figuredCase
	err := tx.Raw(`SELECT c.zone_id, coalesce(d.visit_id, m.visit_id) AS visit_id, s.name AS site, z.name AS zone,
			coalesce(z.species ->> 0, '') AS grass, coalesce(d.leading_cause, '') AS leading_cause, coalesce(d.probability, 0) AS probability,
			coalesce(d.given_on, c.judged_on) AS given_on,
			coalesce((SELECT k.cause FROM closings k WHERE k.zone_id = c.zone_id AND k.diagnosis_id = d.id ORDER BY k.seq DESC LIMIT 1), '')
				AS confirmed
		FROM zone_courses c JOIN zones z ON z.id = c.zone_id JOIN sites s ON s.id = z.site_id
			LEFT JOIN LATERAL (SELECT * FROM diagnoses d WHERE d.zone_id = c.zone_id AND d.given_on <= c.judged_on
				ORDER BY d.given_on DESC, d.recorded_at DESC LIMIT 1) d ON true
			LEFT JOIN LATERAL (SELECT visit_id FROM measures m WHERE m.zone_id = c.zone_id ORDER BY m.measured_on DESC LIMIT 1) m ON true
		WHERE c.verdict = ? AND c.judged_on BETWEEN ? AND ? ORDER BY c.judged_on DESC, c.zone_id LIMIT ?`, verdict, from, to, mostFigures).
		Scan(&rows).Error
	return rows, err
}

// getFigures answers GET /figures: the firm's figures of a span.
func (s *Server) getFigures(ctx context.Context, in *FiguresSpan) (*body[Figures], error) {
	from, to, err := in.span()
	if err != nil {
		return nil, err
	}
	out := &body[Figures]{}
	return out, s.inFirm(ctx, func(tx *gorm.DB) error {
		rows, err := figuredCases(tx, from, to)
		if err != nil {
			return err
		}
		out.Body = figuresOf(rows)
		out.Body.From, out.Body.To = in.From, in.To
		var verdicts []struct {
			Verdict string
			N       int
		}
		err = tx.Raw("SELECT verdict, count(*) AS n FROM zone_courses WHERE judged_on BETWEEN ? AND ? GROUP BY verdict", from, to).
			Scan(&verdicts).Error
		for _, v := range verdicts {
			out.Body.Courses = append(out.Body.Courses, Count{ID: v.Verdict, N: v.N})
		}
		if err != nil {
			return err
		}
		out.Body.Product, err = productOfPlan(tx, from, to)
		return err
	})
}

// productOfPlan is what was put down of what was planned, record by record.
func productOfPlan(tx *gorm.DB, from, to time.Time) (Mean, error) {
	var shares []float64
	err := tx.Raw(`SELECT amount_si / (details ->> 'planned')::float8 FROM treatment_records r
		WHERE applied_on BETWEEN ? AND ? AND amount_si > 0 AND (details ->> 'planned')::float8 > 0 AND NOT voided
			AND NOT EXISTS (SELECT FROM treatment_records c WHERE c.corrects_id = r.id) LIMIT ?`, from, to, mostFigures).Scan(&shares).Error
	return meanSaid(figures.MeanOf(shares)), err
}

// figuresOf counts cases.
func figuresOf(rows []figuredCase) Figures {
	out := Figures{Cases: len(rows), Causes: []CauseCount{}, Grasses: []Count{}, Calibrated: []Calibrated{}, Courses: []Count{},
		ByCheck: []CheckCount{}}
	causes, grasses := map[string]*CauseCount{}, map[string]int{}
	var minutes, treatments, chances []float64
	var right []bool
	agreed := 0
	for _, r := range rows {
		c := causes[r.Cause]
		if c == nil {
			label := r.Cause
			if x, ok := knowledge.CauseByID(r.Cause); ok {
				label = x.Label
			}
			c = &CauseCount{Cause: r.Cause, Label: label, Months: make([]int, 12)}
			causes[r.Cause] = c
		}
		c.N++
		c.Months[r.GivenOn.Month()-1]++
		grasses[r.Grass]++
		treatments = append(treatments, float64(r.Treatments))
		if m := r.minutes(); m != nil {
			minutes = append(minutes, *m)
		}
		if r.Confirmed != "" {
			chances, right = append(chances, r.Probability), append(right, r.Confirmed == r.Cause)
			if r.Confirmed == r.Cause {
				agreed++
			}
		}
	}
	for _, c := range causes {
		out.Causes = append(out.Causes, *c)
	}
	slices.SortFunc(out.Causes, func(a, b CauseCount) int {
		if a.N != b.N {
			return b.N - a.N
		}
		return strings.Compare(a.Cause, b.Cause)
	})
	for id, n := range grasses {
		label := id
		if g, ok := turf.ByID(id); ok {
			label = g.Label
		}
		out.Grasses = append(out.Grasses, Count{id, label, n})
	}
	slices.SortFunc(out.Grasses, func(a, b Count) int {
		if a.N != b.N {
			return b.N - a.N
		}
		return strings.Compare(a.ID, b.ID)
	})
	m := figures.MiddleOf(minutes)
	hindsightsOf(rows, &out)
	out.Minutes = Middle{m.N, m.Median, m.Quarter, m.ThreeQ, m.Low, m.High}
	out.Confirmed = shareOf(figures.ShareOf(agreed, len(right)))
	out.Treatments = meanSaid(figures.MeanOf(treatments))
	for _, b := range figures.Calibrate(chances, right) {
		out.Calibrated = append(out.Calibrated, Calibrated{b.From, b.To, round3(b.Promised), shareOf(b.Share)})
	}
	return out
}

// hindsightsOf counts what the night has seen of the cases in looking back.
func hindsightsOf(rows []figuredCase, out *Figures) {
	made, decided, minutes := map[string]int{}, map[string]int{}, map[string]float64{}
	var saved, given, asked []float64
	all, some := 0, 0
	for _, r := range rows {
		for _, c := range r.checks() {
			all++
			made[c.Procedure]++
			minutes[c.Procedure] += c.Minutes
			if c.Decided {
				some++
				decided[c.Procedure]++
			}
		}
		if r.Saved != nil {
			saved = append(saved, *r.Saved)
		}
		if r.WaterGiven != nil && r.WaterAsked != nil {
			given, asked = append(given, *r.WaterGiven), append(asked, *r.WaterAsked)
		}
	}
	out.Checks = shareOf(figures.ShareOf(some, all))
	for _, p := range knowledge.Procedures() {
		if n := made[p.ID]; n > 0 {
			out.ByCheck = append(out.ByCheck, CheckCount{p.ID, p.Label, math.Round(minutes[p.ID]), shareOf(figures.ShareOf(decided[p.ID], n))})
		}
	}
	slices.SortStableFunc(out.ByCheck, func(a, b CheckCount) int { return cmp.Compare(b.Minutes, a.Minutes) })
	out.Saved = meanSaid(figures.SignedMeanOf(saved))
	out.Water = meanSaid(figures.RatioOf(given, asked))
}

func meanSaid(m figures.Mean) Mean { return Mean{m.N, round3(m.Mean), round3(m.Low), round3(m.High)} }

func shareOf(s figures.Share) Share { return Share{s.Of, s.N, round3(s.Low), round3(s.High)} }

type casesInput struct {
	FiguresSpan
	Cause  string `query:"cause" maxLength:"60"`
	Month  int    `query:"month" minimum:"0" maximum:"12"`
	Grass  string `query:"grass" maxLength:"60"`
	Which  string `query:"which" enum:",confirmed,right,wrong,open,timed,treated,saved,watered" doc:"by its end, or by what is known of it"`
	Check  string `query:"check" maxLength:"60" doc:"cases on which a check was made: the id of its procedure"`
	Course string `query:"course" enum:",not-yet,on-course,slow,off-course,recovered" doc:"by the verdict on the recovery"`
	Told   string `query:"decided" enum:",yes,no" doc:"of these, those on which it decided, or did not"`
}

func (in casesInput) fits(r figuredCase) bool {
	switch {
	case in.Cause != "" && r.Cause != in.Cause, in.Grass != "" && r.Grass != in.Grass,
		in.Month != 0 && int(r.GivenOn.Month()) != in.Month:
		return false
	}
	if in.Check != "" {
		made, decided := r.decided(in.Check)
		if !made || in.Told == "yes" && !decided || in.Told == "no" && decided {
			return false
		}
	}
	switch in.Which {
	case "timed":
		return r.minutes() != nil
	case "treated":
		return r.Treatments > 0
	case "saved":
		return r.Saved != nil
	case "watered":
		return r.WaterGiven != nil
	case "confirmed":
		return r.Confirmed != ""
	case "right":
		return r.Confirmed == r.Cause
	case "wrong":
		return r.Confirmed != "" && r.Confirmed != r.Cause
	case "open":
		return r.Confirmed == ""
	}
	return true
}

// mostCases are listed behind a figure; the file has them all.
const mostCases = 200

// casesBehind reads the cases behind a figure, the newest first.
func (s *Server) casesBehind(ctx context.Context, in *casesInput, most int) ([]FirmCase, error) {
	from, to, err := in.span()
	if err != nil {
		return nil, err
	}
	out := []FirmCase{}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		rows, err := figuredCases(tx, from, to)
		if in.Course != "" && err == nil {
			rows, err = coursedCases(tx, in.Course, from, to)
		}
		for _, r := range rows {
			if in.fits(r) && len(out) < most {
				out = append(out, FirmCase{r.ZoneID, r.VisitID, r.Site, r.Zone, r.Grass, r.Cause, r.Probability, r.GivenOn.Format(dateOnly),
					r.Confirmed, r.Treatments, r.minutes(), tenthOf(r.Saved), tenthOf(r.WaterGiven), tenthOf(r.WaterAsked)})
			}
		}
		return err
	})
	return out, err
}

// listCases answers GET /figures/cases: the cases behind a figure.
func (s *Server) listCases(ctx context.Context, in *casesInput) (*body[[]FirmCase], error) {
	rows, err := s.casesBehind(ctx, in, mostCases)
	return answer(rows), err
}

// casesCSV answers GET /figures/csv: the same as a file, with all of them.
func (s *Server) casesCSV(ctx context.Context, in *casesInput) (*download, error) {
	rows, err := s.casesBehind(ctx, in, mostFigures)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	_ = w.Write([]string{"given_on", "site", "zone", "grass", "cause", "probability", "confirmed", "treatments", "minutes", "saved",
		"water_given_mm", "water_asked_mm"})
	for _, r := range rows {
		_ = w.Write([]string{r.GivenOn, plain.Cell(r.Site), plain.Cell(r.Zone), r.Grass, r.Cause, fmt.Sprintf("%.3f", r.Probability), r.Confirmed,
			fmt.Sprint(r.Treatments), maybe("%.0f", r.Minutes), maybe("%.1f", r.Saved), maybe("%.1f", r.WaterGiven),
			maybe("%.1f", r.WaterAsked)})
	}
	w.Flush()
	return fileOf("cases.csv", "text/csv; charset=utf-8", b.Bytes()), w.Error()
}

// maybe writes a number, or nothing where it is not known.
func maybe(format string, x *float64) string {
	if x == nil {
		return ""
	}
	return fmt.Sprintf(format, *x)
}

func tenthOf(x *float64) *float64 {
	if x == nil {
		return nil
	}
	t := math.Round(*x*10) / 10
	return &t
}
