-- +goose Up
-- A case that is closed: what it was after all, and whether that is mended or stays. It goes into the zone's history and into the firm's odds.
CREATE TABLE closings (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  visit_id uuid,
  diagnosis_id uuid,
  cause text NOT NULL,
  ended text NOT NULL CHECK (ended IN ('mended', 'stays')),
  cover double precision,
  note text NOT NULL DEFAULT '',
  closed_on date NOT NULL,
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, diagnosis_id) REFERENCES diagnoses (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX closings_zone ON closings (firm_id, zone_id, closed_on);
CREATE INDEX closings_day ON closings (firm_id, closed_on);
CREATE INDEX diagnoses_day ON diagnoses (firm_id, given_on);
CREATE TRIGGER closings_grow BEFORE UPDATE OR DELETE ON closings FOR EACH ROW EXECUTE FUNCTION refuse_change();
CALL lock_firm('closings');

-- +goose Down
DROP INDEX diagnoses_day;
DROP TABLE closings;
