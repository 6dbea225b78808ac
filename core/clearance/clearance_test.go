package clearance_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/clearance"
	"hodos/core/label"
)

func at(text string) time.Time {
	t, err := time.Parse("2006-01-02 15", text)
	if err != nil {
		panic(err)
	}
	return t
}

func on(text string) *time.Time { t := at(text + " 00"); return &t }

func f(x float64) *float64 { return &x }

// spray is a fungicide job on tall fescue with nothing against it, at eight in the morning of 20 May.
func spray() clearance.Job {
	l := &label.Label{
		Name:         "Vellum 250",
		Kind:         "fungicide",
		Form:         "sc",
		Liquid:       true,
		ReentryHours: 4,
		Places:       []label.Registration{{Place: "US-PA", From: "2020-01-01", Until: "2027-12-31"}},
		Actives:      []label.Active{{Name: "azoxystrobin", Group: "11", Content: 250, SeasonMax: .15}},
		Uses: []label.Use{
			{
				ID:             "turf",
				Actions:        []string{"fungicide-curative"},
				NotGrasses:     []string{"st-augustinegrass"},
				Targets:        []string{"brown-patch", "dollar-spot"},
				RateLow:        .08,
				RateHigh:       .13,
				CarrierLow:     4,
				CarrierHigh:    12,
				IntervalDays:   14,
				MostASeason:    3,
				SeasonMax:      .5,
				AirLow:         f(8),
				AirHigh:        f(30),
				SoilHigh:       f(32),
				SoilLow:        f(5),
				RainfastHours:  4,
				BufferM:        5,
				SeedlingMows:   3,
				SeedlingDays:   28,
				SeedAfterDays:  10,
				MowBeforeDays:  1,
				GreenUpPercent: 50,
			},
		},
	}
	j := clearance.Job{
		Action:     "fungicide-curative",
		At:         at("2026-05-20 08"),
		Product:    l,
		ProductKey: "vellum",
		Use:        &l.Uses[0],
		Target:     "brown-patch",
		Rate:       .1,
		Carrier:    8,
		TreatedM2:  400,
		Left:       f(1000),
		Person:     &clearance.Person{Name: "Rufus", Applicator: true, LicenceUntil: on("2027-03-01")},
		Lawn:       clearance.Lawn{Place: "US-PA", Latitude: 40, Grasses: []string{"tall-fescue"}, AreaM2: 400, WaterM: f(40), SoilC: f(17)},
	}
	for i := range 48 {
		j.Hours = append(j.Hours, clearance.Hour{At: j.At.Add(time.Duration(i) * time.Hour), Wind: f(2.5), Air: f(18), Rain: f(0), RH: f(60)})
	}
	return j
}

// feed is a feeding of 3 g N/m² with nothing against it.
func feed() clearance.Job {
	l := &label.Label{
		Name:      "Meadowset 20-0-8",
		Kind:      "fertilizer",
		Form:      "granule",
		Analysis:  map[string]float64{"n": 20, "k2o": 8},
		SlowShare: 50,
		Uses:      []label.Use{{ID: "turf", Actions: []string{"apply-nitrogen"}, RateLow: 5, RateHigh: 25}},
	}
	j := spray()
	j.Action, j.Product, j.ProductKey, j.Use, j.Target, j.Rate, j.Carrier, j.Left = "apply-nitrogen", l, "meadowset", &l.Uses[0], "", 15, 0, f(
		50_000,
	)
	return j
}

func ids(r clearance.Result) []string {
	out := []string{}
	for _, s := range r.Stops {
		out = append(out, s.ID)
	}
	return out
}

type change func(*clearance.Job)

