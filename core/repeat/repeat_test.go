package repeat

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"hodos/core/knowledge"
	"hodos/core/remedy"
	"hodos/core/worth"
)

func TestRowsNameWhatThereIs(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range rows {
		require.False(t, seen[r.cause], r.cause)
		seen[r.cause] = true
		_, ok := knowledge.CauseByID(r.cause)
		require.True(t, ok, r.cause)
		require.NotEmpty(t, r.why, r.cause)
		for _, a := range strings.Fields(r.eases + " " + r.ends) {
			require.True(t, remedy.Known(a), "%s: %s", r.cause, a)
		}
	}
}

func on(year int, month time.Month, day int) time.Time {
	return time.Date(year, month, day, 0, 0, 0, 0, time.UTC)
}

func TestACauseThatComesBack(t *testing.T) {
	today := on(2026, 8, 24)
	found := []Outbreak{
		{on(2023, 8, 1), "white-grubs"},  // too long ago
		{on(2023, 8, 24), "white-grubs"}, // just within
		{on(2024, 9, 5), "white-grubs"},
		{on(2024, 10, 1), "white-grubs"}, // the same outbreak, seen again
		{on(2025, 6, 1), "rust"},
		{on(2025, 9, 12), "white-grubs"},
		{on(2026, 9, 1), "rust"}, // not yet
	}
	done := []Done{{"insecticide-preventive", on(2022, 6, 1)}, {"insecticide-curative", on(2024, 9, 6)}, {"insecticide-curative", on(2025, 9, 12)},
		{"overseed", on(2025, 9, 20)}, {"apply-lime", on(2025, 9, 20)}}
	list := Of(found, done, today, 200, worth.DefaultPrices)
	require.Len(t, list, 1)
	a := list[0]
	require.Equal(t, "white-grubs", a.Cause)
	require.Equal(t, []time.Time{on(2023, 8, 24), on(2024, 9, 5), on(2025, 9, 12)}, a.Times)
	require.Equal(t, []string{"insecticide-curative", "overseed"}, a.Eased, "each once, and nothing that has nothing to do with it")
	require.Empty(t, a.Ended, "what was done before it began does not count")
	// 10 minutes to get ready and 8 for 100 m² at 60 an hour, and material for 7 on 100 m²
	require.Equal(t, []Work{{"insecticide-preventive", 26 + 14}}, a.Ends)

	after := Of(found, append(done, Done{"insecticide-preventive", on(2026, 6, 10)}), today, 200, worth.DefaultPrices)
	require.Equal(t, []string{"insecticide-preventive"}, after[0].Ended)
	require.Empty(t, Of(found[:1], done, today, 200, worth.DefaultPrices))

	// two months apart are two, a day less is one
	require.Len(t, Of([]Outbreak{{on(2026, 1, 1), "rust"}, {on(2026, 3, 2), "rust"}}, nil, today, 1, worth.DefaultPrices), 1)
	require.Empty(t, Of([]Outbreak{{on(2026, 1, 1), "rust"}, {on(2026, 3, 1), "rust"}}, nil, today, 1, worth.DefaultPrices))

	// the most frequent first, and one that nobody has advice for without any
	list = Of([]Outbreak{{on(2025, 1, 1), "seed-heads"}, {on(2025, 5, 1), "seed-heads"}, {on(2025, 6, 1), "rust"}, {on(2025, 9, 1), "rust"},
		{on(2026, 1, 1), "rust"}}, nil, today, 1, worth.DefaultPrices)
	require.Equal(t, "rust", list[0].Cause)
	require.Empty(t, list[1].Ends)
}
