package hindsight

import (
	"cmp"
	"math"
	"slices"

	"hodos/core/diagnosis"
)

// Counted is how often the closed cases of a firm were a cause, and how often the tables expected it.
type Counted struct {
	Cause    string
	Seen     int
	Expected float64
}

// Lesson is what that teaches of a cause.
type Lesson struct {
	Counted
	Factor    float64 // of the odds that the tables give
	Low, High float64 // 95 % interval of it
}

// How a firm's own cases are trusted: nothing is learnt of fewer than LeastCases, and the tables weigh as much as tablesWeigh expected
// cases of each cause (judgement).
const (
	LeastCases  = 20
	tablesWeigh = 10.0
	leastLesson = .1 // a factor nearer to one than this is none
)

// Learn shrinks what was seen toward the tables: the rate at which a cause is met, against the tables', has a gamma prior of mean 1 and
// shape tablesWeigh, and the counts are Poisson, so that it comes to (w + seen) / (w + expected) (Gelman and others 2013, Bayesian data
// analysis, section 2.6). The limits are those by which a diagnosis is moved at most. The strongest lesson comes first. cases is how many
// were closed in all.
func Learn(counted []Counted, cases int) []Lesson {
	if cases < LeastCases {
		return nil
	}
	var out []Lesson
	for _, c := range counted {
		shape, rate := tablesWeigh+float64(c.Seen), tablesWeigh+c.Expected
		l := Lesson{Counted: c, Factor: held(shape / rate), Low: gammaQuantile(shape, -z95) / rate, High: gammaQuantile(shape, z95) / rate}
		if math.Abs(math.Log(l.Factor)) >= leastLesson {
			out = append(out, l)
		}
	}
	slices.SortFunc(out, func(a, b Lesson) int {
		return cmp.Or(cmp.Compare(math.Abs(math.Log(b.Factor)), math.Abs(math.Log(a.Factor))), cmp.Compare(a.Cause, b.Cause))
	})
	return out
}

func held(factor float64) float64 {
	return math.Max(1/diagnosis.MostLearnt, math.Min(diagnosis.MostLearnt, factor))
}

// z95 is the normal quantile of two-sided 95 %.
const z95 = 1.959964

// gammaQuantile is the quantile of a gamma of shape a and rate 1 at a normal quantile z (Wilson and Hilferty 1931); good to a per cent for
// a of ten and more.
func gammaQuantile(a, z float64) float64 {
	return a * math.Pow(1-1/(9*a)+z/(3*math.Sqrt(a)), 3)
}
