package pattern

import (
	"math"
	"slices"
	"sort"
)

// Reasons why a value is proposed.
const (
	ByPlace    = "place"    // damage gathers at a place
	ByCover    = "cover"    // most of the lawn shows it
	ByRing     = "ring"     // patches close sound lawn in
	ByRound    = "round"    // patches are round
	ByRagged   = "ragged"   // patches are not
	ByLine     = "line"     // patches are long
	ByParallel = "parallel" // long patches run side by side at like distances
	ByPair     = "pair"     // two long patches run side by side, a track apart
	BySpeckled = "speckled" // single squares lie about as by chance
)

// Proposal is a value of a finding that follows from the marks.
type Proposal struct {
	Finding  string // pattern, position
	Value    string
	Strength float64 // 0 to 1: the share of the damage that it explains (pattern, by shape) or by which it gathers there
	Reason   string
	Place    string // of Near, for ByPlace
}

// placeRow is what gathering at a place says (judgement): a value of the pattern and one of the position, either may be missing; and the
// chance of as much up to which it is said: a strip along an edge is shifted onto it in every tenth case, and a foot is a third of a lawn.
type placeRow struct {
	place, pattern, position string
	chance                   float64
}

var placeRows = []placeRow{
	{AtHardEdge, "along-hardscape", "near-hardscape", .15},
	{UnderTree, "", "under-tree", .1},
	{BeyondThrow, "sprinkler-arcs", "", .1},
	{AtSlopeFoot, "low-spots", "low-spot", .15},
	{OnSlope, "high-spots-or-slopes", "slope", .1},
	{OverBuried, "", "over-tank", .1},
}

// From where on a shape counts (judgement, set on drawn lawns: docs/decisions/0021-the-lawn-from-above.md).
const (
	uniformFrom   = 65.0 // per cent of the lawn
	hollowFrom    = .12  // of a ring and what it encloses
	roundFrom     = .86  // roundness of a patch
	longFrom      = 3.2  // elongation of a streak
	shapeCells    = 5    // squares from which a patch has a shape
	shapeLeast    = .4   // of the damage that must have the shape
	alongLeast    = .9   // length of the mean of the doubled directions: nearly parallel
	likeDistances = .4   // spread of distances over their mean
	trackFrom     = 1.0  // m between two wheels
	trackTo       = 2.6
	smallLeast    = .5 // of the damage that lies in patches of fewer squares than have a shape
)

// propose lists what the marks speak for: at most one place and one shape of the pattern, and positions.
func propose(m Marked, r Reading) []Proposal {
	out := []Proposal{}
	placed := false
	for _, n := range r.Near {
		p := placeRows[slices.IndexFunc(placeRows, func(p placeRow) bool { return p.place == n.Place })]
		apart := n.Apart(r.Percent)
		if r.Percent > mostDamage*100 || apart < apartFrom || n.Chance > p.chance || n.DamageShare < leastThereOf {
			continue
		}
		if p.pattern != "" && !placed {
			out = append(out, Proposal{"pattern", p.pattern, apart, ByPlace, n.Place})
			placed = true
		}
		if p.position != "" {
			out = append(out, Proposal{"position", p.position, apart, ByPlace, n.Place})
		}
	}
	if s, ok := shape(m, r); ok && !(placed && slices.Contains([]string{ByRagged, ByLine, BySpeckled}, s.Reason)) {
		out = append(out, s)
	}
	sort.SliceStable(out, func(a, b int) bool { // as elsewhere in the core: one sort for all, which a phone fetches once
		if out[a].Finding != out[b].Finding {
			return out[a].Finding < out[b].Finding
		}
		return out[a].Strength > out[b].Strength
	})
	return out
}

// shape is the one value that the shapes of the patches speak for; false where the squares are too few or too coarse.
func shape(m Marked, r Reading) (Proposal, bool) {
	if r.Percent >= uniformFrom {
		return Proposal{Finding: "pattern", Value: "uniform", Strength: math.Min(1, r.Percent/100), Reason: ByCover}, true
	}
	if m.Grid.Plain {
		return Proposal{}, false
	}
	if r.Scattered && r.Cells >= 12 {
		return Proposal{Finding: "pattern", Value: "mottled", Strength: 1 - r.Percent/100, Reason: BySpeckled}, true
	}
	all := float64(r.Cells)
	var ring, round, long, ragged, small float64
	var streaks []Patch
	for _, p := range r.Patches {
		share := float64(p.Cells) / all
		switch {
		case p.Cells < shapeCells && p.Elongation < longFrom:
			small += share
		case p.Hollow >= hollowFrom && p.Elongation < 2:
			ring += share
		case p.Elongation >= longFrom:
			long += share
			streaks = append(streaks, p)
		case p.Roundness >= roundFrom:
			round += share
		default:
			ragged += share
		}
	}
	switch most := max(ring, round, long, ragged); {
	case small > smallLeast || most < shapeLeast:
		// what is smaller than a step the eye must tell
		return Proposal{}, false
	case ring == most:
		return Proposal{Finding: "pattern", Value: "rings", Strength: ring, Reason: ByRing}, true
	case long == most:
		return lines(streaks, long), true
	case round == most:
		return Proposal{Finding: "pattern", Value: "round-patches", Strength: round, Reason: ByRound}, true
	default:
		return Proposal{Finding: "pattern", Value: "irregular-patches", Strength: ragged, Reason: ByRagged}, true
	}
}

// lines tells streaks apart: two a track apart are wheels, three or more at like distances a spreader, the rest lines or streaks.
func lines(streaks []Patch, share float64) Proposal {
	plain := Proposal{Finding: "pattern", Value: "lines-or-streaks", Strength: share, Reason: ByLine}
	if len(streaks) < 2 {
		return plain
	}
	var c, s float64
	for _, p := range streaks {
		sin, cos := math.Sincos(2 * p.Direction * math.Pi / 180)
		c += cos / float64(len(streaks))
		s += sin / float64(len(streaks))
	}
	if math.Hypot(c, s) < alongLeast {
		return plain
	}
	// places of the streaks across their common direction
	sin, cos := math.Sincos(math.Atan2(s, c) / 2)
	across := make([]float64, len(streaks))
	for i, p := range streaks {
		across[i] = p.Centre.East*cos - p.Centre.North*sin
	}
	sort.Slice(across, func(a, b int) bool { return across[a] < across[b] })
	var gaps []float64
	for i := 1; i < len(across); i++ {
		gaps = append(gaps, across[i]-across[i-1])
	}
	if len(gaps) == 1 {
		if gaps[0] >= trackFrom && gaps[0] <= trackTo {
			return Proposal{Finding: "pattern", Value: "wheel-tracks", Strength: share, Reason: ByPair}
		}
		return plain
	}
	mean, spread := 0.0, 0.0
	for _, g := range gaps {
		mean += g / float64(len(gaps))
	}
	for _, g := range gaps {
		spread += (g - mean) * (g - mean) / float64(len(gaps))
	}
	if mean > 0 && math.Sqrt(spread)/mean <= likeDistances {
		return Proposal{Finding: "pattern", Value: "spreader-stripes", Strength: share, Reason: ByParallel}
	}
	return plain
}
