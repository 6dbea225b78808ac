package diagnosis

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
)

// What points where: each step of a reading moves the cause in the direction that a specialist expects.
func TestReadingsPointWhereTheyShould(t *testing.T) {
	num := func(xs ...float64) (out []knowledge.Value) {
		for _, x := range xs {
			out = append(out, knowledge.NumberValue(x))
		}
		return out
	}
	words := func(ws ...string) (out []knowledge.Value) {
		for _, w := range ws {
			out = append(out, knowledge.WordValue(w))
		}
		return out
	}
	items := func(is ...string) (out []knowledge.Value) {
		for _, i := range is {
			if i == "" {
				out = append(out, knowledge.ListValue())
			} else {
				out = append(out, knowledge.ListValue(i))
			}
		}
		return out
	}
	for _, c := range []struct {
		finding, cause, grass string
		month                 time.Month
		rising                []knowledge.Value
	}{
		{"grubs-per-m2", "white-grubs", "kentucky-bluegrass", 9, num(0, 20, 45, 110)},
		{"float-chinch-per-m2", "chinch-bugs", "st-augustinegrass", 7, num(0, 60, 160, 400)},
		{"flush-caterpillars-per-m2", "sod-webworms", "tall-fescue", 7, num(0, 8, 25, 65)},
		{"leatherjackets-per-m2", "crane-fly-larvae", "perennial-ryegrass", 3, num(0, 60, 160, 300)},
		{"billbug-larvae-per-m2", "billbugs", "kentucky-bluegrass", 7, num(0, 20, 50, 100)},
		{"thatch-mm", "excess-thatch", "kentucky-bluegrass", 6, num(5, 12, 16, 24)},
		{"penetration-kpa", "compaction", "tall-fescue", 6, num(900, 1600, 2100, 2800)},
		{"water-drop-seconds", "localized-dry-spot", "creeping-bentgrass", 7, num(0, 4, 20, 120)},
		{"soil-ph", "high-ph", "tall-fescue", 5, num(6.4, 7, 7.4, 7.9)},
		{"soil-ph", "low-ph", "kentucky-bluegrass", 5, num(6.4, 5.9, 5.5, 5)},
		{"soil-ec-ds-m", "salinity", "kentucky-bluegrass", 4, num(.6, 2, 4, 7)},
		{"soil-k-ppm", "potassium-deficiency", "tall-fescue", 5, num(110, 55, 38, 22)},
		{"soil-p-ppm", "phosphorus-deficiency", "tall-fescue", 4, num(50, 24, 17, 9)},
		{"sun-hours", "shade-thinning", "kentucky-bluegrass", 6, num(9, 5.5, 4, 2)},
		{"moss-cover-percent", "moss-invasion", "fine-fescue", 3, num(0, 6, 14, 40)},
		{"weed-cover-percent", "weed-invasion", "tall-fescue", 5, num(2, 12, 22, 45)},
		{"catch-can-du", "irrigation-coverage-gap", "tall-fescue", 7, num(.75, .62, .55, .42)},
		{"irrigation-weekly-mm", "overwatering", "tall-fescue", 7, num(15, 30, 42, 60)},
		{"last-nitrogen-days", "nitrogen-deficiency", "perennial-ryegrass", 5, num(10, 45, 90, 160)},
		{"crowns-alive-percent", "drought-dieback", "perennial-ryegrass", 8, num(95, 70, 40, 8)},
		{"soil-temp-c", "heat-stress", "perennial-ryegrass", 7, num(22, 26.5, 29, 31.5)},
		{"mowing-height-drop-mm", "scalping", "kentucky-bluegrass", 6, num(0, 10, 20, 32)},
		{"soil-moisture", "drought-stress", "tall-fescue", 7, words("wet", "moist", "slightly-moist", "dry")},
		{"soil-moisture", "overwatering", "tall-fescue", 7, words("dry", "moist", "wet")},
		{"pull-test", "white-grubs", "kentucky-bluegrass", 9, words("resists", "lifts-like-carpet")},
		{"pull-test", "billbugs", "kentucky-bluegrass", 7, words("resists", "stems-break-at-crown")},
		{"pull-test", "large-patch", "zoysiagrass", 10, words("resists", "shoots-slip-from-rotted-sheath")},
		{"crown-slice", "summer-dormancy", "kentucky-bluegrass", 7, words("brown-dry", "white-moist")},
		{"crown-slice", "winter-crown-kill", "perennial-ryegrass", 4, words("white-moist", "mixed", "brown-soft")},
		{"root-colour", "take-all-root-rot", "st-augustinegrass", 4, words("white", "tan", "brown")},
		{"root-condition", "plant-parasitic-nematodes", "hybrid-bermudagrass", 7, words("intact", "short-stubby")},
		{"lab-pathogen", "summer-patch", "kentucky-bluegrass", 8, words("none", "summer-patch")},
		{"leaf-tip-cut", "dull-blade", "perennial-ryegrass", 6, words("clean", "frayed")},
		{"neighbours-affected", "armyworms", "common-bermudagrass", 9, words("none", "few", "many")},
		{"leaf-symptoms", "dollar-spot", "perennial-ryegrass", 6, items("", "hourglass-lesion-tan-with-brown-border")},
		{"leaf-symptoms", "rust", "perennial-ryegrass", 9, items("", "orange-pustules")},
		{"leaf-symptoms", "iron-chlorosis", "centipedegrass", 6, items("older-leaves-yellow", "interveinal-yellow")},
		{"pattern", "fairy-ring", "tall-fescue", 6, items("uniform", "rings")},
		{"pattern", "irrigation-coverage-gap", "tall-fescue", 7, items("uniform", "sprinkler-arcs")},
		{"past-causes", "spring-dead-spot", "hybrid-bermudagrass", 4, items("", "spring-dead-spot")},
	} {
		l := lawn(c.grass, c.month, 40)
		before, was := -1.0, knowledge.Value{}
		for _, v := range c.rising {
			p := Diagnose(evidence.Case{Lawn: l, Findings: map[string]knowledge.Value{c.finding: v}},
				Options{NoNext: true, NoLedger: true}).P(c.cause)
			require.Greater(t, p, before, "%s: %v should speak more for %s than %v", c.finding, v.Plain(), c.cause, was.Plain())
			before, was = p, v
		}
	}
}

