package night

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"hodos/casework"
	"hodos/core/weather"
	"hodos/store"
)

// serviceAnswer is what the weather service says of a station on a day.
type serviceAnswer struct {
	days, forecast []weather.Day
	normals        []float64
}

// ask asks the weather service, before any transaction is open: what it has since the station's newest day, the last two days
// again, because they are often corrected, and the forecast.
func (w Watcher) ask(ctx context.Context, id *uuid.UUID, day time.Time) (out serviceAnswer, err error) {
	if id == nil || w.Weather == nil {
		return out, nil
	}
	tx := w.Store.Shared(ctx)
	var station store.Station
	if err := tx.First(&station, "id = ?", *id).Error; err != nil {
		return out, err
	}
	var newest struct{ Day *time.Time }
	if err := tx.Raw("SELECT max(day) AS day FROM station_days WHERE station_id = ? AND day <= ?", *id, day).Scan(&newest).Error; err != nil {
		return out, err
	}
	from := day.AddDate(0, 0, 1-casework.WeatherDays)
	if newest.Day != nil && newest.Day.After(from) {
		from = newest.Day.UTC().AddDate(0, 0, -1)
	}
	if out.days, err = w.Weather.Days(ctx, station, from, day); err != nil {
		return out, fmt.Errorf("weather of %s: %w", station.Name, err)
	}
	if out.forecast, err = w.Weather.Forecast(ctx, station, day, casework.ForecastDays); err != nil {
		return out, fmt.Errorf("forecast of %s: %w", station.Name, err)
	}
	if out.normals, err = casework.NormalYear(ctx, w.Weather, station); err != nil {
		return out, fmt.Errorf("normals of %s: %w", station.Name, err)
	}
	return out, nil
}
