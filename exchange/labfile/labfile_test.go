package labfile

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
	"hodos/exchange/refusal"
)

func TestWhatIsWrittenIsReadAgain(t *testing.T) {
	for kind, values := range map[string]map[string]knowledge.Value{
		"soil":     {"soil-ph": knowledge.NumberValue(7.9), "soil-p-ppm": knowledge.NumberValue(64), "soil-ec-ds-m": knowledge.NumberValue(.8), "soil-organic-matter-percent": knowledge.NumberValue(3.2), "soil-sar": knowledge.NumberValue(2)},
		"disease":  {"lab-pathogen": knowledge.WordValue("summer-patch")},
		"nematode": {"nematode-count": knowledge.WordValue("above-threshold")},
		"tissue":   {"tissue-si-percent": knowledge.NumberValue(.6)},
	} {
		r := Result{Sample: "S-0007", Laboratory: "Bench, \"north\"", Values: values}
		for name, write := range map[string]func(*bytes.Buffer) error{
			"csv":  func(b *bytes.Buffer) error { return WriteCSV(b, r) },
			"json": func(b *bytes.Buffer) error { return WriteJSON(b, r) },
		} {
			var b bytes.Buffer
			require.NoError(t, write(&b))
			back, err := Read(&b, "S-0007", kind)
			require.NoError(t, err, "%s %s", kind, name)
			require.Equal(t, r, back, "%s %s", kind, name)
		}
	}
}

func TestRefusals(t *testing.T) {
	const head = "sample,finding,value,unit,laboratory\n"
	for _, c := range []struct{ name, file, where, why string }{
		{"empty", "", "line 1", "empty"},
		{"only a header", head, "results", "no value"},
		{"other header", "a,b,c\n", "line 1", "the header must be sample,finding"},
		{"other sample", head + "S-9,soil-ph,7,pH,L\n", "sample", `"S-9", not of "S-1"`},
		{"two samples", head + "S-1,soil-ph,7,pH,L\nS-2,soil-p-ppm,7,mg/kg,L\n", "line 3, sample", "one sample a file"},
		{"unknown finding", head + "S-1,soil-gold,7,pH,L\n", "line 2, finding", "is not a finding"},
		{"not of this kind", head + "S-1,lab-pathogen,none,,L\n", "line 2, finding", "does not come from a soil sample"},
		{"no number", head + "S-1,soil-ph,\"7,9\",pH,L\n", "line 2, value", "decimal point"},
		{"out of range", head + "S-1,soil-ph,19,pH,L\n", "line 2, value", "outside the physical range"},
		{"other unit", head + "S-1,soil-k-ppm,50,lb/acre,L\n", "line 2, unit", "is not mg/kg"},
		{"twice", head + "S-1,soil-ph,7,pH,L\nS-1,soil-ph,8,pH,L\n", "line 3, finding", "stands twice"},
		{"short line", head + "S-1,soil-ph,7\n", "line 2", "has 3 fields"},
		{"other version", `{"hodos_lab":2,"sample":"S-1","laboratory":"","results":[]}`, "hodos_lab", "must be 1"},
		{"unknown field", `{"hodos_lab":1,"sample":"S-1","colour":"red","results":[]}`, "file", "unknown field"},
		{"cut off", `{"hodos_lab":1,`, "file", "is not a laboratory result"},
		{"word for a number", `{"hodos_lab":1,"sample":"S-1","results":[{"finding":"soil-ph","value":true,"unit":"pH"}]}`, "results[0].value", "expected a number"},
	} {
		_, err := Read(strings.NewReader(c.file), "S-1", "soil")
		var r *refusal.Refusal
		require.ErrorAs(t, err, &r, c.name)
		require.Equal(t, c.where+": "+r.Problems[0].Reason, r.Problems[0].String(), c.name)
		require.Contains(t, r.Problems[0].Reason, c.why, c.name)
	}
}

func TestUnitsThatMeanTheSame(t *testing.T) {
	r, err := Read(strings.NewReader("\ufeffsample,finding,value,unit,laboratory\nS-1,soil-k-ppm,50,ppm,L\nS-1,soil-ec-ds-m,1.2,mS/cm,L\nS-1,soil-ph,6.5,,L\n"), "S-1", "soil")
	require.NoError(t, err)
	require.Len(t, r.Values, 3)
	_, err = Read(strings.NewReader("sample,finding,value,unit,laboratory\nS-1,nematode-count,below-threshold,1/L,L\n"), "S-1", "nematode")
	require.ErrorContains(t, err, "has no unit")
}

// A lone quote is refused as what it is.
func TestALoneQuoteIsRefused(t *testing.T) {
	for _, text := range []string{"\"", "sample,\"", "sample,finding\n\"a"} {
		require.NotPanics(t, func() {
			_, err := Read(strings.NewReader(text), "", "")
			require.Error(t, err, text)
		})
	}
}