var stopped = []struct {
	name string
	base func() clearance.Job
	id   string
	kind clearance.Kind
	next string // day or hour from which it is open
	do   change
}{
	{"no licence", spray, "law-licence", clearance.Law, "", func(j *clearance.Job) { j.Person.Applicator = false }},
	{"licence run out", spray, "law-licence", clearance.Law, "", func(j *clearance.Job) { j.Person.LicenceUntil = on("2026-05-19") }},
	{"supervised, but restricted", spray, "law-licence", clearance.Law, "", func(j *clearance.Job) {
		j.Product.Restricted, j.Supervisor, j.Person = true, j.Person, &clearance.Person{Name: "Tess"}
	}},
	{"not registered in the place", spray, "law-registration", clearance.Law, "", func(j *clearance.Job) { j.Lawn.Place = "US-NY" }},
	{
		"registration has ended",
		spray,
		"law-registration",
		clearance.Law,
		"",
		func(j *clearance.Job) { j.Product.Places[0].Until = "2026-05-19" },
	},
	{
		"registration not begun",
		spray,
		"law-registration",
		clearance.Law,
		"",
		func(j *clearance.Job) { j.Product.Places[0].From = "2026-06-01" },
	},
	{"label not for home lawns", spray, "label-site", clearance.Label, "", func(j *clearance.Job) { j.Product.Sites = []string{"golf"} }},
	{"no such use", spray, "label-use", clearance.Label, "", func(j *clearance.Job) { j.Use = nil }},
	{"grass excluded", spray, "label-grass", clearance.Label, "", func(j *clearance.Job) { j.Lawn.Grasses = []string{"st-augustinegrass"} }},
	{
		"second grass of a mix excluded",
		spray,
		"label-grass",
		clearance.Label,
		"",
		func(j *clearance.Job) { j.Lawn.Grasses = append(j.Lawn.Grasses, "st-augustinegrass") },
	},
	{
		"grass not among the named",
		spray,
		"label-grass",
		clearance.Label,
		"",
		func(j *clearance.Job) { j.Use.Grasses = []string{"creeping-bentgrass"} },
	},
	{"target not on the label", spray, "label-target", clearance.Label, "", func(j *clearance.Job) { j.Target = "rust" }},
	{"over the rate", spray, "label-rate", clearance.Label, "", func(j *clearance.Job) { j.Rate = .135 }},
	{"under the rate", spray, "label-rate-low", clearance.Label, "", func(j *clearance.Job) { j.Rate = .07 }},
	{"too little water", spray, "label-carrier", clearance.Label, "", func(j *clearance.Job) { j.Carrier = 3 }},
	{"too much water", spray, "label-carrier", clearance.Label, "", func(j *clearance.Job) { j.Carrier = 14 }},
	{"too near to water", spray, "label-buffer", clearance.Label, "", func(j *clearance.Job) { j.Lawn.WaterM = f(4) }},
	{"flowers", spray, "label-bees", clearance.Label, "", func(j *clearance.Job) { j.Use.BeesFlying, j.Lawn.InFlower = true, true }},
	{"interval of the label", spray, "label-interval", clearance.Label, "2026-05-24 00", func(j *clearance.Job) {
		j.History = []clearance.Applied{{Day: at("2026-05-10 00"), Product: "vellum", Rate: .1}}
	}},
	{"times of the season", spray, "label-times", clearance.Label, "2027-01-01 00", func(j *clearance.Job) {
		for _, d := range []string{"2026-02-01 00", "2026-03-01 00", "2026-04-01 00"} {
			j.History = append(j.History, clearance.Applied{Day: at(d), Product: "vellum", Rate: .08})
		}
	}},
	{"product of the season", spray, "label-season", clearance.Label, "2027-01-01 00", func(j *clearance.Job) {
		j.History = []clearance.Applied{
			{Day: at("2026-03-01 00"), Product: "vellum", Rate: .25},
			{Day: at("2026-04-01 00"), Product: "vellum", Rate: .2},
		}
	}},
	{"active of the season, from another product", spray, "label-active", clearance.Label, "2027-01-01 00", func(j *clearance.Job) {
		j.History = []clearance.Applied{{Day: at("2026-03-01 00"), Product: "other", Actives: map[string]float64{"azoxystrobin": .13}}}
	}},
	{"season in the south begins in July", spray, "label-active", clearance.Label, "2026-07-01 00", func(j *clearance.Job) {
		j.Lawn.Latitude = -33
		j.History = []clearance.Applied{{Day: at("2025-08-01 00"), Product: "other", Actives: map[string]float64{"azoxystrobin": .13}}}
	}},
	{"same group again", spray, "resistance", clearance.Agronomy, "", func(j *clearance.Job) {
		j.History = []clearance.Applied{
			{Day: at("2026-04-20 00"), Product: "other", Kind: "fungicide", Target: "brown-patch", Groups: []string{"11"}},
		}
	}},
	{"windy", spray, "label-wind", clearance.Label, "2026-05-20 11", func(j *clearance.Job) {
		j.Hours[0].Wind, j.Hours[1].Wind, j.Hours[2].Wind = f(5), f(6), f(1)
	}},
	{"wind of the label", spray, "label-wind", clearance.Label, "", func(j *clearance.Job) { j.Use.WindHigh = 2 }},
	{"still air", spray, "label-wind", clearance.Label, "2026-05-20 09", func(j *clearance.Job) { j.Hours[0].Wind = f(.5) }},
	{"too warm", spray, "label-air", clearance.Label, "2026-05-20 09", func(j *clearance.Job) { j.Hours[0].Air = f(31) }},
	{"too cold", spray, "label-air", clearance.Label, "2026-05-20 09", func(j *clearance.Job) { j.Hours[0].Air = f(7) }},
	{"rain before it is fast", spray, "label-rainfast", clearance.Label, "2026-05-20 12", func(j *clearance.Job) { j.Hours[3].Rain = f(2) }},
	{"soil too warm", spray, "label-soil", clearance.Label, "", func(j *clearance.Job) { j.Lawn.SoilC = f(33) }},
	{"soil too cold", spray, "label-soil", clearance.Label, "", func(j *clearance.Job) { j.Lawn.SoilC = f(4) }},
	{
		"seedlings not mown often enough",
		spray,
		"label-seedling",
		clearance.Label,
		"",
		func(j *clearance.Job) { j.Lawn.SeedUp, j.Lawn.Mowings = on("2026-04-01"), 2 },
	},
	{
		"seedlings too young",
		spray,
		"label-seedling",
		clearance.Label,
		"2026-05-29 00",
		func(j *clearance.Job) { j.Lawn.SeedUp, j.Lawn.Mowings = on("2026-05-01"), 4 },
	},
	{
		"seed is planned",
		spray,
		"label-seed-planned",
		clearance.Label,
		"2026-06-08 00",
		func(j *clearance.Job) { j.Lawn.SeedPlanned = on("2026-05-29") },
	},
	{"just mown", spray, "label-mown", clearance.Label, "2026-05-21 00", func(j *clearance.Job) { j.Lawn.MownOn = on("2026-05-20") }},
	{
		"half green",
		spray,
		"label-green-up",
		clearance.Label,
		"",
		func(j *clearance.Job) { j.Lawn.Grasses, j.Lawn.GreenUp = []string{"zoysiagrass"}, f(30) },
	},
	{
		"still closed",
		spray,
		"label-reentry",
		clearance.Label,
		"2026-05-20 12",
		func(j *clearance.Job) { t := at("2026-05-20 12"); j.Lawn.KeptOffUntil = &t },
	},
	{"the client's wish", spray, "policy-no-pesticides", clearance.Policy, "", func(j *clearance.Job) { j.Lawn.NoPesticides = true }},
	{"the plan", spray, "plan-wilt", clearance.Agronomy, "", func(j *clearance.Job) {
		j.Gate = &clearance.Gate{ID: "wilt", Kind: clearance.Agronomy, Reason: "wilted"}
	}},
	{"not enough", spray, "stock", clearance.NotPossible, "", func(j *clearance.Job) { j.Left = f(39) }},
	{"lot too old", spray, "lot", clearance.NotPossible, "", func(j *clearance.Job) { j.LotExpires = on("2026-05-19") }},
	{"no machine", spray, "machine", clearance.NotPossible, "", func(j *clearance.Job) { j.NeedsTool = true }},
	{
		"machine broken",
		spray,
		"machine",
		clearance.NotPossible,
		"",
		func(j *clearance.Job) { j.Machine = &clearance.Machine{Name: "Boom", Broken: true} },
	},
	{"not calibrated", spray, "calibration", clearance.NotPossible, "", func(j *clearance.Job) {
		j.Machine = &clearance.Machine{Name: "Boom", CalibratedOn: on("2025-05-01")}
	}},
	{
		"black-out",
		feed,
		"law-blackout",
		clearance.Law,
		"2026-10-01 00",
		rule(clearance.Rule{Name: "Bay rule", What: "blackout", Covers: []string{"fertilizer"}, From: "05-15", To: "09-30"}),
	},
	{
		"black-out over the new year",
		feed,
		"law-blackout",
		clearance.Law,
		"2026-05-21 00",
		rule(clearance.Rule{Name: "Winter", What: "blackout", Covers: []string{"nitrogen"}, From: "12-01", To: "05-20"}),
	},
	{
		"nitrogen at once",
		feed,
		"law-at-once-nitrogen",
		clearance.Law,
		"",
		rule(clearance.Rule{Name: "N", What: "most-at-once", Covers: []string{"nitrogen"}, Amount: 2.5}),
	},
	{"nitrogen of the calendar year", feed, "law-a-year-nitrogen", clearance.Law, "2027-01-01 00", func(j *clearance.Job) {
		j.History = []clearance.Applied{{Day: at("2026-02-01 00"), N: 5}, {Day: at("2025-12-01 00"), N: 50}}
		rule(clearance.Rule{Name: "N", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 7, Year: "calendar"})(j)
	}},
	{"nitrogen of twelve months", feed, "law-a-year-nitrogen", clearance.Law, "2026-10-10 00", func(j *clearance.Job) {
		j.History = []clearance.Applied{{Day: at("2025-10-10 00"), N: 3}, {Day: at("2026-03-01 00"), N: 4}}
		rule(clearance.Rule{Name: "N", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 8, Year: "rolling"})(j)
	}},
	{"phosphorus without a test", feed, "law-phosphorus", clearance.Law, "", func(j *clearance.Job) {
		j.Product.Analysis["p2o5"] = 5
		rule(clearance.Rule{Name: "P", What: "phosphorus-test"})(j)
	}},
	{"test says enough", feed, "law-phosphorus", clearance.Law, "", func(j *clearance.Job) {
		no := false
		j.Product.Analysis["p2o5"], j.Lawn.PTested = 5, &no
		rule(clearance.Rule{Name: "P", What: "phosphorus-test"})(j)
	}},
	{
		"neighbours not told",
		spray,
		"law-notice",
		clearance.Law,
		"",
		rule(clearance.Rule{Name: "Notice", What: "notice", Covers: []string{"pesticide"}, Amount: 48}),
	},
	{"neighbours told too late", spray, "law-notice", clearance.Law, "2026-05-21 08", func(j *clearance.Job) {
		t := at("2026-05-19 08")
		j.Notified = &t
		rule(clearance.Rule{Name: "Notice", What: "notice", Covers: []string{"pesticide"}, Amount: 48})(j)
	}},
	{"buffer of the law", feed, "law-buffer", clearance.Law, "", func(j *clearance.Job) {
		j.Lawn.WaterM = f(8)
		rule(clearance.Rule{Name: "Creek", What: "buffer", Covers: []string{"fertilizer"}, Amount: 10})(j)
	}},
	{"heavy rain", feed, "law-rain", clearance.Law, "2026-05-21 08", func(j *clearance.Job) {
		j.Hours[10].Rain = f(20)
		rule(clearance.Rule{Name: "Rain", What: "rain", Covers: []string{"fertilizer"}, Amount: 12})(j)
	}},
	{
		"wind of the law",
		spray,
		"law-wind",
		clearance.Law,
		"",
		rule(clearance.Rule{Name: "Wind", What: "wind", Covers: []string{"pesticide"}, Amount: 2}),
	},
	{"frozen ground", feed, "law-frozen", clearance.Law, "", func(j *clearance.Job) {
		j.Lawn.Frozen = true
		rule(clearance.Rule{Name: "Frost", What: "frozen", Covers: []string{"fertilizer"}})(j)
	}},
	{
		"watering day",
		water,
		"law-watering",
		clearance.Law,
		"2026-05-21 00",
		rule(clearance.Rule{Name: "Odd", What: "watering-days", Days: []string{"thu", "sun"}}),
	},
	{
		"watering hour",
		water,
		"law-watering",
		clearance.Law,
		"2026-05-20 20",
		rule(clearance.Rule{Name: "Cool hours", What: "watering-days", Hours: []int{20, 6}}),
	},
	{"not located", tines, "law-locate", clearance.Law, "", func(j *clearance.Job) { j.Lawn.LocatedOn = nil }},
	{"located too long ago", tines, "law-locate", clearance.Law, "", func(j *clearance.Job) { j.Lawn.LocatedOn = on("2026-05-01") }},
	{"located too long ago by the law", tines, "law-locate", clearance.Law, "", func(j *clearance.Job) {
		j.Lawn.LocatedOn = on("2026-05-10")
		rule(clearance.Rule{Name: "Call", What: "locate", Amount: 7})(j)
	}},
	{"seed after a herbicide", seed, "label-seed", clearance.Label, "2026-06-07 00", func(j *clearance.Job) {
		j.History = []clearance.Applied{{Day: at("2026-05-10 00"), Product: "broad", SeedDays: 28}}
	}},
}

