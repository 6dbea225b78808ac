package casefile

import (
	"math"
	"time"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/core/worth"
)

// Result is a diagnosis in the open format, version 1.
type Result struct {
	Version   int          `json:"hodos_diagnosis"`
	Causes    []Cause      `json:"causes" nullable:"false"`
	Together  []Set        `json:"together" nullable:"false" doc:"the most probable combinations of causes"`
	Weather   []Weather    `json:"weather_findings" nullable:"false"`
	Other     float64      `json:"not_explained" doc:"chance that something else is wrong than any of the causes"`
	Knowledge string       `json:"knowledge" doc:"version of the tables that answered"`
	Notices   []Notice     `json:"notices" nullable:"false"`
	Next      []Check      `json:"next_checks" nullable:"false"`
	Limits    []CountLimit `json:"limits" nullable:"false" doc:"what the counts are held against on this stand"`
	Decisive  []Wanted     `json:"decisive_checks" nullable:"false" doc:"checks on which verdicts wait, before the next checks"`
	Settled   bool         `json:"settled" doc:"no check can change a decision any more"`
	Enough    bool         `json:"enough" doc:"settled, or what is left to check would hardly change anything"`
	Changes   []Change     `json:"changes" nullable:"false" doc:"single answers that would change what leads"`
	Told      string       `json:"told" doc:"what it comes to, in words for the client"`
	Actions   []ActionLine `json:"actions" nullable:"false"`
	Choices   []Choice     `json:"choices" nullable:"false" doc:"aims that collide, with their prices"`
}

// Cause is one cause with its ledger.
type Cause struct {
	ID           string  `json:"id"`
	Family       string  `json:"family"`
	Probability  float64 `json:"probability"`
	PriorBits    float64 `json:"prior_bits"`
	Nearby       int     `json:"nearby,omitempty" doc:"confirmed cases round about in the last six weeks"`
	NearbyBits   float64 `json:"nearby_bits,omitempty" doc:"what they do to the log2 odds"`
	LearntBits   float64 `json:"learnt_bits,omitempty" doc:"what the firm's own closed cases do to the log2 odds"`
	For          []Row   `json:"for" nullable:"false"`
	Against      []Row   `json:"against" nullable:"false"`
	Marks        *Marks  `json:"marks,omitempty" doc:"for the causes that matter: from where checking and acting pay"`
	TogetherBits float64 `json:"together_bits" doc:"what findings do together; prior, nearby, learnt, rows and this add up to the log2 odds"`
}

// Marks are the chances between which a cause stands or falls as a reason to act, with what they come from.
type Marks struct {
	Act        float64 `json:"act" doc:"break-even: acting pays from here without another look"`
	From       float64 `json:"check_from" doc:"below this not even the check pays"`
	To         float64 `json:"check_to" doc:"above this the check no longer pays"`
	Check      string  `json:"check"`
	Remedy     string  `json:"remedy"`
	Benefit    float64 `json:"benefit" doc:"money: worth saved less the price where the cause is there"`
	Harm       float64 `json:"harm" doc:"money: harm and price where it is not"`
	Price      float64 `json:"price"`
	CheckPrice float64 `json:"check_price"`
	AreaM2     float64 `json:"area_m2" doc:"the damage that is reckoned with"`
	Why        string  `json:"why" doc:"the harm in words"`
}

// Change is one answer that would change what leads.
type Change struct {
	Finding string  `json:"finding"`
	Outcome string  `json:"outcome"`
	Chance  float64 `json:"chance"`
	Leads   string  `json:"leads"`
	Then    float64 `json:"then"`
	Leader  float64 `json:"leader_then"`
}

// Row is one finding in a ledger.
type Row struct {
	Finding string  `json:"finding"`
	Value   any     `json:"value"`
	Bits    float64 `json:"bits"`

	With []string `json:"with,omitempty" doc:"other findings that tell the same fact, which counts once"`
}

// Why says in words what spoke most for a cause, at most so many answers.
func (c Cause) Why(most int, say units.Saying) []string {
	var rows []diagnosis.Bits
	for _, r := range c.For {
		f, ok := knowledge.FindingByID(r.Finding)
		if !ok {
			continue
		}
		v, err := knowledge.ValueOf(f, r.Value)
		if err != nil {
			continue // a value of a former version
		}
		rows = append(rows, diagnosis.Bits{Finding: r.Finding, Value: v, Bits: r.Bits})
	}
	return diagnosis.Because(c.ID, rows, most, diagnosis.Telling, say)
}

// Set is a combination of causes.
type Set struct {
	Causes      []string `json:"causes" nullable:"false"`
	Probability float64  `json:"probability"`
}

// Weather is one finding computed from the series.
type Weather struct {
	ID          string    `json:"id"`
	Cause       string    `json:"cause,omitempty"`
	Value       any       `json:"value"`
	Detail      string    `json:"detail"`
	Window      [2]string `json:"window"`
	Provisional bool      `json:"provisional,omitempty"`
}

// Notice tells of the input.
type Notice struct {
	About string `json:"about"`
	Text  string `json:"text"`
}

