package server

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/photo"
	"hodos/exchange/photofile"
	"hodos/store"
)

// Photo is a photograph of a zone and what was measured in it.
type Photo struct {
	ID      uuid.UUID   `json:"id"`
	VisitID uuid.UUID   `json:"visit_id"`
	ZoneID  uuid.UUID   `json:"zone_id"`
	TakenAt time.Time   `json:"taken_at"`
	By      string      `json:"by"`
	Kind    string      `json:"kind" enum:"measure,show"`
	About   string      `json:"about" enum:"cover,moss"`
	Spot    string      `json:"spot" enum:",worst,healthy"`
	At      *OnSite     `json:"at,omitempty"`
	Tilt    *float64    `json:"tilt,omitempty" doc:"degrees from straight down"`
	Note    string      `json:"note"`
	Width   int         `json:"width"`
	Height  int         `json:"height"`
	Wanted  PhotoWanted `json:"wanted"`
	Cover   *float64    `json:"cover,omitempty" doc:"share of green, or of moss, 0 to 1; left out of a picture for show"`
	Error   *float64    `json:"error,omitempty" doc:"95 %"`
	Index   *float64    `json:"index,omitempty" doc:"dark green colour index, 0 to 1"`
	Faults  []string    `json:"faults" nullable:"false" doc:"why it does not count: dark, blown, uneven, tilted"`
}

// PhotoWanted is by what a picture is measured.
type PhotoWanted struct {
	HueLow     float64    `json:"hue_low" minimum:"45" maximum:"140"`
	HueHigh    float64    `json:"hue_high" minimum:"45" maximum:"140"`
	Saturation float64    `json:"saturation" minimum:"0" maximum:"0.5"`
	Card       *InPicture `json:"card,omitempty" doc:"where a grey card lies"`
	Like       []Pointed  `json:"like,omitempty" maxItems:"20" doc:"what was pointed out as moss"`
	Other      []Pointed  `json:"other,omitempty" maxItems:"20" doc:"what was pointed out as no moss"`
}

// InPicture is a rectangle in a picture, by shares of its width and height from the top left.
type InPicture struct {
	X float64 `json:"x" minimum:"0" maximum:"1"`
	Y float64 `json:"y" minimum:"0" maximum:"1"`
	W float64 `json:"w" minimum:"0" maximum:"1"`
	H float64 `json:"h" minimum:"0" maximum:"1"`
}

// Pointed is a place in a picture, by shares of its width and height from the top left.
type Pointed struct {
	X float64 `json:"x" minimum:"0" maximum:"1"`
	Y float64 `json:"y" minimum:"0" maximum:"1"`
}

// NewPhoto is a photograph as it comes in, upright and reduced on the device.
type NewPhoto struct {
	TakenAt time.Time   `json:"taken_at"`
	Kind    string      `json:"kind" enum:"measure,show"`
	About   string      `json:"about" enum:"cover,moss"`
	Spot    string      `json:"spot" enum:",worst,healthy" required:"false"`
	At      *OnSite     `json:"at,omitempty"`
	Tilt    *float64    `json:"tilt,omitempty" minimum:"0" maximum:"180"`
	Note    string      `json:"note" maxLength:"500" required:"false"`
	Wanted  PhotoWanted `json:"wanted"`
	Seen    *PhotoSeen  `json:"seen,omitempty" doc:"what the device measured before it made a JPEG of the picture"`
	Picture string      `json:"picture" maxLength:"8000000" contentEncoding:"base64" doc:"JPEG or PNG, at most 25 million pixels"`
}

// PhotoSeen is what a device measured in a picture. A JPEG smears colours over two pixels, by which thin blades look broader.
type PhotoSeen struct {
	Cover float64 `json:"cover" minimum:"0" maximum:"1"`
	Error float64 `json:"error" minimum:"0" maximum:"1"`
	Index float64 `json:"index" minimum:"0" maximum:"2"`
}

// mostApart is by how much a device may lie beside what its JPEG comes to; beyond, it measured something else (judgement: a JPEG of blades
// three pixels wide lies off by 0.11).
const mostApart = .15

