// Package label knows what stands on a product's label: what it is made of, where it is registered, and for each use the rates,
// intervals, weather and waiting times. A label has versions; what was put down keeps the version that it was put down under.
package label

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"hodos/core/dose"
	"hodos/core/turf"
)

// Kinds of products.
var Kinds = []string{"fertilizer", "fungicide", "insecticide", "herbicide", "regulator", "wetting-agent", "amendment", "seed"}

// Forms are what a product is in: what goes into a tank, in the order of mixing, and what does not.
var Forms = []string{"granule", "ready", "conditioner", "wp", "wg", "sc", "ec", "sl", "surfactant", "fertilizer"}

// Registration is where and when a product may be used.
type Registration struct {
	Place  string `json:"place" maxLength:"60" doc:"country or state, as the firm writes it"`
	Number string `json:"number,omitempty" maxLength:"60"`
	From   string `json:"from,omitempty" maxLength:"10" doc:"YYYY-MM-DD"`
	Until  string `json:"until,omitempty" maxLength:"10" doc:"YYYY-MM-DD, the last day of use"`
}

// Active is an active ingredient: how much of it is in the product, how it works, and how much of it a season bears.
type Active struct {
	Name      string  `json:"name" maxLength:"80" doc:"common name"`
	Group     string  `json:"group,omitempty" maxLength:"20" doc:"mode-of-action group"`
	Content   float64 `json:"content" minimum:"0" maximum:"2000" doc:"g in a kg or a litre of the product"`
	SeasonMax float64 `json:"season_max,omitempty" minimum:"0" maximum:"1000" doc:"most of it a season, g/m²; 0 where the label does not say"`
}

// Use is one thing that a label allows. Rates are in g/m² or mL/m² of product; a limit of 0 is none.
type Use struct {
	ID             string   `json:"id" maxLength:"40"`
	Actions        []string `json:"actions" maxItems:"20" nullable:"false" doc:"actions it is for"`
	Grasses        []string `json:"grasses,omitempty" maxItems:"30" nullable:"false" doc:"grasses it may go on; empty for any turf"`
	NotGrasses     []string `json:"not_grasses,omitempty" maxItems:"30" nullable:"false"`
	Targets        []string `json:"targets,omitempty" maxItems:"60" nullable:"false" doc:"causes or weeds; empty where it has no target"`
	RateLow        float64  `json:"rate_low" minimum:"0" maximum:"5000"`
	RateHigh       float64  `json:"rate_high" minimum:"0" maximum:"5000"`
	CarrierLow     float64  `json:"carrier_low,omitempty" minimum:"0" maximum:"200" doc:"L/100 m²"`
	CarrierHigh    float64  `json:"carrier_high,omitempty" minimum:"0" maximum:"200"`
	IntervalDays   float64  `json:"interval_days,omitempty" minimum:"0" maximum:"400"`
	MostASeason    int      `json:"most_a_season,omitempty" minimum:"0" maximum:"60"`
	SeasonMax      float64  `json:"season_max,omitempty" minimum:"0" maximum:"50000" doc:"most product a season, per m²"`
	InARow         int      `json:"in_a_row,omitempty" minimum:"0" maximum:"10" doc:"times its group may follow itself; 0 for once"`
	AirLow         *float64 `json:"air_low,omitempty" minimum:"-20" maximum:"50"`
	AirHigh        *float64 `json:"air_high,omitempty" minimum:"-20" maximum:"60"`
	SoilLow        *float64 `json:"soil_low,omitempty" minimum:"-20" maximum:"50"`
	SoilHigh       *float64 `json:"soil_high,omitempty" minimum:"-20" maximum:"60"`
	WindHigh       float64  `json:"wind_high,omitempty" minimum:"0" maximum:"20" doc:"m/s"`
	RainfastHours  float64  `json:"rainfast_hours,omitempty" minimum:"0" maximum:"72"`
	WaterInMM      float64  `json:"water_in_mm,omitempty" minimum:"0" maximum:"50"`
	WaterInHours   float64  `json:"water_in_hours,omitempty" minimum:"0" maximum:"96" doc:"within"`
	BufferM        float64  `json:"buffer_m,omitempty" minimum:"0" maximum:"500" doc:"from water"`
	SeedAfterDays  float64  `json:"seed_after_days,omitempty" minimum:"0" maximum:"500" doc:"from the product to seeding"`
	SeedlingMows   int      `json:"seedling_mowings,omitempty" minimum:"0" maximum:"20" doc:"mowings of new grass before the product"`
	SeedlingDays   float64  `json:"seedling_days,omitempty" minimum:"0" maximum:"400" doc:"days from emergence before the product"`
	MowBeforeDays  float64  `json:"mow_before_days,omitempty" minimum:"0" maximum:"14" doc:"no mowing before it for"`
	MowAfterDays   float64  `json:"mow_after_days,omitempty" minimum:"0" maximum:"14" doc:"no mowing after it for"`
	BeesFlying     bool     `json:"bees,omitempty" doc:"not on plants in flower"`
	CoverDays      float64  `json:"cover_days,omitempty" minimum:"0" maximum:"400" doc:"how long it works"`
	GreenUpPercent float64  `json:"green_up_percent,omitempty" minimum:"0" maximum:"100" doc:"least green-up of warm-season turf"`
}

