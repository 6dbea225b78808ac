package counts

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// What is drawn is as large as it is said to be, the same for the same seed, of every size, and in patches: most damaged
// cells touch another.
func TestDrawnPlots(t *testing.T) {
	small, large := 0, 0
	for seed := range uint64(200) {
		p := Draw(rand.New(rand.NewPCG(seed, 1)).Float64)
		require.Equal(t, p, Draw(rand.New(rand.NewPCG(seed, 1)).Float64))
		n, touching := 0, 0
		for i, d := range p.Damaged {
			if !d {
				continue
			}
			n++
			if i%p.Columns > 0 && p.Damaged[i-1] || i%p.Columns < p.Columns-1 && p.Damaged[i+1] || i >= p.Columns && p.Damaged[i-p.Columns] ||
				i+p.Columns < len(p.Damaged) && p.Damaged[i+p.Columns] {
				touching++
			}
		}
		require.InDelta(t, p.Share, 100*float64(n)/float64(p.Columns*p.Rows), 1e-9)
		require.True(t, p.Share >= .9 && p.Share <= mostShare)
		require.Greater(t, float64(touching), .85*float64(n)-mostPatches)
		if p.Share < 10 {
			small++
		}
		if p.Share > 50 {
			large++
		}
	}
	require.Greater(t, small, large)
	require.Positive(t, large)
}
