-- +goose Up
-- When the crew works: hours besides driving of one person and day, and the days of the week, Monday the lowest of seven bits.
ALTER TABLE firms ADD COLUMN work_hours double precision NOT NULL DEFAULT 6 CHECK (work_hours >= 1 AND work_hours <= 14);
ALTER TABLE firms ADD COLUMN work_days smallint NOT NULL DEFAULT 63 CHECK (work_days >= 1 AND work_days <= 127);

-- +goose Down
ALTER TABLE firms DROP COLUMN work_days;
ALTER TABLE firms DROP COLUMN work_hours;
