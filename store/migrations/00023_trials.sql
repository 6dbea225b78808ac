-- +goose Up
-- Plots or strips of a zone, treated and untreated, read on several days.
CREATE TABLE trials (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  zone_id uuid NOT NULL,
  name text NOT NULL,
  question text NOT NULL DEFAULT '',
  dose_unit text NOT NULL DEFAULT '',
  began_on date NOT NULL,
  closed_on date,
  version integer NOT NULL DEFAULT 1,
  person_id uuid NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX trials_zone ON trials (firm_id, zone_id);
CREATE TABLE trial_plots (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  trial_id uuid NOT NULL,
  place integer NOT NULL,
  name text NOT NULL,
  treatment text NOT NULL DEFAULT '',
  dose double precision NOT NULL DEFAULT 0 CHECK (dose >= 0),
  void text NOT NULL DEFAULT '',
  UNIQUE (firm_id, id),
  UNIQUE (firm_id, trial_id, place),
  CHECK (treatment <> '' OR dose = 0),
  FOREIGN KEY (firm_id, trial_id) REFERENCES trials (firm_id, id)
);
CREATE TABLE trial_readings (
  id uuid PRIMARY KEY,
  seq bigint GENERATED ALWAYS AS IDENTITY UNIQUE,
  firm_id uuid NOT NULL REFERENCES firms,
  plot_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('affected', 'uptake')),
  read_on date NOT NULL,
  value double precision NOT NULL CHECK (value >= 0 AND value <= 100),
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  UNIQUE (firm_id, id),
  FOREIGN KEY (firm_id, plot_id) REFERENCES trial_plots (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX trial_readings_plot ON trial_readings (firm_id, plot_id, read_on);
CREATE TRIGGER trial_readings_grow BEFORE UPDATE OR DELETE ON trial_readings FOR EACH ROW EXECUTE FUNCTION refuse_change();
CALL lock_firm('trials');
CALL lock_firm('trial_plots');
CALL lock_firm('trial_readings');

-- +goose Down
DROP TABLE trial_readings;
DROP TABLE trial_plots;
DROP TABLE trials;
