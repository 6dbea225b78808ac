package counts

import "math"

// State is how far a count has come.
type State string

// The states.
const (
	Begun  State = "begun"   // too few places to say anything
	More   State = "more"    // another place may well turn the decision
	Over   State = "over"    // at or over the limit, as sure as is asked for
	Under  State = "under"   // under it, as sure
	OnLine State = "on-line" // as many places as pay, and the limit still lies within
	Alive  State = "alive"   // of the crowns: most of them, sure enough
	Mixed  State = "mixed"   // some
	Dead   State = "dead"    // few
	Told   State = "told"    // there is nothing to hold it against
)

// When a count is settled.
const (
	sure    = .9  // chance from which it is: one decision in ten is wrong at the most (Wald's usual 0.1)
	leastOf = 2   // places before a count of pieces is settled: one place shows no spread
	turns   = .04 // chance of turning the decision under which another place is not worth the digging (judgement)
	crowns  = 10  // crowns cut before their share is settled (extension practice)
	manyCut = 40  // crowns after which no more are cut (judgement)
)

// Shares of living crowns between which a stand is mixed; the advice has the same.
const (
	aliveAt = .70
	deadAt  = .30
)

// Weighed is what a count says.
type Weighed struct {
	Value     float64 // as the answer of the finding
	Low, High float64 // it lies between these in nine cases of ten, in the unit of the value
	Spread    float64 // standard deviation between the places, in the unit of the value; NaN of fewer than two
	Over      float64 // chance of being at or over the limit; NaN without one. Of crowns: chance of the state that is said
	Turns     float64 // chance that one more place turns the decision; NaN where that is not asked
	State     State
	Settled   bool // nothing more needs to be counted
}

// Weigh holds a count against a limit in the unit of the value; one that is not a positive finite number is none. The count must have
// passed Check.
func (p Protocol) Weigh(places []Place, limit float64) Weighed {
	out := Weighed{Value: p.Value(places), Spread: p.spread(places), Over: math.NaN(), Turns: math.NaN(), Low: math.NaN(), High: math.NaN()}
	switch p.Kind {
	case Pieces:
		p.pieces(places, limit, &out)
	case Share:
		share(places, &out)
	default:
		out.State, out.Settled = Told, len(places) >= p.Places
	}
	return out
}

// spread is the standard deviation of what the places alone would come to.
func (p Protocol) spread(places []Place) float64 {
	if len(places) < 2 {
		return math.NaN()
	}
	n, mean, sum := float64(len(places)), 0.0, 0.0
	for _, x := range places {
		mean += p.Value([]Place{x}) / n
	}
	for _, x := range places {
		d := p.Value([]Place{x}) - mean
		sum += d * d
	}
	return math.Sqrt(sum / (n - 1))
}

// belief is a distribution over densities and degrees of clumping. Before the first place every density within a factor of forty of the
// limit, on the scale of its logarithm, is as likely as another, and so is every degree of clumping (judgement).
type belief struct {
	density []float64 // per m²
	p       [][]float64
}

// clumped are the degrees of clumping that are thought possible: k of the negative binomial, from strongly clumped to nearly even. Soil
// insects lie between 0.5 and 3 as a rule.
var clumped = []float64{.4, .8, 1.6, 3.2, 8}

const (
	densities = 121
	within    = 40.0
)

func newBelief(limit float64) belief {
	b := belief{density: make([]float64, densities), p: make([][]float64, densities)}
	for i := range b.density {
		b.density[i] = limit * math.Pow(within, 2*float64(i)/(densities-1)-1)
		b.p[i] = make([]float64, len(clumped))
		for j := range b.p[i] {
			b.p[i][j] = 1
		}
	}
	return b
}

// after is the belief once another place has been counted, and the chance that there was of that count.
func (b belief) after(x Place) (next belief, chance float64) {
	next = belief{density: b.density, p: make([][]float64, len(b.p))}
	before := 0.0
	for i, row := range b.p {
		next.p[i] = make([]float64, len(row))
		for j, p := range row {
			before += p
			next.p[i][j] = p * clumpedChance(x.Got, b.density[i]*x.Of/1e4, clumped[j])
			chance += next.p[i][j]
		}
	}
	for i := range next.p {
		for j := range next.p[i] {
			next.p[i][j] /= chance
		}
	}
	return next, chance / before
}

