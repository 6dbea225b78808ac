-- +goose Up
-- How a count was made: the tool and what was found place by place. The value of the answer follows from it.
ALTER TABLE answers ADD COLUMN tally jsonb;

-- +goose Down
ALTER TABLE answers DROP COLUMN tally;