func rule(r clearance.Rule) change { return func(j *clearance.Job) { j.Rules = append(j.Rules, r) } }

func water() clearance.Job {
	return clearance.Job{
		Action: "water-deep",
		At:     at("2026-05-20 08"),
		Water:  true,
		Lawn:   clearance.Lawn{Place: "US-PA", Latitude: 40, Grasses: []string{"tall-fescue"}},
	}
}

func tines() clearance.Job {
	return clearance.Job{
		Action:    "core-aerate",
		At:        at("2026-05-20 08"),
		Ground:    true,
		Machine:   &clearance.Machine{Name: "Corer"},
		NeedsTool: true,
		Lawn:      clearance.Lawn{LocatedOn: on("2026-05-12"), Grasses: []string{"tall-fescue"}},
	}
}

func seed() clearance.Job {
	return clearance.Job{Action: "overseed", At: at("2026-05-20 08"), Seeds: true, Lawn: clearance.Lawn{Grasses: []string{"tall-fescue"}}}
}

// What label and rules ask at once is said once, by the strictest.
func TestADutyIsSaidOnceByTheStrictest(t *testing.T) {
	of := func(r clearance.Result, id string) (out []string) {
		for _, d := range r.Duties {
			if d.ID == id {
				out = append(out, d.Text)
			}
		}
		return out
	}
	for _, x := range []struct {
		label, rule float64
		want        string
	}{{3, 5, "Keep 5 m from water, wells and drains (Brook)."}, {9, 5, "Keep 9 m from water, wells and drains."}} {
		j := spray()
		j.Lawn.WaterM = nil
		j.Use.BufferM = x.label
		j.Rules = append(j.Rules, clearance.Rule{Name: "Brook", What: "buffer", Covers: []string{"pesticide"}, Amount: x.rule})
		require.Equal(t, []string{x.want}, of(clearance.Check(j), "buffer"))
	}
}