// clumpedChance is the negative binomial chance of n where the mean is mu and the clumping k.
func clumpedChance(n, mu, k float64) float64 {
	a, _ := math.Lgamma(n + k)
	b, _ := math.Lgamma(k)
	c, _ := math.Lgamma(n + 1)
	return math.Exp(a - b - c + k*math.Log(k/(k+mu)) + n*math.Log(mu/(k+mu)))
}

// over is the chance of a density at or over a limit.
func (b belief) over(limit float64) (sum float64) {
	for i, row := range b.p {
		if b.density[i] < limit*(1-1e-9) {
			continue
		}
		for _, p := range row {
			sum += p
		}
	}
	return sum
}

// quantile is the density under which a share of the belief lies.
func (b belief) quantile(share float64) float64 {
	sum := 0.0
	for i, row := range b.p {
		for _, p := range row {
			sum += p
		}
		if sum >= share {
			return b.density[i]
		}
	}
	return b.density[len(b.density)-1]
}

// turning is the chance that one more place of a size brings the belief to the other side of the limit: that fewer than some number are
// found in it where it stands over, that many or more where it stands under.
func (b belief) turning(cm2, limit float64) (sum float64) {
	over := b.over(limit) >= .5
	for n, left := 0.0, 1.0; n <= mostPieces && left > .001; n++ {
		then, chance := b.after(Place{n, cm2})
		turned := (then.over(limit) >= .5) != over
		switch {
		case over && !turned:
			return sum
		case over:
			sum += chance
		case turned:
			return left
		}
		left -= chance
	}
	return sum
}

// pieces weighs a count of animals.
func (p Protocol) pieces(places []Place, limit float64, out *Weighed) {
	held := limit > 0 && !math.IsInf(limit, 1)
	if !held {
		limit = max(out.Value, 1) // the scale of the belief, and nothing else
	}
	b := newBelief(limit)
	for _, x := range places {
		b, _ = b.after(x)
	}
	out.Low, out.High = b.quantile(.05), b.quantile(.95)
	if !held {
		out.State, out.Settled = Told, len(places) >= p.Places
		return
	}
	out.Over = b.over(limit)
	out.Turns = b.turning(places[len(places)-1].Of, limit)
	switch n := len(places); {
	case n < leastOf:
		out.State = Begun
	case out.Over >= sure || out.Over >= .5 && out.Turns < turns:
		out.State = Over
	case out.Over <= 1-sure || out.Over < .5 && out.Turns < turns:
		out.State = Under
	case n >= p.Most:
		out.State = OnLine
	default:
		out.State = More
	}
	out.Settled = out.State != Begun && out.State != More
}

// share weighs living crowns: Jeffreys' interval, and the chance of each of the three states that a stand can be in.
func share(places []Place, out *Weighed) {
	alive, cut := 0.0, 0.0
	for _, x := range places {
		alive, cut = alive+x.Got, cut+x.Of
	}
	const steps = 1000
	weights, sum := make([]float64, steps), 0.0
	for i := range weights {
		q := (float64(i) + .5) / steps
		weights[i] = math.Exp((alive-.5)*math.Log(q) + (cut-alive-.5)*math.Log(1-q))
		sum += weights[i]
	}
	below, chance := 0.0, map[State]float64{}
	for i, w := range weights {
		q := (float64(i) + .5) / steps
		switch {
		case q >= aliveAt:
			chance[Alive] += w / sum
		case q < deadAt:
			chance[Dead] += w / sum
		default:
			chance[Mixed] += w / sum
		}
		if below < .05 && below+w/sum >= .05 {
			out.Low = math.Round(q * 100)
		}
		if below < .95 && below+w/sum >= .95 {
			out.High = math.Round(q * 100)
		}
		below += w / sum
	}
	for _, s := range []State{Alive, Mixed, Dead} {
		if out.State == "" || chance[s] > chance[out.State] {
			out.State = s
		}
	}
	out.Over = chance[out.State]
	switch {
	case cut < crowns:
		out.State = Begun
	case out.Over < sure && cut < manyCut:
		out.State = More
	}
	out.Settled = out.State != Begun && out.State != More
}
