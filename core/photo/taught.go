package photo

import (
	"errors"
	"math"
)

// Tap is where somebody has pointed in a picture, by shares of its width and height from the top left.
type Tap struct {
	X, Y float64
}

// LeastTaps is how often a thing must be pointed out, and as often what it is not.
const LeastTaps = 3

// around a tap so many pixels each way are looked at.
const around = 4

// sample is the colours about one tap: mean and spread of each.
type sample struct {
	mean, square [3]float64
	n            float64
}

// Share is the share of a picture that looks like what was pointed out rather than like the other, with its error at 95 %: a line between
// two kinds of colours (linear discriminant, spreads pooled), and its jackknife over the taps.
func Share(p Picture, like, other []Tap) (share, err float64, mask []bool, wrong error) {
	if e := p.Check(); e != nil {
		return 0, 0, nil, e
	}
	if len(like) < LeastTaps || len(other) < LeastTaps {
		return 0, 0, nil, errors.New("point it out three times or more, and as often what it is not")
	}
	if len(like)+len(other) > 40 {
		return 0, 0, nil, errors.New("forty points are enough")
	}
	a, b := samples(p, like), samples(p, other)
	whole, ok := between(a, b)
	if !ok {
		return 0, 0, nil, errors.New("what was pointed out has the same colour as the rest")
	}
	// colours once, thinned for the jackknife
	step := max(1, p.Width*p.Height/50_000)
	var thin [][3]float64
	mask = make([]bool, p.Width*p.Height)
	hits := 0
	for i := range mask {
		c := features(p, i)
		if mask[i] = whole.takes(c); mask[i] {
			hits++
		}
		if i%step == 0 {
			thin = append(thin, c)
		}
	}
	share = float64(hits) / float64(len(mask))
	return share, jackknife(a, b, thin), mask, nil
}

// jackknife leaves out one tap after the other.
func jackknife(a, b []sample, thin [][3]float64) float64 {
	var shares []float64
	leave := func(a, b []sample) {
		line, ok := between(a, b)
		hits := 0
		for _, c := range thin {
			if ok && line.takes(c) {
				hits++
			}
		}
		shares = append(shares, float64(hits)/float64(len(thin)))
	}
	without := func(list []sample, i int) []sample { return append(append([]sample{}, list[:i]...), list[i+1:]...) }
	for i := range a {
		leave(without(a, i), b)
	}
	for i := range b {
		leave(a, without(b, i))
	}
	n, mean, sum := float64(len(shares)), 0.0, 0.0
	for _, s := range shares {
		mean += s / n
	}
	for _, s := range shares {
		sum += (s - mean) * (s - mean)
	}
	return math.Min(1, math.Max(2*leastError, 1.96*math.Sqrt((n-1)/n*sum)))
}

// features of a pixel, about alike in their range: red and green against all, and brightness.
func features(p Picture, i int) [3]float64 {
	r, g, b := float64(p.RGBA[4*i]), float64(p.RGBA[4*i+1]), float64(p.RGBA[4*i+2])
	sum := r + g + b + 1
	return [3]float64{r / sum, g / sum, sum / 768 / 2}
}

func samples(p Picture, taps []Tap) []sample {
	out := make([]sample, len(taps))
	for k, t := range taps {
		x, y := int(t.X*float64(p.Width)), int(t.Y*float64(p.Height))
		for v := max(0, y-around); v <= min(p.Height-1, y+around); v++ {
			for u := max(0, x-around); u <= min(p.Width-1, x+around); u++ {
				for j, f := range features(p, v*p.Width+u) {
					out[k].mean[j] += f
					out[k].square[j] += f * f
				}
				out[k].n++
			}
		}
	}
	return out
}

// line is a plane between two kinds of colours.
type line struct {
	weight   [3]float64
	constant float64
}

func (l line) takes(c [3]float64) bool {
	return l.weight[0]*c[0]+l.weight[1]*c[1]+l.weight[2]*c[2] > l.constant
}

// between lays a plane between two kinds: the better a feature tells them apart, the more it weighs. false where none does.
func between(a, b []sample) (l line, ok bool) {
	ma, va := pooled(a)
	mb, vb := pooled(b)
	apart := 0.0
	for j := range l.weight {
		spread := (va[j]+vb[j])/2 + 1e-6
		l.weight[j] = (ma[j] - mb[j]) / spread
		l.constant += l.weight[j] * (ma[j] + mb[j]) / 2
		apart += (ma[j] - mb[j]) * (ma[j] - mb[j]) / spread
	}
	return l, apart > .5 // Mahalanobis distance² of the means (judgement)
}

func pooled(list []sample) (mean, variance [3]float64) {
	n := 0.0
	for _, s := range list {
		n += s.n
	}
	if n == 0 {
		return
	}
	for j := range mean {
		square := 0.0
		for _, s := range list {
			mean[j] += s.mean[j] / n
			square += s.square[j] / n
		}
		variance[j] = math.Max(0, square-mean[j]*mean[j])
	}
	return
}
