package diagnosis

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/weather"
)

// thirsty is a lawn without water for two months.
func thirsty() evidence.Case {
	dry := false
	c := evidence.Case{Lawn: knowledge.Lawn{Date: time.Date(2026, 8, 20, 0, 0, 0, 0, time.UTC), Latitude: 38,
		Species: []string{"tall-fescue"}, Texture: "loam",
		Irrigated: &dry}, Findings: map[string]knowledge.Value{}}
	for k := -89; k <= 0; k++ {
		lo, hi, rain := 18.0, 32.0, 0.0
		c.Weather = append(c.Weather, weather.Day{Date: c.Lawn.Date.AddDate(0, 0, k), TMin: &lo, TMax: &hi, Rain: &rain})
	}
	return c
}

// on adds an earlier visit to a case.
func on(c evidence.Case, days int, findings map[string]knowledge.Value) evidence.Case {
	c.Earlier = append(append([]evidence.Earlier{}, c.Earlier...), evidence.Earlier{Date: c.Lawn.Date.AddDate(0, 0, -days),
		Findings: findings})
	return c
}

func soilOn(c evidence.Case, back int) (soil, share float64) {
	s, _, _ := c.Sky(evidence.Gather(c).Values)
	p := s.Points[s.Today-back]
	return p.SoilPeak, p.Share
}

func TestFormerReadingsCorrectTheirDay(t *testing.T) {
	plain := thirsty()
	peak, share := soilOn(plain, 20)
	require.Greater(t, share, .9)

	wet := on(plain, 20, map[string]knowledge.Value{"soil-moisture-vwc": knowledge.NumberValue(29)})
	_, then := soilOn(wet, 20)
	require.InDelta(t, 0, then, 1e-9, "a probe at field capacity sets the balance")
	_, now := soilOn(wet, 10)
	_, was := soilOn(plain, 10)
	require.Less(t, now, was, "and it runs on from there")

	_, then = soilOn(on(plain, 20, map[string]knowledge.Value{"soil-moisture-vwc": knowledge.NumberValue(14)}), 20)
	require.InDelta(t, share, then, 1e-9, "a probe that is close to the balance changes nothing")
	_, then = soilOn(on(plain, 20, map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("moist")}), 20)
	require.InDelta(t, .2, then, 1e-9, "a core that is far off does")
	_, then = soilOn(on(plain, 20, map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("slightly-moist")}), 20)
	require.InDelta(t, share, then, 1e-9, "a class is coarse: it has to be further off")

	cool := on(plain, 20, map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(peak - 6),
		"soil-temp-hour": knowledge.NumberValue(16.5)})
	then, _ = soilOn(cool, 20)
	require.InDelta(t, peak-6, then, .5, "a thermometer counts at its own hour")
	then, _ = soilOn(cool, 5)
	before, _ := soilOn(plain, 5)
	require.InDelta(t, before, then, 1e-9, "ten days on it has faded")

	_, then = soilOn(on(plain, 75, map[string]knowledge.Value{"soil-moisture-vwc": knowledge.NumberValue(29)}), 75)
	_, before = soilOn(plain, 75)
	require.InDelta(t, before, then, 1e-9, "what was read more than two months ago tells no more")
	_, then = soilOn(on(plain, 0, map[string]knowledge.Value{"soil-moisture-vwc": knowledge.NumberValue(29)}), 0)
	require.InDelta(t, 0, then, 1e-9, "a probe of today counts today")
}

func TestAProbeOverrulesTheBalance(t *testing.T) {
	c := thirsty()
	c.Findings["soil-moisture-vwc"] = knowledge.NumberValue(30)
	s, told, overruled := c.Sky(evidence.Gather(c).Values)
	require.True(t, overruled["soil-water-deficit"])
	require.InDelta(t, 0, s.Points[s.Today].Share, 1e-9)
	require.Len(t, told, 1)
	require.Equal(t, "soil-moisture-vwc", told[0].About)
	require.Contains(t, told[0].Text, "the probe says 30 %")
	require.Contains(t, told[0].Text, "water from elsewhere?")
	// where both were answered the core is heard
	c.Findings["soil-moisture"] = knowledge.WordValue("dry")
	_, told, overruled = c.Sky(evidence.Gather(c).Values)
	require.Empty(t, told)
	require.Empty(t, overruled)
}

// A reading between two visits does not stand in for the visit before a treatment.
func TestReadingsDoNotHideTheVisitBefore(t *testing.T) {
	c := thirsty()
	c.Treatments = []evidence.Treatment{{Date: c.Lawn.Date.AddDate(0, 0, -14), Action: "water-deep"}}
	c.Findings["affected-area-percent"] = knowledge.NumberValue(5)
	c = on(c, 16, map[string]knowledge.Value{"affected-area-percent": knowledge.NumberValue(40)})
	require.Equal(t, "better", evidence.Gather(c).Values["answer-to-water"].Word)
	c = on(c, 15, map[string]knowledge.Value{"soil-temp-c": knowledge.NumberValue(30)})
	require.Equal(t, "better", evidence.Gather(c).Values["answer-to-water"].Word)
}

func TestOddsBeforeAnythingIsFound(t *testing.T) {
	l := knowledge.Lawn{Date: time.Date(2026, 8, 20, 0, 0, 0, 0, time.UTC), Latitude: 38, Species: []string{"zoysiagrass"}}
	require.Zero(t, knowledge.Odds("brown-patch", l), "a cool-season disease")
	require.Zero(t, knowledge.Odds("no-such-cause", l))
	cool := l
	cool.Species = []string{"tall-fescue"}
	require.Positive(t, knowledge.Odds("brown-patch", cool))
	winter := cool
	winter.Date = time.Date(2026, 1, 20, 0, 0, 0, 0, time.UTC)
	require.Less(t, knowledge.Odds("brown-patch", winter), knowledge.Odds("brown-patch", cool)/5)
	winter.Latitude = -38
	require.Greater(t, knowledge.Odds("brown-patch", winter), knowledge.Odds("brown-patch", cool)/2, "January is summer in the south")
}

func TestTheGrowthRegulatorIsRemembered(t *testing.T) {
	c := thirsty()
	last := c.Lawn.Date.AddDate(0, 0, -9)
	c.Treatments = []evidence.Treatment{{Date: last.AddDate(0, 0, -40), Action: "growth-regulator"}, {Date: last, Action: "growth-regulator"},
		{Date: last.AddDate(0, 0, 2), Action: "water-deep"}}
	require.Equal(t, last, c.Ground(nil).Regulated)
	s, _, _ := c.Sky(nil)
	b, ok := s.Band("regulator-worn-off")
	require.True(t, ok)
	require.Equal(t, 1., b.Strength[s.Today-1], "25 °C·d a day: on the eighth day 200 are full")
	require.Zero(t, b.Strength[s.Today-3])
}
