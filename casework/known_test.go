package casework

import (
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"hodos/core/weather"
)

func TestWhatIsKnownOfAStation(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 8, n, 0, 0, 0, 0, time.UTC) }
	rain := 4.0
	at := func(st byte, revision int64) span { return span{uuid.UUID{st}, revision, day(1), day(20)} }
	k := NewKnown(2)
	k.keep(spell{at(1, 7), []weather.Day{{Date: day(20), Rain: &rain}}})

	found, ok := k.find(at(1, 7))
	require.True(t, ok)
	require.Equal(t, rain, *found[0].Rain)
	other := 9.0
	found[0].Rain = &other // whoever asked puts the gauge's figure in its place
	again, _ := k.find(at(1, 7))
	require.Equal(t, rain, *again[0].Rain, "what is kept stays as it was read")

	for _, miss := range []span{at(1, 8), at(2, 7), {uuid.UUID{1}, 7, day(2), day(20)}, {uuid.UUID{1}, 7, day(1), day(21)}} {
		_, ok = k.find(miss)
		require.False(t, ok, "%v: another count, station or span is read anew", miss)
	}

	// the list that was asked for longest ago makes room
	k.keep(spell{at(2, 1), nil})
	_, _ = k.find(at(1, 7))
	k.keep(spell{at(3, 1), nil})
	_, ok = k.find(at(2, 1))
	require.False(t, ok)
	_, ok = k.find(at(1, 7))
	require.True(t, ok)
	require.Len(t, k.lists, 2)

	var none *Known
	none.keep(spell{at(1, 7), nil})
	_, ok = none.find(at(1, 7))
	require.False(t, ok)
}
