package server

import (
	"context"
	"encoding/base64"
	"math"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/knowledge"
	"hodos/store"
)

// Note is something that somebody typed, said or saw. It is for people and never weighed.
type Note struct {
	ID       uuid.UUID  `json:"id"`
	ZoneID   uuid.UUID  `json:"zone_id"`
	VisitID  *uuid.UUID `json:"visit_id,omitempty"`
	Kind     string     `json:"kind" enum:"note,soft,pale,dug"`
	Finding  string     `json:"finding" doc:"the check that it is about, or that it asks for; empty for the zone"`
	At       *OnSite    `json:"at,omitempty"`
	Text     string     `json:"text"`
	HasSound bool       `json:"has_sound"`
	By       string     `json:"by"`
	NotedOn  string     `json:"noted_on" format:"date"`
	Open     bool       `json:"open" doc:"seen on a round, and nobody has visited the lawn since"`
}

// NewNote is a note as it comes in.
type NewNote struct {
	VisitID *uuid.UUID `json:"visit_id,omitempty"`
	Kind    string     `json:"kind" enum:"note,soft,pale,dug"`
	Finding string     `json:"finding" maxLength:"60" required:"false"`
	At      *OnSite    `json:"at,omitempty"`
	Text    string     `json:"text" maxLength:"2000" required:"false"`
	NotedAt *time.Time `json:"noted_at,omitempty" doc:"when it was, where it is told later; now when left out"`
	Sound   string     `json:"sound,omitempty" maxLength:"3000000" contentEncoding:"base64" doc:"at most 2 MB"`
}

// asks is which check something seen on a round asks for.
var asks = map[string]string{"soft": "underfoot", "pale": "colour", "dug": "animal-digging"}

// soundTypes are the files of sound that are taken, by how they begin.
var soundTypes = []struct{ begins, kind string }{
	{"\x1aE\xdf\xa3", "audio/webm"}, {"OggS", "audio/ogg"}, {"RIFF", "audio/wav"},
}

// mostSound in bytes, and mostNotes listed (judgement).
const (
	mostSound = 2 << 20
	mostNotes = 200
)

// soundType is what a file of sound is; empty where it is none that is taken.
func soundType(b []byte) string {
	for _, t := range soundTypes {
		if strings.HasPrefix(string(b), t.begins) {
			return t.kind
		}
	}
	if len(b) > 12 && string(b[4:8]) == "ftyp" {
		return "audio/mp4"
	}
	return ""
}

// row checks a note and makes its rows; sound is nil where none was recorded.
func (n NewNote) row(zone uuid.UUID) (row store.Note, sound []byte, err error) {
	row = store.Note{ZoneID: zone, VisitID: n.VisitID, Kind: n.Kind, Finding: n.Finding, Body: strings.TrimSpace(n.Text)}
	if check, ok := asks[n.Kind]; ok {
		row.Finding = check
	} else if f, ok := knowledge.FindingByID(n.Finding); n.Finding != "" && (!ok || !f.Asked()) {
		return row, nil, invalid("body.finding", "is no check")
	}
	if n.At != nil {
		if !(math.Abs(n.At.East) <= 1e5 && math.Abs(n.At.North) <= 1e5) {
			return row, nil, invalid("body.at", "lies far away")
		}
		row.EastM, row.NorthM = &n.At.East, &n.At.North
	}
	if n.Sound != "" {
		if sound, err = base64.StdEncoding.DecodeString(n.Sound); err != nil || len(sound) > mostSound {
			return row, nil, invalid("body.sound", "is not base64, or larger than 2 MB")
		}
		if row.SoundType = soundType(sound); row.SoundType == "" {
			return row, nil, invalid("body.sound", "is no sound in WebM, Ogg, MP4 or WAV")
		}
	}
	if n.Kind == "note" && row.Body == "" && sound == nil {
		return row, nil, invalid("body.text", "is empty")
	}
	return row, sound, nil
}

// NotePath is a note on a zone.
type NotePath struct {
	ID   uuid.UUID `path:"id" format:"uuid"`
	Note uuid.UUID `path:"note" format:"uuid"`
}

