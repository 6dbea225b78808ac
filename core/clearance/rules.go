package clearance

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"hodos/core/turf"
)

// Rule is a local rule, as the firm has entered it.
type Rule struct {
	Name    string   `json:"name" minLength:"1" maxLength:"120"`
	Place   string   `json:"place" maxLength:"60" doc:"where it holds; empty for everywhere the firm works"`
	What    string   `json:"what" maxLength:"30" doc:"what it is about: one of Whats"`
	Covers  []string `json:"covers,omitempty" maxItems:"12" nullable:"false" doc:"nitrogen, phosphorus, fertilizer, pesticide or a kind of it"`
	From    string   `json:"from,omitempty" maxLength:"5" doc:"MM-DD, first day"`
	To      string   `json:"to,omitempty" maxLength:"5" doc:"MM-DD, last day"`
	Amount  float64  `json:"amount,omitempty" minimum:"0" maximum:"100000" doc:"g/m², m, hours, mm or m/s, by what the rule is about"`
	Year    string   `json:"year,omitempty" enum:",calendar,rolling,season" doc:"the year that a yearly most counts in"`
	Days    []string `json:"days,omitempty" maxItems:"7" nullable:"false" doc:"mon … sun on which watering is allowed"`
	Hours   []int    `json:"hours,omitempty" maxItems:"2" nullable:"false" doc:"from and to, full hours in which watering is allowed"`
	Source  string   `json:"source,omitempty" maxLength:"300" doc:"where the rule stands"`
	ValidTo string   `json:"valid_to,omitempty" maxLength:"10" doc:"YYYY-MM-DD, the last day"`
}

// Whats are the things that a rule may be about.
var Whats = []string{
	"blackout",
	"most-at-once",
	"most-a-year",
	"phosphorus-test",
	"watering-days",
	"posting",
	"notice",
	"buffer",
	"rain",
	"wind",
	"frozen",
	"locate",
}

var weekdays = []string{"sun", "mon", "tue", "wed", "thu", "fri", "sat"}

// Check names what is wrong with a rule, by field.
func (r Rule) Check() map[string]string {
	wrong := map[string]string{}
	if strings.TrimSpace(r.Name) == "" {
		wrong["name"] = "is missing"
	}
	if !slices.Contains(Whats, r.What) {
		wrong["what"] = "is none of " + strings.Join(Whats, ", ")
	}
	for field, d := range map[string]string{"from": r.From, "to": r.To} {
		if _, err := time.Parse("2006-01-02", "2024-"+d); (d != "" || r.What == "blackout") && err != nil {
			wrong[field] = "is not a day of the year (MM-DD)"
		}
	}
	switch r.What {
	case "most-at-once", "most-a-year", "notice", "buffer", "wind":
		if r.Amount <= 0 {
			wrong["amount"] = "is missing"
		}
	case "watering-days":
		if len(r.Days) == 0 && len(r.Hours) == 0 {
			wrong["days"] = "name the days or the hours"
		}
	}
	for _, d := range r.Days {
		if !slices.Contains(weekdays, d) {
			wrong["days"] = d + " is no weekday: mon, tue, wed, thu, fri, sat, sun"
		}
	}
	if len(r.Hours) != 0 && (len(r.Hours) != 2 || r.Hours[0] < 0 || r.Hours[1] > 24 || r.Hours[0] == r.Hours[1]) {
		wrong["hours"] = "are two full hours of the day"
	}
	return wrong
}

// holds reports whether a rule is about this job's place and day.
func (r Rule) holds(place string, at time.Time) bool {
	if r.ValidTo != "" && at.Format(time.DateOnly) > r.ValidTo {
		return false
	}
	return r.Place == "" || strings.EqualFold(r.Place, place)
}

// covers reports whether a rule is about what the job puts down.
func (c *check) covers(r Rule) bool {
	is := map[string]bool{"nitrogen": c.N > 0, "phosphorus": c.P > 0, "fertilizer": c.feeds(), "pesticide": c.pesticide(), "water": c.Water}
	if c.Product != nil {
		is[c.Product.Kind] = true
	}
	if len(r.Covers) == 0 {
		return c.feeds() || c.pesticide()
	}
	for _, x := range r.Covers {
		if is[x] {
			return true
		}
	}
	return false
}

// within reports whether a day of the year lies in a span that may go over the new year.
func within(at time.Time, from, to string) bool {
	d := at.Format("01-02")
	if from <= to {
		return from <= d && d <= to
	}
	return d >= from || d <= to
}