// Check is a next check.
type Check struct {
	Finding   string    `json:"finding"`
	Station   string    `json:"station"`
	Bundled   bool      `json:"bundled" doc:"one of those to make at the first check's station before walking on"`
	Also      []string  `json:"also,omitempty"`
	Procedure string    `json:"procedure"`
	GainBits  float64   `json:"gain_bits"`
	Minutes   float64   `json:"minutes"`
	Worth     float64   `json:"worth" doc:"money: expected gain from what would be done after it against what would be done now"`
	Needed    string    `json:"needed_for,omitempty" doc:"the likely cause whose remedy may not go without it"`
	Decides   bool      `json:"decides" doc:"an answer can move a cause across the point from which acting pays"`
	Days      int       `json:"days,omitempty"`
	Outcomes  []Outcome `json:"outcomes" nullable:"false"`
}

// Outcome is what one answer of a check would do.
type Outcome struct {
	Label  string  `json:"label"`
	Chance float64 `json:"chance"`
	Causes []P     `json:"causes" nullable:"false"`
}

// P is a cause with its probability.
type P struct {
	ID          string  `json:"id"`
	Probability float64 `json:"probability"`
}

// ActionLine is the verdict on one action.
type ActionLine struct {
	ID        string   `json:"id"`
	Group     string   `json:"group"`
	Label     string   `json:"label"`
	Verdict   string   `json:"verdict" enum:"do-now,schedule,check-first,hold,avoid"`
	Called    bool     `json:"called" doc:"something found calls for it or tempts to it; false: nothing does"`
	Reasons   []string `json:"reasons" nullable:"false"`
	Cautions  []string `json:"cautions" nullable:"false"`
	Check     []string `json:"check,omitempty"`
	Until     string   `json:"until,omitempty"`
	UntilWhat string   `json:"until_what,omitempty"`
	From      string   `json:"from,omitempty"`
	To        string   `json:"to,omitempty"`
	Grade     string   `json:"grade"`
	LookAfter int      `json:"look_after_days,omitempty"`
	Causes    []string `json:"causes,omitempty"`
	Looks     []int    `json:"looks_after_days,omitempty"`
	Season    string   `json:"season,omitempty" doc:"name of the season, with schedule"`
	Order     int      `json:"order" doc:"rank in the order of work"`
	Extra     bool     `json:"extra,omitempty" doc:"not in the service that the client buys: to be offered first"`
	Gate      string   `json:"gate,omitempty" doc:"the gate that decided"`
	GateKind  string   `json:"gate_kind,omitempty" doc:"law, label, agronomy, policy or safety"`
	As        string   `json:"as,omitempty" doc:"the action in whose form it is done"`
	Price     float64  `json:"price,omitempty" doc:"in the firm's money, for the area it treats"`
	AreaM2    float64  `json:"area_m2,omitempty"`
	Dose      string   `json:"dose,omitempty" doc:"how much, in words"`
	NGM2      float64  `json:"n_g_m2,omitempty" doc:"nitrogen of the dose, where it feeds"`
	Will      string   `json:"will,omitempty"`
	WillNot   string   `json:"will_not,omitempty"`
	IfWrong   string   `json:"if_wrong,omitempty"`
}

// CountLimit is what the count of a pest is held against on this stand.
type CountLimit struct {
	Finding    string   `json:"finding"`
	Cause      string   `json:"cause"`
	Stand      string   `json:"stand" enum:"sound,usual,stressed" doc:"what the stand bears"`
	PerM2      *float64 `json:"per_m2,omitempty" doc:"from this many on treating pays; left out for a kind that harms nothing"`
	Feeds      bool     `json:"feeds" doc:"what was counted still feeds"`
	FeedsUntil string   `json:"feeds_until,omitempty" format:"date" doc:"the last day on which it does; left out where it is not in sight"`
}

func limitOf(l remedy.Limit) CountLimit {
	out := CountLimit{Finding: l.Finding, Cause: l.Cause, Stand: l.Stand, Feeds: l.Feeds}
	if !math.IsInf(l.PerM2, 1) && !math.IsNaN(l.PerM2) {
		out.PerM2 = &l.PerM2
	}
	if !l.FeedsUntil.IsZero() {
		out.FeedsUntil = l.FeedsUntil.Format(time.DateOnly)
	}
	return out
}

// Wanted is a check on which a verdict waits.
type Wanted struct {
	Finding string `json:"finding"`
	Action  string `json:"action"`
	Reason  string `json:"reason"`
}

// Choice is two or three ways that collide, the one shown first first.
type Choice struct {
	ID    string `json:"id"`
	About string `json:"about"`
	Ways  []Way  `json:"ways" nullable:"false"`
}

// Way is one side of a choice.
type Way struct {
	Label   string   `json:"label"`
	Actions []string `json:"actions" nullable:"false"`
	Weeks   string   `json:"weeks" doc:"to the aim"`
	Price   float64  `json:"price" doc:"in the firm's money, for the damaged area"`
	Risk    string   `json:"risk"`
}

