package standin

import (
	"math"
	"math/rand/v2"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/simulation"
	"hodos/exchange/labfile"
)

// Laboratory answers samples as a laboratory might: it draws what is wrong with the lawn from what was found on it, by the
// scales' own chances, and reads its figures off the same tables. The same sample of the same case always gives the same
// answer.
type Laboratory struct{}

// Name is what stands on its sheets.
func (Laboratory) Name() string { return "Simulated laboratory" }

// Analyse gives the values of one sample. kind is one of labfile.Kinds.
func (Laboratory) Analyse(c evidence.Case, kind string, seed uint64) map[string]knowledge.Value {
	rng := rand.New(rand.NewPCG(seed, 0x5851f42d4c957f2d))
	lawn := simulation.NewWorld(0, rng).Likely(c, rng)
	out := map[string]knowledge.Value{}
	for _, id := range labfile.Findings(kind) {
		if f, ok := knowledge.FindingByID(id); ok && f.Steers {
			continue // it reports what moves a cause; the rest comes from a laboratory of flesh and blood
		}
		v := lawn.Read(id, 0, rng)
		if v.Number != nil {
			v = knowledge.NumberValue(figures(*v.Number))
		}
		out[id] = v
	}
	return out
}

// figures rounds to what a sheet prints: three significant figures.
func figures(x float64) float64 {
	if x == 0 {
		return 0
	}
	unit := math.Pow(10, math.Floor(math.Log10(math.Abs(x)))-2)
	return math.Round(math.Round(x/unit)*unit*1e6) / 1e6
}