// PhotoSum is what the pictures of a zone on one visit come to together.
type PhotoSum struct {
	About string  `json:"about" enum:"cover,moss"`
	Spot  string  `json:"spot" enum:",worst,healthy"`
	Of    int     `json:"of" doc:"pictures that count"`
	Cover float64 `json:"cover"`
	Error float64 `json:"error" doc:"95 %, of the zone"`
	Index float64 `json:"index"`
}

// Photos are the photographs of a zone, the newest first.
type Photos struct {
	Photos []Photo    `json:"photos" nullable:"false"`
	Sums   []PhotoSum `json:"sums" nullable:"false" doc:"of the visit that was asked for; of none otherwise"`
}

// mostPhotos is how many photographs a zone takes on one visit, and how many are listed (judgement).
const (
	mostPhotos   = 40
	photosListed = 200
)

// oldestPhoto is how long before its visit's day a photograph may have been taken: clients send theirs (judgement).
const oldestPhoto = 60 * 24 * time.Hour

func taps(list []Pointed) []photo.Tap {
	out := make([]photo.Tap, len(list))
	for i, p := range list {
		out[i] = photo.Tap(p)
	}
	return out
}

// wanted is by what the core measures a picture.
func (n NewPhoto) wanted() photo.Wanted {
	w := photo.Wanted{Limits: photo.Limits{HueLow: n.Wanted.HueLow, HueHigh: n.Wanted.HueHigh, Saturation: n.Wanted.Saturation},
		Like: taps(n.Wanted.Like), Other: taps(n.Wanted.Other), Moss: n.About == "moss", Tilt: n.Tilt}
	if c := n.Wanted.Card; c != nil {
		card := photo.Box(*c)
		w.Card = &card
	}
	return w
}

// measured measures a picture as it is wanted, into a row; a picture for show is kept as it is. The error names the field at fault.
func (n NewPhoto) measured(p photo.Picture, row *store.Photo) error {
	row.Faults = store.JSON("[]")
	if n.Kind == "show" {
		return nil
	}
	m, err := photo.Look(p, n.wanted())
	if wrong := (*photo.Wrong)(nil); errors.As(err, &wrong) {
		where := "body.wanted." + wrong.Field
		if wrong.Field == "picture" {
			where = "body.picture"
		}
		return invalid(where, wrong.Reason)
	}
	if err != nil {
		return err
	}
	if s := n.Seen; s != nil {
		if math.Abs(s.Cover-m.Cover) > mostApart {
			return invalid("body.seen.cover", "is not what this picture comes to")
		}
		m.Cover, m.Error, m.Index = s.Cover, s.Error, s.Index
	}
	row.Cover, row.CoverError = &m.Cover, &m.Error
	if n.About == "cover" {
		row.ColourIndex = &m.Index
	}
	if len(m.Faults) > 0 {
		j, err := json.Marshal(m.Faults)
		row.Faults = store.JSON(j)
		return err
	}
	return nil
}

// PhotoPath is a photograph on a visit.
type PhotoPath struct {
	ZonePath
	Photo uuid.UUID `path:"photo" format:"uuid"`
}

// takePhoto answers PUT /visits/{id}/zones/{zone}/photos/{photo}: keep a photograph; the same again is no error.
func (s *Server) takePhoto(ctx context.Context, in *struct {
	PhotoPath
	Body NewPhoto
}) (*body[Photo], error) {
	if err := version7("path.photo", in.Photo); err != nil {
		return nil, err
	}
	now, err := s.moment(ctx)
	if err != nil {
		return nil, err
	}
	row, kept, err := in.Body.rows(now)
	if err != nil {
		return nil, err
	}
	id := who(ctx)
	row.ID, row.FirmID, row.VisitID, row.ZoneID, row.PersonID, row.RecordedAt = in.Photo, id.Firm, in.ID, in.Zone, id.Person, s.now().UTC()
	kept.PhotoID, kept.FirmID = row.ID, id.Firm
	var out Photo
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if _, _, err := casework.FindVisit(tx, in.ID, in.Zone, now); err != nil {
			return within(err)
		}
		var n int64
		others := tx.Model(&store.Photo{}).Where("visit_id = ? AND zone_id = ? AND id <> ?", in.ID, in.Zone, in.Photo)
		if err := others.Count(&n).Error; err != nil {
			return err
		}
		if n >= mostPhotos {
			return invalid("body", fmt.Sprintf("%d photographs of a zone are enough for one visit", mostPhotos))
		}
		if err := store.Create(tx, &row, row.ID); err != nil {
			return err
		}
		if row.VisitID != in.ID || row.ZoneID != in.Zone {
			return fmt.Errorf("%w: photo", store.ErrTaken)
		}
		if err := tx.Exec("INSERT INTO pictures (photo_id, firm_id, sha256, picture, thumbnail) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
			kept.PhotoID, kept.FirmID, kept.SHA256, kept.Picture, kept.Thumbnail).Error; err != nil {
			return err
		}
		list, err := photosOf(tx, []store.Photo{row})
		if err == nil {
			out = list[0]
		}
		return err
	})
	return answer(out), err
}