// MarksOf puts marks for an area of damage (m²) into the open format.
func MarksOf(m worth.Marks, area float64) Marks {
	return Marks{cent(m.Act), cent(m.From), cent(m.To), m.Check, m.Stake.Remedy, cent(m.Benefit), cent(m.Harm), cent(m.Price),
		cent(m.CheckPrice), cent(area), m.Stake.Why}
}

func cent(x float64) float64 { return math.Round(x*100) / 100 }

// ResultOf puts a diagnosis and its advice into the open format.
func ResultOf(r diagnosis.Result, plan remedy.Plan) Result {
	a := Result{Version: 1, Knowledge: r.Knowledge, Settled: plan.Settled, Enough: plan.Enough, Causes: []Cause{},
		Together: []Set{}, Weather: []Weather{}, Notices: []Notice{}, Next: []Check{}, Actions: []ActionLine{},
		Limits: []CountLimit{}, Choices: []Choice{}, Decisive: []Wanted{}, Changes: []Change{},
		Told: r.Told(), Other: math.Round(r.Other*1e4) / 1e4}
	for i, c := range r.Causes {
		line := Cause{ID: c.ID, Family: c.Family, Probability: math.Round(c.Probability*1e4) / 1e4, PriorBits: c.PriorBits, Nearby: c.Nearby,
			NearbyBits: c.NearbyBits, LearntBits: c.LearntBits, For: rows(c.For),
			Against: rows(c.Against), TogetherBits: c.TogetherBits}
		if c.ID != knowledge.Healthy && (i < 12 || c.Probability >= .02) {
			m := MarksOf(r.Marks(c.ID), r.Damage)
			line.Marks = &m
		}
		a.Causes = append(a.Causes, line)
	}
	for _, c := range r.Changes {
		a.Changes = append(a.Changes, Change(c))
	}
	for _, s := range r.Together {
		a.Together = append(a.Together, Set{s.Causes, math.Round(s.Probability*1e4) / 1e4})
	}
	for _, w := range r.Weather {
		a.Weather = append(a.Weather, Weather{w.ID, w.Cause, w.Value.Plain(), w.Detail, [2]string{day(w.From), day(w.To)}, w.Provisional})
	}
	for _, n := range r.Notices {
		a.Notices = append(a.Notices, Notice{n.About, n.Text})
	}
	bundled := map[string]bool{}
	if len(r.Next) > 0 {
		for _, n := range diagnosis.Bundle(r.Next) {
			bundled[n.Procedure] = true
		}
	}
	for _, n := range r.Next {
		c := Check{Finding: n.Finding, Station: n.Station, Bundled: bundled[n.Procedure], Also: n.Also, Procedure: n.Procedure,
			GainBits: n.GainBits, Worth: n.Worth, Needed: n.Needed, Minutes: n.Minutes, Decides: n.Decides, Days: n.Days, Outcomes: []Outcome{}}
		for _, o := range n.Outcomes {
			out := Outcome{Label: o.Label, Chance: o.Chance, Causes: []P{}}
			for _, p := range o.Causes {
				out.Causes = append(out.Causes, P{p.ID, p.Probability})
			}
			c.Outcomes = append(c.Outcomes, out)
		}
		a.Next = append(a.Next, c)
	}
	for _, x := range plan.Lines {
		a.Actions = append(a.Actions, lineOf(x))
	}
	for _, x := range plan.Checks {
		a.Decisive = append(a.Decisive, Wanted(x))
	}
	for _, l := range plan.Limits {
		a.Limits = append(a.Limits, limitOf(l))
	}
	for _, x := range plan.Choices {
		c := Choice{ID: x.ID, About: x.About, Ways: []Way{}}
		for _, w := range x.Ways {
			c.Ways = append(c.Ways, Way(w))
		}
		a.Choices = append(a.Choices, c)
	}
	return a
}

// lineOf puts one verdict into the open format.
func lineOf(x remedy.Advice) ActionLine {
	l := ActionLine{
		ID: x.ID, Group: x.Group, Label: x.Label, Verdict: string(x.Verdict), Called: x.Called, Reasons: some(x.Reasons),
		Cautions: some(x.Cautions),
		Check:    x.Check, UntilWhat: x.UntilWhat, Season: x.Season, Grade: x.Grade, LookAfter: x.LookAfter, Looks: x.Looks, Causes: x.Causes,
		Order: x.Order, Extra: x.Extra, Gate: x.Gate, GateKind: string(x.Kind), As: x.As, Price: x.Price, AreaM2: math.Round(x.AreaM2),
		Dose: x.Dose, NGM2: x.NGM2, Will: x.Will, WillNot: x.WillNot, IfWrong: x.IfWrong,
	}
	for _, d := range []struct {
		t    *time.Time
		into *string
	}{{x.Until, &l.Until}, {x.From, &l.From}, {x.To, &l.To}} {
		if d.t != nil {
			*d.into = day(*d.t)
		}
	}
	return l
}

func rows(bs []diagnosis.Bits) []Row {
	out := make([]Row, 0, len(bs))
	for _, b := range bs {
		out = append(out, Row{b.Finding, b.Value.Plain(), b.Bits, b.With})
	}
	return out
}

func some(s []string) []string {
	if s == nil {
		return []string{}
	}
	return s
}
