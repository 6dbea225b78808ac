package server_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"hodos/casework"
	"hodos/core/weather"
	"hodos/demo"
	"hodos/internal/testdb"
	"hodos/store"
)

// BenchmarkReplan500Zones plans ten booked jobs on each of 500 zones anew, half of them with a product and its weather by the hour; the
// days are thrown back each time, so that every job moves.
func BenchmarkReplan500Zones(b *testing.B) {
	_, app := testdb.New(b)
	s, err := store.Open(app)
	require.NoError(b, err)
	b.Cleanup(func() { _ = s.Close() })
	ctx := context.Background()
	_, err = demo.Load(ctx, s)
	require.NoError(b, err)
	require.NoError(b, demo.Enlarge(ctx, s, 250))
	require.NoError(b, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error { return fillJobs(tx, 500) }))
	forecast := map[uuid.UUID][]weather.Day{}
	var stations []store.Station
	require.NoError(b, s.Shared(ctx).Find(&stations).Error)
	for _, st := range stations {
		forecast[st.ID], err = demo.Sky{}.Forecast(ctx, st, demo.Start, casework.ForecastDays)
		require.NoError(b, err)
	}
	for b.Loop() {
		require.NoError(b, s.InFirm(ctx, demo.Firm, func(tx *gorm.DB) error {
			var list []store.Job
			if err := tx.Where("state = 'booked'").Order("due_on, id").Find(&list).Error; err != nil {
				return err
			}
			moved, err := casework.Replan(tx, list, "US", demo.Start, func(id *uuid.UUID) []weather.Day {
				if id == nil {
					return nil
				}
				return forecast[*id]
			}, nil)
			b.ReportMetric(float64(len(list)), "jobs")
			b.ReportMetric(float64(len(moved)), "moved")
			if err != nil {
				return err
			}
			return tx.Exec("UPDATE jobs SET due_on = from_on").Error
		}))
	}
}

// fillJobs books ten jobs on each of some zones, over half a year.
func fillJobs(tx *gorm.DB, zones int) error {
	var of []store.Zone
	if err := tx.Order("id").Limit(zones).Find(&of).Error; err != nil {
		return err
	}
	kinds := []struct {
		action  string
		product int
		rate    float64
	}{{"apply-nitrogen", 0, 12}, {"apply-nitrogen", 0, 12}, {"apply-nitrogen", 0, 12}, {"herbicide-broadcast", 8, .45}, {"overseed", 12, 22}, {"core-aerate", -1, 0},
		{"apply-iron", 3, 2.7}, {"apply-wetting-agent", 10, 2}, {"soil-test", -1, 0}, {"resume-mowing", -1, 0}}
	var rows []store.Job
	for z, zone := range of {
		for k, kind := range kinds {
			from := demo.Start.AddDate(0, 0, (z*7+k*17)%150)
			amount, err := json.Marshal(casework.Dose{Rate: kind.rate, AreaM2: zone.AreaM2, Minutes: 20, Wait: float64((z+k)%5) + .5})
			if err != nil {
				return err
			}
			row := store.Job{ID: uuid.Must(uuid.NewV7()), FirmID: demo.Firm, SiteID: zone.SiteID, ZoneID: zone.ID, Action: kind.action, FromOn: from, ToOn: from.AddDate(0, 0, 35),
				DueOn: from, Step: 1, State: "booked", Amount: amount, Version: 1}
			if kind.product >= 0 {
				id := demo.Shelved(kind.product)
				row.ProductID = &id
			}
			rows = append(rows, row)
		}
	}
	return tx.CreateInBatches(rows, 500).Error
}
