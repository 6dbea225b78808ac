package photo

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// plain is a picture of one colour.
func plain(w, h int, r, g, b byte) Picture {
	p := Picture{w, h, make([]byte, 4*w*h)}
	for i := range w * h {
		p.RGBA[4*i], p.RGBA[4*i+1], p.RGBA[4*i+2], p.RGBA[4*i+3] = r, g, b, 255
	}
	return p
}

// patchy covers a share of a straw-coloured picture with green, pixel by pixel, each colour with some noise.
func patchy(share float64, cast Gains) Picture {
	chance := rand.New(rand.NewPCG(1, 2))
	p := plain(200, 150, 0, 0, 0)
	for i := range p.Width * p.Height {
		c := [3]float64{196, 172, 112}
		if float64(i%p.Width) < share*float64(p.Width) {
			c = [3]float64{70, 120, 46}
		}
		for k, g := range []float64{cast.R, cast.G, cast.B} {
			p.RGBA[4*i+k] = byte(math.Max(0, math.Min(255, c[k]*g+chance.NormFloat64()*6)))
		}
	}
	return p
}

var even = Gains{1, 1, 1}

func TestHues(t *testing.T) {
	for _, c := range [][6]float64{{255, 0, 0, 0, 1, 1}, {0, 255, 0, 120, 1, 1}, {0, 0, 255, 240, 1, 1}, {255, 255, 0, 60, 1, 1},
		{128, 128, 128, 0, 0, 128.0 / 255}, {0, 0, 0, 0, 0, 0}, {255, 0, 128, 329.88, 1, 1}, {60, 120, 40, 105, 2.0 / 3, 120.0 / 255}} {
		h, s, b := colour(int(c[0]), int(c[1]), int(c[2]))
		require.InDelta(t, c[3], h, .01, "%v", c)
		require.InDelta(t, c[4], s, 1e-9, "%v", c)
		require.InDelta(t, c[5], b, 1e-9, "%v", c)
	}
}

func TestCoverIsTheShareOfGreen(t *testing.T) {
	for _, share := range []float64{0, .1, .5, .9, 1} {
		m, err := Measure(patchy(share, even), Usual(), Gains{})
		require.NoError(t, err)
		require.InDelta(t, share, m.Cover, .005)
		require.GreaterOrEqual(t, m.Error, leastError)
		require.Less(t, m.Error, .1)
		green := 0
		for _, on := range m.Mask {
			if on {
				green++
			}
		}
		require.InDelta(t, m.Cover, float64(green)/float64(len(m.Mask)), 1e-9)
	}
}

func TestTheIndexOfOneColour(t *testing.T) {
	m, err := Measure(plain(20, 20, 60, 120, 40), Usual(), Gains{})
	require.NoError(t, err)
	require.InDelta(t, ((105.0-60)/60+1-2.0/3+1-120.0/255)/3, m.Index, 1e-9)
	require.InDelta(t, 1, m.Cover, 0)
	m, err = Measure(plain(20, 20, 200, 170, 110), Usual(), Gains{})
	require.NoError(t, err)
	require.Zero(t, m.Index)
}

func TestLimitsAreMovedByTheEye(t *testing.T) {
	yellowish := plain(20, 20, 120, 122, 40) // hue 61.5
	m, err := Measure(yellowish, Usual(), Gains{})
	require.NoError(t, err)
	require.InDelta(t, 1, m.Cover, 0)
	require.InDelta(t, .5, m.Error, 0, "it hangs on the limit")
	m, err = Measure(yellowish, Limits{70, 120, .1}, Gains{})
	require.NoError(t, err)
	require.Zero(t, m.Cover)
	for field, l := range map[string]Limits{"hue_low": {40, 120, .1}, "hue_high": {80, 75, .1}, "saturation": {60, 120, .6}} {
		at, reason := l.Check()
		require.Equal(t, field, at)
		require.NotEmpty(t, reason)
		_, err := Measure(yellowish, l, Gains{})
		require.ErrorContains(t, err, field)
	}
	at, _ := Limits{60, 141, .1}.Check()
	require.Equal(t, "hue_high", at)
}

func TestAGreyCardTakesACastAway(t *testing.T) {
	p := patchy(.5, Gains{1.28, .68, .73})
	raw, err := Measure(p, Usual(), Gains{})
	require.NoError(t, err)
	require.Less(t, raw.Cover, .3, "in reddish light green is no green")
	for y := range 30 {
		for x := range 30 {
			i := 4 * (y*p.Width + x)
			p.RGBA[i], p.RGBA[i+1], p.RGBA[i+2] = 164, 87, 93
		}
	}
	g, err := Balance(p, Box{0, 0, .14, .18})
	require.NoError(t, err)
	m, err := Measure(p, Usual(), g)
	require.NoError(t, err)
	require.InDelta(t, .5, m.Cover, .04)
	for words, box := range map[string]Box{"too small": {0, 0, .01, .01}, "not grey": {.3, .5, .1, .1}} {
		_, err := Balance(p, box)
		require.ErrorContains(t, err, words)
	}
	_, err = Balance(plain(40, 40, 10, 10, 10), Box{0, 0, 1, 1})
	require.ErrorContains(t, err, "too dark")
	_, err = Balance(plain(40, 40, 255, 255, 255), Box{0, 0, 1, 1})
	require.ErrorContains(t, err, "too bright")
}

