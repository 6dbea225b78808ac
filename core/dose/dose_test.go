package dose_test

import (
	"errors"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/dose"
	"hodos/core/turf"
	"hodos/core/units"
)

// worked are calculations done by hand: the calculation, what is entered, and what it comes to, SI.
var worked = []struct{ id, in, out string }{
	{
		"nutrient",
		"target=0.75lb/1000ft2 n=16 p2o5=4 k2o=8 area=5000ft2",
		"product=10631.07 rate=22.8863 n=3.66182 p=.39914 k=1.51966",
	}, // 23.4375 lb
	{"nutrient", "target=2.4 n=46 area=400", "rate=5.217391 product=2086.9565"},
	{"nutrient", "target=2.4 n=20 p2o5=5 k2o=10 fe=2 area=250", "rate=12 product=3000 p=.2616 k=.996 fe=.24"},
	{"nutrient", "target=0.5lb/1000ft2 n=24 k2o=6 area=5000ft2", "product=4724.92"}, // 10.4167 lb
	{"nutrient", "nutrient=k2o target=4 k2o=50 area=100", "rate=9.638554 k=4"},
	{"nutrient", "nutrient=k2o as=label target=4 k2o=50 area=100", "rate=8 k=3.32"},
	{"nutrient", "nutrient=p2o5 target=2 p2o5=46 n=11 area=100", "rate=9.971909 n=1.09691"},
	{"nutrient", "nutrient=fe target=.2 fe=10 area=300 density=1.25", "product=600 volume=480"},
	{"nutrient", "target=4.8 n=24 area=1000 pack=20 price=30", "packs=1 left=0 cost=30"},
	{"nutrient", "target=4.8 n=24 area=1010 pack=20 price=30", "packs=2 left=19800 cost=30.3 cost-packs=60"},
	{"given", "product=10 n=15 p2o5=5 k2o=15 s=6 area=400", "rate=25 n=3.75 p=.545 k=3.1125 s=1.5"},
	{"p-need", "test=9 removed=8 area=200", "p=2.8 total=560 parts=2 portion=1.4"},
	{"k-need", "test=25 removed=10 area=100", "k=6.8 total=680 parts=2"},
	{"k-need", "test=60 area=100", "k=0"},
	{"iron", "target=.2 fe=6 carrier=8 density=1.3 area=500", "product=1666.667 water=40000 volume=1282.051"},
	{"release", "kind=methylene dose=4.9 soil=25 since=45", "until=72.4247 released=63.2121 coming=1.80261"},
	{"release", "kind=polymer label-days=80 dose=4 soil=15 since=0", "until=160.944"},

	{"lime", "texture=loam ph=5.5 target=6.3 area=100 depth=100", "rate=128 portions=1 product=12800"},
	{"lime", "texture=clay ph=5 target=6.5 area=100 depth=150 strength=90", "rate=583.333 portions=3 portion=194.444"},
	{"lime", "need=5 need-depth=200 depth=100 area=400", "rate=250 portions=2 portion=125 portion-total=50000"},
	{"sulfur", "texture=loam ph=7.6 target=6.8 depth=150 s=90 area=100", "rate=80 portions=3 years=2"},
	{"sulfur", "texture=sand ph=7.5 target=6.5 depth=75 s=100 area=100 grass=creeping-bentgrass", "rate=25 portions=5 years=3"},
	{"gypsum", "sodium=2 density=1.3 depth=150 area=100", "rate=335.79 portions=1 product=33579"},
	{"gypsum", "sar=15 cec=20 esp=5 density=1.3 depth=150 area=100", "esp=17.26306 rate=411.7806"},
	{"leach", "ec=8 target=4 depth=300 portion=30 area=100 water-ec=.5", "water=150 portions=5 litres=15000000 lr=2.5641"},
	{"leach", "ec=10 target=2 depth=300 area=1", "water=300 portions=10"},
	{"topdress", "depth=5 area=200", "volume=1.2 weight=1.92"},
	{"topdress", "depth=.25in area=5000ft2 material=compost load=1", "volume=3.53962 weight=2.12377 loads=4"},
	{"compost", "depth=5 dry=60 p=.3 n=1.5 area=100", "volume=.6 weight=.36 p=5.4 n=27"},
	{"silicon", "rate=300 area=50", "product=15000"},
	{"cores", "want=300 machine=120 tine=16 depth=80 area=100", "passes=3 holes=360 opened=7.23823 volume=.579058"},

	{"seed", "grass=tall-fescue way=new area=100 purity=98 germination=90", "rate=37.5 product=3750 half=18.75 low=3000 high=4500"},
	{"seed", "grass=kentucky-bluegrass way=overseed area=200 purity=95 germination=80", "rate=6.25 product=1250 pls=76"},
	{"seed", "grass=perennial-ryegrass way=interseed area=100", "low=1800 high=3600 product=2700"},
	{"sod", "roll=1 area=120 pallet=50 price=4", "rolls=126 sod=126 pallets=3 cost=504"},
	{"plugs", "grass=zoysiagrass spacing=150 area=20 growth=100", "plugs=889 days=178"},
	{"plugs", "grass=common-bermudagrass spacing=300 area=100 growth=80 days-left=60", "plugs=1112 days=93 spacing=197.2 plugs-in-time=2572"},
	{"gap", "grass=hybrid-bermudagrass gap=200 growth=100", "days=50"},
	{"gap", "grass=tall-fescue gap=200", "days=0"},
	{"sprigs", "rate=.4 area=250", "volume=1"},

	{
		"tank",
		"rate=4floz/1000ft2 carrier=1gal/1000ft2 tank=4gal area=10000ft2",
		"product=1182.941 mix=37854.118 fills=2 product-fill=473.1765 last-mix=7570.824 last-product=236.588 covers=371.612",
	},
	{"tank", "measure=mass rate-mass=.3 carrier=8 tank=100 area=1500", "product=450 mix=120000 fills=1 product-fill=375 last-product=75"},
	{"tank", "rate=.2 carrier=10 tank=15 area=150", "product=30 fills=1 product-fill=30"},
	{"percent", "strength=10 mix=12 tank=5", "product=120 water=11880 percent=1 fills=2 last-product=20"},
	{"nozzles", "catch=600 seconds=60 nozzles=3 distance=30 time=25 swath=1.5", "flow=1.8 speed=1.2 output=1.66667"},
	{"nozzles", "catch=1000 seconds=30 distance=20 time=20 swath=1 want=4", "flow=2 output=3.33333 pace=.833333 time=24"},
	{"hose-end", "rate=1 flow=15 minutes=10 area=200", "product=200 water=150000 carrier=75 dial=1.33333"},
	{"wetter", "rate=2 carrier=8 spots=4 width=2 area=500", "treated=28.2743 product=56.5487 water=2261.947"},

	{"spreader", "caught=600 length=20 swath=3 want=12 setting=15 n=20", "rate=10 error=-16.6667 setting=18 n-wanted=2.4 n-laid=2"},
	{
		"passes",
		"width=20 length=30 throw=4 overlap=25 rate=24 ways=two pace=1",
		"swath=3 passes=7 across=10 rate=12 pass=1080 product=14400 minutes=6.83333",
	},
	{"hopper", "start=20 end=17 done=200 want=12 setting=10 n=25 area=1000", "rate=15 error=25 setting=8 needed=9600"},

	{"sprinkler", "net=12 rate=30 du=60 texture=clay-loam area=250 price=3", "gross=15.78947 minutes=31.5789 litres=3947368 cost=11.8421"},
	{"hand-water", "depth=12 area=6 bucket=10 seconds=40", "flow=15 minutes=4.8 litres=72000"},
	{"cool", "rate=12", "minutes=7.5"},
	{"cool", "rate=.5in/h", "minutes=7.08661"},
	{"crew-heat", "air=33 rh=50", "index=36.28895 felt=44.28895"},

	{"third", "height=50 stands=125 grass=kentucky-bluegrass", "cuts=3 first=83.3333 days=6 at=75"},
	{"third", "height=60 stands=60 grass=kentucky-bluegrass mean=20", "growth=6 next=5 interval=5"},
	{"third", "height=30 stands=30 grass=zoysiagrass mean=24 ", "growth=1.8196 next=8"},
	{"raise", "from=50 to=75", "mowings=3"},
	{"raise", "from=100 to=50", "mowings=2"},
	{"blades", "hours=5 a-day=2", "hours=4 days=2"},
	{"weeding", "count=2 area=30 people=2", "minutes=5 weeds=60"},
	{"debris", "thatch=20 area=300", "volume=3"},
	{"degree-days", "target=150 so-far=30 base=10 min=8 max=22 method=mean", "day=5 days=24"},
	{"degree-days", "target=100 base=10 min=10 max=20", "day=5 days=20"},
	{"regulator", "mean=16 since=40", "days=10"},
	{"cover", "interval=14 growth=80 since=4", "days=9 left=5"},
	{"cover", "interval=14 growth=40", "days=14"},
	{"price", "price=120 measure=volume pack-volume=1 rate-volume=.13 weeks=3 area=400 active=20", "once=6.24 week=.52 active=60"},
	{"seeding-gap", "first=product interval=28 since=10 grass=tall-fescue frost=60", "days=18"},
	{"seeding-gap", "first=seed since=30 mowings=5 grass=perennial-ryegrass", "days=40"},

	{"area", "shape=rectangle length=20 width=10", "area=200 error=1.41421"},
	{"area", "shape=triangle first=3 second=4 third=5", "area=6"},
	{"area", "shape=circle across=10 side-error=2", "area=78.5398 error=4"},
	{"area", "shape=trapezoid one=10 other=14 apart=5", "area=60"},
	{"area", "shape=l whole-length=20 whole-width=10 corner-length=5 corner-width=4 out=30", "area=150 gross=180"},
	{"area", "shape=rectangle length=100ft width=50ft", "area=464.5152"},
	{"paces", "shape=rectangle length=40 width=20", "area=450 error=7.07107"},
	{"convert", "amount=1 unit=lb/1000ft2", "g/m2=4.88243 kg/ha=48.8243"},
	{"convert", "amount=85 unit=F", "C=29.4444"},
	{"convert", "amount=1 unit=gal/1000ft2", "L/100m2=4.07458"},
}

