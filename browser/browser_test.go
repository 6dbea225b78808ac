package browser

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/diagnosis"
	"hodos/core/evidence"
	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/units"
	"hodos/exchange/casefile"
)

func file(t testing.TB) []byte {
	area := 400.0
	b, err := casefile.Write(evidence.Case{Lawn: knowledge.Lawn{Date: time.Date(2026, 8, 24, 0, 0, 0, 0, time.UTC), Latitude: 37.6, AreaM2: &area,
		Species: []string{"tall-fescue"}}, Findings: map[string]knowledge.Value{"animal-digging": knowledge.WordValue("peeled-back")}})
	require.NoError(t, err)
	return b
}

// Weighed on the device a lawn comes to what it comes to on the server.
func TestTheDeviceSaysWhatTheServerSays(t *testing.T) {
	var k Core
	require.NoError(t, k.Take("lawn", file(t), "us"))
	got, err := k.Weigh("lawn", []byte(`[{"finding":"pull-test","spot":"worst","value":"lifts-like-carpet"},
		{"finding":"soil-moisture","spot":"worst","value":"dry"},{"finding":"soil-moisture","spot":"healthy","value":"moist"},
		{"finding":"onset","spot":"worst","value":"2026-08-10"},{"finding":"grubs-per-m2","spot":"worst","value":1,
		"tally":{"places":[{"got":12,"of":900},{"got":5,"of":900}]}}]`))
	require.NoError(t, err)

	c, err := casefile.Parse(file(t))
	require.NoError(t, err)
	c.Findings["pull-test"], c.Findings["soil-moisture"] = knowledge.WordValue("lifts-like-carpet"), knowledge.WordValue("dry")
	c.Findings["grubs-per-m2"] = knowledge.NumberValue(94.4)
	c.Reference = map[string]knowledge.Value{"soil-moisture": knowledge.WordValue("moist")}
	c.Take("onset", "worst", "2026-08-10")
	require.NotNil(t, c.Onset)
	say := units.In("us")
	r := diagnosis.Diagnose(c, diagnosis.Options{At: "pull", Say: say})
	want, err := json.Marshal(casefile.ResultOf(r, remedy.Decide(c, r, say)))
	require.NoError(t, err)
	require.JSONEq(t, string(want), string(got))

	// what was weighed with answers stands without them the next time
	plain, err := k.Weigh("lawn", []byte(`[]`))
	require.NoError(t, err)
	require.NotEqual(t, string(got), string(plain))
	back, err := k.Weigh("lawn", []byte(`[{"finding":"pull-test","spot":"worst","value":"resists"},{"finding":"pull-test","spot":"worst","value":null}]`))
	require.NoError(t, err)
	var a, b casefile.Result
	require.NoError(t, json.Unmarshal(plain, &a))
	require.NoError(t, json.Unmarshal(back, &b))
	require.Equal(t, a.Causes, b.Causes, "given and taken back")
}

func TestWhatTheDeviceCannotWeigh(t *testing.T) {
	var k Core
	_, err := k.Weigh("lawn", []byte(`[]`))
	require.ErrorIs(t, err, errUnknown)
	require.ErrorContains(t, k.Take("lawn", []byte(`{"version":1}`), "metric"), "case: ")
	require.NoError(t, k.Take("lawn", file(t), "metric"))
	_, err = k.Weigh("lawn", []byte(`{`))
	require.ErrorContains(t, err, "answers: ")
	_, err = k.Weigh("lawn", []byte(`[{"finding":"no-such","spot":"worst","value":3}]`))
	require.NoError(t, err, "what the vocabulary does not know is not weighed")
	for range mostCases + 1 {
		require.NoError(t, k.Take("other", file(t), "metric"))
	}
}

func BenchmarkTap(b *testing.B) {
	var k Core
	require.NoError(b, k.Take("lawn", file(b), "metric"))
	tap := []byte(`[{"finding":"pull-test","spot":"worst","value":"lifts-like-carpet"}]`)
	for b.Loop() {
		_, err := k.Weigh("lawn", tap)
		require.NoError(b, err)
	}
}