// rows makes the rows of a photograph, with nothing of its file but the pixels.
func (n NewPhoto) rows(now casework.Moment) (row store.Photo, kept store.Picture, err error) {
	latest := now.Furthest().Add(24 * time.Hour)
	if n.TakenAt.After(latest) || n.TakenAt.Before(now.Furthest().Add(-oldestPhoto)) {
		return row, kept, invalid("body.taken_at", "lies in the future, or more than 60 days back")
	}
	if n.At != nil && !(math.Abs(n.At.East) <= 1e5 && math.Abs(n.At.North) <= 1e5) {
		return row, kept, invalid("body.at", "lies far away")
	}
	file, err := base64.StdEncoding.DecodeString(n.Picture)
	if err != nil {
		return row, kept, invalid("body.picture", "is not base64")
	}
	img, err := photofile.Read(file)
	if err != nil {
		return row, kept, invalid("body.picture", err.Error())
	}
	row = store.Photo{TakenAt: n.TakenAt.UTC(), Kind: n.Kind, About: n.About, Spot: n.Spot, Note: n.Note, Tilt: n.Tilt, Width: img.Rect.Dx(),
		Height: img.Rect.Dy()}
	if n.At != nil {
		row.EastM, row.NorthM = &n.At.East, &n.At.North
	}
	if err := n.measured(photofile.Pixels(img), &row); err != nil {
		return row, kept, err
	}
	wanted, err := json.Marshal(n.Wanted)
	if err != nil {
		return row, kept, err
	}
	row.Wanted = store.JSON(wanted)
	if kept.Picture, err = photofile.JPEG(img); err != nil {
		return row, kept, err
	}
	if kept.Thumbnail, err = photofile.Thumbnail(img); err != nil {
		return row, kept, err
	}
	sum := sha256.Sum256(kept.Picture)
	kept.SHA256 = sum[:]
	return row, kept, nil
}

// photosOf are rows as the API has them, with who took them.
func photosOf(tx *gorm.DB, rows []store.Photo) ([]Photo, error) {
	out := []Photo{}
	var people []store.Person
	keys := []uuid.UUID{}
	for _, r := range rows {
		if !slices.Contains(keys, r.PersonID) {
			keys = append(keys, r.PersonID)
		}
	}
	if len(rows) > 0 {
		if err := tx.Where("id IN ?", keys).Find(&people).Error; err != nil {
			return nil, err
		}
	}
	for _, r := range rows {
		p := Photo{ID: r.ID, VisitID: r.VisitID, ZoneID: r.ZoneID, TakenAt: r.TakenAt, Kind: r.Kind, About: r.About, Spot: r.Spot, Tilt: r.Tilt,
			Note: r.Note, Width: r.Width, Height: r.Height, Cover: r.Cover, Error: r.CoverError, Index: r.ColourIndex, Faults: []string{}}
		if err := json.Unmarshal(r.Faults, &p.Faults); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(r.Wanted, &p.Wanted); err != nil {
			return nil, err
		}
		if r.EastM != nil && r.NorthM != nil {
			p.At = &OnSite{East: *r.EastM, North: *r.NorthM}
		}
		for _, person := range people {
			if person.ID == r.PersonID {
				p.By = person.Name
			}
		}
		out = append(out, p)
	}
	return out, nil
}

