-- +goose Up
-- Lists of a large firm: pages in the order of names, what is open by its day, and the verdict on a recovery as it was judged when it was
-- measured, so that a day's page asks for what has gone off course instead of working it out.
CREATE INDEX sites_by_name ON sites (firm_id, name, id);
CREATE INDEX clients_by_name ON clients (firm_id, name, id);
CREATE INDEX visits_open ON visits (firm_id, due_on, id) WHERE closed_on IS NULL;
CREATE INDEX visits_closed ON visits (firm_id, closed_on) WHERE closed_on IS NOT NULL;
CREATE INDEX visits_zone ON visits (firm_id, zone_id) WHERE zone_id IS NOT NULL;
CREATE INDEX diagnoses_visit ON diagnoses (firm_id, visit_id);
CREATE INDEX treatment_records_visit ON treatment_records (firm_id, visit_id);

CREATE TABLE zone_courses (
  zone_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  verdict text NOT NULL CHECK (verdict IN ('not-yet', 'on-course', 'slow', 'off-course', 'recovered')),
  reason text NOT NULL,
  judged_on date NOT NULL,
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id)
);
CREATE INDEX zone_courses_straying ON zone_courses (firm_id, judged_on) WHERE verdict IN ('slow', 'off-course');
CALL lock_firm('zone_courses');

-- +goose Down
DROP TABLE zone_courses;
DROP INDEX treatment_records_visit, diagnoses_visit, visits_zone, visits_closed, visits_open, clients_by_name, sites_by_name;
