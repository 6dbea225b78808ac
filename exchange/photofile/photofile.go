// Package photofile reads photographs, JPEG or PNG, within limits, and writes them anew as JPEG: nothing but pixels stays of a file, no
// place, no time, no name of a camera. A picture is taken as its pixels lie; a device turns it upright before it sends it.
package photofile

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // one of the two formats that are read
	"math"

	"golang.org/x/image/draw"

	"hodos/core/photo"
)

// MaxBytes is the largest file that is read.
const MaxBytes = 8 << 20

// Quality of the JPEG that is kept.
const quality = 85

// ThumbnailWidth in pixels of the longer side.
const ThumbnailWidth = 320

// Read reads a photograph. Its size is looked at before a pixel is made: a small file may claim to be a huge picture.
func Read(file []byte) (*image.NRGBA, error) {
	if len(file) > MaxBytes {
		return nil, fmt.Errorf("is larger than %d MB", MaxBytes>>20)
	}
	conf, format, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil || (format != "jpeg" && format != "png") {
		return nil, errors.New("is no picture in JPEG or PNG")
	}
	if conf.Width < 1 || conf.Height < 1 || conf.Width > photo.MostPixels/conf.Height {
		return nil, fmt.Errorf("has more than %d million pixels", photo.MostPixels/1_000_000)
	}
	img, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return nil, errors.New("is broken: it ends early or does not fit together")
	}
	return scaled(img, photo.UsualPixels), nil
}

// scaled is the picture in no more than so many pixels, without what lies behind transparent ones.
func scaled(img image.Image, most int) *image.NRGBA {
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if w*h > most {
		by := math.Sqrt(float64(most) / float64(w*h))
		w, h = max(1, int(float64(w)*by)), max(1, int(float64(h)*by))
	}
	out := image.NewNRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	if w == b.Dx() {
		draw.Draw(out, out.Bounds(), img, b.Min, draw.Over)
	} else {
		draw.ApproxBiLinear.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	}
	return out
}

// Pixels of a picture as the core measures them.
func Pixels(img *image.NRGBA) photo.Picture {
	return photo.Picture{Width: img.Rect.Dx(), Height: img.Rect.Dy(), RGBA: img.Pix}
}

// JPEG writes a picture.
func JPEG(img image.Image) ([]byte, error) {
	var b bytes.Buffer
	err := jpeg.Encode(&b, img, &jpeg.Options{Quality: quality})
	return b.Bytes(), err
}

// Thumbnail is the picture small.
func Thumbnail(img *image.NRGBA) ([]byte, error) {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	by := float64(ThumbnailWidth) / float64(max(w, h, ThumbnailWidth))
	small := image.NewNRGBA(image.Rect(0, 0, max(1, int(float64(w)*by)), max(1, int(float64(h)*by))))
	draw.CatmullRom.Scale(small, small.Bounds(), img, img.Bounds(), draw.Src, nil)
	return JPEG(small)
}
