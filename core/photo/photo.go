// Package photo measures pictures of turf: green cover, the dark green colour index, and the share of what somebody has pointed out (moss).
// Pictures come in as pixels of red, green, blue and opacity, a byte each, by row from the top left.
package photo

import (
	"errors"
	"fmt"
	"math"
)

// Picture is a picture as pixels.
type Picture struct {
	Width, Height int
	RGBA          []byte
}

// MostPixels is the largest picture that is measured; larger ones are reduced first. A device reduces to UsualPixels.
const (
	MostPixels  = 25_000_000
	UsualPixels = 2_000_000
)

// Check says what is wrong with a picture as such.
func (p Picture) Check() error {
	switch {
	case p.Width < 16 || p.Height < 16:
		return errors.New("the picture is smaller than 16 × 16 pixels")
	case p.Width > MostPixels/p.Height:
		return fmt.Errorf("the picture has more than %d million pixels", MostPixels/1_000_000)
	case len(p.RGBA) != 4*p.Width*p.Height:
		return errors.New("the picture is not whole")
	}
	return nil
}

// Box is a rectangle in a picture, by shares of its width and height from the top left, 0 to 1.
type Box struct {
	X, Y, W, H float64
}

// Limits say which pixels are green: hue in degrees and least saturation, 0 to 1.
type Limits struct {
	HueLow, HueHigh, Saturation float64
}

// Usual are the limits for turf (Richardson, Karcher and Purcell 2001); the eye may have to move them for a light, a camera or a grass.
func Usual() Limits { return Limits{60, 120, .10} }

// How far limits may be moved.
const (
	LowestHue  = 45.0
	HighestHue = 140.0
	mostLeast  = .5 // saturation
)

// Check says which of the limits is beyond its range and why, or nothing.
func (l Limits) Check() (field, reason string) {
	switch {
	case !(l.HueLow >= LowestHue && l.HueLow <= HighestHue):
		return "hue_low", fmt.Sprintf("lies between %.0f and %.0f°", LowestHue, HighestHue)
	case !(l.HueHigh > l.HueLow && l.HueHigh <= HighestHue):
		return "hue_high", fmt.Sprintf("lies above the lower limit, up to %.0f°", HighestHue)
	case !(l.Saturation >= 0 && l.Saturation <= mostLeast):
		return "saturation", fmt.Sprintf("lies between 0 and %.1f", mostLeast)
	}
	return "", ""
}

// Measured is what a picture comes to.
type Measured struct {
	Cover  float64 // share of green pixels, 0 to 1
	Error  float64 // of the cover, 95 %: by how much the limits decide it, and how much of it is edges
	Index  float64 // dark green colour index of the green pixels, 0 to 1; 0 where none is green
	Dark   float64 // share of pixels too dark to have a colour
	Blown  float64 // share of pixels too bright to have one
	Uneven float64 // spread of the brightness over the picture, as a share of its mean
	Faults []Fault // why it is for show rather than for measuring
	Mask   []bool  // which pixels are green
}

// Fault is why a picture is for show rather than for measuring.
type Fault string

// Faults.
const (
	TooDark  Fault = "dark"
	TooLight Fault = "blown"
	Shadows  Fault = "uneven"
	Tilted   Fault = "tilted"
)

// From where on a picture is for show (judgement).
const (
	darkFrom   = .25
	blownFrom  = .05
	unevenFrom = .30
	// TiltTo is how far a camera may be off from straight down, degrees: at 15° the far edge is a quarter smaller than the near one.
	TiltTo = 15.0
)

// A pixel has no colour where it is as dark or as bright as this, 0 to 1 (judgement).
const (
	darkest  = .10
	lightest = .98
)

// How far the limits are moved to see what hangs on them (judgement): degrees of hue, and saturation.
const (
	moveHue        = 4.0
	moveSaturation = .02
)

// tiles across and down by which the light is looked at.
const tiles = 4

