package knowledge

import (
	"math"
	"strconv"
	"strings"

	"hodos/core/weather"
)

// riskRow is how often a disease breaks out after its weather was never, weakly, plainly and strongly open, against plainly: judgement.
type riskRow struct {
	cause                     string
	never, weak, open, strong float64
}

var RiskRows = []riskRow{
	{"dollar-spot", .05, .4, 1, 1.6},
	{"brown-patch", .06, .4, 1, 1.8},
	{"large-patch", .12, .5, 1, 1.5},
	{"leaf-spot", .12, .5, 1, 1.5},
	{"melting-out", .12, .5, 1, 1.5},
	{"gray-leaf-spot", .06, .4, 1, 2},
	{"pythium-blight", .02, .3, 1, 2},
	{"rust", .25, .6, 1, 1.3},
	{"red-thread", .12, .5, 1, 1.6},
	{"powdery-mildew", .3, .6, 1, 1.3},
	{"anthracnose", .4, .7, 1, 1.2},
	{"necrotic-ring-spot", .4, .8, 1, 1},
	{"summer-patch", .1, .5, 1, 1.6},
	{"take-all-root-rot", .4, .8, 1, 1.1},
	{"spring-dead-spot", .02, .4, 1, 1.5},
	{"gray-snow-mold", .03, .4, 1, 1.6},
	{"pink-snow-mold", .1, .5, 1, 1.5},
	{"slime-mold", .15, .6, 1, 1.4},
	{"pythium-root-rot", .5, .8, 1, 1.3},
}

// shareRow is how often lawns without the disease show each grade of its weather in the months in which it is looked for, per cent,
// never/weak/open/strong, in eight climates: measured by running the rule over 25 synthetic years of each; "" where it was not run.
type shareRow struct {
	cause, family string
	climates      [8]string
}

// The climates, in the order of the columns: cold inland with snow, inland, transition, warm inland, humid south, maritime, warm coast,
// subtropical coast.
var ClimateNames = [8]string{"N46", "N40", "N36", "N33", "N29", "N52", "S34", "S27"}

