package knowledge

import (
	"math"
	"strings"
)

// The good spot of the same lawn is the best yardstick for the bad one: what both read alike does not tell them apart.

// besideShare is how much of what nothing but chance would make the bad spot read follows the lawn's own good spot, rather than what
// lawns read
// at large (judgement).
const besideShare = .6

// besideSame is how often a word is the same in two sound spots a few steps apart (judgement), besideWidth how far two readings lie apart
// there, as a share of how far lawns lie apart (judgement).
const (
	besideSame  = .8
	besideWidth = .5
)

// BesideStations are the stations whose checks are made at the good spot, too.
var BesideStations = map[string]bool{"soil": true, "thatch": true, "pull": true}

// apartByItself are findings whose difference from the good spot is a finding of its own. The temperature of the good spot is one, too.
var apartByItself = map[string]bool{"soil-moisture": true, "soil-moisture-vwc": true}

// AtBothSpots reports whether a finding is made at the bad and the good spot alike; ByItself whether the difference is a finding of
// its own.
func (f Finding) AtBothSpots() bool {
	return BesideStations[f.Station] && f.Asked() && !strings.HasPrefix(f.ID, "soil-temp-") &&
		(f.Kind == Number || f.Kind == OneOf || f.Kind == YesNo)
}

// ByItself reports whether the difference of both spots is a finding of its own.
func (f Finding) ByItself() bool { return apartByItself[f.ID] }

// BesideGood is the chance (or density) of a value at the bad spot of a sound lawn whose good spot reads good; b is the chance without it.
func (cf *Table) BesideGood(b float64, v, good Value) float64 {
	near := 0.0
	switch {
	case v.Number != nil && good.Number != nil:
		l, r := cf.Background.widths()
		const q = 1.2815515655
		s := besideWidth * (l + r) / 2 * q
		mid := cf.scale(*good.Number)
		near = cf.Density(&Dist{Mid: mid, low: mid - s, high: mid + s, IsNumber: true}, *v.Number, cf.Stray()*OwnStray)
	case v.Word != "" && good.Word != "":
		near = besideWord(v.Word == good.Word, b, cf.Chance(&cf.Background, good))
	case v.Yes != nil && good.Yes != nil:
		near = besideWord(*v.Yes == *good.Yes, b, cf.Chance(&cf.Background, good))
	default:
		return b
	}
	return (1-besideShare)*b + besideShare*near
}

// besideWord is the chance of the same word again, or of another as lawns go that do not read like the good spot.
func besideWord(same bool, b, good float64) float64 {
	if same {
		return besideSame
	}
	return (1 - besideSame) * b / math.Max(1-good, .01)
}
