package demo

import (
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/clearance"
	"hodos/core/label"
	"hodos/store"
)

// shelved is a product of the demo with its lot: how much of it was received, g or mL, and what that cost. Names and makers are made up;
// actives have their common names; rates and limits are of the usual size and of no real label.
type shelved struct {
	label    label.Label
	received float64
	price    float64
	lot      string
	expires  time.Time
}

var bothLands = []label.Registration{{Place: "US", Number: "AV-R 1", From: "2022-01-01", Until: "2030-12-31"}, {Place: "NZ", Number: "AV-R 2", From: "2022-01-01"}}

var cool = []string{"kentucky-bluegrass", "perennial-ryegrass", "tall-fescue", "rhizomatous-tall-fescue", "fine-fescue"}

func shelf() []shelved {
	spray := []string{"chemical-resistant gloves", "long sleeves", "goggles"}
	return []shelved{
		{label.Label{Name: "Meadowset 20-0-8", Maker: "Tarn & Fell", Kind: "fertilizer", Form: "granule", Analysis: map[string]float64{"n": 20, "k2o": 8, "fe": 2, "s": 6}, SlowShare: 55,
			Release: "methylene", SaltIndex: 42, Uses: []label.Use{{ID: "lawns", Actions: []string{"apply-nitrogen"}, RateLow: 4.9, RateHigh: 24.5, WaterInMM: 5, WaterInHours: 24, CoverDays: 49}}},
			160_000, 214, "T2606", date(2029, 6, 30)},
		{label.Label{Name: "Quickgreen 46-0-0", Maker: "Tarn & Fell", Kind: "fertilizer", Form: "sl", Analysis: map[string]float64{"n": 46}, Release: "quick", SaltIndex: 75,
			Uses: []label.Use{{ID: "spoon", Actions: []string{"spoon-feed-nitrogen"}, RateLow: 1, RateHigh: 2.2, CarrierLow: 8, CarrierHigh: 20, CoverDays: 14}}},
			25_000, 31, "Q118", date(2030, 1, 31)},
		{label.Label{Name: "Rootbed 10-20-10", Maker: "Tarn & Fell", Kind: "fertilizer", Form: "granule", Analysis: map[string]float64{"n": 10, "p2o5": 20, "k2o": 10}, SlowShare: 30, Release: "sulfur-coated",
			Uses: []label.Use{{ID: "new grass", Actions: []string{"apply-nitrogen", "apply-phosphorus"}, RateLow: 5, RateHigh: 24, CoverDays: 35}}}, 40_000, 72, "R77", date(2028, 3, 31)},
		{label.Label{Name: "Ferrol 6", Maker: "Halse Minerals", Kind: "fertilizer", Form: "fertilizer", Liquid: true, Density: 1.25, Analysis: map[string]float64{"fe": 6, "n": 3}, Release: "quick",
			Protect: []string{"gloves"}, Uses: []label.Use{{ID: "colour", Actions: []string{"apply-iron"}, RateLow: 1.3, RateHigh: 4, CarrierLow: 4, CarrierHigh: 16, RainfastHours: 4, IntervalDays: 14, CoverDays: 18}}},
			20_000, 96, "F-903", date(2027, 9, 30)},
		{label.Label{Name: "Vellum 250", Maker: "Corvane", Kind: "fungicide", Form: "sc", Liquid: true, Places: bothLands, Actives: []label.Active{{Name: "azoxystrobin", Group: "11", Content: 250, SeasonMax: .15}},
			Protect: spray, ReentryHours: 4, Uses: []label.Use{{ID: "foliar", Actions: []string{"fungicide-curative", "fungicide-preventive"}, Targets: []string{"brown-patch", "large-patch", "gray-leaf-spot", "summer-patch",
				"take-all-root-rot", "red-thread", "rust", "anthracnose", "spring-dead-spot", "leaf-spot"}, RateLow: .06, RateHigh: .13, CarrierLow: 8, CarrierHigh: 16, IntervalDays: 14, MostASeason: 4,
				AirHigh: f(32), RainfastHours: 4, BufferM: 5, CoverDays: 21}}}, 1_000, 168, "VL-55", date(2028, 5, 31)},
		{label.Label{Name: "Corin 143", Maker: "Corvane", Kind: "fungicide", Form: "ec", Liquid: true, Places: bothLands, Actives: []label.Active{{Name: "propiconazole", Group: "3", Content: 143, SeasonMax: .2}},
			Protect: spray, ReentryHours: 12, Uses: []label.Use{{ID: "foliar", Actions: []string{"fungicide-curative", "fungicide-preventive"}, Targets: []string{"dollar-spot", "brown-patch", "large-patch", "rust", "spring-dead-spot",
				"summer-patch", "anthracnose", "pink-snow-mold", "gray-snow-mold"}, NotGrasses: []string{"hybrid-bermudagrass"}, RateLow: .32, RateHigh: .63, CarrierLow: 8, CarrierHigh: 16, IntervalDays: 14,
				AirHigh: f(29), RainfastHours: 2, CoverDays: 18}}}, 2_500, 110, "C-2210", date(2027, 11, 30)},
		{label.Label{Name: "Grubline 0.2", Maker: "Halse Minerals", Kind: "insecticide", Form: "granule", Places: bothLands, Actives: []label.Active{{Name: "chlorantraniliprole", Group: "28", Content: 2, SeasonMax: .056}},
			Protect: []string{"gloves", "long sleeves"}, ReentryWateredIn: true, Uses: []label.Use{{ID: "grubs", Actions: []string{"insecticide-preventive"}, Targets: []string{"white-grubs", "billbugs", "sod-webworms"},
				RateLow: 6, RateHigh: 12, WaterInMM: 6, WaterInHours: 24, MostASeason: 2, BufferM: 8, CoverDays: 110}}}, 22_700, 88, "G41", date(2029, 2, 28)},
		{label.Label{Name: "Ravel 420", Maker: "Corvane", Kind: "insecticide", Form: "sc", Liquid: true, Places: bothLands[:1], Restricted: true, Posting: true, Actives: []label.Active{{Name: "carbaryl", Group: "1A", Content: 480, SeasonMax: 1.8}},
			Protect: spray, ReentryWateredIn: true, ReentryHours: 12, Uses: []label.Use{{ID: "surface and soil", Actions: []string{"insecticide-curative"}, Targets: []string{"white-grubs", "chinch-bugs", "sod-webworms",
				"armyworms", "cutworms", "billbugs"}, RateLow: .95, RateHigh: 1.9, CarrierLow: 8, CarrierHigh: 40, IntervalDays: 7, MostASeason: 2, WaterInMM: 6, WaterInHours: 24, BeesFlying: true, BufferM: 10, CoverDays: 10}}},
			5_000, 145, "RV9", date(2027, 4, 30)},
		{label.Label{Name: "Eveset 8", Maker: "Halse Minerals", Kind: "insecticide", Form: "sc", Liquid: true, Places: bothLands, Posting: true, Actives: []label.Active{{Name: "bifenthrin", Group: "3A", Content: 80, SeasonMax: .09}},
			Protect: spray, Uses: []label.Use{{ID: "biting pests, ants", Actions: []string{"nuisance-pests"}, RateLow: .08, RateHigh: .16, CarrierLow: 4, CarrierHigh: 10, IntervalDays: 28, MostASeason: 3, WindHigh: 4.5,
				RainfastHours: 12, BeesFlying: true, BufferM: 8, CoverDays: 30}}}, 1_000, 64, "EV2", date(2028, 6, 30)},
		{label.Label{Name: "Trine Lawn", Maker: "Corvane", Kind: "herbicide", Form: "sl", Liquid: true, Places: bothLands, Actives: []label.Active{{Name: "2,4-D", Group: "4", Content: 285, SeasonMax: .34}, {Name: "mecoprop-P", Group: "4", Content: 76},
			{Name: "dicamba", Group: "4", Content: 26}}, Protect: spray, ReentryHours: 24, Posting: true, Uses: []label.Use{{ID: "broadleaf", Actions: []string{"herbicide-spot", "herbicide-broadcast"}, Targets: []string{"weed-invasion"},
			NotGrasses: []string{"st-augustinegrass", "centipedegrass"}, RateLow: .35, RateHigh: .48, CarrierLow: 4, CarrierHigh: 12, IntervalDays: 30, MostASeason: 2, AirLow: f(10), AirHigh: f(29), WindHigh: 4.5,
			RainfastHours: 6, SeedAfterDays: 28, SeedlingMows: 4, SeedlingDays: 45, MowBeforeDays: 2, MowAfterDays: 2, BeesFlying: true, BufferM: 5, GreenUpPercent: 90, CoverDays: 60}}}, 9_460, 92, "TL-300", date(2028, 8, 31)},
		{label.Label{Name: "Firstline 0.48", Maker: "Halse Minerals", Kind: "herbicide", Form: "granule", Places: bothLands, Actives: []label.Active{{Name: "prodiamine", Group: "3", Content: 4.8, SeasonMax: .17}},
			Protect: []string{"gloves"}, ReentryWateredIn: true, Uses: []label.Use{{ID: "before weeds", Actions: []string{"preemergent"}, Targets: []string{"weed-invasion"}, RateLow: 12, RateHigh: 24, WaterInMM: 12, WaterInHours: 48,
				SeedAfterDays: 120, SeedlingDays: 60, SeedlingMows: 4, IntervalDays: 56, MostASeason: 2, CoverDays: 110}}}, 45_000, 118, "FL12", date(2029, 1, 31)},
		{label.Label{Name: "Soakline", Maker: "Tarn & Fell", Kind: "wetting-agent", Form: "surfactant", Liquid: true, Protect: []string{"gloves"}, Uses: []label.Use{{ID: "dry spots", Actions: []string{"apply-wetting-agent"},
			RateLow: 1.2, RateHigh: 2.5, CarrierLow: 8, CarrierHigh: 20, WaterInMM: 6, WaterInHours: 1, IntervalDays: 14, CoverDays: 28}}}, 10_000, 124, "S-08", date(2028, 12, 31)},
		{label.Label{Name: "Marl Prill", Maker: "Halse Minerals", Kind: "amendment", Form: "granule", Analysis: map[string]float64{"ca": 36}, Uses: []label.Use{{ID: "lime", Actions: []string{"apply-lime"}, RateLow: 50, RateHigh: 240,
			IntervalDays: 180, CoverDays: 365}}}, 200_000, 64, "M1", date(2035, 1, 1)},
		{label.Label{Name: "Deepturf Fescue Mix", Maker: "Orrin Seeds", Kind: "seed", Form: "granule", Uses: []label.Use{{ID: "lawns", Actions: []string{"overseed", "slit-seed", "interseed", "renovate"}, RateLow: 15, RateHigh: 45,
			Grasses: cool}}}, 60_000, 270, "26-441", date(2027, 12, 31)},
		{label.Label{Name: "Curb 113", Maker: "Corvane", Kind: "regulator", Form: "ec", Liquid: true, Places: bothLands, Actives: []label.Active{{Name: "trinexapac-ethyl", Content: 113, SeasonMax: .06}}, Protect: spray, ReentryHours: 12,
			Uses: []label.Use{{ID: "growth", Actions: []string{"growth-regulator"}, RateLow: .03, RateHigh: .1, CarrierLow: 4, CarrierHigh: 16, RainfastHours: 1, IntervalDays: 28, AirHigh: f(32), CoverDays: 28}}}, 1_000, 96, "K3", date(2027, 6, 30)},
		{label.Label{Name: "Mossfell", Maker: "Halse Minerals", Kind: "fertilizer", Form: "wp", Analysis: map[string]float64{"fe": 20, "s": 11}, Protect: []string{"gloves", "goggles"}, Uses: []label.Use{{ID: "moss",
			Actions: []string{"moss-control"}, Targets: []string{"moss-invasion"}, RateLow: 10, RateHigh: 35, CarrierLow: 8, CarrierHigh: 40, AirLow: f(5), AirHigh: f(25), RainfastHours: 12, IntervalDays: 28, CoverDays: 60}}}, 25_000, 58, "MF2", date(2029, 9, 30)},
	}
}

