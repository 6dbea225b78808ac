package counts

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
)

func protocol(t *testing.T, finding string) Protocol {
	t.Helper()
	p, ok := Of(finding)
	require.True(t, ok)
	return p
}

// found draws what a place of a field holds: the negative binomial as a Poisson whose mean is drawn from a gamma of shape k.
func found(r *rand.Rand, mu, k float64) float64 {
	g := 0.0
	// Marsaglia and Tsang; shapes under one are boosted
	shape, boost := k, 1.0
	if shape < 1 {
		boost = math.Pow(r.Float64(), 1/shape)
		shape++
	}
	d := shape - 1./3
	for {
		x := r.NormFloat64()
		v := math.Pow(1+x/math.Sqrt(9*d), 3)
		if v > 0 && math.Log(r.Float64()) < .5*x*x+d-d*v+d*math.Log(v) {
			g = d * v * boost
			break
		}
	}
	mean, n, p := g*mu/k, 0.0, r.Float64()
	for term := math.Exp(-mean); p > term && n < 5000; n++ {
		p -= term
		term *= mean / (n + 1)
	}
	return n
}

// playField counts one simulated field until the protocol says that it is enough.
func playField(r *rand.Rand, p Protocol, density, k, limit float64) (w Weighed, places []Place) {
	for {
		places = append(places, Place{found(r, density*900/1e4, k), 900})
		if w = p.Weigh(places, limit); w.Settled {
			return w, places
		}
	}
}

// waldPlaces is how many places Wald's sequential test of half the limit against twice the limit takes, knowing the clumping, and what it
// says; errors of one in ten.
func waldPlaces(r *rand.Rand, density, k, limit float64) (n int, over bool) {
	low, high, sum := limit/2*.09, limit*2*.09, 0.0
	bound := math.Log(9)
	for sum > -bound && sum < bound && n < 50 {
		x := found(r, density*.09, k)
		sum += math.Log(clumpedChance(x, high, k) / clumpedChance(x, low, k))
		n++
	}
	return n, sum > 0
}

// On simulated fields of known density and clumping a count is wrong about the limit in no more than one decision in ten at half and at
// twice the limit, bar the most clumped fields, and takes fewer squares than the usual four where the answer is plain. It does not know the
// clumping, and takes about as many as Wald's test that does.
func TestSimulatedFieldsOfKnownCounts(t *testing.T) {
	const fields, limit = 150, 65.0
	p := protocol(t, "grubs-per-m2")
	for _, field := range []struct{ k, times, wrong, places float64 }{
		{.5, 0, 0, 2.1}, {.5, .25, .1, 3.2}, {.5, .5, .17, 3.9}, {.5, 2, .32, 3.3}, {.5, 4, .14, 2.8},
		{1, .25, .04, 3}, {1, .5, .13, 4.2}, {1, 2, .13, 3.2}, {1, 4, .04, 2.5},
		{3, 0, 0, 2.1}, {3, .25, .02, 2.9}, {3, .5, .1, 4.4}, {3, 2, .1, 2.9}, {3, 4, .01, 2.2},
	} {
		r := rand.New(rand.NewPCG(uint64(field.k*10), uint64(field.times*100)))
		places, wrong, wald := 0, 0, 0
		for range fields {
			w, at := playField(r, p, limit*field.times+1e-6, field.k, limit)
			places += len(at)
			if w.State == Over && field.times < 1 || w.State == Under && field.times > 1 {
				wrong++
			}
			n, _ := waldPlaces(r, limit*field.times+1e-6, field.k, limit)
			wald += n
		}
		said, share := float64(places)/fields, float64(wrong)/fields
		t.Logf("clumping %.1f, %.2f of the limit: %.1f places (Wald %.1f), wrong %.3f", field.k, field.times, said, float64(wald)/fields, share)
		require.LessOrEqual(t, share, field.wrong)
		require.LessOrEqual(t, said, field.places)
	}
}

// What is said to be 90 % sure of being over is over in about that share of fields: densities drawn as the belief thinks of them.
func TestTheChanceOfBeingOverIsTrue(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	p := protocol(t, "grubs-per-m2")
	sums := map[int][3]float64{}
	for range 2000 {
		density := 65 * math.Pow(within, 2*r.Float64()-1)
		k := clumped[r.IntN(len(clumped))]
		places := []Place{{found(r, density*.09, k), 900}, {found(r, density*.09, k), 900}}
		b := newBelief(65)
		for _, x := range places {
			b, _ = b.after(x)
		}
		w := p.Weigh(places, 65)
		require.InDelta(t, b.over(65), w.Over, 1e-9)
		bin := sums[int(w.Over*4.999)]
		bin[0]++
		bin[1] += w.Over
		if density >= 65 {
			bin[2]++
		}
		sums[int(w.Over*4.999)] = bin
	}
	for bin, x := range sums {
		t.Logf("bin %d: %.0f fields, said %.3f, so %.3f", bin, x[0], x[1]/x[0], x[2]/x[0])
		if x[0] > 100 {
			require.InDelta(t, x[1]/x[0], x[2]/x[0], .07)
		}
	}
}