// takeNote answers PUT /zones/{id}/notes/{note}: keep a note; the same again is no error.
func (s *Server) takeNote(ctx context.Context, in *struct {
	NotePath
	Body NewNote
}) (*body[Note], error) {
	if err := version7("path.note", in.Note); err != nil {
		return nil, err
	}
	row, sound, err := in.Body.row(in.ID)
	if err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	then, err := s.toldLater(now, in.Body.NotedAt, "body.noted_at")
	if err != nil {
		return nil, err
	}
	id := who(ctx)
	row.ID, row.FirmID, row.PersonID, row.NotedOn, row.RecordedAt = in.Note, id.Firm, id.Person, then.In(id.Timezone),
		s.now().UTC()
	var out Note
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if in.Body.VisitID != nil {
			var v store.Visit
			if err := tx.First(&v, "id = ?", *in.Body.VisitID).Error; err != nil {
				return err
			}
			if err := sameSite(tx, in.ID, v.SiteID); err != nil {
				return err
			}
		}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		if sound != nil {
			if err := tx.Exec("INSERT INTO sounds (note_id, firm_id, sound) VALUES (?, ?, ?) ON CONFLICT DO NOTHING", row.ID, id.Firm,
				sound).Error; err != nil {
				return err
			}
		}
		list, err := notesOf(tx, in.ID)
		for _, n := range list {
			if n.ID == row.ID {
				out = n
			}
		}
		return err
	})
	return answer(out), err
}

// listNotes answers GET /zones/{id}/notes: the notes on a zone, the newest first.
func (s *Server) listNotes(ctx context.Context, in *IDPath) (*body[[]Note], error) {
	out := []Note{}
	err := s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		if err := tx.Select("id").First(&store.Zone{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		out, err = notesOf(tx, in.ID)
		return err
	})
	return answer(out), err
}

func notesOf(tx *gorm.DB, zone uuid.UUID) ([]Note, error) {
	var rows []struct {
		store.Note
		Name string
		Open bool
	}
	// what was seen on a round is done with when the lawn was visited since
	err := tx.Raw(`SELECT n.*, p.name, n.kind <> 'note' AND NOT EXISTS (SELECT FROM visits v JOIN zones z ON z.site_id = v.site_id
			WHERE z.id = n.zone_id AND v.closed_on IS NOT NULL AND v.started_on >= n.noted_on AND v.id IS DISTINCT FROM n.visit_id) AS open
		FROM notes n JOIN people p ON p.id = n.person_id WHERE n.zone_id = ? ORDER BY n.recorded_at DESC, n.id DESC LIMIT ?`,
		zone, mostNotes).Scan(&rows).Error
	out := make([]Note, 0, len(rows))
	for _, r := range rows {
		n := Note{ID: r.ID, ZoneID: r.ZoneID, VisitID: r.VisitID, Kind: r.Kind, Finding: r.Finding, Text: r.Body, HasSound: r.SoundType != "",
			By: r.Name, NotedOn: r.NotedOn.Format(dateOnly), Open: r.Open}
		if r.EastM != nil && r.NorthM != nil {
			n.At = &OnSite{East: *r.EastM, North: *r.NorthM}
		}
		out = append(out, n)
	}
	return out, err
}

// soundOut is a recorded note.
type soundOut struct {
	ContentType  string `header:"Content-Type"`
	CacheControl string `header:"Cache-Control"`
	Body         []byte
}

// getSound answers GET /notes/{id}/sound.
func (s *Server) getSound(ctx context.Context, in *IDPath) (*soundOut, error) {
	out := &soundOut{CacheControl: "private, no-cache"}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		row := tx.Raw("SELECT n.sound_type, s.sound FROM sounds s JOIN notes n ON n.id = s.note_id WHERE s.note_id = ?", in.ID).Row()
		return orMissing(row.Scan(&out.ContentType, &out.Body))
	})
	return out, err
}

// longestRegret is how long one's own note can be taken back (judgement).
const longestRegret = 24 * time.Hour

// dropNote answers DELETE /notes/{id}: take one's own note back, within a day.
func (s *Server) dropNote(ctx context.Context, in *IDPath) (*struct{}, error) {
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		var n store.Note
		if err := tx.First(&n, "id = ?", in.ID).Error; err != nil {
			return err
		}
		if n.PersonID != who(ctx).Person || s.now().Sub(n.RecordedAt) > longestRegret {
			return invalid("path.id", "only whoever wrote a note takes it back, within a day")
		}
		return tx.Delete(&n).Error
	})
}