// rules that the demo firm has entered; the places and their laws are made up.
var rules = []clearance.Rule{
	{Name: "Hollin Bend winter rest", Place: "US", What: "blackout", Covers: []string{"fertilizer"}, From: "12-01", To: "02-28", Source: "town ordinance 14"},
	{Name: "Hollin Bend nitrogen at once", Place: "US", What: "most-at-once", Covers: []string{"nitrogen"}, Amount: 4.9, Source: "town ordinance 14"},
	{Name: "Hollin Bend nitrogen a year", Place: "US", What: "most-a-year", Covers: []string{"nitrogen"}, Amount: 17, Year: "rolling", Source: "town ordinance 14"},
	{Name: "Phosphorus by test", Place: "US", What: "phosphorus-test", Source: "town ordinance 14"},
	{Name: "Keep off the water", What: "buffer", Covers: []string{"fertilizer", "pesticide"}, Amount: 3, Source: "firm’s own"},
	{Name: "Not before heavy rain", What: "rain", Covers: []string{"fertilizer"}, Amount: 25, Source: "firm’s own"},
	{Name: "Sign at the gate", What: "posting", Covers: []string{"pesticide"}, Source: "town ordinance 9"},
	{Name: "Frozen ground", What: "frozen", Covers: []string{"fertilizer"}, Source: "town ordinance 14"},
	{Name: "Call before you dig", What: "locate", Amount: 21, Source: "one-call law"},
	{Name: "Port Ellery summer watering", Place: "NZ", What: "watering-days", Days: []string{"tue", "fri", "sun"}, Hours: []int{19, 9}, Source: "water board"},
}

