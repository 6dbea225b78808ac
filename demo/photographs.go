package demo

import (
	"cmp"
	"crypto/sha256"
	"image"
	"math"
	"math/rand/v2"
	"sync"
	"time"

	"gorm.io/gorm"

	"hodos/core/photo"
	"hodos/exchange/photofile"
	"hodos/store"
)

// DrawnLawn is a picture of turf from straight above that is drawn, not taken: its cover is known exactly.
type DrawnLawn struct {
	Image *image.NRGBA
	Cover float64 // share of pixels on which green was drawn
	Moss  float64 // and moss
}

// Drawing says what a lawn is drawn as: the share that the painter aims for, how patchy it is (0 even, 1 one bare patch), a cast of
// the light,
// and moss among the grass.
type Drawing struct {
	Cover, Patchy, Moss float64
	Cast                [3]float64
	Seed                uint64
}

// drawn sizes in pixels; a picture shows about a step by three quarters of one.
const drawnWidth, drawnHeight = 720, 540

// Draw draws a lawn: soil and dead leaves, then blades where a field of hills and hollows lies high enough.
func Draw(d Drawing) DrawnLawn {
	chance := rand.New(rand.NewPCG(d.Seed, 17))
	img := image.NewNRGBA(image.Rect(0, 0, drawnWidth, drawnHeight))
	ground(img, chance)
	field := hills(chance, d.Patchy)
	green := make([]bool, drawnWidth*drawnHeight)
	moss := make([]bool, drawnWidth*drawnHeight)
	// blades are laid until the share is reached; where the field is high they are laid more readily
	for tries, covered := 0, 0; float64(covered) < d.Cover*drawnWidth*drawnHeight && tries < 4_000_000; tries++ {
		x, y := chance.IntN(drawnWidth), chance.IntN(drawnHeight)
		if field[y*drawnWidth+x] > chance.Float64() {
			covered += blade(img, green, x, y, chance)
		}
	}
	for covered := 0; float64(covered) < d.Moss*drawnWidth*drawnHeight; {
		covered += cushion(img, green, moss, chance)
	}
	out := DrawnLawn{Image: img}
	for i := range green {
		if green[i] {
			out.Cover += 1.0 / (drawnWidth * drawnHeight)
		}
		if moss[i] {
			out.Moss += 1.0 / (drawnWidth * drawnHeight)
		}
	}
	if d.Cast != ([3]float64{}) {
		for i := range drawnWidth * drawnHeight {
			for c, g := range d.Cast {
				img.Pix[4*i+c] = bounded(float64(img.Pix[4*i+c]) * g)
			}
		}
	}
	return out
}

// toned is a colour, lighter or darker.
func toned(r, g, b, tone float64) [3]uint8 {
	return [3]uint8{bounded(r * tone), bounded(g * tone), bounded(b * tone)}
}

func paint(img *image.NRGBA, x, y int, c [3]uint8) {
	copy(img.Pix[4*(y*drawnWidth+x):], c[:])
}

func bounded(x float64) uint8 { return uint8(math.Max(0, math.Min(255, x))) }

// ground is soil with dead leaves of many browns.
func ground(img *image.NRGBA, chance *rand.Rand) {
	for i := range drawnWidth * drawnHeight {
		v := chance.NormFloat64() * 9
		img.Pix[4*i], img.Pix[4*i+1], img.Pix[4*i+2], img.Pix[4*i+3] = bounded(112+v), bounded(88+v), bounded(64+v), 255
	}
	for range 4000 {
		tones := toned(204, 178, 124, .75+chance.Float64()*.4)
		stroke(chance.IntN(drawnWidth), chance.IntN(drawnHeight), 14+chance.Float64()*26, chance, func(x, y int) {
			paint(img, x, y, tones)
		})
	}
}

// hills is a smooth field from 0 to 1: where grass stands.
func hills(chance *rand.Rand, patchy float64) []float64 {
	type hill struct{ x, y, r float64 }
	var bare []hill
	for range 3 {
		bare = append(bare, hill{chance.Float64() * drawnWidth, chance.Float64() * drawnHeight, 68 + chance.Float64()*124})
	}
	out := make([]float64, drawnWidth*drawnHeight)
	for i := range out {
		low := 0.0
		for _, h := range bare {
			d := math.Hypot(float64(i%drawnWidth)-h.x, float64(i/drawnWidth)-h.y) / h.r
			low = math.Max(low, math.Exp(-d*d*d))
		}
		out[i] = 1 - patchy*low
	}
	return out
}

// blade lays one blade down and tells how many pixels became green.
func blade(img *image.NRGBA, green []bool, x, y int, chance *rand.Rand) int {
	tones := toned(78, 128, 52, .72+chance.Float64()*.55)
	n := 0
	stroke(x, y, 18+chance.Float64()*28, chance, func(x, y int) {
		paint(img, x, y, tones)
		if i := y*drawnWidth + x; !green[i] {
			green[i] = true
			n++
		}
	})
	return n
}

