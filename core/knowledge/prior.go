package knowledge

import (
	"math"
	"strings"

	"hodos/core/turf"
)

// placeRow multiplies the odds of a cause on a family of grass between two latitudes (degrees, whatever the hemisphere), where what it
// needs is rarer or commoner than where the bases stand for. Where a firm has climates of its own, they will go before.
type placeRow struct {
	cause, family string
	from, to      float64
	factor        float64
}

// placeRows: judgement.
var placeRows = []placeRow{
	{"dollar-spot", "CW", 55, 90, .5},
	{"brown-patch", "CW", 48, 90, .3},
	{"brown-patch", "CW", 0, 38, 1.3},
	{"leaf-spot", "C", 50, 90, .6},
	{"melting-out", "CW", 0, 35, .6},
	{"gray-leaf-spot", "C", 45, 90, .1},
	{"gray-leaf-spot", "W", 0, 31, 1.5},
	{"pythium-blight", "CW", 45, 90, .2},
	{"red-thread", "CW", 48, 90, 1.8},
	{"red-thread", "CW", 0, 35, .5},
	{"anthracnose", "CW", 50, 90, .6},
	{"necrotic-ring-spot", "CW", 0, 36, .3},
	{"summer-patch", "CW", 48, 90, .3},
	{"summer-patch", "CW", 0, 40, 1.3},
	{"take-all-root-rot", "W", 0, 32, 1.5},
	{"take-all-root-rot", "C", 45, 90, 1.5},
	{"spring-dead-spot", "CW", 0, 31, .02},
	{"spring-dead-spot", "CW", 31, 33, .3},
	{"spring-dead-spot", "CW", 36, 40, 1.3},
	{"gray-snow-mold", "CW", 0, 37, .05},
	{"gray-snow-mold", "CW", 37, 41, .4},
	{"pink-snow-mold", "CW", 0, 35, .3},
	{"pink-snow-mold", "CW", 48, 90, 1.8},
	{"turf-mosaic-virus", "CW", 31, 90, .2},
	{"white-grubs", "CW", 50, 90, .6},
	{"chinch-bugs", "W", 0, 31, 1.5},
	{"chinch-bugs", "CW", 50, 90, .1},
	{"sod-webworms", "W", 0, 31, 1.5},
	{"armyworms", "CW", 45, 90, .1},
	{"mole-crickets", "CW", 0, 31, 1.5},
	{"mole-crickets", "CW", 36, 90, .1},
	{"crane-fly-larvae", "CW", 0, 43, .15},
	{"crane-fly-larvae", "CW", 48, 90, 2.5},
	{"spittlebugs", "CW", 36, 90, .1},
	{"ground-pearls", "CW", 34, 90, .2},
	{"scale-insects", "CW", 36, 90, .3},

	{"vole-runways", "CW", 0, 36, .2},
	{"winter-dormancy", "W", 0, 28, .4},
	{"winter-crown-kill", "W", 0, 29, .2},
	{"winter-desiccation", "CW", 0, 35, .4},
	{"heat-stress", "C", 50, 90, .5},
	{"moss-invasion", "CW", 48, 90, 1.8},
	{"moss-invasion", "CW", 0, 35, .5},
}

const (
	homeLatitude  = 39.0 // the latitude that the months stand for
	degreesAMonth = 8.0  // so far poleward spring comes a month later, and autumn a month earlier (judgement)
	tropics       = 15.0 // nearer to the equator than this no month tells
	rareMonth     = .03  // what a month in which a cause is hardly seen leaves of the odds (judgement)
	hardMonth     = .6   // the same, place and month together, where a fact proves it: neither makes a proof worthless (judgement)
	minorShare    = .6   // a minor part of a mix carries less of the stand (judgement)
	otherFamily   = .6   // a grass that nobody knows (judgement)
	unnamedHost   = .3   // the same of a cause that single grasses have alone (judgement)
)

// glanceRows: what anybody who walks the zone sees at a glance. Where the walk was made and nobody wrote it down, it is most likely not
// there.
var glanceRows = []struct{ cause, finding string }{
	{"animal-digging", "animal-digging"},
	{"moss-invasion", "moss-cover-percent"},
	{"weed-invasion", "weed-cover-percent"},
	{"seed-heads", "seed-heads"},
}

