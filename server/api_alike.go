package server

import (
	"context"

	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/alike"
)

// Alike is a lawn held against the firm's like lawns of these weeks. Whose they are is not told.
type Alike struct {
	Lawns   int        `json:"lawns" doc:"others of the same grass round about, seen in the fortnight before"`
	KM      float64    `json:"km"`
	Days    int        `json:"days"`
	GreenUp *AlikeOf   `json:"green_up,omitempty" doc:"%"`
	Colour  *AlikeOf   `json:"colour,omitempty" doc:"index by picture, 0 to 1"`
	Same    AlikeShare `json:"same" doc:"others that show one of its colours in one of its patterns"`
	AtRest  AlikeShare `json:"at_rest" doc:"others that were found dormant, of those diagnosed"`
}

// AlikeOf is one reading among those of the others.
type AlikeOf struct {
	Own     *float64 `json:"own,omitempty"`
	N       int      `json:"n"`
	Median  float64  `json:"median"`
	Quarter float64  `json:"quarter"`
	ThreeQ  float64  `json:"three_quarters"`
	Word    string   `json:"word" enum:",behind,as-they,ahead" doc:"empty where there are too few, or its own is not known"`
}

// AlikeShare is how many of how many.
type AlikeShare struct {
	Of int `json:"of"`
	N  int `json:"n"`
}

// getAlike answers GET /visits/{id}/zones/{zone}/alike.
func (s *Server) getAlike(ctx context.Context, in *ZonePath) (*body[Alike], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	out := &body[Alike]{}
	return out, s.inFirm(ctx, func(tx *gorm.DB) error {
		v, err := readVisit(tx, s.known, in.ID, in.Zone, now)
		if err != nil {
			return err
		}
		held, err := casework.ReadAlike(tx, v, in.ID, in.Zone)
		out.Body = Alike{Lawns: held.Lawns, KM: casework.NearbyKM, Days: casework.AlikeDays, GreenUp: alikeOf(held.GreenUp),
			Colour: alikeOf(held.Colour), Same: AlikeShare{held.Same, held.Seen}, AtRest: AlikeShare{held.Resting, held.Diagnosed}}
		return err
	})
}

func alikeOf(f alike.Figure) *AlikeOf {
	if f.Others.N == 0 {
		return nil
	}
	return &AlikeOf{f.Own, f.Others.N, round3(f.Others.Median), round3(f.Others.Quarter), round3(f.Others.ThreeQ), string(f.Word)}
}
