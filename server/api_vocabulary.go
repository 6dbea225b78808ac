package server

import (
	"context"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/account"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/guide"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/soil"
	"hodos/core/turf"
	"hodos/core/worth"
	"hodos/exchange/casefile"
	"hodos/store"
)

// Vocabulary is everything the interface needs to name and ask things.
type Vocabulary struct {
	Knowledge  string       `json:"knowledge"`
	Stations   []VStation   `json:"stations" nullable:"false"`
	Procedures []VProcedure `json:"procedures" nullable:"false"`
	Findings   []VFinding   `json:"findings" nullable:"false"`
	Weather    []VWeather   `json:"weather_findings" nullable:"false"`
	Causes     []VCause     `json:"causes" nullable:"false"`
	Actions    []VAction    `json:"actions" nullable:"false"`
	Species    []VSpecies   `json:"species" nullable:"false"`
	Rights     []VRight     `json:"rights" nullable:"false" doc:"what people may do"`
	Roles      []VRole      `json:"roles" nullable:"false"`
	Claims     []VClaim     `json:"claims" nullable:"false" doc:"what clients have heard, with the answer"`
	Feel       []VFeel      `json:"feel" nullable:"false" doc:"texture by feel: the first row that fits"`
}

// VFeel is one way through the test of texture by feel.
type VFeel struct {
	Ball     bool    `json:"ball" doc:"a moist lump holds together"`
	RibbonMM float64 `json:"ribbon_mm" doc:"it presses out to a ribbon of so long or more"`
	Feel     string  `json:"feel" enum:",gritty,smooth,neither" doc:"empty: whatever it feels like"`
	Texture  string  `json:"texture"`
}

// VClaim is something that clients have heard.
type VClaim struct {
	ID     string `json:"id"`
	Heard  string `json:"heard"`
	Answer string `json:"answer"`
	Grade  string `json:"grade" enum:"A,B,C"`
}

// VRight is one thing that people may or may not do.
type VRight struct {
	ID    account.Right `json:"id"`
	Label string        `json:"label"`
}

// VRole is a role and its rights.
type VRole struct {
	ID     string          `json:"id"`
	Rights []account.Right `json:"rights" nullable:"false"`
}

// VStation, VProcedure, VFinding, VWeather, VCause, VAction and VSpecies are the entries of the vocabulary.
type VStation struct {
	ID    string `json:"id"`
	Label string `json:"label"`
	Does  string `json:"does"`
}

// VProcedure is one handling.
type VProcedure struct {
	ID      string  `json:"id"`
	Label   string  `json:"label"`
	Setup   float64 `json:"setup_minutes"`
	Tools   string  `json:"tools"`
	Caution string  `json:"caution"`
	Days    int     `json:"days"`
}

// VValue is one possible value.
type VValue struct {
	ID    string `json:"id"`
	Label string `json:"label"`
}

// VFinding is one check.
type VFinding struct {
	ID        string    `json:"id"`
	Station   string    `json:"station"`
	Procedure string    `json:"procedure"`
	Kind      string    `json:"kind" enum:"yes-no,one-of,any-of,number,cause-ids,cause-or-none"`
	Label     string    `json:"label"`
	Ask       string    `json:"ask"`
	Unit      string    `json:"unit"`
	Measure   string    `json:"measure" doc:"unit of the number as the table of units has it, else in words; empty for none"`
	Min       float64   `json:"min"`
	Max       float64   `json:"max"`
	Step      float64   `json:"step"`
	Bands     []float64 `json:"bands" nullable:"false"`
	Minutes   float64   `json:"minutes"`
	Values    []VValue  `json:"values" nullable:"false"`
	Steers    bool      `json:"steers" doc:"moves no cause; asked only where the advice names it, unless people tell of it unasked"`
	Both      bool      `json:"both" doc:"made at the bad spot and at the good one"`
	Apart     bool      `json:"apart" doc:"the difference of both is a finding of its own"`
}

// VWeather is one finding computed from the weather.
type VWeather struct {
	ID          string `json:"id"`
	Label       string `json:"label"`
	Provisional bool   `json:"provisional"`
}