func entries(t *testing.T, text string) map[string]dose.Entry {
	t.Helper()
	out := map[string]dose.Entry{}
	for _, pair := range strings.Fields(text) {
		name, value, _ := strings.Cut(pair, "=")
		e, err := dose.Parse(value)
		require.NoError(t, err)
		out[name] = e
	}
	return out
}

func TestWorkedByHand(t *testing.T) {
	for _, w := range worked {
		for _, us := range []bool{false, true} { // what it comes to hangs on no unit system
			r, err := dose.Work(w.id, entries(t, w.in), units.Saying{Customary: us})
			require.NoError(t, err, "%s %s", w.id, w.in)
			for id, e := range entries(t, w.out) {
				x, ok := r.Value(id)
				require.True(t, ok, "%s %s has no %s", w.id, w.in, id)
				require.InDelta(t, e.Amount, x, math.Max(.004*math.Abs(e.Amount), 1e-9)*.05+1e-6, "%s %s: %s", w.id, w.in, id)
			}
		}
	}
}

// Every calculation is in the table above, so that none is only believed.
func TestEveryCalculationIsWorkedByHand(t *testing.T) {
	seen := map[string]bool{}
	for _, w := range worked {
		seen[w.id] = true
	}
	for _, c := range dose.All() {
		if c.ID != "price" && c.ID != "new-water" {
			require.True(t, seen[c.ID], "%s has no calculation by hand", c.ID)
		}
		require.NotEmpty(t, c.Source, c.ID)
		names := map[string]bool{}
		for _, f := range c.Fields {
			require.False(t, names[f.ID], "%s asks twice for %s", c.ID, f.ID)
			names[f.ID] = true
			if f.When != "" {
				on, _, _ := strings.Cut(f.When, "=")
				require.True(t, names[on], "%s: %s hangs on a later field", c.ID, f.ID)
			}
			if _, err := units.Lookup(f.Unit); err != nil {
				require.NotContains(t, units.Saying{}.Amount(1, f.Unit), "/ ", "%s: unit of %s", c.ID, f.ID)
			}
		}
	}
}

