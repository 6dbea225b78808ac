-- +goose Up
-- A corrected reading corrects: it is a new row, and the newest of a zone, day, hour and finding is the one that stands.
DROP INDEX readings_once;
ALTER TABLE readings ADD COLUMN seq bigint GENERATED ALWAYS AS IDENTITY;
CREATE INDEX readings_standing ON readings (zone_id, day, finding, coalesce(hour, -1), seq DESC);
CREATE VIEW standing_readings WITH (security_invoker = true) AS
  SELECT DISTINCT ON (zone_id, day, finding, coalesce(hour, -1)) * FROM readings
  ORDER BY zone_id, day, finding, coalesce(hour, -1), seq DESC;

-- +goose Down
DROP VIEW standing_readings;
DROP INDEX readings_standing;
ALTER TABLE readings DROP COLUMN seq;
CREATE UNIQUE INDEX readings_once ON readings (zone_id, day, finding, coalesce(hour, -1));
