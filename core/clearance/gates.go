package clearance

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"hodos/core/label"
	"hodos/core/turf"
)

// licence asks who does it.
func (c *check) licence() {
	if !c.pesticide() && (c.Product == nil || !c.Product.Restricted) {
		return
	}
	valid := func(p *Person) string {
		switch {
		case p == nil:
			return "nobody with a licence is named"
		case !p.Applicator || p.LicenceUntil == nil:
			return p.Name + " has no licence"
		case daysSince(*p.LicenceUntil, c.At) > 0:
			return "the licence of " + p.Name + " has run out"
		}
		return ""
	}
	if c.Person == nil {
		c.duty("licence", "Only by a licensed applicator.")
		return
	}
	wrong := valid(c.Person)
	if wrong == "" {
		return
	}
	if c.Supervisor != nil && valid(c.Supervisor) == "" && !c.Product.Restricted {
		return
	}
	c.stop("law-licence", Law, "Licence", wrong+" that is valid that day", "a licensed applicator does it", nil)
}

func grassName(id string) string {
	if g, ok := turf.ByID(id); ok {
		return g.Label
	}
	return id
}

// product asks what the label says of place, grass, target and rate.
func (c *check) product() {
	l := c.Product
	if l == nil {
		return
	}
	if ok, until := l.Registered(c.Lawn.Place, c.At); !ok {
		text := l.Name + " is not registered here"
		if until != "" {
			text = "the registration of " + l.Name + " is not open on that day"
		}
		c.stop("law-registration", Law, l.Name, text, "another product", nil)
	}
	if len(l.Sites) > 0 && !slices.Contains(l.Sites, "home-lawn") {
		c.stop("label-site", Label, l.Name, "the label is not for home lawns", "another product", nil)
	}
	u := c.Use
	if u == nil {
		c.stop("label-use", Label, l.Name, "the label has no such use", "another product", nil)
		return
	}
	if g := u.Bears(c.Lawn.Grasses); g != "" {
		c.stop("label-grass", Label, l.Name, "the label does not allow it on "+grassName(g), "another product", nil)
	}
	if c.Target != "" && len(u.Targets) > 0 && !slices.Contains(u.Targets, c.Target) {
		c.stop("label-target", Label, l.Name, "what it is against is not on the label", "another product", nil)
	}
	c.rates(l, u)
	if u.BufferM > 0 {
		if c.Lawn.WaterM != nil && *c.Lawn.WaterM < u.BufferM {
			c.stop(
				"label-buffer",
				Label,
				l.Name,
				fmt.Sprintf("it is %g m to water, and the label keeps %g", *c.Lawn.WaterM, u.BufferM),
				"leave the strip out",
				nil,
			)
		} else if c.Lawn.WaterM == nil {
			c.strictest("buffer", fmt.Sprintf("Keep %g m from water, wells and drains.", u.BufferM), u.BufferM)
		}
	}
	if u.BeesFlying && c.Lawn.InFlower {
		c.stop("label-bees", Label, l.Name, "weeds in flower carry bees", "mow the flowers off first", nil)
	}
	if len(l.Protect) > 0 {
		c.duty("protect", "Wear "+strings.Join(l.Protect, ", ")+".")
	}
	if u.WaterInMM > 0 {
		c.duty("water-in", fmt.Sprintf("Water in with %g mm within %g hours.", u.WaterInMM, max(1, u.WaterInHours)))
	}
	if l.Posting && !c.Posted {
		c.strictest("posting", "Put up the sign before you start.", 0)
	}
	c.salty(l)
}

// What burns: the salt index of a fertilizer, on the scale on which sodium nitrate is 100, from which it draws water out of leaf and root,
// and the air in the two days after it, °C, in which that shows (judgement).
const (
	saltHigh = 60.0
	saltHeat = 27.0
	saltDays = 48 // hours
)

// salty says how a fertilizer high in salt goes down before hot days. A product whose index is not known is passed over.
func (c *check) salty(l *label.Label) {
	if l.Kind != "fertilizer" || l.SaltIndex < saltHigh {
		return
	}
	for _, h := range c.Hours[:min(saltDays, len(c.Hours))] {
		if h.Air != nil && *h.Air >= saltHeat {
			c.duty("salt", fmt.Sprintf("Salt index %g, and hot days are coming: spread it on dry leaves, water it in at once, "+
				"and keep it off dry soil. A product under %g burns less.", l.SaltIndex, saltHigh))
			return
		}
	}
}

