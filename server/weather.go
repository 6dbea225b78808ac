package server

import (
	"math"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/weather"
	"hodos/store"
)

// HoursOf reads the 120 figures of a stored day; nil for none.
func HoursOf(f store.Floats) *weather.Hours {
	if len(f) != 120 {
		return nil
	}
	h := &weather.Hours{}
	for k, a := range []*[24]float64{&h.Temp, &h.RH, &h.Rain, &h.Wind, &h.Solar} {
		for i := range a {
			a[i] = float64(f[k*24+i])
		}
	}
	return h
}

// FloatsOf makes the 120 figures of a day's hours.
func FloatsOf(h *weather.Hours) store.Floats {
	if h == nil {
		return nil
	}
	f := make(store.Floats, 0, 120)
	for _, a := range []*[24]float64{&h.Temp, &h.RH, &h.Rain, &h.Wind, &h.Solar} {
		for _, x := range a {
			f = append(f, float32(x))
		}
	}
	return f
}

func weatherOf(days []store.StationDay) []weather.Day {
	out := make([]weather.Day, len(days))
	for i, d := range days {
		out[i] = weather.Day{Date: d.Day.UTC(), TMin: d.TMin, TMax: d.TMax, Rain: d.Rain, RH: d.RH, Wind: d.Wind, Snow: d.Snow, Solar: d.Solar,
			Hours: HoursOf(d.Hours)}
	}
	return out
}

// onSite puts what was measured on the site in the place of the station's, quantity by quantity and hour by hour; days that
// only the site has are added. Both lists are oldest first.
func onSite(days []weather.Day, own []store.SiteDay) []weather.Day {
	at := map[time.Time]int{}
	for i, d := range days {
		at[d.Date] = i
	}
	for _, o := range own {
		i, ok := at[o.Day.UTC()]
		if !ok {
			i = len(days)
			days = append(days, weather.Day{Date: o.Day.UTC()})
		}
		d := &days[i]
		for _, x := range []struct {
			from *float64
			into **float64
		}{{o.TMin, &d.TMin}, {o.TMax, &d.TMax}, {o.Rain, &d.Rain}, {o.RH, &d.RH}, {o.Wind, &d.Wind}, {o.Snow, &d.Snow}, {o.Solar, &d.Solar},
			{o.Irrigation, &d.Irrigation}} {
			if x.from != nil {
				*x.into = x.from
			}
		}
		own := HoursOf(o.Hours)
		switch {
		case own == nil && o.Rain != nil && d.Hours != nil:
			// the gauge knows the day's rain, the station when it fell: its hours no longer fit
			h := *d.Hours
			for k := range h.Rain {
				h.Rain[k] = math.NaN()
			}
			d.Hours = &h
		case own != nil && d.Hours == nil:
			d.Hours = own
		case own != nil:
			h := *d.Hours
			for k, a := range []*[24]float64{&own.Temp, &own.RH, &own.Rain, &own.Wind, &own.Solar} {
				into := []*[24]float64{&h.Temp, &h.RH, &h.Rain, &h.Wind, &h.Solar}[k]
				for i, x := range a {
					if !math.IsNaN(x) {
						into[i] = x
					}
				}
			}
			d.Hours = &h
		}
	}
	weather.Sort(days)
	return days
}

// watered adds what the zone was given: by the log of waterings and by the treatments on record.
func watered(tx *gorm.DB, zone uuid.UUID, days []weather.Day) error {
	if len(days) == 0 {
		return nil
	}
	water, err := waterOf(tx, []uuid.UUID{zone}, days[len(days)-1].Date)
	water[zone].onto(days)
	return err
}

// daily leaves the hours out: a diagnosis is made from what its case file carries, so that the file gives the same answer.
func daily(days []weather.Day) {
	for i := range days {
		days[i].Hours = nil
	}
}

// weatherAt is a site's weather: the station's days under what was measured on site.
func weatherAt(tx *gorm.DB, site store.Site, from, to time.Time) ([]weather.Day, error) {
	var days []weather.Day
	if site.StationID != nil {
		var rows []store.StationDay
		if err := tx.Where("station_id = ? AND day > ? AND day <= ?", *site.StationID, from, to).Order("day").Find(&rows).Error; err != nil {
			return nil, err
		}
		days = weatherOf(rows)
	}
	var own []store.SiteDay
	if err := tx.Where("site_id = ? AND day > ? AND day <= ?", site.ID, from, to).Order("day").Find(&own).Error; err != nil {
		return nil, err
	}
	return onSite(days, own), nil
}
