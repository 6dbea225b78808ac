package server

import (
	"context"
	"slices"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/evidence"
)

// Offer is an answer that records, a former visit or another zone have given already: it only has to be confirmed.
type Offer struct {
	Finding string     `json:"finding"`
	Spot    string     `json:"spot" enum:"worst,healthy"`
	Value   any        `json:"value"`
	Source  string     `json:"source" enum:"records,visit,zone,client,firm" doc:"records count without being confirmed"`
	On      string     `json:"on,omitempty" format:"date" doc:"day of the record or the visit"`
	ZoneID  *uuid.UUID `json:"zone_id,omitempty" doc:"the other zone"`
}

// offers answers GET /visits/{id}/zones/{zone}/offers: what need not be asked anew.
func (s *Server) offers(ctx context.Context, in *ZonePath) (*body[[]Offer], error) {
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	out := []Offer{}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		v, err := readVisit(tx, s.known, in.ID, in.Zone, now)
		if err != nil {
			return err
		}
		others, err := casework.OfferedBy(tx, in.ID, in.Zone)
		if err != nil {
			return err
		}
		told, err := casework.OfferedByClient(tx, in.ID, in.Zone, v.Case)
		if err != nil {
			return err
		}
		held, err := casework.ReadAlike(tx, v, in.ID, in.Zone)
		for _, o := range slices.Concat(told, evidence.Offers(v.Case), others, casework.OfferedByFirm(held, v)) {
			out = append(out, offerOf(o))
		}
		return err
	})
	return answer(out), err
}

func offerOf(o evidence.Offer) Offer {
	x := Offer{Finding: o.Finding, Spot: o.Spot, Value: o.Value.Plain(), Source: o.Source}
	if !o.On.IsZero() {
		x.On = o.On.Format(dateOnly)
	}
	if id, err := uuid.Parse(o.Zone); err == nil {
		x.ZoneID = &id
	}
	return x
}