// colour is hue in degrees, saturation and brightness, 0 to 1, of a pixel of channels from 0 to 255.
func colour(r, g, b int) (hue, saturation, brightness float64) {
	most, least := r, r
	if g > most {
		most = g
	}
	if b > most {
		most = b
	}
	if g < least {
		least = g
	}
	if b < least {
		least = b
	}
	brightness = float64(most) / 255
	span := float64(most - least)
	if span == 0 {
		return 0, 0, brightness
	}
	saturation = span / float64(most)
	switch most {
	case r:
		hue = float64(g-b) / span
	case g:
		hue = 2 + float64(b-r)/span
	default:
		hue = 4 + float64(r-g)/span
	}
	if hue < 0 {
		hue += 6
	}
	return hue * 60, saturation, brightness
}

// Measure measures a picture. gains is what makes a grey card grey (see Balance), or the zero value.
func Measure(p Picture, l Limits, gains Gains) (Measured, error) {
	if err := p.Check(); err != nil {
		return Measured{}, err
	}
	if field, reason := l.Check(); field != "" {
		return Measured{}, fmt.Errorf("%s %s", field, reason)
	}
	n := p.Width * p.Height
	m := Measured{Mask: make([]bool, n)}
	wide := Limits{l.HueLow - moveHue, l.HueHigh + moveHue, max(0, l.Saturation-moveSaturation)}
	tight := Limits{l.HueLow + moveHue, l.HueHigh - moveHue, l.Saturation + moveSaturation}
	var green, more, fewer, dark, blown int
	index := 0.0
	var light [tiles * tiles]float64
	var of [tiles * tiles]int
	for y := range p.Height {
		row := y * tiles / p.Height * tiles
		for x := range p.Width {
			i := y*p.Width + x
			h, s, b := gains.colour(p.RGBA[4*i], p.RGBA[4*i+1], p.RGBA[4*i+2])
			t := row + x*tiles/p.Width
			light[t] += b
			of[t]++
			if b < darkest {
				dark++
			} else if b > lightest && s < .05 {
				blown++
			}
			if !wide.takes(h, s) {
				continue
			}
			more++
			if tight.takes(h, s) {
				fewer++
			}
			if l.takes(h, s) {
				green++
				m.Mask[i] = true
				index += (held(h) + 1 - s + 1 - b) / 3
			}
		}
	}
	all := float64(n)
	m.Dark, m.Blown = float64(dark)/all, float64(blown)/all
	if green > 0 {
		m.Index = index / float64(green)
	}
	given := m.edges(p)
	m.Cover = float64(green-given.up) / all
	m.Error = min(1, max(float64(more-fewer)/all/2+mixed*float64(given.edge)/all, leastError))
	m.Uneven = spread(light, of)
	m.Faults = m.faults()
	return m, nil
}

// mixed is the share of the pixels at edges that may still be counted wrongly (judgement, set on drawn lawns: demo/photographs_test.go).
const mixed = .2

// surest is from how many pixels on, away from edges, a kind of colour is known (judgement).
const surest = 50

// settled is what became of the pixels at edges.
type settled struct{ edge, up int }

// edges looks at the pixels beside one that counts otherwise. They hold both, the more so in a JPEG, which smears colours over two pixels:
// taken by the limits a third of green would do. Such a pixel counts only where it is nearer to the green away from edges than to what lies
// beside it there, by how much green outweighs red.
func (m *Measured) edges(p Picture) settled {
	n, w := len(m.Mask), p.Width
	edge := make([]bool, n)
	for i, on := range m.Mask {
		if (i+1)%w != 0 && m.Mask[i+1] != on {
			edge[i], edge[i+1] = true, true
		}
		if i+w < n && m.Mask[i+w] != on {
			edge[i], edge[i+w] = true, true
		}
	}
	var sum, count [2]float64
	var out settled
	for i, on := range m.Mask {
		switch {
		case edge[i]:
			out.edge++
		case on:
			sum[1] += greenish(p, i)
			count[1]++
		default:
			sum[0] += greenish(p, i)
			count[0]++
		}
	}
	if count[0] < surest || count[1] < surest {
		return out
	}
	middle := (sum[0]/count[0] + sum[1]/count[1]) / 2
	for i := range m.Mask {
		if edge[i] && m.Mask[i] && greenish(p, i) < middle {
			m.Mask[i] = false
			out.up++
		}
	}
	return out
}

