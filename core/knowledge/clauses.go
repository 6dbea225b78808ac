package knowledge

import (
	"math"
	"strconv"
	"strings"

	"hodos/core/units"
)

// clauseRow is how a client is told of an answer, as what goes on after "because".
type clauseRow struct{ finding, value, says string }

// clauseText has the rows: finding, value and words, plain ones of the trade. The value is empty for any other, 0 for a count of none,
// "none" for a list in which nothing was ticked. {value} stands for the figure with its unit or the words, {figure} and {per} for its two
// halves, {number} for the bare figure as it is kept, {percent} for a share in a hundred, {cause} for the cause that a finding is kept for.
// It is one text and not a table of three, which a phone fetches quicker.
const clauseText = `
establishment | new-seed | the grass was only just sown
establishment | new-sod | the sod was only just laid
establishment | new-plugs | the plugs were only just set
establishment | first-year | the grass is in its first year
establishment | established | the grass is well established
neighbours-affected | none | the neighbours' lawns look fine
neighbours-affected | few | a few of the neighbours' lawns look the same
neighbours-affected | many | many lawns around look the same
onset-speed | overnight | it came overnight
onset-speed | days | it came within days
onset-speed | weeks | it came on over weeks
onset-speed | gradual | it came on slowly
irrigation-weekly-mm |  | it gets {value} of water a week
irrigation-sessions-per-week | 0 | it is not watered
irrigation-sessions-per-week |  | it is watered {number}× a week
irrigation-time | early-morning | it is watered early in the morning
irrigation-time | midday | it is watered at midday
irrigation-time | evening | it is watered in the evening
irrigation-time | none | it is not watered
days-since-water |  | it was last watered {value} ago
last-nitrogen-days |  | it was last fed {value} ago
last-nitrogen-source | quick | it was last fed with a quick fertilizer
last-nitrogen-source | slow | it was last fed with a slow fertilizer
last-nitrogen-source | organic | it was last fed with an organic fertilizer
last-nitrogen-source | none | it has not been fed
nitrogen-12-months-g-m2 |  | it had {value} of nitrogen in twelve months
iron-last-60-days | yes | it had iron in the last two months
iron-last-60-days | no | it had no iron in the last two months
herbicide-last-30-days | yes | a weedkiller went down in the last month
herbicide-last-30-days | no | no weedkiller went down in the last month
insecticide-this-season | none | no insecticide went down this season
insecticide-this-season | preventive | a preventive insecticide went down this season
insecticide-this-season | curative | an insecticide went down this season
mowing-height-mm |  | it is mown at {value}
mowing-interval-days |  | it is mown every {value}
mowing-height-drop-mm | 0 | the mower was not set lower
mowing-height-drop-mm |  | the mower was set {value} lower
dog-on-lawn | yes | a dog uses the lawn
dog-on-lawn | no | no dog uses the lawn
snow-cover-days | 0 | no snow lay on it
snow-cover-days |  | it lay under snow for {value}
buried-object | none | nothing is known to lie under it
buried-object | tank-or-drain-field | a tank or drain field lies under it
buried-object | rock-or-debris | rock or rubble lies under it
buried-object | shallow-utility | a pipe or cable lies close under it
sun-hours |  | it gets {value} of sun a day
recent-events | none | nothing out of the ordinary happened lately
recent-events | spill | something was spilled on it
recent-events | construction | there was building work
recent-events | heavy-traffic | it had heavy use
recent-events | vehicle | a vehicle drove on it
recent-events | hose-or-cover-left | something was left lying on it
recent-events | flood | it stood under water
recent-events | irrigation-fault | the sprinklers had a fault
recent-events | deicing-salt | it got de-icing salt
recent-events | freeze-after-green-up | frost came after green-up
recent-events | leaves-left-over-winter | leaves lay on it over winter
recent-events | overseeded | it was overseeded
recent-events | heavy-rain | it rained hard
recent-events | ice-cover | it lay under ice
recent-events | high-water-table | the water table is high
growth-rate | stalled | it has stopped growing
growth-rate | slow | it grows slowly
growth-rate | normal | it grows as usual
growth-rate | surging | it is growing fast
past-causes | none | nothing of the kind is on record here
past-causes |  | this lawn has had {value} before
pattern | none | there is no pattern to the damage
pattern | uniform | the lawn looks the same all over
pattern | irregular-patches | the damage is in irregular patches
pattern | small-round-spots | the damage is in small round spots
pattern | round-patches | the damage is in round patches
pattern | rings | the damage is in rings
pattern | frog-eye | the patches have a green centre
pattern | lines-or-streaks | the damage is in lines or streaks
pattern | along-hardscape | the damage runs along paving or walls
pattern | low-spots | the damage is in the low spots
pattern | high-spots-or-slopes | the damage is on high spots or slopes
pattern | sprinkler-arcs | the damage follows the sprinklers' arcs
pattern | spreader-stripes | the damage is in stripes as wide as a spreader
pattern | scattered-blades | single blades are hit here and there
pattern | matted-patches | the grass is matted in patches
pattern | wheel-tracks | the damage follows wheel tracks
pattern | mottled | the lawn is mottled
colour | none | no colour stands out
colour |  | the colour is {value}
margin | sharp | the patches have a sharp edge
margin | diffuse | the patches fade out at the edge
margin | smoke-ring | the patches have a dark, smoky edge
margin | water-soaked | the patches look water-soaked at the edge
affected-area-percent |  | {value} of the lawn is hit
patch-diameter-cm |  | the patches are about {value} across
footprints | spring-back | footprints spring back
footprints | stay | footprints stay down
underfoot | firm | it is firm underfoot
underfoot | spongy | it is spongy underfoot
underfoot | soft-loose | it gives way underfoot
underfoot | hard | it is hard underfoot
underfoot | wet | it is wet underfoot
animal-digging | none | no animal has been digging
animal-digging | rooting-holes | something has dug holes
animal-digging | peeled-back | animals have turned the turf back
animal-digging | bird-probing | birds have been probing
animal-digging | tunnels | there are tunnels
moths-on-walking | none | no moths fly up
moths-on-walking | few | a few moths fly up
moths-on-walking | many | many moths fly up
green-up-percent |  | {value} of it has greened up
position | none | it is not bound to any one place
position | open | the worst of it is in the open
position | near-hardscape | the worst of it is near paving or walls
position | slope | the worst of it is on a slope
position | low-spot | the worst of it is in a low spot
position | over-tank | the worst of it is over a tank
position | under-tree | the worst of it is under a tree
position | entry-path | the worst of it is where people walk in
position | building-shade | the worst of it is in the shade of a building
moss-cover-percent | 0 | there is no moss
moss-cover-percent |  | {value} of it is moss
weed-cover-percent | 0 | there are no weeds
weed-cover-percent |  | {value} of it is weeds
weed-kinds | none | there are no weeds to speak of
weed-kinds | broadleaf | there are broadleaf weeds
weed-kinds | annual-grassy | there are annual grassy weeds
weed-kinds | perennial-grassy | there are perennial grassy weeds
weed-kinds | sedge | there is sedge
weed-kinds | winter-annual | there are winter weeds
weed-kinds | summer-annual | there are summer weeds
weed-kinds | perennial | there are perennial weeds
weed-kinds | bulb | there are weeds that grow from bulbs
weed-kinds | kyllinga | there is kyllinga
seed-heads | none | there are no seed heads
seed-heads | few | there are a few seed heads
seed-heads | many | it is full of seed heads
fruiting-bodies | none | no fungus stands in it
fruiting-bodies | mushrooms | mushrooms stand in it
fruiting-bodies | sclerotia | there are small hard grains of fungus
fruiting-bodies | slime-crust | there is a slimy crust on the leaves
fruiting-bodies | black-setae | there are tiny black bristles on the leaves
stand-density | dense | the grass is dense
stand-density | thin | the grass has thinned out
stand-density | gaps | there are gaps in the grass
stand-density | bare | there is bare soil
growth-habit | none | nothing stands out in how it grows
growth-habit | even-stand | the grass stands evenly
growth-habit | clumps | the grass stands in clumps
growth-habit | runners-closing-in | runners are closing the gaps
growth-habit | sideways-remnants | only flat remnants are left
moss-state | live | the moss is alive
moss-state | dead-wet | the moss is dead and wet
moss-state | dead-dry | the moss is dead and dry
same-place-before | yes | it was in the same place before
same-place-before | no | it was never in this place before
patch-profile | level | the patches are level
patch-profile | sunken | the patches are sunken
patch-profile | raised | the patches stand up
leaf-symptoms | none | the leaves show nothing
leaf-symptoms | tip-dieback | the leaf tips have died back
leaf-symptoms | whole-leaf-blight | whole leaves have died
leaf-symptoms | hourglass-lesion-tan-with-brown-border | the leaves have tan spots shaped like an hourglass
leaf-symptoms | oval-lesion-purple-border | the leaves have oval spots with a purple edge
leaf-symptoms | grey-felted-lesion | the leaves have grey, felted spots
leaf-symptoms | orange-pustules | orange powder comes off the leaves
leaf-symptoms | white-powder | the leaves have a white powder
leaf-symptoms | red-threads | red threads grow from the leaf tips
leaf-symptoms | interveinal-yellow | the leaves are yellow between the veins
leaf-symptoms | uniform-yellow | whole leaves are yellow
leaf-symptoms | older-leaves-yellow | the older leaves are yellow
leaf-symptoms | new-leaves-yellow | the new leaves are yellow
leaf-symptoms | purple-tint | the leaves have a purple tint
leaf-symptoms | rolled-or-folded | the leaves are rolled or folded
leaf-symptoms | chewed-notches | the leaf edges are chewed
leaf-symptoms | windowpane-feeding | the leaves are scraped thin
leaf-symptoms | stippled | the leaves are finely speckled
leaf-symptoms | greasy-water-soaked | the leaves look greasy and wet
leaf-symptoms | scorched-margins | the leaf edges are scorched
leaf-symptoms | sheared-off-at-soil | shoots are cut off at the soil
leaf-symptoms | stunted-tufted | the shoots are stunted and tufted
leaf-symptoms | irregular-lesion-tan-dark-border | the leaves have irregular spots with a thin dark edge
leaf-symptoms | mosaic-streaks | the leaves are streaked light and dark
leaf-symptoms | white-or-banded-streaks | the leaves have white streaks or bands
mycelium-at-dawn | none | no web of fungus shows at dawn
mycelium-at-dawn | white-sparse | a thin white web of fungus shows at dawn
mycelium-at-dawn | white-cottony | a white web of fungus like cotton shows at dawn
mycelium-at-dawn | grey-web | a grey web of fungus shows at dawn
mycelium-at-dawn | pink-salmon | a pink web of fungus shows at dawn
frass | none | there are no insect droppings
frass | green-pellets | there are green insect droppings
frass | sawdust-like | there is fine sawdust in the crowns
insects-seen | none | no insects are in the grass
insects-seen | spittle-or-spittlebugs | there is froth, or there are small hoppers
insects-seen | mites-suspected | there are signs of mites
insects-seen | pearls-on-roots | there are pearls on the roots
insects-seen | scale-crusts | there are crusts of scales on the stems
insects-seen | chinch-like | there are small black-and-white bugs
insects-seen | webbing-tunnels | there are silk-lined tunnels
insects-seen |  | there are {value}
leaf-tip-cut | clean | the mower cuts clean
leaf-tip-cut | frayed | the mower tears the leaf tips
crown-slice | white-moist | the crowns are pale and moist inside
crown-slice | brown-dry | the crowns are brown and dry inside
crown-slice | brown-soft | the crowns are brown and soft inside
crown-slice | mixed | some crowns are sound and some are dead
green-tissue-at-base | yes | there is still green at the base
green-tissue-at-base | no | there is no green left at the base
crowns-alive-percent |  | {value} of the crowns are alive
caterpillar-kind | webworm | the caterpillars are webworms
caterpillar-kind | armyworm | the caterpillars are armyworms
caterpillar-kind | cutworm | the caterpillars are cutworms
caterpillar-kind | unknown | the caterpillars are of no known kind
soil-moisture |  | the soil is {value}
soil-moisture-vwc |  | the soil holds {value} of water
core-moist-depth-mm |  | the soil is moist down to {value}
soil-temp-c |  | the soil is at {value}
soil-temp-healthy-c |  | the soil in a good spot is at {value}
penetration | easy | a screwdriver goes in easily
penetration | firm | a screwdriver goes in with some force
penetration | hard | a screwdriver hardly goes in
penetration-kpa |  | the soil holds {value} against the cone
texture |  | the soil is {value}
layering | none | the soil has no layers
layering | fill-over-clay | there is fill over clay
layering | thin-topsoil | the topsoil is thin
layering | sand-cap | there is sand on top of the soil
root-depth-mm |  | the roots go down {value}
root-colour |  | the roots are {value}
root-condition | intact | the roots are sound
root-condition | chewed-off | the roots are chewed off
root-condition | rotted | the roots are rotted
root-condition | short-stubby | the roots are short and stubby
water-drop-seconds |  | a drop of water stands on the soil for {value}
infiltration-mm-h |  | water sinks in at {value}
soil-smell | earthy | the soil smells as it should
soil-smell | sour | the soil smells sour
soil-smell | chemical | the soil smells of chemicals
surface | normal | the soil surface looks normal
surface | cracked-or-scaled | the soil surface is cracked or scaled
surface | crusted | the soil surface is crusted
surface | algae | there are algae on the soil
surface | bare | the soil is bare
soil-temp-hour |  | the soil was measured at {number} o'clock
core-black-layer | yes | there is a black layer in the soil
core-black-layer | no | there is no black layer in the soil
thatch-mm |  | the thatch is {value} thick
debris | none | the rake brings up nothing
debris | leaf-litter | the rake brings up leaf litter
debris | matted-dead-grass | the rake brings up matted dead grass
debris | stones-or-objects | the rake brings up stones or rubble
pull-test | resists | the turf holds when pulled
pull-test | lifts-like-carpet | the turf lifts like a carpet
pull-test | stems-break-at-crown | the stems break at the crown when pulled
pull-test | shears-at-soil | the turf snaps off at the soil
pull-test | peels-in-rotten-sheets | the turf comes off in rotten mats
pull-test | shoots-slip-from-rotted-sheath | the shoots slip out of a rotted sheath
grubs-per-m2 | 0 | there are no grubs
grubs-per-m2 |  | we counted {figure} grubs {per}
flush-caterpillars-per-m2 | 0 | no caterpillars came up
flush-caterpillars-per-m2 |  | we counted {figure} caterpillars {per}
flush-mole-crickets-per-m2 | 0 | no mole crickets came up
flush-mole-crickets-per-m2 |  | we counted {figure} mole crickets {per}
float-chinch-per-m2 | 0 | no chinch bugs floated up
float-chinch-per-m2 |  | we counted {figure} chinch bugs {per}
billbug-larvae-per-m2 | 0 | there are no billbug larvae
billbug-larvae-per-m2 |  | we counted {figure} billbug larvae {per}
leatherjackets-per-m2 | 0 | there are no leatherjackets
leatherjackets-per-m2 |  | we counted {figure} leatherjackets {per}
grub-depth-mm |  | the grubs are {value} deep
grub-size |  | the grubs are {value}
grub-kind | harmless | the grubs are of a harmless kind
grub-kind | unknown | the grubs are of no known kind
grub-kind |  | the grubs are those of {value}
soil-ph |  | the pH of the soil is {value}
soil-p-ppm |  | the soil has {value} of phosphorus
soil-k-ppm |  | the soil has {value} of potassium
soil-fe-ppm |  | the soil has {value} of iron
soil-organic-matter-percent |  | the soil has {value} of organic matter
soil-ec-ds-m |  | the salts in the soil read {value}
lab-pathogen | none | the laboratory found no disease
lab-pathogen |  | the laboratory found {value}
nematode-count | below-threshold | the laboratory found few nematodes
nematode-count | above-threshold | the laboratory found too many nematodes
catch-can-du |  | the driest quarter gets {percent} of the average water
catch-can-mm-h |  | the sprinklers give {value}
tissue-si-percent |  | the leaves hold {value} of silicon
soil-sar |  | the sodium ratio of the soil is {value}
soil-water-deficit | none | the soil has not run short of water
soil-water-deficit | slight | the soil has been a little short of water
soil-water-deficit | moderate | the soil has been short of water
soil-water-deficit | severe | the soil has been very short of water
drought-endurance-used |  | the grass has stood {percent} of the drought it can take
days-without-5-mm | 0 | it has had good rain
days-without-5-mm |  | it has had no good rain for {value}
heavy-rain-surge | none | there was no heavy rain
heavy-rain-surge | moderate | there was heavy rain
heavy-rain-surge | strong | there was very heavy rain
prolonged-wetness | none | the leaves were not wet for long
prolonged-wetness | moderate | the leaves were wet for long
prolonged-wetness | strong | the leaves were wet for very long
waterlogging-spell | none | the soil was not waterlogged
waterlogging-spell | possible | the soil may have been waterlogged
waterlogging-spell | likely | the soil was waterlogged
heat-spell | none | it has not been hot
heat-spell | moderate | it has been hot
heat-spell | severe | it has been very hot
soil-heat | 0 | the soil was never hot
soil-heat |  | the soil was hot for {value}
soil-temp-class |  | the soil has been {value}
growth-potential |  | the weather allows {percent} of full growth
freeze-after-green-up | none | no frost came after green-up
freeze-after-green-up | light | a light frost came after green-up
freeze-after-green-up | hard | a hard frost came after green-up
deep-cold | none | it was never too cold for this grass
deep-cold | near-limit | it was almost too cold for this grass
deep-cold | past-limit | it was too cold for this grass
winter-drought | none | the winter was not dry
winter-drought | moderate | the winter was dry
winter-drought | strong | the winter was very dry
snow-days | 0 | no snow lay
snow-days |  | snow lay for {value}
green-up-progress | dormant | by the weather it is too early for green-up
green-up-progress | beginning | by the weather green-up is beginning
green-up-progress | under-way | by the weather green-up is under way
green-up-progress | complete | by the weather green-up should be over
disease-window | never-open | the weather was never right for {cause}
disease-window | weak | the weather was hardly right for {cause}
disease-window | open | the weather was right for {cause}
disease-window | strong | the weather was just right for {cause}
insect-window | closed | it is not the season for {cause}
insect-window | opening | the season for {cause} is beginning
insect-window | open | it is the season for {cause}
insect-window | closing | the season for {cause} is ending
forecast-trend | warming | warmer days are coming
forecast-trend | steady | the weather stays as it is
forecast-trend | cooling | cooler days are coming
moisture-against-healthy | drier | it is drier than the good spot
moisture-against-healthy | same | it is as moist as the good spot
moisture-against-healthy | wetter | it is wetter than the good spot
answer-to-water | better | watering helped
answer-to-water | none | watering did not help
answer-to-iron | better | iron helped
answer-to-iron | none | iron did not help
answer-to-nitrogen | better | feeding helped
answer-to-nitrogen | none | feeding did not help
answer-to-insecticide | better | the insecticide helped
answer-to-insecticide | none | the insecticide did not help
answer-to-fungicide | better | the fungicide helped
answer-to-fungicide | none | the fungicide did not help
`

