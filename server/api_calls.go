package server

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/client"
	"hodos/core/diagnosis"
	"hodos/core/knowledge"
	"hodos/core/triage"
	"hodos/store"
)

// Call is what a client told, as the firm sees it.
type Call struct {
	ID         uuid.UUID            `json:"id"`
	ToldOn     string               `json:"told_on" format:"date"`
	ToldAt     time.Time            `json:"told_at"`
	SiteID     uuid.UUID            `json:"site_id"`
	SiteName   string               `json:"site_name"`
	ZoneID     uuid.UUID            `json:"zone_id"`
	ZoneName   string               `json:"zone_name"`
	ClientName string               `json:"client_name"`
	Phone      string               `json:"phone"`
	Note       string               `json:"note"`
	Said       []CallSaid           `json:"said" nullable:"false" doc:"question and answer in the client's words"`
	Pictures   int                  `json:"pictures" doc:"numbered from 1"`
	Within     string               `json:"within" enum:"today,this-week,next-tour" doc:"how soon somebody has to come"`
	PerDay     float64              `json:"per_day" doc:"what a day of waiting costs, expected, in the firm's money"`
	Because    []casework.FastCause `json:"because" nullable:"false" doc:"what makes it urgent"`
	VisitID    *uuid.UUID           `json:"visit_id,omitempty" doc:"the visit on which it is looked at"`
	VisitOn    string               `json:"visit_on,omitempty" format:"date"`
	Late       bool                 `json:"late" doc:"the visit lies later than it should"`
	Aside      bool                 `json:"aside" doc:"put aside without a visit"`
}

// CallSaid is one question and its answer.
type CallSaid struct {
	Finding string   `json:"finding"`
	Asked   string   `json:"asked"`
	Said    []string `json:"said" nullable:"false"`
}

// CallDetail is a call with what can be told of it, and what cannot.
type CallDetail struct {
	Call   Call         `json:"call"`
	Likely []CallLikely `json:"likely" nullable:"false" doc:"what it may be, by all that is known from afar: no diagnosis"`
	Open   []CallCheck  `json:"open" nullable:"false" doc:"the checks on site that it hangs on"`
}

// CallLikely is one cause that it may be.
type CallLikely struct {
	Cause string  `json:"cause"`
	P     float64 `json:"p"`
}

// CallCheck is one check that nobody can make from afar.
type CallCheck struct {
	Finding   string `json:"finding"`
	Procedure string `json:"procedure"`
}

// dueDays is by when somebody has to have come, in days.
var dueDays = map[string]int{string(triage.Today): 1, string(triage.ThisWeek): 7, string(triage.NextTour): 28}

func callOf(c casework.Called) (Call, error) {
	out := Call{ID: c.ID, ToldOn: c.ToldOn.Format(dateOnly), ToldAt: c.ToldAt, SiteID: c.SiteID, SiteName: c.SiteName, ZoneID: c.ZoneID,
		ZoneName: c.ZoneName, ClientName: c.ClientName, Phone: c.Phone, Note: c.Note, Said: []CallSaid{}, Pictures: c.Pictures, Within: c.Within,
		PerDay: round3(c.PerDay), Because: []casework.FastCause{}, VisitID: c.VisitID, Aside: c.AsideAt != nil}
	if c.VisitDue != nil {
		out.VisitOn = c.VisitDue.Format(dateOnly)
		out.Late = c.VisitDue.After(c.ToldOn.AddDate(0, 0, dueDays[c.Within]))
	}
	if err := json.Unmarshal(c.Because, &out.Because); err != nil {
		return out, err
	}
	var picked map[string][]string
	if err := json.Unmarshal(c.Picked, &picked); err != nil {
		return out, err
	}
	for _, q := range client.Questions() {
		ids, ok := picked[q.Finding]
		if !ok {
			continue
		}
		x := CallSaid{q.Finding, q.Text, nil}
		for _, id := range ids {
			x.Said = append(x.Said, client.ChoiceText(q.Finding, id))
		}
		out.Said = append(out.Said, x)
	}
	return out, nil
}

func callsOf(list []casework.Called) ([]Call, error) {
	out := []Call{}
	for _, c := range list {
		x, err := callOf(c)
		if err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, nil
}

// listCalls answers GET /calls: what clients told and nobody has gone to yet, the most urgent first.
func (s *Server) listCalls(ctx context.Context, _ *struct{}) (*body[[]Call], error) {
	var out []Call
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		list, err := casework.OpenCalls(tx)
		if err != nil {
			return err
		}
		slices.SortStableFunc(list, func(a, b casework.Called) int {
			return triage.Urgency{Within: triage.Within(a.Within), PerDay: a.PerDay}.Before(
				triage.Urgency{Within: triage.Within(b.Within), PerDay: b.PerDay})
		})
		out, err = callsOf(list)
		return err
	})
	return answer(out), err
}

