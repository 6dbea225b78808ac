package knowledge

import (
	"math"
)

// Chance is a source of seeded random numbers, handed in by whoever draws: the core has none of its own.
// *rand.Rand of math/rand/v2 is one.
type Chance interface {
	Float64() float64     // even on [0, 1)
	NormFloat64() float64 // standard normal
}

// Moved is a distribution with its figures moved.
func (cf *Table) Moved(d *Dist, spread float64, c Chance) Dist {
	out := *d
	if d.Grip < .995 || cf.Finding.Kind != AnyOf && cf.Finding.Kind != CauseIDs {
		odds := d.Grip / (1 - d.Grip) * math.Exp(spread*c.NormFloat64())
		out.Grip = math.Min(odds/(1+odds), .995)
	}
	if d.IsNumber {
		l, r := d.widths()
		by := spread * c.NormFloat64() * (l + r) / 2
		out.low, out.Mid, out.high = d.low+by, d.Mid+by, d.high+by
		return out
	}
	out.P = make([]float64, len(d.P))
	total := 0.0
	for i, p := range d.P {
		if cf.Finding.Kind == AnyOf || cf.Finding.Kind == CauseIDs {
			if p > 0 {
				odds := math.Min(p, .985) / (1 - math.Min(p, .985)) * math.Exp(spread*c.NormFloat64())
				out.P[i] = odds / (1 + odds)
			}
			continue
		}
		out.P[i] = p * math.Exp(spread*c.NormFloat64())
		total += out.P[i]
	}
	if total > 0 {
		for i := range out.P {
			out.P[i] /= total
		}
	}
	return out
}

// Mixed picks what sets a finding: the background, or one of the causes in proportion to its grip.
func (cf *Table) Mixed(rows []*Dist, grips []float64, background *Dist, c Chance) *Dist {
	N, G := 1.0, 0.0
	for _, g := range grips {
		N *= 1 - g
		G += g
	}
	if G == 0 || c.Float64() < N {
		return background
	}
	u := c.Float64() * G
	from := background
	for i, r := range rows {
		if r == nil {
			continue
		}
		if from = r; u < grips[i] {
			break
		}
		u -= grips[i]
	}
	return from
}

func (cf *Table) Draw(from *Dist, c Chance) Value {
	if from.IsNumber {
		return NumberValue(cf.DrawNumber(from, c))
	}
	u, at := c.Float64(), 0
	for at = 0; at < len(from.P)-1 && u >= from.P[at]; at++ {
		u -= from.P[at]
	}
	return cf.Worded(at)
}

func (cf *Table) Worded(at int) Value {
	if cf.Finding.Kind == YesNo {
		return YesValue(at == 0)
	}
	return WordValue(cf.Values[at])
}

// Place is where a value lies on the background, 0 to 1, anywhere within the cell of a word.
func (cf *Table) Place(v Value, c Chance) float64 {
	if v.Number != nil {
		return cf.below(&cf.Background, *v.Number)
	}
	sum := 0.0
	for i, p := range cf.Background.P {
		if x := cf.Worded(i); x.Word == v.Word && (x.Yes == nil || *x.Yes == *v.Yes) {
			return sum + p*c.Float64()
		}
		sum += p
	}
	return sum
}

// At is the value at a place of the background.
func (cf *Table) At(u float64) Value {
	if cf.Background.IsNumber {
		lo, hi := cf.Finding.Min, cf.Finding.Max
		for range 50 {
			if mid := (lo + hi) / 2; cf.below(&cf.Background, mid) < u {
				lo = mid
			} else {
				hi = mid
			}
		}
		return NumberValue((lo + hi) / 2)
	}
	at := 0
	for at = 0; at < len(cf.Background.P)-1 && u >= cf.Background.P[at]; at++ {
		u -= cf.Background.P[at]
	}
	return cf.Worded(at)
}

// DrawNumber draws from the curve of density, held to the physical range.
func (cf *Table) DrawNumber(d *Dist, c Chance) float64 {
	lo, hi := cf.scale(cf.Finding.Min), cf.scale(cf.Finding.Max)
	x := lo + (hi-lo)*c.Float64()
	if c.Float64() >= cf.Stray() {
		l, r := d.widths()
		z := math.Abs(c.NormFloat64())
		if c.Float64() < l/(l+r) {
			x = d.Mid - z*l
		} else {
			x = d.Mid + z*r
		}
	}
	x = math.Max(lo, math.Min(hi, x))
	if cf.Finding.Scale == Log {
		x = math.Expm1(x)
	}
	return math.Max(cf.Finding.Min, math.Min(cf.Finding.Max, x))
}