// VCause names a cause.
type VCause struct {
	ID     string `json:"id"`
	Label  string `json:"label"`
	Family string `json:"family"`
}

// VAction names an action.
type VAction struct {
	ID        string `json:"id"`
	Label     string `json:"label"`
	Pesticide bool   `json:"pesticide"`
	LookAfter int    `json:"look_after_days"`
	Recorded  bool   `json:"recorded" doc:"false: said to the client, nothing is recorded of it"`
	Feeds     bool   `json:"feeds"`
	Waters    bool   `json:"waters"`
	Product   bool   `json:"takes_product"`
	Airborne  bool   `json:"airborne" doc:"recorded with the wind of the hour"`
}

// VSpecies names a grass.
type VSpecies struct {
	ID     string  `json:"id"`
	Label  string  `json:"label"`
	Latin  string  `json:"latin"`
	Family string  `json:"family"`
	Forms  []VForm `json:"forms" nullable:"false"`
}

// VForm is a kind of cultivars within a grass.
type VForm struct {
	ID    string `json:"id"`
	Label string `json:"label"`
}

// CausePage is a cause in the field guide.
type CausePage struct {
	ID        string          `json:"id"`
	Label     string          `json:"label"`
	Family    string          `json:"family"`
	Signature string          `json:"signature"`
	When      string          `json:"when"`
	Proof     string          `json:"proof"`
	Against   string          `json:"against"`
	Mistaken  []string        `json:"mistaken" nullable:"false"`
	Turf      string          `json:"turf"`
	Months    []int           `json:"months" nullable:"false" doc:"0 to 9 for January to December, as the firm's own hemisphere has them"`
	South     bool            `json:"south" doc:"the firm works south of the equator"`
	Evidence  []GuideRow      `json:"evidence" nullable:"false"`
	Patterns  []Shown         `json:"patterns" nullable:"false" doc:"what it draws on the lawn, from the same tables"`
	Leaves    []Shown         `json:"leaves" nullable:"false" doc:"what it does to a blade"`
	Colours   []Shown         `json:"colours" nullable:"false"`
	Limits    []Limit         `json:"limits" nullable:"false"`
	Marks     *casefile.Marks `json:"marks,omitempty" doc:"from where checking and acting pay, by the firm's prices, for 60 m²"`
}

// Shown is something that a cause shows.
type Shown struct {
	ID     string  `json:"id"`
	Chance float64 `json:"chance"`
}

// Limit is a figure that a reading is held against.
type Limit struct {
	Finding string `json:"finding"`
	Figure  string `json:"figure"`
	Means   string `json:"means"`
	Source  string `json:"source"`
}

func shown(list []knowledge.Shown) []Shown {
	out := []Shown{}
	for _, x := range list {
		out = append(out, Shown{x.ID, round3(x.Chance)})
	}
	return out
}

// GuideRow is one row of knowledge, for review.
type GuideRow struct {
	Finding string  `json:"finding"`
	Grip    float64 `json:"grip"`
	Says    string  `json:"says"`
	Source  string  `json:"source"`
}

// LikelyCause is a cause with its chance in a month.
type LikelyCause struct {
	ID     string  `json:"id"`
	Chance float64 `json:"chance"`
	Text   string  `json:"text" doc:"what it can be found by"`
}

func kindName(k knowledge.Kind) string {
	return [...]string{"yes-no", "one-of", "any-of", "number", "cause-ids", "cause-or-none"}[k]
}