// rates asks how much of it goes down, and in how much water.
func (c *check) rates(l *label.Label, u *label.Use) {
	if c.Rate > u.RateHigh*1.01 {
		c.stop(
			"label-rate",
			Label,
			l.Name,
			fmt.Sprintf("%.4g %s are over the label's %.4g", c.Rate, unitWords[l.Unit()], u.RateHigh),
			"the label's rate",
			nil,
		)
	}
	if c.Rate > 0 && c.Rate < u.RateLow*.99 && l.Pesticide() {
		c.stop(
			"label-rate-low",
			Label,
			l.Name,
			fmt.Sprintf("%.4g %s are under the label's %.4g: it breeds resistance", c.Rate, unitWords[l.Unit()], u.RateLow),
			"the label's rate",
			nil,
		)
	}
	if c.Carrier > 0 && u.CarrierLow > 0 && c.Carrier < u.CarrierLow*.99 {
		c.stop(
			"label-carrier",
			Label,
			l.Name,
			fmt.Sprintf("%.3g L/100 m² of water are under the label's %.3g", c.Carrier, u.CarrierLow),
			"more water",
			nil,
		)
	}
	if c.Carrier > 0 && u.CarrierHigh > 0 && c.Carrier > u.CarrierHigh*1.01 {
		c.stop(
			"label-carrier",
			Label,
			l.Name,
			fmt.Sprintf("%.3g L/100 m² of water are over the label's %.3g", c.Carrier, u.CarrierHigh),
			"less water",
			nil,
		)
	}
}

var unitWords = map[string]string{"g/m2": "g/m²", "mL/m2": "mL/m²"}

// seasonOf is the first day of a label's season: the calendar year in the north, July to June in the south.
func seasonOf(at time.Time, latitude float64) time.Time {
	return yearOf(Rule{Year: "season"}, at, latitude)
}

// season adds up what has been put down: intervals, most a season, each active over all products, groups in a row.
func (c *check) season() {
	l, u := c.Product, c.Use
	if l == nil || u == nil {
		return
	}
	from := seasonOf(c.At, c.Lawn.Latitude)
	count, sum, actives := 0, c.Rate, map[string]float64{}
	var last *Applied
	for i, a := range c.History {
		ago := daysSince(a.Day, c.At)
		if ago < 0 {
			continue
		}
		if a.Product == c.ProductKey && (last == nil || a.Day.After(last.Day)) {
			last = &c.History[i]
		}
		if daysSince(from, a.Day) < 0 {
			continue
		}
		if a.Product == c.ProductKey {
			count++
			sum += a.Rate
		}
		for name, g := range a.Actives {
			actives[name] += g
		}
	}
	turn := from.AddDate(1, 0, 0)
	if last != nil && u.IntervalDays > 0 && daysSince(last.Day, c.At) < u.IntervalDays {
		c.stop(
			"label-interval",
			Label,
			l.Name,
			fmt.Sprintf("put down %.0f days ago, and the label waits %g", daysSince(last.Day, c.At), u.IntervalDays),
			"the interval is over",
			after(last.Day, u.IntervalDays),
		)
	}
	if u.MostASeason > 0 && count >= u.MostASeason {
		c.stop(
			"label-times",
			Label,
			l.Name,
			fmt.Sprintf("%d of %d times this season are used", count, u.MostASeason),
			"the next season, or another product",
			&turn,
		)
	}
	if u.SeasonMax > 0 && sum > u.SeasonMax*1.005 {
		c.stop(
			"label-season",
			Label,
			l.Name,
			fmt.Sprintf("with this it comes to %.4g %s of the %.4g a season bears", sum, unitWords[l.Unit()], u.SeasonMax),
			"less, the next season, or another product",
			&turn,
		)
	}
	for _, a := range l.Actives {
		if got := actives[a.Name] + a.ActiveGM2(c.Rate); a.SeasonMax > 0 && got > a.SeasonMax*1.005 {
			c.stop("label-active", Label, l.Name, fmt.Sprintf("with this %s comes to %.3g g/m², and a season bears %.3g", a.Name, got, a.SeasonMax),
				"the next season, or another active", &turn)
		}
	}
	c.groups()
}

