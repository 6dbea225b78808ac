package demo_test

import (
	"image"
	"image/color"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/photo"
	"hodos/demo"
	"hodos/exchange/photofile"
)

// kept is a picture as it comes back from JPEG.
func kept(t *testing.T, img *image.NRGBA) photo.Picture {
	t.Helper()
	b, err := photofile.JPEG(img)
	require.NoError(t, err)
	out, err := photofile.Read(b)
	require.NoError(t, err)
	return photofile.Pixels(out)
}

// Cover that was drawn is measured: sparse and dense, even and patchy, within two points, and within the error that is told.
func TestDrawnCoverIsMeasured(t *testing.T) {
	worst := 0.0
	for i, share := range []float64{.05, .4, .65, .9} {
		for _, patchy := range []float64{0, .95} {
			d := demo.Draw(demo.Drawing{Cover: share, Patchy: patchy, Seed: uint64(i)})
			m, err := photo.Measure(photofile.Pixels(d.Image), photo.Usual(), photo.Gains{})
			require.NoError(t, err)
			require.Empty(t, m.Faults)
			require.InDelta(t, d.Cover, m.Cover, .02, "drawn %v patchy %v", share, patchy)
			require.LessOrEqual(t, math.Abs(d.Cover-m.Cover), m.Error+.005)
			pressed, err := photo.Measure(kept(t, d.Image), photo.Usual(), photo.Gains{})
			require.NoError(t, err)
			require.InDelta(t, d.Cover, pressed.Cover, .08,
				"JPEG smears colour over two pixels, and blades are three wide: devices measure before")
			require.LessOrEqual(t, math.Abs(d.Cover-pressed.Cover), pressed.Error+.05, "and it is within what is told")
			worst = math.Max(worst, math.Abs(d.Cover-pressed.Cover))
		}
	}
	t.Logf("worst error behind JPEG %.3f", worst)
}

// A reddish evening light takes a third of the green away; a grey card in the picture brings it back.
func TestAGreyCardBringsTheGreenBack(t *testing.T) {
	d := demo.Draw(demo.Drawing{Cover: .7, Seed: 9})
	cast := [3]float64{1.35, .78, .7}
	for y := range 100 {
		for x := range 100 {
			d.Image.SetNRGBA(x, y, color.NRGBA{128, 128, 128, 255})
		}
	}
	for i := range len(d.Image.Pix) / 4 {
		for c, g := range cast {
			d.Image.Pix[4*i+c] = uint8(math.Min(255, float64(d.Image.Pix[4*i+c])*g))
		}
	}
	p := photofile.Pixels(d.Image)
	raw, err := photo.Measure(p, photo.Usual(), photo.Gains{})
	require.NoError(t, err)
	gains, err := photo.Balance(p, photo.Box{X: .01, Y: .01, W: .09, H: .12})
	require.NoError(t, err)
	m, err := photo.Measure(p, photo.Usual(), gains)
	require.NoError(t, err)
	require.Less(t, raw.Cover, .5)
	require.InDelta(t, d.Cover, m.Cover, .04)
}

// Moss that was drawn is told from grass by pointing three times at each.
func TestDrawnMossIsTold(t *testing.T) {
	d := demo.Draw(demo.Drawing{Cover: .9, Moss: .22, Seed: 5})
	p := kept(t, d.Image)
	var like, other []photo.Tap
	// where moss and where grass was drawn, by their colours before the noise of JPEG
	for i := 0; i < len(d.Image.Pix)/4 && (len(like) < 3 || len(other) < 3); i += 997 {
		x, y := i%p.Width, i/p.Width
		mossy, grassy := 0, 0
		for v := max(0, y-5); v < min(p.Height, y+6); v++ {
			for u := max(0, x-5); u < min(p.Width, x+6); u++ {
				c := d.Image.NRGBAAt(u, v)
				if c.R > 100 && c.G > c.R-8 && c.B < 60 {
					mossy++
				} else if c.G > c.R+20 {
					grassy++
				}
			}
		}
		at := photo.Tap{X: float64(x) / float64(p.Width), Y: float64(y) / float64(p.Height)}
		if mossy > 115 && len(like) < 3 {
			like = append(like, at)
		}
		if grassy > 90 && len(other) < 3 {
			other = append(other, at)
		}
	}
	share, e, _, err := photo.Share(p, like, other)
	require.NoError(t, err)
	require.InDelta(t, d.Moss, share, .08)
	require.Less(t, e, .15)
}
