-- +goose Up
-- Between which hours somebody expects the visit, in minutes after midnight at the site; null for whenever.
ALTER TABLE visits ADD COLUMN from_minute integer, ADD COLUMN to_minute integer,
  ADD CHECK ((from_minute IS NULL) = (to_minute IS NULL)), ADD CHECK (from_minute >= 0 AND from_minute < to_minute AND to_minute <= 1440);

-- +goose Down
ALTER TABLE visits DROP COLUMN from_minute, DROP COLUMN to_minute;