func TestOneThingStopsTheJob(t *testing.T) {
	for _, x := range stopped {
		open := clearance.Check(x.base())
		require.True(t, open.Open(), "%s: %v stands before the change", x.name, ids(open))
		j := x.base()
		x.do(&j)
		r := clearance.Check(j)
		require.Equal(t, []string{x.id}, ids(r), x.name)
		s := r.Stops[0]
		require.Equal(t, x.kind, s.Kind, x.name)
		require.Equal(t, x.kind == clearance.Agronomy || x.kind == clearance.Policy, s.Passable(), x.name)
		require.NotEmpty(t, s.Text, x.name)
		require.NotEmpty(t, s.Rule, x.name)
		if x.next != "" {
			require.NotNil(t, s.Next, x.name)
			require.Equal(t, x.next, s.Next.Format("2006-01-02 15"), x.name)
		}
	}
}

func TestNothingStopsTheJob(t *testing.T) {
	for _, x := range []struct {
		name string
		base func() clearance.Job
		do   change
	}{
		{"licence on its last day", spray, func(j *clearance.Job) { j.Person.LicenceUntil = on("2026-05-20") }},
		{"supervised", spray, func(j *clearance.Job) { j.Supervisor, j.Person = j.Person, &clearance.Person{Name: "Tess"} }},
		{"interval just over", spray, func(j *clearance.Job) {
			j.History = []clearance.Applied{{Day: at("2026-05-06 00"), Product: "vellum", Rate: .1}}
		}},
		{"rate at the label's limit, rounded", spray, func(j *clearance.Job) { j.Rate, j.Product.Actives[0].SeasonMax = .1305, 0 }},
		{"group after another", spray, func(j *clearance.Job) {
			j.History = []clearance.Applied{{Day: at("2026-04-01 00"), Kind: "fungicide", Target: "brown-patch", Groups: []string{"11"}},
				{Day: at("2026-04-20 00"), Kind: "fungicide", Target: "brown-patch", Groups: []string{"3"}}}
		}},
		{"same group against another target", spray, func(j *clearance.Job) {
			j.History = []clearance.Applied{{Day: at("2026-04-20 00"), Kind: "fungicide", Target: "rust", Groups: []string{"11"}}}
		}},
		{"multi-site group again", spray, func(j *clearance.Job) {
			j.Product.Actives = []label.Active{{Name: "chlorothalonil", Group: "M5", Content: 500}}
			j.History = []clearance.Applied{{Day: at("2026-04-20 00"), Kind: "fungicide", Target: "brown-patch", Groups: []string{"M5"}}}
		}},
		{"last year's product", spray, func(j *clearance.Job) {
			j.History = []clearance.Applied{{Day: at("2025-12-20 00"), Product: "vellum", Rate: .5, Actives: map[string]float64{"azoxystrobin": .15}}}
		}},
		{"rain after it is fast", spray, func(j *clearance.Job) { j.Hours[5].Rain = f(5) }},
		{"weather not known", spray, func(j *clearance.Job) { j.Hours = nil }},
		{"windy for a granule", feed, func(j *clearance.Job) { j.Hours[0].Wind = f(7) }},
		{"black-out elsewhere", feed, rule(clearance.Rule{Name: "Bay", Place: "US-MD", What: "blackout", From: "05-01", To: "09-01"})},
		{"black-out of phosphorus alone", feed, rule(clearance.Rule{Name: "P", What: "blackout", Covers: []string{"phosphorus"}, From: "05-01", To: "09-01"})},
		{"rule has run out", feed, rule(clearance.Rule{Name: "Old", What: "blackout", From: "05-01", To: "09-01", ValidTo: "2026-01-01"})},
		{"phosphorus with new seed", feed, func(j *clearance.Job) {
			j.Product.Analysis["p2o5"], j.Lawn.SeedUp = 5, on("2026-05-01")
			rule(clearance.Rule{Name: "P", What: "phosphorus-test"})(j)
		}},
		{"last year's nitrogen by the calendar", feed, func(j *clearance.Job) {
			j.History = []clearance.Applied{{Day: at("2025-12-31 00"), N: 30}}
			rule(clearance.Rule{Name: "N", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 10, Year: "calendar"})(j)
		}},
		{"twelve months to the day", feed, func(j *clearance.Job) {
			j.History = []clearance.Applied{{Day: at("2025-05-20 00"), N: 30}}
			rule(clearance.Rule{Name: "N", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 10, Year: "rolling"})(j)
		}},
		{"exactly the stock", spray, func(j *clearance.Job) { j.Left = f(40) }},
		{"still air for a wetting agent", spray, func(j *clearance.Job) {
			j.Product.Kind, j.Product.Actives, j.Hours[0].Wind = "wetting-agent", nil, f(.3)
		}},
	} {
		j := x.base()
		x.do(&j)
		require.Empty(t, ids(clearance.Check(j)), x.name)
	}
}

