package jobfile

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"hodos/core/clearance"
	"hodos/exchange/refusal"
)

const job = `{"hodos_job": 1, "action": "fungicide-curative", "at": "2026-05-20T08:00", "target": "brown-patch", "rate": 0.1, "carrier_l_100m2": 8, "treated_m2": 400,
 "lawn": {"place": "US", "latitude": 40, "grasses": ["tall-fescue"], "area_m2": 400, "water_m": 40},
 "product": {"name": "Vellum", "kind": "fungicide", "form": "sc", "liquid": true, "actives": [{"name": "azoxystrobin", "group": "11", "content": 250}],
   "uses": [{"id": "a", "actions": ["fungicide-curative"], "targets": ["brown-patch"], "rate_low": 0.06, "rate_high": 0.13, "interval_days": 14, "air_high": 30}]},
 "person": {"name": "Rufus", "applicator": true, "licence_until": "2027-01-01"},
 "hours": [{"at": "2026-05-20T07:00", "wind_ms": 9}, {"at": "2026-05-20T08:00", "wind_ms": 2, "air_c": AIR, "rain_mm": 0}, {"at": "2026-05-20T09:00", "wind_ms": 2, "air_c": 20, "rain_mm": 0}],
 "history": [{"day": "DAY", "product": "Vellum", "rate": 0.1}],
 "rules": [{"name": "Winter", "place": "", "what": "blackout", "covers": ["pesticide"], "from": "12-01", "to": "02-28"}]}`

func with(air, day string) string { return strings.NewReplacer("AIR", air, "DAY", day).Replace(job) }

func TestAJobIsReadAndJudged(t *testing.T) {
	j, err := Read(strings.NewReader(with("20", "2026-04-01")))
	require.NoError(t, err)
	require.Empty(t, clearance.Check(j).Stops, "the hour before it is not asked")
	j, err = Read(strings.NewReader(with("31", "2026-05-10")))
	require.NoError(t, err)
	stops := clearance.Check(j).Stops
	require.Len(t, stops, 2)
	require.Equal(t, "label-interval", stops[0].ID)
	require.Equal(t, "label-air", stops[1].ID)
	require.Equal(t, "2026-05-20 09", stops[1].Next.Format("2006-01-02 15"))
}

func TestWhatIsWrongIsNamed(t *testing.T) {
	for text, field := range map[string]string{
		`{`: "",
		strings.Replace(with("20", "2026-04-01"), `"hodos_job": 1`, `"hodos_job": 2`, 1):                    "hodos_job",
		strings.Replace(with("20", "2026-04-01"), `"action": "fungicide-curative"`, `"action": "dance"`, 1): "action",
		strings.Replace(with("20", "2026-04-01"), `["tall-fescue"]`, `["oak"]`, 1):                          "lawn.grasses[0]",
		strings.Replace(with("20", "2026-04-01"), `"rate": 0.1, "carrier`, `"rate": -1, "carrier`, 1):       "rate",
		strings.Replace(with("20", "2026-04-01"), `"rate_high": 0.13`, `"rate_high": 0.01`, 1):              "product.uses[0].rate_high",
		strings.Replace(with("20", "2026-04-01"), `"from": "12-01"`, `"from": "13-01"`, 1):                  "rules[0].from",
		strings.Replace(with("20", "2026-04-01"), `"target"`, `"aim"`, 1):                                   "",
		strings.Replace(with("20", "yesterday"), `x`, `x`, 1):                                               "",
		strings.Replace(with("20", "2026-04-01"), `"at": "2026-05-20T08:00", "target"`, `"target"`, 1):      "at",
		strings.Replace(with("20", "2026-04-01"), `"treated_m2": 400`, `"treated_m2": "many"`, 1):           "treated_m2",
	} {
		_, err := Read(strings.NewReader(text))
		var r *refusal.Refusal
		require.ErrorAs(t, err, &r, text)
		require.Equal(t, field, r.Problems[0].Column)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(with("20", "2026-04-01"))
	f.Add(`{"hodos_job": 1, "action": "overseed", "at": "2026-05-20"}`)
	f.Fuzz(func(t *testing.T, text string) {
		j, err := Read(strings.NewReader(text))
		if err == nil {
			clearance.Check(j)
		}
	})
}
