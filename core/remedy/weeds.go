package remedy

import (
	"maps"
	"slices"
	"strings"

	"hodos/core/knowledge"
)

// weedRow is a weed by name: what it is, the families of turf out of which something selective takes it, and whether a hand gets all of it.
type weedRow struct{ id, kinds, out, byHand string }

// weedRowsByName, extension consensus; which product is registered for which grass, the label says.
var weedRowsByName = []weedRow{
	{"crabgrass", "annual-grassy summer-annual", "CW", "yes"},
	{"goosegrass", "annual-grassy summer-annual", "CW", "no"},
	{"foxtail", "annual-grassy summer-annual", "CW", "yes"},
	{"barnyardgrass", "annual-grassy summer-annual", "CW", "yes"},
	{"stiltgrass", "annual-grassy summer-annual", "CW", "yes"},
	{"sandbur", "annual-grassy summer-annual", "W", "yes"},
	{"annual-bluegrass", "annual-grassy winter-annual", "CW", "yes"},
	{"annual-ryegrass", "annual-grassy winter-annual", "W", "yes"},
	{"brome-barley", "annual-grassy winter-annual", "W", "yes"},
	{"dallisgrass", "perennial-grassy", "CW", "yes"},
	{"quackgrass", "perennial-grassy", "", "no"},
	{"bermuda-in-cool", "perennial-grassy", "C", "no"},
	{"kikuyu", "perennial-grassy", "C", "no"},
	{"nimblewill", "perennial-grassy", "C", "yes"},
	{"bent-trivialis", "perennial-grassy", "C", "no"},
	{"coarse-clumps", "perennial-grassy", "", "yes"},
	{"torpedo-cogon", "perennial-grassy", "W", "no"},
	{"windmill-carpet", "perennial-grassy", "CW", "yes"},
	{"yellow-nutsedge", "sedge perennial", "CW", "no"},
	{"purple-nutsedge", "sedge perennial", "CW", "no"},
	{"kyllinga", "sedge kyllinga perennial", "CW", "no"},
	{"annual-sedge", "sedge summer-annual", "CW", "yes"},
	{"dandelion", "broadleaf perennial", "CW", "yes"},
	{"white-clover", "broadleaf perennial", "CW", "no"},
	{"plantain", "broadleaf perennial", "CW", "yes"},
	{"ground-ivy", "broadleaf perennial", "CW", "no"},
	{"wild-violet", "broadleaf perennial", "CW", "yes"},
	{"wood-sorrel", "broadleaf perennial", "CW", "yes"},
	{"daisy-selfheal", "broadleaf perennial", "CW", "yes"},
	{"buttercup", "broadleaf perennial", "CW", "yes"},
	{"thistle", "broadleaf perennial", "CW", "yes"},
	{"yarrow", "broadleaf perennial", "CW", "no"},
	{"dollarweed", "broadleaf perennial", "CW", "no"},
	{"buttonweed", "broadleaf perennial", "CW", "no"},
	{"betony", "broadleaf perennial", "CW", "no"},
	{"speedwell-creeping", "broadleaf perennial", "CW", "no"},
	{"mouse-ear", "broadleaf perennial", "CW", "yes"},
	{"bindweed-dock", "broadleaf perennial", "CW", "yes"},
	{"mallow-carrot", "broadleaf", "CW", "yes"},
	{"knotweed", "broadleaf summer-annual", "CW", "yes"},
	{"spurge", "broadleaf summer-annual", "CW", "yes"},
	{"purslane", "broadleaf summer-annual", "CW", "yes"},
	{"medic-lespedeza", "broadleaf summer-annual", "CW", "yes"},
	{"doveweed", "broadleaf summer-annual", "CW", "yes"},
	{"chamberbitter", "broadleaf summer-annual", "CW", "yes"},
	{"chickweed", "broadleaf winter-annual", "CW", "yes"},
	{"henbit", "broadleaf winter-annual", "CW", "yes"},
	{"bittercress", "broadleaf winter-annual", "CW", "yes"},
	{"burweed", "broadleaf winter-annual", "CW", "yes"},
	{"cudweed", "broadleaf winter-annual", "CW", "yes"},
	{"wild-garlic", "bulb perennial", "CW", "yes"},
	{"star-bulb", "bulb perennial", "CW", "yes"},
}

var weedAt = map[string]*weedRow{}

// named are the rows of the weeds that were named.
func (s *situation) named() (out []*weedRow) {
	for _, id := range s.v["weeds-named"].List {
		if w, ok := weedAt[id]; ok {
			out = append(out, w)
		}
	}
	return out
}

// everyNamed reports whether weeds were named and something holds of all of them.
func everyNamed(of func(s *situation, w *weedRow) bool) test {
	return func(s *situation, _ int) truth {
		list := s.named()
		if len(list) == 0 {
			return unknown
		}
		for _, w := range list {
			if !of(s, w) {
				return no
			}
		}
		return yes
	}
}

// withKinds adds what the named weeds are to the kinds that were seen.
func withKinds(v map[string]knowledge.Value) map[string]knowledge.Value {
	names := v["weeds-named"].List
	if len(names) == 0 {
		return v
	}
	kinds := append([]string{}, v["weed-kinds"].List...)
	for _, id := range names {
		if w, ok := weedAt[id]; ok {
			kinds = append(kinds, strings.Fields(w.kinds)...)
		}
	}
	slices.Sort(kinds)
	out := maps.Clone(v)
	out["weed-kinds"] = knowledge.ListValue(slices.Compact(kinds)...)
	return out
}