// groups asks that the mode of action changes against one target.
func (c *check) groups() {
	if !c.pesticide() || c.Target == "" {
		return
	}
	own := map[string]bool{}
	for _, a := range c.Product.Actives {
		if a.Group != "" && !multiSite[a.Group] {
			own[a.Group] = true
		}
	}
	before := slices.Clone(c.History)
	slices.SortStableFunc(before, func(a, b Applied) int { return b.Day.Compare(a.Day) })
	run := 0
	for _, a := range before {
		if a.Target != c.Target || a.Kind != c.Product.Kind || daysSince(a.Day, c.At) < 0 || daysSince(a.Day, c.At) > 365 {
			continue
		}
		same := false
		for _, g := range a.Groups {
			same = same || own[g]
		}
		if !same {
			break
		}
		run++
	}
	if allowed := max(1, c.Use.InARow); run >= allowed {
		c.stop(
			"resistance",
			Agronomy,
			c.Product.Name,
			"the last one against it was of the same mode-of-action group",
			"a product of another group",
			nil,
		)
	}
}

// multiSite are groups that act at many places and breed no resistance (fungicide groups that begin with M).
var multiSite = map[string]bool{"M1": true, "M2": true, "M3": true, "M4": true, "M5": true}

// Usual limits of a spray where the label does not say (extension, common labels).
const (
	usualWind = 4.5 // m/s
	calm      = 1.3
	fastRain  = .5 // mm that wash off
	earliest  = 6  // hour of the day at which work begins
	latest    = 20
)

// hours asks every hour of the job's weather, and finds the next that is open.
func (c *check) hours(id string, kind Kind, rule string, shut func(h Hour, i int) string, lifts string) {
	if len(c.Hours) == 0 {
		return
	}
	why := shut(c.Hours[0], 0)
	if why == "" {
		return
	}
	for i, h := range c.Hours {
		if clock := h.At.Hour(); clock < earliest || clock > latest {
			continue // nobody is told to come at night
		}
		if shut(h, i) == "" {
			at := h.At
			c.stop(id, kind, rule, why, lifts, &at)
			return
		}
	}
	c.stop(id, kind, rule, why, lifts, nil)
}

// weather asks wind, heat, rain and the soil.
func (c *check) weather() {
	l, u := c.Product, c.Use
	if l == nil || u == nil {
		return
	}
	if l.Sprayed() && l.Kind != "wetting-agent" && l.Kind != "amendment" {
		most := u.WindHigh
		if most == 0 {
			most = usualWind
		}
		c.hours("label-wind", Label, l.Name, func(h Hour, _ int) string {
			switch {
			case h.Wind == nil:
				return ""
			case *h.Wind > most*1.005:
				return fmt.Sprintf("the wind of %.1f m/s is over %.1f: it drifts", *h.Wind, most)
			case *h.Wind < calm*.995 && l.Pesticide():
				return fmt.Sprintf("the air is still (%.1f m/s): fine drops hang in it", *h.Wind)
			}
			return ""
		}, "a light wind")
	}
	c.hours("label-air", Label, l.Name, func(h Hour, _ int) string {
		switch {
		case h.Air == nil:
			return ""
		case u.AirHigh != nil && *h.Air > *u.AirHigh+.05:
			return fmt.Sprintf("%.0f °C are over the label's %g", *h.Air, *u.AirHigh)
		case u.AirLow != nil && *h.Air < *u.AirLow-.05:
			return fmt.Sprintf("%.0f °C are under the label's %g", *h.Air, *u.AirLow)
		}
		return ""
	}, "the temperature of the label")
	if u.RainfastHours > 0 {
		c.hours("label-rainfast", Label, l.Name, func(_ Hour, i int) string {
			sum := 0.0
			for k := i; k < len(c.Hours) && k < i+int(u.RainfastHours+.999); k++ {
				if c.Hours[k].Rain != nil {
					sum += *c.Hours[k].Rain
				}
			}
			if sum >= fastRain {
				return fmt.Sprintf("rain is forecast within the %g hours that it needs to dry on", u.RainfastHours)
			}
			return ""
		}, "a dry slot")
	}
	if s := c.Lawn.SoilC; s != nil {
		switch {
		case u.SoilHigh != nil && *s > *u.SoilHigh+.05:
			c.stop("label-soil", Label, l.Name, fmt.Sprintf("soil of %.0f °C is over the label's %g", *s, *u.SoilHigh), "cooler soil", nil)
		case u.SoilLow != nil && *s < *u.SoilLow-.05:
			c.stop("label-soil", Label, l.Name, fmt.Sprintf("soil of %.0f °C is under the label's %g", *s, *u.SoilLow), "warmer soil", nil)
		}
	}
}

