// Package repeat says of a zone in which the same cause has come back what was only done about its signs, and what would end it.
package repeat

import (
	"slices"
	"strings"
	"time"

	"hodos/core/worth"
)

// row is a cause: what eases it, what ends it, and why that is so.
type row struct{ cause, eases, ends, why string }

// rows: extension practice. What eases treats the signs of one season; what ends takes the reason away, or meets the cause before it does harm.
var rows = []row{
	{"dollar-spot", "fungicide-curative", "spoon-feed-nitrogen cut-back-water", "a hungry lawn and leaves that stay wet bring it"},
	{"brown-patch", "fungicide-curative", "hold-nitrogen cut-back-water core-aerate", "nitrogen before the heat and wet nights bring it"},
	{"large-patch", "fungicide-curative", "fungicide-preventive improve-drainage", "it lives in the soil and wakes in autumn"},
	{"leaf-spot", "fungicide-curative", "raise-mowing-height overseed", "low mowing and soft grass bring it; resistant grass does not catch it"},
	{"melting-out", "fungicide-curative", "raise-mowing-height overseed", "low mowing and soft grass bring it; resistant grass does not catch it"},
	{"gray-leaf-spot", "fungicide-curative", "overseed", "resistant ryegrass or tall fescue hardly catches it"},
	{"pythium-blight", "fungicide-curative", "improve-drainage cut-back-water", "standing water in hot nights brings it"},
	{"rust", "fungicide-curative", "apply-nitrogen prune-shade", "it settles on grass that has stopped growing"},
	{"red-thread", "fungicide-curative", "apply-nitrogen", "a hungry lawn brings it"},
	{"anthracnose", "fungicide-curative", "spoon-feed-nitrogen raise-mowing-height", "hunger and low mowing bring it"},
	{"necrotic-ring-spot", "fungicide-curative", "fungicide-preventive core-aerate interseed", "it lives in the thatch; other grass between does not catch it"},
	{"summer-patch", "fungicide-curative", "fungicide-preventive core-aerate interseed", "once the roots are gone no spray helps; a spray in late spring does"},
	{"take-all-root-rot", "fungicide-curative", "topdress cut-back-water fungicide-preventive", "lime, wet soil and stress bring it out"},
	{"spring-dead-spot", "fungicide-curative hold-mowing", "fungicide-preventive apply-potassium core-aerate", "it does its harm in autumn, before anybody sees it"},
	{"gray-snow-mold", "fungicide-curative remove-debris", "fungicide-preventive short-last-mowing", "a spray has to go on before the snow"},
	{"pink-snow-mold", "fungicide-curative remove-debris", "fungicide-preventive short-last-mowing", "late feeding and leaves left on the grass bring it"},
	{"fairy-ring", "apply-wetting-agent apply-nitrogen", "core-aerate apply-wetting-agent", "the fungus stays; only its signs can be kept away"},
	{"pythium-root-rot", "fungicide-curative", "improve-drainage cut-back-water", "the soil stays wet"},
	{"white-grubs", "insecticide-curative press-and-water overseed", "insecticide-preventive", "beetles fly in again each summer; the grubs have to be treated before they feed"},
	{"chinch-bugs", "insecticide-curative", "dethatch change-grass", "thick thatch in the sun breeds them; they leave grass with endophyte alone"},
	{"sod-webworms", "insecticide-curative", "dethatch", "they hide in thick thatch"},
	{"billbugs", "insecticide-curative overseed", "insecticide-preventive change-grass", "the weevils lay in spring; they leave grass with endophyte alone"},
	{"mole-crickets", "insecticide-curative press-and-water", "insecticide-preventive", "only the young ones can be treated well, when they hatch"},
	{"crane-fly-larvae", "insecticide-curative overseed", "insecticide-preventive improve-drainage", "they need damp ground in autumn"},
	{"drought-stress", "water-deep", "fix-irrigation core-aerate change-grass", "the roots, the soil or the grass cannot get through a dry spell"},
	{"drought-dieback", "overseed water-deep", "change-grass fix-irrigation", "this grass does not stand such a summer here"},
	{"localized-dry-spot", "apply-wetting-agent water-deep", "core-aerate apply-wetting-agent", "the wax builds up every season"},
	{"shallow-soil-over-object", "spot-water water-deep overseed", "replace-soil", "there is too little soil to hold water"},
	{"irrigation-coverage-gap", "spot-water water-deep", "fix-irrigation", "the sprinklers miss the place"},
	{"hardscape-heat", "spot-water water-deep", "change-use", "the paving stays"},
	{"heat-stress", "syringe-midday raise-mowing-height", "change-grass", "this grass does not stand such heat here"},
	{"nitrogen-deficiency", "apply-nitrogen apply-iron", "spoon-feed-nitrogen", "single feedings run out; a plan for the year does not"},
	{"iron-chlorosis", "apply-iron", "apply-acidifier change-grass", "iron on the leaf is gone in weeks; the soil stays limy"},
	{"salinity", "leach-salts", "improve-drainage change-grass", "the salt comes back with water or road"},
	{"overwatering", "cut-back-water", "fix-irrigation", "the timer still runs as it did in August"},
	{"flooding", "overseed", "improve-drainage install-drain", "the water has no way out"},
	{"compaction", "core-aerate", "restrict-traffic core-aerate", "feet and wheels press it again"},
	{"excess-thatch", "dethatch scarify", "core-aerate topdress", "feeding and sour soil build it up; soil on top of it lets it rot"},
	{"scalping", "leave-alone", "level-surface raise-mowing-height", "the ground is uneven or the mower too low"},
	{"traffic-crush", "overseed", "change-use restrict-traffic", "people walk across here"},
	{"shade-thinning", "overseed", "prune-shade change-grass change-use", "without light every seeding thins out again"},
	{"moss-invasion", "moss-control rake-out-moss", "prune-shade improve-drainage apply-lime", "moss takes what the grass leaves: shade, wet, sour soil"},
	{"weed-invasion", "herbicide-spot herbicide-broadcast hand-weed", "overseed preemergent", "weeds take what the grass leaves open"},
	{"pet-urine", "flush-spot-with-water overseed", "restrict-traffic", "the dog needs another place"},
}