// A normal reading on every check is evidence: nothing wrong must lead, and no cause may be invented.
func TestNormalReadingsSpeakForASoundLawn(t *testing.T) {
	sound := map[string]knowledge.Value{"pattern": knowledge.ListValue(), "colour": knowledge.ListValue(),
		"leaf-symptoms": knowledge.ListValue("none"),
		"insects-seen":  knowledge.ListValue("none"), "pull-test": knowledge.WordValue("resists"),
		"footprints": knowledge.WordValue("spring-back"),
		"underfoot":  knowledge.WordValue("firm"), "soil-moisture": knowledge.WordValue("moist"),
		"crown-slice": knowledge.WordValue("white-moist"),
		"root-colour": knowledge.WordValue("white"), "root-condition": knowledge.WordValue("intact"),
		"stand-density": knowledge.WordValue("dense"),
		"growth-rate":   knowledge.WordValue("normal"), "weed-cover-percent": knowledge.NumberValue(2), "thatch-mm": knowledge.NumberValue(7),
		"penetration": knowledge.WordValue("easy")}
	for _, g := range []struct {
		grass string
		month time.Month
	}{{"tall-fescue", 5}, {"kentucky-bluegrass", 10}, {"common-bermudagrass", 7}, {"st-augustinegrass", 6}} {
		r := weigh(lawn(g.grass, g.month, 36), sound)
		require.Equal(t, knowledge.Healthy, r.Causes[0].ID, g.grass)
		require.Greater(t, r.P(knowledge.Healthy), .5, g.grass)
		for _, x := range r.Causes[1:] {
			require.Less(t, x.Probability, .25, "%s on a sound %s", x.ID, g.grass)
		}
	}
}

// The laboratory's word is heard but not obeyed blindly: it settles what the field signs leave open.
func TestTheLaboratorySettlesRootDiseases(t *testing.T) {
	f := map[string]knowledge.Value{"pattern": knowledge.ListValue("frog-eye"), "root-colour": knowledge.WordValue("black"),
		"root-condition":    knowledge.WordValue("rotted"),
		"patch-diameter-cm": knowledge.NumberValue(30)}
	l := lawn("kentucky-bluegrass", 8, 40)
	open := weigh(l, f)
	require.Greater(t, open.P("summer-patch"), .2)
	require.Greater(t, open.P("necrotic-ring-spot"), .1)
	f["lab-pathogen"] = knowledge.WordValue("necrotic-ring-spot")
	told := weigh(l, f)
	require.Greater(t, told.P("necrotic-ring-spot"), .9)
	require.Less(t, told.P("summer-patch"), open.P("summer-patch")/2)
}