func TestFaultsOfTheLight(t *testing.T) {
	faults := func(p Picture) []Fault {
		m, err := Measure(p, Usual(), Gains{})
		require.NoError(t, err)
		return m.Faults
	}
	require.Empty(t, faults(patchy(.5, even)))
	require.Equal(t, []Fault{TooDark}, faults(plain(20, 20, 20, 22, 18)))
	require.Equal(t, []Fault{TooLight}, faults(plain(20, 20, 254, 255, 253)))
	half := patchy(1, even)
	for i := range half.Width * half.Height / 2 {
		for c := range 3 {
			half.RGBA[4*i+c] /= 3
		}
	}
	require.Equal(t, []Fault{Shadows}, faults(half))
}

func TestPicturesThatAreNone(t *testing.T) {
	for words, p := range map[string]Picture{"smaller": {8, 80, make([]byte, 4*8*80)}, "not whole": {20, 20, make([]byte, 7)},
		"25 million": {6000, 6000, nil}} {
		_, err := Measure(p, Usual(), Gains{})
		require.ErrorContains(t, err, words)
		_, err = Balance(p, Box{0, 0, 1, 1})
		require.ErrorContains(t, err, words)
		_, _, _, err = Share(p, nil, nil)
		require.ErrorContains(t, err, words)
	}
}

func TestSeveralPicturesOfALawn(t *testing.T) {
	one, err := Of([]Measured{{Cover: .5, Error: .02}})
	require.InDelta(t, .5, one, 0)
	require.InDelta(t, math.Hypot(.02, .25), err, 1e-9, "one spot is not the lawn")
	three, err := Of([]Measured{{Cover: .5, Error: .02}, {Cover: .6, Error: .02}, {Cover: .55, Error: .02}})
	require.InDelta(t, .55, three, 1e-9)
	require.InDelta(t, math.Hypot(.02, 4.303*.05/math.Sqrt(3)), err, 1e-9)
	_, none := Of(nil)
	require.InDelta(t, 1, none, 0)
	var many []Measured
	for i := range 14 {
		many = append(many, Measured{Cover: .5 + .01*float64(i%2), Error: .01})
	}
	_, err = Of(many)
	require.Less(t, err, .02)
}

func TestMossIsToldByWhatWasPointedOut(t *testing.T) {
	chance := rand.New(rand.NewPCG(4, 5))
	p := plain(240, 180, 0, 0, 0)
	moss := func(x, y int) bool { return (x-60)*(x-60)+(y-60)*(y-60) < 45*45 || x > 200 }
	truth := 0
	for i := range p.Width * p.Height {
		c := [3]float64{70, 122, 46}
		if moss(i%p.Width, i/p.Width) {
			c = [3]float64{112, 118, 44}
			truth++
		}
		shade := 1 + chance.NormFloat64()*.12
		for k := range 3 {
			p.RGBA[4*i+k] = byte(math.Max(0, math.Min(255, c[k]*shade+chance.NormFloat64()*5)))
		}
	}
	at := func(x, y int) Tap { return Tap{float64(x) / 240, float64(y) / 180} }
	like, other := []Tap{at(60, 60), at(80, 50), at(220, 100)}, []Tap{at(150, 40), at(130, 150), at(180, 100)}
	share, e, mask, err := Share(p, like, other)
	require.NoError(t, err)
	require.InDelta(t, float64(truth)/float64(p.Width*p.Height), share, .02)
	require.Less(t, e, .06)
	require.True(t, mask[60*p.Width+60])
	require.False(t, mask[40*p.Width+150])
	_, _, _, err = Share(p, like[:2], other)
	require.ErrorContains(t, err, "three times")
	_, _, _, err = Share(p, like, []Tap{at(60, 60), at(61, 61), at(62, 62)})
	require.ErrorContains(t, err, "same colour")
	_, _, _, err = Share(p, make([]Tap, 30), make([]Tap, 30))
	require.ErrorContains(t, err, "forty")
}

func BenchmarkMeasure(b *testing.B) {
	p := plain(1600, 1200, 70, 120, 46)
	for b.Loop() {
		if _, err := Measure(p, Usual(), Gains{}); err != nil {
			b.Fatal(err)
		}
	}
}
