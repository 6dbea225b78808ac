package server

import (
	"context"
	"math"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/knowledge"
	"hodos/store"
)

// Closing is the end of a zone's case.
type Closing struct {
	ID       uuid.UUID `json:"id"`
	ZoneID   uuid.UUID `json:"zone_id"`
	Cause    string    `json:"cause" maxLength:"60" doc:"what it was after all"`
	Ended    string    `json:"ended" enum:"mended,stays" doc:"the cause is mended, or it stays and is lived with"`
	Note     string    `json:"note" maxLength:"2000" required:"false"`
	ClosedOn string    `json:"closed_on,omitempty" format:"date" readOnly:"true"`
}

// Ending is how a zone's case stands with its end.
type Ending struct {
	Cause      string   `json:"cause" doc:"as closed, else as diagnosed last; empty for nothing"`
	Closed     *Closing `json:"closed,omitempty" doc:"left out while the case is open"`
	Prevented  bool     `json:"prevented" doc:"there is a preventive against the cause"`
	Preventive *Booked  `json:"preventive,omitempty" doc:"the one that is booked"`
	Again      []Again  `json:"again" nullable:"false" doc:"causes that were found here at least twice in three years"`
}

// Booked is a job that is booked, in short.
type Booked struct {
	ID     uuid.UUID `json:"id"`
	Action string    `json:"action"`
	DueOn  string    `json:"due_on" format:"date"`
}

// Again is a cause that has come back.
type Again struct {
	Cause string     `json:"cause"`
	Times []string   `json:"times" nullable:"false" doc:"the days on which it was found, the first first"`
	Why   string     `json:"why" doc:"why what was done has not ended it"`
	Eased []string   `json:"eased" nullable:"false" doc:"actions done since that only ease it"`
	Ended []string   `json:"ended" nullable:"false" doc:"actions done since that would end it"`
	Ends  []EndsWith `json:"ends" nullable:"false" doc:"what would end it"`
}

// EndsWith is an action with its price on the zone, in the firm's money.
type EndsWith struct {
	Action string  `json:"action"`
	Price  float64 `json:"price" doc:"0 where it has none"`
}

func endingView(e casework.Ending) *Ending {
	out := &Ending{Cause: e.Cause, Prevented: e.Prevented, Again: []Again{}}
	if k := e.Closed; k != nil {
		out.Closed = &Closing{k.ID, k.ZoneID, k.Cause, k.Ended, k.Note, k.ClosedOn.Format(dateOnly)}
	}
	if j := e.Preventive; j != nil {
		out.Preventive = &Booked{j.ID, j.Action, j.DueOn.Format(dateOnly)}
	}
	for _, a := range e.Again {
		x := Again{Cause: a.Cause, Times: []string{}, Why: a.Why, Eased: list(a.Eased), Ended: list(a.Ended), Ends: []EndsWith{}}
		for _, t := range a.Times {
			x.Times = append(x.Times, t.Format(dateOnly))
		}
		for _, w := range a.Ends {
			x.Ends = append(x.Ends, EndsWith{w.Action, math.Round(w.Price)})
		}
		out.Again = append(out.Again, x)
	}
	return out
}

// list is a list that is never null.
func list(l []string) []string {
	if l == nil {
		return []string{}
	}
	return l
}

// closeCase answers POST /visits/{id}/closings: close a zone's case. What is closed stays on record; a later baseline or diagnosis opens a
// new one.
func (s *Server) closeCase(ctx context.Context, in *struct {
	IDPath
	Body Closing
}) (*body[Recovery], error) {
	k := in.Body
	if err := keyed(k.ID); err != nil {
		return nil, err
	}
	if _, ok := knowledge.CauseByID(k.Cause); !ok {
		return nil, invalid("body.cause", "is no cause")
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		_, today, err := casework.FindVisit(tx, in.ID, k.ZoneID, now)
		if err != nil {
			return within(err)
		}
		c, err := casework.ReadCourse(tx, k.ZoneID, now)
		if err != nil {
			return err
		}
		e, err := casework.ReadEnding(tx, c)
		if err != nil {
			return err
		}
		if e.Closed != nil && e.Closed.ID != k.ID {
			return invalid("body.zone_id", "has no open case")
		}
		row := store.Closing{ID: k.ID, FirmID: who(ctx).Firm, ZoneID: k.ZoneID, VisitID: &in.ID, DiagnosisID: e.Diagnosis, Cause: k.Cause,
			Ended: k.Ended, Note: k.Note, ClosedOn: today, PersonID: who(ctx).Person, RecordedAt: s.now().UTC()}
		if n := len(c.Measures); n > 0 {
			row.Cover = &c.Measures[n-1].Cover
		}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		return casework.EndCourse(tx, c.Zone, today)
	})
	if err != nil {
		return nil, err
	}
	return s.recoveryAnswer(ctx, k.ZoneID, now)
}

// NearbyCase is a confirmed case round about, as far from the site and in which direction; whose lawn it is is not told.
type NearbyCase struct {
	Cause  string  `json:"cause"`
	On     string  `json:"on" format:"date"`
	KM     float64 `json:"km"`
	Toward float64 `json:"toward" doc:"degrees from north, clockwise"`
	Warm   bool    `json:"warm" doc:"on warm-season grass"`
	Closed bool    `json:"closed" doc:"the case is closed: that is what it was"`
}

// listNearby answers GET /sites/{id}/nearby: confirmed cases of the firm round about in the last six weeks.
func (s *Server) listNearby(ctx context.Context, in *IDPath) (*body[[]NearbyCase], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	out := &body[[]NearbyCase]{[]NearbyCase{}}
	return out, s.inFirm(ctx, func(tx *gorm.DB) error {
		var site store.Site
		if err := tx.First(&site, "id = ?", in.ID).Error; err != nil {
			return err
		}
		cases, err := casework.NearbyOf(tx, site, now.In(site.Timezone), casework.NearbySure)
		for _, n := range cases {
			north := (n.Latitude - site.Latitude) * casework.DegreeKM
			east := (n.Longitude - site.Longitude) * casework.DegreeKM * math.Cos(site.Latitude*math.Pi/180)
			toward := math.Mod(math.Atan2(east, north)*180/math.Pi+360, 360)
			out.Body = append(out.Body, NearbyCase{Cause: n.Cause, On: n.On.Format(dateOnly), KM: math.Round(math.Hypot(north, east)*10) / 10,
				Toward: math.Round(toward), Warm: n.Warm, Closed: n.Closed})
		}
		return err
	})
}