func TestWhatIsWrongIsRefusedByField(t *testing.T) {
	for _, w := range []struct{ id, in, field string }{
		{"nutrient", "target=2 n=20", "area"},
		{"nutrient", "target=2 n=20 area=-4", "area"},
		{"nutrient", "target=2 n=0 k2o=5 area=10", "n"},
		{"nutrient", "target=2 n=60 k2o=50 area=10", "n"},
		{"nutrient", "target=2kg n=20 area=10", "target"},
		{"nutrient", "target=2 n=20 area=10 colour=3", "colour"},
		{"nutrient", "target=2 n=20 area=10 release=sudden", "release"},
		{"lime", "ph=6.5 target=6 area=10", "target"},
		{"plugs", "grass=zoysiagrass spacing=100 plug=120 area=10", "plug"},
		{"seed", "grass=st-augustinegrass area=10", "grass"}, // not sown
		{"area", "shape=triangle first=1 second=2 third=9", "third"},
		{"area", "shape=l whole-length=3 whole-width=3 corner-length=4 corner-width=1", "corner-length"},
		{"hopper", "start=2 end=3 done=10 want=10 area=20", "end"},
		{"gypsum", "sar=10 area=10", "sodium"},
		{"nozzles", "catch=100 time=10 swath=1 nozzles=1.5", "nozzles"},
	} {
		_, err := dose.Work(w.id, entries(t, w.in), units.Saying{})
		var refused dose.Refused
		require.True(t, errors.As(err, &refused), "%s %s: %v", w.id, w.in, err)
		require.Equal(t, w.field, refused[0].Field, "%s %s", w.id, w.in)
	}
	_, err := dose.Work("tea", nil, units.Saying{})
	require.Error(t, err)
	_, err = dose.Parse("1.2.3kg")
	require.Error(t, err)
}

