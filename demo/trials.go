package demo

import (
	"time"

	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/store"
)

// trialOf is the demo's trial: silicon against dollar spot on the play lawn, two doses, three plots of each.
var trialOf = struct {
	property uint32
	zone     int
	began    time.Time
	days     []int
	doses    []float64
	percent  [][]float64 // by plot, in the order of the layout, by day
	uptake   []float64   // per cent of dry matter on the last day
	void     map[int]string
}{
	property: 3, zone: 0, began: date(2026, 6, 20), days: []int{0, 10, 20, 30, 40, 54},
	doses: []float64{0, 2.5, 5, 2.5, 5, 0, 5, 0, 2.5},
	percent: [][]float64{{6, 10, 16, 24, 30, 34}, {6, 8, 12, 16, 20, 22}, {5, 7, 9, 11, 13, 15}, {7, 9, 13, 18, 21, 24}, {6, 7, 9, 12, 14, 16},
		{5, 9, 15, 21, 27, 31}, {6, 8, 10, 12, 15, 17}, {7, 12, 18, 26, 33, 38}, {6, 8, 11, 30, 38, 40}},
	uptake: []float64{.9, 1.3, 1.7, 1.4, 1.8, 1.0, 1.6, .9, 1.3},
	void:   map[int]string{8: "Sprinkler stood on it from 15 July on"},
}

// loadTrial lays it out and reads it.
func (p property) loadTrial(tx *gorm.DB, zones []store.Zone) error {
	t := trialOf
	if p.n != t.property {
		return nil
	}
	row := store.Trial{ID: p.key(95), FirmID: Firm, ZoneID: zones[t.zone].ID, Name: "Silicon against dollar spot",
		Question: "Does silicon on the leaf keep dollar spot down on this lawn, and does twice the dose do more?", DoseUnit: "g/m²",
		BeganOn: t.began, Version: 1, PersonID: People["technician"]}
	if err := tx.Create(&row).Error; err != nil {
		return err
	}
	sub := func(n int) uuid.UUID { return key(3_000_000 + p.n*10_000 + uint32(n)) }
	for i, dose := range t.doses {
		plot := store.TrialPlot{ID: sub(i), FirmID: Firm, TrialID: row.ID, Place: i, Name: string(rune('1' + i)), Dose: dose, Void: t.void[i]}
		if dose > 0 {
			plot.Treatment = "Silicon"
		}
		if err := tx.Create(&plot).Error; err != nil {
			return err
		}
		read := func(n int, kind string, day int, value float64) error {
			on := t.began.AddDate(0, 0, day)
			return tx.Create(&store.TrialReading{ID: sub(100 + i*20 + n), FirmID: Firm, PlotID: plot.ID, Kind: kind, ReadOn: on, Value: value,
				PersonID: People["technician"], RecordedAt: on.Add(15 * time.Hour)}).Error
		}
		for k, day := range t.days {
			if err := read(k, "affected", day, t.percent[i][k]); err != nil {
				return err
			}
		}
		if err := read(19, "uptake", t.days[len(t.days)-1], t.uptake[i]); err != nil {
			return err
		}
	}
	return nil
}