var shareRows = []shareRow{
	{"dollar-spot", "C", [8]string{"27/12/58/3", "17/6/57/21", "5/6/30/58", "5/5/27/62", "", "22/17/60/2", "11/13/68/7", ""}},
	{"dollar-spot", "W", [8]string{"", "30/8/47/15", "19/7/31/43", "17/7/30/46", "0/2/23/74", "", "20/15/60/5", "15/10/58/17"}},
	{"brown-patch", "CW", [8]string{"56/32/11/1", "21/41/26/12", "7/9/34/50", "3/11/30/56", "", "52/40/6/1", "25/51/23/1", ""}},
	{"large-patch", "CW", [8]string{"", "18/49/32/1", "14/48/37/1", "21/33/45/1", "42/37/21/0", "", "10/19/50/21", "18/31/50/1"}},
	{"leaf-spot", "C", [8]string{"13/19/55/13", "3/9/62/26", "0/2/41/58", "0/4/56/40", "", "38/45/16/0", "49/43/8/0", ""}},
	{"leaf-spot", "W", [8]string{"", "51/23/23/3", "27/26/41/5", "19/33/46/2", "8/28/54/10", "", "68/28/4/0", "54/39/7/0"}},
	{"melting-out", "CW", [8]string{"63/19/18/0", "36/26/36/2", "21/42/36/1", "21/46/33/0", "", "25/35/39/1", "97/3/0/0", ""}},
	{"gray-leaf-spot", "C", [8]string{"68/23/9/0", "50/24/23/3", "28/12/31/29", "26/14/32/29", "", "90/9/1/0", "67/27/7/0", ""}},
	{"gray-leaf-spot", "W", [8]string{"", "26/31/38/5", "10/19/39/33", "8/14/39/40", "0/0/6/93", "", "74/22/4/0", "40/38/21/0"}},
	{"pythium-blight", "C", [8]string{"83/14/3/0", "56/31/13/0", "15/31/26/28", "11/23/30/36", "", "90/8/1/0", "65/27/8/0", ""}},
	{"pythium-blight", "W", [8]string{"", "48/35/16/0", "14/29/27/31", "11/20/25/44", "0/3/9/88", "", "67/24/9/0", "48/42/9/1"}},
	{"rust", "C", [8]string{"14/10/64/13", "5/8/76/11", "0/12/69/19", "10/24/61/5", "", "19/32/48/1", "59/37/4/0", ""}},
	{"rust", "W", [8]string{"", "37/17/42/3", "17/21/51/11", "12/27/57/4", "4/19/69/9", "", "71/26/3/0", "50/38/12/0"}},
	{"red-thread", "CW", [8]string{"58/30/12/0", "34/42/24/0", "20/52/28/0", "20/60/20/0", "", "31/35/33/2", "89/11/0/0", ""}},
	{"powdery-mildew", "CW", [8]string{"47/20/30/3", "37/27/34/2", "31/30/37/2", "48/33/20/0", "", "19/15/40/26", "58/30/12/0", ""}},
	{"anthracnose", "CW", [8]string{"7/10/41/42", "2/2/16/80", "0/0/3/97", "0/0/7/92", "", "54/27/18/1", "73/22/5/0", ""}},
	{"necrotic-ring-spot", "CW", [8]string{"46/26/28/0", "34/42/23/1", "10/59/30/0", "6/60/34/0", "", "42/36/22/0", "0/1/96/3", ""}},
	{"summer-patch", "CW", [8]string{"27/48/22/3", "13/32/44/10", "9/22/48/22", "7/16/52/24", "", "97/3/0/0", "12/47/37/4", ""}},
	{"take-all-root-rot", "C", [8]string{"74/24/2/0", "18/66/16/0", "0/20/78/2", "0/9/88/4", "", "0/6/82/12", "8/49/43/0", ""}},
	{"take-all-root-rot", "W", [8]string{"", "43/23/33/1", "22/63/15/0", "25/61/14/0", "50/37/13/0", "", "0/25/75/0", "38/29/33/0"}},
	{"spring-dead-spot", "CW", [8]string{"", "0/0/0/100", "0/0/100/0", "0/50/50/0", "100/0/0/0", "", "4/96/0/0", "92/8/0/0"}},
	{"gray-snow-mold", "CW", [8]string{"0/3/32/65", "1/43/55/1", "100/0/0/0", "100/0/0/0", "", "100/0/0/0", "100/0/0/0", ""}},
	{"pink-snow-mold", "CW", [8]string{"2/15/24/58", "4/23/34/38", "28/58/15/0", "39/55/5/0", "", "0/8/76/16", "99/1/0/0", ""}},
	{"slime-mold", "CW", [8]string{"26/31/22/21", "21/29/25/26", "17/26/29/29", "13/31/26/30", "6/14/19/61", "51/30/15/4", "15/31/28/26", "7/14/31/49"}},
	{"pythium-root-rot", "C", [8]string{"94/5/1/0", "77/17/5/0", "64/28/8/0", "49/29/22/0", "", "90/10/0/0", "78/21/1/0", ""}},
	{"pythium-root-rot", "W", [8]string{"", "69/25/6/0", "60/31/9/0", "63/26/11/0", "52/27/19/2", "", "74/20/6/0", "61/24/15/0"}},
}

const (
	leastShare = .01 // of a grade, whatever was run
	windowGrip = .995
	maritime   = 6.5 // °C: half the swing of a year's air under which a place is maritime (judgement)
)

// weatherOf are what a disease, and a lawn without it, show of the grades of its weather, by family of grass and climate.
type weatherOf struct{ Cause, Without [2][8]*Dist }

// disease windows by cause.
var WeatherOfCause = map[string]*weatherOf{}

