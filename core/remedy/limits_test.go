package remedy

import (
	"maps"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

func limitOf(t *testing.T, date string, f found, finding string) Limit {
	t.Helper()
	for _, l := range situationOf(t, "tall-fescue", date, f, nil).limits() {
		if l.Finding == finding {
			return l
		}
	}
	t.Fatal("no limit for " + finding)
	return Limit{}
}

func TestWhatACountIsHeldAgainst(t *testing.T) {
	for stand, f := range map[string]found{"sound": soundStand, "usual": {"soil-temp-c": amount(20)}, "stressed": stressedStand} {
		l := limitOf(t, "2026-09-01", f, "grubs-per-m2")
		require.Equal(t, stand, l.Stand)
		require.Equal(t, "white-grubs", l.Cause)
		require.Equal(t, map[string]float64{"sound": 100, "usual": 65, "stressed": 30}[stand], l.PerM2)
		require.False(t, l.Feeds, "nothing was counted")
	}
	kind := maps.Clone(soundStand)
	kind["caterpillar-kind"] = word("armyworm")
	require.Equal(t, "armyworms", limitOf(t, "2026-09-01", kind, "flush-caterpillars-per-m2").Cause)
	seen := map[string]int{}
	for _, l := range situationOf(t, "tall-fescue", "2026-09-01", soundStand, nil).limits() {
		seen[l.Finding]++
	}
	require.Len(t, seen, 7, "one for every finding that counts a pest")
	for id, n := range seen {
		require.Equal(t, 1, n, id)
	}
}

// By soil and kind larvae feed for more weeks or fewer; the grown ones of spring stop when they pupate.
func TestWeeksOfFeedingLeft(t *testing.T) {
	until := func(date, kind, size string, soil float64) (bool, time.Time) {
		f := found{"grubs-per-m2": amount(120), "soil-temp-c": amount(soil)}
		if kind != "" {
			f["grub-kind"] = word(kind)
		}
		if size != "" {
			f["grub-size"] = word(size)
		}
		l := limitOf(t, date, f, "grubs-per-m2")
		return l.Feeds, l.FeedsUntil
	}
	now, general := until("2026-09-10", "", "medium", 19)
	require.True(t, now)
	_, chafer := until("2026-09-10", "european-chafer", "medium", 19)
	require.Greater(t, chafer, general.AddDate(0, 0, 14), "it feeds down to 5 °C")
	require.Greater(t, general, time.Date(2026, 10, 10, 0, 0, 0, 0, time.UTC))
	require.Less(t, general, time.Date(2026, 12, 15, 0, 0, 0, 0, time.UTC))
	now, _ = until("2026-11-28", "", "large", 6)
	require.False(t, now, "too cold")
	now, grown := until("2026-04-28", "", "large", 14)
	require.True(t, now)
	require.Less(t, grown, time.Date(2026, 7, 1, 0, 0, 0, 0, time.UTC), "they pupate")
	_, small := until("2026-04-28", "", "small", 14)
	require.Greater(t, small, grown.AddDate(0, 2, 0), "what is small feeds through the summer")
}