// keepShelf puts products, rules and machines into the demo.
func keepShelf(tx *gorm.DB) error {
	at := date(2026, 3, 2)
	for i, p := range shelf() {
		n := uint32(3000 + i*10)
		text, err := json.Marshal(p.label)
		if err != nil {
			return err
		}
		opened := date(2026, 4, 1)
		for _, row := range []any{
			&store.Product{ID: key(n), FirmID: Firm, Name: p.label.Name, Kind: p.label.Kind, LabelID: key(n + 1), Active: true, Version: 1},
			&store.ProductLabel{ID: key(n + 1), FirmID: Firm, ProductID: key(n), Number: 1, Label: text, PersonID: People["owner"], RecordedAt: at},
			&store.ProductLot{ID: key(n + 2), FirmID: Firm, ProductID: key(n), Lot: p.lot, Amount: p.received, Price: &p.price, ReceivedOn: at, OpenedOn: &opened, ExpiresOn: &p.expires, Version: 1},
		} {
			if err := tx.Create(row).Error; err != nil {
				return fmt.Errorf("%s: %w", p.label.Name, err)
			}
		}
	}
	for i, r := range rules {
		text, err := json.Marshal(r)
		if err != nil {
			return err
		}
		if err := tx.Create(&store.LocalRule{ID: key(uint32(3500 + i)), FirmID: Firm, Rule: text, Active: true, Version: 1}).Error; err != nil {
			return err
		}
	}
	return machines(tx)
}

