-- +goose Up
-- What is known of the grass beyond its species, where it is known.
ALTER TABLE zones ADD COLUMN form text NOT NULL DEFAULT '';
ALTER TABLE zones ADD COLUMN cultivar text NOT NULL DEFAULT '';
ALTER TABLE zones ADD COLUMN sown_year integer CHECK (sown_year BETWEEN 1800 AND 2200);

-- +goose Down
ALTER TABLE zones DROP COLUMN sown_year;
ALTER TABLE zones DROP COLUMN cultivar;
ALTER TABLE zones DROP COLUMN form;
