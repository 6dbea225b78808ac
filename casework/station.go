package casework

import (
	"crypto/sha256"
	"encoding/binary"
	"fmt"
	"hash"
	"math"
	"strings"
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/core/weather"
	"hodos/store"
)

// StationSky is the weather of a station with its forecast. The days are read when they are first asked for: the sum tells
// without them whether anything has changed.
type StationSky struct {
	station  *store.Station
	Forecast []weather.Day
	Normals  []float64 // of the air by month, °C
	newest   time.Time // day that the station has; zero for none
	sum      []byte
	read     func() ([]weather.Day, error)
}

// StationAt stands for the weather of a station and what is forecast for it, for all the sites that share it.
func StationAt(tx *gorm.DB, id *uuid.UUID, forecast []weather.Day, day time.Time) (StationSky, error) {
	out := StationSky{Forecast: forecast, read: func() ([]weather.Day, error) { return nil, nil }}
	h := sha256.New()
	if id != nil {
		out.station = &store.Station{}
		if err := tx.First(out.station, "id = ?", *id).Error; err != nil {
			return out, err
		}
		var newest struct{ Day *time.Time }
		if err := tx.Raw("SELECT max(day) AS day FROM station_days WHERE station_id = ? AND day <= ?", *id, day).Scan(&newest).Error; err != nil {
			return out, err
		}
		if newest.Day != nil {
			out.newest = newest.Day.UTC()
		}
		var days []weather.Day
		out.read = func() ([]weather.Day, error) {
			if days != nil {
				return days, nil
			}
			var rows []store.StationDay
			err := tx.Where("station_id = ? AND day > ? AND day <= ?", *id, day.AddDate(0, 0, -WeatherDays), day).Order("day").Find(&rows).Error
			days = DaysOf(rows)
			return days, err
		}
		_, _ = fmt.Fprintf(h, "%s %d", out.station.ID, out.station.Revision)
	}
	sumDays(h, out.Forecast)
	out.sum = h.Sum(nil)
	return out, nil
}

// Newer puts what a service says of a day in the place of what it said before, where it is not the same: days that say the
// same are not touched, so that the station counts as unchanged.
var Newer = func() clause.OnConflict {
	columns := []string{"tmin_c", "tmax_c", "rain_mm", "rh_mean", "wind_ms", "snow_cm", "solar_mj_m2", "hours"}
	var was, is []string
	for _, c := range columns {
		was, is = append(was, "station_days."+c), append(is, "excluded."+c)
	}
	return clause.OnConflict{Columns: []clause.Column{{Name: "station_id"}, {Name: "day"}}, DoUpdates: clause.AssignmentColumns(columns),
		Where: clause.Where{Exprs: []clause.Expression{gorm.Expr("(" + strings.Join(was, ", ") + ") IS DISTINCT FROM (" + strings.Join(is,
			", ") + ")")}}}
}()

// StationDays makes rows of a station's days.
func StationDays(station uuid.UUID, days []weather.Day) []store.StationDay {
	rows := make([]store.StationDay, 0, len(days))
	for _, d := range days {
		rows = append(rows, store.StationDay{StationID: station, Day: d.Date, TMin: d.TMin, TMax: d.TMax, Rain: d.Rain, RH: d.RH, Wind: d.Wind,
			Snow: d.Snow, Solar: d.Solar, Hours: FloatsOf(d.Hours)})
	}
	return rows
}

// sumDays adds every figure of some days to a sum.
func sumDays(h hash.Hash, days []weather.Day) {
	b := make([]byte, 0, 1024)
	put := func(x float64) { b = binary.LittleEndian.AppendUint64(b, math.Float64bits(x)) }
	for _, d := range days {
		b = binary.LittleEndian.AppendUint64(b[:0], uint64(d.Date.Unix()))
		for _, x := range []*float64{d.TMin, d.TMax, d.Rain, d.RH, d.Wind, d.Solar, d.Irrigation, d.Snow} {
			if x == nil {
				b = append(b, 0)
				continue
			}
			b = append(b, 1)
			put(*x)
		}
		if d.Hours != nil {
			for _, a := range []*[24]float64{&d.Hours.Temp, &d.Hours.RH, &d.Hours.Rain, &d.Hours.Wind, &d.Hours.Solar} {
				for _, x := range a {
					put(x)
				}
			}
		}
		_, _ = h.Write(b)
	}
}
