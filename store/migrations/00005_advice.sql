-- +goose Up
-- What the watch tells of a preventive has a kind of its own.
ALTER TABLE watch_notices DROP CONSTRAINT watch_notices_kind_check;
ALTER TABLE watch_notices ADD CONSTRAINT watch_notices_kind_check CHECK (kind IN ('window', 'prevent', 'endurance', 'frost', 'feeding', 'silent'));
-- What has happened is recorded, outside the usual limits too: which limits, and why.
ALTER TABLE treatment_records ADD COLUMN outside text NOT NULL DEFAULT '';
ALTER TABLE treatment_records ADD COLUMN outside_reason text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE treatment_records DROP COLUMN outside_reason;
ALTER TABLE treatment_records DROP COLUMN outside;
DELETE FROM watch_notices WHERE kind = 'prevent';
ALTER TABLE watch_notices DROP CONSTRAINT watch_notices_kind_check;
ALTER TABLE watch_notices ADD CONSTRAINT watch_notices_kind_check CHECK (kind IN ('window', 'endurance', 'frost', 'feeding', 'silent'));