// likelyFrom is the chance from which a cause is named of what was only told, and how many are.
const (
	likelyFrom = .05
	likelyMost = 4
	openMost   = 4
)

// getCall answers GET /calls/{id}: what was told, what it may be, and what only a visit can tell.
func (s *Server) getCall(ctx context.Context, in *IDPath) (*body[CallDetail], error) {
	out := CallDetail{Likely: []CallLikely{}, Open: []CallCheck{}}
	var v casework.Visit
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		c, err := casework.FindCall(tx, in.ID)
		if err != nil {
			return err
		}
		if out.Call, err = callOf(c); err != nil {
			return err
		}
		var told map[string]any
		if err := json.Unmarshal(c.Answers, &told); err != nil {
			return err
		}
		v, err = casework.ReadTold(tx, s.known, c.ZoneID, c.ToldOn, told)
		return err
	})
	if err != nil {
		return nil, err
	}
	byDays(&v)
	r := diagnosis.Diagnose(v.Case, diagnosis.Options{NoLedger: true})
	for _, c := range r.Causes {
		if c.Probability >= likelyFrom && c.ID != knowledge.Healthy && len(out.Likely) < likelyMost {
			out.Likely = append(out.Likely, CallLikely{c.ID, round3(c.Probability)})
		}
	}
	for _, n := range r.Next {
		if f, ok := knowledge.FindingByID(n.Finding); ok && f.Station != "ask" && len(out.Open) < openMost {
			out.Open = append(out.Open, CallCheck{n.Finding, n.Procedure})
		}
	}
	return answer(out), nil
}

// callPicture answers GET /calls/{id}/pictures/{place}: a picture that a client sent.
func (s *Server) callPicture(ctx context.Context, in *struct {
	IDPath
	Place int  `path:"place" minimum:"1" maximum:"6"`
	Small bool `query:"small" doc:"the thumbnail"`
}) (*pictureOut, error) {
	column := "picture"
	if in.Small {
		column = "thumbnail"
	}
	out := &pictureOut{Status: 200, ContentType: "image/jpeg", CacheControl: "private, max-age=86400, immutable"}
	return out, s.inFirm(ctx, func(tx *gorm.DB) error {
		return orMissing(tx.Raw("SELECT "+column+" FROM call_pictures WHERE call_id = ? AND place = ?", in.ID, in.Place).Row().Scan(&out.Body))
	})
}

// giveCallVisit answers PUT /calls/{id}/visit: the visit on which it is looked at.
func (s *Server) giveCallVisit(ctx context.Context, in *struct {
	IDPath
	Body struct {
		VisitID uuid.UUID `json:"visit_id"`
	}
}) (*body[Call], error) {
	return s.changeCall(ctx, in.ID, func(tx *gorm.DB, c casework.Called) (map[string]any, error) {
		var v store.Visit
		if err := tx.Where("id = ? AND site_id = ?", in.Body.VisitID, c.SiteID).Limit(1).Find(&v).Error; err != nil {
			return nil, err
		}
		switch {
		case v.ID == uuid.Nil:
			return nil, invalid("body.visit_id", "is no visit of this site")
		case v.ClosedOn != nil:
			return nil, invalid("body.visit_id", "is over")
		}
		return map[string]any{"visit_id": v.ID, "aside_at": nil, "aside_by": nil}, nil
	})
}

// putCallAside answers POST /calls/{id}/aside: nobody needs to come for it.
func (s *Server) putCallAside(ctx context.Context, in *IDPath) (*body[Call], error) {
	return s.changeCall(ctx, in.ID, func(*gorm.DB, casework.Called) (map[string]any, error) {
		return map[string]any{"aside_at": s.now().UTC(), "aside_by": who(ctx).Person}, nil
	})
}

// changeCall sets some columns of a call and answers with how it stands then.
func (s *Server) changeCall(ctx context.Context, id uuid.UUID,
	f func(*gorm.DB, casework.Called) (map[string]any, error)) (*body[Call], error) {
	var out Call
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		c, err := casework.FindCall(tx, id)
		if err != nil {
			return err
		}
		change, err := f(tx, c)
		if err != nil {
			return err
		}
		if err := tx.Model(&store.Call{}).Where("id = ?", id).Updates(change).Error; err != nil {
			return err
		}
		if c, err = casework.FindCall(tx, id); err != nil {
			return err
		}
		out, err = callOf(c)
		return err
	})
	return answer(out), err
}
