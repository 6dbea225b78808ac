package counts

// Plot is a drawn piece of lawn, seen from above, of which the damaged share is known: to train the eye that estimates shares.
type Plot struct {
	Columns, Rows int
	Damaged       []bool // row by row
	Share         float64
}

// Size of a plot and how its patches are drawn (judgement).
const (
	plotColumns = 60
	plotRows    = 40
	mostPatches = 12
	leastShare  = 1.0 // per cent
	mostShare   = 85.0
	anew        = .04 // chance that the next cell begins another patch while there are some left
)

// Draw draws a plot of ragged patches; chance gives numbers from 0 up to 1. Small shares come up more often than large ones, as on lawns.
func Draw(chance func() float64) Plot {
	p := Plot{Columns: plotColumns, Rows: plotRows, Damaged: make([]bool, plotColumns*plotRows)}
	u := chance()
	wanted := max(1, int((leastShare+(mostShare-leastShare)*u*u)/100*float64(len(p.Damaged))))
	patches := 1 + int(chance()*mostPatches)
	edge := []int{} // damaged cells from which it spreads
	for n := 0; n < wanted; {
		at := int(chance() * float64(len(p.Damaged)))
		if grow := len(edge) > 0 && (patches == 0 || chance() >= anew); grow {
			at = p.beside(edge[int(chance()*float64(len(edge)))], chance)
		} else if patches > 0 {
			patches--
		}
		if at >= 0 && !p.Damaged[at] {
			p.Damaged[at] = true
			edge = append(edge, at)
			n++
		}
	}
	p.Share = float64(wanted) / float64(len(p.Damaged)) * 100
	return p
}

// beside is a cell next to another; -1 beyond the edge of the plot.
func (p *Plot) beside(at int, chance func() float64) int {
	x, y := at%p.Columns, at/p.Columns
	switch int(chance() * 4) {
	case 0:
		x++
	case 1:
		x--
	case 2:
		y++
	default:
		y--
	}
	if x < 0 || y < 0 || x >= p.Columns || y >= p.Rows {
		return -1
	}
	return y*p.Columns + x
}