func TestLimitsAreSaid(t *testing.T) {
	for _, w := range []struct {
		id, in, limit string
		said          bool
	}{
		{"nutrient", "target=1lb/1000ft2 n=20 area=100", "most-n", false},
		{"nutrient", "target=5 n=20 area=100", "most-n", true},
		{"nutrient", "target=0.7lb/1000ft2 n=46 release=quick area=100", "most-n", false},
		{"nutrient", "target=3.6 n=46 release=quick area=100", "most-n", true},
		{"nutrient", "target=2 n=46 area=100", "least-even", true},
		{"nutrient", "target=2 n=46 area=100 density=1.2", "least-even", false},
		{"iron", "target=.25 fe=6 area=10 grass=centipedegrass", "most-fe", true},
		{"iron", "target=.25 fe=6 area=10", "most-fe", false},
		{"sulfur", "ph=8.1 target=7 area=10", "free-lime", true},
		{"sulfur", "ph=7.5 target=7 area=10 fizz=yes", "free-lime", true},
		{"sulfur", "ph=7.5 target=7 area=10 fizz=no", "free-lime", false},
		{"leach", "ec=8 target=2 water-ec=6 area=10", "water-salt", true},
		{"compost", "depth=3 soil-p=70 area=10", "phosphorus", true},
		{"compost", "depth=3 soil-p=60 area=10", "phosphorus", false},
		{"topdress", "depth=7 area=10", "smother", true},
		{"third", "height=40 stands=40 grass=tall-fescue", "height", true},
		{"third", "height=95 stands=95 grass=tall-fescue", "height", false},
		{"seeding-gap", "first=product interval=28 grass=tall-fescue frost=70", "too-late", true},
		{"seeding-gap", "first=product interval=14 grass=tall-fescue frost=70", "too-late", false},
		{"crew-heat", "air=26 rh=50", "breaks", true},
		{"crew-heat", "air=26 rh=50 sun=shade", "water", false},
		{"hopper", "start=2 end=1 done=100 want=10 area=300", "short", true},
	} {
		r, err := dose.Work(w.id, entries(t, w.in), units.Saying{})
		require.NoError(t, err, "%s %s", w.id, w.in)
		said := false
		for _, x := range r.Warnings {
			said = said || x.Limit == w.limit
			require.NotEmpty(t, x.Text)
		}
		require.Equal(t, w.said, said, "%s %s: %s", w.id, w.in, w.limit)
	}
}

