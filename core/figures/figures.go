// Package figures says how well a figure that was counted from a few cases is known.
package figures

import (
	"math"
	"slices"
)

// z95 is the normal quantile of two-sided 95 %.
const z95 = 1.959964

// Share is a share of cases with its 95 % interval, 0 to 1.
type Share struct {
	Of, N     int
	Low, High float64
}

// ShareOf is k of n with Wilson's interval (1927), which holds for few cases and near 0 and 1 as well; of no case nothing is known.
func ShareOf(k, n int) Share {
	if n <= 0 {
		return Share{0, 0, 0, 1}
	}
	p, m := float64(k)/float64(n), float64(n)
	centre := (p + z95*z95/2/m) / (1 + z95*z95/m)
	half := z95 / (1 + z95*z95/m) * math.Sqrt(p*(1-p)/m+z95*z95/4/m/m)
	return Share{k, n, math.Max(0, centre-half), math.Min(1, centre+half)}
}

// Middle is a median with its quartiles and its 95 % interval.
type Middle struct {
	N                  int
	Median             float64
	Quarter, ThreeQ    float64
	Low, High          float64 // 95 % interval of the median
	Least, Most, Total float64
}

// MiddleOf is the median of values in any order. Its interval lies between the order statistics that a binomial of one half leaves 2.5 %
// beyond on either side, by the normal approximation; of fewer than six values it is their whole range.
func MiddleOf(values []float64) Middle {
	n := len(values)
	if n == 0 {
		return Middle{}
	}
	x := slices.Sorted(slices.Values(values))
	m := Middle{N: n, Median: quantile(x, .5), Quarter: quantile(x, .25), ThreeQ: quantile(x, .75), Least: x[0], Most: x[n-1]}
	for _, v := range x {
		m.Total += v
	}
	m.Low, m.High = x[0], x[n-1]
	if n >= 6 {
		half := z95 * math.Sqrt(float64(n)) / 2
		lo := max(0, int(math.Floor(float64(n)/2-half)))
		hi := min(n-1, int(math.Ceil(float64(n)/2+half)))
		m.Low, m.High = x[lo], x[hi]
	}
	return m
}

// quantile of sorted values, between two in proportion.
func quantile(x []float64, q float64) float64 {
	at := q * float64(len(x)-1)
	i := int(at)
	if i+1 >= len(x) {
		return x[len(x)-1]
	}
	return x[i] + (x[i+1]-x[i])*(at-float64(i))
}

// Mean is a mean with its 95 % interval.
type Mean struct {
	N         int
	Mean      float64
	Low, High float64
}

// t95 are the quantiles of Student's t of two-sided 95 % for 1 to 30 degrees of freedom.
var t95 = []float64{12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228, 2.201, 2.179, 2.160, 2.145, 2.131, 2.120, 2.110,
	2.101, 2.093, 2.086, 2.080, 2.074, 2.069, 2.064, 2.060, 2.056, 2.052, 2.048, 2.045, 2.042}

// T95 is the quantile of Student's t of two-sided 95 % for so many degrees of freedom, the normal's beyond the table; infinite for none.
func T95(df int) float64 {
	switch {
	case df < 1:
		return math.Inf(1)
	case df <= len(t95):
		return t95[df-1]
	}
	return z95
}

// MeanOf is the mean of counts or amounts that cannot be negative; of a single one nothing is known but itself.
func MeanOf(values []float64) Mean {
	m := SignedMeanOf(values)
	m.Low = math.Max(0, m.Low)
	return m
}

// SignedMeanOf is the mean of amounts of either sign.
func SignedMeanOf(values []float64) Mean {
	n := len(values)
	if n == 0 {
		return Mean{}
	}
	sum, squares := 0.0, 0.0
	for _, v := range values {
		sum += v
	}
	mean := sum / float64(n)
	for _, v := range values {
		squares += (v - mean) * (v - mean)
	}
	if n == 1 {
		return Mean{1, mean, mean, mean}
	}
	half := T95(n-1) * math.Sqrt(squares/float64(n-1)/float64(n))
	return Mean{n, mean, mean - half, mean + half}
}

// Bin is one step of a calibration: what was promised, and how often it came true.
type Bin struct {
	From, To float64 // of the chances
	Promised float64 // their mean
	Share
}

// edges are the steps of a calibration (judgement: what a specialist tells apart).
var edges = []float64{0, .5, .7, .9, 1.0000001}

// Calibrate holds chances against what came true, step by step; a step without cases is left out.
func Calibrate(chances []float64, came []bool) []Bin {
	var out []Bin
	for i := 1; i < len(edges); i++ {
		k, n, sum := 0, 0, 0.0
		for j, c := range chances {
			if c < edges[i-1] || c >= edges[i] {
				continue
			}
			n++
			sum += c
			if came[j] {
				k++
			}
		}
		if n > 0 {
			out = append(out, Bin{edges[i-1], math.Min(1, edges[i]), sum / float64(n), ShareOf(k, n)})
		}
	}
	return out
}

// RatioOf is what some amounts come to of others, all together, with its 95 % interval by the jackknife (Quenouille 1956, Tukey 1958) over
// the pairs. It is nought of nothing, and of one pair nothing is known but itself.
func RatioOf(of, to []float64) Mean {
	n := min(len(of), len(to))
	a, b := 0.0, 0.0
	for i := range n {
		a, b = a+of[i], b+to[i]
	}
	if b <= 0 {
		return Mean{}
	}
	m := Mean{N: n, Mean: a / b, Low: a / b, High: a / b}
	if n < 2 {
		return m
	}
	var left []float64
	mean := 0.0
	for i := range n {
		if rest := b - to[i]; rest > 0 {
			left = append(left, (a-of[i])/rest)
			mean += (a - of[i]) / rest
		}
	}
	mean /= float64(len(left))
	squares := 0.0
	for _, x := range left {
		squares += (x - mean) * (x - mean)
	}
	k := float64(len(left))
	half := T95(len(left)-1) * math.Sqrt((k-1)/k*squares)
	m.Low, m.High = math.Max(0, m.Mean-half), m.Mean+half
	return m
}
