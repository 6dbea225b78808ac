package server

import (
	"context"
	"math"
	"time"

	"hodos/store"
)

// normalYear asks the service for the normal means of a station's air by month, °C, from January: what dates of frost, heat and soil
// are worked out from. It is asked outside of transactions.
func normalYear(ctx context.Context, service WeatherService, station store.Station) ([]float64, error) {
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

// normals of a station, asked once while the server runs; nil without a service or where it has none.
func (s *Server) normals(ctx context.Context, station store.Station) []float64 {
	if s.weather == nil {
		return nil
	}
	if known, ok := s.normalYears.Load(station.ID); ok {
		return known.([]float64)
	}
	year, err := normalYear(ctx, s.weather, station)
	if err != nil {
		s.log.Warn("no normals", "station", station.Name, "error", err)
		return nil
	}
	s.normalYears.Store(station.ID, year)
	return year
}