func vocabulary() Vocabulary {
	v := Vocabulary{Knowledge: knowledge.Knowledge}
	for _, r := range soil.FeelRows() {
		v.Feel = append(v.Feel, VFeel(r))
	}
	for _, c := range remedy.Claims {
		v.Claims = append(v.Claims, VClaim(c))
	}
	for _, r := range account.Rights {
		v.Rights = append(v.Rights, VRight{r, account.RightLabel(r)})
	}
	for _, r := range account.Roles {
		v.Roles = append(v.Roles, VRole{r, account.Of(r)})
	}
	for _, s := range knowledge.Stations() {
		v.Stations = append(v.Stations, VStation{s.ID, s.Label, s.Does})
	}
	for _, p := range knowledge.Procedures() {
		v.Procedures = append(v.Procedures, VProcedure{p.ID, p.Label, p.Setup, p.Tools, p.Caution, p.Days})
	}
	for _, f := range knowledge.Findings() {
		out := VFinding{
			ID:        f.ID,
			Station:   f.Station,
			Procedure: f.Procedure,
			Both:      f.AtBothSpots(),
			Apart:     f.ByItself(),
			Kind:      kindName(f.Kind),
			Label:     f.Label,
			Ask:       f.Ask,
			Unit:      f.Unit,
			Measure:   f.Measure(),
			Min:       f.Min,
			Max:       f.Max,
			Step:      f.Step,
			Bands:     append([]float64{}, f.Bands...),
			Minutes:   f.Minutes,
			Values:    []VValue{},
			Steers:    f.Steers && !f.Told,
		}
		for _, id := range f.Values {
			out.Values = append(out.Values, VValue{id, knowledge.ValueLabel(id)})
		}
		v.Findings = append(v.Findings, out)
	}
	for _, f := range slices.Concat(knowledge.WeatherFindings(), knowledge.DerivedFindings()) {
		v.Weather = append(v.Weather, VWeather{f.ID, f.Label, f.Provisional})
	}
	for _, c := range knowledge.Causes() {
		v.Causes = append(v.Causes, VCause{c.ID, c.Label, c.Family})
	}
	h, _ := knowledge.CauseByID(knowledge.Healthy)
	v.Causes = append(v.Causes, VCause{h.ID, h.Label, h.Family})
	for _, id := range remedy.IDs() {
		v.Actions = append(v.Actions, VAction{
			id, remedy.Label(id), remedy.Pesticide(id), remedy.LookAfter(id), remedy.Recorded(id), remedy.Feeds(id), remedy.Waters(id),
			remedy.TakesProduct(id), remedy.Airborne(id),
		})
	}
	for _, s := range turf.All() {
		forms := []VForm{}
		for _, f := range turf.Forms() {
			if f.Grass == s.ID {
				forms = append(forms, VForm{f.ID, f.Label})
			}
		}
		v.Species = append(v.Species, VSpecies{s.ID, s.Label, s.Latin, string(s.Family), forms})
	}
	return v
}

// theVocabulary is made once: it is the same for all firms.
var theVocabulary = sync.OnceValue(vocabulary)

// getVocabulary answers GET /vocabulary: stations, checks, causes, actions and grasses by name.
func (s *Server) getVocabulary(context.Context, *struct{}) (*body[Vocabulary], error) {
	return answer(theVocabulary()), nil
}

type likelyInput struct {
	Month int       `query:"month" minimum:"0" maximum:"12" doc:"0 for the work clock's month"`
	Site  uuid.UUID `query:"site" format:"uuid" doc:"latitude and grasses come from here; the firm's first site when left out"`
}

