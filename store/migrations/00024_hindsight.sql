-- +goose Up
-- What a diagnosis looks like afterwards, worked out by night: which checks decided, what deciding by the client's word alone would have
-- cost, what the tables expected, and how the lawn was watered.
CREATE TABLE hindsights (
  diagnosis_id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  given_on date NOT NULL,
  cause text NOT NULL DEFAULT '',
  knowledge text NOT NULL,
  checks jsonb NOT NULL DEFAULT '[]',
  expected jsonb,
  told_money double precision,
  given_money double precision,
  water_given double precision,
  water_asked double precision,
  FOREIGN KEY (firm_id, diagnosis_id) REFERENCES diagnoses (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id)
);
CREATE INDEX hindsights_day ON hindsights (firm_id, given_on);
CREATE INDEX hindsights_zone ON hindsights (firm_id, zone_id);
CALL lock_firm('hindsights');

-- What the firm's own closed cases teach beside the tables, and whether and of what its owner lets them.
CREATE TABLE firm_lessons (
  firm_id uuid PRIMARY KEY REFERENCES firms,
  used boolean NOT NULL DEFAULT false,
  without jsonb NOT NULL DEFAULT '[]',
  cases integer NOT NULL DEFAULT 0,
  lessons jsonb NOT NULL DEFAULT '[]',
  made_on date,
  changed_by uuid,
  changed_at timestamptz,
  version integer NOT NULL DEFAULT 0,
  FOREIGN KEY (firm_id, changed_by) REFERENCES people (firm_id, id)
);
CALL lock_firm('firm_lessons');

-- +goose Down
DROP TABLE firm_lessons;
DROP TABLE hindsights;
