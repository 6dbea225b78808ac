// Package budget adds up what a zone has been given in the year that counts, what is planned, what is still to be released, and what is
// left of what grass, law and labels bear.
package budget

import (
	"math"
	"sort"
	"time"

	"hodos/core/clearance"
	"hodos/core/dose"
	"hodos/core/turf"
)

// Given is one application, past or planned. Amounts are g/m².
type Given struct {
	Day       time.Time
	Nutrients map[string]float64
	Actives   map[string]float64
	WaterMM   float64
	Release   string  // of the nitrogen: a key of dose.Tau, or ""
	Slow      float64 // per cent of the nitrogen that is released slowly
	Days      float64 // of a polymer coat
}

// Input is what a budget is made of.
type Input struct {
	Today    time.Time
	Latitude float64
	Grasses  []string
	Past     []Given
	Planned  []Given
	Rules    []clearance.Rule   // those that hold at the place
	Place    string             // by whose law
	Labels   map[string]float64 // most of an active a season by the labels on the shelf, g/m²
	SoilP    *float64           // mg/kg of the test
	SoilK    *float64
	Soil     func(time.Time) (float64, bool) // mean of the day at 50 mm, °C
}

// Month is what a month of the year had, and what is planned in it, g N/m².
type Month struct {
	First          time.Time
	Given, Planned float64
}

// Row is one line of the budget. Most is NaN where nobody sets one; Least is what the grass needs at least.
type Row struct {
	ID, By               string // By: grass, law, label, test
	Rule                 string // name of the rule
	Given, Planned, Most float64
	Least                float64
	Left                 float64 // of the most, after what is planned
	From                 time.Time
	Over                 bool
}

// Budget is the whole of it.
type Budget struct {
	From   time.Time
	Months []Month
	Rows   []Row
	Coming float64 // nitrogen still to be released, g/m²
	Soon   float64 // of that in the next 21 days at the soil of today
	Water  float64 // given this year, mm
}

// Of makes the budget.
func Of(in Input) Budget {
	b := Budget{From: yearStart("season", in.Today, in.Latitude)}
	for m := range 12 {
		first := b.From.AddDate(0, m, 0)
		month := Month{First: first}
		end := first.AddDate(0, 1, 0)
		for _, g := range in.Past {
			if !g.Day.Before(first) && g.Day.Before(end) {
				month.Given += g.Nutrients["n"]
			}
		}
		for _, g := range in.Planned {
			if !g.Day.Before(first) && g.Day.Before(end) {
				month.Planned += g.Nutrients["n"]
			}
		}
		b.Months = append(b.Months, month)
	}
	b.grass(in)
	b.law(in)
	b.labels(in)
	b.coming(in)
	for _, g := range in.Past {
		if !g.Day.Before(b.From) {
			b.Water += g.WaterMM
		}
	}
	return b
}

// yearStart is the first day of the year in which a rule counts: that of the calendar, twelve months back, or July in the south.
func yearStart(kind string, today time.Time, latitude float64) time.Time {
	switch {
	case kind == "rolling":
		return today.AddDate(-1, 0, 1)
	case kind == "season" && latitude < 0:
		y := today.Year()
		if today.Month() < time.July {
			y--
		}
		return time.Date(y, time.July, 1, 0, 0, 0, 0, time.UTC)
	}
	return time.Date(today.Year(), time.January, 1, 0, 0, 0, 0, time.UTC)
}

func sum(list []Given, from, to time.Time, get func(Given) float64) (x float64) {
	for _, g := range list {
		if !g.Day.Before(from) && g.Day.Before(to) {
			x += get(g)
		}
	}
	return x
}

func nutrient(id string) func(Given) float64 { return func(g Given) float64 { return g.Nutrients[id] } }

func (b *Budget) add(in Input, r Row, rolling bool, get func(Given) float64) {
	to := r.From.AddDate(1, 0, 0)
	if in.Today.AddDate(0, 0, 1).After(to) {
		to = in.Today.AddDate(0, 0, 1)
	}
	r.Given, r.Planned = sum(in.Past, r.From, to, get), sum(in.Planned, in.Today, to, get)
	r.Left = math.NaN()
	if !math.IsNaN(r.Most) {
		r.Left = r.Most - r.Given - r.Planned
		if rolling {
			r.Left = r.Most - math.Max(r.Given, peak(in, get))
		}
		r.Over = r.Left < -.005*r.Most
	}
	b.Rows = append(b.Rows, r)
}