// The error of the area is in every total and every rate: an area 10 % larger than thought takes a tenth more, or gets less.
func TestTheErrorOfTheAreaIsCarried(t *testing.T) {
	r, err := dose.Work("nutrient", entries(t, "target=4 n=20 area=100 area-error=10"), units.Saying{})
	require.NoError(t, err)
	for _, l := range r.Lines {
		switch l.ID {
		case "product":
			require.InDelta(t, 1800, l.Low, 1e-9)
			require.InDelta(t, 2200, l.High, 1e-9)
			require.Equal(t, "1.8 kg to 2.2 kg", l.Span)
		case "n":
			require.InDelta(t, 4/1.1, l.Low, 1e-9)
			require.InDelta(t, 4/.9, l.High, 1e-9)
		}
	}
	r, err = dose.Work("nutrient", entries(t, "target=4 n=20 area=100"), units.Saying{})
	require.NoError(t, err)
	require.Empty(t, r.Lines[0].Span)
}

// What is proposed follows from test and grass by the same rules as the bench.
func TestADoseFollowsFromTheFacts(t *testing.T) {
	grass := func(id string) turf.Species { g, ok := turf.ByID(id); require.True(t, ok); return g }
	type figures = map[string]float64
	for _, x := range []struct {
		action string
		f      dose.Known
		of     string
		gM2    float64 // 0: nothing follows
	}{
		{"apply-lime", dose.Known{Grass: grass("tall-fescue"), Texture: "loam", Figures: figures{"soil-ph": 5}}, "product", 240 * .8 * 100 / 150},                   // to 5.8
		{"apply-lime", dose.Known{Grass: grass("kentucky-bluegrass"), Texture: "clay", Figures: figures{"soil-ph": 5}}, "product", 350 * 1.3 * 100 / 150 / 2},       // two portions
		{"apply-lime", dose.Known{Grass: grass("tall-fescue"), Figures: figures{"soil-ph": 6.2}}, "", 0},                                                            // sweet enough
		{"apply-lime", dose.Known{Grass: grass("tall-fescue")}, "", 0},                                                                                              // no test
		{"apply-acidifier", dose.Known{Grass: grass("creeping-bentgrass"), Texture: "loamy-sand", Figures: figures{"soil-ph": 7.5}}, "s", 50 * 1.0 * 100 / 150 / 7}, // five grams at most
		{"apply-phosphorus", dose.Known{Figures: figures{"soil-p-ppm": 11}}, "p", 1.5},
		{"apply-phosphorus", dose.Known{Figures: figures{"soil-p-ppm": 1}}, "p", 1.5}, // three grams in two portions
		{"apply-phosphorus", dose.Known{Figures: figures{"soil-p-ppm": 40}}, "", 0},
		{"apply-potassium", dose.Known{Figures: figures{"soil-k-ppm": 27, "removed": 2}}, "k", 2.5},
		{"apply-potassium", dose.Known{}, "", 0},
		{"apply-iron", dose.Known{Grass: grass("tall-fescue")}, "fe", .2},
		{"apply-iron", dose.Known{Grass: grass("centipedegrass")}, "fe", .15},
		{"overseed", dose.Known{Grass: grass("tall-fescue")}, "product", 18.75},
		{"slit-seed", dose.Known{Grass: grass("perennial-ryegrass")}, "product", 28.125},
		{"overseed", dose.Known{Grass: grass("st-augustinegrass")}, "", 0}, // not sown
		{"core-aerate", dose.Known{Grass: grass("tall-fescue")}, "", 0},
	} {
		w, ok := dose.Proposed(x.action, x.f)
		require.Equal(t, x.gM2 > 0, ok, "%s %+v", x.action, w)
		require.Equal(t, x.of, w.Of)
		require.InDelta(t, x.gM2, w.GM2, 1e-6, x.action)
	}
}