// Unseen is what is left of the odds of what would have been seen (judgement).
const Unseen = .3

// Glance is what the walk leaves of the odds: what would have been seen at a glance and was not written down.
func (c *Cause) Glance(known map[string]Value) float64 {
	for _, r := range glanceRows {
		if r.cause != c.ID {
			continue
		}
		if _, told := known[r.finding]; told {
			return 1
		}
		at, _ := findFinding(r.finding)
		for id := range known {
			if f, ok := FindingByID(id); ok && f.Procedure == at.Procedure {
				return Unseen
			}
		}
	}
	return 1
}

// Odds are those of a cause on a lawn before anything is found, from grass, season and watering; 0 for a cause that cannot
// occur there or is not known.
func Odds(cause string, l Lawn) float64 {
	i, ok := CauseAt[cause]
	if !ok {
		return 0
	}
	return Prior(&CauseTable[i], l, nil)
}

// Prior is the odds of a cause before it is weighed, from grass, season, place and watering. A cause that cannot occur has odds 0.
// What is known serves one end: a season does not speak against what is proved.
func Prior(c *Cause, l Lawn, known map[string]Value) float64 {
	odds := c.OnGrass(l) * math.Max(c.InSeason(l)*c.AtPlace(l), leastSeason(c, known)) * c.Glance(known)
	if l.Irrigated != nil && !*l.Irrigated && c.Unwatered > 0 {
		odds *= c.Unwatered
	}
	if l.Irrigated != nil && *l.Irrigated && c.Watered > 0 {
		odds *= c.Watered
	}
	return odds
}

// OnGrass is the base on the grasses of a lawn, the highest of a mix.
func (c *Cause) OnGrass(l Lawn) (odds float64) {
	for rank, id := range l.Species {
		s, _ := turf.ByID(id)
		o := c.Base / 100
		switch {
		case s.Family == turf.Cool && !strings.Contains(c.Turf, "C"), s.Family == turf.Warm && !strings.Contains(c.Turf, "W"):
			continue
		case s.Family != turf.Cool && s.Family != turf.Warm:
			o *= otherFamily
		}
		switch m, ok := c.Hosts[id]; {
		case ok:
			o *= m
		case c.OnlyHosts && id != "unknown":
			continue
		case c.OnlyHosts:
			o *= unnamedHost
		}
		if rank > 0 {
			o *= minorShare
		}
		odds = math.Max(odds, o)
	}
	return odds
}

// InSeason is what the month leaves of the odds: spring comes later and autumn earlier toward the pole, and near the equator no month
// tells.
func (c *Cause) InSeason(l Lawn) float64 {
	months := c.Months
	if c.MonthsW != "" && IsWarm(l) {
		months = c.MonthsW
	}
	weight := func(month int) float64 {
		return math.Max(float64(months[(month+11)%12]-'0')/9, rareMonth)
	}
	latitude := math.Abs(l.Latitude)
	if latitude < tropics {
		sum := 0.0
		for m := 1; m <= 12; m++ {
			sum += weight(m) / 12
		}
		return sum
	}
	month := float64(SeasonMonth(l))
	shift := math.Max(-1, math.Min(1, (latitude-homeLatitude)/degreesAMonth))
	if month >= 2 && month <= 7 {
		shift = -shift
	}
	at := month + shift
	low := math.Floor(at)
	return weight(int(low))*(1-at+low) + weight(int(low)+1)*(at-low)
}

// leastSeason is what any season and place leaves of the odds of a cause that a fact proves: named by the laboratory, or its own reading.
func leastSeason(c *Cause, known map[string]Value) float64 {
	for id, v := range known {
		if f, ok := FindingByID(id); ok && f.Kind == CauseOrNone && v.Word == c.ID {
			return hardMonth
		}
		if at := Owner(id, v); at >= 0 && CauseTable[at].ID == c.ID {
			return hardMonth
		}
	}
	return 0
}

// AtPlace is what the latitude makes of the odds.
func (c *Cause) AtPlace(l Lawn) float64 {
	f, family, latitude := 1.0, "C", math.Abs(l.Latitude)
	if IsWarm(l) {
		family = "W"
	}
	for _, r := range placeRows {
		if r.cause == c.ID && strings.Contains(r.family, family) && latitude >= r.from && latitude < r.to {
			f *= r.factor
		}
	}
	return f
}
