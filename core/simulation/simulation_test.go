package simulation

import (
	"context"
	"math/rand/v2"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/knowledge"
	"hodos/core/worth"
)

func seeded(seed, stream uint64) knowledge.Chance { return rand.New(rand.NewPCG(seed, stream)) }

func TestTheSameSeedGivesTheSameReportOnAnyNumberOfWorkers(t *testing.T) {
	var last atomic.Int64
	o := Options{Lawns: 5, Seed: 3, Wrong: .1, Missing: .2, Weather: .5, Spread: .4, Worlds: 3, Chance: seeded,
		Progress: func(done int) { last.Store(int64(done)) }}
	one, err := Run(context.Background(), o)
	require.NoError(t, err)
	require.EqualValues(t, 5, last.Load())
	o.Workers = 5
	five, err := Run(context.Background(), o)
	require.NoError(t, err)
	require.Equal(t, one, five)
	o.Seed, o.Strategies = 4, []Strategy{Fixed}
	other, err := Run(context.Background(), o)
	require.NoError(t, err)
	require.NotEqual(t, one.Of[0], other.Of[0])
	require.Len(t, one.Of, len(Strategies()))
	next, sampled, brief := one.Of[1], one.Of[2], one.Of[3]
	require.GreaterOrEqual(t, sampled.Minutes, next.Minutes, "samples are taken at its end")
	require.Less(t, brief.Minutes, next.Minutes, "a brief visit stops sooner")
	require.GreaterOrEqual(t, brief.Regret, next.Regret)
}

func TestARunCanBeStopped(t *testing.T) {
	ctx, stop := context.WithCancel(context.Background())
	o := Options{Lawns: 1e6, Chance: seeded, Strategies: []Strategy{Free}, Progress: func(int) { stop() }}
	_, err := Run(ctx, o)
	require.ErrorIs(t, err, context.Canceled)
}

// Every strategy meets the same lawn: with nothing missing and nothing wrong the free questions tell less than all
// checks, and cost less.
func TestMoreIsKnownWhereMoreIsLookedAt(t *testing.T) {
	r, err := Run(context.Background(), Options{Lawns: 40, Seed: 11, Weather: 1, Chance: seeded, Strategies: []Strategy{Free, Fixed},
		Workers: 2})
	require.NoError(t, err)
	free, fixed := r.Of[0], r.Of[1]
	require.Greater(t, fixed.Right, free.Right)
	require.Less(t, fixed.Brier, free.Brier)
	require.Less(t, free.Minutes, fixed.Minutes/3)
	lawns := 0
	for _, g := range fixed.Families {
		lawns += g.Lawns
	}
	require.Equal(t, 40, lawns, "every lawn belongs to one family")
}

// A sample goes to the laboratory where what it may change is worth more than its fee and the wait; what it costs is borne.
func TestASampleIsSentWhereItPays(t *testing.T) {
	p := draw(NewWorld(0, seeded(5, 1)), Options{}, seeded(5, 2))
	p.Lawn.Species, p.Causes, p.weather = []string{"kentucky-bluegrass"}, []string{"potassium-deficiency"}, nil
	p.gone = map[string]bool{}
	area := 400.0
	p.Lawn.AffectedM2 = &area
	values := map[string]string{"growth-rate": "slow", "onset-speed": "gradual", "texture": "sand", "pull-test": "resists"}
	visit := func(area float64) visit {
		p.Lawn.AffectedM2 = &area
		v := visit{patient: &p, scales: diagnosis.NewScales(p.Lawn), begun: map[string]bool{}}
		for id, word := range values {
			v.scales.Add(id, knowledge.WordValue(word))
		}
		v.scales.Add("leaf-symptoms", knowledge.ListValue("scorched-margins"))
		v.scales.Add("pattern", knowledge.ListValue("uniform"))
		return v
	}
	large := visit(area)
	large.values["soil-k-ppm"] = knowledge.NumberValue(9)
	before := large.scales.Regret(p.Causes)
	large.send()
	require.Greater(t, large.fees, worth.DefaultPrices.Lab, "the wait is paid for beside the laboratory")
	require.Less(t, large.scales.Regret(p.Causes)+large.fees, before)
	require.Greater(t, large.out.minutes, 10.0, "taking it takes its time")

	small := visit(6)
	small.send()
	require.Zero(t, small.fees, "six square metres do not pay a laboratory")
	require.Zero(t, small.out.checks)
}

func TestReportCountsWhatWasSaid(t *testing.T) {
	said := func(truth string, p ...float64) []outcome {
		o := outcome{causes: []string{"white-grubs", "rust", knowledge.Healthy}, p: p, minutes: 10, checks: 4}
		if truth != "" {
			o.truth = []string{truth}
		}
		return []outcome{o}
	}
	r := report(Options{Lawns: 4, Strategies: []Strategy{Next}}, [][]outcome{
		said("white-grubs", .84, .05, .11), said("white-grubs", .86, .02, .12), said("", .85, .05, .1), said("rust", .2, .7, .1),
	})
	s := r.Of[0]
	require.Equal(t, 3, s.Right)
	require.InDelta(t, 10, s.Minutes, 1e-12)
	high := s.Bins[7]
	require.Equal(t, 3, high.N)
	require.InDelta(t, .85, high.Said, 1e-12)
	require.InDelta(t, 2./3, high.Was, 1e-12)
	// 2 of 3 by Wilson's interval: 0.208 to 0.939
	require.InDelta(t, .208, high.From, .001)
	require.InDelta(t, .939, high.To, .001)
	require.InDelta(t, (.16*.16+.05*.05+.11*.11+.14*.14+.02*.02+.12*.12+.85*.85+.05*.05+.9*.9+.2*.2+.3*.3+.1*.1)/4, s.Brier, 1e-12)
	require.Zero(t, s.Worst(), "three predictions judge nothing")
	require.Empty(t, s.Beyond(.02))
	wrong := Score{Bins: []Bin{{N: 900, Said: .85, Was: .7, From: .67, To: .73}, {N: 5, Said: .5, Was: .2, From: .04, To: .62}}}
	require.Len(t, wrong.Beyond(.07), 1)
	require.InDelta(t, .15, wrong.Worst(), 1e-12)
	require.Equal(t, []Group{{"disease", 1, 1}, {"healthy", 1, 0}, {"insect", 2, 2}}, s.Families)
}

// A world with a spread differs from the tables, and stays a world: it draws values that the vocabulary accepts.
func TestDrawnAnswersAreOnesThatASpecialistCouldGive(t *testing.T) {
	w := NewWorld(.6, seeded(5, 1))
	for i := range 30 {
		p := draw(w, Options{Wrong: .3, Weather: 1}, seeded(5, uint64(100+i)))
		for _, f := range knowledge.Weighed() {
			_, err := knowledge.ValueOf(&f, p.values[f.ID].Plain())
			require.NoError(t, err, f.ID)
		}
		require.LessOrEqual(t, len(p.Causes), 3)
	}
}
