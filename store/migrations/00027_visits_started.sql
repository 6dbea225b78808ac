-- +goose Up
-- Like lawns are those on which somebody was in the last weeks: asked on every visit.
CREATE INDEX visits_started ON visits (firm_id, started_on) WHERE started_on IS NOT NULL;

-- +goose Down
DROP INDEX visits_started;