// Label is one version of what stands on a product.
type Label struct {
	Name             string             `json:"name" minLength:"1" maxLength:"120"`
	Maker            string             `json:"maker,omitempty" maxLength:"120"`
	Kind             string             `json:"kind" enum:"fertilizer,fungicide,insecticide,herbicide,regulator,wetting-agent,amendment,seed"`
	Form             string             `json:"form" enum:"granule,ready,conditioner,wp,wg,sc,ec,sl,surfactant,fertilizer"`
	Liquid           bool               `json:"liquid,omitempty" doc:"measured by volume: rates in mL/m²"`
	Restricted       bool               `json:"restricted,omitempty" doc:"only by or under a licensed applicator"`
	Sites            []string           `json:"sites,omitempty" maxItems:"20" nullable:"false" doc:"where it may be used; empty for all turf"`
	Places           []Registration     `json:"places,omitempty" maxItems:"60" nullable:"false"`
	Analysis         map[string]float64 `json:"analysis,omitempty" doc:"per cent by weight: n, p2o5, k2o, fe, s, mg, ca, mn, sio2"`
	SlowShare        float64            `json:"slow_share,omitempty" minimum:"0" maximum:"100" doc:"per cent of the nitrogen"`
	Release          string             `json:"release,omitempty" enum:",quick,inhibited,sulfur-coated,methylene,polymer,organic"`
	ReleaseDays      float64            `json:"release_days,omitempty" minimum:"0" maximum:"400"`
	SaltIndex        float64            `json:"salt_index,omitempty" minimum:"0" maximum:"200"`
	Density          float64            `json:"density,omitempty" minimum:"0" maximum:"3" doc:"kg/L of a liquid"`
	Actives          []Active           `json:"actives,omitempty" maxItems:"12" nullable:"false"`
	Protect          []string           `json:"protect,omitempty" maxItems:"20" nullable:"false" doc:"protective equipment"`
	ReentryHours     float64            `json:"reentry_hours,omitempty" minimum:"0" maximum:"720"`
	ReentryWateredIn bool               `json:"reentry_watered_in,omitempty" doc:"kept off until watered in and dry"`
	Posting          bool               `json:"posting,omitempty" doc:"a sign has to be put up"`
	Uses             []Use              `json:"uses" maxItems:"60" nullable:"false"`
}

// Pesticide reports whether the product is one in the eyes of the law.
func (l *Label) Pesticide() bool {
	switch l.Kind {
	case "fungicide", "insecticide", "herbicide", "regulator":
		return true
	}
	return false
}

// Sprayed reports whether it goes through a tank.
func (l *Label) Sprayed() bool { return l.Form != "granule" && l.Kind != "seed" }

// Unit is the unit of the product's rates.
func (l *Label) Unit() string {
	if l.Liquid {
		return "mL/m2"
	}
	return "g/m2"
}

// Weight is the weight of an amount of product, g: of a liquid by its density, 1 where the label does not say.
func (l *Label) Weight(amount float64) float64 {
	if l.Liquid && l.Density > 0 {
		return amount * l.Density
	}
	return amount
}

// Element is how much of a nutrient a rate of product gives, g of the element per m²: n, p, k, fe, s, mg, ca, mn, si.
func (l *Label) Element(id string, rate float64) float64 {
	of := map[string]struct {
		key   string
		share float64
	}{"p": {"p2o5", dose.POfP2O5}, "k": {"k2o", dose.KOfK2O}, "si": {"sio2", .467}}
	key, share := id, 1.0
	if x, ok := of[id]; ok {
		key, share = x.key, x.share
	}
	return l.Weight(rate) * l.Analysis[key] / 100 * share
}

// ActiveGM2 is how much of an active a rate of product gives, g/m².
func (a Active) ActiveGM2(rate float64) float64 { return rate * a.Content / 1000 }

