package casework

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/client"
	"hodos/core/knowledge"
	"hodos/core/recovery"
	"hodos/core/turf"
	"hodos/core/units"
	"hodos/exchange/casefile"
	"hodos/store"
)

// ClientDays is how far back a client is told of, and ClientAhead how far ahead (judgement).
const (
	ClientDays  = 400
	ClientAhead = 120
	// clientReasons is how many reasons a client is given for a diagnosis (judgement).
	clientReasons = 3
)

// Told is what a client is told of one zone.
type Told struct {
	Course Course
	Judged Judged
	Grass  []string
	Given  *store.Diagnosis // the last one that was given; nil for none within ClientDays
	Ended  *store.Closing   // how its case ended; nil while it is open
	Cause  string           // what it was after all, else as diagnosed; empty for nothing
	About  client.About
	Sure   client.Sureness
	Past   bool     // it is mended, or was found too long ago to be what the lawn has now
	Why    []string // what it was known by, in words
	Not    []string // labels of causes that it is often taken for and that were ruled out
	Done   []store.TreatmentRecord
	Booked []store.Job
	Visit  *store.Visit // the next one
	Photos []store.Photo
	Tasks  []client.Task
	Closed *time.Time // nobody is to go on it before; nil where it is open
	Wet    bool       // closed until it is watered in and dry
}

// ClientPage is what a client is told of a site.
type ClientPage struct {
	Firm   store.Firm
	Site   store.Site
	Client store.Client
	Today  time.Time
	Zones  []Told
}

// ReadClientPage reads it as it stands on a day; Tell works it out when the transaction is over.
func ReadClientPage(tx *gorm.DB, site uuid.UUID, now Moment) (p ClientPage, err error) {
	if err := tx.First(&p.Site, "id = ?", site).Error; err != nil {
		return p, err
	}
	p.Today = now.In(p.Site.Timezone)
	if err := tx.First(&p.Client, "id = ?", p.Site.ClientID).Error; err != nil {
		return p, err
	}
	if err := tx.First(&p.Firm, "id = ?", p.Site.FirmID).Error; err != nil {
		return p, err
	}
	var zones []store.Zone
	if err := tx.Where("site_id = ?", site).Order("name").Find(&zones).Error; err != nil {
		return p, err
	}
	for _, z := range zones {
		t := Told{}
		if t.Course, err = ReadCourse(tx, z.ID, now); err != nil {
			return p, err
		}
		if err := t.read(tx, z, p.Today); err != nil {
			return p, err
		}
		p.Zones = append(p.Zones, t)
	}
	return p, nil
}

func (t *Told) read(tx *gorm.DB, z store.Zone, today time.Time) error {
	since := today.AddDate(0, 0, -ClientDays)
	for i, g := range t.Course.Given {
		if !g.GivenOn.Before(since) {
			t.Given, t.Past = &t.Course.Given[i], g.GivenOn.Before(today.AddDate(0, 0, -client.Current)) && !t.followed(today)
			break // the newest stands first
		}
	}
	e, err := ReadEnding(tx, t.Course)
	if err != nil {
		return err
	}
	if t.Ended = e.Closed; t.mended() {
		t.Past = true
	}
	for _, r := range store.Standing(t.Course.Records) {
		if !r.AppliedOn.Before(since) {
			t.Done = append(t.Done, r)
		}
	}
	slices.Reverse(t.Done)
	if err := tx.Where("zone_id = ? AND state = 'booked' AND due_on BETWEEN ? AND ?", z.ID, today, today.AddDate(0, 0, ClientAhead)).
		Order("due_on, step").Limit(20).Find(&t.Booked).Error; err != nil {
		return err
	}
	var next []store.Visit
	if err := tx.Where("site_id = ? AND (zone_id = ? OR zone_id IS NULL) AND closed_on IS NULL AND due_on >= ?", z.SiteID, z.ID, today).
		Order("due_on").Limit(1).Find(&next).Error; err != nil {
		return err
	}
	if len(next) > 0 {
		t.Visit = &next[0]
	}
	var closed []struct {
		Until *time.Time
		Wet   bool
	}
	if err := tx.Raw("SELECT until, until IS NULL AS wet FROM closed_zones WHERE zone_id = ? AND (until IS NULL OR until > ?)", z.ID, today).
		Scan(&closed).Error; err != nil {
		return err
	}
	for _, c := range closed {
		t.Wet = t.Wet || c.Wet
		if c.Until != nil && (t.Closed == nil || c.Until.After(*t.Closed)) {
			until := c.Until.In(Location(t.Course.Site.Timezone))
			t.Closed = &until
		}
	}
	return t.readPhotos(tx, z.ID, since)
}

// followed says whether the recovery of the zone is being measured: then the diagnosis stands as long as it goes on.
func (t *Told) followed(today time.Time) bool {
	c := t.Course
	return c.Start >= 0 && !c.Measures[len(c.Measures)-1].MeasuredOn.Before(today.AddDate(0, 0, -client.Current))
}