// sums are what the pictures that count come to, by what they are about and where they were taken.
func sums(photos []Photo) []PhotoSum {
	out := []PhotoSum{}
	for _, about := range []string{"cover", "moss"} {
		for _, spot := range []string{"", "worst", "healthy"} {
			var list []photo.Measured
			index := 0.0
			for _, p := range photos {
				if p.About != about || p.Spot != spot || p.Cover == nil || p.Error == nil || len(p.Faults) > 0 {
					continue
				}
				list = append(list, photo.Measured{Cover: *p.Cover, Error: *p.Error})
				if p.Index != nil {
					index += *p.Index
				}
			}
			if len(list) == 0 {
				continue
			}
			cover, e := photo.Of(list)
			out = append(out, PhotoSum{about, spot, len(list), cover, e, index / float64(len(list))})
		}
	}
	return out
}

// listPhotos answers GET /visits/{id}/zones/{zone}/photos: the photographs of a zone on a visit, and what they come to.
func (s *Server) listPhotos(ctx context.Context, in *ZonePath) (*body[Photos], error) {
	out, err := s.photos(ctx, in.Zone, "visit_id = ? AND zone_id = ?", in.ID, in.Zone)
	out.Sums = sums(out.Photos)
	return answer(out), err
}

// listZonePhotos answers GET /zones/{id}/photos: the photographs of a zone on all visits, the newest first.
func (s *Server) listZonePhotos(ctx context.Context, in *IDPath) (*body[Photos], error) {
	out, err := s.photos(ctx, in.ID, "zone_id = ?", in.ID)
	return answer(out), err
}

func (s *Server) photos(ctx context.Context, zone uuid.UUID, where string, args ...any) (Photos, error) {
	out := Photos{Photos: []Photo{}, Sums: []PhotoSum{}}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.Select("id").First(&store.Zone{}, "id = ?", zone).Error; err != nil {
			return err
		}
		var rows []store.Photo
		if err := tx.Where(where, args...).Order("taken_at DESC, id DESC").Limit(photosListed).Find(&rows).Error; err != nil {
			return err
		}
		list, err := photosOf(tx, rows)
		if err == nil {
			out.Photos = list
		}
		return err
	})
	return out, err
}

type pictureInput struct {
	IDPath
	Match string `header:"If-None-Match"`
}

// pictureOut is a picture: what stands under a key never changes, but only who is signed in sees it again.
type pictureOut struct {
	Status       int
	ContentType  string `header:"Content-Type"`
	CacheControl string `header:"Cache-Control"`
	ETag         string `header:"ETag"`
	Body         []byte
}

// getPicture answers GET /photos/{id}/picture.
func (s *Server) getPicture(ctx context.Context, in *pictureInput) (*pictureOut, error) {
	return s.picture(ctx, in, "picture")
}

// getThumbnail answers GET /photos/{id}/thumbnail.
func (s *Server) getThumbnail(ctx context.Context, in *pictureInput) (*pictureOut, error) {
	return s.picture(ctx, in, "thumbnail")
}

func (s *Server) picture(ctx context.Context, in *pictureInput, column string) (*pictureOut, error) {
	out := &pictureOut{Status: 200, ContentType: "image/jpeg", CacheControl: "private, no-cache"}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		var sum []byte
		if err := tx.Raw("SELECT sha256 FROM pictures WHERE photo_id = ?", in.ID).Row().Scan(&sum); err != nil {
			return orMissing(err)
		}
		out.ETag = fmt.Sprintf(`"%s-%x"`, column, sum[:8])
		if in.Match == out.ETag {
			out.Status = 304
			return nil
		}
		return tx.Raw("SELECT "+column+" FROM pictures WHERE photo_id = ?", in.ID).Row().Scan(&out.Body)
	})
	return out, err
}

func orMissing(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return store.ErrNotFound
	}
	return err
}

// dropPhoto answers DELETE /photos/{id}: take a photograph away, while its visit is open.
func (s *Server) dropPhoto(ctx context.Context, in *IDPath) (*struct{}, error) {
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		var closed []bool
		if err := tx.Raw("SELECT v.closed_on IS NOT NULL FROM photos p JOIN visits v ON v.id = p.visit_id WHERE p.id = ?",
			in.ID).Scan(&closed).Error; err != nil {
			return err
		}
		if len(closed) == 0 {
			return store.ErrNotFound
		}
		if closed[0] {
			return invalid("path.id", "its visit is closed: what was seen on it stays")
		}
		return tx.Where("id = ?", in.ID).Delete(&store.Photo{}).Error
	})
}
