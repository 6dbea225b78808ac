package casework

import (
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/trial"
	"hodos/store"
)

// Trial is a trial with its plots and what was read on them.
type Trial struct {
	Trial              store.Trial
	SiteName, ZoneName string
	Timezone           string
	Plots              []store.TrialPlot
	Readings           map[uuid.UUID][]store.TrialReading // by plot and day, the later of two readings of a kind on one day
}

// ReadTrial reads it.
func ReadTrial(tx *gorm.DB, id uuid.UUID) (t Trial, err error) {
	t.Readings = map[uuid.UUID][]store.TrialReading{}
	if err := tx.First(&t.Trial, "id = ?", id).Error; err != nil {
		return t, err
	}
	if err := tx.Raw(`SELECT s.name, z.name, s.timezone FROM zones z JOIN sites s ON s.id = z.site_id WHERE z.id = ?`,
		t.Trial.ZoneID).Row().Scan(&t.SiteName, &t.ZoneName, &t.Timezone); err != nil {
		return t, err
	}
	if err := tx.Where("trial_id = ?", id).Order("place").Find(&t.Plots).Error; err != nil {
		return t, err
	}
	keys := make([]uuid.UUID, len(t.Plots))
	for i, p := range t.Plots {
		keys[i] = p.ID
	}
	var rows []store.TrialReading
	if err := tx.Raw(`SELECT DISTINCT ON (plot_id, read_on, kind) * FROM trial_readings WHERE plot_id IN ?
		ORDER BY plot_id, read_on, kind, seq DESC`, keys).Scan(&rows).Error; err != nil {
		return t, err
	}
	for _, r := range rows {
		t.Readings[r.PlotID] = append(t.Readings[r.PlotID], r)
	}
	return t, nil
}

// Core is the trial in the terms of the core; of the uptake the last reading counts.
func (t Trial) Core() []trial.Plot {
	out := make([]trial.Plot, 0, len(t.Plots))
	for _, p := range t.Plots {
		x := trial.Plot{Name: p.Name, Treatment: p.Treatment, Dose: p.Dose, Void: p.Void != ""}
		for _, r := range t.Readings[p.ID] {
			if r.Kind == "uptake" {
				value := r.Value
				x.Uptake = &value
				continue
			}
			x.Readings = append(x.Readings, trial.Reading{Day: r.ReadOn.Sub(t.Trial.BeganOn).Hours() / 24, Percent: r.Value})
		}
		out = append(out, x)
	}
	return out
}
