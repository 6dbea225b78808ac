package remedy

import (
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/units"
)

func TestExpressions(t *testing.T) {
	c := lawn(t, "kentucky-bluegrass", "2026-07-01", found{
		"thatch-mm": amount(15), "soil-moisture": word("dry"), "colour": list("brown", "yellow"), "dog-on-lawn": answered(true),
		"leaf-symptoms": list(),
	}, policy(evidence.Policy{SummerWater: "keep-green"}))
	s := survey(c, resultOf(c, map[string]float64{"salinity": .4}), units.Saying{})
	for text, want := range map[string]truth{
		"":                                   yes,
		"thatch-mm >= 15":                    yes,
		"thatch-mm > 15":                     no,
		"thatch-mm <= 15":                    yes,
		"thatch-mm < 15":                     no,
		"thatch-mm = 15":                     yes,
		"thatch-mm = 14":                     no,
		"thatch-mm >= 2 * 7 + 1":             yes,
		"thatch-mm >= 2 * 7 + 2":             no,
		"soil-moisture = dry|wet":            yes,
		"soil-moisture = wet":                no,
		"colour = brown":                     yes,
		"colour = purple|yellow":             yes,
		"colour = purple":                    no,
		"leaf-symptoms = red-threads":        no,
		"dog-on-lawn = yes":                  yes,
		"dog-on-lawn = no":                   no,
		"footprints = stay":                  unknown,
		"root-depth-mm > 3":                  unknown,
		"known(thatch-mm)":                   yes,
		"known(root-depth-mm)":               no,
		"unknown(root-depth-mm)":             yes,
		"p(salinity) >= .4":                  yes,
		"p(salinity) > .4":                   no,
		"p(salinity|high-ph) >= .3":          yes,
		"summer-water = keep-green":          yes,
		"summer-water = let-rest":            no,
		"watered = yes":                      unknown,
		"grass = kentucky-bluegrass":         yes,
		"cool":                               yes,
		"warm":                               no,
		"footprints = stay or cool":          yes,
		"footprints = stay and cool":         unknown,
		"footprints = stay and warm":         no,
		"footprints = stay or warm":          unknown,
		"without footprints = stay":          yes,
		"without cool":                       no,
		"(warm or cool) and (cool)":          yes,
		"warm or cool and warm":              no,
		"since(fung) < 3":                    unknown,
		"mowing-height-mm < mow-low":         unknown,
		"mow-low = 50":                       yes,
		"hist(white-grubs)":                  no,
		"without hist(white-grubs) and cool": yes,
	} {
		require.Equal(t, want, compile(text)(s, 0), text)
	}
	for _, bad := range []string{"thatch-mm >=", "thatsch-mm > 3", "soil-moisture = damp", "(cool", "cool warm", "p(no-such-cause) > .3",
		"since(no-class) < 3", "and cool", "seen(nobody)", "nosuchterm", "dog-on-lawn = maybe"} {
		require.Panics(t, func() { compile(bad) }, bad)
	}
}

func TestItIsTheCauseInQuestion(t *testing.T) {
	c := lawn(t, "kentucky-bluegrass", "2026-07-01", found{"lab-pathogen": word("summer-patch")})
	s := survey(c, resultOf(c, map[string]float64{"summer-patch": .7, "rust": .1}), units.Saying{})
	ask := compile("p(it) >= .5 and lab-pathogen = it")
	s.about("summer-patch", func() { require.Equal(t, yes, ask(s, 0)) })
	s.about("rust", func() { require.Equal(t, no, ask(s, 0)) })
	require.Empty(t, s.it, "it is put back")
}