// peak is the most that any twelve months up to a planned day come to.
func peak(in Input, get func(Given) float64) (most float64) {
	for _, p := range in.Planned {
		from, to := p.Day.AddDate(-1, 0, 1), p.Day.AddDate(0, 0, 1)
		most = math.Max(most, sum(in.Past, from, to, get)+sum(in.Planned, from, to, get))
	}
	return most
}

// Yearly needs of the other nutrients by soil test: none where the test is at or over the minimum (Mehlich-3, see the amounts).
const minP, minK = 21.0, 37.0

func (b *Budget) grass(in Input) {
	low, high := math.Inf(1), 0.0
	for _, id := range in.Grasses {
		if g, ok := turf.ByID(id); ok && g.Nitrogen.Known() {
			low, high = math.Min(low, g.Nitrogen.Low), math.Max(high, g.Nitrogen.High)
		}
	}
	if high > 0 {
		b.add(in, Row{ID: "n", By: "grass", Most: high, Least: low, From: b.From}, false, nutrient("n"))
	}
	for id, x := range map[string]struct {
		test *float64
		min  float64
		most float64
	}{"p": {in.SoilP, minP, 2.13 * 2}, "k": {in.SoilK, minK, 12}} {
		most := math.NaN()
		if x.test != nil {
			most = 0
			if *x.test < x.min {
				most = math.Min(x.most, (x.min-*x.test)*.15)
			}
		}
		b.add(in, Row{ID: id, By: "test", Most: most, From: b.From}, false, nutrient(id))
	}
	b.add(in, Row{ID: "fe", By: "grass", Most: math.NaN(), From: b.From}, false, nutrient("fe"))
	sort.SliceStable(b.Rows, func(i, j int) bool { return order[b.Rows[i].ID] < order[b.Rows[j].ID] })
}

var order = map[string]int{"n": 0, "p": 1, "k": 2, "fe": 3}

func (b *Budget) law(in Input) {
	for _, r := range in.Rules {
		if r.What != "most-a-year" || (r.Place != "" && r.Place != in.Place) {
			continue
		}
		id := "n"
		for _, c := range r.Covers {
			if c == "phosphorus" {
				id = "p"
			}
		}
		b.add(
			in,
			Row{ID: id, By: "law", Rule: r.Name, Most: r.Amount, From: yearStart(r.Year, in.Today, in.Latitude)},
			r.Year == "rolling",
			nutrient(id),
		)
	}
}

func (b *Budget) labels(in Input) {
	names := map[string]bool{}
	for _, list := range [][]Given{in.Past, in.Planned} {
		for _, g := range list {
			for a := range g.Actives {
				names[a] = true
			}
		}
	}
	var sorted []string
	for n := range names {
		sorted = append(sorted, n)
	}
	sort.Strings(sorted)
	for _, n := range sorted {
		most, ok := in.Labels[n]
		if !ok || most <= 0 {
			most = math.NaN()
		}
		b.add(in, Row{ID: n, By: "label", Most: most, From: b.From}, false, func(g Given) float64 { return g.Actives[n] })
	}
}

// pace is how much a day counts of one at 25 °C.
func pace(soilC float64) float64 { return math.Exp2((soilC - 25) / 10) }

// coming is the nitrogen that former feedings still release, by the warmth of the soil since.
func (b *Budget) coming(in Input) {
	now := 15.0 // judgement: where no soil is known
	if t, ok := in.Soil(in.Today); ok {
		now = t
	}
	for _, g := range in.Past {
		n := g.Nutrients["n"]
		if n <= 0 || in.Today.Sub(g.Day) > 400*24*time.Hour {
			continue
		}
		days := 0.0
		for d := g.Day; d.Before(in.Today); d = d.AddDate(0, 0, 1) {
			t, ok := in.Soil(d)
			if !ok {
				t = now
			}
			days += pace(t)
		}
		slow := g.Slow / 100
		if g.Release != "" && g.Release != "quick" && slow == 0 {
			slow = 1
		}
		for _, part := range []struct{ n, tau float64 }{{n * (1 - slow), dose.Tau["quick"]}, {n * slow, tau(g)}} {
			left := part.n * math.Exp(-days/part.tau)
			b.Coming += left
			b.Soon += left * (1 - math.Exp(-21*pace(now)/part.tau))
		}
	}
}

func tau(g Given) float64 {
	if g.Release == "polymer" && g.Days > 0 {
		return g.Days / 1.6
	}
	if t, ok := dose.Tau[g.Release]; ok && g.Release != "quick" {
		return t
	}
	return dose.Tau["methylene"]
}
