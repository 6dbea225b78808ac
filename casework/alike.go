package casework

import (
	"encoding/json"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/alike"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/store"
)

// AlikeDays is how long what another lawn showed is held against this one, and mostAlike how many lawns are read (judgement).
const (
	AlikeDays = 14
	mostAlike = 400
)

// ReadAlike holds a zone on a visit against the firm's other lawns of the same grass within NearbyKM, by what was seen on them in the
// fortnight before. Whose they are is not told. Only lawns on which somebody was in these days are read, so that it does not grow with the
// firm.
func ReadAlike(tx *gorm.DB, v Visit, visit, zone uuid.UUID) (alike.Held, error) {
	own := lawnOf(v.Case)
	var pictured struct{ Colour *float64 }
	if err := tx.Raw(`SELECT avg(colour_index) AS colour FROM photos WHERE visit_id = ? AND zone_id = ? AND about = 'cover'
		AND colour_index IS NOT NULL AND faults = '[]'`, visit, zone).Scan(&pictured).Error; err != nil {
		return alike.Held{}, err
	}
	own.Colour = pictured.Colour
	if len(v.Case.Lawn.Species) == 0 {
		return alike.Against(own, nil), nil
	}
	at := v.Case.Lawn
	lat := NearbyKM / DegreeKM
	lon := lat / math.Max(.05, math.Cos(at.Latitude*math.Pi/180))
	var rows []struct {
		ZoneID         uuid.UUID
		Finding, Cause string
		Value          store.JSON
		Colour         *float64
	}
	err := tx.Raw(`WITH seen AS (SELECT DISTINCT z.id FROM visits w JOIN sites s ON s.id = w.site_id JOIN zones z ON z.site_id = s.id
			WHERE w.started_on BETWEEN @from AND @to AND z.id <> @zone AND w.id <> @visit AND z.species ->> 0 = @grass
				AND s.latitude BETWEEN @south AND @north AND s.longitude BETWEEN @west AND @east LIMIT @most)
		SELECT z.id AS zone_id, coalesce(a.finding, '') AS finding, a.value,
			(SELECT avg(p.colour_index) FROM photos p JOIN visits w ON w.id = p.visit_id WHERE p.zone_id = z.id AND p.about = 'cover'
				AND p.colour_index IS NOT NULL AND p.faults = '[]' AND w.started_on BETWEEN @from AND @to) AS colour,
			coalesce((SELECT d.leading_cause FROM diagnoses d WHERE d.zone_id = z.id AND d.given_on BETWEEN @from AND @to
				ORDER BY d.given_on DESC, d.recorded_at DESC LIMIT 1), '') AS cause
		FROM seen z LEFT JOIN LATERAL (SELECT DISTINCT ON (a.finding) a.finding, a.value FROM answers a JOIN visits w ON w.id = a.visit_id
			WHERE a.zone_id = z.id AND a.spot = 'worst' AND a.finding IN ('green-up-percent', 'colour', 'pattern')
				AND w.started_on BETWEEN @from AND @to ORDER BY a.finding, a.seq DESC) a ON true ORDER BY z.id, a.finding`,
		map[string]any{"from": v.Date.AddDate(0, 0, -AlikeDays), "to": v.Date, "zone": zone, "visit": visit, "grass": at.Species[0],
			"south": at.Latitude - lat, "north": at.Latitude + lat, "west": at.Longitude - lon, "east": at.Longitude + lon,
			"most": mostAlike}).Scan(&rows).Error
	if err != nil {
		return alike.Held{}, err
	}
	var others []alike.Lawn
	last := uuid.Nil
	for _, r := range rows {
		if r.ZoneID != last {
			others, last = append(others, alike.Lawn{Colour: r.Colour, Cause: r.Cause}), r.ZoneID
		}
		o := &others[len(others)-1]
		switch r.Finding {
		case "green-up-percent":
			_ = json.Unmarshal(r.Value, &o.GreenUp) // written by the API alone, which has checked it; null stays nil
		case "colour":
			_ = json.Unmarshal(r.Value, &o.Colours)
		case "pattern":
			_ = json.Unmarshal(r.Value, &o.Patterns)
		}
	}
	known := others[:0]
	for _, o := range others { // a lawn of a site on which another one was looked at
		if o.GreenUp != nil || o.Colour != nil || o.Cause != "" || len(o.Colours)+len(o.Patterns) > 0 {
			known = append(known, o)
		}
	}
	return alike.Against(own, known), nil
}

// lawnOf is what the zone itself shows on the visit.
func lawnOf(c evidence.Case) (l alike.Lawn) {
	if v, ok := c.Findings["green-up-percent"]; ok {
		l.GreenUp = v.Number
	}
	l.Colours, l.Patterns = c.Findings["colour"].List, c.Findings["pattern"].List
	return l
}

// OfferedByFirm answers whether lawns round about show the same, from the firm's like lawns, where the case says nothing of it yet.
func OfferedByFirm(held alike.Held, v Visit) []evidence.Offer {
	word := held.Neighbours()
	if _, said := v.Case.Findings["neighbours-affected"]; said || word == "" {
		return nil
	}
	return []evidence.Offer{{Finding: "neighbours-affected", Spot: "worst", Value: knowledge.WordValue(word), Source: evidence.FromFirm,
		On: v.Date.Truncate(24 * time.Hour)}}
}
