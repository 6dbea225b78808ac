package photofile

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/photo"
)

// lawn is a picture whose left half is green and whose right half is straw.
func lawn(w, h int) *image.NRGBA {
	img := image.NewNRGBA(image.Rect(0, 0, w, h))
	for i := range w * h {
		c := color.NRGBA{196, 172, 112, 255}
		if i%w < w/2 {
			c = color.NRGBA{70, 120, 46, 255}
		}
		img.SetNRGBA(i%w, i/w, c)
	}
	return img
}

func file(t *testing.T, img image.Image, as string) []byte {
	t.Helper()
	var b bytes.Buffer
	switch as {
	case "png":
		require.NoError(t, png.Encode(&b, img))
	case "gif":
		require.NoError(t, gif.Encode(&b, img, nil))
	default:
		require.NoError(t, jpeg.Encode(&b, img, nil))
	}
	return b.Bytes()
}

func TestPicturesAreReadReducedAndMeasuredAlike(t *testing.T) {
	for _, as := range []string{"png", "jpeg"} {
		img, err := Read(file(t, lawn(2400, 1800), as))
		require.NoError(t, err)
		p := Pixels(img)
		require.LessOrEqual(t, p.Width*p.Height, photo.UsualPixels)
		require.InDelta(t, 4.0/3, float64(p.Width)/float64(p.Height), .01)
		m, err := photo.Measure(p, photo.Usual(), photo.Gains{})
		require.NoError(t, err)
		require.InDelta(t, .5, m.Cover, .01, as)
		small, err := Thumbnail(img)
		require.NoError(t, err)
		conf, err := jpeg.DecodeConfig(bytes.NewReader(small))
		require.NoError(t, err)
		require.Equal(t, ThumbnailWidth, conf.Width)
	}
}

func TestNothingButPixelsStays(t *testing.T) {
	whole := file(t, lawn(64, 48), "jpeg")
	secret := []byte("Exif\x00\x00GPS 37.655 -78.325 and the owner's name")
	app1 := binary.BigEndian.AppendUint16([]byte{0xff, 0xe1}, uint16(len(secret)+2))
	with := append(append(append([]byte{}, whole[:2]...), append(app1, secret...)...), whole[2:]...)
	img, err := Read(with)
	require.NoError(t, err)
	out, err := JPEG(img)
	require.NoError(t, err)
	require.NotContains(t, string(out), "Exif")
	require.NotContains(t, string(out), "owner")
}

func TestWhatIsNoPicture(t *testing.T) {
	bomb := []byte{0xff, 0xd8, 0xff, 0xc0, 0, 17, 8, 0xfd, 0xe8, 0xfd, 0xe8, 3, 1, 0x22, 0, 2, 0x11, 1, 3, 0x11, 1, 0xff, 0xda, 0, 2}
	broken := file(t, lawn(64, 48), "png")
	for words, b := range map[string][]byte{"no picture": []byte("<svg/>"), "million pixels": bomb, "ends early": broken[:len(broken)/2],
		"larger than 8 MB": make([]byte, MaxBytes+1), "JPEG or PNG": file(t, lawn(20, 20), "gif")} {
		_, err := Read(b)
		require.ErrorContains(t, err, words)
	}
}

func TestWhatIsTransparentIsWhite(t *testing.T) {
	img, err := Read(file(t, image.NewNRGBA(image.Rect(0, 0, 20, 20)), "png"))
	require.NoError(t, err)
	require.Equal(t, color.NRGBA{255, 255, 255, 255}, img.NRGBAAt(3, 3))
}

// Whatever comes in, it is refused or it is a picture within the limits.
func FuzzRead(f *testing.F) {
	var b bytes.Buffer
	_ = jpeg.Encode(&b, lawn(20, 20), nil)
	f.Add(b.Bytes())
	f.Fuzz(func(t *testing.T, file []byte) {
		img, err := Read(file)
		if err == nil {
			require.LessOrEqual(t, img.Rect.Dx()*img.Rect.Dy(), photo.UsualPixels+2)
		}
	})
}