func compileWindows() {
	risks := map[string][4]float64{}
	for _, r := range RiskRows {
		mustCause(r.cause)
		risks[r.cause] = [4]float64{r.never, r.weak, r.open, r.strong}
	}
	for _, r := range shareRows {
		risk, ok := risks[r.cause]
		if !ok {
			panic("diagnosis: no risk of " + r.cause)
		}
		w := WeatherOfCause[r.cause]
		if w == nil {
			w = &weatherOf{}
			WeatherOfCause[r.cause] = w
		}
		for t, family := range []string{"C", "W"} {
			if !strings.Contains(r.family, family) {
				continue
			}
			for c := range r.climates {
				w.set(t, c, sharesOf(nearest(r.climates, c)), risk)
			}
		}
	}
}

// nearest is the column of a climate, or of the nearest one that was run.
func nearest(columns [8]string, c int) string {
	for _, at := range [8][8]int{
		{0, 1, 2, 5, 3, 6, 4, 7}, {1, 0, 2, 3, 5, 6, 4, 7}, {2, 1, 3, 4, 0, 6, 5, 7}, {3, 2, 4, 6, 1, 7, 5, 0},
		{4, 7, 3, 6, 2, 1, 5, 0}, {5, 6, 1, 0, 2, 3, 7, 4}, {6, 7, 3, 5, 2, 4, 1, 0}, {7, 4, 6, 3, 2, 1, 5, 0},
	}[c] {
		if columns[at] != "" {
			return columns[at]
		}
	}
	panic("diagnosis: a disease's weather was run nowhere")
}

// sharesOf reads the four grades of a column, none of them nought, adding up to 1.
func sharesOf(column string) (out [4]float64) {
	words, sum := strings.Split(column, "/"), 0.0
	for i := range out {
		x, err := strconv.ParseFloat(words[i], 64)
		if err != nil || len(words) != len(out) {
			panic("diagnosis: no shares: " + column)
		}
		out[i] = math.Max(x/100, leastShare)
		sum += out[i]
	}
	for i := range out {
		out[i] /= sum
	}
	return out
}

// set works out what the disease shows: a grade is as much likelier with it as its risk is over the mean risk of the place, so that
// over lawns without it the evidence is one on average, and a grade that is usual there says nothing.
func (w *weatherOf) set(turf, climate int, share, risk [4]float64) {
	mean := 0.0
	for i := range share {
		mean += share[i] * risk[i]
	}
	with, without := &Dist{Grip: windowGrip, P: make([]float64, 4)}, &Dist{Grip: 1, P: make([]float64, 4)}
	for i := range share {
		without.P[i], with.P[i] = share[i], share[i]*risk[i]/mean
	}
	w.Cause[turf][climate], w.Without[turf][climate] = with, without
}

// ClimateOf is the climate whose shares stand for a lawn: by the latitude, and by the normals of the place where they are known.
func ClimateOf(l Lawn) int {
	latitude, south := math.Abs(l.Latitude), l.Latitude < 0
	place, known := weather.ClimateOf(l.Normals, l.Latitude)
	switch {
	case latitude >= 49, known && latitude >= 38 && place.Swing <= maritime:
		return 5
	case latitude >= 43:
		return 0
	case south && latitude >= 30.5:
		return 6
	case south:
		return 7
	case latitude >= 38:
		return 1
	case latitude >= 34.5:
		return 2
	case latitude >= 31:
		return 3
	}
	return 4
}

// Dist is what a cause says of a finding on a family of grass; nil where it says nothing.
func (cf *Table) Dist(cause, turf, climate int) *Dist {
	if cf.weather != nil && CauseTable[cause].ID == cf.weatherCause {
		if d := cf.weather.Cause[turf][climate]; d != nil {
			return d
		}
	}
	return cf.ByCause[cause][turf]
}

// Without is what a finding shows where no cause sets it.
func (cf *Table) Without(turf, climate int) *Dist {
	if cf.weather != nil {
		if d := cf.weather.Without[turf][climate]; d != nil {
			return d
		}
	}
	return &cf.Background
}
