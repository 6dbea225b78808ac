package server

import (
	"context"
	"encoding/json"
	"sort"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"gorm.io/gorm"

	"hodos/core/clearance"
	"hodos/store"
)

// LocalRule is a rule of a place as the firm has entered it.
type LocalRule struct {
	ID      uuid.UUID      `json:"id"`
	Rule    clearance.Rule `json:"rule"`
	Active  bool           `json:"active"`
	Version int            `json:"version" minimum:"0" maximum:"2147483646"`
}

func ruleOf(r store.LocalRule) (out LocalRule) {
	out = LocalRule{ID: r.ID, Active: r.Active, Version: r.Version}
	_ = json.Unmarshal(r.Rule, &out.Rule) // written by the API alone, which has checked it
	return out
}

// listRules answers GET /rules: the firm's local rules.
func (s *Server) listRules(ctx context.Context, _ *struct{}) (*body[[]LocalRule], error) {
	out := []LocalRule{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		var rows []store.LocalRule
		err := tx.Order("active DESC, id").Limit(500).Find(&rows).Error
		for _, r := range rows {
			out = append(out, ruleOf(r))
		}
		return err
	})
	return answer(out), err
}

// keepRule answers PUT /rules/{id}: enter a rule, change it or put it out of force.
func (s *Server) keepRule(ctx context.Context, in *struct {
	IDPath
	Body LocalRule
}) (*body[LocalRule], error) {
	if err := keyed(in.ID); err != nil {
		return nil, err
	}
	if wrong := in.Body.Rule.Check(); len(wrong) > 0 {
		var details []error
		for f, why := range wrong {
			details = append(details, field("body.rule."+f, why))
		}
		sort.Slice(details, func(a, b int) bool { return details[a].Error() < details[b].Error() })
		return nil, huma.Error422UnprocessableEntity("please check the fields marked below", details...)
	}
	text, err := json.Marshal(in.Body.Rule)
	if err != nil {
		return nil, s.said(err)
	}
	row := store.LocalRule{ID: in.ID, FirmID: who(ctx).Firm, Rule: text, Active: true, Version: 1}
	err = s.inFirm(ctx, func(tx *gorm.DB) error {
		if in.Body.Version == 0 {
			return store.Create(tx, &row, row.ID)
		}
		if err := store.Change(
			tx,
			&store.LocalRule{},
			in.ID,
			in.Body.Version,
			map[string]any{"rule": store.JSON(text), "active": in.Body.Active},
		); err != nil {
			return err
		}
		return tx.First(&row, "id = ?", in.ID).Error
	})
	return answer(ruleOf(row)), err
}

// Machine is a machine with what was last done to it.
type Machine struct {
	ID      uuid.UUID  `json:"id"`
	Name    string     `json:"name" minLength:"1" maxLength:"80"`
	Kind    string     `json:"kind" enum:"sprayer,spreader,corer,dethatcher,seeder,mower,other"`
	Broken  bool       `json:"broken"`
	Note    string     `json:"note" maxLength:"500" required:"false"`
	Log     []LogEntry `json:"log,omitempty" readOnly:"true" doc:"the newest first"`
	Used    *float64   `json:"used,omitempty" readOnly:"true" doc:"put down against planned, of its last ten records since it was calibrated"`
	Version int        `json:"version" minimum:"0" maximum:"2147483646"`
}

// LogEntry is one line of a machine's log.
type LogEntry struct {
	ID     uuid.UUID `json:"id"`
	Day    string    `json:"day" format:"date"`
	Kind   string    `json:"kind" enum:"calibration,blades,oil,wheels,gate,repair,other"`
	Output *float64  `json:"output,omitempty" minimum:"0.0001" maximum:"100000" doc:"of a calibration: L/100 m², or g/m² of a spreader"`
	Note   string    `json:"note" maxLength:"500" required:"false"`
}

