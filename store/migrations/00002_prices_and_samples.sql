-- +goose Up
-- The few figures that a firm knows, from which the marks for checking and acting are derived. Money is in the firm's
-- currency; material is for 100 m². A firm without a row has the program's own figures.
CREATE TABLE firm_prices (
  firm_id uuid PRIMARY KEY REFERENCES firms,
  lawn_m2 double precision NOT NULL CHECK (lawn_m2 > 0),
  hour double precision NOT NULL CHECK (hour > 0),
  fungicide double precision NOT NULL CHECK (fungicide >= 0),
  insecticide double precision NOT NULL CHECK (insecticide >= 0),
  herbicide double precision NOT NULL CHECK (herbicide >= 0),
  feed double precision NOT NULL CHECK (feed >= 0),
  amendment double precision NOT NULL CHECK (amendment >= 0),
  seed double precision NOT NULL CHECK (seed >= 0),
  water_m3 double precision NOT NULL CHECK (water_m3 >= 0),
  lab double precision NOT NULL CHECK (lab >= 0),
  version integer NOT NULL DEFAULT 1
);

-- Samples for the laboratory. The result is written once and stays.
CREATE TABLE samples (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  number integer NOT NULL CHECK (number > 0),
  visit_id uuid NOT NULL,
  zone_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('soil', 'disease', 'nematode', 'tissue')),
  taken_on date NOT NULL,
  expected_on date NOT NULL CHECK (expected_on >= taken_on),
  cores integer NOT NULL CHECK (cores BETWEEN 1 AND 60),
  depth_mm double precision NOT NULL CHECK (depth_mm BETWEEN 0 AND 600),
  note text NOT NULL DEFAULT '',
  person_id uuid NOT NULL,
  recorded_at timestamptz NOT NULL,
  returned_on date CHECK (returned_on >= taken_on),
  origin text NOT NULL DEFAULT '' CHECK (origin IN ('', 'simulated', 'csv', 'json')),
  laboratory text NOT NULL DEFAULT '',
  result jsonb,
  UNIQUE (firm_id, id),
  UNIQUE (firm_id, number),
  CHECK ((result IS NULL) = (returned_on IS NULL)),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, zone_id) REFERENCES zones (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX samples_zone ON samples (firm_id, zone_id, taken_on);

-- +goose StatementBegin
CREATE FUNCTION keep_result() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'DELETE' OR OLD.result IS NOT NULL OR NEW.kind <> OLD.kind OR NEW.zone_id <> OLD.zone_id OR NEW.taken_on <> OLD.taken_on THEN
    RAISE EXCEPTION 'a sample stays as it was taken, and its result as it came';
  END IF;
  RETURN NEW;
END $$;
-- +goose StatementEnd
CREATE TRIGGER samples_keep BEFORE UPDATE OR DELETE ON samples FOR EACH ROW EXECUTE FUNCTION keep_result();

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
  FOREACH t IN ARRAY ARRAY['firm_prices','samples'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_firm ON %I USING (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid) WITH CHECK (firm_id = nullif(current_setting(''app.firm'', true), '''')::uuid)', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TABLE samples, firm_prices;
DROP FUNCTION keep_result();