// greenish is by how much green outweighs red, of all light.
func greenish(p Picture, i int) float64 {
	r, g, b := float64(p.RGBA[4*i]), float64(p.RGBA[4*i+1]), float64(p.RGBA[4*i+2])
	return (g - r) / (r + g + b + 1)
}

// held is a hue held to 60 to 120°, as 0 to 1.
func held(hue float64) float64 {
	if hue <= 60 {
		return 0
	}
	if hue >= 120 {
		return 1
	}
	return (hue - 60) / 60
}

// leastError of a cover: what the eye and the mask disagree by at best (judgement).
const leastError = .01

func (l Limits) takes(hue, saturation float64) bool {
	return hue >= l.HueLow && hue <= l.HueHigh && saturation >= l.Saturation
}

func spread(light [tiles * tiles]float64, of [tiles * tiles]int) float64 {
	var sum, squares float64
	for t := range light {
		mean := light[t] / float64(max(of[t], 1))
		sum += mean
		squares += mean * mean
	}
	mean := sum / (tiles * tiles)
	if mean == 0 {
		return 0
	}
	return math.Sqrt(max(0, squares/(tiles*tiles)-mean*mean)) / mean
}

func (m Measured) faults() []Fault {
	var out []Fault
	if m.Dark > darkFrom {
		out = append(out, TooDark)
	}
	if m.Blown > blownFrom {
		out = append(out, TooLight)
	}
	if m.Uneven > unevenFrom {
		out = append(out, Shadows)
	}
	return out
}

// Gains are by how much each channel is multiplied; the zero value leaves all as they are.
type Gains struct {
	R, G, B float64
}

func (g Gains) colour(r, gr, b byte) (hue, saturation, brightness float64) {
	if g == (Gains{}) {
		return colour(int(r), int(gr), int(b))
	}
	return colour(min(255, int(float64(r)*g.R+.5)), min(255, int(float64(gr)*g.G+.5)), min(255, int(float64(b)*g.B+.5)))
}

// What a grey card is held to (judgement): its mean brightness, and how far its channels may lie apart.
const (
	cardDark   = 40.0
	cardBright = 245.0
	cardCast   = 2.0 // the strongest channel over the weakest
	cardLeast  = 64  // pixels
)

// Balance is what makes the part of a picture that shows a grey card grey; its brightness stays. An error where no such card lies there.
func Balance(p Picture, card Box) (Gains, error) {
	if err := p.Check(); err != nil {
		return Gains{}, err
	}
	w, h := float64(p.Width), float64(p.Height)
	left, top := int(max(0, card.X)*w), int(max(0, card.Y)*h)
	right, bottom := int(min(1, card.X+card.W)*w), int(min(1, card.Y+card.H)*h)
	var sum [3]float64
	n := 0
	for y := top; y < bottom; y++ {
		for x := left; x < right; x++ {
			for c := range sum {
				sum[c] += float64(p.RGBA[4*(y*p.Width+x)+c])
			}
			n++
		}
	}
	if n < cardLeast {
		return Gains{}, errors.New("the grey card is too small in the picture")
	}
	for c := range sum {
		sum[c] /= float64(n)
	}
	mean := (sum[0] + sum[1] + sum[2]) / 3
	most, least := max(sum[0], sum[1], sum[2]), min(sum[0], sum[1], sum[2])
	switch {
	case mean < cardDark || most > cardBright:
		return Gains{}, errors.New("the grey card is too dark or too bright to go by")
	case most > cardCast*max(least, 1):
		return Gains{}, errors.New("what is marked as the grey card is not grey")
	}
	return Gains{mean / sum[0], mean / sum[1], mean / sum[2]}, nil
}