// laws asks the local rules.
func (c *check) laws() {
	for _, r := range c.Rules {
		if !r.holds(c.Lawn.Place, c.At) {
			continue
		}
		switch r.What {
		case "blackout":
			c.blackout(r)
		case "most-at-once":
			c.atOnce(r)
		case "most-a-year":
			c.aYear(r)
		case "phosphorus-test":
			c.phosphorus(r)
		case "watering-days":
			c.watering(r)
		case "posting", "notice":
			c.telling(r)
		case "buffer":
			if c.covers(r) && c.Lawn.WaterM != nil && *c.Lawn.WaterM < r.Amount {
				c.stop(
					"law-buffer",
					Law,
					r.Name,
					fmt.Sprintf("it is %g m to water, and %g m are kept", *c.Lawn.WaterM, r.Amount),
					"leave the strip out",
					nil,
				)
			} else if c.covers(r) && c.Lawn.WaterM == nil {
				c.strictest("buffer", fmt.Sprintf("Keep %g m from water, wells and drains (%s).", r.Amount, r.Name), r.Amount)
			}
		case "rain":
			c.heavyRain(r)
		case "wind":
			if c.covers(r) && c.Product != nil && c.Product.Sprayed() {
				c.hours("law-wind", Law, r.Name, func(h Hour, _ int) string {
					if h.Wind != nil && *h.Wind > r.Amount {
						return fmt.Sprintf("the wind of %.1f m/s is over %g", *h.Wind, r.Amount)
					}
					return ""
				}, "the wind falls")
			}
		case "frozen":
			if c.covers(r) && (c.Lawn.Frozen || c.Lawn.Saturated) {
				c.stop("law-frozen", Law, r.Name, "nothing goes on frozen or waterlogged ground", "it has thawed and drained", nil)
			}
		}
	}
	c.locate()
}

func (c *check) blackout(r Rule) {
	if !c.covers(r) || !within(c.At, r.From, r.To) {
		return
	}
	to, _ := time.Parse("2006-01-02", fmt.Sprintf("%d-%s", c.At.Year(), r.To))
	end := time.Date(c.At.Year(), to.Month(), to.Day(), 0, 0, 0, 0, c.At.Location())
	if end.Before(day(c.At)) {
		end = end.AddDate(1, 0, 0)
	}
	c.stop("law-blackout", Law, r.Name, "it is not allowed at this time of the year", "the closed season ends", after(end, 1))
}

func (c *check) atOnce(r Rule) {
	got, what := c.N, "nitrogen"
	if slices.Contains(r.Covers, "phosphorus") {
		got, what = c.P, "phosphorus"
	}
	if got > r.Amount*1.005 {
		c.stop(
			"law-at-once-"+what,
			Law,
			r.Name,
			fmt.Sprintf("%.2f g %s/m² are over the %g allowed at once", got, what, r.Amount),
			"a smaller dose",
			nil,
		)
	}
}

// yearOf is the first day of the year that a rule counts in.
func yearOf(r Rule, at time.Time, latitude float64) time.Time {
	switch r.Year {
	case "rolling":
		return day(at).AddDate(-1, 0, 1)
	case "season":
		if latitude < 0 {
			y := at.Year()
			if at.Month() < time.July {
				y--
			}
			return time.Date(y, time.July, 1, 0, 0, 0, 0, at.Location())
		}
	}
	return time.Date(at.Year(), time.January, 1, 0, 0, 0, 0, at.Location())
}

func (c *check) aYear(r Rule) {
	of, what, get := c.N, "nitrogen", func(a Applied) float64 { return a.N }
	if slices.Contains(r.Covers, "phosphorus") {
		of, what, get = c.P, "phosphorus", func(a Applied) float64 { return a.P }
	}
	if of <= 0 {
		return
	}
	from, had := yearOf(r, c.At, c.Lawn.Latitude), 0.0
	for _, a := range c.History {
		if daysSince(from, a.Day) >= 0 && daysSince(a.Day, c.At) >= 0 {
			had += get(a)
		}
	}
	if had+of <= r.Amount*1.005 {
		return
	}
	next := from.AddDate(1, 0, 0)
	if r.Year == "rolling" { // the day on which enough has fallen out
		left := had
		days := slices.Clone(c.History)
		slices.SortFunc(days, func(a, b Applied) int { return a.Day.Compare(b.Day) })
		for _, a := range days {
			if daysSince(from, a.Day) < 0 {
				continue
			}
			left -= get(a)
			if left+of <= r.Amount*1.005 {
				next = day(a.Day).AddDate(1, 0, 0)
				break
			}
		}
	}
	lifts := "the year of the rule turns"
	if left := r.Amount - had; left > .05 {
		lifts = fmt.Sprintf("at most %.2f g/m² now, or when the year of the rule turns", left)
	}
	c.stop(
		"law-a-year-"+what,
		Law,
		r.Name,
		fmt.Sprintf("%.2f g %s/m² with the %.2f of the year are over the %g allowed", of, what, had, r.Amount),
		lifts,
		&next,
	)
}

