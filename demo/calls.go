package demo

import (
	"crypto/sha256"
	"encoding/json"
	"time"

	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/client"
	"hodos/exchange/photofile"
	"hodos/store"
)

// told is what a client told of a lawn before anybody came.
type told struct {
	zone   int
	at     time.Time
	note   string
	picked map[string][]string
	shown  []Drawing
}

// calls are what the demo's clients told, by the number of the property.
var calls = map[uint32]told{
	4: {zone: 0, at: time.Date(2026, 8, 24, 11, 40, 0, 0, time.UTC),
		note: "Yesterday evening it was green. This morning half of it looks mown to the ground, and the birds are all over it.",
		picked: map[string][]string{"onset-speed": {"overnight"}, "affected-area-percent": {"33"}, "pattern": {"irregular-patches"},
			"colour": {"straw-tan", "brown"}, "animal-digging": {"bird-probing"}, "neighbours-affected": {"few"},
			"irrigation-time": {"early-morning"}, "days-since-water": {"1"}},
		shown: []Drawing{{Cover: .45, Patchy: .8, Seed: 401}, {Cover: .3, Patchy: .3, Seed: 402}}},
	5: {zone: 0, at: time.Date(2026, 8, 23, 18, 5, 0, 0, time.UTC), note: "Some dark green rings by the terrace. No hurry.",
		picked: map[string][]string{"onset-speed": {"gradual"}, "affected-area-percent": {"3"}, "pattern": {"rings"}, "colour": {"dark-green"},
			"neighbours-affected": {"none"}, "dog-on-lawn": {"no"}},
		shown: []Drawing{{Cover: .8, Patchy: .4, Seed: 403}}},
}

// loadCall keeps what the client of a property told, through a link that nobody can open.
func (p property) loadCall(tx *gorm.DB, site store.Site, zones []store.Zone) error {
	c, ok := calls[p.n]
	if !ok {
		return nil
	}
	hash := sha256.Sum256(append([]byte("withdrawn"), byte(p.n)))
	ended := c.at.Add(time.Hour)
	link := store.ClientLink{ID: p.key(90), TokenHash: hash[:], FirmID: Firm, SiteID: site.ID, PersonID: People["office"],
		CreatedAt: c.at.Add(-time.Hour), ExpiresAt: c.at.AddDate(0, 1, 0), WithdrawnAt: &ended, Opened: 1, OpenedAt: &c.at}
	if err := tx.Create(&link).Error; err != nil {
		return err
	}
	answers := map[string]any{}
	for finding, ids := range c.picked {
		plain, err := client.Told(finding, ids)
		if err != nil {
			return err
		}
		answers[finding] = plain
	}
	z := zones[c.zone]
	row := store.Call{ID: p.key(91), FirmID: Firm, ZoneID: z.ID, LinkID: link.ID, ToldAt: c.at,
		ToldOn: c.at.Truncate(24 * time.Hour), Note: c.note}
	var err error
	if row.Picked, err = json.Marshal(c.picked); err != nil {
		return err
	}
	if row.Answers, err = json.Marshal(answers); err != nil {
		return err
	}
	v, err := casework.ReadTold(tx, casework.NewKnown(1), z.ID, row.ToldOn, answers)
	if err != nil {
		return err
	}
	if err := v.Triage(z.AreaM2, &row); err != nil {
		return err
	}
	if err := casework.TakeCall(tx, site.ID, &row); err != nil {
		return err
	}
	for i, d := range c.shown {
		picture := store.CallPicture{ID: p.key(uint32(92 + i)), CallID: row.ID, Place: i + 1, FirmID: Firm}
		img := Draw(d).Image
		if picture.Picture, err = photofile.JPEG(img); err != nil {
			return err
		}
		if picture.Thumbnail, err = photofile.Thumbnail(img); err != nil {
			return err
		}
		if err := tx.Create(&picture).Error; err != nil {
			return err
		}
	}
	return nil
}
