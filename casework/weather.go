package casework

import (
	"math"
	"time"

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

// DaysOf makes days of a station's rows.
func DaysOf(days []store.StationDay) []weather.Day {
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

// Daily leaves the hours out: a diagnosis is made from what its case file carries, so that the file gives the same answer.
func Daily(days []weather.Day) {
	for i := range days {
		days[i].Hours = nil
	}
}

// WeatherAt is a site's weather after one day up to another: the station's days under what was measured on site. station is nil where
// the site has none.
func WeatherAt(tx *gorm.DB, known *Known, site store.Site, station *store.Station, from, to time.Time) ([]weather.Day, error) {
	var days []weather.Day
	if station != nil {
		var err error
		if days, err = known.days(tx, *station, from, to); err != nil {
			return nil, err
		}
	}
	var own []store.SiteDay
	if err := tx.Where("site_id = ? AND day > ? AND day <= ?", site.ID, from, to).Order("day").Find(&own).Error; err != nil {
		return nil, err
	}
	return onSite(days, own), nil
}

// SiteWeather is all there is of a site's weather up to a day.
func SiteWeather(tx *gorm.DB, site store.Site, day time.Time) ([]weather.Day, error) {
	var station *store.Station
	if site.StationID != nil {
		station = &store.Station{}
		if err := tx.First(station, "id = ?", *site.StationID).Error; err != nil {
			return nil, err
		}
	}
	return WeatherAt(tx, nil, site, station, day.AddDate(-100, 0, 0), day)
}