// stand asks new grass, seed that is planned, mowing, green-up and who is kept off.
func (c *check) stand() {
	w := c.Lawn
	if k := w.KeptOffUntil; k != nil && c.At.Before(*k) && !c.Water {
		c.stop(
			"label-reentry",
			Label,
			"Re-entry",
			"the zone is closed after an earlier treatment",
			"the time of the label has passed, and it is dry",
			k,
		)
	}
	if c.Seeds {
		for _, a := range c.History {
			if ago := daysSince(a.Day, c.At); a.SeedDays > 0 && ago >= 0 && ago < a.SeedDays {
				c.stop(
					"label-seed",
					Label,
					"Seeding interval",
					fmt.Sprintf("put down %.0f days ago, it keeps seed from coming up for %g", ago, a.SeedDays),
					"the interval is over",
					after(a.Day, a.SeedDays),
				)
			}
		}
	}
	l, u := c.Product, c.Use
	if l == nil || u == nil {
		return
	}
	if w.SeedUp != nil && !c.Seeds {
		if up := daysSince(*w.SeedUp, c.At); w.Mowings < u.SeedlingMows {
			c.stop(
				"label-seedling",
				Label,
				l.Name,
				fmt.Sprintf("the new grass has been mown %d times, and the label asks for %d", w.Mowings, u.SeedlingMows),
				"it has been mown often enough",
				nil,
			)
		} else if up < u.SeedlingDays {
			c.stop(
				"label-seedling",
				Label,
				l.Name,
				fmt.Sprintf("the new grass is %.0f days up, and the label asks for %g", up, u.SeedlingDays),
				"it is old enough",
				after(*w.SeedUp, u.SeedlingDays),
			)
		}
	}
	if p := w.SeedPlanned; p != nil && u.SeedAfterDays > 0 && daysSince(c.At, *p) >= 0 && daysSince(c.At, *p) < u.SeedAfterDays {
		c.stop(
			"label-seed-planned",
			Label,
			l.Name,
			fmt.Sprintf("seed is planned in %.0f days, and the label keeps %g", daysSince(c.At, *p), u.SeedAfterDays),
			"choose: this, or the seed",
			after(*p, u.SeedAfterDays),
		)
	}
	if w.MownOn != nil && u.MowBeforeDays > 0 && daysSince(*w.MownOn, c.At) < u.MowBeforeDays {
		c.stop("label-mown", Label, l.Name, "it was mown too shortly before", "the leaf has grown again", after(*w.MownOn, u.MowBeforeDays))
	}
	if g := w.GreenUp; g != nil && u.GreenUpPercent > 0 && *g < u.GreenUpPercent && c.warm() {
		c.stop(
			"label-green-up",
			Label,
			l.Name,
			fmt.Sprintf("the turf is %.0f %% green, and the label asks for %g", *g, u.GreenUpPercent),
			"greener turf",
			nil,
		)
	}
}

// agronomy hands the plan's own gate and the client's wishes on.
func (c *check) agronomy() {
	if g := c.Gate; g != nil {
		c.stop("plan-"+g.ID, g.Kind, "Plan", g.Reason, g.Lifts, g.Until)
	}
	if c.Lawn.NoPesticides && c.pesticide() {
		c.stop("policy-no-pesticides", Policy, "Client", "the client wants no pesticides", "the client agrees", nil)
	}
}

// possible asks for stock and machine.
func (c *check) possible() {
	if c.Product != nil && c.Left != nil {
		need := c.Rate * c.TreatedM2
		if need > *c.Left*1.0005+1e-9 {
			c.stop(
				"stock",
				NotPossible,
				c.Product.Name,
				fmt.Sprintf("%.4g %s are needed and %.4g are on the shelf", need, stockUnit(c.Product.Liquid), *c.Left),
				"more of it",
				nil,
			)
		}
	}
	if c.LotExpires != nil && daysSince(*c.LotExpires, c.At) > 0 {
		c.stop("lot", NotPossible, "Lot", "this lot has passed its date", "another lot", nil)
	}
	switch {
	case c.NeedsTool && c.Machine == nil:
		c.stop("machine", NotPossible, "Equipment", "no machine is there for it", "a machine", nil)
	case c.Machine != nil && c.Machine.Broken:
		c.stop("machine", NotPossible, c.Machine.Name, "it is out of order", "it is repaired", nil)
	case c.Machine != nil && c.Machine.CalibratedOn != nil && daysSince(*c.Machine.CalibratedOn, c.At) > 365:
		c.stop("calibration", NotPossible, c.Machine.Name, "it has not been calibrated for a year", "calibrate it", nil)
	}
}

func stockUnit(liquid bool) string {
	if liquid {
		return "mL"
	}
	return "g"
}
