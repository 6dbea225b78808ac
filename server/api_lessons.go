package server

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hodos/casework"
	"hodos/core/hindsight"
	"hodos/core/knowledge"
	"hodos/store"
)

// Lessons are what the firm's own closed cases teach, and whether the scales use it.
type Lessons struct {
	Used    bool     `json:"used"`
	Cases   int      `json:"cases" doc:"closed cases of the last three years that were a cause of damage"`
	Least   int      `json:"least" doc:"closed cases from which on something is learnt"`
	Lessons []Lesson `json:"lessons" nullable:"false" doc:"the strongest first"`
	Version int      `json:"version"`
}

// Lesson is what they teach of one cause.
type Lesson struct {
	casework.Lesson
	Label string `json:"label"`
	Left  bool   `json:"left_out" doc:"the owner does not want it used"`
}

// LessonsUse is what the owner wants used.
type LessonsUse struct {
	Used    bool     `json:"used"`
	Without []string `json:"without" maxItems:"100" nullable:"false" doc:"causes whose lesson is left out"`
	Version int      `json:"version" minimum:"0" maximum:"2147483646"`
}

// getLessons answers GET /figures/lessons.
func (s *Server) getLessons(ctx context.Context, _ *struct{}) (*body[Lessons], error) {
	out := &body[Lessons]{}
	return out, s.inFirm(ctx, func(tx *gorm.DB) (err error) {
		out.Body, err = lessons(tx)
		return err
	})
}

func lessons(tx *gorm.DB) (Lessons, error) {
	row, list, without, err := casework.Lessons(tx)
	out := Lessons{Used: row.Used, Cases: row.Cases, Least: hindsight.LeastCases, Lessons: []Lesson{}, Version: row.Version}
	for _, l := range list {
		if cause, ok := knowledge.CauseByID(l.Cause); ok {
			out.Lessons = append(out.Lessons, Lesson{l, cause.Label, without[l.Cause]})
		}
	}
	return out, err
}

// useLessons answers PUT /figures/lessons: whether the scales use what the firm's cases teach, and of which causes not.
func (s *Server) useLessons(ctx context.Context, in *body[LessonsUse]) (*body[Lessons], error) {
	for _, id := range in.Body.Without {
		if _, ok := knowledge.CauseByID(id); !ok {
			return nil, invalid("body.without", "there is no cause "+id)
		}
	}
	out := &body[Lessons]{}
	err := s.inFirm(ctx, func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&store.FirmLessons{FirmID: who(ctx).Firm, Without: store.JSON("[]"),
			Lessons: store.JSON("[]")}).Error; err != nil {
			return err
		}
		slices.Sort(in.Body.Without)
		without, err := json.Marshal(slices.Compact(in.Body.Without))
		if err != nil {
			return err
		}
		done := tx.Model(&store.FirmLessons{}).Where("firm_id = ? AND version = ?", who(ctx).Firm, in.Body.Version).
			Updates(map[string]any{"used": in.Body.Used, "without": store.JSON(without), "changed_by": who(ctx).Person,
				"changed_at": time.Now().UTC(), "version": gorm.Expr("version + 1")})
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return store.ErrChanged
		}
		out.Body, err = lessons(tx)
		return err
	})
	return out, err
}
