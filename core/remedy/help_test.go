package remedy

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/units"
	"hodos/core/weather"
)

type found = map[string]knowledge.Value

func word(w string) knowledge.Value     { return knowledge.WordValue(w) }
func amount(x float64) knowledge.Value  { return knowledge.NumberValue(x) }
func list(xs ...string) knowledge.Value { return knowledge.ListValue(xs...) }
func answered(b bool) knowledge.Value   { return knowledge.YesValue(b) }
func day0(t *testing.T, s string) time.Time {
	t.Helper()
	d, err := time.Parse(time.DateOnly, s)
	require.NoError(t, err)
	return d
}

// with copies findings and sets more: name, value, name, value.
func with(m found, pairs ...any) found {
	out := found{}
	for k, v := range m {
		out[k] = v
	}
	for i := 0; i+1 < len(pairs); i += 2 {
		out[pairs[i].(string)] = pairs[i+1].(knowledge.Value)
	}
	return out
}

// lawn is a case at 40° north.
func lawn(t *testing.T, species, date string, f found, change ...func(*evidence.Case)) evidence.Case {
	c := evidence.Case{Lawn: knowledge.Lawn{Date: day0(t, date), Latitude: 40, Species: []string{species}}, Findings: f}
	for _, x := range change {
		x(&c)
	}
	return c
}

// decide weighs a case and decides it; every line must be whole.
func decide(t *testing.T, c evidence.Case) map[string]Advice {
	t.Helper()
	return whole(t, c, Decide(c, diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true}), units.Saying{}))
}

// resultOf is a result in which the given causes have the given chances, whatever was found.
func resultOf(c evidence.Case, p map[string]float64) diagnosis.Result {
	r := diagnosis.Diagnose(c, diagnosis.Options{NoNext: true, NoLedger: true})
	for i := range r.Causes {
		r.Causes[i].Probability = p[r.Causes[i].ID]
	}
	for i := range r.Causes {
		for j := i; j > 0 && r.Causes[j].Probability > r.Causes[j-1].Probability; j-- {
			r.Causes[j], r.Causes[j-1] = r.Causes[j-1], r.Causes[j]
		}
	}
	return r
}

// only is a result in which one cause has a chance and all others none.
func only(r diagnosis.Result, cause string, p float64) diagnosis.Result {
	r.Causes = append([]diagnosis.CauseResult{{ID: cause, Probability: p}}, r.Causes...)
	for i := 1; i < len(r.Causes); i++ {
		r.Causes[i].Probability = 0
	}
	return r
}

// whole holds what every line owes: a reason, dates that begin before they end and do not lie in the past, a check that is a check.
func whole(t *testing.T, c evidence.Case, p Plan) map[string]Advice {
	t.Helper()
	out := map[string]Advice{}
	for _, a := range p.Lines {
		require.NotEmpty(t, a.Reasons, a.ID)
		for _, text := range append(append([]string{a.Dose}, a.Reasons...), a.Cautions...) {
			require.NotContains(t, text, "{", a.ID)
		}
		switch a.Verdict {
		case Schedule:
			require.True(t, a.From != nil && a.To != nil && !a.To.Before(*a.From), "%s %v", a.ID, a.Reasons)
			require.True(t, a.From.After(c.Lawn.Date), "%s from %v on %v: %v", a.ID, a.From, c.Lawn.Date, a.Reasons)
		case Hold:
			require.True(t, a.Until != nil || a.UntilWhat != "", "%s %v", a.ID, a.Reasons)
			if a.Until != nil {
				require.True(t, a.Until.After(c.Lawn.Date), "%s until %v on %v: %v", a.ID, a.Until, c.Lawn.Date, a.Reasons)
			}
		case CheckFirst:
			require.NotEmpty(t, a.Check, a.ID)
			for _, f := range a.Check {
				_, ok := knowledge.FindingByID(f)
				require.True(t, ok, "%s asks for %q", a.ID, f)
			}
		}
		out[a.ID] = a
	}
	for _, r := range pairRows {
		if r.first == "let-dormant" || r.second == "let-dormant" {
			if c.Policy.SummerWater == "one-area" {
				continue
			}
		}
		require.False(t, out[r.first].Verdict == DoNow && out[r.second].Verdict == DoNow, "%s and %s are both due", r.first, r.second)
	}
	if out["hold-nitrogen"].Verdict == DoNow {
		require.NotEqual(t, DoNow, out["apply-nitrogen"].Verdict, "fed and held: %v %v", out["apply-nitrogen"].Reasons,
			out["hold-nitrogen"].Reasons)
		require.NotEqual(t, DoNow, out["spoon-feed-nitrogen"].Verdict, "fed and held: %v %v", out["spoon-feed-nitrogen"].Reasons,
			out["hold-nitrogen"].Reasons)
	}
	return out
}

func at(latitude float64) func(*evidence.Case) {
	return func(c *evidence.Case) { c.Lawn.Latitude = latitude }
}

func policy(p evidence.Policy) func(*evidence.Case) {
	return func(c *evidence.Case) { c.Policy = p }
}

func located(c *evidence.Case) { yes := true; c.Context.LinesLocated = &yes }

func unlicensed(c *evidence.Case) { no := false; c.Context.Licence = &no }

// done adds a treatment so many days ago.
func done(days int, action string, n ...float64) func(*evidence.Case) {
	return func(c *evidence.Case) {
		t := evidence.Treatment{Date: c.Lawn.Date.AddDate(0, 0, -days), Action: action}
		if len(n) > 0 {
			t.NGM2 = &n[0]
		}
		c.Treatments = append(c.Treatments, t)
	}
}

// ahead is a forecast: minimum, maximum and rain of each of ten days, by day from 1.
func ahead(f func(k int) (lo, hi, rain float64)) func(*evidence.Case) {
	return func(c *evidence.Case) {
		for k := 1; k <= 10; k++ {
			lo, hi, rain := f(k)
			rh := 75.0
			c.Forecast = append(c.Forecast, weather.Day{Date: c.Lawn.Date.AddDate(0, 0, k), TMin: &lo, TMax: &hi, Rain: &rain, RH: &rh})
		}
	}
}

// past is a series of days: minimum, maximum, rain and mean humidity by day from −n to 0.
func past(n int, f func(k int) (lo, hi, rain, rh float64)) func(*evidence.Case) {
	return func(c *evidence.Case) {
		for k := -n; k <= 0; k++ {
			lo, hi, rain, rh := f(k)
			wind := 2.0
			c.Weather = append(c.Weather, weather.Day{Date: c.Lawn.Date.AddDate(0, 0, k), TMin: &lo, TMax: &hi, Rain: &rain, RH: &rh, Wind: &wind})
		}
	}
}

func steady(lo, hi, rain float64) func(int) (float64, float64, float64) {
	return func(int) (float64, float64, float64) { return lo, hi, rain }
}
