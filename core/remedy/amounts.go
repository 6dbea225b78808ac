package remedy

import (
	"fmt"
	"math"
)

// Analysis is what a fertilizer bag promises, in per cent by weight: N, P₂O₅, K₂O and Fe.
type Analysis struct{ N, P2O5, K2O, Fe float64 }

// Oxide to element, by molar mass: P = 0.436 P₂O₅, K = 0.830 K₂O.
const (
	pOfP2O5 = .436
	kOfK2O  = .830
)

// Dose is what an application comes to.
type Dose struct {
	ProductGM2   float64 // product, g/m²
	ProductG     float64 // product for the area, g
	N, P, K, Fe  float64 // elements, g/m²
	ErrorPercent float64 // what the error of the area does to the dose, per cent
	Warnings     []string
}

// Most nitrogen in one application, g N/m² (1 lb and 0.7 lb per 1000 ft²; extension consensus).
const (
	MostNitrogen      = 4.9
	MostQuickNitrogen = 3.42
)

// ForNitrogen computes the product for a target of nitrogen: product = target / fraction. target is in g N/m², area in
// m², areaError is the 95 % error of the area as a fraction. It refuses a product without nitrogen, an area that is not
// positive and a target outside 0 to 25 g N/m².
func ForNitrogen(target float64, a Analysis, area, areaError float64, quick bool) (Dose, error) {
	switch {
	case !(target > 0) || target > 25:
		return Dose{}, fmt.Errorf("target: %g g N/m² is outside 0 to 25", target)
	case !(a.N > 0) || a.N > 60:
		return Dose{}, fmt.Errorf("analysis: %g %% nitrogen is outside 0 to 60", a.N)
	case !(area > 0) || math.IsInf(area, 0):
		return Dose{}, fmt.Errorf("area: %g m² is not an area", area)
	case areaError < 0 || areaError > 1:
		return Dose{}, fmt.Errorf("area error: %g is outside 0 to 1", areaError)
	}
	d := Dose{ProductGM2: target / (a.N / 100), ErrorPercent: areaError * 100}
	d.ProductG = d.ProductGM2 * area
	d.N = target
	d.P = d.ProductGM2 * a.P2O5 / 100 * pOfP2O5
	d.K = d.ProductGM2 * a.K2O / 100 * kOfK2O
	d.Fe = d.ProductGM2 * a.Fe / 100
	if limit := MostNitrogen; target > limit+rounding {
		d.Warnings = append(d.Warnings, fmt.Sprintf("%.1f g N/m² is over %.1f for one application: split it", target, limit))
	} else if quick && target > MostQuickNitrogen+rounding {
		d.Warnings = append(d.Warnings, fmt.Sprintf("%.1f g N/m² of quick-release is over %.2f for one application: split it", target,
			MostQuickNitrogen))
	}
	if d.ProductGM2 < 5 {
		d.Warnings = append(
			d.Warnings,
			fmt.Sprintf("%.1f g/m² is less than most spreaders lay evenly: half the rate two ways, or a weaker product", d.ProductGM2),
		)
	}
	return d, nil
}
