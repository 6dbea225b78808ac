package casework_test

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/require"

	"hodos/casework"
)

func TestTheDayAtAPlace(t *testing.T) {
	day := func(text string) time.Time {
		d, err := time.Parse(time.DateOnly, text)
		require.NoError(t, err)
		return d
	}
	at := time.Date(2026, 8, 25, 2, 0, 0, 0, time.UTC)
	for zone, want := range map[string]string{"America/New_York": "2026-08-24", "UTC": "2026-08-25", "Pacific/Auckland": "2026-08-25",
		"Nowhere/Atall": "2026-08-25", "": "2026-08-25"} {
		require.Equal(t, day(want), casework.At(at).In(zone), zone)
	}
	// New Year's Eve, and the hour that is there twice
	require.Equal(t, day("2027-01-01"), casework.At(time.Date(2026, 12, 31, 11, 0, 0, 0, time.UTC)).In("Pacific/Auckland"))
	require.Equal(t, day("2026-11-01"), casework.At(time.Date(2026, 11, 1, 5, 30, 0, 0, time.UTC)).In("America/New_York"))
	require.Equal(t, day("2026-08-25"), casework.At(time.Date(2026, 8, 24, 10, 0, 0, 0, time.UTC)).Furthest())
	require.Equal(t, day("2026-08-24"), casework.At(time.Date(2026, 8, 24, 9, 59, 0, 0, time.UTC)).Furthest())
	simulated := casework.OnDay(day("2026-08-24"))
	require.Equal(t, day("2026-08-24"), simulated.In("Pacific/Auckland"), "a simulated day is the same everywhere")
}
