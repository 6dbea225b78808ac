package casework

import (
	"context"
	"math"
	"time"

	"hodos/core/weather"
	"hodos/store"
)

// Service is what a weather service gives for a station. Days are the station's own, oldest first, with hours where they
// are known; days without a measurement are left out. An error says that it could not be asked: pages then go on with what is
// there, the watch tries again.
type Service interface {
	Days(ctx context.Context, station store.Station, from, to time.Time) ([]weather.Day, error)
	Forecast(ctx context.Context, station store.Station, today time.Time, days int) ([]weather.Day, error)
	Normals(ctx context.Context, station store.Station, after time.Time, days int) ([]float64, error)
}

// NormalYear asks the service for the normal means of a station's air by month, °C, from January: what dates of frost, heat and soil
// are worked out from. It is asked outside of transactions.
func NormalYear(ctx context.Context, service Service, station store.Station) ([]float64, error) {
	eve := time.Date(2025, 12, 31, 0, 0, 0, 0, time.UTC) // any year without a leap day
	days, err := service.Normals(ctx, station, eve, 365)
	if err != nil || len(days) < 365 {
		return nil, err
	}
	sum, n := make([]float64, 12), make([]float64, 12)
	for i, x := range days[:365] {
		m := eve.AddDate(0, 0, i+1).Month() - 1
		sum[m], n[m] = sum[m]+x, n[m]+1
	}
	for m := range sum {
		sum[m] = math.Round(sum[m]/n[m]*100) / 100
	}
	return sum, nil
}