func machines(tx *gorm.DB) error {
	out := 8.1
	for i, m := range []struct {
		name, kind string
		broken     bool
		note       string
	}{{"Backpack sprayer, 15 L", "sprayer", false, "flat fan 0.2"}, {"Walking spreader", "spreader", false, "swath 3 m"}, {"Corer", "corer", false, "16 mm hollow tines"},
		{"Slit-seeder", "seeder", false, "rows 40 mm"}, {"Power rake", "dethatcher", true, "belt torn, ordered"}} {
		id := key(uint32(3600 + i))
		if err := tx.Create(&store.Machine{ID: id, FirmID: Firm, Name: m.name, Kind: m.kind, Broken: m.broken, Note: m.note, Version: 1}).Error; err != nil {
			return err
		}
		if m.kind == "sprayer" || m.kind == "spreader" {
			if err := tx.Create(&store.MachineLog{ID: key(uint32(3650 + i)), FirmID: Firm, MachineID: id, Day: date(2026, 4, 20), Kind: "calibration", Output: &out, Note: "caught three times",
				PersonID: People["applicator"], RecordedAt: date(2026, 4, 20)}).Error; err != nil {
				return err
			}
		}
	}
	return nil
}

// Shelved is the key of a product of the demo by its place on the shelf.
func Shelved(i int) uuid.UUID { return key(uint32(3000 + i*10)) }

