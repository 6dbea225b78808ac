-- +goose Up
-- One word for one thing: a measure of the recovery is a measure, the cells of the zone's plan are damaged cells, a diagnosis has a result.
ALTER TABLE looks RENAME TO measures;
ALTER TABLE measures RENAME COLUMN looked_on TO measured_on;
ALTER TABLE diagnoses RENAME COLUMN answer TO result;
ALTER TABLE answers DISABLE TRIGGER USER;
ALTER TABLE answers NO FORCE ROW LEVEL SECURITY;
UPDATE answers SET finding = 'damaged-cells' WHERE finding = 'marks';
ALTER TABLE answers FORCE ROW LEVEL SECURITY;
ALTER TABLE answers ENABLE TRIGGER USER;

-- +goose Down
ALTER TABLE answers DISABLE TRIGGER USER;
ALTER TABLE answers NO FORCE ROW LEVEL SECURITY;
UPDATE answers SET finding = 'marks' WHERE finding = 'damaged-cells';
ALTER TABLE answers FORCE ROW LEVEL SECURITY;
ALTER TABLE answers ENABLE TRIGGER USER;
ALTER TABLE diagnoses RENAME COLUMN result TO answer;
ALTER TABLE measures RENAME COLUMN measured_on TO looked_on;
ALTER TABLE measures RENAME TO looks;
