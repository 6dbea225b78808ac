package evidence

import (
	"slices"
	"strings"

	"hodos/core/knowledge"
)

// derive reads the derived findings off a case: the reference spot against the bad one, and what came of what was done.
func (g *Gathered) derive(c Case, note func(string, string, ...any)) {
	g.againstHealthy(c)
	g.responses(c, note)
}

// againstHealthy compares the two cores: a class and a half of moisture, or a sixth of water by volume, is a difference
// (judgement).
func (g *Gathered) againstHealthy(c Case) {
	diff, said := 0.0, false
	classes := strings.Fields("dry slightly-moist moist wet saturated")
	if bad, ok := g.Values["soil-moisture-vwc"]; ok && c.Reference["soil-moisture-vwc"].Number != nil {
		diff, said = (*bad.Number-*c.Reference["soil-moisture-vwc"].Number)/6, true
	} else if bad, ok := g.Values["soil-moisture"]; ok && c.Reference["soil-moisture"].Word != "" {
		diff, said = float64(slices.Index(classes, bad.Word)-slices.Index(classes, c.Reference["soil-moisture"].Word)), true
	}
	switch {
	case !said:
	case diff <= -1:
		g.Values["moisture-against-healthy"] = knowledge.WordValue("drier")
	case diff >= 1:
		g.Values["moisture-against-healthy"] = knowledge.WordValue("wetter")
	default:
		g.Values["moisture-against-healthy"] = knowledge.WordValue("same")
	}
}
