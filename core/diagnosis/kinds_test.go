package diagnosis

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// drawnSets are all sets of up to three of n causes, with chances that add up to one.
func drawnSets(n int, c *rand.Rand) (sets []set) {
	add := func(size int, members ...int) {
		s := set{size: size, p: c.Float64()}
		copy(s.members[:], members)
		sets = append(sets, s)
	}
	add(0)
	for i := range n {
		add(1, i)
		for j := i + 1; j < n; j++ {
			add(2, i, j)
			for k := j + 1; k < n; k++ {
				add(3, i, j, k)
			}
		}
	}
	total := 0.0
	for _, s := range sets {
		total += s.p
	}
	for i := range sets {
		sets[i].p /= total
	}
	return sets
}

// drawnFeature is one of which some causes speak, with drawn chances of its outcomes in each kind.
func drawnFeature(sets []set, n, outcomes int, c *rand.Rand) (ft feature) {
	speaks := make([]bool, n)
	for k := range speaks {
		speaks[k] = c.Float64() < .4
	}
	var room []int32
	var which []set
	ft.kinds, which = kindsOf(sets, speaks, &room)
	ft.p = make([][]float64, outcomes)
	for range which {
		sum, row := 0.0, make([]float64, outcomes)
		for o := range row {
			row[o] = c.Float64()
			sum += row[o]
		}
		for o := range row {
			ft.p[o] = append(ft.p[o], row[o]/sum)
		}
	}
	return ft
}

// What is asked of the kinds is what asking every set by itself would say, of one feature and of three together.
func TestKindsTellWhatTheirSetsTell(t *testing.T) {
	c := rand.New(rand.NewPCG(3, 1))
	const n = 9
	sets := drawnSets(n, c)
	fs := []feature{drawnFeature(sets, n, 3, c), drawnFeature(sets, n, 2, c), drawnFeature(sets, n, 4, c)}
	require.Less(t, len(fs[0].mass), len(sets))
	naive := func(fs ...feature) (bits float64) {
		outcomes := [][]int{{}}
		for _, f := range fs {
			var next [][]int
			for _, o := range outcomes {
				for v := range f.p {
					next = append(next, append(append([]int{}, o...), v))
				}
			}
			outcomes = next
		}
		for _, o := range outcomes {
			chance, q := make([]float64, len(sets)), 0.0
			for s := range sets {
				chance[s] = 1
				for i, f := range fs {
					chance[s] *= f.p[o[i]][f.of[s]]
				}
				q += sets[s].p * chance[s]
			}
			for s := range sets {
				bits += sets[s].p * chance[s] * math.Log2(chance[s]/q)
			}
		}
		return bits
	}
	require.InDelta(t, naive(fs[0]), fs[0].told(fs[0].p), 1e-12)
	require.InDelta(t, naive(fs...), jointGain(fs, sets), 1e-12)
	require.GreaterOrEqual(t, fs[0].bound(fs[0].p), fs[0].told(fs[0].p))
	total := 0.0
	for _, w := range fs[1].mass {
		total += w
	}
	require.InDelta(t, 1, total, 1e-12)
	for s := range sets[1:] {
		require.NotEqual(t, fs[0].of[0], fs[0].of[s+1], "nothing wrong is a kind of its own")
	}
}