func TestACountInFourSquares(t *testing.T) {
	p := protocol(t, "grubs-per-m2")
	places := []Place{{12, 900}, {5, 900}, {9, 900}, {8, 900}}
	w := p.Weigh(places, 65)
	require.InDelta(t, 94.4, w.Value, .05, "34 in 0.36 m²")
	require.InDelta(t, 32, w.Spread, 1)
	require.Less(t, w.Low, 65.0)
	require.Greater(t, w.High, 130.0)
	require.Equal(t, Over, w.State)
	require.Greater(t, w.Over, .85)

	one := p.Weigh(places[:1], 65)
	require.Equal(t, Begun, one.State)
	require.False(t, one.Settled)
	require.True(t, math.IsNaN(one.Spread))

	line := p.Weigh([]Place{{6, 900}, {0, 900}}, 65)
	require.Equal(t, More, line.State)
	require.Greater(t, line.Turns, turns)

	none := p.Weigh([]Place{{0, 900}, {0, 900}}, 65)
	require.Equal(t, Under, none.State)
	require.Less(t, none.Over, .05)

	told := p.Weigh(places, math.Inf(1))
	require.Equal(t, Told, told.State)
	require.True(t, math.IsNaN(told.Over) && told.Settled)
	require.Greater(t, told.High, told.Value)

	long := []Place{{6, 900}, {5, 900}, {7, 900}, {5, 900}, {6, 900}, {7, 900}, {5, 900}, {6, 900}}
	require.Equal(t, OnLine, p.Weigh(long, 65).State, "eight squares at the limit itself")
}

func TestCrownsCut(t *testing.T) {
	p := protocol(t, "crowns-alive-percent")
	for _, c := range []struct {
		alive, cut float64
		state      State
	}{{5, 5, Begun}, {19, 20, Alive}, {10, 10, Alive}, {13, 20, More}, {10, 20, Mixed}, {1, 12, Dead}, {28, 40, Mixed}, {29, 45, Mixed}} {
		w := p.Weigh([]Place{{c.alive, c.cut}}, 0)
		require.Equal(t, c.state, w.State, "%v of %v, %.2f", c.alive, c.cut, w.Over)
		require.Equal(t, math.Round(c.alive/c.cut*100), w.Value)
		require.LessOrEqual(t, w.Low, w.Value)
		require.GreaterOrEqual(t, w.High, w.Value)
	}
	two := p.Weigh([]Place{{9, 10}, {10, 10}}, 0)
	require.Equal(t, 95.0, two.Value)
	require.True(t, two.Settled)
}

func TestADropStandsAsLongAsItDoesAnywhere(t *testing.T) {
	p := protocol(t, "water-drop-seconds")
	w := p.Weigh([]Place{{3, 10}, {140, 20}, {60, 30}}, 5)
	require.Equal(t, 140.0, w.Value)
	require.True(t, w.Settled)
	require.False(t, p.Weigh([]Place{{3, 10}}, 5).Settled)
}

func TestCountsThatCannotBe(t *testing.T) {
	for _, c := range []struct {
		finding string
		places  []Place
		says    string
	}{
		{"grubs-per-m2", nil, "places: 0"},
		{"grubs-per-m2", make([]Place, MostPlaces+1), "places: 25"},
		{"grubs-per-m2", []Place{{3, 900}, {2.5, 900}}, "place 2 is not a whole number"},
		{"grubs-per-m2", []Place{{-1, 900}}, "place 1 counts -1"},
		{"grubs-per-m2", []Place{{1, 0}}, "place 1 has 0 cm²"},
		{"grubs-per-m2", []Place{{1, math.NaN()}}, "place 1 has NaN cm²"},
		{"crowns-alive-percent", []Place{{3, 2}}, "3 alive of 2 cut"},
		{"crowns-alive-percent", []Place{{0, 0}}, "0 crowns cut"},
		{"water-drop-seconds", []Place{{4000, 10}}, "stands 4000 s"},
		{"water-drop-seconds", []Place{{4, 900}}, "lies at 900 mm"},
	} {
		require.ErrorContains(t, protocol(t, c.finding).Check(c.places), c.says)
	}
	require.NoError(t, protocol(t, "crowns-alive-percent").Check([]Place{{18, 20}}))
	_, ok := Of("soil-ph")
	require.False(t, ok)
}

func TestEveryToolAndFindingIsKnown(t *testing.T) {
	known := map[string]bool{}
	for _, x := range Tools() {
		known[x.ID] = true
		require.True(t, x.CM2 >= leastCM2 && x.CM2 <= mostCM2, x.ID)
	}
	for _, p := range Protocols() {
		f, ok := knowledge.FindingByID(p.Finding)
		require.True(t, ok, p.Finding)
		require.Equal(t, knowledge.Number, f.Kind)
		require.LessOrEqual(t, p.Places, p.Most)
		for _, id := range p.Tools {
			require.True(t, known[id], id)
		}
	}
}

func BenchmarkWeigh(b *testing.B) {
	p, _ := Of("grubs-per-m2")
	places := []Place{{12, 900}, {5, 900}, {9, 900}, {8, 900}}
	for b.Loop() {
		p.Weigh(places, 65)
	}
}
