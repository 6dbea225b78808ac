-- +goose Up
-- A client who wants to be forgotten. What the law wants kept with a name keeps it here until it need not; the book of applications alone
-- reads it.
ALTER TABLE firms ADD COLUMN keep_records_years integer NOT NULL DEFAULT 3 CHECK (keep_records_years BETWEEN 1 AND 30);
ALTER TABLE clients ADD COLUMN erased_on date;
ALTER TABLE sites ADD COLUMN erased_on date;
CREATE TABLE erasures (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  client_id uuid NOT NULL,
  asked_on date NOT NULL,
  person_id uuid NOT NULL,
  keep_until date,
  names jsonb NOT NULL DEFAULT '{}',
  finished_at timestamptz,
  UNIQUE (firm_id, id),
  UNIQUE (firm_id, client_id),
  CHECK (keep_until IS NOT NULL OR names = '{}'),
  CHECK (finished_at IS NULL OR names = '{}'),
  FOREIGN KEY (firm_id, client_id) REFERENCES clients (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CALL lock_firm('erasures');

-- Rows that only grow may lose words that name somebody, through the door below and no other way: nobody else may update them at all.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND current_setting('app.erasing', true) = 'yes' THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION '% only grows: a correction is a new row', TG_TABLE_NAME;
END $$;
CREATE FUNCTION erase_words(erasure uuid) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  firm uuid := nullif(current_setting('app.firm', true), '')::uuid;
  whose uuid := (SELECT e.client_id FROM erasures e WHERE e.id = erasure AND e.firm_id = firm AND e.finished_at IS NULL);
  theirs uuid[];
BEGIN
  IF whose IS NULL THEN
    RAISE EXCEPTION 'there is no such erasure under way';
  END IF;
  theirs := ARRAY(SELECT z.id FROM zones z JOIN sites s ON s.id = z.site_id WHERE s.client_id = whose AND z.firm_id = firm);
  PERFORM set_config('app.erasing', 'yes', true);
  UPDATE diagnoses SET case_file = case_file - 'title' - 'notes' WHERE firm_id = firm AND zone_id = ANY (theirs);
  UPDATE treatment_records SET note = '' WHERE firm_id = firm AND zone_id = ANY (theirs);
  UPDATE measures SET note = '' WHERE firm_id = firm AND zone_id = ANY (theirs);
  UPDATE closings SET note = '' WHERE firm_id = firm AND zone_id = ANY (theirs);
  PERFORM set_config('app.erasing', '', true);
END $$;
CREATE FUNCTION finish_erasures() RETURNS integer LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
  WITH done AS (UPDATE erasures SET names = '{}', finished_at = now()
    WHERE finished_at IS NULL AND (keep_until IS NULL OR keep_until < current_date) RETURNING 1)
  SELECT count(*)::integer FROM done $$;
-- +goose StatementEnd
REVOKE EXECUTE ON FUNCTION erase_words(uuid), finish_erasures() FROM PUBLIC;

-- +goose Down
DROP FUNCTION finish_erasures();
DROP FUNCTION erase_words(uuid);
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% only grows: a correction is a new row', TG_TABLE_NAME;
END $$;
-- +goose StatementEnd
DROP TABLE erasures;
ALTER TABLE sites DROP COLUMN erased_on;
ALTER TABLE clients DROP COLUMN erased_on;
ALTER TABLE firms DROP COLUMN keep_records_years;
