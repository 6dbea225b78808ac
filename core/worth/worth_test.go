package worth

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

func num(x float64) *float64 { return &x }

// Every figure has its limits, and the error names it.
func TestPricesHaveLimits(t *testing.T) {
	require.NoError(t, DefaultPrices.Check())
	for name, set := range map[string]func(p *Prices, x float64){
		"lawn_m2": func(p *Prices, x float64) { p.LawnM2 = x }, "hour": func(p *Prices, x float64) { p.Hour = x },
		"fungicide": func(p *Prices, x float64) { p.Fungicide = x }, "insecticide": func(p *Prices, x float64) { p.Insecticide = x },
		"herbicide": func(p *Prices, x float64) { p.Herbicide = x }, "feed": func(p *Prices, x float64) { p.Feed = x },
		"amendment": func(p *Prices, x float64) { p.Amendment = x }, "seed": func(p *Prices, x float64) { p.Seed = x },
		"water_m3": func(p *Prices, x float64) { p.WaterM3 = x }, "lab": func(p *Prices, x float64) { p.Lab = x },
	} {
		p := DefaultPrices
		set(&p, -1)
		require.ErrorContains(t, p.Check(), name)
		set(&p, 1e9)
		require.ErrorContains(t, p.Check(), name)
	}
	free := DefaultPrices
	free.Hour = 0
	require.Error(t, free.Check(), "an hour that costs nothing is no price")
	free.Hour, free.Seed = 1, 0
	require.NoError(t, free.Check(), "seed may be a gift")
}

// The price of a feeding, by hand: five minutes to get ready and four for 100 m², material for 100 m².
func TestAPrice(t *testing.T) {
	p := Prices{LawnM2: 8, Hour: 60, Feed: 4, WaterM3: 3, Lab: 45}
	price, ok := p.Price("apply-nitrogen", 250)
	require.True(t, ok)
	require.InDelta(t, (5+4*2.5)+4*2.5, price, 1e-9)
	// 25 mm on 100 m² are 2.5 m³
	price, ok = p.Price("water-deep", 100)
	require.True(t, ok)
	require.InDelta(t, (3+2)+2.5*3, price, 1e-9)
	price, ok = p.Price("soil-test", 100)
	require.True(t, ok)
	require.InDelta(t, 20+45, price, 1e-9, "the laboratory's part comes on top")
	_, ok = p.Price("dance-on-it", 100)
	require.False(t, ok)
}

// The area at stake: what was measured, else the share of the zone, else a usual patch within the zone.
func TestTheAreaAtStake(t *testing.T) {
	share := map[string]knowledge.Value{"affected-area-percent": knowledge.NumberValue(25)}
	for _, x := range []struct {
		lawn  knowledge.Lawn
		found map[string]knowledge.Value
		want  float64
	}{
		{knowledge.Lawn{}, nil, 60},
		{knowledge.Lawn{AreaM2: num(40)}, nil, 40},
		{knowledge.Lawn{AreaM2: num(400)}, nil, 60},
		{knowledge.Lawn{AreaM2: num(400)}, share, 100},
		{knowledge.Lawn{AreaM2: num(400), AffectedM2: num(30)}, share, 30},
		{knowledge.Lawn{AffectedM2: num(1)}, nil, 5},
		{knowledge.Lawn{}, share, 60},
	} {
		require.InDelta(t, x.want, Damage(x.lawn, x.found), 1e-9)
	}
}

// Acting pays from harm over harm and benefit; worked by hand for a remedy without material and work.
func TestTheMarks(t *testing.T) {
	p := Prices{LawnM2: 10, Hour: 60, Lab: 45}
	s := Stake{Remedy: "x", Saves: .5, Hurts: .25}
	m := p.Weigh(s, "no-such-cause", 100, false)
	require.InDelta(t, 500, m.Benefit, 1e-9)
	require.InDelta(t, 250, m.Harm, 1e-9)
	require.InDelta(t, 250./750, m.Act, 1e-9)
	require.Equal(t, m.Act, m.From, "without a check that proves it there is nothing between")
	require.Equal(t, m.Act, m.To)
	require.Equal(t, "act", m.Call(m.Act))
	require.Equal(t, "leave", m.Call(m.Act-.01))
	dear := p.Weigh(Stake{Remedy: "x", Saves: .01, Hurts: .9}, "no-such-cause", 100, false)
	require.InDelta(t, .95, dear.Act, 1e-9, "nothing needs certainty")
	cheap := p.Weigh(Stake{Remedy: "x", Saves: .99, Hurts: .001}, "no-such-cause", 100, false)
	require.InDelta(t, .1, cheap.Act, 1e-9, "nothing is worth a guess")
}

// The grub count is worth its minutes between two chances; where an hour costs a fortune it is not.
func TestACheckPaysBetweenTwoChances(t *testing.T) {
	m := MarksFor("white-grubs", DefaultPrices, 60, false)
	require.Equal(t, "grubs-per-m2", m.Check)
	require.Less(t, m.From, m.Act)
	require.Less(t, m.Act, m.To)
	require.Equal(t, "check", m.Call((m.From+m.To)/2))
	fortune := DefaultPrices
	fortune.Hour = 10000
	dear := MarksFor("white-grubs", fortune, 60, false)
	require.Equal(t, dear.Act, dear.From)
	l := knowledge.Lawn{Date: time.Date(2026, 8, 1, 0, 0, 0, 0, time.UTC), Species: []string{"tall-fescue"}, AreaM2: num(60)}
	require.Equal(t, m, MarksOn(l, nil, "white-grubs", DefaultPrices))
}

// Prices go into a case file and come back; what is none is left aside by name.
func TestPricesInACaseFile(t *testing.T) {
	p := Prices{LawnM2: 12, Hour: 50, Fungicide: 9, Insecticide: 7, Herbicide: 5, Feed: 4, Amendment: 8, Seed: 12, WaterM3: 3, Lab: 40}
	back, aside := Utilities(p.Utilities())
	require.Equal(t, p, back)
	require.Empty(t, aside)
	some, aside := Utilities(map[string]any{"hour": 80.0, "lab": -4.0, "feed": "much", "beer": 3.0})
	require.Equal(t, 80.0, some.Hour)
	require.Equal(t, DefaultPrices.Lab, some.Lab)
	require.Equal(t, []string{"beer", "feed", "lab"}, aside)
	none, aside := Utilities(nil)
	require.Equal(t, DefaultPrices, none)
	require.Empty(t, aside)
}
