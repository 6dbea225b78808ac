package casework

import (
	"encoding/json"
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/evidence"
	"hodos/core/turf"
	"hodos/store"
)

// What counts as round about, and how sure a diagnosis has to be to count as confirmed before anybody has closed its case (judgement).
const (
	NearbyKM        = 15.0
	nearbyWeeks     = 6
	NearbySure      = .9
	DegreeKM        = 111.2 // a degree of latitude
	mostNearbyCases = 500
)

// readNearby adds the confirmed cases of the firm round about in the weeks before: on other sites, on grass of the same family, each zone
// once by its newest diagnosis. A case that was closed counts with what it was after all.
func readNearby(tx *gorm.DB, site store.Site, date time.Time, c *evidence.Case) error {
	list, err := NearbyOf(tx, site, date, NearbySure)
	if err != nil {
		return err
	}
	warm := warmGrass(c.Lawn.Species)
	count := map[string]int{}
	weeks := map[string]float64{}
	var order []string
	for _, n := range list {
		if n.Warm != warm {
			continue
		}
		if count[n.Cause] == 0 {
			order = append(order, n.Cause)
			weeks[n.Cause] = math.Round(date.Sub(n.On).Hours()/24/7*10) / 10
		}
		count[n.Cause]++
	}
	for _, cause := range order {
		c.Context.Nearby = append(c.Context.Nearby, evidence.Nearby{Cause: cause, Count: count[cause], Weeks: weeks[cause]})
	}
	return nil
}

func speciesOf(j store.JSON) (out []string) {
	_ = json.Unmarshal(j, &out) // written by the API alone, which has checked it
	return out
}

func warmGrass(species []string) bool {
	if len(species) == 0 {
		return false
	}
	s, ok := turf.ByID(species[0])
	return ok && s.Family == turf.Warm
}

// NearbyCase is a case round about.
type NearbyCase struct {
	ZoneID, SiteID      uuid.UUID
	Latitude, Longitude float64
	Cause               string
	Probability         float64
	On                  time.Time
	Closed              bool // it is what it was after all
	Warm                bool
}

// NearbyOf lists the cases round about of the weeks before a day, the newest first: closed ones, and diagnoses that were given with at
// least a probability. A zone stands there once. It reads one firm's rows alone, as everything does.
func NearbyOf(tx *gorm.DB, site store.Site, date time.Time, sure float64) ([]NearbyCase, error) {
	lat := NearbyKM / DegreeKM
	lon := lat / math.Max(.05, math.Cos(site.Latitude*math.Pi/180))
	var rows []struct {
		NearbyCase
		Species store.JSON
	}
	err := tx.Raw(`SELECT z.id AS zone_id, s.id AS site_id, s.latitude, s.longitude, d.cause, d.probability, d.on, d.closed, z.species
		FROM sites s JOIN zones z ON z.firm_id = s.firm_id AND z.site_id = s.id
		CROSS JOIN LATERAL (SELECT coalesce(k.cause, d.leading_cause) AS cause, d.probability, d.given_on AS on, k.cause IS NOT NULL AS closed
			FROM diagnoses d
			LEFT JOIN LATERAL (SELECT cause FROM closings k WHERE k.zone_id = d.zone_id AND k.diagnosis_id = d.id
				ORDER BY k.seq DESC LIMIT 1) k ON true
			WHERE d.zone_id = z.id AND d.given_on BETWEEN ? AND ? AND (k.cause IS NOT NULL OR d.probability >= ?)
			ORDER BY d.given_on DESC, d.recorded_at DESC LIMIT 1) d
		WHERE s.id <> ? AND s.latitude BETWEEN ? AND ? AND s.longitude BETWEEN ? AND ?
		ORDER BY d.on DESC, z.id LIMIT ?`,
		date.AddDate(0, 0, -7*nearbyWeeks), date, sure, site.ID, site.Latitude-lat, site.Latitude+lat, site.Longitude-lon, site.Longitude+lon,
		mostNearbyCases).Scan(&rows).Error
	out := make([]NearbyCase, 0, len(rows))
	for _, r := range rows {
		r.Warm = warmGrass(speciesOf(r.Species))
		out = append(out, r.NearbyCase)
	}
	return out, err
}
