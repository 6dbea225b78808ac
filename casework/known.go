package casework

import (
	"container/list"
	"slices"
	"sync"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/weather"
	"hodos/store"
)

// Known keeps what stations measured between requests. A station counts the changes of its days, so that what is kept of one count
// never grows old; a nil Known keeps nothing. It may be used by many at once.
type Known struct {
	mu    sync.Mutex
	most  int
	lists map[span]*list.Element
	order list.List // the last used first
}

// span is what was asked of a station; revision is its count of changes then.
type span struct {
	station  uuid.UUID
	revision int64
	from, to time.Time
}

type spell struct {
	span span
	days []weather.Day
}

// NewKnown keeps at most so many lists of days: one of 400 days with its hours takes some 400 KB.
func NewKnown(most int) *Known { return &Known{most: most, lists: map[span]*list.Element{}} }

// days are those of a station after one day up to another, oldest first. station was read in the same transaction, before its days:
// what is read after a newer count is never kept under an older one for longer than that count lives.
func (k *Known) days(tx *gorm.DB, station store.Station, from, to time.Time) ([]weather.Day, error) {
	at := span{station.ID, station.Revision, from.UTC(), to.UTC()}
	if days, ok := k.find(at); ok {
		return days, nil
	}
	var rows []store.StationDay
	if err := tx.Where("station_id = ? AND day > ? AND day <= ?", station.ID, from, to).Order("day").Find(&rows).Error; err != nil {
		return nil, err
	}
	days := DaysOf(rows)
	k.keep(spell{at, days})
	return slices.Clone(days), nil
}

func (k *Known) find(at span) ([]weather.Day, bool) {
	if k == nil {
		return nil, false
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	e, ok := k.lists[at]
	if !ok {
		return nil, false
	}
	k.order.MoveToFront(e)
	return slices.Clone(e.Value.(spell).days), true // whoever asks puts other figures into the days
}

func (k *Known) keep(s spell) {
	if k == nil {
		return
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	if _, ok := k.lists[s.span]; ok {
		return
	}
	k.lists[s.span] = k.order.PushFront(s)
	for k.order.Len() > k.most {
		last := k.order.Back()
		delete(k.lists, last.Value.(spell).span)
		k.order.Remove(last)
	}
}