// Fits lists the uses of a label that are for an action; all of them for "".
func (l *Label) Fits(action string) []*Use {
	var out []*Use
	for i := range l.Uses {
		if action == "" || slices.Contains(l.Uses[i].Actions, action) {
			out = append(out, &l.Uses[i])
		}
	}
	return out
}

// For is the use that fits an action best: on the label for the target and the grasses, else the first for the action; nil where
// the label has none for the action.
func (l *Label) For(action, target string, grasses []string) *Use {
	var best *Use
	score := -1
	for _, u := range l.Fits(action) {
		s := 0
		if target != "" && slices.Contains(u.Targets, target) {
			s += 2
		}
		if u.Bears(grasses) == "" {
			s++
		}
		if s > score {
			best, score = u, s
		}
	}
	return best
}

// Bears names the first of some grasses that a use may not go on; "" where it may go on all of them.
func (u *Use) Bears(grasses []string) string {
	for _, g := range grasses {
		if slices.Contains(u.NotGrasses, g) || (len(u.Grasses) > 0 && !slices.Contains(u.Grasses, g)) {
			return g
		}
	}
	return ""
}

// Registered reports whether a product may be used in a place on a day, and until when. A label that names no place is for everywhere.
func (l *Label) Registered(place string, day time.Time) (ok bool, until string) {
	if len(l.Places) == 0 {
		return true, ""
	}
	d := day.Format(time.DateOnly)
	for _, r := range l.Places {
		if !strings.EqualFold(r.Place, place) {
			continue
		}
		if (r.From == "" || r.From <= d) && (r.Until == "" || d <= r.Until) {
			return true, r.Until
		}
		until = r.Until
	}
	return false, until
}

// Wrong is one thing that is wrong with a label.
type Wrong struct{ Field, Reason string }

// Check names everything that cannot be on a label. actions and targets say what is known.
func (l *Label) Check(action func(string) bool) (wrong []Wrong) {
	add := func(field, format string, args ...any) {
		wrong = append(wrong, Wrong{field, fmt.Sprintf(format, args...)})
	}
	if strings.TrimSpace(l.Name) == "" {
		add("name", "is missing")
	}
	if !slices.Contains(Kinds, l.Kind) {
		add("kind", "%q is none of %s", l.Kind, strings.Join(Kinds, ", "))
	}
	if !slices.Contains(Forms, l.Form) {
		add("form", "%q is none of %s", l.Form, strings.Join(Forms, ", "))
	}
	sum := 0.0
	for id, x := range l.Analysis {
		if !slices.Contains([]string{"n", "p2o5", "k2o", "fe", "s", "mg", "ca", "mn", "sio2"}, id) {
			add("analysis", "%q is no nutrient", id)
		}
		if x < 0 || x > 100 {
			add("analysis", "%s: %g is outside 0 to 100", id, x)
		}
		sum += x
	}
	if sum > 100.01 {
		add("analysis", "adds up to %g per cent", sum)
	}
	for _, r := range l.Places {
		for _, d := range []string{r.From, r.Until} {
			if _, err := time.Parse(time.DateOnly, d); d != "" && err != nil {
				add("places", "%q is not a date (YYYY-MM-DD)", d)
			}
		}
		if r.From != "" && r.Until != "" && r.Until < r.From {
			add("places", "%s ends before it begins", r.Place)
		}
	}
	if l.Pesticide() && len(l.Actives) == 0 {
		add("actives", "a %s has an active", l.Kind)
	}
	if len(l.Uses) == 0 {
		add("uses", "a label allows something")
	}
	for i := range l.Uses {
		l.Uses[i].check(fmt.Sprintf("uses[%d].", i), action, add)
	}
	return wrong
}

func (u *Use) check(at string, action func(string) bool, add func(field, format string, args ...any)) {
	if len(u.Actions) == 0 {
		add(at+"actions", "is for no action")
	}
	for _, a := range u.Actions {
		if !action(a) {
			add(at+"actions", "%q is no action", a)
		}
	}
	for _, g := range append(slices.Clone(u.Grasses), u.NotGrasses...) {
		if _, ok := turf.ByID(g); !ok {
			add(at+"grasses", "%q is no grass", g)
		}
	}
	if u.RateHigh < u.RateLow || u.RateHigh <= 0 {
		add(at+"rate_high", "is under the lower rate")
	}
	if u.CarrierHigh > 0 && u.CarrierHigh < u.CarrierLow {
		add(at+"carrier_high", "is under the lower one")
	}
	if u.AirLow != nil && u.AirHigh != nil && *u.AirHigh < *u.AirLow {
		add(at+"air_high", "is under the lower one")
	}
}