// booked are jobs that the demo firm has on its calendar: the site by its number, the zone by its place, the product by its place on the
// shelf (-1 for none), rate per m² of the zone's area.
var booked = []struct {
	site    uint32
	zone    int
	area    float64
	action  string
	product int
	target  string
	from    time.Time
	days    int
	due     int // days after from
	rate    float64
	unit    string
	minutes float64
	wait    float64
	series  uint32
	step    int
	reason  string
}{
	{4, 0, 420, "fungicide-preventive", 4, "spring-dead-spot", date(2026, 9, 14), 24, 0, .13, "mL", 36, 10.1, 0, 1, "on record, spring dead spot; as the autumn soil falls under 21 °C"},
	{4, 0, 420, "apply-potassium", -1, "", date(2026, 9, 7), 30, 1, 0, "g", 22, 1, 0, 1, "the soil test asks for it"},
	{6, 1, 210, "core-aerate", -1, "", date(2026, 9, 14), 35, 7, 0, "", 50, 1.7, 0, 1, "hard in moist soil"},
	{6, 1, 210, "overseed", 12, "", date(2026, 9, 14), 21, 8, 22, "g", 37, 5, 0, 1, "thin after the heat"},
	{6, 1, 210, "apply-nitrogen", 0, "", date(2026, 9, 21), 20, 14, 12, "g", 16, .7, 0, 1, "autumn is the main feeding of cool-season turf"},
	{3, 0, 1450, "apply-wetting-agent", 10, "", date(2026, 8, 24), 7, 0, 2, "mL", 23, 4.3, 31, 1, "water stands on the surface for a minute"},
	{3, 0, 1450, "apply-wetting-agent", 10, "", date(2026, 9, 7), 14, 0, 2, "mL", 23, 4.3, 31, 2, "water stands on the surface for a minute"},
	{3, 0, 1450, "apply-wetting-agent", 10, "", date(2026, 9, 28), 21, 0, 2, "mL", 23, 4.3, 31, 3, "water stands on the surface for a minute"},
	{2, 0, 240, "soil-test", -1, "", date(2026, 8, 20), 14, 1, 0, "", 20, .3, 0, 1, "the last test is over three years old"},
}

// bookJobs puts them on the calendar.
func bookJobs(tx *gorm.DB) error {
	for i, b := range booked {
		p := property{n: b.site}
		amount, err := json.Marshal(map[string]any{"rate": b.rate, "amount": b.rate * b.area, "unit": b.unit, "area_m2": b.area, "minutes": b.minutes, "wait": b.wait})
		if err != nil {
			return err
		}
		row := store.Job{ID: key(uint32(3700 + i)), FirmID: Firm, SiteID: p.key(2), ZoneID: p.key(uint32(10 + b.zone)), Action: b.action, Target: b.target, FromOn: b.from,
			ToOn: b.from.AddDate(0, 0, b.days), DueOn: b.from.AddDate(0, 0, b.due), Step: b.step, Reason: b.reason, State: "booked", Amount: amount, Version: 1}
		if b.product >= 0 {
			id := Shelved(b.product)
			row.ProductID = &id
		}
		if b.series > 0 {
			id := key(3800 + b.series)
			row.Series = &id
		}
		if err := tx.Create(&row).Error; err != nil {
			return fmt.Errorf("job %d: %w", i, err)
		}
	}
	return nil
}
