package label_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/label"
)

func known(a string) bool { return a == "apply-nitrogen" || a == "fungicide-curative" }

func bag() label.Label {
	return label.Label{Name: "Meadowset", Kind: "fertilizer", Form: "granule", Analysis: map[string]float64{"n": 20, "p2o5": 5, "k2o": 10, "fe": 2, "sio2": 10},
		Uses: []label.Use{{ID: "a", Actions: []string{"apply-nitrogen"}, RateLow: 5, RateHigh: 25}}}
}

func TestElementsOfARate(t *testing.T) {
	l := bag()
	for id, want := range map[string]float64{"n": 2.4, "p": 12 * .05 * .436, "k": 12 * .1 * .83, "fe": .24, "si": 12 * .1 * .467, "s": 0} {
		require.InDelta(t, want, l.Element(id, 12), 1e-12, id)
	}
	l.Liquid, l.Density = true, 1.25 // 12 mL of it weigh 15 g
	require.InDelta(t, 3, l.Element("n", 12), 1e-12)
	require.Equal(t, "mL/m2", l.Unit())
	require.InDelta(t, .025, label.Active{Content: 250}.ActiveGM2(.1), 1e-12)
}

func TestTheUseThatFits(t *testing.T) {
	l := bag()
	l.Uses = append(l.Uses, label.Use{ID: "b", Actions: []string{"apply-nitrogen"}, Grasses: []string{"zoysiagrass"}, RateHigh: 1},
		label.Use{ID: "c", Actions: []string{"fungicide-curative"}, Targets: []string{"rust"}, NotGrasses: []string{"tall-fescue"}, RateHigh: 1})
	require.Equal(t, "a", l.For("apply-nitrogen", "", []string{"tall-fescue"}).ID)
	require.Equal(t, "c", l.For("fungicide-curative", "rust", []string{"tall-fescue"}).ID) // told apart by its target, and then refused by the grass
	require.Nil(t, l.For("overseed", "", nil))
	require.Equal(t, "tall-fescue", l.Uses[2].Bears([]string{"zoysiagrass", "tall-fescue"}))
	require.Equal(t, "tall-fescue", l.Uses[1].Bears([]string{"zoysiagrass", "tall-fescue"}))
	require.Empty(t, l.Uses[0].Bears([]string{"tall-fescue"}))
}

func TestRegistration(t *testing.T) {
	l := bag()
	day := time.Date(2026, 5, 20, 0, 0, 0, 0, time.UTC)
	ok, _ := l.Registered("US", day)
	require.True(t, ok, "a label that names no place is for everywhere")
	l.Places = []label.Registration{{Place: "US-PA", From: "2026-05-20", Until: "2026-05-20"}, {Place: "DE", Until: "2026-01-01"}}
	ok, until := l.Registered("us-pa", day)
	require.True(t, ok)
	require.Equal(t, "2026-05-20", until)
	for place, d := range map[string]time.Time{"US-PA": day.AddDate(0, 0, 1), "DE": day, "FR": day} {
		ok, _ := l.Registered(place, d)
		require.False(t, ok, place)
	}
}

func TestWhatCannotBeOnALabelIsNamed(t *testing.T) {
	l := bag()
	require.Empty(t, l.Check(known))
	five, four := 5.0, 4.0
	for field, spoil := range map[string]func(*label.Label){
		"name":                 func(l *label.Label) { l.Name = " " },
		"kind":                 func(l *label.Label) { l.Kind = "tea" },
		"form":                 func(l *label.Label) { l.Form = "gas" },
		"analysis":             func(l *label.Label) { l.Analysis["n"] = 90 },
		"places":               func(l *label.Label) { l.Places = []label.Registration{{Place: "DE", From: "2026-13-01"}} },
		"actives":              func(l *label.Label) { l.Kind = "fungicide" },
		"uses":                 func(l *label.Label) { l.Uses = nil },
		"uses[0].actions":      func(l *label.Label) { l.Uses[0].Actions = []string{"dance"} },
		"uses[0].grasses":      func(l *label.Label) { l.Uses[0].NotGrasses = []string{"oak"} },
		"uses[0].rate_high":    func(l *label.Label) { l.Uses[0].RateHigh = 1 },
		"uses[0].carrier_high": func(l *label.Label) { l.Uses[0].CarrierLow, l.Uses[0].CarrierHigh = 5, 4 },
		"uses[0].air_high":     func(l *label.Label) { l.Uses[0].AirLow, l.Uses[0].AirHigh = &five, &four },
	} {
		l := bag()
		spoil(&l)
		wrong := l.Check(known)
		require.Len(t, wrong, 1, field)
		require.Equal(t, field, wrong[0].Field)
		require.False(t, strings.HasSuffix(wrong[0].Reason, "."))
	}
}