func TestDutiesGoWithTheJob(t *testing.T) {
	j := spray()
	j.Product.Protect, j.Product.Posting, j.Use.WaterInMM, j.Lawn.WaterM = []string{"gloves"}, true, 5, nil
	got := map[string]bool{}
	for _, d := range clearance.Check(j).Duties {
		got[d.ID] = true
	}
	require.Equal(t, map[string]bool{"protect": true, "posting": true, "water-in": true, "buffer": true}, got)
}

// A fertilizer high in salt asks for water before hot days, and only then.
func TestSaltBeforeHotDays(t *testing.T) {
	for _, c := range []struct {
		name  string
		salt  float64
		kind  string
		hours []clearance.Hour
		told  bool
	}{
		{"hot", 60, "fertilizer", []clearance.Hour{{Air: f(20)}, {Air: f(27)}}, true},
		{"mild", 75, "fertilizer", []clearance.Hour{{Air: f(26.9)}}, false},
		{"little salt", 59, "fertilizer", []clearance.Hour{{Air: f(31)}}, false},
		{"hot too late", 75, "fertilizer", append(make([]clearance.Hour, 48), clearance.Hour{Air: f(33)}), false},
		{"not known", 0, "fertilizer", []clearance.Hour{{Air: f(31)}}, false},
		{"no fertilizer", 75, "herbicide", []clearance.Hour{{Air: f(31)}}, false},
	} {
		j := spray()
		j.Product.Kind, j.Product.SaltIndex, j.Hours = c.kind, c.salt, c.hours
		told := slices.ContainsFunc(clearance.Check(j).Duties, func(d clearance.Duty) bool { return d.ID == "salt" })
		require.Equal(t, c.told, told, c.name)
	}
}

func TestLawComesFirst(t *testing.T) {
	j := spray()
	j.Left, j.Lawn.NoPesticides, j.Rate, j.Person.Applicator = f(0), true, .2, false
	var kinds []clearance.Kind
	for _, s := range clearance.Check(j).Stops {
		if len(kinds) == 0 || kinds[len(kinds)-1] != s.Kind {
			kinds = append(kinds, s.Kind)
		}
	}
	require.Equal(t, []clearance.Kind{clearance.Law, clearance.Label, clearance.Policy, clearance.NotPossible}, kinds)
}

func TestRulesAreChecked(t *testing.T) {
	for field, r := range map[string]clearance.Rule{
		"name": {What: "rain"}, "what": {Name: "x", What: "tea"}, "to": {Name: "x", What: "blackout", From: "01-01"}, "amount": {Name: "x", What: "buffer"},
		"days": {Name: "x", What: "watering-days"}, "hours": {Name: "x", What: "watering-days", Hours: []int{5}},
	} {
		require.Contains(t, r.Check(), field)
	}
	require.Empty(t, clearance.Rule{Name: "x", What: "blackout", From: "11-15", To: "02-29"}.Check())
}