// likelyCauses answers GET /causes: causes by what is likely in a month.
func (s *Server) likelyCauses(ctx context.Context, in *likelyInput) (*body[[]LikelyCause], error) {
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	if in.Month > 0 {
		today = time.Date(today.Year(), time.Month(in.Month), 15, 0, 0, 0, 0, time.UTC)
	}
	lawn := knowledge.Lawn{Date: today, Latitude: knowledge.UsualLatitude, Species: []string{"unknown"}}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		var site store.Site
		q := tx.Order("id")
		if in.Site != uuid.Nil {
			q = tx.Where("id = ?", in.Site)
		}
		if err := q.Take(&site).Error; err != nil {
			if in.Site == uuid.Nil {
				return nil // a firm without sites sees the northern list
			}
			return err
		}
		lawn.Latitude = site.Latitude
		if in.Site != uuid.Nil {
			var zones []store.Zone
			if err := tx.Where("site_id = ?", site.ID).Find(&zones).Error; err != nil {
				return err
			}
			if len(zones) > 0 {
				lawn.Species = zoneOf(zones[0]).Species
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	out := []LikelyCause{}
	for _, l := range knowledge.LikelyIn(lawn) {
		out = append(out, LikelyCause{l.Cause, round3(l.Chance), findable(l.Cause)})
	}
	return answer(out), nil
}

type pageInput struct {
	ID string `path:"id" maxLength:"60"`
}

// getCause answers GET /causes/{id}: a cause in the field guide.
func (s *Server) getCause(ctx context.Context, in *pageInput) (*body[CausePage], error) {
	c, ok := knowledge.CauseByID(in.ID)
	if !ok {
		return nil, s.said(store.ErrNotFound)
	}
	g := guide.Of(c.ID)
	p := CausePage{ID: c.ID, Label: c.Label, Family: c.Family, Signature: g.Signature, When: g.When, Proof: g.Proof, Against: g.Against,
		Mistaken: strings.Fields(c.Mistaken), Turf: c.Turf, Months: []int{}, Evidence: []GuideRow{}}
	if p.Mistaken == nil {
		p.Mistaken = []string{}
	}
	for _, r := range c.Rows {
		p.Evidence = append(p.Evidence, GuideRow{r.Finding, r.Grip, r.Words(), r.Source})
	}
	p.Patterns, p.Leaves, p.Colours, p.Limits = shown(c.Shows("pattern")), shown(c.Shows("leaf-symptoms")), shown(c.Shows("colour")),
		[]Limit{}
	for _, l := range knowledge.Thresholds(c.ID) {
		p.Limits = append(p.Limits, Limit(l))
	}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		at, err := latitude(tx)
		if err != nil {
			return err
		}
		p.South = at < 0
		for m := time.January; m <= time.December && c.Months != ""; m++ {
			p.Months = append(p.Months, int(c.Months[turf.SeasonMonth(m, at)-1]-'0'))
		}
		if c.ID == knowledge.Healthy {
			return nil
		}
		money, err := prices(tx)
		m := casefile.MarksOf(worth.MarksFor(c.ID, money.Prices.core(), guideDamage, c.Turf == "W"), guideDamage)
		p.Marks = &m
		return err
	})
	return answer(p), err
}

// latitude is where the firm works: of its first site, or the usual one.
func latitude(tx *gorm.DB) (float64, error) {
	at := []float64{}
	err := tx.Table("sites").Order("name COLLATE by_number, id").Limit(1).Pluck("latitude", &at).Error
	return append(at, knowledge.UsualLatitude)[0], err
}

type pairInput struct {
	ID    string    `path:"id" maxLength:"60"`
	Other string    `path:"other" maxLength:"60"`
	Site  uuid.UUID `query:"site" format:"uuid" doc:"latitude and grasses come from here"`
}

// compareCauses answers GET /causes/{id}/apart/{other}: the checks that tell two causes apart on any lawn.
func (s *Server) compareCauses(ctx context.Context, in *pairInput) (*body[[]Apart], error) {
	for _, id := range []string{in.ID, in.Other} {
		if _, ok := knowledge.CauseByID(id); !ok {
			return nil, s.said(store.ErrNotFound)
		}
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	lawn := knowledge.Lawn{Date: today, Latitude: knowledge.UsualLatitude, Species: []string{"unknown"}}
	return answer(apart(diagnosis.TellApart(evidence.Case{Lawn: lawn}, in.ID, in.Other, diagnosis.Options{}))), nil
}

// guideDamage is the damage that the field guide reckons with, m².
const guideDamage = 60

// findable is the text by which the field guide's search finds a cause: what is seen, when, and what it is taken for.
func findable(id string) string {
	c, _ := knowledge.CauseByID(id)
	g := guide.Of(id)
	text := []string{c.Label, c.Family, g.Signature, g.When, g.Proof}
	for _, finding := range []string{"pattern", "leaf-symptoms", "colour"} {
		for _, x := range c.Shows(finding) {
			text = append(text, knowledge.ValueLabel(x.ID))
		}
	}
	return strings.ToLower(strings.Join(text, " "))
}