// Outbreak is one time that a cause was found in a zone.
type Outbreak struct {
	On    time.Time
	Cause string
}

// Apart is how far two findings lie apart at least to be two outbreaks, in days, and Years how far back they count (judgement).
const (
	Apart = 60
	Years = 3
)

// Again is a cause that has come back.
type Again struct {
	Cause string
	Times []time.Time // first to last
	Why   string
	Eased []string // actions that were done and only ease it
	Ended []string // actions that were done and would end it
	Ends  []Work   // what would end it
}

// Work is an action with its price; 0 for one that has none.
type Work struct {
	Action string
	Price  float64
}

// Done is an action with its day.
type Done struct {
	Action string
	On     time.Time
}

// Of lists the causes that were found at least twice within the last years, the most frequent first. found and done are in rising order of
// days; area (m²) and prices make the money. A cause without a row comes back without advice.
func Of(found []Outbreak, done []Done, today time.Time, area float64, p worth.Prices) []Again {
	since := today.AddDate(-Years, 0, 0)
	at := map[string]int{}
	var out []Again
	for _, f := range found {
		if f.On.Before(since) || f.On.After(today) {
			continue
		}
		i, ok := at[f.Cause]
		if !ok {
			i = len(out)
			at[f.Cause] = i
			out = append(out, Again{Cause: f.Cause})
		}
		if n := len(out[i].Times); n == 0 || f.On.Sub(out[i].Times[n-1]).Hours() >= Apart*24 {
			out[i].Times = append(out[i].Times, f.On)
		}
	}
	out = slices.DeleteFunc(out, func(a Again) bool { return len(a.Times) < 2 })
	for i := range out {
		out[i].advise(done, area, p)
	}
	slices.SortStableFunc(out, func(a, b Again) int { return len(b.Times) - len(a.Times) })
	return out
}

func (a *Again) advise(done []Done, area float64, p worth.Prices) {
	for _, r := range rows {
		if r.cause != a.Cause {
			continue
		}
		a.Why = r.why
		eases, ends := strings.Fields(r.eases), strings.Fields(r.ends)
		for _, d := range done {
			if d.On.Before(a.Times[0]) {
				continue
			}
			switch {
			case slices.Contains(ends, d.Action) && !slices.Contains(a.Ended, d.Action):
				a.Ended = append(a.Ended, d.Action)
			case slices.Contains(eases, d.Action) && !slices.Contains(ends, d.Action) && !slices.Contains(a.Eased, d.Action):
				a.Eased = append(a.Eased, d.Action)
			}
		}
		for _, e := range ends {
			price, _ := p.Price(e, area)
			a.Ends = append(a.Ends, Work{e, price})
		}
	}
}