// cushion lays a tuft of moss down: yellower, finer and flatter than grass.
func cushion(img *image.NRGBA, green, moss []bool, chance *rand.Rand) int {
	cx, cy, r := chance.IntN(drawnWidth), chance.IntN(drawnHeight), 14+chance.Float64()*40
	n := 0
	for y := max(0, cy-int(r)); y < min(drawnHeight, cy+int(r)); y++ {
		for x := max(0, cx-int(r)); x < min(drawnWidth, cx+int(r)); x++ {
			if d := math.Hypot(float64(x-cx), float64(y-cy)); d > r*(.8+.2*chance.Float64()) {
				continue
			}
			paint(img, x, y, toned(132, 136, 44, .9+chance.NormFloat64()*.07))
			i := y*drawnWidth + x
			green[i] = true
			if !moss[i] {
				moss[i] = true
				n++
			}
		}
	}
	return n
}

// bladeWidth in pixels.
const bladeWidth = 3

// stroke walks a leaf in any direction.
func stroke(x, y int, length float64, chance *rand.Rand, put func(x, y int)) {
	sin, cos := math.Sincos(chance.Float64() * 2 * math.Pi)
	for t := 0.0; t < length; t++ {
		for w := range bladeWidth {
			u, v := x+int(t*cos)+w, y+int(t*sin)
			if u >= 0 && v >= 0 && u < drawnWidth && v < drawnHeight {
				put(u, v)
			}
		}
	}
}

// pictured is a photograph of the demo: of which past visit of which property, and what it shows.
type pictured struct {
	n       uint32
	past    int
	spot    string
	drawing Drawing
}

// photographs tell the courses of the demo: the patches of Stonecrop Rise closing, the play lawn of Mill Ferry greening, the back lawn of
// Larkspur Drive thinning in spite of the water; the same seed is the same spot.
var photographs = []pictured{
	{1, 0, "worst", Drawing{Cover: .5, Patchy: .9, Seed: 11}},
	{3, 0, "worst", Drawing{Cover: .72, Patchy: .5, Seed: 31}},
	{3, 1, "worst", Drawing{Cover: .86, Patchy: .5, Seed: 31}},
	{4, 1, "worst", Drawing{Cover: .54, Patchy: .97, Seed: 41}},
	{4, 1, "healthy", Drawing{Cover: .93, Seed: 44}},
	{4, 2, "worst", Drawing{Cover: .68, Patchy: .97, Seed: 41}},
	{4, 3, "worst", Drawing{Cover: .76, Patchy: .97, Seed: 41}},
	{5, 0, "worst", Drawing{Cover: .9, Patchy: .2, Seed: 51}},
	{6, 0, "worst", Drawing{Cover: .6, Patchy: .7, Seed: 61}},
	{6, 1, "worst", Drawing{Cover: .52, Patchy: .7, Seed: 61}},
}

// shot is a photograph of the demo, ready to be kept.
type shot struct {
	measured photo.Measured
	kept     store.Picture
	err      error
}

// shots are drawn once a process: it takes a second.
var shots = sync.OnceValue(func() []shot {
	out := make([]shot, len(photographs))
	for i, e := range photographs {
		img := Draw(e.drawing).Image
		s := &out[i]
		for _, step := range []func() error{
			func() (err error) {
				s.measured, err = photo.Measure(photofile.Pixels(img), photo.Usual(), photo.Gains{})
				return
			},
			func() (err error) { s.kept.Picture, err = photofile.JPEG(img); return },
			func() (err error) { s.kept.Thumbnail, err = photofile.Thumbnail(img); return },
		} {
			s.err = cmp.Or(s.err, step())
		}
		sum := sha256.Sum256(s.kept.Picture)
		s.kept.SHA256 = sum[:]
	}
	return out
})

// loadPhotographs puts the photographs of one past visit in.
func (p property) loadPhotographs(tx *gorm.DB, past int, visit store.Visit, zone store.Zone) error {
	for i, e := range photographs {
		if e.n != p.n || e.past != past {
			continue
		}
		s := shots()[i]
		if s.err != nil {
			return s.err
		}
		m := s.measured
		taken := visit.DueOn.Add(time.Duration(14+i%3) * time.Hour)
		row := store.Photo{ID: key(4_000_000 + uint32(i)), FirmID: Firm, VisitID: visit.ID, ZoneID: zone.ID, PersonID: *visit.PersonID,
			TakenAt:    taken,
			RecordedAt: taken, Kind: "measure", About: "cover", Spot: e.spot, Width: drawnWidth, Height: drawnHeight,
			Wanted: store.JSON(`{"hue_low": 60, "hue_high": 120, "saturation": 0.1}`), Cover: &m.Cover, CoverError: &m.Error,
			ColourIndex: &m.Index, Faults: store.JSON("[]")}
		kept := s.kept
		kept.PhotoID, kept.FirmID = row.ID, Firm
		for _, r := range []any{&row, &kept} {
			if err := tx.Create(r).Error; err != nil {
				return err
			}
		}
	}
	return nil
}