func TestCutsTakeNoMoreThanAThird(t *testing.T) {
	for from := 30.0; from < 400; from += 7 {
		for to := 12.0; to < from; to += 9 {
			at := from
			for _, h := range dose.Steps(from, to) {
				require.LessOrEqual(t, (at-h)/at, 1.0/3+1e-9)
				at = h
			}
			require.InDelta(t, to, at, 1e-9)
		}
	}
}

// Every action that takes an amount has its sum: what is known is entered, what is missing is named, and nothing else is asked.
func TestTheSumOfAnAction(t *testing.T) {
	g, _ := turf.ByID("kentucky-bluegrass")
	k := dose.Known{Grass: g, Texture: "sandy-loam", Figures: map[string]float64{"area": 400, "area-error": 10, "soil-ph": 5.5,
		"catch-can-mm-h": 30, "catch-can-du": .6, "thatch-mm": 25, "mowing-height-mm": 40, "mow-to": 65, "n-dose": 4.9, "soil-sar": 1e6}}
	for action, want := range map[string]struct {
		line    string
		value   float64
		missing []string
	}{
		"apply-lime":          {"rate", 240 * .8 * 100 / 150, nil},
		"overseed":            {"rate", 4.75, nil},
		"topdress":            {"volume", 400 * .005 * 1.2, nil},
		"resod":               {"rolls", 420, nil},
		"raise-mowing-height": {"mowings", 3, nil},
		"survival-water":      {"minutes", 12 / .76 / 30 * 60, nil},
		"scarify":             {"volume", 400 * 25 * .0005, nil},
		"apply-nitrogen":      {"", 0, []string{"n"}},
		"plug-or-sprig":       {"plugs", 4445, nil},
		"apply-phosphorus":    {"", 0, []string{"test"}},
		"apply-gypsum":        {"", 0, []string{"sodium"}}, // a figure outside the limits is none
		"water-deep":          {"", 0, []string{"net"}},
		"herbicide-spot":      {"", 0, []string{"rate", "carrier", "tank"}},
	} {
		p, ok := dose.PlannedFor(action, k, units.Saying{})
		require.True(t, ok, action)
		if want.line != "" {
			require.Empty(t, p.Missing, action)
			x, known := p.Result.Value(want.line)
			require.True(t, known, "%s %+v", action, p.Result.Lines)
			require.InDelta(t, want.value, x, 1e-6, action)
		}
		if want.missing != nil {
			require.Subset(t, p.Missing, want.missing, action)
			require.Empty(t, p.Result.Lines, action)
		}
	}
	_, ok := dose.PlannedFor("leave-alone", k, units.Saying{})
	require.False(t, ok)
}