// readPhotos takes the first and the last picture of the bad spot: what a client compares.
func (t *Told) readPhotos(tx *gorm.DB, zone uuid.UUID, since time.Time) error {
	of := func(order string) (list []store.Photo, err error) {
		err = tx.Where("zone_id = ? AND spot IN ('worst', '') AND about = 'cover' AND taken_at >= ?", zone, since).Order(order).Limit(1).
			Find(&list).Error
		return list, err
	}
	first, err := of("taken_at, id")
	if err != nil || len(first) == 0 {
		return err
	}
	last, err := of("taken_at DESC, id DESC")
	if err != nil {
		return err
	}
	if t.Photos = first; last[0].TakenAt.Sub(first[0].TakenAt) > 24*time.Hour {
		t.Photos = append(t.Photos, last[0])
	}
	return nil
}

// ShownToClient says whether a picture stands on the page of a site.
func ShownToClient(tx *gorm.DB, site, photo uuid.UUID, now Moment) (bool, error) {
	var of struct {
		ZoneID   uuid.UUID
		Timezone string
	}
	if err := tx.Raw(`SELECT p.zone_id, s.timezone FROM photos p JOIN zones z ON z.id = p.zone_id JOIN sites s ON s.id = z.site_id
		WHERE p.id = ? AND z.site_id = ?`, photo, site).Scan(&of).Error; err != nil || of.ZoneID == uuid.Nil {
		return false, err
	}
	var t Told
	if err := t.readPhotos(tx, of.ZoneID, now.In(of.Timezone).AddDate(0, 0, -ClientDays)); err != nil {
		return false, err
	}
	return slices.ContainsFunc(t.Photos, func(p store.Photo) bool { return p.ID == photo }), nil
}

// Tell works the page out: the courses with the weather of the place, the words, and the client's part. log hears of what was not to be
// had.
func (p *ClientPage) Tell(ctx context.Context, service Service, say units.Saying, log func(station string, err error)) {
	for i := range p.Zones {
		t := &p.Zones[i]
		ahead, err := t.Course.Outlook(ctx, service)
		if err != nil {
			log(t.Course.Station.Name, err)
		}
		t.Judged = t.Course.Judge(ahead)
		t.Grass = GrassLabels(t.Course.Zone)
		t.explain(say)
		t.Tasks = client.Tasks(t.work(), t.cause(), t.family(), p.Today, say)
	}
}

// cause is what the zone has, for what is to be done about it: nothing once it has recovered, and nothing that was hardly more than
// guessed.
func (t *Told) cause() string {
	if t.Given == nil || t.Past || t.Sure == client.Open || t.Judged.Verdict == recovery.Recovered {
		return ""
	}
	return t.Cause
}

func (t *Told) mended() bool { return t.Ended != nil && t.Ended.Ended == store.Mended }

func (t *Told) family() string {
	if c, ok := knowledge.CauseByID(t.cause()); ok {
		return c.Family
	}
	return ""
}

// explain puts the diagnosis into words, with what it was taken for and is not. A case that was closed is told as what it was after all.
func (t *Told) explain(say units.Saying) {
	if t.Given == nil {
		return
	}
	t.Cause, t.Sure = t.Given.Leading, client.SureOf(t.Given.Probability)
	if t.Ended != nil {
		t.Cause, t.Sure = t.Ended.Cause, client.Sure
	}
	t.About, _ = client.Of(t.Cause)
	if t.Cause != t.Given.Leading {
		return // what the diagnosis had ruled out says nothing of another cause
	}
	var r casefile.Result
	if err := json.Unmarshal(t.Given.Result, &r); err != nil {
		return // a result of a former version: nothing is said of what it ruled out
	}
	c, _ := knowledge.CauseByID(t.Cause)
	for _, x := range r.Causes {
		if x.ID == t.Cause {
			t.Why = x.Why(clientReasons, say)
		}
	}
	for _, id := range strings.Fields(c.Mistaken) {
		for _, x := range r.Causes {
			if other, ok := knowledge.CauseByID(id); ok && x.ID == id && x.Probability < client.RuledOut {
				t.Not = append(t.Not, other.Label)
			}
		}
	}
}

// work is what was done and what is booked, for what it asks of the client.
func (t *Told) work() []client.Work {
	var out []client.Work
	for _, r := range t.Done {
		out = append(out, client.Work{Action: r.Action, On: r.AppliedOn.UTC()})
	}
	for _, j := range t.Booked {
		out = append(out, client.Work{Action: j.Action, On: j.DueOn.UTC()})
	}
	return out
}

// GrassLabels are the grasses of a zone as people call them.
func GrassLabels(z store.Zone) []string {
	ids := speciesOf(z.Species)
	out := make([]string, 0, len(ids))
	for _, id := range ids {
		if s, ok := turf.ByID(id); ok {
			out = append(out, s.Label)
		}
	}
	return out
}