// clauseRows reads them.
func clauseRows() (out []clauseRow) {
	for _, line := range strings.Split(strings.Trim(clauseText, "\n"), "\n") {
		finding, rest, _ := strings.Cut(line, " | ")
		value, says, ok := strings.Cut(rest, " | ")
		if !ok {
			panic("knowledge: no clause: " + line)
		}
		out = append(out, clauseRow{finding, value, says})
	}
	return out
}

// Clause says an answer as what was found: "the turf lifts like a carpet". id carries the cause for findings kept once a cause. An answer
// without a row is named with its value.
func Clause(f *Finding, id string, v Value, say units.Saying) string {
	base, cause, _ := strings.Cut(id, ":")
	about := ""
	if c, ok := CauseByID(cause); ok {
		about = LowerFirst(c.Label)
	}
	fill := func(says, value string, x float64) string {
		says = strings.ReplaceAll(strings.ReplaceAll(says, "{cause}", about), "{percent}", strconv.Itoa(int(math.Round(x*100)))+" %")
		says = strings.ReplaceAll(says, "{number}", strconv.FormatFloat(math.Round(x*10)/10, 'f', -1, 64))
		figure, per, _ := strings.Cut(value, " ")
		says = strings.ReplaceAll(strings.ReplaceAll(says, "{figure}", figure), "{per}", per)
		return strings.ReplaceAll(says, "{value}", value)
	}
	one := func(value string) (string, bool) {
		says, ok := clauseOf(base, value)
		return fill(says, said(f, value), 0), ok
	}
	text, ok := "", false
	switch {
	case v.Number != nil:
		says, known := "", false
		if *v.Number == 0 {
			says, known = clauseOf(base, "0")
		}
		if !known {
			says, known = clauseOf(base, "")
		}
		text, ok = fill(says, counted(say.Figure(*v.Number, f.Measure()), *v.Number), *v.Number), known
	case v.Yes != nil && *v.Yes:
		text, ok = one("yes")
	case v.Yes != nil:
		text, ok = one("no")
	case v.List != nil:
		text, ok = listed(f, base, v.List, fill)
	default:
		if text, ok = one(v.Word); !ok {
			says, known := clauseOf(base, "")
			text, ok = fill(says, said(f, v.Word), 0), known
		}
	}
	if !ok {
		return InWords(f, id, v, say)
	}
	return text
}

