package server

import (
	"context"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/opinion"
	"hodos/exchange/casefile"
	"hodos/store"
)

// Opinion is what was thought of a zone on one day.
type Opinion struct {
	On          string     `json:"on" format:"date"`
	VisitID     uuid.UUID  `json:"visit_id"`
	Open        bool       `json:"open" doc:"as the scales stand on the visit; no diagnosis has been saved of it"`
	Leading     string     `json:"leading"`
	Probability float64    `json:"probability"`
	Turn        *Turn      `json:"turn,omitempty" doc:"what turned it; left out on the first, and where an old file cannot be read"`
	Responses   []Response `json:"responses" nullable:"false" doc:"what came of what was done, as weighed that day"`
}

// Turn is what turned one opinion into the next, weighed by the tables of today.
type Turn struct {
	Then    float64      `json:"then" doc:"the chance that what leads now had then"`
	Now     float64      `json:"now"`
	Before  string       `json:"before" doc:"what led then, where that is something else"`
	Left    float64      `json:"left" doc:"the chance that it has left"`
	Season  float64      `json:"season" doc:"bits that month and place have moved"`
	Nearby  float64      `json:"nearby" doc:"bits that confirmed cases nearby have moved"`
	Learnt  float64      `json:"learnt" doc:"bits that the firm's own closed cases have moved"`
	Reasons []TurnReason `json:"reasons" nullable:"false" doc:"the facts that moved it most, the strongest first"`
}

// TurnReason is one fact that moved it.
type TurnReason struct {
	Finding string  `json:"finding"`
	Was     any     `json:"was,omitempty" doc:"left out where it was not known then"`
	Is      any     `json:"is,omitempty" doc:"left out where it is not known any more"`
	Bits    float64 `json:"bits" doc:"toward what leads now"`
}

// Response is what came of a treatment.
type Response struct {
	Finding string  `json:"finding"`
	Action  string  `json:"action"`
	On      string  `json:"on" format:"date" doc:"of the treatment"`
	Word    string  `json:"word" enum:"better,none"`
	By      string  `json:"by" enum:"count,spread,area,cover,colour,index" doc:"what it was read off"`
	Count   string  `json:"count" doc:"the finding that was counted, where it is by count"`
	Was     string  `json:"was" format:"date" doc:"of what it is held against"`
	Before  float64 `json:"before" doc:"per m², or a share; 0 for colours in words and new spread"`
	Now     float64 `json:"now"`
}

// opinionsInput names a zone, and the open visit that is to stand at the end.
type opinionsInput struct {
	IDPath
	Visit uuid.UUID `query:"visit" format:"uuid" doc:"an open visit whose scales stand at the end, where anything was answered on it"`
}

// opinionsOut is the answer of listOpinions.
type opinionsOut struct {
	Opinions []Opinion `json:"opinions" nullable:"false" doc:"the oldest first"`
}

// listOpinions answers GET /zones/{id}/opinions: what was thought of a zone when, and what turned it.
func (s *Server) listOpinions(ctx context.Context, in *opinionsInput) (*body[opinionsOut], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	var given []store.Diagnosis
	if err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		given, err = casework.ReadOpinions(tx, in.ID, now)
		return err
	}); err != nil {
		return nil, err
	}
	var thread thread
	for _, g := range given {
		thread.add(Opinion{On: g.GivenOn.Format(dateOnly), VisitID: g.VisitID, Leading: g.Leading, Probability: round3(g.Probability)}, stored(g))
	}
	if n := len(given); in.Visit != uuid.Nil && (n == 0 || given[n-1].VisitID != in.Visit) {
		v, err := s.caseOn(ctx, in.Visit, in.ID)
		if err != nil {
			return nil, err
		}
		if len(v.Answers) > 0 && (n == 0 || !v.Date.Before(given[n-1].GivenOn)) {
			byDays(&v)
			r := diagnosis.Diagnose(v.Case, diagnosis.Options{NoNext: true})
			thread.add(Opinion{On: v.Date.Format(dateOnly), VisitID: in.Visit, Open: true, Leading: r.Causes[0].ID,
				Probability: round3(r.Causes[0].Probability)}, &r)
		}
	}
	return answer(opinionsOut{thread.list()}), nil
}

// stored weighs the case file of a diagnosis anew; nil where a former version of the format cannot be read.
func stored(g store.Diagnosis) *diagnosis.Result {
	c, err := casefile.Parse(g.CaseFile)
	if err != nil {
		return nil
	}
	r := diagnosis.Diagnose(c, diagnosis.Options{NoNext: true})
	return &r
}

// thread is a row of opinions, each held against the one before.
type thread struct {
	said []Opinion
	last *diagnosis.Result
}

func (t *thread) list() []Opinion {
	if t.said == nil {
		return []Opinion{}
	}
	return t.said
}

// add puts an opinion at the end; r is nil where it cannot be weighed any more.
func (t *thread) add(o Opinion, r *diagnosis.Result) {
	o.Responses = []Response{}
	if r != nil {
		o.Responses = responsesOf(r.Responses)
		if t.last != nil {
			o.Turn = turnOf(opinion.Between(*t.last, *r, t.said[len(t.said)-1].Leading), o.Leading)
		}
	}
	t.said, t.last = append(t.said, o), r
}

// turnOf is a turn as the pages tell it; nil where the tables of today see something else in the lead than was told that day.
func turnOf(x opinion.Turn, told string) *Turn {
	if x.Cause != told {
		return nil
	}
	out := &Turn{Then: round3(x.Then), Now: round3(x.Now), Before: x.Before, Left: round3(x.Left), Season: x.Season, Nearby: x.Nearby,
		Learnt: x.Learnt, Reasons: []TurnReason{}}
	for _, r := range x.Reasons {
		out.Reasons = append(out.Reasons, TurnReason{r.Finding, plainly(r.Was), plainly(r.Is), r.Bits})
	}
	return out
}

func plainly(v *knowledge.Value) any {
	if v == nil {
		return nil
	}
	return v.Plain()
}

func responsesOf(list []evidence.Response) []Response {
	out := []Response{}
	for _, r := range list {
		out = append(out, Response{Finding: r.Finding, Action: r.Action, On: r.On.Format(dateOnly), Word: r.Word, By: r.By, Count: r.Count,
			Was: r.Was.Format(dateOnly), Before: round3(r.Before), Now: round3(r.Now)})
	}
	return out
}