func (c *check) phosphorus(r Rule) {
	if c.P <= 0 || c.Seeds || (c.Lawn.PTested != nil && *c.Lawn.PTested) {
		return
	}
	if c.Lawn.SeedUp != nil && daysSince(*c.Lawn.SeedUp, c.At) <= 60 {
		return
	}
	c.stop(
		"law-phosphorus",
		Law,
		r.Name,
		"phosphorus goes down only where a valid soil test asks for it, or with new seed",
		"a soil test, or a product without phosphorus",
		nil,
	)
}

func (c *check) watering(r Rule) {
	if !c.Water || c.Lawn.SeedUp != nil && daysSince(*c.Lawn.SeedUp, c.At) < 30 && slices.Contains(r.Covers, "not-new-grass") {
		return
	}
	open := func(t time.Time) bool {
		if len(r.Days) > 0 && !slices.Contains(r.Days, weekdays[t.Weekday()]) {
			return false
		}
		if len(r.Hours) != 2 {
			return true
		}
		h, from, to := t.Hour(), r.Hours[0], r.Hours[1]
		if from < to {
			return h >= from && h < to
		}
		return h >= from || h < to
	}
	if open(c.At) {
		return
	}
	next := c.At.Truncate(time.Hour)
	for range 24 * 8 {
		next = next.Add(time.Hour)
		if open(next) {
			c.stop("law-watering", Law, r.Name, "watering is not allowed at this hour", "an allowed day and hour", &next)
			return
		}
	}
	c.stop("law-watering", Law, r.Name, "watering is not allowed", "the rule changes", nil)
}

func (c *check) telling(r Rule) {
	if !c.covers(r) {
		return
	}
	if r.What == "posting" {
		if !c.Posted {
			c.strictest("posting", "Put up the sign before you start ("+r.Name+").", 1)
		}
		return
	}
	if c.Notified == nil {
		c.stop("law-notice", Law, r.Name, fmt.Sprintf("the neighbours are told %g hours before", r.Amount), "tell them, and wait", nil)
	} else if open := c.Notified.Add(time.Duration(r.Amount * float64(time.Hour))); c.At.Before(open) {
		c.stop("law-notice", Law, r.Name, fmt.Sprintf("the neighbours were told less than %g hours ago", r.Amount), "the time has passed", &open)
	}
}

func (c *check) heavyRain(r Rule) {
	if !c.covers(r) {
		return
	}
	sum, span := 0.0, 24
	for i, h := range c.Hours {
		if i < span && h.Rain != nil {
			sum += *h.Rain
		}
	}
	limit := r.Amount
	if limit == 0 {
		limit = 12 // judgement: heavy rain of a day
	}
	if sum >= limit {
		next := c.At.Add(24 * time.Hour)
		c.stop("law-rain", Law, r.Name, fmt.Sprintf("%.0f mm of rain are forecast within a day", sum), "the rain is over", &next)
	}
}

// locate asks for located lines before anything goes into the ground.
func (c *check) locate() {
	if !c.Ground {
		return
	}
	valid, name := 14.0, "Locate before digging"
	for _, r := range c.Rules {
		if r.What == "locate" && r.holds(c.Lawn.Place, c.At) {
			name = r.Name
			if r.Amount > 0 {
				valid = r.Amount
			}
		}
	}
	switch {
	case c.Lawn.LocatedOn == nil:
		c.stop("law-locate", Law, name, "gas, power, water and cables have not been located here", "have them located and flagged", nil)
	case daysSince(*c.Lawn.LocatedOn, c.At) > valid:
		c.stop(
			"law-locate",
			Law,
			name,
			fmt.Sprintf("the lines were located %.0f days ago, and that holds for %.0f", daysSince(*c.Lawn.LocatedOn, c.At), valid),
			"have them located anew",
			nil,
		)
	case daysSince(*c.Lawn.LocatedOn, c.At) < 0:
		c.stop("law-locate", Law, name, "the lines are located later than that", "wait for it", c.Lawn.LocatedOn)
	}
}

// warm reports whether the lawn is of warm-season grass.
func (c *check) warm() bool {
	for _, id := range c.Lawn.Grasses {
		if g, ok := turf.ByID(id); ok {
			return g.Family == turf.Warm
		}
	}
	return false
}