// listed says the words of a list, those without a row of their own together.
func listed(f *Finding, base string, list []string, fill func(says, value string, x float64) string) (string, bool) {
	if len(list) == 0 {
		says, ok := clauseOf(base, "none")
		return says, ok
	}
	var parts, rest []string
	for _, w := range list {
		if says, ok := clauseOf(base, w); ok {
			parts = append(parts, says)
		} else {
			rest = append(rest, said(f, w))
		}
	}
	if len(rest) > 0 {
		says, ok := clauseOf(base, "")
		if !ok {
			return "", false
		}
		parts = append(parts, fill(says, And(rest), 0))
	}
	return And(parts), true
}

// counted is a figure in words of time as one says it: "1 day".
func counted(text string, x float64) string {
	if x == 1 && (strings.HasSuffix(text, " days") || strings.HasSuffix(text, " hours") || strings.HasSuffix(text, " seconds")) {
		return strings.TrimSuffix(text, "s")
	}
	return text
}

// And joins words as one says them: "straw, brown and black".
func And(items []string) string {
	if len(items) < 2 {
		return strings.Join(items, "")
	}
	return strings.Join(items[:len(items)-1], ", ") + " and " + items[len(items)-1]
}

func clauseOf(finding, value string) (string, bool) {
	says, ok := clauses[[2]string{finding, value}]
	return says, ok
}

var clauses = func() map[[2]string]string {
	out := map[[2]string]string{}
	for _, r := range clauseRows() {
		out[[2]string{r.finding, r.value}] = r.says
	}
	return out
}()