// listMachines answers GET /machines: the firm's machines with their logs.
func (s *Server) listMachines(ctx context.Context, _ *struct{}) (*body[[]Machine], error) {
	out := []Machine{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		var rows []store.Machine
		if err := tx.Order("lower(name), id").Limit(500).Find(&rows).Error; err != nil {
			return err
		}
		var log []store.MachineLog
		if err := tx.Raw(`SELECT * FROM (SELECT l.*, row_number() OVER (PARTITION BY machine_id
			ORDER BY day DESC, recorded_at DESC) AS n FROM machine_log l) x
			WHERE n <= 10 ORDER BY day DESC, recorded_at DESC`).
			Scan(&log).
			Error; err != nil {
			return err
		}
		used, err := usedAgainstPlanned(tx)
		if err != nil {
			return err
		}
		for _, m := range rows {
			one := Machine{ID: m.ID, Name: m.Name, Kind: m.Kind, Broken: m.Broken, Note: m.Note, Version: m.Version}
			for _, l := range log {
				if l.MachineID == m.ID {
					one.Log = append(one.Log, LogEntry{l.ID, l.Day.Format(dateOnly), l.Kind, l.Output, l.Note})
				}
			}
			if x, ok := used[m.ID]; ok {
				one.Used = &x
			}
			out = append(out, one)
		}
		return nil
	})
	return answer(out), err
}

// usedAgainstPlanned is what each machine put down against what was planned, over its last ten records since it was calibrated that say
// both.
func usedAgainstPlanned(tx *gorm.DB) (map[uuid.UUID]float64, error) {
	var rows []struct {
		MachineID uuid.UUID
		Used      float64
	}
	err := tx.Raw(`SELECT machine_id, sum(amount_si) / sum(planned) AS used FROM (SELECT machine_id, amount_si,
		(details->>'planned')::float8 AS planned,
		row_number() OVER (PARTITION BY machine_id ORDER BY applied_on DESC, seq DESC) AS n FROM treatment_records r
		WHERE machine_id IS NOT NULL AND amount_si > 0 AND (details->>'planned')::float8 > 0 AND NOT voided
		AND r.applied_on > coalesce((SELECT max(day) FROM machine_log l WHERE l.machine_id = r.machine_id
			AND l.kind = 'calibration'), '-infinity')
		AND NOT EXISTS (SELECT FROM treatment_records c WHERE c.corrects_id = r.id)) x WHERE n <= 10 GROUP BY machine_id`).
		Scan(&rows).
		Error
	out := map[uuid.UUID]float64{}
	for _, r := range rows {
		out[r.MachineID] = r.Used
	}
	return out, err
}

// keepMachine answers PUT /machines/{id}: a new machine, or a change to one.
func (s *Server) keepMachine(ctx context.Context, in *struct {
	IDPath
	Body Machine
}) (*body[Machine], error) {
	if err := keyed(in.ID); err != nil {
		return nil, err
	}
	b := in.Body
	row := store.Machine{ID: in.ID, FirmID: who(ctx).Firm, Name: b.Name, Kind: b.Kind, Broken: b.Broken, Note: b.Note, Version: 1}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if b.Version == 0 {
			return store.Create(tx, &row, row.ID)
		}
		if err := store.Change(
			tx,
			&store.Machine{},
			in.ID,
			b.Version,
			map[string]any{"name": b.Name, "kind": b.Kind, "broken": b.Broken, "note": b.Note},
		); err != nil {
			return err
		}
		return tx.First(&row, "id = ?", in.ID).Error
	})
	return answer(Machine{ID: row.ID, Name: row.Name, Kind: row.Kind, Broken: row.Broken, Note: row.Note, Version: row.Version}), err
}

// logMachine answers POST /machines/{id}/log: what was done to a machine. The log only grows.
func (s *Server) logMachine(ctx context.Context, in *struct {
	IDPath
	Body LogEntry
}) (*struct{}, error) {
	if err := keyed(in.Body.ID); err != nil {
		return nil, err
	}
	day, err := dateOf("body.day", in.Body.Day)
	if err != nil {
		return nil, err
	}
	today, err := s.today(ctx)
	if err != nil {
		return nil, err
	}
	if day.After(today) {
		return nil, invalid("body.day", "is in the future")
	}
	row := store.MachineLog{
		ID:         in.Body.ID,
		FirmID:     who(ctx).Firm,
		MachineID:  in.ID,
		Day:        day,
		Kind:       in.Body.Kind,
		Output:     in.Body.Output,
		Note:       in.Body.Note,
		PersonID:   who(ctx).Person,
		RecordedAt: s.now().UTC(),
	}
	return nil, s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.First(&store.Machine{}, "id = ?", in.ID).Error; err != nil {
			return err
		}
		return store.Create(tx, &row, row.ID)
	})
}
